package drift

import (
	"vetta/internal/decoder"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// always makes of events that nothing makes depend on what is sent ones of all objects.
func (w *walk) always() {
	for i := range w.events {
		ev := &w.events[i]
		if !ev.refuses() || ev.place == nil {
			continue
		}
		for _, c := range ev.place.Sorted() {
			if c.Class.Kind == wire.Object {
				ev.tallies, ev.values = append(ev.tallies, c.Tally), ev.values+c.Values
			}
		}
		ev.sent, ev.class = "any value", shape.Class{Kind: wire.Object}
	}
}

func (w *walk) add(ev event) {
	ev.model, ev.field, ev.element = w.model, w.field, w.elem
	if ev.declared == "" {
		ev.declared = w.typ
	}
	w.events = append(w.events, ev)
}

// quietNull notes nulls that the type admits.
func (w *walk) quietNull(place *shape.Place, c shape.Counted, of int64) {
	w.add(event{place: place, sent: "null", class: c.Class, tallies: []*shape.Tally{c.Tally}, values: c.Values, of: of, loss: quiet})
}

func (w *walk) judge(n *decoder.Node, place *shape.Place, c shape.Class, t *shape.Tally, witness, literal string, total int64, inexact bool) {
	verdict := n.Read(valueOf(c, witness))
	if verdict.Err == nil && verdict.Loss == decoder.NoLoss && literal != "" && w.lost(verdict.Seen) {
		verdict = decoder.Verdict{Loss: decoder.Swallowed}
	}
	if verdict.Err == nil && verdict.Loss == decoder.NoLoss {
		return
	}
	ev := event{
		place: place, sent: c.String(), class: c, literal: literal, tallies: []*shape.Tally{t}, values: t.Values, of: total,
		err: verdict.Err, loss: verdict.Loss, inexact: inexact,
	}
	if verdict.Loss != decoder.NoLoss {
		ev.seen = verdict.Seen.String()
	}
	w.add(ev)
}
