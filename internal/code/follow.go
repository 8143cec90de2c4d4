package code

import (
	"slices"

	"vetta/internal/model"
)

// Sink is a call at which a library decodes, as its reader has found it.
type Sink struct {
	Pos  model.Pos // of the method's name
	Call *model.Call
	// Sends says that the library writes what the call is given, rather than that it reads.
	Sends bool
	// Decoder is what Follow finds of the decoder of a call whose type is known.
	Decoder Named
}

// Found is a place where the app asks for a response of a type that is known there.
type Found struct {
	Sink    *Sink
	Pos     model.Pos
	Type    *model.Type
	Path    string          // of the request, "" where it is not followed
	Method  string          // of the request, "" where nothing says it
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
	maxDeep  = 100   // of expressions in each other
)

// Follow finds where the app asks for what the sinks decode, and what type it says there. Lost are the
// sinks that nothing was found for, with why.
func (p *Program) Follow(sinks []*Sink, load Load) (found []Found, lost map[*Sink]string) {
	f := &follower{p: p, load: load, lost: map[*Sink]string{}}
	p.load = load
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
	later []later
	steps int                // left for the call that is followed
	told  map[model.Pos]bool // where a surer way of naming the type of that call has said it
	sends bool               // the call that is followed writes what it is given
}

// later is a demand that is asked of the values it may be about once all calls have been.
type later struct {
	demand demand
	free   []string
}

// demand is a type that depends on who calls a function.
type demand struct {
	sink *Sink
	fn   *Func
	typ  *model.Type
	path *Expr
	// method is that of the request, "" as long as nothing says it.
	method string
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
	f.sends = s.Sends
	path := f.p.pathIn(at.in, at.call)
	method := f.p.methodIn(at.in, at.call)
	all := f.asked(&at)
	if s.Sends {
		all = f.sent(&at)
	}
	var t *model.Type
	if len(all) > 0 {
		t = all[0]
	}
	told, free := s.Call.Type, f.p.free(at.in)
	if t == nil && told != nil && !s.Sends { // its reader has followed the value to where its type is said
		t, all = told, []*model.Type{told}
	}
	if told != nil && len(names(told, free)) == 0 && !isOpen(told) && (t == nil || len(names(t, free)) == 0) {
		s.Call.Endpoint = firstOf(s.Call.Endpoint, f.p.evaluate(path, at.in))
		s.Call.Method = firstOf(s.Call.Method, method)
		s.Decoder = f.p.named(f.p.decoderOf(at.call), at.in)
		return
	}
	if t == nil {
		f.lost[s] = "what it decodes is named in a way that is not followed"
		if s.Sends {
			f.lost[s] = "what it writes is made in a way that is not followed"
		}
		return
	}
	before := len(f.found)
	f.steps = maxSteps
	f.told = map[model.Pos]bool{}
	for _, t := range all {
		from := len(f.found)
		f.demand(demand{sink: s, fn: at.in, typ: t, path: path, method: method, decoder: f.p.decoderOf(at.call), way: []model.Through{{Name: at.in.Name, Pos: s.Pos}, {Name: called(at.call), Pos: s.Pos}}})
		for len(f.later) > 0 { // what no call is seen to be given
			next := f.later[0]
			f.later = f.later[1:]
			f.requests(next.demand, next.free)
		}
		for _, found := range f.found[from:] {
			f.told[found.Pos] = true
		}
	}
	if f.steps < 0 || len(f.found) >= maxFound {
		f.lost[s] = "more calls lead to it than are followed"
	} else if len(f.found) == before && f.lost[s] == "" {
		does := "decodes"
		if s.Sends {
			does = "writes"
		}
		f.lost[s] = "no call of " + at.in.Name + " was found that says what it " + does
	}
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

// freed is what is known of the code of a class while it has so many parts.
type freed struct {
	parts int
	names []string
}

// freeIn are those in the code of a class that whoever makes an instance of it says: its type parameters,
// and properties that hold a type.
func (p *Program) freeIn(c *Class) (all []string) {
	if c == nil {
		return nil
	}
	parts := len(p.Classes[c.Name])
	if known := p.freed[c.Name]; known.parts == parts && parts > 0 {
		return known.names
	}
	defer func() { p.freed[c.Name] = freed{parts, all} }()
	all = slices.Clone(p.GenericsOf(c.Name))
	for _, part := range p.Classes[c.Name] {
		for _, prop := range part.Props {
			if p.isType(prop.Type) {
				all = append(all, handed(prop.Name))
			}
		}
	}
	return all
}

// demand asks the callers of a function what the names in a type stand for.
func (f *follower) demand(d demand) {
	free := names(d.typ, f.p.free(d.fn))
	if len(free) == 0 {
		if !isOpen(d.typ) && len(f.found) < maxFound && !f.told[d.way[0].Pos] {
			f.found = append(f.found, Found{Sink: d.sink, Pos: d.way[0].Pos, Type: erase(d.typ), Path: f.p.evaluate(d.path, d.fn), Method: d.method, Way: d.way, Decoder: f.decoder(d)})
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
	f.later = append(f.later, later{d, free})
}
