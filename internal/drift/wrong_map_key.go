package drift

import (
	"vetta/internal/decoder"
)

var wrongMapKey = &Kind{
	Name:  "wrong-map-key",
	Level: Breaks,
	Title: "a key that the map's key type cannot be made from",
	Text: `The model declares a dictionary whose keys are not strings, and a key in the response
is none of that type.`,
	Examples: []Example{
		{"Swift", `struct Fares: Decodable { let byZone: [Int: Double] }`, `{"byZone": {"harbour": 2.5}}`},
		{"Java, Jackson", `class Fares { public Map<Integer, Double> byZone; }`, `{"byZone": {"harbour": 2.5}}`},
	},
	Fix:     `Declare String keys and convert them where they are used.`,
	takes:   reason(decoder.ReasonKey),
	suggest: func(*Finding) Change { return say("declare String keys and convert them where they are used") },
}
