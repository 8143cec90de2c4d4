package typescript

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/types"
)

// typeof is the type of a value by its name.
func (v *evaluator) typeof(name string, s *scope) *types.Type {
	first, rest, qualified := strings.Cut(name, ".")
	found := v.p.find(s, first, ofValues)
	if len(found) == 0 && qualified { // of a module or a namespace
		found = v.p.find(s, name, ofValues)
		rest, qualified = "", false
	}
	if len(found) == 0 {
		return types.Lost("the value " + name + " is not in the source")
	}
	t := v.valueOf(found)
	for qualified {
		first, rest, qualified = strings.Cut(rest, ".")
		t = types.At(t, types.Literal(first))
	}
	return t
}

// valueOf is the type of what some declarations declare as a value.
func (v *evaluator) valueOf(found []*decl) *types.Type {
	d := found[0]
	if t := v.values[d]; t != nil {
		return t
	}
	v.values[d] = types.Lost("the type of " + d.name + " leads to itself")
	t := types.Lost("the type of the value " + d.name + " is not followed")
	switch d.what {
	case isValue:
		switch {
		case d.typ != nil:
			t = v.of(d.typ, d.in, nil)
		case d.value != nil:
			t = v.valueType(d.value, d.in, d.isConst && d.value.Op != code.Dict && d.value.Op != code.List)
		}
	case isFunc:
		if d.result != nil {
			var e *env
			t = &types.Type{Kind: types.Function, Elems: []*types.Type{v.of(d.result, d.in, e)}, Written: "function"}
		} else {
			t = types.FunctionType
		}
	case isEnum:
		t = types.Lazy("typeof "+d.name, func() *types.Members {
			out := &types.Members{}
			for _, part := range found {
				for _, c := range v.constants(part) {
					out.Props = append(out.Props, types.NewProp(c.name, false, types.Plain, nil, func() *types.Type { return c.typ }))
				}
			}
			return out
		})
	case isClass:
		t = types.Lazy("typeof "+d.name, func() *types.Members {
			out := &types.Members{Called: true}
			for _, m := range d.members {
				if m.static && m.name != "" {
					out.Props = append(out.Props, v.prop(m, m.name, types.Plain, d.in, nil, d.unit))
				}
			}
			return out
		})
	}
	v.values[d] = t
	return t
}

// widened is the type of a value that may be given another: of a literal that of all of its kind.
func widened(t *types.Type) *types.Type {
	switch t.Kind {
	case types.StringLiteral, types.Template:
		if t.Enum {
			return t
		}
		return types.StringType
	case types.NumberLiteral:
		if t.Enum {
			return t
		}
		return types.NumberType
	case types.BoolLiteral:
		return types.BooleanType
	case types.Union:
		return each(t, widened)
	}
	return t
}

