package hand

import (
	"vetta/internal/code"
	"vetta/internal/model"
)

// eachExpr calls visit for every expression among statements, those in closures too.
func eachExpr(all []code.Stmt, visit func(*code.Expr)) {
	for i := range all {
		walk(all[i].Of, visit)
		walk(all[i].Value, visit)
		eachExpr(all[i].Body, visit)
	}
}

func walk(e *code.Expr, visit func(*code.Expr)) {
	if e == nil {
		return
	}
	visit(e)
	for _, a := range e.Args {
		walk(a, visit)
	}
	eachExpr(e.Body, visit)
}

// mayLeave says whether something in a statement may end the function, or pass over what stands behind it: a
// throw, what may throw, a return, a break that is not of a loop or a case in the statement.
func mayLeave(s *code.Stmt, inLoop bool) bool {
	switch {
	case s.Kind == code.Jump:
		return !inLoop || s.Value != nil
	case s.Kind == code.Throw || s.Op == code.Return || exprLeaves(s.Of) || exprLeaves(s.Value):
		return true
	}
	inLoop = inLoop || s.Kind == code.For || s.Kind == code.While || s.Kind == code.Repeat
	body := s.Body
	if s.Kind == code.Case {
		body, _ = code.WithoutBreak(body)
	}
	for i := range body {
		if mayLeave(&body[i], inLoop) {
			return true
		}
	}
	return false
}

func exprLeaves(e *code.Expr) (found bool) {
	walk(e, func(e *code.Expr) {
		for _, does := range e.Does.All() {
			found = found || does == code.Tried || does == code.Assured
		}
	})
	return found
}

// unknown notes that statements were not followed. What they assign to is unknown; where they may end the
// function besides, so is the whole.
func (f *Follower) unknown(all []code.Stmt, what string) (steps []model.Step, err error) {
	for i := range all {
		if mayLeave(&all[i], false) {
			return nil, f.lost(what+" that is not followed and may throw", all[0].From)
		}
	}
	seen := map[string]bool{}
	changed := func(name string, member bool) {
		e := &model.Expr{Op: model.OpUnknown, Why: what}
		if _, local := f.names[name]; local && !member {
			f.names[name] = Binding{Value: e}
		}
		if f.Fields[name] != nil && !seen[name] {
			seen[name] = true
			steps = append(steps, f.Step(all[0].From, name, e))
		}
	}
	f.changes(all, changed)
	return steps, nil
}

// changes calls changed for what statements may give another value: what they assign to, what they call
// methods of, what they hand over to be changed.
func (f *Follower) changes(all []code.Stmt, changed func(name string, member bool)) {
	base := func(e *code.Expr) {
		for e != nil {
			switch {
			case e.Op == code.Name:
				changed(e.Text, false)
				return
			case e.Op == code.Member && len(e.Args) == 1 && e.Args[0].Op == code.Name && e.Args[0].Text == f.Words.Self():
				changed(e.Text, true)
				return
			case (e.Op == code.Member || e.Op == code.Index || e.Op == code.Call) && len(e.Args) > 0:
				e = e.Args[0]
			default:
				return
			}
		}
	}
	for i := range all {
		s := &all[i]
		if s.Op == code.Assign {
			switch {
			case s.Of == nil:
				changed(s.Name, false)
			case s.Of.Op == code.Name && s.Of.Text == f.Words.Self():
				changed(s.Name, true)
			default:
				base(s.Of)
			}
		}
		f.changes(s.Body, changed)
	}
	eachExpr(all, func(e *code.Expr) {
		switch {
		case e.Op == code.Call && e.Args[0].Op == code.Member && len(e.Args[0].Args) > 0:
			base(e.Args[0].Args[0])
		case e.Op == code.Unary && e.Text == "&":
			base(e.Args[0])
		case e.Op == code.Lambda:
			f.changes(e.Body, changed)
		}
	})
	for i := range all {
		if all[i].Torn { // whatever it is
			eachExpr(all[i:i+1], func(e *code.Expr) {
				if e.Op == code.Name || e.Op == code.Member {
					base(e)
				}
			})
		}
	}
}
