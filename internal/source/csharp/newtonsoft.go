package csharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// setNewtonsoft takes in what a member of JsonSerializerSettings is given, and says whether it is one of its own.
func (a *asking) setNewtonsoft(s *model.Settings, name string, v *code.Expr, texts []string, at where) bool {
	text := strings.Join(texts, ",")
	put := func(value string) { s.Options[name] = model.Option{Value: value, Pos: v.Pos} }
	switch name {
	case "NullValueHandling", "DefaultValueHandling", "MissingMemberHandling", "ObjectCreationHandling", "DateParseHandling", "DateTimeZoneHandling", "FloatParseHandling",
		"MetadataPropertyHandling", "ConstructorHandling", "CheckAdditionalContent", "DateFormatString", "TypeNameHandling", "MaxDepth":
		put(text)
	case "ContractResolver":
		a.contracts(s, v, at)
	case "Error":
		put("handled")
		if v.Op != code.Lambda || !strings.Contains(a.p.written(v, at.s), "Handled = true") {
			unfollowed(s, "an error handler", v.Pos)
		}
	case "Converters":
		if v.Op != code.List && v.Op != code.Cascade {
			unfollowed(s, "Converters", v.Pos)
			break
		}
		for i, x := range v.Args {
			if v.Op == code.Cascade {
				if i == 0 || x.Op != code.Call || len(x.Args) != 2 {
					continue
				}
				x = x.Args[1]
			}
			a.converter(s, x, at)
		}
	default:
		return false
	}
	return true
}

// contracts takes in a contract resolver: those of the library with their naming strategies.
func (a *asking) contracts(s *model.Settings, v *code.Expr, at where) {
	made, sections := v, []*code.Expr(nil)
	if v.Op == code.Cascade {
		made, sections = v.Args[0], v.Args[1:]
	}
	if v.Op == code.Name || v.Op == code.Member && !strings.Contains(chain(v), "DefaultContractResolver") {
		if of := a.valueOf(v, at); of != nil && of != v {
			a.contracts(s, of, at)
			return
		}
	}
	name := ""
	if made.Type != nil {
		name = model.SimpleName(made.Type.Name)
	}
	switch name {
	case "CamelCasePropertyNamesContractResolver":
		s.Options["naming"] = model.Option{Value: "CamelCaseNamingStrategy:dictionaries,specified", Pos: v.Pos}
	case "DefaultContractResolver":
	default:
		if a.resolverOfApp(s, made, at) {
			break
		}
		unfollowed(s, "the contract resolver "+a.p.written(v, at.s), v.Pos)
		return
	}
	for _, x := range sections {
		if x.Op == code.Set && x.Args[0].Op == code.Member && x.Args[0].Text == "NamingStrategy" {
			a.strategy(s, x.Args[1], at)
		} else if x.Op == code.Set && x.Args[0].Text != "IgnoreSerializableInterface" && x.Args[0].Text != "IgnoreSerializableAttribute" {
			unfollowed(s, "the contract resolver "+a.p.written(v, at.s), v.Pos)
		}
	}
}

// resolverOfApp takes in a contract resolver of the app's that only chooses a naming strategy, and says whether it is one.
func (a *asking) resolverOfApp(s *model.Settings, made *code.Expr, at where) bool {
	if made.Type == nil {
		return false
	}
	d := a.p.typeNamed(made.Type, at.s)
	if d == nil || len(d.parts) != 1 {
		return false
	}
	c := d.parts[0]
	for _, t := range c.Supers {
		switch model.SimpleName(t.Name) {
		case "CamelCasePropertyNamesContractResolver":
			s.Options["naming"] = model.Option{Value: "CamelCaseNamingStrategy:dictionaries,specified", Pos: made.Pos}
		case "DefaultContractResolver":
		default:
			return false
		}
	}
	in := where{s: scope{file: c.File, space: d.space, in: d}}
	for _, fn := range c.Funcs {
		if fn.Name == "ResolvePropertyName" {
			s.Options["naming"] = model.Option{Value: byCode + d.full() + ":specified", Pos: made.Pos}
			continue
		}
		if fn.Name == "CreateProperty" && len(fn.Params) == 2 {
			s.Options["members"] = model.Option{Value: byCode + d.full(), Pos: made.Pos}
			continue
		}
		if !fn.Init {
			return false
		}
		for _, as := range assignments(fn.Do()) {
			if as.name != "NamingStrategy" || as.value == nil {
				return false
			}
			a.strategy(s, as.value, in)
		}
	}
	return len(c.Supers) > 0
}

// valueOf is what a name is given, itself where that is not followed.
func (a *asking) valueOf(e *code.Expr, at where) *code.Expr {
	if e.Op == code.Name && at.fn != nil {
		if v := code.Given(e, at.fn); v != e {
			return v
		}
	}
	name := e.Text
	d := at.s.in
	if e.Op == code.Member {
		d = a.p.find(chain(e.Args[0]), 0, at.s.file, at.s.space, at.s.in)
	}
	for ; d != nil; d = d.outer {
		if v, _ := a.p.constant(d, name, 0); v != nil {
			return v
		}
	}
	return e
}

