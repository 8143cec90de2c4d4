package java

import "vetta/internal/source/scan"

// notMethods are words before a name with parameters that make it no method: a
// statement, an instance of an anonymous class, or a record.
var notMethods = scan.NewWords("new record else return throw assert case if for while switch catch synchronized try do class enum interface public protected private")

func opens(f *scan.File) scan.Body {
	if isMethod(f) {
		return scan.Unread
	}
	return scan.Other
}

// isMethod says whether the tokens before a brace, the last one, are the head of a method:
// a type, a name, parameters, and perhaps what it throws (JLS 8.4). Constructors are none:
// what they assign is read.
func isMethod(f *scan.File) bool {
	last := f.Len() - 1
	k := last
	for k > 0 && (f.KindAt(k) == scan.Ident || f.Is(k, ",") || f.Is(k, ".")) { // throws A, b.C
		k--
	}
	if !f.Is(k, ")") || k < last && !f.Is(k+1, "throws") {
		return false
	}
	for depth := 0; ; k-- {
		if k < 3 {
			return false
		}
		if f.KindAt(k) == scan.Punct {
			switch f.ByteAt(k) {
			case ')':
				depth++
			case '(':
				depth--
			case ';', '{', '}':
				return false
			}
		}
		if depth == 0 {
			break
		}
	}
	if f.KindAt(k-1) != scan.Ident || notMethods.Has(f.Word(k-1)) {
		return false
	}
	if f.KindAt(k-2) == scan.Ident {
		return !notMethods.Has(f.Word(k-2)) && !f.Is(k-3, "@") && !f.Is(k-3, "new") && !f.Is(k-3, ".")
	}
	return f.Is(k-2, ">") || f.Is(k-2, "]")
}
