package lower

import (
	"vetta/internal/code"
	"vetta/internal/source/scan"
)

// block reads statements up to a token.
func (r *reader) block(end int) (all []code.Stmt) {
	if r.depth++; r.depth > maxDepth {
		r.depth--
		r.I = end
		return nil
	}
	outside := r.conditional
	r.conditional = false
	defer func() { r.depth--; r.conditional = outside }()
	for r.I < end {
		start := r.I
		r.statement(end, &all)
		if r.I <= start {
			r.I = start + 1
		}
	}
	r.I = end
	return all
}

// blockWords begin statements that have blocks; what decides them stands between.
var blockWords = map[string]bool{
	"if": true, "guard": true, "while": true, "for": true, "switch": true, "when": true, "do": true, "try": true, "catch": true,
	"else": true, "defer": true, "repeat": true, "finally": true, "synchronized": true,
}

// statement reads one statement, or as many as it is made of.
func (r *reader) statement(end int, all *[]code.Stmt) {
	for r.Is("@") {
		r.I += 2
		if r.Is("(") {
			r.Jump()
		}
	}
	switch {
	case r.Is(";") || r.Is(","):
		r.Advance()
	case r.Is("{") && r.java():
		*all = append(*all, code.Stmt{Op: code.Block, Body: r.body()})
	case r.Is("return") || r.Is("yield") && r.java():
		r.Advance()
		for r.Is("@") { // return@label
			r.I += 2
		}
		s := code.Stmt{Op: code.Return}
		if r.I < end && !r.Is("}") && !r.Is(";") && !(r.Newline() && !r.java()) {
			s.Value = r.expr(end)
		}
		*all = append(*all, s)
	case r.Kind() == scan.Ident && blockWords[r.Text()] && !r.isTry():
		*all = append(*all, r.blockStatement(end))
	case r.atLabel():
		s := code.Stmt{Op: code.Block, Name: r.label(end)}
		for r.I < end && !r.atLabel() {
			start := r.I
			r.statement(end, &s.Body)
			if r.I <= start {
				r.I = start + 1
			}
		}
		*all = append(*all, s)
	case r.isLet():
		r.let(end, all)
	case (r.Is("fun") || r.Is("func")) && r.KindAhead(1) == scan.Ident:
		r.toBefore(end, "(")
		r.Jump()
		r.toBefore(end, "{", "=")
		if r.Is("{") {
			*all = append(*all, code.Stmt{Op: code.Block, Body: []code.Stmt{{Op: code.Do, Value: &code.Expr{Op: code.Lambda, Body: r.body()}}, {}}})
		}
	default:
		r.plain(end, all)
	}
}

// isTry says whether try at the cursor is the one that only marks an expression.
func (r *reader) isTry() bool { return r.Is("try") && r.swift() }

// atLabel says whether a case of a switch begins at the cursor.
func (r *reader) atLabel() bool {
	return r.Is("case") || r.Is("default") && (r.Ahead(1, ":") || r.Ahead(1, "-"))
}

// label passes over what stands before the statements of a case, and answers the constant that it is for:
// of .port(let code) port.
func (r *reader) label(end int) (name string) {
	for r.Advance(); r.I < end; r.Jump() {
		if r.Accept(":") {
			return name
		}
		if r.Operator("->") {
			r.I += 2
			return name
		}
		if r.Kind() == scan.Ident && !r.Is("let") && !r.Is("var") {
			name = r.F.Ident(r.I)
		}
	}
	return name
}

// isLet says whether a variable is declared at the cursor.
func (r *reader) isLet() bool {
	switch {
	case r.Is("let") || r.Is("val"):
		return !r.java()
	case r.Is("var") || r.Is("final"):
		return r.KindAhead(1) == scan.Ident || r.Ahead(1, "(")
	case r.java() && r.Kind() == scan.Ident && (r.KindAhead(1) == scan.Ident || r.Ahead(1, "<") || r.Ahead(1, "[") || r.Ahead(1, ".")):
		t, next := r.Type(r.I)
		return t != nil && r.F.KindAt(next) == scan.Ident && (r.F.Is(next+1, "=") || r.F.Is(next+1, ";") || r.F.Is(next+1, ":"))
	}
	return false
}

