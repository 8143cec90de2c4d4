package clr

import (
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/model"
)

// Format is what XmlConvert throws for a text that is no value of a type.
type Format struct {
	Reason  decoder.Reason
	Message string
}

func noNumber(text string) *Format {
	return &Format{decoder.ReasonText, "FormatException: The input string '" + text + "' was not in a correct format."}
}

func noValue(text, of string) *Format {
	return &Format{decoder.ReasonText, "FormatException: The string '" + text + "' is not a valid " + of + " value."}
}

func noDate(text, of string) *Format {
	f := noValue(text, of)
	f.Reason = decoder.ReasonDate
	return f
}

func unrecognised(text, of string) *Format {
	return &Format{decoder.ReasonDate, "FormatException: String '" + text + "' was not recognized as a valid " + of + "."}
}

// white is what the platform trims around numbers.
const white = " \t\r\n\v\f"

// Lexical reads a text as a value of a type of the platform, by the lexical forms of XML Schema (XmlConvert, .NET 10); data
// is a DataType that XmlSerializer is told, "" for none. known is false where that is not told.
func Lexical(u *model.Type, data, text string) (s decoder.Seen, wrong *Format, known bool) {
	if IsBytes(u) {
		bytes, ok := LooseBase64(text)
		if data == "hexBinary" {
			bytes, ok = Hex(text)
		}
		if !ok {
			return s, &Format{decoder.ReasonText, "XmlException: '" + text + "' is not a valid Base64 text sequence."}, true
		}
		return decoder.Seen{Kind: decoder.SeenBytes, Text: bytes}, nil, true
	}
	trimmed := strings.Trim(text, white)
	if bits, signed := Bits(u); bits > 0 && bits <= 64 {
		return lexicalWhole(text, trimmed, u, bits, signed)
	}
	switch u.Name {
	case "string":
		switch data {
		case "token", "language", "NMTOKEN", "ID", "IDREF", "NCName", "Name":
			text = strings.Trim(text, " \t\r\n")
		}
		return String(text), nil, true
	case "bool":
		switch strings.Trim(text, " \t\r\n") {
		case "true", "1":
			return decoder.Bool(true), nil, true
		case "false", "0":
			return decoder.Bool(false), nil, true
		}
		return s, noValue(text, "Boolean"), true
	case "double", "float":
		bits := IsFloat(u)
		switch trimmed {
		case "INF", "Infinity", "∞":
			return decoder.Seen{Kind: decoder.SeenFloat, Text: "Infinity"}, nil, true
		case "-INF", "-Infinity":
			return decoder.Seen{Kind: decoder.SeenFloat, Text: "-Infinity"}, nil, true
		case "NaN":
			return decoder.Seen{Kind: decoder.SeenFloat, Text: "NaN"}, nil, true
		}
		if !isFloatText(trimmed) {
			return s, noNumber(text), true
		}
		s, ok := Float(trimmed, bits)
		if !ok {
			return s, noNumber(text), true
		}
		return s, nil, true
	case "decimal":
		if strings.ContainsAny(trimmed, "eE") || !isFloatText(trimmed) {
			return s, noNumber(text), true
		}
		d, ok := Decimal(trimmed)
		if !ok {
			return s, &Format{decoder.ReasonRange, "OverflowException: Value was either too large or too small for a Decimal."}, true
		}
		return decoder.Seen{Kind: decoder.SeenDecimal, Text: d}, nil, true
	case "char":
		n, wrong, _ := lexicalWhole(text, trimmed, &model.Type{Kind: model.Named, Name: "ushort"}, 16, false)
		if wrong != nil {
			return s, wrong, true
		}
		code, _ := strconv.Atoi(n.Text)
		return String(string(rune(code))), nil, true
	case "DateTime":
		switch data {
		case "date":
			if s, ok := XSDDay(text); ok {
				return s, nil, true
			}
			return s, unrecognised(text, "DateTime"), true
		case "time":
			if s, ok := XSDTime(text); ok {
				return s, nil, true
			}
			return s, unrecognised(text, "DateTime"), true
		}
		if s, ok := XSDDate(text, false); ok {
			return s, nil, true
		}
		return s, noDate(text, "AllXsd"), true
	case "DateTimeOffset":
		if s, ok := XSDDate(text, true); ok {
			return s, nil, true
		}
		return s, noDate(text, "AllXsd"), true
	case "DateOnly":
		if s, ok := DayOnly(text); ok {
			return s, nil, true
		}
		return s, unrecognised(text, "DateOnly"), true
	case "TimeOnly":
		if len(text) >= 8 && !strings.HasSuffix(strings.ToUpper(text), "M") { // 9:30 PM
			if s, ok := ParseTime(text); ok {
				return s, nil, true
			}
		}
		return s, unrecognised(text, "TimeOnly"), true
	case "TimeSpan":
		if span, ok := Duration(text); ok {
			return String(span), nil, true
		}
		return s, noDate(text, "TimeSpan"), true
	case "Guid":
		if id, ok := AnyGuid(text); ok {
			return String(id), nil, true
		}
		return s, &Format{decoder.ReasonText, "FormatException: Unrecognized Guid format."}, true
	}
	return decoder.Seen{Kind: decoder.SeenUnknown}, nil, false
}

// lexicalWhole reads an integer: digits with a sign, white space around.
func lexicalWhole(text, trimmed string, u *model.Type, bits int, signed bool) (s decoder.Seen, wrong *Format, known bool) {
	digits := strings.TrimPrefix(trimmed, "+")
	if digits == "" || strings.Trim(strings.TrimPrefix(digits, "-"), "0123456789") != "" || digits == "-" || strings.HasPrefix(trimmed, "+-") {
		return s, noNumber(text), true
	}
	n, ok := ParseWhole(digits, bits, signed)
	if !ok {
		return s, &Format{decoder.ReasonRange, "OverflowException: Value was either too large or too small for " + withArticle(Name(u)) + "."}, true
	}
	return decoder.Seen{Kind: decoder.SeenInt, Text: n}, nil, true
}

// withArticle puts a or an before the name of a number's type.
func withArticle(name string) string {
	name = strings.TrimPrefix(name, "System.")
	if strings.ContainsRune("AEIOUaeiou", rune(name[0])) {
		return "an " + name
	}
	return "a " + name
}

// isFloatText says whether a text is a number with a point and an exponent, as NumberStyles.Float takes it.
func isFloatText(text string) bool {
	text = strings.TrimLeft(text, "+-")
	mantissa, exponent := text, ""
	if i := strings.IndexAny(text, "eE"); i >= 0 {
		mantissa, exponent = text[:i], strings.TrimPrefix(strings.TrimPrefix(text[i+1:], "+"), "-")
		if exponent == "" || strings.Trim(exponent, "0123456789") != "" {
			return false
		}
	}
	before, behind, _ := strings.Cut(mantissa, ".")
	return before+behind != "" && strings.Trim(before+behind, "0123456789") == ""
}

// IsBytes says whether a type is byte[].
func IsBytes(t *model.Type) bool {
	return t.Kind == model.List && strings.HasPrefix(t.Name, "[") && t.Args[0].Kind == model.Named && t.Args[0].Model == nil && t.Args[0].Name == "byte"
}
