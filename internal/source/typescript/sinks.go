package typescript

import (
	"slices"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/lower"
	"vetta/internal/types"
)

// asWords are what the language and its libraries call the things that the follower of package code must know of.
var asWords = &code.Words{
	Self: "this", Super: "super",
	AnyValue:   []string{"any", "unknown"},
	Yields:     []string{"then", "useQuery", "useSuspenseQuery", "useInfiniteQuery", "useSWR", "query", "fetchQuery", "prefetchQuery", "defer", "from", "of", "resolve", "useCallback", "useMemo", "createAsyncThunk", "finally", "catch"},
	Paths:      []string{"path", "url", "endpoint", "route", "uri", "resource", "pathname", "href", "apipath", "apiurl", "relativeurl", "relativepath", "requesturl", "input", "segment"},
	PathMakers: []string{"query"},
	Requests:   []string{"fetch", "get", "post", "put", "patch", "delete", "request", "useSWR", "useFetch", "$fetch", "ofetch", "getJSON"},
	Texts:      []string{"URL", "Request", "encodeURI", "String"},
	Joins:      []string{"concat"},
	Keeps:      []string{"toString", "trim", "replace", "href"},
	TextType: func(text string) *model.Type {
		return &model.Type{Kind: model.Opaque, Name: strconv.Quote(text), Linked: true, Exact: &types.Late{Of: func([]*types.Type) *types.Type { return types.Literal(text) }}}
	},
}

// requesters are calls of clients that answer what their type argument says.
var requesters = []string{
	"get", "post", "put", "patch", "delete", "request", "head", "options", "fetch", "$fetch", "ofetch", "useFetch", "useLazyFetch", "useQuery", "useSuspenseQuery", "useInfiniteQuery",
	"useSWR", "useSWRImmutable", "fetchQuery", "query", "mutation", "useMutation", "json", "getJSON", "ajax", "then", "useAsyncData", "httpResource", "axios",
}

// verbs are the methods of requests by the names of calls.
var verbs = map[string]string{"get": "GET", "post": "POST", "put": "PUT", "patch": "PATCH", "delete": "DELETE", "head": "HEAD", "getJSON": "GET"}

// calls are the places where the app takes what a response holds for a type.
func (p *project) calls() []*model.Call {
	program := code.NewProgram(asWords)
	files := map[string]*lower.Unit{}
	var open []*model.Call
	parsed := map[model.Pos]site{}
	for _, u := range p.units {
		p.link(u)
	}
	for _, u := range p.units {
		files[u.file] = &lower.Unit{Text: u.src, Scan: func() {}, Add: func(*code.Program) {}}
		for _, c := range u.tree.Classes {
			program.AddClass(c)
		}
		for _, fn := range u.tree.Funcs {
			program.AddFunc(fn)
		}
		for _, prop := range u.tree.Props {
			program.AddProp(prop)
		}
	}
	add := func(e *code.Expr, t *model.Type, method string) {
		if slices.ContainsFunc(open, func(o *model.Call) bool { return o.Pos == e.Pos }) {
			return
		}
		c := &model.Call{Pos: e.Pos, Type: t, Language: Language, Method: method, Settings: p.settings(e.Pos)}
		if t != nil {
			c.Declared = types.Written(t)
		}
		open = append(open, c)
	}
	for e, fn := range program.CallsOf("json") {
		if e.Args[0].Op != code.Member {
			continue
		}
		var t *model.Type
		if len(e.Types) > 0 {
			t = e.Types[0]
		}
		if len(e.Args) == 1 {
			add(e, t, "")
			parsed[e.Pos] = site{call: e, in: fn}
		}
	}
	for e, fn := range program.CallsOf("parse") {
		if dotted(e.Args[0]) == "JSON.parse" {
			add(e, nil, "")
			parsed[e.Pos] = site{call: e, in: fn}
		}
	}
	var remade []*model.Call
	for _, name := range requesters {
		for e, fn := range program.CallsOf(name) {
			if len(e.Types) == 0 || p.isOwn(program, e, fn) {
				continue
			}
			t := e.Types[0]
			if made, ok := transformed(e); ok {
				if t = made; t == nil { // of which its code alone tells
					made := &model.Call{Pos: e.Pos, Language: Language, Settings: p.settings(e.Pos), Lost: "its response is made into something else in a way that is not followed"}
					remade = append(remade, made)
					continue
				}
			}
			add(e, t, verbs[name])
		}
	}
	for _, name := range []string{"get", "post", "put", "patch", "delete", "request"} { // whose type is what is expected of them
		for e, fn := range program.CallsOf(name) {
			callee := e.Args[0]
			if len(e.Types) > 0 || callee.Op != code.Member || len(callee.Args) != 1 {
				continue
			}
			if client := p.client(program, callee.Args[0], fn); client != noClient {
				add(e, nil, verbs[name])
				parsed[e.Pos] = site{e, fn, client}
			}
		}
	}
	open = slices.DeleteFunc(open, func(c *model.Call) bool { return c.Type != nil && isAnything(c.Type) })
	p.eval.program = program
	for _, c := range append(p.parsed(program), p.instances(program)...) {
		open = slices.DeleteFunc(open, func(o *model.Call) bool { return o.Pos == c.Pos })
		open = append(open, c)
	}
	var lost []*model.Call
	open, lost = p.goneOn(program, open, parsed)
	asks := &lower.Asking{Whole: true, Files: files, Program: program, Spell: types.Written, Decoder: func(*model.Call, code.Named) *model.Settings { return nil }}
	told := map[model.Pos]bool{} // calls of a client's own methods, which are none of the app's of that name
	for _, c := range open {
		told[c.Pos] = c.Type != nil || told[c.Pos]
	}
	found := slices.DeleteFunc(asks.Follow(open), func(c *model.Call) bool {
		again := told[c.Pos]
		told[c.Pos] = true
		return again
	})
	all := slices.Concat(open, found, lost, remade)
	for _, c := range all {
		if c.Type != nil && !lower.IsOpen(c.Type) {
			p.workedOut(c)
		}
		if c.Type != nil && (c.Settings == nil || c.Settings.Library == Language) {
			c.Settings = p.settings(c.Pos)
		}
	}
	return all
}

