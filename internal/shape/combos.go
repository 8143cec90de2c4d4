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
	marks  []uint32 // by symbol: the number of the last set that it was in
	sets   uint32
}

type combo struct {
	symbols   []Symbol // sorted
	responses int64
}

// add counts responses that hold these symbols and answers where. It puts the
// symbols together where some stand twice.
func (c *combos) add(symbols []Symbol, responses int64) *combo {
	if c.gaveUp {
		return nil
	}
	symbols, hash := c.mark(symbols)
	for _, known := range c.byHash[hash] {
		if len(known.symbols) == len(symbols) && c.marked(known.symbols) {
			known.responses += responses
			return known
		}
	}
	if c.count >= c.limit {
		c.gaveUp, c.byHash, c.marks = true, nil, nil
		return nil
	}
	if c.byHash == nil {
		c.byHash = map[uint64][]*combo{}
	}
	slices.Sort(symbols)
	fresh := &combo{symbols: slices.Clone(symbols), responses: responses}
	c.byHash[hash] = append(c.byHash[hash], fresh)
	c.count++
	return fresh
}

// mark marks the symbols of a set, and answers them, each once, with a hash that does
// not depend on their order.
func (c *combos) mark(symbols []Symbol) (distinct []Symbol, hash uint64) {
	if c.sets++; c.sets == 0 { // the numbers have all been used
		clear(c.marks)
		c.sets = 1
	}
	distinct = symbols[:0]
	for _, s := range symbols {
		if int(s) >= len(c.marks) {
			c.marks = append(c.marks, make([]uint32, int(s)+1-len(c.marks))...)
		}
		if c.marks[s] == c.sets {
			continue
		}
		c.marks[s] = c.sets
		distinct = append(distinct, s)
		h := (uint64(s) + 1) * 0x9E3779B97F4A7C15
		hash += h ^ h>>32
	}
	return distinct, hash
}

// marked says whether all of these symbols are in the set that was marked last.
func (c *combos) marked(symbols []Symbol) bool {
	for _, s := range symbols {
		if int(s) >= len(c.marks) || c.marks[s] != c.sets {
			return false
		}
	}
	return true
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
