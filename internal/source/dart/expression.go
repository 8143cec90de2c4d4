package dart

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// maxDepth is how deep code may lie in other code: what is deeper nobody has written.
const maxDepth = 150

// parser walks the tokens of one file, or of a value in a string.
type parser struct {
	scan.Cursor
	at       *model.Pos // where all of it stands, nil where the tokens tell
	generics []string   // type parameters in scope
	depth    int
	unit     *code.Unit
}

// Where is the position of the token at the cursor.
func (p *parser) Where() model.Pos {
	if p.at != nil {
		return *p.at
	}
	return p.Cursor.Where()
}

// reserved are the words that are no names ("Reserved words" in the specification).
var reserved = map[string]bool{
	"assert": true, "break": true, "case": true, "catch": true, "class": true, "const": true, "continue": true, "default": true, "do": true,
	"else": true, "enum": true, "extends": true, "false": true, "final": true, "finally": true, "for": true, "if": true, "in": true, "is": true,
	"new": true, "null": true, "rethrow": true, "return": true, "super": true, "switch": true, "this": true, "throw": true, "true": true,
	"try": true, "var": true, "while": true, "with": true,
}

func (p *parser) other() *code.Expr { return &code.Expr{Op: code.Other, Pos: p.Where()} }

// expr reads an expression, an assignment or a throw among them.
func (p *parser) expr() *code.Expr {
	if p.depth++; p.depth > maxDepth {
		p.depth--
		e := p.other()
		p.Jump()
		return e
	}
	defer func() { p.depth-- }()
	pos := p.Where()
	switch {
	case p.Accept("throw"):
		e := p.expr()
		thrown := *e
		thrown.Does = thrown.Does.With(code.Thrown)
		return &thrown
	case p.Accept("rethrow"):
		return &code.Expr{Op: code.Name, Text: "rethrow", Does: code.Effects(0).With(code.Thrown), Pos: pos}
	}
	e := p.conditional()
	if op := p.assignment(); op != "" {
		for range op {
			p.Advance()
		}
		return &code.Expr{Op: code.Set, Text: op, Args: []*code.Expr{e, p.expr()}, Pos: pos}
	}
	for p.Operator("..") || p.Operator("?..") {
		e = p.cascade(e)
	}
	return e
}

// assignment is the operator of an assignment at the cursor, "" for none.
func (p *parser) assignment() string {
	if p.Kind() != scan.Punct || strings.IndexByte("=>?<~+-*/%&|^", p.F.ByteAt(p.I)) < 0 {
		return ""
	}
	for _, op := range []string{">>>=", "??=", "<<=", ">>=", "~/=", "+=", "-=", "*=", "/=", "%=", "&=", "|=", "^="} {
		if p.Operator(op) {
			return op
		}
	}
	if p.Is("=") && !p.Operator("==") && !p.Operator("=>") {
		return "="
	}
	return ""
}

// conditional reads c ? a : b.
func (p *parser) conditional() *code.Expr {
	pos := p.Where()
	c := p.binary(0)
	if !p.Is("?") || p.Operator("??") || p.Operator("?.") {
		return c
	}
	start := p.I
	p.Advance()
	yes := p.branch()
	if !p.Accept(":") {
		p.I = start
		return c
	}
	no := p.branch()
	return &code.Expr{Op: code.Choice, Args: []*code.Expr{yes, no}, Body: []code.Stmt{{Op: code.Do, Value: c}}, Pos: pos}
}

// branch reads an expression without a cascade of its own.
func (p *parser) branch() *code.Expr {
	if p.depth++; p.depth > maxDepth {
		p.depth--
		p.Jump()
		return p.other()
	}
	defer func() { p.depth-- }()
	if p.Is("throw") || p.Is("rethrow") {
		return p.expr()
	}
	e := p.conditional()
	if op := p.assignment(); op != "" {
		pos := p.Where()
		for range op {
			p.Advance()
		}
		return &code.Expr{Op: code.Set, Text: op, Args: []*code.Expr{e, p.branch()}, Pos: pos}
	}
	return e
}

// levels are the binary operators, those that bind least first; of one level the longer first.
var levels = [][]string{
	{"??"}, {"||"}, {"&&"}, {"==", "!="}, {"is", "as", "<=", ">=", "<", ">"}, {"|"}, {"^"}, {"&"}, {"<<", ">>>", ">>"}, {"+", "-"}, {"*", "~/", "/", "%"},
}

