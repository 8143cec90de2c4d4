package jvm

import (
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// call follows a statement that is a call: list.add(x), s.setName(x).
func (w *follower) call(c *scan.Cursor, end int, env map[string]*value, pos model.Pos) []model.Step {
	// name.….method(args)
	open := -1
	for i := c.I; i < end; i++ {
		if c.F.Is(i, "(") && c.F.Partner(i) == end-1 {
			open = i
			break
		}
		if m := c.F.Partner(i); m > i {
			i = m
		}
	}
	plus := -1
	for i := c.I; i+1 < end; i++ { // list += x
		if c.F.Is(i, "+") && c.F.Is(i+1, "=") {
			plus = i
		}
		if m := c.F.Partner(i); m > i {
			i = m
		}
	}
	method, target := "", []string{}
	args := [2]int{}
	switch {
	case open > c.I && plus < 0 && c.F.KindAt(open-1) == scan.Ident:
		method = c.F.TokenAt(open - 1).Text
		for i := c.I; i < open-2; i++ {
			if c.F.TokenAt(i).Kind == scan.Ident {
				target = append(target, c.F.TokenAt(i).Text)
			}
		}
		args = [2]int{open + 1, end - 1}
	case plus > 0:
		method, target, args = "add", []string{c.F.TokenAt(plus - 1).Text}, [2]int{plus + 2, end}
		if plus-3 >= c.I && c.F.Is(plus-2, ".") {
			target = append([]string{c.F.TokenAt(plus - 3).Text}, target...)
		}
	default:
		w.fail(c, "a statement")
		return nil
	}
	if isQuiet(target, method) {
		return w.givenAway(c.F, args[0], args[1], env, pos)
	}
	if open > 0 && notNull[method] != "" {
		v := w.expression(&scan.Cursor{F: c.F, I: c.I}, end, env)
		if v == nil || v.expr == nil {
			w.fail(c, "a part of the document that must be there")
			return nil
		}
		return []model.Step{{Expr: v.expr, Pos: pos}}
	}
	if len(target) == 0 || len(target) == 1 && target[0] == "this" && !strings.HasPrefix(method, "set") {
		steps, ok := w.own(c, method, args[0], args[1], env)
		if !ok {
			w.fail(c, "a call of "+method)
		}
		return steps
	}
	lastName := target[len(target)-1]
	onInstance := len(target) == 2 && (target[0] == "this" || env[target[0]] != nil && env[target[0]].instance) || len(target) == 1 && w.field(lastName) && (env[lastName] == nil || env[lastName].property)
	switch {
	case method == "add" && (onInstance || env[lastName] != nil && env[lastName].isList):
		v := w.expression(&scan.Cursor{F: c.F, I: args[0]}, args[1], env)
		if v == nil || w.why != "" {
			return nil
		}
		e := w.each(w.node(v, c))
		if e == nil {
			w.fail(c, "what is added to "+lastName)
			return nil
		}
		if onInstance {
			return w.fills(c, lastName, e, pos)
		}
		if in := env[lastName].storedIn; in != "" {
			return w.fills(c, in, e, pos)
		}
		env[lastName].list = append(env[lastName].list, e)
		return nil
	case strings.HasPrefix(method, "set") && len(method) > 3 && len(target) == 1 && (env[lastName] != nil && env[lastName].instance || lastName == "this"):
		v := w.expression(&scan.Cursor{F: c.F, I: args[0]}, args[1], env)
		if v == nil {
			return nil
		}
		field := strings.ToLower(method[3:4]) + method[4:]
		if !w.field(field) || !w.plainSetter(method, field) {
			w.fail(c, "the setter "+method)
			return nil
		}
		return []model.Step{{Field: field, Expr: w.stored(v, c), Pos: pos}}
	}
	w.fail(c, "a call of "+method)
	return nil
}

// plainSetter says whether a method does nothing but assign its parameter to a field, as
// far as the source has it.
func (w *follower) plainSetter(method, field string) bool {
	for _, c := range w.chain() {
		for _, m := range c.Methods {
			if m.Name != method || len(m.Params) != 1 {
				continue
			}
			text := strings.TrimPrefix(c.File.Joined(m.Body[0], m.Body[1]), "this.")
			assigned := field + "=" + m.Params[0].Name
			return text == assigned || text == assigned+";" || text == assigned+";returnthis;" || m.Body[1] == 0
		}
	}
	return true
}

// mustBe is the step that declaring a name takes, whatever is done with what it stands for: a get
// method throws where it finds nothing.
func (w *follower) mustBe(v *value, pos model.Pos) []model.Step {
	n := len(v.path)
	switch {
	case v.isNode && (n == 0 || len(v.guards) > 0 || !strings.HasPrefix(v.path[n-1].fn, "getJSON")):
		return nil
	case v.isNode:
		is := &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.BoolLiteral, Text: "true"}, Pos: pos}
		return w.certain(nest(v.path, is), pos)
	case v.expr != nil && throws(v.expr):
		return w.certain(v.expr, pos)
	}
	return nil
}

// certain is the step that evaluates an expression for what it throws. One of the element of a
// loop is kept until the loop is followed.
func (w *follower) certain(e *model.Expr, pos model.Pos) []model.Step {
	if wayToElement(e) != nil {
		w.must = append(w.must, e)
		return nil
	}
	return []model.Step{{Expr: e, Pos: pos}}
}

// throws says whether an expression of values that are read may throw.
func throws(e *model.Expr) bool {
	found := false
	e.Walk(func(e *model.Expr) {
		found = found || e.Op == model.OpCast && strings.HasPrefix(e.Func, "get") || e.Op == model.OpFail
	})
	return found && !holdsEach(e)
}

// givenAway are the steps that read what a call is given which does nothing to the instance, as far
// as that is followed.
func (w *follower) givenAway(f *scan.File, from, to int, env map[string]*value, pos model.Pos) (steps []model.Step) {
	for i := from; i < to; i++ {
		start := i
		for i < to && !f.Is(i, ",") {
			i = max(i, f.Partner(i)) + 1
		}
		if e := w.quietly(f, start, i, env); e != nil && throws(e) {
			steps = append(steps, w.certain(e, pos)...)
		}
	}
	return steps
}
