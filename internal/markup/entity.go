package markup

import (
	"strings"
	"unicode/utf8"
)

// entity is a general entity that the document declares (section 4.2).
type entity struct {
	name    string
	text    string // with its characters by number, and without its own references
	outside bool   // it stands elsewhere
	open    bool   // it is being expanded
}

// doctype reads a document type declaration. What is inside is passed over, but for the entities that it declares.
func (p *parser) doctype() error {
	start := p.pos
	p.pos += len("<!DOCTYPE")
	if !p.space() {
		return p.fail(p.pos, "white space is missing behind <!DOCTYPE")
	}
	if _, err := p.name("a document type"); err != nil {
		return err
	}
	p.space()
	if p.has("SYSTEM") || p.has("PUBLIC") {
		p.outside = true
		if err := p.external(p.has("PUBLIC"), false); err != nil {
			return err
		}
		p.space()
	}
	if p.has("[") {
		p.pos++
		if err := p.subset(); err != nil {
			return err
		}
		p.space()
	}
	if !p.has(">") {
		if p.pos >= len(p.src) {
			return p.short("inside the DOCTYPE")
		}
		return p.fail(start, "a DOCTYPE that does not end")
	}
	p.pos++
	return nil
}

// external reads where something stands outside; loose says that a public name may go alone.
func (p *parser) external(public, loose bool) error {
	p.pos += len("SYSTEM")
	for n := 0; ; n++ {
		if !p.space() {
			if public && n == 1 && loose {
				return nil
			}
			return p.fail(p.pos, "white space is missing where something outside is named")
		}
		if public && n == 1 && loose && !p.has("\"") && !p.has("'") {
			return nil
		}
		text, at, err := p.literal("the DOCTYPE")
		if err != nil {
			return err
		}
		if public && n == 0 {
			if i := strings.IndexFunc(text, func(r rune) bool { return !isPublic(r) }); i >= 0 {
				return p.fail(at+i, "a public name with a character that none has")
			}
			continue
		}
		return nil
	}
}

func isPublic(r rune) bool {
	return r == ' ' || r == '\n' || r == '\r' || r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || r < 0x80 && strings.ContainsRune("-'()+,./:=?;!*#@$_%", r)
}

// subset reads the declarations in brackets.
func (p *parser) subset() error {
	for {
		p.space()
		switch {
		case p.pos >= len(p.src):
			return p.short("inside the DOCTYPE")
		case p.src[p.pos] == ']':
			p.pos++
			return nil
		case p.has("<!--"):
			if _, err := p.comment(); err != nil {
				return err
			}
		case p.has("<?"):
			if _, err := p.instruction(); err != nil {
				return err
			}
		case p.has("<!ENTITY"):
			if err := p.entityDeclaration(); err != nil {
				return err
			}
		case p.has("<!"):
			if err := p.passDeclaration(); err != nil {
				return err
			}
		case p.src[p.pos] == '%':
			p.pos++
			if _, err := p.name("a parameter entity"); err != nil {
				return err
			}
			if !p.has(";") {
				return p.fail(p.pos, "a reference without its semicolon")
			}
			p.pos++
			p.outside = true
		default:
			return p.fail(p.pos, "something that is no declaration inside the DOCTYPE")
		}
	}
}

// passDeclaration passes a declaration over.
func (p *parser) passDeclaration() error {
	start := p.pos
	for p.pos < len(p.src) {
		switch c := p.src[p.pos]; c {
		case '>':
			p.pos++
			return nil
		case '"', '\'':
			if _, _, err := p.literal("a declaration"); err != nil {
				return err
			}
		case '<':
			if p.pos != start {
				return p.fail(start, "a declaration that does not end")
			}
			p.pos++
		default:
			if r, n := utf8.DecodeRuneInString(p.src[p.pos:]); !isChar(r) {
				return p.fail(p.pos, "a character that XML does not admit")
			} else {
				p.pos += n
			}
		}
	}
	return p.short("inside a declaration")
}

