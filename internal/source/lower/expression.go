package lower

import (
	"slices"
	"unicode"
	"unicode/utf8"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// expr reads an expression before a token. It never answers nil; where none is, it passes over nothing.
func (r *reader) expr(end int) *code.Expr { return r.bound(end, 0) }

// bound reads an expression with the operators that bind at least so tightly.
func (r *reader) bound(end, least int) *code.Expr {
	start := r.I
	if r.depth++; r.depth > maxDepth {
		r.depth--
		r.Jump()
		return r.span(&code.Expr{Op: code.Other}, start)
	}
	defer func() { r.depth-- }()
	left := r.span(r.operand(end), start)
	for r.I < end && !r.ends() {
		if left.Op == code.Other && len(left.Args) == 0 && r.I == start { // nothing
			return left
		}
		next := r.binary(end, least, left)
		if next == nil {
			return left
		}
		left = r.span(next, start)
	}
	return left
}

// span notes where an expression stands that was read from a token on.
func (r *reader) span(e *code.Expr, start int) *code.Expr {
	if r.I > start {
		e.From, e.To = r.F.TokenAt(start).Start, r.F.TokenAt(r.I-1).End
	}
	return e
}

// How tightly operators bind that are words, or that not every language has ("Operator Declarations" of
// Swift's standard library, Kotlin's grammar, JLS 15).
const (
	bindsChoice = 1
	bindsIs     = 4
	bindsElse   = 5
	bindsNamed  = 6
	bindsCast   = 7
	closelyCast = 11 // in Kotlin
)

// operators are those of one or two characters between two values, the longer ones first.
var operators = []struct {
	text  string
	binds int
}{
	{"===", 4}, {"!==", 4}, {"...", 8}, {"..<", 8}, {"==", 4}, {"!=", 4}, {"<=", 4}, {">=", 4}, {"&&", 3}, {"||", 2}, {"..", 8},
	{"<", 4}, {">", 4}, {"+", 9}, {"-", 9}, {"*", 10}, {"/", 10}, {"%", 10}, {"&", 9}, {"|", 9}, {"^", 9},
}

// operator is the one between two values at the cursor, "" for none.
func (r *reader) operator() (text string, binds int) {
	if r.Kind() != scan.Punct {
		return "", 0
	}
	for _, o := range operators {
		if !r.Operator(o.text) {
			continue
		}
		n := len(o.text)
		if after := r.At(n); after.Is("=") && !after.Space && n == 1 && o.text != "<" && o.text != ">" || o.text == "-" && after.Is(">") && !after.Space {
			return "", 0 // a += b, ->
		}
		return o.text, o.binds
	}
	return "", 0
}

// binary reads what is done to a value with another one, or with a type; nil where nothing is that binds so
// tightly.
func (r *reader) binary(end, least int, left *code.Expr) *code.Expr {
	cast := bindsCast
	if r.kotlin() {
		cast = closelyCast
	}
	switch {
	case r.Is("as"):
		if least > cast {
			return nil
		}
		r.Advance()
		e := &code.Expr{Op: code.As, Args: []*code.Expr{left}, Does: code.Effects(code.Upcast)}
		for r.Is("?") || r.Is("!") {
			if e.Does = 0; r.Is("!") {
				e.Does = code.Effects(code.Forced)
			}
			r.Advance()
		}
		from := r.I
		e.Type = r.typ()
		e.Text = r.F.Text(from, r.I)
		return e
	case r.Is("in") && r.kotlin():
		if least > bindsIs {
			return nil
		}
		r.Advance()
		return &code.Expr{Op: code.Binary, Text: "in", Args: []*code.Expr{left, r.bound(end, bindsIs+1)}}
	case r.Is("is") || r.Is("instanceof"):
		if least > bindsIs {
			return nil
		}
		r.Advance()
		t := r.typ()
		if t == nil {
			return nil
		}
		return &code.Expr{Op: code.Is, Args: []*code.Expr{left}, Type: t}
	case r.Operator("??") || r.Operator("?:") && r.kotlin():
		if least > bindsElse {
			return nil
		}
		r.I += 2
		return &code.Expr{Op: code.Choice, Args: []*code.Expr{left, r.bound(end, bindsElse)}}
	case r.Is("?"): // c ? a : b
		if least > bindsChoice {
			return nil
		}
		at := *r
		r.Advance()
		yes := r.expr(end)
		if !r.Accept(":") {
			*r = at
			return nil
		}
		return &code.Expr{Op: code.Choice, Args: []*code.Expr{yes, r.bound(end, bindsChoice)}, Body: []code.Stmt{{Op: code.Block, Value: left}}}
	}
	if text, binds := r.operator(); text != "" {
		if binds < least {
			return nil
		}
		r.I += len(text)
		e := &code.Expr{Op: code.Binary, Text: text, Args: []*code.Expr{left, r.bound(end, binds+1)}}
		if text == "+" {
			e.Op = code.Plus
		}
		return e
	}
	if r.kotlin() && r.Kind() == scan.Ident && !r.Newline() && r.KindAhead(1) != scan.Punct && !blockWords[r.Text()] && !r.Is("by") { // a to b
		if least > bindsNamed {
			return nil
		}
		e := &code.Expr{Op: code.Binary, Text: r.Text()}
		r.Advance()
		e.Args = []*code.Expr{left, r.bound(end, bindsNamed+1)}
		return e
	}
	return nil
}

// ends says whether the token at the cursor, the first on its line, begins something of its own.
func (r *reader) ends() bool {
	if r.java() || !r.Newline() {
		return false
	}
	if r.Kind() == scan.Punct {
		switch r.Text() {
		case "+": // in Kotlin a sign
			return r.kotlin()
		case ".", "?", ":", "&", "|", "=", "*", "/":
			return false
		case "!":
			return !r.Operator("!=")
		case "-":
			return true
		}
		return r.Text() != "<" && r.Text() != ">"
	}
	return !r.Is("as")
}

// operand reads a value with all that is called on it.
func (r *reader) operand(end int) *code.Expr {
	start := r.I
	sign := ""
	if (r.Operator("++") || r.Operator("--")) && !r.swift() {
		e := &code.Expr{Op: code.Unary, Text: r.Text() + r.Text()}
		r.I += 2
		e.Args = []*code.Expr{r.operand(end)}
		return r.span(e, start)
	}
	for r.I < end && r.Kind() == scan.Punct && (r.Is("-") || r.Is("!") || r.Is("~") || r.Is("&") || r.Is("*") || r.Is("+")) {
		sign += r.Text()
		r.Advance()
	}
	if sign != "" && sign != "*" && sign != "+" && r.I < end { // not those that only spread or say what is so
		r.depth++
		defer func() { r.depth-- }()
		if r.depth > maxDepth {
			return &code.Expr{Op: code.Other}
		}
		e := r.span(r.operand(end), r.I)
		for i := len(sign) - 1; i >= 0; i-- {
			if sign[i] == '-' && e.Op == code.Number && e.Text[0] != '-' {
				e.Text = "-" + e.Text
				continue
			}
			e = &code.Expr{Op: code.Unary, Text: sign[i : i+1], Args: []*code.Expr{e}}
		}
		return r.span(e, start)
	}
	for r.I < end && (r.Is("try") && r.swift() || r.Is("await") && r.swift() || r.Is("throw") || r.Is("return") && r.kotlin()) {
		tries, throws, returns := r.Is("try"), r.Is("throw"), r.Is("return")
		r.Advance()
		if tries {
			does := code.Tried
			if (r.Is("?") || r.Is("!")) && !r.Spaced() {
				if does = code.Attempted; r.Is("!") {
					does = code.Assured
				}
				r.Advance()
			}
			e := r.expr(end)
			e.Does = e.Does.With(does)
			return e
		}
		labelled := r.kotlin() && r.Is("@")
		for r.kotlin() && r.Is("@") {
			r.I += 2
		}
		if throws || returns {
			does := code.Thrown
			if returns {
				does = code.Returned
			}
			if returns && labelled {
				does = code.Yielded
			}
			e := r.expr(end)
			e.Does = e.Does.With(does)
			return e
		}
	}
	if r.I >= end {
		return &code.Expr{Op: code.Other}
	}
	from := r.I
	return r.chain(end, r.span(r.primary(end), from), from)
}

// primary reads the value that a chain begins with.
func (r *reader) primary(end int) *code.Expr {
	pos := r.Where()
	switch {
	case r.Kind() == scan.String:
		return r.template()
	case r.Kind() == scan.Number:
		r.Advance()
		return &code.Expr{Op: code.Number, Text: r.F.Word(r.I - 1), Pos: pos}
	case r.Is("("):
		return r.bracketed(end)
	case r.Is("{") && !r.java():
		return r.lambda()
	case r.Is("{"): // an initialiser of an array
		r.Jump()
		return &code.Expr{Op: code.Other}
	case r.Is("[") && r.swift():
		if t := r.typeValue(); t != nil {
			return t
		}
		return r.elements()
	case r.Is("\\") && r.swift():
		r.Advance()
		e := &code.Expr{Op: code.KeyPath}
		for r.Kind() == scan.Ident && r.Ahead(1, ".") || r.Is(".") && r.KindAhead(1) == scan.Ident {
			r.Advance()
		}
		if r.Kind() == scan.Ident {
			e.Text = r.Text()
			r.Advance()
		}
		return e
	case r.Is(".") && r.KindAhead(1) == scan.Ident && r.swift():
		r.Advance()
		e := &code.Expr{Op: code.Member, Text: r.Text(), Pos: r.Where()}
		r.Advance()
		return e
	case r.Is("new") && r.java():
		return r.made(end)
	case r.Is("object") && r.kotlin() && (r.Ahead(1, ":") || r.Ahead(1, "{")):
		return r.anonymous(end)
	case r.Kind() == scan.Ident && !r.Tok().Quoted && (r.Is("if") || r.Is("when") || r.Is("switch") || r.Is("try") && r.kotlin()):
		return r.choice(end)
	case r.Kind() == scan.Ident:
		if t := r.typeValue(); t != nil {
			return t
		}
		if l := r.arrow(end); l != nil {
			return l
		}
		e := &code.Expr{Op: code.Name, Text: r.Text(), Pos: pos}
		r.Advance()
		return e
	case r.Is(")") || r.Is("]") || r.Is("}") || r.Is(",") || r.Is(";"):
		return &code.Expr{Op: code.Other}
	}
	r.Jump()
	return &code.Expr{Op: code.Other}
}

// typeValue reads a type that is a value: Port.self, Port.class, Port::class.java, [Port].self.
func (r *reader) typeValue() *code.Expr {
	if !r.mayBeType() {
		return nil
	}
	at := *r
	t, next := r.Type(r.I)
	if t == nil {
		return nil
	}
	length := 0
	switch f := r.F; {
	case r.swift() && f.Is(next, ".") && f.Is(next+1, "self"):
		length = 2
	case r.java() && f.Is(next, ".") && f.Is(next+1, "class"):
		length = 2
	case r.kotlin() && f.Is(next, ":") && f.Is(next+1, ":") && f.Is(next+2, "class"):
		length = 3
		if f.Is(next+3, ".") && (f.Is(next+4, "java") || f.Is(next+4, "javaObjectType")) {
			length = 5
		}
	default:
		return nil
	}
	e := &code.Expr{Op: code.TypeOf, Pos: r.Where()}
	from := r.I
	if e.Type = r.typ(); e.Type == nil {
		*r = at
		return nil
	}
	e.Text = r.F.Text(from, next)
	if !r.swift() && slices.Contains(r.generics, e.Type.Name) {
		e.Type = &model.Type{Kind: model.Named, Name: code.Erased, Args: []*model.Type{e.Type}, Pos: e.Pos}
	}
	if r.I = next + length; length == 5 && r.F.Is(next+4, "javaObjectType") {
		e.Labels = []string{"javaObjectType"}
	}
	return e
}

// mayBeType says whether a type may begin at the cursor: a name with a capital, or a Swift list.
func (r *reader) mayBeType() bool {
	if r.Is("[") {
		return true
	}
	first, _ := utf8.DecodeRuneInString(r.Text())
	return unicode.IsUpper(first) || r.java() && r.Kind() == scan.Ident && r.Ahead(1, ".")
}

// list reads values between commas up to a token.
func (r *reader) list(end int) (all []*code.Expr) {
	outside := r.conditional
	r.conditional = false
	defer func() { r.conditional = outside }()
	for r.I < end {
		start := r.I
		all = append(all, r.expr(end))
		if !r.Accept(",") && !r.Accept(":") && r.I == start {
			r.Jump()
		}
	}
	return all
}

// elements reads a list or a dictionary from its bracket on.
func (r *reader) elements() *code.Expr {
	outside := r.conditional
	r.conditional = false
	defer func() { r.conditional = outside }()
	e := &code.Expr{Op: code.List, Pos: r.Where()}
	shut := r.Shut()
	r.Advance()
	for r.I < shut {
		start := r.I
		if r.Is(":") { // [:]
			e.Op = code.Dict
			r.Advance()
			continue
		}
		e.Args = append(e.Args, r.expr(shut))
		if r.Accept(":") {
			e.Op = code.Dict
		} else if !r.Accept(",") && r.I == start {
			r.Jump()
		}
	}
	r.I = shut + 1
	return e
}

// bracketed reads what stands in round brackets: a value, a tuple, a cast, or a lambda's parameters.
func (r *reader) bracketed(end int) *code.Expr {
	shut := r.Shut()
	if r.java() && r.F.Is(shut+1, "-") && r.F.Is(shut+2, ">") {
		var takes []*model.Type
		var names []string
		for r.Advance(); r.I < shut; r.Accept(",") {
			if t, next := r.Type(r.I); t != nil && r.F.KindAt(next) == scan.Ident && next < shut {
				takes = append(takes, r.typ())
			}
			names = append(names, r.Text())
			r.to(shut, ",")
		}
		r.I = shut + 3
		e := r.arrowBody(end)
		e.Labels = names
		e.Type = code.FunctionType(takes, nil)
		return e
	}
	if r.java() {
		r.Advance()
		at := *r
		if t := r.typ(); t != nil && r.I == shut && r.mayBeCast(shut+1) {
			r.Advance()
			return &code.Expr{Op: code.As, Args: []*code.Expr{r.operand(end)}, Type: t, Does: code.Effects(code.Forced)}
		}
		*r = at
		r.I--
	}
	r.Advance()
	all := r.list(shut)
	r.I = shut + 1
	if len(all) == 1 {
		return all[0]
	}
	return &code.Expr{Op: code.Other, Args: all}
}

// mayBeCast says whether a value stands at a token, so that a type in brackets before it is a cast.
func (r *reader) mayBeCast(i int) bool {
	k := r.F.KindAt(i)
	return k == scan.Ident && !r.F.Is(i, "instanceof") || k == scan.String || r.F.Is(i, "(")
}

// choice reads a statement that is a value: each branch may be it.
func (r *reader) choice(end int) *code.Expr {
	var all []code.Stmt
	for r.I < end && r.Kind() == scan.Ident && (len(all) == 0 || r.goesOn(all)) {
		all = append(all, r.blockStatement(end))
	}
	e := &code.Expr{Op: code.Choice, Body: all}
	for _, s := range all {
		e.Args = append(e.Args, &code.Expr{Op: code.Lambda, Body: s.Body})
	}
	return e
}

// chain reads what is called on a value.
func (r *reader) chain(end int, e *code.Expr, start int) *code.Expr {
	for ; r.I < end; r.span(e, start) {
		if r.Newline() && !r.java() && !r.Is(".") && !(r.Is("?") && r.Ahead(1, ".")) {
			return e
		}
		switch {
		case r.Is("(") && r.swift() && e.Op == code.Member && r.KindAhead(1) == scan.Ident && r.Ahead(2, ":") && r.Ahead(3, ")"): // URL.init(string:)
			e.Labels = []string{r.At(1).Text}
			r.I += 4
		case r.Is("("):
			call := &code.Expr{Op: code.Call, Args: []*code.Expr{e}, Pos: e.Pos}
			r.arguments(call)
			r.trailing(end, call)
			if token := r.tokenOf(call); token != nil && !r.swift() {
				call = token
			}
			e = call
		case r.Is("<") && (e.Op == code.Name || e.Op == code.Member) && !r.java():
			types, ok := r.typeArguments()
			if !ok {
				return e
			}
			call := &code.Expr{Op: code.Call, Args: []*code.Expr{e}, Types: types, Pos: e.Pos}
			if r.Is("(") {
				r.arguments(call)
			}
			r.trailing(end, call)
			if token := r.tokenOf(call); token != nil {
				call = token
			}
			e = call
		case r.Is("{") && !r.java() && !r.conditional && (e.Op == code.Name || e.Op == code.Member):
			call := &code.Expr{Op: code.Call, Args: []*code.Expr{e}, Pos: e.Pos}
			r.trailing(end, call)
			e = call
		case r.Is(".") && r.Ahead(1, "<") && r.java(): // gson.<Port>fromJson(…)
			r.Advance()
			types, ok := r.typeArguments()
			if !ok || r.Kind() != scan.Ident {
				return e
			}
			member := &code.Expr{Op: code.Member, Text: r.Text(), Args: []*code.Expr{e}, Pos: r.Where()}
			r.Advance()
			call := &code.Expr{Op: code.Call, Args: []*code.Expr{member}, Types: types, Pos: member.Pos}
			if r.Is("(") {
				r.arguments(call)
			}
			e = call
		case r.Is(".") && r.KindAhead(1) == scan.Ident:
			r.Advance()
			e = &code.Expr{Op: code.Member, Text: r.F.Ident(r.I), Args: []*code.Expr{e}, Pos: r.Where()}
			r.Advance()
		case (r.Is("?") || r.Is("!")) && (r.Ahead(1, ".") || !r.Spaced() && r.swift() && !r.Ahead(1, "=") && !r.Ahead(1, "?") && !r.Ahead(1, ":")), r.Is("!") && r.F.Is(r.I-1, "!"):
			does := code.Forced
			if r.Is("?") {
				does = code.Chained
			}
			e.Does = e.Does.With(does)
			r.Advance()
		case r.Is("!") && r.Ahead(1, "!") && r.kotlin():
			e.Does = e.Does.With(code.Forced)
			r.I += 2
		case r.Is("[") && !(r.swift() && r.Spaced()):
			shut := r.Shut()
			r.Advance()
			e = &code.Expr{Op: code.Index, Args: append([]*code.Expr{e}, r.list(shut)...)}
			r.I = shut + 1
		case (r.Operator("++") || r.Operator("--")) && !r.swift() && !r.Newline():
			e = &code.Expr{Op: code.Unary, Text: r.Text() + r.Text(), Args: []*code.Expr{e}}
			r.I += 2
		case r.Operator("::") && !r.swift():
			r.I += 2
			r.Advance()
			e = &code.Expr{Op: code.Other, Args: []*code.Expr{e}}
		default:
			return e
		}
	}
	return e
}

// typeArguments reads those at the cursor, if that is what the bracket opens.
func (r *reader) typeArguments() (types []*model.Type, ok bool) {
	at := *r
	for r.Advance(); ; {
		t := r.typ()
		if t == nil {
			break
		}
		types = append(types, t)
		if !r.Accept(",") {
			break
		}
	}
	if len(types) > 0 && r.Accept(">") && (r.Is("(") || r.Is(".") || r.Is("{") || r.java() && r.Kind() == scan.Ident) {
		return types, true
	}
	*r = at
	return nil, false
}

// arguments reads those of a call from their bracket on.
func (r *reader) arguments(call *code.Expr) {
	outside := r.conditional
	r.conditional = false
	defer func() { r.conditional = outside }()
	shut := r.Shut()
	for r.Advance(); r.I < shut; {
		start := r.I
		label := ""
		if r.swift() && r.Kind() == scan.Ident && r.Ahead(1, ":") || r.kotlin() && r.Kind() == scan.Ident && r.Ahead(1, "=") && !r.Ahead(2, "=") {
			label = r.Text()
			r.I += 2
		}
		call.Args = append(call.Args, r.expr(shut))
		call.Labels = append(call.Labels, label)
		r.to(shut, ",")
		r.Accept(",")
		if r.I == start {
			r.Advance()
		}
	}
	r.I = shut + 1
}
