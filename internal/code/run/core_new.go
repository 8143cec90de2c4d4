package run

import (
	"encoding/base64"
	"fmt"
	"math"
	"math/big"
	"regexp"
	"slices"
	"strings"
	"time"

	"vetta/internal/code"
)

// platformName is what a name of the platform stands for that is no class and no function.
func platformName(name string) (Value, bool) {
	switch name {
	case "json", "jsonCodec":
		return hostOf(codec{"JsonCodec"}), true
	case "utf8", "latin1", "ascii":
		return hostOf(codec{"Utf8Codec"}), true
	case "base64", "base64Url":
		return hostOf(codec{"Base64Codec"}), true
	case "pi":
		return doubleOf(math.Pi), true
	case "kIsWeb", "kDebugMode":
		return boolOf(false), true
	case "kReleaseMode":
		return boolOf(true), true
	}
	return Value{}, false
}

// platformStatic is a constant of a class of the platform, or a function of it as a value.
func (m *Machine) platformStatic(t *Type, name string) (Value, bool) {
	switch t.Name + "." + name {
	case "double.infinity":
		return doubleOf(math.Inf(1)), true
	case "double.negativeInfinity":
		return doubleOf(math.Inf(-1)), true
	case "double.nan":
		return doubleOf(math.NaN()), true
	case "double.maxFinite":
		return doubleOf(math.MaxFloat64), true
	case "double.minPositive":
		return doubleOf(math.SmallestNonzeroFloat64), true
	case "Duration.zero":
		return hostOf(Span{}), true
	case "BigInt.zero":
		return hostOf(Big{big.NewInt(0)}), true
	case "BigInt.one":
		return hostOf(Big{big.NewInt(1)}), true
	}
	switch t.Name {
	case "int", "double", "num", "DateTime", "Uri", "BigInt", "List", "Map", "Set", "Duration", "bool", "String", "Iterable":
		yields := t
		if strings.HasPrefix(name, "try") {
			yields = t.nullable()
		}
		takes := []*Type{stringType}
		if t.is("List", "Map", "Set", "Iterable") || strings.HasPrefix(name, "from") {
			takes = []*Type{nil}
		}
		return Value{Kind: Fn, Ref: &Closure{Sig: &Type{Name: "Function", Args: takes, Yields: yields}, Host: func(a Args) (Value, error) {
			for i, want := range takes {
				if i < len(a.List) && want != nil {
					var err error
					if a.List[i], err = m.coerce(a.List[i], want, &frame{}, false); err != nil {
						return Value{}, err
					}
				}
			}
			return m.made(t, name, a, nil, codePos{})
		}}, Static: &Type{Name: "Function", Args: takes, Yields: yields}}, true
	}
	return Value{}, false
}

// platformNew calls a constructor, or a static function, of a class of the platform or of a package.
func (m *Machine) platformNew(t *Type, name string, x *code.Expr, f *frame, e *env, types []*Type, ctx *Type) (Value, error) {
	a, err := m.arguments(x, f, e, m.paramsOfNew(t, name, ctx))
	if err != nil {
		return Value{}, err
	}
	a.Types = types
	v, err := m.made(t, name, a, ctx, x.Pos)
	return v, placed(err, x)
}

// paramsOfNew are the types that constructors of the platform take.
func (m *Machine) paramsOfNew(t *Type, name string, ctx *Type) func(int, string) *Type {
	function := func(yields *Type, takes ...*Type) *Type { return &Type{Name: "Function", Args: takes, Yields: yields} }
	switch {
	case t.is("List", "Iterable") && name == "generate":
		return func(i int, _ string) *Type {
			if i == 1 {
				return function(elemOf(t, ctx), intType)
			}
			return nil
		}
	case t.is("List", "Set") && (name == "of"):
		return func(int, string) *Type {
			if e := elemOf(t, ctx); e != nil {
				return iterOf(e)
			}
			return nil
		}
	case t.is("List", "Set", "Map") && name == "from":
		return func(int, string) *Type { return nil }
	case t.is("MapEntry"):
		return func(i int, _ string) *Type {
			if len(t.Args) == 2 {
				return t.arg(i)
			}
			if ctx.is("MapEntry") {
				return ctx.arg(i)
			}
			return nil
		}
	case t.is("Future") && len(t.Args) > 0:
		return func(int, string) *Type { return t.arg(0) }
	}
	return nil
}

