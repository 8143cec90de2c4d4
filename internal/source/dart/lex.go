// Package dart reads Dart source into the tree of package code: what libraries declare, with the code of it whole,
// since in Dart code alone says how a response becomes an object. It follows the Dart language specification, 3.7,
// and what versions before null safety write otherwise.
package dart

import (
	"strings"

	"vetta/internal/source/scan"
)

// Extensions are the endings of the files of the language.
var Extensions = []string{".dart"}

var dialect = &scan.Dialect{NestedComments: true, IdentStart: "$", StringAt: stringAt, Quotes: "\"'r"}

// stringAt reads a string literal ("Strings" in the specification): of one line or several, raw or with escapes and
// values put into it. What it says is found by text, which reads adjacent ones as one.
func stringAt(s *scan.Scanner) (scan.Token, bool) {
	start, rest := s.Pos, s.Src[s.Pos:]
	raw := rest[0] == 'r'
	if raw {
		if len(rest) < 2 || rest[1] != '"' && rest[1] != '\'' {
			return scan.Token{}, false
		}
		rest = rest[1:]
		s.Pos++
	}
	quote := quoteOf(rest)
	s.Pos += len(quote)
	t := scan.Token{Plain: true}
	for {
		rest := s.Src[s.Pos:]
		switch {
		case rest == "" || len(quote) == 1 && rest[0] == '\n':
			s.Problem(start, "a string that never ends")
			return t, true
		case strings.HasPrefix(rest, quote):
			s.Pos += len(quote)
			return t, true
		case raw:
			s.Pos++
		case rest[0] == '\\' && len(rest) > 1 && rest[1] != '\n':
			s.Pos += 2
		case strings.HasPrefix(rest, "${"):
			s.Pos += 2
			t.Plain = false
			if !s.Balanced("{", "}") {
				s.Problem(start, "a value in a string that never ends")
			}
		case rest[0] == '$':
			s.Pos++
			t.Plain = false
		default:
			s.Pos++
		}
	}
}

// quoteOf is the quote that a string begins with.
func quoteOf(text string) string {
	if len(text) >= 3 && text[1] == text[0] && text[2] == text[0] {
		return text[:3]
	}
	return text[:1]
}
