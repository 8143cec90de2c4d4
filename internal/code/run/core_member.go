package run

import (
	"math"
	"strings"
)

// set of the names of methods and properties of the platform's classes, by class.
func words(text string) map[string]bool {
	out := map[string]bool{}
	for _, w := range strings.Fields(text) {
		out[w] = true
	}
	return out
}

var (
	iterableMethods = words("map where whereNot whereType expand forEach toList toSet any every firstWhere lastWhere singleWhere fold reduce join elementAt contains followedBy take skip takeWhile skipWhile cast toString")
	listMethods     = words("add addAll insert insertAll remove removeAt removeLast removeWhere retainWhere clear sort shuffle asMap sublist getRange indexOf lastIndexOf indexWhere setAll union intersection difference containsAll")
	mapMethods      = words("forEach map containsKey containsValue cast putIfAbsent update updateAll remove removeWhere addAll addEntries clear toString")
	textMethods     = words("trim trimLeft trimRight toLowerCase toUpperCase split contains startsWith endsWith substring replaceAll replaceFirst replaceRange padLeft padRight indexOf lastIndexOf codeUnitAt compareTo toString splitMapJoin replaceAllMapped allMatches")
	numberMethods   = words("toInt toDouble round floor ceil truncate roundToDouble floorToDouble ceilToDouble truncateToDouble abs toString toStringAsFixed toStringAsPrecision toStringAsExponential clamp compareTo remainder toRadixString gcd toSigned toUnsigned")
	// methods are all of them, with those of a package of collections that apps use.
	methods = join(iterableMethods, listMethods, mapMethods, textMethods, numberMethods, words("firstWhereOrNull lastWhereOrNull singleWhereOrNull byName asNameMap mapIndexed forEachIndexed sorted sortedBy elementAtOrNull foldIndexed toIso8601String toLocal toUtc add subtract difference isBefore isAfter isAtSameMomentAs hasMatch stringMatch write writeln then catchError whenComplete timeout toList asStream noSuchMethod"))
	members = words("length isEmpty isNotEmpty first last single firstOrNull lastOrNull singleOrNull reversed keys values entries iterator indexed nonNulls name index hashCode runtimeType codeUnits runes characters isNaN isNegative isInfinite isFinite isEven isOdd sign bitLength year month day hour minute second millisecond microsecond weekday millisecondsSinceEpoch microsecondsSinceEpoch isUtc inDays inHours inMinutes inSeconds inMilliseconds inMicroseconds")
)

func join(sets ...map[string]bool) map[string]bool {
	out := map[string]bool{}
	for _, s := range sets {
		for w := range s {
			out[w] = true
		}
	}
	return out
}

// platformHas says whether a class of the platform has a method of a name of its own.
func platformHas(t *Type, name string) bool {
	switch {
	case t == nil:
		return true
	case t.is("List", "Set", "Iterable"):
		return iterableMethods[name] || t.Name != "Iterable" && listMethods[name]
	case t.is("Map"):
		return mapMethods[name]
	case t.is("String"):
		return textMethods[name]
	case t.is("int", "double", "num"):
		return numberMethods[name]
	}
	return name == "toString"
}

// platformMember is a property of a value of the platform; ok is false where it has none of the name.
func (m *Machine) platformMember(of Value, name string, pos codePos) (v Value, ok bool, err error) {
	switch name {
	case "hashCode":
		return unknown(intType, of), true, nil
	case "runtimeType":
		if of.isUnknown() {
			return unknown(&Type{Name: "Type"}, of), true, nil
		}
		return classValue(m.typeOf(of)), true, nil
	}
	switch of.Kind {
	case Lists:
		return m.listMember(of, name, pos)
	case Maps:
		return m.mapMember(of, name)
	case String:
		n := func() int64 { return int64(len(units(of.S))) }
		switch name {
		case "length":
			return intOf(n()), true, nil
		case "isEmpty":
			return boolOf(of.S == ""), true, nil
		case "isNotEmpty":
			return boolOf(of.S != ""), true, nil
		case "codeUnits", "runes":
			var items []Value
			if name == "runes" {
				for _, r := range of.S {
					items = append(items, intOf(int64(r)))
				}
			} else {
				for _, u := range units(of.S) {
					items = append(items, intOf(int64(u)))
				}
			}
			return newList(intType, items), true, nil
		}
	case Int, Double:
		x, _ := of.number()
		switch name {
		case "isNaN":
			return boolOf(math.IsNaN(x)), true, nil
		case "isNegative":
			return boolOf(x < 0 || of.Kind == Double && math.Signbit(x)), true, nil
		case "isInfinite":
			return boolOf(math.IsInf(x, 0)), true, nil
		case "isFinite":
			return boolOf(!math.IsInf(x, 0) && !math.IsNaN(x)), true, nil
		case "sign":
			if of.Kind == Int {
				return intOf(compare(of.N, 0)), true, nil
			}
			return doubleOf(float64(compare(int64(math.Copysign(1, x)), 0))), true, nil
		case "isEven", "isOdd":
			if of.Kind == Int {
				return boolOf((of.N&1 == 0) == (name == "isEven")), true, nil
			}
		}
	case Obj:
		o := of.object()
		if o.Enum != "" {
			switch name {
			case "name":
				return textOf(o.Enum), true, nil
			case "index":
				return intOf(int64(o.Index)), true, nil
			}
		}
	case Hosts:
		if v, ok := hostMember(of.Ref.(Host), name); ok {
			return v, true, nil
		}
	case Recs:
		r := of.Ref.(*Rec)
		at := 0
		for i, n := range r.Names {
			if n == "" {
				at++
				if name == "$"+string(rune('0'+at)) {
					return r.Vals[i], true, nil
				}
			} else if n == name {
				return r.Vals[i], true, nil
			}
		}
	case Unknown:
		if of.Out != nil && of.At == nil {
			break
		}
		switch name {
		case "keys", "values", "entries":
			return m.mapMember(m.asMap(of), name)
		case "first", "last", "single", "firstOrNull", "lastOrNull", "reversed", "indexed", "nonNulls":
			if of.Static == nil || of.Static.is("List", "Iterable", "Set") {
				return m.listMember(m.asList(of), name, pos)
			}
		}
	}
	return of, false, nil
}

