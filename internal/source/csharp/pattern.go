package csharp

import (
	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// pattern reads one ("Patterns and pattern matching"): those that or joins. A name alone is read as an expression
// whose Type it would be, since only what it names tells whether it is a constant.
func (p *parser) pattern() *code.Expr {
	if p.depth++; p.depth > maxDepth {
		p.depth--
		p.Jump()
		return p.other()
	}
	defer func() { p.depth-- }()
	pos := p.Where()
	left := p.patternAnd()
	for p.Accept("or") {
		left = &code.Expr{Op: code.Binary, Text: "or", Args: []*code.Expr{left, p.patternAnd()}, Pos: pos}
	}
	return left
}

func (p *parser) patternAnd() *code.Expr {
	pos := p.Where()
	left := p.patternAlone()
	for p.Accept("and") {
		left = &code.Expr{Op: code.Binary, Text: "and", Args: []*code.Expr{left, p.patternAlone()}, Pos: pos}
	}
	return left
}

// patternEnds says whether nothing of a pattern stands at the cursor any more.
func (p *parser) patternEnds() bool {
	if p.Kind() == scan.Ident {
		return p.Is("and") || p.Is("or") || p.Is("when") || p.reservedHere()
	}
	return true
}

func (p *parser) patternAlone() *code.Expr {
	if p.depth++; p.depth > maxDepth {
		p.depth--
		p.Jump()
		return p.other()
	}
	defer func() { p.depth-- }()
	pos := p.Where()
	switch {
	case p.Is("not") && !p.Ahead(1, ":"):
		p.Advance()
		return &code.Expr{Op: code.Unary, Text: "not", Args: []*code.Expr{p.patternAlone()}, Pos: pos}
	case p.Is("<"), p.Is(">"):
		op := p.Text()
		p.Advance()
		if p.Is("=") && !p.Spaced() {
			op += "="
			p.Advance()
		}
		return &code.Expr{Op: code.Unary, Text: op, Args: []*code.Expr{p.binary(7)}, Pos: pos}
	case p.Is("_"):
		p.Advance()
		return &code.Expr{Op: code.Bind, Pos: pos}
	case p.Is("var"):
		p.Advance()
		if p.Is("(") {
			return p.named(p.positional(nil, true))
		}
		e := &code.Expr{Op: code.Bind, Text: p.Text(), Pos: pos}
		p.Advance()
		return e
	case p.Is("{"):
		return p.named(p.properties(&code.Expr{Op: code.Record, Pos: pos}))
	case p.Is("["):
		return p.named(p.listPattern())
	case p.Is("(") && !p.castAhead():
		if e := p.positional(nil, false); e != nil {
			return p.named(e)
		}
	}
	start := p.I
	if t := p.typeTestedPattern(); t != nil {
		switch {
		case p.Is("{"):
			return p.named(p.properties(&code.Expr{Op: code.Record, Type: t, Pos: pos}))
		case p.Is("(") && t.Kind == model.Named:
			if e := p.positional(t, false); e != nil {
				return p.named(e)
			}
		case !p.patternEnds(): // Port port
			e := &code.Expr{Op: code.Bind, Text: p.Text(), Type: t, Pos: pos}
			p.Advance()
			return e
		case t.Kind != model.Named || predefined[t.Name] || len(t.Args) > 0:
			if p.Is(".") { // int.MaxValue
				break
			}
			return &code.Expr{Op: code.Bind, Type: t, Pos: pos}
		default:
			p.I = start
			e := *p.binary(7)
			if e.Op == code.Name || e.Op == code.Member {
				e.Type = t
			}
			return &e
		}
	}
	p.I = start
	return p.binary(7)
}

// typeTestedPattern reads the type that a pattern may begin with; a question mark belongs to a condition.
func (p *parser) typeTestedPattern() *model.Type {
	if p.Kind() != scan.Ident && !p.Is("(") {
		return nil
	}
	t := p.typeUpTo(false)
	if t == nil {
		return nil
	}
	for p.Is("[") && p.rank() > 0 {
		p.I = p.Shut() + 1
		t = arrayOf(t, "[]")
	}
	return t
}

// named reads the name that a pattern gives what it fits.
func (p *parser) named(e *code.Expr) *code.Expr {
	if e == nil || p.patternEnds() {
		return e
	}
	bind := &code.Expr{Op: code.Bind, Text: p.Text(), Pos: p.Where()}
	p.Advance()
	return &code.Expr{Op: code.Binary, Text: "and", Args: []*code.Expr{e, bind}, Pos: e.Pos}
}

// properties reads { Name: pattern, Port.Code: pattern }.
func (p *parser) properties(e *code.Expr) *code.Expr {
	shut := p.Shut()
	for p.Advance(); p.I < shut; {
		start, label := p.I, ""
		for p.Kind() == scan.Ident && (p.Ahead(1, ".") || p.Ahead(1, ":")) {
			label += p.Text()
			p.Advance()
			if p.Accept(".") {
				label += "."
				continue
			}
			p.Advance()
			break
		}
		e.Args, e.Labels = append(e.Args, p.pattern()), append(e.Labels, label)
		for p.I < shut && !p.Is(",") {
			p.Jump()
		}
		p.Accept(",")
		if p.I == start {
			p.Advance()
		}
	}
	p.I = shut + 1
	return e
}

// positional reads the patterns in brackets; nil where it is one pattern that is only grouped, and read as such.
func (p *parser) positional(t *model.Type, declares bool) *code.Expr {
	e := &code.Expr{Op: code.Record, Text: "positional", Type: t, Pos: p.Where()}
	shut := p.Shut()
	if shut == p.I {
		p.Advance()
		return e
	}
	for p.Advance(); p.I < shut; {
		start := p.I
		label := ""
		if p.Kind() == scan.Ident && p.Ahead(1, ":") {
			label = p.Text()
			p.I += 2
		}
		if declares && p.Kind() == scan.Ident {
			e.Args = append(e.Args, &code.Expr{Op: code.Bind, Text: p.Text(), Pos: p.Where()})
			p.Advance()
		} else {
			e.Args = append(e.Args, p.pattern())
		}
		e.Labels = append(e.Labels, label)
		for p.I < shut && !p.Is(",") {
			p.Jump()
		}
		p.Accept(",")
		if p.I == start {
			p.Advance()
		}
	}
	p.I = shut + 1
	if len(e.Args) == 1 && t == nil && !declares {
		if p.Is("{") { // (var a) { … }
			return p.properties(e)
		}
		return e.Args[0]
	}
	if p.Is("{") {
		rest := p.properties(&code.Expr{Op: code.Record, Pos: p.Where()})
		return &code.Expr{Op: code.Binary, Text: "and", Args: []*code.Expr{e, rest}, Pos: e.Pos}
	}
	return e
}

// listPattern reads [a, .., b].
func (p *parser) listPattern() *code.Expr {
	e := &code.Expr{Op: code.List, Pos: p.Where()}
	shut := p.Shut()
	if shut == p.I {
		p.Advance()
		return e
	}
	for p.Advance(); p.I < shut; {
		start, pos := p.I, p.Where()
		if p.Operator("..") {
			p.I += 2
			rest := &code.Expr{Op: code.Spread, Pos: pos}
			if !p.Is(",") && p.I < shut {
				rest.Args = []*code.Expr{p.pattern()}
			}
			e.Args = append(e.Args, rest)
		} else {
			e.Args = append(e.Args, p.pattern())
		}
		for p.I < shut && !p.Is(",") {
			p.Jump()
		}
		p.Accept(",")
		if p.I == start {
			p.Advance()
		}
	}
	p.I = shut + 1
	return e
}

// guarded reads a pattern with the condition behind when.
func (p *parser) guarded() *code.Expr {
	pattern := p.pattern()
	if p.Is("when") {
		pos := p.Where()
		p.Advance()
		return &code.Expr{Op: code.Binary, Text: "when", Args: []*code.Expr{pattern, p.expr()}, Pos: pos}
	}
	return pattern
}

// switchExpr reads a switch that is an expression, behind what it is about.
func (p *parser) switchExpr(of *code.Expr) *code.Expr {
	e := &code.Expr{Op: code.Choice, Pos: of.Pos}
	p.Advance()
	s := code.Stmt{Op: code.Block, Kind: code.Switch, Heads: 1, Body: []code.Stmt{{Op: code.Block, Value: of}}}
	shut := p.Shut()
	for p.Advance(); p.I < shut; {
		start := p.I
		pattern := p.guarded()
		c := code.Stmt{Op: code.Block, Kind: code.Case, Value: &code.Expr{Op: code.List, Args: []*code.Expr{pattern}, Pos: pattern.Pos}}
		if p.Operator("=>") {
			p.I += 2
			v := p.expr()
			c.Body = []code.Stmt{{Op: code.Do, Value: v}}
			e.Args = append(e.Args, v)
		} else {
			c.Torn = true
		}
		s.Body = append(s.Body, c)
		for p.I < shut && !p.Is(",") {
			p.Jump()
		}
		p.Accept(",")
		if p.I == start {
			p.Advance()
		}
	}
	p.I = shut + 1
	e.Body = []code.Stmt{s}
	return e
}
