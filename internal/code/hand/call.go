package hand

import (
	"maps"
	"slices"

	"vetta/internal/code"
	"vetta/internal/model"
)

// Functions of the app that code calls to read a value are followed into: helpers, and extensions of what
// parts of a document are held in.

// Callee is a function of the app with what is needed to follow it.
type Callee struct {
	Func     *code.Func
	Receiver *code.Expr // what it is called on, where it extends that; nil else
	File     File
	Words    Vocabulary
}

// maxInlined is how many functions are followed into each other.
const maxInlined = 8

// inside does something in a function that is called, with its parameters bound to what the call gives them
// and its type parameters to what it says, or to what it is expected to yield; nil where that is not followed.
func (f *Follower) inside(e *code.Expr, c *Callee, want *model.Type, do func() *model.Expr) *model.Expr {
	if f.inlined >= maxInlined {
		return nil
	}
	names := map[string]Binding{}
	types := map[string]*model.Type{}
	var given []*model.Expr
	bind := func(name string, arg *code.Expr) bool {
		if p, ok := f.Words.Part(f, arg); ok {
			names[name] = Binding{Part: &p}
			return true
		}
		v := f.Value(arg)
		if HasUnknown(v) {
			return false
		}
		if v.Op != model.OpConst {
			given = append(given, v)
		}
		names[name] = Binding{Value: v}
		return true
	}
	for i := range c.Func.Params {
		p := &c.Func.Params[i]
		arg := code.Argument(e, c.Func, i)
		if arg == nil {
			if arg = p.Default; arg == nil {
				return nil
			}
		}
		if arg.Op == code.TypeOf {
			if generic := code.TypeParameter(p.Type, c.Func.Generics); generic != "" {
				types[generic] = f.Type(arg.Type)
			}
			names[p.Name] = Binding{Type: f.Type(arg.Type)}
			continue
		}
		if !bind(p.Name, arg) {
			return nil
		}
	}
	if c.Receiver != nil && !bind(f.Words.Self(), c.Receiver) {
		return nil
	}
	if r := c.Func.Returns; want != nil && r != nil && r.Kind == model.Optional && slices.Contains(c.Func.Generics, r.Args[0].Name) && types[r.Args[0].Name] == nil {
		types[r.Args[0].Name] = want.Unwrapped()
	}
	for _, generic := range c.Func.Generics {
		if types[generic] == nil {
			return nil
		}
	}
	outer := *f
	f.names, f.types, f.File, f.Words, f.Fields, f.Yields = names, types, c.File, c.Words, nil, false
	f.inlined++
	v := do()
	*f = outer
	if v == nil || HasUnknown(v) || slices.ContainsFunc(given, func(arg *model.Expr) bool { return !holds(v, arg) }) {
		return nil // what is read for an argument may throw, whatever becomes of it
	}
	return v
}

func holds(e, part *model.Expr) (found bool) {
	e.Walk(func(e *model.Expr) { found = found || e == part })
	return found
}

// inline is the value of a call of a function of the app, nil where it is not followed.
func (f *Follower) inline(e *code.Expr, c *Callee, want *model.Type) *model.Expr {
	return f.inside(e, c, want, func() *model.Expr {
		body := c.Func.Body
		if len(body) == 1 && body[0].Op == code.Do && body[0].Kind == code.Plain && !body[0].Torn && body[0].Value != nil {
			return f.Value(body[0].Value)
		}
		return f.result(body)
	})
}

// result is the value that statements return, nil where that is not followed.
func (f *Follower) result(all []code.Stmt) *model.Expr {
	for len(all) > 0 {
		n := Together(all)
		s, rest := &all[0], all[n:]
		switch {
		case s.Torn:
			return nil
		case s.Op == code.Let:
			if s.Name == "" || isBare(s.Value) {
				return nil
			}
			if p, ok := f.Words.Part(f, s.Value); ok && f.Words.Holds(p) == nil {
				f.names[s.Name] = Binding{Part: &p}
				break
			}
			v := f.Value(s.Value)
			if HasUnknown(v) || mayFail(v) { // it fails here, whatever becomes of it
				return nil
			}
			if v.Op == model.OpConst {
				f.Words.Typed(v, s.Type)
			}
			f.names[s.Name] = Binding{Value: v}
		case s.Op == code.Return:
			if s.Value == nil {
				return nil
			}
			return f.Value(s.Value)
		case s.Kind == code.Throw:
			return &model.Expr{Op: model.OpFail, Why: f.Words.Thrown(f, s.Value), Pos: f.File.At(s.From)}
		case s.Kind == code.If || s.Kind == code.Guard:
			outer := maps.Clone(f.names)
			cond := f.condition(s)
			if cond == nil {
				return nil
			}
			bound := f.names
			inner, otherwise := s.Body[s.Heads:], rest
			if s.Kind == code.Guard {
				f.names = outer
				no := f.result(inner)
				f.names = bound
				return choose(cond, f.result(rest), no)
			}
			if n == 2 && all[1].Kind == code.Else {
				otherwise = all[1].Body
			} else if n > 1 {
				return nil
			}
			yes := f.result(inner)
			f.names = outer
			return choose(cond, yes, f.result(otherwise))
		default:
			return nil
		}
		all = rest
	}
	return nil
}

func choose(cond, yes, no *model.Expr) *model.Expr {
	if yes == nil || no == nil {
		return nil
	}
	return &model.Expr{Op: model.OpIf, Args: []*model.Expr{cond, yes, no}, Pos: cond.Pos}
}

// mayFail says whether evaluating an operation may throw.
func mayFail(e *model.Expr) bool {
	switch e.Op {
	case model.OpTry:
		return false
	case model.OpFail, model.OpDecode, model.OpAt, model.OpElem:
		return true
	}
	return slices.ContainsFunc(e.Args, mayFail)
}

// Type is a type in which the type parameters of the function that is followed are what it is given.
func (f *Follower) Type(t *model.Type) *model.Type {
	if t == nil || len(f.types) == 0 {
		return t
	}
	if bound := f.types[t.Name]; bound != nil && len(t.Args) == 0 {
		return bound
	}
	made := *t
	made.Args = nil
	for _, a := range t.Args {
		made.Args = append(made.Args, f.Type(a))
	}
	return &made
}
