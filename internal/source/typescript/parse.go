package typescript

import "vetta/internal/model"

// parser reads the tokens of one file.
type parser struct {
	u     *unit
	all   []token
	i     int
	bad   bool // what is tried does not fit
	depth int
	scope *scope
	// free are the type parameters that are declared around.
	free    []string
	ambient bool // inside of declare
	// noCondition counts the places around where extends is no conditional type.
	noCondition int
	noIn        bool        // in is no operator: in the head of a loop
	paramNodes  []paramNode // of the parameters that were read last
	takesAny    bool        // one of those says that it may be anything
}

// maxDepth is how deep expressions, types and blocks are read into each other; what is deeper is passed over.
const maxDepth = 256

func (p *parser) tok() *token { return &p.all[p.i] }

func (p *parser) peek(n int) *token {
	if p.i+n >= len(p.all) {
		return &p.all[len(p.all)-1]
	}
	return &p.all[p.i+n]
}

func (p *parser) next() *token {
	t := p.tok()
	if p.i < len(p.all)-1 {
		p.i++
	}
	return t
}

// is says whether the next token is a mark or a word.
func (p *parser) is(val string) bool { return p.tok().is(val) }

func (t *token) is(val string) bool { return (t.kind == punct || t.kind == ident) && t.val == val }

func (p *parser) eat(val string) bool {
	if p.is(val) {
		p.next()
		return true
	}
	return false
}

// want passes over a mark; where it is not there, what is tried does not fit.
func (p *parser) want(val string) {
	if !p.eat(val) {
		p.bad = true
	}
}

func (p *parser) end() int32 {
	if p.i == 0 {
		return 0
	}
	return p.all[p.i-1].end
}

// try does something, and goes back where it does not fit.
func try[T any](p *parser, read func() T) (out T, ok bool) {
	from, bad := p.i, p.bad
	p.bad = false
	out = read()
	if ok = !p.bad; !ok {
		p.i = from
	}
	p.bad = bad
	return out, ok
}

// deep says whether what is read is too deep; up is called behind it.
func (p *parser) deep() bool {
	p.depth++
	if p.depth > maxDepth {
		p.bad = true
		return true
	}
	return false
}

func (p *parser) up() { p.depth-- }

func (p *parser) pos(t *token) model.Pos { return p.u.at.of(t.start) }

// sub reads tokens that stand inside of another: the hole of a template.
func (p *parser) sub(all []token) *parser {
	inner := *p
	inner.all, inner.i = all, 0
	return &inner
}

// skip passes over a bracket and what is in it, or over one token.
func (p *parser) skip() {
	open := 0
	for {
		t := p.next()
		if t.kind == punct {
			switch t.val {
			case "(", "[", "{":
				open++
			case ")", "]", "}":
				open--
			}
		}
		if open <= 0 || t.kind == eof {
			return
		}
	}
}

// closing is the index of the token that closes the bracket at i, the last one where none does.
func (p *parser) closing(i int) int {
	open := 0
	for ; i < len(p.all)-1; i++ {
		if t := &p.all[i]; t.kind == punct {
			switch t.val {
			case "(", "[", "{":
				open++
			case ")", "]", "}":
				if open--; open == 0 {
					return i
				}
			}
		}
	}
	return len(p.all) - 1
}

// late is the type that a node stands for in code, which is looked up once all files are read.
func (p *parser) late(n *node) *model.Type {
	if n == nil {
		return nil
	}
	t := &model.Type{Kind: model.Opaque, Name: p.written(n)}
	p.u.pending = append(p.u.pending, pending{t, n, p.scope, p.free[:len(p.free):len(p.free)]})
	return t
}

// pending is a type in code that is not looked up yet.
type pending struct {
	typ   *model.Type
	node  *node
	scope *scope
	free  []string
}

func (p *parser) written(n *node) string {
	if n.start < n.end && int(n.end) <= len(p.u.src) {
		return oneLine(p.u.src[n.start:n.end])
	}
	return n.name
}
