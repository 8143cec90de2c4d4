package run

import (
	"vetta/internal/code"
	"vetta/internal/model"
)

type codePos = model.Pos

// gathered is what the elements of a literal come to.
type gathered struct {
	keys, vals []Value
	some       *Value // what more there may be
	someKey    *Value
	elem       *Type
	key        *Type
	none       bool // nothing was met yet
}

func (g *gathered) add(m *Machine, k, v Value, key, elem *Type) {
	if g.none {
		g.elem, g.key, g.none = elem, key, false
	} else {
		g.elem, g.key = m.lub(g.elem, elem), m.lub(g.key, key)
	}
	g.keys, g.vals = append(g.keys, k), append(g.vals, v)
}

// open adds what may be among the elements, any number of times.
func (g *gathered) open(m *Machine, k, v Value, key, elem *Type) {
	g.add(m, k, v, key, elem)
	g.keys, g.vals = g.keys[:len(g.keys)-1], g.vals[:len(g.vals)-1]
	if g.some == nil {
		g.some, g.someKey = &v, &k
		return
	}
	merged := m.merged(nil, *g.some, v)
	g.some = &merged
}

func (m *Machine) listLiteral(x *code.Expr, f *frame, e *env, ctx *Type) (Value, error) {
	kind, elem, told := "List", (*Type)(nil), false
	if x.Text == "{" {
		kind = "Set"
	}
	switch {
	case len(x.Types) == 1:
		elem, told = m.resolve(x.Types[0], f.unit, f.by), true
	case ctx.is("List", "Iterable", "Set"):
		elem, told = ctx.arg(0), true
	}
	g := gathered{none: true}
	for _, a := range x.Args {
		if err := m.gather(a, f, e, &g, nil, elem, false); err != nil {
			return Value{}, err
		}
	}
	if !told {
		elem = g.elem
	}
	for i := range g.vals {
		v, err := m.coerce(g.vals[i], elem, f, false)
		if err != nil {
			return v, err
		}
		g.vals[i] = v
	}
	l := &List{Elem: elem, Kind: kind, Items: g.vals, Fixed: x.Const}
	if kind == "Set" {
		l.Items = nil
		for _, v := range g.vals {
			if err := m.addOnce(l, v); err != nil {
				return v, err
			}
		}
	}
	if g.some != nil {
		l.Some = g.some
		if len(l.Items) > 0 {
			merged := m.merged(nil, append(l.Items, *g.some)...)
			l.Some, l.Items = &merged, nil
		}
	}
	v := Value{Kind: Lists, Ref: l, Static: &Type{Name: kind, Args: []*Type{elem}}}
	return v, nil
}

func (m *Machine) mapLiteral(x *code.Expr, f *frame, e *env, ctx *Type) (Value, error) {
	if len(x.Args) == 0 && len(x.Types) == 0 && ctx.is("Set", "Iterable") {
		return Value{Kind: Lists, Ref: &List{Elem: ctx.arg(0), Kind: "Set", Fixed: x.Const}, Static: setOf(ctx.arg(0))}, nil
	}
	var key, val *Type
	told := false
	switch {
	case len(x.Types) == 2:
		key, val, told = m.resolve(x.Types[0], f.unit, f.by), m.resolve(x.Types[1], f.unit, f.by), true
	case ctx.is("Map"):
		key, val, told = ctx.arg(0), ctx.arg(1), true
	}
	g := gathered{none: true}
	for i := 0; i+1 < len(x.Args); i += 2 {
		a := x.Args[i]
		if x.Args[i+1] != nil {
			a = &code.Expr{Op: code.Entry, Args: x.Args[i : i+2], Pos: a.Pos}
		}
		if err := m.gather(a, f, e, &g, key, val, true); err != nil {
			return Value{}, err
		}
	}
	if !told {
		key, val = g.key, g.elem
	}
	d, v := newMap(key, val)
	d.Fixed = x.Const
	for i := range g.vals {
		k, err := m.coerce(g.keys[i], key, f, false)
		if err != nil {
			return k, err
		}
		of, err := m.coerce(g.vals[i], val, f, false)
		if err != nil {
			return of, err
		}
		if k.isUnknown() || k.keyText() == "" && k.Kind != Null {
			g.open(m, k, of, key, val)
			continue
		}
		d.put(k, of)
	}
	d.Some, d.Names = g.some, g.someKey
	return v, nil
}

