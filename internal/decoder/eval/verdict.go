package eval

import (
	"errors"

	"vetta/internal/decoder"
	"vetta/internal/wire"
)

// Verdict is what code makes of a value, by what Run answers: what is not followed is a value that is not known.
func Verdict(v Value, err error) decoder.Verdict {
	var thrown *Thrown
	switch {
	case errors.As(err, &thrown):
		return decoder.Verdict{Err: thrown.Err()}
	case err != nil:
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
	}
	s, known := v.Result()
	if !known {
		s = decoder.Seen{Kind: decoder.SeenUnknown}
	}
	return decoder.Verdict{Seen: s}
}

// IsElement says whether a value is a JsonElement of a class of that name, as Gson and kotlinx.serialization name them;
// null is a JsonPrimitive to the latter.
func IsElement(v *wire.Value, class string, nullIsPrimitive bool) bool {
	switch class {
	case "JsonElement":
		return true
	case "JsonPrimitive":
		return v.Kind < wire.Array && (nullIsPrimitive || v.Kind != wire.Null)
	case "JsonNull":
		return v.Kind == wire.Null
	case "JsonArray":
		return v.Kind == wire.Array
	case "JsonObject":
		return v.Kind == wire.Object
	}
	return false
}

// Found is the value of the last member of a name, nil for none: of equal ones the last counts in an element.
func Found(v *wire.Value, name string) (found *wire.Value) {
	for _, m := range v.Members {
		if m.Name == name {
			found = m.Value
		}
	}
	return found
}

// Property is a method of Java by the name that Kotlin has for what it answers: getText() is text.
func Property(name string) string {
	if len(name) > 3 && name[:3] == "get" && name[3] >= 'A' && name[3] <= 'Z' {
		return string(name[3]+'a'-'A') + name[4:]
	}
	return name
}
