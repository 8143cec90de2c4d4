package pairing

import (
	"vetta/internal/capture"
	"vetta/internal/decoder"
	"vetta/internal/drift"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/trial"
	"vetta/internal/wire"
)

// Matcher finds the type that single documents are decoded into.
type Matcher struct {
	set    *model.Set
	roots  []*root
	known  map[string]*candidate // by group and root of the document
	reader shape.Reader
	seen   *shape.Shape // what many responses looked like, nil where only the document tells
}

// NewMatcher makes a matcher for the models of a set. A shape of many responses may
// be given, which tells more than one document does; nil for none.
func NewMatcher(set *model.Set, seen *shape.Shape) *Matcher {
	return &Matcher{set: set, roots: rootsOf(set), known: map[string]*candidate{}, seen: seen}
}

// endpoint is what is known of the responses that a document is one of: from the
// shape, if that has the like, or from the document alone.
func (m *Matcher) endpoint(d capture.Document) (*shape.Endpoint, error) {
	e, err := m.alone(d)
	if err != nil || m.seen == nil {
		return e, err
	}
	best, most := e, -1
	for _, other := range m.seen.Endpoints {
		if !other.IsOf(d) || e.Root.Total() == 0 || other.Root.Count(e.Root.Kinds()[0]) == 0 {
			continue
		}
		shared := 0
		for _, k := range e.Root.Keys {
			if other.Root.Key(k.Name) != nil {
				shared++
			}
		}
		if shared > most {
			best, most = other, shared
		}
	}
	return best, nil
}

// alone is what one document tells of the responses that it is one of.
func (m *Matcher) alone(d capture.Document) (*shape.Endpoint, error) {
	e := shape.EndpointOf(d)
	if _, err := m.reader.Read(e, &shape.Source{Data: d.Data, Line: 1, Column: 1}, d.Start); err != nil {
		return nil, err
	}
	e.Settle()
	return e, nil
}

// only is the one type that the source decodes, nil where it decodes none or several.
func (m *Matcher) only() (only *root) {
	for _, t := range m.roots {
		if t.call == nil {
			continue
		}
		if only != nil {
			return nil
		}
		only = t
	}
	return only
}

// Match answers the values of a document that are decoded, with their plans; where
// there are none, why.
func (m *Matcher) Match(doc *wire.Value, d capture.Document) ([]trial.Target, string) {
	rootKeys, _ := shape.RootOf(d.Data, d.Start)
	key := shape.EndpointOf(d).Name + "\x00" + rootKeys
	best, ok := m.known[key]
	if !ok {
		e, err := m.endpoint(d)
		if err != nil {
			return nil, err.Error()
		}
		w := newField(&shape.Shape{Endpoints: []*shape.Endpoint{e}})
		for _, t := range m.roots {
			if c := t.at(e, w); c != nil && (best == nil || c.beats(best)) {
				best = c
			}
		}
		if only := m.only(); only != nil && (best == nil || best.score < threshold) {
			best = &candidate{root: only, endpoint: e, place: e.Root, score: threshold, evidence: []string{"it is all that the source decodes"}}
		}
		m.known[key] = best
	}
	if best == nil || best.score < threshold {
		why := "no model fits it: name the type with -model"
		if best != nil && best.score > 0.2 {
			why = "no model fits it (the nearest is " + best.root.declared + "): name the type with -model"
		}
		return nil, why
	}
	var targets []trial.Target
	doc.Each(best.place.Steps, func(v *wire.Value, steps []wire.Step) {
		targets = append(targets, trial.Target{Plan: best.root.plan, Value: v, At: wire.Pointer(steps)})
	})
	return targets, "it has nothing at " + best.place.Path()
}

// beats says whether a type fits better than another: one that a call decodes does where it fits at all.
func (c *candidate) beats(other *candidate) bool {
	if mine, its := c.root.call != nil && c.score >= threshold, other.root.call != nil && other.score >= threshold; mine != its {
		return mine
	}
	return c.score > other.score
}

// Named answers the plan of a type that was named for each document; or, of a document that is rather one of around,
// that one, see Around. around is nil for none.
func (m *Matcher) Named(plan, around *decoder.Plan) func(doc *wire.Value, d capture.Document) ([]trial.Target, string) {
	return func(doc *wire.Value, d capture.Document) ([]trial.Target, string) {
		if around != nil && m.isRather(around, plan, d) {
			return []trial.Target{{Plan: around, Value: doc}}, ""
		}
		return []trial.Target{{Plan: plan, Value: doc}}, ""
	}
}

// Around is the plan of the one type that calls decode and that holds a model which none decodes by itself, with the
// first of those calls; nil where there is none or several.
func (m *Matcher) Around(t *model.Type) (*decoder.Plan, *model.Call) {
	inner := t.Unwrapped()
	if inner.Model == nil {
		return nil, nil
	}
	var only *root
	for _, r := range m.roots {
		if r.call == nil {
			continue
		}
		if r.typ.Key() == inner.Key() || r.typ.Exact != nil { // by itself, or as one of several
			return nil, nil
		}
		holds := false
		r.typ.Reach(func(held *model.Model) { holds = holds || held == inner.Model })
		if holds && only != nil {
			return nil, nil
		}
		if holds {
			only = r
		}
	}
	if only == nil {
		return nil, nil
	}
	plan, err := trial.Of(m.set, only.typ, only.declared)
	if err != nil {
		return nil, nil
	}
	return plan, only.call
}

// isRather says whether a document is of the one plan rather than of the other.
func (m *Matcher) isRather(one, other *decoder.Plan, d capture.Document) bool {
	e, err := m.alone(d)
	if err != nil {
		return false
	}
	w := newField(&shape.Shape{Endpoints: []*shape.Endpoint{e}})
	fit := func(p *decoder.Plan) drift.Fitness {
		return drift.Fit(p.Asks(), e, e.Root, drift.Looking{Weight: w.of, Alike: w.alike, Called: true})
	}
	mine, its := fit(one), fit(other)
	if mine.RootKind != its.RootKind {
		return mine.RootKind > its.RootKind
	}
	isOfNeither := mine.RootKind == 0 && e.Root.Count(wire.Null) == 0
	return !isOfNeither && mine.Found >= its.Found
}
