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

var dialect = &scan.Dialect{NestedComments: true, IdentStart: "$", StringAt: stringAt, Quotes: "\"'r", Opens: opens, Recalls: true}

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
			s.Names(rest[1 : 1+wordLength(rest[1:])])
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

// opens tells the bodies of functions from other braces: they stand behind the parameters of a name, or behind that of
// a getter. Those of functions that by their names make something of a response are read at once.
func opens(f *scan.File) scan.Body {
	i := f.Len() - 1 // the last token of the file so far is the brace, not yet an EOF
	for i >= 0 && (f.Is(i, "async") || f.Is(i, "sync") || f.Is(i, "*")) {
		i--
	}
	if f.KindAt(i) == scan.Ident {
		if f.Is(i-1, "get") {
			return scan.Unread
		}
		return scan.Other
	}
	if !f.Is(i, ")") {
		return scan.Other
	}
	i = leading(f, i, '(', ')')
	if f.Is(i, ">") {
		i = leading(f, i, '<', '>')
	}
	name := f.Ident(i)
	switch {
	case name == "", reserved[name] && name != "super", f.Is(i-1, "type"), f.Is(i-1, "const"), strings.HasPrefix(name, "from"), strings.HasPrefix(name, "_$"):
		return scan.Other
	}
	return scan.Unread
}

// leading is the index of the token before the bracket that pairs with the one at an index, -1 for none.
func leading(f *scan.File, i int, open, shut byte) int {
	for depth := 0; i >= 0; i-- {
		if f.KindAt(i) != scan.Punct {
			continue
		}
		switch f.ByteAt(i) {
		case shut:
			depth++
		case open:
			if depth--; depth == 0 {
				return i - 1
			}
		}
	}
	return -1
}
