// Package scan is the lexer that the languages of model source share: it cuts
// text into tokens, passes over comments, reads strings with what is interpolated
// in them, and pairs brackets. What differs between languages is in a Dialect.
package scan

import (
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"vetta/internal/model"
)

// Kind is what a token is.
type Kind uint8

// The kinds of token. Punctuation comes one character at a time, since the same
// characters close generics in one place and are operators in another.
const (
	EOF Kind = iota
	Ident
	Number
	String
	Punct
)

// Token is a word, literal or character of the source.
type Token struct {
	Text       string // as written; of a quoted identifier, without its quotes; of a string, what it says
	Start, End int32  // byte offsets
	Kind       Kind
	Plain      bool // of a string: nothing is interpolated in it
	Quoted     bool // an identifier in the language's quotes, so never a keyword
	Newline    bool // a line break stands before it
	Space      bool // white space, a comment or a line break stands before it
}

// Is says whether the token is that word or character, not a quoted identifier
// and not a string.
func (t Token) Is(text string) bool {
	return t.Text == text && (t.Kind == Punct || t.Kind == Ident && !t.Quoted)
}

// Dialect is what the lexer must know of a language.
type Dialect struct {
	NestedComments bool // block comments may contain block comments
	IdentQuote     byte // the quote around an identifier that is no keyword, 0 for none
	IdentStart     string
	// StringAt reads the string that starts at the scanner's position, if one does; it is
	// asked where one of the characters of Quotes stands.
	StringAt func(s *Scanner) (Token, bool)
	Quotes   string
	// Function says whether the tokens so far, of which the last is an opening brace,
	// end with the head of a function whose body is passed over unless one of Words
	// stands in it.
	Function func(tokens []Token) bool
	Words    *Words

	once    sync.Once
	classes [256]class // what each byte may begin or go on with
}

// class is what a byte of the source may be.
type class uint8

const (
	quoteByte class = 1 << iota // may begin a string
	identByte                   // goes on with an identifier
	firstByte                   // begins one
	digitByte
)

// classify makes the table of bytes.
func (d *Dialect) classify() {
	for c := range 256 {
		b := byte(c)
		letter := b == '_' || b|0x20 >= 'a' && b|0x20 <= 'z' || b < utf8.RuneSelf && b > 0 && strings.IndexByte(d.IdentStart, b) >= 0
		if letter {
			d.classes[b] |= firstByte | identByte
		}
		if b >= '0' && b <= '9' {
			d.classes[b] |= identByte | digitByte
		}
		if strings.IndexByte(d.Quotes, b) >= 0 {
			d.classes[b] |= quoteByte
		}
	}
}

// Scanner cuts one file into tokens.
type Scanner struct {
	Dialect  *Dialect
	File     string
	Src      string
	Pos      int // byte offset of what is read next
	Problems []model.Problem
	lines    []int // byte offset of each line's start
	tokens   []Token
	stop     int // up to here no body of a function is passed over
}

// File is a file cut into tokens.
type File struct {
	Name     string
	Src      string
	Tokens   []Token // the last one is an EOF
	Match    []int32 // for each bracket, the index of its partner; for others -1
	Problems []model.Problem
	lexed    int // how many of the problems are of the text, not of the brackets
	lines    []int
}

// Scan cuts src into tokens. What it cannot read it names as a problem and passes
// over; it never fails.
func Scan(name, src string, d *Dialect) *File { return scan(name, src, d, false) }

// Outline cuts src into tokens as Scan does, but passes over the bodies of functions in
// which none of the dialect's words stands: between their braces are no tokens.
func Outline(name, src string, d *Dialect) *File { return scan(name, src, d, true) }

