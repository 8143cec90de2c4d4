// Package systemtextjson is what System.Text.Json does with a declared type and a value, by reflection and with
// generated contexts. The rules are those of .NET 10, measured (testdata/truth/csharp).
package systemtextjson

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/decoder/sharp"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Name is what settings call the library.
const Name = "system.text.json"

// space is where the library's attributes are declared.
const space = "System.Text.Json.Serialization."

// maxDepth is how many arrays and objects are taken inside each other unless the options say otherwise.
const maxDepth = 64

// Plan makes the plan by which the library decodes t with these options; nil options are those of a call without any.
func Plan(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	return newCompiler(settings).plan(t, declared)
}

func (c *compiler) plan(t *model.Type, declared string) *decoder.Plan {
	settings := c.settings
	c.code = sharp.CodeOf(t).Under(settings)
	p := &decoder.Plan{Type: t, Declared: declared, Settings: settings, Refuses: settings.Refuses("JsonSerializer"), MaxDepth: maxDepth}
	if n, err := strconv.Atoi(settings.Option("MaxDepth")); err == nil && n > 0 {
		p.MaxDepth = n
	}
	p.TooDeep = problem(decoder.ReasonText, "The maximum configured depth of "+strconv.Itoa(p.MaxDepth)+" has been exceeded. Cannot read next JSON array. Path: "+decoder.PathMark)
	p.Root = c.unregistered(t)
	if p.Root == nil {
		p.Root = c.value(t, site{})
	}
	if c.lost != "" {
		p.Root = unknown(c.lost)
	}
	if c.broken != nil {
		p.Root = &decoder.Node{Op: decoder.OpFail, Type: declared, Model: c.breaks, Error: c.broken, Inner: p.Root}
	}
	return p
}

// Planner is Plan for many types with the same settings: what several of them hold is planned once.
func Planner(settings *model.Settings) func(t *model.Type, declared string) *decoder.Plan {
	c := newCompiler(settings)
	return func(t *model.Type, declared string) *decoder.Plan {
		if c.broken != nil || c.lost != "" { // what holds the class would pass for whole, were its node taken again
			c = newCompiler(settings)
		}
		c.growth = model.Growth{}
		return c.plan(t, declared)
	}
}

// compiler makes nodes of types. A node is made once for each type and what is said of it where it stands, so that a
// class that holds itself becomes a circle.
type compiler struct {
	settings *model.Settings
	nodes    map[string]*decoder.Node
	growth   model.Growth
	broken   *decoder.Error // what the library throws whatever is sent, nil for nothing
	breaks   *model.Model
	within   *model.Model
	lost     string      // why nothing can be told, "" where it can
	code     *sharp.Code // of the program, nil where no class of the source is decoded
}

func newCompiler(settings *model.Settings) *compiler {
	return &compiler{settings: settings, nodes: map[string]*decoder.Node{}}
}

func (c *compiler) on(option string) bool { return c.settings.Option(option) == "true" }

// site is what is said of a value where it stands, beside its type.
type site struct {
	numbers  string // [JsonNumberHandling] of the member or its class, "" for what the options say
	enums    string // how enums are told there: by name
	populate bool
	adapter  *model.Adapter
}

func (s site) key() string { return s.numbers + "|" + s.enums }

func unknown(why string) *decoder.Node { return &decoder.Node{Op: decoder.OpUnknown, Why: why} }

// problem is a JsonException.
func problem(reason decoder.Reason, message string) *decoder.Error {
	return &decoder.Error{Kind: "JsonException", Reason: reason, Message: "JsonException: " + message}
}

// converted is how most messages begin, before the type.
const converted = "The JSON value could not be converted to "

// convert is the error for a value that a type is not read from.
func convert(reason decoder.Reason, t *model.Type) *decoder.Error {
	return problem(reason, converted+clr.Name(t)+". Path: "+decoder.PathMark+".")
}

// refused is an InvalidOperationException that is thrown when the library looks at a class, whatever is sent.
func (c *compiler) refused(m *model.Model, advice, format string, args ...any) *decoder.Node {
	message := fmt.Sprintf(format, args...)
	if c.broken == nil {
		c.breaks = m
		c.broken = &decoder.Error{Kind: "InvalidOperationException", Reason: decoder.ReasonType, Where: decoder.AtRoot, Message: "InvalidOperationException: " + message, Advice: advice}
	}
	return unknown("the library refuses the class: " + message)
}

