package xmlserializer

import (
	"fmt"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/markup"
	"vetta/internal/model"
)

// content reads the elements and the text of an instance.
func (r *reading) content(k *class, e *markup.Element, f *filled) *decoder.Error {
	text := memberOf(k, func(m *member) bool { return m.kind == inText || m.text })
	state := 0 // of members in their order
	var particles []*member
	for _, m := range k.members {
		if m.kind == inElement || m.kind == inAnyElement {
			particles = append(particles, m)
		}
	}
	run, runs := "", false
	flush := func(pos int) *decoder.Error {
		if !runs {
			return nil
		}
		given := run
		run, runs = "", false
		if text.text {
			f.add(text, clr.String(given))
			return nil
		}
		acc := text.choose[0]
		s, wrong, known := r.c.value(acc.typ, acc.data, given)
		if wrong != nil {
			return r.errorAt(pos, wrong.Reason, wrong.Message)
		}
		if !known {
			s = decoder.Seen{Kind: decoder.SeenUnknown}
		}
		f.set(text, s)
		return nil
	}
	for i := 0; i < len(e.Nodes); i++ {
		n := &e.Nodes[i]
		switch n.Kind {
		case markup.TextNode, markup.CDataNode:
			if text != nil && !r.drops(e, n) {
				run, runs = run+n.Text, true
			}
		case markup.CommentNode, markup.InstructionNode:
			if k.elements && text != nil {
				if err := flush(n.Start + 1); err != nil {
					return err
				}
			}
		case markup.ElementNode:
			if err := flush(n.Start + 1); err != nil {
				return err
			}
			var m *member
			var a *accessor
			if k.ordered {
				m, a, state = r.next(particles, state, n.Element)
			} else {
				m, a = r.taker(particles, n.Element, f)
			}
			if m == nil {
				if err := r.unknown(n.Element, nil, strings.Join(r.wanted(particles), ", ")); err != nil {
					return err
				}
				continue
			}
			skip, err := r.take(m, a, e, i, f)
			if err != nil {
				return err
			}
			i += skip
		}
	}
	end := e.Close + 2
	return flush(end)
}

func (r *reading) wanted(particles []*member) (names []string) {
	for _, m := range particles {
		if s := expected(m.choose); s != "" {
			names = append(names, s)
		}
	}
	return names
}

// taker is the member that takes an element wherever it stands.
func (r *reading) taker(particles []*member, e *markup.Element, f *filled) (*member, *accessor) {
	var rest *member
	for _, m := range particles {
		if m.kind == inAnyElement {
			if len(m.choose) == 0 {
				rest = m
				continue
			}
			if a := r.chosen(m.choose, e); a != nil && (m.list || m.array || !f.read[m.at]) {
				return m, a
			}
			continue
		}
		a := r.chosen(m.choose, e)
		if a == nil || !m.flat && a.items == nil && f.read[m.at] {
			continue
		}
		return m, a
	}
	if rest != nil && (rest.list || rest.array || !f.read[rest.at]) {
		return rest, nil
	}
	return nil, nil
}

// next is the member that takes an element where members are read in their order, and at which of them the reader stands
// then.
func (r *reading) next(particles []*member, state int, e *markup.Element) (*member, *accessor, int) {
	for state < len(particles) {
		m := particles[state]
		if m.kind == inAnyElement && len(m.choose) == 0 {
			if !m.list && !m.array {
				state++
			}
			return m, nil, state
		}
		a := r.chosen(m.choose, e)
		if a == nil {
			state++
			continue
		}
		if !m.flat {
			state++
		}
		return m, a, state
	}
	return nil, nil, state
}

