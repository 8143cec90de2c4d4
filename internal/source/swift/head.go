package swift

import (
	"strings"

	"vetta/internal/source/scan"
)

// maxHead is how many tokens of a function's head are looked at.
const maxHead = 200

// bodyWords are what the bodies of functions are read for: decoders and formatters that
// they build, what they set on them, and where they decode.
var bodyWords = scan.NewWords("decode decodeIfPresent JSONDecoder DateFormatter ISO8601DateFormatter",
	"keyDecodingStrategy dateDecodingStrategy dataDecodingStrategy nonConformingFloatDecodingStrategy allowsJSON5",
	"dateFormat timeZone locale formatOptions dateStyle timeStyle")

// heads are the words that declarations begin with.
var heads = scan.NewWords("func init var let subscript class struct enum actor extension protocol case")

// isFunction says whether tokens that end with a brace end with the head of a function:
// func name(…) throws -> Type.
func isFunction(tokens []scan.Token) bool {
	depth := 0
	for k := len(tokens) - 2; k >= max(0, len(tokens)-maxHead); k-- {
		t := &tokens[k]
		if t.Kind == scan.Punct {
			switch t.Text[0] {
			case ')', ']':
				depth++
			case '(', '[':
				if depth--; depth < 0 {
					return false
				}
			case '{', '}', ';':
				return false
			}
		}
		if depth == 0 && t.Kind == scan.Ident && !t.Quoted && heads.Has(t.Text) {
			return t.Text == "func"
		}
	}
	return false
}

// subclassesDecoder says whether a file may declare a subclass of a decoder or formatter:
// class Name: JSONDecoder.
func subclassesDecoder(file scan.Source) bool {
	for class := range objectClasses {
		for rest := file.Text; ; {
			at := strings.Index(rest, class)
			if at < 0 {
				break
			}
			before := strings.TrimRight(rest[max(0, at-200):at], " \t\n")
			rest = rest[at+len(class):]
			if strings.HasSuffix(before, ":") && strings.Contains(before[strings.LastIndexAny(before[:len(before)-1], ":;{}")+1:], "class") {
				return true
			}
		}
	}
	return false
}
