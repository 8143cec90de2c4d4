package csharp

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
	space    string // the namespace around, with a point behind it
	outer    *code.Class
}

// Where is the position of the token at the cursor.
func (p *parser) Where() model.Pos {
	if p.at != nil {
		return *p.at
	}
	return p.Cursor.Where()
}

// reserved are the words that are no names ("Lexical structure", Keywords).
var reserved = words(`abstract as base bool break byte case catch char checked class const continue decimal default delegate do double else enum
	event explicit extern false finally fixed float for foreach goto if implicit in int interface internal is lock long namespace new null object
	operator out override params private protected public readonly ref return sbyte sealed short sizeof stackalloc static string struct switch
	this throw true try typeof uint ulong unchecked unsafe ushort using virtual void volatile while`)

func words(text string) map[string]bool {
	all := map[string]bool{}
	for _, w := range strings.Fields(text) {
		all[w] = true
	}
	return all
}

// reservedHere says whether the word at the cursor is one that is no name.
func (p *parser) reservedHere() bool { return reserved[p.F.Word(p.I)] }

func (p *parser) other() *code.Expr { return &code.Expr{Op: code.Other, Pos: p.Where()} }

// expr reads an expression, an assignment, a lambda or a throw among them.
func (p *parser) expr() *code.Expr {
	if p.depth++; p.depth > maxDepth {
		p.depth--
		e := p.other()
		p.Jump()
		return e
	}
	defer func() { p.depth-- }()
	start, pos := p.Tok().Start, p.Where()
	e := p.exprAt(pos)
	if e.To == 0 && p.I > 0 {
		e.From, e.To = start, p.F.TokenAt(p.I-1).End
	}
	return e
}

func (p *parser) exprAt(pos model.Pos) *code.Expr {
	switch {
	case p.Accept("throw"):
		thrown := *p.expr()
		thrown.Does = thrown.Does.With(code.Thrown)
		return &thrown
	case p.Is("ref") && p.beginsBehind(1):
		p.Advance()
		return p.expr()
	case p.lambdaAhead():
		return p.lambda()
	case p.queryAhead():
		return p.query()
	}
	e := p.conditional()
	if op := p.assignment(); op != "" {
		p.I += len(op)
		return &code.Expr{Op: code.Set, Text: op, Args: []*code.Expr{e, p.expr()}, Pos: pos}
	}
	return e
}