// take reads an element for a member; skip is how many nodes behind it are read with it.
func (r *reading) take(m *member, a *accessor, in *markup.Element, at int, f *filled) (skip int, err *decoder.Error) {
	e := in.Nodes[at].Element
	f.read[m.at] = true
	if m.kind == inAnyElement {
		s := clr.String(e.Outer())
		if m.list || m.array {
			f.add(m, s)
		} else {
			f.set(m, s)
		}
		return 0, nil
	}
	f.specs[m.at] = true
	f.which[m.at] = a
	u := a.typ.Unwrapped()
	switch {
	case a.items != nil && !m.flat: // a list in an element of its own
		if e.Nil() {
			if a.nullable && m.array {
				f.lists[m.at] = nil
				f.set(m, decoder.Seen{})
			}
			return 0, nil
		}
		s, err := r.items(a.items, e)
		if err != nil {
			return 0, err
		}
		if m.array || f.lists[m.at] == nil {
			f.lists[m.at] = &s
			return 0, nil
		}
		for _, item := range s.Elems {
			*f.lists[m.at] = added(*f.lists[m.at], item, m.typ.Unwrapped())
		}
		return 0, nil
	case isNode(u):
		s, skip := node(in, at, u)
		if m.flat {
			f.add(m, s)
		} else {
			f.set(m, s)
		}
		return skip, nil
	case a.def && e.Empty && a.class == nil && !m.flat && u.Name != "object":
		f.specs[m.at] = false
		return 0, nil
	}
	s, err := r.element(a, e)
	if err != nil {
		return 0, err
	}
	if m.flat {
		f.add(m, s)
	} else {
		f.set(m, s)
	}
	return 0, nil
}

// node is what a member of a type of nodes holds: the first node in the element; of an empty one the reader has gone on to
// what comes next.
func node(in *markup.Element, at int, t *model.Type) (s decoder.Seen, skip int) {
	e := in.Nodes[at].Element
	nodes := e.Nodes
	if e.Empty {
		nodes = in.Nodes[at+1:]
	}
	for i := range nodes {
		n := &nodes[i]
		if n.Blank {
			continue
		}
		if e.Empty {
			skip = i + 1
		}
		switch {
		case n.Kind == markup.ElementNode:
			return clr.String(n.Element.Outer()), skip
		case n.Kind == markup.TextNode || n.Kind == markup.CDataNode:
			if t.Name == "XmlElement" {
				return decoder.Seen{Kind: decoder.SeenUnknown}, skip
			}
			return clr.String(n.Text), skip
		}
	}
	return decoder.Seen{}, 0
}

// any reads an element for a member that may hold anything: by xsi:type, or as the nodes that stand in it.
func (r *reading) any(e *markup.Element, nullable bool) (decoder.Seen, *decoder.Error) {
	if nullable && e.Nil() {
		return decoder.Seen{}, nil
	}
	if a := e.Attr(markup.InstanceSpace, "type"); a != nil {
		prefix, local, colon := strings.Cut(strings.TrimSpace(a.Value), ":")
		if !colon {
			prefix, local = "", prefix
		}
		space, _ := e.Lookup(prefix)
		if space == "http://www.w3.org/2001/XMLSchema" {
			for name, of := range primitives {
				if of == local && name != "object" {
					return r.scalar(&accessor{typ: &model.Type{Kind: model.Named, Name: name}}, e)
				}
			}
		}
		for k := range r.c.seen {
			if k.name == nameIn(space, local) {
				return r.instance(k, e)
			}
		}
		return decoder.Seen{}, r.errorAt(e.Start+1, decoder.ReasonClass, fmt.Sprintf("InvalidOperationException: The specified type was not recognized: name='%s', namespace='%s', at <%s xmlns='%s'>.", local, space, e.Name.Local, e.Name.Space))
	}
	out := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
	for i := range e.Attrs {
		out.Elems = append(out.Elems, clr.String(e.Attrs[i].Written()))
	}
	for i := range e.Nodes {
		switch n := &e.Nodes[i]; {
		case r.drops(e, n):
		case n.Kind == markup.ElementNode:
			out.Elems = append(out.Elems, clr.String(n.Element.Outer()))
		case n.Kind == markup.TextNode || n.Kind == markup.CDataNode:
			out.Elems = append(out.Elems, clr.String(n.Text))
		}
	}
	if len(out.Elems) == 0 {
		return clr.String("System.Object"), nil
	}
	return out, nil
}
