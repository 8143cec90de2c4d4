package run

import "vetta/internal/code"

// making is an instance that is being made.
type making struct {
	o  *Object
	v  Value
	t  *Type // the class whose constructor runs
	up Args  // what is handed on to the one above
}

// construct calls a constructor.
func (m *Machine) construct(fn *code.Func, t *Type, by bindings, a Args) (Value, error) {
	if t == nil {
		t = &Type{Name: fn.Class.Name, Class: fn.Class}
		for _, g := range fn.Class.Generics {
			t.Args = append(t.Args, by[g])
		}
	}
	at := m.reads(fn, a)
	if at >= 0 && a.List[at].Fails {
		return Value{}, &Thrown{Class: "_TypeError", Message: "", At: a.List[at].At}
	}
	if v := m.making(fn, t, t, a, at); v != nil {
		return *v, nil
	}
	if len(m.calls) >= maxCalls {
		return Value{}, unfollowed("calls that deep", fn.Pos)
	}
	v, err := m.constructed(fn, t, a)
	if err != nil {
		return v, err
	}
	if o := v.object(); o != nil && at >= 0 && (o.Made == nil || o.Made.Base == a.List[at].At && !o.Made.Only) {
		o.Made = &Made{Fn: fn, Args: a, Of: t, Base: a.List[at].At, At: at}
	}
	return v, nil
}

func (m *Machine) constructed(fn *code.Func, t *Type, a Args) (Value, error) {
	u := m.p.unitOf(fn.File)
	switch {
	case fn.Redirect != nil:
		m.calls = append(m.calls, &frame{fn: fn, unit: u})
		defer func() { m.calls = m.calls[:len(m.calls)-1] }()
		to, err := m.part(fn.Redirect, &frame{fn: fn, unit: u, by: m.own(t), of: t}, nil, nil)
		if err != nil {
			return to, err
		}
		switch to.Kind {
		case Class:
			target := to.Ref.(*Type)
			if target.Class == nil {
				break
			}
			c := static(target.Class, target.Class.Name)
			if c == nil {
				break
			}
			return m.construct(c, m.withArgs(target, t), nil, a)
		case Fn:
			c := to.Ref.(*Closure)
			if c.Of != nil && c.Fn != nil {
				return m.construct(c.Fn, m.withArgs(c.Of, t), nil, a)
			}
		}
		return to, unfollowed("a constructor in the place of another", fn.Pos)
	case fn.Factory:
		f := &frame{fn: fn, unit: u, of: t, by: m.own(t), wants: t}
		e := inside(nil)
		if err := m.bindParams(fn, f, e, a, nil, nil); err != nil {
			return Value{}, err
		}
		if fn.Native {
			return Value{Kind: Unknown, Static: t, Out: &Outside{}}, nil
		}
		v, err := m.body(f, e)
		if err != nil {
			return v, err
		}
		return m.coerce(v, t, f, false)
	}
	o := &Object{Type: t, Fields: map[string]*Value{}, depth: m.forks}
	v := Value{Kind: Obj, Ref: o, Static: t}
	m.calls = append(m.calls, &frame{fn: fn, unit: u})
	defer func() { m.calls = m.calls[:len(m.calls)-1] }()
	err := m.fill(o, v, fn, t, a)
	if rep := representation(t); rep != nil && err == nil && o.Fields[rep.Name] != nil { // there is no instance of it when it runs
		v = o.Fields[rep.Name].as(t)
	}
	return v, err
}

// representation is the property whose value an extension type is, nil for another type.
func representation(t *Type) *code.Prop {
	if t == nil || t.Class == nil || t.Class.Kind != "extension type" || len(t.Class.Props) == 0 {
		return nil
	}
	return t.Class.Props[0]
}

// classOf is the type by which the members of a value are found.
func classOf(v Value) *Type {
	if o := v.object(); o != nil && representation(v.Static) == nil {
		return o.Type
	}
	return v.Static
}

// withArgs is a class with the arguments that another one is made with, where it says none itself.
func (m *Machine) withArgs(t, like *Type) *Type {
	if len(t.Args) > 0 || len(t.Class.Generics) != len(like.Args) {
		return t
	}
	c := *t
	c.Args = like.Args
	return &c
}

