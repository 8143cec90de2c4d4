package pairing

import (
	"fmt"
	"maps"
	"math"
	"path"
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/drift"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/traffic"
	"vetta/internal/wire"
)

// candidate is a root at a place, with how well they fit.
type candidate struct {
	root      *root
	endpoint  *shape.Endpoint
	place     *shape.Place
	score     float64
	fit       drift.Fitness
	enveloped bool // what a call decodes as a whole was found inside the response
	evidence  []string
}

// threshold is the score from which a pair is believed.
const threshold = 0.5

// whole says whether what is sent is what the type reads, but for a key or two.
func (c *candidate) whole() bool {
	return !c.enveloped && c.fit.RootKind == 1 && 10*c.fit.Found >= 9*c.fit.Asked
}

// asked says whether the source requests the endpoint as the type, and at least half of its keys are there:
// then no other fits better.
func (c *candidate) asked() bool {
	return c.score >= threshold && 2*(c.fit.Found-c.fit.Alike) >= c.fit.Asked && c.root.isRequested(c.endpoint)
}

func (c *candidate) pair() *drift.Pair {
	return &drift.Pair{Plan: c.root.plan, Endpoint: c.endpoint, Place: c.place, Evidence: c.evidence, Call: c.root.call}
}

// field is all that roots are looked for in: endpoints, and how much each of their keys tells.
type field struct {
	places map[string]int // by key: at how many places it is sent
	sent   map[*shape.Endpoint]*sent
	alike  bool // keys under other names are looked for
}

// sent is what an endpoint's responses hold.
type sent struct {
	keys   []string // all that are sent, sorted
	name   string   // the last of the endpoint's, see plain
	words  []string // of that
	places []placed // of objects and of lists of them, the root first
}

type placed struct {
	*shape.Place
	keys map[string]bool
}

// furthest is how many steps from the root a type is looked for that no call names, inEnvelope how
// many one that a call decodes as a whole.
const (
	furthest   = 6
	inEnvelope = 3
)

func newField(s *shape.Shape) *field {
	f := &field{places: map[string]int{}, sent: map[*shape.Endpoint]*sent{}}
	for _, e := range s.Endpoints {
		in := &sent{name: plain(lastName(e)), words: singular(lastName(e))}
		keys := map[string]bool{}
		e.Root.Walk(func(p *shape.Place) {
			own := placed{p, map[string]bool{}}
			for _, k := range p.Keys {
				f.places[k.Name]++
				own.keys[plain(k.Name)] = true
				keys[plain(k.Name)] = true
			}
			for list := p.Elem; list != nil; list = list.Elem {
				for _, k := range list.Keys {
					own.keys[plain(k.Name)] = true
				}
			}
			if len(p.Steps) <= furthest && (p.Count(wire.Object) > 0 || len(own.keys) > 0) {
				in.places = append(in.places, own)
			}
		})
		in.keys = slices.Sorted(maps.Keys(keys))
		f.sent[e] = in
	}
	return f
}

// of is how much a key tells: one that many places have tells little.
func (f *field) of(key string) float64 { return 1 / math.Sqrt(float64(max(1, f.places[key]))) }

// mostPlaces is how many places of an endpoint a type is tried at: those that have most of its keys.
const mostPlaces = 4

// likely are the places of an endpoint that have most of the keys of a root's outermost object; lists says
// that places of lists alone count too, and the root of the responses does not.
func (f *field) likely(t *root, e *shape.Endpoint, steps int, lists bool) (out []*shape.Place) {
	type likely struct {
		place  *shape.Place
		shared int
	}
	var all []likely
	for _, p := range f.sent[e].places {
		if lists && p.Place == e.Root || len(p.Steps) > steps || !lists && p.Count(wire.Object) == 0 {
			continue
		}
		n := 0
		for k := range t.asks.outer {
			if p.keys[k] {
				n++
			}
		}
		if n > 0 || f.alike {
			all = append(all, likely{p.Place, n})
		}
	}
	slices.SortStableFunc(all, func(a, b likely) int { return b.shared - a.shared })
	for _, l := range all[:min(len(all), mostPlaces)] {
		out = append(out, l.place)
	}
	return out
}

