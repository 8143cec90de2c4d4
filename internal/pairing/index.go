package pairing

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"vetta/internal/shape"
)

// index finds the roots that may fit an endpoint without trying each: by keys that they have in common,
// their names and the paths of requests.
type index struct {
	roots  []*root
	byKey  map[string][]int // roots by a key that they ask for
	byWord map[string][]int // by a word of their name
	byPath map[string][]int // by the last word of the path that they request
	total  []float64        // by root: what all its keys tell
	rarity map[string]float64
	scores []float64
	found  []int
	near   map[*shape.Endpoint][]*root
}

// nearest is how many roots are tried at an endpoint at most, always how many at least, and at how many
// endpoints each root is tried at least; between the two, those that seem far worse than the best are not.
const (
	nearest  = 12
	always   = 4
	hopeless = 0.4
)

// newIndex makes the index of some roots, for the endpoints of a field.
func newIndex(roots []*root, f *field, endpoints []*shape.Endpoint) *index {
	ix := &index{
		roots: roots, byKey: map[string][]int{}, byWord: map[string][]int{}, byPath: map[string][]int{}, rarity: map[string]float64{},
		total: make([]float64, len(roots)), scores: make([]float64, len(roots)), near: map[*shape.Endpoint][]*root{},
	}
	for _, e := range endpoints {
		for _, k := range f.sent[e].keys {
			ix.rarity[k]++
		}
	}
	for k, n := range ix.rarity {
		ix.rarity[k] = 1 / math.Sqrt(n)
	}
	for i, t := range roots {
		for _, k := range t.asks.all {
			ix.byKey[k] = append(ix.byKey[k], i)
			ix.total[i] += ix.tells(k)
		}
		for _, w := range t.names() {
			ix.byWord[w] = append(ix.byWord[w], i)
		}
		for _, r := range t.requests {
			ix.byPath[r.word] = append(ix.byPath[r.word], i)
		}
	}
	type ranked struct {
		endpoint *shape.Endpoint
		score    float64
	}
	best := make([][]ranked, len(roots)) // by root
	type pair struct {
		endpoint *shape.Endpoint
		root     int
	}
	near := map[pair]bool{}
	for _, e := range endpoints {
		found := ix.rank(f.sent[e])
		for _, i := range found {
			best[i] = append(best[i], ranked{e, ix.scores[i]})
		}
		slices.SortStableFunc(found, func(a, b int) int { return cmp.Compare(ix.scores[b], ix.scores[a]) })
		for n, i := range found[:min(len(found), nearest)] {
			if n >= always && ix.scores[i] < hopeless*ix.scores[found[0]] {
				break
			}
			ix.near[e] = append(ix.near[e], roots[i])
			near[pair{e, i}] = true
		}
		ix.forget(found)
	}
	for i, all := range best {
		slices.SortStableFunc(all, func(a, b ranked) int { return cmp.Compare(b.score, a.score) })
		for _, r := range all[:min(len(all), always)] {
			if !near[pair{r.endpoint, i}] {
				ix.near[r.endpoint] = append(ix.near[r.endpoint], roots[i])
			}
		}
	}
	return ix
}

// tells is how much a key tells among all endpoints.
func (ix *index) tells(key string) float64 {
	if r, ok := ix.rarity[key]; ok {
		return r
	}
	return 1
}

// rank scores the roots that have anything in common with an endpoint, roughly, and answers their
// indexes in order.
func (ix *index) rank(s *sent) []int {
	ix.found = ix.found[:0]
	add := func(i int, score float64) {
		if ix.scores[i] == 0 {
			ix.found = append(ix.found, i)
		}
		ix.scores[i] += score
	}
	for _, k := range s.keys {
		for _, i := range ix.byKey[k] {
			add(i, ix.tells(k)/ix.total[i])
		}
	}
	for _, w := range s.words {
		for _, i := range ix.byWord[w] {
			add(i, 0.25)
		}
	}
	for _, i := range ix.byPath[s.name] {
		add(i, 1)
	}
	slices.Sort(ix.found)
	return ix.found
}

func (ix *index) forget(found []int) {
	for _, i := range found {
		ix.scores[i] = 0
	}
}

// alike are the roots that have most words of their keys in common with the keys of an endpoint: those
// that may read it under other names.
func alike(roots []*root, s *sent) []*root {
	sent := map[string]bool{}
	for _, k := range s.keys {
		sent[strings.TrimSuffix(k, "s")] = true
	}
	type ranked struct {
		root  *root
		score int
	}
	var all []ranked
	for _, t := range roots {
		r := ranked{root: t}
		for _, k := range t.asks.all {
			if sent[strings.TrimSuffix(k, "s")] {
				r.score++
			}
		}
		for _, w := range t.names() {
			if slices.Contains(s.words, w) {
				r.score += 2
			}
		}
		if r.score > 0 {
			all = append(all, r)
		}
	}
	slices.SortStableFunc(all, func(a, b ranked) int { return b.score - a.score })
	var out []*root
	for _, r := range all[:min(len(all), nearest/2)] {
		out = append(out, r.root)
	}
	return out
}
