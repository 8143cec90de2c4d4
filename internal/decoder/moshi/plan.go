// Package moshi is what Moshi does with a declared type and a value: by reflection on Kotlin's classes, by the
// adapters that its generator makes, and on Java's classes. The rules are those of Moshi 1.15, measured
// (testdata/truth/kotlin), and as its source has them (StandardJsonAdapters, KotlinJsonAdapterFactory, ClassJsonAdapter).
package moshi

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
const Name = "moshi"

// maxDepth is how many arrays and objects JsonReader takes inside each other.
const maxDepth = 255

// Plan makes the plan by which a Moshi with these settings decodes t. Settings may be nil: a Moshi of which nothing
// is known.
func Plan(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	return newCompiler(settings).plan(t, declared)
}

func (c *compiler) plan(t *model.Type, declared string) *decoder.Plan {
	settings := c.settings
	said := model.RootSaid{}
	if settings != nil {
		said = settings.Root
	}
	root := c.value(t.Unwrapped(), said.Qualifier, false)
	p := &decoder.Plan{Type: t, Declared: declared, Settings: settings, Root: root, MaxDepth: maxDepth, Stops: c.on("lenient"), TooDeep: data(decoder.ReasonText, "Nesting too deep at "+decoder.PathMark)}
	// Moshi.adapter<T>() of Kotlin refuses null for a T that takes none, unless an adapter of Moshi's own makes null of it.
	refuses := said.NotNull && t.Kind != model.Optional && c.ofApp(t)
	if (refuses || settings.Option("nonNull") == "true") && root.Op == decoder.OpNil {
		root.NullError = data(decoder.ReasonNull, "Unexpected null at "+decoder.PathMark)
	}
	if c.broken != nil {
		p.Root = &decoder.Node{Op: decoder.OpFail, Type: declared, Model: c.breaks, Error: c.broken, Inner: root}
	}
	p.Refuses = settings.Refuses("Moshi")
	return p
}

// Planner is Plan for many types with the same settings: what several of them hold is planned once.
func Planner(settings *model.Settings) func(t *model.Type, declared string) *decoder.Plan {
	c := newCompiler(settings)
	return func(t *model.Type, declared string) *decoder.Plan {
		if c.broken != nil { // what holds the class would pass for whole, were its node taken again
			c = newCompiler(settings)
		}
		c.growth = model.Growth{}
		return c.plan(t, declared)
	}
}

// compiler makes nodes of types. A node is made once for each type, so that a model that holds itself becomes
// a circle.
type compiler struct {
	settings *model.Settings
	nodes    map[string]*decoder.Node
	growth   model.Growth
	// broken is what making the adapter of some type throws: then nothing is decoded, whatever is sent.
	broken *decoder.Error
	breaks *model.Model // the class, or the one that has a field of such a type
	within *model.Model // the class whose properties are being looked at
	values bool         // what is read was parsed before
	deep   int          // how many factories are making adapters
}

func newCompiler(settings *model.Settings) *compiler {
	return &compiler{settings: settings, nodes: map[string]*decoder.Node{}}
}

func (c *compiler) on(option string) bool { return c.settings.Option(option) == "true" }

func unknown(why string) *decoder.Node { return &decoder.Node{Op: decoder.OpUnknown, Why: why} }

// data is a JsonDataException.
func data(reason decoder.Reason, format string, args ...any) *decoder.Error {
	return &decoder.Error{Kind: "JsonDataException", Reason: reason, Message: "JsonDataException: " + fmt.Sprintf(format, args...)}
}

// refuse notes that no adapter can be made, and why.
func (c *compiler) refuse(of *model.Model, advice, format string, args ...any) *decoder.Node {
	message := fmt.Sprintf(format, args...)
	if c.broken == nil {
		if of == nil {
			of = c.within
		}
		c.breaks = of
		c.broken = &decoder.Error{Kind: "IllegalArgumentException", Reason: decoder.ReasonType, Where: decoder.AtRoot, Message: "IllegalArgumentException: " + message, Advice: advice}
	}
	return unknown("Moshi makes no adapter: " + message)
}

