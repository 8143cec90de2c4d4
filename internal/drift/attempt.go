package drift

import (
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
		w.add(event{place: place, key: n.Name, sent: "no key " + n.Name, tallies: tallies, values: values, of: objects, err: n.Missing, inexact: place.OpenForms})
	}
	if key == nil {
		if n.Second != nil {
			w.node(n.Second, place, true)
		}
		return
	}
	// One of several tells the class, and what is no text tells it or not.
	w.partial = w.partial || key.Later != nil || key.Place.Total() > key.Place.Count(wire.String)
	w.owner[place] = n.Model
	seen := map[*decoder.Node]bool{}
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
		case branch != nil:
			seen[branch] = true
		case n.Third != nil:
			seen[n.Third] = true
		default:
			_, err := n.Key(id)
			w.add(event{place: key.Place, sent: t.Literal, class: t.Class, literal: t.Literal, tallies: []*shape.Tally{&t.Tally}, values: t.Values, of: key.Place.Total(), err: err})
		}
	}
	if len(seen) == 1 && values == 0 {
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

// attempt takes a place through code that goes on where something fails or is
// nothing.
func (w *walk) attempt(n *decoder.Node, place *shape.Place, null bool) {
	before := w.events
	w.events = nil
	w.node(n.Inner, place, null)
	inner := w.events
	w.events = nil
	if n.Op == decoder.OpTry {
		for i := range inner {
			inner[i] = swallow(inner[i], place)
		}
		w.events = append(before, inner...)
		return
	}
	w.node(n.Second, place, null)
	second := w.events
	w.events = before
	constant := n.Second.Op == decoder.OpConst
	failed := map[*shape.Tally]bool{}
	for _, ev := range inner {
		lost := ev.loss == decoder.Swallowed || ev.loss == quiet || n.Op == decoder.OpCatch && ev.breaks()
		if !lost {
			w.events = append(w.events, ev)
			continue
		}
		for _, t := range ev.tallies {
			failed[t] = true
		}
		if constant {
			ev = swallow(ev, place)
			if ev.loss != quiet {
				ev.loss, ev.seen = decoder.Defaulted, n.Second.Value.String()
			}
			w.events = append(w.events, ev)
		}
	}
	if constant {
		return
	}
	// The second attempt only sees what the first has failed at.
	for _, ev := range second {
		if ev.tallies == nil && ev.err != nil && ev.err.Reason == decoder.ReasonCode {
			if ev = failAt(ev, inner, failed); len(ev.tallies) > 0 {
				w.events = append(w.events, ev)
			}
			continue
		}
		reached := ev.tallies[:0:0]
		values := int64(0)
		for _, t := range ev.tallies {
			if failed[t] {
				reached, values = append(reached, t), values+t.Values
			}
		}
		if len(reached) > 0 {
			ev.tallies, ev.values = reached, values
			w.events = append(w.events, ev)
		}
	}
}

// swallow makes of a failure what try? at a place makes of it. A key that is absent
// there, or null, is then nothing, as the author asked for; any other value is lost,
// and so is an object in which something is missing.
func swallow(ev event, place *shape.Place) event {
	if !ev.breaks() {
		return ev
	}
	far := len(ev.place.Steps) - len(place.Steps)
	if ev.err.Reason == decoder.ReasonMissing && far == 0 || ev.err.Reason == decoder.ReasonNull && far <= 1 {
		ev.loss = quiet
		return ev
	}
	ev.loss, ev.seen = decoder.Swallowed, "null"
	return ev
}
