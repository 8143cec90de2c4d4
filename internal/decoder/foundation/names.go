package foundation

import (
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"
)

// ConvertFromSnakeCase is what the key strategy of that name makes of a name on
// the wire (JSONDecoder.KeyDecodingStrategy): the words between underscores are
// capitalised, all but the first, and underscores around the whole stay. A name
// of one word stays as it is, capitals and all.
func ConvertFromSnakeCase(name string) string {
	body := strings.Trim(name, "_")
	if body == "" {
		return name
	}
	start := strings.Index(name, body)
	words := strings.FieldsFunc(body, func(c rune) bool { return c == '_' })
	if len(words) == 1 {
		return name
	}
	var b strings.Builder
	b.WriteString(name[:start])
	b.WriteString(strings.ToLower(words[0]))
	for _, w := range words[1:] {
		b.WriteString(capitalized(w))
	}
	b.WriteString(name[start+len(body):])
	return b.String()
}

// canonical is the one form of texts that Swift takes for equal: String compares by
// canonical equivalence (Unicode Standard Annex 15).
func canonical(text string) string {
	for i := range len(text) {
		if text[i] >= 0x80 {
			return norm.NFC.String(text)
		}
	}
	return text
}

// capitalized makes the first letter of each run of letters upper case and the
// others lower.
func capitalized(word string) string {
	inWord := false
	return strings.Map(func(c rune) rune {
		switch {
		case !unicode.IsLetter(c):
			inWord = false
			return c
		case inWord:
			return unicode.ToLower(c)
		}
		inWord = true
		return unicode.ToTitle(c)
	}, word)
}
