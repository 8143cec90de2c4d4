package drift

import (
	"vetta/internal/decoder"
)

var unreadableDate = &Kind{
	Name:  "unreadable-date",
	Level: Breaks,
	Title: "text that is no date in the form that the decoder expects",
	Text: `All dates of a decoder are read by one strategy. A date in another form, an empty
string among them, makes decoding throw.`,
	Examples: []Example{
		{"Swift", `struct Sailing: Decodable { let departs: Date }
func sailing(_ data: Data) throws -> Sailing {
    let decoder = JSONDecoder()
    decoder.dateDecodingStrategy = .iso8601
    return try decoder.decode(Sailing.self, from: data)
}`, `{"departs": "2026-03-01 09:30"}`},
		{"Kotlin, Gson", `data class Sailing(val departs: java.util.Date)`, `{"departs": "half past nine"}`},
		{"Java, Jackson", `class Sailing { public java.util.Date departs; }`, `{"departs": "half past nine"}`},
	},
	Fix: `Set the strategy or the format of the decoder to the form that is sent; where several
forms come, decode a String and parse it, or try one form after the other in code.`,
	takes:   reason(decoder.ReasonDate),
	suggest: func(f *Finding) Change { return say(f.speech().dates) },
}
