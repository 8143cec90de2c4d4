package run

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"vetta/internal/code"
)

// platformParams are the types of what a method of the platform takes, nil for what is not told.
func (m *Machine) platformParams(of Value, name string, types []*Type) func(i int, label string) *Type {
	t := of.Static
	function := func(yields *Type, takes ...*Type) *Type { return &Type{Name: "Function", Args: takes, Yields: yields} }
	if t == nil {
		return func(i int, label string) *Type {
			return nil
		}
	}
	switch {
	case t.is("List", "Iterable", "Set"):
		e := t.arg(0)
		return func(i int, label string) *Type {
			switch name {
			case "map":
				if len(types) == 1 {
					return function(types[0], e)
				}
				return function(nil, e)
			case "where", "any", "every", "firstWhere", "lastWhere", "singleWhere", "firstWhereOrNull", "removeWhere", "retainWhere", "takeWhile", "skipWhile", "indexWhere":
				if label == "orElse" {
					return function(e)
				}
				return function(boolType, e)
			case "forEach", "expand":
				return function(nil, e)
			case "mapIndexed", "forEachIndexed":
				return function(nil, intType, e)
			case "fold":
				if i == 1 {
					return function(nil, nil, e)
				}
				if len(types) == 1 {
					return types[0]
				}
			case "reduce", "sort":
				return function(nil, e, e)
			case "add", "contains", "remove", "indexOf":
				return e
			case "addAll", "followedBy":
				return iterOf(e)
			case "insert":
				if i == 1 {
					return e
				}
			}
			return nil
		}
	case t.is("Map"):
		k, v := t.arg(0), t.arg(1)
		return func(i int, label string) *Type {
			switch name {
			case "forEach", "map", "removeWhere":
				return function(nil, k, v)
			case "putIfAbsent", "update":
				if i == 0 {
					return k
				}
				if name == "update" && label == "" {
					return function(v, v)
				}
				return function(v)
			case "addAll":
				return t
			case "containsKey", "remove":
				return k
			}
			return nil
		}
	case t.is("double"):
		return func(int, string) *Type { return nil }
	}
	return nil
}

// platformCall calls a method of a value that is no instance of a class of the app.
func (m *Machine) platformCall(of Value, name string, a Args, f *frame, x *code.Expr) (Value, error) {
	if err := m.step(1, x.Pos); err != nil {
		return of, err
	}
	switch name { // of what comes later, which is there
	case "then":
		return m.Apply(a.at(0), of)
	case "catchError", "whenComplete", "timeout", "onError", "asStream", "ignore":
		if of.isUnknown() || of.Static.is("Future") || of.Kind != Obj {
			return of, nil
		}
	}
	dynamic := of.Static == nil && !of.isUnknown()
	v, ok, err := m.methodOf(of, name, a, f, x.Pos)
	if err != nil {
		return v, placed(err, x)
	}
	if ok {
		if dynamic && v.Kind != Obj {
			v.Static = nil
		}
		return v, nil
	}
	if p, ok, err := m.platformMember(of, name, x.Pos); ok && err == nil && (p.Kind == Fn || p.isUnknown()) {
		return m.Apply(p, a.List...)
	}
	if of.IsNull() {
		if name == "toString" {
			return textOf("null"), nil
		}
		return of, placed(nullCalled(name, false, of, m.writtenArgs(a.List), a.Types...), x)
	}
	if of.Static == nil || !methods[name] && (of.Kind == Int || of.Kind == Bool || of.Kind == Double) {
		if err := m.unlikely(of, name, a); err != nil {
			return of, placed(err, x)
		}
	}
	if name == "toString" {
		text, known, err := m.written(of, x.Pos)
		if err != nil || !known {
			return unknown(stringType, of), err
		}
		return textOf(text), nil
	}
	return of, unfollowed("the method "+name, x.Pos)
}

// unlikely is the error of a method that the class of a dynamic value does not have; nil where that is not sure.
func (m *Machine) unlikely(of Value, name string, a Args) error {
	switch of.Kind {
	case Obj, Hosts, Fn, Class, Recs, Unknown:
		return nil
	}
	t, ok := noMember(m, of, name, "method", a.List...).(*Thrown)
	if ok && len(a.Types) > 0 {
		t.Message = strings.Replace(t.Message, "Tried calling: "+name, "Tried calling: "+calledAs(name, a), 1)
	}
	return t
}

