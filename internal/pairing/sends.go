package pairing

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/library"
	"vetta/internal/drift"
	"vetta/internal/encoder"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// What an app sends is paired with requests that were accepted: by the method and path of the calls that send
// it, else by the keys that it is written with.

// sentRoot is a type that the app sends.
type sentRoot struct {
	plan      *decoder.Plan
	model     *model.Model
	call      *model.Call
	requests  []request
	paired    bool
	unclaimed *shape.Endpoint // that it is sent to, where nothing is claimed of it
}

// sentRootsOf are the types that a set sends, each with all requests that send it.
func sentRootsOf(set *model.Set) (roots []*sentRoot) {
	finder := library.NewFinder(set)
	known := map[string]*sentRoot{}
	for _, c := range set.Sends {
		if c.Type == nil || firstModel(c.Type) == nil {
			continue
		}
		t := c.Type.Unwrapped()
		r := known[t.Key()]
		if r == nil {
			r = &sentRoot{model: firstModel(t), call: c, plan: sendingPlan(t, c.Declared, c.Settings, finder)}
			known[t.Key()] = r
			roots = append(roots, r)
		}
		by := request{lastWord(c.Endpoint), c.Endpoint, c.Method}
		if by.word != "" && !slices.Contains(r.requests, by) {
			if len(r.requests) == 0 {
				r.call = c
			}
			r.requests = append(r.requests, by)
		}
	}
	called := map[*model.Model]bool{}
	for _, c := range append(set.Calls[:len(set.Calls):len(set.Calls)], set.Sends...) {
		if c.Type != nil {
			c.Type.Reach(func(m *model.Model) { called[m] = true })
		}
	}
	for _, m := range set.Models { // by their names alone
		if isForSending(m) && !called[m] && len(m.Params) == 0 && hasKeys(m) {
			roots = append(roots, &sentRoot{model: m, plan: sendingPlan(&model.Type{Name: m.Name, Model: m}, m.Name, nil, finder)})
		}
	}
	return roots
}

// sendingPlan is what is written for a type: with the settings of the call that writes it, else those by
// which it is decoded.
func sendingPlan(t *model.Type, declared string, settings *model.Settings, finder *library.Finder) *decoder.Plan {
	m := firstModel(t)
	if settings == nil && m.Language != "swift" {
		settings, _ = finder.For(t)
	}
	if m.Decoder != nil {
		settings = m.Decoder.Over(settings)
	}
	plan := &decoder.Plan{Type: t, Declared: declared, Settings: settings}
	lib := library.For(m.Language, settings)
	if lib == nil || lib.Writes == nil {
		plan.Writes = encoder.Unknown("what writes it is not read yet")
		if lib != nil {
			plan.Writes.Why = lib.Title + " writes it, of which it is not known what it writes"
		}
		return plan
	}
	plan.Writes = lib.Writes(t, settings)
	return plan
}

// What the keys of a type must have in common with those of requests to be paired with them where no call
// says the path: how many at least, and which share of either's.
const (
	sentKeys  = 3
	sentShare = 0.6
)

// sends pairs the types that are sent with the requests of a shape that were accepted.
func (r *Result) sends(set *model.Set, s *shape.Shape) {
	r.sentRoots = sentRootsOf(set)
	taken := map[*shape.Endpoint]bool{}
	for _, p := range r.Pairs {
		taken[p.Endpoint] = true
	}
	for _, byPath := range []bool{true, false} {
		for _, e := range s.Endpoints {
			if !isRequest(e) || e.Route.Failed || taken[e] {
				continue
			}
			if r.sendTo(e, byPath) {
				taken[e] = true
			}
		}
	}
}

