package breaks

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// WrongRoot is the kind wrong-root: the response is of another kind than the type that is decoded.
var WrongRoot = &finding.Kind{
	Name:  "wrong-root",
	Level: finding.Breaks,
	Title: "the response is of another kind than the type that is decoded",
	Text: `The code decodes a list and the response is an object, or the reverse, or the
response is null or a bare value. An envelope around the list is the usual reason.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Sailing: Decodable { let id: Int }
func sailings(_ data: Data) throws -> [Sailing] { try JSONDecoder().decode([Sailing].self, from: data) }`, Sent: `{"sailings": [{"id": 7}]}`},
		{In: "Kotlin, Gson", Code: `data class Sailing(val id: Int)
fun sailings(text: String): Array<Sailing> = Gson().fromJson(text, Array<Sailing>::class.java)`, Sent: `{"sailings": [{"id": 7}]}`},
	},
	Fix: `Decode a type that has the envelope's keys, and take the list from it.`,
	Takes: func(ev *finding.Event) bool {
		return ev.Field == nil && ev.Model == nil && finding.Reason(decoder.ReasonKind, decoder.ReasonNull)(ev)
	},
	Suggest: func(f *finding.Finding) finding.Change {
		return finding.Say("decode a type that has the response's own keys, or the list alone where that is what is sent")
	},
}
