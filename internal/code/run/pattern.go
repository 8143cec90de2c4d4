package run

import (
	"strings"

	"vetta/internal/code"
)

// match says whether a value is as a pattern says, and gives the names in it theirs; known is false where that
// cannot be told, and then the names have what they would have.
func (m *Machine) match(v Value, p *code.Expr, f *frame, e *env) (is, known bool, err error) {
	if err := m.step(1, p.Pos); err != nil {
		return false, false, err
	}
	for _, does := range p.Does.All() {
		if does != code.Chained && does != code.Forced {
			continue
		}
		if v.IsNull() {
			if does == code.Forced {
				return false, true, &Thrown{Class: "_TypeError", Message: "Null check operator used on a null value", At: v.At, Pos: p.Pos}
			}
			return false, true, nil
		}
		inner := *p
		inner.Does = 0
		is, known, err = m.match(v.as(v.Static.solid()), &inner, f, e)
		if v.isUnknown() && does == code.Chained {
			known = known && !is
		}
		return is, known, err
	}
	switch p.Op {
	case code.Bind:
		t := m.resolve(p.Type, f.unit, f.by)
		is, known = true, true
		if p.Type != nil {
			is, known = m.isOf(v, t, f.legacy())
			if is || !known {
				v.Static = t
			}
		}
		if p.Text != "" && (is || !known) {
			e.set(p.Text, &cell{v: v, t: v.Static, depth: m.forks})
		}
		return is || !known, known, nil
	case code.As:
		v, err := m.coerce(v, m.resolve(p.Type, f.unit, f.by), f, true)
		if err != nil {
			return false, true, err
		}
		return m.match(v, p.Args[0], f, e)
	case code.Binary:
		if len(p.Args) == 2 {
			switch p.Text {
			case "when":
				return m.both(v, p, f, e, func() (bool, bool, error) {
					c, err := m.condition(p.Args[1], f, e)
					if err != nil {
						return false, true, err
					}
					return m.truth(c)
				})
			case "&&":
				return m.both(v, p, f, e, func() (bool, bool, error) { return m.match(v, p.Args[1], f, e) })
			case "||":
				is, known, err := m.match(v, p.Args[0], f, e)
				if err != nil || is && known {
					return is, known, err
				}
				also, told, err := m.match(v, p.Args[1], f, e)
				return is || also, known && told || also && told, err
			}
		}
	case code.Unary:
		if len(p.Args) == 1 && p.Text != "-" {
			r, err := m.expr(p.Args[0], f, e, nil)
			if err != nil {
				return false, true, err
			}
			if _, number := v.number(); !number && !v.isUnknown() && p.Text != "==" && p.Text != "!=" {
				return false, true, nil
			}
			c, err := m.operator(p.Text, v, r, p, f)
			if err != nil {
				return false, true, err
			}
			return m.truth(c)
		}
	case code.List:
		return m.matchList(v, p, f, e)
	case code.Dict:
		return m.matchMap(v, p, f, e)
	case code.Record:
		return m.matchRecord(v, p, f, e)
	}
	c, err := m.expr(p, f, e, v.Static) // a constant
	if err != nil {
		return false, true, err
	}
	return m.equal(c, v, p.Pos)
}

// both matches the first of two parts of a pattern, and asks for the second one where it fits.
func (m *Machine) both(v Value, p *code.Expr, f *frame, e *env, second func() (bool, bool, error)) (is, known bool, err error) {
	is, known, err = m.match(v, p.Args[0], f, e)
	if err != nil || !is {
		return is, known, err
	}
	also, told, err := second()
	if err != nil {
		return false, true, err
	}
	if told && !also {
		return false, true, nil
	}
	return true, known && told, nil
}

func (m *Machine) matchList(v Value, p *code.Expr, f *frame, e *env) (is, known bool, err error) {
	at, rest := 0, -1
	for i, a := range p.Args {
		if a.Op == code.Spread {
			rest = i
		} else {
			at++
		}
	}
	if v.isUnknown() {
		if v.Static != nil && !v.Static.is("List", "Object", "Iterable") {
			return false, true, nil
		}
		for i, a := range p.Args {
			if a.Op == code.Spread {
				if len(a.Args) == 1 {
					if _, _, err := m.match(unknown(untypedList, v), a.Args[0], f, e); err != nil {
						return false, true, err
					}
				}
				continue
			}
			el := unknown(v.Static.arg(0), v)
			if v.At != nil {
				el.At = v.At.sub(Elem, "", i)
			}
			if _, _, err := m.match(el, a, f, e); err != nil {
				return false, true, err
			}
		}
		return true, false, nil
	}
	l := v.list()
	if l == nil || l.Kind != "List" {
		return false, true, nil
	}
	items, some, err := m.elements(v, p.Pos)
	if err != nil {
		return false, true, err
	}
	if some != nil {
		return m.matchList(unknown(v.Static, v), p, f, e)
	}
	if rest < 0 && len(items) != at || len(items) < at {
		return false, true, nil
	}
	known = true
	for i, a := range p.Args {
		j := i
		if rest >= 0 && i > rest {
			j = len(items) - (len(p.Args) - i)
		}
		var of Value
		if i == rest {
			if len(a.Args) == 0 {
				continue
			}
			of, a = newList(l.Elem, items[i:len(items)-(len(p.Args)-i-1)]), a.Args[0]
		} else {
			of = items[j]
		}
		fits, told, err := m.match(of, a, f, e)
		if err != nil || !fits && told {
			return false, true, err
		}
		known = known && told
	}
	return true, known, nil
}

