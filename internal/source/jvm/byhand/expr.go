package byhand

import (
	"slices"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/jvm"
)

// expression follows an expression; nil where it cannot, which is noted.
func (w *follower) expression(e *code.Expr, env map[string]*value) *value {
	if w.why != "" {
		return nil
	}
	if e == nil || e.To <= e.From {
		w.fail(offsetOf(e), "an expression")
		return nil
	}
	if e.Does == 0 {
		return w.plainly(e, env)
	}
	own := *e
	own.Does = 0
	var v *value
	if v = w.plainly(&own, env); v == nil {
		return nil
	}
	for _, does := range e.Does.All() {
		switch does {
		case code.Forced:
			if e.Op == code.As { // a cast of Java
				continue
			}
			v = w.orThrow(e.From, v, "NullPointerException: null", w.where(e))
		case code.Chained:
			v = w.guarded(v)
		default:
			w.fail(e.From, "an operator")
			return nil
		}
		if v == nil {
			return nil
		}
	}
	return v
}

// offsetOf is where an expression begins, the beginning of the file where none is.
func offsetOf(e *code.Expr) int32 {
	if e == nil {
		return 0
	}
	return e.From
}

// guarded is a value that what follows is done with only where it is something.
func (w *follower) guarded(v *value) *value {
	if !v.isNode || len(v.path) == 0 || !strings.HasPrefix(v.path[len(v.path)-1].fn, "opt") {
		return v
	}
	out := *v
	out.guards = append(append([]*value(nil), v.guards...), v)
	return &out
}

// plainly follows an expression whatever is done with its value.
func (w *follower) plainly(e *code.Expr, env map[string]*value) *value {
	if e.Op == code.Choice && len(e.Body) > 0 && e.Body[0].Kind != code.Plain {
		return w.valued(e.Body, e.From, env)
	}
	if e.Op == code.Choice && len(e.Body) > 0 { // a ? b : c
		cond := w.condition(e.Body[0].Value, env)
		yes := w.expression(e.Args[0], env)
		no := w.expression(e.Args[1], env)
		return w.choice(e.From, cond, yes, no, w.where(e))
	}
	if v, ok := w.truth(e, env); ok {
		return v
	}
	if e.Op == code.Choice {
		return w.elvis(e, env)
	}
	if v, ok := w.computed(e, env); ok {
		return v
	}
	return w.primary(e, env)
}

// valued is the value of a statement whose branches have one: if, when, switch, try.
func (w *follower) valued(all []code.Stmt, at int32, env map[string]*value) *value {
	s := &all[0]
	switch s.Kind {
	case code.Try:
		return w.caught(all, env, w.block)
	case code.Switch:
		return w.picked(s, env)
	case code.If:
		other := otherwise(all)
		if len(other) == 0 {
			w.fail(at, "if without else")
			return nil
		}
		cond := w.head(s, env)
		yes := w.block(inside(s), env)
		no := w.block(other, env)
		return w.choice(at, cond, yes, no, w.f.At(at))
	}
	w.fail(at, "an expression")
	return nil
}

// elvis follows a ?: b.
func (w *follower) elvis(e *code.Expr, env map[string]*value) *value {
	pos := w.where(e)
	left := w.expression(e.Args[0], env)
	other := e.Args[1]
	for _, does := range other.Does.All() {
		if does == code.Thrown || does == code.Returned || does == code.Yielded {
			return w.orLeave(other, does == code.Thrown, left, env)
		}
	}
	right := w.expression(other, env)
	if left != nil && right != nil && left.isNode && len(left.path) > 0 && right.isNode && right.fresh {
		out := *left
		out.orEmpty = true
		return &out
	}
	if held(left) == nil || held(right) == nil {
		w.fail(e.From, "?:")
		return nil
	}
	return &value{expr: w.orElse(e.From, held(left), held(right), pos)}
}

func (w *follower) choice(at int32, cond *model.Expr, yes, no *value, pos model.Pos) *value {
	if yes == nil || no == nil || yes.isNode || no.isNode {
		w.fail(at, "a choice between parts of the document")
		return nil
	}
	return &value{expr: &model.Expr{Op: model.OpIf, Args: []*model.Expr{cond, w.plain(yes, at), w.plain(no, at)}, Pos: pos}}
}

