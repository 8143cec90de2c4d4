package drift

import (
	"slices"

	"vetta/internal/decoder"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// rounds is how often the responses of a pair are read again: each time, the objects are told
// apart that stand one level further in.
const rounds = 8

// first takes the shapes of pairs through their plans, and reads an endpoint again, once for all its pairs, where texts
// became too many to be kept that some of them ask for.
func (c *checker) first(pairs []*Pair) {
	c.walks, c.judges, c.judged = map[*Pair]*walk{}, map[*shape.Endpoint][]shape.Judge{}, map[*shape.Endpoint]*shape.Endpoint{}
	for _, p := range pairs {
		if p.Plan.Writes != nil {
			continue
		}
		w := newWalk(p.Endpoint)
		w.whole(p, p.Place)
		c.walks[p] = w
		for _, j := range w.judged {
			c.judges[p.Endpoint] = append(c.judges[p.Endpoint], j.judge())
		}
	}
}

// whole takes what stands at a place through the plan of a pair.
func (w *walk) whole(p *Pair, place *shape.Place) {
	if p.Plan.Fragment != nil && len(place.Steps) == 0 {
		scalars := &decoder.Node{Op: decoder.OpMap, Second: &decoder.Node{}, Wrong: func(wire.Kind) *decoder.Error { return p.Plan.Fragment }}
		w.kinds(scalars, place, wire.Object, false)
	}
	root := p.Plan.Root
	if wire.IsMarkup(place.Steps) && p.Plan.Part != nil {
		root = p.Plan.Part
	}
	if key := metadataIn(p.Plan, place); key != "" { // which counts do not take as the library does
		w.untaken = true
		w.notFollowed(p.Plan.Type, "its responses have "+key+", by which the library takes one object for another")
		return
	}
	w.node(root, place, false)
}

// metadataIn is the first key of a library's own that the objects at a place, or inside them, have; "" for none.
func metadataIn(p *decoder.Plan, place *shape.Place) (found string) {
	if len(p.Metadata) > 0 {
		place.Walk(func(in *shape.Place) {
			for _, k := range in.Keys {
				if found == "" && slices.Contains(p.Metadata, k.Name) {
					found = k.Name
				}
			}
		})
	}
	return found
}

// again is the endpoint of a pair, read again: with its texts judged, and objects told apart.
func (c *checker) again(p *Pair, by []shape.Teller, judges []shape.Judge) *shape.Endpoint {
	if len(by) > 0 {
		return c.apart(p.Endpoint, by, append(judges[:len(judges):len(judges)], c.judges[p.Endpoint]...))
	}
	e, done := c.judged[p.Endpoint]
	if !done {
		e = c.apart(p.Endpoint, nil, c.judges[p.Endpoint])
		c.judged[p.Endpoint] = e
	}
	return e
}

// walked takes the shape of a pair through its plan.
func (c *checker) walked(p *Pair) *walk {
	w := c.walks[p]
	delete(c.walks, p) // which is large, and asked for once
	var by []shape.Teller
	var judges []shape.Judge
	for round := 0; round < rounds && len(w.tellers)+len(w.judged) > 0 && c.apart != nil; round++ {
		by = append(by, w.tellers...)
		if round > 0 { // of what stands in objects that were told apart
			for _, j := range w.judged {
				judges = append(judges, j.judge())
			}
		}
		again := c.again(p, by, judges)
		if again == nil || again == w.e {
			break
		}
		place := again.Place(p.Place.Steps)
		if place == nil {
			break
		}
		w = newWalk(again)
		w.whole(p, place)
	}
	w.partial = w.partial || p.Plan.Inexact || tooDeep(p)
	return w
}

// tooDeep says whether responses have lists and objects deeper inside each other than a decoder takes: in how many, the
// counts do not say.
func tooDeep(p *Pair) (found bool) {
	if p.Plan.MaxDepth == 0 {
		return false
	}
	p.Place.Walk(func(in *shape.Place) {
		depth := len(in.Steps) - len(p.Place.Steps)
		found = found || depth >= p.Plan.MaxDepth && in.Count(wire.Array)+in.Count(wire.Object) > 0
	})
	return found
}
