// Package kotlinx says what Json of kotlinx.serialization does with a declared type and a value. The rules are
// those of kotlinx-serialization-json 1.13 on the JVM, measured (testdata/truth/kotlin).
package kotlinx

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/eval"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Name is the library's name in settings.
const Name = "kotlinx.serialization"

// Plan makes the plan by which Json decodes a type.
func Plan(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	return newCompiler(settings).plan(t, declared)
}

func (c *compiler) plan(t *model.Type, declared string) *decoder.Plan {
	settings := c.settings
	p := &decoder.Plan{Type: t, Declared: declared, Settings: settings}
	p.Root = c.value(t)
	p.Refuses = settings.Refuses("Json")
	return p
}

// Planner is Plan for many types with the same settings: what several of them hold is planned once.
func Planner(settings *model.Settings) func(t *model.Type, declared string) *decoder.Plan {
	c := newCompiler(settings)
	return func(t *model.Type, declared string) *decoder.Plan {
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
	deep     int // of how many serializers of the app's own, each asked for by the one before
}

func newCompiler(settings *model.Settings) *compiler {
	return &compiler{settings: settings, nodes: map[string]*decoder.Node{}}
}

func (c *compiler) on(option string) bool { return c.settings.Option(option) == "true" }

func unknown(why string) *decoder.Node { return &decoder.Node{Op: decoder.OpUnknown, Why: why} }

// fault is an error of the library.
func fault(kind string, reason decoder.Reason, format string, args ...any) *decoder.Error {
	return &decoder.Error{Kind: kind, Reason: reason, Message: kind + ": " + fmt.Sprintf(format, args...)}
}

// unexpected is what the library throws of a value that it did not expect.
func unexpected(reason decoder.Reason, format string, args ...any) *decoder.Error {
	return fault("JsonDecodingException", reason, "Unexpected JSON token: "+format+" at path: "+decoder.PathMark, args...)
}

// value is the node for a value of a type wherever one stands.
func (c *compiler) value(t *model.Type) *decoder.Node {
	if t.Kind == model.Optional {
		inner := c.value(t.Args[0])
		if inner.Op == decoder.OpUnknown {
			return inner
		}
		return &decoder.Node{Op: decoder.OpNil, Inner: inner, Type: jvm.TypeText(t)}
	}
	key := t.Key()
	if n := c.nodes[key]; n != nil {
		return n
	}
	if c.growth.Endless(t) {
		return unknown(t.Name + " grows without end")
	}
	n := &decoder.Node{}
	c.nodes[key] = n
	*n = *c.make(t)
	n.Type = jvm.TypeText(t)
	return n
}

func (c *compiler) make(t *model.Type) *decoder.Node {
	switch t.Kind {
	case model.List, model.Unique:
		return c.list(t)
	case model.Map:
		return c.dictionary(t)
	case model.Named:
		if t.Model != nil {
			return c.model(t)
		}
		if n := c.element(t.Name); n != nil {
			return n
		}
		if read := c.scalar(t.Name); read != nil {
			return &decoder.Node{Op: decoder.OpLeaf, Read: read, MindsText: true, NumbersByClass: byClass[t.Name], ByFacts: byClass[t.Name], ByDate: true, Wraps: wraps[t.Name]}
		}
		if t.Name == "Pair" && len(t.Args) == 2 || t.Name == "Triple" && len(t.Args) == 3 {
			return c.tuple(t)
		}
		return unknown("the type " + t.Name + " is not in the source")
	}
	if t.Kind == model.Param { // of a class without its arguments: what it stands for is told where that is decoded
		return &decoder.Node{Op: decoder.OpLeaf, Read: func(*wire.Value) decoder.Verdict {
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
		}}
	}
	return unknown("the type " + jvm.TypeText(t) + " is not one that decodes")
}

// byClass are the scalars of which numbers of one class fare alike. wraps are those that the lexer itself makes:
// a sum there that leaves 64 bits may come back into them, and a power of ten is a product, which may round.
var (
	wraps   = map[string]bool{"Int": true, "Long": true, "Short": true, "Byte": true}
	byClass = map[string]bool{
		"Int": true, "Long": true, "Short": true, "Byte": true, "Float": true, "Double": true, "Boolean": true,
		"UInt": true, "ULong": true, "UShort": true, "UByte": true, "String": true,
	}
)

// tuple is Pair or Triple, whose serializers read an object of their properties.
func (c *compiler) tuple(t *model.Type) *decoder.Node {
	m := &model.Model{Name: t.Name, Language: "kotlin", Kind: model.Class}
	for i, a := range t.Args {
		m.Fields = append(m.Fields, &model.Field{Name: []string{"first", "second", "third"}[i], Type: a, Reading: model.ByLibrary})
	}
	build := &decoder.Node{Op: decoder.OpBuild, Model: m, ByDocument: true, Anonymous: true, Unknown: c.unknownKey(m)}
	for i, f := range m.Fields {
		at := &decoder.Node{Op: decoder.OpAt, Name: f.Name, Every: true, Field: f, Inner: c.value(f.Type), Missing: missing(f.Name, "kotlin."+t.Name)}
		build.Props, build.Steps = append(build.Props, f), append(build.Steps, decoder.Step{Property: i, Node: at})
	}
	return starting(&decoder.Node{Op: decoder.OpKeyed, Inner: build}, "object", '{')
}

// starting is a node that reads what begins as an object or an array does.
func starting(n *decoder.Node, what string, mark rune) *decoder.Node {
	n.WrongValue = func(v *wire.Value) *decoder.Error {
		return unexpected(reasonOf(v), "Expected start of the %s '%c', but had '%s' instead", what, mark, firstOf(v))
	}
	n.Wrong = func(kind wire.Kind) *decoder.Error { return n.WrongValue(jvm.Sample(kind)) }
	return n
}

// firstOf is the character that a value begins with.
func firstOf(v *wire.Value) string {
	switch v.Kind {
	case wire.Array:
		return "["
	case wire.Object:
		return "{"
	case wire.Null:
		return "n"
	}
	return string(v.Raw[:1])
}

func missing(key, serialName string) *decoder.Error {
	e := fault("MissingFieldException", decoder.ReasonMissing, "Field '%s' is required for type with serial name '%s', but it was missing at path: %s", key, serialName, decoder.PathMark)
	e.Key = key
	return e
}

// model is the node for a class that the source declares.
func (c *compiler) model(t *model.Type) *decoder.Node {
	m := t.Model
	switch why := c.ownReader(m); {
	case m.Adapter != nil:
		return decoder.OfModel(c.custom(m.Adapter), m)
	case m.Kind == model.Interface && (!m.Sealed || m.Marks.Find("Serializable") == nil): // an interface needs no mark
		return c.polymorphic(t)
	case why != "":
		return unknown(why)
	case m.Kind == model.Enum:
		return &decoder.Node{Op: decoder.OpLeaf, Model: m, Read: c.constant(m), MindsText: true}
	case m.Inline != nil && len(m.Fields) == 1:
		return c.inline(t)
	case m.Kind == model.Interface || m.Abstract:
		return c.polymorphic(t)
	}
	return c.object(t, "")
}

// inline is the node for a value class: that of its one property.
func (c *compiler) inline(t *model.Type) *decoder.Node {
	inner := c.value(t.Model.Fields[0].Type.Bind(t.Env()))
	if inner.Op == decoder.OpUnknown {
		return inner
	}
	n := *inner
	return &n
}

// ownReader is why it is not known what reads a class, "" where it is.
func (c *compiler) ownReader(m *model.Model) string {
	switch mark := m.Marks.Find("Serializable"); {
	case m.Reading == model.Unfollowed:
		return fmt.Sprintf("%s: %s (%s)", m.Name, m.Why, m.WhyPos)
	case mark == nil && m.Kind != model.Enum:
		return m.Name + " is not @Serializable: no serializer of it is known"
	case mark.Text("with", mark.Text("value", "")) != "":
		return "a serializer of its own reads " + m.Name
	case c.settings.Option("adapter."+model.SimpleName(m.Name)) != "":
		return "its Json is told a serializer of " + m.Name
	}
	return ""
}

// serialName is what a class is called in messages and by discriminators: its @SerialName, or its full name.
func serialName(m *model.Model) string {
	name := m.Name
	if m.Package != "" {
		name = m.Package + "." + m.Name
	}
	return m.Marks.Find("SerialName").Text("value", name)
}

// object is the node for a class whose properties are read from an object. passed is the key that has told the
// class, "" for none.
func (c *compiler) object(t *model.Type, passed string) *decoder.Node {
	m := t.Model
	build := &decoder.Node{Op: decoder.OpBuild, Model: m, ByDocument: true, Passed: passed, Unknown: c.unknownKey(m)}
	if m.Kind == model.Object {
		return starting(&decoder.Node{Op: decoder.OpKeyed, Model: m, Inner: build}, "object", '{')
	}
	build.Check = eval.Checks(m)
	var required []*decoder.Node
	first := map[string]bool{} // what properties are called goes before what others are called as well
	for _, s := range jvm.Chain(t) {
		for _, f := range s.Model.Fields {
			name, _ := c.names(f, s.Model)
			first[name] = true
		}
	}
	for _, s := range slices.Backward(jvm.Chain(t)) {
		for _, f := range s.Model.Fields {
			if f.Static {
				continue
			}
			at := c.property(f, s, serialName(m))
			if at.Missing != nil {
				required = append(required, at)
			}
			at.Others = slices.DeleteFunc(at.Others, func(name string) bool { return first[name] })
			build.Steps = append(build.Steps, decoder.Step{Property: len(build.Props), Node: at})
			build.Props = append(build.Props, f)
		}
	}
	slices.SortStableFunc(required, func(a, b *decoder.Node) int { // what the constructor takes comes before the body
		return cmp.Compare(inBody(m, a.Field), inBody(m, b.Field))
	})
	for _, at := range required {
		at.MissingFrom = func(object *wire.Value) *decoder.Error { return allMissing(at, required, object, serialName(m)) }
	}
	return starting(&decoder.Node{Op: decoder.OpKeyed, Model: m, Inner: build}, "object", '{')
}

// inBody is 1 for a property that the constructor of its class does not take, else 0.
func inBody(m *model.Model, f *model.Field) int {
	if jvm.Takes(m, f) || !slices.Contains(m.Fields, f) {
		return 0
	}
	return 1
}

// allMissing is the error for a property that an object lacks, which names all others that it lacks too.
func allMissing(at *decoder.Node, required []*decoder.Node, object *wire.Value, serial string) *decoder.Error {
	var names []string
	for _, other := range required {
		sent := slices.ContainsFunc(object.Members, func(m wire.Member) bool { return m.Name == other.Name || slices.Contains(other.Others, m.Name) })
		if !sent {
			names = append(names, ownName(other.Field))
		}
	}
	if len(names) < 2 {
		return at.Missing
	}
	err := *at.Missing
	err.Message = fmt.Sprintf("MissingFieldException: Fields [%s] are required for type with serial name '%s', but they were missing at path: %s", strings.Join(names, ", "), serial, decoder.PathMark)
	return &err
}

// unknownKey is the error for a key that no property has, nil where such keys are passed over.
func (c *compiler) unknownKey(m *model.Model) func(string) *decoder.Error {
	if c.on("ignoreUnknownKeys") || m.Marks.Find("JsonIgnoreUnknownKeys") != nil {
		return nil
	}
	return func(name string) *decoder.Error {
		e := unexpected(decoder.ReasonUnknown, "Encountered an unknown key '%s'", name)
		e.Advice = "Json { ignoreUnknownKeys = true }, or @JsonIgnoreUnknownKeys on " + m.Name
		return e
	}
}

// property is the node that reads one property.
func (c *compiler) property(f *model.Field, owner *model.Type, serial string) *decoder.Node {
	t := f.Type.Bind(owner.Env())
	initial, kept := decoder.Seen{}, c.hasDefault(f, owner.Model)
	switch {
	case kept && f.Default == nil, t.Kind == model.Opaque:
		initial = decoder.Seen{Kind: decoder.SeenUnknown}
	case kept:
		initial = jvm.Constant(f.Default, t)
	}
	if f.Marks.Find("Transient") != nil && !f.Transient {
		return &decoder.Node{Op: decoder.OpConst, Field: f, Value: initial, Why: "it is @Transient"}
	}
	if text := f.Marks.Find("SerialName").Untold("value"); text != "" {
		n := unknown("its key is " + text + ", a constant that is not in the source")
		n.Field, n.Opaque = f, true
		return n
	}
	name, others := c.names(f, owner.Model)
	at := &decoder.Node{Op: decoder.OpAt, Name: name, Others: others, Every: true, Value: initial, Field: f, Type: f.Declared}
	switch {
	case kept && f.Marks.Find("Required") == nil:
	case t.Kind == model.Optional && c.settings.Option("explicitNulls") == "false": // null, of one with a default that must be sent too
		if f.Marks.Find("Required") != nil {
			at.Value = decoder.Seen{}
		}
	default:
		at.Missing = missing(ownName(f), serial) // whatever a strategy makes of it
		at.Missing.Key = name
	}
	if fails := c.contextless(f, t); fails != nil {
		at.Inner = fails
		return at
	}
	if f.Adapter != nil && f.Adapter.Of != nil {
		at.Inner = c.custom(f.Adapter)
		if t.Kind == model.Optional && f.Adapter.Of.Kind != model.Optional && at.Inner.Op != decoder.OpUnknown {
			at.Inner = &decoder.Node{Op: decoder.OpNil, Inner: at.Inner, Type: jvm.TypeText(t)}
		}
		return at
	}
	if why := readsItself(f); why != "" {
		at.Inner = unknown(why)
		return at
	}
	at.Inner = c.value(t)
	if c.on("coerceInputValues") {
		c.coerced(at, t, kept)
	}
	return at
}

// hasDefault says whether the property of a class need not be sent: it is given something where it is declared.
func (c *compiler) hasDefault(f *model.Field, m *model.Model) bool {
	if f.Default != nil {
		return true
	}
	for _, k := range m.Ctors {
		for _, p := range k.Params {
			if p.Name == f.Name && p.Default {
				return true
			}
		}
	}
	return false
}

// contextless is the node of a @Contextual property that no module of its Json has a serializer for, and whose class
// has none itself; nil for another.
func (c *compiler) contextless(f *model.Field, t *model.Type) *decoder.Node {
	of := t.Unwrapped()
	if f.Marks.Find("Contextual") == nil && f.Elsewhere.Find("Contextual") == nil || c.settings == nil || of.Kind != model.Named {
		return nil
	}
	for name := range c.settings.Options {
		if strings.HasPrefix(name, "contextual.") {
			return nil
		}
	}
	if of.Model != nil && (of.Model.Marks.Find("Serializable") != nil || of.Model.Kind == model.Enum) || of.Model == nil && c.scalar(of.Name) != nil {
		return nil
	}
	err := fault("SerializationException", decoder.ReasonType, "Serializer for class '%s' is not found. Please ensure that class is marked as '@Serializable' and that the serialization compiler plugin is applied.", model.SimpleName(of.Name))
	err.Advice = "register one: serializersModule = SerializersModule { contextual(…) }"
	fails := &decoder.Node{Op: decoder.OpFail, Error: err}
	if t.Kind == model.Optional {
		return &decoder.Node{Op: decoder.OpNil, Inner: fails, Type: jvm.TypeText(t)}
	}
	return fails
}

// readsItself is why it is not known how a property is read, "" where its type says it.
func readsItself(f *model.Field) string {
	for _, marks := range []model.Annotated{f.Marks, f.Elsewhere} {
		if mark := marks.Find("Serializable"); mark.Text("with", mark.Text("value", "")) != "" {
			return "a serializer of its own reads it"
		}
		for _, name := range []string{"Contextual", "Polymorphic"} {
			if marks.Find(name) != nil {
				return "@" + name + ": the serializer is told elsewhere"
			}
		}
	}
	return ""
}

// ownName is the serial name of a property.
func ownName(f *model.Field) string { return f.Marks.Find("SerialName").Text("value", f.Name) }

// names are the key of a property and the others that it is read from.
func (c *compiler) names(f *model.Field, m *model.Model) (name string, others []string) {
	name = ownName(f)
	switch c.settings.Option("namingStrategy") {
	case "SnakeCase":
		name = separated(name, '_')
	case "KebabCase":
		name = separated(name, '-')
	}
	// A strategy has all names looked up in a table, which the others are in whatever useAlternativeNames says.
	if c.settings.Option("useAlternativeNames") != "false" || c.settings.Option("namingStrategy") != "" {
		others = f.Marks.Find("JsonNames").Texts("names")
		others = append(others, f.Marks.Find("JsonNames").Texts("value")...)
	}
	return name, others
}

// separated is what JsonNamingStrategy.SnakeCase and KebabCase make of a name: a mark before each capital that
// begins a word, and before the last of several capitals in front of a small letter.
func separated(name string, mark rune) string {
	var b strings.Builder
	var buffered rune
	run := 0
	for _, ch := range name {
		if ch >= 'A' && ch <= 'Z' {
			if run == 0 && b.Len() > 0 && !strings.HasSuffix(b.String(), string(mark)) {
				b.WriteRune(mark)
			}
			if buffered != 0 {
				b.WriteRune(buffered)
			}
			run++
			buffered = ch + 'a' - 'A'
			continue
		}
		if buffered != 0 {
			if run > 1 && (ch >= 'a' && ch <= 'z' || ch > 0x7F) {
				b.WriteRune(mark)
			}
			b.WriteRune(buffered)
			run, buffered = 0, 0
		}
		b.WriteRune(ch)
	}
	if buffered != 0 {
		b.WriteRune(buffered)
	}
	return b.String()
}

// coerced makes a property with a default keep it where null comes for a type that has none, or a text that no
// constant has (coerceInputValues); without a default, and where nulls need not be explicit, a constant that is
// not known is null.
func (c *compiler) coerced(at *decoder.Node, t *model.Type, kept bool) {
	if kept && t.Kind != model.Optional {
		at.KeepNull = true
		at.NullLoss = decoder.Defaulted
	}
	of := t.Unwrapped()
	nothing := t.Kind == model.Optional && c.settings.Option("explicitNulls") == "false"
	if of.Model == nil || of.Model.Kind != model.Enum || !kept && !nothing {
		return
	}
	leaf := at.Inner
	if leaf.Op == decoder.OpNil {
		leaf = leaf.Inner
	}
	if leaf.Op != decoder.OpLeaf {
		return
	}
	read, initial, own := leaf.Read, at.Value, *leaf
	own.Read = func(v *wire.Value) decoder.Verdict {
		verdict := read(v)
		if verdict.Err != nil && verdict.Err.Reason == decoder.ReasonConstant {
			return decoder.Verdict{Seen: initial, Loss: decoder.Defaulted}
		}
		return verdict
	}
	if at.Inner.Op == decoder.OpNil {
		at.Inner = &decoder.Node{Op: decoder.OpNil, Inner: &own, Type: at.Inner.Type}
	} else {
		at.Inner = &own
	}
}
