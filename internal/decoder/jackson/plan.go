// Package jackson is what Jackson's ObjectMapper does with classes, as measured with
// databind 2.14 on OpenJDK 17 (testdata/truth/java) and as its source has it
// (POJOPropertiesCollector, BeanDeserializer, StdDeserializer).
package jackson

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Name is what settings call the library.
const Name = "jackson"

// Plan makes the plan by which an ObjectMapper with these settings decodes t. Settings
// may be nil: a mapper on which nothing is set.
func Plan(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	c := &compiler{settings: settings, nodes: map[string]*decoder.Node{}}
	p := &decoder.Plan{Type: t, Declared: declared, Settings: settings}
	p.Root = c.value(t, format{})
	if c.on("UNWRAP_ROOT_VALUE") {
		p.Root = c.rootName(t, p.Root)
	}
	for _, name := range []string{"setAnnotationIntrospector", "addMixIn", "setMixInAnnotation", "activateDefaultTyping", "addDeserializer", "setVisibility", "UNWRAP_SINGLE_VALUE_ARRAYS", "ACCEPT_EMPTY_ARRAY_AS_NULL_OBJECT"} {
		if set := settings.Option(name); set != "" && set != "false" {
			p.Refuses = "its mapper is set up by " + name + ", which is not followed"
		}
	}
	return p
}

// compiler makes nodes of types. A node is made once for each type, so that a model
// that holds itself becomes a circle.
type compiler struct {
	settings *model.Settings
	nodes    map[string]*decoder.Node
}

// on and off say whether the source switches a feature so; one that it leaves alone is
// neither.
func (c *compiler) on(feature string) bool  { return c.settings.Option(feature) == "true" }
func (c *compiler) off(feature string) bool { return c.settings.Option(feature) == "false" }

func unknown(why string) *decoder.Node { return &decoder.Node{Op: decoder.OpUnknown, Why: why} }

// format is what annotations of a property say about its values: @JsonFormat the pattern
// of dates, and that one value stands for a list of one.
type format struct {
	pattern string
	single  bool
	// What @JsonIgnoreProperties says of the objects that the property holds.
	ignored string // names, each behind a comma
	lenient bool
}

// value is the node for a value of type t, null among them.
func (c *compiler) value(t *model.Type, as format) *decoder.Node {
	key := fmt.Sprint(t.Key(), as)
	if n := c.nodes[key]; n != nil {
		return n
	}
	n := &decoder.Node{}
	c.nodes[key] = n
	*n = *c.make(t, as)
	n.Type = jvm.TypeText(t)
	return n
}

// nullable takes null before a node is asked.
func nullable(n *decoder.Node) *decoder.Node {
	if n.Op == decoder.OpUnknown {
		return n
	}
	return &decoder.Node{Op: decoder.OpNil, Inner: n, Type: n.Type}
}

// wrongAs makes the two ways of asking for the error of another kind out of one.
func wrongAs(n *decoder.Node, of func(v *wire.Value) *decoder.Error) *decoder.Node {
	n.Wrong = func(kind wire.Kind) *decoder.Error { return of(jvm.Sample(kind)) }
	n.WrongValue = of
	return n
}

func (c *compiler) make(t *model.Type, as format) *decoder.Node {
	switch t.Kind {
	case model.Optional:
		return c.value(t.Unwrapped(), as)
	case model.List, model.Unique:
		return nullable(c.list(t, as))
	case model.Map:
		return nullable(c.dictionary(t, as))
	case model.Param:
		return c.anything()
	case model.Named:
		if c.settings.Option("adapter."+t.Name) != "" {
			return unknown("a deserializer of its own reads " + t.Name)
		}
		if t.Model != nil {
			return c.model(t, as)
		}
		if read := c.scalarOf(t, as.pattern); read != nil {
			return &decoder.Node{Op: decoder.OpLeaf, Read: read, MindsText: true}
		}
		switch t.Name {
		case "Object", "Any", "JsonNode":
			return c.anything()
		case "Optional", "OptionalInt", "OptionalLong", "OptionalDouble":
			if c.settings.Option("module.Jdk8Module") == "" {
				return nullable(c.optional(t))
			}
		}
		if times[t.Name] {
			if c.settings != nil && c.settings.Options != nil && c.settings.Option("module.JavaTimeModule") == "" && c.settings.Option("module.all") == "" {
				return nullable(&decoder.Node{Op: decoder.OpFail, Error: fault("InvalidDefinitionException", decoder.ReasonType, "Java 8 date/time type `java.time.%s` not supported by default: add Module \"com.fasterxml.jackson.datatype:jackson-datatype-jsr310\" to enable handling", t.Name)})
			}
			return unknown("a module reads " + t.Name + ", which is not followed")
		}
		return unknown("the type " + t.Name + " is not in the source")
	}
	return unknown("the type " + t.Name + " is not one that decodes")
}

// times are the types of java.time, which a mapper reads with a module alone.
var times = map[string]bool{
	"LocalDate": true, "LocalTime": true, "LocalDateTime": true, "Instant": true, "Duration": true, "Period": true, "ZonedDateTime": true, "OffsetDateTime": true, "OffsetTime": true,
	"Year": true, "YearMonth": true, "MonthDay": true, "ZoneId": true, "ZoneOffset": true,
}

// anything is UntypedObjectDeserializer: whole numbers stay whole, others are doubles.
func (c *compiler) anything() *decoder.Node {
	exact := c.on("USE_BIG_DECIMAL_FOR_FLOATS")
	return &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
		return decoder.Verdict{Seen: jvm.Any(v, func(raw string) decoder.Seen {
			if !strings.ContainsAny(raw, ".eE") {
				n, _ := jvm.ParseInteger(raw)
				return decoder.Seen{Kind: decoder.SeenInt, Text: n}
			}
			if exact {
				d, _ := jvm.ParseDecimal(raw)
				return decoder.Seen{Kind: decoder.SeenDecimal, Text: d}
			}
			f, _ := jvm.ParseDouble(raw)
			return decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(f, 64)}
		})}
	}}
}

// noArgument is the error where a class has no constructor for what was found.
func noArgument(kind, typ string, exist bool, v *wire.Value) *decoder.Error {
	clause := "(although at least one Creator exists)"
	if !exist {
		clause = "(no Creators, like default constructor, exist)"
	}
	what, from := "", ""
	switch v.Kind {
	case wire.Bool:
		what, from = "boolean/Boolean", fmt.Sprintf("boolean value (%s)", v.Raw)
	case wire.String:
		s, _ := v.Text()
		what, from = "String", fmt.Sprintf("String value ('%s')", s)
	default:
		what, from = "int/Int", fmt.Sprintf("Number value (%s)", v.Raw)
		switch n := string(v.Raw); {
		case isFloat(v):
			what = "double/Double"
		default:
			if _, ok := jvm.ParseWhole(n, 64); !ok {
				what = "BigInteger"
			} else if _, ok := jvm.ParseWhole(n, 32); !ok {
				what = "long/Long"
			}
		}
	}
	return fault(kind, decoder.ReasonKind, "Cannot construct instance of `%s` %s: no %s-argument constructor/factory method to deserialize from %s", typ, clause, what, from)
}

func emptyString(typ string) *decoder.Error {
	return fault("InvalidFormatException", decoder.ReasonKind, "Cannot coerce empty String (\"\") to %s value (but could if coercion was enabled using `CoercionConfig`)", typ)
}

