package moshi

import (
	"math"
	"math/big"
	"strconv"
	"strings"
	"time"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// token is how JsonReader names what it has found.
var token = map[wire.Kind]string{
	wire.Null: "NULL", wire.Bool: "BOOLEAN", wire.Number: "NUMBER", wire.String: "STRING", wire.Array: "BEGIN_ARRAY", wire.Object: "BEGIN_OBJECT",
}

// expected is the error for a value of another kind.
func expected(what string, kind wire.Kind) *decoder.Error {
	reason := decoder.ReasonKind
	if kind == wire.Null {
		reason = decoder.ReasonNull
	}
	return data(reason, "Expected %s but was %s at path %s", what, token[kind], decoder.PathMark)
}

// literal is the text of a number or a string: JsonReader reads either where a number or a string is wanted.
func literal(v *wire.Value) (text string, ok bool) {
	switch v.Kind {
	case wire.String:
		return jvm.Text(v), true
	case wire.Number:
		return string(v.Raw), true
	}
	return "", false
}

// unfit is the error for a text that is no number of the kind wanted.
func unfit(v *wire.Value, what, text string) decoder.Verdict {
	reason := decoder.ReasonKind
	if v.Kind == wire.Number {
		reason = decoder.ReasonRange
	}
	return decoder.Verdict{Err: data(reason, "Expected %s but was %s at path %s", what, text, decoder.PathMark)}
}

// integer is nextInt within a range: of a text, Integer.parseInt, or a double that is whole.
func integer(what string, low, high, wraps int64) func(*wire.Value) decoder.Verdict {
	return func(v *wire.Value) decoder.Verdict {
		text, ok := literal(v)
		if !ok {
			return decoder.Verdict{Err: expected("an int", v.Kind)}
		}
		n, ok := jvm.ParseWhole(text, 32)
		if !ok {
			f, parsed := jvm.ParseDouble(text)
			if n = jvm.ToInt(f); !parsed || float64(n) != f {
				return unfit(v, "an int", text)
			}
		}
		if n < low || n > high {
			return decoder.Verdict{Err: data(decoder.ReasonRange, "Expected %s but was %d at path %s", what, n, decoder.PathMark)}
		}
		out := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: strconv.FormatInt(n, 10)}}
		if wraps > 0 && n >= wraps { // a byte is read without its sign
			out.Seen.Text, out.Loss = strconv.FormatInt(n-2*wraps, 10), decoder.LostDigits
		}
		return out
	}
}

// long is nextLong: of a text, Long.parseLong, or a decimal that is whole.
func long(v *wire.Value) decoder.Verdict {
	text, ok := literal(v)
	if !ok {
		return decoder.Verdict{Err: expected("a long", v.Kind)}
	}
	n, ok := jvm.ParseWhole(text, 64)
	if !ok {
		if n, ok = wholeDecimal(text); !ok {
			return unfit(v, "a long", text)
		}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: strconv.FormatInt(n, 10)}}
}

// wholeDecimal is new BigDecimal(text).longValueExact().
func wholeDecimal(text string) (int64, bool) {
	if _, ok := jvm.ParseDecimal(text); !ok {
		return 0, false
	}
	f, _ := jvm.ParseDouble(text)
	mantissa, _, _ := strings.Cut(strings.ToLower(text), "e")
	switch {
	case strings.Trim(mantissa, "+-0.") == "":
		return 0, true
	case math.Abs(f) > 1e19 || math.Abs(f) < 0.5: // an exponent of any size is not written out
		return 0, false
	}
	exact, ok := new(big.Rat).SetString(text)
	if !ok || !exact.IsInt() || !exact.Num().IsInt64() {
		return 0, false
	}
	return exact.Num().Int64(), true
}

// float is nextDouble, cut to a float where there are 32 bits.
func (c *compiler) float(bits int) func(*wire.Value) decoder.Verdict {
	return func(v *wire.Value) decoder.Verdict {
		text, ok := literal(v)
		if !ok {
			return decoder.Verdict{Err: expected("a double", v.Kind)}
		}
		f, ok := jvm.ParseDouble(text)
		if !ok {
			return unfit(v, "a double", text)
		}
		whole := f
		if bits == 32 {
			f = float64(float32(f))
		}
		if !c.on("lenient") && (math.IsInf(f, 0) || math.IsNaN(f)) {
			err := data(decoder.ReasonRange, "JSON forbids NaN and infinities: %s at path %s", jvm.DoubleToString(f), decoder.PathMark)
			if math.IsInf(whole, 0) || math.IsNaN(whole) {
				err.Kind = "JsonEncodingException"
				err.Message = strings.Replace(err.Message, "JsonDataException", err.Kind, 1)
			}
			return decoder.Verdict{Err: err}
		}
		out := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(f, bits)}}
		if v.Kind == wire.Number && !jvm.SameNumber(text, f, bits) {
			out.Loss = decoder.LostDigits
		}
		return out
	}
}

