package systemtextjson

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf16"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// scalar is the node for a type of the platform, nil for one that is not known.
func (c *compiler) scalar(t *model.Type, s site) *decoder.Node {
	switch {
	case t.Name == "nint" || t.Name == "nuint":
		return c.notSupported(t)
	case clr.IsNumber(t):
		return c.number(t, s)
	}
	text := func(reason decoder.Reason, read func(text string) (decoder.Seen, bool)) *decoder.Node {
		return &decoder.Node{Op: decoder.OpLeaf, MindsText: true, NumbersByClass: true, ByDate: true, Read: func(v *wire.Value) decoder.Verdict {
			if v.Kind != wire.String {
				return decoder.Verdict{Err: convert(decoder.ReasonKind, t)}
			}
			given, _ := v.Text()
			if seen, ok := read(given); ok {
				return decoder.Verdict{Seen: seen}
			}
			return decoder.Verdict{Err: convert(reason, t)}
		}}
	}
	switch t.Name {
	case "string":
		return &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
			if v.Kind != wire.String {
				return decoder.Verdict{Err: convert(decoder.ReasonKind, t)}
			}
			given, _ := v.Text()
			return decoder.Verdict{Seen: clr.String(given)}
		}}
	case "bool":
		return &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
			if v.Kind != wire.Bool {
				return decoder.Verdict{Err: convert(decoder.ReasonKind, t)}
			}
			return decoder.Verdict{Seen: decoder.Bool(v.True())}
		}}
	case "char":
		return text(decoder.ReasonText, func(s string) (decoder.Seen, bool) {
			return clr.String(s), len(utf16.Encode([]rune(s))) == 1
		})
	case "JsonValue":
		return &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
			if v.Kind >= wire.Array {
				return decoder.Verdict{Err: &decoder.Error{Kind: "InvalidOperationException", Reason: decoder.ReasonKind, Message: "InvalidOperationException: The element cannot be an object or array."}}
			}
			return decoder.Verdict{Seen: clr.Any(v)}
		}}
	case "object", "dynamic", "JsonElement", "JsonNode", "JsonDocument":
		return &decoder.Node{Op: decoder.OpLeaf, Read: c.element}
	case "JsonObject", "JsonArray":
		kind := wire.Object
		if t.Name == "JsonArray" {
			kind = wire.Array
		}
		return &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
			if v.Kind != kind {
				return decoder.Verdict{Err: convert(decoder.ReasonKind, t)}
			}
			return c.element(v)
		}}
	case "DateTime", "DateTimeOffset":
		return text(decoder.ReasonDate, func(s string) (decoder.Seen, bool) {
			d, ok := clr.ParseISO(s)
			if !ok {
				return decoder.Seen{}, false
			}
			if t.Name == "DateTimeOffset" {
				if d.Zone == "Z" || d.Zone == clr.NoZone {
					d.Zone = "+00:00"
				}
				return d.Seen(), true
			}
			return clr.Local(d.Seen(), d.Zone), true
		})
	case "DateOnly":
		return text(decoder.ReasonDate, func(s string) (decoder.Seen, bool) {
			d, ok := clr.ParseISO(s)
			if !ok || d.HasTime {
				return decoder.Seen{}, false
			}
			seen := d.Seen()
			seen.Text = seen.Text[:10]
			return seen, true
		})
	case "TimeOnly":
		return text(decoder.ReasonDate, clr.ParseTime)
	case "TimeSpan":
		return text(decoder.ReasonDate, func(s string) (decoder.Seen, bool) {
			span, ok := clr.TimeSpan(s)
			return clr.String(span), ok
		})
	case "Guid":
		return text(decoder.ReasonText, clr.Guid)
	case "Version":
		return text(decoder.ReasonText, clr.Version)
	case "Uri":
		return text(decoder.ReasonText, clr.Uri)
	case "BigInteger": // an object without members that are set
		return &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
			if v.Kind != wire.Object {
				return decoder.Verdict{Err: convert(decoder.ReasonKind, t)}
			}
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: "0"}}
		}}
	case "Type":
		return c.notSupported(t)
	case "JObject", "JArray", "JToken": // collections of JToken, none of which it makes
		return foreign(t)
	case "ArrayList", "IList", "ICollection", "IEnumerable", "Queue", "Stack":
		n := &decoder.Node{Op: decoder.OpList, Wrong: wrong(t), Inner: c.value(&model.Type{Kind: model.Named, Name: "object"}, site{})}
		if t.Name == "Stack" {
			return reversed(n)
		}
		return n
	case "Hashtable", "IDictionary":
		n := &decoder.Node{Op: decoder.OpMap, Wrong: wrong(t), Every: true, Inner: c.value(&model.Type{Kind: model.Named, Name: "object"}, site{})}
		n.Key = func(name string) (decoder.Seen, *decoder.Error) { return clr.String(name), nil }
		return n
	}
	switch t.Name {
	case "Func", "Action", "Delegate":
		return c.notSupported(t)
	}
	if t.Name == "KeyValuePair" && len(t.Args) == 2 {
		return c.pair(t)
	}
	return nil
}

