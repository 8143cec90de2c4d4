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

// token is how a file keeps a Token: a project has so many that they hold no pointers.
type token struct {
	start, end int32
	// of is, of a character, the index of the bracket that it pairs with, -1 for none; of
	// others it is asWritten, inQuotes, or the index of its text among those of the file.
	of    int32
	kind  Kind
	flags flags
}

// Where the text of a token stands.
const (
	asWritten int32 = -1 - iota
	inQuotes        // between the first and the last byte
)

type flags uint8

const (
	isPlain flags = 1 << iota
	isQuoted
	hasNewline
	hasSpace
)

// Dialect is what the lexer must know of a language.
type Dialect struct {
	NestedComments bool // block comments may contain block comments
	IdentQuote     byte // the quote around an identifier that is no keyword, 0 for none
	IdentStart     string
	// IdentMark stands before an identifier that is no keyword, as @class; 0 for none. It is no part of the name.
	IdentMark byte
	// StringAt reads the string that starts at the scanner's position, if one does; it is
	// asked where one of the characters of Quotes stands.
	StringAt func(s *Scanner) (Token, bool)
	Quotes   string
	// Prefixes are those of Quotes that stand before a string, whatever stands before them, or before a name.
	Prefixes string
	// EndsLines says that a line break may end what would go on otherwise.
	EndsLines bool
	// Opens says what the brace that is the last of the tokens so far opens.
	Opens func(f *File) Body
	Words *Words
	// Recalls says that a file knows of the names in the bodies that are passed over.
	Recalls bool
	// Notes are more words whose tokens are among a file's hits.
	Notes *Words

	once    sync.Once
	classes [256]class // what each byte may begin or go on with
	hits    *Words     // Words and Notes
}

// class is what a byte of the source may be.
type class uint8

const (
	quoteByte class = 1 << iota // may begin a string
	identByte                   // goes on with an identifier
	firstByte                   // begins one
	digitByte
	idleByte // white space or an operator: begins nothing, nor opens or closes anything
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
		if strings.IndexByte(" \t\r\n.,;:=+-*<>&|!?%^~@$", b) >= 0 && d.classes[b] == 0 && b != d.IdentQuote {
			d.classes[b] = idleByte
		}
	}
	d.hits = join(d.Words, d.Notes)
}

// Scanner cuts one file into tokens.
type Scanner struct {
	Dialect  *Dialect
	Src      string
	Pos      int // byte offset of what is read next
	Problems []model.Problem
	file     *File
	stop     int // up to here no body of a function is passed over
	passed   *Names
}

// Scan cuts src into tokens. What it cannot read it names as a problem and passes
// over; it never fails.
func Scan(name, src string, d *Dialect) *File { return scan(name, src, d, false) }

func scan(name, src string, d *Dialect, outline bool) *File {
	d.once.Do(d.classify)
	f := &File{Name: name, Src: strings.TrimPrefix(src, "\ufeff"), dialect: d}
	f.lines, f.ascii = lineStarts(f.Src), isASCII(f.Src)
	scratch, _ := scratches.Get().(*[]token)
	if scratch == nil {
		scratch = new([]token)
	}
	f.tokens = (*scratch)[:0]
	s := &Scanner{Dialect: d, Src: f.Src, file: f}
	f.outline = outline && d.Opens != nil
	if f.outline && d.Recalls {
		f.Passed = &Names{}
	}
	s.tokens()
	f.scratch = scratch
	f.Problems, f.lexed = s.Problems, len(s.Problems)
	f.pair()
	return f
}

// tokens reads those of the file from where the scanner is.
func (s *Scanner) tokens() {
	f := s.file
	for {
		var t token
		s.next(&t)
		f.tokens = append(f.tokens, t)
		if t.kind == EOF {
			break
		}
		if !f.outline || t.kind != Punct || f.Src[t.start] != '{' || s.Pos < s.stop {
			continue
		}
		switch s.Dialect.Opens(f) {
		case Unread:
			s.passBody()
		case Followed:
			s.keepBody()
		}
	}
}

// scratches are where tokens are put until it is known how many a file has, and whether
// anything looks at them again.
var scratches sync.Pool

// Prev is the token before the one that is read, the zero Token at the beginning.
func (s *Scanner) Prev() Token {
	if n := len(s.file.tokens); n > 0 {
		return s.file.TokenAt(n - 1)
	}
	return Token{}
}

// Names notes that a name stands where the scanner is, in what a string tells.
func (s *Scanner) Names(name string) {
	if s.passed != nil && name != "" {
		s.passed.add(name)
	}
}

// Problem notes something at a byte offset that could not be read.
func (s *Scanner) Problem(offset int, reason string) {
	s.Problems = append(s.Problems, model.Problem{Pos: s.file.At(int32(offset)), Reason: reason})
}

