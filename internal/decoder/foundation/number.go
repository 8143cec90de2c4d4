package foundation

import (
	"math"
	"math/big"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/wire"
)

// width is the size of an integer type.
type width struct {
	bits   int
	signed bool
}

// integers are the integer types of the standard library; Int and UInt are those
// of a 64-bit platform.
var integers = map[string]width{
	"Int": {64, true}, "Int8": {8, true}, "Int16": {16, true}, "Int32": {32, true}, "Int64": {64, true}, "Int128": {128, true},
	"UInt": {64, false}, "UInt8": {8, false}, "UInt16": {16, false}, "UInt32": {32, false}, "UInt64": {64, false}, "UInt128": {128, false},
}

// holds says whether the type can hold n.
func (w width) holds(n *big.Int) bool {
	if !w.signed {
		return n.Sign() >= 0 && n.BitLen() <= w.bits
	}
	if n.Sign() < 0 {
		return new(big.Int).Not(n).BitLen() < w.bits
	}
	return n.BitLen() < w.bits
}

// readInteger is JSONDecoderImpl.unwrapFixedWidthInteger: a number written with a
// point or an exponent goes through Double, and through Decimal from 2^53 on.
func readInteger(name string) func(*wire.Value) decoder.Verdict {
	w := integers[name]
	return func(v *wire.Value) decoder.Verdict {
		if v.Kind != wire.Number {
			return decoder.Verdict{Err: mismatch(name, v.Kind)}
		}
		literal := string(v.Raw)
		n, exact := integerOf(literal, w)
		if n == nil {
			return decoder.Verdict{Err: notValid(decoder.ReasonRange)}
		}
		verdict := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: n.String()}}
		if !exact {
			verdict.Loss = decoder.LostDigits
		}
		return verdict
	}
}

// integerOf is the integer that a literal becomes, nil where the type cannot hold
// it, and whether it is exactly what was sent.
func integerOf(literal string, w width) (n *big.Int, exact bool) {
	if !strings.ContainsAny(literal, ".eE") {
		n, _ = new(big.Int).SetString(literal, 10)
		if n == nil || !w.holds(n) {
			return nil, false
		}
		return n, true
	}
	f, err := strconv.ParseFloat(literal, 64)
	if err != nil || f != math.Trunc(f) {
		return nil, false
	}
	n, _ = new(big.Float).SetFloat64(f).Int(nil)
	if !w.holds(n) {
		return nil, false
	}
	sent, ok := new(big.Rat).SetString(literal)
	if !ok {
		return nil, false
	}
	if math.Abs(f) < 1<<53 {
		return n, sent.Cmp(new(big.Rat).SetInt(n)) == 0
	}
	if !sent.IsInt() || !w.holds(sent.Num()) {
		return nil, false
	}
	return sent.Num(), true
}

// readFloat is JSONDecoderImpl.unwrapFloatingPoint: what overflows to infinity or
// underflows to zero is refused. words are the strings that stand for infinities
// and NaN, by what they become.
func readFloat(name string, bits int, words map[string]string) func(*wire.Value) decoder.Verdict {
	return func(v *wire.Value) decoder.Verdict {
		if v.Kind == wire.String && words != nil {
			if text, _ := v.Text(); words[text] != "" {
				return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: words[text]}}
			}
		}
		if v.Kind != wire.Number {
			return decoder.Verdict{Err: mismatch(name, v.Kind)}
		}
		f, ok := floatOf(string(v.Raw), bits)
		if !ok {
			return decoder.Verdict{Err: notValid(decoder.ReasonRange)}
		}
		verdict := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenFloat, Text: FloatText(f, bits)}}
		if losesDigits(string(v.Raw), f, bits) {
			verdict.Loss = decoder.LostDigits
		}
		return verdict
	}
}

func floatOf(literal string, bits int) (f float64, ok bool) {
	f, err := strconv.ParseFloat(literal, bits)
	if err != nil || f == 0 && strings.ContainsAny(mantissa(literal), "123456789") {
		return 0, false
	}
	return f, true
}

func mantissa(literal string) string {
	if e := strings.IndexAny(literal, "eE"); e >= 0 {
		return literal[:e]
	}
	return literal
}

