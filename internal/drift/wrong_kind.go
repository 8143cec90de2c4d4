package drift

import (
	"vetta/internal/decoder"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

var wrongKind = &Kind{
	Name:  "wrong-kind",
	Level: Breaks,
	Title: "a value of another kind",
	Text: `The value is of a kind that the declared type cannot be decoded from: a string
where a number is declared, a number where a string is, an object where a scalar is.`,
	Examples: []Example{
		{"Swift", `struct Fare: Decodable { let amount: Double }`, `{"amount": "12.50"}`},
		{"Kotlin, Gson", `data class Fare(val amount: Double)`, `{"amount": {"pence": 1250}}`},
		{"Java, Jackson", `class Fare { public double amount; }`, `{"amount": "free"}`},
	},
	Fix: `Declare the type that is sent. Where both kinds are sent, read the field by hand:
try one kind and then the other in an init(from:).`,
	takes: reason(decoder.ReasonKind),
	suggest: func(f *Finding) Change {
		classes := f.classes()
		if len(classes) == 0 {
			return say("declare the type that is sent")
		}
		want := f.suggestedType()
		mixed := false
		for _, s := range f.Sites {
			mixed = mixed || s.Values < s.Of
		}
		if want == "" || mixed {
			return say("both kinds are sent: " + f.speech().either)
		}
		return f.redeclare(f.asBefore(want), "as it is sent")
	},
}

// commonType is a type that admits values of all the classes, "" for none.
func commonType(classes []shape.Class) string {
	text := ""
	for _, c := range classes {
		t := ""
		switch c.Kind {
		case wire.String:
			t = "String"
		case wire.Bool:
			t = "Bool"
		case wire.Number:
			t = "Int"
			if c.Facts&(shape.Broken|shape.Beyond63) != 0 {
				t = "Double"
			}
		}
		switch {
		case t == "" || text != "" && text != t && !(isNumber(text) && isNumber(t)):
			return ""
		case text != "Double":
			text = t
		}
	}
	return text
}

func isNumber(t string) bool { return t == "Int" || t == "Double" }
