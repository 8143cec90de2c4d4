package typescript

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"vetta/internal/model"
)

// kind is what a token is.
type kind uint8

const (
	eof kind = iota
	ident
	number
	text  // a string, val what it says
	quasi // a template: text of the pieces in parts, with holes between them
	regex
	punct
	markup // an element of JSX, with holes
)

// token is a word, a literal or a mark of the source.
type token struct {
	kind       kind
	line       bool // a line break stands before it
	start, end int32
	val        string // of a string or a name without escapes, what it says; of others as written
	*pieces           // of a template or an element, nil for others
}

// pieces are what a template or an element is made of: texts, and code between them.
type pieces struct {
	parts []string
	holes [][]token
}

// lexer cuts a file into tokens.
type lexer struct {
	src    string
	at     int
	jsx    bool
	tokens []token
	depth  int
	docs   map[int32]doc // comments by the token that they stand before, nil where nobody asks
}

// maxNested is how deep template literals and elements are followed into each other.
const maxNested = 64

func lex(src string, jsx bool) []token { return (&lexer{src: src, jsx: jsx}).all() }

// all are the tokens of a file.
func (l *lexer) all() []token {
	src := l.src
	if strings.HasPrefix(src, "#!") {
		l.skipLine()
	}
	l.tokens = make([]token, 0, len(src)/6)
	l.run(false)
	l.tokens = append(l.tokens, token{kind: eof, start: int32(len(src)), end: int32(len(src)), line: true})
	return l.tokens
}

func (l *lexer) skipLine() {
	if i := strings.IndexByte(l.src[l.at:], '\n'); i >= 0 {
		l.at += i
	} else {
		l.at = len(l.src)
	}
}

// run reads tokens up to the end, or the brace that closes a hole.
func (l *lexer) run(hole bool) {
	braces := 0
	line := true
	var comment doc // before the next token
	for l.at < len(l.src) {
		c := l.src[l.at]
		switch {
		case c == '\n' || c == '\r':
			line = true
			l.at++
			continue
		case c == ' ' || c == '\t' || c == '\v' || c == '\f':
			l.at++
			continue
		case c == '/' && strings.HasPrefix(l.src[l.at:], "//"):
			l.skipLine()
			continue
		case c == '/' && strings.HasPrefix(l.src[l.at:], "/*"):
			end := strings.Index(l.src[l.at+2:], "*/")
			if end < 0 {
				l.at = len(l.src)
				continue
			}
			if strings.IndexByte(l.src[l.at:l.at+2+end], '\n') >= 0 {
				line = true
			}
			if l.docs != nil && l.src[l.at+2] == '*' {
				comment = doc{int32(l.at), l.src[l.at : l.at+end+4]}
				l.docs[-int32(l.at)-1] = comment
			}
			l.at += end + 4
			continue
		}
		start := l.at
		t := token{start: int32(start), line: line}
		line = false
		if comment.text != "" {
			l.docs[int32(start)] = comment
			comment = doc{}
		}
		switch {
		case isStart(c) || c == '#' || c == '\\':
			l.word(&t)
		case c >= utf8.RuneSelf:
			r, size := utf8.DecodeRuneInString(l.src[l.at:])
			if !unicode.IsLetter(r) {
				if r == '\u2028' || r == '\u2029' {
					line = true
				} else {
					line = t.line
				}
				l.at += size
				continue
			}
			l.word(&t)
		case c >= '0' && c <= '9' || c == '.' && l.at+1 < len(l.src) && l.src[l.at+1] >= '0' && l.src[l.at+1] <= '9':
			l.number(&t)
		case c == '"' || c == '\'':
			l.quoted(&t, c)
		case c == '`':
			l.template(&t)
		case c == '/' && l.operand():
			l.regex(&t)
		case c == '<' && l.jsx && l.operand() && l.opensElement():
			l.element(&t)
		default:
			if hole && c == '}' && braces == 0 {
				return
			}
			switch c {
			case '{':
				braces++
			case '}':
				braces--
			}
			l.mark(&t)
		}
		t.end = int32(l.at)
		l.tokens = append(l.tokens, t)
	}
}

