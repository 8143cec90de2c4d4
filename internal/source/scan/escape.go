package scan

import (
	"strconv"
	"strings"
	"unicode"
	"unicode/utf16"
)

// CodeUnits reads what stands behind the backslash of a Unicode escape, u0041, with more than one u
// where several says that there may be: the character, and how many bytes it takes. Two escapes that
// are the halves of one character are read as one. ok is false where there are no four digits.
func CodeUnits(rest string, several bool) (char rune, size int, ok bool) {
	char, size, ok = codeUnit(rest, several)
	if !ok || !utf16.IsSurrogate(char) || !strings.HasPrefix(rest[size:], `\u`) {
		return char, size, ok
	}
	if low, more, ok := codeUnit(rest[size+1:], several); ok {
		if both := utf16.DecodeRune(char, low); both != unicode.ReplacementChar {
			return both, size + 1 + more, true
		}
	}
	return char, size, true
}

func codeUnit(rest string, several bool) (unit rune, size int, ok bool) {
	for size < len(rest) && rest[size] == 'u' && (several || size == 0) {
		size++
	}
	end := min(size+4, len(rest))
	n, err := strconv.ParseUint(rest[size:end], 16, 16)
	if err != nil || end < size+4 {
		return 0, size, false
	}
	return rune(n), end, true
}
