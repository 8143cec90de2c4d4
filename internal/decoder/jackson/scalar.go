package jackson

import (
	"fmt"
	"math"
	"math/big"
	"strconv"
	"strings"
	"time"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// isFloat says whether a number is written as one with a fraction or an exponent: the
// parser tells such numbers from whole ones.
func isFloat(v *wire.Value) bool { return strings.ContainsAny(string(v.Raw), ".eE") }

// token names the kind of a value as messages do.
func token(v *wire.Value) string {
	switch v.Kind {
	case wire.Null:
		return "Null value (token `JsonToken.VALUE_NULL`)"
	case wire.Bool:
		if v.True() {
			return "Boolean value (token `JsonToken.VALUE_TRUE`)"
		}
		return "Boolean value (token `JsonToken.VALUE_FALSE`)"
	case wire.Number:
		if isFloat(v) {
			return "Floating-point value (token `JsonToken.VALUE_NUMBER_FLOAT`)"
		}
		return "Integer value (token `JsonToken.VALUE_NUMBER_INT`)"
	case wire.String:
		return "String value (token `JsonToken.VALUE_STRING`)"
	case wire.Array:
		return "Array value (token `JsonToken.START_ARRAY`)"
	}
	return "Object value (token `JsonToken.START_OBJECT`)"
}

func fault(kind string, reason decoder.Reason, format string, args ...any) *decoder.Error {
	return &decoder.Error{Kind: kind, Reason: reason, Message: kind + ": " + fmt.Sprintf(format, args...)}
}

// mismatched is the error for a value of another kind.
func mismatched(typ string, v *wire.Value) *decoder.Error {
	reason := decoder.ReasonKind
	if v.Kind == wire.Null {
		reason = decoder.ReasonNull
	}
	return fault("MismatchedInputException", reason, "Cannot deserialize value of type `%s` from %s", typ, token(v))
}

// weird is the error for a text that does not read as the type.
func weird(typ, text, detail string, reason decoder.Reason) *decoder.Error {
	return fault("InvalidFormatException", reason, "Cannot deserialize value of type `%s` from String %q: %s", typ, text, detail)
}

func outOfRange(text, of string) *decoder.Error {
	return fault("JsonMappingException", decoder.ReasonRange, "Numeric value (%s) out of range of %s", text, of)
}

// scalar is how a value is read where a scalar is declared: primitive says that there is
// no null.
type scalar struct {
	c         *compiler
	typ       string // as messages have it
	held      string // the type that texts are read as, where that is another
	primitive bool
	zero      decoder.Seen
}

// strict is what ALLOW_COERCION_OF_SCALARS, switched off, makes of a value that would
// have to be converted (CoercionConfigs.findCoercion).
func (s *scalar) strict(v *wire.Value) *decoder.Error {
	if !s.c.off("ALLOW_COERCION_OF_SCALARS") {
		return nil
	}
	text := ""
	if v.Kind == wire.String {
		text = jvm.Text(v)
	}
	switch {
	case v.Kind == wire.String && jvm.Trim(text) == "":
		return fault("MismatchedInputException", decoder.ReasonKind, "Cannot coerce empty String (%q) to `%s` value (but could if coercion was enabled using `CoercionConfig`)", text, s.typ)
	case v.Kind == wire.String:
		return fault("MismatchedInputException", decoder.ReasonKind, "Cannot coerce String value (%q) to `%s` value (but might if coercion using `CoercionConfig` was enabled)", text, s.typ)
	case v.Kind == wire.Number && isFloat(v):
		return fault("MismatchedInputException", decoder.ReasonKind, "Cannot coerce Floating-point value (%s) to `%s` value (but could if coercion was enabled using `CoercionConfig`)", v.Raw, s.typ)
	}
	return fault("MismatchedInputException", decoder.ReasonKind, "Cannot coerce Integer value (%s) to `%s` value (but could if coercion was enabled using `CoercionConfig`)", v.Raw, s.typ)
}

// texts is the type that messages about texts name.
func (s *scalar) texts() string {
	if s.held != "" {
		return s.held
	}
	return s.typ
}

// nothing is what null, an empty string and the text null become. what is sent, in the
// words of the error that a feature makes of it.
func (s *scalar) nothing(what string) decoder.Verdict {
	if s.primitive && what != "" && s.c.on("FAIL_ON_NULL_FOR_PRIMITIVES") {
		return decoder.Verdict{Err: fault("MismatchedInputException", decoder.ReasonNull, "Cannot coerce %s to `%s` value (disable `DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES` to allow)", what, s.typ)}
	}
	if s.primitive {
		return decoder.Verdict{Seen: s.zero, Loss: decoder.Zeroed}
	}
	return decoder.Verdict{}
}

// text takes a string apart: done says that it is one that becomes nothing.
func (s *scalar) text(v *wire.Value) (text string, done bool) {
	text = jvm.Trim(jvm.Text(v))
	return text, text == "" || text == "null"
}

// empty is how messages call a text that stands for null.
func empty(text string) string {
	if text == "null" {
		return `String "null"`
	}
	return "`null`"
}

func (s *scalar) null() decoder.Verdict {
	if s.primitive && s.c.on("FAIL_ON_NULL_FOR_PRIMITIVES") {
		return decoder.Verdict{Err: fault("MismatchedInputException", decoder.ReasonNull, "Cannot map `null` into type `%s` (set DeserializationConfig.DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES to 'false' to allow)", s.typ)}
	}
	return s.nothing("")
}

// whole reads an integer of so many bits.
func (s *scalar) whole(bits int) func(*wire.Value) decoder.Verdict {
	name := map[int]string{8: "Java byte", 16: "Java short", 32: "int (-2147483648 - 2147483647)", 64: "long (-9223372036854775808 - 9223372036854775807)"}[bits]
	low, high := int64(-1)<<(bits-1), int64(1)<<(bits-1)-1
	if bits == 8 {
		high = 255 // an unsigned one is taken too, and wraps
	}
	take := func(n int64, lossy bool) decoder.Verdict {
		cut := n
		if bits == 8 {
			cut = int64(int8(n))
		}
		out := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: strconv.FormatInt(cut, 10)}}
		if lossy || cut != n {
			out.Loss = decoder.LostDigits
		}
		return out
	}
	return func(v *wire.Value) decoder.Verdict {
		switch v.Kind {
		case wire.Null:
			return s.null()
		case wire.String:
			if err := s.strict(v); err != nil {
				return decoder.Verdict{Err: err}
			}
			text, done := s.text(v)
			if done {
				return s.nothing(empty(text))
			}
			n, err := strconv.ParseInt(text, 10, 64)
			switch {
			case err != nil && err.(*strconv.NumError).Err != strconv.ErrRange || err != nil && bits == 64:
				return decoder.Verdict{Err: weird(s.texts(), text, "not a valid `"+s.texts()+"` value", decoder.ReasonKind)}
			case err != nil || n < low || n > high:
				detail := fmt.Sprintf("overflow, value cannot be represented as %d-bit value", bits)
				if bits == 32 {
					detail = fmt.Sprintf("Overflow: numeric value (%s) out of range of int (-2147483648 -2147483647)", text)
				}
				return decoder.Verdict{Err: weird(s.texts(), text, detail, decoder.ReasonRange)}
			}
			return take(n, false)
		case wire.Number:
			if !isFloat(v) {
				n, err := strconv.ParseInt(string(v.Raw), 10, 64)
				if err != nil || n < low || n > high {
					if (err != nil || n < math.MinInt32 || n > math.MaxInt32) && bits < 32 {
						name = "int (-2147483648 - 2147483647)"
					}
					return decoder.Verdict{Err: outOfRange(string(v.Raw), name)}
				}
				return take(n, false)
			}
			if s.c.off("ACCEPT_FLOAT_AS_INT") {
				return decoder.Verdict{Err: fault("InvalidFormatException", decoder.ReasonKind, "Cannot coerce Floating-point value (%s) to `%s`", v.Raw, s.typ)}
			}
			f, _ := jvm.ParseDouble(string(v.Raw))
			limit := math.Ldexp(1, max(bits, 32)-1)
			if f < -limit || f >= limit {
				if bits < 32 {
					return decoder.Verdict{Err: outOfRange(string(v.Raw), "int (-2147483648 - 2147483647)")}
				}
				return decoder.Verdict{Err: outOfRange(string(v.Raw), name)}
			}
			n := int64(math.Trunc(f))
			if n < low || n > high {
				return decoder.Verdict{Err: outOfRange(string(v.Raw), name)}
			}
			return take(n, float64(n) != f)
		}
		return decoder.Verdict{Err: mismatched(s.typ, v)}
	}
}

