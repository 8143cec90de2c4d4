package sharp

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// super is the class that a class extends, nil for none of the source's.
func (m *Machine) super(d *code.Declared) *code.Declared {
	for _, c := range d.Parts {
		for _, t := range c.Supers {
			if s := m.world.Named(t.Name, len(t.Args), code.At{File: c.File, Space: d.Space, In: d}); s != nil && s != d && s.Kind() != "interface" {
				return s
			}
		}
	}
	return nil
}

// superTypes binds the type parameters of the class that a class extends.
func (m *Machine) superTypes(d *code.Declared, types map[string]*model.Type) map[string]*model.Type {
	for _, c := range d.Parts {
		for _, t := range c.Supers {
			s := m.world.Named(t.Name, len(t.Args), code.At{File: c.File, Space: d.Space, In: d})
			if s == nil || s == d || s.Kind() == "interface" || len(s.Params) != len(t.Args) {
				continue
			}
			out := map[string]*model.Type{}
			for i, p := range s.Params {
				out[p] = m.typ(t.Args[i], &frame{class: d, types: types})
			}
			return out
		}
	}
	return nil
}

// propOf is a property or field of a class by name, and the class that declares it.
func (m *Machine) propOf(d *code.Declared, name string) (*code.Prop, *code.Declared) {
	for deep := 0; d != nil && deep < 16; deep++ {
		for _, c := range d.Parts {
			for _, p := range c.Props {
				if p.Name == name && !slices.Contains(p.Mods, "explicit") {
					return p, d
				}
			}
		}
		d = m.super(d)
	}
	return nil, nil
}

// methodOf is a method of a class with a name that takes so many arguments, and the class that declares it; args < 0 for
// any.
func (m *Machine) methodOf(d *code.Declared, name string, args int) (*code.Func, *code.Declared) {
	all, of := m.methodsOf(d, name)
	for i, fn := range all {
		if args < 0 || takes(fn, args) {
			return fn, of[i]
		}
	}
	return nil, nil
}

func takes(fn *code.Func, args int) bool {
	least := 0
	for i := range fn.Params {
		if !fn.Params[i].Optional {
			least++
		}
	}
	many := len(fn.Params) > 0 && fn.Params[len(fn.Params)-1].Optional && fn.Params[len(fn.Params)-1].Default == nil
	return args >= least && (args <= len(fn.Params) || many)
}

// methodsOf are the methods of a name of a class and of those that it extends, its own first.
func (m *Machine) methodsOf(d *code.Declared, name string) (all []*code.Func, of []*code.Declared) {
	return m.named(d, name, func(fn *code.Func) bool { return fn.Static || !slices.Contains(fn.Mods, "explicit") })
}

// named are the methods of a name of a class, its own first, and of those that it extends, that are wanted.
func (m *Machine) named(d *code.Declared, name string, wanted func(*code.Func) bool) (all []*code.Func, of []*code.Declared) {
	for deep := 0; d != nil && deep < 16; deep++ {
		for _, c := range d.Parts {
			for _, fn := range c.Funcs {
				if fn.Name == name && !fn.Init && wanted(fn) {
					all, of = append(all, fn), append(of, d)
				}
			}
		}
		d = m.super(d)
	}
	return all, of
}

// callback is a method of a class that a library calls by the interface that declares it.
func (m *Machine) callback(d *code.Declared, name string) (*code.Func, *code.Declared) {
	if fn, in := m.methodOf(d, name, -1); fn != nil {
		return fn, in
	}
	if all, of := m.named(d, name, func(*code.Func) bool { return true }); len(all) > 0 {
		return all[0], of[0]
	}
	return nil, nil
}

// member is what a name means in the code of a class: a member of the instance, or a static one of the class or of
// those around it.
func (m *Machine) member(name string, f *frame) (Value, bool, error) {
	if f.this != nil {
		if v, known, err := m.memberOf(*f.this, name, &code.Expr{Op: code.Member, Text: name}, f); known || err != nil {
			return v, known, err
		}
	}
	for d := f.class; d != nil; d = d.Outer {
		if v, known, err := m.staticMember(Value{Kind: Class, Ref: &typed{d: d, t: &model.Type{Name: d.Name, Model: d.Model}}}, name, f); known || err != nil {
			return v, known, err
		}
	}
	for _, d := range m.world.Statics(f.at().File) {
		if v, known, err := m.staticMember(Value{Kind: Class, Ref: &typed{d: d, t: &model.Type{Name: d.Name, Model: d.Model}}}, name, f); known || err != nil {
			return v, known, err
		}
	}
	return Value{}, false, nil
}

