package code

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"vetta/internal/model"
)

// typeOf is the type of an expression in the code of a function, nil where it is not followed. wanted is
// the type that it is handed to, which .name is looked for in; nil where that is not known.
func (p *Program) typeOf(e *Expr, in *Func, wanted *model.Type, depth int) *model.Type {
	if depth > maxWay {
		return nil
	}
	switch e.Op {
	case As, Lambda: // of a closure, what it takes
		return e.Type
	case Name:
		if e.Text == "self" || e.Text == "this" {
			return classType(in.Class)
		}
		for i := range in.Params {
			if in.Params[i].Name == e.Text {
				return in.Params[i].Type
			}
		}
		if v := letIn(in.Body, e.Text); v != nil {
			return p.typeOf(v, in, nil, depth+1)
		}
		if prop := p.prop(e.Text, in.Class); prop != nil {
			return p.typeOfProp(prop, depth+1)
		}
		if len(p.Classes[e.Text]) > 0 {
			return &model.Type{Kind: model.Named, Name: e.Text}
		}
	case Member:
		class := ""
		if len(e.Args) == 0 {
			if wanted != nil {
				class = last(wanted.Unwrapped().Name)
			}
		} else if t := p.typeOf(e.Args[0], in, nil, depth+1); t != nil {
			class = last(t.Unwrapped().Name)
		}
		for _, prop := range p.props[e.Text] {
			if prop.Class != nil && prop.Class.Name == class {
				return p.typeOfProp(prop, depth+1)
			}
		}
		for _, c := range p.Classes[class] {
			if _, ok := c.Cases[e.Text]; ok {
				return classType(c)
			}
		}
		if (e.Text == "shared" || e.Text == "default" || e.Text == "INSTANCE") && class != "" {
			return &model.Type{Kind: model.Named, Name: class}
		}
	case Call:
		if len(e.Args[0].Args) == 0 && e.Args[0].Op == Name && len(p.Classes[e.Args[0].Text]) > 0 {
			return &model.Type{Kind: model.Named, Name: e.Args[0].Text, Args: e.Types}
		}
		name := called(e)
		class := ""
		if callee := e.Args[0]; callee.Op == Member && len(callee.Args) == 0 && wanted != nil {
			class = last(wanted.Unwrapped().Name)
		} else if callee.Op == Member && len(callee.Args) > 0 {
			if t := p.typeOf(callee.Args[0], in, nil, depth+1); t != nil {
				class = last(t.Unwrapped().Name)
			}
		} else if in.Class != nil {
			class = in.Class.Name
		}
		for _, fn := range p.funcs[name] {
			if fn.Returns != nil && (fn.Class == nil && class == "" || fn.Class != nil && fn.Class.Name == class) {
				return p.full(fn.Returns, fn.Class)
			}
		}
	}
	return nil
}

// declared is a value of some type that the source declares.
type declared struct {
	typ  *model.Type
	made *Expr // what makes it
	in   *Func
	pos  model.Pos
}

// valuesOf are the properties and functions that yield instances of a generic class, by its name.
func (p *Program) valuesOf(class string) (all []declared) {
	add := func(t *model.Type, made *Expr, in *Func) {
		if t != nil && t.Kind == model.Named && last(t.Name) == class && made != nil {
			all = append(all, declared{t, made, in, made.Pos})
		}
	}
	for _, props := range p.props {
		for _, prop := range props {
			in := prop.Get
			if in == nil {
				in = &Func{Name: prop.Name, Class: prop.Class}
			}
			add(p.typeOfProp(prop, 0), value(prop), in)
		}
	}
	for _, fn := range p.Funcs {
		if fn.Returns != nil && !fn.Init && len(names(fn.Returns, p.free(fn))) == 0 {
			add(p.full(fn.Returns, fn.Class), result(fn), fn)
		}
	}
	slices.SortFunc(all, func(a, b declared) int {
		return cmp.Or(strings.Compare(a.pos.File, b.pos.File), cmp.Compare(a.pos.Line, b.pos.Line), cmp.Compare(a.pos.Col, b.pos.Col))
	})
	return slices.CompactFunc(all, func(a, b declared) bool { return a.pos == b.pos })
}

