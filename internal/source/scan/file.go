package scan

import (
	"slices"
	"sort"
	"strings"
	"unicode/utf8"

	"vetta/internal/model"
)

// File is a file cut into tokens.
type File struct {
	Name     string
	Src      string
	Problems []model.Problem
	// Hits are the indexes of the identifiers that are among the dialect's words, or what it
	// notes besides.
	Hits []int32
	// Passed are the names in the bodies that were passed over, nil where none may have been.
	Passed  *Names
	tokens  []token // the last one is an EOF
	texts   []string
	lexed   int // how many of the problems are of the text, not of the brackets
	lines   []int32
	dialect *Dialect
	outline bool // bodies may have been passed over
	ascii   bool // no character takes more than one byte
	// scratch is where the room of the tokens comes from, nil for room of their own.
	scratch *[]token
}

// Again is another text of the same file, cut into tokens.
func (f *File) Again(text string) *File { return Scan(f.Name, text, f.dialect) }

// PassedOver says whether the bracket at an index opens a body that was passed over.
func (f *File) PassedOver(i int) bool {
	shut := f.Partner(i)
	return f.outline && shut == i+1 && strings.TrimSpace(f.Src[f.tokens[i].end:f.tokens[shut].start]) != ""
}

// Inner is what is inside the brackets that open at an index, in bytes of the source.
func (f *File) Inner(i int) (from, end int32) {
	return f.tokens[i].end, f.tokens[f.Partner(i)].start
}

// HasName says whether a name stands in a stretch of the source, comments and strings included; one that begins with a
// point is that of a member.
func (f *File) HasName(from, end int32, name string) bool {
	text := f.Src[from:end]
	for {
		at := strings.Index(text, name)
		if at < 0 {
			return false
		}
		end := at + len(name)
		if (at == 0 || name[0] == '.' || !isWordByte(text[at-1])) && (end == len(text) || !isWordByte(text[end])) {
			return true
		}
		text = text[end:]
	}
}

func isWordByte(c byte) bool {
	return c == '_' || c|0x20 >= 'a' && c|0x20 <= 'z' || c >= '0' && c <= '9' || c >= utf8.RuneSelf
}

// Inside cuts a stretch of the source into tokens, with the positions of this file.
func (f *File) Inside(from, end int32) *File {
	in := &File{Name: f.Name, Src: f.Src[:end], dialect: f.dialect, lines: f.lines, ascii: f.ascii}
	s := &Scanner{Dialect: f.dialect, Src: in.Src, Pos: int(from), file: in}
	s.tokens()
	in.pair()
	return in
}

// Len is how many tokens the file has, without the EOF behind them.
func (f *File) Len() int { return len(f.tokens) - 1 }

// TokenAt is a token by its index, the EOF where there is none.
func (f *File) TokenAt(i int) Token {
	if i < 0 || i >= len(f.tokens) {
		i = len(f.tokens) - 1
	}
	t := &f.tokens[i]
	return Token{
		Text: f.text(t), Start: t.start, End: t.end, Kind: t.kind,
		Plain: t.flags&isPlain != 0, Quoted: t.flags&isQuoted != 0, Newline: t.flags&hasNewline != 0, Space: t.flags&hasSpace != 0,
	}
}

func (f *File) text(t *token) string {
	if t.kind == Punct {
		return f.Src[t.start:t.end]
	}
	switch t.of {
	case asWritten:
		return f.Src[t.start:t.end]
	case inQuotes:
		return f.Src[t.start+1 : t.end-1]
	}
	return f.texts[t.of]
}

// Tokens are those from i up to but not including end.
func (f *File) Tokens(i, end int) []Token {
	var all []Token
	for ; i < end; i++ {
		all = append(all, f.TokenAt(i))
	}
	return all
}

// Is says whether a token, by its index, is that word or character.
func (f *File) Is(i int, text string) bool {
	if i < 0 || i >= len(f.tokens) {
		return false
	}
	t := &f.tokens[i]
	return int(t.end-t.start) == len(text) && f.Src[t.start:t.end] == text && (t.kind == Punct || t.kind == Ident)
}

// Word is a token as written, by its index; nothing where there is none.
func (f *File) Word(i int) string {
	if i < 0 || i >= len(f.tokens) {
		return ""
	}
	return f.Src[f.tokens[i].start:f.tokens[i].end]
}

