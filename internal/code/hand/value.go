package hand

import (
	"maps"

	"vetta/internal/code"
	"vetta/internal/model"
)

// Value is the operation that an expression is, with what is done with its value; one that is not known
// where it is not followed.
func (f *Follower) Value(e *code.Expr) *model.Expr {
	v := f.valueOf(e)
	if v == nil {
		v = &model.Expr{Op: model.OpUnknown, Why: "the expression " + f.Text(e)}
	}
	pos := f.File.At(e.From)
	if v.Pos.IsZero() {
		v.Pos = pos
	}
	for _, does := range e.Does.All() {
		switch does {
		case code.Forced:
			v = &model.Expr{Op: model.OpElse, Args: []*model.Expr{v, {Op: model.OpFail, Why: f.missing(e)}}, Pos: pos}
		case code.Attempted:
			v = &model.Expr{Op: model.OpTry, Args: []*model.Expr{v}, Pos: pos}
		}
	}
	return v
}

// missing is what a log shows where a value is forced that is not there.
func (f *Follower) missing(e *code.Expr) string {
	if e.Op == code.As {
		return "Could not cast value to " + e.Text
	}
	return f.Words.Missing()
}

func (f *Follower) valueOf(e *code.Expr) *model.Expr {
	want := f.want
	f.want = nil
	if l := f.Words.Constant(f, e); l != nil {
		return &model.Expr{Op: model.OpConst, Value: l}
	}
	switch e.Op {
	case code.Name:
		if b, ok := f.names[e.Text]; ok && b.Part == nil && b.Value != nil {
			return b.Value
		}
	case code.Member: // self.field, which may have been given a value
		if len(e.Args) == 1 && e.Args[0].Op == code.Name && e.Args[0].Text == f.Words.Self() {
			if b, ok := f.names[e.Text]; ok && b.Value != nil {
				return b.Value
			}
			return nil
		}
	case code.Plus:
		return Function("+", f.Value(e.Args[0]), f.Value(e.Args[1]))
	case code.Binary:
		left, right := f.Value(e.Args[0]), f.Value(e.Args[1])
		if right.Op == model.OpConst && right.Value.Kind == model.NullLiteral {
			switch e.Text {
			case "!=":
				return Function("!= nil", left)
			case "==":
				return Function("!", Function("!= nil", left))
			}
		}
		return Function(e.Text, left, right)
	case code.Choice:
		switch {
		case len(e.Args) != 2:
			return nil
		case len(e.Body) == 0:
			f.want = want
			return &model.Expr{Op: model.OpElse, Args: []*model.Expr{f.Value(e.Args[0]), f.Value(e.Args[1])}}
		}
		return &model.Expr{Op: model.OpIf, Args: []*model.Expr{f.Value(e.Body[0].Value), f.Value(e.Args[0]), f.Value(e.Args[1])}}
	case code.Unary:
		if e.Text == "!" {
			return Function("!", f.Value(e.Args[0]))
		}
		return nil
	}
	v := f.Words.Value(f, e)
	if v == nil && e.Op == code.Call {
		if c := f.Words.Called(f, e); c != nil {
			return f.inline(e, c, want)
		}
	}
	return v
}

// Function is a call of a function that the library's folder defines.
func Function(name string, args ...*model.Expr) *model.Expr {
	return &model.Expr{Op: model.OpCall, Func: name, Args: args}
}

// Method is what a call is made on, and its name; nil where a bare name is called, which begins with a point
// where what it is a member of is not said.
func Method(e *code.Expr) (receiver *code.Expr, name string) {
	if e.Op != code.Call {
		return nil, ""
	}
	switch callee := e.Args[0]; callee.Op {
	case code.Name:
		return nil, callee.Text
	case code.Member:
		if len(callee.Args) > 0 {
			return callee.Args[0], callee.Text
		}
		return nil, "." + callee.Text
	}
	return nil, ""
}

// Label is the argument of a call with a label, nil for none.
func Label(e *code.Expr, label string) *code.Expr {
	for i, l := range e.Labels {
		if e.Op == code.Call && l == label && i+1 < len(e.Args) {
			return e.Args[i+1]
		}
	}
	return nil
}

// Yielded is what a closure of one expression yields by what it is given: as its first parameter, or by the
// name that goes without saying; nil where it is not of one expression.
func (f *Follower) Yielded(e *code.Expr, unnamed string, given Binding, value func(name string, body *code.Expr) *model.Expr) *model.Expr {
	if e.Op != code.Lambda || len(e.Body) != 1 || e.Body[0].Value == nil || e.Body[0].Torn || e.Body[0].Op != code.Do && e.Body[0].Op != code.Return {
		return nil
	}
	name := unnamed
	if len(e.Labels) > 0 {
		name = e.Labels[0]
	}
	outer := f.names
	f.names = maps.Clone(outer)
	f.names[name] = given
	defer func() { f.names = outer }()
	return value(name, e.Body[0].Value)
}