// sendTo pairs an endpoint with the types that are sent there, by the path or by keys, and says whether there
// are any.
func (r *Result) sendTo(e *shape.Endpoint, byPath bool) bool {
	type guess struct {
		root     *sentRoot
		place    *shape.Place
		found    int
		evidence []string
	}
	var all []guess
	for _, t := range r.sentRoots {
		by, asked := requestedBy(t.requests, e)
		place, found, own := t.keysAt(e)
		switch {
		case asked != byPath:
			continue
		case asked:
			all = append(all, guess{t, place, found, []string{"sent to " + by.String()}})
		case t.paired || len(t.requests) > 0 && slices.ContainsFunc(t.requests, func(r request) bool { return r.method != "" }):
			continue
		case found >= sentKeys && float64(found) >= sentShare*float64(max(own, len(keysIn(place)))):
			all = append(all, guess{t, place, found, []string{"no call was found that sends it there"}})
		}
	}
	slices.SortStableFunc(all, func(a, b guess) int { return b.found - a.found })
	for i, g := range all {
		if !byPath && (i > 0 || len(all) > 1 && all[1].found == g.found) { // of two that fit alike neither is sure
			break
		}
		_, found, own := g.root.keysAt(e)
		verb := "are"
		if found == 1 {
			verb = "is"
		}
		evidence := append(g.evidence, fmt.Sprintf("%d of its %d keys %s in the requests", found, own, verb))
		if g.place != e.Root {
			evidence = append(evidence, "found inside the request, at "+g.place.Path())
		}
		if g.root.call != nil {
			evidence = append(evidence, fmt.Sprintf("written as %s at %s", g.root.plan.Declared, g.root.call.Pos))
		}
		sure := Likely
		if byPath && len(all) == 1 {
			sure = Certain
		}
		g.root.paired = true
		pair := &drift.Pair{Plan: g.root.plan, Endpoint: e, Place: g.place, Evidence: evidence, Call: g.root.call}
		r.sentSure[pair] = sure
		if g.root.plan.Unclaimed() == "" {
			r.Pairs = append(r.Pairs, pair)
		} else {
			g.root.unclaimed = e
		}
	}
	return len(all) > 0
}

// keysAt is the place of a request at which the most keys of a type are, of those that nothing but an envelope
// is around; with how many are, and how many it has.
func (t *sentRoot) keysAt(e *shape.Endpoint) (place *shape.Place, found, own int) {
	v := t.plan.Writes
	for v != nil && v.Kinds&encoder.Array != 0 && v.Elem != nil {
		v = v.Elem
	}
	place = e.Root
	own = len(v.Members)
	at := func(p *shape.Place) (n int) {
		for p.Elem != nil && p.Count(wire.Object) == 0 {
			p = p.Elem
		}
		for _, m := range v.Members {
			if p.Key(m.Key) != nil {
				n++
			}
		}
		return n
	}
	found = at(place)
	if 2*found >= own {
		return place, found, own
	}
	for _, k := range e.Root.Keys {
		if n := at(k.Place); n > found && 2*n >= own && k.Place.Count(wire.Object)+k.Place.Count(wire.Array) > 0 {
			place, found = k.Place, n
		}
	}
	return place, found, own
}

// keysIn are the keys of the objects at a place, or in the list there.
func keysIn(p *shape.Place) []*shape.Key {
	for p.Elem != nil && p.Count(wire.Object) == 0 {
		p = p.Elem
	}
	return p.Keys
}

// unsent is why a model that the app sends is held against nothing, "" for one that it does not send.
func (r *Result) unsent(m *model.Model) string {
	for _, t := range r.sentRoots {
		holds := t.model == m
		if !holds || t.paired {
			continue
		}
		if len(t.requests) > 0 {
			var to []string
			for _, by := range t.requests {
				to = append(to, by.String())
			}
			return "the app sends it to " + strings.Join(to, ", ") + ", and no accepted request of that path was captured"
		}
		if t.call == nil {
			return "by its name the app sends it, and no request was captured that has its keys"
		}
		return "the app writes it, and no request was captured that has its keys"
	}
	if m.Sent {
		return "it is part of what the app sends, and no value for it was captured"
	}
	return ""
}

// unwritten is why it is not known what is written for a model that the app sends, with the requests that it
// is sent as; "" where that is known.
func (r *Result) unwritten(m *model.Model) (why string, e *shape.Endpoint) {
	for _, t := range r.sentRoots {
		if t.model == m && t.plan.Unclaimed() != "" && (m.Sent || t.unclaimed != nil) {
			return t.plan.Unclaimed(), t.unclaimed
		}
	}
	return "", nil
}
