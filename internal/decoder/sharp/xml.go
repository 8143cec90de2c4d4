package sharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/markup"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// xmlNode is a node of a document: an XElement or XDocument of LINQ to XML, or, where dom, an XmlNode of XmlDocument. The
// document itself has neither an element nor anything else.
type xmlNode struct {
	doc  *markup.Document
	e    *markup.Element
	a    *markup.Attr
	n    *markup.Node // a text, a comment
	dom  bool
	open bool // it may hold white space that stands alone
}

func (n *xmlNode) of(e *markup.Element) Value {
	if e == nil {
		return Value{}
	}
	return Value{Kind: Host, Ref: &xmlNode{doc: n.doc, e: e, dom: n.dom}}
}

func (n *xmlNode) attr(a *markup.Attr) Value {
	if a == nil {
		return Value{}
	}
	return Value{Kind: Host, Ref: &xmlNode{doc: n.doc, e: n.e, a: a, dom: n.dom}}
}

// value is the text in an element, however deep, or of an attribute.
func (n *xmlNode) value() string {
	switch {
	case n.a != nil:
		return n.a.Value
	case n.n != nil:
		return n.n.Text
	case n.e == nil:
		return allText(n.doc.Root)
	}
	return allText(n.e)
}

// allText is the text of an element and of those in it, without white space that stands alone.
func allText(e *markup.Element) string {
	var b strings.Builder
	var add func(e *markup.Element)
	add = func(e *markup.Element) {
		for i := range e.Nodes {
			switch n := &e.Nodes[i]; {
			case n.Kind == markup.ElementNode:
				add(n.Element)
			case n.Blank && !preserved(e):
			case n.Kind == markup.TextNode || n.Kind == markup.CDataNode:
				b.WriteString(n.Text)
			}
		}
	}
	add(e)
	return b.String()
}

// preserved says whether white space that stands alone is kept in an element: xml:space.
func preserved(e *markup.Element) bool {
	for ; e != nil; e = e.Parent {
		if a := e.Attr(markup.XMLSpace, "space"); a != nil {
			return a.Value == "preserve"
		}
	}
	return false
}

func (n *xmlNode) sameAs(other any) bool {
	o, ok := other.(*xmlNode)
	return ok && o.doc == n.doc && o.e == n.e && o.a == n.a && o.n == n.n
}

func (n *xmlNode) seen() decoder.Seen {
	if n.e != nil && n.a == nil && n.n == nil {
		return clr.String(n.e.Outer())
	}
	return decoder.Seen{Kind: decoder.SeenUnknown}
}

func (n *xmlNode) is(name string) (bool, bool) {
	element := n.e != nil && n.a == nil && n.n == nil
	document := n.e == nil && n.n == nil
	switch name {
	case "object":
		return true, true
	case "XElement", "XContainer", "XNode", "XObject", "XDocument", "XAttribute", "XText", "XComment":
		if n.dom {
			return false, true
		}
		return map[string]bool{"XElement": element, "XContainer": element || document, "XNode": n.a == nil, "XObject": true, "XDocument": document, "XAttribute": n.a != nil, "XText": n.n != nil && n.n.Kind == markup.TextNode, "XComment": n.n != nil && n.n.Kind == markup.CommentNode}[name], true
	case "XmlNode", "XmlElement", "XmlDocument", "XmlAttribute", "XmlText", "XmlComment", "IXPathNavigable":
		if !n.dom {
			return false, true
		}
		return map[string]bool{"XmlNode": true, "IXPathNavigable": true, "XmlElement": element, "XmlDocument": document, "XmlAttribute": n.a != nil, "XmlText": n.n != nil && n.n.Kind == markup.TextNode, "XmlComment": n.n != nil && n.n.Kind == markup.CommentNode}[name], true
	case "string", "int", "long", "double", "bool", "decimal", "XmlReader", "JToken", "JObject":
		return false, true
	}
	return false, false
}