// Ident is the name that a token is, by its index, without the quotes or escapes it may be written
// with; nothing where it is no name.
func (f *File) Ident(i int) string {
	if f.KindAt(i) != Ident {
		return ""
	}
	return f.text(&f.tokens[i])
}

// ByteAt is the first byte of a token that is no EOF, by its index.
func (f *File) ByteAt(i int) byte { return f.Src[f.tokens[i].start] }

// KindAt is what a token is, by its index: EOF where there is none.
func (f *File) KindAt(i int) Kind {
	if i < 0 || i >= len(f.tokens) {
		return EOF
	}
	return f.tokens[i].kind
}

// EndsLines says whether a line break may end what would go on otherwise.
func (f *File) EndsLines() bool { return f.dialect.EndsLines }

// Partner is the index of the bracket that pairs with the one at an index, -1 where there
// is none.
func (f *File) Partner(i int) int {
	if i < 0 || i >= len(f.tokens) {
		return -1
	}
	if f.tokens[i].kind != Punct {
		return -1
	}
	return int(f.tokens[i].of)
}

// Trim gives up the room that the file's tokens do not need.
func (f *File) Trim() {
	kept := slices.Clone(f.tokens)
	f.release()
	f.tokens = kept
}

func (f *File) release() {
	if f.scratch != nil {
		*f.scratch = f.tokens
		scratches.Put(f.scratch)
		f.scratch = nil
	}
}

// Free gives up the tokens of a file, which nothing looks at any more; its name and text
// stay.
func (f *File) Free() {
	f.release()
	end := int32(len(f.Src))
	f.tokens, f.texts, f.Hits = []token{{kind: EOF, start: end, end: end, of: asWritten}}, nil, nil
}

// HasNote says whether a token from i up to but not including end is one of the words that
// the dialect notes.
func (f *File) HasNote(i, end int) bool {
	at, _ := slices.BinarySearch(f.Hits, int32(i))
	for ; at < len(f.Hits) && int(f.Hits[at]) < end; at++ {
		if f.dialect.Notes.Has(f.Word(int(f.Hits[at]))) {
			return true
		}
	}
	return false
}

func isASCII(src string) bool {
	for len(src) >= 8 { // the highest bits of eight bytes at once, which are one load
		eight := uint64(src[0]) | uint64(src[1])<<8 | uint64(src[2])<<16 | uint64(src[3])<<24 | uint64(src[4])<<32 | uint64(src[5])<<40 | uint64(src[6])<<48 | uint64(src[7])<<56
		if eight&0x8080808080808080 != 0 {
			return false
		}
		src = src[8:]
	}
	for i := range len(src) {
		if src[i] >= utf8.RuneSelf {
			return false
		}
	}
	return true
}

func lineStarts(src string) []int32 {
	starts := make([]int32, 1, strings.Count(src, "\n")+1)
	for i := 0; ; {
		n := strings.IndexByte(src[i:], '\n')
		if n < 0 {
			return starts
		}
		i += n + 1
		starts = append(starts, int32(i))
	}
}

// At is the position of a byte offset.
func (f *File) At(offset int32) model.Pos { return f.position(offset, f.lineOf(offset, 0)) }

// maxNear is how many lines are gone through from one that is thought to be near.
const maxNear = 8

// lineOf is the line of a byte offset, from 0; near is one that may be shortly before it.
func (f *File) lineOf(offset int32, near int) int {
	lo, hi := 0, len(f.lines)
	if near < hi && f.lines[near] <= offset {
		for lo = near; lo-near < maxNear; lo++ {
			if lo+1 == hi || f.lines[lo+1] > offset {
				return lo
			}
		}
	}
	for hi-lo > 1 {
		if mid := (lo + hi) / 2; f.lines[mid] <= offset {
			lo = mid
		} else {
			hi = mid
		}
	}
	return lo
}

func (f *File) position(offset int32, line int) model.Pos {
	before := f.Src[f.lines[line]:min(int(offset), len(f.Src))]
	col := 1 + len(before)
	if !f.ascii {
		col = 1 + utf8.RuneCountInString(before)
	}
	return model.Pos{File: f.Name, Line: int32(line + 1), Col: int32(col)}
}

// Where is the position of the token with index i.
func (f *File) Where(i int) model.Pos { return f.At(f.tokens[min(i, f.Len())].start) }

