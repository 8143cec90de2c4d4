package drift

import (
	"vetta/internal/decoder"
	"vetta/internal/shape"
)

var outOfRange = &Kind{
	Name:  "out-of-range",
	Level: Breaks,
	Title: "a number that the type cannot hold",
	Text: `The number has a fraction where a whole number is declared, or it is larger or
smaller than the type admits. JSONDecoder reports it as "The given data was not
valid JSON." without a place, which makes it hard to find by the log alone.`,
	Examples: []Example{
		{"Swift", `struct Sailing: Decodable { let seats: Int }`, `{"seats": 12.5}`},
		{"Kotlin, Gson", `data class Sailing(val passId: Int)`, `{"passId": 5000000120}`},
		{"Java, Jackson", `class Sailing { public int passId; }`, `{"passId": 5000000120}`},
	},
	Fix: `Declare Double (or Decimal, for money) where fractions are sent, a wider integer
where numbers outgrow the type.`,
	takes: reason(decoder.ReasonRange),
	suggest: func(f *Finding) Change {
		for _, c := range f.classes() {
			if c.Facts&shape.Broken != 0 {
				return f.redeclare(f.speech().replaceNumber(f.Declared, f.speech().types["Double"]), "a type with a fraction")
			}
		}
		for _, c := range f.classes() {
			if c.Facts&(shape.Beyond63|shape.TooLarge64) != 0 {
				return f.redeclare(f.speech().replaceNumber(f.Declared, f.speech().exact), "or read it as text: no integer of 64 bits holds it")
			}
		}
		return f.redeclare(f.speech().replaceNumber(f.Declared, f.speech().wide), "a wider type")
	},
}
