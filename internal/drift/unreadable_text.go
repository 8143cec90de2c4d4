package drift

import (
	"vetta/internal/decoder"
)

var unreadableText = &Kind{
	Name:  "unreadable-text",
	Level: Breaks,
	Title: "text that the type cannot be made from",
	Text: `A URL, UUID or base64 text that is none, or a string with half a surrogate pair.
An empty string is no URL.`,
	Examples: []Example{
		{"Swift", `struct Vessel: Decodable { let photo: URL? }`, `{"photo": ""}`},
		{"Kotlin, Gson", `data class Vessel(val id: java.util.UUID)`, `{"id": "tern"}`},
		{"Java, Jackson", `class Vessel { public java.util.UUID id; }`, `{"id": "tern"}`},
	},
	Fix: `Decode a String and make the URL, UUID or data from it where it is used, so that a
bad one is nothing rather than an error.`,
	takes: reason(decoder.ReasonText),
	suggest: func(f *Finding) Change {
		return f.redeclare(f.asBefore("String"), "and convert it where it is used")
	},
}
