package kotlin

import (
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

func (p *parser) class(outer *jvm.Class, m modifiers) {
	c := p.file.NewClass(jvm.Class{Kind: p.Text(), Access: m.access, Outer: outer, File: p.file})
	c.Marks = m.marks
	switch {
	case m.has(wordEnum):
		c.Kind = "enum"
	case m.has(wordAnnotation):
		c.Kind = "annotation"
	}
	c.Static = !m.has(wordInner)
	c.Abstract, c.Sealed = m.has(wordAbstract), m.has(wordSealed)
	c.Data = m.has(wordData)
	c.Inline = m.has(wordValue)
	p.Advance()
	if p.Kind() != scan.Ident {
		return
	}
	c.Name, c.Pos = p.Text(), p.Where()
	name := p.I
	p.Advance()
	if p.Is("<") {
		c.Params = p.parameters()
	}
	ctor := modifiers{access: model.Public}
	hasCtor := false
	if p.Is("@") || p.Kind() == scan.Ident && (p.Is("constructor") || modifierWords[p.Text()] != 0) {
		ahead := *p
		ctor = ahead.modifiers()
		if ahead.Is("constructor") {
			*p = ahead
			p.Advance()
			hasCtor = true
		}
	}
	if p.Is("(") {
		hasCtor = true
		c.Fields = p.primary(c, ctor)
	}
	if !hasCtor && c.Kind == "class" {
		c.Ctors = append(c.Ctors, p.file.NewMethod(model.Method{Name: c.Name, Access: model.Public, Pos: c.Pos}))
	}
	if p.Is(":") {
		p.Advance()
		p.supers(c)
	}
	if p.Is("where") {
		for p.Kind() != scan.EOF && !p.Is("{") && !(p.Newline() && p.At(-1).Text != "," && !p.Is(",")) {
			p.Advance()
		}
	}
	p.add(outer, c)
	if p.Is("{") {
		p.file.Body(c, &p.Cursor, name)
	} else {
		filled(c)
	}
}

// filled notes which parameters of its constructors the fields of a class have the names of.
func filled(c *jvm.Class) {
	for _, f := range c.Fields {
		for _, k := range c.Ctors {
			for i, param := range k.Params {
				if i < len(k.Fills) && param.Name == f.Name {
					k.Fills[i] = f.Name
				}
			}
		}
	}
}

func (p *parser) add(outer, c *jvm.Class) {
	if outer != nil {
		outer.Nested = append(outer.Nested, c)
	} else {
		p.file.Classes = append(p.file.Classes, c)
	}
}

// body reads what stands in the braces of a class.
func (p *parser) body(c *jvm.Class) {
	primary := c.Fields
	c.Fields = nil
	jvm.Members(&p.Cursor, c, func(end int) { p.constants(c, end) }, func() { p.member(c) })
	// In a class file the fields of the body stand before those of the constructor.
	c.Fields = append(c.Fields, primary...)
	filled(c)
}

// object reads an object. That of a companion has no instances: what it declares is
// static in the class around it.
func (p *parser) object(outer *jvm.Class, m modifiers) {
	c := p.file.NewClass(jvm.Class{Kind: "object", Access: m.access, Static: true, Outer: outer, File: p.file, Name: "Companion"})
	c.Marks, c.Pos = m.marks, p.Where()
	p.Advance()
	name := p.I
	if p.Kind() == scan.Ident && !p.Newline() {
		c.Name, c.Pos = p.Text(), p.Where()
		p.Advance()
	}
	if p.Is(":") {
		p.Advance()
		p.supers(c)
	}
	p.add(outer, c)
	if p.Is("{") {
		p.file.Body(c, &p.Cursor, name)
	}
}

func (p *parser) supers(c *jvm.Class) {
	for {
		for p.Is("@") {
			jvm.Annotation(&p.Cursor)
		}
		t := p.typ()
		if t == nil {
			return
		}
		if p.Is("(") && !p.Newline() {
			c.Computed = c.Computed || !p.Ahead(1, ")") // it tells the other what its fields hold
			c.SuperCall = [2]int{p.I + 1, p.Shut()}
			p.Jump()
			c.Super = t
		} else {
			c.Implements = append(c.Implements, t)
			for p.Accept("by"); p.Kind() != scan.EOF && !p.Is(",") && !p.Is("{") && !p.Newline(); { // a brace begins the body of the class
				p.Jump()
			}
		}
		if !p.Accept(",") {
			return
		}
	}
}

func (p *parser) parameters() (names []string) {
	p.Advance()
	for p.Kind() != scan.EOF && !p.Accept(">") {
		p.modifiers()
		for p.Is("out") || p.Is("in") || p.Is("reified") {
			p.Advance()
		}
		if p.Kind() != scan.Ident {
			return names
		}
		names = append(names, p.Text())
		p.Advance()
		if p.Accept(":") {
			p.typ()
		}
		if !p.Accept(",") && !p.Is(">") {
			return names
		}
	}
	return names
}

// primary reads the parameters of the primary constructor; those with val or var are
// fields.
func (p *parser) primary(c *jvm.Class, m modifiers) (fields []*model.Field) {
	k := p.file.NewMethod(model.Method{Name: c.Name, Marks: m.marks, Access: m.access, Pos: c.Pos})
	all := true
	args := p.arguments()
	k.Params, k.Fills = p.file.Parameters(args), p.file.Names(len(args))
	fields = p.file.FieldRow(len(args))[:0]
	for _, a := range args {
		all = all && a.Default
		if !a.Property {
			continue
		}
		fields = append(fields, p.file.NewField(model.Field{
			Name: a.Name, Type: a.Type, Declared: a.Declared, Marks: a.Marks, Pos: a.Pos, Default: a.Value, Reading: model.ByLibrary,
			Access: a.Access, Final: a.Constant, Transient: p.transient(a.Marks), NoSetter: a.Constant, Elsewhere: a.Elsewhere,
		}))
	}
	c.Ctors = append(c.Ctors, k)
	if all && len(k.Params) > 0 && m.access != model.Private {
		c.AllDefaults = true
	}
	return fields
}

// constants reads the entries of an enum.
func (p *parser) constants(c *jvm.Class, end int) {
	for p.I < end {
		m := p.modifiers()
		if p.Kind() != scan.Ident || !p.Ahead(1, "(") && !p.Ahead(1, ",") && !p.Ahead(1, ";") && !p.Ahead(1, "{") && p.I+1 < end && !p.At(1).Newline ||
			declares[p.Text()] && !p.Tok().Quoted {
			break
		}
		k := &model.Case{Name: p.Text(), Marks: m.marks, Pos: p.Where()}
		p.Advance()
		k.Args, k.Text = jvm.ConstantBody(&p.Cursor)
		c.Cases = append(c.Cases, k)
		if !p.Accept(",") {
			break
		}
	}
	p.Accept(";")
}

// constructor reads a secondary constructor.
func (p *parser) constructor(c *jvm.Class, m modifiers) {
	pos := p.Where()
	p.Advance()
	if c == nil || !p.Is("(") {
		return
	}
	k := p.file.NewMethod(model.Method{Name: c.Name, Marks: m.marks, Access: m.access, Pos: pos})
	k.Params = p.file.Parameters(p.arguments())
	k.Fills = p.file.Names(len(k.Params))
	if p.Accept(":") {
		own := p.Is("this")
		p.Advance()
		if p.Is("(") {
			if own {
				k.Calls = [2]int{p.I + 1, p.Shut()}
			} else {
				k.Super = [2]int{p.I + 1, p.Shut()}
			}
			p.Jump()
		}
	}
	if p.Is("{") {
		k.Body = [2]int{p.I + 1, p.Shut()}
		c.Computed = c.Computed || len(k.Params) == 0 && k.Body[1] > k.Body[0]
		p.Jump()
	}
	if len(k.Params) == 0 || len(c.Ctors) == 0 || len(c.Ctors[0].Params) > 0 {
		c.Ctors = append(c.Ctors, k)
		return
	}
	c.Ctors = []*model.Method{k} // the class has no primary one, so none by itself either
}
