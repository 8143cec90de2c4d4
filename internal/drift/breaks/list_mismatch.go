package breaks

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/wire"
)

// ListMismatch is the kind list-mismatch: a list where one value is declared, or the reverse.
var ListMismatch = &finding.Kind{
	Name:  "list-mismatch",
	Level: finding.Breaks,
	Title: "a list where one value is declared, or the reverse",
	Text: `An array is sent where the model declares a single object or value, or a single
one where it declares a list. Some APIs send one element without its array.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Sailing: Decodable { let notices: [String] }`, Sent: `{"notices": "Low tide"}`},
		{In: "Kotlin, Gson", Code: `data class Sailing(val notices: List<String>)`, Sent: `{"notices": "Low tide"}`},
		{In: "Java, Jackson", Code: `class Sailing { public List<String> notices; }`, Sent: `{"notices": "Low tide"}`},
		{In: "TypeScript", Code: `interface Sailing { notices: string[] }`, Sent: `{"notices": ["Low tide"]}
{"notices": "Low tide"}`},
	},
	Fix: `Declare what is sent. Where both come, read the field by hand: try the list, then
the single value and put it into a list.`,
	Takes: func(ev *finding.Event) bool {
		if !finding.Reason(decoder.ReasonKind)(ev) || ev.Field == nil {
			return false
		}
		return ev.Class.Kind == wire.Array || ev.List
	},
	Suggest: func(f *finding.Finding) finding.Change {
		for _, s := range f.Sites {
			if s.Values < s.Of {
				return finding.Say("both come: " + f.Speech().Single)
			}
		}
		if len(f.Classes()) > 0 && f.Classes()[0].Kind == wire.Array {
			return f.Redeclare(f.Speech().List(f.Declared), "a list")
		}
		if elem := f.Speech().Element(f.Declared); elem != "" {
			return f.Redeclare(elem, "one value")
		}
		return finding.Say("declare a single value in place of " + f.Declared)
	},
}
