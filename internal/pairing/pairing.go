// Package pairing finds out which type is decoded from which place of which
// endpoint, and says why it thinks so.
package pairing

import (
	"fmt"
	"math"
	"path"
	"slices"
	"sort"
	"strings"

	"github.com/bmatcuk/doublestar/v4"

	"vetta/internal/decoder"
	"vetta/internal/decoder/library"
	"vetta/internal/drift"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/source"
	"vetta/internal/trial"
	"vetta/internal/wire"
)

// Result is how types and endpoints were paired.
type Result struct {
	Pairs     []*drift.Pair
	Models    []Alone // models that found no partner
	Endpoints []Alone // endpoints that found none
	Unknown   []Alone // types whose plan refuses: nothing is claimed about them
}

// Alone is a model or an endpoint without a partner, with the nearest candidate and
// why that is not one.
type Alone struct {
	Model    *model.Model
	Endpoint *shape.Endpoint
	Nearest  string
	Why      string
}

// Manual is a pairing that the user has set by hand.
type Manual struct {
	Type  string // as the source would write it
	Glob  string // of captures
	Place string // JSONPath, "" for the root
}

// ParseManual reads TYPE=GLOB#PLACE, of which #PLACE may be left out.
func ParseManual(text string) (Manual, error) {
	typ, rest, ok := strings.Cut(text, "=")
	if !ok || typ == "" || rest == "" {
		return Manual{}, fmt.Errorf("%q is not TYPE=CAPTURES#PLACE, as in 'Sailing=captures/sailings*#$.sailings[*]'", text)
	}
	glob, place, _ := strings.Cut(rest, "#")
	if !doublestar.ValidatePattern(glob) {
		return Manual{}, fmt.Errorf("%q is no pattern for file names", glob)
	}
	return Manual{Type: strings.TrimSpace(typ), Glob: glob, Place: place}, nil
}

// root is a type that may be what a response is decoded into.
type root struct {
	typ      *model.Type
	declared string
	model    *model.Model // the first that it names
	call     *model.Call  // nil where no call names it
	plan     *decoder.Plan
}

// candidate is a root at a place, with how well they fit.
type candidate struct {
	root     *root
	endpoint *shape.Endpoint
	place    *shape.Place
	score    float64
	found    int // keys that it asks for and that are sent
	evidence []string
}

// threshold is the score from which a pair is believed.
const threshold = 0.5

// Pair pairs the types of a set with the endpoints of a shape. files are the
// captures by order, for the patterns of what was set by hand.
func Pair(set *model.Set, s *shape.Shape, manual []Manual, files []string) (*Result, error) {
	r := &Result{}
	taken := map[*shape.Endpoint]bool{}
	paired := map[*model.Model]bool{}
	for _, m := range manual {
		pairs, err := byHand(set, s, m, files)
		if err != nil {
			return nil, err
		}
		for _, p := range pairs {
			taken[p.Endpoint] = true
			reach(p.Plan.Type, paired)
		}
		r.Pairs = append(r.Pairs, slices.DeleteFunc(pairs, func(p *drift.Pair) bool { return p.Plan.Unclaimed() != "" })...)
	}
	roots := r.followed(rootsOf(set), paired)
	w := newWeights(s)
	best := map[*root]*candidate{} // whatever its score
	chosen := map[*root]bool{}
	for _, e := range s.Endpoints {
		var all []*candidate
		for _, t := range roots {
			if c := t.at(e, w); c != nil {
				all = append(all, c)
				if b := best[t]; b == nil || c.score > b.score {
					best[t] = c
				}
			}
		}
		if taken[e] {
			continue
		}
		sort.SliceStable(all, func(i, k int) bool { return all[i].score > all[k].score })
		if len(all) == 0 || all[0].score < threshold {
			r.Endpoints = append(r.Endpoints, aloneEndpoint(e, all))
			continue
		}
		for i, c := range all {
			// A second type is paired with the same responses if it fits them as well.
			if i > 0 && (c.score < threshold || c.score < all[0].score-0.05 || c.root.call == nil && all[0].root.call != nil) {
				break
			}
			chosen[c.root] = true
			reach(c.root.typ, paired)
			r.Pairs = append(r.Pairs, c.pair())
		}
	}
	// A type that another one has beaten everywhere still takes its best place, if
	// it fits there.
	for _, t := range roots {
		if b := best[t]; !chosen[t] && !paired[t.model] && b != nil && b.score >= threshold && !taken[b.endpoint] {
			chosen[t] = true
			reach(t.typ, paired)
			r.Pairs = append(r.Pairs, b.pair())
		}
	}
	r.leftOver(roots, w, chosen, paired)
	r.Pairs = append(r.Pairs, elsewhere(roots, s, w, r.Pairs)...)
	for _, t := range roots {
		if chosen[t] || paired[t.model] || isKindOf(t.model, paired) {
			continue
		}
		paired[t.model] = true
		r.Models = append(r.Models, aloneModel(t, best[t]))
	}
	return r, nil
}

