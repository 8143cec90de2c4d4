package sharp

import (
	"slices"

	"vetta/internal/code"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
)

// caller is an object of a library: what a call of one of its methods answers.
type caller interface {
	call(m *Machine, name string, args []Value, types []*model.Type, x *code.Expr, f *frame) (Value, bool, error)
}

// arguments are the values that a call is given, with the names before them.
func (m *Machine) arguments(x *code.Expr, f *frame, e *env, fn *code.Func) (args []Value, labels []string, err error) {
	for i, a := range x.Args[1:] {
		var want *model.Type
		if fn != nil && i < len(fn.Params) {
			want = fn.Params[i].Type
		}
		v, err := m.expr(a, f, e, want)
		if err != nil {
			return nil, nil, err
		}
		args = append(args, v)
		label := ""
		if i < len(x.Labels) {
			label = x.Labels[i]
		}
		labels = append(labels, label)
	}
	return args, labels, nil
}

func (m *Machine) callExpr(x *code.Expr, f *frame, e *env, want *model.Type) (Value, error) {
	callee := x.Args[0]
	switch {
	case x.Type != nil: // new T(…)
		return m.made(m.typ(x.Type, f), x, f, e)
	case callee.Op == code.Name && callee.Text == "new":
		if want == nil {
			return Value{}, unfollowed("an instance of a class that is not told", x.Pos)
		}
		return m.made(want.Unwrapped(), x, f, e)
	case callee.Op == code.Name:
		return m.byName(callee, x, f, e, want)
	case callee.Op == code.Member && len(callee.Args) == 1:
		if callee.Args[0].Op == code.Name && callee.Args[0].Text == "base" && f.class != nil {
			if s := m.super(f.class); s != nil {
				return m.ofClass(s, callee.Text, x, f, e, f.this, nil, baseCall)
			}
			if callee.Text == "CreateProperty" {
				args, _, err := m.arguments(x, f, e, nil)
				if err != nil {
					return Value{}, err
				}
				if len(args) > 0 {
					if of, ok := args[0].Ref.(*memberInfo); ok {
						return Value{Kind: Host, Ref: of.p}, nil
					}
				}
			}
			if callee.Text == "ReadJson" && extends(f.class, "StringEnumConverter") {
				return m.enumByName(x, f, e)
			}
		}
		of, static, err := m.receiver(callee.Args[0], f, e)
		if err != nil {
			return of, err
		}
		if on := callee.Args[0]; callee.Text == "Invoke" && on.Op == code.Name && slices.Contains(on.Does.All(), code.Chained) && of.Kind == Class && of.Ref.(*typed).d == nil {
			return Value{}, nil // an event that nobody minds
		}
		if static || of.Kind == Class {
			return m.staticCall(of, callee.Text, x, f, e, want)
		}
		return m.methodCall(of, callee.Text, x, f, e, want)
	}
	fn, err := m.expr(callee, f, e, nil)
	if err != nil {
		return fn, err
	}
	args, _, err := m.arguments(x, f, e, nil)
	if err != nil {
		return fn, err
	}
	return m.apply(fn, args, x)
}

// extends says whether a class is declared to extend one of the platform's.
func extends(d *code.Declared, name string) bool {
	return slices.ContainsFunc(d.Parts, func(c *code.Class) bool {
		return slices.ContainsFunc(c.Supers, func(t *model.Type) bool { return model.SimpleName(t.Name) == name })
	})
}

// enumByName is what StringEnumConverter makes of the value at which a reader stands.
func (m *Machine) enumByName(x *code.Expr, f *frame, e *env) (Value, error) {
	args, _, err := m.arguments(x, f, e, nil)
	if err != nil {
		return Value{}, err
	}
	t := classAt(args, 1)
	r, ok := args[0].Ref.(*reader)
	if !ok || t == nil {
		return Value{}, unfollowed("a call of the converter that it extends", x.Pos)
	}
	return m.decoded(t, r.current(), newtonsoftJSON+"+names", x, f)
}

