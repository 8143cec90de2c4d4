package breaks

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// UnreadableText is the kind unreadable-text: text that the type cannot be made from.
var UnreadableText = &finding.Kind{
	Name:  "unreadable-text",
	Level: finding.Breaks,
	Title: "text that the type cannot be made from",
	Text: `A URL, UUID or base64 text that is none, or a string with half a surrogate pair.
An empty string is no URL.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Vessel: Decodable { let photo: URL? }`, Sent: `{"photo": ""}`},
		{In: "Kotlin, Gson", Code: `data class Vessel(val id: java.util.UUID)`, Sent: `{"id": "tern"}`},
		{In: "Java, Jackson", Code: `class Vessel { public java.util.UUID id; }`, Sent: `{"id": "tern"}`},
	},
	Fix: `Decode a String and make the URL, UUID or data from it where it is used, so that a
bad one is nothing rather than an error.`,
	Takes: finding.Reason(decoder.ReasonText),
	Suggest: func(f *finding.Finding) finding.Change {
		text := f.Speech().Types["String"]
		typ := f.AsBefore(text)
		if typ == "" {
			return finding.Say("declare " + text + " for its elements, and convert them where they are used")
		}
		return f.Redeclare(typ, "and convert it where it is used")
	},
}
