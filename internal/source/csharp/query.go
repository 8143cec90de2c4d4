package csharp

import (
	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// queryAhead says whether a query begins at the cursor: from x in xs, from Port x in xs.
func (p *parser) queryAhead() bool {
	if !p.Is("from") || p.KindAhead(1) != scan.Ident || p.Ahead(1, "is") || p.Ahead(1, "as") {
		return false
	}
	if p.Ahead(2, "in") {
		return true
	}
	start := p.I
	defer func() { p.I = start }()
	p.Advance()
	return p.typ() != nil && p.Kind() == scan.Ident && p.Ahead(1, "in")
}

// query reads one ("Query expressions") as the calls that the compiler makes of it. Names that are declared on the
// way, by let, join or a second from, are handed on in a Record of all of them.
func (p *parser) query() *code.Expr {
	q := &query{p: p}
	q.from()
	for q.clause() {
	}
	return q.e
}

// query is one that is being read: the calls so far, and the names that their elements go by.
type query struct {
	p     *parser
	e     *code.Expr
	names []string
}

// from reads the first clause.
func (q *query) from() {
	name, t, in := q.source()
	q.names = []string{name}
	if t != nil {
		in = q.called(in, "Cast", nil)
		in.Types = []*model.Type{t}
	}
	q.e = in
}

// source reads x in xs, from the word before it on.
func (q *query) source() (name string, t *model.Type, in *code.Expr) {
	p := q.p
	p.Advance()
	if !p.Ahead(1, "in") {
		t = p.typ()
	}
	name = p.Text()
	p.Advance()
	p.Accept("in")
	return name, t, p.expr()
}

// called is a call of a method of what the query yields so far.
func (q *query) called(of *code.Expr, method string, args ...*code.Expr) *code.Expr {
	pos := q.p.Where()
	e := &code.Expr{Op: code.Call, Args: []*code.Expr{{Op: code.Member, Text: method, Args: []*code.Expr{of}, Pos: pos}}, Pos: pos}
	for _, a := range args {
		if a != nil {
			e.Args, e.Labels = append(e.Args, a), append(e.Labels, "")
		}
	}
	return e
}

// each is a function of an element of the query, and of more.
func (q *query) each(e *code.Expr, more ...string) *code.Expr {
	fn := &code.Func{File: q.p.F.Name, Pos: e.Pos, Body: []code.Stmt{{Op: code.Return, Value: e}}}
	if len(q.names) == 1 {
		fn.Params = []code.Param{{Name: q.names[0], Pos: e.Pos}}
	} else { // several names stand for the members of a record
		fn.Params = []code.Param{{Name: "$all", Pos: e.Pos}}
		var lets []code.Stmt
		for _, name := range q.names {
			lets = append(lets, code.Stmt{Op: code.Let, Name: name, Value: &code.Expr{Op: code.Member, Text: name, Args: []*code.Expr{{Op: code.Name, Text: "$all", Pos: e.Pos}}, Pos: e.Pos}})
		}
		fn.Body = append(lets, fn.Body...)
	}
	for _, name := range more {
		fn.Params = append(fn.Params, code.Param{Name: name, Pos: e.Pos})
	}
	return lambdaOf(fn)
}

// with is a record of the names so far and of one more.
func (q *query) with(name string, v *code.Expr) *code.Expr {
	e := &code.Expr{Op: code.Record, Text: "new", Pos: v.Pos}
	for _, known := range q.names {
		e.Args, e.Labels = append(e.Args, &code.Expr{Op: code.Name, Text: known, Pos: v.Pos}), append(e.Labels, known)
	}
	e.Args, e.Labels = append(e.Args, v), append(e.Labels, name)
	return e
}

// clause reads one clause, and says whether the query goes on.
func (q *query) clause() bool {
	p := q.p
	switch {
	case p.Accept("where"):
		q.e = q.called(q.e, "Where", q.each(p.expr()))
	case p.Is("let"):
		p.Advance()
		name := p.Text()
		p.Advance()
		p.Accept("=")
		v := p.expr()
		q.e = q.called(q.e, "Select", q.each(q.with(name, v)))
		q.names = append(q.names, name)
	case p.Is("from"):
		name, _, in := q.source()
		fn := q.each(q.with(name, &code.Expr{Op: code.Name, Text: name, Pos: in.Pos}), name)
		q.e = q.called(q.e, "SelectMany", q.each(in), fn)
		q.names = append(q.names, name)
	case p.Is("join"):
		name, _, in := q.source()
		p.Accept("on")
		left := p.expr()
		p.Accept("equals")
		right := p.expr()
		method := "Join"
		inner := q.named(right, name)
		if p.Accept("into") {
			method, name = "GroupJoin", p.Text()
			p.Advance()
		}
		fn := q.each(q.with(name, &code.Expr{Op: code.Name, Text: name, Pos: in.Pos}), name)
		q.e = q.called(q.e, method, in, q.each(left), inner, fn)
		q.names = append(q.names, name)
	case p.Is("orderby"):
		p.Advance()
		for method := "OrderBy"; ; method = "ThenBy" {
			by := p.expr()
			if p.Accept("descending") {
				method += "Descending"
			} else {
				p.Accept("ascending")
			}
			q.e = q.called(q.e, method, q.each(by))
			if !p.Accept(",") {
				break
			}
		}
	case p.Accept("select"):
		q.e = q.called(q.e, "Select", q.each(p.expr()))
		return q.into()
	case p.Accept("group"):
		of := p.expr()
		p.Accept("by")
		q.e = q.called(q.e, "GroupBy", q.each(p.expr()), q.each(of))
		return q.into()
	default:
		return false
	}
	return true
}

// named is a function of one parameter.
func (q *query) named(e *code.Expr, name string) *code.Expr {
	return lambdaOf(&code.Func{File: q.p.F.Name, Pos: e.Pos, Params: []code.Param{{Name: name, Pos: e.Pos}}, Body: []code.Stmt{{Op: code.Return, Value: e}}})
}

// into reads the name by which a query goes on with what it yields.
func (q *query) into() bool {
	if !q.p.Accept("into") {
		return false
	}
	q.names = []string{q.p.Text()}
	q.p.Advance()
	return true
}
