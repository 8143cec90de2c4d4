package wire

import (
	"encoding/binary"
	"math/bits"
)

// Token is a stretch of JSON text made ready to be compared: by its length and its
// first and last eight bytes, which leave nothing to compare of most.
type Token struct {
	text       string
	head, tail uint64
	mask       uint64 // of the bytes of head that are the token's
}

// TokenOf makes a token of a text.
func TokenOf(text string) Token {
	t := Token{text: text, mask: 1<<(8*min(len(text), 8)) - 1}
	t.head, t.tail = ends([]byte(text), 0, len(text))
	return t
}

// Text is the text of the token, "" of the zero token.
func (t *Token) Text() string { return t.text }

// Is says whether the token stands between two offsets of data. Ends are those of
// that stretch.
func (t *Token) Is(data []byte, start, end int, e Ends) bool {
	return t.head == e.head && t.tail == e.tail && len(t.text) == end-start &&
		(end-start <= 16 || string(data[start+8:end-8]) == t.text[8:len(t.text)-8])
}

// begins says whether the token stands at an offset of data that at least wordy bytes
// follow, whatever comes behind it. head are the first eight of them.
func (t *Token) begins(data []byte, pos int, head uint64) bool {
	if head&t.mask != t.head {
		return false
	}
	n := len(t.text)
	if n <= 8 {
		return n > 0
	}
	return n <= wordy && t.tail == binary.LittleEndian.Uint64(data[pos+n-8:]) &&
		(n <= 16 || string(data[pos+8:pos+n-8]) == t.text[8:n-8])
}

// wordy is how long the tokens are that begins finds.
const wordy = 64

// Ends are the first and the last bytes of a stretch of text.
type Ends struct{ head, tail uint64 }

// EndsOf are those of data from start to end.
func EndsOf(data []byte, start, end int) Ends {
	head, tail := ends(data, start, end)
	return Ends{head, tail}
}

// Ends are those of the token.
func (t *Token) Ends() Ends { return Ends{t.head, t.tail} }

// Slot is a number below 1<<width, up to 8, that stretches of text with these ends
// share: one by which a table of few places finds them.
func (e Ends) Slot(width int) uint8 {
	const odd = 0x9E3779B97F4A7C15 // 2^64 by the golden ratio: it spreads neighbours
	return uint8((e.head ^ bits.RotateLeft64(e.tail, 29)) * odd >> (64 - width))
}

func ends(data []byte, start, end int) (head, tail uint64) {
	n := end - start
	switch {
	case n >= 8:
		return binary.LittleEndian.Uint64(data[start:]), binary.LittleEndian.Uint64(data[end-8:])
	case start+8 <= len(data):
		return binary.LittleEndian.Uint64(data[start:]) & (1<<(8*n) - 1), 0
	}
	for i, c := range data[start:end] {
		head |= uint64(c) << (8 * i)
	}
	return head, 0
}
