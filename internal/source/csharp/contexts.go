package csharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// ofContext is what a generated context says whose member is named: AppContext.Default.Sailing, AppContext.Default.
func (a *asking) ofContext(e *code.Expr, s scope) *model.Settings {
	for deep := 0; e != nil && deep < 3; deep++ {
		if e.Op == code.Name {
			if d := a.p.find(e.Text, 0, s.file, s.space, s.in); d != nil {
				return a.context(d)
			}
			return nil
		}
		if e.Op != code.Member || len(e.Args) != 1 {
			return nil
		}
		if name := chain(e); name != "" {
			if d := a.p.find(name, 0, s.file, s.space, s.in); d != nil {
				return a.context(d)
			}
		}
		e = e.Args[0]
	}
	return nil
}

// context is what a generated context says of how to decode, nil for a type that is none.
func (a *asking) context(d *declared) *model.Settings {
	is := false
	for _, part := range d.parts {
		for _, t := range part.Supers {
			is = is || model.SimpleName(t.Name) == "JsonSerializerContext"
		}
	}
	if !is {
		return nil
	}
	s := plain(systemTextJSON, d.parts[0].Pos)
	s.Options["generated"] = model.Option{Value: "true", Pos: d.parts[0].Pos}
	s.Options["context"] = model.Option{Value: strings.Join(a.registered(d), ","), Pos: d.parts[0].Pos}
	for _, part := range d.parts {
		in := scope{file: part.File, space: d.space, in: d}
		for _, mark := range a.p.marks(part.Marks, in) {
			if mark.Name != "JsonSourceGenerationOptions" {
				continue
			}
			for _, arg := range mark.Args {
				a.generated(s, arg, mark.Pos, in)
			}
		}
	}
	return s
}

// registered are the names of the source's types that a generated context is made for, [JsonSerializable], and of all
// that these lead to.
func (a *asking) registered(d *declared) (names []string) {
	known := map[*model.Model]bool{}
	var visit func(t *model.Type)
	visit = func(t *model.Type) {
		t.Walk(func(t *model.Type) {
			m := t.Model
			if m == nil || known[m] {
				return
			}
			known[m] = true
			names = append(names, m.Name)
			a.p.fill()
			for _, f := range m.Fields {
				visit(f.Type)
			}
			visit(m.Super)
			stoodFor(m.Marks, visit)
		})
	}
	for _, part := range d.parts {
		in := scope{file: part.File, space: d.space, in: d}
		for _, mark := range part.Marks {
			if strings.TrimSuffix(model.SimpleName(mark.Args[0].Text), "Attribute") != "JsonSerializable" || len(mark.Args) < 2 || mark.Args[1].Op != code.TypeOf {
				continue
			}
			visit(a.p.resolve(mark.Args[1].Type, in))
		}
	}
	return names
}

// generated takes in one argument of [JsonSourceGenerationOptions].
func (a *asking) generated(s *model.Settings, arg model.Argument, pos model.Pos, in scope) {
	text := strings.Join(arg.Texts, ",")
	switch arg.Name {
	case "value", "defaults":
		defaults(s, text, pos)
	case "UseStringEnumConverter":
		if text == "true" {
			s.Options["enums"] = model.Option{Value: "names", Pos: pos}
		}
	case "PropertyNamingPolicy":
		s.Options[arg.Name] = model.Option{Value: text, Pos: pos}
	case "Converters":
		for _, name := range arg.Texts {
			if name == "JsonStringEnumConverter" {
				s.Options["enums"] = model.Option{Value: "names", Pos: pos}
			} else {
				a.converterNamed(s, name, pos, in)
			}
		}
	case "GenerationMode", "WriteIndented", "DefaultIgnoreCondition", "IgnoreReadOnlyFields", "IgnoreReadOnlyProperties", "DictionaryKeyPolicy", "ReadCommentHandling", "AllowTrailingCommas":
	default:
		s.Options[arg.Name] = model.Option{Value: text, Pos: pos}
	}
}

// typeInfo is the type that a member of a generated context stands for, nil for another expression: by the name that
// [JsonSerializable] gives it, or that of the type with those of its arguments behind.
func (a *asking) typeInfo(e *code.Expr, fn *code.Func, s scope) *model.Type {
	if e.Op != code.Member || len(e.Args) != 1 {
		return nil
	}
	d := a.contextOf(e.Args[0], fn, s)
	if d == nil {
		return nil
	}
	for _, part := range d.parts {
		in := scope{file: part.File, space: d.space, in: d}
		for _, mark := range part.Marks {
			if strings.TrimSuffix(model.SimpleName(mark.Args[0].Text), "Attribute") != "JsonSerializable" || len(mark.Args) < 2 || mark.Args[1].Op != code.TypeOf {
				continue
			}
			t := a.p.resolve(mark.Args[1].Type, in)
			name := generatedName(t)
			for i, label := range mark.Labels {
				if label == "TypeInfoPropertyName" {
					name = a.p.value(mark.Args[i+1], in, 0).Text
				}
			}
			if name == e.Text {
				return t
			}
		}
	}
	return nil
}

// contextOf is the generated context that an expression is: AppContext.Default, or what holds an instance of one; nil for
// another expression.
func (a *asking) contextOf(e *code.Expr, fn *code.Func, s scope) *declared {
	var d *declared
	switch {
	case e.Op == code.Member && e.Text == "Default":
		d = a.p.find(chain(e.Args[0]), 0, s.file, s.space, s.in)
	case e.Op == code.Name || e.Op == code.Member:
		if t := a.typeOf(e, fn, s); t != nil {
			d = a.p.typeNamed(t, s)
		}
	}
	if d == nil || a.context(d) == nil {
		return nil
	}
	return d
}

// generatedName is the name that the generator gives a type: ListPort, PortArray.
func generatedName(t *model.Type) string {
	name := model.SimpleName(t.Name)
	switch {
	case t.Kind == model.Optional:
		return "Nullable" + generatedName(t.Args[0])
	case t.Name == "[]":
		return generatedName(t.Args[0]) + "Array"
	case t.Class != "":
		name = t.Class
	case short[name] == "" && predefined[name]:
		for full, word := range short {
			if word == name {
				name = full
			}
		}
	}
	for _, arg := range t.Args {
		name += generatedName(arg)
	}
	return name
}
