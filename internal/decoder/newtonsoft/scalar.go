package newtonsoft

import (
	"math/big"
	"strconv"
	"strings"
	"unicode/utf16"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// scalar is the node for a type of the platform, nil for one that is not known. Some are read by a method of the
// reader for their type, and others from what the reader makes of a literal: a long, a double, a text, a date.
func (c *compiler) scalar(t *model.Type, s site) *decoder.Node {
	leaf := func(read func(v *wire.Value) decoder.Verdict) *decoder.Node {
		return &decoder.Node{Op: decoder.OpLeaf, MindsText: true, ByFacts: clr.IsNumber(t), ByDate: true, Read: func(v *wire.Value) decoder.Verdict {
			switch {
			case v.Kind < wire.Array || anything(t) || isDate(t) && c.dated(s) != "": // of which a converter complains itself
				return read(v)
			case readByType[t.Name] || t.Name == "string":
				return decoder.Verdict{Err: c.misread(v, t)}
			}
			return decoder.Verdict{Err: cannotDeserialize(v.Kind, t, aPrimitive)}
		}}
	}
	// text reads a type from a text alone; dated says that a date in it is taken for one first.
	text := func(reason decoder.Reason, dated bool, read func(string) (decoder.Seen, bool)) *decoder.Node {
		return leaf(func(v *wire.Value) decoder.Verdict {
			if v.Kind == wire.String {
				given, _ := v.Text()
				if !(dated && c.takesDates() && looksLikeDate(given)) {
					if seen, ok := read(given); ok {
						return decoder.Verdict{Seen: seen}
					}
				}
				return decoder.Verdict{Err: converting(reason, v, t)}
			}
			return decoder.Verdict{Err: converting(decoder.ReasonKind, v, t)}
		})
	}
	bits, signed := clr.Bits(t)
	switch {
	case bits == 128:
		return unknown("how Newtonsoft.Json reads " + t.Name + " is not known")
	case (t.Name == "int" || t.Name == "short" || t.Name == "byte") && bits > 0:
		if !c.tokens() {
			return leaf(func(v *wire.Value) decoder.Verdict { return asInt32(v, t, bits, signed) })
		}
		return leaf(func(v *wire.Value) decoder.Verdict {
			if v.Kind == wire.Bool { // JsonReader.ReadAsInt32
				return decoder.Verdict{Err: c.misread(v, t)}
			}
			return asWhole(v, t, bits, signed)
		})
	case bits > 0:
		return leaf(func(v *wire.Value) decoder.Verdict { return asWhole(v, t, bits, signed) })
	case clr.IsFloat(t) == 16:
		return unknown("how Newtonsoft.Json reads Half is not known")
	case clr.IsFloat(t) > 0:
		return leaf(func(v *wire.Value) decoder.Verdict { return asDouble(v, t) })
	}
	switch t.Name {
	case "decimal":
		return leaf(func(v *wire.Value) decoder.Verdict { return asDecimal(v, t) })
	case "bool":
		return leaf(func(v *wire.Value) decoder.Verdict { return asBool(v, t) })
	case "char":
		return leaf(func(v *wire.Value) decoder.Verdict { return asChar(v, t) })
	case "string":
		return leaf(func(v *wire.Value) decoder.Verdict { return c.asString(v) })
	case "object", "dynamic":
		return &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: c.plain}
	case "ExpandoObject": // by ExpandoObjectConverter
		return &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
			switch {
			case v.Kind == wire.Object:
				return c.plain(v)
			case s.owner != nil: // where the member is set
				return decoder.Verdict{Err: &decoder.Error{Kind: "JsonSerializationException", Reason: decoder.ReasonKind,
					Message: "JsonSerializationException: Error setting value to '" + s.member + "' on '" + clr.Name(s.owner) + "'."}}
			}
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
		}}
	case "JToken":
		return &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: c.plain}
	case "JObject", "JArray", "JValue":
		want := map[string]wire.Kind{"JObject": wire.Object, "JArray": wire.Array}[t.Name]
		return &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
			if t.Name == "JValue" && v.Kind >= wire.Array || t.Name != "JValue" && v.Kind != want {
				return decoder.Verdict{Err: serial(decoder.ReasonKind, "Deserialized JSON type 'Newtonsoft.Json.Linq."+tokenOf(v)+"' is not compatible with expected type 'Newtonsoft.Json.Linq."+t.Name+"'.")}
			}
			return c.plain(v)
		}}
	case "DateTime", "DateTimeOffset":
		return leaf(func(v *wire.Value) decoder.Verdict { return c.asDate(v, t, s) })
	case "DateOnly":
		return text(decoder.ReasonDate, true, func(s string) (decoder.Seen, bool) {
			d, ok := clr.ParseISO(s)
			if !ok || d.HasTime {
				return decoder.Seen{}, false
			}
			seen := d.Seen()
			seen.Text = seen.Text[:10]
			return seen, true
		})
	case "TimeOnly":
		return text(decoder.ReasonDate, true, func(s string) (decoder.Seen, bool) { return clr.ParseTime(strings.TrimSpace(s)) })
	case "TimeSpan":
		return text(decoder.ReasonDate, true, func(s string) (decoder.Seen, bool) {
			span, ok := clr.TimeSpan(strings.TrimSpace(s))
			return clr.String(span), ok
		})
	case "Guid":
		return text(decoder.ReasonText, true, clr.LooseGuid)
	case "Version":
		n := text(decoder.ReasonText, true, clr.Version)
		return emptyIsNull(n)
	case "Uri":
		return emptyIsNull(text(decoder.ReasonText, true, clr.Uri))
	case "JsonElement": // a struct without members that are set
		return &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
			if v.Kind == wire.Object {
				return decoder.Verdict{}
			}
			return decoder.Verdict{Err: converting(decoder.ReasonKind, v, t)}
		}}
	case "JsonNode", "JsonValue": // made of scalars by the conversions that it declares
		return emptyIsNull(leaf(func(v *wire.Value) decoder.Verdict {
			if _, ok := clr.ParseWhole(string(v.Raw), 64, true); v.Kind >= wire.Array || v.Kind == wire.Number && !isFloat(string(v.Raw)) && !ok {
				return decoder.Verdict{Err: converting(decoder.ReasonKind, v, t)}
			}
			return c.plain(v)
		}))
	case "JsonObject", "JsonArray", "JsonDocument":
		return emptyIsNull(leaf(func(v *wire.Value) decoder.Verdict { return decoder.Verdict{Err: converting(decoder.ReasonKind, v, t)} }))
	case "IEnumerable":
		return cannotPopulate(t)
	case "ArrayList", "IList", "ICollection":
		return &decoder.Node{Op: decoder.OpList, Wrong: wrongArray(t), Second: empty(t), Inner: c.value(&model.Type{Kind: model.Named, Name: "object"}, site{})}
	case "Hashtable", "IDictionary":
		return &decoder.Node{Op: decoder.OpMap, Wrong: wrongObject(t), Second: empty(t), Every: true, Inner: c.value(&model.Type{Kind: model.Named, Name: "object"}, site{}),
			Key: func(name string) (decoder.Seen, *decoder.Error) { return clr.String(name), nil }}
	case "BigInteger":
		return leaf(func(v *wire.Value) decoder.Verdict {
			given := string(v.Raw)
			if v.Kind == wire.String {
				given, _ = v.Text()
			}
			if v.Kind == wire.Number && isFloat(given) { // new BigInteger(double) cuts the fraction off
				if f, _, err := big.ParseFloat(given, 10, 53, big.ToNearestEven); err == nil && !f.IsInf() {
					n, _ := f.Int(nil)
					return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: n.String()}}
				}
			}
			if n, ok := new(big.Int).SetString(strings.TrimSpace(given), 10); ok && (v.Kind == wire.Number || v.Kind == wire.String) {
				return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: n.String()}}
			}
			return decoder.Verdict{Err: converting(decoder.ReasonKind, v, t)}
		})
	}
	if t.Name == "KeyValuePair" && len(t.Args) == 2 {
		return c.pair(t)
	}
	return nil
}

