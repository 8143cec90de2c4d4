package pairing

import (
	"fmt"
	"strings"

	"vetta/internal/shape"
	"vetta/internal/wire"
)

// leftOver looks again at the responses that no type of the app fits and at the types that fit none:
// whether one asks for them by their path, reads their keys under other names, or is of their name
// alone and asks for no key that could tell.
func (p *pairer) leftOver() {
	p.field.alike = true
	defer func() { p.field.alike = false }()
	for _, e := range p.open {
		if best := p.secondLook(e); best != nil {
			p.choose(best)
		}
	}
}

// secondLook is the best pair for an endpoint, nil for none.
func (p *pairer) secondLook(e *shape.Endpoint) (best *candidate) {
	var asking []*candidate
	var all []*root
	for _, t := range p.roots {
		sibling := p.beside(t, e)
		if !sibling && (p.chosen[t] || p.paired[t.model] && len(t.inner) == 0 || t.call == nil && nameLikeness(t, e, e.Root) < 0.6) {
			continue
		}
		if t.isRequested(e) {
			asking = append(asking, t.byPath(e))
		}
		all = append(all, t)
	}
	for _, t := range alike(all, p.field.sent[e]) {
		c := t.at(e, p.field)
		if c != nil && c.fit.Found > 0 && p.beside(t, e) {
			c.score += 0.2
			c.evidence = append(c.evidence, "other responses of "+groupName(e)+" are decoded so")
		}
		if c == nil && t.call != nil && namesake(t, e) {
			c = t.byName(e)
		}
		if c != nil && c.score >= threshold && (best == nil || c.score > best.score) {
			best = c
		}
	}
	if len(asking) == 1 && (best == nil || best.root.call == nil) {
		return asking[0]
	}
	if best == nil {
		return p.otherKind(e)
	}
	return best
}

// otherKind is the one called type by which other responses to the same request are decoded, of responses that have no
// keys at all: null, a text, a list of nothing or of no objects. What was requested is the same, and so is what decodes it.
func (p *pairer) otherKind(e *shape.Endpoint) (found *candidate) {
	if e.Route == nil || e.Route.Failed || e.Root.Count(wire.Object) > 0 || len(p.field.sent[e].keys) > 0 {
		return nil
	}
	for _, t := range p.roots {
		if t.call == nil || !p.beside(t, e) {
			continue
		}
		if found != nil {
			return nil
		}
		found = &candidate{root: t, endpoint: e, place: t.start(e), score: threshold,
			evidence: []string{"other responses of " + groupName(e) + " are decoded so", fmt.Sprintf("decoded as %s at %s", t.declared, t.call.Pos)}}
	}
	return found
}

// namesake says whether a type's model has the very name of an endpoint, but for its plural.
func namesake(t *root, e *shape.Endpoint) bool {
	single := func(name string) string { return strings.TrimSuffix(plain(name), "s") }
	own := single(t.model.Name)
	return own != "" && own == single(lastName(e))
}

// byName is a type that asks for no key at an endpoint of its name: the library refuses its class,
// say, or a key tells which class to read.
func (t *root) byName(e *shape.Endpoint) *candidate {
	return &candidate{root: t, endpoint: e, place: t.start(e), score: threshold,
		evidence: []string{"the names are alike", fmt.Sprintf("decoded as %s at %s", t.declared, t.call.Pos)}}
}

// byPath is a type that is requested from the path of an endpoint, whatever that sends.
func (t *root) byPath(e *shape.Endpoint) *candidate {
	by, _ := t.requested(e)
	return &candidate{root: t, endpoint: e, place: t.start(e), score: threshold,
		evidence: []string{"requested from " + by.String(), fmt.Sprintf("decoded as %s at %s", t.declared, t.call.Pos)}}
}
