package dart

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// Parse reads a file into what it declares, with the code of it. What it does not know it passes over.
func Parse(f *scan.File) *code.Unit {
	p := &parser{Cursor: scan.Cursor{F: f}, unit: &code.Unit{File: f.Name, Aliases: map[string]code.Alias{}}}
	p.unit.Legacy = isLegacy(f.Src)
	if f.Passed != nil {
		p.unit.Unread = f.Passed.May
	}
	for p.I < f.Len() {
		start := p.I
		p.topLevel()
		if p.I == start {
			p.Jump()
		}
	}
	return p.unit
}

// isLegacy says whether a file asks for a version of the language before null safety, as the first of its comments.
func isLegacy(src string) bool {
	for line := range strings.Lines(src) {
		line = strings.TrimSpace(line)
		version, ok := strings.CutPrefix(strings.ReplaceAll(line, " ", ""), "//@dart=2.")
		switch {
		case ok:
			return len(version) == 1 || version == "10" || version == "11"
		case line != "" && !strings.HasPrefix(line, "//") && !strings.HasPrefix(line, "/*") && !strings.HasPrefix(line, "*"):
			return false
		}
	}
	return false
}

func (p *parser) topLevel() {
	marks := p.marks()
	switch {
	case p.Is("import") || p.Is("export"):
		p.imports()
	case p.Is("part"):
		p.Advance()
		of := p.Accept("of")
		name := ""
		if p.Kind() == scan.String {
			name = p.text().Text
		} else {
			start := p.I
			for !p.Is(";") && p.Kind() != scan.EOF {
				p.Advance()
			}
			name = p.F.Joined(start, p.I)
		}
		if of {
			p.unit.PartOf = name
		} else {
			p.unit.Parts = append(p.unit.Parts, name)
		}
		p.end()
	case p.Is("library") && (p.KindAhead(1) == scan.Ident || p.Ahead(1, ";")):
		p.end()
	case p.Is("typedef"):
		p.typedef()
	case p.classAhead():
		p.class(marks)
	default:
		p.function(nil, marks)
	}
}

func (p *parser) marks() (all []*code.Expr) {
	for p.Is("@") {
		all = append(all, p.mark())
	}
	return all
}

// mark reads an annotation: a name, or the call of a constructor.
func (p *parser) mark() *code.Expr {
	p.Advance()
	e := &code.Expr{Op: code.Name, Text: p.Text(), Pos: p.Where()}
	p.Advance()
	for p.Is(".") && p.KindAhead(1) == scan.Ident {
		p.Advance()
		e = p.member(e)
	}
	var types []*model.Type
	if p.Is("<") {
		types, _ = p.typeArgs()
	}
	if p.Is("(") && !p.Spaced() {
		e = p.call(e, types)
	}
	return e
}

func (p *parser) imports() {
	in := code.Import{Export: p.Is("export"), Pos: p.Where()}
	p.Advance()
	if p.Kind() == scan.String {
		in.Path = p.text().Text
	}
	for !p.Is(";") && p.Kind() != scan.EOF {
		switch {
		case p.Accept("as"):
			in.Prefix = p.Text()
			p.Advance()
		case p.Is("show"), p.Is("hide"):
			show := p.Is("show")
			for p.Advance(); p.Kind() == scan.Ident && !p.Is("show") && !p.Is("hide"); p.Accept(",") {
				if show {
					in.Show = append(in.Show, p.Text())
				} else {
					in.Hide = append(in.Hide, p.Text())
				}
				p.Advance()
			}
		default:
			p.Jump()
		}
	}
	p.Accept(";")
	p.unit.Imports = append(p.unit.Imports, in)
}

func (p *parser) typedef() {
	p.Advance()
	generics := p.generics
	defer func() { p.generics = generics }()
	var returns *model.Type
	if !(p.Kind() == scan.Ident && (p.Ahead(1, "=") || p.Ahead(1, "<") && p.aliasAhead())) && !(p.Kind() == scan.Ident && p.Ahead(1, "(")) {
		returns = p.typ()
	}
	name := p.Text()
	p.Advance()
	a := code.Alias{}
	if p.Is("<") {
		a.Generics = p.typeParams()
	}
	switch {
	case p.Accept("="):
		a.Type = p.typ()
	case p.Is("("):
		takes := []*model.Type{}
		for _, param := range p.params() {
			takes = append(takes, param.Type)
		}
		a.Type = code.FunctionType(takes, returns)
	}
	p.unit.Aliases[name] = a
	p.end()
}