// apply calls a function that is a value.
func (m *Machine) apply(fn Value, args []Value, x *code.Expr) (Value, error) {
	c, ok := fn.Ref.(*closure)
	if !ok || fn.Kind != Function {
		if fn.IsNull() {
			return Value{}, m.throw("NullReferenceException", "Object reference not set to an instance of an object.")
		}
		return Value{}, unfollowed("a call", x.Pos)
	}
	if c.host != nil {
		return c.host(args)
	}
	if c.class != nil { // a group of methods: the one that fits
		best := c.fn
		all, of := m.methodsOf(c.class, c.fn.Name)
		in := c.class
		rank := -1
		for i, fn := range all {
			if _, r := m.arrange(fn, args, nil, of[i]); r > rank {
				best, in, rank = fn, of[i], r
			}
		}
		return m.run(best, &frame{fn: best, class: in, this: c.this}, nil, args)
	}
	f := *c.frame
	f.yields, f.wants = nil, nil
	own := &frame{fn: c.fn, class: f.class, this: f.this, types: cloned(f.types)}
	if c.fn.File == "" {
		own.fn = f.fn
	}
	if len(args) > len(c.fn.Params) {
		args = args[:len(c.fn.Params)]
	}
	return m.run(c.fn, own, c.env, args)
}

func cloned(types map[string]*model.Type) map[string]*model.Type {
	out := map[string]*model.Type{}
	for k, v := range types {
		out[k] = v
	}
	return out
}

// byName is a call by a name alone: of a local function, a method of the class, one that a file sees.
func (m *Machine) byName(callee, x *code.Expr, f *frame, e *env, want *model.Type) (Value, error) {
	if v := e.find(callee.Text); v != nil && v.Kind == Function {
		c := v.Ref.(*closure)
		args, labels, err := m.arguments(x, f, e, c.fn)
		if err != nil {
			return Value{}, err
		}
		if c.fn != nil && len(c.fn.Generics) > 0 && c.frame != nil {
			if ordered, rank := m.arrange(c.fn, args, labels, nil); rank >= 0 {
				args = ordered
			}
			own := &frame{fn: c.fn, class: c.frame.class, this: c.frame.this, types: cloned(c.frame.types)}
			m.infer(c.fn, own, x, args, want, f)
			return m.run(c.fn, own, c.env, args)
		}
		return m.apply(*v, args, x)
	}
	for d := f.class; d != nil; d = d.Outer {
		if fn, _ := m.methodOf(d, callee.Text, len(x.Args)-1); fn != nil {
			return m.ofClass(d, callee.Text, x, f, e, f.this, want)
		}
	}
	for _, d := range m.world.Statics(f.at().File) {
		if fn, _ := m.methodOf(d, callee.Text, len(x.Args)-1); fn != nil {
			return m.ofClass(d, callee.Text, x, f, e, nil, want)
		}
	}
	if v, known, err := m.member(callee.Text, f); err != nil {
		return v, err
	} else if known && v.Kind == Function {
		args, _, err := m.arguments(x, f, e, nil)
		if err != nil {
			return v, err
		}
		return m.apply(v, args, x)
	}
	return Value{}, unfollowed("a call of "+callee.Text, x.Pos)
}

// baseCall marks a call of a method as the class above has it.
var baseCall = &model.Type{}

// ofClass calls a method of a class: the one that the arguments fit best.
func (m *Machine) ofClass(d *code.Declared, name string, x *code.Expr, f *frame, e *env, this *Value, want ...*model.Type) (Value, error) {
	all, of := m.methodsOf(d, name)
	var only *code.Func
	if len(all) == 1 {
		only = all[0]
	}
	args, labels, err := m.arguments(x, f, e, only)
	if err != nil {
		return Value{}, err
	}
	best, rank := -1, -1
	var given []Value
	for i, fn := range all {
		if fn.Static == (this == nil) || fn.Static || this != nil {
			if ordered, r := m.arrange(fn, args, labels, of[i]); r > rank && (len(fn.Generics) >= len(x.Types) || len(x.Types) == 0) {
				best, given, rank = i, ordered, r
			}
		}
	}
	if best < 0 {
		return Value{}, unfollowed("a call of "+name, x.Pos)
	}
	fn := all[best]
	own := &frame{fn: fn, class: of[best], types: map[string]*model.Type{}}
	if !fn.Static {
		own.this = this
		if this != nil && this.object() != nil {
			if in := m.overriding(this.object().Class, fn, of[best]); in != nil && len(want) < 2 { // as the instance has it
				own.fn, own.class, fn = in.fn, in.class, in.fn
			}
			own.types = cloned(m.typesIn(this.object(), own.class))
		}
	}
	if own.this == nil && f.types != nil {
		for k, v := range f.types {
			own.types[k] = v
		}
	}
	var w *model.Type
	if len(want) > 0 {
		w = want[0]
	}
	m.infer(fn, own, x, given, w, f)
	return m.run(fn, own, nil, given)
}

