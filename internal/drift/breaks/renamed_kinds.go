package breaks

import (
	"vetta/internal/drift/finding"
)

// RenamedKey is the kind renamed-key: sent under another key.
var RenamedKey = &finding.Kind{
	Name:  "renamed-key",
	Level: finding.Breaks,
	Title: "sent under another key",
	Text:  renamedText + "\nThe field must be there, so decoding throws.",
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Sailing: Decodable { let id: Int; let departsAt: String }`, Sent: `{"id": 7, "departs_at": "09:30"}`},
		{In: "Kotlin, Jackson", Code: `data class Sailing(val id: Int, val departsAt: String)`, Sent: `{"id": 7, "departs_at": "09:30"}`},
	},
	Fix: `Read the new key: rename the field or add it to CodingKeys. While both are sent, try
one and then the other in an init(from:).`,
	Suggest: suggestRename,
}

// RenamedSilently is the kind renamed-optional: sent under another key: the app sees nothing.
var RenamedSilently = &finding.Kind{
	Name:  "renamed-optional",
	Level: finding.Misreads,
	Title: "sent under another key: the app sees nothing",
	Text:  renamedText + "\nNothing throws: the field is empty, or holds 0 or a default, and the value is lost.",
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Vessel: Decodable { let name: String; let imageURL: String? }`, Sent: `{"name": "Tern", "image_url": "/tern.jpg"}`},
		{In: "Kotlin, Gson", Code: `data class Vessel(val name: String, val imageUrl: String?)`, Sent: `{"name": "Tern", "image_url": "/tern.jpg"}`},
		{In: "Java, Gson", Code: `class Vessel { String name; String imageUrl; }`, Sent: `{"name": "Tern", "image_url": "/tern.jpg"}`},
	},
	Fix:     `Read the new key: rename the field or add it to CodingKeys.`,
	Suggest: suggestRename,
}

const renamedText = `The key that the model reads is absent where another key is sent that the model does
not read, at the same place, of a like name and with values that the field takes. The
two never come together. Either the API has renamed the key, or the model has it
misspelt: if no response has the model's key, both are possible.`

func suggestRename(f *finding.Finding) finding.Change {
	s := f.Speech()
	if f.Never() {
		return finding.Change{Code: s.Rename(f.Name, f.Given), Why: s.Renamed}
	}
	return finding.Change{Code: s.RenameBoth(f.Name, f.Given, f.Key()), Why: s.Renamed}
}