// staticOf is where a static member of a class is kept that is given something; nil where it has none.
func (m *Machine) staticOf(d *code.Declared, name string) *Value {
	prop, of := m.propOf(d, name)
	if prop == nil || !prop.Static {
		return nil
	}
	if at := m.static[of][name]; at != nil {
		return at
	}
	v, _, err := m.staticMember(Value{Kind: Class, Ref: &typed{d: of}}, name, &frame{class: of})
	if err != nil {
		return nil
	}
	return m.keep(of, name, v)
}

func (m *Machine) keep(d *code.Declared, name string, v Value) *Value {
	if m.static[d] == nil {
		m.static[d] = map[string]*Value{}
	}
	m.static[d][name] = &v
	return &v
}

// staticMember is a constant of an enum, or a static member of a class of the source; a method group too.
func (m *Machine) staticMember(of Value, name string, f *frame) (Value, bool, error) {
	d := of.Ref.(*typed).d
	if d == nil {
		return Value{}, false, nil
	}
	if d.Kind() == "enum" && d.Model != nil {
		for _, k := range d.Model.Cases {
			if k.Name == name && k.Raw != nil {
				return m.constant(d.Model, k), true, nil
			}
		}
		return Value{}, false, nil
	}
	prop, in := m.propOf(d, name)
	if prop != nil && (prop.Static || slices.Contains(prop.Mods, "const")) {
		if at := m.static[in][name]; at != nil {
			return *at, true, nil
		}
		own := &frame{class: in, fn: &code.Func{File: prop.File}}
		t := m.typ(prop.Type, own)
		switch {
		case prop.Value != nil:
			v, err := m.expr(prop.Value, own, inside(nil), t)
			if err == nil {
				v, err = m.convert(v, t, own, false)
			}
			if err == nil {
				m.keep(in, name, v)
			}
			return v, true, err
		case prop.Get != nil:
			v, err := m.run(prop.Get, &frame{fn: prop.Get, class: in}, nil, nil)
			return v, true, err
		}
		return m.zero(t), true, nil
	}
	if fn, in := m.methodOf(d, name, -1); fn != nil && fn.Static {
		return Value{Kind: Function, Ref: &closure{fn: fn, class: in}}, true, nil
	}
	for _, c := range d.Parts { // a type inside
		if inner := m.world.Named(d.Name+"."+name, 0, code.At{File: c.File, Space: d.Space, In: d}); inner != nil && inner.Outer == d {
			return Value{Kind: Class, Ref: &typed{d: inner, t: &model.Type{Kind: model.Named, Name: inner.Name, Model: inner.Model}}}, true, nil
		}
	}
	return Value{}, false, nil
}

func (m *Machine) constant(of *model.Model, k *model.Case) Value {
	v := Value{Kind: Enum, Model: of}
	for _, c := range k.Raw.Text {
		if c >= '0' && c <= '9' {
			v.Int = v.Int*10 + int64(c-'0')
		}
	}
	if strings.HasPrefix(k.Raw.Text, "-") {
		v.Int = -v.Int
	}
	return v
}

// getter is what computes a property, nil for one that is stored.
func getter(p *code.Prop) *code.Func {
	for _, a := range p.Accessors {
		if a.Word == "get" {
			return a.Fn
		}
	}
	return nil
}

// setMember gives a member of an instance a value; known is false where it has none of the name.
func (m *Machine) setMember(of *Value, name string, v Value, f *frame) (known bool, err error) {
	if _, ok := of.Ref.(*opaque); ok {
		return true, nil
	}
	if h, ok := of.Ref.(interface {
		setMember(name string, v Value) bool
	}); ok && h.setMember(name, v) {
		return true, nil
	}
	o := of.object()
	if o == nil {
		return false, nil
	}
	prop, in := m.propOf(o.Class, name)
	if prop != nil && !prop.Static {
		own := &frame{class: in, this: of, types: m.typesIn(o, in)}
		if v, err = m.convert(v, m.typ(prop.Type, own), own, false); err != nil {
			return true, err
		}
		for _, a := range prop.Accessors {
			if a.Word == "get" || a.Fn == nil {
				continue
			}
			own.fn = a.Fn
			e := inside(nil)
			value := v
			e.names["value"] = &value
			if at := o.Fields[name]; at != nil {
				e.names["field"] = at
			}
			_, err := m.block(a.Fn.Do(), own, e)
			if j, ok := err.(*jump); ok && j.kind == "return" {
				err = nil
			}
			return true, err
		}
	}
	if at := o.Fields[name]; at != nil {
		*at = v
		return true, nil
	}
	return false, nil
}

