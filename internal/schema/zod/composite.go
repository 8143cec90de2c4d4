package zod

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/schema"
	"vetta/internal/types"
	"vetta/internal/wire"
)

// Schemas that others are made of: lists, objects, records, unions.

func array(of *Schema) *Schema {
	return schema.ListOf(of, func(r *run, v Value, at steps) Value { return invalid(r, at, "array", v) })
}

func (b *builder) list(e *code.Expr, s schema.Scope, g *given) (all []*Schema, ok bool) {
	if e.Op == code.As {
		e = e.Args[0]
	}
	if e.Op != code.List {
		return nil, false
	}
	for _, a := range e.Args {
		all = append(all, b.build(a, s, g))
	}
	return all, true
}

func (b *builder) tuple(e *code.Expr, s schema.Scope, g *given) *Schema {
	if len(e.Args) < 2 {
		return schema.Lost("a tuple without its items is not followed")
	}
	items, ok := b.list(e.Args[1], s, g)
	if !ok {
		return schema.Lost("the items of a tuple are not followed")
	}
	var rest *Schema
	if len(e.Args) > 2 {
		rest = b.build(e.Args[2], s, g)
	}
	return tuple(items, rest)
}

func tuple(items []*Schema, rest *Schema) *Schema {
	in, out := &types.Type{Kind: types.Tuple, Rest: -1}, &types.Type{Kind: types.Tuple, Rest: -1}
	for _, it := range items {
		in.Elems, in.Optional = append(in.Elems, it.In), append(in.Optional, it.Optional)
		out.Elems, out.Optional = append(out.Elems, it.Out), append(out.Optional, it.Optional)
	}
	if rest != nil {
		in.Rest, out.Rest = len(items), len(items)
		in.Elems, in.Optional = append(in.Elems, rest.In), append(in.Optional, false)
		out.Elems, out.Optional = append(out.Elems, rest.Out), append(out.Optional, false)
	}
	in.Written, out.Written = "a tuple", "a tuple"
	least := len(items)
	for least > 0 && items[least-1].Optional {
		least--
	}
	t := &Schema{Kind: "tuple", In: in, Out: out, Of: rest}
	for _, it := range items {
		t.Sub = append(t.Sub, *it)
	}
	t.Check = func(r *run, v Value, at steps) Value {
		if v.Kind != schema.Array {
			return invalid(r, at, "tuple", v)
		}
		if r.Major == three {
			if !lengthThree(r, at, len(v.Elems), len(items), rest != nil) {
				return v
			}
		} else if rest == nil {
			switch {
			case len(v.Elems) > len(items):
				r.Issue(at, "too_big", fmt.Sprintf("Too big: expected array to have <=%d items", len(items)))
				return v
			case len(v.Elems) < least:
				r.Issue(at, "too_small", fmt.Sprintf("Too small: expected array to have >=%d items", least))
				return v
			}
		}
		made := Value{Kind: schema.Array, Elems: []Value{}}
		for i, it := range items {
			elem := Value{}
			if i < len(v.Elems) {
				elem = v.Elems[i]
			} else if i >= least {
				continue
			}
			made.Elems = append(made.Elems, it.Do(r, elem, append(at, wire.Step{Index: i})))
		}
		for i := len(items); i < len(v.Elems) && rest != nil; i++ {
			made.Elems = append(made.Elems, rest.Do(r, v.Elems[i], append(at, wire.Step{Index: i})))
		}
		return made
	}
	return t
}

// strict is what an object schema does with keys that it does not have, where they are refused.
const strict = "strict"

func (b *builder) object(e *code.Expr, s schema.Scope, g *given) *Schema {
	if len(e.Args) < 2 {
		return objectOf(nil, nil, "")
	}
	keys, ok := b.shape(e.Args[1], s, g)
	if !ok {
		return schema.Lost("the keys of an object schema are not followed")
	}
	return objectOf(keys, nil, "")
}

