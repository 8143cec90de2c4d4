package csharp

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// positional adds the properties that the compiler makes of a record's parameters, unless it declares them itself.
func (p *project) positional(d *declared) {
	if !strings.HasPrefix(d.kind(), "record") {
		return
	}
	m := d.model
	for _, c := range d.parts {
		s := scope{file: c.File, space: d.space, in: d}
		for _, fn := range c.Funcs {
			if !isPrimary(fn) {
				continue
			}
			var made []*model.Field
			for _, param := range fn.Params {
				if slices.ContainsFunc(m.Fields, func(f *model.Field) bool { return f.Name == param.Name && !f.Static }) {
					continue
				}
				f := &model.Field{
					Name: param.Name, Keys: []string{param.Name}, Type: p.resolve(param.Type, s), Declared: param.Type.Written(), Pos: param.Pos, Reading: model.ByLibrary,
					Access: model.Public, Oblivious: !p.annotated(c.File, param.Pos.Line),
					Property: &model.Property{Get: model.Public, Set: model.Public, Init: !(d.kind() == "record struct" && !d.has("readonly")), Stored: true, Positional: true},
				}
				for _, mark := range p.marks(param.Marks, s) {
					if mark.Target == "property" {
						f.Marks = append(f.Marks, mark)
					}
				}
				made = append(made, f)
			}
			m.Fields = append(made, m.Fields...)
		}
	}
}

func isPrimary(fn *code.Func) bool { return fn.Init && slices.Contains(fn.Mods, "primary") }

// constructors are those of a type, each with what it does to its fields.
func (p *project) constructors(d *declared) {
	m := d.model
	for _, c := range d.parts {
		s := scope{file: c.File, space: d.space, in: d}
		for _, fn := range c.Funcs {
			if fn.Init {
				m.Ctors = append(m.Ctors, p.constructor(fn, d, s))
			}
		}
	}
	if d.kind() == "class" || d.kind() == "record" {
		if len(m.Ctors) == 0 { // the one that the compiler makes
			access := model.Public
			if d.has("abstract") {
				access = model.Protected
			}
			m.Ctors = append(m.Ctors, &model.Method{Name: d.name, Access: access, Pos: m.Pos})
		}
	}
}

func (p *project) constructor(fn *code.Func, d *declared, s scope) *model.Method {
	k := &model.Method{Name: d.name, Access: accessOf(fn.Mods, d), Marks: p.marks(fn.Marks, s), Pos: fn.Pos, Static: fn.Static}
	for _, param := range fn.Params {
		of := &model.Parameter{Name: param.Name, Type: p.resolve(param.Type, s), Declared: param.Type.Written(), Default: param.Default != nil, Pos: param.Pos}
		if param.Default != nil {
			of.Value = p.literal(param.Default, s)
		}
		for _, mark := range p.marks(param.Marks, s) {
			if mark.Target == "" || mark.Target == "param" {
				of.Marks = append(of.Marks, mark)
			}
		}
		k.Params = append(k.Params, of)
	}
	if isPrimary(fn) {
		for _, part := range d.parts {
			if part.Super != nil && slices.Contains(part.Funcs, fn) {
				fn.Inits = []code.Stmt{{Op: code.Do, Value: part.Super}}
			}
		}
	}
	p.effects(fn, d, k, 0)
	return k
}

