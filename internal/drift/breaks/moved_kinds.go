package breaks

import (
	"fmt"

	"vetta/internal/drift/finding"
)

// MovedKey is the kind moved-key: sent at another level.
var MovedKey = &finding.Kind{
	Name:  "moved-key",
	Level: finding.Breaks,
	Title: "sent at another level",
	Text:  movedText + "\nThe field must be there, so decoding throws.",
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Sailing: Decodable { let id: Int; let gate: String }`, Sent: `{"id": 7, "boarding": {"gate": "A4"}}`},
		{In: "Kotlin, Jackson", Code: `data class Sailing(val id: Int, val gate: String)`, Sent: `{"id": 7, "boarding": {"gate": "A4"}}`},
	},
	Fix:     `Mirror the new nesting in the model, or read the key through a nested container.`,
	Suggest: suggestMove,
}

// MovedSilently is the kind moved-optional: sent at another level: the app sees nothing.
var MovedSilently = &finding.Kind{
	Name:  "moved-optional",
	Level: finding.Misreads,
	Title: "sent at another level: the app sees nothing",
	Text:  movedText + "\nThe field is optional, so nothing throws: it is nil, and the value is lost.",
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Sailing: Decodable { let id: Int; let gate: String? }`, Sent: `{"id": 7, "boarding": {"gate": "A4"}}`},
		{In: "Kotlin, Gson", Code: `data class Sailing(val id: Int, val gate: String?)`, Sent: `{"id": 7, "boarding": {"gate": "A4"}}`},
	},
	Fix:     `Mirror the new nesting in the model, or read the key through a nested container.`,
	Suggest: suggestMove,
}

const movedText = `The key that the model reads is absent from its object, and a key of the same name,
with values that the field takes, is sent one level further out or further in, where
the model does not read it: the API has put it into an envelope, or taken it out.`

func suggestMove(f *finding.Finding) finding.Change {
	return finding.Say(fmt.Sprintf("read it from %s: %s", f.Rename, f.Speech().Nested))
}
