package drift

import (
	"vetta/internal/decoder"
)

var wrongUnit = &Kind{
	Name:  "date-unit",
	Level: Misreads,
	Title: "a time in another unit than the decoder takes it for",
	Text: `The number is decoded as a date, but one of seconds since 1970 is taken for seconds
since 2001 (what a JSONDecoder does unless told otherwise), or milliseconds for
seconds: the app sees a date decades off.`,
	Examples: []Example{
		{"Swift", `struct Sailing: Decodable { let departs: Date }   // no dateDecodingStrategy`, `{"departs": 1772357400}`},
		{"Java, Jackson", `class Sailing { public java.util.Date departs; }`, `{"departs": 1772357400}`},
	},
	Fix:     `Set dateDecodingStrategy to .secondsSince1970 or .millisecondsSince1970.`,
	takes:   loss(decoder.WrongUnit),
	suggest: func(f *Finding) Change { return say(f.speech().unit) },
}
