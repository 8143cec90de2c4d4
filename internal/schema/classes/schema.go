package classes

import (
	"vetta/internal/model"
	"vetta/internal/schema"
	"vetta/internal/types"
)

// Build makes the schema of a class. options are asked for when they are needed, since they stand where the libraries are
// called.
func Build(w World, c *Class, options func() Options) *schema.Schema {
	return (&maker{w: w, options: options, made: map[*Class]*schema.Schema{}}).class(c)
}

func (m *maker) class(c *Class) *schema.Schema {
	if s := m.made[c]; s != nil {
		return s
	}
	s := &schema.Schema{Kind: "object", In: c.Type, Out: c.Type, Mode: "class", Rest: &schema.Schema{Kind: "unknown", In: types.UnknownType, Out: types.UnknownType}}
	m.made[c] = s
	for _, name := range fields(c) {
		f := declared(c, name)
		if f.Never {
			continue
		}
		key := name
		if args, in, ok := m.find(c, name, "Expose"); ok {
			key = m.exposedAs(name, args, in)
		}
		s.Keys = append(s.Keys, schema.Key{Name: key, Of: m.field(c, f), Field: f.Model})
	}
	s.Check = func(r *run, v Value, at steps) Value {
		m.o = m.options()
		if m.o.Lost != "" {
			r.Unknown = true
			return v
		}
		made := v
		if m.o.Transforms {
			made = m.make(r, v, c, "", 0)
		}
		if m.o.Validates && !r.Unknown {
			m.whole(r, &made, at)
		}
		return made
	}
	return s
}

// whole validates an instance, or each of a list of them.
func (m *maker) whole(r *run, v *Value, at steps) {
	if v.Kind != schema.Object {
		r.Issue(at, "unknownValue", "an unknown value was passed to the validate function")
		return
	}
	m.validate(r, v, at)
}

// field is what one field is held to, by itself.
func (m *maker) field(c *Class, f *Field) *schema.Schema {
	all := m.checksOf(c, f.Name)
	s := &schema.Schema{Kind: "field", In: f.Type, Out: f.Type, Optional: true}
	sent := Value{Kind: schema.Object}
	if of, _ := m.typeOf(&run{}, c, f.Name, &sent); of != nil && !of.told {
		for _, ask := range all {
			if ask.name == "ValidateNested" {
				s.Of = m.class(of)
			}
			if ask.name == "IsArray" {
				s.Mode = "list"
			}
		}
	}
	s.Check = func(r *run, v Value, at steps) Value {
		m.o = m.options()
		if m.o.Lost != "" {
			r.Unknown = true
			return v
		}
		sent := v
		of, scalar := m.typeOf(r, c, f.Name, &sent)
		made := v
		if m.o.Transforms {
			made = m.make(r, sent, of, scalar, 0)
		}
		if made.Kind == schema.Undefined && f.Value != nil { // what the initialiser gives it
			return made
		}
		if m.o.Validates && len(all) > 0 && !r.Unknown {
			m.property(r, &made, f.Name, all, at)
		}
		return made
	}
	return s
}

// Fields are the models of the fields that a class and those above declare.
func Fields(c *Class) (out []*model.Field) {
	for _, name := range fields(c) {
		out = append(out, declared(c, name).Model)
	}
	return out
}
