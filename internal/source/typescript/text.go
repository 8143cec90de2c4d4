package typescript

import (
	"math/big"
	"strconv"
	"strings"

	"vetta/internal/types"
)

// oneLine is a text with its white space and comments as single blanks.
func oneLine(s string) string {
	if !strings.ContainsAny(s, "\n\t/") {
		return s
	}
	var b strings.Builder
	for _, t := range lex(s, false) {
		if t.kind == eof {
			break
		}
		if b.Len() > 0 && (t.line || t.start > 0 && (s[t.start-1] == ' ' || s[t.start-1] == '\t' || s[t.start-1] == '/')) {
			b.WriteByte(' ')
		}
		b.WriteString(s[t.start:t.end])
	}
	return b.String()
}

// parseNumber is the value of a number literal.
func parseNumber(s string) (float64, bool) {
	s = strings.ReplaceAll(s, "_", "")
	if sign, rest := s, strings.TrimPrefix(s, "-"); len(rest) > 2 && rest[0] == '0' && strings.ContainsAny(rest[1:2], "xXoObB") {
		n, ok := new(big.Int).SetString(rest, 0)
		if !ok {
			return 0, false
		}
		v, _ := new(big.Float).SetInt(n).Float64()
		if sign[0] == '-' {
			v = -v
		}
		return v, true
	}
	n, err := strconv.ParseFloat(s, 64)
	return n, err == nil
}

// numberName is a number literal as the name of a property.
func numberName(s string) string {
	if n, ok := parseNumber(s); ok {
		return types.Digits(n)
	}
	return s
}