// element is what a JsonElement or a node holds of a value.
func (c *compiler) element(v *wire.Value) decoder.Verdict {
	if c.settings.Option("AllowDuplicateProperties") == "false" {
		if key, twice := repeated(v); twice {
			return decoder.Verdict{Err: problem(decoder.ReasonTwice, fmt.Sprintf("Duplicate property '%s' encountered during deserialization.", key))}
		}
	}
	return decoder.Verdict{Seen: clr.Any(v)}
}

// repeated is a key that an object has twice, v or one within it.
func repeated(v *wire.Value) (key string, ok bool) {
	known := make(map[string]bool, len(v.Members))
	for i := range v.Members {
		m := &v.Members[i]
		if key, ok = repeated(m.Value); ok {
			return key, ok
		}
		if known[m.Name] {
			return m.Name, true
		}
		known[m.Name] = true
	}
	for _, e := range v.Elems {
		if key, ok = repeated(e); ok {
			return key, ok
		}
	}
	return "", false
}

// foreign is the node for a token of Newtonsoft.Json: a collection of tokens, of which the library makes none but null.
func foreign(t *model.Type) *decoder.Node {
	token := &model.Type{Kind: model.Named, Name: "JToken"}
	inner := &decoder.Node{Op: decoder.OpNil, Inner: &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
		return decoder.Verdict{Err: convert(decoder.ReasonKind, token)}
	}}}
	switch t.Name {
	case "JObject":
		return &decoder.Node{Op: decoder.OpMap, Wrong: wrong(t), Every: true, Inner: inner, Key: func(name string) (decoder.Seen, *decoder.Error) { return clr.String(name), nil }}
	case "JArray":
		return &decoder.Node{Op: decoder.OpList, Wrong: wrong(t), Inner: inner}
	}
	return inner.Inner
}

// pair is the node for a KeyValuePair: an object of Key and Value, by the policy's names.
func (c *compiler) pair(t *model.Type) *decoder.Node {
	m := &model.Model{Name: "KeyValuePair", Language: "csharp", Kind: model.Struct}
	build := &decoder.Node{Op: decoder.OpBuild, Model: m, Anonymous: true, ByDocument: true}
	for i, name := range []string{"Key", "Value"} {
		build.Props = append(build.Props, &model.Field{Name: name, Type: t.Args[i]})
		build.Steps = append(build.Steps, decoder.Step{Property: i, Node: &decoder.Node{Op: decoder.OpAt, Name: c.named(name), Every: true, Value: clr.Zero(t.Args[i]), Inner: c.value(t.Args[i], site{})}})
	}
	return &decoder.Node{Op: decoder.OpKeyed, Wrong: wrong(t), Match: c.matching([]string{c.named("Key"), c.named("Value")}), Inner: build}
}