// strategy takes in a naming strategy.
func (a *asking) strategy(s *model.Settings, v *code.Expr, at where) {
	made, sections := v, []*code.Expr(nil)
	if v.Op == code.Cascade {
		made, sections = v.Args[0], v.Args[1:]
	}
	name := ""
	if made.Type != nil {
		name = model.SimpleName(made.Type.Name)
	}
	if own := a.ownNaming(made, "NamingStrategy", at); own != "" && len(sections) == 0 {
		s.Options["naming"] = model.Option{Value: byCode + own, Pos: v.Pos}
		return
	}
	if !strategies[name] {
		unfollowed(s, "the naming strategy "+a.p.written(v, at.s), v.Pos)
		return
	}
	var flags []string
	flag := func(what string, e *code.Expr) {
		if chain(e) == "true" {
			flags = append(flags, what)
		}
	}
	for i, arg := range made.Args[min(1, len(made.Args)):] { // processDictionaryKeys, overrideSpecifiedNames
		switch label := made.Labels[i]; {
		case label == "processDictionaryKeys" || label == "" && i == 0:
			flag("dictionaries", arg)
		case label == "overrideSpecifiedNames" || label == "" && i == 1:
			flag("specified", arg)
		}
	}
	for _, x := range sections {
		if x.Op != code.Set {
			continue
		}
		switch x.Args[0].Text {
		case "ProcessDictionaryKeys":
			flag("dictionaries", x.Args[1])
		case "OverrideSpecifiedNames":
			flag("specified", x.Args[1])
		}
	}
	value := name
	if len(flags) > 0 {
		value += ":" + strings.Join(flags, ",")
	}
	s.Options["naming"] = model.Option{Value: value, Pos: v.Pos}
}

var strategies = words("CamelCaseNamingStrategy SnakeCaseNamingStrategy KebabCaseNamingStrategy DefaultNamingStrategy")

// newtonsoftConverter takes in a converter of the library's, and says whether it is one.
func (a *asking) newtonsoftConverter(s *model.Settings, name string, e, call *code.Expr, at where) bool {
	switch name {
	case "StringEnumConverter":
		value, integers := "names", ""
		for i, arg := range call.Args[1:] {
			switch {
			case call.Labels[i] == "allowIntegerValues" || call.Labels[i] == "" && i == 1:
				if chain(arg) == "false" {
					integers = ",nointegers"
				}
			case arg.Op == code.Call && arg.Type != nil:
				value += ":" + model.SimpleName(arg.Type.Name)
			case arg.Op == code.TypeOf:
				value += ":" + model.SimpleName(arg.Text)
			}
		}
		if e.Op == code.Cascade {
			for _, x := range e.Args[1:] {
				if x.Op == code.Set && x.Args[0].Text == "NamingStrategy" && x.Args[1].Type != nil {
					value += ":" + model.SimpleName(x.Args[1].Type.Name)
				} else if x.Op == code.Set && x.Args[0].Text == "AllowIntegerValues" && chain(x.Args[1]) == "false" {
					integers = ",nointegers"
				}
			}
		}
		s.Options["enums"] = model.Option{Value: value + integers, Pos: e.Pos}
	case "UnixDateTimeConverter", "JavaScriptDateTimeConverter":
		s.Options["dates"] = model.Option{Value: name, Pos: e.Pos}
	case "IsoDateTimeConverter":
		value := name
		if e.Op == code.Cascade {
			for _, x := range e.Args[1:] {
				if x.Op == code.Set && x.Args[0].Text == "DateTimeFormat" {
					value += ":" + a.p.value(x.Args[1], at.s, 0).Text
				}
			}
		}
		s.Options["dates"] = model.Option{Value: value, Pos: e.Pos}
	case "VersionConverter", "KeyValuePairConverter", "ExpandoObjectConverter":
	default:
		return false
	}
	return true
}

// byDefault are settings over what JsonConvert.DefaultSettings says, where the app sets that.
func (a *asking) byDefault(s *model.Settings) *model.Settings {
	if a.defaultSettings == nil {
		return s
	}
	out := cloned(a.defaultSettings)
	out.Pos = a.defaultSettings.Pos
	for k, v := range s.Options {
		out.Options[k] = v
	}
	return out
}

// findDefaults finds what JsonConvert.DefaultSettings is given.
func (a *asking) findDefaults() {
	for _, fn := range a.program.Funcs {
		at := where{fn: fn, s: a.p.scopeOf(fn)}
		var look func(body []code.Stmt)
		look = func(body []code.Stmt) {
			for i := range body {
				st := &body[i]
				if st.Op == code.Assign && st.Name == "DefaultSettings" && st.Of != nil && model.SimpleName(chain(st.Of)) == "JsonConvert" && st.Value != nil {
					v := st.Value
					if v.Op == code.Lambda {
						v = returned(v.Body)
					}
					if s := a.evaluate(v, at, newtonsoftJSON); s != nil {
						a.defaultSettings = s
					}
				}
				look(st.Body)
			}
		}
		look(fn.Body)
	}
}
