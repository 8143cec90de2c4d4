package run

import (
	"fmt"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// isClassName says whether a name is one of a class, by its first letter.
func isClassName(name string) bool {
	switch name {
	case "int", "double", "num", "bool":
		return true
	}
	name = strings.TrimLeft(name, "_$")
	return name != "" && name[:1] == strings.ToUpper(name[:1]) && (name[0] < '0' || name[0] > '9')
}

func classValue(t *Type) Value { return Value{Kind: Class, Ref: t, Static: &Type{Name: "Type"}} }

// name is what a name stands for.
func (m *Machine) name(x *code.Expr, f *frame, e *env, ctx *Type) (Value, error) {
	switch x.Text {
	case "null":
		return Value{Static: nullType}, nil
	case "true", "false":
		return boolOf(x.Text == "true"), nil
	case "this":
		if f.this != nil {
			return *f.this, nil
		}
	}
	if c := e.find(x.Text); c != nil {
		switch {
		case c.unset && c.late:
			return Value{}, &Thrown{Class: "LateInitializationError", Message: "Local '" + x.Text + "' has not been initialized.", Pos: x.Pos}
		case c.unset:
			return Value{}, unfollowed("the value of "+x.Text, x.Pos)
		}
		v := c.v
		v.Static = c.t
		return v, nil
	}
	if t, ok := f.by[x.Text]; ok {
		return classValue(t), nil
	}
	if f.this != nil {
		if v, known, err := m.lookup(*f.this, x.Text, f, x); known || err != nil {
			return v, err
		}
	}
	if v, known, err := m.ofClass(f.of, x.Text, f, x); known || err != nil {
		return v, err
	}
	return m.global(x.Text, "", f, x)
}

// means says whether a name means something in a file by itself: what the app or the platform declares under it, or an
// import.
func (m *Machine) means(name string, u *code.Unit) bool {
	if _, ok := platformName(name); ok {
		return true
	}
	return m.p.declares(name) || isClassName(name) || u != nil && m.p.hasPrefix(u, name)
}

// ofClass is a static member of a class by its name alone.
func (m *Machine) ofClass(t *Type, name string, f *frame, x *code.Expr) (Value, bool, error) {
	if t == nil || t.Class == nil {
		return Value{}, false, nil
	}
	if t.Class.Cases[name] != nil {
		v, err := m.constant(t.Class, name)
		return v, true, err
	}
	if t.Class.Kind == "enum" && name == "values" {
		v, err := m.values(t.Class)
		return v, true, err
	}
	if p := staticProp(t.Class, name); p != nil {
		v, err := m.globalValue(p)
		return v, true, err
	}
	for _, fn := range t.Class.Funcs {
		if fn.Static && fn.Name == name && !fn.Setter {
			if fn.Getter {
				v, err := m.invoke(fn, nil, t, nil, Args{}, nil)
				return v, true, err
			}
			return m.tornOff(fn, nil, t), true, nil
		}
	}
	return Value{}, false, nil
}

// tornOff is a function as a value.
func (m *Machine) tornOff(fn *code.Func, this *Value, of *Type) Value {
	v := Value{Kind: Fn, Ref: &Closure{Fn: fn, This: this, Of: of}}
	v.Static = m.typeOf(v)
	return v
}

// global is what a name outside of classes stands for; prefix is that of an import, "" for none.
func (m *Machine) global(name, prefix string, f *frame, x *code.Expr) (Value, error) {
	if p := m.p.variable(name, prefix, f.unit); p != nil {
		return m.globalValue(p)
	}
	if fn := m.p.function(name, prefix, f.unit, false); fn != nil {
		if fn.Getter {
			return m.invoke(fn, nil, nil, nil, Args{}, nil)
		}
		return m.tornOff(fn, nil, nil), nil
	}
	full := name
	if prefix != "" {
		full = prefix + "." + name
	}
	if c := m.p.class(full, f.unit); c != nil {
		t := &Type{Name: c.Name, Class: c}
		for _, a := range x.Types {
			t.Args = append(t.Args, m.resolve(a, f.unit, f.by))
		}
		return classValue(t), nil
	}
	if a, of, ok := m.p.alias(name, f.unit); ok {
		t := m.resolve(a.Type, of, bindings{})
		if t != nil && t.Name != "Function" {
			return classValue(t), nil
		}
	}
	if v, ok := platformName(name); ok {
		return v, nil
	}
	if prefix == "" && f.unit != nil && m.p.hasPrefix(f.unit, name) {
		return classValue(&Type{Name: prefixMark + name}), nil
	}
	if isClassName(name) {
		t := &Type{Name: name}
		for _, a := range x.Types {
			t.Args = append(t.Args, m.resolve(a, f.unit, f.by))
		}
		return classValue(t), nil
	}
	return Value{Kind: Unknown, Out: &Outside{Texts: []string{}}, Static: &Type{Name: "function " + name}}, nil
}

// prefixMark stands before the name of an import's prefix.
const prefixMark = "prefix "

// globalValue is the value of a variable outside of instances, which is made when it is asked for first.
func (m *Machine) globalValue(p *code.Prop) (Value, error) {
	if v := m.globals[p]; v != nil {
		return *v, nil
	}
	u := m.p.unitOf(p.File)
	f := &frame{unit: u}
	if p.Class != nil {
		f.of = &Type{Name: p.Class.Name, Class: p.Class}
		for range p.Class.Generics {
			f.of.Args = append(f.of.Args, nil)
		}
	}
	t := m.resolve(p.Type, u, nil)
	v := Value{Static: t}
	m.globals[p] = &v // one that asks for itself
	if p.Value != nil {
		var err error
		if v, err = m.expr(p.Value, f, nil, t); err == nil && p.Type != nil {
			v, err = m.coerce(v, t, f, false)
		}
		if err != nil {
			delete(m.globals, p)
			return v, err
		}
	} else if !t.takesNull() {
		v = m.outside(t, 0)
	}
	m.globals[p] = &v
	return v, nil
}

// constant is a constant of an enum.
func (m *Machine) constant(c *code.Class, name string) (Value, error) {
	all, err := m.values(c)
	if err != nil {
		return all, err
	}
	for _, v := range all.list().Items {
		if v.object().Enum == name {
			return v, nil
		}
	}
	return Value{}, unfollowed("the constant "+name, c.Pos)
}

// values are the constants of an enum.
func (m *Machine) values(c *code.Class) (Value, error) {
	t := &Type{Name: c.Name, Class: c}
	for range c.Generics {
		t.Args = append(t.Args, nil)
	}
	if m.enums == nil {
		m.enums = map[*code.Class][]Value{}
	}
	all, ok := m.enums[c]
	if !ok {
		m.enums[c] = nil
		for i, name := range c.Order {
			o := &Object{Type: t, Fields: map[string]*Value{}, Enum: name, Index: i}
			v := Value{Kind: Obj, Ref: o, Static: t}
			x := c.Cases[name]
			fn := static(c, c.Name)
			if len(x.Args) > 0 && x.Args[0].Op == code.Member {
				fn = static(c, x.Args[0].Text)
			}
			f := &frame{unit: m.p.unitOf(c.File), of: t}
			if fn == nil {
				fn = &code.Func{Name: c.Name, Class: c, Init: true, File: c.File}
			}
			args, err := m.arguments(x, f, nil, m.paramTypes(fn, m.own(t)))
			if err == nil {
				err = m.fill(o, v, fn, t, args)
			}
			if err != nil {
				delete(m.enums, c)
				return v, err
			}
			all = append(all, v)
		}
		m.enums[c] = all
	}
	return newList(t, append([]Value{}, all...)), nil
}

// lookup is a member of an instance by its name alone; known is false where it has none.
func (m *Machine) lookup(of Value, name string, f *frame, x *code.Expr) (v Value, known bool, err error) {
	t := classOf(of)
	if t == nil || t.Class == nil {
		if of.isUnknown() || t == nil || f.of != nil && f.of.Class != nil && f.of.Class.Kind == "extension" {
			if f.of != nil && f.of.Class != nil {
				for _, fn := range f.of.Class.Funcs {
					if fn.Name == name && !fn.Static && !fn.Setter {
						v, err := m.bound(fn, of, f.of)
						return v, true, err
					}
				}
			}
			if f.of != nil && f.of.Class != nil && f.of.Class.Kind == "extension" && (m.hasMember(of, name) || of.Out != nil && of.At == nil && !m.means(name, f.unit)) {
				v, err := m.get(of, name, f, x)
				return v, true, err
			}
		}
		return Value{}, false, nil
	}
	if fn, in := m.find(t, name, getter, 0); fn != nil && !fn.Native {
		v, err := m.invoke(fn, &of, in, nil, Args{}, nil)
		return v, true, err
	}
	if p, in := m.field(t, name, 0); p != nil {
		v, err := m.read(of, p, in, x)
		return v, true, err
	}
	if fn, in := m.find(t, name, method, 0); fn != nil {
		return m.tornOff(fn, &of, in), true, nil
	}
	if o := of.object(); o != nil && o.Enum != "" && (name == "name" || name == "index") {
		return m.platformMember(of, name, x.Pos)
	}
	if fn, in := m.find(t, name, getter, 0); fn != nil {
		return unknown(m.resolve(fn.Returns, m.p.unitOf(fn.File), m.own(in)), of), true, nil
	}
	if w := t.Class.Extends; name == "widget" && w != nil && model.SimpleName(w.Name) == "State" && len(w.Args) == 1 { // of a screen
		return unknown(m.resolve(w.Args[0], m.p.unitOf(t.Class.File), m.own(t))), true, nil
	}
	return Value{}, false, nil
}

// bound is a method as a value, or what a getter yields.
func (m *Machine) bound(fn *code.Func, this Value, of *Type) (Value, error) {
	if fn.Getter {
		return m.invoke(fn, &this, of, nil, Args{}, nil)
	}
	return m.tornOff(fn, &this, of), nil
}

// read is the value of a property of an instance.
func (m *Machine) read(of Value, p *code.Prop, in *Type, x *code.Expr) (Value, error) {
	u := m.p.unitOf(p.File)
	t := m.resolve(p.Type, u, m.own(in))
	if rep := representation(in); rep != nil {
		return of.as(t), nil
	}
	if m.reach != nil && m.reach.of[p] != nil {
		return Value{Kind: Unknown, Static: t, At: m.reach.of[p]}, nil
	}
	o := of.object()
	if o == nil {
		v := unknown(t, of)
		if of.Out != nil {
			return m.outsideField(of, t), nil
		}
		return v, nil
	}
	if err := m.force(o); err != nil {
		return Value{}, err
	}
	cell := o.Fields[p.Name]
	if cell == nil {
		if p.Late && p.Value != nil {
			f := &frame{unit: u, this: &of, of: in, by: m.own(in)}
			v, err := m.expr(p.Value, f, nil, t)
			if err == nil {
				v, err = m.coerce(v, t, f, false)
			}
			if err != nil {
				return v, err
			}
			o.Fields[p.Name] = &v
			return v, nil
		}
		if p.Late {
			return Value{}, &Thrown{Class: "LateInitializationError", Message: fmt.Sprintf("Field '%s' has not been initialized.", p.Name), Pos: x.Pos}
		}
		return Value{Static: t}, nil
	}
	v := *cell
	if p.Type != nil {
		v.Static = t
	}
	return v, nil
}

// memberOf is a property, a method that is not called, or a name of a class.
func (m *Machine) memberOf(x *code.Expr, f *frame, e *env, ctx *Type) (Value, error) {
	if len(x.Args) != 1 {
		return Value{}, unfollowed("the name "+x.Text, x.Pos)
	}
	if r := x.Args[0]; r.Op == code.Name && r.Text == "super" && f.this != nil && f.of != nil && f.of.Class != nil {
		for _, parent := range m.parents(f.of) {
			if fn, in := m.find(parent, x.Text, getter, 0); fn != nil {
				return m.invoke(fn, f.this, in, nil, Args{}, nil)
			}
			if p, in := m.field(parent, x.Text, 0); p != nil {
				return m.read(*f.this, p, in, x)
			}
			if fn, in := m.find(parent, x.Text, method, 0); fn != nil {
				return m.tornOff(fn, f.this, in), nil
			}
		}
		return Value{}, unfollowed("the property "+x.Text, x.Pos)
	}
	of, err := m.part(x.Args[0], f, e, nil)
	if err != nil {
		return of, err
	}
	if of.Kind == Class {
		return m.classMember(of.Ref.(*Type), x.Text, f, x)
	}
	return m.get(of, x.Text, f, x)
}

// classMember is a static member of a class, a constructor as a value, or what an import with a prefix has.
func (m *Machine) classMember(t *Type, name string, f *frame, x *code.Expr) (Value, error) {
	if prefix, ok := strings.CutPrefix(t.Name, prefixMark); ok {
		return m.global(name, prefix, f, x)
	}
	if v, known, err := m.ofClass(t, name, f, x); known || err != nil {
		return v, err
	}
	if t.Class != nil {
		if fn := static(t.Class, name); fn != nil {
			return m.tornOff(fn, nil, t), nil
		}
		if name == "new" {
			if fn := static(t.Class, t.Class.Name); fn != nil {
				return m.tornOff(fn, nil, t), nil
			}
		}
		return Value{}, unfollowed(t.Name+"."+name, x.Pos)
	}
	if v, ok := m.platformStatic(t, name); ok {
		return v, nil
	}
	return Value{Kind: Unknown, Out: &Outside{Texts: []string{}}}, nil
}

// hasMember says whether a value of the platform may have a member.
func (m *Machine) hasMember(of Value, name string) bool {
	if of.isUnknown() {
		return members[name]
	}
	_, ok, _ := m.platformMember(of, name, codePos{})
	return ok || methods[name]
}

// get is a property of a value, by its class.
func (m *Machine) get(of Value, name string, f *frame, x *code.Expr) (Value, error) {
	of = m.solid(of)
	t := classOf(of)
	if t != nil && t.Class != nil {
		if v, known, err := m.lookup(of, name, &frame{}, x); known || err != nil {
			return v, err
		}
	}
	if of.isUnknown() && of.Out != nil && of.Static == nil {
		if fn, in := m.extension(of, name, f, getter); fn != nil {
			return m.invoke(fn, &of, in, nil, Args{}, nil)
		}
	}
	if v, ok, err := m.platformMember(of, name, x.Pos); ok || err != nil {
		if err == nil && of.Static == nil && !of.isUnknown() {
			v.Static = nil
		}
		return v, err
	}
	if fn, in := m.extension(of, name, f, getter); fn != nil {
		return m.invoke(fn, &of, in, nil, Args{}, nil)
	}
	if of.isUnknown() {
		return m.memberOfUnknown(of, name), nil
	}
	if methods[name] { // a method that is not called
		return Value{Kind: Fn, Ref: &Closure{Host: func(args Args) (Value, error) { return m.platformCall(of, name, args, f, x) }}, Static: &Type{Name: "Function"}}, nil
	}
	if of.IsNull() {
		return of, nullCall(name, true, of)
	}
	if of.Kind == Recs {
		r := of.Ref.(*Rec)
		for i, n := range r.Names {
			if n == name || n == "" && name == fmt.Sprintf("$%d", i+1) {
				return r.Vals[i], nil
			}
		}
	}
	if of.Static == nil {
		return of, noMember(m, of, name, "getter")
	}
	return of, unfollowed("the property "+name, x.Pos)
}

// extension is a member that an extension adds to a value.
func (m *Machine) extension(of Value, name string, f *frame, what wanted) (*code.Func, *Type) {
	if !m.p.methods[name] || of.Static == nil && of.Kind != Unknown {
		return nil, nil
	}
	if of.Static == nil && (of.Out == nil || of.At != nil) {
		return nil, nil
	}
	for _, c := range m.p.extends {
		for _, fn := range c.Funcs {
			if fn.Name != name || fn.Static || !what.fits(fn) {
				continue
			}
			by := bindings{}
			for _, g := range c.Generics {
				by[g] = nil
			}
			on := m.resolve(c.On, m.p.unitOf(c.File), by)
			if len(c.Generics) > 0 {
				m.unify(c.On, of.Static, c.Generics, by, m.p.unitOf(c.File))
				on, _ = m.resolved(c.On, m.p.unitOf(c.File), by, 0)
			}
			if of.Static == nil && on != nil && on.Class != nil || of.Static != nil && !m.subtype(of.Static, on, false) {
				continue
			}
			t := &Type{Name: c.Name, Class: c}
			for _, g := range c.Generics {
				t.Args = append(t.Args, by[g])
			}
			return fn, t
		}
	}
	return nil, nil
}

// setMember gives a property of a value another one; done is false where it has none of the name.
func (m *Machine) setMember(of Value, name string, v Value, f *frame) (done bool, err error) {
	t := of.Static
	o := of.object()
	if o != nil {
		t = o.Type
	}
	if fn, in := m.find(t, name, setter, 0); fn != nil {
		_, err := m.invoke(fn, &of, in, nil, Args{List: []Value{v}}, nil)
		return true, err
	}
	p, in := m.field(t, name, 0)
	if p == nil {
		return false, nil
	}
	if v, err = m.coerce(v, m.resolve(p.Type, m.p.unitOf(p.File), m.own(in)), &frame{unit: m.p.unitOf(p.File)}, false); err != nil {
		return true, err
	}
	if o != nil {
		if err := m.force(o); err != nil {
			return true, err
		}
		m.setField(o, name, v)
	}
	return true, nil
}

// setField gives a property of an instance a value, which it perhaps gets.
func (m *Machine) setField(o *Object, name string, v Value) {
	if o.depth < m.dry {
		return
	}
	if m.forks > o.depth {
		if old := o.Fields[name]; old != nil {
			v = m.merged(m.hangs(), *old, v)
		} else {
			v.From = union(v.From, m.hangs())
		}
	}
	o.Fields[name] = &v
}

// setStatic gives a variable outside of instances a value.
func (m *Machine) setStatic(t *Type, name string, v Value, f *frame, x *code.Expr) error {
	var p *code.Prop
	if t != nil && t.Class != nil {
		p = staticProp(t.Class, name)
	}
	if p == nil {
		p = m.p.variable(name, "", f.unit)
	}
	if p == nil {
		return unfollowed("the name "+name, x.Pos)
	}
	if m.dry == 0 {
		m.globals[p] = &v
	}
	return nil
}
