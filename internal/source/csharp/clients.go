package csharp

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// httpClients are the settings by which the clients decode that the app uses.
type httpClients struct {
	rest, flurl, refit *client
}

// client is one of them: how it decodes unless it is told otherwise, and what it is told.
type client struct {
	name string
	told *model.Settings
}

// settings are those at a place (semantics.md has the defaults of each, measured).
func (c *client) settings(pos model.Pos) *model.Settings {
	if c.told != nil {
		s := cloned(c.told)
		s.Options["client"] = model.Option{Value: c.name, Pos: pos}
		return s
	}
	s := plain(systemTextJSON, pos)
	switch c.name {
	case "RestSharp":
		web(s, pos)
	case "Refit":
		web(s, pos)
		s.Options["enums"] = model.Option{Value: "names:CamelCase:refit", Pos: pos}
	case "Flurl":
		s.Options["PropertyNameCaseInsensitive"] = model.Option{Value: "true", Pos: pos}
	}
	s.Options["client"] = model.Option{Value: c.name, Pos: pos}
	return s
}

// clients finds which clients the app uses, and what they are told.
func (a *asking) clients(units []*code.Unit) (h httpClients) {
	uses := func(space string) bool { return a.p.usesAny(space) }
	if uses("RestSharp") {
		h.rest = &client{name: "RestSharp"}
	}
	if uses("Flurl") {
		h.flurl = &client{name: "Flurl"}
	}
	if uses("Refit") {
		h.refit = &client{name: "Refit"}
	}
	for _, fn := range a.program.Funcs {
		at := where{fn: fn, s: a.p.scopeOf(fn)}
		code.WalkBody(fn.Body, func(e *code.Expr) { a.told(&h, e, at) })
	}
	for _, c := range sortedClasses(a.program) {
		for _, prop := range c.Props {
			at := where{s: a.p.scopeOf(&code.Func{Class: c, File: c.File})}
			code.Walk(prop.Value, func(e *code.Expr) { a.told(&h, e, at) })
		}
	}
	return h
}

// told takes in a call by which a client is told how to decode.
func (a *asking) told(h *httpClients, e *code.Expr, at where) {
	if e.Op != code.Call {
		return
	}
	name := model.SimpleName(chain(e.Args[0]))
	if callee := e.Args[0]; name == "" && callee.Op == code.Member {
		name = callee.Text
	}
	if e.Type != nil {
		name = model.SimpleName(e.Type.Name)
	}
	to := func(c *client, library string) {
		if c == nil {
			return
		}
		s := plain(library, e.Pos)
		if library == newtonsoftJSON {
			s = a.byDefault(s)
			s.Pos = e.Pos
		}
		for _, arg := range e.Args[1:] {
			v := a.evaluate(arg, at, library)
			if v == nil && (arg.Op == code.Name || arg.Op == code.Member || arg.Op == code.Call) {
				s.Why = "what its options are is not followed"
			} else if v != nil {
				s = v
			}
		}
		c.told = s
	}
	switch name {
	case "UseNewtonsoftJson", "AddNewtonsoftJson", "JsonNetSerializer":
		to(h.rest, newtonsoftJSON)
	case "UseSystemTextJson", "SystemTextJsonSerializer":
		if !a.isDeclared(e, at.s) {
			to(h.rest, systemTextJSON)
		}
	case "NewtonsoftJsonContentSerializer":
		to(h.refit, newtonsoftJSON)
	case "SystemTextJsonContentSerializer":
		to(h.refit, systemTextJSON)
	case "DefaultJsonSerializer":
		to(h.flurl, systemTextJSON)
	case "NewtonsoftJsonSerializer":
		to(h.flurl, newtonsoftJSON)
	}
}

// isDeclared says whether what a call makes is a class of the app's.
func (a *asking) isDeclared(e *code.Expr, s scope) bool {
	return e.Type != nil && a.p.typeNamed(e.Type, s) != nil
}

var verbs = map[string]string{"Get": "GET", "Post": "POST", "Put": "PUT", "Patch": "PATCH", "Delete": "DELETE", "Head": "HEAD", "HttpGet": "GET"}