// value is the node for a value of a type where null is nothing: at the root, as an element, in a nullable
// property. hidden says that the source has it that there is no null.
func (c *compiler) value(t *model.Type, qualifier string, hidden bool) *decoder.Node {
	inner := c.notNull(t.Unwrapped(), qualifier, true)
	if inner.Op == decoder.OpUnknown || inner.Op == decoder.OpNil || inner.Inside { // code of the app's is asked for null too
		return inner
	}
	n := &decoder.Node{Op: decoder.OpNil, Inner: inner, Type: jvm.TypeText(t)}
	if hidden {
		n.NullLoss = decoder.HiddenNull
	}
	return n
}

// notNull is the node for a value of a type that is not null. boxed says that of a primitive it is the class.
func (c *compiler) notNull(t *model.Type, qualifier string, boxed bool) *decoder.Node {
	key := fmt.Sprint(t.Key(), "@", qualifier, boxed && jvm.Scalar(t) != "")
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
	*n = *c.make(t, qualifier, boxed)
	n.Type = jvm.TypeText(t)
	return n
}

func (c *compiler) make(t *model.Type, qualifier string, boxed bool) *decoder.Node {
	return c.next(0, wanted{t, qualifier, boxed})
}

// next is the node of the first adapter for a type, of those that the Moshi was given from a place on and its own.
func (c *compiler) next(from int, w wanted) *decoder.Node {
	if n := c.adapted(w, from); n != nil {
		return n
	}
	t, qualifier := w.t, w.qualifier
	if qualifier != "" {
		return c.refuse(nil, "add an adapter to the Moshi.Builder whose @FromJson function yields a @"+qualifier+" "+jvm.TypeText(t),
			"No JsonAdapter for %s annotated [@%s()]", jvm.TypeText(t), qualifier)
	}
	switch t.Kind {
	case model.List, model.Unique:
		return c.list(t)
	case model.Map:
		return c.dictionary(t)
	case model.Param:
		return c.anything()
	case model.Named:
		if t.Model != nil {
			return c.model(t)
		}
		if n := c.scalar(t); n != nil {
			return n
		}
		if t.Name == "Any" || t.Name == "Object" {
			return c.anything()
		}
		if class := platform(t.Name); class != "" {
			return c.noPlatform(class)
		}
		return unknown("the type " + t.Name + " is not in the source")
	}
	return unknown("the type " + jvm.TypeText(t) + " is not one that decodes")
}

// platforms are classes of the platform's that fields are declared with, beside those that have adapters.
var platforms = map[string]string{
	"LocalDate": "java.time.", "LocalDateTime": "java.time.", "LocalTime": "java.time.", "Instant": "java.time.", "ZonedDateTime": "java.time.", "OffsetDateTime": "java.time.",
	"OffsetTime": "java.time.", "Duration": "java.time.", "Period": "java.time.", "Year": "java.time.", "YearMonth": "java.time.", "MonthDay": "java.time.", "ZoneId": "java.time.",
	"UInt": "kotlin.", "ULong": "kotlin.", "UShort": "kotlin.", "UByte": "kotlin.", "Pair": "kotlin.", "Triple": "kotlin.", "Regex": "kotlin.text.", "CharSequence": "java.lang.",
}

// platform is the full name of a class of the platform's, "" where a name is none.
func platform(name string) string {
	simple := model.SimpleName(name)
	switch {
	case strings.HasPrefix(name, "java.") || strings.HasPrefix(name, "javax.") || strings.HasPrefix(name, "kotlin."):
		return name
	case simple != name:
		return ""
	case platforms[name] != "":
		return platforms[name] + name
	case jvm.Package(name) != "":
		return jvm.Package(name) + name
	}
	return ""
}

// noPlatform notes that a class of the platform's has no adapter (ClassJsonAdapter).
func (c *compiler) noPlatform(class string) *decoder.Node {
	message := "Platform class " + class + " requires explicit JsonAdapter to be registered"
	return c.refuse(nil, "add an adapter for "+model.SimpleName(class)+" to the Moshi.Builder", "%s", message)
}

// anything is ObjectJsonAdapter: every number is a Double.
func (c *compiler) anything() *decoder.Node {
	float := c.float(64)
	return &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
		out := decoder.Verdict{Err: twice(v)}
		out.Seen = jvm.Any(v, func(raw string) decoder.Seen {
			verdict := float(&wire.Value{Kind: wire.Number, Raw: []byte(raw)})
			if out.Err == nil {
				out.Err = verdict.Err
			}
			return verdict.Seen
		})
		return out
	}}
}

