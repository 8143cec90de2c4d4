package drift

import (
	"vetta/internal/decoder"
	"vetta/internal/wire"
)

var swallowedError = &Kind{
	Name:  "swallowed-error",
	Level: Misreads,
	Title: "an error that the code drops: the app sees nothing",
	Text: `The value does not decode, and the code drops the error: a try?, an opt…, an empty
catch. The app goes on with nothing in place of what was sent, and nobody is told.`,
	Examples: []Example{
		{"Swift", `struct Pass: Decodable {
    let active: Bool?
    enum CodingKeys: String, CodingKey { case active }
    init(from decoder: Decoder) throws {
        let c = try decoder.container(keyedBy: CodingKeys.self)
        active = try? c.decode(Bool.self, forKey: .active)
    }
}`, `{"active": true}
{"active": "true"}`},
		{"Kotlin, org.json", `class Berth(o: JSONObject) {
    val port: Port? = o.optJSONObject("port")?.let { Port(it) }
}
class Port(o: JSONObject) { val code = o.getString("code") }`, `{"port": {"code": "SAL"}}
{"port": "SAL"}`},
	},
	Fix: `Declare the kind that is sent, or handle the error: log it, count it. Use
decodeIfPresent where only an absent key should become nil.`,
	takes: loss(decoder.Swallowed),
	suggest: func(f *Finding) Change {
		return say(f.speech().swallow)
	},
}

var neverFits = &Kind{
	Name:  "never-fits",
	Level: Misreads,
	Title: "no value that was sent ever fits: the app always sees nothing",
	Text: `The field is read by code that drops errors, a try? or an opt…, and not one of the
values that were sent can be decoded as the declared type. The field is always nothing.`,
	Examples: []Example{
		{"Swift", `struct Sailing: Decodable {
    let seats: Int?
    enum CodingKeys: String, CodingKey { case seats }
    init(from decoder: Decoder) throws {
        let c = try decoder.container(keyedBy: CodingKeys.self)
        seats = try? c.decode(Int.self, forKey: .seats)
    }
}`, `{"seats": "40"}`},
		{"Kotlin, org.json", `class Sailing(o: JSONObject) { val seats = o.optInt("seats") }`, `{"seats": "many"}`},
	},
	Fix: `Declare the kind that is sent.`,
	takes: func(ev *event) bool {
		return (ev.loss == decoder.Swallowed || ev.loss == decoder.Defaulted) && ev.key == "" && ev.values == ev.of
	},
	suggest: func(f *Finding) Change {
		if classes := f.classes(); len(classes) == 1 && classes[0].Kind == wire.Null {
			return say(f.speech().asNull)
		}
		if t := f.suggestedType(); t != "" {
			return say("decode what is sent: " + t)
		}
		return say("decode what is sent")
	},
}
