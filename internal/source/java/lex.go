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
	from := s.Pos
	for {
		rest := s.Src[s.Pos:]
		switch {
		case rest == "" || len(quote) == 1 && rest[0] == '\n':
			s.Problem(start, "a string that never ends")
			return scan.Token{Plain: true, Text: unescape(s.Src[from:s.Pos])}, true
		case strings.HasPrefix(rest, quote):
			raw := s.Src[from:s.Pos]
			s.Pos += len(quote)
			if len(quote) == 3 {
				raw = dedent(strings.ReplaceAll(raw, "\r\n", "\n"))
			}
			return scan.Token{Plain: true, Text: unescape(raw)}, true
		case rest[0] == '\\' && len(rest) > 1 && (len(quote) == 3 || rest[1] != '\n'):
			s.Pos += 2
		default:
			s.Pos++
		}
	}
}

// unescape is what the text of a literal says (JLS 3.10.7, and 3.3 of \u).
func unescape(raw string) string {
	var text strings.Builder
	for raw != "" {
		at := strings.IndexByte(raw, '\\')
		if at < 0 || at+1 == len(raw) {
			break
		}
		text.WriteString(raw[:at])
		said, size := escape(raw[at+1:])
		text.WriteString(said)
		raw = raw[at+1+size:]
	}
	return text.String() + raw
}

// escape is what stands behind a backslash, and how many bytes it takes.
func escape(rest string) (said string, size int) {
	switch c := rest[0]; {
	case c == 'u':
		char, size, ok := scan.CodeUnits(rest, true)
		if !ok {
			return "", size
		}
		return string(char), size
	case c >= '0' && c <= '7':
		most := 2
		if c <= '3' {
			most = 3
		}
		for size < most && size < len(rest) && rest[size] >= '0' && rest[size] <= '7' {
			size++
		}
		n, _ := strconv.ParseUint(rest[:size], 8, 8)
		return string(rune(n)), size
	case c == '\n': // of a text block: the line goes on
		return "", 1
	}
	if at := strings.IndexByte("btnfrs", rest[0]); at >= 0 {
		return "\b\t\n\f\r "[at : at+1], 1
	}
	_, size = utf8.DecodeRuneInString(rest)
	return rest[:size], size
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