// model is the node for a class that the source declares.
func (c *compiler) model(t *model.Type) *decoder.Node {
	m := t.Model
	generated := isGenerated(m)
	switch {
	case m.Reading == model.Unfollowed:
		return unknown(fmt.Sprintf("%s: %s (%s)", m.Name, m.Why, m.WhyPos))
	case m.Marks.Find("JsonClass").Text("generator", "") != "":
		return unknown("a generator of its own (" + m.Marks.Find("JsonClass").Text("generator", "") + ") makes the adapter of " + m.Name)
	case m.Kind == model.Enum:
		return &decoder.Node{Op: decoder.OpLeaf, Model: m, Read: constant(m, nil), MindsText: true}
	case m.Kind == model.Interface:
		return c.refuse(m, "register an adapter for it, a PolymorphicJsonAdapterFactory say", "No JsonAdapter for interface %s (with no annotations)", jvm.ClassName(m))
	case m.Language != "kotlin":
		return c.java(t)
	case !generated && c.settings.Option("KotlinJsonAdapterFactory") == "false":
		return c.refuse(m, "mark it @JsonClass(generateAdapter = true), or add KotlinJsonAdapterFactory() to the Moshi.Builder",
			"Cannot serialize Kotlin type %s. Reflective serialization of Kotlin classes without using kotlin-reflect has undefined and unexpected behavior. Please use KotlinJsonAdapterFactory from the moshi-kotlin artifact or use code gen from the moshi-kotlin-codegen artifact.", jvm.ClassName(m))
	case m.Kind == model.Object:
		return c.refuse(m, "register an adapter for it", "Cannot serialize object declaration %s", jvm.ClassName(m))
	case m.Sealed:
		return c.refuse(m, "register a PolymorphicJsonAdapterFactory for it", "Cannot reflectively serialize sealed class %s. Please register an adapter.", jvm.ClassName(m))
	case m.Abstract:
		return c.refuse(m, "declare a class that can be made, or register an adapter", "Cannot serialize abstract class %s", jvm.ClassName(m))
	}
	return c.kotlin(t, generated)
}

// isGenerated says whether the generator makes the adapter of a class.
func isGenerated(m *model.Model) bool {
	return m.Marks.Find("JsonClass").Text("generateAdapter", "") == "true"
}

// wrongStart is the error for a value that does not begin as an object or an array does.
func wrongStart(what string) func(wire.Kind) *decoder.Error {
	return func(kind wire.Kind) *decoder.Error { return expected(what, kind) }
}

// unknownKey is the error for a key that no property has, nil where such keys are passed over.
func (c *compiler) unknownKey() func(string) *decoder.Error {
	if !c.on("failOnUnknown") {
		return nil
	}
	return func(name string) *decoder.Error {
		return data(decoder.ReasonUnknown, "Cannot skip unexpected NAME at %s", decoder.PathMark)
	}
}

// jsonName is the key that @Json tells among some annotations, "" for none, and whether it has the property passed
// over. Of Kotlin's use sites those of the field and the getter are not looked at.
func jsonName(f *model.Field) (name string, ignored bool) {
	for _, marks := range []model.Annotated{f.Marks, f.Elsewhere} {
		for i := range marks {
			a := &marks[i]
			if a.Name != "Json" || a.Target != "" && a.Target != "param" && a.Target != "property" {
				continue
			}
			return a.Text("name", a.Text("value", "")), a.Text("ignore", "") == "true"
		}
	}
	return "", false
}

// qualifierOf is the annotation of a field that the source declares as a @JsonQualifier, "" for none.
func (c *compiler) qualifierOf(f *model.Field) string {
	for _, marks := range []model.Annotated{f.Marks, f.Elsewhere} {
		for _, a := range marks {
			if c.settings != nil && slices.Contains(c.settings.Qualifiers, a.Name) {
				return a.Name
			}
		}
	}
	return ""
}

// named is a property in messages, with its key where that is another.
func named(property, key string) string {
	if key == property {
		return "'" + property + "'"
	}
	return fmt.Sprintf("'%s' (JSON name '%s')", property, key)
}
