package gson

import (
	"fmt"
	"math"
	"math/big"
	"slices"
	"strconv"
	"strings"
	"time"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// token is how JsonReader names what it has found.
func token(kind wire.Kind) string {
	return map[wire.Kind]string{
		wire.Null: "NULL", wire.Bool: "BOOLEAN", wire.Number: "NUMBER", wire.String: "STRING", wire.Array: "BEGIN_ARRAY", wire.Object: "BEGIN_OBJECT",
	}[kind]
}

// syntax is the JsonSyntaxException that fromJson makes of what adapters throw.
func syntax(reason decoder.Reason, message string) *decoder.Error {
	return &decoder.Error{Kind: "JsonSyntaxException", Reason: reason, Message: "JsonSyntaxException: " + message}
}

// expected is the error for a value of another kind.
func expected(what string, kind wire.Kind) *decoder.Error {
	reason := decoder.ReasonKind
	if kind == wire.Null {
		reason = decoder.ReasonNull
	}
	return syntax(reason, fmt.Sprintf("java.lang.IllegalStateException: Expected %s but was %s", what, token(kind)))
}

func numberFormat(reason decoder.Reason, detail string) *decoder.Error {
	return syntax(reason, "java.lang.NumberFormatException: "+detail)
}

// notNumber is what Double.parseDouble throws.
func notNumber(text string) string {
	if jvm.Trim(text) == "" {
		return "empty String"
	}
	return fmt.Sprintf("For input string: %q", text)
}

// stringOf is JsonReader.nextString: of a number, its text.
func stringOf(v *wire.Value) (string, *decoder.Error) {
	switch v.Kind {
	case wire.String:
		return jvm.Text(v), nil
	case wire.Number:
		return string(v.Raw), nil
	}
	return "", expected("a string", v.Kind)
}

// whole is nextInt or nextLong: of a string, what it reads as.
func whole(v *wire.Value, article string, bits int) (n int64, lossy bool, err *decoder.Error) {
	if v.Kind != wire.Number && v.Kind != wire.String {
		return 0, false, expected(article, v.Kind)
	}
	text := string(v.Raw)
	if v.Kind == wire.String {
		text = jvm.Text(v)
	}
	if n, ok := jvm.ParseWhole(text, bits); ok {
		return n, false, nil
	}
	f, ok := jvm.ParseDouble(text)
	if !ok {
		return 0, false, numberFormat(decoder.ReasonKind, notNumber(text))
	}
	n = jvm.ToLong(f)
	if bits == 32 {
		n = jvm.ToInt(f)
	}
	if float64(n) != f {
		return 0, false, numberFormat(decoder.ReasonRange, fmt.Sprintf("Expected %s but was %s", article, text))
	}
	// A double may stand for another whole number than the text.
	lossy = false
	if bits == 64 && math.Abs(f) >= 1<<53 {
		exact, isExact := new(big.Rat).SetString(jvm.Trim(text))
		lossy = isExact && exact.Cmp(new(big.Rat).SetInt64(n)) != 0
	}
	return n, lossy, nil
}

func integer(v *wire.Value, article string, bits int) decoder.Verdict {
	n, lossy, err := whole(v, article, bits)
	if err != nil {
		return decoder.Verdict{Err: err}
	}
	out := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: strconv.FormatInt(n, 10)}}
	if lossy {
		out.Loss = decoder.LostDigits
	}
	return out
}

// narrow is the adapter of byte and short: the int is cut to so many bits where it is
// at most what they hold unsigned.
func narrow(v *wire.Value, bits int, name string) decoder.Verdict {
	n, _, err := whole(v, "an int", 32)
	if err != nil {
		return decoder.Verdict{Err: err}
	}
	if n < -1<<(bits-1) || n > 1<<bits-1 {
		return decoder.Verdict{Err: syntax(decoder.ReasonRange, fmt.Sprintf("Lossy conversion from %d to %s", n, name))}
	}
	cut := n
	if n >= 1<<(bits-1) {
		cut -= 1 << bits
	}
	out := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: strconv.FormatInt(cut, 10)}}
	if cut != n {
		out.Loss = decoder.LostDigits
	}
	return out
}

