package breaks

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// RepeatedKey is the kind repeated-key: a key stands more than once in one object.
var RepeatedKey = &finding.Kind{
	Name:  "repeated-key",
	Level: finding.Breaks,
	Title: "a key that stands more than once in one object",
	Text: `An object in the response has a key twice, and the library refuses that where it is read into.
JSON leaves open what such an object means (RFC 8259 section 4): other libraries take one of the
values without a word, the last for the most part.`,
	Examples: []finding.Example{
		{In: "Kotlin, Gson", Code: `class Fares(val byZone: Map<String, Double>)`, Sent: `{"byZone": {"harbour": 2.5, "harbour": 3.0}}`},
	},
	Fix:   `Have each key sent once: what writes the response has a fault.`,
	Takes: finding.Reason(decoder.ReasonTwice),
	Suggest: func(*finding.Finding) finding.Change {
		return finding.Say("have each key sent once: what writes the response has a fault")
	},
}