// declaredClients are the calls of clients that are declared as interfaces, whose methods have the request in an
// attribute.
func (a *asking) declaredClients(units []*code.Unit) (calls []*model.Call) {
	if a.http.refit == nil {
		return nil
	}
	for _, d := range a.p.order {
		if d.kind() != "interface" {
			continue
		}
		for _, part := range d.parts {
			s := scope{file: part.File, space: d.space, in: d}
			for _, fn := range part.Funcs {
				for _, mark := range fn.Marks {
					verb := verbs[strings.TrimSuffix(model.SimpleName(mark.Args[0].Text), "Attribute")]
					if verb == "" || fn.Returns == nil {
						continue
					}
					path := ""
					if len(mark.Args) > 1 {
						path = a.p.value(mark.Args[1], s, 0).Text
					}
					of := s
					of.free = fn.Generics
					t := a.p.resolve(fn.Returns, of)
					c := &model.Call{Pos: fn.Pos, Language: Language, Endpoint: path, Method: verb, Settings: a.http.refit.settings(mark.Pos)}
					switch t.Name {
					case "ApiResponse", "IApiResponse":
						if len(t.Args) != 1 {
							continue
						}
						t, c.Swallowed = t.Args[0], true
					case "IObservable":
						if len(t.Args) == 1 {
							t = t.Args[0]
						}
					}
					if !leads(t) {
						continue
					}
					c.Type, c.Declared = t, t.Written()
					calls = append(calls, c)
				}
			}
		}
	}
	return calls
}

// leads says whether a type holds one of the source's.
func leads(t *model.Type) (found bool) {
	t.Walk(func(t *model.Type) { found = found || t.Model != nil })
	return found
}

// optionsOf evaluates what a call is given to decode by, where that is told on the spot.
func (a *asking) optionsOf(e *code.Expr, fn *code.Func, c *model.Call) {
	i := slices.Index(e.Labels, decoderLabel)
	if i < 0 {
		if c.Settings.Library == newtonsoftJSON {
			c.Settings = a.byDefault(c.Settings)
		}
		return
	}
	arg := e.Args[i+1]
	at := where{fn: fn, s: a.p.scopeOf(fn)}
	if s := a.evaluate(arg, at, c.Settings.Library); s != nil && s.Library == c.Settings.Library {
		if c.Settings.Library == newtonsoftJSON {
			s = a.under(s)
		}
		c.Settings = a.with(c, s)
		return
	}
	if s := a.converters(e, i, at, c); s != nil {
		c.Settings = s
		return
	}
	if t := a.typeOf(arg, fn, at.s); t != nil && t.Name == "JsonTypeInfo" { // of a context that callers name
		if s := a.onlyContext(); s != nil {
			c.Settings = s
			return
		}
	}
	// By whoever calls the function, else as the only ones that the app makes are.
	var all []*model.Settings
	for _, b := range a.made {
		if b.library == c.Settings.Library {
			all = append(all, b.settings)
		}
	}
	switch {
	case len(all) == 0:
		if c.Settings.Library == newtonsoftJSON {
			c.Settings = a.byDefault(c.Settings)
		} else if !isNullByDefault(arg, fn) {
			c.Settings.Why = "the options that it is given are not followed"
		}
	default:
		same := true
		for _, s := range all[1:] {
			same = same && s.Same(all[0])
		}
		if same {
			c.Settings = a.with(c, all[0])
		} else {
			c.Settings.Why = "it is given one of several options, and which of them is not followed"
		}
	}
}

// isNullByDefault says whether an argument is a parameter that is nothing unless a caller says otherwise.
func isNullByDefault(e *code.Expr, fn *code.Func) bool {
	for _, param := range fn.Params {
		if e.Op == code.Name && param.Name == e.Text {
			return param.Default != nil
		}
	}
	return false
}

// under are settings of a call over the app's default ones.
func (a *asking) under(s *model.Settings) *model.Settings {
	if a.defaultSettings == nil {
		return s
	}
	out := cloned(a.defaultSettings)
	for k, v := range s.Options {
		out.Options[k] = v
	}
	out.Adapters = append(slices.Clone(s.Adapters), out.Adapters...)
	out.Pos = s.Pos
	return out
}

// converters are settings of converters that a call is given one by one: DeserializeObject<T>(json, converter).
func (a *asking) converters(e *code.Expr, from int, at where, c *model.Call) *model.Settings {
	if c.Settings.Library != newtonsoftJSON {
		return nil
	}
	s := a.byDefault(plain(newtonsoftJSON, e.Pos))
	any := false
	for _, arg := range e.Args[from+1:] {
		made := arg
		if arg.Op == code.Cascade {
			made = arg.Args[0]
		}
		if made.Op == code.Call && made.Type != nil && strings.HasSuffix(model.SimpleName(made.Type.Name), "Converter") {
			a.converter(s, arg, at)
			any = true
		}
	}
	if !any {
		return nil
	}
	return s
}

// onlyContext are the options of the one generated context of the app, nil where there are none or several.
func (a *asking) onlyContext() (found *model.Settings) {
	for _, d := range a.p.order {
		if s := a.context(d); s != nil {
			if found != nil {
				return nil
			}
			found = s
		}
	}
	return found
}
