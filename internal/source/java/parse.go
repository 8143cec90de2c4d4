package java

import (
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// Parse reads one file.
func Parse(src scan.Source) *jvm.File {
	src.Text = translate(src.Text)
	f := &jvm.File{File: src.Scan(dialect), Language: "java"}
	p := &parser{Cursor: scan.Cursor{F: f.File}, file: f, args: jvm.Room()}
	defer jvm.Return(p.args)
	f.TypesBy(func(at int) (*model.Type, int) {
		q := &parser{Cursor: scan.Cursor{F: f.File, I: at}, file: f}
		return q.typ(), q.I
	})
	for p.Kind() != scan.EOF {
		switch {
		case p.Is("package"):
			p.Advance()
			f.Package, _ = p.path()
		case p.Is("import"):
			p.Advance()
			p.Accept("static")
			path, star := p.path()
			if star {
				f.Imports = append(f.Imports, jvm.Import{Path: path, Name: "*"})
			} else if dot := strings.LastIndexByte(path, '.'); dot > 0 {
				f.Imports = append(f.Imports, jvm.Import{Path: path[:dot], Name: path[dot+1:], As: path[dot+1:]})
			}
		case p.Is(";"):
			p.Advance()
		default:
			start := p.I
			p.member(nil)
			if p.I == start {
				p.Jump()
			}
		}
	}
	return f
}

// ParseType reads a type as Java writes it, nil if the text is none.
func ParseType(text string) *model.Type {
	f := &jvm.File{File: scan.Scan("", text, dialect), Language: "java"}
	p := &parser{Cursor: scan.Cursor{F: f.File}, file: f}
	t := p.typ()
	if t == nil || p.Kind() != scan.EOF || len(f.Problems) > 0 {
		return nil
	}
	jvm.Standard(t, "java")
	return t
}

type parser struct {
	scan.Cursor
	file  *jvm.File
	depth int // of types inside each other
	args  *[]jvm.Argument
}

// maxDepth is how deep types may lie inside each other: what is deeper is no source
// that anybody has written.
const maxDepth = 100

// path reads a name with dots; star says that it ends in .*.
func (p *parser) path() (path string, star bool) {
	start := p.I
	for p.Kind() == scan.Ident {
		p.Advance()
		if !p.Accept(".") {
			break
		}
		star = p.Is("*")
	}
	path = p.F.Joined(start, p.I)
	if star {
		p.Advance()
	}
	p.Accept(";")
	return strings.TrimSuffix(path, "."), star
}

var modifierWords = scan.NewWords("public protected private static final transient abstract default volatile synchronized native strictfp sealed non")

// modifiers are what stands before a declaration.
type modifiers struct {
	marks                              model.Annotated
	access                             model.Access
	static, final, transient, abstract bool
	isDefault                          bool // of a method of an interface
}

func (p *parser) modifiers() (m modifiers) {
	m.access = model.Package
	for {
		if p.Is("@") && !p.Ahead(1, "interface") {
			m.marks = append(m.marks, jvm.Annotation(&p.Cursor)...)
			continue
		}
		if !modifierWords.Has(p.F.Word(p.I)) {
			return m
		}
		switch t := p.Tok(); {
		case t.Is("public") || t.Is("protected") || t.Is("private"):
			m.access = model.Access(t.Text)
		case t.Is("static"):
			m.static = true
		case t.Is("final"):
			m.final = true
		case t.Is("transient"):
			m.transient = true
		case t.Is("abstract"):
			m.abstract = true
		case t.Is("default") && !p.Ahead(1, ":"):
			m.isDefault = true
		case t.Is("volatile") || t.Is("synchronized") || t.Is("native") || t.Is("strictfp"):
		case t.Is("sealed") && p.KindAhead(1) == scan.Ident:
		case t.Is("non") && p.Ahead(1, "-") && p.Ahead(2, "sealed"):
			p.I += 2
		default:
			return m
		}
		p.Advance()
	}
}

// member reads a declaration in a class, or at the top of a file where c is nil.
func (p *parser) member(c *jvm.Class) {
	m := p.modifiers()
	t := p.Tok()
	switch {
	case t.Is("class") || t.Is("interface") || t.Is("enum") && p.KindAhead(1) == scan.Ident || t.Is("@") && p.Ahead(1, "interface") ||
		t.Is("record") && p.KindAhead(1) == scan.Ident && (p.Ahead(2, "(") || p.Ahead(2, "<")):
		p.class(c, m)
	case c == nil:
		p.Jump()
	case t.Is("{"): // an initialiser
		if !m.static {
			p.assigned(c, p.Shut())
		}
		p.Jump()
	case t.Is(";") || t.Is("}"):
		p.Advance()
	default:
		p.fieldOrMethod(c, m)
	}
}

// class reads a class, interface, enum, record or annotation from its keyword.
func (p *parser) class(outer *jvm.Class, m modifiers) {
	c := &jvm.Class{Kind: p.Tok().Text, Marks: m.marks, Access: m.access, Static: m.static, Abstract: m.abstract, Outer: outer, File: p.file}
	if p.Accept("@") {
		c.Kind = "annotation"
	}
	p.Advance()
	if p.Kind() != scan.Ident {
		return
	}
	c.Name, c.Pos = p.Tok().Text, p.F.Where(p.I)
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
		word := p.Tok().Text
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
	if !p.Is("{") {
		return
	}
	end := p.Shut()
	c.Body = [2]int{p.I + 1, end}
	p.Advance()
	if c.Kind == "enum" {
		p.constants(c, end)
	}
	for p.I < end {
		start := p.I
		p.member(c)
		if p.I == start {
			p.Jump()
		}
	}
	p.I = end
	p.Advance()
	for _, a := range c.Assigned {
		for _, f := range c.Fields {
			if f.Name == a.Name {
				f.Default = a.Default
			}
		}
	}
	if c.Kind == "record" {
		canonical(c)
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
			names = append(names, p.Tok().Text)
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
			m.Fills = ctor.Fills
			return
		}
	}
	c.Ctors = append(c.Ctors, ctor)
}

