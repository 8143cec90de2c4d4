package code

// What a class asks for in terms of one that extends it.

// below is an expression in the code of a class in terms of a class that extends it: by the properties and
// methods that it gives another value, and by what it hands to the initialiser of the other. nil of nil.
func (p *Program) below(e *Expr, base, sub *Class) *Expr {
	if e == nil {
		return nil
	}
	if name := p.ownGetter(e); name != "" {
		for _, fn := range sub.Funcs {
			if made := result(fn); fn.Name == name && len(fn.Params) == 0 && made != nil {
				return made
			}
		}
	}
	name := ""
	switch {
	case e.Op == Name:
		name = e.Text
	case e.Op == Member && len(e.Args) == 1 && p.isSelf(e.Args[0]):
		name = e.Text
	}
	if name != "" {
		for _, prop := range sub.Props {
			if v := value(prop); prop.Name == name && v != nil {
				return v
			}
		}
		if v := p.handedUp(name, base, sub); v != nil {
			return v
		}
		return e
	}
	made := *e
	made.Args = make([]*Expr, len(e.Args))
	for i, a := range e.Args {
		made.Args[i] = p.below(a, base, sub)
	}
	return &made
}

// ownGetter is the method of its own class that an expression calls without arguments, path() or
// this.path(); "" where it is another.
func (p *Program) ownGetter(e *Expr) string {
	if e.Op != Call || len(e.Args) != 1 {
		return ""
	}
	if callee := e.Args[0]; callee.Op == Name || callee.Op == Member && len(callee.Args) > 0 && p.isSelf(callee.Args[0]) {
		return callee.Text
	}
	return ""
}

// handedUp is what a class hands to a parameter of the class that it extends, or to the one that a property
// of it is given; nil where that is not seen.
func (p *Program) handedUp(name string, base, sub *Class) (found *Expr) {
	for _, part := range p.Classes[base.Name] {
		for _, init := range part.Funcs {
			if !init.Init {
				continue
			}
			param := paramOf(init, name)
			for i := range init.Params {
				if init.Params[i].Name != param {
					continue
				}
				if sub.Super != nil {
					return Argument(sub.Super, init, i)
				}
				for _, own := range sub.Funcs {
					visitAll(own.Body, func(e *Expr) {
						if own.Init && found == nil && p.isSuper(e) {
							found = Argument(e, init, i)
						}
					})
				}
			}
		}
	}
	return found
}

// paramOf is the name of the parameter that an initialiser gives a property, the property's own where it gives it none.
func paramOf(init *Func, prop string) string {
	for i := range init.Body { // this.gson = given
		if s := &init.Body[i]; s.Op == Assign && s.Name == prop && s.Value != nil && s.Value.Op == Name {
			return s.Value.Text
		}
	}
	return prop
}

// isSuper says whether an expression is a call of the initialiser of the class above.
func (p *Program) isSuper(e *Expr) bool {
	if e == nil || e.Op != Call {
		return false
	}
	callee := e.Args[0]
	return callee.Op == Name && callee.Text == p.words.Super ||
		callee.Op == Member && callee.Text == p.words.Init && len(callee.Args) == 1 && callee.Args[0].Op == Name && callee.Args[0].Text == p.words.Super
}
