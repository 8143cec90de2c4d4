package typescript

import (
	"slices"
	"strings"

	"vetta/internal/types"
)

// builtIns are classes of the platform, instances of which no document holds.
var builtIns = names(`Date Map Set WeakMap WeakSet ReadonlyMap ReadonlySet RegExp URL URLSearchParams Error TypeError RangeError Blob File FileList FormData
	Headers Request Response ArrayBuffer SharedArrayBuffer DataView Int8Array Uint8Array Uint8ClampedArray Int16Array Uint16Array Int32Array Uint32Array Float32Array
	Float64Array BigInt64Array BigUint64Array Buffer Promise PromiseLike Symbol BigInt Element HTMLElement Node Document Event AbortController AbortSignal ReadableStream
	Iterator Iterable AsyncIterable Generator Observable Subject BehaviorSubject Subscription Temporal`)

func names(text string) map[string]bool {
	out := map[string]bool{}
	for _, w := range strings.Fields(text) {
		out[w] = true
	}
	return out
}

// library is a type that the compiler or the platform declares (lib.es5.d.ts).
func (v *evaluator) library(n *node, s *scope, e *env) *types.Type {
	args := v.args(n.args, s, e)
	arg := func(i int) *types.Type {
		if i < len(args) {
			return args[i]
		}
		return types.AnyType
	}
	lost := func(all ...*types.Type) *types.Type {
		for _, t := range all {
			if t.Kind == types.Unresolved || t.Kind == types.Parameter {
				return t
			}
		}
		return nil
	}
	switch n.name {
	case "Array", "ReadonlyArray":
		return types.ListOf(arg(0), bracketed(arg(0))+"[]")
	case "Record":
		return v.record(arg(0), arg(1))
	case "Partial", "Required", "Readonly":
		return each(arg(0), func(t *types.Type) *types.Type {
			switch {
			case t.Kind == types.Array && n.name != "Readonly":
				return t
			case t.Kind != types.Object:
				return t
			}
			return reshaped(t, n.name+"<"+t.String()+">", func(p *types.Prop) *types.Prop {
				switch n.name {
				case "Partial":
					return p.With(true, nil)
				case "Required":
					return p.With(false, func() *types.Type {
						return p.Type().Without(func(t *types.Type) bool { return t.Kind == types.Undefined && p.Optional })
					})
				}
				return p
			})
		})
	case "Pick", "Omit":
		keys := arg(1)
		if l := lost(arg(0), keys); l != nil {
			return l
		}
		named := func(p *types.Prop) bool {
			return slices.ContainsFunc(keys.Each(false), func(k *types.Type) bool { return types.Matches(k, p.Name) })
		}
		written := n.name + "<" + arg(0).String() + ", " + keys.String() + ">"
		pick := func(t *types.Type) *types.Type {
			if t.Kind == types.Union && n.name == "Omit" { // what all have
				t = common(t)
			}
			if t.Kind != types.Object {
				return t
			}
			return reshaped(t, written, func(p *types.Prop) *types.Prop {
				if p.How == types.Private || named(p) != (n.name == "Pick") {
					return nil
				}
				return p
			})
		}
		if n.name == "Pick" {
			return each(arg(0), pick)
		}
		return pick(arg(0))
	case "Exclude", "Extract":
		if l := lost(arg(0), arg(1)); l != nil {
			return l
		}
		var kept []*types.Type
		for _, t := range arg(0).Each(true) {
			if types.Fits(t, arg(1)) == (n.name == "Extract") {
				kept = append(kept, t)
			}
		}
		return types.UnionOf(kept...)
	case "NonNullable":
		return arg(0).Without(func(t *types.Type) bool { return t.Kind == types.Null || t.Kind == types.Undefined })
	case "Awaited":
		return each(arg(0), func(t *types.Type) *types.Type {
			for t.Kind == types.BuiltIn && (t.Text == "Promise" || t.Text == "PromiseLike") && len(t.Args) == 1 {
				t = t.Args[0]
			}
			return t
		})
	case "ReturnType":
		if t := arg(0); t.Kind == types.Function && len(t.Elems) > 0 {
			return t.Elems[0]
		}
	case "Uppercase", "Lowercase", "Capitalize", "Uncapitalize":
		return each(arg(0), func(t *types.Type) *types.Type {
			switch t.Kind {
			case types.StringLiteral:
				return types.Literal(types.Recase(n.name, t.Text))
			case types.String:
				return &types.Type{Kind: types.Cased, Text: n.name, Written: n.name + "<string>"}
			case types.Template:
				return &types.Type{Kind: types.Cased, Text: n.name, Elems: []*types.Type{t}, Written: n.name + "<" + t.String() + ">"}
			}
			return t
		})
	case "PropertyKey":
		return types.UnionOf(types.StringType, types.NumberType, types.SymbolType)
	case "NoInfer", "ThisType":
		return arg(0)
	}
	if builtIns[n.name] {
		return &types.Type{Kind: types.BuiltIn, Text: n.name, Args: args, Written: v.written(n, s)}
	}
	return types.Lost("the type " + n.name + " is not in the source")
}

