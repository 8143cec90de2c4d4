package typescript

import (
	"strings"

	"vetta/internal/code"
)

// expression reads an expression, commas among them: the last one is its value.
func (p *parser) expression() *code.Expr {
	e := p.assignment()
	for p.eat(",") {
		e = &code.Expr{Op: code.Other, Args: []*code.Expr{e, p.assignment()}}
	}
	return e
}

var assigns = map[string]bool{"=": true, "+=": true, "-=": true, "*=": true, "/=": true, "%=": true, "**=": true, "<<=": true, "&=": true, "|=": true, "^=": true, "&&=": true, "||=": true, "??=": true}

// assignment reads an expression without commas.
func (p *parser) assignment() *code.Expr {
	start := p.tok().start
	if p.deep() {
		p.up()
		p.skip()
		return &code.Expr{Op: code.Other}
	}
	defer p.up()
	done := func(e *code.Expr) *code.Expr {
		e.From, e.To = start, p.end()
		return e
	}
	if e := p.arrow(); e != nil {
		return done(e)
	}
	if p.is("yield") && p.tok().kind == ident {
		p.next()
		p.eat("*")
		if p.startsOperand() {
			return done(&code.Expr{Op: code.Other, Args: []*code.Expr{p.assignment()}})
		}
		return done(&code.Expr{Op: code.Other})
	}
	e := p.binary(0)
	switch {
	case p.is("?"):
		p.next()
		yes := p.assignment()
		p.want(":")
		no := p.assignment()
		e = &code.Expr{Op: code.Choice, Args: []*code.Expr{yes, no}, Body: []code.Stmt{{Op: code.Do, Value: e}}}
	case p.tok().kind == punct && assigns[p.tok().val]:
		op := p.next().val
		e = &code.Expr{Op: code.Set, Text: op, Args: []*code.Expr{e, p.assignment()}}
	}
	return done(e)
}

// startsOperand says whether the next token may begin an expression.
func (p *parser) startsOperand() bool {
	t := p.tok()
	if t.kind == eof || t.line {
		return false
	}
	return t.kind != punct || t.val == "(" || t.val == "[" || t.val == "{" || t.val == "!" || t.val == "-" || t.val == "+" || t.val == "~"
}

// strengths of operators, the weakest first.
var strengths = map[string]int{
	"??": 1, "||": 2, "&&": 3, "|": 4, "^": 5, "&": 6, "==": 7, "!=": 7, "===": 7, "!==": 7,
	"<": 8, ">": 8, "<=": 8, "in": 8, "instanceof": 8, "<<": 9, "+": 10, "-": 10, "*": 11, "/": 11, "%": 11, "**": 12,
}

func (p *parser) binary(least int) *code.Expr {
	start := p.tok().start
	e := p.unary()
	for {
		t := p.tok()
		if t.kind == ident && !t.line && (t.val == "as" || t.val == "satisfies") {
			p.next()
			to := &code.Expr{Op: code.As, Text: t.val, Args: []*code.Expr{e}, From: start}
			if p.is("const") {
				p.next()
				to.Text = "const"
			} else {
				n := p.typ()
				to.Type, to.Text = p.late(n), p.written(n)
				if t.val == "satisfies" {
					to.Does = code.Effects(0).With(code.Upcast)
				}
			}
			to.To = p.end()
			e = to
			continue
		}
		strength := strengths[t.val]
		if strength == 0 || t.kind != punct && t.val != "in" && t.val != "instanceof" || strength <= least || t.val == "in" && p.noIn {
			return e
		}
		op := p.next().val
		if op == ">" { // >, >=, >>, >>>
			for p.is(">") && p.tok().start == p.end() {
				p.next()
				op += ">"
			}
			if p.is("=") && p.tok().start == p.end() {
				p.next()
				op += "="
			}
		}
		right := p.binary(strength)
		kind := code.Binary
		switch op {
		case "+":
			kind = code.Plus
		case "??", "||":
			kind = code.Choice
		}
		e = &code.Expr{Op: kind, Text: op, Args: []*code.Expr{e, right}, From: start, To: p.end()}
	}
}

func (p *parser) unary() *code.Expr {
	t := p.tok()
	start := t.start
	if t.kind == punct {
		switch t.val {
		case "!", "-", "+", "~", "++", "--":
			p.next()
			if p.deep() {
				p.up()
				return &code.Expr{Op: code.Other}
			}
			v := p.unary()
			p.up()
			if t.val == "-" && v.Op == code.Number {
				return &code.Expr{Op: code.Number, Text: "-" + v.Text, From: start, To: p.end()}
			}
			return &code.Expr{Op: code.Unary, Text: t.val, Args: []*code.Expr{v}, From: start, To: p.end()}
		case "<": // <T>value
			if e, ok := try(p, func() *code.Expr {
				p.next()
				n := p.typ()
				p.want(">")
				if p.bad {
					return nil
				}
				return &code.Expr{Op: code.As, Type: p.late(n), Text: p.written(n), Args: []*code.Expr{p.unary()}, From: start, To: p.end()}
			}); ok {
				return e
			}
		}
	}
	if t.kind == ident && !p.namesValue() {
		switch t.val {
		case "await":
			p.next()
			return p.unary()
		case "typeof", "void", "delete":
			p.next()
			return &code.Expr{Op: code.Unary, Text: t.val, Args: []*code.Expr{p.unary()}, From: start, To: p.end()}
		}
	}
	e := p.operand()
	for (p.is("++") || p.is("--")) && !p.tok().line {
		p.next()
	}
	return e
}