// binary reads what operators of a level, and of those that bind more, join.
func (p *parser) binary(level int) *code.Expr {
	pos := p.Where()
	left := p.unary()
	for {
		op, of := p.operator()
		if op == "" || of < level {
			return left
		}
		switch op {
		case "is":
			p.Advance()
			not := p.Accept("!")
			left = &code.Expr{Op: code.Is, Args: []*code.Expr{left}, Type: p.typeTested(), Pos: pos}
			if not {
				left = &code.Expr{Op: code.Unary, Text: "!", Args: []*code.Expr{left}, Pos: pos}
			}
			continue
		case "as":
			p.Advance()
			left = &code.Expr{Op: code.As, Does: code.Effects(0).With(code.Forced), Args: []*code.Expr{left}, Type: p.typeTested(), Pos: pos}
			if left.Type != nil {
				left.Text = left.Type.Written()
			}
			continue
		}
		for range op {
			p.Advance()
		}
		right := p.binary(of + 1)
		switch op {
		case "??":
			left = &code.Expr{Op: code.Choice, Args: []*code.Expr{left, right}, Pos: pos}
		case "+":
			left = &code.Expr{Op: code.Plus, Text: "+", Args: []*code.Expr{left, right}, Pos: pos}
		default:
			left = &code.Expr{Op: code.Binary, Text: op, Args: []*code.Expr{left, right}, Pos: pos}
		}
	}
}

// typeTested reads the type behind is and as. A question mark belongs to it unless a condition's branch follows.
func (p *parser) typeTested() *model.Type {
	t := p.typ()
	if t == nil || t.Kind != model.Optional || !p.beginsExpr() {
		return t
	}
	start := p.I // x is int ? a : b
	p.branch()
	colon := p.Is(":")
	p.I = start
	if colon {
		p.I--
		return t.Args[0]
	}
	return t
}

// beginsExpr says whether an expression may begin at the cursor.
func (p *parser) beginsExpr() bool {
	switch p.Kind() {
	case scan.Number, scan.String:
		return true
	case scan.Ident:
		return !reserved[p.Text()] || p.Is("null") || p.Is("true") || p.Is("false") || p.Is("this") || p.Is("super") || p.Is("new") || p.Is("const") || p.Is("throw")
	case scan.Punct:
		return p.Is("(") || p.Is("[") || p.Is("{") || p.Is("-") || p.Is("!") || p.Is("<")
	}
	return false
}

// operator is the one at the cursor and its level, "" for none.
func (p *parser) operator() (op string, level int) {
	switch p.Kind() {
	case scan.Ident:
		if p.Is("is") || p.Is("as") {
			return p.Text(), 4
		}
	case scan.Punct:
		if strings.IndexByte("?|&=!<>^+-*~/%", p.F.ByteAt(p.I)) < 0 || p.assignment() != "" {
			return "", 0
		}
		for level := range levels {
			if op := p.operatorOf(level); op != "" {
				return op, level
			}
		}
	}
	return "", 0
}

// operatorOf is the operator of a level whose characters stand at the cursor, "" for none.
func (p *parser) operatorOf(level int) string {
	for _, op := range levels[level] {
		if op == "is" || op == "as" || !p.Operator(op) {
			continue
		}
		switch op { // a longer one of another level
		case "|":
			if p.Operator("||") {
				continue
			}
		case "&":
			if p.Operator("&&") {
				continue
			}
		case "<":
			if p.Operator("<<") {
				continue
			}
		case ">":
			if p.Operator(">>") {
				continue
			}
		case "??":
			if p.Operator("??=") {
				continue
			}
		}
		return op
	}
	return ""
}

func (p *parser) unary() *code.Expr {
	if p.depth++; p.depth > maxDepth {
		p.depth--
		e := p.other()
		p.Jump()
		return e
	}
	defer func() { p.depth-- }()
	pos := p.Where()
	switch {
	case p.Is("!"), p.Is("~"), p.Is("-") && !p.Operator("--"):
		op := p.Text()
		p.Advance()
		return &code.Expr{Op: code.Unary, Text: op, Args: []*code.Expr{p.unary()}, Pos: pos}
	case p.Operator("++"), p.Operator("--"):
		op := p.Text()
		p.I += 2
		return &code.Expr{Op: code.Set, Text: op + "=", Args: []*code.Expr{p.unary(), one(pos)}, Pos: pos}
	case p.Is("await") && p.awaits():
		p.Advance()
		return p.unary()
	}
	return p.postfix(p.primary(), true)
}

