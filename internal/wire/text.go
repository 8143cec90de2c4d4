package wire

import (
	"bytes"
	"encoding/binary"
	"encoding/json"
	"math/bits"
	"slices"
	"strings"
	"unicode/utf16"
	"unicode/utf8"
)

// Unquote answers the text of a string literal (with its quotes) that a Reader
// has accepted. whole is false where an escape names half a surrogate pair: the
// half stands as U+FFFD in the text, and a library may refuse the string
// (RFC 8259 section 8.2).
func Unquote(literal []byte) (text string, whole bool) {
	if body := literal[1 : len(literal)-1]; bytes.IndexByte(body, '\\') < 0 {
		return string(body), true
	}
	out, whole := AppendText(make([]byte, 0, len(literal)), literal)
	return string(out), whole
}

// AppendText is Unquote that appends the text to out.
func AppendText(out, literal []byte) (text []byte, whole bool) {
	text, _, whole = appendDecoded(out, literal, 0)
	return text, whole
}

func hex4(b []byte) rune {
	return rune(hexValue(b[0])<<12 | hexValue(b[1])<<8 | hexValue(b[2])<<4 | hexValue(b[3]))
}

// Delimiter is the offset of the first quote or backslash at or behind pos, the length of the data where
// there is none.
func Delimiter(data []byte, pos int) int {
	for pos+8 <= len(data) {
		if mark := delimiters(binary.LittleEndian.Uint64(data[pos:])); mark != 0 {
			return pos + bits.TrailingZeros64(mark)/8
		}
		pos += 8
	}
	for pos < len(data) && data[pos] != '"' && data[pos] != '\\' {
		pos++
	}
	return pos
}

// delimiters has the high bit of each of eight bytes set that is a quote or a backslash; bytes behind the
// first such one may be marked falsely.
func delimiters(x uint64) uint64 {
	const ones, highs = 0x0101010101010101, 0x8080808080808080
	quote, slash := x^(ones*'"'), x^(ones*'\\')
	return ((quote-ones)&^quote | (slash-ones)&^slash) & highs
}

// DecodeInPlace is the text of the string literal that starts at pos, written over the literal, and the
// offset behind it; -1 where it does not end. What the grammar does not admit in a string stays as it
// is. It is for texts that are large and needed once.
func DecodeInPlace(data []byte, pos int) (text []byte, end int) {
	if text, end, done := DecodePart(data, pos+1); done {
		return text, end
	}
	return nil, -1
}

// DecodePart is DecodeInPlace from the middle of a string on, which may not be there to its end: done says
// whether it is. Where it is not, what comes from end on is still to be decoded, with more behind it.
func DecodePart(data []byte, start int) (text []byte, end int, done bool) {
	to, i := start, start
	for {
		for i+8 <= len(data) {
			word := binary.LittleEndian.Uint64(data[i:])
			mark := delimiters(word)
			n := 8
			if mark != 0 {
				n = bits.TrailingZeros64(mark) / 8
			}
			if i-to >= 8 { // what is written past n is far from what is still to be read
				binary.LittleEndian.PutUint64(data[to:], word)
			} else if i != to {
				copy(data[to:to+n], data[i:])
			}
			to, i = to+n, i+n
			if mark != 0 {
				break
			}
		}
		for i < len(data) && data[i] != '"' && data[i] != '\\' {
			data[to] = data[i]
			to, i = to+1, i+1
		}
		if i >= len(data) {
			return data[start:to:to], i, false
		}
		if data[i] == '"' {
			return data[start:to:to], i + 1, true
		}
		if i+1 >= len(data) {
			return data[start:to:to], i, false
		}
		c := data[i+1]
		if c != 'u' {
			if c = escapes[c]; c == 0 {
				c = data[i+1]
			}
			data[to] = c
			to, i = to+1, i+2
			continue
		}
		r, n := unicodeEscape(data[i:])
		if len(data)-i < 12 && (n == 0 || r == utf8.RuneError) && bytes.IndexByte(data[i:], '"') < 0 {
			return data[start:to:to], i, false // more may come of it
		}
		if n == 0 { // none: it stays
			data[to], data[to+1] = '\\', 'u'
			to, i = to+2, i+2
			continue
		}
		to += utf8.EncodeRune(data[to:], r)
		i += n
	}
}

