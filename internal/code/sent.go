package code

import (
	"slices"
	"strings"

	"vetta/internal/model"
)

// What an app sends: the type of what a library is given to write, and the method of the request.

// sent is the type of what a call is given to write, in terms of the function that it is in: of its first
// argument, or of the one that is for the parameters of a request.
func (f *follower) sent(s *site) []*model.Type {
	if len(s.call.Args) < 2 {
		return nil
	}
	value := s.call.Args[1]
	for i, label := range s.call.Labels {
		if label == parametersLabel {
			value = s.call.Args[i+1]
		}
	}
	if t := f.valueType(value, s.in); t != nil {
		return []*model.Type{t}
	}
	return nil
}

// parametersLabel is the label of an argument that is written into a request.
const parametersLabel = "parameters"

// valueType is the type of a value in the code of a function; of a parameter that may be of any type a name
// that its callers say the meaning of. nil where it is not followed.
func (f *follower) valueType(e *Expr, in *Func) *model.Type {
	if e.Op == Name {
		if a := in.param(e.Text); a != nil && f.p.isAnyValue(a.Type) {
			return &model.Type{Kind: model.Named, Name: handed(a.Name)}
		}
	}
	t := f.p.typeOf(e, in, nil, 0)
	if t == nil || f.p.isAnyValue(t) {
		return nil
	}
	return t
}

// isAnyValue says whether a value of a type may be of any type.
func (p *Program) isAnyValue(t *model.Type) bool {
	if t == nil {
		return false
	}
	t = t.Unwrapped()
	return t.Model == nil && slices.Contains(p.words.AnyValue, model.SimpleName(t.Name))
}

// methods are those of HTTP that requests with a body or an answer have (RFC 9110 section 9, RFC 5789).
var methods = []string{"GET", "POST", "PUT", "PATCH", "DELETE"}

// methodOf is the method that a text or a name is, "" for none.
func methodOf(text string) string {
	if upper := strings.ToUpper(text); slices.Contains(methods, upper) {
		return upper
	}
	return ""
}

// methodIn is the method of the request that a function makes for a call of it: what an argument says, of
// the call before others, or what a member is given; "" where nothing says it, or several things do.
func (p *Program) methodIn(fn *Func, call *Expr) string {
	if own := p.methodsIn(call, fn); len(own) == 1 {
		return own[0]
	}
	var all []string
	note := func(found ...string) {
		for _, m := range found {
			if !slices.Contains(all, m) {
				all = append(all, m)
			}
		}
	}
	visitAll(fn.Body, func(e *Expr) { note(p.methodsIn(e, fn)...) })
	var assigned func(body []Stmt)
	assigned = func(body []Stmt) {
		for i := range body {
			s := &body[i]
			if s.Op == Assign && strings.HasSuffix(strings.ToLower(s.Name), "method") && s.Value != nil {
				note(p.methodSaid(s.Value)...)
			}
			assigned(s.Body)
		}
	}
	assigned(fn.Body)
	if len(all) == 1 {
		return all[0]
	}
	return ""
}

// methodSaid is the method that a value names: "POST", .post, HTTPMethod.post, HttpMethod.Post.
func (p *Program) methodSaid(e *Expr) []string {
	for e != nil && e.Op == Member && e.Text == p.words.Raw && len(e.Args) > 0 { // HTTPMethod.post.rawValue
		e = e.Args[0]
	}
	if e == nil || e.Op != Text && e.Op != Member {
		return nil
	}
	if m := methodOf(e.Text); m != "" && (e.Op == Member || m == e.Text) {
		return []string{m}
	}
	return nil
}

// methodsIn are the methods that calls in an expression name: as an argument, or by the name of a call that
// is given a path or is made on what was.
func (p *Program) methodsIn(e *Expr, fn *Func) (all []string) {
	if e == nil {
		return nil
	}
	if e.Op == Call {
		name := called(e)
		for i, a := range e.Args[1:] {
			label := ""
			if i < len(e.Labels) {
				label = strings.ToLower(e.Labels[i])
			}
			if label == "" || strings.HasSuffix(label, "method") {
				all = append(all, p.methodSaid(a)...)
			}
		}
		if m := methodOf(name); m != "" && len(all) == 0 && len(e.Args) > 1 {
			given := slices.ContainsFunc(e.Args[1:], func(a *Expr) bool { return p.isPath(a, fn) })
			for i := range e.Args[1:] {
				given = given || p.isGivenAsPath(e, i, fn)
			}
			if given || p.buildsRequest(e) {
				all = append(all, m)
			}
		}
	}
	for _, a := range e.Args {
		all = append(all, p.methodsIn(a, fn)...)
	}
	visitAll(e.Body, func(e *Expr) { all = append(all, p.methodsIn(e, fn)...) })
	slices.Sort(all)
	return slices.Compact(all)
}

// buildsRequest says whether a call is made on what was given an address: Request.Builder().url(…).post(…).
func (p *Program) buildsRequest(e *Expr) bool {
	for callee := e.Args[0]; callee.Op == Member && len(callee.Args) > 0; {
		of := callee.Args[0]
		if of.Op != Call {
			return false
		}
		if p.isPathWord(called(of)) {
			return true
		}
		callee = of.Args[0]
	}
	return false
}
