package csharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// Parse reads a file into what it declares, with the code of it. What it does not know it passes over.
func Parse(f *scan.File) *code.Unit {
	p := &parser{Cursor: scan.Cursor{F: f}, unit: &code.Unit{File: f.Name, Aliases: map[string]code.Alias{}}}
	if f.Passed != nil {
		p.unit.Unread = f.Passed.May
	}
	p.declarations(f.Len())
	return p.unit
}

// declarations reads those of a file or a namespace, up to a token.
func (p *parser) declarations(end int) {
	for p.I < end {
		start := p.I
		p.topLevel()
		if p.I == start {
			p.Jump()
		}
	}
}

func (p *parser) topLevel() {
	switch {
	case p.Is("using") && !p.Ahead(1, "(") && p.usingAhead(), p.Is("global") && p.Ahead(1, "using"):
		p.imports()
		return
	case p.Is("namespace"):
		p.namespace()
		return
	case p.Is("extern") && p.Ahead(1, "alias"):
		p.end()
		return
	}
	start := p.I
	marks := p.allAttributes()
	mods := p.modifiers()
	if p.classAhead() {
		p.class(marks, mods, nil)
		return
	}
	p.I = start
	p.statementOfFile()
}

// statementOfFile reads one top-level statement, as part of the function that a program of such statements is.
func (p *parser) statementOfFile() {
	for p.Is("[") {
		p.Jump() // of the assembly
		if p.Kind() == scan.EOF || p.Is("[") || p.Is("using") || p.Is("namespace") || p.classAhead() {
			return
		}
	}
	body := p.statement()
	for _, fn := range p.unit.Funcs {
		if fn.Name == "<Main>$" {
			fn.Body = append(fn.Body, body...)
			return
		}
	}
	if len(body) > 0 {
		p.unit.Funcs = append(p.unit.Funcs, &code.Func{Name: "<Main>$", Static: true, File: p.F.Name, Pos: p.Where(), Body: body})
	}
}

// allAttributes reads the attributes before a declaration.
func (p *parser) allAttributes() (all []*code.Expr) {
	for p.Is("[") {
		start := p.I
		if p.Ahead(2, ":") && (p.Ahead(1, "assembly") || p.Ahead(1, "module")) {
			p.Jump()
			continue
		}
		all = append(all, p.attributes()...)
		if p.I == start {
			p.Jump()
		}
	}
	return all
}

// attributes reads one bracket of them ("Attributes"). Each is a Call of its class; Text is what it is written to be of.
func (p *parser) attributes() (all []*code.Expr) {
	shut := p.Shut()
	if shut == p.I {
		p.Advance()
		return nil
	}
	p.Advance()
	target := ""
	if p.Kind() == scan.Ident && p.Ahead(1, ":") && !p.Ahead(2, ":") {
		target = p.Text()
		p.I += 2
	}
	for p.I < shut {
		start := p.I
		pos := p.Where()
		if t := p.typ(); t != nil {
			e := &code.Expr{Op: code.Call, Text: target, Args: []*code.Expr{{Op: code.Name, Text: t.Name, Types: t.Args, Pos: pos}}, Types: t.Args, Pos: pos}
			if p.Is("(") {
				args, labels := p.arguments()
				for i, a := range args {
					if a.Op == code.Set && a.Text == "=" && a.Args[0].Op == code.Name { // Order = 1
						labels[i], args[i] = a.Args[0].Text, a.Args[1]
					}
				}
				e.Args, e.Labels = append(e.Args, args...), labels
			}
			all = append(all, e)
		}
		for p.I < shut && !p.Is(",") {
			p.Jump()
		}
		p.Accept(",")
		if p.I == start {
			p.Advance()
		}
	}
	p.I = shut + 1
	return all
}

// modifierWords are the words before a declaration; of those that may be names a declaration must follow.
var modifierWords = words("public private protected internal static abstract sealed virtual override readonly partial new extern unsafe async volatile required const file fixed ref scoped")

func (p *parser) modifiers() (mods []string) {
	for p.Kind() == scan.Ident && modifierWords[p.F.Word(p.I)] {
		switch p.F.Word(p.I) {
		case "partial", "required", "async", "file", "scoped", "ref", "new":
			if p.KindAhead(1) != scan.Ident && !p.Ahead(1, "(") || (p.Ahead(1, "(") && p.Is("partial")) {
				return mods
			}
		}
		mods = append(mods, p.F.Word(p.I))
		p.Advance()
	}
	return mods
}

