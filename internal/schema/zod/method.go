package zod

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/schema"
	"vetta/internal/types"
)

// method is what a method of a schema makes.
func (b *builder) method(on *Schema, name string, e *code.Expr, s schema.Scope, g *given) *Schema {
	if on.Lost != "" {
		return on
	}
	arg := func() *Schema {
		if len(e.Args) < 2 {
			return schema.Lost("." + name + " without an argument is not followed")
		}
		return b.build(e.Args[1], s, g)
	}
	value := func() (Value, bool) {
		if len(e.Args) < 2 {
			return Value{}, false
		}
		if fn := e.Args[1]; fn.Op == code.Lambda {
			return schema.Call(b.w, s, fn)
		}
		return schema.Eval(b.w, s, e.Args[1])
	}
	switch name {
	case "optional", "exactOptional":
		return optional(on)
	case "nullable":
		return nullable(on)
	case "nullish":
		return optional(nullable(on))
	case "nonoptional":
		return nonoptional(on)
	case "array":
		return array(on)
	case "or":
		return union([]*Schema{on, arg()})
	case "and":
		return intersection(on, arg())
	case "brand", "readonly", "describe", "meta", "register", "clone":
		return on
	case "default", "prefault", "catch":
		v, ok := value()
		if !ok {
			return schema.Lost("what ." + name + " is given is not followed")
		}
		return fallback(on, name, v)
	case "pipe":
		return pipe(on, arg())
	case "transform", "overwrite":
		if len(e.Args) > 1 {
			return b.transform(on, e.Args[1], s)
		}
	case "refine":
		if len(e.Args) > 1 {
			return b.refine(on, e.Args[1], s)
		}
	case "unwrap", "removeDefault", "innerType", "element":
		if on.Of != nil {
			return on.Of
		}
	}
	if made := b.objectMethod(on, name, e, s, g); made != nil {
		return made
	}
	switch {
	case name == "exclude" || name == "extract":
		v, ok := value()
		if !ok {
			break
		}
		var kept []Value
		for _, one := range on.All {
			in := slices.ContainsFunc(v.Elems, func(o Value) bool { return schema.Same(o, one) })
			if in == (name == "extract") {
				kept = append(kept, one)
			}
		}
		return oneOf("enum", kept)
	case name == "rest" && on.Kind == "tuple":
		items := make([]*Schema, len(on.Sub))
		for i := range on.Sub {
			items[i] = &on.Sub[i]
		}
		return tuple(items, arg())
	}
	if made := b.checked(on, name, e, s); made != nil {
		return made
	}
	return schema.Lost("." + name + "() of a schema is not followed")
}

// objectMethod is what a method of an object schema makes, nil for others.
func (b *builder) objectMethod(on *Schema, name string, e *code.Expr, s schema.Scope, g *given) *Schema {
	if on.Kind != "object" {
		return nil
	}
	switch name {
	case "extend", "safeExtend", "augment", "setKey":
		if len(e.Args) < 2 {
			return nil
		}
		more, ok := b.shape(e.Args[1], s, g)
		if !ok {
			return schema.Lost("what ." + name + " is given is not followed")
		}
		return objectOf(schema.Merged(on.Keys, more), on.Rest, on.Mode)
	case "merge":
		if len(e.Args) < 2 {
			return nil
		}
		other := b.build(e.Args[1], s, g)
		if other.Kind != "object" {
			return schema.Lost("what .merge is given is not followed")
		}
		return objectOf(schema.Merged(on.Keys, other.Keys), other.Rest, other.Mode)
	case "strict":
		return objectOf(on.Keys, nil, strict)
	case "strip":
		return objectOf(on.Keys, nil, "")
	case "passthrough", "loose", "nonstrict":
		return objectOf(on.Keys, anything("unknown", types.UnknownType), "")
	case "catchall":
		if len(e.Args) < 2 {
			return nil
		}
		return objectOf(on.Keys, b.build(e.Args[1], s, g), "")
	case "keyof":
		var all []Value
		for _, k := range on.Keys {
			all = append(all, schema.Text(k.Name))
		}
		return oneOf("enum", all)
	case "pick", "omit", "partial", "required", "deepPartial":
		var named []string
		if len(e.Args) > 1 {
			v, ok := schema.Eval(b.w, s, e.Args[1])
			if !ok || v.Kind != schema.Object {
				return schema.Lost("what ." + name + " is given is not followed")
			}
			for i, k := range v.Names {
				if schema.Truthy(v.Elems[i]) {
					named = append(named, k)
				}
			}
		}
		var keys []schema.Key
		for _, k := range on.Keys {
			in := len(e.Args) < 2 || slices.Contains(named, k.Name)
			switch {
			case name == "pick" && !in || name == "omit" && in:
				continue
			case !in || name == "pick" || name == "omit":
			case name == "required":
				k.Of = nonoptional(k.Of)
			case name == "deepPartial":
				return schema.Lost(".deepPartial is not followed")
			default:
				k.Of = optional(k.Of)
			}
			keys = append(keys, k)
		}
		return objectOf(keys, on.Rest, on.Mode)
	}
	return nil
}