// number is the node for a number: digits in range for an integer, whatever is beyond its range infinite for a float;
// numbers in quotes where they are allowed.
func (c *compiler) number(t *model.Type, s site) *decoder.Node {
	handling := s.numbers
	if handling == "" {
		handling = c.settings.Option("NumberHandling")
	}
	allows := func(what string) bool { return slices.Contains(strings.Split(handling, ","), what) }
	quoted, names := allows("AllowReadingFromString"), allows("AllowNamedFloatingPointLiterals")
	bits, signed := clr.Bits(t)
	float := clr.IsFloat(t)
	read := func(text string, kind wire.Kind) (decoder.Verdict, bool) {
		switch {
		case bits > 0:
			if digits, ok := clr.ParseWhole(text, bits, signed); ok && (signed || text[0] != '-') {
				return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: digits}}, true
			}
		case float > 0:
			seen, ok := clr.Float(text, float)
			if !ok || float == 16 && seen.Text == "Infinity" || float == 16 && seen.Text == "-Infinity" {
				return decoder.Verdict{}, false
			}
			if strings.HasSuffix(seen.Text, "Infinity") {
				return decoder.Verdict{Seen: seen, Loss: decoder.LostDigits}, true
			}
			return decoder.Verdict{Seen: seen, Loss: digits(text, seen.Text, float)}, true
		default:
			if d, ok := clr.Decimal(text); ok {
				return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenDecimal, Text: d}, Loss: clr.Digits(text, d)}, true
			}
		}
		return decoder.Verdict{}, false
	}
	return &decoder.Node{Op: decoder.OpLeaf, MindsText: true, ByFacts: true, Read: func(v *wire.Value) decoder.Verdict {
		switch {
		case v.Kind == wire.Number:
			if verdict, ok := read(string(v.Raw), v.Kind); ok {
				return verdict
			}
			return decoder.Verdict{Err: convert(decoder.ReasonRange, t)}
		case v.Kind == wire.String && (quoted || names && float > 0):
			text, _ := v.Text()
			if float > 0 && (names || quoted) && (text == "NaN" || text == "Infinity" || text == "-Infinity") {
				return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenFloat, Text: text}}
			}
			if quoted && isNumber(text) {
				if verdict, ok := read(strings.TrimPrefix(text, "+"), v.Kind); ok {
					return verdict
				}
			}
			return decoder.Verdict{Err: convert(decoder.ReasonText, t)}
		}
		return decoder.Verdict{Err: convert(decoder.ReasonKind, t)}
	}}
}

// isNumber says whether a text is a number as Utf8Parser takes it whole.
func isNumber(text string) bool {
	rest := strings.TrimLeft(text, "+-")
	if len(text)-len(rest) > 1 || rest == "" {
		return false
	}
	digits := 0
	for i := 0; i < len(rest); i++ {
		c := rest[i]
		switch {
		case c >= '0' && c <= '9':
			digits++
		case c == '.':
		case (c == 'e' || c == 'E') && digits > 0 && i+1 < len(rest):
			if rest[i+1] == '+' || rest[i+1] == '-' {
				i++
			}
			return i+1 < len(rest) && strings.Trim(rest[i+1:], "0123456789") == ""
		default:
			return false
		}
	}
	return digits > 0 && strings.Count(rest, ".") < 2
}

// digits says whether a float has lost any that were sent. One of 32 bits is compared as far as its digits go.
func digits(sent, seen string, bits int) decoder.Loss {
	if bits < 64 && len(strings.Trim(sent, "-0.")) <= 7 {
		return decoder.NoLoss
	}
	if bits == 64 && len(strings.TrimLeft(strings.NewReplacer("-", "", ".", "").Replace(sent), "0")) <= 15 {
		return decoder.NoLoss
	}
	return clr.Digits(sent, seen)
}