// arguments reads the parameters in round brackets. The next call of it overwrites what
// it answers.
func (p *parser) arguments() []jvm.Argument {
	all := (*p.args)[:0]
	end := p.Shut()
	p.Advance()
	for p.I < end {
		m := p.modifiers()
		start := p.I
		t := p.typ()
		if t == nil {
			p.Jump()
			continue
		}
		for p.Is(".") { // T... rest
			t = p.file.NewType(model.Type{Kind: model.List, Name: "[]", Args: []*model.Type{t}})
			p.I += 3
		}
		declared := p.F.Text(start, p.I)
		if p.Kind() == scan.Ident {
			a := jvm.Argument{Parameter: model.Parameter{Name: p.Tok().Text, Type: t, Declared: declared, Marks: m.marks}, Pos: p.F.Where(p.I)}
			p.Advance()
			a.Type = p.brackets(a.Type)
			all = append(all, a)
		}
		for p.I < end && !p.Accept(",") {
			p.Jump()
		}
	}
	p.I = end
	p.Advance()
	*p.args = all
	return all
}

// brackets reads the pairs of square brackets that make arrays.
func (p *parser) brackets(t *model.Type) *model.Type {
	for p.Is("[") && p.Ahead(1, "]") {
		p.I += 2
		t = p.file.NewType(model.Type{Kind: model.List, Name: "[]", Args: []*model.Type{t}, Pos: t.Pos})
	}
	return t
}

