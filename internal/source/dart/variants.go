package dart

import (
	"fmt"
	"path"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// variants makes the parts of a class marked @freezed where they are missing: the class behind each of its factory
// constructors, what reads it, and where there are several, what tells by a key which one is sent (as freezed 2 and 3
// document it; not measured).
func (p *parts) variants(c *code.Class, u *code.Unit) {
	reader := "_$" + c.Name + "FromJson"
	if p.has(reader, c) || !reads(c, reader) {
		return
	}
	var constructors []*code.Func
	for _, f := range c.Funcs {
		if f.Factory && f.Redirect != nil && f.Redirect.Op == code.Name && len(p.byName[f.Redirect.Text]) == 0 {
			constructors = append(constructors, f)
		}
	}
	if len(constructors) == 0 {
		return
	}
	key := "runtimeType"
	mark := annotation(c.Marks, freezed...)
	if k := said(mark, "unionKey"); k != nil {
		if k.Op != code.Text || k.Text == "" {
			p.unknown[c] = "its unionKey is not written there"
			return
		}
		key = k.Text
	}
	several := len(constructors) > 1
	var units []*code.Unit
	var cases []string
	for _, f := range constructors {
		of := variant(c, f)
		if several {
			tell(of, key)
		}
		part, why := p.generated(of, u)
		if why != "" {
			p.unknown[c] = why
			return
		}
		part.Classes = append(part.Classes, of)
		units = append(units, part)
		cases = append(cases, fmt.Sprintf("_$%sFromJson(json)", of.Name))
	}
	text := cases[0]
	if several {
		text = chosen(c, mark, key, constructors, cases)
	} else {
		p.alone[units[0].Classes[0]] = c
	}
	part := Parse(scan.Scan(path.Join(path.Dir(u.File), "variants of "+c.Name+" in "+path.Base(u.File)), fmt.Sprintf("dynamic %s(Map<String, dynamic> json) => %s;\n", reader, text), dialect))
	p.belongs(part, u)
	p.units = append(append(p.units, units...), part)
}

// freezed are the annotations of such classes.
var freezed = []string{"freezed", "Freezed", "unfreezed"}

// chosen is the switch by which the reader of a union tells its constructors apart.
func chosen(c *code.Class, mark *code.Expr, key string, constructors []*code.Func, cases []string) string {
	style, fallback := "", ""
	if s := said(mark, "unionValueCase"); s != nil {
		style = s.Text
	}
	if f := said(mark, "fallbackUnion"); f != nil {
		fallback = f.Text
	}
	var b strings.Builder
	fmt.Fprintf(&b, "switch (json['%s']) {\n", key)
	otherwise := fmt.Sprintf("throw CheckedFromJsonException(json, '%s', '%s', 'Invalid union type \"${json['%s']}\"!')", key, c.Name, key)
	for i, f := range constructors {
		name := f.Name
		if name == c.Name {
			name = "default"
		}
		if name == fallback {
			otherwise = cases[i]
		}
		value := renamed(name, style)
		if said := annotation(f.Marks, "FreezedUnionValue"); said != nil && len(said.Args) == 2 && said.Args[1].Op == code.Text {
			value = said.Args[1].Text
		}
		fmt.Fprintf(&b, "  '%s' => %s,\n", value, cases[i])
	}
	fmt.Fprintf(&b, "  _ => %s,\n}", otherwise)
	return b.String()
}

// reads says whether a factory of a class calls a function of a name.
func reads(c *code.Class, name string) (yes bool) {
	for _, f := range c.Funcs {
		if f.Factory {
			code.WalkBody(f.Do(), func(x *code.Expr) { yes = yes || x.Op == code.Name && x.Text == name })
		}
	}
	return yes
}

// variant is the class behind a factory constructor: its parameters are the properties.
func variant(c *code.Class, f *code.Func) *code.Class {
	of := &code.Class{Name: f.Redirect.Text, Generics: c.Generics, File: c.File, Pos: f.Pos, Kind: "class", Types: c.Types}
	of.Extends = classType(c)
	of.Supers = append(of.Supers, of.Extends)
	for _, marks := range [][]*code.Expr{c.Marks, f.Marks} {
		if m := annotation(marks, "JsonSerializable", "jsonSerializable"); m != nil {
			of.Marks = []*code.Expr{m}
		}
	}
	ctor := &code.Func{Name: of.Name, Class: of, Init: true, File: c.File, Pos: f.Pos, Returns: classType(of)}
	for _, param := range f.Params {
		of.Props = append(of.Props, &code.Prop{Name: param.Name, Class: of, Type: param.Type, Final: true, File: c.File, Marks: param.Marks, Pos: param.Pos})
		if d := annotation(param.Marks, "Default"); d != nil && len(d.Args) == 2 {
			param.Default, param.Optional = d.Args[1], true
		}
		param.Field, param.Type = true, nil
		ctor.Params = append(ctor.Params, param)
	}
	of.Funcs = []*code.Func{ctor}
	return of
}

// tell gives a class of a union the property that the generator keeps the key in which says which class it is.
func tell(of *code.Class, key string) {
	name := &code.Expr{Op: code.Call, Args: []*code.Expr{{Op: code.Name, Text: "JsonKey", Pos: of.Pos}, {Op: code.Text, Text: key, Pos: of.Pos}}, Labels: []string{"name"}, Pos: of.Pos}
	text := model.OptionalOf(&model.Type{Kind: model.Named, Name: "String"})
	of.Props = append(of.Props, &code.Prop{Name: `$type`, Class: of, Type: text, Final: true, File: of.File, Marks: []*code.Expr{name}, Pos: of.Pos})
	of.Funcs[0].Params = append(of.Funcs[0].Params, code.Param{Name: `$type`, Label: `$type`, Optional: true, Field: true, Pos: of.Pos})
}
