package code

import (
	"slices"
	"strings"
	"unicode"

	"vetta/internal/model"
)

// PathIn is the path that a function requests before the call at a position decodes, "" where none is seen.
func PathIn(words *Words, fn *Func, call model.Pos) string {
	p := NewProgram(words)
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
		if made := p.caseRequested(e, fn); made != nil {
			all = append(all, made)
		}
		if made := p.segments(e, fn); made != nil {
			all = append(all, made)
		}
		for i, a := range e.Args[1:] {
			if p.isPath(a, fn) || p.isGivenAsPath(e, i, fn) {
				all = append(all, a)
			}
			for k := 0; a.Op == Dict && k+1 < len(a.Args); k += 2 { // request({ url: "/ports" })
				if v := p.pathUnder(a.Args[k], a.Args[k+1], fn); v != nil {
					all = append(all, v)
				}
			}
		}
	}
	for _, a := range e.Args {
		all = append(all, p.pathsIn(a, fn)...)
	}
	visitAll(e.Body, func(e *Expr) { all = append(all, p.pathsIn(e, fn)...) })
	return all
}

// segments is the path that a call puts together of its arguments, nil for none.
func (p *Program) segments(call *Expr, fn *Func) *Expr {
	if !slices.Contains(p.words.Segments, called(call)) || p.isOfNode(call.Args[0], fn) || !slices.ContainsFunc(call.Args[1:], func(a *Expr) bool { return a.Op == Text }) {
		return nil
	}
	made := &Expr{Op: Text, Text: strings.TrimSuffix(strings.Repeat("{}/", len(call.Args)-1), "/"), Args: call.Args[1:], Pos: call.Pos}
	for _, a := range made.Args {
		if a.Op == Lambda {
			return nil
		}
	}
	return made
}

// isOfNode says whether a method is one of a value of a parsed document.
func (p *Program) isOfNode(callee *Expr, fn *Func) bool {
	for callee.Op == Member && len(callee.Args) > 0 {
		of := callee.Args[0]
		if of.Op != Call {
			t := p.TypeOf(of, fn)
			return t != nil && slices.Contains(p.words.Nodes, model.SimpleName(t.Unwrapped().Name))
		}
		if slices.Contains(p.words.Nodes, called(of)) {
			return true
		}
		callee = of.Args[0]
	}
	return false
}

// caseRequested is the path of a constant of an enum by which a generic client is asked, as its class says it for each:
// provider.request(.sailings(port)) of a Provider<Ferries>, whose sailings have a path; nil for none.
func (p *Program) caseRequested(call *Expr, fn *Func) *Expr {
	callee := call.Args[0]
	if callee.Op != Member || len(callee.Args) == 0 || len(call.Args) < 2 {
		return nil
	}
	asked := call.Args[1]
	head := asked
	if asked.Op == Call {
		head = asked.Args[0]
	}
	if head.Op != Member || len(head.Args) > 0 {
		return nil
	}
	of := callee.Args[0]
	args := p.typeArgs(of, fn)
	for len(args) == 0 && of.Op == Member && len(of.Args) > 0 { // provider.rx
		of = of.Args[0]
		args = p.typeArgs(of, fn)
	}
	for _, t := range args {
		class := model.SimpleName(t.Name)
		for _, part := range p.classes(class) {
			if _, ok := part.Cases[head.Text]; !ok {
				continue
			}
			named := *head
			named.Args = []*Expr{{Op: Name, Text: class, Pos: head.Pos}}
			made := &named
			if asked.Op == Call {
				own := *asked
				own.Args = append([]*Expr{made}, asked.Args[1:]...)
				made = &own
			}
			for _, word := range p.words.Paths {
				if p.propIn(class, word, 0) != nil {
					return &Expr{Op: Member, Text: word, Args: []*Expr{made}, Pos: position(asked)}
				}
			}
		}
	}
	return nil
}

