package datacontract

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/decoder/sharp"
	"vetta/internal/markup"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Plan makes the plan by which DataContractSerializer reads t with these settings.
func Plan(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	return newCompiler(settings, false).plan(t, declared)
}

func (c *compiler) plan(t *model.Type, declared string) *decoder.Plan {
	settings := c.settings
	c.code = sharp.CodeOf(t)
	p := &decoder.Plan{Type: t, Declared: declared, Settings: settings, Refuses: settings.Refuses("DataContractSerializer")}
	c.look(t, map[string]bool{})
	top := c.top(t)
	if c.lost != "" {
		p.Root = &decoder.Node{Op: decoder.OpUnknown, Why: c.lost}
		return p
	}
	p.Root = c.rootNode(t, top)
	p.Part = p.Root.Inner.Inner
	if c.broken != nil {
		p.Root = &decoder.Node{Op: decoder.OpFail, Type: declared, Model: c.breaks, Error: c.broken, Inner: p.Root}
	}
	p.Inexact = true // elements may stand out of their order
	p.Run = func(doc *wire.Value) decoder.Outcome {
		if doc.Markup == nil || doc.Markup.Root == nil {
			return decoder.Outcome{Err: serialization(decoder.ReasonKind, "There was an error deserializing the object of type %s. Data at the root level is invalid. Line 1, position 1.", clr.Name(t))}
		}
		return c.read(t, top, doc.Markup, doc.Markup.Root)
	}
	return p
}

// Planner is Plan for many types with the same settings: what several of them hold is planned once.
func Planner(settings *model.Settings) func(t *model.Type, declared string) *decoder.Plan {
	kept := newCompiler(settings, false)
	return func(t *model.Type, declared string) *decoder.Plan {
		c := newCompiler(settings, false)
		c.classes, c.nodes, c.looked = kept.classes, kept.nodes, kept.looked
		p := c.plan(t, declared)
		if c.broken != nil || c.lost != "" {
			for _, key := range c.fresh { // what is wrong with them is told of each root anew
				delete(kept.classes, key)
				delete(kept.nodes, key)
			}
			return p
		}
		for _, key := range c.fresh {
			kept.looked[kept.classes[key]] = true
		}
		return p
	}
}

// Read reads a document, or an element of one, as a type.
func Read(t *model.Type, settings *model.Settings, doc *markup.Document, from *markup.Element) decoder.Outcome {
	c := newCompiler(settings, false)
	c.code = sharp.CodeOf(t)
	c.look(t, map[string]bool{})
	return c.read(t, c.top(t), doc, from)
}

// look finds the contracts of all classes that a type leads to, so that what refuses one is known.
func (c *compiler) look(t *model.Type, seen map[string]bool) {
	u := t.Unwrapped()
	if seen[u.Key()] {
		return
	}
	seen[u.Key()] = true
	for _, a := range u.Args {
		c.look(a, seen)
	}
	switch {
	case u.Kind == model.Param:
		c.lose("what " + u.Name + " stands for is not told")
	case u.Model == nil || u.Model.Kind == model.Enum:
		if u.Kind == model.Named && u.Model == nil && primitives[u.Name] == "" {
			c.lose("how data contracts read " + u.Written() + " is not known")
		}
	case collection(u) != nil:
		c.look(collection(u), seen)
	default:
		k := c.class(u)
		if c.looked[k] {
			return
		}
		for _, m := range k.members {
			c.look(m.typ, seen)
		}
		for _, of := range k.known {
			c.look(of, seen)
		}
	}
}

// top is the name of the root element.
func (c *compiler) top(t *model.Type) markup.Name {
	name := c.contractName(t)
	if s := c.settings.Option("root"); s != "" {
		name.Local = s
	}
	if c.settings != nil {
		if o, ok := c.settings.Options["rootNamespace"]; ok {
			name.Space = o.Value
		}
	}
	return name
}

// reading is what is done with one document.
type reading struct {
	c   *compiler
	doc *markup.Document
	of  string
}

func (c *compiler) read(t *model.Type, top markup.Name, doc *markup.Document, from *markup.Element) decoder.Outcome {
	switch {
	case c.broken != nil:
		return decoder.Outcome{Err: c.broken}
	case c.lost != "":
		return decoder.Outcome{Seen: decoder.Seen{Kind: decoder.SeenUnknown}, Unknown: [][]wire.Step{{}}}
	}
	r := &reading{c, doc, clr.Name(t)}
	if doc.Doctype || doc.Undeclared >= 0 {
		return decoder.Outcome{Err: serialization(decoder.ReasonKind, "There was an error deserializing the object of type %s. For security reasons DTD is prohibited in this XML document.", r.of)}
	}
	if from.Name != top {
		err := serialization(decoder.ReasonKind, "%sExpecting element '%s' from namespace '%s'.. Encountered 'Element'  with name '%s', namespace '%s'.", r.place(from.Open), top.Local, top.Space, from.Name.Local, from.Name.Space)
		err.Key = markup.ElementKey(top)
		return decoder.Outcome{Err: err}
	}
	seen, err := r.value(t, from)
	return decoder.Outcome{Seen: seen, Err: err, Unknown: decoder.UnknownIn(seen)}
}