// aliasAhead says whether name<T> = stands at the cursor.
func (p *parser) aliasAhead() bool {
	start, generics := p.I, p.generics
	defer func() { p.I, p.generics = start, generics }()
	p.Advance()
	p.typeParams()
	return p.Is("=") || p.Is("(")
}

// classAhead says whether the declaration of a class, or of what is like one, begins at the cursor.
func (p *parser) classAhead() bool {
	for i := p.I; i < p.I+5; i++ {
		switch {
		case p.F.Is(i, "class"), p.F.Is(i, "enum") && p.F.KindAt(i+1) == scan.Ident:
			return p.F.KindAt(i+1) == scan.Ident
		case p.F.Is(i, "mixin") && (p.F.KindAt(i+1) == scan.Ident):
			if !p.F.Is(i+1, "class") {
				return true
			}
		case p.F.Is(i, "extension"):
			return p.F.KindAt(i+1) == scan.Ident || p.F.Is(i+1, "<")
		case p.F.Is(i, "abstract"), p.F.Is(i, "sealed"), p.F.Is(i, "base"), p.F.Is(i, "final"), p.F.Is(i, "interface"), p.F.Is(i, "macro"):
		default:
			return false
		}
	}
	return false
}

func (p *parser) class(marks []*code.Expr) {
	c := &code.Class{File: p.F.Name, Types: map[string]*model.Type{}, Marks: marks, Kind: "class"}
	for !p.Is("class") && !p.Is("enum") && !p.Is("extension") && !(p.Is("mixin") && !p.Ahead(1, "class")) {
		if p.Is("abstract") || p.Is("sealed") {
			c.Abstract = true
			c.Sealed = c.Sealed || p.Is("sealed")
		}
		p.Advance()
	}
	c.Kind = p.Text()
	p.Advance()
	generics := p.generics
	defer func() { p.generics = generics }()
	representation := c.Kind == "extension" && p.Is("type") && p.KindAhead(1) == scan.Ident
	if representation {
		p.Advance()
		c.Kind = "extension type"
	}
	p.Accept("const")
	if p.Kind() == scan.Ident && !(c.Kind == "extension" && p.Is("on")) {
		c.Name, c.Pos = p.Text(), p.Where()
		p.Advance()
	} else {
		c.Pos = p.Where()
	}
	if p.Is("<") {
		c.Generics = p.typeParams()
	}
	if representation && p.Is("(") {
		params := p.params()
		for i := range params {
			params[i].Field = true
			c.Props = append(c.Props, &code.Prop{Name: params[i].Name, Type: params[i].Type, Final: true, File: c.File, Pos: c.Pos})
		}
		c.Funcs = append(c.Funcs, &code.Func{Name: c.Name, Params: params, Init: true, File: c.File, Pos: c.Pos, Class: c})
	}
	if p.Accept("=") { // class A = B with C;
		c.Extends = p.typ()
		c.Supers = append(c.Supers, c.Extends)
	}
	for !p.Is("{") && !p.Is(";") && p.Kind() != scan.EOF {
		switch {
		case p.Accept("extends"):
			c.Extends = p.typ()
			if c.Extends != nil {
				c.Supers = append(c.Supers, c.Extends)
			}
		case p.Accept("on"):
			if c.Kind == "extension" {
				c.On = p.typ()
			} else {
				p.typ()
			}
		case p.Is("with"), p.Is("implements"):
			mixes := p.Is("with")
			for p.Advance(); p.Kind() == scan.Ident; {
				t := p.typ()
				if t == nil {
					break
				}
				c.Supers = append(c.Supers, t)
				if mixes {
					c.Mixins = append(c.Mixins, t)
				}
				if !p.Accept(",") {
					break
				}
			}
		default:
			p.Jump()
		}
	}
	if p.Is("{") {
		shut := p.Shut()
		p.Advance()
		if c.Kind == "enum" {
			p.constants(c, shut)
		}
		for p.I < shut {
			start := p.I
			p.function(c, p.marks())
			if p.I == start {
				p.Jump()
			}
		}
		p.I = shut + 1
	} else {
		p.Accept(";")
	}
	p.unit.Classes = append(p.unit.Classes, c)
}

