package drift

import (
	"vetta/internal/decoder"
)

var nullValue = &Kind{
	Name:  "null-value",
	Level: Breaks,
	Title: "null where a value is declared",
	Text: `The key is there and its value is null, but the declared type does not admit
nothing at that level: the field itself, an element of its list, a value of its map.`,
	Examples: []Example{
		{"Swift", `struct Sailing: Decodable { let stops: [String] }`, `{"stops": ["SAL", null]}`},
		{"Kotlin, Jackson", `data class Sailing(val id: Int, val vessel: String)`, `{"id": 7, "vessel": null}`},
		{"Kotlin, org.json", `class Sailing(o: JSONObject) { val seats = o.getInt("seats") }`, `{"seats": null}`},
	},
	Fix: `Declare the level that is null as optional: String? for the field, [String?] for
an element, [String]? for the list. In Java, a class in place of a primitive.`,
	takes: reason(decoder.ReasonNull),
	suggest: func(f *Finding) Change {
		if f.Element {
			if typ := f.speech().nullableElement(f.Declared); typ != "" {
				return f.redeclare(typ, "an element is null")
			}
			return say("admit null inside it: an optional element type in " + f.Declared)
		}
		return f.optional()
	},
}
