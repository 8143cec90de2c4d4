package drift

import (
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// always makes of events that nothing makes depend on what is sent ones of all objects.
func (w *walk) always() {
	for i := range w.events {
		ev := &w.events[i]
		if !ev.Refuses() || ev.Place == nil {
			continue
		}
		for _, c := range ev.Place.Sorted() {
			if c.Class.Kind == wire.Object {
				ev.Tallies, ev.Values = append(ev.Tallies, c.Tally), ev.Values+c.Values
			}
		}
		ev.Sent, ev.Class = "any value", shape.Class{Kind: wire.Object}
	}
}

func (w *walk) add(ev finding.Event) {
	ev.Model, ev.Field, ev.Element = w.model, w.field, w.elem
	if ev.Declared == "" {
		ev.Declared = w.typ
	}
	if ev.Err != nil && ev.Err.Later && ev.Why == "" {
		ev.Why = "decoding goes well; it is thrown where the app reads the value"
	}
	w.events = append(w.events, ev)
}

// quietNull notes nulls that the type admits.
func (w *walk) quietNull(place *shape.Place, c shape.Counted, of int64) {
	w.add(finding.Event{Place: place, Sent: "null", Class: c.Class, Tallies: []*shape.Tally{c.Tally}, Values: c.Values, Of: of, Loss: finding.Quiet})
}

func (w *walk) judge(n *decoder.Node, place *shape.Place, c shape.Class, t *shape.Tally, witness, literal string, total int64, inexact bool) {
	verdict := n.Read(finding.ValueOf(c, witness))
	if verdict.Err == nil && verdict.Loss == decoder.NoLoss && literal != "" && w.lost(verdict.Seen) {
		verdict = decoder.Verdict{Loss: decoder.Swallowed}
	}
	if verdict.Err == nil && verdict.Loss == decoder.NoLoss {
		if verdict.Seen.Kind == decoder.SeenUnknown && !n.Refers {
			w.notClaimed("what becomes of " + c.String() + " is not followed")
		}
		return
	}
	ev := finding.Event{
		Place: place, Sent: c.String(), Class: c, Literal: literal, Tallies: []*shape.Tally{t}, Values: t.Values, Of: total,
		Err: verdict.Err, Loss: verdict.Loss, Inexact: inexact,
	}
	if verdict.Loss == decoder.Misplaced {
		order, _ := wire.Unquote([]byte(witness))
		ev.Sent = "the order " + strings.Join(strings.Fields(order), ", ")
	}
	if verdict.Loss != decoder.NoLoss {
		ev.Seen = verdict.Seen.String()
	}
	w.add(ev)
}

// dropTwice drops events of values that code reads into a local name first: the field
// that takes the value from there has them too.
func (w *walk) dropTwice() {
	type same struct {
		place *shape.Place
		key   string
		class shape.Class
		text  string
		fails bool // a field that only loses the value does not say that it fails elsewhere
	}
	of := func(ev *finding.Event) same { return same{ev.Place, ev.Key, ev.Class, ev.Literal, ev.Breaks()} }
	ofField := map[same]bool{}
	for i := range w.events {
		if ev := &w.events[i]; ev.Field != nil {
			ofField[of(ev)] = true
		}
	}
	kept := w.events[:0]
	for i := range w.events {
		if ev := &w.events[i]; ev.Field != nil || ev.Model == nil || !ofField[of(ev)] {
			kept = append(kept, *ev)
		}
	}
	w.events = kept
}
