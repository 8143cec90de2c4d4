package shape

import (
	"strings"

	"vetta/internal/wire"
)

// witness is a literal of a class that tells nothing of what was sent: its letters and digits are others, as far as the
// class admits. Where none of the class is found, and the one that was sent looks secret, it is "": then nothing is known
// of how such values fare.
func (s *saver) witness(p *Place, c Counted) string {
	switch c.Class.Kind {
	case wire.Number:
		if !s.secret(p.Steps, c.Witness) {
			return c.Witness
		}
		if like := strings.Map(hiddenDigit, c.Witness); ClassOf([]byte(like)) == c.Class {
			return like
		}
		return ""
	case wire.String:
	default:
		return c.Witness
	}
	text, _ := wire.Unquote([]byte(c.Witness))
	likes := []string{strings.Map(hidden, text)}
	if c.Class.Form != "" || c.Class.Facts&IsNumber != 0 { // whose letters mean something
		likes = append(likes, strings.Map(hiddenDigit, text), asDate(strings.Map(hiddenDigit, text)))
	}
	for _, like := range append(likes, plainTexts...) {
		literal := quoted(like)
		if c.Class.Facts&HalfPair != 0 {
			literal = literal[:len(literal)-1] + `\ud800"`
		}
		if ClassOf([]byte(literal)) == c.Class {
			return literal
		}
	}
	if strings.Contains(c.Witness, `\`) || s.secret(p.Steps, c.Witness) {
		return ""
	}
	return c.Witness
}

// hidden is another character of the same kind.
func hidden(r rune) rune {
	switch {
	case r >= 'a' && r <= 'z':
		return 'a'
	case r >= 'A' && r <= 'Z':
		return 'A'
	case r >= '0' && r <= '9':
		return '1'
	case r == 0xFFFD, r < 0x20:
		return 'a'
	case r > 0x7F:
		return 'é'
	}
	return r
}

// hiddenDigit is another digit.
func hiddenDigit(r rune) rune {
	if r >= '0' && r <= '9' {
		return '1'
	}
	return r
}

// asDate makes the first of a text's digits those of a year of our time.
func asDate(text string) string {
	if len(text) < 4 {
		return text
	}
	return "2001" + text[4:]
}

// plainTexts are texts of the classes that have no form.
var plainTexts = []string{"", "a", "aaaa", "a:", "1a", "[a", "1:a a", "11111111-1111-1111-1111-111111111111"}
