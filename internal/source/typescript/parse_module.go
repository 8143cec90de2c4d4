package typescript

import "vetta/internal/code"

// importStatement reads import … from "module", and import name = …
func (p *parser) importStatement() {
	p.next()
	if p.tok().kind == text {
		p.next()
		p.eat(";")
		return
	}
	if p.is("type") && (p.peek(1).kind == ident && !p.peek(1).is("from") || p.peek(1).is("{") || p.peek(1).is("*") || p.peek(1).is("from") && p.peek(2).is("from")) {
		p.next()
	}
	if p.tok().kind == ident && p.peek(1).is("=") {
		p.importAlias(false)
		return
	}
	var all []*decl
	for p.tok().kind != eof && !p.is("from") && p.tok().kind != text {
		t := p.tok()
		d := &decl{what: isImport, unit: p.u, in: p.scope, start: t.start}
		switch {
		case p.eat("*"):
			p.eat("as")
			d.name, d.of = p.next().val, "*"
			all = append(all, d)
		case p.eat("{"):
			all = append(all, p.specifiers()...)
		case t.kind == ident:
			d.name, d.of = p.next().val, "default"
			all = append(all, d)
		default:
			p.next()
		}
		p.eat(",")
	}
	p.eat("from")
	if p.tok().kind == text {
		from := p.next().val
		for _, d := range all {
			d.from = from
			p.scope.add(d)
		}
	}
	if p.is("with") || p.is("assert") {
		p.next()
		p.skip()
	}
	p.eat(";")
}

// specifiers reads the names in the braces of an import or an export.
func (p *parser) specifiers() (all []*decl) {
	for !p.is("}") && p.tok().kind != eof {
		if p.is("type") && !p.peek(1).is(",") && !p.peek(1).is("}") && !(p.peek(1).is("as") && p.peek(2).kind != ident) {
			p.next()
		}
		t := p.next()
		d := &decl{what: isImport, unit: p.u, in: p.scope, start: t.start, name: t.val, of: t.val}
		if p.eat("as") {
			d.name = p.next().val
		}
		all = append(all, d)
		if !p.eat(",") && !p.is("}") {
			p.next()
		}
	}
	p.want("}")
	return all
}

// importAlias reads import name = require("module"), or of a name in a namespace.
func (p *parser) importAlias(exported bool) {
	d := &decl{what: isImport, unit: p.u, in: p.scope, start: p.tok().start, name: p.next().val}
	p.next()
	if p.is("require") && p.peek(1).is("(") {
		p.next()
		p.next()
		d.from, d.of = p.next().val, "="
		p.want(")")
	} else {
		d.of = p.qualified()
	}
	p.eat(";")
	p.scope.add(d)
	if exported {
		p.exported(d.name)
	}
}

func (p *parser) exported(name string) {
	if p.scope == p.u.scope {
		p.u.exports = append(p.u.exports, export{name: name, of: name})
	}
}

// export reads what stands behind the word.
func (p *parser) export() {
	switch {
	case p.is("=") && p.tok().kind == punct:
		p.next()
		if p.tok().kind == ident {
			p.u.assigns = p.qualified()
		} else {
			p.assignment()
		}
		p.eat(";")
	case p.is("import"):
		p.next()
		p.eat("type")
		p.importAlias(true)
	case p.is("as") && p.peek(1).is("namespace"):
		p.next()
		p.next()
		p.next()
		p.eat(";")
	case p.is("default"):
		p.next()
		start := len(p.u.decls)
		if p.declaration() {
			for _, d := range p.u.decls[start:] {
				if d.in == p.scope {
					p.u.exports = append(p.u.exports, export{name: "default", of: d.name})
					break
				}
			}
			return
		}
		if p.is("function") || p.is("async") && p.peek(1).is("function") {
			if fn := p.function(true); fn != nil && fn.Name != "" {
				p.u.exports = append(p.u.exports, export{name: "default", of: fn.Name})
			}
			return
		}
		if p.tok().kind == ident && (p.peek(1).is(";") || p.peek(1).kind == eof || p.peek(1).line) {
			p.u.exports = append(p.u.exports, export{name: "default", of: p.next().val})
			p.eat(";")
			return
		}
		e := p.assignment()
		p.eat(";")
		p.u.tree.Props = append(p.u.tree.Props, &code.Prop{Name: "default", Value: e, File: p.u.file, Static: true})
	case p.is("*") || p.is("type") && p.peek(1).is("*"):
		p.eat("type")
		p.next()
		x := export{name: "*", of: "*"}
		if p.eat("as") {
			x.name = p.next().val
		}
		p.eat("from")
		x.from = p.next().val
		p.eat(";")
		p.u.exports = append(p.u.exports, x)
	case p.is("{") || p.is("type") && p.peek(1).is("{"):
		p.eat("type")
		p.next()
		all := p.specifiers()
		from := ""
		if p.eat("from") {
			from = p.next().val
		}
		p.eat(";")
		for _, d := range all {
			p.u.exports = append(p.u.exports, export{name: d.name, from: from, of: d.of})
		}
	default:
		start := len(p.u.decls)
		switch {
		case p.declaration():
		case p.is("const") || p.is("let") || p.is("var"):
			p.constants()
		case p.is("function") || p.is("async"):
			p.function(true)
		default:
			p.statement()
		}
		for _, d := range p.u.decls[start:] {
			if d.in == p.scope {
				d.exported = true
				p.exported(d.name)
			}
		}
	}
}
