package byhand

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/each"
	"vetta/internal/code/hand"
	"vetta/internal/model"
)

// call follows a statement that is a call: list.add(x), s.setName(x), list += x.
func (w *follower) call(s *code.Stmt, env map[string]*value, pos model.Pos) []model.Step {
	method, target := "", []string{}
	var args []*code.Expr
	switch {
	case s.Op == code.Assign: // list += x
		text, _ := w.tokens(s.Value.From, s.Value.To)
		if !w.f.Is(text-1, "=") || !w.f.Is(text-2, "+") {
			w.fail(s.From, "a statement")
			return nil
		}
		method, args = "add", []*code.Expr{s.Value}
		if s.Of != nil {
			target = chainOf(s.Of)
		}
		target = append(target, s.Name)
	case s.Value != nil && s.Value.Op == code.Call && lambdaOf(s.Value) == nil:
		var receiver *code.Expr
		receiver, method = hand.Method(s.Value)
		if receiver != nil {
			target = chainOf(receiver)
		}
		args = s.Value.Args[1:]
	}
	if method == "" {
		w.fail(s.From, "a statement")
		return nil
	}
	if isQuiet(target, method) {
		return w.givenAway(args, env, pos)
	}
	if s.Op == code.Do && notNull[method] != "" {
		v := w.expression(s.Value, env)
		if v == nil || v.expr == nil {
			w.fail(s.From, "a part of the document that must be there")
			return nil
		}
		return []model.Step{{Expr: v.expr, Pos: pos}}
	}
	if len(target) == 0 || len(target) == 1 && target[0] == "this" && !strings.HasPrefix(method, "set") {
		steps, ok := w.own(s.Value, method, env)
		if !ok {
			w.fail(s.From, "a call of "+method)
		}
		return steps
	}
	lastName := target[len(target)-1]
	onInstance := len(target) == 2 && (target[0] == "this" || env[target[0]] != nil && env[target[0]].instance) || len(target) == 1 && w.field(lastName) && (env[lastName] == nil || env[lastName].property)
	switch {
	case len(args) != 1:
	case method == "add" && (onInstance || env[lastName] != nil && env[lastName].isList):
		v := w.expression(args[0], env)
		if v == nil || w.why != "" {
			return nil
		}
		e := each.Each(w.node(v, args[0].From))
		if e == nil {
			w.fail(s.From, "what is added to "+lastName)
			return nil
		}
		if onInstance {
			return w.fills(s.From, lastName, e, pos)
		}
		if in := env[lastName].storedIn; in != "" {
			return w.fills(s.From, in, e, pos)
		}
		env[lastName].list = append(env[lastName].list, e)
		return nil
	case strings.HasPrefix(method, "set") && len(method) > 3 && len(target) == 1 && (env[lastName] != nil && env[lastName].instance || lastName == "this"):
		v := w.expression(args[0], env)
		if v == nil {
			return nil
		}
		field := strings.ToLower(method[3:4]) + method[4:]
		if !w.field(field) || !w.plainSetter(method, field) {
			w.fail(s.From, "the setter "+method)
			return nil
		}
		return []model.Step{{Field: field, Expr: w.stored(v, args[0].From), Pos: pos}}
	}
	w.fail(s.From, "a call of "+method)
	return nil
}

// chainOf are the names in what a call is made on.
func chainOf(e *code.Expr) []string {
	switch {
	case e.Op == code.Name:
		return []string{e.Text}
	case e.Op == code.Member && len(e.Args) == 1:
		return append(chainOf(e.Args[0]), e.Text)
	case e.Op == code.Call || e.Op == code.Index || e.Op == code.As:
		return append(chainOf(e.Args[0]), "")
	}
	return []string{""}
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
	if each.WayToElement(e) != nil {
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
	return found && !each.HoldsEach(e)
}

// givenAway are the steps that read what a call is given which does nothing to the instance, as far
// as that is followed.
func (w *follower) givenAway(args []*code.Expr, env map[string]*value, pos model.Pos) (steps []model.Step) {
	for _, a := range args {
		if e := w.quietly(a, env); e != nil && throws(e) {
			steps = append(steps, w.certain(e, pos)...)
		}
	}
	return steps
}
