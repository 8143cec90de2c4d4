package jackson

import (
	"fmt"
	"maps"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// What Jackson refuses of a class, it refuses when it makes the deserializer for it: before
// anything is read, for the root and for every class that the root leads to, but not for
// subtypes, whose deserializers are made when one is sent.

// refuse notes the first thing that Jackson refuses of the class.
func (k *collector) refuse(format string, args ...any) {
	if k.out.refused == nil {
		k.out.refused = fault("InvalidDefinitionException", decoder.ReasonType, format, args...)
		k.out.refused.Where = decoder.AtRoot
	}
}

// refuse makes what is refused of a class the answer to every document.
func (c *compiler) refuse(m *model.Model, by *decoder.Error) {
	if by != nil && c.broken == nil {
		c.broken, c.breaks = by, m
	}
}

// later is the node for a class whose deserializer is made when a value is sent for it:
// what is refused of it is refused there.
func (c *compiler) later(t *model.Type, passed string, as format) *decoder.Node {
	before, breaks, nodes := c.broken, c.breaks, maps.Clone(c.nodes)
	c.broken, c.breaks = nil, nil
	n := c.objectAs(t, passed, as)
	if c.broken != nil {
		err := *c.broken
		err.Where = decoder.AtValue
		n = &decoder.Node{Op: decoder.OpFail, Error: &err, Type: n.Type, Model: t.Model}
		c.nodes = nodes // what holds the refused class is refused as well where it is not put off
	}
	c.broken, c.breaks = before, breaks
	return n
}

// oneGetter refuses two getters of one class for a property that neither is the better one
// for (POJOPropertyBuilder.getGetter): one named get… goes before one named is…, and that
// before any other.
func (k *collector) oneGetter(p *property) {
	if len(p.getters) < 2 {
		return
	}
	rank := func(a *accessor) int {
		switch name := a.method.Name; {
		case strings.HasPrefix(name, "get") && len(name) > 3:
			return 1
		case strings.HasPrefix(name, "is") && len(name) > 2:
			return 2
		}
		return 3
	}
	best := p.getters[0]
	for _, a := range p.getters[1:] {
		switch {
		case a.owner != best.owner: // gathered from the class up: what is extended comes later
		case rank(a) < rank(best):
			best = a
		case rank(a) == rank(best):
			one, other := asListed(best, a)
			k.refuse("Conflicting getter definitions for property \"%s\": %s vs %s", p.name, one.fullName(), other.fullName())
		}
	}
}

// asListed are two methods of a class, a before b in the source, in the order in which the
// virtual machine has listed them wherever it was measured: by name, and of one name the
// later one first.
func asListed(a, b *accessor) (first, second *accessor) {
	if a.method.Name > b.method.Name || a.method.Name == b.method.Name {
		return b, a
	}
	return a, b
}

// oneField refuses two fields of one class for a property (POJOPropertyBuilder.getField),
// which is looked at unless there are other members to read it by and to write it by.
func (k *collector) oneField(p *property) {
	if len(p.fields) < 2 || len(p.getters) > 0 && len(p.setters)+len(p.params) > 0 {
		return
	}
	last := p.fields[len(p.fields)-1]
	for _, a := range p.fields[:len(p.fields)-1] {
		if a.owner == last.owner {
			k.refuse("Multiple fields representing property \"%s\": %s vs %s", p.name, a.fullName(), last.fullName())
		}
	}
}

// fullName is how messages name a member (AnnotatedMember.getFullName).
func (a *accessor) fullName() string {
	name := className(a.owner.Model) + "#"
	switch {
	case a.field != nil:
		return name + a.field.Name
	case len(a.method.Params) == 0:
		return name + a.method.Name + "()"
	}
	return name + a.method.Name + "(" + declared(a.method.Params[0].Type) + ")"
}

// creatorText is how messages name a constructor or a factory (AnnotatedConstructor.toString
// and AnnotatedMethod.toString of 2.14, which closes no bracket).
func (k *collector) creatorText(m *model.Method) string {
	typ := jvm.ClassName(k.t.Model)
	if m.Static {
		return fmt.Sprintf("[method %s#%s(%d params)]", typ, m.Name, len(m.Params))
	}
	marks := "[null]"
	if mode := creatorMode(m); mode != "" && m.Marks.Find("JsonCreator") != nil {
		marks = "{interface com.fasterxml.jackson.annotation.JsonCreator=@com.fasterxml.jackson.annotation.JsonCreator(mode=" + mode + ")}"
	}
	s := "s"
	if len(m.Params) == 1 {
		s = ""
	}
	return fmt.Sprintf("[constructor for `%s` (%d arg%s), annotations: %s", typ, len(m.Params), s, marks)
}

// unnamed is the first parameter of a maker without a name on the wire, -1 where all have.
func (k *collector) unnamed(m *model.Method) int {
	for i := range m.Params {
		found := false
		for _, p := range k.props {
			for _, a := range p.params {
				found = found || a.param.of == m && a.param.index == i
			}
		}
		if !found {
			return i
		}
	}
	return -1
}

// takesProperties refuses a creator that is to be given properties where it cannot be
// (BasicDeserializerFactory._addExplicitPropertyCreator): a parameter without a name, one
// that is unwrapped, two of one name.
func (k *collector) takesProperties(m *model.Method, marked bool) {
	typ := jvm.ClassName(k.t.Model)
	if i := k.unnamed(m); i >= 0 {
		switch {
		case m.Params[i].Marks.Find("JacksonInject") != nil:
			k.out.why = "its mapper injects a parameter of its creator, which is not followed"
		case on(m.Params[i].Marks, "JsonUnwrapped", "enabled"):
			k.refuse("Invalid type definition for type `%s`: Cannot define Creator parameter %d as `@JsonUnwrapped`: combination not yet supported", typ, i)
		case marked:
			k.refuse("Invalid type definition for type `%s`: Argument #%d of constructor %s has no property name (and is not Injectable): can not use as property-based Creator", typ, i, k.creatorText(m))
		default:
			k.refuse("Invalid type definition for type `%s`: Argument #%d of constructor %s has no property name annotation; must have name when multiple-parameter constructor annotated as Creator", typ, i, k.creatorText(m))
		}
		return
	}
	for _, p := range k.props {
		index := -1
		for _, a := range p.params {
			if a.param.of != m {
				continue
			}
			if index >= 0 {
				k.refuse("Duplicate creator property \"%s\" (index %d vs %d) for type `%s` ", p.name, min(index, a.param.index), max(index, a.param.index), typ)
			}
			index = a.param.index
		}
	}
}

// secondCreator refuses another creator that is given properties, unless the types of their
// first parameters say which one is meant (CreatorCollector.verifyNonDup).
func (k *collector) secondCreator(other, m *model.Method, marked bool) {
	if other.Static != m.Static || len(other.Params) == 0 || len(m.Params) == 0 {
		return
	}
	a, b := other.Params[0].Type, m.Params[0].Type
	if jvm.IsPrimitive(a, false) != jvm.IsPrimitive(b, false) || a.Model != nil && b.Model != nil && a.Model != b.Model || declared(a) == "java.lang.Object" || declared(b) == "java.lang.Object" {
		k.out.why = "it has several creators"
		return
	}
	how := "implicitly discovered"
	if marked {
		how = "explicitly marked"
	}
	k.refuse("Conflicting property-based creators: already had %s creator %s, encountered another: %s", how, k.creatorText(other), k.creatorText(m))
}

// managed refuses a reference to objects that have none back
// (BeanDeserializerBase._resolveManagedReferenceProperty).
func (c *compiler) managed(m *model.Model, p *property) {
	a := p.marks.Find("JsonManagedReference")
	t := p.declared()
	if a == nil || t == nil {
		return
	}
	elem := t.Unwrapped()
	for elem.Kind != model.Named && len(elem.Args) > 0 {
		elem = elem.Args[len(elem.Args)-1].Unwrapped()
	}
	if elem.Model == nil {
		return
	}
	name := a.Text("value", "defaultReference")
	back := func(marks model.Annotated) bool {
		b := marks.Find("JsonBackReference")
		return b != nil && b.Text("value", "defaultReference") == name
	}
	for _, s := range jvm.Chain(elem) {
		for _, f := range s.Model.Fields {
			if back(f.Marks) {
				return
			}
		}
		for _, f := range s.Model.Methods {
			if back(f.Marks) {
				return
			}
		}
	}
	err := fault("InvalidDefinitionException", decoder.ReasonType, "Cannot handle managed/back reference '%s': no back reference property found from type `%s`", name, full(t))
	err.Where = decoder.AtRoot
	c.refuse(m, err)
}
