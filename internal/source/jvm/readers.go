package jvm

import (
	"slices"

	"vetta/internal/model"
)

// classOf is the class that a model was made of, nil for none.
func classOf(m *model.Model) *Class {
	if m == nil {
		return nil
	}
	c, _ := m.Source.(*Class)
	return c
}

// lead notes that something leads to a model, nil for none.
func (p *project) lead(m *model.Model) {
	if c := classOf(m); c != nil && !c.due {
		c.due = true
		p.due = append(p.due, c)
	}
}

// byHand is the constructor or factory by which a class reads a parsed object itself,
// nil where it has none; some other function of its own that takes one, where that is all it has.
func byHand(c *Class) *model.Method {
	for _, parsed := range []string{"JSONObject", "JSONArray"} {
		if m := readerOf(c, parsed); m != nil && c.isMadeBy(m) {
			return m
		}
	}
	if m := readerOf(c, "JSONObject"); m != nil {
		return m
	}
	return readerOf(c, "JSONArray")
}

// isMadeBy says whether a function of a class makes an instance of it, or a collection of them.
func (c *Class) isMadeBy(m *model.Method) bool {
	if m.Returns == nil { // nothing, or what its expression is; of a constructor the instance
		for i := m.Body[0]; m.IsExpression && i < m.Body[1]; i++ {
			if c.File.Is(i, c.Name) {
				return true
			}
		}
		return slices.Contains(c.Ctors, m)
	}
	isClass := func(t *model.Type) bool { return last(t.Name) == c.Name }
	u := m.Returns.Unwrapped()
	return isClass(u) || slices.ContainsFunc(u.Args, isClass)
}

// readerOf is the constructor or factory that takes a parsed value of a class: one that makes an
// instance, before others.
func readerOf(c *Class, parsed string) *model.Method {
	takes := func(all []*model.Method, static bool) (first *model.Method) {
		for _, m := range all {
			if static && !m.Static || !slices.ContainsFunc(m.Params, func(p *model.Parameter) bool {
				return p.Type != nil && last(p.Type.Unwrapped().Name) == parsed
			}) {
				continue
			}
			if c.isMadeBy(m) {
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

// isParsed says whether a name, perhaps with its package, is that of a class of parsed values.
func isParsed(name string) bool {
	name = last(name)
	return name == "JSONObject" || name == "JSONArray"
}

// takesParsed says whether a parameter takes a parsed value.
func takesParsed(p *model.Parameter) bool { return p.Type != nil && isParsed(p.Type.Unwrapped().Name) }

// holdsData says whether instances of a class hold values that a document may give them.
func holdsData(c *Class) bool {
	c.read()
	return c.Kind == "enum" || c.Kind == "record" || c.Kind == "class" && len(c.Fields) > 0
}
