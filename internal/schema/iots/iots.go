// Package iots is what io-ts does with a value: codecs that are made of others. The rules are those of io-ts 2.2, measured
// (testdata/truth/typescript, forms iots-).
package iots

import (
	"math"
	"slices"
	"strconv"

	"vetta/internal/code"
	"vetta/internal/schema"
	"vetta/internal/types"
	"vetta/internal/wire"
)

// Name is what settings call the library.
const Name = "io-ts"

// Modules are those that it is imported from.
var Modules = []string{"io-ts"}

type (
	// Schema and Value are those of package schema.
	Schema = schema.Schema
	Value  = schema.Value
	run    = schema.Run
	steps  = []wire.Step
)

// Build makes the codec that an expression is.
func Build(w schema.World, s schema.Scope, e *code.Expr) *Schema {
	return (&builder{w: w, made: map[*code.Expr]*Schema{}}).build(e, s).WithLists(array)
}

func array(of *Schema) *Schema {
	return schema.ListOf(of, func(r *run, v Value, at steps) Value { return fails(r, at, "Array", v) })
}

type builder struct {
	w     schema.World
	made  map[*code.Expr]*Schema
	depth int
	self  map[string]*Schema // what codecs that hold themselves call themselves
}

const maxDepth = 100

func (b *builder) build(e *code.Expr, s schema.Scope) *Schema {
	if b.depth++; b.depth > maxDepth {
		return schema.Lost("codecs stand inside each other deeper than is followed")
	}
	defer func() { b.depth-- }()
	if done := b.made[e]; done != nil {
		return done
	}
	n := schema.Under()
	b.made[e] = n
	n.Is(b.make(e, s))
	return n
}

func (b *builder) make(e *code.Expr, s schema.Scope) *Schema {
	switch e.Op {
	case code.As:
		return b.build(e.Args[0], s)
	case code.Name:
		if self := b.self[e.Text]; self != nil {
			return self
		}
		if module, of, ok := b.w.Import(s, e.Text); ok && slices.Contains(Modules, module) {
			return basic(of)
		}
		if of, in, ok := b.w.Find(s, e.Text); ok {
			return b.build(of, in).Called(e.Text)
		}
	case code.Member:
		if b.isT(e.Args[0], s) {
			return basic(e.Text)
		}
	case code.Call:
		callee := e.Args[0]
		name := ""
		switch {
		case callee.Op == code.Member && b.isT(callee.Args[0], s):
			name = callee.Text
		case callee.Op == code.Name:
			if module, of, ok := b.w.Import(s, callee.Text); ok && slices.Contains(Modules, module) {
				name = of
			}
		}
		if name != "" {
			return b.combined(name, e, s)
		}
	}
	return schema.Lost("how this codec is made is not followed")
}

func (b *builder) isT(e *code.Expr, s schema.Scope) bool {
	if e.Op != code.Name {
		return false
	}
	module, of, ok := b.w.Import(s, e.Text)
	return ok && slices.Contains(Modules, module) && of == "*"
}

// fails notes that a value is none of a codec.
func fails(r *run, at steps, name string, v Value) Value {
	r.Issue(at, name, "Invalid value "+shown(v)+" supplied to : "+name)
	return v
}

func shown(v Value) string {
	if v.Kind == schema.String {
		return strconv.Quote(v.Text)
	}
	return schema.TextOf(v)
}

func simple(name string, t *types.Type, is func(Value) bool) *Schema {
	return &Schema{Kind: name, In: t, Out: t, Check: func(r *run, v Value, at steps) Value {
		if !is(v) {
			return fails(r, at, name, v)
		}
		return v
	}}
}

func kind(k schema.Kind) func(Value) bool { return func(v Value) bool { return v.Kind == k } }

// basic is a codec that is not made of others.
func basic(name string) *Schema {
	switch name {
	case "string":
		return simple("string", types.StringType, kind(schema.String))
	case "number":
		return simple("number", types.NumberType, kind(schema.Number))
	case "boolean":
		return simple("boolean", types.BooleanType, kind(schema.Bool))
	case "bigint":
		return simple("bigint", types.BigIntType, kind(schema.BigInt))
	case "null", "nullType":
		return simple("null", types.NullType, kind(schema.Null))
	case "undefined", "voidType", "void":
		return optional(simple("undefined", types.UndefinedType, kind(schema.Undefined)))
	case "unknown", "any":
		return optional(simple("unknown", types.UnknownType, func(Value) bool { return true }))
	case "Int", "Integer":
		return simple("Int", types.NumberType, func(v Value) bool {
			return v.Kind == schema.Number && v.Number == math.Trunc(v.Number) && !math.IsInf(v.Number, 0)
		})
	case "UnknownRecord", "object":
		return simple("UnknownRecord", types.ObjectType, kind(schema.Object))
	case "UnknownArray", "Array":
		return simple("UnknownArray", types.ListOf(types.UnknownType, "unknown[]"), kind(schema.Array))
	}
	return schema.Lost("t." + name + " is not followed")
}

