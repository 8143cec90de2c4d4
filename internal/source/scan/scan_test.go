package scan

import (
	"strings"
	"testing"
)

// quoted is a dialect with plain strings in double quotes.
var quoted = &Dialect{Quotes: `"`, NestedComments: true, IdentQuote: '`', IdentStart: "$", StringAt: func(s *Scanner) (Token, bool) {
	if s.Src[s.Pos] != '"' {
		return Token{}, false
	}
	start := s.Pos
	for s.Pos++; s.Pos < len(s.Src) && s.Src[s.Pos] != '"'; s.Pos++ {
	}
	if s.Pos == len(s.Src) {
		s.Problem(start, "a string that never ends")
		return Token{}, true
	}
	s.Pos++
	return Token{Text: s.Src[start+1 : s.Pos-1], Plain: true}, true
}}

func TestScan(t *testing.T) {
	for in, want := range map[string]string{
		"a b":                        "a b",
		"a/*x/*y*/z*/b // c\nd":      "a b d",
		"`let` $0 naïve _x1":         "let $0 naïve _x1",
		"1.5e-3 0xFF 1_000 1...2 3.": "1.5e-3 0xFF 1_000 1 . . . 2 3 .",
		`f("a b", 'c')`:              `f ( a b , ' c ' )`,
		"a->b ?? c":                  "a - > b ? ? c",
		"\ufeffa\u00a0b\x00c":        "a b c",
		"":                           "",
	} {
		f := Scan("x", in, quoted)
		var got []string
		for _, tok := range f.Tokens(0, f.Len()) {
			got = append(got, tok.Text)
		}
		if text := strings.Join(got, " "); text != want {
			t.Errorf("%q\n got %s\nwant %s", in, text, want)
		}
	}
}

func TestBracketsAndProblems(t *testing.T) {
	for in, want := range map[string]string{
		"(a[b]{c})": "",
		"(":         "1:1 '(' is never closed",
		")":         "1:1 ')' closes nothing",
		"(]":        "1:2 ']' closes nothing; 1:1 '(' is never closed",
		"{(}":       "1:2 '(' is never closed",
		"a\n  /* x": "2:3 a comment that never ends",
		"é \"x":     "1:3 a string that never ends",
	} {
		f := Scan("x", in, quoted)
		var got []string
		for _, p := range f.Problems {
			got = append(got, strings.TrimPrefix(p.Pos.String(), "x:")+" "+p.Reason)
		}
		if text := strings.Join(got, "; "); text != want {
			t.Errorf("%q\n got %s\nwant %s", in, text, want)
		}
		for i := range f.Len() {
			if m := f.Partner(i); m >= 0 && f.Partner(m) != i && f.KindAt(m) != EOF && want == "" {
				t.Errorf("%q: bracket %d is paired with %d and that with %d", in, i, m, f.Partner(m))
			}
		}
	}
}

func TestText(t *testing.T) {
	f := Scan("x", "let a: // comment\n  [Int]  = \"x\n  y\"", quoted)
	if got := f.Text(0, f.Len()); got != `let a: [Int] = "x y"` {
		t.Errorf("%q", got)
	}
	if p := f.Where(3); p.Line != 2 || p.Col != 3 {
		t.Errorf("%v", p)
	}
	if f.Text(3, 3) != "" {
		t.Error("an empty stretch has text")
	}
}
