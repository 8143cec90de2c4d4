package capture

import (
	"fmt"

	"vetta/internal/wire"
)

// scanner walks over JSON text of which only some members are looked at: the rest is passed over by
// its brackets and quotes. Where the text ends too early, or something else stands where a value
// should, it stops with fault.
type scanner struct {
	data  []byte
	pos   int
	fault string
	// fill reads more of the text: it drops what lies before pos and answers whether anything came. It is
	// nil where all of the text is there.
	fill    func(*scanner) bool
	scratch *[]byte // what large texts are decoded into, behind what it holds; nil where that is done in place
	left    int64   // how large a text may be at most, negative where that is not known
	base    int     // how much of the text lay before data
	inLarge bool    // a large text is being read
	refused string  // why one was not kept
}

// more makes sure that there is something at pos.
func (s *scanner) more() bool {
	return s.pos < len(s.data) || s.fill != nil && s.fill(s)
}

// next is the next byte that is no white space, 0 at the end.
func (s *scanner) next() byte {
	for s.more() {
		if s.pos = wire.SkipSpace(s.data, s.pos); s.pos < len(s.data) {
			return s.data[s.pos]
		}
	}
	return 0
}

func (s *scanner) fail(want string) bool {
	if s.fault == "" {
		s.fault = "something else stands where " + want + " should come"
		if !s.more() {
			s.fault = "it ends where " + want + " should come"
		}
	}
	return false
}

// members calls each for the members of the object that comes next, with the scanner at the value,
// which each may pass. Of another value there are none. Names are compared as they are written: those
// that are looked for need no escapes.
func (s *scanner) members(each func(name string)) bool {
	if s.next() != '{' {
		s.skip()
		return s.fault == ""
	}
	s.pos++
	if s.next() == '}' {
		s.pos++
		return true
	}
	for {
		if s.next() != '"' {
			return s.fail("a name")
		}
		name := string(s.text())
		if s.fault != "" {
			return false
		}
		if s.next() != ':' {
			return s.fail("':'")
		}
		s.pos++
		s.next()
		before := s.base + s.pos
		each(name)
		if s.base+s.pos == before && s.fault == "" {
			s.skip()
		}
		if s.fault != "" {
			return false
		}
		switch s.next() {
		case ',':
			s.pos++
		case '}':
			s.pos++
			return true
		default:
			return s.fail("',' or '}'")
		}
	}
}

// behindString passes the string that comes next, from its quote on.
func (s *scanner) behindString() {
	s.pos++
	for s.more() {
		s.pos = wire.Delimiter(s.data, s.pos)
		switch {
		case s.pos >= len(s.data):
		case s.data[s.pos] == '"':
			s.pos++
			return
		default:
			s.pos++
			if s.more() { // what the backslash is before
				s.pos++
			}
		}
	}
	s.fail("the end of a text")
}

// skip passes the value that comes next.
func (s *scanner) skip() {
	switch s.next() {
	case 0, ',', ':', '}', ']':
		s.fail("a value")
	case '"':
		s.behindString()
	case '{', '[':
		depth := 0
		for s.more() {
			switch s.data[s.pos] {
			case '"':
				s.behindString()
				continue
			case '{', '[':
				depth++
			case '}', ']':
				depth--
			}
			s.pos++
			if depth == 0 {
				return
			}
		}
		s.fail("'}' or ']'")
	default:
		before := s.base + s.pos
		for s.more() && isOfWord(s.data[s.pos]) {
			s.pos++
		}
		if s.base+s.pos == before {
			s.fail("a value")
		}
	}
}

// isOfWord says whether a byte may be one of a number, or of true, false and null.
func isOfWord(c byte) bool {
	return c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c == '-' || c == '+' || c == '.' || c == 'E'
}

// text is the string that comes next; nil for another value, which is passed.
func (s *scanner) text() []byte {
	if s.next() != '"' {
		s.skip()
		return nil
	}
	literal := []byte{'"'}
	for s.pos++; s.more(); {
		from := s.pos
		s.pos = wire.Delimiter(s.data, from)
		literal = append(literal, s.data[from:s.pos]...)
		if s.pos >= len(s.data) {
			continue
		}
		c := s.data[s.pos]
		literal = append(literal, c)
		if s.pos++; c == '"' {
			text, _ := wire.DecodeInPlace(literal, 0)
			return text
		}
		if s.more() {
			literal = append(literal, s.data[s.pos])
			s.pos++
		}
	}
	s.fail("the end of a text")
	return nil
}

// large is text for a string that may be large and is needed once: where all of the data is there, it is
// decoded where it stands, and what was there is lost.
func (s *scanner) large() []byte {
	if s.next() != '"' {
		s.skip()
		return nil
	}
	if s.scratch != nil {
		from := len(*s.scratch)
		text, end := wire.AppendDecoded(*s.scratch, s.data, s.pos)
		if end < 0 {
			s.pos = len(s.data)
			s.fail("the end of a text")
			return nil
		}
		s.pos, *s.scratch = end, text
		return text[from:len(text):len(text)]
	}
	if s.fill == nil {
		text, end := wire.DecodeInPlace(s.data, s.pos)
		if end < 0 {
			s.pos = len(s.data)
			s.fail("the end of a text")
			return nil
		}
		s.pos = end
		return text
	}
	var out []byte
	s.inLarge = true
	defer func() { s.inLarge = false }()
	for s.pos++; s.more(); {
		part, end, done := wire.DecodePart(s.data, s.pos)
		switch {
		case s.refused != "":
		case len(out)+len(part) > mostBody:
			s.refused, out = fmt.Sprintf("the body is larger than %d MB, and is not read", mostBody>>20), nil
		default:
			if len(out)+len(part) > cap(out) {
				out = grown(out, len(part), s.left)
			}
			out = append(out, part...)
		}
		if s.pos = end; done {
			return out
		}
		if end < len(s.data) && !s.fill(s) { // an escape that ends further on
			break
		}
	}
	s.fail("the end of a text")
	return nil
}

// number is the whole number that comes next, 0 for another value.
func (s *scanner) number() (n int) {
	for c := s.next(); s.more() && c >= '0' && c <= '9' && n < 1<<40; c = s.data[s.pos] {
		n = 10*n + int(c-'0')
		if s.pos++; !s.more() {
			return n
		}
	}
	if c := s.next(); c != ',' && c != '}' && c != ']' {
		s.skip()
	}
	return n
}
