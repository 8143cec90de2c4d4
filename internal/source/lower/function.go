package lower

import (
	"slices"

	"vetta/internal/code"
	"vetta/internal/source/scan"
)

// params reads the parameters of a function from their bracket on. Those of a Kotlin class's primary
// constructor that are properties, and the components of a Java record, become such of the class.
func (r *reader) params(of *code.Class) (all []code.Param) {
	shut := r.Shut()
	all = []code.Param{}
	for r.Advance(); r.I < shut; r.Accept(",") {
		r.modifiers(nil)
		isProperty := r.Is("val") || r.Is("var")
		if isProperty && r.kotlin() || r.Is("final") {
			r.Advance()
		}
		r.modifiers(nil)
		var a code.Param
		if r.java() {
			a.Type = r.typ()
			for r.Accept(".") { // of many
			}
			a.Name = r.Text()
			isProperty = of != nil
		} else {
			a.Name = r.Text()
			r.Advance()
			if r.swift() {
				if a.Label = a.Name; a.Label == "_" {
					a.Label = ""
				}
				if r.Kind() == scan.Ident {
					a.Name = r.Text()
					r.Advance()
				}
			}
			if r.Accept(":") {
				a.Type = r.typ()
				if r.Is("?") && a.Type != nil { // of a function in brackets
					r.Advance()
				}
			}
		}
		if !r.java() {
			r.to(shut, ",", "=")
			if r.Accept("=") {
				a.Default = r.expr(shut)
			}
		}
		r.to(shut, ",")
		all = append(all, a)
		if of != nil && isProperty {
			of.Props = append(of.Props, &code.Prop{Name: a.Name, Type: a.Type, File: r.F.Name})
		}
	}
	r.I = shut
	r.Advance()
	return all
}

// body reads the code of a function in braces at the cursor.
func (r *reader) body() []code.Stmt {
	shut := r.Shut()
	r.Advance()
	all := r.block(shut)
	r.I = shut
	r.Advance()
	return all
}

func (r *reader) add(c *code.Class, f *code.Func) {
	if c != nil {
		c.Funcs = append(c.Funcs, f)
		return
	}
	r.program.AddFunc(f)
}

func (r *reader) newFunc() *code.Func {
	return &code.Func{Name: r.Text(), File: r.F.Name, Pos: r.Where()}
}

// swiftFunction reads a function or an initialiser from its keyword on.
func (r *reader) swiftFunction(end int, c *code.Class) {
	init := r.Is("init")
	if !init {
		r.Advance()
	}
	f := r.newFunc()
	f.Init = init
	if init {
		f.Name = c.Name
	}
	r.Advance()
	for r.Is("?") || r.Is("!") {
		r.Advance()
	}
	if r.Is("<") {
		f.Generics = r.parameters()
	}
	r.generics = append(slices.Clip(r.generics), f.Generics...)
	if !r.Is("(") {
		return
	}
	f.Params = r.params(nil)
	for r.Is("async") || r.Is("throws") || r.Is("rethrows") {
		r.Advance()
		if r.Is("(") {
			r.Jump()
		}
	}
	if r.Operator("->") {
		r.I += 2
		f.Returns = r.typ()
	}
	if init {
		f.Returns = classType(c)
	}
	if r.Is("where") {
		r.toBefore(end, "{", "}")
	}
	if r.Is("{") && r.I < end {
		f.Body = r.body()
	}
	r.add(c, f)
}

// kotlinFunction reads a function from its keyword on.
func (r *reader) kotlinFunction(end int, c *code.Class) {
	r.Advance()
	var generics []string
	if r.Is("<") {
		generics = r.parameters()
	}
	r.generics = append(slices.Clip(r.generics), generics...)
	at := r.I
	for r.Kind() == scan.Ident && !r.Ahead(1, "(") { // a receiver: Gson.read(…)
		before := r.I
		if t, next := r.Type(r.I); t != nil && r.F.Is(next, ".") && next > r.I {
			r.I = next + 1
			continue
		}
		r.Advance()
		for r.Is("?") || r.Is(".") {
			r.Advance()
		}
		if r.I == before || r.I > at+40 {
			break
		}
	}
	f := r.newFunc()
	f.Generics = generics
	f.Receiver = r.I > at
	r.Advance()
	if !r.Is("(") {
		return
	}
	f.Params = r.params(nil)
	if r.Accept(":") {
		f.Returns = r.typ()
	}
	if r.Is("where") {
		r.toBefore(end, "{", "=", "}")
	}
	switch {
	case r.Is("{") && r.I < end:
		f.Body = r.body()
	case r.Is("=") && r.I < end:
		r.Advance()
		f.Body = []code.Stmt{{Op: code.Return, Value: r.expr(end)}}
	}
	r.add(c, f)
}

// javaMember reads a method, a constructor or fields. Generics are those of the method, which are read.
func (r *reader) javaMember(end int, c *code.Class, static bool, generics []string) {
	if r.Is("{") { // an initialiser
		r.Jump()
		return
	}
	if r.Text() == c.Name && r.Ahead(1, "(") {
		f := r.newFunc()
		f.Init, f.Generics, f.Returns = true, generics, classType(c)
		r.Advance()
		f.Params = r.params(nil)
		r.toBefore(end, "{", ";")
		if r.Is("{") {
			f.Body = r.body()
		}
		c.Funcs = append(c.Funcs, f)
		return
	}
	t := r.typ()
	if t == nil || r.Kind() != scan.Ident {
		r.toBefore(end, ";", "}", "{")
		r.Jump()
		return
	}
	if r.Ahead(1, "(") {
		f := r.newFunc()
		f.Generics, f.Returns = slices.Clone(generics), t
		r.Advance()
		f.Params = r.params(nil)
		r.toBefore(end, "{", ";", "}")
		if r.Is("{") && r.I < end {
			f.Body = r.body()
		}
		c.Funcs = append(c.Funcs, f)
		return
	}
	for r.Kind() == scan.Ident && r.I < end {
		p := &code.Prop{Name: r.Text(), Type: t, Static: static, File: r.F.Name}
		r.Advance()
		for r.Is("[") {
			r.Jump()
		}
		if r.Accept("=") {
			p.Value = r.expr(end)
		}
		c.Props = append(c.Props, p)
		if !r.Accept(",") {
			break
		}
	}
	r.Accept(";")
}