// float is nextDouble, cut to a float where there are 32 bits.
func float(v *wire.Value, bits int) decoder.Verdict {
	if v.Kind != wire.Number && v.Kind != wire.String {
		return decoder.Verdict{Err: expected("a double", v.Kind)}
	}
	text := string(v.Raw)
	if v.Kind == wire.String {
		text = jvm.Text(v)
	}
	f, ok := jvm.ParseDouble(text)
	if !ok { // thrown as it is, since nothing in fromJson catches it
		return decoder.Verdict{Err: &decoder.Error{Kind: "NumberFormatException", Reason: decoder.ReasonKind, Message: "NumberFormatException: " + notNumber(text)}}
	}
	if bits == 32 {
		f = float64(float32(f))
	}
	out := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(f, bits)}}
	if v.Kind == wire.Number && !jvm.SameNumber(text, f, bits) {
		out.Loss = decoder.LostDigits
	}
	return out
}

func boolean(v *wire.Value) decoder.Verdict {
	switch v.Kind {
	case wire.Bool:
		return decoder.Verdict{Seen: decoder.Bool(v.True())}
	case wire.String:
		text := jvm.Text(v)
		out := decoder.Verdict{Seen: decoder.Bool(strings.EqualFold(text, "true"))}
		if !strings.EqualFold(text, "true") && !strings.EqualFold(text, "false") {
			out.Loss = decoder.Defaulted
		}
		return out
	}
	return decoder.Verdict{Err: expected("a boolean", v.Kind)}
}

func character(v *wire.Value) decoder.Verdict {
	s, err := stringOf(v)
	if err != nil {
		return decoder.Verdict{Err: err}
	}
	if jvm.Chars(s) != 1 {
		return decoder.Verdict{Err: syntax(decoder.ReasonText, "Expecting character, got: "+s)}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: s, Type: "char"}}
}

func text(v *wire.Value) decoder.Verdict {
	if v.Kind == wire.Bool {
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: string(v.Raw)}}
	}
	s, err := stringOf(v)
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: s}, Err: err}
}

// parsed reads a string by a function; what it does not take fails as in the adapters
// of Gson that name the type.
func parsed(kind decoder.SeenKind, name string, parse func(string) (string, bool)) func(*wire.Value) decoder.Verdict {
	return func(v *wire.Value) decoder.Verdict {
		s, err := stringOf(v)
		if err != nil {
			return decoder.Verdict{Err: err}
		}
		out, ok := parse(s)
		if !ok {
			return decoder.Verdict{Err: syntax(decoder.ReasonText, fmt.Sprintf("Failed parsing '%s' as %s", s, name))}
		}
		seen := decoder.Seen{Kind: kind, Text: out}
		if kind == decoder.SeenString {
			seen.Type = name
		}
		return decoder.Verdict{Seen: seen}
	}
}

func url(v *wire.Value) decoder.Verdict {
	s, err := stringOf(v)
	switch {
	case err != nil:
		return decoder.Verdict{Err: err}
	case s == "null":
		return decoder.Verdict{Loss: decoder.Defaulted}
	}
	if problem := jvm.ParseURL(s); problem != "" {
		return decoder.Verdict{Err: syntax(decoder.ReasonText, "java.net.MalformedURLException: "+problem)}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: jvm.Trim(s), Type: "URL"}}
}

func uri(v *wire.Value) decoder.Verdict {
	s, err := stringOf(v)
	switch {
	case err != nil:
		return decoder.Verdict{Err: err}
	case s == "null":
		return decoder.Verdict{Loss: decoder.Defaulted}
	}
	if problem := jvm.ParseURI(s); problem != "" {
		return decoder.Verdict{Err: &decoder.Error{Kind: "JsonIOException", Reason: decoder.ReasonText, Message: "JsonIOException: java.net.URISyntaxException: " + problem}}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: s, Type: "URI"}}
}