// valueType is the type of an expression; exact says that literals are of their own types: as const.
func (v *evaluator) valueType(e *code.Expr, s *scope, exact bool) *types.Type {
	v.depth++
	defer func() { v.depth-- }()
	if v.depth > maxTypes {
		return types.Lost("a value is deeper than is followed")
	}
	literal := func(t *types.Type) *types.Type {
		if exact {
			return t
		}
		return widened(t)
	}
	switch e.Op {
	case code.Text:
		if len(e.Args) > 0 {
			return types.StringType
		}
		return literal(types.Literal(e.Text))
	case code.Number:
		if strings.HasSuffix(e.Text, "n") {
			return types.BigIntType
		}
		if f, ok := parseNumber(e.Text); ok {
			return literal(types.NumberOf(f))
		}
	case code.As:
		switch {
		case e.Text == "const" && e.Type == nil:
			return v.valueType(e.Args[0], s, true)
		case slices.Contains(e.Does.All(), code.Upcast):
			return v.valueType(e.Args[0], s, exact)
		}
		if n := s.unit.nodeOf(e.Type); n != nil {
			return v.of(n, s, nil)
		}
	case code.Name:
		switch e.Text {
		case "true":
			return literal(types.TrueType)
		case "false":
			return literal(types.FalseType)
		case "null":
			return types.NullType
		case "undefined":
			return types.UndefinedType
		}
		if found := v.p.find(s, e.Text, ofValues); len(found) > 0 {
			return literal(v.valueOf(found))
		}
	case code.Member:
		if len(e.Args) == 1 {
			if of := v.valueType(e.Args[0], s, true); of.Kind != types.Unresolved {
				return literal(types.At(of, types.Literal(e.Text)))
			}
		}
	case code.Dict:
		return v.literalObject(e, s, exact)
	case code.List:
		elems := make([]*types.Type, len(e.Args))
		for i, a := range e.Args {
			if a.Op == code.Spread {
				return types.Lost("a list that others are spread in is not followed")
			}
			elems[i] = v.valueType(a, s, exact)
		}
		if exact {
			t := &types.Type{Kind: types.Tuple, Elems: elems, Optional: make([]bool, len(elems)), Rest: -1, Written: "a list"}
			return t
		}
		if len(elems) == 0 {
			return types.ListOf(types.AnyType, "any[]")
		}
		elem := types.UnionOf(elems...)
		return types.ListOf(elem, bracketed(elem)+"[]")
	case code.Lambda:
		if fn := e.Fn; fn != nil && fn.Returns != nil {
			if n := s.unit.nodeOf(fn.Returns); n != nil {
				return &types.Type{Kind: types.Function, Elems: []*types.Type{v.of(n, s, nil)}, Written: "function"}
			}
		}
		return types.FunctionType
	case code.Unary:
		switch e.Text {
		case "!", "delete":
			return types.BooleanType
		case "-", "+", "~":
			return types.NumberType
		case "typeof":
			return types.StringType
		case "void":
			return types.UndefinedType
		}
	case code.Binary:
		switch e.Text {
		case "-", "*", "/", "%", "**", "<<", ">>", ">>>", "&", "|", "^":
			return types.NumberType
		case "&&":
		default:
			return types.BooleanType
		}
	case code.Plus:
		a, b := v.valueType(e.Args[0], s, false), v.valueType(e.Args[1], s, false)
		switch {
		case a.Kind == types.String || b.Kind == types.String:
			return types.StringType
		case a.Kind == types.Number && b.Kind == types.Number:
			return types.NumberType
		}
	case code.Choice:
		if len(e.Args) == 2 {
			a, b := v.valueType(e.Args[0], s, exact), v.valueType(e.Args[1], s, exact)
			if e.Text == "??" || e.Text == "||" {
				a = a.Without(func(t *types.Type) bool { return t.Kind == types.Null || t.Kind == types.Undefined })
			}
			if a.Kind != types.Unresolved && b.Kind != types.Unresolved {
				return types.UnionOf(a, b)
			}
		}
	case code.Call:
		return v.called(e, s)
	case code.Other:
		if e.Text == "RegExp" {
			return &types.Type{Kind: types.BuiltIn, Text: "RegExp", Written: "RegExp"}
		}
	}
	return types.Lost("what it is given is computed, which is not followed")
}

func (v *evaluator) literalObject(e *code.Expr, s *scope, exact bool) *types.Type {
	return types.Lazy("an object", func() *types.Members {
		out := &types.Members{}
		for i := 0; i+1 < len(e.Args); i += 2 {
			key, value := e.Args[i], e.Args[i+1]
			if value.Op == code.Spread {
				if of := v.valueType(value.Args[0], s, exact); of.Kind == types.Object {
					for _, p := range of.Members().Props {
						out.Props = slices.DeleteFunc(out.Props, func(o *types.Prop) bool { return o.Name == p.Name })
						out.Props = append(out.Props, p)
					}
				} else {
					out.Lost = "what is spread in it is not followed"
				}
				continue
			}
			name := key.Text
			if key.Op != code.Text || len(key.Args) > 0 {
				t := v.valueType(key, s, true)
				if t.Kind != types.StringLiteral && t.Kind != types.NumberLiteral {
					out.Lost = "a computed key of it is not followed"
					continue
				}
				name = t.Text
			}
			out.Props = slices.DeleteFunc(out.Props, func(o *types.Prop) bool { return o.Name == name })
			out.Props = append(out.Props, types.NewProp(name, false, types.Plain, nil, func() *types.Type { return v.valueType(value, s, exact) }))
		}
		return out
	})
}

// called is the type of what a call yields.
func (v *evaluator) called(e *code.Expr, s *scope) *types.Type {
	callee := e.Args[0]
	name := dotted(callee)
	switch name {
	case "Object.freeze":
		if len(e.Args) == 2 {
			return v.valueType(e.Args[1], s, true)
		}
	case "Date.now", "Number", "parseInt", "parseFloat", "Number.parseInt", "Number.parseFloat", "Math.floor", "Math.round", "Math.random", "performance.now":
		return types.NumberType
	case "String", "JSON.stringify", "crypto.randomUUID":
		return types.StringType
	case "Boolean":
		return types.BooleanType
	}
	if e.Const { // new
		if builtIns[name] {
			return &types.Type{Kind: types.BuiltIn, Text: name, Written: name}
		}
		if name == "Array" {
			elem := types.AnyType
			if len(e.Types) == 1 {
				if n := s.unit.nodeOf(e.Types[0]); n != nil {
					elem = v.of(n, s, nil)
				}
			}
			return types.ListOf(elem, bracketed(elem)+"[]")
		}
		if found := v.p.find(s, name, ofTypes); len(found) > 0 && found[0].what == isClass {
			var args []*types.Type
			for _, t := range e.Types {
				if n := s.unit.nodeOf(t); n != nil {
					args = append(args, v.of(n, s, nil))
				}
			}
			return v.instance(found, args)
		}
	} else if callee.Op == code.Name {
		if found := v.p.find(s, name, ofValues); len(found) > 0 {
			if t := v.valueOf(found); t.Kind == types.Function && len(t.Elems) > 0 {
				return t.Elems[0]
			}
		}
	} else if callee.Op == code.Member {
		switch callee.Text {
		case "toString", "toISOString", "trim", "toUpperCase", "toLowerCase", "join", "slice", "padStart", "replace":
			return types.StringType
		}
	}
	return types.Lost("what it is given is computed, which is not followed")
}

