package drift

import (
	"vetta/internal/decoder"
	"vetta/internal/wire"
)

var keptDefault = &Kind{
	Name:  "kept-default",
	Level: Misreads,
	Title: "a default in place of a value that was sent",
	Text: `The value does not decode, the code drops the error, and a default takes its place:
the app sees 0, false or an empty text where the API sent something else. try? with ??
does that, and so does every opt… of a JSON object that is read by hand.`,
	Examples: []Example{
		{"Swift", `struct Pass: Decodable {
    let rides: Int
    enum CodingKeys: String, CodingKey { case rides }
    init(from decoder: Decoder) throws {
        let c = try decoder.container(keyedBy: CodingKeys.self)
        rides = (try? c.decode(Int.self, forKey: .rides)) ?? 0
    }
}`, `{"rides": 2}
{"rides": "3"}`},
		{"Kotlin, org.json", `class Pass(o: JSONObject) { val rides = o.optInt("rides", 0) }`, `{"rides": 2}
{"rides": "many"}`},
	},
	Fix: `Declare the kind that is sent, or keep the default for absent keys alone:
try c.decodeIfPresent(…) ?? 0, or has(…) and then get….`,
	takes: loss(decoder.Defaulted),
	suggest: func(f *Finding) Change {
		if classes := f.classes(); len(classes) == 1 && classes[0].Kind == wire.Null && f.speech().byCode {
			return say(f.speech().asNull)
		}
		return say(f.speech().kept)
	},
}