// gather adds what one element of a literal yields.
func (m *Machine) gather(a *code.Expr, f *frame, e *env, g *gathered, key, val *Type, isMap bool) error {
	switch a.Op {
	case code.Gather:
		return m.gatherBody(a.Body, f, e, g, key, val, isMap)
	case code.Entry:
		k, err := m.expr(a.Args[0], f, e, key)
		if err != nil {
			return err
		}
		v, err := m.expr(a.Args[1], f, e, val)
		if err != nil {
			return err
		}
		g.add(m, k, v, k.Static, v.Static)
		return nil
	case code.Spread:
		return m.spread(a, f, e, g, val, isMap)
	}
	v, err := m.expr(a, f, e, val)
	if err != nil {
		return err
	}
	g.add(m, Value{}, v, nil, v.Static)
	return nil
}

// spread adds the elements of a value.
func (m *Machine) spread(a *code.Expr, f *frame, e *env, g *gathered, val *Type, isMap bool) error {
	plain := *a.Args[0]
	v, err := m.expr(&plain, f, e, nil)
	if err != nil {
		return err
	}
	if len(a.Does.All()) > 0 && v.IsNull() {
		return nil
	}
	if a.Text == "one" {
		g.add(m, Value{}, v, nil, v.Static.solid())
		return nil
	}
	if isMap {
		if v.Kind == Maps {
			d := v.dict()
			for i := range d.Keys {
				g.add(m, d.Keys[i], d.Vals[i], d.Key, d.Val)
			}
			if d.Some != nil {
				g.open(m, *d.Names, *d.Some, d.Key, d.Val)
			} else if d.Rest != nil && len(d.Keys) == 0 {
				g.open(m, Value{Kind: Unknown, Static: stringType}, Value{Kind: Unknown, At: d.Rest.sub(Any, "", 0)}, d.Key, d.Val)
			}
			if g.none {
				g.key, g.elem, g.none = v.Static.arg(0), v.Static.arg(1), false
			}
			return nil
		}
		if v.isUnknown() {
			k, of := m.entryOf(v)
			g.open(m, k, of, v.Static.arg(0), v.Static.arg(1))
			return nil
		}
		want := mapOf(nil, nil)
		if len(a.Does.All()) > 0 {
			want = want.nullable()
		}
		return m.typeError(v, want, false, false)
	}
	if v.Kind != Lists && !v.isUnknown() {
		want := iterOf(nil)
		if len(a.Does.All()) > 0 {
			want = want.nullable()
		}
		return m.typeError(v, want, false, false)
	}
	items, some, err := m.elements(v, a.Pos)
	if err != nil {
		return err
	}
	elem := v.Static.arg(0)
	for _, v := range items {
		g.add(m, Value{}, v, nil, elem)
	}
	if some != nil {
		g.open(m, Value{}, *some, nil, elem)
	}
	if g.none {
		g.elem, g.none = elem, false
	}
	return nil
}

// gatherBody adds what a loop or a branch among the elements yields.
func (m *Machine) gatherBody(body []code.Stmt, f *frame, e *env, g *gathered, key, val *Type, isMap bool) error {
	for i := 0; i < len(body); i++ {
		s := &body[i]
		switch {
		case s.Op == code.Do && s.Name == "element":
			if err := m.gather(s.Value, f, e, g, key, val, isMap); err != nil {
				return err
			}
		case s.Kind == code.If:
			n := 1
			for i+n < len(body) && goesOn(body[i+n].Kind) {
				n++
			}
			if err := m.gatherIf(body[i:i+n], f, e, g, key, val, isMap); err != nil {
				return err
			}
			i += n - 1
		case s.Kind == code.For:
			if err := m.gatherFor(s, f, e, g, key, val, isMap); err != nil {
				return err
			}
		default:
			return unfollowed("an element", at(s))
		}
	}
	return nil
}

func (m *Machine) gatherIf(all []code.Stmt, f *frame, e *env, g *gathered, key, val *Type, isMap bool) error {
	head, body := heads(&all[0])
	if len(head) != 1 {
		return unfollowed("an element", at(&all[0]))
	}
	in := inside(e)
	c, err := m.condition(head[0].Value, f, in)
	if err != nil {
		return err
	}
	yes, known, err := m.truth(c)
	switch {
	case err != nil:
		return err
	case !known:
		for _, b := range [][]code.Stmt{body, elseOf(all)} {
			own := gathered{none: true}
			if err := m.fork(f, c.places(), func() error { return m.gatherBody(b, f, in, &own, key, val, isMap) }, func() error { return nil }); err != nil {
				return err
			}
			for i := range own.vals {
				g.open(m, own.keys[i], own.vals[i], own.key, own.elem)
			}
			if own.some != nil {
				g.open(m, *own.someKey, *own.some, own.key, own.elem)
			}
		}
		return nil
	case yes:
		return m.gatherBody(body, f, in, g, key, val, isMap)
	}
	return m.gatherBody(elseOf(all), f, in, g, key, val, isMap)
}

