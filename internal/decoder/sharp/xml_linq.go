package sharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder/clr"
	"vetta/internal/markup"
	"vetta/internal/model"
)

// cast is a node of LINQ to XML as a value: its text by the lexical forms of XML Schema.
func (n *xmlNode) cast(m *Machine, t *model.Type) (Value, bool, error) {
	u := t.Unwrapped()
	if n.dom || u.Model != nil || u.Kind != model.Named {
		return Value{}, false, nil
	}
	text := n.value()
	switch u.Name {
	case "string":
		return TextOf(text), true, nil
	case "bool":
		v, err := m.lexical(strings.ToLower(text), "bool")
		return v, true, err
	case "DateTime":
		s, ok := clr.XSDDate(text, false)
		if !ok {
			if s, ok = clr.ParseDate(text); !ok {
				return Value{}, true, m.throw("FormatException", "String '"+text+"' was not recognized as a valid DateTime.")
			}
		}
		return plainOf("DateTime", s), true, nil
	case "int", "long", "uint", "ulong", "double", "float", "decimal", "DateTimeOffset", "TimeSpan", "Guid":
		v, err := m.lexical(text, u.Name)
		return v, true, err
	}
	return Value{}, false, nil
}

// elements are those in a node: of a document its root.
func (n *xmlNode) elements() []*markup.Element {
	if n.e == nil {
		if n.doc == nil || n.doc.Root == nil {
			return nil
		}
		return []*markup.Element{n.doc.Root}
	}
	return n.e.Elements()
}

func (n *xmlNode) descendants(self bool) (all []*markup.Element) {
	var add func(e *markup.Element)
	add = func(e *markup.Element) {
		all = append(all, e)
		for _, c := range e.Elements() {
			add(c)
		}
	}
	if self && n.e != nil {
		add(n.e)
		return all
	}
	for _, e := range n.elements() {
		add(e)
	}
	return all
}

// named are the elements of the name that the first argument is; all where there is none.
func (n *xmlNode) named(all []*markup.Element, args []Value) Value {
	l := &list{}
	name, one := nameIn(args, 0)
	for _, e := range all {
		if !one || e.Name == name {
			l.items = append(l.items, n.of(e))
		}
	}
	return Value{Kind: Items, Ref: l}
}

