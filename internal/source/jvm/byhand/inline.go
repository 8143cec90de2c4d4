package byhand

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/jvm"
)

// Functions of the app that code calls to read a value are followed into: helpers that take
// the object and a key, and extensions of Kotlin.

// maxInlined is how many functions are followed into each other.
const maxInlined = 8

// helper is a function of the app with where it stands.
type helper struct {
	method *model.Method
	class  *jvm.Class // nil at the top of a file
	file   *jvm.File
}

// helperOf finds the function that a call names: a method of the class, of those around it
// or that it extends, of their objects, of a class that is named before it, or a function
// outside of classes. receiver is the class that it must extend, "" for a plain one.
func (w *follower) helperOf(names []string, receiver string, params int) *helper {
	name := names[len(names)-1]
	fits := func(m *model.Method) bool {
		return m.Name == name && m.Receiver == receiver && len(m.Params) == params && m.Body[1] > m.Body[0]
	}
	in := func(c *jvm.Class) *helper {
		for _, k := range append([]*jvm.Class{c}, c.Nested...) {
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
		if c := w.p.Find(w.f, w.c, strings.Join(names[:len(names)-1], ".")); c != nil {
			return in(c)
		}
		return nil
	}
	for c := w.c; c != nil; c = c.Outer {
		for s, n := c, 0; s != nil && n < jvm.MaxSupers; s, n = w.p.SuperOf(s), n+1 {
			if h := in(s); h != nil {
				return h
			}
		}
	}
	for _, f := range w.p.Files {
		for _, m := range f.Functions {
			if fits(m) && (f.Package == w.f.Package || jvm.Imports(w.f, f.Package, name)) {
				return &helper{m, nil, f}
			}
		}
	}
	return nil
}

// inline is the value of a call of a helper.
func (w *follower) inline(at int32, h *helper, receiver *value, args []*value) *value {
	env := map[string]*value{}
	for i, p := range h.method.Params {
		env[p.Name] = args[i]
	}
	if receiver != nil {
		env["this"] = receiver
	}
	var v *value
	w.in(at, h.class, h.file, func() {
		if h.method.IsExpression {
			v = w.expression(w.read(h.method.Body[0], h.method.Body[1]), env)
		} else {
			v = w.result(w.body(h.method.Body[0], h.method.Body[1]), env)
		}
	})
	var must []*model.Expr // what is read for arguments is read whatever is done with them
	for _, a := range args {
		if a.expr != nil && throws(a.expr) {
			must = append(must, a.expr)
		}
	}
	return w.after(at, must, v)
}

// result is the value that statements return.
func (w *follower) result(all []code.Stmt, env map[string]*value) *value {
	var must []*model.Expr
	at := int32(0)
	if len(all) > 0 {
		at = all[0].From
	}
	return w.after(at, must, w.returnedBy(all, env, &must))
}

// returnedBy is result, without what the statements before read for certain, which is added to must.
func (w *follower) returnedBy(all []code.Stmt, env map[string]*value, must *[]*model.Expr) *value {
	for len(all) > 0 && w.why == "" {
		n := hand.Together(all)
		s, after := &all[0], all[n:]
		switch {
		case s.Torn:
			w.fail(s.From, "a statement")
		case s.Op == code.Return:
			if s.Value == nil {
				w.fail(s.From, "what it returns")
				return nil
			}
			return w.expression(s.Value, env)
		case s.Kind == code.Throw:
			return &value{expr: w.thrown(s.Value, env).Expr}
		case s.Kind == code.If:
			return w.chosen(all[:n], after, env)
		case s.Kind == code.Try:
			return w.caught(all[:n], env, w.result)
		case s.Kind == code.For:
			if v, ok := w.constantLoop(s, after, env); ok {
				return v
			}
			if steps := w.loop(s, env); len(steps) > 0 {
				w.fail(s.From, "a function that does more than read")
			}
		case s.Kind == code.Switch:
			return w.returned(s, after, env)
		case s.Kind == code.While:
			w.fail(s.From, "while in a function that is called")
		case s.Op == code.Block:
			w.fail(s.From, "a block in a function that is called")
		default:
			for _, step := range w.simple(s, env) {
				if step.Field != "" || step.Expr == nil || step.Cond != nil {
					w.fail(s.From, "a function that does more than read")
					break
				}
				*must = append(*must, step.Expr)
			}
			if len(w.pending) > 0 {
				w.fail(s.From, "a function that does more than read")
			}
		}
		all = after
	}
	if w.why == "" {
		w.fail(0, "what it returns")
	}
	return nil
}

// chosen is the value that if (…) return a; else return b; yields, or what stands behind it.
func (w *follower) chosen(all, after []code.Stmt, env map[string]*value) *value {
	s := &all[0]
	pos := w.f.At(s.From)
	cond := w.head(s, env)
	other := otherwise(all)
	if len(other) == 0 {
		other = after
	}
	if cond.Op == model.OpConst && cond.Value.Text != "true" && len(all) == 1 { // the object is there
		return w.result(after, env)
	}
	yes := w.result(inside(s), fork(env))
	if len(all) > 1 && all[1].Kind == code.ElseIf { // whose last may go on with what stands behind
		return w.choice(s.From, cond, yes, w.chosen(other, after, env), pos)
	}
	if len(all) == 1 {
		return w.choice(s.From, cond, yes, w.result(other, env), pos)
	}
	return w.choice(s.From, cond, yes, w.result(other, fork(env)), pos)
}

// caught is the value of try { … } catch (e: Exception) { … }, whose blocks are followed by
// what is given: as statements that return, or as expressions.
func (w *follower) caught(all []code.Stmt, env map[string]*value, follow func(all []code.Stmt, env map[string]*value) *value) *value {
	s := &all[0]
	pos := w.f.At(s.From)
	if len(all) != 2 || all[1].Kind != code.Catch || s.Heads > 0 {
		w.fail(s.From, "try without catch")
		return nil
	}
	tried := follow(inside(s), fork(env))
	if tried != nil && !catches(all[1].Name, []model.Step{{Expr: held(tried)}}) {
		w.fail(s.From, "a catch of another error")
		return nil
	}
	return w.onFailure(s.From, tried, follow(inside(&all[1]), fork(env)), pos)
}

// orLeave is a value where it is there; where it is not, an expression is thrown or returned.
func (w *follower) orLeave(e *code.Expr, throws bool, v *value, env map[string]*value) *value {
	pos := w.where(e)
	out := *e
	out.Does = 0
	var leave []model.Step
	if throws {
		leave = []model.Step{w.thrown(&out, env)}
		if e := held(v); e != nil {
			return &value{expr: w.orElse(out.From, e, leave[0].Expr, pos)}
		}
	} else {
		before := w.take()
		made := w.expression(&out, env)
		leave = append(w.take(), w.made(made, pos)...)
		if w.pending = before; made == nil || !made.instance && len(leave) == 0 {
			w.fail(e.From, "what it returns")
			return nil
		}
		leave = append(leave, model.Step{Return: true, Pos: pos})
	}
	if v == nil || !v.isNode || len(v.path) == 0 {
		w.fail(e.From, "?:")
		return nil
	}
	w.pending = append(w.pending, model.Step{Cond: given(v), Else: leave, Pos: pos})
	return v
}

// own follows a call of a method of the instance itself that is given the object: what it
// does is done to the instance. ok is false where it is none.
func (w *follower) own(e *code.Expr, method string, env map[string]*value) (steps []model.Step, ok bool) {
	if !slices.Contains(w.chain(), w.c) {
		return nil, false
	}
	args, _, known := w.argumentsOf(e.Args[1:], e.Labels, env, false)
	if !known {
		return nil, true
	}
	var h *helper
	w.in(e.From, w.of, w.of.File, func() { h = w.helperOf([]string{method}, "", len(args)) }) // a class may give a method that it inherits another body
	if h == nil || !slices.Contains(w.chain(), h.class) || h.method.Static || h.method.IsExpression {
		w.fail(e.From, "a call of "+method)
		return nil, true
	}
	inner := map[string]*value{}
	for i, p := range h.method.Params {
		inner[p.Name] = args[i]
	}
	w.in(e.From, h.class, h.file, func() {
		steps = w.statements(w.body(h.method.Body[0], h.method.Body[1]), inner)
	})
	if ends(steps) {
		w.fail(e.From, "a return inside "+method)
	}
	return steps, true
}

// required follows require(a) { … } and check(a) { … }, which throw where the condition does
// not hold; ok is false where the statement is neither.
func (w *follower) required(e *code.Expr, env map[string]*value) (steps []model.Step, ok bool) {
	receiver, name := hand.Method(e)
	kind := map[string]string{"require": "IllegalArgumentException", "check": "IllegalStateException"}[name]
	if kind == "" || receiver != nil || len(e.Args) < 2 {
		return nil, false
	}
	pos := w.where(e)
	said := map[string]string{"require": "Failed requirement.", "check": "Check failed."}[name]
	cond := w.condition(e.Args[1], env)
	if len(e.Args) > 2 && e.Args[2].Op == code.Lambda {
		said = ""
		if body := e.Args[2].Body; len(body) == 1 && body[0].Value != nil {
			said = w.text(body[0].Value, env)
		}
	}
	thrown := &model.Expr{Op: model.OpFail, Why: strings.TrimSuffix(kind+": "+said, ": "), Pos: pos}
	return []model.Step{{Cond: cond, Else: []model.Step{{Expr: thrown, Pos: pos}}, Pos: pos}}, true
}

// onFailure is a value, or another one where reading it fails.
func (w *follower) onFailure(at int32, tried, otherwise *value, pos model.Pos) *value {
	if tried == nil || otherwise == nil || tried.isNode || otherwise.isNode || tried.instance || otherwise.instance {
		w.fail(at, "a part of the document that may fail")
		return nil
	}
	return &value{expr: &model.Expr{Op: model.OpCatch, Args: []*model.Expr{w.plain(tried, at), w.plain(otherwise, at)}, Pos: pos}}
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
	types := strings.FieldsFunc(text, func(r rune) bool { return !jvm.IsWordRune(r) })
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
func (w *follower) runCatching(e, run *code.Expr, name string, env map[string]*value) *value {
	pos := w.where(e)
	l := lambdaOf(run)
	if l == nil {
		w.fail(e.From, "what becomes of a result")
		return nil
	}
	tried := w.block(l.Body, env)
	var otherwise *value
	switch {
	case name == "getOrNull" && len(e.Args) == 1:
		otherwise = &value{expr: &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.NullLiteral}, Pos: pos}}
	case name == "getOrDefault" && len(e.Args) == 2:
		otherwise = w.expression(e.Args[1], env)
	case name == "getOrElse" && lambdaOf(e) != nil:
		otherwise = w.block(lambdaOf(e).Body, env)
	default:
		w.fail(e.From, "what becomes of a result")
		return nil
	}
	return w.onFailure(e.From, tried, otherwise, pos)
}

// text is the text that an expression is for certain, "" where that is not known: a literal, a constant, or
// what a helper was given.
func (w *follower) text(e *code.Expr, env map[string]*value) string {
	if e == nil || e.To <= e.From {
		return ""
	}
	from, to := w.tokens(e.From, e.To)
	return w.textAt(from, to, env)
}

// textAt is text of what stands between two tokens.
func (w *follower) textAt(from, to int, env map[string]*value) string {
	if l := jvm.Literal(w.f.File, from, to); l.Kind == model.StringLiteral {
		return l.Text
	}
	name := w.f.Joined(from, to)
	if v := env[name]; v != nil {
		if v.expr != nil && v.expr.Op == model.OpConst && v.expr.Value != nil && v.expr.Value.Kind == model.StringLiteral {
			return v.expr.Value.Text
		}
		return ""
	}
	return w.constantText(name)
}