// date is DefaultDateTypeAdapter: the format that is set, or that of the device's
// language, taken to be English; then ISO 8601.
func (c *compiler) date() func(*wire.Value) decoder.Verdict {
	patterns := []string{c.settings.Option("dates.pattern")}
	if patterns[0] == "" { // today's form, and that of Java 8
		patterns = []string{"MMM d, yyyy, h:mm:ss a", "MMM d, yyyy h:mm:ss a"}
	}
	return func(v *wire.Value) decoder.Verdict {
		s, err := stringOf(v)
		if err != nil {
			return decoder.Verdict{Err: err}
		}
		var at time.Time
		ok := false
		for _, pattern := range patterns {
			if !ok {
				at, ok, _ = jvm.ParsePattern(pattern, s, time.UTC)
			}
		}
		if !ok {
			at, ok = jvm.ParseISO(s, time.UTC)
		}
		if !ok {
			return decoder.Verdict{Err: syntax(decoder.ReasonDate, fmt.Sprintf("Failed parsing '%s' as Date", s))}
		}
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenDate, Seconds: float64(at.UnixMilli()) / 1000}}
	}
}

// number is the adapter of java.lang.Number: it keeps the text, whatever it is.
func number(v *wire.Value) decoder.Verdict {
	if v.Kind != wire.Number && v.Kind != wire.String {
		return decoder.Verdict{Err: syntax(decoder.ReasonKind, "Expecting number, got: "+token(v.Kind))}
	}
	s, _ := stringOf(v)
	if _, ok := jvm.ParseDecimal(s); !ok {
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenDecimal, Text: s}, Loss: decoder.Defaulted}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenDecimal, Text: s}}
}

// numberBy is what a ToNumberPolicy makes of a number; ok is false for a strategy that
// is code of the app.
func numberBy(policy, text string) (seen decoder.Seen, ok bool) {
	switch policy {
	case "DOUBLE", "LONG_OR_DOUBLE":
		if n, whole := jvm.ParseWhole(text, 64); whole && policy != "DOUBLE" {
			return decoder.Seen{Kind: decoder.SeenInt, Text: strconv.FormatInt(n, 10)}, true
		}
		f, _ := jvm.ParseDouble(text)
		return decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(f, 64)}, true
	case "BIG_DECIMAL":
		d, _ := jvm.ParseDecimal(text)
		return decoder.Seen{Kind: decoder.SeenDecimal, Text: d}, true
	case "LAZILY_PARSED_NUMBER":
		return decoder.Seen{Kind: decoder.SeenDecimal, Text: text}, true
	}
	return decoder.Seen{}, false
}

// numberAs is the adapter of java.lang.Number where a strategy is set, nil where that
// is code of the app.
func numberAs(policy string) func(v *wire.Value) decoder.Verdict {
	if _, ok := numberBy(policy, "0"); !ok {
		return nil
	}
	return func(v *wire.Value) decoder.Verdict {
		if v.Kind != wire.Number && v.Kind != wire.String {
			return decoder.Verdict{Err: syntax(decoder.ReasonKind, "Expecting number, got: "+token(v.Kind))}
		}
		text, _ := stringOf(v)
		_, isDouble := jvm.ParseDouble(text)
		_, isDecimal := jvm.ParseDecimal(text)
		switch {
		case policy == "DOUBLE" && !isDouble:
			return decoder.Verdict{Err: &decoder.Error{Kind: "NumberFormatException", Reason: decoder.ReasonKind, Message: "NumberFormatException: " + notNumber(text)}}
		case policy == "LONG_OR_DOUBLE" && !isDouble, policy == "BIG_DECIMAL" && !isDecimal:
			return decoder.Verdict{Err: &decoder.Error{Kind: "JsonParseException", Reason: decoder.ReasonKind, Message: "JsonParseException: Cannot parse " + text}}
		}
		seen, _ := numberBy(policy, text)
		return decoder.Verdict{Seen: seen}
	}
}

