package eval

import (
	"slices"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/model"
)

// object is an instance with functions of the app's own: of a class without a name, or of one that a library calls.
type object struct {
	class  string   // "" for one without a name
	supers []string // what it extends or implements, without packages
	// routine is a function of it, nil for none of the name.
	routine func(name string) *code.Routine
	fields  *env // its properties, over the names around where it was made
}

// Invoke calls a function of an object with functions of the app's own; known is false for any other value, and for
// one that has none of the name. What the object keeps must not be changed by it: it may be asked from several
// goroutines.
func (v Value) Invoke(lib Library, name string, args ...Value) (out Value, known bool, err error) {
	if v.obj == nil {
		if v.fn != nil { // of an interface with one function
			m := &machine{lib: lib, left: limit}
			out, err = m.call(v.fn, nil, args...)
			return out, true, err
		}
		return Value{}, false, nil
	}
	return (&machine{lib: lib, left: limit}).invoke(v, name, args)
}

// Kept is a value that others are made of later: what code has named so far may be read from now on, and not changed.
func (v Value) Kept() Value {
	var around *env
	switch {
	case v.obj != nil:
		around = v.obj.fields
	case v.fn != nil:
		around = v.fn.env
	}
	for ; around != nil && !around.kept; around = around.outer {
		around.kept = true
		for _, held := range around.names {
			held.Kept()
		}
	}
	return v
}

func (m *machine) invoke(of Value, name string, args []Value) (Value, bool, error) {
	r := of.obj.routine(name)
	if r == nil || len(r.Params) != len(args) {
		return Value{}, false, nil
	}
	v, err := m.runOn(&of, of.obj.fields, r, args)
	return v, true, err
}

// field is a property of an object.
func (m *machine) field(of Value, name string) (Value, bool, error) {
	v := of.obj.fields.names[name]
	if v == nil {
		return Value{}, false, nil
	}
	return read(*v, of.obj.fields.kept), true, nil
}

// read is a value as a name of it is read: a list that was kept is a list of its own.
func read(v Value, kept bool) Value {
	if kept && v.Items != nil {
		items := slices.Clone(*v.Items)
		v.Items = &items
	}
	return v
}

// without is an instance of a class without a name, by the functions and properties in its body.
func (m *machine) without(supers []*model.Type, body []code.Stmt, in *frame, e *env) (Value, error) {
	funcs := map[string]*code.Routine{}
	o := &object{fields: inside(e)}
	for _, t := range supers {
		if t != nil {
			o.supers = append(o.supers, model.SimpleName(t.Name))
		}
	}
	v := Value{obj: o}
	for i := range body {
		s := &body[i]
		switch {
		case s.Op == code.Let && s.Value != nil:
			held, err := m.expr(s.Value, &frame{f: in.f, this: &v}, o.fields)
			if err != nil {
				return held, err
			}
			o.fields.names[s.Name] = &held
		case s.Op == code.Do && s.Value != nil && s.Value.Op == code.Lambda && s.Value.Fn != nil:
			fn := s.Value.Fn
			r := &code.Routine{Name: fn.Name, Language: in.f.Language, Scope: in.f.Scope, Pos: fn.Pos, Body: s.Value.Body}
			for _, p := range fn.Params {
				r.Params = append(r.Params, p.Name)
			}
			if s.Value.Does == 0 {
				funcs[fn.Name] = r
			}
		}
	}
	o.routine = func(name string) *code.Routine { return funcs[name] }
	return v, nil
}

// supersOf are the classes and interfaces that a class is declared to be of, without packages.
func supersOf(m *model.Model) (names []string) {
	for _, super := range m.Conforms {
		names = append(names, model.SimpleName(super))
	}
	if m.Super != nil {
		names = append(names, model.SimpleName(m.Super.Name))
	}
	return names
}

// behaving is an instance of a class of the app's that a library calls, not one of data; known is false for that.
func (m *machine) behaving(name string, of *model.Model, x *code.Expr, in *frame, e *env) (Value, bool, error) {
	scope := in.f.Scope
	calls, ok := m.lib.(Caller)
	if scope == nil || of == nil || !ok {
		return Value{}, false, nil
	}
	o := &object{class: model.SimpleName(of.Name), supers: supersOf(of), fields: inside(nil)}
	if !slices.ContainsFunc(o.supers, calls.Calls) {
		return Value{}, false, nil
	}
	o.routine = func(method string) *code.Routine { return scope.Routine(name + "." + method) }
	args, err := m.arguments(x, in, e)
	if err != nil {
		return Value{}, true, err
	}
	var ctor *model.Method
	for _, k := range of.Ctors {
		if !k.Defaults && len(k.Params) == len(args) {
			ctor = k
			break
		}
	}
	if ctor == nil {
		if len(args) > 0 {
			return Value{}, true, unfollowed("how a "+of.Name+" is made", x.Pos)
		}
		return Value{obj: o}, true, nil
	}
	for i, p := range ctor.Params {
		at, field := i, p.Name
		if i < len(x.Labels) && slices.Contains(x.Labels, p.Name) {
			at = slices.Index(x.Labels, p.Name)
		}
		if of.Language != "kotlin" {
			if i >= len(ctor.Fills) || ctor.Fills[i] == "" {
				return Value{}, true, unfollowed("what the constructor of "+of.Name+" does with "+p.Name, x.Pos)
			}
			field = ctor.Fills[i]
		}
		o.fields.names[field] = &args[at]
	}
	return Value{obj: o}, true, nil
}

// anonymous are the supertypes and the body of an instance of a class without a name; nil for another expression.
func anonymous(x *code.Expr) (supers []*model.Type, body []code.Stmt) {
	switch x.Op {
	case code.As: // Kotlin: object : T { … }
		if inner := x.Args[0]; inner != nil {
			if _, body = anonymous(inner); body != nil {
				return []*model.Type{x.Type}, body
			}
		}
	case code.Other:
		if len(x.Args) == 1 && x.Args[0] != nil && x.Args[0].Op == code.Lambda && hasFunctions(x.Args[0].Body) {
			return nil, x.Args[0].Body
		}
	case code.Call: // Java: new T() { … }
		if _, name := hand.Method(x); x.Type == nil || name == "" || len(x.Args) < 2 {
			break
		}
		if body := x.Args[len(x.Args)-1]; body != nil && body.Op == code.Lambda && hasFunctions(body.Body) {
			return []*model.Type{x.Type}, body.Body
		}
	}
	return nil, nil
}

func hasFunctions(body []code.Stmt) bool {
	return slices.ContainsFunc(body, func(s code.Stmt) bool {
		return s.Op == code.Do && s.Value != nil && s.Value.Op == code.Lambda && s.Value.Fn != nil
	})
}

// is says whether an object is an instance of a class, by what stands at its own; known is false where that is not told.
func (o *object) is(class string) (is, known bool) {
	if class == o.class || slices.Contains(o.supers, class) || class == "Any" || class == "Object" {
		return true, true
	}
	return false, false
}
