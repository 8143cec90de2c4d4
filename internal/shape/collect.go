package shape

import (
	"cmp"
	"errors"
	"fmt"
	"io"
	"slices"
	"sort"
	"strings"
	"sync"
	"sync/atomic"

	"vetta/internal/capture"
	"vetta/internal/traffic"
	"vetta/internal/wire"
)

// Shape is what was seen in all responses, by endpoint.
type Shape struct {
	Endpoints []*Endpoint // by name
	Captures  []string    // by order
	Problems  []capture.Problem
	Passed    []Passed
	Files     int   // captures read
	Documents int64 // documents read, without the malformed ones
	Bytes     int64
	// Partial says that the reading was stopped before the captures were read to their end.
	Partial bool
}

// Reading says how captures are read.
type Reading struct {
	Workers int // at least 1; the result does not depend on their number
	Limits  Limits
	// Want says which bodies are wanted by how they were sent; nil for all.
	Want  func(*traffic.Exchange) bool
	Stdin io.Reader      // what the capture of that name is read from
	Meter *capture.Meter // counts what is read, nil for none
	// Files counts the captures that have been read, nil for nothing.
	Files *atomic.Int64
	// Stop is asked between stretches whether the reading is to end; nil for never.
	Stop func() bool
	// tellers, endpoint and visit are of a second reading: see Apart and Again.
	tellers  []Teller
	judges   []Judge
	endpoint *Endpoint
	visit    func(capture.Document) (end int, err error)
	// For tests: from how many bytes an XML document is read in stretches, and the size of those; 0 for the usual.
	large, stretch int
}

// Collect reads captures into a shape.
func Collect(files []*capture.File, how Reading) *Shape { return Gather(files, how).Shape() }

// Gather is Collect that does not yet put the endpoints together, so that what was
// read can be saved, or merged with what others have read.
func Gather(files []*capture.File, how Reading) *Collection {
	all := make([]*collector, max(1, how.Workers))
	known := &registry{files: slices.Clone(files)}
	for i, f := range files {
		f.ID = i
	}
	var next, finished atomic.Int64
	// Stretches of a large file are read by all: who has no file left takes them, and who reads the file
	// keeps some ready for that.
	var chunks chan *capture.Chunk
	if len(all) > 1 {
		chunks = make(chan *capture.Chunk, 2*len(all))
	}
	var wait sync.WaitGroup
	for i := range all {
		c := newCollector(how.Limits)
		c.read(&how, known)
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
				if how.Files != nil {
					how.Files.Add(1)
				}
				if finished.Add(1) == int64(len(files)) && chunks != nil {
					close(chunks)
				}
			}
			if chunks == nil {
				return
			}
			for chunk := range chunks {
				if !c.stopped() {
					c.chunk(chunk)
				}
				chunk.Done()
			}
		}()
	}
	if len(files) == 0 && chunks != nil {
		close(chunks)
	}
	wait.Wait()
	for _, c := range all { // what was read with is not kept with what was read
		c.reader, c.files, c.src, c.of, c.lastFile, c.lastSent = Reader{}, capture.Reader{}, nil, nil, nil, nil
	}
	for _, c := range all[1:] {
		all[0].merge(c)
	}
	all[0].number(known.files)
	return &Collection{all[0]}
}

// Collection is what was read from captures, by the names of the captures and the
// roots of the documents.
type Collection struct{ c *collector }

// Merge adds what another collection holds; the other must not be used afterwards.
func (c *Collection) Merge(o *Collection) {
	names := append(append([]string{}, c.c.captures...), o.c.captures...)
	slices.SortFunc(names, traffic.Compare)
	names = slices.Compact(names)
	order := map[string]int{}
	for i, n := range names {
		order[n] = i
	}
	for _, c := range []*collector{c.c, o.c} {
		c.reorder(func(old int) int { return order[c.captures[old]] }, func(r capture.Rank) capture.Rank {
			return capture.RankOf(order[c.captures[r.Order()]], 0, r.Entry())
		})
	}
	c.c.merge(o.c)
	c.c.captures = names
}

