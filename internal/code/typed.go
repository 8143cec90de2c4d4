package code

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"vetta/internal/model"
)

// TypeOf is the type of an expression in the code of a function, nil where the source does not tell it.
func (p *Program) TypeOf(e *Expr, in *Func) *model.Type { return p.typeOf(e, in, nil, 0) }

// typeOf is the type of an expression in the code of a function, nil where it is not followed. wanted is
// the type that it is handed to, which .name is looked for in; nil where that is not known.
func (p *Program) typeOf(e *Expr, in *Func, wanted *model.Type, depth int) *model.Type {
	if depth > maxWay {
		return nil
	}
	switch e.Op {
	case As, Lambda: // of a closure, what it takes
		return e.Type
	case Name:
		if p.isSelf(e) {
			return classType(in.Class)
		}
		for i := range in.Params {
			if in.Params[i].Name == e.Text {
				return in.Params[i].Type
			}
		}
		if v := letIn(in.Body, e.Text); v != nil {
			return p.typeOf(v, in, nil, depth+1)
		}
		if prop := p.prop(e.Text, in.Class); prop != nil {
			return p.typeOfProp(prop, depth+1)
		}
		if len(p.Classes[e.Text]) > 0 {
			return &model.Type{Kind: model.Named, Name: e.Text}
		}
	case Member:
		class := ""
		var of *model.Type
		if len(e.Args) == 0 {
			if wanted != nil {
				class = model.SimpleName(wanted.Unwrapped().Name)
			}
		} else if of = p.typeOf(e.Args[0], in, nil, depth+1); of != nil {
			of = of.Unwrapped()
			class = model.SimpleName(of.Name)
		}
		for _, prop := range p.props[e.Text] {
			if prop.Class != nil && prop.Class.Name == class {
				return p.within(p.typeOfProp(prop, depth+1), of)
			}
		}
		for _, c := range p.Classes[class] {
			if _, ok := c.Cases[e.Text]; ok {
				return classType(c)
			}
		}
		if slices.Contains(p.words.Alone, e.Text) && class != "" {
			return &model.Type{Kind: model.Named, Name: class}
		}
	case Call:
		if len(e.Args[0].Args) == 0 && e.Args[0].Op == Name && len(p.Classes[e.Args[0].Text]) > 0 {
			return &model.Type{Kind: model.Named, Name: e.Args[0].Text, Args: p.madeOf(e, in, depth)}
		}
		name := called(e)
		class := ""
		var of *model.Type // with its type arguments, where those are written
		if callee := e.Args[0]; callee.Op == Member && len(callee.Args) == 0 && wanted != nil {
			class = model.SimpleName(wanted.Unwrapped().Name)
		} else if callee.Op == Member && len(callee.Args) > 0 {
			if t := p.typeOf(callee.Args[0], in, nil, depth+1); t != nil {
				class, of = model.SimpleName(t.Unwrapped().Name), t
			}
		} else if in.Class != nil {
			class = in.Class.Name
		}
		for _, c := range p.Classes[class] {
			if _, ok := c.Cases[name]; ok && of != nil {
				return of
			}
		}
		for _, fn := range p.funcs[name] {
			if fn.Returns != nil && (fn.Class == nil && class == "" || fn.Class != nil && fn.Class.Name == class) {
				return p.full(fn.Returns, fn.Class)
			}
		}
	}
	return nil
}

// within is the type of a property of an instance, with what the type parameters of its class stand for
// there.
func (p *Program) within(t, of *model.Type) *model.Type {
	if t == nil || of == nil || len(of.Args) == 0 {
		return t
	}
	by := bindings{}
	for i, name := range p.GenericsOf(model.SimpleName(of.Name)) {
		if i < len(of.Args) {
			by[name] = of.Args[i]
		}
	}
	return p.bind(t, by)
}

