package drift

import (
	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// event is one thing that a walk through a plan and a shape has met: values of one
// class, or objects without one key, that do not decode or are seen as other than
// they were sent.
type event struct {
	model    *model.Model
	field    *model.Field
	declared string
	place    *shape.Place // where the value is; of an absent key, the object
	key      string       // of an absent key
	sent     string       // what was sent, in words
	literal  string       // the literal, where one text alone is meant
	class    shape.Class
	tallies  []*shape.Tally
	values   int64
	of       int64 // values or objects looked at
	err      *decoder.Error
	loss     decoder.Loss
	seen     string // what the app sees, of a loss
	why      string // why it comes so, where the library tells more than the kind does
	// inexact says that the values could not be told apart finely enough: some of
	// them may fare otherwise.
	inexact bool
	list    bool // a list is wanted
	element bool // the value is in a list or map of the field, not the field's own
}

// breaks says whether the event makes decoding fail.
func (ev *event) breaks() bool { return ev.err != nil && ev.loss == decoder.NoLoss }

// refuses says whether the event is that code throws, whatever is sent, where it comes to it.
func (ev *event) refuses() bool {
	return ev.tallies == nil && ev.breaks() && ev.err.Reason == decoder.ReasonCode
}

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

// valueOf is a value of a class, for a node to judge.
func valueOf(c shape.Class, witness string) *wire.Value {
	v := &wire.Value{Kind: c.Kind, Raw: []byte(witness)}
	switch c.Kind {
	case wire.Null:
		v.Raw = []byte("null")
	case wire.Bool:
		v.Raw = []byte("false")
		if c.Facts&shape.True != 0 {
			v.Raw = []byte("true")
		}
	}
	return v
}

var kindWords = map[wire.Kind]string{
	wire.Null: "null", wire.Bool: "a bool", wire.Number: "a number", wire.String: "a string", wire.Array: "an array", wire.Object: "an object",
}

// quiet is the loss of nothing: an absent key or a null that becomes nothing.
const quiet decoder.Loss = "quiet"
