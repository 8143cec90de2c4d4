package typescript

import (
	"vetta/internal/types"
)

// mapped is the type that a mapped type makes: for each of some names a member. Of the names of another type each member
// is optional where that one's is (TypeScript handbook, Mapped Types).
func (v *evaluator) mapped(n *node, s *scope, e *env) *types.Type {
	m := n.mapped
	var source *types.Type
	if m.keys.op == nKeyof {
		source = v.of(m.keys.args[0], s, e)
		if m.keys.args[0].op == nRef && e.find(m.keys.args[0].name) != nil && m.as == nil {
			param := m.keys.args[0].name
			switch source.Kind {
			case types.Union:
				return each(source, func(t *types.Type) *types.Type { return v.mapped(n, s, e.with(param, t)) })
			case types.Array:
				elem := v.of(m.value, s, e.with(m.name, types.NumberType).with(param, source))
				return types.ListOf(elem, bracketed(elem)+"[]")
			case types.Tuple:
				out := &types.Type{Kind: types.Tuple, Rest: source.Rest, Written: v.written(n, s)}
				for i := range source.Elems {
					optional := source.Optional[i]
					switch m.optional {
					case '+':
						optional = true
					case '-':
						optional = false
					}
					out.Elems = append(out.Elems, v.of(m.value, s, e.with(m.name, types.NumberOf(float64(i)))))
					out.Optional = append(out.Optional, optional)
				}
				return out
			case types.Object:
			case types.Unresolved, types.Any:
				return source
			default:
				return source // a primitive is as it was
			}
		}
		if source.Kind == types.Unresolved {
			return source
		}
	}
	return types.Lazy(v.written(n, s), func() *types.Members {
		out := &types.Members{}
		keys := v.keysOf(m, source, s, e)
		for _, k := range keys.Each(false) {
			inner := e.with(m.name, k)
			name := k
			if m.as != nil {
				name = v.of(m.as, s, inner)
			}
			for _, as := range name.Each(false) {
				v.mapKey(out, m, k, as, source, s, inner)
			}
		}
		return out
	})
}

// keysOf are the names that a mapped type goes over.
func (v *evaluator) keysOf(m *mapped, source *types.Type, s *scope, e *env) *types.Type {
	if source == nil {
		return v.of(m.keys, s, e)
	}
	return types.Keys(source)
}

// mapKey adds the member that a mapped type makes of one name.
func (v *evaluator) mapKey(out *types.Members, m *mapped, key, as, source *types.Type, s *scope, e *env) {
	var from *types.Prop
	if source != nil && source.Kind == types.Object {
		from = source.Members().Prop(key.Text)
	}
	optional := from != nil && from.Optional
	switch m.optional {
	case '+':
		optional = true
	case '-':
		optional = false
	}
	value := func() *types.Type {
		t := v.of(m.value, s, e)
		if m.optional == '-' && from != nil && from.Optional {
			t = t.Without(func(t *types.Type) bool { return t.Kind == types.Undefined })
		}
		return t
	}
	switch as.Kind {
	case types.StringLiteral, types.NumberLiteral:
		p := types.NewProp(as.Text, optional, types.Plain, nil, value)
		if from != nil {
			p.How, p.Field = from.How, from.Field
			if p.Name != from.Name {
				p.Field = nil
			}
		}
		out.Props = append(out.Props, p)
	case types.Unresolved:
		out.Lost = as.Text
	case types.Parameter:
		out.Lost = "what " + as.Text + " stands for is not told"
	case types.Symbol, types.Never:
	default:
		k := as
		if k.Kind == types.Any {
			k = types.StringType
		}
		out.Index = append(out.Index, types.Index{Key: k, Value: value()})
	}
}
