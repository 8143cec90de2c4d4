// Package clr is what the libraries share that decode into classes of C#: types of the platform and what they hold
// before anything is read, numbers, dates, texts. The rules are those of .NET 10, measured (testdata/truth/csharp),
// and as its documentation has them where that says more.
package clr

import (
	"slices"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/model"
)

// whole are the integers with their ranges.
var whole = map[string]struct {
	bits   int
	signed bool
	full   string
}{
	"sbyte": {8, true, "System.SByte"}, "byte": {8, false, "System.Byte"}, "short": {16, true, "System.Int16"}, "ushort": {16, false, "System.UInt16"},
	"int": {32, true, "System.Int32"}, "uint": {32, false, "System.UInt32"}, "long": {64, true, "System.Int64"}, "ulong": {64, false, "System.UInt64"},
	"nint": {64, true, "System.IntPtr"}, "nuint": {64, false, "System.UIntPtr"}, "Int128": {128, true, "System.Int128"}, "UInt128": {128, false, "System.UInt128"},
}

var fulls = map[string]string{
	"float": "System.Single", "double": "System.Double", "decimal": "System.Decimal", "bool": "System.Boolean", "char": "System.Char", "string": "System.String", "object": "System.Object", "Half": "System.Half",
	"List": "System.Collections.Generic.List`1", "Dictionary": "System.Collections.Generic.Dictionary`2", "HashSet": "System.Collections.Generic.HashSet`1",
	"ObservableCollection": "System.Collections.ObjectModel.ObservableCollection`1", "Collection": "System.Collections.ObjectModel.Collection`1", "ReadOnlyCollection": "System.Collections.ObjectModel.ReadOnlyCollection`1",
	"JsonElement": "System.Text.Json.JsonElement", "JsonDocument": "System.Text.Json.JsonDocument", "JsonNode": "System.Text.Json.Nodes.JsonNode", "JsonObject": "System.Text.Json.Nodes.JsonObject", "JsonArray": "System.Text.Json.Nodes.JsonArray",
	"JToken": "Newtonsoft.Json.Linq.JToken", "JObject": "Newtonsoft.Json.Linq.JObject", "JArray": "Newtonsoft.Json.Linq.JArray", "BigInteger": "System.Numerics.BigInteger",
}

// Bits is how wide an integer type is, and whether it has a sign; 0 for any other type.
func Bits(t *model.Type) (bits int, signed bool) {
	if t.Kind != model.Named || t.Model != nil {
		return 0, false
	}
	w := whole[t.Name]
	return w.bits, w.signed
}

// IsFloat says whether a type is a floating-point number: 16, 32 or 64 bits, 0 for none.
func IsFloat(t *model.Type) int {
	if t.Kind != model.Named || t.Model != nil {
		return 0
	}
	switch t.Name {
	case "Half":
		return 16
	case "float":
		return 32
	case "double":
		return 64
	}
	return 0
}

// IsNumber says whether a type is a number of the platform's.
func IsNumber(t *model.Type) bool {
	bits, _ := Bits(t)
	return bits > 0 || IsFloat(t) > 0 || t.Kind == model.Named && t.Model == nil && t.Name == "decimal"
}

// values are structs of the platform.
var values = map[string]bool{
	"bool": true, "char": true, "decimal": true, "DateTime": true, "DateTimeOffset": true, "DateOnly": true, "TimeOnly": true, "TimeSpan": true, "Guid": true, "Half": true,
	"BigInteger": true, "JsonElement": true, "Index": true, "Range": true, "KeyValuePair": true, "Vector2": true, "Vector3": true, "Complex": true, "ReadOnlyMemory": true, "Memory": true, "ImmutableArray": true,
}

