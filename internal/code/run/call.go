package run

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// called is the value of a call.
func (m *Machine) called(x *code.Expr, f *frame, e *env, ctx *Type) (Value, error) {
	callee := x.Args[0]
	var types []*Type
	for _, t := range x.Types {
		types = append(types, m.resolve(t, f.unit, f.by))
	}
	switch callee.Op {
	case code.Name:
		if callee.Text == "super" || callee.Text == "this" && f.this == nil {
			break
		}
		if c := e.find(callee.Text); c == nil {
			if v, done, err := m.callNamed(callee, x, f, e, types, ctx); done {
				return v, err
			}
		}
	case code.Member:
		if len(callee.Args) == 1 && len(callee.Does.All()) == 0 {
			return m.callMember(callee, x, f, e, types, ctx)
		}
	}
	fn, err := m.part(callee, f, e, nil)
	if err != nil {
		return fn, err
	}
	return m.callValue(fn, x, f, e, types, ctx)
}

// callNamed calls what has a name; done is false where that is a value like others.
func (m *Machine) callNamed(callee, x *code.Expr, f *frame, e *env, types []*Type, ctx *Type) (Value, bool, error) {
	name := callee.Text
	if f.this != nil {
		t := classOf(*f.this)
		if fn, in := m.find(t, name, method, 0); fn != nil {
			v, err := m.callFunc(fn, f.this, in, x, f, e, types, ctx)
			return v, true, err
		}
	}
	if f.of != nil && f.of.Class != nil {
		for _, fn := range f.of.Class.Funcs {
			if fn.Name == name && (fn.Static || f.of.Class.Kind == "extension" && f.this != nil) && !fn.Setter && !fn.Getter && !fn.Init {
				this := f.this
				if fn.Static {
					this = nil
				}
				v, err := m.callFunc(fn, this, f.of, x, f, e, types, ctx)
				return v, true, err
			}
		}
		if staticProp(f.of.Class, name) != nil {
			return Value{}, false, nil
		}
	}
	if _, ok := f.by[name]; ok {
		return Value{}, false, nil
	}
	if fn := m.p.function(name, "", f.unit, false); fn != nil && !fn.Getter {
		v, err := m.callFunc(fn, nil, nil, x, f, e, types, ctx)
		return v, true, err
	}
	if platformFunctions[name] && m.p.variable(name, "", f.unit) == nil {
		v, err := m.platformFunction(name, x, f, e, types, ctx)
		return v, true, err
	}
	return Value{}, false, nil
}

