package xmlserializer

import (
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/markup"
	"vetta/internal/model"
)

// filled is what was read for the members of an instance.
type filled struct {
	read  []bool
	lists []*decoder.Seen // what items are added to
	order []int           // of members, as they were given something
	vals  []decoder.Seen
	specs map[int]bool
	which map[int]*accessor
}

func (f *filled) set(m *member, s decoder.Seen) {
	f.order, f.vals = append(f.order, m.at), append(f.vals, s)
}

// add puts an item into the list of a member.
func (f *filled) add(m *member, s decoder.Seen) {
	if f.lists[m.at] == nil {
		f.lists[m.at] = &decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
	}
	*f.lists[m.at] = added(*f.lists[m.at], s, m.typ.Unwrapped())
}

// instance reads the attributes and what is in an element of a class.
func (r *reading) instance(k *class, e *markup.Element) (decoder.Seen, *decoder.Error) {
	r.c.number(k)
	f := &filled{read: make([]bool, len(k.members)), lists: make([]*decoder.Seen, len(k.members)), specs: map[int]bool{}, which: map[int]*accessor{}}
	if m := memberOf(k, func(m *member) bool { return m.kind == inDeclarations }); m != nil && len(e.Bindings) > 0 {
		f.set(m, clr.String("System.Xml.Serialization.XmlSerializerNamespaces"))
	}
	if err := r.attributes(k, e, f); err != nil {
		return decoder.Seen{}, err
	}
	if err := r.content(k, e, f); err != nil {
		return decoder.Seen{}, err
	}
	return r.c.made(k, f)
}

// number gives members their places.
func (c *compiler) number(k *class) {
	for i, m := range k.members {
		m.at = i
	}
}

func (r *reading) attributes(k *class, e *markup.Element, f *filled) *decoder.Error {
	for i := range e.Attrs {
		a := &e.Attrs[i]
		name := r.c.nameOf(a.Name)
		m := memberOf(k, func(m *member) bool { return m.kind == inAttribute && m.choose[0].name == name })
		if m == nil {
			if a.Name.Space == markup.InstanceSpace || a.Name.Space == markup.XMLSpace {
				continue
			}
			if rest := memberOf(k, func(m *member) bool { return m.kind == inAnyAttribute }); rest != nil {
				f.add(rest, clr.String(a.Written()))
				continue
			}
			if err := r.unknown(e, a, ""); err != nil {
				return err
			}
			continue
		}
		acc := m.choose[0]
		if !m.flat {
			s, wrong, known := r.c.value(acc.typ, acc.data, a.Value)
			if wrong != nil {
				return r.errorAt(a.Start, wrong.Reason, wrong.Message)
			}
			if !known {
				s = decoder.Seen{Kind: decoder.SeenUnknown}
			}
			f.set(m, s)
			f.specs[m.at] = true
			continue
		}
		words := strings.Fields(a.Value)
		if len(words) == 0 {
			words = []string{""}
		}
		for _, word := range words {
			s, wrong, known := r.c.value(acc.typ, acc.data, word)
			if wrong != nil {
				return r.errorAt(a.Start, wrong.Reason, wrong.Message)
			}
			if !known {
				s = decoder.Seen{Kind: decoder.SeenUnknown}
			}
			f.add(m, s)
		}
	}
	return nil
}

func memberOf(k *class, is func(*member) bool) *member {
	for _, m := range k.members {
		if is(m) {
			return m
		}
	}
	return nil
}

// made is the instance with what was read for it.
func (c *compiler) made(k *class, f *filled) (decoder.Seen, *decoder.Error) {
	out := c.blankOf(k)
	if out.Kind != decoder.SeenObject {
		return decoder.Seen{Kind: decoder.SeenUnknown}, nil
	}
	var set []string
	var vals []decoder.Seen
	var of []*model.Type
	give := func(m *member, s decoder.Seen) {
		set, vals, of = append(set, m.field.Name), append(vals, s), append(of, m.typ)
	}
	for i, at := range f.order {
		give(k.members[at], f.vals[i])
	}
	for at, given := range f.specs {
		if spec := k.members[at].spec; spec != nil && given && !(k.members[at].kind == inText) && !slices.ContainsFunc(f.order, func(i int) bool { return k.members[i].field == spec.field }) {
			give(spec, decoder.Bool(true))
		}
	}
	for at, a := range f.which {
		if choice := k.members[at].choice; choice != nil {
			if e := choice.typ.Unwrapped().Model; e != nil {
				for _, one := range e.Cases {
					if name := wireName(one); name == a.name.Local || name == a.name.Space+":"+a.name.Local {
						give(choice, decoder.Seen{Kind: decoder.SeenEnum, Text: one.Name, Type: e.Name})
					}
				}
			}
		}
	}
	if k.code && len(set) > 0 {
		made, err := c.code.Filled(k.t, clr.Parameterless(k.t), set, vals, of)
		if err != nil {
			wrapped := *err
			wrapped.Message = "InvalidOperationException: There is an error in XML document (0, 0). <- " + err.Message
			return decoder.Seen{}, &wrapped
		}
		if made.Kind != decoder.SeenObject {
			return decoder.Seen{Kind: decoder.SeenUnknown}, nil
		}
		out = made
	} else {
		out.Elems = slices.Clone(out.Elems)
		for i, name := range set {
			put(&out, k, name, vals[i])
		}
	}
	out.Elems = slices.Clone(out.Elems)
	c.lists(k, f, &out)
	return out, nil
}

// lists gives members that hold several values theirs: those that were there before stay, but for arrays.
func (c *compiler) lists(k *class, f *filled, out *decoder.Seen) {
	for _, m := range k.members {
		if !m.list && !m.array {
			continue
		}
		got := f.lists[m.at]
		switch {
		case m.kind == inDeclarations:
		case m.array || m.kind == inAnyElement || m.kind == inAnyAttribute:
			switch {
			case got != nil:
				put(out, k, m.field.Name, *got)
			case m.flat && m.kind == inElement && !m.text: // nothing came
				put(out, k, m.field.Name, decoder.Seen{})
			}
		case m.kind == inAttribute && got == nil:
		default:
			before := get(*out, k, m.field.Name)
			if before.Kind == decoder.SeenUnknown {
				continue
			}
			kind := decoder.SeenList
			if m.typ.Unwrapped().Kind == model.Unique {
				kind = decoder.SeenSet
			}
			now := decoder.Seen{Kind: kind, Elems: slices.Clone(before.Elems)}
			if now.Elems == nil {
				now.Elems = []decoder.Seen{}
			}
			if got != nil {
				for _, s := range got.Elems {
					now = added(now, s, m.typ.Unwrapped())
				}
			}
			put(out, k, m.field.Name, now)
		}
	}
}

func put(out *decoder.Seen, k *class, name string, s decoder.Seen) {
	name = clr.Backing(k.t, name)
	for i := range out.Names {
		if out.Names[i] == name {
			out.Elems[i] = s
			return
		}
	}
}

func get(out decoder.Seen, k *class, name string) decoder.Seen {
	s, _ := out.Get(clr.Backing(k.t, name))
	return s
}
