package drift

import (
	"vetta/internal/drift/finding"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// exchangedEach is how many objects must have had each of two keys for the one to have taken the
// place of the other whatever the two are called.
const exchangedEach = 6

// exchanged says whether a key has taken the place of the one that is asked for: every object has exactly
// one of the two, values of both are alike, and from some capture on it is always the same one.
func (w *walk) exchanged(a asked, k *shape.Key) bool {
	if !finding.Timed(w.e) || len(a.keys) != 1 || a.place.OpenForms || a.together(k) || !a.fills(k) {
		return false
	}
	own := a.keys[0]
	if own.Objects < exchangedEach || k.Objects < exchangedEach || own.Objects+k.Objects != a.place.Count(wire.Object) || !sameKind(own.Place, k.Place) {
		return false
	}
	span, known := spanOf(a.place, own)
	other, otherKnown := spanOf(a.place, k)
	if !known || !otherKnown {
		return false
	}
	first, last := w.e.Moments(span)
	otherFirst, otherLast := w.e.Moments(other)
	return last < otherFirst || otherLast < first
}

// only says whether no other key at the place could have taken the place of what is asked as well.
func (w *walk) only(a asked, k *shape.Key) bool {
	for _, other := range a.place.Keys {
		if other != k && !w.read[a.place][other.Name] && w.exchanged(a, other) {
			return false
		}
	}
	return true
}

// spanOf is from the first response to the last in which objects at a place have a key.
func spanOf(place *shape.Place, k *shape.Key) (span shape.Span, known bool) {
	tallies, _ := formsWith(place, k)
	return shape.SpanOf(tallies)
}

// sameKind says whether two places hold values of the same kinds: objects with keys in common, lists of
// such, texts that are both dates or both none. Nulls say nothing.
func sameKind(a, b *shape.Place) bool {
	for kind := wire.Bool; kind <= wire.Object; kind++ {
		if (a.Count(kind) > 0) != (b.Count(kind) > 0) {
			return false
		}
	}
	if dates(a) != dates(b) {
		return false
	}
	if a.Count(wire.Object) > 0 && a.Member == nil && b.Member == nil && len(a.Keys) > 0 && len(b.Keys) > 0 {
		shared := 0
		for _, k := range a.Keys {
			if b.Key(k.Name) != nil {
				shared++
			}
		}
		if 2*shared < min(len(a.Keys), len(b.Keys)) {
			return false
		}
	}
	if a.Elem != nil && b.Elem != nil && a.Elem.Total() > 0 && b.Elem.Total() > 0 {
		return sameKind(a.Elem, b.Elem)
	}
	return true
}

// dates says whether a place holds texts that are written like dates.
func dates(p *shape.Place) bool {
	for c := range p.Classes {
		if c.Form != "" {
			return true
		}
	}
	return false
}
