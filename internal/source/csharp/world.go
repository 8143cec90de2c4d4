package csharp

import (
	"fmt"
	"slices"
	"sync"

	"vetta/internal/code"
	"vetta/internal/model"
)

// Source is what a model was made of: its type, and the program that it is part of.
type Source struct {
	d     *declared
	world *world
}

// World is the program, for who runs its code.
func (s *Source) World() any { return s.world }

// Declared is the type of the model.
func (s *Source) Declared() *code.Declared { return s.d.code }

// world answers what names mean in the code of a program. It may be asked from several goroutines.
type world struct {
	p    *project
	lock sync.Mutex
	once sync.Once
	ext  map[string][]*code.Func
	// entries are the functions that make a value of a response, by what they make: see roughly.
	entries map[string][]entry
	of      map[*code.Declared]*declared
	// resolved are the types that were asked for, by where they are written.
	resolved sync.Map
}

// Resolve finds what the names in a type mean where it is written.
func (w *world) Resolve(t *model.Type, at code.At) *model.Type {
	if t == nil || t.Linked {
		return t
	}
	key := written{t, at.In, at.File}
	if known, ok := w.resolved.Load(key); ok {
		return known.(*model.Type)
	}
	w.lock.Lock()
	defer w.lock.Unlock()
	out := w.p.resolve(t, scope{file: at.File, space: at.Space, in: w.declared(at.In), free: at.Free})
	w.p.fill()
	w.resolved.Store(key, out)
	return out
}

// written is a type where it is written.
type written struct {
	t    *model.Type
	in   *code.Declared
	file string
}

func (w *world) declared(d *code.Declared) *declared {
	if d == nil {
		return nil
	}
	if w.of == nil {
		w.of = map[*code.Declared]*declared{}
		for _, d := range w.p.order {
			w.of[d.code] = d
		}
	}
	return w.of[d]
}

// Named is the type that a name means there, nil for none of the source's.
func (w *world) Named(name string, args int, at code.At) *code.Declared {
	w.lock.Lock()
	defer w.lock.Unlock()
	d := w.p.find(name, args, at.File, at.Space, w.declared(at.In))
	if d == nil {
		return nil
	}
	w.p.modelOf(d)
	w.p.fill()
	return d.code
}

// OfModel is the type that a model is of.
func (w *world) OfModel(m *model.Model) *code.Declared {
	s, ok := m.Source.(*Source)
	if !ok {
		return nil
	}
	return s.d.code
}

// DeclaredNamed is the type of a name that a type is, or one that extends it.
func (w *world) DeclaredNamed(name string, t *model.Type) *code.Declared {
	w.lock.Lock()
	defer w.lock.Unlock()
	if t.Model != nil && t.Model.Name == name {
		if s, ok := t.Model.Source.(*Source); ok {
			return s.d.code
		}
	}
	for _, d := range w.p.order {
		if d.name == name {
			w.p.modelOf(d)
			w.p.fill()
			return d.code
		}
	}
	return nil
}

// Extensions are the functions of a name that extend the types of others.
func (w *world) Extensions(name string) []*code.Func {
	w.once.Do(func() {
		w.ext = map[string][]*code.Func{}
		for _, d := range w.p.order {
			for _, c := range d.parts {
				for _, fn := range c.Funcs {
					if slices.Contains(fn.Mods, "this") {
						w.ext[fn.Name] = append(w.ext[fn.Name], fn)
					}
				}
			}
		}
	})
	return w.ext[name]
}

// Statics are the types whose members a file sees by name alone.
func (w *world) Statics(file string) (all []*code.Declared) {
	w.lock.Lock()
	defer w.lock.Unlock()
	for _, class := range w.p.static[file] {
		if d := w.p.find(class, 0, file, "", nil); d != nil {
			w.p.modelOf(d)
			w.p.fill()
			all = append(all, d.code)
		}
	}
	return all
}

// Of is the type that a class is a part of.
func (w *world) Of(c *code.Class) *code.Declared {
	if c == nil {
		return nil
	}
	w.lock.Lock()
	defer w.lock.Unlock()
	if d := w.p.byPart[c]; d != nil {
		w.p.modelOf(d)
		w.p.fill()
		return d.code
	}
	return nil
}

// Options is what an expression says of how a library decodes, as the code of a function has it; nil where that is not
// followed.
func (w *world) Options(e *code.Expr, fn *code.Func, library string) *model.Settings {
	w.lock.Lock()
	defer w.lock.Unlock()
	a := w.p.asking
	if a == nil {
		return nil
	}
	if e == nil {
		s := plain(library, model.Pos{})
		if library == newtonsoftJSON {
			s = a.byDefault(s)
		}
		return s
	}
	at := where{fn: fn}
	if fn != nil {
		read := *fn
		read.Body, read.Unread = fn.Do(), nil
		at.fn = &read
		at.s = scope{file: fn.File, free: fn.Generics}
		if fn.Class != nil {
			at.s.space, at.s.in = fn.Class.Space, w.p.byPart[fn.Class]
			if at.s.in == nil {
				at.s.in = w.p.byFull(fn.Class)
			}
		}
	}
	s := a.evaluate(e, at, library)
	if s != nil && library == newtonsoftJSON {
		s = a.under(s)
	}
	return s
}

