package kotlin

import "vetta/internal/source/scan"

// maxHead is how many tokens of a function's head are looked at.
const maxHead = 200

// heads are the words that declarations begin with.
var heads = scan.NewWords("fun class interface object init constructor val var typealias")

// isFunction says whether tokens that end with a brace end with the head of a function
// with a name: fun name(…): Type.
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
			case '=':
				if depth == 0 {
					return false
				}
			}
		}
		if depth == 0 && t.Kind == scan.Ident && !t.Quoted && heads.Has(t.Text) {
			return t.Text == "fun" && (tokens[k+1].Kind == scan.Ident && !tokens[k+1].Is("interface") || tokens[k+1].Is("<"))
		}
	}
	return false
}
