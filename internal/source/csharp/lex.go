// Package csharp reads C# source: what it declares, with the code of it, into the tree of package code; the models
// that libraries read documents into, and where the app has that done. It follows the C# language specification,
// and what versions 9 to 14 of the language add to it.
package csharp

import (
	"strings"

	"vetta/internal/source/scan"
)

// Extensions are the endings of the files of the language.
var Extensions = []string{".cs"}

// Generated are the endings of files that the platform's generators and designers write.
var Generated = []string{".g.cs", ".g.i.cs", ".Designer.cs", ".designer.cs"}

var dialect = &scan.Dialect{IdentMark: '@', StringAt: stringAt, Quotes: "\"'$@", Prefixes: "$@", Opens: opens, Recalls: true}

// stringAt reads the literal of a string or a character ("Lexical structure", String literals): with escapes,
// verbatim, raw, and with values put into it. What it says is found by text.
func stringAt(s *scan.Scanner) (scan.Token, bool) {
	start := s.Pos
	l, ok := literalAt(s.Src, s.Pos)
	if !ok {
		return scan.Token{}, false
	}
	if l.dollars == 0 {
		end, closed := l.end(s.Src)
		s.Pos = end
		if !closed {
			s.Problem(start, "a string that never ends")
		}
		return scan.Token{Plain: true}, true
	}
	s.Pos = l.from
	for s.Pos < len(s.Src) {
		rest := s.Src[s.Pos:]
		switch {
		case strings.HasPrefix(rest, l.quote) && !(l.verbatim && strings.HasPrefix(rest[1:], `"`)):
			s.Pos += len(l.quote)
			return scan.Token{}, true
		case l.verbatim && rest[0] == '"':
			s.Pos += 2
		case rest[0] == '\\' && !l.verbatim && !l.raw && len(rest) > 1:
			s.Pos += 2
		case rest[0] == '\n' && !l.verbatim && !l.raw:
			s.Problem(start, "a string that never ends")
			return scan.Token{}, true
		case rest[0] == '{':
			open := run(rest, '{')
			if !l.holds(open) {
				s.Pos += open
				continue
			}
			s.Pos += open
			inside := s.Pos
			if !s.Balanced("{", "}") {
				s.Problem(start, "a value in a string that never ends")
				return scan.Token{}, true
			}
			named(s, s.Src[inside:s.Pos])
		default:
			s.Pos++
		}
	}
	s.Problem(start, "a string that never ends")
	return scan.Token{}, true
}

// named notes the names in a value that is put into a string.
func named(s *scan.Scanner, text string) {
	for at := 0; at < len(text); {
		end := at
		for end < len(text) && (text[end] == '_' || text[end] >= '0' && text[end] <= '9' || text[end]|0x20 >= 'a' && text[end]|0x20 <= 'z') {
			end++
		}
		if end > at && text[at] > '9' {
			s.Names(text[at:end])
		}
		at = max(end, at+1)
	}
}

// holds says whether so many braces in a row open a value that is put into the literal.
func (l *literal) holds(braces int) bool {
	if l.raw {
		return braces >= l.dollars
	}
	return braces%2 == 1
}

// run is how often a byte stands at the beginning of a text.
func run(text string, c byte) int {
	n := 0
	for n < len(text) && text[n] == c {
		n++
	}
	return n
}

// literal is how a string or character is written.
type literal struct {
	from     int // behind the opening quote
	quote    string
	verbatim bool
	raw      bool
	dollars  int // how many, 0 where no values are put into it
}

// literalAt is the literal that begins at a place, if one does.
func literalAt(src string, pos int) (l literal, ok bool) {
	i := pos
	for i < len(src) && (src[i] == '$' || src[i] == '@') {
		if src[i] == '$' {
			l.dollars++
		} else {
			l.verbatim = true
		}
		i++
	}
	if i == len(src) || src[i] != '"' && (src[i] != '\'' || i > pos) {
		return l, false
	}
	l.quote = src[i : i+1]
	if n := run(src[i:], '"'); n >= 3 && !l.verbatim {
		l.raw, l.quote = true, src[i:i+n]
	}
	l.from = i + len(l.quote)
	return l, true
}

// end is where a literal without values ends, and whether it is closed.
func (l *literal) end(src string) (end int, closed bool) {
	for i := l.from; i < len(src); i++ {
		switch c := src[i]; {
		case c == l.quote[0] && l.verbatim && strings.HasPrefix(src[i+1:], `"`):
			i++
		case c == l.quote[0] && strings.HasPrefix(src[i:], l.quote):
			if l.raw {
				i += run(src[i:], '"') - len(l.quote)
			}
			return i + len(l.quote), true
		case c == '\\' && !l.verbatim && !l.raw:
			i++
		case c == '\n' && !l.verbatim && !l.raw:
			return i, false
		}
	}
	return len(src), false
}

// opens tells the bodies of methods and accessors from other braces: they stand behind the parameters of a name, or
// behind what constrains its types, or behind the word of an accessor.
func opens(f *scan.File) scan.Body {
	i := f.Len() - 1 // the last token of the file so far is the brace, not yet an EOF
	if f.Is(i, "get") || f.Is(i, "set") || f.Is(i, "init") || f.Is(i, "add") || f.Is(i, "remove") {
		return scan.Unread
	}
	if !f.Is(i, ")") {
		for k := i; k > i-12 && k > 0; k-- { // T Read<T>(string json) where T : class
			if f.Is(k, "where") && f.Is(k-1, ")") {
				i = k - 1
				break
			}
			if f.Is(k, ";") || f.Is(k, "}") || f.Is(k, "{") {
				return scan.Other
			}
		}
	}
	if !f.Is(i, ")") {
		return scan.Other
	}
	i = leading(f, i, '(', ')')
	if f.Is(i, ">") {
		i = leading(f, i, '<', '>')
	}
	if f.KindAt(i) != scan.Ident || reserved[f.Word(i)] {
		return scan.Other
	}
	if f.Is(i-1, ":") { // record Ferry(string Code) : Craft(Code) {
		return scan.Other
	}
	for k := i - 1; k >= 0 && k > i-8; k-- { // class Port(string code) : Place(code) {
		switch {
		case f.Is(k, "class"), f.Is(k, "struct"), f.Is(k, "record"), f.Is(k, "interface"), f.Is(k, "new"), f.Is(k, "is"), f.Is(k, "switch"):
			return scan.Other
		case f.KindAt(k) == scan.Punct && (f.Is(k, ";") || f.Is(k, "{") || f.Is(k, "}") || f.Is(k, ")")):
			return scan.Unread
		}
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
