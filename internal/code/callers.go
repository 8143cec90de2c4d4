package code

import (
	"maps"
	"slices"
	"strings"

	"vetta/internal/model"
)

// calls asks those that call a function what some names stand for, and says whether any knows it.
func (f *follower) calls(d demand, fn *Func, free []string) (any bool) {
	f.load(fn.Name)
	for _, s := range f.callsOf(fn) {
		if s.in == d.fn || s.in == fn || !f.p.mayCall(s, fn) {
			continue
		}
		by := f.bindings(s, fn)
		if !by.has(free) {
			continue
		}
		any = true
		next := d
		next.decoder, next.known = f.handedDecoder(d, s, fn)
		next.method = firstOf(d.method, f.p.methodIn(s.in, s.call))
		f.step(next, s.in, f.p.bind(d.typ, by), f.p.handedPath(d.path, s, fn), model.Through{Name: s.in.Name, Pos: s.call.Pos})
	}
	return any
}

// callsOf are the calls that may be of a function by its name; of an initialiser those too that name its
// class by what they are expected to yield.
func (f *follower) callsOf(fn *Func) []site {
	all := slices.Clone(f.p.calls[fn.Name])
	if init := f.p.words.Init; fn.Init && fn.Class != nil && init != "" {
		for _, s := range f.p.calls[init] {
			callee := s.call.Args[0]
			if len(callee.Args) > 0 && callee.Args[0].Op == Name && callee.Args[0].Text == fn.Class.Name ||
				callee.Op == Member && len(callee.Args) == 0 && s.expected != nil && model.SimpleName(s.expected.Unwrapped().Name) == fn.Class.Name {
				all = append(all, s)
			}
		}
	}
	if fn.Name == f.p.words.Invoke && fn.Class != nil && fn.Name != "" { // client(path) calls client.invoke(path)
		f.load(fn.Class.Name)
		for _, name := range f.p.instancesNamed(fn.Class.Name) {
			for _, s := range f.p.calls[name] {
				if s.call.Args[0].Op == Name {
					all = append(all, s)
				}
			}
		}
	}
	return all
}

// instancesNamed are the names of the properties and parameters that hold an instance of a class.
func (p *Program) instancesNamed(class string) (all []string) {
	note := func(name string, t *model.Type, made *Expr) {
		holds := t != nil && model.SimpleName(t.Unwrapped().Name) == class || made != nil && made.Op == Call && called(made) == class
		if holds && !slices.Contains(all, name) {
			all = append(all, name)
		}
	}
	for _, name := range slices.Sorted(maps.Keys(p.props)) {
		for _, prop := range p.props[name] {
			note(name, prop.Type, prop.Value)
		}
	}
	for _, fn := range p.Funcs {
		for i := range fn.Params {
			note(fn.Params[i].Name, fn.Params[i].Type, nil)
		}
	}
	return all
}

// step goes on from a function to one that leads to it.
func (f *follower) step(d demand, to *Func, t *model.Type, path *Expr, by model.Through) {
	if slices.Contains(d.way, by) {
		return
	}
	way := append([]model.Through{by}, d.way...)
	way[1].Pos = by.Pos
	f.demand(demand{sink: d.sink, fn: to, typ: t, path: path, method: d.method, decoder: d.decoder, known: d.known, way: way})
}

// has says whether all of some names stand for a type.
func (by bindings) has(all []string) bool {
	return !slices.ContainsFunc(all, func(name string) bool { return by[name] == nil })
}

// requests are the values that a function may be given and that say by their type what is asked for, as
// the app declares them: of Endpoint<Response> those with a Response, of R: Request the classes that name
// theirs. One that some call is given is not told twice.
func (f *follower) requests(d demand, free []string) {
	for i := range d.fn.Params {
		a := &d.fn.Params[i]
		if a.Type == nil {
			continue
		}
		class := model.SimpleName(a.Type.Unwrapped().Name)
		if of := f.p.metatype(a.Type); of != nil { // R.Type
			class = of.Name
		}
		switch {
		case len(a.Type.Args) > 0 && f.p.metatype(a.Type) == nil && a.Type.Kind == model.Named && len(names(a.Type, free)) == len(free):
			f.load(class)
			for _, v := range f.p.valuesOf(class) {
				by := bindings{}
				if unify(a.Type, v.typ, free, by) && by.has(free) && len(v.typ.Args) > 0 {
					f.request(d, a, v, by)
				}
			}
		case slices.Equal(free, []string{class}) && memberNamed(d.typ, class) != "":
			member := memberNamed(d.typ, class)
			f.load(member)
			for _, v := range f.p.naming(member) {
				f.request(d, a, v, bindings{class: v.typ})
			}
		}
	}
}

