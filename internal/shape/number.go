package shape

import (
	"cmp"
	"slices"
	"sync"

	"vetta/internal/capture"
)

// registry are the captures that are met while captures are read: files, and members of archives.
type registry struct {
	lock  sync.Mutex
	files []*capture.File // by ID
}

func (r *registry) add(f *capture.File) {
	r.lock.Lock()
	defer r.lock.Unlock()
	f.ID = len(r.files)
	r.files = append(r.files, f)
}

// number gives the captures that were read numbers without gaps, in their order: archives, of which
// the members count, and files that were passed over have none.
func (c *collector) number(files []*capture.File) {
	count := len(files)
	files = slices.DeleteFunc(files, func(f *capture.File) bool {
		return f.Archive || c.passedFiles[f.ID]
	})
	slices.SortFunc(files, func(a, b *capture.File) int { return cmp.Or(a.Order-b.Order, a.Member-b.Member) })
	byID, ranks := make([]int32, count), make([]capture.Rank, len(files))
	c.captures = make([]string, len(files))
	for i, f := range files {
		byID[f.ID], ranks[i], c.captures[i] = int32(i), capture.RankOf(f.Order, f.Member, 0), f.Path
	}
	c.reorder(func(old int) int { return int(byID[old]) }, func(r capture.Rank) capture.Rank {
		order, _ := slices.BinarySearch(ranks, r.File())
		return capture.RankOf(order, 0, r.Entry())
	})
}

// reorder gives the captures new numbers, and places in them new ranks.
func (c *collector) reorder(order func(int) int, rank func(capture.Rank) capture.Rank) {
	several := map[int]bool{}
	for f := range c.several {
		several[order(f)] = true
	}
	c.several = several
	for _, g := range c.groups {
		for _, e := range g.roots {
			old := e.files
			e.files, e.Files = orders{}, 0
			old.each(func(was int) { e.addFile(order(was)) })
			e.moments.rerank(rank)
			e.eachTally(func(t *Tally) {
				for i := range t.Examples {
					ex := &t.Examples[i]
					ex.Order, ex.Member = rank(ex.rank()).Order(), 0
				}
				t.Span = t.Span.reranked(rank)
			})
		}
	}
}
