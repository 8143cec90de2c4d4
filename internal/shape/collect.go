package shape

import (
	"fmt"
	"slices"
	"sort"
	"strings"
	"sync"
	"sync/atomic"

	"vetta/internal/capture"
)

// Shape is what was seen in all responses, by endpoint.
type Shape struct {
	Endpoints []*Endpoint // by name
	Captures  []string    // by order
	Problems  []capture.Problem
	Files     int   // captures read
	Documents int64 // documents read, without the malformed ones
	Bytes     int64
}

// Collect reads captures into a shape with as many workers as told. The result
// does not depend on their number.
func Collect(files []*capture.File, workers int, limits Limits, progress func(done int)) *Shape {
	return Gather(files, workers, limits, progress).Shape()
}

// Gather is Collect that does not yet put the endpoints together, so that what was
// read can be saved, or merged with what others have read.
func Gather(files []*capture.File, workers int, limits Limits, progress func(done int)) *Collection {
	return gather(files, workers, func() *collector { return newCollector(limits) }, progress)
}

// gather is Gather with a collector of one's own for each worker.
func gather(files []*capture.File, workers int, newCollector func() *collector, progress func(done int)) *Collection {
	workers = max(1, workers)
	all := make([]*collector, workers)
	var next, finished atomic.Int64
	chunks := make(chan *capture.Chunk)
	filesDone := make(chan struct{})
	var wait sync.WaitGroup
	for i := range all {
		c := newCollector()
		all[i] = c
		wait.Add(1)
		go func() {
			defer wait.Done()
			for {
				n := int(next.Add(1)) - 1
				if n >= len(files) {
					break
				}
				c.file(files[n], chunks)
				if done := finished.Add(1); int(done) == len(files) {
					close(filesDone)
				} else if progress != nil {
					progress(int(done))
				}
			}
			// No file is left: help with the lines of those that others still read.
			for {
				select {
				case chunk := <-chunks:
					c.chunk(chunk)
				case <-filesDone:
					return
				}
			}
		}()
	}
	if len(files) == 0 {
		close(filesDone)
	}
	wait.Wait()
	for _, c := range all[1:] {
		all[0].merge(c)
	}
	for _, f := range files {
		all[0].captures = append(all[0].captures, f.Path)
	}
	return &Collection{all[0]}
}

// Collection is what was read from captures, by the names of the captures and the
// roots of the documents.
type Collection struct{ c *collector }

// Merge adds what another collection holds; the other must not be used afterwards.
func (c *Collection) Merge(o *Collection) {
	names := append(append([]string{}, c.c.captures...), o.c.captures...)
	slices.SortFunc(names, capture.Compare)
	names = slices.Compact(names)
	order := map[string]int{}
	for i, n := range names {
		order[n] = i
	}
	c.c.reorder(order)
	o.c.reorder(order)
	c.c.merge(o.c)
	c.c.captures = names
}

// Captures are the names of the captures, by the order that Endpoint.HasFile knows.
func (c *Collection) Captures() []string { return c.c.captures }

// Shape puts the endpoints together. The collection must not be used afterwards.
func (c *Collection) Shape() *Shape {
	s := c.c.shape()
	s.Files, s.Captures = len(c.c.captures), c.c.captures
	return s
}

// reorder gives the captures new numbers.
func (c *collector) reorder(order map[string]int) {
	several := map[int]bool{}
	for f := range c.several {
		several[order[c.captures[f]]] = true
	}
	c.several = several
	for _, g := range c.groups {
		for _, e := range g.roots {
			old := e.files
			e.files, e.Files = nil, 0
			for i, name := range c.captures {
				if i/64 < len(old) && old[i/64]>>(i%64)&1 != 0 {
					e.addFile(order[name])
				}
			}
			e.eachTally(func(t *Tally) {
				for i := range t.Examples {
					t.Examples[i].Order = order[t.Examples[i].File]
				}
				if t.Last > 0 {
					t.Last = int32(order[c.captures[t.Last-1]]) + 1
				}
			})
		}
	}
}

// collector is what one worker has read.
type collector struct {
	limits   Limits
	tellers  []Teller // of all its endpoints
	reader   Reader
	files    capture.Reader
	grouper  capture.Grouper
	groups   map[string]*group
	problems []capture.Problem
	captures []string     // by order, when all is read
	several  map[int]bool // captures, by order, that hold several documents
	lastFile *capture.File
	last     *group
	src      *Source
	of       *capture.Chunk
	docs     int64
	bytes    int64
}

