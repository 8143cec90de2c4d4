package sharp

import (
	"slices"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/markup"
)

// selected are the nodes that an XPath 1.0 expression, the first argument, selects from a node; the second may be the
// prefixes. Of the language the abbreviated syntax is followed, with the predicates that apps have.
func (m *Machine) selected(n *xmlNode, args []Value, x *code.Expr) ([]*xmlNode, error) {
	prefixes := map[string]string{}
	if len(args) > 1 {
		if p, ok := args[1].Ref.(*xmlPrefixes); ok {
			prefixes = p.of
		}
	}
	text, ok := textAt(args, 0)
	if !ok {
		return nil, unfollowed("a path", x.Pos)
	}
	p := &xpath{prefixes: prefixes}
	var out []*xmlNode
	for _, one := range splitPath(text, '|') {
		found, ok := p.path(strings.TrimSpace(one), n)
		if !ok {
			if p.undeclared {
				return nil, m.throw("XPathException", "Namespace Manager or XsltContext needed. This query has a prefix, variable, or user-defined function.")
			}
			return nil, unfollowed("the path "+text, x.Pos)
		}
		for _, f := range found {
			if !slices.ContainsFunc(out, func(o *xmlNode) bool { return o.sameAs(f) }) {
				out = append(out, f)
			}
		}
	}
	return out, nil
}

type xpath struct {
	prefixes   map[string]string
	undeclared bool
}

// splitPath cuts a text at a mark that stands outside of brackets and quotes.
func splitPath(text string, at byte) (parts []string) {
	for {
		a, b, found := cutWord(text, string(at))
		if !found {
			return append(parts, text)
		}
		parts, text = append(parts, a), b
	}
}

// path follows a location path.
func (p *xpath) path(text string, from *xmlNode) ([]*xmlNode, bool) {
	now := []*xmlNode{from}
	if strings.HasPrefix(text, "/") {
		now = []*xmlNode{{doc: from.doc, dom: from.dom}}
		if text = text[1:]; text == "" {
			return now, true
		}
		if strings.HasPrefix(text, "/") {
			text = "\x00" + text
		}
	}
	deep := false
	for i, part := range splitPath(text, '/') {
		if part == "" || part == "\x00" { // of //
			if i == 0 && part == "" {
				return nil, false
			}
			deep = true
			continue
		}
		var next []*xmlNode
		for _, n := range now {
			found, ok := p.step(part, n, deep)
			if !ok {
				return nil, false
			}
			for _, f := range found {
				if !slices.ContainsFunc(next, func(o *xmlNode) bool { return o.sameAs(f) }) {
					next = append(next, f)
				}
			}
		}
		now, deep = next, false
	}
	return now, true
}

// step takes one step; deep says that it may be taken from any descendant.
func (p *xpath) step(part string, n *xmlNode, deep bool) ([]*xmlNode, bool) {
	test, rest, _ := strings.Cut(part, "[")
	test = strings.TrimSpace(test)
	var predicates []string
	if rest != "" || strings.HasSuffix(part, "[") {
		for _, one := range strings.Split(strings.TrimSuffix(strings.TrimSpace(rest), "]"), "][") {
			predicates = append(predicates, strings.TrimSpace(one))
		}
	}
	from := []*xmlNode{n}
	if deep {
		from = nil
		if n.e == nil || n.a == nil {
			from = append(from, n)
			for _, e := range n.descendants(false) {
				from = append(from, &xmlNode{doc: n.doc, e: e, dom: n.dom})
			}
		}
	}
	var out []*xmlNode
	for _, f := range from {
		found, ok := p.tested(test, f)
		if !ok {
			return nil, false
		}
		for _, one := range predicates {
			var kept []*xmlNode
			for i, c := range found {
				yes, ok := p.holds(one, c, i+1, len(found))
				if !ok {
					return nil, false
				}
				if yes {
					kept = append(kept, c)
				}
			}
			found = kept
		}
		out = append(out, found...)
	}
	return out, true
}

// tested are the nodes that a step without predicates leads to.
func (p *xpath) tested(test string, n *xmlNode) (out []*xmlNode, ok bool) {
	element := func(e *markup.Element) *xmlNode { return &xmlNode{doc: n.doc, e: e, dom: n.dom} }
	test = strings.TrimPrefix(test, "child::")
	test = strings.Replace(test, "attribute::", "@", 1)
	switch {
	case test == ".":
		return []*xmlNode{n}, true
	case test == "..", test == "parent::node()":
		switch {
		case n.a != nil || n.n != nil:
			out = append(out, element(n.e))
		case n.e != nil && n.e.Parent != nil:
			out = append(out, element(n.e.Parent))
		case n.e != nil:
			out = append(out, &xmlNode{doc: n.doc, dom: n.dom})
		}
		return out, true
	case test == "text()":
		if n.e == nil || n.a != nil || n.n != nil {
			return nil, true
		}
		for i := range n.e.Nodes {
			if c := &n.e.Nodes[i]; (c.Kind == markup.TextNode || c.Kind == markup.CDataNode) && !c.Blank {
				out = append(out, &xmlNode{doc: n.doc, e: n.e, n: c, dom: n.dom})
			}
		}
		return out, true
	case test == "node()":
		for _, e := range n.elements() {
			out = append(out, element(e))
		}
		return out, true
	case strings.HasPrefix(test, "@"):
		if n.e == nil || n.a != nil || n.n != nil {
			return nil, true
		}
		name, ok := p.name(test[1:])
		for i := range n.e.Attrs {
			if a := &n.e.Attrs[i]; test == "@*" || a.Name == name {
				out = append(out, &xmlNode{doc: n.doc, e: n.e, a: a, dom: n.dom})
			}
		}
		return out, ok
	case strings.Contains(test, "::") || strings.ContainsAny(test, "()"):
		return nil, false
	}
	if n.a != nil || n.n != nil {
		return nil, true
	}
	name, ok := p.name(test)
	if !ok {
		return nil, false
	}
	for _, e := range n.elements() {
		if test == "*" || e.Name == name {
			out = append(out, element(e))
		}
	}
	return out, true
}

