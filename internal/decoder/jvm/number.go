// Package jvm is what decoding libraries on the Java virtual machine have in common:
// how the platform's own classes read text, as measured with OpenJDK 17
// (testdata/truth/java).
package jvm

import (
	"fmt"
	"math"
	"math/big"
	"strconv"
	"strings"
	"unicode/utf16"
	"unicode/utf8"

	"vetta/internal/wire"
)

// Trim is String.trim: it takes off what is not above the blank.
func Trim(s string) string { return strings.TrimFunc(s, func(r rune) bool { return r <= ' ' }) }

// ParseWhole is Integer.parseInt and its like for integers of so many bits: a sign and
// digits, nothing else.
func ParseWhole(s string, bits int) (int64, bool) {
	n, err := strconv.ParseInt(s, 10, bits)
	return n, err == nil && !strings.Contains(s, "_")
}

// ParseDouble is Double.parseDouble (JLS 3.10.2): white space around a decimal or
// hexadecimal number that may end in f or d, NaN or Infinity. Too large is infinite.
func ParseDouble(s string) (float64, bool) {
	s = Trim(s)
	body := strings.TrimLeft(s, "+-")
	if len(s)-len(body) > 1 || body == "" {
		return 0, false
	}
	negative := s[0] == '-'
	sign := 1.0
	if negative {
		sign = -1
	}
	switch body {
	case "NaN":
		return math.NaN(), true
	case "Infinity":
		return math.Inf(int(sign)), true
	}
	hex := strings.HasPrefix(body, "0x") || strings.HasPrefix(body, "0X")
	if last := body[len(body)-1] | 0x20; last == 'd' || last == 'f' {
		if !hex || strings.ContainsAny(body, "pP") {
			body = body[:len(body)-1]
		}
	}
	if body == "" || strings.ContainsAny(body, "_iInN") || hex && !strings.ContainsAny(body, "pP") {
		return 0, false
	}
	f, err := strconv.ParseFloat(body, 64)
	if err != nil && !math.IsInf(f, 0) {
		return 0, false
	}
	return sign * f, true
}

// ToLong is the conversion of a double to a long, and ToInt that to an int: towards
// zero, and to the nearest there is where it does not fit (JLS 5.1.3).
func ToLong(f float64) int64 {
	switch {
	case f != f:
		return 0
	case f >= 1<<63:
		return math.MaxInt64
	case f < -1<<63:
		return math.MinInt64
	}
	return int64(f)
}

// ToInt converts a double to an int.
func ToInt(f float64) int64 {
	switch {
	case f != f:
		return 0
	case f >= 1<<31:
		return math.MaxInt32
	case f < -1<<31:
		return math.MinInt32
	}
	return int64(f)
}

// FloatText is the shortest decimal that gives the same float of so many bits, as Seen
// has it, or the words for what is no number.
func FloatText(f float64, bits int) string {
	switch {
	case math.IsNaN(f):
		return "NaN"
	case math.IsInf(f, 1):
		return "Infinity"
	case math.IsInf(f, -1):
		return "-Infinity"
	}
	text := strconv.FormatFloat(f, 'g', -1, bits)
	if strings.ContainsAny(text, "e") {
		if plain := strconv.FormatFloat(f, 'f', -1, bits); len(plain) < 20 {
			text = plain
		}
	}
	if !strings.ContainsAny(text, ".e") {
		text += ".0"
	}
	return text
}

// DoubleToString is Double.toString: with an exponent from 10^7 on and below 10^-3.
func DoubleToString(f float64) string {
	a := math.Abs(f)
	if a == 0 || a >= 1e-3 && a < 1e7 || math.IsNaN(f) || math.IsInf(f, 0) {
		return FloatText(f, 64)
	}
	mantissa, exponent, _ := strings.Cut(strconv.FormatFloat(f, 'E', -1, 64), "E")
	if !strings.Contains(mantissa, ".") {
		mantissa += ".0"
	}
	sign := ""
	if strings.HasPrefix(exponent, "-") {
		sign = "-"
	}
	return mantissa + "E" + sign + strings.TrimLeft(exponent, "+-0")
}

// ParseDecimal is new BigDecimal(s), and the text that BigDecimal.toString gives it.
func ParseDecimal(s string) (string, bool) {
	n, scale, ok := parseDecimal(s)
	if !ok {
		return "", false
	}
	return decimalText(n, scale), true
}

// ParseShortDecimal is new BigDecimal(s).stripTrailingZeros().
func ParseShortDecimal(s string) (string, bool) {
	n, scale, ok := parseDecimal(s)
	switch {
	case !ok:
		return "", false
	case n.Sign() == 0:
		return "0", true
	}
	digits := n.String()
	short := strings.TrimRight(digits, "0")
	n.SetString(short, 10)
	return decimalText(n, scale-int64(len(digits)-len(short))), true
}

