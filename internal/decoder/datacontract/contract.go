// Package datacontract is what DataContractSerializer does with a declared type and an XML document, and
// DataContractJsonSerializer with one of JSON. The rules are those of .NET 10, measured (testdata/truth/csharp), and as
// the source of the runtime has them where that says more (System.Private.DataContractSerialization).
package datacontract

import (
	"fmt"
	"slices"
	"sort"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/decoder/sharp"
	"vetta/internal/markup"
	"vetta/internal/model"
)

// What settings call the two libraries.
const (
	Name     = "datacontract"
	JSONName = "datacontractjson"
)

// The namespaces of what no contract names one for.
const (
	space      = "System.Runtime.Serialization."
	clrSpace   = "http://schemas.datacontract.org/2004/07/"
	arraySpace = "http://schemas.microsoft.com/2003/10/Serialization/Arrays"
	serSpace   = "http://schemas.microsoft.com/2003/10/Serialization/"
)

// compiler finds the contracts of classes.
type compiler struct {
	settings *model.Settings
	code     *sharp.Code
	json     bool
	classes  map[string]*class
	broken   *decoder.Error
	breaks   *model.Model
	lost     string
	nodes    map[string]*decoder.Node
	growth   model.Growth
	looked   map[*class]bool // those of which all that they lead to was looked at, for another root
	fresh    []string        // the classes that this root was the first to lead to
}

func newCompiler(settings *model.Settings, json bool) *compiler {
	return &compiler{settings: settings, json: json, classes: map[string]*class{}, nodes: map[string]*decoder.Node{}, looked: map[*class]bool{}}
}

// member is a data member.
type member struct {
	field    *model.Field
	typ      *model.Type
	name     string
	space    string
	order    int
	required bool
}

// class is the contract of a class: its members in the order in which they stand in XML.
type class struct {
	t       *model.Type
	name    markup.Name
	members []*member
	opted   bool // it has a contract of its own, and is made without its constructor
	blank   decoder.Seen
	made    bool
	known   []*model.Type
	coded   bool // a setter does more than set
}

func find(marks model.Annotated, name string) *model.Annotation {
	for i := range marks {
		if m := &marks[i]; m.Whole == space+name && (m.Target == "" || m.Target == "property" || m.Target == "field" || m.Target == "type") {
			return m
		}
	}
	return nil
}

// serialization is a SerializationException.
func serialization(reason decoder.Reason, format string, args ...any) *decoder.Error {
	return &decoder.Error{Kind: "SerializationException", Reason: reason, Message: "SerializationException: " + fmt.Sprintf(format, args...)}
}

// refuse notes why a type cannot be read whatever is sent.
func (c *compiler) refuse(m *model.Model, advice, message string) {
	if c.broken == nil {
		c.breaks = m
		c.broken = &decoder.Error{Kind: "InvalidDataContractException", Reason: decoder.ReasonType, Where: decoder.AtRoot, Message: "InvalidDataContractException: " + message, Advice: advice}
	}
}

func (c *compiler) lose(why string) {
	if c.lost == "" {
		c.lost = why
	}
}

// primitives are the names of types of the platform in XML.
var primitives = map[string]string{
	"string": "string", "bool": "boolean", "sbyte": "byte", "byte": "unsignedByte", "short": "short", "ushort": "unsignedShort", "int": "int", "uint": "unsignedInt", "long": "long", "ulong": "unsignedLong",
	"float": "float", "double": "double", "decimal": "decimal", "DateTime": "dateTime", "Guid": "guid", "char": "char", "TimeSpan": "duration", "object": "anyType", "Uri": "anyURI",
}

