package newtonsoft

import (
	"regexp"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// readByType are the value types that the reader is asked for by type (ReadAsInt32 and the like), which give null for an
// empty text; of others the text comes as it is. Newtonsoft.Json 13, measured.
var readByType = map[string]bool{"byte": true, "short": true, "int": true, "decimal": true, "bool": true, "float": true, "double": true, "DateTime": true, "DateTimeOffset": true}

// keepsEmpty lets an empty text be nothing, for a member that nothing leaves as it is.
func keepsEmpty(n *decoder.Node, initial decoder.Seen) *decoder.Node {
	if n.Op != decoder.OpNil || n.Inner.Op != decoder.OpLeaf {
		return n
	}
	own, leaf := *n, *n.Inner
	read := leaf.Read
	leaf.Read = func(v *wire.Value) decoder.Verdict {
		if isEmpty(v) {
			return decoder.Verdict{Seen: initial}
		}
		return read(v)
	}
	own.Inner = &leaf
	return &own
}

// unset are the steps for a member without a setter: a list, a map or an object that it holds is filled, anything else
// is read and dropped.
func (c *compiler) unset(x *member, n *decoder.Node, step decoder.Step, initial decoder.Seen, inner site, replace, stored bool) []decoder.Step {
	u := x.typ.Unwrapped()
	collection := (u.Kind == model.List || u.Kind == model.Unique || u.Kind == model.Map) && !strings.HasPrefix(u.Name, "[")
	object := u.Model != nil && u.Model.Kind != model.Enum && !clr.IsValue(u)
	if (collection || object) && !replace && stored && initial.Kind != decoder.SeenNull {
		n.Inner = c.populated(x, c.value(x.typ, inner), initial, inner)
		if n.Inner.Op == decoder.OpNil { // a scalar is skipped
			filled := *n.Inner
			skips := &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(*wire.Value) decoder.Verdict { return decoder.Verdict{Seen: initial} }}
			filled.Inner = skipping(filled.Inner, skips)
			n.Inner = &filled
		}
		n.KeepNull = true
		step.Node = n
		return []decoder.Step{step}
	}
	why := "it has no setter"
	if p := x.field.Property; p != nil && p.Set != 0 {
		why = "its setter is " + p.Set.String() + ", and it is not marked [JsonProperty]"
	}
	out := []decoder.Step{{Property: step.Property, Node: &decoder.Node{Op: decoder.OpConst, Name: x.key, Field: x.field, Value: initial, Why: why}}}
	if collection || strings.HasPrefix(u.Name, "[") || u.Kind == model.Map {
		return out // skipped, whatever it is
	}
	n.Inner, n.Field, n.Value = c.value(x.typ, inner), nil, decoder.Seen{}
	n.Inner = nullPasses(n.Inner)
	if readByType[u.Name] {
		n.Inner = keepsEmpty(n.Inner, decoder.Seen{})
	}
	return append(out, decoder.Step{Property: -1, Node: n})
}

// skipping is a node for a collection that is filled, and left as it is by a scalar.
func skipping(n, skips *decoder.Node) *decoder.Node {
	own := *n
	switch n.Op {
	case decoder.OpMade:
		own.Inner = skipping(n.Inner, &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(*wire.Value) decoder.Verdict {
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenLeftOut}}
		}})
		make := n.Make
		initial := skips.Read(&wire.Value{}).Seen
		own.Make = func(s decoder.Seen) (decoder.Seen, *decoder.Error) {
			if s.Kind == decoder.SeenLeftOut {
				return initial, nil
			}
			return make(s)
		}
	case decoder.OpList, decoder.OpMap, decoder.OpKeyed:
		own.Second, own.Scalars = skips, true
	}
	return &own
}

// nullPasses is a node of what is dropped: null is no error.
func nullPasses(n *decoder.Node) *decoder.Node {
	if n.Op != decoder.OpNil {
		return n
	}
	own := *n
	own.NullError = nil
	return &own
}

// growing is an expression that makes a list, a set or a map that can be added to.
var growing = regexp.MustCompile(`^new\s+(?:global::)?(?:\w+\s*\.\s*)*(List|HashSet|SortedSet|Dictionary|SortedDictionary|Collection|ObservableCollection)\s*<`)

// populated reads into what a member holds already: elements and entries are added, an object's members are set.
func (c *compiler) populated(x *member, n *decoder.Node, initial decoder.Seen, s site) *decoder.Node {
	t := x.typ
	u := t.Unwrapped()
	fixed := clr.IsFixed(u)
	if fixed && x.field.Default != nil && initial.Kind != decoder.SeenUnknown && growing.MatchString(x.field.Default.Source) {
		fixed = false // the library asks the class of what is there, not the declared type
	}
	switch {
	case n.Op != decoder.OpNil:
		return n
	case initial.Kind == decoder.SeenUnknown:
		if (u.Kind == model.List || u.Kind == model.Unique || u.Kind == model.Map) && !fixed {
			return unknown("what it holds before it is read is not followed")
		}
		return n
	case fixed:
		return n
	case (initial.Kind == decoder.SeenList || initial.Kind == decoder.SeenSet || initial.Kind == decoder.SeenMap) && len(initial.Elems) > 0:
		out := *n
		out.Inner = decoder.Made(n.Inner, func(s decoder.Seen) (decoder.Seen, *decoder.Error) { return clr.Added(initial, s), nil })
		return &out
	case initial.Kind == decoder.SeenObject && u.Model != nil && u.Model.Kind != model.Struct:
		s.from = &initial
		return c.value(t, s)
	}
	return n
}
