package jackson

import (
	"fmt"
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

// isDecimal says whether a number was kept aside with a fraction or an exponent, and so became a
// BigDecimal (ParserBase.getNumberValueDeferred, Jackson 2.14).
func isDecimal(v *wire.Value) bool { return v.Aside && v.Kind == wire.Number && isFloat(v) }

// numeral is the text of a number, or of the one that it became: kept aside, a whole number has
// no negative zero.
func numeral(v *wire.Value) string {
	if isDecimal(v) {
		if text, ok := jvm.ParseDecimal(string(v.Raw)); ok {
			return text
		}
	}
	if v.Aside && string(v.Raw) == "-0" {
		return "0"
	}
	return string(v.Raw)
}

// tokenName is the com.fasterxml.jackson.core.JsonToken that a value begins with.
func tokenName(v *wire.Value) string {
	switch v.Kind {
	case wire.Null:
		return "VALUE_NULL"
	case wire.Bool:
		if v.True() {
			return "VALUE_TRUE"
		}
		return "VALUE_FALSE"
	case wire.Number:
		if isFloat(v) {
			return "VALUE_NUMBER_FLOAT"
		}
		return "VALUE_NUMBER_INT"
	case wire.String:
		return "VALUE_STRING"
	case wire.Array:
		return "START_ARRAY"
	}
	return "START_OBJECT"
}

// nouns are what messages call values that begin with a token (JsonToken, DeserializationContext._shapeForToken).
var nouns = map[string]string{
	"VALUE_NULL": "Null", "VALUE_TRUE": "Boolean", "VALUE_FALSE": "Boolean", "VALUE_NUMBER_FLOAT": "Floating-point", "VALUE_NUMBER_INT": "Integer",
	"VALUE_STRING": "String", "START_ARRAY": "Array", "START_OBJECT": "Object",
}

// token names the kind of a value as messages do.
func token(v *wire.Value) string {
	name := tokenName(v)
	return nouns[name] + " value (token `JsonToken." + name + "`)"
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
	case v.Kind == wire.String && text == "":
		return fault("InvalidFormatException", decoder.ReasonKind, "Cannot coerce empty String (%q) to `%s` value (but could if coercion was enabled using `CoercionConfig`)", text, s.typ)
	case v.Kind == wire.String && jvm.Trim(text) == "": // a blank one becomes null
		return nil
	case v.Kind == wire.String:
		return fault("MismatchedInputException", decoder.ReasonKind, "Cannot coerce String value (%q) to `%s` value (but might if coercion using `CoercionConfig` was enabled)", text, s.typ)
	case v.Kind == wire.Number && isFloat(v):
		return s.fraction(v)
	}
	return fault("InvalidFormatException", decoder.ReasonKind, "Cannot coerce Integer value (%s) to `%s` value (but could if coercion was enabled using `CoercionConfig`)", v.Raw, s.typ)
}

// fraction is the error for a number with a fraction where none is taken.
func (s *scalar) fraction(v *wire.Value) *decoder.Error {
	return fault("InvalidFormatException", decoder.ReasonKind, "Cannot coerce Floating-point value (%s) to `%s` value (but could if coercion was enabled using `CoercionConfig`)", numeral(v), s.typ)
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
		return decoder.Verdict{Err: fault("MismatchedInputException", decoder.ReasonNull, "Cannot coerce %s `%s` value (disable `DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES` to allow)", what, s.typ)}
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

// given is a string to convert, or the verdict where it may not be, or becomes nothing.
func (s *scalar) given(v *wire.Value) (text string, settled *decoder.Verdict) {
	if err := s.strict(v); err != nil {
		return "", &decoder.Verdict{Err: err}
	}
	text, done := s.text(v)
	if done {
		verdict := s.nothing(empty(text))
		return text, &verdict
	}
	return text, nil
}

// empty is how messages begin of a text that stands for null.
func empty(text string) string {
	if text == "null" {
		return `String "null" to Null value as`
	}
	return "`null` to"
}

func (s *scalar) null() decoder.Verdict {
	if s.primitive && s.c.on("FAIL_ON_NULL_FOR_PRIMITIVES") {
		return decoder.Verdict{Err: fault("MismatchedInputException", decoder.ReasonNull, "Cannot map `null` into type `%s` (set DeserializationConfig.DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES to 'false' to allow)", s.typ)}
	}
	return s.nothing("")
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
		if err := s.strict(v); err != nil {
			return decoder.Verdict{Err: err}
		}
		n, err := strconv.ParseInt(string(v.Raw), 10, 32)
		if err != nil {
			return decoder.Verdict{Err: outOfRange(string(v.Raw), intRange)}
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
			return s.null()
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
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: numeral(v)}}
}

// fromString is FromStringDeserializer: any scalar's text, without the white space
// around it; nothing of it becomes empty.
func (s *scalar) fromString(empty decoder.Seen, read func(text string) (seen decoder.Seen, problem string)) func(*wire.Value) decoder.Verdict {
	return func(v *wire.Value) decoder.Verdict {
		text := numeral(v)
		switch v.Kind {
		case wire.Null:
			return decoder.Verdict{}
		case wire.String:
			text = jvm.Text(v)
		case wire.Array, wire.Object:
			return decoder.Verdict{Err: mismatched(s.typ, v)}
		}
		if s.typ != "java.util.regex.Pattern" { // of which spaces are part (FromStringDeserializer._shouldTrim)
			text = jvm.Trim(text)
		}
		switch {
		case text == "" && s.c.on("ACCEPT_EMPTY_STRING_AS_NULL_OBJECT"):
			return decoder.Verdict{}
		case text == "":
			return decoder.Verdict{Seen: empty}
		}
		seen, problem := read(text)
		if problem != "" {
			return decoder.Verdict{Err: weird(s.typ, text, problem, decoder.ReasonText)}
		}
		return decoder.Verdict{Seen: seen}
	}
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
func (c *compiler) scalarOf(t *model.Type, as format) func(*wire.Value) decoder.Verdict {
	pattern := as.pattern
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
	case "java.util.regex.Pattern": // what is no pattern throws too, which needs its grammar
		return s.fromString(decoder.Seen{}, func(string) (decoder.Seen, string) { return decoder.Seen{Kind: decoder.SeenUnknown}, "" })
	case "Void":
		return func(*wire.Value) decoder.Verdict { return decoder.Verdict{} }
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
	case "Date", "Calendar", "java.sql.Timestamp", "java.sql.Date":
		annotated := pattern != ""
		if !annotated {
			pattern = c.settings.Option("dates.pattern")
		}
		zone := c.zone(as)
		if zone == nil {
			return nil
		}
		if pattern != "" {
			if _, _, known := jvm.ParsePattern(pattern, "", time.UTC); !known {
				return nil
			}
		}
		read := s.date(pattern, annotated, zone)
		if t.Name != "Calendar" {
			return read
		}
		return func(v *wire.Value) decoder.Verdict {
			verdict := read(v)
			if verdict.Seen.Kind == decoder.SeenDate { // with a zone and a locale of the device
				verdict.Seen = decoder.Seen{Kind: decoder.SeenUnknown}
			}
			return verdict
		}
	}
	return nil
}
