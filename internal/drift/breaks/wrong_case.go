package breaks

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// WrongCase is the kind wrong-case: an object that does not name one case of the enum.
var WrongCase = &finding.Kind{
	Name:  "wrong-case",
	Level: finding.Breaks,
	Title: "an object that does not name one case of the enum",
	Text: `An enum with associated values is read from an object with one key, which names the
case. An object with no known key, or with two, makes decoding throw.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Notice: Decodable { let body: Body }
enum Body: Decodable { case text(String), delay(minutes: Int) }`, Sent: `{"body": {"cancelled": {}}}`},
	},
	Fix:   `Add the case, or read the object by hand with a fallback.`,
	Takes: finding.Reason(decoder.ReasonCases),
	Suggest: func(*finding.Finding) finding.Change {
		return finding.Say("add the case that is sent, or read the object by hand with a fallback")
	},
}