// xmlName is an XName, xmlSpace an XNamespace.
type xmlName struct{ n markup.Name }

type xmlSpace struct{ uri string }

func (n *xmlName) text() string {
	if n.n.Space == "" {
		return n.n.Local
	}
	return "{" + n.n.Space + "}" + n.n.Local
}

func (n *xmlName) sameAs(other any) bool {
	o, ok := other.(*xmlName)
	return ok && o.n == n.n
}

func (n *xmlName) is(name string) (bool, bool) { return name == "XName" || name == "object", true }

func (n *xmlName) call(_ *Machine, name string, _ []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	switch name {
	case "LocalName":
		return TextOf(n.n.Local), true, nil
	case "NamespaceName":
		return TextOf(n.n.Space), true, nil
	case "Namespace":
		return Value{Kind: Host, Ref: &xmlSpace{n.n.Space}}, true, nil
	case "ToString":
		return TextOf(n.text()), true, nil
	}
	return Value{}, false, nil
}

func (s *xmlSpace) sameAs(other any) bool {
	o, ok := other.(*xmlSpace)
	return ok && o.uri == s.uri
}

func (s *xmlSpace) is(name string) (bool, bool) {
	return name == "XNamespace" || name == "object", true
}

func (s *xmlSpace) call(_ *Machine, name string, args []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	switch {
	case name == "NamespaceName" || name == "ToString":
		return TextOf(s.uri), true, nil
	case name == "GetName" && len(args) == 1 && args[0].Kind == String:
		return Value{Kind: Host, Ref: &xmlName{markup.Name{Space: s.uri, Local: args[0].Text}}}, true, nil
	}
	return Value{}, false, nil
}

// joined is a namespace and a name put together; ok is false for anything else.
func joined(a, b Value) (Value, bool) {
	s, ok := a.Ref.(*xmlSpace)
	if !ok || b.Kind != String {
		return Value{}, false
	}
	return Value{Kind: Host, Ref: &xmlName{markup.Name{Space: s.uri, Local: b.Text}}}, true
}

// nameIn is an argument as an XName: a text is one without a namespace, but for what stands in braces.
func nameIn(args []Value, i int) (markup.Name, bool) {
	if i >= len(args) {
		return markup.Name{}, false
	}
	switch r := args[i].Ref.(type) {
	case *xmlName:
		return r.n, true
	}
	if args[i].Kind != String {
		return markup.Name{}, false
	}
	return markup.NameOf(args[i].Text), true
}

// xmlText is the document that a value holds: a response, or a text that code has made.
func (m *Machine) xmlText(v Value) (*markup.Document, error) {
	var root *wire.Value
	switch r := v.Ref.(type) {
	case *wire.Value:
		root = r
	case *input:
		root = r.root
		if root == nil {
			return m.xmlParsed(string(r.text))
		}
	case *xmlReader:
		return r.doc, r.fault(m)
	case *xmlNode:
		return r.doc, nil
	}
	if root != nil {
		m.note(root)
		if root.Markup == nil {
			return nil, m.throw("XmlException", "Data at the root level is invalid. Line 1, position 1.")
		}
		if root.Markup.Undeclared >= 0 {
			return nil, m.throw("XmlException", "a name or an entity that is not declared.")
		}
		return root.Markup, nil
	}
	if v.IsNull() {
		return nil, m.throw("ArgumentNullException", "Value cannot be null. (Parameter 's')")
	}
	return m.xmlParsed(v.Text)
}

func (m *Machine) xmlParsed(text string) (*markup.Document, error) {
	doc, err := markup.Parse([]byte(text))
	if err != nil {
		return nil, m.throw("XmlException", err.Error())
	}
	if doc.Undeclared >= 0 {
		return nil, m.throw("XmlException", "a name or an entity that is not declared.")
	}
	return doc, nil
}

