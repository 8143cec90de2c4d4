package valibot

import (
	"slices"
	"strings"

	"vetta/internal/schema"
	"vetta/internal/types"
	"vetta/internal/wire"
)

func options(all []Value) string {
	names := make([]string, len(all))
	for i, v := range all {
		names[i] = received(v)
	}
	return either(names)
}

func either(names []string) string {
	if len(names) == 1 {
		return names[0]
	}
	return "(" + strings.Join(names, " | ") + ")"
}

func oneOf(kind string, all []Value) *Schema {
	t, ok := schema.LiteralsOf(all)
	if !ok {
		return schema.Lost("what a literal is held to is not followed")
	}
	return &Schema{Kind: kind, All: all, In: t, Out: t, Check: func(r *run, v Value, at steps) Value {
		if slices.ContainsFunc(all, func(o Value) bool { return schema.Same(o, v) }) {
			return v
		}
		return wrong(r, at, kind, options(all), v)
	}}
}

// typed says whether the issues of a value are of checks alone, so that it is of the type all the same.
func typed(issues []schema.Issue) bool {
	return !slices.ContainsFunc(issues, func(i schema.Issue) bool {
		return strings.HasPrefix(i.Message, "Invalid type") || strings.HasPrefix(i.Message, "Invalid key")
	})
}

func union(all []*Schema) *Schema {
	u := &Schema{Kind: "union"}
	var in, out []*types.Type
	var names []string
	for _, s := range all {
		in, out, names = append(in, s.In), append(out, s.Out), append(names, expects(s))
		u.Optional = u.Optional || s.Optional
		u.Sub = append(u.Sub, *s)
	}
	u.In, u.Out = types.UnionOf(in...), types.UnionOf(out...)
	u.Check = func(r *run, v Value, at steps) Value {
		var near *run
		for _, s := range all {
			inner := &run{}
			got := s.Do(inner, v, at)
			switch {
			case inner.Unknown:
				r.Unknown = true
				return Value{Kind: schema.Other}
			case len(inner.Issues) == 0:
				return got
			case typed(inner.Issues) && near == nil:
				near = inner
			}
		}
		if near != nil {
			r.Issues = append(r.Issues, near.Issues...)
			return v
		}
		return wrong(r, at, "union", either(slices.Compact(slices.Clone(names))), v)
	}
	return u
}

func variant(key string, all []*Schema) *Schema {
	u := union(all)
	u.Teller = key
	u.Check = func(r *run, v Value, at steps) Value {
		if v.Kind != schema.Object && v.Kind != schema.Array {
			return wrong(r, at, "variant", "Object", v)
		}
		tells, _ := v.Get(key)
		var names []string
		for _, s := range all {
			for _, k := range s.Keys {
				if k.Name != key {
					continue
				}
				for _, one := range k.Of.All {
					if schema.Same(one, tells) {
						return s.Do(r, v, at)
					}
					names = append(names, received(one))
				}
			}
		}
		return wrong(r, append(at, wire.MemberOf(key)), "variant", either(names), tells)
	}
	return u
}

func intersect(all []*Schema) *Schema {
	i := &Schema{Kind: "intersection", In: types.UnknownType, Out: types.UnknownType}
	for _, s := range all {
		i.In, i.Out = types.Intersect(i.In, s.In), types.Intersect(i.Out, s.Out)
	}
	i.Check = func(r *run, v Value, at steps) Value {
		made := Value{Kind: schema.Object}
		for _, s := range all {
			got := s.Do(r, v, at)
			if got.Kind != schema.Object {
				made = got
				continue
			}
			for k, name := range got.Names {
				made.Set(name, got.Elems[k])
			}
		}
		return made
	}
	return i
}
