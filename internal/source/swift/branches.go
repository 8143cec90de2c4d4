package swift

import (
	"vetta/internal/model"
)

// condition follows what stands between if or guard and its block: conditions
// joined by commas. names are those that it binds.
func (f *follower) condition(end int) (cond *model.Expr, before []model.Step, ok bool) {
	p := f.p
	for {
		var one *model.Expr
		if p.Is("let") || p.Is("var") {
			p.Advance()
			name := p.Text()
			p.Advance()
			if p.Accept(":") {
				p.parseType()
			}
			var value *model.Expr
			var inner binding // a dictionary, if that is what is bound
			if p.Accept("=") {
				e := p.parseCondition(end)
				value = f.value(e)
				if b, ok := f.containerOf(e); ok && b.container == jsonMap {
					inner = b
				}
			} else if b, known := f.vars[name]; known && !b.isContainer { // if let name
				value = b.value
			} else {
				return nil, nil, false
			}
			f.vars[name] = binding{value: value}
			if inner.isContainer {
				f.vars[name] = inner
			}
			one = &model.Expr{Op: model.OpCall, Func: "!= nil", Args: []*model.Expr{value}, Pos: value.Pos}
		} else {
			one = f.value(p.parseCondition(end))
		}
		if hasUnknown(one) {
			return nil, nil, false
		}
		if cond == nil {
			cond = one
		} else {
			cond = &model.Expr{Op: model.OpCall, Func: "&&", Args: []*model.Expr{cond, one}, Pos: cond.Pos}
		}
		if !p.Accept(",") {
			return cond, nil, p.Is("{") || p.Is("else")
		}
	}
}

// braces follows { statements } with names of its own.
func (f *follower) braces() ([]model.Step, error) {
	p := f.p
	if !p.Is("{") {
		return nil, &notFollowed{"a block", p.I}
	}
	shut := p.Shut()
	p.Advance()
	steps, err := f.block(shut)
	p.I = shut
	p.Advance()
	return steps, err
}

// scope runs one branch and answers the names as they are behind it.
func (f *follower) scope(run func() ([]model.Step, error)) ([]model.Step, map[string]binding, error) {
	outer := f.vars
	f.vars = map[string]binding{}
	for k, v := range outer {
		f.vars[k] = v
	}
	steps, err := run()
	inner := f.vars
	f.vars = outer
	return steps, inner, err
}

// join makes names that two branches have left with different values stand for
// either, by the condition.
func (f *follower) join(cond *model.Expr, yes, no map[string]binding, yesEnds, noEnds bool) {
	for name, old := range f.vars {
		a, b := yes[name], no[name]
		switch {
		case a.value == old.value && b.value == old.value, old.isContainer:
		case yesEnds:
			f.vars[name] = b
		case noEnds:
			f.vars[name] = a
		case a.value != nil && b.value != nil:
			f.vars[name] = binding{value: &model.Expr{Op: model.OpIf, Args: []*model.Expr{cond, a.value, b.value}, Pos: cond.Pos}}
		}
	}
}

func ends(steps []model.Step) bool {
	if len(steps) == 0 {
		return false
	}
	last := steps[len(steps)-1]
	return last.Return || last.Expr != nil && last.Expr.Op == model.OpFail || last.Cond != nil && ends(last.Then) && ends(last.Else)
}

func (f *follower) ifElse(end int) ([]model.Step, error) {
	p := f.p
	start := p.I
	p.Advance()
	outer := f.vars
	f.vars = copyVars(outer)
	cond, _, ok := f.condition(end)
	if !ok {
		f.vars = outer
		p.I = start
		f.passOver(end)
		return f.unknown(start, p.I, "an if statement")
	}
	yes, yesVars, err := f.scope(f.braces)
	f.vars = outer
	if err != nil {
		return nil, err
	}
	var no []model.Step
	noVars := copyVars(outer)
	if p.Accept("else") {
		no, noVars, err = f.scope(func() ([]model.Step, error) {
			if p.Is("if") {
				return f.ifElse(end)
			}
			return f.braces()
		})
		if err != nil {
			return nil, err
		}
	}
	step := model.Step{Cond: cond, Then: yes, Else: no, Pos: p.F.Where(start)}
	f.join(cond, yesVars, noVars, ends(yes), ends(no))
	if simple := f.simpleElse(step); simple != nil {
		return simple, nil
	}
	return []model.Step{step}, nil
}

func copyVars(vars map[string]binding) map[string]binding {
	out := make(map[string]binding, len(vars))
	for k, v := range vars {
		out[k] = v
	}
	return out
}

// simpleElse makes if let n = try? a { x = f(n) } else { x = b } one assignment,
// x = f(a) ?? b, which says the same and keeps what is known of each value apart.
func (f *follower) simpleElse(s model.Step) []model.Step {
	if s.Cond.Op != model.OpCall || s.Cond.Func != "!= nil" || len(s.Then) != 1 || len(s.Else) != 1 {
		return nil
	}
	a, b := s.Then[0], s.Else[0]
	if a.Field == "" || a.Field != b.Field || a.Cond != nil || b.Cond != nil || a.Return || b.Return || a.Do || b.Do || !made(a.Expr, s.Cond.Args[0]) {
		return nil
	}
	a.Expr = &model.Expr{Op: model.OpElse, Args: []*model.Expr{a.Expr, b.Expr}, Pos: s.Pos}
	return []model.Step{a}
}

