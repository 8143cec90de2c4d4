package markup

// memory is what a tree is built in: large pieces for all elements, nodes and attributes, and the nodes of elements that
// are open still, which are copied once they are all there.
type memory struct {
	elements []Element // for those to come
	kept     []Node
	values   []Attr
	nodes    []Node // of elements that are open, the innermost last
	from     []int  // where those of each begin
	attrs    []Attr // of the tag that is read
	// Where no tree is wanted, what is closed is written at once, and its memory used again.
	writes *fragments
}

// add adds a node to the element that is open.
func (m *memory) add(n Node) {
	m.nodes = append(m.nodes, n)
	if m.writes != nil {
		m.writes.parts = append(m.writes.parts, fragment{})
	}
}

// open begins an element whose end tag is to come.
func (m *memory) open(e *Element) {
	m.from = append(m.from, len(m.nodes))
	if m.writes != nil {
		m.writes.begin(e)
	}
}

// holder is where the element whose nodes begin at an index is held, nil for the root.
func (m *memory) holder(from int) **Element {
	if from == 0 {
		return nil
	}
	return &m.nodes[from-1].Element
}

// empty closes an element that was never open.
func (m *memory) empty(e *Element) error {
	if m.writes == nil {
		return nil
	}
	m.writes.begin(e)
	m.writes.close(e, len(m.nodes), m.holder(len(m.nodes)))
	return m.writes.handOn(m)
}

// element is memory for one more.
func (m *memory) element() *Element {
	if m.writes != nil {
		return m.writes.element()
	}
	if len(m.elements) == 0 {
		m.elements = make([]Element, 64)
	}
	e := &m.elements[0]
	m.elements = m.elements[1:]
	return e
}

// close gives an element the nodes in it.
func (m *memory) close(e *Element) error {
	last := len(m.from) - 1
	from := m.from[last]
	m.from = m.from[:last]
	if m.writes != nil {
		e.Nodes = m.nodes[from:]
		m.writes.close(e, from, m.holder(from))
		clear(m.nodes[from:])
	} else {
		e.Nodes = piece(&m.kept, m.nodes[from:])
	}
	m.nodes = m.nodes[:from]
	if m.writes != nil {
		return m.writes.handOn(m)
	}
	return nil
}

// keepAttrs makes the attributes of a tag that was read the element's own.
func (m *memory) keepAttrs(e *Element) {
	if m.attrs = e.Attrs[:0]; m.writes == nil {
		e.Attrs = piece(&m.values, e.Attrs)
	}
}

// piece copies some into a part of a large piece.
func piece[T any](from *[]T, some []T) []T {
	if len(some) == 0 {
		return nil
	}
	if len(*from) < len(some) {
		*from = make([]T, max(256, len(some)))
	}
	out := (*from)[:len(some):len(some)]
	*from = (*from)[len(some):]
	copy(out, some)
	return out
}