// optional is a class of the platform that Jackson does not know without its module.
func (c *compiler) optional(t *model.Type) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpLeaf, MindsText: true}
	n.Read = func(v *wire.Value) decoder.Verdict {
		switch v.Kind {
		case wire.Array:
			return decoder.Verdict{Err: mismatched(full(t), v)}
		case wire.Object:
			return decoder.Verdict{Err: fault("InvalidDefinitionException", decoder.ReasonType, "Cannot construct instance of `%s` (no Creators, like default constructor, exist): cannot deserialize from Object value (no delegate- or property-based Creator)", raw(t))}
		case wire.String:
			if s, _ := v.Text(); jvm.Trim(s) == "" {
				return decoder.Verdict{Err: emptyString("`" + full(t) + "`")}
			}
		}
		return decoder.Verdict{Err: noArgument("InvalidDefinitionException", raw(t), false, v)}
	}
	return n
}

func blank(v *wire.Value) bool {
	if v.Kind != wire.String {
		return false
	}
	s, _ := v.Text()
	return jvm.Trim(s) == ""
}

// list is the node for arrays and collections.
func (c *compiler) list(t *model.Type, as format) *decoder.Node {
	elem := t.Args[0]
	if t.Name == "[]" && elem.Name == "byte" && elem.Kind == model.Named {
		return c.bytes(t)
	}
	n := &decoder.Node{Op: decoder.OpList, Unique: t.Kind == model.Unique, Inner: c.value(elem, as)}
	n.Single, n.ByIdentity = as.single || c.on("ACCEPT_SINGLE_VALUE_AS_ARRAY"), !jvm.HasEquals(elem)
	if elem.Name == "String" && elem.Kind == model.Named { // the collection complains for its elements
		s := &scalar{c: c, typ: full(t)}
		n.Inner = &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Type: "String", Read: func(v *wire.Value) decoder.Verdict {
			if v.Kind == wire.Object && t.Name == "" {
				return decoder.Verdict{Err: mismatched(raw(t)+"<java.lang.Object>", v)}
			}
			return s.string(v)
		}}
	}
	if c.on("ACCEPT_EMPTY_STRING_AS_NULL_OBJECT") {
		n.Second = emptyAsNull(n)
	}
	if t.Name == "[]" && elem.Name == "char" { // a text is its characters
		n.Second = &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
			out := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
			for _, c := range jvm.Text(v) {
				out.Elems = append(out.Elems, decoder.Seen{Kind: decoder.SeenString, Text: string(c), Type: "char"})
			}
			return decoder.Verdict{Seen: out}
		}}
	}
	if t.Name == "[]" && elem.Name == "Byte" {
		n.Second = &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
			if s, _ := v.Text(); jvm.Trim(s) != "" {
				_, err := base64Of(s)
				return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}, Err: err}
			}
			return decoder.Verdict{Err: n.WrongValue(v)}
		}}
	}
	return wrongAs(n, func(v *wire.Value) *decoder.Error {
		switch {
		case t.Name == "[]" && v.Kind == wire.String && blank(v):
			return fault("InvalidFormatException", decoder.ReasonKind, "Cannot coerce empty String (\"\") to element of `%s` (but could if coercion was enabled using `CoercionConfig`)", raw(t))
		case t.Name == "[]" && v.Kind == wire.String:
			s, _ := v.Text()
			return fault("InvalidDefinitionException", decoder.ReasonKind, "Cannot construct instance of `%s`: no String-argument constructor/factory method to deserialize from String value ('%s')", raw(t), s)
		case t.Name == "" && elem.Unwrapped().Name == "String" && v.Kind == wire.String && blank(v):
			return fault("InvalidFormatException", decoder.ReasonKind, "Cannot coerce empty String (\"\") to element of `%s` (but could if coercion was enabled using `CoercionConfig`)", full(t))
		case t.Name == "" && elem.Unwrapped().Name == "String" && v.Kind == wire.String:
			return noArgument("MismatchedInputException", raw(t), true, v)
		}
		return mismatched(full(t), v)
	})
}

// dictionary is MapDeserializer. Of equal keys the last counts.
func (c *compiler) dictionary(t *model.Type, as format) *decoder.Node {
	key := t.Args[0].Unwrapped()
	n := &decoder.Node{Op: decoder.OpMap, Every: true, Inner: c.value(t.Args[1], as)}
	wrongAs(n, func(v *wire.Value) *decoder.Error {
		switch {
		case blank(v):
			return fault("InvalidFormatException", decoder.ReasonKind, "Cannot coerce empty String (\"\") to element of `%s` (but could if coercion was enabled using `CoercionConfig`)", full(t))
		case v.Kind == wire.String:
			return noArgument("MismatchedInputException", raw(t), true, v)
		}
		return mismatched(full(t), v)
	})
	bad := func(name, detail string) *decoder.Error {
		return fault("InvalidFormatException", decoder.ReasonKey, "Cannot deserialize Map key of type `%s` from String %q: %s", raw(key), name, detail)
	}
	switch {
	case key.Model != nil && key.Model.Kind == model.Enum:
		names, _ := c.constants(key.Model)
		n.Key = func(name string) (decoder.Seen, *decoder.Error) {
			if k, ok := names[name]; ok {
				return decoder.Seen{Kind: decoder.SeenEnum, Text: k, Type: key.Model.Name}, nil
			}
			if c.on("READ_UNKNOWN_ENUM_VALUES_AS_NULL") {
				return decoder.Seen{Text: "null"}, nil
			}
			return decoder.Seen{}, bad(name, fmt.Sprintf("not a valid representation, problem: (com.fasterxml.jackson.databind.exc.InvalidFormatException) Cannot deserialize Map key of type `%s` from String %q: not one of the values accepted for Enum class: [%s]", raw(key), name, caseNames(key.Model)))
		}
	case jvm.Scalar(key) == "int" || jvm.Scalar(key) == "long":
		bits := 32
		if jvm.Scalar(key) == "long" {
			bits = 64
		}
		n.Key = func(name string) (decoder.Seen, *decoder.Error) {
			if k, ok := jvm.ParseWhole(name, bits); ok {
				return decoder.Seen{Kind: decoder.SeenInt, Text: fmt.Sprint(k)}, nil
			}
			return decoder.Seen{}, bad(name, "not a valid representation, problem: (java.lang.NumberFormatException) For input string: \""+name+"\"")
		}
	case key.Name == "String" || key.Name == "Object" || key.Name == "CharSequence":
		n.Key = func(name string) (decoder.Seen, *decoder.Error) {
			return decoder.Seen{Kind: decoder.SeenString, Text: name}, nil
		}
	default:
		return unknown("its keys are made by code that is not followed")
	}
	return n
}

// caseNames lists the constants of an enum as messages do.
func caseNames(m *model.Model) string {
	var names []string
	for _, k := range m.Cases {
		names = append(names, k.Name)
	}
	return strings.Join(names, ", ")
}

// constants are the texts that an enum's constants are read from. known is false where
// code of the app decides.
func (c *compiler) constants(m *model.Model) (names map[string]string, known bool) {
	names = map[string]string{}
	byText := c.on("READ_ENUMS_USING_TO_STRING") // which annotations do not rename
	for _, f := range m.Methods {
		if f.Name == "toString" && len(f.Params) == 0 && byText {
			return nil, false
		}
		if f.Marks.Find("JsonCreator") != nil {
			return nil, false
		}
	}
	if at := jsonValue(m); at >= -1 && !byText {
		for _, k := range m.Cases {
			if at < 0 || at >= len(k.Args) || k.Args[at].Kind == model.OtherLiteral {
				return nil, false
			}
			names[k.Args[at].Text] = k.Name
		}
		return names, true
	}
	for _, k := range m.Cases {
		name := k.Name
		if a := k.Marks.Find("JsonProperty"); a != nil && !byText {
			name = a.Text("value", name)
		}
		names[name] = k.Name
		for _, other := range k.Marks.Find("JsonAlias").Texts("value") {
			names[other] = k.Name
		}
	}
	return names, true
}

