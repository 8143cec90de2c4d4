// Package jackson is what Jackson's ObjectMapper does with classes, as measured with
// databind 2.14 on OpenJDK 17 (testdata/truth/java) and as its source has it
// (POJOPropertiesCollector, BeanDeserializer, StdDeserializer).
package jackson

import (
	"fmt"
	"strconv"
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
	return Planner(settings)(t, declared)
}

// Planner is Plan for many types with the same settings: what several of them hold is planned once.
func Planner(settings *model.Settings) func(t *model.Type, declared string) *decoder.Plan {
	c := &compiler{settings: settings, nodes: map[string]*decoder.Node{}, declared: map[*decoder.Node]bool{}}
	return func(t *model.Type, declared string) *decoder.Plan {
		if c.broken != nil { // what holds the class would pass for whole, were its node taken again
			c.nodes = map[string]*decoder.Node{}
		}
		c.broken, c.breaks, c.growth = nil, nil, model.Growth{}
		return c.plan(t, declared)
	}
}

func (c *compiler) plan(t *model.Type, declared string) *decoder.Plan {
	settings := c.settings
	p := &decoder.Plan{Type: t, Declared: declared, Settings: settings, Stops: !c.on("FAIL_ON_TRAILING_TOKENS")}
	takesNull := t.Kind == model.Optional
	t = c.java(t)
	p.Root = c.value(t, format{})
	if settings != nil && settings.Root.NotNull && !takesNull && p.Root.Op == decoder.OpNil && c.since(refusesNullAtRoot) {
		root := *p.Root
		root.NullError = fault("RuntimeJsonMappingException", decoder.ReasonNull, "Deserialized value did not match the specified type; specified %s(non-null) but was null", declared)
		p.Root = &root
	}
	if c.on("UNWRAP_ROOT_VALUE") {
		p.Root = c.rootName(t, p.Root)
	}
	if c.broken != nil {
		p.Root = &decoder.Node{Op: decoder.OpFail, Type: declared, Model: c.breaks, Error: c.broken, Inner: p.Root}
	}
	c.views.asDeclared(p.Root, c.declared)
	c.stands(p)
	if c.off("USE_ANNOTATIONS") {
		p.Refuses = "its mapper passes over annotations, which is not followed"
	}
	for _, name := range []string{"STRICT_DUPLICATE_DETECTION", "setAnnotationIntrospector", "addDeserializer", "setVisibility", "UNWRAP_SINGLE_VALUE_ARRAYS", "ACCEPT_EMPTY_ARRAY_AS_NULL_OBJECT"} {
		if set := settings.Option(name); set != "" && set != "false" {
			p.Refuses = "its mapper is set up by " + name + ", which is not followed"
		}
	}
	if by := settings.Option("unfollowed"); by != "" {
		p.Refuses = "its mapper is set up by " + by + ", which is not followed"
	}
	if settings != nil && settings.Why != "" {
		p.Refuses = settings.Why
	}
	return p
}

// compiler makes nodes of types. A node is made once for each type, so that a model
// that holds itself becomes a circle.
type compiler struct {
	settings *model.Settings
	nodes    map[string]*decoder.Node
	growth   model.Growth
	computed bool // code gives the fields of the class that is compiled what they hold at first
	fold     bool // the class that is compiled says that the case of its keys does not matter
	// broken is what Jackson refuses of a class that it must know to decode: then nothing
	// is decoded, whatever is sent. breaks is the class.
	broken *decoder.Error
	breaks *model.Model
	views  views
	// declared are the nodes in which the classes and fields of the source stand, not their views.
	declared map[*decoder.Node]bool
	// identities are the nodes of objects that have ids; taken those of members that what makes an instance takes.
	identities map[*decoder.Node]*identity
	taken      map[*decoder.Node]bool
}

// on and off say whether the source switches a feature so; one that it leaves alone is
// neither.
func (c *compiler) on(feature string) bool { return c.settings.Option(feature) == "true" }

func (c *compiler) off(feature string) bool { return c.settings.Option(feature) == "false" }

func unknown(why string) *decoder.Node { return &decoder.Node{Op: decoder.OpUnknown, Why: why} }

// format is what annotations of a property say about its values: @JsonFormat the pattern
// of dates, and that one value stands for a list of one.
type format struct {
	pattern string
	zone    string // of a @JsonFormat: that of texts which say none, "" for UTC
	single  bool
	// What @JsonIgnoreProperties and @JsonIncludeProperties say of the objects that the property
	// holds: names, each behind a comma; only is "" where the second is not there.
	ignored, only string
	lenient       bool
	within        bool // the class is an inner one of the class that holds the property
	// prefix and suffix are those that the property's own name gets in an object that is
	// unwrapped: the names in what it holds get them too, and unknown ones are passed over
	// there (BeanDeserializer.unwrappingDeserializer).
	prefix, suffix string
}

