// Package schema is what validators in TypeScript do with a document: schemas that expressions of the app make, run on
// values as JavaScript has them. What each library means by its names is in the folders below.
package schema

import (
	"math"
	"strconv"
	"strings"

	"vetta/internal/types"
	"vetta/internal/wire"
)

// Kind is what a value is.
type Kind uint8

// The kinds.
const (
	Undefined Kind = iota
	Null
	Bool
	Number
	String
	Array
	Object
	Date   // Number is milliseconds since 1970, not a number for none that is
	BigInt // Text
	Other  // a value that is not followed
)

// Value is a value of JavaScript.
type Value struct {
	Kind   Kind
	Bool   bool
	Number float64
	Text   string
	Elems  []Value
	Names  []string // of Elems, of an object
	Class  any      // that an object is an instance of, which its library knows; nil for a plain one
}

// Of is a document as JSON.parse has it: of keys that come again the last counts.
func Of(v *wire.Value) Value {
	switch v.Kind {
	case wire.Null:
		return Value{Kind: Null}
	case wire.Bool:
		return Value{Kind: Bool, Bool: v.True()}
	case wire.Number:
		n, _ := strconv.ParseFloat(string(v.Raw), 64)
		return Value{Kind: Number, Number: n}
	case wire.String:
		text, _ := v.Text()
		return Value{Kind: String, Text: text}
	case wire.Array:
		out := Value{Kind: Array, Elems: make([]Value, len(v.Elems))}
		for i, e := range v.Elems {
			out.Elems[i] = Of(e)
		}
		return out
	}
	out := Value{Kind: Object}
	for i := range v.Members {
		out.Set(v.Members[i].Name, Of(v.Members[i].Value))
	}
	return out
}

// Get is the property of an object, undefined for none.
func (v Value) Get(name string) (Value, bool) {
	for i, n := range v.Names {
		if n == name {
			return v.Elems[i], true
		}
	}
	return Value{}, false
}

// Set gives an object a property.
func (v *Value) Set(name string, to Value) {
	for i, n := range v.Names {
		if n == name {
			v.Elems[i] = to
			return
		}
	}
	v.Names, v.Elems = append(v.Names, name), append(v.Elems, to)
}

// Text of values, and the numbers that JavaScript makes of them.

// TextOf is a value as String() has it (ECMA-262, ToString).
func TextOf(v Value) string {
	switch v.Kind {
	case Undefined:
		return "undefined"
	case Null:
		return "null"
	case Bool:
		return strconv.FormatBool(v.Bool)
	case Number:
		return NumberText(v.Number)
	case String, BigInt:
		return v.Text
	case Array:
		all := make([]string, len(v.Elems))
		for i, e := range v.Elems {
			if e.Kind > Null {
				all[i] = TextOf(e)
			}
		}
		return strings.Join(all, ",")
	case Date:
		return "[date]"
	}
	return "[object Object]"
}

// NumberText is a number as text (ECMA-262, Number::toString).
func NumberText(n float64) string {
	switch {
	case math.IsNaN(n):
		return "NaN"
	case math.IsInf(n, 1):
		return "Infinity"
	case math.IsInf(n, -1):
		return "-Infinity"
	}
	return types.Digits(n)
}

// NumberOf is what Number() makes of a value (ECMA-262, ToNumber).
func NumberOf(v Value) float64 {
	switch v.Kind {
	case Null:
		return 0
	case Bool:
		if v.Bool {
			return 1
		}
		return 0
	case Number, Date:
		return v.Number
	case String:
		return textNumber(v.Text)
	case Array:
		return textNumber(TextOf(v))
	case BigInt:
		return textNumber(v.Text)
	}
	return math.NaN()
}

func textNumber(s string) float64 {
	s = strings.Trim(s, " \t\n\r\v\f\u00a0\ufeff\u2028\u2029")
	if s == "" {
		return 0
	}
	if len(s) > 2 && s[0] == '0' && strings.ContainsAny(s[1:2], "xXoObB") {
		n, err := strconv.ParseUint(s, 0, 64)
		if err != nil {
			return math.NaN()
		}
		return float64(n)
	}
	switch s {
	case "Infinity", "+Infinity":
		return math.Inf(1)
	case "-Infinity":
		return math.Inf(-1)
	}
	if strings.ContainsAny(s, "_xXnNiIpP") {
		return math.NaN()
	}
	n, err := strconv.ParseFloat(s, 64)
	if err != nil && !math.IsInf(n, 0) {
		return math.NaN()
	}
	return n
}

// Truthy says whether a value counts as true.
func Truthy(v Value) bool {
	switch v.Kind {
	case Undefined, Null:
		return false
	case Bool:
		return v.Bool
	case Number:
		return v.Number != 0 && !math.IsNaN(v.Number)
	case String, BigInt:
		return v.Text != "" && (v.Kind == String || v.Text != "0")
	}
	return true
}

// Same says whether two values are the same (===), of objects never.
func Same(a, b Value) bool {
	if a.Kind != b.Kind {
		return false
	}
	switch a.Kind {
	case Undefined, Null:
		return true
	case Bool:
		return a.Bool == b.Bool
	case Number:
		return a.Number == b.Number
	case String, BigInt:
		return a.Text == b.Text
	}
	return false
}

// Text is a text as a value.
func Text(s string) Value { return Value{Kind: String, Text: s} }

// Num is a number as a value.
func Num(n float64) Value { return Value{Kind: Number, Number: n} }
