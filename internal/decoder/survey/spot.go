package survey

import (
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/wire"
)

// shape is what stands at a spot of the document that the code is run with.
type shape uint8

const (
	scalar shape = iota
	object
	list
	table // an object whose members are asked for all together
)

// spot is a place of that document.
type spot struct {
	up      *spot
	name    string // of a member
	element bool   // of a list or a table
	shape   shape
	text    string // of a scalar, as JSON
	tried   int    // how many of the samples it has been
	gone    bool   // it is left out: the code takes no sample
	turned  bool   // it has been an object before it became a list
	open    bool   // of an object: all of its members are asked for
	maybe   bool   // of a member: its name is one that the code has, and may mean something else
	inner   []*spot
	as      *decoder.Plan // what a library decodes it by, nil where the code reads it itself
}

// samples are what a scalar is tried to be, the first that the code takes. Words of the code's own come behind.
var samples = []string{
	`"text"`, `1`, `true`, `"2026-03-01T09:30:00Z"`, `1.5`, `"1"`, `"6f9619ff-8b86-d011-b42d-00cf4fc964ff"`, `"https://saltmere.example/a"`,
	`"2026-03-01"`, `"SAL"`, `"09:30:00"`, `"1.5"`, `"true"`, `"YWJj"`, `"a"`,
}

// memberKey is the name of the one member of a table.
const memberKey = "key"

// member is the spot of a name in an object, made where there is none; isNew says that it was made.
func (s *spot) member(name string) (m *spot, isNew bool) {
	for _, m := range s.inner {
		if m.name == name {
			return m, false
		}
	}
	m = &spot{up: s, name: name, text: samples[0]}
	s.inner = append(s.inner, m)
	return m, true
}

// become makes something else of a spot; false where it is that already.
func (s *spot) become(to shape) bool {
	if s.shape == to {
		return false
	}
	s.shape, s.inner = to, nil
	if to == list || to == table {
		s.inner = []*spot{{up: s, element: true, text: samples[0]}}
	}
	return true
}

// path leads from an outer spot to one in it, without the outer one; nil where it is not in it, or is that itself.
func (s *spot) path(outer *spot) (out []*spot) {
	for ; s != nil && s != outer; s = s.up {
		out = append([]*spot{s}, out...)
	}
	if s == nil {
		return nil
	}
	return out
}

// within says whether a spot is another or in it.
func (s *spot) within(outer *spot) bool {
	for ; s != nil; s = s.up {
		if s == outer {
			return true
		}
	}
	return false
}

// around is the innermost spot that all of some are in.
func around(all []*spot) *spot {
	if len(all) == 0 {
		return nil
	}
	common := all[0]
	for _, s := range all[1:] {
		for common != nil && !s.within(common) {
			common = common.up
		}
	}
	return common
}

// change is what stands at one spot in place of what does.
type change struct {
	at     *spot
	text   string // as JSON
	absent bool
}

// write writes what stands at a spot, with one change in it; nil for none.
func (s *spot) write(b *strings.Builder, c *change) {
	if c != nil && c.at == s {
		b.WriteString(c.text)
		return
	}
	switch s.shape {
	case scalar:
		b.WriteString(s.text)
	case list:
		b.WriteByte('[')
		s.inner[0].write(b, c)
		b.WriteByte(']')
	case table:
		b.WriteString(`{"` + memberKey + `":`)
		s.inner[0].write(b, c)
		b.WriteByte('}')
	case object:
		b.WriteByte('{')
		first := true
		for _, m := range s.inner {
			isChanged := c != nil && c.at == m
			if m.gone && !isChanged || isChanged && c.absent {
				continue
			}
			if !first {
				b.WriteByte(',')
			}
			first = false
			b.WriteString(wire.Quote(m.name) + ":")
			m.write(b, c)
		}
		b.WriteByte('}')
	}
}

// locate finds the spots of the values of a document that was written of them.
func (s *spot) locate(v *wire.Value, c *change, of map[*wire.Value]*spot) {
	of[v] = s
	if c != nil && c.at == s {
		return
	}
	switch {
	case s.shape == list && len(v.Elems) > 0:
		s.inner[0].locate(v.Elems[0], c, of)
	case s.shape == table && len(v.Members) > 0:
		s.inner[0].locate(v.Members[0].Value, c, of)
	case s.shape == object:
		for _, m := range v.Members {
			if in, isNew := s.member(m.Name); !isNew {
				in.locate(m.Value, c, of)
			}
		}
	}
}

// leaves are the spots in which nothing else is looked at.
func (s *spot) leaves() (all []*spot) {
	if s.gone {
		return nil
	}
	if len(s.inner) == 0 || s.as != nil {
		return []*spot{s}
	}
	for _, m := range s.inner {
		all = append(all, m.leaves()...)
	}
	return all
}
