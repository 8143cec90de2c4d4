package code

import (
	"vetta/internal/model"
)

// memberOf is what a member of an expression is: of Endpoint(path: "v2/ports"), or of .ports that is made
// so, what is given for path; of an object that declares it, what it is there.
func (p *Program) memberOf(e *Expr, in *Func, wanted *model.Type, member string) *Expr {
	if v := p.memberAt(e, in, wanted, member, 0); v != nil {
		return v
	}
	return &Expr{Op: Other} // it is given nothing
}

func (p *Program) memberAt(e *Expr, in *Func, wanted *model.Type, member string, depth int) *Expr {
	for range maxWay {
		switch {
		case e.Op == Call && p.makes(e, wanted):
			class := e.Args[0].Text
			if class == p.words.Init {
				class = model.SimpleName(wanted.Unwrapped().Name)
			}
			for i, label := range e.Labels {
				if label == member {
					return e.Args[i+1]
				}
			}
			for _, prop := range p.props[member] {
				if v := value(prop); v != nil && prop.Class != nil && prop.Class.Name == class {
					return p.ofInstance(v, prop, func(other string) *Expr { return p.memberAt(e, in, wanted, other, depth+maxDeep/maxWay) }, depth)
				}
			}
			for _, part := range p.Classes[class] {
				for _, init := range part.Funcs {
					for i := range init.Params {
						if init.Init && init.Params[i].Name == member {
							if arg := Argument(e, init, i); arg != nil {
								return arg
							}
							if init.Params[i].Default != nil && len(part.Funcs) > 0 {
								return init.Params[i].Default
							}
						}
					}
				}
			}
			if len(e.Args) > 1 {
				return e.Args[1]
			}
			return &Expr{Op: Other}
		case e.Op == Member || e.Op == Call:
			name, class := "", model.SimpleName(wanted.Unwrapped().Name)
			of := e
			if e.Op == Call {
				name, of = called(e), e.Args[0]
			} else {
				name = e.Text
			}
			if of.Op == Member && len(of.Args) > 0 { // of another class than the one that is wanted
				if t := p.typeOf(of.Args[0], in, nil, 0); t != nil {
					class = model.SimpleName(t.Unwrapped().Name)
				}
			}
			if v := p.caseMember(class, name, member, depth); v != nil {
				return v
			}
			next := (*Expr)(nil)
			for _, prop := range p.props[name] {
				if prop.Class != nil && prop.Class.Name == class {
					next = value(prop)
				}
			}
			for _, fn := range p.funcs[name] {
				if fn.Class != nil && fn.Class.Name == class {
					if next = result(fn); next != nil && e.Op == Call {
						next = p.handedAt(next, site{call: e, in: in}, fn, depth+maxDeep/maxWay)
					}
				}
			}
			if next == nil || next == e {
				return &Expr{Op: Other}
			}
			e = next
		case e.Op == Name:
			v := letIn(in.Body, e.Text)
			if prop := p.prop(e.Text, in.Class); v == nil && prop != nil {
				v = value(prop)
			}
			if a := in.param(e.Text); v == nil && a != nil && a.Type != nil { // an instance of a class that says it for all
				if prop := p.propIn(model.SimpleName(a.Type.Unwrapped().Name), member, 0); prop != nil {
					return value(prop)
				}
			}
			if v == nil || v == e {
				return &Expr{Op: Other}
			}
			e = v
		default:
			return &Expr{Op: Other}
		}
	}
	return &Expr{Op: Other}
}

// caseMember is what a member of a constant of an enum is: what it is made with, or what the code of the
// member yields for it; nil where that is not followed.
func (p *Program) caseMember(class, name, member string, depth int) *Expr {
	for _, c := range p.Classes[class] {
		made, ok := c.Cases[name]
		if !ok {
			continue
		}
		if made != nil && made.Op == Call {
			if depth > maxDeep { // constants that are made of each other
				return nil
			}
			return p.memberAt(made, &Func{Class: c}, classType(c), member, depth+maxDeep/maxWay)
		}
		if made != nil && member == p.words.Raw {
			return made
		}
		for _, prop := range p.props[member] {
			if prop.Class != nil && prop.Class.Name == class && prop.Get != nil {
				if of := labelled(prop.Get.Body, name); of != nil {
					return inlined(result(&Func{Body: of}), of)
				}
				if v := result(prop.Get); v != nil && depth <= maxDeep { // made of other members: baseURL + path
					return p.ofInstance(inlined(v, prop.Get.Body), prop, func(other string) *Expr { return p.caseMember(class, name, other, depth+maxDeep/maxWay) }, depth)
				}
			}
		}
	}
	return nil
}

// ofInstance is what a property yields whose code is made of other members of the instance: these as they are there.
func (p *Program) ofInstance(v *Expr, prop *Prop, member func(name string) *Expr, depth int) *Expr {
	if prop.Get == nil || depth > maxDeep {
		return v
	}
	name := ""
	switch {
	case v.Op == Name:
		name = v.Text
	case v.Op == Member && len(v.Args) == 1 && v.Args[0].Op == Name && v.Args[0].Text == p.words.Self:
		name = v.Text
	}
	if name != "" && name != prop.Name && len(p.propsIn[ofClass{prop.Class.Name, name}]) > 0 {
		if made := member(name); made != nil && made.IsTold() {
			return made
		}
		return v
	}
	if len(v.Args) == 0 {
		return v
	}
	r := *v
	r.Args = make([]*Expr, len(v.Args))
	for i, a := range v.Args {
		r.Args[i] = p.ofInstance(a, prop, member, depth)
	}
	return &r
}

// labelled are the statements for a constant among those of a switch, nil for none.
func labelled(all []Stmt, name string) []Stmt {
	for i := range all {
		if s := &all[i]; s.Op == Block && s.Name == name {
			return s.Body
		} else if found := labelled(s.Body, name); found != nil {
			return found
		}
		if v := all[i].Value; v != nil && v.Op == Choice {
			for _, a := range v.Args {
				if found := labelled(a.Body, name); found != nil {
					return found
				}
			}
		}
	}
	return nil
}

// inlined is an expression with what its names are given by some statements.
func inlined(e *Expr, all []Stmt) *Expr {
	if e == nil {
		return nil
	}
	if e.Op == Name {
		if v := letIn(all, e.Text); v != nil {
			return v
		}
		return e
	}
	r := *e
	r.Args = make([]*Expr, len(e.Args))
	for i, a := range e.Args {
		r.Args[i] = inlined(a, all)
	}
	return &r
}

// makes says whether a call makes an instance of a class: Page(…), or .init(…) where one is wanted.
func (p *Program) makes(e *Expr, wanted *model.Type) bool {
	callee := e.Args[0]
	return callee.Op == Name && len(p.Classes[callee.Text]) > 0 || callee.Op == Member && callee.Text == p.words.Init && len(callee.Args) == 0 && wanted.Name != ""
}

// value is what a property holds.
func value(prop *Prop) *Expr {
	if prop.Value != nil {
		return prop.Value
	}
	if prop.Get != nil {
		return result(prop.Get)
	}
	return nil
}

// result is what a function answers, where that is one expression.
func result(fn *Func) *Expr {
	for i := range fn.Body {
		if s := &fn.Body[i]; s.Op == Return || s.Op == Do && i == len(fn.Body)-1 {
			return s.Value
		}
	}
	return nil
}