// next reads the token that comes next.
func (s *Scanner) next(t *token) {
	before := s.Pos
	if s.Pos < len(s.Src) && s.Src[s.Pos] == ' ' { // one space is what stands before most
		s.Pos++
	}
	if s.Pos < len(s.Src) {
		if c := s.Src[s.Pos]; (c <= ' ' || c == '/' || c >= utf8.RuneSelf) && s.skip() {
			t.flags |= hasNewline
		}
	}
	if s.Pos > before {
		t.flags |= hasSpace
	}
	t.start, t.of = int32(s.Pos), asWritten
	if s.Pos >= len(s.Src) {
		t.end, t.flags = int32(s.Pos), hasSpace|hasNewline
		return
	}
	switch of := s.Dialect.classes[s.Src[s.Pos]]; {
	case of&idleByte != 0:
		s.Pos++
		t.kind, t.end = Punct, int32(s.Pos)
		return
	case of&(firstByte|quoteByte) == firstByte:
		s.ident()
		t.kind, t.end = Ident, int32(s.Pos)
		s.Names(s.Src[t.start:t.end]) // in what a string of a body that is passed over tells
		return
	case of&quoteByte != 0:
		if str, ok := s.Dialect.StringAt(s); ok {
			t.kind, t.end = String, int32(s.Pos)
			if str.Plain {
				t.flags |= isPlain
			}
			if start, end := int(t.start)+1, s.Pos-1; start <= end && s.Src[start:end] == str.Text {
				t.of = inQuotes
			} else {
				t.of = int32(len(s.file.texts))
				s.file.texts = append(s.file.texts, str.Text)
			}
			return
		}
	}
	s.plain(t)
}

// plain reads a token that is no string.
func (s *Scanner) plain(t *token) {
	c := s.Src[s.Pos]
	switch of := s.Dialect.classes[c]; {
	case of&firstByte != 0:
		s.ident()
		t.kind = Ident
	case c == s.Dialect.IdentQuote && c != 0:
		if end := strings.IndexByte(s.Src[s.Pos+1:], c); end > 0 && !strings.Contains(s.Src[s.Pos+1:s.Pos+1+end], "\n") {
			t.kind, t.of = Ident, inQuotes
			t.flags |= isQuoted
			s.Pos += end + 2
		}
	case c == s.Dialect.IdentMark && c != 0 && s.Pos+1 < len(s.Src) && s.Dialect.classes[s.Src[s.Pos+1]]&firstByte != 0:
		start := s.Pos + 1
		s.Pos = start
		s.ident()
		t.kind, t.of = Ident, int32(len(s.file.texts))
		t.flags |= isQuoted
		s.file.texts = append(s.file.texts, s.Src[start:s.Pos])
	case of&digitByte != 0:
		s.number()
		t.kind = Number
	case c >= utf8.RuneSelf:
		if n := s.letterAt(s.Pos, true); n > 0 {
			s.Pos += n
			s.ident()
			t.kind = Ident
		}
	}
	if t.kind == EOF {
		size := 1
		if c >= utf8.RuneSelf {
			_, size = utf8.DecodeRuneInString(s.Src[s.Pos:])
		}
		s.Pos += size
		t.kind = Punct
	}
	t.end = int32(s.Pos)
}

// ident passes over what an identifier goes on with.
func (s *Scanner) ident() {
	src, pos, classes := s.Src, s.Pos, &s.Dialect.classes
	for pos < len(src) {
		c := src[pos]
		if classes[c]&identByte != 0 {
			pos++
			continue
		}
		if c < utf8.RuneSelf {
			break
		}
		n := s.letterAt(pos, false)
		if n == 0 {
			break
		}
		pos += n
	}
	s.Pos = pos
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
		switch b := s.Src[s.Pos]; {
		case b == '\n' || b == '\r':
			newline = true
			s.Pos++
			continue
		case b == ' ' || b == '\t':
			s.Pos++
			continue
		case b > ' ' && b < utf8.RuneSelf && b != '/':
			return newline
		}
		rest := s.Src[s.Pos:]
		c, size := utf8.DecodeRuneInString(rest)
		switch {
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
		c := s.Src[s.Pos]
		if c != '*' && c != '/' || s.Pos+1 == len(s.Src) {
			continue
		}
		switch next := s.Src[s.Pos+1]; {
		case c == '*' && next == '/':
			s.Pos++
			if depth--; depth == 0 {
				s.Pos++
				return true
			}
		case s.Dialect.NestedComments && c == '/' && next == '*':
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
		var t token
		s.next(&t)
		if t.kind == EOF {
			return false
		}
		if t.kind != Punct {
			continue
		}
		switch s.Src[t.start:t.end] {
		case open:
			depth++
		case shut:
			if depth--; depth == 0 {
				return true
			}
		}
	}
}

// Source is a file to read: its name, as messages should give it, and its text.
type Source struct {
	Name   string
	Text   string
	Module string // the folder of the build that it is part of, "" where that is not known
	// Whole says that the bodies of its functions may be followed, so that all of them
	// must be read.
	Whole bool
	// Sparse says that few of its classes are likely to be models, so that reading their
	// bodies may be put off until something leads to them.
	Sparse bool
}

// Scan cuts the file into tokens: all of it where it is wanted whole, else its outline, in
// which the braces of functions are empty where none of the dialect's words stands.
func (s Source) Scan(d *Dialect) *File { return scan(s.Name, s.Text, d, !s.Whole) }