// xmlStatic are static members of the classes of XML.
func (m *Machine) xmlStatic(of, name string, args []Value, x *code.Expr, f *frame) (Value, bool, error) {
	switch of {
	case "XDocument", "XElement":
		if (name == "Parse" || name == "Load" || name == "LoadAsync") && len(args) > 0 {
			doc, err := m.xmlText(args[0])
			if err != nil {
				return Value{}, true, err
			}
			n := &xmlNode{doc: doc}
			if of == "XElement" {
				n.e = doc.Root
			}
			return Value{Kind: Host, Ref: n}, true, nil
		}
	case "XNamespace":
		if name == "Get" && len(args) == 1 && args[0].Kind == String {
			return Value{Kind: Host, Ref: &xmlSpace{args[0].Text}}, true, nil
		}
	case "XName":
		if name == "Get" && len(args) == 1 {
			n, ok := nameIn(args, 0)
			return Value{Kind: Host, Ref: &xmlName{n}}, ok, nil
		}
		if name == "Get" && len(args) == 2 {
			return Value{Kind: Host, Ref: &xmlName{markup.Name{Space: args[1].Text, Local: args[0].Text}}}, true, nil
		}
	case "XNode":
		if r, ok := first(args).Ref.(*xmlReader); ok && name == "ReadFrom" {
			v, err := r.readFrom(m)
			return v, true, err
		}
	case "XmlReader":
		if name == "Create" && len(args) > 0 {
			doc, err := m.xmlText(args[0])
			r := newXMLReader(doc, nil)
			if err != nil { // it is read, and told, as the reader comes to it
				r.broken = err
			}
			r.prohibits = true
			if len(args) > 1 {
				if s, ok := args[1].Ref.(*xmlSettings); ok {
					r.set(s)
				}
			}
			r.list()
			return Value{Kind: Host, Ref: r}, true, nil
		}
	case "XmlConvert":
		if to := strings.TrimPrefix(name, "To"); len(args) > 0 {
			if target := conversions[to]; target != "" {
				if args[0].IsNull() {
					return Value{}, true, m.throw("ArgumentNullException", "Value cannot be null. (Parameter 's')")
				}
				v, err := m.lexical(args[0].Text, target)
				if err == nil && to == "DateTime" && hasWord(args, "Utc") && v.Kind == Plain {
					v.Seen = asUTC(v.Seen)
				}
				return v, true, err
			}
		}
	case "JsonConvert":
		if (name == "SerializeXNode" || name == "SerializeXmlNode") && len(args) > 0 {
			if n, ok := args[0].Ref.(*xmlNode); ok && len(args) == 1 {
				text := string(jsonOf(n))
				doc, err := wire.Parse([]byte(text))
				if err != nil {
					return Value{}, true, unfollowed("JSON that is made of XML", x.Pos)
				}
				return Document([]byte(text), doc), true, nil
			}
		}
	}
	return Value{}, false, nil
}

func first(args []Value) Value {
	if len(args) == 0 {
		return Value{}
	}
	return args[0]
}

// conversions are the types that methods of XmlConvert make of texts.
var conversions = map[string]string{
	"Int32": "int", "Int64": "long", "Int16": "short", "Byte": "byte", "UInt32": "uint", "UInt64": "ulong", "UInt16": "ushort", "SByte": "sbyte", "Double": "double", "Single": "float", "Decimal": "decimal", "Boolean": "bool",
	"DateTime": "DateTime", "DateTimeOffset": "DateTimeOffset", "TimeSpan": "TimeSpan", "Guid": "Guid",
}

// lexical is a text as a value by the lexical forms of XML Schema.
func (m *Machine) lexical(text, of string) (Value, error) {
	t := &model.Type{Kind: model.Named, Name: of}
	s, wrong, known := clr.Lexical(t, "", text)
	switch {
	case !known:
		return unknownValue(), nil
	case wrong != nil:
		class, message, _ := strings.Cut(wrong.Message, ": ")
		return Value{}, m.throw(class, message)
	}
	if s.Kind == decoder.SeenDate {
		return plainOf(of, s), nil
	}
	return m.ValueOf(s, t), nil
}

