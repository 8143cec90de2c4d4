package run

import (
	"fmt"
	"math"
	"math/big"
	"strconv"
	"strings"
	"unicode/utf16"
)

// runesOf are the UTF-16 units of a text, each as a text.
func runesOf(s string) []string {
	ascii := true
	for i := range len(s) {
		ascii = ascii && s[i] < 0x80
	}
	var out []string
	if ascii {
		for i := range len(s) {
			out = append(out, s[i:i+1])
		}
		return out
	}
	for _, u := range utf16.Encode([]rune(s)) {
		out = append(out, string(rune(u)))
	}
	return out
}

// units are the UTF-16 units of a text, by which its length and places are counted.
func units(s string) []uint16 { return utf16.Encode([]rune(s)) }

func fromUnits(u []uint16) string { return string(utf16.Decode(u)) }

// doubleText is a double as toString has it: the shortest text that reads the same, with an exponent from 1e21 on and
// below 1e-6.
func doubleText(f float64) string {
	switch {
	case math.IsNaN(f):
		return "NaN"
	case math.IsInf(f, 1):
		return "Infinity"
	case math.IsInf(f, -1):
		return "-Infinity"
	case f == 0 && math.Signbit(f):
		return "-0.0"
	}
	if a := math.Abs(f); f != 0 && (a >= 1e21 || a < 1e-6) {
		s := strconv.FormatFloat(f, 'e', -1, 64)
		mantissa, exp, _ := strings.Cut(s, "e")
		sign := exp[:1]
		exp = strings.TrimLeft(exp[1:], "0")
		return mantissa + "e" + sign + exp
	}
	s := strconv.FormatFloat(f, 'f', -1, 64)
	if !strings.Contains(s, ".") {
		s += ".0"
	}
	return s
}

// written is what toString makes of a value; known is false where that is not told.
func (m *Machine) written(v Value, pos codePos) (text string, known bool, err error) {
	switch v.Kind {
	case Null:
		return "null", true, nil
	case Bool:
		return strconv.FormatBool(v.N == 1), true, nil
	case Int:
		return strconv.FormatInt(v.N, 10), true, nil
	case Double:
		return doubleText(v.F), true, nil
	case String:
		return v.S, true, nil
	case Lists:
		items, some, err := m.elements(v, pos)
		if err != nil || some != nil {
			return "", false, err
		}
		open, shut := "[", "]"
		switch v.list().Kind {
		case "Set":
			open, shut = "{", "}"
		case "Iterable":
			open, shut = "(", ")"
		}
		return m.writtenAll(items, nil, open, shut, pos)
	case Maps:
		d := v.dict()
		if d.Some != nil || d.Rest != nil {
			return "", false, nil
		}
		return m.writtenAll(d.Keys, d.Vals, "{", "}", pos)
	case Obj:
		o := v.object()
		if fn, in := m.find(o.Type, "toString", method, 0); fn != nil {
			t, err := m.invoke(fn, &v, in, nil, Args{}, nil)
			return t.S, err == nil && t.Kind == String, err
		}
		if o.Enum != "" {
			return o.Type.Name + "." + o.Enum, true, nil
		}
		return "Instance of '" + o.Type.String() + "'", true, nil
	case Hosts:
		text, known := hostText(v.Ref.(Host))
		return text, known, nil
	case Class:
		return v.Ref.(*Type).String(), true, nil
	}
	return "", false, nil
}

func (m *Machine) writtenAll(keys, vals []Value, open, shut string, pos codePos) (string, bool, error) {
	if err := m.step(len(keys), pos); err != nil {
		return "", false, err
	}
	var b strings.Builder
	b.WriteString(open)
	for i, k := range keys {
		if i > 0 {
			b.WriteString(", ")
		}
		text, known, err := m.written(k, pos)
		if err != nil || !known {
			return "", false, err
		}
		b.WriteString(text)
		if vals != nil {
			if text, known, err = m.written(vals[i], pos); err != nil || !known {
				return "", false, err
			}
			b.WriteString(": " + text)
		}
		if b.Len() > maxText {
			return "", false, unfollowed("a text that long", pos)
		}
	}
	b.WriteString(shut)
	return b.String(), true, nil
}

// isBlank says whether a character is white space to the parsers of numbers and trim.
func isBlank(r rune) bool {
	switch r {
	case ' ', '\t', '\n', '\v', '\f', '\r', 0x85, 0xa0, 0x1680, 0x2028, 0x2029, 0x202f, 0x205f, 0x3000, 0xfeff:
		return true
	}
	return r >= 0x2000 && r <= 0x200a
}

