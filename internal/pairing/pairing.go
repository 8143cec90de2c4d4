// Package pairing finds out which type is decoded from which place of which
// endpoint, and says why it thinks so.
package pairing

import (
	"slices"
	"sort"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/drift"
	"vetta/internal/model"
	"vetta/internal/shape"
)

// Result is how types and endpoints were paired.
type Result struct {
	Pairs     []*drift.Pair
	Models    []Alone // models that found no partner
	Endpoints []Alone // endpoints that found none
	Unjudged  []Alone // models of which nothing is claimed; Endpoint is what they seem to be decoded from
	Extended  []Extended
	Left      int   // classes that may be data, and whose keys no response has: they are no models
	Odd       []Odd // pairings set by hand that lead to nothing
	pairers   []*pairer
	sentRoots []*sentRoot
	sentSure  map[*drift.Pair]Sureness
	order     map[*shape.Endpoint]int // of the endpoints in the shape
}

// Extended is a model whose fields are judged in those that extend it.
type Extended struct {
	Model *model.Model
	In    []string
}

// Alone is a model or an endpoint without a partner, with the nearest candidate and
// why that is not one.
type Alone struct {
	Model    *model.Model
	Endpoint *shape.Endpoint
	Nearest  string
	Why      string
}

// Pair pairs the types of a set with the endpoints of a shape, those of each app by themselves.
func Pair(set *model.Set, s *shape.Shape, manual []Manual) (*Result, error) {
	r := &Result{sentSure: map[*drift.Pair]Sureness{}, order: make(map[*shape.Endpoint]int, len(s.Endpoints))}
	for i, e := range s.Endpoints {
		r.order[e] = i
	}
	all := s
	s = answers(all)
	roots := rootsOf(set)
	for _, t := range roots {
		t.elsewhere = slices.ContainsFunc(s.Endpoints, t.isRequested)
	}
	f := newField(s)
	apps := appsOf(set, roots)
	byHand, err := r.setByHand(set, all, manual, roots)
	if err != nil {
		return nil, err
	}
	for _, h := range byHand {
		r.Pairs = append(r.Pairs, h...)
	}
	declare(set, r.Pairs)
	for _, a := range apps {
		p := &pairer{Result: r, app: a, field: f, shape: s, taken: map[*shape.Endpoint]bool{}, chosen: map[*root]bool{}, paired: map[*model.Model]bool{}, best: map[*root]*candidate{}, tried: map[tried]*candidate{}, groups: map[ofGroup][]*shape.Endpoint{}, made: map[*drift.Pair]*candidate{}}
		p.manual(byHand)
		p.pair()
		r.pairers = append(r.pairers, p)
	}
	r.Pairs = slices.DeleteFunc(r.Pairs, func(p *drift.Pair) bool { return p.Plan.Unclaimed() != "" })
	r.sends(set, all)
	r.leavePerhaps(set)
	return r, nil
}

// declare makes classes models of a set that the user has paired though nothing is seen to decode them.
func declare(set *model.Set, pairs []*drift.Pair) {
	if len(pairs) == 0 {
		return
	}
	known := make(map[*model.Model]bool, len(set.Models))
	for _, m := range set.Models {
		known[m] = true
	}
	for _, p := range pairs {
		p.Plan.Type.Reach(func(m *model.Model) {
			if !known[m] {
				known[m] = true
				set.Models = append(set.Models[:len(set.Models):len(set.Models)], m)
			}
		})
	}
}

// leavePerhaps takes classes out of a set that are models only where responses have their keys, and that no
// pair holds.
func (r *Result) leavePerhaps(set *model.Set) {
	held := map[*model.Model]bool{}
	for _, p := range r.Pairs {
		p.Plan.Type.Reach(func(m *model.Model) { held[m] = true })
	}
	before := len(set.Models)
	set.Models = slices.DeleteFunc(slices.Clone(set.Models), func(m *model.Model) bool { return m.Perhaps && !held[m] })
	r.Left = before - len(set.Models)
}

// answers is a shape without the endpoints of what was sent: no model is decoded from those.
func answers(s *shape.Shape) *shape.Shape {
	out := *s
	out.Endpoints = slices.DeleteFunc(slices.Clone(s.Endpoints), isRequest)
	return &out
}

func isRequest(e *shape.Endpoint) bool { return e.Route != nil && e.Route.Request }