// assignment is the operator of an assignment at the cursor, "" for none.
func (p *parser) assignment() string {
	if p.Kind() != scan.Punct || strings.IndexByte("=>?<+-*/%&|^", p.F.ByteAt(p.I)) < 0 {
		return ""
	}
	for _, op := range []string{">>>=", "??=", "<<=", ">>=", "+=", "-=", "*=", "/=", "%=", "&=", "|=", "^="} {
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
	c := p.coalesced()
	if !p.Is("?") || p.Operator("??") {
		return c
	}
	start := p.I
	p.Advance()
	yes := p.expr()
	if !p.Accept(":") {
		p.I = start
		return c
	}
	no := p.expr()
	return &code.Expr{Op: code.Choice, Args: []*code.Expr{yes, no}, Body: []code.Stmt{{Op: code.Do, Value: c}}, Pos: pos}
}

// coalesced reads a ?? b, which groups to the right.
func (p *parser) coalesced() *code.Expr {
	pos := p.Where()
	left := p.binary(0)
	if !p.Operator("??") || p.Operator("??=") {
		return left
	}
	p.I += 2
	var right *code.Expr
	if p.Is("throw") || p.lambdaAhead() {
		right = p.expr()
	} else {
		if p.depth++; p.depth > maxDepth {
			p.depth--
			return left
		}
		right = p.coalesced()
		p.depth--
	}
	return &code.Expr{Op: code.Choice, Args: []*code.Expr{left, right}, Pos: pos}
}

// levels are the binary operators, those that bind least first; of one level the longer first.
var levels = [][]string{
	{"||"}, {"&&"}, {"|"}, {"^"}, {"&"}, {"==", "!="}, {"is", "as", "<=", ">=", "<", ">"}, {"<<", ">>>", ">>"}, {"+", "-"}, {"*", "/", "%"}, {".."},
}

// binary reads what operators of a level, and of those that bind more, join.
func (p *parser) binary(level int) *code.Expr {
	pos := p.Where()
	var left *code.Expr
	if p.Operator("..") { // a range from the beginning
		left = &code.Expr{Op: code.Other, Pos: pos}
	} else {
		left = p.unary()
	}
	for {
		op, of := p.operator()
		if op == "" || of < level {
			return left
		}
		switch op {
		case "is":
			p.Advance()
			left = p.is(left, pos)
			continue
		case "as":
			p.Advance()
			left = &code.Expr{Op: code.As, Args: []*code.Expr{left}, Type: p.typeTested(), Pos: pos}
			if left.Type != nil {
				left.Text = left.Type.Written()
			}
			continue
		}
		p.I += len(op)
		if op == ".." && !p.beginsBehind(0) && !p.Is("^") {
			left = &code.Expr{Op: code.Binary, Text: op, Args: []*code.Expr{left, p.other()}, Pos: pos}
			continue
		}
		right := p.binary(of + 1)
		if op == "+" {
			left = &code.Expr{Op: code.Plus, Text: "+", Args: []*code.Expr{left, right}, Pos: pos}
		} else {
			left = &code.Expr{Op: code.Binary, Text: op, Args: []*code.Expr{left, right}, Pos: pos}
		}
	}
}

// is reads what stands behind that word: a type alone, or a pattern.
func (p *parser) is(e *code.Expr, pos model.Pos) *code.Expr {
	pattern := p.pattern()
	if pattern.Op == code.Bind && pattern.Text == "" && pattern.Type != nil {
		return &code.Expr{Op: code.Is, Args: []*code.Expr{e}, Type: pattern.Type, Pos: pos}
	}
	return &code.Expr{Op: code.Match, Args: []*code.Expr{e, pattern}, Pos: pos}
}

// typeTested reads the type behind as. A question mark belongs to it unless a condition's branch follows.
func (p *parser) typeTested() *model.Type {
	t := p.typ()
	if t == nil || t.Kind != model.Optional || !p.beginsExpr() {
		return t
	}
	start := p.I // x as int ? a : b
	p.expr()
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
		switch p.F.Word(p.I) {
		case "null", "true", "false", "this", "base", "new", "typeof", "default", "throw", "checked", "unchecked", "sizeof", "delegate", "stackalloc":
			return true
		}
		return !p.reservedHere() || predefined[p.Text()]
	case scan.Punct:
		return p.Is("(") || p.Is("[") || p.Is("-") || p.Is("+") || p.Is("!") || p.Is("~") || p.Is("^")
	}
	return false
}

// operator is the one at the cursor and its level, "" for none.
func (p *parser) operator() (op string, level int) {
	switch p.Kind() {
	case scan.Ident:
		if p.Is("is") || p.Is("as") {
			return p.Text(), 6
		}
	case scan.Punct:
		if strings.IndexByte("|&=!<>^+-*/%.", p.F.ByteAt(p.I)) < 0 || p.assignment() != "" {
			return "", 0
		}
		for level := range levels {
			for _, op := range levels[level] {
				if op == "is" || op == "as" || !p.Operator(op) || op == "|" && p.Operator("||") || op == "&" && p.Operator("&&") ||
					op == "<" && p.Operator("<<") || op == ">" && p.Operator(">>") && p.shifts() {
					continue
				}
				return op, level
			}
		}
	}
	return "", 0
}

// shifts says whether >> at the cursor is the operator.
func (p *parser) shifts() bool { return !p.Operator(">>=") }

// unary reads an operand with what stands before it, then switch and with, which bind less than a cast does.
func (p *parser) unary() *code.Expr { return p.behind(p.operand()) }

