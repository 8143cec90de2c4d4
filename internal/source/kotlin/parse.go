package kotlin

import (
	"maps"
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// Parse reads one file in one of the rooms of its project.
func Parse(src scan.Source, rooms *jvm.Rooms) *jvm.File {
	f := newFile(src.Scan(dialect), rooms)
	f.BodiesBy(!src.Sparse || src.Whole, func(c *jvm.Class, at int) {
		q := &parser{Cursor: scan.Cursor{F: f.File, I: at}, file: f}
		q.body(c)
	})
	defer f.Reading()()
	p := &parser{Cursor: scan.Cursor{F: f.File}, file: f}
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
func ParseType(text string) *model.Type { return again("", text).WholeType() }

// newFile is a file of the language, of which nothing is read yet but its tokens.
func newFile(tokens *scan.File, rooms *jvm.Rooms) *jvm.File {
	f := jvm.NewFile(tokens, "kotlin", rooms)
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
	wordSealed
	wordSuspend
)

func (m *modifiers) has(w word) bool { return m.words&w != 0 }

var modifierWords = map[string]word{
	"public": wordOther, "private": wordOther, "internal": wordOther, "protected": wordOther, "open": wordOther, "abstract": wordAbstract, "final": wordOther, "sealed": wordAbstract | wordSealed, "data": wordData, "enum": wordEnum,
	"annotation": wordAnnotation, "inner": wordInner, "value": wordValue, "inline": wordValue, "override": wordOther, "lateinit": wordLateinit, "const": wordConst, "companion": wordOther, "suspend": wordSuspend,
	"operator": wordOther, "infix": wordOther, "tailrec": wordOther, "external": wordOther, "vararg": wordVararg, "noinline": wordOther, "crossinline": wordOther, "expect": wordOther, "actual": wordOther,
}

var mayModify = scan.NewWords(slices.Collect(maps.Keys(modifierWords))...)

// annotation reads an annotation, by its own name where an import gives it another.
func (p *parser) annotation() []model.Annotation {
	all := jvm.Annotation(&p.Cursor)
	for i := range all {
		for _, by := range p.file.Imports {
			if by.As == all[i].Name && by.As != by.Name {
				all[i].Name = by.Name
			}
		}
	}
	return all
}

func (p *parser) modifiers() modifiers {
	m := modifiers{access: model.Public}
	for {
		if p.Is("@") {
			m.marks = append(m.marks, p.annotation()...)
			continue
		}
		text := p.F.Word(p.I)
		if !mayModify.Has(text) || p.KindAhead(1) != scan.Ident && !p.Ahead(1, "@") {
			return m
		}
		m.words |= modifierWords[text]
		switch text {
		case "private", "protected":
			m.access = model.AccessOf(text)
		case "internal":
			m.access = model.Package
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
			c.Computed = c.Computed || p.Shut() > p.I+1
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

var declares = map[string]bool{"val": true, "var": true, "fun": true, "class": true, "companion": true, "object": true, "init": true, "constructor": true, "override": true}
