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

// isFunction says whether the tokens before a brace, the last one, are the head of a function:
// func name(…) throws -> Type.
func isFunction(f *scan.File) bool {
	depth := 0
	last := f.Len() - 1
	for k := last; k >= max(0, last-maxHead); k-- {
		kind := f.KindAt(k)
		if kind == scan.Punct {
			switch f.ByteAt(k) {
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
		if depth == 0 && kind == scan.Ident && heads.Has(f.Word(k)) {
			return f.Is(k, "func")
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
