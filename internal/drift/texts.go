package drift

import (
	"slices"

	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// tooMany says that a node tells values of a kind apart by their text where these became too many to be kept: one of them
// says nothing of the others. They are judged one by one when the responses are read again; until then, or where they
// cannot be, nothing is claimed of them.
func (w *walk) tooMany(n *decoder.Node, place *shape.Place, c shape.Class, witness string) bool {
	if witness == "" && c.Kind >= wire.Number && c.Kind <= wire.String { // it looked secret, and was not kept
		w.unkept(n, place, c)
		return true
	}
	if c.Fares != "" || !minds(n, place, c) || !place.Open(c.Kind) || c.Facts&shape.Empty != 0 && c.Kind == wire.String {
		return false
	}
	if decides(n, c) {
		return false
	}
	w.unkept(n, place, c)
	return true
}

// unkept notes that nothing is known of how values of a class fare with a node.
func (w *walk) unkept(n *decoder.Node, place *shape.Place, c shape.Class) {
	w.partial = true
	if asks := (judged{n, place, c.Kind}); !slices.Contains(w.judged, asks) {
		w.judged = append(w.judged, asks)
	}
}

// oddNumbers are the facts of numbers at which types and libraries part: of others the facts say all.
const oddNumbers = shape.HasExponent | shape.Beyond63 | shape.Beyond64 | shape.Loses128 | shape.TooLarge32 | shape.TooLarge64 | shape.TooLarge128 | shape.TooSmall32 | shape.TooSmall64 | shape.RoundsTo63 | shape.RoundsTo64 | shape.AtEdge

// decides says whether the facts of a class of texts are all that a node asks for, so that one text stands for the others.
func decides(n *decoder.Node, c shape.Class) bool {
	return c.Kind == wire.String && (n.ByFacts && c.Facts&shape.IsNumber != 0 && c.Facts&oddNumbers == 0 || n.ByDate && c.Facts&shape.PlainDate != 0)
}

// minds says whether a node tells values of a class apart by their text.
func minds(n *decoder.Node, place *shape.Place, c shape.Class) bool {
	return n.ByText(c.Kind) || n.MindsForm && c.Kind == wire.String && place.Formless() || n.Wraps && c.Kind == wire.Number && c.Facts&(shape.HasExponent|shape.Beyond63) != 0
}

// judged is a node that asks for texts, or numbers, which became too many at a place.
type judged struct {
	node  *decoder.Node
	place *shape.Place
	kind  wire.Kind
}

// judge says how a literal fares with the node: values that it says the same of are alike in all that findings tell.
func (j judged) judge() shape.Judge {
	return shape.Judge{Steps: j.place.Steps, Where: j.place.Where, Kind: j.kind, Of: func(literal []byte) string {
		verdict := j.node.Read(finding.ValueOf(shape.Class{Kind: j.kind}, string(literal)))
		switch {
		case verdict.Err != nil && verdict.Err.Later:
			return "later " + verdict.Err.Kind
		case verdict.Err != nil:
			return "fails " + verdict.Err.Kind + " " + string(verdict.Err.Reason)
		case verdict.Loss != decoder.NoLoss:
			return "loses " + string(verdict.Loss)
		}
		return "fits"
	}}
}
