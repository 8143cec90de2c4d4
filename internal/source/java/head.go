package java

import "vetta/internal/source/scan"

// notMethods are words before a name with parameters that make it no method: a
// statement, an instance of an anonymous class, or a record.
var notMethods = scan.NewWords("new record else return throw assert case if for while switch catch synchronized try do class enum interface public protected private")

// isMethod says whether tokens that end with a brace end with the head of a method: a
// type, a name, parameters, and perhaps what it throws (JLS 8.4). Constructors are none:
// what they assign is read.
func isMethod(tokens []scan.Token) bool {
	k := len(tokens) - 2
	for k > 0 && (tokens[k].Kind == scan.Ident || tokens[k].Is(",") || tokens[k].Is(".")) { // throws A, b.C
		k--
	}
	if k < 3 || !tokens[k].Is(")") || k < len(tokens)-2 && !tokens[k+1].Is("throws") {
		return false
	}
	for depth := 0; ; k-- {
		if k < 3 {
			return false
		}
		if t := &tokens[k]; t.Kind == scan.Punct {
			switch t.Text[0] {
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
	name, before := &tokens[k-1], &tokens[k-2]
	if name.Kind != scan.Ident || notMethods.Has(name.Text) {
		return false
	}
	if before.Kind == scan.Ident {
		return !notMethods.Has(before.Text) && !tokens[k-3].Is("@") && !tokens[k-3].Is("new") && !tokens[k-3].Is(".")
	}
	return before.Is(">") || before.Is("]")
}
