package sharp

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
)

// parsing is Parse, TryParse and their like of a type that texts are made into.
func (m *Machine) parsing(of, name string, args []Value, x *code.Expr) (Value, bool, error) {
	try := strings.HasPrefix(name, "Try")
	exact := strings.HasSuffix(name, "ParseExact")
	switch name {
	case "Parse", "TryParse", "ParseExact", "TryParseExact":
	case "IsNaN":
		return BoolOf(len(args) == 1 && math.IsNaN(args[0].Float)), true, nil
	case "IsInfinity":
		return BoolOf(len(args) == 1 && math.IsInf(args[0].Float, 0)), true, nil
	case "IsFinite":
		return BoolOf(len(args) == 1 && !math.IsNaN(args[0].Float) && !math.IsInf(args[0].Float, 0)), true, nil
	case "FromUnixTimeSeconds", "FromUnixTimeMilliseconds":
		if len(args) == 1 && args[0].Kind == Int {
			n, scale, unit := args[0].Int, int64(1), "milliseconds"
			if name == "FromUnixTimeSeconds" {
				scale, unit = 1000, "seconds"
			}
			least, most := -62135596800000/scale, 253402300799999/scale // of the years 1 to 9999
			if n < least || n > most {
				return Value{}, true, m.throw("ArgumentOutOfRangeException", fmt.Sprintf("Valid values are between %d and %d, inclusive. (Parameter '%s') Actual value was %d.", least, most, unit, n))
			}
			return unixDate(of, n*scale), true, nil
		}
		return Value{}, false, nil
	case "FromSeconds", "FromMinutes", "FromHours", "FromMilliseconds", "FromDays":
		if n, ok := args[0].number(); ok && of == "TimeSpan" {
			return spanOf(n * map[string]float64{"FromSeconds": 1, "FromMinutes": 60, "FromHours": 3600, "FromMilliseconds": 0.001, "FromDays": 86400}[name]), true, nil
		}
		return Value{}, false, nil
	case "FromDateTime":
		if of == "DateOnly" && len(args) == 1 && args[0].Kind == Plain && len(args[0].Seen.Text) >= 10 {
			s := args[0].Seen
			s.Text = s.Text[:10]
			return plainOf("DateOnly", s), true, nil
		}
		return Value{}, false, nil
	case "IsDigit", "IsLetter", "IsUpper", "IsLower", "IsWhiteSpace", "ToUpper", "ToLower", "ToUpperInvariant", "ToLowerInvariant":
		if of == "char" && len(args) == 1 && args[0].Kind == Char {
			c := args[0].Text
			switch name {
			case "IsDigit":
				return BoolOf(c >= "0" && c <= "9"), true, nil
			case "IsLetter":
				return BoolOf(strings.ToUpper(c) != strings.ToLower(c)), true, nil
			case "IsUpper":
				return BoolOf(strings.ToLower(c) != c), true, nil
			case "IsLower":
				return BoolOf(strings.ToUpper(c) != c), true, nil
			case "IsWhiteSpace":
				return BoolOf(strings.TrimSpace(c) == ""), true, nil
			case "ToUpper", "ToUpperInvariant":
				return Value{Kind: Char, Text: strings.ToUpper(c), Of: "char"}, true, nil
			default:
				return Value{Kind: Char, Text: strings.ToLower(c), Of: "char"}, true, nil
			}
		}
		return Value{}, false, nil
	default:
		return Value{}, false, nil
	}
	out := outAt(args)
	if len(args) == 0 {
		return Value{}, false, nil
	}
	zero := m.zero(&model.Type{Kind: model.Named, Name: of})
	if args[0].IsNull() {
		if try {
			put(args, out, zero)
			return BoolOf(false), true, nil
		}
		return Value{}, true, m.throw("ArgumentNullException", "Value cannot be null. (Parameter 's')")
	}
	text, ok := textAt(args, 0)
	if !ok {
		return Value{}, false, nil
	}
	var v Value
	var err error
	known := true
	if exact {
		formats := []string{}
		if s, ok := textAt(args, 1); ok {
			formats = append(formats, s)
		} else if args[1].Kind == Items {
			for _, e := range args[1].list().items {
				formats = append(formats, e.Text)
			}
		}
		v, known, err = m.exactly(of, text, formats, args)
	} else {
		v, known, err = m.parsed(of, text, args)
	}
	if !known {
		return v, false, nil
	}
	if try {
		if err != nil {
			put(args, out, zero)
			return BoolOf(false), true, nil
		}
		put(args, out, v)
		return BoolOf(true), true, nil
	}
	return v, true, err
}

