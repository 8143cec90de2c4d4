package foundation

import (
	"slices"
	"strings"
	"unicode"

	"vetta/internal/encoder"
	"vetta/internal/model"
)

// Writes is what JSONEncoder writes for a type (swift-foundation, JSONEncoder.swift): the members that the
// compiler's encode(to:) encodes, without those that are nil.
func Writes(t *model.Type, settings *model.Settings) *encoder.Value {
	if settings != nil && settings.Why != "" {
		return encoder.Unknown(settings.Why)
	}
	rules := &encoder.Rules{Omits: true, Model: writtenModel, Named: func(t *model.Type) *encoder.Value { return writtenScalar(t, settings) }}
	rules.Members = func(m *model.Model) (fields []encoder.Field) {
		for _, f := range m.Fields {
			if key := f.Written; key != "" && !f.Static {
				fields = append(fields, writtenField(f, key, settings))
			}
		}
		return fields
	}
	return rules.Compile(t)
}

func writtenField(f *model.Field, key string, settings *model.Settings) encoder.Field {
	out := encoder.Field{Field: f, Key: key}
	switch keys := settings.Option("keys"); {
	case keys == "convertToSnakeCase":
		out.Key = toSnakeCase(key)
	case keys != "" && keys != "useDefaultKeys":
		out.Why = "its key is written by the strategy " + keys + ", which is not followed"
	}
	switch {
	case f.Wrapper != nil:
		out.Why = "a property wrapper writes it"
	case f.Reading == model.Unfollowed:
		out.Why = f.Why
	}
	return out
}

// writtenModel is what is written for enums and for models that are not followed.
func writtenModel(m *model.Model) *encoder.Value {
	switch {
	case m.Writes != "":
		return encoder.Unknown(m.Writes)
	case m.Raw != nil && m.Raw.Name == "String":
		return &encoder.Value{Kinds: encoder.String, Model: m}
	case m.Raw != nil && strings.Contains(m.Raw.Name, "Int"):
		return &encoder.Value{Kinds: encoder.Number, Whole: true, Model: m}
	case m.Raw != nil:
		return &encoder.Value{Kinds: encoder.Number | encoder.Bool, Model: m}
	case m.Kind == model.Enum: // {"case": {…}}
		return &encoder.Value{Kinds: encoder.Object, Open: true, Model: m}
	case m.Super != nil:
		return encoder.Unknown("what is written of a subclass is not followed")
	}
	return nil
}

// fractions are the types that may have one.
var fractions = []string{"Double", "Float", "CGFloat", "Decimal", "TimeInterval", "Float16", "Float64", "Float32"}

// texts are the types that are written as text.
var texts = []string{"String", "Substring", "URL", "UUID"}

// writtenScalar is what is written for a type of the library's own, nil for one that is not known here.
func writtenScalar(t *model.Type, settings *model.Settings) *encoder.Value {
	switch name := t.Name; {
	case slices.Contains(texts, name):
		return &encoder.Value{Kinds: encoder.String}
	case name == "Bool":
		return &encoder.Value{Kinds: encoder.Bool}
	case slices.Contains(fractions, name):
		return &encoder.Value{Kinds: encoder.Number}
	case strings.HasPrefix(strings.TrimPrefix(name, "U"), "Int") && strings.Trim(strings.TrimPrefix(strings.TrimPrefix(name, "U"), "Int"), "0123456789") == "":
		return &encoder.Value{Kinds: encoder.Number, Whole: true}
	case name == "Data":
		if by := settings.Option("data"); by == "" || by == "base64" {
			return &encoder.Value{Kinds: encoder.String}
		}
	case name == "Date":
		switch settings.Option("dates") {
		case "", "deferredToDate", "secondsSince1970", "millisecondsSince1970":
			return &encoder.Value{Kinds: encoder.Number}
		case "iso8601", "formatted":
			return &encoder.Value{Kinds: encoder.String}
		}
	}
	return nil
}

// toSnakeCase is what JSONEncoder.KeyEncodingStrategy.convertToSnakeCase makes of a key: each word that begins
// with a capital, and each run of capitals but for the last of them before a small letter, becomes a word of
// its own. myURLProperty becomes my_url_property.
func toSnakeCase(key string) string {
	runes := []rune(key)
	if len(runes) == 0 {
		return key
	}
	var words []string
	start := 0
	add := func(end int) {
		words = append(words, strings.ToLower(string(runes[start:end])))
		start = end
	}
	next := func(from int, is func(rune) bool) int {
		for i := from; i < len(runes); i++ {
			if is(runes[i]) {
				return i
			}
		}
		return -1
	}
	for from := 1; ; {
		upper := next(from, unicode.IsUpper)
		if upper < 0 {
			break
		}
		add(upper)
		lower := next(upper, unicode.IsLower)
		if lower < 0 {
			break
		}
		if lower > upper+1 {
			add(lower - 1)
		}
		from = lower + 1
	}
	add(len(runes))
	return strings.Join(words, "_")
}