// optional marks a codec that lets undefined through, so that a key of it may be absent.
func optional(s *Schema) *Schema {
	s.Optional = true
	return s
}

// combined is a codec that is made of others.
func (b *builder) combined(name string, e *code.Expr, s schema.Scope) *Schema {
	arg := func(i int) *Schema {
		if i+1 < len(e.Args) {
			return b.build(e.Args[i+1], s)
		}
		return schema.Lost("an argument of t." + name + " is missing")
	}
	list := func() (all []*Schema, ok bool) {
		if len(e.Args) < 2 || e.Args[1].Op != code.List {
			return nil, false
		}
		for _, a := range e.Args[1].Args {
			all = append(all, b.build(a, s))
		}
		return all, true
	}
	switch name {
	case "type", "interface", "partial", "strict":
		if len(e.Args) < 2 {
			break
		}
		keys, ok := b.props(e.Args[1], s)
		if !ok {
			return schema.Lost("the keys of a codec are not followed")
		}
		return object(name, keys, name == "strict")
	case "exact":
		of := arg(0)
		if of.Kind == "object" {
			return object(of.Mode, of.Keys, true)
		}
		return of
	case "readonly", "clean", "alias":
		return arg(0)
	case "array", "readonlyArray":
		return array(arg(0))
	case "record", "dictionary":
		key, of := arg(0), arg(len(e.Args)-2)
		return &Schema{Kind: "record", Of: of, In: schema.RecordOf(key.All, of.In, false), Out: schema.RecordOf(key.All, of.Out, false), Check: func(r *run, v Value, at steps) Value {
			if v.Kind != schema.Object {
				return fails(r, at, "Record", v)
			}
			made := Value{Kind: schema.Object}
			for i, name := range v.Names {
				here := append(at, wire.MemberOf(name))
				key.Do(r, schema.Text(name), here)
				made.Set(name, of.Do(r, v.Elems[i], here))
			}
			for _, k := range key.All {
				if _, has := v.Get(schema.TextOf(k)); !has {
					of.Do(r, Value{}, append(at, wire.MemberOf(schema.TextOf(k))))
				}
			}
			return made
		}}
	case "union":
		if all, ok := list(); ok {
			return union(all)
		}
	case "intersection":
		if all, ok := list(); ok {
			return intersection(all)
		}
	case "tuple":
		if all, ok := list(); ok {
			return tuple(all)
		}
	case "literal", "keyof":
		if len(e.Args) < 2 {
			break
		}
		v, ok := schema.Eval(b.w, s, e.Args[1])
		if !ok {
			break
		}
		all := []Value{v}
		if name == "keyof" {
			all = nil
			for _, n := range v.Names {
				all = append(all, schema.Text(n))
			}
		}
		t, ok := schema.LiteralsOf(all)
		if !ok {
			break
		}
		s := simple("literal", t, func(v Value) bool {
			return slices.ContainsFunc(all, func(o Value) bool { return schema.Same(o, v) })
		})
		s.All = all
		return s
	case "brand", "refinement":
		return b.brand(arg(0), e, s)
	case "recursion":
		if self := b.recursion(e, s); self != nil {
			return self
		}
		return schema.Lost("how this t.recursion is made is not followed")
	case "Type":
		return b.own(e, s)
	}
	return schema.Lost("t." + name + " is not followed")
}

// recursion is a codec that may hold itself: t.recursion('Leg', self => t.type({ next: self })), or by its own name.
func (b *builder) recursion(e *code.Expr, s schema.Scope) *Schema {
	made := e.Args[len(e.Args)-1]
	if made.Op != code.Lambda || len(made.Body) != 1 || made.Body[0].Value == nil {
		return nil
	}
	var of *Schema
	self := &Schema{Kind: "lazy", Check: func(r *run, v Value, at steps) Value { return of.Do(r, v, at) }}
	self.In = &types.Type{Kind: types.Unresolved, Text: "a codec that holds itself", Written: "recursion"}
	self.Out = self.In
	b.made[e] = self
	if len(made.Labels) > 0 {
		if b.self == nil {
			b.self = map[string]*Schema{}
		}
		before := b.self[made.Labels[0]]
		b.self[made.Labels[0]] = self
		defer func() { b.self[made.Labels[0]] = before }()
	}
	of = b.build(made.Body[0].Value, s)
	self.In.Become(of.In)
	return of
}

