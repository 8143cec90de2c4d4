package typescript

import (
	"path"
	"regexp"
	"strings"
)

// isScript says whether a file is JavaScript, whose types stand in its comments.
func isScript(file string) bool {
	switch strings.ToLower(path.Ext(file)) {
	case ".js", ".jsx", ".mjs", ".cjs":
		return true
	}
	return false
}

// hasTypes says whether the comments of a file may declare types.
func hasTypes(src string) bool {
	return strings.Contains(src, "@typedef") || strings.Contains(src, "@type {") || strings.Contains(src, "@returns {") || strings.Contains(src, "@return {")
}

// doc is a comment that stands before a token.
type doc struct {
	start int32 // of its text in the file
	text  string
}

// tag is a part of a comment: @name {type} rest.
type tag struct {
	name      string
	typ, rest string
	at        int32 // where the type stands in the file
	restAt    int32
}

var tagName = regexp.MustCompile(`@(\w+)`)

// tags are the parts of a comment.
func (d doc) tags() (all []tag) {
	found := tagName.FindAllStringSubmatchIndex(d.text, -1)
	for _, m := range found {
		before := d.text[:m[0]]
		if line := before[strings.LastIndexByte(before, '\n')+1:]; strings.Trim(line, " \t*/") != "" {
			continue // an @ inside of a line
		}
		t := tag{name: d.text[m[2]:m[3]]}
		i := m[1]
		for i < len(d.text) && (d.text[i] == ' ' || d.text[i] == '\t') {
			i++
		}
		if i < len(d.text) && d.text[i] == '{' {
			end := closingBrace(d.text, i)
			t.typ, t.at = d.text[i+1:end], d.start+int32(i+1)
			i = min(end+1, len(d.text))
		}
		for i < len(d.text) && (d.text[i] == ' ' || d.text[i] == '\t') {
			i++
		}
		end := len(d.text)
		if nl := strings.IndexByte(d.text[i:], '\n'); nl >= 0 {
			end = i + nl
		}
		t.rest, t.restAt = strings.TrimRight(strings.TrimSuffix(strings.TrimSpace(d.text[i:end]), "*/"), " *"), d.start+int32(i)
		all = append(all, t)
	}
	return all
}

// closingBrace is where the brace at i is closed, the end where it is not.
func closingBrace(s string, i int) int {
	open := 0
	for ; i < len(s); i++ {
		switch s[i] {
		case '{':
			open++
		case '}':
			if open--; open == 0 {
				return i
			}
		}
	}
	return len(s) - 1
}

// docType reads a type as comments write it.
func (p *parser) docType(text string, at int32) *node {
	// Stars at the heads of lines, and the forms that JSDoc has and the language has not; lengths stay, for places.
	plain := starred.ReplaceAllStringFunc(text, func(s string) string { return strings.ReplaceAll(s, "*", " ") })
	trimmed := strings.TrimSpace(plain)
	nullable := strings.HasPrefix(trimmed, "?") && len(trimmed) > 1
	if nullable || strings.HasPrefix(trimmed, "!") {
		plain = strings.Replace(plain, trimmed[:1], " ", 1)
	}
	optional := strings.HasSuffix(strings.TrimRight(plain, " "), "=")
	if optional {
		i := strings.LastIndexByte(plain, '=')
		plain = plain[:i] + " " + plain[i+1:]
	}
	plain = strings.ReplaceAll(strings.ReplaceAll(plain, "Object.<", "Record <"), ".<", " <")
	plain = strings.ReplaceAll(plain, "Object<", "Record<")
	all := lex(plain, false)
	for i := range all {
		all[i].start += at
		all[i].end += at
		all[i].line = false
	}
	sub := p.sub(all)
	n := sub.typ()
	if sub.bad {
		return &node{op: nLost, start: at, end: at + int32(len(text))}
	}
	if n.op == nRef && (n.name == "Object" || n.name == "object") && len(n.args) == 0 {
		n.name = "any"
	}
	if nullable {
		n = &node{op: nUnion, args: []*node{n, {op: nRef, name: "null"}}, start: n.start, end: n.end}
	}
	return n
}