// classAhead says whether the word of a type's declaration stands at the cursor.
func (p *parser) classAhead() bool {
	switch p.F.Word(p.I) {
	case "class", "struct", "interface", "enum":
		return p.KindAhead(1) == scan.Ident
	case "delegate":
		return !p.Ahead(1, "(") && !p.Ahead(1, "{") && !p.Ahead(1, "*")
	case "record":
		return p.KindAhead(1) == scan.Ident && (p.Ahead(1, "class") || p.Ahead(1, "struct") || p.Ahead(2, "(") || p.Ahead(2, "{") || p.Ahead(2, ";") || p.Ahead(2, ":") || p.Ahead(2, "<"))
	}
	return false
}

func (p *parser) class(marks []*code.Expr, mods []string, outer *code.Class) {
	c := &code.Class{File: p.F.Name, Types: map[string]*model.Type{}, Marks: marks, Mods: mods, Kind: p.F.Word(p.I), Outer: outer, Space: strings.TrimSuffix(p.space, ".")}
	p.Advance()
	if c.Kind == "record" && (p.Is("class") || p.Is("struct")) {
		if p.Is("struct") {
			c.Kind = "record struct"
		}
		p.Advance()
	}
	generics := p.generics
	defer func() { p.generics = generics }()
	if c.Kind == "delegate" {
		p.delegateType(c)
		return
	}
	c.Name, c.Pos = p.Text(), p.Where()
	p.Advance()
	if p.Is("<") {
		c.Generics = p.typeParams()
	}
	for _, m := range mods {
		c.Abstract = c.Abstract || m == "abstract" || m == "static"
	}
	if p.Is("(") {
		fn := &code.Func{Name: c.Name, Class: c, Init: true, File: c.File, Pos: c.Pos, Params: p.params(false), Mods: []string{"public", "primary"}}
		for i := range fn.Params {
			fn.Params[i].Field = strings.HasPrefix(c.Kind, "record")
		}
		c.Funcs = append(c.Funcs, fn)
	}
	if p.Accept(":") {
		for {
			t := p.typ()
			if t == nil {
				break
			}
			if p.Is("(") { // what the constructor of the base class is given
				c.Super = p.call(&code.Expr{Op: code.Name, Text: "base", Pos: p.Where()}, nil)
			}
			c.Supers = append(c.Supers, t)
			if !p.Accept(",") {
				break
			}
		}
		if c.Kind != "enum" && c.Kind != "interface" && len(c.Supers) > 0 {
			c.Extends = c.Supers[0] // which may be an interface: its declaration tells
		}
	}
	p.bounds(c)
	p.unit.Classes = append(p.unit.Classes, c)
	if !p.Is("{") {
		p.Accept(";")
		return
	}
	shut := p.Shut()
	p.Advance()
	around := p.outer
	p.outer = c
	if c.Kind == "enum" {
		p.constants(c, shut)
	} else {
		for p.I < shut {
			start := p.I
			p.memberOf(c, shut)
			if p.I == start {
				p.Jump()
			}
		}
	}
	p.outer = around
	p.I = shut + 1
	p.Accept(";")
}

// bounds reads the constraints of a class's type parameters.
func (p *parser) bounds(c *code.Class) {
	for p.Is("where") && p.KindAhead(1) == scan.Ident && p.Ahead(2, ":") {
		name := p.F.Ident(p.I + 1)
		for p.I += 3; !p.Is("where") && !p.Is("{") && !p.Is(";") && p.Kind() != scan.EOF; {
			if p.Is("class") || p.Is("struct") || p.Is("new") || p.Is("notnull") || p.Is("unmanaged") || p.Kind() != scan.Ident {
				p.Jump()
				continue
			}
			if t := p.typ(); t != nil {
				if c.Bounds == nil {
					c.Bounds = map[string][]*model.Type{}
				}
				c.Bounds[name] = append(c.Bounds[name], t)
			} else {
				p.Jump()
			}
		}
	}
}

// delegateType reads the declaration of a delegate, as a type that stands for that of a function.
func (p *parser) delegateType(c *code.Class) {
	returns := p.typ()
	name := p.Text()
	p.Advance()
	a := code.Alias{}
	if p.Is("<") {
		a.Generics = p.typeParams()
	}
	takes := []*model.Type{}
	if p.Is("(") {
		for _, param := range p.params(false) {
			takes = append(takes, param.Type)
		}
	}
	a.Type = code.FunctionType(takes, returns)
	if _, known := p.unit.Aliases[name]; !known {
		p.unit.Aliases[name] = a
	}
	p.end()
}

