package typescript

import (
	"slices"
	"strings"

	"vetta/internal/code"
)

// arrow reads an arrow function, nil where none stands here.
func (p *parser) arrow() *code.Expr {
	at := p.i
	if p.is("async") && !p.peek(1).line && (p.peek(1).kind == ident && p.peek(2).is("=>") || p.peek(1).is("(") || p.peek(1).is("<")) {
		at++
	}
	t := &p.all[at]
	switch {
	case t.kind == ident && at+1 < len(p.all) && p.all[at+1].is("=>"):
		p.i = at
		name := p.next()
		fn := &code.Func{Params: []code.Param{{Name: name.val, Pos: p.pos(name)}}, File: p.u.file}
		p.next()
		p.takesAny = false
		return p.arrowBody(fn)
	case t.is("("):
		end := p.closing(at)
		if end+1 >= len(p.all) || !p.all[end+1].is("=>") && !p.all[end+1].is(":") {
			return nil
		}
		if p.all[end+1].is(":") && p.noArrow(at, end) {
			return nil
		}
	case t.is("<"):
		if at == p.i && (at+1 >= len(p.all) || p.all[at+1].kind != ident) {
			return nil
		}
	default:
		return nil
	}
	e, ok := try(p, func() *code.Expr {
		p.i = at
		free := len(p.free)
		defer func() { p.free = p.free[:free] }()
		fn := &code.Func{File: p.u.file, Pos: p.pos(t)}
		fn.Generics = generics(p.generics())
		if p.bad || !p.is("(") {
			p.bad = true
			return nil
		}
		fn.Params = p.params()
		if p.eat(":") {
			fn.Returns = p.late(p.typ())
		}
		if p.bad || !p.is("=>") || p.tok().line {
			p.bad = true
			return nil
		}
		p.next()
		bad := p.bad
		e := p.arrowBody(fn)
		p.bad = bad // what is in it is not what tells it
		return e
	})
	if !ok {
		return nil
	}
	return e
}

// noArrow says of a bracket with a colon behind it that it holds no parameters: cond ? (a.b) : c.
func (p *parser) noArrow(from, to int) bool {
	if to == from+1 {
		return false
	}
	first := &p.all[from+1]
	if first.is("{") || first.is("[") || first.is("...") {
		return false
	}
	second := &p.all[from+2]
	return first.kind != ident || !second.is(":") && !second.is(",") && !second.is("?") && !second.is(")") && !second.is("=")
}

func (p *parser) arrowBody(fn *code.Func) *code.Expr {
	if p.is("{") {
		fn.Body = p.functionBody(nil, p.takesAny)
	} else {
		v := p.assignment()
		fn.Body = []code.Stmt{{Op: code.Return, Value: v, From: v.From, To: v.To}}
	}
	return lambda(fn)
}

// lambda is a function as a value. A type that it says it returns is expected of what it returns.
func lambda(fn *code.Func) *code.Expr {
	e := &code.Expr{Op: code.Lambda, Body: fn.Body, Fn: fn}
	for _, param := range fn.Params {
		e.Labels = append(e.Labels, param.Name)
	}
	if fn.Returns != nil {
		e.Body = returning(fn)
	}
	return e
}

// returning is the body of a function with what it returns cast to the type that it says.
func returning(fn *code.Func) []code.Stmt {
	var in func(all []code.Stmt) []code.Stmt
	in = func(all []code.Stmt) []code.Stmt {
		out := make([]code.Stmt, len(all))
		copy(out, all)
		for i := range out {
			if out[i].Op == code.Return && out[i].Value != nil {
				out[i].Value = &code.Expr{Op: code.As, Type: fn.Returns, Args: []*code.Expr{out[i].Value}}
			}
			out[i].Body = in(out[i].Body)
		}
		return out
	}
	return in(fn.Body)
}

