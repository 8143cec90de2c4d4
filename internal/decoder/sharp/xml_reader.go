package sharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/markup"
	"vetta/internal/model"
)

// xmlEvent is a node as an XmlReader comes to it.
type xmlEvent struct {
	kind  string // of XmlNodeType
	e     *markup.Element
	text  string
	depth int
	end   int // of an element, the index of its end; of an empty one its own
}

// xmlReader is an XmlReader.
type xmlReader struct {
	doc    *markup.Document
	top    *markup.Element // nil for the document
	events []xmlEvent
	at     int // -1 before the first
	attr   *markup.Attr
	broken error // what reading the document throws

	prohibits, ignores, placeless, text, bare, strips bool
	noSpace, noComments                               bool
}

func newXMLReader(doc *markup.Document, top *markup.Element) *xmlReader {
	return &xmlReader{doc: doc, top: top, at: -1}
}

// set takes in the settings of XmlReaderSettings.
func (r *xmlReader) set(s *xmlSettings) {
	r.noSpace, r.noComments = s.on("IgnoreWhitespace"), s.on("IgnoreComments")
	switch s.word("DtdProcessing") {
	case "Parse":
		r.prohibits = false
	case "Ignore":
		r.prohibits, r.ignores = false, true
	}
}

// list puts down what the reader comes to.
func (r *xmlReader) list() {
	if r.doc == nil {
		return
	}
	if r.top != nil {
		r.add(r.top, 0)
		return
	}
	if r.doc.Doctype && !r.prohibits && !r.ignores {
		r.events = append(r.events, xmlEvent{kind: "DocumentType"})
	}
	r.add(r.doc.Root, 0)
}

func (r *xmlReader) add(e *markup.Element, depth int) {
	start := len(r.events)
	r.events = append(r.events, xmlEvent{kind: "Element", e: e, depth: depth})
	for i := range e.Nodes {
		switch n := &e.Nodes[i]; n.Kind {
		case markup.ElementNode:
			r.add(n.Element, depth+1)
		case markup.CommentNode:
			if !r.noComments {
				r.events = append(r.events, xmlEvent{kind: "Comment", e: e, text: n.Text, depth: depth + 1})
			}
		case markup.InstructionNode:
			r.events = append(r.events, xmlEvent{kind: "ProcessingInstruction", e: e, text: n.Text, depth: depth + 1})
		default:
			kind := nodeKinds[n.Kind]
			if n.Blank && n.Kind == markup.TextNode {
				kind = "Whitespace"
				switch {
				case preserved(e):
					kind = "SignificantWhitespace"
				case r.noSpace || r.bare:
					continue
				}
			}
			r.events = append(r.events, xmlEvent{kind: kind, e: e, text: n.Text, depth: depth + 1})
		}
	}
	if !e.Empty {
		r.events[start].end = len(r.events)
		r.events = append(r.events, xmlEvent{kind: "EndElement", e: e, depth: depth})
		return
	}
	r.events[start].end = start
}

// fault is what reading throws before it comes to anything.
func (r *xmlReader) fault(m *Machine) error {
	if r.broken != nil {
		return r.broken
	}
	if r.prohibits && r.doc != nil && r.doc.Doctype && r.top == nil {
		return m.throw("XmlException", "For security reasons DTD is prohibited in this XML document. To enable DTD processing set the DtdProcessing property on XmlReaderSettings to Parse and pass the settings into XmlReader.Create method.")
	}
	if r.ignores && r.doc != nil && r.doc.Expanded {
		return m.throw("XmlException", "Reference to undeclared entity.")
	}
	return nil
}

func (r *xmlReader) is(name string) (bool, bool) {
	switch name {
	case "XmlReader", "object", "XmlTextReader", "XmlNodeReader":
		return name != "XmlTextReader" || r.text, true
	}
	return false, true
}

func (r *xmlReader) done() bool { return r.at >= len(r.events) }

func (r *xmlReader) now() xmlEvent {
	if r.at < 0 || r.done() {
		return xmlEvent{kind: "None"}
	}
	return r.events[r.at]
}

func (r *xmlReader) read() bool {
	r.attr = nil
	if r.at < len(r.events) {
		r.at++
	}
	return !r.done()
}

