package code

import (
	"iter"
	"slices"

	"vetta/internal/model"
)

// site is a call in the code of a function, with the type that its value is expected to be of there.
type site struct {
	call     *Expr
	in       *Func
	expected *model.Type // nil where nothing says
	// closure is the call that is given the closure whose value the call's is, nil for none.
	closure, lambda *Expr
	given           *Expr // the call that is given its value, nil for none
}

// walker notes the calls of a function.
type walker struct {
	p               *Program
	in              *Func
	closure, lambda *Expr       // see site
	given           *Expr       // see site
	around          *model.Type // what a closure around the cursor must yield
}

// body goes through the statements of a function or a closure. What it returns is expected to be of one
// type, and what its last statement yields of another.
func (w *walker) body(all []Stmt, result, value *model.Type) {
	for i := range all {
		s := &all[i]
		switch s.Op {
		case Return:
			w.expr(s.Value, result)
		case Let:
			t := s.Type
			if t == nil && s.Name != "" && returned(all[i+1:], s.Name) {
				t = result
			}
			w.expr(s.Value, t)
		case Assign:
			if fns := w.p.assigned[s.Name]; len(fns) == 0 || fns[len(fns)-1] != w.in {
				w.p.assigned[s.Name] = append(fns, w.in)
			}
			t := w.declared(s.Name)
			if t == nil && s.Of != nil && s.Of.Op == Name { // of what holds a value: port.value = …
				if of := w.declared(s.Of.Text); of != nil {
					t = held(of)
				}
			}
			w.expr(s.Value, t)
		case Block:
			inner := value
			if i < len(all)-1 {
				inner = nil
			}
			w.expr(s.Value, nil)
			w.body(s.Body, result, inner)
		default:
			t := value
			if i < len(all)-1 {
				t = nil
			}
			w.expr(s.Value, t)
		}
	}
}

// returned says whether a name is what some statements return.
func returned(all []Stmt, name string) bool {
	for i := range all {
		s := &all[i]
		last := s.Op == Return || s.Op == Do && i == len(all)-1
		if last && s.Value != nil && s.Value.Op == Name && s.Value.Text == name || returned(s.Body, name) {
			return true
		}
	}
	return false
}

// declared is the type of a property of the class around, nil where none is written.
func (w *walker) declared(name string) *model.Type {
	if w.in.Class == nil {
		return nil
	}
	for _, prop := range w.in.Class.Props {
		if prop.Name != name {
			continue
		}
		if v := prop.Value; prop.Type == nil && v != nil && v.Op == Call && len(v.Types) > 0 { // MutableLiveData<Port>()
			return &model.Type{Kind: model.Named, Name: called(v), Args: v.Types}
		}
		return prop.Type
	}
	return nil
}

// yielded is the type that the closure yields which a function that the app does not declare is given, where
// the function is expected to yield another; nil where that is not known.
func (p *Program) yielded(function string, expected *model.Type) *model.Type {
	switch {
	case expected == nil:
	case slices.Contains(p.words.Yields, function):
		return expected
	case slices.Contains(p.words.Each, function):
		t := expected.Unwrapped()
		if holds(t) { // of a stream: Single<List<Port>>
			return held(t)
		}
		if t.Kind == model.List || t.Kind == model.Unique {
			return t.Args[0]
		}
	}
	return nil
}

func (w *walker) expr(e *Expr, expected *model.Type) {
	if e == nil {
		return
	}
	given := w.given
	w.given = nil
	switch e.Op {
	case As:
		w.expr(e.Args[0], e.Type)
		return
	case Choice:
		for _, a := range e.Args {
			w.expr(a, expected)
		}
		return
	case Lambda:
		if expected != nil && expected.Kind == model.Opaque && len(expected.Args) == 2 { // a function's type
			expected = expected.Args[1]
		}
		w.body(e.Body, expected, expected)
		return
	case Member: // what .value and .await() are of is expected to hold it
		if len(e.Args) > 0 {
			w.expr(e.Args[0], expected)
		}
		return
	case Call:
		if name := called(e); name != "" {
			s := site{e, w.in, expected, w.closure, w.lambda, given}
			w.p.calls[name] = append(w.p.calls[name], s)
			w.p.at[e.Pos] = s
		}
		if callee := e.Args[0]; callee.Op == Member && len(callee.Args) > 0 {
			of := expected
			if transforms[callee.Text] {
				of = taken(e)
			}
			w.expr(callee.Args[0], of)
		} else if callee.Op != Name && callee.Op != Member {
			w.expr(callee, nil)
		}
		for i, a := range e.Args[1:] {
			inner := *w
			inner.closure, inner.lambda = nil, nil
			if a.Op == Call {
				inner.given = e
			}
			var t *model.Type
			switch {
			case a.Op == Lambda && i == len(e.Args)-2:
				t, inner.closure, inner.lambda, inner.around = w.p.yielded(called(e), expected), e, a, expected
			case a.Op == Lambda && e.Labels[i] != "":
				inner.closure, inner.lambda = e, a
			case slices.Contains(w.p.words.Hands, called(e)) && w.around != nil:
				t = held(w.around)
			}
			inner.expr(a, t)
		}
		return
	}
	if w.closure != nil {
		inner := *w
		inner.closure, inner.lambda = nil, nil
		w = &inner
	}
	for _, a := range e.Args {
		w.expr(a, nil)
	}
}

// transforms are the methods that make something else of what a value holds by a closure.
var transforms = map[string]bool{"map": true, "compactMap": true, "tryMap": true, "tryCompactMap": true, "mapCatching": true, "mapNotNull": true}

// taken is the type that the closure which a call is given says that it takes, nil where it does not say.
func taken(call *Expr) *model.Type {
	for _, a := range call.Args[1:] {
		switch {
		case a.Op != Lambda:
		case a.Fn != nil && len(a.Fn.Params) > 0:
			return a.Fn.Params[0].Type
		case a.Type != nil && a.Type.Kind == model.Opaque && len(a.Type.Args) > 0 && len(a.Type.Args[0].Args) > 0 && a.Type.Args[0].Args[0] != Nothing:
			return a.Type.Args[0].Args[0]
		}
	}
	return nil
}

// CallsOf are the calls of a name, each with the function that it is in.
func (p *Program) CallsOf(name string) iter.Seq2[*Expr, *Func] {
	return func(yield func(*Expr, *Func) bool) {
		for _, s := range p.calls[name] {
			if !yield(s.call, s.in) {
				return
			}
		}
	}
}

// Given is what a name is given in the code of a function, or the expression as it is.
func Given(e *Expr, in *Func) *Expr {
	if e.Op == Name {
		if v := letIn(in.Body, e.Text); v != nil {
			return v
		}
	}
	return e
}

// called is the name that a call calls, "" where it is none.
func called(e *Expr) string {
	if callee := e.Args[0]; callee.Op == Name || callee.Op == Member {
		return callee.Text
	}
	return ""
}