func scan(name, src string, d *Dialect, outline bool) *File {
	s := &Scanner{Dialect: d, File: name, Src: strings.TrimPrefix(src, "\ufeff")}
	s.lines = lineStarts(s.Src)
	f := &File{Name: name, Src: s.Src, lines: s.lines}
	d.once.Do(d.classify)
	s.tokens = freed.tokens(len(src)/4 + 1)
	for {
		s.tokens = append(s.tokens, Token{})
		t := &s.tokens[len(s.tokens)-1]
		if s.next(t); t.Kind == EOF {
			break
		}
		if outline && t.Kind == Punct && t.Text[0] == '{' && d.Function(s.tokens) {
			s.passBody()
		}
	}
	f.Tokens = s.tokens
	f.Problems, f.lexed = s.Problems, len(s.Problems)
	f.pair()
	return f
}

// freed are the tokens of files that are done with, for other files to use.
var freed pool

type pool struct{ sync.Pool }

func (p *pool) tokens(n int) []Token {
	if old, ok := p.Get().(*[]Token); ok && cap(*old) >= n/2 {
		return (*old)[:0]
	}
	return make([]Token, 0, n)
}

// Free gives up the tokens of a file, which nothing looks at any more; its name and text
// stay.
func (f *File) Free() {
	tokens := f.Tokens
	f.Tokens, f.Match = []Token{{Kind: EOF, Start: int32(len(f.Src)), End: int32(len(f.Src))}}, nil
	freed.Put(&tokens)
}

// Prev is the token before the one that is read, the zero Token at the beginning.
func (s *Scanner) Prev() Token {
	if n := len(s.tokens); n > 1 {
		return s.tokens[n-2]
	}
	return Token{}
}

func lineStarts(src string) []int {
	starts := make([]int, 1, strings.Count(src, "\n")+1)
	for i := 0; ; {
		n := strings.IndexByte(src[i:], '\n')
		if n < 0 {
			return starts
		}
		i += n + 1
		starts = append(starts, i)
	}
}

func position(name, src string, lines []int, offset int) model.Pos {
	lo, hi := 0, len(lines)
	for hi-lo > 1 {
		if mid := (lo + hi) / 2; lines[mid] <= offset {
			lo = mid
		} else {
			hi = mid
		}
	}
	return model.Pos{File: name, Line: lo + 1, Col: 1 + utf8.RuneCountInString(src[lines[lo]:min(offset, len(src))])}
}

// At is the position of a byte offset.
func (f *File) At(offset int32) model.Pos { return position(f.Name, f.Src, f.lines, int(offset)) }

// Where is the position of the token with index i.
func (f *File) Where(i int) model.Pos { return f.At(f.Tokens[i].Start) }

// Text is the source from token i up to but not including token end, on one line
// and without comments.
func (f *File) Text(i, end int) string {
	if end = min(end, len(f.Tokens)); i >= end {
		return ""
	}
	if raw := f.Src[f.Tokens[i].Start:f.Tokens[end-1].End]; isOneLine(raw) {
		return raw
	}
	var b strings.Builder
	for k := i; k < end; k++ {
		t := f.Tokens[k]
		if k > i && t.Space {
			b.WriteByte(' ')
		}
		text := f.Src[t.Start:t.End]
		if strings.ContainsRune(text, '\n') {
			text = strings.Join(strings.Fields(text), " ")
		}
		b.WriteString(text)
	}
	return b.String()
}

// isOneLine says whether source has no line breaks, no comments and no more space
// between its tokens than it needs.
func isOneLine(raw string) bool {
	for i := 0; i < len(raw); i++ {
		switch c := raw[i]; {
		case c < ' ':
			return false
		case c == ' ' && i+1 < len(raw) && raw[i+1] == ' ', c == '/' && i+1 < len(raw) && (raw[i+1] == '/' || raw[i+1] == '*'):
			return false
		}
	}
	return true
}

// Problem notes something at a byte offset that could not be read.
func (s *Scanner) Problem(offset int, reason string) {
	s.Problems = append(s.Problems, model.Problem{Pos: position(s.File, s.Src, s.lines, offset), Reason: reason})
}

