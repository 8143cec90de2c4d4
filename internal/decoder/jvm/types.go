package jvm

import (
	"math/big"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/model"
)

// scalars are the names that Java and Kotlin have for the types that are no objects,
// and for the classes that hold their values.
var scalars = map[string]string{
	"int": "int", "Integer": "int", "Int": "int", "long": "long", "Long": "long", "short": "short", "Short": "short", "byte": "byte", "Byte": "byte",
	"float": "float", "Float": "float", "double": "double", "Double": "double", "boolean": "boolean", "Boolean": "boolean",
	"char": "char", "Character": "char", "Char": "char",
}

// Boxes are the classes of java.lang that hold a primitive, by its name.
var Boxes = map[string]string{
	"int": "Integer", "long": "Long", "short": "Short", "byte": "Byte", "float": "Float", "double": "Double", "boolean": "Boolean", "char": "Character",
}

// Scalar is the primitive that a type is or holds, by its Java name; "" for others.
func Scalar(t *model.Type) string {
	if t.Kind != model.Named || t.Model != nil {
		return ""
	}
	return scalars[t.Name]
}

// ClassName is how the virtual machine names the class of a model, and messages with it.
func ClassName(m *model.Model) string {
	name := strings.ReplaceAll(m.Name, ".", "$")
	if m.Package != "" {
		name = m.Package + "." + name
	}
	return name
}

// Endless is the error of a class that is made of itself at the same value.
func Endless(m *model.Model) *decoder.Error { return overflow(decoder.OfItself(m)) }

// Growing is the error of a type that grows (see model.Growth), for which libraries look for
// decoders of more and more types before they read anything.
func Growing(t *model.Type) *decoder.Error {
	return overflow(t.Name + " holds itself with type arguments that grow at each step: declare the type of that field in another way")
}

func overflow(advice string) *decoder.Error {
	return decoder.EndlessError("StackOverflowError: null", advice)
}

// IsPrimitive says whether a field of the type cannot be null: int in Java, and in
// Kotlin Int, which the compiler makes an int where it is not nullable and no type
// argument.
func IsPrimitive(t *model.Type, kotlin bool) bool {
	s := Scalar(t)
	return s != "" && (kotlin || t.Name == s)
}

// Zero is what a field holds that nothing has been assigned to.
func Zero(t *model.Type, kotlin bool) decoder.Seen {
	if !IsPrimitive(t, kotlin) {
		return decoder.Seen{}
	}
	switch Scalar(t) {
	case "boolean":
		return decoder.Seen{Kind: decoder.SeenBool, Text: "false"}
	case "float", "double":
		return decoder.Seen{Kind: decoder.SeenFloat, Text: "0.0"}
	case "char":
		return decoder.Seen{Kind: decoder.SeenString, Text: "\x00", Type: "char"}
	}
	return decoder.Seen{Kind: decoder.SeenInt, Text: "0"}
}

// NoArguments says whether a model has a constructor without parameters.
func NoArguments(m *model.Model) bool {
	if len(m.Ctors) == 0 {
		return true
	}
	inline := false
	for _, k := range m.Ctors {
		for _, p := range k.Params {
			inline = inline || IsInline(p.Type)
		}
	}
	for _, k := range m.Ctors {
		// The compiler makes none of defaults where a parameter is of a value class.
		if len(k.Params) == 0 && !(k.Defaults && inline) {
			return true
		}
	}
	return false
}

// Computes says whether code that runs where an instance is made without arguments gives
// fields what cannot be told: a constructor that calls another one, methods or conditions,
// of the class or of one that it extends.
func Computes(m *model.Model) bool {
	for range mostSupers {
		if m.Computed || slices.ContainsFunc(m.Ctors, func(k *model.Method) bool { return len(k.Params) == 0 && k.Calls[1] > 0 }) {
			return true
		}
		if m.Super == nil || m.Super.Model == nil {
			return false
		}
		m = m.Super.Model
	}
	return false
}

// mostSupers is how many classes are gone through: those of source that does not compile may extend each other in a circle.
const mostSupers = 10_000

// longChain is how many classes are looked through one by one.
const longChain = 16

// Chain is a class with those that it extends, as far as the source has them, outermost last.
// Source that does not compile may have them extend each other in a circle: each is taken once.
func Chain(t *model.Type) (all []*model.Type) {
	var met map[*model.Model]bool // of a long chain
	for s := t; s != nil && s.Model != nil; {
		if met == nil && slices.ContainsFunc(all, func(other *model.Type) bool { return other.Model == s.Model }) || met[s.Model] {
			break
		}
		if all = append(all, s); len(all) == longChain {
			met = map[*model.Model]bool{}
			for _, other := range all {
				met[other.Model] = true
			}
		} else if met != nil {
			met[s.Model] = true
		}
		if s.Model.Super == nil {
			break
		}
		s = s.Model.Super.Bind(s.Env())
	}
	return all
}

// IsInline says whether a type is a value class of Kotlin, its unsigned numbers among
// them.
func IsInline(t *model.Type) bool {
	if t == nil {
		return false
	}
	u := t.Unwrapped()
	if u.Model != nil {
		return u.Model.Inline != nil
	}
	return u.Name == "UInt" || u.Name == "ULong" || u.Name == "UShort" || u.Name == "UByte"
}