var starred = regexp.MustCompile(`\n[ \t]*\*`)

// typedefs makes declarations of those in a comment.
func (p *parser) typedefs(d doc) {
	var open *decl // of an object whose properties follow
	var names []*generic
	for _, t := range d.tags() {
		switch t.name {
		case "template":
			for _, name := range strings.FieldsFunc(t.rest, func(r rune) bool { return r == ',' || r == ' ' }) {
				names = append(names, &generic{name: name})
			}
		case "typedef", "callback":
			name, at := t.rest, t.restAt
			if i := strings.IndexAny(name, " \t"); i >= 0 {
				name = name[:i]
			}
			if name == "" || t.name == "callback" {
				open = nil
				continue
			}
			dcl := &decl{what: isAlias, name: name, start: at, end: at + int32(len(name)), generics: names}
			names = nil
			plain := strings.TrimSpace(t.typ)
			if plain == "" || plain == "Object" || plain == "object" {
				dcl.typ = &node{op: nObject, start: at, end: at + int32(len(name))}
				open = dcl
			} else {
				dcl.typ = p.docType(t.typ, t.at)
				open = nil
			}
			p.keep(dcl)
			p.exported(name)
		case "property", "prop":
			if open == nil {
				continue
			}
			name, at := t.rest, t.restAt
			optional := false
			if strings.HasPrefix(name, "[") {
				optional = true
				end := strings.IndexByte(name, ']')
				if end < 0 {
					end = len(name)
				}
				name = name[1:end]
				at++
				name, _, _ = strings.Cut(name, "=")
			} else if i := strings.IndexAny(name, " \t"); i >= 0 {
				name = name[:i]
			}
			m := &member{name: strings.TrimSpace(name), optional: optional || strings.HasSuffix(strings.TrimSpace(t.typ), "="), start: at, end: at + int32(len(name)), typ: p.docType(t.typ, t.at)}
			p.addProperty(open.typ, m)
		}
	}
}

// addProperty adds a property to an object type, or to that of one of its properties: from.code.
func (p *parser) addProperty(of *node, m *member) {
	outer, inner, nested := strings.Cut(m.name, ".")
	if !nested {
		of.members = append(of.members, m)
		return
	}
	for _, known := range of.members {
		if known.name != strings.TrimSuffix(outer, "[]") {
			continue
		}
		own := *m
		own.name = inner
		at := known.typ
		if at.op == nArray {
			at = at.args[0]
		}
		if at.op == nRef { // {Object} from
			*at = node{op: nObject, start: at.start, end: at.end}
		}
		if at.op == nObject {
			p.addProperty(at, &own)
		}
		return
	}
}

// docAt is the type that a tag before a token has, nil for none.
func (p *parser) docAt(start int32, names ...string) *node {
	d, ok := p.u.docs[start]
	if !ok {
		return nil
	}
	for _, t := range d.tags() {
		for _, name := range names {
			if t.name == name && t.typ != "" {
				return p.docType(t.typ, t.at)
			}
		}
	}
	return nil
}

// scripts is a file of several languages with all but its scripts blanked out, so that places stay.
func scripts(src string) string {
	out := []byte(src)
	blank := func(from, to int) {
		for i := from; i < to; i++ {
			if out[i] != '\n' && out[i] != '\r' {
				out[i] = ' '
			}
		}
	}
	from := 0
	for _, m := range scriptTag.FindAllStringIndex(src, -1) {
		if m[0] < from {
			continue
		}
		end := strings.Index(src[m[1]:], "</script")
		if end < 0 {
			break
		}
		blank(from, m[1])
		from = m[1] + end
	}
	blank(from, len(out))
	return string(out)
}

var scriptTag = regexp.MustCompile(`(?i)<script\b[^>]*>`)
