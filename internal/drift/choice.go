package drift

import (
	"slices"

	"vetta/internal/decoder"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// subtype takes objects that tell their class by a member through the class's node. The
// counts do not say which objects are of which class, so where there are several nothing
// is claimed of what is in them.
func (w *walk) subtype(n *decoder.Node, place *shape.Place, null bool) {
	w.kinds(n, place, wire.Object, null)
	if place.Member != nil {
		w.partial = true
		return
	}
	w.visits = append(w.visits, Visit{n.Model, place})
	w.owner[place] = n.Model
	told := func(ev event) { // what tells the class is the affair of the class that asks for it
		outer := *w
		w.model, w.field, w.typ, w.elem = n.Model, nil, "", false
		w.add(ev)
		w.model, w.field, w.typ, w.elem = outer.model, outer.field, outer.typ, outer.elem
	}
	key := place.Key(n.Name)
	for _, k := range place.Keys {
		if key == nil && n.Match != nil && n.Match(k.Name) == n.Name {
			key = k
		}
	}
	w.note(place, n.Name)
	var keys []*shape.Key
	if key != nil {
		keys = append(keys, key)
	}
	objects := place.Count(wire.Object)
	tallies, values := without(place, keys)
	if values > 0 && n.Second == nil {
		told(event{place: place, key: n.Name, sent: "no key " + n.Name, tallies: tallies, values: values, of: objects, err: n.Missing, inexact: place.OpenForms})
	}
	if key == nil {
		if n.Second != nil {
			w.node(n.Second, place, true)
		}
		return
	}
	// One of several tells the class, and what is no text tells it or not.
	w.partial = w.partial || key.Later != nil || key.Place.Total() > key.Place.Count(wire.String)
	seen := map[*decoder.Node]bool{}
	refused := false
	if key.Place.Open(wire.String) {
		w.partial = true
		return
	}
	for _, t := range key.Place.SortedTexts(wire.String) {
		id, _ := wire.Unquote([]byte(t.Literal))
		var branch *decoder.Node
		for _, b := range n.Branches {
			if b.Key == id {
				branch = b.Node
			}
		}
		switch {
		case branch != nil && branch.Op == decoder.OpFail: // whatever else is in the object
			w.refused(branch, place, event{sent: n.Name + " " + t.Literal, tallies: []*shape.Tally{&t.Tally}, values: t.Values, of: objects})
			refused = true
		case branch != nil:
			seen[branch] = true
		case n.Third != nil:
			seen[n.Third] = true
		default:
			_, err := n.Key(id)
			told(event{place: key.Place, key: n.Name, sent: t.Literal, class: t.Class, literal: t.Literal, tallies: []*shape.Tally{&t.Tally}, values: t.Values, of: key.Place.Total(), err: err})
		}
	}
	if len(seen) == 1 && values == 0 && !refused {
		for branch := range seen {
			w.node(branch, place, true)
		}
		return
	}
	w.partial = true
	for _, k := range place.Keys { // some class or other reads it, as far as can be told
		w.note(place, k.Name)
	}
}

// listed says whether an element of the lists at a place names a class that the node knows.
func listed(n *decoder.Node, place *shape.Place) bool {
	if n.Second != nil || place.Elem == nil {
		return false
	}
	for _, t := range place.Elem.SortedTexts(wire.String) {
		id, _ := wire.Unquote([]byte(t.Literal))
		if slices.ContainsFunc(n.Branches, func(b decoder.Branch) bool { return b.Key == id }) {
			return true
		}
	}
	return place.Elem.Open(wire.String)
}

// cases takes objects that name a case of an enum through the case's node.
func (w *walk) cases(n *decoder.Node, place *shape.Place) {
	if place.Member != nil {
		return
	}
	var tallies []*shape.Tally
	values := int64(0)
	for _, f := range place.Forms {
		named := 0
		for _, b := range n.Branches {
			for _, k := range w.matching(place, b.Key) {
				if f.Has(k) {
					named++
				}
			}
		}
		if named != 1 {
			tallies, values = append(tallies, &f.Tally), values+f.Values
		}
	}
	if values > 0 {
		w.add(event{place: place, sent: "an object that does not name one case", tallies: tallies, values: values, of: place.Count(wire.Object), err: n.Error})
	}
	for _, b := range n.Branches {
		for _, k := range w.matching(place, b.Key) {
			w.note(place, k.Name)
			w.node(b.Node.Inner, k.Place, false)
		}
	}
}
