package moshi

import (
	"encoding/json"
	"math"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/eval"
	"vetta/internal/decoder/jvm"
	"vetta/internal/wire"
)

// How an adapter reads what was parsed before (JsonAdapter.fromJsonValue, JsonValueReader): numbers are Doubles, which
// are cut to whole ones without a word, and written where a string is wanted.

// javaClass is the class of a value that was parsed, as messages name it.
var javaClass = map[wire.Kind]string{
	wire.Bool: "java.lang.Boolean", wire.Number: "java.lang.Double", wire.String: "java.lang.String", wire.Array: "java.util.ArrayList", wire.Object: "com.squareup.moshi.LinkedHashTreeMap",
}

// mismatch is JsonValueReader.typeMismatch.
func mismatch(want string, v *wire.Value) decoder.Verdict {
	if v.Kind == wire.Null {
		return decoder.Verdict{Err: data(decoder.ReasonNull, "Expected %s but was null at path %s", want, decoder.PathMark)}
	}
	shown := ""
	switch v.Kind {
	case wire.String:
		shown = jvm.Text(v) + ", "
	case wire.Number:
		shown = written(v) + ", "
	case wire.Bool:
		shown = string(v.Raw) + ", "
	}
	return decoder.Verdict{Err: data(decoder.ReasonKind, "Expected %s but was %sa %s, at path %s", want, shown, javaClass[v.Kind], decoder.PathMark)}
}

// written is Double.toString of a number.
func written(v *wire.Value) string {
	f, _ := jvm.ParseDouble(string(v.Raw))
	return jvm.DoubleToString(f)
}

// valueReads are how the scalars are read of what was parsed, by the name of the primitive; "" is String.
func (c *compiler) valueReads(scalar string) func(*wire.Value) decoder.Verdict {
	whole := func(low, high int64, what string) func(*wire.Value) decoder.Verdict {
		return func(v *wire.Value) decoder.Verdict {
			n, verdict := wholeOf(v, scalar == "long")
			switch {
			case verdict.Err != nil:
				return verdict
			case n < low || n > high:
				return decoder.Verdict{Err: data(decoder.ReasonRange, "Expected a %s but was %d at path %s", what, n, decoder.PathMark)}
			case scalar == "byte":
				n = int64(int8(n))
			}
			verdict.Seen = decoder.Seen{Kind: decoder.SeenInt, Text: strconv.FormatInt(n, 10)}
			return verdict
		}
	}
	switch scalar {
	case "int":
		return whole(math.MinInt32, math.MaxInt32, scalar)
	case "long":
		return whole(math.MinInt64, math.MaxInt64, scalar)
	case "short":
		return whole(math.MinInt16, math.MaxInt16, scalar)
	case "byte":
		return whole(math.MinInt8, math.MaxUint8, scalar)
	case "float", "double":
		bits := map[string]int{"float": 32, "double": 64}[scalar]
		read := c.float(bits)
		return func(v *wire.Value) decoder.Verdict {
			if v.Kind != wire.Number && v.Kind != wire.String {
				return mismatch("NUMBER", v)
			}
			if text, _ := literal(v); v.Kind == wire.String {
				if _, ok := jvm.ParseDouble(text); !ok {
					return mismatch("NUMBER", v)
				}
			}
			return read(v)
		}
	case "boolean":
		return func(v *wire.Value) decoder.Verdict {
			if v.Kind != wire.Bool {
				return mismatch("BOOLEAN", v)
			}
			return boolean(v)
		}
	}
	return func(v *wire.Value) decoder.Verdict {
		if v.Kind == wire.Number {
			v = jvm.StringValue(written(v))
		}
		if v.Kind != wire.String {
			return mismatch("STRING", v)
		}
		if scalar == "char" {
			return character(v)
		}
		return text(v)
	}
}

// wholeOf is nextInt, or nextLong, of a JsonValueReader.
func wholeOf(v *wire.Value, long bool) (int64, decoder.Verdict) {
	switch v.Kind {
	case wire.Number:
		f, _ := jvm.ParseDouble(string(v.Raw))
		n := jvm.ToInt(f)
		if long {
			n = jvm.ToLong(f)
		}
		out := decoder.Verdict{}
		if float64(n) != f {
			out.Loss = decoder.LostDigits
		}
		return n, out
	case wire.String:
		bits := 32
		if long {
			bits = 64
		}
		if n, ok := jvm.ParseWhole(jvm.Text(v), bits); ok {
			return n, decoder.Verdict{}
		}
		if n, ok := wholeDecimal(jvm.Text(v)); ok && (long || n == int64(int32(n))) {
			return n, decoder.Verdict{}
		}
	}
	return 0, mismatch("NUMBER", v)
}

// parsed is a value of code as one that was parsed; nil for what is no such value, an instance of a class say.
func parsed(v eval.Value) *wire.Value {
	s, known := v.Result()
	if !known {
		return nil
	}
	return valueOf(s)
}

func valueOf(s decoder.Seen) *wire.Value {
	switch s.Kind {
	case decoder.SeenNull:
		return &wire.Value{Kind: wire.Null, Raw: []byte("null")}
	case decoder.SeenBool:
		return &wire.Value{Kind: wire.Bool, Raw: []byte(s.Text)}
	case decoder.SeenInt, decoder.SeenFloat:
		if !json.Valid([]byte(s.Text)) {
			return nil
		}
		return &wire.Value{Kind: wire.Number, Raw: []byte(s.Text)}
	case decoder.SeenString:
		return jvm.StringValue(s.Text)
	case decoder.SeenList, decoder.SeenMap:
		out := &wire.Value{Kind: wire.Array}
		if s.Kind == decoder.SeenMap {
			out.Kind = wire.Object
		}
		for i, e := range s.Elems {
			of := valueOf(e)
			if of == nil {
				return nil
			}
			if s.Kind == decoder.SeenList {
				out.Elems = append(out.Elems, of)
				continue
			}
			out.Members = append(out.Members, wire.Member{Name: s.Names[i], Value: of})
		}
		return out
	}
	return nil
}

// doubles are the elements of what was parsed twice, as messages show them.
func doubles(a, b *wire.Value) string {
	var shown []string
	for _, v := range []*wire.Value{a, b} {
		switch v.Kind {
		case wire.Number:
			shown = append(shown, written(v))
		case wire.String:
			shown = append(shown, jvm.Text(v))
		case wire.Null, wire.Bool:
			shown = append(shown, string(v.Raw))
		default:
			return ""
		}
	}
	return ": " + strings.Join(shown, " and ")
}

// twice is the error for a key that comes twice in an object which is parsed, nil where none does.
func twice(v *wire.Value) *decoder.Error {
	if v.Kind == wire.Array {
		for _, e := range v.Elems {
			if err := twice(e); err != nil {
				return err
			}
		}
		return nil
	}
	first := map[string]*wire.Value{}
	for _, m := range v.Members {
		if err := twice(m.Value); err != nil {
			return err
		}
		if was := first[m.Name]; was != nil && was.Kind != wire.Null { // put answers what was there before
			return data(decoder.ReasonTwice, "Map key '%s' has multiple values at path %s.%s%s", m.Name, decoder.PathMark, m.Name, doubles(was, m.Value))
		}
		first[m.Name] = m.Value
	}
	return nil
}
