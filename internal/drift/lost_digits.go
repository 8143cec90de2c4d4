package drift

import (
	"vetta/internal/decoder"
)

var lostDigits = &Kind{
	Name:  "lost-digits",
	Level: Misreads,
	Title: "digits beyond what the type holds",
	Text: `The number is decoded, but the type has fewer digits than were sent: an id beyond
2^53 in a Double, an amount in a Float.`,
	Examples: []Example{
		{"Swift", `struct Pass: Decodable { let id: Double }`, `{"id": 9007199254740993}`},
		{"Kotlin, Gson", `data class Pass(val price: Float)`, `{"price": 16777217}`},
		{"Java, Jackson", `class Pass { public float price; }`, `{"price": 16777217}`},
	},
	Fix:   `Declare Int64 for ids, Decimal for money, Double in place of Float.`,
	takes: loss(decoder.LostDigits),
	suggest: func(f *Finding) Change {
		return say("declare a type that holds all digits: " + f.speech().types["Int"] + ", " + f.speech().types["Double"] + " or " + f.speech().exact)
	},
}
