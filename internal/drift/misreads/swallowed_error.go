package misreads

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/wire"
)

// SwallowedError is the kind swallowed-error: an error that the code drops: the app sees nothing.
var SwallowedError = &finding.Kind{
	Name:  "swallowed-error",
	Level: finding.Misreads,
	Title: "an error that the code drops: the app sees nothing",
	Text: `The value does not decode, and the code drops the error: a try?, an opt…, an empty
catch. The app goes on with nothing in place of what was sent, and nobody is told.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Pass: Decodable {
    let active: Bool?
    enum CodingKeys: String, CodingKey { case active }
    init(from decoder: Decoder) throws {
        let c = try decoder.container(keyedBy: CodingKeys.self)
        active = try? c.decode(Bool.self, forKey: .active)
    }
}`, Sent: `{"active": true}
{"active": "true"}`},
		{In: "Kotlin, org.json", Code: `class Berth(o: JSONObject) {
    val port: Port? = o.optJSONObject("port")?.let { Port(it) }
}
class Port(o: JSONObject) { val code = o.getString("code") }`, Sent: `{"port": {"code": "SAL"}}
{"port": "SAL"}`},
	},
	Fix: `Declare the kind that is sent, or handle the error: log it, count it. Use
decodeIfPresent where only an absent key should become nil.`,
	Takes: finding.Loss(decoder.Swallowed),
	Suggest: func(f *finding.Finding) finding.Change {
		return finding.Say(f.Speech().Swallow)
	},
}

// NeverFits is the kind never-fits: no value that was sent ever fits: the app always sees nothing.
var NeverFits = &finding.Kind{
	Name:  "never-fits",
	Level: finding.Misreads,
	Title: "no value that was sent ever fits: the app always sees nothing",
	Text: `The field is read by code that drops errors, a try? or an opt…, and not one of the
values that were sent can be decoded as the declared type. The field is always nothing.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Sailing: Decodable {
    let seats: Int?
    enum CodingKeys: String, CodingKey { case seats }
    init(from decoder: Decoder) throws {
        let c = try decoder.container(keyedBy: CodingKeys.self)
        seats = try? c.decode(Int.self, forKey: .seats)
    }
}`, Sent: `{"seats": "40"}`},
		{In: "Kotlin, org.json", Code: `class Sailing(o: JSONObject) { val seats = o.optInt("seats") }`, Sent: `{"seats": "many"}`},
	},
	Fix: `Declare the kind that is sent.`,
	Takes: func(ev *finding.Event) bool {
		return (ev.Loss == decoder.Swallowed || ev.Loss == decoder.Defaulted) && ev.Key == "" && ev.Values == ev.Of
	},
	Suggest: func(f *finding.Finding) finding.Change {
		if classes := f.Classes(); len(classes) == 1 && classes[0].Kind == wire.Null {
			return finding.Say(f.Speech().AsNull)
		}
		if t := f.SuggestedType(); t != "" {
			return finding.Say("decode what is sent: " + t)
		}
		return finding.Say("decode what is sent")
	},
}
