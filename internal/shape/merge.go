package shape

import (
	"vetta/internal/wire"
)

// Merge adds all that another endpoint has seen. The result is what reading both
// their responses into one endpoint would have given. The other one must not be
// used afterwards.
func (e *Endpoint) Merge(o *Endpoint) {
	e.fixedRoot = false
	e.Responses += o.Responses
	e.moments.join(&o.moments)
	o.files.each(func(order int) { e.addFile(order) })
	symbols := map[Symbol]Symbol{} // of o -> of e
	m := merger{e: e, o: o,
		tally: func(into, from *Tally) {
			symbols[from.sym] = into.sym
			into.witness(from)
			into.Values += from.Values
			into.Responses += from.Responses
			into.Span = into.Span.joined(from.Span)
			into.Examples = firstExamples(append(into.Examples, from.Examples...))
		},
		symbol: func(from, into Symbol) { symbols[from] = into },
	}
	m.place(e.Root, o.Root)
	if o.combos.gaveUp {
		e.combos.gaveUp, e.combos.byHash = true, nil
	}
	var combo []Symbol
	for _, bucket := range o.combos.byHash {
		for _, c := range bucket {
			combo = combo[:0]
			for _, s := range c.symbols {
				combo = append(combo, e.canonical(symbols[o.canonical(s)]))
			}
			e.combos.add(combo, c.responses)
		}
	}
}

// absorbPlace counts all that was seen at one place of the endpoint at another.
func (e *Endpoint) absorbPlace(into, from *Place) {
	m := merger{e: e, o: e, tally: e.absorb, symbol: func(from, into Symbol) { e.countAs(from, into) }}
	m.place(into, from)
}

// merger carries what was seen at one place over to another, of the same endpoint or
// of another.
type merger struct {
	e, o   *Endpoint // of the place that is added to, and of the one that is added
	tally  func(into, from *Tally)
	symbol func(from, into Symbol) // one that stands for nothing of its own any more
}

// place adds what was seen at b to a.
func (m *merger) place(a, b *Place) {
	if a.formless || b.formless || m.dateForms(a, b) > m.e.limits.Forms2 {
		m.e.dropDateForms(a)
		m.o.dropDateForms(b)
	}
	a.recall = recall{}
	for _, c := range b.Sorted() {
		t := a.Classes[c.Class]
		if t == nil {
			t = &Tally{sym: m.e.symbol(), Witness: c.Witness}
			a.Classes[c.Class] = t
			if c.Class.Form != "" {
				a.dateForms++
			}
		}
		m.tally(t, c.Tally)
	}
	if b.ranged {
		a.widen(b.Min, b.Max)
	}
	m.texts(a, b)
	m.keys(a, b)
	if b.Elem != nil {
		if a.Elem == nil {
			a.Elem = a.in(wire.Step{Index: wire.AnyElement})
		}
		m.place(a.Elem, b.Elem)
	}
	m.subtypes(a, b)
}

// dateForms is how many classes of strings that look like dates two places have.
func (m *merger) dateForms(a, b *Place) int {
	n := a.dateForms
	for c := range b.Classes {
		if c.Form != "" && a.Classes[c] == nil {
			n++
		}
	}
	return n
}

func (m *merger) texts(a, b *Place) {
	for _, kind := range []wire.Kind{wire.String, wire.Number} {
		if b.Open(kind) && !a.Open(kind) {
			m.e.open(a, kind)
		}
		n, limit := 0, m.e.limits.Texts
		if kind == wire.Number {
			n, limit = 1, m.e.limits.Numbers
		}
		for _, t := range b.SortedTexts(kind) {
			own := a.Texts[t.Literal]
			if own == nil && !a.Open(kind) {
				if a.texts[n] >= limit {
					m.e.open(a, kind)
				} else {
					a.texts[n]++
					own = &Text{Class: t.Class, Literal: t.Literal}
					own.sym, own.Witness = m.e.symbol(), t.Literal
					a.Texts[t.Literal] = own
				}
			}
			if a.Open(kind) {
				m.symbol(t.sym, a.Classes[t.Class].sym)
			} else {
				m.tally(&own.Tally, &t.Tally)
			}
		}
	}
}

func (m *merger) keys(a, b *Place) {
	if a.Member == nil && (b.Member != nil || a.withKeysOf(b) > m.e.limits.Keys) {
		m.e.toMap(a)
	}
	if a.Member != nil {
		if b.Member == nil {
			m.o.toMap(b)
		}
		m.place(a.Member, b.Member)
		return
	}
	for _, k := range b.Keys {
		own := a.names[k.Name]
		if own == nil {
			own = a.addKey(k.Name)
		}
		own.Objects += k.Objects
		own.Doubles += k.Doubles
		m.place(own.Place, k.Place)
		if k.Later != nil {
			m.place(own.later(), k.Later)
		}
	}
	m.forms(a, b)
}

// withKeysOf is how many keys the place would have with those of another one.
func (p *Place) withKeysOf(o *Place) int {
	n := len(p.Keys)
	for _, k := range o.Keys {
		if p.names[k.Name] == nil {
			n++
		}
	}
	return n
}

// forms adds the forms of b; the indexes of its keys are those of a's keys by name.
func (m *merger) forms(a, b *Place) {
	if b.OpenForms && !a.OpenForms {
		m.e.dropForms(a)
	}
	for _, f := range b.Forms {
		has := make([]bool, len(a.Keys))
		for i, h := range f.Keys {
			if h {
				has[a.names[b.Keys[i].Name].index] = true
			}
		}
		if own := m.e.formWith(a, has); own != nil {
			m.tally(&own.Tally, &f.Tally)
		} else {
			m.symbol(f.sym, a.Classes[Class{Kind: wire.Object}].sym)
		}
	}
}

// formWith is the form of a place that has these keys, made where there is none; nil
// where the place has too many forms to tell apart, from now on or before.
func (e *Endpoint) formWith(p *Place, has []bool) *Form {
	if p.OpenForms {
		return nil
	}
	mask, more := (&Form{Keys: has}).bits()
	if own := p.formOf[maskKey(mask, more)]; own != nil {
		return own
	}
	if len(p.Forms) >= e.limits.Forms {
		e.dropForms(p)
		return nil
	}
	return e.addForm(p, mask, more)
}

// absorb counts what one tally of the endpoint has counted in another of it, and
// from then on takes the two for one.
func (e *Endpoint) absorb(into, from *Tally) {
	into.witness(from)
	into.Values += from.Values
	into.Examples = firstExamples(append(into.Examples, from.Examples...))
	into.last, into.Span = max(into.last, from.last), into.Span.joined(from.Span)
	if e.combos.gaveUp {
		into.Responses = min(into.Responses+from.Responses, e.Responses)
		e.countAs(from.sym, into.sym)
		return
	}
	e.countAs(from.sym, into.sym)
	into.Responses, _ = e.Among([]*Tally{into})
	// The response that is being read is not among the combinations yet.
	if into.last == e.seq && e.seq > 0 && e.reading() {
		into.Responses++
	}
}

// witness takes the witness of another tally of the same class where that was met first.
func (t *Tally) witness(o *Tally) {
	if o.Span.Last != 0 && o.Witness != "" && (t.Span.Last == 0 || o.Span.First < t.Span.First) {
		t.Witness = o.Witness
	}
}

// reading says whether a response has begun that has not ended.
func (e *Endpoint) reading() bool { return len(e.scratch) > 0 }