// jsonValue is which argument of an enum's constants its @JsonValue answers: -1 where
// that cannot be told, -2 where there is none.
func jsonValue(m *model.Model) int {
	field := ""
	for _, f := range m.Fields {
		if f.Marks.Find("JsonValue") != nil {
			field = f.Name
		}
	}
	found := field != ""
	for _, f := range m.Methods {
		if f.Marks.Find("JsonValue") == nil {
			continue
		}
		found = true
		name := strings.TrimPrefix(f.Name, "get")
		for _, own := range m.Fields {
			if strings.EqualFold(own.Name, name) {
				field = own.Name
			}
		}
	}
	if !found {
		return -2
	}
	for _, k := range m.Ctors {
		for i, fills := range k.Fills {
			if fills == field && field != "" {
				return i
			}
		}
	}
	return -1
}

// wholeValue says whether an enum's @JsonValue is an integer: then numbers are not
// indexes.
func wholeValue(m *model.Model) bool {
	whole := func(t *model.Type) bool {
		switch jvm.Scalar(t) {
		case "int", "long", "short", "byte":
			return true
		}
		return false
	}
	for _, f := range m.Fields {
		if f.Marks.Find("JsonValue") != nil && whole(f.Type) {
			return true
		}
	}
	for _, f := range m.Methods {
		if f.Marks.Find("JsonValue") != nil && f.Returns != nil && whole(f.Returns) {
			return true
		}
	}
	return false
}

// enum is EnumDeserializer: constants by name or annotation, and by their index.
func (c *compiler) enum(m *model.Model) *decoder.Node {
	names, ok := c.constants(m)
	if !ok {
		return unknown(m.Name + " is read by code that is not followed")
	}
	typ := jvm.ClassName(m)
	byIndex := !wholeValue(m)
	byDefault := ""
	for _, k := range m.Cases {
		if k.Marks.Find("JsonEnumDefaultValue") != nil && c.on("READ_UNKNOWN_ENUM_VALUES_USING_DEFAULT_VALUE") {
			byDefault = k.Name
		}
	}
	take := func(name string) decoder.Verdict {
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenEnum, Text: name, Type: m.Name}}
	}
	miss := func(err *decoder.Error) decoder.Verdict {
		switch {
		case byDefault != "":
			out := take(byDefault)
			out.Loss = decoder.Defaulted
			return out
		case c.on("READ_UNKNOWN_ENUM_VALUES_AS_NULL"):
			return decoder.Verdict{Loss: decoder.NoConstant}
		}
		return decoder.Verdict{Err: err}
	}
	none := func(text string) *decoder.Error {
		return weird(typ, text, "not one of the values accepted for Enum class", decoder.ReasonConstant)
	}
	fold := c.on("ACCEPT_CASE_INSENSITIVE_ENUMS")
	return &decoder.Node{Op: decoder.OpLeaf, Model: m, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		switch {
		case v.Kind == wire.Null:
			return decoder.Verdict{}
		case v.Kind == wire.Number && !isFloat(v):
			if !byIndex {
				if name, ok := names[string(v.Raw)]; ok {
					return take(name)
				}
				return miss(none(string(v.Raw)))
			}
			n, ok := jvm.ParseWhole(string(v.Raw), 32)
			switch {
			case !ok:
				return decoder.Verdict{Err: outOfRange(string(v.Raw), "int (-2147483648 - 2147483647)")}
			case c.on("FAIL_ON_NUMBERS_FOR_ENUMS"):
				return decoder.Verdict{Err: fault("InvalidFormatException", decoder.ReasonKind, "Cannot deserialize value of type `%s` from number %d: not allowed to deserialize Enum value out of number: disable DeserializationConfig.DeserializationFeature.FAIL_ON_NUMBERS_FOR_ENUMS to allow", typ, n)}
			case n < 0 || n >= int64(len(m.Cases)):
				return miss(fault("InvalidFormatException", decoder.ReasonConstant, "Cannot deserialize value of type `%s` from number %d: index value outside legal index range [0..%d]", typ, n, len(m.Cases)-1))
			}
			return take(m.Cases[n].Name)
		case v.Kind == wire.String:
			text := jvm.Text(v)
			if name, ok := names[text]; ok {
				return take(name)
			}
			trimmed := jvm.Trim(text)
			if name, ok := names[trimmed]; ok {
				return take(name)
			}
			if trimmed == "" {
				if byDefault != "" || c.on("READ_UNKNOWN_ENUM_VALUES_AS_NULL") {
					return miss(nil)
				}
				if text == "" && c.on("ACCEPT_EMPTY_STRING_AS_NULL_OBJECT") {
					return decoder.Verdict{}
				}
				return decoder.Verdict{Err: emptyString("`" + typ + "`")}
			}
			for name, constant := range names {
				if fold && strings.EqualFold(name, trimmed) {
					return take(constant)
				}
			}
			if n, ok := jvm.ParseWhole(trimmed, 32); ok && byIndex && trimmed[0] >= '0' && trimmed[0] <= '9' && (len(trimmed) == 1 || trimmed[0] != '0') && n < int64(len(m.Cases)) && !c.on("FAIL_ON_NUMBERS_FOR_ENUMS") {
				return take(m.Cases[n].Name)
			}
			return miss(none(trimmed))
		}
		return decoder.Verdict{Err: mismatched(typ, v)}
	}}
}

// model is the node for a class that the source declares.
func (c *compiler) model(t *model.Type, as format) *decoder.Node {
	m := t.Model
	switch {
	case m.Reading == model.Unfollowed:
		return unknown(fmt.Sprintf("%s: %s (%s)", m.Name, m.Why, m.WhyPos))
	case m.Language == "kotlin":
		return unknown("Kotlin classes are not followed with Jackson: " + m.Name)
	case m.Marks.Find("JsonDeserialize").Text("using", "") != "" || m.Marks.Find("JsonDeserialize").Text("builder", "") != "":
		return unknown("a deserializer or builder of its own reads " + m.Name)
	case m.Marks.Find("JsonIdentityInfo") != nil:
		return unknown("@JsonIdentityInfo is not followed: " + m.Name)
	case m.Kind == model.Enum:
		return c.enum(m)
	}
	if as := m.Marks.Find("JsonDeserialize").Text("as", ""); as != "" {
		if other := c.subclass(m, as); other != nil && other != m {
			return c.value(&model.Type{Kind: model.Named, Name: other.Name, Model: other, Args: t.Args, Pos: t.Pos}, format{})
		}
	}
	if a := classMark(t, "JsonTypeInfo"); a != nil {
		return nullable(c.subtypes(t, a))
	}
	return nullable(c.objectAs(t, "", as))
}

// object is the node for an instance. passed is the key that has told its class.
func (c *compiler) object(t *model.Type, passed string) *decoder.Node {
	return c.objectAs(t, passed, format{})
}

