package code

import (
	"slices"
	"strings"

	"vetta/internal/model"
)

// asked are the types that a decoding call names, in terms of the function that it is in, the surest first:
// its type argument, or its arguments and what is expected of it.
func (f *follower) asked(s *site) (all []*model.Type) {
	if len(s.call.Types) > 0 {
		return s.call.Types[:1]
	}
	for _, a := range s.call.Args[1:] {
		if t := f.named(a, s.in, 0); t != nil {
			all = append(all, t)
			break
		}
	}
	if expected := f.expected(*s, 0); expected != nil {
		all = append(all, held(expected))
	}
	return all
}

// expected is the type that the value of a call is expected to be of, nil where nothing says. What a
// closure yields that a function of the app is given is what the type of that parameter says.
func (f *follower) expected(s site, depth int) *model.Type {
	if s.expected != nil && s.in != nil {
		s.expected = f.p.full(s.expected, s.in.Class)
	}
	if s.expected == nil && s.given != nil && depth <= maxWay {
		return f.argument(s, depth)
	}
	if s.closure == nil || depth > maxWay {
		return s.expected
	}
	f.load(called(s.closure))
	outer, ok := f.p.at[s.closure.Pos]
	if !ok {
		return s.expected
	}
	for _, fn := range f.p.funcs[called(s.closure)] {
		if !f.p.mayCall(outer, fn) {
			continue
		}
		for i := range fn.Params {
			if Argument(s.closure, fn, i) != s.lambda {
				continue
			}
			takes := f.p.expand(fn.Params[i].Type)
			if takes == nil || len(takes.Args) != 2 || takes.Kind != model.Opaque {
				return nil
			}
			free, by := f.p.free(fn), bindings{}
			if expected := f.expected(outer, depth+1); fn.Returns != nil && expected != nil {
				unify(fn.Returns, expected, free, by)
			}
			if t := f.p.bind(takes.Args[1], by); len(names(t, free)) == 0 {
				return t
			}
			return nil
		}
	}
	return s.expected
}

// argument is the type that is expected of a call that is an argument of another, by what is expected of that: Port[] of
// Outcome.Ok(…) that an Outcome<Port[]> is made by; nil where that is not told.
func (f *follower) argument(s site, depth int) *model.Type {
	outer, ok := f.p.at[s.given.Pos]
	if !ok {
		return nil
	}
	expected := f.expected(outer, depth+1)
	if expected == nil && len(s.given.Types) == 0 {
		return nil
	}
	wanted := func(fn *Func, free []string, made ...*model.Type) *model.Type {
		by := bindings{}
		if len(s.given.Types) == len(fn.Generics) { // unwrap<Session>(…)
			for i, name := range fn.Generics {
				by[name] = s.given.Types[i]
			}
		}
		for _, t := range made {
			if expected == nil || len(by) > 0 {
				break
			}
			if model.SimpleName(t.Unwrapped().Name) == model.SimpleName(expected.Unwrapped().Name) {
				unify(t, expected, free, by)
				break
			}
		}
		for i := range fn.Params {
			if Argument(s.given, fn, i) == s.call && fn.Params[i].Type != nil {
				if t := f.p.bind(fn.Params[i].Type, by); len(names(t, free)) == 0 {
					return t
				}
			}
		}
		return nil
	}
	name := called(s.given)
	for _, c := range f.p.classes(name) {
		for _, fn := range c.Funcs {
			if !fn.Init {
				continue
			}
			own := classType(c)
			for _, g := range c.Generics {
				own.Args = append(own.Args, &model.Type{Kind: model.Named, Name: g})
			}
			if t := wanted(fn, c.Generics, append([]*model.Type{own}, c.Supers...)...); t != nil {
				return t
			}
		}
	}
	for _, fn := range f.p.funcs[name] {
		if fn.Returns != nil && !fn.Init && f.p.mayCall(outer, fn) {
			return wanted(fn, f.p.free(fn), fn.Returns)
		}
	}
	return nil
}

// named is the type that an expression names: X.self, type, a variable that was given such; nil for any
// other.
func (f *follower) named(e *Expr, in *Func, depth int) *model.Type {
	if depth > maxWay {
		return nil
	}
	switch e.Op {
	case TypeOf:
		return e.Type
	case Member, Call: // token.type, token.getType()
		if len(e.Args) > 0 && (e.Op == Call || slices.Contains(f.p.words.OfType, e.Text)) {
			return f.named(e.Args[0], in, depth+1)
		}
	case Name:
		for i := range in.Params {
			if a := &in.Params[i]; a.Name == e.Text {
				if t := f.p.metatype(a.Type); t != nil {
					return t
				}
				if f.p.isType(a.Type) {
					return &model.Type{Kind: model.Named, Name: handed(a.Name)}
				}
				return nil
			}
		}
		if value := letIn(in.Body, e.Text); value != nil {
			return f.named(value, in, depth+1)
		}
		if prop := f.p.prop(e.Text, in.Class); prop != nil {
			switch t := f.p.metatype(prop.Type); {
			case prop.Value != nil:
				return f.named(prop.Value, &Func{Class: prop.Class}, depth+1)
			case t != nil:
				return t
			case f.p.isType(prop.Type):
				return &model.Type{Kind: model.Named, Name: handed(prop.Name)}
			}
		}
	}
	return nil
}

// metatype is the type that values of a type name: T of T.Type and Class<T>.
func (p *Program) metatype(t *model.Type) *model.Type {
	if t == nil {
		return nil
	}
	t = t.Unwrapped()
	if name, ok := strings.CutSuffix(t.Name, p.words.Meta); ok && p.words.Meta != "" && t.Kind == model.Named {
		return &model.Type{Kind: model.Named, Name: name, Args: t.Args, Model: t.Model}
	}
	if t.Kind == model.Named && len(t.Args) == 1 && slices.Contains(p.words.Types, model.SimpleName(t.Name)) && model.SimpleName(t.Args[0].Name) != "?" && t.Args[0].Kind != model.Opaque {
		if slices.Contains(p.words.ByClass, model.SimpleName(t.Name)) {
			return &model.Type{Kind: model.Named, Name: Erased, Args: t.Args}
		}
		return t.Args[0]
	}
	return nil
}

// isType says whether values of a type name any type, which it does not say: Type, Class<*>.
func (p *Program) isType(t *model.Type) bool {
	if t == nil {
		return false
	}
	return slices.Contains(p.words.AnyType, model.SimpleName(t.Unwrapped().Name))
}

// TypeParameter is the name of the type parameter that a parameter is given as a value, "" where it is
// given something else.
func TypeParameter(t *model.Type, generics []string) string {
	if t == nil {
		return ""
	}
	for _, g := range generics {
		if t.Name == g+".Type" || len(t.Args) == 1 && t.Args[0].Name == g {
			return g
		}
	}
	return ""
}

// letIn is what a name is given among some statements, nil for nothing.
func letIn(all []Stmt, name string) *Expr {
	for i := range all {
		if s := &all[i]; s.Op == Let && s.Name == name && s.Value != nil {
			return s.Value
		}
		if v := letIn(all[i].Body, name); v != nil {
			return v
		}
		if v := letInside(all[i].Value, name); v != nil {
			return v
		}
	}
	return nil
}

// letInside is the same of the closures in an expression.
func letInside(e *Expr, name string) *Expr {
	if e == nil {
		return nil
	}
	if v := letIn(e.Body, name); v != nil {
		return v
	}
	for _, a := range e.Args {
		if v := letInside(a, name); v != nil {
			return v
		}
	}
	return nil
}