// typeArgs are the type arguments of the class of a value, of one that the source does not declare too: those that it
// is made with.
func (p *Program) typeArgs(e *Expr, fn *Func) []*model.Type {
	if t := p.typeOf(e, fn, nil, 0); t != nil {
		return t.Unwrapped().Args
	}
	e = Given(p.withoutSelf(e), fn)
	if prop := p.prop(e.Text, fn.Class); e.Op == Name && prop != nil && prop.Value != nil {
		e = prop.Value
	}
	if e.Op == Call {
		return e.Types
	}
	return nil
}

// pathUnder is the path that a key of a dictionary is given: { url: "/ports" }, { query: (id) => `ports/${id}` }; nil for
// none.
func (p *Program) pathUnder(key, v *Expr, fn *Func) *Expr {
	if key.Op != Text && key.Op != Name {
		return nil
	}
	isText := func(v *Expr) bool { return p.isPath(v, fn) || v.Op == Text && isPathText(pathOf(v.Text)+"/.") }
	switch {
	case p.isPathWord(key.Text) && isText(v):
		return v
	case !slices.Contains(p.words.PathMakers, key.Text) || v.Op != Lambda:
		return nil
	}
	made := result(&Func{Body: v.Body})
	if made == nil || isText(made) {
		return made
	}
	for k := 0; made.Op == Dict && k+1 < len(made.Args); k += 2 {
		if found := p.pathUnder(made.Args[k], made.Args[k+1], fn); found != nil {
			return found
		}
	}
	return nil
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
	return slices.Contains(p.words.Paths, strings.ToLower(strings.TrimLeft(name, "_"))) || name != "" && name == p.words.Raw
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
	case Choice:
		return len(e.Args) > 0 && slices.ContainsFunc(e.Args, func(a *Expr) bool { return p.isPath(a, fn) })
	case Name:
		prop := p.prop(e.Text, fn.Class)
		if prop != nil && prop.Value != nil {
			return isPathText(p.text(prop.Value, &Func{Class: prop.Class}, 0))
		}
		return p.isPathWord(e.Text) && (fn.param(e.Text) != nil || letIn(fn.Body, e.Text) != nil || prop != nil)
	case Member:
		if len(e.Args) == 0 || !p.isPathWord(e.Text) && len(p.classes(e.Args[0].Text)) == 0 { // or a constant of a class
			return false
		}
		if e.Args[0].Op == Name && (fn.param(e.Args[0].Text) != nil || slices.Contains(fn.Generics, e.Args[0].Text)) {
			return true
		}
		return isPathText(p.text(e, fn, 0))
	case Call:
		if name := p.ownGetter(e); p.isPathWord(strings.TrimPrefix(name, "get")) && p.isAbstract(name, fn.Class) {
			return true
		}
		return p.buildsPath(e, fn) && isPathText(p.text(e, fn, 0))
	}
	return false
}

// isGivenAsPath says whether an argument of a call is a text of one word that is given for a path: by its
// label, or the name of the parameter that it is for.
func (p *Program) isGivenAsPath(call *Expr, i int, in *Func) bool {
	a := call.Args[i+1]
	if a.Op != Text || !isPathText(pathOf(a.Text)+"/.") || strings.Contains(a.Text, ":") {
		return false
	}
	if label := call.Labels[i]; label != "" {
		return p.isPathWord(label)
	}
	if slices.Contains(p.words.Requests, requested(call)) && call.Args[1+slices.IndexFunc(call.Args[1:], func(e *Expr) bool { return e.Op == Text })] == a {
		return true
	}
	own := p.onlyFunc(call, in)
	if own == nil {
		return false
	}
	for k := range own.Params {
		if Argument(call, own, k) == a {
			return p.isPathWord(own.Params[k].Name)
		}
	}
	return false
}

// requested is the name of a call, or of the type of which it makes an instance.
func requested(call *Expr) string {
	if call.Type != nil {
		return model.SimpleName(call.Type.Name)
	}
	return called(call)
}

