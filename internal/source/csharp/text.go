package csharp

import (
	"strconv"
	"strings"
	"unicode/utf8"

	"vetta/internal/code"
	"vetta/internal/source/scan"
)

// text reads the string or character at the cursor.
func (p *parser) text() *code.Expr {
	t := p.Tok()
	e := &code.Expr{Op: code.Text, Pos: p.Where(), From: t.Start, To: t.End}
	p.Advance()
	src := p.F.Src[t.Start:t.End]
	l, ok := literalAt(src, 0)
	if !ok {
		e.Labels = []string{""}
		return e
	}
	inner := strings.TrimSuffix(src[l.from:], l.quote)
	if src[0] == '\'' {
		e.Const = true // a character
	}
	if l.raw {
		inner = outdent(inner)
	}
	var b strings.Builder
	for i := 0; i < len(inner); {
		c := inner[i]
		switch {
		case l.verbatim && c == '"':
			b.WriteByte('"')
			i += 2
		case c == '\\' && !l.verbatim && !l.raw:
			char, size := escaped(inner[i+1:])
			b.WriteString(char)
			i += 1 + size
		case l.dollars > 0 && (c == '{' || c == '}'):
			n := run(inner[i:], c)
			if c == '}' || !l.holds(n) {
				if l.raw {
					b.WriteString(inner[i : i+n])
				} else {
					b.WriteString(inner[i : i+max(n/2, 1)])
				}
				i += n
				continue
			}
			marks := 1
			if l.raw {
				marks = l.dollars
				b.WriteString(inner[i : i+n-marks])
			} else {
				b.WriteString(inner[i : i+n/2])
			}
			i += n
			end := closing(p.F, inner[i:])
			e.Labels = append(e.Labels, b.String())
			b.Reset()
			e.Args = append(e.Args, p.inner(inner[i:i+end]))
			i = min(i+end+marks, len(inner))
		default:
			b.WriteByte(c)
			i++
		}
	}
	e.Labels = append(e.Labels, b.String())
	e.Text = strings.Join(e.Labels, "{}")
	return e
}

// outdent takes from a raw string over several lines its first and last line break, and from each line what stands
// before the closing quotes.
func outdent(text string) string {
	first := strings.IndexByte(text, '\n')
	if first < 0 || strings.TrimSpace(text[:first]) != "" {
		return text
	}
	text = strings.ReplaceAll(text[first+1:], "\r\n", "\n")
	cut := strings.LastIndexByte(text, '\n')
	if cut < 0 {
		return ""
	}
	indent := text[cut+1:]
	lines := strings.Split(text[:cut], "\n")
	for i, line := range lines {
		lines[i] = strings.TrimPrefix(line, indent)
	}
	return strings.Join(lines, "\n")
}

// closing is where the brace stands that closes a value in a string, its own strings passed over.
func closing(f *scan.File, rest string) int {
	inner := f.Again("{" + rest)
	if shut := inner.Partner(0); shut > 0 && inner.KindAt(shut) == scan.Punct {
		return int(inner.TokenAt(shut).Start) - 1
	}
	return len(rest)
}

// inner reads the expression that is put into a string, without how it is written there: {value,8:0.00}.
func (p *parser) inner(text string) *code.Expr {
	if p.depth > maxDepth {
		return p.other()
	}
	at := p.Where()
	if p.at != nil {
		at = *p.at
	}
	sub := &parser{Cursor: scan.Cursor{F: p.F.Again(text)}, at: &at, depth: p.depth + 1, generics: p.generics}
	e := sub.expr()
	if sub.Is(":") || sub.Is(",") {
		return &code.Expr{Op: code.Other, Args: []*code.Expr{e}, Text: strings.TrimSpace(text[min(int(sub.Tok().Start), len(text)):]), Pos: at}
	}
	return e
}

// escaped is what an escape stands for, and how much of the text behind the backslash it is.
func escaped(rest string) (string, int) {
	if rest == "" {
		return "", 0
	}
	digits := func(from, most int) (string, int) {
		n := from
		for n < len(rest) && n < from+most && strings.IndexByte("0123456789abcdefABCDEF", rest[n]) >= 0 {
			n++
		}
		code, err := strconv.ParseUint(rest[from:n], 16, 32)
		if err != nil {
			return "", n
		}
		return string(rune(code)), n
	}
	switch c := rest[0]; c {
	case 'n', 'r', 't', 'b', 'f', 'v', 'a', '0', 'e':
		return map[byte]string{'n': "\n", 'r': "\r", 't': "\t", 'b': "\b", 'f': "\f", 'v': "\v", 'a': "\a", '0': "\x00", 'e': "\x1b"}[c], 1
	case 'u':
		if char, size, ok := scan.CodeUnits(rest, false); ok {
			return string(char), size
		}
		return digits(1, 4)
	case 'U':
		return digits(1, 8)
	case 'x':
		return digits(1, 4)
	}
	_, size := utf8.DecodeRuneInString(rest)
	return rest[:size], size
}
