package run

import (
	"fmt"
	"strings"
)

// parsed reads a text as a type's parse does; why is the error's text where it is no such text.
func parsed(t *Type, a Args) (v Value, why string, ok bool) {
	text := a.at(0).S
	switch t.Name {
	case "int":
		radix := 0
		if r, ok := a.named("radix"); ok && r.Kind == Int {
			radix = int(r.N)
		}
		n, why := parseInt(text, radix)
		return intOf(n), why, why == ""
	case "double":
		if f, ok := parseDouble(text); ok {
			return doubleOf(f), "", true
		}
		return v, "Invalid double\n" + text, false
	case "num":
		if n, why := parseInt(text, 0); why == "" {
			return intOf(n), "", true
		}
		if f, ok := parseDouble(text); ok {
			return doubleOf(f), "", true
		}
		return v, text, false
	case "BigInt":
		if n, ok := parseBig(text); ok {
			return hostOf(Big{n}), "", true
		}
		return v, "Could not parse BigInt " + text, false
	case "DateTime":
		if d, ok := parseDate(text); ok {
			return hostOf(d), "", true
		}
		return v, "Invalid date format\n" + text, false
	case "Uri":
		if why := parseURI(text); why != "" {
			return v, why, false
		}
		return hostOf(URI{text}), "", true
	case "bool":
		switch {
		case text == "true", text == "false":
			return boolOf(text == "true"), "", true
		}
		if sensitive, ok := a.named("caseSensitive"); ok && sensitive.N == 0 && sensitive.Kind == Bool {
			if l := strings.ToLower(text); l == "true" || l == "false" {
				return boolOf(l == "true"), "", true
			}
		}
		return v, "Invalid boolean\n" + text, false
	}
	return v, "unknown", false
}

func (m *Machine) madeList(t *Type, name string, a Args, ctx *Type, pos codePos) (Value, error) {
	kind := "List"
	if t.is("Set", "LinkedHashSet", "HashSet") {
		kind = "Set"
	} else if t.Name == "Iterable" {
		kind = "Iterable"
	}
	elem := elemOf(t, ctx)
	arg := a.at(0)
	l := &List{Elem: elem, Kind: kind}
	v := Value{Kind: Lists, Ref: l, Static: &Type{Name: kind, Args: []*Type{elem}}}
	switch name {
	case "", "empty", "identity":
		return v, nil
	case "filled", "generate":
		if arg.Kind != Int {
			some := unknown(elem, arg)
			if fn := a.at(1); name == "generate" {
				r, err := m.choose(&frame{fn: noFunc}, arg.places(), func() (Value, error) { return m.Apply(fn, Value{Kind: Unknown, Static: intType}) })
				if err != nil {
					return v, err
				}
				some = r
				if elem == nil {
					l.Elem = r.Static
				}
			}
			l.Some = &some
			v.Static = &Type{Name: kind, Args: []*Type{l.Elem}}
			return v, nil
		}
		if arg.N > maxItems {
			return v, unfollowed("a list that long", pos)
		}
		if elem == nil && len(t.Args) == 0 && ctx == nil {
			if name == "generate" {
				l.Elem = m.yields1(a.at(1), []*Type{intType})
			} else {
				l.Elem = a.at(1).Static
			}
			v.Static = &Type{Name: kind, Args: []*Type{l.Elem}}
		}
		for i := int64(0); i < arg.N; i++ {
			e := a.at(1)
			if name == "generate" {
				var err error
				if e, err = m.Apply(a.at(1), intOf(i)); err != nil {
					return v, err
				}
			}
			e, err := m.coerce(e, l.Elem, &frame{}, false)
			if err != nil {
				return v, err
			}
			l.Items = append(l.Items, e)
		}
		return v, nil
	case "from", "of", "unmodifiable":
	default:
		return v, unfollowed("List."+name, pos)
	}
	if arg.Kind != Lists && !arg.isUnknown() {
		want := iterOf(nil)
		if name == "of" {
			want = iterOf(elem)
		}
		return arg, m.badArgument(arg, want)
	}
	if name == "of" && arg.Kind == Lists && elem != nil && !m.subtype(m.typeOf(arg).arg(0), elem, false) {
		return arg, m.badArgument(arg, iterOf(elem))
	}
	if name == "of" && elem == nil && len(t.Args) == 0 {
		l.Elem = arg.Static.arg(0)
		v.Static = &Type{Name: kind, Args: []*Type{l.Elem}}
	}
	items, some, err := m.elements(arg, pos)
	if err != nil {
		return v, err
	}
	for _, e := range items {
		e, err := m.coerce(e, l.Elem, &frame{}, kind == "Set")
		if err != nil {
			return v, err
		}
		if kind == "Set" {
			if err := m.addOnce(l, e); err != nil {
				return v, err
			}
			continue
		}
		l.Items = append(l.Items, e)
	}
	if some != nil {
		e, err := m.coerce(*some, l.Elem, &frame{}, false)
		if err != nil {
			return v, err
		}
		l.Some = &e
	}
	v.From = arg.From
	return v, nil
}

