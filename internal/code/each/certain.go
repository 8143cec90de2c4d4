package each

import (
	"slices"

	"vetta/internal/model"
)

// Certainly says whether evaluating one expression evaluates another, come what may.
func Certainly(e, other *model.Expr) bool {
	if e == other || Along(e, other) {
		return true
	}
	switch e.Op {
	case model.OpIf, model.OpElse, model.OpCatch:
		return e.Op != model.OpCatch && Certainly(e.Args[0], other)
	case model.OpCall:
		if e.Func == "&&" || e.Func == "||" {
			return Certainly(e.Args[0], other)
		}
	case model.OpEach, model.OpEachKey: // of none there may be nothing to do
		return false
	}
	return slices.ContainsFunc(e.Args, func(a *model.Expr) bool { return Certainly(a, other) })
}

// Along says whether one expression goes through the part of the document that another one only
// asks to be there.
func Along(e, other *model.Expr) bool {
	for other.Op == model.OpAt || other.Op == model.OpElem {
		if e.Op != other.Op || e.Key != other.Key || e.Func != other.Func || e.Index != other.Index || e.Lossy != other.Lossy || len(e.Args) != 1 {
			return false
		}
		e, other = e.Args[0], other.Args[0]
	}
	return other.Op == model.OpConst
}