// isAbstract says whether a class leaves it to those that extend it what a method answers.
func (p *Program) isAbstract(name string, c *Class) bool {
	return c != nil && slices.ContainsFunc(p.funcs[name], func(fn *Func) bool {
		return fn.Class != nil && fn.Class.Name == c.Name && len(fn.Params) == 0 && len(fn.Body) == 0
	})
}

// buildsPath says whether a call may make a path of others: one of the app's own functions, or one of those
// that put paths together.
func (p *Program) buildsPath(e *Expr, in *Func) bool {
	name := called(e)
	return slices.Contains(p.words.Joins, name) || slices.Contains(p.words.Keeps, name) || p.onlyFunc(e, in) != nil
}

// onlyFunc is the one function of the app that a call may be of, nil for none or several.
func (p *Program) onlyFunc(e *Expr, in *Func) (one *Func) {
	s := site{call: e, in: in}
	for _, fn := range p.candidates(s) {
		if fn.Init || !p.mayCall(s, fn) {
			continue
		}
		if one != nil {
			return nil
		}
		one = fn
	}
	return one
}

// candidates are the functions that a call may be of by its name: of one on the instance itself those of
// the classes around it and of what they extend, and those of no class.
func (p *Program) candidates(s site) []*Func {
	name, callee := called(s.call), s.call.Args[0]
	if callee.Op != Name || callee.Text != name || s.in.Class == nil {
		return p.funcs[name]
	}
	all := p.funcsIn[ofClass{"", name}]
	seen := map[string]bool{}
	var of func(class string, depth int)
	of = func(class string, depth int) {
		if seen[class] || depth > maxWay {
			return
		}
		seen[class] = true
		all = append(all[:len(all):len(all)], p.funcsIn[ofClass{class, name}]...)
		for _, part := range p.Classes[class] {
			for _, super := range part.Supers {
				of(model.SimpleName(super.Name), depth+1)
			}
		}
	}
	for c := s.in.Class; c != nil; c = c.Outer {
		of(c.Name, 0)
	}
	return all
}

// isPathText says whether a string looks like the path of a request rather than a host, a message or a
// media type.
func isPathText(text string) bool {
	rest := pathOf(text)
	if slices.ContainsFunc(mediaTypes, func(t string) bool { return strings.HasPrefix(rest, t) }) || isDateForm(rest) {
		return false
	}
	return strings.Contains(rest, "/") && !strings.ContainsAny(rest, " \t\n") && strings.ContainsFunc(rest, func(r rune) bool { return r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' })
}

// isDateForm says whether a text is the form of a date, dd/MM/yyyy, rather than a path.
func isDateForm(text string) bool {
	letters := strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) {
			return r
		}
		return -1
	}, text)
	return strings.Contains(letters, "yy") && strings.Trim(letters, "dMyHhmsSfFtTzZKEaeG") == ""
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
	path := strings.ReplaceAll(pathOf(strings.TrimPrefix(p.text(e, in, 0), "{}")), "//", "/")
	if strings.Trim(path, "{}/") == "" {
		return ""
	}
	return path
}