// float reads a floating-point number of so many bits.
func (s *scalar) float(bits int) func(*wire.Value) decoder.Verdict {
	take := func(f float64, lossy bool) decoder.Verdict {
		if bits == 32 {
			f = float64(float32(f))
		}
		out := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(f, bits)}}
		if lossy {
			out.Loss = decoder.LostDigits
		}
		return out
	}
	return func(v *wire.Value) decoder.Verdict {
		switch v.Kind {
		case wire.Null:
			return s.null()
		case wire.String:
			if err := s.strict(v); err != nil {
				return decoder.Verdict{Err: err}
			}
			text, done := s.text(v)
			if done {
				return s.nothing(empty(text))
			}
			if word := map[string]float64{"NaN": math.NaN(), "INF": math.Inf(1), "Infinity": math.Inf(1), "-INF": math.Inf(-1), "-Infinity": math.Inf(-1)}; word[text] != 0 || text == "NaN" {
				return take(word[text], false)
			}
			f, ok := jvm.ParseDouble(text)
			if !ok {
				detail := "not a valid `" + strings.TrimPrefix(s.typ, "java.lang.") + "` value"
				if bits == 64 && s.primitive {
					detail += " (as String to convert)"
				}
				return decoder.Verdict{Err: weird(s.typ, text, detail, decoder.ReasonKind)}
			}
			return take(f, false)
		case wire.Number:
			f, _ := jvm.ParseDouble(string(v.Raw))
			if f == 0 && !isFloat(v) {
				f = 0 // a whole number has no negative zero
			}
			g := f
			if bits == 32 {
				g = float64(float32(f))
			}
			return take(f, !jvm.SameNumber(string(v.Raw), g, bits))
		}
		return decoder.Verdict{Err: mismatched(s.typ, v)}
	}
}