// group are the captures that have a name in common, apart by their root: one
// endpoint for each kind of value and set of keys there.
type group struct {
	name  string
	roots map[string]*Endpoint
	last  *Endpoint
}

// maxRoots is how many different roots a group may have: beyond, they are taken
// for one.
const maxRoots = 64

func newCollector(limits Limits) *collector {
	return &collector{limits: limits, groups: map[string]*group{}, several: map[int]bool{}}
}

func (c *collector) problem(p capture.Problem) { c.problems = append(c.problems, p) }

func (c *collector) file(f *capture.File, chunks chan<- *capture.Chunk) {
	c.files.Read(f, func(chunk *capture.Chunk) (int, error) {
		if chunk.Lines && !chunk.Final {
			select {
			case chunks <- chunk: // another worker is free
				return len(chunk.Data), nil
			default:
			}
		}
		return c.chunk(chunk), nil
	}, c.problem)
}

func (c *collector) chunk(chunk *capture.Chunk) int {
	used := chunk.Documents(c.document, c.problem)
	c.bytes += int64(used)
	return used
}

// document reads a document into the endpoint that its root belongs to. The
// endpoint of the document before is tried first, and the reading taken back if
// the root turns out to be another.
func (c *collector) document(d capture.Document) (int, error) {
	if c.lastFile != d.File {
		name := c.grouper.Group(d.File.Path)
		if c.last == nil || c.last.name != name {
			if c.last = c.groups[name]; c.last == nil {
				c.last = &group{name: name, roots: map[string]*Endpoint{}}
				c.groups[name] = c.last
			}
		}
		c.lastFile = d.File
	}
	g := c.last
	src := c.source(d)
	if d.Entry == 2 {
		c.several[d.File.Order] = true
	}
	if e := g.last; e != nil {
		end, err := c.reader.Read(e, src, d.Start)
		switch {
		case err == ErrOtherRoot:
		case err != nil:
			return end, err
		case e.fixed == manyRoots || c.reader.Root(src, d.Start) == e.fixed:
			c.docs++
			return end, nil
		default:
			c.reader.TakeBack(e, src, d.Start)
		}
	}
	root, err := RootOf(d.Data, d.Start)
	if err != nil {
		return 0, err
	}
	e := g.roots[root]
	if e == nil && len(g.roots) >= maxRoots {
		root = manyRoots
		e = g.roots[root]
	}
	if e == nil {
		e = NewEndpoint(g.name, c.limits)
		e.Tell(c.tellers)
		e.fixed = root
		g.roots[root] = e
	}
	end, err := c.reader.Read(e, src, d.Start)
	e.fixedRoot = root != manyRoots
	g.last = e
	c.docs++
	return end, err
}

// source is the chunk that a document is in, the same for all documents of it.
func (c *collector) source(d capture.Document) *Source {
	if c.src == nil || c.of != d.Chunk || &c.src.Data[0] != &d.Data[0] {
		c.of = d.Chunk
		c.src = &Source{Origin: Origin{File: d.File.Path, Order: d.File.Order}, Data: d.Data, Base: d.Base, Line: d.Line, Column: d.Column}
	}
	c.src.Entry = d.Entry
	return c.src
}

// manyRoots is the root of an endpoint that takes what is left when a group has
// too many.
const manyRoots = "*"

func (c *collector) merge(o *collector) {
	for name, g := range o.groups {
		own := c.groups[name]
		if own == nil {
			c.groups[name] = g
			continue
		}
		for _, root := range sortedRoots(g) {
			if e := own.roots[root]; e != nil {
				e.Merge(g.roots[root])
			} else {
				own.roots[root] = g.roots[root]
			}
		}
	}
	c.problems = append(c.problems, o.problems...)
	for f := range o.several {
		c.several[f] = true
	}
	c.docs += o.docs
	c.bytes += o.bytes
}

func sortedRoots(g *group) []string {
	roots := make([]string, 0, len(g.roots))
	for r := range g.roots {
		roots = append(roots, r)
	}
	sort.Strings(roots)
	return roots
}

// shape puts the endpoints together.
func (c *collector) shape() *Shape {
	s := &Shape{Problems: c.problems, Documents: c.docs, Bytes: c.bytes}
	for _, g := range c.groups {
		s.Endpoints = append(s.Endpoints, g.endpoints()...)
	}
	sort.Slice(s.Endpoints, func(i, k int) bool { return s.Endpoints[i].Name < s.Endpoints[k].Name })
	for _, e := range s.Endpoints {
		e.foldDynamic()
		e.Settle()
		e.soleEntries(c.several)
		e.names = c.captures
		s.Problems = append(s.Problems, e.doubles()...)
	}
	sort.SliceStable(s.Problems, func(i, k int) bool { return s.Problems[i].Before(s.Problems[k]) })
	return s
}

