package lower

import (
	"slices"
	"strings"

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
		r.whole(end, &all)
	}
	r.I = end
	return all
}

// whole reads one statement, and notes where it begins, behind its label, and whether all of it was read.
func (r *reader) whole(end int, all *[]code.Stmt) {
	if r.Kind() == scan.Ident && (r.Ahead(1, ":") && !r.kotlin() || r.Ahead(1, "@") && r.kotlin()) && (labelled[r.At(2).Text] || r.Ahead(2, "{")) {
		r.I += 2 // of a loop or a block, which a break may name
	}
	start, n := r.I, len(*all)
	r.statement(end, all)
	if r.I <= start {
		r.I = start + 1
	}
	if len(*all) == n {
		return
	}
	for i := n; i < len(*all); i++ {
		(*all)[i].From, (*all)[i].To = r.F.TokenAt(start).Start, r.F.TokenAt(r.I-1).End
	}
	if last := &(*all)[len(*all)-1]; last.Op != code.Block && r.I < end && !r.Newline() && !r.Is(";") && !r.Is(",") && !r.Is("}") && !r.Is("else") && !r.F.Is(r.I-1, ";") {
		last.Torn = true
	}
}

// blockWords begin statements that have blocks; what decides them stands between.
var blockWords = map[string]bool{
	"if": true, "guard": true, "while": true, "for": true, "switch": true, "when": true, "do": true, "try": true, "catch": true,
	"else": true, "defer": true, "repeat": true, "finally": true, "synchronized": true,
}

// labelled are the words before which a label may stand.
var labelled = map[string]bool{"for": true, "while": true, "do": true, "repeat": true, "if": true, "switch": true}

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
	case r.Is("return") || r.Is("yield") && r.java() && !r.Ahead(1, "="):
		r.Advance()
		s := code.Stmt{Op: code.Return}
		for r.Is("@") { // return@label
			s.Name = r.At(1).Text
			r.I += 2
		}
		if r.I < end && !r.Is("}") && !r.Is(";") && !(r.Newline() && !r.java()) {
			s.Value = r.expr(end)
		}
		*all = append(*all, s)
	case r.Kind() == scan.Ident && blockWords[r.Text()] && !r.isTry():
		*all = append(*all, r.blockStatement(end))
	case r.atLabel():
		s := code.Stmt{Op: code.Block, Kind: code.Case, Value: r.patterns(end)}
		s.Torn = s.Value == nil
		s.Name = r.label(end)
		for r.I < end && !r.atLabel() {
			r.whole(end, &s.Body)
		}
		*all = append(*all, s)
	case r.Is("break") || r.Is("continue") || r.Is("fallthrough") && r.swift():
		jump := code.Stmt{Op: code.Do, Kind: code.Jump, Name: r.Text()}
		r.Advance()
		if r.Is("@") {
			r.Advance()
		}
		if r.Kind() == scan.Ident && !r.Newline() && r.I < end {
			jump.Value = &code.Expr{Op: code.Name, Text: r.Text()}
			r.Advance()
		}
		*all = append(*all, jump)
	case r.isLet():
		r.let(end, all)
	case r.Is("throw"):
		r.Advance()
		*all = append(*all, code.Stmt{Op: code.Do, Kind: code.Throw, Value: r.expr(end)})
	case (r.Is("fun") || r.Is("func")) && r.KindAhead(1) == scan.Ident:
		r.toBefore(end, "(")
		r.Jump()
		r.toBefore(end, "{", "=")
		if r.Is("{") {
			*all = append(*all, code.Stmt{Op: code.Block, Kind: code.Local, Body: []code.Stmt{{Op: code.Do, Value: &code.Expr{Op: code.Lambda, Body: r.body()}}, {}}})
		}
	default:
		r.plain(end, all)
	}
}

// isTry says whether try at the cursor is the one that only marks an expression.
func (r *reader) isTry() bool { return r.Is("try") && r.swift() }

// atLabel says whether a case of a switch begins at the cursor.
func (r *reader) atLabel() bool {
	return r.Is("case") && !r.kotlin() || r.Is("default") && (r.Ahead(1, ":") || r.Ahead(1, "-"))
}

