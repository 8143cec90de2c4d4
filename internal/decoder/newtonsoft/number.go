package newtonsoft

import (
	"math"
	"math/big"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
	"vetta/internal/wire"
)

func isFloat(raw string) bool { return strings.ContainsAny(raw, ".eE") }

func whole(digits string) decoder.Verdict {
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: digits}}
}

// asInt32 is JsonReader.ReadAsInt32, then the conversion to a narrower type.
func asInt32(v *wire.Value, t *model.Type, bits int, signed bool) decoder.Verdict {
	switch v.Kind {
	case wire.Number:
		raw := string(v.Raw)
		if isFloat(raw) {
			return decoder.Verdict{Err: reading(decoder.ReasonRange, "Input string '"+raw+"' is not a valid integer.")}
		}
		if _, ok := clr.ParseWhole(raw, 32, true); !ok {
			return decoder.Verdict{Err: reading(decoder.ReasonRange, "JSON integer "+raw+" is too large or small for an Int32.")}
		}
		if digits, ok := clr.ParseWhole(raw, bits, signed); ok {
			return whole(digits)
		}
		return decoder.Verdict{Err: converting(decoder.ReasonRange, v, t)}
	case wire.String:
		text, _ := v.Text()
		if text == "" {
			return decoder.Verdict{Err: serial(decoder.ReasonText, "Error converting value {null} to type '"+clr.Name(t)+"'.")}
		}
		if digits, ok := clr.ParseWhole(strings.TrimSpace(text), bits, signed); ok {
			return whole(digits)
		}
		return decoder.Verdict{Err: reading(decoder.ReasonText, "Could not convert string to integer: "+text+".")}
	}
	return decoder.Verdict{Err: reading(decoder.ReasonKind, "Unexpected character encountered while parsing value: "+first(v)+".")}
}

// asWhole is the conversion of what the reader makes of a literal: half to even of a double, one and zero of a bool.
func asWhole(v *wire.Value, t *model.Type, bits int, signed bool) decoder.Verdict {
	switch v.Kind {
	case wire.Bool:
		if v.True() {
			return whole("1")
		}
		return whole("0")
	case wire.Number:
		raw := string(v.Raw)
		if isFloat(raw) {
			f, _ := strconv.ParseFloat(raw, 64)
			r := math.RoundToEven(f)
			if math.IsInf(r, 0) || math.Abs(r) > 1e19 {
				return decoder.Verdict{Err: converting(decoder.ReasonRange, v, t)}
			}
			n, _ := big.NewFloat(r).Int(nil)
			if !clr.InRange(n, bits, signed) {
				return decoder.Verdict{Err: converting(decoder.ReasonRange, v, t)}
			}
			out := whole(n.String())
			if r != f {
				out.Loss = decoder.LostDigits
			}
			return out
		}
		if digits, ok := clr.ParseWhole(raw, bits, signed); ok {
			return whole(digits)
		}
		return decoder.Verdict{Err: converting(decoder.ReasonRange, v, t)}
	case wire.String:
		text, _ := v.Text()
		if digits, ok := clr.ParseWhole(strings.TrimSpace(text), bits, signed); ok {
			return whole(digits)
		}
		return decoder.Verdict{Err: converting(decoder.ReasonText, v, t)}
	}
	return decoder.Verdict{Err: converting(decoder.ReasonKind, v, t)}
}

// asDouble is JsonReader.ReadAsDouble.
func asDouble(v *wire.Value, t *model.Type) decoder.Verdict {
	bits := clr.IsFloat(t)
	of := func(text string) (decoder.Verdict, bool) {
		f, err := strconv.ParseFloat(text, 64)
		if err != nil && !math.IsInf(f, 0) {
			return decoder.Verdict{}, false
		}
		if bits == 32 {
			f = float64(float32(f))
		}
		seen := clr.FloatOf(f, bits)
		out := decoder.Verdict{Seen: seen}
		if math.IsInf(f, 0) || significant(text) > map[int]int{32: 7, 64: 15}[bits] {
			if out.Loss = clr.Digits(text, seen.Text); math.IsInf(f, 0) {
				out.Loss = decoder.LostDigits
			}
		}
		return out, true
	}
	switch v.Kind {
	case wire.Number:
		if out, ok := of(string(v.Raw)); ok {
			return out
		}
	case wire.String:
		text, _ := v.Text()
		if text == "" {
			return decoder.Verdict{Err: serial(decoder.ReasonText, "Error converting value {null} to type '"+clr.Name(t)+"'.")}
		}
		switch trimmed := strings.TrimSpace(text); trimmed {
		case "NaN", "Infinity", "-Infinity":
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenFloat, Text: trimmed}}
		default:
			if plain, ok := thousands(trimmed); ok {
				if out, ok := of(plain); ok {
					out.Loss = decoder.NoLoss
					return out
				}
			}
		}
		return decoder.Verdict{Err: reading(decoder.ReasonText, "Could not convert string to double: "+text+".")}
	case wire.Bool:
		return decoder.Verdict{Err: reading(decoder.ReasonKind, "Unexpected character encountered while parsing value: "+first(v)+".")}
	}
	return decoder.Verdict{Err: converting(decoder.ReasonKind, v, t)}
}

// significant is how many digits a number has that count.
func significant(text string) int {
	mantissa := text
	if i := strings.IndexAny(text, "eE"); i >= 0 {
		mantissa = text[:i]
	}
	return len(strings.TrimLeft(strings.NewReplacer("-", "", "+", "", ".", "").Replace(mantissa), "0"))
}

// thousands takes the commas out of a number, and says whether it is one.
func thousands(text string) (string, bool) {
	rest := strings.TrimLeft(text, "+-")
	if len(text)-len(rest) > 1 || rest == "" || strings.Trim(rest, "0123456789.,eE+-") != "" {
		return "", false
	}
	before, behind, _ := strings.Cut(rest, ".")
	if strings.Contains(behind, ",") || before != "" && before[0] == ',' {
		return "", false
	}
	return strings.TrimPrefix(strings.ReplaceAll(text, ",", ""), "+"), true
}

// asDecimal is JsonReader.ReadAsDecimal.
func asDecimal(v *wire.Value, t *model.Type) decoder.Verdict {
	switch v.Kind {
	case wire.Number:
		if d, ok := clr.Decimal(string(v.Raw)); ok {
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenDecimal, Text: d}, Loss: clr.Digits(string(v.Raw), d)}
		}
		return decoder.Verdict{Err: reading(decoder.ReasonRange, "Input string '"+string(v.Raw)+"' is not a valid decimal.")}
	case wire.String:
		text, _ := v.Text()
		if text == "" {
			return decoder.Verdict{Err: serial(decoder.ReasonText, "Error converting value {null} to type '"+clr.Name(t)+"'.")}
		}
		if plain, ok := thousands(strings.TrimSpace(text)); ok {
			if d, ok := clr.Decimal(plain); ok {
				return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenDecimal, Text: d}}
			}
		}
		return decoder.Verdict{Err: reading(decoder.ReasonText, "Could not convert string to decimal: "+text+".")}
	case wire.Bool:
		return decoder.Verdict{Err: reading(decoder.ReasonKind, "Unexpected character encountered while parsing value: "+first(v)+".")}
	}
	return decoder.Verdict{Err: converting(decoder.ReasonKind, v, t)}
}
