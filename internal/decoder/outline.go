package decoder

import (
	"vetta/internal/markup"
	"vetta/internal/model"
)

// Outline is what a library's rules say of how a class is read, as far as its own fields go.
type Outline struct {
	Unclaimed string         // why nothing is claimed of it, "" where something is
	Fields    []FieldReading // of those that the library's rules say something of
}

// FieldReading is which keys a field is read from, and how, or why it is not.
type FieldReading struct {
	Field *model.Field
	Keys  []string
	How   model.Reading
	Why   string
}

// Of answers what is said of a field; nil where that is nothing.
func (o Outline) Of(f *model.Field) *FieldReading {
	for i := range o.Fields {
		if o.Fields[i].Field == f {
			return &o.Fields[i]
		}
	}
	return nil
}

// OutlineOf is the outline of the class that a plan decodes.
func OutlineOf(p *Plan, m *model.Model) Outline {
	out := Outline{Unclaimed: p.Unclaimed()}
	seen := map[*Node]bool{}
	var walk func(n *Node)
	walk = func(n *Node) {
		if n == nil || seen[n] || n.Op == OpBuild && n.Model != m && !extends(m, n.Model) {
			return
		}
		seen[n] = true
		if n.Field != nil {
			out.read(n)
		}
		for _, inner := range []*Node{n.Inner, n.Second, n.Third} {
			walk(inner)
		}
		for _, s := range n.Steps {
			walk(s.Node)
		}
		for _, b := range n.Branches {
			walk(b.Node)
		}
	}
	walk(p.Root)
	return out
}

// read notes what a node reads into its field; of several nodes the last one counts.
func (o *Outline) read(n *Node) {
	r := FieldReading{Field: n.Field, How: n.Field.Reading}
	switch {
	case n.Name == markup.OrderKey:
		return
	case n.Op == OpAt:
		r.Keys = append([]string{n.Name}, n.Others...)
		if r.Why = unfollowed(n.Inner); r.Why != "" {
			r.How = model.Unfollowed
		}
	case n.Op == OpUnknown:
		r.How, r.Why = model.Unfollowed, n.Why
	case n.Op == OpConst && n.Why != "":
		r.How, r.Why = model.Never, n.Why
	default:
		return
	}
	if known := o.Of(n.Field); known != nil && n.Op == OpAt && markup.IsElement(n.Name) {
		known.Keys = append(known.Keys, r.Keys...) // any of them tells the class
	} else if known != nil {
		*known = r
	} else {
		o.Fields = append(o.Fields, r)
	}
}

// unfollowed is why a value is read in a way that is not followed, "" where it is.
func unfollowed(n *Node) string {
	for n != nil && n.Op == OpNil {
		n = n.Inner
	}
	if n == nil || n.Op != OpUnknown {
		return ""
	}
	return n.Why
}

// extends says whether a model is another or extends it.
func extends(m, other *model.Model) bool {
	for depth := 0; m != nil && depth < 16; depth++ { // classes may extend each other in a circle
		if m == other {
			return true
		}
		if m.Super == nil {
			return false
		}
		m = m.Super.Model
	}
	return false
}
