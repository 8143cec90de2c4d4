// Package typescript is what an app in TypeScript sees of a response that it takes for a type: whatever was sent, since
// nothing looks at it. Where a value does not belong to the type, the app breaks far from there. The rules are those of
// the compiler for a literal of that value (TypeScript 5.9, strict), measured (testdata/truth/typescript).
package typescript

import (
	"slices"
	"sync"

	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/types"
	"vetta/internal/wire"
)

// Name is what settings call it.
const Name = "typescript"

// working guards types, which are worked out as they are asked for.
var working sync.Mutex

// Plan says what an app sees of a document that it takes for a type.
func Plan(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	return Planner(settings)(t, declared)
}

// Planner is Plan for many types with the same settings: what several of them hold is planned once.
func Planner(settings *model.Settings) func(t *model.Type, declared string) *decoder.Plan {
	c := &compiler{nodes: map[string]*decoder.Node{}, loose: settings.Option("strictNullChecks") == "false"}
	return func(t *model.Type, declared string) *decoder.Plan {
		working.Lock()
		defer working.Unlock()
		of := types.Of(t)
		loose := c.loose || isLoose(t)
		p := &decoder.Plan{Type: t, Declared: declared, Settings: settings, Trusts: true}
		if loose != c.loose {
			c = &compiler{nodes: map[string]*decoder.Node{}, loose: loose}
		}
		p.Root = c.value(of)
		p.Run = func(doc *wire.Value) decoder.Outcome {
			working.Lock()
			defer working.Unlock()
			f := &fitting{loose: loose}
			out := decoder.Outcome{Differs: f.fit(of, doc, nil), Unknown: f.unknown, Seen: seen(doc)}
			if len(f.unknown) > 0 && len(f.unknown[0]) == 0 {
				out.Seen = decoder.Seen{Kind: decoder.SeenUnknown}
			}
			return out
		}
		return p
	}
}

// isLoose says whether the files that declare a type are compiled without strictNullChecks.
func isLoose(t *model.Type) (loose bool) {
	t.Walk(func(t *model.Type) {
		if t.Model != nil {
			if d, ok := t.Model.Source.(*types.Decl); ok && d.Loose {
				loose = true
			}
		}
	})
	return loose
}

// seen is a document as the app has it.
func seen(v *wire.Value) decoder.Seen {
	switch v.Kind {
	case wire.Bool:
		return decoder.Bool(v.True())
	case wire.Number:
		return decoder.Seen{Kind: decoder.SeenFloat, Text: string(v.Raw)}
	case wire.String:
		text, _ := v.Text()
		return decoder.Seen{Kind: decoder.SeenString, Text: text}
	case wire.Array:
		out := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
		for _, e := range v.Elems {
			out.Elems = append(out.Elems, seen(e))
		}
		return out
	case wire.Object:
		out := decoder.Seen{Kind: decoder.SeenMap}
		for i := range v.Members {
			if m := &v.Members[i]; member(v, m.Name) == m.Value {
				out.Names, out.Elems = append(out.Names, m.Name), append(out.Elems, seen(m.Value))
			}
		}
		return out
	}
	return decoder.Seen{}
}

// compiler makes nodes of types, one for each.
type compiler struct {
	nodes map[string]*decoder.Node
	loose bool
}

func fault(reason decoder.Reason, message string) *decoder.Error {
	return &decoder.Error{Kind: message[:6], Reason: reason, Message: message}
}

// value is the node for a value of a type, null among them.
func (c *compiler) value(t *types.Type) *decoder.Node {
	if t.Kind == types.Any || t.Kind == types.Unknown {
		return anything(t)
	}
	key := t.Key()
	if n := c.nodes[key]; n != nil {
		return n
	}
	n := &decoder.Node{Op: decoder.OpNil, Type: t.String()}
	c.nodes[key] = n
	nullable := c.loose || t.Takes(types.Null) || t.Takes(types.Any)
	rest := t.Without(func(t *types.Type) bool { return t.Kind == types.Null || t.Kind == types.Undefined })
	n.Inner = c.solid(rest)
	if n.Inner.Op == decoder.OpUnknown {
		*n = *n.Inner
		return n
	}
	if !nullable {
		n.NullError = fault(decoder.ReasonNull, notOf(&wire.Value{Kind: wire.Null}, t))
	}
	return n
}

func anything(t *types.Type) *decoder.Node {
	return &decoder.Node{Op: decoder.OpLeaf, Type: t.String(), Read: func(v *wire.Value) decoder.Verdict { return decoder.Verdict{Seen: seen(v)} }}
}

