package markup

import (
	"math"
	"strings"
	"unsafe"
)

// Windows writes the JSON text of a document as Convert does, but hands it on in stretches of about size bytes, so that
// little is held of a large document beside its own text. Each stretch ends behind an element, and in it the offsets of
// Places count from its beginning; those of elements that began before are negative. What each is given is good until it
// returns; an error of it ends the reading.
//
// An element that is not in one stretch has its elements in the order in which they come, and their order last of all: a
// name that comes again after another one is a key that comes again, with a blank before its list, which goes on with the
// element whose number is the next of Resumed.
func Windows(data []byte, size int, each func(w *Converted, last bool) error) error {
	if err := tooLarge(data); err != nil {
		return err
	}
	f := newFragments(len(data))
	out := &Converted{Source: Source{Text: unsafe.String(unsafe.SliceData(data), len(data))}}
	f.window, f.hand = size, func(last bool) error {
		out.JSON, out.Places, out.Resumed = f.w.out, f.w.places, f.resumed
		return each(out, last)
	}
	if _, err := f.convert(data); err != nil {
		return err
	}
	return f.hand(true)
}

// begunBefore is what is kept of an open element whose beginning was handed on.
type begunBefore struct {
	counts map[Name]int // of the elements in it, but for those of the name that comes now
	count  int          // of those
	order  order        // of the names so far
	own    []byte       // its text so far
	start  int          // of that, -1 for none
	blank  bool
	was    *Element // that stood for others
}

// note takes note of nodes that are dropped then.
func (k *begunBefore) note(w *writer, nodes []Node) {
	for i := range nodes {
		n := &nodes[i]
		switch n.Kind {
		case ElementNode:
			k.order.add(w, n.Element.Name)
		case TextNode, CDataNode:
			if k.start < 0 {
				k.start = n.Start
			}
			k.blank = k.blank && strings.Trim(n.Text, " \t\r\n") == ""
			k.own = append(k.own, n.Text...)
		}
	}
}

// next begins the elements of another name in an element whose beginning was handed on.
func (f *fragments) next(w *writer, b *begun, e *Element) {
	k := b.before
	if b.inner {
		w.out = append(w.out, ']')
		k.counts[b.name] = k.count
		b.several = true
	}
	b.inner, b.name, b.first = true, e.Name, e
	w.comma()
	w.mark(e.Start)
	w.out = append(w.out, w.key(e.Name)...)
	if k.count = k.counts[e.Name]; k.count > 0 {
		f.resumed = append(f.resumed, k.count)
		w.out = append(w.out, ' ')
	}
	w.out = append(w.out, '[')
}

// finish writes the end of an element whose beginning was handed on.
func (f *fragments) finish(e *Element, b *begun) {
	k, w := b.before, f.w
	k.note(w, e.Nodes)
	if b.inner {
		w.out = append(w.out, ']')
	}
	if b.several {
		w.comma()
		w.markTo(e.Start, e.End)
		w.out = append(append(append(w.out, `"<>":"`...), k.order.out...), '"')
	}
	if k.start >= 0 && !(k.order.any && k.blank) {
		w.comma()
		w.mark(k.start)
		w.out = appendText(append(w.out, `"<#":`...), string(k.own))
	}
	w.out = append(w.out, '}')
}

// handOn hands on what was written, once that is enough, and makes of the nodes of elements that are open what is needed
// of them later.
func (f *fragments) handOn(m *memory) error {
	if f.hand == nil || len(f.w.out) < f.window || len(f.open) == 0 {
		return nil
	}
	for i := range f.open {
		if f.open[i].null { // what is in it will be left out
			return nil
		}
	}
	f.arrange(m)
	for i := range f.open {
		f.w.places[f.open[i].places].end = math.MaxInt32
	}
	if err := f.hand(false); err != nil {
		return err
	}
	w, used := f.w, len(f.w.out)
	w.most -= used
	places := make(Places, 0, len(f.open))
	for i := range f.open {
		b := &f.open[i]
		at := w.places[b.places]
		b.places = i
		at.json -= int32(used)
		places = append(places, at)
	}
	w.out, w.places, f.resumed = w.out[:0], append(w.places[:0], places...), f.resumed[:0]
	f.drop(m)
	return nil
}

