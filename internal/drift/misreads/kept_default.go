package misreads

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/wire"
)

// KeptDefault is the kind kept-default: a default in place of a value that was sent.
var KeptDefault = &finding.Kind{
	Name:  "kept-default",
	Level: finding.Misreads,
	Title: "a default in place of a value that was sent",
	Text: `The value does not decode, the code drops the error, and a default takes its place:
the app sees 0, false or an empty text where the API sent something else. try? with ??
does that, and so does every opt… of a JSON object that is read by hand.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Pass: Decodable {
    let rides: Int
    enum CodingKeys: String, CodingKey { case rides }
    init(from decoder: Decoder) throws {
        let c = try decoder.container(keyedBy: CodingKeys.self)
        rides = (try? c.decode(Int.self, forKey: .rides)) ?? 0
    }
}`, Sent: `{"rides": 2}
{"rides": "3"}`},
		{In: "Kotlin, org.json", Code: `class Pass(o: JSONObject) { val rides = o.optInt("rides", 0) }`, Sent: `{"rides": 2}
{"rides": "many"}`},
	},
	Fix: `Declare the kind that is sent, or keep the default for absent keys alone:
try c.decodeIfPresent(…) ?? 0, or has(…) and then get….`,
	Takes: finding.Loss(decoder.Defaulted),
	Suggest: func(f *finding.Finding) finding.Change {
		if classes := f.Classes(); len(classes) == 1 && classes[0].Kind == wire.Null && f.Speech().ByCode {
			return finding.Say(f.Speech().AsNull)
		}
		return finding.Say(f.Speech().Kept)
	},
}
