package run

import (
	"vetta/internal/code"
	"vetta/internal/model"
)

// block runs statements.
func (m *Machine) block(body []code.Stmt, f *frame, e *env) error {
	for i := 0; i < len(body); {
		n, err := m.statement(body, i, f, e)
		if err != nil {
			return err
		}
		i += n
	}
	return nil
}

// statement runs the one at an index, with those that go on with it, and answers how many these are.
func (m *Machine) statement(body []code.Stmt, i int, f *frame, e *env) (int, error) {
	s := &body[i]
	if err := m.step(1, at(s)); err != nil {
		return 1, err
	}
	if s.Torn && s.Kind != code.For {
		return 1, unfollowed("a statement", at(s))
	}
	n := 1
	for i+n < len(body) && goesOn(body[i+n].Kind) {
		n++
	}
	switch s.Op {
	case code.Let:
		return 1, m.let(s, f, e)
	case code.Return:
		if s.Value == nil {
			return 1, &jump{kind: "return"}
		}
		v, err := m.expr(s.Value, f, e, f.wants)
		if err != nil {
			return 1, err
		}
		return 1, &jump{kind: "return", v: v}
	case code.Do:
		if s.Kind == code.Jump {
			j := &jump{kind: s.Name}
			if s.Value != nil {
				j.label = s.Value.Text
			}
			return 1, j
		}
		_, err := m.expr(s.Value, f, e, nil)
		return 1, err
	}
	switch s.Kind {
	case code.If:
		return n, m.branches(body[i:i+n], f, e)
	case code.For:
		return 1, m.labelled(s, m.loop(s, f, e))
	case code.While, code.Repeat:
		return 1, m.labelled(s, m.while(s, f, e))
	case code.Switch:
		_, err := m.switched(s, f, e, nil, false)
		return 1, m.labelled(s, err)
	case code.Try:
		return n, m.try(body[i:i+n], f, e)
	}
	return 1, m.labelled(s, m.block(s.Body, f, inside(e)))
}

func at(s *code.Stmt) model.Pos {
	if s.Value != nil {
		return s.Value.Pos
	}
	return model.Pos{}
}

func goesOn(k code.Kind) bool {
	return k == code.ElseIf || k == code.Else || k == code.Catch || k == code.Finally
}

// labelled ends a jump that names the statement.
func (m *Machine) labelled(s *code.Stmt, err error) error {
	if j, ok := err.(*jump); ok && j.kind == "break" && j.label != "" && j.label == s.Name {
		return nil
	}
	return err
}

// let declares a variable, or those of a pattern.
func (m *Machine) let(s *code.Stmt, f *frame, e *env) error {
	if s.Name == "" { // var (a, b) = …
		if s.Value == nil || s.Value.Op != code.Match {
			return unfollowed("a declaration", at(s))
		}
		v, err := m.expr(s.Value.Args[0], f, e, nil)
		if err != nil {
			return err
		}
		is, known, err := m.match(v, s.Value.Args[1], f, e)
		if err == nil && known && !is {
			err = &Thrown{Class: "StateError", Message: "Bad state: Pattern matching error", Pos: at(s)}
		}
		return err
	}
	c := &cell{depth: m.forks}
	if s.Type != nil {
		c.t, c.typed = m.resolve(s.Type, f.unit, f.by), true
	}
	switch {
	case s.Kind == code.Local && s.Value != nil && s.Value.Op == code.Lambda && s.Value.Fn != nil && s.Value.Fn.Name == s.Name: // a function may call itself
		c.v = Value{Kind: Fn, Ref: &Closure{Fn: s.Value.Fn, Env: e, Frame: f, This: f.this}}
		c.v.Static = m.typeOf(c.v)
		c.t = c.v.Static
		e.set(s.Name, c)
		return nil
	case s.Value == nil:
		c.unset, c.late = c.typed && !c.t.takesNull() && !f.legacy(), s.Kind == code.Local
		c.v.Static = c.t
	default:
		v, err := m.expr(s.Value, f, e, c.t)
		if err != nil {
			return err
		}
		if c.typed {
			if v, err = m.coerce(v, c.t, f, false); err != nil {
				return err
			}
		} else {
			c.t = v.Static
		}
		c.v = v
	}
	e.set(s.Name, c)
	return nil
}

// heads are what a block is run by, and what it then does.
func heads(s *code.Stmt) (heads, body []code.Stmt) {
	n := min(max(int(s.Heads), 0), len(s.Body))
	return s.Body[:n], s.Body[n:]
}