func (p *parser) operand() *code.Expr {
	if p.depth++; p.depth > maxDepth {
		p.depth--
		e := p.other()
		p.Jump()
		return e
	}
	defer func() { p.depth-- }()
	pos := p.Where()
	switch {
	case p.Operator("++"), p.Operator("--"):
		op := p.Text()
		p.I += 2
		return &code.Expr{Op: code.Set, Text: op + "=", Args: []*code.Expr{p.operand(), one(pos)}, Pos: pos}
	case p.Is("!"), p.Is("~"), p.Is("-"), p.Is("+"), p.Is("^"), p.Is("&"), p.Is("*"):
		op := p.Text()
		p.Advance()
		return &code.Expr{Op: code.Unary, Text: op, Args: []*code.Expr{p.operand()}, Pos: pos}
	case p.Is("await") && p.awaits():
		p.Advance()
		return p.operand()
	case p.Is("(") && p.castAhead():
		p.Advance()
		t := p.typ()
		p.Advance()
		e := &code.Expr{Op: code.As, Does: code.Effects(0).With(code.Forced), Args: []*code.Expr{p.operand()}, Type: t, Pos: pos}
		e.Text = t.Written()
		return e
	}
	return p.postfix(p.primary())
}

// behind reads switch and with behind an operand.
func (p *parser) behind(e *code.Expr) *code.Expr {
	for {
		pos := p.Where()
		switch {
		case p.Is("switch") && p.Ahead(1, "{"):
			e = p.switchExpr(e)
		case p.Is("with") && p.Ahead(1, "{"):
			p.Advance()
			c := &code.Expr{Op: code.Cascade, Text: "with", Args: []*code.Expr{e}, Pos: pos}
			p.initialiser(c)
			e = c
		default:
			return e
		}
	}
}

// awaits says whether await is the operator rather than a name.
func (p *parser) awaits() bool {
	p.I++
	defer func() { p.I-- }()
	return p.Kind() == scan.Ident && p.beginsExpr() || p.Is("(") || p.Kind() == scan.String
}

func one(pos model.Pos) *code.Expr { return &code.Expr{Op: code.Number, Text: "1", Pos: pos} }

// castAhead says whether the bracket at the cursor is around the type of a cast ("Expressions", Cast expressions).
func (p *parser) castAhead() bool {
	shut := p.Shut()
	if shut == p.I {
		return false
	}
	start := p.I
	defer func() { p.I = start }()
	p.Advance()
	word := p.F.Word(p.I)
	t := p.typ()
	if t == nil || p.I != shut {
		return false
	}
	p.Advance()
	switch p.Kind() {
	case scan.Number, scan.String:
		return true
	case scan.Ident:
		switch p.F.Word(p.I) {
		case "is", "as", "switch", "with", "and", "or", "when", "in", "on", "equals", "into", "by", "select", "where", "orderby", "let", "join", "group", "ascending", "descending", "else":
			return false
		}
		return p.beginsExpr()
	case scan.Punct:
		if p.Is("(") || p.Is("!") && !p.Operator("!=") || p.Is("~") {
			return true
		}
		return predefined[word] && (p.Is("-") || p.Is("+")) || p.Is("[") && predefined[word]
	}
	return false
}

