package drift

import (
	"slices"
	"sync"
	"sync/atomic"

	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// decide says how many responses would not decode. Where counts do not say it, for code that does one thing
// or another by what is sent, or a limit that was hit, the responses are read again and decoded.
func (c *Checked) decide(again Again, by *checker) {
	c.Lost = map[*shape.Endpoint]Lost{}
	var endpoints []*shape.Endpoint
	of := map[*shape.Endpoint][]*PairResult{}
	for _, p := range c.Pairs {
		if of[p.Endpoint] == nil {
			endpoints = append(endpoints, p.Endpoint)
		}
		of[p.Endpoint] = append(of[p.Endpoint], p)
	}
	for _, e := range endpoints {
		pairs := of[e]
		c.Lost[e] = counted(e, pairs)
		sure := c.Lost[e].Exact
		for _, p := range pairs {
			sure = sure && p.LostExact && (p.Plan.Trusts || !p.Plan.ByCode()) && p.astray.faithful()
		}
		if !sure && again != nil {
			if lost, ok := decoded(e, pairs, again); ok {
				c.Lost[e] = lost
				for _, p := range pairs {
					c.explain(p, by)
					c.because(p)
				}
				if len(pairs) == 1 {
					c.alone(pairs[0])
				}
			}
		}
	}
}

// counted is how many responses of an endpoint would not decode, as counts say it.
func counted(e *shape.Endpoint, pairs []*PairResult) Lost {
	var all []*shape.Tally
	most, exact, together := int64(0), true, true
	for _, p := range pairs {
		most, exact = max(most, p.Lost), exact && p.LostExact
		together = together && (p.Lost == 0 || p.lost != nil)
		all = append(all, p.lost...)
	}
	if len(pairs) == 1 || most == e.Responses {
		return Lost{most, exact}
	}
	if !together {
		return Lost{most, false}
	}
	n, sure := e.Among(all)
	return Lost{max(n, most), exact && sure}
}

// decoded is how many responses of an endpoint would not decode, by decoding them; ok is false where they
// cannot be read again. The pairs are told how many of each.
func decoded(e *shape.Endpoint, pairs []*PairResult, again Again) (lost Lost, ok bool) {
	fails, unknown := make([]atomic.Int64, len(pairs)), make([]atomic.Int64, len(pairs))
	var any, unsure atomic.Int64
	var lock sync.Mutex
	for _, p := range pairs {
		p.failing = p.Plan.Failing()
		p.failures, p.counted = failures{}, p.Lost
	}
	ok = again(e, func(doc *wire.Value, example func([]wire.Step) shape.Example) {
		one, doubt := false, false
		for i, p := range pairs {
			failed, at, steps, known := p.fails(doc)
			switch {
			case failed:
				one = true
				fails[i].Add(1)
				lock.Lock()
				if kind := at.Error.Kind; p.Throws == "" || kind < p.Throws {
					p.Throws = kind
				}
				p.failures.add(at, doc, steps, example)
				lock.Unlock()
			case !known:
				doubt = true
				unknown[i].Add(1)
			}
		}
		switch {
		case one:
			any.Add(1)
		case doubt:
			unsure.Add(1)
		}
	})
	if !ok {
		return lost, false
	}
	for i, p := range pairs {
		p.Lost, p.LostExact = fails[i].Load(), unknown[i].Load() == 0
	}
	return Lost{any.Load(), unsure.Load() == 0}, true
}

// fails says whether a response does not decode, and where it fails first.
func (p *PairResult) fails(doc *wire.Value) (fails bool, at decoder.Failure, place []wire.Step, known bool) {
	known = p.Plan.Whole || p.leadsIn(doc)
	steps := p.Place.Steps
	if p.Plan.Whole {
		steps = nil
	}
	doc.Each(steps, func(v *wire.Value, to []wire.Step) {
		failed, where, inner, sure := p.failing.FailsAt(v)
		if failed && !fails {
			fails, at, place = true, where, append(slices.Clone(to), inner...)
		}
		known = known && sure
	})
	return fails, at, place, known || fails
}

// alone makes exact what is said of the one property that all responses of an endpoint fail at which do not
// decode: of that it is known in how many. Where there are several, a response may fail at another one first.
func (c *Checked) alone(p *PairResult) {
	at, one := p.failures.only()
	if !one || at.Model == nil || !p.LostExact {
		return
	}
	var sites []*finding.Site
	for _, m := range c.Models {
		for _, f := range m.Findings {
			for _, s := range f.Sites {
				if f.Level != finding.Breaks || s.Endpoint.Name != p.Endpoint.Name {
					continue
				}
				if m.Model != at.Model || f.Field != at.Field {
					return
				}
				sites = append(sites, s)
			}
		}
	}
	if len(sites) != 1 || sites[0].Responses > p.Lost {
		return
	}
	sites[0].Responses, sites[0].Exact = p.Lost, true
}

// because makes exact how many responses would not decode because of a model, where all that do not fail at one.
func (c *Checked) because(p *PairResult) {
	of, one := p.failures.model()
	if !one || !p.LostExact {
		return
	}
	for _, m := range c.Models {
		if m.Model != of {
			continue
		}
		own := -1
		for i, s := range m.Sites {
			if s.Pair == p.Pair && own >= 0 {
				return
			} else if s.Pair == p.Pair {
				own = i
			}
		}
		if own >= 0 {
			m.Sites[own].Lost, m.Sites[own].LostExact = p.Lost, true
		}
	}
}
