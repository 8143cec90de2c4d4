package foundation

import (
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/model"
)

// Constant is the value that a literal in source has where a value of type t is
// wanted. An expression whose value is not known becomes an unknown one.
func Constant(l *model.Literal, t *model.Type) decoder.Seen {
	unknown := decoder.Seen{Kind: decoder.SeenUnknown}
	if t == nil {
		if t = plainType(l); t == nil {
			return unknown
		}
	}
	want := t.Unwrapped()
	switch l.Kind {
	case model.NullLiteral:
		return decoder.Seen{}
	case model.BoolLiteral:
		return decoder.Seen{Kind: decoder.SeenBool, Text: l.Text}
	case model.StringLiteral:
		if want.Kind == model.Named && want.Name == "String" {
			return decoder.Seen{Kind: decoder.SeenString, Text: l.Text}
		}
	case model.IntLiteral, model.FloatLiteral:
		return number(l, want)
	case model.ListLiteral:
		if want.Kind != model.List && want.Kind != model.Unique {
			return unknown
		}
		out := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
		if want.Kind == model.Unique {
			out.Kind = decoder.SeenSet
		}
		for _, e := range l.Elems {
			out.Elems = append(out.Elems, Constant(e, want.Args[0]))
		}
		return out
	case model.MapLiteral:
		if want.Kind != model.Map {
			return unknown
		}
		out := decoder.Seen{Kind: decoder.SeenMap, Elems: []decoder.Seen{}}
		for i := 0; i+1 < len(l.Elems); i += 2 {
			out.Names = append(out.Names, l.Elems[i].Text)
			out.Elems = append(out.Elems, Constant(l.Elems[i+1], want.Args[1]))
		}
		return out
	case model.CaseLiteral:
		if want.Model == nil {
			if t.Kind == model.Optional && l.Text == "none" {
				return decoder.Seen{}
			}
			return unknown
		}
		for _, c := range want.Model.Cases {
			if c.Name == l.Text && len(c.Values) == 0 {
				kind := decoder.SeenEnum
				if want.Model.Raw == nil && want.Model.Reading == model.ByLibrary {
					kind = decoder.SeenCase
				}
				return decoder.Seen{Kind: kind, Text: c.Name, Type: want.Model.Name}
			}
		}
	}
	return unknown
}

// plainType is the type that a literal has where nothing says otherwise.
func plainType(l *model.Literal) *model.Type {
	switch l.Kind {
	case model.NullLiteral, model.BoolLiteral:
		return &model.Type{Name: "Bool"}
	case model.IntLiteral:
		return &model.Type{Name: "Int"}
	case model.FloatLiteral:
		return &model.Type{Name: "Double"}
	case model.StringLiteral:
		return &model.Type{Name: "String"}
	}
	return nil
}

func number(l *model.Literal, want *model.Type) decoder.Seen {
	text := l.Text
	if n, err := strconv.ParseInt(text, 0, 64); err == nil && strings.ContainsAny(text, "xob") {
		text = strconv.FormatInt(n, 10)
	}
	switch want.Name {
	case "Float", "Float32":
		f, _ := strconv.ParseFloat(text, 32)
		return decoder.Seen{Kind: decoder.SeenFloat, Text: FloatText(f, 32)}
	case "Double", "Float64", "CGFloat", "TimeInterval":
		f, _ := strconv.ParseFloat(text, 64)
		return decoder.Seen{Kind: decoder.SeenFloat, Text: FloatText(f, 64)}
	case "Decimal":
		return decoder.Seen{Kind: decoder.SeenDecimal, Text: text}
	}
	if _, ok := integers[want.Name]; ok && l.Kind == model.IntLiteral {
		return decoder.Seen{Kind: decoder.SeenInt, Text: text}
	}
	return decoder.Seen{Kind: decoder.SeenUnknown}
}
