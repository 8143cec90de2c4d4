package typescript

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/types"
	"vetta/internal/wire"
)

// fitting holds a value to a type, as the compiler would hold a literal of it (tsc --strict).
type fitting struct {
	loose   bool // strictNullChecks is off
	unknown [][]wire.Step
	depth   int
}

// maxDeep is how far types that hold themselves are gone into without a value that goes on.
const maxDeep = 400

// difference is a place where a value is not of its type.
func difference(at []wire.Step, reason, message string) decoder.Difference {
	return decoder.Difference{At: slices.Clone(at), Reason: reason, Message: message}
}

// fit are the places where a value differs from a type.
func (f *fitting) fit(t *types.Type, v *wire.Value, at []wire.Step) []decoder.Difference {
	f.depth++
	defer func() { f.depth-- }()
	if f.depth > maxDeep {
		return nil
	}
	switch t.Kind {
	case types.Any, types.Unknown:
		return nil
	case types.Unresolved, types.Parameter, types.KeyOf:
		f.unknown = append(f.unknown, slices.Clone(at))
		return nil
	case types.Union:
		return f.union(t, v, at)
	}
	if v.Kind == wire.Null {
		if f.loose && t.Kind != types.Never || t.Kind == types.Null {
			return nil
		}
		return one(at, "null", notOf(v, t))
	}
	switch t.Kind {
	case types.Never, types.Undefined:
		return one(at, "never", notOf(v, t))
	case types.String:
		return append(kind(v.Kind == wire.String, v, t, at), f.borrowed(v, stringMembers, nil, at)...)
	case types.Number, types.EnumNumber:
		return kind(v.Kind == wire.Number, v, t, at)
	case types.Boolean:
		return kind(v.Kind == wire.Bool, v, t, at)
	case types.StringLiteral, types.Template, types.Cased:
		if v.Kind != wire.String {
			return kind(false, v, t, at)
		}
		if text, _ := v.Text(); !types.Matches(t, text) {
			return one(at, "literal", notOf(v, t))
		}
		return nil
	case types.NumberLiteral:
		if v.Kind != wire.Number {
			return kind(false, v, t, at)
		}
		if n, err := strconv.ParseFloat(string(v.Raw), 64); err != nil || types.Digits(n) != t.Text {
			return one(at, "literal", notOf(v, t))
		}
		return nil
	case types.BoolLiteral:
		if v.Kind != wire.Bool {
			return kind(false, v, t, at)
		}
		if string(v.Raw) != t.Text {
			return one(at, "literal", notOf(v, t))
		}
		return nil
	case types.NonPrimitive:
		return kind(v.Kind >= wire.Array, v, t, at)
	case types.Array:
		if v.Kind != wire.Array {
			return append(kind(false, v, t, at), f.borrowed(v, arrayMembers, t.Elems[0], at)...)
		}
		var out []decoder.Difference
		for i, e := range v.Elems {
			out = append(out, f.fit(t.Elems[0], e, append(at, wire.Step{Index: i}))...)
		}
		return out
	case types.Tuple:
		return f.tuple(t, v, at)
	case types.Object:
		return f.object(t, v, at)
	case types.Brand:
		if inner := f.fit(t.Elems[0], v, at); len(inner) > 0 {
			return inner
		}
		return one(at, "brand", notOf(v, t))
	}
	return kind(false, v, t, at) // functions, classes of the platform, bigint, symbols, undefined
}

func one(at []wire.Step, reason, message string) []decoder.Difference {
	return []decoder.Difference{difference(at, reason, message)}
}

func kind(ok bool, v *wire.Value, t *types.Type, at []wire.Step) []decoder.Difference {
	if ok {
		return nil
	}
	return one(at, "kind", notOf(v, t))
}

// notOf is what the compiler says of a value that is not of a type.
func notOf(v *wire.Value, t *types.Type) string {
	return fmt.Sprintf("TS2322: Type '%s' is not assignable to type '%s'.", typed(v, t), t)
}

