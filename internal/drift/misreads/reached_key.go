package misreads

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// ReachedKey is the kind reached-key: a key that code asks a map for, and that no response has.
var ReachedKey = &finding.Kind{
	Name:  "reached-key",
	Level: finding.Misreads,
	Title: "a key that the app asks for and no response has",
	Text: `The field is a map or of no type, and code elsewhere in the app asks it for a key that none
of its objects has. A map answers null for that: the app shows nothing, or throws where it
goes on with it.`,
	Examples: []finding.Example{
		{In: "Dart", Code: `class Port {
  final Map<String, dynamic> address;
  Port.fromJson(Map<String, dynamic> json) : address = json['address'];
  String get postcode => address['code']['zip'] ?? '';
}`, Sent: `{"address": {"street": "Quay 1", "code": {"postal": "SM1"}}}`},
	},
	Fix:   `Ask for the key that is sent: address['code']['postal'].`,
	Takes: finding.Loss(decoder.NeverThere),
	Suggest: func(*finding.Finding) finding.Change {
		return finding.Say("ask for a key that is sent; a class of its own would say what is in it")
	},
}