// skip goes to what stands behind the element at which the reader is.
func (r *xmlReader) skip() {
	r.attr = nil
	if ev := r.now(); ev.kind == "Element" {
		r.at = ev.end + 1
		return
	}
	r.read()
}

// content goes on to what is no white space, comment or instruction.
func (r *xmlReader) content() {
	for r.at < 0 || !r.done() {
		switch r.now().kind {
		case "None", "Whitespace", "Comment", "ProcessingInstruction", "DocumentType", "XmlDeclaration":
			r.read()
			continue
		}
		return
	}
}

// readFrom is XNode.ReadFrom: the node at which the reader is, which is passed.
func (r *xmlReader) readFrom(m *Machine) (Value, error) {
	if err := r.fault(m); err != nil {
		return Value{}, err
	}
	ev := r.now()
	if ev.kind != "Element" {
		return Value{}, m.throw("InvalidOperationException", "The XmlReader should be on a node.")
	}
	r.skip()
	return Value{Kind: Host, Ref: &xmlNode{doc: r.doc, e: ev.e}}, nil
}

// attribute is the attribute that arguments name, nil for none.
func (r *xmlReader) attribute(args []Value) *markup.Attr {
	ev := r.now()
	if ev.e == nil || ev.kind != "Element" || len(args) == 0 {
		return nil
	}
	if args[0].Kind == Int {
		if i := int(args[0].Int); i >= 0 && i < len(ev.e.Attrs) {
			return &ev.e.Attrs[i]
		}
		return nil
	}
	for i := range ev.e.Attrs {
		a := &ev.e.Attrs[i]
		if len(args) == 1 && qualifiedName(a.Prefix, a.Name.Local) == args[0].Text || len(args) == 2 && a.Name == (markup.Name{Space: args[1].Text, Local: args[0].Text}) {
			return a
		}
	}
	return nil
}

func (r *xmlReader) index(_ *Machine, at Value) (Value, bool, error) {
	if a := r.attribute([]Value{at}); a != nil {
		return TextOf(a.Value), true, nil
	}
	return Value{}, true, nil
}

// isNamed says whether the element at which the reader is has the name that arguments say.
func isNamed(e *markup.Element, args []Value) bool {
	switch len(args) {
	case 0:
		return true
	case 1:
		return qualifiedName(e.Prefix, e.Name.Local) == args[0].Text
	}
	return e.Name == markup.Name{Space: args[1].Text, Local: args[0].Text}
}

// to goes on to the next element of a name: anywhere, inside, or beside.
func (r *xmlReader) to(how string, args []Value) bool {
	ev := r.now()
	switch how {
	case "ReadToFollowing":
		for r.read() {
			if ev := r.now(); ev.kind == "Element" && isNamed(ev.e, args) {
				return true
			}
		}
		return false
	case "ReadToDescendant":
		if r.at < 0 {
			return r.to("ReadToFollowing", args)
		}
		if ev.kind != "Element" || ev.end == r.at {
			return false
		}
		for r.read() && r.at < ev.end {
			if in := r.now(); in.kind == "Element" && isNamed(in.e, args) {
				return true
			}
		}
		return false
	}
	depth := ev.depth
	r.skip()
	for !r.done() {
		in := r.now()
		switch {
		case in.depth < depth:
			return false
		case in.kind == "Element" && in.depth == depth && isNamed(in.e, args):
			return true
		case in.kind == "Element":
			r.skip()
			continue
		}
		r.read()
	}
	return false
}

// texts joins the text at which the reader is, and what of it follows.
func (r *xmlReader) texts() string {
	var b strings.Builder
	for !r.done() {
		switch ev := r.now(); ev.kind {
		case "Text", "CDATA", "Whitespace", "SignificantWhitespace":
			b.WriteString(ev.text)
			r.read()
			continue
		}
		break
	}
	return b.String()
}

// elementContent reads the text of the element at which the reader is, and passes it.
func (r *xmlReader) elementContent(m *Machine) (string, error) {
	r.content()
	ev := r.now()
	if ev.kind != "Element" {
		return "", m.throw("InvalidOperationException", "The reader is not positioned on an element.")
	}
	var b strings.Builder
	for i := r.at + 1; i < ev.end; i++ {
		switch in := r.events[i]; in.kind {
		case "Text", "CDATA", "Whitespace", "SignificantWhitespace":
			b.WriteString(in.text)
		case "Element":
			return "", m.throw("XmlException", "ReadElementContentAs() methods cannot be called on an element that has child elements.")
		}
	}
	r.skip()
	return b.String(), nil
}

