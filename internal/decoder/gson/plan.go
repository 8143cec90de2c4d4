// Package gson is what Gson does with classes that it fills by reflection, as measured
// with Gson 2.10 on OpenJDK 17 (testdata/truth/java, testdata/truth/kotlin) and as its
// source has it (ReflectiveTypeAdapterFactory, TypeAdapters, JsonReader).
package gson

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
const Name = "gson"

// Plan makes the plan by which a Gson with these settings decodes t. Settings may be
// nil: a Gson on which nothing is set.
func Plan(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	return Planner(settings)(t, declared)
}

// Planner is Plan for many types with the same settings: what several of them hold is planned once.
func Planner(settings *model.Settings) func(t *model.Type, declared string) *decoder.Plan {
	c := &compiler{settings: settings, nodes: map[string]*decoder.Node{}}
	return func(t *model.Type, declared string) *decoder.Plan {
		if c.broken != nil { // what holds the class would pass for whole, were its node taken again
			c = &compiler{settings: settings, nodes: map[string]*decoder.Node{}}
		}
		c.growth = model.Growth{}
		return c.plan(t, declared, c.value(t.Unwrapped(), false))
	}
}

func (c *compiler) plan(t *model.Type, declared string, root *decoder.Node) *decoder.Plan {
	settings := c.settings
	p := &decoder.Plan{Type: t, Declared: declared, Settings: settings, Root: root}
	if c.broken != nil {
		p.Root = &decoder.Node{Op: decoder.OpFail, Type: declared, Model: c.breaks, Error: c.broken, Inner: p.Root}
	}
	if p.Refuses = refusal(settings); settings != nil && settings.Why != "" {
		p.Refuses = settings.Why
	}
	return p
}

// refusal is why nothing is claimed of what a Gson with these settings reads, "" where something is.
func refusal(settings *model.Settings) (why string) {
	for _, name := range []string{"setExclusionStrategies", "addDeserializationExclusionStrategy", "setVersion"} {
		if settings.Option(name) != "" {
			why = "its Gson leaves out fields by " + name + ", which is not followed"
		}
	}
	if by := settings.Option("unfollowed"); by != "" {
		why = "its Gson is set up by " + by + ", which is not followed"
	}
	if _, ok := Rename(settings.Option("naming"), ""); !ok {
		why = "its Gson renames keys by code of its own (setFieldNamingStrategy), which is not followed"
	}
	return why
}

// compiler makes nodes of types. A node is made once for each type, so that a model
// that holds itself becomes a circle.
type compiler struct {
	settings *model.Settings
	nodes    map[string]*decoder.Node
	growth   model.Growth
	deep     int // of how many deserializers of the app's own, each asked for by the one before
	// broken is what making the adapter of some class throws: then nothing is decoded,
	// whatever is sent.
	broken *decoder.Error
	breaks *model.Model // the class, or the one that has a field of such a type
	within *model.Model // the class whose fields are being looked at
}

func unknown(why string) *decoder.Node { return &decoder.Node{Op: decoder.OpUnknown, Why: why} }

func isKotlin(m *model.Model) bool { return m != nil && m.Language == "kotlin" }

// value is the node for a value of type t wherever one may be null: at the root, as an
// element, as a member that is no primitive. hidden says that the source, which is
// Kotlin's, has it that there is no null.
func (c *compiler) value(t *model.Type, hidden bool) *decoder.Node {
	inner := c.notNull(t.Unwrapped())
	if inner.Op == decoder.OpUnknown || inner.Op == decoder.OpNil || inner.Inside { // code of the app's is asked for null too
		return inner
	}
	n := &decoder.Node{Op: decoder.OpNil, Inner: inner, Type: jvm.TypeText(t)}
	if hidden {
		n.NullLoss = decoder.HiddenNull
	}
	return n
}

