// Package newtonsoft is what Newtonsoft.Json does with a declared type and a value, from text and from tokens. The
// rules are those of version 13.0.4, measured (testdata/truth/csharp).
package newtonsoft

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
const Name = "newtonsoft.json"

// space is where the library's attributes are declared.
const space = "Newtonsoft.Json."

// contracts is where attributes are declared that the library takes for its own.
const contracts = "System.Runtime.Serialization."

// maxDepth is how many arrays and objects are taken inside each other unless the settings say otherwise.
const maxDepth = 64

// Plan makes the plan by which the library decodes t with these settings.
func Plan(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	return plan(t, declared, settings, site{})
}

// Into is the plan by which the library reads into an instance that is there (JsonSerializer.Populate): no converter is
// asked for it.
func Into(t *model.Type, settings *model.Settings, from *decoder.Seen) *decoder.Plan {
	return plan(t, t.Written(), settings, site{from: from})
}

func plan(t *model.Type, declared string, settings *model.Settings, s site) *decoder.Plan {
	return newCompiler(settings).plan(t, declared, s)
}

func (c *compiler) plan(t *model.Type, declared string, s site) *decoder.Plan {
	settings := c.settings
	c.code = sharp.CodeOf(t).Under(settings)
	p := &decoder.Plan{Type: t, Declared: declared, Settings: settings, Refuses: settings.Refuses("JsonSerializer"), MaxDepth: maxDepth}
	switch depth := settings.Option("MaxDepth"); {
	case depth == "null":
		p.MaxDepth = 0
	default:
		if n, err := strconv.Atoi(depth); err == nil && n > 0 {
			p.MaxDepth = n
		}
	}
	p.TooDeep = reading(decoder.ReasonText, "The reader's MaxDepth of "+strconv.Itoa(p.MaxDepth)+" has been exceeded.")
	c.prepares(p)
	p.Root = c.value(t, s)
	if s.from != nil && c.lost == "" { // JsonSerializer.Populate
		root := p.Root
		if root.Op == decoder.OpNil {
			root = root.Inner
		}
		p.Root = &decoder.Node{Op: decoder.OpNil, Inner: root, Type: root.Type, NullError: serial(decoder.ReasonNull, "Unexpected initial token 'Null' when populating object. Expected JSON object or array.")}
	}
	if c.lost != "" {
		p.Root = unknown(c.lost)
	}
	if c.handles() {
		p.Root = &decoder.Node{Op: decoder.OpTry, Inner: p.Root, Type: p.Root.Type}
	}
	if c.broken != nil {
		p.Root = &decoder.Node{Op: decoder.OpFail, Type: declared, Model: c.breaks, Error: c.broken, Inner: p.Root}
		if t.Model != c.breaks { // whose contract is not asked for where nothing is sent
			p.Root = &decoder.Node{Op: decoder.OpNil, Type: declared, Inner: p.Root}
		}
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
		return c.plan(t, declared, site{})
	}
}

type compiler struct {
	settings *model.Settings
	nodes    map[string]*decoder.Node
	growth   model.Growth
	broken   *decoder.Error // what the library throws whatever is sent, nil for nothing
	breaks   *model.Model
	lost     string      // why nothing can be told, "" where it can
	code     *sharp.Code // of the program, nil where no class of the source is decoded
}

func newCompiler(settings *model.Settings) *compiler {
	return &compiler{settings: settings, nodes: map[string]*decoder.Node{}}
}

func (c *compiler) tokens() bool {
	return c.settings.Option("tokens") == "true" || c.settings.Option("MetadataPropertyHandling") == "ReadAhead"
}

// site is what is said of a value where it stands, beside its type.
type site struct {
	enums   string         // how enums are told there: by name, with a strategy
	dates   string         // the converter of dates there
	adapter *model.Adapter // the converter of the app's that reads it, nil for none
	item    *model.Adapter // the one that reads its elements
	from    *decoder.Seen
	// owner and member are the class and the property that hold an ExpandoObject, which is made before it is set.
	owner   *model.Type
	member  string
	bare    bool // no converter of the settings reads it: those of a struct are none of its nullable
	element bool // of a list or a dictionary, which holds nothing before it is read
}

func (s site) key() string {
	if s.bare {
		return s.enums + "|" + s.dates + "|bare"
	}
	return s.enums + "|" + s.dates
}

