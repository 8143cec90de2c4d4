package swift

import (
	"strings"

	"vetta/internal/source/scan"
)

// maxHead is how many tokens of a function's head are looked at.
const maxHead = 200

// bodyWords are what the bodies of functions are read for: decoders and formatters that
// they build, what they set on them, and where they decode.
var bodyWords = []string{"decode decodeIfPresent JSONDecoder DateFormatter ISO8601DateFormatter",
	"serializingDecodable responseDecodable publishDecodable",
	"JSONEncoder keyEncodingStrategy dateEncodingStrategy dataEncodingStrategy",
	"keyDecodingStrategy dateDecodingStrategy dataDecodingStrategy nonConformingFloatDecodingStrategy allowsJSON5",
	"dateFormat timeZone locale formatOptions dateStyle timeStyle"}

// heads are the words that declarations begin with.
var heads = scan.NewWords("func init var let subscript class struct enum actor extension protocol case")

// opens says what a brace, the last token, opens: the body of a function, func name(…)
// throws -> Type; that of a computed property, var name: Type; or that of an initialiser,
// which may be followed.
func opens(f *scan.File) scan.Body {
	depth := 0
	last := f.Len() - 1
	assigned := false
	for k := last; k >= max(0, last-maxHead); k-- {
		kind := f.KindAt(k)
		if kind == scan.Punct {
			switch f.ByteAt(k) {
			case ')', ']':
				depth++
			case '(', '[':
				if depth--; depth < 0 {
					return scan.Other
				}
			case '{', '}', ';', '#':
				return scan.Other
			case '=':
				assigned = true
			}
		}
		if depth != 0 || kind != scan.Ident || !heads.Has(f.Word(k)) {
			continue
		}
		switch {
		case f.Is(k, "init"):
			return scan.Followed
		case !begins(f, k) || inDirective(f, k):
		case f.Is(k, "func"), f.Is(k, "var") && !assigned && !bindsIn(f, k) && !observes(f):
			return scan.Unread
		}
		return scan.Other
	}
	return scan.Other
}

// begins says whether a declaration begins with the keyword at a token, and what stands
// before that: modifiers and attributes, on a line of their own or behind another.
func begins(f *scan.File, i int) bool {
	for i > 0 && !f.TokenAt(i).Newline && modifierWords[f.Word(i-1)] {
		i--
	}
	return i == 0 || f.TokenAt(i).Newline || f.Is(i-1, "{") || f.Is(i-1, "}") || f.Is(i-1, ";") || f.Is(i-1, ")") || f.Is(i-2, "@")
}

// bindsIn says whether the var at a token binds in a condition: if var name { … }.
func bindsIn(f *scan.File, i int) bool {
	return f.Is(i-1, "if") || f.Is(i-1, "guard") || f.Is(i-1, "while") || f.Is(i-1, "case") || f.Is(i-1, ",")
}

// observes says whether a block of observers follows the brace that is the last token:
// they tell a stored property from a computed one.
func observes(f *scan.File) bool {
	rest := strings.TrimLeft(f.Src[f.TokenAt(f.Len()).End:], " \t\r\n")
	return strings.HasPrefix(rest, "didSet") || strings.HasPrefix(rest, "willSet") || strings.HasPrefix(rest, "@") || strings.HasPrefix(rest, "/")
}

// inDirective says whether a token stands on the line of a compiler directive, which has
// that line to its end.
func inDirective(f *scan.File, i int) bool {
	for ; i >= 0; i-- {
		if f.Is(i, "#") {
			return true
		}
		if f.TokenAt(i).Newline {
			return false
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
