package pairing

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/drift"
	"vetta/internal/model"
	"vetta/internal/shape"
)

// Account lists all that is in no list yet, when the pairs have been checked: then every model of the set
// is judged, without a response, or not judged, and so is every endpoint.
func (r *Result) Account(set *model.Set, s *shape.Shape, checked *drift.Checked) {
	a := &accountant{Result: r, judged: map[*model.Model]bool{}, by: map[*model.Model]*root{}, best: map[*model.Model]*candidate{}, partOf: map[*model.Model]string{}, otherKind: map[string]bool{}, refused: map[string]bool{}, unclaimed: map[*model.Model]*root{}, below: below(checked)}
	for _, m := range checked.Models {
		a.judged[m.Model] = true
	}
	for _, p := range checked.Pairs {
		a.refused[p.Plan.Declared] = a.refused[p.Plan.Declared] || p.Plan.Writes == nil && p.Plan.Root.Op == decoder.OpFail
		a.otherKind[p.Plan.Declared] = a.otherKind[p.Plan.Declared] || len(p.Findings) > 0
	}
	for _, p := range r.Pairs {
		p.Plan.Type.Reach(func(m *model.Model) {
			if a.partOf[m] == "" {
				a.partOf[m] = p.Plan.Declared
			}
		})
	}
	for _, p := range r.pairers {
		for _, t := range p.app.roots {
			if t.plan.Unclaimed() != "" {
				t.typ.Reach(func(m *model.Model) {
					if known := a.unclaimed[m]; known == nil || known.model != m && t.model == m {
						a.unclaimed[m] = t
					}
				})
			}
			if a.by[t.model] == nil {
				a.by[t.model] = t
			}
			if b := p.best[t]; b != nil && (a.best[t.model] == nil || b.score > a.best[t.model].score) {
				a.best[t.model] = b
			}
		}
	}
	paired := map[*shape.Endpoint]bool{}
	for _, p := range r.Pairs {
		paired[p.Endpoint] = true
	}
	all := s
	s = answers(all)
	field := newField(s)
	claimed := map[*shape.Endpoint]bool{} // by types of which nothing is claimed
	for _, m := range set.Models {
		if a.judged[m] || a.extended(m) {
			continue
		}
		if why, e := a.unwritten(m); why != "" {
			if e != nil {
				claimed[e] = true
			}
			r.Unjudged = append(r.Unjudged, Alone{Model: m, Endpoint: e, Why: why})
			continue
		}
		if why := a.unjudged(m, checked); why != "" {
			alone := Alone{Model: m, Why: why}
			for _, p := range checked.Pairs {
				if p.Unjudged && p.Plan.Type.Unwrapped().Model == m {
					alone.Endpoint = p.Endpoint
				}
			}
			if t := a.unclaimed[m]; alone.Endpoint == nil && (t == nil || t.model == m) {
				alone.Endpoint = field.guess(m, t, s)
			}
			if alone.Endpoint != nil {
				claimed[alone.Endpoint] = true
			}
			r.Unjudged = append(r.Unjudged, alone)
			continue
		}
		r.Models = append(r.Models, a.without(m))
	}
	for _, e := range all.Endpoints {
		switch {
		case paired[e], claimed[e]:
		case isRequest(e):
			r.Endpoints = append(r.Endpoints, Alone{Endpoint: e, Why: unpairedRequest(e)})
		default:
			r.Endpoints = append(r.Endpoints, a.endpoint(e))
		}
	}
}

type accountant struct {
	*Result
	judged    map[*model.Model]bool
	by        map[*model.Model]*root
	best      map[*model.Model]*candidate
	partOf    map[*model.Model]string // a paired type that holds the model
	refused   map[string]bool         // paired types that the library decodes nothing into
	otherKind map[string]bool         // paired types whose responses are of another kind
	below     map[*model.Model][]string
	unclaimed map[*model.Model]*root // one that holds it and of which nothing is claimed
}

// extended says whether a model is judged in those that extend it, and notes it.
func (a *accountant) extended(m *model.Model) bool {
	in := a.below[m]
	if len(in) > 0 {
		a.Extended = append(a.Extended, Extended{m, in})
	}
	return len(in) > 0
}

// below are the names of the judged models that extend each model.
func below(checked *drift.Checked) map[*model.Model][]string {
	out := map[*model.Model][]string{}
	for _, m := range checked.Models {
		above := map[*model.Model]bool{} // classes may extend each other in a circle
		for super := m.Model.Super; super != nil && super.Model != nil && !above[super.Model] && len(above) < 16; super = super.Model.Super {
			above[super.Model] = true
			out[super.Model] = append(out[super.Model], m.Model.Name)
		}
	}
	return out
}

