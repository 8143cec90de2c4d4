package jvm

import (
	"maps"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// Loops over all keys of an object, whose values go into a map: dynamic keys.

// keyLoop follows a loop over the keys of a part of the document:
//
//	Iterator<String> it = o.keys(); while (it.hasNext()) { String k = it.next(); … }
//	for (Iterator<String> it = o.keys(); it.hasNext(); ) { String k = it.next(); … }
//	for (String k : o.keySet()) { … }
//	for (k in o.keys()) { … }
//
// ok is false where the statement at the cursor is none, and nothing is noted then.
func (w *follower) keyLoop(c *scan.Cursor, limit int, env map[string]*value) (steps []model.Step, ok bool) {
	f, pos := c.F, c.Where()
	open := c.I + 1
	shut := f.Partner(open)
	if shut < open {
		return nil, false
	}
	var of *value
	name, iterator := "", ""
	switch {
	case c.Is("while"):
		if shut != open+6 || !f.Is(open+2, ".") || !f.Is(open+3, "hasNext") {
			return nil, false
		}
		iterator = f.Ident(open + 1)
		if v := env[iterator]; v != nil && v.keysOf != nil {
			of = v.keysOf
		}
	default:
		first, second := -1, -1
		for i := open + 1; i < shut; i++ {
			switch {
			case f.Is(i, "(") && f.Partner(i) > i:
				i = f.Partner(i)
			case f.Is(i, ";") && first < 0:
				first = i
			case f.Is(i, ";"):
				second = i
			case (f.Is(i, ":") || f.Is(i, "in")) && first < 0 && name == "" && f.KindAt(i-1) == scan.Ident:
				name = f.Ident(i - 1)
				of = w.keysAt(f, i+1, shut, env)
			}
		}
		if first > 0 && second == shut-1 && f.Is(first+2, ".") && f.Is(first+3, "hasNext") {
			iterator = f.Ident(first + 1)
			for i := open + 1; i < first; i++ {
				if f.Is(i, "=") && f.Ident(i-1) == iterator {
					of = w.keysAt(f, i+1, first, env)
				}
			}
		}
	}
	if of == nil {
		return nil, false
	}
	c.I = shut + 1
	from, to := w.body(c, limit)
	if iterator != "" { // String k = it.next();
		next := from
		for next < to && !f.Is(next, "=") && !f.Is(next, ";") {
			next++
		}
		if !f.Is(next, "=") || f.Ident(next+1) != iterator || !f.Is(next+3, "next") {
			w.fail(c, "a loop whose key has no name")
			return nil, true
		}
		name = f.Ident(next - 1)
		from = next + 6
	}
	inner := maps.Clone(env)
	inner[name] = &value{expr: &model.Expr{Op: model.OpConst, Func: "key"}, of: of}
	steps = w.statements(&scan.Cursor{F: f, I: from}, to, inner)
	inner[name] = env[name]
	left(env, inner, pos)
	return steps, true
}

// forEach follows o.keys().forEach { k -> … } and (0 until a.length()).forEach { i -> … };
// ok is false where the statement is none.
func (w *follower) forEach(c *scan.Cursor, end int, env map[string]*value) (steps []model.Step, ok bool) {
	f, pos := c.F, c.Where()
	if !f.Is(end-1, "}") {
		return nil, false
	}
	open := f.Partner(end - 1)
	if open < c.I+4 || !f.Is(open-1, "forEach") || !f.Is(open-2, ".") {
		return nil, false
	}
	var item *value
	if c.Is("(") && f.Partner(c.I) == open-3 && overIndexes(f.Joined(c.I+1, open-3)) {
		item = &value{expr: &model.Expr{Op: model.OpConst, Func: "index"}}
		if of := env[lengthOf(f, open-3)]; of != nil && of.orEmpty {
			return nil, false
		}
	} else if of := w.keysAt(f, c.I, open-2, env); of != nil {
		item = &value{expr: &model.Expr{Op: model.OpConst, Func: "key"}, of: of}
	}
	if item == nil {
		return nil, false
	}
	param, from, to := lambda(&scan.Cursor{F: f, I: open})
	inner := maps.Clone(env)
	inner[param] = item
	steps = w.statements(&scan.Cursor{F: f, I: from}, to, inner)
	if ends(steps) {
		w.fail(c, "a return inside forEach")
	}
	inner[param] = env[param]
	left(env, inner, pos)
	return steps, true
}

// keysAt is the part of the document whose keys an expression yields: o.keys(), o.keySet().
func (w *follower) keysAt(f *scan.File, from, to int, env map[string]*value) *value {
	if to-from < 5 || !f.Is(to-1, ")") || !f.Is(to-2, "(") || !f.Is(to-4, ".") || !f.Is(to-3, "keys") && !f.Is(to-3, "keySet") || w.why != "" {
		return nil
	}
	v := w.expression(&scan.Cursor{F: f, I: from}, to-4, env)
	if w.why != "" || v == nil || !v.isNode {
		w.why = ""
		return nil
	}
	return v
}

// put follows by.put(k, x) and by[k] = x in a loop over keys; ok is false where the statement
// is none.
func (w *follower) put(c *scan.Cursor, end int, env map[string]*value) (steps []model.Step, ok bool) {
	f, pos := c.F, c.Where()
	at := c.I
	if f.Is(at, "this") && f.Is(at+1, ".") {
		at += 2
	} else if v := env[f.Ident(at)]; v != nil && v.instance && f.Is(at+1, ".") {
		at += 2
	}
	name := f.Ident(at)
	key, from, to := 0, 0, end
	switch {
	case f.Is(at+1, ".") && f.Is(at+2, "put") && f.Is(at+3, "(") && f.Partner(at+3) == end-1 && f.Is(at+5, ","):
		key, from, to = at+4, at+6, end-1
	case f.Is(at+1, "[") && f.Partner(at+1) == at+3 && f.Is(at+4, "=") && !f.Is(at+5, "="):
		key, from = at+2, at+5
	default:
		return nil, false
	}
	if v := env[f.Ident(key)]; v == nil || v.expr == nil || v.expr.Func != "key" {
		return nil, false
	}
	v := w.expression(&scan.Cursor{F: f, I: from}, to, env)
	if v == nil || w.why != "" {
		return nil, true
	}
	e := eachKey(w.node(v, c))
	if e == nil {
		w.fail(c, "what is put into "+name)
		return nil, true
	}
	if local := env[name]; local != nil && at == c.I && !local.property {
		if !local.isMap || local.storedIn != "" {
			w.fail(c, "a call of put")
			return nil, true
		}
		*local = value{expr: e}
		return nil, true
	}
	if !w.field(name) {
		w.fail(c, "a call of put")
		return nil, true
	}
	return w.fills(c, name, e, pos), true
}

// eachKey turns an expression that reads at the key of a loop into one over all members; nil
// where it does not.
func eachKey(e *model.Expr) *model.Expr {
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
		if inner := eachKey(a); inner != nil {
			out := *e
			out.Args = append([]*model.Expr(nil), e.Args...)
			out.Args[i] = inner
			return &out
		}
	}
	return nil
}
