package sharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// reached is a member, a call or an element.
func (m *Machine) reached(x *code.Expr, f *frame, e *env, want *model.Type) (Value, error) {
	switch x.Op {
	case code.Member:
		return m.memberExpr(x, f, e)
	case code.Index:
		of, err := m.linked(x.Args[0], f, e)
		if err != nil {
			return of, err
		}
		if len(x.Args) != 2 {
			return of, unfollowed("an element", x.Pos)
		}
		if r := x.Args[1]; r.Op == code.Binary && r.Text == ".." {
			return m.ranged(of, r, f, e)
		}
		at, err := m.expr(x.Args[1], f, e, nil)
		if err != nil {
			return at, err
		}
		return m.element(of, at, x, f)
	}
	return m.callExpr(x, f, e, want)
}

func (m *Machine) memberExpr(x *code.Expr, f *frame, e *env) (Value, error) {
	if len(x.Args) != 1 {
		return Value{}, unfollowed("the name "+x.Text, x.Pos)
	}
	if of, static, err := m.receiver(x.Args[0], f, e); err != nil {
		return of, err
	} else if static {
		v, known, err := m.staticMember(of, x.Text, f)
		if known || err != nil {
			return v, err
		}
		if v, known, err = m.platformMember(of, x.Text, x); known || err != nil {
			return v, err
		}
		if t := m.typeCalled(x, f); t != nil {
			return *t, nil
		}
		return Value{}, unfollowed("the member "+x.Text, x.Pos)
	} else {
		v, known, err := m.memberOf(of, x.Text, x, f)
		if err == nil && !known {
			err = unfollowed("the member "+x.Text, x.Pos)
		}
		return v, err
	}
}

// receiver is what a member is asked of: a value, or a type where static is true.
func (m *Machine) receiver(x *code.Expr, f *frame, e *env) (of Value, static bool, err error) {
	if name := chain(x); name != "" {
		first, _, _ := strings.Cut(name, ".")
		if e.find(first) == nil && first != "this" && first != "base" {
			isMember := false
			if f.class != nil {
				if p, _ := m.propOf(f.class, first); p != nil {
					isMember = true
				}
				for d := f.class.Outer; d != nil && !isMember; d = d.Outer {
					p, _ := m.propOf(d, first)
					isMember = p != nil
				}
				isMember = isMember || paramOf(f.class, first) != nil
			}
			if isMember && first == name { // Colour Colour: a member of the name of its type
				if prop, _ := m.propOf(f.class, first); prop != nil && prop.Type != nil && model.SimpleName(prop.Type.Unwrapped().Name) == first && f.this == nil {
					isMember = false
				}
			}
			if !isMember {
				if t := m.typeCalled(x, f); t != nil && (t.Ref.(*typed).d != nil || platformClass(model.SimpleName(name)) || wordsOf[model.SimpleName(name)]) {
					return *t, true, nil
				}
			}
		}
	}
	if x.Op == code.Name && len(x.Types) > 0 {
		if t := m.typeCalled(x, f); t != nil {
			return *t, true, nil
		}
	}
	of, err = m.linked(x, f, e)
	return of, err == nil && of.Kind == Class && of.Ref.(*typed).d != nil, err
}

// memberOf is a property of a value, or a group of its methods.
func (m *Machine) memberOf(of Value, name string, x *code.Expr, f *frame) (Value, bool, error) {
	switch of.Kind {
	case Null, Default:
		if name == "HasValue" {
			return BoolOf(false), true, nil
		}
		if name == "Value" && x.Op == code.Member {
			return Value{}, false, m.throw("InvalidOperationException", "Nullable object must have a value.")
		}
		return Value{}, false, m.throw("NullReferenceException", "Object reference not set to an instance of an object.")
	case Instance:
		o := of.object()
		if prop, in := m.propOf(o.Class, name); prop != nil && !prop.Static {
			if fn := getter(prop); fn != nil {
				own := &frame{fn: fn, class: in, this: &of, types: m.typesIn(o, in)}
				e := inside(nil)
				if at := o.Fields[name]; at != nil {
					e.names["field"] = at
				}
				v, err := m.run(fn, own, e, nil)
				return v, true, err
			}
		}
		if at := o.Fields[name]; at != nil {
			if at.Kind == Unknown {
				return Value{}, true, unfollowed("the value of "+name, x.Pos)
			}
			return *at, true, nil
		}
		if at := o.Fields["$"+name]; at != nil {
			return *at, true, nil
		}
		if fn, in := m.methodOf(o.Class, name, -1); fn != nil && !fn.Static {
			return Value{Kind: Function, Ref: &closure{fn: fn, class: in, this: &of}}, true, nil
		}
		return Value{}, false, nil
	case Cell:
		return m.memberOf(*of.Ref.(*Value), name, x, f)
	case Tuple:
		l := of.list()
		for i, label := range strings.Split(of.Text, ",") {
			if label == name && i < len(l.items) {
				return l.items[i], true, nil
			}
		}
		if n, ok := strings.CutPrefix(name, "Item"); ok && len(n) == 1 && int(n[0]-'1') < len(l.items) {
			return l.items[n[0]-'1'], true, nil
		}
		return Value{}, false, nil
	case Host:
		if c, ok := of.Ref.(caller); ok {
			return c.call(m, name, nil, nil, x, f)
		}
		return Value{}, false, nil
	}
	return m.plainMember(of, name, x)
}
