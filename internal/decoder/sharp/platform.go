package sharp

import (
	"math"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// platformClass says whether a name is one of a class of the platform whose static members code asks for.
func platformClass(name string) bool {
	if predefined[name] || words[name] != "" {
		return true
	}
	switch name {
	case "Math", "Convert", "Enum", "DateTime", "DateTimeOffset", "DateOnly", "TimeOnly", "TimeSpan", "Guid", "Uri", "Version", "Array", "Enumerable", "JsonDocument", "JsonNode", "JsonSerializer", "JsonConvert", "JObject", "JArray", "JToken",
		"JsonValueKind", "JsonTokenType", "JTokenType", "JsonToken", "CultureInfo", "DateTimeStyles", "NumberStyles", "StringComparison", "StringSplitOptions", "StringComparer", "Environment", "KeyValuePair", "CancellationToken", "Tuple", "Task", "Encoding", "JsonElement", "JsonObject", "JsonArray", "JsonValue",
		"XDocument", "XElement", "XNamespace", "XName", "XNode", "XmlReader", "XmlConvert", "XAttribute", "XmlNodeType", "DtdProcessing", "LoadOptions", "XmlDateTimeSerializationMode", "XmlSchemaForm",
		"ArgumentNullException", "ArgumentException", "GC", "Debug", "Trace", "Console", "Comparer", "Activator", "Utf8JsonReader", "MidpointRounding", "ImmutableArray", "ImmutableList", "HttpCompletionOption", "BitConverter", "Char", "DateTimeKind", "Nullable", "JsonNodeOptions", "JsonCommentHandling", "TypeCode":
		return true
	}
	return false
}

// word is a constant of an enum of the platform's, by name.
func word(of, name string) Value {
	return Value{Kind: Host, Ref: &platformWord{of, name}}
}

type platformWord struct{ of, name string }

func (w *platformWord) sameAs(other any) bool {
	o, ok := other.(*platformWord)
	return ok && o.name == w.name && o.of == w.of
}

func (w *platformWord) call(_ *Machine, name string, args []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	switch {
	case name == "ToString":
		return TextOf(w.name), true, nil
	case w.of == "Encoding" && (name == "GetBytes" || name == "GetString") && len(args) == 1:
		return args[0], true, nil // of a document, which stays the same
	}
	return Value{}, false, nil
}

// wordsOf are types of the platform whose members are constants to code.
var wordsOf = func() map[string]bool {
	all := map[string]bool{}
	for _, name := range strings.Fields("JsonValueKind JsonTokenType JTokenType JsonToken CultureInfo DateTimeStyles NumberStyles StringComparison StringSplitOptions StringComparer CancellationToken MidpointRounding HttpCompletionOption Encoding DateTimeKind JsonCommentHandling DateParseHandling FloatParseHandling NullValueHandling JsonNamingPolicy JsonSerializerDefaults JsonNumberHandling MissingMemberHandling Formatting JsonIgnoreCondition XmlNodeType DtdProcessing LoadOptions XmlDateTimeSerializationMode XmlSchemaForm WhitespaceHandling JsonTypeInfoKind Required DefaultValueHandling ObjectCreationHandling MemberSerialization") {
		all[name] = true
	}
	return all
}()

// opaque is an object whose members say nothing to code that reads: options, settings.
type opaque struct{ name string }

func (o *opaque) is(name string) (bool, bool) { return name == o.name, true }

func (o *opaque) call(_ *Machine, _ string, _ []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	return Value{Kind: Host, Ref: o}, true, nil
}

// platformMember is a static member of a type of the platform.
func (m *Machine) platformMember(of Value, name string, x *code.Expr) (Value, bool, error) {
	t := of.Ref.(*typed).t
	if t == nil {
		return Value{}, false, nil
	}
	if wordsOf[t.Name] {
		return word(t.Name, name), true, nil
	}
	switch t.Name {
	case "string":
		if name == "Empty" {
			return TextOf(""), true, nil
		}
	case "int", "long", "double", "decimal", "byte", "short", "float":
		switch name {
		case "MaxValue":
			return map[string]Value{"int": IntOf(math.MaxInt32), "long": numberOf(math.MaxInt64, "long"), "byte": numberOf(255, "byte"), "short": numberOf(32767, "short"), "double": floatOf(math.MaxFloat64), "decimal": decimalOf("79228162514264337593543950335")}[t.Name], true, nil
		case "MinValue":
			return map[string]Value{"int": IntOf(math.MinInt32), "long": numberOf(math.MinInt64, "long"), "byte": numberOf(0, "byte"), "short": numberOf(-32768, "short"), "double": floatOf(-math.MaxFloat64), "decimal": decimalOf("-79228162514264337593543950335")}[t.Name], true, nil
		case "NaN":
			return floatOf(math.NaN()), true, nil
		case "Zero":
			return decimalOf("0"), true, nil
		case "One":
			return decimalOf("1"), true, nil
		case "PositiveInfinity":
			return floatOf(math.Inf(1)), true, nil
		}
	case "DateTime", "DateTimeOffset", "TimeSpan", "Guid", "DateOnly", "TimeOnly":
		switch name {
		case "MinValue", "Empty":
			return m.zero(t), true, nil
		case "Zero":
			return plainOf("TimeSpan", clr.String("00:00:00")), true, nil
		case "UnixEpoch":
			z := "Z"
			if t.Name == "DateTimeOffset" {
				z = "+00:00"
			}
			return plainOf(t.Name, clr.Date(1970, 1, 1, 0, 0, 0, "", z)), true, nil
		}
	case "ImmutableArray", "ImmutableList", "ImmutableQueue", "ImmutableStack", "ReadOnlyCollection":
		if name == "Empty" {
			return listOf(nil), true, nil
		}
	case "ImmutableHashSet", "ImmutableSortedSet", "FrozenSet":
		if name == "Empty" {
			return Value{Kind: Items, Ref: &list{set: true}}, true, nil
		}
	case "ImmutableDictionary", "ImmutableSortedDictionary", "FrozenDictionary", "ReadOnlyDictionary":
		if name == "Empty" {
			return Value{Kind: Entries, Ref: &entries{}}, true, nil
		}
	case "Math":
		if name == "PI" {
			return floatOf(math.Pi), true, nil
		}
	case "Console":
		return Value{Kind: Host, Ref: &opaque{"TextWriter"}}, true, nil
	case "Environment":
		if name == "NewLine" {
			return TextOf("\n"), true, nil
		}
	}
	// a group of methods: int.Parse
	return Value{Kind: Function, Ref: &closure{host: func(args []Value) (Value, error) {
		v, known, err := m.platformCall(t.Name, name, args, x, &frame{}, nil)
		if err == nil && !known {
			err = unfollowed("a call of "+t.Name+"."+name, x.Pos)
		}
		return v, err
	}}}, true, nil
}

// text is a string among arguments.
func textAt(args []Value, i int) (string, bool) {
	if i >= len(args) || args[i].Kind != String {
		return "", false
	}
	return args[i].Text, true
}

// put gives a variable that was handed over a value.
func put(args []Value, i int, v Value) {
	if i < len(args) && args[i].Kind == Cell {
		*args[i].Ref.(*Value) = v
	}
}

// outAt is the index of the argument that is handed over as a variable.
func outAt(args []Value) int {
	for i, a := range args {
		if a.Kind == Cell {
			return i
		}
	}
	return len(args)
}

// platformCall is a call of a static method of a class of the platform.
func (m *Machine) platformCall(of, name string, args []Value, x *code.Expr, f *frame, want *model.Type) (Value, bool, error) {
	switch of {
	case "int", "long", "short", "byte", "sbyte", "uint", "ulong", "ushort", "double", "float", "decimal", "bool", "Guid", "DateTime", "DateTimeOffset", "DateOnly", "TimeOnly", "TimeSpan", "Version", "Uri", "char":
		if v, known, err := m.parsing(of, name, args, x); known || err != nil {
			return v, known, err
		}
	case "string":
		return m.stringStatic(name, args, x, f)
	case "Enum":
		return m.enumStatic(name, args, x, f)
	case "Convert":
		return m.converting(name, args, x)
	case "Math":
		return m.mathStatic(name, args, x)
	case "ArgumentNullException", "ArgumentException":
		if strings.HasPrefix(name, "ThrowIfNull") && len(args) > 0 {
			if args[0].IsNull() {
				return Value{}, true, m.throw("ArgumentNullException", "Value cannot be null.")
			}
			if name == "ThrowIfNullOrEmpty" && args[0].Text == "" || name == "ThrowIfNullOrWhiteSpace" && strings.TrimSpace(args[0].Text) == "" {
				return Value{}, true, m.throw("ArgumentException", "The value cannot be an empty string.")
			}
			return Value{}, true, nil
		}
	case "Array", "Enumerable", "ImmutableArray", "ImmutableList":
		switch name {
		case "Empty", "Create":
			return listOf(args), true, nil
		case "Range":
			l := &list{}
			for i := int64(0); len(args) == 2 && i < args[1].Int && i < maxItems; i++ {
				l.items = append(l.items, IntOf(args[0].Int+i))
			}
			return Value{Kind: Items, Ref: l}, true, nil
		case "Repeat":
			l := &list{}
			for i := int64(0); len(args) == 2 && i < args[1].Int && i < maxItems; i++ {
				l.items = append(l.items, args[0])
			}
			return Value{Kind: Items, Ref: l}, true, nil
		case "IndexOf":
			if len(args) == 2 && args[0].Kind == Items {
				for i, e := range args[0].list().items {
					if same(e, args[1]) {
						return IntOf(int64(i)), true, nil
					}
				}
				return IntOf(-1), true, nil
			}
		}
	case "Task":
		if name == "FromResult" && len(args) == 1 {
			return args[0], true, nil
		}
	case "KeyValuePair":
		if name == "Create" && len(args) == 2 {
			return pairOf(args[0], args[1]), true, nil
		}
	case "Activator":
		if t := classAt(args, 0); t != nil && name == "CreateInstance" && len(args) == 1 {
			if clr.IsValue(t) || t.Kind == model.Optional {
				return m.zero(t), true, nil
			}
			v, err := m.made(t, &code.Expr{Op: code.Call, Type: t, Args: []*code.Expr{{Op: code.Name, Text: "new"}}, Pos: x.Pos}, f, nil)
			return v, true, err
		}
	case "Nullable":
		if t := classAt(args, 0); t != nil && name == "GetUnderlyingType" {
			if t.Kind != model.Optional || !clr.IsValue(t.Unwrapped()) {
				return Value{}, true, nil
			}
			return Value{Kind: Class, Ref: &typed{t: t.Unwrapped(), d: m.declared(t.Unwrapped())}}, true, nil
		}
	case "GC", "Debug", "Trace", "Console":
		return Value{}, true, nil
	case "object":
		if name == "Equals" || name == "ReferenceEquals" {
			if len(args) == 2 {
				return BoolOf(same(args[0], args[1])), true, nil
			}
		}
	}
	return m.jsonStatic(of, name, args, x, f)
}

// classAt is the type that an argument is, nil for none.
func classAt(args []Value, i int) *model.Type {
	if i < len(args) && args[i].Kind == Class {
		return args[i].Ref.(*typed).t
	}
	return nil
}

// note remembers the value of the document that was asked last.
func (m *Machine) note(v *wire.Value) {
	if v != nil {
		m.last = v
	}
}