// followed are the roots of which something is claimed. Of the others nothing is claimed,
// whatever they would fit.
func (r *Result) followed(all []*root, paired map[*model.Model]bool) (roots []*root) {
	for _, t := range all {
		why := t.plan.Unclaimed()
		if why == "" {
			roots = append(roots, t)
			continue
		}
		reach(t.typ, paired)
		r.Unknown = append(r.Unknown, Alone{Model: t.model, Why: why})
	}
	return roots
}

// leftOver looks again at the responses that no type fits and at the types that fit none: whether
// one reads their keys under other names, or is of their name alone and asks for no key that
// could tell.
func (r *Result) leftOver(roots []*root, w *weights, chosen map[*root]bool, paired map[*model.Model]bool) {
	w.alike = true
	defer func() { w.alike = false }()
	alone := r.Endpoints[:0:0]
	for _, a := range r.Endpoints {
		var best *candidate
		for _, t := range roots {
			sibling := r.beside(t, a.Endpoint)
			if !sibling && (chosen[t] || paired[t.model] || t.call == nil && nameLikeness(t, a.Endpoint, a.Endpoint.Root) < 0.6) {
				continue
			}
			c := t.at(a.Endpoint, w)
			if sibling && c != nil && c.found > 0 {
				c.score += 0.2
				c.evidence = append(c.evidence, "other responses of "+groupName(a.Endpoint)+" are decoded so")
			}
			if c == nil && t.call != nil && namesake(t, a.Endpoint) {
				c = t.byName(a.Endpoint)
			}
			if c != nil && c.score >= threshold && (best == nil || c.score > best.score) {
				best = c
			}
		}
		if best == nil {
			alone = append(alone, a)
			continue
		}
		chosen[best.root] = true
		reach(best.root.typ, paired)
		r.Pairs = append(r.Pairs, best.pair())
	}
	r.Endpoints = alone
}

// beside says whether a type is paired with other responses of the captures that an endpoint is of,
// which were set apart since their keys differ.
func (r *Result) beside(t *root, e *shape.Endpoint) bool {
	return slices.ContainsFunc(r.Pairs, func(p *drift.Pair) bool {
		return p.Plan == t.plan && p.Endpoint != e && groupName(p.Endpoint) == groupName(e)
	})
}

// groupName is the name of an endpoint without the keys that set it apart from others.
func groupName(e *shape.Endpoint) string {
	name, _, _ := strings.Cut(e.Name, " (")
	return name
}

// namesake says whether a type's model has the very name of an endpoint, but for its plural.
func namesake(t *root, e *shape.Endpoint) bool {
	single := func(name string) string { return strings.TrimSuffix(strings.Join(drift.Words(name), ""), "s") }
	own := single(t.model.Name)
	return own != "" && own == single(lastName(e))
}

// byName is a type that asks for no key at an endpoint of its name: the library refuses its class,
// say, or a key tells which class to read.
func (t *root) byName(e *shape.Endpoint) *candidate {
	return &candidate{root: t, endpoint: e, place: e.Root, score: threshold,
		evidence: []string{"the names are alike", fmt.Sprintf("decoded as %s at %s", t.declared, t.call.Pos)}}
}