// madeOf are the type arguments of the class that a call makes an instance of: those that are written, or as
// far as the arguments say all of them; nil where they do not.
func (p *Program) madeOf(call *Expr, in *Func, depth int) (args []*model.Type) {
	generics := p.GenericsOf(call.Args[0].Text)
	if len(call.Types) > 0 || len(generics) == 0 {
		return call.Types
	}
	by := bindings{}
	note := func(declared *model.Type, arg *Expr) {
		if declared == nil || arg == nil || len(names(declared, generics)) == 0 {
			return
		}
		if t := p.typeOf(arg, in, declared, depth+1); t != nil {
			unify(declared, t, generics, by)
		}
	}
	for _, part := range p.Classes[call.Args[0].Text] {
		for _, init := range part.Funcs {
			for i := range init.Params {
				if init.Init {
					note(init.Params[i].Type, Argument(call, init, i))
				}
			}
		}
		for _, prop := range part.Props { // of the initialiser that the compiler writes
			for i, label := range call.Labels {
				if label == prop.Name {
					note(prop.Type, call.Args[i+1])
				}
			}
		}
	}
	for _, g := range generics {
		if by[g] == nil {
			return nil
		}
		args = append(args, by[g])
	}
	return args
}

// typeOfObject is the type of what a member is of, nil where that is not followed.
func (p *Program) typeOfObject(e *Expr, in *Func) *model.Type {
	if len(e.Args) == 0 {
		return nil
	}
	return p.typeOf(e.Args[0], in, nil, 0)
}

// full is a type that is written inside an extension of its class which says what its parameters are.
func (p *Program) full(t *model.Type, c *Class) *model.Type {
	if c == nil || len(t.Args) > 0 || model.SimpleName(t.Name) != c.Name && t.Name != p.words.OwnType || len(c.Types) == 0 {
		return t
	}
	r := *t
	r.Name = c.Name
	for _, name := range p.GenericsOf(c.Name) {
		if bound := c.Types[name]; bound != nil {
			r.Args = append(r.Args, bound)
		}
	}
	return &r
}

func classType(c *Class) *model.Type {
	if c == nil {
		return nil
	}
	return &model.Type{Kind: model.Named, Name: c.Name}
}

func (p *Program) typeOfProp(prop *Prop, depth int) *model.Type {
	if prop.Type != nil {
		return p.full(prop.Type, prop.Class)
	}
	if prop.Value != nil {
		return p.typeOf(prop.Value, &Func{Class: prop.Class}, nil, depth)
	}
	return nil
}

// prop is the property that a name means in a class, or outside of classes where there is one alone.
func (p *Program) prop(name string, in *Class) *Prop {
	if in != nil {
		if own := p.propsIn[ofClass{in.Name, name}]; own != nil {
			return own[0]
		}
	}
	if free := p.propsIn[ofClass{"", name}]; free != nil {
		return free[0]
	}
	return nil
}

// declared is a value of some type that the source declares.
type declared struct {
	typ  *model.Type
	made *Expr // what makes it
	in   *Func
	pos  model.Pos
}

// valuesOf are the properties and functions that yield instances of a generic class, by its name.
func (p *Program) valuesOf(class string) (all []declared) {
	add := func(t *model.Type, made *Expr, in *Func) {
		if t != nil && t.Kind == model.Named && model.SimpleName(t.Name) == class && made != nil {
			all = append(all, declared{t, made, in, made.Pos})
		}
	}
	for _, props := range p.props {
		for _, prop := range props {
			in := prop.Get
			if in == nil {
				in = &Func{Name: prop.Name, Class: prop.Class}
			}
			add(p.typeOfProp(prop, 0), value(prop), in)
		}
	}
	for _, fn := range p.Funcs {
		if fn.Returns != nil && !fn.Init && len(names(fn.Returns, p.free(fn))) == 0 {
			add(p.full(fn.Returns, fn.Class), result(fn), fn)
		}
	}
	slices.SortFunc(all, func(a, b declared) int {
		return cmp.Or(strings.Compare(a.pos.File, b.pos.File), cmp.Compare(a.pos.Line, b.pos.Line), cmp.Compare(a.pos.Col, b.pos.Col))
	})
	return slices.CompactFunc(all, func(a, b declared) bool { return a.pos == b.pos })
}

// naming are the classes that say what an associated type of a name is.
func (p *Program) naming(member string) (all []declared) {
	for _, name := range slices.Sorted(maps.Keys(p.Classes)) {
		for _, c := range p.Classes[name] {
			if c.Types[member] != nil && len(c.Supers) > 0 {
				made := &Expr{Op: Call, Args: []*Expr{{Op: Name, Text: name}}, Pos: c.Pos}
				all = append(all, declared{&model.Type{Kind: model.Named, Name: name}, made, &Func{Name: name, Class: c}, c.Pos})
				break
			}
		}
	}
	return all
}
