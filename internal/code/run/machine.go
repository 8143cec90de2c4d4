// Package run runs the code of an app from its declarations in the tree of package code: with a whole document, as the
// app does, or with one of which only some places are known, so as to see what the code would read. Where it meets
// what it does not know, the value is unknown, or the run ends and says why.
//
// The language is Dart, whose types are known at run time and decide what is thrown; what the platform does is in
// the files core_*.go. Rules are those of the Dart language specification 3.7 and were measured on its VM.
package run

import (
	"fmt"
	"math"

	"vetta/internal/code"
	"vetta/internal/model"
)

// maxSteps is how much a run may do, maxItems how many elements and maxText how many bytes a value may have,
// maxCalls how deep calls may lie in each other.
const (
	maxSteps = 3_000_000
	maxItems = 200_000
	maxText  = 1 << 22
	maxCalls = 220
)

// Machine runs code. It is for one goroutine at a time.
type Machine struct {
	p     *Program
	types map[typeKey]*Type
	left  int
	calls []*frame
	// forks counts the conditions that are not known in which the run is, conds are what they depend on.
	forks int
	conds [][]*Place
	// dry is, where only types are asked for, from which forks on a variable may be changed; 0 where all may.
	dry     int
	yields  map[yieldKey]*Type
	globals map[*code.Prop]*Value
	enums   map[*code.Class][]Value
	// doc is what jsonDecode answers; nil where nothing is sent.
	doc       *Value
	decoded   []Request
	roots     map[string]*Place
	target    string // the root whose document is doc, "" for all
	instances map[*code.Class]Value
	probed    *Place  // the place of the document that is known, nil for none
	shallow   bool    // constructors that are given a place are not run
	thrown    *Thrown // the last one that was caught, for rethrow
	last      *Place  // that was read last
	events    []Value // instances that are made of parts of answers, where readers are not run
	looking   bool    // for what asks for answers: functions that others are handed are run too
	reach     *reaching
	site      codePos // of the call that comes next
}

// New is a machine for a program.
func New(p *Program) *Machine {
	return &Machine{p: p, types: map[typeKey]*Type{}, left: maxSteps, yields: map[yieldKey]*Type{}, globals: map[*code.Prop]*Value{}}
}

// frame is one call of a function.
type frame struct {
	fn    *code.Func
	unit  *code.Unit
	this  *Value
	of    *Type // the class that declares the function, with its arguments; nil for none
	by    bindings
	maybe []Value // what has perhaps been returned
	wants *Type   // what it yields
	cast  []Value // what a Cascade is of, innermost last
	base  *Made
	site  codePos // where it is called, zero where that is not told
}

func (f *frame) legacy() bool { return f.unit != nil && f.unit.Legacy }

// cell is a variable.
type cell struct {
	v     Value
	t     *Type
	typed bool // t was written, or told by what it was given first
	late  bool
	unset bool
	depth int // of forks where it was declared
}

// env are the variables of a block.
type env struct {
	up    *env
	names map[string]*cell
}

func inside(up *env) *env { return &env{up: up} }

func (e *env) find(name string) *cell {
	for ; e != nil; e = e.up {
		if c := e.names[name]; c != nil {
			return c
		}
	}
	return nil
}

func (e *env) set(name string, c *cell) {
	if e.names == nil {
		e.names = make(map[string]*cell, 4)
	}
	e.names[name] = c
}

// Thrown is an exception.
type Thrown struct {
	Class   string // of the platform
	Message string
	Value   Value // what was thrown by code
	Own     bool  // by a throw of the app
	Later   bool  // only when what was decoded is read
	At      *Place
	Pos     model.Pos
}

func (t *Thrown) Error() string {
	switch {
	case t.Message == "":
		return t.Class
	case t.Class == "":
		return t.Message
	}
	return t.Class + ": " + t.Message
}

// Unfollowed is what is not followed, and where.
type Unfollowed struct {
	Why string
	Pos model.Pos
}

func (u *Unfollowed) Error() string { return u.Why }

func unfollowed(why string, pos model.Pos) error { return &Unfollowed{Why: why, Pos: pos} }

// jump leaves statements: return, break, continue, or the end of a branch that is one of several.
type jump struct {
	kind  string
	label string
	v     Value
}

func (j *jump) Error() string { return j.kind }

// chainEnds says that a?.b has found nothing at a.
type chainEnds struct{ static *Type }

func (*chainEnds) Error() string { return "null in a chain" }

// typeError is what a value of another type throws.
func (m *Machine) typeError(v Value, t *Type, cast, legacy bool) *Thrown {
	class, message := "_TypeError", fmt.Sprintf("type '%s' is not a subtype of type '%s'", m.typeOf(v).spelt(v), t)
	if cast {
		message += " in type cast"
		if legacy {
			class = "_CastError"
		}
	}
	return &Thrown{Class: class, Message: message, At: v.At}
}