func (r *xmlReader) call(m *Machine, name string, args []Value, types []*model.Type, x *code.Expr, f *frame) (Value, bool, error) {
	switch name {
	case "Dispose", "Close", "DisposeAsync":
		return Value{}, true, nil
	case "EOF":
		return BoolOf(r.done()), true, nil
	case "ReadState", "Settings", "WhitespaceHandling", "Namespaces":
		return Value{}, false, nil
	}
	if err := r.fault(m); err != nil {
		return Value{}, true, err
	}
	ev := r.now()
	base := strings.TrimSuffix(name, "Async")
	switch base {
	case "Read":
		return BoolOf(r.read()), true, nil
	case "NodeType":
		if r.attr != nil {
			return word("XmlNodeType", "Attribute"), true, nil
		}
		return word("XmlNodeType", ev.kind), true, nil
	case "Name", "LocalName", "NamespaceURI", "Prefix":
		n := &xmlNode{e: ev.e, a: r.attr}
		if r.attr == nil && ev.kind != "Element" && ev.kind != "EndElement" {
			return TextOf(""), true, nil
		}
		return TextOf(n.nameOf(base)), true, nil
	case "Value":
		if r.attr != nil {
			return TextOf(r.attr.Value), true, nil
		}
		return TextOf(ev.text), true, nil
	case "IsEmptyElement":
		return BoolOf(ev.kind == "Element" && ev.e.Empty), true, nil
	case "HasAttributes":
		return BoolOf(ev.kind == "Element" && len(ev.e.Attrs) > 0), true, nil
	case "HasValue":
		return BoolOf(ev.text != "" || r.attr != nil), true, nil
	case "AttributeCount":
		if ev.kind != "Element" {
			return IntOf(0), true, nil
		}
		return IntOf(int64(len(ev.e.Attrs))), true, nil
	case "Depth":
		return IntOf(int64(ev.depth)), true, nil
	case "GetAttribute":
		if a := r.attribute(args); a != nil {
			return TextOf(a.Value), true, nil
		}
		return Value{}, true, nil
	case "MoveToAttribute", "MoveToFirstAttribute", "MoveToNextAttribute":
		return BoolOf(r.toAttribute(base, args)), true, nil
	case "MoveToElement":
		had := r.attr != nil
		r.attr = nil
		return BoolOf(had), true, nil
	case "MoveToContent":
		r.attr = nil
		r.content()
		return word("XmlNodeType", r.now().kind), true, nil
	case "IsStartElement":
		r.content()
		now := r.now()
		return BoolOf(now.kind == "Element" && isNamed(now.e, args)), true, nil
	case "ReadStartElement":
		r.content()
		now := r.now()
		if now.kind != "Element" || !isNamed(now.e, args) {
			return Value{}, true, m.throw("XmlException", "'"+now.kind+"' is an invalid XmlNodeType.")
		}
		r.read()
		return Value{}, true, nil
	case "ReadEndElement":
		r.content()
		if r.now().kind != "EndElement" {
			return Value{}, true, m.throw("XmlException", "'"+r.now().kind+"' is an invalid XmlNodeType.")
		}
		r.read()
		return Value{}, true, nil
	case "Skip":
		r.skip()
		return Value{}, true, nil
	case "ReadToFollowing", "ReadToDescendant", "ReadToNextSibling":
		return BoolOf(r.to(base, args)), true, nil
	case "ReadString":
		if ev.kind == "Element" {
			if ev.e.Empty {
				return TextOf(""), true, nil
			}
			r.read()
		}
		return TextOf(r.texts()), true, nil
	case "ReadContentAsString":
		return TextOf(r.texts()), true, nil
	case "ReadInnerXml", "ReadOuterXml":
		if ev.kind != "Element" {
			return TextOf(""), true, nil
		}
		text := ev.e.Inner()
		if base == "ReadOuterXml" {
			text = ev.e.Outer()
		}
		r.skip()
		return TextOf(text), true, nil
	case "ReadSubtree":
		if ev.kind != "Element" {
			return Value{}, true, m.throw("InvalidOperationException", "ReadSubtree() can be called only if the reader is on an element node.")
		}
		sub := *r
		sub.top, sub.at, sub.events = ev.e, -1, nil
		sub.list()
		r.at = ev.end // where the reader stands when the other is closed
		return Value{Kind: Host, Ref: &sub}, true, nil
	case "LookupNamespace":
		if ev.e != nil {
			if space, ok := ev.e.Lookup(first(args).Text); ok {
				return TextOf(space), true, nil
			}
		}
		return Value{}, true, nil
	case "ReadElementString":
		r.content()
		if now := r.now(); now.kind != "Element" || !isNamed(now.e, args) {
			return Value{}, true, m.throw("XmlException", "'"+now.kind+"' is an invalid XmlNodeType.")
		}
		text, err := r.elementContent(m)
		return TextOf(text), true, err
	}
	if to, ok := strings.CutPrefix(base, "ReadElementContentAs"); ok {
		if len(args) == 2 {
			if now := r.now(); now.e == nil || !isNamed(now.e, args) {
				return Value{}, true, m.throw("XmlException", "Element was not found.")
			}
		}
		text, err := r.elementContent(m)
		if err != nil {
			return Value{}, true, err
		}
		return r.contentAs(m, text, to)
	}
	if to, ok := strings.CutPrefix(base, "ReadContentAs"); ok {
		return r.contentAs(m, r.texts(), to)
	}
	return Value{}, false, nil
}

