package drift

import (
	"vetta/internal/decoder"
	"vetta/internal/wire"
)

var listMismatch = &Kind{
	Name:  "list-mismatch",
	Level: Breaks,
	Title: "a list where one value is declared, or the reverse",
	Text: `An array is sent where the model declares a single object or value, or a single
one where it declares a list. Some APIs send one element without its array.`,
	Examples: []Example{
		{"Swift", `struct Sailing: Decodable { let notices: [String] }`, `{"notices": "Low tide"}`},
		{"Kotlin, Gson", `data class Sailing(val notices: List<String>)`, `{"notices": "Low tide"}`},
		{"Java, Jackson", `class Sailing { public List<String> notices; }`, `{"notices": "Low tide"}`},
	},
	Fix: `Declare what is sent. Where both come, read the field by hand: try the list, then
the single value and put it into a list.`,
	takes: func(ev *event) bool {
		if !reason(decoder.ReasonKind)(ev) || ev.field == nil {
			return false
		}
		return ev.class.Kind == wire.Array || ev.list
	},
	suggest: func(f *Finding) Change {
		for _, s := range f.Sites {
			if s.Values < s.Of {
				return say("both come: " + f.speech().single)
			}
		}
		if len(f.classes()) > 0 && f.classes()[0].Kind == wire.Array {
			return f.redeclare(f.speech().list(f.Declared), "a list")
		}
		if elem := f.speech().element(f.Declared); elem != "" {
			return f.redeclare(elem, "one value")
		}
		return say("declare a single value in place of " + f.Declared)
	},
}
