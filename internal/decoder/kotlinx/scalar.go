package kotlinx

import (
	"math"
	"math/big"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// reasonOf is why a value is not one that is wanted: null, or another kind.
func reasonOf(v *wire.Value) decoder.Reason {
	if v.Kind == wire.Null {
		return decoder.ReasonNull
	}
	return decoder.ReasonKind
}

// literal is the text of a value that is a literal or a text, and whether it stands in quotes; ok is false for
// arrays and objects.
func literal(v *wire.Value) (text string, quoted, ok bool) {
	switch v.Kind {
	case wire.String:
		return jvm.Text(v), true, true
	case wire.Null:
		return "null", false, true
	case wire.Bool, wire.Number:
		return string(v.Raw), false, true
	}
	return "", false, false
}

// whole is AbstractJsonLexer.consumeNumericLiteral: digits with a sign and an exponent, in quotes or not. A
// number beyond 64 bits that wraps to one of the right sign passes, as the lexer has it.
func whole(text string) (n int64, problem string) {
	negative, exponent, up := false, int64(-1), true
	i := 0
	for ; i < len(text); i++ {
		ch := text[i]
		switch {
		case (ch == 'e' || ch == 'E') && exponent < 0:
			if i == 0 {
				return 0, "Unexpected symbol " + string(ch) + " in numeric literal" // without quotes, as the lexer has it
			}
			exponent = 0
			continue
		case (ch == '-' || ch == '+') && exponent >= 0:
			up = ch == '+'
			continue
		case ch == '-':
			if i != 0 {
				return 0, "Unexpected symbol '-' in numeric literal"
			}
			negative = true
			continue
		case strings.IndexByte(" \t\n\r,:{}[]\"", ch) >= 0: // what ends a literal outside of quotes
			if i == 0 {
				return 0, "Expected numeric literal"
			}
			return 0, "Expected closing quotation mark '\"'"
		case ch < '0' || ch > '9':
			return 0, "Unexpected symbol '" + string(ch) + "' in numeric literal"
		}
		digit := int64(ch - '0')
		if exponent >= 0 {
			exponent = exponent*10 + digit
			continue
		}
		if n = n*10 - digit; n > 0 {
			return 0, "Numeric value overflow"
		}
	}
	if i == 0 || negative && i == 1 {
		return 0, "Expected numeric literal"
	}
	if exponent >= 0 {
		power := float64(exponent)
		if !up {
			power = -power
		}
		f := float64(n) * math.Pow(10, power)
		switch {
		case f > math.MaxInt64 || f < math.MinInt64:
			return 0, "Numeric value overflow"
		case math.Floor(f) != f:
			return 0, "Can't convert " + jvm.DoubleToString(f) + " to Long"
		}
		n = jvm.ToLong(f)
	}
	switch {
	case negative:
		return n, ""
	case n == math.MinInt64:
		return 0, "Numeric value overflow"
	}
	return -n, ""
}

// integer reads a whole number of so many bits.
func integer(bits int, name string) func(*wire.Value) decoder.Verdict {
	return func(v *wire.Value) decoder.Verdict {
		text, _, ok := literal(v)
		if !ok {
			return decoder.Verdict{Err: unexpected(decoder.ReasonKind, "Expected numeric literal")}
		}
		n, problem := whole(text)
		if problem != "" {
			reason := reasonOf(v)
			if v.Kind == wire.Number {
				reason = decoder.ReasonRange
			}
			return decoder.Verdict{Err: unexpected(reason, "%s", problem)}
		}
		if bits < 64 && (n < -1<<(bits-1) || n > 1<<(bits-1)-1) {
			return decoder.Verdict{Err: unexpected(decoder.ReasonRange, "Failed to parse %s for input '%d'", name, n)}
		}
		out := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: strconv.FormatInt(n, 10)}}
		if exact, isInt := new(big.Int).SetString(text, 10); isInt && (!exact.IsInt64() || exact.Int64() != n) {
			out.Loss = decoder.LostDigits
		}
		return out
	}
}

