package swift

import (
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// typeDecl is a type, an extension or a protocol as one file declares it.
type typeDecl struct {
	kind     string // struct, class, enum, actor, protocol, extension
	name     string // of an extension, the type that it extends
	full     string // with the types around it
	pos      model.Pos
	params   []string
	inherits []*model.Type
	attrs    []attribute
	props    []*property
	cases    []*enumCase
	aliases  []*alias
	nested   []*typeDecl
	inits    []*function
	funcs    []*function
	parent   *typeDecl
	file     *scan.File
}

// attribute is @Name(arguments).
type attribute struct {
	typ  *model.Type
	args [2]int // tokens between the parentheses
}

// property is one name of a var or let declaration.
type property struct {
	name  string
	pos   model.Pos
	typ   *model.Type // nil where it is not written and could not be inferred
	text  string      // the type as written, or as inferred
	init  *model.Literal
	value [2]int // tokens of the initialiser
	constant, static, lazy,
	computed bool
	attrs []attribute
}

type enumCase struct {
	name   string
	pos    model.Pos
	raw    *model.Literal
	values []*property
}

type alias struct {
	name   string
	params []string
	typ    *model.Type
	text   string
}

// function is an initialiser or a method, its parts as ranges of tokens.
type function struct {
	name      string
	failable  bool
	generics  []string
	signature [2]int // between the parentheses
	body      [2]int // between the braces
	pos       model.Pos
}

var typeWords = map[string]bool{"struct": true, "class": true, "enum": true, "actor": true, "protocol": true, "extension": true}

var modifierWords = map[string]bool{
	"public": true, "private": true, "fileprivate": true, "internal": true, "open": true, "package": true,
	"static": true, "class": true, "final": true, "lazy": true, "weak": true, "unowned": true, "dynamic": true,
	"override": true, "required": true, "convenience": true, "mutating": true, "nonmutating": true,
	"indirect": true, "optional": true, "prefix": true, "infix": true, "postfix": true,
	"nonisolated": true, "isolated": true, "distributed": true, "consuming": true, "borrowing": true,
}

// modifiers are what stands before a declaration.
type modifiers struct {
	attrs        []attribute
	static, lazy bool
}

// parseFile reads the declarations of a file.
func parseFile(f *scan.File) *typeDecl {
	top := &typeDecl{kind: "file", file: f}
	p := &parser{f: f}
	p.members(len(f.Tokens)-1, top)
	return top
}

// members reads declarations up to the token end and adds them to d. Statements
// and what it does not know it passes over.
func (p *parser) members(end int, d *typeDecl) {
	for p.i < end {
		start := p.i
		mods := p.parseModifiers()
		switch t := p.tok(); {
		case p.i >= end:
		case t.Kind == scan.Ident && !t.Quoted && typeWords[t.Text] && p.at(1).Kind == scan.Ident:
			p.typeDecl(end, d, mods)
		case t.Is("var") || t.Is("let"):
			p.properties(end, d, mods)
		case t.Is("case") && d.kind == "enum":
			p.cases(end, d)
		case t.Is("typealias"):
			p.alias(d)
		case t.Is("init") && d.kind != "file":
			d.inits = append(d.inits, p.function(end))
		case t.Is("func"):
			p.advance()
			d.funcs = append(d.funcs, p.function(end))
		case t.Is("subscript") || t.Is("deinit"):
			p.function(end)
		default:
			p.jump()
		}
		if p.i == start {
			p.advance()
		}
	}
	p.i = end
}

func (p *parser) parseModifiers() (m modifiers) {
	for {
		t := p.tok()
		switch {
		case t.Is("@"):
			p.advance()
			a := attribute{typ: p.parseNamed()}
			if p.is("(") && !p.tok().Space {
				a.args = [2]int{p.i + 1, p.shut()}
				p.jump()
			}
			m.attrs = append(m.attrs, a)
		case t.Kind == scan.Ident && !t.Quoted && modifierWords[t.Text]:
			next := p.at(1)
			if t.Text == "class" && next.Kind == scan.Ident && !modifierWords[next.Text] && !isMemberWord(next) {
				return m // a class declaration
			}
			if next.Kind != scan.Ident && !next.Is("(") && !next.Is("@") {
				return m // a name that happens to be the word
			}
			m.static = m.static || t.Text == "static" || t.Text == "class"
			m.lazy = m.lazy || t.Text == "lazy"
			p.advance()
			if p.is("(") && p.at(2).Is(")") { // private(set), unowned(unsafe)
				p.jump()
			}
		default:
			return m
		}
	}
}

func isMemberWord(t scan.Token) bool {
	switch t.Text {
	case "var", "let", "func", "subscript", "init":
		return !t.Quoted
	}
	return false
}

func (p *parser) typeDecl(end int, parent *typeDecl, mods modifiers) {
	d := &typeDecl{kind: p.tok().Text, parent: parent, file: p.f, attrs: mods.attrs}
	p.advance()
	d.pos = p.f.Where(p.i)
	if d.kind == "extension" {
		if t := p.parseNamed(); t != nil {
			d.name = t.Name
		}
	} else {
		d.name = p.tok().Text
		p.advance()
		if p.is("<") {
			d.params = p.genericParameters()
		}
	}
	d.full = qualify(parent, d.name)
	if p.accept(":") {
		for {
			t := p.parseType()
			if t == nil {
				break
			}
			d.inherits = append(d.inherits, t)
			if !p.accept(",") {
				break
			}
		}
	}
	for p.i < end && !p.is("{") { // a where clause
		if p.is("}") {
			return
		}
		p.jump()
	}
	parent.nested = append(parent.nested, d)
	if p.i >= end {
		return
	}
	shut := p.shut()
	p.advance()
	if d.kind != "protocol" {
		p.members(shut, d)
	}
	p.i = shut
	p.advance()
}

func qualify(parent *typeDecl, name string) string {
	if parent == nil || parent.full == "" {
		return name
	}
	return parent.full + "." + name
}

// genericParameters reads <T: P, each U> and answers the names.
func (p *parser) genericParameters() (names []string) {
	p.advance()
	for depth, first := 1, true; depth > 0 && p.tok().Kind != scan.EOF && !p.is("{"); {
		switch t := p.tok(); {
		case t.Is("<"):
			depth++
		case t.Is(">"):
			depth--
		case t.Is(","):
			first = depth == 1
			p.advance()
			continue
		case first && t.Kind == scan.Ident && !t.Is("each") && !t.Is("let"):
			names = append(names, t.Text)
			first = false
		}
		p.advance()
	}
	return names
}

func (p *parser) alias(d *typeDecl) {
	p.advance()
	a := &alias{name: p.tok().Text}
	p.advance()
	if p.is("<") {
		a.params = p.genericParameters()
	}
	if p.accept("=") {
		start := p.i
		a.typ = orOpaque(p.parseType())
		a.text = p.f.Text(start, p.i)
		d.aliases = append(d.aliases, a)
	}
}

// function reads an initialiser, method or subscript from its name on.
func (p *parser) function(end int) *function {
	fn := &function{name: p.tok().Text, pos: p.f.Where(p.i)}
	p.advance()
	for (p.is("?") || p.is("!")) && !p.tok().Space {
		fn.failable = true
		p.advance()
	}
	if p.is("<") {
		fn.generics = p.genericParameters()
	}
	if p.is("(") {
		fn.signature = [2]int{p.i + 1, p.shut()}
		p.jump()
	}
	for p.i < end && !p.is("{") && !p.is("}") {
		if t := p.tok(); t.Newline && (isMemberWord(t) || t.Is("@") || modifierWords[t.Text]) {
			return fn // a requirement without a body
		}
		p.jump()
	}
	if p.is("{") && p.i < end {
		fn.body = [2]int{p.i + 1, p.shut()}
		p.jump()
	}
	return fn
}

// declares says whether a line begins here that declares something: what should come
// before it is missing.
func (p *parser) declares() bool {
	t := p.tok()
	return t.Newline && t.Kind == scan.Ident && !t.Quoted && declarations[t.Text]
}

// declarations are the keywords that begin one and can begin no expression and no type.
var declarations = map[string]bool{
	"let": true, "var": true, "func": true, "case": true, "struct": true, "class": true, "enum": true, "extension": true,
	"protocol": true, "typealias": true, "static": true, "private": true, "public": true, "internal": true, "fileprivate": true,
}

// properties reads a var or let declaration with all its names.
func (p *parser) properties(end int, d *typeDecl, mods modifiers) {
	constant := p.is("let")
	p.advance()
	for p.i < end {
		if p.is("(") { // a tuple pattern: no stored property of a type is declared so
			p.jump()
			p.skipRest(end)
			return
		}
		prop := &property{name: p.tok().Text, pos: p.f.Where(p.i), constant: constant, static: mods.static, lazy: mods.lazy, attrs: mods.attrs}
		if p.tok().Kind != scan.Ident {
			return
		}
		p.advance()
		if p.accept(":") {
			start := p.i
			if !p.declares() {
				prop.typ = p.parseType()
			}
			prop.typ = orOpaque(prop.typ)
			prop.text = p.f.Text(start, p.i)
		}
		if p.is("=") && !p.operator("==") {
			p.advance()
			prop.value[0] = p.i
			if !p.declares() {
				p.skipExpression(end)
			}
			prop.value[1] = p.i
			q := &parser{f: p.f, i: prop.value[0]}
			prop.init = q.literal(prop.value[1])
			if prop.typ == nil {
				prop.typ, prop.text = inferType(p.f, prop)
			}
		}
		if p.is("{") && p.i < end {
			inside := p.at(1)
			for n := 2; inside.Is("@"); n += 2 { // an attribute of an observer
				inside = p.at(n + 1)
			}
			prop.computed = !inside.Is("didSet") && !inside.Is("willSet") && prop.value[1] == 0
			p.jump()
		}
		d.props = append(d.props, prop)
		if !p.accept(",") {
			break
		}
	}
	// Names in one declaration share a type that only the last of them spells out.
	for k := len(d.props) - 2; k >= 0; k-- {
		if a, b := d.props[k], d.props[k+1]; a.typ == nil && a.value[1] == 0 && a.pos.Line == b.pos.Line {
			a.typ, a.text = b.typ, b.text
		}
	}
}

func (p *parser) skipRest(end int) {
	if p.accept("=") {
		p.skipExpression(end)
	}
}

// skipExpression passes over an expression up to a comma, a semicolon, a bracket
// that closes what is around it, a block of observers, or a line break that ends it.
func (p *parser) skipExpression(end int) {
	for start := p.i; p.i < end; {
		t := p.tok()
		if t.Is(",") || t.Is(";") || t.Is("}") || t.Is(")") || t.Is("]") {
			return
		}
		if t.Is("{") && p.i > start && (p.at(1).Is("didSet") || p.at(1).Is("willSet")) {
			return
		}
		if p.i > start && t.Newline && !p.continues() {
			return
		}
		if t.Is("<") && !t.Space { // generic arguments, with commas of their own
			q := *p
			if q.typeArguments(); q.i > p.i && q.f.Tokens[q.i-1].Is(">") && (q.is("(") || q.is(".")) {
				p.i = q.i
				continue
			}
		}
		p.jump()
	}
}

// continues says whether the token at the parser, the first on its line, carries
// on the expression of the line before.
func (p *parser) continues() bool {
	t, prev := p.tok(), p.at(-1)
	if prev.Kind == scan.Punct {
		switch prev.Text {
		case "=", ",", ".", "(", "[", ":":
			return true
		case "+", "-", "*", "/", "%", "&", "|", "^", "<", ">", "?":
			if prev.Space {
				return true
			}
			if before := p.at(-2); before.Kind == scan.Punct && before.Space && before.End == prev.Start {
				return true // the second character of an operator
			}
		}
	}
	if prev.Is("as") || prev.Is("is") || prev.Is("try") || prev.Is("await") {
		return true
	}
	if t.Kind == scan.Punct {
		switch t.Text {
		case ".":
			return true
		case "?", ":", "+", "-", "*", "/", "%", "&", "|", "^", "<", ">", "=", "!":
			n := 1
			for p.at(n).Kind == scan.Punct && !p.at(n).Space && p.at(n).Text != "(" && p.at(n).Text != "." {
				n++
			}
			return p.at(n).Space
		}
	}
	return t.Is("as") || t.Is("is")
}

// cases reads a case declaration of an enum with all its names.
func (p *parser) cases(end int, d *typeDecl) {
	p.advance()
	for p.i < end && p.tok().Kind == scan.Ident {
		c := &enumCase{name: p.tok().Text, pos: p.f.Where(p.i)}
		p.advance()
		if p.is("(") {
			c.values = p.associatedValues()
		}
		if p.accept("=") {
			q := &parser{f: p.f, i: p.i}
			p.skipExpression(end)
			c.raw = q.literal(p.i)
		}
		d.cases = append(d.cases, c)
		if !p.accept(",") {
			break
		}
	}
}

func (p *parser) associatedValues() (values []*property) {
	end := p.shut()
	p.advance()
	for p.i < end {
		v := &property{pos: p.f.Where(p.i)}
		if p.tok().Kind == scan.Ident && p.at(1).Is(":") {
			v.name = p.tok().Text
			p.i += 2
		} else if p.tok().Kind == scan.Ident && p.at(1).Kind == scan.Ident && p.at(2).Is(":") {
			v.name = p.tok().Text
			p.i += 3
		}
		start := p.i
		v.typ = orOpaque(p.parseType())
		v.text = p.f.Text(start, p.i)
		if p.accept("=") {
			q := &parser{f: p.f, i: p.i}
			p.skipExpression(end)
			v.init = q.literal(p.i)
		}
		for p.i < end && !p.is(",") {
			p.jump()
		}
		p.accept(",")
		values = append(values, v)
	}
	p.i = end
	p.advance()
	return values
}
