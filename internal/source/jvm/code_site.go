package jvm

import (
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// Much code that reads org.json makes its objects where the text arrives: an activity or a parser
// goes through the document and makes an instance of a class that knows nothing of JSON. The
// statements around such a call of a constructor are followed as a factory of the class would be.

// site is a place where code outside of a class makes an instance of it of a part of a document.
type site struct {
	file   *File
	class  *Class // around it, nil outside of classes
	at     int    // the token of the constructor's name
	node   string // what the part of the document is called there, "this" in an extension of it
	from   int    // the statements that make the instance
	to     int
	why    string // why they are not followed, "" where they may be
	called string // the function that they stand in
	// whole says that the part is the document itself; behind that its name comes among the
	// statements; swallowed that its errors are dropped there.
	whole, behind, swallowed bool
}

// sites finds for each class that code elsewhere makes by hand the first place where it does.
func (p *project) sites() map[*Class]*site {
	found := map[*Class]*site{}
	for _, f := range p.files {
		if !slices.ContainsFunc(f.Hits, func(i int32) bool { return isParsed(f.Word(int(i))) }) {
			continue
		}
		var swallowed map[int]bool
		for i := range f.Len() {
			c := p.madeAt(f, i)
			if c == nil || found[c] != nil || byHand(c) != nil {
				continue
			}
			s := p.siteAt(f, i)
			if s == nil {
				continue
			}
			if swallowed == nil {
				swallowed = caught(f)
			}
			s.swallowed = swallowed[i]
			found[c] = s
		}
	}
	return found
}

// madeAt is the class whose constructor is called with the name at a token, nil where that is no
// such call, or of no class that holds data.
func (p *project) madeAt(f *File, i int) *Class {
	if f.KindAt(i) != scan.Ident || !f.Is(i+1, "(") || f.Word(i)[0] < 'A' || f.Word(i)[0] > 'Z' || isParsed(f.Word(i)) {
		return nil
	}
	start := i
	for start > 1 && f.Is(start-1, ".") && f.KindAt(start-2) == scan.Ident {
		start -= 2
	}
	switch {
	case f.Language == "java" && !f.Is(start-1, "new"):
		return nil
	case f.Language == "kotlin" && (f.Is(start-1, "fun") || f.Is(start-1, "class") || f.Is(start-1, ":") || f.Is(start-1, "@") || f.Is(start-1, ".")):
		return nil
	}
	c := p.find(f, p.classAt(f, i), strings.ReplaceAll(f.Text(start, i+1), " ", ""))
	if c == nil || !c.isModel() || c.Kind != "class" && c.Kind != "record" || c.Abstract || !holdsData(c) {
		return nil
	}
	return c
}

// siteAt finds the statements that lead to the call of a constructor at a token, from where the part of
// the document that they read has a name; nil where they read none.
func (p *project) siteAt(f *File, at int) *site {
	m := functionAround(f, at)
	if m == nil {
		return nil
	}
	s := &site{file: f, class: p.classAt(f, at), at: at, called: m.Name}
	looped := false
	for _, open := range append(bracesAround(f, m.Body[0], at), m.Body[0]-1) {
		from, to := open+1, m.Body[1]
		if open >= m.Body[0] {
			to = f.Partner(open)
		}
		if open < m.Body[0] {
			s.node = parsedParameter(m)
			s.from = from
		}
		if s.node == "" {
			s.node, s.from, s.whole = partNamed(f, from, min(at, to))
		}
		if s.to = to; s.node != "" {
			break
		}
		looped = looped || isLoop(f, open)
	}
	if s.node == "" { // the text is parsed behind it, in a try block say
		s.node = documentIn(f, m.Body[0], m.Body[1])
		s.from, s.to, s.whole, s.behind = m.Body[0], m.Body[1], true, true
	}
	switch {
	case s.node == "" || !readsPart(f, s.node, s.from, s.to):
		return nil
	case looped:
		s.why = "it is made in a loop over parts that have no name"
	}
	return s
}

// bracesAround are the braces that are open at a token, the innermost first, as far as from another.
func bracesAround(f *File, from, at int) (open []int) {
	for i := at; i >= from; i-- {
		if f.Is(i, "{") && f.Partner(i) > at {
			open = append(open, i)
		}
	}
	return open
}

// isLoop says whether a brace opens what runs for each of several values.
func isLoop(f *File, open int) bool {
	i := open - 1
	if f.Is(i, ")") {
		i = f.Partner(i) - 1
	}
	switch f.Word(i) {
	case "for", "while", "do", "map", "forEach", "mapTo", "mapNotNull", "repeat", "List", "MutableList", "Array":
		return true
	}
	return false
}

// parsedParameter is the name of the one JSONObject that a function is given, "this" where it extends
// it; nothing where it is given none or several.
func parsedParameter(m *model.Method) (name string) {
	if m.Receiver == "JSONObject" {
		return "this"
	}
	for _, param := range m.Params {
		if param.Type != nil && last(param.Type.Unwrapped().Name) == "JSONObject" {
			if name != "" {
				return ""
			}
			name = param.Name
		}
	}
	return name
}

// partNamed finds the first declaration among statements that gives a name to the document, made of its
// text, or to an element of a list in it: val o = list.getJSONObject(i). after is the token behind it.
func partNamed(f *File, from, to int) (name string, after int, whole bool) {
	for i := from; i < to; i++ {
		if m := f.Partner(i); m > i {
			i = m
			continue
		}
		if !f.Is(i, "=") || f.Is(i+1, "=") || f.KindAt(i-1) != scan.Ident {
			continue
		}
		named := i - 1
		if f.Is(named-1, ":") { // val o: JSONObject = …
			named -= 2
		}
		at := i + 1
		if f.Is(at, "new") {
			at++
		}
		if f.Is(at, "JSONObject") && f.Is(at+1, "(") && f.Partner(at+1) > at+2 {
			return f.Ident(named), behindStatement(f, f.Partner(at+1)+1), true
		}
		for f.KindAt(at) == scan.Ident && (f.Is(at+1, ".") || f.Is(at+1, "?") && f.Is(at+2, ".")) {
			at += 2
			if f.Is(at, ".") {
				at++
			}
		}
		if (f.Is(at, "getJSONObject") || f.Is(at, "optJSONObject")) && f.Is(at+1, "(") && f.KindAt(at+2) != scan.String && f.Partner(at+1) == at+3 {
			if end := behindStatement(f, at+4); end > 0 {
				return f.Ident(named), end, false
			}
		}
	}
	return "", 0, false
}

// documentIn is what statements call the document that they make of its text, wherever they do; nothing
// where they make none.
func documentIn(f *File, from, to int) string {
	for i := from; i < to; i++ {
		at := i + 1
		if f.Is(at, "new") {
			at++
		}
		if f.Is(i, "=") && f.Is(at, "JSONObject") && f.Is(at+1, "(") && f.Partner(at+1) > at+2 {
			if f.Is(i-2, ":") {
				return f.Ident(i - 3)
			}
			return f.Ident(i - 1)
		}
	}
	return ""
}

// behindStatement is the token behind a statement that ends at one, 0 where it goes on.
func behindStatement(f *File, end int) int {
	switch {
	case f.Is(end, ";"):
		return end + 1
	case f.Language == "kotlin" && !f.Is(end, "?") && !f.Is(end, "."):
		return end
	}
	return 0
}

// readsPart says whether statements ask a part of the document for values.
func readsPart(f *File, node string, from, to int) bool {
	for i := from; i < to; i++ {
		dot := i + 1
		if f.Is(dot, "?") {
			dot++
		}
		asks := strings.HasPrefix(f.Word(dot+1), "get") || strings.HasPrefix(f.Word(dot+1), "opt")
		if f.Ident(i) == node && f.Is(dot, ".") && asks {
			return true
		}
		if node == "this" && (strings.HasPrefix(f.Word(i), "get") || strings.HasPrefix(f.Word(i), "opt")) && f.Is(i+1, "(") && !f.Is(i-1, ".") {
			return true
		}
	}
	return false
}

// followSite makes the steps of a class from the statements that make it elsewhere; ok is false where
// it cannot.
func (p *project) followSite(c *Class, s *site) (steps []model.Step, why string, at model.Pos, ok bool) {
	if s.why != "" {
		return nil, s.why, s.file.Where(s.at), false
	}
	w := &follower{p: p, of: c, c: s.class, f: s.file, filled: map[string]bool{}, elsewhere: true}
	if w.c == nil {
		w.c = s.file.NewClass(Class{File: s.file})
	}
	env := map[string]*value{}
	if !s.behind {
		env[s.node] = &value{isNode: true}
	}
	steps = w.statements(&scan.Cursor{F: s.file.File, I: s.from}, s.to, env)
	if w.why == "" && !readsKeys(steps) {
		w.why, w.whyAt = "what it is made of", s.file.Where(s.at)
	}
	return w.withMentioned(steps), w.why, w.whyAt, w.why == ""
}

func readsKeys(steps []model.Step) bool {
	found := false
	model.WalkSteps(steps, func(field string, e *model.Expr) { found = found || field != "" && e.Op == model.OpAt })
	return found
}

// handedOn follows a statement outside of the class that does something with the instance when it is
// made, which ends what there is to follow: ports.add(port), list += Port(…), or the value of a
// lambda. ok is false where the statement is none.
func (w *follower) handedOn(c *scan.Cursor, end int, env map[string]*value) (steps []model.Step, ok bool) {
	if !w.elsewhere {
		return nil, false
	}
	for i := c.I; i < end; i++ {
		start := i
		for f := c.F; f.Is(start-1, ".") && f.KindAt(start-2) == scan.Ident; {
			start -= 2
		}
		if c.F.Is(start-1, "new") {
			start--
		}
		first := start == c.I
		given := c.F.Is(start-1, "(") || c.F.Is(start-1, ",") || c.F.Is(start-1, "=") && !c.F.Is(start-2, "=")
		if !first && !given {
			continue
		}
		v := env[c.F.Ident(i)]
		stop := i + 1
		switch {
		case v != nil && (v.instance || v.expr != nil && v.expr.Op == model.OpNew && v.expr.Type == nil):
			if first && end != i+1 {
				continue
			}
		case w.p.madeAt(w.f, i) == w.of:
			stop = c.F.Partner(i+1) + 1
			for c.F.Is(stop, ".") && scopes[c.F.Word(stop+1)] && c.F.Is(stop+2, "{") { // Port().apply { … }
				stop = c.F.Partner(stop+2) + 1
			}
		default:
			continue
		}
		if stop != end && !c.F.Is(stop, ")") && !c.F.Is(stop, ",") || isDeclaration(c.F, c.I, start) {
			continue
		}
		if v == nil || stop > i+1 {
			v = w.expression(&scan.Cursor{F: c.F, I: start}, stop, env)
		}
		if v == nil {
			return nil, true
		}
		steps = w.take()
		if !v.instance {
			steps = append(steps, w.made(v, c.Where())...)
		}
		return append(steps, model.Step{Return: true, Pos: c.Where()}), true
	}
	return nil, false
}

// scopes are the functions of Kotlin that answer what they are called on.
var scopes = map[string]bool{"apply": true, "also": true}

// isDeclaration says whether a statement gives a new name to what stands at a token: val p = …,
// Port p = ….
func isDeclaration(f *scan.File, from, at int) bool {
	if !f.Is(at-1, "=") || f.KindAt(at-2) != scan.Ident {
		return false
	}
	return f.Is(from, "val") || f.Is(from, "var") || f.Is(from, "final") || f.KindAt(at-3) == scan.Ident || f.Is(at-3, ">")
}
