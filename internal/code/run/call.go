package run

import (
	"fmt"
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
		return fn, noMember(m, fn, "call", "method")
	}
	return fn, unfollowed("what is called", x.Pos)
}

// selfType is the type that a class declares.
func selfType(c *code.Class) *model.Type {
	t := &model.Type{Kind: model.Named, Name: c.Name}
	for _, g := range c.Generics {
		t.Args = append(t.Args, &model.Type{Kind: model.Named, Name: g})
	}
	return t
}

func (m *Machine) bindingsOf(c *Closure) bindings {
	if c.Frame != nil {
		return c.Frame.by
	}
	return m.own(c.Of)
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

// arguments are those of a call, in the order in which they are written.
func (m *Machine) arguments(x *code.Expr, f *frame, e *env, want func(i int, label string) *Type) (Args, error) {
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
	var a Args
	if !open {
		var err error
		if a, err = m.arguments(x, f, e, want); err != nil {
			return Value{}, err
		}
	} else {
		var named []Value
		place := 0
		for i, arg := range x.Args[1:] {
			label := ""
			if i < len(x.Labels) {
				label = x.Labels[i]
			}
			p := param(fn, place, label)
			var written *model.Type
			var ctx *Type
			if p != nil {
				if written = p.Type; written == nil && p.Field && fn.Class != nil {
					for _, prop := range fn.Class.Props {
						if prop.Name == p.Name && !prop.Static {
							written = prop.Type
						}
					}
				}
				ctx, _ = m.resolved(written, u, by, 0)
				if names := free(); len(names) > 0 && ctx != nil && mentions(written, names) && ctx.Name != "Function" {
					ctx = nil
				}
			}
			v, err := m.expr(arg, f, e, ctx)
			if err == nil && ctx != nil && v.Static == nil {
				v, err = m.coerce(v, ctx, f, false)
			}
			if err != nil {
				return Value{}, placed(err, x)
			}
			if names := free(); len(names) > 0 && written != nil {
				m.unifyValue(written, v, names, by, u)
			}
			if label != "" {
				named, a.Names = append(named, v), append(a.Names, label)
			} else {
				a.List = append(a.List, v)
				place++
			}
		}
		a.List = append(a.List, named...)
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

// mentions says whether a type names some type parameters.
func mentions(t *model.Type, names []string) (found bool) {
	t.Walk(func(t *model.Type) {
		for _, n := range names {
			found = found || t.Name == n
		}
	})
	return found
}

// unify finds what names in a type stand for where it is the type of a value that is of another one.
func (m *Machine) unify(written *model.Type, actual *Type, names []string, by bindings, u *code.Unit) {
	if written == nil {
		return
	}
	if written.Kind == model.Optional {
		m.unify(written.Args[0], actual.solid(), names, by, u)
		return
	}
	if written.Kind == model.Named && len(written.Args) == 0 {
		for _, n := range names {
			if written.Name == n {
				if old, ok := by[n]; !ok || old == nil && actual != nil {
					by[n] = actual
				} else {
					by[n] = m.lub(old, actual)
				}
				return
			}
		}
	}
	if written.Kind == model.Opaque && len(written.Args) == 2 && actual.is("Function") {
		m.unify(written.Args[1], actual.Yields, names, by, u)
		return
	}
	if actual == nil {
		return
	}
	if alias, of, ok := m.p.alias(written.Name, u); ok && written.Kind == model.Named && alias.Type != nil && alias.Type.Kind == model.Opaque && len(alias.Type.Args) == 2 && actual.is("Function") {
		inner := bindings{}
		m.unify(alias.Type.Args[1], actual.Yields, alias.Generics, inner, of)
		for i, g := range alias.Generics {
			if t, ok := inner[g]; ok && i < len(written.Args) {
				m.unify(written.Args[i], t, names, by, u)
			}
		}
		return
	}
	if written.Kind == model.Named && (written.Name == "Future" || written.Name == "FutureOr") && len(written.Args) == 1 && !actual.is("Future", "FutureOr") {
		m.unify(written.Args[0], actual, names, by, u)
		return
	}
	if actual.is("Future", "FutureOr") && written.Name != actual.Name {
		m.unify(written, actual.arg(0), names, by, u)
		return
	}
	for t := actual; t != nil; {
		if last(written.Name) == t.Name || t.is("List", "Set") && written.Name == "Iterable" {
			for i, a := range written.Args {
				m.unify(a, t.arg(i), names, by, u)
			}
			return
		}
		if t.Class == nil {
			return
		}
		up := m.supersOf(t)
		t = nil
		for _, s := range up {
			if s != nil && (t == nil || last(written.Name) == s.Name) {
				t = s
			}
		}
	}
}

// unifyValue is unify by a value, where a closure says what it yields by its code.
func (m *Machine) unifyValue(written *model.Type, v Value, names []string, by bindings, u *code.Unit) {
	if v.Kind != Fn {
		m.unify(written, v.Static, names, by, u)
		return
	}
	takes := written
	if alias, _, ok := m.p.alias(written.Unwrapped().Name, u); ok && alias.Type != nil {
		takes = alias.Type
	}
	c := v.Ref.(*Closure)
	var args []*Type
	if takes = takes.Unwrapped(); takes.Kind == model.Opaque && len(takes.Args) == 2 {
		for _, a := range takes.Args[0].Args {
			t, _ := m.resolved(a, u, by, 0)
			args = append(args, t)
		}
	}
	sig := &Type{Name: "Function", Args: args, Yields: m.yieldOf(c, args)}
	m.unify(written, sig, names, by, u)
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
	if v, ok := m.requested(fn, of, wants, a); ok {
		return v, nil
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

// nullCall is the error of a member of null.
func nullCall(name string, get bool, v Value) error {
	return nullCalled(name, get, v, "")
}

// nullCalled is nullCall of a method with arguments, as they are written.
func nullCalled(name string, get bool, v Value, args string, types ...*Type) error {
	kind, call := "method", calledAs(name, Args{Types: types})+"("+args+")"
	if get {
		kind, call = "getter", name
	}
	if strings.HasSuffix(name, "=") && name != "==" {
		kind = "setter"
	}
	return &Thrown{Class: "NoSuchMethodError", Message: fmt.Sprintf("NoSuchMethodError: The %s '%s' was called on null. Receiver: null Tried calling: %s", kind, name, call), At: v.At}
}

// noMember is the error of a member that a value does not have.
func noMember(m *Machine, v Value, name, kind string, args ...Value) error {
	call := name
	if kind == "method" {
		call += "(" + m.writtenArgs(args) + ")"
	}
	return &Thrown{Class: "NoSuchMethodError", Message: fmt.Sprintf("NoSuchMethodError: Class '%s' has no instance %s '%s'. Receiver: %s Tried calling: %s", m.typeOf(v).spelt(v), kind, name, m.shown(v), call), At: v.At}
}

// writtenArgs are arguments as errors have them.
func (m *Machine) writtenArgs(args []Value) string {
	var parts []string
	for _, a := range args {
		parts = append(parts, m.shown(a))
	}
	return strings.Join(parts, ", ")
}

// shown is a value as errors have it.
func (m *Machine) shown(v Value) string {
	switch v.Kind {
	case String:
		return "\"" + v.S + "\""
	case Lists:
		if l := v.list(); l.Kind == "List" && l.Lazy == nil {
			return fmt.Sprintf("Instance(length:%d) of '_GrowableList'", len(l.Items))
		}
	case Maps:
		return fmt.Sprintf("_Map len:%d", len(v.dict().Keys))
	case Fn:
		c := v.Ref.(*Closure)
		if t := m.signature(c); t.Yields == nil && c.Fn != nil {
			own := *t
			own.Yields = m.yieldOf(c, t.Args)
			return "Closure: " + own.String()
		} else if c.Fn != nil {
			return "Closure: " + t.String()
		}
	}
	text, known, err := m.written(v, codePos{})
	if err != nil || !known {
		return "Instance of '" + m.typeOf(v).String() + "'"
	}
	return text
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

// decodedBody is the decoded body of an answer where a method of a list or a map is called on it.
func (m *Machine) decodedBody(of Value, name string) (Value, error) {
	if of.isUnknown() && of.Out != nil && of.Out.Text && of.Out.Request != nil && !of.Static.is("String") && (iterableMethods[name] || mapMethods[name]) && name != "toString" && name != "join" && name != "contains" {
		return m.document(of, of.Static)
	}
	return of, nil
}
