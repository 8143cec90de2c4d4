package breaks

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// WrongKind is the kind wrong-kind: a value of another kind.
var WrongKind = &finding.Kind{
	Name:  "wrong-kind",
	Level: finding.Breaks,
	Title: "a value of another kind",
	Text: `The value is of a kind that the declared type cannot be decoded from: a string
where a number is declared, a number where a string is, an object where a scalar is.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Fare: Decodable { let amount: Double }`, Sent: `{"amount": "12.50"}`},
		{In: "Kotlin, Gson", Code: `data class Fare(val amount: Double)`, Sent: `{"amount": {"pence": 1250}}`},
		{In: "Java, Jackson", Code: `class Fare { public double amount; }`, Sent: `{"amount": "free"}`},
		{In: "TypeScript", Code: `interface Fare { amount: number }`, Sent: `{"amount": "12.50"}`},
		{In: "C#, System.Text.Json", Code: `public class Fare { public double Amount { get; set; } }`, Sent: `{"Amount": "12.50"}`},
		{In: "C#, Newtonsoft.Json", Code: `public class Fare { public double Amount { get; set; } }`, Sent: `{"amount": {"pence": 1250}}`},
	},
	Fix: `Declare the type that is sent. Where both kinds are sent, read the field by hand:
try one kind and then the other in an init(from:).`,
	Takes: finding.Reason(decoder.ReasonKind),
	Suggest: func(f *finding.Finding) finding.Change {
		classes := f.Classes()
		if len(classes) == 0 {
			return finding.Say("declare the type that is sent")
		}
		want := f.SuggestedType()
		mixed := false
		for _, s := range f.Sites {
			mixed = mixed || s.Values < s.Of
		}
		if want == "" || mixed {
			return finding.Say("both kinds are sent: " + f.Speech().Either)
		}
		typ := f.AsBefore(want)
		if typ == "" {
			return finding.Say("declare the type that is sent for its elements: " + want)
		}
		return f.Redeclare(typ, "as it is sent")
	},
}
