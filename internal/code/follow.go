package code

import (
	"maps"
	"slices"
	"strings"

	"vetta/internal/model"
)

// Sink is a call at which a library decodes, as its reader has found it.
type Sink struct {
	Pos  model.Pos // of the method's name
	Call *model.Call
	// Decoder is what Follow finds of the decoder of a call whose type is known.
	Decoder Named
}

// Named is a value by the names that it goes by in a file, the nearest first: those of a variable, of the
// constant that it is given, of the function that makes it.
type Named struct {
	Names []string
	File  string
}

// Found is a place where the app asks for a response of a type that is known there.
type Found struct {
	Sink    *Sink
	Pos     model.Pos
	Type    *model.Type
	Path    string          // of the request, "" where it is not followed
	Way     []model.Through // from there to the library's method
	Decoder Named
}

// Load makes sure that the files in which a name stands are part of the program.
type Load func(name string)

// limits keep the following of code that leads back to itself, or everywhere, short.
const (
	maxWay   = 8
	maxFound = 20000
	maxSteps = 50000 // of one call
)

// Follow finds where the app asks for what the sinks decode, and what type it says there. Lost are the
// sinks that nothing was found for, with why.
func (p *Program) Follow(sinks []*Sink, load Load) (found []Found, lost map[*Sink]string) {
	f := &follower{p: p, load: load, lost: map[*Sink]string{}}
	for _, s := range sinks {
		f.sink(s)
	}
	return f.found, f.lost
}

type follower struct {
	p     *Program
	load  Load
	found []Found
	lost  map[*Sink]string
	steps int                // left for the call that is followed
	told  map[model.Pos]bool // where a surer way of naming the type of that call has said it
}

// demand is a type that depends on who calls a function.
type demand struct {
	sink *Sink
	fn   *Func
	typ  *model.Type
	path *Expr
	// decoder is what decodes in terms of the function, and known its names once no caller can say more.
	decoder *Expr
	known   Named
	way     []model.Through
}

// sink follows one sink.
func (f *follower) sink(s *Sink) {
	at, ok := f.p.at[s.Pos]
	if !ok {
		if s.Call.Type == nil {
			f.lost[s] = "the code around it is not followed"
		}
		return
	}
	path := f.p.pathIn(at.in, at.call)
	all := f.asked(&at)
	var t *model.Type
	if len(all) > 0 {
		t = all[0]
	}
	told, free := s.Call.Type, f.p.free(at.in)
	if told != nil && len(names(told, free)) == 0 && !isOpen(told) && (t == nil || len(names(t, free)) == 0) {
		s.Call.Endpoint = firstOf(s.Call.Endpoint, f.p.evaluate(path, at.in))
		s.Decoder = f.p.named(decoderOf(at.call), at.in)
		return
	}
	if t == nil {
		f.lost[s] = "what it decodes is named in a way that is not followed"
		return
	}
	before := len(f.found)
	f.steps = maxSteps
	f.told = map[model.Pos]bool{}
	for _, t := range all {
		from := len(f.found)
		f.demand(demand{sink: s, fn: at.in, typ: t, path: path, decoder: decoderOf(at.call), way: []model.Through{{Name: at.in.Name, Pos: s.Pos}, {Name: called(at.call), Pos: s.Pos}}})
		for _, found := range f.found[from:] {
			f.told[found.Pos] = true
		}
	}
	if f.steps < 0 || len(f.found) >= maxFound {
		f.lost[s] = "more calls lead to it than are followed"
	} else if len(f.found) == before && f.lost[s] == "" {
		f.lost[s] = "no call of " + at.in.Name + " was found that says what it decodes"
	}
}

// decoder is what is known of what decodes.
func (f *follower) decoder(d demand) Named {
	if d.decoder != nil {
		return f.p.named(d.decoder, d.fn)
	}
	return d.known
}

// decoderOf is what a decoding call is made on, or is given as its decoder; nil where it is neither.
func decoderOf(call *Expr) *Expr {
	for i, label := range call.Labels {
		if label == "decoder" {
			return call.Args[i+1]
		}
	}
	if callee := call.Args[0]; callee.Op == Member && len(callee.Args) > 0 {
		return withoutSelf(callee.Args[0])
	}
	return nil
}