// constants reads the constants of an enum up to the semicolon behind them.
func (p *parser) constants(c *jvm.Class, end int) {
	for p.I < end {
		m := p.modifiers()
		if p.Kind() != scan.Ident || p.KindAhead(1) == scan.Ident {
			break
		}
		k := &model.Case{Name: p.Tok().Text, Marks: m.marks, Pos: p.F.Where(p.I)}
		p.Advance()
		if p.Is("(") {
			shut := p.Shut()
			p.Advance()
			for p.I < shut {
				start := p.I
				for p.I < shut && !p.Is(",") {
					p.Jump()
				}
				k.Args = append(k.Args, p.literal(start, p.I))
				p.Accept(",")
			}
			p.I = shut
			p.Advance()
		}
		if p.Is("{") {
			p.Jump()
		}
		c.Constants = append(c.Constants, k)
		if !p.Accept(",") {
			break
		}
	}
	p.Accept(";")
}

// fieldOrMethod reads a field with all its declarators, a method or a constructor.
func (p *parser) fieldOrMethod(c *jvm.Class, m modifiers) {
	if p.Is("<") { // a generic method
		skipTo := p.I
		p.parameters()
		if p.I == skipTo {
			p.Advance()
		}
	}
	if p.Kind() == scan.Ident && (p.Tok().Text == c.Name && p.Ahead(1, "(") || c.Kind == "record" && p.Tok().Text == c.Name && p.Ahead(1, "{")) {
		p.constructor(c, m)
		return
	}
	start := p.I
	t := p.typ()
	if t == nil {
		p.skipMember()
		return
	}
	declared := p.F.Text(start, p.I)
	for p.Kind() == scan.Ident {
		name, pos := p.Tok().Text, p.F.Where(p.I)
		p.Advance()
		if p.Is("(") {
			p.method(c, m, t, declared, name, pos)
			return
		}
		f := p.file.NewField(model.Field{
			Name: name, Type: p.brackets(t), Declared: declared, Marks: m.marks, Pos: pos, Reading: model.ByLibrary,
			Access: m.access, Static: m.static || c.Kind == "interface", Final: m.final, Transient: m.transient,
		})
		if f.Type != t {
			f.Declared += "[]"
		}
		if p.Accept("=") {
			from := p.I
			for p.Kind() != scan.EOF && !p.Is(",") && !p.Is(";") && !p.Is("}") {
				if p.Is("<") && p.KindAhead(-1) == scan.Ident && p.generic() {
					p.angles()
					continue
				}
				p.Jump()
			}
			f.Default = p.literal(from, p.I)
		}
		c.Fields = append(c.Fields, f)
		if !p.Accept(",") {
			break
		}
	}
	if !p.Accept(";") {
		p.skipMember()
	}
}

// generic says whether the angle bracket at the cursor opens type arguments: words,
// dots, commas, question marks and brackets up to its partner.
func (p *parser) generic() bool {
	depth := 0
	for n := 0; ; n++ {
		switch t := p.At(n); {
		case t.Is("<"):
			depth++
		case t.Is(">"):
			if depth--; depth == 0 {
				return true
			}
		case t.Kind == scan.Ident || t.Is(",") || t.Is(".") || t.Is("?") || t.Is("[") || t.Is("]") || t.Is("&") || t.Is("@"):
		default:
			return false
		}
	}
}

func (p *parser) angles() {
	for depth := 0; p.Kind() != scan.EOF; {
		if p.Is("<") {
			depth++
		} else if p.Is(">") {
			depth--
		}
		p.Advance()
		if depth == 0 {
			return
		}
	}
}

// skipMember passes over what is left of a member that is not understood.
func (p *parser) skipMember() {
	for p.Kind() != scan.EOF && !p.Is("}") {
		if p.Accept(";") {
			return
		}
		if p.Is("{") {
			p.Jump()
			return
		}
		p.Jump()
	}
}