func (n *xmlNode) call(m *Machine, name string, args []Value, types []*model.Type, x *code.Expr, f *frame) (Value, bool, error) {
	if v, known, err := n.common(m, name, args, x); known || err != nil {
		return v, known, err
	}
	if n.dom {
		return n.domCall(m, name, args, x)
	}
	switch name {
	case "Root":
		return n.of(n.doc.Root), true, nil
	case "Document":
		return Value{Kind: Host, Ref: &xmlNode{doc: n.doc}}, true, nil
	case "Element":
		want, ok := nameIn(args, 0)
		if !ok {
			return Value{}, false, nil
		}
		for _, e := range n.elements() {
			if e.Name == want {
				return n.of(e), true, nil
			}
		}
		return Value{}, true, nil
	case "Elements":
		return n.named(n.elements(), args), true, nil
	case "Descendants":
		return n.named(n.descendants(false), args), true, nil
	case "DescendantsAndSelf":
		return n.named(n.descendants(true), args), true, nil
	case "Ancestors", "AncestorsAndSelf":
		var all []*markup.Element
		e := n.e
		if name == "Ancestors" && e != nil {
			e = e.Parent
		}
		for ; e != nil; e = e.Parent {
			all = append(all, e)
		}
		return n.named(all, args), true, nil
	case "Attribute":
		want, ok := nameIn(args, 0)
		if !ok || n.e == nil {
			return Value{}, false, nil
		}
		return n.attr(n.e.Attr(want.Space, want.Local)), true, nil
	case "Attributes":
		l := &list{}
		want, one := nameIn(args, 0)
		for i := range n.e.Attrs {
			if a := &n.e.Attrs[i]; !one || a.Name == want {
				l.items = append(l.items, n.attr(a))
			}
		}
		return Value{Kind: Items, Ref: l}, true, nil
	case "Value":
		return TextOf(n.value()), true, nil
	case "Name":
		if n.a != nil {
			return Value{Kind: Host, Ref: &xmlName{n.a.Name}}, true, nil
		}
		return Value{Kind: Host, Ref: &xmlName{n.e.Name}}, n.e != nil, nil
	case "HasElements":
		return BoolOf(n.e.HasElements()), true, nil
	case "HasAttributes":
		return BoolOf(len(n.e.Attrs)+len(n.e.Bindings) > 0), true, nil
	case "IsEmpty":
		return BoolOf(n.e.Empty || len(n.e.Nodes) == 0 && n.e.Empty), true, nil
	case "Parent":
		if n.a != nil {
			return n.of(n.e), true, nil
		}
		return n.of(n.e.Parent), true, nil
	case "FirstAttribute":
		if len(n.e.Attrs) == 0 {
			return Value{}, true, nil
		}
		return n.attr(&n.e.Attrs[0]), true, nil
	case "GetDefaultNamespace":
		space, _ := n.e.Lookup("")
		return Value{Kind: Host, Ref: &xmlSpace{space}}, true, nil
	case "GetNamespaceOfPrefix":
		space, ok := n.e.Lookup(first(args).Text)
		if !ok {
			return Value{}, true, nil
		}
		return Value{Kind: Host, Ref: &xmlSpace{space}}, true, nil
	case "Nodes":
		l := &list{}
		if n.e != nil {
			for i := range n.e.Nodes {
				if v, ok := n.child(i); ok {
					l.items = append(l.items, v)
				}
			}
		} else {
			l.items = append(l.items, n.of(n.doc.Root))
		}
		return Value{Kind: Items, Ref: l}, true, nil
	case "ElementsAfterSelf", "ElementsBeforeSelf":
		if n.e == nil || n.e.Parent == nil {
			return listOf(nil), true, nil
		}
		var before, after []*markup.Element
		met := false
		for _, e := range n.e.Parent.Elements() {
			switch {
			case e == n.e:
				met = true
			case met:
				after = append(after, e)
			default:
				before = append(before, e)
			}
		}
		if name == "ElementsAfterSelf" {
			before = after
		}
		return n.named(before, args), true, nil
	case "ToString":
		if n.a != nil {
			return TextOf(n.a.Written()), true, nil
		}
		if n.e != nil && !n.e.HasElements() {
			return TextOf(n.e.Outer()), true, nil
		}
	case "XPathSelectElement", "XPathSelectElements", "XPathEvaluate":
		if len(args) == 0 || args[0].Kind != String {
			return Value{}, false, nil
		}
		found, err := m.selected(n, args, x)
		if err != nil {
			return Value{}, true, err
		}
		l := &list{}
		for _, o := range found {
			l.items = append(l.items, Value{Kind: Host, Ref: o})
		}
		if name == "XPathSelectElement" {
			if len(l.items) == 0 {
				return Value{}, true, nil
			}
			return l.items[0], true, nil
		}
		return Value{Kind: Items, Ref: l}, true, nil
	}
	return Value{}, false, nil
}

// child is a node that stands in an element; ok is false for white space that is dropped.
func (n *xmlNode) child(i int) (Value, bool) {
	c := &n.e.Nodes[i]
	switch {
	case c.Kind == markup.ElementNode:
		return n.of(c.Element), true
	case c.Blank && !n.open && !preserved(n.e):
		return Value{}, false
	}
	return Value{Kind: Host, Ref: &xmlNode{doc: n.doc, e: n.e, n: c, dom: n.dom}}, true
}

// common are members that both kinds of node have.
func (n *xmlNode) common(m *Machine, name string, args []Value, x *code.Expr) (Value, bool, error) {
	switch name {
	case "CreateReader", "CreateNavigator":
		if name == "CreateNavigator" {
			break
		}
		r := newXMLReader(n.doc, n.e)
		r.placeless, r.bare = true, true
		r.list()
		return Value{Kind: Host, Ref: r}, true, nil
	case "NodeType":
		kind := "Element"
		switch {
		case n.a != nil:
			kind = "Attribute"
		case n.n != nil:
			kind = nodeKinds[n.n.Kind]
		case n.e == nil:
			kind = "Document"
		}
		return word("XmlNodeType", kind), true, nil
	}
	return Value{}, false, nil
}

var nodeKinds = map[markup.Kind]string{markup.ElementNode: "Element", markup.TextNode: "Text", markup.CDataNode: "CDATA", markup.CommentNode: "Comment", markup.InstructionNode: "ProcessingInstruction"}
