package clr

import (
	"math"
	"math/big"
	"strconv"
	"strings"

	"vetta/internal/decoder"
)

// InRange says whether a whole number fits in an integer of so many bits.
func InRange(n *big.Int, bits int, signed bool) bool {
	if signed {
		return n.BitLen() < bits || n.Sign() < 0 && new(big.Int).Add(n, big.NewInt(1)).BitLen() < bits
	}
	return n.Sign() >= 0 && n.BitLen() <= bits
}

// ParseWhole reads digits with a sign before them as an integer of so many bits.
func ParseWhole(text string, bits int, signed bool) (string, bool) {
	if !isWhole(text) {
		return "", false
	}
	n, ok := new(big.Int).SetString(strings.TrimPrefix(text, "+"), 10)
	if !ok || !InRange(n, bits, signed) {
		return "", false
	}
	return n.String(), true
}

func isWhole(text string) bool {
	text = strings.TrimLeft(text, "+-")
	if text == "" {
		return false
	}
	return strings.Trim(text, "0123456789") == ""
}

// Float is a number as a float of so many bits; beyond its range it is infinite.
func Float(text string, bits int) (decoder.Seen, bool) {
	f, err := strconv.ParseFloat(text, min(max(bits, 32), 64))
	if err != nil && !math.IsInf(f, 0) {
		return decoder.Seen{}, false
	}
	if bits == 16 {
		f = half(f)
	}
	return FloatOf(f, bits), true
}

// half rounds to the nearest number of 16 bits.
func half(f float64) float64 {
	switch a := math.Abs(f); {
	case a == 0 || math.IsInf(f, 0) || math.IsNaN(f):
		return f
	case a >= 65520:
		return math.Inf(int(math.Copysign(1, f)))
	default:
		exp := max(math.Floor(math.Log2(a)), -14)
		unit := math.Exp2(exp - 10)
		return math.RoundToEven(f/unit) * unit
	}
}

// Printed is a double as ToString writes it in the invariant culture: its shortest digits, with an exponent of two digits
// at least where it is 15 or more, or less than -5 (.NET Core 3.0 and later).
func Printed(f float64) string {
	switch {
	case math.IsInf(f, 1):
		return "Infinity"
	case math.IsInf(f, -1):
		return "-Infinity"
	}
	text := strconv.FormatFloat(f, 'E', -1, 64)
	if e, err := strconv.Atoi(text[strings.IndexByte(text, 'E')+1:]); err == nil && e < 15 && e >= -5 {
		return strconv.FormatFloat(f, 'f', -1, 64)
	}
	return text
}

// FloatOf is a float as the app sees it.
func FloatOf(f float64, bits int) decoder.Seen {
	switch {
	case math.IsNaN(f):
		return decoder.Seen{Kind: decoder.SeenFloat, Text: "NaN"}
	case math.IsInf(f, 1):
		return decoder.Seen{Kind: decoder.SeenFloat, Text: "Infinity"}
	case math.IsInf(f, -1):
		return decoder.Seen{Kind: decoder.SeenFloat, Text: "-Infinity"}
	}
	size := 64
	if bits <= 32 {
		size = 32
	}
	return decoder.Seen{Kind: decoder.SeenFloat, Text: strconv.FormatFloat(f, 'g', -1, size)}
}

// maxDecimal is the largest that a decimal holds, 2^96 - 1.
var maxDecimal = new(big.Int).Sub(new(big.Int).Lsh(big.NewInt(1), 96), big.NewInt(1))

// Decimal is a number as a decimal: 28 or 29 digits, at most 28 of them behind the point, rounded half to even.
func Decimal(text string) (string, bool) {
	mantissa, exponent := text, 0
	if i := strings.IndexAny(text, "eE"); i >= 0 {
		n, err := strconv.Atoi(text[i+1:])
		if err != nil {
			return "", false
		}
		mantissa, exponent = text[:i], n
	}
	neg := strings.HasPrefix(mantissa, "-")
	mantissa = strings.TrimLeft(mantissa, "+-")
	before, behind, _ := strings.Cut(mantissa, ".")
	digits := before + behind
	if digits == "" || strings.Trim(digits, "0123456789") != "" {
		return "", false
	}
	n, _ := new(big.Int).SetString(digits, 10)
	scale := len(behind) - exponent
	if n.Sign() == 0 {
		scale = min(max(scale, 0), 28)
	}
	if scale < -40 {
		return "", false
	}
	if scale > 28+len(digits)+2 {
		return "0", true
	}
	for ; scale < 0; scale++ {
		n.Mul(n, big.NewInt(10))
	}
	cut := max(scale-28, 0)
	for {
		r := roundOff(n, cut)
		if r.CmpAbs(maxDecimal) <= 0 {
			n, scale = r, scale-cut
			break
		}
		if cut++; scale-cut < 0 {
			return "", false
		}
	}
	out := n.String()
	if scale > 0 {
		out = strings.Repeat("0", max(scale+1-len(out), 0)) + out
		out = out[:len(out)-scale] + "." + out[len(out)-scale:]
	}
	if neg && n.Sign() != 0 {
		out = "-" + out
	}
	return out, true
}

// roundOff takes so many digits off a number, rounding half to even.
func roundOff(n *big.Int, digits int) *big.Int {
	if digits == 0 {
		return n
	}
	unit := new(big.Int).Exp(big.NewInt(10), big.NewInt(int64(digits)), nil)
	q, r := new(big.Int).QuoRem(n, unit, new(big.Int))
	switch r.Lsh(r, 1).Cmp(unit) {
	case 1:
		q.Add(q, big.NewInt(1))
	case 0:
		if q.Bit(0) == 1 {
			q.Add(q, big.NewInt(1))
		}
	}
	return q
}

// Digits says whether a float or decimal has lost digits of what was sent.
func Digits(sent, seen string) decoder.Loss {
	a, ok := new(big.Rat).SetString(plain(sent))
	b, ok2 := new(big.Rat).SetString(plain(seen))
	if !ok || !ok2 || a.Cmp(b) == 0 {
		return decoder.NoLoss
	}
	return decoder.LostDigits
}

// plain guards against exponents that would take long to work out.
func plain(text string) string {
	if i := strings.IndexAny(text, "eE"); i >= 0 {
		if n, err := strconv.Atoi(text[i+1:]); err != nil || n > 400 || n < -400 {
			return ""
		}
	}
	return text
}
