package run

import "slices"

// mapCall is a method of a map; ok is false where it has none of the name.
func (m *Machine) mapCall(of Value, name string, a Args, f *frame, pos codePos) (v Value, ok bool, err error) {
	if d := of.dict(); d.Rest != nil && len(d.Keys) == 0 && d.Some == nil && name != "containsKey" && name != "cast" && name != "[]" {
		of = m.asMap(of)
	}
	d := of.dict()
	if t := refused(of, name, pos); t != nil {
		return of, true, t
	}
	key, val := d.Key, d.Val
	fn := a.at(0)
	// sent are the values as they are read.
	sent := func() ([]Value, error) {
		if !d.Cast {
			return d.Vals, nil
		}
		out := slices.Clone(d.Vals)
		for i := range out {
			var err error
			if out[i], err = m.coerce(out[i], val, f, true); err != nil {
				return nil, err
			}
		}
		return out, nil
	}
	sk, sv := of.Static.arg(0), of.Static.arg(1)
	switch name {
	case "containsKey":
		has, known := m.hasKey(of, fn)
		if !known {
			v := unknown(boolType, of, fn)
			if d.Rest != nil && fn.Kind == String {
				v.From = union(v.From, []*Place{d.Rest.sub(Member, fn.S, 0)})
			}
			return v, true, nil
		}
		return boolOf(has), true, nil
	case "containsValue":
		for _, v := range d.Vals {
			if is, known, err := m.equal(v, fn, pos); err != nil || !known {
				return unknown(boolType, of), true, err
			} else if is {
				return boolOf(true), true, nil
			}
		}
		return boolOf(false), true, nil
	case "cast", "retype":
		c := *d
		c.Cast = true
		if len(a.Types) == 2 {
			c.Key, c.Val = a.Types[0], a.Types[1]
		}
		if d.Some != nil {
			s := *d.Some
			s.Static = c.Val
			c.Some = &s
		}
		return Value{Kind: Maps, Ref: &c, Static: mapOf(c.Key, c.Val), At: of.At}, true, nil
	case "forEach", "map", "removeWhere", "updateAll":
		if c, isFn := fn.Ref.(*Closure); isFn && c.Fn != nil && len(c.Fn.Params) == 1 && name != "cast" {
			want, param := "(String, dynamic) => MapEntry<dynamic, dynamic>", "transform"
			if name == "forEach" {
				want, param = "(String, dynamic) => void", "action"
			}
			yields := "dynamic"
			if t := m.yieldOf(c, []*Type{nil}); t != nil {
				yields = t.String()
			}
			return of, true, &Thrown{Class: "_TypeError", Message: "type '(dynamic) => " + yields + "' is not a subtype of type '" + want + "' of '" + param + "'", At: of.At, Pos: pos}
		}
		if err := m.callable(fn); err != nil {
			return of, true, err
		}
		vals, err := sent()
		if err != nil {
			return of, true, err
		}
		return m.eachEntry(of, name, fn, a, vals, sk, sv, pos)
	case "putIfAbsent":
		if at, known := d.find(fn); at >= 0 {
			return d.Vals[at].as(val), true, nil
		} else if !known || d.Some != nil {
			v, err := m.Apply(a.at(1))
			if err == nil {
				err = m.put(of, fn, v, nil)
			}
			if d.Some != nil && err == nil {
				return d.Some.as(val), true, nil
			}
			return v, true, err
		}
		v, err := m.Apply(a.at(1))
		if err != nil {
			return of, true, err
		}
		if v, err = m.coerce(v, val, f, false); err != nil {
			return of, true, err
		}
		return v.as(val), true, m.put(of, fn, v, nil)
	case "update":
		at, known := d.find(fn)
		if d.Some != nil || !known {
			return unknown(val, of), true, nil
		}
		var v Value
		if at >= 0 {
			v, err = m.Apply(a.at(1), d.Vals[at])
		} else if absent, ok := a.named("ifAbsent"); ok {
			v, err = m.Apply(absent)
		} else {
			return of, true, &Thrown{Class: "ArgumentError", Message: "Invalid argument (key): Key not in map.: " + m.shown(fn), At: of.At}
		}
		if err != nil {
			return of, true, err
		}
		return v, true, m.put(of, fn, v, nil)
	case "remove":
		at, known := d.find(fn)
		if m.forks > 0 || m.dry > 0 || !known || d.Some != nil || d.Rest != nil {
			v, err := m.element(of, fn, pos)
			return v, true, err
		}
		if at < 0 {
			return Value{Static: val.nullable()}, true, nil
		}
		v := d.Vals[at].as(val.nullable())
		d.remove(at)
		return v, true, nil
	case "addAll", "addEntries":
		if m.dry > 0 {
			return Value{Static: voidType}, true, nil
		}
		if fn.Kind == Maps || fn.isUnknown() && name == "addAll" {
			other := m.asMap(fn).dict()
			for i := range other.Keys {
				if err := m.put(of, other.Keys[i], other.Vals[i], nil); err != nil {
					return of, true, err
				}
			}
			if other.Some != nil {
				return Value{Static: voidType}, true, m.put(of, Value{Kind: Unknown, Static: stringType}, *other.Some, nil)
			}
			return Value{Static: voidType}, true, nil
		}
		if name == "addAll" {
			return of, true, m.typeError(fn, mapOf(key, val), false, false)
		}
		items, some, err := m.elements(fn, pos)
		if err != nil {
			return of, true, err
		}
		for _, e := range append(items, optional(some)...) {
			if en, ok := e.Ref.(*entry); ok {
				if err := m.put(of, en.key, en.val, nil); err != nil {
					return of, true, err
				}
			}
		}
		return Value{Static: voidType}, true, nil
	case "clear":
		if m.dry == 0 && m.forks == 0 {
			d.Keys, d.Vals, d.index = nil, nil, nil
		}
		return Value{Static: voidType}, true, nil
	case "toString":
		text, known, err := m.written(of, pos)
		if !known {
			return unknown(stringType, of), true, err
		}
		return textOf(text), true, err
	}
	return of, false, nil
}