// typed is the type of a value, as the compiler calls it where another is wanted.
func typed(v *wire.Value, want *types.Type) string {
	switch v.Kind {
	case wire.Null:
		return "null"
	case wire.Bool:
		if slices.ContainsFunc(want.Each(false), func(t *types.Type) bool { return t.Kind == types.BoolLiteral }) {
			return string(v.Raw)
		}
		return "boolean"
	case wire.Number:
		if slices.ContainsFunc(want.Each(false), func(t *types.Type) bool { return t.Kind == types.NumberLiteral }) {
			return string(v.Raw)
		}
		return "number"
	case wire.String:
		if slices.ContainsFunc(want.Each(false), func(t *types.Type) bool { return t.Kind == types.StringLiteral || t.Kind == types.Template }) {
			return string(v.Raw)
		}
		return "string"
	case wire.Array:
		if len(v.Elems) == 0 {
			return "never[]"
		}
		return typed(v.Elems[0], types.AnyType) + "[]"
	}
	return "{ … }"
}

func (f *fitting) tuple(t *types.Type, v *wire.Value, at []wire.Step) []decoder.Difference {
	if v.Kind != wire.Array {
		return kind(false, v, t, at)
	}
	least, n := 0, len(t.Elems)
	for i := range t.Elems {
		if !t.Optional[i] && i != t.Rest {
			least++
		}
	}
	if len(v.Elems) < least || t.Rest < 0 && len(v.Elems) > n {
		wants := "requires"
		if len(v.Elems) > n {
			wants = "allows only"
			least = n
		}
		return one(at, "length", fmt.Sprintf("TS2322: Source has %d element(s) but target %s %d.", len(v.Elems), wants, least))
	}
	var out []decoder.Difference
	for i, e := range v.Elems {
		k := i
		if t.Rest >= 0 && i >= t.Rest {
			if behind := len(v.Elems) - i; behind <= n-1-t.Rest {
				k = n - behind
			} else {
				k = t.Rest
			}
		}
		out = append(out, f.fit(t.Elems[k], e, append(at, wire.Step{Index: i}))...)
	}
	return out
}

// member is the value of a key of an object: of several the last, as JSON.parse has it.
func member(v *wire.Value, name string) *wire.Value {
	for i := len(v.Members) - 1; i >= 0; i-- {
		if v.Members[i].Name == name {
			return v.Members[i].Value
		}
	}
	return nil
}

func (f *fitting) object(t *types.Type, v *wire.Value, at []wire.Step) []decoder.Difference {
	o := t.Members()
	if o.Lost != "" {
		f.unknown = append(f.unknown, slices.Clone(at))
		return nil
	}
	if v.Kind != wire.Object {
		if isEmpty(o) {
			return nil // {}: anything but null
		}
		if v.Kind != wire.Array || o.Called || o.Symbols {
			return kind(false, v, t, at)
		}
		return f.listAs(o, t, v, at)
	}
	if o.Called || o.Symbols {
		return kind(false, v, t, at)
	}
	var out []decoder.Difference
	for _, p := range o.Props {
		value := member(v, p.Name)
		here := append(at, wire.MemberOf(p.Name))
		if value == nil {
			if !p.Optional && !(objectMembers[p.Name] && isFunction(p.Type())) {
				out = append(out, missing(p, t, here))
			}
			continue
		}
		if p.How == types.Private {
			out = append(out, difference(here, "private", fmt.Sprintf("TS2322: Property '%s' is private in type '%s'.", p.Name, t)))
			continue
		}
		of := p.Type()
		if p.Optional && of.Kind == types.Never && value.Kind == wire.Null && !f.loose {
			out = append(out, difference(here, "null", notOf(value, of)))
			continue
		}
		out = append(out, f.fit(of, value, here)...)
	}
	for i := range v.Members {
		m := &v.Members[i]
		if o.Prop(m.Name) != nil || member(v, m.Name) != m.Value {
			continue
		}
		for _, ix := range o.Index {
			if ix.Admits(m.Name) {
				out = append(out, f.fit(ix.Value, m.Value, append(at, wire.MemberOf(m.Name)))...)
				break
			}
		}
	}
	return out
}