// hasWord says whether an argument is a constant of the platform's of a name.
func hasWord(args []Value, name string) bool {
	for _, a := range args {
		if w, ok := a.Ref.(*platformWord); ok && w.name == name {
			return true
		}
	}
	return false
}

func (m *Machine) format(text string) error {
	return m.throw("FormatException", "The input string '"+text+"' was not in a correct format.")
}

// parsed is what Parse makes of a text.
func (m *Machine) parsed(of, text string, args []Value) (v Value, known bool, err error) {
	trimmed := strings.TrimSpace(text)
	t := &model.Type{Kind: model.Named, Name: of}
	if bits, signed := clr.Bits(t); bits > 0 {
		if hasWord(args, "HexNumber") {
			return v, false, nil
		}
		digits, ok := clr.ParseWhole(trimmed, 128, true)
		if !ok {
			return v, true, m.format(text)
		}
		if _, ok := clr.ParseWhole(digits, bits, signed); !ok {
			return v, true, m.throw("OverflowException", "Value was either too large or too small for an Int32.")
		}
		n, err := strconv.ParseInt(digits, 10, 64)
		if err != nil {
			u, _ := strconv.ParseUint(digits, 10, 64)
			n = int64(u)
		}
		return numberOf(n, of), true, nil
	}
	switch of {
	case "double", "float":
		plain, ok := grouped(trimmed, true)
		if hasWord(args, "Float") && strings.Contains(trimmed, ",") { // NumberStyles.Float, which takes no groups
			ok = false
		}
		if !ok {
			switch trimmed {
			case "NaN":
				return floatOf(math.NaN()), true, nil
			case "Infinity", "∞":
				return floatOf(math.Inf(1)), true, nil
			case "-Infinity", "-∞":
				return floatOf(math.Inf(-1)), true, nil
			}
			return v, true, m.format(text)
		}
		n, err := strconv.ParseFloat(plain, 64)
		if err != nil && !math.IsInf(n, 0) {
			return v, true, m.format(text)
		}
		v = floatOf(n)
		if of == "float" {
			v.Of, v.Float = "float", float64(float32(n))
		}
		return v, true, nil
	case "decimal":
		plain, ok := grouped(trimmed, false)
		if !ok {
			return v, true, m.format(text)
		}
		d, ok := clr.Decimal(plain)
		if !ok {
			return v, true, m.throw("OverflowException", "Value was either too large or too small for a Decimal.")
		}
		return decimalOf(d), true, nil
	case "bool":
		switch strings.ToLower(trimmed) {
		case "true":
			return BoolOf(true), true, nil
		case "false":
			return BoolOf(false), true, nil
		}
		return v, true, m.throw("FormatException", "String '"+text+"' was not recognized as a valid Boolean.")
	case "Guid":
		if s, ok := clr.LooseGuid(trimmed); ok {
			return plainOf("Guid", s), true, nil
		}
		return v, true, m.throw("FormatException", "Guid should contain 32 digits with 4 dashes.")
	case "TimeSpan":
		if s, ok := clr.TimeSpan(trimmed); ok {
			return plainOf("TimeSpan", clr.String(s)), true, nil
		}
		return v, true, m.throw("FormatException", "String '"+text+"' was not recognized as a valid TimeSpan.")
	case "TimeOnly":
		if s, ok := clr.ParseTime(trimmed); ok {
			return plainOf("TimeOnly", s), true, nil
		}
		return v, true, m.throw("FormatException", "String '"+text+"' was not recognized as a valid TimeOnly.")
	case "Version":
		if s, ok := clr.Version(trimmed); ok {
			return plainOf("Version", s), true, nil
		}
		return v, true, m.throw("ArgumentException", "Version string portion was too short or too long.")
	case "DateTime", "DateTimeOffset", "DateOnly":
		s, ok := clr.ParseDate(trimmed)
		if !ok {
			return v, true, m.throw("FormatException", "String '"+text+"' was not recognized as a valid DateTime.")
		}
		if s.Kind == decoder.SeenUnknown {
			return v, false, nil
		}
		return m.dated(of, s, args)
	case "char":
		if len([]rune(text)) == 1 {
			return Value{Kind: Char, Text: text, Of: "char"}, true, nil
		}
		return v, true, m.format(text)
	}
	return v, false, nil
}