// shape are the keys in braces, with those that are spread into them.
func (b *builder) shape(e *code.Expr, s schema.Scope, g *given) (keys []schema.Key, ok bool) {
	if e.Op == code.Name {
		if of, in, found := b.w.Find(s, e.Text); found {
			return b.shape(of, in, nil)
		}
	}
	if e.Op == code.Member && e.Text == "shape" {
		on := b.build(e.Args[0], s, g)
		return on.Keys, on.Keys != nil
	}
	if e.Op == code.As {
		return b.shape(e.Args[0], s, g)
	}
	if e.Op != code.Dict {
		return nil, false
	}
	for i := 0; i+1 < len(e.Args); i += 2 {
		if e.Args[i+1].Op == code.Spread {
			more, ok := b.shape(e.Args[i+1].Args[0], s, g)
			if !ok {
				return nil, false
			}
			keys = schema.Merged(keys, more)
			continue
		}
		name, ok := schema.Eval(b.w, s, e.Args[i])
		if !ok {
			return nil, false
		}
		of := b.build(e.Args[i+1], s, g)
		keys = schema.Merged(keys, []schema.Key{schema.NewKey(schema.TextOf(name), e.Args[i], of)})
	}
	return keys, true
}

func objectOf(keys []schema.Key, rest *Schema, mode string) *Schema {
	fields := schema.Fields(keys)
	var in, out *types.Type
	if rest != nil {
		in, out = rest.In, rest.Out
	}
	o := &Schema{Kind: "object", Keys: keys, Rest: rest, Mode: mode}
	o.In, o.Out = schema.TypeOf(keys, fields, in, false), schema.TypeOf(keys, fields, out, true)
	o.Check = func(r *run, v Value, at steps) Value {
		if v.Kind != schema.Object {
			return invalid(r, at, "object", v)
		}
		made := Value{Kind: schema.Object}
		for _, k := range keys {
			value, has := v.Get(k.Name)
			here := append(at, wire.MemberOf(k.Name))
			var got Value
			fine := passes(r, func() { got = k.Of.Do(r, value, here) })
			if !has && fine && !k.Of.Optional && r.Major != three {
				r.Issue(here, "invalid_type", "Invalid input: expected nonoptional, received undefined")
			}
			if got.Kind != schema.Undefined || has {
				made.Set(k.Name, got)
			}
		}
		var unknown []string
		for i, name := range v.Names {
			if schema.Has(keys, name) || name == "__proto__" {
				continue
			}
			switch {
			case rest != nil:
				made.Set(name, rest.Do(r, v.Elems[i], append(at, wire.MemberOf(name))))
			case mode == strict:
				unknown = append(unknown, strconv.Quote(name))
			}
		}
		unrecognized(r, at, unknown)
		return made
	}
	return o
}

func unrecognized(r *run, at steps, unknown []string) {
	switch {
	case len(unknown) == 0:
	case r.Major == three:
		r.Issue(at, "unrecognized_keys", "Unrecognized key(s) in object: '"+strings.Join(bare(unknown), "', '")+"'")
	case len(unknown) == 1:
		r.Issue(at, "unrecognized_keys", "Unrecognized key: "+unknown[0])
	default:
		r.Issue(at, "unrecognized_keys", "Unrecognized keys: "+strings.Join(unknown, ", "))
	}
}

func record(key, value *Schema, partial bool) *Schema {
	rec := &Schema{Kind: "record", Of: value}
	rec.In, rec.Out = schema.RecordOf(key.All, value.In, partial || value.Optional), schema.RecordOf(key.All, value.Out, partial || value.Optional)
	rec.Check = func(r *run, v Value, at steps) Value {
		if v.Kind != schema.Object {
			return invalid(r, at, "record", v)
		}
		made := Value{Kind: schema.Object}
		if r.Major == three {
			for i, name := range v.Names {
				if name == "__proto__" {
					continue
				}
				here := append(at, wire.MemberOf(name))
				as := key.Do(r, schema.Text(name), here)
				made.Set(schema.TextOf(as), value.Do(r, v.Elems[i], here))
			}
			return made
		}
		if key.All != nil {
			var unknown []string
			for _, k := range key.All {
				name := schema.TextOf(k)
				of, has := v.Get(name)
				if !has && partial {
					continue
				}
				if got := value.Do(r, of, append(at, wire.MemberOf(name))); has || got.Kind != schema.Undefined {
					made.Set(name, got)
				}
			}
			for _, name := range v.Names {
				if !schema.Among(key.All, name) {
					unknown = append(unknown, strconv.Quote(name))
				}
			}
			if !partial {
				unrecognized(r, at, unknown)
			} else {
				for _, name := range unknown {
					name, _ = strconv.Unquote(name)
					r.Issue(append(at, wire.MemberOf(name)), "invalid_key", "Invalid key in record")
				}
			}
			return made
		}
		for i, name := range v.Names {
			if name == "__proto__" {
				continue
			}
			inner := inner(r)
			as := key.Do(inner, schema.Text(name), nil)
			here := append(at, wire.MemberOf(name))
			if len(inner.Issues) > 0 {
				n := schema.NumberOf(schema.Text(name))
				if again := (&run{}); key.Kind == "number" && !math.IsNaN(n) {
					key.Do(again, schema.Num(n), nil)
					if len(again.Issues) == 0 {
						made.Set(name, value.Do(r, v.Elems[i], here))
						continue
					}
				}
				r.Issue(here, "invalid_key", "Invalid key in record")
				continue
			}
			made.Set(schema.TextOf(as), value.Do(r, v.Elems[i], here))
		}
		return made
	}
	return rec
}

