package shape

import (
	"slices"
	"sort"

	"vetta/internal/wire"
)

// Merge adds all that another endpoint has seen. The result is what reading both
// their responses into one endpoint would have given. The other one must not be
// used afterwards.
func (e *Endpoint) Merge(o *Endpoint) {
	e.fixedRoot = false
	e.Responses += o.Responses
	for word, bits := range o.files {
		for b := range 64 {
			if bits>>b&1 != 0 {
				e.addFile(64*word + b)
			}
		}
	}
	m := merger{e: e, o: o, symbols: map[Symbol]Symbol{}}
	m.place(e.Root, o.Root)
	if o.combos.gaveUp {
		e.combos.gaveUp, e.combos.byHash = true, nil
	}
	var symbols []Symbol
	for _, bucket := range o.combos.byHash {
		for _, c := range bucket {
			symbols = symbols[:0]
			for _, s := range c.symbols {
				symbols = append(symbols, e.canonical(m.symbols[o.canonical(s)]))
			}
			e.combos.add(symbols, c.responses)
		}
	}
}

// merger carries what one endpoint has seen over to another.
type merger struct {
	e, o    *Endpoint
	symbols map[Symbol]Symbol // of o -> of e
}

// tally adds b, of the other endpoint, to a.
func (m *merger) tally(a, b *Tally) {
	m.symbols[b.sym] = a.sym
	a.Values += b.Values
	a.Responses += b.Responses
	a.Examples = firstExamples(append(a.Examples, b.Examples...))
}

func firstExamples(all []Example) []Example {
	sort.SliceStable(all, func(i, k int) bool { return all[i].before(all[k]) })
	all = slices.CompactFunc(all, func(a, b Example) bool { return a.Order == b.Order && a.Entry == b.Entry })
	if len(all) > maxExamples+1 {
		all = all[: maxExamples+1 : maxExamples+1]
	}
	return all
}