func (s *scalar) boolean(v *wire.Value) decoder.Verdict {
	switch v.Kind {
	case wire.Null:
		return s.null()
	case wire.Bool:
		return decoder.Verdict{Seen: decoder.Bool(v.True())}
	case wire.Number:
		if err := s.strict(v); err != nil && !isFloat(v) {
			return decoder.Verdict{Err: err}
		}
		if !isFloat(v) {
			return decoder.Verdict{Seen: decoder.Bool(strings.Trim(string(v.Raw), "-0") != "")}
		}
	case wire.String:
		if err := s.strict(v); err != nil {
			return decoder.Verdict{Err: err}
		}
		text, done := s.text(v)
		switch text {
		case "true", "True", "TRUE":
			return decoder.Verdict{Seen: decoder.Bool(true)}
		case "false", "False", "FALSE":
			return decoder.Verdict{Seen: decoder.Bool(false)}
		}
		if done {
			return s.nothing(empty(text))
		}
		detail := `only "true" or "false" recognized`
		if s.primitive {
			detail = `only "true"/"True"/"TRUE" or "false"/"False"/"FALSE" recognized`
		}
		return decoder.Verdict{Err: weird(s.typ, text, detail, decoder.ReasonKind)}
	}
	return decoder.Verdict{Err: mismatched(s.typ, v)}
}

func (s *scalar) character(v *wire.Value) decoder.Verdict {
	take := func(text string) decoder.Verdict {
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: text, Type: "char"}}
	}
	switch {
	case v.Kind == wire.Null:
		return s.null()
	case v.Kind == wire.Number && !isFloat(v):
		n, err := strconv.ParseInt(string(v.Raw), 10, 32)
		if err != nil {
			return decoder.Verdict{Err: outOfRange(string(v.Raw), "int (-2147483648 - 2147483647)")}
		}
		if n < 0 || n > 0xFFFF {
			return decoder.Verdict{Err: fault("InvalidFormatException", decoder.ReasonRange, "Cannot deserialize value of type `%s` from number %s: value outside valid Character range (0x0000 - 0xFFFF)", s.typ, v.Raw)}
		}
		return take(string(rune(n)))
	case v.Kind == wire.String:
		text := jvm.Text(v)
		if jvm.Chars(text) == 1 {
			return take(text)
		}
		if err := s.strict(v); err != nil {
			return decoder.Verdict{Err: err}
		}
		trimmed, done := s.text(v)
		if done {
			return s.nothing(empty(trimmed))
		}
		return decoder.Verdict{Err: weird(s.typ, trimmed, "Expected either Integer value code or 1-character String", decoder.ReasonText)}
	}
	return decoder.Verdict{Err: mismatched(s.typ, v)}
}

