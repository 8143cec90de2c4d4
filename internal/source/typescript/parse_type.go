package typescript

import (
	"strings"

	"vetta/internal/code"
)

// typ reads a type.
func (p *parser) typ() *node {
	start := p.tok().start
	if p.deep() {
		p.up()
		p.skip()
		return &node{op: nLost, start: start, end: p.end()}
	}
	defer p.up()
	n := p.typeOrFunction()
	if p.is("extends") && !p.tok().line && p.conditional() {
		p.next()
		p.noCondition++
		bound := p.typ()
		p.noCondition--
		if p.eat("?") {
			outer := p.noCondition
			p.noCondition = 0
			yes := p.typ()
			p.want(":")
			no := p.typ()
			p.noCondition = outer
			n = &node{op: nConditional, args: []*node{n, bound, yes, no}}
		} else {
			p.bad = true
		}
	}
	n.start, n.end = start, p.end()
	return n
}

func (p *parser) conditional() bool { return p.noCondition == 0 }

func (p *parser) typeOrFunction() *node {
	switch {
	case p.is("new") || p.is("abstract") && p.peek(1).is("new"):
		p.eat("abstract")
		p.next()
		return p.functionType()
	case p.is("<"), p.is("(") && p.isFunctionType():
		return p.functionType()
	case p.is("asserts") && p.peek(1).kind == ident && !p.peek(1).line && !p.peek(1).is("is"):
		p.next()
		p.next()
		if p.eat("is") {
			p.typ()
		}
		return &node{op: nPredicate}
	case p.tok().kind == ident && p.peek(1).is("is") && !p.peek(1).line:
		p.next()
		p.next()
		p.typ()
		return &node{op: nPredicate}
	}
	return p.union()
}

// isFunctionType says whether a bracket opens the parameters of a function type.
func (p *parser) isFunctionType() bool {
	at := p.closing(p.i)
	if at+1 >= len(p.all) || !p.all[at+1].is("=>") {
		return false
	}
	first := p.peek(1)
	if first.is(")") || first.is("...") {
		return true
	}
	if first.is("{") || first.is("[") {
		return true
	}
	second := p.peek(2)
	return first.kind == ident && (second.is(":") || second.is(",") || second.is("?") || second.is(")") || second.is("="))
}

func (p *parser) functionType() *node {
	n := &node{op: nFunction}
	free := len(p.free)
	n.generics = p.generics()
	n.params = p.params()
	outer := p.noCondition
	if p.eat("=>") {
		n.result = p.typ()
	} else {
		p.bad = true
	}
	p.noCondition = outer
	p.free = p.free[:free]
	return n
}

// generics reads type parameters, if any; they are free names from there on.
func (p *parser) generics() (all []*generic) {
	if !p.is("<") {
		return nil
	}
	p.next()
	for !p.is(">") && p.tok().kind != eof && !p.bad {
		for p.is("const") || p.is("in") || p.is("out") && p.peek(1).kind == ident {
			p.next()
		}
		t := p.next()
		if t.kind != ident {
			p.bad = true
			return all
		}
		g := &generic{name: t.val}
		p.free = append(p.free[:len(p.free):len(p.free)], t.val)
		if p.eat("extends") {
			g.bound = p.typ()
		}
		if p.eat("=") {
			g.byName = p.typ()
		}
		all = append(all, g)
		if !p.eat(",") && !p.is(">") {
			p.bad = true
		}
	}
	p.want(">")
	return all
}

func generics(all []*generic) (names []string) {
	for _, g := range all {
		names = append(names, g.name)
	}
	return names
}

func (p *parser) union() *node {
	start := p.tok().start
	p.eat("|")
	n := p.intersection()
	if !p.is("|") {
		return n
	}
	all := []*node{n}
	for p.eat("|") {
		all = append(all, p.intersection())
	}
	return &node{op: nUnion, args: all, start: start, end: p.end()}
}

func (p *parser) intersection() *node {
	start := p.tok().start
	p.eat("&")
	n := p.prefixed()
	if !p.is("&") {
		return n
	}
	all := []*node{n}
	for p.eat("&") {
		all = append(all, p.prefixed())
	}
	return &node{op: nIntersect, args: all, start: start, end: p.end()}
}

func (p *parser) prefixed() *node {
	if p.deep() {
		p.up()
		p.skip()
		return &node{op: nLost}
	}
	defer p.up()
	start := p.tok().start
	done := func(n *node) *node {
		n.start, n.end = start, p.end()
		return n
	}
	t := p.tok()
	if t.kind == ident && !p.endsType(p.peek(1)) {
		switch t.val {
		case "keyof":
			p.next()
			return done(&node{op: nKeyof, args: []*node{p.prefixed()}})
		case "unique":
			p.next()
			p.prefixed()
			return done(&node{op: nUnique})
		case "readonly":
			p.next()
			return p.prefixed()
		case "infer":
			p.next()
			n := &node{op: nInfer, name: p.next().val}
			if p.is("extends") {
				if bound, ok := try(p, func() *node {
					p.next()
					p.noCondition++
					b := p.typ()
					p.noCondition--
					if p.is("?") && p.noCondition == 0 {
						p.bad = true
					}
					return b
				}); ok {
					n.args = []*node{bound}
				}
			}
			return done(n)
		}
	}
	return p.postfix()
}