func isDate(t *model.Type) bool { return t.Name == "DateTime" || t.Name == "DateTimeOffset" }

func anything(t *model.Type) bool { return t.Name == "object" || t.Name == "dynamic" }

// pair is the node for a KeyValuePair: an object of Key and Value.
func (c *compiler) pair(t *model.Type) *decoder.Node {
	m := &model.Model{Name: "KeyValuePair", Language: "csharp", Kind: model.Struct}
	build := &decoder.Node{Op: decoder.OpBuild, Model: m, Anonymous: true, ByDocument: true}
	for i, name := range []string{"Key", "Value"} {
		build.Props = append(build.Props, &model.Field{Name: name, Type: t.Args[i]})
		build.Steps = append(build.Steps, decoder.Step{Property: i, Node: &decoder.Node{Op: decoder.OpAt, Name: c.named(name, nil), Every: true, Value: clr.Zero(t.Args[i]), Inner: c.value(t.Args[i], site{})}})
	}
	return &decoder.Node{Op: decoder.OpKeyed, Wrong: wrongObject(t), Match: matching([]string{c.named("Key", nil), c.named("Value", nil)}), Inner: build}
}

// asBool is JsonReader.ReadAsBoolean: any number but zero is true.
func asBool(v *wire.Value, t *model.Type) decoder.Verdict {
	switch v.Kind {
	case wire.Bool:
		return decoder.Verdict{Seen: decoder.Bool(v.True())}
	case wire.Number:
		f, _ := strconv.ParseFloat(string(v.Raw), 64)
		return decoder.Verdict{Seen: decoder.Bool(f != 0)}
	case wire.String:
		text, _ := v.Text()
		switch strings.ToLower(strings.TrimSpace(text)) {
		case "true":
			return decoder.Verdict{Seen: decoder.Bool(true)}
		case "false":
			return decoder.Verdict{Seen: decoder.Bool(false)}
		case "":
			if text == "" {
				return decoder.Verdict{Err: serial(decoder.ReasonText, "Error converting value {null} to type '"+clr.Name(t)+"'.")}
			}
		}
		return decoder.Verdict{Err: reading(decoder.ReasonText, "Could not convert string to boolean: "+text+".")}
	}
	return decoder.Verdict{Err: converting(decoder.ReasonKind, v, t)}
}

