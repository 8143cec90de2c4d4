package dart

import (
	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// collection reads a list, set or map literal from its bracket on. One in braces is a Dict, unless an element
// without a colon says that it is a set: then it is a List with "{" as its Text.
func (p *parser) collection(types []*model.Type) *code.Expr {
	list := p.Is("[")
	e := &code.Expr{Op: code.Dict, Types: types, Pos: p.Where()}
	if list {
		e.Op = code.List
	}
	shut := p.Shut()
	if shut == p.I {
		p.Advance()
		return e
	}
	set := !list && len(types) == 1
	p.Advance()
	for p.I < shut {
		start := p.I
		a := p.element()
		if list || a.Op != code.Entry {
			e.Args = append(e.Args, a)
			set = set || !list && a.Op != code.Spread && a.Op != code.Gather
			if !list && !set {
				e.Args = append(e.Args, nil)
			}
		} else {
			e.Args = append(e.Args, a.Args...)
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
	if !list && !set && len(types) == 0 && len(e.Args) > 0 && onlySpreads(e.Args) {
		set = !p.yieldsEntries(e.Args)
	}
	if set {
		e.Op, e.Text = code.List, "{"
		kept := e.Args[:0]
		for _, a := range e.Args {
			if a != nil {
				kept = append(kept, a)
			}
		}
		e.Args = kept
	}
	return e
}

// onlySpreads says whether nothing in braces tells by itself whether they are a set.
func onlySpreads(args []*code.Expr) bool {
	for _, a := range args {
		if a != nil && a.Op != code.Spread && a.Op != code.Gather {
			return false
		}
	}
	return true
}

// yieldsEntries says whether what loops and branches in braces have are entries of a map. Of spreads alone the
// value tells when it runs: they are taken for a map's, unless a list is spread.
func (p *parser) yieldsEntries(args []*code.Expr) bool {
	for _, a := range args {
		if a == nil {
			continue
		}
		if a.Op == code.Spread {
			if len(a.Args) > 0 && listLike(a.Args[0]) {
				return false
			}
			continue
		}
		var yields func(body []code.Stmt) (entry, found bool)
		yields = func(body []code.Stmt) (entry, found bool) {
			for _, s := range body {
				if s.Op == code.Do && s.Kind == code.Plain && s.Name == "element" {
					return s.Value.Op == code.Entry, true
				}
				if entry, found := yields(s.Body); found {
					return entry, true
				}
			}
			return false, false
		}
		if entry, found := yields(a.Body); found && !entry {
			return false
		}
	}
	return true
}

// listLike says whether an expression yields a list by the look of it.
func listLike(e *code.Expr) bool {
	switch e.Op {
	case code.List:
		return true
	case code.As:
		return e.Type != nil && (e.Type.Unwrapped().Name == "List" || e.Type.Unwrapped().Name == "Set" || e.Type.Unwrapped().Name == "Iterable")
	case code.Call:
		if len(e.Args) == 0 || e.Args[0].Op != code.Member {
			return false
		}
		switch e.Args[0].Text {
		case "map", "toList", "toSet", "where", "whereType", "expand":
			return true
		}
	case code.Choice:
		for _, a := range e.Args {
			if listLike(a) {
				return true
			}
		}
	}
	return false
}

// element reads one element of a collection: an expression, an entry, a spread, or a loop or branch that has some.
func (p *parser) element() *code.Expr {
	if p.depth++; p.depth > maxDepth {
		p.depth--
		p.Jump()
		return p.other()
	}
	defer func() { p.depth-- }()
	pos := p.Where()
	switch {
	case p.Operator("...?"):
		p.I += 4
		return with(&code.Expr{Op: code.Spread, Args: []*code.Expr{p.expr()}, Pos: pos}, code.Chained)
	case p.Operator("..."):
		p.I += 3
		return &code.Expr{Op: code.Spread, Args: []*code.Expr{p.expr()}, Pos: pos}
	case p.Is("if") && p.Ahead(1, "("), p.Is("for") && p.Ahead(1, "("), p.Is("await") && p.Ahead(1, "for"):
		return &code.Expr{Op: code.Gather, Body: p.gathered(), Pos: pos}
	case p.Is("?") && p.KindAhead(1) != scan.Punct: // ?x: nothing where it is null
		p.Advance()
		return with(&code.Expr{Op: code.Spread, Text: "one", Args: []*code.Expr{p.expr()}, Pos: pos}, code.Chained)
	}
	e := p.expr()
	if p.Accept(":") {
		return &code.Expr{Op: code.Entry, Args: []*code.Expr{e, p.expr()}, Pos: pos}
	}
	return e
}

// gathered reads a loop or a branch whose body is an element.
func (p *parser) gathered() []code.Stmt {
	p.Accept("await")
	if p.Accept("for") {
		loop := p.forHead()
		loop.Body = append(loop.Body, p.elementStmt()...)
		return []code.Stmt{loop}
	}
	p.Advance() // if
	branch := code.Stmt{Op: code.Block, Kind: code.If, Heads: 1}
	branch.Body = append([]code.Stmt{{Op: code.Block, Value: p.condition()}}, p.elementStmt()...)
	out := []code.Stmt{branch}
	if p.Accept("else") {
		out = append(out, code.Stmt{Op: code.Block, Kind: code.Else, Body: p.elementStmt()})
	}
	return out
}

// elementStmt is an element as the body of a loop or a branch.
func (p *parser) elementStmt() []code.Stmt {
	e := p.element()
	if e.Op == code.Gather {
		return e.Body
	}
	return []code.Stmt{{Op: code.Do, Name: "element", Value: e}}
}
