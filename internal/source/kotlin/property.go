package kotlin

import (
	"strconv"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// property reads a property of a body. One with a getter and no initialiser, or one
// that is delegated, has no field of its own.
func (p *parser) property(c *jvm.Class, m modifiers) {
	constant := p.Is("val")
	p.Advance()
	if p.Is("<") {
		p.parameters()
	}
	if p.Is("(") { // a destructuring declaration
		p.Jump()
		p.expression()
		return
	}
	name, pos := p.Text(), p.Where()
	if p.Kind() != scan.Ident {
		return
	}
	p.Advance()
	extension := false
	for p.Is(".") || p.Is("<") || p.Is("?") { // val Type.name
		extension = true
		if p.Is("<") {
			p.angles()
			continue
		}
		p.Advance()
		if p.Kind() == scan.Ident {
			p.Advance()
		}
	}
	f := p.file.NewField(model.Field{
		Name: name, Pos: pos, Marks: ofField(m.marks), Access: m.access, Final: constant, Reading: model.ByLibrary,
		NoSetter: constant, Lateinit: m.has(wordLateinit), Elsewhere: elsewhere(m.marks), Transient: p.transient(m.marks), Static: c != nil && c.Kind == "object" || m.has(wordConst),
	})
	if p.Accept(":") {
		start := p.I
		f.Type = p.typ()
		f.Declared = p.F.Text(start, p.I)
	}
	stored := m.has(wordLateinit)
	delegated := false
	switch {
	case p.Is("="):
		p.Advance()
		start := p.I
		p.expression()
		f.Default = jvm.Literal(p.F, start, p.I)
		stored = true
		if c == nil && constant {
			if p.file.Constants == nil {
				p.file.Constants = map[string]*model.Literal{}
			}
			p.file.Constants[name] = f.Default
		}
		if c != nil && c.Kind == "class" {
			c.Inits = append(c.Inits, jvm.Init{Field: name, From: start, To: p.I})
		}
		if f.Type == nil {
			f.Type, f.Declared = inferred(p.file, start, p.I)
		}
	case p.Is("by"):
		p.Advance()
		p.expression()
		delegated = true
	}
	p.Accept(";")
	getter := false
	for {
		ahead := *p
		accessor := ahead.modifiers()
		if !ahead.Is("get") && !ahead.Is("set") || ahead.KindAhead(1) == scan.Ident && !ahead.At(1).Newline {
			break
		}
		isGet := ahead.Is("get")
		f.NoSetter = f.NoSetter || !isGet && accessor.access == model.Private
		*p = ahead
		p.Advance()
		if p.Is("(") && !p.Newline() {
			p.Jump()
			getter = getter || isGet
			if p.Accept(":") {
				p.typ()
			}
			switch {
			case p.Is("{"):
				p.Jump()
			case p.Accept("="):
				p.expression()
			}
		}
		p.Accept(";")
	}
	abstract := m.has(wordAbstract) || c != nil && c.Kind == "interface"
	if c != nil && !extension && m.access != model.Private && (delegated || !stored && getter) {
		c.Derived = append(c.Derived, name)
	}
	if c != nil && abstract && !extension && f.Type != nil {
		p.accessors(c, f)
	}
	if c == nil || extension || delegated || abstract || !stored && getter {
		return
	}
	if f.Type == nil {
		f.Type = p.file.NewType(model.Type{Kind: model.Opaque, Pos: pos})
	}
	c.Fields = append(c.Fields, f)
}

// accessors are the methods of a property that has no field, where annotations stand at them: what implements it has
// them too, and a mix-in lends them.
func (p *parser) accessors(c *jvm.Class, f *model.Field) {
	get, set, _ := model.Accessors(f.Name)
	at := func(target string) (marks model.Annotated) {
		for _, a := range f.Elsewhere {
			if a.Target == target {
				marks = append(marks, a)
			}
		}
		return marks
	}
	if marks := at("get"); len(marks) > 0 {
		c.Methods = append(c.Methods, p.file.NewMethod(model.Method{Name: get, Returns: f.Type, Declared: f.Declared, Marks: marks, Access: f.Access, Pos: f.Pos}))
	}
	if marks := at("set"); len(marks) > 0 && !f.NoSetter {
		value := p.file.NewParameter(model.Parameter{Name: "<set-?>", Type: f.Type, Declared: f.Declared})
		c.Methods = append(c.Methods, p.file.NewMethod(model.Method{Name: set, Params: []*model.Parameter{value}, Marks: marks, Access: f.Access, Pos: f.Pos}))
	}
}

// inferred is the type of a property that has only an initialiser, where that is a
// literal or a call of a constructor.
func inferred(f *jvm.File, from, to int) (*model.Type, string) {
	name := ""
	at := from
	if to-at > 1 && f.Is(at, "-") {
		at++
	}
	first := f.TokenAt(at)
	if to-at == 1 {
		switch t := first; {
		case t.Kind == scan.String && strings.HasPrefix(f.Src[t.Start:], "'"):
			name = "Char"
		case t.Kind == scan.String:
			name = "String"
		case t.Is("true") || t.Is("false"):
			name = "Boolean"
		case t.Kind == scan.Number:
			name = numberType(t.Text)
		}
	} else if to-at > 2 && first.Kind == scan.Ident && first.Text[0] >= 'A' && first.Text[0] <= 'Z' && f.Is(at+1, "(") && f.Partner(from+1) == to-1 {
		name = first.Text
	}
	if name == "" && to-at > 3 && first.Kind == scan.Ident && f.Is(at+1, "<") {
		// listOf<String>(), HashMap<String, Int>()
		p := &parser{Cursor: scan.Cursor{F: f.File, I: from}, file: f}
		if t := p.typ(); t != nil && t.Kind == model.Named {
			switch n := t.Name; {
			case strings.HasSuffix(n, "ListOf") || n == "listOf" || n == "emptyList":
				t.Name = "List"
			case strings.HasSuffix(n, "SetOf") || n == "setOf" || n == "emptySet":
				t.Name = "Set"
			case strings.HasSuffix(n, "MapOf") || n == "mapOf" || n == "emptyMap":
				t.Name = "Map"
			case n[0] >= 'a' && n[0] <= 'z' && !strings.Contains(n, "."): // of a function nothing says what it answers
				return nil, ""
			}
			return t, t.Name + f.Text(from+1, p.I)
		}
	}
	if name == "" {
		return nil, ""
	}
	return &model.Type{Kind: model.Named, Name: name, Pos: f.Where(from)}, name
}

// numberType is the type of a literal ("Built-in types and their semantics", integer literals).
func numberType(literal string) string {
	text := strings.ReplaceAll(strings.ToLower(literal), "_", "")
	base := 10
	switch {
	case strings.HasPrefix(text, "0x"):
		base = 16
	case strings.HasPrefix(text, "0b"):
		base = 2
	case strings.HasSuffix(text, "f"):
		return "Float"
	case strings.ContainsAny(text, ".e"):
		return "Double"
	}
	digits, long := strings.CutSuffix(text, "l")
	digits, unsigned := strings.CutSuffix(digits, "u")
	if base != 10 {
		digits = digits[2:]
	}
	bits := 31
	if unsigned {
		bits = 32
	}
	if _, err := strconv.ParseUint(digits, base, bits); err != nil {
		long = true
	}
	switch {
	case unsigned && long:
		return "ULong"
	case unsigned:
		return "UInt"
	case long:
		return "Long"
	}
	return "Int"
}

// expression passes over an expression, which ends with its line unless it goes on.
func (p *parser) expression() {
	first := true
	for p.Kind() != scan.EOF {
		t := p.Tok()
		if t.Is(";") || t.Is("}") || t.Is(")") || t.Is("]") || t.Is(",") {
			return
		}
		if !first && t.Newline && !p.goesOn() {
			return
		}
		first = false
		if t.Is("<") && p.KindAhead(-1) == scan.Ident {
			p.angles()
			continue
		}
		p.Jump()
	}
}

// goesOn says whether a line continues the expression on the line before.
func (p *parser) goesOn() bool {
	t := p.Tok()
	switch {
	case t.Is("."), t.Is("?") && (p.Ahead(1, ".") || p.Ahead(1, ":")), t.Is("&"), t.Is("|"), t.Is(":") && p.Ahead(1, ":"), t.Is("as"), t.Is("else"):
		return true
	}
	before := p.At(-1)
	if before.Kind == scan.Punct && strings.Contains("+-*/%=<&|?:.,", before.Text) {
		return true
	}
	return before.Is("as") || before.Is("in") || before.Is("is") || before.Is("else") || before.Is("return")
}
