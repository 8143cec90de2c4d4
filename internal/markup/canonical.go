package markup

import (
	"sort"
	"strings"
)

// Places lead from offsets of the JSON text of a document to those of the document.
type Places []place

type place struct{ json, source, end int32 }

// Source is where in the document what begins at an offset of its JSON text stands: from start on, and to end where that
// is an element; else end is start.
func (p Places) Source(json int) (start, end int) {
	i := sort.Search(len(p), func(i int) bool { return int(p[i].json) > json })
	if i == 0 { // the document as a whole
		return int(p[0].source), int(p[0].end)
	}
	at := p[i-1]
	if int(at.json) != json {
		at.end = at.source
	}
	return int(at.source), int(at.end)
}

// writer writes elements as JSON text: a document as an object whose only member is the root element, an element as an
// object with a member for each attribute, for each name of elements in it (a list of them, in their order), for its text,
// and, where several names stand in it, for their order; an element that says that it is nothing is null.
type writer struct {
	out    []byte
	places Places
	most   int // how long out may become
	keys   map[Name]string
	attrs  map[Name]string
	shown  map[Name]string
	index  []group // of that one, whose memory is kept
}

func newWriter() *writer {
	return &writer{keys: map[Name]string{}, attrs: map[Name]string{}, shown: map[Name]string{}}
}

// over says whether more has been written than may be: names of namespaces stand in keys, and make much of little.
func (w *writer) over() bool { return len(w.out) > w.most }

// group are the elements of a name in one element, by their indexes among its nodes.
type group struct {
	name Name
	at   []int
}

func (w *writer) key(n Name) string {
	k := w.keys[n]
	if k == "" {
		k = string(append(appendText(nil, ElementKey(n)), ':'))
		w.keys[n] = k
	}
	return k
}

func (w *writer) attr(n Name) string {
	k := w.attrs[n]
	if k == "" {
		k = string(append(appendText(nil, AttrKey(n)), ':'))
		w.attrs[n] = k
	}
	return k
}

func (w *writer) mark(source int) { w.markTo(source, source) }

func (w *writer) markTo(source, end int) {
	w.places = append(w.places, place{int32(len(w.out)), int32(source), int32(end)})
}

func (w *writer) show(n Name) string {
	s := w.shown[n]
	if s == "" {
		s = n.Show()
		w.shown[n] = s
	}
	return s
}

func (w *writer) comma() {
	// Where nothing is there, the last element was handed on.
	if n := len(w.out); n == 0 || w.out[n-1] != '{' && w.out[n-1] != '[' {
		w.out = append(w.out, ',')
	}
}

// attributes writes those of an element.
func (w *writer) attributes(e *Element) {
	for i := range e.Attrs {
		a := &e.Attrs[i]
		if a.Name.Space == InstanceSpace && a.Name.Local != "type" {
			continue
		}
		if w.over() {
			return
		}
		w.comma()
		w.out = append(w.out, w.attr(a.Name)...)
		w.mark(a.ValueStart)
		w.out = appendText(w.out, e.meant(a))
	}
}

// inner writes the elements in an element, and in what order they stand; each writes the one that is a node of it.
func (w *writer) inner(e *Element, each func(k int)) {
	groups := w.grouped(e)
	for i := range groups {
		if w.over() {
			return
		}
		g := &groups[i]
		w.comma()
		w.mark(e.Nodes[g.at[0]].Start)
		w.out = append(w.out, w.key(g.name)...)
		w.out = append(w.out, '[')
		for _, k := range g.at {
			w.comma()
			each(k)
		}
		w.out = append(w.out, ']')
	}
	w.comma()
	w.markTo(e.Start, e.End)
	w.out = append(w.out, `"<>":`...)
	w.order(e)
}

