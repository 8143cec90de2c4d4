package byhand

import (
	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/model"
)

// Kotlin's scope functions: a.apply { … } and a.also { … }, whose value is a, and with(a) { … }
// and a.run { … }, whose value is that of the block.

// take answers the steps that expressions have left behind, which run before what is made
// of their values.
func (w *follower) take() []model.Step {
	steps := w.pending
	w.pending = nil
	return steps
}

// scoped follows the block of apply or also on the instance that is made.
func (w *follower) scoped(at int32, l *code.Expr, v *value, name string, env map[string]*value) *value {
	if v.expr != nil && v.expr.Op == model.OpNew {
		w.pending = append(w.pending, w.made(v, w.where(l))...)
		v = &value{instance: true}
	}
	if !v.instance {
		w.fail(at, name+" on something else than the instance")
		return nil
	}
	inner := env
	if name == "also" {
		inner = within(env, param(l), v)
	}
	before := w.take()
	steps := w.statements(l.Body, inner)
	if ends(steps) {
		w.fail(at, "a return inside "+name)
		return nil
	}
	w.pending = append(before, steps...)
	return v
}

// ends says whether steps may end the reading.
func ends(steps []model.Step) bool {
	for _, s := range steps {
		if s.Return || ends(s.Then) || ends(s.Else) {
			return true
		}
	}
	return false
}

// receives follows with(a) { … }: of a part of the document the value of the block, whose
// calls without a receiver are its; of the instance itself the steps of the block.
func (w *follower) receives(e *code.Expr, env map[string]*value) *value {
	if len(e.Args) != 3 || e.Args[2].Op != code.Lambda {
		w.fail(e.From, "with")
		return nil
	}
	part, l := w.expression(e.Args[1], env), e.Args[2]
	if part == nil {
		w.fail(e.From, "with")
		return nil
	}
	if !part.isNode {
		return w.scoped(e.From, l, part, "with", env)
	}
	return w.block(l.Body, within(env, "this", part))
}

// isScope says whether a statement is a scope function on the instance: with(a) { … },
// a.apply { … }.
func (w *follower) isScope(e *code.Expr, env map[string]*value) bool {
	receiver, name := hand.Method(e)
	if e.Op != code.Call || receiver == nil {
		return name == "with"
	}
	v := w.bound(receiver, env)
	return v != nil && v.instance && (name == "apply" || name == "also" || name == "run") && lambdaOf(e) != nil
}

// letBlock follows part?.let { … } as a statement: what its block does where the part has
// been found. ok is false where the statement is none.
func (w *follower) letBlock(e *code.Expr, env map[string]*value) (steps []model.Step, ok bool) {
	receiver, name := hand.Method(e)
	l := lambdaOf(e)
	if receiver == nil || l == nil || name != "let" && name != "run" && name != "also" && name != "apply" {
		return nil, false
	}
	asks := false
	own := *receiver
	if all := own.Does.All(); len(all) > 0 && all[len(all)-1] == code.Chained {
		asks = true
		own.Does = 0
		for _, does := range all[:len(all)-1] {
			own.Does = own.Does.With(does)
		}
	}
	pos := w.where(e)
	part := w.expression(&own, env)
	if part != nil && !part.isNode && held(part) != nil && !asks && (name == "let" || name == "also") {
		inner := within(env, param(l), part)
		steps = append(w.mustBe(part, pos), w.statements(l.Body, inner)...)
		if ends(steps) {
			w.fail(e.From, "a return inside "+name)
		}
		for other := range env {
			if other != param(l) {
				env[other] = inner[other]
			}
		}
		return steps, true
	}
	if part == nil || !part.isNode {
		w.fail(e.From, name+" on something else than a part of the document")
		return nil, true
	}
	as := param(l)
	if name == "run" || name == "apply" {
		as = "this"
	}
	yes, no := fork(within(env, as, &value{isNode: true, path: part.path})), fork(env)
	steps = w.statements(l.Body, yes)
	if ends(steps) {
		w.fail(e.From, "a return inside "+name)
	}
	yes[as] = no[as]
	if !asks || len(part.path) == 0 {
		joined(env, yes, no, nil, false, true, pos)
		return steps, true
	}
	var cond *model.Expr
	for _, g := range append(part.guards, part) {
		if cond = given(g); len(part.guards) > 0 {
			cond = nil // several: what the block leaves behind hangs on all of them
		}
		steps = []model.Step{{Cond: given(g), Then: steps, Pos: pos}}
	}
	joined(env, yes, no, cond, false, false, pos)
	return steps, true
}

// parts are the methods of JSONObject and JSONArray that go further in.
var parts = map[string]bool{"getJSONObject": true, "getJSONArray": true, "optJSONObject": true, "optJSONArray": true}
