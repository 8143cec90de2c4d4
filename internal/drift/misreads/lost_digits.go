package misreads

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// LostDigits is the kind lost-digits: digits beyond what the type holds.
var LostDigits = &finding.Kind{
	Name:  "lost-digits",
	Level: finding.Misreads,
	Title: "digits beyond what the type holds",
	Text: `The number is decoded, but the type has fewer digits than were sent: an id beyond
2^53 in a Double, an amount in a Float.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Pass: Decodable { let id: Double }`, Sent: `{"id": 9007199254740993}`},
		{In: "Kotlin, Gson", Code: `data class Pass(val price: Float)`, Sent: `{"price": 16777217}`},
		{In: "Java, Jackson", Code: `class Pass { public float price; }`, Sent: `{"price": 16777217}`},
	},
	Fix:   `Declare Int64 for ids, Decimal for money, Double in place of Float.`,
	Takes: finding.Loss(decoder.LostDigits),
	Suggest: func(f *finding.Finding) finding.Change {
		return finding.Say("declare a type that holds all digits: " + f.Speech().Types["Int"] + ", " + f.Speech().Types["Double"] + " or " + f.Speech().Exact)
	},
}