// pairer pairs the types of one app.
type pairer struct {
	*Result
	app    *app
	field  *field
	index  *index
	shape  *shape.Shape
	roots  []*root                  // of which something is claimed
	taken  map[*shape.Endpoint]bool // by what was set by hand
	chosen map[*root]bool
	paired map[*model.Model]bool // those that a chosen type holds
	best   map[*root]*candidate  // whatever its score
	tried  map[tried]*candidate
	pairs  []*drift.Pair // of this app
	made   map[*drift.Pair]*candidate
	groups map[ofGroup][]*shape.Endpoint
	open   []*shape.Endpoint // endpoints that no type of the app was found for
}

// ofGroup is a type at captures that have a name in common.
type ofGroup struct {
	plan  *decoder.Plan
	group string
}

// tried is a type at an endpoint.
type tried struct {
	root     *root
	endpoint *shape.Endpoint
}

// choose makes a pair of a candidate.
func (p *pairer) choose(c *candidate) {
	p.chosen[c.root] = true
	c.root.typ.Reach(func(m *model.Model) { p.paired[m] = true })
	for _, m := range classesOf(c.root.plan.Root) {
		p.paired[m] = true
	}
	pair := c.pair()
	p.made[pair] = c
	p.pairs = append(p.pairs, pair)
	group := ofGroup{pair.Plan, groupName(pair.Endpoint)}
	p.groups[group] = append(p.groups[group], pair.Endpoint)
	p.Pairs = append(p.Pairs, pair)
}

// classesOf are the classes that may come in the place of another, as its decoder is told.
func classesOf(root *decoder.Node) (all []*model.Model) {
	seen := map[*decoder.Node]bool{}
	var walk func(n *decoder.Node, chosen bool)
	walk = func(n *decoder.Node, chosen bool) {
		if n == nil || seen[n] {
			return
		}
		seen[n] = true
		if chosen && n.Model != nil {
			all = append(all, n.Model)
		}
		isChoice := n.Op == decoder.OpSubtype
		walk(n.Inner, false)
		walk(n.Second, isChoice)
		walk(n.Third, isChoice)
		for _, b := range n.Branches {
			walk(b.Node, isChoice)
		}
		for _, s := range n.Steps {
			walk(s.Node, false)
		}
	}
	walk(root, false)
	return all
}

// manual takes note of the pairs that were set by hand, of those that are of the app.
func (p *pairer) manual(byHand [][]*drift.Pair) {
	for _, pairs := range byHand {
		for _, pair := range pairs {
			m := firstModel(pair.Plan.Type)
			if m == nil || len(p.app.roots) == 0 || family(m.Language) != family(p.app.roots[0].model.Language) {
				continue
			}
			p.taken[pair.Endpoint] = true
			pair.Plan.Type.Reach(func(m *model.Model) { p.paired[m] = true })
		}
	}
}

func (p *pairer) pair() {
	for _, t := range p.app.roots {
		if t.plan.Unclaimed() == "" {
			p.roots = append(p.roots, t)
		}
	}
	p.index = newIndex(p.roots, p.field, p.shape.Endpoints)
	for _, e := range p.shape.Endpoints {
		p.endpoint(e)
	}
	p.leftOver()
	// A type that another one has beaten everywhere still takes its best place, if it fits there
	// wholly.
	for _, t := range p.roots {
		if b := p.best[t]; !p.chosen[t] && b != nil && b.score >= threshold && !p.taken[b.endpoint] && (!p.paired[t.model] && !t.held || b.whole() && len(t.inner) > 0) {
			p.choose(b)
		}
	}
	p.elsewhere()
}

// endpoint pairs an endpoint with the types that fit it best.
func (p *pairer) endpoint(e *shape.Endpoint) {
	var all []*candidate
	for _, t := range p.index.near[e] {
		if c := t.at(e, p.field); c != nil {
			all = append(all, c)
			p.tried[tried{t, e}] = c
			if b := p.best[t]; b == nil || c.score > b.score {
				p.best[t] = c
			}
		}
	}
	if p.taken[e] {
		return
	}
	sort.SliceStable(all, func(i, k int) bool {
		if a, b := all[i].asked(), all[k].asked(); a != b {
			return a
		}
		return all[i].score > all[k].score
	})
	all = p.withoutOthers(e, p.withoutHeld(e, all))
	if len(all) == 0 || all[0].score < threshold {
		p.open = append(p.open, e)
		return
	}
	for i, c := range all {
		// A second type is paired with the same responses if it fits them as well.
		if i > 0 && (all[0].asked() && !c.asked() || c.score < threshold || c.score < all[0].score-0.05 || c.root.call == nil && all[0].root.call != nil) {
			break
		}
		p.choose(c)
	}
}

// clearly is how much more of the values must decode as one type for others not to be meant.
const clearly = 0.25