func asChar(v *wire.Value, t *model.Type) decoder.Verdict {
	switch v.Kind {
	case wire.Number:
		if digits, ok := clr.ParseWhole(string(v.Raw), 16, false); ok {
			n, _ := strconv.Atoi(digits)
			return decoder.Verdict{Seen: clr.String(string(rune(n)))}
		}
		return decoder.Verdict{Err: converting(decoder.ReasonRange, v, t)}
	case wire.String:
		text, _ := v.Text()
		if len(utf16.Encode([]rune(text))) == 1 {
			return decoder.Verdict{Seen: clr.String(text)}
		}
		return decoder.Verdict{Err: converting(decoder.ReasonText, v, t)}
	}
	return decoder.Verdict{Err: converting(decoder.ReasonKind, v, t)}
}

// first is the character that a value begins with.
func first(v *wire.Value) string {
	switch {
	case v.Kind == wire.Array:
		return "["
	case v.Kind == wire.Object:
		return "{"
	case len(v.Raw) > 0:
		return string(v.Raw[:1])
	}
	return ""
}

// tokenOf is the class of the token that a value becomes.
func tokenOf(v *wire.Value) string {
	switch v.Kind {
	case wire.Array:
		return "JArray"
	case wire.Object:
		return "JObject"
	}
	return "JValue"
}

// tokenName is what the reader calls the token that a value begins with (JsonToken).
func tokenName(v *wire.Value) string {
	switch v.Kind {
	case wire.Array:
		return "StartArray"
	case wire.Object:
		return "StartObject"
	case wire.String:
		return "String"
	case wire.Bool:
		return "Boolean"
	case wire.Number:
		if isFloat(string(v.Raw)) {
			return "Float"
		}
		return "Integer"
	}
	return "Null"
}

// misread is the error of the reader where it is asked for a scalar and an array or an object comes: JsonTextReader
// complains of a character, JTokenReader of a token.
func (c *compiler) misread(v *wire.Value, t *model.Type) *decoder.Error {
	if !c.tokens() {
		return reading(decoder.ReasonKind, "Unexpected character encountered while parsing value: "+first(v)+".")
	}
	what := t.Name
	switch t.Name {
	case "int", "short", "byte":
		what = "integer"
	case "DateTime", "DateTimeOffset":
		what = "date"
	case "float":
		what = "double"
	case "bool":
		what = "boolean"
	}
	return reading(decoder.ReasonKind, "Error reading "+what+". Unexpected token: "+tokenName(v)+".")
}

// asString is JsonReader.ReadAsString: a number keeps its spelling, but not in a token, where a text that was taken for a
// date is written as the invariant culture has it.
func (c *compiler) asString(v *wire.Value) decoder.Verdict {
	switch v.Kind {
	case wire.String:
		text, _ := v.Text()
		if c.tokens() && c.takesDates() {
			if seen, ok := c.dateOf(text); ok {
				text = clr.DateText(seen.Text, c.settings.Option("DateParseHandling") == "DateTimeOffset")
			}
		}
		return decoder.Verdict{Seen: clr.String(text)}
	case wire.Bool:
		text := string(v.Raw)
		if c.tokens() {
			text = strings.ToUpper(text[:1]) + text[1:]
		}
		return decoder.Verdict{Seen: clr.String(text)}
	}
	text := string(v.Raw)
	if c.tokens() && isFloat(text) {
		if f, err := strconv.ParseFloat(text, 64); err == nil {
			text = clr.FloatOf(f, 64).Text
		}
	}
	return decoder.Verdict{Seen: clr.String(text)}
}