func (s site) special() bool {
	return s.adapter != nil || s.from != nil || s.item != nil || s.owner != nil
}

func unknown(why string) *decoder.Node { return &decoder.Node{Op: decoder.OpUnknown, Why: why} }

// serial is a JsonSerializationException, reading a JsonReaderException.
func serial(reason decoder.Reason, message string) *decoder.Error {
	return &decoder.Error{Kind: "JsonSerializationException", Reason: reason, Message: "JsonSerializationException: " + message + " Path '" + decoder.PathMark + "'."}
}

func reading(reason decoder.Reason, message string) *decoder.Error {
	return &decoder.Error{Kind: "JsonReaderException", Reason: reason, Message: "JsonReaderException: " + message + " Path '" + decoder.PathMark + "'."}
}

// converting is the error for a value that a type is not made of.
func converting(reason decoder.Reason, v *wire.Value, t *model.Type) *decoder.Error {
	return serial(reason, "Error converting value "+shown(v)+" to type '"+clr.Name(t)+"'.")
}

// shown is a value as messages have it.
func shown(v *wire.Value) string {
	switch v.Kind {
	case wire.Null:
		return "{null}"
	case wire.Bool:
		if v.True() {
			return "True"
		}
		return "False"
	case wire.Number:
		if raw := string(v.Raw); isFloat(raw) {
			f, _ := strconv.ParseFloat(raw, 64)
			return clr.Printed(f)
		}
	}
	return string(v.Raw)
}

// refused is an error that is thrown when the library looks at a class, whatever is sent.
func (c *compiler) refused(m *model.Model, advice, format string, args ...any) *decoder.Node {
	message := fmt.Sprintf(format, args...)
	if c.broken == nil {
		c.breaks = m
		c.broken = &decoder.Error{Kind: "JsonSerializationException", Reason: decoder.ReasonType, Where: decoder.AtRoot, Message: "JsonSerializationException: " + message, Advice: advice}
	}
	return unknown("the library refuses the class: " + message)
}

// value is the node for a value of a type, null among them. An empty text is nothing for what may be nothing.
func (c *compiler) value(t *model.Type, s site) *decoder.Node {
	u := t.Unwrapped()
	if conv := c.converter(t, s); conv != nil {
		if s.element {
			own := *conv
			own.Fresh, conv = true, &own
		}
		return c.code.Node(conv, t, nil)
	}
	s.bare = t.Kind == model.Optional && clr.IsValue(u)
	n := c.solid(u, s)
	if n.Op == decoder.OpUnknown {
		return n
	}
	out := &decoder.Node{Op: decoder.OpNil, Inner: n, Type: t.Written()}
	if clr.IsValue(u) && t.Kind != model.Optional {
		out.NullError = serial(decoder.ReasonNull, "Error converting value {null} to type '"+clr.Name(t)+"'.")
		return out
	}
	if clr.IsValue(u) {
		if n.Op == decoder.OpLeaf || n.Op == decoder.OpKeyed {
			bare, full := "type '"+clr.Name(u)+"'", "type '"+clr.Name(t)+"'"
			n = clr.Told(n, func(message string) string { return strings.Replace(message, bare, full, 1) })
		}
		isUnix := (u.Name == "DateTime" || u.Name == "DateTimeOffset") && c.dated(s) == "UnixDateTimeConverter"
		if out.Inner = n; !isUnix {
			out.Inner = emptyIsNull(n)
		}
		if n.Op == decoder.OpKeyed {
			struc := *n
			struc.Second, struc.Scalars = empty(t), true
			out.Inner = &struc
		}
	}
	return out
}

// emptyIsNull is a node for which an empty text is nothing.
func emptyIsNull(n *decoder.Node) *decoder.Node {
	if n.Op != decoder.OpLeaf || n.Read == nil {
		return n
	}
	own, read := *n, n.Read
	own.Read = func(v *wire.Value) decoder.Verdict {
		if isEmpty(v) {
			return decoder.Verdict{}
		}
		return read(v)
	}
	own.MindsText = true
	return &own
}

func isEmpty(v *wire.Value) bool { return v.Kind == wire.String && len(v.Raw) == 2 }

// empty is what a list, a map or an object makes of a text: nothing of an empty one, an error of others.
func empty(t *model.Type) *decoder.Node {
	return &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		if isEmpty(v) {
			return decoder.Verdict{}
		}
		return decoder.Verdict{Err: converting(decoder.ReasonKind, v, t)}
	}}
}