// at finds the place of an endpoint that the type fits best, nil for none. A type
// that a call names is decoded from the response as a whole.
func (t *root) at(e *shape.Endpoint, f *field) *candidate {
	if t.call != nil && t.call.Part == "" {
		whole := t.score(e, t.start(e), f)
		if whole != nil && len(t.call.Within) > 0 && whole.place == e.Root && whole.fit.RootKind == 0 {
			return nil // what the code takes of it is not there
		}
		return t.inEnvelope(whole, e, f)
	}
	var best *candidate
	places := f.likely(t, e, furthest, false)
	if t.call != nil {
		if start := t.start(e); start != e.Root && start.Total() > 0 {
			places = []*shape.Place{start} // as the code says
		}
	}
	for _, p := range places {
		if t.held && !outermost(p) {
			continue // another model reads it
		}
		if c := t.score(e, p, f); c != nil && (best == nil || c.score > best.score) {
			best = c
		}
	}
	if best != nil && best.place != e.Root && len(t.plan.Asks().Steps) == 0 {
		best.evidence = append(best.evidence, "found inside the response, at "+best.place.Path())
	}
	if best != nil && t.held {
		// It may be what another model holds, so it must be all that is sent.
		if best.fit.Found < 2 || best.fit.Found < best.fit.Asked || best.fit.Read < 0.5 {
			return nil
		}
		best.score *= 0.95
	}
	return best
}

// start is the place that the call of a type decodes it from: the root, or the part that the call's code takes of the
// document first, where responses have it.
func (t *root) start(e *shape.Endpoint) *shape.Place {
	if t.call == nil || len(t.call.Within) == 0 {
		return e.Root
	}
	var steps []wire.Step
	for _, key := range t.call.Within {
		if key == code.Element {
			steps = append(steps, wire.Step{Index: wire.AnyElement})
		} else {
			steps = append(steps, wire.MemberOf(key))
		}
	}
	if p := e.Place(steps); p != nil {
		return p
	}
	return e.Root
}

// outermost says whether a place is one that nothing but an envelope and a list are around.
func outermost(p *shape.Place) bool {
	s := p.Steps
	return len(s) <= 1 || len(s) == 2 && s[0].Index == wire.MemberStep && s[1].Index == wire.AnyElement
}

// inEnvelope looks inside a response for what a call wants to decode from it as a
// whole: where it is there, the pair is right and the call is wrong.
func (t *root) inEnvelope(whole *candidate, e *shape.Endpoint, f *field) *candidate {
	if whole == nil || whole.score >= threshold {
		return whole
	}
	var inner *candidate
	for _, p := range f.likely(t, e, inEnvelope, true) {
		if c := t.score(e, p, f); c != nil && (inner == nil || c.score > inner.score) {
			inner = c
		}
	}
	if inner == nil || inner.score < threshold+0.1 {
		return whole
	}
	whole.score, whole.enveloped = inner.score*0.9, true
	whole.evidence = append(whole.evidence, "what it decodes is found inside the response, at "+inner.place.Path())
	return whole
}

// score says how well a type fits a place: by the keys that it reads and the place
// has, by the share of values that decode, by names, and by how much of what the
// place has it reads.
func (t *root) score(e *shape.Endpoint, p *shape.Place, f *field) *candidate {
	fit := drift.Fit(t.plan.Asks(), e, p, drift.Looking{Weight: f.of, Alike: f.alike, Inner: t.inner, Called: t.call != nil})
	if fit.Asked == 0 {
		return nil
	}
	c := &candidate{root: t, endpoint: e, place: p, fit: fit}
	name := nameLikeness(t, e, p)
	by, asked := t.requested(e)
	if asked {
		name = 1
	}
	certain := min(1, 0.4+0.2*float64(fit.Found))
	c.score = (0.55*fit.Keys+0.2*fit.Values+0.1*fit.Read)*certain + 0.25*name
	if fit.Found == 0 || fit.InnerAsked > 0 && 3*fit.InnerFound < fit.InnerAsked {
		c.score = min(c.score, 0.3)
	}
	if fit.RootKind < 1 {
		c.score *= 0.6 + 0.4*fit.RootKind
	}
	if t.elsewhere && !asked {
		c.score *= 0.6
	}
	if (t.call == nil || t.call.Part != "" && t.start(e) == e.Root) && 2*fit.Found < fit.Asked {
		c.score = min(c.score, threshold-0.01) // a name alone, with keys that any class may have
	}
	verb := "are"
	if fit.Found == 1 {
		verb = "is"
	}
	if t.call == nil {
		c.evidence = append(c.evidence, "no call was found")
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
		c.evidence = append(c.evidence, "requested from "+by.String())
	case name >= 0.5:
		c.evidence = append(c.evidence, "the names are alike")
	}
	if call := t.call; call != nil {
		if asked && t.asking[by] != nil {
			call = t.asking[by]
		}
		c.evidence = append(c.evidence, fmt.Sprintf("decoded as %s at %s", t.declared, call.Pos))
	}
	return c
}

