// Package zod is what zod does with a value: schemas as z makes them, checks, transforms and defaults. The rules are those of
// zod 4.6, measured (testdata/truth/typescript, forms zod-).
package zod

import (
	"math"
	"regexp"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/schema"
	"vetta/internal/types"
	"vetta/internal/wire"
)

// Name is what settings call the library.
const Name = "zod"

// Modules are those that it is imported from.
var Modules = []string{"zod", "zod/v4", "zod/v3", "zod/mini", "zod/v4-mini"}

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
	made := b.build(e, s, nil)
	for len(b.later) > 0 {
		do := b.later[0]
		b.later = b.later[1:]
		do()
	}
	own := *made
	if b.three {
		own.Major = three
	}
	return own.WithLists(array)
}

type builder struct {
	w     schema.World
	made  map[*code.Expr]*Schema
	depth int
	three bool     // it is version 3 that makes them
	later []func() // what is done once all schemas are made
}

// given are the schemas that the parameters of a function of the app are given.
type given struct {
	name  string
	of    *Schema
	outer *given
}

const maxDepth = 100

func (b *builder) build(e *code.Expr, s schema.Scope, g *given) *Schema {
	if b.depth++; b.depth > maxDepth {
		return schema.Lost("schemas stand inside each other deeper than is followed")
	}
	defer func() { b.depth-- }()
	if g == nil {
		if done := b.made[e]; done != nil {
			return done
		}
		n := schema.Under()
		b.made[e] = n
		n.Is(b.make(e, s, g))
		return n
	}
	return b.make(e, s, g)
}

func (b *builder) make(e *code.Expr, s schema.Scope, g *given) *Schema {
	switch e.Op {
	case code.As:
		return b.build(e.Args[0], s, g)
	case code.Name:
		for at := g; at != nil; at = at.outer {
			if at.name == e.Text {
				return at.of
			}
		}
		if of, in, ok := b.w.Find(s, e.Text); ok {
			return b.build(of, in, nil).Called(e.Text)
		}
		return schema.Lost(e.Text + " is not in the source")
	case code.Member:
		on := b.build(e.Args[0], s, g)
		switch {
		case e.Text == "element" || e.Text == "_def":
			if on.Of != nil {
				return on.Of
			}
		case e.Args[0].Op == code.Member && e.Args[0].Text == "shape":
			for _, k := range on.Keys {
				if k.Name == e.Text {
					return k.Of
				}
			}
		case e.Text == "shape":
			return on
		}
	case code.Call:
		callee := e.Args[0]
		switch callee.Op {
		case code.Name:
			if module, of, ok := b.w.Import(s, callee.Text); ok && b.isZod(module) {
				return b.factory(of, e, s, g)
			}
			if fn, in, ok := b.w.Find(s, callee.Text); ok && fn.Op == code.Lambda {
				return b.function(fn, in, e, s, g)
			}
		case code.Member:
			if b.isZ(callee.Args[0], s) {
				return b.factory(callee.Text, e, s, g)
			}
			if on := callee.Args[0]; on.Op == code.Member && b.isZ(on.Args[0], s) {
				switch on.Text {
				case "coerce":
					return b.coerce(callee.Text)
				case "iso":
					return format(stringSchema(), callee.Text, e, b, s)
				}
			}
			return b.method(b.build(callee.Args[0], s, g), callee.Text, e, s, g)
		}
	}
	return schema.Lost("how this schema is made is not followed")
}

// isZod says whether a module is the library, and notes which version it is.
func (b *builder) isZod(module string) bool {
	b.three = b.three || module == moduleThree
	for _, m := range Modules {
		if m == module {
			return true
		}
	}
	return false
}

// isZ says whether an expression is the library's namespace.
func (b *builder) isZ(e *code.Expr, s schema.Scope) bool {
	if e.Op != code.Name {
		return false
	}
	module, of, ok := b.w.Import(s, e.Text)
	return ok && b.isZod(module) && (of == "*" || of == "z" || of == "default")
}

