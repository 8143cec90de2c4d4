// Package report writes results: for people, for programs, for editors.
package report

import (
	"fmt"
	"strings"
	"unicode"
)

// Safe makes text from captures or source fit for a terminal: control characters,
// and marks that turn the direction of writing, become escapes.
func Safe(text string) string {
	if isPlain(text) {
		return text
	}
	odd := func(c rune) bool {
		return unicode.IsControl(c) || unicode.Is(unicode.Cf, c) || c == unicode.ReplacementChar || c == '\u2028' || c == '\u2029'
	}
	if strings.IndexFunc(text, odd) < 0 {
		return text
	}
	var b strings.Builder
	for _, c := range text {
		switch {
		case c == '\n':
			b.WriteString(`\n`)
		case c == '\t':
			b.WriteString(`\t`)
		case odd(c) && c < 0x10000:
			fmt.Fprintf(&b, `\u%04x`, c)
		case odd(c):
			fmt.Fprintf(&b, `\U%08x`, c)
		default:
			b.WriteRune(c)
		}
	}
	return b.String()
}

// isPlain says whether text is nothing but ASCII that can be seen, as most text is.
func isPlain(text string) bool {
	for i := 0; i < len(text); i++ {
		if text[i] < ' ' || text[i] > '~' {
			return false
		}
	}
	return true
}