// entityDeclaration reads what an entity is; of several of one name the first counts.
func (p *parser) entityDeclaration() error {
	start := p.pos
	p.pos += len("<!ENTITY")
	if !p.space() {
		return p.fail(p.pos, "white space is missing behind <!ENTITY")
	}
	parameter := p.has("%")
	if parameter {
		p.pos++
		if !p.space() {
			return p.fail(p.pos, "white space is missing behind %%")
		}
	}
	name, err := p.name("an entity")
	if err != nil {
		return err
	}
	if !p.space() {
		return p.fail(p.pos, "white space is missing behind the name of an entity")
	}
	e := &entity{name: name}
	if p.has("SYSTEM") || p.has("PUBLIC") {
		e.outside = true
		if err := p.external(p.has("PUBLIC"), false); err != nil {
			return err
		}
		spaced := p.space()
		if p.has("NDATA") {
			if !spaced || parameter {
				return p.fail(p.pos, "NDATA where it may not stand")
			}
			p.pos += len("NDATA")
			if !p.space() {
				return p.fail(p.pos, "white space is missing behind NDATA")
			}
			if _, err := p.name("a notation"); err != nil {
				return err
			}
		}
	} else {
		text, at, err := p.literal("an entity")
		if err != nil {
			return err
		}
		if e.text, err = p.replacement(text, at); err != nil {
			return err
		}
	}
	p.space()
	if !p.has(">") {
		return p.fail(start, "the declaration of an entity that does not end")
	}
	p.pos++
	if !parameter && p.entities[name] == nil {
		if p.entities == nil {
			p.entities = map[string]*entity{}
		}
		p.entities[name] = e
	}
	return nil
}

// replacement is the text of an entity: characters by their number are put in, other references stay (section 4.5).
func (p *parser) replacement(text string, at int) (string, error) {
	if i := p.badChar(text); i >= 0 {
		return "", p.fail(at+i, "a character that XML does not admit")
	}
	var b strings.Builder
	sub := &parser{src: text, doc: p.doc, shift: p.at(at)}
	for sub.pos < len(text) {
		switch c := text[sub.pos]; {
		case c == '%':
			return "", p.fail(at+sub.pos, "a parameter entity inside a declaration")
		case c != '&':
			b.WriteByte(c)
			sub.pos++
		case strings.HasPrefix(text[sub.pos:], "&#"):
			from := sub.pos
			sub.pos++
			r, err := sub.character(from)
			if err != nil {
				return "", err
			}
			b.WriteRune(r)
		default:
			from := sub.pos
			sub.pos++
			if _, err := sub.name("an entity"); err != nil {
				return "", err
			}
			if !sub.has(";") {
				return "", p.fail(at+from, "a reference without its semicolon")
			}
			sub.pos++
			b.WriteString(text[from:sub.pos])
		}
	}
	return b.String(), nil
}

// expand counts what an entity adds, and refuses too much.
func (p *parser) expand(e *entity, at int) error {
	p.doc.Expanded = true
	if *p.expanded += len(e.text) + 1; *p.expanded > MaxExpanded {
		return p.fail(at, "entities that expand to more than %d MB", MaxExpanded>>20)
	}
	if e.open {
		return p.fail(at, "the entity &%s; holds itself", e.name)
	}
	return nil
}

// include reads the text of an entity as content (section 4.4.2).
func (p *parser) include(e *entity, at int) error {
	if err := p.expand(e, at); err != nil {
		return err
	}
	if p.nested >= maxEntities {
		return p.fail(at, "more than %d entities inside each other", maxEntities)
	}
	e.open = true
	defer func() { e.open = false }()
	sub := *p
	sub.src, sub.pos, sub.shift, sub.nested = e.text, 0, p.at(at), p.nested+1
	if err := sub.content(); err != nil {
		return err
	}
	p.names = sub.names
	return nil
}

// normalised is the value of an attribute (section 3.3.3).
func (p *parser) normalised(raw string, at, deep int) (string, error) {
	var b strings.Builder
	sub := &parser{src: raw, doc: p.doc, entities: p.entities, outside: p.outside, standalone: p.standalone, shift: -1}
	place := func(i int) int {
		if p.shift >= 0 || deep > 0 {
			return at
		}
		return at + i
	}
	for sub.pos < len(raw) {
		c := raw[sub.pos]
		switch {
		case c == '<':
			return "", p.fail(place(sub.pos), "'<' in the value of an attribute")
		case c == '\r' && strings.HasPrefix(raw[sub.pos:], "\r\n"):
			b.WriteByte(' ')
			sub.pos += 2
		case isSpace(c):
			b.WriteByte(' ')
			sub.pos++
		case c == '&':
			from := sub.pos
			r, e, err := sub.reference()
			if err != nil {
				wrong := err.(*Error)
				return "", p.fail(place(from), "%s", wrong.Reason)
			}
			if e == nil {
				b.WriteRune(r)
				continue
			}
			if err := p.expand(e, place(from)); err != nil {
				return "", err
			}
			if deep >= maxEntities {
				return "", p.fail(place(from), "more than %d entities inside each other", maxEntities)
			}
			e.open = true
			text, err := p.normalised(e.text, place(from), deep+1)
			e.open = false
			if err != nil {
				return "", err
			}
			b.WriteString(text)
		default:
			r, n := utf8.DecodeRuneInString(raw[sub.pos:])
			if !isChar(r) {
				return "", p.fail(place(sub.pos), "a character that XML does not admit")
			}
			b.WriteString(raw[sub.pos : sub.pos+n])
			sub.pos += n
		}
	}
	return b.String(), nil
}
