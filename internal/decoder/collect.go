package decoder

import (
	"slices"
	"strconv"

	"vetta/internal/wire"
)

// list decodes the elements of a list, in the order they come.
func (r *run) list(n *Node, v *wire.Value) (Seen, *failure) {
	if n.Second != nil && (v.Kind == wire.String || n.Scalars && (v.Kind == wire.Number || v.Kind == wire.Bool)) {
		return r.node(n.Second, v)
	}
	if v.Kind != wire.Array {
		if n.Single && v.Kind != wire.Null {
			s, err := r.node(n.Inner, v)
			return Seen{Kind: SeenList, Elems: []Seen{s}}, err
		}
		return r.wrongKind(n, v)
	}
	out := Seen{Kind: SeenList, Elems: []Seen{}}
	if n.Unique {
		out.Kind = SeenSet
	}
	known := true
	var late *failure
	for i, e := range v.Elems {
		if n.Whole && e.Kind != wire.Object {
			_, err := r.enter(wire.Step{Index: i}, &Node{Op: OpFail, Error: n.wrong(r.read(e))}, e)
			return Seen{}, err
		}
	}
	for i, e := range v.Elems {
		if n.SkipNull && e.Kind == wire.Null {
			continue
		}
		s, err := r.enter(wire.Step{Index: i}, n.Inner, e)
		if err == nil && n.Put != nil {
			thrown, told := n.Put(s)
			if thrown != nil {
				_, err := r.enter(wire.Step{Index: i}, &Node{Op: OpFail, Error: thrown}, e)
				return Seen{}, err
			}
			known = known && told
		}
		if err != nil && n.NullsLast && e.Kind == wire.Null {
			if late == nil {
				late = err
			}
			continue
		}
		if dropped, ok := r.drop(n, s, err, e); ok {
			continue
		} else if err = dropped; err != nil {
			return Seen{}, err
		}
		if n.Unique && n.contains(out.Elems, s) {
			continue
		}
		out.Elems = append(out.Elems, s)
	}
	switch {
	case late != nil:
		return Seen{}, late
	case !known:
		return Seen{Kind: SeenUnknown}, nil
	case n.Bytes:
		return bytesOf(out), nil
	}
	return out, nil
}

// bytesOf is a list of small integers as bytes.
func bytesOf(list Seen) Seen {
	data := make([]byte, 0, len(list.Elems))
	for _, e := range list.Elems {
		n, err := strconv.Atoi(e.Text)
		if err != nil {
			return Seen{Kind: SeenUnknown}
		}
		data = append(data, byte(n))
	}
	return Seen{Kind: SeenBytes, Text: string(data)}
}

// drop says whether an element is left out of its list or map: where the node is
// lossy, those that fail or are nothing are.
func (r *run) drop(n *Node, s Seen, err *failure, v *wire.Value) (*failure, bool) {
	if err == nil && s.Kind == SeenLeftOut {
		return nil, true
	}
	if !n.Lossy || err == nil && (s.Kind != SeenNull || n.KeepNull) {
		return err, false
	}
	if err != nil && !r.quiet {
		r.changes = append(r.changes, Change{Loss: Dropped, Place: err.place, Sent: v, Err: err.cause})
	}
	return nil, true
}

// contains says whether an element that is equal is there already.
func (n *Node) contains(list []Seen, s Seen) bool {
	if n.Equal != nil {
		return slices.ContainsFunc(list, func(e Seen) bool { return n.Equal(e, s) })
	}
	text := s.String()
	return slices.ContainsFunc(list, func(e Seen) bool { return e.Kind == s.Kind && e.String() == text })
}

// SecondKind is the other kind of value that an OpList, OpKeyed or OpMap reads, by its
// Second.
func (n *Node) SecondKind() wire.Kind {
	if n.Op == OpMap && n.Second != nil && !n.Second.ByText(wire.String) {
		return wire.Array
	}
	return wire.String
}