func (m *merger) place(a, b *Place) {
	e := m.e
	if b.formless && !a.formless {
		e.dropDateForms(a)
	}
	a.recent = nil
	for _, c := range b.Sorted() {
		class := c.Class
		if class.Form != "" {
			class = e.limitDateForms(a, class)
		}
		t := a.Classes[class]
		if t == nil {
			t = &Tally{sym: e.symbol(), Witness: c.Witness}
			a.Classes[class] = t
		}
		if class != c.Class && m.o.canonical(c.sym) == c.sym {
			// Two classes of the other endpoint become one here: count the responses anew.
			m.symbols[c.sym] = t.sym
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
}

func (m *merger) texts(a, b *Place) {
	m.e.eachText(a, b, func(into *Tally, from *Text) { m.tally(into, &from.Tally) },
		func(from *Text, class Class) { m.symbols[from.sym] = a.Classes[class].sym })
}

// eachText takes the texts of b, of this endpoint or another, to a: kept is called
// with the tally of the same text there, open with those that a cannot tell apart.
func (e *Endpoint) eachText(a, b *Place, kept func(into *Tally, from *Text), open func(from *Text, class Class)) {
	for _, kind := range []wire.Kind{wire.String, wire.Number} {
		if b.Open(kind) && !a.Open(kind) {
			e.open(a, kind)
		}
		n, limit := 0, e.limits.Texts
		if kind == wire.Number {
			n, limit = 1, e.limits.Numbers
		}
		for _, t := range b.SortedTexts(kind) {
			class := t.Class
			if a.formless {
				class.Form, class.Facts = "", class.Facts&^IsDate
			}
			own := a.Texts[t.Literal]
			if own == nil && !a.Open(kind) {
				if a.texts[n] >= limit {
					e.open(a, kind)
				} else {
					a.texts[n]++
					own = &Text{Class: class, Literal: t.Literal}
					own.sym, own.Witness = e.symbol(), t.Literal
					a.Texts[t.Literal] = own
				}
			}
			if a.Open(kind) {
				open(t, class)
			} else {
				kept(&own.Tally, t)
			}
		}
	}
}

func (m *merger) keys(a, b *Place) {
	e := m.e
	if b.Member != nil && a.Member == nil {
		e.toMap(a)
	}
	if a.Member == nil && a.withKeysOf(b) > e.limits.Keys {
		e.toMap(a)
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
			own = a.addKey(k.Name, nil)
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
		if a.OpenForms {
			m.symbols[f.sym] = a.Classes[Class{Kind: wire.Object}].sym
			continue
		}
		has := make([]bool, 0, len(a.Keys))
		for i, h := range f.Keys {
			if !h {
				continue
			}
			at := a.names[b.Keys[i].Name].index
			for len(has) <= at {
				has = append(has, false)
			}
			has[at] = true
		}
		own := m.e.formWith(a, has)
		if own == nil {
			m.symbols[f.sym] = a.Classes[Class{Kind: wire.Object}].sym
			continue
		}
		m.tally(&own.Tally, &f.Tally)
	}
}

// formWith is the form of a place that has these keys, made where there is none; nil
// where the place has too many forms to tell apart, from now on or before.
func (e *Endpoint) formWith(p *Place, has []bool) *Form {
	mask, more := (&Form{Keys: has}).bits()
	if own := p.formOf[maskKey(mask, more)]; own != nil {
		return own
	}
	if len(p.Forms) >= e.limits.Forms {
		e.dropForms(p)
	}
	if p.OpenForms {
		return nil
	}
	return e.addForm(p, mask, more)
}

// absorb counts what one tally of the endpoint has counted in another of it, and
// from then on takes the two for one.
func (e *Endpoint) absorb(into, from *Tally) {
	into.Values += from.Values
	into.Examples = firstExamples(append(into.Examples, from.Examples...))
	into.last = max(into.last, from.last)
	if e.combos.gaveUp {
		into.Responses = min(into.Responses+from.Responses, e.Responses)
		e.alias[from.sym] = into.sym
		return
	}
	e.alias[from.sym] = into.sym
	into.Responses, _ = e.Among([]*Tally{into})
	// The response that is being read is not among the combinations yet.
	if into.last == e.seq && e.seq > 0 && e.reading() {
		into.Responses++
	}
}

// reading says whether a response has begun that has not ended.
func (e *Endpoint) reading() bool { return len(e.scratch) > 0 }

// absorbPlace counts all that was seen at one place of the endpoint at another.
func (e *Endpoint) absorbPlace(into, from *Place) {
	if from.formless && !into.formless {
		e.dropDateForms(into)
	}
	into.recent = nil
	for _, c := range from.Sorted() {
		class := c.Class
		if class.Form != "" {
			class = e.limitDateForms(into, class)
		}
		t := into.Classes[class]
		if t == nil {
			t = &Tally{sym: e.symbol(), Witness: c.Witness}
			into.Classes[class] = t
		}
		e.absorb(t, c.Tally)
	}
	if from.ranged {
		into.widen(from.Min, from.Max)
	}
	e.eachText(into, from, func(into *Tally, from *Text) { e.absorb(into, &from.Tally) },
		func(from *Text, class Class) { e.alias[from.sym] = into.Classes[class].sym })
	e.absorbKeys(into, from)
	if from.Elem != nil {
		if into.Elem == nil {
			into.Elem = into.in(wire.Step{Index: wire.AnyElement})
		}
		e.absorbPlace(into.Elem, from.Elem)
	}
}

func (e *Endpoint) absorbKeys(into, from *Place) {
	if into.Member == nil && (from.Member != nil || into.withKeysOf(from) > e.limits.Keys) {
		e.toMap(into)
	}
	if into.Member != nil {
		if from.Member == nil {
			e.toMap(from)
		}
		e.absorbPlace(into.Member, from.Member)
		return
	}
	for _, k := range from.Keys {
		own := into.names[k.Name]
		if own == nil {
			own = into.addKey(k.Name, nil)
		}
		own.Objects += k.Objects
		own.Doubles += k.Doubles
		e.absorbPlace(own.Place, k.Place)
		if k.Later != nil {
			e.absorbPlace(own.later(), k.Later)
		}
	}
	if from.OpenForms && !into.OpenForms {
		e.dropForms(into)
	}
	for _, f := range from.Forms {
		if into.OpenForms {
			e.alias[f.sym] = into.Classes[Class{Kind: wire.Object}].sym
			continue
		}
		has := make([]bool, len(into.Keys))
		for i, h := range f.Keys {
			if h {
				has[into.names[from.Keys[i].Name].index] = true
			}
		}
		own := e.formWith(into, has)
		if own == nil {
			e.alias[f.sym] = into.Classes[Class{Kind: wire.Object}].sym
			continue
		}
		e.absorb(&own.Tally, &f.Tally)
	}
}

// sortKeys puts keys in the order in which they were first seen.
func sortKeys(keys []*Key) {
	sort.SliceStable(keys, func(i, k int) bool {
		a, _ := keys[i].First()
		b, _ := keys[k].First()
		if a.Order != b.Order || a.Offset != b.Offset {
			return a.before(b)
		}
		return keys[i].Name < keys[k].Name
	})
}

// First is the first value of a key; false where none was kept.
func (k *Key) First() (first Example, ok bool) { return k.Place.first() }

func (k *Key) firstLater() (first Example, ok bool) { return k.Later.first() }

func (p *Place) first() (first Example, ok bool) {
	for _, t := range p.Classes {
		if len(t.Examples) > 0 && (!ok || t.Examples[0].before(first)) {
			first, ok = t.Examples[0], true
		}
	}
	return first, ok
}

// Settle puts everything in an order that does not depend on how the reading was
// divided. It must be called once, when all has been read and merged.
func (e *Endpoint) Settle() {
	e.Root.Walk(func(p *Place) {
		p.dropEmpty()
		old := append([]*Key(nil), p.Keys...)
		sortKeys(p.Keys)
		for _, f := range p.Forms {
			has := make([]bool, len(p.Keys))
			for i, h := range f.Keys {
				if h {
					for at, k := range p.Keys {
						if k == old[i] {
							has[at] = true
						}
					}
				}
			}
			f.Keys = has
		}
		for i, k := range p.Keys {
			k.index = i
		}
		p.formOf, p.lastForm, p.start = nil, nil, [2]*Key{}
		sort.Slice(p.Forms, func(i, k int) bool { return lessBools(p.Forms[i].Keys, p.Forms[k].Keys) })
		if p.OpenForms && p.Member == nil {
			e.note("objects at " + p.Path() + " have too many sets of keys to tell apart")
		}
		if p.Member != nil && !p.dynamic {
			e.note("objects at " + p.Path() + " have too many names: they are taken for a map")
		}
	})
	e.eachTally(func(t *Tally) {
		if len(t.Examples) > maxExamples {
			t.Examples = t.Examples[:maxExamples]
		}
	})
	if e.combos.gaveUp {
		e.note("responses differ in too many ways to count exactly those that would not decode")
	}
}

// dropEmpty forgets what only documents had that were taken back.
func (p *Place) dropEmpty() {
	p.recent, p.recentTexts = nil, nil
	for c, t := range p.Classes {
		if t.Values == 0 {
			delete(p.Classes, c)
		}
	}
	for lit, t := range p.Texts {
		if t.Values == 0 {
			delete(p.Texts, lit)
		}
	}
	if p.Elem != nil && p.Elem.Total() == 0 {
		p.Elem = nil
	}
	if p.Member != nil && p.Member.Total() == 0 {
		p.Member = nil
	}
	p.Forms = slices.DeleteFunc(p.Forms, func(f *Form) bool { return f.Values == 0 })
	var keys []*Key
	at := make([]int, len(p.Keys))
	for i, k := range p.Keys {
		at[i] = -1
		if k.Objects > 0 {
			at[i] = len(keys)
			keys = append(keys, k)
		} else {
			delete(p.names, k.Name)
		}
	}
	if len(keys) == len(p.Keys) {
		p.indexForms()
		return
	}
	for _, f := range p.Forms {
		has := make([]bool, len(keys))
		for i, h := range f.Keys {
			if h {
				has[at[i]] = true
			}
		}
		f.Keys = has
	}
	for i, k := range keys {
		k.index, k.next = i, [2]*Key{}
	}
	p.Keys, p.start = keys, [2]*Key{}
	p.indexForms()
}

// indexForms makes the forms of a place findable by their keys.
func (p *Place) indexForms() {
	p.formOf, p.lastForm = map[string]*Form{}, nil
	for _, f := range p.Forms {
		mask, more := f.bits()
		f.mask, f.long = mask, len(more) > 0
		p.formOf[maskKey(mask, more)] = f
	}
}

func (e *Endpoint) note(text string) { e.Capped = append(e.Capped, text) }

func lessBools(a, b []bool) bool {
	for i := range a {
		if a[i] != b[i] {
			return a[i]
		}
	}
	return false
}

// FirstExamples are up to three examples that some tallies have: of different
// responses as far as there are any.
func FirstExamples(tallies []*Tally) []Example {
	var all []Example
	for _, t := range tallies {
		all = append(all, t.Examples...)
	}
	sort.SliceStable(all, func(i, k int) bool { return all[i].before(all[k]) })
	all = slices.CompactFunc(all, func(a, b Example) bool { return a.File == b.File && a.Offset == b.Offset })
	var first, more []Example
	for i, ex := range all {
		if i > 0 && ex.File == all[i-1].File && ex.Entry == all[i-1].Entry {
			more = append(more, ex)
		} else {
			first = append(first, ex)
		}
	}
	first = append(first, more...)
	first = first[:min(len(first), maxExamples)]
	sort.SliceStable(first, func(i, k int) bool { return first[i].before(first[k]) })
	return first
}