// objectAs is object for one that is held by a property with annotations.
func (c *compiler) objectAs(t *model.Type, passed string, as format) *decoder.Node {
	m := t.Model
	typ := className(m)
	about := c.introspect(t)
	about.ignore(as)
	if about.why != "" {
		return unknown(m.Name + ": " + about.why)
	}
	n := &decoder.Node{Op: decoder.OpKeyed, Model: m, Match: c.match()}
	inner := len(m.Ctors) > 0 && len(m.Ctors[0].Params) > 0 && m.Ctors[0].Params[0].Name == "this"
	makeable := about.creator != nil || about.delegate != nil || jvm.NoArguments(m) || jacksonized(m)
	switch {
	case m.Abstract:
		n.Inner = &decoder.Node{Op: decoder.OpFail, Assured: true, Error: fault("InvalidDefinitionException", decoder.ReasonType, "Cannot construct instance of `%s` (no Creators, like default constructor, exist): abstract types either need to be mapped to concrete types, have custom deserializer, or contain additional type information", typ)}
	case inner:
		n.Inner = &decoder.Node{Op: decoder.OpFail, Assured: true, Error: fault("InvalidDefinitionException", decoder.ReasonType, "Cannot construct instance of `%s`: non-static inner classes like this can only by instantiated using default, no-argument constructor", typ)}
	case !makeable:
		n.Inner = &decoder.Node{Op: decoder.OpFail, Assured: true, Error: fault("InvalidDefinitionException", decoder.ReasonType, "Cannot construct instance of `%s` (no Creators, like default constructor, exist): cannot deserialize from Object value (no delegate- or property-based Creator)", typ)}
	case about.delegate != nil && about.creator == nil && !singleScalar(about.delegate):
		return c.delegating(t, about.delegate)
	default:
		n.Inner = c.build(t, about, part{passed: passed})
	}
	texts := c.fromText(m)
	single := takesOne(m)
	if !makeable && single["any"] {
		n.Inner = &decoder.Node{Op: decoder.OpFail, Assured: true, Error: fault("MismatchedInputException", decoder.ReasonType, "Cannot construct instance of `%s` (although at least one Creator exists): cannot deserialize from Object value (no delegate- or property-based Creator)", typ)}
	}
	wrongAs(n, func(v *wire.Value) *decoder.Error {
		switch {
		case blank(v):
			return emptyString("`" + full(t) + "`")
		case (v.Kind == wire.Array || v.Kind == wire.Null) && jacksonized(m):
			return mismatched(typ, v)
		case v.Kind == wire.Array || v.Kind == wire.Null:
			return mismatched(full(t), v)
		case !makeable && !single["any"] || m.Abstract:
			return noArgument("InvalidDefinitionException", typ, false, v)
		}
		return noArgument("MismatchedInputException", typ, true, v)
	})
	n.Second = texts
	if texts == nil && c.on("ACCEPT_EMPTY_STRING_AS_NULL_OBJECT") {
		n.Second = emptyAsNull(n)
	}
	if single["number"] || single["boolean"] {
		n.Second = c.fromScalar(m, single)
		n.Scalars = true
	}
	return n
}

// singleScalar says whether a creator takes a scalar alone, beside which objects may be
// read by their members.
func singleScalar(k *model.Method) bool {
	if len(k.Params) != 1 {
		return false
	}
	switch t := k.Params[0].Type; t.Name {
	case "String", "CharSequence", "BigInteger", "BigDecimal":
		return t.Model == nil
	default:
		switch jvm.Scalar(t) {
		case "int", "long", "double", "boolean":
			return true
		}
		return false
	}
}

// delegating is the node for a class that a creator makes of the value as a whole.
func (c *compiler) delegating(t *model.Type, k *model.Method) *decoder.Node {
	m := t.Model
	if len(k.Params) != 1 {
		return unknown(m.Name + " is made by a creator that takes several values as a whole")
	}
	if u := k.Params[0].Type.Unwrapped(); (u.Kind == model.List || u.Kind == model.Unique) && u.Name == "" {
		return unknown(m.Name + " is made of a list by its creator, which is not followed")
	}
	inner := c.value(k.Params[0].Type.Bind(t.Env()), format{})
	if inner.Op == decoder.OpUnknown {
		return inner
	}
	if inner.Op == decoder.OpLeaf && k.Params[0].Type.Unwrapped().Model == nil {
		u := k.Params[0].Type.Unwrapped()
		if jvm.Scalar(u) == "" && !numbers[u.Name] {
			return unknown(m.Name + " is made of a text by its creator, which is not followed")
		}
		inner = withinObject(inner)
	}
	n := &decoder.Node{Op: decoder.OpBuild, Model: m}
	fields, _ := allFields(t)
	fills := ""
	if len(k.Fills) == 1 {
		fills = k.Fills[0]
	}
	taken := false
	for i, f := range fields {
		n.Props = append(n.Props, f)
		node := &decoder.Node{Op: decoder.OpUnknown, Why: "its creator sets it", Field: f}
		if f.Name == fills {
			node, taken = &decoder.Node{Op: decoder.OpDo, Inner: inner, Field: f, Type: f.Declared}, true
		}
		n.Steps = append(n.Steps, decoder.Step{Property: i, Node: node})
	}
	if !taken {
		n.Steps = append([]decoder.Step{{Property: -1, Node: &decoder.Node{Op: decoder.OpDo, Inner: inner}}}, n.Steps...)
	}
	return n
}

// numbers are the platform's classes that are read from numbers, or from anything.
var numbers = map[string]bool{"BigDecimal": true, "BigInteger": true, "Number": true, "Date": true, "Object": true, "AtomicInteger": true, "AtomicLong": true, "AtomicBoolean": true}

// withinObject is the node of a scalar for a reader that has gone into the object
// already where one is sent: it stands at the first name, or at the end.
func withinObject(n *decoder.Node) *decoder.Node {
	out := *n
	out.Read = func(v *wire.Value) decoder.Verdict {
		verdict := n.Read(v)
		if v.Kind != wire.Object || verdict.Err == nil {
			return verdict
		}
		err := *verdict.Err
		err.Message = strings.Replace(err.Message, "START_OBJECT", "FIELD_NAME", 1)
		return decoder.Verdict{Err: &err}
	}
	return &out
}

// emptyAsNull is the node for strings where an object or a list is declared and the
// empty one stands for null (ACCEPT_EMPTY_STRING_AS_NULL_OBJECT).
func emptyAsNull(n *decoder.Node) *decoder.Node {
	return &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		if string(v.Raw) == `""` {
			return decoder.Verdict{}
		}
		return decoder.Verdict{Err: n.WrongValue(v)}
	}}
}

// takesOne says which scalars a class has a constructor for, of any access, that takes
// nothing else: Jackson makes an instance of such a value.
func takesOne(m *model.Model) map[string]bool {
	out := map[string]bool{}
	for _, k := range m.Ctors {
		if len(k.Params) != 1 || k.Params[0].Marks.Find("JsonProperty") != nil {
			continue
		}
		switch t := k.Params[0].Type; jvm.Scalar(t) {
		case "int", "long":
			out["number"], out["any"] = true, true
		case "double":
			out["fraction"], out["any"] = true, true
		case "boolean":
			out["boolean"], out["any"] = true, true
		default:
			if t != nil && t.Name == "String" {
				out["any"] = true
			}
		}
	}
	return out
}