// meant is the value of an attribute, that of xsi:type with what its prefix stands for.
func (e *Element) meant(a *Attr) string {
	if a.Name.Space != InstanceSpace || a.Name.Local != "type" {
		return a.Value
	}
	prefix, local, colon := strings.Cut(strings.Trim(a.Value, " \t\r\n"), ":")
	if !colon {
		prefix, local = "", prefix
	}
	if space, ok := e.Lookup(prefix); ok {
		return TypeText(Name{space, local})
	}
	return a.Value
}

// text writes the text of an element: of one without elements in it whatever it is, of others where it is no white space
// alone.
func (w *writer) text(e *Element) {
	first, several, blank, inner := -1, false, true, false
	for i := range e.Nodes {
		n := &e.Nodes[i]
		switch n.Kind {
		case ElementNode:
			inner = true
		case TextNode, CDataNode:
			several = first >= 0
			if first < 0 {
				first = i
			}
			blank = blank && strings.Trim(n.Text, " \t\r\n") == ""
		}
	}
	if inner && blank {
		return
	}
	w.comma()
	if first < 0 {
		w.mark(e.Open)
		w.out = append(w.out, `"<#":""`...)
		return
	}
	w.mark(e.Nodes[first].Start)
	w.out = append(w.out, `"<#":`...)
	if several {
		w.out = appendText(w.out, e.OwnText())
		return
	}
	w.out = appendText(w.out, e.Nodes[first].Text)
}

// order writes in what order the names of elements stand.
func (w *writer) order(e *Element) {
	o := order{out: append(w.out, '"')}
	for i := range e.Nodes {
		if n := &e.Nodes[i]; n.Kind == ElementNode {
			o.add(w, n.Element.Name)
		}
	}
	w.out = append(o.out, '"')
}

// order writes the names of elements as they follow each other, those of one name that do as one.
type order struct {
	out  []byte
	last Name
	any  bool // there is one
}

func (o *order) add(w *writer, name Name) {
	if o.any && name == o.last {
		return
	}
	if o.any {
		o.out = append(o.out, ' ')
	}
	o.any, o.last = true, name
	o.out = append(o.out, w.show(name)...)
}

// few is how many names are looked through one by one.
const few = 16

// grouped are the elements in an element by name, in the order in which the names come first.
func (w *writer) grouped(e *Element) []group {
	groups := w.index[:0]
	var index map[Name]int
	for i := range e.Nodes {
		n := &e.Nodes[i]
		if n.Kind != ElementNode {
			continue
		}
		name := n.Element.Name
		at := -1
		if index != nil {
			if k, ok := index[name]; ok {
				at = k
			}
		} else {
			for k := len(groups) - 1; k >= 0; k-- {
				if groups[k].name == name {
					at = k
					break
				}
			}
		}
		if at < 0 {
			at = len(groups)
			if at < cap(groups) {
				groups = groups[:at+1]
				groups[at].name, groups[at].at = name, groups[at].at[:0]
			} else {
				groups = append(groups, group{name: name})
			}
			if index != nil {
				index[name] = at
			} else if len(groups) > few {
				index = map[Name]int{}
				for k := range groups {
					index[groups[k].name] = k
				}
			}
		}
		groups[at].at = append(groups[at].at, i)
	}
	w.index = groups
	return groups
}

const hex = "0123456789abcdef"

// appendText writes a string literal (RFC 8259 section 7).
func appendText(out []byte, text string) []byte {
	out = append(out, '"')
	from := 0
	for i := 0; i < len(text); i++ {
		c := text[i]
		if c >= 0x20 && c != '"' && c != '\\' {
			continue
		}
		out = append(out, text[from:i]...)
		from = i + 1
		switch c {
		case '"', '\\':
			out = append(out, '\\', c)
		case '\n':
			out = append(out, '\\', 'n')
		case '\t':
			out = append(out, '\\', 't')
		case '\r':
			out = append(out, '\\', 'r')
		default:
			out = append(out, '\\', 'u', '0', '0', hex[c>>4], hex[c&15])
		}
	}
	return append(append(out, text[from:]...), '"')
}