// requested is the request by which a call that names the type asks for an endpoint, if one does.
func (t *root) requested(e *shape.Endpoint) (by request, asked bool) {
	if e.Route != nil && e.Route.Failed {
		return request{}, false // what is asked for there is not what is answered
	}
	return requestedBy(t.requests, e)
}

// requestedBy is the one of some requests that is of an endpoint, if one is.
func requestedBy(all []request, e *shape.Endpoint) (by request, asked bool) {
	name := plain(lastName(e))
	for _, r := range all {
		if r.word == name && (e.Route == nil || requests(r.path, e.Route.Path) && (r.method == "" || r.method == e.Route.Method)) {
			return r, true
		}
	}
	return request{}, false
}

// requests says whether a path in source is that of a template: segment by segment from the end, as far
// as the source tells them, since what comes before is in the address of the server.
func requests(source, template string) bool {
	source, _, _ = strings.Cut(source, "?")
	own := strings.FieldsFunc(source, func(r rune) bool { return r == '/' })
	sent := strings.FieldsFunc(template, func(r rune) bool { return r == '/' })
	for i := 1; i <= len(own) && i <= len(sent); i++ {
		a, b := own[len(own)-i], sent[len(sent)-i]
		vary := strings.ContainsAny(a, "{}")
		switch {
		case vary && (b == traffic.Varying || i > 1), plain(a) == plain(b):
		case b == traffic.Varying && !vary && i > 1:
		default:
			return i > 1 && i == len(own) && strings.Contains(a, ".") // a host
		}
	}
	return true
}

// isRequested says whether one does.
func (t *root) isRequested(e *shape.Endpoint) bool {
	_, asked := t.requested(e)
	return asked
}

// lastWord is the last word of a request's path that is no parameter, fares of v2/sailings/{id}/fares:
// it is that of the endpoint's captures.
func lastWord(request string) string {
	words := strings.FieldsFunc(request, func(r rune) bool { return r == '/' || r == '?' })
	for i := len(words) - 1; i >= 0; i-- {
		if !strings.ContainsAny(words[i], "{=") {
			return plain(words[i])
		}
	}
	return ""
}

// groupName is the name of an endpoint without the keys that set it apart from others.
func groupName(e *shape.Endpoint) string {
	if e.Group != "" {
		return e.Group
	}
	name, _, _ := strings.Cut(e.Name, " (")
	return name
}

// lastName is the last word of an endpoint's name that says anything: ports of v2/ports/*, and of
// GET /v2/ports/{port}.
func lastName(e *shape.Endpoint) string {
	if e.Route == nil {
		return path.Base(strings.TrimRight(groupName(e), "/*"))
	}
	if e.Route.Op != "" {
		return e.Route.Op
	}
	parts := strings.Split(e.Route.Path, "/")
	for i := len(parts) - 1; i > 0; i-- {
		if parts[i] != traffic.Varying {
			return strings.TrimSuffix(parts[i], path.Ext(parts[i]))
		}
	}
	return ""
}

// singular are the words of a name, each without the s of a plural.
func singular(name string) []string {
	words := drift.Words(name)
	for i, w := range words {
		words[i] = strings.TrimSuffix(w, "s")
	}
	return words
}

// nameLikeness compares the model's name with those of the endpoint and the place,
// 0 to 1.
func nameLikeness(t *root, e *shape.Endpoint, p *shape.Place) float64 {
	names := singular(lastName(e))
	for _, s := range p.Steps {
		names = append(names, singular(s.Name)...)
	}
	best := 0.0
	for i, a := range t.names() {
		for _, b := range names {
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

// names are the words of the names of a root's models, the outermost first.
func (t *root) names() []string {
	if t.words == nil {
		t.words = singular(t.model.Name)
		t.typ.Walk(func(inner *model.Type) {
			if inner.Model != nil && inner.Model != t.model {
				t.words = append(t.words, singular(inner.Model.Name)...)
			}
		})
	}
	return t.words
}
