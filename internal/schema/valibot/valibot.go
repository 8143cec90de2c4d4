// Package valibot is what valibot does with a value: schemas that functions make, and pipes of checks and transforms. The
// rules are those of valibot 1.5, measured (testdata/truth/typescript, forms valibot-).
package valibot

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/schema"
	"vetta/internal/types"
	"vetta/internal/wire"
)

// Name is what settings call the library.
const Name = "valibot"

// Modules are those that it is imported from.
var Modules = []string{"valibot"}

type (
	// Schema and Value are those of package schema.
	Schema = schema.Schema
	Value  = schema.Value
	run    = schema.Run
	steps  = []wire.Step
)

// Build makes the schema that an expression is.
func Build(w schema.World, s schema.Scope, e *code.Expr) *Schema {
	b := &builder{w: w, made: map[*code.Expr]*Schema{}}
	return b.build(e, s).WithLists(array)
}

func array(of *Schema) *Schema {
	return schema.ListOf(of, func(r *run, v Value, at steps) Value { return wrong(r, at, "array", "Array", v) })
}

type builder struct {
	w     schema.World
	made  map[*code.Expr]*Schema
	depth int
}

const maxDepth = 100

func (b *builder) build(e *code.Expr, s schema.Scope) *Schema {
	if b.depth++; b.depth > maxDepth {
		return schema.Lost("schemas stand inside each other deeper than is followed")
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
		if of, in, ok := b.w.Find(s, e.Text); ok {
			return b.build(of, in).Called(e.Text)
		}
		return schema.Lost(e.Text + " is not in the source")
	case code.Member: // Schema.entries.key
		if on := e.Args[0]; on.Op == code.Member && on.Text == "entries" {
			for _, k := range b.build(on.Args[0], s).Keys {
				if k.Name == e.Text {
					return k.Of
				}
			}
		}
	case code.Call:
		if name := b.function(e.Args[0], s); name != "" {
			return b.factory(name, e, s)
		}
		if callee := e.Args[0]; callee.Op == code.Name {
			if fn, in, ok := b.w.Find(s, callee.Text); ok && fn.Op == code.Lambda && len(e.Args) == 1 && len(fn.Body) == 1 && fn.Body[0].Value != nil {
				return b.build(fn.Body[0].Value, in)
			}
		}
	}
	return schema.Lost("how this schema is made is not followed")
}

// function is the function of the library that a call calls, "" for none.
func (b *builder) function(callee *code.Expr, s schema.Scope) string {
	name := callee
	if callee.Op == code.Member {
		name = callee.Args[0]
	}
	if name.Op != code.Name {
		return ""
	}
	module, of, ok := b.w.Import(s, name.Text)
	switch {
	case !ok || !slices.Contains(Modules, module):
		return ""
	case callee.Op == code.Member:
		return callee.Text
	}
	return of
}

// received is a value as messages call it.
func received(v Value) string {
	switch v.Kind {
	case schema.String:
		return strconv.Quote(v.Text)
	case schema.Object:
		return "Object"
	case schema.Array:
		return "Array"
	case schema.Date:
		return "Date"
	}
	return schema.TextOf(v)
}

func wrong(r *run, at steps, code, expected string, v Value) Value {
	r.Issue(at, code, "Invalid type: Expected "+expected+" but received "+received(v))
	return v
}

func simple(code, expected string, kind schema.Kind, t *types.Type) *Schema {
	return &Schema{Kind: code, In: t, Out: t, Check: func(r *run, v Value, at steps) Value {
		if v.Kind != kind || kind == schema.Number && math.IsNaN(v.Number) || kind == schema.Date && math.IsNaN(v.Number) {
			return wrong(r, at, code, expected, v)
		}
		return v
	}}
}

func anything(name string, t *types.Type) *Schema {
	return &Schema{Kind: name, In: t, Out: t, Check: func(_ *run, v Value, _ steps) Value { return v }}
}

