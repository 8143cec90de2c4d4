package kotlin

import "vetta/internal/source/scan"

// maxHead is how many tokens of a function's head are looked at.
const maxHead = 200

// heads are the words that declarations begin with.
var heads = scan.NewWords("fun class interface object init constructor val var typealias")

func opens(f *scan.File) scan.Body {
	if isFunction(f) {
		return scan.Unread
	}
	return scan.Other
}

// isFunction says whether the tokens before a brace, the last one, are the head of a function
// with a name: fun name(…): Type.
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
			case '=':
				if depth == 0 {
					return false
				}
			}
		}
		if depth == 0 && kind == scan.Ident && heads.Has(f.Word(k)) {
			return f.Is(k, "fun") && (f.KindAt(k+1) == scan.Ident && !f.Is(k+1, "interface") || f.Is(k+1, "<"))
		}
	}
	return false
}