func (m *Machine) listMember(of Value, name string, pos codePos) (v Value, ok bool, err error) {
	l := of.list()
	switch name {
	case "length", "isEmpty", "isNotEmpty", "first", "last", "single", "firstOrNull", "lastOrNull", "singleOrNull", "reversed", "indexed", "nonNulls":
	default:
		return of, false, nil
	}
	elem := l.Elem
	if l.Cast != nil {
		if name == "length" || name == "isEmpty" || name == "isNotEmpty" {
			plain := *l
			plain.Cast = nil
			of.Ref = &plain
		}
	}
	if l.Item != nil && name != "reversed" && name != "indexed" && name != "nonNulls" { // only what is asked for is made
		return m.mappedMember(of, name, pos)
	}
	items, some, err := m.elements(of, pos)
	if err != nil {
		return of, true, err
	}
	switch name {
	case "length":
		if some != nil {
			return unknown(intType, of), true, nil
		}
		return intOf(int64(len(items))), true, nil
	case "isEmpty", "isNotEmpty":
		if some != nil {
			return unknown(boolType, of), true, nil
		}
		return boolOf((len(items) == 0) == (name == "isEmpty")), true, nil
	case "reversed":
		out := make([]Value, len(items))
		for i, v := range items {
			out[len(items)-1-i] = v
		}
		return Value{Kind: Lists, Ref: &List{Elem: elem, Kind: "Iterable", Items: out, Some: some}, Static: iterOf(elem)}, true, nil
	case "nonNulls":
		return m.filtered(of, elem.solid(), pos, func(v Value) (bool, bool) { return !v.IsNull(), !v.isUnknown() })
	case "indexed":
		t := &Type{Name: "Record", Args: []*Type{intType, elem}}
		pair := func(i Value, v Value) Value {
			return Value{Kind: Recs, Ref: &Rec{Names: []string{"", ""}, Vals: []Value{i, v}}, Static: t}
		}
		var out []Value
		for i, v := range items {
			out = append(out, pair(intOf(int64(i)), v))
		}
		n := &List{Elem: t, Kind: "Iterable", Items: out}
		if some != nil {
			p := pair(Value{Kind: Unknown, Static: intType}, *some)
			n.Some = &p
		}
		return Value{Kind: Lists, Ref: n, Static: iterOf(t)}, true, nil
	}
	orNull := strings.HasSuffix(name, "OrNull")
	t := elem
	if orNull {
		t = elem.nullable()
	}
	if some != nil {
		v := *some
		if of.At != nil {
			n := 0
			if strings.HasPrefix(name, "last") {
				n = -1
			}
			v.At = of.At.sub(Elem, "", n)
		}
		return v.as(t), true, nil
	}
	if len(items) == 0 {
		if orNull {
			return Value{Static: t}, true, nil
		}
		return of, true, stateError("No element", of)
	}
	if strings.HasPrefix(name, "single") && len(items) > 1 {
		if orNull {
			return Value{Static: t}, true, nil
		}
		return of, true, stateError("Too many elements", of)
	}
	if strings.HasPrefix(name, "last") {
		return items[len(items)-1].as(t), true, nil
	}
	return items[0].as(t), true, nil
}

// memberOfUnknown is a property of a value that is not known.
func (m *Machine) memberOfUnknown(of Value, name string) Value {
	if of.Out != nil && of.At == nil {
		return m.outsideMember(of, name)
	}
	var t *Type
	switch name {
	case "length", "inDays", "inHours", "inMinutes", "inSeconds", "inMilliseconds", "millisecondsSinceEpoch", "microsecondsSinceEpoch", "year", "month", "day", "hour", "minute", "second", "weekday", "index":
		t = intType
	case "isEmpty", "isNotEmpty", "isNaN", "isEven", "isOdd", "isNegative", "isFinite", "isInfinite", "isUtc":
		t = boolType
	case "name", "path", "host", "scheme":
		t = stringType
	}
	if of.Static == nil {
		t = nil
	}
	if of.Static.is("MapEntry") {
		switch name {
		case "key":
			t = of.Static.arg(0)
		case "value":
			t = of.Static.arg(1)
		}
	}
	return unknown(t, of)
}

// mappedMember is a property of what is mapped lazily.
func (m *Machine) mappedMember(of Value, name string, pos codePos) (v Value, ok bool, err error) {
	l := of.list()
	source, _, err := m.listMember(*l.Source, name, pos)
	if err != nil || name == "length" || name == "isEmpty" || name == "isNotEmpty" {
		return source, true, err
	}
	if strings.HasSuffix(name, "OrNull") && source.IsNull() {
		return Value{Static: l.Elem.nullable()}, true, nil
	}
	v, err = l.Item(0, source)
	return v, true, err
}