// blank is an instance of which nothing has run: all fields at zero.
func (m *Machine) blank(d *code.Declared, t *model.Type) Value {
	o := &Object{Class: d, Type: t, Fields: map[string]*Value{}}
	types := typesOf(o)
	for deep := 0; d != nil && deep < 16; deep++ {
		own := &frame{class: d, types: types}
		add := func(name string, t *model.Type) {
			if o.Fields[name] != nil {
				return
			}
			v := m.zero(m.typ(t, own))
			o.Fields[name] = &v
			o.Order = append(o.Order, name)
		}
		for _, c := range d.Parts {
			for _, fn := range c.Funcs {
				if fn.Init && slices.Contains(fn.Mods, "primary") && strings.HasPrefix(d.Kind(), "record") {
					for _, p := range fn.Params {
						add(p.Name, p.Type)
					}
				}
			}
		}
		for _, c := range d.Parts {
			for _, p := range c.Props {
				if !p.Static && stored(p) && !slices.Contains(p.Mods, "const") {
					add(p.Name, p.Type)
				}
			}
		}
		types = m.superTypes(d, types)
		d = m.super(d)
	}
	return Value{Kind: Instance, Ref: o, Model: o.Class.Model}
}

// stored says whether the compiler makes what holds the value of a property.
func stored(p *code.Prop) bool {
	if p.Accessors == nil {
		return true
	}
	for _, a := range p.Accessors {
		if a.Fn == nil {
			return true
		}
		uses := false
		code.WalkBody(a.Fn.Do(), func(x *code.Expr) { uses = uses || x.Op == code.Name && x.Text == "field" })
		for _, s := range a.Fn.Do() {
			uses = uses || s.Op == code.Assign && s.Name == "field"
		}
		if uses {
			return true
		}
	}
	return false
}

// construct makes an instance by the constructor that takes what is given.
func (m *Machine) construct(t *model.Type, d *code.Declared, args []Value, labels []string, x *code.Expr) (Value, error) {
	if d.Kind() == "interface" || d.Kind() == "enum" {
		return Value{}, unfollowed("an instance of "+d.Name, x.Pos)
	}
	v := m.blank(d, t)
	fn, given := m.constructor(d, args, labels)
	if fn == nil && len(args) > 0 {
		return v, unfollowed("a constructor of "+d.Name, x.Pos)
	}
	if fn == nil && d.Kind() == "struct" {
		return v, m.initials(v, d, nil, nil, false)
	}
	return v, m.build(v, d, fn, given, typesOf(v.object()))
}

// constructor chooses by the number and the kinds of what is given.
func (m *Machine) constructor(d *code.Declared, args []Value, labels []string) (*code.Func, []Value) {
	var best *code.Func
	var given []Value
	rank := -1
	for _, c := range d.Parts {
		for _, fn := range c.Funcs {
			if !fn.Init {
				continue
			}
			if ordered, r := m.arrange(fn, args, labels, d); r > rank {
				best, given, rank = fn, ordered, r
			}
		}
	}
	return best, given
}

// arrange puts arguments in the order of the parameters; -1 where they do not fit.
func (m *Machine) arrange(fn *code.Func, args []Value, labels []string, d *code.Declared) (ordered []Value, rank int) {
	if !takes(fn, len(args)) {
		return nil, -1
	}
	n := len(fn.Params)
	many := n > 0 && fn.Params[n-1].Optional && fn.Params[n-1].Default == nil
	ordered = make([]Value, min(n, max(len(args), 0)))
	if n > len(args) {
		ordered = make([]Value, n)
		for i := range ordered {
			ordered[i] = Value{Kind: Default}
		}
	}
	own := &frame{fn: fn, class: d}
	place := 0
	for i, a := range args {
		at := place
		if i < len(labels) && labels[i] != "" && labels[i] != "$options" {
			at = slices.IndexFunc(fn.Params, func(p code.Param) bool { return p.Name == labels[i] })
			if at < 0 {
				return nil, -1
			}
			if at == place { // where it would stand without its name
				place++
			}
		} else {
			place++
		}
		if many && at >= n-1 {
			if t := m.typ(fn.Params[n-1].Type, own); at == n-1 && len(args) == n && m.fit(a, t) > 0 && a.Kind == Items {
				ordered[n-1] = a
				continue
			}
			if ordered[n-1].Kind == Default || ordered[n-1].Ref == nil {
				ordered[n-1] = listOf(nil)
			}
			l := ordered[n-1].list()
			l.items = append(l.items, a)
			continue
		}
		if at >= len(ordered) {
			return nil, -1
		}
		fit := m.fit(a, m.typ(fn.Params[at].Type, own))
		if fit == 0 {
			return nil, -1
		}
		rank += fit
		ordered[at] = a
	}
	if len(args) == n {
		rank += 1
	}
	for i, a := range ordered { // what stands between must have a default
		if a.Kind == Default && fn.Params[i].Default == nil && !fn.Params[i].Optional && i >= len(args) {
			return nil, -1
		}
	}
	return ordered, rank + 1
}

