package shape

import (
	"bytes"
	"encoding/base64"
	"strings"
	"unsafe"

	"vetta/internal/wire"
)

// What a character may be part of, as bits that are or-ed over a whole string.
const (
	charDigit  = 1 << iota
	charHex    // a to f, A to F
	charLetter // the other letters
	charDash
	charBase64 // + / =
	charColon
	charSpecial // [ ] @ # ?: what makes a URI worth taking apart
	charDot
	charSpace
	charOther
)

// base64Bits are those of what base64 is written with (RFC 4648 section 4).
const base64Bits = charDigit | charHex | charLetter | charBase64

var charBits = func() (t [256]uint16) {
	for c := range 256 {
		switch b := byte(c); {
		case b >= '0' && b <= '9':
			t[c] = charDigit
		case b|0x20 >= 'a' && b|0x20 <= 'f' && b < 0x80:
			t[c] = charHex
		case b|0x20 >= 'g' && b|0x20 <= 'z' && b < 0x80:
			t[c] = charLetter
		case b == '-':
			t[c] = charDash
		case b == '+' || b == '/' || b == '=':
			t[c] = charBase64
		case b == ':':
			t[c] = charColon
		case strings.IndexByte("[]@#?", b) >= 0:
			t[c] = charSpecial
		case b == '.':
			t[c] = charDot
		case b == ' ' || b == ',':
			t[c] = charSpace
		default:
			t[c] = charOther
		}
	}
	return
}()

// mostScratch is how much scratch space is kept from one string to the next.
const mostScratch = 1 << 20

// stringer looks at strings; it keeps scratch space and the forms that it has seen.
type stringer struct {
	text  []byte
	forms map[string]string
	last  string // the form of the last string that had one
}

// class looks at a string literal, with its quotes.
func (s *stringer) class(lit []byte, traits wire.Traits) Class {
	body := lit[1 : len(lit)-1]
	c := Class{Kind: wire.String}
	if len(body) == 0 {
		c.Facts = Empty | IsBase64 | NotURI
		return c
	}
	if traits&wire.Escaped != 0 {
		if len(lit) > mostScratch {
			if facts, told := largeFacts(lit); told {
				c.Facts = facts
				return c
			}
		}
		var whole bool
		if s.text, whole = wire.AppendText(s.text[:0], lit); !whole {
			c.Facts |= HalfPair
		}
		body = s.text
		if cap(s.text) > mostScratch {
			s.text = nil
		}
	}
	if len(body) == len(isoForm) && body[10] == 'T' {
		if ok, exists := isISO(body); ok {
			c.Form = isoForm
			c.Facts |= NotURI
			if exists {
				c.Facts |= IsDate
				if isPlainDate(body) {
					c.Facts |= PlainDate
				}
			}
			return c
		}
	}
	var bits uint16
	for _, b := range body {
		bits |= charBits[b]
	}
	if bits&^base64Bits == 0 && len(body)%4 == 0 && isBase64(body) {
		c.Facts |= IsBase64
	}
	if bits&(charColon|charSpecial) != 0 && !isURI(unsafe.String(unsafe.SliceData(body), len(body))) {
		c.Facts |= NotURI
	}
	if bits&charDigit == 0 {
		return c
	}
	if len(body) == 36 && bits&^(charDigit|charHex|charDash) == 0 && isUUID(body) {
		c.Facts |= IsUUID
		return c
	}
	if bits&^(charDigit|charHex|charDash|charBase64|charDot) == 0 && len(body) < 400 {
		if f, ok := numberInString(body); ok {
			c.Facts |= IsNumber | f
			return c
		}
	}
	if bits&(charOther|charSpecial) == 0 && len(body) >= 4 && len(body) <= 40 {
		var buf [40]byte
		if form := dateForm(buf[:0], body); form != nil {
			c.Form = s.intern(form)
			if isDate(body) {
				c.Facts |= IsDate
				if isPlainDate(body) {
					c.Facts |= PlainDate
				}
			}
		}
	}
	return c
}

// largeFacts are the facts of a string literal that has escapes and is too long for a number, a date or a UUID, without
// its text in memory beside it; told is false where it takes all of the text to tell them.
func largeFacts(lit []byte) (facts Facts, told bool) {
	var bits uint16
	length, padding, padded := 0, 0, 0 // in bytes; = signs, and where the first of them is
	whole := wire.TextParts(lit, func(part []byte) {
		for i, b := range part {
			bits |= charBits[b]
			if b == '=' {
				if padding++; padding == 1 {
					padded = length + i
				}
			}
		}
		length += len(part)
	})
	if !whole {
		facts |= HalfPair
	}
	if bits&^base64Bits == 0 && length%4 == 0 && padding <= 2 && (padding == 0 || length-padded == padding) {
		facts |= IsBase64
	}
	return facts, bits&(charColon|charSpecial) == 0
}

func (s *stringer) intern(form []byte) string {
	if string(form) == s.last {
		return s.last
	}
	known, ok := s.forms[string(form)]
	if !ok {
		known = string(form)
		if s.forms == nil {
			s.forms = map[string]string{}
		}
		if len(s.forms) < 4096 {
			s.forms[known] = known
		}
	}
	s.last = known
	return known
}

func isBase64(body []byte) bool {
	var out [192]byte
	for len(body) > 256 { // groups of four stand for themselves but for the padding at the end
		if _, err := base64.StdEncoding.Decode(out[:], body[:256]); err != nil || bytes.IndexByte(body[:256], '=') >= 0 {
			return false
		}
		body = body[256:]
	}
	_, err := base64.StdEncoding.Decode(out[:], body)
	return err == nil
}

func isUUID(body []byte) bool {
	for i, b := range body {
		if dash := i == 8 || i == 13 || i == 18 || i == 23; dash != (b == '-') {
			return false
		}
	}
	return true
}

// numberInString answers the facts of a text that is a JSON number and nothing else.
func numberInString(body []byte) (Facts, bool) {
	d, traits, ok := wire.ParseNumber(body)
	if !ok {
		return 0, false
	}
	f, _ := numberFacts(body, traits, &d)
	return f, true
}

// isURI says whether a text is a URI-reference (RFC 3986 section 4.1) once the
// characters that none may have are percent-encoded: it fails on what stands
// where a scheme should, on an IP literal without its end, and on a port that is
// no number.
func isURI(s string) bool {
	for i := range len(s) {
		if c := s[i]; c == '/' || c == '?' || c == '#' {
			break
		} else if c == ':' {
			if !isScheme(s[:i]) {
				return false
			}
			s = s[i+1:]
			break
		}
	}
	authority, ok := strings.CutPrefix(s, "//")
	if !ok {
		return true
	}
	if end := strings.IndexAny(authority, "/?#"); end >= 0 {
		authority = authority[:end]
	}
	authority = authority[strings.LastIndexByte(authority, '@')+1:]
	port := ""
	if strings.HasPrefix(authority, "[") {
		end := strings.IndexByte(authority, ']')
		if end < 0 {
			return false
		}
		port = authority[end+1:]
		if port != "" && port[0] != ':' {
			return false
		}
	} else if colon := strings.IndexByte(authority, ':'); colon >= 0 {
		port = authority[colon:]
	}
	return strings.Trim(strings.TrimPrefix(port, ":"), "0123456789") == ""
}

// isScheme is RFC 3986 section 3.1.
func isScheme(s string) bool {
	for i := range len(s) {
		bits := charBits[s[i]]
		if bits&(charHex|charLetter) == 0 && (i == 0 || bits&(charDigit|charDash|charDot) == 0 && s[i] != '+') {
			return false
		}
	}
	return s != ""
}
