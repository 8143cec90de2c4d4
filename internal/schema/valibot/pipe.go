package valibot

import (
	"fmt"
	"math"
	"regexp"
	"strings"
	"unicode/utf16"

	"vetta/internal/code"
	"vetta/internal/schema"
	"vetta/internal/types"
)

// action is a step of a pipe: it answers what the value becomes, and false where what comes behind is not done.
type action func(r *run, v Value, at steps) (Value, bool)

// pipe is a schema with what is done one after the other with what it lets through.
func (b *builder) pipe(e *code.Expr, s schema.Scope) *Schema {
	if len(e.Args) < 2 {
		return schema.Lost("a pipe of nothing is not followed")
	}
	of := b.build(e.Args[1], s)
	if of.Lost != "" {
		return of
	}
	out := of.Out
	var actions []action
	made := false
	for _, a := range e.Args[2:] {
		name := ""
		if a.Op == code.Call {
			name = b.function(a.Args[0], s)
		}
		if do := b.action(name, a, s); do != nil {
			actions = append(actions, do)
			if name == "transform" {
				out, made = types.Lost("code of the app makes it"), true
			}
			continue
		}
		next := b.build(a, s)
		if next.Lost != "" {
			return schema.Lost("what a pipe does is not followed: " + next.Lost)
		}
		out = next.Out
		actions = append(actions, func(r *run, v Value, at steps) (Value, bool) {
			if len(r.Issues) > 0 {
				return v, false
			}
			got := next.Do(r, v, at)
			return got, len(r.Issues) == 0
		})
	}
	p := &Schema{Kind: of.Kind, Of: of, Optional: of.Optional, Keys: of.Keys, All: of.All, Rest: of.Rest, Mode: of.Mode, In: of.In, Out: out}
	if made {
		p.Kind = "transform"
	}
	p.Checks = []func(r *run, v Value, at steps){func(*run, Value, steps) {}} // it asks for more than its kind
	p.Check = func(r *run, v Value, at steps) Value {
		inner := &run{}
		got := of.Do(inner, v, at)
		going := len(inner.Issues) == 0
		for _, do := range actions {
			if !going {
				break
			}
			got, going = do(inner, got, at)
		}
		r.Unknown = r.Unknown || inner.Unknown
		r.Issues = append(r.Issues, inner.Issues...)
		return got
	}
	return p
}

// length is how long a value is.
func length(v Value) float64 {
	if v.Kind == schema.String {
		return float64(len(utf16.Encode([]rune(v.Text))))
	}
	return float64(len(v.Elems))
}

// asks is an action that a value either meets or not; what comes behind is done all the same.
func asks(code string, meets func(Value) bool, message func(Value) string) action {
	return func(r *run, v Value, at steps) (Value, bool) {
		if !meets(v) {
			r.Issue(at, code, message(v))
		}
		return v, true
	}
}

