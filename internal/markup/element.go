// Package markup reads XML (XML 1.0, fourth edition, and Namespaces in XML 1.0, as the readers of decoding libraries
// have them) into a tree that keeps byte offsets, and writes the tree as JSON text, so that shapes are made of it as of
// any document. Nothing outside the document is ever read.
package markup

import (
	"strings"
	"unicode/utf8"
)

// Name is a name with its namespace.
type Name struct {
	Space string // the URI, "" for none
	Local string
}

// Kind is what kind of node it is.
type Kind uint8

// The kinds of node.
const (
	ElementNode Kind = iota
	TextNode
	CDataNode
	CommentNode
	InstructionNode
)

// Node is a part of what is in an element.
type Node struct {
	Kind    Kind
	Element *Element // of an ElementNode
	Text    string   // of the others; of an instruction, its target with what follows
	Start   int      // byte offset in the text that was parsed
	Blank   bool     // of text that is white space alone, and was written as such
}

// Attr is an attribute; a declaration of a namespace is none.
type Attr struct {
	Name       Name
	Prefix     string
	Value      string // normalised (XML 1.0 section 3.3.3)
	Start      int    // byte offset of its name
	ValueStart int    // and of its value, behind the quote
}

// Binding is a declaration of a namespace: of the default one where Prefix is "".
type Binding struct{ Prefix, Space string }

// Element is an element.
type Element struct {
	Name     Name
	Prefix   string
	Attrs    []Attr
	Bindings []Binding // that it declares
	Nodes    []Node
	Parent   *Element
	Start    int // byte offset of its start tag
	Open     int // behind the start tag
	Close    int // of its end tag; where Empty, the same as Open
	End      int // behind it
	Empty    bool
}

// Document is a document that was parsed.
type Document struct {
	Source
	Root         *Element
	Encoding     string // that its declaration names, "" for none
	Doctype      bool
	DoctypeStart int
	// Undeclared is the offset of the first name with a prefix, or the first entity, that nothing in the document declares,
	// -1 for none: the document is well-formed, and no reader that knows namespaces takes it.
	Undeclared int
	// Expanded says that entities which it declares were put in.
	Expanded bool
}

// Source is what a document was written as.
type Source struct {
	Text  string // in UTF-8
	lines []int  // how many there are before each stretch of lineStretch bytes, once somebody has asked
}

const lineStretch = 64 << 10

// Position is the line and the column, both from 1, of a byte offset; columns count characters.
func (d *Source) Position(offset int) (line, column int) {
	if d.lines == nil {
		d.lines = make([]int, 1, len(d.Text)/lineStretch+1)
		for at := lineStretch; at <= len(d.Text); at += lineStretch {
			d.lines = append(d.lines, d.lines[len(d.lines)-1]+strings.Count(d.Text[at-lineStretch:at], "\n"))
		}
	}
	offset = min(offset, len(d.Text))
	stretch := offset / lineStretch
	line = 1 + d.lines[stretch] + strings.Count(d.Text[stretch*lineStretch:offset], "\n")
	return line, 1 + utf8.RuneCountInString(d.Text[1+strings.LastIndexByte(d.Text[:offset], '\n'):offset])
}

// InstanceSpace is the namespace of xsi:nil and xsi:type (XML Schema Part 1, section 2.6).
const InstanceSpace = "http://www.w3.org/2001/XMLSchema-instance"

// XMLSpace is the namespace that the prefix xml is bound to.
const XMLSpace = "http://www.w3.org/XML/1998/namespace"

const declarationSpace = "http://www.w3.org/2000/xmlns/"

// Attr answers the attribute of a name, nil for none.
func (e *Element) Attr(space, local string) *Attr {
	for i := range e.Attrs {
		if a := &e.Attrs[i]; a.Name.Local == local && a.Name.Space == space {
			return a
		}
	}
	return nil
}

// Nil says whether the element says that it is nothing: xsi:nil.
func (e *Element) Nil() bool {
	a := e.Attr(InstanceSpace, "nil")
	return a != nil && (a.Value == "true" || a.Value == "1")
}