// overriding is the method of the class of an instance that overrides another, nil for none.
func (m *Machine) overriding(d *code.Declared, fn *code.Func, in *code.Declared) *closure {
	if !slices.Contains(fn.Mods, "virtual") && !slices.Contains(fn.Mods, "abstract") && !slices.Contains(fn.Mods, "override") && in.Kind() != "interface" {
		return nil
	}
	all, of := m.methodsOf(d, fn.Name)
	for i, o := range all {
		if o == fn {
			return nil
		}
		if len(o.Params) == len(fn.Params) && (slices.Contains(o.Mods, "override") || in.Kind() == "interface") {
			return &closure{fn: o, class: of[i]}
		}
	}
	return nil
}

// infer finds what the type parameters of a function stand for: as the call writes them, by what it is given, or by
// what is wanted of it.
func (m *Machine) infer(fn *code.Func, own *frame, x *code.Expr, args []Value, want *model.Type, f *frame) {
	for i, g := range fn.Generics {
		if i < len(x.Types) {
			own.types[g] = m.typ(x.Types[i], f)
			continue
		}
		for k, p := range fn.Params {
			if p.Type == nil || k >= len(args) {
				continue
			}
			if t := m.inferred(m.world.Resolve(p.Type, own.at()), g, args[k]); t != nil && own.types[g] == nil {
				own.types[g] = t
			}
		}
		if own.types[g] == nil && want != nil && fn.Returns != nil {
			r := m.world.Resolve(fn.Returns, own.at()).Unwrapped()
			if r.Kind == model.Param && r.Name == g {
				own.types[g] = want
			}
		}
	}
}

// inferred is what a type parameter stands for where a parameter of a type is given a value.
func (m *Machine) inferred(t *model.Type, g string, v Value) *model.Type {
	u := t.Unwrapped()
	switch {
	case u.Kind == model.Param && u.Name == g:
		return m.typeOfValue(v)
	case u.Kind == model.Opaque && v.Kind == Function && len(u.Args) == 2 && u.Args[1] != nil && u.Args[1].Unwrapped().Kind == model.Param && u.Args[1].Unwrapped().Name == g:
		c := v.Ref.(*closure)
		if c.class != nil && c.fn.Returns != nil {
			return m.world.Resolve(c.fn.Returns, code.At{File: c.fn.File, Space: c.class.Space, In: c.class})
		}
	}
	return nil
}

// typeOfValue is the type of a value, nil where that is not told.
func (m *Machine) typeOfValue(v Value) *model.Type {
	switch v.Kind {
	case Instance:
		return v.object().Type
	case Bool, Int, Float, Decimal, Char, String, Plain:
		return &model.Type{Kind: model.Named, Name: v.Of, Linked: true}
	case Enum:
		return &model.Type{Kind: model.Named, Name: v.Model.Name, Model: v.Model, Linked: true}
	}
	return nil
}

// staticCall is a call of a static method of a type, of the source or of the platform.
func (m *Machine) staticCall(of Value, name string, x *code.Expr, f *frame, e *env, want *model.Type) (Value, error) {
	t := of.Ref.(*typed)
	if t.t != nil && t.t.Kind == model.Param && f.types[t.t.Name] != nil {
		t = &typed{t: f.types[t.t.Name], d: m.declared(f.types[t.t.Name])}
	}
	if t.d == nil && t.t != nil {
		if bound := f.types[t.t.Name]; bound != nil { // T.Read(element)
			t = &typed{t: bound, d: m.declared(bound)}
		}
	}
	if t.d != nil {
		if t.d.Kind() == "enum" {
			args, _, err := m.arguments(x, f, e, nil)
			if err != nil {
				return Value{}, err
			}
			v, known, err := m.platformCall("Enum", name, args, x, f, want)
			if err == nil && !known {
				err = unfollowed("a call of "+name, x.Pos)
			}
			return v, err
		}
		if fn, _ := m.methodOf(t.d, name, len(x.Args)-1); fn != nil {
			if fn.Params != nil && slices.Contains(fn.Mods, "this") {
				return m.ofClass(t.d, name, x, f, e, nil, want)
			}
			own := *f
			if t.t != nil && len(t.t.Args) == len(t.d.Params) && len(t.d.Params) > 0 {
				own.types = cloned(f.types)
				for i, p := range t.d.Params {
					own.types[p] = t.t.Args[i]
				}
				return m.ofClass(t.d, name, x, &own, e, nil, want)
			}
			return m.ofClass(t.d, name, x, f, e, nil, want)
		}
		if v, known, err := m.staticMember(of, name, f); err != nil {
			return v, err
		} else if known && v.Kind == Function {
			args, _, err := m.arguments(x, f, e, nil)
			if err != nil {
				return v, err
			}
			return m.apply(v, args, x)
		}
		return Value{}, unfollowed("a call of "+t.d.Name+"."+name, x.Pos)
	}
	v, known, err := m.decoding(t.t.Name, name, x, f, e, want)
	if known || err != nil {
		return v, err
	}
	args, _, err := m.arguments(x, f, e, nil)
	if err != nil {
		return v, err
	}
	v, known, err = m.platformCall(t.t.Name, name, args, x, f, want)
	if err == nil && !known {
		err = unfollowed("a call of "+t.t.Name+"."+name, x.Pos)
	}
	return v, err
}

