package byhand

import (
	"slices"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// Code that looks a constant of an enum up by what its constructor was given, or by its name.

// lookups are the functions of Kotlin that find an element, by what they throw where there is
// none; those that throw nothing answer null.
var lookups = map[string]string{
	"find": "", "firstOrNull": "",
	"first": " contains no element matching the predicate.",
}

// enumAround is a class, or the one around it, that is an enum: a companion stands in one.
func enumAround(c *jvm.Class) *jvm.Class {
	for c != nil && c.Kind != "enum" {
		c = c.Outer
	}
	return c
}

// constants is the enum whose constants an expression yields, values() or Mode.entries, and what a list of
// them is called; nil where it is another expression.
func (w *follower) constants(e *code.Expr) (class *jvm.Class, kind string) {
	class = w.c
	receiver, name := hand.Method(e)
	switch {
	case e.Op == code.Call && name == "values" && len(e.Args) == 1:
		kind = "Array"
	case e.Op == code.Name && e.Text == "entries":
		kind = "Collection"
	case e.Op == code.Member && e.Text == "entries" && len(e.Args) == 1:
		kind, receiver = "Collection", e.Args[0]
	default:
		return nil, ""
	}
	if receiver != nil {
		if receiver.Op != code.Name {
			return nil, ""
		}
		class = w.p.Find(w.f, w.c, receiver.Text)
	}
	return enumAround(class), kind
}

// lookup follows Mode.values().find { it.code == a } and Mode.entries.first { … }; ok is false
// where the expression is neither.
func (w *follower) lookup(e *code.Expr, env map[string]*value) (v *value, ok bool) {
	receiver, name := hand.Method(e)
	missing, known := lookups[name]
	l := lambdaOf(e)
	if receiver == nil || !known || l == nil {
		return nil, false
	}
	class, kind := w.constants(receiver)
	if class == nil {
		return nil, false
	}
	pos := w.where(e)
	otherwise := &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.NullLiteral}, Pos: pos}
	if missing != "" {
		otherwise = &model.Expr{Op: model.OpFail, Why: "NoSuchElementException: " + kind + missing, Pos: pos}
	}
	if len(l.Body) != 1 || l.Body[0].Value == nil || l.Body[0].Torn {
		w.fail(e.From, "how a constant is looked up")
		return nil, true
	}
	return w.constantWhere(l.Body[0].Value, class, param(l), env, otherwise, pos), true
}

// constantWhere is the first constant of an enum for which a condition holds, in which a name stands for it,
// and otherwise where there is none.
func (w *follower) constantWhere(cond *code.Expr, class *jvm.Class, name string, env map[string]*value, otherwise *model.Expr, pos model.Pos) *value {
	class.Read()
	var left, right *code.Expr
	switch receiver, method := hand.Method(cond); {
	case cond.Op == code.Call && receiver != nil && (method == "equals" || method == "equalsIgnoreCase"): // a.equals(b)
		if method == "equalsIgnoreCase" || len(cond.Args) != 2 {
			w.fail(cond.From, "a constant by its name in any case")
			return nil
		}
		left, right = receiver, cond.Args[1]
	case cond.Op == code.Binary && cond.Text == "==":
		left, right = cond.Args[0], cond.Args[1]
	}
	if left != nil && !isOf(left, name) {
		left, right = right, left
	}
	if left == nil || !isOf(left, name) {
		w.fail(cond.From, "how a constant is looked up")
		return nil
	}
	called := left.Op == code.Call
	of := left
	if called {
		of = left.Args[0]
	}
	argument := argumentOf(class, of.Text, called)
	subject := w.expression(right, env)
	if subject == nil || held(subject) == nil || argument == nil {
		w.fail(cond.From, "how a constant is looked up")
		return nil
	}
	out := otherwise
	for _, k := range slices.Backward(class.Cases) {
		l := argument(k)
		if l == nil || l.Kind != model.StringLiteral && l.Kind != model.IntLiteral && l.Kind != model.BoolLiteral {
			w.fail(cond.From, "what "+k.Name+" is made of")
			return nil
		}
		constant := &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.CaseLiteral, Text: k.Name}, Pos: pos}
		equal := &model.Expr{Op: model.OpCall, Func: "==", Args: []*model.Expr{held(subject), {Op: model.OpConst, Value: l, Pos: pos}}, Pos: pos}
		out = &model.Expr{Op: model.OpIf, Args: []*model.Expr{equal, constant, out}, Pos: pos}
	}
	return &value{expr: out}
}

// isOf says whether an expression is a property of what has a name, or what a method of it answers.
func isOf(e *code.Expr, name string) bool {
	if e.Op == code.Call && len(e.Args) == 1 {
		e = e.Args[0]
	}
	return e.Op == code.Member && len(e.Args) == 1 && e.Args[0].Op == code.Name && e.Args[0].Text == name
}

// argumentOf tells what a property of the constants of an enum is, or what a method of theirs
// answers: name, or what their constructor was given for it. nil where that is not followed.
func argumentOf(class *jvm.Class, name string, called bool) func(k *model.Case) *model.Literal {
	if name == "name" && called == (class.File.Language == "java") {
		return func(k *model.Case) *model.Literal { return &model.Literal{Kind: model.StringLiteral, Text: k.Name} }
	}
	if called { // getCode(), code()
		for _, m := range class.Methods {
			if m.Name == name && len(m.Params) == 0 && m.Body[1] > m.Body[0] {
				f := class.File
				at := m.Body[0]
				for f.Is(at, "return") || f.Is(at, "this") || f.Is(at, ".") {
					at++
				}
				if m.Body[1]-at > 2 || f.KindAt(at) != scan.Ident {
					return nil
				}
				return argumentOf(class, f.Ident(at), false)
			}
		}
		return nil
	}
	if len(class.Ctors) != 1 {
		return nil
	}
	at := slices.Index(class.Ctors[0].Fills, name)
	if at < 0 || slices.Contains(class.Ctors[0].Computes, name) {
		return nil
	}
	return func(k *model.Case) *model.Literal {
		if at < len(k.Args) {
			return k.Args[at]
		}
		return nil
	}
}

// constantLoop follows for (Mode m : values()) if (m.code.equals(a)) return m; and what stands
// behind it for a value that matches none; ok is false where the loop is another.
func (w *follower) constantLoop(s *code.Stmt, after []code.Stmt, env map[string]*value) (v *value, ok bool) {
	if s.Heads != 1 || s.Body[0].Op != code.Let || s.Body[0].Value == nil {
		return nil, false
	}
	class, kind := w.constants(s.Body[0].Value)
	body := inside(s)
	if class == nil || kind != "Array" || len(body) != 1 || body[0].Kind != code.If || body[0].Heads != 1 || body[0].Body[0].Value == nil {
		return nil, false
	}
	name, then := s.Body[0].Name, inside(&body[0])
	if len(then) != 1 || then[0].Op != code.Return || then[0].Value == nil || then[0].Value.Op != code.Name || then[0].Value.Text != name {
		return nil, false
	}
	rest := w.result(after, env)
	if held(rest) == nil {
		w.fail(s.From, "what it returns")
		return nil, true
	}
	return w.constantWhere(body[0].Body[0].Value, class, name, env, held(rest), w.f.At(s.From)), true
}
