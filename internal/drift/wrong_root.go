package drift

import (
	"vetta/internal/decoder"
)

var wrongRoot = &Kind{
	Name:  "wrong-root",
	Level: Breaks,
	Title: "the response is of another kind than the type that is decoded",
	Text: `The code decodes a list and the response is an object, or the reverse, or the
response is null or a bare value. An envelope around the list is the usual reason.`,
	Examples: []Example{
		{"Swift", `struct Sailing: Decodable { let id: Int }
func sailings(_ data: Data) throws -> [Sailing] { try JSONDecoder().decode([Sailing].self, from: data) }`, `{"sailings": [{"id": 7}]}`},
		{"Kotlin, Gson", `data class Sailing(val id: Int)
fun sailings(text: String): Array<Sailing> = Gson().fromJson(text, Array<Sailing>::class.java)`, `{"sailings": [{"id": 7}]}`},
	},
	Fix: `Decode a type that has the envelope's keys, and take the list from it.`,
	takes: func(ev *event) bool {
		return ev.field == nil && ev.model == nil && reason(decoder.ReasonKind, decoder.ReasonNull)(ev)
	},
	suggest: func(f *Finding) Change {
		return say("decode a type that has the response's own keys, or the list alone where that is what is sent")
	},
}