func trim(s string) string { return strings.TrimFunc(s, isBlank) }

// parseInt reads a whole number as int.parse does. why is the error's text, "" for none.
func parseInt(text string, radix int) (n int64, why string) {
	s := trim(text)
	if s == "" {
		return 0, fmt.Sprintf("Invalid number (at character %d)\n%s\n%s^\n", len(text)+1, text, strings.Repeat(" ", len(text)))
	}
	at := badBlock(s) + len(units(text)) - len(units(strings.TrimLeftFunc(text, isBlank)))
	bad := fmt.Sprintf("Invalid radix-%d number (at character %d)\n%s\n%s^\n", max(radix, 10), at+1, text, strings.Repeat(" ", at))
	sign, digits := "", s
	if digits[0] == '-' || digits[0] == '+' {
		sign, digits = digits[:1], digits[1:]
	}
	base := radix
	if radix == 0 {
		base = 10
		if len(digits) > 2 && (digits[:2] == "0x" || digits[:2] == "0X") {
			u, err := strconv.ParseUint(digits[2:], 16, 64)
			if err != nil || strings.ContainsAny(digits[2:], "_+-") {
				if isDigits(digits[2:], 16) {
					return 0, "Positive input exceeds the limit of integer " + text
				}
				return 0, bad
			}
			if sign == "-" {
				return -int64(u), ""
			}
			return int64(u), ""
		}
	}
	if !isDigits(digits, base) {
		return 0, bad
	}
	n, err := strconv.ParseInt(sign+digits, base, 64)
	if err != nil {
		if sign == "-" {
			return 0, "Negative input exceeds the limit of integer " + text
		}
		return 0, "Positive input exceeds the limit of integer " + text
	}
	return n, ""
}

// badBlock is where the VM says that the fault is: the start of the first of the blocks of nine digits, counted from
// the end, that has another character.
func badBlock(s string) int {
	const block = 9
	end := len(s) % block
	for start := 0; start < len(s); start, end = end, end+block {
		if start < end && !isDigits(s[start:end], 10) && !(start == 0 && isDigits(strings.TrimLeft(s[:end], "+-"), 10)) {
			return start
		}
	}
	return 0
}

func isDigits(s string, base int) bool {
	for i := range len(s) {
		c := s[i]
		d := 99
		switch {
		case c >= '0' && c <= '9':
			d = int(c - '0')
		case c|0x20 >= 'a' && c|0x20 <= 'z':
			d = int(c|0x20-'a') + 10
		}
		if d >= base {
			return false
		}
	}
	return s != ""
}

// parseDouble reads a number as double.parse does.
func parseDouble(text string) (f float64, ok bool) {
	s := trim(text)
	sign := strings.TrimLeft(s, "+-")
	if len(s)-len(sign) > 1 {
		return 0, false
	}
	switch sign {
	case "Infinity":
		if s[0] == '-' {
			return math.Inf(-1), true
		}
		return math.Inf(1), true
	case "NaN":
		return math.NaN(), true
	}
	digits := 0
	exp := false
	for i := range len(sign) {
		switch c := sign[i]; {
		case c >= '0' && c <= '9':
			digits++
		case c == '.':
			if exp || strings.Contains(sign[:i], ".") || i+1 == len(sign) || sign[i+1] < '0' || sign[i+1] > '9' {
				return 0, false
			}
		case c|0x20 == 'e':
			if exp || digits == 0 {
				return 0, false
			}
			exp = true
			if i+1 < len(sign) && (sign[i+1] == '+' || sign[i+1] == '-') {
				continue
			}
		case c == '+' || c == '-':
			if i == 0 || sign[i-1]|0x20 != 'e' {
				return 0, false
			}
		default:
			return 0, false
		}
	}
	f, err := strconv.ParseFloat(s, 64)
	if err != nil && !math.IsInf(f, 0) {
		return 0, false
	}
	return f, digits > 0
}

func parseBig(text string) (*big.Int, bool) {
	s := trim(text)
	digits := strings.TrimLeft(s, "+-")
	if len(s)-len(digits) > 1 || digits == "" {
		return nil, false
	}
	base := 10
	if strings.HasPrefix(digits, "0x") || strings.HasPrefix(digits, "0X") {
		base, digits = 16, digits[2:]
	}
	if !isDigits(digits, base) {
		return nil, false
	}
	n, ok := new(big.Int).SetString(digits, base)
	if ok && s[0] == '-' {
		n.Neg(n)
	}
	return n, ok
}
