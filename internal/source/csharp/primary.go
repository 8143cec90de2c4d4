package csharp

import (
	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// primary reads what operators join: a literal, a name, what is in brackets, an object that is made.
func (p *parser) primary() *code.Expr {
	pos := p.Where()
	switch p.Kind() {
	case scan.Number:
		e := &code.Expr{Op: code.Number, Text: p.Text(), Pos: pos}
		p.Advance()
		return e
	case scan.String:
		return p.text()
	case scan.Punct:
		switch {
		case p.Is("("):
			return p.bracketed()
		case p.Is("["):
			return p.collection()
		case p.Is(".") && p.KindAhead(1) == scan.Number: // .5
			p.Advance()
			e := &code.Expr{Op: code.Number, Text: "0." + p.Text(), Pos: pos}
			p.Advance()
			return e
		}
	case scan.Ident:
		switch p.F.Word(p.I) {
		case "new":
			return p.made()
		case "typeof", "sizeof":
			return p.typeOf()
		case "default":
			e := &code.Expr{Op: code.Name, Text: "default", Pos: pos}
			p.Advance()
			if p.Is("(") {
				shut := p.Shut()
				p.Advance()
				e.Type = p.typ()
				p.I = shut + 1
			}
			return e
		case "checked", "unchecked":
			if p.Ahead(1, "(") {
				p.Advance()
				return p.bracketed()
			}
		case "stackalloc":
			p.Advance()
			p.typ()
			if p.Is("{") {
				p.Jump()
			}
			return &code.Expr{Op: code.Other, Pos: pos}
		case "delegate":
			return p.delegate()
		}
		if p.reservedHere() && !predefined[p.Text()] && !p.Is("this") && !p.Is("base") && !p.Is("null") && !p.Is("true") && !p.Is("false") {
			return p.other()
		}
		e := &code.Expr{Op: code.Name, Text: p.Text(), Pos: pos}
		p.Advance()
		return e
	}
	return p.other()
}

// typeOf reads typeof(T): a type as a value.
func (p *parser) typeOf() *code.Expr {
	e := &code.Expr{Op: code.TypeOf, Pos: p.Where()}
	if p.Is("sizeof") {
		e.Op = code.Other
	}
	p.Advance()
	if !p.Is("(") {
		return e
	}
	shut := p.Shut()
	p.Advance()
	e.Text = p.F.Text(p.I, shut)
	if e.Type = p.typ(); e.Type == nil {
		e.Op = code.Other
	}
	p.I = shut + 1
	return e
}

// bracketed reads an expression in brackets, or a tuple.
func (p *parser) bracketed() *code.Expr {
	pos, shut := p.Where(), p.Shut()
	if shut == p.I {
		p.Advance()
		return &code.Expr{Op: code.Other, Pos: pos}
	}
	start := p.I
	p.Advance()
	labelled := p.Kind() == scan.Ident && p.Ahead(1, ":") && !p.Ahead(2, ":")
	var e *code.Expr
	if p.I < shut && !labelled {
		e = p.element()
	}
	if e == nil || p.Is(",") && p.I < shut {
		p.I = start
		return p.record()
	}
	p.I = shut + 1
	inner := *e
	if inner.Op == code.Member || inner.Op == code.Call || inner.Op == code.Index || inner.Op == code.Choice { // what is behind is no part of its chain
		return &code.Expr{Op: code.Choice, Text: "()", Args: []*code.Expr{e}, Pos: pos}
	}
	return &inner
}

// record reads a tuple from its bracket on. What it declares, as in (var a, int b) = pair, is a Bind.
func (p *parser) record() *code.Expr {
	e := &code.Expr{Op: code.Record, Pos: p.Where()}
	shut := p.Shut()
	for p.Advance(); p.I < shut; {
		start, label := p.I, ""
		if p.Kind() == scan.Ident && p.Ahead(1, ":") && !p.Ahead(2, ":") {
			label = p.Text()
			p.I += 2
		}
		e.Args, e.Labels = append(e.Args, p.element()), append(e.Labels, label)
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

// element reads one of a tuple: an expression, or the declaration of a name.
func (p *parser) element() *code.Expr {
	start, pos := p.I, p.Where()
	if p.Kind() == scan.Ident {
		if t := p.typ(); t != nil && p.Kind() == scan.Ident && !p.reservedHere() && (p.Ahead(1, ",") || p.Ahead(1, ")")) {
			e := &code.Expr{Op: code.Bind, Text: p.Text(), Type: t, Pos: pos}
			if t.Name == "var" {
				e.Type = nil
			}
			p.Advance()
			return e
		}
		p.I = start
	}
	return p.expr()
}

// collection reads the elements of a collection expression: [a, ..b].
func (p *parser) collection() *code.Expr {
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
			e.Args = append(e.Args, &code.Expr{Op: code.Spread, Args: []*code.Expr{p.expr()}, Pos: pos})
		} else {
			e.Args = append(e.Args, p.expr())
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

// made reads an object that is made: of a class that is named or wanted, an array, or without a class.
func (p *parser) made() *code.Expr {
	pos := p.Where()
	p.Advance()
	switch {
	case p.Is("("): // of the class that is wanted
		e := p.call(&code.Expr{Op: code.Name, Text: "new", Pos: pos}, nil)
		return p.filled(e)
	case p.Is("{"):
		return p.anonymous(pos)
	case p.Is("["): // new[] { … }
		p.Jump()
		e := &code.Expr{Op: code.List, Pos: pos}
		p.elements(e)
		return e
	}
	named := p.Where()
	t := p.typeUpTo(false)
	if t == nil {
		return &code.Expr{Op: code.Other, Pos: pos}
	}
	if p.Is("?") && p.Ahead(1, "[") { // new int?[3]
		p.Advance()
		t = model.OptionalOf(t)
	}
	if p.Is("[") {
		e := &code.Expr{Op: code.List, Type: t, Pos: pos}
		for p.Is("[") {
			p.Jump()
		}
		p.elements(e)
		return e
	}
	e := &code.Expr{Op: code.Call, Args: []*code.Expr{{Op: code.Name, Text: makerName(t), Types: t.Args, Pos: named}}, Types: t.Args, Type: t, Pos: named}
	if p.Is("(") {
		args, labels := p.arguments()
		e.Args, e.Labels = append(e.Args, args...), labels
	}
	return p.filled(e)
}

// elements reads those of an array in braces.
func (p *parser) elements(e *code.Expr) {
	if !p.Is("{") {
		return
	}
	shut := p.Shut()
	for p.Advance(); p.I < shut; {
		start := p.I
		if p.Is("{") {
			inner := &code.Expr{Op: code.List, Pos: p.Where()}
			p.elements(inner)
			e.Args = append(e.Args, inner)
		} else {
			e.Args = append(e.Args, p.expr())
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
}

// filled reads the braces behind an object that is made, if there are any.
func (p *parser) filled(e *code.Expr) *code.Expr {
	if !p.Is("{") {
		return e
	}
	c := &code.Expr{Op: code.Cascade, Args: []*code.Expr{e}, Pos: e.Pos}
	p.initialiser(c)
	return c
}

// initialiser reads what members of an object are given in braces, and what is added to it, as the sections of a
// cascade.
func (p *parser) initialiser(c *code.Expr) {
	shut := p.Shut()
	if shut == p.I {
		p.Advance()
		return
	}
	for p.Advance(); p.I < shut; {
		start, pos := p.I, p.Where()
		it := &code.Expr{Op: code.It, Pos: pos}
		switch {
		case p.Kind() == scan.Ident && p.Ahead(1, "=") && !p.F.Is(p.I+2, "=") && !(p.F.Is(p.I+2, ">") && !p.At(2).Space), p.Is("[") && p.F.Is(p.Shut()+1, "="):
			var target *code.Expr
			if p.Is("[") {
				target = p.index(it)
			} else {
				target = p.member(it)
			}
			p.Accept("=")
			if p.Is("{") { // into what is there already
				inner := &code.Expr{Op: code.Cascade, Args: []*code.Expr{target}, Pos: pos}
				p.initialiser(inner)
				c.Args = append(c.Args, inner)
			} else {
				c.Args = append(c.Args, &code.Expr{Op: code.Set, Text: "=", Args: []*code.Expr{target, p.expr()}, Pos: pos})
			}
		default:
			add := &code.Expr{Op: code.Call, Args: []*code.Expr{{Op: code.Member, Text: "Add", Args: []*code.Expr{it}, Pos: pos}}, Pos: pos}
			if p.Is("{") {
				several := &code.Expr{}
				p.elements(several)
				add.Args = append(add.Args, several.Args...)
			} else {
				add.Args = append(add.Args, p.expr())
			}
			add.Labels = make([]string, len(add.Args)-1)
			c.Args = append(c.Args, add)
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
}

// anonymous reads new { a, B = c }.
func (p *parser) anonymous(pos model.Pos) *code.Expr {
	e := &code.Expr{Op: code.Record, Text: "new", Pos: pos}
	shut := p.Shut()
	for p.Advance(); p.I < shut; {
		start, label := p.I, ""
		if p.Kind() == scan.Ident && p.Ahead(1, "=") && !p.F.Is(p.I+2, "=") {
			label = p.Text()
			p.I += 2
		}
		v := p.expr()
		if label == "" {
			label = v.Text
		}
		e.Args, e.Labels = append(e.Args, v), append(e.Labels, label)
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

// lambdaAhead says whether a lambda begins at the cursor.
func (p *parser) lambdaAhead() bool {
	if p.Kind() == scan.Punct && !p.Is("(") && !p.Is("[") {
		return false
	}
	i := p.I
	for p.F.Is(i, "async") && !p.F.Is(i+1, "=") || p.F.Is(i, "static") {
		i++
	}
	if p.F.Is(i, "[") { // attributes of a lambda
		shut := p.F.Partner(i)
		if shut < 0 || !p.F.Is(shut+1, "(") {
			return false
		}
		i = shut + 1
	}
	if p.F.Is(i, "(") {
		shut := p.F.Partner(i)
		return shut > 0 && p.F.Is(shut+1, "=") && p.F.Is(shut+2, ">") && !p.F.TokenAt(shut+2).Space
	}
	return p.F.KindAt(i) == scan.Ident && p.F.Is(i+1, "=") && p.F.Is(i+2, ">") && !p.F.TokenAt(i+2).Space
}

// lambda reads one from its parameters on.
func (p *parser) lambda() *code.Expr {
	pos := p.Where()
	for p.Is("async") && !p.Ahead(1, "=") || p.Is("static") {
		p.Advance()
	}
	for p.Is("[") {
		p.Jump()
	}
	fn := &code.Func{File: p.F.Name, Pos: pos}
	if p.Is("(") {
		fn.Params = p.params(true)
	} else {
		fn.Params = []code.Param{{Name: p.Text(), Pos: p.Where()}}
		p.Advance()
	}
	p.I += 2 // =>
	if p.Is("{") {
		fn.Body = p.block()
	} else {
		e := p.expr()
		fn.Body = []code.Stmt{{Op: code.Return, Value: e}}
	}
	return lambdaOf(fn)
}

// delegate reads a function without a name as it was written before lambdas.
func (p *parser) delegate() *code.Expr {
	fn := &code.Func{File: p.F.Name, Pos: p.Where()}
	p.Advance()
	if p.Is("(") {
		fn.Params = p.params(false)
	}
	if p.Is("{") {
		fn.Body = p.block()
	}
	return lambdaOf(fn)
}

func lambdaOf(fn *code.Func) *code.Expr {
	e := &code.Expr{Op: code.Lambda, Fn: fn, Body: fn.Body, Pos: fn.Pos}
	for _, param := range fn.Params {
		e.Labels, e.Types = append(e.Labels, param.Name), append(e.Types, param.Type)
	}
	return e
}