// unsupported is an error for every value but null: of a class that cannot be made, of a type that is not supported.
func unsupported(kind, advice, format string, args ...any) *decoder.Error {
	return &decoder.Error{Kind: kind, Reason: decoder.ReasonType, Message: kind + ": " + fmt.Sprintf(format, args...) + " Path: " + decoder.PathMark + ".", Advice: advice}
}

// value is the node for a value of a type, null among them.
func (c *compiler) value(t *model.Type, s site) *decoder.Node {
	u := t.Unwrapped()
	if conv := c.converter(u, s); conv != nil {
		return c.code.Node(conv, t, nil)
	}
	n := c.solid(u, s)
	if n.Op == decoder.OpUnknown || n.Op == decoder.OpNil || anyValue(u) {
		return n
	}
	if clr.IsValue(u) && t.Kind == model.Optional && n.Op == decoder.OpLeaf {
		bare, full := converted+clr.Name(u)+".", converted+clr.Name(t)+"."
		n = clr.Told(n, func(message string) string { return strings.Replace(message, bare, full, 1) })
	}
	out := &decoder.Node{Op: decoder.OpNil, Inner: n, Type: t.Written()}
	if clr.IsValue(u) && t.Kind != model.Optional {
		out.NullError = convert(decoder.ReasonNull, t)
	}
	return out
}

// anyValue says whether a type is one that null is a value of.
func anyValue(t *model.Type) bool {
	return t.Kind == model.Named && t.Model == nil && (t.Name == "object" || t.Name == "dynamic" || t.Name == "JsonElement" || t.Name == "JsonNode")
}

// solid is the node for a value of a type that is not null.
func (c *compiler) solid(t *model.Type, s site) *decoder.Node {
	key := t.Key() + s.key()
	if s.adapter == nil && !s.populate {
		if n := c.nodes[key]; n != nil {
			return n
		}
	}
	if c.growth.Endless(t) {
		return unknown(t.Name + " grows without end")
	}
	n := &decoder.Node{}
	if s.adapter == nil && !s.populate {
		c.nodes[key] = n
	}
	*n = *c.make(t, s)
	n.Type = t.Written()
	return n
}

func (c *compiler) make(t *model.Type, s site) *decoder.Node {
	if n := c.adapted(t, s); n != nil {
		return n
	}
	switch t.Kind {
	case model.List, model.Unique:
		return c.list(t, s)
	case model.Map:
		return c.dictionary(t, s)
	case model.Tuple:
		return c.tuple(t)
	case model.Param:
		return unknown("what " + t.Name + " stands for is not told")
	case model.Named:
		if t.Model != nil {
			return c.model(t, s)
		}
		if n := c.scalar(t, s); n != nil {
			return n
		}
		return unknown("the type " + t.Name + " is not in the source")
	}
	return c.notSupported(t)
}

// notSupported is the node for a type that the library refuses to read a value of.
func (c *compiler) notSupported(t *model.Type) *decoder.Node {
	err := unsupported("NotSupportedException", "declare another type, or give the member a JsonConverter", "Serialization and deserialization of '%s' instances is not supported.", clr.Name(t))
	return &decoder.Node{Op: decoder.OpFail, Error: err}
}

// adapted is the node for a type that a converter reads which is not followed; nil for another.
func (c *compiler) adapted(t *model.Type, s site) *decoder.Node {
	a := c.adapter(t, s)
	if a == nil {
		return nil
	}
	return unknown("the converter " + a.Name + " reads it, which is not followed")
}

// adapter is the converter of the app's that reads a type there, nil for none.
func (c *compiler) adapter(t *model.Type, s site) *model.Adapter {
	if s.adapter != nil {
		return s.adapter
	}
	if c.settings != nil {
		for i := range c.settings.Adapters {
			if a := &c.settings.Adapters[i]; a.Of != nil && a.Of.Unwrapped().Key() == t.Key() && a.Name != "JsonStringEnumConverter" {
				return a
			}
		}
	}
	if t.Model != nil {
		if mark := find(t.Model.Marks, "JsonConverter"); mark != nil && !isEnumConverter(mark) {
			return sharp.MarkedBy(mark)
		}
	}
	return nil
}

// converter is that converter, nil for none, or one that is not followed.
func (c *compiler) converter(t *model.Type, s site) *sharp.Converter {
	conv := c.code.Converter(c.adapter(t, s))
	if conv == nil || conv.Of == nil || conv.Of.Unwrapped().Key() != t.Key() {
		return nil
	}
	return conv
}