// Entries are the functions of the app that make a value of a type of a response: of its text, bytes or stream, of a
// client that asks for it, of an element or token; those of a response as a whole first. Functions that others of them
// call come last. whole says that the first is given a response as a whole.
func (w *world) Entries(t *model.Type) (fns []*code.Func, of []*code.Declared, whole bool) {
	w.lock.Lock()
	defer w.lock.Unlock()
	if w.entries == nil {
		w.entries = w.findEntries()
	}
	var all []entry
	want := t.Unwrapped()
	for _, e := range w.entries[roughly(want)] {
		if e.makes.Key() == want.Key() || sameElements(e.makes, want) {
			all = append(all, e)
		}
	}
	slices.SortStableFunc(all, func(a, b entry) int { return b.rank - a.rank })
	for _, e := range all {
		w.p.modelOf(e.d)
		fns, of = append(fns, e.fn), append(of, e.d.code)
	}
	w.p.fill()
	return fns, of, len(all) > 0 && all[0].rank >= ofMember
}

// entry is a function that makes a value of a response.
type entry struct {
	fn    *code.Func
	d     *declared
	makes *model.Type
	rank  int // see taken
}

// roughly is the same for types of which one may be made where the other is wanted.
func roughly(t *model.Type) string {
	if (t.Kind == model.List || t.Kind == model.Map) && len(t.Args) > 0 {
		return fmt.Sprint(t.Kind, " ", t.Args[len(t.Args)-1].Unwrapped().Key())
	}
	return t.Key()
}

// findEntries finds those functions of the program, by what they make.
func (w *world) findEntries() map[string][]entry {
	found := map[string][]entry{}
	for _, d := range w.p.order {
		if d.kind() == "interface" || d.kind() == "enum" {
			continue
		}
		for _, c := range d.parts {
			for _, fn := range c.Funcs {
				if fn.Init || fn.Returns == nil || len(fn.Generics) > 0 || fn.Native && fn.Unread == nil {
					continue
				}
				rank := w.p.taken(fn)
				if rank == 0 {
					continue
				}
				if !slices.Contains(fn.Mods, "private") {
					rank++
				}
				makes := w.p.resolve(fn.Returns, scope{file: c.File, space: c.Space, in: d, free: fn.Generics}).Unwrapped()
				found[roughly(makes)] = append(found[roughly(makes)], entry{fn, d, makes, rank})
			}
		}
	}
	w.p.fill()
	return found
}

// sameElements says whether two lists or maps differ in their classes alone.
func sameElements(a, b *model.Type) bool {
	if a.Kind != model.List && a.Kind != model.Map || a.Kind != b.Kind || len(a.Args) != len(b.Args) {
		return false
	}
	last := len(a.Args) - 1
	isClass := func(t *model.Type) bool {
		u := t.Unwrapped()
		return u.Model != nil && (u.Model.Kind == model.Class || u.Model.Kind == model.Interface)
	}
	isReference := last == 0 && isClass(a.Args[0]) // List<Port?> and List<Port> are one to the runtime
	return (isReference || a.Args[0].Key() == b.Args[0].Key()) && a.Args[last].Unwrapped().Key() == b.Args[last].Unwrapped().Key()
}

// How a function is given a response: an element or a token of it, the whole by a client that is a member of its class,
// the whole as a parameter: its text, its bytes, a stream, a client.
const (
	ofElement = 10
	ofMember  = 15
	ofWhole   = 20
)

// taken says how a function is given a response: 0 for one that is given none, more for one that has the whole of it.
func (p *project) taken(fn *code.Func) (rank int) {
	rank, given := takenBy(fn)
	if !given && rank == 0 && fn.Class != nil && !fn.Static && p.hasClient(fn) {
		return ofMember
	}
	return rank
}

// hasClient says whether the class of a function is made of a client, which its code asks.
func (p *project) hasClient(fn *code.Func) bool {
	isClient := func(t *model.Type) bool {
		return t != nil && model.SimpleName(t.Unwrapped().Name) == "HttpClient"
	}
	for _, prop := range fn.Class.Props {
		if isClient(prop.Type) && mentions(fn, prop.Name) {
			return true
		}
	}
	for _, f := range fn.Class.Funcs {
		if f.Init && slices.ContainsFunc(f.Params, func(a code.Param) bool { return isClient(a.Type) && mentions(fn, a.Name) }) {
			return true
		}
	}
	return false
}

// takenBy is taken by the parameters of a function alone; given says that there are some that it cannot do without.
func takenBy(fn *code.Func) (rank int, given bool) {
	for i := range fn.Params {
		p := &fn.Params[i]
		if p.Type == nil {
			return 0, true
		}
		of := 0
		switch name := model.SimpleName(p.Type.Unwrapped().Name); {
		case name == "string" || name == "String" || name == "HttpClient" || name == "Stream" || name == "TextReader" || name == "HttpResponseMessage" || name == "HttpContent":
			of = ofWhole
		case name == "[]" && p.Type.Unwrapped().Args[0].Name == "byte":
			of = ofWhole
		case name == "JsonElement" || name == "JsonDocument" || name == "JsonNode" || name == "JsonObject" || name == "JsonArray" || name == "JToken" || name == "JObject" || name == "JArray",
			name == "XElement", name == "XDocument", name == "XmlNode", name == "XmlElement", name == "XmlDocument", name == "XmlReader":
			of = ofElement
		case p.Default != nil || name == "CancellationToken":
			continue
		default:
			return 0, true
		}
		if rank > 0 {
			return 0, true
		}
		rank = of
	}
	return rank, rank > 0
}
