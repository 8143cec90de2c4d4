package pairing

import (
	"vetta/internal/capture"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/trial"
	"vetta/internal/wire"
)

// Matcher finds the type that single documents are decoded into.
type Matcher struct {
	roots  []*root
	known  map[string]*candidate // by group and root of the document
	reader shape.Reader
}

// NewMatcher makes a matcher for the models of a set.
func NewMatcher(set *model.Set) *Matcher {
	return &Matcher{roots: rootsOf(set), known: map[string]*candidate{}}
}

// Match answers the values of a document that are decoded, with their plans; where
// there are none, why.
func (m *Matcher) Match(doc *wire.Value, d capture.Document) ([]trial.Target, string) {
	name := capture.Group(d.File.Path)
	rootKeys, _ := shape.RootOf(d.Data, d.Start)
	key := name + "\x00" + rootKeys
	best, ok := m.known[key]
	if !ok {
		e := shape.NewEndpoint(name, shape.DefaultLimits)
		src := &shape.Source{Data: d.Data, Line: 1, Column: 1}
		if _, err := m.reader.Read(e, src, d.Start); err != nil {
			return nil, err.Error()
		}
		e.Settle()
		w := newWeights(&shape.Shape{Endpoints: []*shape.Endpoint{e}})
		for _, t := range m.roots {
			if c := t.at(e, w); c != nil && (best == nil || c.score > best.score) {
				best = c
			}
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
	within(doc, best.place.Steps, nil, func(v *wire.Value, steps []wire.Step) {
		targets = append(targets, trial.Target{Plan: best.root.plan, Value: v, At: wire.Pointer(steps)})
	})
	return targets, "it has nothing at " + best.place.Path()
}

// within calls visit for the values at a place of a document.
func within(v *wire.Value, place, done []wire.Step, visit func(*wire.Value, []wire.Step)) {
	if len(place) == 0 {
		visit(v, done)
		return
	}
	switch step := place[0]; {
	case step.Index == wire.AnyElement && v.Kind == wire.Array:
		for i, e := range v.Elems {
			within(e, place[1:], append(done[:len(done):len(done)], wire.Step{Index: i}), visit)
		}
	case v.Kind == wire.Object:
		for _, m := range v.Members {
			if step.Index == wire.AnyMember || m.Name == step.Name {
				within(m.Value, place[1:], append(done[:len(done):len(done)], wire.MemberOf(m.Name)), visit)
			}
		}
	}
}
