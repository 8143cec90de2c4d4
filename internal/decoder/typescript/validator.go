package typescript

import (
	"math"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/schema"
	"vetta/internal/types"
	"vetta/internal/wire"
)

// Validated is the planner of a validator: what its schemas do with a document.
func Validated(library string) func(settings *model.Settings) func(t *model.Type, declared string) *decoder.Plan {
	return func(settings *model.Settings) func(t *model.Type, declared string) *decoder.Plan {
		trusting := Planner(settings)
		return func(t *model.Type, declared string) *decoder.Plan {
			s := schemaOf(t)
			if s == nil {
				return trusting(t, declared)
			}
			working.Lock()
			defer working.Unlock()
			p := &decoder.Plan{Type: t, Declared: declared, Settings: settings}
			c := &validating{compiler: compiler{nodes: map[string]*decoder.Node{}}, library: library, made: map[*schema.Schema]*decoder.Node{}, major: s.Major, model: modelWithin(t)}
			p.Root = c.node(s)
			p.Inexact = c.inexact
			p.Run = func(doc *wire.Value) decoder.Outcome {
				working.Lock()
				defer working.Unlock()
				return c.run(s, doc)
			}
			return p
		}
	}
}

// modelWithin is the model that a type is, or a list is of, nil for none.
func modelWithin(t *model.Type) *model.Model {
	for t = t.Unwrapped(); t.Kind == model.List && len(t.Args) == 1; t = t.Args[0].Unwrapped() {
	}
	return t.Model
}

// schemaOf is the schema that a type is inferred of, or a list is held to element by element; nil for none.
func schemaOf(t *model.Type) *schema.Schema {
	if t = t.Unwrapped(); t.Kind == model.List && len(t.Args) == 1 {
		if of := schemaOf(t.Args[0]); of != nil && of.List != nil {
			return of.List()
		}
		return nil
	}
	if t.Kind == model.Named && t.Model != nil {
		if d, ok := t.Model.Source.(*types.Decl); ok {
			s, _ := d.Schema.(*schema.Schema)
			return s
		}
	}
	return nil
}

// validating makes nodes of schemas.
type validating struct {
	compiler
	library string
	major   int // of the library's version
	made    map[*schema.Schema]*decoder.Node
	inexact bool // the nodes do not tell all that the schema asks for
	model   *model.Model
	names   int
}

// run holds a document to a schema.
func (c *validating) run(s *schema.Schema, doc *wire.Value) decoder.Outcome {
	r := &schema.Run{Major: s.Major}
	got := s.Do(r, schema.Of(doc), nil)
	out := decoder.Outcome{Seen: seenOf(got)}
	if r.Unknown {
		out.Seen = decoder.Seen{Kind: decoder.SeenUnknown}
		out.Unknown = [][]wire.Step{{}}
		return out
	}
	if len(r.Issues) > 0 {
		first := r.Issues[0]
		out.Err = c.fault(first)
		out.At, out.Place = first.At, first.At
		for _, i := range r.Issues {
			out.Issues = append(out.Issues, decoder.Difference{At: i.At, Reason: i.Code, Message: i.Message})
		}
		out.Seen = decoder.Seen{}
		return out
	}
	out.Unknown = unknownIn(got, nil)
	return out
}

// unknownIn are the places of a value that are not known.
func unknownIn(v schema.Value, at []wire.Step) (all [][]wire.Step) {
	if v.Kind == schema.Other {
		return [][]wire.Step{slices.Clone(at)}
	}
	for i, e := range v.Elems {
		step := wire.Step{Index: i}
		if v.Kind == schema.Object {
			step = wire.MemberOf(v.Names[i])
		}
		all = append(all, unknownIn(e, append(at, step))...)
	}
	return all
}

// errors are the classes of what validators throw.
var errors = map[string]string{"zod": "ZodError", "valibot": "ValiError", "io-ts": "Errors", "class-validator": "ValidationError"}

// kindChecks are the checks of class-validator that are about the kind of a value alone.
var kindChecks = map[string]bool{"isString": true, "isInt": true, "isNumber": true, "isBoolean": true, "isArray": true, "isObject": true, "isDate": true, "nestedValidation": true}

// codecs are those of io-ts that are about the kind of a value alone, as their issues are told apart.
var codecs = map[string]bool{"string": true, "number": true, "boolean": true, "bigint": true, "null": true, "undefined": true, "void": true, "Array": true, "UnknownArray": true, "Record": true, "UnknownRecord": true, "object": true, "union": true, "tuple": true, "Function": true}

