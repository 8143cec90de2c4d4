package finding

import (
	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// Event is one thing that a walk through a plan and a shape has met: values of one
// class, or objects without one key, that do not decode or are seen as other than
// they were sent.
type Event struct {
	Model    *model.Model
	Field    *model.Field
	Declared string
	Place    *shape.Place // where the value is; of an absent key, the object
	Key      string       // of an absent key
	Sent     string       // what was sent, in words
	Literal  string       // the literal, where one text alone is meant
	Class    shape.Class
	Tallies  []*shape.Tally
	Values   int64
	Of       int64 // values or objects looked at
	Err      *decoder.Error
	Loss     decoder.Loss
	Seen     string // what the app sees, of a loss
	Why      string // why it comes so, where the library tells more than the kind does
	// inexact says that the values could not be told apart finely enough: some of
	// them may fare otherwise.
	Inexact bool
	List    bool // a list is wanted
	Element bool // the value is in a list or map of the field, not the field's own
}

// Breaks says whether the event makes decoding fail.
func (ev *Event) Breaks() bool { return ev.Err != nil && ev.Loss == decoder.NoLoss }

// Refuses says whether the event is that code throws, whatever is sent, where it comes to it.
func (ev *Event) Refuses() bool {
	return ev.Tallies == nil && ev.Breaks() && ev.Err.Reason == decoder.ReasonCode
}

// ValueOf is a value of a class, for a node to judge.
func ValueOf(c shape.Class, witness string) *wire.Value {
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

// KindWords are the kinds of values as a sentence has them.
var KindWords = map[wire.Kind]string{
	wire.Null: "null", wire.Bool: "a bool", wire.Number: "a number", wire.String: "a string", wire.Array: "an array", wire.Object: "an object",
}

// Quiet is the loss of nothing: an absent key or a null that becomes nothing.
const Quiet decoder.Loss = "quiet"
