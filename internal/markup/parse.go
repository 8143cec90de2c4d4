package markup

import (
	"fmt"
	"strings"
	"unicode/utf8"
)

// Bounds keep hostile documents short; each is named where it is hit.
const (
	MaxDepth      = 1000     // elements inside each other, as many as arrays and objects of JSON
	MaxAttributes = 10000    // of one element
	MaxExpanded   = 10 << 20 // bytes that entities expand to
	MaxSize       = 1 << 30  // bytes of a document
	maxEntities   = 32       // entities inside each other
)

// Error says where a document stops being XML and why.
type Error struct {
	Offset    int    // of the first byte that does not fit
	Reason    string // in words that need no further context
	Truncated bool   // the text ended where more was needed
}

func (e *Error) Error() string { return e.Reason }

// Parse reads a document. The error is an *Error.
func Parse(data []byte) (*Document, error) {
	if err := tooLarge(data); err != nil {
		return nil, err
	}
	return parse(string(data))
}

func tooLarge(data []byte) error {
	if len(data) > MaxSize {
		return &Error{Offset: MaxSize, Reason: fmt.Sprintf("an XML document of more than %d GB", MaxSize>>30)}
	}
	return nil
}

func parse(text string) (*Document, error) {
	p, err := read(text, &memory{})
	if err != nil {
		return nil, err
	}
	return p.doc, nil
}

func read(text string, m *memory) (*parser, error) {
	p := &parser{src: text, doc: &Document{Source: Source{Text: text}, Undeclared: -1}, shift: -1, memory: m}
	if i := invalid(text); i >= 0 {
		return nil, &Error{Offset: i, Reason: "a byte that is not UTF-8"}
	}
	return p, p.document()
}

// invalid is the offset of the first byte that is not UTF-8, -1 for none.
func invalid(text string) int {
	if utf8.ValidString(text) {
		return -1
	}
	for i := 0; i < len(text); {
		r, n := utf8.DecodeRuneInString(text[i:])
		if r == utf8.RuneError && n <= 1 {
			return i
		}
		i += n
	}
	return -1
}

type parser struct {
	src      string
	pos      int
	doc      *Document
	open     *Element // the innermost that is open
	depth    int
	bindings []Binding // in scope, innermost last
	memory   *memory
	names    map[string]bool

	entities   map[string]*entity
	outside    bool // declarations stand outside the document, or are of parameters
	standalone bool
	expanded   *int
	// Of the text of an entity: where its reference stands, which all in it is said to be at; -1 in the document.
	shift  int
	nested int
}

func (p *parser) at(pos int) int {
	if p.shift >= 0 {
		return p.shift
	}
	return pos
}

func (p *parser) fail(pos int, format string, args ...any) *Error {
	return &Error{Offset: p.at(pos), Reason: fmt.Sprintf(format, args...)}
}

// short is the error for a text that ends too early.
func (p *parser) short(where string) *Error {
	return &Error{Offset: p.at(len(p.src)), Reason: "it ends " + where, Truncated: true}
}

func (p *parser) space() bool {
	from := p.pos
	for p.pos < len(p.src) && isSpace(p.src[p.pos]) {
		p.pos++
	}
	return p.pos > from
}

func (p *parser) has(text string) bool { return strings.HasPrefix(p.src[p.pos:], text) }

// document reads prolog, element and what may stand behind it (section 2.1).
func (p *parser) document() error {
	p.expanded = new(int)
	if p.has("\ufeff") {
		p.pos += len("\ufeff")
	}
	if p.has("<?xml") && p.pos+5 < len(p.src) && isSpace(p.src[p.pos+5]) {
		if err := p.declaration(); err != nil {
			return err
		}
	}
	for {
		p.space()
		if p.pos >= len(p.src) {
			return p.short("before its root element")
		}
		switch {
		case p.has("<!--"):
			if _, err := p.comment(); err != nil {
				return err
			}
		case p.has("<?"):
			if _, err := p.instruction(); err != nil {
				return err
			}
		case p.has("<!DOCTYPE"):
			if p.doc.Doctype {
				return p.fail(p.pos, "a second DOCTYPE")
			}
			p.doc.Doctype, p.doc.DoctypeStart = true, p.pos
			if err := p.doctype(); err != nil {
				return err
			}
		case p.src[p.pos] == '<':
			if err := p.startTag(); err != nil {
				return err
			}
			if p.open != nil {
				if err := p.content(); err != nil {
					return err
				}
			}
			return p.behind()
		default:
			return p.fail(p.pos, "text before the root element")
		}
	}
}

// behind reads what may stand behind the root element.
func (p *parser) behind() error {
	for {
		p.space()
		var err error
		switch {
		case p.pos >= len(p.src):
			return nil
		case p.has("<!--"):
			_, err = p.comment()
		case p.has("<?"):
			_, err = p.instruction()
		case p.src[p.pos] == '<' && p.pos+1 < len(p.src) && classes[p.src[p.pos+1]]&nameStart != 0:
			return p.fail(p.pos, "a second root element")
		default:
			return p.fail(p.pos, "something stands behind the root element")
		}
		if err != nil {
			return err
		}
	}
}