func isStart(c byte) bool {
	return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c == '_' || c == '$'
}

func isPart(c byte) bool { return isStart(c) || c >= '0' && c <= '9' }

// word reads an identifier or a keyword, #private names and \u escapes among them.
func (l *lexer) word(t *token) {
	start := l.at
	if l.src[l.at] == '#' {
		l.at++
	}
	escaped := false
	for l.at < len(l.src) {
		c := l.src[l.at]
		switch {
		case isPart(c):
			l.at++
			continue
		case c == '\\' && l.at+1 < len(l.src):
			escaped = true
			l.at += 2
			if l.at < len(l.src) && l.src[l.at] == '{' {
				if i := strings.IndexByte(l.src[l.at:], '}'); i >= 0 {
					l.at += i + 1
				}
			}
			continue
		case c >= utf8.RuneSelf:
			r, size := utf8.DecodeRuneInString(l.src[l.at:])
			if unicode.IsLetter(r) || unicode.IsDigit(r) || unicode.Is(unicode.Mn, r) || unicode.Is(unicode.Mc, r) || r == '\u200c' || r == '\u200d' {
				l.at += size
				continue
			}
		}
		break
	}
	if l.at == start {
		l.at++
	}
	t.kind, t.val = ident, l.src[start:l.at]
	if escaped {
		t.val = unescape(t.val)
	}
}

func (l *lexer) number(t *token) {
	start := l.at
	for l.at < len(l.src) {
		c := l.src[l.at]
		if isPart(c) || c == '.' || (c == '+' || c == '-') && (l.src[l.at-1] == 'e' || l.src[l.at-1] == 'E') && !strings.HasPrefix(l.src[start:], "0x") && !strings.HasPrefix(l.src[start:], "0X") {
			if c == '.' && strings.HasPrefix(l.src[l.at:], "..") {
				break
			}
			l.at++
			continue
		}
		break
	}
	t.kind, t.val = number, l.src[start:l.at]
}

func (l *lexer) quoted(t *token, quote byte) {
	l.at++
	start := l.at
	escaped := false
	for l.at < len(l.src) && l.src[l.at] != quote {
		if l.src[l.at] == '\\' {
			escaped = true
			l.at++
		} else if l.src[l.at] == '\n' {
			break
		}
		l.at++
	}
	l.at = min(l.at, len(l.src))
	t.kind, t.val = text, l.src[start:l.at]
	if l.at < len(l.src) && l.src[l.at] == quote {
		l.at++
	}
	if escaped {
		t.val = unescape(t.val)
	}
}

func (l *lexer) template(t *token) {
	l.at++
	t.kind, t.pieces = quasi, &pieces{}
	start := l.at
	for l.at < len(l.src) {
		switch c := l.src[l.at]; {
		case c == '\\':
			l.at = min(l.at+2, len(l.src))
		case c == '`':
			t.parts = append(t.parts, unescape(l.src[start:l.at]))
			l.at++
			return
		case c == '$' && strings.HasPrefix(l.src[l.at:], "${"):
			t.parts = append(t.parts, unescape(l.src[start:l.at]))
			l.at += 2
			t.holes = append(t.holes, l.hole())
			start = l.at
		default:
			l.at++
		}
	}
	t.parts = append(t.parts, l.src[min(start, len(l.src)):])
}

// hole reads the tokens up to the brace that closes one, and passes over it.
func (l *lexer) hole() []token {
	if l.depth >= maxNested {
		l.at = len(l.src)
		return []token{{kind: eof}}
	}
	outer := l.tokens
	l.tokens = nil
	l.depth++
	l.run(true)
	l.depth--
	inner := append(l.tokens, token{kind: eof, start: int32(l.at), end: int32(l.at), line: true})
	l.tokens = outer
	if l.at < len(l.src) {
		l.at++
	}
	return inner
}

