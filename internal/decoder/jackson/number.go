package jackson

import (
	"fmt"
	"math"
	"math/big"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/wire"
)

// intRange is how messages name what an int holds.
const intRange = "int (-2147483648 - 2147483647)"

// whole reads an integer of so many bits.
func (s *scalar) whole(bits int) func(*wire.Value) decoder.Verdict {
	name := map[int]string{8: "Java byte", 16: "Java short", 32: intRange, 64: "long (-9223372036854775808 - 9223372036854775807)"}[bits]
	low, high := limits(bits)
	return func(v *wire.Value) decoder.Verdict {
		switch v.Kind {
		case wire.Null:
			return s.null()
		case wire.String:
			text, settled := s.given(v)
			if settled != nil {
				return *settled
			}
			return s.wholeText(text, bits)
		case wire.Number:
			if !isFloat(v) {
				n, err := strconv.ParseInt(string(v.Raw), 10, 64)
				if err != nil || n < low || n > high {
					of := name
					if (err != nil || n < math.MinInt32 || n > math.MaxInt32) && bits < 32 {
						of = intRange // it is read as an int first
					}
					return decoder.Verdict{Err: outOfRange(numeral(v), of)}
				}
				return wholeNumber(n, bits, false)
			}
			if s.c.off("ACCEPT_FLOAT_AS_INT") {
				return decoder.Verdict{Err: s.fraction(v)}
			}
			f, _ := jvm.ParseDouble(string(v.Raw))
			limit := math.Ldexp(1, max(bits, 32)-1)
			if f < -limit || f >= limit {
				if bits < 32 {
					return decoder.Verdict{Err: outOfRange(numeral(v), intRange)}
				}
				return decoder.Verdict{Err: outOfRange(numeral(v), name)}
			}
			n := int64(math.Trunc(f))
			if n < low || n > high {
				return decoder.Verdict{Err: outOfRange(numeral(v), name)}
			}
			return wholeNumber(n, bits, float64(n) != f)
		}
		return decoder.Verdict{Err: mismatched(s.typ, v)}
	}
}

// limits are the least and the greatest number that so many bits are given.
func limits(bits int) (low, high int64) {
	if bits == 8 {
		return -128, 255 // an unsigned one is taken too, and wraps
	}
	return int64(-1) << (bits - 1), int64(1)<<(bits-1) - 1
}

// wholeNumber is a number as so many bits hold it.
func wholeNumber(n int64, bits int, lossy bool) decoder.Verdict {
	cut := n
	if bits == 8 {
		cut = int64(int8(n))
	}
	out := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: strconv.FormatInt(cut, 10)}}
	if lossy || cut != n {
		out.Loss = decoder.LostDigits
	}
	return out
}

// wholeText is a text that is parsed as an integer of so many bits.
func (s *scalar) wholeText(text string, bits int) decoder.Verdict {
	low, high := limits(bits)
	n, err := strconv.ParseInt(text, 10, 64)
	switch {
	case err != nil && err.(*strconv.NumError).Err != strconv.ErrRange || err != nil && bits == 64:
		return decoder.Verdict{Err: weird(s.texts(), text, "not a valid `"+s.texts()+"` value", decoder.ReasonKind)}
	case err != nil || n < low || n > high:
		detail := fmt.Sprintf("overflow, value cannot be represented as %d-bit value", bits)
		if bits == 32 {
			detail = fmt.Sprintf("Overflow: numeric value (%s) out of range of int (-2147483648 -2147483647)", text)
		}
		return decoder.Verdict{Err: weird(s.texts(), text, detail, decoder.ReasonRange)}
	}
	return wholeNumber(n, bits, false)
}

// notFinite are the texts of numbers that are not finite (StdDeserializer).
var notFinite = map[string]float64{"NaN": math.NaN(), "INF": math.Inf(1), "Infinity": math.Inf(1), "-INF": math.Inf(-1), "-Infinity": math.Inf(-1)}

