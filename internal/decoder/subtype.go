package decoder

import (
	"slices"

	"vetta/internal/wire"
)

// subtype reads an object as the class that its member names.
func (r *run) subtype(n *Node, v *wire.Value) (Seen, *failure) {
	if branch := n.Listed(v); branch != nil {
		return r.listed(n, branch, v)
	}
	if v.Kind != wire.Object {
		return Seen{}, r.fail(n.wrong(r.read(v)))
	}
	var m *wire.Member
	for i := range v.Members { // the first that is a scalar
		name := v.Members[i].Name
		if n.Match != nil {
			name = n.Match(name)
		}
		if k := v.Members[i].Value.Kind; m == nil && name == n.Name && (k != wire.Null || n.NullTells) && k <= wire.String {
			m = &v.Members[i]
		}
	}
	for i := 0; n.Aside && i < len(v.Members) && &v.Members[i] != m; i++ {
		r.keep(v.Members[i].Value)
	}
	if m == nil {
		if n.Second != nil {
			return r.node(n.Second, v)
		}
		return Seen{}, r.fail(n.Missing)
	}
	if n.Leads != nil && m != &v.Members[0] {
		return Seen{}, r.fail(n.Leads)
	}
	if n.Twice != nil && slices.ContainsFunc(v.Members, func(o wire.Member) bool { return o.Name == m.Name && o.Value != m.Value }) {
		return Seen{}, r.fail(n.Twice(m.Name))
	}
	r.ask(m)
	id := string(m.Value.Raw)
	if m.Value.Kind == wire.String {
		id, _ = m.Value.Text()
	}
	for _, b := range n.Branches {
		if b.Key == id && (!n.MindsKind || b.Number == (m.Value.Kind == wire.Number)) {
			return r.node(b.Node, v)
		}
	}
	if n.Third != nil {
		return r.node(n.Third, v)
	}
	_, err := n.Key(id)
	return Seen{}, r.fail(err)
}

// keep notes that a value is kept aside until the class is known.
func (r *run) keep(v *wire.Value) {
	if r.early == nil {
		r.early = map[*wire.Value]bool{}
	}
	r.early[v] = true
}

// Listed is the branch that an OpSubtype reads the second element of a list through, where
// the first one tells the class; nil where it tells none.
func (n *Node) Listed(v *wire.Value) *Node {
	if n.Second != nil || v.Kind != wire.Array || len(v.Elems) == 0 || v.Elems[0].Kind != wire.String {
		return nil
	}
	id, _ := v.Elems[0].Text()
	for _, b := range n.Branches {
		if b.Key == id {
			return b.Node
		}
	}
	return nil
}

func (r *run) listed(n, branch *Node, v *wire.Value) (Seen, *failure) {
	if len(v.Elems) == 1 {
		return Seen{}, nil
	}
	s, err := r.enter(wire.Step{Index: 1}, branch, v.Elems[1])
	switch {
	case err != nil:
		return s, err
	case len(v.Elems) > 2:
		return s, r.fail(n.wrong(r.read(v)))
	case n.Opaque:
		return Seen{Kind: SeenUnknown}, nil
	}
	return s, nil
}
