package hand

import (
	"maps"

	"vetta/internal/code"
	"vetta/internal/model"
)

// condition is what the heads of a statement come to, and gives names to what they find there; nil where it
// is not followed.
func (f *Follower) condition(s *code.Stmt) (cond *model.Expr) {
	if s.Heads < 1 {
		return nil
	}
	for i := range s.Body[:s.Heads] {
		head := &s.Body[i]
		var one *model.Expr
		if head.Op == code.Let {
			var b Binding
			if isBare(head.Value) { // if let name
				known, ok := f.names[head.Name]
				if !ok || known.Value == nil {
					return nil
				}
				b = known
				one = known.Value
			} else {
				one = f.Value(head.Value)
				b.Value = one
				if p, ok := f.Words.Part(f, head.Value); ok && f.Words.Holds(p) == nil {
					b = Binding{Part: &p}
				}
			}
			f.names[head.Name] = b
			one = &model.Expr{Op: model.OpCall, Func: "!= nil", Args: []*model.Expr{one}, Pos: one.Pos}
		} else {
			one = f.Value(head.Value)
		}
		if HasUnknown(one) {
			return nil
		}
		if cond == nil {
			cond = one
		} else {
			cond = &model.Expr{Op: model.OpCall, Func: "&&", Args: []*model.Expr{cond, one}, Pos: cond.Pos}
		}
	}
	return cond
}

// inScope follows statements with names of their own, and answers the names as they are behind them.
func (f *Follower) inScope(body []code.Stmt) ([]model.Step, map[string]Binding, error) {
	outer := f.names
	f.names = maps.Clone(outer)
	steps, err := f.block(body)
	inner := f.names
	f.names = outer
	return steps, inner, err
}

// join makes names that two branches have left with different values stand for either, by the condition; with
// different parts of the document for neither.
func (f *Follower) join(cond *model.Expr, yes, no map[string]Binding, yesEnds, noEnds bool) {
	for name, old := range f.names {
		a, b := yes[name], no[name]
		switch {
		case a == old && b == old:
		case yesEnds:
			f.names[name] = b
		case noEnds:
			f.names[name] = a
		case a.Value != nil && b.Value != nil:
			f.names[name] = Binding{Value: &model.Expr{Op: model.OpIf, Args: []*model.Expr{cond, a.Value, b.Value}, Pos: cond.Pos}}
		default:
			f.names[name] = Binding{Value: &model.Expr{Op: model.OpUnknown, Why: "a part of the document by a condition", Pos: cond.Pos}}
		}
	}
}

// ends says whether nothing behind steps runs.
func ends(steps []model.Step) bool {
	if len(steps) == 0 {
		return false
	}
	last := steps[len(steps)-1]
	return last.Return || last.Expr != nil && last.Expr.Op == model.OpFail || last.Cond != nil && ends(last.Then) && ends(last.Else)
}

// branch follows if with all of its else.
func (f *Follower) branch(all []code.Stmt) ([]model.Step, error) {
	s := &all[0]
	outer := f.names
	f.names = maps.Clone(outer)
	cond := f.condition(s)
	if cond == nil {
		f.names = outer
		return f.unknown(all, "an if statement")
	}
	yes, yesNames, err := f.inScope(s.Body[s.Heads:])
	f.names = outer
	if err != nil {
		return nil, err
	}
	var no []model.Step
	noNames := maps.Clone(outer)
	switch {
	case len(all) < 2:
	case all[1].Kind == code.Else:
		no, noNames, err = f.inScope(all[1].Body)
	case all[1].Kind == code.ElseIf:
		f.names = maps.Clone(outer)
		no, err = f.branch(all[1:])
		noNames, f.names = f.names, outer
	}
	if err != nil {
		return nil, err
	}
	step := model.Step{Cond: cond, Then: yes, Else: no, Pos: f.File.At(s.From)}
	f.join(cond, yesNames, noNames, ends(yes), ends(no))
	if simple := simpleElse(step); simple != nil {
		return simple, nil
	}
	return []model.Step{step}, nil
}

// simpleElse makes if let n = try? a { x = f(n) } else { x = b } one assignment, x = f(a) ?? b, which says
// the same and keeps what is known of each value apart.
func simpleElse(s model.Step) []model.Step {
	if s.Cond.Op != model.OpCall || s.Cond.Func != "!= nil" || len(s.Then) != 1 || len(s.Else) != 1 {
		return nil
	}
	a, b := s.Then[0], s.Else[0]
	if a.Field == "" || a.Field != b.Field || a.Cond != nil || b.Cond != nil || a.Return || b.Return || a.Do || b.Do || !madeWhere(a.Expr, s.Cond.Args[0]) {
		return nil
	}
	a.Expr = &model.Expr{Op: model.OpElse, Args: []*model.Expr{a.Expr, b.Expr}, Pos: s.Pos}
	return []model.Step{a}
}