// float reads a floating-point number of so many bits.
func (s *scalar) float(bits int) func(*wire.Value) decoder.Verdict {
	take := func(f float64, lossy bool) decoder.Verdict {
		if bits == 32 {
			f = float64(float32(f))
		}
		out := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(f, bits)}}
		if lossy {
			out.Loss = decoder.LostDigits
		}
		return out
	}
	return func(v *wire.Value) decoder.Verdict {
		switch v.Kind {
		case wire.Null:
			return s.null()
		case wire.String:
			if f, ok := notFinite[jvm.Text(v)]; ok { // no conversion, whatever the mapper says of those
				return take(f, false)
			}
			text, settled := s.given(v)
			if settled != nil {
				return *settled
			}
			if f, ok := notFinite[text]; ok {
				return take(f, false)
			}
			f, ok := jvm.ParseDouble(text)
			if !ok {
				detail := "not a valid `" + strings.TrimPrefix(s.typ, "java.lang.") + "` value"
				if bits == 64 && s.primitive {
					detail += " (as String to convert)"
				}
				return decoder.Verdict{Err: weird(s.typ, text, detail, decoder.ReasonKind)}
			}
			return take(f, false)
		case wire.Number:
			f, _ := jvm.ParseDouble(string(v.Raw))
			if f == 0 && (!isFloat(v) || v.Aside) {
				f = 0 // a whole number has no negative zero, nor has a decimal
			}
			g := f
			if bits == 32 {
				g = float64(float32(f))
			}
			return take(f, !jvm.SameNumber(string(v.Raw), g, bits))
		}
		return decoder.Verdict{Err: mismatched(s.typ, v)}
	}
}

// decimal, bigInteger and number read the platform's numbers of any size.
func (s *scalar) decimal(v *wire.Value) decoder.Verdict {
	return s.numeric(v, "not a valid representation", func(text string, _ bool) (decoder.Seen, decoder.Loss, bool) {
		d, ok := jvm.ParseDecimal(text)
		return decoder.Seen{Kind: decoder.SeenDecimal, Text: d}, decoder.NoLoss, ok
	})
}

func (s *scalar) bigInteger(v *wire.Value) decoder.Verdict {
	if s.c.off("ACCEPT_FLOAT_AS_INT") && v.Kind == wire.Number && isFloat(v) {
		return decoder.Verdict{Err: s.fraction(v)}
	}
	return s.numeric(v, "not a valid representation", func(text string, quoted bool) (decoder.Seen, decoder.Loss, bool) {
		if quoted || !strings.ContainsAny(text, ".eE") {
			n, ok := jvm.ParseInteger(text)
			return decoder.Seen{Kind: decoder.SeenInt, Text: n}, decoder.NoLoss, ok
		}
		r, ok := new(big.Rat).SetString(text)
		if !ok {
			return decoder.Seen{Kind: decoder.SeenUnknown}, decoder.NoLoss, true
		}
		n := new(big.Int).Quo(r.Num(), r.Denom())
		loss := decoder.NoLoss
		if !r.IsInt() {
			loss = decoder.LostDigits
		}
		return decoder.Seen{Kind: decoder.SeenInt, Text: n.String()}, loss, true
	})
}

func (s *scalar) number(v *wire.Value) decoder.Verdict {
	if isDecimal(v) {
		return s.decimal(v)
	}
	return s.numeric(v, "not a valid number", func(text string, quoted bool) (decoder.Seen, decoder.Loss, bool) {
		if n, ok := jvm.ParseInteger(text); ok {
			return decoder.Seen{Kind: decoder.SeenInt, Text: n}, decoder.NoLoss, true
		}
		f, ok := jvm.ParseDouble(text)
		return decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(f, 64)}, decoder.NoLoss, ok
	})
}

func (s *scalar) numeric(v *wire.Value, detail string, read func(text string, quoted bool) (decoder.Seen, decoder.Loss, bool)) decoder.Verdict {
	text, quoted := numeral(v), false
	switch v.Kind {
	case wire.Null:
		return decoder.Verdict{}
	case wire.Number:
	case wire.String:
		if err := s.strict(v); err != nil {
			return decoder.Verdict{Err: err}
		}
		var done bool
		if text, done = s.text(v); done {
			return decoder.Verdict{}
		}
		quoted = true
	default:
		return decoder.Verdict{Err: mismatched(s.typ, v)}
	}
	seen, loss, ok := read(text, quoted)
	if !ok {
		return decoder.Verdict{Err: weird(s.typ, text, detail, decoder.ReasonKind)}
	}
	return decoder.Verdict{Seen: seen, Loss: loss}
}