// withoutSelf is self.decoder as decoder.
func withoutSelf(e *Expr) *Expr {
	if e.Op == Member && len(e.Args) > 0 && e.Args[0].Op == Name && (e.Args[0].Text == "self" || e.Args[0].Text == "this") {
		return &Expr{Op: Name, Text: e.Text, Pos: e.Pos}
	}
	return e
}

func firstOf(texts ...string) string {
	for _, t := range texts {
		if t != "" {
			return t
		}
	}
	return ""
}

// isOpen says whether a type holds a name that nothing declares, as that of a type parameter does.
func isOpen(t *model.Type) (open bool) {
	t.Walk(func(t *model.Type) { open = open || t.Kind == model.Param })
	return open
}

// free are the names that may stand for types in the code of a function.
func (p *Program) free(fn *Func) []string {
	all := slices.Clone(fn.Generics)
	for _, a := range fn.Params {
		all = append(all, handed(a.Name))
	}
	return append(all, p.freeIn(fn.Class)...)
}

// freeIn are those in the code of a class that whoever makes an instance of it says: its type parameters,
// and properties that hold a type.
func (p *Program) freeIn(c *Class) (all []string) {
	if c == nil {
		return nil
	}
	all = slices.Clone(p.GenericsOf(c.Name))
	for _, part := range p.Classes[c.Name] {
		for _, prop := range part.Props {
			if isType(prop.Type) {
				all = append(all, handed(prop.Name))
			}
		}
	}
	return all
}

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
			if argument(s.closure, fn, i) != s.lambda {
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
		if len(e.Args) > 0 && (e.Op == Call || slices.Contains(typeMembers, e.Text)) {
			return f.named(e.Args[0], in, depth+1)
		}
	case Name:
		for i := range in.Params {
			if a := &in.Params[i]; a.Name == e.Text {
				if t := metatype(a.Type); t != nil {
					return t
				}
				if isType(a.Type) {
					return &model.Type{Kind: model.Named, Name: handed(a.Name)}
				}
				return nil
			}
		}
		if value := letIn(in.Body, e.Text); value != nil {
			return f.named(value, in, depth+1)
		}
		if prop := f.p.prop(e.Text, in.Class); prop != nil {
			switch t := metatype(prop.Type); {
			case prop.Value != nil:
				return f.named(prop.Value, &Func{Class: prop.Class}, depth+1)
			case t != nil:
				return t
			case isType(prop.Type):
				return &model.Type{Kind: model.Named, Name: handed(prop.Name)}
			}
		}
	}
	return nil
}

// typeMembers are the members by which a value that says a type answers it in another form.
var typeMembers = []string{"type", "getType", "java", "javaType", "javaObjectType", "kotlin"}

// metatype is the type that values of a type name: T of T.Type and Class<T>.
func metatype(t *model.Type) *model.Type {
	if t == nil {
		return nil
	}
	t = t.Unwrapped()
	if name, ok := strings.CutSuffix(t.Name, ".Type"); ok && t.Kind == model.Named && !isLower(last(name)) { // not java.lang.reflect.Type
		return &model.Type{Kind: model.Named, Name: name, Args: t.Args, Model: t.Model}
	}
	if t.Kind == model.Named && len(t.Args) == 1 && slices.Contains(metatypes, last(t.Name)) && last(t.Args[0].Name) != "?" && t.Args[0].Kind != model.Opaque {
		return t.Args[0]
	}
	return nil
}

// isLower says whether a name begins like that of a package.
func isLower(name string) bool { return name != "" && name[0] >= 'a' && name[0] <= 'z' }

