// Package foundation is what Foundation's JSONDecoder does with types that are
// Decodable, as measured with Swift 6.3.1 on Linux (testdata/truth/swift) and as
// the open source of swift-foundation has it (JSONDecoder.swift, JSONScanner.swift).
package foundation

import (
	"fmt"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Name is what settings call the library.
const Name = "foundation"

// Plan makes the plan by which a JSONDecoder with these settings decodes t.
// Settings may be nil: a decoder on which nothing is set.
func Plan(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	return Planner(settings)(t, declared)
}

// Planner is Plan for many types with the same settings: what several of them hold is planned once.
func Planner(settings *model.Settings) func(t *model.Type, declared string) *decoder.Plan {
	c := &compiler{settings: settings, nodes: map[string]*decoder.Node{}, match: canonical}
	switch settings.Option("keys") {
	case "convertFromSnakeCase":
		c.match = func(name string) string { return canonical(ConvertFromSnakeCase(name)) }
	case "custom":
		c.opaqueKeys = true
	}
	return func(t *model.Type, declared string) *decoder.Plan {
		c.growth = model.Growth{}
		return c.plan(t, declared)
	}
}

func (c *compiler) plan(t *model.Type, declared string) *decoder.Plan {
	settings := c.settings
	p := &decoder.Plan{Type: t, Declared: declared, Settings: settings, MaxDepth: maxDepth, TooDeep: notValid(decoder.ReasonText)}
	root := *c.value(t, Text(t)) // a copy, since others write the type otherwise
	root.Type = declared
	p.Root = &root
	if settings.Option("rows") != "" && t.Kind == model.List {
		p.Root = c.rows(t.Args[0], settings.Option("rows.absent") != "")
		if settings.Option("rows.fragments") == "" {
			p.Fragment = &decoder.Error{Kind: "invalid", Reason: decoder.ReasonKind, Message: "JSON text did not start with array or object and option to allow fragments not set."}
		}
	}
	if settings != nil {
		p.Refuses = settings.Why
	}
	if c.opaqueKeys {
		p.Refuses = "its decoder renames keys by code of its own (keyDecodingStrategy = .custom), which is not followed"
	}
	return p
}

// rows is the node for a list of models that code makes of what JSONSerialization has parsed, leaving out
// what gives none; orEmpty says that what is no list of objects is an empty one.
func (c *compiler) rows(elem *model.Type, orEmpty bool) *decoder.Node {
	list := &decoder.Node{Op: decoder.OpList, Wrong: castError(array), Inner: c.value(elem, ""), Lossy: true, Whole: true}
	if !orEmpty {
		return list
	}
	empty := &decoder.Node{Op: decoder.OpConst, Value: decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}}
	return &decoder.Node{Op: decoder.OpElse, Inner: &decoder.Node{Op: decoder.OpTry, Inner: list}, Second: empty}
}

// compiler makes nodes of types. A node is made once for each type, so that a
// model that holds itself becomes a circle.
type compiler struct {
	settings   *model.Settings
	match      func(string) string
	opaqueKeys bool
	nodes      map[string]*decoder.Node
	growth     model.Growth
}

// maxDepth is how many arrays and objects JSONDecoder's scanner takes inside each
// other.
const maxDepth = 512

const (
	dictionary = "Dictionary<String, Any>"
	array      = "Array<Any>"
)

// found is how JSONDecoder names the kind of a value it did not expect.
func found(kind wire.Kind) string {
	switch kind {
	case wire.Null:
		return "null"
	case wire.Bool:
		return "bool"
	case wire.Number:
		return "number"
	case wire.String:
		return "a string"
	case wire.Array:
		return "an array"
	}
	return "a dictionary"
}

// mismatch is the error for a value of the wrong kind, null among them.
func mismatch(want string, kind wire.Kind) *decoder.Error {
	if kind == wire.Null {
		return valueNotFound(want)
	}
	return &decoder.Error{
		Kind: "typeMismatch", Reason: decoder.ReasonKind,
		Message: fmt.Sprintf("typeMismatch: %s: Expected to decode %s but found %s instead.", want, want, found(kind)),
	}
}

