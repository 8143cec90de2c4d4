package run

import (
	"vetta/internal/code"
	"vetta/internal/model"
)

// Survey is what a function makes of a part of a document of which nothing is known.
type Survey struct {
	Fn     *code.Func
	Of     *Type
	Root   *Place // the part
	Value  Value
	Lost   string // why it is not known, "" where it is
	Object *Object
}

// SurveyOf runs a reader on a part of a document of which nothing is known. Readers of other classes are not run: what
// they are given is noted.
func (m *Machine) SurveyOf(fn *code.Func, t *Type) *Survey {
	m.reset()
	m.shallow, m.left = true, 200000
	s := &Survey{Fn: fn, Of: t, Root: &Place{}}
	v, ok, err := m.madeBy(fn, t, Value{Kind: Unknown, At: s.Root})
	switch {
	case err != nil:
		s.Lost = err.Error()
	case !ok:
		s.Lost = "no reader"
	}
	s.Value = v
	if o := v.object(); o != nil {
		if err := m.force(o); err != nil && s.Lost == "" {
			s.Lost = err.Error()
		}
		s.Object = o
	}
	return s
}

// Field is a property of an instance, with the places that its value depends on.
type Field struct {
	Prop *code.Prop
	In   *Type // the class that declares it
	Type *Type // nil for dynamic
	V    Value
	From []*Place
}

// FieldsOf are the properties of an instance in the order of declaration, those of what its class extends first.
func (m *Machine) FieldsOf(o *Object) (out []Field) {
	m.fields(o.Type, 0, func(p *code.Prop, in *Type) {
		f := Field{Prop: p, In: in, Type: m.resolve(p.Type, m.p.unitOf(p.File), m.own(in))}
		if v := o.Fields[p.Name]; v != nil {
			f.V, f.From = *v, v.places()
		}
		for i := range out {
			if out[i].Prop.Name == p.Name {
				out[i] = f
				return
			}
		}
		out = append(out, f)
	})
	return out
}

// Object is the instance that a value is, nil for none.
func (v Value) Object() *Object { return v.object() }

// List is the list that a value is, nil for none.
func (v Value) List() *List { return v.list() }

// Map is the map that a value is, nil for none.
func (v Value) Map() *Map { return v.dict() }

// TypeOf is a class with arguments as a type.
func TypeOf(c *code.Class, args ...*Type) *Type {
	t := &Type{Name: c.Name, Class: c, Args: args}
	for len(t.Args) < len(c.Generics) {
		t.Args = append(t.Args, nil)
	}
	return t
}

// NewType is a type of the platform.
func NewType(name string, args ...*Type) *Type { return &Type{Name: name, Args: args} }

// Nullable is the type that takes null too.
func (t *Type) Nullable() *Type { return t.nullable() }

// Resolve is what a type that is written in a class means there.
func (m *Machine) Resolve(t *model.Type, in *Type) *Type {
	if in == nil || in.Class == nil {
		return m.resolve(t, nil, nil)
	}
	return m.resolve(t, m.p.unitOf(in.Class.File), m.own(in))
}
