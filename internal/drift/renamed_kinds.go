package drift

var renamedKey = &Kind{
	Name:  "renamed-key",
	Level: Breaks,
	Title: "sent under another key",
	Text:  renamedText + "\nThe field must be there, so decoding throws.",
	Examples: []Example{
		{"Swift", `struct Sailing: Decodable { let id: Int; let departsAt: String }`, `{"id": 7, "departs_at": "09:30"}`},
		{"Kotlin, Jackson", `data class Sailing(val id: Int, val departsAt: String)`, `{"id": 7, "departs_at": "09:30"}`},
	},
	Fix: `Read the new key: rename the field or add it to CodingKeys. While both are sent, try
one and then the other in an init(from:).`,
	suggest: suggestRename,
}

var renamedSilently = &Kind{
	Name:  "renamed-optional",
	Level: Misreads,
	Title: "sent under another key: the app sees nothing",
	Text:  renamedText + "\nNothing throws: the field is empty, or holds 0 or a default, and the value is lost.",
	Examples: []Example{
		{"Swift", `struct Vessel: Decodable { let name: String; let imageURL: String? }`, `{"name": "Tern", "image_url": "/tern.jpg"}`},
		{"Kotlin, Gson", `data class Vessel(val name: String, val imageUrl: String?)`, `{"name": "Tern", "image_url": "/tern.jpg"}`},
		{"Java, Gson", `class Vessel { String name; String imageUrl; }`, `{"name": "Tern", "image_url": "/tern.jpg"}`},
	},
	Fix:     `Read the new key: rename the field or add it to CodingKeys.`,
	suggest: suggestRename,
}

const renamedText = `The key that the model reads is absent where another key is sent that the model does
not read, at the same place, of a like name and with values that the field takes. The
two never come together. Either the API has renamed the key, or the model has it
misspelt: if no response has the model's key, both are possible.`

func suggestRename(f *Finding) Change {
	s := f.speech()
	if f.never() {
		return Change{s.rename(f.Name, f.given), s.renamed}
	}
	return Change{s.renameBoth(f.Name, f.given, f.key()), s.renamed}
}
