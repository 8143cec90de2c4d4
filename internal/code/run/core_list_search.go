package run

import (
	"strings"
)

// filtered are the elements for which fits says yes.
func (m *Machine) filtered(of Value, t *Type, pos codePos, fits func(Value) (is, known bool)) (Value, bool, error) {
	items, some, err := m.elements(of, pos)
	if err != nil {
		return of, true, err
	}
	l := &List{Elem: t, Kind: "Iterable"}
	for _, v := range append(items, optional(some)...) {
		is, known := fits(v)
		v.Static = t
		switch {
		case !known || is && some != nil && v.isUnknown():
			if l.Some != nil {
				v = m.merged(nil, *l.Some, v)
			}
			l.Some = &v
		case is:
			l.Items = append(l.Items, v)
		}
	}
	return Value{Kind: Lists, Ref: l, Static: iterOf(t)}, true, nil
}

// searched is firstWhere and its like.
func (m *Machine) searched(of Value, name string, fn Value, a Args, elem *Type, pos codePos) (Value, bool, error) {
	items, some, err := m.elements(of, pos)
	if err != nil {
		return of, true, err
	}
	if name == "indexWhere" {
		elem = intType
	}
	var maybe []Value
	var on []*Place
	found := -1
	for i, v := range append(items, optional(some)...) {
		r, err := m.Apply(fn, v)
		if err != nil {
			return of, true, err
		}
		yes, known, err := m.truth(r)
		if err != nil {
			return of, true, err
		}
		if name == "indexWhere" {
			v = intOf(int64(i))
		}
		switch {
		case !known || i == len(items) && yes:
			maybe, on = append(maybe, v), union(on, r.places())
		case yes && (found < 0 || strings.HasPrefix(name, "last")):
			found = i
			if !strings.HasPrefix(name, "last") && !strings.HasPrefix(name, "single") {
				if len(maybe) > 0 {
					return unknown(elem, append(maybe, v)...).with(on), true, nil
				}
				return v.as(elem), true, nil
			}
		case yes && strings.HasPrefix(name, "single"):
			return of, true, stateError("Too many elements", of)
		}
	}
	if found >= 0 && len(maybe) == 0 {
		return items[found].as(elem), true, nil
	}
	otherwise := func() (Value, error) {
		orElse, ok := a.named("orElse")
		switch {
		case name == "indexWhere":
			return intOf(-1), nil
		case ok && !orElse.IsNull():
			return m.Apply(orElse)
		case strings.HasSuffix(name, "OrNull"):
			return Value{Static: elem.nullable()}, nil
		}
		return of, stateError("No element", of)
	}
	if len(maybe) > 0 {
		if len(items) > 0 && some == nil || len(maybe) == 1 {
			v := unknown(elem, maybe...).with(on)
			if o := maybe[0].object(); o != nil && o.Enum == "" {
				v = maybe[0]
			}
			return v, true, nil
		}
		return unknown(elem, maybe...).with(on), true, nil
	}
	v, err := otherwise()
	return v, true, err
}

// with is a value that depends on more places.
func (v Value) with(on []*Place) Value {
	v.From = union(v.From, on)
	return v
}
