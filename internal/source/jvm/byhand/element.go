package byhand

import (
	"vetta/internal/code"
	"vetta/internal/code/each"
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
	e := each.Either(cond, lists[0], lists[1])
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
	case each.WayToElement(s.Cond) == nil:
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
	if e := each.Either(s.Cond, lists[0], lists[1]); field != "" && e != nil {
		return []model.Step{{Field: field, Expr: e, Pos: s.Pos}}
	}
	w.fail(at, "a condition of one element")
	return nil
}

// skips says whether a block is nothing but continue.
func skips(all []code.Stmt) bool { return len(all) == 1 && isContinue(&all[0]) }

// isContinue says whether a statement goes on with the next round of the loop that it stands in.
func isContinue(s *code.Stmt) bool {
	return s.Kind == code.Jump && s.Name == "continue" && s.Value == nil
}

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