func (r *reading) place(offset int) string {
	line, column := r.doc.Position(offset)
	return fmt.Sprintf("Error in line %d position %d. ", line, column)
}

// value reads an element as a type.
func (r *reading) value(t *model.Type, e *markup.Element) (decoder.Seen, *decoder.Error) {
	u := t.Unwrapped()
	if e.Nil() {
		if clr.IsValue(u) && t.Kind != model.Optional {
			return decoder.Seen{}, serialization(decoder.ReasonNull, "ValueType '%s' cannot be null.", clr.Name(u))
		}
		return decoder.Seen{}, nil
	}
	switch {
	case clr.IsBytes(u):
		return r.scalar(u, e)
	case isList(u):
		item := r.c.contractName(u.Args[0])
		if u.Args[0].Unwrapped().Model == nil {
			item.Space = arraySpace
		}
		return r.list(u, e, item)
	case u.Kind == model.Map:
		return r.entries(u, e, markup.Name{Space: arraySpace, Local: "KeyValueOf" + r.c.contractName(u.Args[0]).Local + r.c.contractName(u.Args[1]).Local}, "Key", "Value")
	case u.Model != nil && u.Model.Kind == model.Enum:
		return r.enum(u.Model, e)
	case collection(u) != nil:
		mark := find(u.Model.Marks, "CollectionDataContract")
		of := collection(u)
		name := r.c.contractName(u)
		if of.Kind == model.Map {
			item := markup.Name{Space: name.Space, Local: mark.Text("ItemName", "KeyValueOf"+r.c.contractName(of.Args[0]).Local+r.c.contractName(of.Args[1]).Local)}
			return r.entries(of, e, item, mark.Text("KeyName", "Key"), mark.Text("ValueName", "Value"))
		}
		item := r.c.contractName(of.Args[0])
		if mark == nil && of.Args[0].Unwrapped().Model == nil {
			item.Space = arraySpace
		}
		if mark != nil {
			item = markup.Name{Space: name.Space, Local: mark.Text("ItemName", item.Local)}
		}
		return r.list(of, e, item)
	case u.Model != nil:
		return r.class(u, e)
	case u.Name == "object":
		return decoder.Seen{Kind: decoder.SeenUnknown}, nil
	}
	return r.scalar(u, e)
}

// text is what stands in an element that holds no other.
func text(e *markup.Element) (string, bool) {
	if e.HasElements() {
		return "", false
	}
	return e.OwnText(), true
}

func (r *reading) scalar(u *model.Type, e *markup.Element) (decoder.Seen, *decoder.Error) {
	given, ok := text(e)
	if !ok {
		inner := e.Elements()[0].Name
		return decoder.Seen{}, serialization(decoder.ReasonKind, "There was an error deserializing the object of type %s. End element '%s' from namespace '%s' expected. Found element '%s' from namespace '%s'.", r.of, e.Name.Local, e.Name.Space, inner.Local, inner.Space)
	}
	if u.Name == "Uri" {
		return clr.String(given), nil
	}
	s, wrong, known := clr.Lexical(u, "", given)
	if !known {
		return decoder.Seen{Kind: decoder.SeenUnknown}, nil
	}
	if wrong != nil {
		return decoder.Seen{}, serialization(wrong.Reason, "There was an error deserializing the object of type %s. The value '%s' cannot be parsed as the type '%s'.", r.of, given, model.SimpleName(clr.Name(u)))
	}
	return s, nil
}

func (r *reading) enum(m *model.Model, e *markup.Element) (decoder.Seen, *decoder.Error) {
	given, _ := text(e)
	names := enumNames(m)
	words := []string{strings.TrimSpace(given)}
	if m.Marks.Find("Flags") != nil {
		words = strings.Fields(given)
	}
	total := int64(0)
	for _, word := range words {
		k := names[word]
		if k == nil || k.Raw == nil {
			return decoder.Seen{}, serialization(decoder.ReasonConstant, "Invalid enum value '%s' cannot be deserialized into type '%s'. Ensure that the necessary enum values are present and are marked with EnumMemberAttribute attribute if the type has DataContractAttribute attribute.", given, clr.Name(&model.Type{Kind: model.Named, Name: m.Name, Model: m}))
		}
		n, _ := strconv.ParseInt(k.Raw.Text, 10, 64)
		total |= n
	}
	return clr.Constant(m, total), nil
}

func (r *reading) list(t *model.Type, e *markup.Element, item markup.Name) (decoder.Seen, *decoder.Error) {
	out := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
	if t.Kind == model.Unique {
		out.Kind = decoder.SeenSet
	}
	for _, inner := range e.Elements() {
		if inner.Name != item {
			continue
		}
		s, err := r.value(t.Args[0], inner)
		if err != nil {
			return out, err
		}
		out.Elems = append(out.Elems, s)
	}
	return out, nil
}

