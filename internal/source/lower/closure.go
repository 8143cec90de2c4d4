package lower

import (
	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// arrow reads a lambda of Java with one parameter, name -> …; nil where none is.
func (r *reader) arrow(end int) *code.Expr {
	if !r.java() || !r.Ahead(1, "-") || !r.Ahead(2, ">") {
		return nil
	}
	name := r.Text()
	r.I += 3
	e := r.arrowBody(end)
	e.Labels = []string{name}
	return e
}

func (r *reader) arrowBody(end int) *code.Expr {
	if r.Is("{") {
		return &code.Expr{Op: code.Lambda, Body: r.body()}
	}
	start := r.I
	e := r.expr(end)
	return &code.Expr{Op: code.Lambda, Body: []code.Stmt{{Op: code.Do, Value: e, From: r.F.TokenAt(start).Start, To: e.To}}}
}

// lambda reads a closure from its brace on.
func (r *reader) lambda() *code.Expr {
	e := &code.Expr{Op: code.Lambda, Pos: r.Where()}
	open, shut := r.I, r.Shut()
	r.Advance()
	if body := r.closureBody(shut); body > 0 {
		var takes []*model.Type
		typed := false
		if r.Is("[") {
			r.Jump()
		}
		r.Accept("(")
		for named := true; r.I < body; {
			if r.Kind() == scan.Ident && named {
				e.Labels, takes = append(e.Labels, r.Text()), append(takes, code.Nothing)
			}
			if named = r.Is(","); r.Kind() == scan.Ident && r.Ahead(1, ":") {
				r.I += 2
				if t := r.typ(); t != nil && len(takes) > 0 {
					takes[len(takes)-1], typed = t, true
				}
				continue
			}
			r.Advance()
		}
		if typed {
			e.Type = code.FunctionType(takes, nil)
		}
		r.I = body
	}
	e.Body = r.block(shut)
	r.I = shut + 1
	return r.span(e, open)
}

// closureBody is the token behind in or the arrow that ends the parameters of a closure, 0 where it names
// none.
func (r *reader) closureBody(shut int) int {
	for i := r.I; i < min(shut, r.I+80); i++ {
		switch f := r.F; {
		case r.swift() && f.Is(i, "in"):
			return i + 1
		case r.kotlin() && f.Is(i, "-") && f.Is(i+1, ">"):
			return i + 2
		case f.Is(i, "(") && i > r.I && !r.swift(), f.Is(i, "{"), f.Is(i, "="), f.KindAt(i) == scan.String, f.Is(i, ";"), f.Is(i, "return"), r.swift() && i > r.I && f.TokenAt(i).Newline && !f.Is(i-1, ","):
			return 0
		case f.Is(i, "(") || f.Is(i, "["):
			if m := f.Partner(i); m > i {
				i = m
			}
		}
	}
	return 0
}

// trailing reads closures behind the arguments of a call.
func (r *reader) trailing(end int, call *code.Expr) {
	for r.I < end && !r.java() && !r.conditional && !r.Newline() {
		label := ""
		if len(call.Args) > 1 && r.swift() && r.Kind() == scan.Ident && r.Ahead(1, ":") && r.Ahead(2, "{") {
			label = r.Text()
			r.I += 2
		}
		if !r.Is("{") {
			return
		}
		call.Args = append(call.Args, r.lambda())
		call.Labels = append(call.Labels, label)
	}
}