func isEmpty(o *types.Members) bool {
	return len(o.Props) == 0 && len(o.Index) == 0 && !o.Called && !o.Symbols
}

// missing is the difference of a member that must be there and is not.
func missing(p *types.Prop, t *types.Type, at []wire.Step) decoder.Difference {
	reason := "missing"
	switch {
	case p.How != types.Plain:
		reason = string(p.How)
	case isFunction(p.Type()):
		reason = "method"
	}
	return difference(at, reason, fmt.Sprintf("TS2741: Property '%s' is missing in type '{ … }' but required in type '%s'.", p.Name, t))
}

func isFunction(t *types.Type) bool {
	all := t.Without(func(t *types.Type) bool { return t.Kind == types.Null || t.Kind == types.Undefined }).Each(false)
	return len(all) > 0 && !slices.ContainsFunc(all, func(t *types.Type) bool { return t.Kind != types.Function })
}

// union holds a value to a union: to the member that it fits, else to the one that it was meant to be.
func (f *fitting) union(t *types.Type, v *wire.Value, at []wire.Step) []decoder.Difference {
	if v.Kind == wire.Null {
		if f.loose || t.Takes(types.Null) {
			return nil
		}
		if t.Takes(types.Any) {
			return nil
		}
		return one(at, "null", notOf(v, t))
	}
	all := slices.DeleteFunc(slices.Clone(t.Elems), func(t *types.Type) bool { return t.Kind == types.Null || t.Kind == types.Undefined })
	var near, unknown []*types.Type
	for _, m := range all {
		switch {
		case m.Kind == types.Unresolved || m.Kind == types.Parameter:
			unknown = append(unknown, m)
		case alike(m, v.Kind):
			near = append(near, m)
		}
	}
	if v.Kind == wire.Object {
		if fits, out := f.objects(t, near, v, at); fits || len(unknown) == 0 {
			return out
		}
	} else {
		var first []decoder.Difference
		for i, m := range near {
			out := f.fit(m, v, at)
			if len(out) == 0 {
				return nil
			}
			if i == 0 {
				first = out
			}
		}
		switch {
		case len(unknown) > 0:
		case len(near) == 0:
			return one(at, "kind", notOf(v, t))
		case v.Kind == wire.Array && len(near) > 1:
			return one(at, "union", notOf(v, t))
		case v.Kind == wire.Array:
			return first
		case slices.ContainsFunc(near, func(m *types.Type) bool { return m.Kind == types.Brand }) && !slices.ContainsFunc(near, func(m *types.Type) bool { return m.Kind != types.Brand }):
			return one(at, "brand", notOf(v, t))
		default:
			return one(at, "literal", notOf(v, t))
		}
	}
	f.unknown = append(f.unknown, slices.Clone(at))
	return nil
}

// alike says whether values of a kind may be of a type.
func alike(t *types.Type, k wire.Kind) bool {
	switch t.Kind {
	case types.String, types.StringLiteral, types.Template, types.Cased:
		return k == wire.String
	case types.Number, types.NumberLiteral, types.EnumNumber:
		return k == wire.Number
	case types.Boolean, types.BoolLiteral:
		return k == wire.Bool
	case types.Array, types.Tuple:
		return k == wire.Array
	case types.NonPrimitive:
		return k >= wire.Array
	case types.Object:
		return k == wire.Object || isEmpty(t.Members())
	case types.Brand:
		return alike(t.Elems[0], k)
	}
	return false
}

