package asks

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/lower"
	"vetta/internal/source/scan"
)

// routine is a method of a class, or a function outside of classes where that is nil, as code that can be run; nil
// for one without a body, and for an extension.
func routine(p *jvm.Project, f *jvm.File, c *jvm.Class, m *model.Method) *code.Routine {
	return (&scope{p: p, f: f, c: c}).routine(m)
}

func (s *scope) routine(m *model.Method) *code.Routine {
	if m.Receiver != "" {
		return nil
	}
	whole := s.all()
	from, to, isExpression := bodyOf(whole, m)
	if to <= from {
		return nil
	}
	r := &code.Routine{Name: m.Name, Language: s.f.Language, Scope: s, Pos: m.Pos}
	for _, param := range m.Params {
		r.Params = append(r.Params, param.Name)
	}
	if !isExpression {
		r.Body = lower.Body(whole.File, s.language(), from, to)
		return r
	}
	e, _ := lower.Expression(whole.File, s.language(), from, to)
	r.Body = []code.Stmt{{Op: code.Return, Value: e}}
	return r
}

// value is an expression of the scope's file, between two tokens of it, as code that can be run; nil for none.
func (s *scope) value(name string, f *scan.File, from, to int) *code.Routine {
	whole := s.all()
	e, _ := lower.Expression(whole.File, s.language(), whole.Index(f.TokenAt(from).Start), whole.Index(f.TokenAt(to).Start))
	if e == nil {
		return nil
	}
	return &code.Routine{Name: name, Language: s.f.Language, Scope: s, Pos: f.Where(from), Body: []code.Stmt{{Op: code.Return, Value: e}}}
}

// all is the file with the bodies of its functions, which are passed over where a file is read first.
func (s *scope) all() *jvm.File {
	if s.whole == nil {
		s.whole = s.f.Again(s.f.Name, s.f.Src)
	}
	return s.whole
}

// bodyOf are the tokens of a method's body in its file, as it was read again: between its braces, or from the = of an
// expression to the end of what holds it; 0 and 0 for a method without one.
func bodyOf(f *jvm.File, m *model.Method) (from, to int, isExpression bool) {
	for i := range f.Len() {
		if f.Word(i) != m.Name || f.Where(i) != m.Pos {
			continue
		}
		at := i + 1
		for at < f.Len() && !f.Is(at, "(") {
			at++
		}
		at = f.Partner(at) + 1
		if f.Is(at, ":") && f.Parse != nil {
			if _, end := f.Parse(at + 1); end > at {
				at = end
			}
		}
		for f.Language == "java" && at < f.Len() && !f.Is(at, "{") && !f.Is(at, ";") { // throws
			at++
		}
		switch {
		case f.Is(at, "{"):
			return at + 1, f.Partner(at), false
		case f.Is(at, "="):
			return at + 1, f.Len(), true
		}
		break
	}
	return 0, 0, false
}

// scope is what names stand for in a class of a file.
type scope struct {
	p     *jvm.Project
	f     *jvm.File
	c     *jvm.Class
	whole *jvm.File // nil before it is asked for
}

func (s *scope) language() lower.Language {
	return lower.Language{Name: s.f.Language, Type: s.all().Parse, Resolve: func(t *model.Type, _ string, _ []string) *model.Type {
		s.p.Resolve(s.f, s.c, nil, t)
		return t
	}}
}

// Class is described at code.Scope.
func (s *scope) Class(name string) *model.Model {
	s.p.Asking.Lock() // models are completed as they are asked for
	defer s.p.Asking.Unlock()
	c := s.p.Find(s.f, s.c, name)
	if c == nil {
		return nil
	}
	if s.p.Filling != nil {
		c.FullName()
		s.p.Filling(c)
	}
	return c.Model
}

// Value is described at code.Scope.
func (s *scope) Value(name string) (*code.Expr, code.Scope) {
	s.p.Asking.Lock()
	defer s.p.Asking.Unlock()
	for c := s.c; c != nil; c = c.Outer {
		for _, holder := range append([]*jvm.Class{c}, c.Nested...) {
			if holder != c && holder.Kind != "object" {
				continue
			}
			holder.Read()
			for _, field := range holder.Fields {
				if field.Name == name {
					return s.initialiser(field), s
				}
			}
		}
	}
	if e := s.outside(name); e != nil {
		return e, s
	}
	for _, f := range s.p.Files {
		if f != s.f && f.Language == "kotlin" && s.sees(f, name) && strings.Contains(f.Src, name) {
			other := &scope{p: s.p, f: f}
			if e := other.outside(name); e != nil {
				return e, other
			}
		}
	}
	return nil, nil
}

