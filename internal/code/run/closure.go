package run

import (
	"vetta/internal/code"
)

func (m *Machine) bindingsOf(c *Closure) bindings {
	if c.Frame != nil {
		return c.Frame.by
	}
	return m.own(c.Of)
}

type yieldKey struct {
	fn   *code.Func
	args string
}

// signature is the type of a function.
func (m *Machine) signature(c *Closure) *Type {
	if c.Sig != nil && c.Fn == nil {
		return c.Sig
	}
	t := &Type{Name: "Function", Args: []*Type{}}
	if c.Fn == nil {
		return &Type{Name: "Function"}
	}
	by := m.bindingsOf(c)
	u := m.p.unitOf(c.Fn.File)
	for i := range c.Fn.Params {
		of := m.paramType(c.Fn, &c.Fn.Params[i], u, by)
		if c.Fn.Params[i].Type == nil && c.Sig != nil {
			of = c.Sig.arg(i)
		}
		t.Args = append(t.Args, of)
	}
	switch {
	case c.Fn.Init && c.Of != nil:
		t.Yields = c.Of
	case c.Fn.Returns != nil:
		t.Yields, _ = m.resolved(c.Fn.Returns, u, by, 0)
	case c.Sig != nil:
		t.Yields = c.Sig.Yields
	}
	return t
}

// yieldOf is the type of what a function yields that takes values of some types.
func (m *Machine) yieldOf(c *Closure, args []*Type) *Type {
	if c.Fn == nil {
		if c.Sig != nil {
			return c.Sig.Yields
		}
		return nil
	}
	if c.Fn.Init || c.Fn.Returns != nil {
		t := m.signature(c).Yields
		if t.is("Future", "FutureOr") {
			return t.arg(0)
		}
		return t
	}
	key := yieldKey{c.Fn, joined(args)}
	if c.Frame != nil {
		for k, t := range c.Frame.by {
			key.args += ";" + k + t.String()
		}
	}
	if t, ok := m.yields[key]; ok {
		return t
	}
	m.yields[key] = nil
	var t *Type
	m.quietly(func() {
		var list []Value
		for i := range c.Fn.Params {
			v := Value{Kind: Unknown}
			if i < len(args) {
				v.Static = args[i]
			}
			if c.Fn.Params[i].Label == "" {
				list = append(list, v)
			}
		}
		if v, err := m.apply(c, Args{List: list}); err == nil {
			t = v.Static
			if t == nil && v.IsNull() {
				t = nullType
			}
		}
	})
	m.yields[key] = t
	return t
}

// apply calls a closure.
func (m *Machine) apply(c *Closure, a Args) (Value, error) {
	if c.Host != nil {
		return c.Host(a)
	}
	if c.Env == nil && c.Frame == nil {
		by := bindings{}
		for k, v := range m.own(c.Of) {
			by[k] = v
		}
		for i, g := range c.Fn.Generics {
			by[g] = nil
			if i < len(a.Types) {
				by[g] = a.Types[i]
			}
		}
		return m.invoke(c.Fn, c.This, c.Of, by, a, nil)
	}
	f := &frame{fn: c.Fn, unit: c.Frame.unit, this: c.This, of: c.Frame.of, by: c.Frame.by, cast: c.Frame.cast}
	if len(c.Fn.Generics) > 0 {
		by := bindings{}
		for k, v := range f.by {
			by[k] = v
		}
		for i, g := range c.Fn.Generics {
			by[g] = nil
			if i < len(a.Types) {
				by[g] = a.Types[i]
			}
		}
		f.by = by
	}
	e := inside(c.Env)
	if err := m.bindParams(c.Fn, f, e, a, c.Sig, nil); err != nil {
		return Value{}, err
	}
	v, err := m.body(f, e)
	if err == nil && c.Fn.Returns == nil && c.Sig != nil && c.Sig.Yields != nil && v.Static == nil {
		v, err = m.coerce(v, c.Sig.Yields, f, false)
	}
	return v, err
}

// Apply calls a function that is a value.
func (m *Machine) Apply(fn Value, args ...Value) (Value, error) {
	switch fn.Kind {
	case Fn:
		return m.apply(fn.Ref.(*Closure), Args{List: args})
	case Class:
		if t := fn.Ref.(*Type); t != nil && t.Class != nil {
			if c := static(t.Class, t.Class.Name); c != nil {
				return m.invoke(c, nil, t, m.own(t), Args{List: args}, nil)
			}
		}
	case Null:
		return fn, nullCall("call", false, fn)
	}
	v := unknown(nil, append(args, fn)...)
	if fn.Static.is("Function") {
		v.Static = fn.Static.Yields
	}
	return v, nil
}

// told are the type arguments of a method of the platform that what is wanted of it tells.
func (m *Machine) told(of Value, name string, want *Type) []*Type {
	switch {
	case of.Static == nil || want == nil:
	case name == "map" && of.Static.is("Map") && want.is("Map"), name == "cast" && of.Static.is("Map") && want.is("Map"):
		return want.Args
	case name == "map" && want.is("Iterable"), name == "cast" && want.is("List", "Iterable", "Set") && !of.Static.is("Map"):
		return want.Args
	case name == "fold" && want.Name != "void":
		return []*Type{want}
	}
	return nil
}