// awaits says whether await is the operator rather than a name.
func (p *parser) awaits() bool {
	p.I++
	defer func() { p.I-- }()
	return p.beginsExpr() && !p.Is("-") && !p.Is("[") && !p.Is("<")
}

func one(pos model.Pos) *code.Expr { return &code.Expr{Op: code.Number, Text: "1", Pos: pos} }

// postfix reads the members, calls, elements and marks behind an expression.
func (p *parser) postfix(e *code.Expr, steps bool) *code.Expr {
	for {
		pos := p.Where()
		switch {
		case p.Is("!") && !p.Operator("!="), p.Operator("!=="):
			p.Advance()
			e = with(e, code.Forced)
		case p.Operator("?.") && !p.Operator("?.."):
			p.I += 2
			e = p.member(with(e, code.Chained))
		case p.Is("?") && p.Ahead(1, "[") && !p.At(1).Space && p.isIndex():
			p.Advance()
			e = p.index(with(e, code.Chained))
		case p.Is(".") && !p.Operator(".."):
			p.Advance()
			e = p.member(e)
		case p.Is("["):
			e = p.index(e)
		case p.Is("("):
			e = p.call(e, nil)
		case p.Is("<") && p.genericCall():
			args, _ := p.typeArgs()
			if p.Is("(") {
				e = p.call(e, args)
			} else { // a constructor torn off: Page<Port>.fromJson
				typed := *e
				typed.Types = args
				e = &typed
			}
		case steps && (p.Operator("++") || p.Operator("--")):
			op := p.Text()
			p.I += 2
			e = &code.Expr{Op: code.Set, Text: "post" + op + "=", Args: []*code.Expr{e, one(pos)}, Pos: pos}
		default:
			return e
		}
	}
}

// isIndex says whether ?[ asks for an element, rather than being a condition with a list behind it.
func (p *parser) isIndex() bool {
	shut := p.F.Partner(p.I + 1)
	if shut < 0 {
		return false
	}
	return !p.F.Is(shut+1, ":")
}

// with is an expression with one more thing done with its value.
func with(e *code.Expr, does code.Effect) *code.Expr {
	c := *e
	c.Does = c.Does.With(does)
	return &c
}

func (p *parser) member(e *code.Expr) *code.Expr {
	m := &code.Expr{Op: code.Member, Args: []*code.Expr{e}, Pos: p.Where()}
	if p.Kind() == scan.Ident {
		m.Text = p.Text()
		p.Advance()
	}
	return m
}

func (p *parser) index(e *code.Expr) *code.Expr {
	shut := p.Shut()
	x := &code.Expr{Op: code.Index, Args: []*code.Expr{e}, Pos: p.Where()}
	p.Advance()
	if p.I < shut {
		x.Args = append(x.Args, p.expr())
	}
	p.I = shut + 1
	return x
}

// genericCall says whether type arguments stand at the cursor, rather than a comparison: what may follow them
// does.
func (p *parser) genericCall() bool {
	start := p.I
	defer func() { p.I = start }()
	if _, ok := p.typeArgs(); !ok {
		return false
	}
	if p.Is("?") {
		return true
	}
	for _, behind := range []string{"(", ")", "]", "}", ":", ";", ",", ".", "=="} {
		if p.Operator(behind) {
			return true
		}
	}
	return false
}

// call reads arguments from their bracket on.
func (p *parser) call(callee *code.Expr, types []*model.Type) *code.Expr {
	c := &code.Expr{Op: code.Call, Args: []*code.Expr{callee}, Types: types, Pos: callee.Pos}
	args, labels := p.arguments()
	c.Args = append(c.Args, args...)
	c.Labels = labels
	return c
}

func (p *parser) arguments() (args []*code.Expr, labels []string) {
	shut := p.Shut()
	if shut == p.I {
		p.Advance()
		return nil, nil
	}
	for p.Advance(); p.I < shut; {
		start, label := p.I, ""
		if p.Kind() == scan.Ident && p.Ahead(1, ":") {
			label = p.Text()
			p.I += 2
		}
		args, labels = append(args, p.expr()), append(labels, label)
		for p.I < shut && !p.Is(",") { // torn
			p.Jump()
		}
		p.Accept(",")
		if p.I == start {
			p.Advance()
		}
	}
	p.I = shut + 1
	return args, labels
}