// pair finds the partner of each bracket. A bracket without one is a problem; the
// closing bracket of an outer pair ends what is still open inside it.
func (f *File) pair() {
	f.Match = make([]int32, len(f.Tokens))
	open := make([]int32, 0, 16)
	for k := range f.Tokens {
		i := int32(k)
		f.Match[i] = -1
		t := &f.Tokens[i]
		if t.Kind != Punct {
			continue
		}
		switch c := t.Text[0]; c {
		case '(', '[', '{':
			open = append(open, i)
		case ')', ']', '}':
			want := byte('(')
			if c != ')' {
				want = c - 2 // [ and { stand two before ] and }
			}
			at := len(open) - 1
			for at >= 0 && f.Tokens[open[at]].Text[0] != want {
				at--
			}
			if at < 0 {
				f.problem(i, "'"+t.Text+"' closes nothing")
				continue
			}
			for _, lost := range open[at+1:] {
				f.problem(lost, "'"+f.Tokens[lost].Text+"' is never closed")
				f.Match[lost] = i
			}
			f.Match[i], f.Match[open[at]] = open[at], i
			open = open[:at]
		}
	}
	for _, lost := range open {
		f.problem(lost, "'"+f.Tokens[lost].Text+"' is never closed")
		f.Match[lost] = int32(len(f.Tokens) - 1)
	}
}

func (f *File) problem(i int32, reason string) {
	f.Problems = append(f.Problems, model.Problem{Pos: f.Where(int(i)), Reason: reason})
}

// next reads the token that comes next.
func (s *Scanner) next(t *Token) {
	before := s.Pos
	newline := s.skip()
	t.Start, t.Newline, t.Space = int32(s.Pos), newline, s.Pos > before
	if s.Pos >= len(s.Src) {
		t.End, t.Space, t.Newline = int32(s.Pos), true, true
		return
	}
	if s.Dialect.classes[s.Src[s.Pos]]&quoteByte != 0 {
		start, space := t.Start, t.Space
		if str, ok := s.Dialect.StringAt(s); ok {
			str.Kind, str.Start, str.End, str.Newline, str.Space = String, start, int32(s.Pos), newline, space
			*t = str
			return
		}
	}
	s.plain(t)
}

// plain reads a token that is no string.
func (s *Scanner) plain(t *Token) {
	c := s.Src[s.Pos]
	switch of := s.Dialect.classes[c]; {
	case of&firstByte != 0:
		s.ident()
		t.Kind = Ident
	case c == s.Dialect.IdentQuote && c != 0:
		if end := strings.IndexByte(s.Src[s.Pos+1:], c); end > 0 && !strings.Contains(s.Src[s.Pos+1:s.Pos+1+end], "\n") {
			t.Kind, t.Quoted = Ident, true
			t.Text = s.Src[s.Pos+1 : s.Pos+1+end]
			s.Pos += end + 2
			t.End = int32(s.Pos)
			return
		}
	case of&digitByte != 0:
		s.number()
		t.Kind = Number
	case c >= utf8.RuneSelf:
		if n := s.letterAt(s.Pos, true); n > 0 {
			s.Pos += n
			s.ident()
			t.Kind = Ident
		}
	}
	if t.Kind == EOF {
		size := 1
		if c >= utf8.RuneSelf {
			_, size = utf8.DecodeRuneInString(s.Src[s.Pos:])
		}
		s.Pos += size
		t.Kind = Punct
	}
	t.End = int32(s.Pos)
	t.Text = s.Src[t.Start:t.End]
}

// ident passes over what an identifier goes on with.
func (s *Scanner) ident() {
	for s.Pos < len(s.Src) {
		c := s.Src[s.Pos]
		switch {
		case s.Dialect.classes[c]&identByte != 0:
			s.Pos++
		case c < utf8.RuneSelf:
			return
		default:
			n := s.letterAt(s.Pos, false)
			if n == 0 {
				return
			}
			s.Pos += n
		}
	}
}