// effects notes what a constructor does: Fills for each parameter that a field is given as it is, Computes for the
// fields that are given anything else, Throws where it may refuse.
func (p *project) effects(fn *code.Func, d *declared, k *model.Method, deep int) {
	k.Fills = make([]string, len(k.Params))
	fill := func(name string, v *code.Expr) {
		if v != nil && v.Op == code.Choice && v.Text == "" && len(v.Args) == 2 && len(v.Body) == 0 && isThrown(v.Args[1]) { // x ?? throw
			v, k.Throws = v.Args[0], true
		}
		if v != nil && v.Op == code.Name {
			for i, param := range fn.Params {
				if param.Name == v.Text {
					if k.Fills[i] == "" {
						k.Fills[i] = name
					} else {
						k.Computes = append(k.Computes, name)
					}
					return
				}
			}
		}
		k.Computes = append(k.Computes, name)
	}
	if isPrimary(fn) && strings.HasPrefix(d.kind(), "record") {
		for i, param := range fn.Params {
			if f := fieldOf(d.model, param.Name); f != nil && (f.Default == nil || f.Property == nil) {
				k.Fills[i] = param.Name
			}
		}
	}
	if isPrimary(fn) { // public string Code { get; } = code;
		for _, part := range d.parts {
			for _, prop := range part.Props {
				if prop.Value == nil || prop.Static {
					continue
				}
				uses := false
				code.Walk(prop.Value, func(e *code.Expr) {
					uses = uses || e.Op == code.Name && slices.ContainsFunc(fn.Params, func(a code.Param) bool { return a.Name == e.Text })
				})
				if uses {
					fill(prop.Name, prop.Value)
				}
			}
		}
	}
	for _, init := range fn.Inits {
		p.calledFirst(init.Value, fn, d, k, deep)
	}
	for _, a := range assignments(fn.Do()) {
		if fieldOf(d.model, a.name) != nil || fieldAbove(d.model, a.name) {
			fill(a.name, a.value)
		}
	}
	k.Throws = k.Throws || throws(fn.Do())
}

func fieldAbove(m *model.Model, name string) bool {
	for deep := 0; m != nil && m.Super != nil && deep < 16; deep++ {
		if m = m.Super.Model; m != nil && fieldOf(m, name) != nil {
			return true
		}
	}
	return false
}

// calledFirst takes over what the constructor does that a constructor calls first.
func (p *project) calledFirst(call *code.Expr, fn *code.Func, d *declared, k *model.Method, deep int) {
	if call == nil || deep > 8 {
		return
	}
	of := d
	if call.Args[0].Text == "base" {
		if d.model.Super == nil || d.model.Super.Model == nil {
			return
		}
		of = p.of[d.model.Super.Model]
	}
	for _, part := range of.parts {
		for _, other := range part.Funcs {
			if !other.Init || other == fn || len(other.Params) < len(call.Args)-1 {
				continue
			}
			ko := &model.Method{}
			for range other.Params {
				ko.Params = append(ko.Params, &model.Parameter{})
			}
			p.effects(other, of, ko, deep+1)
			k.Computes = append(k.Computes, ko.Computes...)
			k.Throws = k.Throws || ko.Throws
			for i, field := range ko.Fills {
				if field == "" {
					continue
				}
				given := code.Argument(call, other, i)
				at := -1
				if given != nil && given.Op == code.Name {
					at = slices.IndexFunc(fn.Params, func(a code.Param) bool { return a.Name == given.Text })
				}
				if at >= 0 && k.Fills[at] == "" {
					k.Fills[at] = field
				} else {
					k.Computes = append(k.Computes, field)
				}
			}
			return
		}
	}
}

func isThrown(e *code.Expr) bool { return slices.Contains(e.Does.All(), code.Thrown) }

// throws says whether some statements may throw by themselves.
func throws(all []code.Stmt) (found bool) {
	for i := range all {
		s := &all[i]
		found = found || s.Kind == code.Throw || throws(s.Body)
		code.Walk(s.Value, func(e *code.Expr) {
			found = found || isThrown(e) || e.Op == code.Call && e.Args[0].Op == code.Member && strings.HasPrefix(e.Args[0].Text, "ThrowIf")
		})
	}
	return found
}

// fieldOf is the field of a model by name, nil where it has none.
func fieldOf(m *model.Model, name string) *model.Field {
	for _, f := range m.Fields {
		if f.Name == name && !f.Static {
			return f
		}
	}
	return nil
}
