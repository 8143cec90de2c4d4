package byhand

import (
	"vetta/internal/code"
	"vetta/internal/model"
)

// Lists that hold something for some elements of an array only: what is made of an element is
// then an expression of that element, which says whether it is left out.

// elementIs is the condition that the element of a loop over an array is of a kind: object,
// array, or value for any but null.
func elementIs(array []access, kind string, pos model.Pos) *model.Expr {
	at := append(append([]access(nil), array...), access{fn: "element", each: true, pos: pos})
	return nest(at, &model.Expr{Op: model.OpGiven, Func: kind, Pos: pos})
}

// perElement turns an expression of the element of a loop into one over all elements; nil where
// it is of several arrays.
func perElement(e *model.Expr) *model.Expr {
	way := wayToElement(e)
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
		if i == len(way)-1 && wayToElement(e.Args[0]) != nil { // a loop in the loop
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

var leftOut = &model.Expr{Op: model.OpLeftOut}

// withoutNulls is a list without what is null in it.
func withoutNulls(list *model.Expr) *model.Expr {
	inner, way := ofList(list)
	if inner == nil {
		return nil
	}
	return overList(&model.Expr{Op: model.OpElse, Args: []*model.Expr{inner, leftOut}, Pos: list.Pos}, way)
}

// either is what two lists make of each element, by a condition of it; nil where the condition is
// of something else, or the lists are of two arrays. One of them may be nil.
func either(cond, yes, no *model.Expr) *model.Expr {
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

// fillsOne are the lists that two branches have filled an empty one with, nil where one of them
// has done anything else.
func fillsOne(before, yes, no *value) []*model.Expr {
	if before == nil || !before.isList || len(before.list) > 0 || len(yes.list)+len(no.list) == 0 || len(yes.list) > 1 || len(no.list) > 1 {
		return nil
	}
	out := []*model.Expr{nil, nil}
	if len(yes.list) > 0 {
		out[0] = yes.list[0]
	}
	if len(no.list) > 0 {
		out[1] = no.list[0]
	}
	return out
}

// listIf is a list that is filled by a condition of each element.
func listIf(cond *model.Expr, before, yes, no *value) *value {
	lists := fillsOne(before, yes, no)
	e := either(cond, lists[0], lists[1])
	if e == nil {
		return changed("a list", cond.Pos)
	}
	out := *before
	out.list = []*model.Expr{e}
	return &out
}

// conditional are the steps of a branch. Where its condition is of the element of a loop, all that
// it may do is to fill a field's list: then the list is filled by that condition.
func (w *follower) conditional(at int32, s model.Step) []model.Step {
	switch {
	case wayToElement(s.Cond) == nil:
		return []model.Step{s}
	case len(s.Then)+len(s.Else) == 0:
		return nil
	}
	var lists [2]*model.Expr
	field := ""
	for i, steps := range [][]model.Step{s.Then, s.Else} {
		if len(steps) == 0 {
			continue
		}
		if one := steps[0]; len(steps) == 1 && one.Expr != nil && one.Cond == nil && (field == "" || field == one.Field) {
			field, lists[i] = one.Field, one.Expr
			continue
		}
		w.fail(at, "a condition of one element")
		return nil
	}
	if e := either(s.Cond, lists[0], lists[1]); field != "" && e != nil {
		return []model.Step{{Field: field, Expr: e, Pos: s.Pos}}
	}
	w.fail(at, "a condition of one element")
	return nil
}

// skips says whether a block is nothing but continue.
func skips(all []code.Stmt) bool { return len(all) == 1 && isContinue(&all[0]) }

func isContinue(s *code.Stmt) bool { return s.Kind == code.Jump && s.Name == "continue" }

// unlessSkipped follows val part = array.optJSONObject(i) ?: continue, and what stands behind it in
// the block of the loop, which is done for such a part alone. ok is false where the statement is another.
func (w *follower) unlessSkipped(s *code.Stmt, after []code.Stmt, env map[string]*value) (steps []model.Step, ok bool) {
	e := s.Value
	if e == nil || e.Op != code.Choice || len(e.Body) > 0 || e.Args[1].Op != code.Name || e.Args[1].Text != "continue" {
		return nil, false
	}
	pos := w.f.At(s.From)
	if s.Op != code.Let || !w.inLoop() {
		w.fail(s.From, "continue")
		return nil, true
	}
	let := *s
	let.Value = e.Args[0]
	steps = append(w.simple(&let, env), w.take()...)
	v := env[s.Name]
	if w.why != "" || v == nil || !v.isNode || len(v.path) == 0 || len(steps) > 0 {
		w.fail(s.From, "continue")
		return nil, true
	}
	cond := given(v)
	yes, no := fork(env), fork(env)
	around := w.skipped
	w.skipped = true
	then := w.rest(after, yes)
	w.skipped = around
	joined(env, yes, no, cond, over(then), false, pos)
	return w.conditional(s.From, model.Step{Cond: cond, Then: then, Pos: pos}), true
}

// ofEachElement is the step that evaluates expressions of the element of a loop for what they throw,
// in their order, for one element after the other; none where they are of several arrays.
func ofEachElement(must []*model.Expr, pos model.Pos) []model.Step {
	if len(must) == 0 {
		return nil
	}
	e := perElement(&model.Expr{Op: model.OpCall, Func: model.Computed, Args: must, Pos: pos})
	if e == nil {
		return nil
	}
	return []model.Step{{Expr: e, Pos: pos}}
}

// refusal is what must be evaluated of each element where one way of a branch does nothing but throw
// by a condition of it, with what the other way does; nil where none does.
func refusal(s model.Step) (must *model.Expr, otherwise []model.Step) {
	throws := func(steps []model.Step) bool {
		return len(steps) == 1 && steps[0].Expr != nil && steps[0].Expr.Op == model.OpFail
	}
	if wayToElement(s.Cond) == nil || throws(s.Then) == throws(s.Else) {
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
