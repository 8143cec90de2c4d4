package datacontract

import (
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/markup"
	"vetta/internal/model"
	"vetta/internal/wire"
)

func wrongly(kind wire.Kind) *decoder.Error {
	return serialization(decoder.ReasonKind, "Expecting state 'Element'.. Encountered '%s'  with name '', namespace ''.", kind)
}

// rootNode is the plan by which counts of XML documents are judged; what hangs on the order of elements only Run tells.
func (c *compiler) rootNode(t *model.Type, top markup.Name) *decoder.Node {
	at := &decoder.Node{Op: decoder.OpAt, Name: markup.ElementKey(top), Inner: c.xmlNode(t), Type: t.Written()}
	at.Missing = serialization(decoder.ReasonMissing, "Expecting element '%s' from namespace '%s'.", top.Local, top.Space)
	at.Missing.Key, at.Missing.Where = at.Name, decoder.AtRoot
	at.Missing.Advice = "name the root that is sent: [DataContract(Name = \"…\", Namespace = \"…\")] on the class"
	return &decoder.Node{Op: decoder.OpKeyed, Type: t.Written(), Inner: at, Wrong: wrongly}
}

// xmlNode is what is done with elements that are read as a type.
func (c *compiler) xmlNode(t *model.Type) *decoder.Node {
	u := t.Unwrapped()
	nilly := func(inner *decoder.Node) *decoder.Node {
		out := &decoder.Node{Op: decoder.OpNil, Inner: inner, Type: t.Written()}
		if clr.IsValue(u) && t.Kind != model.Optional {
			out.NullError = serialization(decoder.ReasonNull, "ValueType '%s' cannot be null.", clr.Name(u))
		}
		return out
	}
	switch {
	case isList(u):
		item := c.contractName(u.Args[0])
		if u.Args[0].Unwrapped().Model == nil {
			item.Space = arraySpace
		}
		return nilly(c.xmlList(u, item))
	case u.Kind == model.Map, u.Name == "object" && u.Model == nil:
		return &decoder.Node{Op: decoder.OpUnknown, Why: "how " + u.Written() + " is read counts do not tell"}
	case collection(u) != nil:
		return &decoder.Node{Op: decoder.OpUnknown, Why: "a collection of the app's own"}
	case u.Model != nil && u.Model.Kind != model.Enum:
		return nilly(c.xmlClass(u))
	}
	leaf := &decoder.Node{Op: decoder.OpLeaf, Type: t.Written(), MindsText: u.Name != "string", ByFacts: clr.IsNumber(u), ByDate: u.Model == nil}
	if u.Model != nil {
		leaf.Model = u.Model
	}
	r := &reading{c: c, of: clr.Name(u)}
	leaf.Read = func(v *wire.Value) decoder.Verdict {
		if v.Kind != wire.String {
			return decoder.Verdict{Err: wrongly(v.Kind)}
		}
		given, _ := v.Text()
		e := &markup.Element{Nodes: []markup.Node{{Kind: markup.TextNode, Text: given}}}
		var s decoder.Seen
		var err *decoder.Error
		if u.Model != nil {
			s, err = r.enum(u.Model, e)
		} else {
			s, err = r.scalar(u, e)
		}
		return decoder.Verdict{Seen: s, Err: err}
	}
	at := &decoder.Node{Op: decoder.OpAt, Name: markup.TextKey, Inner: leaf, Type: t.Written(), Missing: serialization(decoder.ReasonKind, "End element expected. Found another element.")}
	return nilly(&decoder.Node{Op: decoder.OpKeyed, Inner: at, Wrong: wrongly, Type: t.Written()})
}

func (c *compiler) xmlList(t *model.Type, item markup.Name) *decoder.Node {
	at := &decoder.Node{Op: decoder.OpAt, Holder: true, Name: markup.ElementKey(item), Value: decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}, Type: t.Written(),
		Inner: &decoder.Node{Op: decoder.OpList, Unique: t.Kind == model.Unique, Inner: c.xmlNode(t.Args[0]), Wrong: wrongly}}
	return &decoder.Node{Op: decoder.OpKeyed, Inner: at, Wrong: wrongly, Type: t.Written()}
}

func (c *compiler) xmlClass(t *model.Type) *decoder.Node {
	if n := c.nodes[t.Key()]; n != nil {
		return n
	}
	n := &decoder.Node{}
	c.nodes[t.Key()] = n
	k := c.class(t)
	own := c.ownNode(t, k)
	if len(k.known) == 0 && !t.Model.Abstract {
		*n = *own
		return n
	}
	*n = decoder.Node{Op: decoder.OpSubtype, Name: markup.TypeKey, Model: t.Model, Wrong: wrongly, Type: t.Written()}
	if t.Model.Abstract {
		n.Missing = serialization(decoder.ReasonMissing, "Cannot create an abstract class: %s.", clr.Name(t))
		n.Missing.Key, n.Missing.Advice = markup.TypeKey, "send i:type, or let the class not be abstract"
	} else {
		n.Second = own
		n.Branches = append(n.Branches, decoder.Branch{Key: markup.TypeText(k.name), Node: own})
	}
	for _, of := range k.known {
		if of.Unwrapped().Model == nil || of.Unwrapped().Model.Abstract {
			continue
		}
		inner := c.xmlClass(of.Unwrapped())
		if inner.Op == decoder.OpSubtype && inner.Second != nil {
			inner = inner.Second
		}
		n.Branches = append(n.Branches, decoder.Branch{Key: markup.TypeText(c.contractName(of)), Node: inner})
	}
	n.Key = func(id string) (decoder.Seen, *decoder.Error) {
		name := markup.NameOf(id)
		err := serialization(decoder.ReasonClass, "Element contains data of the '%s:%s' data contract. The deserializer has no knowledge of any type that maps to this contract.", name.Space, name.Local)
		err.Advice = "write the class, and put [KnownType(typeof(…))] for it on " + t.Model.Name
		return decoder.Seen{}, err
	}
	return n
}

