// Package each turns what code does with one element of a list, or one member of a map, into what it does
// with all of them. Code that reads by hand asks for elements by an index or a key of a loop: such an access
// is the way to the element, and what is done at its end is done for each.
package each

import (
	"vetta/internal/model"
)

// leftOut says that an element is left out of the list that is made.
var leftOut = &model.Expr{Op: model.OpLeftOut}

// perElement turns an expression of the element of a loop into one over all elements; nil where
// it is of several arrays.
func perElement(e *model.Expr) *model.Expr {
	way := WayToElement(e)
	if way == nil {
		return nil
	}
	inner := atElement(e, way)
	if inner == nil {
		return nil
	}
	return overList(inner, way)
}

// atElement is an expression with the element at the end of a way as its current value, nil
// where it reads anything else.
func atElement(e *model.Expr, way []*model.Expr) *model.Expr {
	switch {
	case e.Op == model.OpConst && e.Func != "index", e.Op == model.OpFail, e.Op == model.OpLeftOut:
		return e
	case computes(e) || e.Op == model.OpCatch:
		return withArgs(e, func(a *model.Expr) *model.Expr { return atElement(a, way) })
	}
	for i, step := range way {
		if e.Op != step.Op || e.Key != step.Key || e.Lossy != step.Lossy || len(e.Args) != 1 || i < len(way)-1 && e.Func != step.Func {
			return nil
		}
		if i == len(way)-1 && WayToElement(e.Args[0]) != nil { // a loop in the loop
			return nil
		}
		if i == len(way)-1 {
			return &model.Expr{Op: model.OpSelf, Func: e.Func, Args: e.Args, Pos: e.Pos}
		}
		e = e.Args[0]
	}
	return nil
}

// ofList is the expression of one element in one over all of them, with the way to the list;
// nil where it is none.
func ofList(e *model.Expr) (inner *model.Expr, way []*model.Expr) {
	for ; (e.Op == model.OpAt || e.Op == model.OpElem) && len(e.Args) == 1; e = e.Args[0] {
		way = append(way, e)
	}
	if e.Op != model.OpEach || len(way) == 0 || len(e.Args) != 1 {
		return nil, nil
	}
	way = append(way, &model.Expr{Op: model.OpElem, Lossy: true, Func: e.Func, Pos: e.Pos})
	if e.Func == "element" {
		return e.Args[0], way
	}
	return &model.Expr{Op: model.OpSelf, Func: e.Func, Args: e.Args, Pos: e.Pos}, way
}

// overList is an expression of one element over all that a way leads to.
func overList(inner *model.Expr, way []*model.Expr) *model.Expr {
	out := &model.Expr{Op: model.OpEach, Func: "element", Args: []*model.Expr{inner}, Pos: way[len(way)-1].Pos}
	for i := len(way) - 2; i >= 0; i-- {
		at := *way[i]
		at.Args = []*model.Expr{out}
		out = &at
	}
	return out
}

// WithoutNulls is a list without what is null in it.
func WithoutNulls(list *model.Expr) *model.Expr {
	inner, way := ofList(list)
	if inner == nil {
		return nil
	}
	return overList(&model.Expr{Op: model.OpElse, Args: []*model.Expr{inner, leftOut}, Pos: list.Pos}, way)
}

// Either is what two lists make of each element, by a condition of it; nil where the condition is
// of something else, or the lists are of two arrays. One of them may be nil.
func Either(cond, yes, no *model.Expr) *model.Expr {
	one, other := leftOut, leftOut
	var way []*model.Expr
	for _, of := range []struct{ list, into **model.Expr }{{&yes, &one}, {&no, &other}} {
		if *of.list == nil {
			continue
		}
		inner, own := ofList(*of.list)
		if inner == nil || way != nil && !sameWay(way, own) {
			return nil
		}
		*of.into, way = inner, own
	}
	if way == nil {
		return nil
	}
	is := atElement(cond, way)
	if is == nil {
		return nil
	}
	return overList(&model.Expr{Op: model.OpIf, Args: []*model.Expr{is, one, other}, Pos: cond.Pos}, way)
}

func sameWay(a, b []*model.Expr) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		if a[i].Op != b[i].Op || a[i].Key != b[i].Key || i < len(a)-1 && a[i].Func != b[i].Func {
			return false
		}
	}
	return true
}