func (p *parser) method(c *jvm.Class, m modifiers, returns *model.Type, declared, name string, pos model.Pos) {
	f := p.file.NewMethod(model.Method{Name: name, Returns: returns, Declared: declared, Marks: m.marks, Access: m.access, Static: m.static, Pos: pos})
	if c.Kind == "interface" {
		f.Access = model.Public
	}
	if returns.Kind == model.Named && returns.Name == "void" {
		f.Returns = nil
	}
	f.Params = p.file.Parameters(p.arguments())
	c.Methods = append(c.Methods, f)
	p.brackets(returns)
	if p.Accept("throws") {
		for p.typ() != nil && p.Accept(",") {
		}
	}
	if p.Accept("default") { // of an annotation
		p.skipMember()
		return
	}
	if p.Is("{") {
		f.Body = [2]int{p.I + 1, p.Shut()}
		p.Jump()
		return
	}
	p.Accept(";")
}

func (p *parser) constructor(c *jvm.Class, m modifiers) {
	k := p.file.NewMethod(model.Method{Name: c.Name, Marks: m.marks, Access: m.access, Pos: p.F.Where(p.I)})
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
		k.Fills = make([]string, len(k.Params))
		for i := p.I + 1; i+4 < end+1; i++ {
			// this.name = param; or name = param;
			at := 0
			if p.F.Is(i, "this") && p.F.Is(i+1, ".") {
				at = 2
			} else if i > 0 && p.F.Is(i-1, ".") {
				continue
			}
			if to := i + at; p.F.Is(to+1, "=") && p.F.Is(to+3, ";") && p.F.KindAt(to) == scan.Ident && p.F.KindAt(to+2) == scan.Ident {
				for n, param := range k.Params {
					if param.Name == p.F.TokenAt(to+2).Text {
						k.Fills[n] = p.F.TokenAt(to).Text
					}
				}
			}
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

// assigned notes what a block that ends at a token assigns to fields: an initialiser, or
// the body of a constructor without parameters. It is what they hold at first.
func (p *parser) assigned(c *jvm.Class, end int) {
	ahead := p.Cursor
	for ahead.Advance(); ahead.I < end; {
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
		}
		for ahead.I < end && !ahead.Is(";") && !ahead.Is("}") {
			ahead.Jump()
		}
		ahead.Advance()
	}
}

// typ reads a type (JLS 4). It answers nil, and passes over nothing, where none
// begins.
func (p *parser) typ() *model.Type {
	start := p.I
	for p.Is("@") && !p.Ahead(1, "interface") {
		jvm.Annotation(&p.Cursor)
	}
	if p.depth++; p.depth > maxDepth || p.Kind() != scan.Ident && !p.Is("?") || notType.Has(p.F.Word(p.I)) {
		p.I = start
		p.depth--
		return nil
	}
	defer func() { p.depth-- }()
	pos := p.F.Where(p.I)
	if p.Accept("?") {
		if p.Accept("extends") {
			return p.typ()
		}
		if p.Accept("super") { // anything that such a value could be put into
			p.typ()
		}
		return p.file.NewType(model.Type{Kind: model.Named, Name: "Object", Pos: pos})
	}
	t := p.file.NewType(model.Type{Kind: model.Named, Pos: pos})
	for {
		if t.Name != "" {
			t.Name += "."
		}
		t.Name += p.Tok().Text
		p.Advance()
		if p.Is("<") {
			t.Args = nil
			p.Advance()
			for !p.Is(">") {
				a := p.typ()
				if a == nil {
					break
				}
				t.Args = append(t.Args, a)
				if !p.Accept(",") {
					break
				}
			}
			if !p.Accept(">") {
				p.I = start
				return nil
			}
		}
		if !p.Is(".") || p.KindAhead(1) != scan.Ident || p.Ahead(1, "class") {
			break
		}
		p.Advance()
	}
	for p.Is("@") {
		jvm.Annotation(&p.Cursor)
	}
	return p.brackets(t)
}

// notType are the keywords that may stand where a type is looked for.
var notType = scan.NewWords("class interface enum extends implements permits throws return new if for while switch try this super")

// literal is the value of an expression, as far as it is a constant.
func (p *parser) literal(from, to int) *model.Literal { return jvm.Literal(p.F, from, to) }