// factory is what a function of the library makes.
func (b *builder) factory(name string, e *code.Expr, s schema.Scope) *Schema {
	arg := func(i int) *Schema {
		if i+1 < len(e.Args) {
			return b.build(e.Args[i+1], s)
		}
		return schema.Lost("an argument of " + name + " is missing")
	}
	switch name {
	case "string":
		return simple("string", "string", schema.String, types.StringType)
	case "number":
		return simple("number", "number", schema.Number, types.NumberType)
	case "boolean":
		return simple("boolean", "boolean", schema.Bool, types.BooleanType)
	case "bigint":
		return simple("bigint", "bigint", schema.BigInt, types.BigIntType)
	case "date":
		date := &types.Type{Kind: types.BuiltIn, Text: "Date", Written: "Date"}
		return simple("date", "Date", schema.Date, date)
	case "null":
		return simple("null", "null", schema.Null, types.NullType)
	case "undefined", "void":
		return simple(name, name, schema.Undefined, types.UndefinedType)
	case "any":
		return anything("any", types.AnyType)
	case "unknown":
		return anything("unknown", types.UnknownType)
	case "never":
		return &Schema{Kind: "never", In: types.NeverType, Out: types.NeverType, Check: func(r *run, v Value, at steps) Value { return wrong(r, at, "never", "never", v) }}
	case "object", "strictObject", "looseObject", "objectWithRest":
		if len(e.Args) < 2 {
			break
		}
		keys, ok := b.entries(e.Args[1], s)
		if !ok {
			return schema.Lost("the keys of an object schema are not followed")
		}
		var rest *Schema
		if name == "objectWithRest" {
			rest = arg(1)
		}
		return object(name, keys, rest)
	case "array":
		return array(arg(0))
	case "tuple", "looseTuple", "strictTuple":
		return b.tuple(name, e, s)
	case "record":
		return record(arg(0), arg(1))
	case "union", "variant":
		at := 1
		if name == "variant" {
			at = 2
		}
		if len(e.Args) <= at || e.Args[at].Op != code.List {
			break
		}
		var all []*Schema
		for _, a := range e.Args[at].Args {
			all = append(all, b.build(a, s))
		}
		if name == "union" {
			return union(all)
		}
		key, ok := schema.Eval(b.w, s, e.Args[1])
		if !ok {
			break
		}
		return variant(key.Text, all)
	case "intersect":
		if len(e.Args) < 2 || e.Args[1].Op != code.List {
			break
		}
		var all []*Schema
		for _, a := range e.Args[1].Args {
			all = append(all, b.build(a, s))
		}
		return intersect(all)
	case "literal", "picklist", "enum", "enum_":
		v, ok := Value{}, false
		if len(e.Args) > 1 {
			v, ok = schema.Eval(b.w, s, e.Args[1])
		}
		if !ok {
			break
		}
		all := []Value{v}
		if name != "literal" {
			all = v.Elems
		}
		return oneOf(strings.TrimSuffix(name, "_"), all)
	case "lazy":
		if len(e.Args) > 1 && e.Args[1].Op == code.Lambda && len(e.Args[1].Body) == 1 && e.Args[1].Body[0].Value != nil {
			body := e.Args[1].Body[0].Value
			t := types.Lost("a schema that holds itself")
			var of *Schema
			return &Schema{Kind: "lazy", In: t, Out: t, Check: func(r *run, v Value, at steps) Value {
				if of == nil {
					of = b.build(body, s)
				}
				return of.Do(r, v, at)
			}}
		}
	case "optional", "exactOptional", "nullable", "nullish", "undefinedable", "fallback":
		var byDefault *Value
		if len(e.Args) > 2 {
			v, ok := Value{}, false
			if e.Args[2].Op == code.Lambda {
				v, ok = schema.Call(b.w, s, e.Args[2])
			} else {
				v, ok = schema.Eval(b.w, s, e.Args[2])
			}
			if !ok {
				return schema.Lost("the default of " + name + " is not followed")
			}
			byDefault = &v
		}
		return wrapped(name, arg(0), byDefault)
	case "nonOptional", "nonNullable", "nonNullish":
		return solid(name, arg(0))
	case "partial", "required", "pick", "omit":
		return b.reshaped(name, arg(0), e, s)
	case "keyof":
		var all []Value
		for _, k := range arg(0).Keys {
			all = append(all, schema.Text(k.Name))
		}
		return oneOf("picklist", all)
	case "pipe":
		return b.pipe(e, s)
	case "brand", "readonly", "description", "config", "message":
		return arg(0)
	}
	return schema.Lost(name + "() is not followed")
}

