package drift

import (
	"fmt"

	"vetta/internal/decoder"
)

var missingKey = &Kind{
	Name:  "missing-key",
	Level: Breaks,
	Title: "the key is not always sent",
	Text: `The model declares the field as one that must be there, and in some responses
its key is absent. Decoding throws there, and with it the whole response is lost,
also where the object is one of many in a list.`,
	Examples: []Example{
		{"Swift", `struct Sailing: Decodable { let id: Int; let seats: Int }`, `{"id": 7}
{"id": 8, "seats": 40}`},
		{"Kotlin, Jackson", `data class Sailing(val id: Int, val vessel: String)`, `{"id": 7}
{"id": 8, "vessel": "Tern"}`},
		{"Kotlin, org.json", `class Sailing(o: JSONObject) {
    val id = o.getInt("id")
    val seats = o.getInt("seats")
}`, `{"id": 7}
{"id": 8, "seats": 40}`},
	},
	Fix: `Declare the field optional, or give it a default where it is decoded: in an
init(from:) with decodeIfPresent, in a creator, with opt… in code that reads JSON
objects. If no response has the key, look for a typo: findings of the
kind renamed-key name the key that is sent in its place.`,
	takes: reason(decoder.ReasonMissing),
	suggest: func(f *Finding) Change {
		if f.never() {
			return say(fmt.Sprintf("no response has %s: check its spelling, or remove the field", f.key()))
		}
		return f.optional()
	},
}