// namesValue says whether a word that may be an operator is a name here.
func (p *parser) namesValue() bool {
	t := p.peek(1)
	return t.kind == eof || t.kind == punct && t.val != "(" && t.val != "[" && t.val != "{" && t.val != "!" && t.val != "-" && t.val != "+" && t.val != "<" && t.val != "~"
}

// operand reads what stands between operators: a value with all that is asked of it.
func (p *parser) operand() *code.Expr {
	start := p.tok().start
	e := p.value()
	for {
		t := p.tok()
		switch {
		case t.is(".") || t.is("?."):
			if p.next(); t.val == "?." {
				e.Does = e.Does.With(code.Chained)
			}
			switch {
			case t.val == "?." && p.is("("):
				e = p.call(e, nil)
			case t.val == "?." && p.is("["):
				continue
			case p.tok().kind == ident:
				name := p.next()
				e = &code.Expr{Op: code.Member, Text: name.val, Args: []*code.Expr{e}, Pos: p.pos(name)}
			case t.val == "?." && p.is("<"):
			default:
				p.bad = true
				return e
			}
		case t.is("!") && !t.line:
			p.next()
		case t.is("["):
			p.next()
			by := p.expression()
			p.want("]")
			if by.Op == code.Text && len(by.Args) == 0 {
				e = &code.Expr{Op: code.Member, Text: by.Text, Args: []*code.Expr{e}}
			} else {
				e = &code.Expr{Op: code.Index, Args: []*code.Expr{e, by}}
			}
		case t.is("("):
			e = p.call(e, nil)
		case t.is("<"):
			args, ok := try(p, func() []*node {
				all := p.typeArgs()
				if n := p.tok(); !p.bad && !(n.is("(") || n.kind == quasi || n.is(")") || n.is("]") || n.is(",") || n.is(";") || n.is(".") || n.is("?.") || n.is("}") || n.kind == eof || n.line) {
					p.bad = true
				}
				return all
			})
			if !ok {
				return e
			}
			switch {
			case p.is("("):
				e = p.call(e, args)
			case p.tok().kind == quasi:
				e = p.tagged(e, args)
			}
		case t.kind == quasi:
			e = p.tagged(e, nil)
		default:
			return e
		}
		e.From, e.To = start, p.end()
	}
}

func (p *parser) tagged(e *code.Expr, args []*node) *code.Expr {
	call := &code.Expr{Op: code.Call, Args: []*code.Expr{e, p.templateText(p.next())}, Labels: []string{""}, Pos: e.Pos}
	for _, n := range args {
		call.Types = append(call.Types, p.late(n))
	}
	return call
}

// call reads the arguments of one.
func (p *parser) call(of *code.Expr, types []*node) *code.Expr {
	e := &code.Expr{Op: code.Call, Args: []*code.Expr{of}, Pos: of.Pos}
	if e.Pos.IsZero() {
		e.Pos = p.pos(p.tok())
	}
	for _, n := range types {
		e.Types = append(e.Types, p.late(n))
	}
	p.want("(")
	p.arguments(e)
	return e
}

func (p *parser) arguments(e *code.Expr) {
	for !p.is(")") && p.tok().kind != eof {
		from := p.i
		if p.eat("...") {
			e.Args = append(e.Args, &code.Expr{Op: code.Spread, Args: []*code.Expr{p.assignment()}})
		} else {
			e.Args = append(e.Args, p.assignment())
		}
		e.Labels = append(e.Labels, "")
		if !p.eat(",") && p.i == from {
			p.skip()
		}
	}
	p.want(")")
}

// templateText is a template as a text.
func (p *parser) templateText(t *token) *code.Expr {
	e := &code.Expr{Op: code.Text, Text: strings.Join(t.parts, "{}"), From: t.start, To: t.end, Pos: p.pos(t)}
	for _, hole := range t.holes {
		e.Args = append(e.Args, p.sub(hole).expression())
	}
	return e
}

