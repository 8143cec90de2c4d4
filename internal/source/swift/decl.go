package swift

import (
	"slices"

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
	model    *model.Model // that is made of it, nil for none
	unfilled bool         // nothing has asked for the model's members yet
	// conforms is what the declaration conforms to, once it has been asked for.
	conforms []string
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
	name     string
	failable bool
	generics []string
	// label, param and typ are of an initialiser with one parameter: from decoder: Decoder. The label is that
	// of encode(to:) too.
	label, param string
	typ          *model.Type
	signature    [2]int // between the parentheses
	body         [2]int // between the braces
	pos          model.Pos
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

// parseFile reads the declarations of a file in a room.
func parseFile(f *scan.File, room *shelf) *typeDecl {
	top := &typeDecl{kind: "file", file: f}
	p := parserAt(f, 0)
	p.made = room
	p.members(f.Len(), top)
	return top
}

// members reads declarations up to the token end and adds them to d. Statements
// and what it does not know it passes over.
func (p *parser) members(end int, d *typeDecl) {
	for p.I < end {
		start := p.I
		mods := p.parseModifiers()
		switch t := p.Tok(); {
		case p.I >= end:
		case t.Is("import") && p.KindAhead(1) == scan.Ident: // import class Module.Name
			for p.Advance(); p.I < end && !p.Newline() && !p.Is(";"); {
				p.Jump()
			}
		case t.Kind == scan.Ident && !t.Quoted && typeWords[t.Text] && p.KindAhead(1) == scan.Ident:
			p.typeDecl(end, d, mods)
		case t.Is("var") || t.Is("let"):
			p.properties(end, d, mods)
		case t.Is("case") && d.kind == "enum":
			p.cases(end, d)
		case t.Is("typealias"):
			p.alias(d)
		case t.Is("init") && d.kind != "file":
			fn := p.function(end)
			p.readSignature(fn)
			d.inits = append(d.inits, fn)
		case t.Is("func"):
			p.Advance()
			d.funcs = append(d.funcs, p.function(end))
		case t.Is("subscript") || t.Is("deinit"):
			p.function(end)
		default:
			p.Jump()
		}
		if p.I == start {
			p.Advance()
		}
	}
	p.I = end
}

func (p *parser) parseModifiers() (m modifiers) {
	for {
		t := p.Tok()
		switch {
		case t.Is("@"):
			p.Advance()
			a := attribute{typ: p.parseNamed()}
			if p.Is("(") && !p.Spaced() {
				a.args = [2]int{p.I + 1, p.Shut()}
				p.Jump()
			}
			m.attrs = append(m.attrs, a)
		case t.Kind == scan.Ident && !t.Quoted && modifierWords[t.Text]:
			next := p.At(1)
			if t.Text == "class" && next.Kind == scan.Ident && !modifierWords[next.Text] && !isMemberWord(next) {
				return m // a class declaration
			}
			if next.Kind != scan.Ident && !next.Is("(") && !next.Is("@") {
				return m // a name that happens to be the word
			}
			m.static = m.static || t.Text == "static" || t.Text == "class"
			m.lazy = m.lazy || t.Text == "lazy"
			p.Advance()
			if p.Is("(") && p.Ahead(2, ")") { // private(set), unowned(unsafe)
				p.Jump()
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
	d := p.made.decls.New(typeDecl{kind: p.Text(), parent: parent, file: p.F, attrs: mods.attrs})
	p.Advance()
	d.pos = p.Where()
	if d.kind == "extension" {
		if t := p.parseNamed(); t != nil {
			d.name = t.Name
		}
	} else {
		d.name = p.Text()
		p.Advance()
		if p.Is("<") {
			d.params = p.genericParameters()
		}
	}
	d.full = qualify(parent, d.name)
	if p.Accept(":") {
		for {
			t := p.parseType()
			if t == nil {
				break
			}
			d.inherits = append(d.inherits, t)
			if !p.Accept(",") {
				break
			}
		}
	}
	for p.I < end && !p.Is("{") { // a where clause
		if p.Is("}") {
			return
		}
		p.Jump()
	}
	parent.nested = append(parent.nested, d)
	if p.I >= end {
		return
	}
	shut := p.Shut()
	p.Advance()
	if d.kind != "protocol" {
		p.members(shut, d)
	}
	p.I = shut
	p.Advance()
}

func qualify(parent *typeDecl, name string) string {
	if parent == nil || parent.full == "" {
		return name
	}
	return parent.full + "." + name
}

// genericParameters reads <T: P, each U> and answers the names.
func (p *parser) genericParameters() (names []string) {
	p.Advance()
	for depth, first := 1, true; depth > 0 && p.Kind() != scan.EOF && !p.Is("{"); {
		switch t := p.Tok(); {
		case t.Is("<"):
			depth++
		case t.Is(">"):
			depth--
		case t.Is(","):
			first = depth == 1
			p.Advance()
			continue
		case first && t.Kind == scan.Ident && !t.Is("each") && !t.Is("let"):
			names = append(names, t.Text)
			first = false
		}
		p.Advance()
	}
	return names
}

func (p *parser) alias(d *typeDecl) {
	p.Advance()
	a := &alias{name: p.Text()}
	p.Advance()
	if p.Is("<") {
		a.params = p.genericParameters()
	}
	if p.Accept("=") {
		start := p.I
		a.typ = orOpaque(p.parseType())
		a.text = p.F.Text(start, p.I)
		d.aliases = append(d.aliases, a)
	}
}

// function reads an initialiser, method or subscript from its name on.
func (p *parser) function(end int) *function {
	fn := p.made.funcs.New(function{name: p.Text(), pos: p.Where()})
	p.Advance()
	for (p.Is("?") || p.Is("!")) && !p.Spaced() {
		fn.failable = true
		p.Advance()
	}
	if p.Is("<") {
		fn.generics = p.genericParameters()
	}
	if p.Is("(") {
		fn.signature = [2]int{p.I + 1, p.Shut()}
		if fn.name == "encode" && p.Ahead(1, "to") {
			fn.label = "to"
		}
		p.Jump()
	}
	for p.I < end && !p.Is("{") && !p.Is("}") {
		if t := p.Tok(); t.Newline && (isMemberWord(t) || t.Is("@") || modifierWords[t.Text]) {
			return fn // a requirement without a body
		}
		p.Jump()
	}
	if p.Is("{") && p.I < end {
		fn.body = [2]int{p.I + 1, p.Shut()}
		p.Jump()
	}
	return fn
}

// readSignature reads the parameter of an initialiser that has only one.
func (p *parser) readSignature(fn *function) {
	q := parser{Cursor: scan.Cursor{F: p.F, I: fn.signature[0]}, made: p.made}
	if fn.signature[1] == 0 || q.Kind() != scan.Ident {
		return
	}
	label := q.Text()
	param := label
	q.Advance()
	if q.Kind() == scan.Ident {
		param = q.Text()
		q.Advance()
	}
	if !q.Accept(":") {
		return
	}
	if t := q.parseType(); t != nil && q.I == fn.signature[1] {
		fn.label, fn.param, fn.typ = label, param, t
	}
}

// keepsTokens says whether code of a file may be followed later, so that its tokens must stay:
// that of an initialiser with one parameter, and what names a decoder.
func (d *typeDecl) keepsTokens() bool {
	for _, fn := range d.inits {
		if fn.typ != nil {
			return true
		}
	}
	return slices.ContainsFunc(d.nested, (*typeDecl).keepsTokens)
}

// declares says whether a line begins here that declares something: what should come
// before it is missing.
func (p *parser) declares() bool {
	t := p.Tok()
	return t.Newline && t.Kind == scan.Ident && !t.Quoted && declarations[t.Text]
}

// declarations are the keywords that begin one and can begin no expression and no type.
var declarations = map[string]bool{
	"let": true, "var": true, "func": true, "case": true, "struct": true, "class": true, "enum": true, "extension": true,
	"protocol": true, "typealias": true, "static": true, "private": true, "public": true, "internal": true, "fileprivate": true,
}

// properties reads a var or let declaration with all its names.
func (p *parser) properties(end int, d *typeDecl, mods modifiers) {
	constant := p.Is("let")
	p.Advance()
	for p.I < end {
		if p.Is("(") { // a tuple pattern: no stored property of a type is declared so
			p.Jump()
			p.skipRest(end)
			return
		}
		prop := p.made.props.New(property{name: p.Text(), pos: p.Where(), constant: constant, static: mods.static, lazy: mods.lazy, attrs: mods.attrs})
		if p.Kind() != scan.Ident {
			return
		}
		p.Advance()
		if p.Accept(":") {
			start := p.I
			if !p.declares() {
				prop.typ = p.parseType()
			}
			prop.typ = orOpaque(prop.typ)
			prop.text = p.F.Text(start, p.I)
		}
		if p.Is("=") && !p.Operator("==") {
			p.Advance()
			prop.value[0] = p.I
			if !p.declares() {
				p.skipExpression(end)
			}
			prop.value[1] = p.I
			q := parserAt(p.F, prop.value[0])
			prop.init = q.literal(prop.value[1])
			if prop.typ == nil {
				prop.typ, prop.text = inferType(p.F, prop)
			}
		}
		if p.Is("{") && p.I < end {
			inside := p.At(1)
			for n := 2; inside.Is("@"); n += 2 { // an attribute of an observer
				inside = p.At(n + 1)
			}
			prop.computed = !inside.Is("didSet") && !inside.Is("willSet") && prop.value[1] == 0
			p.Jump()
		}
		d.props = append(d.props, prop)
		if !p.Accept(",") {
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
	if p.Accept("=") {
		p.skipExpression(end)
	}
}

// skipExpression passes over an expression up to a comma, a semicolon, a bracket
// that closes what is around it, a block of observers, or a line break that ends it.
func (p *parser) skipExpression(end int) {
	for start := p.I; p.I < end; {
		t := p.Tok()
		if t.Is(",") || t.Is(";") || t.Is("}") || t.Is(")") || t.Is("]") {
			return
		}
		if t.Is("{") && p.I > start && (p.Ahead(1, "didSet") || p.Ahead(1, "willSet")) {
			return
		}
		if p.I > start && t.Newline && !p.continues() {
			return
		}
		if t.Is("<") && !t.Space { // generic arguments, with commas of their own
			q := *p
			if q.typeArguments(); q.I > p.I && q.F.Is(q.I-1, ">") && (q.Is("(") || q.Is(".")) {
				p.I = q.I
				continue
			}
		}
		p.Jump()
	}
}

// continues says whether the token at the parser, the first on its line, carries
// on the expression of the line before.
func (p *parser) continues() bool {
	t, prev := p.Tok(), p.At(-1)
	if prev.Kind == scan.Punct {
		switch prev.Text {
		case "=", ",", ".", "(", "[", ":":
			return true
		case "+", "-", "*", "/", "%", "&", "|", "^", "<", ">", "?":
			if prev.Space {
				return true
			}
			if before := p.At(-2); before.Kind == scan.Punct && before.Space && before.End == prev.Start {
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
			for p.KindAhead(n) == scan.Punct && !p.At(n).Space && p.At(n).Text != "(" && p.At(n).Text != "." {
				n++
			}
			return p.At(n).Space
		}
	}
	return t.Is("as") || t.Is("is")
}

// cases reads a case declaration of an enum with all its names.
func (p *parser) cases(end int, d *typeDecl) {
	p.Advance()
	for p.I < end && p.Kind() == scan.Ident {
		c := p.made.cases.New(enumCase{name: p.Text(), pos: p.Where()})
		p.Advance()
		if p.Is("(") {
			c.values = p.associatedValues()
		}
		if p.Accept("=") {
			q := parserAt(p.F, p.I)
			p.skipExpression(end)
			c.raw = q.literal(p.I)
		}
		d.cases = append(d.cases, c)
		if !p.Accept(",") {
			break
		}
	}
}

func (p *parser) associatedValues() (values []*property) {
	end := p.Shut()
	p.Advance()
	for p.I < end {
		v := p.made.props.New(property{pos: p.Where()})
		if p.Kind() == scan.Ident && p.Ahead(1, ":") {
			v.name = p.Text()
			p.I += 2
		} else if p.Kind() == scan.Ident && p.KindAhead(1) == scan.Ident && p.Ahead(2, ":") {
			v.name = p.Text()
			p.I += 3
		}
		start := p.I
		v.typ = orOpaque(p.parseType())
		v.text = p.F.Text(start, p.I)
		if p.Accept("=") {
			q := parserAt(p.F, p.I)
			p.skipExpression(end)
			v.init = q.literal(p.I)
		}
		for p.I < end && !p.Is(",") {
			p.Jump()
		}
		p.Accept(",")
		values = append(values, v)
	}
	p.I = end
	p.Advance()
	return values
}
