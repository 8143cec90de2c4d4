package jackson

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// subtypes is the node for a class whose instances tell their class by a key, held by a property
// with annotations: those count for each class.
func (c *compiler) subtypes(t *model.Type, info *model.Annotation, as format) *decoder.Node {
	as.prefix, as.suffix = "", "" // what it finds for a kind is not unwrapped
	use, include := info.Text("use", ""), info.Text("include", "As.PROPERTY")
	name := info.Text("property", "")
	if !strings.HasSuffix(use, "NAME") || !strings.HasSuffix(include, "PROPERTY") || strings.HasSuffix(include, "EXTERNAL_PROPERTY") {
		return unknown("its type information is of a kind that is not followed: " + t.Model.Name)
	}
	if name == "" {
		name = "@type"
	}
	if c.settings.Option("registerSubtypes") != "" {
		return unknown("its mapper is told its subtypes, which is not followed")
	}
	typ := jvm.ClassName(t.Model)
	c.refuse(t.Model, c.introspect(t).refused)
	passed := name
	n := &decoder.Node{Op: decoder.OpSubtype, Name: name, Model: t.Model, Match: c.match(), Aside: true}
	if info.Text("visible", "false") == "true" {
		passed, n.Opaque = "", true // of a list, the object gets the key too
	}
	if n.Match != nil {
		n.Name = n.Match(name)
	}
	var ids []string
	if a := classMark(t, "JsonSubTypes"); a != nil {
		inherited := t.Model.Marks.Find("JsonSubTypes") == nil
		for _, sub := range a.Arg("value").Marks {
			class := sub.Text("value", "")
			id := sub.Text("name", "")
			target := related(t.Model, class)
			if target == nil {
				return unknown("a subtype of it is not in the source: " + class)
			}
			if own := target.Marks.Find("JsonTypeName"); own != nil && id == "" {
				id = own.Text("value", "")
			}
			if id == "" {
				id = model.SimpleName(target.Name)
			}
			ids = append(ids, id)
			if inherited && !extends(target, t.Model) {
				n.Branches = append(n.Branches, decoder.Branch{Key: id, Node: &decoder.Node{Op: decoder.OpFail, Model: t.Model, Error: fault("InvalidTypeIdException", decoder.ReasonConstant,
					"Could not resolve type id '%s' as a subtype of `%s`: Class `%s` not subtype of `%s`", id, typ, jvm.ClassName(target), typ)}})
				continue
			}
			for _, each := range append([]string{id}, sub.Texts("names")...) {
				n.Branches = append(n.Branches, decoder.Branch{Key: each, Node: c.later(&model.Type{Kind: model.Named, Name: target.Name, Model: target}, passed, as)})
			}
		}
	}
	if len(n.Branches) == 0 && c.kotlinModule() {
		for _, target := range c.sealedClasses(t.Model) {
			id := target.Marks.Find("JsonTypeName").Text("value", model.SimpleName(target.Name))
			if !target.Abstract { // one that cannot be made goes by its name too, which no message lists
				ids = append(ids, id)
			}
			n.Branches = append(n.Branches, decoder.Branch{Key: id, Node: c.later(&model.Type{Kind: model.Named, Name: target.Name, Model: target}, passed, as)})
		}
	}
	if own := t.Model; !own.Abstract { // it is one of its own
		id := own.Marks.Find("JsonTypeName").Text("value", model.SimpleName(own.Name))
		ids = append(ids, id)
		n.Branches = append(n.Branches, decoder.Branch{Key: id, Node: c.later(t, passed, as)})
	}
	if len(n.Branches) == 0 {
		return unknown("its subtypes are not named by annotation: " + t.Model.Name)
	}
	n.Missing = fault("InvalidTypeIdException", decoder.ReasonMissing, "Could not resolve subtype of [simple type, class %s]: missing type id property '%s'", typ, name)
	n.Missing.Key = name
	n.Missing.Advice = "give the @JsonTypeInfo of " + t.Model.Name + " a defaultImpl, for objects that do not say their kind by " + name
	if impl := info.Text("defaultImpl", ""); impl != "" {
		if target := related(t.Model, impl); target != nil {
			n.Third = c.later(&model.Type{Kind: model.Named, Name: target.Name, Model: target}, passed, as)
			n.Second = c.later(&model.Type{Kind: model.Named, Name: target.Name, Model: target}, "", as)
		} else {
			return unknown("its default class is not in the source: " + impl)
		}
	}
	if c.off("FAIL_ON_INVALID_SUBTYPE") && n.Third == nil {
		n.Third = &decoder.Node{Op: decoder.OpLeaf, Read: func(*wire.Value) decoder.Verdict { return decoder.Verdict{Loss: decoder.NoConstant} }}
		n.Second = n.Third
	}
	n.Key = func(id string) (decoder.Seen, *decoder.Error) {
		err := fault("InvalidTypeIdException", decoder.ReasonClass, "Could not resolve type id '%s' as a subtype of `%s`: known type ids = [%s]", id, typ, known(ids))
		err.Advice = fmt.Sprintf("name a class for %q in its @JsonSubTypes, and give its @JsonTypeInfo a defaultImpl for kinds still to come", id)
		return decoder.Seen{}, err
	}
	return wrongAs(n, func(v *wire.Value) *decoder.Error {
		switch {
		case n.Third != nil && n.Third.WrongValue != nil:
			return n.Third.WrongValue(v)
		case n.Listed(v) != nil:
			return fault("MismatchedInputException", decoder.ReasonKind, "Unexpected token (%s), expected END_ARRAY: expected closing END_ARRAY after type information and deserialized value", bare(v.Elems[2]))
		case v.Kind == wire.Array && len(v.Elems) > 0 && v.Elems[0].Kind == wire.String:
			id, _ := v.Elems[0].Text()
			_, err := n.Key(id)
			return err
		case v.Kind == wire.Array:
			return fault("MismatchedInputException", decoder.ReasonKind, "Unexpected token (%s), expected VALUE_STRING: need JSON String that contains type id (for subtype of %s)", firstToken(v), full(t))
		}
		err := *n.Missing // in the words that it has for an object without the key
		err.Reason, err.Key = decoder.ReasonKind, ""
		return &err
	})
}

// sealedClasses are the classes that extend a sealed one of Kotlin, which the Kotlin module names where no
// annotation does (KotlinNamesAnnotationIntrospector.findSubtypes).
func (c *compiler) sealedClasses(m *model.Model) (all []*model.Model) {
	if m.Language != "kotlin" || !m.Sealed {
		return nil
	}
	for _, sub := range m.Subs {
		if sub.Sealed {
			all = append(all, c.sealedClasses(sub)...)
		}
		all = append(all, c.view(sub))
	}
	return all
}

// extends says whether a class is another one or extends it.
func extends(m, other *model.Model) bool {
	return slices.ContainsFunc(jvm.Chain(&model.Type{Kind: model.Named, Model: m}), func(t *model.Type) bool { return t.Model == other })
}

// firstToken names the token that an array begins with.
func firstToken(v *wire.Value) string {
	if len(v.Elems) == 0 {
		return "END_ARRAY"
	}
	return bare(v.Elems[0])
}

// bare is the name of a value's first token alone.
func bare(v *wire.Value) string {
	text := token(v)
	return strings.TrimSuffix(text[strings.Index(text, "JsonToken.")+len("JsonToken."):], "`)")
}