// naming are the classes that say what an associated type of a name is.
func (p *Program) naming(member string) (all []declared) {
	for _, name := range slices.Sorted(maps.Keys(p.Classes)) {
		for _, c := range p.Classes[name] {
			if c.Types[member] != nil && len(c.Supers) > 0 {
				made := &Expr{Op: Call, Args: []*Expr{{Op: Name, Text: name}}, Pos: c.Pos}
				all = append(all, declared{&model.Type{Kind: model.Named, Name: name}, made, &Func{Name: name, Class: c}, c.Pos})
				break
			}
		}
	}
	return all
}

// full is a type that is written inside an extension of its class which says what its parameters are.
func (p *Program) full(t *model.Type, c *Class) *model.Type {
	if c == nil || len(t.Args) > 0 || last(t.Name) != c.Name && t.Name != "Self" || len(c.Types) == 0 {
		return t
	}
	r := *t
	r.Name = c.Name
	for _, name := range p.GenericsOf(c.Name) {
		if bound := c.Types[name]; bound != nil {
			r.Args = append(r.Args, bound)
		}
	}
	return &r
}

func classType(c *Class) *model.Type {
	if c == nil {
		return nil
	}
	return &model.Type{Kind: model.Named, Name: c.Name}
}

func (p *Program) typeOfProp(prop *Prop, depth int) *model.Type {
	if prop.Type != nil {
		return p.full(prop.Type, prop.Class)
	}
	if prop.Value != nil {
		return p.typeOf(prop.Value, &Func{Class: prop.Class}, nil, depth)
	}
	return nil
}

// prop is the property that a name means in a class, or outside of classes where there is one alone.
func (p *Program) prop(name string, in *Class) (found *Prop) {
	for _, prop := range p.props[name] {
		if in != nil && prop.Class != nil && prop.Class.Name == in.Name {
			return prop
		}
		if prop.Class == nil && found == nil {
			found = prop
		}
	}
	return found
}

// mayCall says whether a call may be one of a function: by the shape of its arguments, and by the class of
// what it is called on, as far as that is known.
func (p *Program) mayCall(s site, fn *Func) bool {
	given, least := len(s.call.Args)-1, 0
	for i := range fn.Params {
		a := &fn.Params[i]
		if a.Default == nil {
			least++
		}
		if a.Label != "" && a.Default == nil && !slices.Contains(s.call.Labels, a.Label) && argument(s.call, fn, i) == nil {
			return false
		}
	}
	if given > len(fn.Params) || given < least {
		return false
	}
	for _, label := range s.call.Labels {
		if label != "" && !slices.ContainsFunc(fn.Params, func(a Param) bool { return label == a.Label || label == a.Name }) {
			return false
		}
	}
	callee := s.call.Args[0]
	if fn.Class == nil || fn.Init {
		return true
	}
	if callee.Op == Name {
		for c := s.in.Class; c != nil; c = c.Outer {
			if p.isKindOf(c.Name, fn.Class.Name, 0) || fn.Receiver {
				return true
			}
		}
		return s.in.Class == nil
	}
	if len(callee.Args) == 0 {
		return false
	}
	t := p.typeOf(callee.Args[0], s.in, nil, 0)
	if t == nil {
		return true
	}
	name := last(t.Unwrapped().Name)
	return name == fn.Class.Name || p.isKindOf(name, fn.Class.Name, 0) || p.isKindOf(fn.Class.Name, name, 0)
}

// isKindOf says whether a class is another, or extends or implements it, as far as the program shows.
func (p *Program) isKindOf(name, other string, depth int) bool {
	if name == other {
		return true
	}
	if depth > maxWay {
		return false
	}
	for _, c := range p.Classes[name] {
		for _, super := range c.Supers {
			if p.isKindOf(last(super.Name), other, depth+1) {
				return true
			}
		}
	}
	return false
}

// pathWords are names of parameters and properties that hold the path of a request.
var pathWords = []string{"path", "url", "endpoint", "route", "uri", "resource", "relative", "urlstring", "relativepath", "pathname", "address", "rawvalue"}

// PathIn is the path that some statements request before the call at a position decodes, "" where none is
// seen.
func PathIn(body []Stmt, call model.Pos) string {
	p, fn := NewProgram(), &Func{Body: body}
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
		return isPathWord(e.Text) && (fn.param(e.Text) != nil || letIn(fn.Body, e.Text) != nil || prop != nil)
	case Member:
		if len(e.Args) == 0 || !isPathWord(e.Text) {
			return false
		}
		if e.Args[0].Op == Name && fn.param(e.Args[0].Text) != nil {
			return true
		}
		return isPathText(p.text(e, fn, 0))
	}
	return false
}