// unsigned reads a number without a sign of so many bits: its text by String.toULong.
func unsigned(bits int, name string) func(*wire.Value) decoder.Verdict {
	return func(v *wire.Value) decoder.Verdict {
		text, _, ok := literal(v)
		n, err := strconv.ParseUint(strings.TrimPrefix(text, "+"), 10, bits)
		if !ok || err != nil || strings.HasPrefix(text, "++") {
			err := begin(v, "Failed to parse type '%s' for input '%s'", name, text)
			if v.Kind == wire.Number {
				err.Reason = decoder.ReasonRange
			}
			return decoder.Verdict{Err: err}
		}
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: strconv.FormatUint(n, 10)}}
	}
}

// float reads a number by String.toDouble or toFloat.
func (c *compiler) float(bits int, name string) func(*wire.Value) decoder.Verdict {
	return func(v *wire.Value) decoder.Verdict {
		text, _, ok := literal(v)
		f, parsed := jvm.ParseDouble(text)
		if !ok || !parsed {
			return decoder.Verdict{Err: begin(v, "Failed to parse type '%s' for input '%s'", name, text)}
		}
		if bits == 32 {
			if short, err := strconv.ParseFloat(strings.TrimRight(jvm.Trim(text), "fFdD"), 32); err == nil || math.IsInf(short, 0) {
				f = short
			}
		}
		if (math.IsInf(f, 0) || math.IsNaN(f)) && !c.on("allowSpecialFloatingPointValues") {
			e := unexpected(decoder.ReasonRange, "Unexpected special floating-point value %s. By default, non-finite floating point values are prohibited because they do not conform JSON specification", jvm.DoubleToString(f))
			e.Advice = "Json { allowSpecialFloatingPointValues = true }"
			return decoder.Verdict{Err: e}
		}
		out := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(f, bits)}}
		if v.Kind == wire.Number && !jvm.SameNumber(text, f, bits) {
			out.Loss = decoder.LostDigits
		}
		return out
	}
}

// begin is the error for a text that is none of a type; of an array or an object, that a text should begin there.
func begin(v *wire.Value, format string, args ...any) *decoder.Error {
	if v.Kind >= wire.Array {
		return unexpected(decoder.ReasonKind, "Expected beginning of the string, but got %s", firstOf(v))
	}
	return unexpected(reasonOf(v), format, args...)
}

func boolean(v *wire.Value) decoder.Verdict {
	text, _, _ := literal(v)
	switch strings.ToLower(text) {
	case "true", "false":
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenBool, Text: strings.ToLower(text)}}
	}
	return decoder.Verdict{Err: begin(v, "Expected valid boolean literal prefix, but had '%s'", text)}
}

// character reads a text of one character, in quotes or not.
func character(v *wire.Value) decoder.Verdict {
	text, _, ok := literal(v)
	if !ok || jvm.Chars(text) != 1 {
		return decoder.Verdict{Err: begin(v, "Expected single char, but got '%s'", text)}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: text, Type: "char"}}
}

// text reads a string: in quotes, or, where the Json is lenient, any literal but null.
func (c *compiler) text(v *wire.Value) (string, *decoder.Error) {
	s, quoted, ok := literal(v)
	switch {
	case quoted:
		return s, nil
	case v.Kind == wire.Null:
		found := "Expected string literal but 'null' literal was found"
		if c.on("isLenient") {
			found = "Unexpected 'null' value instead of string literal"
		}
		e := unexpected(decoder.ReasonNull, "%s", found)
		return "", e
	case ok && c.on("isLenient"):
		return s, nil
	case !ok:
		return "", unexpected(decoder.ReasonKind, "Expected beginning of the string, but got %s", firstOf(v))
	}
	return "", unexpected(decoder.ReasonKind, "Expected quotation mark '\"', but had '%.1s' instead", s)
}

func (c *compiler) string(v *wire.Value) decoder.Verdict {
	s, err := c.text(v)
	if err != nil {
		return decoder.Verdict{Err: err}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: s}}
}