// Captures are the names of the captures, by the order that Endpoint.HasFile knows.
func (c *Collection) Captures() []string { return c.c.captures }

// Partial says whether the reading was stopped before its end.
func (c *Collection) Partial() bool { return c.c.partial }

// Shape puts the endpoints together. The collection must not be used afterwards.
func (c *Collection) Shape() *Shape {
	s := c.c.shape()
	s.Files, s.Captures = len(c.c.captures), c.c.captures
	return s
}

// collector is what one worker has read.
type collector struct {
	limits      Limits
	how         *Reading
	reader      Reader
	files       capture.Reader
	sink        capture.Sink
	grouper     traffic.Grouper
	groups      map[string]*group // by key
	problems    []capture.Problem
	passed      passed
	passedFiles map[int]bool // by ID, of files that hold nothing to read
	captures    []string     // by order, when all is read
	several     map[int]bool // captures that hold several documents: by ID, and by order when all is read
	lastFile    *capture.File
	lastSent    *traffic.Exchange
	last        *group
	routed      int // groups by what was requested, since some were put together
	src         *Source
	of          *capture.Body
	docs        int64
	bytes       int64
	partial     bool
}

// group are the captures that have a name in common, or responses that have a request in common, apart
// by their root: one endpoint for each kind of value and set of keys there.
type group struct {
	name  string         // of captures
	route *traffic.Route // of responses whose request is known
	roots map[string]*Endpoint
	last  *Endpoint
}

// maxRoots is how many different roots a group may have: beyond, they are taken
// for one.
const maxRoots = 64

func newCollector(limits Limits) *collector {
	return &collector{limits: limits, how: &Reading{}, groups: map[string]*group{}, several: map[int]bool{}, passed: passed{}, passedFiles: map[int]bool{}}
}

// read makes the collector ready to read captures.
func (c *collector) read(how *Reading, known *registry) {
	c.how = how
	c.files = capture.Reader{Alone: how.Workers <= 1, Stdin: how.Stdin, Meter: how.Meter, Members: known.add, Passed: func(p capture.Passed) {
		c.passedFiles[p.File.ID] = true
		c.passed.add(p)
	}}
	c.sink = capture.Sink{Document: c.document, Problem: c.problem, Passed: c.passed.add, Want: how.Want}
	if how.visit == nil && len(how.tellers) == 0 { // which look ahead in the document
		c.sink.Stretches, c.sink.Large, c.sink.Stretch = c.stretches, cmp.Or(how.large, capture.LargeXML), cmp.Or(how.stretch, ofStretch)
	}
}

func (c *collector) problem(p capture.Problem) { c.problems = append(c.problems, p) }

// errStopped ends the reading of a file.
var errStopped = errors.New("the reading was stopped")

func (c *collector) stopped() bool {
	if c.how.Stop != nil && c.how.Stop() {
		c.partial = true
	}
	return c.partial
}

func (c *collector) file(f *capture.File, chunks chan<- *capture.Chunk) {
	if c.stopped() {
		return
	}
	c.files.Read(f, func(chunk *capture.Chunk) (int, error) {
		if c.stopped() {
			return 0, errStopped
		}
		if chunk.Own {
			chunk.Taken = true
			select {
			case chunks <- chunk: // another worker is free
				return len(chunk.Data), nil
			default:
				chunk.Taken = false
			}
		}
		return c.chunk(chunk), nil
	}, c.problem)
}

func (c *collector) chunk(chunk *capture.Chunk) int {
	return chunk.Documents(&c.sink)
}