// declaration reads the XML declaration (section 2.8).
func (p *parser) declaration() error {
	start := p.pos
	p.pos += len("<?xml")
	for i, name := range []string{"version", "encoding", "standalone"} {
		spaced := p.space()
		if !p.has(name) {
			if i == 0 {
				return p.fail(p.pos, "an XML declaration without its version")
			}
			if spaced && !p.has("?>") && i == 2 || !spaced && !p.has("?>") {
				return p.fail(p.pos, "an XML declaration that is not well-formed")
			}
			if spaced { // for the next one
				p.pos--
			}
			continue
		}
		if !spaced {
			return p.fail(p.pos, "white space is missing in the XML declaration")
		}
		p.pos += len(name)
		p.space()
		if !p.has("=") {
			return p.fail(p.pos, "'=' is missing in the XML declaration")
		}
		p.pos++
		p.space()
		value, at, err := p.literal("the XML declaration")
		if err != nil {
			return err
		}
		switch name {
		case "version":
			if value != "1.0" {
				return p.fail(at, "version %q: only 1.0 is read", value)
			}
		case "encoding":
			if !isEncodingName(value) {
				return p.fail(at, "%q is no name of an encoding", value)
			}
			p.doc.Encoding = value
		case "standalone":
			if value != "yes" && value != "no" {
				return p.fail(at, "standalone is yes or no")
			}
			p.standalone = value == "yes"
		}
	}
	p.space()
	if !p.has("?>") {
		if p.pos >= len(p.src) {
			return p.short("inside the XML declaration")
		}
		return p.fail(start, "an XML declaration that is not well-formed")
	}
	p.pos += 2
	return nil
}

func isEncodingName(s string) bool {
	for i, c := range []byte(s) {
		letter := c|0x20 >= 'a' && c|0x20 <= 'z'
		if !letter && (i == 0 || !(c >= '0' && c <= '9' || c == '.' || c == '_' || c == '-')) {
			return false
		}
	}
	return s != ""
}

// literal reads a text in quotes as it stands.
func (p *parser) literal(in string) (text string, at int, err error) {
	if p.pos >= len(p.src) {
		return "", p.pos, p.short("inside " + in)
	}
	quote := p.src[p.pos]
	if quote != '"' && quote != '\'' {
		return "", p.pos, p.fail(p.pos, "a quote is missing in %s", in)
	}
	p.pos++
	at = p.pos
	end := strings.IndexByte(p.src[at:], quote)
	if end < 0 {
		return "", at, p.short("inside " + in)
	}
	p.pos = at + end + 1
	return p.src[at : at+end], at, nil
}

// comment reads a comment (section 2.5).
func (p *parser) comment() (text string, err error) {
	start := p.pos
	p.pos += len("<!--")
	end := strings.Index(p.src[p.pos:], "--")
	if end < 0 {
		return "", p.short("inside a comment")
	}
	text = p.src[p.pos : p.pos+end]
	if i := p.badChar(text); i >= 0 {
		return "", p.fail(p.pos+i, "a character that XML does not admit")
	}
	p.pos += end
	if !p.has("-->") {
		if p.pos+2 >= len(p.src) {
			return "", p.short("inside a comment")
		}
		return "", p.fail(start, "a comment with -- in it")
	}
	p.pos += 3
	return text, nil
}

// instruction reads a processing instruction (section 2.6).
func (p *parser) instruction() (text string, err error) {
	start := p.pos
	p.pos += 2
	target, err := p.name("a processing instruction")
	if err != nil {
		return "", err
	}
	if strings.EqualFold(target, "xml") {
		return "", p.fail(start, "an XML declaration that is not at the very beginning")
	}
	end := strings.Index(p.src[p.pos:], "?>")
	if end < 0 {
		return "", p.short("inside a processing instruction")
	}
	if end > 0 && !isSpace(p.src[p.pos]) {
		return "", p.fail(p.pos, "white space is missing behind %s", target)
	}
	text = target + p.src[p.pos:p.pos+end]
	if i := p.badChar(text); i >= 0 {
		return "", p.fail(start, "a character that XML does not admit")
	}
	p.pos += end + 2
	return text, nil
}

// badChar is the offset of the first character in a text that no document may hold, -1 for none.
func (p *parser) badChar(text string) int {
	for i, r := range text {
		if !isChar(r) {
			return i
		}
	}
	return -1
}

// name reads a name.
func (p *parser) name(of string) (string, error) {
	from := p.pos
	if from >= len(p.src) {
		return "", p.short("where the name of " + of + " should come")
	}
	if classes[p.src[from]]&nameStart == 0 {
		r, _ := utf8.DecodeRuneInString(p.src[from:])
		return "", p.fail(from, "the name of %s cannot begin with %q", of, r)
	}
	ascii := true
	i := from
	for i < len(p.src) && classes[p.src[i]]&nameChar != 0 {
		ascii = ascii && p.src[i] < utf8.RuneSelf
		i++
	}
	name := p.src[from:i]
	if !ascii && !p.wellNamed(name) {
		return "", p.fail(from, "%q is no XML name", name)
	}
	p.pos = i
	return name, nil
}