// contractName is the name by which a type is known in XML.
func (c *compiler) contractName(t *model.Type) markup.Name {
	u := t.Unwrapped()
	switch {
	case clr.IsBytes(u):
		return markup.Name{Space: arraySpace, Local: "base64Binary"}
	case isList(u):
		item := c.contractName(u.Args[0])
		if u.Args[0].Unwrapped().Model == nil {
			item.Space = arraySpace
		}
		return markup.Name{Space: item.Space, Local: "ArrayOf" + item.Local}
	case u.Kind == model.Map:
		return markup.Name{Space: arraySpace, Local: "ArrayOfKeyValueOf" + c.contractName(u.Args[0]).Local + c.contractName(u.Args[1]).Local}
	case u.Model == nil:
		name := primitives[u.Name]
		if name == "" {
			name = u.Name
		}
		return markup.Name{Space: "http://www.w3.org/2001/XMLSchema", Local: name}
	}
	m := u.Model
	name := markup.Name{Space: clrSpace + m.Package, Local: model.SimpleName(m.Name)}
	mark := find(m.Marks, "DataContract")
	if mark == nil {
		mark = find(m.Marks, "CollectionDataContract")
	}
	if n := mark.Text("Name", ""); n != "" {
		name.Local = n
	} else if len(u.Args) > 0 {
		c.lose("the name of " + u.Written() + " in XML is made of a number that is not told")
	} else if strings.Contains(m.Name, ".") && mark.Text("Name", "") == "" {
		name.Local = strings.ReplaceAll(m.Name, "+", ".") // a nested class keeps the ones around it
	}
	if a := mark.Arg("Namespace"); len(a.Texts) > 0 {
		name.Space = a.Texts[0]
	}
	return name
}

func isList(t *model.Type) bool {
	return (t.Kind == model.List || t.Kind == model.Unique) && !clr.IsBytes(t)
}

// collection is the list or the map that a class extends, nil for none.
func collection(t *model.Type) *model.Type {
	if t.Model == nil || t.Model.Kind == model.Enum || t.Model.Collection == nil {
		return nil
	}
	return t.Model.Collection.Bind(t.Env())
}

// notSerializable is said of a class without [DataContract] that is not public, or cannot be made without arguments.
const notSerializable = "Type '%s' cannot be serialized. Consider marking it with the DataContractAttribute attribute, and marking all of its members you want serialized with the DataMemberAttribute attribute. Alternatively, you can ensure that the type is public and has a parameterless constructor - all public members of the type will then be serialized, and no attributes will be required."

// class is the contract of a class or struct of the source.
func (c *compiler) class(t *model.Type) *class {
	if k := c.classes[t.Key()]; k != nil {
		return k
	}
	k := &class{t: t}
	c.classes[t.Key()] = k
	c.fresh = append(c.fresh, t.Key())
	if c.growth.Endless(t) {
		c.lose(t.Name + " grows without end")
		return k
	}
	m := t.Model
	k.name = c.contractName(t)
	k.opted = find(m.Marks, "DataContract") != nil
	switch {
	case m.Kind == model.Interface:
		c.lose("an interface is read by the classes that are known, which is not followed")
		return k
	case !k.opted && m.Marks.Find("Serializable") != nil:
		c.lose(m.Name + " is [Serializable]: its fields are read, which is not followed")
	case !k.opted && !sharp.IsPublic(m):
		c.refuse(m, "make it public, or mark it [DataContract] and its members [DataMember]", fmt.Sprintf(notSerializable, clr.Name(t)))
		return k
	case !k.opted && !m.Abstract && m.Kind != model.Struct && len(m.Ctors) > 0 && !slices.ContainsFunc(m.Ctors, func(f *model.Method) bool { return len(f.Params) == 0 }):
		c.refuse(m, "give it a constructor without parameters, or mark it [DataContract] and its members [DataMember]", fmt.Sprintf(notSerializable, clr.Name(t)))
		return k
	}
	chain := clr.Chain(t)
	slices.Reverse(chain)
	for _, s := range chain {
		own := c.own(s)
		k.members = append(k.members, own...)
		for i := range s.Model.Marks {
			if mark := &s.Model.Marks[i]; mark.Whole == space+"KnownType" && len(mark.Arg("value").Types) > 0 {
				k.known = append(k.known, mark.Arg("value").Types[0])
			}
		}
	}
	for _, x := range k.members {
		if p := x.field.Property; p != nil && p.Set != 0 && (len(p.Writes) > 0 || !p.Stored && p.Backs == "") {
			k.coded = true
		}
	}
	return k
}