// cascade reads the sections behind .. of an expression.
func (p *parser) cascade(e *code.Expr) *code.Expr {
	c := &code.Expr{Op: code.Cascade, Args: []*code.Expr{e}, Pos: p.Where()}
	if p.Operator("?..") {
		c.Args[0] = with(e, code.Chained)
		p.Advance()
	}
	for p.Operator("..") {
		p.I += 2
		it := &code.Expr{Op: code.It, Pos: p.Where()}
		var section *code.Expr
		if p.Is("[") {
			section = p.index(it)
		} else {
			section = p.member(it)
		}
		section = p.postfix(section, false)
		if op := p.assignment(); op != "" {
			pos := p.Where()
			for range op {
				p.Advance()
			}
			section = &code.Expr{Op: code.Set, Text: op, Args: []*code.Expr{section, p.branch()}, Pos: pos}
		}
		c.Args = append(c.Args, section)
	}
	return c
}

// primary reads what operators join: a literal, a name, what is in brackets, a closure.
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
			if p.isClosure() {
				return p.closure()
			}
			return p.bracketed()
		case p.Is("["), p.Is("{"):
			return p.collection(nil)
		case p.Is("<"):
			if args, ok := p.typeArgs(); ok {
				if p.Is("[") || p.Is("{") {
					return p.collection(args)
				}
				if p.Is("(") && p.isClosure() {
					return p.closure()
				}
			}
		case p.Is("#"): // a symbol
			p.I += 2
			return &code.Expr{Op: code.Other, Pos: pos}
		case p.Is(".") && p.KindAhead(1) == scan.Number: // .5
			p.Advance()
			e := &code.Expr{Op: code.Number, Text: "0." + p.Text(), Pos: pos}
			p.Advance()
			return e
		}
	case scan.Ident:
		switch {
		case p.Is("new"):
			p.Advance()
			return p.primary()
		case p.Is("const"):
			p.Advance()
			e := p.primary()
			e.Const = true
			return e
		case p.Is("switch"):
			return p.switchExpr()
		case reserved[p.Text()] && !p.Is("this") && !p.Is("super") && !p.Is("null") && !p.Is("true") && !p.Is("false"):
			return p.other()
		}
		e := &code.Expr{Op: code.Name, Text: p.Text(), Pos: pos}
		p.Advance()
		return e
	}
	return p.other()
}

// bracketed reads an expression in brackets, or a record.
func (p *parser) bracketed() *code.Expr {
	pos, shut := p.Where(), p.Shut()
	if shut == p.I {
		p.Advance()
		return &code.Expr{Op: code.Other, Pos: pos}
	}
	start := p.I
	p.Advance()
	labelled := p.Kind() == scan.Ident && p.Ahead(1, ":")
	var e *code.Expr
	if p.I < shut && !labelled {
		e = p.expr()
	}
	if e == nil || p.Is(",") && p.I < shut {
		p.I = start
		args, labels := p.arguments()
		return &code.Expr{Op: code.Record, Args: args, Labels: labels, Pos: pos}
	}
	p.I = shut + 1
	inner := *e
	if inner.Op == code.Member || inner.Op == code.Call || inner.Op == code.Index { // what is behind is no part of its chain
		return &code.Expr{Op: code.Choice, Text: "()", Args: []*code.Expr{e}, Pos: pos}
	}
	return &inner
}

// isClosure says whether the bracket at the cursor is around the parameters of a closure.
func (p *parser) isClosure() bool {
	shut := p.F.Partner(p.I)
	if shut < 0 || p.F.KindAt(shut) == scan.EOF {
		return false
	}
	i := shut + 1
	for p.F.Is(i, "async") || p.F.Is(i, "sync") || p.F.Is(i, "*") {
		i++
	}
	return p.F.Is(i, "=") && p.F.Is(i+1, ">") || p.F.Is(i, "{")
}

// closure reads a function without a name, from its parameters on.
func (p *parser) closure() *code.Expr {
	pos := p.Where()
	fn := &code.Func{File: p.F.Name, Pos: pos}
	fn.Params = p.params()
	p.functionBody(fn)
	e := &code.Expr{Op: code.Lambda, Fn: fn, Body: fn.Body, Pos: pos}
	for _, param := range fn.Params {
		e.Labels, e.Types = append(e.Labels, param.Name), append(e.Types, param.Type)
	}
	return e
}
