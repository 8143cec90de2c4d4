package kotlinx

import (
	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// polymorphic is the node for a sealed class or interface: a key of the object says by its serial name which of
// its subclasses it is. Of another abstract class a module says it, which is not followed.
func (c *compiler) polymorphic(t *model.Type) *decoder.Node {
	m := t.Model
	family := c.family(t)
	if family != nil && family.Why != "" {
		return unknown(family.Why)
	}
	if !m.Sealed && family == nil {
		return unknown("which classes " + m.Name + " may be is told by a SerializersModule, which is not followed")
	}
	if c.settings.Option("classDiscriminatorMode") != "" || c.on("useArrayPolymorphism") {
		return unknown("how the class of an object is told is set by its Json, which is not followed")
	}
	key := c.settings.Option("classDiscriminator")
	if key == "" {
		key = "type"
	}
	if own := discriminatorOf(m); own != "" {
		key = own
	}
	n := &decoder.Node{Op: decoder.OpSubtype, Name: key, Model: m}
	var add func(m *model.Model) string
	add = func(m *model.Model) string {
		for _, sub := range m.Subs {
			if sub.Kind == model.Interface || sub.Abstract {
				if why := add(sub); why != "" {
					return why
				}
				continue
			}
			if why := c.ownReader(sub); why != "" {
				return why
			}
			of := ofBase(sub, t)
			if of == nil {
				return sub.Name + " is generic, and what it is of is not told"
			}
			n.Branches = append(n.Branches, decoder.Branch{Key: serialName(sub), Node: c.object(of, key)})
		}
		return ""
	}
	if m.Sealed {
		if why := add(m); why != "" {
			return unknown(why)
		}
	}
	called := serialName(m)
	if family != nil {
		for _, sub := range family.Members {
			if why := c.ownReader(sub.Type.Model); why != "" {
				return unknown(why)
			}
			n.Branches = append(n.Branches, decoder.Branch{Key: serialName(sub.Type.Model), Node: c.object(sub.Type, key)})
		}
		if other := family.Otherwise; other != nil {
			n.Third = unknown("what the default of its SerializersModule reads is not followed")
			if !other.Unfollowed && other.Type.Model != nil {
				n.Third = c.value(other.Type)
			}
			n.Second = n.Third
		}
	}
	if !m.Sealed {
		called = "kotlinx.serialization.Polymorphic<" + model.SimpleName(m.Name) + ">"
	}
	n.Wrong = func(kind wire.Kind) *decoder.Error {
		reason := decoder.ReasonKind
		if kind == wire.Null {
			reason = decoder.ReasonNull
		}
		return fault("JsonDecodingException", reason, "Expected JsonObject, but had %s as the serialized body of %s at path: %s", elements[kind], called, decoder.PathMark)
	}
	n.Missing = fault("JsonDecodingException", decoder.ReasonMissing, "Class discriminator was missing and no default serializers were registered in the polymorphic scope of '%s'", model.SimpleName(m.Name))
	n.Missing.Key = key
	n.Missing.Advice = "the key " + key + " must say the class: name another one by @JsonClassDiscriminator or classDiscriminator, or register a default"
	n.Key = func(id string) (decoder.Seen, *decoder.Error) {
		e := fault("JsonDecodingException", decoder.ReasonClass, "Serializer for subclass '%s' is not found in the polymorphic scope of '%s' at path: %s", id, model.SimpleName(m.Name), decoder.PathMark)
		e.Advice = "declare a subclass with @SerialName(\"" + id + "\"), or register a default in a SerializersModule"
		return decoder.Seen{}, e
	}
	return n
}

// family is what a SerializersModule registers for a class, nil where it registers nothing.
func (c *compiler) family(t *model.Type) *model.Family {
	if c.settings == nil {
		return nil
	}
	for i := range c.settings.Families {
		if f := &c.settings.Families[i]; f.Of.Model == t.Model {
			return f
		}
	}
	return nil
}

// ofBase is a subclass as it comes in the place of a class with type arguments, Ok<Port> in that of Answer<Port>; nil
// where these do not tell its own.
func ofBase(sub *model.Model, base *model.Type) *model.Type {
	t := &model.Type{Kind: model.Named, Name: sub.Name, Model: sub}
	if len(sub.Params) == 0 {
		return t
	}
	if sub.Super == nil || sub.Super.Model != base.Model || len(sub.Super.Args) != len(base.Args) {
		return nil
	}
	for _, p := range sub.Params {
		var bound *model.Type
		for i, a := range sub.Super.Args {
			if a.Kind == model.Param && a.Name == p {
				bound = base.Args[i]
			}
		}
		if bound == nil {
			return nil
		}
		t.Args = append(t.Args, bound)
	}
	return t
}

// discriminatorOf is the key that a class, or one that it extends, says that tells its subclasses; "" for none.
func discriminatorOf(m *model.Model) string {
	for depth := 0; m != nil && depth < 16; depth++ {
		if key := m.Marks.Find("JsonClassDiscriminator").Text("discriminator", m.Marks.Find("JsonClassDiscriminator").Text("value", "")); key != "" {
			return key
		}
		if m.Super == nil {
			return ""
		}
		m = m.Super.Model
	}
	return ""
}