// plain is plainValue, or the error for a number in it that is no decimal where it must be one.
func (c *compiler) plain(v *wire.Value) decoder.Verdict {
	if c.settings.Option("FloatParseHandling") == "Decimal" {
		if raw := outsideDecimal(v); raw != "" {
			return decoder.Verdict{Err: reading(decoder.ReasonRange, "Input string '"+raw+"' is not a valid decimal.")}
		}
	}
	return decoder.Verdict{Seen: c.plainValue(v)}
}

// outsideDecimal is a number with a fraction or an exponent that no decimal holds, v or one within it; "" for none.
func outsideDecimal(v *wire.Value) string {
	if raw := string(v.Raw); v.Kind == wire.Number && isFloat(raw) {
		if _, ok := clr.Decimal(raw); !ok {
			return raw
		}
	}
	for _, m := range v.Members {
		if raw := outsideDecimal(m.Value); raw != "" {
			return raw
		}
	}
	for _, e := range v.Elems {
		if raw := outsideDecimal(e); raw != "" {
			return raw
		}
	}
	return ""
}

// plainValue is what the reader makes of a value of which nothing is declared: long, double, text, date.
func (c *compiler) plainValue(v *wire.Value) decoder.Seen {
	switch v.Kind {
	case wire.Number:
		raw := string(v.Raw)
		if isFloat(raw) {
			if c.settings.Option("FloatParseHandling") == "Decimal" {
				if d, ok := clr.Decimal(raw); ok {
					return decoder.Seen{Kind: decoder.SeenDecimal, Text: d}
				}
			}
			f, _ := strconv.ParseFloat(raw, 64)
			return clr.FloatOf(f, 64)
		}
		n, _ := new(big.Int).SetString(raw, 10)
		return decoder.Seen{Kind: decoder.SeenInt, Text: n.String()}
	case wire.String:
		text, _ := v.Text()
		if c.takesDates() {
			if seen, ok := c.dateOf(text); ok {
				return seen
			}
		}
		return clr.String(text)
	case wire.Array:
		out := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
		for _, e := range v.Elems {
			out.Elems = append(out.Elems, c.plainValue(e))
		}
		return out
	case wire.Object:
		out := decoder.Seen{Kind: decoder.SeenMap, Names: []string{}, Elems: []decoder.Seen{}}
		for _, m := range v.Members {
			clr.Put(&out, m.Name, c.plainValue(m.Value))
		}
		return out
	}
	return clr.Any(v)
}

// bytes is the node for byte[]: base64, a Guid, or an array of numbers.
func (c *compiler) bytes(t *model.Type) *decoder.Node {
	return &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Inside: true, Read: func(v *wire.Value) decoder.Verdict {
		switch v.Kind {
		case wire.String:
			text, _ := v.Text()
			if seen, ok := clr.Base64(strings.NewReplacer(" ", "", "\t", "", "\r", "", "\n", "").Replace(text)); ok {
				return decoder.Verdict{Seen: seen}
			}
			if id, ok := clr.Guid(text); ok {
				return decoder.Verdict{Seen: guidBytes(id.Text)}
			}
			return decoder.Verdict{Err: &decoder.Error{Kind: "FormatException", Reason: decoder.ReasonText, Message: "FormatException: The input is not a valid Base-64 string as it contains a non-base 64 character, more than two padding characters, or an illegal character among the padding characters."}}
		case wire.Array:
			var data []byte
			for _, e := range v.Elems {
				n, err := strconv.ParseUint(string(e.Raw), 10, 8)
				if err != nil || e.Kind != wire.Number {
					return decoder.Verdict{Err: reading(decoder.ReasonKind, "Unexpected token when reading bytes.")}
				}
				data = append(data, byte(n))
			}
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenBytes, Text: string(data)}}
		}
		if v.Kind != wire.Object {
			return decoder.Verdict{Err: reading(decoder.ReasonKind, "Unexpected character encountered while parsing value: "+first(v)+".")}
		}
		return decoder.Verdict{Err: reading(decoder.ReasonKind, "Unexpected token when reading bytes.")}
	}}
}

// guidBytes are those of a Guid, the first three groups with the lowest byte first.
func guidBytes(id string) decoder.Seen {
	hex := strings.ReplaceAll(id, "-", "")
	data := make([]byte, 16)
	for i := range data {
		n, _ := strconv.ParseUint(hex[2*i:2*i+2], 16, 8)
		data[i] = byte(n)
	}
	data[0], data[1], data[2], data[3] = data[3], data[2], data[1], data[0]
	data[4], data[5], data[6], data[7] = data[5], data[4], data[7], data[6]
	return decoder.Seen{Kind: decoder.SeenBytes, Text: string(data)}
}
