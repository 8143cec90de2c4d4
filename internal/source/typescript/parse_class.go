package typescript

import "vetta/internal/code"

// classDecl reads what stands behind the name of a class.
func (p *parser) classDecl(d *decl) {
	c := &code.Class{Name: d.name, File: p.u.file, Pos: p.u.at.of(d.start), Kind: "class"}
	free := len(p.free)
	d.generics = p.generics()
	c.Generics = generics(d.generics)
	if p.eat("extends") {
		n := p.heritage()
		d.extends = []*node{n}
		c.Supers = append(c.Supers, p.late(n))
	}
	if p.eat("implements") {
		for {
			c.Supers = append(c.Supers, p.late(p.prefixed()))
			if !p.eat(",") {
				break
			}
		}
	}
	p.want("{")
	for !p.is("}") && p.tok().kind != eof {
		from, bad := p.i, p.bad
		p.classMember(d, c)
		p.bad = bad
		for p.eat(";") {
		}
		if p.i == from {
			p.skip()
		}
	}
	p.want("}")
	p.free = p.free[:free]
	d.end = p.end()
	if c.Name != "" {
		p.u.tree.Classes = append(p.u.tree.Classes, c)
	}
}

// heritage reads what a class extends: a name with type arguments, or an expression.
func (p *parser) heritage() *node {
	start := p.tok().start
	if n, ok := try(p, func() *node {
		n := p.prefixed()
		if !p.is("{") && !p.is("implements") {
			p.bad = true
		}
		return n
	}); ok {
		return n
	}
	p.operand()
	return &node{op: nLost, start: start, end: p.end()}
}

// classMember reads one member of a class.
func (p *parser) classMember(d *decl, c *code.Class) {
	m := &member{}
	for p.is("@") {
		m.marks = append(m.marks, p.decorator())
	}
	for p.tok().kind == ident && !p.namesMember(p.peek(1)) {
		t := p.tok()
		switch t.val {
		case "private", "protected":
			m.private = true
		case "static":
			if p.peek(1).is("{") {
				p.next()
				p.block()
				return
			}
			m.static = true
		case "get":
			m.getter = true
		case "set":
			m.setter = true
		case "readonly":
			m.readonly = true
		case "public", "abstract", "declare", "override", "async", "accessor":
		default:
			goto name
		}
		p.next()
	}
name:
	p.eat("*")
	m.start = p.tok().start
	t := p.tok()
	if !p.memberName(m) {
		return
	}
	pos := p.pos(t)
	m.optional = p.eat("?")
	p.eat("!")
	if p.is("(") || p.is("<") {
		fn := &code.Func{Name: m.name, File: p.u.file, Pos: pos, Static: m.static, Getter: m.getter, Setter: m.setter}
		from := len(p.paramNodes)
		n := &node{op: nFunction, start: p.tok().start}
		n.result = p.signed(fn)
		n.params, n.end = fn.Params, p.end()
		if m.name == "constructor" && !m.static {
			fn.Name, fn.Init = c.Name, true
			p.parameters(d, c, fn, p.paramNodes[from:])
			if c.Name != "" {
				c.Funcs = append(c.Funcs, fn)
			}
			p.paramNodes = p.paramNodes[:from]
			return
		}
		p.paramNodes = p.paramNodes[:from]
		m.method = !m.getter && !m.setter
		switch {
		case m.getter:
			m.typ = n.result
			c.Props = append(c.Props, &code.Prop{Name: m.name, Type: fn.Returns, Get: fn, Static: m.static, File: p.u.file, Pos: pos})
		case m.setter:
			if len(fn.Params) > 0 {
				m.typ = nil
			}
		default:
			m.typ = n
			c.Funcs = append(c.Funcs, fn)
		}
		m.end = p.end()
		d.members = append(d.members, m)
		return
	}
	prop := &code.Prop{Name: m.name, Static: m.static, Optional: m.optional, File: p.u.file, Pos: pos}
	if p.eat(":") {
		m.typ = p.typ()
		prop.Type = p.late(m.typ)
	}
	m.end = p.end()
	if p.eat("=") {
		m.value = p.assignment()
		prop.Value = m.value
	}
	if m.index == nil || m.typ != nil {
		d.members = append(d.members, m)
	}
	if v := m.value; v != nil && v.Op == code.Lambda && v.Fn != nil {
		fn := *v.Fn
		fn.Name, fn.Pos = m.name, pos
		c.Funcs = append(c.Funcs, &fn)
		return
	}
	c.Props = append(c.Props, prop)
}

// parameters makes properties of the parameters of a constructor that declare some.
func (p *parser) parameters(d *decl, c *code.Class, fn *code.Func, nodes []paramNode) {
	for i := range fn.Params {
		a := &fn.Params[i]
		if !a.Field {
			continue
		}
		m := &member{name: a.Name, private: a.Label != "", optional: a.Optional && a.Type != nil}
		a.Label = ""
		if a.Default != nil && a.Default.Text != "undefined" {
			m.value, m.optional = a.Default, false
		}
		for _, n := range nodes {
			if n.pos == a.Pos {
				m.typ, m.start = n.typ, n.start
				if n.typ != nil {
					m.end = n.typ.end
				}
			}
		}
		m.end = max(m.end, m.start)
		d.members = append(d.members, m)
		c.Props = append(c.Props, &code.Prop{Name: a.Name, Type: a.Type, File: p.u.file, Pos: a.Pos})
	}
}