// string reads any scalar as its text.
func (s *scalar) string(v *wire.Value) decoder.Verdict {
	switch v.Kind {
	case wire.Null:
		return decoder.Verdict{}
	case wire.Array, wire.Object:
		return decoder.Verdict{Err: mismatched(s.typ, v)}
	case wire.String:
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: jvm.Text(v)}}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: string(v.Raw)}}
}

// decimal, bigInteger and number read the platform's numbers of any size.
func (s *scalar) decimal(v *wire.Value) decoder.Verdict {
	return s.numeric(v, "not a valid representation", func(text string, _ bool) (decoder.Seen, decoder.Loss, bool) {
		d, ok := jvm.ParseDecimal(text)
		return decoder.Seen{Kind: decoder.SeenDecimal, Text: d}, decoder.NoLoss, ok
	})
}

func (s *scalar) bigInteger(v *wire.Value) decoder.Verdict {
	return s.numeric(v, "not a valid representation", func(text string, quoted bool) (decoder.Seen, decoder.Loss, bool) {
		if quoted || !strings.ContainsAny(text, ".eE") {
			n, ok := jvm.ParseInteger(text)
			return decoder.Seen{Kind: decoder.SeenInt, Text: n}, decoder.NoLoss, ok
		}
		r, ok := new(big.Rat).SetString(text)
		if !ok {
			return decoder.Seen{Kind: decoder.SeenUnknown}, decoder.NoLoss, true
		}
		n := new(big.Int).Quo(r.Num(), r.Denom())
		loss := decoder.NoLoss
		if !r.IsInt() {
			loss = decoder.LostDigits
		}
		return decoder.Seen{Kind: decoder.SeenInt, Text: n.String()}, loss, true
	})
}

func (s *scalar) number(v *wire.Value) decoder.Verdict {
	return s.numeric(v, "not a valid number", func(text string, quoted bool) (decoder.Seen, decoder.Loss, bool) {
		if n, ok := jvm.ParseInteger(text); ok {
			return decoder.Seen{Kind: decoder.SeenInt, Text: n}, decoder.NoLoss, true
		}
		f, ok := jvm.ParseDouble(text)
		return decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(f, 64)}, decoder.NoLoss, ok
	})
}

func (s *scalar) numeric(v *wire.Value, detail string, read func(text string, quoted bool) (decoder.Seen, decoder.Loss, bool)) decoder.Verdict {
	text, quoted := string(v.Raw), false
	switch v.Kind {
	case wire.Null:
		return decoder.Verdict{}
	case wire.Number:
	case wire.String:
		var done bool
		if text, done = s.text(v); done {
			return decoder.Verdict{}
		}
		quoted = true
	default:
		return decoder.Verdict{Err: mismatched(s.typ, v)}
	}
	seen, loss, ok := read(text, quoted)
	if !ok {
		return decoder.Verdict{Err: weird(s.typ, text, detail, decoder.ReasonKind)}
	}
	return decoder.Verdict{Seen: seen, Loss: loss}
}

// fromString is FromStringDeserializer: any scalar's text, without the white space
// around it; nothing of it becomes empty.
func (s *scalar) fromString(empty decoder.Seen, read func(text string) (seen decoder.Seen, problem string)) func(*wire.Value) decoder.Verdict {
	return func(v *wire.Value) decoder.Verdict {
		text := string(v.Raw)
		switch v.Kind {
		case wire.Null:
			return decoder.Verdict{}
		case wire.String:
			text = jvm.Text(v)
		case wire.Array, wire.Object:
			return decoder.Verdict{Err: mismatched(s.typ, v)}
		}
		if text = jvm.Trim(text); text == "" {
			return decoder.Verdict{Seen: empty}
		}
		seen, problem := read(text)
		if problem != "" {
			return decoder.Verdict{Err: weird(s.typ, text, problem, decoder.ReasonText)}
		}
		return decoder.Verdict{Seen: seen}
	}
}

