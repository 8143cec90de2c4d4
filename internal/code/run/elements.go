package run

import (
	"fmt"
	"strings"

	"vetta/internal/code"
)

// elements are those of what a loop goes over. Of one whose number is not known, some is what they are like.
func (m *Machine) elements(v Value, pos codePos) (items []Value, some *Value, err error) {
	elem := v.Static.arg(0)
	switch v.Kind {
	case Lists:
		l := v.list()
		items = l.Items
		if l.Lazy != nil {
			if items, err = l.Lazy(); err != nil {
				return nil, nil, err
			}
		}
		if l.Cast != nil {
			items = append([]Value{}, items...)
			for i := range items {
				if items[i], err = m.coerce(items[i], l.Cast, &frame{}, true); err != nil {
					return nil, nil, err
				}
			}
		}
		if err := m.step(len(items)/4, pos); err != nil {
			return nil, nil, err
		}
		if len(items) > 0 {
			items = append([]Value{}, items...)
			for i := range items {
				items[i].Static = elem
			}
		}
		if l.Some != nil {
			one := *l.Some
			one.Static = elem
			if l.Cast != nil {
				one.Static = l.Cast
			}
			return items, &one, nil
		}
		return items, nil, nil
	case Unknown:
		if v.Out != nil && v.Out.Text && v.Out.Request != nil {
			if d, err := m.document(v, v.Static); err == nil && !d.isUnknown() {
				return m.elements(d, pos)
			} else if err == nil {
				v = d
			}
		}
		one := unknown(elem, v)
		if v.At != nil {
			one = Value{Kind: Unknown, Static: elem, At: v.At.sub(Each, "", 0), Fails: v.Fails}
		}
		return nil, &one, nil
	}
	return nil, nil, m.typeError(v, iterOf(nil), false, false)
}

// asList is an unknown value as the list that it is taken for.
func (m *Machine) asList(v Value) Value {
	_, some, err := m.elements(v, codePos{})
	if err != nil || some == nil {
		return v
	}
	kind := "List"
	if v.Static.is("Iterable", "Set") {
		kind = v.Static.Name
	}
	return Value{Kind: Lists, Ref: &List{Elem: v.Static.arg(0), Kind: kind, Some: some}, Static: v.Static, At: v.At, From: v.From}
}

// entryOf is what the members of an unknown map are like.
func (m *Machine) entryOf(v Value) (key, val Value) {
	key, val = unknown(stringType, v), unknown(v.Static.arg(1), v)
	if v.Static != nil && v.Static.arg(0) != nil {
		key.Static = v.Static.arg(0)
	}
	if v.At != nil {
		key = Value{Kind: Unknown, Static: key.Static, At: v.At.sub(Key, "", 0)}
		val = Value{Kind: Unknown, Static: val.Static, At: v.At.sub(Any, "", 0), Fails: v.Fails}
	}
	return key, val
}

// asMap is an unknown value as the map that it is taken for.
func (m *Machine) asMap(v Value) Value {
	if d := v.dict(); d != nil && d.Rest != nil && len(d.Keys) == 0 && d.Some == nil { // of which nothing is known
		v = Value{Kind: Unknown, Static: v.Static, At: d.Rest}
	}
	if !v.isUnknown() {
		return v
	}
	if v.Out != nil && v.Out.Text && v.Out.Request != nil {
		if d, err := m.document(v, jsonMap); err == nil {
			if !d.isUnknown() {
				return d
			}
			v = d
		}
	}
	k, val := m.entryOf(v)
	return Value{Kind: Maps, Ref: &Map{Key: k.Static, Val: val.Static, Some: &val, Names: &k}, Static: v.Static, At: v.At, From: v.From}
}

// hasKey says whether a map has a key; known is false where that is not told.
func (m *Machine) hasKey(v, key Value) (has, known bool) {
	d := v.dict()
	if v.Kind != Maps || key.isUnknown() {
		return false, false
	}
	at, told := d.find(key)
	switch {
	case at >= 0:
		return true, true
	case d.Some != nil:
		return false, false
	case d.Rest != nil:
		for _, gone := range d.Gone {
			if key.Kind == String && gone == key.S {
				return false, true
			}
		}
		return false, false
	}
	return false, told
}