// element is value for an element of a collection in a class of a language.
func (c *compiler) element(t *model.Type, kotlin bool) *decoder.Node {
	return c.value(t, kotlin && t.Kind != model.Optional && t.Kind != model.Param)
}

// notNull is the node for a value of type t that is not null.
func (c *compiler) notNull(t *model.Type) *decoder.Node {
	key := t.Key()
	if n := c.nodes[key]; n != nil {
		return n
	}
	if c.growth.Endless(t) {
		if c.broken == nil {
			c.broken, c.breaks = jvm.Growing(t), t.Model
		}
		return unknown(t.Name + " grows without end")
	}
	n := &decoder.Node{}
	c.nodes[key] = n
	*n = *c.make(t)
	n.Type = jvm.TypeText(t)
	return n
}

func wrong(what string) func(wire.Kind) *decoder.Error {
	return func(kind wire.Kind) *decoder.Error { return expected(what, kind) }
}

// kotlinType says whether a type was written in Kotlin: of collections it decides what
// their elements may be.
func kotlinType(t *model.Type) bool {
	return len(t.Pos.File) > 3 && t.Pos.File[len(t.Pos.File)-3:] == ".kt"
}

// adapted says whether the app has an adapter of its own for a type, or for some of its kind.
func (c *compiler) adapted(t *model.Type) bool {
	if c.settings == nil || len(c.settings.Options) == 0 {
		return false
	}
	names := []string{simpleName(t.Name)}
	switch {
	case t.Kind == model.List && t.Name != "":
		names = append(names, simpleName(t.Args[0].Name)+"[]")
	case t.Kind == model.List:
		names = append(names, t.Class, "List", "MutableList")
	case t.Kind == model.Unique:
		names = append(names, t.Class, "Set", "MutableSet")
	case t.Kind == model.Map:
		names = append(names, t.Class, "Map", "MutableMap")
	}
	return slices.ContainsFunc(names, func(name string) bool { return name != "" && c.settings.Option("adapter."+name) != "" })
}

func (c *compiler) make(t *model.Type) *decoder.Node {
	if a := c.registered(t); a != nil {
		if n := c.own(a, false); n != nil {
			return n
		}
	}
	if c.adapted(t) || t.Kind == model.Map && c.adapted(t.Args[0]) {
		return unknown("a TypeAdapter of its own reads " + jvm.TypeText(t))
	}
	switch t.Kind {
	case model.List, model.Unique:
		return c.list(t)
	case model.Map:
		return c.dictionary(t)
	case model.Param:
		return c.anything() // of a raw use: what Object is
	case model.Named:
		if t.Model != nil {
			return c.model(t)
		}
		if read := c.scalar(t); read != nil {
			return &decoder.Node{Op: decoder.OpLeaf, Read: read, MindsText: mindsText[t.Name] || jvm.Scalar(t) != "", NumbersByClass: numbersByClass(t), ByFacts: numbersByClass(t), ByDate: t.Name == "Date" && c.settings.Option("dates.pattern") == ""}
		}
		if full := interfaces[t.Name]; full != "" {
			return noInstance(noInterface, full)
		}
		switch t.Name {
		case "Object", "Any":
			return c.anything()
		case "UInt", "ULong", "UShort", "UByte":
			// Boxed, it is an object of Kotlin's own with the one field data.
			return &decoder.Node{Op: decoder.OpKeyed, Wrong: wrong("BEGIN_OBJECT"), Inner: unknown("it is an object that holds the number in its field data")}
		case "JsonElement":
			return element(0)
		case "JsonObject":
			return element(wire.Object)
		case "JsonArray":
			return element(wire.Array)
		case "JsonPrimitive":
			return element(wire.String)
		case "Class":
			return noClass
		}
		if field := encapsulated[t.Name]; field != "" { // reflection does not reach into the platform's own modules (JEP 403)
			if c.broken == nil {
				c.breaks = c.within
				c.broken = &decoder.Error{Kind: "JsonIOException", Reason: decoder.ReasonType, Where: decoder.AtRoot,
					Message: fmt.Sprintf("JsonIOException: Failed making field '%s' accessible; either increase its visibility or write a custom TypeAdapter for its declaring type.", field)}
			}
			return unknown("Gson cannot look into " + t.Name)
		}
		return unknown("the type " + t.Name + " is not in the source")
	}
	return unknown("the type " + t.Name + " is not one that decodes")
}

