package byhand

import (
	"slices"

	"vetta/internal/model"
)

// A value behind others that are read before it, whatever is done with them: they may throw.

// after is a value behind expressions that must be evaluated before it, as far as it does not
// evaluate them itself.
func (w *follower) after(at int32, must []*model.Expr, v *value) *value {
	if v == nil || w.why != "" {
		return nil
	}
	for len(must) > 0 && v.evaluates(must[len(must)-1]) { // those before others are kept, for which throws first
		must = must[:len(must)-1]
	}
	switch {
	case len(must) == 0:
		return v
	case v.expr == nil || v.isNode || v.isList || v.isMap || v.instance || len(v.behind) > 0 || v.expr.Op == model.OpNew:
		w.fail(at, "what a function reads besides")
		return nil
	}
	out := *v
	out.expr = &model.Expr{Op: model.OpCall, Func: model.After, Args: append(slices.Clone(must), v.expr), Pos: v.expr.Pos}
	return &out
}

// evaluates says whether a value cannot be had without evaluating an expression.
func (v *value) evaluates(e *model.Expr) bool {
	if v.isNode {
		return along(nest(v.path, &model.Expr{Op: model.OpConst}), e)
	}
	return v.expr != nil && certainly(v.expr, e)
}

// certainly says whether evaluating one expression evaluates another, come what may.
func certainly(e, other *model.Expr) bool {
	if e == other || along(e, other) {
		return true
	}
	switch e.Op {
	case model.OpIf, model.OpElse, model.OpCatch:
		return e.Op != model.OpCatch && certainly(e.Args[0], other)
	case model.OpCall:
		if e.Func == "&&" || e.Func == "||" {
			return certainly(e.Args[0], other)
		}
	case model.OpEach, model.OpEachKey: // of none there may be nothing to do
		return false
	}
	return slices.ContainsFunc(e.Args, func(a *model.Expr) bool { return certainly(a, other) })
}

// along says whether one expression goes through the part of the document that another one only
// asks to be there.
func along(e, other *model.Expr) bool {
	for other.Op == model.OpAt || other.Op == model.OpElem {
		if e.Op != other.Op || e.Key != other.Key || e.Func != other.Func || e.Index != other.Index || e.Lossy != other.Lossy || len(e.Args) != 1 {
			return false
		}
		e, other = e.Args[0], other.Args[0]
	}
	return other.Op == model.OpConst
}