func valueNotFound(want string) *decoder.Error {
	return &decoder.Error{Kind: "valueNotFound", Reason: decoder.ReasonNull, Message: "valueNotFound: " + want}
}

func corrupted(reason decoder.Reason, where decoder.Where, message string) *decoder.Error {
	return &decoder.Error{Kind: "dataCorrupted", Reason: reason, Where: where, Message: "dataCorrupted: " + message}
}

// notValid is what JSONDecoder throws where its own scanner gives up, also for a
// number that the type cannot hold: it names no place.
func notValid(reason decoder.Reason) *decoder.Error {
	return corrupted(reason, decoder.AtRoot, "The given data was not valid JSON.")
}

func keyNotFound(key string) *decoder.Error {
	return &decoder.Error{Kind: "keyNotFound", Reason: decoder.ReasonMissing, Key: key, Message: "keyNotFound: " + key}
}

func wrong(want string) func(wire.Kind) *decoder.Error {
	return func(kind wire.Kind) *decoder.Error { return mismatch(want, kind) }
}

func unknown(why string) *decoder.Node { return &decoder.Node{Op: decoder.OpUnknown, Why: why} }

// value is the node for a value of type t wherever one is decoded as a whole: at
// the root, as an element, in a container of its own.
func (c *compiler) value(t *model.Type, declared string) *decoder.Node {
	key := t.Key()
	if n := c.nodes[key]; n != nil {
		return n
	}
	if c.growth.Endless(t) {
		return unknown(t.Name + " holds itself with type arguments that grow at each step, which is followed only so far")
	}
	n := &decoder.Node{}
	c.nodes[key] = n
	*n = *c.make(t, declared)
	n.Type = declared
	return n
}

func (c *compiler) make(t *model.Type, declared string) *decoder.Node {
	switch t.Kind {
	case model.Optional:
		// Optional.init(from:) asks a container of its own whether it is null.
		return &decoder.Node{Op: decoder.OpNil, OwnPath: true, Inner: c.value(t.Args[0], Text(t.Args[0]))}
	case model.List, model.Unique:
		return &decoder.Node{
			Op: decoder.OpList, Unique: t.Kind == model.Unique, OwnPath: true,
			Wrong: wrong(array), Inner: c.value(t.Args[0], Text(t.Args[0])),
		}
	case model.Map:
		return c.dictionary(t)
	case model.Named:
		if t.Model != nil {
			return c.model(t)
		}
		if t.Name == "Date" && c.settings != nil && c.settings.Custom["dates"] != nil && c.settings.Option("dates") == "custom" {
			return c.custom("dates", t)
		}
		if t.Name == "Data" && c.settings.Option("data") == "deferredToData" {
			return c.deferredData()
		}
		if read := c.scalar(t.Name); read != nil {
			return &decoder.Node{Op: decoder.OpLeaf, Read: read, MindsText: c.settings.Option("floats") == "convertFromString", MindsForm: t.Name == "Date"}
		}
		if why := c.opaqueScalar(t.Name); why != "" {
			return unknown(why)
		}
		return unknown("the type " + t.Name + " is not in the source")
	case model.Param:
		return unknown("the type parameter " + t.Name + " is not bound")
	}
	return unknown("the type " + declared + " is not one that decodes")
}

