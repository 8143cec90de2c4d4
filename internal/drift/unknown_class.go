package drift

import (
	"fmt"

	"vetta/internal/decoder"
)

var unknownClass = &Kind{
	Name:  "unknown-class",
	Level: Breaks,
	Title: "objects of a kind that no class is named for",
	Text: `A key of the object tells which class it is of, and no class is named for the text that
was sent there. Decoding throws, and with the one object the whole response is lost.`,
	Examples: []Example{
		{"Java, Jackson", `@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes(@JsonSubTypes.Type(value = Delay.class, name = "delay"))
abstract class Notice {}
class Delay extends Notice { public int minutes; }`, `{"kind": "fog"}
{"kind": "delay", "minutes": 5}`},
	},
	Fix: `Name a class for the kind, and a default one for kinds still to come: with Jackson
the defaultImpl of @JsonTypeInfo.`,
	takes: reason(decoder.ReasonClass),
	suggest: func(f *Finding) Change {
		return say(fmt.Sprintf("name a class for %s, and a default one for kinds still to come", f.literal()))
	},
}