// branches runs if with what goes on with it.
func (m *Machine) branches(all []code.Stmt, f *frame, e *env) error {
	if len(all) == 0 {
		return nil
	}
	s := &all[0]
	if s.Kind == code.Else {
		return m.block(s.Body, f, inside(e))
	}
	head, body := heads(s)
	if len(head) != 1 || head[0].Value == nil {
		return unfollowed("a condition", at(s))
	}
	in := inside(e)
	v, err := m.condition(head[0].Value, f, in)
	if err != nil {
		return err
	}
	yes, known, err := m.truth(v)
	switch {
	case err != nil:
		return err
	case !known:
		return m.fork(f, v.places(),
			func() error { return m.block(body, f, inside(in)) },
			func() error { return m.branches(all[1:], f, e) })
	case yes:
		return m.block(body, f, inside(in))
	}
	return m.branches(all[1:], f, e)
}

// condition is the value of one, whose names are seen in what hangs on it.
func (m *Machine) condition(x *code.Expr, f *frame, e *env) (Value, error) {
	v, err := m.expr(x, f, e, boolType)
	if err != nil {
		return v, err
	}
	return v, nil
}

// round runs the body of a loop once, and says whether the loop goes on.
func (m *Machine) round(s *code.Stmt, body []code.Stmt, f *frame, e *env) (on bool, err error) {
	err = m.block(body, f, e)
	if j, ok := err.(*jump); ok && j.kind != "return" && (j.label == "" || j.label == s.Name) {
		return j.kind == "continue", nil
	}
	return err == nil, err
}

// loop runs for.
func (m *Machine) loop(s *code.Stmt, f *frame, e *env) error {
	head, body := heads(s)
	switch {
	case s.Torn || len(head) < 2:
		return unfollowed("a loop", at(s))
	case len(head) == 3:
		return m.counting(s, head, body, f, e)
	}
	over, err := m.expr(head[1].Value, f, e, nil)
	if err != nil {
		return err
	}
	items, some, err := m.elements(over, head[1].Value.Pos)
	if err != nil {
		return err
	}
	once := func(v Value) (bool, error) {
		in := inside(e)
		switch name := &head[0]; {
		case name.Name == "":
			if _, _, err := m.match(v, name.Value, f, in); err != nil {
				return false, err
			}
		case name.Op == code.Assign:
			c := e.find(name.Name)
			if c == nil {
				return false, unfollowed("the name "+name.Name, at(s))
			}
			m.assign(c, v)
		default:
			c := &cell{v: v, t: v.Static, depth: m.forks}
			if name.Type != nil {
				c.t = m.resolve(name.Type, f.unit, f.by)
				if c.v, err = m.coerce(v, c.t, f, false); err != nil {
					return false, err
				}
			}
			in.set(name.Name, c)
		}
		return m.round(s, body, f, in)
	}
	if some != nil { // none, or some
		return m.fork(f, some.places(), func() error {
			_, err := once(*some)
			return err
		}, func() error { return nil })
	}
	for _, v := range items {
		on, err := once(v)
		if err != nil || !on {
			return err
		}
	}
	return nil
}

// counting runs for (init; check; then).
func (m *Machine) counting(s *code.Stmt, head, body []code.Stmt, f *frame, e *env) error {
	in := inside(e)
	if err := m.block(head[0].Body, f, in); err != nil {
		return err
	}
	for {
		if head[1].Value != nil {
			v, err := m.expr(head[1].Value, f, in, boolType)
			if err != nil {
				return err
			}
			yes, known, err := m.truth(v)
			if err != nil {
				return err
			}
			if !known { // as many rounds as something unknown says: one of them
				return m.fork(f, v.places(), func() error {
					m.blur(in)
					_, err := m.round(s, body, f, inside(in))
					return err
				}, func() error { return nil })
			}
			if !yes {
				return nil
			}
		}
		own := inside(in.up) // each round has variables of its own
		for name, c := range in.names {
			copied := *c
			own.set(name, &copied)
		}
		on, err := m.round(s, body, f, inside(own))
		if err != nil || !on {
			return err
		}
		in = own
		if err := m.step(1, at(s)); err != nil {
			return err
		}
		for i := range head[2].Body {
			if _, err := m.expr(head[2].Body[i].Value, f, in, nil); err != nil {
				return err
			}
		}
	}
}

// blur forgets the values of the variables that a loop counts with.
func (m *Machine) blur(e *env) {
	for _, c := range e.names {
		if c.v.Kind == Int {
			c.v = Value{Kind: Unknown, Static: c.t}
		}
	}
}

// while runs while, and do with while behind it.
func (m *Machine) while(s *code.Stmt, f *frame, e *env) error {
	head, body := heads(s)
	if len(head) != 1 || head[0].Value == nil {
		return unfollowed("a loop", at(s))
	}
	for first := s.Kind == code.Repeat; ; first = false {
		in := inside(e)
		if !first {
			v, err := m.expr(head[0].Value, f, in, boolType)
			if err != nil {
				return err
			}
			yes, known, err := m.truth(v)
			switch {
			case err != nil:
				return err
			case !known:
				return m.fork(f, v.places(), func() error {
					_, err := m.round(s, body, f, in)
					return err
				}, func() error { return nil })
			case !yes:
				return nil
			}
		}
		on, err := m.round(s, body, f, in)
		if err != nil || !on {
			return err
		}
		if err := m.step(1, at(s)); err != nil {
			return err
		}
	}
}