// operand says whether an expression may begin here, so that / is a pattern and < an element.
func (l *lexer) operand() bool {
	if len(l.tokens) == 0 {
		return true
	}
	switch last := &l.tokens[len(l.tokens)-1]; last.kind {
	case ident:
		switch last.val {
		case "return", "typeof", "case", "in", "of", "new", "delete", "void", "throw", "instanceof", "else", "do", "yield", "await", "default", "extends":
			return true
		}
		return false
	case number, text, quasi, regex, markup:
		return false
	default:
		switch last.val {
		case ")", "]", "}":
			return false
		case "++", "--":
			return false
		}
		return true
	}
}

func (l *lexer) regex(t *token) {
	end, class := l.at+1, false
	for ; end < len(l.src) && l.src[end] != '\n'; end++ {
		switch c := l.src[end]; {
		case c == '\\':
			end++
		case c == '[':
			class = true
		case c == ']':
			class = false
		case c == '/' && !class:
			end++
			for end < len(l.src) && isPart(l.src[end]) {
				end++
			}
			t.kind, t.val = regex, l.src[l.at:end]
			l.at = end
			return
		}
	}
	l.mark(t)
}

// marks are those of several characters, the longest first. A > is always one by itself, since it closes type arguments.
var marks = []string{"...", "===", "!==", "**=", "&&=", "||=", "??=", "<<=", "=>", "==", "!=", "<=", "&&", "||", "??", "?.", "++", "--", "+=", "-=", "*=", "/=", "%=", "&=", "|=", "^=", "**", "<<"}

func (l *lexer) mark(t *token) {
	t.kind = punct
	rest := l.src[l.at:]
	for _, m := range marks {
		if rest[0] == m[0] && strings.HasPrefix(rest, m) {
			if m == "?." && len(rest) > 2 && rest[2] >= '0' && rest[2] <= '9' {
				continue
			}
			t.val = m
			l.at += len(m)
			return
		}
	}
	t.val = rest[:1]
	l.at++
}

// opensElement says whether an element of JSX begins here, rather than type parameters.
func (l *lexer) opensElement() bool {
	rest := l.src[l.at+1:]
	if rest == "" {
		return false
	}
	if rest[0] == '>' {
		return true
	}
	if !isStart(rest[0]) {
		return false
	}
	end := 0
	for end < len(rest) && (isPart(rest[end]) || rest[end] == '.' || rest[end] == '-' || rest[end] == ':') {
		end++
	}
	after := strings.TrimLeft(rest[end:], " \t\r\n")
	return !strings.HasPrefix(after, ",") && !strings.HasPrefix(after, "extends ")
}

// element reads an element of JSX with all that is in it.
func (l *lexer) element(t *token) {
	t.kind, t.pieces = markup, &pieces{}
	open := 0
	for l.at < len(l.src) {
		if strings.HasPrefix(l.src[l.at:], "</") {
			end := strings.IndexByte(l.src[l.at:], '>')
			if end < 0 {
				l.at = len(l.src)
				return
			}
			l.at += end + 1
			open--
		} else if l.src[l.at] == '<' {
			if l.tag(t) {
				open++
			}
		} else if l.src[l.at] == '{' {
			l.at++
			t.holes = append(t.holes, l.hole())
		} else {
			l.at++
		}
		if open <= 0 {
			return
		}
	}
}

// tag reads the tag that opens an element, and says whether another closes it.
func (l *lexer) tag(t *token) bool {
	l.at++
	for l.at < len(l.src) {
		switch c := l.src[l.at]; c {
		case '"', '\'':
			end := strings.IndexByte(l.src[l.at+1:], c)
			if end < 0 {
				l.at = len(l.src)
				return false
			}
			l.at += end + 2
		case '{':
			l.at++
			t.holes = append(t.holes, l.hole())
		case '/':
			l.at++
			if l.at < len(l.src) && l.src[l.at] == '>' {
				l.at++
				return false
			}
		case '>':
			l.at++
			return true
		default:
			l.at++
		}
	}
	return false
}