// value reads a name, a literal, a function, or what stands in brackets.
func (p *parser) value() *code.Expr {
	t := p.tok()
	start := t.start
	done := func(e *code.Expr) *code.Expr {
		e.From, e.To = start, p.end()
		return e
	}
	switch t.kind {
	case text:
		p.next()
		return done(&code.Expr{Op: code.Text, Text: t.val, Const: true, Pos: p.pos(t)})
	case quasi:
		p.next()
		return done(p.templateText(t))
	case number:
		p.next()
		return done(&code.Expr{Op: code.Number, Text: t.val})
	case regex:
		p.next()
		return done(&code.Expr{Op: code.Other, Text: "RegExp", Labels: []string{t.val}})
	case markup:
		p.next()
		e := &code.Expr{Op: code.Other}
		for _, hole := range t.holes {
			e.Args = append(e.Args, p.sub(hole).expression())
		}
		return done(e)
	case punct:
		switch t.val {
		case "(":
			p.next()
			outer := p.noIn
			p.noIn = false
			e := p.expression()
			p.noIn = outer
			p.want(")")
			if said := p.docBefore(start, "type"); said != nil { // /** @type {Port} */ (value)
				return done(&code.Expr{Op: code.As, Type: p.late(said), Text: p.written(said), Args: []*code.Expr{e}})
			}
			return e
		case "[":
			p.next()
			e := &code.Expr{Op: code.List}
			for !p.is("]") && p.tok().kind != eof {
				from := p.i
				if p.eat("...") {
					e.Args = append(e.Args, &code.Expr{Op: code.Spread, Args: []*code.Expr{p.assignment()}})
				} else if !p.is(",") {
					e.Args = append(e.Args, p.assignment())
				}
				if !p.eat(",") && p.i == from {
					p.skip()
				}
			}
			p.want("]")
			return done(e)
		case "{":
			return done(p.object())
		}
	case ident:
		switch t.val {
		case "function":
			return done(p.functionValue())
		case "async":
			if p.peek(1).is("function") && !p.peek(1).line {
				p.next()
				return done(p.functionValue())
			}
		case "class":
			p.next()
			p.classDecl(&decl{what: isClass, start: start, unit: p.u, in: newScope(p.scope, p.u)})
			return done(&code.Expr{Op: code.Other})
		case "new":
			p.next()
			if p.eat(".") { // new.target
				p.next()
				return done(&code.Expr{Op: code.Other})
			}
			of := p.value()
			for p.is(".") {
				p.next()
				name := p.next()
				of = &code.Expr{Op: code.Member, Text: name.val, Args: []*code.Expr{of}, Pos: p.pos(name)}
			}
			var types []*node
			if p.is("<") {
				types, _ = try(p, p.typeArgs)
			}
			if p.is("(") {
				e := p.call(of, types)
				e.Const = true // an instance
				return done(e)
			}
			return done(&code.Expr{Op: code.Call, Args: []*code.Expr{of}, Pos: of.Pos, Const: true})
		case "import":
			p.next()
			return done(&code.Expr{Op: code.Name, Text: "import", Pos: p.pos(t)})
		}
		p.next()
		return done(&code.Expr{Op: code.Name, Text: t.val, Pos: p.pos(t)})
	}
	p.bad = true
	if !p.is(")") && !p.is("]") && !p.is("}") && !p.is(";") && !p.is(",") {
		p.next()
	}
	return done(&code.Expr{Op: code.Other})
}

// object reads an object literal.
func (p *parser) object() *code.Expr {
	e := &code.Expr{Op: code.Dict}
	p.want("{")
	for !p.is("}") && p.tok().kind != eof {
		from := p.i
		if p.eat("...") {
			e.Args = append(e.Args, &code.Expr{Op: code.Spread}, &code.Expr{Op: code.Spread, Args: []*code.Expr{p.assignment()}})
		} else {
			p.entry(e)
		}
		if !p.eat(",") {
			if p.i == from {
				p.skip()
			}
		}
	}
	p.want("}")
	return e
}

// entry reads one key of an object literal with what it is given.
func (p *parser) entry(e *code.Expr) {
	for (p.is("async") || p.is("get") || p.is("set") || p.is("*")) && !p.namesMember(p.peek(1)) {
		p.next()
	}
	t := p.tok()
	m := &member{}
	if !p.memberName(m) {
		p.bad = true
		p.skip()
		return
	}
	key := &code.Expr{Op: code.Text, Text: m.name, Const: true, Pos: p.pos(t), From: t.start, To: t.end}
	if m.computed != nil {
		key = m.computed
	}
	switch {
	case p.is("(") || p.is("<"):
		fn := &code.Func{Name: m.name, File: p.u.file, Pos: p.pos(t)}
		p.signed(fn)
		e.Args = append(e.Args, key, lambda(fn))
	case p.eat(":"):
		e.Args = append(e.Args, key, p.assignment())
	default:
		v := &code.Expr{Op: code.Name, Text: m.name, Pos: p.pos(t), From: t.start, To: t.end}
		if p.eat("=") {
			p.assignment()
		}
		e.Args = append(e.Args, key, v)
	}
}
