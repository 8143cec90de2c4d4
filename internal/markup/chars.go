package markup

import (
	"encoding/xml"
	"strings"
	"unicode/utf8"
)

// The classes of ASCII in names (XML 1.0, fourth edition, section 2.3); other characters are asked for one by one.
const (
	nameStart = 1 << iota
	nameChar
	textStop // ends a stretch of text that stands for itself
)

var classes = func() (t [256]uint8) {
	for c := 'a'; c <= 'z'; c++ {
		t[c] |= nameStart | nameChar
		t[c-32] |= nameStart | nameChar
	}
	for c := '0'; c <= '9'; c++ {
		t[c] |= nameChar
	}
	for _, c := range "_:" {
		t[c] |= nameStart | nameChar
	}
	for _, c := range "-." {
		t[c] |= nameChar
	}
	for c := 0x80; c < 0x100; c++ {
		t[c] |= nameStart | nameChar
	}
	for c := 0; c < 0x20; c++ {
		if c != '\t' && c != '\n' {
			t[c] |= textStop
		}
	}
	for _, c := range "<&]" {
		t[c] |= textStop
	}
	t[0xEF] |= textStop // U+FFFE and U+FFFF begin so
	return t
}()

func isSpace(c byte) bool { return c == ' ' || c == '\t' || c == '\n' || c == '\r' }

// isChar says whether a document may hold a character (section 2.2).
func isChar(r rune) bool {
	return r == '\t' || r == '\n' || r == '\r' || r >= 0x20 && r <= 0xD7FF || r >= 0xE000 && r <= 0xFFFD || r >= 0x10000 && r <= 0x10FFFF
}

// wellNamed says whether a name that is not ASCII alone is one by the fourth edition, whose tables the standard
// library has.
func (p *parser) wellNamed(name string) bool {
	if ok, known := p.names[name]; known {
		return ok
	}
	if p.names == nil {
		p.names = map[string]bool{}
	}
	ok := utf8.ValidString(name)
	if ok {
		d := xml.NewDecoder(strings.NewReader("<" + strings.ReplaceAll(name, ":", "_") + "/>"))
		_, err := d.RawToken()
		ok = err == nil
	}
	p.names[name] = ok
	return ok
}
