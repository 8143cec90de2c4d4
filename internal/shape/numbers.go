package shape

import (
	"math"
	"math/big"
	"math/bits"
	"strconv"
	"strings"

	"vetta/internal/wire"
)

// numberFacts looks at a number literal as it was written, and answers its value too.
func numberFacts(lit []byte, traits wire.Traits, d *wire.Decimal) (Facts, float64) {
	switch {
	case d.Short && traits == 0:
		return wholeFacts(int64(d.Digits), lit[0] == '-')
	case d.Short && d.Digits < 1e15 && d.Scale <= 15:
		return fractionFacts(int64(d.Digits), int64(d.Whole), d.Scale, lit[0] == '-')
	}
	f, _ := strconv.ParseFloat(string(lit), 64)
	return exactFacts(string(lit), traits), f
}

// wholeFacts is for whole numbers of at most 18 digits.
func wholeFacts(n int64, negative bool) (f Facts, value float64) {
	value = float64(n)
	if negative {
		f, value = Negative, -value
	}
	switch {
	case n == 0:
		return f | Zero, 0
	case n < 128:
		return f, value
	}
	f |= sizeFacts(n, negative)
	if n > 1<<24 && loses(strconv.FormatInt(n, 10), float64(float32(n)), 32) {
		f |= Loses32
	}
	if n > 1<<53 && loses(strconv.FormatInt(n, 10), float64(n), 64) {
		f |= Loses64
	}
	return f, value
}

// sizesSigned are the facts about magnitudes of so many bits as signed integers, of
// which a negative one reaches one further; sizesUnsigned the others.
var sizesSigned, sizesUnsigned = func() (signed, unsigned [65]Facts) {
	for bits := range 65 {
		for size, f := range map[int]Facts{7: Beyond7, 15: Beyond15, 31: Beyond31} {
			if bits > size {
				signed[bits] |= f
			}
		}
		for size, f := range map[int]Facts{8: Beyond8, 16: Beyond16, 32: Beyond32, 53: Beyond53} {
			if bits > size {
				unsigned[bits] |= f
			}
		}
	}
	return signed, unsigned
}()

// sizeFacts says which sizes a magnitude is beyond, and whether it may be a time.
func sizeFacts(n int64, negative bool) (f Facts) {
	signed := n
	if negative && n > 0 {
		signed--
	}
	f = sizesSigned[bits.Len64(uint64(signed))] | sizesUnsigned[bits.Len64(uint64(n))]
	const from, to = 1200000000, 4102444800 // 2008-01-10 and 2100-01-01
	switch {
	case n < from || negative:
	case n < to:
		f |= EpochSeconds
	case n >= from*1000 && n < to*1000:
		f |= EpochMillis
	}
	return f
}

// fractionFacts is for numbers with a point whose digits, as one whole number, are
// below 10^15: a double always holds them. whole are those before the point.
func fractionFacts(digits, whole int64, scale int, negative bool) (f Facts, value float64) {
	f = HasFraction
	if negative {
		f |= Negative
	}
	if digits == 0 {
		return f | Zero, 0
	}
	if digits != whole*tens[scale] {
		f |= Broken
	}
	value = float64(digits) / float64(tens[scale]) // exactly rounded: both are exact
	if whole >= 128 {
		f |= sizeFacts(whole, negative)
		if f&Broken != 0 && isEdge(uint64(whole), negative) {
			f |= AtEdge
		}
	}
	if digits >= 1e6 && loses32(digits, scale, value) {
		f |= Loses32
	}
	if negative {
		value = -value
	}
	return f, value
}

// tens are the powers of ten that a double holds exactly, as far as they are needed.
var tens = [16]int64{1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15}

// loses32 says whether a 32-bit float loses digits of a number d of at most 15
// digits of which scale stand behind the point.
func loses32(digits int64, scale int, d float64) bool {
	s := float32(d)
	if float64(s) == d {
		return false
	}
	// Of the decimals with as many digits behind the point, s is the nearest float to
	// one alone if floats lie closer than they do: then that is its shortest decimal.
	ulp := float64(math.Float32frombits(math.Float32bits(s)+1) - s)
	if ulp*float64(tens[scale]) < 1 {
		return false
	}
	for digits%10 == 0 {
		digits /= 10
	}
	if digits >= 1e9 {
		return true // the shortest decimal of a 32-bit float has nine digits at most
	}
	var buf [24]byte
	shortest := strconv.AppendFloat(buf[:0], float64(s), 'e', -1, 32)
	var n int64
	for _, c := range shortest {
		if c == 'e' {
			break
		}
		if c != '.' && c != '-' {
			n = n*10 + int64(c-'0')
		}
	}
	// Both are decimals that s is the nearest float to: they are one if their digits are.
	return n != digits
}

