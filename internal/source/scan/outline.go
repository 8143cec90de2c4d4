package scan

import (
	"strings"
	"unicode/utf8"
)

// Words are a set of words that is quickly asked.
type Words struct {
	lengths [256]uint64   // by first byte, a bit for each length that a word has
	of      [256][]string // by first byte
}

// NewWords makes a set of the words in some texts, which spaces part. One that ends in a
// star is any that begins so.
func NewWords(texts ...string) *Words {
	w := &Words{}
	for _, text := range texts {
		for _, word := range strings.Fields(text) {
			w.of[word[0]] = append(w.of[word[0]], word)
			if strings.HasSuffix(word, "*") {
				w.lengths[word[0]] = ^uint64(0)
			}
			w.lengths[word[0]] |= 1 << (len(word) & 63)
		}
	}
	return w
}

// join makes a set of those of two, either of which may be nil.
func join(sets ...*Words) *Words {
	all := &Words{}
	for _, w := range sets {
		if w == nil {
			continue
		}
		for first := range w.of {
			all.of[first] = append(all.of[first], w.of[first]...)
			all.lengths[first] |= w.lengths[first]
		}
	}
	return all
}

// Has says whether a word is one of them.
func (w *Words) Has(word string) bool {
	if word == "" || w.lengths[word[0]]>>(len(word)&63)&1 == 0 {
		return false
	}
	for _, known := range w.of[word[0]] { // few, and most of another length
		if known == word || known[len(known)-1] == '*' && strings.HasPrefix(word, known[:len(known)-1]) {
			return true
		}
	}
	return false
}

// Names are a set of names that is small and quickly added to; what it has is right but for a few that it takes for
// others.
type Names struct{ bits [128]uint64 }

func (n *Names) add(name string) {
	bit := hash(name)
	n.bits[bit>>6] |= 1 << (bit & 63)
}

// May says whether a name may be one of them.
func (n *Names) May(name string) bool {
	if n == nil || name == "" {
		return false
	}
	bit := hash(name)
	return n.bits[bit>>6]>>(bit&63)&1 != 0
}

// hash is a number below 8192 by a name that is not empty, of its length and of at most twelve of its bytes.
func hash(name string) uint32 {
	h, last := uint32(len(name)), len(name)-1
	for i := 0; i < 6 && i <= last; i++ {
		h = h*31 + uint32(name[i])
		h = h*37 + uint32(name[last-i])
	}
	return (h ^ h>>13) & 8191
}

// Body is what braces may be around, to the outline of a file.
type Body uint8

const (
	Other    Body = iota
	Unread        // the body of a function that is passed over unless one of the words stands in it
	Followed      // one that may be followed, with all that is in it
)

// maxOpen is how deep brackets may lie inside each other in a body that is passed over.
const maxOpen = 64

// passBody passes over what is between a brace that was just read and its partner, if no
// word and nothing that could be a problem stands there. Else it leaves the scanner where
// it was, and no body is passed over up to the place that stood in the way.
func (s *Scanner) passBody() {
	start, problems := s.Pos, len(s.Problems)
	s.passed = s.file.Passed
	defer func() { s.passed = nil }()
	if !s.body(s.Dialect.Words) || len(s.Problems) > problems {
		s.Pos, s.stop, s.Problems = start, s.Pos, s.Problems[:problems]
		return
	}
	for s.Pos > start && (s.Src[s.Pos-1] == ' ' || s.Src[s.Pos-1] == '\t' || s.Src[s.Pos-1] == '\n' || s.Src[s.Pos-1] == '\r') {
		s.Pos-- // for the closing brace to know what stands before it
	}
}

// keepBody passes over no body of a function inside the braces that were just opened.
func (s *Scanner) keepBody() {
	start, problems := s.Pos, len(s.Problems)
	s.body(nil)
	s.Pos, s.stop, s.Problems = start, s.Pos, s.Problems[:problems]
}

// body moves to the closing brace; it says no where it comes to what it cannot pass over,
// such as one of the words.
func (s *Scanner) body(words *Words) bool {
	var open [maxOpen]byte
	depth := 0
	src, classes := s.Src, &s.Dialect.classes
	for s.Pos < len(src) {
		c := src[s.Pos]
		switch of := classes[c]; {
		case of&idleByte != 0:
			s.Pos++
		case of&firstByte != 0:
			end := s.Pos + 1
			for end < len(src) && classes[src[end]]&identByte != 0 {
				end++
			}
			if words != nil && words.Has(src[s.Pos:end]) {
				return false
			}
			start := s.Pos
			s.Pos = end
			if end < len(src) && src[end] >= utf8.RuneSelf {
				s.ident()
			}
			s.Names(src[start:s.Pos])
		case of&digitByte != 0:
			s.number()
		case c == '/' && s.Pos+1 < len(src) && (src[s.Pos+1] == '/' || src[s.Pos+1] == '*'):
			s.skip()
		case of&quoteByte != 0:
			own := strings.IndexByte(s.Dialect.Prefixes, c) >= 0
			if c != '"' && c != '\'' && !own { // what it begins hangs on what stands before it
				return false
			}
			if _, ok := s.Dialect.StringAt(s); !ok {
				if !own {
					return false
				}
				s.Pos++
			}
		case c == '(' || c == '[' || c == '{':
			if depth == maxOpen {
				return false
			}
			open[depth] = c
			depth++
			s.Pos++
		case c == ')' || c == ']' || c == '}':
			if depth == 0 {
				return c == '}'
			}
			depth--
			if want := open[depth]; c == ')' && want != '(' || c != ')' && want != c-2 {
				return false
			}
			s.Pos++
		case c >= utf8.RuneSelf || c == s.Dialect.IdentQuote:
			var t token
			s.plain(&t)
		default:
			s.Pos++
		}
	}
	return false
}
