// Package swift reads Swift source into models: stored properties, keys, how an
// instance is decoded, and where a JSONDecoder is built and used.
//
// It follows The Swift Programming Language (6.2), "Language Reference".
package swift

import (
	"strconv"
	"strings"
	"unicode/utf8"

	"vetta/internal/source/scan"
)

// dialect is that of all files but those that import Moya, whose responses decode by map.
var (
	dialect = newDialect(bodyWords...)
	mapping = newDialect(append(bodyWords, "map")...)
)

func newDialect(words ...string) *scan.Dialect {
	return &scan.Dialect{NestedComments: true, IdentQuote: '`', IdentStart: "$", StringAt: stringAt, Quotes: "\"#/", Opens: opens, Words: scan.NewWords(words...)}
}

// dialectOf is the dialect of a file by its text.
func dialectOf(text string) *scan.Dialect {
	if strings.Contains(text, "Moya") {
		return mapping
	}
	return dialect
}

// stringAt reads a string literal: plain or multi-line, with or without the
// number signs that make it raw ("Lexical Structure", String Literals).
func stringAt(s *scan.Scanner) (scan.Token, bool) {
	rest := s.Src[s.Pos:]
	if rest[0] == '"' {
		if t, ok := s.Simple(0); ok {
			return t, true
		}
	}
	pounds := 0
	for pounds < len(rest) && rest[pounds] == '#' {
		pounds++
	}
	if size := regexAt(s, rest, pounds); size > 0 {
		s.Pos += size
		return scan.Token{}, true
	}
	if pounds == len(rest) || rest[pounds] != '"' {
		return scan.Token{}, false
	}
	start := s.Pos
	hashes := rest[:pounds]
	quote := `"`
	if strings.HasPrefix(rest[pounds:], `"""`) {
		quote = `"""`
	}
	s.Pos += pounds + len(quote)
	t := scan.Token{Plain: true}
	var text strings.Builder
	for {
		rest := s.Src[s.Pos:]
		switch {
		case rest == "" || quote == `"` && rest[0] == '\n':
			s.Problem(start, "a string that never ends")
			t.Text = text.String()
			return t, true
		case strings.HasPrefix(rest, quote+hashes):
			s.Pos += len(quote) + pounds
			t.Text = text.String()
			if quote == `"""` {
				t.Text = dedent(t.Text)
			}
			return t, true
		case strings.HasPrefix(rest, `\`+hashes+`(`):
			s.Pos += 2 + pounds
			t.Plain = false
			if !s.Balanced("(", ")") {
				s.Problem(start, "an interpolation that never ends")
			}
		case strings.HasPrefix(rest, `\`+hashes):
			s.Pos += 1 + pounds
			text.WriteString(escape(s))
		default:
			text.WriteByte(rest[0])
			s.Pos++
		}
	}
}

// regexAt is the length of the regular expression literal at the start of rest, 0 if
// none is there: /…/ on one line where a value may begin, or #/…/#.
func regexAt(s *scan.Scanner, rest string, pounds int) int {
	if pounds == len(rest) || rest[pounds] != '/' {
		return 0
	}
	shut := "/" + rest[:pounds]
	if pounds > 0 {
		if end := strings.Index(rest[pounds+1:], shut); end >= 0 {
			return pounds + 1 + end + len(shut)
		}
		return 0
	}
	before := s.Prev()
	begins := before.Kind == scan.Punct && strings.Contains("=(,:[{", before.Text) || before.Is("return") || before.Is("in") || before.Is("case")
	if !begins || len(rest) < 3 || strings.ContainsAny(rest[1:2], " \t/*\n") {
		return 0
	}
	for i := 1; i < len(rest) && rest[i] != '\n'; i++ {
		switch rest[i] {
		case '\\':
			i++
		case '/':
			return i + 1
		}
	}
	return 0
}

// escape reads what follows the backslash of an escape.
func escape(s *scan.Scanner) string {
	if s.Pos >= len(s.Src) {
		return ""
	}
	c := s.Src[s.Pos]
	s.Pos++
	switch c {
	case 'n':
		return "\n"
	case 'r':
		return "\r"
	case 't':
		return "\t"
	case '0':
		return "\x00"
	case '\n':
		return "" // a line break that is not part of the text
	case 'u':
		rest := s.Src[s.Pos:]
		if end := strings.IndexByte(rest, '}'); strings.HasPrefix(rest, "{") && end > 0 {
			if n, err := strconv.ParseUint(rest[1:end], 16, 32); err == nil && utf8.ValidRune(rune(n)) {
				s.Pos += end + 1
				return string(rune(n))
			}
		}
	}
	return string(c)
}

// dedent takes from a multi-line string its first and last line break and, from
// each line, the indentation of the closing quotes.
func dedent(text string) string {
	text = strings.TrimPrefix(text, "\n")
	cut := strings.LastIndexByte(text, '\n')
	if cut < 0 {
		return strings.TrimSpace(text)
	}
	indent := text[cut+1:]
	lines := strings.Split(text[:cut], "\n")
	for i, line := range lines {
		lines[i] = strings.TrimPrefix(line, indent)
	}
	return strings.Join(lines, "\n")
}