// doubles are the keys that objects have more than once, each told at its first
// occurrence.
func (e *Endpoint) doubles() (out []capture.Problem) {
	e.Root.Walk(func(p *Place) {
		for _, k := range p.Keys {
			if k.Later == nil || k.Doubles == 0 {
				continue
			}
			first, _ := k.firstLater()
			out = append(out, capture.Oddity(first.File, first.Line, first.Column, first.Entry,
				fmt.Sprintf("the key %q stands more than once in one object (%d too many in these captures): libraries differ in which one counts", k.Name, k.Doubles)))
		}
	})
	return out
}

// soleEntries takes the number from examples whose capture holds one document.
func (e *Endpoint) soleEntries(several map[int]bool) {
	e.eachTally(func(t *Tally) {
		for i := range t.Examples {
			if !several[t.Examples[i].Order] {
				t.Examples[i].Entry = 0
			}
		}
	})
}

func (e *Endpoint) eachTally(visit func(*Tally)) {
	e.Root.Walk(func(p *Place) {
		for _, t := range p.Classes {
			visit(t)
		}
		for _, t := range p.Texts {
			visit(&t.Tally)
		}
		for _, f := range p.Forms {
			visit(&f.Tally)
		}
		for _, k := range p.Keys {
			if k.Later != nil {
				for _, t := range k.Later.Classes {
					visit(t)
				}
			}
		}
	})
}

// endpoints makes endpoints of the roots of a group: roots of one kind that share
// at least half the keys of the smaller one are one endpoint, and so are roots of two kinds
// where one is what the other has become.
func (g *group) endpoints() []*Endpoint {
	roots := sortedRoots(g)
	if len(roots) >= maxRoots || g.roots[manyRoots] != nil {
		e := g.roots[roots[0]]
		for _, r := range roots[1:] {
			e.Merge(g.roots[r])
		}
		return []*Endpoint{e}
	}
	sort.SliceStable(roots, func(i, k int) bool {
		return g.roots[roots[i]].Responses > g.roots[roots[k]].Responses
	})
	var clusters []*cluster
	for _, root := range roots {
		e := g.roots[root]
		if e.Responses == 0 {
			continue
		}
		keys := rootKeys(root)
		var home *cluster
		for _, c := range clusters {
			if c.kind != root[0] {
				continue
			}
			shared := 0
			for _, k := range keys {
				if c.keys[k] {
					shared++
				}
			}
			if 2*shared >= min(len(keys), len(c.keys)) {
				home = c
				break
			}
		}
		if home == nil {
			home = &cluster{e: e, keys: map[string]bool{}, kind: root[0]}
			clusters = append(clusters, home)
		} else {
			home.e.Merge(e)
		}
		for _, k := range keys {
			home.keys[k] = true
		}
	}
	clusters = joinChanged(clusters)
	var out []*Endpoint
	for _, c := range clusters {
		e := c.e
		if len(clusters) > 1 {
			e.Name += " (" + describeRoot(c.kind, c.keys) + ")"
		}
		out = append(out, e)
	}
	return out
}

// cluster are the roots of a group that are taken for one endpoint.
type cluster struct {
	e    *Endpoint
	keys map[string]bool // of root objects
	kind byte
}

func rootKeys(root string) []string {
	if len(root) < 2 {
		return nil
	}
	return strings.Split(root[1:], "\x00")
}

// describeRoot tells an endpoint from others of its group.
func describeRoot(kind byte, keys map[string]bool) string {
	switch kind {
	case '[':
		return "array"
	case '{':
		names := make([]string, 0, len(keys))
		for k := range keys {
			names = append(names, k)
		}
		sort.Strings(names)
		if len(names) > 3 {
			names = append(names[:3], "…")
		}
		return "{" + strings.Join(names, ", ") + "}"
	}
	return "single value"
}

// IsOf says whether the endpoint is of the captures that have a group's name in
// common, alone or beside others.
func (e *Endpoint) IsOf(group string) bool {
	return e.Name == group || strings.HasPrefix(e.Name, group+" (")
}

// Documents is how many documents were read, without the malformed ones.
func (c *Collection) Documents() int64 { return c.c.docs }

// Problems are what could not be read, in the order of the captures.
func (c *Collection) Problems() []capture.Problem {
	out := slices.Clone(c.c.problems)
	sort.SliceStable(out, func(i, k int) bool { return out[i].Before(out[k]) })
	return out
}