// Index is the token that begins at a byte offset, or the first behind it.
func (f *File) Index(offset int32) int {
	return sort.Search(f.Len(), func(i int) bool { return f.tokens[i].start >= offset })
}

// Between is the source between two byte offsets, as Text has it.
func (f *File) Between(from, to int32) string { return f.Text(f.Index(from), f.Index(to)) }

// Text is the source from token i up to but not including token end, on one line
// and without comments.
func (f *File) Text(i, end int) string {
	if end = min(end, len(f.tokens)); i >= end {
		return ""
	}
	if raw := f.Src[f.tokens[i].start:f.tokens[end-1].end]; isOneLine(raw) {
		return raw
	}
	var b strings.Builder
	for k := i; k < end; k++ {
		t := &f.tokens[k]
		if k > i && t.flags&hasSpace != 0 {
			b.WriteByte(' ')
		}
		if f.outline && t.kind == Punct && t.of == int32(k)+1 && k+1 < end && strings.TrimSpace(f.Src[t.end:f.tokens[k+1].start]) != "" { // a body that was passed over
			whole := Scan(f.Name, f.Src[f.tokens[i].start:f.tokens[end-1].end], f.dialect)
			return whole.Text(0, whole.Len())
		}
		text := f.Src[t.start:t.end]
		if strings.ContainsRune(text, '\n') {
			text = strings.Join(strings.Fields(text), " ")
		}
		b.WriteString(text)
	}
	return b.String()
}

// Joined is the source from token i up to but not including token end, without what
// stands between the tokens.
func (f *File) Joined(i, end int) string {
	if i >= end {
		return ""
	}
	length := 0
	for k := i; k < end; k++ {
		length += int(f.tokens[k].end - f.tokens[k].start)
	}
	raw := f.Src[f.tokens[i].start:f.tokens[end-1].end]
	if len(raw) == length && strings.IndexByte(raw, '`') < 0 {
		return raw
	}
	var b strings.Builder
	for k := i; k < end; k++ {
		b.WriteString(f.text(&f.tokens[k]))
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

// pair finds the partner of each bracket. A bracket without one is a problem; the
// closing bracket of an outer pair ends what is still open inside it.
func (f *File) pair() {
	f.Hits = f.Hits[:0]
	open := make([]int32, 0, 16)
	hits, classes := f.dialect.hits, &f.dialect.classes
	for k := range f.tokens {
		i := int32(k)
		t := &f.tokens[i]
		if t.kind != Punct {
			if t.kind == Ident && hits.lengths[f.Src[t.start]]>>((t.end-t.start)&63)&1 != 0 && t.flags&isQuoted == 0 && hits.Has(f.Src[t.start:t.end]) {
				f.Hits = append(f.Hits, i)
			}
			continue
		}
		t.of = -1
		c := f.Src[t.start]
		if classes[c]&idleByte != 0 {
			continue
		}
		switch c {
		case '(', '[', '{':
			open = append(open, i)
		case ')', ']', '}':
			want := byte('(')
			if c != ')' {
				want = c - 2 // [ and { stand two before ] and }
			}
			at := len(open) - 1
			for at >= 0 && f.Src[f.tokens[open[at]].start] != want {
				at--
			}
			if at < 0 {
				f.problem(i, "'"+string(c)+"' closes nothing")
				continue
			}
			for _, lost := range open[at+1:] {
				f.neverClosed(lost, i)
			}
			t.of, f.tokens[open[at]].of = open[at], i
			open = open[:at]
		}
	}
	for _, lost := range open {
		f.neverClosed(lost, int32(len(f.tokens)-1))
	}
}

// neverClosed notes a bracket without a partner, and what ends it.
func (f *File) neverClosed(lost, end int32) {
	f.problem(lost, "'"+f.text(&f.tokens[lost])+"' is never closed")
	f.tokens[lost].of = end
}

func (f *File) problem(i int32, reason string) {
	f.Problems = append(f.Problems, model.Problem{Pos: f.Where(int(i)), Reason: reason})
}

// Keep takes out the tokens with an index for which keep is false, and pairs the brackets
// anew.
func (f *File) Keep(keep func(i int) bool) {
	kept := f.tokens[:0]
	for i := range f.tokens {
		if keep(i) || f.tokens[i].kind == EOF {
			kept = append(kept, f.tokens[i])
		}
	}
	f.tokens = kept
	f.Problems = f.Problems[:f.lexed]
	f.pair()
}