// function is what a function of the app makes of the schemas that it is given.
func (b *builder) function(fn *code.Expr, in schema.Scope, e *code.Expr, s schema.Scope, g *given) *Schema {
	var inner *given
	for i, name := range fn.Labels {
		if i+1 < len(e.Args) {
			inner = &given{name, b.build(e.Args[i+1], s, g), inner}
		}
	}
	for i := range fn.Body {
		if st := &fn.Body[i]; st.Op == code.Return && st.Value != nil {
			return b.make(st.Value, in, orNone(inner))
		}
	}
	return schema.Lost("what the function makes of schemas is not followed")
}

// orNone makes sure that what is made for one call is not taken for that of another.
func orNone(g *given) *given {
	if g == nil {
		return &given{}
	}
	return g
}

// inner is a run whose issues are looked at before they count.
func inner(r *run) *run { return &run{Major: r.Major} }

// received is a value as messages call it.
func received(v Value) string {
	switch v.Kind {
	case schema.Undefined:
		return "undefined"
	case schema.Null:
		return "null"
	case schema.Bool:
		return "boolean"
	case schema.Number:
		switch {
		case math.IsNaN(v.Number):
			return "NaN"
		case math.IsInf(v.Number, 0):
			return "Infinity"
		}
		return "number"
	case schema.String:
		return "string"
	case schema.Array:
		return "array"
	case schema.Date:
		return "Date"
	case schema.BigInt:
		return "bigint"
	}
	return "object"
}

func invalid(r *run, at steps, expected string, v Value) Value {
	if r.Major == three {
		return invalidThree(r, at, expected, v)
	}
	r.Issue(at, "invalid_type", "Invalid input: expected "+expected+", received "+received(v))
	return v
}

// simple is a schema of one kind of value.
func simple(name string, kind schema.Kind, t *types.Type) *Schema {
	return &Schema{Kind: name, In: t, Out: t, Check: func(r *run, v Value, at steps) Value {
		if v.Kind != kind {
			return invalid(r, at, name, v)
		}
		return v
	}}
}

func stringSchema() *Schema { return simple("string", schema.String, types.StringType) }

func numberSchema() *Schema {
	return &Schema{Kind: "number", In: types.NumberType, Out: types.NumberType, Check: func(r *run, v Value, at steps) Value {
		if v.Kind != schema.Number || math.IsNaN(v.Number) || math.IsInf(v.Number, 0) && r.Major != three {
			return invalid(r, at, "number", v)
		}
		return v
	}}
}

func dateSchema() *Schema {
	date := &types.Type{Kind: types.BuiltIn, Text: "Date", Written: "Date"}
	return &Schema{Kind: "date", In: date, Out: date, Check: func(r *run, v Value, at steps) Value {
		if v.Kind != schema.Date || math.IsNaN(v.Number) {
			return invalid(r, at, "date", v)
		}
		return v
	}}
}

func anything(name string, t *types.Type) *Schema {
	return &Schema{Kind: name, In: t, Out: t, Check: func(_ *run, v Value, _ steps) Value { return v }}
}

