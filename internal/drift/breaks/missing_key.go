// Package breaks has the kinds of findings with which decoding throws, one file each.
package breaks

import (
	"fmt"

	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// MissingKey is the kind missing-key: the key is not always sent.
var MissingKey = &finding.Kind{
	Name:  "missing-key",
	Level: finding.Breaks,
	Title: "the key is not always sent",
	Text: `The model declares the field as one that must be there, and in some responses
its key is absent. Decoding throws there, and with it the whole response is lost,
also where the object is one of many in a list.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Sailing: Decodable { let id: Int; let seats: Int }`, Sent: `{"id": 7}
{"id": 8, "seats": 40}`},
		{In: "Kotlin, Jackson", Code: `data class Sailing(val id: Int, val vessel: String)`, Sent: `{"id": 7}
{"id": 8, "vessel": "Tern"}`},
		{In: "Kotlin, org.json", Code: `class Sailing(o: JSONObject) {
    val id = o.getInt("id")
    val seats = o.getInt("seats")
}`, Sent: `{"id": 7}
{"id": 8, "seats": 40}`},
		{In: "TypeScript", Code: `interface Sailing { id: number; vessel: string }`, Sent: `{"id": 7}
{"id": 8, "vessel": "Tern"}`},
		{In: "C#, System.Text.Json", Code: `public class Sailing { public int Id { get; set; } public required string Vessel { get; set; } }`, Sent: `{"Id": 7}
{"Id": 8, "Vessel": "Tern"}`},
	},
	Fix: `Declare the field optional, or give it a default where it is decoded: in an
init(from:) with decodeIfPresent, in a creator, with opt… in code that reads JSON
objects. If no response has the key, look for a typo: findings of the
kind renamed-key name the key that is sent in its place.`,
	Takes: finding.Reason(decoder.ReasonMissing),
	Suggest: func(f *finding.Finding) finding.Change {
		if f.Never() {
			return finding.Say(fmt.Sprintf("no response has %s: check its spelling, or remove the field", f.Key()))
		}
		return f.Optional()
	},
}