// constants reads those of an enum.
func (p *parser) constants(c *code.Class, shut int) {
	c.Cases, c.OfCase = map[string]*code.Expr{}, map[string][]*code.Expr{}
	for p.I < shut && !p.Is(";") {
		start := p.I
		marks := p.marks()
		if p.Kind() == scan.Ident && p.I < shut {
			name := p.Text()
			e := &code.Expr{Op: code.Call, Args: []*code.Expr{{Op: code.Name, Text: c.Name, Pos: p.Where()}}, Pos: p.Where()}
			p.Advance()
			if p.Is("<") {
				p.typeArgs()
			}
			if p.Is(".") {
				p.Advance()
				e.Args[0] = p.member(e.Args[0])
			}
			if p.Is("(") {
				args, labels := p.arguments()
				e.Args, e.Labels = append(e.Args, args...), labels
			}
			c.Order, c.Cases[name], c.OfCase[name] = append(c.Order, name), e, marks
		}
		p.Accept(",")
		if p.I == start {
			p.Jump()
		}
	}
	p.Accept(";")
}

// function reads a member of a class, or a function or variable outside of any.
func (p *parser) function(c *code.Class, marks []*code.Expr) {
	static, late, final, keyword, factory := c == nil, false, false, false, false
	for p.Kind() == scan.Ident && (p.KindAhead(1) == scan.Ident || p.Ahead(1, "(") && (p.Is("final") || p.Is("late") || p.Is("const") || p.Is("static"))) {
		switch p.Text() {
		case "static":
			static = true
		case "late":
			late = true
		case "final", "const":
			final, keyword = true, true
		case "var":
			keyword = true
		case "external", "abstract", "covariant", "augment":
		case "factory":
			factory = true
		default:
			goto declared
		}
		p.Advance()
	}
declared:
	generics := p.generics
	defer func() { p.generics = generics }()
	fn := &code.Func{Class: c, Static: static, File: p.F.Name, Marks: marks, Factory: factory, Pos: p.Where()}
	if c != nil && p.Kind() == scan.Ident && p.Text() == c.Name && (p.Ahead(1, "(") || p.Ahead(1, ".") && p.KindAhead(2) == scan.Ident && p.Ahead(3, "(")) {
		p.constructor(fn, c)
		return
	}
	var t *model.Type
	if !p.declaredName() {
		t = p.typ()
	}
	fn.Pos = p.Where()
	switch {
	case (p.Is("get") || p.Is("set")) && p.KindAhead(1) == scan.Ident:
		fn.Getter, fn.Setter = p.Is("get"), p.Is("set")
		p.Advance()
		fn.Name, fn.Pos, fn.Returns = p.Text(), p.Where(), t
		p.Advance()
		if fn.Setter && p.Is("(") {
			fn.Params = p.params()
		}
		p.bodyOf(fn)
	case p.Is("operator") && p.KindAhead(1) == scan.Punct:
		p.Advance()
		for p.Kind() == scan.Punct && !p.Is("(") || p.Is("(") && fn.Name == "" {
			fn.Name += p.Text()
			p.Advance()
		}
		fn.Returns = t
		if p.Is("(") {
			fn.Params = p.params()
		}
		p.bodyOf(fn)
	case p.Kind() == scan.Ident && (p.Ahead(1, "(") || p.Ahead(1, "<")) && !keyword:
		fn.Name, fn.Returns = p.Text(), t
		p.Advance()
		if p.Is("<") {
			fn.Generics = p.typeParams()
		}
		if p.Is("(") {
			fn.Params = p.params()
		}
		p.bodyOf(fn)
	case p.Kind() == scan.Ident:
		p.variables(c, t, static, late, final, marks)
		return
	default:
		p.Jump()
		return
	}
	p.add(fn, c)
}

// add puts a function where it is declared.
func (p *parser) add(fn *code.Func, c *code.Class) {
	if c != nil {
		c.Funcs = append(c.Funcs, fn)
	} else {
		p.unit.Funcs = append(p.unit.Funcs, fn)
	}
}

