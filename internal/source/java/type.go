package java

import (
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// brackets reads the pairs of square brackets that make arrays.
func (p *parser) brackets(t *model.Type) *model.Type {
	for {
		if p.Is("@") { // of the dimension: char[] @Nullable []
			ahead := p.Cursor
			for ahead.Is("@") {
				jvm.Annotation(&ahead)
			}
			if !ahead.Is("[") && !ahead.Is(".") {
				return t
			}
			p.Cursor = ahead
		}
		if !p.Is("[") || !p.Ahead(1, "]") {
			return t
		}
		p.I += 2
		t = p.file.NewType(model.Type{Kind: model.List, Name: "[]", Args: []*model.Type{t}, Pos: t.Pos})
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

// typ reads a type (JLS 4). It answers nil, and passes over nothing, where none
// begins.
func (p *parser) typ() *model.Type {
	start := p.I
	for p.Is("@") && !p.Ahead(1, "interface") {
		jvm.Annotation(&p.Cursor)
	}
	if p.depth++; p.depth > jvm.MaxDepth || p.Kind() != scan.Ident && !p.Is("?") || notType.Has(p.F.Word(p.I)) {
		p.I = start
		p.depth--
		return nil
	}
	defer func() { p.depth-- }()
	pos := p.Where()
	if p.Accept("?") {
		if p.Accept("extends") {
			return p.typ()
		}
		if p.Accept("super") { // anything that such a value could be put into
			p.typ()
		}
		return p.file.NewType(model.Type{Kind: model.Named, Name: "Object", Pos: pos})
	}
	t := jvm.NamedType(&p.Cursor, p.file, p.typ, func() bool { return p.KindAhead(1) == scan.Ident && !p.Ahead(1, "class") })
	if t == nil {
		p.I = start
		return nil
	}
	for p.Is("@") {
		jvm.Annotation(&p.Cursor)
	}
	return p.brackets(t)
}

// notType are the keywords that may stand where a type is looked for.
var notType = scan.NewWords("class interface enum extends implements permits throws return new if for while switch try this super")