// indexed is a[b].
func (m *Machine) indexed(x *code.Expr, f *frame, e *env) (Value, error) {
	if len(x.Args) != 2 {
		return Value{}, unfollowed("an index", x.Pos)
	}
	of, err := m.part(x.Args[0], f, e, nil)
	if err != nil {
		return of, err
	}
	var ctx *Type
	if of.Static.is("Map") {
		ctx = of.Static.arg(0)
	}
	key, err := m.expr(x.Args[1], f, e, ctx)
	if err != nil {
		return of, err
	}
	t := classOf(of)
	if t != nil && t.Class != nil {
		if fn, in := m.find(t, "[]", method, 0); fn != nil {
			return m.invoke(fn, &of, in, nil, Args{List: []Value{key}}, x)
		}
	}
	v, err := m.element(of, key, x.Pos)
	if err != nil {
		return v, placed(err, x)
	}
	if v.At != nil {
		m.last = v.At
	}
	return v, nil
}

// Last is the place that was read last: what is thrown without a place of its own is thrown for that.
func (m *Machine) Last() *Place { return m.last }

// element is the element of a list, or the value of a map, that a key tells.
func (m *Machine) element(of, key Value, pos codePos) (Value, error) {
	v, err := m.elementOf(of, key, pos)
	if err == nil && key.Kind == String {
		m.reached(v, pos)
	}
	return v, err
}

func (m *Machine) elementOf(of, key Value, pos codePos) (Value, error) {
	static := (*Type)(nil)
	switch {
	case of.Static.is("Map"):
		static = of.Static.arg(1).nullable()
	case of.Static.is("List"):
		static = of.Static.arg(0)
	case of.Static.is("String"):
		static = stringType
	}
	switch of.Kind {
	case Null:
		return of, nullCalled("[]", false, of, m.shown(key))
	case Maps:
		d := of.dict()
		if key.isUnknown() {
			v := unknown(static, append(d.Vals, key, of)...)
			if d.Rest != nil {
				v.At = d.Rest.sub(Any, "", 0)
			} else if of.At != nil {
				v.At = of.At.sub(Any, "", 0)
			}
			if d.Some != nil {
				v = m.merged(nil, v, *d.Some)
			}
			return v, nil
		}
		at, _ := d.find(key)
		switch {
		case at >= 0:
			v := d.Vals[at]
			v.Static = static
			if d.Cast {
				return m.coerce(v, d.Val, &frame{}, true)
			}
			return v, nil
		case d.Some != nil:
			v := *d.Some
			v.Static = static
			return v, nil
		case d.Rest != nil && key.Kind == String:
			for _, gone := range d.Gone {
				if gone == key.S {
					return Value{Static: static, At: d.Rest.sub(Member, key.S, 0)}, nil
				}
			}
			return Value{Kind: Unknown, Static: static, At: d.Rest.sub(Member, key.S, 0)}, nil
		}
		v := Value{Static: static}
		if of.At != nil && key.Kind == String {
			v.At = of.At.sub(Member, key.S, 0)
		}
		return v, nil
	case Lists:
		l := of.list()
		if l.Kind != "List" {
			break
		}
		if key.Kind != Int && !key.isUnknown() {
			t := m.typeError(key, intType, false, false)
			if t.Pos = pos; of.Static == nil {
				t.Message, t.At = t.Message+" of 'index'", of.At
			}
			return of, t
		}
		items, some, err := m.elements(of, pos)
		if err != nil {
			return of, err
		}
		if some != nil {
			v := *some
			if key.Kind == Int && of.At != nil {
				v.At = of.At.sub(Elem, "", int(key.N))
			}
			return v, nil
		}
		if key.isUnknown() {
			if len(items) == 0 {
				return unknown(static, of, key), nil
			}
			return m.merged(key.places(), items...).as(static), nil
		}
		if key.N < 0 || key.N >= int64(len(items)) {
			return of, rangeError(key.N, len(items), of, pos)
		}
		return items[key.N].as(static), nil
	case String:
		if key.Kind == Int {
			units := runesOf(of.S)
			if key.N < 0 || key.N >= int64(len(units)) {
				t, ok := rangeError(key.N, len(units), of, pos).(*Thrown)
				if ok {
					t.Message = strings.Replace(t.Message, "(length)", "(index)", 1)
				}
				return of, t
			}
			return textOf(units[key.N]), nil
		}
		if !key.isUnknown() {
			return of, &Thrown{Class: "_TypeError", Message: fmt.Sprintf("type '%s' is not a subtype of type 'int' of 'index'", m.typeOf(key).spelt(key)), At: of.At, Pos: pos}
		}
		return unknown(stringType, of, key), nil
	case Unknown:
		if of.Out != nil && of.Out.Text && of.Out.Request != nil {
			want := jsonMap
			if key.Kind == Int {
				want = untypedList
			}
			d, err := m.document(of, want)
			if err != nil {
				return d, err
			}
			if !d.isUnknown() || d.At != nil {
				return m.element(d, key, pos)
			}
		}
		v := unknown(static, of, key)
		if of.At == nil {
			v.Out = of.Out
			return v, nil
		}
		v = Value{Kind: Unknown, Static: static, Fails: of.Fails}
		switch {
		case key.Kind == String:
			v.At = of.At.sub(Member, key.S, 0)
		case key.Kind == Int:
			v.At = of.At.sub(Elem, "", int(key.N))
		case of.Static.is("List"), key.Static.is("int"):
			v.At = of.At.sub(Each, "", 0)
		default:
			v.At = of.At.sub(Any, "", 0)
		}
		return v, nil
	}
	if of.Static == nil || of.Kind == Int || of.Kind == Bool || of.Kind == Double {
		return of, noMember(m, of, "[]", "method", key)
	}
	return of, unfollowed("an index", pos)
}

