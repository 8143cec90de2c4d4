package breaks

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// RefusedValue is the kind refused-value: a value that a rule of the schema refuses.
var RefusedValue = &finding.Kind{
	Name:  "refused-value",
	Level: finding.Breaks,
	Title: "a value that a rule of the schema refuses",
	Text: `The value is of the kind that is declared, and a rule leaves it out: a bound, a length,
a pattern, the form of a date or an address, a test of the app's own.`,
	Examples: []finding.Example{
		{In: "TypeScript, zod", Code: `const Booking = z.object({ seats: z.number().min(1) })`, Sent: `{"seats": 0}`},
	},
	Fix:   `Loosen the rule where what is sent is right; else ask for the API to be mended.`,
	Takes: finding.Reason(decoder.ReasonRule),
	Suggest: func(*finding.Finding) finding.Change {
		return finding.Say("loosen the rule where what is sent is right")
	},
}