// methodCall is a call of a method of a value.
func (m *Machine) methodCall(of Value, name string, x *code.Expr, f *frame, e *env, want *model.Type) (Value, error) {
	if of.Kind == Cell {
		of = *of.Ref.(*Value)
	}
	if of.Kind == Instance {
		if fn, _ := m.methodOf(of.object().Class, name, len(x.Args)-1); fn != nil {
			return m.ofClass(of.object().Class, name, x, f, e, &of, want)
		}
		if v, known, err := m.memberOf(of, name, x.Args[0], f); err != nil {
			return v, err
		} else if known && v.Kind == Function {
			args, _, err := m.arguments(x, f, e, nil)
			if err != nil {
				return v, err
			}
			return m.apply(v, args, x)
		}
	}
	if of.IsNull() && name == "ConfigureAwait" { // of the task that gives nothing
		return of, nil
	}
	if of.Kind == Function && name == "Invoke" {
		args, _, err := m.arguments(x, f, e, nil)
		if err != nil {
			return of, err
		}
		return m.apply(of, args, x)
	}
	for _, fn := range m.world.Extensions(name) {
		d := m.world.Of(fn.Class)
		if d == nil || len(fn.Params) == 0 || !takes(fn, len(x.Args)) {
			continue
		}
		own := &frame{fn: fn, class: d, types: map[string]*model.Type{}}
		if t := m.typ(fn.Params[0].Type, own); m.fit(of, t) == 0 && !of.IsNull() {
			continue
		}
		args, labels, err := m.arguments(x, f, e, nil)
		if err != nil {
			return of, err
		}
		given, rank := m.arrange(fn, append([]Value{of}, args...), append([]string{""}, labels...), d)
		if rank < 0 {
			continue
		}
		m.infer(fn, own, x, given, want, f)
		return m.run(fn, own, nil, given)
	}
	args, _, err := m.arguments(x, f, e, nil)
	if err != nil {
		return of, err
	}
	if of.IsNull() && name != "GetValueOrDefault" {
		if linq[name] {
			return Value{}, m.throw("ArgumentNullException", "Value cannot be null. (Parameter 'source')")
		}
		if name == "Deserialize" && len(x.Types) == 1 { // it extends nodes, and reads none as null
			if t := m.typ(x.Types[0], f); !clr.IsValue(t) {
				return Value{}, nil
			}
		}
		return Value{}, m.throw("NullReferenceException", "Object reference not set to an instance of an object.")
	}
	if c, ok := of.Ref.(caller); ok && of.Kind == Host {
		if args == nil {
			args = []Value{}
		}
		var types []*model.Type
		for _, t := range x.Types {
			types = append(types, m.typ(t, f))
		}
		v, known, err := c.call(m, name, args, types, x, f)
		if known || err != nil {
			return v, err
		}
	}
	v, known, err := m.plainCall(of, name, args, x, f)
	if err == nil && !known {
		err = unfollowed("a call of "+name, x.Pos)
	}
	return v, err
}

// made makes an object of a type: of the source, or of the platform.
func (m *Machine) made(t *model.Type, x *code.Expr, f *frame, e *env) (Value, error) {
	if d := m.declared(t); d != nil {
		if extends(d, "XmlTextReader") {
			return m.readerOfApp(d, x, f, e)
		}
		var only *code.Func
		for _, c := range d.Parts {
			for _, fn := range c.Funcs {
				if fn.Init && len(fn.Params) == len(x.Args)-1 {
					only = fn
				}
			}
		}
		bound := only
		if only != nil && len(d.Params) == 0 {
			own := *only
			own.Params = slices.Clone(only.Params)
			for i := range own.Params {
				own.Params[i].Type = m.typ(own.Params[i].Type, &frame{fn: only, class: d})
			}
			bound = &own
		}
		args, labels, err := m.arguments(x, f, e, bound)
		if err != nil {
			return Value{}, err
		}
		return m.construct(t, d, args, labels, x)
	}
	args, _, err := m.arguments(x, f, e, nil)
	if err != nil {
		return Value{}, err
	}
	return m.platformMade(t, args, x)
}
