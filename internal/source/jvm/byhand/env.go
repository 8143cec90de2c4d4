package byhand

import (
	"maps"
	"slices"

	"vetta/internal/code"
	"vetta/internal/code/each"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/jvm"
)

// joined settles, behind a choice, what names stand for that one of its branches has given
// another value: yes and no are the environments of the branches, and over says which of
// them end the reading.
func joined(env, yes, no map[string]*value, cond *model.Expr, yesOver, noOver bool, pos model.Pos) {
	for name := range env {
		a, b := yes[name], no[name]
		switch {
		case a != nil && b != nil && a.isList && b.isList && fillsOne(env[name], a, b) != nil && cond != nil && !yesOver && !noOver && each.WayToElement(cond) != nil:
			env[name] = listIf(cond, env[name], a, b)
		case a == b || a != nil && b != nil && (a.isList && b.isList && len(a.list) == len(b.list) || a.isMap && b.isMap):
			env[name] = a
		case yesOver:
			env[name] = b
		case noOver:
			env[name] = a
		case cond != nil && held(a) != nil && held(b) != nil:
			env[name] = &value{expr: &model.Expr{Op: model.OpIf, Args: []*model.Expr{cond, held(a), held(b)}, Pos: pos}}
		default:
			env[name] = changed(name, pos)
		}
	}
}

// held is the expression of what a name stands for, with what a collection has been filled
// with so far; nil where it is none.
func held(v *value) *model.Expr {
	switch {
	case v == nil || v.isNode || v.instance || len(v.behind) > 0:
		return nil
	case v.isList && len(v.list) == 1:
		return v.list[0]
	case v.isList && len(v.list) == 0:
		return &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.ListLiteral}}
	case v.isMap:
		return &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.MapLiteral}}
	case v.isList || v.expr == nil || v.expr.Func == "key" || v.expr.Func == "index":
		return nil
	}
	return v.expr
}

// in does what is given with the names of a class and a file, none for a function outside of
// classes. ok is false, and noted, where too many functions are gone into.
func (w *follower) in(at int32, class *jvm.Class, file *jvm.File, do func()) (ok bool) {
	if w.inlined >= maxInlined {
		w.fail(at, "functions that call each other")
		return false
	}
	before, from := w.c, w.f
	w.inlined++
	w.c, w.f = class, file
	if class == nil {
		w.c = file.NewClass(jvm.Class{File: file})
	}
	do()
	w.c, w.f = before, from
	w.inlined--
	return true
}

// orElse is an expression, or another one where it is nothing. Where what is chosen decides
// whether it is, it goes into the choice: what is a constant there needs no other.
func (w *follower) orElse(at int32, e, other *model.Expr, pos model.Pos) *model.Expr {
	switch {
	case readsAnything(e): // a null that is sent is an object of its own there
		w.fail(at, "null of what may be anything")
		return &model.Expr{Op: model.OpUnknown}
	case e.Op == model.OpIf:
		return &model.Expr{Op: model.OpIf, Args: []*model.Expr{e.Args[0], w.orElse(at, e.Args[1], other, pos), w.orElse(at, e.Args[2], other, pos)}, Pos: e.Pos}
	case e.Op == model.OpConst && e.Value != nil && e.Value.Kind == model.NullLiteral:
		return other
	case e.Op == model.OpConst && e.Value != nil || e.Op == model.OpFail:
		return e
	}
	return &model.Expr{Op: model.OpElse, Args: []*model.Expr{e, other}, Pos: pos}
}

// readsAnything says whether an expression is what get or opt answers, of whatever kind it is.
func readsAnything(e *model.Expr) bool {
	for (e.Op == model.OpAt || e.Op == model.OpElem) && len(e.Args) == 1 {
		e = e.Args[0]
	}
	return e.Op == model.OpCast && (e.Func == "get" || e.Func == "opt")
}

// left settles, behind a loop, what it has given another value than by adding to a list.
func left(env, inner map[string]*value, pos model.Pos) {
	for name := range env {
		if inner[name] != env[name] {
			env[name] = changed(name, pos)
		}
	}
}

// changed is a value that a block has changed in a way that is not followed.
func changed(name string, pos model.Pos) *value {
	return &value{expr: &model.Expr{Op: model.OpUnknown, Why: "what " + name + " holds behind a block", Pos: pos}}
}

// fork is a copy of an environment for a block that may run or not.
func fork(env map[string]*value) map[string]*value {
	own := maps.Clone(env)
	for name, v := range own {
		if v != nil && (v.isList || v.isMap) {
			filled := *v
			own[name] = &filled
		}
	}
	return own
}

// block is the value of the last expression in the braces of a lambda or a branch; what stands
// before it may only give names to values.
func (w *follower) block(all []code.Stmt, env map[string]*value) *value {
	env = maps.Clone(env)
	var must []*model.Expr
	for len(all) > 0 && w.why == "" {
		n := hand.Together(all)
		s := &all[0]
		if n == len(all) {
			var v *value
			switch {
			case s.Torn:
				w.fail(s.From, "an expression")
				return nil
			case s.Op == code.Block:
				v = w.valued(all, s.From, env)
			case s.Op == code.Do && s.Kind == code.Plain:
				v = w.expression(s.Value, env)
			case s.Kind == code.Throw:
				v = &value{expr: w.thrown(s.Value, env).Expr}
			default:
				w.fail(s.From, "an expression")
			}
			return w.after(s.From, must, v)
		}
		ofElement := len(w.must)
		for _, step := range w.simple(s, env) {
			if step.Field != "" || step.Expr == nil || step.Cond != nil {
				w.fail(s.From, "a block that does more than read")
				return nil
			}
			must = append(must, step.Expr)
		}
		must = append(must, w.must[ofElement:]...)
		w.must = w.must[:ofElement]
		all = all[n:]
	}
	return nil
}

// over says whether steps end the reading in any case.
func over(steps []model.Step) bool {
	if len(steps) == 0 {
		return false
	}
	s := steps[len(steps)-1]
	return s.Return || s.Expr != nil && s.Expr.Op == model.OpFail || s.Cond != nil && over(s.Then) && over(s.Else)
}

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
		return each.Along(nest(v.path, &model.Expr{Op: model.OpConst}), e)
	}
	return v.expr != nil && each.Certainly(v.expr, e)
}
