package byhand

import (
	"maps"
	"slices"

	"vetta/internal/code"
	"vetta/internal/code/each"
	"vetta/internal/code/hand"
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
func (w *follower) keyLoop(s *code.Stmt, env map[string]*value) (steps []model.Step, ok bool) {
	f, pos := w.f.File, w.f.At(s.From)
	first, _ := w.tokens(s.From, s.To)
	open := first + 1
	shut := f.Partner(open)
	if shut < open {
		return nil, false
	}
	var of *value
	name, iterator := "", ""
	switch {
	case s.Kind == code.While:
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
				of = w.keysAt(w.read(i+1, shut), env)
			}
		}
		if first > 0 && second == shut-1 && f.Is(first+2, ".") && f.Is(first+3, "hasNext") {
			iterator = f.Ident(first + 1)
			for i := open + 1; i < first; i++ {
				if f.Is(i, "=") && f.Ident(i-1) == iterator {
					of = w.keysAt(w.read(i+1, first), env)
				}
			}
		}
	}
	if of == nil {
		return nil, false
	}
	body := inside(s)
	if iterator != "" { // String k = it.next();
		if len(body) == 0 || body[0].Op != code.Let || !isNext(body[0].Value, iterator) {
			w.fail(s.From, "a loop whose key has no name")
			return nil, true
		}
		name, body = body[0].Name, body[1:]
	}
	inner := maps.Clone(env)
	inner[name] = &value{expr: &model.Expr{Op: model.OpConst, Func: "key"}, of: of}
	steps = w.statements(body, inner)
	if slices.ContainsFunc(steps, func(s model.Step) bool { return s.Cond != nil || s.Return }) {
		w.fail(s.From, "a condition of one key")
	}
	inner[name] = env[name]
	left(env, inner, pos)
	return steps, true
}

// isNext says whether an expression is what an iterator of a name answers next, perhaps cast.
func isNext(e *code.Expr, iterator string) bool {
	if e != nil && e.Op == code.As {
		e = e.Args[0]
	}
	if e == nil {
		return false
	}
	receiver, name := hand.Method(e)
	return name == "next" && receiver != nil && receiver.Op == code.Name && receiver.Text == iterator
}

// forEach follows o.keys().forEach { k -> … } and (0 until a.length()).forEach { i -> … };
// ok is false where the statement is none.
func (w *follower) forEach(e *code.Expr, env map[string]*value) (steps []model.Step, ok bool) {
	receiver, name := hand.Method(e)
	l := lambdaOf(e)
	if receiver == nil || name != "forEach" || l == nil {
		return nil, false
	}
	pos := w.where(e)
	var item *value
	first, end := w.tokens(receiver.From, receiver.To)
	if w.f.Is(first, "(") && w.f.Partner(first) == end-1 && overIndexes(w.f.Joined(first+1, end-1)) {
		item = &value{expr: &model.Expr{Op: model.OpConst, Func: "index"}}
		if of := env[lengthOf(w.f.File, end-1)]; of != nil && of.orEmpty {
			return nil, false
		}
	} else if of := w.keysAt(receiver, env); of != nil {
		item = &value{expr: &model.Expr{Op: model.OpConst, Func: "key"}, of: of}
	}
	if item == nil {
		return nil, false
	}
	inner := maps.Clone(env)
	inner[param(l)] = item
	steps = w.statements(l.Body, inner)
	if ends(steps) {
		w.fail(e.From, "a return inside forEach")
	}
	inner[param(l)] = env[param(l)]
	left(env, inner, pos)
	return steps, true
}

// keysAt is the part of the document whose keys an expression yields: o.keys(), o.keySet().
func (w *follower) keysAt(e *code.Expr, env map[string]*value) *value {
	receiver, name := hand.Method(e)
	if receiver == nil || len(e.Args) != 1 || name != "keys" && name != "keySet" || w.why != "" {
		return nil
	}
	v := w.expression(receiver, env)
	if w.why != "" || v == nil || !v.isNode {
		w.why = ""
		return nil
	}
	return v
}

// put follows by.put(k, x) and by[k] = x in a loop over keys; ok is false where the statement
// is none.
func (w *follower) put(s *code.Stmt, env map[string]*value) (steps []model.Step, ok bool) {
	var into, key, x *code.Expr
	switch {
	case s.Op == code.Do && s.Value != nil:
		receiver, name := hand.Method(s.Value)
		if receiver == nil || name != "put" || len(s.Value.Args) != 3 {
			return nil, false
		}
		into, key, x = receiver, s.Value.Args[1], s.Value.Args[2]
	case s.Op == code.Assign && s.Name == "" && s.Kind != code.Compound && s.Of != nil && s.Of.Op == code.Index && len(s.Of.Args) == 2:
		into, key, x = s.Of.Args[0], s.Of.Args[1], s.Value
	default:
		return nil, false
	}
	name, own := into.Text, into.Op == code.Name
	if into.Op == code.Member && len(into.Args) == 1 && into.Args[0].Op == code.Name {
		if of := into.Args[0].Text; of != "this" && (env[of] == nil || !env[of].instance) {
			return nil, false
		}
	} else if !own {
		return nil, false
	}
	if v := w.bound(key, env); v == nil || v.expr == nil || v.expr.Func != "key" {
		return nil, false
	}
	v := w.expression(x, env)
	if v == nil || w.why != "" {
		return nil, true
	}
	e := each.EachKey(w.node(v, x.From))
	if e == nil {
		w.fail(s.From, "what is put into "+name)
		return nil, true
	}
	if local := env[name]; local != nil && own && !local.property {
		if !local.isMap || local.storedIn != "" {
			w.fail(s.From, "a call of put")
			return nil, true
		}
		*local = value{expr: e}
		return nil, true
	}
	if !w.field(name) {
		w.fail(s.From, "a call of put")
		return nil, true
	}
	return w.fills(s.From, name, e, w.f.At(s.From)), true
}
