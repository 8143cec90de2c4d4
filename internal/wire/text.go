package wire

import (
	"bytes"
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
	body := literal[1 : len(literal)-1]
	whole = true
	for i := 0; i < len(body); {
		c := body[i]
		if c != '\\' {
			out = append(out, c)
			i++
			continue
		}
		switch body[i+1] {
		case 'u':
			r := hex4(body[i+2:])
			i += 6
			if utf16.IsSurrogate(r) {
				pair := rune(utf8.RuneError)
				if i+6 <= len(body) && body[i] == '\\' && body[i+1] == 'u' {
					pair = utf16.DecodeRune(r, hex4(body[i+2:]))
				}
				if pair == utf8.RuneError {
					whole = false
				} else {
					i += 6
				}
				r = pair
			}
			out = utf8.AppendRune(out, r)
			continue
		case 'b':
			out = append(out, '\b')
		case 'f':
			out = append(out, '\f')
		case 'n':
			out = append(out, '\n')
		case 'r':
			out = append(out, '\r')
		case 't':
			out = append(out, '\t')
		default:
			out = append(out, body[i+1])
		}
		i += 2
	}
	return out, whole
}

func hex4(b []byte) rune {
	return rune(hexValue(b[0])<<12 | hexValue(b[1])<<8 | hexValue(b[2])<<4 | hexValue(b[3]))
}
