package drift

import (
	"vetta/internal/decoder"
)

var unknownConstant = &Kind{
	Name:  "unknown-constant",
	Level: Breaks,
	Title: "a value that the enum does not have",
	Text: `The value is of the right kind, but no constant of the enum has it. Decoding throws,
also where the field is optional: null is no stand-in for an unknown value.`,
	Examples: []Example{
		{"Swift", `struct Sailing: Decodable { let status: Status }
enum Status: String, Decodable { case open, full }`, `{"status": "boarding"}`},
		{"Java, Jackson", `class Sailing { public Status status; }
enum Status { OPEN, FULL }`, `{"status": "BOARDING"}`},
	},
	Fix: `Add the constant, and a fallback for those still to come: in Swift an init(from:) of
the enum that decodes the raw value and takes a case such as unknown where none fits,
with Jackson a constant marked @JsonEnumDefaultValue.`,
	takes: reason(decoder.ReasonConstant),
	suggest: func(f *Finding) Change {
		literal := f.literal()
		if literal == "" {
			return say("give the enum a fallback for values it does not know")
		}
		return Change{f.speech().constant(literal, f.Library), "in the enum; and " + f.speech().fallback}
	},
}