func unknown(why string) *decoder.Node {
	return &decoder.Node{Op: decoder.OpUnknown, Why: why, Opaque: true}
}

// kindNames are the kinds of values as types are called.
var kindNames = map[wire.Kind]string{wire.Null: "null", wire.Bool: "boolean", wire.Number: "number", wire.String: "string", wire.Array: "unknown[]", wire.Object: "{ … }"}

// wrong is the error for a value of another kind.
func wrong(t *types.Type) func(wire.Kind) *decoder.Error {
	return func(k wire.Kind) *decoder.Error {
		return fault(decoder.ReasonKind, "TS2322: Type '"+kindNames[k]+"' is not assignable to type '"+t.String()+"'.")
	}
}

// leaf is the node for scalars.
func (c *compiler) leaf(t *types.Type) *decoder.Node {
	texts := slices.ContainsFunc(t.Each(false), func(t *types.Type) bool {
		switch t.Kind {
		case types.StringLiteral, types.NumberLiteral, types.Template, types.Cased:
			return true
		}
		return false
	})
	return &decoder.Node{Op: decoder.OpLeaf, Type: t.String(), MindsText: texts, Read: func(v *wire.Value) decoder.Verdict {
		f := &fitting{loose: c.loose}
		for _, d := range f.fit(t, v, nil) {
			reason := decoder.ReasonKind
			switch d.Reason {
			case "brand":
				continue // of which there is no value at all
			case "literal":
				reason = decoder.ReasonConstant
			case "null":
				reason = decoder.ReasonNull
			}
			return decoder.Verdict{Err: fault(reason, d.Message)}
		}
		return decoder.Verdict{Seen: seen(v)}
	}}
}

func isScalar(t *types.Type) bool {
	switch t.Kind {
	case types.Object, types.Array, types.Tuple, types.NonPrimitive, types.Union, types.Any, types.Unknown:
		return false
	}
	return true
}

// solid is the node for a value that is not null.
func (c *compiler) solid(t *types.Type) *decoder.Node {
	switch t.Kind {
	case types.Any, types.Unknown:
		return anything(t)
	case types.Unresolved:
		return unknown(t.Text)
	case types.Parameter:
		return unknown("what " + t.Text + " stands for is not told")
	case types.Never:
		if c.loose {
			return anything(t)
		}
		return c.leaf(t)
	case types.NonPrimitive:
		return anything(t)
	case types.Array:
		return &decoder.Node{Op: decoder.OpList, Type: t.String(), Inner: c.value(t.Elems[0]), Wrong: wrong(t)}
	case types.Tuple:
		elems := types.UnionOf(t.Elems...)
		if len(t.Elems) == 0 {
			elems = types.UnknownType
		}
		return &decoder.Node{Op: decoder.OpList, Type: t.String(), Inner: c.value(elems), Wrong: wrong(t)}
	case types.Object:
		return c.object(t)
	case types.Union:
		return c.union(t)
	}
	return c.leaf(t)
}

// object is the node for an object type.
func (c *compiler) object(t *types.Type) *decoder.Node {
	o := t.Members()
	switch {
	case o.Lost != "":
		return unknown(o.Lost)
	case isEmpty(o):
		return anything(t)
	case len(o.Props) == 0 && len(o.Index) > 0 && !o.Called:
		return c.dictionary(t, o)
	}
	n := &decoder.Node{Op: decoder.OpKeyed, Type: t.String(), Wrong: wrong(t)}
	build := &decoder.Node{Op: decoder.OpBuild, Model: modelOf(t), Type: t.String()}
	n.Inner = build
	for _, p := range o.Props {
		f := p.Field
		if f == nil {
			f = &model.Field{Name: p.Name, Keys: []string{p.Name}, Declared: p.Type().String(), Type: &model.Type{Kind: model.Named, Name: p.Type().String()}, Reading: model.ByLibrary}
			p.Field = f
		}
		build.Props = append(build.Props, f)
		build.Steps = append(build.Steps, decoder.Step{Property: len(build.Props) - 1, Node: c.member(p, t, f)})
	}
	if len(o.Index) > 0 {
		ix := o.Index[0]
		build.Rest, build.RestInto = c.value(ix.Value), -1
		build.Ignored = func(name string) bool { return !ix.Admits(name) }
	}
	return n
}

