package schema

import (
	"slices"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/types"
)

// TypeOf is the object type of some keys, of what is sent or of what the app gets; rest is the type of other keys, nil
// where they are left out.
func TypeOf(keys []Key, fields []*model.Field, rest *types.Type, out bool) *types.Type {
	return types.Lazy("an object", func() *types.Members {
		m := &types.Members{}
		for i, k := range keys {
			of := k.Of.In
			if out {
				of = k.Of.Out
			}
			var f *model.Field
			if fields != nil {
				f = fields[i]
			}
			m.Props = append(m.Props, types.NewProp(k.Name, k.Of.Optional, types.Plain, f, func() *types.Type {
				return of.Without(func(t *types.Type) bool { return t.Kind == types.Undefined })
			}))
		}
		if rest != nil {
			m.Index = append(m.Index, types.Index{Key: types.StringType, Value: rest})
		}
		return m
	})
}

// Merged are keys with others over them.
func Merged(keys, over []Key) []Key {
	out := append([]Key(nil), keys...)
	for _, k := range over {
		if i := slices.IndexFunc(out, func(o Key) bool { return o.Name == k.Name }); i >= 0 {
			out[i] = k
		} else {
			out = append(out, k)
		}
	}
	return out
}

// Has says whether there is a key of a name.
func Has(keys []Key, name string) bool {
	return slices.ContainsFunc(keys, func(k Key) bool { return k.Name == name })
}

// Among says whether a name is the text of one of some values.
func Among(all []Value, name string) bool {
	return slices.ContainsFunc(all, func(v Value) bool { return TextOf(v) == name })
}

// Fields are those of the models that keys belong to.
func Fields(keys []Key) (all []*model.Field) {
	for _, k := range keys {
		all = append(all, k.Field)
	}
	return all
}

// NewKey is a key that an expression in braces declares.
func NewKey(name string, at *code.Expr, of *Schema) Key {
	return Key{Name: name, Of: of, Field: &model.Field{Name: name, Keys: []string{name}, Pos: at.Pos, Reading: model.ByLibrary, Access: model.Public}}
}

// RecordOf is the type of objects whose keys are some values, or any text where there are none.
func RecordOf(keys []Value, of *types.Type, optional bool) *types.Type {
	key := "string"
	if keys != nil {
		if t, ok := LiteralsOf(keys); ok {
			key = t.String()
		}
	}
	return types.Lazy("Record<"+key+", "+of.String()+">", func() *types.Members {
		m := &types.Members{}
		for _, v := range keys {
			m.Props = append(m.Props, types.NewProp(TextOf(v), optional, types.Plain, nil, func() *types.Type { return of }))
		}
		if keys == nil {
			m.Index = append(m.Index, types.Index{Key: types.StringType, Value: of})
		}
		return m
	})
}

// LiteralsOf is the type of some values; ok is false where one of them is none that a type can name.
func LiteralsOf(all []Value) (t *types.Type, ok bool) {
	var of []*types.Type
	for _, v := range all {
		switch v.Kind {
		case String:
			of = append(of, types.Literal(v.Text))
		case Number:
			of = append(of, types.NumberOf(v.Number))
		case Bool:
			one := types.FalseType
			if v.Bool {
				one = types.TrueType
			}
			of = append(of, one)
		case Null:
			of = append(of, types.NullType)
		case Undefined:
			of = append(of, types.UndefinedType)
		default:
			return nil, false
		}
	}
	return types.UnionOf(of...), true
}