// unjudged is why nothing is claimed of a model, "" where something would be.
func (a *accountant) unjudged(m *model.Model, checked *drift.Checked) string {
	t := a.unclaimed[m]
	switch {
	case t != nil && a.partOf[m] == "":
		return t.plan.Unclaimed()
	case m.Reading == model.Unfollowed:
		return m.Why
	case isKindOf(m, a.partOf) && slices.ContainsFunc(checked.Pairs, func(p *drift.PairResult) bool { return len(p.Untold) > 0 }):
		return "objects of several classes could not be told apart: give check the captures in place of a saved shape"
	}
	return checked.Unfollowed[m]
}

// without is why a model has no response.
func (a *accountant) without(m *model.Model) Alone {
	out := Alone{Model: m, Why: "no response has its keys"}
	best := a.best[m]
	if why := a.unsent(m); why != "" {
		out.Why = why
		return out
	}
	switch {
	case a.refused[a.partOf[m]]:
		out.Why = fmt.Sprintf("it is part of %s, which cannot be decoded, whatever is sent", a.partOf[m])
	case a.otherKind[a.partOf[m]]:
		out.Why = fmt.Sprintf("it is part of %s, and what was sent for that is of another kind", a.partOf[m])
	case a.partOf[m] != "" && a.partOf[m] != m.Name:
		out.Why = fmt.Sprintf("it is part of %s, and no value for it was sent", a.partOf[m])
	case isKindOf(m, a.partOf):
		out.Why = "no response is of its kind"
	case best != nil && best.score > 0.1:
		out.Nearest, out.Why = best.endpoint.Name+" "+best.place.Path(), best.why()
	case a.by[m] == nil && len(m.Params) > 0:
		out.Why = "no call that was followed says what its " + strings.Join(m.Params, ", ") + " stands for"
	case a.by[m] == nil && !hasKeys(m):
		out.Why = "nothing that was sent is read into it"
	}
	return out
}

// unpairedRequest is why requests are held against nothing.
func unpairedRequest(e *shape.Endpoint) string {
	if e.Route.Failed {
		return "it was not accepted"
	}
	return "no call was found that sends it, and no class that the app sends has its keys"
}

// endpoint is what is known of responses that no type was found for.
func (a *accountant) endpoint(e *shape.Endpoint) Alone {
	out := Alone{Endpoint: e, Why: "no model reads its keys"}
	var best *candidate
	for _, p := range a.pairers {
		for _, t := range p.roots {
			if c := p.tried[tried{t, e}]; c != nil && c.score > 0.1 && (best == nil || c.score > best.score) {
				best = c
			}
		}
	}
	if best != nil {
		out.Nearest, out.Why = best.root.declared, best.why()
	}
	return out
}

// isKindOf says whether a class extends or implements one that a paired type holds: then it is read
// where a key says so.
func isKindOf(m *model.Model, held map[*model.Model]string) bool {
	for depth := 0; m != nil && depth < 16; depth++ { // classes may extend each other in a circle
		for _, name := range m.Conforms {
			if m.Related != nil && held[m.Related(name)] != "" {
				return true
			}
		}
		if m.Super == nil {
			return false
		}
		if m = m.Super.Model; held[m] != "" {
			return true
		}
	}
	return false
}

// guess is the endpoint that a model of which nothing is claimed seems to be decoded from, by the path
// of a request or by the names of its fields; nil where there is none.
func (f *field) guess(m *model.Model, t *root, s *shape.Shape) (found *shape.Endpoint) {
	if t != nil && t.call != nil {
		for _, e := range s.Endpoints {
			if t.isRequested(e) {
				return e
			}
		}
	}
	names := map[string]bool{}
	for _, field := range m.Fields {
		name := field.Name
		for _, mark := range field.Marks {
			for _, arg := range []string{"name", "value"} {
				if text := mark.Text(arg, ""); text != "" {
					name = text
				}
			}
		}
		names[plain(name)] = true
	}
	best := 0.5
	for _, e := range s.Endpoints {
		for _, p := range f.sent[e].places {
			shared := 0
			for name := range names {
				if p.keys[name] {
					shared++
				}
			}
			if share := float64(shared) / float64(max(1, len(names))); share > best {
				best, found = share, e
			}
		}
	}
	return found
}
