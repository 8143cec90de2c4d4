package java

import (
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// class reads a class, interface, enum, record or annotation from its keyword.
func (p *parser) class(outer *jvm.Class, m modifiers) {
	c := p.file.NewClass(jvm.Class{Kind: p.Text(), Access: m.access, Static: m.static, Outer: outer, File: p.file})
	c.Marks, c.Abstract = m.marks, m.abstract
	if p.Accept("@") {
		c.Kind = "annotation"
	}
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
	if c.Kind == "record" && p.Is("(") {
		p.recordFields(c)
	}
	c.Static = c.Static || c.Kind != "class" || outer != nil && outer.Kind == "interface"
	if outer != nil && outer.Kind == "interface" {
		c.Access = model.Public
	}
	for p.Kind() == scan.Ident {
		word := p.Text()
		p.Advance()
		for {
			t := p.typ()
			if t == nil {
				break
			}
			switch {
			case word == "extends" && c.Kind != "interface":
				c.Super = t
			case word != "permits":
				c.Implements = append(c.Implements, t)
			}
			if !p.Accept(",") {
				break
			}
		}
	}
	if outer != nil {
		outer.Nested = append(outer.Nested, c)
	} else {
		p.file.Classes = append(p.file.Classes, c)
	}
	if p.Is("{") {
		p.file.Body(c, &p.Cursor, name)
	}
}

// body reads what stands in the braces of a class.
func (p *parser) body(c *jvm.Class) {
	jvm.Members(&p.Cursor, c, func(end int) { p.constants(c, end) }, func() { p.member(c) })
	for _, a := range c.Assigned {
		own := false
		for _, f := range c.Fields {
			if f.Name == a.Name {
				f.Default, own = a.Default, true
			}
		}
		c.Computed = c.Computed || !own // an inherited one
	}
	if c.Kind == "record" {
		canonical(c)
	}
	for _, f := range c.Methods { // a factory hands its parameters to a constructor
		for _, k := range c.Ctors {
			if f.Static && !f.Opaque && f.Body[1] > 0 && len(k.Params) == len(f.Params) && len(k.Fills) == len(k.Params) {
				f.Fills, f.Computes = k.Fills, k.Computes
			}
		}
	}
}

// parameters reads the names of type parameters: <K, V extends Comparable<V>>.
func (p *parser) parameters() (names []string) {
	p.Advance()
	for p.Kind() != scan.EOF && !p.Accept(">") {
		for p.Is("@") {
			jvm.Annotation(&p.Cursor)
		}
		if p.Kind() == scan.Ident {
			names = append(names, p.Text())
			p.Advance()
		}
		if p.Accept("extends") {
			for p.typ() != nil && p.Accept("&") {
			}
		}
		if !p.Accept(",") && !p.Is(">") {
			return names
		}
	}
	return names
}

// recordFields reads the components of a record, which are its fields.
func (p *parser) recordFields(c *jvm.Class) {
	for _, a := range p.arguments() {
		c.Fields = append(c.Fields, p.file.NewField(model.Field{
			Name: a.Name, Type: a.Type, Declared: a.Declared, Marks: a.Marks, Access: model.Private, Final: true, Reading: model.ByLibrary, Pos: a.Pos,
		}))
	}
}

// canonical adds to a record the constructor that it has by itself, unless the source
// writes it (JLS 8.10.4), and the accessors.
func canonical(c *jvm.Class) {
	ctor := &model.Method{Name: c.Name, Access: model.Public, Pos: c.Pos}
	for _, f := range c.Fields {
		if !f.Static {
			ctor.Params = append(ctor.Params, &model.Parameter{Name: f.Name, Type: f.Type, Declared: f.Declared, Marks: f.Marks})
			ctor.Fills = append(ctor.Fills, f.Name)
		}
	}
	for _, m := range c.Ctors {
		if len(m.Params) == len(ctor.Params) {
			m.Fills = ctor.Fills // a compact one may compute some of them first
			return
		}
	}
	c.Ctors = append(c.Ctors, ctor)
}

// constants reads the constants of an enum up to the semicolon behind them.
func (p *parser) constants(c *jvm.Class, end int) {
	for p.I < end {
		m := p.modifiers()
		if p.Kind() != scan.Ident || p.KindAhead(1) == scan.Ident {
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

func (p *parser) constructor(c *jvm.Class, m modifiers) {
	k := p.file.NewMethod(model.Method{Name: c.Name, Marks: m.marks, Access: m.access, Pos: p.Where()})
	p.Advance()
	if p.Is("(") {
		k.Params = p.file.Parameters(p.arguments())
	} else { // a compact one of a record
		for _, f := range c.Fields {
			if !f.Static {
				k.Params = append(k.Params, p.file.NewParameter(model.Parameter{Name: f.Name, Type: f.Type, Declared: f.Declared, Marks: f.Marks}))
			}
		}
	}
	if p.Accept("throws") {
		for p.typ() != nil && p.Accept(",") {
		}
	}
	if p.Is("{") {
		end := p.Shut()
		k.Body = [2]int{p.I + 1, end}
		k.Fills = p.file.Names(len(k.Params))
		for i := p.I + 1; i < end; i++ {
			p.filled(k, i)
		}
		if p.Ahead(1, "this") && p.Ahead(2, "(") {
			k.Calls = [2]int{p.I + 3, p.F.Partner(p.I + 2)}
		}
		if len(k.Params) == 0 {
			p.assigned(c, end)
		}
		p.Jump()
	} else {
		p.Accept(";")
	}
	c.Ctors = append(c.Ctors, k)
}

// filled notes what a constructor does with the field whose name stands at a token, if it
// is assigned there: this.name = param; or name = param; fills it, anything else computes it.
func (p *parser) filled(k *model.Method, at int) {
	own := p.F.Is(at-1, ".") && p.F.Is(at-2, "this")
	declares := p.F.KindAt(at-1) == scan.Ident || p.F.Is(at-1, ">") || p.F.Is(at-1, "]") // a local variable
	if p.F.KindAt(at) != scan.Ident || !p.F.Is(at+1, "=") || p.F.Is(at+2, "=") || !own && (p.F.Is(at-1, ".") || declares) {
		return
	}
	name := p.F.TokenAt(at).Text
	if p.F.Is(at+3, ";") && p.F.KindAt(at+2) == scan.Ident {
		for n, param := range k.Params {
			if param.Name == p.F.TokenAt(at+2).Text {
				k.Fills[n] = name
				return
			}
		}
	}
	k.Computes = append(k.Computes, name)
}

// assigned notes what a block that ends at a token assigns to fields: an initialiser, or
// the body of a constructor without parameters. It is what they hold at first.
func (p *parser) assigned(c *jvm.Class, end int) {
	ahead := p.Cursor
	for ahead.Advance(); ahead.I < end; {
		if ahead.Accept(";") || ahead.Is("super") && ahead.Ahead(1, "(") && ahead.Ahead(2, ")") && ahead.Ahead(3, ";") {
			if ahead.Is("super") {
				ahead.I += 4
			}
			continue
		}
		if ahead.Is("this") && ahead.Ahead(1, ".") {
			ahead.I += 2
		}
		name := ahead.Tok()
		if name.Kind == scan.Ident && ahead.Ahead(1, "=") && !ahead.Ahead(2, "=") {
			ahead.I += 2
			from := ahead.I
			for ahead.I < end && !ahead.Is(";") {
				ahead.Jump()
			}
			c.Assigned = append(c.Assigned, p.file.NewField(model.Field{Name: name.Text, Default: p.literal(from, ahead.I)}))
		} else {
			c.Computed = true
		}
		for ahead.I < end && !ahead.Is(";") && !ahead.Is("}") {
			ahead.Jump()
		}
		ahead.Advance()
	}
}
