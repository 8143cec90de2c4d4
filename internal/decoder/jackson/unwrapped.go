package jackson

import (
	"slices"

	"vetta/internal/decoder"
	"vetta/internal/model"
)

// unwrappable says whether the keys of a type's objects can be those of the object around it: that
// is, whether a bean's deserializer reads it (JsonDeserializer.unwrappingDeserializer). Of others
// Jackson leaves the annotation alone.
func unwrappable(t *model.Type) bool {
	if t == nil {
		return false
	}
	m := t.Unwrapped().Model
	return m != nil && !m.Abstract && m.Kind != model.Enum
}

// unwrapsAny says whether a property of a class is read from the keys of the object itself.
func unwrapsAny(about *introspection) bool {
	return slices.ContainsFunc(about.properties, (*property).unwraps)
}

// unwraps says whether a property is read from the keys of the object that holds it.
func (p *property) unwraps() bool {
	return on(p.marks, "JsonUnwrapped", "enabled") && unwrappable(p.declared()) && !p.hidden
}

// unwrapped is the node for the property p of a class that is unwrapped, of a type that is
// unwrappable.
func (c *compiler) unwrapped(m *model.Model, about *introspection, p *property, inner *model.Type, as part) *decoder.Node {
	if slices.Contains(as.around, inner.Model) || inner.Model == m {
		return unknown("it is unwrapped into itself")
	}
	if classMark(inner, "JsonTypeInfo") != nil {
		return unknown("what is unwrapped tells its class by a key, which is not followed")
	}
	sub := c.introspect(inner)
	c.refuse(inner.Model, sub.refused)
	if err := unmakeable(inner.Model, sub); err != nil {
		return &decoder.Node{Op: decoder.OpFail, Assured: true, Error: err}
	}
	if sub.delegate != nil && sub.creator == nil {
		return unknown("what is unwrapped is made of one value, which is not followed")
	}
	built := c.build(inner, sub, c.within(as, m, about, p))
	built.Aside = true
	return built
}

// unwrappedComponent is the error of a record with an unwrapped component that no annotation
// names (Jackson 2.14).
func unwrappedComponent(m *model.Model, f *model.Field) *decoder.Error {
	err := fixed(m, f, false)
	err.Advice = "make a class of " + m.Name + ": Jackson before 2.15 takes an unwrapped component for a final field"
	return err
}

// renamed is the step for the key of a creator's property with a prefix, node: its creator does not
// ask for it, so it is set when the instance has been made.
// at is the index of the field that it goes to, -1 for none.
func renamed(m *model.Model, p *property, at int, target *model.Field, about *introspection, node *decoder.Node) decoder.Step {
	node.Missing, node.AbsentLoss = nil, decoder.NoLoss
	step := decoder.Step{Property: at, Node: node}
	if step.Spent, step.SpentNull = spent(m, p, target, about, node.Name); step.Spent != nil {
		step.Property = -1
	}
	return step
}

// within is the part of an object that the property p of its class is unwrapped to: the keys
// that no property of the class takes itself (BeanDeserializer.deserializeWithUnwrapped).
func (c *compiler) within(as part, m *model.Model, about *introspection, p *property) part {
	a := p.marks.Find("JsonUnwrapped")
	in := part{inside: true, around: append(slices.Clip(as.around), m), prefix: as.prefix + a.Text("prefix", ""), suffix: a.Text("suffix", "") + as.suffix}
	var own []string
	for _, name := range p.marks.Find("JsonIgnoreProperties").Texts("value") {
		own = append(own, in.prefix+name+in.suffix)
	}
	ordered := about.creator != nil
	var late []string // what the class takes itself if it comes before all that its creator does
	for _, q := range slices.Concat(about.properties, about.final) {
		switch {
		case q.param == nil && q.unwraps():
		case ordered && q.param == nil:
			late = append(late, c.keysOf(q, as)...)
		default:
			own = append(own, c.keysOf(q, as)...)
		}
	}
	in.hidden = func(key string) bool {
		return !ordered && about.hides(key) || slices.Contains(own, key) || as.hidden != nil && as.hidden(key)
	}
	in.mayHide = func(key string) bool {
		return ordered && about.hides(key) || slices.Contains(late, key) || as.mayHide != nil && as.mayHide(key)
	}
	in.ordered = ordered || as.ordered
	return in
}

// sees says whether any key is left of those that a node reads its value under, and takes the
// hidden ones from it.
func (as part) sees(n *decoder.Node) bool {
	if as.hidden == nil || n.Op != decoder.OpAt {
		return true
	}
	keys := slices.DeleteFunc(append([]string{n.Name}, n.Others...), as.hidden)
	if len(keys) == 0 {
		return false
	}
	n.Name, n.Others = keys[0], keys[1:]
	if slices.ContainsFunc(keys, as.mayHide) {
		n.Inner = unknown(unorderedKeys)
	}
	return true
}

const unorderedKeys = "whether it comes before all that the creator takes is not followed"
