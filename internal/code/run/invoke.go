package run

import (
	"vetta/internal/code"
)

// superOf is the constructor of the class above that one calls, by its own list or by itself.
func (m *Machine) superOf(fn *code.Func, parent *Type) *code.Func {
	name := parent.Class.Name
	for i := range fn.Inits {
		if v := fn.Inits[i].Value; fn.Inits[i].Op == code.Do && v != nil && v.Op == code.Call {
			if v.Args[0].Op == code.Member {
				name = v.Args[0].Text
			}
		}
	}
	return static(parent.Class, name)
}

// body runs what a function does, and answers what it yields.
func (m *Machine) body(f *frame, e *env) (Value, error) {
	if len(m.calls) >= maxCalls {
		return Value{}, unfollowed("calls that deep", f.fn.Pos)
	}
	f.site, m.site = m.site, codePos{}
	m.calls = append(m.calls, f)
	defer func() { m.calls = m.calls[:len(m.calls)-1] }()
	if f.fn.Later {
		return Value{}, unfollowed("a function that yields one by one", f.fn.Pos)
	}
	err := m.block(f.fn.Do(), f, e)
	v := Value{Static: voidType}
	if len(f.maybe) > 0 || f.fn.Returns == nil {
		v.Static = nullType
	}
	switch j := err.(type) {
	case nil:
	case *jump:
		if j.kind != "return" {
			return v, unfollowed("a jump", f.fn.Pos)
		}
		v = j.v
	default:
		if t, ok := err.(*Thrown); ok && t.Own && len(f.maybe) > 0 { // where it has not returned before
			return m.merged(nil, f.maybe...), nil
		}
		return v, err
	}
	if len(f.maybe) > 0 {
		v = m.merged(nil, append(f.maybe, v)...)
	}
	return v, nil
}

// invoke calls a function, method or constructor of the app.
func (m *Machine) invoke(fn *code.Func, this *Value, of *Type, by bindings, a Args, x *code.Expr) (Value, error) {
	if err := m.step(2, fn.Pos); err != nil {
		return Value{}, err
	}
	if by == nil {
		by = m.own(of)
		for _, g := range fn.Generics {
			if by == nil {
				by = bindings{}
			}
			by[g] = nil
		}
	}
	if m.dry > 0 && fn.Init { // only its type is asked for
		if of == nil {
			of = TypeOf(fn.Class)
		}
		return unknown(of, a.List...), nil
	}
	if fn.Init {
		return m.construct(fn, of, by, a)
	}
	u := m.p.unitOf(fn.File)
	wants, _ := m.resolved(fn.Returns, u, by, 0)
	if m.dry > 0 && wants != nil {
		if wants.is("Future", "FutureOr") {
			return unknown(wants.arg(0), a.List...), nil
		}
		return unknown(wants, a.List...), nil
	}
	at := m.reads(fn, a)
	if fn.Native {
		return m.native(fn, this, of, wants, a)
	}
	if at >= 0 && a.List[at].Fails && isReader(fn, wants) {
		return Value{}, &Thrown{Class: "_TypeError", At: a.List[at].At}
	}
	if made := m.making(fn, of, wants, a, at); made != nil {
		return *made, nil
	}
	f := &frame{fn: fn, unit: u, this: this, of: of, by: by, wants: wants}
	if f.wants.is("Future", "FutureOr") {
		f.wants = f.wants.arg(0)
	}
	e := inside(nil)
	if err := m.bindParams(fn, f, e, a, nil, nil); err != nil {
		return Value{}, placed(err, x)
	}
	v, err := m.body(f, e)
	if err != nil {
		return v, err
	}
	if v, err = m.coerce(v, f.wants, f, false); err != nil {
		return v, err
	}
	if o := v.object(); o != nil && o.Made == nil && at >= 0 && o.Enum == "" {
		o.Made = &Made{Fn: fn, Args: a, Of: of, Base: a.List[at].At, At: at}
	}
	return v, nil
}

// placed is an error with the call that it comes of, where it has no place of its own.
func placed(err error, x *code.Expr) error {
	if t, ok := err.(*Thrown); ok && x != nil && t.Pos.IsZero() {
		t.Pos = x.Pos
	}
	return err
}