func isPathWord(name string) bool { return slices.Contains(pathWords, strings.ToLower(name)) }

// param is the parameter of a name, nil for none.
func (fn *Func) param(name string) *Param {
	for i := range fn.Params {
		if fn.Params[i].Name == name {
			return &fn.Params[i]
		}
	}
	return nil
}

// mediaTypes are what those begin with (RFC 6838, section 4.2).
var mediaTypes = []string{"application/", "text/", "image/", "audio/", "video/", "multipart/", "font/"}

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

// handedPath is the path in terms of the caller of a function.
func (p *Program) handedPath(path *Expr, s site, fn *Func) *Expr {
	if path != nil {
		if handed := p.handed(path, s, fn); handed.Op != Other {
			return handed
		}
	}
	return p.pathIn(s.in, s.call)
}

// handed is an expression in the code of a function in terms of a caller of it; nil of nil.
func (p *Program) handed(e *Expr, s site, fn *Func) *Expr {
	if e == nil {
		return nil
	}
	given := func(name string) *Expr {
		for i := range fn.Params {
			if fn.Params[i].Name == name {
				if arg := argument(s.call, fn, i); arg != nil {
					return arg
				}
				return fn.Params[i].Default
			}
		}
		return nil
	}
	switch e.Op {
	case Name:
		if arg := given(e.Text); arg != nil {
			return arg
		}
		if v := letIn(fn.Body, e.Text); v != nil {
			return p.handed(v, s, fn)
		}
		prop := p.prop(e.Text, fn.Class)
		if prop == nil || prop.Class == nil || prop.Value != nil || fn.Init {
			return e
		}
		if callee := s.call.Args[0]; callee.Op == Member && len(callee.Args) > 0 { // of the instance
			if v := p.memberOf(callee.Args[0], s.in, classType(prop.Class), e.Text); v.Op != Other {
				return v
			}
		}
		return &Expr{Op: Other, Text: e.Text}
	case Member:
		if len(e.Args) == 0 || e.Args[0].Op != Name {
			break
		}
		if arg := given(e.Args[0].Text); arg != nil {
			wanted := &model.Type{}
			if a := fn.param(e.Args[0].Text); a.Type != nil {
				wanted = a.Type
			}
			return p.memberOf(arg, s.in, wanted, e.Text)
		}
	}
	r := *e
	r.Args = make([]*Expr, len(e.Args))
	for i, a := range e.Args {
		r.Args[i] = p.handed(a, s, fn)
	}
	return &r
}

// memberOf is what a member of an expression is: of Endpoint(path: "v2/ports"), or of .ports that is made
// so, what is given for path; of an object that declares it, what it is there.
func (p *Program) memberOf(e *Expr, in *Func, wanted *model.Type, member string) *Expr {
	for range maxWay {
		switch {
		case e.Op == Call && p.makes(e, wanted):
			class := e.Args[0].Text
			if class == "init" {
				class = last(wanted.Unwrapped().Name)
			}
			for i, label := range e.Labels {
				if label == member {
					return e.Args[i+1]
				}
			}
			for _, prop := range p.props[member] {
				if v := value(prop); v != nil && prop.Class != nil && prop.Class.Name == class {
					return v
				}
			}
			for _, part := range p.Classes[class] {
				for _, init := range part.Funcs {
					for i := range init.Params {
						if init.Init && init.Params[i].Name == member {
							if arg := argument(e, init, i); arg != nil {
								return arg
							}
						}
					}
				}
			}
			if len(e.Args) > 1 {
				return e.Args[1]
			}
			return &Expr{Op: Other}
		case e.Op == Member || e.Op == Call:
			name, class := "", last(wanted.Unwrapped().Name)
			if e.Op == Call {
				name = called(e)
			} else {
				name = e.Text
			}
			if v := p.caseMember(class, name, member); v != nil {
				return v
			}
			next := (*Expr)(nil)
			for _, prop := range p.props[name] {
				if prop.Class != nil && prop.Class.Name == class {
					next = value(prop)
				}
			}
			for _, fn := range p.funcs[name] {
				if fn.Class != nil && fn.Class.Name == class {
					next = result(fn)
				}
			}
			if next == nil || next == e {
				return &Expr{Op: Other}
			}
			e = next
		case e.Op == Name:
			v := letIn(in.Body, e.Text)
			if prop := p.prop(e.Text, in.Class); v == nil && prop != nil {
				v = value(prop)
			}
			if v == nil || v == e {
				return &Expr{Op: Other}
			}
			e = v
		default:
			return &Expr{Op: Other}
		}
	}
	return &Expr{Op: Other}
}

