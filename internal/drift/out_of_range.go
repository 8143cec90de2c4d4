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
	Example: `struct Sailing: Decodable { let seats: Int }
{"seats": 12.5}`,
	Fix: `Declare Double (or Decimal, for money) where fractions are sent, a wider integer
where numbers outgrow the type.`,
	takes: reason(decoder.ReasonRange),
	suggest: func(f *Finding) string {
		for _, c := range f.classes() {
			if c.Facts&shape.Broken != 0 {
				return "declare a type with a fraction: " + f.Name + ": " + replaceInteger(f.Declared, "Double")
			}
		}
		for _, c := range f.classes() {
			if c.Facts&(shape.Beyond63|shape.TooLarge64) != 0 {
				return "declare Decimal, or read it as text: no integer of 64 bits holds it"
			}
		}
		return "declare a wider type: " + f.Name + ": " + replaceInteger(f.Declared, "Int")
	},
}

// replaceInteger puts another type in the place of the integer type in a declared one.
func replaceInteger(declared, with string) string {
	start := -1
	for i := 0; i < len(declared); i++ {
		c := declared[i]
		letter := c|0x20 >= 'a' && c|0x20 <= 'z' || c >= '0' && c <= '9'
		if letter && start < 0 {
			start = i
		}
		if start >= 0 && (!letter || i == len(declared)-1) {
			end := i
			if letter {
				end = i + 1
			}
			if word := declared[start:end]; integerWord(word) {
				return declared[:start] + with + declared[end:]
			}
			start = -1
		}
	}
	return with
}

func integerWord(word string) bool {
	switch word {
	case "Int", "Int8", "Int16", "Int32", "Int64", "UInt", "UInt8", "UInt16", "UInt32", "UInt64", "Float", "Double":
		return true
	}
	return false
}
