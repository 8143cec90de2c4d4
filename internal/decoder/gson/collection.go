package gson

import (
	"fmt"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// element is the adapter of JsonElement, which takes everything, or of one of its
// subclasses; null is an element too, and none of these.
func element(want wire.Kind) *decoder.Node {
	names := map[wire.Kind]string{wire.Null: "JsonNull", wire.Bool: "JsonPrimitive", wire.Number: "JsonPrimitive", wire.String: "JsonPrimitive", wire.Array: "JsonArray", wire.Object: "JsonObject"}
	return &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
		if got := names[v.Kind]; want != 0 && got != names[want] {
			return decoder.Verdict{Err: syntax(decoder.ReasonKind, fmt.Sprintf("Expected a com.google.gson.%s but was com.google.gson.%s", names[want], got))}
		}
		return decoder.Verdict{Seen: jvm.Any(v, func(raw string) decoder.Seen { return decoder.Seen{Kind: decoder.SeenDecimal, Text: raw} })}
	}}
}

// list is the node for arrays and collections. A null cannot be put into an array of
// primitives.
func (c *compiler) list(t *model.Type) *decoder.Node {
	elem := t.Args[0]
	if t.Class == "Iterable" || t.Class == "MutableIterable" {
		return noInstance(noInterface, "java.lang.Iterable")
	}
	n := &decoder.Node{Op: decoder.OpList, Unique: t.Kind == model.Unique, Equal: jvm.Same(elem), Wrong: wrong("BEGIN_ARRAY")}
	if n.Unique && jvm.MayThrow(elem) {
		n.Put = func(s decoder.Seen) (*decoder.Error, bool) { return jvm.Hash(elem, s) }
	}
	primitive := t.Name == "[]" && jvm.IsPrimitive(elem, false) || t.Name != "" && t.Name != "[]" && t.Name != "Array"
	if !primitive {
		n.Inner = c.element(elem, kotlinType(t))
		switch {
		case t.Class == "EnumSet":
			n.Inner = refusing(n.Inner, noClassOf("e"))
		case refusesNull[t.Class]:
			n.Inner = refusing(n.Inner, nullPointer)
		}
		return n
	}
	if c.adapted(elem) {
		return unknown("a TypeAdapter of its own reads " + jvm.TypeText(elem))
	}
	read := c.scalar(elem)
	n.Bytes = jvm.Scalar(elem) == "byte"
	n.NullsLast = true // the array is made of a list of what was read (ArrayTypeAdapter)
	n.Inner = &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Type: jvm.TypeText(elem), Read: func(v *wire.Value) decoder.Verdict {
		if v.Kind == wire.Null {
			return decoder.Verdict{Err: &decoder.Error{Kind: "IllegalArgumentException", Reason: decoder.ReasonNull, Message: "IllegalArgumentException: null"}}
		}
		return read(v)
	}}
	return n
}

// refusesNull are the collections that null may not be put into: sorted ones compare it,
// and queues are made as ArrayDeque (ConstructorConstructor, Gson 2.10).
var refusesNull = map[string]bool{
	"TreeSet": true, "SortedSet": true, "NavigableSet": true, "Queue": true, "Deque": true, "ArrayDeque": true, "PriorityQueue": true,
	"Hashtable": true, "ConcurrentHashMap": true, "ConcurrentMap": true,
}

// noClassOf is what the collections of constants throw where null is put into them.
func noClassOf(name string) *decoder.Error {
	return &decoder.Error{Kind: "NullPointerException", Reason: decoder.ReasonNull, Message: "NullPointerException: Cannot invoke \"Object.getClass()\" because \"" + name + "\" is null"}
}

// refusing is the node for an element of a collection that null may not be put into, also
// where it is a text that no constant has.
func refusing(n *decoder.Node, by *decoder.Error) *decoder.Node {
	inner := n
	for inner.Op == decoder.OpNil && inner.Inner != nil {
		inner = inner.Inner
	}
	if read := inner.Read; inner.Op == decoder.OpLeaf && inner.Model != nil {
		leaf := *inner
		leaf.Read = func(v *wire.Value) decoder.Verdict {
			verdict := read(v)
			if verdict.Err == nil && verdict.Seen.Kind == decoder.SeenNull && v.Kind != wire.Null {
				err := *by
				err.Reason = decoder.ReasonConstant
				return decoder.Verdict{Err: &err}
			}
			return verdict
		}
		n = &leaf
	}
	return &decoder.Node{Op: decoder.OpNil, Inner: n, Type: n.Type, NullError: by}
}

var nullPointer = &decoder.Error{Kind: "NullPointerException", Reason: decoder.ReasonNull, Message: "NullPointerException: null"}

// dictionary is MapTypeAdapterFactory: an object, or an array of pairs.
func (c *compiler) dictionary(t *model.Type) *decoder.Node {
	key, elem := t.Args[0].Unwrapped(), c.element(t.Args[1], kotlinType(t))
	if refusesNull[t.Class] {
		elem = refusing(elem, nullPointer)
	}
	twice := func(name string) *decoder.Error { return syntax(decoder.ReasonTwice, "duplicate key: "+name) }
	n := &decoder.Node{Op: decoder.OpMap, Wrong: wrong("BEGIN_OBJECT"), Inner: elem, Twice: twice}
	n.Second = &decoder.Node{Op: decoder.OpEntries, Inner: c.value(key, false), Second: elem, Wrong: wrong("BEGIN_ARRAY"), Twice: twice,
		Missing: syntax(decoder.ReasonKind, "java.lang.IllegalStateException: "+c.wants(t.Args[0])+"END_ARRAY"),
		Error:   syntax(decoder.ReasonKind, "java.lang.IllegalStateException: "+c.wants(t.Args[1])+"END_ARRAY")}
	read := c.scalar(key)
	switch {
	case key.Model != nil && key.Model.Kind == model.Enum && !ownText(key.Model):
		read = constant(key.Model)
	case key.Kind == model.Named && (key.Name == "Object" || key.Name == "Any"):
		read = text
	}
	if read == nil {
		return unknown("its keys are made by code that is not followed")
	}
	n.Key = func(name string) (decoder.Seen, *decoder.Error) {
		verdict := read(jvm.StringValue(name))
		if verdict.Err != nil {
			err := *verdict.Err
			err.Reason = decoder.ReasonKey
			return decoder.Seen{}, &err
		}
		if verdict.Seen.Kind == decoder.SeenNull {
			if t.Class == "EnumMap" {
				return decoder.Seen{}, noClassOf("key")
			}
			verdict.Seen.Text = "null"
		}
		return verdict.Seen, nil
	}
	return n
}