// mindsText are the types of which texts of one class may fare differently.
var mindsText = map[string]bool{"Date": true, "UUID": true, "BigInteger": true, "BigDecimal": true, "Currency": true, "Locale": true, "Number": true, "AtomicInteger": true, "AtomicLong": true, "URL": true, "URI": true}

// numbersByClass says whether numbers that are sent where a type is declared fare as their class does.
func numbersByClass(t *model.Type) bool {
	scalar := jvm.Scalar(t)
	return scalar != "" && scalar != "char" || t.Name == "AtomicInteger" || t.Name == "AtomicLong"
}

// encapsulated are classes of the platform's own modules that Gson has no adapter for, with the
// field that its reflection meets first (measured with OpenJDK 17).
var encapsulated = func() map[string]string {
	out := map[string]string{
		"LocalDate": "java.time.LocalDate#year", "LocalDateTime": "java.time.LocalDateTime#date", "LocalTime": "java.time.LocalTime#hour", "Instant": "java.time.Instant#seconds",
		"ZonedDateTime": "java.time.ZonedDateTime#dateTime", "OffsetDateTime": "java.time.OffsetDateTime#dateTime", "OffsetTime": "java.time.OffsetTime#time", "Duration": "java.time.Duration#seconds",
		"Period": "java.time.Period#years", "Year": "java.time.Year#year", "YearMonth": "java.time.YearMonth#year", "MonthDay": "java.time.MonthDay#month", "ZoneOffset": "java.time.ZoneOffset#totalSeconds",
		"Optional": "java.util.Optional#value", "OptionalInt": "java.util.OptionalInt#value", "OptionalLong": "java.util.OptionalLong#value", "OptionalDouble": "java.util.OptionalDouble#value",
		"TimeZone": "java.util.TimeZone#ID", "java.util.regex.Pattern": "java.util.regex.Pattern#pattern", "Regex": "java.util.regex.Pattern#pattern", "java.io.File": "java.io.File#path",
	}
	for _, thrown := range []string{"Throwable", "Exception", "RuntimeException", "Error", "IllegalStateException", "IllegalArgumentException", "java.io.IOException"} {
		out[thrown] = "java.lang.Throwable#detailMessage"
	}
	return out
}()

// noClass is the node for Class, whose adapter takes nothing but null.
var noClass = &decoder.Node{Op: decoder.OpFail, Error: &decoder.Error{Kind: "UnsupportedOperationException", Reason: decoder.ReasonType, Message: "UnsupportedOperationException: Attempted to deserialize a java.lang.Class. Forgot to register a type adapter?"}}

// anything is ObjectTypeAdapter: numbers become doubles, or what a strategy says.
func (c *compiler) anything() *decoder.Node {
	strategy := c.settings.Option("setObjectToNumberStrategy")
	if strategy == "" {
		strategy = "DOUBLE"
	}
	if _, ok := numberBy(strategy, "0"); !ok {
		return unknown("its numbers become what setObjectToNumberStrategy says")
	}
	return &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
		return decoder.Verdict{Seen: jvm.Any(v, func(raw string) decoder.Seen {
			n, _ := numberBy(strategy, raw)
			return n
		})}
	}}
}

const (
	noInterface = "Interfaces can't be instantiated! Register an InstanceCreator or a TypeAdapter for this type. Interface name: %s"
	noAbstract  = "Abstract classes can't be instantiated! Register an InstanceCreator or a TypeAdapter for this type. Class name: %s"
	noUnsafe    = "Unable to create instance of class %s; usage of JDK Unsafe is disabled. Registering an InstanceCreator or a TypeAdapter for this type, adding a no-args constructor, or enabling usage of JDK Unsafe may fix this problem."
)