// postfix reads the members, calls, elements and marks behind an expression.
func (p *parser) postfix(e *code.Expr) *code.Expr {
	for {
		pos := p.Where()
		switch {
		case p.Is("!") && !p.Operator("!=") && !p.Spaced(), p.Operator("!=="):
			p.Advance()
			e = with(e, code.Forced)
		case p.Is("?") && p.Ahead(1, ".") && !p.Ahead(2, ".") && !p.At(1).Space && p.KindAhead(2) == scan.Ident:
			p.I += 2
			e = p.member(with(e, code.Chained))
		case p.Is("?") && p.Ahead(1, "[") && !p.At(1).Space && p.isIndex():
			p.Advance()
			e = p.index(with(e, code.Chained))
		case p.Is(".") && !p.Operator("..") && p.KindAhead(1) == scan.Ident, p.Is(":") && p.Operator("::") && p.KindAhead(2) == scan.Ident:
			if p.Is(":") {
				p.Advance()
			}
			p.Advance()
			e = p.member(e)
		case p.Operator("->"):
			p.I += 2
			e = p.member(e)
		case p.Is("["):
			e = p.index(e)
		case p.Is("("):
			e = p.call(e, nil)
		case p.Is("<") && (e.Op == code.Name || e.Op == code.Member) && p.genericCall():
			args, _ := p.typeArgs()
			if p.Is("(") {
				e = p.call(e, args)
			} else { // a method group, or a generic class
				typed := *e
				typed.Types = args
				e = &typed
			}
		case p.Operator("++") || p.Operator("--"):
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
	return shut > 0 && !p.F.Is(shut+1, ":")
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
	x := &code.Expr{Op: code.Index, Args: []*code.Expr{e}, Pos: p.Where()}
	args, _ := p.arguments()
	x.Args = append(x.Args, args...)
	return x
}

// genericCall says whether type arguments stand at the cursor, rather than a comparison ("Lexical structure",
// Grammar ambiguities): what may follow them does.
func (p *parser) genericCall() bool {
	start := p.I
	defer func() { p.I = start }()
	if _, ok := p.typeArgs(); !ok {
		return false
	}
	for _, behind := range []string{"(", ")", "]", "}", ":", ";", ",", ".", "?", "==", "!=", "|", "^", "&", "[", "=>"} {
		if p.Operator(behind) {
			return true
		}
	}
	return p.Kind() == scan.EOF
}

// call reads arguments from their bracket on.
func (p *parser) call(callee *code.Expr, types []*model.Type) *code.Expr {
	if callee.Op == code.Name && callee.Text == "nameof" && len(types) == 0 {
		return p.nameOf()
	}
	c := &code.Expr{Op: code.Call, Args: []*code.Expr{callee}, Types: types, Pos: callee.Pos}
	args, labels := p.arguments()
	c.Args = append(c.Args, args...)
	c.Labels = labels
	return c
}

// nameOf reads nameof(a.b) as the text that it is.
func (p *parser) nameOf() *code.Expr {
	e := &code.Expr{Op: code.Text, Pos: p.Where()}
	shut := p.Shut()
	for i := shut - 1; i > p.I; i-- {
		if p.F.KindAt(i) == scan.Ident {
			e.Text = p.F.Ident(i)
			break
		}
		if p.F.Is(i, ">") {
			i = leading(p.F, i, '<', '>') + 1
		}
	}
	e.Labels = []string{e.Text}
	p.I = shut + 1
	return e
}

// arguments reads those in brackets, with the names that are written before them.
func (p *parser) arguments() (args []*code.Expr, labels []string) {
	shut := p.Shut()
	if shut == p.I {
		p.Advance()
		return nil, nil
	}
	for p.Advance(); p.I < shut; {
		start, label := p.I, ""
		if p.Kind() == scan.Ident && p.Ahead(1, ":") && !p.Ahead(2, ":") {
			label = p.Text()
			p.I += 2
		}
		args, labels = append(args, p.argument()), append(labels, label)
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

// argument reads one, which may be given something: out var port.
func (p *parser) argument() *code.Expr {
	pos := p.Where()
	for _, word := range []string{"out", "ref", "in"} {
		if !p.Is(word) {
			continue
		}
		p.Advance()
		e := &code.Expr{Op: code.Unary, Text: word, Pos: pos}
		start := p.I
		if t := p.typ(); t != nil && p.Kind() == scan.Ident && (p.Ahead(1, ",") || p.Ahead(1, ")") || p.Ahead(1, "]")) {
			if t.Name == "var" {
				t = nil
			}
			e.Args = []*code.Expr{{Op: code.Bind, Text: p.Text(), Type: t, Pos: p.Where()}}
			p.Advance()
			return e
		}
		p.I = start
		e.Args = []*code.Expr{p.expr()}
		return e
	}
	return p.expr()
}