// fromScalar is the node for a scalar where a class is made of it by a constructor.
func (c *compiler) fromScalar(m *model.Model, single map[string]bool) *decoder.Node {
	typ := jvm.ClassName(m)
	texts := c.fromText(m)
	return &decoder.Node{Op: decoder.OpLeaf, Model: m, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		exists := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
		switch {
		case v.Kind == wire.Number && !isFloat(v) && single["number"]:
			if n, ok := jvm.ParseWhole(string(v.Raw), 64); ok {
				for _, k := range m.Ctors {
					if len(k.Params) == 1 && jvm.Scalar(k.Params[0].Type) == "int" && (n > 1<<31-1 || n < -1<<31) {
						return decoder.Verdict{Err: noArgument("MismatchedInputException", typ, true, v)}
					}
				}
				return exists
			}
		case v.Kind == wire.Bool && single["boolean"], v.Kind == wire.Number && isFloat(v) && single["fraction"]:
			return exists
		case v.Kind == wire.String && blank(v) && texts == nil:
			return decoder.Verdict{Err: emptyString("`" + typ + "`")}
		case v.Kind == wire.String && texts != nil:
			return texts.Read(v)
		}
		return decoder.Verdict{Err: noArgument("MismatchedInputException", typ, true, v)}
	}}
}

// part is how an object is read in one that stands around it: with what its keys begin
// and end, and which key of the outer one has told its class.
type part struct {
	inside         bool
	prefix, suffix string
	passed         string
	around         []*model.Model // the objects that it stands in
}

// match is what the mapper makes of names before it compares them.
func (c *compiler) match() func(string) string {
	if c.on("ACCEPT_CASE_INSENSITIVE_PROPERTIES") {
		return strings.ToLower
	}
	return nil
}

// fromText is the node for a string where a class has a constructor that takes one
// string, or a factory named valueOf or fromString; nil where it has none.
func (c *compiler) fromText(m *model.Model) *decoder.Node {
	for _, k := range append(append([]*model.Method(nil), m.Ctors...), m.Methods...) {
		isCtor := k.Returns == nil && k.Name == m.Name[strings.LastIndexByte(m.Name, '.')+1:]
		if len(k.Params) != 1 || k.Params[0].Type == nil || k.Params[0].Type.Name != "String" {
			continue
		}
		if !isCtor && !(k.Static && (k.Name == "valueOf" || k.Name == "fromString" || k.Marks.Find("JsonCreator") != nil)) || k.Params[0].Marks.Find("JsonProperty") != nil {
			continue
		}
		fills := ""
		if isCtor && len(k.Fills) == 1 {
			fills = k.Fills[0]
		}
		return &decoder.Node{Op: decoder.OpLeaf, Model: m, Read: func(v *wire.Value) decoder.Verdict {
			s, _ := v.Text()
			if fills == "" {
				return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
			}
			out := decoder.Seen{Kind: decoder.SeenObject, Type: m.Name}
			for _, f := range m.Fields {
				if f.Static {
					continue
				}
				value := jvm.Zero(f.Type, false)
				if f.Default != nil {
					value = jvm.Constant(f.Default, f.Type)
				}
				if f.Name == fills {
					value = decoder.Seen{Kind: decoder.SeenString, Text: s}
				}
				out.Names, out.Elems = append(out.Names, f.Name), append(out.Elems, value)
			}
			return decoder.Verdict{Seen: out}
		}}
	}
	return nil
}

// build is BeanDeserializer: each member goes to the property of its name, in the order
// of the document; one that no property takes fails the whole.
func (c *compiler) build(t *model.Type, about *introspection, as part) *decoder.Node {
	m := t.Model
	n := &decoder.Node{Op: decoder.OpBuild, Model: m, ByDocument: true}
	fields, owners := allFields(t)
	index := map[string]int{}
	for i, f := range fields {
		n.Props = append(n.Props, f)
		index[f.Name] = i
	}
	set := make([]bool, len(fields))
	reader := make([]*decoder.Node, len(fields)) // the node that reads a field already
	unwraps := false
	var names []string
	for _, p := range about.properties {
		target, typ, owner := c.target(p, t, fields, owners)
		at := -1
		if target != nil {
			at = index[target.Name]
			set[at] = true
		}
		names = append(names, fmt.Sprintf("%q", p.name))
		if typ == nil {
			continue
		}
		if a := p.marks.Find("JsonUnwrapped"); a != nil && typ.Unwrapped().Model != nil {
			unwraps = true
			inner := typ.Unwrapped()
			if slices.Contains(as.around, inner.Model) || inner.Model == m {
				n.Steps = append(n.Steps, decoder.Step{Property: at, Node: unknown("it is unwrapped into itself")})
				continue
			}
			sub := c.introspect(inner)
			n.Steps = append(n.Steps, decoder.Step{Property: at, Node: c.build(inner, sub, part{inside: true, around: append(slices.Clip(as.around), m), prefix: as.prefix + a.Text("prefix", ""), suffix: a.Text("suffix", "") + as.suffix})})
			continue
		}
		if p.param != nil && about.hides(p.name) { // then it is never given, and the instance made at the end
			never := &decoder.Node{Op: decoder.OpConst, Field: target, Value: jvm.Zero(typ, false), Why: "it is ignored by annotation"}
			if jvm.IsPrimitive(typ, false) && c.on("FAIL_ON_NULL_FOR_PRIMITIVES") {
				never = &decoder.Node{Op: decoder.OpFail, Assured: true, Error: c.scalarOf(typ, "")(jvm.Sample(wire.Null)).Err}
			}
			n.Steps = append(n.Steps, decoder.Step{Property: at, Node: never, First: true})
			continue
		}
		node := c.property(p, target, typ, owner, as.prefix, as.suffix)
		if at >= 0 && reader[at] != nil { // two properties that set one field
			if own := reader[at]; own.Inner == node.Inner && own.Missing == nil && node.Missing == nil {
				own.Others = append(append(own.Others, node.Name), node.Others...)
				continue
			}
			node.AbsentLoss = decoder.NoLoss
		}
		if at >= 0 && reader[at] == nil {
			reader[at] = node
		}
		n.Steps = append(n.Steps, decoder.Step{Property: at, Node: node, First: p.param != nil, Spent: spent(m, p, target, about)})
	}
	for _, p := range about.final {
		f := p.field.field
		names = append(names, fmt.Sprintf("%q", p.name))
		n.Steps = append(n.Steps, decoder.Step{Property: -1, Node: &decoder.Node{Op: decoder.OpAt, Name: p.name, Type: f.Declared,
			Inner: &decoder.Node{Op: decoder.OpFail, Error: fixed(m, f)}}})
	}
	for i, f := range fields {
		if set[i] {
			continue
		}
		t := f.Type.Bind(owners[i].Env())
		value := jvm.Zero(t, false)
		if f.Default != nil && about.creator == nil {
			value = jvm.Constant(f.Default, t)
		} else if f.Default != nil {
			value = decoder.Seen{Kind: decoder.SeenUnknown}
			if !f.Final {
				value = jvm.Constant(f.Default, t)
			}
		}
		if about.anyField == f {
			n.Steps = append(n.Steps, decoder.Step{Property: i, Node: &decoder.Node{Op: decoder.OpUnknown, Why: "it takes all other keys", Field: f}})
			continue
		}
		if about.any && about.anyField == nil && t.Unwrapped().Kind == model.Map {
			n.Steps = append(n.Steps, decoder.Step{Property: i, Node: &decoder.Node{Op: decoder.OpUnknown, Why: "the method that takes all other keys may fill it", Field: f}})
			continue
		}
		why := "the mapper does not see it: it is " + string(f.Access) + ", without a setter, a getter or an annotation"
		if about.ignored[f.Name] {
			why = "it is ignored by annotation"
		}
		if f.Transient {
			why = "it is transient"
		}
		n.Steps = append(n.Steps, decoder.Step{Property: i, Node: &decoder.Node{Op: decoder.OpConst, Field: f, Value: value, Why: why}})
	}
	n.Passed = as.passed
	c.unknowns(n, m, about, as, unwraps, names)
	return n
}