// own are the members that one class declares, in their order.
func (c *compiler) own(s *model.Type) (out []*member) {
	opted := find(s.Model.Marks, "DataContract") != nil
	spaceOf := c.contractName(&model.Type{Kind: model.Named, Name: s.Model.Name, Model: s.Model}).Space
	for _, f := range s.Model.Fields {
		if f.Static {
			continue
		}
		x := &member{field: f, typ: f.Type.Bind(s.Env()), name: f.Name, space: spaceOf, order: -1}
		mark := find(f.Marks, "DataMember")
		switch p := f.Property; {
		case opted && mark == nil, find(f.Marks, "IgnoreDataMember") != nil:
			continue
		case opted && p != nil && p.Set == 0 && !isList(x.typ.Unwrapped()):
			continue
		case opted:
			if n := mark.Text("Name", ""); n != "" {
				x.name = n
			}
			if n, err := strconv.Atoi(mark.Text("Order", "")); err == nil {
				x.order = n
			}
			x.required = mark.Text("IsRequired", "") == "true"
		case p != nil && (p.Get != model.Public || p.Set != model.Public && !(p.Set == 0 && isList(x.typ.Unwrapped()))), f.Access != model.Public, p == nil && f.Final:
			continue
		case p != nil && p.Set == 0 && strings.HasPrefix(x.typ.Unwrapped().Name, "["):
			continue
		}
		out = append(out, x)
	}
	sort.SliceStable(out, func(i, k int) bool {
		if out[i].order != out[k].order {
			return out[i].order < out[k].order
		}
		return out[i].name < out[k].name
	})
	return out
}

// blankOf is an instance of which nothing was read: one with a contract is made without its constructor, and what runs
// before it is read does.
func (c *compiler) blankOf(k *class) decoder.Seen {
	if k.made {
		return k.blank
	}
	k.made = true
	switch {
	case k.opted || k.t.Model.Kind == model.Struct:
		k.blank = c.zeros(k.t)
	default:
		if k.blank = clr.Instance(k.t, 0); sharp.NeedsCode(k.t, clr.Parameterless(k.t)) || clr.HoldsUnknown(k.blank) {
			if made, err := c.code.Filled(k.t, clr.Parameterless(k.t), nil, nil, nil); err == nil && made.Kind == decoder.SeenObject {
				k.blank = made
			}
		}
	}
	return k.blank
}

// zeros is an instance that no constructor has run for.
func (c *compiler) zeros(t *model.Type) decoder.Seen {
	out := decoder.Seen{Kind: decoder.SeenObject, Type: t.Model.Name}
	for _, s := range clr.Chain(t) {
		for _, f := range s.Model.Fields {
			if clr.Stored(f) && !slices.Contains(out.Names, f.Name) {
				out.Names, out.Elems = append(out.Names, f.Name), append(out.Elems, clr.Zero(f.Type.Bind(s.Env())))
			}
		}
	}
	return c.code.Prepared(t, out)
}

// filled is an instance with what was read for members, in the order in which it was.
func (c *compiler) filled(k *class, members []*member, vals []decoder.Seen) (decoder.Seen, *decoder.Error) {
	out := c.blankOf(k)
	if out.Kind != decoder.SeenObject {
		return decoder.Seen{Kind: decoder.SeenUnknown}, nil
	}
	out.Elems = slices.Clone(out.Elems)
	if k.coded && !k.opted && len(members) > 0 {
		var names []string
		var types []*model.Type
		for _, m := range members {
			names, types = append(names, m.field.Name), append(types, m.typ)
		}
		made, err := c.code.Filled(k.t, clr.Parameterless(k.t), names, vals, types)
		if err != nil || made.Kind != decoder.SeenObject {
			return decoder.Seen{Kind: decoder.SeenUnknown}, err
		}
		return made, nil
	}
	for i, m := range members {
		name := clr.Backing(k.t, m.field.Name)
		for at := range out.Names {
			if out.Names[at] != name {
				continue
			}
			if p := m.field.Property; p != nil && p.Set == 0 && out.Elems[at].Kind == decoder.SeenList { // it is filled
				held := out.Elems[at]
				held.Elems = append(slices.Clone(held.Elems), vals[i].Elems...)
				out.Elems[at] = held
				break
			}
			out.Elems[at] = vals[i]
			break
		}
	}
	return out, nil
}

// enumNames are the names of the constants of an enum in XML.
func enumNames(m *model.Model) map[string]*model.Case {
	out := map[string]*model.Case{}
	opted := find(m.Marks, "DataContract") != nil
	for _, k := range m.Cases {
		mark := find(k.Marks, "EnumMember")
		switch {
		case !opted:
			out[k.Name] = k
		case mark != nil:
			out[mark.Text("Value", k.Name)] = k
		}
	}
	return out
}