// ofEach turns what is made of one element of a loop into what is made of all: of upper(a[i]) it
// makes upper of each in a. nil where the element is not all that it is made of.
func ofEach(e *model.Expr) *model.Expr {
	var made []*model.Expr // from the outermost in
	for e.Op == model.OpCall && len(e.Args) == 1 {
		made, e = append(made, e), e.Args[0]
	}
	if len(made) == 0 || e.Op == model.OpCall {
		return nil
	}
	var way []*model.Expr
	for ; (e.Op == model.OpAt || e.Op == model.OpElem) && len(e.Args) == 1; e = e.Args[0] {
		way = append(way, e)
		if e.Op == model.OpElem && e.Lossy {
			break
		}
	}
	if len(way) == 0 || !way[len(way)-1].Lossy {
		return nil
	}
	last := way[len(way)-1]
	inner := last.Args[0]
	for i := len(made) - 1; i >= 0; i-- {
		call := *made[i]
		call.Args = []*model.Expr{inner}
		inner = &call
	}
	out := &model.Expr{Op: model.OpEach, Func: last.Func, Args: []*model.Expr{inner}, Pos: last.Pos, Type: last.Type}
	for i := len(way) - 2; i >= 0; i-- {
		at := *way[i]
		at.Args = []*model.Expr{out}
		out = &at
	}
	return out
}

// HoldsEach says whether an expression reads the elements of a list or the members of a map.
func HoldsEach(e *model.Expr) bool {
	found := false
	e.Walk(func(e *model.Expr) { found = found || e.Op == model.OpEach || e.Op == model.OpEachKey })
	return found
}

// EachKey turns an expression that reads at the key of a loop into one over all members; nil
// where it does not.
func EachKey(e *model.Expr) *model.Expr {
	if e == nil {
		return nil
	}
	if e.Op == model.OpAt && e.Lossy {
		return &model.Expr{Op: model.OpEachKey, Func: e.Func, Args: e.Args, Pos: e.Pos}
	}
	if e.Op == model.OpNew || e.Op == model.OpCall { // several arguments may read there; what is made of each
		return nil
	}
	for i, a := range e.Args {
		if inner := EachKey(a); inner != nil {
			out := *e
			out.Args = append([]*model.Expr(nil), e.Args...)
			out.Args[i] = inner
			return &out
		}
	}
	return nil
}

// Refusal is what must be evaluated of each element where one way of a branch does nothing but throw
// by a condition of it, with what the other way does; nil where none does.
func Refusal(s model.Step) (must *model.Expr, otherwise []model.Step) {
	throws := func(steps []model.Step) bool {
		return len(steps) == 1 && steps[0].Expr != nil && steps[0].Expr.Op == model.OpFail
	}
	if WayToElement(s.Cond) == nil || throws(s.Then) == throws(s.Else) {
		return nil, nil
	}
	fine := &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.BoolLiteral, Text: "true"}, Pos: s.Pos}
	must = &model.Expr{Op: model.OpIf, Args: []*model.Expr{s.Cond, fine, fine}, Pos: s.Pos}
	if throws(s.Then) {
		must.Args[1] = s.Then[0].Expr
		return must, s.Else
	}
	must.Args[2] = s.Else[0].Expr
	return must, s.Then
}

// OfEachElement is the step that evaluates expressions of the element of a loop for what they throw,
// in their order, for one element after the other; none where they are of several arrays.
func OfEachElement(must []*model.Expr, pos model.Pos) []model.Step {
	if len(must) == 0 {
		return nil
	}
	e := perElement(&model.Expr{Op: model.OpCall, Func: model.Computed, Args: must, Pos: pos})
	if e == nil {
		return nil
	}
	return []model.Step{{Expr: e, Pos: pos}}
}

// Each turns an expression that reads at the index of a loop into one over all elements;
// nil where it does not.
func Each(e *model.Expr) *model.Expr {
	if e == nil {
		return nil
	}
	if e.Op == model.OpElem && e.Lossy {
		// The element becomes the current value of what is inside.
		return &model.Expr{Op: model.OpEach, Func: e.Func, Args: e.Args, Pos: e.Pos, Type: e.Type}
	}
	if e.Op == model.OpCall { // what is made of each, not of the list
		if made := ofEach(e); made != nil {
			return made
		}
	}
	if computes(e) && e.Op != model.OpNew {
		return perElement(e)
	}
	for i, a := range e.Args {
		if inner := Each(a); inner != nil {
			out := *e
			out.Args = append([]*model.Expr(nil), e.Args...)
			out.Args[i] = inner
			return &out
		}
	}
	return nil
}