// date reads milliseconds since 1970, ISO 8601 and RFC 1123 (StdDateFormat), or the
// pattern that is set or annotated.
func (s *scalar) date(pattern string) func(*wire.Value) decoder.Verdict {
	take := func(ms int64) decoder.Verdict {
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenDate, Seconds: float64(ms) / 1000, Text: strconv.FormatInt(ms, 10)}}
	}
	return func(v *wire.Value) decoder.Verdict {
		switch {
		case v.Kind == wire.Null:
			return decoder.Verdict{}
		case v.Kind == wire.Number && !isFloat(v):
			n, err := strconv.ParseInt(string(v.Raw), 10, 64)
			if err != nil {
				return decoder.Verdict{Err: fault("InvalidFormatException", decoder.ReasonRange, "Cannot deserialize value of type `%s` from number %s: not a valid 64-bit `long` for creating `%s`", s.typ, v.Raw, s.typ)}
			}
			out := take(n)
			if n >= 1200000000 && n < 4102444800 { // a time in seconds
				out.Loss = decoder.WrongUnit
			}
			return out
		case v.Kind == wire.String:
			text := jvm.Trim(jvm.Text(v))
			if text == "" || text == "null" && pattern == "" {
				return decoder.Verdict{}
			}
			if pattern != "" {
				if at, ok, _ := jvm.ParsePattern(pattern, text, time.UTC); ok {
					return take(at.UnixMilli())
				}
				return decoder.Verdict{Err: weird(s.typ, text, fmt.Sprintf("expected format %q", pattern), decoder.ReasonDate)}
			}
			if ms, ok := standardDate(text); ok {
				return take(ms)
			}
			return decoder.Verdict{Err: weird(s.typ, text, fmt.Sprintf("not a valid representation (error: Failed to parse Date value '%s': %s)", text, dateProblem(text)), decoder.ReasonDate)}
		}
		return decoder.Verdict{Err: mismatched(s.typ, v)}
	}
}

// dateProblem is what StdDateFormat says of a text that it cannot parse.
func dateProblem(s string) string {
	if looksISO(s) {
		return fmt.Sprintf("Cannot parse date %q: while it seems to fit format 'yyyy-MM-dd'T'HH:mm:ss.SSSX', parsing fails (leniency? null)", s)
	}
	return fmt.Sprintf("Cannot parse date %q: not compatible with any of standard forms (\"yyyy-MM-dd'T'HH:mm:ss.SSSX\", \"yyyy-MM-dd'T'HH:mm:ss.SSS\", \"EEE, dd MMM yyyy HH:mm:ss zzz\", \"yyyy-MM-dd\")", s)
}

func looksISO(s string) bool {
	return len(s) >= 7 && s[4] == '-' && strings.Trim(s[:4], "0123456789") == ""
}

// standardDate is StdDateFormat.parse: a date, a date with a time, with or without a
// zone (UTC where there is none), milliseconds as digits, or RFC 1123.
func standardDate(s string) (ms int64, ok bool) {
	if !looksISO(s) {
		if n, err := strconv.ParseInt(s, 10, 64); err == nil {
			return n, true
		}
		at, ok, _ := jvm.ParsePattern("EEE, dd MMM yyyy HH:mm:ss zzz", s, time.UTC)
		return at.UnixMilli(), ok
	}
	date, clock, timed := strings.Cut(s, "T")
	if len(date) != 10 || date[7] != '-' || strings.Trim(date[5:7]+date[8:], "0123456789") != "" {
		return 0, false
	}
	number := func(s string) int { n, _ := strconv.Atoi(s); return n }
	at := time.Date(number(date[:4]), time.Month(number(date[5:7])), number(date[8:]), 0, 0, 0, 0, time.UTC)
	if !timed {
		return at.UnixMilli(), true
	}
	offset := time.Duration(0)
	zone := strings.IndexAny(clock, "Z+-")
	if zone >= 0 {
		if clock[zone] == 'Z' {
			if zone != len(clock)-1 {
				return 0, false
			}
		} else {
			digits := strings.ReplaceAll(clock[zone+1:], ":", "")
			if len(digits) != 2 && len(digits) != 4 || strings.Trim(digits, "0123456789") != "" {
				return 0, false
			}
			offset = time.Duration(number(digits[:2])) * time.Hour
			if len(digits) == 4 {
				offset += time.Duration(number(digits[2:])) * time.Minute
			}
			if clock[zone] == '-' {
				offset = -offset
			}
		}
		clock = clock[:zone]
	}
	clock, fraction, _ := strings.Cut(clock, ".")
	parts := strings.Split(clock, ":")
	if len(parts) < 2 || len(parts) > 3 || strings.Trim(fraction, "0123456789") != "" || len(fraction) > 9 {
		return 0, false
	}
	var hms [3]int
	for i, p := range parts {
		if len(p) != 2 || strings.Trim(p, "0123456789") != "" {
			return 0, false
		}
		hms[i] = number(p)
	}
	at = at.Add(time.Duration(hms[0])*time.Hour + time.Duration(hms[1])*time.Minute + time.Duration(hms[2])*time.Second - offset)
	return at.UnixMilli() + int64(number((fraction + "000")[:3])), true
}