// interfaces are the platform's that fields are declared with.
var interfaces = map[string]string{"CharSequence": "java.lang.CharSequence", "Iterable": "java.lang.Iterable", "Comparable": "java.lang.Comparable", "Serializable": "java.io.Serializable",
	"Runnable": "java.lang.Runnable", "Cloneable": "java.lang.Cloneable", "Iterator": "java.util.Iterator", "Map.Entry": "java.util.Map$Entry", "java.util.Map.Entry": "java.util.Map$Entry",
	"java.nio.file.Path": "java.nio.file.Path", "java.io.Serializable": "java.io.Serializable"}

// noInstance is the node for a type that Gson cannot make an instance of, which it finds
// out when it meets a value.
func noInstance(format string, args ...any) *decoder.Node {
	return &decoder.Node{Op: decoder.OpFail, Error: &decoder.Error{Kind: "JsonIOException", Reason: decoder.ReasonType, Message: "JsonIOException: " + fmt.Sprintf(format, args...)}}
}

// wants is how the adapter of a type begins its complaint about another token.
func (c *compiler) wants(t *model.Type) string {
	u := t.Unwrapped()
	switch jvm.Scalar(u) {
	case "int", "short", "byte":
		return "Expected an int but was "
	case "long":
		return "Expected a long but was "
	case "float", "double":
		return "Expected a double but was "
	case "boolean":
		return "Expected a boolean but was "
	}
	switch {
	case u.Kind == model.List || u.Kind == model.Unique:
		return "Expected BEGIN_ARRAY but was "
	case u.Kind == model.Map || u.Model != nil && u.Model.Kind != model.Enum:
		return "Expected BEGIN_OBJECT but was "
	case u.Name == "Object" || u.Name == "Any":
		return "Unexpected token: "
	}
	return "Expected a string but was "
}

func simpleName(name string) string {
	for i := len(name) - 1; i >= 0; i-- {
		if name[i] == '.' {
			return name[i+1:]
		}
	}
	return name
}

// ownReader is why it is not known what reads a class, "" where it is.
func ownReader(m *model.Model) string {
	switch {
	case m.Reading == model.Unfollowed:
		return fmt.Sprintf("%s: %s (%s)", m.Name, m.Why, m.WhyPos)
	case m.Marks.Find("JsonAdapter") != nil:
		return "a TypeAdapter of its own reads " + m.Name
	}
	return ""
}

// model is the node for a class that the source declares.
func (c *compiler) model(t *model.Type) *decoder.Node {
	m := t.Model
	if m.Adapter != nil {
		if n := c.own(m.Adapter, m.Marks.Find("JsonAdapter").Text("nullSafe", "true") == "true"); n != nil {
			return n
		}
	}
	switch why := ownReader(m); {
	case why != "":
		return unknown(why)
	case m.Kind == model.Enum:
		return &decoder.Node{Op: decoder.OpLeaf, Model: m, Read: constant(m), MindsText: true}
	}
	build := c.build(t)
	if build.Op == decoder.OpUnknown {
		return build
	}
	var n *decoder.Node
	switch name := jvm.ClassName(m); { // before it looks at the value
	case m.Kind == model.Interface:
		n = noInstance(noInterface, name)
	case m.Abstract:
		n = noInstance(noAbstract, name)
	case c.settings.Option("unsafe") == "false" && m.Kind != model.Record && !jvm.NoArguments(m):
		n = noInstance(noUnsafe, name)
	default:
		n = &decoder.Node{Op: decoder.OpKeyed, Wrong: wrong("BEGIN_OBJECT"), Inner: build}
	}
	n.Model = m
	return n
}

