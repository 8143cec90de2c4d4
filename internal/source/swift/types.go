package swift

import (
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// parser walks the tokens of one file.
type parser struct {
	scan.Cursor
	depth int // of types and expressions inside each other
	// conditional says that an expression is read behind if, guard, while or switch,
	// where a brace begins the statement's block and no closure.
	made *shelf // where declarations are taken from
}

func parserAt(f *scan.File, i int) *parser {
	return &parser{Cursor: scan.Cursor{F: f, I: i}, made: &single}
}

// maxDepth is how deep types and expressions may lie inside each other: what is
// deeper is no source that anybody has written.
const maxDepth = 200

// acceptOperator passes over op if it comes next.
func (p *parser) acceptOperator(op string) bool {
	if !p.Operator(op) {
		return false
	}
	p.I += len(op)
	return true
}

// parseType reads a type ("Types" in the Language Reference). It answers nil,
// and passes over nothing, where no type begins.
func (p *parser) parseType() *model.Type {
	if p.depth >= maxDepth {
		return nil
	}
	p.depth++
	defer func() { p.depth-- }()
	start := p.I
	for p.Is("@") || p.Is("inout") || p.Is("some") || p.Is("any") || p.Is("borrowing") || p.Is("consuming") || p.Is("sending") {
		if p.Accept("@") {
			p.Advance()
			if p.Is("(") && !p.Spaced() {
				p.Jump()
			}
			continue
		}
		if next := p.At(1); next.Kind != scan.Ident && !next.Is("(") && !next.Is("[") {
			break // a type that has the name of the word
		}
		p.Advance()
	}
	t := p.parseSimpleType()
	if t == nil {
		p.I = start
		return nil
	}
	for p.Operator("&") && !p.Operator("&&") {
		p.Advance()
		p.parseSimpleType()
		t = &model.Type{Kind: model.Opaque}
	}
	for p.Is("async") || p.Is("throws") || p.Is("rethrows") {
		t = &model.Type{Kind: model.Opaque}
		p.Advance()
		if p.Is("(") {
			p.Jump()
		}
	}
	if p.acceptOperator("->") {
		p.parseType()
		t = &model.Type{Kind: model.Opaque}
	}
	if t.Kind == model.Opaque {
		t.Name = p.F.Text(start, p.I)
	}
	t.Pos = p.F.Where(start)
	return t
}

// parseSimpleType reads a type up to and with its question marks.
func (p *parser) parseSimpleType() *model.Type {
	var t *model.Type
	pos := p.Where()
	switch tok := p.Tok(); {
	case tok.Is("["):
		start, end := p.I, p.Shut()
		p.Advance()
		t = p.newType(model.Type{Kind: model.List, Args: p.made.args.One(orOpaque(p.parseType()))})
		if p.Accept(":") {
			t = &model.Type{Kind: model.Map, Args: []*model.Type{t.Args[0], orOpaque(p.parseType())}}
		}
		if p.I != end {
			t = &model.Type{Kind: model.Opaque}
		}
		if end > start { // else it is never closed, and what follows may be sound
			p.I = end
			p.Advance()
		}
	case tok.Is("("):
		t = p.parseTuple()
	case tok.Kind == scan.Ident:
		t = p.parseNamed()
	default:
		return nil
	}
	t.Pos = pos
	for (p.Is("?") || p.Is("!")) && !p.Spaced() {
		p.Advance()
		t = p.newType(model.Type{Kind: model.Optional, Args: p.made.args.One(t), Pos: pos})
	}
	return t
}

func (p *parser) newType(t model.Type) *model.Type { return p.made.types.New(t) }

// parseTuple reads (A, b: B). One element in parentheses is that element.
func (p *parser) parseTuple() *model.Type {
	t := &model.Type{Kind: model.Tuple}
	end := p.Shut()
	p.Advance()
	for p.I < end {
		if p.Kind() == scan.Ident && p.Ahead(1, ":") {
			p.I += 2
		} else if p.Kind() == scan.Ident && p.KindAhead(1) == scan.Ident && p.Ahead(2, ":") {
			p.I += 3
		}
		t.Args = append(t.Args, orOpaque(p.parseType()))
		for p.I < end && !p.Is(",") {
			p.Jump()
		}
		p.Accept(",")
	}
	p.I = end
	p.Advance()
	if len(t.Args) == 1 {
		return t.Args[0]
	}
	return t
}

// parseNamed reads A.B<C>. Generic arguments of an outer type are dropped: what
// they are cannot matter to a nested type that is looked up by name.
func (p *parser) parseNamed() *model.Type {
	t := p.newType(model.Type{Kind: model.Named})
	for {
		switch text := p.Text(); t.Name {
		case "", "Swift", "Foundation": // the module that a name is of
			t.Name = text
		default:
			t.Name += "." + text
		}
		p.Advance()
		t.Args = nil
		if from, spaced := p.I, p.Spaced(); p.Is("<") {
			args, closed := p.typeArguments()
			if t.Args = args; spaced && !closed { // a comparison
				p.I, t.Args = from, nil
			}
		}
		if !p.Is(".") || p.KindAhead(1) != scan.Ident || p.Newline() {
			break
		}
		if p.Ahead(1, "self") || p.Ahead(1, "init") {
			break
		}
		p.Advance()
	}
	return t
}

// typeArguments reads <A, B> and leaves the parser behind the '>', which closed says that there is.
func (p *parser) typeArguments() (args []*model.Type, closed bool) {
	p.Advance()
	for {
		a := p.parseType()
		if a == nil {
			break
		}
		args = append(args, a)
		if !p.Accept(",") {
			break
		}
	}
	return args, p.Accept(">")
}

func orOpaque(t *model.Type) *model.Type {
	if t == nil {
		return &model.Type{Kind: model.Opaque}
	}
	return t
}

// ParseType reads a type as Swift writes it; nil if text is anything else.
func ParseType(text string) *model.Type {
	f := scan.Scan("", text, dialect)
	p := parserAt(f, 0)
	t := p.parseType()
	if t == nil || p.Kind() != scan.EOF || len(f.Problems) > 0 {
		return nil
	}
	var fix func(t *model.Type) *model.Type
	fix = func(t *model.Type) *model.Type {
		for i, a := range t.Args {
			t.Args[i] = fix(a)
		}
		return builtin(t)
	}
	return fix(t)
}