// calledAs is the name of a method with the types that it is given.
func calledAs(name string, a Args) string {
	if len(a.Types) == 0 {
		return name
	}
	return name + "<" + joined(a.Types) + ">"
}

// methodOf is what a method of the platform yields; ok is false where the value has none of the name.
func (m *Machine) methodOf(of Value, name string, a Args, f *frame, pos codePos) (v Value, ok bool, err error) {
	switch of.Kind {
	case Lists:
		return m.listCall(of, name, a, f, pos)
	case Maps:
		if (name == "cast" || name == "map") && of.Static == nil && len(a.Types) == 1 { // as of a list
			return of, true, &Thrown{Class: "NoSuchMethodError", Message: fmt.Sprintf("NoSuchMethodError: Class '_Map<String, dynamic>' has no instance method '%s' with matching arguments. Receiver: %s Tried calling: %s(%s)", name, m.shown(of), calledAs(name, a), m.writtenArgs(a.List)), At: of.At, Pos: pos}
		}
		return m.mapCall(of, name, a, f, pos)
	case String:
		return m.textCall(of, name, a, pos)
	case Int, Double:
		return m.numberCall(of, name, a, pos)
	case Bool:
		if name == "toString" {
			return textOf(strconv.FormatBool(of.N == 1)), true, nil
		}
	case Null:
		if name == "toString" {
			return textOf("null"), true, nil
		}
	case Hosts:
		return m.hostCall(of.Ref.(Host), name, a, pos)
	case Unknown:
		return m.callUnknown(of, name, a, f, pos)
	case Fn:
		if name == "call" {
			v, err := m.apply(of.Ref.(*Closure), a)
			return v, true, err
		}
	}
	return of, false, nil
}

// callUnknown is a method of a value that is not known.
func (m *Machine) callUnknown(of Value, name string, a Args, f *frame, pos codePos) (Value, bool, error) {
	t := of.Static
	listLike := t.is("List", "Iterable", "Set")
	mapLike := t.is("Map")
	if t == nil {
		takes := 0
		if c, ok := a.at(0).Ref.(*Closure); ok && c.Fn != nil {
			takes = len(c.Fn.Params)
		}
		switch name {
		case "forEach", "map":
			listLike, mapLike = takes != 2, takes == 2
		case "containsKey", "putIfAbsent", "addEntries":
			mapLike = true
		case "cast":
			listLike, mapLike = len(a.Types) < 2, len(a.Types) == 2
		case "toList", "toSet", "where", "whereType", "expand", "any", "every", "firstWhere", "lastWhere", "singleWhere", "firstWhereOrNull", "fold", "reduce", "join", "elementAt", "followedBy", "take", "skip", "sublist", "mapIndexed":
			listLike = true
		}
	}
	switch {
	case listLike:
		l := m.asList(of)
		if l.Kind != Lists {
			break
		}
		v, ok, err := m.listCall(l, name, a, f, pos)
		if ok && t == nil && err == nil && name != "cast" && (v.isUnknown() || v.Kind == Lists) {
			v.Static = nil
		}
		return v, ok, err
	case mapLike:
		if name == "containsKey" && of.At != nil && a.at(0).Kind == String {
			v := unknown(boolType, of)
			v.From = []*Place{of.At.sub(Member, a.at(0).S, 0)}
			return v, true, nil
		}
		return m.mapCall(m.asMap(of), name, a, f, pos)
	}
	var r *Type
	if t != nil {
		switch name {
		case "toString", "trim", "trimLeft", "trimRight", "toLowerCase", "toUpperCase", "substring", "replaceAll", "replaceFirst", "padLeft", "padRight", "toStringAsFixed", "toIso8601String":
			r = stringType
		case "toInt", "round", "floor", "ceil", "truncate", "indexOf", "compareTo", "codeUnitAt":
			r = intType
		case "toDouble", "roundToDouble":
			r = doubleType
		case "contains", "startsWith", "endsWith", "isBefore", "isAfter":
			r = boolType
		case "split":
			r = listOf(stringType)
		case "abs", "clamp", "add", "subtract", "toLocal", "toUtc":
			r = t
		case "difference":
			r = &Type{Name: "Duration"}
		}
	} else if name == "toString" {
		r = stringType
	}
	v := unknown(r, append(a.List, of)...)
	return v, true, nil
}

