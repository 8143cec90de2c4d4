package code

import (
	"slices"
	"strings"

	"vetta/internal/model"
)

// PathIn is the path that some statements request before the call at a position decodes, "" where none is
// seen.
func PathIn(words *Words, body []Stmt, call model.Pos) string {
	p, fn := NewProgram(words), &Func{Body: body}
	p.AddFunc(fn)
	if at, ok := p.at[call]; ok {
		return p.evaluate(p.pathIn(fn, at.call), fn)
	}
	return ""
}

// pathIn is the expression of the path that a function requests for a call of it: an argument that looks
// like one, of the call or of one that it is made on, else the last before it, else the first behind; nil
// where none is seen.
func (p *Program) pathIn(fn *Func, call *Expr) (found *Expr) {
	if own := p.pathsIn(call, fn); len(own) > 0 {
		return own[0]
	}
	var all []*Expr
	visitAll(fn.Body, func(e *Expr) { all = append(all, p.pathsIn(e, fn)...) })
	for _, e := range all {
		if found == nil || before(position(e), call.Pos) {
			found = e
		}
	}
	return found
}

// pathsIn are the arguments of calls in an expression that look like the path of a request.
func (p *Program) pathsIn(e *Expr, fn *Func) (all []*Expr) {
	if e == nil {
		return nil
	}
	if e.Op == Call {
		for _, a := range e.Args[1:] {
			if p.isPath(a, fn) {
				all = append(all, a)
			}
		}
	}
	for _, a := range e.Args {
		all = append(all, p.pathsIn(a, fn)...)
	}
	visitAll(e.Body, func(e *Expr) { all = append(all, p.pathsIn(e, fn)...) })
	return all
}

// position is where an expression begins, as far as that is kept.
func position(e *Expr) model.Pos {
	for e.Pos.Line == 0 && len(e.Args) > 0 {
		e = e.Args[0]
	}
	return e.Pos
}

func before(a, b model.Pos) bool { return a.Line < b.Line || a.Line == b.Line && a.Col < b.Col }

func visitAll(all []Stmt, visit func(*Expr)) {
	for i := range all {
		visit(all[i].Value)
		visitAll(all[i].Body, visit)
	}
}

func (p *Program) isPathWord(name string) bool {
	return slices.Contains(p.words.Paths, strings.ToLower(name)) || name != "" && name == p.words.Raw
}

// mediaTypes are what those begin with (RFC 6838, section 4.2).
var mediaTypes = []string{"application/", "text/", "image/", "audio/", "video/", "multipart/", "font/"}

// isPath says whether an argument looks like the path of a request.
func (p *Program) isPath(e *Expr, fn *Func) bool {
	switch e.Op {
	case Text:
		return isPathText(e.Text) || strings.Contains(e.Text, "{}") && slices.ContainsFunc(e.Args, func(a *Expr) bool { return p.isPath(a, fn) })
	case Plus:
		return p.isPath(e.Args[0], fn) || p.isPath(e.Args[1], fn)
	case Name:
		prop := p.prop(e.Text, fn.Class)
		if prop != nil && prop.Value != nil {
			return isPathText(p.text(prop.Value, &Func{Class: prop.Class}, 0))
		}
		return p.isPathWord(e.Text) && (fn.param(e.Text) != nil || letIn(fn.Body, e.Text) != nil || prop != nil)
	case Member:
		if len(e.Args) == 0 || !p.isPathWord(e.Text) {
			return false
		}
		if e.Args[0].Op == Name && fn.param(e.Args[0].Text) != nil {
			return true
		}
		return isPathText(p.text(e, fn, 0))
	}
	return false
}

// isPathText says whether a string looks like the path of a request rather than a host, a message or a
// media type.
func isPathText(text string) bool {
	rest := pathOf(text)
	if slices.ContainsFunc(mediaTypes, func(t string) bool { return strings.HasPrefix(rest, t) }) {
		return false
	}
	return strings.Contains(rest, "/") && !strings.ContainsAny(rest, " \t\n") && strings.ContainsFunc(rest, func(r rune) bool { return r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' })
}

// pathOf is a URL without its scheme, host, query and slashes around it.
func pathOf(text string) string {
	if _, rest, ok := strings.Cut(text, "://"); ok {
		_, text, _ = strings.Cut(rest, "/")
	}
	text, _, _ = strings.Cut(text, "?")
	return strings.Trim(text, "/")
}

// evaluate is the path that an expression makes, with {} for what is not known; "" where nothing of it is.
func (p *Program) evaluate(e *Expr, in *Func) string {
	if e == nil {
		return ""
	}
	path := pathOf(strings.TrimPrefix(p.text(e, in, 0), "{}"))
	if strings.Trim(path, "{}/") == "" {
		return ""
	}
	return path
}

func (p *Program) text(e *Expr, in *Func, depth int) string {
	if depth > maxWay {
		return "{}"
	}
	switch e.Op {
	case Text:
		text := e.Text
		for _, a := range e.Args { // what is not known stays {}
			text = strings.Replace(text, "{}", strings.ReplaceAll(p.text(a, in, depth+1), "{}", "\x00"), 1)
		}
		return strings.ReplaceAll(text, "\x00", "{}")
	case Plus:
		return p.text(e.Args[0], in, depth+1) + p.text(e.Args[1], in, depth+1)
	case Name:
		if v := letIn(in.Body, e.Text); v != nil {
			return p.text(v, in, depth+1)
		}
		if prop := p.prop(e.Text, in.Class); prop != nil && prop.Value != nil {
			return p.text(prop.Value, in, depth+1)
		}
	case Member:
		if t := p.typeOfObject(e, in); t != nil {
			if v := p.memberOf(e.Args[0], in, t, e.Text); v.IsTold() {
				return p.text(v, in, depth+1)
			}
		}
		for _, prop := range p.props[e.Text] {
			if prop.Static && prop.Value != nil && len(e.Args) > 0 && prop.Class != nil && e.Args[0].Text == prop.Class.Name {
				return p.text(prop.Value, in, depth+1)
			}
		}
	case Call:
		if len(e.Args) > 1 && slices.Contains(p.words.Texts, called(e)) {
			return p.text(e.Args[1], in, depth+1)
		}
	}
	return "{}"
}
