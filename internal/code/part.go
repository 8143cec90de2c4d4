package code

import (
	"slices"
	"strings"
)

// Element is the step from a list to its elements, among the keys that lead to a part of a document.
const Element = "[*]"

// Part is what of a document code takes.
type Part struct {
	// Keys lead to it, Element for each element of a list; they hold only where Told says so.
	Keys []string
	Told bool
	// Of names it, where it is no place alone: a variable that goes through elements, or what a function is given. "" for a
	// document as a whole, or what keys alone lead to.
	Of string
	// Picked says that code takes it only where it is of some kind, or where something in it or beside it is a certain value.
	Picked bool
}

// Inward is a step of a language by a method or a property: what an expression is a part of, and the keys that lead to it
// from there; whole says that it is a document, and of is nil for what is no such step. Subscripts and casts are those of
// every language.
type Inward func(e *Expr) (of *Expr, keys []string, whole bool)

// PartOf finds what of a document an expression in a call is, by the steps of its language.
func PartOf(e, call *Expr, in *Func, inward Inward) Part {
	t := taking{in: in, inward: inward, frames: framesOf(in.Body, call)}
	p := Part{Told: t.from(e, len(t.frames), 0)}
	slices.Reverse(t.keys)
	p.Keys, p.Picked = t.keys, t.picked
	if !p.Told || p.Picked || slices.Contains(p.Keys, Element) {
		p.Of = nameIn(in, t.base+" "+strings.Join(p.Keys, "."))
	}
	return p
}

// nameIn names something in a function.
func nameIn(in *Func, what string) string {
	return in.File + " " + in.Name + " " + in.Pos.String() + " " + what
}

// PickedBy names a text, or bytes, that a call decodes only where what is in it is a certain value: code that decodes the
// head of a message first, and then the message as one class or another. picked is false where it decodes it in any case.
func PickedBy(text string, call *Expr, in *Func) (of string, picked bool) {
	t := taking{in: in, frames: framesOf(in.Body, call)}
	derived := t.derived(text, len(t.frames))
	about := func(name string) bool { return name == givenAs+text || name != text && derived(name) }
	for i := len(t.frames) - 1; i >= 0; i-- {
		switch f := t.frames[i]; {
		case f.choice != nil && chooses(f.choice, about), len(f.before) > 0 && Picks(f.before, f.of, about):
			return nameIn(in, text), true
		}
	}
	return "", false
}

// taking follows an expression outwards.
type taking struct {
	in     *Func
	inward Inward
	frames []frame
	keys   []string // from the inside out
	base   string   // what it comes from, as far as that is followed
	picked bool
}

// frame is what stands around a call: a statement with those before it, an expression that is one of several, or a closure
// with the call that it is given to.
type frame struct {
	before []Stmt // the statement is the last of them
	of     *Stmt  // that those stand in, nil for none
	choice *Expr
	lambda *Expr
	given  *Expr
}

// sifting are the methods that answer those elements of a list of which a closure says so, or the first of them; lists says
// which of them answer a list.
var (
	sifting = map[string]bool{"Where": true, "where": true, "filter": true, "First": true, "FirstOrDefault": true, "Single": true, "SingleOrDefault": true, "Last": true, "LastOrDefault": true, "find": true, "firstWhere": true, "first": true, "firstOrNull": true, "single": true, "singleOrNull": true}
	lists   = map[string]bool{"Where": true, "where": true, "filter": true}
)

// deepest is how many steps are followed.
const deepest = 24

// from follows an expression that stands in the first n frames; it answers whether it comes from a document.
func (t *taking) from(e *Expr, n, deep int) bool {
	if e == nil || deep > deepest {
		return false
	}
	switch e.Op {
	case Name:
		return t.name(e.Text, n, deep)
	case Index:
		if len(e.Args) != 2 {
			return false
		}
		key := Element
		if e.Args[1].Op == Text {
			key = e.Args[1].Text
		}
		t.keys = append(t.keys, key)
		return t.from(e.Args[0], n, deep+1)
	case As, Choice:
		return t.from(e.Args[0], n, deep+1)
	}
	if e.Op == Call && sifting[called(e)] && len(e.Args[0].Args) > 0 {
		t.picked = t.picked || len(e.Args) > 1
		if !lists[called(e)] {
			t.keys = append(t.keys, Element)
		}
		return t.from(e.Args[0].Args[0], n, deep+1)
	}
	of, keys, whole := t.inward(e)
	for _, k := range slices.Backward(keys) {
		t.keys = append(t.keys, k)
	}
	if whole || of == nil {
		return whole
	}
	return t.from(of, n, deep+1)
}