// scalar is what Gson does with a value where a type of that name is declared, nil
// where the name is none that it has an adapter for.
func (c *compiler) scalar(t *model.Type) func(*wire.Value) decoder.Verdict {
	switch jvm.Scalar(t) {
	case "int":
		return func(v *wire.Value) decoder.Verdict { return integer(v, "an int", 32) }
	case "long":
		return func(v *wire.Value) decoder.Verdict { return integer(v, "a long", 64) }
	case "short":
		return func(v *wire.Value) decoder.Verdict { return narrow(v, 16, "short") }
	case "byte":
		return func(v *wire.Value) decoder.Verdict { return narrow(v, 8, "byte") }
	case "float":
		return func(v *wire.Value) decoder.Verdict { return float(v, 32) }
	case "double":
		return func(v *wire.Value) decoder.Verdict { return float(v, 64) }
	case "boolean":
		return boolean
	case "char":
		return character
	}
	switch t.Name {
	case "String":
		return text
	case "BigDecimal":
		return parsed(decoder.SeenDecimal, "BigDecimal", jvm.ParseDecimal)
	case "BigInteger":
		return parsed(decoder.SeenInt, "BigInteger", jvm.ParseInteger)
	case "Number":
		if strategy := c.settings.Option("setNumberToNumberStrategy"); strategy != "" && strategy != "LAZILY_PARSED_NUMBER" {
			return numberAs(strategy)
		}
		return number
	case "AtomicInteger":
		return func(v *wire.Value) decoder.Verdict { return integer(v, "an int", 32) }
	case "AtomicLong":
		return func(v *wire.Value) decoder.Verdict { return integer(v, "a long", 64) }
	case "AtomicBoolean":
		return func(v *wire.Value) decoder.Verdict {
			if v.Kind != wire.Bool {
				return decoder.Verdict{Err: expected("a boolean", v.Kind)}
			}
			return boolean(v)
		}
	case "Locale":
		read := parsed(decoder.SeenString, "Locale", func(s string) (string, bool) {
			parts := strings.FieldsFunc(s, func(r rune) bool { return r == '_' })
			return jvm.Locale(parts[:min(3, len(parts))]...), true
		})
		return func(v *wire.Value) decoder.Verdict {
			if s, err := stringOf(v); err == nil && v.Kind != wire.Null && strings.Trim(s, "_") == "" { // no language is left to make one of
				return decoder.Verdict{Err: &decoder.Error{Kind: "NullPointerException", Reason: decoder.ReasonText, Message: "NullPointerException: null"}}
			}
			return read(v)
		}
	case "Currency":
		return parsed(decoder.SeenString, "Currency", func(s string) (string, bool) { return s, jvm.IsCurrency(s) })
	case "UUID":
		return parsed(decoder.SeenString, "UUID", jvm.ParseUUID)
	case "URL":
		return url
	case "URI":
		return uri
	case "StringBuilder", "StringBuffer":
		return func(v *wire.Value) decoder.Verdict {
			s, err := stringOf(v)
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: s}, Err: err}
		}
	case "Date":
		if c.settings.Option("dates") == "" {
			if pattern := c.settings.Option("dates.pattern"); pattern != "" {
				if _, _, known := jvm.ParsePattern(pattern, "", time.UTC); !known {
					return nil
				}
			}
			return c.date()
		}
	}
	return nil
}

// ownText says whether what toString of a constant answers is code of the app.
func ownText(m *model.Model) bool {
	return slices.ContainsFunc(m.Methods, func(f *model.Method) bool { return f.Name == "toString" && len(f.Params) == 0 }) ||
		slices.ContainsFunc(m.Cases, func(k *model.Case) bool { return k.Text })
}

// constant is the adapter of an enum: an unknown text is null. Annotations rename a
// constant and give it further names; what toString answers, its name by default, is
// tried last.
func constant(m *model.Model) func(*wire.Value) decoder.Verdict {
	byName, byText, open := map[string]string{}, map[string]string{}, ownText(m)
	for _, k := range m.Cases {
		name := k.Name
		if a := k.Marks.Find("SerializedName"); a != nil {
			open = open || a.Untold("value", "alternate") != ""
			name = a.Text("value", name)
			for _, other := range a.Texts("alternate") {
				byName[other] = k.Name
			}
		}
		byName[name] = k.Name
		byText[k.Name] = k.Name
	}
	return func(v *wire.Value) decoder.Verdict {
		s, err := stringOf(v)
		if err != nil {
			return decoder.Verdict{Err: err}
		}
		name, ok := byName[s]
		if !ok && !open {
			name, ok = byText[s]
		}
		switch {
		case !ok && open:
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
		case !ok:
			return decoder.Verdict{Loss: decoder.NoConstant}
		}
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenEnum, Text: name, Type: m.Name}}
	}
}
