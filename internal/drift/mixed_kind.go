package drift

import (
	"strings"

	"vetta/internal/shape"
)

var mixedValues = &Kind{
	Name:  "mixed-values",
	Level: Breaks,
	Title: "values of several kinds, which fail in several ways",
	Text: `The same field is sent as values of different kinds: a whole number here and one with
a fraction there, text or a number, an object or a list, null in some elements. The
finding shows how many are of each kind and what each of them throws.`,
	Examples: []Example{
		{"Swift", `struct Sailing: Decodable { let seats: Int }`, `{"seats": 40}
{"seats": null}
{"seats": "12"}`},
		{"Kotlin, Jackson", `data class Sailing(val seats: List<Int>)`, `{"seats": [40]}
{"seats": null}
{"seats": "many"}`},
	},
	Fix: `Declare what all of them have in common (an optional for null, Double for whole
numbers and fractions), and read the rest by hand, one kind after the other.`,
	suggest: func(f *Finding) Change {
		var parts []string
		null := false
		for _, c := range f.classes() {
			null = null || c.Kind == 0
		}
		if null {
			parts = append(parts, "make it optional for null")
		}
		kinds := map[string]bool{}
		fraction := "declare " + f.speech().types["Double"] + " for numbers with a fraction"
		for _, c := range f.classes() {
			switch {
			case c.Facts&(shape.Broken|shape.Beyond63) != 0:
				kinds[fraction] = true
			case c.Kind != 0:
				kinds["read the other kinds by hand, one after the other"] = true
			}
		}
		for _, k := range []string{fraction, "read the other kinds by hand, one after the other"} {
			if kinds[k] {
				parts = append(parts, k)
			}
		}
		if null && len(kinds) == 0 {
			return f.optional()
		}
		return say(strings.Join(parts, "; "))
	},
}