// brand is a codec that also asks code of the app.
func (b *builder) brand(of *Schema, e *code.Expr, s schema.Scope) *Schema {
	if len(e.Args) < 3 {
		return of
	}
	fn := e.Args[2]
	c := *of
	c.Checks = append(slices.Clone(of.Checks), func(*run, Value, steps) {})
	c.Check = func(r *run, v Value, at steps) Value {
		before := len(r.Issues)
		got := of.Do(r, v, at)
		if len(r.Issues) > before {
			return got
		}
		out, ok := schema.Call(b.w, s, fn, got)
		switch {
		case !ok:
			r.Unknown = true
		case !schema.Truthy(out):
			return fails(r, at, "brand", v)
		}
		return got
	}
	return &c
}

// own is a codec that the app writes: new t.Type(name, is, validate, encode).
func (b *builder) own(e *code.Expr, s schema.Scope) *Schema {
	if len(e.Args) < 4 {
		return schema.Lost("a codec without its functions is not followed")
	}
	fn := e.Args[3]
	lost := types.Lost("code of the app makes it")
	return &Schema{Kind: "own", In: types.UnknownType, Out: lost, Check: func(r *run, v Value, at steps) Value {
		out, ok := schema.Call(b.w, s, fn, v, Value{Kind: schema.Object})
		failed := out.Kind == schema.Object && len(out.Names) == 1 && out.Names[0] == Failure
		switch {
		case !ok || !failed && !(out.Kind == schema.Object && len(out.Names) == 1 && out.Names[0] == Success):
			r.Unknown = true
			return Value{Kind: schema.Other}
		case failed:
			return fails(r, at, "own", v)
		}
		return out.Elems[0]
	}}
}

// Success and Failure are the keys of what t.success and t.failure answer.
const Success, Failure = "right", "left"