func (c *compiler) solid(t *model.Type, s site) *decoder.Node {
	key := t.Key() + s.key()
	if !s.special() {
		if n := c.nodes[key]; n != nil {
			return n
		}
	}
	if c.growth.Endless(t) {
		return unknown(t.Name + " grows without end")
	}
	n := &decoder.Node{}
	if !s.special() {
		c.nodes[key] = n
	}
	*n = *c.make(t, s)
	n.Type = t.Written()
	if wrong := n.Wrong; wrong != nil && n.WrongValue == nil {
		n.WrongValue = func(v *wire.Value) *decoder.Error {
			if v.Kind < wire.Array {
				return converting(decoder.ReasonKind, v, t)
			}
			return wrong(v.Kind)
		}
	}
	return n
}

func (c *compiler) make(t *model.Type, s site) *decoder.Node {
	if a := c.adapter(t, s); a != nil {
		return unknown("the converter " + a.Name + " reads it, which is not followed")
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
	return unknown("the type " + t.Written() + " is not one that decodes")
}

// adapter is the converter of the app's that reads a type there, nil for none. The settings' converters are asked in
// turn whether they can.
func (c *compiler) adapter(t *model.Type, s site) *model.Adapter {
	if s.adapter != nil {
		return s.adapter
	}
	if s.from != nil { // what is there is filled
		return nil
	}
	if t.Model != nil {
		if mark := find(t.Model.Marks, "JsonConverter"); mark != nil && enumsOf(mark) == "" && !c.byBase() {
			return sharp.MarkedBy(mark)
		}
	}
	if c.settings == nil {
		return nil
	}
	for i := range c.settings.Adapters {
		a := &c.settings.Adapters[i]
		conv := c.code.Converter(a)
		if s.bare && conv != nil && conv.Of != nil && conv.Of.Kind != model.Optional {
			continue
		}
		if conv == nil {
			if a.Of != nil && a.Of.Unwrapped().Key() == t.Key() {
				return a
			}
			continue
		}
		if can, known := conv.CanConvert(c.code.World, t); can || !known {
			return a
		}
	}
	return nil
}

// converter is that converter, nil for none, or one that is not followed. One of a struct is none of its nullable.
func (c *compiler) converter(t *model.Type, s site) *sharp.Converter {
	u := t.Unwrapped()
	conv := c.code.Converter(c.adapter(u, s))
	if conv == nil || s.adapter == nil && t.Kind == model.Optional && clr.IsValue(u) && conv.Of != nil && conv.Of.Kind != model.Optional {
		return nil
	}
	return conv
}

// byBase says that a converter of the app's asks StringEnumConverter, which it extends, for what is read.
func (c *compiler) byBase() bool { return c.settings.Option("names") == "true" }

// handles says whether the settings have an error handler that marks each error as handled.
func (c *compiler) handles() bool { return c.settings.Option("Error") == "handled" }

// model is the node for a type that the source declares.
func (c *compiler) model(t *model.Type, s site) *decoder.Node {
	m := t.Model
	if m.Reading == model.Unfollowed {
		return unknown(fmt.Sprintf("%s: %s (%s)", m.Name, m.Why, m.WhyPos))
	}
	if mark := find(m.Marks, "JsonConverter"); mark != nil {
		if enums := enumsOf(mark); m.Kind == model.Enum && enums != "" && s.enums == "" {
			s.enums = enums
		}
	}
	switch {
	case m.Kind == model.Enum && c.byBase():
		return c.enum(m, site{enums: "names"})
	case m.Kind == model.Enum:
		return c.enum(m, s)
	case m.Collection != nil && find(m.Marks, "JsonObject") == nil:
		n := *c.solid(m.Collection.Bind(t.Env()), site{})
		return &n
	case m.Kind == model.Interface || m.Abstract:
		return &decoder.Node{Op: decoder.OpKeyed, Model: m, Wrong: wrongObject(t), Second: empty(t), Scalars: true, Inner: &decoder.Node{Op: decoder.OpFail, Model: m, Error: serial(decoder.ReasonType,
			"Could not create an instance of type "+clr.Name(t)+". Type is an interface or abstract class and cannot be instantiated.")}}
	}
	return c.object(t, s)
}

// enumsOf says how a StringEnumConverter in an attribute tells enums, "" for another converter.
func enumsOf(a *model.Annotation) string {
	if model.SimpleName(a.Text("value", "")) != "StringEnumConverter" {
		return ""
	}
	how := "names"
	for _, name := range []string{"value2", "value3"} {
		for _, text := range a.Texts(name) {
			if strings.HasSuffix(text, "NamingStrategy") {
				how += ":" + model.SimpleName(text)
			}
		}
	}
	return how
}

// find is an attribute of the library's, or of a data contract, of that name among some.
func find(marks model.Annotated, name string) *model.Annotation {
	for i := range marks {
		if (marks[i].Whole == space+name || marks[i].Whole == contracts+name) && (marks[i].Target == "" || marks[i].Target == "property" || marks[i].Target == "field" || marks[i].Target == "type") {
			return &marks[i]
		}
	}
	return nil
}

// What messages call the kinds of value that come and that are wanted.
const (
	anObject   = "object (e.g. {\"name\":\"value\"})"
	anArray    = "array (e.g. [1,2,3])"
	aPrimitive = "primitive value (e.g. string, number, boolean, null)"
)

// cannotDeserialize is the error for an array or an object where another kind of value is declared.
func cannotDeserialize(kind wire.Kind, t *model.Type, requires string) *decoder.Error {
	sent := anObject
	if kind == wire.Array {
		sent = anArray
	}
	return serial(decoder.ReasonKind, "Cannot deserialize the current JSON "+sent+" into type '"+clr.Name(t)+"' because the type requires a JSON "+requires+" to deserialize correctly.")
}

// wrongObject is the error for an array or a scalar where an object is declared.
func wrongObject(t *model.Type) func(wire.Kind) *decoder.Error {
	return func(kind wire.Kind) *decoder.Error {
		if kind == wire.Array {
			return cannotDeserialize(kind, t, anObject)
		}
		return serial(decoder.ReasonKind, "Error converting value to type '"+clr.Name(t)+"'.")
	}
}

// wrongArray is the error for an object or a scalar where a list is declared.
func wrongArray(t *model.Type) func(wire.Kind) *decoder.Error {
	return func(kind wire.Kind) *decoder.Error {
		if kind == wire.Object {
			return cannotDeserialize(kind, t, anArray)
		}
		return serial(decoder.ReasonKind, "Error converting value to type '"+clr.Name(t)+"'.")
	}
}

// list is the node for arrays, lists and sets.
func (c *compiler) list(t *model.Type, s site) *decoder.Node {
	if clr.IsBytes(t) {
		return c.bytes(t)
	}
	if t.Class == "IReadOnlySet" {
		return cannotPopulate(t)
	}
	if rank := strings.Count(t.Name, ",") + 1; strings.HasPrefix(t.Name, "[,") {
		return c.table(t, rank, s)
	}
	if slices.Contains([]string{"Memory", "ReadOnlyMemory", "ArraySegment", "BlockingCollection", "IAsyncEnumerable"}, t.Class) {
		return unknown("how Newtonsoft.Json reads " + t.Written() + " is not known")
	}
	n := &decoder.Node{Op: decoder.OpList, Unique: t.Kind == model.Unique, Inner: c.value(t.Args[0], site{enums: s.enums, dates: s.dates, adapter: s.item, element: true}), Wrong: wrongArray(t), Second: empty(t), Lossy: c.handles(), KeepNull: true, Equal: clr.Equal(t.Args[0])}
	if t.Class == "Stack" || t.Class == "ImmutableStack" || t.Class == "IImmutableStack" || t.Class == "ConcurrentStack" || t.Class == "ConcurrentBag" {
		return decoder.Made(n, func(s decoder.Seen) (decoder.Seen, *decoder.Error) {
			s.Elems = slices.Clone(s.Elems)
			slices.Reverse(s.Elems)
			return s, nil
		})
	}
	return n
}

// table is the node for an array of several dimensions, which is seen element by element.
func (c *compiler) table(t *model.Type, rank int, s site) *decoder.Node {
	n := c.value(t.Args[0], site{enums: s.enums, dates: s.dates, adapter: s.item, element: true})
	for dimension := range rank {
		n = &decoder.Node{Op: decoder.OpList, Inner: n, Wrong: wrongArray(t), KeepNull: true}
		if dimension < rank-1 {
			n.WrongValue = func(v *wire.Value) *decoder.Error {
				return serial(decoder.ReasonKind, "Unexpected token when deserializing multidimensional array: "+tokenName(v)+".")
			}
		}
	}
	n.Second = empty(t)
	return decoder.Made(n, func(s decoder.Seen) (decoder.Seen, *decoder.Error) {
		if s.Kind != decoder.SeenList {
			return s, nil
		}
		for range rank - 1 {
			flat := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
			for _, row := range s.Elems {
				if len(row.Elems) != len(s.Elems[0].Elems) {
					return s, &decoder.Error{Kind: "Exception", Reason: decoder.ReasonText, Message: "Exception: Cannot deserialize non-cubical array as multidimensional array."}
				}
				flat.Elems = append(flat.Elems, row.Elems...)
			}
			s = flat
		}
		return s, nil
	})
}

// cannotPopulate is the node for an interface of lists that the library has no class for.
func cannotPopulate(t *model.Type) *decoder.Node {
	return &decoder.Node{Op: decoder.OpFail, Error: serial(decoder.ReasonType, "Cannot create and populate list type "+clr.Name(t)+".")}
}

// dictionary is the node for maps. Of equal keys the last counts.
func (c *compiler) dictionary(t *model.Type, s site) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpMap, Inner: c.value(t.Args[1], site{enums: s.enums, dates: s.dates, adapter: s.item, element: true}), Wrong: wrongObject(t), Every: true, Second: empty(t), Lossy: c.handles(), KeepNull: true}
	n.Key = c.key(t.Args[0], t)
	if n.Key == nil {
		return unknown("how its keys are made is not known")
	}
	return n
}