func boolean(v *wire.Value) decoder.Verdict {
	if v.Kind != wire.Bool {
		return decoder.Verdict{Err: expected("a boolean", v.Kind)}
	}
	return decoder.Verdict{Seen: decoder.Bool(v.True())}
}

// character is nextString of at most one character.
func character(v *wire.Value) decoder.Verdict {
	text, ok := literal(v)
	switch {
	case !ok:
		return decoder.Verdict{Err: expected("a string", v.Kind)}
	case text == "":
		return decoder.Verdict{Err: &decoder.Error{Kind: "StringIndexOutOfBoundsException", Reason: decoder.ReasonText, Message: "StringIndexOutOfBoundsException: String index out of range: 0"}}
	case jvm.Chars(text) > 1:
		return decoder.Verdict{Err: data(decoder.ReasonText, "Expected a char but was %q at path %s", text, decoder.PathMark)}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: text, Type: "char"}}
}

func text(v *wire.Value) decoder.Verdict {
	s, ok := literal(v)
	if !ok {
		return decoder.Verdict{Err: expected("a string", v.Kind)}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: s}}
}

// scalar is the node for the primitives and String, nil for other types.
func (c *compiler) scalar(t *model.Type) *decoder.Node {
	scalar := jvm.Scalar(t)
	if scalar == "" && t.Name != "String" {
		return nil
	}
	read := text
	switch scalar {
	case "int":
		read = integer("an int", math.MinInt32, math.MaxInt32, 0)
	case "short":
		read = integer("a short", math.MinInt16, math.MaxInt16, 0)
	case "byte":
		read = integer("a byte", math.MinInt8, math.MaxUint8, 1<<7)
	case "long":
		read = long
	case "float":
		read = c.float(32)
	case "double":
		read = c.float(64)
	case "boolean":
		read = boolean
	case "char":
		read = character
	}
	if c.values {
		read = c.valueReads(scalar)
	}
	return &decoder.Node{Op: decoder.OpLeaf, Read: read, MindsText: true, NumbersByClass: jvm.Scalar(t) != "char", ByFacts: jvm.Scalar(t) != "char"}
}

// constant reads the constants of an enum by name, or by what @Json calls them; fallback makes something of another
// text, nil where that is an error.
func constant(m *model.Model, fallback func() decoder.Seen) func(*wire.Value) decoder.Verdict {
	byName := map[string]string{}
	var names []string
	for _, k := range m.Cases {
		name := k.Marks.Find("Json").Text("name", k.Name)
		names = append(names, name)
		if _, known := byName[name]; !known {
			byName[name] = k.Name
		}
	}
	return func(v *wire.Value) decoder.Verdict {
		s, ok := literal(v)
		if !ok {
			return decoder.Verdict{Err: expected("a string", v.Kind)}
		}
		name, known := byName[s]
		switch {
		case known && v.Kind == wire.String:
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenEnum, Text: name, Type: m.Name}}
		case fallback != nil && v.Kind == wire.String:
			return decoder.Verdict{Seen: fallback(), Loss: decoder.NoConstant}
		case fallback != nil:
			return decoder.Verdict{Err: expected("a string", v.Kind)}
		}
		return decoder.Verdict{Err: data(decoder.ReasonConstant, "Expected one of [%s] but was %s at path %s", strings.Join(names, ", "), s, decoder.PathMark)}
	}
}

// rfc3339 is Rfc3339DateJsonAdapter: a date, and a time with an offset where there is one (Iso8601Utils).
func rfc3339(v *wire.Value) decoder.Verdict {
	s, ok := literal(v)
	if !ok {
		return decoder.Verdict{Err: expected("a string", v.Kind)}
	}
	at, ok := jvm.ParseISO(s, time.UTC)
	if !ok {
		return decoder.Verdict{Err: data(decoder.ReasonDate, "Not an RFC 3339 date: %s", s)}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenDate, Seconds: float64(at.UnixMilli()) / 1000}}
}
