package dart

import (
	"strconv"
	"strings"
	"unicode/utf8"

	"vetta/internal/code"
	"vetta/internal/source/scan"
)

// text reads a string, and those that stand right behind it as parts of it.
func (p *parser) text() *code.Expr {
	e := &code.Expr{Op: code.Text, Pos: p.Where()}
	var b strings.Builder
	for p.Kind() == scan.String {
		t := p.Tok()
		p.part(p.F.Src[t.Start:t.End], &b, e)
		p.Advance()
	}
	e.Labels = append(e.Labels, b.String())
	e.Text = strings.Join(e.Labels, "{}")
	return e
}

// part is what one literal adds to a text: b is the piece behind the last value, and a value ends it.
func (p *parser) part(literal string, b *strings.Builder, e *code.Expr) {
	raw := literal[0] == 'r'
	if raw {
		literal = literal[1:]
	}
	quote := quoteOf(literal)
	inner := strings.TrimSuffix(literal[len(quote):], quote)
	if len(quote) == 3 { // a first line of white space alone does not count
		if end := strings.IndexByte(inner, '\n'); end >= 0 && strings.Trim(inner[:end], " \t\\\r") == "" {
			inner = inner[end+1:]
		}
	}
	for i := 0; i < len(inner); {
		c := inner[i]
		switch {
		case !raw && c == '\\' && i+1 < len(inner):
			char, size := escaped(inner[i+1:])
			b.WriteString(char)
			i += 1 + size
		case !raw && c == '$' && i+1 < len(inner) && inner[i+1] == '{':
			end := closing(p.F, inner[i+2:])
			e.Labels = append(e.Labels, b.String())
			b.Reset()
			e.Args = append(e.Args, p.inner(inner[i+2:i+2+end]))
			i += 2 + end + 1
		case !raw && c == '$' && i+1 < len(inner) && wordLength(inner[i+1:]) > 0:
			n := wordLength(inner[i+1:])
			e.Labels = append(e.Labels, b.String())
			b.Reset()
			e.Args = append(e.Args, &code.Expr{Op: code.Name, Text: inner[i+1 : i+1+n], Pos: p.Where()})
			i += 1 + n
		default:
			b.WriteByte(c)
			i++
		}
	}
}

// wordLength is how much of a text is a name that may stand behind $ as it is.
func wordLength(text string) int {
	n := 0
	for n < len(text) && (text[n] == '_' || text[n]|0x20 >= 'a' && text[n]|0x20 <= 'z' || n > 0 && text[n] >= '0' && text[n] <= '9') {
		n++
	}
	return n
}

// closing is where the brace stands that closes a value in a string, its own strings passed over.
func closing(f *scan.File, rest string) int {
	inner := f.Again("{" + rest)
	if shut := inner.Partner(0); shut > 0 && inner.KindAt(shut) == scan.Punct {
		return int(inner.TokenAt(shut).Start) - 1
	}
	return len(rest)
}

// inner reads the expression that is put into a string.
func (p *parser) inner(text string) *code.Expr {
	if p.depth > maxDepth {
		return &code.Expr{Op: code.Other, Pos: p.Where()}
	}
	at := p.Where()
	if p.at != nil {
		at = *p.at
	}
	sub := &parser{Cursor: scan.Cursor{F: p.F.Again(text)}, at: &at, depth: p.depth + 1, generics: p.generics}
	return sub.expr()
}

// escaped is what an escape stands for, and how much of the text behind the backslash it is.
func escaped(rest string) (string, int) {
	switch c := rest[0]; c {
	case 'n', 'r', 't', 'b', 'f', 'v':
		return map[byte]string{'n': "\n", 'r': "\r", 't': "\t", 'b': "\b", 'f': "\f", 'v': "\v"}[c], 1
	case 'u':
		if strings.HasPrefix(rest, "u{") {
			if end := strings.IndexByte(rest, '}'); end > 0 {
				if n, err := strconv.ParseUint(rest[2:end], 16, 32); err == nil {
					return string(rune(n)), end + 1
				}
			}
			return "", 1
		}
		if char, size, ok := scan.CodeUnits(rest, false); ok {
			return string(char), size
		}
	case 'x':
		if len(rest) >= 3 {
			if n, err := strconv.ParseUint(rest[1:3], 16, 8); err == nil {
				return string(rune(n)), 3
			}
		}
	}
	_, size := utf8.DecodeRuneInString(rest)
	return rest[:size], size
}