// build is ReflectiveTypeAdapterFactory: the fields of the class and of those it
// extends, each read where its key comes. Initialisers hold for absent keys where the
// class has a constructor without parameters; without one an instance is made that
// nothing has run for.
func (c *compiler) build(t *model.Type) *decoder.Node {
	m := t.Model
	defer func(outer *model.Model) { c.within = outer }(c.within)
	c.within = m
	hashed, _ := jvm.HashedBy(m)
	n := &decoder.Node{Op: decoder.OpBuild, Model: m, ByDocument: true, Hashes: len(hashed) > 0}
	runs := jvm.NoArguments(m) && m.Kind != model.Record
	keys := map[string]bool{}
	for _, s := range slices.Backward(jvm.Chain(t)) {
		for _, f := range s.Model.Fields {
			if f.Static {
				continue
			}
			node, names := c.field(f, s, runs)
			if node.Op == decoder.OpUnknown && node.Field == nil {
				return node
			}
			for _, name := range names {
				if keys[name] && c.broken == nil {
					c.breaks = m
					c.broken = &decoder.Error{Kind: "IllegalArgumentException", Reason: decoder.ReasonType, Where: decoder.AtRoot,
						Message: fmt.Sprintf("IllegalArgumentException: class %s declares multiple JSON fields named %s", jvm.ClassName(m), name)}
				}
				keys[name] = true
			}
			if s.Model.Kind == model.Record && node.Op == decoder.OpAt && computes(s.Model, f.Name) {
				node.Opaque, node.Value, node.AbsentLoss = true, decoder.Seen{Kind: decoder.SeenUnknown}, decoder.NoLoss
			}
			if node.Hashes = s.Model == m && slices.Contains(hashed, f.Name); node.Hashes && f.Type.Kind != model.Param {
				node.Hashed = jvm.HashOfNull(f.Name, f.Type.Bind(s.Env()))
			}
			n.Steps = append(n.Steps, decoder.Step{Property: len(n.Props), Node: node})
			n.Props = append(n.Props, f)
		}
	}
	return n
}

// computes says whether the constructor of a record makes something else of a component.
func computes(m *model.Model, name string) bool {
	return slices.ContainsFunc(m.Ctors, func(k *model.Method) bool { return slices.Contains(k.Computes, name) })
}

// excluded says why Gson does not read a field, "" where it does.
func (c *compiler) excluded(f *model.Field) string {
	if words := c.settings.Option("excluded"); words != "" {
		for _, word := range strings.Fields(words) {
			if word == f.Access.String() || word == "final" && f.Final || word == "transient" && f.Transient {
				return "it is " + word + ", which its Gson leaves out"
			}
		}
	} else if f.Transient {
		return "it is transient"
	}
	if c.settings.Option("exposed") == "true" {
		switch a := f.Marks.Find("Expose"); {
		case a == nil:
			return "it has no @Expose"
		case a.Text("deserialize", "true") == "false":
			return "its @Expose has deserialize = false"
		}
	}
	return ""
}