// AppendDecoded is DecodeInPlace that appends the text to out and leaves the data as it is.
func AppendDecoded(out, data []byte, pos int) (text []byte, end int) {
	text, end, _ = appendDecoded(out, data, pos)
	return text, end
}

// appendDecoded is AppendDecoded that tells whether no escape names half a surrogate pair.
func appendDecoded(out, data []byte, pos int) (text []byte, end int, whole bool) {
	whole = true
	for i := pos + 1; ; {
		from := i
		i = Delimiter(data, i)
		out = append(out, data[from:i]...)
		if i+1 >= len(data) && (i >= len(data) || data[i] != '"') {
			return out, -1, whole
		}
		if data[i] == '"' {
			return out, i + 1, whole
		}
		var n int
		var half bool
		out, n, half = appendEscape(out, data[i:])
		whole = whole && !half
		i += n
	}
}

// appendEscape appends what the escape at the beginning of data stands for, and answers how many bytes it
// takes, and whether it names half a surrogate pair.
func appendEscape(out, data []byte) (text []byte, n int, half bool) {
	c := data[1]
	if c != 'u' {
		if escapes[c] != 0 {
			c = escapes[c]
		}
		return append(out, c), 2, false
	}
	r, n := unicodeEscape(data)
	if n == 0 { // none: it stays
		return append(out, '\\', 'u'), 2, false
	}
	return utf8.AppendRune(out, r), n, n == 6 && utf16.IsSurrogate(hex4(data[2:]))
}

// TextParts hands on the text of a string literal, with its quotes, that a Reader has accepted, in stretches: for one
// that is too large to have twice in memory. What it answers is as with Unquote.
func TextParts(literal []byte, each func(part []byte)) (whole bool) {
	whole = true
	var buf [utf8.UTFMax]byte
	for rest := literal[1 : len(literal)-1]; len(rest) > 0; {
		i := Delimiter(rest, 0)
		each(rest[:i])
		if rest = rest[i:]; len(rest) == 0 {
			break
		}
		text, n, half := appendEscape(buf[:0], rest)
		each(text)
		whole, rest = whole && !half, rest[n:]
	}
	return whole
}

// escapes are the characters that stand for others behind a backslash.
var escapes = [256]byte{'b': '\b', 'f': '\f', 'n': '\n', 'r': '\r', 't': '\t'}

// unicodeEscape is the character that \u and four digits stand for, or two such that are halves of one,
// and how many bytes that takes; 0 for none.
func unicodeEscape(data []byte) (r rune, n int) {
	if len(data) < 6 || slices.ContainsFunc(data[2:6], notHex) {
		return 0, 0
	}
	r = hex4(data[2:])
	if !utf16.IsSurrogate(r) {
		return r, 6
	}
	if len(data) >= 12 && data[6] == '\\' && data[7] == 'u' && !slices.ContainsFunc(data[8:12], notHex) {
		if pair := utf16.DecodeRune(r, hex4(data[8:])); pair != utf8.RuneError {
			return pair, 12
		}
	}
	return utf8.RuneError, 6
}

func notHex(c byte) bool { return hexValue(c) < 0 }

// Quote is a text as a JSON string; of text that is no UTF-8, the Unicode replacement character stands for what is not.
func Quote(text string) string {
	if strings.IndexFunc(text, func(r rune) bool { return r < ' ' || r > '~' || r == '"' || r == '\\' }) < 0 {
		return `"` + text + `"`
	}
	var out strings.Builder
	enc := json.NewEncoder(&out)
	enc.SetEscapeHTML(false)
	if err := enc.Encode(text); err != nil {
		return `""`
	}
	return strings.TrimSuffix(out.String(), "\n")
}