// Elements are the elements that stand in it.
func (e *Element) Elements() (all []*Element) {
	for i := range e.Nodes {
		if n := &e.Nodes[i]; n.Kind == ElementNode {
			all = append(all, n.Element)
		}
	}
	return all
}

// HasElements says whether any stands in it.
func (e *Element) HasElements() bool {
	for i := range e.Nodes {
		if e.Nodes[i].Kind == ElementNode {
			return true
		}
	}
	return false
}

// OwnText is the text that stands in it directly, with that of CDATA sections.
func (e *Element) OwnText() string {
	text := ""
	for i := range e.Nodes {
		if n := &e.Nodes[i]; n.Kind == TextNode || n.Kind == CDataNode {
			text += n.Text
		}
	}
	return text
}

// Lookup is the namespace that a prefix is bound to where the element stands; "" with ok for the default one that is
// not declared.
func (e *Element) Lookup(prefix string) (space string, ok bool) {
	if prefix == "xml" {
		return XMLSpace, true
	}
	for ; e != nil; e = e.Parent {
		for i := len(e.Bindings) - 1; i >= 0; i-- {
			if e.Bindings[i].Prefix == prefix {
				return e.Bindings[i].Space, true
			}
		}
	}
	return "", prefix == ""
}

// Written is an attribute as XML.
func (a *Attr) Written() string {
	return qualified(a.Prefix, a.Name.Local) + `="` + escapeAttr.Replace(a.Value) + `"`
}

var (
	escapeAttr = strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;", `"`, "&quot;", "\n", "&#xA;", "\t", "&#x9;", "\r", "&#xD;")
	escapeText = strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;")
)

// Outer is the element as XML, with the declarations that its names need; white space that stands alone is left out.
func (e *Element) Outer() string {
	var b strings.Builder
	e.write(&b, nil)
	return b.String()
}

// Inner is what stands in it, as Outer has it.
func (e *Element) Inner() string {
	var b strings.Builder
	for i := range e.Nodes {
		e.Nodes[i].write(&b, e.inScope())
	}
	return b.String()
}

// inScope are the bindings where the element stands, its own among them.
func (e *Element) inScope() (all []Binding) {
	for ; e != nil; e = e.Parent {
		all = append(all, e.Bindings...)
	}
	return all
}

func (n *Node) write(b *strings.Builder, known []Binding) {
	switch {
	case n.Kind == ElementNode:
		n.Element.write(b, known)
	case n.Blank:
	case n.Kind == TextNode:
		b.WriteString(escapeText.Replace(n.Text))
	case n.Kind == CDataNode:
		b.WriteString("<![CDATA[" + n.Text + "]]>")
	case n.Kind == CommentNode:
		b.WriteString("<!--" + n.Text + "-->")
	case n.Kind == InstructionNode:
		b.WriteString("<?" + n.Text + "?>")
	}
}

func (e *Element) write(b *strings.Builder, known []Binding) {
	b.WriteString("<" + qualified(e.Prefix, e.Name.Local))
	bound := known
	need := func(prefix, space string) {
		if prefix == "xml" || prefix == "" && space == "" && len(known) == 0 {
			return
		}
		for i := len(bound) - 1; i >= 0; i-- {
			if bound[i].Prefix == prefix {
				if bound[i].Space == space {
					return
				}
				break
			}
		}
		bound = append(bound[:len(bound):len(bound)], Binding{prefix, space})
	}
	need(e.Prefix, e.Name.Space)
	for i := range e.Attrs {
		b.WriteString(" " + e.Attrs[i].Written())
		if a := &e.Attrs[i]; a.Prefix != "" {
			need(a.Prefix, a.Name.Space)
		}
	}
	for _, own := range bound[len(known):] {
		if own.Prefix == "" {
			b.WriteString(` xmlns="` + escapeAttr.Replace(own.Space) + `"`)
		} else {
			b.WriteString(" xmlns:" + own.Prefix + `="` + escapeAttr.Replace(own.Space) + `"`)
		}
	}
	if e.Empty {
		b.WriteString(" />")
		return
	}
	b.WriteString(">")
	for i := range e.Nodes {
		e.Nodes[i].write(b, bound)
	}
	b.WriteString("</" + qualified(e.Prefix, e.Name.Local) + ">")
}