// field is the node that reads one field, with the keys it is read from.
func (c *compiler) field(f *model.Field, owner *model.Type, runs bool) (*decoder.Node, []string) {
	t := compiled(f.Type.Bind(owner.Env()))
	kotlin := isKotlin(owner.Model)
	initial := jvm.Zero(t, kotlin)
	if t.Kind == model.Opaque { // of an initialiser that says what it is by code
		initial = decoder.Seen{Kind: decoder.SeenUnknown}
	}
	kept := false // its initialiser holds where the key is absent
	if runs && jvm.Computes(c.within) {
		initial, kept = decoder.Seen{Kind: decoder.SeenUnknown}, true
	} else if f.Default != nil && runs {
		initial, kept = jvm.Constant(f.Default, t), true
	}
	if why := c.excluded(f); why != "" {
		return &decoder.Node{Op: decoder.OpConst, Field: f, Value: initial, Why: why}, nil
	}
	if text := f.Marks.Find("SerializedName").Untold("value", "alternate"); text != "" {
		n := unknown("its key is " + text + ", a constant that is not in the source")
		n.Field, n.Opaque = f, true
		return n, nil
	}
	name, others, _ := c.names(f)
	at := &decoder.Node{Op: decoder.OpAt, Name: name, Others: others, Every: true, Value: initial, Field: f, Type: f.Declared}
	keys := append([]string{name}, others...)
	if f.Default != nil && !runs {
		at.Why = "its default does not hold: an instance is made without any constructor, since the class has none without parameters"
		if kotlin {
			at.Why += "; give every parameter a default"
		}
	}
	primitive := jvm.IsPrimitive(t, kotlin)
	switch {
	case f.Marks.Find("JsonAdapter") != nil && f.Adapter != nil && !primitive && c.own(f.Adapter, true) != nil:
		at.Inner = c.own(f.Adapter, f.Marks.Find("JsonAdapter").Text("nullSafe", "true") == "true")
		return at, keys
	case f.Marks.Find("JsonAdapter") != nil:
		at.Inner = unknown("a TypeAdapter of its own reads it")
		return at, keys
	case primitive && owner.Model.Kind == model.Record:
		read := c.scalar(t)
		at.Inner = &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Type: f.Declared, Read: func(v *wire.Value) decoder.Verdict {
			if v.Kind == wire.Null {
				return decoder.Verdict{Err: &decoder.Error{Kind: "JsonParseException", Reason: decoder.ReasonNull,
					Message: fmt.Sprintf("JsonParseException: null is not allowed as value for record component '%s' of primitive type", f.Name)}}
			}
			return read(v)
		}}
		at.AbsentLoss = decoder.Zeroed
		return at, keys
	case primitive:
		at.KeepNull = true
		at.Inner = c.notNull(t.Unwrapped())
		if !kept {
			at.AbsentLoss, at.NullLoss = decoder.Zeroed, decoder.Zeroed
		}
		return at, keys
	}
	at.Inner = c.value(t, kotlin && t.Kind != model.Optional && f.Type.Kind != model.Param)
	if isJSON(t) { // null is an element of its own, or the wrong one
		at.Inner = c.notNull(t.Unwrapped())
	}
	if kotlin && t.Kind != model.Optional && f.Type.Kind != model.Param && !kept && initial.Kind == decoder.SeenNull {
		at.AbsentLoss = decoder.HiddenNull
	}
	return at, keys
}

// unsigned are Kotlin's value classes of numbers, by what they are in the class file.
var unsigned = map[string]string{"UInt": "Int", "ULong": "Long", "UShort": "Short", "UByte": "Byte"}

// compiled is what a property's type is in the class file: of a Kotlin value class, the
// type of its one property, but where it may be null and that is a primitive, or may
// itself be null ("Inline value classes", Representation). of are the value classes that it
// stands in.
func compiled(t *model.Type, of ...*model.Model) *model.Type {
	if signed := unsigned[t.Name]; t.Kind == model.Named && t.Model == nil && signed != "" {
		return &model.Type{Kind: model.Named, Name: signed, Pos: t.Pos}
	}
	m := t.Unwrapped().Model
	if m == nil || m.Inline == nil || slices.Contains(of, m) { // none holds itself in source that compiles
		return t
	}
	inner := m.Inline.Bind(t.Unwrapped().Env())
	if t.Kind != model.Optional {
		return compiled(inner, append(of, m)...)
	}
	if inner.Kind == model.Optional || jvm.Scalar(inner) != "" {
		return t
	}
	return model.OptionalOf(compiled(inner, append(of, m)...))
}

// isJSON says whether a type is one of Gson's own elements, of which null is one.
func isJSON(t *model.Type) bool {
	switch u := t.Unwrapped(); u.Name {
	case "JsonElement", "JsonObject", "JsonArray", "JsonPrimitive":
		return u.Kind == model.Named && u.Model == nil
	}
	return false
}
