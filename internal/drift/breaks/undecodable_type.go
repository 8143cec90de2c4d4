package breaks

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// UndecodableType is the kind undecodable-type: a type that the library cannot decode, whatever is sent.
var UndecodableType = &finding.Kind{
	Name:  "undecodable-type",
	Level: finding.Breaks,
	Title: "a type that the library cannot decode, whatever is sent",
	Text: `Whatever the response holds, decoding throws: the class has one key twice, two setters for a
key, a creator with a parameter that has no name, or is one that the library cannot make an
instance of or look into, or decoding it leads back to itself at the same value and never ends.
What is wrong with the declaration of a class may fail every response that it could be part of,
even where it is not sent.`,
	Examples: []finding.Example{
		{In: "Java, Gson", Code: `class Express extends Boat { int id; }
class Boat { int id; }`, Sent: `{"id": 3}`},
		{In: "Java, Jackson", Code: `class Boat {
    public final int id;
    Boat(int id, int knots) { this.id = id; }
}`, Sent: `{"id": 3}`},
	},
	Fix: `Rename one of the fields by annotation, or declare a class that the library can make; or
register an adapter for it.`,
	Takes: finding.Reason(decoder.ReasonType),
	Suggest: func(f *finding.Finding) finding.Change {
		if f.Field == nil && f.Model != nil {
			return finding.Say("change the declaration of " + f.Model.Name + " as the error says, or register an adapter for it")
		}
		return finding.Say("declare a type that the library can decode, or register an adapter")
	},
}