func nonoptional(of *Schema) *Schema {
	without := func(t *types.Type) *types.Type {
		return t.Without(func(t *types.Type) bool { return t.Kind == types.Undefined })
	}
	inner := of
	return &Schema{Kind: "nonoptional", Of: of, Keys: of.Keys, All: of.All, In: without(of.In), Out: without(of.Out), Check: func(r *run, v Value, at steps) Value {
		var got Value
		if passes(r, func() { got = inner.Do(r, v, at) }) && got.Kind == schema.Undefined {
			return invalid(r, at, "nonoptional", got)
		}
		return got
	}}
}

// fallback is a schema with a value in place of undefined, or of what it refuses.
func fallback(of *Schema, how string, v Value) *Schema {
	out := of.Out.Without(func(t *types.Type) bool { return t.Kind == types.Undefined })
	f := &Schema{Kind: how, Of: of, Optional: true, In: types.UnionOf(of.In, types.UndefinedType), Out: out, Keys: of.Keys}
	switch how {
	case "default":
		f.Check = func(r *run, sent Value, at steps) Value {
			if sent.Kind == schema.Undefined {
				return v
			}
			if got := of.Do(r, sent, at); got.Kind != schema.Undefined {
				return got
			}
			return v
		}
	case "prefault":
		f.Check = func(r *run, sent Value, at steps) Value {
			if sent.Kind == schema.Undefined {
				sent = v
			}
			return of.Do(r, sent, at)
		}
	default:
		f.In = types.UnknownType
		f.Check = func(r *run, sent Value, at steps) Value {
			inner := inner(r)
			got := of.Do(inner, sent, at)
			r.Unknown = r.Unknown || inner.Unknown
			if len(inner.Issues) > 0 {
				return v
			}
			return got
		}
	}
	return f
}

func pipe(a, b *Schema) *Schema {
	return &Schema{Kind: "pipe", Of: a, Optional: a.Optional, In: a.In, Out: b.Out, Check: func(r *run, v Value, at steps) Value {
		var got Value
		if !passes(r, func() { got = a.Do(r, v, at) }) {
			return got
		}
		return b.Do(r, got, at)
	}}
}

// transform hands what is let through to code of the app.
func (b *builder) transform(on *Schema, fn *code.Expr, s schema.Scope) *Schema {
	return &Schema{Kind: "transform", Of: on, Optional: on.Optional, In: on.In, Out: types.Lost("code of the app makes it"), Check: func(r *run, v Value, at steps) Value {
		var got Value
		if !passes(r, func() { got = on.Do(r, v, at) }) {
			return got
		}
		out, ok := schema.Call(b.w, s, fn, got)
		if !ok {
			return Value{Kind: schema.Other}
		}
		return out
	}}
}

func (b *builder) preprocess(fn *code.Expr, of *Schema, s schema.Scope) *Schema {
	return &Schema{Kind: "preprocess", Of: of, Optional: true, In: types.UnknownType, Out: of.Out, Check: func(r *run, v Value, at steps) Value {
		out, ok := schema.Call(b.w, s, fn, v)
		if !ok {
			r.Unknown = true
			return Value{Kind: schema.Other}
		}
		return of.Do(r, out, at)
	}}
}

// refine asks code of the app whether a value is let through.
func (b *builder) refine(on *Schema, fn *code.Expr, s schema.Scope) *Schema {
	return check(on, func(r *run, v Value, at steps) {
		out, ok := schema.Call(b.w, s, fn, v)
		switch {
		case !ok:
			r.Unknown = true
		case !schema.Truthy(out):
			r.Issue(at, "custom", "Invalid input")
		}
	})
}

// check is a schema with something more that is asked of what it lets through. Several of them are all asked.
func check(of *Schema, more func(r *run, v Value, at steps)) *Schema {
	c := *of
	checks := append(slices.Clone(of.Checks), more)
	base := of.Check
	if len(of.Checks) > 0 {
		base = of.Base
	}
	c.Base, c.Checks = base, checks
	c.Check = func(r *run, v Value, at steps) Value {
		var got Value
		if !passes(r, func() { got = base(r, v, at) }) {
			return got
		}
		for _, ask := range checks {
			ask(r, got, at)
		}
		return got
	}
	return &c
}

// changed is a schema whose texts are made others.
func changed(of *Schema, how func(string) string) *Schema {
	return &Schema{Kind: of.Kind, Of: of, Optional: of.Optional, In: of.In, Out: of.Out, Check: func(r *run, v Value, at steps) Value {
		got := of.Do(r, v, at)
		if got.Kind == schema.String {
			got.Text = how(got.Text)
		}
		return got
	}}
}

func trimmed(s string) string { return strings.Trim(s, " \t\n\r\v\f\u00a0\ufeff\u2028\u2029") }