// factory is what a function of the namespace makes.
func (b *builder) factory(name string, e *code.Expr, s schema.Scope, g *given) *Schema {
	arg := func(i int) *Schema {
		if i+1 < len(e.Args) {
			return b.build(e.Args[i+1], s, g)
		}
		return schema.Lost("an argument of z." + name + " is missing")
	}
	switch name {
	case "string":
		return stringSchema()
	case "number":
		return numberSchema()
	case "int":
		return check(numberSchema(), intCheck)
	case "int32":
		return check(check(numberSchema(), intCheck), bound("number", func(v Value) float64 { return v.Number }, math.MinInt32, math.MaxInt32, true))
	case "boolean":
		return simple("boolean", schema.Bool, types.BooleanType)
	case "bigint":
		return simple("bigint", schema.BigInt, types.BigIntType)
	case "symbol":
		return simple("symbol", schema.Other, types.SymbolType)
	case "date":
		return dateSchema()
	case "undefined", "void":
		return simple(name, schema.Undefined, types.UndefinedType)
	case "null":
		return simple("null", schema.Null, types.NullType)
	case "any":
		return anything("any", types.AnyType)
	case "unknown":
		return anything("unknown", types.UnknownType)
	case "never":
		return &Schema{Kind: "never", In: types.NeverType, Out: types.NeverType, Check: func(r *run, v Value, at steps) Value { return invalid(r, at, "never", v) }}
	case "nan":
		return &Schema{Kind: "nan", In: types.NumberType, Out: types.NumberType, Check: func(r *run, v Value, at steps) Value {
			if v.Kind != schema.Number || !math.IsNaN(v.Number) {
				return invalid(r, at, "NaN", v)
			}
			return v
		}}
	case "object", "strictObject", "looseObject":
		o := b.object(e, s, g)
		switch name {
		case "strictObject":
			return objectOf(o.Keys, o.Rest, strict)
		case "looseObject":
			return objectOf(o.Keys, anything("unknown", types.UnknownType), "")
		}
		return o
	case "array":
		return array(arg(0))
	case "tuple":
		return b.tuple(e, s, g)
	case "record", "partialRecord":
		if len(e.Args) == 2 { // of zod 3: z.record(value)
			return record(stringSchema(), arg(0), false)
		}
		return record(arg(0), arg(1), name == "partialRecord")
	case "union":
		return b.union(e, s, g)
	case "discriminatedUnion":
		return b.discriminated(e, s, g)
	case "intersection":
		return intersection(arg(0), arg(1))
	case "enum", "nativeEnum":
		return b.enum(e, s)
	case "literal":
		if len(e.Args) > 1 {
			if v, ok := schema.Eval(b.w, s, e.Args[1]); ok {
				all := []Value{v}
				if v.Kind == schema.Array {
					all = v.Elems
				}
				return oneOf("literal", all)
			}
		}
	case "lazy":
		if len(e.Args) == 2 && e.Args[1].Op == code.Lambda && len(e.Args[1].Body) == 1 && e.Args[1].Body[0].Value != nil {
			body := e.Args[1].Body[0].Value
			var of *Schema
			made := func() *Schema {
				if of == nil {
					of = b.build(body, s, g)
				}
				return of
			}
			lazy := &Schema{Kind: "lazy", Check: func(r *run, v Value, at steps) Value { return made().Do(r, v, at) }}
			lazy.In = &types.Type{Kind: types.Unresolved, Text: "a schema that holds itself", Written: "lazy"}
			lazy.Out = lazy.In
			b.later = append(b.later, func() {
				lazy.In.Become(made().In)
			})
			return lazy
		}
	case "optional":
		return optional(arg(0))
	case "nullable":
		return nullable(arg(0))
	case "nullish":
		return optional(nullable(arg(0)))
	case "preprocess":
		return b.preprocess(e.Args[1], arg(1), s)
	case "pipe":
		return pipe(arg(0), arg(1))
	case "custom", "instanceof":
		if name == "custom" && len(e.Args) > 1 {
			return b.refine(anything("custom", types.UnknownType), e.Args[1], s)
		}
		if name == "custom" {
			return anything("custom", types.UnknownType)
		}
		return &Schema{Kind: "custom", In: types.NeverType, Out: types.UnknownType, Check: func(r *run, v Value, at steps) Value {
			if v.Kind != schema.Date {
				r.Issue(at, "custom", "Invalid input")
			}
			return v
		}}
	case "readonly":
		return arg(0)
	case "stringbool":
		return stringbool()
	}
	if formats[name] != nil {
		return format(stringSchema(), name, e, b, s)
	}
	return schema.Lost("z." + name + " is not followed")
}

func stringbool() *Schema {
	return &Schema{Kind: "stringbool", In: types.StringType, Out: types.BooleanType, Check: func(r *run, v Value, at steps) Value {
		if v.Kind != schema.String {
			return invalid(r, at, "string", v)
		}
		switch strings.ToLower(v.Text) {
		case "true", "1", "yes", "on", "y", "enabled":
			return Value{Kind: schema.Bool, Bool: true}
		case "false", "0", "no", "off", "n", "disabled":
			return Value{Kind: schema.Bool}
		}
		r.Issue(at, "invalid_value", `Invalid option: expected one of "true"|"1"|"yes"|"on"|"y"|"enabled"|"false"|"0"|"no"|"off"|"n"|"disabled"`)
		return v
	}}
}

