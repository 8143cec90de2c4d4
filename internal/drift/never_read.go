package drift

import (
	"vetta/internal/decoder"
)

var neverRead = &Kind{
	Name:  "never-read",
	Level: Misreads,
	Title: "the field keeps its own value: what is sent is never read",
	Text: `The API sends a key of the field's name, but the library does not read the field: it
is a constant with a value of its own, CodingKeys leave it out, it is lazy, or a
subclass inherits an init(from:) that does not know it.`,
	Examples: []Example{
		{"Swift", `class Express: Boat { var knots = 7 }
class Boat: Codable { var id = 0 }`, `{"id": 3, "knots": 30}`},
		{"Kotlin, Gson", `class Boat {
    val id = 0
    @Transient val knots = 7
}`, `{"id": 3, "knots": 30}`},
	},
	Fix: `Make the constant a variable, add the field to CodingKeys, or write the subclass an
init(from:) of its own. If the field is not meant to be decoded, nothing is lost but
the key: accept the finding.`,
	takes: loss(decoder.NeverRead),
	suggest: func(f *Finding) Change {
		if f.Field != nil && f.Field.Why != "" {
			return say("it is not read because " + f.Field.Why)
		}
		return say("let it be decoded, or rename it")
	},
}
