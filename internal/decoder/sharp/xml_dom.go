package sharp

import (
	"vetta/internal/code"
	"vetta/internal/markup"
	"vetta/internal/model"
)

// nodeList is an XmlNodeList: what is not in it is null.
type nodeList struct{ all []Value }

func (l *nodeList) items(*Machine) ([]Value, error) { return l.all, nil }

func (l *nodeList) index(_ *Machine, at Value) (Value, bool, error) {
	if at.Kind != Int || at.Int < 0 || at.Int >= int64(len(l.all)) {
		return Value{}, at.Kind == Int, nil
	}
	return l.all[at.Int], true, nil
}

func (l *nodeList) call(m *Machine, name string, args []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	switch name {
	case "Count":
		if args == nil {
			return IntOf(int64(len(l.all))), true, nil
		}
	case "Item":
		return l.index(m, first(args))
	}
	return Value{}, false, nil
}

// attrMap is an XmlAttributeCollection.
type attrMap struct{ n *xmlNode }

func (a *attrMap) items(*Machine) ([]Value, error) {
	var all []Value
	for i := range a.n.e.Attrs {
		all = append(all, a.n.attr(&a.n.e.Attrs[i]))
	}
	return all, nil
}

func (a *attrMap) index(m *Machine, at Value) (Value, bool, error) {
	if at.Kind == Int {
		all, _ := a.items(m)
		if at.Int < 0 || at.Int >= int64(len(all)) {
			return Value{}, true, m.throw("IndexOutOfRangeException", "The attribute index is out of range.")
		}
		return all[at.Int], true, nil
	}
	for i := range a.n.e.Attrs {
		if attr := &a.n.e.Attrs[i]; qualifiedName(attr.Prefix, attr.Name.Local) == at.Text {
			return a.n.attr(attr), true, nil
		}
	}
	return Value{}, at.Kind == String, nil
}

func (a *attrMap) call(m *Machine, name string, args []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	switch name {
	case "Count":
		return IntOf(int64(len(a.n.e.Attrs))), true, nil
	case "GetNamedItem":
		return a.index(m, first(args))
	}
	return Value{}, false, nil
}

// index is node["name"]: the first element of that qualified name.
func (n *xmlNode) index(m *Machine, at Value) (Value, bool, error) {
	if !n.dom || at.Kind != String {
		return Value{}, false, nil
	}
	for _, e := range n.elements() {
		if qualifiedName(e.Prefix, e.Name.Local) == at.Text {
			return n.of(e), true, nil
		}
	}
	return Value{}, true, nil
}

// children are the nodes in a node of an XmlDocument.
func (n *xmlNode) children() (all []Value) {
	if n.e == nil {
		return []Value{n.of(n.doc.Root)}
	}
	if n.a != nil || n.n != nil {
		return nil
	}
	for i := range n.e.Nodes {
		if v, ok := n.child(i); ok {
			all = append(all, v)
		}
	}
	return all
}

func (n *xmlNode) items(*Machine) ([]Value, error) { return n.children(), nil }

// setMember takes in what a member of a document is given.
func (n *xmlNode) setMember(name string, _ Value) bool {
	return n.dom && (name == "PreserveWhitespace" || name == "XmlResolver")
}