// model is the node for a type that the source declares.
func (c *compiler) model(t *model.Type, s site) *decoder.Node {
	m := t.Model
	if m.Reading == model.Unfollowed {
		return unknown(fmt.Sprintf("%s: %s (%s)", m.Name, m.Why, m.WhyPos))
	}
	if mark := find(m.Marks, "JsonConverter"); mark != nil && isEnumConverter(mark) && s.enums == "" {
		s.enums = "names"
	}
	if c.settings != nil && m.Kind == model.Enum {
		for i := range c.settings.Adapters {
			if a := &c.settings.Adapters[i]; a.Name == "JsonStringEnumConverter" && a.Of != nil && a.Of.Unwrapped().Model == m && s.enums == "" {
				s.enums = a.Form
			}
		}
	}
	switch {
	case m.Kind == model.Enum:
		return c.enum(m, s)
	case m.Collection != nil:
		of := m.Collection.Bind(t.Env())
		n := *c.solid(of, site{})
		return &n
	case len(derived(m)) > 0:
		return c.polymorphic(t, s)
	case m.Kind != model.Interface && isSequence(t):
		return c.sequence(t)
	case m.Kind == model.Interface || m.Abstract:
		return &decoder.Node{Op: decoder.OpFail, Model: m, Error: unsupported("NotSupportedException", "declare the class that is sent, or mark it [JsonDerivedType]",
			"Deserialization of interface or abstract types is not supported. Type '%s'.", clr.Name(t))}
	}
	return c.object(t, s)
}

// isSequence says whether a class is a sequence by IEnumerable alone, which nothing can be added to.
func isSequence(t *model.Type) bool {
	adds := []string{"ICollection", "IList", "ISet", "IDictionary", "IReadOnlyDictionary", "IReadOnlyCollection", "IReadOnlyList"}
	return sharp.Conforms(t, "IEnumerable") && !slices.ContainsFunc(adds, func(name string) bool { return sharp.Conforms(t, name) })
}

// sequence is the node for such a class: it takes an array for what it is, and fails to fill it.
func (c *compiler) sequence(t *model.Type) *decoder.Node {
	is, err := wrong(t), unsupported("NotSupportedException", "let it be a list, or read it with a converter", "The collection type '%s' is abstract, an interface, or is read only, and could not be instantiated and populated.", clr.Name(t))
	return &decoder.Node{Op: decoder.OpLeaf, Model: t.Model, Read: func(v *wire.Value) decoder.Verdict {
		if v.Kind == wire.Array {
			return decoder.Verdict{Err: err}
		}
		return decoder.Verdict{Err: is(v.Kind)}
	}}
}

// find is the library's attribute of that name among some.
func find(marks model.Annotated, name string) *model.Annotation {
	for i := range marks {
		if marks[i].Whole == space+name && (marks[i].Target == "" || marks[i].Target == "property" || marks[i].Target == "field" || marks[i].Target == "type") {
			return &marks[i]
		}
	}
	return nil
}

// list is the node for arrays, lists and sets.
func (c *compiler) list(t *model.Type, s site) *decoder.Node {
	if t.Name == "[]" && isByte(t.Args[0]) || (t.Class == "Memory" || t.Class == "ReadOnlyMemory") && isByte(t.Args[0]) {
		return &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
			if v.Kind == wire.String {
				text, _ := v.Text()
				if seen, ok := clr.Base64(text); ok {
					return decoder.Verdict{Seen: seen}
				}
				return decoder.Verdict{Err: convert(decoder.ReasonText, t)}
			}
			return decoder.Verdict{Err: convert(decoder.ReasonKind, t)}
		}}
	}
	if strings.HasPrefix(t.Name, "[,") || slices.Contains(unsupportedLists, t.Class) {
		return c.notSupported(t)
	}
	n := &decoder.Node{Op: decoder.OpList, Unique: t.Kind == model.Unique, Inner: c.value(t.Args[0], site{numbers: s.numbers, enums: s.enums}), Wrong: wrong(t), Equal: clr.Equal(t.Args[0])}
	if t.Class == "Stack" || t.Class == "ImmutableStack" || t.Class == "IImmutableStack" || t.Class == "ConcurrentStack" {
		return reversed(n)
	}
	return n
}

// unsupportedLists are collections that the library makes none of.
var unsupportedLists = []string{"IReadOnlySet", "ReadOnlyCollection", "ReadOnlyObservableCollection", "BlockingCollection", "ArraySegment"}

// reversed is a list whose elements come out in the other order.
func reversed(n *decoder.Node) *decoder.Node {
	return decoder.Made(n, func(s decoder.Seen) (decoder.Seen, *decoder.Error) {
		s.Elems = slices.Clone(s.Elems)
		slices.Reverse(s.Elems)
		return s, nil
	})
}