// asUTC is a date of no zone taken for one of UTC.
func asUTC(s decoder.Seen) decoder.Seen {
	if !strings.HasSuffix(s.Text, "Z") && !strings.Contains(s.Text[10:], "+") {
		s.Text += "Z"
	}
	return s
}

// xmlMade are documents, readers, settings and serializers that are made of something.
func (m *Machine) xmlMade(t *model.Type, args []Value, x *code.Expr) (Value, bool, error) {
	switch model.SimpleName(t.Name) {
	case "XmlDocument":
		return Value{Kind: Host, Ref: &xmlNode{dom: true}}, true, nil
	case "XmlNamespaceManager":
		return Value{Kind: Host, Ref: &xmlPrefixes{of: map[string]string{}}}, true, nil
	case "NameTable":
		return Value{Kind: Host, Ref: &opaque{"NameTable"}}, true, nil
	case "XmlReaderSettings":
		return Value{Kind: Host, Ref: &xmlSettings{set: map[string]Value{}}}, true, nil
	case "XmlTextReader", "XmlNodeReader":
		if len(args) == 0 {
			break
		}
		if n, ok := args[0].Ref.(*xmlNode); ok {
			r := newXMLReader(n.doc, n.e)
			r.placeless = true
			r.list()
			return Value{Kind: Host, Ref: r}, true, nil
		}
		doc, err := m.xmlText(args[0])
		r := newXMLReader(doc, nil)
		r.broken = err
		r.text = true
		r.list()
		return Value{Kind: Host, Ref: r}, true, nil
	case "XmlSerializer", "DataContractSerializer", "DataContractJsonSerializer":
		return m.xmlSerializer(model.SimpleName(t.Name), args, x)
	case "XmlRootAttribute", "XmlElementAttribute", "XmlAttributeAttribute", "XmlTypeAttribute", "XmlArrayAttribute", "XmlArrayItemAttribute", "XmlTextAttribute", "XmlEnumAttribute",
		"XmlRoot", "XmlElement", "XmlAttribute", "XmlType", "XmlArray", "XmlArrayItem", "XmlText", "XmlEnum":
		return Value{Kind: Host, Ref: attributeMade(model.SimpleName(t.Name), args)}, true, nil
	case "XmlAttributes":
		return Value{Kind: Host, Ref: &xmlMarks{}}, true, nil
	case "XmlAttributeOverrides":
		return Value{Kind: Host, Ref: &xmlOverrides{}}, true, nil
	case "DataContractJsonSerializerSettings":
		return Value{Kind: Host, Ref: &xmlSettings{set: map[string]Value{}}}, true, nil
	}
	return Value{}, false, nil
}

// xmlSettings are the settings of a reader or a serializer.
type xmlSettings struct{ set map[string]Value }

func (s *xmlSettings) setMember(name string, v Value) bool {
	s.set[name] = v
	return true
}

func (s *xmlSettings) call(_ *Machine, name string, _ []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	v, ok := s.set[name]
	return v, ok, nil
}

// on says whether a setting is true.
func (s *xmlSettings) on(name string) bool { return s.set[name].isTrue() }

// word is the constant that a setting is given.
func (s *xmlSettings) word(name string) string {
	if w, ok := s.set[name].Ref.(*platformWord); ok {
		return w.name
	}
	return ""
}

// xmlPrefixes is an XmlNamespaceManager.
type xmlPrefixes struct{ of map[string]string }

func (p *xmlPrefixes) call(_ *Machine, name string, args []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	if name == "AddNamespace" && len(args) == 2 {
		p.of[args[0].Text] = args[1].Text
		return Value{}, true, nil
	}
	return Value{}, false, nil
}

