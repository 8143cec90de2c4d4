// Package misreads has the kinds of findings with which the app sees another value than was sent, one file
// each.
package misreads

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// NeverRead is the kind never-read: the field keeps its own value: what is sent is never read.
var NeverRead = &finding.Kind{
	Name:  "never-read",
	Level: finding.Misreads,
	Title: "the field keeps its own value: what is sent is never read",
	Text: `The API sends a key of the field's name, but the library does not read the field: it
is a constant with a value of its own, CodingKeys leave it out, it is lazy, or a
subclass inherits an init(from:) that does not know it.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `class Express: Boat { var knots = 7 }
class Boat: Codable { var id = 0 }`, Sent: `{"id": 3, "knots": 30}`},
		{In: "Kotlin, Gson", Code: `class Boat {
    val id = 0
    @Transient val knots = 7
}`, Sent: `{"id": 3, "knots": 30}`},
	},
	Fix: `Make the constant a variable, add the field to CodingKeys, or write the subclass an
init(from:) of its own. If the field is not meant to be decoded, nothing is lost but
the key: accept the finding.`,
	Takes: finding.Loss(decoder.NeverRead),
	Suggest: func(f *finding.Finding) finding.Change {
		if f.Field != nil && f.Field.Why != "" {
			return finding.Say("it is not read because " + f.Field.Why)
		}
		return finding.Say("let it be decoded, or rename it")
	},
}