// endsType says whether a token cannot begin a type, so that a word before it is a name.
func (p *parser) endsType(t *token) bool {
	if t.line && t.kind != ident && !t.is("{") && !t.is("(") && !t.is("[") {
		return true
	}
	switch t.kind {
	case ident, text, number, quasi:
		return false
	case punct:
		switch t.val {
		case "{", "(", "[", "<", "-":
			return false
		}
	}
	return true
}

func (p *parser) postfix() *node {
	start := p.tok().start
	n := p.primary()
	for {
		switch {
		case p.is("[") && !p.tok().line:
			p.next()
			if p.eat("]") {
				n = &node{op: nArray, args: []*node{n}}
			} else {
				outer := p.noCondition
				p.noCondition = 0
				by := p.typ()
				p.noCondition = outer
				p.want("]")
				n = &node{op: nIndexed, args: []*node{n, by}}
			}
		case p.is("!") && !p.tok().line: // of a JSDoc type
			p.next()
		default:
			return n
		}
		n.start, n.end = start, p.end()
	}
}

func (p *parser) primary() *node {
	t := p.tok()
	n := &node{start: t.start}
	defer func() { n.end = p.end() }()
	switch t.kind {
	case text:
		p.next()
		n.op, n.val = nString, t.val
		return n
	case number:
		p.next()
		n.op, n.val = nNumber, t.val
		if strings.HasSuffix(t.val, "n") {
			n.op, n.val = nBig, strings.TrimSuffix(t.val, "n")
		}
		return n
	case quasi:
		p.next()
		n.op, n.parts = nTemplate, t.parts
		for _, hole := range t.holes {
			sub := p.sub(hole)
			n.args = append(n.args, sub.typ())
		}
		return n
	case punct:
		switch t.val {
		case "(":
			p.next()
			outer := p.noCondition
			p.noCondition = 0
			inner := p.typ()
			p.noCondition = outer
			p.want(")")
			*n = *inner
			return n
		case "[":
			p.tuple(n)
			return n
		case "{":
			outer := p.noCondition
			p.noCondition = 0
			if m, ok := try(p, p.mappedType); ok {
				n.op, n.mapped = nMapped, m
			} else {
				n.op, n.members = nObject, p.members()
			}
			p.noCondition = outer
			return n
		case "-":
			p.next()
			if p.tok().kind == number {
				n.op, n.val = nNumber, "-"+p.next().val
				if v, ok := strings.CutSuffix(n.val, "n"); ok {
					n.op, n.val = nBig, v
				}
				return n
			}
		case "*", "?": // of JSDoc
			p.next()
			n.op, n.name = nRef, "any"
			return n
		}
	case ident:
		switch {
		case t.val == "typeof" && p.peek(1).kind == ident:
			p.next()
			n.op = nTypeof
			if p.is("import") {
				p.importType(n)
				n.op = nLost
				return n
			}
			n.name = p.qualified()
			if p.is("<") && !p.tok().line {
				n.args = p.typeArgs()
			}
			return n
		case t.val == "import" && p.peek(1).is("("):
			p.importType(n)
			return n
		case t.val == "this":
			p.next()
			n.op = nThis
			return n
		}
		n.op, n.name = nRef, p.qualified()
		if p.is("<") && !p.tok().line {
			n.args = p.typeArgs()
		}
		return n
	}
	p.bad = true
	n.op = nLost
	if !p.is("}") && !p.is(")") && !p.is("]") && !p.is(";") && !p.is(",") {
		p.next()
	}
	return n
}

func (p *parser) importType(n *node) {
	n.op = nImport
	p.next()
	p.want("(")
	n.val = p.next().val
	for !p.is(")") && p.tok().kind != eof {
		p.skip()
	}
	p.want(")")
	if p.eat(".") {
		n.name = p.qualified()
	}
	if p.is("<") {
		n.args = p.typeArgs()
	}
}

func (p *parser) qualified() string {
	name := p.next().val
	for p.is(".") && p.peek(1).kind == ident {
		p.next()
		name += "." + p.next().val
	}
	return name
}

func (p *parser) typeArgs() (all []*node) {
	p.want("<")
	outer := p.noCondition
	p.noCondition = 0
	for !p.is(">") && p.tok().kind != eof && !p.bad {
		all = append(all, p.typ())
		if !p.eat(",") {
			break
		}
	}
	p.noCondition = outer
	p.want(">")
	return all
}

