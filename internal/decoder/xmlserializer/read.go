package xmlserializer

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/markup"
	"vetta/internal/model"
)

// reading is what is done with one document.
type reading struct {
	c   *compiler
	doc *markup.Document
}

// errorAt is what the library throws about something in the document.
func (r *reading) errorAt(pos int, reason decoder.Reason, inner string) *decoder.Error {
	at := "(0, 0)"
	if r.doc != nil && !r.c.options.Placeless {
		line, column := r.doc.Position(pos)
		at = fmt.Sprintf("(%d, %d)", line, column)
	}
	return &decoder.Error{Kind: "InvalidOperationException", Reason: reason, Message: "InvalidOperationException: There is an error in XML document " + at + ". <- " + inner}
}

// behind is where the reader stands when it has read an element: at the name in what comes next.
func (r *reading) behind(e *markup.Element) int {
	if r.doc == nil {
		return 0
	}
	pos, text := e.End, r.doc.Text
	for pos < len(text) && strings.IndexByte(" \t\r\n", text[pos]) >= 0 {
		pos++
	}
	switch {
	case strings.HasPrefix(text[pos:], "</"):
		return pos + 2
	case strings.HasPrefix(text[pos:], "<"):
		return pos + 1
	}
	return pos
}

// top reads what stands at the root.
func (r *reading) top(e *markup.Element) (decoder.Seen, *decoder.Error) {
	c := r.c
	switch {
	case c.broken != nil:
		return decoder.Seen{}, c.broken
	case c.lost != "":
		return decoder.Seen{Kind: decoder.SeenUnknown}, nil
	}
	if r.doc != nil {
		if r.doc.Doctype && !c.options.Doctype {
			return decoder.Seen{}, r.errorAt(r.doc.DoctypeStart, decoder.ReasonKind, "XmlException: For security reasons DTD is prohibited in this XML document. To enable DTD processing set the DtdProcessing property on XmlReaderSettings to Parse and pass the settings into XmlReader.Create method.")
		}
		if r.doc.Undeclared >= 0 {
			return decoder.Seen{}, r.errorAt(r.doc.Undeclared, decoder.ReasonKind, "XmlException: a name or an entity that is not declared.")
		}
	}
	if c.nameOf(e.Name) != c.top.name {
		err := r.errorAt(e.Start+1, decoder.ReasonKind, fmt.Sprintf("InvalidOperationException: <%s xmlns='%s'> was not expected.", e.Name.Local, e.Name.Space))
		err.Key = markup.ElementKey(c.top.name)
		return decoder.Seen{}, err
	}
	return r.element(c.top, e)
}

// element reads an element by an accessor.
func (r *reading) element(a *accessor, e *markup.Element) (decoder.Seen, *decoder.Error) {
	u := a.typ.Unwrapped()
	switch {
	case a.items != nil:
		if e.Nil() {
			if a == r.c.top && !strings.HasPrefix(u.Name, "[") { // a list that is made all the same
				return decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}, nil
			}
			return decoder.Seen{}, nil
		}
		return r.items(a.items, e)
	case a.class != nil:
		return r.class(a.class, a, e)
	case u.Name == "object" && u.Model == nil && u.Kind == model.Named:
		return r.any(e, a.nullable)
	case u.Name == "KeyValuePair" && u.Model == nil && len(u.Args) == 2: // its members have no setters
		return decoder.Seen{Kind: decoder.SeenObject, Names: []string{"Key", "Value"}, Elems: []decoder.Seen{clr.Zero(u.Args[0]), clr.Zero(u.Args[1])}}, nil
	}
	return r.scalar(a, e)
}

// defaulted are types whose empty element leaves them as they are by default.
func defaulted(t *model.Type) bool {
	switch t.Unwrapped().Name {
	case "DateTimeOffset", "TimeSpan", "DateOnly", "TimeOnly":
		return t.Kind != model.Optional
	}
	return false
}

// scalar reads the text of an element.
func (r *reading) scalar(a *accessor, e *markup.Element) (decoder.Seen, *decoder.Error) {
	if a.nullable && e.Nil() {
		return decoder.Seen{}, nil
	}
	u := a.typ.Unwrapped()
	if defaulted(a.typ) && e.Empty {
		return clr.Zero(u), nil
	}
	text, err := r.text(e, clr.IsBytes(u))
	if err != nil {
		return decoder.Seen{}, err
	}
	s, wrong, known := r.c.value(u, a.data, text)
	if !known {
		return decoder.Seen{Kind: decoder.SeenUnknown}, nil
	}
	if wrong != nil {
		pos := r.behind(e)
		if clr.IsBytes(u) {
			pos = e.Open
		}
		return decoder.Seen{}, r.errorAt(pos, wrong.Reason, wrong.Message)
	}
	return s, nil
}

