package csharp

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/lower"
)

// The libraries by their names in settings.
const (
	systemTextJSON = "system.text.json"
	newtonsoftJSON = "newtonsoft.json"
	xmlSerializer  = "xmlserializer"
	dataContract   = "datacontract"
	dataContractJS = "datacontractjson"
)

// sinkWords are names of methods by which something is decoded, or of what must be known of the clients that do.
var sinkWords = []string{
	"Deserialize", "DeserializeAsync", "DeserializeAsyncEnumerable", "DeserializeObject", "DeserializeAnonymousType", "GetFromJsonAsync", "ReadFromJsonAsync", "GetFromJsonAsAsyncEnumerable",
	"DeleteFromJsonAsync", "ReadAsAsync", "ToObject", "PopulateObject", "ExecuteAsync", "Execute", "ExecuteGetAsync", "ExecutePostAsync", "GetAsync", "PostAsync", "PutAsync", "GetJsonAsync", "ReceiveJson", "ReadFromJsonAsAsyncEnumerable",
	"PostJsonAsync", "DeserializeXNode", "FromJson", "FromJsonOverwrite", "DataContractJsonSerializer", "DataContractSerializer", "XmlSerializer",
}

// unmeasured are readers of the platform and of a game engine whose rules are not known, by what stands for them.
var unmeasured = map[string]string{
	"JsonUtility": "JsonUtility fills the fields of serialisable classes by rules of its own, which were not measured",
}

// isUnmeasured says whether a call is of one of those readers.
func isUnmeasured(c *model.Call) bool {
	if c.Settings == nil || c.Settings.Why == "" {
		return false
	}
	for _, why := range unmeasured {
		if c.Settings.Why == why {
			return true
		}
	}
	return false
}

// asking finds what the app has decoded, and how.
type asking struct {
	p       *project
	program *code.Program
	made    []*built // the options that the source makes
	loaded  map[string]bool
	http    httpClients
	// defaultSettings are those of JsonConvert.DefaultSettings, nil where the app sets none.
	defaultSettings *model.Settings
}

// calls are the places where the app has something decoded.
func (p *project) calls(texts map[string]string) []*model.Call {
	a := &asking{p: p, program: code.NewProgram(asWords), loaded: map[string]bool{}}
	p.asking = a
	files := map[string]*lower.Unit{}
	var first []*code.Unit
	for _, u := range p.files {
		files[u.File] = &lower.Unit{Text: texts[u.File], Scan: func() {}, Add: func(program *code.Program) { a.load(u) }}
		if hasAny(texts[u.File], sinkWords) || hasAny(texts[u.File], parsesJSON) || hasAny(texts[u.File], optionWords) {
			first = append(first, u)
		}
	}
	for _, u := range first {
		a.load(u)
	}
	a.findDefaults()
	a.gather(first)
	a.http = a.clients(first)
	var all, open []*model.Call
	within := map[*model.Call]*code.Func{}
	for _, name := range slices.Concat(sinkWords, parsings) {
		for e, fn := range a.program.CallsOf(name) {
			c := a.sink(e, fn)
			if converts(fn) {
				continue // a part of what the library is reading
			}
			if c != nil && c.Settings.Library != byOwnCode && c.Settings.Options["client"].Value == "" {
				a.optionsOf(e, fn, c)
			}
			if c != nil && !slices.ContainsFunc(all, func(o *model.Call) bool { return o.Pos == c.Pos }) {
				all = append(all, c)
				within[c] = fn
			}
		}
	}
	all = readInside(all, within)
	open = append(open, all...)
	asks := &lower.Asking{Files: files, Program: a.program, Spell: (*model.Type).Written, Decoder: a.decoder}
	all = append(all, asks.Follow(open)...)
	all = append(all, a.declaredClients(first)...)
	return append(all, a.unasked(all)...)
}

// writers are calls that write what they are given, by options of their own perhaps.
var writers = []string{"Serialize", "SerializeAsync", "SerializeToUtf8Bytes", "SerializeToElement", "SerializeToNode", "SerializeObject", "PostAsJsonAsync", "PutAsJsonAsync", "PatchAsJsonAsync"}

