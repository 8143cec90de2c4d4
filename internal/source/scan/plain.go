package scan

// Simple reads the string that begins with the one quote at the scanner's position, if
// it ends on its line and none of its characters stands for another: neither a backslash
// nor, where the dialect has templates, the byte that begins one.
func (s *Scanner) Simple(template byte) (Token, bool) {
	src := s.Src
	quote := src[s.Pos]
	for i := s.Pos + 1; i < len(src); i++ {
		switch c := src[i]; {
		case c == quote:
			if i == s.Pos+1 && i+1 < len(src) && src[i+1] == quote {
				return Token{}, false // three quotes begin another kind of string
			}
			t := Token{Text: src[s.Pos+1 : i], Plain: true}
			s.Pos = i + 1
			return t, true
		case c == '\\' || c == '\n' || c == template:
			return Token{}, false
		}
	}
	return Token{}, false
}
