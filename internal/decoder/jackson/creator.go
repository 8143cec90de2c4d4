package jackson

import (
	"slices"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// singleScalar says whether a creator takes a scalar alone, beside which objects may be
// read by their members.
func singleScalar(k *model.Method) bool {
	if len(k.Params) != 1 {
		return false
	}
	switch t := k.Params[0].Type; t.Name {
	case "String", "CharSequence":
		return t.Model == nil
	default:
		switch jvm.Scalar(t) {
		case "int", "long", "double", "boolean":
			return true
		}
		return false
	}
}

// delegating is the node for a class that a creator makes of the value as a whole.
func (c *compiler) delegating(t *model.Type, k *model.Method) *decoder.Node {
	m := t.Model
	if len(k.Params) != 1 {
		return unknown(m.Name + " is made by a creator that takes several values as a whole")
	}
	if u := k.Params[0].Type.Unwrapped(); (u.Kind == model.List || u.Kind == model.Unique) && u.Name == "" {
		return unknown(m.Name + " is made of a list by its creator, which is not followed")
	}
	inner := c.value(k.Params[0].Type.Bind(t.Env()), format{})
	if inner.Op == decoder.OpUnknown {
		return inner
	}
	if inner.Op == decoder.OpLeaf && k.Params[0].Type.Unwrapped().Model == nil {
		u := k.Params[0].Type.Unwrapped()
		if jvm.Scalar(u) == "" && !numbers[u.Name] {
			return unknown(m.Name + " is made of a text by its creator, which is not followed")
		}
		inner = withinObject(inner)
	}
	n := &decoder.Node{Op: decoder.OpBuild, Model: m, Endless: jvm.Endless(m)}
	fields, _ := allFields(t)
	fills := ""
	if len(k.Fills) == 1 {
		fills = k.Fills[0]
	}
	taken := false
	for i, f := range fields {
		n.Props = append(n.Props, f)
		node := &decoder.Node{Op: decoder.OpUnknown, Why: "its creator sets it", Field: f}
		if f.Name == fills {
			node, taken = &decoder.Node{Op: decoder.OpDo, Inner: inner, Field: f, Type: f.Declared}, true
		}
		n.Steps = append(n.Steps, decoder.Step{Property: i, Node: node})
	}
	if !taken {
		n.Steps = append([]decoder.Step{{Property: -1, Node: &decoder.Node{Op: decoder.OpDo, Inner: inner}}}, n.Steps...)
	}
	return n
}

// besideScalars is a node for a class that is made of the value as a whole, where constructors take
// scalars: BeanDeserializerBase of 2.14 asks those first, by the kind of the scalar that is sent.
func (c *compiler) besideScalars(m *model.Model, whole *decoder.Node) *decoder.Node {
	takes := takesOne(m)
	if !takes.scalar() && !takes.text {
		return whole
	}
	alone := &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
		took := false
		switch {
		case v.Kind == wire.String:
			took = takes.text
		case v.Kind == wire.Bool:
			took = takes.boolean
		case v.Kind == wire.Number && isFloat(v):
			took = takes.double
		case v.Kind == wire.Number:
			took = takes.int
		}
		return decoder.Verdict{Seen: decoder.Bool(took)}
	}}
	refused := func(v *wire.Value) *decoder.Error {
		return noArgument("MismatchedInputException", jvm.ClassName(m), true, v)
	}
	return &decoder.Node{Op: decoder.OpIf, Inner: alone, Second: c.fromScalar(m, takes, refused), Third: whole}
}

// numbers are the platform's classes that are read from numbers, or from anything.
var numbers = map[string]bool{"BigDecimal": true, "BigInteger": true, "Number": true, "Date": true, "Object": true, "AtomicInteger": true, "AtomicLong": true, "AtomicBoolean": true}

// leavesNames says whether a constructor or a factory of a class may be a creator whose parameters
// have no names by annotation.
func leavesNames(m *model.Model) bool {
	unnamed := func(params []*model.Parameter) bool {
		return slices.ContainsFunc(params, func(p *model.Parameter) bool { return p.Marks.Find("JsonProperty") == nil })
	}
	return m.Kind != "record" && (slices.ContainsFunc(m.Ctors, func(k *model.Method) bool { return unnamed(k.Params) }) ||
		slices.ContainsFunc(m.Methods, func(f *model.Method) bool { return f.Marks.Find("JsonCreator") != nil && unnamed(f.Params) }))
}