// literal is the value of an expression as far as source tells it.
func (w *follower) literal(e *code.Expr) *model.Literal {
	from, to := w.tokens(e.From, e.To)
	return jvm.Literal(w.f.File, from, to)
}

// primary follows what begins with a name, a constructor or a literal, and the calls behind it.
func (w *follower) primary(e *code.Expr, env map[string]*value) *value {
	pos := w.where(e)
	if v, ok := w.ranged(e, env); ok {
		return v
	}
	if v, ok := w.lookup(e, env); ok {
		return v
	}
	if e.Op == code.As {
		return w.cast(e, env)
	}
	if l := w.literal(e); l.Kind != model.OtherLiteral && l.Kind != model.CaseLiteral && allTold(l) {
		if l.Kind == model.ListLiteral && len(l.Elems) == 0 {
			return &value{isList: true}
		}
		if l.Kind == model.MapLiteral && len(l.Elems) == 0 {
			return &value{isMap: true}
		}
		return &value{expr: &model.Expr{Op: model.OpConst, Value: l, Pos: pos}}
	}
	switch e.Op {
	case code.Name:
		switch v := env[e.Text]; {
		case v != nil:
			return v
		case e.Text == "this":
			return &value{instance: true}
		}
		return &value{expr: &model.Expr{Op: model.OpConst, Value: w.literal(e), Pos: pos}}
	case code.Member:
		if names := namesOf(e); names != nil && env[names[0]] == nil {
			return &value{expr: &model.Expr{Op: model.OpConst, Value: w.literal(e), Pos: pos}}
		}
		if len(e.Args) == 1 && w.expression(e.Args[0], env) != nil {
			w.fail(e.From, "the property "+e.Text)
		}
		return nil
	case code.Call:
		return w.called(e, env)
	}
	if w.why == "" {
		w.fail(e.From, "an expression")
	}
	return nil
}

// cast follows (int) a; the other casts of Java change nothing of a value that is read as what it is.
func (w *follower) cast(e *code.Expr, env map[string]*value) *value {
	if w.f.Language != "java" {
		w.fail(e.From, "an operator")
		return nil
	}
	inner, _ := w.tokens(e.Args[0].From, e.Args[0].To)
	_, end := w.tokens(e.From, e.To)
	rest := w.f.Joined(inner, end)
	if strings.Contains(rest, ".get(") || strings.Contains(rest, ".opt(") {
		w.fail(e.From, "a cast of what may be anything")
		return nil
	}
	first, _ := w.tokens(e.From, e.To)
	switch to := w.f.Joined(first+1, w.f.Partner(first)); to {
	case "int", "long", "short", "byte", "char", "float":
		if !strings.Contains(rest, "."+map[string]string{"int": "getInt(", "long": "getLong("}[to]) || to != "int" && to != "long" {
			w.fail(e.From, "a cast to "+to)
			return nil
		}
	}
	return w.expression(e.Args[0], env)
}

// namesOf are the names of an expression that is nothing but names with dots between them, nil for another.
func namesOf(e *code.Expr) []string {
	switch {
	case e.Op == code.Name:
		return []string{e.Text}
	case e.Op == code.Member && len(e.Args) == 1:
		if before := namesOf(e.Args[0]); before != nil {
			return append(before, e.Text)
		}
	}
	return nil
}

// called follows a call: of a constructor, a factory or a helper, or of a method of a value.
func (w *follower) called(e *code.Expr, env map[string]*value) *value {
	receiver, name := hand.Method(e)
	this := env["this"]
	switch {
	case receiver == nil && name == "with" && e.Type == nil:
		return w.receives(e, env)
	case receiver == nil && this != nil && this.isNode && (readers[name] || parts[name]): // of the part that the block is about
		return w.method(e, this, name, env)
	case receiver != nil && isCallOf(receiver, "runCatching"):
		return w.runCatching(e, receiver, name, env)
	}
	if e.Type != nil && receiver == nil { // new
		return w.constructs(e, strings.Split(e.Type.Name, "."), env)
	}
	if names := namesOf(e.Args[0]); names != nil && env[names[0]] == nil && !(names[0] == "this" && len(names) == 1) {
		return w.constructs(e, names, env)
	}
	if receiver == nil {
		w.fail(e.From, "the name "+name)
		return nil
	}
	v := w.expression(receiver, env)
	if v == nil {
		return nil
	}
	return w.method(e, v, name, env)
}

