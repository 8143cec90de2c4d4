package csharp

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// optionWords are names of what says how to decode.
var optionWords = []string{"JsonSerializerOptions", "JsonSerializerSettings", "JsonSerializerContext", "RefitSettings", "UseNewtonsoftJson", "UseSystemTextJson", "DefaultJsonSerializer", "DefaultSettings", "RestService"}

// built are options that the source makes, where, and the names that it gives them.
type built struct {
	settings *model.Settings
	file     string
	from, to int32
	names    []string
	library  string
}

// where is a place in code: in a function, or with none in a type.
type where struct {
	fn   *code.Func
	s    scope
	deep int
}

// maxEvaluated is how often options may lead to others.
const maxEvaluated = 12

// gather finds the options that are made in some files.
func (a *asking) gather(units []*code.Unit) {
	for _, c := range sortedClasses(a.program) {
		if c.Super != nil { // what it hands up at its head
			a.local(&code.Func{Class: c, File: c.File}, []code.Stmt{{Op: code.Do, Value: c.Super}})
		}
		for _, prop := range c.Props {
			if isOptionsType(prop.Type) != "" || prop.Value != nil && makesOptions(prop.Value) {
				at := where{s: a.p.scopeOf(&code.Func{Class: c, File: c.File})}
				v, fn := a.propValue(prop)
				if v == nil {
					continue
				}
				at.fn = fn
				s := a.evaluate(v, at, isOptionsType(prop.Type))
				if s != nil {
					a.mutatedBy(s, c, prop.Name)
					a.made = append(a.made, &built{settings: s, file: c.File, from: v.From, to: v.To, names: []string{prop.Name}, library: s.Library})
				}
			}
		}
	}
	for _, fn := range a.program.Funcs {
		a.local(fn, fn.Body)
	}
}

func sortedClasses(p *code.Program) (all []*code.Class) {
	for _, parts := range p.Classes {
		all = append(all, parts...)
	}
	slices.SortFunc(all, func(x, y *code.Class) int { return before(x.Pos, y.Pos) })
	return all
}

// propValue is what a property holds, and the function that says so; nil where it is handed to its class.
func (a *asking) propValue(prop *code.Prop) (*code.Expr, *code.Func) {
	if prop.Value != nil {
		return prop.Value, nil
	}
	if prop.Get != nil {
		if v := returned(prop.Get.Body); v != nil {
			return v, prop.Get
		}
	}
	if prop.Class != nil {
		for _, fn := range prop.Class.Funcs { // a constructor, of the class itself too
			if !fn.Init && !strings.HasPrefix(fn.Name, "static ") {
				continue
			}
			for i := range fn.Body {
				if st := &fn.Body[i]; st.Op == code.Assign && st.Name == prop.Name && st.Value != nil && (makesOptions(st.Value) || st.Value.Op == code.Choice) {
					return st.Value, fn
				}
			}
		}
	}
	return nil, nil
}

// returned is the one value that some statements return, nil for none or several.
func returned(body []code.Stmt) (v *code.Expr) {
	n := 0
	var in func(all []code.Stmt)
	in = func(all []code.Stmt) {
		for i := range all {
			if all[i].Op == code.Return && all[i].Value != nil {
				v = all[i].Value
				n++
			}
			in(all[i].Body)
		}
	}
	in(body)
	if n != 1 {
		return nil
	}
	return v
}

// makesOptions says whether an expression makes options on the spot, by the look of it.
func makesOptions(e *code.Expr) (found bool) {
	code.Walk(e, func(x *code.Expr) {
		if x.Op == code.Call && (x.Type != nil && isOptionsType(x.Type) != "" || strings.HasPrefix(chain(x.Args[0]), "JsonSerializer.Create")) {
			found = true
		}
	})
	return found
}

// isOptionsType is the library whose options a type is, "" for another type.
func isOptionsType(t *model.Type) string {
	if t == nil {
		return ""
	}
	switch model.SimpleName(t.Unwrapped().Name) {
	case "JsonSerializerOptions":
		return systemTextJSON
	case "JsonSerializerSettings":
		return newtonsoftJSON
	case "JsonSerializer":
		return newtonsoftJSON
	}
	return ""
}

