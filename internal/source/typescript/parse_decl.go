package typescript

import (
	"maps"
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// paramNode is the written type of a parameter, by where that stands.
type paramNode struct {
	pos   model.Pos
	start int32
	typ   *node
}

// file reads a file.
func parse(u *unit, jsx bool) {
	l := &lexer{src: u.src, jsx: jsx}
	if isScript(u.file) {
		l.docs = map[int32]doc{}
		u.docs = l.docs
	}
	p := &parser{u: u, all: l.all()}
	u.at = newPlaces(u.file, u.src)
	if open := unclosed(p.all); open != nil {
		u.problem = &model.Problem{Pos: p.pos(open), Reason: "'" + open.val + "' is never closed"}
	}
	u.scope = newScope(nil, u)
	u.global = newScope(nil, u)
	u.augment = map[string][]*decl{}
	u.tree = &code.Unit{File: u.file, Module: u.module}
	p.scope = u.scope
	for i := range validators {
		for _, module := range validators[i].modules {
			u.validates = u.validates || strings.Contains(u.src, "'"+module) || strings.Contains(u.src, `"`+module)
		}
	}
	p.ambient = strings.HasSuffix(u.file, ".d.ts")
	if u.docs != nil {
		u.isMod = true
		for _, at := range slices.Sorted(maps.Keys(u.docs)) {
			if at < 0 { // each once
				p.typedefs(u.docs[at])
			}
		}
	}
	holder := &code.Func{File: u.file, Body: nil}
	for p.tok().kind != eof {
		from := p.i
		p.bad = false
		holder.Body = append(holder.Body, p.top()...)
		if p.i == from {
			p.skip()
		}
	}
	if len(holder.Body) > 0 {
		u.tree.Funcs = append(u.tree.Funcs, holder)
	}
}

// top reads a statement of a module.
func (p *parser) top() []code.Stmt {
	switch {
	case p.is("import") && !p.peek(1).is("(") && !p.peek(1).is("."):
		p.u.isMod = true
		p.importStatement()
		return nil
	case p.is("export"):
		p.u.isMod = true
		p.next()
		p.export()
		return nil
	case p.is("const") || p.is("let") || p.is("var"):
		if !p.peek(1).is("enum") {
			p.constants()
			return nil
		}
	}
	return p.statement()
}

// keep makes a declaration one of the scope.
func (p *parser) keep(d *decl) {
	d.unit, d.in = p.u, p.scope
	p.u.decls = append(p.u.decls, d)
	p.scope.add(d)
}

// declaration reads one of a type or a namespace, and says whether one stands here.
func (p *parser) declaration() bool {
	from := p.i
	for p.is("@") {
		p.decorator()
	}
	if p.is("export") && from != p.i { // @Decorator() export class
		p.u.isMod = true
		p.next()
		p.eat("default")
		start := len(p.u.decls)
		if p.declaration() {
			for _, d := range p.u.decls[start:] {
				if d.in == p.scope {
					p.exported(d.name)
				}
			}
			return true
		}
		p.i = from
		return false
	}
	t := p.tok()
	if t.kind != ident {
		p.i = from
		return false
	}
	word := t.val
	next := p.peek(1)
	switch word {
	case "declare":
		if next.kind != ident || next.line {
			break
		}
		if next.is("global") && p.peek(2).is("{") {
			p.next()
			p.next()
			outer := p.scope
			p.scope = p.u.global
			p.namespaceBody()
			p.scope = outer
			return true
		}
		p.next()
		outer := p.ambient
		p.ambient = true
		ok := p.declaration()
		if !ok {
			switch {
			case p.is("const") || p.is("let") || p.is("var"):
				p.constants()
				ok = true
			case p.is("function"):
				p.function(true)
				ok = true
			}
		}
		p.ambient = outer
		if ok {
			return true
		}
	case "abstract":
		if next.is("class") && !next.line {
			p.next()
			p.next()
			d := &decl{what: isClass, start: t.start, abstract: true}
			d.name = p.className()
			p.keep(d)
			p.classDecl(d)
			return true
		}
	case "class":
		if next.kind == ident || next.is("{") {
			p.next()
			d := &decl{what: isClass, start: p.tok().start}
			d.name = p.className()
			p.keep(d)
			p.classDecl(d)
			return true
		}
	case "interface":
		if next.kind == ident && !next.line {
			p.next()
			p.interfaceDecl()
			return true
		}
	case "type":
		if next.kind == ident && !next.line && (p.peek(2).is("=") || p.peek(2).is("<")) {
			p.next()
			d := &decl{what: isAlias, start: p.tok().start, name: p.next().val}
			free := len(p.free)
			d.generics = p.generics()
			p.want("=")
			d.typ = p.typ()
			p.free = p.free[:free]
			p.eat(";")
			d.end = p.end()
			p.keep(d)
			return true
		}
	case "enum", "const":
		if word == "const" {
			if !next.is("enum") {
				break
			}
			p.next()
		}
		if p.peek(1).kind == ident && p.peek(2).is("{") {
			p.next()
			p.enumDecl(p.ambient && word != "const")
			return true
		}
	case "namespace", "module", "global":
		if (next.kind == ident || next.kind == text || next.is("{") && word == "global" && p.ambient) && !next.line {
			p.next()
			p.namespaceDecl()
			return true
		}
	}
	p.i = from
	return false
}

func (p *parser) className() string {
	if p.tok().kind == ident && !p.is("extends") && !p.is("implements") {
		return p.next().val
	}
	return ""
}

func (p *parser) interfaceDecl() {
	d := &decl{what: isInterface, start: p.tok().start, name: p.next().val}
	free := len(p.free)
	d.generics = p.generics()
	if p.eat("extends") {
		for {
			d.extends = append(d.extends, p.prefixed())
			if !p.eat(",") {
				break
			}
		}
	}
	d.members = p.members()
	p.free = p.free[:free]
	d.end = p.end()
	p.keep(d)
}

func (p *parser) enumDecl(ambient bool) {
	d := &decl{what: isEnum, ambient: ambient, start: p.tok().start, name: p.next().val}
	p.want("{")
	for !p.is("}") && p.tok().kind != eof {
		t := p.tok()
		m := &member{}
		if !p.memberName(m) {
			p.skip()
			continue
		}
		c := enumCase{name: m.name, start: t.start}
		if p.eat("=") {
			c.value = p.assignment()
		}
		d.cases = append(d.cases, c)
		if !p.eat(",") && !p.is("}") {
			p.skip()
		}
	}
	p.want("}")
	d.end = p.end()
	p.keep(d)
	c := &code.Class{Name: d.name, File: p.u.file, Pos: p.u.at.of(d.start), Kind: "object"}
	for _, one := range d.cases {
		if one.value != nil {
			c.Props = append(c.Props, &code.Prop{Name: one.name, Value: one.value, Static: true, File: p.u.file, Pos: p.u.at.of(one.start)})
		}
	}
	p.u.tree.Classes = append(p.u.tree.Classes, c)
}

func (p *parser) namespaceDecl() {
	t := p.tok()
	if t.kind == text {
		p.next()
		inner := newScope(p.u.global, p.u)
		if strings.HasPrefix(t.val, ".") || p.u.isMod {
			inner.outer = p.scope
		}
		start := len(p.u.decls)
		if p.is("{") {
			outer := p.scope
			p.scope = inner
			p.namespaceBody()
			p.scope = outer
		} else {
			p.eat(";")
		}
		for _, d := range p.u.decls[start:] {
			if d.in == inner {
				p.u.augment[t.val] = append(p.u.augment[t.val], d)
			}
		}
		return
	}
	if t.is("{") {
		outer := p.scope
		p.scope = p.u.global
		p.namespaceBody()
		p.scope = outer
		return
	}
	outer := p.scope
	for _, name := range strings.Split(p.qualified(), ".") {
		d := &decl{what: isNamespace, start: t.start, name: name, inner: newScope(p.scope, p.u), exported: true}
		p.keep(d)
		d.inner.name = name
		if p.scope.name != "" {
			d.inner.name = p.scope.name + "." + name
		}
		p.scope = d.inner
	}
	p.namespaceBody()
	p.scope = outer
}

func (p *parser) namespaceBody() {
	p.want("{")
	for !p.is("}") && p.tok().kind != eof {
		from := p.i
		if p.is("export") {
			p.next()
			p.export()
		} else if p.is("import") {
			p.importStatement()
		} else if !p.declaration() {
			if p.is("const") || p.is("let") || p.is("var") {
				p.constants()
			} else {
				p.statement()
			}
		}
		if p.i == from {
			p.skip()
		}
	}
	p.want("}")
}

// decorator reads one, and answers it as an expression.
func (p *parser) decorator() *code.Expr {
	p.next()
	if p.is("(") {
		return p.value()
	}
	t := p.tok()
	name := p.qualified()
	e := &code.Expr{Op: code.Name, Text: name, Pos: p.pos(t), From: t.start}
	if p.is("<") {
		try(p, p.typeArgs)
	}
	if p.is("(") {
		e = p.call(e, nil)
	}
	return e
}

// function reads a function that is declared; outside of others it is one of the file.
func (p *parser) function(top bool) *code.Func {
	start := p.tok().start
	p.eat("async")
	p.eat("function")
	p.eat("*")
	t := p.tok()
	fn := &code.Func{File: p.u.file, Pos: p.pos(t)}
	if t.kind == ident {
		fn.Name = p.next().val
	}
	d := &decl{what: isFunc, start: t.start, name: fn.Name}
	d.result = p.signed(fn)
	if said := p.docBefore(start, "returns", "return"); said != nil && d.result == nil {
		d.result, fn.Returns = said, p.late(said)
	}
	d.value = lambda(fn)
	d.end = p.end()
	if p.scope == p.u.scope || top {
		p.keep(d)
		p.u.tree.Funcs = append(p.u.tree.Funcs, fn)
		return fn
	}
	p.scope.add(d)
	d.unit, d.in = p.u, p.scope
	return fn
}

// constants reads values that a module declares: functions that they are given are functions of the file, objects are
// classes of which there is one.
func (p *parser) constants() {
	constant := p.is("const")
	start := p.tok().start
	p.next()
	for {
		t := p.tok()
		name, parts := p.pattern()
		if len(parts) > 0 || strings.HasPrefix(name, "{") {
			name = ""
		}
		d := &decl{what: isValue, start: t.start, name: name, isConst: constant}
		p.eat("!")
		var declared *node
		if p.eat(":") {
			declared = p.typ()
			d.typ = declared
		}
		if p.eat("=") {
			d.value = p.assignment()
		}
		if said := p.docBefore(start, "type"); said != nil && declared == nil {
			declared, d.typ = said, said
		}
		if v := d.value; v != nil && v.Fn != nil && v.Fn.Returns == nil {
			if said := p.docBefore(start, "returns", "return"); said != nil {
				v.Fn.Returns = p.late(said)
			}
		}
		d.end = p.end()
		if name != "" {
			p.keep(d)
		}
		p.define(name, d, declared, p.pos(t))
		if !p.eat(",") {
			break
		}
	}
	p.eat(";")
}

// define makes a value of the module one of the tree.
func (p *parser) define(name string, d *decl, declared *node, pos model.Pos) {
	v := d.value
	if v == nil {
		return
	}
	if fn := v.Fn; v.Op == code.Lambda && fn != nil && name != "" {
		own := *fn
		own.Name, own.Pos = name, pos
		if own.Returns == nil && declared != nil && declared.op == nFunction && declared.result != nil {
			own.Returns = p.late(declared.result)
		}
		d.result = p.returned(fn)
		p.u.tree.Funcs = append(p.u.tree.Funcs, &own)
		return
	}
	if c := p.asClass(name, v, pos); c != nil {
		p.u.tree.Classes = append(p.u.tree.Classes, c)
		return
	}
	prop := &code.Prop{Name: name, Value: v, File: p.u.file, Static: true, Pos: pos}
	if declared != nil {
		prop.Type = p.late(declared)
	}
	p.u.tree.Props = append(p.u.tree.Props, prop)
}

// returned is the node of what a function says that it returns, nil where it does not.
func (p *parser) returned(fn *code.Func) *node {
	if fn.Returns == nil {
		return nil
	}
	for i := range slices.Backward(p.u.pending) {
		if p.u.pending[i].typ == fn.Returns {
			return p.u.pending[i].node
		}
	}
	return nil
}

// asClass is an object as a class of which there is one, nil for what is none.
func (p *parser) asClass(name string, v *code.Expr, pos model.Pos) *code.Class {
	for v.Op == code.As || v.Op == code.Call && len(v.Args) == 2 && v.Args[0].Op == code.Member && v.Args[0].Text == "freeze" {
		v = v.Args[len(v.Args)-1]
	}
	if v.Op != code.Dict || name == "" || len(v.Args) == 0 {
		return nil
	}
	c := &code.Class{Name: name, File: p.u.file, Pos: pos, Kind: "object"}
	for i := 0; i+1 < len(v.Args); i += 2 {
		key, value := v.Args[i], v.Args[i+1]
		if key.Op != code.Text || len(key.Args) > 0 {
			c.Props = append(c.Props, &code.Prop{Value: value, File: p.u.file, Static: true})
			continue
		}
		if value.Op == code.Lambda && value.Fn != nil {
			fn := *value.Fn
			fn.Name, fn.Pos, fn.Static = key.Text, key.Pos, true
			c.Funcs = append(c.Funcs, &fn)
			continue
		}
		if inner := p.asClass(key.Text, value, key.Pos); inner != nil {
			inner.Outer = c
			p.u.tree.Classes = append(p.u.tree.Classes, inner)
			c.Props = append(c.Props, &code.Prop{Name: key.Text, Type: &model.Type{Kind: model.Named, Name: key.Text}, File: p.u.file, Static: true, Pos: key.Pos})
			continue
		}
		c.Props = append(c.Props, &code.Prop{Name: key.Text, Value: value, File: p.u.file, Static: true, Pos: key.Pos})
	}
	return c
}

// docBefore is docAt for a declaration that export may stand before.
func (p *parser) docBefore(start int32, names ...string) *node {
	if p.u.docs == nil {
		return nil
	}
	if n := p.docAt(start, names...); n != nil {
		return n
	}
	before := strings.TrimRight(p.u.src[:start], " \t\r\n")
	for _, word := range []string{"export", "default", "async"} {
		if strings.HasSuffix(before, word) {
			if n := p.docAt(int32(len(before)-len(word)), names...); n != nil {
				return n
			}
			before = strings.TrimRight(strings.TrimSuffix(before, word), " \t\r\n")
		}
	}
	return nil
}
