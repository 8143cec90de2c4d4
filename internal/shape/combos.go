package shape

import (
	"slices"
)

// combos remembers which symbols responses were seen with, and how many responses
// with each set. From it, the number of responses that hold any of some symbols is
// exact. Beyond the limit it gives up: then only bounds are known.
type combos struct {
	limit  int
	byHash map[uint64][]*combo
	count  int
	gaveUp bool
}

type combo struct {
	symbols   []Symbol // sorted
	responses int64
}

// add counts responses that hold these symbols and answers where.
func (c *combos) add(symbols []Symbol, responses int64) *combo {
	if c.gaveUp {
		return nil
	}
	slices.Sort(symbols)
	symbols = slices.Compact(symbols)
	h := uint64(14695981039346656037) // FNV-1a over the symbols
	for _, s := range symbols {
		h = (h ^ uint64(s)) * 1099511628211
	}
	for _, known := range c.byHash[h] {
		if slices.Equal(known.symbols, symbols) {
			known.responses += responses
			return known
		}
	}
	if c.count >= c.limit {
		c.gaveUp, c.byHash = true, nil
		return nil
	}
	if c.byHash == nil {
		c.byHash = map[uint64][]*combo{}
	}
	fresh := &combo{symbols: slices.Clone(symbols), responses: responses}
	c.byHash[h] = append(c.byHash[h], fresh)
	c.count++
	return fresh
}

// remove takes back one response. A combination that no response is left of stays,
// and counts nothing.
func (c *combos) remove(known *combo) {
	if known != nil {
		known.responses--
	}
}

// Among is how many responses an endpoint has that hold at least one of the
// tallies. exact is false where combinations became too many to tell apart: then
// the answer is the most that one of the tallies alone was seen in, and the true
// number is that or more.
func (e *Endpoint) Among(tallies []*Tally) (responses int64, exact bool) {
	if len(tallies) == 0 {
		return 0, true
	}
	if e.combos.gaveUp {
		for _, t := range tallies {
			responses = max(responses, t.Responses)
		}
		return responses, len(tallies) == 1 || responses == e.Responses
	}
	want := map[Symbol]bool{}
	for _, t := range tallies {
		want[e.canonical(t.sym)] = true
	}
	for _, bucket := range e.combos.byHash {
		for _, c := range bucket {
			for _, s := range c.symbols {
				if want[e.canonical(s)] {
					responses += c.responses
					break
				}
			}
		}
	}
	return responses, true
}

// Exact says whether Among still counts exactly.
func (e *Endpoint) Exact() bool { return !e.combos.gaveUp }