// dotted is a name with what it is a member of, "" for what is none.
func dotted(e *code.Expr) string {
	switch e.Op {
	case code.Name:
		return e.Text
	case code.Member:
		if len(e.Args) == 1 {
			if of := dotted(e.Args[0]); of != "" {
				return of + "." + e.Text
			}
		}
	}
	return ""
}

// constant is a member of an enum with its type.
type constant struct {
	name string
	typ  *types.Type
}

// constants are the members of an enum with what each stands for; what is computed may be any number.
func (v *evaluator) constants(d *decl) []constant {
	var out []constant
	next, counted := 0.0, true
	for _, c := range d.cases {
		var t *types.Type
		if c.value != nil {
			n, text, ok := v.constantOf(c.value, d, out)
			switch {
			case !ok:
				t, counted = nil, false
			case text != nil:
				t, counted = types.Literal(*text), false
			default:
				t, next, counted = types.NumberOf(n), n+1, true
			}
		} else if counted && !d.ambient {
			t = types.NumberOf(next)
			next++
		}
		if t == nil {
			t = &types.Type{Kind: types.EnumNumber, Written: d.name}
		}
		t.Enum = true
		out = append(out, constant{c.name, t})
	}
	return out
}

// constantOf is the value of a constant expression of an enum.
func (v *evaluator) constantOf(e *code.Expr, d *decl, before []constant) (n float64, text *string, ok bool) {
	two := func() (a, b float64, ok bool) {
		a, at, aok := v.constantOf(e.Args[0], d, before)
		b, bt, bok := v.constantOf(e.Args[1], d, before)
		return a, b, aok && bok && at == nil && bt == nil
	}
	switch e.Op {
	case code.Text:
		if len(e.Args) == 0 {
			return 0, &e.Text, true
		}
	case code.Number:
		n, ok = parseNumber(e.Text)
		return n, nil, ok
	case code.Name, code.Member:
		name := e.Text
		for _, c := range before {
			if c.name == name && (e.Op == code.Name || dotted(e.Args[0]) == d.name) {
				switch c.typ.Kind {
				case types.NumberLiteral:
					n, ok = parseNumber(c.typ.Text)
					return n, nil, ok
				case types.StringLiteral:
					return 0, &c.typ.Text, true
				}
			}
		}
		switch t := v.valueType(e, d.in, true); t.Kind {
		case types.NumberLiteral:
			n, ok = parseNumber(t.Text)
			return n, nil, ok
		case types.StringLiteral:
			return 0, &t.Text, true
		}
	case code.Unary:
		n, text, ok = v.constantOf(e.Args[0], d, before)
		if !ok || text != nil {
			return 0, nil, false
		}
		switch e.Text {
		case "-":
			return -n, nil, true
		case "+":
			return n, nil, true
		case "~":
			return float64(^int32(n)), nil, true
		}
	case code.Plus:
		a, at, aok := v.constantOf(e.Args[0], d, before)
		b, bt, bok := v.constantOf(e.Args[1], d, before)
		switch {
		case !aok || !bok:
		case at == nil && bt == nil:
			return a + b, nil, true
		default:
			joined := types.Digits(a) + types.Digits(b)
			if at != nil && bt != nil {
				joined = *at + *bt
			} else if at != nil {
				joined = *at + types.Digits(b)
			} else {
				joined = types.Digits(a) + *bt
			}
			return 0, &joined, true
		}
	case code.Binary:
		a, b, fine := two()
		if !fine {
			return 0, nil, false
		}
		switch e.Text {
		case "<<":
			return float64(int32(a) << (uint32(b) & 31)), nil, true
		case ">>":
			return float64(int32(a) >> (uint32(b) & 31)), nil, true
		case "|":
			return float64(int32(a) | int32(b)), nil, true
		case "&":
			return float64(int32(a) & int32(b)), nil, true
		case "^":
			return float64(int32(a) ^ int32(b)), nil, true
		case "-":
			return a - b, nil, true
		case "*":
			return a * b, nil, true
		case "/":
			return a / b, nil, true
		}
	}
	return 0, nil, false
}