// textCall is a method of a text.
func (m *Machine) textCall(of Value, name string, a Args, pos codePos) (Value, bool, error) {
	s, arg := of.S, a.at(0)
	for i, v := range a.List {
		if v.isUnknown() {
			t := map[string]*Type{"contains": boolType, "startsWith": boolType, "endsWith": boolType, "indexOf": intType, "compareTo": intType, "split": listOf(stringType)}[name]
			if t == nil {
				t = stringType
			}
			u := unknown(t, append(a.List, of)...)
			if from := a.at(0); (name == "replaceAll" || name == "replaceFirst") && from.Kind == String && i == 1 { // as much of a path as is known
				u.S = strings.ReplaceAll(s, from.S, "{}")
			}
			return u, true, nil
		}
	}
	text := func(i int) (string, bool) { v := a.at(i); return v.S, v.Kind == String }
	switch name {
	case "trim":
		return textOf(trim(s)), true, nil
	case "trimLeft":
		return textOf(strings.TrimLeftFunc(s, isBlank)), true, nil
	case "trimRight":
		return textOf(strings.TrimRightFunc(s, isBlank)), true, nil
	case "toLowerCase":
		return textOf(strings.ToLower(s)), true, nil
	case "toUpperCase":
		return textOf(strings.ToUpper(s)), true, nil
	case "toString":
		return textOf(s), true, nil
	}
	if arg.Kind != String && arg.Kind != Int && arg.Kind != Hosts && len(a.List) > 0 {
		if arg.IsNull() || arg.Static == nil {
			want := "Pattern"
			if name == "compareTo" || name == "endsWith" {
				want = "String"
			}
			if name == "substring" || name == "padLeft" || name == "padRight" || name == "codeUnitAt" {
				want = "int"
			}
			return of, true, m.typeError(arg, &Type{Name: want}, false, false)
		}
		return of, false, nil
	}
	if p, ok := arg.Ref.(pattern); ok {
		if p.re == nil {
			return of, false, nil
		}
		switch name {
		case "contains":
			return boolOf(p.re.MatchString(s)), true, nil
		case "startsWith":
			at := p.re.FindStringIndex(s)
			return boolOf(at != nil && at[0] == 0), true, nil
		case "split":
			return newList(stringType, texts(p.re.Split(s, -1))), true, nil
		case "replaceAll":
			if with, ok := text(1); ok {
				return textOf(p.re.ReplaceAllLiteralString(s, with)), true, nil
			}
		case "replaceFirst":
			if with, ok := text(1); ok {
				if at := p.re.FindStringIndex(s); at != nil {
					return textOf(s[:at[0]] + with + s[at[1]:]), true, nil
				}
				return of, true, nil
			}
		}
		return of, false, nil
	}
	switch name {
	case "split":
		if sep, ok := text(0); ok {
			if sep == "" {
				return newList(stringType, texts(runesOf(s))), true, nil
			}
			return newList(stringType, texts(strings.Split(s, sep))), true, nil
		}
	case "contains":
		if t, ok := text(0); ok {
			return boolOf(strings.Contains(s, t)), true, nil
		}
	case "startsWith":
		if t, ok := text(0); ok {
			return boolOf(strings.HasPrefix(s, t)), true, nil
		}
	case "endsWith":
		if t, ok := text(0); ok {
			return boolOf(strings.HasSuffix(s, t)), true, nil
		}
	case "compareTo":
		if t, ok := text(0); ok {
			return intOf(int64(strings.Compare(s, t))), true, nil
		}
	case "replaceAll", "replaceFirst":
		from, ok := text(0)
		to, also := text(1)
		if ok && also {
			n := -1
			if name == "replaceFirst" {
				n = 1
			}
			if len(s)*(len(to)+1) > maxText {
				return of, true, unfollowed("a text that long", pos)
			}
			return textOf(strings.Replace(s, from, to, n)), true, nil
		}
	case "indexOf", "lastIndexOf":
		if t, ok := text(0); ok && len(a.List) == 1 {
			at := strings.Index(s, t)
			if name == "lastIndexOf" {
				at = strings.LastIndex(s, t)
			}
			if at > 0 {
				at = len(units(s[:at]))
			}
			return intOf(int64(at)), true, nil
		}
	case "substring":
		u := units(s)
		from, to := arg.N, int64(len(u))
		if end := a.at(1); end.Kind == Int {
			to = end.N
		}
		if arg.Kind != Int {
			break
		}
		if from < 0 || from > int64(len(u)) || to < from || to > int64(len(u)) {
			name, at, least := "start", from, int64(0)
			if from >= 0 && from <= int64(len(u)) {
				name, at, least = "end", to, from
			}
			return of, true, &Thrown{Class: "RangeError", Message: fmt.Sprintf("RangeError (%s): Invalid value: Not in inclusive range %d..%d: %d", name, least, len(u), at), At: of.At, Pos: pos}
		}
		return textOf(fromUnits(u[from:to])), true, nil
	case "codeUnitAt":
		u := units(s)
		if arg.Kind == Int {
			if arg.N < 0 || arg.N >= int64(len(u)) {
				return of, true, rangeError(arg.N, len(u), of, pos)
			}
			return intOf(int64(u[arg.N])), true, nil
		}
	case "padLeft", "padRight":
		pad := " "
		if t, ok := text(1); ok {
			pad = t
		}
		if arg.Kind == Int && arg.N < maxText {
			missing := max(int(arg.N)-len(units(s)), 0)
			if name == "padLeft" {
				return textOf(strings.Repeat(pad, missing) + s), true, nil
			}
			return textOf(s + strings.Repeat(pad, missing)), true, nil
		}
	}
	return of, false, nil
}