// build runs a constructor: initialisers, the one that it calls first, its body.
func (m *Machine) build(this Value, d *code.Declared, fn *code.Func, args []Value, types map[string]*model.Type) error {
	if m.calls++; m.calls > maxCalls {
		return unfollowed("constructors that call each other", model.Pos{})
	}
	defer func() { m.calls-- }()
	f := &frame{fn: fn, class: d, this: &this, types: types}
	e := inside(nil)
	if fn != nil {
		if err := m.bind(fn, f, e, args); err != nil {
			return err
		}
		for _, init := range fn.Inits {
			if init.Value == nil || init.Value.Op != code.Call || init.Value.Args[0].Text != "this" {
				continue
			}
			given, labels, err := m.arguments(init.Value, f, e, nil)
			if err != nil {
				return err
			}
			other, ordered := m.constructor(d, given, labels)
			if other == nil || other == fn {
				return unfollowed("a constructor of "+d.Name, init.Value.Pos)
			}
			if err := m.build(this, d, other, ordered, types); err != nil {
				return err
			}
			return m.body(fn, f, e)
		}
	}
	if err := m.initials(this, d, e, types, true); err != nil {
		return err
	}
	if s := m.super(d); s != nil {
		var given []Value
		var labels []string
		var call *code.Expr
		if fn != nil {
			for _, init := range fn.Inits {
				if init.Value != nil && init.Value.Op == code.Call && init.Value.Args[0].Text == "base" {
					call = init.Value
				}
			}
		}
		for _, c := range d.Parts {
			if call == nil && c.Super != nil && fn != nil && slices.Contains(fn.Mods, "primary") {
				call = c.Super
			}
		}
		if call != nil {
			var err error
			if given, labels, err = m.arguments(call, f, e, nil); err != nil {
				return err
			}
		}
		of, ordered := m.constructor(s, given, labels)
		if of == nil && len(given) > 0 {
			return unfollowed("a constructor of "+s.Name, model.Pos{})
		}
		if err := m.build(this, s, of, ordered, m.superTypes(d, types)); err != nil {
			return err
		}
	}
	if fn != nil && slices.Contains(fn.Mods, "primary") {
		o := this.object()
		for _, p := range fn.Params {
			v := *e.names[p.Name]
			if strings.HasPrefix(d.Kind(), "record") {
				if prop, in := m.propOf(d, p.Name); prop == nil || in != d { // it is not declared by itself
					if at := o.Fields[p.Name]; at != nil {
						*at = v
					}
				}
				continue
			}
			if o.Fields["$"+p.Name] == nil { // seen in all of its code
				o.Fields["$"+p.Name] = &v
			}
		}
		return nil
	}
	return m.body(fn, f, e)
}

func (m *Machine) body(fn *code.Func, f *frame, e *env) error {
	if fn == nil || slices.Contains(fn.Mods, "primary") {
		return nil
	}
	_, err := m.block(fn.Do(), f, e)
	if j, ok := err.(*jump); ok && j.kind == "return" {
		return nil
	}
	return err
}

// initials gives the fields of a class what their initialisers say; those of the class itself alone.
func (m *Machine) initials(this Value, d *code.Declared, e *env, types map[string]*model.Type, params bool) error {
	f := &frame{class: d, types: types}
	if !params {
		e = nil
	}
	for _, c := range d.Parts {
		for _, p := range c.Props {
			if p.Static || p.Value == nil || slices.Contains(p.Mods, "const") {
				continue
			}
			t := m.typ(p.Type, f)
			v, err := m.expr(p.Value, f, inside(e), t)
			if err == nil {
				v, err = m.convert(v, t, f, false)
			}
			if err != nil {
				if _, thrown := err.(*Thrown); thrown {
					return err
				}
				v = unknownValue()
			}
			if at := this.object().Fields[p.Name]; at != nil {
				*at = v
			}
		}
	}
	return nil
}
