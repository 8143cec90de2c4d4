package moshi

import (
	"slices"

	"vetta/internal/decoder"
	"vetta/internal/decoder/eval"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// kotlin is the node for a class of Kotlin's: what its primary constructor takes, and the properties of its body,
// and of classes that it extends, that can be assigned to.
func (c *compiler) kotlin(t *model.Type, generated bool) *decoder.Node {
	m := t.Model
	defer func(outer *model.Model) { c.within = outer }(c.within)
	c.within = m
	build := &decoder.Node{Op: decoder.OpBuild, Model: m, ByDocument: true, Unknown: c.unknownKey()}
	build.Check = eval.Checks(m)
	params := primary(m)
	if params == nil && len(m.Ctors) > 0 && !jvm.NoArguments(m) {
		return unknown(m.Name + " has no primary constructor that is followed")
	}
	taken := map[string]bool{} // an override comes before what it overrides
	for _, s := range slices.Backward(jvm.Chain(t)) {
		for _, f := range s.Model.Fields {
			if f.Static || overridden(t, s, f) {
				continue
			}
			var param *model.Parameter
			if s.Model == m {
				param = params[f.Name]
			}
			node := c.property(f, s, param, generated)
			if node == nil || taken[f.Name] {
				continue
			}
			taken[f.Name] = true
			build.Steps = append(build.Steps, decoder.Step{Property: len(build.Props), Node: node})
			build.Props = append(build.Props, f)
		}
	}
	for name, p := range params {
		if !p.Default && !slices.ContainsFunc(m.Fields, func(f *model.Field) bool { return f.Name == name && !f.Static }) {
			return c.refuse(m, "make it a property, or give it a default", "No property for required constructor parameter %s of %s", name, jvm.ClassName(m))
		}
	}
	n := &decoder.Node{Op: decoder.OpKeyed, Model: m, Wrong: wrongStart("BEGIN_OBJECT"), Inner: build}
	if m.Inline != nil && len(build.Props) == 1 { // a value class is its one property where it is held, and an object on the wire
		return &decoder.Node{Op: decoder.OpPick, Name: build.Props[0].Name, Inner: n}
	}
	return n
}

// primary are the parameters of a class's primary constructor by name, nil where it has none.
func primary(m *model.Model) map[string]*model.Parameter {
	for _, k := range m.Ctors {
		if k.Defaults {
			continue
		}
		params := map[string]*model.Parameter{}
		for _, p := range k.Params {
			params[p.Name] = p
		}
		return params
	}
	return nil
}

// overridden says whether a class between t and one that it extends declares a property of the same name.
func overridden(t, owner *model.Type, f *model.Field) bool {
	for _, s := range jvm.Chain(t) {
		if s.Model == owner.Model {
			return false
		}
		if slices.ContainsFunc(s.Model.Fields, func(other *model.Field) bool { return other.Name == f.Name }) {
			return true
		}
	}
	return false
}

// property is the node that reads one property, nil for one that is none to Moshi.
func (c *compiler) property(f *model.Field, owner *model.Type, param *model.Parameter, generated bool) *decoder.Node {
	t := f.Type.Bind(owner.Env())
	key, ignored := jsonName(f)
	if key == "" {
		key = f.Name
	}
	kept := f.Default != nil || param != nil && param.Default
	initial := decoder.Seen{}
	switch {
	case param == nil && f.Lateinit:
	case f.Default == nil && (kept || param == nil), t.Kind == model.Opaque:
		initial = decoder.Seen{Kind: decoder.SeenUnknown}
	case kept:
		initial = jvm.Constant(f.Default, t)
	}
	switch {
	case f.Transient || ignored:
		why := "it is @Transient"
		if ignored {
			why = "@Json(ignore = true)"
		}
		if param != nil && !kept {
			return c.refuse(owner.Model, "give it a default", "No default value for ignored constructor parameter %s", f.Name)
		}
		return &decoder.Node{Op: decoder.OpConst, Field: f, Value: initial, Why: why}
	case param == nil && f.Final:
		return &decoder.Node{Op: decoder.OpConst, Field: f, Value: initial, Why: "it cannot be assigned to: it is a val that the constructor does not take"}
	case generated && (f.Access == model.Private || f.Access == model.Protected):
		if param != nil && !kept {
			return unknown("the generator refuses " + f.Name + ", which is not visible to it")
		}
		return &decoder.Node{Op: decoder.OpConst, Field: f, Value: initial, Why: "the generated adapter cannot see it"}
	}
	if text := f.Marks.Find("Json").Untold("name"); text != "" {
		n := unknown("its key is " + text + ", a constant that is not in the source")
		n.Field, n.Opaque = f, true
		return n
	}
	at := &decoder.Node{Op: decoder.OpAt, Name: key, Every: true, Value: initial, Field: f, Type: f.Declared}
	optional := t.Kind == model.Optional
	switch {
	case param == nil && f.Lateinit && generated: // result.x = x ?: result.x
		at.Missing = &decoder.Error{Kind: "UninitializedPropertyAccessException", Reason: decoder.ReasonMissing, Key: key, Message: "UninitializedPropertyAccessException: lateinit property " + f.Name + " has not been initialized"}
	case param == nil && f.Lateinit:
		at.AbsentLoss = decoder.HiddenNull
	case param == nil || kept || optional:
	default:
		at.Missing = data(decoder.ReasonMissing, "Required value %s missing at %s", named(f.Name, key), decoder.PathMark)
		at.Missing.Key = key
	}
	if !generated {
		at.Twice = func(string) *decoder.Error {
			return data(decoder.ReasonTwice, "Multiple values for '%s' at %s", f.Name, decoder.PathMark)
		}
	}
	at.Inner = c.member(t, key, f, optional && f.Type.Kind == model.Optional)
	return at
}

// member is the node for what stands at a property's key. What becomes null, of whatever was sent, is refused where
// the property takes none.
func (c *compiler) member(t *model.Type, key string, f *model.Field, optional bool) *decoder.Node {
	qualifier := c.qualifierOf(f)
	var n *decoder.Node
	if !optional && jvm.Scalar(t) != "" && f.Type.Kind != model.Param { // a type argument is a box
		n = c.notNull(t, qualifier, false)
	} else {
		n = c.value(t, qualifier, false)
	}
	if optional {
		return n
	}
	null := data(decoder.ReasonNull, "Non-null value %s was null at %s", named(f.Name, key), decoder.PathMark)
	switch n.Op {
	case decoder.OpLeaf:
		return refusingNull(n, null)
	case decoder.OpNil:
		refused := *n
		refused.NullLoss = decoder.NoLoss
		if refused.NullError == nil {
			refused.NullError = null
		}
		if refused.Inner.Op == decoder.OpLeaf {
			refused.Inner = refusingNull(refused.Inner, null)
		}
		return &refused
	}
	return n
}

// refusingNull is a leaf whose value, of whatever was sent, must be something.
func refusingNull(n *decoder.Node, null *decoder.Error) *decoder.Node {
	own, read := *n, n.Read
	own.Read = func(v *wire.Value) decoder.Verdict {
		verdict := read(v)
		if verdict.Err == nil && verdict.Seen.Kind == decoder.SeenNull {
			err := *null
			if v.Kind != wire.Null {
				err.Reason = decoder.ReasonConstant
			}
			return decoder.Verdict{Err: &err}
		}
		return verdict
	}
	return &own
}