// objects holds an object to those members of a union that are object types, and says whether it fits one of them.
func (f *fitting) objects(t *types.Type, near []*types.Type, v *wire.Value, at []wire.Step) (fits bool, out []decoder.Difference) {
	switch len(near) {
	case 0:
		return false, one(at, "kind", notOf(v, t))
	case 1:
		out = f.fit(near[0], v, at)
		return len(out) == 0, out
	}
	told, wrong := f.told(near, v, at)
	narrowed := len(told) < len(near)
	if len(told) == 1 {
		out = f.fit(told[0], v, at)
		return len(out) == 0, out
	}
	tried := make([][]decoder.Difference, len(told))
	for i, m := range told {
		if tried[i] = f.fit(m, v, at); len(tried[i]) == 0 {
			if narrowed {
				return true, nil
			}
			return true, f.strangers(m, near, v, at)
		}
	}
	if len(wrong) > 0 {
		return false, merge(wrong, common(tried))
	}
	best := -1
	for i := range tried {
		whole := !slices.ContainsFunc(tried[i], func(d decoder.Difference) bool {
			return len(d.At) == len(at)+1 && (d.Reason == "missing" || d.Reason == "method" || d.Reason == "accessor" || d.Reason == "private")
		})
		if whole && (best < 0 || len(tried[i]) < len(tried[best])) {
			best = i
		}
	}
	if best >= 0 {
		return false, tried[best]
	}
	if shared := common(tried); len(shared) > 0 {
		return false, shared
	}
	return false, one(at, "union", notOf(v, t))
}

// told are the object types of a union that an object may be meant as by the keys that tell them apart: those that have
// single values in them. wrong is where such a key has a value that none of them has.
func (f *fitting) told(near []*types.Type, v *wire.Value, at []wire.Step) (left []*types.Type, wrong []decoder.Difference) {
	left = near
	for _, name := range tellers(near) {
		value := member(v, name)
		if value == nil {
			continue
		}
		var kept, of []*types.Type
		for _, m := range left {
			p := m.Members().Prop(name)
			if p == nil {
				kept = append(kept, m)
				continue
			}
			of = append(of, p.Type())
			inner := fitting{loose: f.loose}
			if len(inner.fit(p.Type(), value, nil)) == 0 {
				kept = append(kept, m)
			}
		}
		if len(kept) == 0 {
			wrong = append(wrong, f.fit(types.UnionOf(of...), value, append(at, wire.MemberOf(name)))...)
			continue
		}
		left = kept
	}
	return left, wrong
}

// tellers are the keys by which objects of a union are told apart: in at least one of them of single values, and not of
// the same ones in all.
func tellers(all []*types.Type) (names []string) {
	for _, m := range all {
		if m.Kind != types.Object {
			continue
		}
		for _, p := range m.Members().Props {
			if p.How != types.Plain || slices.Contains(names, p.Name) || !single(p.Type()) {
				continue
			}
			apart := false
			for _, other := range all {
				if other.Kind != types.Object {
					continue
				}
				q := other.Members().Prop(p.Name)
				if q == nil {
					apart = false
					break
				}
				apart = apart || !types.Same(q.Type(), p.Type())
			}
			if apart {
				names = append(names, p.Name)
			}
		}
	}
	return names
}

// single says whether a type is of literals alone.
func single(t *types.Type) bool {
	all := t.Each(true)
	return len(all) > 0 && !slices.ContainsFunc(all, func(t *types.Type) bool {
		switch t.Kind {
		case types.StringLiteral, types.NumberLiteral, types.BoolLiteral, types.Null, types.Undefined:
			return false
		}
		return true
	}) && t.Kind != types.Boolean && slices.ContainsFunc(all, func(t *types.Type) bool { return t.Kind != types.Undefined })
}