func (p *parser) tuple(n *node) {
	n.op = nTuple
	p.next()
	outer := p.noCondition
	p.noCondition = 0
	for !p.is("]") && p.tok().kind != eof && !p.bad {
		var e element
		if p.eat("...") {
			e.rest = true
		}
		if p.tok().kind == ident && (p.peek(1).is(":") || p.peek(1).is("?") && p.peek(2).is(":")) {
			p.next()
			e.optional = p.eat("?")
			p.next()
		}
		n.args = append(n.args, p.typ())
		if p.eat("?") {
			e.optional = true
		}
		n.elems = append(n.elems, e)
		if !p.eat(",") {
			break
		}
	}
	p.noCondition = outer
	p.want("]")
}

// mappedType reads { [K in keys as name]?: value }.
func (p *parser) mappedType() *mapped {
	m := &mapped{}
	p.want("{")
	if p.is("+") || p.is("-") {
		p.next()
		p.want("readonly")
	} else if p.is("readonly") && p.peek(1).is("[") {
		p.next()
	}
	p.want("[")
	if p.bad || p.tok().kind != ident || !p.peek(1).is("in") {
		p.bad = true
		return nil
	}
	m.name = p.next().val
	p.next()
	free := len(p.free)
	p.free = append(p.free[:free:free], m.name)
	m.keys = p.typ()
	if p.eat("as") {
		m.as = p.typ()
	}
	p.want("]")
	switch {
	case p.is("-") || p.is("+"):
		m.optional = p.next().val[0]
		p.want("?")
	case p.eat("?"):
		m.optional = '+'
	}
	if p.eat(":") {
		m.value = p.typ()
	}
	p.free = p.free[:free]
	p.eat(";")
	p.eat(",")
	p.want("}")
	return m
}

// members reads those of an interface or an object type.
func (p *parser) members() (all []*member) {
	p.want("{")
	for !p.is("}") && p.tok().kind != eof {
		from := p.i
		if m := p.member(); m != nil {
			all = append(all, m)
		}
		for p.eat(";") || p.eat(",") {
		}
		if p.i == from {
			p.skip()
		}
	}
	p.want("}")
	return all
}

// member reads one member.
func (p *parser) member() *member {
	m := &member{start: p.tok().start}
	defer func() { m.end = p.end() }()
	if p.is("(") || p.is("<") || p.is("new") && (p.peek(1).is("(") || p.peek(1).is("<")) {
		p.eat("new")
		m.call, m.method = true, true
		p.signature(m)
		return m
	}
	for (p.is("readonly") || p.is("public") || p.is("declare")) && !p.namesMember(p.peek(1)) {
		p.next()
	}
	if (p.is("get") || p.is("set")) && !p.namesMember(p.peek(1)) {
		m.getter, m.setter = p.is("get"), p.is("set")
		p.next()
	}
	m.start = p.tok().start
	if !p.memberName(m) {
		return nil
	}
	m.optional = p.eat("?")
	switch {
	case p.is("(") || p.is("<"):
		m.method = !m.getter && !m.setter
		p.signature(m)
	case p.eat(":"):
		m.typ = p.typ()
	}
	return m
}

// namesMember says whether the token behind a word shows that the word is the name of a member.
func (p *parser) namesMember(t *token) bool {
	return t.is(":") || t.is("?") || t.is("(") || t.is("<") || t.is("}") || t.is(";") || t.is(",") || t.is("=") || t.is("!") && !t.line || t.kind == eof
}

// memberName reads the name of a member, or the key of an index signature; false for none.
func (p *parser) memberName(m *member) bool {
	t := p.tok()
	switch {
	case t.kind == ident || t.kind == text:
		m.name = p.next().val
		if strings.HasPrefix(m.name, "#") && t.kind == ident {
			m.private = true
		}
		return true
	case t.kind == number:
		m.name = numberName(p.next().val)
		return true
	case t.is("["):
		if p.peek(1).kind == ident && p.peek(2).is(":") {
			p.next()
			p.next()
			p.next()
			m.index = p.typ()
			p.want("]")
			return true
		}
		p.next()
		m.computed = p.assignment()
		p.want("]")
		if m.computed.Op == code.Text && len(m.computed.Args) == 0 {
			m.name, m.computed = m.computed.Text, nil
		} else if m.computed.Op == code.Number {
			m.name, m.computed = numberName(m.computed.Text), nil
		}
		return true
	}
	return false
}

// signature reads type parameters, parameters and the type of a method.
func (p *parser) signature(m *member) {
	free := len(p.free)
	n := &node{op: nFunction, start: p.tok().start}
	n.generics = p.generics()
	n.params = p.params()
	if p.eat(":") {
		n.result = p.typ()
	}
	n.end = p.end()
	p.free = p.free[:free]
	if m.getter {
		m.typ = n.result
	} else if m.setter {
		m.typ = nil
	} else {
		m.typ = n
	}
}
