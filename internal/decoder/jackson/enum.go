package jackson

import (
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// caseNames lists the constants of an enum as messages do.
func caseNames(m *model.Model) string {
	var names []string
	for _, k := range m.Cases {
		names = append(names, k.Name)
	}
	return strings.Join(names, ", ")
}

// constants are the texts that an enum's constants are read from. known is false where
// code of the app decides.
func (c *compiler) constants(m *model.Model) (names map[string]string, known bool) {
	names = map[string]string{}
	byText := c.on("READ_ENUMS_USING_TO_STRING") // which annotations do not rename
	for _, f := range m.Methods {
		if f.Name == "toString" && len(f.Params) == 0 && byText {
			return nil, false
		}
		if f.Marks.Find("JsonCreator") != nil {
			return nil, false
		}
	}
	if at := jsonValue(m); at >= -1 && !byText {
		for _, k := range m.Cases {
			if at < 0 || at >= len(k.Args) || k.Args[at].Kind == model.OtherLiteral || k.Args[at].Kind == model.CaseLiteral {
				return nil, false
			}
			names[k.Args[at].Text] = k.Name
		}
		return names, true
	}
	for _, k := range m.Cases {
		if k.Marks.Find("JsonProperty").Untold("value")+k.Marks.Find("JsonAlias").Untold("value") != "" {
			return nil, false
		}
		name := k.Name
		if a := k.Marks.Find("JsonProperty"); a != nil && !byText {
			name = a.Text("value", name)
		}
		names[name] = k.Name
		for _, other := range k.Marks.Find("JsonAlias").Texts("value") {
			names[other] = k.Name
		}
	}
	return names, true
}

// jsonValue is which argument of an enum's constants its @JsonValue answers: -1 where
// that cannot be told, -2 where there is none.
func jsonValue(m *model.Model) int {
	field := ""
	for _, f := range m.Fields {
		if on(f.Marks, "JsonValue", "value") {
			field = f.Name
		}
	}
	found := field != ""
	for _, f := range m.Methods {
		if !on(f.Marks, "JsonValue", "value") {
			continue
		}
		found = true
		name := strings.TrimPrefix(f.Name, "get")
		for _, own := range m.Fields {
			if strings.EqualFold(own.Name, name) {
				field = own.Name
			}
		}
	}
	if !found {
		return -2
	}
	for _, k := range m.Ctors {
		for i, fills := range k.Fills {
			if fills == field && field != "" {
				return i
			}
		}
	}
	return -1
}

// wholeValue says whether an enum's @JsonValue is an integer: then numbers are not
// indexes.
func wholeValue(m *model.Model) bool {
	whole := func(t *model.Type) bool {
		switch jvm.Scalar(t) {
		case "int", "long", "short", "byte":
			return true
		}
		return false
	}
	for _, f := range m.Fields {
		if on(f.Marks, "JsonValue", "value") && whole(f.Type) {
			return true
		}
	}
	for _, f := range m.Methods {
		if on(f.Marks, "JsonValue", "value") && f.Returns != nil && whole(f.Returns) {
			return true
		}
	}
	return false
}

// enum is EnumDeserializer: constants by name or annotation, and by their index.
func (c *compiler) enum(m *model.Model) *decoder.Node {
	names, ok := c.constants(m)
	if !ok {
		return unknown(m.Name + " is read by code that is not followed")
	}
	typ := jvm.ClassName(m)
	byIndex := !wholeValue(m)
	byDefault := ""
	for _, k := range m.Cases {
		if k.Marks.Find("JsonEnumDefaultValue") != nil && c.on("READ_UNKNOWN_ENUM_VALUES_USING_DEFAULT_VALUE") {
			byDefault = k.Name
		}
	}
	take := func(name string) decoder.Verdict {
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenEnum, Text: name, Type: m.Name}}
	}
	miss := func(err *decoder.Error) decoder.Verdict {
		switch {
		case byDefault != "":
			out := take(byDefault)
			out.Loss = decoder.Defaulted
			return out
		case c.on("READ_UNKNOWN_ENUM_VALUES_AS_NULL"):
			return decoder.Verdict{Loss: decoder.NoConstant}
		}
		return decoder.Verdict{Err: err}
	}
	none := func(text string) *decoder.Error {
		return weird(typ, text, "not one of the values accepted for Enum class", decoder.ReasonConstant)
	}
	fold := c.on("ACCEPT_CASE_INSENSITIVE_ENUMS")
	return &decoder.Node{Op: decoder.OpLeaf, Model: m, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		switch {
		case v.Kind == wire.Null:
			return decoder.Verdict{}
		case v.Kind == wire.Number && !isFloat(v):
			if !byIndex {
				if name, ok := names[string(v.Raw)]; ok {
					return take(name)
				}
				return miss(none(string(v.Raw)))
			}
			n, ok := jvm.ParseWhole(string(v.Raw), 32)
			switch {
			case !ok:
				return decoder.Verdict{Err: outOfRange(string(v.Raw), intRange)}
			case c.on("FAIL_ON_NUMBERS_FOR_ENUMS"):
				return decoder.Verdict{Err: fault("InvalidFormatException", decoder.ReasonKind, "Cannot deserialize value of type `%s` from number %d: not allowed to deserialize Enum value out of number: disable DeserializationConfig.DeserializationFeature.FAIL_ON_NUMBERS_FOR_ENUMS to allow", typ, n)}
			case n < 0 || n >= int64(len(m.Cases)):
				return miss(fault("InvalidFormatException", decoder.ReasonConstant, "Cannot deserialize value of type `%s` from number %d: index value outside legal index range [0..%d]", typ, n, len(m.Cases)-1))
			}
			return take(m.Cases[n].Name)
		case v.Kind == wire.String:
			text := jvm.Text(v)
			if name, ok := names[text]; ok {
				return take(name)
			}
			trimmed := jvm.Trim(text)
			if name, ok := names[trimmed]; ok {
				return take(name)
			}
			if trimmed == "" {
				if byDefault != "" || c.on("READ_UNKNOWN_ENUM_VALUES_AS_NULL") {
					return miss(nil)
				}
				if c.on("ACCEPT_EMPTY_STRING_AS_NULL_OBJECT") {
					return decoder.Verdict{}
				}
				return decoder.Verdict{Err: emptyString("`" + typ + "`")}
			}
			for name, constant := range names {
				if fold && strings.EqualFold(name, trimmed) {
					return take(constant)
				}
			}
			if n, ok := jvm.ParseWhole(trimmed, 32); ok && byIndex && !fold && trimmed[0] >= '0' && trimmed[0] <= '9' && (len(trimmed) == 1 || trimmed[0] != '0') && !c.on("FAIL_ON_NUMBERS_FOR_ENUMS") {
				switch {
				case c.off("ALLOW_COERCION_OF_SCALARS"):
					return decoder.Verdict{Err: weird(typ, trimmed, "value looks like quoted Enum index, but `MapperFeature.ALLOW_COERCION_OF_SCALARS` prevents use", decoder.ReasonConstant)}
				case n < int64(len(m.Cases)):
					return take(m.Cases[n].Name)
				}
			}
			return miss(none(trimmed))
		}
		return decoder.Verdict{Err: mismatched(typ, v)}
	}}
}