func elseOf(all []code.Stmt) []code.Stmt {
	if len(all) > 1 {
		return all[1].Body
	}
	return nil
}

func (m *Machine) gatherFor(s *code.Stmt, f *frame, e *env, g *gathered, key, val *Type, isMap bool) error {
	head, body := heads(s)
	if len(head) == 3 {
		return m.countingGather(s, head, body, f, e, g, key, val, isMap)
	}
	if len(head) != 2 {
		return unfollowed("a loop", at(s))
	}
	over, err := m.expr(head[1].Value, f, e, nil)
	if err != nil {
		return err
	}
	if over.Kind != Lists && !over.isUnknown() {
		return m.typeError(over, iterOf(nil), false, false)
	}
	items, some, err := m.elements(over, head[1].Value.Pos)
	if err != nil {
		return err
	}
	once := func(v Value, g *gathered) error {
		in := inside(e)
		if head[0].Name == "" {
			if _, _, err := m.match(v, head[0].Value, f, in); err != nil {
				return err
			}
		} else {
			c := &cell{v: v, t: v.Static, depth: m.forks}
			if head[0].Type != nil {
				c.t = m.resolve(head[0].Type, f.unit, f.by)
				var err error
				if c.v, err = m.coerce(v, c.t, f, false); err != nil {
					return err
				}
			}
			in.set(head[0].Name, c)
		}
		return m.gatherBody(body, f, in, g, key, val, isMap)
	}
	if some == nil && len(items) == 0 { // what it would have
		one := unknown(over.Static.arg(0))
		some = &one
		own := gathered{none: true}
		m.quietly(func() { _ = once(one, &own) })
		if g.none && !own.none {
			g.elem, g.key, g.none = own.elem, own.key, false
		}
		return nil
	}
	for _, v := range items {
		if err := once(v, g); err != nil {
			return err
		}
	}
	if some != nil {
		own := gathered{none: true}
		if err := m.fork(f, nil, func() error { return once(*some, &own) }, func() error { return nil }); err != nil {
			return err
		}
		for i := range own.vals {
			g.open(m, own.keys[i], own.vals[i], own.key, own.elem)
		}
		if own.some != nil {
			g.open(m, *own.someKey, *own.some, own.key, own.elem)
		}
	}
	return nil
}

// countingGather adds what a loop that counts yields.
func (m *Machine) countingGather(s *code.Stmt, head, body []code.Stmt, f *frame, e *env, g *gathered, key, val *Type, isMap bool) error {
	in := inside(e)
	if err := m.block(head[0].Body, f, in); err != nil {
		return err
	}
	for {
		v, err := m.expr(head[1].Value, f, in, boolType)
		if err != nil {
			return err
		}
		yes, known, err := m.truth(v)
		if err != nil {
			return err
		}
		if !known {
			m.blur(in)
			own := gathered{none: true}
			if err := m.fork(f, v.places(), func() error { return m.gatherBody(body, f, in, &own, key, val, isMap) }, func() error { return nil }); err != nil {
				return err
			}
			for i := range own.vals {
				g.open(m, own.keys[i], own.vals[i], own.key, own.elem)
			}
			return nil
		}
		if !yes {
			return nil
		}
		if err := m.gatherBody(body, f, in, g, key, val, isMap); err != nil {
			return err
		}
		for i := range head[2].Body {
			if _, err := m.expr(head[2].Body[i].Value, f, in, nil); err != nil {
				return err
			}
		}
		if err := m.step(1, at(s)); err != nil {
			return err
		}
	}
}

// quietly does something only to see of which types it is.
func (m *Machine) quietly(do func()) {
	outer, left := m.dry, m.left
	m.forks++
	m.conds = append(m.conds, nil)
	m.dry = m.forks
	m.left = min(left, 20000)
	used := m.left
	do()
	m.left = left - (used - m.left)
	m.dry = outer
	m.forks--
	m.conds = m.conds[:len(m.conds)-1]
}