// rangeError is the error for an index that is out of range.
func rangeError(at int64, n int, of Value, pos codePos) error {
	text := fmt.Sprintf("RangeError (length): Invalid value: Not in inclusive range 0..%d: %d", n-1, at)
	switch n {
	case 0:
		text = fmt.Sprintf("RangeError (length): Invalid value: Valid value range is empty: %d", at)
	case 1:
		text = fmt.Sprintf("RangeError (length): Invalid value: Only valid value is 0: %d", at)
	}
	return &Thrown{Class: "RangeError", Message: text, At: of.At, Pos: pos}
}

// put is a[b] = c.
func (m *Machine) put(of, key, v Value, x *code.Expr) error {
	if x != nil {
		if t := refused(of, "[]=", x.Pos); t != nil {
			return t
		}
	}
	switch of.Kind {
	case Maps:
		d := of.dict()
		if m.dry > 0 {
			return nil
		}
		var err error
		if v, err = m.coerce(v, d.Val, &frame{}, false); err != nil {
			return err
		}
		if key, err = m.coerce(key, d.Key, &frame{}, false); err != nil {
			return err
		}
		if key.isUnknown() || m.forks > 0 && d.Rest == nil && key.keyText() == "" {
			if d.Some != nil {
				v = m.merged(nil, *d.Some, v)
			}
			d.Some, d.Names = &v, &key
			return nil
		}
		if m.forks > 0 {
			if at, _ := d.find(key); at >= 0 {
				v = m.merged(m.hangs(), d.Vals[at], v)
			}
		}
		d.put(key, v)
		return nil
	case Lists:
		l := of.list()
		if m.dry > 0 {
			return nil
		}
		if key.Kind != Int || l.Some != nil {
			return m.addTo(l, v)
		}
		if key.N < 0 || key.N >= int64(len(l.Items)) {
			return rangeError(key.N, len(l.Items), of, x.Pos)
		}
		v, err := m.coerce(v, l.Elem, &frame{}, false)
		l.Items[key.N] = v
		return err
	case Null:
		return nullCall("[]=", false, of)
	case Obj:
		if fn, in := m.find(of.object().Type, "[]=", method, 0); fn != nil {
			_, err := m.invoke(fn, &of, in, nil, Args{List: []Value{key, v}}, x)
			return err
		}
	case Unknown:
		return nil
	}
	return noMember(m, of, "[]=", "method")
}

// addTo adds an element to a list, perhaps.
func (m *Machine) addTo(l *List, v Value) error {
	if m.dry > 0 {
		return nil
	}
	v, err := m.coerce(v, l.Elem, &frame{}, false)
	if err != nil {
		return err
	}
	if l.Kind == "Set" && m.forks == 0 {
		return m.addOnce(l, v)
	}
	if m.forks > 0 || l.Some != nil {
		if l.Some != nil {
			v = m.merged(nil, *l.Some, v)
		} else if len(l.Items) > 0 {
			v = m.merged(nil, append(l.Items, v)...)
			l.Items = nil
		}
		l.Some = &v
		return nil
	}
	if len(l.Items) >= maxItems {
		return unfollowed("a list that long", codePos{})
	}
	l.Items = append(l.Items, v)
	return nil
}

// addOnce adds an element to a set that does not have it.
func (m *Machine) addOnce(l *List, v Value) error {
	for _, old := range l.Items {
		is, known, err := m.equal(old, v, codePos{})
		if err != nil || is {
			return err
		}
		if !known && !v.isUnknown() && !old.isUnknown() {
			return unfollowed("whether elements of a set are equal", codePos{})
		}
	}
	l.Items = append(l.Items, v)
	return nil
}
