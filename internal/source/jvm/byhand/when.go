package byhand

import (
	"vetta/internal/code"
	"vetta/internal/model"
)

// arm is one of a when or switch: what must hold for it, nil for else and default, and what it does.
type arm struct {
	cond *model.Expr
	body []code.Stmt
}

// arms reads when (a) { … } and switch (a) { … }. nil where it is not followed, which is noted. inner is the
// environment of the arms: when may give its subject a name.
func (w *follower) arms(s *code.Stmt, env map[string]*value) (all []arm, inner map[string]*value) {
	inner = env
	var subject *value
	if s.Heads > 0 {
		head := &s.Body[0]
		subject = w.expression(head.Value, env)
		if subject == nil || subject.isNode || subject.expr == nil || !isTold(subject.expr) || s.Heads > 1 {
			w.fail(s.From, "a choice by something else than a value")
			return nil, nil
		}
		if head.Op == code.Let {
			inner = within(env, head.Name, subject)
		}
	}
	cases := inside(s)
	var equals []*model.Expr // of cases that fall through to the next
	for i := range cases {
		c := &cases[i]
		switch {
		case c.Kind != code.Case:
			w.fail(c.From, "a case")
		case c.Value == nil: // is String, in 1..3
			w.fail(c.From, "a case that is no constant")
		}
		if w.why != "" {
			return nil, nil
		}
		a := arm{body: c.Body}
		for _, e := range c.Value.Args {
			if subject == nil {
				equals = append(equals, w.condition(e, inner))
			} else {
				equals = append(equals, w.isEqual(e, subject, inner, w.f.At(s.From)))
			}
		}
		other := len(c.Value.Args) == 0
		if !other {
			for _, e := range equals {
				if a.cond == nil {
					a.cond = e
				} else {
					a.cond = &model.Expr{Op: model.OpCall, Func: "||", Args: []*model.Expr{a.cond, e}}
				}
			}
		}
		if w.f.Language == "java" && !w.isArrow(c) {
			if len(c.Body) == 1 && c.Body[0].Kind == code.Plain && c.Body[0].Op == code.Block { // case "a": { …; break; }
				a.body = c.Body[0].Body
			}
			if len(a.body) == 0 && !other { // it falls through
				continue
			}
			var leaves bool
			if a.body, leaves = withoutBreak(a.body, i == len(cases)-1); !leaves {
				w.fail(c.From, "a case that goes on with the next")
				return nil, nil
			}
		} else if len(a.body) == 1 && a.body[0].Kind == code.Plain && a.body[0].Op == code.Block {
			a.body = a.body[0].Body
		}
		equals = nil
		all = append(all, a)
		if other && i < len(cases)-1 {
			w.fail(c.From, "a case behind the last")
			return nil, nil
		}
	}
	if len(all) == 0 || w.why != "" {
		w.fail(s.From, "a choice")
		return nil, nil
	}
	return all, inner
}

// isArrow says whether a case of Java is one with an arrow, which none falls through.
func (w *follower) isArrow(c *code.Stmt) bool {
	first, end := w.tokens(c.From, c.To)
	for i := first; i < end; i++ {
		switch {
		case w.f.Is(i, ":"):
			return false
		case w.f.Is(i, "-") && w.f.Is(i+1, ">"):
			return true
		}
		if m := w.f.Partner(i); m > i {
			i = m
		}
	}
	return false
}

// withoutBreak are the statements of an old case without the break at their end, and whether nothing behind
// them runs: they end with break, return or throw. The last case may do without.
func withoutBreak(all []code.Stmt, last bool) (body []code.Stmt, leaves bool) {
	n := len(all)
	if n == 0 {
		return all, last
	}
	if body, ok := code.WithoutBreak(all); ok {
		return body, !code.Jumps(body)
	}
	switch end := &all[n-1]; {
	case end.Op == code.Return || end.Kind == code.Throw:
		return all, true
	}
	return all, last && !code.Jumps(all)
}

// isEqual is the condition that a subject equals an expression.
func (w *follower) isEqual(e *code.Expr, subject *value, env map[string]*value, pos model.Pos) *model.Expr {
	l := w.literal(e)
	if text := w.text(e, env); text != "" {
		l = &model.Literal{Kind: model.StringLiteral, Text: text}
	}
	switch l.Kind {
	case model.StringLiteral, model.IntLiteral, model.BoolLiteral, model.NullLiteral:
		return &model.Expr{Op: model.OpCall, Func: "==", Args: []*model.Expr{subject.expr, {Op: model.OpConst, Value: l, Pos: pos}}, Pos: pos}
	}
	w.fail(e.From, "a case that is no constant")
	return &model.Expr{Op: model.OpUnknown}
}

// picked is the value of a when or a switch.
func (w *follower) picked(s *code.Stmt, env map[string]*value) *value {
	pos := w.f.At(s.From)
	all, inner := w.arms(s, env)
	if len(all) == 0 {
		return nil
	}
	if all[len(all)-1].cond != nil {
		w.fail(s.From, "a choice without else")
		return nil
	}
	var out *value
	for i := len(all) - 1; i >= 0; i-- {
		a := all[i]
		var v *value
		if len(a.body) == 1 && a.body[0].Kind == code.Throw {
			v = &value{expr: w.thrown(a.body[0].Value, inner).Expr}
		} else {
			v = w.block(a.body, inner)
		}
		if v == nil {
			return nil
		}
		if a.cond == nil {
			out = v
			continue
		}
		if out = w.choice(s.From, a.cond, v, out, pos); out == nil {
			return nil
		}
	}
	return out
}

// returned is the value of a when or a switch each of whose arms returns one; without a last
// arm for all others, of what stands behind it.
func (w *follower) returned(s *code.Stmt, after []code.Stmt, env map[string]*value) *value {
	pos := w.f.At(s.From)
	all, inner := w.arms(s, env)
	if len(all) == 0 {
		return nil
	}
	var out *value
	if all[len(all)-1].cond != nil {
		if out = w.result(after, env); out == nil {
			return nil
		}
	}
	for i := len(all) - 1; i >= 0; i-- {
		v := w.result(all[i].body, fork(inner))
		if v == nil {
			return nil
		}
		if all[i].cond == nil {
			out = v
			continue
		}
		if out = w.choice(s.From, all[i].cond, v, out, pos); out == nil {
			return nil
		}
	}
	return out
}

// cases follows a when or a switch as a statement.
func (w *follower) cases(s *code.Stmt, env map[string]*value) []model.Step {
	pos := w.f.At(s.From)
	all, inner := w.arms(s, env)
	var steps []model.Step
	before := fork(env)
	for i := len(all) - 1; i >= 0; i-- {
		a := all[i]
		own := fork(inner)
		then := w.statements(a.body, own)
		for name := range env {
			if own[name] != inner[name] && !(own[name] != nil && own[name].isList && inner[name] != nil && len(own[name].list) == len(inner[name].list)) {
				before[name] = changed(name, pos)
			}
		}
		if a.cond == nil {
			steps = then
			continue
		}
		steps = []model.Step{{Cond: a.cond, Then: then, Else: steps, Pos: pos}}
	}
	for name := range env {
		env[name] = before[name]
	}
	return steps
}