// spent is the error for a member of a creator that comes again after the instance has
// been made: then only a setter or a field can take it.
func spent(m *model.Model, p *property, target *model.Field, about *introspection) *decoder.Error {
	for _, f := range about.final {
		if f.implicit == p.implicit { // its field has another name
			return decoder.PassedOver
		}
	}
	switch {
	case p.param == nil || p.setter != nil:
		return nil
	case m.Kind == model.Record && target != nil: // its fields are there, but final for good
		return fixed(m, target)
	case p.field != nil:
		return nil
	}
	return fault("InvalidDefinitionException", decoder.ReasonUnknown, "No fallback setter/field defined for creator property '%s'", p.name)
}

// fixed is the error for setting a field of a record.
func fixed(m *model.Model, f *model.Field) *decoder.Error {
	return fault("JsonMappingException", decoder.ReasonType, "Can not set final %s field %s.%s to", raw(f.Type), jvm.ClassName(m), f.Name)
}

// className is how messages name the class that is made: its builder where it has one.
func className(m *model.Model) string {
	name := jvm.ClassName(m)
	if jacksonized(m) {
		name += "$" + m.Name[strings.LastIndexByte(m.Name, '.')+1:] + "Builder"
	}
	return name
}

// unknowns settles what becomes of keys that no property takes.
func (c *compiler) unknowns(n *decoder.Node, m *model.Model, about *introspection, as part, unwraps bool, names []string) {
	ignored := about.hides
	fails := !as.inside && !about.any && !about.lenient && !unwraps && !c.off("FAIL_ON_UNKNOWN_PROPERTIES")
	minds := c.on("FAIL_ON_IGNORED_PROPERTIES") && !as.inside
	if !fails && !minds {
		return
	}
	list := fmt.Sprintf("%d known properties: %s", len(names), known(names))
	if len(names) == 1 {
		list = "one known property: " + names[0]
	}
	class := className(m)
	n.Unknown = func(name string) *decoder.Error {
		if ignored(name) {
			return fault("IgnoredPropertyException", decoder.ReasonUnknown, "Ignored field %q (class %s) encountered; mapper configured not to allow this (%s])", name, class, list)
		}
		return fault("UnrecognizedPropertyException", decoder.ReasonUnknown, "Unrecognized field %q (class %s), not marked as ignorable (%s])", name, class, list)
	}
	n.Ignored = func(name string) bool {
		if ignored(name) {
			return !minds
		}
		return !fails
	}
}

// target is the field that a property ends up in, with the type that is read for it.
func (c *compiler) target(p *property, t *model.Type, fields []*model.Field, owners []*model.Type) (target *model.Field, typ, owner *model.Type) {
	find := func(name string) *model.Field {
		for i := len(fields) - 1; i >= 0; i-- {
			if fields[i].Name == name {
				owner = owners[i]
				return fields[i]
			}
		}
		return nil
	}
	if p.field != nil {
		target, owner = p.field.field, p.field.owner
	}
	switch {
	case p.param != nil:
		typ = p.param.param.Type
		if p.param.param.fills != "" {
			target = find(p.param.param.fills)
		} else if target == nil {
			for _, name := range []string{p.implicit, p.param.param.Name, p.name} {
				if target == nil {
					target = find(name)
				}
			}
			if target == nil && p.setter != nil {
				target = fieldOf(p.setter.method, "set", p.implicit, find)
			}
		}
		if owner == nil {
			owner = t
		}
	case p.setter != nil:
		typ = p.setter.method.Params[0].Type
		if target == nil {
			target = fieldOf(p.setter.method, "set", p.implicit, find)
		}
		if target == nil {
			target = foldedField(p.setter.method, "set", fields)
		}
		owner = p.setter.owner
	case p.field != nil:
		typ = p.field.field.Type
	case p.getter != nil:
		typ = p.getter.method.Returns
		target = fieldOf(p.getter.method, "get", p.implicit, find)
		owner = p.getter.owner
	}
	return target, typ, owner
}

// fieldOf is the field that a getter or setter is for: that of the property's name, or
// the one that is left of the method's name, or of its parameter.
func fieldOf(m *model.Method, prefix, implicit string, find func(string) *model.Field) *model.Field {
	if f := find(implicit); f != nil {
		return f
	}
	rest := strings.TrimPrefix(m.Name, prefix)
	names := []string{rest, strings.ToLower(rest[:min(1, len(rest))]) + rest[min(1, len(rest)):], "is" + rest}
	for _, p := range m.Params {
		names = append(names, p.Name)
	}
	for _, name := range names {
		if f := find(name); f != nil {
			return f
		}
	}
	return nil
}

// foldedField is the field of a setter's or getter's name in other capitals: setUrl sets
// URL, where no field is called url.
func foldedField(m *model.Method, prefix string, fields []*model.Field) *model.Field {
	for _, f := range fields {
		if strings.EqualFold(f.Name, strings.TrimPrefix(m.Name, prefix)) {
			return f
		}
	}
	return nil
}

// property is the node that reads one property.
func (c *compiler) property(p *property, target *model.Field, typ, owner *model.Type, prefix, suffix string) *decoder.Node {
	t := typ
	if owner != nil {
		t = typ.Bind(owner.Env())
	}
	at := &decoder.Node{Op: decoder.OpAt, Name: prefix + p.name + suffix, Every: true, Field: target, Type: jvm.TypeText(t)}
	match := c.match()
	for _, a := range p.marks.Find("JsonAlias").Texts("value") {
		at.Others = append(at.Others, prefix+a+suffix)
	}
	if match != nil {
		at.Name = match(at.Name)
		for i := range at.Others {
			at.Others[i] = match(at.Others[i])
		}
	}
	if a := p.marks.Find("JsonDeserialize"); a != nil && owner != nil {
		t = c.narrowed(t, a, owner.Model)
	}
	at.Value = jvm.Zero(t, false)
	kept := false
	if target != nil && target.Default != nil && p.param == nil {
		at.Value, kept = jvm.Constant(target.Default, t), true
	} else if p.param == nil && owner != nil && jvm.Delegates(owner.Model) {
		at.Value, kept = decoder.Seen{Kind: decoder.SeenUnknown}, true
	}
	primitive := jvm.IsPrimitive(t, false)
	if primitive && !kept {
		at.AbsentLoss = decoder.Zeroed
	}
	if p.param != nil && !primitive && c.on("FAIL_ON_NULL_CREATOR_PROPERTIES") {
		at.Missing = fault("MismatchedInputException", decoder.ReasonNull, "Null value for creator property '%s' (index %d); `DeserializationFeature.FAIL_ON_NULL_CREATOR_PROPERTIES` enabled", p.name, p.param.param.index)
	}
	if p.param != nil && primitive && c.on("FAIL_ON_NULL_FOR_PRIMITIVES") {
		at.Missing = c.scalarOf(t, "")(jvm.Sample(wire.Null)).Err
	}
	if p.param != nil && (p.param.param.required || c.on("FAIL_ON_MISSING_CREATOR_PROPERTIES")) {
		at.Missing = fault("MismatchedInputException", decoder.ReasonMissing, "Missing required creator property '%s' (index %d)", p.name, p.param.param.index)
		at.Missing.Key = p.name
	}
	if a := p.marks.Find("JsonDeserialize"); a != nil && (a.Text("using", "") != "" || a.Text("contentUsing", "") != "" || a.Text("converter", "") != "") {
		at.Inner = unknown("a deserializer of its own reads it")
		return at
	}
	if p.marks.Find("JsonTypeInfo") != nil || p.marks.Find("JsonBackReference") != nil {
		at.Inner = unknown("it is read by its own type information, which is not followed")
		return at
	}
	var as format
	if a := p.marks.Find("JsonFormat"); a != nil {
		for _, feature := range a.Texts("with") {
			as.single = as.single || lastName(feature) == "ACCEPT_SINGLE_VALUE_AS_ARRAY"
		}
		as.pattern = a.Text("pattern", "")
		if as.pattern != "" && a.Text("timezone", "UTC") != "UTC" && a.Text("timezone", "GMT") != "GMT" {
			at.Inner = unknown("its @JsonFormat has a time zone, which is not followed")
			return at
		}
	}
	if a := p.marks.Find("JsonIgnoreProperties"); a != nil {
		as.lenient = a.Text("ignoreUnknown", "false") == "true"
		for _, name := range a.Texts("value") {
			as.ignored += "," + name
		}
	}
	at.Inner = c.value(t, as)
	if p.param == nil && p.setter == nil && p.field == nil { // what the getter answers is added to
		at.KeepNull, at.AbsentLoss = true, decoder.NoLoss
		switch {
		case target == nil:
			at.Inner = unknown("what its getter answers is added to, which is not followed")
		case at.Value.Kind == decoder.SeenNull:
			at.Inner = &decoder.Node{Op: decoder.OpFail, Error: fault("InvalidDefinitionException", decoder.ReasonType, "Problem deserializing 'setterless' property '%s': get method returned null", p.name)}
		}
	}
	c.nulls(at, p, t)
	return at
}