// fill runs a constructor on an instance: what properties are declared with, its parameters, its list, the
// constructor of the class above, its body.
func (m *Machine) fill(o *Object, v Value, fn *code.Func, t *Type, a Args) error {
	u := m.p.unitOf(fn.File)
	by := m.own(t)
	mk := &making{o: o, v: v, t: t}
	redirects := len(fn.Inits) == 1 && fn.Inits[0].Op == code.Do && calls(fn.Inits[0].Value, "this")
	f := &frame{fn: fn, unit: u, of: t, by: by, this: &v}
	e := inside(nil)
	if !redirects {
		if err := m.declared(mk, t); err != nil {
			return err
		}
	}
	if err := m.bindParams(fn, f, e, a, nil, mk); err != nil {
		return err
	}
	above := false
	static := &frame{fn: fn, unit: u, of: t, by: by} // an instance is not seen yet
	for i := range fn.Inits {
		s := &fn.Inits[i]
		if s.Op == code.Assign {
			ctx := m.typeOfField(t, s.Name)
			got, err := m.expr(s.Value, static, e, ctx)
			if err == nil {
				got, err = m.coerce(got, ctx, f, false)
			}
			if err != nil {
				return err
			}
			if err := m.initField(mk, s.Name, got); err != nil {
				return err
			}
			continue
		}
		switch {
		case calls(s.Value, "this"):
			name := t.Class.Name
			if s.Value.Args[0].Op == code.Member {
				name = s.Value.Args[0].Text
			}
			next := staticOf(t, name)
			if next == nil {
				return unfollowed("a constructor", fn.Pos)
			}
			args, err := m.arguments(s.Value, static, e, m.paramTypes(next, by))
			if err != nil {
				return err
			}
			return m.fill(o, v, next, t, args)
		case calls(s.Value, "super"):
			above = true
			if err := m.above(mk, fn, s.Value, static, e); err != nil {
				return err
			}
		}
	}
	if !above {
		if err := m.above(mk, fn, nil, static, e); err != nil {
			return err
		}
	}
	body := fn.Do()
	if len(body) == 0 {
		return nil
	}
	err := m.block(body, f, e)
	if j, ok := err.(*jump); ok && j.kind == "return" {
		return nil
	}
	return err
}

func staticOf(t *Type, name string) *code.Func { return static(t.Class, name) }

// calls says whether an expression calls this or super.
func calls(x *code.Expr, name string) bool {
	if x == nil || x.Op != code.Call {
		return false
	}
	c := x.Args[0]
	if c.Op == code.Member && len(c.Args) == 1 {
		c = c.Args[0]
	}
	return c.Op == code.Name && c.Text == name
}

// declared gives the properties of a class and its mixins what they are declared with.
func (m *Machine) declared(mk *making, t *Type) error {
	for i := range t.Class.Mixins {
		mixin := m.resolve(t.Class.Mixins[i], m.p.unitOf(t.Class.File), m.own(t))
		if mixin != nil && mixin.Class != nil {
			if err := m.declared(mk, mixin); err != nil {
				return err
			}
		}
	}
	u := m.p.unitOf(t.Class.File)
	for _, p := range t.Class.Props {
		if p.Static || p.Late {
			continue
		}
		of := m.resolve(p.Type, u, m.own(t))
		v := Value{Static: of}
		if p.Value != nil {
			var err error
			f := &frame{unit: u, of: t, by: m.own(t)}
			if v, err = m.expr(p.Value, f, nil, of); err == nil && p.Type != nil {
				v, err = m.coerce(v, of, f, false)
			}
			if err != nil {
				return err
			}
		}
		mk.o.Fields[p.Name] = &v
	}
	return nil
}

// initField gives a property its first value.
func (m *Machine) initField(mk *making, name string, v Value) error {
	p, in := m.field(mk.t, name, 0)
	if p != nil && p.Type != nil {
		var err error
		if v, err = m.coerce(v, m.resolve(p.Type, m.p.unitOf(p.File), m.own(in)), &frame{unit: m.p.unitOf(p.File)}, false); err != nil {
			return err
		}
	}
	mk.o.Fields[name] = &v
	return nil
}

// above runs the constructor of the class that is extended: call is how it is called, nil where that is not written.
func (m *Machine) above(mk *making, fn *code.Func, call *code.Expr, f *frame, e *env) error {
	if mk.t.Class.Extends == nil {
		return nil
	}
	parent := m.resolve(mk.t.Class.Extends, m.p.unitOf(mk.t.Class.File), m.own(mk.t))
	if parent == nil || parent.Class == nil {
		return nil // of a package
	}
	name := parent.Class.Name
	var args Args
	if call != nil && call.Args[0].Op == code.Member {
		name = call.Args[0].Text
	}
	next := staticOf(parent, name)
	if next == nil {
		next = &code.Func{Name: name, Class: parent.Class, Init: true, File: parent.Class.File}
	}
	if call != nil {
		var err error
		if args, err = m.arguments(call, f, e, m.paramTypes(next, m.own(parent))); err != nil {
			return err
		}
	}
	plain := append(append([]Value{}, mk.up.plain()...), args.plain()...)
	named := append(append([]Value{}, mk.up.List[len(mk.up.plain()):]...), args.List[len(args.plain()):]...)
	all := Args{List: append(plain, named...), Names: append(append([]string{}, mk.up.Names...), args.Names...)}
	if next.Redirect != nil || next.Factory {
		return nil
	}
	return m.fill(mk.o, mk.v, next, parent, all)
}