// ownNode is what is done with the elements that are of a class itself.
func (c *compiler) ownNode(t *model.Type, k *class) *decoder.Node {
	build, index := c.build(k)
	taken := map[int]bool{}
	for _, m := range k.members {
		key := markup.ElementKey(markup.Name{Space: m.space, Local: m.name})
		at := &decoder.Node{Op: decoder.OpAt, Name: key, Field: m.field, Type: m.field.Declared, Value: c.initial(k, m),
			Inner: &decoder.Node{Op: decoder.OpList, First: true, Inner: c.xmlNode(m.typ), Wrong: wrongly, Type: m.field.Declared}}
		if m.required {
			at.Missing = serialization(decoder.ReasonMissing, "'EndElement' is not expected. Expecting element '%s'.", m.name)
			at.Missing.Key = key
		}
		c.step(build, index, taken, k, m, at)
	}
	for i, m := range k.members {
		lost := decoder.Verdict{Seen: c.initial(k, m), Loss: decoder.Misplaced}
		build.Steps = append(build.Steps, decoder.Step{Property: -1, Node: &decoder.Node{Op: decoder.OpAt, Name: markup.OrderKey, Field: m.field, Type: m.field.Declared, Value: lost.Seen,
			Inner: &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Type: m.field.Declared, Read: func(v *wire.Value) decoder.Verdict {
				if v.Kind == wire.String {
					if order, _ := v.Text(); k.isLost(i, strings.Fields(order)) {
						return lost
					}
				}
				return decoder.Verdict{}
			}}}})
	}
	c.rest(build, taken, c.blankOf(k))
	return &decoder.Node{Op: decoder.OpKeyed, Model: t.Model, Wrong: wrongly, Inner: build, Type: t.Written()}
}

// build is the node for an instance, without its steps.
func (c *compiler) build(k *class) (*decoder.Node, map[string]int) {
	build := &decoder.Node{Op: decoder.OpBuild, Model: k.t.Model}
	index := map[string]int{}
	for _, s := range clr.Chain(k.t) {
		for _, f := range s.Model.Fields {
			if _, known := index[f.Name]; !known && clr.Stored(f) {
				index[f.Name] = len(build.Props)
				build.Props = append(build.Props, f)
			}
		}
	}
	return build, index
}

func (c *compiler) initial(k *class, m *member) decoder.Seen {
	if s, ok := c.blankOf(k).Get(clr.Backing(k.t, m.field.Name)); ok {
		return s
	}
	return decoder.Seen{Kind: decoder.SeenUnknown}
}

// step adds the reading of a member, with what is lost where it is absent.
func (c *compiler) step(build *decoder.Node, index map[string]int, taken map[int]bool, k *class, m *member, at *decoder.Node) {
	step := decoder.Step{Property: -1, Node: at}
	if i, ok := index[clr.Backing(k.t, m.field.Name)]; ok {
		step.Property = i
		taken[i] = true
	}
	switch {
	case at.Missing != nil, m.typ.Kind == model.Optional, at.Value.Kind == decoder.SeenUnknown, !k.opted && m.field.Default != nil && m.field.Default.Kind != model.NullLiteral:
	case clr.IsValue(m.typ):
		at.AbsentLoss = decoder.Zeroed
	case at.Value.Kind == decoder.SeenNull && !m.field.Oblivious && m.field.Type.Kind != model.Param:
		at.AbsentLoss = decoder.HiddenNull
	}
	build.Steps = append(build.Steps, step)
}

// rest are the properties that nothing is read for.
func (c *compiler) rest(build *decoder.Node, taken map[int]bool, blank decoder.Seen) {
	for i, f := range build.Props {
		if taken[i] {
			continue
		}
		v, ok := blank.Get(f.Name)
		if !ok {
			v = decoder.Seen{Kind: decoder.SeenUnknown}
		}
		why := ""
		if strings.HasPrefix(f.Name, "<") {
			why = "the compiler made it"
		}
		build.Steps = append(build.Steps, decoder.Step{Property: i, Node: &decoder.Node{Op: decoder.OpConst, Field: f, Value: v, Why: why, Meant: true}})
	}
}

// isLost says whether an element of a member stands in a document, and not where the reader takes it: behind those that
// come after it in the order of the contract.
func (k *class) isLost(member int, order []string) bool {
	next, there := 0, false
	for _, name := range order {
		for i := range k.members {
			m := k.members[i]
			if (markup.Name{Space: m.space, Local: m.name}).Show() != name {
				continue
			}
			if i == member {
				if i >= next {
					return false
				}
				there = true
			}
			next = max(next, i+1)
		}
	}
	return there
}