// handed is the node that a function of the app is handed of a document where it takes one; ok is false for another
// parameter.
func handedNode(doc *wire.Value, name string) (Value, bool) {
	if doc == nil || doc.Markup == nil {
		return Value{}, false
	}
	switch name {
	case "XElement":
		return Value{Kind: Host, Ref: &xmlNode{doc: doc.Markup, e: doc.Markup.Root}}, true
	case "XDocument":
		return Value{Kind: Host, Ref: &xmlNode{doc: doc.Markup}}, true
	case "XmlNode", "XmlElement":
		return Value{Kind: Host, Ref: &xmlNode{doc: doc.Markup, e: doc.Markup.Root, dom: true}}, true
	case "XmlDocument":
		return Value{Kind: Host, Ref: &xmlNode{doc: doc.Markup, dom: true}}, true
	case "XmlReader":
		r := newXMLReader(doc.Markup, nil)
		r.list()
		return Value{Kind: Host, Ref: r}, true
	}
	return Value{}, false
}

// jsonOf is what Newtonsoft.Json makes of an XML document: attributes as @name, text beside them as #text, elements of one
// name that stand several times as a list, an empty one as null.
func jsonOf(n *xmlNode) []byte {
	e := n.e
	if e == nil {
		e = n.doc.Root
	}
	out := append([]byte("{"), quoted(qualifiedName(e.Prefix, e.Name.Local))...)
	return append(appendJSON(append(out, ':'), e), '}')
}

func qualifiedName(prefix, local string) string {
	if prefix == "" {
		return local
	}
	return prefix + ":" + local
}

func quoted(text string) []byte {
	b, _ := clr.String(text).MarshalJSON()
	return b
}

func appendJSON(out []byte, e *markup.Element) []byte {
	inner := e.Elements()
	text := strings.Trim(e.OwnText(), "")
	blank := true
	for i := range e.Nodes {
		blank = blank && (e.Nodes[i].Kind != markup.TextNode && e.Nodes[i].Kind != markup.CDataNode || e.Nodes[i].Blank)
	}
	if len(e.Attrs) == 0 && len(e.Bindings) == 0 && len(inner) == 0 {
		if blank {
			if e.Empty {
				return append(out, "null"...)
			}
			return append(out, `""`...)
		}
		return append(out, quoted(text)...)
	}
	out = append(out, '{')
	comma := func() {
		if out[len(out)-1] != '{' {
			out = append(out, ',')
		}
	}
	for _, b := range e.Bindings {
		comma()
		name := "@xmlns"
		if b.Prefix != "" {
			name += ":" + b.Prefix
		}
		out = append(append(append(out, quoted(name)...), ':'), quoted(b.Space)...)
	}
	for _, a := range e.Attrs {
		comma()
		out = append(append(append(out, quoted("@"+qualifiedName(a.Prefix, a.Name.Local))...), ':'), quoted(a.Value)...)
	}
	if !blank {
		comma()
		out = append(append(out, `"#text":`...), quoted(text)...)
	}
	done := map[string]bool{}
	for i, c := range inner {
		name := qualifiedName(c.Prefix, c.Name.Local)
		if done[name] {
			continue
		}
		done[name] = true
		var same []*markup.Element
		for _, o := range inner[i:] {
			if qualifiedName(o.Prefix, o.Name.Local) == name {
				same = append(same, o)
			}
		}
		comma()
		out = append(append(out, quoted(name)...), ':')
		if len(same) == 1 {
			out = appendJSON(out, c)
			continue
		}
		out = append(out, '[')
		for k, o := range same {
			if k > 0 {
				out = append(out, ',')
			}
			out = appendJSON(out, o)
		}
		out = append(out, ']')
	}
	return append(out, '}')
}

// named is a text as the XName or XNamespace that it is compared with.
func named(a, b Value) (Value, Value) {
	if b.Kind != String {
		return a, b
	}
	switch a.Ref.(type) {
	case *xmlName:
		return a, Value{Kind: Host, Ref: &xmlName{markup.NameOf(b.Text)}}
	case *xmlSpace:
		return a, Value{Kind: Host, Ref: &xmlSpace{b.Text}}
	}
	return a, b
}