func (w *follower) constructs(e *code.Expr, names []string, env map[string]*value) *value {
	v, ok := w.construct(e, names, env)
	if !ok {
		return nil
	}
	return v
}

// readers are the methods of JSONObject and JSONArray that yield a value, or go further
// in.
var readers = map[string]bool{
	"getString": true, "getInt": true, "getLong": true, "getDouble": true, "getBoolean": true, "get": true,
	"optString": true, "optInt": true, "optLong": true, "optDouble": true, "optBoolean": true, "opt": true,
}

// lambdaOf is the closure that is all that a call is given, nil where it is given anything else.
func lambdaOf(e *code.Expr) *code.Expr {
	if e.Op == code.Call && len(e.Args) == 2 && e.Args[1].Op == code.Lambda {
		return e.Args[1]
	}
	return nil
}

// param is the name of the one parameter of a closure, by default what Kotlin calls it.
func param(l *code.Expr) string {
	if len(l.Labels) > 0 {
		return l.Labels[0]
	}
	return "it"
}

// method follows a call of a method of a value.
func (w *follower) method(e *code.Expr, v *value, name string, env map[string]*value) *value {
	pos := e.Pos
	if l := lambdaOf(e); l != nil {
		switch {
		case (name == "apply" || name == "also" || name == "run" && v.instance) && !v.isNode:
			return w.scoped(e.From, l, v, name, env)
		case name == "ifEmpty" || name == "ifBlank":
			return w.ifEmpty(l, v, name, env)
		case name == "takeIf" || name == "takeUnless":
			return w.takenIf(l, v, name == "takeUnless", env)
		case (name == "let" || name == "run") && v.isNode:
			return w.let(l, v, name, env)
		}
		w.fail(e.From, "the property "+name)
		return nil
	}
	args := e.Args[1:]
	if made := converted(v, name, pos); made != nil && len(args) == 0 {
		return made
	}
	if name == "length" && v.isNode && len(args) == 0 {
		return &value{length: true, expr: &model.Expr{Op: model.OpUnknown, Why: "how many elements there are", Pos: pos}}
	}
	if !v.isNode || len(args) == 0 && (readers[name] || parts[name]) {
		w.fail(e.From, "a call of "+name)
		return nil
	}
	a := access{fn: name, pos: pos}
	if !readers[name] && !parts[name] {
		return w.extension(e, name, v, env)
	}
	switch first := w.literal(args[0]); {
	case w.text(args[0], env) != "":
		a.key = w.text(args[0], env)
	case first.Kind == model.StringLiteral:
		a.key = first.Text
	case first.Kind == model.IntLiteral:
		n, err := strconv.Atoi(first.Text)
		if err != nil || n < 0 {
			w.fail(args[0].From, "an index")
			return nil
		}
		a.index = n
	default:
		index := w.bound(args[0], env)
		switch {
		case index != nil && index.expr != nil && index.expr.Func == "index":
			a.each = true
		case index != nil && index.of != nil && slices.Equal(index.of.path, v.path):
			a.each, a.member = true, true
		default:
			w.fail(args[0].From, "a key that is computed")
			return nil
		}
	}
	if parts[name] {
		if v.orEmpty {
			w.fail(e.From, "a part of what may be empty")
			return nil
		}
		if w.ofElement && a.each && len(v.path) == 0 && name == "getJSONObject" { // the element itself
			return &value{isNode: true}
		}
		return &value{isNode: true, path: append(append([]access(nil), v.path...), a), guards: v.guards}
	}
	if v.orEmpty && !a.each {
		w.fail(e.From, "a value of what may be empty")
		return nil
	}
	leaf := &model.Expr{Op: model.OpCast, Func: name, Pos: pos}
	if len(args) > 1 {
		leaf.Value = w.literal(args[1])
		if v := w.bound(args[1], env); v != nil { // what a helper was given
			if leaf.Value = (&model.Literal{Kind: model.OtherLiteral}); v.expr != nil && v.expr.Op == model.OpConst && v.expr.Value != nil {
				leaf.Value = v.expr.Value
			}
		}
		if leaf.Value.Kind == model.OtherLiteral {
			w.fail(args[1].From, "a fallback that is computed")
			return nil
		}
	}
	return guardedBy(v.guards, &value{expr: nest(append(append([]access(nil), v.path...), a), leaf)}, pos)
}