// narrowed is the type that @JsonDeserialize names in place of the declared one, or of
// the one of its elements.
func (c *compiler) narrowed(t *model.Type, a *model.Annotation, in *model.Model) *model.Type {
	to := func(t *model.Type, name string) *model.Type {
		out := *t
		if m := c.subclass(in, name); m != nil {
			return &model.Type{Kind: model.Named, Name: m.Name, Model: m, Args: t.Args, Pos: t.Pos}
		}
		switch t.Kind {
		case model.List, model.Unique, model.Map:
			out.Class = lastName(name)
		default:
			out.Model, out.Name = nil, lastName(name)
		}
		return &out
	}
	if name := a.Text("as", ""); name != "" {
		t = to(t, name)
	}
	for arg, word := range map[int]string{0: "keyAs", 1: "contentAs"} {
		name := a.Text(word, "")
		if name == "" || len(t.Args) == 0 || arg == 0 && t.Kind != model.Map {
			continue
		}
		out := *t
		out.Args = slices.Clone(t.Args)
		at := min(arg, len(t.Args)-1)
		out.Args[at] = to(t.Args[at], name)
		t = &out
	}
	return t
}

// nulls settles what null becomes where @JsonSetter says so, at the property and in what
// it holds.
func (c *compiler) nulls(at *decoder.Node, p *property, t *model.Type) {
	a := p.marks.Find("JsonSetter")
	if a == nil {
		return
	}
	invalid := fault("InvalidNullException", decoder.ReasonNull, "Invalid `null` value encountered for property %q", p.name)
	if rule := lastName(a.Text("contentNulls", "")); rule != "" && rule != "DEFAULT" && rule != "SET" {
		at.Inner = c.contentNulls(at.Inner, rule, t, invalid)
	}
	switch lastName(a.Text("nulls", "")) {
	case "SKIP":
		at.KeepNull = true
	case "FAIL":
		at.Inner = &decoder.Node{Op: decoder.OpNil, Inner: at.Inner, Type: at.Inner.Type, NullError: invalid}
		if p.param != nil && at.Missing == nil {
			at.Missing = invalid
		}
	case "AS_EMPTY":
		if p.param != nil {
			at.Value, at.AbsentLoss = c.empty(t), decoder.NoLoss
		}
		at.Inner = &decoder.Node{Op: decoder.OpNil, Inner: at.Inner, Type: at.Inner.Type, Value: c.empty(t)}
	}
}

// contentNulls makes of the node of a list or map one for which nulls in it are left
// out, refused or taken for empty.
func (c *compiler) contentNulls(n *decoder.Node, rule string, t *model.Type, invalid *decoder.Error) *decoder.Node {
	u := t.Unwrapped()
	if n.Op != decoder.OpNil || len(u.Args) == 0 || u.Kind != model.List && u.Kind != model.Unique && u.Kind != model.Map {
		return n
	}
	outer, inner := *n, *n.Inner
	outer.Inner = &inner
	elem := u.Args[len(u.Args)-1]
	switch rule {
	case "FAIL":
		inner.Inner = &decoder.Node{Op: decoder.OpNil, Inner: inner.Inner, Type: inner.Inner.Type, NullError: invalid}
	case "AS_EMPTY":
		inner.Inner = &decoder.Node{Op: decoder.OpNil, Inner: inner.Inner, Type: inner.Inner.Type, Value: c.empty(elem)}
	case "SKIP":
		inner.SkipNull = true
	}
	return &outer
}

// empty is what a deserializer takes for the empty value of its type
// (JsonDeserializer.getEmptyValue).
func (c *compiler) empty(t *model.Type) decoder.Seen {
	u := t.Unwrapped()
	if s := jvm.Scalar(u); s != "" {
		return jvm.Zero(&model.Type{Kind: model.Named, Name: s}, false)
	}
	switch {
	case u.Kind == model.List:
		return decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
	case u.Kind == model.Unique:
		return decoder.Seen{Kind: decoder.SeenSet, Elems: []decoder.Seen{}}
	case u.Kind == model.Map:
		return decoder.Seen{Kind: decoder.SeenMap, Elems: []decoder.Seen{}}
	case u.Model != nil && u.Model.Kind == model.Enum:
		for _, k := range u.Model.Cases {
			if k.Marks.Find("JsonEnumDefaultValue") != nil {
				return decoder.Seen{Kind: decoder.SeenEnum, Text: k.Name, Type: u.Model.Name}
			}
		}
		return decoder.Seen{}
	case u.Model != nil:
		return decoder.Seen{Kind: decoder.SeenUnknown}
	}
	switch u.Name {
	case "String", "CharSequence", "StringBuilder", "StringBuffer":
		return decoder.Seen{Kind: decoder.SeenString}
	case "URI", "Locale":
		return decoder.Seen{Kind: decoder.SeenString, Type: u.Name}
	case "BigDecimal":
		return decoder.Seen{Kind: decoder.SeenDecimal, Text: "0"}
	case "BigInteger", "AtomicInteger", "AtomicLong":
		return decoder.Seen{Kind: decoder.SeenInt, Text: "0"}
	case "AtomicBoolean":
		return decoder.Bool(false)
	case "UUID":
		return decoder.Seen{Kind: decoder.SeenString, Text: "00000000-0000-0000-0000-000000000000", Type: u.Name}
	case "Date":
		return decoder.Seen{Kind: decoder.SeenDate}
	case "Object", "Number", "URL", "Currency":
		return decoder.Seen{}
	}
	return decoder.Seen{Kind: decoder.SeenUnknown}
}

