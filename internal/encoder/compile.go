package encoder

import (
	"fmt"

	"vetta/internal/model"
)

// Rules say what a library writes.
type Rules struct {
	// Named is what is written for a type that the source does not declare, nil for one that is not known.
	Named func(t *model.Type) *Value
	// Model is what is written for a model that is no plain object: an enum, or one that is not followed; nil
	// for one whose members are written.
	Model func(m *model.Model) *Value
	// Members are the fields that are written of a model, in order.
	Members func(m *model.Model) []Field
	// Omits says that a member without a value is left out, rather than written as null.
	Omits bool
}

// Field is a field that is written under a key.
type Field struct {
	*model.Field
	Key string
	// Why says why it is not followed what is written of it, "" where it is.
	Why string
	// Omits and Keeps say that this one is left out, or written as null, where it has no value, whatever holds
	// for others; Absent that it may be left out for another reason.
	Omits, Keeps, Absent bool
	// Nullable says that it may have no value though its type does not say so.
	Nullable bool
}

// Compile makes what is written of a type. A type is made once, so that one that holds itself becomes a circle.
func (r *Rules) Compile(t *model.Type) *Value {
	c := &compiler{Rules: r, made: map[string]*Value{}}
	v := c.value(t, nil, 0)
	for _, copied := range c.copies { // of a class that holds itself, made before its members were known
		copied[0].Members, copied[0].Elem = copied[1].Members, copied[1].Elem
	}
	return v
}

type compiler struct {
	*Rules
	made   map[string]*Value
	copies [][2]*Value // of values that are written with null or without, each with what it was made of
	growth model.Growth
}

// deepest is how many types may be in each other.
const deepest = 200

func (c *compiler) value(t *model.Type, env map[string]*model.Type, depth int) *Value {
	t = t.Bind(env)
	if t == nil || depth > deepest {
		return Unknown("its type is not known")
	}
	switch t.Kind {
	case model.Optional:
		return c.orNull(c.value(t.Args[0], nil, depth+1))
	case model.List, model.Unique:
		return &Value{Kinds: Array, Elem: c.value(t.Args[0], nil, depth+1)}
	case model.Map:
		return &Value{Kinds: Object, Open: true, Elem: c.value(t.Args[1], nil, depth+1)}
	case model.Named:
		if t.Model != nil {
			return c.ofModel(t, depth)
		}
		if v := c.Named(t); v != nil {
			return v
		}
	}
	return Unknown(fmt.Sprintf("what is written for %s is not followed", t.Written()))
}

// with is a value that is of some kinds.
func (c *compiler) with(v *Value, kinds Kinds) *Value {
	r := *v
	r.Kinds = kinds
	c.copies = append(c.copies, [2]*Value{&r, v})
	return &r
}

// orNull is a value that may be nothing.
func (c *compiler) orNull(v *Value) *Value { return c.with(v, v.Kinds|Null) }

func (c *compiler) ofModel(t *model.Type, depth int) *Value {
	key := t.Key()
	if v := c.made[key]; v != nil {
		return v
	}
	if c.growth.Endless(t) {
		return Unknown(t.Model.Name + " holds itself without an end")
	}
	if v := c.Model(t.Model); v != nil {
		c.made[key] = v
		return v
	}
	v := &Value{Kinds: Object, Model: t.Model}
	c.made[key] = v
	env := t.Env()
	for _, f := range c.Members(t.Model) {
		m := &Member{Key: f.Key, Field: f.Field, Optional: f.Absent}
		if f.Why != "" {
			m.Value, m.Optional = Unknown(f.Why), true
		} else {
			if m.Value = c.value(f.Type, env, depth+1); f.Nullable {
				m.Value = c.orNull(m.Value)
			}
			if m.Value.Kinds&Null != 0 && (c.Omits && !f.Keeps || f.Omits) && m.Value.Why == "" {
				m.Value, m.Optional = c.with(m.Value, m.Value.Kinds&^Null), true
			}
		}
		v.Members = append(v.Members, m)
	}
	return v
}

// Inherited are the fields of a model behind those of the classes that it extends.
func Inherited(m *model.Model) (all []*model.Field) {
	var of func(m *model.Model, depth int)
	of = func(m *model.Model, depth int) {
		if m.Super != nil && m.Super.Model != nil && depth < 16 {
			of(m.Super.Model, depth+1)
		}
		all = append(all, m.Fields...)
	}
	of(m, 0)
	return all
}