// action is a step of a pipe by its name, nil for what is none.
func (b *builder) action(name string, e *code.Expr, s schema.Scope) action {
	number := func() (float64, bool) {
		if len(e.Args) < 2 {
			return 0, false
		}
		v, ok := schema.Eval(b.w, s, e.Args[1])
		return schema.NumberOf(v), ok && v.Kind == schema.Number
	}
	bound := func(code, what, sign string, of func(Value) float64, meets func(n, limit float64) bool) action {
		limit, ok := number()
		if !ok {
			return nil
		}
		return asks(code, func(v Value) bool { return meets(of(v), limit) }, func(v Value) string {
			return fmt.Sprintf("Invalid %s: Expected %s%s but received %s", what, sign, schema.NumberText(limit), schema.NumberText(of(v)))
		})
	}
	least := func(n, limit float64) bool { return n >= limit }
	most := func(n, limit float64) bool { return n <= limit }
	value := func(v Value) float64 { return v.Number }
	switch name {
	case "minLength":
		return bound("min_length", "length", ">=", length, least)
	case "maxLength":
		return bound("max_length", "length", "<=", length, most)
	case "length":
		return bound("length", "length", "", length, func(n, limit float64) bool { return n == limit })
	case "minValue", "toMinValue":
		return bound("min_value", "value", ">=", value, least)
	case "maxValue":
		return bound("max_value", "value", "<=", value, most)
	case "gtValue":
		return bound("gt_value", "value", ">", value, func(n, limit float64) bool { return n > limit })
	case "ltValue":
		return bound("lt_value", "value", "<", value, func(n, limit float64) bool { return n < limit })
	case "nonEmpty":
		return asks("non_empty", func(v Value) bool { return length(v) > 0 }, func(Value) string { return "Invalid length: Expected !0 but received 0" })
	case "integer":
		return asks("integer", func(v Value) bool { return v.Number == math.Trunc(v.Number) && !math.IsInf(v.Number, 0) }, func(v Value) string { return "Invalid integer: Received " + received(v) })
	case "safeInteger":
		return asks("safe_integer", func(v Value) bool { return v.Number == math.Trunc(v.Number) && math.Abs(v.Number) <= 1<<53-1 }, func(v Value) string { return "Invalid safe integer: Received " + received(v) })
	case "finite":
		return asks("finite", func(v Value) bool { return !math.IsInf(v.Number, 0) }, func(v Value) string { return "Invalid finite: Received " + received(v) })
	case "regex":
		if len(e.Args) > 1 {
			if re, ok := schema.Regexp(e.Args[1]); ok {
				return asks("regex", func(v Value) bool { return re.MatchString(v.Text) }, func(v Value) string {
					return "Invalid format: Expected " + e.Args[1].Labels[0] + " but received " + received(v)
				})
			}
		}
		return nil
	case "startsWith", "endsWith", "includes":
		if len(e.Args) < 2 {
			return nil
		}
		part, ok := schema.Eval(b.w, s, e.Args[1])
		if !ok || part.Kind != schema.String {
			return nil
		}
		has := map[string]func(s, part string) bool{"startsWith": strings.HasPrefix, "endsWith": strings.HasSuffix, "includes": strings.Contains}[name]
		return asks(map[string]string{"startsWith": "starts_with", "endsWith": "ends_with", "includes": "includes"}[name], func(v Value) bool { return has(v.Text, part.Text) }, func(v Value) string { return "Invalid " + name + ": Received " + received(v) })
	case "trim":
		return func(_ *run, v Value, _ steps) (Value, bool) {
			v.Text = strings.TrimSpace(v.Text)
			return v, true
		}
	case "toLowerCase":
		return func(_ *run, v Value, _ steps) (Value, bool) {
			v.Text = strings.ToLower(v.Text)
			return v, true
		}
	case "toUpperCase":
		return func(_ *run, v Value, _ steps) (Value, bool) {
			v.Text = strings.ToUpper(v.Text)
			return v, true
		}
	case "brand", "readonly", "description", "title", "metadata":
		return func(_ *run, v Value, _ steps) (Value, bool) { return v, true }
	case "check", "transform":
		if len(e.Args) < 2 {
			return nil
		}
		fn := e.Args[1]
		return func(r *run, v Value, at steps) (Value, bool) {
			if name == "transform" && len(r.Issues) > 0 {
				return v, false
			}
			out, ok := schema.Call(b.w, s, fn, v)
			switch {
			case name == "transform" && !ok:
				return Value{Kind: schema.Other}, false
			case name == "transform":
				return out, true
			case !ok:
				r.Unknown = true
			case !schema.Truthy(out):
				r.Issue(at, "check", "Invalid input: Received "+received(v))
			}
			return v, true
		}
	}
	if f, ok := formats[name]; ok {
		return asks(f.code, func(v Value) bool { return f.pattern.MatchString(v.Text) }, func(v Value) string { return "Invalid " + f.words + ": Received " + received(v) })
	}
	return nil
}

// formats are those of texts (valibot 1.5, regex.ts).
var formats = map[string]struct {
	code, words string
	pattern     *regexp.Regexp
}{
	"email":        {"email", "email", regexp.MustCompile(`^[\w+-]+(?:\.[\w+-]+)*@[\da-zA-Z]+(?:[.-][\da-zA-Z]+)*\.[a-zA-Z]{2,}$`)},
	"isoDate":      {"iso_date", "date", regexp.MustCompile(`^\d{4}-(?:0[1-9]|1[0-2])-(?:[12]\d|0[1-9]|3[01])$`)},
	"isoDateTime":  {"iso_date_time", "date-time", regexp.MustCompile(`^\d{4}-(?:0[1-9]|1[0-2])-(?:[12]\d|0[1-9]|3[01])[T ](?:0\d|1\d|2[0-3]):[0-5]\d$`)},
	"isoTime":      {"iso_time", "time", regexp.MustCompile(`^(?:0\d|1\d|2[0-3]):[0-5]\d$`)},
	"isoTimestamp": {"iso_timestamp", "timestamp", regexp.MustCompile(`^\d{4}-(?:0[1-9]|1[0-2])-(?:[12]\d|0[1-9]|3[01])[T ](?:0\d|1\d|2[0-3])(?::[0-5]\d){2}(?:\.\d{1,9})?(?:Z|[+-](?:0\d|1\d|2[0-3])(?::?[0-5]\d)?)$`)},
	"uuid":         {"uuid", "UUID", regexp.MustCompile(`^(?i)[\da-f]{8}(?:-[\da-f]{4}){3}-[\da-f]{12}$`)},
	"digits":       {"digits", "digits", regexp.MustCompile(`^\d+$`)},
	"decimal":      {"decimal", "decimal", regexp.MustCompile(`^[+-]?(?:\d*\.)?\d+$`)},
}
