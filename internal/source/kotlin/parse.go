package kotlin

import (
	"maps"
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// Parse reads one file.
func Parse(src scan.Source) *jvm.File {
	f := &jvm.File{File: src.Scan(dialect), Language: "kotlin", Aliases: map[string]jvm.Alias{}}
	p := &parser{Cursor: scan.Cursor{F: f.File}, file: f, args: jvm.Room()}
	defer jvm.Return(p.args)
	f.TypesBy(func(at int) (*model.Type, int) {
		q := &parser{Cursor: scan.Cursor{F: f.File, I: at}, file: f}
		return q.typ(), q.I
	})
	for p.Is("@") && p.Ahead(1, "file") { // @file:JvmName("…")
		jvm.Annotation(&p.Cursor)
	}
	for p.Kind() != scan.EOF {
		start := p.I
		switch {
		case p.Is("package") && p.KindAhead(1) == scan.Ident:
			p.Advance()
			f.Package = p.path()
		case p.Is("import") && p.KindAhead(1) == scan.Ident:
			p.Advance()
			p.importLine()
		default:
			p.member(nil)
		}
		if p.I == start {
			p.Jump()
		}
	}
	return f
}

// ParseType reads a type as Kotlin writes it, nil if the text is none.
func ParseType(text string) *model.Type {
	f := &jvm.File{File: scan.Scan("", text, dialect), Language: "kotlin"}
	p := &parser{Cursor: scan.Cursor{F: f.File}, file: f}
	t := p.typ()
	if t == nil || p.Kind() != scan.EOF || len(f.Problems) > 0 {
		return nil
	}
	jvm.Standard(t, "kotlin")
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

func (p *parser) path() string {
	start := p.I
	for p.Kind() == scan.Ident {
		p.Advance()
		if !p.Accept(".") {
			break
		}
	}
	path := strings.TrimSuffix(p.F.Joined(start, p.I), ".")
	p.Accept(";")
	return path
}

func (p *parser) importLine() {
	path := p.path()
	i := jvm.Import{Name: "*", Path: path}
	if !p.Accept("*") {
		dot := strings.LastIndexByte(path, '.')
		i.Path, i.Name = path[:max(dot, 0)], path[dot+1:]
	}
	i.As = i.Name
	if p.Is("as") && p.KindAhead(1) == scan.Ident {
		i.As = p.At(1).Text
		p.I += 2
	}
	p.Accept(";")
	p.file.Imports = append(p.file.Imports, i)
}

// modifiers are what stands before a declaration.
type modifiers struct {
	marks  model.Annotated
	access model.Access
	words  word
}

// word is a set of modifiers.
type word uint16

// The modifiers that matter.
const (
	wordOther word = 1 << iota
	wordEnum
	wordAnnotation
	wordInner
	wordAbstract
	wordData
	wordValue
	wordVararg
	wordConst
	wordLateinit
)

func (m *modifiers) has(w word) bool { return m.words&w != 0 }

var modifierWords = map[string]word{
	"public": wordOther, "private": wordOther, "internal": wordOther, "protected": wordOther, "open": wordOther, "abstract": wordAbstract, "final": wordOther, "sealed": wordAbstract, "data": wordData, "enum": wordEnum,
	"annotation": wordAnnotation, "inner": wordInner, "value": wordValue, "inline": wordValue, "override": wordOther, "lateinit": wordLateinit, "const": wordConst, "companion": wordOther, "suspend": wordOther,
	"operator": wordOther, "infix": wordOther, "tailrec": wordOther, "external": wordOther, "vararg": wordVararg, "noinline": wordOther, "crossinline": wordOther, "expect": wordOther, "actual": wordOther,
}

var mayModify = scan.NewWords(slices.Collect(maps.Keys(modifierWords))...)

func (p *parser) modifiers() modifiers {
	m := modifiers{access: model.Public}
	for {
		if p.Is("@") {
			m.marks = append(m.marks, jvm.Annotation(&p.Cursor)...)
			continue
		}
		text := p.F.Word(p.I)
		if !mayModify.Has(text) || p.KindAhead(1) != scan.Ident && !p.Ahead(1, "@") {
			return m
		}
		m.words |= modifierWords[text]
		if text == "private" || text == "protected" {
			m.access = model.Access(text)
		}
		p.Advance()
	}
}

// member reads a declaration in a class, or at the top of a file where c is nil.
func (p *parser) member(c *jvm.Class) {
	m := p.modifiers()
	t := p.Tok()
	switch {
	case t.Is("class") || t.Is("interface") || t.Is("fun") && p.Ahead(1, "interface"):
		p.Accept("fun")
		p.class(c, m)
	case t.Is("object"):
		p.object(c, m)
	case t.Is("typealias"):
		p.alias()
	case t.Is("val") || t.Is("var"):
		p.property(c, m)
	case t.Is("fun"):
		p.function(c, m)
	case t.Is("init") && p.Ahead(1, "{"):
		p.Advance()
		if c != nil {
			c.Inits = append(c.Inits, jvm.Init{From: p.I + 1, To: p.Shut()})
		}
		p.Jump()
	case t.Is("constructor"):
		p.constructor(c, m)
	case t.Is("get") || t.Is("set"): // an accessor behind what was not understood
		p.Advance()
	default:
		p.Jump()
	}
}

func (p *parser) class(outer *jvm.Class, m modifiers) {
	c := &jvm.Class{Kind: p.Tok().Text, Marks: m.marks, Access: m.access, Outer: outer, File: p.file}
	switch {
	case m.has(wordEnum):
		c.Kind = "enum"
	case m.has(wordAnnotation):
		c.Kind = "annotation"
	}
	c.Static = !m.has(wordInner)
	c.Abstract = m.has(wordAbstract)
	c.Data = m.has(wordData)
	c.Inline = m.has(wordValue)
	p.Advance()
	if p.Kind() != scan.Ident {
		return
	}
	c.Name, c.Pos = p.Tok().Text, p.F.Where(p.I)
	p.Advance()
	if p.Is("<") {
		c.Params = p.parameters()
	}
	var primary []*model.Field
	ctor := modifiers{access: model.Public}
	hasCtor := false
	if p.Is("@") || p.Kind() == scan.Ident && (p.Is("constructor") || modifierWords[p.Tok().Text] != 0) {
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
		primary = p.primary(c, ctor)
	}
	if !hasCtor && c.Kind == "class" {
		c.Ctors = append(c.Ctors, p.file.NewMethod(model.Method{Name: c.Name, Access: model.Public, Pos: c.Pos}))
	}
	if p.Is(":") {
		p.Advance()
		p.supers(c)
	}
	if p.Is("where") {
		for p.Kind() != scan.EOF && !p.Is("{") && !(p.Tok().Newline && p.At(-1).Text != "," && !p.Is(",")) {
			p.Advance()
		}
	}
	p.add(outer, c)
	if p.Is("{") {
		p.body(c)
	}
	// In a class file the fields of the body stand before those of the constructor.
	c.Fields = append(c.Fields, primary...)
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
}

// object reads an object. That of a companion has no instances: what it declares is
// static in the class around it.
func (p *parser) object(outer *jvm.Class, m modifiers) {
	c := &jvm.Class{Kind: "object", Marks: m.marks, Access: m.access, Static: true, Outer: outer, File: p.file, Pos: p.F.Where(p.I), Name: "Companion"}
	p.Advance()
	if p.Kind() == scan.Ident && !p.Tok().Newline {
		c.Name, c.Pos = p.Tok().Text, p.F.Where(p.I)
		p.Advance()
	}
	if p.Is(":") {
		p.Advance()
		p.supers(c)
	}
	p.add(outer, c)
	if p.Is("{") {
		p.body(c)
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
		if p.Is("(") && !p.Tok().Newline {
			p.Jump()
			c.Super = t
		} else {
			c.Implements = append(c.Implements, t)
			if p.Accept("by") {
				p.expression()
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
		names = append(names, p.Tok().Text)
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
	k.Params, k.Fills = p.file.Parameters(args), make([]string, len(args))
	fields = make([]*model.Field, 0, len(args))
	for _, a := range args {
		all = all && a.Default
		if !a.Property {
			continue
		}
		fields = append(fields, p.file.NewField(model.Field{
			Name: a.Name, Type: a.Type, Declared: a.Declared, Marks: a.Marks, Pos: a.Pos, Default: a.Value, Reading: model.ByLibrary,
			Access: a.Access, Final: a.Constant, Transient: a.Marks.Find("Transient") != nil,
		}))
	}
	c.Ctors = append(c.Ctors, k)
	if all && len(k.Params) > 0 && m.access != model.Private {
		c.AllDefaults = true
	}
	return fields
}

// arguments reads the parameters in round brackets. The next call of it overwrites what
// it answers.
func (p *parser) arguments() []jvm.Argument {
	all := (*p.args)[:0]
	end := p.Shut()
	p.Advance()
	for p.I < end {
		m := p.modifiers()
		a := jvm.Argument{Access: m.access}
		a.Marks = m.marks
		field := ofField(m.marks)
		if p.Is("val") || p.Is("var") {
			a.Property, a.Constant = true, p.Is("val")
			p.Advance()
		}
		if p.Kind() != scan.Ident {
			p.Jump()
			continue
		}
		a.Name, a.Pos = p.Tok().Text, p.F.Where(p.I)
		p.Advance()
		if p.Accept(":") {
			start := p.I
			a.Type = p.typ()
			a.Declared = p.F.Text(start, p.I)
		}
		if a.Type == nil {
			a.Type = p.file.NewType(model.Type{Kind: model.Opaque, Name: a.Declared, Pos: a.Pos})
		}
		if m.has(wordVararg) {
			a.Type = p.file.NewType(model.Type{Kind: model.List, Name: "Array", Args: []*model.Type{a.Type}, Pos: a.Pos})
		}
		if p.Is("=") {
			p.Advance()
			start := p.I
			for p.I < end && !p.Is(",") {
				if p.Is("<") && p.KindAhead(-1) == scan.Ident {
					p.angles()
					continue
				}
				p.Jump()
			}
			a.Default, a.Value = true, jvm.Literal(p.F, start, p.I)
		}
		if a.Property {
			a.Marks = field
		}
		all = append(all, a)
		for p.I < end && !p.Accept(",") {
			p.Jump()
		}
	}
	p.I = end
	p.Advance()
	*p.args = all
	return all
}

// ofField are the annotations of a property that its field gets: those for no other part
// of it ("Annotation use-site targets").
func ofField(marks model.Annotated) model.Annotated {
	elsewhere := func(a model.Annotation) bool { return a.Target != "" && a.Target != "field" }
	if !slices.ContainsFunc(marks, elsewhere) {
		return marks
	}
	return slices.DeleteFunc(slices.Clone(marks), elsewhere)
}

// angles passes over type arguments, or over one token where none begin.
func (p *parser) angles() {
	ahead := p.Cursor
	for depth := 0; ; ahead.Advance() {
		switch t := ahead.Tok(); {
		case t.Is("<"):
			depth++
		case t.Is(">"):
			if depth--; depth == 0 {
				ahead.Advance()
				p.Cursor = ahead
				return
			}
		case t.Kind == scan.Ident || t.Is(",") || t.Is(".") || t.Is("?") || t.Is("*"):
		default:
			p.Advance()
			return
		}
	}
}

// constants reads the entries of an enum.
func (p *parser) constants(c *jvm.Class, end int) {
	for p.I < end {
		m := p.modifiers()
		if p.Kind() != scan.Ident || !p.Ahead(1, "(") && !p.Ahead(1, ",") && !p.Ahead(1, ";") && !p.Ahead(1, "{") && p.I+1 < end && !p.At(1).Newline ||
			declares[p.Tok().Text] && !p.Tok().Quoted {
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
				k.Args = append(k.Args, jvm.Literal(p.F, start, p.I))
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

var declares = map[string]bool{"val": true, "var": true, "fun": true, "class": true, "companion": true, "object": true, "init": true, "constructor": true, "override": true}

func (p *parser) alias() {
	p.Advance()
	name := p.Tok().Text
	p.Advance()
	a := jvm.Alias{}
	if p.Is("<") {
		a.Params = p.parameters()
	}
	if p.Accept("=") {
		if a.Type = p.typ(); a.Type != nil {
			p.file.Aliases[name] = a
		}
	}
}

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
	name, pos := p.Tok().Text, p.F.Where(p.I)
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
		Transient: m.marks.Find("Transient") != nil, Static: c != nil && c.Kind == "object" || m.has(wordConst),
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
		ahead.modifiers()
		if !ahead.Is("get") && !ahead.Is("set") || ahead.KindAhead(1) == scan.Ident && !ahead.At(1).Newline {
			break
		}
		isGet := ahead.Is("get")
		*p = ahead
		p.Advance()
		if p.Is("(") && !p.Tok().Newline {
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
	if c == nil || extension || delegated || abstract || !stored && getter {
		return
	}
	if f.Type == nil {
		f.Type = p.file.NewType(model.Type{Kind: model.Opaque, Pos: pos})
	}
	c.Fields = append(c.Fields, f)
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
			lower := strings.ToLower(t.Text)
			switch {
			case strings.HasPrefix(lower, "0x"):
				name = "Int"
			case strings.HasSuffix(lower, "f"):
				name = "Float"
			case strings.HasSuffix(lower, "l"):
				name = "Long"
			case strings.ContainsAny(lower, ".e"):
				name = "Double"
			default:
				name = "Int"
			}
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
			}
			return t, t.Name + f.Text(from+1, p.I)
		}
	}
	if name == "" {
		return nil, ""
	}
	return &model.Type{Kind: model.Named, Name: name, Pos: f.Where(from)}, name
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

// function passes over a function, and notes it as a method.
func (p *parser) function(c *jvm.Class, m modifiers) {
	p.Advance()
	if p.Is("<") {
		p.parameters()
	}
	name, pos := "", p.F.Where(p.I)
	for p.Kind() == scan.Ident || p.Is(".") || p.Is("<") || p.Is("?") { // fun Type<A>.name(
		if p.Is("<") {
			p.angles()
			continue
		}
		if p.Kind() == scan.Ident {
			name, pos = p.Tok().Text, p.F.Where(p.I)
		}
		p.Advance()
		if p.Is("(") {
			break
		}
	}
	f := p.file.NewMethod(model.Method{Name: name, Marks: m.marks, Access: m.access, Pos: pos})
	if !p.Is("(") {
		return
	}
	f.Params = p.file.Parameters(p.arguments())
	if p.Accept(":") {
		start := p.I
		f.Returns = p.typ()
		f.Declared = p.F.Text(start, p.I)
	}
	if p.Is("where") {
		for p.Kind() != scan.EOF && !p.Is("{") && !p.Is("=") {
			p.Advance()
		}
	}
	switch {
	case p.Is("{"):
		f.Body = [2]int{p.I + 1, p.Shut()}
		p.Jump()
	case p.Is("=") && !p.Ahead(1, "="):
		p.Advance()
		f.Body, f.IsExpression = [2]int{p.I, p.I}, true
		p.expression()
		f.Body[1] = p.I
	}
	if c != nil {
		c.Methods = append(c.Methods, f)
	}
}

// constructor reads a secondary constructor.
func (p *parser) constructor(c *jvm.Class, m modifiers) {
	pos := p.F.Where(p.I)
	p.Advance()
	if c == nil || !p.Is("(") {
		return
	}
	k := p.file.NewMethod(model.Method{Name: c.Name, Marks: m.marks, Access: m.access, Pos: pos})
	k.Params = p.file.Parameters(p.arguments())
	k.Fills = make([]string, len(k.Params))
	if p.Accept(":") {
		own := p.Is("this")
		p.Advance()
		if p.Is("(") {
			if own {
				k.Calls = [2]int{p.I + 1, p.Shut()}
			}
			p.Jump()
		}
	}
	if p.Is("{") {
		k.Body = [2]int{p.I + 1, p.Shut()}
		p.Jump()
	}
	if len(k.Params) == 0 || len(c.Ctors) == 0 || len(c.Ctors[0].Params) > 0 {
		c.Ctors = append(c.Ctors, k)
		return
	}
	c.Ctors = []*model.Method{k} // the class has no primary one, so none by itself either
}

// typ reads a type ("Type system"). It answers nil, and passes over nothing, where none
// begins.
func (p *parser) typ() *model.Type {
	start := p.I
	if p.depth++; p.depth > maxDepth {
		p.depth--
		return nil
	}
	defer func() { p.depth-- }()
	for p.Is("@") || (p.Is("out") || p.Is("in") || p.Is("suspend")) && (p.KindAhead(1) == scan.Ident || p.Ahead(1, "(")) {
		if p.Is("@") {
			jvm.Annotation(&p.Cursor)
			continue
		}
		takes := p.Is("in")
		p.Advance()
		if takes { // anything that such a value could be put into
			pos := p.F.Where(p.I)
			p.typ()
			return model.OptionalOf(p.file.NewType(model.Type{Kind: model.Named, Name: "Any", Pos: pos}))
		}
	}
	pos := p.F.Where(p.I)
	var t *model.Type
	switch {
	case p.Is("*"):
		p.Advance()
		return model.OptionalOf(p.file.NewType(model.Type{Kind: model.Named, Name: "Any", Pos: pos}))
	case p.Is("("):
		end := p.Shut()
		if p.F.Is(end+1, "-") {
			p.Jump()
			p.I += 2 // ->
			p.typ()
			t = p.file.NewType(model.Type{Kind: model.Opaque, Name: p.F.Text(start, p.I), Pos: pos})
			break
		}
		p.Advance()
		t = p.typ()
		p.I = end
		p.Advance()
	case p.Kind() == scan.Ident:
		t = p.file.NewType(model.Type{Kind: model.Named, Pos: pos})
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
			if !p.Is(".") || p.KindAhead(1) != scan.Ident {
				break
			}
			p.Advance()
		}
	}
	if t == nil {
		p.I = start
		return nil
	}
	for p.Is("?") && !p.Tok().Newline && !p.Ahead(1, ":") && !p.Ahead(1, ".") || p.Is("&") && p.Ahead(1, "Any") {
		if p.Accept("&") {
			p.Advance()
			continue
		}
		p.Advance()
		if t.Kind != model.Optional {
			t = model.OptionalOf(t)
		}
	}
	return t
}