// isType says whether values of a type name any type, which it does not say: Type, Class<*>.
func isType(t *model.Type) bool {
	if t == nil {
		return false
	}
	switch last(t.Unwrapped().Name) {
	case "Type", "JavaType", "Class", "KClass", "KType", "TypeToken", "TypeReference":
		return true
	}
	return false
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

// demand asks the callers of a function what the names in a type stand for.
func (f *follower) demand(d demand) {
	free := names(d.typ, f.p.free(d.fn))
	if len(free) == 0 {
		if !isOpen(d.typ) && len(f.found) < maxFound && !f.told[d.way[0].Pos] {
			f.found = append(f.found, Found{Sink: d.sink, Pos: d.way[0].Pos, Type: erase(d.typ), Path: f.p.evaluate(d.path, d.fn), Way: d.way, Decoder: f.decoder(d)})
		}
		return
	}
	if f.steps--; f.steps < 0 || len(d.way) >= maxWay || d.fn.Name == "" {
		return
	}
	ofClass := f.p.freeIn(d.fn.Class)
	if !d.fn.Init && !slices.ContainsFunc(free, func(name string) bool { return !slices.Contains(ofClass, name) }) {
		if f.instances(d, free) {
			return
		}
	}
	f.calls(d, d.fn, free)
	f.requests(d, free)
}

// requests are the values that a function may be given and that say by their type what is asked for, as
// the app declares them: of Endpoint<Response> those with a Response, of R: Request the classes that name
// theirs. One that some call is given is not told twice.
func (f *follower) requests(d demand, free []string) {
	for i := range d.fn.Params {
		a := &d.fn.Params[i]
		if a.Type == nil || metatype(a.Type) != nil {
			continue
		}
		class := last(a.Type.Unwrapped().Name)
		switch {
		case len(a.Type.Args) > 0 && a.Type.Kind == model.Named && len(names(a.Type, free)) == len(free):
			f.load(class)
			for _, v := range f.p.valuesOf(class) {
				by := bindings{}
				if unify(a.Type, v.typ, free, by) && by.has(free) && len(v.typ.Args) > 0 {
					f.request(d, a, v, by)
				}
			}
		case slices.Equal(free, []string{class}) && d.typ.Kind == model.Named && strings.HasPrefix(d.typ.Name, class+"."):
			_, member, _ := strings.Cut(d.typ.Name, ".")
			f.load(member)
			for _, v := range f.p.naming(member) {
				f.request(d, a, v, bindings{class: v.typ})
			}
		}
	}
}

// request goes on from a value that says what is asked for.
func (f *follower) request(d demand, a *Param, v declared, by bindings) {
	t := f.p.bind(d.typ, by)
	s := site{call: &Expr{Op: Call, Args: []*Expr{{Op: Name, Text: d.fn.Name}, v.made}, Labels: []string{a.Name}, Pos: v.pos}, in: v.in}
	path := f.p.handedPath(d.path, s, &Func{Name: d.fn.Name, Params: []Param{{Name: a.Name, Type: a.Type}}})
	text := f.p.evaluate(path, v.in)
	for _, known := range f.found {
		if known.Sink == d.sink && known.Type.Key() == t.Key() && (known.Path == text || known.Path == "" || text == "") {
			return
		}
	}
	f.step(d, v.in, t, path, model.Through{Name: v.in.Name, Pos: v.pos})
}

// calls asks those that call a function what some names stand for, and says whether any knows it.
func (f *follower) calls(d demand, fn *Func, free []string) (any bool) {
	f.load(fn.Name)
	for _, s := range slices.Clone(f.p.calls[fn.Name]) {
		if s.in == d.fn || s.in == fn || !f.p.mayCall(s, fn) {
			continue
		}
		by := f.bindings(s, fn)
		if !by.has(free) {
			continue
		}
		any = true
		next := d
		if f.p.isHanded(d.decoder, d.fn) {
			next.decoder = f.p.handed(d.decoder, s, fn)
		} else if d.decoder != nil {
			next.decoder, next.known = nil, f.p.named(d.decoder, d.fn)
		}
		f.step(next, s.in, f.p.bind(d.typ, by), f.p.handedPath(d.path, s, fn), model.Through{Name: s.in.Name, Pos: s.call.Pos})
	}
	return any
}

// has says whether all of some names stand for a type.
func (by bindings) has(all []string) bool {
	return !slices.ContainsFunc(all, func(name string) bool { return by[name] == nil })
}

// step goes on from a function to one that leads to it.
func (f *follower) step(d demand, to *Func, t *model.Type, path *Expr, by model.Through) {
	if slices.Contains(d.way, by) {
		return
	}
	way := append([]model.Through{by}, d.way...)
	way[1].Pos = by.Pos
	f.demand(demand{sink: d.sink, fn: to, typ: t, path: path, decoder: d.decoder, known: d.known, way: way})
}

// instances asks those that make instances of the class of a function, and those that extend it, and says
// whether any knows what the names stand for.
func (f *follower) instances(d demand, free []string) (any bool) {
	c := d.fn.Class
	f.load(c.Name)
	for _, part := range slices.Clone(f.p.Classes[c.Name]) {
		for _, init := range part.Funcs {
			if init.Init {
				any = f.calls(d, init, free) || any
			}
		}
	}
	generics := f.p.GenericsOf(c.Name)
	for _, name := range slices.Sorted(maps.Keys(f.p.Classes)) {
		for _, sub := range f.p.Classes[name] {
			for _, super := range sub.Supers {
				if last(super.Name) != c.Name || len(super.Args) != len(generics) || len(generics) == 0 {
					continue
				}
				by := bindings{}
				for i, name := range generics {
					by[name] = super.Args[i]
				}
				if by.has(free) {
					any = true
					f.step(d, &Func{Name: sub.Name, Class: sub}, f.p.bind(d.typ, by), nil, model.Through{Name: sub.Name, Pos: sub.Pos})
				}
			}
		}
	}
	return any
}

// bindings are what the names of a function stand for at a call of it.
func (f *follower) bindings(s site, fn *Func) bindings {
	by := bindings{}
	generics := fn.Generics
	if fn.Init && fn.Class != nil {
		generics = f.p.GenericsOf(fn.Class.Name)
	}
	for i, t := range s.call.Types {
		if i < len(generics) {
			by[generics[i]] = t
		}
	}
	free := f.p.free(fn)
	for i := range fn.Params {
		a := &fn.Params[i]
		arg := argument(s.call, fn, i)
		if arg == nil {
			continue
		}
		if t := f.named(arg, s.in, 0); t != nil {
			by[handed(a.Name)] = t
			if own := metatype(a.Type); own != nil {
				unify(own, t, free, by)
			}
			continue
		}
		if len(names(a.Type, free)) > 0 {
			if t := f.p.typeOf(arg, s.in, a.Type, 0); t != nil {
				unify(f.p.expand(a.Type), f.p.expand(t), free, by)
			}
		}
	}
	if expected := f.expected(s, 0); fn.Returns != nil && expected != nil {
		unify(fn.Returns, expected, free, by)
	}
	if own := f.p.genericsOf(fn.Class); !fn.Init && len(own) > 0 { // of a generic class, by what the receiver is declared as
		if callee := s.call.Args[0]; callee.Op == Member && len(callee.Args) > 0 {
			if t := f.p.typeOf(callee.Args[0], s.in, nil, 0); t != nil && len(t.Args) == len(own) {
				for i, name := range own {
					if by[name] == nil {
						by[name] = t.Args[i]
					}
				}
			}
		}
	}
	for name, t := range by { // what only holds a value is not what is decoded
		if slices.Contains(fn.Generics, name) {
			by[name] = held(t)
		}
	}
	return by
}

// argument is what a call gives a parameter: by its label, or its place where it has none, and a closure
// behind the others the last; nil where it gives none.
func argument(call *Expr, fn *Func, param int) *Expr {
	a := fn.Params[param]
	given := call.Args[1:]
	for i, arg := range given {
		if label := call.Labels[i]; label != "" && (label == a.Label || a.Label == "" && label == a.Name) {
			return arg
		}
	}
	place := 0
	for i, arg := range given {
		if call.Labels[i] != "" {
			continue
		}
		if arg.Op == Lambda && i == len(given)-1 && i > 0 && given[i-1].Op != Lambda {
			if param == len(fn.Params)-1 {
				return arg
			}
			return nil
		}
		for place < len(fn.Params) && (fn.Params[place].Label != "" || byLabel(call, fn, place)) {
			place++
		}
		if place == param {
			return arg
		}
		place++
	}
	return nil
}

// byLabel says whether a call gives a parameter by its label.
func byLabel(call *Expr, fn *Func, param int) bool {
	a := fn.Params[param]
	return slices.ContainsFunc(call.Labels, func(label string) bool {
		return label != "" && (label == a.Label || a.Label == "" && label == a.Name)
	})
}
