package sharp

import (
	"math"
	"math/big"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder"
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
		"ArgumentNullException", "ArgumentException", "GC", "Comparer", "Activator", "Utf8JsonReader", "MidpointRounding", "ImmutableArray", "ImmutableList", "HttpCompletionOption", "BitConverter", "Char", "DateTimeKind", "Nullable", "JsonNodeOptions", "JsonCommentHandling", "TypeCode":
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
	for _, name := range strings.Fields("JsonValueKind JsonTokenType JTokenType JsonToken CultureInfo DateTimeStyles NumberStyles StringComparison StringSplitOptions StringComparer CancellationToken MidpointRounding HttpCompletionOption Encoding DateTimeKind JsonCommentHandling DateParseHandling FloatParseHandling NullValueHandling JsonNamingPolicy JsonSerializerDefaults JsonNumberHandling MissingMemberHandling Formatting JsonIgnoreCondition") {
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
	case "Math":
		if name == "PI" {
			return floatOf(math.Pi), true, nil
		}
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
	case "GC":
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

// parsing is Parse, TryParse and their like of a type that texts are made into.
func (m *Machine) parsing(of, name string, args []Value, x *code.Expr) (Value, bool, error) {
	try := strings.HasPrefix(name, "Try")
	exact := strings.HasSuffix(name, "ParseExact")
	switch name {
	case "Parse", "TryParse", "ParseExact", "TryParseExact":
	case "IsNaN":
		return BoolOf(len(args) == 1 && math.IsNaN(args[0].Float)), true, nil
	case "IsInfinity":
		return BoolOf(len(args) == 1 && math.IsInf(args[0].Float, 0)), true, nil
	case "IsFinite":
		return BoolOf(len(args) == 1 && !math.IsNaN(args[0].Float) && !math.IsInf(args[0].Float, 0)), true, nil
	case "FromUnixTimeSeconds", "FromUnixTimeMilliseconds":
		if len(args) == 1 && args[0].Kind == Int {
			ms := args[0].Int
			if name == "FromUnixTimeSeconds" {
				ms *= 1000
			}
			return unixDate(of, ms), true, nil
		}
		return Value{}, false, nil
	case "FromSeconds", "FromMinutes", "FromHours", "FromMilliseconds", "FromDays":
		if n, ok := args[0].number(); ok && of == "TimeSpan" {
			return spanOf(n * map[string]float64{"FromSeconds": 1, "FromMinutes": 60, "FromHours": 3600, "FromMilliseconds": 0.001, "FromDays": 86400}[name]), true, nil
		}
		return Value{}, false, nil
	case "FromDateTime":
		if of == "DateOnly" && len(args) == 1 && args[0].Kind == Plain && len(args[0].Seen.Text) >= 10 {
			s := args[0].Seen
			s.Text = s.Text[:10]
			return plainOf("DateOnly", s), true, nil
		}
		return Value{}, false, nil
	case "IsDigit", "IsLetter", "IsUpper", "IsLower", "IsWhiteSpace", "ToUpper", "ToLower", "ToUpperInvariant", "ToLowerInvariant":
		if of == "char" && len(args) == 1 && args[0].Kind == Char {
			c := args[0].Text
			switch name {
			case "IsDigit":
				return BoolOf(c >= "0" && c <= "9"), true, nil
			case "IsLetter":
				return BoolOf(strings.ToUpper(c) != strings.ToLower(c)), true, nil
			case "IsUpper":
				return BoolOf(strings.ToLower(c) != c), true, nil
			case "IsLower":
				return BoolOf(strings.ToUpper(c) != c), true, nil
			case "IsWhiteSpace":
				return BoolOf(strings.TrimSpace(c) == ""), true, nil
			case "ToUpper", "ToUpperInvariant":
				return Value{Kind: Char, Text: strings.ToUpper(c), Of: "char"}, true, nil
			default:
				return Value{Kind: Char, Text: strings.ToLower(c), Of: "char"}, true, nil
			}
		}
		return Value{}, false, nil
	default:
		return Value{}, false, nil
	}
	out := outAt(args)
	if len(args) == 0 {
		return Value{}, false, nil
	}
	zero := m.zero(&model.Type{Kind: model.Named, Name: of})
	if args[0].IsNull() {
		if try {
			put(args, out, zero)
			return BoolOf(false), true, nil
		}
		return Value{}, true, m.throw("ArgumentNullException", "Value cannot be null. (Parameter 's')")
	}
	text, ok := textAt(args, 0)
	if !ok {
		return Value{}, false, nil
	}
	var v Value
	var err error
	known := true
	if exact {
		formats := []string{}
		if s, ok := textAt(args, 1); ok {
			formats = append(formats, s)
		} else if args[1].Kind == Items {
			for _, e := range args[1].list().items {
				formats = append(formats, e.Text)
			}
		}
		v, known, err = m.exactly(of, text, formats, args)
	} else {
		v, known, err = m.parsed(of, text, args)
	}
	if !known {
		return v, false, nil
	}
	if try {
		if err != nil {
			put(args, out, zero)
			return BoolOf(false), true, nil
		}
		put(args, out, v)
		return BoolOf(true), true, nil
	}
	return v, true, err
}

// hasWord says whether an argument is a constant of the platform's of a name.
func hasWord(args []Value, name string) bool {
	for _, a := range args {
		if w, ok := a.Ref.(*platformWord); ok && w.name == name {
			return true
		}
	}
	return false
}

func (m *Machine) format(text string) error {
	return m.throw("FormatException", "The input string '"+text+"' was not in a correct format.")
}

// parsed is what Parse makes of a text.
func (m *Machine) parsed(of, text string, args []Value) (v Value, known bool, err error) {
	trimmed := strings.TrimSpace(text)
	t := &model.Type{Kind: model.Named, Name: of}
	if bits, signed := clr.Bits(t); bits > 0 {
		if hasWord(args, "HexNumber") {
			return v, false, nil
		}
		digits, ok := clr.ParseWhole(trimmed, 128, true)
		if !ok {
			return v, true, m.format(text)
		}
		if _, ok := clr.ParseWhole(digits, bits, signed); !ok {
			return v, true, m.throw("OverflowException", "Value was either too large or too small for an Int32.")
		}
		n, err := strconv.ParseInt(digits, 10, 64)
		if err != nil {
			u, _ := strconv.ParseUint(digits, 10, 64)
			n = int64(u)
		}
		return numberOf(n, of), true, nil
	}
	switch of {
	case "double", "float":
		plain, ok := grouped(trimmed, true)
		if !ok {
			switch trimmed {
			case "NaN":
				return floatOf(math.NaN()), true, nil
			case "Infinity", "∞":
				return floatOf(math.Inf(1)), true, nil
			case "-Infinity", "-∞":
				return floatOf(math.Inf(-1)), true, nil
			}
			return v, true, m.format(text)
		}
		n, err := strconv.ParseFloat(plain, 64)
		if err != nil && !math.IsInf(n, 0) {
			return v, true, m.format(text)
		}
		v = floatOf(n)
		if of == "float" {
			v.Of, v.Float = "float", float64(float32(n))
		}
		return v, true, nil
	case "decimal":
		plain, ok := grouped(trimmed, false)
		if !ok {
			return v, true, m.format(text)
		}
		d, ok := clr.Decimal(plain)
		if !ok {
			return v, true, m.throw("OverflowException", "Value was either too large or too small for a Decimal.")
		}
		return decimalOf(d), true, nil
	case "bool":
		switch strings.ToLower(trimmed) {
		case "true":
			return BoolOf(true), true, nil
		case "false":
			return BoolOf(false), true, nil
		}
		return v, true, m.throw("FormatException", "String '"+text+"' was not recognized as a valid Boolean.")
	case "Guid":
		if s, ok := anyGuid(trimmed); ok {
			return plainOf("Guid", s), true, nil
		}
		return v, true, m.throw("FormatException", "Guid should contain 32 digits with 4 dashes.")
	case "TimeSpan":
		if s, ok := clr.TimeSpan(trimmed); ok {
			return plainOf("TimeSpan", clr.String(s)), true, nil
		}
		return v, true, m.throw("FormatException", "String '"+text+"' was not recognized as a valid TimeSpan.")
	case "TimeOnly":
		if s, ok := clr.ParseTime(trimmed); ok {
			return plainOf("TimeOnly", s), true, nil
		}
		return v, true, m.throw("FormatException", "String '"+text+"' was not recognized as a valid TimeOnly.")
	case "Version":
		if s, ok := clr.Version(trimmed); ok {
			return plainOf("Version", s), true, nil
		}
		return v, true, m.throw("ArgumentException", "Version string portion was too short or too long.")
	case "DateTime", "DateTimeOffset", "DateOnly":
		s, ok := clr.ParseDate(trimmed)
		if !ok {
			return v, true, m.throw("FormatException", "String '"+text+"' was not recognized as a valid DateTime.")
		}
		if s.Kind == decoder.SeenUnknown {
			return v, false, nil
		}
		return m.dated(of, s, args)
	case "char":
		if len([]rune(text)) == 1 {
			return Value{Kind: Char, Text: text, Of: "char"}, true, nil
		}
		return v, true, m.format(text)
	}
	return v, false, nil
}

// dated is a date as a type has it, with what the styles say of its zone.
func (m *Machine) dated(of string, s decoder.Seen, args []Value) (Value, bool, error) {
	zoned := strings.HasSuffix(s.Text, "Z") || len(s.Text) > 27 && (s.Text[len(s.Text)-6] == '+' || s.Text[len(s.Text)-6] == '-')
	switch of {
	case "DateOnly":
		if !strings.Contains(s.Text, "T00:00:00.0000000") || zoned {
			return Value{}, true, m.throw("FormatException", "String was not recognized as a valid DateOnly.")
		}
		s.Text = s.Text[:10]
	case "DateTimeOffset":
		if strings.HasSuffix(s.Text, "Z") {
			s.Text = strings.TrimSuffix(s.Text, "Z") + "+00:00"
		} else if !zoned {
			s.Text += "+00:00"
		}
	default:
		if zoned {
			s = clr.Local(s, zoneOf(s.Text))
			if !hasWord(args, "RoundtripKind") && !hasWord(args, "AdjustToUniversal") {
				s.Text = strings.TrimSuffix(s.Text, "Z") + "+00:00" // local, in a zone that is taken for UTC
			}
		} else if hasWord(args, "AssumeUniversal") && hasWord(args, "AdjustToUniversal") {
			s.Text += "Z"
		}
	}
	return plainOf(of, s), true, nil
}

func zoneOf(text string) string {
	if strings.HasSuffix(text, "Z") {
		return "Z"
	}
	return text[len(text)-6:]
}

// grouped takes the commas out of a number, and says whether it is one; exponent says that it may have one.
func grouped(text string, exponent bool) (string, bool) {
	rest := strings.TrimLeft(text, "+-")
	if len(text)-len(rest) > 1 || rest == "" || strings.Trim(rest, "0123456789.,eE+-") != "" || !exponent && strings.ContainsAny(rest, "eE") {
		return "", false
	}
	before, behind, _ := strings.Cut(rest, ".")
	if strings.Contains(behind, ",") || before != "" && before[0] == ',' {
		return "", false
	}
	return strings.TrimPrefix(strings.ReplaceAll(text, ",", ""), "+"), true
}

func anyGuid(text string) (decoder.Seen, bool) {
	if len(text) > 2 && (text[0] == '{' && text[len(text)-1] == '}' || text[0] == '(' && text[len(text)-1] == ')') {
		text = text[1 : len(text)-1]
	} else if len(text) == 32 {
		text = text[:8] + "-" + text[8:12] + "-" + text[12:16] + "-" + text[16:20] + "-" + text[20:]
	}
	return clr.Guid(text)
}

// exactly is ParseExact: by one of some formats.
func (m *Machine) exactly(of, text string, formats []string, args []Value) (Value, bool, error) {
	for _, format := range formats {
		s, ok, known := clr.ByFormat(text, format)
		if !known {
			return Value{}, false, nil
		}
		if !ok {
			continue
		}
		switch of {
		case "DateOnly":
			s.Text = s.Text[:10]
			return plainOf(of, s), true, nil
		case "TimeOnly":
			return plainOf(of, clr.String(s.Text[11:27])), true, nil
		case "TimeSpan":
			return Value{}, false, nil
		}
		return m.dated(of, s, args)
	}
	return Value{}, true, m.throw("FormatException", "String '"+text+"' was not recognized as a valid DateTime.")
}

func unixDate(of string, ms int64) Value {
	s := clr.UnixMilli(ms)
	if of == "DateTimeOffset" {
		s.Text = strings.TrimSuffix(s.Text, "Z") + "+00:00"
	}
	return plainOf(of, s)
}

func spanOf(seconds float64) Value { return plainOf("TimeSpan", clr.String(clr.SpanText(seconds))) }

// stringStatic are the static methods of string.
func (m *Machine) stringStatic(name string, args []Value, x *code.Expr, f *frame) (Value, bool, error) {
	switch name {
	case "IsNullOrEmpty":
		return BoolOf(len(args) == 1 && (args[0].IsNull() || args[0].Text == "")), true, nil
	case "IsNullOrWhiteSpace":
		return BoolOf(len(args) == 1 && (args[0].IsNull() || strings.TrimSpace(args[0].Text) == "")), true, nil
	case "Equals":
		if len(args) >= 2 {
			if hasWord(args, "OrdinalIgnoreCase") || hasWord(args, "InvariantCultureIgnoreCase") || hasWord(args, "CurrentCultureIgnoreCase") {
				return BoolOf(args[0].Kind == args[1].Kind && strings.EqualFold(args[0].Text, args[1].Text)), true, nil
			}
			return BoolOf(same(args[0], args[1])), true, nil
		}
	case "Join":
		if len(args) < 2 {
			break
		}
		items := args[1:]
		if len(args) == 2 {
			each, err := m.each(args[1], x.Pos)
			if err != nil {
				return Value{}, true, err
			}
			items = each
		}
		var all []string
		for _, v := range items {
			s, err := m.written(v, f, x)
			if err != nil {
				return Value{}, true, err
			}
			all = append(all, s)
		}
		return TextOf(strings.Join(all, args[0].Text)), true, nil
	case "Concat":
		var b strings.Builder
		for _, v := range args {
			s, err := m.written(v, f, x)
			if err != nil {
				return Value{}, true, err
			}
			b.WriteString(s)
		}
		return TextOf(b.String()), true, nil
	case "Compare", "CompareOrdinal":
		if len(args) >= 2 {
			return IntOf(int64(strings.Compare(args[0].Text, args[1].Text))), true, nil
		}
	}
	return Value{}, false, nil
}

// enumStatic are Parse, TryParse, IsDefined and their like.
func (m *Machine) enumStatic(name string, args []Value, x *code.Expr, f *frame) (Value, bool, error) {
	var of *model.Model
	rest := args
	if len(x.Types) == 1 {
		if d := m.declared(m.typ(x.Types[0], f)); d != nil {
			of = d.Model
		}
	} else if len(args) > 0 && args[0].Kind == Class {
		if d := args[0].Ref.(*typed).d; d != nil {
			of = d.Model
		}
		rest = args[1:]
	} else if out := outAt(args); out < len(args) {
		if v := args[out].Ref.(*Value); v.Kind == Enum {
			of = v.Model
		}
	} else if len(args) == 1 && args[0].Kind == Enum {
		of = args[0].Model
	}
	if of == nil {
		return Value{}, false, nil
	}
	switch name {
	case "Parse", "TryParse":
		try := name == "TryParse"
		fold := false
		for _, a := range rest {
			fold = fold || a.Kind == Bool && a.isTrue()
		}
		out := outAt(rest)
		zero := Value{Kind: Enum, Model: of}
		if len(rest) == 0 || rest[0].IsNull() {
			if try {
				put(rest, out, zero)
				return BoolOf(false), true, nil
			}
			return Value{}, true, m.throw("ArgumentNullException", "Value cannot be null. (Parameter 'value')")
		}
		n, ok := enumOf(of, rest[0].Text, fold)
		if try {
			put(rest, out, Value{Kind: Enum, Model: of, Int: n})
			return BoolOf(ok), true, nil
		}
		if !ok {
			return Value{}, true, m.throw("ArgumentException", "Requested value '"+rest[0].Text+"' was not found.")
		}
		return Value{Kind: Enum, Model: of, Int: n}, true, nil
	case "IsDefined":
		if len(rest) != 1 {
			break
		}
		for _, k := range of.Cases {
			c := m.constant(of, k)
			if (rest[0].Kind == Enum || rest[0].Kind == Int) && c.Int == rest[0].Int || rest[0].Kind == String && k.Name == rest[0].Text {
				return BoolOf(true), true, nil
			}
		}
		return BoolOf(false), true, nil
	case "GetValues", "GetNames":
		l := &list{}
		for _, k := range of.Cases {
			if name == "GetNames" {
				l.items = append(l.items, TextOf(k.Name))
			} else {
				l.items = append(l.items, m.constant(of, k))
			}
		}
		return Value{Kind: Items, Ref: l}, true, nil
	case "ToObject":
		if len(rest) == 1 && rest[0].Kind == Int {
			return Value{Kind: Enum, Model: of, Int: rest[0].Int}, true, nil
		}
	}
	return Value{}, false, nil
}

// enumOf is the number that a text names: constants with commas between them, or digits.
func enumOf(of *model.Model, text string, fold bool) (int64, bool) {
	trimmed := strings.TrimSpace(text)
	if trimmed == "" {
		return 0, false
	}
	if c := trimmed[0]; c >= '0' && c <= '9' || c == '-' || c == '+' {
		bits, signed := clr.Bits(of.Raw)
		if digits, ok := clr.ParseWhole(trimmed, bits, signed); ok {
			n, err := strconv.ParseInt(digits, 10, 64)
			return n, err == nil
		}
	}
	total := int64(0)
	for _, part := range strings.Split(text, ",") {
		part = strings.TrimSpace(part)
		found := false
		for _, k := range of.Cases {
			if k.Raw != nil && (k.Name == part || fold && strings.EqualFold(k.Name, part)) {
				n, _ := strconv.ParseInt(k.Raw.Text, 10, 64)
				total |= n
				found = true
				break
			}
		}
		if !found {
			return 0, false
		}
	}
	return total, true
}

// converting is Convert.ToX.
func (m *Machine) converting(name string, args []Value, x *code.Expr) (Value, bool, error) {
	if len(args) == 0 {
		return Value{}, false, nil
	}
	v := args[0]
	if h, ok := v.Ref.(interface{ scalar(*Machine) (Value, bool) }); ok && v.Kind == Host {
		if s, ok := h.scalar(m); ok {
			v = s
		}
	}
	to := map[string]string{"ToInt32": "int", "ToInt64": "long", "ToDouble": "double", "ToDecimal": "decimal", "ToBoolean": "bool", "ToString": "string", "ToInt16": "short", "ToByte": "byte", "ToSingle": "float", "ToDateTime": "DateTime", "ToUInt32": "uint"}[name]
	switch {
	case name == "FromBase64String" && v.Kind == String:
		s, ok := clr.Base64(strings.TrimSpace(v.Text))
		if !ok {
			return Value{}, true, m.throw("FormatException", "The input is not a valid Base-64 string as it contains a non-base 64 character.")
		}
		return m.ValueOf(s, nil), true, nil
	case to == "":
		return Value{}, false, nil
	case to == "string":
		if v.IsNull() {
			return TextOf(""), true, nil
		}
		return TextOf(plainText(v)), v.Kind != Host, nil
	case v.IsNull():
		return m.zero(&model.Type{Kind: model.Named, Name: to}), true, nil
	case v.Kind == String:
		out, known, err := m.parsed(to, v.Text, nil)
		return out, known, err
	case to == "bool":
		if n, ok := v.number(); ok {
			return BoolOf(n != 0), true, nil
		}
		return v, v.Kind == Bool, nil
	case v.Kind == Bool:
		if to == "double" || to == "float" {
			return floatOf(float64(v.Int)), true, nil
		}
		return numberOf(v.Int, to), true, nil
	case to == "DateTime":
		return v, v.Kind == Plain, nil
	}
	t := &model.Type{Kind: model.Named, Name: to}
	if bits, signed := clr.Bits(t); bits > 0 {
		n, ok := v.number()
		if !ok {
			return Value{}, false, nil
		}
		r := math.RoundToEven(n)
		i := new(big.Int)
		if v.Kind == Int {
			i.SetInt64(v.Int)
		} else if math.IsNaN(r) || math.IsInf(r, 0) {
			return Value{}, true, m.throw("OverflowException", "Value was either too large or too small for an Int32.")
		} else {
			big.NewFloat(r).Int(i)
		}
		if !clr.InRange(i, bits, signed) {
			return Value{}, true, m.throw("OverflowException", "Value was either too large or too small for an Int32.")
		}
		return numberOf(i.Int64(), to), true, nil
	}
	out, err := m.asNumber(v, t, true)
	return out, true, err
}

func (m *Machine) mathStatic(name string, args []Value, x *code.Expr) (Value, bool, error) {
	if len(args) == 0 {
		return Value{}, false, nil
	}
	n, ok := args[0].number()
	if !ok {
		return Value{}, false, nil
	}
	switch name {
	case "Abs":
		v := args[0]
		if n < 0 {
			v.Int, v.Float, v.Text = -v.Int, -v.Float, strings.TrimPrefix(v.Text, "-")
		}
		return v, true, nil
	case "Max", "Min":
		if len(args) != 2 {
			break
		}
		o, ok := args[1].number()
		if !ok {
			break
		}
		v := args[0]
		if (name == "Max") == (o > n) {
			v = args[1]
		}
		if v.Kind == Int && (args[0].Kind == Float || args[1].Kind == Float) {
			v = floatOf(float64(v.Int))
		}
		return v, true, nil
	case "Round":
		digits := 0
		away := hasWord(args, "AwayFromZero")
		if len(args) > 1 && args[1].Kind == Int {
			digits = int(args[1].Int)
		}
		if args[0].Kind == Decimal {
			r, ok := new(big.Rat).SetString(args[0].Text)
			if !ok || away {
				break
			}
			f, _ := r.Float64()
			scale := math.Pow10(digits)
			return decimalOf(strconv.FormatFloat(math.RoundToEven(f*scale)/scale, 'f', -1, 64)), true, nil
		}
		scale := math.Pow10(digits)
		if away {
			return floatOf(math.Round(n*scale) / scale), true, nil
		}
		return floatOf(math.RoundToEven(n*scale) / scale), true, nil
	case "Floor":
		return floatOf(math.Floor(n)), args[0].Kind != Decimal, nil
	case "Ceiling":
		return floatOf(math.Ceil(n)), args[0].Kind != Decimal, nil
	case "Truncate":
		return floatOf(math.Trunc(n)), args[0].Kind != Decimal, nil
	case "Sqrt":
		return floatOf(math.Sqrt(n)), true, nil
	case "Pow":
		if len(args) == 2 {
			p, _ := args[1].number()
			return floatOf(math.Pow(n, p)), true, nil
		}
	case "Clamp":
		if len(args) == 3 {
			lo, _ := args[1].number()
			hi, _ := args[2].number()
			switch {
			case n < lo:
				return args[1], true, nil
			case n > hi:
				return args[2], true, nil
			}
			return args[0], true, nil
		}
	}
	return Value{}, false, nil
}

// platformMade makes an object of a class of the platform.
func (m *Machine) platformMade(t *model.Type, args []Value, x *code.Expr) (Value, error) {
	u := t.Unwrapped()
	switch u.Kind {
	case model.List, model.Unique:
		l := &list{set: u.Kind == model.Unique}
		if len(args) > 0 && (args[0].Kind == Items || args[0].Kind == Host) {
			items, err := m.each(args[0], x.Pos)
			if err != nil {
				return Value{}, err
			}
			if l.items = append(l.items, items...); l.set {
				l.items = unique(l.items)
			}
		} else if len(args) > 0 && args[0].IsNull() {
			return Value{}, m.throw("ArgumentNullException", "Value cannot be null. (Parameter 'collection')")
		}
		if u.Class == "Stack" {
			l.kind = "stack"
		}
		if len(u.Args) > 0 {
			l.of = u.Args[0]
		}
		return Value{Kind: Items, Ref: l}, nil
	case model.Map:
		en := &entries{fold: hasWord(args, "OrdinalIgnoreCase") || hasWord(args, "InvariantCultureIgnoreCase")}
		if len(args) > 0 && args[0].Kind == Entries {
			en.keys = append(en.keys, args[0].entries().keys...)
			en.vals = append(en.vals, args[0].entries().vals...)
		}
		return Value{Kind: Entries, Ref: en}, nil
	case model.Tuple:
		return Value{Kind: Tuple, Ref: &list{items: args}}, nil
	}
	name := last(u.Name)
	switch {
	case strings.HasSuffix(name, "Exception"):
		t := &Thrown{Class: name, At: m.last}
		if len(args) > 0 && args[0].Kind == String {
			t.Message = args[0].Text
		}
		return Value{Kind: Host, Ref: &caught{t}}, nil
	case name == "KeyValuePair" && len(args) == 2:
		return pairOf(args[0], args[1]), nil
	case name == "Uri" && len(args) > 0 && args[0].Kind == String:
		if !strings.Contains(args[0].Text, ":") && len(args) == 1 {
			return Value{}, m.throw("UriFormatException", "Invalid URI: The format of the URI could not be determined.")
		}
		s, ok := clr.Uri(args[0].Text)
		if !ok {
			return Value{}, m.throw("UriFormatException", "Invalid URI: The hostname could not be parsed.")
		}
		return plainOf("Uri", s), nil
	case (name == "Guid" || name == "Version") && len(args) == 1 && args[0].Kind == String:
		v, _, err := m.parsed(name, args[0].Text, nil)
		return v, err
	case name == "DateOnly" && len(args) == 3:
		s := clr.Date(int(args[0].Int), int(args[1].Int), int(args[2].Int), 0, 0, 0, "", clr.NoZone)
		s.Text = s.Text[:10]
		return plainOf(name, s), nil
	case name == "DateTime" && len(args) >= 3 && args[0].Kind == Int:
		part := func(i int) int {
			if i < len(args) && args[i].Kind == Int {
				return int(args[i].Int)
			}
			return 0
		}
		zone := clr.NoZone
		if hasWord(args, "Utc") {
			zone = "Z"
		}
		return plainOf(name, clr.Date(part(0), part(1), part(2), part(3), part(4), part(5), "", zone)), nil
	case name == "TimeSpan" && len(args) == 3:
		return spanOf(float64(args[0].Int*3600 + args[1].Int*60 + args[2].Int)), nil
	case name == "object":
		return Value{Kind: Host, Ref: &struct{}{}}, nil
	case strings.HasSuffix(name, "Options") || strings.HasSuffix(name, "Settings") || strings.HasSuffix(name, "Converter") || strings.HasSuffix(name, "Resolver") || strings.HasSuffix(name, "Strategy"):
		return Value{Kind: Host, Ref: &opaque{name}}, nil
	case name == "StringBuilder":
		return Value{Kind: Host, Ref: &builder{}}, nil
	}
	if v, known, err := m.jsonMade(u, args, x); known || err != nil {
		return v, err
	}
	return Value{}, unfollowed("an instance of "+u.Name, x.Pos)
}

// builder is a StringBuilder.
type builder struct{ b strings.Builder }

func (b *builder) call(m *Machine, name string, args []Value, _ []*model.Type, x *code.Expr, f *frame) (Value, bool, error) {
	switch name {
	case "Append", "AppendLine":
		if len(args) > 0 {
			s, err := m.written(args[0], f, x)
			if err != nil {
				return Value{}, true, err
			}
			b.b.WriteString(s)
		}
		if name == "AppendLine" {
			b.b.WriteByte('\n')
		}
		return Value{Kind: Host, Ref: b}, true, nil
	case "ToString":
		return TextOf(b.b.String()), true, nil
	case "Length":
		return IntOf(int64(b.b.Len())), true, nil
	}
	return Value{}, false, nil
}

func (c *caught) call(_ *Machine, name string, _ []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	if name == "Message" {
		return TextOf(c.t.Message), true, nil
	}
	return Value{}, false, nil
}

func (c *caught) is(name string) (bool, bool) { return isKind(c.t.Class, name), true }

// note remembers the value of the document that was asked last.
func (m *Machine) note(v *wire.Value) {
	if v != nil {
		m.last = v
	}
}
