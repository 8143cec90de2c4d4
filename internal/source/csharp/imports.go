package csharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// usingAhead says whether using names a namespace or a class, rather than declaring a variable.
func (p *parser) usingAhead() bool {
	i := p.I + 1
	for p.F.Is(i, "static") || p.F.Is(i, "unsafe") {
		i++
	}
	for depth := 0; p.F.KindAt(i) != scan.EOF; i++ {
		switch {
		case p.F.Is(i, ";"):
			return true
		case p.F.Is(i, "="):
			return p.F.KindAt(p.I+1) == scan.Ident && i == p.I+2 || i == p.I+3
		case p.F.Is(i, "<"), p.F.Is(i, "("):
			depth++
		case p.F.KindAt(i) == scan.Ident && p.F.KindAt(i+1) == scan.Ident && depth == 0 && i > p.I+1:
			return false
		case p.F.KindAt(i) == scan.Ident && p.F.KindAt(i+1) == scan.Ident && depth == 0 && !p.F.Is(i, "static"):
			return false
		}
	}
	return false
}

func (p *parser) imports() {
	in := code.Import{Pos: p.Where()}
	in.Export = p.Accept("global")
	p.Advance()
	for p.Is("static") || p.Is("unsafe") {
		in.Static = in.Static || p.Is("static")
		p.Advance()
	}
	if p.Kind() == scan.Ident && p.Ahead(1, "=") {
		in.Prefix = p.Text()
		p.I += 2
	}
	t := p.typ()
	if t != nil {
		in.Path = t.Name
		if t.Kind != model.Named && in.Prefix == "" {
			in.Path = ""
		}
		if in.Prefix != "" {
			p.unit.Aliases[in.Prefix] = code.Alias{Type: t}
		}
	}
	p.end()
	p.unit.Imports = append(p.unit.Imports, in)
}

func (p *parser) namespace() {
	p.Advance()
	start := p.I
	for p.Kind() == scan.Ident || p.Is(".") {
		p.Advance()
	}
	outer := p.space
	p.space += strings.ReplaceAll(p.F.Joined(start, p.I), "@", "") + "."
	if !p.Is("{") { // of the whole file
		p.Accept(";")
		return
	}
	shut := p.Shut()
	p.Advance()
	p.declarations(shut)
	p.I = shut + 1
	p.space = outer
}
