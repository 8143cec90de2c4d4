package misreads

import (
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// HiddenNull is the kind hidden-null: null in a property that says it is never null.
var HiddenNull = &finding.Kind{
	Name:  "hidden-null",
	Level: finding.Misreads,
	Title: "null in a property that says it is never null",
	Text: `The library fills properties by reflection, past Kotlin's checks. Where the key is absent
or null, or an element is, a property that is declared without ? holds null all the same.
Nothing happens while decoding; the app crashes later, somewhere else, at the first use.`,
	Examples: []finding.Example{
		{In: "Kotlin, Gson", Code: `data class Sailing(val id: Int, val vessel: String)`, Sent: `{"id": 7}`},
		{In: "Kotlin, Jackson", Code: `data class Sailing(val id: Int, val stops: List<String>)`, Sent: `{"id": 7, "stops": ["SAL", null]}`},
		{In: "C#, System.Text.Json", Code: `#nullable enable
public class Port { public string Name { get; set; } = ""; }`, Sent: `{"Name": null}`},
	},
	Fix: `Declare the type with ? and handle null where it is used; or give every parameter of the
constructor a default, which then holds where the key is absent (an explicit null still
gets through).`,
	Takes: finding.Loss(decoder.HiddenNull),
	Suggest: func(f *finding.Finding) finding.Change {
		if typ := nullableElement(f.Declared); f.Element && typ != "" {
			return f.Redeclare(typ, "null gets in there and crashes later, somewhere else")
		}
		return f.Redeclare(finding.QuestionMark(f.Declared), "null gets in here and crashes later, somewhere else")
	},
}

// nullableElement is a type of Kotlin whose elements also admit null, of one that has a single
// level of type arguments; nothing of any other.
func nullableElement(declared string) string {
	elem, list := strings.CutSuffix(declared, ">")
	if !list || strings.Count(declared, "<") != 1 || strings.HasSuffix(elem, "?") {
		return ""
	}
	return elem + "?>"
}