// member is the node for a member of an object.
func (c *compiler) member(p *types.Prop, of *types.Type, f *model.Field) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpAt, Name: p.Name, Field: f, Type: f.Declared, Last: true}
	t := p.Type()
	if p.Optional && t.Kind == types.Never { // it must not be there
		n.Inner = c.leaf(t)
		return n
	}
	n.Inner = c.value(t)
	if !p.Optional {
		d := missing(p, of, nil)
		n.Missing = fault(decoder.ReasonMissing, d.Message)
		switch d.Reason {
		case "method", "accessor", "private":
			n.Missing.Advice = "no document holds methods and accessors: take the response for an interface of its data, and make an instance of the class from that"
		}
	}
	return n
}

// modelOf is the model of an object type; one without a name is called as it is written.
func modelOf(t *types.Type) *model.Model {
	if t.Decl != nil {
		if t.Decl.Model == nil && t.Decl.Make != nil {
			return t.Decl.Make()
		}
		return t.Decl.Model
	}
	if t.Inline == nil {
		t.Inline = &model.Model{Name: t.String(), Language: Name, Kind: model.Alias, Reading: model.ByLibrary, Decodable: true}
	}
	return t.Inline
}

// dictionary is the node for an object whose keys are not known.
func (c *compiler) dictionary(t *types.Type, o *types.Members) *decoder.Node {
	ix := o.Index[0]
	n := &decoder.Node{Op: decoder.OpMap, Type: t.String(), Inner: c.value(ix.Value), Wrong: wrong(t), Every: true}
	n.Key = func(name string) (decoder.Seen, *decoder.Error) {
		return decoder.Seen{Kind: decoder.SeenString, Text: name}, nil
	}
	n.Ignored = func(name string) bool { return !ix.Admits(name) }
	if ix.Key.Kind == types.String {
		n.Ignored = nil
	}
	return n
}

// union is the node for a union: by the kind of what is sent, and by the keys that tell objects apart.
func (c *compiler) union(t *types.Type) *decoder.Node {
	var scalars, objects, lists []*types.Type
	for _, m := range t.Elems {
		switch {
		case m.Kind == types.Any || m.Kind == types.Unknown:
			return anything(t)
		case m.Kind == types.Unresolved || m.Kind == types.Parameter:
			return unknown(m.Text)
		case m.Kind == types.Object && isEmpty(m.Members()) || m.Kind == types.NonPrimitive:
			return anything(t)
		case m.Kind == types.Object:
			objects = append(objects, m)
		case !isScalar(m):
			lists = append(lists, m)
		default:
			scalars = append(scalars, m)
		}
	}
	switch {
	case len(objects)+len(lists) == 0:
		return c.leaf(t)
	case len(objects) > 0 && len(lists) > 0:
		return unknown("a list or an object: which it is depends on the value")
	}
	var n *decoder.Node
	switch {
	case len(lists) == 1:
		n = c.solid(lists[0])
	case len(lists) > 1:
		return unknown("it may be one of several lists")
	case len(objects) == 1:
		n = c.solid(objects[0])
	default:
		n = c.objects(objects, len(scalars) > 0)
	}
	if len(scalars) == 0 || n.Op == decoder.OpUnknown {
		return n
	}
	own := *n
	own.Wrong = wrong(t)
	own.Second, own.Scalars = c.leaf(types.UnionOf(scalars...)), true
	return &own
}

// objects is the node for one of several object types: by a key whose value tells which, else of what all have.
func (c *compiler) objects(all []*types.Type, mixed bool) *decoder.Node {
	whole := types.UnionOf(all...)
	for _, name := range tellers(all) {
		n := &decoder.Node{Op: decoder.OpSubtype, Name: name, Type: whole.String(), Wrong: wrong(whole)}
		plain := !mixed
		for _, m := range all {
			p := m.Members().Prop(name)
			if p == nil || !single(p.Type()) || p.Optional {
				plain = false
				break
			}
			inner := c.solid(m)
			for _, k := range p.Type().Each(true) {
				if k.Kind != types.StringLiteral || slices.ContainsFunc(n.Branches, func(b decoder.Branch) bool { return b.Key == k.Text }) {
					plain = false
				}
				n.Branches = append(n.Branches, decoder.Branch{Key: k.Text, Node: inner})
			}
		}
		if !plain {
			continue
		}
		n.Missing = fault(decoder.ReasonMissing, "TS2322: Property '"+name+"' is missing, which tells '"+whole.String()+"' apart.")
		n.Key = func(id string) (decoder.Seen, *decoder.Error) {
			return decoder.Seen{}, fault(decoder.ReasonClass, "TS2322: Type '\""+id+"\"' is not assignable to type '"+whole.String()+"'.")
		}
		return n
	}
	return unknown("which of " + whole.String() + " an object is depends on its keys")
}

// Text is a type as the language writes it.
func Text(t *model.Type) string { return types.Written(t) }