// switched runs a switch; of one that is an expression it answers the value.
func (m *Machine) switched(s *code.Stmt, f *frame, e *env, ctx *Type, value bool) (Value, error) {
	head, cases := heads(s)
	if len(head) != 1 || head[0].Value == nil {
		return Value{}, unfollowed("a switch", at(s))
	}
	v, err := m.expr(head[0].Value, f, e, nil)
	if err != nil {
		return v, err
	}
	run := func(c *code.Stmt, in *env) (Value, error) {
		if value {
			if len(c.Body) != 1 || c.Body[0].Value == nil {
				return Value{}, unfollowed("a switch", at(s))
			}
			return m.expr(c.Body[0].Value, f, in, ctx)
		}
		err := m.block(c.Body, f, in)
		if j, ok := err.(*jump); ok && j.label == "" && j.kind == "break" {
			err = nil
		}
		return Value{}, err
	}
	var open []func() (Value, error) // that may be the one
	var on []*Place
	sure := false
	for i := range cases {
		c := &cases[i]
		in := inside(e)
		is, known := true, true
		if c.Value != nil && len(c.Value.Args) > 0 {
			is = false
			for _, pattern := range c.Value.Args {
				fits, told, err := m.match(v, pattern, f, in)
				if err != nil {
					return v, err
				}
				if fits && told {
					is = true
					break
				}
				if !told {
					known = false
				}
			}
		}
		switch {
		case is:
			if len(open) == 0 {
				return run(c, in)
			}
			open, sure = append(open, func() (Value, error) { return run(c, in) }), true
		case !known:
			open = append(open, func() (Value, error) { return run(c, in) })
		}
		if sure {
			break
		}
	}
	if len(open) == 0 {
		if value {
			return v, &Thrown{Class: "_Exception", Message: "switch expression is not exhaustive", Pos: at(s)}
		}
		return v, nil
	}
	on = union(on, v.places())
	if value {
		return m.choose(f, on, open...)
	}
	var runs []func() error
	for _, o := range open {
		runs = append(runs, func() error { _, err := o(); return err })
	}
	if !sure {
		runs = append(runs, func() error { return nil })
	}
	return Value{}, m.fork(f, on, runs...)
}

// try runs try with its handlers.
func (m *Machine) try(all []code.Stmt, f *frame, e *env) error {
	maybe := len(f.maybe)
	err := m.block(all[0].Body, f, inside(e))
	if t, ok := err.(*Thrown); ok {
		if !t.Own {
			f.maybe = f.maybe[:maybe]
		}
		for i := range all[1:] {
			s := &all[1+i]
			if s.Kind != code.Catch {
				continue
			}
			if s.Type != nil {
				is, known := m.catches(t, m.resolve(s.Type, f.unit, f.by))
				if !known {
					return unfollowed("which errors are caught", at(s))
				}
				if !is {
					continue
				}
			}
			err = m.caught(t, s, f, e)
			break
		}
	}
	for i := range all[1:] {
		if s := &all[1+i]; s.Kind == code.Finally {
			if ferr := m.block(s.Body, f, inside(e)); ferr != nil {
				return ferr
			}
		}
	}
	return err
}

// caught runs a handler.
func (m *Machine) caught(t *Thrown, s *code.Stmt, f *frame, e *env) error {
	in := inside(e)
	v := t.Value
	if v.IsNull() {
		v = hostOf(&failure{t})
	}
	if s.Name != "" {
		in.set(s.Name, &cell{v: v, t: v.Static, depth: m.forks})
	}
	body := s.Body
	if len(body) > 0 && body[0].Op == code.Let && body[0].Value == nil && body[0].Type == nil && body[0].Kind == code.Plain {
		in.set(body[0].Name, &cell{v: Value{Kind: Unknown, Static: &Type{Name: "StackTrace"}, Out: &Outside{}}, depth: m.forks})
		body = body[1:]
	}
	outer := m.thrown
	m.thrown = t
	err := m.block(body, f, in)
	m.thrown = outer
	return err
}

// catches says whether an exception is of a type.
func (m *Machine) catches(t *Thrown, of *Type) (is, known bool) {
	if of == nil || of.Name == "Object" {
		return true, true
	}
	if !t.Value.IsNull() {
		return m.isOf(t.Value, of, false)
	}
	if of.Class != nil {
		return false, true
	}
	if t.Class == of.Name {
		return true, true
	}
	for _, s := range supers[t.Class] {
		if s == of.Name {
			return true, true
		}
	}
	return false, true
}

// failure is an exception of the platform as a value.
type failure struct{ t *Thrown }

// Class is that of the exception.
func (f *failure) Class() string { return f.t.Class }
