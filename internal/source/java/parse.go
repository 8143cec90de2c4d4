package java

import (
	"regexp"
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// Parse reads one file in one of the rooms of its project.
func Parse(src scan.Source, rooms *jvm.Rooms) *jvm.File {
	src.Text = translate(src.Text)
	f := newFile(src.Scan(dialect), rooms)
	f.BodiesBy(!src.Sparse || src.Whole, func(c *jvm.Class, at int) {
		q := &parser{Cursor: scan.Cursor{F: f.File, I: at}, file: f}
		q.body(c)
	})
	defer f.Reading()()
	p := &parser{Cursor: scan.Cursor{F: f.File}, file: f}
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
func ParseType(text string) *model.Type { return again("", text).WholeType() }

// newFile is a file of the language, of which nothing is read yet but its tokens.
func newFile(tokens *scan.File, rooms *jvm.Rooms) *jvm.File {
	f := jvm.NewFile(tokens, "java", rooms)
	f.TypesBy(func(at int) (*model.Type, int) {
		q := &parser{Cursor: scan.Cursor{F: f.File, I: at}, file: f}
		return q.typ(), q.I
	}, again)
	return f
}

// again is a file of some other text of the language.
func again(name, text string) *jvm.File { return newFile(scan.Scan(name, text, dialect), nil) }

type parser struct {
	scan.Cursor
	file  *jvm.File
	depth int // of types inside each other
}

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
			m.access = model.AccessOf(t.Text)
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

// arguments reads the parameters in round brackets. The next call of it overwrites what
// it answers.
func (p *parser) arguments() []jvm.Argument {
	all := (*p.file.Arguments())[:0]
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
			a := jvm.Argument{Parameter: model.Parameter{Name: p.Text(), Type: t, Declared: declared, Marks: m.marks}, Pos: p.Where()}
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
	*p.file.Arguments() = all
	return all
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
	if p.Kind() == scan.Ident && (p.Text() == c.Name && p.Ahead(1, "(") || c.Kind == "record" && p.Text() == c.Name && p.Ahead(1, "{")) {
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
		name, pos := p.Text(), p.Where()
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
				if p.Is("<") && (p.Ahead(-1, ".") || p.Ahead(-1, ":") || p.KindAhead(-1) == scan.Ident && p.generic()) { // also X.<A, B>of() and X::<A, B>of
					jvm.SkipAngles(&p.Cursor)
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
		p.does(c, f)
		p.Jump()
		return
	}
	p.Accept(";")
}

// does notes what a method with a body, at its brace, does with its parameters.
func (p *parser) does(c *jvm.Class, f *model.Method) {
	shut := p.Shut()
	if len(f.Params) == 2 && len(f.Marks) > 0 { // that may take any key
		raw := p.F.Src[p.F.TokenAt(p.I).End:p.F.TokenAt(shut).Start]
		text := strings.TrimPrefix(strings.Join(strings.Fields(raw[:min(len(raw), 200)]), ""), "this.")
		f.Sets = strings.TrimSuffix(text, ".put("+f.Params[0].Name+","+f.Params[1].Name+");")
		if f.Sets == text {
			f.Sets, f.Opaque = "", true
		}
		return
	}
	setter := !f.Static && len(f.Params) == 1 && (strings.HasPrefix(f.Name, "set") || len(f.Marks) > 0)
	if !setter && !(f.Static && len(f.Marks) > 0) || shut == p.I { // no library calls it
		return
	}
	f.RefusesNull = setter && f.Params[0].Marks.Find("NonNull") != nil && slices.ContainsFunc(p.file.Imports, func(i jvm.Import) bool {
		return i.Path == "lombok" && (i.Name == "NonNull" || i.Name == "*")
	})
	raw := p.F.Src[p.F.TokenAt(p.I).End:p.F.TokenAt(shut).Start]
	text := strings.Join(strings.Fields(raw[:min(len(raw), 1000)]), " ")
	if f.Static {
		var names []string
		for _, a := range f.Params {
			names = append(names, a.Name)
		}
		f.Opaque = text != "return new "+c.Name+"("+strings.Join(names, ", ")+");"
		return
	}
	assigned, rest, _ := strings.Cut(text, ";")
	field, value, _ := strings.Cut(strings.TrimPrefix(strings.ReplaceAll(assigned, " ", ""), "this."), "=")
	if rest = strings.TrimSpace(rest); value == f.Params[0].Name && (rest == "" || rest == "return this;") {
		f.Sets = field
		return
	}
	f.Opaque = true
	for _, m := range assignments.FindAllStringSubmatch(text, -1) {
		f.Computes = append(f.Computes, m[1])
	}
}

// assignments finds the names that the text of a body assigns to.
var assignments = regexp.MustCompile(`(\w+) ?=[^=]`)

// literal is the value of an expression, as far as it is a constant.
func (p *parser) literal(from, to int) *model.Literal { return jvm.Literal(p.F, from, to) }