// IsValue says whether a type is one of values, which null is none of.
func IsValue(t *model.Type) bool {
	switch t.Kind {
	case model.Optional:
		return IsValue(t.Args[0])
	case model.Tuple:
		return t.Name != "Tuple"
	case model.List, model.Unique, model.Map:
		return values[t.Class]
	case model.Named:
		if t.Model != nil {
			return t.Model.Kind == model.Struct || t.Model.Kind == model.Enum
		}
		return values[t.Name] || IsNumber(t)
	}
	return false
}

// Name is a type as messages of the platform have it: System.Collections.Generic.List`1[System.Int32].
func Name(t *model.Type) string {
	args := func() string {
		var all []string
		for _, a := range t.Args {
			all = append(all, Name(a))
		}
		return "[" + strings.Join(all, ",") + "]"
	}
	switch t.Kind {
	case model.Optional:
		if IsValue(t.Args[0]) {
			return "System.Nullable`1" + args()
		}
		return Name(t.Args[0])
	case model.List, model.Unique, model.Map:
		if strings.HasPrefix(t.Name, "[") {
			return Name(t.Args[0]) + t.Name
		}
		full := fulls[t.Class]
		if full == "" {
			full = "System.Collections.Generic." + t.Class + "`" + strconv.Itoa(len(t.Args))
		}
		return full + args()
	case model.Tuple:
		return "System.ValueTuple`" + strconv.Itoa(len(t.Args)) + args()
	}
	if t.Model != nil {
		name := strings.ReplaceAll(t.Model.Name, ".", "+")
		if t.Model.Package != "" {
			name = t.Model.Package + "." + name
		}
		if n := len(t.Model.Params); n > 0 {
			name += "`" + strconv.Itoa(n) + args()
		}
		return name
	}
	if w, ok := whole[t.Name]; ok {
		return w.full
	}
	if full := fulls[t.Name]; full != "" {
		return full
	}
	if values[t.Name] || t.Name == "Uri" || t.Name == "Version" {
		return "System." + t.Name
	}
	return t.Name
}

// Text is a type as the language writes it.
func Text(t *model.Type) string { return t.Written() }

// Zero is what a variable of a type holds before it is given anything: default(T).
func Zero(t *model.Type) decoder.Seen { return zero(t, 0) }

// maxNested is how many structs are looked into in each other: none can hold itself, whatever the source says.
const maxNested = 16

func zero(t *model.Type, depth int) decoder.Seen {
	if t.Kind == model.Optional || !IsValue(t) {
		return decoder.Seen{}
	}
	if depth > maxNested {
		return decoder.Seen{Kind: decoder.SeenUnknown}
	}
	if t.Model != nil {
		return zeroOf(t, depth)
	}
	switch t.Kind {
	case model.Tuple:
		out := decoder.Seen{Kind: decoder.SeenObject}
		for i, a := range t.Args {
			out.Names, out.Elems = append(out.Names, "Item"+strconv.Itoa(i+1)), append(out.Elems, zero(a, depth+1))
		}
		return out
	case model.Named:
		switch t.Name {
		case "bool":
			return decoder.Bool(false)
		case "char":
			return decoder.Seen{Kind: decoder.SeenString, Text: "\x00"}
		case "decimal":
			return decoder.Seen{Kind: decoder.SeenDecimal, Text: "0"}
		case "DateTime":
			return Date(0, 1, 1, 0, 0, 0, "", NoZone)
		case "DateTimeOffset":
			return Date(0, 1, 1, 0, 0, 0, "", "+00:00")
		case "DateOnly":
			return decoder.Seen{Kind: decoder.SeenDate, Seconds: -62135596800, Text: "0001-01-01"}
		case "TimeOnly":
			return decoder.Seen{Kind: decoder.SeenString, Text: "00:00:00.0000000"}
		case "TimeSpan":
			return decoder.Seen{Kind: decoder.SeenString, Text: "00:00:00"}
		case "Guid":
			return decoder.Seen{Kind: decoder.SeenString, Text: "00000000-0000-0000-0000-000000000000"}
		case "JsonElement":
			return decoder.Seen{}
		}
		if IsFloat(t) > 0 {
			return decoder.Seen{Kind: decoder.SeenFloat, Text: "0"}
		}
		if IsNumber(t) {
			return decoder.Seen{Kind: decoder.SeenInt, Text: "0"}
		}
	}
	return decoder.Seen{Kind: decoder.SeenUnknown}
}

