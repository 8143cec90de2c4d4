package jackson

import (
	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// optional is a class of the platform that Jackson does not know without its module.
func (c *compiler) optional(t *model.Type) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpLeaf, MindsText: true}
	n.Read = func(v *wire.Value) decoder.Verdict {
		switch v.Kind {
		case wire.Array:
			return decoder.Verdict{Err: mismatched(full(t), v)}
		case wire.Object:
			return decoder.Verdict{Err: fault("InvalidDefinitionException", decoder.ReasonType, "Cannot construct instance of `%s` (no Creators, like default constructor, exist): cannot deserialize from Object value (no delegate- or property-based Creator)", raw(t))}
		case wire.String:
			if s, _ := v.Text(); jvm.Trim(s) == "" {
				return decoder.Verdict{Err: emptyString("`" + full(t) + "`")}
			}
		}
		return decoder.Verdict{Err: noArgument("InvalidDefinitionException", raw(t), false, v)}
	}
	return n
}

func blank(v *wire.Value) bool {
	if v.Kind != wire.String {
		return false
	}
	s, _ := v.Text()
	return jvm.Trim(s) == ""
}

// list is the node for arrays and collections.
func (c *compiler) list(t *model.Type, as format) *decoder.Node {
	elem := t.Args[0]
	if t.Name == "[]" && elem.Name == "byte" && elem.Kind == model.Named {
		return c.bytes(t)
	}
	if t.Class == "EnumSet" && c.on("READ_UNKNOWN_ENUM_VALUES_AS_NULL") {
		return unknown("an EnumSet leaves out unknown constants, which is not followed")
	}
	n := &decoder.Node{Op: decoder.OpList, Unique: t.Kind == model.Unique, Inner: c.value(elem, as), SkipNull: t.Class == "EnumSet"}
	n.Single, n.Equal = as.single || c.on("ACCEPT_SINGLE_VALUE_AS_ARRAY"), jvm.Same(elem)
	if elem.Name == "String" && elem.Kind == model.Named { // the collection complains for its elements
		s := &scalar{c: c, typ: full(t)}
		n.Inner = &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Type: "String", Read: func(v *wire.Value) decoder.Verdict {
			if v.Kind == wire.Object && t.Name == "" {
				return decoder.Verdict{Err: mismatched(raw(t)+"<java.lang.Object>", v)}
			}
			return s.string(v)
		}}
	}
	if c.on("ACCEPT_EMPTY_STRING_AS_NULL_OBJECT") && t.Class != "EnumSet" {
		n.Second = emptyAsNull(n)
	}
	if t.Name == "[]" && n.Single && n.Second == nil && jvm.IsPrimitive(elem, false) { // it does not take a text alone
		n.Second = &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
			return decoder.Verdict{Err: n.WrongValue(v)}
		}}
	}
	if t.Name == "[]" && jvm.IsPrimitive(elem, false) {
		n.Inner = c.elements(n.Inner, elem.Name)
	}
	if t.Name == "[]" && elem.Name == "char" {
		characters(n)
	}
	if t.Name == "[]" && elem.Name == "Byte" {
		n.Second = boxedBytes()
	}
	return wrongAs(n, func(v *wire.Value) *decoder.Error {
		switch {
		case t.Name == "[]" && v.Kind == wire.String && blank(v):
			name := full(t)
			if jvm.IsPrimitive(elem, false) || elem.Kind == model.Named && elem.Name == "String" {
				name = raw(t) // they have deserializers of their own
			}
			return fault("InvalidFormatException", decoder.ReasonKind, "Cannot coerce empty String (\"\") to element of `%s` (but could if coercion was enabled using `CoercionConfig`)", name)
		case t.Name == "[]" && v.Kind == wire.String:
			return noText(t, v)
		case t.Name == "" && elem.Unwrapped().Name == "String" && v.Kind == wire.String && blank(v):
			return fault("InvalidFormatException", decoder.ReasonKind, "Cannot coerce empty String (\"\") to element of `%s` (but could if coercion was enabled using `CoercionConfig`)", full(t))
		case t.Name == "" && elem.Unwrapped().Name == "String" && v.Kind == wire.String:
			return noArgument("MismatchedInputException", raw(t), true, v)
		}
		return mismatched(full(t), v)
	})
}

// noText is the error for a string where a class is made by no creator at all.
func noText(t *model.Type, v *wire.Value) *decoder.Error {
	s, _ := v.Text()
	return fault("InvalidDefinitionException", decoder.ReasonKind, "Cannot construct instance of `%s`: no String-argument constructor/factory method to deserialize from String value ('%s')", raw(t), s)
}

// dictionary is MapDeserializer. Of equal keys the last counts.
func (c *compiler) dictionary(t *model.Type, as format) *decoder.Node {
	if t.Class == "EnumMap" && c.on("READ_UNKNOWN_ENUM_VALUES_AS_NULL") {
		return unknown("an EnumMap leaves out unknown constants, which is not followed")
	}
	key := t.Args[0].Unwrapped()
	n := &decoder.Node{Op: decoder.OpMap, Every: true, Inner: c.value(t.Args[1], as)}
	wrongAs(n, func(v *wire.Value) *decoder.Error {
		switch {
		case blank(v):
			return fault("InvalidFormatException", decoder.ReasonKind, "Cannot coerce empty String (\"\") to element of `%s` (but could if coercion was enabled using `CoercionConfig`)", full(t))
		case v.Kind == wire.String && t.Class == "EnumMap":
			return noText(t, v)
		case v.Kind == wire.String:
			return noArgument("MismatchedInputException", raw(t), true, v)
		}
		return mismatched(full(t), v)
	})
	if c.on("ACCEPT_EMPTY_STRING_AS_NULL_OBJECT") {
		n.Second = emptyAsNull(n)
	}
	if as.ignored+as.only != "" && t.Class != "EnumMap" { // MapDeserializer.createContextual
		about := introspection{ignored: map[string]bool{}}
		about.ignore(as)
		n.Ignored = about.hides
	}
	var why string
	if n.Key, why = c.keys(key); why != "" {
		return unknown(why)
	}
	return n
}
