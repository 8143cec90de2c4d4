package drift

import (
	"fmt"
)

var movedKey = &Kind{
	Name:  "moved-key",
	Level: Breaks,
	Title: "sent at another level",
	Text:  movedText + "\nThe field must be there, so decoding throws.",
	Examples: []Example{
		{"Swift", `struct Sailing: Decodable { let id: Int; let gate: String }`, `{"id": 7, "boarding": {"gate": "A4"}}`},
		{"Kotlin, Jackson", `data class Sailing(val id: Int, val gate: String)`, `{"id": 7, "boarding": {"gate": "A4"}}`},
	},
	Fix:     `Mirror the new nesting in the model, or read the key through a nested container.`,
	suggest: suggestMove,
}

var movedSilently = &Kind{
	Name:  "moved-optional",
	Level: Misreads,
	Title: "sent at another level: the app sees nothing",
	Text:  movedText + "\nThe field is optional, so nothing throws: it is nil, and the value is lost.",
	Examples: []Example{
		{"Swift", `struct Sailing: Decodable { let id: Int; let gate: String? }`, `{"id": 7, "boarding": {"gate": "A4"}}`},
		{"Kotlin, Gson", `data class Sailing(val id: Int, val gate: String?)`, `{"id": 7, "boarding": {"gate": "A4"}}`},
	},
	Fix:     `Mirror the new nesting in the model, or read the key through a nested container.`,
	suggest: suggestMove,
}

const movedText = `The key that the model reads is absent from its object, and a key of the same name,
with values that the field takes, is sent one level further out or further in, where
the model does not read it: the API has put it into an envelope, or taken it out.`

func suggestMove(f *Finding) Change {
	return say(fmt.Sprintf("read it from %s: %s", f.Rename, f.speech().nested))
}
