package breaks

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/shape"
)

// OutOfRange is the kind out-of-range: a number that the type cannot hold.
var OutOfRange = &finding.Kind{
	Name:  "out-of-range",
	Level: finding.Breaks,
	Title: "a number that the type cannot hold",
	Text: `The number has a fraction where a whole number is declared, or it is larger or
smaller than the type admits. JSONDecoder reports it as "The given data was not
valid JSON." without a place, which makes it hard to find by the log alone.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Sailing: Decodable { let seats: Int }`, Sent: `{"seats": 12.5}`},
		{In: "Kotlin, Gson", Code: `data class Sailing(val passId: Int)`, Sent: `{"passId": 5000000120}`},
		{In: "Java, Jackson", Code: `class Sailing { public int passId; }`, Sent: `{"passId": 5000000120}`},
	},
	Fix: `Declare Double (or Decimal, for money) where fractions are sent, a wider integer
where numbers outgrow the type.`,
	Takes: finding.Reason(decoder.ReasonRange),
	Suggest: func(f *finding.Finding) finding.Change {
		for _, c := range f.Classes() {
			if c.Facts&shape.Broken != 0 {
				return f.Redeclare(f.Speech().ReplaceNumber(f.Declared, f.Speech().Types["Double"]), "a type with a fraction")
			}
		}
		for _, c := range f.Classes() {
			if c.Facts&(shape.Beyond63|shape.TooLarge64) != 0 {
				return f.Redeclare(f.Speech().ReplaceNumber(f.Declared, f.Speech().Exact), "or read it as text: no integer of 64 bits holds it")
			}
		}
		return f.Redeclare(f.Speech().ReplaceNumber(f.Declared, f.Speech().Wide), "a wider type")
	},
}