// unescape is what a string or a template says, as ECMA-262 has it (EscapeSequence).
func unescape(s string) string {
	if strings.IndexByte(s, '\\') < 0 {
		return s
	}
	var b strings.Builder
	for i := 0; i < len(s); i++ {
		if s[i] != '\\' || i+1 == len(s) {
			b.WriteByte(s[i])
			continue
		}
		i++
		switch c := s[i]; c {
		case 'n':
			b.WriteByte('\n')
		case 't':
			b.WriteByte('\t')
		case 'r':
			b.WriteByte('\r')
		case 'b':
			b.WriteByte('\b')
		case 'f':
			b.WriteByte('\f')
		case 'v':
			b.WriteByte('\v')
		case '0':
			b.WriteByte(0)
		case '\n':
		case '\r':
			if i+1 < len(s) && s[i+1] == '\n' {
				i++
			}
		case 'x', 'u':
			digits := 2
			if c == 'u' {
				digits = 4
			}
			from := i + 1
			to := from + digits
			if c == 'u' && from < len(s) && s[from] == '{' {
				from++
				to = from + max(0, strings.IndexByte(s[from:], '}'))
				i++
			}
			if to > len(s) {
				b.WriteByte(c)
				continue
			}
			var r rune
			for _, d := range s[from:to] {
				r = r<<4 | rune(strings.IndexRune("0123456789abcdef", unicode.ToLower(d)))
			}
			b.WriteRune(r)
			i = to - 1
			if to < len(s) && s[to] == '}' && s[from-1] == '{' {
				i = to
			}
		default:
			b.WriteByte(c)
		}
	}
	return b.String()
}

// places finds lines and columns of byte offsets.
type places struct {
	file string
	src  string
	base int // lines before, of a script inside another file
	from []int32
	// marks are how many characters begin before each multiple of markEvery.
	marks []int32
}

// markEvery is how far apart the offsets are up to which characters have been counted: a line may be as long as a file.
const markEvery = 4 << 10

func newPlaces(file, src string) *places {
	p := &places{file: file, src: src, from: []int32{0}, marks: make([]int32, 1, len(src)/markEvery+1)}
	chars := int32(0)
	for i := 0; i < len(src); i++ {
		if i > 0 && i%markEvery == 0 {
			p.marks = append(p.marks, chars)
		}
		if src[i]&0xC0 != 0x80 {
			chars++
		}
		if src[i] == '\n' {
			p.from = append(p.from, int32(i+1))
		}
	}
	if len(src) > 0 && len(src)%markEvery == 0 {
		p.marks = append(p.marks, chars)
	}
	return p
}

// chars is how many characters begin before an offset.
func (p *places) chars(offset int32) (n int32) {
	mark := offset / markEvery
	n = p.marks[mark]
	for _, b := range []byte(p.src[mark*markEvery : offset]) {
		if b&0xC0 != 0x80 {
			n++
		}
	}
	return n
}

func (p *places) of(offset int32) model.Pos {
	lo, hi := 0, len(p.from)
	for hi-lo > 1 {
		if mid := (lo + hi) / 2; p.from[mid] <= offset {
			lo = mid
		} else {
			hi = mid
		}
	}
	from, col := p.from[lo], int32(0)
	if offset-from < markEvery {
		col = int32(utf8.RuneCountInString(p.src[from:offset]))
	} else {
		col = p.chars(offset) - p.chars(from)
	}
	return model.Pos{File: p.file, Line: int32(lo + 1 + p.base), Col: col + 1}
}

// unclosed is the outermost bracket that a file ends in, nil where it ends in none.
func unclosed(all []token) *token {
	var open []*token
	for i := range all {
		if t := &all[i]; t.kind == punct {
			switch t.val {
			case "(", "[", "{":
				open = append(open, t)
			case ")", "]", "}":
				if len(open) > 0 {
					open = open[:len(open)-1]
				}
			}
		}
	}
	if len(open) == 0 {
		return nil
	}
	return open[0]
}