// strangers are the differences of keys that the object type which a value fits does not have and others of the union do:
// the compiler holds their values to those.
func (f *fitting) strangers(m *types.Type, near []*types.Type, v *wire.Value, at []wire.Step) (out []decoder.Difference) {
	if m.Kind != types.Object {
		return nil
	}
	for i := range v.Members {
		key := &v.Members[i]
		if m.Members().Prop(key.Name) != nil || slices.ContainsFunc(m.Members().Index, func(ix types.Index) bool { return ix.Admits(key.Name) }) {
			continue
		}
		var of []*types.Type
		for _, other := range near {
			if other.Kind != types.Object {
				continue
			}
			if p := other.Members().Prop(key.Name); p != nil {
				of = append(of, p.Type())
			}
		}
		if len(of) > 0 {
			out = append(out, f.fit(types.UnionOf(of...), key.Value, append(at, wire.MemberOf(key.Name)))...)
		}
	}
	return out
}

// common are the differences that are in all of some lists.
func common(all [][]decoder.Difference) (out []decoder.Difference) {
	for _, d := range all[0] {
		in := true
		for _, other := range all[1:] {
			in = in && slices.ContainsFunc(other, func(o decoder.Difference) bool { return o.Reason == d.Reason && slices.Equal(o.At, d.At) })
		}
		if in {
			out = append(out, d)
		}
	}
	return out
}

func merge(a, b []decoder.Difference) []decoder.Difference {
	for _, d := range b {
		if !slices.ContainsFunc(a, func(o decoder.Difference) bool { return slices.Equal(o.At, d.At) }) {
			a = append(a, d)
		}
	}
	return a
}

// listAs holds a list to an object type: one whose keys are numbers takes it. Of another the compiler tells of the
// elements too, where the type says what is under any key.
func (f *fitting) listAs(o *types.Members, t *types.Type, v *wire.Value, at []wire.Step) (out []decoder.Difference) {
	takes := len(o.Props) == 0
	for _, ix := range o.Index {
		takes = takes && ix.Key.Kind == types.Number
	}
	if !takes {
		out = kind(false, v, t, at)
	}
	for _, ix := range o.Index {
		if ix.Key.Kind != types.Number && ix.Key.Kind != types.String {
			continue
		}
		for i, e := range v.Elems {
			out = append(out, f.fit(ix.Value, e, append(at, wire.Step{Index: i}))...)
		}
		break
	}
	return out
}

// The members that all objects, arrays and strings have (lib.es5.d.ts to lib.es2023.d.ts), as far as a document may have a
// key of their name.
var (
	objectMembers = words("constructor toString toLocaleString valueOf hasOwnProperty isPrototypeOf propertyIsEnumerable")
	arrayMembers  = words("at concat copyWithin entries every fill filter find findIndex findLast findLastIndex flat flatMap forEach includes indexOf join keys lastIndexOf map pop push reduce reduceRight reverse shift slice some sort splice toReversed toSorted toSpliced unshift values with")
	stringMembers = words("at charAt concat includes match replace search slice split trim link sub sup big bold small anchor repeat")
)

func words(text string) map[string]bool {
	all := map[string]bool{}
	for _, w := range strings.Fields(text) {
		all[w] = true
	}
	return all
}

// borrowed are the differences of an object where a list or a string is declared: the compiler holds its keys to the
// members that those have, which are functions, and to the elements.
func (f *fitting) borrowed(v *wire.Value, members map[string]bool, elem *types.Type, at []wire.Step) (out []decoder.Difference) {
	for i := range v.Members {
		m := &v.Members[i]
		here := append(at, wire.MemberOf(m.Name))
		switch {
		case m.Name == "length":
			out = append(out, f.fit(types.NumberType, m.Value, here)...)
		case members[m.Name]:
			out = append(out, f.fit(types.FunctionType, m.Value, here)...)
		case elem != nil && types.Index{Key: types.NumberType}.Admits(m.Name):
			out = append(out, f.fit(elem, m.Value, here)...)
		}
	}
	return out
}
