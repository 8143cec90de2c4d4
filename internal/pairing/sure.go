package pairing

import (
	"slices"

	"vetta/internal/drift"
)

// Sureness says how sure a pair is.
type Sureness string

// The degrees, the surest first.
const (
	ByHand  Sureness = "by hand" // the user has set it
	Certain Sureness = "certain" // the source requests it, or its keys leave no other
	Likely  Sureness = "likely"
	Unsure  Sureness = "unsure" // something else fits about as well, or little speaks for it
)

// Sure is a pair with how sure it is, and what comes next to it.
type Sure struct {
	*drift.Pair
	Sureness Sureness
	// Next is the type of the same app that fits the same responses best of those that are not paired with
	// them, nil where none has anything in common with them.
	Next *Next
}

// Next is a type that is not paired with some responses, and what speaks for it.
type Next struct {
	Type     string
	Place    string
	Evidence []string
}

// What a pair must have to be certain or likely: how many keys are found of those that are asked for, at
// least how many, and how far the next type is behind it.
const (
	certainKeys   = 4
	certainMargin = 0.2
	likelyScore   = 0.65
	likelyMargin  = 0.05
)

// Sure are all pairs, in the order of the endpoints that they are of, those of one endpoint in the order in
// which they were made.
func (r *Result) Sure() (all []Sure) {
	for _, p := range r.Pairs {
		sure := Sure{Pair: p, Sureness: ByHand}
		if degree, sent := r.sentSure[p]; sent {
			sure.Sureness = degree
		}
		for _, app := range r.pairers {
			if c := app.made[p]; c != nil {
				sure.Next, sure.Sureness = app.next(c)
			}
		}
		all = append(all, sure)
	}
	slices.SortStableFunc(all, func(a, b Sure) int { return r.order[a.Endpoint] - r.order[b.Endpoint] })
	return all
}

// next is what comes next to a chosen candidate at its endpoint, and how sure that leaves it.
func (p *pairer) next(c *candidate) (*Next, Sureness) {
	var other *candidate
	requested := 0 // types that are requested from the same path
	for _, t := range p.roots {
		if t.isRequested(c.endpoint) {
			requested++
		}
		n := p.tried[tried{t, c.endpoint}]
		if t == c.root || n == nil || p.isPaired(t, c) || t.held {
			continue
		}
		if other == nil || n.score > other.score {
			other = n
		}
	}
	margin := c.score
	var next *Next
	if other != nil && other.fit.Found > 0 {
		margin = c.score - other.score
		next = &Next{Type: other.root.declared, Place: other.place.Path(), Evidence: other.evidence}
	}
	fit := c.fit
	asked := c.root.isRequested(c.endpoint)
	found := fit.Found - fit.Alike
	switch {
	case asked && requested == 1 && (fit.Asked == 0 || 2*found >= fit.Asked):
		return next, Certain
	case c.enveloped || fit.RootKind < 1:
		return next, Unsure
	case c.root.call != nil && found >= certainKeys && 10*found >= 9*fit.Asked && margin >= certainMargin && !c.root.elsewhere && fit.Read >= 0.5:
		return next, Certain
	case c.score >= likelyScore && margin >= likelyMargin && 2*found >= fit.Asked, asked:
		return next, Likely
	}
	return next, Unsure
}

// isPaired says whether a type is paired with the endpoint of a candidate too.
func (p *pairer) isPaired(t *root, c *candidate) bool {
	return slices.ContainsFunc(p.pairs, func(pair *drift.Pair) bool { return pair.Plan == t.plan && pair.Endpoint == c.endpoint })
}