// made says whether e has a value exactly where test has one.
func made(e, test *model.Expr) bool {
	return e == test || e.Op == model.OpCall && e.Func == "String" && len(e.Args) == 1 && made(e.Args[0], test)
}

func (f *follower) guard(end int) ([]model.Step, error) {
	p := f.p
	start := p.I
	p.Advance()
	outer := copyVars(f.vars)
	cond, _, ok := f.condition(end)
	if !ok || !p.Accept("else") {
		f.vars = outer
		p.I = start
		f.passOver(end)
		return f.unknown(start, p.I, "a guard statement")
	}
	bound := f.vars
	f.vars = outer
	no, _, err := f.scope(f.braces)
	f.vars = bound
	if err != nil {
		return nil, err
	}
	if !ends(no) {
		return nil, &notFollowed{"a guard statement", start}
	}
	return []model.Step{{Cond: cond, Else: no, Pos: p.F.Where(start)}}, nil
}

func (f *follower) doCatch(end int) ([]model.Step, error) {
	p := f.p
	start := p.I
	p.Advance()
	yes, yesVars, err := f.scope(f.braces)
	if err != nil {
		return nil, err
	}
	if !p.Is("catch") {
		f.vars = mergeInto(f.vars, yesVars)
		return yes, nil
	}
	p.Advance()
	for p.I < end && !p.Is("{") { // catch let error as DecodingError
		p.Jump()
	}
	no, noVars, err := f.scope(f.braces)
	if err != nil {
		return nil, err
	}
	if p.Is("catch") {
		return nil, &notFollowed{"several catch clauses", start}
	}
	for name, old := range f.vars {
		if a, b := yesVars[name], noVars[name]; !old.isContainer && a.value != nil && b.value != nil && (a.value != old.value || b.value != old.value) {
			f.vars[name] = binding{value: &model.Expr{Op: model.OpCatch, Args: []*model.Expr{a.value, b.value}, Pos: p.F.Where(start)}}
		}
	}
	if len(yes) == 1 && len(no) == 1 && yes[0].Field != "" && yes[0].Field == no[0].Field && yes[0].Cond == nil && no[0].Cond == nil && no[0].Expr != nil {
		s := yes[0]
		s.Expr = &model.Expr{Op: model.OpCatch, Args: []*model.Expr{yes[0].Expr, no[0].Expr}, Pos: s.Pos}
		return []model.Step{s}, nil
	}
	return []model.Step{{Do: true, Then: yes, Else: no, Pos: p.F.Where(start)}}, nil
}

func mergeInto(vars, inner map[string]binding) map[string]binding {
	for name := range vars {
		vars[name] = inner[name]
	}
	return vars
}

// switchCase follows switch value { case a, b: … default: … } as branches.
func (f *follower) switchCase(end int) ([]model.Step, error) {
	p := f.p
	start := p.I
	p.Advance()
	subject := f.value(p.parseCondition(end))
	if !p.Is("{") || hasUnknown(subject) {
		return nil, &notFollowed{"a switch statement", start}
	}
	shut := p.Shut()
	p.Advance()
	first := f.step(start, "", subject)
	type arm struct {
		cond  *model.Expr // nil for default
		steps []model.Step
		vars  map[string]binding
	}
	var arms []arm
	for p.I < shut {
		var a arm
		switch {
		case p.Accept("default"):
		case p.Accept("case"):
			for {
				at := p.I
				e := p.parseExpr(shut, 0)
				value := f.value(e)
				if value.Op != model.OpConst {
					return nil, &notFollowed{"a pattern of a switch statement", at}
				}
				one := &model.Expr{Op: model.OpCall, Func: "==", Args: []*model.Expr{subject, value}, Pos: p.F.Where(at)}
				if a.cond == nil {
					a.cond = one
				} else {
					a.cond = &model.Expr{Op: model.OpCall, Func: "||", Args: []*model.Expr{a.cond, one}, Pos: one.Pos}
				}
				if !p.Accept(",") {
					break
				}
			}
		default:
			return nil, &notFollowed{"a switch statement", start}
		}
		if !p.Accept(":") {
			return nil, &notFollowed{"a pattern of a switch statement", p.I}
		}
		stop := p.I
		for q := parserAt(p.F, p.I); ; q.Jump() {
			stop = q.I
			if q.I >= shut || (q.Is("case") || q.Is("default")) && (q.Newline() || q.Ahead(-1, ";")) {
				break
			}
		}
		var err error
		if a.steps, a.vars, err = f.scope(func() ([]model.Step, error) { return f.block(stop) }); err != nil {
			return nil, err
		}
		p.I = stop
		arms = append(arms, a)
	}
	p.I = shut
	p.Advance()
	var steps []model.Step
	for i := len(arms) - 1; i >= 0; i-- {
		if arms[i].cond == nil {
			steps = arms[i].steps
			f.join(subject, arms[i].vars, f.vars, false, true)
			continue
		}
		before := copyVars(f.vars)
		f.join(arms[i].cond, arms[i].vars, before, ends(arms[i].steps), ends(steps) && len(steps) > 0)
		steps = []model.Step{{Cond: arms[i].cond, Then: arms[i].steps, Else: steps, Pos: p.F.Where(start)}}
	}
	return append(first, steps...), nil
}
