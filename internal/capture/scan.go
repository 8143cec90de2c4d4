package capture

import (
	"bytes"
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
}

func (s *scanner) space() {
	s.pos = wire.SkipSpace(s.data, s.pos)
}

// next is the next byte that is no white space, 0 at the end.
func (s *scanner) next() byte {
	s.space()
	if s.pos >= len(s.data) {
		return 0
	}
	return s.data[s.pos]
}

func (s *scanner) fail(want string) bool {
	if s.fault == "" {
		s.fault = "something else stands where " + want + " should come"
		if s.pos >= len(s.data) {
			s.fault = "it ends where " + want + " should come"
		}
	}
	return false
}

// members calls each for the members of the object that comes next, with the scanner at the value,
// which each must pass. Names are compared as they are written: those of HAR need no escapes.
func (s *scanner) members(each func(name []byte)) bool {
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
		start := s.pos
		if s.pos = behindString(s.data, start); s.pos < 0 {
			s.pos = len(s.data)
			return s.fail("the end of a name")
		}
		name := s.data[start+1 : s.pos-1]
		if s.next() != ':' {
			return s.fail("':'")
		}
		s.pos++
		before := s.pos
		each(name)
		if s.pos == before {
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

// skip passes the value that comes next.
func (s *scanner) skip() {
	switch c := s.next(); c {
	case 0:
		s.fail("a value")
	case '"':
		if s.pos = behindString(s.data, s.pos); s.pos < 0 {
			s.pos = len(s.data)
			s.fail("the end of a text")
		}
	case '{', '[':
		depth := 0
		for s.pos < len(s.data) {
			switch s.data[s.pos] {
			case '"':
				if s.pos = behindString(s.data, s.pos); s.pos < 0 {
					s.pos = len(s.data)
					s.fail("the end of a text")
					return
				}
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
	case ',', ':', '}', ']':
		s.fail("a value")
	default:
		for s.pos < len(s.data) && bytes.IndexByte([]byte(",]} \t\r\n"), s.data[s.pos]) < 0 {
			s.pos++
		}
	}
}

// text is the string that comes next; nil for another value, which is passed.
func (s *scanner) text() []byte {
	start := s.pos
	s.skip()
	if s.fault != "" {
		return nil
	}
	literal := scanner{data: bytes.Clone(bytes.TrimSpace(s.data[start:s.pos]))}
	return literal.large()
}

// large is text that decodes the string where it stands in the data: what was there is lost.
func (s *scanner) large() []byte {
	if s.next() != '"' {
		s.skip()
		return nil
	}
	text, end := wire.DecodeInPlace(s.data, s.pos)
	if end < 0 {
		s.pos = len(s.data)
		s.fail("the end of a text")
		return nil
	}
	s.pos = end
	return text
}

// number is the whole number that comes next, 0 for another value.
func (s *scanner) number() (n int) {
	s.space()
	start := s.pos
	s.skip()
	if s.fault == "" {
		fmt.Sscan(string(s.data[start:s.pos]), &n)
	}
	return n
}

// behindString is the offset behind the string that starts at an offset, -1 where it does not end.
func behindString(data []byte, pos int) int {
	for i := pos + 1; ; {
		i = wire.Plain(data, i)
		switch {
		case i >= len(data):
			return -1
		case data[i] == '"':
			return i + 1
		case data[i] == '\\':
			i += 2
		default:
			i++
		}
	}
}
