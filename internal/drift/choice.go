package drift

import (
	"slices"
	"strconv"

	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// subtype takes objects that tell their class by a member through the class's node. Where
// there are several classes the counts do not say which objects are of which, unless they
// have been told apart: then nothing is claimed of what is in them.
func (w *walk) subtype(n *decoder.Node, place *shape.Place, null bool) {
	w.kinds(n, place, wire.Object, null)
	if n.Model != nil {
		w.visits = append(w.visits, Visit{n.Model, place})
		w.owner[place] = n.Model
	}
	switch {
	case len(place.Subtypes) > 0 && place.Teller != n.Name:
		w.partial = true // they are told apart as another class asks
		return
	case len(place.Subtypes) > 0:
		w.partial = w.partial || n.Leads != nil // where it stands, the counts do not say
		objects, told := int64(0), int64(0)
		for _, s := range place.Subtypes {
			n := s.Place.Count(wire.Object)
			if objects += n; s.Told {
				told += n
			}
		}
		for _, s := range place.Subtypes {
			w.told(n, s, objects, told)
		}
		return
	case place.Member != nil:
		w.untold(n, place)
		return
	}
	key := tellingKey(n, place)
	w.partial = w.partial || n.Leads != nil && key != nil // where it stands, the counts do not say
	w.note(place, n.Name)
	var keys []*shape.Key
	if key != nil {
		keys = append(keys, key)
	}
	objects := place.Count(wire.Object)
	mixed := place.Total() > objects+place.Count(wire.Null) // what is no object is settled above, not by the class
	tallies, values := without(place, keys)
	if values > 0 && n.Second == nil {
		w.ofClass(n.Model, finding.Event{Place: place, Key: n.Name, Sent: finding.NoKey(n.Name), Tallies: tallies, Values: values, Of: objects, Err: n.Missing, Inexact: place.OpenForms})
	}
	if key == nil {
		switch {
		case n.Second != nil && mixed:
			w.untold(n, place)
		case n.Second != nil:
			w.node(n.Second, place, true)
		}
		return
	}
	// One of several tells the class, and what is no text tells it or not.
	others := mixed || values > 0 || key.Later != nil || key.Place.Total() > key.Place.Count(wire.String)
	seen := map[*decoder.Node]bool{}
	if key.Place.Open(wire.String) {
		w.untold(n, place)
		return
	}
	for _, t := range key.Place.SortedTexts(wire.String) {
		id, _ := wire.Unquote([]byte(t.Literal))
		branch := branchOf(n, id)
		switch {
		case branch != nil && branch.Op == decoder.OpFail: // whatever else is in the object
			w.refused(branch, place, finding.Event{Sent: n.Name + " " + t.Literal, Tallies: []*shape.Tally{&t.Tally}, Values: t.Values, Of: objects})
			others = true
		case branch != nil:
			seen[branch] = true
		case n.Third != nil:
			seen[n.Third] = true
		default:
			_, err := n.Key(id)
			w.ofClass(n.Model, finding.Event{Place: key.Place, Key: n.Name, Sent: t.Literal, Class: t.Class, Literal: t.Literal, Tallies: []*shape.Tally{&t.Tally}, Values: t.Values, Of: key.Place.Total(), Err: err})
			others = true
		}
	}
	if len(seen) == 1 && !others {
		for branch := range seen {
			w.node(branch, place, true)
		}
		return
	}
	w.untold(n, place)
}

// tellingKey is the key at a place that tells the class, nil where there is none.
func tellingKey(n *decoder.Node, place *shape.Place) *shape.Key {
	key := place.Key(n.Name)
	for _, k := range place.Keys {
		if key == nil && n.Match != nil && n.Match(k.Name) == n.Name {
			key = k
		}
	}
	return key
}

// branchOf is what a text makes an OpSubtype read, nil where it knows no class of it.
func branchOf(n *decoder.Node, id string) (branch *decoder.Node) {
	for _, b := range n.Branches {
		if b.Key == id {
			branch = b.Node
		}
	}
	return branch
}

// ofClass adds an event that is the affair of a class as a whole: of the one that asks what
// class objects are of.
func (w *walk) ofClass(m *model.Model, ev finding.Event) {
	if m == nil { // of several without a name: it is told of what they are part of
		w.add(ev)
		return
	}
	outer := *w
	w.model, w.field, w.typ, w.elem = m, nil, "", false
	w.add(ev)
	w.model, w.field, w.typ, w.elem = outer.model, outer.field, outer.typ, outer.elem
}

// untold says that objects of several classes would have to be told apart.
func (w *walk) untold(n *decoder.Node, place *shape.Place) {
	w.partial = true
	teller := shape.Teller{Steps: place.Steps, Where: place.Where, Name: n.Name, Match: n.Match}
	for _, b := range n.Branches {
		teller.IDs = append(teller.IDs, b.Key)
	}
	w.tellers = append(w.tellers, teller)
	for _, k := range place.Keys { // some class or other reads it, as far as can be told
		w.note(place, k.Name)
	}
}

// told takes objects that have been told apart by their class through its node; objects is
// how many there are of all classes, told how many of them name one.
func (w *walk) told(n *decoder.Node, s *shape.Subtype, objects, told int64) {
	place := s.Place
	tallies := []*shape.Tally{place.Classes[shape.Class{Kind: wire.Object}]}
	values := place.Count(wire.Object)
	key := tellingKey(n, place)
	if key != nil {
		w.note(place, key.Name)
		w.partial = w.partial || key.Later != nil
	}
	branch := n.Third
	isNull := !s.Told && n.NullTells && key != nil && key.Place.Count(wire.Null) > 0
	if isNull && key.Place.Count(wire.Null) < values { // some lack it
		w.partial = true
		return
	}
	switch {
	case isNull && branch == nil:
		_, err := n.Key("null")
		w.ofClass(n.Model, finding.Event{Place: key.Place, Key: n.Name, Sent: "null", Tallies: tallies, Values: values, Of: objects, Err: err})
	case isNull:
	case !s.Told:
		if branch = n.Second; branch == nil {
			w.ofClass(n.Model, finding.Event{Place: place, Key: n.Name, Sent: finding.NoKey(n.Name), Tallies: tallies, Values: values, Of: objects, Err: n.Missing})
		}
	case s.Known:
		branch = branchOf(n, s.ID)
	}
	switch {
	case branch == nil:
		for _, k := range place.Keys { // it is decoded into nothing
			w.note(place, k.Name)
		}
		if s.Told {
			w.unknownClass(n, place, key, told)
		}
	case branch.Op == decoder.OpFail: // whatever else is in the object
		for _, k := range place.Keys {
			w.note(place, k.Name)
		}
		w.refused(branch, place, finding.Event{Sent: n.Name + " " + strconv.Quote(s.ID), Tallies: tallies, Values: values, Of: objects})
	default:
		w.node(branch, place, true)
	}
}

// unknownClass notes the texts that tell no class that an OpSubtype knows, of as many that
// tell one or not.
func (w *walk) unknownClass(n *decoder.Node, place *shape.Place, key *shape.Key, of int64) {
	if key == nil || key.Place.Open(wire.String) || key.Place.Total() > key.Place.Count(wire.String) {
		_, err := n.Key(model.NotTold)
		w.ofClass(n.Model, finding.Event{Place: place, Key: n.Name, Sent: "kinds of all sorts", Tallies: []*shape.Tally{place.Classes[shape.Class{Kind: wire.Object}]}, Values: place.Count(wire.Object), Of: of, Err: err})
		return
	}
	for _, t := range key.Place.SortedTexts(wire.String) {
		id, _ := wire.Unquote([]byte(t.Literal))
		_, err := n.Key(id)
		w.ofClass(n.Model, finding.Event{Place: key.Place, Key: n.Name, Sent: t.Literal, Class: t.Class, Literal: t.Literal, Tallies: []*shape.Tally{&t.Tally}, Values: t.Values, Of: of, Err: err})
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
		w.add(finding.Event{Place: place, Sent: "an object that does not name one case", Tallies: tallies, Values: values, Of: place.Count(wire.Object), Err: n.Error})
	}
	for _, b := range n.Branches {
		for _, k := range w.matching(place, b.Key) {
			w.note(place, k.Name)
			w.node(b.Node.Inner, k.Place, false)
		}
	}
}
