package shape

import (
	"slices"
	"sort"
)

func firstExamples(all []Example) []Example {
	sort.SliceStable(all, func(i, k int) bool { return all[i].Before(all[k]) })
	all = slices.CompactFunc(all, func(a, b Example) bool { return a.Order == b.Order && a.Entry == b.Entry })
	if len(all) > maxExamples+1 {
		all = all[: maxExamples+1 : maxExamples+1]
	}
	return all
}

// sortKeys puts keys in the order in which they were first seen.
func sortKeys(keys []*Key) {
	sort.SliceStable(keys, func(i, k int) bool {
		a, _ := keys[i].First()
		b, _ := keys[k].First()
		if a.Order != b.Order || a.Offset != b.Offset {
			return a.Before(b)
		}
		return keys[i].Name < keys[k].Name
	})
}

// First is the first value of a key; false where none was kept.
func (k *Key) First() (first Example, ok bool) { return k.Place.first() }

func (k *Key) firstLater() (first Example, ok bool) { return k.Later.first() }

func (p *Place) first() (first Example, ok bool) {
	for _, t := range p.Classes {
		if len(t.Examples) > 0 && (!ok || t.Examples[0].Before(first)) {
			first, ok = t.Examples[0], true
		}
	}
	return first, ok
}

// Settle puts everything in an order that does not depend on how the reading was
// divided. It must be called once, when all has been read and merged.
func (e *Endpoint) Settle() {
	e.arrange()
	e.Root.Walk(func(p *Place) {
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

// arrange puts keys in the order in which the responses have them, and forms in that of their keys, however
// the reading was divided.
func (e *Endpoint) arrange() {
	e.Root.Walk(func(p *Place) {
		p.dropEmpty()
		old := slices.Clone(p.Keys)
		sortKeys(p.Keys)
		at := map[*Key]int{}
		for i, k := range p.Keys {
			at[k] = i
		}
		for _, f := range p.Forms {
			has := make([]bool, len(p.Keys))
			for i, h := range f.Keys {
				has[at[old[i]]] = h
			}
			f.Keys = has
		}
		for i, k := range p.Keys {
			k.index = i
		}
		p.formOf, p.start, p.recall = nil, [2]*Key{}, recall{}
		sort.Slice(p.Forms, func(i, k int) bool { return lessBools(p.Forms[i].Keys, p.Forms[k].Keys) })
	})
}

// dropEmpty forgets what only documents had that were taken back.
func (p *Place) dropEmpty() {
	p.recall = recall{}
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
	p.sortSubtypes()
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
	p.formOf, p.recall = map[string]*Form{}, recall{}
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
	sort.SliceStable(all, func(i, k int) bool { return all[i].Before(all[k]) })
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
	sort.SliceStable(first, func(i, k int) bool { return first[i].Before(first[k]) })
	return first
}