// groupOf is the group of a document; nil where it is of another endpoint than the one that is read again.
func (c *collector) groupOf(d capture.Document) *group {
	if c.lastFile == d.File && c.lastSent == d.Exchange {
		return c.last
	}
	c.lastFile, c.lastSent = d.File, d.Exchange
	like := groupLike(d, &c.grouper)
	if again := c.how.endpoint; again != nil {
		if c.last = nil; !again.isOf(like) {
			return nil
		}
		like = &group{name: again.Group, route: again.Route}
	}
	if c.last == nil || c.last.name != like.name || (c.last.route == nil) != (like.route == nil) || like.route != nil && *c.last.route != *like.route {
		file, sent := c.lastFile, c.lastSent
		if len(c.groups) > manyRecalled && c.last != nil && c.last.last != nil {
			c.last.last.Root.Walk(func(p *Place) { p.recall = recall{} })
		}
		c.last = c.group(like)
		c.lastFile, c.lastSent = file, sent
	}
	return c.last
}

// manyRecalled is how many groups there may be before each forgets what it finds places by fast once another one comes.
const manyRecalled = 512

// groupLike is a group as that of a document: by what was requested where that is known, and by the name
// of its file where not.
func groupLike(d capture.Document, g *traffic.Grouper) *group {
	if d.Exchange.Known() {
		route := d.Exchange.Route()
		return &group{route: &route}
	}
	name := g.Group(d.File.Path)
	if d.Exchange.Failed() {
		name += failedGroup
	}
	return &group{name: name}
}

// failedGroup is behind the name of captures that are errors.
const failedGroup = " (error)"

// key tells groups apart.
func (g *group) key() string {
	if g.route != nil {
		return "\x00" + g.route.Full()
	}
	return g.name
}

// group is the group that is like another one, made where there is none yet.
func (c *collector) group(like *group) *group {
	key := like.key()
	if g := c.groups[key]; g != nil {
		return g
	}
	if like.route != nil {
		if c.routed++; c.routed > manyGroups {
			c.foldPaths(false)
			c.routed = 0
		}
	}
	like.roots = map[string]*Endpoint{}
	c.groups[key] = like
	return like
}

// document reads a document into the endpoint that its root belongs to. The
// endpoint of the document before is tried first, and the reading taken back if
// the root turns out to be another.
func (c *collector) document(d capture.Document) (int, error) {
	g := c.groupOf(d)
	if c.how.endpoint != nil && g == nil {
		return wire.Skip(d.Data, d.Start)
	}
	if c.how.visit != nil {
		return c.again(d)
	}
	src := c.source(d)
	if d.Entry > 1 {
		c.several[d.File.ID] = true
	}
	if e := g.last; e != nil {
		end, err := c.reader.Read(e, src, d.Start)
		switch {
		case err == ErrOtherRoot:
		case err != nil:
			return end, err
		case e.fixed == manyRoots || c.reader.Root(src, d.Start) == e.fixed:
			c.count(d, end)
			return end, nil
		default:
			c.reader.TakeBack(e, src, d.Start)
		}
	}
	root, err := RootOf(d.Data, d.Start)
	if err != nil {
		return 0, err
	}
	root, e := c.rootIn(g, root)
	if e == nil {
		e = NewEndpoint(g.title(), c.limits)
		e.Route = g.route
		e.Tell(c.how.tellers)
		e.Judge(c.how.judges)
		e.fixed = root
		g.roots[root] = e
	}
	end, err := c.reader.Read(e, src, d.Start)
	e.fixedRoot = root != manyRoots
	g.last = e
	c.count(d, end)
	return end, err
}

// rootIn is the root that one counts as in a group, and the endpoint of that, nil where there is none yet.
func (c *collector) rootIn(g *group, root string) (string, *Endpoint) {
	if e := g.roots[root]; e != nil || len(g.roots) < maxRoots && g.roots[manyRoots] == nil {
		return root, e
	}
	g.fold()
	return manyRoots, g.roots[manyRoots]
}

// count counts a document that ends at an offset.
func (c *collector) count(d capture.Document, end int) {
	c.docs++
	c.bytes += int64(max(0, end-wire.SkipSpace(d.Data, d.Start)))
}

// fold takes all roots of a group for one, however they were met: that of manyRoots.
func (g *group) fold() {
	roots := sortedRoots(g)
	if len(roots) == 1 && roots[0] == manyRoots {
		return
	}
	e := g.roots[roots[0]]
	for _, r := range roots[1:] {
		e.Merge(g.roots[r])
	}
	e.fixed = manyRoots
	g.roots, g.last = map[string]*Endpoint{manyRoots: e}, nil
}

