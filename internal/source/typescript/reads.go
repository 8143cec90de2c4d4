package typescript

import (
	"slices"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/types"
)

// What code reads of a value that has no type: constructor(json: any) { this.id = json.id }, static fromJson, functions
// that map what was sent to what the app holds. It is a type: of the keys that are read, each of the type of what it is
// given to.

// asked is a part of a value that has no type, as far as code reads it.
type asked struct {
	keys  []*askedKey
	whole *types.Type // what all of it is taken for, nil for nothing
	item  *asked      // its elements, of a list
	by    *code.Func  // that reads it, of those that it is handed to as a whole; nil for none
	same  *asked      // that is read by the same code, of one in it
}

// askedKey is a key that code reads.
type askedKey struct {
	name     string
	part     *asked
	typ      *types.Type // of what it is given to, nil where that is not told
	optional bool        // wherever it is read something takes its place
	pos      model.Pos
	prop     *code.Prop // that it is given to, nil for another thing
}

func (a *asked) key(name string, pos model.Pos) *askedKey {
	for _, k := range a.keys {
		if k.name == name {
			return k
		}
	}
	k := &askedKey{name: name, part: &asked{}, optional: true, pos: pos}
	a.keys = append(a.keys, k)
	return k
}

// place is what an expression stands for: a part, under a key where it is one of an object.
type place struct {
	part     *asked
	key      *askedKey   // nil for the whole, and for an element
	optional bool        // something on the way to it may be nothing
	through  []*askedKey // the objects on the way, which must be there
}

// askedIn are the names in a scope that stand for parts.
type askedIn struct {
	names map[string]place
	outer *askedIn
}

func (e *askedIn) find(name string) (place, bool) {
	for ; e != nil; e = e.outer {
		if p, ok := e.names[name]; ok {
			return p, p.part != nil
		}
	}
	return place{}, false
}

func (e *askedIn) inner() *askedIn { return &askedIn{names: map[string]place{}, outer: e} }

// asking goes through code that reads a part.
type askingFor struct {
	f     *flow
	steps int
	depth int
	lost  bool      // something is done with it that is not followed
	stack []reading // the functions that are gone through
}

// reading is a function with the part that it is handed.
type reading struct {
	fn   *code.Func
	part *asked
}

const (
	maxAskedSteps = 4000
	maxAskedDepth = 6
)

// readBy is the type of what a function reads of what it is given, nil where that is not followed, or nothing is read.
func (f *flow) readBy(fn *code.Func, at int) *model.Type {
	if known, done := f.p.readers[fn]; done {
		return known
	}
	if f.p.readers == nil {
		f.p.readers = map[*code.Func]*model.Type{}
	}
	f.p.readers[fn] = nil // while it is gone through
	a := &askingFor{f: f, steps: maxAskedSteps}
	root := &asked{}
	a.function(fn, at, place{part: root})
	if a.lost || a.steps < 0 || len(root.keys) == 0 && root.whole == nil {
		return nil
	}
	t := f.p.eval.modelAsked(fn, root)
	f.p.readers[fn] = t
	return t
}

// readByClosure is the same of a function without a name, whose results are of a type.
func (f *flow) readByClosure(e *code.Expr, result *model.Type, in *code.Func) *model.Type {
	fn := e.Fn
	if fn == nil || len(fn.Params) == 0 || fn.Params[0].Type != nil && !untyped(fn.Params[0].Type) {
		return nil
	}
	own := *fn
	if own.Class = in.Class; own.Returns == nil {
		own.Returns = result
	}
	if own.Name == "" {
		own.Name = in.Name
	}
	return f.readBy(&own, 0)
}

// untyped says whether a type says nothing of the members of what it is of.
func untyped(t *model.Type) bool {
	if t == nil {
		return true
	}
	u := t.Unwrapped()
	switch {
	case u.Kind == model.Map:
		return len(u.Args) == 2 && untyped(u.Args[1])
	case u.Kind == model.Named && u.Model == nil:
		return u.Name == "any" || u.Name == "unknown" || u.Name == "object" || u.Name == "Object"
	}
	return false
}

func (a *askingFor) function(fn *code.Func, at int, given place) {
	for _, r := range a.stack {
		if r.fn == fn {
			given.part.same = r.part
			return
		}
	}
	a.stack = append(a.stack, reading{fn, given.part})
	defer func() { a.stack = a.stack[:len(a.stack)-1] }()
	if a.depth++; a.depth > maxAskedDepth || at >= len(fn.Params) {
		a.lost = true
		return
	}
	defer func() { a.depth-- }()
	e := (*askedIn)(nil).inner()
	if len(given.part.keys) == 0 { // the last one that is handed all of it reads it
		given.part.by = fn
	}
	a.bind(fn.Params[at].Name, given, e)
	a.body(fn.Body, e, fn, false)
}

// bind gives a parameter a part, or each of the names in {a,b} the member of it.
func (a *askingFor) bind(param string, given place, e *askedIn) {
	names, apart := cutBraces(param)
	if !apart {
		e.names[param] = given
		return
	}
	if len(names) == 0 {
		a.lost = true
	}
	for _, name := range names {
		k := given.part.key(name, model.Pos{})
		e.names[name] = place{part: k.part, key: k, optional: given.optional}
	}
}

