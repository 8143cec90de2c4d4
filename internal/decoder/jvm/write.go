package jvm

import (
	"slices"

	"vetta/internal/encoder"
	"vetta/internal/model"
)

// writtenTexts are classes that both Gson and Jackson write as text.
var writtenTexts = []string{"String", "CharSequence", "StringBuilder", "StringBuffer", "UUID", "URL", "URI", "Uri", "Locale", "Currency"}

// Written is what Gson and Jackson alike write for a type that the source does not declare, nil for one that
// either writes in a way of its own.
func Written(t *model.Type) *encoder.Value {
	switch Scalar(t) {
	case "int", "long", "short", "byte":
		return &encoder.Value{Kinds: encoder.Number, Whole: true}
	case "float", "double":
		return &encoder.Value{Kinds: encoder.Number}
	case "boolean":
		return &encoder.Value{Kinds: encoder.Bool}
	case "char":
		return &encoder.Value{Kinds: encoder.String}
	}
	switch name := lastOf(t.Name); {
	case slices.Contains(writtenTexts, name):
		return &encoder.Value{Kinds: encoder.String}
	case name == "BigDecimal", name == "BigInteger":
		return &encoder.Value{Kinds: encoder.Number, Whole: name == "BigInteger"}
	}
	return nil
}

// MayBeNull says whether a field may hold nothing though its type does not say so: in Java any but a
// primitive, in Kotlin what its type says.
func MayBeNull(f *model.Field, owner *model.Model) bool {
	return owner.Language == "java" && !IsPrimitive(f.Type, false)
}

func lastOf(name string) string {
	for i := len(name) - 1; i >= 0; i-- {
		if name[i] == '.' {
			return name[i+1:]
		}
	}
	return name
}
