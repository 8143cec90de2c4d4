package breaks

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// WrongMapKey is the kind wrong-map-key: a key that the map's key type cannot be made from.
var WrongMapKey = &finding.Kind{
	Name:  "wrong-map-key",
	Level: finding.Breaks,
	Title: "a key that the map's key type cannot be made from",
	Text: `The model declares a dictionary whose keys are not strings, and a key in the response
is none of that type.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Fares: Decodable { let byZone: [Int: Double] }`, Sent: `{"byZone": {"harbour": 2.5}}`},
		{In: "Java, Jackson", Code: `class Fares { public Map<Integer, Double> byZone; }`, Sent: `{"byZone": {"harbour": 2.5}}`},
	},
	Fix:   `Declare String keys and convert them where they are used.`,
	Takes: finding.Reason(decoder.ReasonKey),
	Suggest: func(*finding.Finding) finding.Change {
		return finding.Say("declare String keys and convert them where they are used")
	},
}
