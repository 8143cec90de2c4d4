package jvm

import (
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// Functions of the app that code calls to read a value are followed into: helpers that take
// the object and a key, and extensions of Kotlin.

// maxInlined is how many functions are followed into each other.
const maxInlined = 8

// helper is a function of the app with where it stands.
type helper struct {
	method *model.Method
	class  *Class // nil at the top of a file
	file   *File
}

// helperOf finds the function that a call names: a method of the class, of those around it
// or that it extends, of their objects, of a class that is named before it, or a function
// outside of classes. receiver is the class that it must extend, "" for a plain one.
func (w *follower) helperOf(names []string, receiver string, params int) *helper {
	name := names[len(names)-1]
	fits := func(m *model.Method) bool {
		return m.Name == name && m.Receiver == receiver && len(m.Params) == params && m.Body[1] > m.Body[0]
	}
	in := func(c *Class) *helper {
		for _, k := range append([]*Class{c}, c.Nested...) {
			if k != c && k.Kind != "object" {
				continue
			}
			for _, m := range k.Methods {
				if fits(m) {
					return &helper{m, k, k.File}
				}
			}
		}
		return nil
	}
	if len(names) > 1 {
		if c := w.p.find(w.f, w.c, strings.Join(names[:len(names)-1], ".")); c != nil {
			return in(c)
		}
		return nil
	}
	for c := w.c; c != nil; c = c.Outer {
		for s, n := c, 0; s != nil && n < maxSupers; s, n = w.p.superOf(s), n+1 {
			if h := in(s); h != nil {
				return h
			}
		}
	}
	for _, f := range w.p.files {
		for _, m := range f.Functions {
			if fits(m) && (f.Package == w.f.Package || imports(w.f, f.Package, name)) {
				return &helper{m, nil, f}
			}
		}
	}
	return nil
}

// inline is the value of a call of a helper.
func (w *follower) inline(c *scan.Cursor, h *helper, receiver *value, args []*value) *value {
	env := map[string]*value{}
	for i, p := range h.method.Params {
		env[p.Name] = args[i]
	}
	if receiver != nil {
		env["this"] = receiver
	}
	var v *value
	w.in(c, h.class, h.file, func() {
		cur := &scan.Cursor{F: h.file.File, I: h.method.Body[0]}
		if h.method.IsExpression {
			v = w.expression(cur, h.method.Body[1], env)
		} else {
			v = w.result(cur, h.method.Body[1], env)
		}
	})
	var must []*model.Expr // what is read for arguments is read whatever is done with them
	for _, a := range args {
		if a.expr != nil && throws(a.expr) {
			must = append(must, a.expr)
		}
	}
	return w.after(c, must, v)
}

// result is the value that statements return.
func (w *follower) result(c *scan.Cursor, limit int, env map[string]*value) *value {
	var must []*model.Expr
	return w.after(c, must, w.returnedBy(c, limit, env, &must))
}

// returnedBy is result, without what the statements before read for certain, which is added to must.
func (w *follower) returnedBy(c *scan.Cursor, limit int, env map[string]*value, must *[]*model.Expr) *value {
	for c.I < limit && w.why == "" {
		switch t := c.Tok(); {
		case t.Is(";"):
			c.Advance()
		case t.Is("return"):
			c.Advance()
			return w.expression(c, w.end(c, limit), env)
		case t.Is("throw"):
			return &value{expr: w.thrown(c, w.end(c, limit), env).Expr}
		case t.Is("if") && c.Ahead(1, "("):
			return w.chosen(c, limit, env)
		case t.Is("try") && c.Ahead(1, "{"):
			return w.caught(c, limit, env, w.result)
		case t.Is("for") && c.Ahead(1, "("):
			if v, ok := w.constantLoop(c, limit, env); ok {
				return v
			}
			if steps := w.loop(c, limit, env); len(steps) > 0 {
				w.fail(c, "a function that does more than read")
			}
		case t.Is("switch") && c.Ahead(1, "(") || t.Is("when") && (c.Ahead(1, "(") || c.Ahead(1, "{")):
			return w.returned(c, limit, env)
		case t.Is("while") || t.Is("do"):
			w.fail(c, t.Text+" in a function that is called")
		default:
			end := w.end(c, limit)
			steps := w.simple(c, end, env)
			for _, s := range steps {
				if s.Field != "" || s.Expr == nil || s.Cond != nil {
					w.fail(c, "a function that does more than read")
					break
				}
				*must = append(*must, s.Expr)
			}
			if len(w.pending) > 0 {
				w.fail(c, "a function that does more than read")
			}
			c.I = end
		}
	}
	w.fail(c, "what it returns")
	return nil
}

// chosen is the value that if (…) return a; else return b; yields, or what stands behind it.
func (w *follower) chosen(c *scan.Cursor, limit int, env map[string]*value) *value {
	pos := c.Where()
	cond, from, to := w.ifHead(c, limit, env)
	if cond.Op == model.OpConst && cond.Value.Text != "true" && !c.Is("else") { // the object is there
		return w.result(c, limit, env)
	}
	yes := w.result(&scan.Cursor{F: c.F, I: from}, to, fork(env))
	if c.Accept("else") {
		if c.Is("if") {
			return w.choice(c, cond, yes, w.chosen(c, limit, env), pos)
		}
		from, to = w.body(c, limit)
		return w.choice(c, cond, yes, w.result(&scan.Cursor{F: c.F, I: from}, to, fork(env)), pos)
	}
	return w.choice(c, cond, yes, w.result(c, limit, env), pos)
}

// caught is the value of try { … } catch (e: Exception) { … }, whose blocks are followed by
// what is given: as statements that return, or as expressions.
func (w *follower) caught(c *scan.Cursor, limit int, env map[string]*value, follow func(c *scan.Cursor, limit int, env map[string]*value) *value) *value {
	pos := c.Where()
	c.Advance()
	tried := follow(&scan.Cursor{F: c.F, I: c.I + 1}, c.Shut(), fork(env))
	c.Jump()
	if !c.Is("catch") || !c.Ahead(1, "(") {
		w.fail(c, "try without catch")
		return nil
	}
	c.Advance()
	if tried != nil && !catches(c.F.Text(c.I+1, c.Shut()), []model.Step{{Expr: held(tried)}}) {
		w.fail(c, "a catch of another error")
		return nil
	}
	c.Jump()
	otherwise := follow(&scan.Cursor{F: c.F, I: c.I + 1}, c.Shut(), fork(env))
	c.Jump()
	return w.onFailure(c, tried, otherwise, pos)
}

// orLeave is a value where it is there; where it is not, what stands at the cursor throws or
// returns.
func (w *follower) orLeave(c *scan.Cursor, end int, v *value, env map[string]*value) *value {
	pos := c.Where()
	var leave []model.Step
	if c.Is("throw") {
		leave = []model.Step{w.thrown(c, end, env)}
		if e := held(v); e != nil {
			return &value{expr: w.orElse(c, e, leave[0].Expr, pos)}
		}
	} else {
		c.Advance()
		before := w.take()
		out := w.expression(c, end, env)
		leave = append(w.take(), w.made(out, pos)...)
		if w.pending = before; out == nil || !out.instance && len(leave) == 0 {
			w.fail(c, "what it returns")
			return nil
		}
		leave = append(leave, model.Step{Return: true, Pos: pos})
	}
	if v == nil || !v.isNode || len(v.path) == 0 {
		w.fail(c, "?:")
		return nil
	}
	w.pending = append(w.pending, model.Step{Cond: given(v), Else: leave, Pos: pos})
	return v
}

// own follows a call of a method of the instance itself that is given the object: what it
// does is done to the instance. ok is false where it is none.
func (w *follower) own(c *scan.Cursor, method string, from, to int, env map[string]*value) (steps []model.Step, ok bool) {
	if !slices.Contains(w.chain(), w.c) {
		return nil, false
	}
	args, _, known := w.argumentsOf(c.F, from, to, env, false)
	if !known {
		return nil, true
	}
	var h *helper
	w.in(c, w.of, w.of.File, func() { h = w.helperOf([]string{method}, "", len(args)) }) // a class may give a method that it inherits another body
	if h == nil || !slices.Contains(w.chain(), h.class) || h.method.Static || h.method.IsExpression {
		w.fail(c, "a call of "+method)
		return nil, true
	}
	inner := map[string]*value{}
	for i, p := range h.method.Params {
		inner[p.Name] = args[i]
	}
	w.in(c, h.class, h.file, func() {
		steps = w.statements(&scan.Cursor{F: h.file.File, I: h.method.Body[0]}, h.method.Body[1], inner)
	})
	if ends(steps) {
		w.fail(c, "a return inside "+method)
	}
	return steps, true
}

// required follows require(a) { … } and check(a) { … }, which throw where the condition does
// not hold; ok is false where the statement is neither.
func (w *follower) required(c *scan.Cursor, env map[string]*value) (steps []model.Step, ok bool) {
	kind := map[string]string{"require": "IllegalArgumentException", "check": "IllegalStateException"}[c.Text()]
	if kind == "" || !c.Ahead(1, "(") {
		return nil, false
	}
	pos := c.Where()
	said := map[string]string{"require": "Failed requirement.", "check": "Check failed."}[c.Text()]
	c.Advance()
	shut := c.Shut()
	cond := w.condition(&scan.Cursor{F: c.F, I: c.I + 1}, shut, env)
	if c.F.Is(shut+1, "{") {
		said = w.text(c.F, shut+2, c.F.Partner(shut+1), env)
	}
	thrown := &model.Expr{Op: model.OpFail, Why: strings.TrimSuffix(kind+": "+said, ": "), Pos: pos}
	return []model.Step{{Cond: cond, Else: []model.Step{{Expr: thrown, Pos: pos}}, Pos: pos}}, true
}

// onFailure is a value, or another one where reading it fails.
func (w *follower) onFailure(c *scan.Cursor, tried, otherwise *value, pos model.Pos) *value {
	if tried == nil || otherwise == nil || tried.isNode || otherwise.isNode || tried.instance || otherwise.instance {
		w.fail(c, "a part of the document that may fail")
		return nil
	}
	return &value{expr: &model.Expr{Op: model.OpCatch, Args: []*model.Expr{w.plain(tried, c), w.plain(otherwise, c)}, Pos: pos}}
}

// caughtBy are, by what is thrown, the types of which one must stand in a catch.
var caughtBy = map[string][]string{
	"JSONException":            {"JSONException", "Exception", "Throwable"},
	"NumberFormatException":    {"NumberFormatException", "IllegalArgumentException", "RuntimeException", "Exception", "Throwable"},
	"IllegalArgumentException": {"IllegalArgumentException", "RuntimeException", "Exception", "Throwable"},
	"IllegalStateException":    {"IllegalStateException", "RuntimeException", "Exception", "Throwable"},
}

// catches says whether a catch, whose brackets hold a text, takes all that steps may throw.
func catches(text string, steps []model.Step) bool {
	types := strings.FieldsFunc(text, func(r rune) bool { return !isWordRune(r) })
	takes := func(thrown string) bool {
		by, ok := caughtBy[thrown]
		if !ok {
			by = []string{thrown, "Exception", "Throwable"}
		}
		return slices.ContainsFunc(types, func(t string) bool { return slices.Contains(by, t) })
	}
	all := true
	var walk func(e *model.Expr)
	walk = func(e *model.Expr) {
		switch {
		case e == nil:
			return
		case strings.HasPrefix(e.Func, "get"):
			all = all && takes("JSONException")
		case e.Op == model.OpDecode:
			all = all && takes("JSONException") && takes("IllegalArgumentException")
		case e.Op == model.OpFail:
			kind, _, _ := strings.Cut(e.Why, ":")
			all = all && takes(kind)
		case e.Op == model.OpCall && (e.Func == "int" || e.Func == "long" || e.Func == "double"):
			all = all && takes("NumberFormatException")
		case e.Op == model.OpCall && e.Func == "constant":
			all = all && takes("IllegalArgumentException")
		}
		for _, a := range e.Args {
			walk(a)
		}
	}
	var visit func(steps []model.Step)
	visit = func(steps []model.Step) {
		for _, s := range steps {
			walk(s.Cond)
			walk(s.Expr)
			visit(s.Then)
			visit(s.Else)
		}
	}
	visit(steps)
	return all
}

// runCatching is the value of runCatching { … } with what makes a value of it: getOrNull(),
// getOrDefault(a), getOrElse { a }.
func (w *follower) runCatching(c *scan.Cursor, end int, env map[string]*value) *value {
	pos := c.Where()
	c.Advance()
	_, from, to := lambda(c)
	tried := w.block(&scan.Cursor{F: c.F, I: from}, to, env)
	if !c.Is(".") {
		w.fail(c, "what becomes of a result")
		return nil
	}
	c.Advance()
	name := c.Text()
	c.Advance()
	var otherwise *value
	switch {
	case name == "getOrNull" && c.Is("("):
		otherwise = &value{expr: &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.NullLiteral}, Pos: pos}}
		c.Jump()
	case name == "getOrDefault" && c.Is("("):
		shut := c.Shut()
		otherwise = w.expression(&scan.Cursor{F: c.F, I: c.I + 1}, shut, env)
		c.I = shut + 1
	case name == "getOrElse" && c.Is("{"):
		_, from, to := lambda(c)
		otherwise = w.block(&scan.Cursor{F: c.F, I: from}, to, env)
	default:
		w.fail(c, "what becomes of a result")
		return nil
	}
	v := w.onFailure(c, tried, otherwise, pos)
	if v != nil && c.I < end {
		w.fail(c, "an operator")
		return nil
	}
	return v
}

// text is the text that an expression between two tokens is for certain, "" where that is
// not known: a literal, a constant, or what a helper was given.
func (w *follower) text(f *scan.File, from, to int, env map[string]*value) string {
	if l := Literal(f, from, to); l.Kind == model.StringLiteral {
		return l.Text
	}
	name := f.Joined(from, to)
	if v := env[name]; v != nil {
		if v.expr != nil && v.expr.Op == model.OpConst && v.expr.Value != nil && v.expr.Value.Kind == model.StringLiteral {
			return v.expr.Value.Text
		}
		return ""
	}
	return w.constantText(name)
}