// spelt is the type as messages have the class of a value.
func (t *Type) spelt(v Value) string {
	if v.Kind == Maps && v.At != nil {
		return "_" + t.String()
	}
	return t.String()
}

// typeOf is the type of a value when it runs.
func (m *Machine) typeOf(v Value) *Type {
	switch v.Kind {
	case Null:
		return nullType
	case Bool:
		return boolType
	case Int:
		return intType
	case Double:
		return doubleType
	case String:
		return stringType
	case Lists:
		l := v.list()
		return &Type{Name: l.Kind, Args: []*Type{l.Elem}}
	case Maps:
		d := v.dict()
		return mapOf(d.Key, d.Val)
	case Obj:
		return v.object().Type
	case Fn:
		return m.signature(v.Ref.(*Closure))
	case Hosts:
		if e, ok := v.Ref.(*entry); ok {
			return &Type{Name: "MapEntry", Args: []*Type{m.typeOf(e.key), m.typeOf(e.val)}}
		}
		return &Type{Name: v.Ref.(Host).Class()}
	case Recs:
		r := v.Ref.(*Rec)
		t := &Type{Name: "Record"}
		for i, e := range r.Vals {
			t.Args = append(t.Args, m.typeOf(e))
			if r.Names[i] != "" {
				t.Names = append(t.Names, r.Names[i])
			}
		}
		return t
	case Class:
		return &Type{Name: "Type"}
	}
	return v.Static
}

// isOf says whether a value is of a type; known is false where that is not told.
func (m *Machine) isOf(v Value, t *Type, legacy bool) (is, known bool) {
	if v.isUnknown() {
		switch {
		case t == nil || t.Name == "dynamic" || t.Name == "Object" && t.Null:
			return true, true
		case v.Static != nil && m.subtype(v.Static, t, legacy):
			return true, true
		}
		return false, false
	}
	if v.IsNull() {
		return t.takesNull() || legacy && t.Name == "Null" || t.Name == "Null", true
	}
	if m.p.web && t.is("int", "double") && (v.Kind == Int || v.Kind == Double && v.F == math.Trunc(v.F)) {
		return true, true
	}
	if v.Kind == Lists && v.list().Kind == "List" && t.is("Iterable", "List") && v.list().Cast != nil {
		return m.subtype(v.list().Cast, t.arg(0), legacy), true
	}
	return m.subtype(m.typeOf(v), t, legacy), true
}

// coerce is a value where a type is declared: it is checked for it, and its static type is that.
func (m *Machine) coerce(v Value, t *Type, f *frame, cast bool) (Value, error) {
	legacy := f.legacy()
	if v.isUnknown() {
		if t != nil {
			v.Static = t
		}
		if v.Out != nil && v.Out.Text && t.is("Map", "List", "Iterable") && v.Out.Request != nil { // the decoded body, as a client hands it out
			return m.document(v, t)
		}
		return v, nil
	}
	if t.is("Future", "FutureOr") {
		t = t.arg(0)
	}
	if t == nil || t.Name == "dynamic" || t.Name == "void" {
		v.Static = t
		return v, nil
	}
	if v.IsNull() {
		if t.Null || legacy && !cast || t.Name == "Null" || legacy && cast {
			v.Static = t
			return v, nil
		}
		return v, m.typeError(v, t, cast, legacy)
	}
	is, _ := m.isOf(v, t, legacy)
	if !is {
		if v.Kind == Fn { // what closures take and yield is told by the compiler
			v.Static = t
			return v, nil
		}
		if o := v.object(); o != nil && o.Made != nil && o.Made.Only { // of a class that its constructor may choose
			v.Static = t
			return v, nil
		}
		if m.shallow && m.unrelated(v) {
			return unknown(t, v), nil
		}
		return v, m.typeError(v, t, cast, legacy)
	}
	v.Static = t
	return v, nil
}

// Cast is a value checked for a type as the elements of what .cast() yields are, when they are read.
func (m *Machine) Cast(v Value, t *Type) (Value, error) { return m.coerce(v, t, &frame{}, true) }

// unrelated says whether a value has nothing to do with what is known of the document: what fails then fails
// whatever that is, and is no matter of it.
func (m *Machine) unrelated(v Value) bool {
	if m.probed == nil {
		return true
	}
	places := v.places()
	for _, p := range places {
		if p.within(m.probed) || m.probed.within(p) {
			return false
		}
	}
	return len(places) > 0
}

// truth is the value of a condition; known is false where it is not told.
func (m *Machine) truth(v Value) (yes, known bool, err error) {
	switch v.Kind {
	case Bool:
		return v.N == 1, true, nil
	case Unknown:
		return false, false, nil
	}
	return false, true, m.typeError(v, boolType, false, false)
}

// step counts what is done.
func (m *Machine) step(n int, pos model.Pos) error {
	if m.left -= n; m.left < 0 {
		return unfollowed("code that does not end", pos)
	}
	return nil
}