// value is the node for a value of type t, null among them.
func (c *compiler) value(t *model.Type, as format) *decoder.Node {
	key := fmt.Sprint(t.Key(), as)
	if n := c.nodes[key]; n != nil {
		return n
	}
	if c.growth.Endless(t) {
		c.refuse(t.Model, jvm.Growing(t))
		return unknown(t.Name + " grows without end")
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
	case model.List, model.Unique, model.Map:
		as.prefix, as.suffix = "", "" // elements are read as they are elsewhere
	}
	switch t.Kind {
	case model.List, model.Unique:
		return nullable(c.list(t, as))
	case model.Map:
		return nullable(c.dictionary(t, as))
	case model.Param:
		return c.anything()
	case model.Named:
		if n := c.own(c.registered(t)); n != nil {
			return n
		}
		if c.settings.Option("adapter."+model.SimpleName(t.Name)) != "" {
			return unknown("a deserializer of its own reads " + t.Name)
		}
		if t.Name == unboxed {
			return nullable(c.value(t.Args[0], as))
		}
		if n := c.unsigned(t); n != nil {
			return n
		}
		if t.Model != nil {
			return c.model(t, as)
		}
		if read := c.scalarOf(t, as); read != nil {
			return &decoder.Node{Op: decoder.OpLeaf, Read: read, MindsText: true, NumbersByClass: true, ByFacts: jvm.Scalar(t) != "" && jvm.Scalar(t) != "char", ByDate: as.pattern == "" && c.settings.Option("dates.pattern") == ""}
		}
		switch t.Name {
		case "Object", "Any":
			return c.anything()
		case "JsonNode":
			return c.tree()
		case "Optional", "OptionalInt", "OptionalLong", "OptionalDouble":
			if c.settings.Option("module.Jdk8Module") == "" {
				return nullable(c.optional(t))
			}
		}
		if times[t.Name] {
			if c.settings != nil && c.settings.Options != nil && c.settings.Option("module.JavaTimeModule") == "" && c.settings.Option("module.all") == "" {
				return nullable(&decoder.Node{Op: decoder.OpFail, Error: fault("InvalidDefinitionException", decoder.ReasonType, "Java 8 date/time type `java.time.%s` not supported by default: add Module \"com.fasterxml.jackson.datatype:jackson-datatype-jsr310\" to enable handling", t.Name)})
			}
			if c.settings.Option("module.JavaTimeModule") != "" {
				return c.timeOf(t.Name, as)
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

// anything is UntypedObjectDeserializer: whole numbers stay whole, others are doubles, or decimals
// where they were kept aside.
func (c *compiler) anything() *decoder.Node { return c.untyped(jvm.ParseDecimal) }

// tree is JsonNodeDeserializer, whose decimals lose the zeros at their end
// (JsonNodeFactory.numberNode).
func (c *compiler) tree() *decoder.Node { return c.untyped(jvm.ParseShortDecimal) }

func (c *compiler) untyped(decimal func(string) (string, bool)) *decoder.Node {
	exact := c.on("USE_BIG_DECIMAL_FOR_FLOATS")
	long := c.on("USE_LONG_FOR_INTS")
	return &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
		if raw := beyondLong(v); long && raw != "" {
			return decoder.Verdict{Err: outOfRange(raw, "long (-9223372036854775808 - 9223372036854775807)")}
		}
		return decoder.Verdict{Seen: jvm.Any(v, func(raw string) decoder.Seen {
			if !strings.ContainsAny(raw, ".eE") {
				n, _ := jvm.ParseInteger(raw)
				return decoder.Seen{Kind: decoder.SeenInt, Text: n}
			}
			if exact || v.Aside {
				d, _ := decimal(raw)
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
		what, from = "int/Int", fmt.Sprintf("Number value (%s)", numeral(v))
		switch n := string(v.Raw); {
		case isDecimal(v):
			what = "BigDecimal/double/Double"
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

// beyondLong is the first whole number in a value that a long does not hold, "" for none.
func beyondLong(v *wire.Value) string {
	if v.Kind == wire.Number && !isFloat(v) {
		if _, err := strconv.ParseInt(string(v.Raw), 10, 64); err != nil {
			return string(v.Raw)
		}
	}
	for _, e := range v.Elems {
		if raw := beyondLong(e); raw != "" {
			return raw
		}
	}
	for _, m := range v.Members {
		if raw := beyondLong(m.Value); raw != "" {
			return raw
		}
	}
	return ""
}