func (b *builder) union(e *code.Expr, s schema.Scope, g *given) *Schema {
	if len(e.Args) < 2 {
		return schema.Lost("a union without its options is not followed")
	}
	all, ok := b.list(e.Args[1], s, g)
	if !ok {
		return schema.Lost("the options of a union are not followed")
	}
	return union(all)
}

func union(all []*Schema) *Schema {
	u := &Schema{Kind: "union"}
	var in, out []*types.Type
	for _, s := range all {
		in, out = append(in, s.In), append(out, s.Out)
		u.Optional = u.Optional || s.Optional
		u.Sub = append(u.Sub, *s)
	}
	u.In, u.Out = types.UnionOf(in...), types.UnionOf(out...)
	u.Check = func(r *run, v Value, at steps) Value {
		var nearly []schema.Issue // of the first option that only checks refuse
		for _, s := range all {
			inner := inner(r)
			got := s.Do(inner, v, at)
			if inner.Unknown {
				r.Unknown = true
				return Value{Kind: schema.Other}
			}
			if len(inner.Issues) == 0 {
				return got
			}
			if nearly == nil && r.Major == three && isDirty(inner.Issues) {
				nearly = inner.Issues
			}
		}
		if nearly != nil {
			r.Issues = append(r.Issues, nearly...)
			return v
		}
		r.Issue(at, "invalid_union", "Invalid input")
		return v
	}
	return u
}

// discriminated is a union whose options a key tells apart.
func (b *builder) discriminated(e *code.Expr, s schema.Scope, g *given) *Schema {
	if len(e.Args) < 3 {
		return schema.Lost("a union without its options is not followed")
	}
	name, ok := schema.Eval(b.w, s, e.Args[1])
	all, fine := b.list(e.Args[2], s, g)
	if !ok || !fine {
		return schema.Lost("the options of a union are not followed")
	}
	u := union(all)
	u.Teller = name.Text
	u.Check = func(r *run, v Value, at steps) Value {
		if v.Kind != schema.Object {
			return invalid(r, at, "object", v)
		}
		tells, _ := v.Get(name.Text)
		var options []string
		for _, s := range all {
			for _, k := range s.Keys {
				if k.Name != name.Text {
					continue
				}
				for _, one := range k.Of.All {
					if schema.Same(one, tells) {
						return s.Do(r, v, at)
					}
					options = append(options, "'"+schema.TextOf(one)+"'")
				}
			}
		}
		code := "invalid_union"
		if r.Major == three {
			code = "invalid_union_discriminator"
		}
		r.Issue(append(at, wire.MemberOf(name.Text)), code, "Invalid discriminator value. Expected "+strings.Join(options, " | "))
		return v
	}
	return u
}

func intersection(a, b *Schema) *Schema {
	i := &Schema{Kind: "intersection", In: types.Intersect(a.In, b.In), Out: types.Intersect(a.Out, b.Out)}
	i.Check = func(r *run, v Value, at steps) Value {
		x, y := a.Do(r, v, at), b.Do(r, v, at)
		if x.Kind == schema.Object && y.Kind == schema.Object {
			for k, name := range y.Names {
				x.Set(name, y.Elems[k])
			}
		}
		return x
	}
	return i
}
