package sharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// set gives something a value.
func (m *Machine) set(x *code.Expr, f *frame, e *env) (Value, error) {
	op := x.Text
	post := strings.HasPrefix(op, "post")
	op = strings.TrimPrefix(op, "post")
	switch op {
	case "=":
		return m.assign(x.Args[0], x.Args[1], f, e)
	case "??=":
		v, err := m.expr(x.Args[0], f, e, nil)
		if err != nil || !v.IsNull() {
			return v, err
		}
		return m.assign(x.Args[0], x.Args[1], f, e)
	}
	if target := x.Args[0]; op == "+=" && target.Op == code.Member && len(target.Args) == 1 { // an event
		of, err := m.expr(target.Args[0], f, e, nil)
		if h, ok := of.Ref.(interface {
			subscribe(name string, fn Value) bool
		}); ok && err == nil {
			fn, err := m.expr(x.Args[1], f, e, nil)
			if err == nil && !h.subscribe(target.Text, fn) {
				err = unfollowed("the event "+target.Text, x.Pos)
			}
			return Value{}, err
		}
	}
	before, err := m.expr(x.Args[0], f, e, nil)
	if err != nil {
		return before, err
	}
	by, err := m.expr(x.Args[1], f, e, nil)
	if err != nil {
		return by, err
	}
	op = strings.TrimSuffix(op, "=")
	if op == "++" || op == "--" {
		op = op[:1]
	}
	after, err := m.operate(op, before, by, x)
	if err != nil {
		return after, err
	}
	if _, err := m.give(x.Args[0], after, f, e); err != nil {
		return after, err
	}
	if post {
		return before, nil
	}
	return after, nil
}

func (m *Machine) assign(target, value *code.Expr, f *frame, e *env) (Value, error) {
	if target.Op == code.Record { // (a, b) = (c, d)
		v, err := m.expr(value, f, e, nil)
		if err != nil {
			return v, err
		}
		l := v.list()
		if v.Kind != Tuple || len(l.items) != len(target.Args) {
			_, err := m.apart(target, v, f, e)
			return v, err
		}
		for i, t := range target.Args {
			if t.Op == code.Bind {
				own := l.items[i]
				e.names[t.Text] = &own
				continue
			}
			if _, err := m.give(t, l.items[i], f, e); err != nil {
				return v, err
			}
		}
		return v, nil
	}
	v, err := m.expr(value, f, e, m.typeOfTarget(target, f, e))
	if err != nil {
		return v, err
	}
	return m.give(target, v, f, e)
}

// typeOfTarget is the declared type of what is given a value, nil where that is not told.
func (m *Machine) typeOfTarget(target *code.Expr, f *frame, e *env) *model.Type {
	name := ""
	switch {
	case target.Op == code.Name && e.find(target.Text) == nil:
		name = target.Text
	case target.Op == code.Member && len(target.Args) == 1 && target.Args[0].Op == code.Name && target.Args[0].Text == "this":
		name = target.Text
	}
	if name == "" || f.class == nil {
		return nil
	}
	prop, of := m.propOf(f.class, name)
	if prop == nil {
		return nil
	}
	return m.typ(prop.Type, &frame{class: of, types: f.types})
}

// give puts a value where an expression says.
func (m *Machine) give(target *code.Expr, v Value, f *frame, e *env) (Value, error) {
	switch target.Op {
	case code.Name:
		if target.Text == "_" {
			return v, nil
		}
		if at := e.find(target.Text); at != nil {
			*at = v
			return v, nil
		}
		if f.this != nil && f.this.object() != nil {
			if known, err := m.setMember(f.this, target.Text, v, f); known || err != nil {
				return v, err
			}
		}
		for d := f.class; d != nil; d = d.Outer {
			if at := m.staticOf(d, target.Text); at != nil {
				*at = v
				return v, nil
			}
		}
	case code.Member:
		if len(target.Args) != 1 {
			break
		}
		of, err := m.expr(target.Args[0], f, e, nil)
		if err != nil {
			return v, err
		}
		if of.Kind == Class && of.Ref.(*typed).d != nil {
			if at := m.staticOf(of.Ref.(*typed).d, target.Text); at != nil {
				*at = v
				return v, nil
			}
		}
		if known, err := m.setMember(&of, target.Text, v, f); known || err != nil {
			return v, err
		}
	case code.Index:
		of, err := m.expr(target.Args[0], f, e, nil)
		if err != nil || len(target.Args) != 2 {
			return v, err
		}
		k, err := m.expr(target.Args[1], f, e, nil)
		if err != nil {
			return v, err
		}
		switch {
		case of.Kind == Entries:
			en := of.entries()
			if i := en.find(k); i >= 0 {
				en.vals[i] = v
			} else {
				en.keys, en.vals = append(en.keys, k), append(en.vals, v)
			}
			return v, nil
		case of.Kind == Items && k.Kind == Int && int(k.Int) < len(of.list().items) && k.Int >= 0:
			of.list().items[k.Int] = v
			return v, nil
		}
	}
	if target.Op == code.Name { // a variable whose declaration, in a condition, was not come to
		e.names[target.Text] = &v
		return v, nil
	}
	return v, unfollowed("what is given a value", target.Pos)
}

// filled is an object that is made, with what its members are given and what is added to it.
func (m *Machine) filled(x *code.Expr, f *frame, outer *env, want *model.Type) (Value, error) {
	v, err := m.expr(x.Args[0], f, outer, want)
	if err != nil {
		return v, err
	}
	if x.Text == "with" {
		o := v.object()
		if o == nil {
			return v, unfollowed("a copy", x.Pos)
		}
		c := &Object{Class: o.Class, Type: o.Type, Order: o.Order, Fields: map[string]*Value{}}
		for name, fv := range o.Fields {
			own := *fv
			c.Fields[name] = &own
		}
		v.Ref = c
	}
	e := inside(outer)
	e.names["$it"] = &v
	if _, ok := v.Ref.(*opaque); ok && v.Kind == Host {
		return v, nil
	}
	for _, section := range x.Args[1:] {
		if section.Op == code.Cascade {
			if _, err := m.filled(section, f, e, nil); err != nil {
				return v, err
			}
			continue
		}
		if section.Op == code.Set && section.Args[0].Op == code.Member {
			var t *model.Type
			if o := v.object(); o != nil {
				if prop, of := m.propOf(o.Class, section.Args[0].Text); prop != nil {
					t = m.typ(prop.Type, &frame{class: of, types: m.typesIn(o, of)})
				} else if p := paramOf(o.Class, section.Args[0].Text); p != nil {
					t = m.typ(p.Type, &frame{class: o.Class, types: typesOf(o)})
				}
			}
			if s, ok := v.Ref.(*serializer); ok && v.Kind == Host { // what it is set to is read with it
				s.options = x
				continue
			}
			given, err := m.expr(section.Args[1], f, e, t)
			if err != nil {
				return v, err
			}
			if given, err = m.convert(given, t, f, false); err != nil {
				return v, err
			}
			if known, err := m.setMember(&v, section.Args[0].Text, given, f); err != nil {
				return v, err
			} else if !known {
				return v, unfollowed("the member "+section.Args[0].Text, x.Pos)
			}
			continue
		}
		if _, err := m.expr(section, f, e, nil); err != nil {
			return v, err
		}
	}
	return v, nil
}
