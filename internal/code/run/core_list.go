package run

import (
	"slices"
	"strings"

	"vetta/internal/code"
)

// lazily is an iterable whose elements are made when they are asked for.
func lazily(elem *Type, dynamic bool, some *Value, items func() ([]Value, error)) Value {
	l := &List{Elem: elem, Kind: "Iterable", Lazy: items, Some: some}
	return Value{Kind: Lists, Ref: l, Static: iterOf(elem)}
}

func none() ([]Value, error) { return nil, nil }

// listCall is a method of a list, set or iterable; ok is false where it has none of the name.
func (m *Machine) listCall(of Value, name string, a Args, f *frame, pos codePos) (v Value, ok bool, err error) {
	l := of.list()
	if t := refused(of, name, pos); t != nil {
		return of, true, t
	}
	elem := l.Elem
	if l.Cast != nil {
		elem = l.Cast
	}
	static := of.Static.arg(0)
	fn := a.at(0)
	each := func() ([]Value, *Value, error) { return m.elements(of, pos) }
	condition := func(v Value) (yes, known bool, err error) {
		r, err := m.Apply(fn, v)
		if err != nil {
			return false, true, err
		}
		return m.truth(r)
	}
	switch name {
	case "map", "mapIndexed":
		var t *Type
		switch {
		case len(a.Types) == 1:
			t = a.Types[0]
		case of.Static != nil || of.At == nil && of.Static != nil:
			args := []*Type{static}
			if name == "mapIndexed" {
				args = []*Type{intType, static}
			}
			t = m.yields1(fn, args)
		}
		if err := m.fits1(fn, of, "(dynamic) => dynamic"); err != nil {
			return of, true, err
		}
		if c, ok := fn.Ref.(*Closure); ok && of.Static == nil && t != nil && name == "map" && len(m.conds) == 0 { // of a dynamic receiver it is checked when it runs
			if y := m.yieldOf(c, []*Type{nil}); c.Fn != nil && !m.subtype(y, t, false) {
				return of, true, &Thrown{Class: "_TypeError", Message: "type '(dynamic) => " + y.String() + "' is not a subtype of type '(dynamic) => " + t.String() + "' of 'toElement'", At: of.At, Pos: pos}
			}
		}
		one := func(i int, v Value) (Value, error) {
			args := []Value{v}
			if name == "mapIndexed" {
				args = []Value{intOf(int64(i)), v}
			}
			r, err := m.Apply(fn, args...)
			if err == nil && t != nil {
				r, err = m.coerce(r, t, &frame{unit: f.unit}, false)
			}
			return r, err
		}
		if err := m.callable(fn); err != nil {
			return of, true, err
		}
		if _, open, err := peek(m, of, pos); err == nil && open != nil {
			var r Value
			err := m.fork(&frame{fn: noFunc}, nil, func() error {
				var err error
				r, err = one(0, *open)
				return err
			}, func() error { return nil })
			if err != nil {
				return of, true, err
			}
			return lazily(t, of.Static == nil, &r, none), true, nil
		}
		mapped := lazily(t, of.Static == nil, nil, func() ([]Value, error) {
			items, _, err := each()
			if err != nil {
				return nil, err
			}
			out := make([]Value, len(items))
			for i, v := range items {
				if out[i], err = one(i, v); err != nil {
					return nil, err
				}
			}
			return out, nil
		})
		mapped.list().Source, mapped.list().Item = &of, one
		return mapped, true, nil
	case "cast", "retype":
		var t *Type
		if len(a.Types) == 1 {
			t = a.Types[0]
		}
		c := *l
		c.Cast = t
		c.Elem = t
		if l.Some != nil {
			s := *l.Some
			s.Static = t
			c.Some = &s
		}
		kind := l.Kind
		return Value{Kind: Lists, Ref: &c, Static: &Type{Name: kind, Args: []*Type{t}}, At: of.At, From: of.From}, true, nil
	case "where", "whereNot", "takeWhile", "skipWhile", "removeWhere", "retainWhere":
		items, some, err := each()
		if err != nil && (name == "removeWhere" || name == "retainWhere") {
			return of, true, err
		}
		filter := func() ([]Value, *Value, error) {
			if err != nil {
				return nil, nil, err
			}
			var out []Value
			open := some
			if some != nil {
				if ferr := m.fork(&frame{fn: noFunc}, nil, func() error { _, _, err := condition(*some); return err }, func() error { return nil }); ferr != nil {
					return nil, nil, ferr
				}
			}
			taking := true
			for _, v := range items {
				yes, known, err := condition(v)
				switch {
				case err != nil:
					return nil, nil, err
				case !known:
					if open != nil {
						v = m.merged(nil, *open, v)
					}
					open = &v
					continue
				}
				switch name {
				case "whereNot", "removeWhere":
					yes = !yes
				case "takeWhile":
					taking = taking && yes
					yes = taking
				case "skipWhile":
					taking = taking && yes
					yes = !taking
				}
				if yes {
					out = append(out, v)
				}
			}
			return out, open, nil
		}
		if name == "removeWhere" || name == "retainWhere" {
			out, open, err := filter()
			if err == nil && m.dry == 0 {
				l.Items, l.Some = out, open
			}
			return Value{Static: voidType}, true, err
		}
		if some != nil {
			_, open, err := filter()
			return lazily(elem, false, open, none), true, err
		}
		return lazily(elem, false, nil, func() ([]Value, error) {
			out, open, err := filter()
			if open != nil && err == nil {
				out = append(out, *open)
			}
			return out, err
		}), true, nil
	case "whereType":
		var t *Type
		if len(a.Types) == 1 {
			t = a.Types[0]
		}
		return m.filtered(of, t, pos, func(v Value) (bool, bool) { return m.isOf(v, t, false) })
	case "expand":
		t := m.yields1(fn, []*Type{static}).arg(0)
		if len(a.Types) == 1 {
			t = a.Types[0]
		}
		items, some, err := each()
		if err != nil {
			return of, true, err
		}
		var out []Value
		var open *Value
		for _, v := range append(items, optional(some)...) {
			r, err := m.Apply(fn, v)
			if err != nil {
				return of, true, err
			}
			more, s, err := m.elements(r, pos)
			if err != nil {
				return of, true, err
			}
			out = append(out, more...)
			if s != nil {
				open = s
			}
		}
		return Value{Kind: Lists, Ref: &List{Elem: t, Kind: "Iterable", Items: out, Some: open}, Static: iterOf(t)}, true, nil
	case "forEach", "forEachIndexed":
		if err := m.callable(fn); err != nil {
			return of, true, err
		}
		items, some, err := each()
		if err != nil {
			return of, true, err
		}
		do := func(i int, v Value) error {
			args := []Value{v}
			if name == "forEachIndexed" {
				args = []Value{intOf(int64(i)), v}
			}
			_, err := m.Apply(fn, args...)
			return err
		}
		for i, v := range items {
			if err := do(i, v); err != nil {
				return of, true, err
			}
		}
		if some != nil {
			err = m.fork(&frame{fn: noFunc}, some.places(), func() error { return do(0, *some) }, func() error { return nil })
		}
		return Value{Static: voidType}, true, err
	case "toList", "toSet", "toUnmodifiableList":
		items, some, err := each()
		if err != nil {
			return of, true, err
		}
		n := &List{Elem: elem, Kind: "List", Items: slices.Clone(items), Some: some}
		if name == "toSet" {
			n.Kind, n.Items = "Set", nil
			for _, v := range items {
				if err := m.addOnce(n, v); err != nil {
					return of, true, err
				}
			}
		}
		return Value{Kind: Lists, Ref: n, Static: &Type{Name: n.Kind, Args: []*Type{elem}}}, true, nil
	case "any", "every":
		items, some, err := each()
		if err != nil {
			return of, true, err
		}
		unsure := some != nil
		if some != nil {
			if _, _, err := condition(*some); err != nil {
				return of, true, err
			}
		}
		for _, v := range items {
			yes, known, err := condition(v)
			switch {
			case err != nil:
				return of, true, err
			case !known:
				unsure = true
			case yes == (name == "any"):
				return boolOf(name == "any"), true, nil
			}
		}
		if unsure {
			return unknown(boolType, of), true, nil
		}
		return boolOf(name == "every"), true, nil
	case "firstWhere", "lastWhere", "singleWhere", "firstWhereOrNull", "lastWhereOrNull", "singleWhereOrNull", "indexWhere":
		return m.searched(of, name, fn, a, elem, pos)
	case "fold", "foldIndexed":
		acc := fn
		step := a.at(1)
		items, some, err := each()
		if err != nil {
			return of, true, err
		}
		t := acc.Static
		if len(a.Types) == 1 {
			t = a.Types[0]
		} else if of.Static == nil {
			t = nil
		}
		for _, v := range items {
			if acc, err = m.Apply(step, acc, v); err != nil {
				return of, true, err
			}
			if acc, err = m.coerce(acc, t, f, false); err != nil {
				return of, true, err
			}
		}
		if some != nil {
			r, err := m.Apply(step, acc.as(t), *some)
			if err != nil {
				return of, true, err
			}
			if r.rank() < acc.rank() {
				r = acc
			}
			if r.Kind != Lists && r.Kind != Maps && r.Kind != Obj {
				r = unknown(t, r, acc, of)
			}
			return r.as(t), true, nil
		}
		return acc.as(t), true, nil
	case "reduce":
		items, some, err := each()
		if err != nil {
			return of, true, err
		}
		if some != nil {
			return unknown(elem, of), true, nil
		}
		if len(items) == 0 {
			return of, true, stateError("No element", of)
		}
		acc := items[0]
		for _, v := range items[1:] {
			if acc, err = m.Apply(fn, acc, v); err != nil {
				return of, true, err
			}
		}
		return acc.as(elem), true, nil
	case "join":
		items, some, err := each()
		if err != nil {
			return of, true, err
		}
		if some != nil {
			return unknown(stringType, of), true, nil
		}
		var parts []string
		for _, v := range items {
			text, known, err := m.written(v, pos)
			if err != nil || !known {
				return unknown(stringType, of), true, err
			}
			parts = append(parts, text)
		}
		return textOf(strings.Join(parts, fn.S)), true, nil
	case "elementAt":
		v, err := m.element(of, fn, pos)
		return v, true, err
	case "elementAtOrNull":
		items, some, err := each()
		if err != nil || some != nil || fn.Kind != Int {
			return unknown(elem.nullable(), of), true, err
		}
		if fn.N < 0 || fn.N >= int64(len(items)) {
			return Value{Static: elem.nullable()}, true, nil
		}
		return items[fn.N], true, nil
	case "contains", "indexOf", "lastIndexOf":
		items, some, err := each()
		if err != nil {
			return of, true, err
		}
		at, unsure := -1, some != nil || fn.isUnknown()
		for i, v := range items {
			is, known, err := m.equal(v, fn, pos)
			if err != nil {
				return of, true, err
			}
			unsure = unsure || !known
			if is && (at < 0 || name == "lastIndexOf") {
				at = i
			}
		}
		switch {
		case name == "contains" && at >= 0:
			return boolOf(true), true, nil
		case unsure && name == "contains":
			return unknown(boolType, of, fn), true, nil
		case unsure:
			return unknown(intType, of, fn), true, nil
		case name == "contains":
			return boolOf(false), true, nil
		}
		return intOf(int64(at)), true, nil
	case "followedBy", "take", "skip", "sublist", "getRange":
		items, some, err := each()
		if err != nil {
			return of, true, err
		}
		kind := "Iterable"
		if name == "sublist" {
			kind = "List"
		}
		n := &List{Elem: elem, Kind: kind, Some: some}
		from, to := 0, len(items)
		switch name {
		case "followedBy":
			more, s, err := m.elements(fn, pos)
			if err != nil {
				return of, true, err
			}
			items = append(items, more...)
			to = len(items)
			if s != nil {
				n.Some = s
			}
			if of.list().Kind == "List" {
				n.Kind = "List"
			}
		case "take":
			to = min(to, int(fn.N))
		case "skip":
			from = min(to, int(fn.N))
		case "sublist", "getRange":
			from = int(fn.N)
			if end := a.at(1); end.Kind == Int {
				to = int(end.N)
			}
			if some == nil && (from < 0 || to > len(items) || from > to) {
				return of, true, rangeError(int64(max(from, to)), len(items), of, pos)
			}
		}
		if from = max(from, 0); from > to || to > len(items) {
			from, to = 0, 0
		}
		n.Items = items[from:to]
		return Value{Kind: Lists, Ref: n, Static: &Type{Name: n.Kind, Args: []*Type{elem}}}, true, nil
	case "add", "addAll", "insert", "insertAll", "addFirst", "addLast":
		return m.added(of, name, a, f, pos)
	case "remove", "removeAt", "removeLast", "clear", "sort", "shuffle", "setAll":
		return m.changed(of, name, a, pos)
	case "asMap":
		items, some, err := each()
		if err != nil {
			return of, true, err
		}
		d, v := newMap(intType, elem)
		for i, e := range items {
			d.put(intOf(int64(i)), e)
		}
		if d.Some = some; some != nil {
			k := unknown(intType, of)
			d.Names = &k
		}
		return v, true, nil
	case "byName", "asNameMap":
		if elem == nil || elem.Class == nil || elem.Class.Kind != "enum" {
			break
		}
		items, some, err := each()
		if err != nil || some != nil {
			return unknown(elem, of), true, err
		}
		d, v := newMap(stringType, elem)
		for _, e := range items {
			d.put(textOf(e.object().Enum), e)
		}
		if name == "asNameMap" {
			return v, true, nil
		}
		if fn.isUnknown() {
			return unknown(elem, fn), true, nil
		}
		if _, err := m.coerce(fn, stringType, f, false); err != nil {
			return of, true, err
		}
		if at, _ := d.find(fn); at >= 0 {
			return d.Vals[at].as(elem), true, nil
		}
		return of, true, &Thrown{Class: "ArgumentError", Message: "Invalid argument (name): No enum value with that name: \"" + fn.S + "\"", At: fn.At, Pos: pos}
	case "toString":
		text, known, err := m.written(of, pos)
		if !known {
			return unknown(stringType, of), true, err
		}
		return textOf(text), true, err
	case "union", "intersection", "difference", "containsAll":
		return unknown(of.Static, of, fn), true, nil
	case "sorted", "sortedBy":
		items, some, err := each()
		if err != nil {
			return of, true, err
		}
		v := newList(elem, slices.Clone(items))
		v.list().Some = some
		if len(items) > 1 {
			return m.changedSorted(v, name, a, pos)
		}
		return v, true, nil
	}
	return of, false, nil
}

