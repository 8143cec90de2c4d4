package clr

import (
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/model"
)

// Initial is what a field holds where an instance has just been made: what its initialiser says, else the zero of its
// type.
func Initial(f *model.Field, t *model.Type) decoder.Seen {
	if f.Default == nil {
		return Zero(t)
	}
	return Literal(f.Default, t)
}

// Literal is a value of the source as one of a type; unknown where code computes it.
func Literal(l *model.Literal, t *model.Type) decoder.Seen {
	unknown := decoder.Seen{Kind: decoder.SeenUnknown}
	u := t.Unwrapped()
	switch l.Kind {
	case model.NullLiteral:
		if l.Text == "default" {
			return Zero(t)
		}
		return decoder.Seen{}
	case model.BoolLiteral:
		return decoder.Bool(l.Text == "true")
	case model.IntLiteral, model.FloatLiteral:
		switch {
		case IsFloat(u) > 0:
			s, ok := Float(l.Text, IsFloat(u))
			if ok {
				return s
			}
		case u.Name == "decimal":
			if d, ok := Decimal(l.Text); ok {
				return decoder.Seen{Kind: decoder.SeenDecimal, Text: d}
			}
		case l.Kind == model.IntLiteral && (IsNumber(u) || u.Name == "object"):
			return decoder.Seen{Kind: decoder.SeenInt, Text: l.Text}
		}
	case model.StringLiteral:
		if u.Name == "string" || u.Name == "object" || u.Name == "char" {
			return String(l.Text)
		}
	case model.CaseLiteral:
		if u.Model != nil && u.Model.Kind == model.Enum {
			return decoder.Seen{Kind: decoder.SeenEnum, Text: l.Text, Type: u.Model.Name}
		}
	case model.ListLiteral:
		if u.Kind != model.List && u.Kind != model.Unique || u.Class == "Stack" {
			break
		}
		out := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
		if u.Kind == model.Unique {
			out.Kind = decoder.SeenSet
		}
		for _, e := range l.Elems {
			out.Elems = append(out.Elems, Literal(e, u.Args[0]))
		}
		return out
	case model.MapLiteral:
		if u.Kind != model.Map {
			break
		}
		out := decoder.Seen{Kind: decoder.SeenMap, Elems: []decoder.Seen{}}
		for i := 0; i+1 < len(l.Elems); i += 2 {
			Put(&out, l.Elems[i].Text, Literal(l.Elems[i+1], u.Args[1]))
		}
		return out
	case model.MadeLiteral:
		return made(l, u)
	case model.OtherLiteral:
		return known(l.Text, u)
	}
	return unknown
}

// made is an instance that the constructor without arguments makes.
func made(l *model.Literal, t *model.Type) decoder.Seen {
	switch t.Kind {
	case model.List:
		return decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
	case model.Unique:
		return decoder.Seen{Kind: decoder.SeenSet, Elems: []decoder.Seen{}}
	case model.Map:
		return decoder.Seen{Kind: decoder.SeenMap, Elems: []decoder.Seen{}}
	}
	if t.Model == nil || l.Text != "" && l.Text != t.Model.Name && !strings.HasSuffix(t.Model.Name, "."+l.Text) || t.Model.Kind == model.Enum {
		return decoder.Seen{Kind: decoder.SeenUnknown}
	}
	out := Instance(t, 0)
	for i := 0; i+1 < len(l.Elems) && out.Kind == decoder.SeenObject; i += 2 {
		for k, name := range out.Names {
			if name != l.Elems[i].Text {
				continue
			}
			out.Elems[k] = decoder.Seen{Kind: decoder.SeenUnknown}
			for _, f := range t.Model.Fields {
				if f.Name == name {
					out.Elems[k] = Literal(l.Elems[i+1], f.Type.Bind(t.Env()))
				}
			}
		}
	}
	return out
}

// Instance is a new instance of a class by its constructor without parameters, unknown where it has none.
func Instance(t *model.Type, deep int) decoder.Seen {
	if deep > 8 {
		return decoder.Seen{Kind: decoder.SeenUnknown}
	}
	out := decoder.Seen{Kind: decoder.SeenObject, Type: t.Model.Name}
	for _, s := range Chain(t) {
		var made *model.Method
		for _, k := range s.Model.Ctors {
			if len(k.Params) == 0 {
				made = k
			}
		}
		if made == nil && s.Model.Kind != model.Struct {
			return decoder.Seen{Kind: decoder.SeenUnknown}
		}
		env := s.Env()
		for _, f := range s.Model.Fields {
			if !Stored(f) || has(out.Names, f.Name) {
				continue
			}
			v := Initial(f, f.Type.Bind(env))
			if made != nil && has(made.Computes, f.Name) {
				v = decoder.Seen{Kind: decoder.SeenUnknown}
			}
			out.Names, out.Elems = append(out.Names, f.Name), append(out.Elems, v)
		}
	}
	return out
}

func has(names []string, name string) bool {
	for _, n := range names {
		if n == name {
			return true
		}
	}
	return false
}

// known are members of the platform's classes that initialisers name.
func known(text string, t *model.Type) decoder.Seen {
	switch {
	case strings.HasSuffix(text, "Guid.Empty"), strings.HasSuffix(text, "TimeSpan.Zero"), strings.HasSuffix(text, "DateTime.MinValue"), strings.HasSuffix(text, "DateTimeOffset.MinValue"):
		return Zero(t)
	case strings.HasSuffix(text, "int.MaxValue"):
		return decoder.Seen{Kind: decoder.SeenInt, Text: "2147483647"}
	case strings.HasSuffix(text, "int.MinValue"):
		return decoder.Seen{Kind: decoder.SeenInt, Text: "-2147483648"}
	case strings.HasSuffix(text, "double.NaN"):
		return decoder.Seen{Kind: decoder.SeenFloat, Text: "NaN"}
	}
	return decoder.Seen{Kind: decoder.SeenUnknown}
}
