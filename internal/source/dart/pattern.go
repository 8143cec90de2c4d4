package dart

import (
	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// switchStatement reads a switch from the word on. Cases without a body are those of the one behind them.
func (p *parser) switchStatement() code.Stmt {
	p.Advance()
	s := code.Stmt{Op: code.Block, Kind: code.Switch, Heads: 1, Body: []code.Stmt{{Op: code.Block, Value: p.condition()}}}
	if !p.Is("{") {
		s.Torn = true
		return s
	}
	shut := p.Shut()
	p.Advance()
	var patterns []*code.Expr
	pos, all := p.Where(), false
	for p.I < shut {
		start := p.I
		label := ""
		if p.Kind() == scan.Ident && p.Ahead(1, ":") && !p.Is("default") {
			label = p.Text()
			p.I += 2
		}
		switch {
		case p.Accept("case"):
			patterns = append(patterns, p.guarded())
		case p.Accept("default"):
			all = true
		default:
			p.Jump()
			continue
		}
		p.Accept(":")
		var body []code.Stmt
		for p.I < shut && !p.Is("case") && !p.Is("default") {
			at := p.I
			if p.Kind() == scan.Ident && p.Ahead(1, ":") && (p.Ahead(2, "case") || p.Ahead(2, "default")) {
				break
			}
			body = append(body, p.statement()...)
			if p.I == at {
				p.Advance()
			}
		}
		if len(body) == 0 && p.I < shut {
			continue
		}
		list := &code.Expr{Op: code.List, Args: patterns, Pos: pos}
		if all {
			list.Args = nil
		}
		s.Body = append(s.Body, code.Stmt{Op: code.Block, Kind: code.Case, Name: label, Value: list, Body: body})
		patterns, all = nil, false
		if p.I == start {
			p.Advance()
		}
	}
	p.I = shut + 1
	return s
}

// switchExpr reads a switch that is an expression.
func (p *parser) switchExpr() *code.Expr {
	e := &code.Expr{Op: code.Choice, Pos: p.Where()}
	p.Advance()
	s := code.Stmt{Op: code.Block, Kind: code.Switch, Heads: 1, Body: []code.Stmt{{Op: code.Block, Value: p.condition()}}}
	shut := p.Shut()
	for p.Advance(); p.I < shut; {
		start := p.I
		pattern := p.guarded()
		c := code.Stmt{Op: code.Block, Kind: code.Case, Value: &code.Expr{Op: code.List, Args: []*code.Expr{pattern}, Pos: pattern.Pos}}
		if p.Operator("=>") {
			p.I += 2
			c.Body = []code.Stmt{{Op: code.Do, Value: p.expr()}}
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

// guarded reads a pattern with the condition behind when.
func (p *parser) guarded() *code.Expr {
	pattern := p.pattern(false)
	if p.Is("when") {
		pos := p.Where()
		p.Advance()
		return &code.Expr{Op: code.Binary, Text: "when", Args: []*code.Expr{pattern, p.expr()}, Pos: pos}
	}
	return pattern
}

// declaringPattern reads a pattern behind var or final, in which names are declared.
func (p *parser) declaringPattern() *code.Expr { return p.pattern(true) }

// pattern reads one as "Patterns" in the specification has them; declares says that a name alone is a variable.
func (p *parser) pattern(declares bool) *code.Expr {
	if p.depth++; p.depth > maxDepth {
		p.depth--
		p.Jump()
		return p.other()
	}
	defer func() { p.depth-- }()
	pos := p.Where()
	left := p.patternAnd(declares)
	for p.Operator("||") {
		p.I += 2
		left = &code.Expr{Op: code.Binary, Text: "||", Args: []*code.Expr{left, p.patternAnd(declares)}, Pos: pos}
	}
	return left
}

func (p *parser) patternAnd(declares bool) *code.Expr {
	pos := p.Where()
	left := p.patternMarked(declares)
	for p.Operator("&&") {
		p.I += 2
		left = &code.Expr{Op: code.Binary, Text: "&&", Args: []*code.Expr{left, p.patternMarked(declares)}, Pos: pos}
	}
	return left
}

// patternMarked reads a pattern with the marks behind it: ?, ! and as.
func (p *parser) patternMarked(declares bool) *code.Expr {
	e := p.patternAlone(declares)
	for {
		pos := p.Where()
		switch {
		case p.Is("?"):
			p.Advance()
			e = with(e, code.Chained)
		case p.Is("!"):
			p.Advance()
			e = with(e, code.Forced)
		case p.Accept("as"):
			e = &code.Expr{Op: code.As, Args: []*code.Expr{e}, Type: p.typ(), Pos: pos}
		default:
			return e
		}
	}
}

func (p *parser) patternAlone(declares bool) *code.Expr {
	pos := p.Where()
	switch {
	case p.Is("var"), p.Is("final"):
		p.Advance()
		if p.Kind() == scan.Ident && (p.KindAhead(1) == scan.Ident && !p.Ahead(1, "when") && !p.Ahead(1, "as") && !p.Ahead(1, "in") || p.Ahead(1, "<") || p.Ahead(1, "?") && p.KindAhead(2) == scan.Ident) {
			if t := p.typ(); t != nil && p.Kind() == scan.Ident {
				return p.bind(t)
			}
		}
		return p.bind(nil)
	case p.Is("_"):
		p.Advance()
		return &code.Expr{Op: code.Bind, Pos: pos}
	case p.Is("["), p.Is("<") && p.patternTypes():
		if p.Is("[") {
			return p.listPattern(declares)
		}
		return p.mapPattern(declares)
	case p.Is("{"):
		return p.mapPattern(declares)
	case p.Is("("):
		return p.recordPattern(declares, nil)
	case p.Operator("=="), p.Operator("!="), p.Operator("<="), p.Operator(">="), p.Is("<"), p.Is(">"):
		op := p.Text()
		p.Advance()
		if p.Is("=") {
			op += "="
			p.Advance()
		}
		return &code.Expr{Op: code.Unary, Text: op, Args: []*code.Expr{p.binary(5)}, Pos: pos}
	case p.Is("const"):
		p.Advance()
		return p.binary(5)
	case p.Kind() == scan.Ident && (!reserved[p.Text()]):
		start := p.I
		if t := p.typ(); t != nil {
			switch {
			case p.Kind() == scan.Ident && !p.Is("when") && !p.Is("as"): // int id
				return p.bind(t)
			case p.Is("(") && t.Kind == model.Named:
				return p.recordPattern(declares, t)
			}
		}
		p.I = start
		if declares && !p.Ahead(1, ".") {
			return p.bind(nil)
		}
	}
	return p.postfix(p.unaryConstant(), false)
}

// unaryConstant reads a constant with the sign before it.
func (p *parser) unaryConstant() *code.Expr {
	if p.Is("-") {
		pos := p.Where()
		p.Advance()
		return &code.Expr{Op: code.Unary, Text: "-", Args: []*code.Expr{p.primary()}, Pos: pos}
	}
	return p.primary()
}

// patternTypes passes over the type arguments of a list or map pattern.
func (p *parser) patternTypes() bool {
	start := p.I
	if _, ok := p.typeArgs(); ok && (p.Is("[") || p.Is("{")) {
		return true
	}
	p.I = start
	return false
}

func (p *parser) bind(t *model.Type) *code.Expr {
	e := &code.Expr{Op: code.Bind, Text: p.Text(), Type: t, Pos: p.Where()}
	if e.Text == "_" {
		e.Text = ""
	}
	p.Advance()
	return e
}

// parts reads the patterns between brackets; each is read by one.
func (p *parser) parts(one func()) {
	shut := p.Shut()
	for p.Advance(); p.I < shut; {
		start := p.I
		one()
		for p.I < shut && !p.Is(",") {
			p.Jump()
		}
		p.Accept(",")
		if p.I == start {
			p.Advance()
		}
	}
	p.I = shut + 1
}

func (p *parser) rest(declares bool) *code.Expr {
	e := &code.Expr{Op: code.Spread, Pos: p.Where()}
	p.I += 3
	if !p.Is(",") && !p.Is("]") && !p.Is("}") {
		e.Args = []*code.Expr{p.pattern(declares)}
	}
	return e
}

func (p *parser) listPattern(declares bool) *code.Expr {
	e := &code.Expr{Op: code.List, Pos: p.Where()}
	p.parts(func() {
		if p.Operator("...") {
			e.Args = append(e.Args, p.rest(declares))
		} else {
			e.Args = append(e.Args, p.pattern(declares))
		}
	})
	return e
}

func (p *parser) mapPattern(declares bool) *code.Expr {
	e := &code.Expr{Op: code.Dict, Pos: p.Where()}
	p.parts(func() {
		if p.Operator("...") {
			p.I += 3
			return
		}
		key := p.binary(5)
		if p.Accept(":") {
			e.Args = append(e.Args, key, p.pattern(declares))
		}
	})
	return e
}

// recordPattern reads one of a record, or of an object of a type.
func (p *parser) recordPattern(declares bool, t *model.Type) *code.Expr {
	e := &code.Expr{Op: code.Record, Type: t, Pos: p.Where()}
	p.parts(func() {
		label := ""
		switch {
		case p.Kind() == scan.Ident && p.Ahead(1, ":"):
			label = p.Text()
			p.I += 2
		case p.Is(":"):
			p.Advance()
			of := p.pattern(declares)
			inner := of
			for inner.Op != code.Bind && len(inner.Args) > 0 {
				inner = inner.Args[0]
			}
			e.Args, e.Labels = append(e.Args, of), append(e.Labels, inner.Text)
			return
		}
		e.Args, e.Labels = append(e.Args, p.pattern(declares)), append(e.Labels, label)
	})
	if t == nil && len(e.Args) == 1 && e.Labels[0] == "" { // brackets alone
		return e.Args[0]
	}
	return e
}