// functionValue reads a function as a value.
func (p *parser) functionValue() *code.Expr {
	p.next()
	p.eat("*")
	fn := &code.Func{File: p.u.file, Pos: p.pos(p.tok())}
	if p.tok().kind == ident {
		fn.Name = p.next().val
	}
	p.signed(fn)
	return lambda(fn)
}

// signed reads what stands behind the name of a function: type parameters, parameters, its type and its body.
func (p *parser) signed(fn *code.Func) (result *node) {
	free := len(p.free)
	fn.Generics = generics(p.generics())
	fn.Params = p.params()
	if p.eat(":") {
		result = p.typ()
		fn.Returns = p.late(result)
	}
	if p.is("{") {
		fn.Body = p.functionBody(result, p.takesAny)
	} else {
		fn.Native = true
		p.eat(";")
	}
	p.free = p.free[:free]
	return result
}

// params reads those of a function.
func (p *parser) params() (all []code.Param) {
	p.want("(")
	p.takesAny = false
	any := false
	defer func() { p.takesAny = any }()
	for !p.is(")") && p.tok().kind != eof && !p.bad {
		var a code.Param
		for p.is("@") {
			p.decorator()
		}
		for p.tok().kind == ident && p.peek(1).kind == ident && isModifier(p.tok().val) || p.tok().kind == ident && isModifier(p.tok().val) && (p.peek(1).is("{") || p.peek(1).is("[")) {
			a.Field = true
			if v := p.next().val; v == "private" || v == "protected" {
				a.Label = v
			}
		}
		rest := p.eat("...")
		t := p.tok()
		a.Pos = p.pos(t)
		switch {
		case t.kind == ident:
			a.Name = p.next().val
		case t.is("{") || t.is("["):
			a.Name = p.taken()
		default:
			p.bad = true
			return all
		}
		a.Optional = p.eat("?") || rest
		var n *node
		if p.eat(":") {
			n = p.typ()
			a.Type = p.late(n)
		}
		if p.eat("=") {
			a.Default = p.assignment()
		} else if a.Optional {
			a.Default = &code.Expr{Op: code.Name, Text: "undefined"}
		}
		p.paramNodes = append(p.paramNodes, paramNode{a.Pos, t.start, n})
		any = any || n != nil && n.op == nRef && (n.name == "any" || n.name == "Record" || n.name == "unknown")
		all = append(all, a)
		if !p.eat(",") {
			break
		}
	}
	p.want(")")
	return all
}

func isModifier(word string) bool {
	switch word {
	case "public", "private", "protected", "readonly", "override":
		return true
	}
	return false
}

// asking are what stands in the body of a function that asks for a response, makes a path, or hands a schema on.
var asking = []string{"json", "JSON", "fetch", "axios", "http", ".get", ".post", ".put", ".patch", ".delete", "request", "query", "Query", "SWR", "ajax", ".then", "'/", "\"/", "`/", "parse", "api", "Api", "client", "Client"}

// functionBody reads the body of a function; one that has nothing to do with responses, and takes nothing without a type,
// is passed over, as most are.
func (p *parser) functionBody(result *node, takesAny bool) []code.Stmt {
	end := p.closing(p.i)
	if text := p.u.src[p.tok().start:p.all[end].end]; !p.u.validates && !takesAny && (result == nil || len(result.args) == 0) {
		if !slices.ContainsFunc(asking, func(word string) bool { return strings.Contains(text, word) }) {
			p.i = end
			p.want("}")
			return nil
		}
	}
	return p.block()
}

// taken passes over a pattern that takes a value apart, and answers it where it takes members of an object under their own
// names, as {a,b}; "" for another.
func (p *parser) taken() string {
	end := p.closing(p.i)
	var names []string
	for i := p.i + 1; i < end; i++ {
		t := &p.all[i]
		if t.kind != ident || !p.all[i+1].is(",") && i+1 != end {
			names = nil
			break
		}
		names = append(names, t.val)
		i++
	}
	simple := p.is("{") && names != nil
	p.skip()
	if !simple {
		return ""
	}
	return "{" + strings.Join(names, ",") + "}"
}
