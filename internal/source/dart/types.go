package dart

import (
	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// typ reads a type, nil where none begins; then the cursor stays.
func (p *parser) typ() *model.Type {
	if p.depth++; p.depth > maxDepth {
		p.depth--
		return nil
	}
	defer func() { p.depth-- }()
	start := p.I
	t := p.typeAlone()
	for t != nil && p.Is("Function") && (p.Ahead(1, "(") || p.Ahead(1, "<")) {
		t = p.functionType(t)
	}
	if t == nil {
		p.I = start
	}
	return t
}

// typeAlone reads a type that is not what a function yields.
func (p *parser) typeAlone() *model.Type {
	switch {
	case p.Is("Function") && (p.Ahead(1, "(") || p.Ahead(1, "<")):
		return p.functionType(nil)
	case p.Is("("):
		return p.nullable(p.recordType())
	case p.Kind() != scan.Ident || reserved[p.Text()]:
		return nil
	}
	t := &model.Type{Kind: model.Named, Name: p.Text(), Pos: p.Where()}
	p.Advance()
	if p.Is(".") && p.KindAhead(1) == scan.Ident && !p.Spaced() {
		p.Advance()
		t.Name += "." + p.Text()
		p.Advance()
	}
	if p.Is("<") {
		args, ok := p.typeArgs()
		if !ok {
			return nil
		}
		t.Args = args
	}
	return p.nullable(t)
}

// nullable reads the question mark behind a type.
func (p *parser) nullable(t *model.Type) *model.Type {
	joined := p.I+1 < p.F.Len() && !p.At(1).Space // a?.b, a ?? b
	if t != nil && p.Is("?") && !(joined && (p.Ahead(1, "?") || p.Ahead(1, ".") || p.Ahead(1, "["))) {
		p.Advance()
		return model.OptionalOf(t)
	}
	return t
}

// typeArgs reads types in angle brackets; ok is false where that is none, or they do not end.
func (p *parser) typeArgs() (args []*model.Type, ok bool) {
	start := p.I
	p.Advance()
	for {
		for p.Is("@") {
			p.mark()
		}
		t := p.typ()
		if t == nil {
			p.I = start
			return nil, false
		}
		args = append(args, t)
		if p.Accept(",") {
			continue
		}
		if p.Accept(">") {
			return args, true
		}
		p.I = start
		return nil, false
	}
}

// functionType reads the type of a function from the word on; returns is nil where it is not written.
func (p *parser) functionType(returns *model.Type) *model.Type {
	p.Advance()
	generics := p.generics
	defer func() { p.generics = generics }()
	if p.Is("<") {
		p.typeParams()
	}
	if !p.Is("(") {
		return nil
	}
	var takes []*model.Type
	shut := p.Shut()
	for p.Advance(); p.I < shut; {
		if p.Is("[") || p.Is("{") || p.Is("]") || p.Is("}") || p.Is(",") || p.Is("required") {
			p.Advance()
			continue
		}
		t := p.typ()
		if t == nil {
			p.Jump()
			continue
		}
		takes = append(takes, t)
		if p.Kind() == scan.Ident && p.I < shut {
			p.Advance()
		}
	}
	p.I = shut + 1
	return p.nullable(code.FunctionType(takes, returns))
}

// recordType reads the type of a record.
func (p *parser) recordType() *model.Type {
	t := &model.Type{Kind: model.Tuple, Pos: p.Where()}
	shut := p.Shut()
	if shut == p.I {
		return nil
	}
	named := false
	for p.Advance(); p.I < shut; {
		switch {
		case p.Accept(","):
		case p.Accept("{"):
			named = true
		case p.Accept("}"):
		default:
			of := p.typ()
			if of == nil {
				return nil
			}
			if p.Kind() == scan.Ident && p.I < shut {
				if named {
					of = &model.Type{Kind: model.Named, Name: "field " + p.Text(), Args: []*model.Type{of}, Pos: of.Pos}
				}
				p.Advance()
			}
			t.Args = append(t.Args, of)
		}
	}
	p.I = shut + 1
	return t
}

// typeParams reads type parameters with their bounds, and answers the names.
func (p *parser) typeParams() (names []string) {
	p.Advance()
	for !p.Is(">") && p.Kind() != scan.EOF {
		switch {
		case p.Is("@"):
			p.mark()
			continue
		case p.Accept(","), p.Accept("in"), p.Accept("out"):
			continue
		case p.Kind() != scan.Ident:
			return names
		}
		names = append(names, p.Text())
		p.Advance()
		if p.Accept("extends") && p.typ() == nil {
			return names
		}
	}
	p.Accept(">")
	p.generics = append(p.generics[:len(p.generics):len(p.generics)], names...)
	return names
}