// Constant is the value that a literal in source has in a field of type t.
func Constant(l *model.Literal, t *model.Type) decoder.Seen {
	want := t.Unwrapped()
	unknown := decoder.Seen{Kind: decoder.SeenUnknown}
	switch l.Kind {
	case model.NullLiteral:
		return decoder.Seen{}
	case model.BoolLiteral:
		return decoder.Seen{Kind: decoder.SeenBool, Text: l.Text}
	case model.StringLiteral:
		if Scalar(want) == "char" {
			return decoder.Seen{Kind: decoder.SeenString, Text: l.Text, Type: "char"}
		}
		if want.Kind == model.Named && (want.Name == "String" || want.Name == "Object" || want.Name == "Any" || want.Name == "CharSequence") {
			return decoder.Seen{Kind: decoder.SeenString, Text: l.Text}
		}
	case model.IntLiteral, model.FloatLiteral:
		switch Scalar(want) {
		case "float", "double":
			if f, ok := ParseDouble(l.Text); ok {
				bits := 64
				if Scalar(want) == "float" {
					bits = 32
				}
				return decoder.Seen{Kind: decoder.SeenFloat, Text: FloatText(f, bits)}
			}
		case "int", "long", "short", "byte":
			if n, ok := ParseWhole(l.Text, 64); ok && l.Kind == model.IntLiteral {
				return decoder.Seen{Kind: decoder.SeenInt, Text: decimalText(big.NewInt(n), 0)}
			}
		}
	case model.ListLiteral:
		if want.Kind != model.List && want.Kind != model.Unique {
			return unknown
		}
		out := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
		if want.Kind == model.Unique {
			out.Kind = decoder.SeenSet
		}
		for _, e := range l.Elems {
			out.Elems = append(out.Elems, Constant(e, want.Args[0]))
		}
		return out
	case model.MapLiteral:
		if want.Kind == model.Map && len(l.Elems) == 0 {
			return decoder.Seen{Kind: decoder.SeenMap, Elems: []decoder.Seen{}}
		}
	case model.CaseLiteral:
		if want.Model == nil || want.Model.Kind != model.Enum {
			return unknown
		}
		for _, c := range want.Model.Cases {
			if c.Name == l.Text {
				return decoder.Seen{Kind: decoder.SeenEnum, Text: c.Name, Type: want.Model.Name}
			}
		}
	}
	return unknown
}

// TypeText writes a type as source does.
func TypeText(t *model.Type) string { return t.Written() }

// identities are the platform's classes of which no two instances are equal.
var identities = map[string]bool{"StringBuilder": true, "StringBuffer": true, "AtomicInteger": true, "AtomicLong": true, "AtomicBoolean": true}

func isArray(t *model.Type) bool { return t.Kind == model.List && t.Name != "" }

// Same says when two values of a type are equal, so that a set keeps one of them. Values of the
// platform's types are where they hold the same; arrays never, nor are instances of a class
// that does not say so. A record and a data class are equal where all that they are made of is.
func Same(t *model.Type) func(a, b decoder.Seen) bool {
	return func(a, b decoder.Seen) bool { return same(t.Unwrapped(), a, b) }
}

func same(t *model.Type, a, b decoder.Seen) bool {
	if a.Kind == decoder.SeenNull || b.Kind == decoder.SeenNull {
		return a.Kind == b.Kind
	}
	holds := func() bool { return a.Kind == b.Kind && a.String() == b.String() }
	if t.Model == nil {
		switch {
		case identities[t.Name] || isArray(t):
			return false
		case len(t.Args) == 0:
			return holds()
		}
		elem := t.Args[len(t.Args)-1].Unwrapped()
		if a.Kind != decoder.SeenList || b.Kind != decoder.SeenList || len(a.Elems) != len(b.Elems) { // of sets and maps, whatever their order
			return holds() && (len(a.Elems) == 0 || same(elem, a.Elems[0], b.Elems[0]))
		}
		for i := range a.Elems {
			if !same(elem, a.Elems[i], b.Elems[i]) {
				return false
			}
		}
		return true
	}
	for _, s := range Chain(t) {
		m := s.Model
		switch {
		case m.Kind == model.Enum:
			return holds()
		case m.Kind == model.Record || m.Data:
			for _, f := range m.Fields {
				if f.Static || m.Kind != model.Record && !Takes(m, f) {
					continue
				}
				if !same(f.Type.Bind(s.Env()).Unwrapped(), property(a, f.Name), property(b, f.Name)) {
					return false
				}
			}
			return true
		case slices.ContainsFunc([]string{"Data", "Value", "EqualsAndHashCode"}, func(mark string) bool { return m.Marks.Find(mark) != nil }),
			slices.ContainsFunc(m.Methods, func(f *model.Method) bool { return f.Name == "equals" && len(f.Params) == 1 }):
			return holds()
		}
	}
	return false
}

// property is what an instance holds in a property, nothing where it has none.
func property(s decoder.Seen, name string) decoder.Seen {
	for i, n := range s.Names {
		if n == name {
			return s.Elems[i]
		}
	}
	return decoder.Seen{}
}

// Takes says whether a constructor of a class takes a property.
func Takes(m *model.Model, f *model.Field) bool {
	return slices.ContainsFunc(m.Ctors, func(k *model.Method) bool { return slices.Contains(k.Fills, f.Name) })
}