// region are the nodes of the open element of a number: the last is the element that is open in it, but for those of the
// innermost.
func (m *memory) region(i int) (from, to int) {
	if to = len(m.nodes); i+1 < len(m.from) {
		to = m.from[i+1]
	}
	return m.from[i], to
}

// arrange puts what was written of the open elements in an order that can be handed on: in each, elements of one name
// stand together, and the element that is open comes last.
func (f *fragments) arrange(m *memory) {
	known := 0
	for known < len(f.open) && f.open[known].before != nil {
		known++
	}
	if known == len(f.open) {
		return
	}
	w, s := f.w, f.spare
	s.out = append(s.out[:0], w.out[:f.open[known].from]...)
	s.places = append(s.places[:0], w.places[:f.open[known].places]...)
	for i := known; i < len(f.open); i++ {
		b := &f.open[i]
		from, to := m.region(i)
		b.before = &begunBefore{counts: map[Name]int{}, start: -1, blank: true}
		first := len(s.places)
		if !b.several {
			for _, n := range m.nodes[from:to] {
				if n.Kind == ElementNode {
					b.before.count++
				}
			}
			text, places := len(w.out), len(w.places)
			if i+1 < len(f.open) {
				text, places = f.open[i+1].from, f.open[i+1].places
			}
			f.moved(fragment{b.from, text, b.places, places})
		} else {
			f.gathered(b, m.nodes[from:to], f.parts[from:to], i+1 < len(f.open))
		}
		b.places = first
	}
	w.out, s.out = s.out, w.out
	w.places, s.places = s.places, w.places
}

// moved writes behind what is spare a part of what was written.
func (f *fragments) moved(part fragment) {
	by := int32(len(f.spare.out) - part.from)
	f.spare.out = append(f.spare.out, f.w.out[part.from:part.to]...)
	for _, p := range f.w.places[part.places:part.behind] {
		p.json += by
		f.spare.places = append(f.spare.places, p)
	}
}

// gathered writes what there is of an element, name by name, and begins the list of the one that is open in it, if one is.
func (f *fragments) gathered(b *begun, nodes []Node, parts []fragment, open bool) {
	s := f.spare
	b.before.was = b.first
	f.moved(fragment{b.from, b.body, b.places, b.behind})
	inner := len(nodes)
	if open {
		inner--
	}
	for _, g := range s.grouped(&Element{Nodes: nodes[:inner]}) {
		s.comma()
		s.mark(nodes[g.at[0]].Start)
		s.out = append(append(s.out, s.key(g.name)...), '[')
		for _, k := range g.at {
			s.comma()
			f.moved(parts[k])
		}
		s.out = append(s.out, ']')
		b.before.counts[g.name] = len(g.at)
	}
	b.inner = false
	if open {
		f.next(s, b, nodes[inner].Element)
		b.before.count++
	}
}

// drop takes note of the nodes of open elements, and keeps of them the elements that are open.
func (f *fragments) drop(m *memory) {
	kept := 0
	for i := range f.open {
		b := &f.open[i]
		from, to := m.region(i)
		b.before.note(f.w, m.nodes[from:to])
		inner := to
		if i+1 < len(f.open) {
			inner--
		}
		f.release(m.nodes[from:inner], b)
		b.before.was = nil
		m.from[i] = kept
		if inner < to {
			m.nodes[kept] = m.nodes[inner]
			kept++
		}
	}
	clear(m.nodes[kept:])
	m.nodes, f.parts = m.nodes[:kept], f.parts[:kept]
}