func (b *builder) coerce(name string) *Schema {
	date := dateSchema()
	switch name {
	case "number":
		n := numberSchema()
		return &Schema{Kind: "number", In: types.UnknownType, Out: types.NumberType, Check: func(r *run, v Value, at steps) Value { return n.Check(r, schema.Num(schema.NumberOf(v)), at) }}
	case "string":
		return &Schema{Kind: "string", In: types.UnknownType, Out: types.StringType, Check: func(_ *run, v Value, _ steps) Value { return schema.Text(schema.TextOf(v)) }}
	case "boolean":
		return &Schema{Kind: "boolean", In: types.UnknownType, Out: types.BooleanType, Check: func(_ *run, v Value, _ steps) Value {
			return Value{Kind: schema.Bool, Bool: schema.Truthy(v)}
		}}
	case "date":
		return &Schema{Kind: "date", In: types.UnknownType, Out: date.Out, Check: func(r *run, v Value, at steps) Value {
			ms, ok := schema.DateOf(v)
			if !ok {
				r.Unknown = true
				return v
			}
			return date.Check(r, Value{Kind: schema.Date, Number: ms}, at)
		}}
	case "bigint":
		return &Schema{Kind: "bigint", In: types.UnknownType, Out: types.BigIntType, Check: func(r *run, v Value, at steps) Value {
			text, ok := "", false
			switch v.Kind {
			case schema.Bool:
				text, ok = schema.NumberText(schema.NumberOf(v)), true
			case schema.Number:
				text, ok = strconv.FormatFloat(v.Number, 'f', 0, 64), v.Number == math.Trunc(v.Number) && !math.IsInf(v.Number, 0)
			case schema.String, schema.Array:
				if text, ok = strings.TrimSpace(schema.TextOf(v)), true; text == "" {
					text = "0"
				}
				ok = whole.MatchString(text)
			}
			if !ok {
				return invalid(r, at, "bigint", v)
			}
			return Value{Kind: schema.BigInt, Text: text}
		}}
	}
	return schema.Lost("z.coerce." + name + " is not followed")
}

var whole = regexp.MustCompile(`^-?\d+$`)

func optional(of *Schema) *Schema {
	return &Schema{Kind: "optional", Of: of, Optional: true, In: types.UnionOf(of.In, types.UndefinedType), Out: types.UnionOf(of.Out, types.UndefinedType), Keys: of.Keys, All: of.All, Check: func(r *run, v Value, at steps) Value {
		if v.Kind == schema.Undefined && (!of.Optional || r.Major == three) {
			return v
		}
		return of.Do(r, v, at)
	}}
}

func nullable(of *Schema) *Schema {
	return &Schema{Kind: "nullable", Of: of, Optional: of.Optional, In: types.UnionOf(of.In, types.NullType), Out: types.UnionOf(of.Out, types.NullType), Keys: of.Keys, All: of.All, Check: func(r *run, v Value, at steps) Value {
		if v.Kind == schema.Null {
			return v
		}
		return of.Do(r, v, at)
	}}
}

// passes are the issues of a part, and whether it had none.
func passes(r *run, do func()) bool {
	before := len(r.Issues)
	do()
	return len(r.Issues) == before
}

func oneOf(kind string, all []Value) *Schema {
	t, ok := schema.LiteralsOf(all)
	if !ok {
		return schema.Lost("what a literal is held to is not followed")
	}
	names := make([]string, len(all))
	for i, v := range all {
		if names[i] = schema.TextOf(v); v.Kind == schema.String {
			names[i] = strconv.Quote(v.Text)
		}
	}
	message := "Invalid option: expected one of " + strings.Join(names, "|")
	if len(names) == 1 {
		message = "Invalid input: expected " + names[0]
	}
	return &Schema{Kind: kind, All: all, In: t, Out: t, Check: func(r *run, v Value, at steps) Value {
		for _, one := range all {
			if schema.Same(one, v) {
				return v
			}
		}
		if r.Major == three {
			return notOneThree(r, at, kind, all, v)
		}
		r.Issue(at, "invalid_value", message)
		return v
	}}
}

func (b *builder) enum(e *code.Expr, s schema.Scope) *Schema {
	if len(e.Args) < 2 {
		return schema.Lost("an enum without its values is not followed")
	}
	v, ok := schema.Eval(b.w, s, e.Args[1])
	switch {
	case ok && v.Kind == schema.Array:
		return oneOf("enum", v.Elems)
	case ok && v.Kind == schema.Object:
		return oneOf(nativeEnum, v.Elems)
	}
	return schema.Lost("the values of an enum are not followed")
}