func isByte(t *model.Type) bool {
	return t.Kind == model.Named && t.Model == nil && t.Name == "byte"
}

func wrong(t *model.Type) func(wire.Kind) *decoder.Error {
	return func(wire.Kind) *decoder.Error { return convert(decoder.ReasonKind, t) }
}

// dictionary is the node for maps. Of equal keys the last counts.
func (c *compiler) dictionary(t *model.Type, s site) *decoder.Node {
	if t.Class == "FrozenDictionary" || t.Class == "ReadOnlyDictionary" {
		return c.notSupported(t)
	}
	n := &decoder.Node{Op: decoder.OpMap, Inner: c.value(t.Args[1], site{numbers: s.numbers, enums: s.enums}), Wrong: wrong(t), Every: true}
	if n.Key = c.key(t.Args[0]); n.Key == nil { // which is found out where there is one
		err := unsupported("NotSupportedException", "declare another type of key", "The type '%s' is not a supported dictionary key.", clr.Name(t.Args[0]))
		n.Key = func(string) (decoder.Seen, *decoder.Error) { return decoder.Seen{}, err }
	}
	if c.settings.Option("AllowDuplicateProperties") == "false" {
		n.Twice = func(string) *decoder.Error {
			return problem(decoder.ReasonTwice, "Duplicate properties not allowed during deserialization.")
		}
	}
	return n
}

// key is what becomes of a member's name that is the key of a map, nil for a type that is none.
func (c *compiler) key(t *model.Type) func(string) (decoder.Seen, *decoder.Error) {
	if t.Kind != model.Named {
		return nil
	}
	if t.Model == nil && t.Name == "string" {
		return func(name string) (decoder.Seen, *decoder.Error) { return clr.String(name), nil }
	}
	fails := func() (decoder.Seen, *decoder.Error) {
		err := *convert(decoder.ReasonKey, t)
		return decoder.Seen{}, &err
	}
	if t.Model != nil {
		if t.Model.Kind != model.Enum {
			return nil
		}
		return func(name string) (decoder.Seen, *decoder.Error) {
			if seen, ok := byName(t.Model, name, nil, true, true); ok {
				return seen, nil
			}
			return fails()
		}
	}
	if bits, signed := clr.Bits(t); bits > 0 {
		return func(name string) (decoder.Seen, *decoder.Error) {
			if text, ok := clr.ParseWhole(name, bits, signed); ok {
				return decoder.Seen{Kind: decoder.SeenInt, Text: text}, nil
			}
			return fails()
		}
	}
	if t.Name == "bool" {
		return func(name string) (decoder.Seen, *decoder.Error) {
			switch strings.ToLower(name) {
			case "true", "false":
				return clr.String(strings.ToUpper(name[:1]) + strings.ToLower(name[1:])), nil
			}
			return fails()
		}
	}
	if t.Name == "object" {
		return nil
	}
	leaf := c.scalar(t, site{numbers: "AllowReadingFromString"})
	if leaf == nil || leaf.Op != decoder.OpLeaf {
		return nil
	}
	return decoder.KeyBy(leaf.Read, quoted)
}

// quoted is a text as a value of a document.
func quoted(text string) *wire.Value {
	v, err := wire.Parse([]byte(strconv.Quote(text)))
	if err != nil {
		return &wire.Value{Kind: wire.String, Raw: []byte(`""`)}
	}
	return v
}

// tuple is the node for a tuple: its parts are fields, which are not read unless the options include them.
func (c *compiler) tuple(t *model.Type) *decoder.Node {
	m := &model.Model{Name: "ValueTuple", Language: "csharp", Kind: model.Struct, Fields: nil}
	build := &decoder.Node{Op: decoder.OpBuild, Model: m, Anonymous: true, ByDocument: true}
	for i, a := range t.Args {
		f := &model.Field{Name: "Item" + strconv.Itoa(i+1), Type: a, Declared: a.Written(), Access: model.Public}
		build.Props = append(build.Props, f)
		n := &decoder.Node{Op: decoder.OpConst, Value: clr.Zero(a)}
		if c.on("IncludeFields") {
			n = &decoder.Node{Op: decoder.OpAt, Name: c.named(f.Name), Every: true, Value: clr.Zero(a), Inner: c.value(a, site{})}
		}
		build.Steps = append(build.Steps, decoder.Step{Property: i, Node: n})
	}
	return &decoder.Node{Op: decoder.OpKeyed, Wrong: wrong(t), Inner: build}
}