// memberNamed is the associated type of a class that a type names, Response of [R.Response]; "" for none.
func memberNamed(t *model.Type, class string) (member string) {
	t.Walk(func(t *model.Type) {
		if rest, ok := strings.CutPrefix(t.Name, class+"."); ok && t.Model == nil {
			member = rest
		}
	})
	return member
}

// request goes on from a value that says what is asked for.
func (f *follower) request(d demand, a *Param, v declared, by bindings) {
	if found := f.p.methodsIn(v.made, v.in); d.method == "" && len(found) == 1 {
		d.method = found[0]
	}
	t := f.p.bind(d.typ, by)
	s := site{call: &Expr{Op: Call, Args: []*Expr{{Op: Name, Text: d.fn.Name}, v.made}, Labels: []string{a.Name}, Pos: v.pos}, in: v.in}
	given := &Func{Name: d.fn.Name, Params: []Param{{Name: a.Name, Type: a.Type}}}
	path := f.p.handedPath(d.path, s, given)
	if d.decoder != nil && d.decoder.Op == Member { // endpoint.decoder
		d.decoder, d.known = f.handedDecoder(d, s, given)
	}
	text := f.p.evaluate(path, v.in)
	for _, known := range f.found {
		if known.Sink == d.sink && known.Type.Key() == t.Key() && (known.Path == text || known.Path == "" || text == "") {
			return
		}
	}
	f.step(d, v.in, t, path, model.Through{Name: v.in.Name, Pos: v.pos})
}

// instances asks those that make instances of the class of a function, and those that extend it, and says
// whether any knows what the names stand for.
func (f *follower) instances(d demand, free []string) (any bool) {
	c := d.fn.Class
	f.load(c.Name)
	if d.path == nil {
		d.path = f.p.ownPath(c)
	}
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
				if model.SimpleName(super.Name) != c.Name || len(super.Args) != len(generics) || len(generics) == 0 {
					continue
				}
				by := bindings{}
				for i, name := range generics {
					by[name] = super.Args[i]
				}
				if by.has(free) {
					any = true
					next := d
					if e := f.p.below(d.decoder, c, sub); e != nil && e != d.decoder && f.p.ownProp(d.decoder, d.fn) != "" { // what it hands up
						next.decoder, next.known = nil, f.p.named(e, &Func{Name: sub.Name, Class: sub, File: sub.File})
					}
					f.step(next, &Func{Name: sub.Name, Class: sub}, f.p.bind(d.typ, by), f.p.below(d.path, c, sub), model.Through{Name: sub.Name, Pos: sub.Pos})
				}
			}
		}
	}
	return any
}

// mayCall says whether a call may be one of a function: by the shape of its arguments, and by the class of
// what it is called on, as far as that is known.
func (p *Program) mayCall(s site, fn *Func) bool {
	given, least := len(s.call.Args)-1, 0
	for i := range fn.Params {
		a := &fn.Params[i]
		if a.Default == nil {
			least++
		}
		if a.Label != "" && a.Default == nil && !slices.Contains(s.call.Labels, a.Label) && Argument(s.call, fn, i) == nil {
			return false
		}
	}
	if given > len(fn.Params) || given < least {
		return false
	}
	for _, label := range s.call.Labels {
		if label != "" && !slices.ContainsFunc(fn.Params, func(a Param) bool { return label == a.Label || label == a.Name }) {
			return false
		}
	}
	callee := s.call.Args[0]
	if fn.Class == nil && !fn.Receiver && callee.Op == Member && len(callee.Args) == 1 && callee.Args[0].Op == Name && slices.ContainsFunc(p.Classes[callee.Args[0].Text], func(c *Class) bool { return c.Kind == "object" }) {
		return false // a function of an object is none outside of it
	}
	if fn.Class == nil || fn.Init || callee.Op == Name && callee.Text != fn.Name { // by the name of an instance
		return true
	}
	if callee.Op == Name {
		for c := s.in.Class; c != nil; c = c.Outer {
			if p.isKindOf(c.Name, fn.Class.Name, 0) || fn.Receiver {
				return true
			}
		}
		return s.in.Class == nil
	}
	if len(callee.Args) == 0 {
		return false
	}
	t := p.typeOf(callee.Args[0], s.in, nil, 0)
	if t == nil {
		return true
	}
	name := model.SimpleName(t.Unwrapped().Name)
	return fn.Receiver || name == fn.Class.Name || p.isKindOf(name, fn.Class.Name, 0) || p.isKindOf(fn.Class.Name, name, 0)
}

// isKindOf says whether a class is another, or extends or implements it, as far as the program shows.
func (p *Program) isKindOf(name, other string, depth int) bool {
	if name == other {
		return true
	}
	if depth > maxWay {
		return false
	}
	for _, c := range p.Classes[name] {
		for _, super := range c.Supers {
			if p.isKindOf(model.SimpleName(super.Name), other, depth+1) {
				return true
			}
		}
	}
	return false
}
