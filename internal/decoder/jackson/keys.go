package jackson

import (
	"fmt"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// badKey is the error for a member's name that makes no key.
func badKey(t *model.Type, name, detail string) *decoder.Error {
	return fault("InvalidFormatException", decoder.ReasonKey, "Cannot deserialize Map key of type `%s` from String %q: %s", raw(t), name, detail)
}

// problem is badKey for what goes wrong inside, which the message names by its class.
func problem(t *model.Type, name, class, detail string) *decoder.Error {
	return badKey(t, name, "not a valid representation, problem: ("+class+") "+detail)
}

// refusedKey is problem for what Jackson refuses itself.
func refusedKey(t *model.Type, name, detail string) *decoder.Error {
	return problem(t, name, "com.fasterxml.jackson.databind.exc.InvalidFormatException", fmt.Sprintf("Cannot deserialize Map key of type `%s` from String %q: %s", raw(t), name, detail))
}

// keys makes keys of a type of the names of members (StdKeyDeserializer); why says that it
// is not followed how.
func (c *compiler) keys(t *model.Type) (key func(name string) (decoder.Seen, *decoder.Error), why string) {
	number := func(kind decoder.SeenKind, text string) (decoder.Seen, *decoder.Error) {
		return decoder.Seen{Kind: kind, Text: text}, nil
	}
	text := func(name string) (decoder.Seen, *decoder.Error) {
		return decoder.Seen{Kind: decoder.SeenString, Text: name}, nil
	}
	if t.Model != nil && t.Model.Kind == model.Enum {
		return c.enumKeys(t)
	}
	switch scalar := jvm.Scalar(t); scalar {
	case "int", "long", "short", "byte":
		bits, least, most := 32, int64(-1<<31), int64(1<<31-1)
		switch scalar {
		case "long":
			bits, least, most = 64, -1<<63, 1<<63-1
		case "short":
			least, most = -1<<15, 1<<15-1
		case "byte":
			least, most = -1<<7, 1<<8-1 // as bits, too
		}
		return func(name string) (decoder.Seen, *decoder.Error) {
			n, ok := jvm.ParseWhole(name, bits)
			switch {
			case name == "": // NumberInput.parseInt looks at the first character
				return decoder.Seen{}, problem(t, name, "java.lang.StringIndexOutOfBoundsException", "String index out of range: 0")
			case !ok:
				return decoder.Seen{}, problem(t, name, "java.lang.NumberFormatException", "For input string: \""+name+"\"")
			case n < least || n > most:
				return decoder.Seen{}, refusedKey(t, name, "overflow, value cannot be represented as "+map[string]string{"short": "16", "byte": "8"}[scalar]+"-bit value")
			case scalar == "byte":
				n = int64(int8(n))
			}
			return number(decoder.SeenInt, strconv.FormatInt(n, 10))
		}, ""
	case "float", "double":
		return func(name string) (decoder.Seen, *decoder.Error) {
			f, ok := jvm.ParseDouble(name)
			switch {
			case jvm.Trim(name) == "":
				return decoder.Seen{}, problem(t, name, "java.lang.NumberFormatException", "empty String")
			case !ok:
				return decoder.Seen{}, problem(t, name, "java.lang.NumberFormatException", "For input string: \""+name+"\"")
			case scalar == "float":
				f = float64(float32(f))
			}
			return number(decoder.SeenFloat, jvm.DoubleToString(f))
		}, ""
	case "boolean":
		return func(name string) (decoder.Seen, *decoder.Error) {
			if name != "true" && name != "false" {
				return decoder.Seen{}, refusedKey(t, name, "value not 'true' or 'false'")
			}
			return decoder.Bool(name == "true"), nil
		}, ""
	case "char":
		return func(name string) (decoder.Seen, *decoder.Error) {
			if len([]rune(name)) != 1 {
				return decoder.Seen{}, refusedKey(t, name, "can only convert 1-character Strings")
			}
			return text(name)
		}, ""
	}
	switch t.Name {
	case "String", "Object", "CharSequence":
		return text, ""
	case "UUID":
		return func(name string) (decoder.Seen, *decoder.Error) {
			id, ok := jvm.ParseUUID(name)
			if !ok {
				return decoder.Seen{}, refusedKey(t, name, "problem: Invalid UUID string: "+name)
			}
			return text(id)
		}, ""
	case "Locale":
		return func(name string) (decoder.Seen, *decoder.Error) { return text(jvm.Locale(localeParts(name)...)) }, ""
	case "URI":
		return func(name string) (decoder.Seen, *decoder.Error) {
			if detail := jvm.ParseURI(name); detail != "" {
				return decoder.Seen{}, problem(t, name, "java.lang.IllegalArgumentException", detail)
			}
			return text(name)
		}, ""
	}
	return nil, "its keys are made by code that is not followed"
}

// enumKeys are constants by the texts that they are read from.
func (c *compiler) enumKeys(t *model.Type) (key func(name string) (decoder.Seen, *decoder.Error), why string) {
	names, known := c.constants(t.Model)
	if !known {
		return nil, "its keys are constants of " + t.Model.Name + ", which are read by code that is not followed"
	}
	fold := c.on("ACCEPT_CASE_INSENSITIVE_ENUMS")
	constant := func(name string) (decoder.Seen, *decoder.Error) {
		return decoder.Seen{Kind: decoder.SeenEnum, Text: name, Type: t.Model.Name}, nil
	}
	return func(name string) (decoder.Seen, *decoder.Error) {
		for other, k := range names {
			if fold && strings.EqualFold(other, name) {
				return constant(k)
			}
		}
		if k, ok := names[name]; ok {
			return constant(k)
		}
		for _, k := range t.Model.Cases {
			if k.Marks.Find("JsonEnumDefaultValue") != nil && c.on("READ_UNKNOWN_ENUM_VALUES_USING_DEFAULT_VALUE") {
				return constant(k.Name)
			}
		}
		if c.on("READ_UNKNOWN_ENUM_VALUES_AS_NULL") {
			return decoder.Seen{Text: "null"}, nil
		}
		return decoder.Seen{}, refusedKey(t, name, "not one of the values accepted for Enum class: ["+caseNames(t.Model)+"]")
	}, ""
}