// dated is a date as a type has it, with what the styles say of its zone.
func (m *Machine) dated(of string, s decoder.Seen, args []Value) (Value, bool, error) {
	zoned := strings.HasSuffix(s.Text, "Z") || len(s.Text) > 27 && (s.Text[len(s.Text)-6] == '+' || s.Text[len(s.Text)-6] == '-')
	switch of {
	case "DateOnly":
		if !strings.Contains(s.Text, "T00:00:00.0000000") || zoned {
			return Value{}, true, m.throw("FormatException", "String was not recognized as a valid DateOnly.")
		}
		s.Text = s.Text[:10]
	case "DateTimeOffset":
		if strings.HasSuffix(s.Text, "Z") {
			s.Text = strings.TrimSuffix(s.Text, "Z") + "+00:00"
		} else if !zoned {
			s.Text += "+00:00"
		}
	default:
		if zoned {
			s = clr.Local(s, zoneOf(s.Text))
			if !hasWord(args, "RoundtripKind") && !hasWord(args, "AdjustToUniversal") {
				s.Text = strings.TrimSuffix(s.Text, "Z") + "+00:00" // local, in a zone that is taken for UTC
			}
		} else if hasWord(args, "AssumeUniversal") && hasWord(args, "AdjustToUniversal") {
			s.Text += "Z"
		}
	}
	return plainOf(of, s), true, nil
}

func zoneOf(text string) string {
	if strings.HasSuffix(text, "Z") {
		return "Z"
	}
	return text[len(text)-6:]
}

// grouped takes the commas out of a number, and says whether it is one; exponent says that it may have one.
func grouped(text string, exponent bool) (string, bool) {
	rest := strings.TrimLeft(text, "+-")
	if len(text)-len(rest) > 1 || rest == "" || strings.Trim(rest, "0123456789.,eE+-") != "" || !exponent && strings.ContainsAny(rest, "eE") {
		return "", false
	}
	before, behind, _ := strings.Cut(rest, ".")
	if strings.Contains(behind, ",") || before != "" && before[0] == ',' {
		return "", false
	}
	return strings.TrimPrefix(strings.ReplaceAll(text, ",", ""), "+"), true
}

// exactly is ParseExact: by one of some formats.
func (m *Machine) exactly(of, text string, formats []string, args []Value) (Value, bool, error) {
	for _, format := range formats {
		if of == "TimeSpan" {
			seconds, ok, known := spanByFormat(text, format)
			if !known {
				return Value{}, false, nil
			}
			if ok {
				return spanOf(seconds), true, nil
			}
			continue
		}
		s, ok, known := clr.ByFormat(text, format)
		if !known {
			return Value{}, false, nil
		}
		if !ok {
			continue
		}
		switch of {
		case "DateOnly":
			s.Text = s.Text[:10]
			return plainOf(of, s), true, nil
		case "TimeOnly":
			return plainOf(of, clr.String(s.Text[11:27])), true, nil
		}
		return m.dated(of, s, args)
	}
	return Value{}, true, m.throw("FormatException", "String '"+text+"' was not recognized as a valid DateTime.")
}

func unixDate(of string, ms int64) Value {
	s := clr.UnixMilli(ms)
	if of == "DateTimeOffset" {
		s.Text = strings.TrimSuffix(s.Text, "Z") + "+00:00"
	}
	return plainOf(of, s)
}

func spanOf(seconds float64) Value { return plainOf("TimeSpan", clr.String(clr.SpanText(seconds))) }

// spanByFormat reads a time span by a format of its parts (custom TimeSpan format strings); known is false for a format
// that is not followed.
func spanByFormat(text, format string) (seconds float64, ok, known bool) {
	if len(format) == 1 { // a standard one
		return 0, false, false
	}
	limits := map[byte]struct{ scale, most int }{'d': {86400, 10675199}, 'h': {3600, 23}, 'm': {60, 59}, 's': {1, 59}}
	at := 0
	for i := 0; i < len(format); {
		c := format[i]
		run := 1
		for i+run < len(format) && format[i+run] == c {
			run++
		}
		of, part := limits[c]
		switch {
		case part:
			end := at
			for end < len(text) && end-at < max(run, 2) && text[end] >= '0' && text[end] <= '9' {
				end++
			}
			n, err := strconv.Atoi(text[at:end])
			if err != nil || end-at < run || n > of.most {
				return 0, false, true
			}
			seconds += float64(n * of.scale)
			at, i = end, i+run
		case c == '\\' && i+1 < len(format):
			if at >= len(text) || text[at] != format[i+1] {
				return 0, false, true
			}
			at, i = at+1, i+2
		default:
			return 0, false, false
		}
	}
	return seconds, at == len(text), true
}
