package code

import (
	"slices"

	"vetta/internal/model"
)

// What a property holds, and whether it may hold another thing.

// addHeld adds what a property goes by that holds something or is computed.
func (p *Program) addHeld(prop *Prop, n *Named, depth int) {
	if prop.Value == nil {
		from, to := stretch(prop.Get.Body)
		n.add(prop.Name, prop.File, from, to)
		p.addNames(result(prop.Get), prop.Get, n, depth+1)
		return
	}
	n.add(prop.Name, prop.File, prop.Value.From, prop.Value.To)
	n.Several = n.Several || p.isGivenAnother(prop)
	p.addNames(prop.Value, &Func{Class: prop.Class, File: prop.File}, n, depth+1)
}

// propOf is the property that a member of another value is, by the type of that value or the class that it
// names; nil where it is not seen.
func (p *Program) propOf(e *Expr, in *Func) *Prop {
	if len(e.Args) == 0 {
		return nil
	}
	class := ""
	if of := e.Args[0]; of.Op == Name && len(p.Classes[of.Text]) > 0 && in.param(of.Text) == nil {
		class = of.Text
	} else if t := p.typeOf(of, in, nil, 0); t != nil {
		class = model.SimpleName(t.Unwrapped().Name)
	}
	return p.propIn(class, e.Text, 0)
}

// propIn is the property of a class that holds something or is computed: its own, else that of what it
// extends; nil for none.
func (p *Program) propIn(class, name string, depth int) (found *Prop) {
	if class == "" || depth > maxWay {
		return nil
	}
	for _, prop := range p.propsIn[ofClass{class, name}] {
		if prop.Value != nil || prop.Get != nil {
			return prop
		}
	}
	for _, part := range p.Classes[class] {
		for _, super := range part.Supers {
			if prop := p.propIn(model.SimpleName(super.Name), name, depth+1); prop != nil {
				return prop
			}
		}
	}
	return nil
}

// ownProp is the name of the property of its own class that an expression in a function is, "" where it is
// another.
func (p *Program) ownProp(e *Expr, fn *Func) string {
	own := e.Op == Name || e.Op == Member && len(e.Args) > 0 && p.isSelf(e.Args[0])
	if !own || fn.Class == nil || e.Op == Name && (fn.param(e.Text) != nil || letIn(fn.Body, e.Text) != nil) {
		return ""
	}
	return e.Text
}

// isOverridden says whether a class that extends another holds something of its own for a property.
func (p *Program) isOverridden(class, name string) bool {
	return slices.ContainsFunc(p.props[name], func(prop *Prop) bool {
		return prop.Class != nil && prop.Class.Name != class && (prop.Value != nil || prop.Get != nil) && p.isKindOf(prop.Class.Name, class, 0)
	})
}

// overridden are the names of a property in the code of a function as the class has it that a call of the
// function is made on; it may be any where that is not seen.
func (p *Program) overridden(s site, fn *Func, name string) Named {
	class := ""
	if callee := s.call.Args[0]; callee.Op == Name || len(callee.Args) > 0 && p.isSelf(callee.Args[0]) {
		if s.in.Class != nil && p.isKindOf(s.in.Class.Name, fn.Class.Name, 0) {
			class = s.in.Class.Name
		}
	} else if len(callee.Args) > 0 {
		if t := p.typeOf(callee.Args[0], s.in, nil, 0); t != nil {
			class = model.SimpleName(t.Unwrapped().Name)
		}
	}
	prop := p.propIn(class, name, 0)
	if prop == nil || p.isOverridden(class, name) {
		return Named{File: fn.File, Several: true}
	}
	n := Named{File: prop.File}
	p.addHeld(prop, &n, 0)
	return n
}

// isGivenAnother says whether a property that holds something is given another thing by what is done with
// an instance.
func (p *Program) isGivenAnother(prop *Prop) bool {
	for _, fn := range p.assigned[prop.Name] {
		own := prop.Class == nil || fn.Class != nil && fn.Class.Name == prop.Class.Name
		if own && fn.Init {
			continue
		}
		if assigns(fn.Body, func(s *Stmt) bool {
			switch {
			case s.Name != prop.Name:
				return false
			case s.Of == nil:
				return own && fn.param(s.Name) == nil && letIn(fn.Body, s.Name) == nil
			case p.isSelf(s.Of):
				return own
			}
			t := p.typeOf(s.Of, fn, nil, 0)
			return prop.Class != nil && t != nil && model.SimpleName(t.Unwrapped().Name) == prop.Class.Name
		}) {
			return true
		}
	}
	return false
}

// isMadeWithAnother says whether some instance is made with another thing for a property that holds one.
func (p *Program) isMadeWithAnother(prop *Prop) bool {
	return prop.Class != nil && prop.Get == nil && slices.ContainsFunc(p.calls[prop.Class.Name], func(s site) bool { return slices.Contains(s.call.Labels, prop.Name) })
}

// assigns says whether some statements hold an assignment that is looked for.
func assigns(all []Stmt, wanted func(*Stmt) bool) bool {
	for i := range all {
		s := &all[i]
		if s.Op == Assign && wanted(s) || assigns(s.Body, wanted) || assignsInside(s.Value, wanted) {
			return true
		}
	}
	return false
}

// assignsInside is the same of the closures in an expression.
func assignsInside(e *Expr, wanted func(*Stmt) bool) bool {
	if e == nil {
		return false
	}
	return assigns(e.Body, wanted) || slices.ContainsFunc(e.Args, func(a *Expr) bool { return assignsInside(a, wanted) })
}

// stretch is where some statements stand, as byte offsets.
func stretch(all []Stmt) (from, to int32) {
	if len(all) == 0 {
		return 0, 0
	}
	return all[0].From, all[len(all)-1].To
}