// text is what stands in an element that holds no other.
func (r *reading) text(e *markup.Element, bytes bool) (string, *decoder.Error) {
	var b strings.Builder
	any := false
	for i := range e.Nodes {
		n := &e.Nodes[i]
		switch n.Kind {
		case markup.ElementNode:
			what := "XmlException: ReadElementContentAs() methods cannot be called on an element that has child elements."
			if any || bytes {
				what = "XmlException: 'Element' is an invalid XmlNodeType."
			}
			return "", r.errorAt(n.Start+1, decoder.ReasonKind, what)
		case markup.TextNode, markup.CDataNode:
			if r.drops(e, n) {
				continue
			}
			any = true
			b.WriteString(n.Text)
		}
	}
	return b.String(), nil
}

// drops says whether the reader passes over white space that stands alone.
func (r *reading) drops(e *markup.Element, n *markup.Node) bool {
	if !n.Blank || n.Kind != markup.TextNode || r.c.options.Keeps {
		return false
	}
	for ; e != nil; e = e.Parent {
		if a := e.Attr(markup.XMLSpace, "space"); a != nil {
			return a.Value != "preserve"
		}
	}
	return true
}

// items reads the items of a list from the element around them.
func (r *reading) items(it *items, e *markup.Element) (decoder.Seen, *decoder.Error) {
	out := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
	for _, inner := range e.Elements() {
		a := r.chosen(it.choose, inner)
		if a == nil {
			if err := r.unknown(inner, nil, expected(it.choose)); err != nil {
				return out, err
			}
			continue
		}
		s := decoder.Seen{}
		var err *decoder.Error
		if !(a.nullable && inner.Nil()) {
			if s, err = r.element(a, inner); err != nil {
				return out, err
			}
		}
		out = added(out, s, it.list)
	}
	return out, nil
}

func added(list, s decoder.Seen, of *model.Type) decoder.Seen {
	if of != nil && of.Kind == model.Unique {
		list.Kind = decoder.SeenSet
		if slices.ContainsFunc(list.Elems, func(o decoder.Seen) bool { return o.Kind < decoder.SeenList && o.String() == s.String() }) {
			return list
		}
	}
	list.Elems = append(list.Elems, s)
	return list
}

func (r *reading) chosen(choose []*accessor, e *markup.Element) *accessor {
	name := r.c.nameOf(e.Name)
	for _, a := range choose {
		if a.name == name {
			return a
		}
	}
	return nil
}

func expected(choose []*accessor) string {
	var names []string
	for _, a := range choose {
		names = append(names, a.name.Space+":"+a.name.Local)
	}
	return strings.Join(names, ", ")
}

// unknown tells of what no member takes.
func (r *reading) unknown(e *markup.Element, a *markup.Attr, expected string) *decoder.Error {
	if r.c.options.Unknown == nil {
		return nil
	}
	err := r.c.options.Unknown(e, a, expected)
	if err == nil {
		return nil
	}
	return r.errorAt(r.behind(e), decoder.ReasonUnknown, err.Message)
}

// class reads an instance of a class.
func (r *reading) class(k *class, a *accessor, e *markup.Element) (decoder.Seen, *decoder.Error) {
	if a != nil && a.nullable && e.Nil() {
		return decoder.Seen{}, nil
	}
	if k.raw {
		s, err := r.c.code.ReadXML(k.t, r.doc, e)
		if err != nil {
			return s, r.errorAt(r.behind(e), err.Reason, err.Message)
		}
		return s, nil
	}
	if k.collect {
		return decoder.Seen{Kind: decoder.SeenUnknown}, nil
	}
	actual, err := r.actual(k, e)
	if err != nil {
		return decoder.Seen{}, err
	}
	out, err := r.instance(actual, e)
	if k.t.Kind == model.Tuple && out.Kind == decoder.SeenObject {
		out.Kind, out.Names = decoder.SeenList, nil
	}
	return out, err
}

// actual is the class that an element says it is of: xsi:type.
func (r *reading) actual(k *class, e *markup.Element) (*class, *decoder.Error) {
	if a := e.Attr(markup.InstanceSpace, "type"); a != nil {
		prefix, local, colon := strings.Cut(strings.TrimSpace(a.Value), ":")
		if !colon {
			prefix, local = "", prefix
		}
		space, _ := e.Lookup(prefix)
		name := r.c.nameOf(nameIn(space, local))
		if name != k.name {
			for o := range r.c.seen {
				if o.name == name && extends(o.t, k.t) {
					k = o
					break
				}
			}
			if name != k.name {
				return nil, r.errorAt(e.Start+1, decoder.ReasonClass, fmt.Sprintf("InvalidOperationException: The specified type was not recognized: name='%s', namespace='%s', at <%s xmlns='%s'>.", local, space, e.Name.Local, e.Name.Space))
			}
		}
	}
	if k.abstract {
		return nil, r.errorAt(e.Start+1, decoder.ReasonType, fmt.Sprintf("InvalidOperationException: The specified type is abstract: name='%s', namespace='%s', at <%s xmlns='%s'>.", k.name.Local, k.name.Space, e.Name.Local, e.Name.Space))
	}
	return k, nil
}

func extends(t, of *model.Type) bool {
	return slices.ContainsFunc(clr.Chain(t), func(s *model.Type) bool { return s.Model == of.Model })
}
