package breaks

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// NullValue is the kind null-value: null where a value is declared.
var NullValue = &finding.Kind{
	Name:  "null-value",
	Level: finding.Breaks,
	Title: "null where a value is declared",
	Text: `The key is there and its value is null, but the declared type does not admit
nothing at that level: the field itself, an element of its list, a value of its map.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Sailing: Decodable { let stops: [String] }`, Sent: `{"stops": ["SAL", null]}`},
		{In: "Kotlin, Jackson", Code: `data class Sailing(val id: Int, val vessel: String)`, Sent: `{"id": 7, "vessel": null}`},
		{In: "Kotlin, org.json", Code: `class Sailing(o: JSONObject) { val seats = o.getInt("seats") }`, Sent: `{"seats": null}`},
		{In: "TypeScript", Code: `interface Sailing { gate: string }`, Sent: `{"gate": null}`},
		{In: "C#, System.Text.Json", Code: `public class Sailing { public int Seats { get; set; } }`, Sent: `{"Seats": null}`},
	},
	Fix: `Declare the level that is null as optional: String? for the field, [String?] for
an element, [String]? for the list. In Java, a class in place of a primitive.`,
	Takes: finding.Reason(decoder.ReasonNull),
	Suggest: func(f *finding.Finding) finding.Change {
		if f.Element {
			if typ := f.Speech().NullableElement(f.Declared); typ != "" {
				return f.Redeclare(typ, "an element is null")
			}
			return finding.Say("admit null inside it: an optional element type in " + f.Declared)
		}
		return f.Optional()
	},
}
