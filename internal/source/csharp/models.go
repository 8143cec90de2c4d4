package csharp

import (
	"slices"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// Language is the name of the language in models and settings.
const Language = "csharp"

var kinds = map[string]model.Kind{"class": model.Class, "struct": model.Struct, "record": model.Record, "record struct": model.Struct, "interface": model.Interface, "enum": model.Enum}

// modelOf is the model of a type, to be filled before anybody looks at it.
func (p *project) modelOf(d *declared) *model.Model {
	if d.model != nil {
		return d.model
	}
	c := d.parts[0]
	d.model = &model.Model{
		Name: d.name, Language: Language, Package: d.space, Kind: kinds[d.kind()], Pos: c.Pos, Params: d.params, Decodable: true, Reading: model.ByLibrary,
		Abstract: d.has("abstract") || d.kind() == "interface", Data: strings.HasPrefix(d.kind(), "record"), Access: access(d), Source: &Source{d, p.world},
	}
	d.code.Model = d.model
	p.of[d.model] = d
	p.due = append(p.due, d)
	return d.model
}

// access is who may see a type.
func access(d *declared) model.Access {
	switch {
	case d.has("public"):
		return model.Public
	case d.has("protected"):
		return model.Protected
	case d.has("private") || d.outer != nil && !d.has("internal") && d.outer.kind() != "interface":
		return model.Private
	}
	return model.Package
}

// accessOf is who may see a member, by its modifiers.
func accessOf(mods []string, d *declared) model.Access {
	switch {
	case slices.Contains(mods, "public"), d.kind() == "interface":
		return model.Public
	case slices.Contains(mods, "internal"):
		return model.Package
	case slices.Contains(mods, "protected"):
		return model.Protected
	}
	return model.Private
}

// fill completes the models that were asked for, and those that they lead to.
func (p *project) fill() {
	for len(p.due) > 0 {
		d := p.due[len(p.due)-1]
		p.due = p.due[:len(p.due)-1]
		p.complete(d)
	}
}

func (p *project) complete(d *declared) {
	m := d.model
	for _, c := range d.parts {
		s := scope{file: c.File, space: d.space, in: d}
		m.Marks = append(m.Marks, p.marks(c.Marks, s)...)
		if d.kind() == "enum" {
			p.constants(d, c, s)
			p.tell(d)
			return
		}
		for k, t := range c.Supers {
			super := p.resolve(t, s)
			m.Conforms = append(m.Conforms, t.Written())
			switch {
			case super.Model != nil && super.Model.Kind == model.Interface:
			case super.Model != nil && m.Super == nil:
				m.Super = super
			case k == 0 && super.Kind != model.Named && super.Kind != model.Param && !strings.HasPrefix(super.Class, "I"):
				m.Collection = super
			}
		}
		for _, fn := range c.Funcs {
			if fn.Name == "Equals" && slices.Contains(fn.Mods, "override") { // by which sets compare
				m.Methods = append(m.Methods, &model.Method{Name: fn.Name, Pos: fn.Pos})
			}
		}
		for _, prop := range c.Props {
			if f := p.field(prop, d, s); f != nil {
				m.Fields = append(m.Fields, f)
			}
		}
	}
	p.positional(d)
	p.constructors(d)
	p.tell(d)
	m.Related = func(name string) *model.Model {
		if other := p.find(name, 0, d.parts[0].File, d.space, d); other != nil {
			of := p.modelOf(other)
			p.fill()
			return of
		}
		return nil
	}
}

// constants are those of an enum with their numbers.
func (p *project) constants(d *declared, c *code.Class, s scope) {
	m := d.model
	m.Raw = &model.Type{Kind: model.Named, Name: "int", Linked: true}
	if len(c.Supers) > 0 {
		m.Raw = p.resolve(c.Supers[0], s)
	}
	next := int64(0)
	known := true
	for _, name := range c.Order {
		k := &model.Case{Name: name, Key: name, Pos: c.Pos, Marks: p.marks(c.OfCase[name], s)}
		if v := c.Cases[name]; v != nil {
			next, known = p.whole(v, d, s, 0)
		}
		if known {
			k.Raw = &model.Literal{Kind: model.IntLiteral, Text: strconv.FormatInt(next, 10)}
		}
		m.Cases = append(m.Cases, k)
		next++
	}
}

// whole is the number that a constant of an enum is given.
func (p *project) whole(e *code.Expr, d *declared, s scope, deep int) (int64, bool) {
	if deep > maxConstants {
		return 0, false
	}
	switch {
	case (e.Op == code.Binary || e.Op == code.Plus) && len(e.Args) == 2:
		a, ok := p.whole(e.Args[0], d, s, deep+1)
		b, ok2 := p.whole(e.Args[1], d, s, deep+1)
		n, ok3 := combined(e, a, b)
		return n, ok && ok2 && ok3
	case e.Op == code.Unary && e.Text == "~":
		a, ok := p.whole(e.Args[0], d, s, deep+1)
		return ^a, ok
	case e.Op == code.Name:
		at := int64(0)
		for _, name := range d.parts[0].Order {
			if v := d.parts[0].Cases[name]; v != nil && name != e.Text {
				at, _ = p.whole(v, d, s, deep+1)
			} else if v != nil {
				return p.whole(v, d, s, deep+1)
			}
			if name == e.Text {
				return at, true
			}
			at++
		}
	case e.Op == code.Text && len(e.Args) == 0 && e.Text != "": // 'A'
		return int64([]rune(e.Text)[0]), true
	}
	l := p.value(e, s, 0)
	n, err := strconv.ParseInt(l.Text, 10, 64)
	return n, err == nil && l.Kind == model.IntLiteral
}

// combined is what an operator makes of two whole numbers.
func combined(e *code.Expr, a, b int64) (int64, bool) {
	if e.Op == code.Plus {
		return a + b, true
	}
	switch e.Text {
	case "|":
		return a | b, true
	case "&":
		return a & b, true
	case "^":
		return a ^ b, true
	case "-":
		return a - b, true
	case "*":
		return a * b, true
	case "<<":
		return a << uint(b&63), true
	case ">>":
		return a >> uint(b&63), true
	}
	return 0, false
}

// field is a member that holds a value: a field, or a property; nil for what no library looks at.
func (p *project) field(prop *code.Prop, d *declared, s scope) *model.Field {
	if slices.Contains(prop.Mods, "explicit") || slices.Contains(prop.Mods, "const") || prop.Name == "" {
		return nil
	}
	f := &model.Field{
		Name: prop.Name, Keys: []string{prop.Name}, Type: p.resolve(prop.Type, s), Declared: prop.Type.Written(), Pos: prop.Pos, Reading: model.ByLibrary,
		Access: accessOf(prop.Mods, d), Static: prop.Static, Marks: p.marks(prop.Marks, s),
		Required: slices.Contains(prop.Mods, "required"), Hides: slices.Contains(prop.Mods, "new"), Overrides: slices.Contains(prop.Mods, "override"),
		Final: slices.Contains(prop.Mods, "readonly"), Oblivious: !p.annotated(prop.File, prop.Pos.Line),
	}
	f.AllowsNull, f.NoNull = f.Marks.Find("AllowNull") != nil, f.Marks.Find("DisallowNull") != nil
	if prop.Value != nil {
		f.Default = p.literal(prop.Value, s)
	}
	if prop.Accessors != nil {
		f.Property = p.property(prop, d)
		f.Marks = slices.DeleteFunc(f.Marks, func(a model.Annotation) bool { return a.Target == "field" }) // of the field behind it, which no library asks
		if slices.Contains(prop.Mods, "abstract") {
			f.Property.Stored = false
		}
	}
	return f
}

// property is what a library sees of the accessors.
func (p *project) property(prop *code.Prop, d *declared) *model.Property {
	out := &model.Property{Stored: d.kind() != "interface"}
	own := accessOf(prop.Mods, d)
	for _, a := range prop.Accessors {
		access := own
		if len(a.Mods) > 0 && (slices.Contains(a.Mods, "private") || slices.Contains(a.Mods, "protected") || slices.Contains(a.Mods, "internal")) {
			access = accessOf(a.Mods, &declared{parts: []*code.Class{{Kind: "class"}}})
		}
		if a.Fn != nil && !mentions(a.Fn, "field") {
			out.Stored = false
		}
		switch a.Word {
		case "get":
			out.Get = access
		default:
			out.Set, out.Init = access, a.Word == "init"
			if a.Fn != nil {
				out.Backs, out.Writes = setter(a.Fn)
			}
		}
	}
	for _, a := range prop.Accessors { // one that the compiler makes is stored whatever the others do
		if a.Fn == nil && d.kind() != "interface" {
			out.Stored = true
		}
	}
	return out
}

// mentions says whether a name stands in what a function does.
func mentions(fn *code.Func, name string) bool {
	if fn.Unread != nil {
		return fn.Unread.Has(name)
	}
	found := false
	code.WalkBody(fn.Body, func(e *code.Expr) {
		found = found || (e.Op == code.Name || e.Op == code.Member) && e.Text == name || e.Type != nil && model.SimpleName(e.Type.Name) == name
	})
	for i := range fn.Body {
		found = found || fn.Body[i].Op == code.Assign && fn.Body[i].Name == name && fn.Body[i].Of == nil
	}
	return found
}

// setter is the field that a setter gives its value as it is, and those that it gives anything else.
func setter(fn *code.Func) (backs string, writes []string) {
	if name := handedOn(fn.Do()); name != "" {
		return name, nil
	}
	all := assignments(fn.Do())
	for _, a := range all {
		if len(all) == 1 && (a.value != nil && a.value.Op == code.Name && a.value.Text == "value" || onlyIfOther(fn.Do(), a.name)) {
			return a.name, nil
		}
		writes = append(writes, a.name)
	}
	return "", writes
}

// handedOn is the field that a setter hands on with its value, as view models do: SetProperty(ref _port, value).
func handedOn(body []code.Stmt) (name string) {
	code.WalkBody(body, func(e *code.Expr) {
		if e.Op != code.Call || len(e.Args) < 3 {
			return
		}
		ref := ""
		for _, a := range e.Args[1:] {
			switch {
			case a.Op == code.Unary && a.Text == "ref" && a.Args[0].Op == code.Name:
				ref = a.Args[0].Text
			case a.Op == code.Name && a.Text == "value" && ref != "":
				name = ref
			}
		}
	})
	return name
}

// onlyIfOther says whether a setter gives a field its value where that is another: if (_port != value) _port = value;
func onlyIfOther(body []code.Stmt, name string) bool {
	for i := range body {
		st := &body[i]
		if st.Kind != code.If || len(st.Body) < 2 {
			continue
		}
		asks := false
		code.Walk(st.Body[0].Value, func(e *code.Expr) { asks = asks || e.Op == code.Name && e.Text == name })
		for k := range st.Body[1:] {
			in := &st.Body[1+k]
			inner := in.Body
			if in.Op == code.Assign && asks && in.Name == name && in.Value.Op == code.Name && in.Value.Text == "value" {
				return true
			}
			for q := range inner {
				if inner[q].Op == code.Assign && asks && inner[q].Name == name && inner[q].Value.Op == code.Name && inner[q].Value.Text == "value" {
					return true
				}
			}
		}
	}
	return false
}

// assignment is a name of the class that is given something.
type assignment struct {
	name  string
	value *code.Expr
}

// assignments are those in some statements, however deep.
func assignments(all []code.Stmt) (out []assignment) {
	own := func(e *code.Expr) string {
		switch {
		case e.Op == code.Name:
			return e.Text
		case e.Op == code.Member && len(e.Args) == 1 && e.Args[0].Op == code.Name && e.Args[0].Text == "this":
			return e.Text
		}
		return ""
	}
	set := func(target, value *code.Expr) {
		if target.Op == code.Record { // (A, B) = (a, b)
			for i, t := range target.Args {
				var v *code.Expr
				if value != nil && value.Op == code.Record && i < len(value.Args) {
					v = value.Args[i]
				}
				if name := own(t); name != "" {
					out = append(out, assignment{name, v})
				}
			}
			return
		}
		if name := own(target); name != "" {
			out = append(out, assignment{name, value})
		}
	}
	for i := range all {
		s := &all[i]
		switch {
		case s.Op == code.Assign && s.Of == nil:
			out = append(out, assignment{s.Name, s.Value})
		case s.Op == code.Assign && s.Of.Op == code.Name && s.Of.Text == "this":
			out = append(out, assignment{s.Name, s.Value})
		}
		code.Walk(s.Value, func(e *code.Expr) {
			if e.Op == code.Set && len(e.Args) == 2 {
				v := e.Args[1]
				if e.Text != "=" {
					v = nil
				}
				set(e.Args[0], v)
			}
		})
		for _, inner := range assignments(s.Body) {
			out = append(out, assignment{name: inner.name}) // or not
		}
	}
	return out
}