// constants reads those of an enum, each with the value that it is given.
func (p *parser) constants(c *code.Class, shut int) {
	c.Cases, c.OfCase = map[string]*code.Expr{}, map[string][]*code.Expr{}
	for p.I < shut {
		start := p.I
		marks := p.allAttributes()
		if p.Kind() == scan.Ident && p.I < shut {
			name := p.Text()
			p.Advance()
			var v *code.Expr
			if p.Accept("=") {
				v = p.expr()
			}
			c.Order, c.Cases[name], c.OfCase[name] = append(c.Order, name), v, marks
		}
		for p.I < shut && !p.Is(",") {
			p.Jump()
		}
		p.Accept(",")
		if p.I == start {
			p.Advance()
		}
	}
}

// memberOf reads one member of a class.
func (p *parser) memberOf(c *code.Class, shut int) {
	if p.Accept(";") {
		return
	}
	marks := p.allAttributes()
	mods := p.modifiers()
	if p.classAhead() {
		p.class(marks, mods, c)
		return
	}
	generics := p.generics
	defer func() { p.generics = generics }()
	fn := &code.Func{Class: c, File: p.F.Name, Marks: marks, Mods: mods, Pos: p.Where()}
	for _, m := range mods {
		fn.Static = fn.Static || m == "static" || m == "const"
	}
	switch {
	case p.Is("~"):
		p.Advance()
		p.Advance()
		if p.Is("(") {
			p.Jump()
		}
		p.functionBody(fn)
		return
	case p.Is("event"):
		p.Advance()
		p.typ()
		for p.I < shut && !p.Is(";") && !p.Is("{") {
			p.Jump()
		}
		if p.Is("{") {
			p.Jump()
		}
		p.Accept(";")
		return
	case p.Is("implicit"), p.Is("explicit"):
		fn.Name = p.Text()
		p.I += 2
		fn.Returns = p.typ()
		p.function(fn, c)
		return
	case p.Kind() == scan.Ident && p.Text() == c.Name && p.Ahead(1, "("):
		p.constructor(fn, c)
		return
	}
	t := p.typ()
	if t == nil {
		return
	}
	fn.Pos = p.Where()
	switch {
	case p.Is("operator"):
		p.Advance()
		for p.Kind() == scan.Punct && !p.Is("(") || p.Is("true") || p.Is("false") || p.Is("checked") {
			fn.Name += p.Text()
			p.Advance()
		}
		fn.Returns = t
		p.function(fn, c)
		return
	case p.Is("this"):
		p.indexer(c)
		return
	}
	explicit := false
	for p.Kind() == scan.Ident && (p.Ahead(1, ".") || p.Ahead(1, "<") && p.explicitAhead()) { // of an interface, by its name
		explicit = true
		p.Advance()
		if p.Is("<") {
			p.typeArgs()
		}
		p.Accept(".")
	}
	if p.Is("this") {
		p.indexer(c)
		return
	}
	if p.Kind() != scan.Ident {
		return
	}
	if explicit {
		mods = append(mods, "explicit")
		fn.Mods = mods
	}
	name := p.Text()
	fn.Pos = p.Where()
	p.Advance()
	switch {
	case p.Is("("), p.Is("<"):
		fn.Name, fn.Returns = name, t
		if p.Is("<") {
			fn.Generics = p.typeParams()
		}
		p.function(fn, c)
	case p.Is("{"), p.Operator("=>"):
		p.property(&code.Prop{Name: name, Type: t, Static: fn.Static, File: c.File, Marks: marks, Mods: mods, Pos: fn.Pos}, c)
	default:
		p.fields(&code.Prop{Name: name, Type: t, Static: fn.Static, File: c.File, Marks: marks, Mods: mods, Pos: fn.Pos}, c)
	}
}

// explicitAhead says whether the angle bracket behind a name belongs to an interface whose member is declared.
func (p *parser) explicitAhead() bool {
	start := p.I
	defer func() { p.I = start }()
	p.Advance()
	_, ok := p.typeArgs()
	return ok && p.Is(".")
}

func (p *parser) indexer(c *code.Class) {
	p.Advance()
	if p.Is("[") {
		p.Jump()
	}
	p.accessors(&code.Prop{File: c.File}, c)
}

