package run

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/wire"
)

// Declared is a class of a program.
type Declared struct {
	Program *Program
	Class   *code.Class
	Model   func(*code.Class) any // the model of a class, nil for none
}

// Entry is a function of the app that asks for a response, and what it makes of it.
type Entry struct {
	Program *Program
	Fn      *code.Func
	Of      *code.Class // whose method it is, nil for none
	Request Request     // empty where no request is seen, as of a function that is handed a text
	Type    *Type       // what it makes of the response, or of a part of it
	Within  []string    // the keys that lead to that part
	Result  Value       // what it yields for a document of which nothing is known
	Lost    string      // why that is not known, "" where it is
	// Partial says that it yields something else than what it makes of the response.
	Partial bool
	root    string
	this    *code.Class         // whose instance it is called on, nil for that of Of
	handed  map[int]*code.Class // the classes of arguments, by parameter, where several would do
}

// arguments of a function of which nobody knows who calls it.
func (m *Machine) anyArgs(fn *code.Func, by bindings) Args { return m.someArgs(fn, by, nil) }

// someArgs are those where some parameters are given instances of certain classes.
func (m *Machine) someArgs(fn *code.Func, by bindings, handed map[int]*code.Class) Args {
	var a Args
	var named []Value
	u := m.p.unitOf(fn.File)
	for i := range fn.Params {
		p := &fn.Params[i]
		if p.Default != nil && p.Optional {
			continue
		}
		t := m.paramType(fn, p, u, by)
		v := m.outside(t, 0)
		if c := handed[i]; c != nil {
			if of, ok := m.instance(TypeOf(c)); ok {
				v = of
			}
		}
		if p.Label != "" {
			if p.Optional {
				continue
			}
			named, a.Names = append(named, v), append(a.Names, p.Label)
		} else {
			a.List = append(a.List, v)
		}
	}
	a.List = append(a.List, named...)
	return a
}

// start calls the function of an entry.
func (m *Machine) start(e *Entry) (Value, error) {
	by := bindings{}
	for _, g := range e.Fn.Generics {
		by[g] = nil
	}
	var of *Type
	var this *Value
	if e.Of != nil {
		of = &Type{Name: e.Of.Name, Class: e.Of}
		for _, g := range e.Of.Generics {
			of.Args = append(of.Args, nil)
			by[g] = nil
		}
		if !e.Fn.Static && !e.Fn.Init {
			own := of
			if e.this != nil {
				own = TypeOf(e.this)
			}
			v, ok := m.instance(own)
			if !ok {
				return Value{}, unfollowed("an instance of "+e.Of.Name, e.Fn.Pos)
			}
			this = &v
			if as := m.asSuper(v.object().Type, e.Of, 0); as != nil {
				of = as
				for k, t := range m.own(as) {
					by[k] = t
				}
			}
		}
	}
	return m.invoke(e.Fn, this, of, by, m.someArgs(e.Fn, by, e.handed), nil)
}

// asSuper is a type as a class above it, nil where that is none of them.
func (m *Machine) asSuper(t *Type, c *code.Class, deep int) *Type {
	if t == nil || t.Class == nil || deep > 20 {
		return nil
	}
	if t.Class == c {
		return t
	}
	for _, s := range m.supersOf(t) {
		if as := m.asSuper(s, c, deep+1); as != nil {
			return as
		}
	}
	return nil
}

// reset makes a machine ready for another run.
func (m *Machine) reset() {
	m.left, m.calls, m.forks, m.conds, m.dry = maxSteps, nil, 0, nil, 0
	clear(m.globals)
	clear(m.instances)
	m.doc, m.decoded, m.roots, m.target, m.shallow, m.thrown, m.last, m.probed = nil, nil, nil, "", false, nil, nil, nil
	m.events, m.looking = nil, false
}

// Run calls the function of an entry with a document in the place of the response, and answers what the app gets.
func (m *Machine) Run(e *Entry, doc *wire.Value, traced bool) (Value, error) {
	m.reset()
	var at *Place
	if traced {
		at = &Place{Name: e.root}
	}
	v := m.FromWire(doc, at)
	m.doc, m.target = &v, e.root
	return m.start(e)
}

// Make makes a value of a type of a document, by the reader of its class.
func (m *Machine) Make(t *Type, doc *wire.Value, traced bool) (v Value, ok bool, err error) {
	m.reset()
	var at *Place
	if traced {
		at = &Place{}
	}
	return m.MadeOf(t, m.FromWire(doc, at))
}

// maxEntries is how many functions are tried that may ask for a response.
const maxEntries = 4000

// Entries are the functions of a program that decode a response, with what they make of it.
func Entries(p *Program) (found []*Entry) {
	m := New(p)
	type key struct{ t, path, within string }
	seen := map[key]bool{}
	for _, fn := range p.indexed().asking() {
		for _, e := range m.variants(fn) {
			for _, e := range m.look(e) {
				k := key{e.root, e.Request.Path, strings.Join(e.Within, ".")}
				if e.Type != nil {
					k.t = e.Type.String()
				}
				if e.Partial && seen[k] { // a caller of one that yields it
					continue
				}
				seen[k] = true
				found = append(found, e)
			}
			if len(found) >= maxEntries {
				return found
			}
		}
	}
	return found
}

// glanceSteps is how far a function is run of which nothing but the types of its arguments is known.
const glanceSteps = 60000

