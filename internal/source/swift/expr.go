package swift

import (
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// exprOp is what an expression is.
type exprOp uint8

const (
	exprOther   exprOp = iota
	exprName           // text
	exprMember         // args[0].text; args is empty for .text alone
	exprCall           // args[0] called with args[1:], labels alike
	exprIndex          // args[0][args[1:]]
	exprType           // typ.self
	exprLiteral        // the tokens are a literal
	exprTry            // try, try? or try! (text) before args[0]
	exprCast           // args[0] as, as? or as! (text) typ
	exprBinary         // args[0] text args[1]
	exprTernary        // args[0] ? args[1] : args[2]
	exprForce          // args[0]!
	exprChain          // args[0]?
	exprClosure        // the tokens are a closure
	exprNot            // !args[0]
	exprKeyPath        // \.text
)

// expr is an expression of Swift, as far as reading code needs to be told apart.
type expr struct {
	op         exprOp
	text       string
	args       []*expr
	labels     []string // of a call's arguments
	typ        *model.Type
	start, end int // its tokens
}

// Binary operators by how tightly they bind ("Operator Declarations" of the
// standard library); a type cast stands between ?? and the range operators.
var precedences = []struct {
	op   string
	prec int
}{
	{"??", 5}, {"&&", 3}, {"||", 2}, {"===", 4}, {"!==", 4}, {"==", 4}, {"!=", 4}, {"<=", 4}, {">=", 4},
	{"...", 7}, {"..<", 7}, {"<", 4}, {">", 4}, {"+", 8}, {"-", 8}, {"*", 9}, {"/", 9}, {"%", 9},
}

const castPrecedence = 6

// parseExpr reads an expression before token end, with operators that bind at
// least as tightly as prec.
func (p *parser) parseExpr(end, prec int) *expr {
	start := p.I
	if p.depth >= maxDepth {
		p.I = end
		return &expr{start: start, end: end}
	}
	p.depth++
	defer func() { p.depth-- }()
	if p.Is("await") {
		p.Advance()
	}
	if p.Is("try") {
		e := &expr{op: exprTry, text: "try", start: start}
		p.Advance()
		if (p.Is("?") || p.Is("!")) && !p.Spaced() {
			e.text += p.Text()
			p.Advance()
		}
		e.args = []*expr{p.parseExpr(end, 0)}
		e.end = p.I
		return e
	}
	left := p.parseUnary(end)
	for p.I < end {
		if t := p.Tok(); t.Newline && !p.continues() {
			break
		}
		if p.Is("as") || p.Is("is") {
			if prec > castPrecedence {
				break
			}
			text := p.Text()
			p.Advance()
			if (p.Is("?") || p.Is("!")) && !p.Spaced() {
				text += p.Text()
				p.Advance()
			}
			left = &expr{op: exprCast, text: text, args: []*expr{left}, typ: orOpaque(p.parseType()), start: start, end: p.I}
			continue
		}
		if p.Is("?") && p.Spaced() && !p.Operator("??") {
			if prec > 1 {
				break
			}
			p.Advance()
			yes := p.parseExpr(end, 0)
			if !p.Accept(":") {
				break
			}
			left = &expr{op: exprTernary, args: []*expr{left, yes, p.parseExpr(end, 1)}, start: start, end: p.I}
			continue
		}
		op, opPrec := p.binaryOperator()
		if op == "" || opPrec < prec {
			break
		}
		p.I += len(op)
		next := opPrec + 1
		if op == "??" {
			next = opPrec // it associates to the right
		}
		left = &expr{op: exprBinary, text: op, args: []*expr{left, p.parseExpr(end, next)}, start: start, end: p.I}
	}
	left.start, left.end = start, p.I
	return left
}

func (p *parser) binaryOperator() (string, int) {
	if p.Kind() != scan.Punct {
		return "", 0
	}
	for _, o := range precedences {
		if p.Operator(o.op) {
			return o.op, o.prec
		}
	}
	return "", 0
}

func (p *parser) parseUnary(end int) *expr {
	start := p.I
	if p.I >= end {
		return &expr{start: start, end: start}
	}
	if p.Is("-") || p.Is("!") || p.Is("&") || p.Is("~") {
		q := *p
		if l := q.literalValue(end); l != nil {
			p.I = q.I
			return &expr{op: exprLiteral, start: start, end: p.I}
		}
		op := p.Text()
		p.Advance()
		if p.depth >= maxDepth {
			p.I = end
			return &expr{start: start, end: end}
		}
		p.depth++
		operand := p.parseUnary(end)
		p.depth--
		if op == "!" {
			return &expr{op: exprNot, args: []*expr{operand}, start: start, end: p.I}
		}
		return &expr{start: start, end: p.I}
	}
	return p.parsePostfix(end, p.parsePrimary(end))
}

func (p *parser) parsePrimary(end int) *expr {
	start := p.I
	t := p.Tok()
	if t.Kind == scan.Ident || t.Is("[") || t.Is("(") {
		q := *p
		if typ := q.parseType(); typ != nil && q.Is(".") && q.Ahead(1, "self") {
			p.I = q.I + 2
			return &expr{op: exprType, typ: typ, text: p.F.Text(start, q.I), start: start, end: p.I}
		}
	}
	switch {
	case t.Kind == scan.Number || t.Kind == scan.String || t.Is("true") || t.Is("false") || t.Is("nil"):
		p.Advance()
		return &expr{op: exprLiteral, start: start, end: p.I}
	case t.Is("["):
		p.Jump()
		return &expr{op: exprLiteral, start: start, end: p.I}
	case t.Is("("):
		shut := p.Shut()
		p.Advance()
		conditional := p.conditional
		p.conditional = false
		e := p.parseExpr(shut, 0)
		p.conditional = conditional
		if p.I != shut {
			e = &expr{}
		}
		p.I = shut
		p.Advance()
		return e
	case t.Is("{"):
		p.Jump()
		return &expr{op: exprClosure, start: start, end: p.I}
	case t.Is("\\") && p.Ahead(1, "."):
		p.I += 2
		e := &expr{op: exprKeyPath, text: p.Text(), start: start}
		p.Advance()
		e.end = p.I
		return e
	case t.Is("."):
		p.Advance()
		e := &expr{op: exprMember, text: p.Text(), start: start}
		p.Advance()
		e.end = p.I
		return e
	case t.Kind == scan.Ident:
		p.Advance()
		if p.Is("<") && !p.Spaced() {
			q := *p
			if q.typeArguments(); q.F.Is(q.I-1, ">") && (q.Is("(") || q.Is(".")) {
				p.I = q.I
			}
		}
		return &expr{op: exprName, text: t.Text, start: start, end: p.I}
	}
	p.Jump()
	return &expr{start: start, end: p.I}
}

func (p *parser) parsePostfix(end int, e *expr) *expr {
	for p.I < end {
		t := p.Tok()
		switch {
		case t.Is(".") && (!t.Newline || p.KindAhead(1) == scan.Ident):
			p.Advance()
			e = &expr{op: exprMember, text: p.Text(), args: []*expr{e}, start: e.start}
			p.Advance()
		case t.Is("(") && !t.Newline && e.op == exprMember && e.text == "init" && p.KindAhead(1) == scan.Ident && p.Ahead(2, ":") && p.Ahead(3, ")"):
			e.labels = []string{p.At(1).Text} // a function named with its label: URL.init(string:)
			p.I += 4
		case t.Is("(") && !t.Newline:
			e = p.arguments(exprCall, e)
		case t.Is("[") && !t.Newline && !t.Space:
			e = p.arguments(exprIndex, e)
		case t.Is("?") && !t.Space && !p.Operator("??"):
			p.Advance()
			e = &expr{op: exprChain, args: []*expr{e}, start: e.start}
		case t.Is("!") && !t.Space:
			p.Advance()
			e = &expr{op: exprForce, args: []*expr{e}, start: e.start}
		case t.Is("{") && !p.conditional && !t.Newline && e.op != exprOther && e.op != exprLiteral && p.closureAllowed(e):
			closure := &expr{op: exprClosure, start: p.I}
			p.Jump()
			closure.end = p.I
			if e.op != exprCall {
				e = &expr{op: exprCall, args: []*expr{e}, start: e.start}
			}
			e.args = append(e.args, closure)
			e.labels = append(e.labels, "")
		default:
			return e
		}
		e.end = p.I
	}
	return e
}

// closureAllowed says whether a brace behind e may begin a trailing closure: it
// may not where a statement's block begins, and those that read values never
// call with one but on a member.
func (p *parser) closureAllowed(e *expr) bool {
	return e.op == exprMember || e.op == exprCall && e.args[0].op == exprMember && !strings.HasPrefix(e.args[0].text, "decode")
}

// arguments reads (a, label: b) or [a] behind what is called.
func (p *parser) arguments(op exprOp, callee *expr) *expr {
	e := &expr{op: op, args: []*expr{callee}, start: callee.start}
	defer func(conditional bool) { p.conditional = conditional }(p.conditional)
	p.conditional = false
	shut := p.Shut()
	p.Advance()
	for p.I < shut {
		label := ""
		if p.Kind() == scan.Ident && p.Ahead(1, ":") {
			label = p.Text()
			p.I += 2
		}
		before := p.I
		arg := p.parseExpr(shut, 0)
		if p.I < shut && !p.Is(",") || p.I == before {
			arg = &expr{start: before}
			for p.I < shut && !p.Is(",") {
				p.Jump()
			}
		}
		p.Accept(",")
		e.args, e.labels = append(e.args, arg), append(e.labels, label)
	}
	p.I = shut
	p.Advance()
	e.end = p.I
	return e
}

// parseCondition is parseExpr where a brace behind the expression begins a block.
func (p *parser) parseCondition(end int) *expr {
	defer func(conditional bool) { p.conditional = conditional }(p.conditional)
	p.conditional = true
	return p.parseExpr(end, 0)
}

// label answers the argument of a call with that label, or nil.
func (e *expr) label(name string) *expr {
	for i, l := range e.labels {
		if l == name {
			return e.args[i+1]
		}
	}
	return nil
}

// method answers the receiver and the name of a method call; the receiver is nil
// where the call is of a bare name.
func (e *expr) method() (receiver *expr, name string) {
	if e.op != exprCall {
		return nil, ""
	}
	switch callee := e.args[0]; callee.op {
	case exprName:
		return nil, callee.text
	case exprMember:
		if len(callee.args) > 0 {
			return callee.args[0], callee.text
		}
		return nil, "." + callee.text
	}
	return nil, ""
}
