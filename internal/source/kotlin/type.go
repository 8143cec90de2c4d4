package kotlin

import (
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

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

func (p *parser) alias() {
	p.Advance()
	name := p.Text()
	p.Advance()
	a := jvm.Alias{}
	if p.Is("<") {
		a.Params = p.parameters()
	}
	if p.Accept("=") {
		if a.Type = p.typ(); a.Type != nil {
			if p.file.Aliases == nil {
				p.file.Aliases = map[string]jvm.Alias{}
			}
			p.file.Aliases[name] = a
		}
	}
}

// typ reads a type ("Type system"). It answers nil, and passes over nothing, where none
// begins.
func (p *parser) typ() *model.Type {
	start := p.I
	if p.depth++; p.depth > jvm.MaxDepth {
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
			pos := p.Where()
			p.typ()
			return p.file.OptionalOf(p.file.NewType(model.Type{Kind: model.Named, Name: "Any", Pos: pos}))
		}
	}
	pos := p.Where()
	var t *model.Type
	switch {
	case p.Is("*"):
		p.Advance()
		return p.file.OptionalOf(p.file.NewType(model.Type{Kind: model.Named, Name: "Any", Pos: pos}))
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
		t = jvm.NamedType(&p.Cursor, p.file, p.typ, func() bool { return p.KindAhead(1) == scan.Ident })
	}
	if t == nil {
		p.I = start
		return nil
	}
	if p.Is(".") && p.Ahead(1, "(") { // a function with a receiver: String.(Int) -> Unit
		p.Advance()
		if p.F.Is(p.Shut()+1, "-") {
			p.Jump()
			p.I += 2 // ->
			p.typ()
			return p.file.NewType(model.Type{Kind: model.Opaque, Name: p.F.Text(start, p.I), Pos: pos})
		}
	}
	for p.Is("?") && !p.Newline() && !p.Ahead(1, ":") && !p.Ahead(1, ".") || p.Is("&") && p.Ahead(1, "Any") {
		if p.Accept("&") {
			p.Advance()
			continue
		}
		p.Advance()
		if t.Kind != model.Optional {
			t = p.file.OptionalOf(t)
		}
	}
	return t
}