// entries are the keys in braces, with those that are spread into them.
func (b *builder) entries(e *code.Expr, s schema.Scope) (keys []schema.Key, ok bool) {
	switch {
	case e.Op == code.Name:
		if of, in, found := b.w.Find(s, e.Text); found {
			return b.entries(of, in)
		}
		return nil, false
	case e.Op == code.Member && e.Text == "entries":
		on := b.build(e.Args[0], s)
		return on.Keys, on.Keys != nil
	case e.Op != code.Dict:
		return nil, false
	}
	for i := 0; i+1 < len(e.Args); i += 2 {
		if e.Args[i+1].Op == code.Spread {
			more, ok := b.entries(e.Args[i+1].Args[0], s)
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

// kinds are the codes of issues of object schemas.
var kinds = map[string]string{"object": "object", "strictObject": "strict_object", "looseObject": "loose_object", "objectWithRest": "object_with_rest"}

func object(name string, keys []schema.Key, rest *Schema) *Schema {
	var in, out *types.Type
	switch {
	case rest != nil:
		in, out = rest.In, rest.Out
	case name == "looseObject":
		in, out = types.UnknownType, types.UnknownType
	}
	o := &Schema{Kind: "object", Keys: keys, Rest: rest, Mode: name}
	if name == "looseObject" {
		o.Rest = anything("unknown", types.UnknownType)
	}
	o.In, o.Out = schema.TypeOf(keys, schema.Fields(keys), in, false), schema.TypeOf(keys, schema.Fields(keys), out, true)
	o.Check = func(r *run, v Value, at steps) Value {
		if v.Kind != schema.Object && v.Kind != schema.Array {
			return wrong(r, at, kinds[name], "Object", v)
		}
		made := Value{Kind: schema.Object}
		for _, k := range keys {
			value, has := Value{}, false
			if v.Kind == schema.Object {
				value, has = v.Get(k.Name)
			}
			here := append(at, wire.MemberOf(k.Name))
			switch {
			case has || k.Of.Default != nil:
				made.Set(k.Name, k.Of.Do(r, value, here))
			case !k.Of.Optional:
				r.Issue(here, kinds[name], "Invalid key: Expected "+strconv.Quote(k.Name)+" but received undefined")
			}
		}
		if v.Kind != schema.Object {
			return made
		}
		for i, other := range v.Names {
			if schema.Has(keys, other) {
				continue
			}
			here := append(at, wire.MemberOf(other))
			switch name {
			case "looseObject":
				made.Set(other, v.Elems[i])
			case "objectWithRest":
				made.Set(other, rest.Do(r, v.Elems[i], here))
			case "strictObject":
				r.Issue(here, kinds[name], "Invalid key: Expected never but received "+strconv.Quote(other))
				return made
			}
		}
		return made
	}
	return o
}

func (b *builder) tuple(name string, e *code.Expr, s schema.Scope) *Schema {
	if len(e.Args) < 2 || e.Args[1].Op != code.List {
		return schema.Lost("the items of a tuple are not followed")
	}
	var items []*Schema
	in, out := &types.Type{Kind: types.Tuple, Rest: -1, Written: "a tuple"}, &types.Type{Kind: types.Tuple, Rest: -1, Written: "a tuple"}
	for _, a := range e.Args[1].Args {
		of := b.build(a, s)
		items = append(items, of)
		in.Elems, in.Optional = append(in.Elems, of.In), append(in.Optional, false)
		out.Elems, out.Optional = append(out.Elems, of.Out), append(out.Optional, false)
	}
	return &Schema{Kind: "tuple", In: in, Out: out, Check: func(r *run, v Value, at steps) Value {
		if v.Kind != schema.Array {
			return wrong(r, at, name, "Array", v)
		}
		made := Value{Kind: schema.Array, Elems: []Value{}}
		for i, of := range items {
			elem := Value{}
			if i < len(v.Elems) {
				elem = v.Elems[i]
			}
			made.Elems = append(made.Elems, of.Do(r, elem, append(at, wire.Step{Index: i})))
		}
		return made
	}}
}

func record(key, value *Schema) *Schema {
	return &Schema{Kind: "record", Of: value, In: schema.RecordOf(key.All, value.In, true), Out: schema.RecordOf(key.All, value.Out, true), Check: func(r *run, v Value, at steps) Value {
		if v.Kind != schema.Object && v.Kind != schema.Array {
			return wrong(r, at, "record", "Object", v)
		}
		made := Value{Kind: schema.Object}
		names := v.Names
		if v.Kind == schema.Array {
			for i := range v.Elems {
				names = append(names, strconv.Itoa(i))
			}
		}
		for i, name := range names {
			if name == "__proto__" || name == "prototype" || name == "constructor" {
				continue
			}
			here := append(at, wire.MemberOf(name))
			as := key.Do(r, schema.Text(name), here)
			made.Set(schema.TextOf(as), value.Do(r, v.Elems[i], here))
		}
		return made
	}}
}

// expects is what messages call what a schema lets through.
func expects(s *Schema) string {
	switch s.Kind {
	case "literal", "picklist", "enum":
		return options(s.All)
	case "object", "record":
		return "Object"
	case "array", "tuple":
		return "Array"
	case "date":
		return "Date"
	}
	return s.Kind
}

// wrapped is a schema that lets nothing through too, or a value of its own in its place.
func wrapped(how string, of *Schema, byDefault *Value) *Schema {
	w := &Schema{Kind: how, Of: of, Default: byDefault, Keys: of.Keys, All: of.All}
	takesNull, takesUndefined := how == "nullable" || how == "nullish", how == "optional" || how == "nullish" || how == "undefinedable" || how == "exactOptional"
	w.Optional = how == "optional" || how == "nullish" || how == "exactOptional"
	w.In, w.Out = of.In, of.Out
	if takesNull {
		w.In = types.UnionOf(w.In, types.NullType)
	}
	if takesUndefined {
		w.In = types.UnionOf(w.In, types.UndefinedType)
	}
	if byDefault == nil {
		w.Out = types.UnionOf(of.Out, w.In.Without(func(t *types.Type) bool { return t.Kind != types.Null && t.Kind != types.Undefined }))
	}
	if how == "nullable" && byDefault != nil || how == "undefinedable" {
		w.Default, w.Kind = nil, "nullable"
	}
	if how == "fallback" {
		w.Kind, w.In = "catch", types.UnknownType
	}
	w.Check = func(r *run, v Value, at steps) Value {
		switch {
		case how == "fallback":
			inner := &run{}
			got := of.Do(inner, v, at)
			r.Unknown = r.Unknown || inner.Unknown
			if len(inner.Issues) > 0 && byDefault != nil {
				return *byDefault
			}
			return got
		case v.Kind == schema.Null && takesNull || v.Kind == schema.Undefined && takesUndefined:
			if byDefault != nil {
				return *byDefault
			}
			return v
		}
		return of.Do(r, v, at)
	}
	return w
}

func solid(how string, of *Schema) *Schema {
	without := func(t *types.Type) *types.Type {
		return t.Without(func(t *types.Type) bool {
			return t.Kind == types.Undefined && how != "nonNullable" || t.Kind == types.Null && how != "nonOptional"
		})
	}
	return &Schema{Kind: "nonoptional", Of: of, Keys: of.Keys, All: of.All, In: without(of.In), Out: without(of.Out), Check: func(r *run, v Value, at steps) Value {
		if v.Kind == schema.Undefined && how != "nonNullable" || v.Kind == schema.Null && how != "nonOptional" {
			return wrong(r, at, "non_optional", "!"+received(v), v)
		}
		return of.Do(r, v, at)
	}}
}

// reshaped is an object schema with its keys made others.
func (b *builder) reshaped(how string, on *Schema, e *code.Expr, s schema.Scope) *Schema {
	if on.Kind != "object" {
		return schema.Lost("what " + how + " is given is not followed")
	}
	var named []string
	if len(e.Args) > 2 {
		v, ok := schema.Eval(b.w, s, e.Args[2])
		if !ok || v.Kind != schema.Array {
			return schema.Lost("what " + how + " is given is not followed")
		}
		for _, one := range v.Elems {
			named = append(named, one.Text)
		}
	}
	var keys []schema.Key
	for _, k := range on.Keys {
		in := len(e.Args) < 3 || slices.Contains(named, k.Name)
		switch {
		case how == "pick" && !in || how == "omit" && in:
			continue
		case !in || how == "pick" || how == "omit":
		case how == "partial":
			k.Of = wrapped("optional", k.Of, nil)
		default:
			k.Of = solid("nonOptional", k.Of)
		}
		keys = append(keys, k)
	}
	return object(on.Mode, keys, on.Rest)
}
