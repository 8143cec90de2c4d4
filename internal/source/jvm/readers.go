package jvm

import (
	"slices"

	"vetta/internal/model"
)

// ClassOf is the class that a model was made of, nil for none.
func ClassOf(m *model.Model) *Class {
	if m == nil {
		return nil
	}
	c, _ := m.Source.(*Class)
	return c
}

// Lead notes that something leads to a model, nil for none.
func (p *Project) Lead(m *model.Model) {
	if c := ClassOf(m); c != nil && !c.due {
		c.due = true
		p.Due = append(p.Due, c)
	}
}

// ByHand is the constructor or factory by which a class reads a parsed object itself,
// nil where it has none; some other function of its own that takes one, where that is all it has.
func ByHand(c *Class) *model.Method {
	for _, parsed := range []string{"JSONObject", "JSONArray"} {
		if m := ReaderOf(c, parsed); m != nil && c.IsMadeBy(m) {
			return m
		}
	}
	if m := ReaderOf(c, "JSONObject"); m != nil {
		return m
	}
	return ReaderOf(c, "JSONArray")
}

// IsMadeBy says whether a function of a class makes an instance of it, or a collection of them.
func (c *Class) IsMadeBy(m *model.Method) bool {
	if m.Returns == nil { // nothing, or what its expression is; of a constructor the instance
		for i := m.Body[0]; m.IsExpression && i < m.Body[1]; i++ {
			if c.File.Is(i, c.Name) {
				return true
			}
		}
		return slices.Contains(c.Ctors, m)
	}
	isClass := func(t *model.Type) bool { return Last(t.Name) == c.Name }
	u := m.Returns.Unwrapped()
	return isClass(u) || slices.ContainsFunc(u.Args, isClass)
}

// ReaderOf is the constructor or factory that takes a parsed value of a class: one that makes an
// instance, before others.
func ReaderOf(c *Class, parsed string) *model.Method {
	takes := func(all []*model.Method, static bool) (first *model.Method) {
		for _, m := range all {
			if static && !m.Static || !slices.ContainsFunc(m.Params, func(p *model.Parameter) bool {
				return p.Type != nil && Last(p.Type.Unwrapped().Name) == parsed
			}) {
				continue
			}
			if c.IsMadeBy(m) {
				return m
			}
			if first == nil {
				first = m
			}
		}
		return first
	}
	if m := takes(c.Ctors, false); m != nil {
		return m
	}
	if m := takes(c.Methods, true); m != nil {
		return m
	}
	for _, n := range c.Nested {
		if n.Kind == "object" {
			if m := takes(n.Methods, false); m != nil {
				return m
			}
		}
	}
	return nil
}

// IsParsed says whether a name, perhaps with its package, is that of a class of parsed values.
func IsParsed(name string) bool {
	name = Last(name)
	return name == "JSONObject" || name == "JSONArray"
}

// TakesParsed says whether a parameter takes a parsed value.
func TakesParsed(p *model.Parameter) bool { return p.Type != nil && IsParsed(p.Type.Unwrapped().Name) }

// HoldsData says whether instances of a class hold values that a document may give them.
func HoldsData(c *Class) bool {
	c.Read()
	return c.Kind == "enum" || c.Kind == "record" || c.Kind == "class" && len(c.Fields) > 0
}
