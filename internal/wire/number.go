package wire

// Decimal is a number as it was written: its digits and where the point stands.
type Decimal struct {
	Digits uint64 // all of them as one whole number; only good where Short
	Whole  uint64 // those before the point, likewise
	Scale  int    // how many stand behind the point
	Short  bool   // it has at most 18 digits and no exponent
}

// ParseNumber reads a text that is a number as in RFC 8259 section 6 and nothing
// else, and answers how it is written; ok is false where it is none.
func ParseNumber(text []byte) (d Decimal, traits Traits, ok bool) {
	d, traits, end, fault := scanDecimal(text, 0)
	return d, traits, fault == "" && end == len(text)
}

// faultLeadingZero is what is wrong with a number that begins like 01.
const faultLeadingZero = "a digit behind a leading zero"

// scanDecimal reads the number that begins at pos and answers the offset behind it.
// Where there is none, end is where it fails, and fault what is missing there or
// faultLeadingZero.
func scanDecimal(data []byte, pos int) (d Decimal, traits Traits, end int, fault string) {
	i := pos
	if i < len(data) && data[i] == '-' {
		i++
	}
	start := i
	digits := uint64(0)
	for ; i < len(data) && isDigit(data[i]); i++ {
		digits = digits*10 + uint64(data[i]-'0')
	}
	switch {
	case i > start+1 && data[start] == '0':
		return d, 0, start + 1, faultLeadingZero
	case i == start:
		return d, 0, i, "a digit"
	}
	d.Whole = digits
	size := i - start
	if i < len(data) && data[i] == '.' {
		traits = Fraction
		start = i + 1
		for i++; i < len(data) && isDigit(data[i]); i++ {
			digits = digits*10 + uint64(data[i]-'0')
		}
		if i == start {
			return d, 0, i, "a digit behind the decimal point"
		}
		d.Scale = i - start
	}
	d.Digits, d.Short = digits, size+d.Scale <= 18
	if i < len(data) && data[i]|0x20 == 'e' {
		traits |= Exponent
		d.Short = false
		i++
		if i < len(data) && (data[i] == '+' || data[i] == '-') {
			i++
		}
		start = i
		for i < len(data) && isDigit(data[i]) {
			i++
		}
		if i == start {
			return d, 0, i, "a digit of the exponent"
		}
	}
	return d, traits, i, ""
}

func isDigit(c byte) bool { return c-'0' <= 9 }
