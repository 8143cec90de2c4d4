package typescript

import (
	"strconv"

	"vetta/internal/code"
)

// block reads statements in braces.
func (p *parser) block() []code.Stmt {
	outer := p.scope
	p.scope = newScope(outer, p.u)
	p.want("{")
	all := p.statements()
	p.want("}")
	p.scope = outer
	return all
}

func (p *parser) statements() (all []code.Stmt) {
	if p.deep() {
		p.up()
		for !p.is("}") && p.tok().kind != eof {
			p.skip()
		}
		return nil
	}
	defer p.up()
	for !p.is("}") && p.tok().kind != eof {
		from := p.i
		bad := p.bad
		all = append(all, p.statement()...)
		p.bad = bad // what one could not be read as does not make others unreadable
		if p.i == from {
			p.skip()
		}
	}
	return all
}

// statement reads one; those that declare types are kept in the scope.
func (p *parser) statement() []code.Stmt {
	t := p.tok()
	if p.declaration() {
		return nil
	}
	if t.kind == punct {
		switch t.val {
		case ";":
			p.next()
			return nil
		case "{":
			return []code.Stmt{{Op: code.Block, Body: p.block()}}
		}
	}
	if t.kind == ident && !(p.peek(1).is(":") && !p.peek(1).line) && !p.peek(1).is("=") && !p.peek(1).is(".") {
		switch t.val {
		case "const", "let", "var", "using":
			if t.val != "let" && t.val != "using" || p.peek(1).kind == ident || p.peek(1).is("{") || p.peek(1).is("[") {
				return p.variables()
			}
		case "return", "throw":
			p.next()
			st := code.Stmt{Op: code.Return}
			if t.val == "throw" {
				st = code.Stmt{Op: code.Do, Kind: code.Throw}
			}
			if n := p.tok(); !n.line && !n.is(";") && !n.is("}") {
				st.Value = p.expression()
			}
			p.eat(";")
			return []code.Stmt{st}
		case "if":
			p.next()
			st := code.Stmt{Op: code.Block, Kind: code.If, Value: p.condition(), Body: p.body()}
			all := []code.Stmt{st}
			if p.eat("else") {
				all = append(all, code.Stmt{Op: code.Block, Kind: code.Else, Body: p.body()})
			}
			return all
		case "for":
			return p.loop()
		case "while":
			p.next()
			return []code.Stmt{{Op: code.Block, Kind: code.While, Value: p.condition(), Body: p.body()}}
		case "do":
			p.next()
			body := p.body()
			p.eat("while")
			return []code.Stmt{{Op: code.Block, Kind: code.Repeat, Body: body, Value: p.condition()}}
		case "switch":
			return p.choice()
		case "try":
			p.next()
			all := []code.Stmt{{Op: code.Block, Kind: code.Try, Body: p.block()}}
			if p.eat("catch") {
				if p.is("(") {
					p.skip()
				}
				all = append(all, code.Stmt{Op: code.Block, Kind: code.Catch, Body: p.block()})
			}
			if p.eat("finally") {
				all = append(all, code.Stmt{Op: code.Block, Kind: code.Finally, Body: p.block()})
			}
			return all
		case "break", "continue", "debugger":
			p.next()
			if p.tok().kind == ident && !p.tok().line {
				p.next()
			}
			p.eat(";")
			return nil
		case "function":
			return p.localFunction()
		case "async":
			if p.peek(1).is("function") && !p.peek(1).line {
				return p.localFunction()
			}
		}
	} else if t.kind == ident && p.peek(1).is(":") { // a label
		p.next()
		p.next()
		return nil
	}
	e := p.expression()
	p.eat(";")
	return []code.Stmt{{Op: code.Do, Value: e, From: e.From, To: e.To}}
}

// localFunction reads a function inside of another, which gives its name that value; one of the file is kept there.
func (p *parser) localFunction() []code.Stmt {
	if p.scope == p.u.scope {
		p.function(true)
		return nil
	}
	fn := p.function(false)
	return []code.Stmt{{Op: code.Let, Kind: code.Local, Name: fn.Name, Value: lambda(fn)}}
}

func (p *parser) condition() *code.Expr {
	p.want("(")
	e := p.expression()
	p.want(")")
	return e
}

func (p *parser) body() []code.Stmt {
	if p.is("{") {
		return p.block()
	}
	return p.statement()
}