// unasked are the options of which no call was found that reads by them: they still tell how the project decodes.
func (a *asking) unasked(calls []*model.Call) []*model.Call {
	written := map[string]bool{} // by the names that they go by
	for _, name := range writers {
		for e := range a.program.CallsOf(name) {
			for _, arg := range e.Args[1:] {
				code.Walk(arg, func(x *code.Expr) {
					if x.Op == code.Name || x.Op == code.Member {
						written[x.Text] = true
					}
				})
			}
		}
	}
	var made []*model.Settings
	for _, b := range a.made {
		isWritten := slices.ContainsFunc(b.names, func(name string) bool { return written[name] })
		if len(b.names) > 0 && !isWritten && (b.library == systemTextJSON || b.library == newtonsoftJSON) {
			made = append(made, b.settings)
		}
	}
	return lower.Unasked(calls, made, Language)
}

func hasAny(text string, words []string) bool {
	for _, w := range words {
		if strings.Contains(text, w) {
			return true
		}
	}
	return false
}

// load makes a file part of the program.
func (a *asking) load(u *code.Unit) {
	if !a.loaded[u.File] {
		a.loaded[u.File] = true
		a.p.into(a.program, u)
	}
}

// sink is the call of a library that a call is, nil for none.
func (a *asking) sink(e *code.Expr, fn *code.Func) *model.Call {
	callee := e.Args[0]
	name := callee.Text
	on := ""
	if callee.Op == code.Member && len(callee.Args) > 0 {
		on = chain(callee.Args[0])
	}
	s := a.p.scopeOf(fn)
	if t, ok := a.p.aliasOf(on, s.file); ok {
		on = t.Name
	}
	c := &model.Call{Pos: e.Pos, Language: Language}
	c.Settings = &model.Settings{Pos: e.Pos, Options: map[string]model.Option{}}
	if len(e.Types) == 1 {
		c.Type = e.Types[0]
	}
	args := e.Args[1:]
	for _, arg := range args {
		if arg.Op == code.TypeOf && c.Type == nil {
			c.Type = arg.Type
		}
		if t := a.typeInfo(arg, fn, s); t != nil && c.Type == nil {
			c.Type = t
			e.Types = []*model.Type{t}
		}
	}
	if e.Type != nil {
		return a.serializer(e, c, fn, s)
	}
	ours := a.isOurs(callee, s, fn)
	switch {
	case model.SimpleName(on) == "JsonSerializer" && strings.HasPrefix(name, "Deserialize") && a.isSystemTextJSON(on, s.file):
		c.Settings.Library = systemTextJSON
		a.label(e, 1, fn)
		a.part(c, e, fn, s)
		if name == "DeserializeAsyncEnumerable" && c.Type != nil {
			c.Type = listOf(c.Type)
			e.Types = []*model.Type{c.Type}
		}
	case strings.HasSuffix(on, "JsonConvert") && (name == "DeserializeObject" || name == "DeserializeAnonymousType"):
		c.Settings.Library = newtonsoftJSON
		a.label(e, 1, fn)
		a.part(c, e, fn, s)
		if c.Type == nil && name == "DeserializeObject" && !slices.ContainsFunc(args, func(x *code.Expr) bool { return a.isTypeValue(x, fn) }) {
			return a.byHand(c, fn) // into what it finds
		}
	case model.SimpleName(on) == "JsonUtility" && strings.HasPrefix(name, "FromJson"):
		c.Settings.Why = unmeasured["JsonUtility"]
	case slices.Contains(parsings, name) && slices.Contains(parsesJSON, model.SimpleName(on)):
		return a.byHand(c, fn)
	case ours:
		return nil
	case (name == "GetFromJsonAsync" || name == "ReadFromJsonAsync" || name == "DeleteFromJsonAsync") && (len(e.Types) == 1 || c.Type != nil || len(args) > 0):
		c.Settings.Library = systemTextJSON
		from := 1
		if name == "ReadFromJsonAsync" {
			from = 0
		}
		if !a.label(e, from, fn) {
			web(c.Settings, e.Pos)
		}
		if name == "GetFromJsonAsync" {
			c.Method = "GET"
		}
	case name == "GetFromJsonAsAsyncEnumerable" || name == "ReadFromJsonAsAsyncEnumerable":
		c.Settings.Library = systemTextJSON
		if !a.label(e, 1, fn) {
			web(c.Settings, e.Pos)
		}
		if c.Type != nil {
			c.Type = listOf(c.Type)
			e.Types = []*model.Type{c.Type}
		}
	case name == "ReadAsAsync" && len(e.Types) == 1:
		c.Settings.Library = newtonsoftJSON
		a.label(e, 0, fn)
	case name == "Deserialize" && callee.Op == code.Member && len(callee.Args) > 0:
		if c = a.deserialize(e, c, callee.Args[0], fn, s); c == nil {
			return nil
		}
	case name == "ToObject" && callee.Op == code.Member && (len(e.Types) == 1 || c.Type != nil):
		c.Settings.Library = newtonsoftJSON
		c.Settings.Options["tokens"] = model.Option{Value: "true", Pos: e.Pos}
		a.label(e, 0, fn)
		if callee.Args[0].Op == code.Index || callee.Args[0].Op == code.Choice {
			if t := a.p.resolve(c.Type, s); !holdsModel(t) && !isFree(t, fn) { // a part, of which there is nothing to say by itself
				return nil
			}
		}
		lower.Takes(c, code.PartOf(callee.Args[0], e, fn, inward))
	case a.http.rest != nil && len(e.Types) == 1 && restMethods[name]:
		c.Settings = a.http.rest.settings(e.Pos)
		c.Swallowed = strings.HasPrefix(name, "Execute") && !asksForError(fn)
		c.Method = a.restMethod(name)
	case a.http.flurl != nil && (name == "GetJsonAsync" || name == "ReceiveJson") && len(e.Types) == 1:
		c.Settings = a.http.flurl.settings(e.Pos)
		if name == "GetJsonAsync" {
			c.Method = "GET"
		}
	default:
		return nil
	}
	if c.Type != nil {
		c.Declared = c.Type.Written()
		if isAnything(c.Type) {
			return a.byHand(c, fn)
		}
	}
	if drops, classes, instead := dropped(fn.Body, e); drops {
		c.Swallowed, c.Catches, c.Instead = true, classes, instead
	}
	return c
}