// elsewhere finds further places of types that no call names: a model that is paired
// with one place is checked at every other that it fits as well and that nothing
// else is read from.
func elsewhere(roots []*root, s *shape.Shape, w *weights, pairs []*drift.Pair) (more []*drift.Pair) {
	taken := drift.Places(pairs)
	for _, t := range roots {
		if t.call != nil {
			continue
		}
		least := 2.0 // the score of its worst place so far
		for _, p := range pairs {
			if p.Plan == t.plan {
				if c := t.score(p.Endpoint, p.Place, w); c != nil {
					least = min(least, c.score)
				}
			}
		}
		for _, e := range s.Endpoints {
			e.Root.Walk(func(p *shape.Place) {
				if taken[p] || p.Count(wire.Object) == 0 || len(p.Steps) > 6 {
					return
				}
				if c := t.score(e, p, w); c != nil && c.score >= max(threshold+0.1, least-0.1) {
					taken[p] = true
					c.evidence = append(c.evidence, "found again at "+p.Path())
					more = append(more, c.pair())
				}
			})
		}
	}
	return more
}

// isKindOf says whether a class extends or implements one that is paired: then it is read where
// a key says so.
func isKindOf(m *model.Model, paired map[*model.Model]bool) bool {
	for depth := 0; m != nil && depth < 16; depth++ { // classes may extend each other in a circle
		for _, name := range m.Conforms {
			if m.Related != nil && paired[m.Related(name)] {
				return true
			}
		}
		if m.Super == nil {
			return false
		}
		if m = m.Super.Model; paired[m] {
			return true
		}
	}
	return false
}

func reach(t *model.Type, paired map[*model.Model]bool) {
	source.Reach(t, func(m *model.Model) { paired[m] = true })
}

func (c *candidate) pair() *drift.Pair {
	return &drift.Pair{Plan: c.root.plan, Endpoint: c.endpoint, Place: c.place, Evidence: c.evidence, Call: c.root.call}
}

// rootsOf are the types that responses may be decoded into: those that a call
// names, and models with keys that no other model holds.
func rootsOf(set *model.Set) (roots []*root) {
	known := map[string]bool{}
	called := map[*model.Model]bool{}
	finder := library.NewFinder(set)
	add := func(t *model.Type, declared string, call *model.Call) {
		m := firstModel(t)
		if m == nil || known[t.Key()] {
			return
		}
		known[t.Key()] = true
		settings, swallowed := finder.For(t)
		plan := library.For(m.Language, settings).Plan(t, declared, settings)
		plan.Swallowed = swallowed
		roots = append(roots, &root{typ: t, declared: declared, model: m, call: call, plan: plan})
	}
	for _, c := range set.Calls {
		if c.Type != nil {
			add(c.Type.Unwrapped(), c.Declared, c)
			source.Reach(c.Type, func(m *model.Model) { called[m] = true })
		}
	}
	held := map[*model.Model]bool{}
	for _, m := range set.Models {
		source.Reach(&model.Type{Name: m.Name, Model: m}, func(inner *model.Model) {
			if inner != m {
				held[inner] = true
			}
		})
	}
	for _, m := range set.Models {
		if (m.Decodable || m.FromMap) && !held[m] && !called[m] && hasKeys(m) && len(m.Params) == 0 {
			add(&model.Type{Name: m.Name, Model: m}, m.Name, nil)
		}
	}
	return roots
}

func firstModel(t *model.Type) (found *model.Model) {
	t.Walk(func(t *model.Type) {
		if found == nil {
			found = t.Model
		}
	})
	return found
}

// hasKeys says whether a model is read from the keys of an object: enums and
// wrappers of one value are not roots of responses.
func hasKeys(m *model.Model) bool {
	if m.Raw != nil {
		return false
	}
	for _, f := range m.Fields {
		if len(f.Keys) > 0 {
			return true
		}
	}
	return false
}