// dictionary is a node for [K: V]. A String or Int key is a member's name; any
// other key makes the library read an array of keys and values in turn
// (Dictionary.init(from:) in the standard library).
func (c *compiler) dictionary(t *model.Type) *decoder.Node {
	key, elem := t.Args[0], c.value(t.Args[1], Text(t.Args[1]))
	n := &decoder.Node{Op: decoder.OpMap, OwnPath: true, Wrong: wrong(dictionary), Inner: elem}
	switch {
	case key.Kind == model.Named && key.Model == nil && key.Name == "String":
		n.Key = func(name string) (decoder.Seen, *decoder.Error) {
			return decoder.Seen{Kind: decoder.SeenString, Text: name}, nil
		}
	case key.Kind == model.Named && key.Model == nil && key.Name == "Int":
		n.Key = func(name string) (decoder.Seen, *decoder.Error) {
			if digits, ok := parseIntKey(name); ok {
				return decoder.Seen{Kind: decoder.SeenInt, Text: digits}, nil
			}
			return decoder.Seen{}, &decoder.Error{
				Kind: "typeMismatch", Reason: decoder.ReasonKey,
				Message: "typeMismatch: Int: Expected Int key but found String key instead.",
			}
		}
	case key.Model != nil && conforms(key.Model, "CodingKeyRepresentable"):
		read := c.keyRepresentable(key.Model)
		if read == nil {
			return unknown("its keys are made by code of " + key.Model.Name)
		}
		n.Key = read
	default:
		return &decoder.Node{
			Op: decoder.OpPairs, OwnPath: true, Wrong: wrong(array), Inner: c.value(key, Text(key)), Second: elem,
			Error: corrupted(decoder.ReasonKey, decoder.AtValue, "Expected collection of key-value pairs; encountered odd-length array instead."),
		}
	}
	return n
}

// keyRepresentable makes map keys of an enum that is CodingKeyRepresentable: they
// are its raw values (SE-0320). It is nil for other types.
func (c *compiler) keyRepresentable(m *model.Model) func(string) (decoder.Seen, *decoder.Error) {
	if m.Kind != model.Enum || m.Raw == nil || m.Reading != model.ByLibrary {
		return nil
	}
	cases := map[string]string{}
	for _, mc := range m.Cases {
		if mc.Raw != nil {
			cases[canonical(rawKey(Constant(mc.Raw, m.Raw)))] = mc.Name
		}
	}
	return func(name string) (decoder.Seen, *decoder.Error) {
		if m.Raw.Name != "String" {
			name, _ = parseIntKey(name)
		}
		if found, ok := cases[canonical(name)]; ok {
			return decoder.Seen{Kind: decoder.SeenEnum, Text: found, Type: m.Name}, nil
		}
		return decoder.Seen{}, corrupted(decoder.ReasonKey, decoder.AtValue, "Could not convert key to type "+model.SimpleName(m.Name))
	}
}

func conforms(m *model.Model, protocol string) bool {
	for _, name := range m.Conforms {
		if name == protocol {
			return true
		}
	}
	return false
}

// model is the node for a type that the source declares.
func (c *compiler) model(t *model.Type) *decoder.Node {
	m := t.Model
	switch {
	case m.Reading == model.Unfollowed:
		return unknown(fmt.Sprintf("%s: %s (%s)", m.Name, m.Why, m.WhyPos))
	case !m.Decodable && m.FromMap:
		return c.fromMap(t)
	case !m.Decodable:
		return unknown(m.Name + " is not Decodable")
	case m.Reading == model.ByCode:
		return c.byCode(t)
	case m.Kind == model.Enum && m.Raw != nil:
		return &decoder.Node{Op: decoder.OpLeaf, OwnPath: true, Model: m, Read: c.rawEnum(m), MindsText: true}
	case m.Kind == model.Enum:
		return c.payloadEnum(t)
	case m.Raw != nil:
		return c.rawStruct(t)
	}
	build := c.build(t)
	if build.Op == decoder.OpUnknown || build.OwnPath {
		return build
	}
	return &decoder.Node{Op: decoder.OpKeyed, OwnPath: true, Wrong: wrong(dictionary), Match: c.match, Inner: build, Model: m}
}

// inherited are the fields of a model with those of its superclasses first, and
// the type of the superclass that the library or the code has read.
func (c *compiler) super(t *model.Type) *model.Type {
	if s := t.Model.Super; s != nil && s.Model != nil {
		return s.Bind(t.Env())
	}
	return nil
}

