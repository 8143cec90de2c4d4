package code

import (
	"slices"

	"vetta/internal/model"
)

// bindings are what the names of a function stand for at a call of it.
func (f *follower) bindings(s site, fn *Func) bindings {
	by := bindings{}
	generics := fn.Generics
	if fn.Init && fn.Class != nil {
		generics = f.p.GenericsOf(fn.Class.Name)
	}
	for i, t := range s.call.Types {
		if i < len(generics) {
			by[generics[i]] = t
		}
	}
	free := f.p.free(fn)
	for i := range fn.Params {
		a := &fn.Params[i]
		arg := Argument(s.call, fn, i)
		if arg == nil {
			continue
		}
		if t := f.named(arg, s.in, 0); t != nil {
			by[handed(a.Name)] = t
			if own := f.p.metatype(a.Type); own != nil {
				unify(own, t, free, by)
			}
			continue
		}
		if f.sends && f.p.isAnyValue(a.Type) {
			if t := f.valueType(arg, s.in); t != nil {
				by[handed(a.Name)] = t
			}
			continue
		}
		if len(names(a.Type, free)) > 0 {
			if t := f.argumentType(arg, s.in, a.Type); t != nil {
				f.p.unifyKind(f.p.expand(a.Type), f.p.expand(t), free, by, 0)
			}
		}
	}
	if yields, expected := f.p.yields(fn), f.expected(s, 0); yields != nil && expected != nil {
		unify(yields, expected, free, by)
	}
	if own := f.p.genericsOf(fn.Class); !fn.Init && len(own) > 0 { // of a generic class, by what the receiver is declared as
		if callee := s.call.Args[0]; callee.Op == Member && len(callee.Args) > 0 {
			if t := f.p.typeOf(callee.Args[0], s.in, nil, 0); t != nil && len(t.Args) == len(own) {
				for i, name := range own {
					if by[name] == nil {
						by[name] = t.Args[i]
					}
				}
			}
		}
	}
	for name, t := range by { // what only holds a value is not what is decoded
		if slices.Contains(fn.Generics, name) {
			by[name] = held(t)
		}
	}
	return by
}

// argumentType is the type of what a function is given for a parameter of a type: of a text, where types may be texts,
// that text.
func (f *follower) argumentType(arg *Expr, in *Func, wanted *model.Type) *model.Type {
	if own := f.p.words.TextType; own != nil {
		if given := Given(arg, in); given.Op == Text && len(given.Args) == 0 {
			return own(given.Text)
		}
	}
	return f.p.typeOf(arg, in, wanted, 0)
}

// Argument is what a call gives a parameter: by its label, or its place where it has none, and a closure
// behind the others the last; nil where it gives none.
func Argument(call *Expr, fn *Func, param int) *Expr {
	a := fn.Params[param]
	given := call.Args[1:]
	for i, arg := range given {
		if label := call.Labels[i]; label != "" && (label == a.Label || a.Label == "" && label == a.Name) {
			return arg
		}
	}
	place := 0
	for i, arg := range given {
		if call.Labels[i] != "" {
			continue
		}
		if arg.Op == Lambda && i == len(given)-1 && i > 0 && given[i-1].Op != Lambda {
			if param == len(fn.Params)-1 {
				return arg
			}
			return nil
		}
		for place < len(fn.Params) && (fn.Params[place].Label != "" || byLabel(call, fn, place)) {
			place++
		}
		if place == param {
			return arg
		}
		place++
	}
	return nil
}

// yields is the type of what a function returns, of an initialiser that of an instance, with the type
// parameters that an extension does not repeat; nil for nothing.
func (p *Program) yields(fn *Func) *model.Type {
	if !fn.Init || fn.Class == nil || fn.Returns != nil && len(fn.Returns.Args) > 0 {
		return fn.Returns
	}
	t := &model.Type{Kind: model.Named, Name: fn.Class.Name}
	for _, g := range p.genericsOf(fn.Class) {
		t.Args = append(t.Args, &model.Type{Kind: model.Named, Name: g})
	}
	return t
}

// byLabel says whether a call gives a parameter by its label.
func byLabel(call *Expr, fn *Func, param int) bool {
	a := fn.Params[param]
	return slices.ContainsFunc(call.Labels, func(label string) bool {
		return label != "" && (label == a.Label || a.Label == "" && label == a.Name)
	})
}

