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
