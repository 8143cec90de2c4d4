package drift

import "vetta/internal/decoder"

var undecodableType = &Kind{
	Name:  "undecodable-type",
	Level: Breaks,
	Title: "a type that the library cannot decode, whatever is sent",
	Text: `Whatever the response holds, decoding throws: the class has one key twice, or is one that
the library cannot make an instance of or look into.`,
	Example: `class Boat { int id; }
class Express extends Boat { int id; }
{"id": 3}`,
	Fix: `Rename one of the fields by annotation, or declare a class that the library can make; or
register an adapter for it.`,
	takes:   reason(decoder.ReasonType),
	suggest: func(*Finding) string { return "declare a type that the library can decode, or register an adapter" },
}