// exactFacts is for every other number.
func exactFacts(lit string, traits wire.Traits) (f Facts) {
	if traits&wire.Fraction != 0 {
		f |= HasFraction
	}
	if traits&wire.Exponent != 0 {
		f |= HasExponent
	}
	if lit[0] == '-' {
		f |= Negative
	}
	digits, scale := decimal(lit)
	if digits == "" {
		return f | Zero
	}
	d, err := strconv.ParseFloat(lit, 64)
	switch {
	case err != nil:
		f |= TooLarge64
	case d == 0:
		f |= TooSmall64
	case loses(lit, d, 64):
		f |= Loses64
	}
	s, err := strconv.ParseFloat(lit, 32)
	switch {
	case err != nil:
		f |= TooLarge32
	case s == 0:
		f |= TooSmall32
	case loses(lit, s, 32):
		f |= Loses32
	}
	if scale < len(digits) {
		f |= Broken
		if d == math.Trunc(d) {
			f |= RoundsWhole
		}
	}
	if len(digits) > len(mantissa128) || len(digits) == len(mantissa128) && digits > mantissa128 || scale-len(digits) < -128 {
		f |= Loses128
	}
	if scale-38 > 127 {
		f |= TooLarge128
	}
	// What a library makes of a whole number that is written with a point or an
	// exponent may go through its double.
	if math.Abs(d) >= 1<<53 {
		f |= Beyond53
	}
	if math.Abs(d) >= 1<<53 && math.Abs(d) < 1<<64 && traits&(wire.Fraction|wire.Exponent) != 0 && f&Broken == 0 {
		if exact, ok := new(big.Rat).SetString(lit); ok && exact.Cmp(new(big.Rat).SetFloat64(d)) != 0 {
			f |= Inexact64
		}
	}
	if d >= 1<<63 || d < -1<<63 {
		f |= RoundsTo63
	}
	if d >= 1<<64 {
		f |= RoundsTo64
	}
	n, err := strconv.ParseUint(whole(digits, scale), 10, 64)
	if math.Abs(d) == 1<<63 || err == nil && f&Broken != 0 && isEdge(n, f&Negative != 0) {
		f |= AtEdge
	}
	switch {
	case err != nil:
		f |= everySize | Beyond63 | Beyond64
	case n > math.MaxInt64:
		f |= everySize
		if f&Negative == 0 || n > 1<<63 {
			f |= Beyond63
		}
	default:
		f |= sizeFacts(int64(n), f&Negative != 0)
	}
	return f
}

// mantissa128 is 2^128 - 1.
const mantissa128 = "340282366920938463463374607431768211455"

// isEdge says whether a whole part is the last that a signed integer of 32 bits holds: a fraction
// behind it is too much for one library, and cut away by another.
func isEdge(whole uint64, negative bool) bool {
	return whole == math.MaxInt32 && !negative || whole == -math.MinInt32 && negative
}

const everySize = Beyond7 | Beyond8 | Beyond15 | Beyond16 | Beyond31 | Beyond32 | Beyond53

// decimal takes a literal apart: the digits that count and where, behind the
// first of them, the point stands. Zero has no digits.
func decimal(lit string) (digits string, scale int) {
	lit = strings.TrimPrefix(lit, "-")
	if e := strings.IndexAny(lit, "eE"); e >= 0 {
		n, err := strconv.Atoi(lit[e+1:])
		if err != nil {
			n = 1 << 20
			if lit[e+1] == '-' {
				n = -n
			}
		}
		scale, lit = n, lit[:e]
	}
	before, after, _ := strings.Cut(lit, ".")
	digits = strings.TrimLeft(before+after, "0")
	scale += len(before) - (len(before+after) - len(digits))
	return strings.TrimRight(digits, "0"), scale
}

// whole is the whole part of a number as digits, cut where no 64 bits hold it.
func whole(digits string, scale int) string {
	switch {
	case scale <= 0:
		return "0"
	case scale > 20:
		return "99999999999999999999"
	case scale > len(digits):
		return digits + strings.Repeat("0", scale-len(digits))
	}
	return digits[:scale]
}

// loses says whether f is another number than lit: neither its value nor the
// shortest decimal that gives it.
func loses(lit string, f float64, bits int) bool {
	digits, scale := decimal(lit)
	same := func(text string) bool {
		d, s := decimal(text)
		return d == digits && s == scale
	}
	return !same(strconv.FormatFloat(f, 'e', -1, bits)) && !same(strconv.FormatFloat(f, 'e', max(20, len(lit)+1), 64))
}