// each is what becomes of a type, of each member of a union by itself.
func each(t *types.Type, do func(*types.Type) *types.Type) *types.Type {
	if t.Kind != types.Union {
		return do(t)
	}
	all := make([]*types.Type, len(t.Elems))
	for i, e := range t.Elems {
		all[i] = do(e)
	}
	return types.UnionOf(all...)
}

// reshaped is an object type with its members replaced; those that are nil are left out.
func reshaped(t *types.Type, written string, replace func(*types.Prop) *types.Prop) *types.Type {
	return types.Lazy(written, func() *types.Members {
		from := t.Members()
		out := &types.Members{Index: from.Index, Lost: from.Lost}
		for _, p := range from.Props {
			if q := replace(p); q != nil {
				out.Props = append(out.Props, q)
			}
		}
		return out
	})
}

// common is an object type of the members that all of a union have.
func common(t *types.Type) *types.Type {
	return types.Lazy(t.String(), func() *types.Members {
		out := &types.Members{}
		first := t.Elems[0]
		if first.Kind != types.Object {
			return &types.Members{Lost: "what all of " + t.String() + " have is not followed"}
		}
		for _, p := range first.Members().Props {
			optional, all := p.Optional, []*types.Type{p.Type()}
			for _, e := range t.Elems[1:] {
				if e.Kind != types.Object {
					return &types.Members{Lost: "what all of " + t.String() + " have is not followed"}
				}
				q := e.Members().Prop(p.Name)
				if q == nil {
					all = nil
					break
				}
				optional, all = optional || q.Optional, append(all, q.Type())
			}
			if all != nil {
				out.Props = append(out.Props, p.With(optional, func() *types.Type { return types.UnionOf(all...) }))
			}
		}
		return out
	})
}

// record is the type of objects with some keys and values of one type.
func (v *evaluator) record(keys, value *types.Type) *types.Type {
	t := types.Lazy("Record<"+keys.String()+", "+value.String()+">", func() *types.Members {
		return keyed(keys, func(string) (*types.Type, bool) { return value, false })
	})
	if keys.Kind == types.Unresolved {
		return keys
	}
	return t
}

// keyed are the members of an object type with some keys.
func keyed(keys *types.Type, of func(name string) (value *types.Type, optional bool)) *types.Members {
	out := &types.Members{}
	for _, k := range keys.Each(false) {
		switch k.Kind {
		case types.StringLiteral, types.NumberLiteral:
			value, optional := of(k.Text)
			out.Props = append(out.Props, types.NewProp(k.Text, optional, types.Plain, nil, func() *types.Type { return value }))
		case types.Unresolved:
			out.Lost = k.Text
		case types.Parameter:
			out.Lost = "what " + k.Text + " stands for is not told"
		case types.Symbol:
		default:
			value, _ := of("")
			if k.Kind == types.Any {
				k = types.StringType
			}
			out.Index = append(out.Index, types.Index{Key: k, Value: value})
		}
	}
	return out
}