// domCall is a member of an XmlDocument or of one of its nodes.
func (n *xmlNode) domCall(m *Machine, name string, args []Value, x *code.Expr) (Value, bool, error) {
	if n.doc == nil && name != "LoadXml" && name != "Load" && name != "NameTable" {
		return Value{}, false, nil
	}
	switch name {
	case "LoadXml", "Load":
		if len(args) != 1 {
			return Value{}, false, nil
		}
		doc, err := m.xmlText(args[0])
		n.doc = doc
		return Value{}, true, err
	case "NameTable":
		return Value{Kind: Host, Ref: &opaque{"NameTable"}}, true, nil
	case "DocumentElement":
		return n.of(n.doc.Root), true, nil
	case "OwnerDocument":
		return Value{Kind: Host, Ref: &xmlNode{doc: n.doc, dom: true}}, true, nil
	case "InnerText", "Value":
		if name == "Value" && n.a == nil && n.n == nil {
			return Value{}, true, nil
		}
		return TextOf(n.value()), true, nil
	case "InnerXml":
		if n.e != nil && n.a == nil && n.n == nil {
			return TextOf(n.e.Inner()), true, nil
		}
		return TextOf(n.value()), true, nil
	case "OuterXml":
		if n.a != nil {
			return TextOf(n.a.Written()), true, nil
		}
		if n.e != nil && n.n == nil {
			return TextOf(n.e.Outer()), true, nil
		}
		return TextOf(n.doc.Root.Outer()), true, nil
	case "Name", "LocalName", "NamespaceURI", "Prefix":
		return TextOf(n.nameOf(name)), true, nil
	case "Attributes":
		if n.e == nil || n.a != nil || n.n != nil {
			return Value{}, true, nil
		}
		return Value{Kind: Host, Ref: &attrMap{n}}, true, nil
	case "GetAttribute", "HasAttribute":
		var found *markup.Attr
		for i := range n.e.Attrs {
			a := &n.e.Attrs[i]
			if len(args) == 1 && qualifiedName(a.Prefix, a.Name.Local) == args[0].Text || len(args) == 2 && a.Name == (markup.Name{Space: args[1].Text, Local: args[0].Text}) {
				found = a
			}
		}
		switch {
		case name == "HasAttribute":
			return BoolOf(found != nil), true, nil
		case found == nil:
			return TextOf(""), true, nil
		}
		return TextOf(found.Value), true, nil
	case "HasAttributes":
		return BoolOf(len(n.e.Attrs)+len(n.e.Bindings) > 0), true, nil
	case "ChildNodes":
		return Value{Kind: Host, Ref: &nodeList{n.children()}}, true, nil
	case "HasChildNodes":
		return BoolOf(len(n.children()) > 0), true, nil
	case "FirstChild", "LastChild":
		all := n.children()
		if len(all) == 0 {
			return Value{}, true, nil
		}
		if name == "LastChild" {
			return all[len(all)-1], true, nil
		}
		return all[0], true, nil
	case "NextSibling", "PreviousSibling":
		if n.e == nil || n.e.Parent == nil || n.a != nil {
			return Value{}, true, nil
		}
		all := (&xmlNode{doc: n.doc, e: n.e.Parent, dom: true}).children()
		for i, v := range all {
			if !v.Ref.(*xmlNode).sameAs(n) {
				continue
			}
			if name == "PreviousSibling" {
				i -= 2
			}
			if i+1 >= 0 && i+1 < len(all) {
				return all[i+1], true, nil
			}
		}
		return Value{}, true, nil
	case "ParentNode":
		if n.n != nil {
			return n.of(n.e), true, nil
		}
		return n.of(n.e.Parent), true, nil
	case "GetElementsByTagName":
		l := &nodeList{}
		for _, e := range n.descendants(false) {
			if len(args) == 1 && (args[0].Text == "*" || qualifiedName(e.Prefix, e.Name.Local) == args[0].Text) || len(args) == 2 && e.Name == (markup.Name{Space: args[1].Text, Local: args[0].Text}) {
				l.all = append(l.all, n.of(e))
			}
		}
		return Value{Kind: Host, Ref: l}, true, nil
	case "SelectNodes", "SelectSingleNode":
		found, err := m.selected(n, args, x)
		if err != nil {
			return Value{}, true, err
		}
		l := &nodeList{}
		for _, o := range found {
			l.all = append(l.all, Value{Kind: Host, Ref: o})
		}
		if name == "SelectSingleNode" {
			if len(l.all) == 0 {
				return Value{}, true, nil
			}
			return l.all[0], true, nil
		}
		return Value{Kind: Host, Ref: l}, true, nil
	}
	return Value{}, false, nil
}

// nameOf is one of the names of a node.
func (n *xmlNode) nameOf(which string) string {
	prefix, name := "", markup.Name{}
	switch {
	case n.n != nil:
		name.Local = map[markup.Kind]string{markup.TextNode: "#text", markup.CDataNode: "#cdata-section", markup.CommentNode: "#comment"}[n.n.Kind]
	case n.a != nil:
		prefix, name = n.a.Prefix, n.a.Name
	case n.e != nil:
		prefix, name = n.e.Prefix, n.e.Name
	default:
		name.Local = "#document"
	}
	switch which {
	case "LocalName":
		return name.Local
	case "NamespaceURI":
		return name.Space
	case "Prefix":
		return prefix
	}
	return qualifiedName(prefix, name.Local)
}