// glance runs a function so, and what it hands to others too.
func (m *Machine) glance(e *Entry) (Value, error) {
	m.reset()
	m.shallow, m.looking, m.left = true, true, glanceSteps
	return m.start(e)
}

// look runs a function with an answer of which nothing is known.
func (m *Machine) look(e *Entry) (found []*Entry) {
	v, err := m.glance(e)
	if len(m.decoded) == 0 || len(e.Fn.Generics) > 0 && e.handed == nil { // of whose type parameters only callers tell
		return nil
	}
	if e.Of != nil && len(e.Of.Generics) > 0 && (e.this == nil || e.this == e.Of) && m.concrete(e.Of, 0) == e.Of {
		return nil
	}
	e.Result = v
	if err != nil {
		e.Lost = err.Error()
	}
	add := func(e Entry, t *Type, at *Place) {
		e.root = at.root().Name
		for _, r := range m.decoded {
			if r.Method+" "+r.Path == e.root {
				e.Request = r
			}
		}
		if within, ok := membersTo(at); ok {
			e.Type, e.Within = t, within
		}
		found = append(found, &e)
	}
	if t, at := m.shape(v); t != nil && at != nil && err == nil {
		add(*e, t, at)
		return found
	}
	for _, made := range m.events { // it is kept, shown or sent on
		t, at := made.object().Type, made.object().Made.Base
		for at != nil && at.Up != nil && (at.Kind == Each || at.Kind == Any) {
			if at.Kind == Each {
				t = listOf(t)
			} else {
				t = mapOf(stringType, t)
			}
			at = at.Up
		}
		if at == nil {
			continue
		}
		own := *e
		own.Partial = true
		add(own, t, at)
	}
	if len(found) == 0 {
		e.Request, e.root = m.decoded[0], m.decoded[0].Method+" "+m.decoded[0].Path
		found = append(found, e)
	}
	return found
}

// maxVariants is how many classes are tried in the place of an abstract one.
const maxVariants = 60

// variants are the ways to call a function: on instances of each class that extends its own, where that is abstract,
// and with instances of each class that extends that of a parameter.
func (m *Machine) variants(fn *code.Func) []*Entry {
	base := Entry{Program: m.p, Fn: fn, Of: fn.Class}
	var out []*Entry
	if fn.Class != nil && !fn.Static && !fn.Init {
		if subs := m.concretes(fn.Class, 0); len(subs) > 1 {
			for _, c := range subs {
				e := base
				e.this = c
				out = append(out, &e)
			}
		}
	}
	for i := range fn.Params {
		t := fn.Params[i].Type
		if t == nil {
			continue
		}
		c := m.p.class(t.Unwrapped().Name, m.p.unitOf(fn.File))
		if c == nil || !c.Abstract {
			continue
		}
		for _, sub := range m.concretes(c, 0) {
			e := base
			e.handed = map[int]*code.Class{i: sub}
			out = append(out, &e)
		}
		break
	}
	if len(out) == 0 || len(out) > maxVariants {
		return []*Entry{&base}
	}
	return out
}

// concretes are the classes that extend an abstract one, and are not abstract themselves.
func (m *Machine) concretes(c *code.Class, deep int) (out []*code.Class) {
	if c == nil || deep > 5 || !c.Abstract {
		return nil
	}
	for _, s := range m.p.inherits[c.Name] {
		switch {
		case s.Kind != "class" || slices.Contains(out, s):
		case s.Abstract:
			out = append(out, m.concretes(s, deep+1)...)
		default:
			out = append(out, s)
		}
	}
	return out
}

func (p *Place) root() *Place {
	for p.Up != nil {
		p = p.Up
	}
	return p
}

// membersTo are the keys that lead to a place; ok is false where others lead to it.
func membersTo(p *Place) (keys []string, ok bool) {
	for _, s := range p.Path() {
		if s.Kind != Member {
			return nil, false
		}
		keys = append(keys, s.Name)
	}
	return keys, true
}

// shape is the type of what is made of a document, and the place of what it is made of; nil for neither.
func (m *Machine) shape(v Value) (*Type, *Place) {
	switch v.Kind {
	case Obj:
		o := v.object()
		if o.Enum != "" {
			return nil, nil
		}
		if o.Made != nil {
			return o.Type, o.Made.Base
		}
		at := common(v.places())
		for _, f := range o.Fields { // Ok(value): it only holds what is made of the document
			if t, of := m.shape(*f); t != nil && of != nil && at != nil && at.within(of) {
				return t, of
			}
		}
		return o.Type, at
	case Lists:
		l := v.list()
		elem := l.Some
		if elem == nil && len(l.Items) > 0 {
			elem = &l.Items[0]
		}
		if elem == nil {
			return nil, nil
		}
		t, at := m.shape(*elem)
		if t == nil || at == nil || at.Kind != Each {
			return nil, nil
		}
		return listOf(t), at.Up
	case Maps:
		d := v.dict()
		if d.Some == nil {
			return nil, nil
		}
		t, at := m.shape(*d.Some)
		if t == nil || at == nil || at.Kind != Any {
			return nil, nil
		}
		return mapOf(d.Key, t), at.Up
	case Hosts:
		return nil, nil
	}
	return nil, nil
}

// common is the place that others are in.
func common(places []*Place) *Place {
	if len(places) == 0 {
		return nil
	}
	at := places[0].Up
	if at == nil {
		at = places[0]
	}
	for _, p := range places[1:] {
		for at != nil && !p.within(at) {
			at = at.Up
		}
	}
	return at
}