// fault is the error of an issue.
func (c *validating) fault(i schema.Issue) *decoder.Error {
	reason := decoder.ReasonRule
	switch {
	case i.Message == "Required" || strings.HasSuffix(i.Message, "received undefined") || strings.HasSuffix(i.Message, "Received undefined"):
		reason = decoder.ReasonMissing
	case strings.HasSuffix(i.Message, "received null") || strings.HasSuffix(i.Message, "Received null"):
		reason = decoder.ReasonNull
	case i.Code == "picklist" || i.Code == "enum" || i.Code == "literal":
		reason = decoder.ReasonConstant
	case strings.HasPrefix(i.Message, "Invalid type"):
		reason = decoder.ReasonKind
	case kindChecks[i.Code]:
		reason = decoder.ReasonKind
	case i.Code == "isEnum" || i.Code == "isIn" || i.Code == "equals":
		reason = decoder.ReasonConstant
	case c.library == "io-ts" && codecs[i.Code]:
		reason = decoder.ReasonKind
	case i.Code == "invalid_type" || i.Code == "invalid_union":
		reason = decoder.ReasonKind
	case i.Code == "invalid_value" || i.Code == "invalid_enum_value" || i.Code == "invalid_literal" || i.Code == "invalid_union_discriminator":
		reason = decoder.ReasonConstant
	case i.Code == "unrecognized_keys":
		reason = decoder.ReasonUnknown
	}
	return &decoder.Error{Kind: errors[c.library], Reason: reason, Message: errors[c.library] + ": " + i.Message}
}

// seenOf is a value as the app has it.
func seenOf(v schema.Value) decoder.Seen {
	switch v.Kind {
	case schema.Bool:
		return decoder.Bool(v.Bool)
	case schema.Number:
		return decoder.Seen{Kind: decoder.SeenFloat, Text: schema.NumberText(v.Number)}
	case schema.String:
		return decoder.Seen{Kind: decoder.SeenString, Text: v.Text}
	case schema.BigInt:
		return decoder.Seen{Kind: decoder.SeenString, Text: v.Text + "n"}
	case schema.Date:
		if math.IsNaN(v.Number) {
			return decoder.Seen{Kind: decoder.SeenDate, Text: "Invalid Date"}
		}
		return decoder.Seen{Kind: decoder.SeenDate, Seconds: v.Number / 1000}
	case schema.Other:
		return decoder.Seen{Kind: decoder.SeenUnknown}
	case schema.Array:
		out := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
		for _, e := range v.Elems {
			out.Elems = append(out.Elems, seenOf(e))
		}
		return out
	case schema.Object:
		out := decoder.Seen{Kind: decoder.SeenMap, Elems: []decoder.Seen{}}
		for i, e := range v.Elems {
			if e.Kind != schema.Undefined {
				out.Names, out.Elems = append(out.Names, v.Names[i]), append(out.Elems, seenOf(e))
			}
		}
		return out
	}
	return decoder.Seen{}
}

// node is the node of a schema.
func (c *validating) node(s *schema.Schema) *decoder.Node {
	if n := c.made[s]; n != nil {
		return n
	}
	n := &decoder.Node{}
	c.made[s] = n
	*n = *c.make(s)
	n.Type = s.In.String()
	return n
}

func (c *validating) make(s *schema.Schema) *decoder.Node {
	if s.Lost != "" {
		return unknown(s.Lost)
	}
	if len(s.Checks) > 0 && s.Kind != "string" && s.Kind != "number" {
		c.inexact = true
	}
	switch s.Kind {
	case "object":
		return c.object(s)
	case "array":
		return &decoder.Node{Op: decoder.OpList, Inner: c.node(s.Of), Wrong: c.wrong(s)}
	case "record":
		n := &decoder.Node{Op: decoder.OpMap, Inner: c.node(s.Of), Wrong: c.wrong(s), Every: true}
		n.Key = func(name string) (decoder.Seen, *decoder.Error) {
			return decoder.Seen{Kind: decoder.SeenString, Text: name}, nil
		}
		c.inexact = true
		return n
	case "optional", "nullable", "nullish", "exactOptional", "default", "prefault", "nonoptional":
		inner := c.node(s.Of)
		if s.Kind != "nullable" && s.Kind != "nullish" {
			return inner
		}
		return &decoder.Node{Op: decoder.OpNil, Inner: inner}
	case "field":
		return c.field(s)
	case "pipe", "transform", "preprocess", "intersection", "lazy", "tuple", "union":
		if n := c.told(s); n != nil {
			return n
		}
		c.inexact = true
		switch {
		case s.Kind == "transform" || s.Kind == "pipe":
			return c.node(s.Of)
		case s.Kind == "union" && !slices.ContainsFunc(s.Sub, func(s schema.Schema) bool { return isNested(&s) }):
			return c.leaf(s)
		}
		return unknown("what it is held to depends on more than its kind")
	}
	return c.leaf(s)
}