// elemOf is the type of the elements of what is made: as it is written, or as it is wanted.
func elemOf(t, ctx *Type) *Type {
	if len(t.Args) > 0 {
		return t.Args[0]
	}
	if ctx.is("List", "Set", "Iterable") {
		return ctx.arg(0)
	}
	return nil
}

func (m *Machine) badArgument(v Value, t *Type) error { return m.typeError(v, t, false, false) }

// made is what a constructor or a static function of the platform makes.
func (m *Machine) made(t *Type, name string, a Args, ctx *Type, pos codePos) (Value, error) {
	arg := a.at(0)
	isText := func(v Value) error {
		if v.Kind == String || v.isUnknown() {
			return nil
		}
		return m.badArgument(v, stringType)
	}
	switch t.Name {
	case "int", "double", "num", "BigInt", "DateTime", "Uri", "bool":
		switch name {
		case "parse", "tryParse":
			if err := isText(arg); err != nil {
				return arg, err
			}
			r := t
			if name == "tryParse" {
				r = t.nullable()
			}
			if arg.isUnknown() {
				v := unknown(r, arg)
				if t.Name == "Uri" {
					v.S = arg.S
				}
				return v, nil
			}
			v, why, ok := parsed(t, a)
			switch {
			case ok:
				return v.as(r), nil
			case name == "tryParse":
				return Value{Static: r}, nil
			}
			return v, &Thrown{Class: "FormatException", Message: why, At: arg.At, Pos: pos}
		}
	}
	switch t.Name {
	case "List", "Set", "Iterable", "Queue", "LinkedHashSet", "HashSet", "UnmodifiableListView":
		return m.madeList(t, name, a, ctx, pos)
	case "Map", "LinkedHashMap", "HashMap", "SplayTreeMap", "UnmodifiableMapView":
		return m.madeMap(t, name, a, ctx, pos)
	case "DateTime":
		return m.madeDate(name, a, pos)
	case "Duration":
		return m.madeSpan(a, pos)
	case "Uri":
		if name == "https" || name == "http" {
			path := a.at(1)
			v := unknown(t, a.List...)
			v.S = "/" + strings.TrimPrefix(path.S, "/")
			if path.Kind == String && arg.Kind == String {
				v.S = name + "://" + arg.S + "/" + strings.TrimPrefix(path.S, "/")
			}
			v.Out = &Outside{Texts: []string{v.S}}
			return v, nil
		}
		if path, ok := a.named("path"); ok {
			v := unknown(t, a.List...)
			v.S = "/" + strings.TrimPrefix(path.S, "/")
			v.Out = &Outside{Texts: []string{v.S}}
			return v, nil
		}
	case "BigInt":
		if name == "from" {
			if n, ok := arg.number(); ok {
				if arg.Kind == Int {
					return hostOf(Big{big.NewInt(arg.N)}), nil
				}
				r, _ := big.NewFloat(n).Int(nil)
				return hostOf(Big{r}), nil
			}
		}
	case "String":
		switch name {
		case "fromCharCode":
			if arg.Kind == Int {
				return textOf(string(rune(arg.N))), nil
			}
		case "fromCharCodes":
			return unknown(stringType, arg), nil
		case "fromEnvironment":
			return Value{Kind: Unknown, Static: stringType, Out: &Outside{}}, nil
		}
	case "MapEntry":
		mt := &Type{Name: "MapEntry", Args: []*Type{arg.Static, a.at(1).Static}}
		if len(t.Args) == 2 {
			mt.Args = t.Args
		} else if ctx.is("MapEntry") && len(ctx.Args) == 2 {
			mt.Args = ctx.Args
		}
		var err error
		for i := range min(len(a.List), 2) {
			if a.List[i], err = m.coerce(a.List[i], mt.Args[i], &frame{}, false); err != nil {
				return arg, err
			}
		}
		arg = a.at(0)
		return Value{Kind: Hosts, Ref: &entry{arg, a.at(1)}, Static: mt}, nil
	case "RegExp":
		if arg.Kind == String {
			re, err := regexp.Compile(arg.S)
			if sensitive, ok := a.named("caseSensitive"); ok && sensitive.Kind == Bool && sensitive.N == 0 {
				re, err = regexp.Compile("(?i)" + arg.S)
			}
			if err != nil {
				re = nil
			}
			return hostOf(pattern{re, arg.S}), nil
		}
	case "StringBuffer":
		return hostOf(&buffer{}), nil
	case "Object":
		if name == "" {
			return hostOf(codec{"Object"}), nil
		}
	case "JsonDecoder", "JsonCodec", "Utf8Decoder", "JsonEncoder":
		base := "JsonCodec"
		if strings.HasPrefix(t.Name, "Utf8") {
			base = "Utf8Codec"
		}
		return hostOf(codec{base + ".decoder"}), nil
	case "Future", "FutureOr", "SynchronousFuture":
		switch name {
		case "value", "sync", "":
			if arg.Kind == Fn {
				return m.Apply(arg)
			}
			return arg, nil
		case "error":
			return Value{}, &Thrown{Class: "", Message: "Future.error", Value: arg, Own: true, Pos: pos}
		case "delayed":
			if fn := a.at(1); fn.Kind == Fn {
				return m.Apply(fn)
			}
			return Value{}, nil
		case "wait":
			return arg, nil
		}
	case "Isolate":
		if name == "run" {
			return m.Apply(arg)
		}
	}
	if v, ok, err := m.madeError(t, name, a, pos); ok || err != nil {
		return v, err
	}
	return m.callOutside(Value{Kind: Unknown, Out: &Outside{}, Static: &Type{Name: "class " + t.Name}}, name, a, &frame{}, ctx)
}

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

