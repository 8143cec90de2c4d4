// Package scan is the lexer that the languages of model source share: it cuts
// text into tokens, passes over comments, reads strings with what is interpolated
// in them, and pairs brackets. What differs between languages is in a Dialect.
package scan

import (
	"strings"
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
	Kind       Kind
	Text       string // as written; of a quoted identifier, without its quotes; of a string, what it says
	Plain      bool   // of a string: nothing is interpolated in it
	Quoted     bool   // an identifier in the language's quotes, so never a keyword
	Start, End int    // byte offsets
	Newline    bool   // a line break stands before it
	Space      bool   // white space, a comment or a line break stands before it
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
}

// Scanner cuts one file into tokens.
type Scanner struct {
	Dialect  *Dialect
	File     string
	Src      string
	Pos      int // byte offset of what is read next
	Problems []model.Problem
	Prev     Token // the token before the one that is read
	lines    []int // byte offset of each line's start
}

// File is a file cut into tokens.
type File struct {
	Name     string
	Src      string
	Tokens   []Token // the last one is an EOF
	Match    []int   // for each bracket, the index of its partner; for others -1
	Problems []model.Problem
	lexed    int // how many of the problems are of the text, not of the brackets
	lines    []int
}

// Scan cuts src into tokens. What it cannot read it names as a problem and passes
// over; it never fails.
func Scan(name, src string, d *Dialect) *File {
	s := &Scanner{Dialect: d, File: name, Src: strings.TrimPrefix(src, "\ufeff")}
	s.lines = lineStarts(s.Src)
	f := &File{Name: name, Src: s.Src, lines: s.lines}
	f.Tokens = make([]Token, 0, len(src)/4+1)
	for {
		t := s.next()
		s.Prev = t
		f.Tokens = append(f.Tokens, t)
		if t.Kind == EOF {
			break
		}
	}
	f.Problems, f.lexed = s.Problems, len(s.Problems)
	f.pair()
	return f
}

func lineStarts(src string) []int {
	starts := []int{0}
	for i := 0; i < len(src); i++ {
		if src[i] == '\n' {
			starts = append(starts, i+1)
		}
	}
	return starts
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
func (f *File) At(offset int) model.Pos { return position(f.Name, f.Src, f.lines, offset) }

// Where is the position of the token with index i.
func (f *File) Where(i int) model.Pos { return f.At(f.Tokens[i].Start) }

// Text is the source from token i up to but not including token end, on one line
// and without comments.
func (f *File) Text(i, end int) string {
	var b strings.Builder
	for k := i; k < end && k < len(f.Tokens); k++ {
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

// Problem notes something at a byte offset that could not be read.
func (s *Scanner) Problem(offset int, reason string) {
	s.Problems = append(s.Problems, model.Problem{Pos: position(s.File, s.Src, s.lines, offset), Reason: reason})
}

// pair finds the partner of each bracket. A bracket without one is a problem; the
// closing bracket of an outer pair ends what is still open inside it.
func (f *File) pair() {
	f.Match = make([]int, len(f.Tokens))
	var open []int
	for i := range f.Tokens {
		f.Match[i] = -1
		t := &f.Tokens[i]
		if t.Kind != Punct {
			continue
		}
		switch t.Text {
		case "(", "[", "{":
			open = append(open, i)
		case ")", "]", "}":
			want := map[string]string{")": "(", "]": "[", "}": "{"}[t.Text]
			at := len(open) - 1
			for at >= 0 && f.Tokens[open[at]].Text != want {
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
		f.Match[lost] = len(f.Tokens) - 1
	}
}

func (f *File) problem(i int, reason string) {
	f.Problems = append(f.Problems, model.Problem{Pos: f.Where(i), Reason: reason})
}

func (s *Scanner) next() Token {
	before := s.Pos
	newline := s.skip()
	t := Token{Start: s.Pos, Newline: newline}
	space := s.Pos > before
	if s.Pos >= len(s.Src) {
		t.End, t.Space, t.Newline = s.Pos, true, true
		return t
	}
	c := s.Src[s.Pos]
	if strings.IndexByte(s.Dialect.Quotes, c) >= 0 {
		str, ok := s.Dialect.StringAt(s)
		if !ok {
			return s.plain(t, space)
		}
		str.Kind, str.Start, str.End, str.Newline, str.Space = String, t.Start, s.Pos, newline, space
		return str
	}
	return s.plain(t, space)
}

// plain reads a token that is no string.
func (s *Scanner) plain(t Token, space bool) Token {
	t.Space = space
	c := s.Src[s.Pos]
	switch {
	case c == s.Dialect.IdentQuote && c != 0:
		if end := strings.IndexByte(s.Src[s.Pos+1:], c); end > 0 && !strings.Contains(s.Src[s.Pos+1:s.Pos+1+end], "\n") {
			t.Kind, t.Quoted = Ident, true
			t.Text = s.Src[s.Pos+1 : s.Pos+1+end]
			s.Pos += end + 2
			t.End = s.Pos
			return t
		}
	case c >= '0' && c <= '9':
		s.number()
		t.Kind = Number
	case s.identAt(s.Pos, true) > 0:
		s.Pos += s.identAt(s.Pos, true)
		for n := s.identAt(s.Pos, false); n > 0; n = s.identAt(s.Pos, false) {
			s.Pos += n
		}
		t.Kind = Ident
	}
	if t.Kind == EOF {
		_, size := utf8.DecodeRuneInString(s.Src[s.Pos:])
		s.Pos += size
		t.Kind = Punct
	}
	t.End = s.Pos
	t.Text = s.Src[t.Start:t.End]
	return t
}

// identAt is the length of the identifier character at pos, 0 if none is there.
func (s *Scanner) identAt(pos int, first bool) int {
	if pos >= len(s.Src) {
		return 0
	}
	c := s.Src[pos]
	if c < utf8.RuneSelf {
		if c == '_' || c|0x20 >= 'a' && c|0x20 <= 'z' || !first && c >= '0' && c <= '9' ||
			strings.IndexByte(s.Dialect.IdentStart, c) >= 0 {
			return 1
		}
		return 0
	}
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
		switch t := s.next(); {
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
}
