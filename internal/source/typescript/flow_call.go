package typescript

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// What a call does with a part of a response: hand it to a function, take elements of it, hold a schema to it.

// Methods of lists, by what they yield.
var (
	yieldsList    = strings.Fields("filter slice sort reverse toSorted toReversed concat")
	yieldsElement = strings.Fields("find at findLast pop shift")
)

func (f *flow) call(e *code.Expr, k *known, in *code.Func) *held {
	if e.Pos == f.sink.Pos {
		for _, a := range e.Args {
			f.eval(a, k, in)
		}
		return f.from
	}
	callee, name := e.Args[0], called(e)
	var of *held
	if callee.Op == code.Member && len(callee.Args) == 1 {
		of = f.eval(callee.Args[0], k, in)
	} else if callee.Op != code.Name {
		f.eval(callee, k, in)
	}
	if at, ok := f.p.parses[e.Pos]; ok {
		return f.parse(&at, k, in)
	}
	switch {
	case name == "all" && dotted(callee) == "Promise.all" && len(e.Args) == 2 && e.Args[1].Op == code.List:
		out, some := &held{several: []*held{}}, false
		for _, a := range e.Args[1].Args {
			part := f.eval(a, k, in)
			out.several, some = append(out.several, part), some || part != nil
		}
		if !some {
			return nil
		}
		return out
	case name == "then" || name == "subscribe":
		return f.hands(e, of, k, in)
	case name == "catch" || name == "finally":
		f.arguments(e, k, in)
		return of
	case of != nil && (name == "map" || name == "flatMap" || name == "forEach"):
		element := of.element()
		part := f.hands(e, element, k, in)
		if part != nil && element != nil && slices.Equal(part.within, element.within) && part.lists == element.lists && name == "map" {
			return of
		}
		return nil
	case of != nil && slices.Contains(yieldsList, name):
		f.hands(e, of.element(), k, in)
		return of.sifted(e)
	case of != nil && slices.Contains(yieldsElement, name):
		f.hands(e, of.element(), k, in)
		return of.sifted(e).element()
	case of != nil && name == "pipe":
		for _, a := range e.Args[1:] {
			switch step := stepOf(a); {
			case slices.Contains(stepsOn, step):
				of = f.hands(a, of, k, in)
			case step == "tap":
				f.hands(a, of, k, in)
			default:
				f.eval(a, k, in)
			}
		}
		return of
	case of != nil:
		f.arguments(e, k, in)
		f.changed = true
		return nil
	case (name == "set" || name == "next") && callee.Op == code.Member && len(callee.Args) == 1 && len(e.Args) == 2:
		if t := f.holding(callee.Args[0], k, in); t != nil {
			if part := f.eval(e.Args[1], k, in); part != nil {
				f.take(part, t, in)
			}
			return nil
		}
	}
	return f.passed(e, k, in)
}

// parse notes what part a schema is held to.
func (f *flow) parse(at *holding, k *known, in *code.Func) *held {
	part := f.eval(at.given, k, in)
	if part == nil {
		return nil
	}
	if at.call == nil {
		f.handed = true
		return nil
	}
	if part.answer {
		part = &held{}
	}
	t := at.call.Type
	if part.deep || part.several != nil || part.lists > 0 && !at.inList { // nothing is claimed of it
		f.found = append(f.found, taken{part: part, at: at.call.Pos, by: at})
		return nil
	}
	for range part.lists {
		t = &model.Type{Kind: model.List, Args: []*model.Type{t}}
	}
	f.found = append(f.found, taken{part: part, typ: t, at: at.call.Pos, by: at, picked: part.picked || part.lists > 0 && f.picking > 0})
	return nil
}

// stepsOn are the operators of a stream that yield what their function yields.
var stepsOn = strings.Fields("map switchMap mergeMap concatMap exhaustMap")

// stepOf is the name of the operator that a call makes, "" for none.
func stepOf(e *code.Expr) string {
	if e.Op == code.Call {
		return called(e)
	}
	return ""
}

func (f *flow) arguments(e *code.Expr, k *known, in *code.Func) {
	for _, a := range e.Args[1:] {
		f.eval(a, k, in)
	}
}

// sifted is what is left of a list by a call.
func (h *held) sifted(e *code.Expr) *held {
	if h.answer || h.several != nil || len(e.Args) < 2 || e.Args[1].Op != code.Lambda || len(e.Args[1].Labels) == 0 {
		return h
	}
	found := false
	about := func(name string) bool { return name == e.Args[1].Labels[0] }
	code.WalkBody(e.Args[1].Body, func(x *code.Expr) { found = found || code.Compares(x, about) })
	if !found {
		return h
	}
	own := *h
	own.picked = true
	return &own
}