// props are the keys in braces.
func (b *builder) props(e *code.Expr, s schema.Scope) (keys []schema.Key, ok bool) {
	if e.Op == code.Name {
		if of, in, found := b.w.Find(s, e.Text); found {
			return b.props(of, in)
		}
	}
	if e.Op == code.Member && e.Text == "props" {
		on := b.build(e.Args[0], s)
		return on.Keys, on.Keys != nil
	}
	if e.Op != code.Dict {
		return nil, false
	}
	for i := 0; i+1 < len(e.Args); i += 2 {
		if e.Args[i+1].Op == code.Spread {
			more, ok := b.props(e.Args[i+1].Args[0], s)
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
		keys = schema.Merged(keys, []schema.Key{schema.NewKey(schema.TextOf(name), e.Args[i], b.build(e.Args[i+1], s))})
	}
	return keys, true
}

// object is a codec of objects: keys that it does not have stay unless it is exact.
func object(mode string, keys []schema.Key, exact bool) *Schema {
	if mode == "partial" {
		own := slices.Clone(keys)
		for i, k := range own {
			of := k.Of
			inner := *of
			inner.Optional = true
			inner.In = types.UnionOf(of.In, types.UndefinedType)
			inner.Check = func(r *run, v Value, at steps) Value {
				if v.Kind == schema.Undefined {
					return v
				}
				return of.Do(r, v, at)
			}
			own[i].Of = &inner
		}
		keys, mode = own, "type"
	}
	o := &Schema{Kind: "object", Keys: keys, Mode: mode}
	var rest *types.Type
	if !exact {
		rest = types.UnknownType
		o.Rest = &Schema{Kind: "unknown", In: rest, Out: rest}
	}
	o.In, o.Out = schema.TypeOf(keys, schema.Fields(keys), nil, false), schema.TypeOf(keys, schema.Fields(keys), nil, true)
	o.Check = func(r *run, v Value, at steps) Value {
		if v.Kind != schema.Object {
			return fails(r, at, "object", v)
		}
		made := Value{Kind: schema.Object}
		for i, name := range v.Names {
			if !exact || schema.Has(keys, name) {
				made.Set(name, v.Elems[i])
			}
		}
		for _, k := range keys {
			value, has := v.Get(k.Name)
			if got := k.Of.Do(r, value, append(at, wire.MemberOf(k.Name))); has || got.Kind != schema.Undefined {
				made.Set(k.Name, got)
			}
		}
		return made
	}
	return o
}

// branch is the step by which paths tell an option of a union or a part of an intersection.
func branch(i int) wire.Step { return wire.MemberOf(strconv.Itoa(i)) }

func union(all []*Schema) *Schema {
	u := &Schema{Kind: "union"}
	var in, out []*types.Type
	for _, s := range all {
		in, out = append(in, s.In), append(out, s.Out)
		u.Optional = u.Optional || s.Optional
		u.Sub = append(u.Sub, *s)
	}
	u.In, u.Out = types.UnionOf(in...), types.UnionOf(out...)
	tag := tagOf(all)
	u.Check = func(r *run, v Value, at steps) Value {
		if tag != "" {
			tells, _ := v.Get(tag)
			for i, s := range all {
				for _, k := range s.Keys {
					if k.Name == tag && slices.ContainsFunc(k.Of.All, func(o Value) bool { return schema.Same(o, tells) }) {
						return s.Do(r, v, append(at, branch(i)))
					}
				}
			}
			return fails(r, at, "union", v)
		}
		var issues []schema.Issue
		for i, s := range all {
			inner := &run{}
			got := s.Do(inner, v, append(at, branch(i)))
			if inner.Unknown {
				r.Unknown = true
				return Value{Kind: schema.Other}
			}
			if len(inner.Issues) == 0 {
				return got
			}
			issues = append(issues, inner.Issues...)
		}
		r.Issues = append(r.Issues, issues...)
		return v
	}
	return u
}

// tagOf is the key whose literals tell the options of a union apart, "" where none does.
func tagOf(all []*Schema) string {
	if len(all) < 2 {
		return ""
	}
	for _, k := range all[0].Keys {
		seen := map[string]bool{}
		fits := true
		for _, s := range all {
			found := false
			for _, own := range s.Keys {
				if own.Name != k.Name || len(own.Of.All) == 0 {
					continue
				}
				found = true
				for _, v := range own.Of.All {
					fits = fits && !seen[schema.TextOf(v)]
					seen[schema.TextOf(v)] = true
				}
			}
			fits = fits && found
		}
		if fits {
			return k.Name
		}
	}
	return ""
}

func intersection(all []*Schema) *Schema {
	s := &Schema{Kind: "intersection", In: types.UnknownType, Out: types.UnknownType}
	for _, one := range all {
		s.In, s.Out = types.Intersect(s.In, one.In), types.Intersect(s.Out, one.Out)
	}
	s.Check = func(r *run, v Value, at steps) Value {
		made := v
		for i, one := range all {
			got := one.Do(r, v, append(at, branch(i)))
			if i == 0 || got.Kind != schema.Object || made.Kind != schema.Object {
				made = got
				continue
			}
			for k, name := range got.Names {
				made.Set(name, got.Elems[k])
			}
		}
		return made
	}
	return s
}

func tuple(all []*Schema) *Schema {
	t := &types.Type{Kind: types.Tuple, Rest: -1, Written: "a tuple"}
	for _, s := range all {
		t.Elems, t.Optional = append(t.Elems, s.In), append(t.Optional, false)
	}
	return &Schema{Kind: "tuple", In: t, Out: t, Check: func(r *run, v Value, at steps) Value {
		if v.Kind != schema.Array {
			return fails(r, at, "tuple", v)
		}
		made := Value{Kind: schema.Array, Elems: []Value{}}
		for i, s := range all {
			elem := Value{}
			if i < len(v.Elems) {
				elem = v.Elems[i]
			}
			made.Elems = append(made.Elems, s.Do(r, elem, append(at, wire.Step{Index: i})))
		}
		for i := len(all); i < len(v.Elems); i++ {
			fails(r, append(at, wire.Step{Index: i}), "never", v.Elems[i])
		}
		return made
	}}
}

func init() {
	for _, name := range []string{"success", "failure"} {
		key := map[string]string{"success": Success, "failure": Failure}[name]
		schema.Known(Modules[0], name, func(args []Value) Value {
			out := Value{Kind: schema.Object}
			if len(args) > 0 {
				out.Set(key, args[0])
			} else {
				out.Set(key, Value{})
			}
			return out
		})
	}
}
