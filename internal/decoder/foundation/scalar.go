package foundation

import (
	"encoding/base64"
	"fmt"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// scalar is what a JSONDecoder does with a value where a type of that name is
// declared, nil where the name is no scalar that it knows or where code of the
// app's own decides.
func (c *compiler) scalar(name string) func(*wire.Value) decoder.Verdict {
	if _, ok := integers[name]; ok {
		return readInteger(name)
	}
	switch name {
	case "Double", "Float64", "TimeInterval", "CGFloat":
		return readFloat("Double", 64, c.floatWords())
	case "Float", "Float32":
		return readFloat("Float", 32, c.floatWords())
	case "Decimal":
		return readDecimal
	case "Bool":
		return readBool
	case "String":
		return readString
	case "URL":
		return readURL
	case "UUID":
		return readUUID
	case "Data":
		if opt := c.settings.Option("data"); opt == "" || opt == "base64" {
			return readData
		}
	case "Date":
		return c.date()
	}
	return nil
}

// opaqueScalar says why a scalar that the library knows cannot be followed.
func (c *compiler) opaqueScalar(name string) string {
	switch name {
	case "Date":
		return "dates are decoded by " + c.settings.Option("dates") + " code, which is not followed"
	case "Data":
		return "data is decoded by the strategy " + c.settings.Option("data") + ", which is not followed"
	}
	return ""
}

// floatWords are the strings of nonConformingFloatDecodingStrategy, nil for none.
func (c *compiler) floatWords() map[string]string {
	if c.settings.Option("floats") != "convertFromString" {
		return nil
	}
	words := map[string]string{}
	for option, becomes := range map[string]string{"floats.positiveInfinity": "inf", "floats.negativeInfinity": "-inf", "floats.nan": "nan"} {
		if word := c.settings.Option(option); word != "" {
			words[word] = becomes
		}
	}
	return words
}

func readBool(v *wire.Value) decoder.Verdict {
	if v.Kind != wire.Bool {
		return decoder.Verdict{Err: mismatch("Bool", v.Kind)}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenBool, Text: string(v.Raw)}}
}

// text is the string that a value is, or the error that asking for one gives.
// Half a surrogate pair makes the scanner give up.
func text(v *wire.Value) (string, *decoder.Error) {
	if v.Kind != wire.String {
		return "", mismatch("String", v.Kind)
	}
	s, whole := v.Text()
	if !whole {
		return "", notValid(decoder.ReasonText)
	}
	return s, nil
}

func readString(v *wire.Value) decoder.Verdict {
	s, err := text(v)
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: s}, Err: err}
}

func readURL(v *wire.Value) decoder.Verdict {
	s, err := text(v)
	if err != nil {
		return decoder.Verdict{Err: err}
	}
	absolute, ok := urlString(s)
	if !ok {
		return decoder.Verdict{Err: corrupted(decoder.ReasonText, decoder.AtValue, "Invalid URL string.")}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: absolute, Type: "URL"}}
}

// readUUID is UUID.init(from:), which takes 8-4-4-4-12 hexadecimal digits.
func readUUID(v *wire.Value) decoder.Verdict {
	s, err := text(v)
	if err != nil {
		return decoder.Verdict{Err: err}
	}
	if !isUUID(s) {
		return decoder.Verdict{Err: corrupted(decoder.ReasonText, decoder.AtValue, "Attempted to decode UUID from invalid UUID string.")}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: strings.ToUpper(s), Type: "UUID"}}
}

func isUUID(s string) bool {
	if len(s) != 36 {
		return false
	}
	for i := range len(s) {
		switch i {
		case 8, 13, 18, 23:
			if s[i] != '-' {
				return false
			}
		default:
			if strings.IndexByte("0123456789abcdefABCDEF", s[i]) < 0 {
				return false
			}
		}
	}
	return true
}

// readData is the .base64 strategy: RFC 4648 section 4 with padding and nothing
// that is not of the alphabet.
func readData(v *wire.Value) decoder.Verdict {
	if v.Kind == wire.Null {
		return decoder.Verdict{Err: valueNotFound("Data")}
	}
	s, err := text(v)
	if err != nil {
		return decoder.Verdict{Err: err}
	}
	bytes, decodeErr := base64.StdEncoding.DecodeString(s)
	if decodeErr != nil || strings.ContainsAny(s, "\r\n") {
		return decoder.Verdict{Err: corrupted(decoder.ReasonText, decoder.AtValue, "Encountered Data is not valid Base64.")}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenBytes, Text: string(bytes)}}
}

// rawEnum is RawRepresentable's init(from:) for an enum: the raw value is decoded
// and must be that of a case.
func (c *compiler) rawEnum(m *model.Model) func(*wire.Value) decoder.Verdict {
	read := c.scalar(m.Raw.Name)
	cases := map[string]string{}
	for _, mc := range m.Cases {
		if mc.Raw != nil {
			cases[rawKey(Constant(mc.Raw, m.Raw))] = mc.Name
		}
	}
	return func(v *wire.Value) decoder.Verdict {
		raw := read(v)
		if raw.Err != nil {
			return raw
		}
		name, ok := cases[rawKey(raw.Seen)]
		if !ok {
			return decoder.Verdict{Err: corrupted(decoder.ReasonConstant, decoder.AtValue,
				fmt.Sprintf("Cannot initialize %s from invalid %s value %s", model.SimpleName(m.Name), m.Raw.Name, raw.Seen.Text))}
		}
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenEnum, Text: name, Type: m.Name}, Loss: raw.Loss}
	}
}

// rawKey is by what raw values are compared.
func rawKey(s decoder.Seen) string {
	if s.Kind == decoder.SeenFloat {
		if f, err := strconv.ParseFloat(s.Text, 64); err == nil && f == 0 {
			return "0.0"
		}
	}
	return canonical(s.Text)
}