// reads is the argument of a function that is a value of the document which it makes something of, -1 for none.
func (m *Machine) reads(fn *code.Func, a Args) int {
	for i, v := range a.List {
		if v.At == nil || v.At.Kind == Key {
			continue
		}
		label := ""
		if i >= len(a.List)-len(a.Names) {
			label = a.Names[i-(len(a.List)-len(a.Names))]
		}
		p := param(fn, i, label)
		if p == nil || p.Field || p.Super {
			continue
		}
		if p.Type == nil {
			return i
		}
		switch p.Type.Unwrapped().Name {
		case "dynamic", "Object", "Map", "List", "Json", "JSON", "JsonMap", "JsonObject", "Iterable":
			return i
		}
		if alias, _, ok := m.p.alias(p.Type.Unwrapped().Name, m.p.unitOf(fn.File)); ok && alias.Type != nil && alias.Type.Unwrapped().Name == "Map" {
			return i
		}
	}
	return -1
}

// making is an instance of which it is only noted how it would be made of a value of the document; nil where the
// function must be run.
func (m *Machine) making(fn *code.Func, of, yields *Type, a Args, at int) *Value {
	if at < 0 {
		return nil
	}
	v := a.List[at]
	if v.Fails {
		return nil
	}
	if !m.shallow || !v.isUnknown() && !v.isOpen() || len(m.calls) == 0 || yields == nil || yields.Class == nil || yields.Null || yields.Class.Kind == "enum" {
		return nil
	}
	if !isReader(fn, yields) {
		return nil
	}
	o := &Object{Type: yields, Fields: map[string]*Value{}, Made: &Made{Fn: fn, Args: a, Of: of, Base: v.At, At: at, Only: true}, depth: m.forks}
	out := &Value{Kind: Obj, Ref: o, Static: yields}
	if m.looking {
		m.events = append(m.events, *out)
	}
	return out
}

// isReader says whether a function makes an instance of its class in any case.
func isReader(fn *code.Func, yields *Type) bool {
	return fn.Init || fn.Static && fn.Class != nil && yields != nil && !yields.Null && fn.Class == yields.Class
}

// force makes an instance of which it was only noted how it would be made.
func (m *Machine) force(o *Object) error {
	if o.Made == nil || !o.Made.Only {
		return nil
	}
	made := *o.Made
	made.Only = false
	o.Made = &made
	for _, f := range m.calls { // one that is made of itself
		if f.base != nil && f.base.Fn == made.Fn && f.base.Base == made.Base {
			return unfollowed("a class that is made of itself", made.Fn.Pos)
		}
	}
	shell := &frame{fn: made.Fn, base: &made}
	if len(m.calls) >= maxCalls {
		return unfollowed("calls that deep", made.Fn.Pos)
	}
	outer := m.calls
	m.calls = nil
	v, err := m.invoke(made.Fn, nil, made.Of, nil, made.Args, nil)
	m.calls = outer
	_ = shell
	if err != nil {
		return err
	}
	if got := v.object(); got != nil && got != o {
		if err := m.force(got); err != nil { // the instance of another class that it hands out
			return err
		}
		o.Fields, o.Type = got.Fields, got.Type
	}
	return nil
}

// native is what a function without a body yields: of an abstract method, what the class that has it does.
func (m *Machine) native(fn *code.Func, this *Value, of, wants *Type, a Args) (Value, error) {
	if this != nil {
		if o := this.object(); o != nil && o.Type != of {
			if own, in := m.find(o.Type, fn.Name, method, 0); own != nil && !own.Native {
				return m.invoke(own, this, in, nil, a, nil)
			}
		}
	}
	if v, ok, err := m.requested(fn, of, wants); ok || err != nil {
		return v, err
	}
	v := unknown(wants, a.List...)
	if this != nil && this.Out != nil {
		v.Out = this.Out
	}
	if v.Out == nil {
		v.Out = &Outside{}
	}
	return v, nil
}

// foreign says whether a class extends or implements one that is not in the source.
func (m *Machine) foreign(t *Type, deep int) bool {
	if t == nil || deep > 10 {
		return false
	}
	if t.Class == nil {
		return t.Name != "Object" && t.Name != "Enum" && t.Name != "Exception" && t.Name != "Comparable"
	}
	for _, s := range m.supersOf(t) {
		if m.foreign(s, deep+1) {
			return true
		}
	}
	return false
}