// local finds those that a function makes: for a name of its own, or to be returned.
func (a *asking) local(fn *code.Func, body []code.Stmt) {
	at := where{fn: fn, s: a.p.scopeOf(fn)}
	for i := range body {
		st := &body[i]
		if v := st.Value; v != nil && st.Op != code.Block {
			want := isOptionsType(st.Type)
			if st.Op == code.Return {
				want = isOptionsType(fn.Returns)
			}
			if makesOptions(v) || want != "" && v.Op == code.Call {
				direct := a.isDirect(v)
				var s *model.Settings
				if direct || st.Op == code.Return {
					s = a.evaluate(v, at, want)
				}
				switch {
				case s != nil:
					var names []string
					if st.Op == code.Return {
						names = []string{fn.Name}
					} else if st.Name != "" {
						names = []string{st.Name}
						a.mutated(s, fn.Body, st.Name, at)
					}
					a.made = append(a.made, &built{settings: s, file: fn.File, from: v.From, to: v.To, names: names, library: s.Library})
				case !direct: // inside of a call
					code.Walk(v, func(x *code.Expr) {
						if x.To > 0 && a.isDirect(x) {
							if s := a.evaluate(x, at, ""); s != nil {
								a.made = append(a.made, &built{settings: s, file: fn.File, from: x.From, to: x.To, library: s.Library})
							}
						}
					})
				}
			}
		}
		a.local(fn, st.Body)
	}
}

// isDirect says whether an expression is itself what makes options.
func (a *asking) isDirect(e *code.Expr) bool {
	if e.Op == code.Cascade {
		e = e.Args[0]
	}
	return e.Op == code.Call && (e.Type != nil && isOptionsType(e.Type) != "" || strings.HasPrefix(chain(e.Args[0]), "JsonSerializer.Create"))
}

// mutatedBy takes in what the static constructor of a class, or one of an instance, does to a field behind making it.
func (a *asking) mutatedBy(s *model.Settings, c *code.Class, name string) {
	for _, fn := range c.Funcs {
		if fn.Init || strings.HasPrefix(fn.Name, "static ") {
			a.mutated(s, fn.Body, name, where{fn: fn, s: a.p.scopeOf(fn)})
		}
	}
}

// mutated takes in what is done to options behind making them: x.Name = value, x.Converters.Add(…).
func (a *asking) mutated(s *model.Settings, body []code.Stmt, name string, at where) {
	own := func(e *code.Expr) bool { return chain(e) == name || chain(e) == "this."+name }
	for i := range body {
		st := &body[i]
		switch {
		case st.Op == code.Assign && st.Of != nil && own(st.Of):
			a.set(s, st.Name, st.Value, at)
		case st.Value != nil && st.Value.Op == code.Call && st.Value.Args[0].Op == code.Member && len(st.Value.Args[0].Args) == 1:
			callee := st.Value.Args[0]
			on := callee.Args[0]
			if callee.Text == "Add" && on.Op == code.Member && len(on.Args) == 1 && own(on.Args[0]) && on.Text == "Converters" && len(st.Value.Args) == 2 {
				a.converter(s, st.Value.Args[1], at)
			} else if on.Op == code.Member && len(on.Args) == 1 && own(on.Args[0]) && on.Text == "TypeInfoResolverChain" && len(st.Value.Args) > 1 {
				a.resolver(s, st.Value.Args[len(st.Value.Args)-1], at) // Add(x), Insert(0, x)
			} else if own(on) && !strings.HasPrefix(callee.Text, "MakeReadOnly") && (callee.Text == "Configure" || strings.HasPrefix(callee.Text, "Add")) {
				unfollowed(s, callee.Text, st.Value.Pos)
			}
		}
		a.mutated(s, st.Body, name, at)
	}
}

func unfollowed(s *model.Settings, what string, pos model.Pos) {
	if _, told := s.Options["unfollowed"]; !told {
		s.Options["unfollowed"] = model.Option{Value: what, Pos: pos}
	}
}