func (a *askingFor) body(all []code.Stmt, e *askedIn, fn *code.Func, perhaps bool) {
	for i := range all {
		s := &all[i]
		if a.steps--; a.steps < 0 || a.lost {
			return
		}
		switch s.Op {
		case code.Return:
			a.value(s.Value, e, fn, typeOfResult(fn), nil, perhaps)
		case code.Let:
			if p, ok := a.place(s.Value, e); ok && s.Type == nil {
				p.optional = p.optional || perhaps
				e.names[s.Name] = p
				continue
			}
			if v := s.Value; v != nil && v.Op == code.Choice && len(v.Body) == 0 && len(v.Args) == 2 && s.Type == nil { // a default
				if p, ok := a.place(v.Args[0], e); ok {
					p.optional, p.through = true, nil
					e.names[s.Name] = p
					a.value(v.Args[1], e, fn, nil, nil, perhaps)
					continue
				}
			}
			e.names[s.Name] = place{}
			a.value(s.Value, e, fn, s.Type, nil, perhaps)
		case code.Assign:
			a.value(s.Value, e, fn, nil, nil, perhaps)
		case code.Block:
			a.value(s.Value, e, fn, nil, nil, true)
			a.body(s.Body, e.inner(), fn, perhaps || s.Kind != code.Plain && s.Kind != code.For && s.Kind != code.Try)
		default:
			a.value(s.Value, e, fn, nil, nil, perhaps || s.Kind == code.Throw)
		}
	}
}

// typeOfResult is what a function says that it returns, without the promise of it.
func typeOfResult(fn *code.Func) *model.Type {
	t := fn.Returns
	for t != nil && t.Unwrapped().Kind == model.Named && t.Unwrapped().Model == nil && len(t.Unwrapped().Args) == 1 {
		t = t.Unwrapped().Args[0]
	}
	return t
}

// place is the part that an expression stands for.
func (a *askingFor) place(x *code.Expr, e *askedIn) (place, bool) {
	if x == nil {
		return place{}, false
	}
	switch x.Op {
	case code.Name:
		return e.find(x.Text)
	case code.Member:
		if len(x.Args) != 1 {
			break
		}
		of, ok := a.place(x.Args[0], e)
		if !ok || x.Text == "length" {
			break
		}
		k := of.part.key(x.Text, x.Pos)
		out := place{part: k.part, key: k, optional: of.optional, through: of.through}
		switch {
		case slices.Contains(x.Args[0].Does.All(), code.Chained):
			out.optional, out.through = true, nil
		case of.key != nil:
			out.through = append(slices.Clip(of.through), of.key)
		}
		return out, true
	case code.Index:
		of, ok := a.place(x.Args[0], e)
		if !ok || len(x.Args) > 2 || len(x.Args) == 2 && x.Args[1].Op != code.Number {
			break
		}
		if of.part.item == nil {
			of.part.item = &asked{}
		}
		out := place{part: of.part.item, optional: of.optional || len(x.Args) == 2, through: of.through}
		if of.key != nil {
			out.through = append(slices.Clip(of.through), of.key)
		}
		return out, true
	case code.Choice:
		if len(x.Args) == 2 && len(x.Body) == 0 && isNothing(x.Args[1]) { // json.ports ?? []
			of, ok := a.place(x.Args[0], e)
			of.optional = true
			return of, ok
		}
	}
	return place{}, false
}

// isNothing says whether a value takes the place of what is not there: [], {}, null, a literal.
func isNothing(x *code.Expr) bool {
	switch x.Op {
	case code.List, code.Dict:
		return len(x.Args) == 0
	}
	return false
}

// note says of a place what it is given to.
func (a *askingFor) note(p place, want *types.Type, prop *code.Prop, perhaps bool) {
	if !perhaps && !p.optional {
		for _, k := range p.through {
			k.optional = false
		}
	}
	k := p.key
	if k == nil {
		if want != nil && p.part.whole == nil {
			p.part.whole = want
		}
		return
	}
	if !perhaps && !p.optional && (prop == nil || !prop.Optional) {
		k.optional = false
	}
	if k.typ == nil || k.typ.Kind == types.Any {
		k.typ = want
	}
	if k.prop == nil {
		k.prop = prop
	}
}