// told is the node of a union whose options are objects, each told by the text of one key; nil for another.
func (c *validating) told(s *schema.Schema) *decoder.Node {
	if s.Teller == "" || len(s.Checks) > 0 {
		return nil
	}
	n := &decoder.Node{Op: decoder.OpSubtype, Name: s.Teller, Wrong: c.wrong(s)}
	for i := range s.Sub {
		of := &s.Sub[i]
		k := slices.IndexFunc(of.Keys, func(k schema.Key) bool { return k.Name == s.Teller })
		if of.Kind != "object" || k < 0 || len(of.Keys[k].Of.All) == 0 {
			return nil
		}
		inner := c.node(of)
		for _, one := range of.Keys[k].Of.All {
			if one.Kind != schema.String || slices.ContainsFunc(n.Branches, func(b decoder.Branch) bool { return b.Key == one.Text }) {
				return nil
			}
			n.Branches = append(n.Branches, decoder.Branch{Key: one.Text, Node: inner})
		}
	}
	refused := func(of schema.Value, reason decoder.Reason) *decoder.Error {
		r := &schema.Run{Major: c.major}
		if s.Do(r, of, nil); len(r.Issues) == 0 {
			return nil
		}
		err := c.fault(r.Issues[0])
		err.Reason = reason
		return err
	}
	if n.Missing = refused(schema.Value{Kind: schema.Object}, decoder.ReasonMissing); n.Missing != nil {
		n.Missing.Advice = "add an option without it, by a union that is not told apart by " + s.Teller
	}
	n.Key = func(id string) (decoder.Seen, *decoder.Error) {
		sent := schema.Value{Kind: schema.Object}
		sent.Set(s.Teller, schema.Value{Kind: schema.String, Text: id})
		err := refused(sent, decoder.ReasonClass)
		if err != nil {
			err.Advice = "add an option for " + wire.Quote(id) + " to the union"
		}
		return decoder.Seen{}, err
	}
	return n
}

// field is the node of a field of a class: of an instance that is checked too, of a list of them, or of a value. What is
// in lists and objects else is not told by their kind.
func (c *validating) field(s *schema.Schema) *decoder.Node {
	if s.Of == nil {
		n := c.leaf(s)
		n.Inside = true
		return n
	}
	inner := c.node(s.Of)
	n := *inner
	if s.Mode == "list" {
		n = decoder.Node{Op: decoder.OpList, Inner: inner}
	}
	n.Wrong = c.wrong(s)
	out := &decoder.Node{Op: decoder.OpNil, Inner: &n}
	r := &schema.Run{Major: c.major}
	if s.Do(r, schema.Value{Kind: schema.Null}, nil); len(r.Issues) > 0 {
		out.NullError = c.fault(r.Issues[0])
		out.NullError.Reason = decoder.ReasonNull
	}
	return out
}

// isNested says whether a schema holds others.
func isNested(s *schema.Schema) bool {
	switch s.Kind {
	case "object", "array", "record", "tuple", "union", "intersection", "lazy", "transform", "pipe", "preprocess", "catch":
		return true
	}
	return s.Of != nil && isNested(s.Of)
}

// wrong is the error for a value of another kind.
func (c *validating) wrong(s *schema.Schema) func(wire.Kind) *decoder.Error {
	return func(k wire.Kind) *decoder.Error {
		r := &schema.Run{Major: c.major}
		s.Do(r, schema.Value{Kind: map[wire.Kind]schema.Kind{wire.Null: schema.Null, wire.Bool: schema.Bool, wire.Number: schema.Number, wire.String: schema.String, wire.Array: schema.Array, wire.Object: schema.Object}[k]}, nil)
		if len(r.Issues) == 0 {
			return &decoder.Error{Kind: errors[c.library], Reason: decoder.ReasonKind, Message: errors[c.library] + ": Invalid input"}
		}
		err := c.fault(r.Issues[0])
		if k != wire.Null {
			err.Reason = decoder.ReasonKind
		}
		return err
	}
}

