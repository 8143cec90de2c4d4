package jvm

import (
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// arm is one of a when or switch: what must hold for it, nil for else and default, and the
// tokens of what it does.
type arm struct {
	cond     *model.Expr
	from, to int
	block    bool // in braces, or the statements of an old case
}

// arms reads when (a) { … } and switch (a) { … }, from the word at the cursor, which goes
// behind it. nil where it is not followed, which is noted. inner is the environment of the
// arms: when may give its subject a name.
func (w *follower) arms(c *scan.Cursor, env map[string]*value) (all []arm, inner map[string]*value) {
	inner = env
	kotlin := c.Is("when")
	pos := c.Where()
	c.Advance()
	var subject *value
	if c.Is("(") {
		shut := c.Shut()
		from, name := c.I+1, ""
		if c.F.Is(from, "val") && c.F.KindAt(from+1) == scan.Ident && c.F.Is(from+2, "=") {
			from, name = from+3, c.F.Ident(from+1)
		}
		subject = w.expression(&scan.Cursor{F: c.F, I: from}, shut, env)
		if subject == nil || subject.isNode || subject.expr == nil || !isTold(subject.expr) {
			w.fail(c, "a choice by something else than a value")
			return nil, nil
		}
		if name != "" {
			inner = within(env, name, subject)
		}
		c.I = shut + 1
	}
	if !c.Is("{") {
		w.fail(c, "a choice without braces")
		return nil, nil
	}
	end := c.Shut()
	c.Advance()
	var equals []*model.Expr // of cases that fall through to the next
	for c.I < end && w.why == "" {
		if c.Accept(";") {
			continue
		}
		a := arm{}
		other := c.Is("else") && kotlin || c.Is("default") && !kotlin
		if !kotlin && !other && !c.Accept("case") {
			w.fail(c, "a case")
			return nil, nil
		}
		if other {
			c.Advance()
		}
		for !other && c.I < end { // conditions, which commas part
			stop := c.I
			for stop < end && !c.F.Is(stop, ",") && !c.F.Is(stop, ":") && !(c.F.Is(stop, "-") && c.F.Is(stop+1, ">")) {
				if m := c.F.Partner(stop); m > stop {
					stop = m
				}
				stop++
			}
			if subject == nil {
				equals = append(equals, w.condition(&scan.Cursor{F: c.F, I: c.I}, stop, inner))
			} else {
				equals = append(equals, w.isEqual(c, stop, subject, inner, pos))
			}
			c.I = stop
			if !c.Accept(",") {
				break
			}
		}
		if !other {
			for _, e := range equals {
				if a.cond == nil {
					a.cond = e
				} else {
					a.cond = &model.Expr{Op: model.OpCall, Func: "||", Args: []*model.Expr{a.cond, e}}
				}
			}
		}
		switch {
		case c.Is("-") && c.Ahead(1, ">"):
			c.I += 2
			if a.block = c.Is("{"); a.block {
				a.from, a.to = c.I+1, c.Shut()
				c.Jump()
			} else {
				a.from, a.to = c.I, w.armEnd(c, end)
				c.I = a.to
			}
		case c.Accept(":") && !kotlin:
			a.from, a.block = c.I, true
			for c.I < end && !c.Is("case") && !c.Is("default") {
				c.Jump()
			}
			a.to = c.I
			for a.to > a.from && c.F.Is(a.to-1, ";") {
				a.to--
			}
			if c.F.Is(a.from, "{") && c.F.Partner(a.from) == a.to-1 { // case "a": { …; break; }
				a.from, a.to = a.from+1, a.to-1
			}
			if a.from == a.to && !other { // it falls through
				continue
			}
			if !w.leaves(c.F, a.from, &a.to, c.I >= end) {
				w.fail(c, "a case that goes on with the next")
				return nil, nil
			}
		default:
			w.fail(c, "a case")
			return nil, nil
		}
		equals = nil
		all = append(all, a)
		for c.Accept(";") {
		}
		if other && c.I < end {
			w.fail(c, "a case behind the last")
			return nil, nil
		}
	}
	c.I = end + 1
	if len(all) == 0 || w.why != "" {
		w.fail(c, "a choice")
		return nil, nil
	}
	return all, inner
}

// armEnd is the token behind the expression or the statement of an arm at the cursor, which
// ends with its line also where else begins the next.
func (w *follower) armEnd(c *scan.Cursor, limit int) int {
	end := w.end(c, limit)
	for i := c.I + 1; i < end; i++ {
		if m := c.F.Partner(i); m > i {
			i = m
			continue
		}
		if c.F.Is(i, "else") && c.F.Is(i+1, "-") && c.F.Is(i+2, ">") {
			return i
		}
	}
	return end
}

// leaves says whether the statements of an old case end with break or return, and takes the
// break off them. The last case may do without.
func (w *follower) leaves(f *scan.File, from int, to *int, last bool) bool {
	end := *to
	for end > from && f.Is(end-1, ";") {
		end--
	}
	if f.Is(end-1, "break") {
		*to = end - 1
		return w.noJumps(f, from, *to)
	}
	start := end - 1
	for start > from && !f.Is(start, ";") && !f.Is(start, "}") {
		start--
	}
	if start > from {
		start++
	}
	return last && w.noJumps(f, from, end) || f.Is(start, "return") || f.Is(start, "throw")
}

// noJumps says whether no break or continue stands between two tokens.
func (w *follower) noJumps(f *scan.File, from, to int) bool {
	for i := from; i < to; i++ {
		if f.Is(i, "break") || f.Is(i, "continue") {
			return false
		}
	}
	return true
}

// isEqual is the condition that a subject equals what stands at the cursor.
func (w *follower) isEqual(c *scan.Cursor, stop int, subject *value, env map[string]*value, pos model.Pos) *model.Expr {
	l := Literal(c.F, c.I, stop)
	if text := w.text(c.F, c.I, stop, env); text != "" {
		l = &model.Literal{Kind: model.StringLiteral, Text: text}
	}
	switch l.Kind {
	case model.StringLiteral, model.IntLiteral, model.BoolLiteral, model.NullLiteral:
		return &model.Expr{Op: model.OpCall, Func: "==", Args: []*model.Expr{subject.expr, {Op: model.OpConst, Value: l, Pos: pos}}, Pos: pos}
	}
	w.fail(c, "a case that is no constant")
	return &model.Expr{Op: model.OpUnknown}
}

// picked is the value of a when or a switch.
func (w *follower) picked(c *scan.Cursor, env map[string]*value) *value {
	pos := c.Where()
	all, inner := w.arms(c, env)
	if len(all) == 0 {
		return nil
	}
	if all[len(all)-1].cond != nil {
		w.fail(c, "a choice without else")
		return nil
	}
	var out *value
	for i := len(all) - 1; i >= 0; i-- {
		a := all[i]
		cur := &scan.Cursor{F: c.F, I: a.from}
		var v *value
		switch {
		case cur.Is("throw"):
			v = &value{expr: w.thrown(cur, a.to, inner).Expr}
		default:
			for a.to > a.from && c.F.Is(a.to-1, ";") {
				a.to--
			}
			v = w.block(cur, a.to, inner)
		}
		if v == nil {
			return nil
		}
		if a.cond == nil {
			out = v
			continue
		}
		if out = w.choice(c, a.cond, v, out, pos); out == nil {
			return nil
		}
	}
	return out
}

// returned is the value of a when or a switch each of whose arms returns one; without a last
// arm for all others, of what stands behind it.
func (w *follower) returned(c *scan.Cursor, limit int, env map[string]*value) *value {
	pos := c.Where()
	all, inner := w.arms(c, env)
	if len(all) == 0 {
		return nil
	}
	var out *value
	if all[len(all)-1].cond != nil {
		if out = w.result(c, limit, env); out == nil {
			return nil
		}
	}
	for i := len(all) - 1; i >= 0; i-- {
		v := w.result(&scan.Cursor{F: c.F, I: all[i].from}, all[i].to, fork(inner))
		if v == nil {
			return nil
		}
		if all[i].cond == nil {
			out = v
			continue
		}
		if out = w.choice(c, all[i].cond, v, out, pos); out == nil {
			return nil
		}
	}
	return out
}

// cases follows a when or a switch as a statement.
func (w *follower) cases(c *scan.Cursor, env map[string]*value) []model.Step {
	pos := c.Where()
	all, inner := w.arms(c, env)
	var steps []model.Step
	before := fork(env)
	for i := len(all) - 1; i >= 0; i-- {
		a := all[i]
		own := fork(inner)
		then := w.statements(&scan.Cursor{F: c.F, I: a.from}, a.to, own)
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