// letterAt is the length of the character of an identifier at pos, which is none of
// ASCII; 0 where it is no such character.
func (s *Scanner) letterAt(pos int, first bool) int {
	r, size := utf8.DecodeRuneInString(s.Src[pos:])
	if unicode.IsLetter(r) || unicode.Is(unicode.So, r) || !first && (unicode.IsDigit(r) || unicode.IsMark(r)) {
		return size
	}
	return 0
}

// number passes over a number: digits, letters and underscores, a point that a
// digit follows, and the sign of an exponent.
func (s *Scanner) number() {
	hex := strings.HasPrefix(s.Src[s.Pos:], "0x") || strings.HasPrefix(s.Src[s.Pos:], "0X")
	for s.Pos < len(s.Src) {
		c := s.Src[s.Pos]
		switch {
		case c == '_' || c >= '0' && c <= '9' || c|0x20 >= 'a' && c|0x20 <= 'z':
		case c == '.' && s.Pos+1 < len(s.Src) && s.Src[s.Pos+1] >= '0' && s.Src[s.Pos+1] <= '9':
		case (c == '+' || c == '-') && !hex && s.Src[s.Pos-1]|0x20 == 'e':
		default:
			return
		}
		s.Pos++
	}
}

// skip passes over white space and comments and says whether a line break was
// among them.
func (s *Scanner) skip() (newline bool) {
	for s.Pos < len(s.Src) {
		if b := s.Src[s.Pos]; b == ' ' || b == '\t' {
			s.Pos++
			continue
		} else if b > ' ' && b < utf8.RuneSelf && b != '/' {
			return newline
		}
		rest := s.Src[s.Pos:]
		c, size := utf8.DecodeRuneInString(rest)
		switch {
		case c == '\n' || c == '\r':
			newline = true
			s.Pos++
		case unicode.IsSpace(c) || c == 0:
			s.Pos += size
		case strings.HasPrefix(rest, "//"):
			if end := strings.IndexByte(rest, '\n'); end >= 0 {
				s.Pos += end
			} else {
				s.Pos = len(s.Src)
			}
		case strings.HasPrefix(rest, "/*"):
			start := s.Pos
			s.Pos += 2
			if !s.blockComment() {
				s.Problem(start, "a comment that never ends")
			}
			newline = newline || strings.Contains(s.Src[start:s.Pos], "\n")
		default:
			return newline
		}
	}
	return newline
}

func (s *Scanner) blockComment() (closed bool) {
	for depth := 1; s.Pos < len(s.Src); s.Pos++ {
		switch rest := s.Src[s.Pos:]; {
		case strings.HasPrefix(rest, "*/"):
			s.Pos++
			if depth--; depth == 0 {
				s.Pos++
				return true
			}
		case s.Dialect.NestedComments && strings.HasPrefix(rest, "/*"):
			s.Pos++
			depth++
		}
	}
	return false
}

// Balanced passes over source up to the bracket that closes the one just read,
// through strings and comments, and says whether it found it. It is for what is
// interpolated in a string.
func (s *Scanner) Balanced(open, shut string) bool {
	for depth := 1; ; {
		var t Token
		switch s.next(&t); {
		case t.Kind == EOF:
			return false
		case t.Is(open):
			depth++
		case t.Is(shut):
			if depth--; depth == 0 {
				return true
			}
		}
	}
}

// Repair pairs the brackets anew after Tokens were taken out.
func (f *File) Repair() {
	f.Problems = f.Problems[:f.lexed]
	f.pair()
}

// Source is a file to read: its name, as messages should give it, and its text.
type Source struct {
	Name string
	Text string
	// Whole says that the bodies of its functions may be followed, so that all of them
	// must be read.
	Whole bool
}

// Scan cuts the file into tokens: all of it where it is wanted whole, else its outline.
func (s Source) Scan(d *Dialect) *File { return scan(s.Name, s.Text, d, !s.Whole) }
