package jvm

import (
	"vetta/internal/model"
	"vetta/internal/source/scan"
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
func (w *follower) scoped(c *scan.Cursor, v *value, name string, env map[string]*value) *value {
	if v.expr != nil && v.expr.Op == model.OpNew {
		w.pending = append(w.pending, w.made(v, c.Where())...)
		v = &value{instance: true}
	}
	if !v.instance {
		w.fail(c, name+" on something else than the instance")
		return nil
	}
	param, from, to := lambda(c)
	inner := env
	if name == "also" {
		inner = within(env, param, v)
	}
	before := w.take()
	steps := w.statements(&scan.Cursor{F: c.F, I: from}, to, inner)
	if ends(steps) {
		w.fail(c, "a return inside "+name)
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
func (w *follower) receives(c *scan.Cursor, env map[string]*value) *value {
	c.Advance()
	shut := c.Shut()
	part := w.expression(&scan.Cursor{F: c.F, I: c.I + 1}, shut, env)
	c.I = shut + 1
	if part == nil || !c.Is("{") {
		w.fail(c, "with")
		return nil
	}
	if !part.isNode {
		return w.scoped(c, part, "with", env)
	}
	_, from, to := lambda(c)
	return w.block(&scan.Cursor{F: c.F, I: from}, to, within(env, "this", part))
}

// isScope says whether a statement is a scope function on the instance: with(a) { … },
// a.apply { … }.
func (w *follower) isScope(c *scan.Cursor, end int, env map[string]*value) bool {
	if c.Is("with") && c.Ahead(1, "(") {
		return true
	}
	v := env[c.Text()]
	return v != nil && v.instance && c.Ahead(1, ".") && (c.Ahead(2, "apply") || c.Ahead(2, "also") || c.Ahead(2, "run")) && c.Ahead(3, "{") && c.F.Partner(c.I+3) == end-1
}

// letBlock follows part?.let { … } as a statement: what its block does where the part has
// been found. ok is false where the statement is none.
func (w *follower) letBlock(c *scan.Cursor, end int, env map[string]*value) (steps []model.Step, ok bool) {
	if !c.F.Is(end-1, "}") {
		return nil, false
	}
	open := c.F.Partner(end - 1)
	name := c.F.Ident(open - 1)
	if open < c.I+2 || !c.F.Is(open-2, ".") || name != "let" && name != "run" && name != "also" && name != "apply" {
		return nil, false
	}
	last, asks := open-2, false
	if c.F.Is(last-1, "?") {
		last, asks = last-1, true
	}
	pos := c.Where()
	part := w.expression(&scan.Cursor{F: c.F, I: c.I}, last, env)
	if part != nil && !part.isNode && held(part) != nil && !asks && (name == "let" || name == "also") {
		param, from, to := lambda(&scan.Cursor{F: c.F, I: open})
		inner := within(env, param, part)
		steps = append(w.mustBe(part, pos), w.statements(&scan.Cursor{F: c.F, I: from}, to, inner)...)
		if ends(steps) {
			w.fail(c, "a return inside "+name)
		}
		for other := range env {
			if other != param {
				env[other] = inner[other]
			}
		}
		return steps, true
	}
	if part == nil || !part.isNode {
		w.fail(c, name+" on something else than a part of the document")
		return nil, true
	}
	block := &scan.Cursor{F: c.F, I: open}
	param, from, to := lambda(block)
	if name == "run" || name == "apply" {
		param = "this"
	}
	yes, no := fork(within(env, param, &value{isNode: true, path: part.path})), fork(env)
	steps = w.statements(&scan.Cursor{F: c.F, I: from}, to, yes)
	if ends(steps) {
		w.fail(c, "a return inside "+name)
	}
	yes[param] = no[param]
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

// isReceiverCall says whether the call at the cursor is one of the part of the document that
// calls without a receiver mean: getInt("id") in a block of run.
func isReceiverCall(c *scan.Cursor, env map[string]*value) bool {
	if this := env["this"]; this == nil || !this.isNode || c.Kind() != scan.Ident || !c.Ahead(1, "(") {
		return false
	}
	name := c.Text()
	return readers[name] || parts[name]
}

// parts are the methods of JSONObject and JSONArray that go further in.
var parts = map[string]bool{"getJSONObject": true, "getJSONArray": true, "optJSONObject": true, "optJSONArray": true}