func (a *askingFor) value(x *code.Expr, e *askedIn, fn *code.Func, want *model.Type, prop *code.Prop, perhaps bool) {
	if a.steps--; x == nil || a.steps < 0 || a.lost {
		return
	}
	if p, ok := a.place(x, e); ok {
		a.note(p, typeFor(want), prop, perhaps)
		return
	}
	each := func(all []*code.Expr, want *model.Type, perhaps bool) {
		for _, arg := range all {
			a.value(arg, e, fn, want, nil, perhaps)
		}
	}
	switch x.Op {
	case code.As:
		t := x.Type
		if t == nil || untyped(t) {
			t = want
		}
		each(x.Args, t, perhaps)
	case code.Choice:
		if len(x.Body) == 0 && len(x.Args) == 2 { // ?? and ||
			a.value(x.Args[0], e, fn, want, prop, true)
			a.value(x.Args[1], e, fn, want, nil, perhaps)
			return
		}
		for i := range x.Body {
			a.value(x.Body[i].Value, e, fn, nil, nil, true)
		}
		for _, arg := range x.Args {
			a.value(arg, e, fn, want, prop, true)
		}
	case code.Set:
		target := x.Args[0]
		var t *model.Type
		var given *code.Prop
		if target.Op == code.Member && len(target.Args) == 1 && target.Args[0].Op == code.Name && target.Args[0].Text == "this" {
			given, t = a.property(fn, target.Text)
		} else if p, ok := a.place(target, e); ok { // what was read is changed
			_ = p
			a.lost = true
			return
		}
		a.value(x.Args[1], e, fn, t, given, perhaps || x.Text == "??=" || x.Text == "||=")
	case code.Dict:
		a.literal(x, e, fn, want, perhaps)
	case code.List:
		var of *model.Type
		if want != nil && want.Unwrapped().Kind == model.List {
			of = want.Unwrapped().Args[0]
		}
		each(x.Args, of, perhaps)
	case code.Binary:
		each(x.Args, nil, perhaps || x.Text == "&&" || x.Text == "===" || x.Text == "!==" || x.Text == "==" || x.Text == "!=" || x.Text == "in" || x.Text == "instanceof")
	case code.Unary:
		each(x.Args, nil, perhaps || x.Text == "!" || x.Text == "typeof")
	case code.Plus, code.Text:
		each(x.Args, nil, perhaps)
	case code.Call:
		a.call(x, e, fn, want, prop, perhaps)
	case code.Lambda:
		a.body(x.Body, e.inner(), fn, true)
	case code.Member, code.Index, code.Spread, code.Other:
		before := a.lost
		for _, arg := range x.Args {
			if _, ok := a.place(arg, e); ok && (x.Op != code.Member || x.Text != "length") {
				a.lost = true
				return
			}
			a.value(arg, e, fn, nil, nil, perhaps)
		}
		a.lost = a.lost || before
	}
}

// typeFor is a type as what is given to it must fit.
func typeFor(t *model.Type) *types.Type {
	switch {
	case t == nil:
		return nil
	case t.Kind == model.Named && t.Model == nil && len(t.Args) == 0 && builtIns[t.Name]:
		return &types.Type{Kind: types.BuiltIn, Text: t.Name, Written: t.Name}
	}
	return types.Of(t)
}

// property is one of the class of a function, with its type.
func (a *askingFor) property(fn *code.Func, name string) (*code.Prop, *model.Type) {
	if fn.Class == nil {
		return nil, nil
	}
	for _, p := range fn.Class.Props {
		if p.Name == name {
			return p, typeOfProp(p)
		}
	}
	return nil, nil
}

// typeOfProp is the type of a property, of what it is given at first where none is written.
func typeOfProp(p *code.Prop) *model.Type {
	if p.Type != nil || p.Value == nil {
		return p.Type
	}
	name := ""
	switch v := p.Value; {
	case v.Op == code.Number:
		name = "number"
	case v.Op == code.Text:
		name = "string"
	case v.Op == code.Name && (v.Text == "true" || v.Text == "false"):
		name = "boolean"
	default:
		return nil
	}
	return &model.Type{Kind: model.Named, Name: name, Linked: true}
}

// literal is an object that is made, of a type whose members say what they are given.
func (a *askingFor) literal(x *code.Expr, e *askedIn, fn *code.Func, want *model.Type, perhaps bool) {
	var of *types.Type
	if want != nil {
		if t := types.Of(want); t.Kind == types.Object {
			of = t
		}
	}
	for i := 0; i+1 < len(x.Args); i += 2 {
		key, v := x.Args[i], x.Args[i+1]
		if v.Op == code.Spread {
			if len(v.Args) == 1 {
				if p, ok := a.place(v.Args[0], e); ok {
					a.note(p, of, nil, perhaps)
					continue
				}
				a.value(v.Args[0], e, fn, nil, nil, perhaps)
			}
			continue
		}
		var member *types.Prop
		if of != nil && key.Op == code.Text {
			member = of.Members().Prop(key.Text)
		}
		if p, ok := a.place(v, e); ok {
			var t *types.Type
			var prop *code.Prop
			if member != nil {
				if t = member.Type(); member.Optional {
					t = types.UnionOf(t, types.UndefinedType)
				}
				prop = &code.Prop{Name: member.Name, Pos: key.Pos}
			}
			a.note(p, t, prop, perhaps || member != nil && member.Optional)
			continue
		}
		var t *model.Type
		if member != nil {
			t = &model.Type{Kind: model.Opaque, Name: member.Type().String(), Exact: &types.Late{Of: func([]*types.Type) *types.Type { return member.Type() }}}
		}
		a.value(v, e, fn, t, &code.Prop{Name: key.Text, Pos: key.Pos}, perhaps)
	}
}