// caseMember is what a member of a constant of an enum is: what it is made with, or what the code of the
// member yields for it; nil where that is not followed.
func (p *Program) caseMember(class, name, member string) *Expr {
	for _, c := range p.Classes[class] {
		made, ok := c.Cases[name]
		if !ok {
			continue
		}
		if made != nil && made.Op == Call {
			return p.memberOf(made, &Func{Class: c}, classType(c), member)
		}
		if made != nil && member == "rawValue" {
			return made
		}
		for _, prop := range p.props[member] {
			if prop.Class != nil && prop.Class.Name == class && prop.Get != nil {
				if of := labelled(prop.Get.Body, name); of != nil {
					return inlined(result(&Func{Body: of}), of)
				}
			}
		}
	}
	return nil
}

// labelled are the statements for a constant among those of a switch, nil for none.
func labelled(all []Stmt, name string) []Stmt {
	for i := range all {
		if s := &all[i]; s.Op == Block && s.Name == name {
			return s.Body
		} else if found := labelled(s.Body, name); found != nil {
			return found
		}
		if v := all[i].Value; v != nil && v.Op == Choice {
			for _, a := range v.Args {
				if found := labelled(a.Body, name); found != nil {
					return found
				}
			}
		}
	}
	return nil
}

// inlined is an expression with what its names are given by some statements.
func inlined(e *Expr, all []Stmt) *Expr {
	if e == nil {
		return nil
	}
	if e.Op == Name {
		if v := letIn(all, e.Text); v != nil {
			return v
		}
		return e
	}
	r := *e
	r.Args = make([]*Expr, len(e.Args))
	for i, a := range e.Args {
		r.Args[i] = inlined(a, all)
	}
	return &r
}

// makes says whether a call makes an instance of a class: Page(…), or .init(…) where one is wanted.
func (p *Program) makes(e *Expr, wanted *model.Type) bool {
	callee := e.Args[0]
	return callee.Op == Name && len(p.Classes[callee.Text]) > 0 || callee.Op == Member && callee.Text == "init" && len(callee.Args) == 0 && wanted.Name != ""
}

// value is what a property holds.
func value(prop *Prop) *Expr {
	if prop.Value != nil {
		return prop.Value
	}
	if prop.Get != nil {
		return result(prop.Get)
	}
	return nil
}

// result is what a function answers, where that is one expression.
func result(fn *Func) *Expr {
	for i := range fn.Body {
		if s := &fn.Body[i]; s.Op == Return || s.Op == Do && i == len(fn.Body)-1 {
			return s.Value
		}
	}
	return nil
}

// evaluate is the path that an expression makes, with {} for what is not known; "" where nothing of it is.
func (p *Program) evaluate(e *Expr, in *Func) string {
	if e == nil {
		return ""
	}
	text := p.text(e, in, 0)
	if strings.Trim(text, "{}/") == "" {
		return ""
	}
	return pathOf(strings.TrimPrefix(text, "{}"))
}

// typeOfObject is the type of what a member is of, nil where that is not followed.
func (p *Program) typeOfObject(e *Expr, in *Func) *model.Type {
	if len(e.Args) == 0 {
		return nil
	}
	return p.typeOf(e.Args[0], in, nil, 0)
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
			if v := p.memberOf(e.Args[0], in, t, e.Text); v.Op != Other {
				return p.text(v, in, depth+1)
			}
		}
		for _, prop := range p.props[e.Text] {
			if prop.Static && prop.Value != nil && len(e.Args) > 0 && prop.Class != nil && e.Args[0].Text == prop.Class.Name {
				return p.text(prop.Value, in, depth+1)
			}
		}
	case Call:
		if name := called(e); (name == "URL" || name == "URLRequest" || name == "format") && len(e.Args) > 1 {
			return p.text(e.Args[1], in, depth+1)
		}
	}
	return "{}"
}
