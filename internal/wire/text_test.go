package wire_test

import (
	"testing"

	"vetta/internal/wire"
)

// TestQuote: a text is written as JSON reads it again.
func TestQuote(t *testing.T) {
	for text, want := range map[string]string{
		"SAL": `"SAL"`, "": `""`, `a"b\c`: `"a\"b\\c"`, "fog\n": `"fog\n"`, "Håfen <a>": `"Håfen <a>"`, "\u2028": "\"\\u2028\"", "\x01": `"\u0001"`, "a\xffb": `"a\ufffdb"`,
	} {
		if got := wire.Quote(text); got != want {
			t.Errorf("%q: %s, want %s", text, got, want)
		}
	}
}