// contentAs is a text as one of the types that a reader reads.
func (r *xmlReader) contentAs(m *Machine, text, to string) (Value, bool, error) {
	of := map[string]string{"Int": "int", "Long": "long", "Double": "double", "Float": "float", "Decimal": "decimal", "Boolean": "bool", "DateTime": "DateTime", "DateTimeOffset": "DateTimeOffset"}[to]
	if to == "String" {
		return TextOf(text), true, nil
	}
	if of == "" {
		return Value{}, false, nil
	}
	v, err := m.lexical(text, of)
	if t, ok := err.(*Thrown); ok {
		return Value{}, true, m.throw("XmlException", "Content cannot be converted to the type "+to+". ---> "+t.Message)
	}
	return v, true, err
}

// toAttribute goes to an attribute.
func (r *xmlReader) toAttribute(how string, args []Value) bool {
	ev := r.now()
	if ev.kind != "Element" {
		return false
	}
	all := ev.e.Attrs
	switch how {
	case "MoveToAttribute":
		if a := r.attribute(args); a != nil {
			r.attr = a
			return true
		}
		return false
	case "MoveToFirstAttribute":
		if len(all) == 0 {
			return false
		}
		r.attr = &all[0]
		return true
	}
	if r.attr == nil {
		return r.toAttribute("MoveToFirstAttribute", nil)
	}
	for i := range all {
		if &all[i] == r.attr && i+1 < len(all) {
			r.attr = &all[i+1]
			return true
		}
	}
	return false
}

// readerOfApp is a reader of a class of the app's that extends XmlTextReader: one that tells no namespaces is followed, and
// one that changes nothing.
func (m *Machine) readerOfApp(d *code.Declared, x *code.Expr, f *frame, e *env) (Value, error) {
	args, _, err := m.arguments(x, f, e, nil)
	if err != nil {
		return Value{}, err
	}
	strips := false
	for _, c := range d.Parts {
		for _, fn := range c.Funcs {
			if !fn.Init {
				return Value{}, unfollowed("the reader "+d.Name, x.Pos)
			}
		}
		for _, p := range c.Props {
			fn := p.Get
			if g := getter(p); g != nil {
				fn = g
			}
			if p.Name != "NamespaceURI" || fn == nil {
				return Value{}, unfollowed("the reader "+d.Name, x.Pos)
			}
			v, err := m.run(fn, &frame{fn: fn, class: d}, nil, nil)
			if err != nil || v.Kind != String || v.Text != "" {
				return Value{}, unfollowed("the reader "+d.Name, x.Pos)
			}
			strips = true
		}
	}
	v, known, err := m.xmlMade(&model.Type{Name: "XmlTextReader"}, args, x)
	if r, ok := v.Ref.(*xmlReader); ok && known {
		r.strips = strips
	}
	return v, err
}