func (m *Machine) matchMap(v Value, p *code.Expr, f *frame, e *env) (is, known bool, err error) {
	if v.Kind != Maps && !v.isUnknown() || v.isUnknown() && v.Static != nil && !v.Static.is("Map", "Object") {
		return false, true, nil
	}
	known = !v.isUnknown()
	for i := 0; i+1 < len(p.Args); i += 2 {
		key, err := m.expr(p.Args[i], f, e, nil)
		if err != nil {
			return false, true, err
		}
		has, told := m.hasKey(v, key)
		if told && !has {
			return false, true, nil
		}
		of, err := m.element(v, key, p.Pos)
		if err != nil {
			return false, true, err
		}
		if v.isUnknown() && v.At == nil {
			of = unknown(nil, v)
		}
		fits, sure, err := m.match(of, p.Args[i+1], f, e)
		if err != nil || !fits && sure {
			return false, true, err
		}
		known = known && told && sure
	}
	return true, known, nil
}

func (m *Machine) matchRecord(v Value, p *code.Expr, f *frame, e *env) (is, known bool, err error) {
	known = true
	if p.Type != nil {
		t := m.resolve(p.Type, f.unit, f.by)
		is, told := m.isOf(v, t, f.legacy())
		if told && !is {
			return false, true, nil
		}
		known = told
		v.Static = t
	} else if v.Kind != Recs {
		return false, !v.isUnknown(), nil
	}
	for i, a := range p.Args {
		var of Value
		if p.Type == nil {
			r := v.Ref.(*Rec)
			found := -1
			for j, n := range r.Names {
				if p.Labels[i] == n && (n != "" || j == i) {
					found = j
				}
			}
			if found < 0 {
				return false, true, nil
			}
			of = r.Vals[found]
		} else {
			if of, err = m.get(v, p.Labels[i], f, p); err != nil {
				return false, true, err
			}
		}
		fits, told, err := m.match(of, a, f, e)
		if err != nil || !fits && told {
			return false, true, err
		}
		known = known && told
	}
	return true, known, nil
}

// equal is a == b.
func (m *Machine) equal(a, b Value, pos codePos) (is, known bool, err error) {
	if a.isUnknown() || b.isUnknown() {
		for _, pair := range [][2]Value{{a, b}, {b, a}} { // null is no value of a type that has none
			if pair[0].IsNull() && pair[1].Static != nil && !pair[1].Static.Null && pair[1].Out == nil {
				return false, true, nil
			}
		}
		return false, false, nil
	}
	x, xn := a.number()
	y, yn := b.number()
	switch {
	case a.Kind == Int && b.Kind == Int:
		return a.N == b.N, true, nil
	case xn && yn:
		return x == y, true, nil
	case a.Kind != b.Kind:
		return false, true, nil
	}
	switch a.Kind {
	case Null:
		return true, true, nil
	case Bool:
		return a.N == b.N, true, nil
	case String:
		return a.S == b.S, true, nil
	case Obj:
		o, other := a.object(), b.object()
		if o == other || o.Enum != "" && o.Type.Class == other.Type.Class && o.Enum == other.Enum {
			return true, true, nil
		}
		if fn, of := m.find(o.Type, "==", method, 0); fn != nil {
			v, err := m.invoke(fn, &a, of, nil, Args{List: []Value{b}}, nil)
			if err != nil {
				return false, true, err
			}
			return m.truth(v)
		}
		return false, true, nil // another instance
	case Hosts:
		return equalHosts(a.Ref.(Host), b.Ref.(Host))
	case Class:
		return a.Ref.(*Type).String() == b.Ref.(*Type).String(), true, nil
	case Recs:
		x, y := a.Ref.(*Rec), b.Ref.(*Rec)
		if len(x.Vals) != len(y.Vals) || strings.Join(x.Names, ",") != strings.Join(y.Names, ",") {
			return false, true, nil
		}
		for i := range x.Vals {
			if is, known, err := m.equal(x.Vals[i], y.Vals[i], pos); !is || !known || err != nil {
				return is, known, err
			}
		}
		return true, true, nil
	}
	return a.Ref == b.Ref, true, nil
}
