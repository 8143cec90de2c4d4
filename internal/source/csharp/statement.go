package csharp

import (
	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// block reads the statements between braces, from the opening one on.
func (p *parser) block() []code.Stmt {
	shut := p.Shut()
	p.Advance()
	out := p.statements(shut)
	p.I = shut + 1
	return out
}

// statements reads those before a token.
func (p *parser) statements(end int) []code.Stmt {
	var out []code.Stmt
	for p.I < end {
		start := p.I
		out = append(out, p.statement()...)
		if p.I == start {
			p.Advance()
		}
	}
	return out
}

// statement reads one statement, which may make several of the tree.
func (p *parser) statement() []code.Stmt {
	if p.depth++; p.depth > maxDepth {
		p.depth--
		p.Jump()
		return []code.Stmt{{Op: code.Do, Torn: true}}
	}
	defer func() { p.depth-- }()
	switch {
	case p.Is(";"):
		p.Advance()
		return nil
	case p.Is("{"):
		return []code.Stmt{{Op: code.Block, Body: p.block()}}
	case p.Is("[") && p.attributesAhead():
		for p.Is("[") {
			p.Jump()
		}
	case p.Kind() == scan.Ident && p.Ahead(1, ":") && !p.Ahead(2, ":") && !p.reservedHere(): // a label
		p.I += 2
		return p.statement()
	}
	if p.Kind() == scan.Ident {
		if out, ok := p.keyword(); ok {
			return out
		}
	}
	if out, ok := p.declaration(); ok {
		return out
	}
	return []code.Stmt{p.plain()}
}

// attributesAhead says whether the bracket at the cursor is around the attributes of a local function.
func (p *parser) attributesAhead() bool {
	i := p.Shut() + 1
	return p.F.KindAt(i) == scan.Ident || p.F.Is(i, "[")
}

// plain is an expression for what it does, up to its semicolon.
func (p *parser) plain() code.Stmt {
	from := p.Tok().Start
	e := p.expr()
	s := code.Stmt{Op: code.Do, Value: e, From: from}
	for _, does := range e.Does.All() {
		if does == code.Thrown {
			s.Kind = code.Throw
		}
	}
	if e.Op == code.Set && e.Text == "=" { // x = …, this.x = …
		switch target := e.Args[0]; {
		case target.Op == code.Name:
			s.Op, s.Name, s.Value = code.Assign, target.Text, e.Args[1]
		case target.Op == code.Member && len(target.Args) == 1:
			s.Op, s.Name, s.Of, s.Value = code.Assign, target.Text, target.Args[0], e.Args[1]
		}
	}
	s.Torn = !p.end()
	s.To = p.F.TokenAt(p.I - 1).End
	return s
}

// end passes over the semicolon of a statement, and what stands before it though it should not: then it says no.
func (p *parser) end() bool {
	ok := p.Is(";") || p.Is("}") || p.Is(")") || p.Kind() == scan.EOF
	for !p.Is(";") && !p.Is("}") && p.Kind() != scan.EOF {
		p.Jump()
	}
	p.Accept(";")
	return ok
}

// keyword reads a statement that begins with a word of its own.
func (p *parser) keyword() (out []code.Stmt, ok bool) {
	switch p.F.Word(p.I) {
	case "return":
		p.Advance()
		s := code.Stmt{Op: code.Return}
		if !p.Is(";") && !p.Is("}") {
			s.Value = p.expr()
		}
		s.Torn = !p.end()
		return []code.Stmt{s}, true
	case "yield":
		if !p.Ahead(1, "return") && !p.Ahead(1, "break") {
			return nil, false
		}
		p.I += 2
		s := code.Stmt{Op: code.Do, Name: "yield"}
		if !p.Is(";") {
			s.Value = p.expr()
		}
		s.Torn = !p.end()
		return []code.Stmt{s}, true
	case "if":
		return p.ifStatement(), true
	case "foreach":
		return []code.Stmt{p.each()}, true
	case "for":
		return []code.Stmt{p.loop()}, true
	case "while":
		p.Advance()
		s := code.Stmt{Op: code.Block, Kind: code.While, Heads: 1, Body: []code.Stmt{{Op: code.Block, Value: p.condition()}}}
		s.Body = append(s.Body, p.statement()...)
		return []code.Stmt{s}, true
	case "do":
		p.Advance()
		body := p.statement()
		s := code.Stmt{Op: code.Block, Kind: code.Repeat, Heads: 1}
		check := code.Stmt{Op: code.Block}
		if p.Accept("while") {
			check.Value = p.condition()
		}
		p.end()
		s.Body = append([]code.Stmt{check}, body...)
		return []code.Stmt{s}, true
	case "switch":
		return []code.Stmt{p.switchStatement()}, true
	case "try":
		return p.try(), true
	case "break", "continue":
		s := code.Stmt{Op: code.Do, Kind: code.Jump, Name: p.Text()}
		p.Advance()
		p.end()
		return []code.Stmt{s}, true
	case "goto":
		p.end()
		return []code.Stmt{{Op: code.Do, Torn: true}}, true
	case "using":
		if p.Ahead(1, "(") {
			return p.using(), true
		}
		p.Advance()
		return p.declaration()
	case "lock", "fixed":
		p.Advance()
		p.condition()
		return p.statement(), true
	case "unsafe", "checked", "unchecked":
		if p.Ahead(1, "{") {
			p.Advance()
			return []code.Stmt{{Op: code.Block, Body: p.block()}}, true
		}
	case "await":
		switch {
		case p.Ahead(1, "foreach"):
			p.Advance()
			return []code.Stmt{p.each()}, true
		case p.Ahead(1, "using") && p.Ahead(2, "("):
			p.Advance()
			return p.using(), true
		case p.Ahead(1, "using"):
			p.I += 2
			return p.declaration()
		}
	}
	return nil, false
}

// condition reads what stands in the brackets of a statement.
func (p *parser) condition() *code.Expr {
	if !p.Is("(") {
		return p.other()
	}
	shut := p.Shut()
	p.Advance()
	e := p.expr()
	p.I = shut + 1
	return e
}

func (p *parser) ifStatement() []code.Stmt {
	kind := code.If
	var out []code.Stmt
	for {
		p.Advance() // if
		s := code.Stmt{Op: code.Block, Kind: kind, Heads: 1, Body: []code.Stmt{{Op: code.Block, Value: p.condition()}}}
		s.Body = append(s.Body, p.statement()...)
		out = append(out, s)
		if !p.Accept("else") {
			return out
		}
		if !p.Is("if") {
			return append(out, code.Stmt{Op: code.Block, Kind: code.Else, Body: p.statement()})
		}
		kind = code.ElseIf
	}
}

// using reads the statement with brackets: what it declares, and its body.
func (p *parser) using() []code.Stmt {
	p.Advance()
	shut := p.Shut()
	p.Advance()
	s := code.Stmt{Op: code.Block}
	if decl, ok := p.declaration(); ok {
		s.Body = decl
	} else {
		s.Body = []code.Stmt{{Op: code.Do, Value: p.expr()}}
	}
	p.I = shut + 1
	s.Body = append(s.Body, p.statement()...)
	return []code.Stmt{s}
}

// each reads foreach: two heads, the name and what is gone through.
func (p *parser) each() code.Stmt {
	p.Advance()
	s := code.Stmt{Op: code.Block, Kind: code.For, Heads: 2}
	if !p.Is("(") {
		s.Torn = true
		return s
	}
	shut := p.Shut()
	p.Advance()
	name := code.Stmt{Op: code.Let}
	switch {
	case p.Is("var") && p.Ahead(1, "("):
		p.Advance()
		name.Value = p.positional(nil, true)
	case p.Is("("):
		name.Value = p.record()
	default:
		name.Type = p.typ()
		if name.Type != nil && name.Type.Name == "var" {
			name.Type = nil
		}
		name.Name = p.Text()
		p.Advance()
	}
	p.Accept("in")
	s.Body = []code.Stmt{name, {Op: code.Block, Value: p.expr()}}
	p.I = shut + 1
	s.Body = append(s.Body, p.statement()...)
	return s
}

// loop reads for: three heads, what is done first, the condition, and what is done behind each round.
func (p *parser) loop() code.Stmt {
	p.Advance()
	s := code.Stmt{Op: code.Block, Kind: code.For, Heads: 3}
	if !p.Is("(") {
		s.Torn = true
		return s
	}
	shut := p.Shut()
	p.Advance()
	first, check, then := code.Stmt{Op: code.Block}, code.Stmt{Op: code.Block}, code.Stmt{Op: code.Block}
	if !p.Accept(";") {
		if decl, ok := p.declaration(); ok {
			first.Body = decl
		} else {
			first.Body = []code.Stmt{p.plain()}
		}
	}
	if !p.Is(";") {
		check.Value = p.expr()
	}
	p.Accept(";")
	for p.I < shut {
		start := p.I
		then.Body = append(then.Body, code.Stmt{Op: code.Do, Value: p.expr()})
		p.Accept(",")
		if p.I == start {
			p.Advance()
		}
	}
	p.I = shut + 1
	s.Body = append([]code.Stmt{first, check, then}, p.statement()...)
	return s
}

// switchStatement reads a switch from the word on. Cases without a body are those of the one behind them.
func (p *parser) switchStatement() code.Stmt {
	p.Advance()
	of := p.condition()
	s := code.Stmt{Op: code.Block, Kind: code.Switch, Heads: 1, Body: []code.Stmt{{Op: code.Block, Value: of}}}
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
		for p.I < shut && !p.Is("case") && !(p.Is("default") && p.Ahead(1, ":")) {
			at := p.I
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
		s.Body = append(s.Body, code.Stmt{Op: code.Block, Kind: code.Case, Value: list, Body: body})
		patterns, all = nil, false
		if p.I == start {
			p.Advance()
		}
	}
	p.I = shut + 1
	return s
}

// try reads try with its handlers. A filter is a head of its handler.
func (p *parser) try() []code.Stmt {
	p.Advance()
	out := []code.Stmt{{Op: code.Block, Kind: code.Try}}
	if p.Is("{") {
		out[0].Body = p.block()
	}
	for {
		s := code.Stmt{Op: code.Block, Kind: code.Catch}
		switch {
		case p.Accept("catch"):
			if p.Is("(") {
				shut := p.Shut()
				p.Advance()
				s.Type = p.typ()
				if p.Kind() == scan.Ident && p.I < shut {
					s.Name = p.Text()
				}
				p.I = shut + 1
			}
			if p.Accept("when") {
				s.Value = p.condition()
			}
		case p.Accept("finally"):
			s.Kind = code.Finally
		default:
			return out
		}
		if p.Is("{") {
			s.Body = p.block()
		}
		out = append(out, s)
	}
}

// declaration reads variables or a function that a statement declares; ok is false where it declares none.
func (p *parser) declaration() (out []code.Stmt, ok bool) {
	start := p.I
	if p.Is("const") || p.Is("static") || p.Is("async") && p.KindAhead(1) == scan.Ident || p.Is("unsafe") || p.Is("extern") {
		for p.Is("const") || p.Is("static") || p.Is("async") || p.Is("unsafe") || p.Is("extern") {
			p.Advance()
		}
	}
	if p.Is("var") && p.Ahead(1, "(") {
		p.Advance()
		pattern := p.positional(nil, true)
		if p.Accept("=") {
			value := p.expr()
			return []code.Stmt{{Op: code.Let, Value: &code.Expr{Op: code.Match, Args: []*code.Expr{value, pattern}, Pos: pattern.Pos}, Torn: !p.end()}}, true
		}
		p.I = start
		return nil, false
	}
	t := p.typ()
	if t == nil || p.Kind() != scan.Ident || p.reservedHere() {
		p.I = start
		return nil, false
	}
	if p.Ahead(1, "(") || p.Ahead(1, "<") {
		if out, ok := p.localFunction(t); ok {
			return out, true
		}
		p.I = start
		return nil, false
	}
	if !(p.Ahead(1, "=") && !(p.F.Is(p.I+2, "=") && !p.At(2).Space) || p.Ahead(1, ";") || p.Ahead(1, ",") || p.Ahead(1, ")")) {
		p.I = start
		return nil, false
	}
	if t.Name == "var" && t.Kind == model.Named {
		t = nil
	}
	for {
		s := code.Stmt{Op: code.Let, Name: p.Text(), Type: t, From: p.Tok().Start}
		p.Advance()
		if p.Accept("=") {
			if p.Is("{") {
				s.Value = &code.Expr{Op: code.List, Type: t, Pos: p.Where()}
				p.elements(s.Value)
			} else {
				s.Value = serializerFor(p.expr(), t)
			}
		}
		out = append(out, s)
		if !p.Accept(",") || p.Kind() != scan.Ident {
			break
		}
	}
	out[len(out)-1].Torn = !p.end()
	return out, true
}

// localFunction reads a function that is declared in another one, from its name on.
func (p *parser) localFunction(returns *model.Type) (out []code.Stmt, ok bool) {
	fn := &code.Func{Name: p.Text(), Returns: returns, File: p.F.Name, Pos: p.Where()}
	generics := p.generics
	defer func() { p.generics = generics }()
	p.Advance()
	if p.Is("<") {
		fn.Generics = p.typeParams()
	}
	if !p.Is("(") {
		return nil, false
	}
	i := p.Shut() + 1
	if !p.F.Is(i, "{") && !p.F.Is(i, "where") && !(p.F.Is(i, "=") && p.F.Is(i+1, ">")) {
		return nil, false
	}
	fn.Params = p.params(false)
	p.constraints()
	p.functionBody(fn)
	fn.Body, fn.Unread = fn.Do(), nil
	value := &code.Expr{Op: code.Lambda, Fn: fn, Body: fn.Body, Pos: fn.Pos}
	return []code.Stmt{{Op: code.Let, Kind: code.Local, Name: fn.Name, Value: value}}, true
}

// functionBody reads what a function does, with the semicolon behind an arrow.
func (p *parser) functionBody(fn *code.Func) {
	switch {
	case p.Operator("=>"):
		p.I += 2
		fn.Body = []code.Stmt{{Op: code.Return, Value: p.expr()}}
		p.end()
	case p.F.PassedOver(p.I):
		from, end := p.F.Inner(p.I)
		fn.Unread = &unread{file: p.F, from: from, end: end, generics: p.generics[:len(p.generics):len(p.generics)]}
		p.Jump()
	case p.Is("{"):
		fn.Body = p.block()
	default:
		fn.Native = true
		p.end()
	}
}

// params reads parameters from their bracket on; bare says that they may be names without types.
func (p *parser) params(bare bool) (out []code.Param) {
	shut := p.Shut()
	if shut == p.I {
		p.Advance()
		return nil
	}
	for p.Advance(); p.I < shut; {
		start := p.I
		param := code.Param{}
		for p.Is("[") && p.I < shut {
			param.Marks = append(param.Marks, p.attributes()...)
		}
		for p.Is("this") || p.Is("params") || p.Is("ref") || p.Is("out") || p.Is("in") || p.Is("scoped") || p.Is("readonly") {
			switch {
			case p.Is("params"):
				param.Optional = true
			case p.Is("out"):
				param.Label = "out"
			}
			p.Advance()
		}
		if !(bare && p.Kind() == scan.Ident && (p.Ahead(1, ",") || p.Ahead(1, ")") || p.Ahead(1, "="))) {
			param.Type = p.typ()
		}
		if p.Kind() == scan.Ident && p.I < shut {
			param.Name, param.Pos = p.Text(), p.Where()
			p.Advance()
		}
		if p.Accept("=") {
			param.Default, param.Optional = p.expr(), true
		}
		if param.Name != "" {
			out = append(out, param)
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
	return out
}