// at finds the place of an endpoint that the type fits best, nil for none. A type
// that a call names is decoded from the response as a whole.
func (t *root) at(e *shape.Endpoint, w *weights) *candidate {
	var best *candidate
	try := func(p *shape.Place) {
		c := t.score(e, p, w)
		if c != nil && (best == nil || c.score > best.score) {
			best = c
		}
	}
	try(e.Root)
	if t.call != nil {
		return t.inEnvelope(best, e, w)
	}
	e.Root.Walk(func(p *shape.Place) {
		if p != e.Root && len(p.Steps) <= 6 && p.Count(wire.Object) > 0 {
			try(p)
		}
	})
	if best != nil && best.place != e.Root && len(t.plan.Asks().Steps) == 0 {
		best.evidence = append(best.evidence, "found inside the response, at "+best.place.Path())
	}
	return best
}

// inEnvelope looks inside a response for what a call wants to decode from it as a
// whole: where it is there, the pair is right and the call is wrong.
func (t *root) inEnvelope(whole *candidate, e *shape.Endpoint, w *weights) *candidate {
	if whole == nil || whole.score >= threshold {
		return whole
	}
	var inner *candidate
	e.Root.Walk(func(p *shape.Place) {
		if p == e.Root || len(p.Steps) > 3 {
			return
		}
		if c := t.score(e, p, w); c != nil && (inner == nil || c.score > inner.score) {
			inner = c
		}
	})
	if inner == nil || inner.score < threshold+0.1 {
		return whole
	}
	whole.score = inner.score * 0.9
	whole.evidence = append(whole.evidence, "what it decodes is found inside the response, at "+inner.place.Path())
	return whole
}

// weights are how much a key tells: one that many places have tells little.
type weights struct {
	places map[string]int
	alike  bool // keys under other names are looked for
}

func newWeights(s *shape.Shape) *weights {
	w := &weights{places: map[string]int{}}
	for _, e := range s.Endpoints {
		e.Root.Walk(func(p *shape.Place) {
			for _, k := range p.Keys {
				w.places[k.Name]++
			}
		})
	}
	return w
}

func (w *weights) of(key string) float64 { return 1 / math.Sqrt(float64(max(1, w.places[key]))) }

// score says how well a type fits a place: by the keys that it reads and the place
// has, by the share of values that decode, by names, and by how much of what the
// place has it reads.
func (t *root) score(e *shape.Endpoint, p *shape.Place, w *weights) *candidate {
	fit := drift.Fit(t.plan.Asks(), e, p, w.of, w.alike)
	if fit.Asked == 0 {
		return nil
	}
	c := &candidate{root: t, endpoint: e, place: p}
	name := nameLikeness(t, e, p)
	asked := false
	if t.call != nil && requested(t.call.Endpoint, e) {
		name, asked = 1, true
	}
	certain := min(1, 0.4+0.2*float64(fit.Found))
	c.score = (0.55*fit.Keys+0.2*fit.Values+0.1*fit.Read)*certain + 0.25*name
	if fit.Found == 0 {
		c.score = min(c.score, 0.3)
	}
	if fit.RootKind < 1 {
		c.score *= 0.6 + 0.4*fit.RootKind
	}
	c.found = fit.Found
	verb := "are"
	if fit.Found == 1 {
		verb = "is"
	}
	c.evidence = append(c.evidence, fmt.Sprintf("%d of its %d keys %s sent", fit.Found, fit.Asked, verb))
	if fit.Alike > 0 {
		c.evidence = append(c.evidence, fmt.Sprintf("%d of them under another name", fit.Alike))
	}
	if fit.RootKind == 0 {
		c.evidence = append(c.evidence, "the response is of another kind than "+t.declared)
	}
	switch {
	case asked:
		c.evidence = append(c.evidence, "requested from "+t.call.Endpoint)
	case name >= 0.5:
		c.evidence = append(c.evidence, "the names are alike")
	}
	if t.call != nil {
		c.evidence = append(c.evidence, fmt.Sprintf("decoded as %s at %s", t.declared, t.call.Pos))
	}
	return c
}