// build is the node that fills the properties of a model as the synthesised
// init(from:) does: in the order of its keys.
func (c *compiler) build(t *model.Type) *decoder.Node {
	m, env := t.Model, t.Env()
	n := &decoder.Node{Op: decoder.OpBuild, Model: m}
	if super := c.super(t); super != nil {
		if super.Model.Decodable {
			// A subclass without an init(from:) of its own inherits that of its
			// superclass, which knows nothing of the subclass's properties.
			inner := c.value(super, super.Name)
			if inner.Op == decoder.OpKeyed {
				inner = inner.Inner
			} else {
				n.OwnPath = true // read by code, which asks for its containers itself
			}
			if inner == nil || inner.Op != decoder.OpBuild {
				return unknown(fmt.Sprintf("%s: its superclass %s is read in a way that is not followed", m.Name, super.Name))
			}
			n.Props = append(n.Props, inner.Props...)
			n.Steps = append(n.Steps, inner.Steps...)
		} else {
			c.keep(n, super)
		}
	}
	base := len(n.Props)
	n.Props = append(n.Props, m.Fields...)
	for _, i := range readingOrder(m) {
		f := m.Fields[i]
		n.Steps = append(n.Steps, decoder.Step{Property: base + i, Node: c.field(f, env)})
	}
	return n
}

// keep adds the properties of a class that is not decoded: they have the values
// that its own init() gives them.
func (c *compiler) keep(n *decoder.Node, t *model.Type) {
	if super := c.super(t); super != nil {
		c.keep(n, super)
	}
	for _, f := range t.Model.Fields {
		n.Steps = append(n.Steps, decoder.Step{Property: len(n.Props), Node: kept(f, f.Type.Bind(t.Env()))})
		n.Props = append(n.Props, f)
	}
}

// readingOrder is the order in which the fields of a model are read.
func readingOrder(m *model.Model) (order []int) {
	done := make([]bool, len(m.Fields))
	for _, name := range m.KeyOrder {
		for i, f := range m.Fields {
			if f.Name == name && !done[i] {
				order, done[i] = append(order, i), true
			}
		}
	}
	for i := range m.Fields {
		if !done[i] {
			order = append(order, i)
		}
	}
	return order
}

// kept is the node of a property that is not read: it holds its initial value.
func kept(f *model.Field, t *model.Type) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpConst, Field: f}
	switch {
	case f.Default != nil:
		n.Value = Constant(f.Default, t)
	case t.Kind != model.Optional:
		n.Value = decoder.Seen{Kind: decoder.SeenUnknown}
	}
	return n
}

// field is the node that reads one property of a model.
func (c *compiler) field(f *model.Field, env map[string]*model.Type) *decoder.Node {
	t := f.Type.Bind(env)
	switch f.Reading {
	case model.Never:
		return kept(f, t)
	case model.Unfollowed:
		n := unknown(f.Why)
		n.Field = f
		return n
	}
	if f.Wrapper != nil {
		// A wrapper is decoded in the property's stead, with decode even where it
		// wraps an optional.
		at := c.at(f.Keys[0], c.value(f.Wrapper.Bind(env), f.Declared))
		at.Field, at.Type = f, f.Declared
		pick := &decoder.Node{Op: decoder.OpPick, Name: "wrappedValue", Inner: at, Field: f}
		if f.Fallback != nil {
			at.Missing, at.NullNil = nil, true
			return &decoder.Node{Op: decoder.OpElse, Field: f, Inner: pick, Second: &decoder.Node{Op: decoder.OpConst, Value: Constant(f.Fallback, t)}}
		}
		return pick
	}
	at := c.member(f.Keys[0], t, f.Declared)
	at.Field = f
	return at
}

// member is the node that reads a member as synthesised code does: an optional one
// with decodeIfPresent, any other with decode.
func (c *compiler) member(key string, t *model.Type, declared string) *decoder.Node {
	if t.Kind == model.Optional {
		return &decoder.Node{Op: decoder.OpAt, Name: canonical(key), Type: declared, NullNil: true, Inner: c.value(t.Args[0], Text(t.Args[0]))}
	}
	return c.at(key, c.value(t, declared))
}