// evaluate is what an expression says of how to decode, nil where that is not known. want is the library whose options
// are wanted there, "" where that is not told.
func (a *asking) evaluate(e *code.Expr, at where, want string) *model.Settings {
	if at.deep++; e == nil || at.deep > maxEvaluated {
		return nil
	}
	switch e.Op {
	case code.Cascade:
		s := a.evaluate(e.Args[0], at, want)
		if s == nil {
			return nil
		}
		s = cloned(s)
		for _, section := range e.Args[1:] {
			a.section(s, section, at)
		}
		return s
	case code.Call:
		return a.makes(e, at, want)
	case code.Name:
		return a.byName(e, at, want)
	case code.Member:
		return a.byMember(e, at, want)
	case code.Choice:
		if len(e.Body) == 0 && len(e.Args) == 2 { // handed ?? own
			if s := a.evaluate(e.Args[0], at, want); s != nil {
				return s
			}
			return a.evaluate(e.Args[1], at, want)
		}
		if len(e.Args) == 1 {
			return a.evaluate(e.Args[0], at, want)
		}
	case code.Set: // _options ??= new …
		if len(e.Args) == 2 {
			return a.evaluate(e.Args[1], at, want)
		}
	case code.As:
		return a.evaluate(e.Args[0], at, want)
	}
	return nil
}

func cloned(s *model.Settings) *model.Settings {
	out := *s
	out.Options = map[string]model.Option{}
	for k, v := range s.Options {
		out.Options[k] = v
	}
	out.Adapters, out.Modifiers = slices.Clone(s.Adapters), slices.Clone(s.Modifiers)
	return &out
}

func plain(library string, pos model.Pos) *model.Settings {
	return &model.Settings{Library: library, Pos: pos, Options: map[string]model.Option{}}
}

// makes is what a call makes: options by their constructor, or by a function of the app.
func (a *asking) makes(e *code.Expr, at where, want string) *model.Settings {
	callee := e.Args[0]
	library := isOptionsType(e.Type)
	if callee.Op == code.Name && callee.Text == "new" && e.Type == nil {
		library = want
	}
	if library != "" {
		s := plain(library, e.Pos)
		if len(e.Args) > 1 {
			switch name := chain(e.Args[1]); {
			case strings.HasSuffix(name, "JsonSerializerDefaults.Web"), strings.HasSuffix(name, "JsonSerializerDefaults.Strict"):
				defaults(s, model.SimpleName(name), e.Pos)
			case strings.HasSuffix(name, "JsonSerializerDefaults.General"):
			default:
				of := a.evaluate(e.Args[1], at, library)
				if of == nil {
					s.Why = "the options are copied from others that are not followed"
					return s
				}
				s = cloned(of)
				s.Pos = e.Pos
			}
		}
		return s
	}
	name := chain(callee)
	switch {
	case strings.HasSuffix(name, "JsonSerializer.Create"), strings.HasSuffix(name, "JsonSerializer.CreateDefault"):
		if len(e.Args) == 1 {
			return a.byDefault(plain(newtonsoftJSON, e.Pos))
		}
		return a.evaluate(e.Args[1], at, newtonsoftJSON)
	case e.Type != nil && want == newtonsoftJSON && a.isConverter(e.Type, at.s): // of which DeserializeObject takes some
		s := a.byDefault(plain(newtonsoftJSON, e.Pos))
		s = cloned(s)
		a.converter(s, e, at)
		return s
	case e.Type != nil: // a context that is given options: new AppContext(options)
		if d := a.p.typeNamed(e.Type, at.s); d != nil {
			if s := a.context(d); s != nil {
				if len(e.Args) > 1 {
					if of := a.evaluate(e.Args[1], at, systemTextJSON); of != nil {
						of = cloned(of)
						of.Options["generated"], of.Options["context"] = model.Option{Value: "true", Pos: e.Pos}, s.Options["context"]
						return of
					}
				}
				return s
			}
		}
		return nil
	case callee.Op == code.Name || callee.Op == code.Member:
		if callee.Op == code.Member && callee.Text == "Add" {
			return nil
		}
		for _, fn := range a.program.FuncsOf(callee.Text) {
			if v := returned(fn.Body); v != nil {
				inner := where{fn: fn, s: a.p.scopeOf(fn), deep: at.deep}
				if fn.Receiver && callee.Op == code.Member && len(callee.Args) == 1 && v.Op == code.Name && isOptionsType(fn.Returns) != "" {
					if s := a.evaluate(callee.Args[0], at, want); s != nil { // what it extends, changed
						s = cloned(s)
						a.mutated(s, fn.Body, v.Text, inner)
						return s
					}
				}
				if s := a.evaluate(v, inner, isOptionsType(fn.Returns)); s != nil {
					return s
				}
			}
		}
	}
	return nil
}

