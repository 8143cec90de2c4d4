package markup

import (
	"math"
	"slices"
	"strings"
	"unsafe"
)

// Converted is a document as JSON text, without a tree: what memory it takes goes by its text.
type Converted struct {
	Source
	JSON   []byte // as writer has it
	Places Places
	// Resumed are the numbers, from 0, of the elements that lists of a stretch go on with: see Windows.
	Resumed []int
}

// MaxGrowth is how many times as long the JSON text of a document may be, beyond the first MB.
const MaxGrowth = 64

// tooLong is told where a document becomes longer than that.
const tooLong = "names of namespaces that make it more than %d times as long where they are written out"

// Convert reads a document and writes it as JSON text. What it answers is good as long as data is. The error is an *Error.
func Convert(data []byte) (*Converted, error) {
	if err := tooLarge(data); err != nil {
		return nil, err
	}
	f := newFragments(len(data))
	src, err := f.convert(data)
	if err != nil {
		return nil, err
	}
	return &Converted{Source: src, JSON: f.w.out, Places: f.w.places}, nil
}

// convert reads a document and writes it.
func (f *fragments) convert(data []byte) (Source, error) {
	p, err := read(unsafe.String(unsafe.SliceData(data), len(data)), &memory{writes: f})
	if err == nil && f.full() {
		err = p.fail(p.doc.Root.Start, tooLong, MaxGrowth)
	}
	if err != nil {
		return Source{}, err
	}
	return p.doc.Source, nil
}

// Tree reads the document into a tree, which is good for ever.
func (c *Converted) Tree() (*Document, error) { return parse(strings.Clone(c.Text)) }

// fragment is where the JSON text of an element stands, and its places.
type fragment struct{ from, to, places, behind int }

// begun is an element that is open: of what it is written so far.
type begun struct {
	from, places int  // where its own text begins
	body, behind int  // and the first of what stands in it
	name         Name // of the elements in it
	first        *Element
	inner        bool         // there are some
	null         bool         // it says that it is nothing
	several      bool         // of several names, which are put together when it is closed
	before       *begunBefore // where its beginning was handed on
}

// fragments write elements as they come: those of one name where they stand, as most do, and those of several names once
// more, name by name, when the element around them is closed.
type fragments struct {
	w     *writer
	spare *writer // of elements that are put together
	open  []begun
	parts []fragment // by node of the elements that are open
	free  []*Element
	size  int // of the document
	// Where the text is handed on in stretches: how long they are, to whom, and the Resumed of this one.
	window  int
	hand    func(last bool) error
	resumed []int
}

func newFragments(size int) *fragments {
	f := &fragments{w: newWriter(), spare: newWriter(), size: size}
	f.w.most = min(1<<20+MaxGrowth*size, math.MaxInt32-1<<20)
	f.spare.most = f.w.most
	return f
}

// grown makes room, as much as the rest of the document will take if it is as what was read up to an offset.
func grown[T any](some []T, offset, size int) []T {
	if cap(some)-len(some) >= 64 {
		return some
	}
	rest := float64(len(some)) * float64(size-offset) / float64(offset+1)
	return slices.Grow(some, 1024+int(1.15*rest))
}

func (f *fragments) element() *Element {
	last := len(f.free) - 1
	if last < 0 {
		return &Element{}
	}
	e := f.free[last]
	f.free = f.free[:last]
	*e = Element{}
	return e
}

// full says whether more has been written than may be.
func (f *fragments) full() bool { return f.w.over() || f.spare.over() }

// begin writes the start of an element, with its attributes.
func (f *fragments) begin(e *Element) {
	w := f.w
	if f.hand == nil {
		w.out, w.places = grown(w.out, e.Start, f.size), grown(w.places, e.Start, f.size)
	}
	switch {
	case len(f.open) == 0:
		w.out = append(append(w.out, '{'), w.key(e.Name)...)
	default:
		around := &f.open[len(f.open)-1]
		switch {
		case around.before != nil && (!around.inner || around.name != e.Name):
			f.next(w, around, e)
		case !around.inner:
			around.inner, around.name, around.first = true, e.Name, e
			w.comma()
			w.mark(e.Start)
			w.out = append(append(w.out, w.key(e.Name)...), '[')
		case around.name == e.Name:
			w.out = append(w.out, ',')
		default:
			around.several = true
		}
		if around.before != nil {
			around.before.count++
		}
	}
	b := begun{from: len(w.out), places: len(w.places)}
	w.markTo(e.Start, e.End)
	if b.null = e.Nil(); !b.null {
		w.out = append(w.out, '{')
		w.attributes(e)
	}
	e.Attrs = nil // whose memory is that of the next tag's
	b.body, b.behind = len(w.out), len(w.places)
	f.open = append(f.open, b)
}

// close writes the end of an element, whose nodes are those from an index on.
// node is what the element around it holds it by.
func (f *fragments) close(e *Element, from int, node **Element) {
	b := f.open[len(f.open)-1]
	f.open = f.open[:len(f.open)-1]
	w := f.w
	w.places[b.places].end = int32(e.End)
	switch {
	case b.null:
		w.out, w.places = append(w.out[:b.from], "null"...), w.places[:b.behind]
	case b.before != nil:
		f.finish(e, &b)
	case b.several:
		f.together(e, b, f.parts[from:])
	default:
		if b.inner {
			w.out = append(w.out, ']')
		}
		w.text(e)
		w.out = append(w.out, '}')
	}
	f.release(e.Nodes, &b)
	if b.first != nil {
		f.free = append(f.free, b.first)
	}
	f.parts = f.parts[:from]
	if len(f.open) == 0 {
		w.out = append(w.out, '}')
		return
	}
	f.parts[from-1] = fragment{b.from, len(w.out), b.places, len(w.places)} // the last node of the element around it
	// Of elements of one name, one stands for all: what is asked of them is their name.
	if around := &f.open[len(f.open)-1]; around.first != e && around.name == e.Name {
		*node = around.first
		f.free = append(f.free, e)
	}
}

// release makes the elements that nodes hold free, but for the one that stands for others.
func (f *fragments) release(nodes []Node, b *begun) {
	var last *Element
	for i := range nodes {
		inner := nodes[i].Element
		if inner == nil || inner == last || inner == b.first || b.before != nil && inner == b.before.was {
			continue
		}
		last = inner
		f.free = append(f.free, inner)
	}
}

// together writes the elements in an element name by name, in place of what was written of them as they came.
func (f *fragments) together(e *Element, b begun, parts []fragment) {
	w, s := f.w, f.spare
	s.out, s.places = append(s.out[:0], w.out[b.from:b.body]...), s.places[:0]
	shift := func(places Places, by int) {
		for _, p := range places {
			p.json += int32(by)
			s.places = append(s.places, p)
		}
	}
	shift(w.places[b.places:b.behind], -b.from)
	s.inner(e, func(k int) {
		part := parts[k]
		by := len(s.out) - part.from
		s.out = append(s.out, w.out[part.from:part.to]...)
		shift(w.places[part.places:part.behind], by)
	})
	s.text(e)
	s.out = append(s.out, '}')
	w.out, w.places = append(w.out[:b.from], s.out...), w.places[:b.places]
	for _, p := range s.places {
		p.json += int32(b.from)
		w.places = append(w.places, p)
	}
}