// parsed reads a text that a function makes something of; what it cannot is an error of the platform's.
func (c *compiler) parsed(name string, parse func(string) (decoder.Seen, bool)) func(*wire.Value) decoder.Verdict {
	return func(v *wire.Value) decoder.Verdict {
		s, err := c.text(v)
		if err != nil {
			return decoder.Verdict{Err: err}
		}
		seen, ok := parse(s)
		if !ok {
			return decoder.Verdict{Err: unparsed(name, s)}
		}
		return decoder.Verdict{Seen: seen}
	}
}

// unparsed is what the parser of a type throws of a text.
func unparsed(name, s string) *decoder.Error {
	switch name {
	case "Uuid":
		return fault("IllegalArgumentException", decoder.ReasonText, "Expected either a 36-char string in the standard hex-and-dash UUID format or a 32-char hexadecimal string, but was \"%s\" of length %d", s, jvm.Chars(s))
	case "Duration":
		return fault("IllegalArgumentException", decoder.ReasonText, "Invalid ISO duration string format: '%s'.", s)
	case "Instant":
		return fault("InstantFormatException", decoder.ReasonDate, "'%s' is no instant", s)
	}
	return fault("DateTimeFormatException", decoder.ReasonDate, "java.time.format.DateTimeParseException: Text '%s' could not be parsed", s)
}

// scalar is what the library does with a value where a type of that name is declared, nil where it has no
// serializer of its own for it.
func (c *compiler) scalar(name string) func(*wire.Value) decoder.Verdict {
	switch name = model.SimpleName(name); name {
	case "Int":
		return integer(32, "int")
	case "Long":
		return integer(64, "long")
	case "Short":
		return integer(16, "short")
	case "Byte":
		return integer(8, "byte")
	case "UInt":
		return unsigned(32, "UInt")
	case "ULong":
		return unsigned(64, "ULong")
	case "UShort":
		return unsigned(16, "UShort")
	case "UByte":
		return unsigned(8, "UByte")
	case "Float":
		return c.float(32, "float")
	case "Double":
		return c.float(64, "double")
	case "Boolean":
		return boolean
	case "Char":
		return character
	case "String":
		return c.string
	case "Uuid":
		return c.parsed("Uuid", uuid)
	case "Instant":
		return c.parsed("Instant", instant)
	case "Duration":
		return c.parsed("Duration", duration)
	case "LocalDate":
		return c.parsed("LocalDate", localDate)
	case "LocalDateTime":
		return c.parsed("LocalDateTime", localDateTime)
	case "LocalTime":
		return c.parsed("LocalTime", localTime)
	case "Unit":
		return nil
	}
	return nil
}

// constant reads the constants of an enum by their serial names.
func (c *compiler) constant(m *model.Model) func(*wire.Value) decoder.Verdict {
	byName := map[string]string{}
	folded := c.on("decodeEnumsCaseInsensitive")
	note := func(name, constant string) {
		if folded {
			name = strings.ToLower(name)
		}
		if _, known := byName[name]; !known {
			byName[name] = constant
		}
	}
	for _, k := range m.Cases {
		note(k.Marks.Find("SerialName").Text("value", k.Name), k.Name)
		if folded || c.settings.Option("useAlternativeNames") != "false" {
			for _, other := range append(k.Marks.Find("JsonNames").Texts("names"), k.Marks.Find("JsonNames").Texts("value")...) {
				note(other, k.Name)
			}
		}
	}
	return func(v *wire.Value) decoder.Verdict {
		s, err := c.text(v)
		if err != nil {
			return decoder.Verdict{Err: err}
		}
		key := s
		if folded {
			key = strings.ToLower(s)
		}
		name, ok := byName[key]
		if !ok {
			return decoder.Verdict{Err: fault("SerializationException", decoder.ReasonConstant, "%s does not contain element with name '%s' at path %s", serialName(m), s, decoder.PathMark)}
		}
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenEnum, Text: name, Type: m.Name}}
	}
}