// members reads an object as a map. Of equal names the first counts.
func (r *run) members(n *Node, v *wire.Value) (Seen, *failure) {
	if n.Second != nil && (v.Kind == n.SecondKind() || n.Scalars && (v.Kind == wire.Number || v.Kind == wire.Bool)) {
		return r.node(n.Second, v)
	}
	if v.Kind != wire.Object {
		return r.wrongKind(n, v)
	}
	out := Seen{Kind: SeenMap, Elems: []Seen{}}
	for _, m := range v.Members {
		if n.Whole && m.Value.Kind != wire.Object {
			_, err := r.enter(wire.MemberOf(m.Name), &Node{Op: OpFail, Error: n.wrong(r.read(m.Value))}, m.Value)
			return Seen{}, err
		}
	}
	for i, m := range v.Members {
		again := find(v, m.Name, nil) != &v.Members[i]
		if again && !n.Every && n.Twice == nil {
			continue
		}
		key, keyErr := n.Key(m.Name)
		if keyErr == nil && n.Ignored != nil && n.Ignored(m.Name) {
			continue
		}
		if keyErr != nil {
			_, err := r.enter(wire.MemberOf(m.Name), &Node{Op: OpFail, Error: keyErr}, m.Value)
			return Seen{}, err
		}
		if n.SkipNull && m.Value.Kind == wire.Null {
			continue
		}
		s, err := r.enter(wire.MemberOf(m.Name), n.Inner, m.Value)
		if dropped, ok := r.drop(n, s, err, m.Value); ok {
			continue
		} else if err = dropped; err != nil {
			return Seen{}, err
		}
		at := slices.Index(out.Names, key.Text)
		if n.Twice != nil && at >= 0 && out.Elems[at].Kind != SeenNull && out.Elems[at].Kind != SeenUnknown {
			return Seen{}, r.fail(n.Twice(key.Text))
		}
		if at >= 0 && (n.Every || n.Twice != nil) {
			out.Elems[at] = s
			continue
		}
		out.Names = append(out.Names, key.Text)
		out.Elems = append(out.Elems, s)
	}
	return out, nil
}

// entries reads an array of pairs, each an array of a key and a value, as a map.
func (r *run) entries(n *Node, v *wire.Value) (Seen, *failure) {
	out := Seen{Kind: SeenMap, Elems: []Seen{}}
	for i, e := range v.Elems {
		step := wire.Step{Index: i}
		if e.Kind != wire.Array {
			return r.enter(step, &Node{Op: OpFail, Error: n.Wrong(e.Kind)}, e)
		}
		if len(e.Elems) != 2 {
			short := n.Error
			if len(e.Elems) == 0 && n.Missing != nil {
				short = n.Missing
			}
			return r.enter(step, &Node{Op: OpFail, Error: short}, e)
		}
		r.path, r.told = append(r.path, step), append(r.told, step)
		key, err := r.enter(wire.Step{Index: 0}, n.Inner, e.Elems[0])
		value := Seen{}
		if err == nil {
			value, err = r.enter(wire.Step{Index: 1}, n.Second, e.Elems[1])
		}
		r.path, r.told = r.path[:len(r.path)-1], r.told[:len(r.told)-1]
		if err != nil {
			return Seen{}, err
		}
		name := key.Text
		if slices.Contains(out.Names, name) && n.Twice != nil {
			return Seen{}, r.fail(n.Twice(name))
		}
		out.Names, out.Elems = append(out.Names, name), append(out.Elems, value)
	}
	return out, nil
}

// pairs reads an array of keys and values in turn as a map. Of equal keys the last
// counts.
func (r *run) pairs(n *Node, v *wire.Value) (Seen, *failure) {
	if v.Kind != wire.Array {
		return Seen{}, r.fail(n.Wrong(v.Kind))
	}
	if len(v.Elems)%2 != 0 {
		return Seen{}, r.fail(n.Error)
	}
	out := Seen{Kind: SeenMap, Elems: []Seen{}}
	for i := 0; i < len(v.Elems); i += 2 {
		key, err := r.enter(wire.Step{Index: i}, n.Inner, v.Elems[i])
		if err != nil {
			return Seen{}, err
		}
		value, err := r.enter(wire.Step{Index: i + 1}, n.Second, v.Elems[i+1])
		if err != nil {
			return Seen{}, err
		}
		name := key.Text
		if key.Kind != SeenEnum && key.Kind != SeenString && key.Kind != SeenInt {
			name = key.String()
		}
		known := false
		for k, other := range out.Names {
			if other == name {
				out.Elems[k], known = value, true
			}
		}
		if !known {
			out.Names, out.Elems = append(out.Names, name), append(out.Elems, value)
		}
	}
	return out, nil
}