// entries reads a dictionary: items of a key and a value, in this order.
func (r *reading) entries(t *model.Type, e *markup.Element, item markup.Name, key, value string) (decoder.Seen, *decoder.Error) {
	out := decoder.Seen{Kind: decoder.SeenMap, Names: []string{}, Elems: []decoder.Seen{}}
	for _, inner := range e.Elements() {
		if inner.Name != item {
			continue
		}
		var parts [2]*markup.Element
		at := 0
		for _, p := range inner.Elements() {
			if at < 2 && p.Name == (markup.Name{Space: item.Space, Local: []string{key, value}[at]}) {
				parts[at] = p
				at++
				continue
			}
			if at == 0 && p.Name.Local == value {
				return out, serialization(decoder.ReasonMissing, "%s'Element' '%s' from namespace '%s' is not expected. Expecting element '%s'.", r.place(p.Start), p.Name.Local, p.Name.Space, key)
			}
		}
		if at < 2 {
			return out, serialization(decoder.ReasonMissing, "'EndElement' '%s' from namespace '%s' is not expected. Expecting element '%s'.", inner.Name.Local, inner.Name.Space, []string{key, value}[at])
		}
		k, err := r.value(t.Args[0], parts[0])
		if err != nil {
			return out, err
		}
		v, err := r.value(t.Args[1], parts[1])
		if err != nil {
			return out, err
		}
		name := strings.Trim(k.String(), `"`)
		if slices.Contains(out.Names, name) {
			return out, &decoder.Error{Kind: "ArgumentException", Reason: decoder.ReasonTwice, Message: "ArgumentException: An item with the same key has already been added. Key: " + name}
		}
		out.Names, out.Elems = append(out.Names, name), append(out.Elems, v)
	}
	return out, nil
}

// class reads an instance: members in their order, one that stands elsewhere is passed over.
func (r *reading) class(t *model.Type, e *markup.Element) (decoder.Seen, *decoder.Error) {
	k := r.c.class(t)
	if a := e.Attr(markup.InstanceSpace, "type"); a != nil {
		prefix, local, colon := strings.Cut(strings.TrimSpace(a.Value), ":")
		if !colon {
			prefix, local = "", prefix
		}
		uri, _ := e.Lookup(prefix)
		name := markup.Name{Space: uri, Local: local}
		if name != k.name {
			at := slices.IndexFunc(k.known, func(o *model.Type) bool { return r.c.contractName(o) == name })
			if at < 0 {
				return decoder.Seen{}, serialization(decoder.ReasonClass, "%sElement '%s:%s' contains data of the '%s:%s' data contract. The deserializer has no knowledge of any type that maps to this contract. Add the type corresponding to '%s' to the list of known types - for example, by using the KnownTypeAttribute attribute or by adding it to the list of known types passed to DataContractSerializer.", r.place(e.Open), e.Name.Space, e.Name.Local, uri, local, local)
			}
			k = r.c.class(k.known[at])
		}
	}
	if k.t.Model.Abstract {
		return decoder.Seen{}, serialization(decoder.ReasonType, "Cannot create an abstract class: %s.", clr.Name(k.t))
	}
	if given, ok := text(e); ok && strings.TrimSpace(given) != "" {
		return decoder.Seen{}, serialization(decoder.ReasonKind, "%sExpecting state 'Element'.. Encountered 'Text'  with name '', namespace ''.", r.place(e.Open))
	}
	next, required := 0, k.required(0)
	var members []*member
	var vals []decoder.Seen
	for _, inner := range e.Elements() {
		at := -1
		for i := next; i < len(k.members); i++ {
			if m := k.members[i]; inner.Name.Local == m.name && inner.Name.Space == m.space {
				at = i
				break
			}
		}
		if at < 0 {
			continue
		}
		if required < at {
			return decoder.Seen{}, serialization(decoder.ReasonMissing, "%s'Element' '%s' from namespace '%s' is not expected. Expecting element '%s'.", r.place(inner.Start), inner.Name.Local, inner.Name.Space, k.expected(next, required))
		}
		s, err := r.value(k.members[at].typ, inner)
		if err != nil {
			return decoder.Seen{}, err
		}
		members, vals = append(members, k.members[at]), append(vals, s)
		next = at + 1
		required = k.required(next)
	}
	if required < len(k.members) {
		err := serialization(decoder.ReasonMissing, "%s'EndElement' '%s' from namespace '%s' is not expected. Expecting element '%s'.", r.place(e.End), e.Name.Local, e.Name.Space, k.expected(next, required))
		err.Key = k.members[required].name
		return decoder.Seen{}, err
	}
	return r.c.filled(k, members, vals)
}

// required is the index of the first member from one on that must be there; the number of members for none.
func (k *class) required(from int) int {
	for i := from; i < len(k.members); i++ {
		if k.members[i].required {
			return i
		}
	}
	return len(k.members)
}

func (k *class) expected(from, to int) string {
	var names []string
	for i := from; i <= to && i < len(k.members); i++ {
		names = append(names, k.members[i].name)
	}
	return strings.Join(names, " | ")
}
