package zod

import (
	"fmt"
	"math"
	"strings"
	"unicode/utf16"

	"vetta/internal/code"
	"vetta/internal/schema"
)

// sizeOf is how long a value is.
func sizeOf(v Value) float64 {
	if v.Kind == schema.String {
		return float64(len(utf16.Encode([]rune(v.Text))))
	}
	return float64(len(v.Elems))
}

// bound is the check that a measure of a value is between two others.
func bound(what string, measure func(Value) float64, low, high float64, inclusive bool) func(*run, Value, steps) {
	unit := map[string]string{"array": " items", "string": " characters"}[what]
	have := "to be "
	if unit != "" {
		have = "to have "
	}
	least, most := ">", "<"
	if inclusive {
		least, most = ">=", "<="
	}
	return func(r *run, v Value, at steps) {
		n := measure(v)
		if r.Major == three && (n < low || n > high || !inclusive && (n == low || n == high)) {
			boundThree(r, at, what, n, low, high, inclusive)
			return
		}
		switch {
		case n < low || !inclusive && n == low:
			r.Issue(at, "too_small", fmt.Sprintf("Too small: expected %s %s%s%s%s", what, have, least, schema.NumberText(low), unit))
		case n > high || !inclusive && n == high:
			r.Issue(at, "too_big", fmt.Sprintf("Too big: expected %s %s%s%s%s", what, have, most, schema.NumberText(high), unit))
		}
	}
}

// intCheck asks for a whole number that a double holds exactly.
func intCheck(r *run, v Value, at steps) {
	const largest = 1<<53 - 1
	switch {
	case r.Major == three:
		if v.Number != math.Trunc(v.Number) || math.IsInf(v.Number, 0) {
			r.Issue(at, "invalid_type", "Expected integer, received float")
		}
	case v.Number != math.Trunc(v.Number):
		r.Issue(at, "invalid_type", "Invalid input: expected int, received number")
	case v.Number > largest:
		r.Issue(at, "too_big", "Too big: expected int to be <=9007199254740991")
	case v.Number < -largest:
		r.Issue(at, "too_small", "Too small: expected int to be >=-9007199254740991")
	}
}

// checked is a schema with a check of numbers, texts or lists; nil for a method that is none.
func (b *builder) checked(on *Schema, name string, e *code.Expr, s schema.Scope) *Schema {
	kind := on.Kind
	number := func() (float64, bool) {
		if len(e.Args) < 2 {
			return 0, false
		}
		v, ok := schema.Eval(b.w, s, e.Args[1])
		return schema.NumberOf(v), ok
	}
	value := func(v Value) float64 { return v.Number }
	inf := math.Inf(1)
	measure, what := value, "number"
	switch kind {
	case "string":
		measure, what = sizeOf, "string"
	case "array", "tuple":
		measure, what = sizeOf, "array"
	case "number", "date":
	default:
		return nil
	}
	switch name {
	case "min", "gte", "minLength", "gt", "max", "lte", "maxLength", "lt", "length":
		n, ok := number()
		if !ok || kind == "date" {
			return schema.Lost("what ." + name + " is given is not followed")
		}
		switch name {
		case "gt":
			return check(on, bound(what, measure, n, inf, false))
		case "lt":
			return check(on, bound(what, measure, -inf, n, false))
		case "length":
			return check(on, bound(what, measure, n, n, true))
		case "max", "lte", "maxLength":
			return check(on, bound(what, measure, -inf, n, true))
		}
		return check(on, bound(what, measure, n, inf, true))
	case "nonempty":
		return check(on, bound(what, measure, 1, inf, true))
	}
	switch kind {
	case "number":
		switch name {
		case "safe":
			return check(on, safeCheck)
		case "int":
			return check(on, intCheck)
		case "finite":
			return check(on, finiteCheck)
		case "positive":
			return check(on, bound(what, value, 0, inf, false))
		case "nonnegative":
			return check(on, bound(what, value, 0, inf, true))
		case "negative":
			return check(on, bound(what, value, -inf, 0, false))
		case "nonpositive":
			return check(on, bound(what, value, -inf, 0, true))
		case "multipleOf", "step":
			n, ok := number()
			if !ok {
				return nil
			}
			return check(on, func(r *run, v Value, at steps) {
				if q := v.Number / n; math.Abs(q-math.Round(q)) > 1e-9 {
					r.Issue(at, "not_multiple_of", "Invalid number: must be a multiple of "+schema.NumberText(n))
				}
			})
		}
	case "string":
		switch name {
		case "trim":
			return changed(on, trimmed)
		case "toLowerCase":
			return changed(on, strings.ToLower)
		case "toUpperCase":
			return changed(on, strings.ToUpper)
		case "normalize", "slugify":
			return nil
		case "startsWith", "endsWith", "includes":
			v, ok := schema.Eval(b.w, s, e.Args[len(e.Args)-1])
			if !ok || v.Kind != schema.String {
				return nil
			}
			has := map[string]func(s, part string) bool{"startsWith": strings.HasPrefix, "endsWith": strings.HasSuffix, "includes": strings.Contains}[name]
			return check(on, func(r *run, sent Value, at steps) {
				if !has(sent.Text, v.Text) {
					code, of := "invalid_format", "string"
					if r.Major == three {
						code, of = "invalid_string", "input"
					}
					r.Issue(at, code, "Invalid "+of+": must "+map[string]string{"startsWith": "start with", "endsWith": "end with", "includes": "include"}[name]+` "`+v.Text+`"`)
				}
			})
		case "regex":
			if len(e.Args) < 2 {
				return nil
			}
			of := e.Args[1]
			if of.Op == code.Name {
				if found, _, ok := b.w.Find(s, of.Text); ok {
					of = found
				}
			}
			re, ok := schema.Regexp(of)
			if !ok {
				return schema.Lost("the pattern of .regex is not followed")
			}
			return check(on, func(r *run, v Value, at steps) {
				if !re.MatchString(v.Text) {
					if r.Major == three {
						r.Issue(at, "invalid_string", "Invalid")
						return
					}
					r.Issue(at, "invalid_format", "Invalid string: must match pattern "+of.Labels[0])
				}
			})
		}
		if formats[name] != nil {
			return format(on, name, e, b, s)
		}
	}
	return nil
}