// requested says whether a request's path, v2/sailings/{id}/fares, is that of an
// endpoint's captures by its last word that is no parameter.
func requested(request string, e *shape.Endpoint) bool {
	words := strings.FieldsFunc(request, func(r rune) bool { return r == '/' || r == '?' })
	for i := len(words) - 1; i >= 0; i-- {
		if strings.ContainsAny(words[i], "{=") {
			continue
		}
		want := drift.Words(words[i])
		return len(want) > 0 && slices.Equal(want, drift.Words(lastName(e)))
	}
	return false
}

// lastName is the last word of an endpoint's name that says anything: ports of v2/ports/*.
func lastName(e *shape.Endpoint) string { return path.Base(strings.TrimRight(e.Name, "/*")) }

// nameLikeness compares the model's name with those of the endpoint and the place,
// 0 to 1.
func nameLikeness(t *root, e *shape.Endpoint, p *shape.Place) float64 {
	names := drift.Words(lastName(e))
	for _, s := range p.Steps {
		names = append(names, drift.Words(s.Name)...)
	}
	best := 0.0
	own := drift.Words(t.model.Name)
	t.typ.Walk(func(inner *model.Type) {
		if inner.Model != nil && inner.Model != t.model {
			own = append(own, drift.Words(inner.Model.Name)...)
		}
	})
	for i, a := range own {
		for _, b := range names {
			a, b := strings.TrimSuffix(a, "s"), strings.TrimSuffix(b, "s")
			switch {
			case a == b && len(a) > 2:
				best = max(best, 1-0.2*float64(min(i, 2)))
			case len(a) > 3 && len(b) > 3 && (strings.HasPrefix(a, b) || strings.HasPrefix(b, a)):
				best = max(best, 0.6)
			}
		}
	}
	return best
}

func aloneEndpoint(e *shape.Endpoint, all []*candidate) Alone {
	a := Alone{Endpoint: e, Why: "no model reads its keys"}
	if len(all) > 0 && all[0].score > 0.1 {
		a.Nearest = all[0].root.declared
		a.Why = strings.Join(all[0].evidence, ", ")
	}
	return a
}

func aloneModel(t *root, best *candidate) Alone {
	a := Alone{Model: t.model, Why: "no response has its keys"}
	switch {
	case t.plan.Root.Op == decoder.OpUnknown:
		a.Why = "it is read in a way that is not followed: " + t.plan.Root.Why
	case best != nil && best.score > 0.1:
		a.Nearest = best.endpoint.Name + " " + best.place.Path()
		a.Why = strings.Join(best.evidence, ", ")
	}
	return a
}

// byHand makes the pairs that the user has set.
func byHand(set *model.Set, s *shape.Shape, m Manual, files []string) (pairs []*drift.Pair, err error) {
	plan, err := trial.For(set, m.Type)
	if err != nil {
		return nil, err
	}
	placed := false
	for _, e := range s.Endpoints {
		if !matches(e, m.Glob, files) {
			continue
		}
		place := e.Root
		if m.Place != "" {
			if place = e.At(m.Place); place == nil {
				continue
			}
		}
		placed = true
		pairs = append(pairs, &drift.Pair{Plan: plan, Endpoint: e, Place: place, Evidence: []string{"set by -pair"}})
	}
	if !placed {
		return nil, fmt.Errorf("no capture that matches %s has the place %s; vetta check lists the groups of captures", m.Glob, m.Place)
	}
	return pairs, nil
}

func matches(e *shape.Endpoint, glob string, files []string) bool {
	for order, file := range files {
		if !e.HasFile(order) {
			continue
		}
		file = strings.TrimPrefix(file, "./")
		for _, name := range []string{file, strings.TrimSuffix(file, path.Ext(file)), path.Base(file)} {
			if ok, _ := doublestar.Match(strings.TrimPrefix(glob, "./"), name); ok {
				return true
			}
		}
		if ok, _ := doublestar.Match("**/"+glob, file); ok {
			return true
		}
	}
	return false
}