// function reads a method from its parameters on.
func (p *parser) function(fn *code.Func, c *code.Class) {
	if p.Is("(") {
		this := p.Ahead(1, "this")
		fn.Params = p.params(false)
		if this && len(fn.Params) > 0 {
			fn.Mods = append(fn.Mods[:len(fn.Mods):len(fn.Mods)], "this")
		}
	}
	p.constraints()
	p.functionBody(fn)
	c.Funcs = append(c.Funcs, fn)
}

// constructor reads one from the name of its class on, with the one that it calls first.
func (p *parser) constructor(fn *code.Func, c *code.Class) {
	fn.Init, fn.Static, fn.Name, fn.Pos = true, false, p.Text(), p.Where()
	for _, m := range fn.Mods {
		if m == "static" { // it runs once, for the class
			fn.Init, fn.Static, fn.Name = false, true, "static "+c.Name
		}
	}
	p.Advance()
	fn.Params = p.params(false)
	fn.Returns = &model.Type{Kind: model.Named, Name: c.Name, Pos: c.Pos}
	if p.Accept(":") && (p.Is("this") || p.Is("base")) {
		e := &code.Expr{Op: code.Name, Text: p.Text(), Pos: p.Where()}
		p.Advance()
		fn.Inits = append(fn.Inits, code.Stmt{Op: code.Do, Value: p.call(e, nil)})
	}
	p.functionBody(fn)
	c.Funcs = append(c.Funcs, fn)
}

// property reads one from its accessors on, or its value where it is computed by an arrow.
func (p *parser) property(prop *code.Prop, c *code.Class) {
	prop.Class = c
	if p.Operator("=>") {
		fn := &code.Func{Name: prop.Name, Class: c, File: c.File, Pos: prop.Pos, Getter: true, Returns: prop.Type, Static: prop.Static}
		p.functionBody(fn)
		prop.Accessors = []code.Accessor{{Word: "get", Fn: fn}}
		prop.Get = fn
		c.Props = append(c.Props, prop)
		return
	}
	p.accessors(prop, c)
	if p.Accept("=") {
		p.initial(prop)
		p.end()
	}
	c.Props = append(c.Props, prop)
}

// initial reads what a member is given where it is declared.
func (p *parser) initial(prop *code.Prop) {
	if !p.Is("{") {
		prop.Value = serializerFor(p.expr(), prop.Type)
		return
	}
	prop.Value = &code.Expr{Op: code.List, Type: prop.Type, Pos: p.Where()}
	p.elements(prop.Value)
}

func (p *parser) accessors(prop *code.Prop, c *code.Class) {
	if p.Operator("=>") {
		p.functionBody(&code.Func{Class: c})
		return
	}
	if !p.Is("{") {
		return
	}
	shut := p.Shut()
	prop.Accessors = []code.Accessor{}
	for p.Advance(); p.I < shut; {
		start := p.I
		p.allAttributes()
		a := code.Accessor{Mods: p.modifiers(), Word: p.F.Word(p.I)}
		if a.Word == "get" || a.Word == "set" || a.Word == "init" {
			fn := &code.Func{Name: prop.Name, Class: c, File: c.File, Pos: p.Where(), Getter: a.Word == "get", Setter: a.Word != "get", Static: prop.Static}
			p.Advance()
			if fn.Getter {
				fn.Returns = prop.Type
			} else {
				fn.Params = []code.Param{{Name: "value", Type: prop.Type}}
			}
			if p.functionBody(fn); !fn.Native {
				a.Fn = fn
				if fn.Getter {
					prop.Get = fn
				}
			}
			prop.Accessors = append(prop.Accessors, a)
		}
		if p.I == start {
			p.Jump()
		}
	}
	p.I = shut + 1
}

// fields reads those that share a type, from behind the name of the first.
func (p *parser) fields(prop *code.Prop, c *code.Class) {
	for {
		prop.Class = c
		if p.Is("[") { // of a fixed size
			p.Jump()
		}
		if p.Accept("=") {
			p.initial(prop)
		}
		c.Props = append(c.Props, prop)
		if !p.Accept(",") || p.Kind() != scan.Ident {
			break
		}
		next := *prop
		next.Name, next.Value, next.Pos = p.Text(), nil, p.Where()
		prop = &next
		p.Advance()
	}
	p.end()
}
