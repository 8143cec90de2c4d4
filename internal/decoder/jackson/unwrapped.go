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

// within is the part of an object that the property p of its class is unwrapped to.
func (as part) within(m *model.Model, about *introspection, p *property) part {
	a := p.marks.Find("JsonUnwrapped")
	in := part{inside: true, around: append(slices.Clip(as.around), m), prefix: as.prefix + a.Text("prefix", ""), suffix: a.Text("suffix", "") + as.suffix}
	var own []string
	for _, name := range p.marks.Find("JsonIgnoreProperties").Texts("value") {
		own = append(own, in.prefix+name+in.suffix)
	}
	ordered := about.creator != nil
	in.hidden = func(key string) bool {
		return !ordered && about.hides(key) || slices.Contains(own, key) || as.hidden != nil && as.hidden(key)
	}
	in.mayHide = func(key string) bool { return ordered && about.hides(key) || as.mayHide != nil && as.mayHide(key) }
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