func texts(all []string) []Value {
	var out []Value
	for _, s := range all {
		out = append(out, textOf(s))
	}
	return out
}

// numberCall is a method of a number.
func (m *Machine) numberCall(of Value, name string, a Args, pos codePos) (Value, bool, error) {
	f, _ := of.number()
	rounded := func(g float64) (Value, bool, error) {
		if of.Kind == Int {
			return intOf(of.N), true, nil
		}
		v, err := truncated(g, "")
		if t, ok := err.(*Thrown); ok {
			t.Message = "Unsupported operation: Infinity or NaN toInt"
			t.At, t.Pos = of.At, pos
		}
		return v, true, err
	}
	switch name {
	case "toInt", "truncate":
		return rounded(math.Trunc(f))
	case "round":
		return rounded(math.Round(f))
	case "floor":
		return rounded(math.Floor(f))
	case "ceil":
		return rounded(math.Ceil(f))
	case "toDouble":
		return doubleOf(f), true, nil
	case "roundToDouble":
		return doubleOf(math.Round(f)), true, nil
	case "floorToDouble":
		return doubleOf(math.Floor(f)), true, nil
	case "ceilToDouble":
		return doubleOf(math.Ceil(f)), true, nil
	case "truncateToDouble":
		return doubleOf(math.Trunc(f)), true, nil
	case "abs":
		if of.Kind == Int {
			return intOf(max(of.N, -of.N)), true, nil
		}
		return doubleOf(math.Abs(f)), true, nil
	case "toString":
		if of.Kind == Int {
			return textOf(strconv.FormatInt(of.N, 10)), true, nil
		}
		return textOf(doubleText(f)), true, nil
	case "toStringAsFixed":
		n := a.at(0)
		if n.Kind == Int && n.N >= 0 && n.N <= 20 && math.Abs(f) < 1e21 {
			return textOf(strconv.FormatFloat(f, 'f', int(n.N), 64)), true, nil
		}
	case "toRadixString":
		n := a.at(0)
		if n.Kind == Int && n.N >= 2 && n.N <= 36 && of.Kind == Int {
			return textOf(strconv.FormatInt(of.N, int(n.N))), true, nil
		}
	case "compareTo":
		if g, ok := a.at(0).number(); ok {
			switch {
			case f < g:
				return intOf(-1), true, nil
			case f > g:
				return intOf(1), true, nil
			}
			return intOf(0), true, nil
		}
	case "clamp":
		lo, ok := a.at(0).number()
		hi, also := a.at(1).number()
		if ok && also {
			switch {
			case f < lo:
				return a.at(0), true, nil
			case f > hi:
				return a.at(1), true, nil
			}
			return of, true, nil
		}
	case "remainder":
		if n := a.at(0); n.Kind == Int && of.Kind == Int && n.N != 0 {
			return intOf(of.N % n.N), true, nil
		}
		if g, ok := a.at(0).number(); ok {
			return doubleOf(math.Mod(f, g)), true, nil
		}
	}
	return of, false, nil
}
