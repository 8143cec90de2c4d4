package jvm

import (
	"slices"

	"vetta/internal/model"
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
func enumAround(c *Class) *Class {
	for c != nil && c.Kind != "enum" {
		c = c.Outer
	}
	return c
}

// lookup follows Mode.values().find { it.code == a } and Mode.entries.first { … }; ok is false
// where the expression is neither.
func (w *follower) lookup(c *scan.Cursor, env map[string]*value) (v *value, ok bool) {
	ahead := *c
	class := w.c
	if ahead.Kind() == scan.Ident && ahead.Ahead(1, ".") && (ahead.Ahead(2, "values") || ahead.Ahead(2, "entries")) {
		class = w.p.find(w.f, w.c, ahead.Text())
		ahead.I += 2
	}
	class = enumAround(class)
	kind := "Collection"
	switch {
	case ahead.Is("values") && ahead.Ahead(1, "(") && ahead.Ahead(2, ")"):
		kind = "Array"
		ahead.I += 3
	case ahead.Is("entries"):
		ahead.Advance()
	default:
		return nil, false
	}
	missing, known := lookups[ahead.F.Ident(ahead.I+1)]
	if class == nil || !ahead.Is(".") || !known || !ahead.Ahead(2, "{") {
		return nil, false
	}
	pos := c.Where()
	c.I = ahead.I + 2
	param, from, to := lambda(c)
	otherwise := &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.NullLiteral}, Pos: pos}
	if missing != "" {
		otherwise = &model.Expr{Op: model.OpFail, Why: "NoSuchElementException: " + kind + missing, Pos: pos}
	}
	return w.constantWhere(c.F, class, param, from, to, env, otherwise, pos), true
}

// constantWhere is the first constant of an enum for which the condition between two tokens
// holds, in which param stands for it, and otherwise where there is none.
func (w *follower) constantWhere(f *scan.File, class *Class, param string, from, to int, env map[string]*value, otherwise *model.Expr, pos model.Pos) *value {
	c := &scan.Cursor{F: f, I: from}
	class.read()
	method, left, right := "==", [2]int{}, [2]int{}
	if open := f.Partner(to - 1); f.Is(to-1, ")") && open > from && f.Is(open-2, ".") && (f.Is(open-1, "equals") || f.Is(open-1, "equalsIgnoreCase")) { // a.equals(b)
		left, right = [2]int{from, open - 2}, [2]int{open + 1, to - 1}
		for i := right[0]; i < right[1]; i++ {
			if f.Is(i, ",") { // ignoreCase = true
				right[1] = i
			}
		}
		if f.Is(open-1, "equalsIgnoreCase") || right[1] < to-1 {
			w.fail(c, "a constant by its name in any case")
			return nil
		}
	} else {
		for i := from; i+1 < to; i++ {
			if f.Is(i, "=") && f.Is(i+1, "=") {
				left, right = [2]int{from, i}, [2]int{i + 2, to}
				break
			}
		}
	}
	if !f.Is(left[0], param) {
		left, right = right, left
	}
	of := left[1] - left[0]
	if !f.Is(left[0], param) || !f.Is(left[0]+1, ".") || of != 3 && !(of == 5 && f.Is(left[0]+3, "(")) || right[1] <= right[0] {
		w.fail(c, "how a constant is looked up")
		return nil
	}
	argument := argumentOf(class, f.Ident(left[0]+2), of == 5)
	subject := w.expression(&scan.Cursor{F: f, I: right[0]}, right[1], env)
	if subject == nil || held(subject) == nil || argument == nil {
		w.fail(c, "how a constant is looked up")
		return nil
	}
	out := otherwise
	for _, k := range slices.Backward(class.Cases) {
		l := argument(k)
		if l == nil || l.Kind != model.StringLiteral && l.Kind != model.IntLiteral && l.Kind != model.BoolLiteral {
			w.fail(c, "what "+k.Name+" is made of")
			return nil
		}
		constant := &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.CaseLiteral, Text: k.Name}, Pos: pos}
		equal := &model.Expr{Op: model.OpCall, Func: method, Args: []*model.Expr{held(subject), {Op: model.OpConst, Value: l, Pos: pos}}, Pos: pos}
		out = &model.Expr{Op: model.OpIf, Args: []*model.Expr{equal, constant, out}, Pos: pos}
	}
	return &value{expr: out}
}

// argumentOf tells what a property of the constants of an enum is, or what a method of theirs
// answers: name, or what their constructor was given for it. nil where that is not followed.
func argumentOf(class *Class, name string, called bool) func(k *model.Case) *model.Literal {
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
func (w *follower) constantLoop(c *scan.Cursor, limit int, env map[string]*value) (v *value, ok bool) {
	f := c.F
	open := c.I + 1
	shut := f.Partner(open)
	at := shut // of values()
	class := w.c
	if !f.Is(open, "(") || !f.Is(at-1, ")") || !f.Is(at-3, "values") {
		return nil, false
	}
	if f.Is(at-4, ".") {
		class = w.p.find(w.f, w.c, f.Ident(at-5))
	}
	class = enumAround(class)
	param := f.Ident(open + 2) // behind the type
	if w.f.Language == "kotlin" {
		param = f.Ident(open + 1)
	}
	from, to := shut+1, 0
	if f.Is(from, "{") {
		from, to = from+1, f.Partner(from)
	} else {
		to = w.end(&scan.Cursor{F: f, I: from}, limit)
	}
	if class == nil || !f.Is(from, "if") || !f.Is(from+1, "(") {
		return nil, false
	}
	cond := [2]int{from + 2, f.Partner(from + 1)}
	then := cond[1] + 1
	if f.Is(then, "{") {
		then++
	}
	if !f.Is(then, "return") || !f.Is(then+1, param) {
		return nil, false
	}
	for i := then + 2; i < to; i++ {
		if !f.Is(i, ";") && !f.Is(i, "}") {
			return nil, false
		}
	}
	pos := c.Where()
	c.I = to
	for c.I < limit && (c.Is("}") || c.Is(";")) {
		c.Advance()
	}
	rest := w.result(c, limit, env)
	if held(rest) == nil {
		w.fail(c, "what it returns")
		return nil, true
	}
	return w.constantWhere(f, class, param, cond[0], cond[1], env, held(rest), pos), true
}