// isConverter says whether a type is a converter of Newtonsoft.Json's, or one of the app's.
func (a *asking) isConverter(t *model.Type, s scope) bool {
	d := a.p.findAny(t.Name, s)
	if d == nil {
		return strings.HasSuffix(model.SimpleName(t.Name), "Converter")
	}
	return slices.ContainsFunc(d.parts, func(c *code.Class) bool {
		return slices.ContainsFunc(c.Supers, func(t *model.Type) bool { return strings.HasSuffix(model.SimpleName(t.Name), "Converter") })
	})
}

// byName is what a name says: of the function, of its class, of those around.
func (a *asking) byName(e *code.Expr, at where, want string) *model.Settings {
	if e.Text == "null" || e.Text == "default" {
		return nil
	}
	if at.fn != nil {
		for _, param := range at.fn.Params {
			if param.Name == e.Text {
				return a.evaluate(param.Default, at, want)
			}
		}
		if v := code.Given(e, at.fn); v != e {
			s := a.evaluate(v, at, want)
			if s != nil {
				s = cloned(s)
				a.mutated(s, at.fn.Body, e.Text, at)
			}
			return s
		}
	}
	for d := at.s.in; d != nil; d = d.outer {
		if s := a.ofType(d, e.Text, at); s != nil {
			return s
		}
	}
	for _, class := range a.p.static[at.s.file] {
		if d := a.p.find(class, 0, at.s.file, at.s.space, nil); d != nil {
			if s := a.ofType(d, e.Text, at); s != nil {
				return s
			}
		}
	}
	return nil
}

// ofType is what a member of a type says, or of one that it extends.
func (a *asking) ofType(d *declared, name string, at where) *model.Settings {
	for deep := 0; d != nil && deep < 8; deep++ {
		for _, part := range a.program.Classes[model.SimpleName(d.name)] {
			if a.p.byFull(part) != d {
				continue
			}
			for _, prop := range part.Props {
				if prop.Name != name {
					continue
				}
				v, fn := a.propValue(prop)
				if v == nil {
					continue
				}
				inner := where{fn: fn, s: a.p.scopeOf(&code.Func{Class: part, File: part.File}), deep: at.deep}
				of := isOptionsType(prop.Type)
				if t := prop.Type; t != nil && model.SimpleName(t.Name) == "Lazy" && len(t.Args) == 1 {
					if v.Op == code.Call && len(v.Args) > 1 && v.Args[1].Op == code.Lambda {
						inner.fn = &code.Func{Class: part, File: part.File, Body: v.Args[1].Body}
						v = returned(inner.fn.Body)
					}
					of = isOptionsType(t.Args[0])
				}
				if s := a.evaluate(targeted(v, prop.Type), inner, of); s != nil {
					s = cloned(s)
					a.mutatedBy(s, part, name)
					return s
				}
			}
		}
		m := a.p.modelOf(d)
		a.p.fill()
		if d = nil; m.Super != nil && m.Super.Model != nil {
			d = a.p.of[m.Super.Model]
		}
	}
	return nil
}

// byMember is what a member says: of the library, of a class of the app.
func (a *asking) byMember(e *code.Expr, at where, want string) *model.Settings {
	name := chain(e)
	switch {
	case strings.HasSuffix(name, "JsonSerializerOptions.Web"), strings.HasSuffix(name, "JsonSerializerOptions.Strict"):
		s := plain(systemTextJSON, e.Pos)
		defaults(s, model.SimpleName(name), e.Pos)
		return s
	case strings.HasSuffix(name, "JsonSerializerOptions.Default"):
		return plain(systemTextJSON, e.Pos)
	case strings.HasPrefix(name, "this."):
		return a.byName(&code.Expr{Op: code.Name, Text: e.Text, Pos: e.Pos}, at, want)
	}
	if s := a.ofContext(e, at.s); s != nil {
		return s
	}
	if len(e.Args) != 1 {
		return nil
	}
	if e.Text == "Value" { // of a Lazy
		return a.evaluate(e.Args[0], at, want)
	}
	if of := chain(e.Args[0]); of != "" {
		if d := a.p.find(of, 0, at.s.file, at.s.space, at.s.in); d != nil {
			return a.ofType(d, e.Text, at)
		}
	}
	if at.fn != nil {
		if t := a.typeOf(e.Args[0], at.fn, at.s); t != nil {
			if d := a.p.typeNamed(t, at.s); d != nil {
				if a.context(d) != nil { // what a context knows of a type is read as the context is set up
					return a.evaluate(e.Args[0], at, want)
				}
				return a.ofType(d, e.Text, at)
			}
		}
	}
	return nil
}