// isFree says whether a type is a type parameter of a function or of its class, or holds one.
func isFree(t *model.Type, fn *code.Func) (free bool) {
	t.Walk(func(t *model.Type) {
		free = free || t.Model == nil && (slices.Contains(fn.Generics, t.Name) || fn.Class != nil && slices.Contains(fn.Class.Generics, t.Name))
	})
	return free
}

// converts says whether a function is that by which a converter reads.
func converts(fn *code.Func) bool {
	if fn == nil || fn.Name != "Read" && fn.Name != "ReadJson" || len(fn.Params) == 0 || fn.Params[0].Type == nil {
		return false
	}
	of := model.SimpleName(fn.Params[0].Type.Unwrapped().Name)
	return fn.Name == "Read" && of == "Utf8JsonReader" || fn.Name == "ReadJson" && of == "JsonReader"
}

// asksForError says whether a function looks at what a client says of a failure, and throws then.
func asksForError(fn *code.Func) (asks bool) {
	code.WalkBody(fn.Body, func(e *code.Expr) {
		if e.Op == code.Member {
			switch e.Text {
			case "ErrorException", "ErrorMessage", "IsSuccessful", "ResponseStatus", "ThrowIfError":
				asks = true
			}
		}
	})
	if !asks {
		return false
	}
	thrown := false
	code.WalkBody(fn.Body, func(e *code.Expr) { thrown = thrown || e.Op == code.Member && e.Text == "ThrowIfError" })
	return thrown || throws(fn.Body)
}

// dropped says whether the error of a call is caught in its function and not thrown again: the classes that are
// caught, nil for all, and whether the app gets a value of its own then, rather than nothing.
func dropped(body []code.Stmt, call *code.Expr) (drops bool, classes []string, instead bool) {
	for i := range body {
		st := &body[i]
		if st.Kind != code.Try || !standsIn(st.Body, call) {
			if drops, classes, instead = dropped(st.Body, call); drops {
				return drops, classes, instead
			}
			continue
		}
		if drops, classes, instead = dropped(st.Body, call); drops {
			return drops, classes, instead
		}
		for _, handler := range body[i+1:] {
			if handler.Kind != code.Catch {
				break
			}
			if throws(handler.Body) || handsOn(handler.Body, handler.Name) {
				continue
			}
			drops = true
			if handler.Type == nil || model.SimpleName(handler.Type.Name) == "Exception" {
				classes = nil
			} else {
				classes = append(classes, model.SimpleName(handler.Type.Name))
			}
			if v := returned(handler.Body); v != nil && chain(v) != "null" && chain(v) != "default" {
				instead = true
			}
			if classes == nil {
				break
			}
		}
		return drops, classes, instead
	}
	return false, nil, false
}