// declaredName says whether the name of what is declared stands at the cursor, without a type before it.
func (p *parser) declaredName() bool {
	if p.Kind() != scan.Ident {
		return false
	}
	if (p.Is("get") || p.Is("set")) && p.KindAhead(1) == scan.Ident && (p.Ahead(2, "=") || p.Ahead(2, "{") || p.Ahead(2, ";") || p.Ahead(2, "(") || p.Ahead(2, "async")) {
		return true
	}
	if p.Is("operator") && p.KindAhead(1) == scan.Punct && !p.Ahead(1, "(") && !p.Ahead(1, ";") && !p.Operator("=") {
		return true
	}
	return p.Ahead(1, "=") || p.Ahead(1, ";") || p.Ahead(1, ",") || p.Ahead(1, "(") && !p.Is("Function")
}

func (p *parser) bodyOf(fn *code.Func) {
	if arrow := p.functionBody(fn); arrow {
		p.end()
	}
}

func (p *parser) variables(c *code.Class, t *model.Type, static, late, final bool, marks []*code.Expr) {
	for p.Kind() == scan.Ident {
		prop := &code.Prop{Name: p.Text(), Class: c, Type: t, Static: static, File: p.F.Name, Late: late, Final: final, Marks: marks, Pos: p.Where()}
		p.Advance()
		if p.Accept("=") {
			prop.Value = p.expr()
		}
		if c != nil {
			c.Props = append(c.Props, prop)
		} else {
			p.unit.Props = append(p.unit.Props, prop)
		}
		if !p.Accept(",") {
			break
		}
	}
	p.end()
}

// constructor reads one from the name of its class on. A named one is a function of that name.
func (p *parser) constructor(fn *code.Func, c *code.Class) {
	fn.Init, fn.Static, fn.Pos = true, false, p.Where()
	fn.Name = p.Text()
	p.Advance()
	if p.Accept(".") {
		if fn.Name = p.Text(); fn.Name == "new" {
			fn.Name = c.Name
		}
		fn.Pos = p.Where()
		p.Advance()
	}
	fn.Returns = classType(c)
	if p.Is("(") {
		fn.Params = p.params()
	}
	switch {
	case p.Is("=") && !p.Operator("=>"): // another one in its place
		p.Advance()
		if t := p.typ(); t != nil {
			e := &code.Expr{Op: code.Name, Text: t.Name, Types: t.Args, Pos: fn.Pos}
			if class, name, ok := strings.Cut(t.Name, "."); ok {
				e = &code.Expr{Op: code.Member, Text: name, Args: []*code.Expr{{Op: code.Name, Text: class, Types: t.Args, Pos: fn.Pos}}, Pos: fn.Pos}
			}
			if p.Is(".") {
				p.Advance()
				e = p.member(e)
			}
			fn.Redirect = e
		}
		p.end()
		p.add(fn, c)
		return
	case p.Accept(":"):
		p.initialisers(fn)
	}
	if fn.Factory {
		p.bodyOf(fn)
	} else if arrow := p.functionBody(fn); arrow {
		fn.Native = false
		p.end()
	}
	p.add(fn, c)
}

// initialisers reads what stands behind the colon of a constructor.
func (p *parser) initialisers(fn *code.Func) {
	for {
		switch {
		case p.Is("assert"):
			p.Advance()
			p.Jump()
		case (p.Is("super") || p.Is("this")) && (p.Ahead(1, "(") || p.Ahead(1, ".") && p.Ahead(3, "(")):
			pos := p.Where()
			e := &code.Expr{Op: code.Name, Text: p.Text(), Pos: pos}
			p.Advance()
			if p.Accept(".") {
				e = p.member(e)
			}
			fn.Inits = append(fn.Inits, code.Stmt{Op: code.Do, Value: p.call(e, nil)})
		default:
			if p.Accept("this") {
				p.Accept(".")
			}
			if p.Kind() != scan.Ident {
				return
			}
			name := p.Text()
			p.Advance()
			if !p.Accept("=") {
				return
			}
			fn.Inits = append(fn.Inits, code.Stmt{Op: code.Assign, Name: name, Value: p.initialiser()})
		}
		if !p.Accept(",") {
			return
		}
	}
}

// initialiser reads a value whose end may be the brace of the body.
func (p *parser) initialiser() *code.Expr { return p.expr() }

// classType is the type that a class declares, with its own type parameters.
func classType(c *code.Class) *model.Type {
	t := &model.Type{Kind: model.Named, Name: c.Name, Pos: c.Pos}
	for _, g := range c.Generics {
		t.Args = append(t.Args, &model.Type{Kind: model.Named, Name: g})
	}
	return t
}
