package misreads

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// WrongUnit is the kind date-unit: a time in another unit than the decoder takes it for.
var WrongUnit = &finding.Kind{
	Name:  "date-unit",
	Level: finding.Misreads,
	Title: "a time in another unit than the decoder takes it for",
	Text: `The number is decoded as a date, but one of seconds since 1970 is taken for seconds
since 2001 (what a JSONDecoder does unless told otherwise), or milliseconds for
seconds: the app sees a date decades off.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Sailing: Decodable { let departs: Date }   // no dateDecodingStrategy`, Sent: `{"departs": 1772357400}`},
		{In: "Java, Jackson", Code: `class Sailing { public java.util.Date departs; }`, Sent: `{"departs": 1772357400}`},
	},
	Fix:     `Set dateDecodingStrategy to .secondsSince1970 or .millisecondsSince1970.`,
	Takes:   finding.Loss(decoder.WrongUnit),
	Suggest: func(f *finding.Finding) finding.Change { return finding.Say(f.Speech().Unit) },
}