// bound is what the name stands for that an expression is, nil where it is none.
func (w *follower) bound(e *code.Expr, env map[string]*value) *value {
	if e.Op != code.Name {
		return nil
	}
	return env[e.Text]
}

// extension follows a call of an extension of Kotlin on a part of the document.
func (w *follower) extension(e *code.Expr, name string, v *value, env map[string]*value) *value {
	class := "JSONObject"
	if n := len(v.path); n > 0 && strings.HasSuffix(v.path[n-1].fn, "Array") {
		class = "JSONArray"
	}
	h := w.helperOf([]string{name}, class, len(e.Args)-1)
	if h == nil {
		w.fail(e.From, "a call of "+name)
		return nil
	}
	values, _, ok := w.argumentsOf(e.Args[1:], e.Labels, env, false)
	if !ok {
		return nil
	}
	return w.inline(e.From, h, &value{isNode: true, path: v.path}, values)
}

// within is an environment in which one more name stands for a value.
func within(env map[string]*value, name string, v *value) map[string]*value {
	inner := map[string]*value{name: v}
	for other, v := range env {
		if other != name {
			inner[other] = v
		}
	}
	return inner
}

// let follows part.let { … } and part?.let { … }: the block's value, and nothing where
// an opt method has found no such part.
func (w *follower) let(l *code.Expr, part *value, name string, env map[string]*value) *value {
	pos := w.where(l)
	as := param(l)
	if name == "run" {
		as = "this"
	}
	v := w.block(l.Body, within(env, as, &value{isNode: part.isNode, path: part.path, orEmpty: part.orEmpty}))
	if v == nil || v.isNode || part.orEmpty || len(part.path) == 0 || !strings.HasPrefix(part.path[len(part.path)-1].fn, "opt") {
		return v
	}
	guards := part.guards
	if len(guards) == 0 || guards[len(guards)-1].path[len(guards[len(guards)-1].path)-1] != part.path[len(part.path)-1] {
		guards = append(append([]*value(nil), guards...), part)
	}
	return guardedBy(guards, &value{expr: w.plain(v, l.From)}, pos)
}

// guardedBy is a value that is nothing unless all parts have been found.
func guardedBy(guards []*value, v *value, pos model.Pos) *value {
	for i := len(guards) - 1; i >= 0; i-- {
		nothing := &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.NullLiteral}, Pos: pos}
		v = &value{expr: &model.Expr{Op: model.OpIf, Args: []*model.Expr{given(guards[i]), v.expr, nothing}, Pos: pos}}
	}
	return v
}

// given is the condition that an opt method has found a part.
func given(part *value) *model.Expr {
	at := part.path[len(part.path)-1]
	kind := "object"
	if strings.HasSuffix(at.fn, "Array") {
		kind = "array"
	}
	before := part.path[:len(part.path)-1]
	if at.each && !at.member {
		return elementIs(before, kind, at.pos)
	}
	return nest(before, &model.Expr{Op: model.OpGiven, Key: at.key, Func: kind, Pos: at.pos})
}

// allTold says whether the elements of a literal are literals too.
func allTold(l *model.Literal) bool {
	return !slices.ContainsFunc(l.Elems, func(e *model.Literal) bool { return e.Kind == model.OtherLiteral || !allTold(e) })
}

// constantText is the text of a constant of the class, "" where the name is none.
func (w *follower) constantText(name string) string {
	w.p.Asked = 0
	if l := w.p.Constant(w.f, w.c, name, jvm.MaxConstants); l != nil && l.Kind == model.StringLiteral {
		return l.Text
	}
	return ""
}