// callMember calls a method, a constructor by name, or a static function.
func (m *Machine) callMember(callee, x *code.Expr, f *frame, e *env, types []*Type, ctx *Type) (Value, error) {
	r := callee.Args[0]
	if r.Op == code.Name && r.Text == "super" && f.this != nil && f.of != nil && f.of.Class != nil {
		for _, parent := range m.parents(f.of) {
			if fn, in := m.find(parent, callee.Text, method, 0); fn != nil {
				return m.callFunc(fn, f.this, in, x, f, e, types, ctx)
			}
		}
		if callee.Text == "toString" {
			return textOf("Instance of '" + f.of.Name + "'"), nil
		}
		return Value{}, unfollowed("super."+callee.Text, x.Pos)
	}
	of, err := m.part(r, f, e, nil)
	if err != nil {
		return of, err
	}
	if of.Kind == Class {
		t := of.Ref.(*Type)
		if prefix, ok := strings.CutPrefix(t.Name, prefixMark); ok {
			if fn := m.p.function(callee.Text, prefix, f.unit, false); fn != nil && !fn.Getter {
				return m.callFunc(fn, nil, nil, x, f, e, types, ctx)
			}
			if platformFunctions[callee.Text] {
				return m.platformFunction(callee.Text, x, f, e, types, ctx)
			}
			v, err := m.global(callee.Text, prefix, f, callee)
			if err != nil {
				return v, err
			}
			return m.callValueNamed(v, callee.Text, x, f, e, types, ctx)
		}
		if t.Class != nil {
			if fn := static(t.Class, callee.Text); fn != nil && !fn.Getter {
				return m.callFunc(fn, nil, t, x, f, e, types, ctx)
			}
			v, err := m.classMember(t, callee.Text, f, callee)
			if err != nil {
				return v, err
			}
			return m.callValue(v, x, f, e, types, ctx)
		}
		return m.platformNew(t, callee.Text, x, f, e, types, ctx)
	}
	of = m.solid(of)
	t := classOf(of)
	if t != nil && t.Class != nil {
		if fn, in := m.find(t, callee.Text, method, 0); fn != nil && (!fn.Native || of.Out == nil) {
			return m.callFunc(fn, &of, in, x, f, e, types, ctx)
		}
		if v, known, err := m.lookup(of, callee.Text, &frame{}, callee); known || err != nil { // a property that is a function
			if err != nil {
				return v, err
			}
			return m.callValue(v, x, f, e, types, ctx)
		}
	}
	if !m.hasOwn(of, callee.Text) || of.isUnknown() && of.Out != nil && of.Static == nil {
		if fn, in := m.extension(of, callee.Text, f, method); fn != nil {
			return m.callFunc(fn, &of, in, x, f, e, types, ctx)
		}
	}
	if of.Kind == Recs || of.Kind == Hosts || of.Kind == Fn && callee.Text != "call" {
		if v, ok, err := m.platformMember(of, callee.Text, x.Pos); ok && err == nil && v.Kind == Fn {
			return m.callValue(v, x, f, e, types, ctx)
		}
	}
	if of.Kind == Fn && callee.Text == "call" {
		return m.callValue(of, x, f, e, types, ctx)
	}
	if len(types) == 0 {
		types = m.told(of, callee.Text, ctx.solid())
	}
	args, err := m.arguments(x, f, e, m.platformParams(of, callee.Text, types))
	if err != nil {
		return of, err
	}
	args.Types = types
	if of.Kind == Obj && m.foreign(t, 0) {
		return m.callOutside(Value{Kind: Unknown, Out: &Outside{}}, callee.Text, args, f, ctx)
	}
	if of, err = m.decodedBody(of, callee.Text); err != nil {
		return of, err
	}
	if of.isUnknown() && of.Out != nil {
		return m.callOutside(of, callee.Text, args, f, ctx)
	}
	return m.platformCall(of, callee.Text, args, f, x)
}

// hasOwn says whether the class of a value has a method of a name.
func (m *Machine) hasOwn(of Value, name string) bool {
	if of.isUnknown() {
		return of.Static != nil && of.Static.Class == nil && methods[name] && platformHas(of.Static, name)
	}
	return methods[name] && platformHas(m.typeOf(of), name)
}

// callValue calls a value.
func (m *Machine) callValue(fn Value, x *code.Expr, f *frame, e *env, types []*Type, ctx *Type) (Value, error) {
	return m.callValueNamed(fn, "", x, f, e, types, ctx)
}

func (m *Machine) callValueNamed(fn Value, name string, x *code.Expr, f *frame, e *env, types []*Type, ctx *Type) (Value, error) {
	switch fn.Kind {
	case Class:
		t := fn.Ref.(*Type)
		if t == nil {
			return Value{}, unfollowed("the class of a value", x.Pos)
		}
		if t.Class != nil {
			if len(types) > 0 {
				named := *t
				named.Args = types
				t = &named
			}
			c := static(t.Class, t.Class.Name)
			if c == nil {
				c = &code.Func{Name: t.Class.Name, Class: t.Class, Init: true, File: t.Class.File, Returns: selfType(t.Class)}
			}
			return m.callFunc(c, nil, t, x, f, e, nil, ctx)
		}
		if len(types) > 0 {
			named := *t
			named.Args = types
			t = &named
		}
		return m.platformNew(t, "", x, f, e, types, ctx)
	case Fn:
		c := fn.Ref.(*Closure)
		if c.Fn != nil && c.Env == nil && c.Frame == nil {
			return m.callFunc(c.Fn, c.This, c.Of, x, f, e, types, ctx)
		}
		var want func(int, string) *Type
		if sig := fn.Static; sig.is("Function") {
			want = func(i int, _ string) *Type { return sig.arg(i) }
		}
		if c.Fn != nil {
			want = m.paramTypes(c.Fn, m.bindingsOf(c))
		}
		args, err := m.arguments(x, f, e, want)
		if err != nil {
			return fn, err
		}
		args.Types = types
		return m.apply(c, args)
	case Obj:
		if call, in := m.find(fn.object().Type, "call", method, 0); call != nil {
			return m.callFunc(call, &fn, in, x, f, e, types, ctx)
		}
	case Unknown:
		args, err := m.arguments(x, f, e, nil)
		if err != nil {
			return fn, err
		}
		args.Types = types
		if fn.Out != nil {
			if name == "" && fn.Static != nil {
				name = strings.TrimPrefix(fn.Static.Name, "function ")
			}
			return m.callOutside(fn, name, args, f, ctx)
		}
		v := unknown(nil, append(args.List, fn)...)
		if fn.Static.is("Function") {
			v.Static = fn.Static.Yields
		}
		return v, nil
	case Null:
		return fn, nullCall("call", false, fn)
	}
	if fn.Static == nil {
		args, err := m.arguments(x, f, e, func(int, string) *Type { return nil })
		if err != nil {
			return fn, err
		}
		return fn, noMember(m, fn, "call", "method", args.List...)
	}
	return fn, unfollowed("what is called", x.Pos)
}