func (m *Machine) madeDate(name string, a Args, pos codePos) (Value, error) {
	arg := a.at(0)
	t := &Type{Name: "DateTime"}
	switch name {
	case "now", "timestamp":
		return Value{Kind: Unknown, Static: t, Out: &Outside{}}, nil
	case "fromMillisecondsSinceEpoch", "fromMicrosecondsSinceEpoch":
		v, err := m.coerce(arg, intType, &frame{}, false)
		if err != nil {
			return v, err
		}
		if v.isUnknown() {
			return unknown(t, v), nil
		}
		n := v.N
		limit := int64(8640000000000000)
		if name == "fromMicrosecondsSinceEpoch" {
			limit *= 1000
		}
		if n > limit || n < -limit {
			return v, &Thrown{Class: "ArgumentError", Message: fmt.Sprintf("RangeError (millisecondsSinceEpoch): Invalid value: Not in inclusive range -8640000000000000..8640000000000000: %d", n), At: arg.At, Pos: pos}
		}
		if name == "fromMillisecondsSinceEpoch" {
			n *= 1000
		}
		utc, _ := a.named("isUtc")
		return hostOf(Date{Micros: n, UTC: utc.Kind == Bool && utc.N == 1}), nil
	case "", "utc":
		n := []int{1970, 1, 1, 0, 0, 0, 0, 0}
		for i, v := range a.plain() {
			if v.isUnknown() {
				return unknown(t, a.List...), nil
			}
			v, err := m.coerce(v, intType, &frame{}, false)
			if err != nil {
				return v, err
			}
			if i < len(n) {
				n[i] = int(v.N)
			}
		}
		at := time.Date(n[0], time.Month(n[1]), n[2], n[3], n[4], n[5], 0, time.UTC).UnixMicro() + int64(n[6])*1000 + int64(n[7])
		return hostOf(Date{Micros: at, UTC: name == "utc"}), nil
	}
	return arg, unfollowed("DateTime."+name, pos)
}

