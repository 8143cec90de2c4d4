package schema

import (
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