// sees says whether a name of what stands outside of classes may be one of another file.
func (s *scope) sees(other *jvm.File, name string) bool {
	return s.f.Language == "kotlin" && (other.Package == s.f.Package || jvm.Imports(s.f, other.Package, name))
}

// outside is what a property outside of classes is given, nil for none of the name.
func (s *scope) outside(name string) *code.Expr {
	whole := s.all()
	depth := 0
	for i := 1; i < whole.Len()-2; i++ {
		switch {
		case whole.Is(i, "{"):
			depth++
		case whole.Is(i, "}"):
			depth--
		case depth == 0 && whole.Is(i-1, "val") && whole.Word(i) == name:
			return s.given(i + 1)
		}
	}
	return nil
}

// initialiser is what a field is given where it is declared, nil for nothing.
func (s *scope) initialiser(field *model.Field) *code.Expr {
	whole := s.all()
	for i := range whole.Len() {
		if whole.Word(i) == field.Name && whole.Where(i) == field.Pos {
			return s.given(i + 1)
		}
	}
	return nil
}

// given is the expression behind the = of a declaration, whose name stands before a token.
func (s *scope) given(at int) *code.Expr {
	whole := s.all()
	if whole.Is(at, ":") && whole.Parse != nil {
		if _, end := whole.Parse(at + 1); end > at {
			at = end
		}
	}
	if !whole.Is(at, "=") {
		return nil
	}
	e, _ := lower.Expression(whole.File, s.language(), at+1, whole.Len())
	return e
}

// Routine is described at code.Scope.
func (s *scope) Routine(name string) *code.Routine {
	s.p.Asking.Lock()
	defer s.p.Asking.Unlock()
	class, method := s.c, name
	if at := strings.LastIndexByte(name, '.'); at >= 0 {
		if class, method = s.p.Find(s.f, s.c, name[:at]), name[at+1:]; class == nil {
			return nil
		}
	}
	for c := class; c != nil; c = c.Outer {
		if c != class && method != name {
			break // X.f is a function of X, not of what is around X
		}
		for _, holder := range append([]*jvm.Class{c}, c.Nested...) {
			if holder != c && holder.Kind != "object" {
				continue
			}
			holder.Read()
			for _, m := range holder.Methods {
				if m.Name == method {
					return routine(s.p, holder.File, holder, m)
				}
			}
			for _, field := range holder.Fields {
				if field.Name != method || method == name {
					continue
				}
				in := &scope{p: s.p, f: holder.File, c: holder}
				if e := in.initialiser(field); e != nil {
					return &code.Routine{Name: method, Language: holder.File.Language, Scope: in, Pos: field.Pos, Body: []code.Stmt{{Op: code.Return, Value: e}}}
				}
			}
		}
	}
	if method != name {
		return nil
	}
	for _, m := range s.f.Functions {
		if m.Name == method {
			return routine(s.p, s.f, nil, m)
		}
	}
	for _, f := range s.p.Files {
		if f == s.f || len(f.Functions) == 0 || !s.sees(f, name) {
			continue
		}
		for _, m := range f.Functions {
			if m.Name == method {
				return routine(s.p, f, nil, m)
			}
		}
	}
	return nil
}

// Checks is what the init blocks of a class of Kotlin do, of its properties; nil where it has none.
func Checks(p *jvm.Project, c *jvm.Class) *code.Routine {
	if c.File.Language != "kotlin" {
		return nil
	}
	var r *code.Routine
	s := &scope{p: p, f: c.File, c: c}
	for _, i := range c.Inits {
		if i.Field != "" {
			continue
		}
		if r == nil {
			r = &code.Routine{Name: "init", Language: "kotlin", Scope: s, Pos: c.Pos}
			for _, f := range c.Fields {
				if !f.Static {
					r.Params = append(r.Params, f.Name)
				}
			}
		}
		func() {
			defer c.File.Reading()()
			r.Body = append(r.Body, lower.Body(c.File.File, s.language(), i.From, i.To)...)
		}()
	}
	return r
}
