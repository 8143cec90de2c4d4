package markup

import (
	"strconv"
	"strings"
	"unicode/utf8"
)

// content reads elements and what is in them, until what was open when it began is to be closed, or the text ends.
func (p *parser) content() error {
	base := p.open
	for p.pos < len(p.src) {
		if p.src[p.pos] != '<' {
			if err := p.text(); err != nil {
				return err
			}
			continue
		}
		if p.pos+1 >= len(p.src) {
			break
		}
		start := p.pos
		switch c := p.src[p.pos+1]; {
		case c == '/':
			if p.open == base && p.shift >= 0 {
				return p.fail(start, "an entity that closes an element which it did not open")
			}
			if err := p.endTag(); err != nil {
				return err
			}
			if p.open == nil {
				return nil
			}
		case c == '!' && p.has("<!--"):
			text, err := p.comment()
			if err != nil {
				return err
			}
			p.add(Node{Kind: CommentNode, Text: text, Start: p.at(start)})
		case c == '!' && p.has("<![CDATA["):
			p.pos += len("<![CDATA[")
			end := strings.Index(p.src[p.pos:], "]]>")
			if end < 0 {
				return p.short("inside a CDATA section")
			}
			text := p.src[p.pos : p.pos+end]
			if i := p.badChar(text); i >= 0 {
				return p.fail(p.pos+i, "a character that XML does not admit")
			}
			p.add(Node{Kind: CDataNode, Text: newLines(text), Start: p.at(start)})
			p.pos += end + 3
		case c == '?':
			text, err := p.instruction()
			if err != nil {
				return err
			}
			p.add(Node{Kind: InstructionNode, Text: text, Start: p.at(start)})
		case c == '!':
			return p.fail(start, "a declaration inside an element")
		default:
			if err := p.startTag(); err != nil {
				return err
			}
		}
	}
	if p.open != base || p.shift < 0 {
		var names []string
		for e := p.open; e != nil && (e != base || p.shift < 0) && len(names) < 4; e = e.Parent {
			names = append(names, qualified(e.Prefix, e.Name.Local))
		}
		if p.shift >= 0 {
			return p.fail(0, "an entity that opens <%s> and does not close it", names[0])
		}
		if len(names) == 0 {
			return p.short("inside a tag")
		}
		return p.short("before <" + strings.Join(names, ">, <") + "> is closed")
	}
	return nil
}

func qualified(prefix, local string) string {
	if prefix == "" {
		return local
	}
	return prefix + ":" + local
}

func (p *parser) add(n Node) {
	if p.open != nil {
		p.memory.add(n)
	}
}

// newLines makes one line break of each (section 2.11).
func newLines(text string) string {
	if strings.IndexByte(text, '\r') < 0 {
		return text
	}
	return strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\r", "\n")
}

// text reads character data with its references, up to markup.
func (p *parser) text() error {
	start, from := p.pos, p.pos
	var built []byte
	several, blank, written := false, true, true
	flush := func(to int) {
		if several || from != start {
			several = true
			built = append(built, p.src[from:to]...)
		}
	}
	emit := func() {
		text := ""
		if several {
			text = string(built)
		} else {
			text = p.src[from:p.pos]
		}
		if text == "" {
			return
		}
		for i := 0; i < len(text) && blank; i++ {
			blank = isSpace(text[i])
		}
		p.add(Node{Kind: TextNode, Text: text, Start: p.at(start), Blank: blank && written})
	}
	for p.pos < len(p.src) {
		c := p.src[p.pos]
		if classes[c]&textStop == 0 {
			p.pos++
			continue
		}
		switch {
		case c == '<':
			flush(p.pos)
			emit()
			return nil
		case c == ']':
			if p.has("]]>") {
				return p.fail(p.pos, "]]> in text")
			}
			p.pos++
		case c == '\r':
			several = true
			built = append(built, p.src[from:p.pos]...)
			built = append(built, '\n')
			if p.pos++; p.pos < len(p.src) && p.src[p.pos] == '\n' {
				p.pos++
			}
			from = p.pos
		case c == '&':
			several = true
			built = append(built, p.src[from:p.pos]...)
			at := p.pos
			r, e, err := p.reference()
			if err != nil {
				return err
			}
			from = p.pos
			if e == nil {
				written = false
				built = utf8.AppendRune(built, r)
				continue
			}
			// The text before ends here where the entity holds markup.
			if !strings.ContainsAny(e.text, "<&") {
				if err := p.expand(e, at); err != nil {
					return err
				}
				built = append(built, newLines(e.text)...)
				continue
			}
			p.addText(built, start, written)
			built, start = nil, p.pos
			if err := p.include(e, at); err != nil {
				return err
			}
			from = p.pos
		case c == 0xEF:
			if p.has("\xEF\xBF\xBE") || p.has("\xEF\xBF\xBF") {
				return p.fail(p.pos, "a character that XML does not admit")
			}
			p.pos++
		default:
			return p.fail(p.pos, "a character that XML does not admit")
		}
	}
	flush(p.pos)
	emit()
	return nil
}

