package shape

import (
	"vetta/internal/wire"
)

// made is what a document has added to places, so that nothing of it counts
// towards a limit if it is taken back.
type made struct {
	emptied bool            // something that only the document had that was taken back counts nothing any more
	places  map[*Place]bool // with new keys or forms
	texts   []madeText
	classes []madeClass
	ranges  []madeRange
}

type madeRange struct {
	place    *Place
	min, max float64
	ranged   bool
}

type madeText struct {
	place *Place
	text  *Text
}

type madeClass struct {
	place *Place
	class Class
}

// mayFold says whether a limit that has been reached may change the endpoint: not
// before the whole document is known to count there, since that is not taken back.
func (r *Reader) mayFold() bool {
	if r.verified {
		return true
	}
	root, err := RootOf(r.src.Data, r.start)
	switch {
	case err != nil:
		r.abort = err
	case r.e.fixedRoot && root != r.e.fixed:
		r.abort = ErrOtherRoot
	default:
		r.verified = true
	}
	return r.verified
}

func (m *made) reset() {
	clear(m.places)
	m.emptied = false
	m.texts, m.classes, m.ranges = m.texts[:0], m.classes[:0], m.ranges[:0]
}

func (m *made) at(p *Place) {
	if m.places == nil {
		m.places = map[*Place]bool{}
	}
	m.places[p] = true
}

// drop forgets what only a document that was taken back has added.
func (m *made) drop(e *Endpoint) {
	for i := len(m.ranges) - 1; i >= 0; i-- {
		old := m.ranges[i]
		old.place.Min, old.place.Max, old.place.ranged = old.min, old.max, old.ranged
	}
	for _, t := range m.texts {
		if t.text.Values == 0 && t.place.Texts[t.text.Literal] == t.text {
			delete(t.place.Texts, t.text.Literal)
			kind := 0
			if t.text.Class.Kind == wire.Number {
				kind = 1
			}
			t.place.texts[kind]--
			t.place.recall = recall{}
		}
	}
	for _, c := range m.classes {
		if t := c.place.Classes[c.class]; t != nil && t.Values == 0 {
			delete(c.place.Classes, c.class)
			c.place.recall = recall{}
			c.place.dateForms--
		}
	}
	if m.emptied { // so that the next value of a class becomes its witness
		e.Root.Walk((*Place).dropEmpty)
		return
	}
	for p := range m.places {
		p.dropEmpty()
	}
}

// limitDateForms takes the form from a class at a place that has had too many: its
// strings have digits but are no dates.
func (e *Endpoint) limitDateForms(p *Place, c Class) Class {
	if p.formless {
		c.Form, c.Facts = "", c.Facts&^IsDate
		return c
	}
	if _, known := p.Classes[c]; !known {
		if p.dateForms++; p.dateForms > e.limits.Forms2 {
			e.dropDateForms(p)
			return e.limitDateForms(p, c)
		}
	}
	return c
}

// dropDateForms counts the classes of a place that differ in form alone as one.
func (e *Endpoint) dropDateForms(p *Place) {
	p.formless = true
	p.recall = recall{}
	for _, old := range p.Sorted() {
		if old.Class.Form == "" {
			continue
		}
		c := old.Class
		c.Form, c.Facts = "", c.Facts&^IsDate
		t := p.Classes[c]
		if t == nil {
			t = &Tally{sym: e.symbol(), Witness: old.Witness}
			p.Classes[c] = t
		}
		delete(p.Classes, old.Class)
		e.absorb(t, old.Tally)
	}
	for _, t := range p.Texts {
		t.Class.Form, t.Class.Facts = "", t.Class.Facts&^IsDate
		t.class = p.Classes[t.Class]
	}
}

// open stops telling the literals of a kind at a place apart: they are counted by
// class alone, as they have been all along.
func (e *Endpoint) open(p *Place, kind wire.Kind) {
	for lit, t := range p.Texts {
		if t.Class.Kind != kind {
			continue
		}
		if c := p.Classes[t.Class]; c != nil {
			e.countAs(t.sym, c.sym)
		}
		delete(p.Texts, lit)
	}
	p.recall = recall{}
	if kind == wire.String {
		p.OpenTexts = true
	} else {
		p.OpenNums = true
	}
}

// dropForms stops telling the sets of keys of objects at a place apart: they are
// counted by their class alone.
func (e *Endpoint) dropForms(p *Place) {
	object := p.Classes[Class{Kind: wire.Object}]
	for _, f := range p.Forms {
		if object != nil {
			e.countAs(f.sym, object.sym)
		}
	}
	p.Forms, p.formOf, p.OpenForms = nil, nil, true
	p.recall = recall{}
}

// toMap makes a place whose objects have too many names one whose members all
// share a shape.
func (e *Endpoint) toMap(p *Place) {
	p.Member = p.in(wire.Step{Index: wire.AnyMember})
	e.dropForms(p)
	p.start = [2]*Key{}
	keys := p.Keys
	p.Keys, p.names = nil, map[string]*Key{}
	sortKeys(keys)
	for _, k := range keys {
		e.absorbPlace(p.Member, k.Place)
	}
}