// name follows a variable to what it is given.
func (t *taking) name(name string, n, deep int) bool {
	t.base = name
	about := t.derived(name, n)
	for i := n - 1; i >= 0; i-- {
		f := t.frames[i]
		if f.lambda != nil && f.lambda.takes(name) {
			if f.given == nil || f.given.Args[0].Op != Member || len(f.given.Args[0].Args) == 0 || len(f.lambda.Labels) > 0 && f.lambda.Labels[0] != name {
				return false
			}
			if !handsOn[f.given.Args[0].Text] {
				t.keys = append(t.keys, Element)
			}
			return t.from(f.given.Args[0].Args[0], i, deep+1)
		}
		if len(f.before) == 0 {
			t.picked = t.picked || f.choice != nil && chooses(f.choice, about)
			continue
		}
		own := &f.before[len(f.before)-1]
		if own.Kind == For && own.Heads == 2 && len(own.Body) > 1 && isNamed(&own.Body[0], name) {
			t.keys = append(t.keys, Element)
			return t.from(own.Body[1].Value, i+1, deep+1)
		}
		for k := range slices.Backward(f.before[:len(f.before)-1]) {
			if s := &f.before[k]; s.Op == Let && s.Name == name && s.Value != nil {
				if f.of != nil && f.of.Kind == For && k < int(f.of.Heads) { // what it goes through
					t.keys = append(t.keys, Element)
				}
				t.picked = t.picked || Picks(f.before[k+1:], f.of, about)
				return t.from(s.Value, i+1, deep+1)
			}
		}
		t.picked = t.picked || Picks(f.before, f.of, about)
		if of := bound(f.before, name); of != nil {
			return t.from(of, i+1, deep+1)
		}
	}
	return false
}

// isNamed says whether the first head of a loop is a name.
func isNamed(head *Stmt, name string) bool {
	return head.Name == name || head.Value != nil && head.Value.Op == Name && head.Value.Text == name
}

// derived says which names stand for a variable or for something in it, in the first n frames.
func (t *taking) derived(name string, n int) func(string) bool {
	names := map[string]bool{name: true}
	for _, f := range t.frames[:n] {
		for i := range f.before {
			if s := &f.before[i]; s.Op == Let && s.Name != "" && !names[s.Name] && mentions(s.Value, func(n string) bool { return names[n] }) {
				names[s.Name] = true
			}
		}
	}
	return func(n string) bool { return names[n] }
}

// takes says whether a closure has a parameter of a name, one without a name of its own perhaps.
func (e *Expr) takes(name string) bool {
	return slices.Contains(e.Labels, name) || len(e.Labels) == 0 && (name == "it" || name == "$0")
}

// handsOn are the methods that hand a closure what they are called on, rather than its elements.
var handsOn = map[string]bool{"let": true, "also": true, "run": true, "apply": true, "takeIf": true}

// bound is what a pattern in the head of the last of some statements, or of one before it, gives a name; nil for none.
func bound(all []Stmt, name string) (of *Expr) {
	for i := range slices.Backward(all) {
		s := &all[i]
		if s.Kind == If || s.Kind == ElseIf || s.Kind == Switch {
			for k := range s.Body[:max(0, min(int(s.Heads), len(s.Body)))] {
				Walk(s.Body[k].Value, func(e *Expr) {
					if e.Op == Match && len(e.Args) == 2 && e.Args[1].Op == Bind && e.Args[1].Text == name {
						of = e.Args[0]
					}
				})
			}
		}
	}
	return of
}

// framesOf are what stands around an expression in some statements, the outermost first; nil where it does not stand there.
func framesOf(body []Stmt, call *Expr) []frame {
	for i := range body {
		s := &body[i]
		own := frame{before: body[:i+1]}
		for _, e := range []*Expr{s.Value, s.Of} {
			if inner, ok := framesIn(e, call); ok {
				return append([]frame{own}, inner...)
			}
		}
		if inner := framesOf(s.Body, call); inner != nil {
			inner[0].of = s
			return append([]frame{own}, inner...)
		}
	}
	return nil
}

// framesIn is the same of an expression; ok says whether it is in there.
func framesIn(e, call *Expr) (all []frame, ok bool) {
	if e == nil || e == call {
		return nil, e != nil
	}
	for i, a := range e.Args {
		inner, ok := framesIn(a, call)
		if !ok {
			continue
		}
		if a.Op == Lambda && e.Op == Call && i > 0 {
			inner[0].given = e
		}
		if a.Op == Lambda && e.Op == Choice && i < len(e.Body) { // a branch: the statement's, as a closure
			if len(inner) > 1 {
				inner[1].of = &e.Body[i]
			}
			return append([]frame{{before: e.Body[:i+1]}}, inner...), true
		}
		if e.Op == Choice && len(e.Args) > 1 {
			inner = append([]frame{{choice: e}}, inner...)
		}
		return inner, true
	}
	if e.Op == Lambda {
		if inner := framesOf(e.Body, call); inner != nil {
			return append([]frame{{lambda: e}}, inner...), true
		}
		return nil, false
	}
	inner := framesOf(e.Body, call)
	return inner, inner != nil
}
