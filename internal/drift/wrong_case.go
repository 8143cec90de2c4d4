package drift

import (
	"vetta/internal/decoder"
)

var wrongCase = &Kind{
	Name:  "wrong-case",
	Level: Breaks,
	Title: "an object that does not name one case of the enum",
	Text: `An enum with associated values is read from an object with one key, which names the
case. An object with no known key, or with two, makes decoding throw.`,
	Examples: []Example{
		{"Swift", `struct Notice: Decodable { let body: Body }
enum Body: Decodable { case text(String), delay(minutes: Int) }`, `{"body": {"cancelled": {}}}`},
	},
	Fix:   `Add the case, or read the object by hand with a fallback.`,
	takes: reason(decoder.ReasonCases),
	suggest: func(*Finding) Change {
		return say("add the case that is sent, or read the object by hand with a fallback")
	},
}
