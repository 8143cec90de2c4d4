package newtonsoft

import (
	"math/big"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// enum is the node for an enum: names in any case, [EnumMember] values and numbers, without a converter too; one with
// a strategy takes the names that it makes.
func (c *compiler) enum(m *model.Model, s site) *decoder.Node {
	t := &model.Type{Kind: model.Named, Name: m.Name, Model: m}
	how := s.enums
	if how == "" {
		how = c.settings.Option("enums")
	}
	how, flags, _ := strings.Cut(how, ",")
	_, name, _ := strings.Cut(how, ":")
	var rename func(string) string
	if name != "" {
		of, ok := strategyOf(name)
		if !ok {
			return unknown("the naming strategy " + name + " is not followed")
		}
		rename = of.rename
	}
	converter := strings.HasPrefix(how, "names")
	noNumbers := flags == "nointegers"
	return &decoder.Node{Op: decoder.OpLeaf, Model: m, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		switch v.Kind {
		case wire.Bool:
			if converter {
				break
			}
			n := int64(0)
			if v.True() {
				n = 1
			}
			return decoder.Verdict{Seen: clr.Constant(m, n)}
		case wire.Number:
			raw := string(v.Raw)
			if isFloat(raw) || noNumbers {
				break
			}
			n, ok := new(big.Int).SetString(raw, 10)
			if !ok || !n.IsInt64() {
				return decoder.Verdict{Err: converting(decoder.ReasonRange, v, t)}
			}
			return decoder.Verdict{Seen: clr.Constant(m, wrapped(n.Int64(), m.Raw))}
		case wire.String:
			text, _ := v.Text()
			if n, ok := parse(m, text, rename, noNumbers); ok {
				return decoder.Verdict{Seen: clr.Constant(m, n)}
			}
			return decoder.Verdict{Err: converting(decoder.ReasonConstant, v, t)}
		case wire.Array, wire.Object:
			if !converter {
				return decoder.Verdict{Err: cannotDeserialize(v.Kind, t, aPrimitive)}
			}
		}
		if token := tokenName(v); converter && v.Kind != wire.String && !(v.Kind == wire.Number && token == "Integer") {
			return decoder.Verdict{Err: serial(decoder.ReasonKind, "Unexpected token "+token+" when parsing enum.")}
		}
		return decoder.Verdict{Err: converting(decoder.ReasonKind, v, t)}
	}}
}

// wrapped is a number as one of the underlying type, by its lowest bits (Enum.ToObject).
func wrapped(n int64, raw *model.Type) int64 {
	bits, signed := clr.Bits(raw)
	switch {
	case bits == 8 && signed:
		return int64(int8(n))
	case bits == 8:
		return int64(uint8(n))
	case bits == 16 && signed:
		return int64(int16(n))
	case bits == 16:
		return int64(uint16(n))
	case bits == 32 && signed:
		return int64(int32(n))
	case bits == 32:
		return int64(uint32(n))
	}
	return n
}

// parse is EnumUtils.ParseEnum: names with commas between them, each by what it is written as, else by its own, else
// by either in any case; or a number.
func parse(m *model.Model, text string, rename func(string) string, noNumbers bool) (int64, bool) {
	trimmed := strings.TrimSpace(text)
	if trimmed == "" {
		return constant(m, "", rename)
	}
	if c := trimmed[0]; c >= '0' && c <= '9' || c == '-' || c == '+' {
		bits, signed := clr.Bits(m.Raw)
		if digits, ok := clr.ParseWhole(trimmed, bits, signed); ok {
			n, err := strconv.ParseInt(digits, 10, 64)
			return n, err == nil && !noNumbers
		}
	}
	total := int64(0)
	for _, part := range strings.Split(text, ",") {
		n, ok := constant(m, strings.TrimSpace(part), rename)
		if !ok {
			return 0, false
		}
		total |= n
	}
	return total, true
}

func constant(m *model.Model, text string, rename func(string) string) (int64, bool) {
	written := func(k *model.Case) string {
		if a := find(k.Marks, "EnumMember"); a != nil && len(a.Texts("Value")) > 0 {
			return a.Text("Value", k.Name)
		}
		if rename != nil {
			return rename(k.Name)
		}
		return k.Name
	}
	for _, same := range []func(a, b string) bool{func(a, b string) bool { return a == b }, strings.EqualFold} {
		for _, k := range m.Cases {
			if same(written(k), text) && k.Raw != nil {
				n, err := strconv.ParseInt(k.Raw.Text, 10, 64)
				return n, err == nil
			}
		}
		for _, k := range m.Cases {
			if same(k.Name, text) && k.Raw != nil {
				n, err := strconv.ParseInt(k.Raw.Text, 10, 64)
				return n, err == nil
			}
		}
	}
	return 0, false
}