// key is what becomes of a member's name that is the key of a map: it is converted as a text is.
func (c *compiler) key(t, of *model.Type) func(string) (decoder.Seen, *decoder.Error) {
	if t.Kind != model.Named {
		return nil
	}
	if t.Model == nil && (t.Name == "string" || t.Name == "object") {
		return func(name string) (decoder.Seen, *decoder.Error) { return clr.String(name), nil }
	}
	fails := func(name string) *decoder.Error {
		return serial(decoder.ReasonKey, "Could not convert string '"+name+"' to dictionary key type '"+clr.Name(t)+"'. Create a TypeConverter to convert from the string to the key type object.")
	}
	var read func(*wire.Value) decoder.Verdict
	switch {
	case t.Model != nil && t.Model.Kind == model.Enum:
		read = c.enum(t.Model, site{enums: "keys"}).Read
	case t.Model != nil:
		return nil
	default:
		if bits, signed := clr.Bits(t); bits > 0 {
			return func(name string) (decoder.Seen, *decoder.Error) {
				if digits, ok := clr.ParseWhole(strings.TrimSpace(name), bits, signed); ok {
					return decoder.Seen{Kind: decoder.SeenInt, Text: digits}, nil
				}
				return decoder.Seen{}, fails(name)
			}
		}
		n := c.scalar(t, site{})
		if n == nil || n.Read == nil {
			return nil
		}
		read = n.Read
	}
	return func(name string) (decoder.Seen, *decoder.Error) {
		v, err := wire.Parse([]byte(strconv.Quote(name)))
		if err != nil {
			return decoder.Seen{}, fails(name)
		}
		if verdict := read(v); verdict.Err == nil {
			return verdict.Seen, nil
		}
		return decoder.Seen{}, fails(name)
	}
}

// tuple is the node for a tuple: an object of Item1, Item2.
func (c *compiler) tuple(t *model.Type) *decoder.Node {
	m := &model.Model{Name: "ValueTuple", Language: "csharp", Kind: model.Struct}
	build := &decoder.Node{Op: decoder.OpBuild, Model: m, Anonymous: true, ByDocument: true}
	var keys []string
	for i, a := range t.Args {
		name := "Item" + strconv.Itoa(i+1)
		key := c.named(name, nil)
		keys = append(keys, key)
		build.Props = append(build.Props, &model.Field{Name: name, Type: a, Declared: a.Written(), Access: model.Public})
		build.Steps = append(build.Steps, decoder.Step{Property: i, Node: &decoder.Node{Op: decoder.OpAt, Name: key, Every: true, Value: clr.Zero(a), Inner: c.value(a, site{})}})
	}
	return &decoder.Node{Op: decoder.OpKeyed, Wrong: wrongObject(t), Second: empty(t), Match: matching(keys), Inner: build}
}