func parseDecimal(s string) (n *big.Int, scale int64, ok bool) {
	body := strings.TrimPrefix(s, "-")
	if body == s {
		body = strings.TrimPrefix(s, "+")
	}
	negative := strings.HasPrefix(s, "-")
	exponent := int64(0)
	if e := strings.IndexAny(body, "eE"); e >= 0 {
		e10, err := strconv.ParseInt(body[e+1:], 10, 32)
		if err != nil {
			return nil, 0, false
		}
		exponent, body = e10, body[:e]
	}
	whole, fraction, _ := strings.Cut(body, ".")
	digits := whole + fraction
	if digits == "" || strings.Trim(digits, "0123456789") != "" {
		return nil, 0, false
	}
	n, _ = new(big.Int).SetString(digits, 10)
	if negative {
		n.Neg(n)
	}
	return n, int64(len(fraction)) - exponent, true
}

// decimalText is BigDecimal.toString: plain where the scale is not negative and the
// adjusted exponent not below -6, else in scientific notation.
func decimalText(n *big.Int, scale int64) string {
	digits := new(big.Int).Abs(n).String()
	sign := ""
	if n.Sign() < 0 {
		sign = "-"
	}
	if scale == 0 {
		return sign + digits
	}
	adjusted := -scale + int64(len(digits)) - 1
	if scale > 0 && adjusted >= -6 {
		point := int64(len(digits)) - scale
		if point <= 0 {
			return sign + "0." + strings.Repeat("0", int(-point)) + digits
		}
		return sign + digits[:point] + "." + digits[point:]
	}
	text := sign + digits[:1]
	if len(digits) > 1 {
		text += "." + digits[1:]
	}
	if adjusted != 0 {
		text += "E"
		if adjusted > 0 {
			text += "+"
		}
		text += strconv.FormatInt(adjusted, 10)
	}
	return text
}

// ParseInteger is new BigInteger(s).
func ParseInteger(s string) (string, bool) {
	body := strings.TrimLeft(s, "+-")
	if body == "" || len(s)-len(body) > 1 || strings.Trim(body, "0123456789") != "" {
		return "", false
	}
	n, ok := new(big.Int).SetString(s, 10)
	if !ok {
		return "", false
	}
	return n.String(), true
}

// Chars is how many UTF-16 units a text has: what String.length counts.
func Chars(s string) (n int) {
	for len(s) > 0 {
		r, size := utf8.DecodeRuneInString(s)
		n += max(1, utf16.RuneLen(r))
		s = s[size:]
	}
	return n
}

// Text is the text of a string value. Half a surrogate pair, which a Java string can
// hold, comes as a question mark, as it does when the string is written out.
func Text(v *wire.Value) string {
	s, whole := v.Text()
	if !whole {
		s = strings.ReplaceAll(s, "\ufffd", "?")
	}
	return s
}

// SameNumber says whether the shortest decimal of a float is the number that was sent.
func SameNumber(text string, f float64, bits int) bool {
	if math.IsInf(f, 0) {
		return false
	}
	want, ok := ParseDecimal(text)
	if !ok {
		return true
	}
	for _, format := range []string{strconv.FormatFloat(f, 'f', -1, bits), strconv.FormatFloat(f, 'f', 40, 64)} {
		got, _ := ParseDecimal(format)
		if plainNumber(got) == plainNumber(want) {
			return true
		}
	}
	return false
}

// plainNumber writes a decimal so that equal ones are written alike.
func plainNumber(text string) string {
	mantissa, exponent, _ := strings.Cut(text, "E")
	sign := ""
	if strings.HasPrefix(mantissa, "-") {
		sign, mantissa = "-", mantissa[1:]
	}
	whole, fraction, _ := strings.Cut(mantissa, ".")
	scale, _ := strconv.Atoi(strings.TrimPrefix(exponent, "+"))
	scale -= len(fraction)
	digits := strings.TrimLeft(whole+fraction, "0")
	trimmed := strings.TrimRight(digits, "0")
	if trimmed == "" {
		return "0"
	}
	return fmt.Sprintf("%s%se%d", sign, trimmed, scale+len(digits)-len(trimmed))
}

// Lower is a text in small letters, as equalsIgnoreCase compares it.
func Lower(s string) string { return strings.ToLower(s) }

// maxTruncated is how many digits the whole part of a number may have that is looked at.
const maxTruncated = 100

// Truncated is the whole part of a JSON number; ok is false for one of very many digits.
func Truncated(raw string) (n *big.Int, ok bool) {
	n, scale, ok := parseDecimal(raw)
	switch {
	case !ok || scale < -maxTruncated:
		return nil, false
	case scale <= 0:
		return n.Mul(n, new(big.Int).Exp(big.NewInt(10), big.NewInt(-scale), nil)), true
	case scale > int64(len(raw))+maxTruncated:
		return new(big.Int), true
	}
	return n.Quo(n, new(big.Int).Exp(big.NewInt(10), big.NewInt(scale), nil)), true
}