// noFunc is the function of a frame that nothing returns from.
var noFunc = &code.Func{}

func optional(v *Value) []Value {
	if v == nil {
		return nil
	}
	return []Value{*v}
}

// peek says what the elements are like where their number is not known, without making them.
func peek(m *Machine, of Value, pos codePos) ([]Value, *Value, error) {
	l := of.list()
	if l.Some == nil {
		return nil, nil, nil
	}
	return m.elements(of, pos)
}

// yields1 is the type of what a function yields.
func (m *Machine) yields1(fn Value, args []*Type) *Type {
	switch fn.Kind {
	case Fn:
		return m.yieldOf(fn.Ref.(*Closure), args)
	case Class:
		return fn.Ref.(*Type)
	}
	if fn.Static.is("Function") {
		return fn.Static.Yields
	}
	return nil
}

// callable is the error of calling what is no function.
func (m *Machine) callable(fn Value) error {
	switch fn.Kind {
	case Fn, Class, Unknown, Obj:
		return nil
	}
	return m.typeError(fn, &Type{Name: "Function"}, false, false)
}

// fits1 is the error of a function with two parameters where one is asked for.
func (m *Machine) fits1(fn, of Value, want string) error {
	if c, ok := fn.Ref.(*Closure); ok && fn.Kind == Fn && c.Fn != nil {
		n := 0
		for _, p := range c.Fn.Params {
			if !p.Optional {
				n++
			}
		}
		if n > 2 || n == 2 && of.Static == nil && want == "(dynamic) => dynamic" {
			sig := *m.signature(c)
			if sig.Yields == nil {
				sig.Yields = m.yieldOf(c, sig.Args)
			}
			return &Thrown{Class: "_TypeError", Message: "type '" + sig.String() + "' is not a subtype of type '" + want + "' of 'f'", At: of.At}
		}
	}
	return nil
}

func stateError(text string, of Value) error {
	return &Thrown{Class: "StateError", Message: "Bad state: " + text, At: of.At}
}
