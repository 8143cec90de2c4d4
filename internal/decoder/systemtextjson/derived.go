package systemtextjson

import (
	"fmt"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
)

// derivedType is a class that a text or a number in the discriminator names; named is false for one that none does.
type derivedType struct {
	class  *model.Model
	id     string
	named  bool
	number bool // the id is one
}

// derived are the classes that a class says that it may stand for: [JsonDerivedType].
func derived(m *model.Model) (all []derivedType) {
	for i := range m.Marks {
		a := &m.Marks[i]
		if a.Whole != space+"JsonDerivedType" {
			continue
		}
		d := derivedType{}
		if names := a.Texts("value"); len(names) > 0 && m.Related != nil {
			d.class = m.Related(names[0])
		}
		for _, name := range []string{"value2", "typeDiscriminator"} {
			if arg := a.Arg(name); len(arg.Texts) > 0 {
				d.id, d.named, d.number = arg.Texts[0], true, len(arg.Types) > 0
				break
			}
		}
		all = append(all, d)
	}
	return all
}

// polymorphic is the node for a class that a discriminator tells which it is: it must come first.
func (c *compiler) polymorphic(t *model.Type, s site) *decoder.Node {
	m := t.Model
	mark := find(m.Marks, "JsonPolymorphic")
	key := mark.Text("TypeDiscriminatorPropertyName", "$type")
	n := &decoder.Node{Op: decoder.OpSubtype, Name: key, Model: m, Wrong: wrong(t), MindsKind: true}
	n.Twice = func(string) *decoder.Error {
		return problem(decoder.ReasonClass, "Deserialized object contains a duplicate '"+key+"' metadata property. Path: "+decoder.PathMark+"."+key+".")
	}
	for _, of := range append([]derivedType{{class: m}}, derived(m)...) {
		if taken := c.taken(of.class, key); taken != "" {
			return c.refused(m, "give it another name by [JsonPropertyName], or mark it [JsonIgnore]",
				"The type '%s' contains property '%s' that conflicts with an existing metadata property name. Consider either renaming it or ignoring it with JsonIgnoreAttribute.", clr.Name(&model.Type{Kind: model.Named, Name: of.class.Name, Model: of.class}), taken)
		}
	}
	abstract := m.Abstract || m.Kind == model.Interface
	own := unknown("")
	if abstract {
		n.Missing = unsupported("NotSupportedException", "send "+key+" first, or let the class not be abstract", "The JSON payload for polymorphic interface or abstract type '%s' must specify a type discriminator.", clr.Name(t))
		n.Missing.Key, n.Missing.Reason = key, decoder.ReasonMissing
	} else {
		own = c.object(t, s)
		n.Second = own
	}
	if !c.on("AllowOutOfOrderMetadataProperties") {
		n.Leads = problem(decoder.ReasonClass, fmt.Sprintf("The metadata property is either not supported by the type or is not the first property in the deserialized JSON object. Path: %s.", decoder.PathMark))
		n.Leads.Advice = "set AllowOutOfOrderMetadataProperties = true in the options, or send " + key + " first"
		if abstract {
			n.Leads = n.Missing
		}
	}
	for _, d := range derived(m) {
		if !d.named {
			continue
		}
		of := unknown("the class of [JsonDerivedType] is not in the source")
		switch {
		case d.class == m:
			of = own
		case d.class != nil:
			of = c.solid(&model.Type{Kind: model.Named, Name: d.class.Name, Model: d.class}, site{})
			if of.Op == decoder.OpSubtype && of.Second != nil {
				of = of.Second
			}
		}
		n.Branches = append(n.Branches, decoder.Branch{Key: d.id, Node: passing(of, key), Number: d.number})
	}
	if mark.Text("IgnoreUnrecognizedTypeDiscriminators", "") == "true" {
		if abstract {
			n.Third = &decoder.Node{Op: decoder.OpFail, Model: m, Error: n.Missing}
		} else {
			n.Third = passing(own, key)
		}
	}
	n.Key = func(id string) (decoder.Seen, *decoder.Error) {
		err := problem(decoder.ReasonClass, fmt.Sprintf("Read unrecognized type discriminator id '%s'. Path: %s.", id, decoder.PathMark))
		err.Advice = "add [JsonDerivedType(typeof(…), \"" + id + "\")] to " + m.Name
		return decoder.Seen{}, err
	}
	return n
}

// taken is the key of a member of a class that is that of the discriminator, "" where there is none.
func (c *compiler) taken(m *model.Model, key string) string {
	if m == nil || m.Kind == model.Interface {
		return ""
	}
	all, _ := c.members(&model.Type{Kind: model.Named, Name: m.Name, Model: m})
	for _, x := range all {
		if !x.ignored && x.key == key {
			return key
		}
	}
	return ""
}

// passing is a node for an object whose class a member has told, which is not unknown to it then.
func passing(n *decoder.Node, key string) *decoder.Node {
	if n.Op != decoder.OpKeyed || n.Inner == nil || n.Inner.Op != decoder.OpBuild {
		return n
	}
	out, build := *n, *n.Inner
	build.Passed = key
	out.Inner = &build
	return &out
}
