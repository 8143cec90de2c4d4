package systemtextjson

import (
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// enum is the node for an enum: numbers of its underlying type, or names where a JsonStringEnumConverter reads it.
func (c *compiler) enum(m *model.Model, s site) *decoder.Node {
	t := &model.Type{Kind: model.Named, Name: m.Name, Model: m}
	how := s.enums
	if how == "" {
		how = c.settings.Option("enums")
	}
	whole := func(v *wire.Value) (decoder.Verdict, bool) {
		bits, signed := clr.Bits(m.Raw)
		digits, ok := clr.ParseWhole(string(v.Raw), bits, signed)
		if !ok {
			return decoder.Verdict{}, false
		}
		n, err := strconv.ParseInt(digits, 10, 64)
		if err != nil {
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: digits}}, true
		}
		return decoder.Verdict{Seen: clr.Constant(m, n)}, true
	}
	if how == "" {
		return &decoder.Node{Op: decoder.OpLeaf, Model: m, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
			if v.Kind == wire.Number {
				if verdict, ok := whole(v); ok {
					return verdict
				}
				return decoder.Verdict{Err: convert(decoder.ReasonRange, t)}
			}
			err := convert(decoder.ReasonKind, t)
			if v.Kind == wire.String {
				err.Advice = "mark " + m.Name + " [JsonConverter(typeof(JsonStringEnumConverter<" + m.Name + ">))], or add a JsonStringEnumConverter to the options"
			}
			return decoder.Verdict{Err: err}
		}}
	}
	_, policy, _ := strings.Cut(how, ":")
	policy, integers, _ := strings.Cut(policy, ":")
	var rename func(string) string
	if class, ok := strings.CutPrefix(policy, "code="); ok {
		if _, followed := c.code.Renamed(class, "ConvertName", m.Name); !followed {
			return unknown("what " + class + " makes of names is not followed")
		}
		rename = func(name string) string {
			renamed, _ := c.code.Renamed(class, "ConvertName", name)
			return renamed
		}
	} else if policy != "" {
		if rename = policies[policy]; rename == nil {
			return unknown("the naming policy " + policy + " is not followed")
		}
	}
	return &decoder.Node{Op: decoder.OpLeaf, Model: m, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		switch v.Kind {
		case wire.String:
			text, _ := v.Text()
			if seen, ok := byName(m, text, rename, false, integers != "nointegers"); ok {
				return decoder.Verdict{Seen: seen}
			}
			return decoder.Verdict{Err: convert(decoder.ReasonConstant, t)}
		case wire.Number:
			if verdict, ok := whole(v); ok && integers != "nointegers" {
				return verdict
			}
			return decoder.Verdict{Err: convert(decoder.ReasonRange, t)}
		}
		return decoder.Verdict{Err: convert(decoder.ReasonKind, t)}
	}}
}

// byName is the constant that a text names (EnumConverter.TryParseEnumFromString): by the name that an attribute or the
// policy gives it, exactly, or by its own in any case; several with commas; or by its number.
func byName(m *model.Model, text string, rename func(string) string, key, integers bool) (decoder.Seen, bool) {
	if strings.TrimSpace(text) == "" {
		return decoder.Seen{}, false
	}
	total, found := int64(0), false
	parts := strings.Split(text, ",")
	for _, part := range parts {
		n, ok := oneName(m, strings.TrimSpace(part), rename)
		if !ok {
			found = false
			break
		}
		total |= n
		found = true
	}
	if found {
		return clr.Constant(m, total), true
	}
	if integers || key {
		bits, signed := clr.Bits(m.Raw)
		if digits, ok := clr.ParseWhole(strings.TrimSpace(text), bits, signed); ok {
			n, err := strconv.ParseInt(digits, 10, 64)
			if err != nil {
				return decoder.Seen{Kind: decoder.SeenInt, Text: digits}, true
			}
			return clr.Constant(m, n), true
		}
	}
	return decoder.Seen{}, false
}

func oneName(m *model.Model, text string, rename func(string) string) (int64, bool) {
	var fold *model.Case
	for _, k := range m.Cases {
		name, own := k.Name, true
		if a := find(k.Marks, "JsonStringEnumMemberName"); a != nil {
			name, own = a.Text("value", name), false
		} else if rename != nil {
			if rename(name) == text {
				return number(k)
			}
		}
		if name == text {
			return number(k)
		}
		if own && fold == nil && strings.EqualFold(name, text) {
			fold = k
		}
	}
	if fold != nil {
		return number(fold)
	}
	return 0, false
}

func number(k *model.Case) (int64, bool) {
	if k.Raw == nil {
		return 0, false
	}
	n, err := strconv.ParseInt(k.Raw.Text, 10, 64)
	return n, err == nil
}