func (p *parser) addText(built []byte, start int, written bool) {
	if len(built) == 0 {
		return
	}
	blank := strings.Trim(string(built), " \t\r\n") == ""
	p.add(Node{Kind: TextNode, Text: string(built), Start: p.at(start), Blank: blank && written})
}

// predefined are the entities that need no declaration (section 4.6).
var predefined = map[string]rune{"lt": '<', "gt": '>', "amp": '&', "apos": '\'', "quot": '"'}

// reference reads a reference: a character, or an entity of the document's own.
func (p *parser) reference() (r rune, e *entity, err error) {
	start := p.pos
	p.pos++
	if p.has("#") {
		r, err = p.character(start)
		return r, nil, err
	}
	name, err := p.name("an entity")
	if err != nil {
		return 0, nil, err
	}
	if !p.has(";") {
		return 0, nil, p.fail(start, "a reference without its semicolon: &%s", name)
	}
	p.pos++
	if r, ok := predefined[name]; ok {
		return r, nil, nil
	}
	if e = p.entities[name]; e == nil {
		if p.outside && !p.standalone {
			if p.doc.Undeclared < 0 {
				p.doc.Undeclared = p.at(start)
			}
			return 0, &entity{name: name}, nil // it may be declared outside: nothing stands for it
		}
		return 0, nil, p.fail(start, "the entity &%s; is not declared", name)
	}
	if e.outside {
		return 0, nil, p.fail(start, "the entity &%s; stands outside the document, which is not read", name)
	}
	return 0, e, nil
}

// character reads a reference to a character by its number, from its # on.
func (p *parser) character(start int) (rune, error) {
	end := 1
	for p.pos+end < len(p.src) && classes[p.src[p.pos+end]]&nameChar != 0 {
		end++
	}
	if p.pos+end >= len(p.src) || p.src[p.pos+end] != ';' {
		return 0, p.fail(start, "a reference without its semicolon")
	}
	digits, base := p.src[p.pos+1:p.pos+end], 10
	if strings.HasPrefix(digits, "x") {
		digits, base = digits[1:], 16
	}
	n, err := strconv.ParseUint(digits, base, 32)
	if err != nil || !isChar(rune(n)) || n > utf8.MaxRune {
		return 0, p.fail(start, "&%s is no character that XML admits", p.src[p.pos:p.pos+end+1])
	}
	p.pos += end + 1
	return rune(n), nil
}

// startTag reads a start tag, or an empty element (section 3.1).
func (p *parser) startTag() error {
	start := p.pos
	p.pos++
	name, err := p.name("an element")
	if err != nil {
		return err
	}
	if p.depth++; p.depth > MaxDepth {
		return p.fail(start, "more than %d elements inside each other", MaxDepth)
	}
	e := p.memory.element()
	e.Parent, e.Start, e.Attrs = p.open, p.at(start), p.memory.attrs[:0]
	scope := len(p.bindings)
	for {
		spaced := p.space()
		if p.pos >= len(p.src) {
			return p.short("inside a tag")
		}
		c := p.src[p.pos]
		if c == '>' {
			p.pos++
			break
		}
		if c == '/' {
			if p.pos+1 >= len(p.src) {
				return p.short("inside a tag")
			}
			if p.src[p.pos+1] != '>' {
				return p.fail(p.pos, "'/' in a tag that does not end")
			}
			p.pos += 2
			e.Empty = true
			break
		}
		if !spaced {
			return p.fail(p.pos, "white space is missing between attributes of <%s>", name)
		}
		if err := p.attribute(e); err != nil {
			return err
		}
	}
	if err := p.resolve(e, name, start); err != nil {
		return err
	}
	p.memory.keepAttrs(e)
	if f := p.memory.writes; f != nil && f.full() {
		return p.fail(start, tooLong, MaxGrowth)
	}
	e.Open = p.at(p.pos)
	e.Close, e.End = e.Open, e.Open
	if p.open == nil {
		p.doc.Root = e
	} else {
		p.add(Node{Kind: ElementNode, Element: e, Start: e.Start})
	}
	if e.Empty {
		p.bindings = p.bindings[:scope]
		p.depth--
		return p.memory.empty(e)
	}
	p.open = e
	p.memory.open(e)
	return nil
}