func (p *parser) loop() []code.Stmt {
	p.next()
	p.eat("await")
	end := p.closing(p.i)
	st := code.Stmt{Op: code.Block, Kind: code.For}
	var each code.Stmt
	var parts []code.Stmt
	p.want("(")
	p.noIn = true
	if p.is("const") || p.is("let") || p.is("var") {
		p.next()
		each.Name, parts = p.pattern()
		if p.eat(":") {
			each.Type = p.late(p.typ())
		}
		if p.eat("=") {
			st.Value = p.expression()
		}
	} else if !p.is(";") {
		st.Value = p.expression()
	}
	p.noIn = false
	var through []code.Stmt // the list has a name that no code can write, and each element is one of it
	if of := p.is("of"); of || p.is("in") {
		from := p.next().start
		st.Value = p.expression()
		if of && each.Name != "" {
			list := &code.Expr{Op: code.Name, Text: "{" + strconv.Itoa(int(from)) + "}"}
			through = []code.Stmt{{Op: code.Let, Name: list.Text, Value: st.Value}}
			st.Value = nil
			each.Op, each.Value = code.Let, &code.Expr{Op: code.Index, Args: []*code.Expr{list}}
			parts = append([]code.Stmt{each}, parts...)
		} else {
			parts = nil
		}
	}
	p.i = max(p.i, end)
	p.want(")")
	st.Body = append(parts, p.body()...)
	return append(through, st)
}

func (p *parser) choice() []code.Stmt {
	p.next()
	st := code.Stmt{Op: code.Block, Kind: code.Switch, Value: p.condition()}
	p.want("{")
	for !p.is("}") && p.tok().kind != eof {
		from := p.i
		one := code.Stmt{Op: code.Block, Kind: code.Case}
		if p.eat("default") {
		} else if p.eat("case") {
			one.Value = p.expression()
		} else {
			p.skip()
			continue
		}
		p.want(":")
		for !p.is("case") && !p.is("default") && !p.is("}") && p.tok().kind != eof {
			at := p.i
			one.Body = append(one.Body, p.statement()...)
			if p.i == at {
				p.skip()
			}
		}
		st.Body = append(st.Body, one)
		if p.i == from {
			p.skip()
		}
	}
	p.want("}")
	return []code.Stmt{st}
}

// pattern reads what is given a value: a name, or what takes it apart. It answers the name, one that no code can write
// where there is none, and what is taken out of the value.
func (p *parser) pattern() (name string, parts []code.Stmt) {
	t := p.tok()
	if t.kind == ident {
		return p.next().val, nil
	}
	if !p.is("{") && !p.is("[") {
		p.bad = true
		return "", nil
	}
	name = "{" + strconv.Itoa(int(t.start)) + "}"
	end := p.closing(p.i)
	p.takeApart(&code.Expr{Op: code.Name, Text: name, Pos: p.pos(t)}, &parts)
	p.i = max(p.i, end)
	p.next()
	return name, parts
}

// takeApart reads the names in a pattern, and what of a value each is given.
func (p *parser) takeApart(of *code.Expr, parts *[]code.Stmt) {
	if p.deep() {
		p.up()
		return
	}
	defer p.up()
	inList := p.next().is("[")
	for i := 0; !p.is("}") && !p.is("]") && p.tok().kind != eof; i++ {
		if t := p.tok(); p.eat("...") { // the rest: of an object it is asked as the whole would be, of a list it begins elsewhere
			rest := of
			if inList {
				rest = &code.Expr{Op: code.Other, Args: []*code.Expr{of}, Pos: p.pos(t)}
			}
			if p.tok().kind == ident {
				*parts = append(*parts, code.Stmt{Op: code.Let, Name: p.next().val, Value: rest, From: t.start, To: p.end()})
			}
			return
		}
		if p.eat(",") { // an element that is left out
			continue
		}
		key := p.tok()
		part := &code.Expr{Op: code.Index, Args: []*code.Expr{of, {Op: code.Number, Text: strconv.Itoa(i)}}, Pos: p.pos(key)}
		if !inList {
			if key.kind != ident && key.kind != text {
				return
			}
			p.next()
			part = &code.Expr{Op: code.Member, Text: key.val, Args: []*code.Expr{of}, Pos: p.pos(key)}
		}
		name := key.val
		if inList || p.eat(":") {
			switch t := p.tok(); {
			case t.kind == ident:
				name = p.next().val
			case p.is("{") || p.is("["):
				end := p.closing(p.i)
				p.takeApart(part, parts)
				p.i = max(p.i, end)
				p.next()
				name = ""
			default:
				return
			}
		}
		if p.eat("=") {
			part = &code.Expr{Op: code.Choice, Text: "??", Args: []*code.Expr{part, p.assignment()}}
		}
		if name != "" {
			*parts = append(*parts, code.Stmt{Op: code.Let, Name: name, Value: part, From: key.start, To: p.end()})
		}
		if !p.eat(",") {
			return
		}
	}
}

// variables reads a declaration of some.
func (p *parser) variables() (all []code.Stmt) {
	start := p.tok().start
	p.next()
	for {
		st := code.Stmt{Op: code.Let, From: p.tok().start}
		var parts []code.Stmt
		st.Name, parts = p.pattern()
		p.eat("!")
		if p.eat(":") {
			st.Type = p.late(p.typ())
		}
		if said := p.docBefore(start, "type"); said != nil && st.Type == nil {
			st.Type = p.late(said)
		}
		if p.eat("=") {
			st.Value = p.assignment()
		}
		st.To = p.end()
		all = append(append(all, st), parts...)
		if !p.eat(",") {
			break
		}
	}
	p.eat(";")
	return all
}