// transformed is the type that the closure of a call takes which makes the response into what the call yields,
// { transformResponse: (page: Page) => page.ports }; nil where it says none, and false where there is no such closure.
func transformed(call *code.Expr) (t *model.Type, ok bool) {
	for _, arg := range call.Args[1:] {
		for k := 0; arg.Op == code.Dict && k+1 < len(arg.Args); k += 2 {
			if arg.Args[k].Text != "transformResponse" {
				continue
			}
			if by := arg.Args[k+1]; by.Op == code.Lambda && by.Fn != nil && len(by.Fn.Params) > 0 {
				t = by.Fn.Params[0].Type
			}
			return t, true
		}
	}
	return nil, false
}

// workedOut gives a call the type that its own makes of what the type parameters in it stand for, where that is one of
// the source's or a list of it: Endpoints['/ports'].
func (p *project) workedOut(c *model.Call) {
	if _, ok := c.Type.Exact.(*types.Late); !ok {
		return
	}
	of := types.Of(c.Type)
	if def := p.eval.byDecl[of.Decl]; def != nil && def.parts[0].what == isAlias && !p.isObject(def.parts[0]) { // which names what it leads to
		bare := *of
		bare.Decl, bare.Inline = nil, nil
		of = &bare
	}
	t := p.eval.toModel(of, c.Declared)
	inner := t
	for inner.Kind == model.List || inner.Kind == model.Optional {
		inner = inner.Args[0]
	}
	if inner.Kind == model.Named && inner.Model != nil {
		c.Type, c.Declared = t, of.String()
	}
}

// site is a call in a function.
type site struct {
	call *code.Expr
	in   *code.Func
	by   client
}

// client is a library that requests are made by whose type is said by the code behind them.
type client uint8

const (
	noClient client = iota
	angular         // yields the response itself
	axios           // yields what has it as data
)

// client is the library that an expression is an instance of.
func (p *project) client(program *code.Program, e *code.Expr, in *code.Func) client {
	if t := program.TypeOf(e, in); t != nil {
		switch t.Unwrapped().Name {
		case "HttpClient":
			return angular
		case "AxiosInstance", "AxiosStatic":
			return axios
		}
	}
	name := dotted(e)
	if name == "axios" {
		return axios
	}
	var made *code.Expr
	if own, ok := strings.CutPrefix(name, "this."); ok && in.Class != nil {
		for _, prop := range in.Class.Props {
			if prop.Name == own {
				made = prop.Value
			}
		}
	} else if u := p.byPath[in.File]; u != nil && name != "" {
		if found := p.find(u.scope, name, ofValues); len(found) == 1 {
			made = found[0].value
		}
	}
	switch {
	case made == nil || made.Op != code.Call:
	case dotted(made.Args[0]) == "axios.create":
		return axios
	case called(made) == "inject" && len(made.Args) == 2 && dotted(made.Args[1]) == "HttpClient":
		return angular
	}
	return noClient
}

