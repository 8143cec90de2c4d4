// Package sends has the kinds of findings about what an app sends, held against requests that were
// accepted.
package sends

import (
	"fmt"

	"vetta/internal/drift/finding"
)

// UnsentKey is the kind unsent-key: every accepted request has a key that the class does not send.
var UnsentKey = &finding.Kind{
	Name:  "unsent-key",
	Level: finding.Misreads,
	Title: "every accepted request has a key that it does not send",
	Text: `The app sends the class as the body of a request, and each request that was captured
and accepted has a key that nothing of the class is written under. The server gets
less than it got then: it may refuse the request, or take a default.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Booking: Encodable { let sailing: Int }`, Sent: `{"sailing": 4400, "passengers": 2}
{"sailing": 4401, "passengers": 1}`, Posted: true},
		{In: "Kotlin, Gson", Code: `data class Booking(val sailing: Int)`, Sent: `{"sailing": 4400, "passengers": 2}
{"sailing": 4401, "passengers": 1}`, Posted: true},
	},
	Fix: `Declare a field for the key, or check that the server no longer asks for it.`,
	Suggest: func(f *finding.Finding) finding.Change {
		if t := f.SuggestedType(); t != "" {
			return f.Redeclare(t, "if the server asks for it")
		}
		return finding.Say("declare a field for " + f.Asked + ", if the server asks for it")
	},
}

// UnsentOptional is the kind unsent-optional: some accepted requests have a key that the class does not send.
var UnsentOptional = &finding.Kind{
	Name:  "unsent-optional",
	Level: finding.Ignores,
	Title: "some accepted requests have a key that it does not send",
	Text: `Some of the requests that were captured have a key that the class does not send, and
others were accepted without it. A request may leave such keys out, so this is normal.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Booking: Encodable { let sailing: Int }`, Sent: `{"sailing": 4400, "note": "aisle"}
{"sailing": 4401}`, Posted: true},
	},
	Fix: `Nothing, or declare an optional field for the key.`,
}

// OtherName is the kind sent-renamed: the class sends a key under another name than accepted requests have.
var OtherName = &finding.Kind{
	Name:  "sent-renamed",
	Level: finding.Misreads,
	Title: "sent under another key than accepted requests have",
	Text: `No accepted request has the key that a field is written under, and all of them have
another one whose name and values are alike. The server does not see the value.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Booking: Encodable { let sailingId: Int; let name: String }`, Sent: `{"sailing_id": 4400, "name": "Ida"}
{"sailing_id": 4401, "name": "Bo"}`, Posted: true},
		{In: "Kotlin, Jackson", Code: `data class Booking(val sailingId: Int, val name: String)`, Sent: `{"sailing_id": 4400, "name": "Ida"}
{"sailing_id": 4401, "name": "Bo"}`, Posted: true},
	},
	Fix: `Write the field under the key that is sent: in CodingKeys, by an annotation, or by
the naming strategy of the encoder.`,
	Suggest: func(f *finding.Finding) finding.Change {
		if f.Field != nil && f.Field.Name == f.Rename && f.Field.Name != f.Asked && len(f.Field.Marks) > 0 {
			return finding.Say("remove the annotation that renames it: the name of the field is the key")
		}
		s := f.Speech()
		return finding.Change{Code: s.Rename(f.Name, f.Rename), Why: s.Renamed}
	},
}

// OtherKind is the kind sent-otherwise: a value is written as another kind than accepted requests have.
var OtherKind = &finding.Kind{
	Name:  "sent-otherwise",
	Level: finding.Misreads,
	Title: "written as another kind than accepted requests have",
	Text: `In the requests that were accepted the value is of one kind, a number say, and what
the library writes for the field's type is of another, text say. The server may refuse
it, or take it for something else.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Booking: Encodable { let sailing: String }`, Sent: `{"sailing": 4400}
{"sailing": 4401}`, Posted: true},
		{In: "Java, Gson", Code: `class Booking { String sailing; }`, Sent: `{"sailing": 4400}
{"sailing": 4401}`, Posted: true},
	},
	Fix: `Declare the field with a type that is written as the kind that is sent.`,
	Suggest: func(f *finding.Finding) finding.Change {
		if t := f.SuggestedType(); t != "" {
			return f.Redeclare(t, "")
		}
		return finding.Say(fmt.Sprintf("write %s as accepted requests have it", f.Key()))
	},
}

// LeftOut is the kind null-left-out: accepted requests have null where the class leaves the key out.
var LeftOut = &finding.Kind{
	Name:  "null-left-out",
	Level: finding.Loose,
	Title: "null in accepted requests, left out by the encoder",
	Text: `Some accepted requests have null for the key; the library leaves out a field that has
no value, so that the server sees no key. Where null clears a value and an absent key
keeps it, as with PATCH (RFC 7396), what the app means is lost.`,
	Examples: []finding.Example{
		{In: "Kotlin, Gson", Code: `data class Booking(val sailing: Int, val note: String?)`, Sent: `{"sailing": 4400, "note": null}
{"sailing": 4401, "note": "aisle"}`, Posted: true},
	},
	Fix: `Where null means something to the server, write it: encode(…) in an encode(to:) of
your own, serializeNulls() of a GsonBuilder.`,
	Suggest: func(f *finding.Finding) finding.Change {
		switch f.Library {
		case "gson":
			return finding.Say("GsonBuilder().serializeNulls(), where null means something to the server")
		case "jackson":
			return finding.Say("@JsonInclude(JsonInclude.Include.ALWAYS), where null means something to the server")
		}
		return finding.Say("encode it in an encode(to:) of your own, where null means something to the server")
	},
}

// Unasked is the kind unasked-key: the class sends a key that no accepted request has.
var Unasked = &finding.Kind{
	Name:  "unasked-key",
	Level: finding.Loose,
	Title: "sent, and in no accepted request",
	Text: `The class sends a key that no accepted request has. It may be stale, or misspelt; most
servers pass over keys that they do not know.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Booking: Encodable { let sailing: Int; let coupon: String }`, Sent: `{"sailing": 4400}
{"sailing": 4401}
{"sailing": 4402}`, Posted: true},
	},
	Fix: `Check the key, or leave the field out.`,
}
