package misreads

import (
	"strings"

	"vetta/internal/drift/finding"
	"vetta/internal/shape"
)

// MixedValues is the kind mixed-values: values of several kinds, which fail in several ways.
var MixedValues = &finding.Kind{
	Name:  "mixed-values",
	Level: finding.Breaks,
	Title: "values of several kinds, which fail in several ways",
	Text: `The same field is sent as values of different kinds: a whole number here and one with
a fraction there, text or a number, an object or a list, null in some elements. The
finding shows how many are of each kind and what each of them throws.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Sailing: Decodable { let seats: Int }`, Sent: `{"seats": 40}
{"seats": null}
{"seats": "12"}`},
		{In: "Kotlin, Jackson", Code: `data class Sailing(val seats: List<Int>)`, Sent: `{"seats": [40]}
{"seats": null}
{"seats": "many"}`},
	},
	Fix: `Declare what all of them have in common (an optional for null, Double for whole
numbers and fractions), and read the rest by hand, one kind after the other.`,
	Suggest: func(f *finding.Finding) finding.Change {
		var parts []string
		null := false
		for _, c := range f.Classes() {
			null = null || c.Kind == 0
		}
		if null {
			parts = append(parts, "make it optional for null")
		}
		kinds := map[string]bool{}
		fraction := "declare " + f.Speech().Types["Double"] + " for numbers with a fraction"
		for _, c := range f.Classes() {
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
			return f.Optional()
		}
		return finding.Say(strings.Join(parts, "; "))
	},
}
