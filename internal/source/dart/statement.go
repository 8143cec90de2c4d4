package dart

import (
	"slices"

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
	for p.Is("@") {
		p.mark()
	}
	switch {
	case p.Is(";"):
		p.Advance()
		return nil
	case p.Is("{") && !p.isLiteral():
		return []code.Stmt{{Op: code.Block, Body: p.block()}}
	case p.Kind() == scan.Ident && p.Ahead(1, ":") && !reserved[p.Text()]: // a label
		name := p.Text()
		p.I += 2
		out := p.statement()
		if len(out) > 0 {
			out[len(out)-1].Name = name
		}
		return out
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

// isLiteral says whether the brace at the cursor begins a map or set whose member is used: {…}[x].
func (p *parser) isLiteral() bool {
	shut := p.Shut()
	return p.F.Is(shut+1, "[") || p.F.Is(shut+1, ".")
}

// plain is an expression for what it does, up to its semicolon.
func (p *parser) plain() code.Stmt {
	e := p.expr()
	s := code.Stmt{Op: code.Do, Value: e}
	for _, does := range e.Does.All() {
		if does == code.Thrown {
			s.Kind = code.Throw
		}
	}
	s.Torn = !p.end()
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
	switch {
	case p.Is("return"):
		p.Advance()
		s := code.Stmt{Op: code.Return}
		if !p.Is(";") && !p.Is("}") {
			s.Value = p.expr()
		}
		s.Torn = !p.end()
		return []code.Stmt{s}, true
	case p.Is("if"):
		return p.ifStatement(), true
	case p.Is("await") && p.Ahead(1, "for"):
		p.Advance()
		loop := p.loop()
		loop.Torn = true // over what comes later
		return []code.Stmt{loop}, true
	case p.Is("for"):
		return []code.Stmt{p.loop()}, true
	case p.Is("while"):
		p.Advance()
		s := code.Stmt{Op: code.Block, Kind: code.While, Heads: 1, Body: []code.Stmt{{Op: code.Block, Value: p.condition()}}}
		s.Body = append(s.Body, p.statement()...)
		return []code.Stmt{s}, true
	case p.Is("do"):
		p.Advance()
		s := code.Stmt{Op: code.Block, Kind: code.Repeat, Heads: 1, Body: []code.Stmt{{}}}
		s.Body = append(s.Body, p.statement()...)
		if p.Accept("while") {
			s.Body[0] = code.Stmt{Op: code.Block, Value: p.condition()}
		}
		p.end()
		return []code.Stmt{s}, true
	case p.Is("switch") && p.Ahead(1, "("):
		return []code.Stmt{p.switchStatement()}, true
	case p.Is("try"):
		return p.try(), true
	case p.Is("break"), p.Is("continue"):
		s := code.Stmt{Op: code.Do, Kind: code.Jump, Name: p.Text()}
		p.Advance()
		if p.Kind() == scan.Ident {
			s.Value = &code.Expr{Op: code.Name, Text: p.Text(), Pos: p.Where()}
			p.Advance()
		}
		p.end()
		return []code.Stmt{s}, true
	case p.Is("assert") && p.Ahead(1, "("): // does not run in the VM, nor in what is released
		p.Advance()
		p.Jump()
		p.end()
		return nil, true
	case p.Is("yield"):
		p.Advance()
		p.Accept("*")
		s := p.plain()
		s.Torn = true
		return []code.Stmt{s}, true
	}
	return nil, false
}

// condition reads what stands in the brackets of if and while, with a pattern behind case.
func (p *parser) condition() *code.Expr {
	if !p.Is("(") {
		return p.other()
	}
	shut := p.Shut()
	pos := p.Where()
	p.Advance()
	e := p.expr()
	if p.Accept("case") {
		e = &code.Expr{Op: code.Match, Args: []*code.Expr{e, p.guarded()}, Pos: pos}
	}
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

func (p *parser) loop() code.Stmt {
	p.Advance() // for
	s := p.forHead()
	s.Body = append(s.Body, p.statement()...)
	return s
}

// forHead reads the brackets behind for. One that goes through something has two heads, the name and that; one
// that counts has three: what is done first, the condition, and what is done behind each round.
func (p *parser) forHead() code.Stmt {
	s := code.Stmt{Op: code.Block, Kind: code.For, Heads: 2}
	if !p.Is("(") {
		s.Torn = true
		return s
	}
	shut := p.Shut()
	p.Advance()
	in := false
	for i := p.I; i < shut && !p.F.Is(i, ";"); i++ {
		if p.F.Is(i, "in") {
			in = true
			break
		}
		if q := p.F.Partner(i); q > i {
			i = q
		}
	}
	if in {
		name := p.loopName()
		p.Accept("in")
		s.Body = []code.Stmt{name, {Op: code.Block, Value: p.expr()}}
		p.I = shut + 1
		return s
	}
	s.Heads = 3
	first := code.Stmt{Op: code.Block}
	if !p.Accept(";") {
		if decl, ok := p.declaration(); ok {
			first.Body = decl
		} else {
			first.Body = []code.Stmt{p.plain()}
		}
	}
	check := code.Stmt{Op: code.Block}
	if !p.Is(";") {
		check.Value = p.expr()
	}
	p.Accept(";")
	then := code.Stmt{Op: code.Block}
	for p.I < shut {
		start := p.I
		then.Body = append(then.Body, code.Stmt{Op: code.Do, Value: p.expr()})
		p.Accept(",")
		if p.I == start {
			p.Advance()
		}
	}
	s.Body = []code.Stmt{first, check, then}
	p.I = shut + 1
	return s
}

// loopName reads what a loop gives its elements to: a name that it declares, one from outside, or a pattern.
func (p *parser) loopName() code.Stmt {
	p.Accept("late")
	declared := p.Accept("final") || p.Accept("var") || p.Accept("const")
	if declared && (p.Is("(") || p.Is("[") || p.Is("{") || p.KindAhead(1) == scan.Punct && !p.Ahead(1, "<") && !p.Ahead(1, "?") && !p.Ahead(1, ".")) && !(p.Kind() == scan.Ident && p.Ahead(1, "in")) {
		if p.Kind() == scan.Punct || p.Ahead(1, "(") {
			return code.Stmt{Op: code.Let, Value: p.declaringPattern()}
		}
	}
	s := code.Stmt{Op: code.Let}
	if p.Kind() == scan.Ident && p.KindAhead(1) == scan.Ident && p.Ahead(1, "in") {
		s.Name = p.Text()
		p.Advance()
		if !declared {
			s.Op = code.Assign
		}
		return s
	}
	s.Type = p.typ()
	s.Name = p.Text()
	p.Advance()
	return s
}

// try reads try with its handlers.
func (p *parser) try() []code.Stmt {
	p.Advance()
	out := []code.Stmt{{Op: code.Block, Kind: code.Try}}
	if p.Is("{") {
		out[0].Body = p.block()
	}
	for {
		s := code.Stmt{Op: code.Block, Kind: code.Catch}
		switch {
		case p.Is("on"):
			p.Advance()
			s.Type = p.typ()
			if p.Is("catch") {
				p.caught(&s)
			}
		case p.Is("catch"):
			p.caught(&s)
		case p.Accept("finally"):
			s.Kind = code.Finally
		default:
			return out
		}
		if p.Is("{") {
			s.Body = append(s.Body, p.block()...)
		}
		out = append(out, s)
	}
}

// caught reads the names in the brackets of catch: Name is the error, the trace a Let without a value.
func (p *parser) caught(s *code.Stmt) {
	p.Advance()
	if !p.Is("(") {
		return
	}
	shut := p.Shut()
	p.Advance()
	s.Name = p.Text()
	p.Advance()
	if p.Accept(",") {
		s.Body = append(s.Body, code.Stmt{Op: code.Let, Name: p.Text()})
	}
	p.I = shut + 1
}

// declaration reads variables or a function that a statement declares; ok is false where it declares none.
func (p *parser) declaration() (out []code.Stmt, ok bool) {
	start := p.I
	late := p.Accept("late")
	keyword := p.Accept("final") || p.Accept("var") || p.Accept("const")
	if keyword && (p.Is("(") && !p.recordTypeAhead() || p.Is("[") || p.Is("{") || p.Kind() == scan.Ident && p.Ahead(1, "(")) {
		if pattern := p.declaringPattern(); p.Is("=") {
			p.Advance()
			value := p.expr()
			return []code.Stmt{{Op: code.Let, Value: &code.Expr{Op: code.Match, Args: []*code.Expr{value, pattern}, Pos: pattern.Pos}, Torn: !p.end()}}, true
		}
		p.I = start
		return nil, false
	}
	var t *model.Type
	if !(keyword || late) || !p.nameAhead() {
		t = p.typ()
	}
	if t == nil && !keyword && !late || p.Kind() != scan.Ident || reserved[p.Text()] {
		p.I = start
		return p.localFunction(nil)
	}
	if !keyword && !late && (p.Ahead(1, "(") || p.Ahead(1, "<")) {
		if out, ok := p.localFunction(t); ok {
			return out, true
		}
		p.I = start
		return nil, false
	}
	if !keyword && !late && !p.Ahead(1, "=") && !p.Ahead(1, ";") && !p.Ahead(1, ",") || p.F.Is(p.I+1, "=") && p.F.Is(p.I+2, "=") {
		p.I = start
		return nil, false
	}
	for {
		s := code.Stmt{Op: code.Let, Name: p.Text(), Type: t}
		if late {
			s.Kind = code.Local
		}
		p.Advance()
		if p.Is("=") {
			p.Advance()
			s.Value = p.expr()
		}
		out = append(out, s)
		if !p.Accept(",") || p.Kind() != scan.Ident {
			break
		}
	}
	out[len(out)-1].Torn = !p.end()
	return out, true
}

// nameAhead says whether the name of a variable stands at the cursor, rather than its type.
func (p *parser) nameAhead() bool {
	return p.Kind() == scan.Ident && (p.Ahead(1, "=") || p.Ahead(1, ";") || p.Ahead(1, ",") || p.Ahead(1, "in"))
}

// recordTypeAhead says whether the bracket at the cursor begins the type of a variable.
func (p *parser) recordTypeAhead() bool {
	i := p.Shut() + 1
	if p.F.Is(i, "?") {
		i++
	}
	return p.F.KindAt(i) == scan.Ident
}

// localFunction reads a function that is declared in another one, from its name on.
func (p *parser) localFunction(returns *model.Type) (out []code.Stmt, ok bool) {
	start := p.I
	if p.Kind() != scan.Ident || reserved[p.Text()] || !p.Ahead(1, "(") && !p.Ahead(1, "<") {
		return nil, false
	}
	fn := &code.Func{Name: p.Text(), Returns: returns, File: p.F.Name, Pos: p.Where()}
	generics := p.generics
	defer func() { p.generics = generics }()
	p.Advance()
	if p.Is("<") {
		fn.Generics = p.typeParams()
	}
	if !p.Is("(") || !p.isClosure() {
		p.I = start
		return nil, false
	}
	fn.Params = p.params()
	arrow := p.functionBody(fn)
	if arrow {
		p.Accept(";")
	}
	fn.Body, fn.Unread = fn.Do(), nil
	value := &code.Expr{Op: code.Lambda, Fn: fn, Body: fn.Body, Pos: fn.Pos}
	return []code.Stmt{{Op: code.Let, Kind: code.Local, Name: fn.Name, Value: value}}, true
}

// functionBody reads what a function does, and says whether it was an arrow, whose semicolon is left.
func (p *parser) functionBody(fn *code.Func) (arrow bool) {
	for p.Is("async") || p.Is("sync") || p.Is("*") {
		fn.Later = fn.Later || p.Is("*")
		p.Advance()
	}
	switch {
	case p.Operator("=>"):
		p.I += 2
		fn.Body = []code.Stmt{{Op: code.Return, Value: p.expr()}}
		return true
	case p.F.PassedOver(p.I):
		from, end := p.F.Inner(p.I)
		fn.Unread = &unread{file: p.F, from: from, end: end, generics: slices.Clip(p.generics)}
		p.Jump()
	case p.Is("{"):
		fn.Body = p.block()
	default:
		fn.Native = true
		return true
	}
	return false
}

// params reads parameters from their bracket on.
func (p *parser) params() (out []code.Param) {
	shut := p.Shut()
	if shut == p.I {
		p.Advance()
		return nil
	}
	optional, named := false, false
	for p.Advance(); p.I < shut; {
		start := p.I
		switch {
		case p.Accept(","), p.Accept("]"), p.Accept("}"):
			continue
		case p.Accept("["):
			optional = true
			continue
		case p.Accept("{"):
			optional, named = true, true
			continue
		}
		param := code.Param{Optional: optional}
		for p.Is("@") {
			param.Marks = append(param.Marks, p.mark())
		}
		for p.Is("covariant") && p.KindAhead(1) == scan.Ident || p.Is("final") || p.Is("var") || p.Is("const") || p.Is("required") && p.KindAhead(1) != scan.Punct || p.Is("required") && p.Ahead(1, "(") || p.Is("late") {
			if p.Is("required") {
				param.Optional = false
			}
			p.Advance()
		}
		if !(p.Is("this") || p.Is("super")) && !(p.Kind() == scan.Ident && (p.Ahead(1, ",") || p.Ahead(1, ")") || p.Ahead(1, "=") || p.Ahead(1, ":") || p.Ahead(1, "}") || p.Ahead(1, "]"))) {
			param.Type = p.typ()
		}
		if (p.Is("this") || p.Is("super")) && p.Ahead(1, ".") {
			param.Field, param.Super = p.Is("this"), p.Is("super")
			p.I += 2
		}
		if p.Kind() == scan.Ident {
			param.Name, param.Pos = p.Text(), p.Where()
			p.Advance()
		}
		if p.Is("<") || p.Is("(") { // the old way of a function's type: T parse(Map json)
			if p.Is("<") {
				p.typeParams()
			}
			if p.Is("(") {
				p.Jump()
			}
			param.Type = code.FunctionType(nil, param.Type)
			p.Accept("?")
		}
		if p.Is("=") || p.Is(":") {
			p.Advance()
			param.Default = p.expr()
		}
		if named {
			param.Label = param.Name
		}
		if param.Name != "" {
			out = append(out, param)
		}
		for p.I < shut && !p.Is(",") && !p.Is("]") && !p.Is("}") {
			p.Jump()
		}
		if p.I == start {
			p.Advance()
		}
	}
	p.I = shut + 1
	return out
}
