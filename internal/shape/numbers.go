package shape

import (
	"math"
	"strconv"
	"strings"

	"vetta/internal/wire"
)

// numberFacts looks at a number literal as it was written, and answers its value too.
func numberFacts(lit []byte, traits wire.Traits) (Facts, float64) {
	switch {
	case traits == 0 && len(lit) <= 18:
		return wholeFacts(lit)
	case traits == wire.Fraction && len(lit) <= 15:
		return fractionFacts(lit)
	}
	f, _ := strconv.ParseFloat(string(lit), 64)
	return exactFacts(string(lit), traits), f
}

// wholeFacts is for whole numbers of at most 18 digits.
func wholeFacts(lit []byte) (f Facts, value float64) {
	var n int64
	for _, c := range lit {
		if c == '-' {
			f = Negative
			continue
		}
		n = n*10 + int64(c-'0')
	}
	value = float64(n)
	if f != 0 {
		value = -value
	}
	switch {
	case n == 0:
		return f | Zero, 0
	case n < 128:
		return f, value
	}
	f |= sizeFacts(n, f != 0)
	if n > 1<<24 && loses(strconv.FormatInt(n, 10), float64(float32(n)), 32) {
		f |= Loses32
	}
	if n > 1<<53 && loses(strconv.FormatInt(n, 10), float64(n), 64) {
		f |= Loses64
	}
	return f, value
}

// sizeFacts says which sizes a magnitude is beyond, and whether it may be a time.
func sizeFacts(n int64, negative bool) (f Facts) {
	signed := n
	if negative {
		signed--
	}
	if signed>>7 != 0 {
		f |= Beyond7
		if n>>8 != 0 {
			f |= Beyond8
		}
		if signed>>15 != 0 {
			f |= Beyond15
		}
		if n>>16 != 0 {
			f |= Beyond16
		}
		if signed>>31 != 0 {
			f |= Beyond31
		}
		if n>>32 != 0 {
			f |= Beyond32
		}
		if n >= 1<<53 {
			f |= Beyond53
		}
	}
	const from, to = 1200000000, 4102444800 // 2008-01-10 and 2100-01-01
	switch {
	case negative:
	case n >= from && n < to:
		f |= EpochSeconds
	case n >= from*1000 && n < to*1000:
		f |= EpochMillis
	}
	return f
}

// fractionFacts is for numbers with a point in at most 15 characters, which a
// double always holds.
func fractionFacts(lit []byte) (f Facts, value float64) {
	f = HasFraction
	var digits, whole int64
	scale, significant := -1, 0
	for _, c := range lit {
		switch {
		case c == '-':
			f |= Negative
			continue
		case c == '.':
			whole, scale = digits, 0
			continue
		}
		digits = digits*10 + int64(c-'0')
		if scale >= 0 {
			scale++
			if c != '0' {
				f |= Broken
			}
		}
		if digits != 0 {
			significant++
		}
	}
	if digits == 0 {
		return f | Zero, 0
	}
	value = float64(digits) / powers[scale] // exactly rounded: both are exact
	if f&Negative != 0 {
		value = -value
	}
	if whole >= 128 {
		f |= sizeFacts(whole, f&Negative != 0)
	}
	if significant > 6 && loses32(digits, scale) {
		f |= Loses32
	}
	return f, value
}

// powers are those of ten that a double holds exactly, as far as they are needed.
var powers = [16]float64{1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15}

// loses32 says whether a 32-bit float loses digits of a number of at most 15 digits
// of which scale stand behind the point.
func loses32(digits int64, scale int) bool {
	for digits%10 == 0 {
		digits /= 10
		scale--
	}
	written := digits
	if scale < 0 {
		digits, scale = digits*int64(powers[-scale]), 0
	}
	d := float64(digits) / powers[scale] // exactly rounded: both are exact
	s := float32(d)
	if float64(s) == d {
		return false
	}
	if written >= 1e9 {
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
	return n != written
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
	if len(digits) > 38 || scale-len(digits) < -128 {
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
	if d >= 1<<63 || d < -1<<63 {
		f |= RoundsTo63
	}
	if d >= 1<<64 {
		f |= RoundsTo64
	}
	n, err := strconv.ParseUint(whole(digits, scale), 10, 64)
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