// losesDigits says whether f is another number than was sent: neither its value
// nor its shortest decimal equals the literal.
func losesDigits(literal string, f float64, bits int) bool {
	if bits == 64 && len(literal) <= 15 && !strings.ContainsAny(literal, "eE") { // fifteen digits always survive
		return false
	}
	sent, ok := new(big.Rat).SetString(literal)
	if !ok {
		return false
	}
	if value := new(big.Rat).SetFloat64(f); value != nil && value.Cmp(sent) == 0 {
		return false
	}
	shortest, ok := new(big.Rat).SetString(strconv.FormatFloat(f, 'e', -1, bits))
	return ok && shortest.Cmp(sent) != 0
}

// FloatText writes a number as Swift's description does: the shortest decimal that
// reads back alike, with an exponent below 10^-4 and from 2^54 (of a Float, 2^25) on.
func FloatText(f float64, bits int) string {
	limit := float64(1 << 54)
	if bits == 32 {
		limit = 1 << 25
	}
	if f != 0 && (math.Abs(f) < 1e-4 || math.Abs(f) > limit) {
		return strconv.FormatFloat(f, 'e', -1, bits)
	}
	text := strconv.FormatFloat(f, 'f', -1, bits)
	if !strings.Contains(text, ".") {
		text += ".0"
	}
	return text
}

// readDecimal is JSONDecoderImpl.unwrapDecimal. A Decimal has a mantissa of 128
// bits and an exponent of 8: digits beyond the mantissa are dropped, numbers
// beyond the exponent refused.
func readDecimal(v *wire.Value) decoder.Verdict {
	if v.Kind == wire.Null {
		return decoder.Verdict{Err: valueNotFound("Decimal")}
	}
	if v.Kind != wire.Number {
		return decoder.Verdict{Err: &decoder.Error{Kind: "typeMismatch", Reason: decoder.ReasonKind, Message: "typeMismatch: Decimal: "}}
	}
	text, lost, ok := decimalOf(string(v.Raw))
	if !ok {
		return decoder.Verdict{Err: notValid(decoder.ReasonRange)}
	}
	verdict := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenDecimal, Text: text}}
	if lost {
		verdict.Loss = decoder.LostDigits
	}
	return verdict
}

var mantissaLimit = new(big.Int).Lsh(big.NewInt(1), 128)

func decimalOf(literal string) (text string, lost, ok bool) {
	digits, negative := strings.CutPrefix(literal, "-")
	exponent := 0
	if e := strings.IndexAny(digits, "eE"); e >= 0 {
		n, err := strconv.Atoi(digits[e+1:])
		if err != nil {
			n = math.MaxInt16
			if digits[e+1] == '-' {
				n = -n
			}
		}
		exponent, digits = n, digits[:e]
	}
	if point := strings.IndexByte(digits, '.'); point >= 0 {
		exponent -= len(digits) - point - 1
		digits = digits[:point] + digits[point+1:]
	}
	m, ten := new(big.Int), big.NewInt(10)
	for i := range len(digits) {
		next := new(big.Int).Mul(m, ten)
		next.Add(next, big.NewInt(int64(digits[i]-'0')))
		if next.Cmp(mantissaLimit) >= 0 {
			exponent += len(digits) - i
			lost = strings.Trim(digits[i:], "0") != ""
			break
		}
		m = next
	}
	for r := new(big.Int); m.Sign() != 0; {
		q, _ := new(big.Int).QuoRem(m, ten, r)
		if r.Sign() != 0 && exponent >= -128 {
			break
		}
		lost = lost || r.Sign() != 0
		m = q
		exponent++
	}
	if m.Sign() == 0 {
		return "0", lost, true
	}
	for exponent > 127 {
		m.Mul(m, ten)
		exponent--
		if m.Cmp(mantissaLimit) >= 0 {
			return "", false, false
		}
	}
	text = m.String()
	switch {
	case exponent > 0:
		text += strings.Repeat("0", exponent)
	case exponent < 0:
		if zeros := 1 - exponent - len(text); zeros > 0 {
			text = strings.Repeat("0", zeros) + text
		}
		text = text[:len(text)+exponent] + "." + text[len(text)+exponent:]
	}
	if negative {
		text = "-" + text
	}
	return text, lost, true
}

// parseIntKey is Int.init(_:radix:) of the standard library: digits with an
// optional sign. It answers the number as it would be printed.
func parseIntKey(text string) (string, bool) {
	n, err := strconv.ParseInt(text, 10, 64)
	if err != nil || strings.Contains(text, "_") {
		return "", false
	}
	return strconv.FormatInt(n, 10), true
}