// madeWhere says whether an operation has a value exactly where another has one.
func madeWhere(e, test *model.Expr) bool {
	return e == test || e.Op == model.OpCall && e.Func == "String" && len(e.Args) == 1 && madeWhere(e.Args[0], test)
}

func (f *Follower) guard(s *code.Stmt) ([]model.Step, error) {
	outer := maps.Clone(f.names)
	cond := f.condition(s)
	if cond == nil {
		f.names = outer
		return f.unknown([]code.Stmt{*s}, "a guard statement")
	}
	bound := f.names
	f.names = outer
	no, _, err := f.inScope(s.Body[s.Heads:])
	f.names = bound
	if err != nil {
		return nil, err
	}
	if !ends(no) {
		return nil, f.lost("a guard statement", s.From)
	}
	return []model.Step{{Cond: cond, Else: no, Pos: f.File.At(s.From)}}, nil
}

// try follows a block with what is done where it throws.
func (f *Follower) try(all []code.Stmt) ([]model.Step, error) {
	s := &all[0]
	yes, yesNames, err := f.inScope(s.Body)
	if err != nil {
		return nil, err
	}
	if len(all) == 1 {
		for name := range f.names {
			f.names[name] = yesNames[name]
		}
		return yes, nil
	}
	if len(all) > 2 {
		return nil, f.lost("several catch clauses", s.From)
	}
	handler := &all[1]
	no, noNames, err := f.inScope(handler.Body[max(0, handler.Heads):])
	if err != nil {
		return nil, err
	}
	for name, old := range f.names {
		switch a, b := yesNames[name], noNames[name]; {
		case a == old && b == old:
		case a.Value != nil && b.Value != nil:
			f.names[name] = Binding{Value: &model.Expr{Op: model.OpCatch, Args: []*model.Expr{a.Value, b.Value}, Pos: f.File.At(s.From)}}
		default:
			f.names[name] = Binding{Value: &model.Expr{Op: model.OpUnknown, Why: "a part of the document by what throws", Pos: f.File.At(s.From)}}
		}
	}
	if len(yes) == 1 && len(no) == 1 && yes[0].Field != "" && yes[0].Field == no[0].Field && yes[0].Cond == nil && no[0].Cond == nil && no[0].Expr != nil {
		one := yes[0]
		one.Expr = &model.Expr{Op: model.OpCatch, Args: []*model.Expr{yes[0].Expr, no[0].Expr}, Pos: one.Pos}
		return []model.Step{one}, nil
	}
	return []model.Step{{Do: true, Then: yes, Else: no, Pos: f.File.At(s.From)}}, nil
}

// choice follows a switch as branches.
func (f *Follower) choice(s *code.Stmt) ([]model.Step, error) {
	const pattern = "a pattern of a switch statement"
	if s.Heads != 1 {
		return nil, f.lost("a switch statement", s.From)
	}
	subject := f.Value(s.Body[0].Value)
	if HasUnknown(subject) {
		return nil, f.lost("a switch statement", s.From)
	}
	first := f.steps(s.From, "", subject)
	type arm struct {
		cond  *model.Expr // nil for all others
		steps []model.Step
		names map[string]Binding
	}
	var arms []arm
	for i := range s.Body[1:] {
		c := &s.Body[1+i]
		if c.Kind != code.Case {
			return nil, f.lost("a switch statement", s.From)
		}
		if c.Value == nil {
			return nil, f.lost(pattern, c.From)
		}
		var a arm
		for _, e := range c.Value.Args {
			value := f.Value(e)
			if value.Op != model.OpConst {
				return nil, f.lost(pattern, e.From)
			}
			one := &model.Expr{Op: model.OpCall, Func: "==", Args: []*model.Expr{subject, value}, Pos: f.File.At(e.From)}
			if a.cond == nil {
				a.cond = one
			} else {
				a.cond = &model.Expr{Op: model.OpCall, Func: "||", Args: []*model.Expr{a.cond, one}, Pos: one.Pos}
			}
		}
		var err error
		body, _ := code.WithoutBreak(c.Body)
		if a.steps, a.names, err = f.inScope(body); err != nil {
			return nil, err
		}
		arms = append(arms, a)
	}
	var steps []model.Step
	for i := len(arms) - 1; i >= 0; i-- {
		if arms[i].cond == nil {
			steps = arms[i].steps
			f.join(subject, arms[i].names, f.names, false, true)
			continue
		}
		before := maps.Clone(f.names)
		f.join(arms[i].cond, arms[i].names, before, ends(arms[i].steps), ends(steps))
		steps = []model.Step{{Cond: arms[i].cond, Then: arms[i].steps, Else: steps, Pos: f.File.At(s.From)}}
	}
	return append(first, steps...), nil
}