func (p *xpath) name(text string) (markup.Name, bool) {
	prefix, local, colon := strings.Cut(text, ":")
	if !colon {
		return markup.Name{Local: text}, text != ""
	}
	space, ok := p.prefixes[prefix]
	p.undeclared = p.undeclared || !ok
	return markup.Name{Space: space, Local: local}, ok
}

// holds says whether a predicate is true of a node.
func (p *xpath) holds(text string, n *xmlNode, position, size int) (yes, ok bool) {
	for _, word := range []string{" or ", " and "} {
		if a, b, found := cutWord(text, word); found {
			x, ok1 := p.holds(a, n, position, size)
			y, ok2 := p.holds(b, n, position, size)
			if word == " or " {
				return x || y, ok1 && ok2
			}
			return x && y, ok1 && ok2
		}
	}
	text = strings.TrimSpace(text)
	if inner, found := call(text, "not"); found {
		yes, ok := p.holds(inner, n, position, size)
		return !yes, ok
	}
	for _, name := range []string{"contains", "starts-with"} {
		if inner, found := call(text, name); found {
			args := splitPath(inner, ',')
			if len(args) != 2 {
				return false, false
			}
			a, ok1 := p.text(args[0], n, position, size)
			b, ok2 := p.text(args[1], n, position, size)
			if name == "contains" {
				return strings.Contains(a, b), ok1 && ok2
			}
			return strings.HasPrefix(a, b), ok1 && ok2
		}
	}
	for _, op := range []string{"!=", "<=", ">=", "=", "<", ">"} {
		a, b, found := cutWord(text, op)
		if !found {
			continue
		}
		x, ok1 := p.text(a, n, position, size)
		y, ok2 := p.text(b, n, position, size)
		if !ok1 || !ok2 {
			return false, false
		}
		if (op == "=" || op == "!=") && !p.there(a, n) {
			return false, true
		}
		i, e1 := strconv.ParseFloat(strings.TrimSpace(x), 64)
		j, e2 := strconv.ParseFloat(strings.TrimSpace(y), 64)
		numbers := e1 == nil && e2 == nil
		switch op {
		case "=":
			return x == y || numbers && i == j, true
		case "!=":
			return x != y && !(numbers && i == j), true
		case "<":
			return numbers && i < j, true
		case ">":
			return numbers && i > j, true
		case "<=":
			return numbers && i <= j, true
		}
		return numbers && i >= j, true
	}
	if at, err := strconv.Atoi(text); err == nil {
		return at == position, true
	}
	if text == "last()" {
		return position == size, true
	}
	found, ok := p.path(text, n)
	return len(found) > 0, ok
}

// there says whether a path in a predicate leads anywhere; what is no path is there.
func (p *xpath) there(text string, n *xmlNode) bool {
	text = strings.TrimSpace(text)
	if text == "" || strings.ContainsAny(text[:1], `'"0123456789`) || strings.HasSuffix(text, ")") && text != "text()" && !strings.HasSuffix(text, "/text()") {
		return true
	}
	found, _ := p.path(text, n)
	return len(found) > 0
}

// text is the value of an operand.
func (p *xpath) text(text string, n *xmlNode, position, size int) (string, bool) {
	text = strings.TrimSpace(text)
	if len(text) > 1 && (text[0] == '\'' || text[0] == '"') && text[len(text)-1] == text[0] {
		return text[1 : len(text)-1], true
	}
	if _, err := strconv.ParseFloat(text, 64); err == nil {
		return text, true
	}
	switch text {
	case "position()":
		return strconv.Itoa(position), true
	case "last()":
		return strconv.Itoa(size), true
	case "local-name()":
		return n.nameOf("LocalName"), true
	case "name()":
		return n.nameOf("Name"), true
	case "normalize-space()":
		return strings.Join(strings.Fields(n.value()), " "), true
	}
	if inner, found := call(text, "normalize-space"); found {
		s, ok := p.text(inner, n, position, size)
		return strings.Join(strings.Fields(s), " "), ok
	}
	if inner, found := call(text, "count"); found {
		all, ok := p.path(inner, n)
		return strconv.Itoa(len(all)), ok
	}
	found, ok := p.path(text, n)
	if len(found) == 0 {
		return "", ok
	}
	return found[0].value(), ok
}

// call is what stands in the parentheses of a function.
func call(text, name string) (inner string, ok bool) {
	inner, ok = strings.CutPrefix(text, name+"(")
	if !ok || !strings.HasSuffix(inner, ")") {
		return "", false
	}
	return inner[:len(inner)-1], true
}

// cutWord cuts at the first of a word outside of brackets and quotes.
func cutWord(text, word string) (a, b string, found bool) {
	depth := 0
	quote := byte(0)
	for i := 0; i < len(text); i++ {
		c := text[i]
		switch {
		case quote != 0:
			if c == quote {
				quote = 0
			}
		case c == '\'' || c == '"':
			quote = c
		case c == '[' || c == '(':
			depth++
		case c == ']' || c == ')':
			depth--
		case depth == 0 && strings.HasPrefix(text[i:], word):
			return text[:i], text[i+len(word):], true
		}
	}
	return "", "", false
}
