package breaks

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// UnreadableDate is the kind unreadable-date: text that is no date in the form that the decoder expects.
var UnreadableDate = &finding.Kind{
	Name:  "unreadable-date",
	Level: finding.Breaks,
	Title: "text that is no date in the form that the decoder expects",
	Text: `All dates of a decoder are read by one strategy. A date in another form, an empty
string among them, makes decoding throw.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Sailing: Decodable { let departs: Date }
func sailing(_ data: Data) throws -> Sailing {
    let decoder = JSONDecoder()
    decoder.dateDecodingStrategy = .iso8601
    return try decoder.decode(Sailing.self, from: data)
}`, Sent: `{"departs": "2026-03-01 09:30"}`},
		{In: "Kotlin, Gson", Code: `data class Sailing(val departs: java.util.Date)`, Sent: `{"departs": "half past nine"}`},
		{In: "Java, Jackson", Code: `class Sailing { public java.util.Date departs; }`, Sent: `{"departs": "half past nine"}`},
	},
	Fix: `Set the strategy or the format of the decoder to the form that is sent; where several
forms come, decode a String and parse it, or try one form after the other in code.`,
	Takes:   finding.Reason(decoder.ReasonDate),
	Suggest: func(f *finding.Finding) finding.Change { return finding.Say(f.Speech().Dates) },
}