// let reads the declaration of a variable.
func (r *reader) let(end int, all *[]code.Stmt) {
	for r.Is("final") {
		r.Advance()
	}
	s := code.Stmt{Op: code.Let}
	if r.java() {
		if s.Type = r.typ(); r.F.Is(r.I-1, "var") {
			s.Type = nil
		}
		s.Name = r.Text()
		r.Advance()
	} else {
		r.Advance()
		if r.Is("(") { // several at once
			r.Jump()
		} else {
			s.Name = r.Text()
			r.Advance()
			if r.Accept(":") {
				s.Type = r.typ()
			}
		}
	}
	switch {
	case r.Is("=") || r.Is(":") && r.java():
		r.Advance()
		s.Value = r.expr(end)
	case r.Is("by") && r.kotlin():
		r.Advance()
		s.Value = r.expr(end)
	default: // if let name
		s.Value = &code.Expr{Op: code.Other}
	}
	*all = append(*all, s)
}

// blockStatement reads a statement from a word of blockWords on: what it decides by, then its block or
// its one statement.
func (r *reader) blockStatement(end int) code.Stmt {
	s := code.Stmt{Op: code.Block}
	word := r.Text()
	r.Advance()
	if word == "else" && r.Is("if") {
		return r.blockStatement(end)
	}
	if r.swift() {
		r.conditional = true
		for r.I < end && !r.Is("{") {
			start := r.I
			switch {
			case r.Is("case") || r.Is("for") || r.Is("in") || r.Is(",") || r.Is("else") || r.Is("="):
				r.Advance()
			case r.isLet():
				r.let(end, &s.Body)
			case r.Newline() && word != "guard" && word != "if":
				r.conditional = false
				return s
			default:
				s.Body = append(s.Body, code.Stmt{Op: code.Block, Value: r.expr(end)})
			}
			if r.I == start {
				r.Advance()
			}
		}
		r.conditional = false
	} else if r.Is("(") {
		shut := r.Shut()
		r.Advance()
		for r.I < shut {
			start := r.I
			if r.isLet() {
				r.let(shut, &s.Body)
			} else {
				s.Body = append(s.Body, code.Stmt{Op: code.Block, Value: r.expr(shut)})
			}
			if r.Is(";") || r.Is("-") || r.I == start {
				r.Advance()
			}
		}
		r.I = shut + 1
	}
	switch {
	case r.Is("{") && r.I < end && word == "when":
		s.Body = append(s.Body, r.branches()...)
	case r.Is("{") && r.I < end:
		s.Body = append(s.Body, r.body()...)
	case r.I < end && !r.Is("}") && !r.swift():
		r.statement(end, &s.Body)
	}
	return s
}

// branches reads those of when, each condition -> statement.
func (r *reader) branches() (all []code.Stmt) {
	shut := r.Shut()
	for r.Advance(); r.I < shut; {
		start := r.I
		b := code.Stmt{Op: code.Block}
		for r.I < shut && !r.Operator("->") {
			if r.Kind() == scan.Ident {
				b.Name = r.F.Ident(r.I)
			}
			r.Jump()
		}
		if r.I < shut {
			r.I += 2
			if r.Is("{") {
				b.Body = r.body()
			} else {
				r.statement(shut, &b.Body)
			}
			all = append(all, b)
		}
		if r.I == start {
			r.Advance()
		}
	}
	r.I = shut + 1
	return all
}

// plain reads an expression, or what is assigned to one.
func (r *reader) plain(end int, all *[]code.Stmt) {
	e := r.expr(end)
	for r.I < end && (r.Is("+") || r.Is("-") || r.Is("*") || r.Is("/")) && r.Ahead(1, "=") {
		r.Advance()
	}
	if !r.Is("=") || r.Operator("==") || r.I >= end {
		*all = append(*all, code.Stmt{Op: code.Do, Value: e})
		return
	}
	r.Advance()
	s := code.Stmt{Op: code.Assign, Value: r.expr(end)}
	if e.Op == code.Name || e.Op == code.Member {
		s.Name = e.Text
		if e.Op == code.Member && len(e.Args) > 0 {
			s.Of = e.Args[0]
		}
	}
	*all = append(*all, s)
}