// zeroOf is the zero of an enum or a struct of the source.
func zeroOf(t *model.Type, depth int) decoder.Seen {
	m := t.Model
	if m.Kind == model.Enum {
		return Constant(m, 0)
	}
	out := decoder.Seen{Kind: decoder.SeenObject, Type: m.Name}
	env := t.Env()
	for _, f := range m.Fields {
		if Stored(f) {
			out.Names, out.Elems = append(out.Names, f.Name), append(out.Elems, zero(f.Type.Bind(env), depth+1))
		}
	}
	return out
}

// Stored says whether a field of a model holds a value: a field, or a property for which the compiler makes one.
func Stored(f *model.Field) bool {
	return !f.Static && (f.Property == nil || f.Property.Stored) && !isDelegate(f.Type)
}

// isDelegate says whether a type is one of functions, which are no data.
func isDelegate(t *model.Type) bool {
	u := t.Unwrapped()
	if u.Kind == model.Opaque {
		return true
	}
	switch u.Name {
	case "Action", "Func", "Delegate", "Predicate", "Comparison", "EventHandler":
		return u.Kind == model.Named && u.Model == nil
	}
	return false
}

// Constant is a number as a constant of an enum: by its name, or as the number where none has it; of flags by the
// names of those that it is made of.
func Constant(m *model.Model, n int64) decoder.Seen {
	digits := strconv.FormatInt(n, 10)
	for _, c := range m.Cases {
		if c.Raw != nil && c.Raw.Text == digits {
			return decoder.Seen{Kind: decoder.SeenEnum, Text: c.Name, Type: m.Name}
		}
	}
	if m.Marks.Find("Flags") != nil && n != 0 {
		var names []string
		left := n
		for i := len(m.Cases) - 1; i >= 0; i-- {
			c := m.Cases[i]
			if c.Raw == nil {
				continue
			}
			if v, err := strconv.ParseInt(c.Raw.Text, 10, 64); err == nil && v != 0 && left&v == v {
				left &^= v
				names = append([]string{c.Name}, names...)
			}
		}
		if left == 0 {
			return decoder.Seen{Kind: decoder.SeenEnum, Text: strings.Join(names, ", "), Type: m.Name}
		}
	}
	return decoder.Seen{Kind: decoder.SeenInt, Text: digits}
}

// Chain are the types that make up a class: itself first, then those that it extends.
func Chain(t *model.Type) []*model.Type {
	chain := []*model.Type{t}
	for deep := 0; t.Model != nil && t.Model.Super != nil && t.Model.Super.Model != nil && deep < 16; deep++ {
		t = t.Model.Super.Bind(t.Env())
		chain = append(chain, t)
	}
	return chain
}

// Equal says how elements of a set are compared where two that look alike are not the same: instances of a class that
// is no record and has no Equals of its own are one only with themselves. nil where values decide.
func Equal(t *model.Type) func(a, b decoder.Seen) bool {
	u := t.Unwrapped()
	switch {
	case u.Kind == model.List || u.Kind == model.Map || u.Kind == model.Unique:
	case u.Model == nil || u.Model.Kind != model.Class || u.Model.Data:
		return nil
	default:
		for m := u.Model; m != nil; {
			if slices.ContainsFunc(m.Conforms, func(of string) bool { return strings.HasPrefix(of, "IEquatable<") }) {
				return nil
			}
			for _, f := range m.Methods {
				if f.Name == "Equals" {
					return nil
				}
			}
			if m.Super == nil {
				break
			}
			m = m.Super.Model
		}
	}
	return func(a, b decoder.Seen) bool { return a.Kind == decoder.SeenNull && b.Kind == decoder.SeenNull }
}