// localeParts are what FromStringDeserializer makes of a text between its first two
// marks.
func localeParts(text string) (parts []string) {
	for len(parts) < 2 {
		at := strings.IndexAny(text, "_-")
		if at < 0 {
			break
		}
		parts, text = append(parts, text[:at]), text[at+1:]
	}
	return append(parts, text)
}

// scalarOf is what Jackson does with a value where a type of that name is declared, nil
// where the name is none that it reads as a scalar.
func (c *compiler) scalarOf(t *model.Type, pattern string) func(*wire.Value) decoder.Verdict {
	s := &scalar{c: c, typ: raw(t), primitive: jvm.IsPrimitive(t, false), zero: jvm.Zero(t, false)}
	switch jvm.Scalar(t) {
	case "int":
		return s.whole(32)
	case "long":
		return s.whole(64)
	case "short":
		return s.whole(16)
	case "byte":
		return s.whole(8)
	case "float":
		return s.float(32)
	case "double":
		return s.float(64)
	case "boolean":
		return s.boolean
	case "char":
		return s.character
	}
	named := func(text, kind string) decoder.Seen {
		return decoder.Seen{Kind: decoder.SeenString, Text: text, Type: kind}
	}
	switch t.Name {
	case "String", "CharSequence":
		s.typ = "java.lang.String"
		return s.string
	case "AtomicInteger":
		s.held = "java.lang.Integer"
		return s.whole(32)
	case "AtomicLong":
		s.held = "java.lang.Long"
		return s.whole(64)
	case "AtomicBoolean":
		return s.boolean
	case "StringBuilder", "StringBuffer":
		return s.string
	case "Locale":
		return s.fromString(named("", "Locale"), func(text string) (decoder.Seen, string) { return named(jvm.Locale(localeParts(text)...), "Locale"), "" })
	case "Currency":
		return s.fromString(decoder.Seen{}, func(text string) (decoder.Seen, string) {
			if !jvm.IsCurrency(text) {
				return decoder.Seen{}, "not a valid textual representation"
			}
			return named(text, "Currency"), ""
		})
	case "BigDecimal":
		return s.decimal
	case "BigInteger":
		return s.bigInteger
	case "Number":
		return s.number
	case "URL":
		return s.fromString(decoder.Seen{}, func(text string) (decoder.Seen, string) {
			if problem := jvm.ParseURL(text); problem != "" {
				return decoder.Seen{}, "not a valid textual representation, problem: " + problem
			}
			return named(text, "URL"), ""
		})
	case "URI":
		return s.fromString(named("", "URI"), func(text string) (decoder.Seen, string) {
			if problem := jvm.ParseURI(text); problem != "" {
				return decoder.Seen{}, "not a valid textual representation, problem: " + problem
			}
			return named(text, "URI"), ""
		})
	case "UUID":
		return s.fromString(decoder.Seen{}, func(text string) (decoder.Seen, string) {
			if id, ok := jvm.ParseUUID(text); ok && len(text) == 36 {
				return named(id, "UUID"), ""
			}
			if len(text) == 24 { // as long as its bytes are in base64
				return decoder.Seen{}, "not a valid textual representation"
			}
			return decoder.Seen{}, "UUID has to be represented by standard 36-char representation"
		})
	case "Date":
		if pattern == "" {
			pattern = c.settings.Option("dates.pattern")
		}
		if c.settings.Option("dates") != "" {
			return nil
		}
		if pattern != "" {
			if _, _, known := jvm.ParsePattern(pattern, "", time.UTC); !known {
				return nil
			}
		}
		return s.date(pattern)
	}
	return nil
}