// subtypes is the node for a class whose instances tell their class by a key.
func (c *compiler) subtypes(t *model.Type, info *model.Annotation) *decoder.Node {
	use, include := info.Text("use", ""), info.Text("include", "As.PROPERTY")
	name := info.Text("property", "")
	if !strings.HasSuffix(use, "NAME") || !strings.HasSuffix(include, "PROPERTY") || strings.HasSuffix(include, "EXTERNAL_PROPERTY") {
		return unknown("its type information is of a kind that is not followed: " + t.Model.Name)
	}
	if name == "" {
		name = "@type"
	}
	typ := jvm.ClassName(t.Model)
	passed := name
	if info.Text("visible", "false") == "true" {
		passed = ""
	}
	n := &decoder.Node{Op: decoder.OpSubtype, Name: name, Model: t.Model, Match: c.match()}
	if n.Match != nil {
		n.Name = n.Match(name)
	}
	var ids []string
	if a := classMark(t, "JsonSubTypes"); a != nil {
		for _, sub := range a.Args["value"].Marks {
			class := sub.Text("value", "")
			id := sub.Text("name", "")
			target := c.subclass(t.Model, class)
			if target == nil {
				return unknown("a subtype of it is not in the source: " + class)
			}
			if own := target.Marks.Find("JsonTypeName"); own != nil && id == "" {
				id = own.Text("value", "")
			}
			if id == "" {
				id = target.Name[strings.LastIndexByte(target.Name, '.')+1:]
			}
			ids = append(ids, id)
			for _, each := range append([]string{id}, sub.Texts("names")...) {
				n.Branches = append(n.Branches, decoder.Branch{Key: each, Node: c.object(&model.Type{Kind: model.Named, Name: target.Name, Model: target}, passed)})
			}
		}
	}
	if own := t.Model; !own.Abstract { // it is one of its own
		id := own.Marks.Find("JsonTypeName").Text("value", own.Name[strings.LastIndexByte(own.Name, '.')+1:])
		ids = append(ids, id)
		n.Branches = append(n.Branches, decoder.Branch{Key: id, Node: c.object(t, passed)})
	}
	if len(n.Branches) == 0 {
		return unknown("its subtypes are not named by annotation: " + t.Model.Name)
	}
	n.Missing = fault("InvalidTypeIdException", decoder.ReasonMissing, "Could not resolve subtype of [simple type, class %s]: missing type id property '%s'", typ, name)
	n.Missing.Key = name
	if impl := info.Text("defaultImpl", ""); impl != "" {
		if target := c.subclass(t.Model, impl); target != nil {
			n.Third = c.object(&model.Type{Kind: model.Named, Name: target.Name, Model: target}, passed)
			n.Second = c.object(&model.Type{Kind: model.Named, Name: target.Name, Model: target}, "")
		} else {
			return unknown("its default class is not in the source: " + impl)
		}
	}
	n.Key = func(id string) (decoder.Seen, *decoder.Error) {
		return decoder.Seen{}, fault("InvalidTypeIdException", decoder.ReasonConstant, "Could not resolve type id '%s' as a subtype of `%s`: known type ids = [%s]", id, typ, known(ids))
	}
	return wrongAs(n, func(v *wire.Value) *decoder.Error {
		switch {
		case v.Kind == wire.Array && len(v.Elems) > 0 && v.Elems[0].Kind == wire.String:
			id, _ := v.Elems[0].Text()
			_, err := n.Key(id)
			return err
		case v.Kind == wire.Array:
			return fault("MismatchedInputException", decoder.ReasonKind, "Unexpected token (%s), expected VALUE_STRING: need JSON String that contains type id (for subtype of %s)", firstToken(v), full(t))
		case n.Third != nil && n.Third.WrongValue != nil:
			return n.Third.WrongValue(v)
		}
		err := *n.Missing // in the words that it has for an object without the key
		err.Reason, err.Key = decoder.ReasonKind, ""
		return &err
	})
}

// firstToken names the token that an array begins with.
func firstToken(v *wire.Value) string {
	if len(v.Elems) == 0 {
		return "END_ARRAY"
	}
	text := token(v.Elems[0])
	return strings.TrimSuffix(text[strings.Index(text, "JsonToken.")+len("JsonToken."):], "`)")
}

// subclass is the model that an annotation names.
func (c *compiler) subclass(m *model.Model, name string) *model.Model {
	if m.Related == nil {
		return nil
	}
	return m.Related(name)
}

// bytes is PrimitiveArrayDeserializers.ByteDeser: base64, or numbers.
func (c *compiler) bytes(t *model.Type) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpList, Inner: c.value(t.Args[0], format{}), Bytes: true}
	n.Second = &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		s, _ := v.Text()
		data, err := base64Of(s)
		if err != nil {
			return decoder.Verdict{Err: err}
		}
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenBytes, Text: data}}
	}}
	return wrongAs(n, func(v *wire.Value) *decoder.Error { return mismatched("[B", v) })
}

// base64Of decodes as Base64Variants.MIME_NO_LINEFEEDS does: four characters at a time,
// with white space between them and padding at the end.
func base64Of(s string) (string, *decoder.Error) {
	bad := weird("byte[]", s, "Failed to decode VALUE_STRING as base64 (MIME-NO-LINEFEEDS)", decoder.ReasonText)
	var plain strings.Builder
	rest := s
	for {
		if rest = strings.TrimLeftFunc(rest, func(r rune) bool { return r <= ' ' }); rest == "" {
			break
		}
		for i := range min(4, len(rest)) {
			c := rest[i]
			digit := c >= '0' && c <= '9' || c|0x20 >= 'a' && c|0x20 <= 'z' || c == '+' || c == '/'
			if !digit && !(c == '=' && i >= 2) {
				return "", bad
			}
		}
		if len(rest) == 1 {
			return "", fault("JsonMappingException", decoder.ReasonText, "Unexpected end-of-input: was expecting closing quote for a string value")
		}
		plain.WriteString(rest[:min(4, len(rest))])
		rest = rest[min(4, len(rest)):]
	}
	data, ok := jvm.Base64(plain.String())
	if !ok {
		return "", bad
	}
	return data, nil
}

// rootName is UNWRAP_ROOT_VALUE: the document is an object with the one key of the
// class's name.
func (c *compiler) rootName(t *model.Type, inner *decoder.Node) *decoder.Node {
	m := t.Unwrapped().Model
	if m == nil {
		return unknown("the root name of " + jvm.TypeText(t) + " is not followed")
	}
	name := m.Name[strings.LastIndexByte(m.Name, '.')+1:]
	if a := m.Marks.Find("JsonRootName"); a != nil {
		name = a.Text("value", name)
	}
	at := &decoder.Node{Op: decoder.OpAt, Name: name, Type: inner.Type, Inner: inner}
	at.Missing = fault("MismatchedInputException", decoder.ReasonMissing, "Root name does not match expected ('%s') for type `%s`", name, raw(t))
	at.Missing.Key = name
	at.MissingFrom = func(v *wire.Value) *decoder.Error {
		if len(v.Members) == 0 {
			return at.Missing
		}
		err := fault("MismatchedInputException", decoder.ReasonMissing, "Root name ('%s') does not match expected ('%s') for type `%s`", v.Members[0].Name, name, raw(t))
		err.Key = name
		return err
	}
	return wrongAs(&decoder.Node{Op: decoder.OpKeyed, Inner: at}, func(v *wire.Value) *decoder.Error {
		return fault("MismatchedInputException", decoder.ReasonKind, "Unexpected token (%s), expected START_OBJECT: need JSON Object as root-level object to contain the root name '%s'", token(v), name)
	})
}
