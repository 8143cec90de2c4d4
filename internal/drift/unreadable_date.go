package drift

import "vetta/internal/decoder"

var unreadableDate = &Kind{
	Name:  "unreadable-date",
	Level: Breaks,
	Title: "text that is no date in the form that the decoder expects",
	Text: `All dates of a decoder are read by one strategy. A date in another form, an empty
string among them, makes decoding throw.`,
	Example: `decoder.dateDecodingStrategy = .iso8601
{"departs": "2026-03-01 09:30"}`,
	Fix: `Set the strategy or the format of the decoder to the form that is sent; where several
forms come, decode a String and parse it, or try one form after the other in code.`,
	takes:   reason(decoder.ReasonDate),
	suggest: func(f *Finding) Change { return say(f.speech().dates) },
}