// endTag reads an end tag.
func (p *parser) endTag() error {
	start := p.pos
	p.pos += 2
	e := p.open
	want := qualified(e.Prefix, e.Name.Local)
	if strings.HasPrefix(p.src[p.pos:], want) && p.pos+len(want) < len(p.src) && (p.src[p.pos+len(want)] == '>' || isSpace(p.src[p.pos+len(want)])) {
		p.pos += len(want)
	} else {
		name, err := p.name("an element")
		if err != nil {
			return err
		}
		if name != want {
			return p.fail(start, "</%s> where <%s> is open", name, want)
		}
	}
	p.space()
	if p.pos >= len(p.src) {
		return p.short("inside a tag")
	}
	if p.src[p.pos] != '>' {
		return p.fail(p.pos, "an end tag that does not end")
	}
	p.pos++
	e.Close, e.End = p.at(start), p.at(p.pos)
	p.bindings = p.bindings[:len(p.bindings)-len(e.Bindings)]
	p.open = e.Parent
	p.depth--
	return p.memory.close(e)
}

// attribute reads an attribute of an element, or a declaration of a namespace.
func (p *parser) attribute(e *Element) error {
	start := p.pos
	name, err := p.name("an attribute")
	if err != nil {
		return err
	}
	p.space()
	if !p.has("=") {
		if p.pos >= len(p.src) {
			return p.short("inside a tag")
		}
		return p.fail(start, "the attribute %s without a value", name)
	}
	p.pos++
	p.space()
	raw, at, err := p.literal("the attribute " + name)
	if err != nil {
		return err
	}
	value := raw
	if strings.ContainsAny(raw, "<&\t\n\r") || p.badChar(raw) >= 0 {
		if value, err = p.normalised(raw, at, 0); err != nil {
			return err
		}
	}
	prefix, local := split(name)
	if prefix == "xmlns" || name == "xmlns" {
		return p.bind(e, prefix, local, value, start)
	}
	if len(e.Attrs) >= MaxAttributes {
		return p.fail(start, "more than %d attributes of one element", MaxAttributes)
	}
	e.Attrs = append(e.Attrs, Attr{Name: Name{Local: local}, Prefix: prefix, Value: value, Start: p.at(start), ValueStart: p.at(at)})
	return nil
}

func split(name string) (prefix, local string) {
	if i := strings.IndexByte(name, ':'); i > 0 && i < len(name)-1 {
		return name[:i], name[i+1:]
	}
	return "", name
}

// bind takes in a declaration of a namespace (Namespaces in XML 1.0, section 2).
func (p *parser) bind(e *Element, prefix, local, value string, start int) error {
	own := ""
	if prefix != "" {
		own = local
	}
	for _, b := range e.Bindings {
		if b.Prefix == own {
			return p.fail(start, "a second declaration of the prefix %q", own)
		}
	}
	wrong := own != "" && value == "" || own == "xmlns" || (own == "xml") != (value == XMLSpace) || value == declarationSpace
	if wrong && p.doc.Undeclared < 0 {
		p.doc.Undeclared = p.at(start)
	}
	e.Bindings = append(e.Bindings, Binding{own, value})
	p.bindings = append(p.bindings, Binding{own, value})
	return nil
}

// space of a prefix, where it is declared.
func (p *parser) lookup(prefix string) (string, bool) {
	if prefix == "xml" {
		return XMLSpace, true
	}
	for i := len(p.bindings) - 1; i >= 0; i-- {
		if p.bindings[i].Prefix == prefix {
			return p.bindings[i].Space, true
		}
	}
	return "", prefix == ""
}

// resolve gives an element and its attributes their namespaces, and refuses an attribute that is there twice.
func (p *parser) resolve(e *Element, name string, start int) error {
	e.Prefix, e.Name.Local = split(name)
	space, ok := p.lookup(e.Prefix)
	if !ok || strings.Count(name, ":") > 1 {
		p.undeclared(start + 1)
	}
	e.Name.Space = space
	for i := range e.Attrs {
		a := &e.Attrs[i]
		if a.Prefix == "" {
			continue
		}
		if a.Name.Space, ok = p.lookup(a.Prefix); !ok {
			p.undeclared(a.Start)
			a.Name = Name{Local: a.Prefix + ":" + a.Name.Local}
			a.Prefix = ""
		}
	}
	if len(e.Attrs) < 2 {
		return nil
	}
	if len(e.Attrs) > 12 {
		seen := make(map[Name]bool, len(e.Attrs))
		for _, a := range e.Attrs {
			if seen[a.Name] {
				return p.fail(a.Start, "the attribute %s stands twice", qualified(a.Prefix, a.Name.Local))
			}
			seen[a.Name] = true
		}
		return nil
	}
	for i, a := range e.Attrs {
		for _, b := range e.Attrs[:i] {
			if a.Name == b.Name {
				return p.fail(a.Start, "the attribute %s stands twice", qualified(a.Prefix, a.Name.Local))
			}
		}
	}
	return nil
}

func (p *parser) undeclared(pos int) {
	if p.doc.Undeclared < 0 {
		p.doc.Undeclared = p.at(pos)
	}
}