// declaring is where the value of a property is evaluated: among the names of the class that declares it.
func declaring(prop *Prop, in *Func) *Func {
	if prop.Class == nil || prop.Class == in.Class {
		return in
	}
	return &Func{Class: prop.Class}
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
	case Choice: // the first that is one
		for _, a := range e.Args {
			if p.isPath(a, in) {
				return p.text(a, in, depth+1)
			}
		}
	case Name:
		if v := letIn(in.Body, e.Text); v != nil {
			return p.text(v, in, depth+1)
		}
		if prop := p.prop(e.Text, in.Class); prop != nil && prop.Value != nil {
			return p.text(prop.Value, declaring(prop, in), depth+1)
		}
		if all := p.props[e.Text]; len(all) == 1 && all[0].Static && all[0].Value != nil { // of what a function of another class answers
			return p.text(all[0].Value, declaring(all[0], in), depth+1)
		}
	case Member:
		if t := p.typeOfObject(e, in); t != nil {
			if v := p.memberOf(e.Args[0], in, t, e.Text); v.IsTold() {
				return p.text(v, in, depth+1)
			}
		}
		if of := e.Args; len(of) > 0 && of[0].Op == Name && p.isPathWord(e.Text) { // parts.url, where parts.path = …
			if v := p.pathGiven(in.Body, of[0].Text); v != nil {
				return p.text(v, in, depth+1)
			}
		}
		if len(e.Args) > 0 && e.Args[0].Op == Name {
			p.classes(e.Args[0].Text)
		}
		for _, prop := range p.props[e.Text] {
			if prop.Static && prop.Value != nil && len(e.Args) > 0 && prop.Class != nil && e.Args[0].Text == prop.Class.Name {
				return p.text(prop.Value, declaring(prop, in), depth+1)
			}
		}
	case Call:
		return p.textOfCall(e, in, depth)
	}
	return "{}"
}

// textOfCall is the path that a call makes.
func (p *Program) textOfCall(e *Expr, in *Func, depth int) string {
	name, callee := called(e), e.Args[0]
	var of *Expr // that it is called on
	if callee.Op == Member && len(callee.Args) > 0 {
		of = callee.Args[0]
	}
	joins := len(e.Args) > 1 && slices.Contains(p.words.Joins, name) && (e.Labels[0] == "" || slices.Contains(p.words.JoinLabels, e.Labels[0]))
	switch {
	case of != nil && joins:
		text := strings.TrimSuffix(p.text(of, in, depth+1), "/") + "/" + strings.TrimPrefix(p.text(e.Args[1], in, depth+1), "/")
		for i, more := range e.Args[2:] { // AppendPathSegments("ports", code)
			if e.Labels[i+1] == "" {
				text += "/" + strings.Trim(p.text(more, in, depth+1), "/")
			}
		}
		return text
	case of != nil && (slices.Contains(p.words.Keeps, name) || slices.Contains(p.words.Joins, name)):
		return p.text(of, in, depth+1)
	case len(e.Args) > 1 && slices.Contains(p.words.Texts, name):
		return p.text(e.Args[1], in, depth+1)
	}
	if of != nil && of.Op == Name {
		p.classes(of.Text)
	}
	if fn := p.onlyFunc(e, in); fn != nil {
		if made := result(fn); made != nil && made != e {
			return p.text(p.handed(made, site{call: e, in: in}, fn), in, depth+1)
		}
	}
	return "{}"
}

// pathGiven is what a member that holds a path is given of a value that some statements name, nil for
// nothing.
func (p *Program) pathGiven(all []Stmt, name string) (v *Expr) {
	for i := range all {
		s := &all[i]
		if s.Op == Assign && s.Of != nil && s.Of.Op == Name && s.Of.Text == name && p.isPathWord(s.Name) {
			v = s.Value
		} else if inner := p.pathGiven(s.Body, name); inner != nil {
			v = inner
		}
	}
	return v
}

// ownPath is the call of the method by which a class leaves it to those that extend it what is requested, nil where it
// has none: abstract fun path(): String.
func (p *Program) ownPath(c *Class) *Expr {
	for _, part := range p.Classes[c.Name] {
		for _, fn := range part.Funcs {
			if name := strings.TrimPrefix(fn.Name, "get"); len(fn.Params) == 0 && len(fn.Body) == 0 && !fn.Init && p.isPathWord(name) && p.isAbstract(fn.Name, c) {
				return &Expr{Op: Call, Args: []*Expr{{Op: Name, Text: fn.Name, Pos: fn.Pos}}, Pos: fn.Pos}
			}
		}
	}
	return nil
}
