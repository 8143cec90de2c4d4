package run

import (
	"encoding/base64"
	"math"
	"math/big"
	"regexp"
	"strings"

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
		return fixedAs(name)(m.madeList(t, name, a, ctx, pos))
	case "Map", "LinkedHashMap", "HashMap", "SplayTreeMap", "UnmodifiableMapView":
		return fixedAs(name)(m.madeMap(t, name, a, ctx, pos))
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
