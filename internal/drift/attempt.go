package drift

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/shape"
)

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
		lost := ev.Loss == decoder.Swallowed || ev.Loss == finding.Quiet || n.Op == decoder.OpCatch && ev.Breaks() && !ev.Err.Endless()
		if !lost {
			w.events = append(w.events, ev)
			continue
		}
		for _, t := range ev.Tallies {
			failed[t] = true
		}
		if constant {
			ev = swallow(ev, place)
			if ev.Loss != finding.Quiet {
				ev.Loss, ev.Seen = decoder.Defaulted, n.Second.Value.String()
			}
			w.events = append(w.events, ev)
		}
	}
	if constant {
		return
	}
	// The second attempt only sees what the first has failed at.
	for _, ev := range second {
		if ev.Refuses() {
			if ev = failAt(ev, inner, failed); len(ev.Tallies) > 0 {
				w.events = append(w.events, ev)
			}
			continue
		}
		reached := ev.Tallies[:0:0]
		values := int64(0)
		for _, t := range ev.Tallies {
			if failed[t] {
				reached, values = append(reached, t), values+t.Values
			}
		}
		if len(reached) > 0 {
			ev.Tallies, ev.Values = reached, values
			w.events = append(w.events, ev)
		}
	}
}

// swallow makes of a failure what try? at a place makes of it. A key that is absent
// there, or null, is then nothing, as the author asked for; any other value is lost,
// and so is an object in which something is missing.
func swallow(ev finding.Event, place *shape.Place) finding.Event {
	if !ev.Breaks() || ev.Err.Endless() {
		return ev
	}
	far := len(ev.Place.Steps) - len(place.Steps)
	if ev.Err.Reason == decoder.ReasonMissing && far == 0 || ev.Err.Reason == decoder.ReasonNull && far <= 1 {
		ev.Loss = finding.Quiet
		return ev
	}
	ev.Loss, ev.Seen = decoder.Swallowed, "null"
	return ev
}
