package run

import (
	"slices"
	"strings"

	"vetta/internal/code"
)

// added is what adds elements to a list.
func (m *Machine) added(of Value, name string, a Args, f *frame, pos codePos) (Value, bool, error) {
	l := of.list()
	if l.Kind == "Iterable" {
		return of, false, nil
	}
	v := a.at(0)
	if strings.HasPrefix(name, "insert") {
		v = a.at(1)
	}
	if !strings.HasSuffix(name, "All") {
		if name == "insert" && l.Some == nil && m.forks == 0 && m.dry == 0 {
			at := a.at(0)
			if at.Kind != Int || at.N < 0 || at.N > int64(len(l.Items)) {
				return of, true, rangeError(at.N, len(l.Items)+1, of, pos)
			}
			v, err := m.coerce(v, l.Elem, f, false)
			if err != nil {
				return of, true, err
			}
			l.Items = slices.Insert(l.Items, int(at.N), v)
			return Value{Static: voidType}, true, nil
		}
		return boolOf(true), true, m.addTo(l, v)
	}
	if v.Kind != Lists && !v.isUnknown() {
		return of, true, m.typeError(v, iterOf(l.Elem), false, false)
	}
	if v.Kind == Lists && of.Static == nil && l.Elem != nil && !m.subtype(m.typeOf(v).arg(0), l.Elem, false) {
		return of, true, m.typeError(v, iterOf(l.Elem), false, false)
	}
	items, some, err := m.elements(v, pos)
	if err != nil {
		return of, true, err
	}
	for _, v := range items {
		if err := m.addTo(l, v); err != nil {
			return of, true, err
		}
	}
	if some != nil {
		m.forks++
		err = m.addTo(l, *some)
		m.forks--
	}
	return Value{Static: voidType}, true, err
}

// changed is what takes elements out of a list, or puts them in order.
func (m *Machine) changed(of Value, name string, a Args, pos codePos) (Value, bool, error) {
	l := of.list()
	if m.dry > 0 {
		return unknown(l.Elem, of), true, nil
	}
	if l.Some != nil || m.forks > 0 {
		if name == "sort" || name == "shuffle" {
			return Value{Static: voidType}, true, nil
		}
		return unknown(l.Elem, of), true, nil
	}
	switch name {
	case "clear":
		l.Items = nil
		return Value{Static: voidType}, true, nil
	case "removeLast":
		if n := len(l.Items); n > 0 {
			v := l.Items[n-1]
			l.Items = l.Items[:n-1]
			return v, true, nil
		}
		return of, true, rangeError(-1, 0, of, pos)
	case "removeAt":
		at := a.at(0)
		if at.Kind != Int || at.N < 0 || at.N >= int64(len(l.Items)) {
			return of, true, rangeError(at.N, len(l.Items), of, pos)
		}
		v := l.Items[at.N]
		l.Items = slices.Delete(l.Items, int(at.N), int(at.N)+1)
		return v, true, nil
	case "remove":
		for i, v := range l.Items {
			is, known, err := m.equal(v, a.at(0), pos)
			if err != nil || !known {
				return unknown(boolType, of), true, err
			}
			if is {
				l.Items = slices.Delete(l.Items, i, i+1)
				return boolOf(true), true, nil
			}
		}
		return boolOf(false), true, nil
	case "sort":
		_, _, err := m.changedSorted(of, name, a, pos)
		return Value{Static: voidType}, true, err
	}
	return of, true, unfollowed("the method "+name, pos)
}

// changedSorted puts the elements of a list in order.
func (m *Machine) changedSorted(of Value, name string, a Args, pos codePos) (Value, bool, error) {
	l := of.list()
	var failed error
	slices.SortStableFunc(l.Items, func(x, y Value) int {
		if failed != nil {
			return 0
		}
		by := a.at(0)
		if name == "sortedBy" {
			if x, failed = m.Apply(by, x); failed != nil {
				return 0
			}
			if y, failed = m.Apply(by, y); failed != nil {
				return 0
			}
			by = Value{}
		}
		var r Value
		var err error
		if by.IsNull() {
			r, err = m.platformCall(x, "compareTo", Args{List: []Value{y}}, &frame{}, &code.Expr{Pos: pos})
		} else {
			r, err = m.Apply(by, x, y)
		}
		if err == nil && r.Kind != Int {
			err = unfollowed("the order of a list", pos)
		}
		failed = err
		return int(r.N)
	})
	return of, true, failed
}
