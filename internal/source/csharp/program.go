package csharp

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// asWords are what the language and its libraries call the things that the follower of package code must know of.
var asWords = &code.Words{
	Self: "this", Super: "base", Invoke: "Invoke", Decoder: []string{decoderLabel},
	AnyType: []string{"Type"}, Types: []string{"JsonTypeInfo"},
	AnyValue: []string{"object"},
	Alone:    []string{"Instance", "Default", "Shared", "Current"},
	Paths:    []string{"path", "url", "endpoint", "route", "uri", "resource", "relative", "relativepath", "relativeurl", "requesturi", "pathname", "address", "relativeuri", "requestpath", "requesturl", "apipath", "apiurl", "baseurl", "segment"},
	Requests: []string{
		"GetFromJsonAsync", "GetFromJsonAsAsyncEnumerable", "GetStringAsync", "GetStreamAsync", "GetByteArrayAsync", "GetAsync", "PostAsync", "PutAsync", "PatchAsync", "DeleteAsync",
		"PostAsJsonAsync", "PutAsJsonAsync", "PatchAsJsonAsync", "DeleteFromJsonAsync", "DownloadString", "DownloadStringTaskAsync", "HttpRequestMessage", "RestRequest", "Request", "AppendPathSegment",
	},
	Yields: []string{"Run", "FromResult", "StartNew", "ContinueWith", "ExecuteAsync", "Execute", "GetOrAdd", "GetOrCreateAsync", "GetOrCreate", "GetOrAddAsync", "Lazy"},
	Each:   []string{"Select"},
	Texts:  []string{"Uri", "Format", "Url"},
	Joins:  []string{"AppendPathSegment", "AppendPathSegments"},
	Keeps:  []string{"ToString", "Trim", "TrimStart", "TrimEnd", "SetQueryParam", "SetQueryParams", "AddQueryParameter", "AddParameter", "AddUrlSegment", "ToUri", "WithHeader", "AddHeader", "ToLowerInvariant", "WithOAuthBearerToken"},
}

// decoderLabel is what the argument of a call is labelled with that says how it decodes.
const decoderLabel = "$options"

// into adds the code of a file to a program, with what the names of its types mean.
func (p *project) into(program *code.Program, u *code.Unit) {
	classes := map[*code.Class]*code.Class{}
	for _, c := range u.Classes {
		d := p.declaredOf(c)
		own := *c
		own.Outer = classes[c.Outer]
		classes[c] = &own
		s := scope{file: u.File, space: c.Space, in: d}
		own.Supers = nil
		for _, t := range c.Supers {
			own.Supers = append(own.Supers, p.resolve(t, s))
		}
		own.Funcs, own.Props = nil, nil
		var local []*code.Func
		for _, fn := range c.Funcs {
			f, inner := p.bound(fn, s)
			own.Funcs = append(own.Funcs, f)
			local = append(local, inner...)
		}
		for _, prop := range c.Props {
			of := *prop
			of.Type = p.resolve(prop.Type, s)
			if prop.Value != nil {
				p.bindExpr(prop.Value, s)
			}
			if prop.Get != nil {
				f, inner := p.bound(prop.Get, s)
				of.Get, local = f, append(local, inner...)
			}
			own.Props = append(own.Props, &of)
		}
		for _, fn := range c.Funcs { // the parameters of the class itself are seen in all of its code
			if isPrimary(fn) && !strings.HasPrefix(c.Kind, "record") {
				for _, param := range fn.Params {
					own.Props = append(own.Props, &code.Prop{Name: param.Name, Type: p.resolve(param.Type, s), File: c.File, Pos: param.Pos})
				}
			}
		}
		program.AddClass(&own)
		for _, fn := range local {
			fn.Class = &own
			program.AddFunc(fn)
		}
	}
	for _, fn := range u.Funcs {
		f, inner := p.bound(fn, scope{file: u.File})
		program.AddFunc(f)
		for _, fn := range inner {
			program.AddFunc(fn)
		}
	}
}

// declaredOf is the type that a part declares.
func (p *project) declaredOf(c *code.Class) *declared { return p.byPart[c] }

// bound is a function with its body read, and what the names of its types mean; local are those that it declares.
func (p *project) bound(fn *code.Func, s scope) (f *code.Func, local []*code.Func) {
	own := *fn
	own.Body, own.Unread = fn.Do(), nil
	s.free = append(slices.Clip(s.free), fn.Generics...)
	own.Returns = p.resolve(fn.Returns, s)
	own.Params = slices.Clone(fn.Params)
	for i := range own.Params {
		own.Params[i].Type = p.resolve(own.Params[i].Type, s)
		p.bindExpr(own.Params[i].Default, s)
	}
	if slices.Contains(fn.Mods, "this") && len(own.Params) > 0 {
		own.Receiver, own.Params = true, own.Params[1:]
	}
	local = p.bindBody(own.Body, s)
	p.bindBody(own.Inits, s)
	if fn.Init && len(own.Inits) > 0 {
		own.Body = append(slices.Clip(own.Inits), own.Body...)
	}
	return &own, local
}

// bindBody finds what the names of types in some statements mean, and answers the functions that they declare.
func (p *project) bindBody(body []code.Stmt, s scope) (local []*code.Func) {
	for i := range body {
		st := &body[i]
		st.Type = p.resolve(st.Type, s)
		if st.Kind == code.Local && st.Op == code.Let && st.Value != nil && st.Value.Fn != nil {
			f, inner := p.bound(st.Value.Fn, s)
			local = append(append(local, f), inner...)
		}
		p.bindExpr(st.Value, s)
		p.bindExpr(st.Of, s)
		local = append(local, p.bindBody(st.Body, s)...)
	}
	return local
}

func (p *project) bindExpr(e *code.Expr, s scope) {
	if e == nil {
		return
	}
	if e.Fn != nil {
		s.free = append(slices.Clip(s.free), e.Fn.Generics...)
		for i := range e.Fn.Params {
			e.Fn.Params[i].Type = p.resolve(e.Fn.Params[i].Type, s)
		}
		e.Fn.Returns = p.resolve(e.Fn.Returns, s)
	}
	e.Type = p.resolve(e.Type, s)
	for i, t := range e.Types {
		e.Types[i] = p.resolve(t, s)
	}
	for _, a := range e.Args {
		p.bindExpr(a, s)
	}
	p.bindBody(e.Body, s)
}

// scopeOf is where the code of a function stands.
func (p *project) scopeOf(fn *code.Func) scope {
	s := scope{file: fn.File, free: fn.Generics}
	if fn.Class != nil {
		s.space = fn.Class.Space
		s.in = p.byFull(fn.Class)
	}
	return s
}

// byFull is the type that a class of the program is a part of.
func (p *project) byFull(c *code.Class) *declared {
	name := c.Name
	for o := c.Outer; o != nil; o = o.Outer {
		name = o.Name + "." + name
	}
	for _, d := range p.byName[c.Name] {
		if d.name == name && d.space == c.Space {
			return d
		}
	}
	return nil
}

// typeNamed is the type of a name where it stands, for the names of constructors.
func (p *project) typeNamed(t *model.Type, s scope) *declared {
	if t == nil {
		return nil
	}
	if t.Model != nil {
		return p.of[t.Model]
	}
	return p.find(t.Name, len(t.Args), s.file, s.space, s.in)
}