func (m *Machine) madeMap(t *Type, name string, a Args, ctx *Type, pos codePos) (Value, error) {
	var key, val *Type
	switch {
	case len(t.Args) == 2:
		key, val = t.Args[0], t.Args[1]
	case ctx.is("Map"):
		key, val = ctx.arg(0), ctx.arg(1)
	}
	arg := a.at(0)
	d, v := newMap(key, val)
	put := func(k, e Value) error {
		k, err := m.coerce(k, key, &frame{}, true)
		if err != nil {
			return err
		}
		if e, err = m.coerce(e, val, &frame{}, true); err != nil {
			return err
		}
		if k.isUnknown() {
			d.Some, d.Names = &e, &k
			return nil
		}
		d.put(k, e)
		return nil
	}
	switch name {
	case "", "identity":
		return v, nil
	case "from", "of", "unmodifiable":
		if arg.Kind != Maps && !arg.isUnknown() {
			return arg, m.badArgument(arg, mapOf(nil, nil))
		}
		if name == "of" && len(t.Args) == 0 && ctx == nil {
			key, val = arg.Static.arg(0), arg.Static.arg(1)
			d.Key, d.Val = key, val
			v.Static = mapOf(key, val)
		}
		from := m.asMap(arg).dict()
		for i := range from.Keys {
			if err := put(from.Keys[i], from.Vals[i]); err != nil {
				return v, err
			}
		}
		if from.Some != nil {
			if err := put(*from.Names, *from.Some); err != nil {
				return v, err
			}
		}
		if from.Rest != nil && len(from.Keys) > 0 {
			d.Rest, d.Gone = from.Rest, from.Gone
		}
		v.At = arg.At
		return v, nil
	case "fromEntries", "fromIterable", "fromIterables":
		items, some, err := m.elements(arg, pos)
		if err != nil {
			return v, err
		}
		if name == "fromIterables" {
			return unknown(v.Static, a.List...), nil
		}
		for _, e := range append(items, optional(some)...) {
			k, of := e, e
			if name == "fromEntries" {
				en, ok := e.Ref.(*entry)
				if !ok {
					k, of = unknown(key, e), unknown(val, e)
				} else {
					k, of = en.key, en.val
					if len(t.Args) == 0 && ctx == nil {
						key, val = arg.Static.arg(0).arg(0), arg.Static.arg(0).arg(1)
						d.Key, d.Val = key, val
						v.Static = mapOf(key, val)
					}
				}
			} else {
				if fn, ok := a.named("key"); ok {
					if k, err = m.Apply(fn, e); err != nil {
						return v, err
					}
				}
				if fn, ok := a.named("value"); ok {
					if of, err = m.Apply(fn, e); err != nil {
						return v, err
					}
				}
			}
			if err := put(k, of); err != nil {
				return v, err
			}
		}
		return v, nil
	}
	return v, unfollowed("Map."+name, pos)
}

// madeError makes an exception of the platform, or checks an argument as ArgumentError and RangeError do.
func (m *Machine) madeError(t *Type, name string, a Args, pos codePos) (Value, bool, error) {
	arg := a.at(0)
	text := func(v Value) string {
		s, _, _ := m.written(v, pos)
		return s
	}
	fail := func(message string) (Value, bool, error) {
		return hostOf(&failure{&Thrown{Class: t.Name, Message: message, Pos: pos}}), true, nil
	}
	switch t.Name + "." + name {
	case "ArgumentError.checkNotNull":
		if arg.IsNull() {
			return arg, true, &Thrown{Class: "ArgumentError", Message: "Invalid argument(s) (" + a.at(1).S + "): Must not be null", At: arg.At, Pos: pos}
		}
		return arg.as(arg.Static.solid()), true, nil
	case "RangeError.checkValueInInterval":
		v, err := m.coerce(arg, intType, &frame{}, false)
		if err != nil || v.isUnknown() {
			return v, true, err
		}
		if lo, hi := a.at(1), a.at(2); lo.Kind == Int && hi.Kind == Int && (v.N < lo.N || v.N > hi.N) {
			return v, true, &Thrown{Class: "RangeError", Message: fmt.Sprintf("RangeError (%s): Invalid value: Not in inclusive range %d..%d: %d", a.at(3).S, lo.N, hi.N, v.N), At: arg.At, Pos: pos}
		}
		return v, true, nil
	case "ArgumentError.notNull":
		return fail("Invalid argument(s) (" + arg.S + "): Must not be null")
	case "ArgumentError.value":
		return fail("Invalid argument (" + a.at(1).S + "): " + text(arg))
	case "ArgumentError.":
		return fail("Invalid argument(s): " + text(arg))
	case "Exception.":
		return hostOf(&failure{&Thrown{Class: "_Exception", Message: "Exception: " + text(arg), Pos: pos}}), true, nil
	case "CheckedFromJsonException.": // as version 4 of json_annotation writes it
		return fail(fmt.Sprintf("CheckedFromJsonException\nCould not create `%s`.\nThere is a problem with \"%s\".\n%s", text(a.at(2)), text(a.at(1)), text(a.at(3))))
	case "StateError.":
		return fail("Bad state: " + text(arg))
	case "FormatException.":
		return fail(text(arg))
	case "UnsupportedError.":
		return fail("Unsupported operation: " + text(arg))
	case "UnimplementedError.":
		return fail(text(arg))
	case "RangeError.", "RangeError.value", "RangeError.index", "TypeError.", "AssertionError.", "TimeoutException.":
		return fail(text(arg))
	}
	return Value{}, false, nil
}
