// Package kotlin reads Kotlin source into declarations: classes with the properties of
// their constructors and bodies, enums, annotations and aliases. It follows the Kotlin
// language specification, version 1.9-rfc+0.1.
package kotlin

import (
	"strings"

	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

var dialect = &scan.Dialect{EndsLines: true, NestedComments: true, IdentQuote: '`', StringAt: stringAt, Quotes: "\"'", Opens: opens, Words: jvm.BodyWords, Notes: jvm.ClassWords}

// stringAt reads a string literal, a raw one, or a character ("Syntax and grammar",
// string mode grammar).
func stringAt(s *scan.Scanner) (scan.Token, bool) {
	rest := s.Src[s.Pos:]
	if rest[0] != '"' && rest[0] != '\'' {
		return scan.Token{}, false
	}
	if t, ok := s.Simple('$'); ok {
		return t, true
	}
	start, quote := s.Pos, rest[:1]
	raw := strings.HasPrefix(rest, `"""`)
	if raw {
		quote = `"""`
	}
	s.Pos += len(quote)
	t := scan.Token{Plain: true}
	var text strings.Builder
	for {
		rest := s.Src[s.Pos:]
		switch {
		case rest == "" || !raw && rest[0] == '\n':
			s.Problem(start, "a string that never ends")
			t.Text = text.String()
			return t, true
		case strings.HasPrefix(rest, quote):
			s.Pos += len(quote)
			for raw && s.Pos < len(s.Src) && s.Src[s.Pos] == '"' { // quotes of the text before the last three
				text.WriteByte('"')
				s.Pos++
			}
			t.Text = text.String()
			return t, true
		case strings.HasPrefix(rest, "${") && quote != "'":
			s.Pos += 2
			t.Plain = false
			if !s.Balanced("{", "}") {
				s.Problem(start, "a template that never ends")
			}
		case rest[0] == '$' && quote != "'" && len(rest) > 1 && (rest[1]|0x20 >= 'a' && rest[1]|0x20 <= 'z' || rest[1] == '_' || rest[1] == '`'):
			t.Plain = false
			s.Pos++
		case rest[0] == '\\' && !raw && len(rest) > 1 && rest[1] != '\n':
			s.Pos += 2
			switch c := rest[1]; c {
			case 'u':
				if char, size, ok := scan.CodeUnits(rest[1:], false); ok {
					text.WriteRune(char)
					s.Pos += size - 1
				}
			case 't', 'b', 'r', 'n':
				text.WriteByte(map[byte]byte{'t': '\t', 'b': '\b', 'r': '\r', 'n': '\n'}[c])
			default:
				text.WriteByte(c)
			}
		default:
			text.WriteByte(rest[0])
			s.Pos++
		}
	}
}
