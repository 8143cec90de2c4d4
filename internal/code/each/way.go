package each

import (
	"slices"
	"strings"

	"vetta/internal/model"
)

// Hoisted takes the way to the element of a loop out of the arguments of a new instance, and
// puts the instance at its end: of new Port(a[i].code, a[i].depth) it makes a[i] as
// new Port(code, depth). nil where the arguments are of several elements.
func Hoisted(e *model.Expr) *model.Expr {
	var way []*model.Expr // from the object down to the element
	for _, a := range e.Args {
		if to := WayToElement(a); to != nil {
			way = to
			break
		}
	}
	if way == nil {
		return e
	}
	leaf := below(e, way)
	for i := len(way) - 1; i >= 0 && leaf != nil; i-- {
		at := *way[i]
		at.Args = []*model.Expr{leaf}
		leaf = &at
	}
	return leaf
}

// WayToElement are the accesses from an expression down to the element of a loop, nil where
// it reads none.
func WayToElement(e *model.Expr) []*model.Expr {
	switch {
	case computes(e):
		for _, a := range e.Args {
			if way := WayToElement(a); way != nil {
				return way
			}
		}
		return nil
	case e.Op != model.OpAt && e.Op != model.OpElem || len(e.Args) != 1:
		return nil
	case e.Op == model.OpElem && e.Lossy:
		return []*model.Expr{e}
	}
	if inner := WayToElement(e.Args[0]); inner != nil {
		return append([]*model.Expr{e}, inner...)
	}
	return nil
}

// computes says whether an expression makes its value of those of its arguments, each of
// which goes its own way into the document.
func computes(e *model.Expr) bool {
	switch e.Op {
	case model.OpNew, model.OpElse, model.OpIf, model.OpCall:
		return true
	}
	return false
}

// withArgs is an expression with other arguments, each made of its own; nil where one cannot be made.
func withArgs(e *model.Expr, of func(*model.Expr) *model.Expr) *model.Expr {
	out := *e
	out.Args = nil
	for _, a := range e.Args {
		inner := of(a)
		if inner == nil {
			return nil
		}
		out.Args = append(out.Args, inner)
	}
	return &out
}

// below is what an expression does at the end of a way, nil where it does not go there.
func below(e *model.Expr, way []*model.Expr) *model.Expr {
	switch {
	case e.Op == model.OpConst && e.Func != "index", e.Op == model.OpFail:
		return e
	case computes(e) || e.Op == model.OpCatch: // the way itself fails outside of it as well
		if e.Op != model.OpNew && !strings.HasPrefix(way[len(way)-1].Func, "get") { // which may answer null, and the expression make something of that
			return nil
		}
		return withArgs(e, func(a *model.Expr) *model.Expr { return below(a, way) })
	}
	for _, step := range way {
		if e.Op != step.Op || e.Key != step.Key || e.Func != step.Func || e.Lossy != step.Lossy || len(e.Args) != 1 {
			return nil
		}
		e = e.Args[0]
	}
	if e.Op == model.OpCast { // the element itself: there is no object to go into
		return nil
	}
	return e
}

// OfLoop says whether an expression reads at the index or the key of a loop.
func OfLoop(e *model.Expr) bool {
	if (e.Op == model.OpElem || e.Op == model.OpAt) && e.Lossy {
		return true
	}
	return slices.ContainsFunc(e.Args, OfLoop)
}