// patterns are what stands between case and its colon, where that is values and nothing but; nil where it is
// more. The cursor stays.
func (r *reader) patterns(end int) *code.Expr {
	ahead := *r
	all := &code.Expr{Op: code.List}
	for word := ahead.Is("case"); ; {
		ahead.Advance()
		if word {
			if ahead.Is("let") || ahead.Is("var") || ahead.Is("is") {
				return nil
			}
			at := ahead.I
			if e := ahead.arrow(end); e != nil { // no lambda but a case and what it does
				ahead.I = at
				all.Args = append(all.Args, &code.Expr{Op: code.Name, Text: ahead.Text(), From: ahead.Tok().Start, To: ahead.Tok().End})
				ahead.Advance()
			} else {
				all.Args = append(all.Args, ahead.expr(end))
			}
		}
		if word && ahead.Is(",") {
			continue
		}
		if !ahead.Is(":") && !ahead.Operator("->") {
			return nil
		}
		return all
	}
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
func (r *reader) blockStatement(end int) (s code.Stmt) {
	word, start := r.Text(), r.I
	s = code.Stmt{Op: code.Block, Kind: kinds[word]}
	if word == "do" && !r.swift() {
		s.Kind = code.Repeat
	}
	defer func() { s.From, s.To = r.F.TokenAt(start).Start, r.F.TokenAt(r.I-1).End }()
	r.Advance()
	if word == "else" && r.Is("if") {
		s = r.blockStatement(end)
		s.Kind = code.ElseIf
		return s
	}
	told := true
	if r.swift() {
		r.conditional = true
		for r.I < end && !r.Is("{") {
			start := r.I
			switch {
			case r.Is("case") || r.Is("for") || r.Is("in") || r.Is(",") || r.Is("else") || r.Is("=") || r.Is("where"):
				told = told && !r.Is("case") && !r.Is("=") && !r.Is("where")
				r.Advance()
			case r.isLet():
				r.let(end, &s.Body)
			case r.Newline() && word != "guard" && word != "if":
				r.conditional = false
				s.Heads = -1
				return s
			default:
				s.Body = append(s.Body, code.Stmt{Op: code.Block, Value: r.expr(end)})
			}
			if r.I == start {
				r.Advance()
			}
		}
		r.conditional = false
	} else if r.Is("(") && (word != "else" && word != "do" && word != "finally") {
		shut := r.Shut()
		if word == "catch" {
			s.Name = r.F.Text(r.I+1, shut)
		}
		r.Advance()
		for r.I < shut {
			start := r.I
			if r.isLet() {
				r.let(shut, &s.Body)
			} else if word == "for" && r.kotlin() && r.element(shut, &s) {
				break
			} else {
				s.Body = append(s.Body, code.Stmt{Op: code.Block, Value: r.expr(shut)})
			}
			if r.Is(";") || r.Is("-") || r.Is(":") || r.I == start {
				r.Advance()
			}
		}
		r.I = shut + 1
	}
	if s.Heads = int16(min(len(s.Body), 1000)); !told {
		s.Heads = -1
	}
	switch {
	case r.Is("{") && r.I < end && word == "when":
		s.Body = append(s.Body, r.branches()...)
	case r.Is("{") && r.I < end:
		s.Body = append(s.Body, r.body()...)
	case r.I < end && !r.Is("}") && !r.Is(";") && !r.swift():
		r.whole(end, &s.Body)
		for r.I < end && r.goesOn(s.Body) { // the else of an if that is the one statement
			r.whole(end, &s.Body)
		}
		if r.Is(";") && r.Ahead(1, "else") && r.I < end {
			r.Advance()
		}
	}
	if s.Kind == code.Repeat && !r.swift() && r.Is("while") && r.Ahead(1, "(") {
		r.Advance()
		r.Jump()
	}
	return s
}

// goesOn says whether the last of some statements goes on with what begins at the cursor.
func (r *reader) goesOn(all []code.Stmt) bool {
	if len(all) == 0 {
		return false
	}
	switch all[len(all)-1].Kind {
	case code.If, code.ElseIf:
		return r.Is("else")
	case code.Try, code.Catch:
		return r.Is("catch") || r.Is("finally")
	}
	return false
}

// element reads the head of a loop of Kotlin, name in value, as a declaration.
func (r *reader) element(shut int, s *code.Stmt) bool {
	in := r.I + 1
	if r.Kind() != scan.Ident || r.Ahead(1, ":") {
		for ; in < shut && !r.F.Is(in, "in"); in++ {
		}
	}
	if r.Kind() != scan.Ident || !r.F.Is(in, "in") {
		return false
	}
	let := code.Stmt{Op: code.Let, Name: r.Text(), From: r.Tok().Start}
	r.I = in + 1
	let.Value = r.expr(shut)
	let.To = r.F.TokenAt(shut - 1).End
	let.Torn = r.I < shut
	s.Body = append(s.Body, let)
	return true
}

// kinds are what the words of blockWords begin.
var kinds = map[string]code.Kind{
	"if": code.If, "guard": code.Guard, "while": code.While, "for": code.For, "switch": code.Switch, "when": code.Switch, "do": code.Try,
	"try": code.Try, "catch": code.Catch, "else": code.Else, "defer": code.Defer, "repeat": code.Repeat, "finally": code.Finally,
}

// branches reads those of when, each condition -> statement.
func (r *reader) branches() (all []code.Stmt) {
	shut := r.Shut()
	for r.Advance(); r.I < shut; {
		if r.Accept(";") {
			continue
		}
		start := r.I
		b := code.Stmt{Op: code.Block, Kind: code.Case, From: r.Tok().Start}
		b.Value = r.conditions(shut)
		b.Torn = b.Value == nil || slices.ContainsFunc(b.Value.Args, func(e *code.Expr) bool { return e.Op == code.Is && len(e.Args) == 0 })
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
				r.whole(shut, &b.Body)
				for r.I < shut && r.goesOn(b.Body) && !(r.Ahead(1, "-") && r.Ahead(2, ">")) {
					r.whole(shut, &b.Body)
				}
			}
			b.To = r.F.TokenAt(r.I - 1).End
			all = append(all, b)
		}
		if r.I == start {
			r.Advance()
		}
	}
	r.I = shut + 1
	return all
}