// handsOn says whether what a handler returns holds the exception, by its name, or speaks of an error or a failure:
// new Outcome.Bad(e), Result.Failure(…).
func handsOn(handler []code.Stmt, exception string) (found bool) {
	v := returned(handler)
	if v == nil || v.Op != code.Call {
		return false
	}
	code.Walk(v, func(x *code.Expr) {
		found = found || x.Op == code.Name && exception != "" && x.Text == exception
		if x.Op == code.Name || x.Op == code.Member {
			found = found || strings.Contains(x.Text, "rror") || strings.Contains(x.Text, "Fail")
		}
		if x.Type != nil && x.Op == code.Call {
			found = found || strings.Contains(x.Type.Name, "rror") || strings.Contains(x.Type.Name, "Fail")
		}
	})
	return found
}

// standsIn says whether an expression is among some statements.
func standsIn(body []code.Stmt, call *code.Expr) (found bool) {
	code.WalkBody(body, func(e *code.Expr) { found = found || e == call })
	return found
}

// isAnything says whether what is decoded is no class: an element, a node, a dictionary of them.
func isAnything(t *model.Type) bool {
	t = t.Unwrapped()
	switch t.Name {
	case "object", "dynamic", "JsonElement", "JsonNode", "JsonObject", "JsonArray", "JToken", "JObject", "JArray", "JsonDocument":
		return t.Kind == model.Named && t.Model == nil
	}
	return false
}

func listOf(t *model.Type) *model.Type {
	return &model.Type{Kind: model.List, Class: "List", Args: []*model.Type{t}, Linked: true, Pos: t.Pos}
}

// isOurs says whether a call is of a method that the source declares, by what it is called on.
func (a *asking) isOurs(callee *code.Expr, s scope, fn *code.Func) bool {
	if callee.Op == code.Name {
		for d := s.in; d != nil; d = d.outer {
			if d.hasMethod(callee.Text) {
				return true
			}
			if m := a.p.modelOf(d); m.Super != nil && m.Super.Model != nil && a.p.of[m.Super.Model].hasMethod(callee.Text) {
				return true
			}
		}
		return true // of nothing that libraries have
	}
	if len(callee.Args) == 0 {
		return false
	}
	t := a.typeOf(callee.Args[0], fn, s)
	d := a.p.typeNamed(t, s)
	return d != nil && d.hasMethod(callee.Text) || a.extends(callee, t)
}

// extends says whether the source has an extension of a method's name for what the method is called on, t where that is
// told.
func (a *asking) extends(callee *code.Expr, t *model.Type) bool {
	on := ""
	switch of := callee.Args[0]; {
	case t != nil:
		on = model.SimpleName(t.Name)
	case of.Op == code.Member && of.Text == "Content":
		on = "HttpContent"
	}
	return slices.ContainsFunc(a.p.world.Extensions(callee.Text), func(fn *code.Func) bool {
		return len(fn.Params) > 0 && (on == "" || fn.Params[0].Type != nil && model.SimpleName(fn.Params[0].Type.Unwrapped().Name) == on)
	})
}

func (d *declared) hasMethod(name string) bool {
	return slices.ContainsFunc(d.parts, func(c *code.Class) bool {
		return slices.ContainsFunc(c.Funcs, func(f *code.Func) bool { return f.Name == name })
	})
}

// typeOf is the declared type of a value, nil where it is not told.
func (a *asking) typeOf(e *code.Expr, fn *code.Func, s scope) *model.Type {
	if t := a.program.TypeOf(e, fn); t != nil {
		return t.Unwrapped()
	}
	if e.Op == code.Name { // a static class
		if d := a.p.find(e.Text, 0, s.file, s.space, s.in); d != nil {
			return &model.Type{Kind: model.Named, Name: d.name, Model: a.p.modelOf(d)}
		}
	}
	return nil
}