// title names the group.
func (g *group) title() string {
	if g.route != nil && g.name == "" {
		return g.route.String()
	}
	return g.name
}

// source is the body that a document is in, the same for all documents of it.
func (c *collector) source(d capture.Document) *Source {
	if c.src == nil || c.of != d.Body || &c.src.Data[0] != &d.Data[0] {
		c.of = d.Body
		c.src = &Source{
			Origin: Origin{File: d.File.Path, Order: d.File.Order, Member: d.File.Member}, ID: d.File.ID,
			Data: d.Data, Base: d.Base, Line: d.Line, Column: d.Column, Made: d.Made, body: d.Body,
		}
		if d.Exchange != nil && !d.Exchange.Time.IsZero() {
			c.src.Sent = d.Exchange.Time.UnixMilli()
		}
	}
	c.src.Entry = d.Entry
	return c.src
}

// manyRoots is the root of an endpoint that takes what is left when a group has
// too many.
const manyRoots = "*"

func (c *collector) merge(o *collector) {
	for _, g := range o.groups {
		c.join(g)
	}
	c.problems = append(c.problems, o.problems...)
	for f := range o.several {
		c.several[f] = true
	}
	for id := range o.passedFiles {
		c.passedFiles[id] = true
	}
	c.passed.join(o.passed)
	c.docs += o.docs
	c.bytes += o.bytes
	c.partial = c.partial || o.partial
}

// shape puts the endpoints together.
func (c *collector) shape() *Shape {
	s := &Shape{Problems: append(c.problems, c.expected()...), Passed: c.passed.list(), Documents: c.docs, Bytes: c.bytes, Partial: c.partial}
	if c.how.endpoint == nil {
		c.foldPaths(true)
		c.nameHosts()
	}
	for _, g := range c.groups {
		s.Endpoints = append(s.Endpoints, g.endpoints()...)
	}
	sort.Slice(s.Endpoints, func(i, k int) bool { return s.Endpoints[i].Name < s.Endpoints[k].Name })
	for _, e := range s.Endpoints {
		e.foldDynamic()
		e.Settle()
		e.soleEntries(c.several)
		e.names, e.several = c.captures, c.several
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

// IsOf says whether the endpoint is what a document belongs to by its name, or by what was requested,
// alone or beside others.
func (e *Endpoint) IsOf(d capture.Document) bool {
	return e.isOf(groupLike(d, new(traffic.Grouper)))
}

// EndpointOf is an endpoint as that of a document, at which nothing was seen yet.
func EndpointOf(d capture.Document) *Endpoint {
	g := groupLike(d, new(traffic.Grouper))
	e := NewEndpoint(g.title(), DefaultLimits)
	e.Group, e.Route = e.Name, g.route
	return e
}

// isOf says whether the endpoint is one of a group.
func (e *Endpoint) isOf(g *group) bool {
	if e.Route == nil || g.route == nil {
		return e.Route == nil && g.route == nil && e.Group == g.name
	}
	a, b := *e.Route, *g.route
	a.Path, b.Path = "", ""
	own, other := strings.Split(e.Route.Path, "/"), strings.Split(g.route.Path, "/")
	return a == b && len(own) == len(other) && fits(own, other)
}

// fits says whether the segments of a path are those of another in which some vary.
func fits(template, path []string) bool {
	for i, part := range template {
		if part != path[i] && part != traffic.Varying {
			return false
		}
	}
	return true
}

// Documents is how many documents were read, without the malformed ones.
func (c *Collection) Documents() int64 { return c.c.docs }

// Problems are what could not be read, in the order of the captures.
func (c *Collection) Problems() []capture.Problem {
	out := slices.Clone(c.c.problems)
	sort.SliceStable(out, func(i, k int) bool { return out[i].Before(out[k]) })
	return out
}
