package swift

import (
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// parser walks the tokens of one file. Its methods leave it behind what they
// read; none of them goes beyond the file's last token.
type parser struct {
	f     *scan.File
	i     int
	depth int // of types and expressions inside each other
	// conditional says that an expression is read behind if, guard, while or switch,
	// where a brace begins the statement's block and no closure.
	conditional bool
}

// maxDepth is how deep types and expressions may lie inside each other: what is
// deeper is no source that anybody has written.
const maxDepth = 200

func (p *parser) tok() scan.Token { return p.f.Tokens[p.i] }

// at is the token n tokens ahead, the EOF where there is none.
func (p *parser) at(n int) scan.Token {
	if k := p.i + n; k >= 0 && k < len(p.f.Tokens) {
		return p.f.Tokens[k]
	}
	return p.f.Tokens[len(p.f.Tokens)-1]
}

func (p *parser) is(text string) bool { return p.tok().Is(text) }

func (p *parser) advance() {
	if p.i < len(p.f.Tokens)-1 {
		p.i++
	}
}

// accept passes over the token if it is that word or character.
func (p *parser) accept(text string) bool {
	if p.is(text) {
		p.advance()
		return true
	}
	return false
}

// operator says whether the characters of op come next with nothing between them.
func (p *parser) operator(op string) bool {
	for n := range len(op) {
		t := p.at(n)
		if t.Kind != scan.Punct || t.Text != op[n:n+1] || n > 0 && t.Space {
			return false
		}
	}
	return true
}

// acceptOperator passes over op if it comes next.
func (p *parser) acceptOperator(op string) bool {
	if !p.operator(op) {
		return false
	}
	p.i += len(op)
	return true
}

// shut is the index of the bracket that closes the one at the parser. Where a brace
// is never closed it is the end of what is around it; a round or square bracket that
// is never closed is taken to be a slip that ends nothing.
func (p *parser) shut() int {
	m := p.f.Match[p.i]
	if m > p.i && (p.is("{") || p.f.Match[m] == p.i) {
		return m
	}
	return p.i
}

// jump passes over a bracketed stretch, or over one token.
func (p *parser) jump() {
	p.i = p.shut()
	p.advance()
}

// parseType reads a type ("Types" in the Language Reference). It answers nil,
// and passes over nothing, where no type begins.
func (p *parser) parseType() *model.Type {
	if p.depth >= maxDepth {
		return nil
	}
	p.depth++
	defer func() { p.depth-- }()
	start := p.i
	for p.is("@") || p.is("inout") || p.is("some") || p.is("any") || p.is("borrowing") || p.is("consuming") || p.is("sending") {
		if p.accept("@") {
			p.advance()
			if p.is("(") && !p.tok().Space {
				p.jump()
			}
			continue
		}
		if next := p.at(1); next.Kind != scan.Ident && !next.Is("(") && !next.Is("[") {
			break // a type that has the name of the word
		}
		p.advance()
	}
	t := p.parseSimpleType()
	if t == nil {
		p.i = start
		return nil
	}
	for p.operator("&") && !p.operator("&&") {
		p.advance()
		p.parseSimpleType()
		t = &model.Type{Kind: model.Opaque}
	}
	for p.is("async") || p.is("throws") || p.is("rethrows") {
		t = &model.Type{Kind: model.Opaque}
		p.advance()
		if p.is("(") {
			p.jump()
		}
	}
	if p.acceptOperator("->") {
		p.parseType()
		t = &model.Type{Kind: model.Opaque}
	}
	if t.Kind == model.Opaque {
		t.Name = p.f.Text(start, p.i)
	}
	t.Pos = p.f.Where(start)
	return t
}

// parseSimpleType reads a type up to and with its question marks.
func (p *parser) parseSimpleType() *model.Type {
	var t *model.Type
	pos := p.f.Where(p.i)
	switch tok := p.tok(); {
	case tok.Is("["):
		start, end := p.i, p.shut()
		p.advance()
		t = &model.Type{Kind: model.List, Args: []*model.Type{orOpaque(p.parseType())}}
		if p.accept(":") {
			t = &model.Type{Kind: model.Map, Args: []*model.Type{t.Args[0], orOpaque(p.parseType())}}
		}
		if p.i != end {
			t = &model.Type{Kind: model.Opaque}
		}
		if end > start { // else it is never closed, and what follows may be sound
			p.i = end
			p.advance()
		}
	case tok.Is("("):
		t = p.parseTuple()
	case tok.Kind == scan.Ident:
		t = p.parseNamed()
	default:
		return nil
	}
	t.Pos = pos
	for (p.is("?") || p.is("!")) && !p.tok().Space {
		p.advance()
		t = model.OptionalOf(t)
	}
	return t
}

// parseTuple reads (A, b: B). One element in parentheses is that element.
func (p *parser) parseTuple() *model.Type {
	t := &model.Type{Kind: model.Tuple}
	end := p.shut()
	p.advance()
	for p.i < end {
		if p.tok().Kind == scan.Ident && p.at(1).Is(":") {
			p.i += 2
		} else if p.tok().Kind == scan.Ident && p.at(1).Kind == scan.Ident && p.at(2).Is(":") {
			p.i += 3
		}
		t.Args = append(t.Args, orOpaque(p.parseType()))
		for p.i < end && !p.is(",") {
			p.jump()
		}
		p.accept(",")
	}
	p.i = end
	p.advance()
	if len(t.Args) == 1 {
		return t.Args[0]
	}
	return t
}

// parseNamed reads A.B<C>. Generic arguments of an outer type are dropped: what
// they are cannot matter to a nested type that is looked up by name.
func (p *parser) parseNamed() *model.Type {
	t := &model.Type{Kind: model.Named}
	var parts []string
	for {
		parts = append(parts, p.tok().Text)
		p.advance()
		t.Args = nil
		if p.is("<") && !p.tok().Space {
			t.Args = p.typeArguments()
		}
		if !p.is(".") || p.at(1).Kind != scan.Ident || p.tok().Newline {
			break
		}
		if p.at(1).Is("self") || p.at(1).Is("init") {
			break
		}
		p.advance()
	}
	if len(parts) > 1 && (parts[0] == "Swift" || parts[0] == "Foundation") {
		parts = parts[1:]
	}
	t.Name = strings.Join(parts, ".")
	return t
}

// typeArguments reads <A, B> and leaves the parser behind the '>'.
func (p *parser) typeArguments() (args []*model.Type) {
	p.advance()
	for {
		a := p.parseType()
		if a == nil {
			break
		}
		args = append(args, a)
		if !p.accept(",") {
			break
		}
	}
	p.accept(">")
	return args
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
	p := &parser{f: f}
	t := p.parseType()
	if t == nil || p.tok().Kind != scan.EOF || len(f.Problems) > 0 {
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
