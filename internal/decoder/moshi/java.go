package moshi

import (
	"slices"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// java is the node for a class of Java's (ClassJsonAdapter): the fields of the class and of those that it extends.
// Initialisers hold for absent keys where it has a constructor without parameters; without one an instance is made
// that nothing has run for.
func (c *compiler) java(t *model.Type) *decoder.Node {
	m := t.Model
	switch {
	case m.Kind == model.Record:
		return unknown("how Moshi reads the record " + m.Name + " is not known")
	case m.Abstract:
		return c.refuse(m, "declare a class that can be made, or register an adapter", "Cannot serialize abstract class %s", jvm.ClassName(m))
	case len(m.Ctors) > 0 && slices.ContainsFunc(m.Ctors[0].Params, func(p *model.Parameter) bool { return p.Name == "this" && p.Type.Kind == model.Opaque }):
		return c.refuse(m, "declare it static", "Cannot serialize non-static nested class %s", jvm.ClassName(m))
	}
	defer func(outer *model.Model) { c.within = outer }(c.within)
	c.within = m
	build := &decoder.Node{Op: decoder.OpBuild, Model: m, ByDocument: true, Unknown: c.unknownKey()}
	runs := jvm.NoArguments(m)
	keys := map[string]bool{}
	for _, s := range slices.Backward(jvm.Chain(t)) {
		for _, f := range s.Model.Fields {
			if f.Static {
				continue
			}
			node, key := c.field(f, s, runs)
			if key != "" && keys[key] {
				return c.refuse(m, "name one of them by @Json", "Conflicting fields: two of %s are named %s", jvm.ClassName(m), key)
			}
			keys[key] = true
			build.Steps = append(build.Steps, decoder.Step{Property: len(build.Props), Node: node})
			build.Props = append(build.Props, f)
		}
	}
	return &decoder.Node{Op: decoder.OpKeyed, Model: m, Wrong: wrongStart("BEGIN_OBJECT"), Inner: build}
}

// field is the node that reads one field of a class of Java's, and its key, "" for one that is not read.
func (c *compiler) field(f *model.Field, owner *model.Type, runs bool) (*decoder.Node, string) {
	t := f.Type.Bind(owner.Env())
	initial, kept := jvm.Zero(t, false), false
	switch {
	case runs && jvm.Computes(c.within):
		initial, kept = decoder.Seen{Kind: decoder.SeenUnknown}, true
	case f.Default != nil && runs:
		initial, kept = jvm.Constant(f.Default, t), true
	}
	key, ignored := jsonName(f)
	if f.Transient || ignored {
		return &decoder.Node{Op: decoder.OpConst, Field: f, Value: initial, Why: "it is transient, or @Json(ignore = true)"}, ""
	}
	if key == "" {
		key = f.Name
	}
	at := &decoder.Node{Op: decoder.OpAt, Name: key, Every: true, Value: initial, Field: f, Type: f.Declared}
	if jvm.IsPrimitive(t, false) {
		if !kept {
			at.AbsentLoss = decoder.Zeroed
		}
		at.Inner = c.notNull(t, c.qualifierOf(f), false)
		return at, key
	}
	at.Inner = c.value(t, c.qualifierOf(f), false)
	return at, key
}