// conditions are those of a branch of when, none of else; nil where they are more than values and types, which are
// an Is of nothing. The cursor stays.
func (r *reader) conditions(end int) *code.Expr {
	ahead := *r
	all := &code.Expr{Op: code.List}
	if ahead.Is("else") && ahead.Ahead(1, "-") {
		return all
	}
	for {
		switch {
		case ahead.Is("in") || ahead.Is("!") && (ahead.Ahead(1, "is") || ahead.Ahead(1, "in")):
			return nil
		case ahead.Is("is"):
			ahead.Advance()
			is := &code.Expr{Op: code.Is, Type: ahead.typ()}
			if is.Type == nil {
				return nil
			}
			all.Args = append(all.Args, is)
		default:
			all.Args = append(all.Args, ahead.expr(end))
		}
		if ahead.Accept(",") {
			continue
		}
		if !ahead.Operator("->") {
			return nil
		}
		return all
	}
}

// plain reads an expression, or what is assigned to one.
func (r *reader) plain(end int, all *[]code.Stmt) {
	e := r.expr(end)
	s := code.Stmt{Op: code.Assign}
	for r.I < end && r.Kind() == scan.Punct && strings.Contains("+-*/%|&^", r.Text()) && r.Ahead(1, "=") {
		s.Kind = code.Compound
		r.Advance()
	}
	if !r.Is("=") || r.Operator("==") || r.I >= end {
		*all = append(*all, code.Stmt{Op: code.Do, Value: e})
		return
	}
	r.Advance()
	s.Value, s.Of = r.expr(end), e
	if e.Op == code.Name || e.Op == code.Member {
		s.Name, s.Of = e.Text, nil
		if e.Op == code.Member && len(e.Args) > 0 {
			s.Of = e.Args[0]
		}
	}
	*all = append(*all, s)
}
