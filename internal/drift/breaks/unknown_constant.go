package breaks

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// UnknownConstant is the kind unknown-constant: a value that the enum does not have.
var UnknownConstant = &finding.Kind{
	Name:  "unknown-constant",
	Level: finding.Breaks,
	Title: "a value that the enum does not have",
	Text: `The value is of the right kind, but no constant of the enum has it. Decoding throws,
also where the field is optional: null is no stand-in for an unknown value.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Sailing: Decodable { let status: Status }
enum Status: String, Decodable { case open, full }`, Sent: `{"status": "boarding"}`},
		{In: "Java, Jackson", Code: `class Sailing { public Status status; }
enum Status { OPEN, FULL }`, Sent: `{"status": "BOARDING"}`},
		{In: "TypeScript", Code: `interface Sailing { status: 'open' | 'full' }`, Sent: `{"status": "boarding"}`},
	},
	Fix: `Add the constant, and a fallback for those still to come: in Swift an init(from:) of
the enum that decodes the raw value and takes a case such as unknown where none fits,
with Jackson a constant marked @JsonEnumDefaultValue.`,
	Takes: finding.Reason(decoder.ReasonConstant),
	Suggest: func(f *finding.Finding) finding.Change {
		literal := f.Literal()
		if literal == "" {
			return finding.Say("give the enum a fallback for values it does not know")
		}
		return finding.Change{Code: f.Speech().Constant(literal, f.Library), Why: "in the enum; and " + f.Speech().Fallback}
	},
}