// callFunc calls a function of the app with the arguments of a call. What its type parameters stand for is told by
// the call, by what is wanted of it, or by the arguments.
func (m *Machine) callFunc(fn *code.Func, this *Value, of *Type, x *code.Expr, f *frame, e *env, types []*Type, ctx *Type) (Value, error) {
	u := m.p.unitOf(fn.File)
	by := bindings{}
	generics := fn.Generics
	for k, v := range m.own(of) {
		by[k] = v
	}
	told := map[string]bool{}
	if fn.Init && fn.Class != nil {
		generics = fn.Class.Generics
		if of != nil && len(of.Args) > 0 {
			for i, g := range generics {
				by[g] = of.arg(i)
				told[g] = true
			}
		}
	}
	for i, g := range fn.Generics {
		if i < len(types) {
			by[g], told[g] = types[i], true
		} else if len(types) == 0 {
			by[g] = nil
		}
	}
	open := false
	for _, g := range generics {
		if !told[g] {
			delete(by, g)
			open = true
		}
	}
	free := func() (names []string) {
		for _, g := range generics {
			if _, ok := by[g]; !ok {
				names = append(names, g)
			}
		}
		return names
	}
	if open && ctx != nil && fn.Returns != nil {
		m.unify(fn.Returns, ctx.solid(), free(), by, u)
	}
	want := m.paramTypes(fn, by)
	var made func(place int, label string, v Value)
	if open { // what the arguments are tells the type parameters
		written := func(place int, label string) *model.Type { return writtenType(fn, place, label) }
		want = func(place int, label string) *Type {
			t := written(place, label)
			ctx, _ := m.resolved(t, u, by, 0)
			if names := free(); len(names) > 0 && ctx != nil && mentions(t, names) && ctx.Name != "Function" {
				return nil
			}
			return ctx
		}
		made = func(place int, label string, v Value) {
			if t, names := written(place, label), free(); len(names) > 0 && t != nil {
				m.unifyValue(t, v, names, by, u)
			}
		}
	}
	a, err := m.eachArgument(x, f, e, want, made)
	if err != nil {
		return Value{}, err
	}
	if open {
		for _, g := range free() {
			by[g] = nil
		}
	}
	if fn.Init && fn.Class != nil {
		t := &Type{Name: fn.Class.Name, Class: fn.Class}
		for _, g := range fn.Class.Generics {
			t.Args = append(t.Args, by[g])
		}
		of = t
	}
	m.site = x.Pos
	return m.invoke(fn, this, of, by, a, x)
}

// decodedBody is the decoded body of an answer where a method of a list or a map is called on it.
func (m *Machine) decodedBody(of Value, name string) (Value, error) {
	if of.isUnknown() && of.Out != nil && of.Out.Text && of.Out.Request != nil && !of.Static.is("String") && (iterableMethods[name] || mapMethods[name]) && name != "toString" && name != "join" && name != "contains" {
		return m.document(of, of.Static)
	}
	return of, nil
}
