package shape

import (
	"maps"
	"slices"
)

// Copy is a collection of its own that holds the same, so that one may be merged with others and the other be kept.
func (c *Collection) Copy() *Collection {
	from := c.c
	to := newCollector(from.limits)
	to.captures, to.several, to.passedFiles = slices.Clone(from.captures), maps.Clone(from.several), maps.Clone(from.passedFiles)
	to.problems, to.docs, to.bytes, to.partial = slices.Clone(from.problems), from.docs, from.bytes, from.partial
	for key, p := range from.passed {
		one := *p
		to.passed[key] = &one
	}
	for key, g := range from.groups {
		own := &group{name: g.name, roots: map[string]*Endpoint{}}
		if g.route != nil {
			route := *g.route
			own.route = &route
		}
		for root, e := range g.roots {
			own.roots[root] = e.copy(own)
		}
		to.groups[key] = own
	}
	return &Collection{to}
}

// copy is the endpoint in another group. Nothing of it changes by being put together with one that is empty.
func (e *Endpoint) copy(in *group) *Endpoint {
	own := NewEndpoint(e.Name, e.limits)
	own.Route, own.Group = in.route, e.Group
	own.Merge(e)
	own.fixed, own.fixedRoot = e.fixed, e.fixedRoot
	return own
}
