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
	root    string
}

// arguments of a function of which nobody knows who calls it.
func (m *Machine) anyArgs(fn *code.Func, by bindings) Args {
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
			v, ok := m.instance(of)
			if !ok {
				return Value{}, unfollowed("an instance of "+e.Of.Name, e.Fn.Pos)
			}
			this = &v
		}
	}
	return m.invoke(e.Fn, this, of, by, m.anyArgs(e.Fn, by), nil)
}

// reset makes a machine ready for another run.
func (m *Machine) reset() {
	m.left, m.calls, m.forks, m.conds, m.dry = maxSteps, nil, 0, nil, 0
	clear(m.globals)
	clear(m.instances)
	m.doc, m.decoded, m.roots, m.target, m.shallow, m.thrown, m.last, m.probed = nil, nil, nil, "", false, nil, nil, nil
}

// Run calls the function of an entry with a document in the place of the response, and answers what the app gets.
func (m *Machine) Run(e *Entry, doc *wire.Value, traced bool) (Value, error) {
	m.reset()
	var at *Place
	if traced {
		at = &Place{Name: e.root}
	}
	v := FromWire(doc, at)
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
	return m.MadeOf(t, FromWire(doc, at))
}

// maxEntries is how many functions are tried that may ask for a response.
const maxEntries = 4000

// Entries are the functions of a program that decode a response, with what they make of it.
func Entries(p *Program) (found []*Entry) {
	m := New(p)
	for _, fn := range p.asking() {
		m.reset()
		m.shallow, m.left = true, 60000
		e := &Entry{Program: p, Fn: fn, Of: fn.Class}
		v, err := m.start(e)
		if len(m.decoded) == 0 {
			continue
		}
		e.Request, e.Result = m.decoded[0], v
		if err != nil {
			e.Lost = err.Error()
		}
		e.root = e.Request.Method + " " + e.Request.Path
		if t, at := m.shape(v); t != nil && at != nil {
			e.root = at.root().Name
			for _, r := range m.decoded {
				if r.Method+" "+r.Path == e.root {
					e.Request = r
				}
			}
			if within, ok := membersTo(at); ok {
				e.Type, e.Within = t, within
			}
		}
		found = append(found, e)
		if len(found) >= maxEntries {
			break
		}
	}
	return found
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
		return o.Type, common(v.places())
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

// sinks are the names by which code gets at the body of an answer.
var sinks = words("jsonDecode decode data body bodyBytes convert decodeFromString fetch")

// asking are the functions that may lead to where a response is decoded: those that name a sink, and those that name
// such a function.
func (p *Program) asking() []*code.Func {
	named := map[string][]*code.Func{} // by a name that they use
	var all []*code.Func
	add := func(f *code.Func) {
		all = append(all, f)
		for name := range usedNames(f) {
			named[name] = append(named[name], f)
		}
	}
	for _, u := range p.Units() {
		for _, f := range u.Funcs {
			add(f)
		}
		for _, c := range u.Classes {
			for _, f := range c.Funcs {
				add(f)
			}
		}
	}
	seen := map[*code.Func]bool{}
	var queue []*code.Func
	push := func(f *code.Func) {
		if !seen[f] && !f.Setter && (!f.Init || f.Factory) {
			seen[f] = true
			queue = append(queue, f)
		}
	}
	for name := range sinks {
		for _, f := range named[name] {
			push(f)
		}
	}
	for _, f := range all {
		for _, mark := range f.Marks {
			if mark.Op == code.Call && isVerb(strings.ToUpper(mark.Args[0].Text)) {
				push(f)
			}
		}
	}
	for i := 0; i < len(queue) && len(queue) < maxEntries; i++ {
		for _, f := range named[queue[i].Name] {
			push(f)
		}
	}
	slices.SortFunc(queue, func(a, b *code.Func) int {
		if c := strings.Compare(a.File, b.File); c != 0 {
			return c
		}
		if a.Pos.Line != b.Pos.Line {
			return int(a.Pos.Line - b.Pos.Line)
		}
		return int(a.Pos.Col - b.Pos.Col)
	})
	return queue
}

// usedNames are the names in the body of a function.
func usedNames(f *code.Func) map[string]bool {
	out := map[string]bool{}
	var expr func(x *code.Expr)
	var body func(b []code.Stmt)
	expr = func(x *code.Expr) {
		if x == nil {
			return
		}
		if x.Op == code.Name || x.Op == code.Member {
			out[x.Text] = true
		}
		for _, a := range x.Args {
			expr(a)
		}
		body(x.Body)
	}
	body = func(b []code.Stmt) {
		for i := range b {
			expr(b[i].Value)
			expr(b[i].Of)
			body(b[i].Body)
		}
	}
	body(f.Body)
	body(f.Inits)
	expr(f.Redirect)
	return out
}