func (m *Machine) madeSpan(a Args, pos codePos) (Value, error) {
	per := map[string]int64{"days": 86400e6, "hours": 3600e6, "minutes": 60e6, "seconds": 1e6, "milliseconds": 1e3, "microseconds": 1}
	var sum int64
	for i, name := range a.Names {
		v := a.List[len(a.plain())+i]
		v, err := m.coerce(v, intType, &frame{}, false)
		if err != nil {
			return v, err
		}
		if v.isUnknown() {
			return unknown(&Type{Name: "Duration"}, a.List...), nil
		}
		sum += v.N * per[name]
	}
	return hostOf(Span{sum}), nil
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
	case "StateError.":
		return fail("Bad state: " + text(arg))
	case "FormatException.":
		return fail(text(arg))
	case "UnsupportedError.", "UnimplementedError.":
		return fail(text(arg))
	case "RangeError.", "RangeError.value", "RangeError.index", "TypeError.", "AssertionError.", "TimeoutException.":
		return fail(text(arg))
	}
	return Value{}, false, nil
}

// platformFunctions are the functions of the platform, and of packages that generated code calls, by name.
var platformFunctions = words("jsonDecode jsonEncode print debugPrint log identical compute unawaited base64Decode base64Encode min max $enumDecode $enumDecodeNullable $checkedCreate $checkedConvert $checkKeys $checkedNew $enumDecodeWithDecodeMap")

// platformFunction calls one of them.
func (m *Machine) platformFunction(name string, x *code.Expr, f *frame, e *env, types []*Type, ctx *Type) (Value, error) {
	a, err := m.arguments(x, f, e, nil)
	if err != nil {
		return Value{}, err
	}
	a.Types = types
	arg := a.at(0)
	switch name {
	case "jsonDecode":
		v, err := m.decode(arg, x.Pos)
		return v, placed(err, x)
	case "jsonEncode", "base64Encode":
		return unknown(stringType, arg), nil
	case "print", "debugPrint", "log", "unawaited":
		return Value{Static: voidType}, nil
	case "identical":
		is, known, err := m.equal(arg, a.at(1), x.Pos)
		if err != nil || !known {
			return unknown(boolType, a.List...), err
		}
		return boolOf(is), nil
	case "compute":
		return m.Apply(arg, a.at(1))
	case "base64Decode":
		if arg.Kind == String {
			b, err := base64.StdEncoding.DecodeString(arg.S)
			if err != nil {
				b, err = base64.URLEncoding.DecodeString(arg.S)
			}
			if err != nil {
				return arg, &Thrown{Class: "FormatException", Message: "Invalid character (at character 1)\n" + arg.S, At: arg.At, Pos: x.Pos}
			}
			var items []Value
			for _, c := range b {
				items = append(items, intOf(int64(c)))
			}
			return newList(intType, items), nil
		}
		if !arg.isUnknown() {
			return arg, m.badArgument(arg, stringType)
		}
		return unknown(listOf(intType), arg), nil
	case "min", "max":
		p, ok := arg.number()
		q, also := a.at(1).number()
		if !ok || !also {
			return unknown(numType, a.List...), nil
		}
		if (p <= q) == (name == "min") {
			return arg, nil
		}
		return a.at(1), nil
	}
	return m.generated(name, a, f, x.Pos)
}