// goneOn are the calls with those that name no type as what the code takes for one later, each part of a response by
// itself; those of which it makes something else are lost.
func (p *project) goneOn(program *code.Program, open []*model.Call, at map[model.Pos]site) (all, lost []*model.Call) {
	var made []*model.Call
	held := map[model.Pos]bool{} // the schemas of which it is followed what they are held to
	defer func() {
		all = slices.DeleteFunc(all, func(c *model.Call) bool { return held[c.Pos] && !slices.Contains(made, c) })
	}()
	for _, c := range open {
		s, ok := at[c.Pos]
		if c.Type != nil || !ok {
			all = append(all, c)
			continue
		}
		f := p.followed(program, s)
		if f.handed {
			continue
		}
		parts := slices.ContainsFunc(f.found, func(t taken) bool { return len(t.part.within)+t.part.lists > 0 })
		if f.open && (!parts || f.changed) || f.steps < 0 || len(f.found) == 0 && !f.changed {
			all = append(all, c) // what its callers say is followed from there
			continue
		}
		if len(f.found) == 0 {
			c.Lost = "its response is made into something else in a way that is not followed"
			lost = append(lost, c)
		}
		for i, t := range f.found {
			if slices.ContainsFunc(f.found[:i], func(other taken) bool {
				return other.at == t.at && other.typ != nil && t.typ != nil && slices.Equal(other.part.within, t.part.within) && types.Written(other.typ) == types.Written(t.typ)
			}) {
				continue
			}
			own := *c
			if t.by != nil {
				held[t.at] = true
				if own = *t.by.call; t.typ == nil {
					own.Type, own.Lost = nil, "its schema is held to parts of the response that keys alone do not lead to"
					lost = append(lost, &own)
					continue
				}
			}
			own.Pos = t.at
			own.Type, own.Declared, own.Within = t.typ, types.Written(t.typ), t.part.within
			if own.Picked = t.picked; t.picked {
				own.Part = t.at.String() + " " + own.Declared
			}
			all, made = append(all, &own), append(made, &own)
		}
	}
	return all, lost
}

// settings are those of a file.
func (p *project) settings(pos model.Pos) *model.Settings {
	s := &model.Settings{Library: Language, Pos: pos, Options: map[string]model.Option{}}
	if p.loose(pos.File) {
		s.Options["strictNullChecks"] = model.Option{Value: "false", Pos: pos}
	}
	return s
}

// isAnything says whether a type says nothing of what is decoded.
func isAnything(t *model.Type) bool {
	switch t.Unwrapped().Name {
	case "any", "unknown", "void", "string", "number", "boolean", "never", "Response", "Blob", "ArrayBuffer", "FormData":
		return t.Unwrapped().Kind == model.Named && t.Unwrapped().Model == nil
	}
	return false
}

// isOwn says whether a call is of a function that the source declares.
func (p *project) isOwn(program *code.Program, e *code.Expr, fn *code.Func) bool {
	callee := e.Args[0]
	all := program.FuncsOf(callee.Text)
	if len(all) == 0 {
		return false
	}
	if callee.Op == code.Name {
		return slices.ContainsFunc(all, func(f *code.Func) bool { return f.Class == nil })
	}
	if len(callee.Args) == 0 {
		return false
	}
	t := program.TypeOf(callee.Args[0], fn)
	if t == nil {
		return false
	}
	name := t.Unwrapped().Name
	name = name[strings.LastIndexByte(name, '.')+1:]
	seen := map[string]bool{}
	var has func(name string) bool
	has = func(name string) bool {
		if seen[name] {
			return false
		}
		seen[name] = true
		for _, f := range all {
			if f.Class != nil && f.Class.Name == name {
				return true
			}
		}
		for _, c := range program.Classes[name] {
			for _, super := range c.Supers {
				if has(super.Name) {
					return true
				}
			}
		}
		return false
	}
	return has(name)
}
