package shape

import "vetta/internal/wire"

// Class is what kind of value was sent, as finely as any decoding library tells
// values apart: two values of one class fare alike with every declared type, but
// for enums, which ask for the text itself (see Place.Texts). Classes are compared
// with ==.
type Class struct {
	Kind  wire.Kind
	Facts Facts
	// Form is how a string is written that looks like a date or a time, digits as 0
	// and the letters of names as a: 0000-00-00T00:00:00Z. It is empty for others.
	Form string
	// Fares says how each value of the class fares, at a place where every one was asked for: see Judge. It is empty at
	// others.
	Fares string
}

// Facts are what sets values of one kind apart.
type Facts uint64

// Facts about bools and numbers. A size that a number is beyond is that of the
// integers of so many bits, whose negative range reaches one further.
const (
	True         Facts = 1 << iota
	HasFraction        // written with a point
	HasExponent        // written with an exponent
	Broken             // no whole number
	RoundsWhole        // no whole number, but its double is one
	Negative           // written with a minus
	Zero               // zero, with or without a minus
	Beyond7            // of a signed byte
	Beyond8            // of an unsigned byte
	Beyond15           // of 16 bits, signed
	Beyond16           // of 16 bits, unsigned
	Beyond31           // of 32 bits, signed
	Beyond32           // of 32 bits, unsigned
	Beyond53           // where a double leaves out whole numbers
	Beyond63           // of 64 bits, signed
	Beyond64           // of 64 bits, unsigned
	Loses32            // a 32-bit float is another number, by value and by its shortest decimal
	Loses64            // so is a double
	Loses128           // so is a decimal with a mantissa of 128 bits
	TooLarge32         // infinite as a 32-bit float
	TooSmall32         // zero as a 32-bit float, though it is not
	TooLarge64         // infinite as a double
	TooSmall64         // zero as a double, though it is not
	TooLarge128        // of a larger exponent than a decimal of 38 digits takes
	EpochSeconds       // as seconds since 1970, a date from 2008 to 2100
	EpochMillis        // as milliseconds since 1970, likewise
	RoundsTo63         // its double is beyond 64 bits, signed
	RoundsTo64         // its double is beyond 64 bits, unsigned
	Inexact64          // a whole number, written with a point or an exponent, that no double is: its double is another
	AtEdge             // no whole number, and its whole part is the last that 32 bits hold; or its double is 2^63
)

// Facts about strings.
const (
	Empty     Facts = 1 << (iota + 32)
	HalfPair        // an escape names half a surrogate pair
	IsUUID          // 8-4-4-4-12 hexadecimal digits
	IsBase64        // RFC 4648 section 4, padded
	NotURI          // no URI-reference of RFC 3986, even with odd characters percent-encoded
	IsDate          // of a Form: the numbers in it make a date or a time that exists
	IsNumber        // it reads as a JSON number; the facts about numbers are its own
	PlainDate       // a date or a time of ISO 8601 that nobody refuses who takes its Form: of our time, without leap seconds
)

// String names a class for people, without the facts that only matter to a few types.
func (c Class) String() string {
	switch c.Kind {
	case wire.Bool:
		return "a bool"
	case wire.Number:
		switch {
		case c.Facts&Broken != 0:
			return "a number with a fraction"
		case c.Facts&(Beyond63|Beyond64|TooLarge64) != 0:
			return "a number beyond 64 bits"
		}
		return "a whole number"
	case wire.String:
		switch {
		case c.Facts&Empty != 0:
			return "an empty string"
		case c.Facts&IsNumber != 0:
			return "a string that is a number"
		case c.Form != "":
			return "a string like " + c.Form
		case c.Facts&IsUUID != 0:
			return "a UUID"
		}
		return "a string"
	case wire.Array:
		return "an array"
	case wire.Object:
		return "an object"
	}
	return "null"
}

// ClassOf is the class of a literal that the wire accepts.
func ClassOf(literal []byte) Class {
	var r wire.Reader
	r.Reset(literal, 0)
	ev, err := r.Next()
	switch {
	case err != nil:
		return Class{}
	case ev.Kind == wire.NumberValue:
		facts, _ := numberFacts(literal, ev.Traits, r.Decimal())
		return Class{Kind: wire.Number, Facts: facts}
	case ev.Kind == wire.StringValue:
		return new(stringer).class(literal, ev.Traits)
	case ev.Kind == wire.TrueValue:
		return Class{Kind: wire.Bool, Facts: True}
	}
	return Class{Kind: ev.Kind.Of()}
}