// param is the parameter of a name, nil for none.
func (fn *Func) param(name string) *Param {
	for i := range fn.Params {
		if fn.Params[i].Name == name {
			return &fn.Params[i]
		}
	}
	return nil
}

// handedPath is the path in terms of the caller of a function.
func (p *Program) handedPath(path *Expr, s site, fn *Func) *Expr {
	if path != nil {
		handed := p.handed(path, s, fn)
		if handed.IsTold() && (p.evaluate(handed, s.in) != "" || p.isOpenIn(handed, s.in)) {
			return handed
		}
	}
	return p.pathIn(s.in, s.call)
}

// classGiven is the class that a call names for a type parameter of a function, "" where it names none.
func (p *Program) classGiven(generic string, s site, fn *Func) string {
	if !slices.Contains(fn.Generics, generic) {
		return ""
	}
	for i := range fn.Params {
		of := p.metatype(fn.Params[i].Type)
		if arg := Argument(s.call, fn, i); of != nil && of.Name == generic && arg != nil && arg.Op == TypeOf && arg.Type != nil {
			return model.SimpleName(arg.Type.Name)
		}
	}
	return ""
}

// isOpenIn says whether callers of a function say more of an expression in its code.
func (p *Program) isOpenIn(e *Expr, fn *Func) bool {
	return p.isHanded(e, fn) || e.Op == Name && slices.Contains(fn.Generics, e.Text) || slices.ContainsFunc(e.Args, func(a *Expr) bool { return p.isOpenIn(a, fn) })
}

// handed is an expression in the code of a function in terms of a caller of it; nil of nil.
func (p *Program) handed(e *Expr, s site, fn *Func) *Expr { return p.handedAt(e, s, fn, 0) }

func (p *Program) handedAt(e *Expr, s site, fn *Func, depth int) *Expr {
	if e == nil {
		return nil
	}
	if depth > maxDeep { // names that lead to each other
		return &Expr{Op: Other}
	}
	given := func(name string) *Expr {
		for i := range fn.Params {
			if fn.Params[i].Name == name {
				if arg := Argument(s.call, fn, i); arg != nil {
					return arg
				}
				return fn.Params[i].Default
			}
		}
		return nil
	}
	switch e.Op {
	case Name:
		if arg := given(e.Text); arg != nil {
			return arg
		}
		if v := letIn(fn.Body, e.Text); v != nil {
			return p.handedAt(v, s, fn, depth+1)
		}
		prop := p.prop(e.Text, fn.Class)
		if prop == nil || prop.Class == nil || prop.Value != nil || fn.Init {
			return e
		}
		if callee := s.call.Args[0]; callee.Op == Member && len(callee.Args) > 0 { // of the instance
			if v := p.memberAt(callee.Args[0], s.in, classType(prop.Class), e.Text, depth); v.IsTold() {
				return v
			}
		}
		return &Expr{Op: Other, Text: e.Text, Type: classType(prop.Class)}
	case Member:
		if len(e.Args) == 0 || e.Args[0].Op != Name {
			break
		}
		if arg := given(e.Args[0].Text); arg != nil {
			wanted := &model.Type{}
			if a := fn.param(e.Args[0].Text); a.Type != nil {
				wanted = a.Type
			}
			if arg.Op == Name && s.in.param(arg.Text) != nil && p.propOf(&Expr{Op: Member, Text: e.Text, Args: []*Expr{arg}}, s.in) == nil {
				return &Expr{Op: Member, Text: e.Text, Pos: e.Pos, Args: []*Expr{arg}} // handed on
			}
			return p.memberAt(arg, s.in, wanted, e.Text, depth)
		}
		if class := p.classGiven(e.Args[0].Text, s, fn); class != "" { // E.path, where the caller gives Fares.self
			return &Expr{Op: Member, Text: e.Text, Pos: e.Pos, Args: []*Expr{{Op: Name, Text: class, Pos: e.Pos}}}
		}
	}
	r := *e
	r.Args = make([]*Expr, len(e.Args))
	for i, a := range e.Args {
		r.Args[i] = p.handedAt(a, s, fn, depth+1)
	}
	return &r
}