// generated is a function of the package that the parts of generators call.
func (m *Machine) generated(name string, a Args, f *frame, pos codePos) (Value, error) {
	switch name {
	case "$enumDecode", "$enumDecodeNullable":
		values, source := a.at(0), a.at(1)
		t := values.Static.arg(0)
		orElse, given := a.named("unknownValue")
		switch {
		case source.isUnknown():
			if name == "$enumDecodeNullable" {
				t = t.nullable()
			}
			return unknown(t, source), nil
		case source.IsNull() && name == "$enumDecodeNullable":
			return Value{Static: t.nullable()}, nil
		}
		var known []string
		if d := values.dict(); d != nil {
			for i, v := range d.Vals {
				is, _, err := m.equal(v, source, pos)
				if err != nil {
					return v, err
				}
				if is {
					return d.Keys[i].as(t), nil
				}
				text, _, _ := m.written(v, pos)
				known = append(known, text)
			}
		}
		if source.IsNull() {
			return source, &Thrown{Class: "ArgumentError", Message: "Invalid argument(s): A value must be provided. Supported values: " + strings.Join(known, ", "), At: source.At, Pos: pos}
		}
		if given && orElse.Kind == Obj {
			return orElse.as(t), nil
		}
		if given && !orElse.IsNull() { // JsonKey.nullForUndefinedEnumValue
			return Value{Static: t.nullable()}, nil
		}
		text, _, _ := m.written(source, pos)
		return source, &Thrown{Class: "ArgumentError", Message: "Invalid argument(s): `" + text + "` is not one of the supported values: " + strings.Join(known, ", "), At: source.At, Pos: pos}
	case "$checkedCreate":
		doc, make := a.at(1), a.at(2)
		names, _ := a.named("fieldKeyMap")
		convert := Value{Kind: Fn, Static: &Type{Name: "Function"}, Ref: &Closure{Host: func(in Args) (Value, error) {
			key := in.at(0)
			if d := names.dict(); d != nil {
				if at, _ := d.find(key); at >= 0 {
					key = d.Vals[at]
				}
			}
			read, _ := in.named("readValue")
			return m.checked(doc, key, in.at(1), read, pos)
		}}}
		return m.Apply(make, convert)
	case "$checkedConvert":
		read, _ := a.named("readValue")
		return m.checked(a.at(0), a.at(1), a.at(2), read, pos)
	case "$checkedNew":
		if fn := a.at(2); fn.Kind == Fn {
			return m.Apply(fn)
		}
	case "$checkKeys":
		return m.checkKeys(a, pos)
	}
	return Value{}, unfollowed("the function "+name, pos)
}

// checked reads one key; what fails there is told with the key.
func (m *Machine) checked(doc, key, fn, read Value, pos codePos) (Value, error) {
	var v Value
	var err error
	if read.IsNull() {
		v, err = m.element(doc, key, pos)
	} else {
		v, err = m.Apply(read, doc, key)
	}
	if err == nil {
		v, err = m.Apply(fn, v)
	}
	if t, ok := err.(*Thrown); ok && t.Class != "CheckedFromJsonException" && t.Class != "MissingRequiredKeysException" && t.Class != "DisallowedNullValueException" {
		return v, &Thrown{Class: "CheckedFromJsonException", Message: "CheckedFromJsonException\nCould not create the class.\nThere is a problem with \"" + key.S + "\".\n" + t.Error(), At: t.At, Pos: t.Pos}
	}
	return v, err
}

// checkKeys looks which keys there are.
func (m *Machine) checkKeys(a Args, pos codePos) (Value, error) {
	doc := a.at(0)
	list := func(name string) (out []string, given bool) {
		v, ok := a.named(name)
		if l := v.list(); ok && l != nil {
			for _, e := range l.Items {
				out = append(out, e.S)
			}
			return out, true
		}
		return nil, false
	}
	if allowed, ok := list("allowedKeys"); ok {
		if d := doc.dict(); d != nil {
			var bad []string
			for _, k := range d.Keys {
				if !slices.Contains(allowed, k.S) {
					bad = append(bad, k.S)
				}
			}
			if len(bad) > 0 {
				return doc, &Thrown{Class: "UnrecognizedKeysException", Message: "Unrecognized keys: [" + strings.Join(bad, ", ") + "]; supported keys: [" + strings.Join(allowed, ", ") + "]", At: doc.At, Pos: pos}
			}
		}
	}
	if required, ok := list("requiredKeys"); ok {
		var missing []string
		for _, k := range required {
			if has, known := m.hasKey(doc, textOf(k)); known && !has {
				missing = append(missing, k)
			}
		}
		if len(missing) > 0 {
			return doc, &Thrown{Class: "MissingRequiredKeysException", Message: "Required keys are missing: " + strings.Join(missing, ", ") + ".", At: doc.At, Pos: pos}
		}
	}
	if full, ok := list("disallowNullValues"); ok {
		var null []string
		for _, k := range full {
			has, _ := m.hasKey(doc, textOf(k))
			if v, err := m.element(doc, textOf(k), pos); has && err == nil && v.IsNull() {
				null = append(null, k)
			}
		}
		if len(null) > 0 {
			return doc, &Thrown{Class: "DisallowedNullValueException", Message: "These keys had `null` values, which is not allowed: [" + strings.Join(null, ", ") + "]", At: doc.At, Pos: pos}
		}
	}
	return Value{Static: voidType}, nil
}