// hangs are the places that the conditions around depend on.
func (m *Machine) hangs() (out []*Place) {
	for _, c := range m.conds {
		out = union(out, c)
	}
	return out
}

// fork runs each of several branches of which it is not known which one runs. What they give to variables is joined;
// one that throws by itself is taken for the one that does not run.
func (m *Machine) fork(f *frame, on []*Place, branches ...func() error) error {
	m.forks++
	m.conds = append(m.conds, on)
	ended := 0
	var returned []Value
	var other error
	for _, b := range branches {
		err := b()
		if err == nil {
			continue
		}
		switch e := err.(type) {
		case *jump:
			ended++
			if e.kind == "return" {
				returned = append(returned, e.v)
			} else {
				other = e
			}
			continue
		case *Thrown:
			if e.Own {
				ended++
				if other == nil {
					other = e
				}
				continue
			}
			if len(on) > 0 { // whether it is thrown hangs on what is not known
				err = unfollowed("what hangs on another value", e.Pos)
			}
		}
		m.forks--
		m.conds = m.conds[:len(m.conds)-1]
		return err
	}
	m.forks--
	m.conds = m.conds[:len(m.conds)-1]
	if ended == len(branches) {
		if len(returned) > 0 {
			return &jump{kind: "return", v: m.merged(on, append(returned, f.maybe...)...)}
		}
		return other
	}
	for _, v := range returned {
		v.From = union(v.From, on)
		f.maybe = append(f.maybe, v)
	}
	return nil
}

// choose is the value of one of several branches.
func (m *Machine) choose(f *frame, on []*Place, branches ...func() (Value, error)) (Value, error) {
	m.forks++
	m.conds = append(m.conds, on)
	defer func() {
		m.forks--
		m.conds = m.conds[:len(m.conds)-1]
	}()
	var got []Value
	var last error
	for _, b := range branches {
		v, err := b()
		if err == nil {
			got = append(got, v)
			continue
		}
		t, ok := err.(*Thrown)
		switch {
		case ok && t.Own:
			last = err
			continue
		case ok && len(on) > 0:
			err = unfollowed("what hangs on another value", t.Pos)
		}
		return Value{}, err
	}
	if len(got) == 0 {
		return Value{}, last
	}
	return m.merged(on, got...), nil
}

// merged is one of several values.
func (m *Machine) merged(on []*Place, of ...Value) Value {
	best := of[0]
	t := of[0].Static
	for _, v := range of[1:] {
		if v.rank() > best.rank() {
			best = v
		}
		switch {
		case v.IsNull() && v.Static == nil:
			t = t.nullable()
		case of[0].IsNull() && of[0].Static == nil && v.Static != nil:
			t = v.Static.nullable()
		default:
			t = m.lub(t, v.Static)
		}
	}
	one := true
	for _, v := range of {
		one = one && v.Kind == best.Kind && v.Ref == best.Ref && v.S == best.S && v.N == best.N && v.At == best.At
		best.From = union(best.From, v.places())
	}
	best.From = union(best.From, on)
	if !one && best.rank() < 4 && !(best.Kind == Unknown && best.At != nil) { // one constant or another
		out := best.Out
		if out == nil {
			for _, v := range of {
				if v.Out != nil {
					out = v.Out
				}
			}
		}
		best = Value{Kind: Unknown, From: best.From, Out: out, Fails: best.Fails}
	}
	if !one && best.Kind == Obj {
		if alike := m.fieldwise(on, of); alike != nil {
			best.Ref = alike
		}
		o := *best.object()
		for _, v := range of {
			o.Null = o.Null || v.IsNull()
		}
		best.Ref = &o
	}
	best.Static = t
	return best
}

// fieldwise is one of several instances of a class, each of whose properties is one of theirs; nil where they are not
// of one class, or it is not known what they hold.
func (m *Machine) fieldwise(on []*Place, of []Value) *Object {
	var first *Object
	var all []*Object
	for _, v := range of {
		o := v.object()
		switch {
		case v.IsNull():
			continue
		case o == nil || o.Made != nil || o.Enum != "" || first != nil && o.Type.Class != first.Type.Class:
			return nil
		case first == nil:
			first = o
		}
		all = append(all, o)
	}
	if len(all) < 2 {
		return nil
	}
	out := *first
	out.Fields = map[string]*Value{}
	for name, f := range first.Fields {
		values := []Value{*f}
		for _, o := range all[1:] {
			if g := o.Fields[name]; g != nil {
				values = append(values, *g)
			}
		}
		v := m.merged(on, values...)
		out.Fields[name] = &v
	}
	return &out
}

// assign gives a variable a value. Where it is not known whether the code runs, it may have the one before.
func (m *Machine) assign(c *cell, v Value) {
	if c.depth < m.dry {
		return
	}
	if m.forks > c.depth && !c.unset {
		v = m.merged(m.hangs(), c.v, v)
	} else if m.forks > c.depth {
		v.From = union(v.From, m.hangs())
	}
	c.v, c.unset = v, false
}