// withoutOthers leaves out types of other requests whose paths end alike, v2/fares/{id} beside v2/fares, where files
// name the endpoint and do not tell which of them was requested: what is sent tells it by its values.
func (p *pairer) withoutOthers(e *shape.Endpoint, all []*candidate) []*candidate {
	if e.Route != nil {
		return all
	}
	var best *candidate
	for _, c := range all {
		if c.asked() && (best == nil || c.fit.Values > best.fit.Values) {
			best = c
		}
	}
	if best == nil {
		return all
	}
	by, _ := best.root.requested(e)
	return slices.DeleteFunc(all, func(c *candidate) bool {
		if !c.asked() || c.fit.Values > best.fit.Values-clearly {
			return false
		}
		other, _ := c.root.requested(e)
		if other.path != by.path && p.best[c.root] == c { // nor is it where nothing else is
			delete(p.best, c.root)
		}
		return other.path != by.path
	})
}

// withoutHeld leaves out types that another model holds: what is sent is read through that one. Only
// where the best of the others lacks keys that such a type has, and no call names it or requests what is
// sent, the type is decoded by itself, as far as can be told.
func (p *pairer) withoutHeld(e *shape.Endpoint, all []*candidate) []*candidate {
	if holder := p.holder(e, all); holder != nil {
		return []*candidate{holder}
	}
	held := slices.IndexFunc(all, func(c *candidate) bool { return c.root.held })
	other := slices.IndexFunc(all, func(c *candidate) bool { return !c.root.held && c.score >= threshold })
	asked := slices.ContainsFunc(p.roots, func(t *root) bool { return t.isRequested(e) })
	if !asked && held >= 0 && all[held].score >= threshold && (other < 0 || held < other && all[other].root.call == nil && !all[other].whole()) {
		return all[held : held+1]
	}
	return slices.DeleteFunc(all, func(c *candidate) bool { return c.root.held })
}

// holder is the one type that calls decode of which all keys are sent, though they are too few to be sure, where a type
// that it holds fits what stands inside of them: that is read through it.
func (p *pairer) holder(e *shape.Endpoint, all []*candidate) (found *candidate) {
	held := slices.IndexFunc(all, func(c *candidate) bool { return c.root.held && c.score >= threshold && c.place != e.Root })
	if held < 0 || slices.ContainsFunc(all, func(c *candidate) bool { return !c.root.held && c.score >= threshold }) {
		return nil
	}
	for _, c := range all {
		if c.root.call == nil || c.enveloped || c.fit.RootKind < 1 || c.fit.Found == 0 || c.fit.Found < c.fit.Asked {
			continue
		}
		holds := false
		c.root.typ.Reach(func(m *model.Model) { holds = holds || m == all[held].root.model })
		if holds && found != nil {
			return nil
		}
		if holds {
			found = c
		}
	}
	if found != nil {
		found.score = max(found.score, threshold)
	}
	return found
}

// elsewhere finds further places of types that no call names: a model that is paired
// with one place is checked at every other that it fits as well and that nothing
// else is read from.
func (p *pairer) elsewhere() {
	taken := drift.Places(p.pairs)
	least := map[*decoder.Plan]float64{} // the score of a type's worst place so far
	of := map[*decoder.Plan][]*drift.Pair{}
	for _, pair := range p.pairs {
		of[pair.Plan] = append(of[pair.Plan], pair)
	}
	for _, t := range p.roots {
		if t.call != nil || t.held || !p.chosen[t] {
			continue
		}
		for _, pair := range of[t.plan] {
			if c := t.score(pair.Endpoint, pair.Place, p.field); c != nil && (least[t.plan] == 0 || c.score < least[t.plan]) {
				least[t.plan] = c.score
			}
		}
	}
	for _, e := range p.shape.Endpoints {
		for _, t := range p.index.near[e] {
			worst, ok := least[t.plan]
			bar := max(threshold+0.1, worst-0.1)
			if best := p.tried[tried{t, e}]; !ok || best == nil || best.score < bar {
				continue
			}
			for _, place := range p.field.likely(t, e, furthest, false) {
				if taken[place] {
					continue
				}
				if c := t.score(e, place, p.field); c != nil && c.score >= bar {
					taken[place] = true
					c.evidence = append(c.evidence, "found again at "+place.Path())
					p.choose(c)
				}
			}
		}
	}
}

// beside says whether a type is paired with other responses of the captures that an endpoint is of,
// which were set apart since their keys differ.
func (p *pairer) beside(t *root, e *shape.Endpoint) bool {
	return slices.ContainsFunc(p.groups[ofGroup{t.plan, groupName(e)}], func(other *shape.Endpoint) bool { return other != e })
}

// why says what speaks for a candidate.
func (c *candidate) why() string { return strings.Join(c.evidence, ", ") }
