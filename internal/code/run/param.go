package run

import (
	"vetta/internal/code"
	"vetta/internal/model"
)

// selfType is the type that a class declares.
func selfType(c *code.Class) *model.Type {
	t := &model.Type{Kind: model.Named, Name: c.Name}
	for _, g := range c.Generics {
		t.Args = append(t.Args, &model.Type{Kind: model.Named, Name: g})
	}
	return t
}

// paramTypes are the types of a function's parameters, by place and by name.
func (m *Machine) paramTypes(fn *code.Func, by bindings) func(i int, label string) *Type {
	u := m.p.unitOf(fn.File)
	return func(i int, label string) *Type {
		p := param(fn, i, label)
		if p == nil {
			return nil
		}
		return m.paramType(fn, p, u, by)
	}
}

// param is the parameter of a function for an argument, nil for none.
func param(fn *code.Func, i int, label string) *code.Param {
	for k := range fn.Params {
		p := &fn.Params[k]
		switch {
		case label != "":
			if p.Label == label {
				return p
			}
		case p.Label == "":
			if i == 0 {
				return p
			}
			i--
		}
	}
	return nil
}

// paramType is the type of a parameter: of one that is given to a property, the property's, unless it has its own.
func (m *Machine) paramType(fn *code.Func, p *code.Param, u *code.Unit, by bindings) *Type {
	if p.Type == nil && p.Field && fn.Class != nil {
		for _, prop := range fn.Class.Props {
			if prop.Name == p.Name && !prop.Static {
				t, _ := m.resolved(prop.Type, u, by, 0)
				return t
			}
		}
	}
	if p.Type == nil && p.Super && fn.Class != nil && fn.Class.Extends != nil {
		if parent := m.resolve(fn.Class.Extends, u, by); parent != nil && parent.Class != nil {
			if up := m.superOf(fn, parent); up != nil {
				i := 0
				for k := range fn.Params {
					if &fn.Params[k] == p {
						break
					}
					if fn.Params[k].Super && fn.Params[k].Label == "" {
						i++
					}
				}
				if q := param(up, i, p.Label); q != nil {
					return m.paramType(up, q, m.p.unitOf(up.File), m.own(parent))
				}
			}
		}
	}
	t, _ := m.resolved(p.Type, u, by, 0)
	return t
}

// arguments are those of a call, in the order in which they are written.
func (m *Machine) arguments(x *code.Expr, f *frame, e *env, want func(i int, label string) *Type) (Args, error) {
	return m.eachArgument(x, f, e, want, nil)
}

// eachArgument is the same; made, where it is not nil, is told each one before the type of the next is asked for.
func (m *Machine) eachArgument(x *code.Expr, f *frame, e *env, want func(i int, label string) *Type, made func(i int, label string, v Value)) (Args, error) {
	var a Args
	var named []Value
	place := 0
	for i, arg := range x.Args[1:] {
		label := ""
		if i < len(x.Labels) {
			label = x.Labels[i]
		}
		var ctx *Type
		if want != nil {
			ctx = want(place, label)
		}
		v, err := m.expr(arg, f, e, ctx)
		if err == nil && ctx != nil && v.Static == nil { // a dynamic one is checked before the next one is made
			v, err = m.coerce(v, ctx, f, false)
		}
		if err != nil {
			return a, placed(err, x)
		}
		if made != nil {
			made(place, label, v)
		}
		if label != "" {
			named, a.Names = append(named, v), append(a.Names, label)
		} else {
			a.List = append(a.List, v)
			place++
		}
	}
	a.List = append(a.List, named...)
	return a, nil
}

// writtenType is the type that a parameter is declared with, or the property that it is given; nil for none.
func writtenType(fn *code.Func, place int, label string) *model.Type {
	p := param(fn, place, label)
	switch {
	case p == nil:
		return nil
	case p.Type == nil && p.Field && fn.Class != nil:
		for _, prop := range fn.Class.Props {
			if prop.Name == p.Name && !prop.Static {
				return prop.Type
			}
		}
	}
	return p.Type
}

// bindParams gives parameters their arguments.
func (m *Machine) bindParams(fn *code.Func, f *frame, e *env, a Args, sig *Type, made *making) error {
	place := 0
	for i := range fn.Params {
		p := &fn.Params[i]
		t := m.paramType(fn, p, f.unit, f.by)
		if p.Type == nil && sig != nil && !p.Field && !p.Super {
			t = sig.arg(i)
		}
		var v Value
		given := false
		if p.Label != "" {
			v, given = a.named(p.Label)
		} else {
			plain := a.plain()
			if place < len(plain) {
				v, given = plain[place], true
			}
			place++
		}
		switch {
		case given:
		case p.Default != nil:
			var err error
			if v, err = m.expr(p.Default, f, nil, t); err != nil {
				return err
			}
		default:
			v = Value{Static: nullType}
			if !p.Optional && !t.takesNull() && !f.legacy() {
				v = Value{Kind: Unknown, Static: t, Out: &Outside{}}
			}
		}
		var err error
		if v, err = m.coerce(v, t, f, false); err != nil {
			return err
		}
		switch {
		case p.Field && made != nil:
			if err := m.initField(made, p.Name, v); err != nil {
				return err
			}
		case p.Super && made != nil && (given || p.Default != nil):
			if p.Label != "" {
				made.up.List, made.up.Names = append(made.up.List, v), append(made.up.Names, p.Label)
			} else {
				at := len(made.up.List) - len(made.up.Names)
				made.up.List = append(made.up.List[:at:at], append([]Value{v}, made.up.List[at:]...)...)
			}
		}
		e.set(p.Name, &cell{v: v, t: t, typed: true, depth: m.forks})
	}
	return nil
}
