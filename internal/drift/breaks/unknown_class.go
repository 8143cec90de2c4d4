package breaks

import (
	"fmt"

	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// UnknownClass is the kind unknown-class: objects of a kind that no class is named for.
var UnknownClass = &finding.Kind{
	Name:  "unknown-class",
	Level: finding.Breaks,
	Title: "objects of a kind that no class is named for",
	Text: `A key of the object tells which class it is of, and no class is named for the text that
was sent there. Decoding throws, and with the one object the whole response is lost.`,
	Examples: []finding.Example{
		{In: "Java, Jackson", Code: `@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes(@JsonSubTypes.Type(value = Delay.class, name = "delay"))
abstract class Notice {}
class Delay extends Notice { public int minutes; }`, Sent: `{"kind": "fog"}
{"kind": "delay", "minutes": 5}`},
	},
	Fix: `Name a class for the kind, and a default one for kinds still to come: with Jackson
the defaultImpl of @JsonTypeInfo.`,
	Takes: finding.Reason(decoder.ReasonClass),
	Suggest: func(f *finding.Finding) finding.Change {
		return finding.Say(fmt.Sprintf("name a class for %s, and a default one for kinds still to come", f.Literal()))
	},
}