// eachEntry calls a function with each key and value.
func (m *Machine) eachEntry(of Value, name string, fn Value, a Args, vals []Value, sk, sv *Type, pos codePos) (Value, bool, error) {
	d := of.dict()
	if err := m.step(len(vals), pos); err != nil {
		return of, true, err
	}
	var outKey, outVal *Type
	if name == "map" {
		if len(a.Types) == 2 {
			outKey, outVal = a.Types[0], a.Types[1]
		} else if of.Static != nil {
			t := m.yields1(fn, []*Type{sk, sv})
			outKey, outVal = t.arg(0), t.arg(1)
		}
	}
	n, out := newMap(outKey, outVal)
	put := func(v Value) error {
		e, ok := v.Ref.(*entry)
		if !ok {
			if v.isUnknown() {
				k := unknown(outKey, v)
				val := unknown(outVal, v)
				n.Some, n.Names = &val, &k
				return nil
			}
			return m.typeError(v, &Type{Name: "MapEntry", Args: []*Type{nil, nil}}, false, false)
		}
		k, err := m.coerce(e.key, outKey, &frame{}, false)
		if err != nil {
			return err
		}
		val, err := m.coerce(e.val, outVal, &frame{}, false)
		if err != nil {
			return err
		}
		if k.isUnknown() || m.forks > 0 || k.keyText() == "" && k.Kind != Null {
			if n.Some != nil {
				val = m.merged(nil, *n.Some, val)
			}
			n.Some, n.Names = &val, &k
			return nil
		}
		n.put(k, val)
		return nil
	}
	kept := 0
	for i, k := range slices.Clone(d.Keys) {
		r, err := m.Apply(fn, k.as(sk), vals[i].as(sv))
		if err != nil {
			return of, true, err
		}
		switch name {
		case "map":
			if err := put(r); err != nil {
				return of, true, err
			}
		case "removeWhere":
			yes, known, err := m.truth(r)
			if err != nil {
				return of, true, err
			}
			if known && yes && m.dry == 0 && m.forks == 0 {
				d.remove(kept)
			} else {
				kept++
			}
		}
	}
	if d.Some != nil {
		err := m.fork(&frame{fn: noFunc}, d.Some.places(), func() error {
			r, err := m.Apply(fn, d.Names.as(sk), d.Some.as(sv))
			if err == nil && name == "map" {
				err = put(r)
			}
			return err
		}, func() error { return nil })
		if err != nil {
			return of, true, err
		}
	}
	if name == "map" {
		return out, true, nil
	}
	return Value{Static: voidType}, true, nil
}

// mapMember is a property of a map.
func (m *Machine) mapMember(of Value, name string) (Value, bool, error) {
	switch name {
	case "keys", "values", "entries", "length", "isEmpty", "isNotEmpty":
	default:
		return of, false, nil
	}
	of = m.asMap(of)
	d := of.dict()
	vals := d.Vals
	if d.Cast && name != "keys" {
		vals = slices.Clone(vals)
		for i := range vals {
			var err error
			if vals[i], err = m.coerce(vals[i], d.Val, &frame{}, true); err != nil {
				return of, true, err
			}
		}
	}
	iterable := func(elem *Type, items []Value, some *Value) (Value, bool, error) {
		return Value{Kind: Lists, Ref: &List{Elem: elem, Kind: "Iterable", Items: slices.Clone(items), Some: some}, Static: iterOf(elem)}, true, nil
	}
	switch name {
	case "keys":
		some := d.Names
		if some == nil && d.Rest != nil && len(d.Keys) > 0 { // a document of which these are known
			some = &Value{Kind: Unknown, Static: d.Key, At: d.Rest.sub(Key, "", 0)}
		}
		return iterable(d.Key, d.Keys, some)
	case "values":
		return iterable(d.Val, vals, d.Some)
	case "entries":
		t := &Type{Name: "MapEntry", Args: []*Type{d.Key, d.Val}}
		var items []Value
		for i := range d.Keys {
			items = append(items, Value{Kind: Hosts, Ref: &entry{d.Keys[i].as(d.Key), vals[i].as(d.Val)}, Static: t})
		}
		var some *Value
		if d.Some != nil {
			some = &Value{Kind: Hosts, Ref: &entry{d.Names.as(d.Key), d.Some.as(d.Val)}, Static: t}
		}
		return iterable(t, items, some)
	}
	if d.Some != nil || d.Rest != nil {
		if name == "length" {
			return unknown(intType, of), true, nil
		}
		return unknown(boolType, of), true, nil
	}
	switch name {
	case "length":
		return intOf(int64(len(d.Keys))), true, nil
	case "isEmpty":
		return boolOf(len(d.Keys) == 0), true, nil
	}
	return boolOf(len(d.Keys) > 0), true, nil
}