// at is the node for decode(_:forKey:).
func (c *compiler) at(key string, inner *decoder.Node) *decoder.Node {
	return &decoder.Node{Op: decoder.OpAt, Name: canonical(key), Type: inner.Type, Inner: inner, Missing: keyNotFound(key)}
}

// rawStruct is the node for a struct that is RawRepresentable: it is decoded as
// its raw value (the extension of RawRepresentable in the standard library).
func (c *compiler) rawStruct(t *model.Type) *decoder.Node {
	m := t.Model
	n := &decoder.Node{Op: decoder.OpBuild, OwnPath: true, Model: m, Props: m.Fields}
	for i, f := range m.Fields {
		if f.Name == "rawValue" {
			inner := c.value(m.Raw.Bind(t.Env()), f.Declared)
			n.Steps = append(n.Steps, decoder.Step{Property: i, Node: &decoder.Node{Op: decoder.OpDo, Inner: inner, Type: f.Declared, Field: f}})
		} else {
			n.Steps = append(n.Steps, decoder.Step{Property: i, Node: kept(f, f.Type)})
		}
	}
	return n
}

// payloadEnum is the node for an enum without raw values: an object with one known
// key, the case, that holds its associated values (SE-0295).
func (c *compiler) payloadEnum(t *model.Type) *decoder.Node {
	m := t.Model
	cases := &decoder.Node{Op: decoder.OpCases, Model: m, Error: &decoder.Error{
		Kind: "typeMismatch", Reason: decoder.ReasonCases,
		Message: fmt.Sprintf("typeMismatch: %s: Invalid number of keys found, expected one.", model.SimpleName(m.Name)),
	}}
	for _, mc := range m.Cases {
		if mc.Key == "" {
			continue // left out of CodingKeys: it cannot be decoded
		}
		build := &decoder.Node{Op: decoder.OpBuild, Model: m, Props: mc.Values}
		for i, v := range mc.Values {
			n := c.field(v, t.Env())
			if v.Default != nil && v.Reading == model.ByLibrary {
				// A value with a default is read with decodeIfPresent (SE-0295).
				vt := v.Type.Bind(t.Env())
				n = &decoder.Node{Op: decoder.OpElse, Field: v,
					Inner:  &decoder.Node{Op: decoder.OpAt, Name: v.Keys[0], Type: v.Declared, NullNil: true, Inner: c.value(vt.Unwrapped(), v.Declared), Field: v},
					Second: &decoder.Node{Op: decoder.OpConst, Value: Constant(v.Default, vt)}}
			}
			build.Steps = append(build.Steps, decoder.Step{Property: i, Node: n})
		}
		inner := &decoder.Node{Op: decoder.OpKeyed, Wrong: wrong(dictionary), Match: c.match, Inner: build}
		cases.Branches = append(cases.Branches, decoder.Branch{Key: mc.Key, Case: mc, Node: &decoder.Node{Op: decoder.OpAt, Name: mc.Key, Inner: inner, Missing: keyNotFound(mc.Key)}})
	}
	return &decoder.Node{Op: decoder.OpKeyed, OwnPath: true, Wrong: wrong(dictionary), Match: c.match, Inner: cases, Model: m}
}

// Text writes a type as Swift source would.
func Text(t *model.Type) string {
	switch t.Kind {
	case model.Optional:
		return Text(t.Args[0]) + "?"
	case model.List:
		return "[" + Text(t.Args[0]) + "]"
	case model.Map:
		return "[" + Text(t.Args[0]) + ": " + Text(t.Args[1]) + "]"
	case model.Unique:
		return "Set<" + Text(t.Args[0]) + ">"
	}
	if len(t.Args) == 0 {
		return t.Name
	}
	var args []string
	for _, a := range t.Args {
		args = append(args, Text(a))
	}
	if t.Kind == model.Tuple {
		return "(" + strings.Join(args, ", ") + ")"
	}
	return t.Name + "<" + strings.Join(args, ", ") + ">"
}
