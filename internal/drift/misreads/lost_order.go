package misreads

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// LostOrder is the kind lost-order: an element that stands out of its order is passed over.
var LostOrder = &finding.Kind{
	Name:  "lost-order",
	Level: finding.Misreads,
	Title: "an element out of its order is passed over",
	Text: `The class says in what order its elements stand, by Order or as a data contract does, and in some
documents one stands elsewhere. The decoder passes it over, and with XmlSerializer all that comes behind an element
which it does not expect. Nothing throws: the app sees 0, null or an empty text.`,
	Examples: []finding.Example{
		{In: "C#, XmlSerializer", Code: `[XmlRoot("vessel")]
public class Vessel
{
    [XmlElement("name", Order = 1)] public string Name { get; set; } = "";
    [XmlElement("decks", Order = 2)] public int Decks { get; set; }
}`, Sent: `<vessel><name>Tern</name><decks>3</decks></vessel>
<vessel><decks>3</decks><name>Tern</name></vessel>`},
	},
	Fix: `Take Order off all members, so that any order will do; where a data contract is read, which always has
one, give the members an Order that is the one that is sent.`,
	Takes: finding.Loss(decoder.Misplaced),
	Suggest: func(f *finding.Finding) finding.Change {
		return finding.Say(f.Speech().Order)
	},
}