// hands gives a part to the function that is the first argument of a call, and answers what that yields.
func (f *flow) hands(e *code.Expr, part *held, k *known, in *code.Func) (out *held) {
	for i, a := range e.Args[1:] {
		switch {
		case i > 0:
			f.eval(a, k, in)
		case a.Op == code.Lambda:
			inner := k.inner()
			for n, label := range a.Labels {
				if n > 0 {
					inner.bind(label, nil)
					continue
				}
				inner.bind(label, part)
				if a.Fn != nil && len(a.Fn.Params) > 0 && a.Fn.Params[0].Type != nil && part != nil && f.take(part, a.Fn.Params[0].Type, in) {
					inner.bind(label, nil)
				}
			}
			before := len(f.found)
			out = f.body(a.Body, inner, in)
			if out == nil && part != nil && len(f.found) == before {
				if t := f.readByClosure(a, f.result(in), in); t == nil || !f.take(part, t, in) {
					f.changed = true
				}
			}
		case part == nil:
			f.eval(a, k, in)
		case a.Op == code.Name && k.set(a.Text) != nil:
			f.take(part, k.set(a.Text), in)
		default:
			if fn := f.target(a, false, in); fn != nil {
				out = f.into(fn, []*held{part})
			}
			if out == nil {
				f.changed = true
			}
		}
	}
	return out
}

// result is the type of the elements that a function returns a list of, nil where it says none.
func (f *flow) result(in *code.Func) *model.Type {
	if t := typeOfResult(in); t != nil && t.Unwrapped().Kind == model.List {
		return t.Unwrapped().Args[0]
	}
	return nil
}

// passed follows what a function of the app is given, and answers what it returns of it.
func (f *flow) passed(e *code.Expr, k *known, in *code.Func) *held {
	given := make([]*held, len(e.Args)-1)
	some := false
	for i, a := range e.Args[1:] {
		given[i] = f.eval(a, k, in)
		some = some || given[i] != nil
	}
	if !some {
		return nil
	}
	if callee := e.Args[0]; callee.Op == code.Name {
		if t := k.set(callee.Text); t != nil && given[0] != nil {
			f.take(given[0], t, in)
			return nil
		}
	}
	fn := f.target(e.Args[0], e.Const, in)
	if fn == nil {
		f.changed = true
		return nil
	}
	return f.into(fn, given)
}

// target is the one function of the app that an expression names, nil where it is not told. An instance is made by the
// constructor of a class.
func (f *flow) target(e *code.Expr, instance bool, in *code.Func) *code.Func {
	if e.Op != code.Name && e.Op != code.Member {
		return nil
	}
	class := ""
	switch {
	case instance:
		class = e.Text
	case e.Op == code.Member && len(e.Args) == 1 && e.Args[0].Op == code.Name:
		if of := e.Args[0].Text; of == "this" && in.Class != nil {
			class = in.Class.Name
		} else if len(f.program.Classes[of]) > 0 {
			class = of
		}
	}
	var found *code.Func
	for _, fn := range f.program.FuncsOf(e.Text) {
		switch {
		case fn.Init != instance, class != "" && (fn.Class == nil || fn.Class.Name != class), e.Op == code.Name && !instance && fn.Class != nil:
			continue
		case found != nil:
			return nil
		}
		found = fn
	}
	return found
}

// into goes on in a function that is given parts, and answers what it returns of them.
func (f *flow) into(fn *code.Func, given []*held) *held {
	if f.depth >= maxFlowDepth {
		f.changed = true
		return nil
	}
	f.depth++
	defer func() { f.depth-- }()
	k, any := (*known)(nil).inner(), false
	for i, param := range fn.Params {
		if i >= len(given) || given[i] == nil {
			continue
		}
		if param.Type != nil && f.take(given[i], param.Type, fn) {
			continue
		}
		if untyped(param.Type) {
			if t := f.readBy(fn, i); t != nil && f.take(given[i], t, fn) {
				continue
			}
		}
		k.bind(param.Name, given[i])
		any = true
	}
	if !any {
		return nil
	}
	before := len(f.found)
	out := f.body(fn.Body, k, fn)
	if out == nil {
		f.changed = f.changed || len(f.found) == before
	} else if fn.Returns != nil && f.take(out, fn.Returns, fn) {
		return nil
	}
	return out
}