// isSystemTextJSON says whether JsonSerializer is that of System.Text.Json in a file.
func (a *asking) isSystemTextJSON(name, file string) bool {
	if name != "JsonSerializer" {
		t, ok := a.p.aliasOf(name, file)
		if ok {
			name = t.Name
		}
		return strings.HasPrefix(name, "System.Text.Json")
	}
	return a.p.imports(file, "System.Text.Json") || !a.p.imports(file, "Newtonsoft.Json")
}

// label marks the argument that says how to decode, from a place on; it says whether there is one.
func (a *asking) label(e *code.Expr, from int, fn *code.Func) bool {
	for i := from; i < len(e.Args)-1; i++ {
		arg := e.Args[i+1]
		if a.isTypeValue(arg, fn) || e.Labels[i] != "" && e.Labels[i] != "options" && e.Labels[i] != "settings" && e.Labels[i] != "jsonTypeInfo" && e.Labels[i] != "converters" {
			continue
		}
		if name := model.SimpleName(chain(arg)); arg.Op == code.Name && (isToken(name) || name == "null") || strings.HasPrefix(chain(arg), "CancellationToken") {
			continue
		}
		e.Labels[i] = decoderLabel
		return true
	}
	return false
}

// isToken says whether a name is one of a cancellation token.
func isToken(name string) bool {
	switch strings.ToLower(name) {
	case "ct", "token", "cancellationtoken", "cancellation", "canceltoken", "stoppingtoken", "cancel":
		return true
	}
	return false
}

// isTypeValue says whether an expression is a type as a value.
func (a *asking) isTypeValue(e *code.Expr, fn *code.Func) bool {
	if e.Op == code.TypeOf {
		return true
	}
	for _, param := range fn.Params {
		if e.Op == code.Name && param.Name == e.Text && param.Type != nil && param.Type.Name == "Type" {
			return true
		}
	}
	return false
}

// deserialize is a call of a method of that name of an instance: of an element or node, or of a serializer of
// Newtonsoft's.
func (a *asking) deserialize(e *code.Expr, c *model.Call, on *code.Expr, fn *code.Func, s scope) *model.Call {
	t := a.typeOf(on, fn, s)
	name := ""
	if t != nil {
		name = t.Name
	}
	if made := given(on, fn); name == "" && made != nil {
		switch text := chain(made.Args[0]); {
		case strings.HasPrefix(text, "JsonSerializer.Create"), text == "JsonSerializer", text == "Newtonsoft.Json.JsonSerializer":
			name = "JsonSerializer"
		}
	}
	switch {
	case name == "JsonSerializer" || name == "" && len(e.Args) > 1 && a.p.imports(s.file, "Newtonsoft.Json"):
		if c.Type == nil && len(e.Args) < 3 {
			return nil
		}
		c.Settings.Library = newtonsoftJSON
		a.part(c, e, fn, s)
	case name == "JsonElement" || name == "JsonNode" || name == "JsonObject" || name == "JsonArray" || name == "JsonDocument" || name == "" && len(e.Types) == 1 && (a.p.imports(s.file, "System.Text.Json") || a.p.imports(s.file, "System.Text.Json.Nodes")):
		c.Settings.Library = systemTextJSON
		a.label(e, 0, fn)
		lower.Takes(c, code.PartOf(on, e, fn, inward))
	default:
		return nil
	}
	if c.Type != nil {
		c.Declared = c.Type.Written()
	}
	return c
}

// given is the call by which a local value is made, nil for another.
func given(e *code.Expr, fn *code.Func) *code.Expr {
	v := code.Given(e, fn)
	if v != nil && v.Op == code.Cascade {
		v = v.Args[0]
	}
	if v == nil || v.Op != code.Call {
		return nil
	}
	return v
}

// restMethods are those by which RestSharp decodes.
var restMethods = words("ExecuteAsync Execute ExecuteGetAsync ExecutePostAsync GetAsync PostAsync PutAsync GetJsonAsync PostJsonAsync")

func (a *asking) restMethod(name string) string {
	switch {
	case strings.Contains(name, "Get"):
		return "GET"
	case strings.Contains(name, "Post"):
		return "POST"
	case strings.Contains(name, "Put"):
		return "PUT"
	}
	return ""
}