// mayNest are kinds of schemas that lists and objects may be let through by, so that one of them does not tell of others.
var mayNest = map[string]bool{"catch": true, "fallback": true, "custom": true, "own": true, "lazy": true, "preprocess": true}

// leaf is the node of a schema that is asked value by value.
func (c *validating) leaf(s *schema.Schema) *decoder.Node {
	texts := len(s.Checks) > 0 || s.Of != nil || s.Kind != "string" && s.Kind != "number" && s.Kind != "boolean"
	return &decoder.Node{Op: decoder.OpLeaf, MindsText: texts, Inside: mayNest[s.Kind], Read: func(v *wire.Value) decoder.Verdict {
		r := &schema.Run{Major: c.major}
		got := s.Do(r, schema.Of(v), nil)
		switch {
		case r.Unknown:
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
		case len(r.Issues) > 0:
			err := c.fault(r.Issues[0])
			if v.Kind == wire.Null {
				err.Reason = decoder.ReasonNull
			}
			return decoder.Verdict{Err: err}
		}
		out := decoder.Verdict{Seen: seenOf(got)}
		if s.Kind == "catch" {
			inner := &schema.Run{Major: c.major}
			if s.Of.Do(inner, schema.Of(v), nil); len(inner.Issues) > 0 {
				out.Loss = decoder.Defaulted
			}
		}
		return out
	}}
}

// object is the node of an object schema.
func (c *validating) object(s *schema.Schema) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpKeyed, Wrong: c.wrong(s)}
	build := &decoder.Node{Op: decoder.OpBuild, Model: c.modelFor(s)}
	n.Inner = build
	for _, k := range s.Keys {
		f := k.Field
		if f == nil {
			f = &model.Field{Name: k.Name, Keys: []string{k.Name}, Reading: model.ByLibrary}
		}
		if f.Type == nil {
			f.Type = &model.Type{Kind: model.Named, Name: k.Of.In.String()}
		}
		if f.Declared == "" {
			f.Declared = k.Of.In.String()
		}
		at := &decoder.Node{Op: decoder.OpAt, Name: k.Name, Field: f, Type: f.Declared, Last: true, Inner: c.node(k.Of)}
		r := &schema.Run{Major: c.major}
		if k.Of.Do(r, schema.Value{}, nil); len(r.Issues) > 0 {
			at.Missing = c.fault(r.Issues[0])
			at.Missing.Reason = decoder.ReasonMissing
		} else if !k.Of.Optional && c.major == 0 {
			at.Missing = c.fault(schema.Issue{Code: "invalid_type", Message: "Invalid input: expected nonoptional, received undefined"})
		}
		build.Props = append(build.Props, f)
		build.Steps = append(build.Steps, decoder.Step{Property: len(build.Props) - 1, Node: at})
	}
	if s.Mode == "strict" {
		build.Unknown = func(name string) *decoder.Error {
			return c.fault(schema.Issue{Code: "unrecognized_keys", Message: unrecognized(c.major, name)})
		}
	}
	if s.Mode == "class" {
		c.inexact = true
	}
	if s.Rest != nil && s.Rest.Kind != "unknown" {
		build.Rest, build.RestInto = c.node(s.Rest), -1
		build.Ignored = func(string) bool { return false }
	}
	return n
}

// modelFor is the model of an object schema: the type's own at the root, that of its type elsewhere.
func (c *validating) modelFor(s *schema.Schema) *model.Model {
	if s.Mode == "class" {
		return modelOf(s.Out)
	}
	if m := modelOf(s.Out); m.Language != "" && m.Pos.Line > 0 {
		return m
	}
	if c.names++; c.names == 1 {
		return c.model
	}
	m := modelOf(s.Out)
	if m.Pos.Line == 0 && len(s.Keys) > 0 && s.Keys[0].Field != nil {
		m.Pos = s.Keys[0].Field.Pos
	}
	if c.model != nil && m.Name == "an object" {
		m.Name = c.model.Name + "." + strings.Repeat("·", c.names-1)
	}
	return m
}

// unrecognized is what zod says of a key that a strict object does not have.
func unrecognized(major int, name string) string {
	if major == 3 {
		return "Unrecognized key(s) in object: '" + name + "'"
	}
	return `Unrecognized key: "` + name + `"`
}
