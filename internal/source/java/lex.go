// Package java reads Java source into declarations: classes, records and enums with
// their fields, methods, constructors and annotations. It follows The Java Language
// Specification, Java SE 21 Edition (JLS).
package java

import (
	"strconv"
	"strings"
	"unicode/utf8"

	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

var dialect = &scan.Dialect{IdentStart: "$", StringAt: stringAt, Quotes: "\"'", Opens: opens, Words: jvm.BodyWords, Notes: jvm.ClassWords}

// translate replaces Unicode escapes (JLS 3.3), which may stand anywhere in source.
// Those in strings are left to stringAt, which comes to the same but for quotes.
func translate(src string) string {
	if !strings.Contains(src, `\u`) {
		return src
	}
	var b strings.Builder
	quote := byte(0)
	for i := 0; i < len(src); i++ {
		c := src[i]
		switch {
		case c == '\\' && i+1 < len(src) && src[i+1] == 'u' && quote == 0:
			k := i + 1
			for k < len(src) && src[k] == 'u' {
				k++
			}
			if n, err := strconv.ParseUint(src[k:min(k+4, len(src))], 16, 16); err == nil && k+4 <= len(src) {
				b.WriteRune(rune(n))
				i = k + 3
				continue
			}
		case c == '\\' && quote != 0 && i+1 < len(src):
			b.WriteByte(c)
			i++
			c = src[i]
		case quote == 0 && (c == '"' || c == '\''):
			quote = c
		case c == quote || c == '\n':
			quote = 0
		}
		b.WriteByte(c)
	}
	return b.String()
}

// stringAt reads a string literal, a text block or a character literal (JLS 3.10).
func stringAt(s *scan.Scanner) (scan.Token, bool) {
	rest := s.Src[s.Pos:]
	if rest[0] != '"' && rest[0] != '\'' {
		return scan.Token{}, false
	}
	if t, ok := s.Simple(0); ok {
		return t, true
	}
	start, quote := s.Pos, rest[:1]
	if strings.HasPrefix(rest, `"""`) {
		quote = `"""`
	}
	s.Pos += len(quote)
	t := scan.Token{Plain: true}
	var text strings.Builder
	for {
		rest := s.Src[s.Pos:]
		switch {
		case rest == "" || len(quote) == 1 && rest[0] == '\n':
			s.Problem(start, "a string that never ends")
			t.Text = text.String()
			return t, true
		case strings.HasPrefix(rest, quote):
			s.Pos += len(quote)
			t.Text = text.String()
			if len(quote) == 3 {
				t.Text = dedent(t.Text)
			}
			return t, true
		case rest[0] == '\\' && len(rest) > 1:
			s.Pos++
			text.WriteString(escape(s))
		default:
			text.WriteByte(rest[0])
			s.Pos++
		}
	}
}

// escape reads what stands behind a backslash (JLS 3.10.7, and 3.3 of \u).
func escape(s *scan.Scanner) string {
	c := s.Src[s.Pos]
	switch c {
	case 'u':
		for s.Pos < len(s.Src) && s.Src[s.Pos] == 'u' {
			s.Pos++
		}
		end := min(s.Pos+4, len(s.Src))
		n, err := strconv.ParseUint(s.Src[s.Pos:end], 16, 16)
		if err != nil {
			return ""
		}
		s.Pos = end
		return string(rune(n))
	case '0', '1', '2', '3', '4', '5', '6', '7':
		end := s.Pos
		for end < len(s.Src) && end < s.Pos+3 && s.Src[end] >= '0' && s.Src[end] <= '7' {
			end++
		}
		n, _ := strconv.ParseUint(s.Src[s.Pos:end], 8, 16)
		s.Pos = end
		return string(rune(n))
	}
	s.Pos++
	if at := strings.IndexByte("btnfrs", c); at >= 0 {
		return "\b\t\n\f\r "[at : at+1]
	}
	switch {
	case c == '\n': // of a text block: the line goes on
		return ""
	case c >= utf8.RuneSelf:
		_, size := utf8.DecodeRuneInString(s.Src[s.Pos-1:])
		s.Pos += size - 1
		return s.Src[s.Pos-size : s.Pos]
	}
	return string(rune(c))
}

// dedent takes from a text block the white space that all its lines begin with, and
// what follows the opening quotes on their line (JLS 3.10.6).
func dedent(text string) string {
	_, text, _ = strings.Cut(text, "\n")
	lines := strings.Split(text, "\n")
	indent := -1
	for i, line := range lines {
		body := strings.TrimLeft(line, " \t")
		if body == "" && i < len(lines)-1 {
			continue
		}
		if n := len(line) - len(body); indent < 0 || n < indent {
			indent = n
		}
	}
	for i, line := range lines {
		lines[i] = strings.TrimRight(line[min(max(indent, 0), len(line)):], " \t")
	}
	return strings.Join(lines, "\n")
}
