package csharp

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// web are the options that the HTTP client's own methods have where they are given none.
func web(s *model.Settings, pos model.Pos) { defaults(s, "Web", pos) }

// defaults are the options of JsonSerializerDefaults.
func defaults(s *model.Settings, name string, pos model.Pos) {
	set := func(option, value string) { s.Options[option] = model.Option{Value: value, Pos: pos} }
	switch name {
	case "Web":
		set("PropertyNameCaseInsensitive", "true")
		set("PropertyNamingPolicy", "CamelCase")
		set("NumberHandling", "AllowReadingFromString")
	case "Strict":
		set("UnmappedMemberHandling", "Disallow")
		set("AllowDuplicateProperties", "false")
		set("RespectNullableAnnotations", "true")
		set("RespectRequiredConstructorParameters", "true")
	}
}

// section takes in one of what is written in braces behind options that are made.
func (a *asking) section(s *model.Settings, e *code.Expr, at where) {
	switch {
	case e.Op == code.Set && e.Args[0].Op == code.Member:
		a.set(s, e.Args[0].Text, e.Args[1], at)
	case e.Op == code.Cascade && e.Args[0].Op == code.Member && e.Args[0].Text == "Converters":
		for _, add := range e.Args[1:] {
			if add.Op == code.Call && len(add.Args) == 2 {
				a.converter(s, add.Args[1], at)
			}
		}
	case e.Op == code.Cascade && e.Args[0].Op == code.Member && e.Args[0].Text == "TypeInfoResolverChain":
		for _, add := range e.Args[1:] {
			if add.Op == code.Call && len(add.Args) == 2 {
				a.resolver(s, add.Args[1], at)
			}
		}
	case e.Op == code.Cascade && e.Args[0].Op == code.Member:
		if !idle[e.Args[0].Text] {
			unfollowed(s, e.Args[0].Text, e.Pos)
		}
	}
}

// idle are settings that say nothing of how a response becomes an object.
var idle = words(`WriteIndented Encoder DictionaryKeyPolicy DefaultBufferSize IgnoreReadOnlyProperties IgnoreReadOnlyFields ReadCommentHandling AllowTrailingCommas DefaultIgnoreCondition
	UnknownTypeHandling TypeInfoResolverChain IndentCharacter IndentSize NewLine Formatting StringEscapeHandling TypeNameAssemblyFormatHandling TypeNameAssemblyFormat PreserveReferencesHandling
	ReferenceLoopHandling FloatFormatHandling TraceWriter Culture Context SerializationBinder EqualityComparer DateFormatHandling MaxDepth_`)

// set takes in what a member of options is given.
func (a *asking) set(s *model.Settings, name string, v *code.Expr, at where) {
	if idle[name] || v == nil {
		return
	}
	texts := a.p.argumentTexts(v, at.s)
	text := strings.Join(texts, ",")
	put := func(value string) { s.Options[name] = model.Option{Value: value, Pos: v.Pos} }
	if s.Library == newtonsoftJSON && a.setNewtonsoft(s, name, v, texts, at) {
		return
	}
	switch name {
	case "PropertyNamingPolicy":
		switch {
		case text == "null":
			delete(s.Options, name)
		case strings.HasPrefix(chain(v), "JsonNamingPolicy.") || strings.Contains(chain(v), ".JsonNamingPolicy."):
			put(text)
		case a.ownNaming(v, "JsonNamingPolicy", at) != "":
			put(byCode + a.ownNaming(v, "JsonNamingPolicy", at))
		default:
			unfollowed(s, "the naming policy "+a.p.written(v, at.s), v.Pos)
		}
	case "PropertyNameCaseInsensitive", "IncludeFields", "RespectNullableAnnotations", "RespectRequiredConstructorParameters", "AllowOutOfOrderMetadataProperties", "IgnoreNullValues", "AllowDuplicateProperties":
		if text != "true" && text != "false" {
			unfollowed(s, name, v.Pos)
		} else {
			put(text)
		}
	case "NumberHandling", "UnmappedMemberHandling", "PreferredObjectCreationHandling":
		put(text)
	case "MaxDepth":
		put(text)
	case "ReferenceHandler":
		if text != "IgnoreCycles" && text != "null" {
			unfollowed(s, "ReferenceHandler."+text, v.Pos)
		}
	case "TypeInfoResolver":
		a.resolver(s, v, at)
	case "Converters":
		if v.Op == code.List {
			for _, x := range v.Args {
				a.converter(s, x, at)
			}
		} else {
			unfollowed(s, "Converters", v.Pos)
		}
	default:
		unfollowed(s, name, v.Pos)
	}
}

// byCode stands before the full name of a class of the app's that makes names.
const byCode = "code:"

// ownNaming is the class of the app's that a value is made of, if it extends one of a library that makes names; "" for
// none.
func (a *asking) ownNaming(v *code.Expr, extends string, at where) string {
	if v.Op == code.Name || v.Op == code.Member {
		v = a.valueOf(v, at)
	}
	if v == nil || v.Op != code.Call || v.Type == nil {
		return ""
	}
	d := a.p.typeNamed(v.Type, at.s)
	if d == nil {
		return ""
	}
	for _, c := range d.parts {
		for _, t := range c.Supers {
			if model.SimpleName(t.Name) == extends {
				return d.full()
			}
		}
	}
	return ""
}

// resolver takes in what a TypeInfoResolver is given: one of reflection as it is changes nothing, a generated context
// only how absent members of init fare.
func (a *asking) resolver(s *model.Settings, v *code.Expr, at where) {
	switch {
	case v.Op == code.Call && v.Type != nil && model.SimpleName(v.Type.Name) == "DefaultJsonTypeInfoResolver":
		s.Options["reflection"] = model.Option{Value: "true", Pos: v.Pos}
	case v.Op == code.Cascade && v.Args[0].Type != nil && model.SimpleName(v.Args[0].Type.Name) == "DefaultJsonTypeInfoResolver":
		for _, section := range v.Args[1:] {
			if section.Args[0].Text != "Modifiers" || section.Op != code.Cascade {
				unfollowed(s, "a TypeInfoResolver with modifiers", v.Pos)
				continue
			}
			for _, x := range section.Args[1:] { // Add of each
				if x.Op == code.Call && len(x.Args) == 2 {
					a.modifier(s, x.Args[1], at)
				}
			}
		}
	case v.Op == code.Call && v.Args[0].Op == code.Member && v.Args[0].Text == "WithAddedModifier" && len(v.Args) == 2:
		a.resolver(s, v.Args[0].Args[0], at)
		a.modifier(s, v.Args[1], at)
	case chain(v) == "null":
	case a.ofContext(v, at.s) != nil:
		known := a.ofContext(v, at.s).Options["context"]
		if before := s.Options["context"].Value; before != "" {
			known.Value += "," + before
		}
		s.Options["generated"], s.Options["context"] = model.Option{Value: "true", Pos: v.Pos}, known
	case v.Op == code.Call && strings.HasSuffix(chain(v.Args[0]), "JsonTypeInfoResolver.Combine"):
		for _, x := range v.Args[1:] {
			a.resolver(s, x, at)
		}
	default:
		unfollowed(s, "TypeInfoResolver", v.Pos)
	}
}

// modifier takes in a function that changes what is known of a class: a lambda, or a method.
func (a *asking) modifier(s *model.Settings, x *code.Expr, at where) {
	var in *code.Declared
	if at.s.in != nil {
		in = at.s.in.code
	}
	switch {
	case x.Op == code.Lambda && x.Fn != nil:
		s.Modifiers = append(s.Modifiers, &code.Modifier{Fn: x.Fn, In: in})
		return
	case x.Op == code.Name && in != nil:
		for _, part := range in.Parts {
			for _, fn := range part.Funcs {
				if fn.Name == x.Text && len(fn.Params) == 1 {
					s.Modifiers = append(s.Modifiers, &code.Modifier{Fn: fn, In: in})
					return
				}
			}
		}
	}
	unfollowed(s, "a TypeInfoResolver with modifiers", x.Pos)
}

// converter takes in a converter that options are given.
func (a *asking) converter(s *model.Settings, e *code.Expr, at where) {
	call := e
	if e.Op == code.Cascade {
		call = e.Args[0]
	}
	if call.Op != code.Call || call.Type == nil {
		unfollowed(s, "a converter ("+a.p.written(e, at.s)+")", e.Pos)
		return
	}
	name := model.SimpleName(call.Type.Name)
	switch {
	case s.Library == newtonsoftJSON && a.newtonsoftConverter(s, name, e, call, at):
		return
	case name == "JsonStringEnumConverter":
		a.enumConverter(s, call, at)
		return
	}
	before := len(s.Adapters)
	a.converterNamed(s, call.Type.Name, e.Pos, at.s)
	for i := range s.Adapters[before:] {
		for _, t := range call.Type.Args {
			s.Adapters[before+i].Delegates = append(s.Adapters[before+i].Delegates, a.p.resolve(t, at.s))
		}
	}
}

// enumConverter takes in the JsonStringEnumConverter of System.Text.Json: a policy, and whether numbers are taken.
func (a *asking) enumConverter(s *model.Settings, call *code.Expr, at where) {
	policy, integers := "", ""
	for i, arg := range call.Args[1:] {
		label := call.Labels[i]
		switch {
		case label == "allowIntegerValues" || label == "" && i == 1:
			if chain(arg) == "false" {
				integers = ":nointegers"
			}
		case chain(arg) == "null":
		case strings.Contains(chain(arg), "JsonNamingPolicy."):
			policy = model.SimpleName(chain(arg))
		case a.ownNaming(arg, "JsonNamingPolicy", at) != "":
			policy = "code=" + a.ownNaming(arg, "JsonNamingPolicy", at)
		default:
			policy = a.p.written(arg, at.s)
		}
	}
	value := "names"
	if policy != "" || integers != "" {
		value += ":" + policy + integers
	}
	if len(call.Types) == 1 {
		s.Adapters = append(s.Adapters, model.Adapter{Name: "JsonStringEnumConverter", Of: a.p.resolve(call.Types[0], at.s), Form: value, Pos: call.Pos})
		return
	}
	if _, told := s.Options["enums"]; !told { // the first that can read a type does
		s.Options["enums"] = model.Option{Value: value, Pos: call.Pos}
	}
}

// converterNamed takes in a converter of the app's: what it extends says of which type it is.
func (a *asking) converterNamed(s *model.Settings, name string, pos model.Pos, in scope) {
	of := a.convertedBy(name, in)
	if of == nil && (s.Library != newtonsoftJSON || a.p.findAny(name, in) == nil) {
		unfollowed(s, "the converter "+model.SimpleName(name), pos)
		return
	}
	s.Adapters = append(s.Adapters, model.Adapter{Name: model.SimpleName(name), Form: a.fullName(name, in), Of: of, Pos: pos})
}

// fullName is a type of the source by its full name.
func (a *asking) fullName(name string, in scope) string {
	if d := a.p.findAny(name, in); d != nil {
		return d.full()
	}
	return name
}

// convertedBy is the type that a converter of the app's reads, nil where that is not told.
func (a *asking) convertedBy(name string, in scope) *model.Type {
	d := a.p.findAny(name, in)
	if d == nil || len(d.params) > 0 {
		return nil
	}
	for _, part := range d.parts {
		for _, t := range part.Supers {
			if (model.SimpleName(t.Name) == "JsonConverter" || model.SimpleName(t.Name) == "CustomCreationConverter") && len(t.Args) == 1 {
				return a.p.resolve(t.Args[0], scope{file: part.File, space: d.space, in: d})
			}
		}
	}
	return nil
}

// decoder are the settings of what decodes at a call by the names that it goes by; nil where those of the call stay.
func (a *asking) decoder(c *model.Call, n code.Named) *model.Settings {
	if c.Settings == nil || len(n.Names) == 0 || c.Settings.Options["client"].Value != "" {
		return nil
	}
	for _, name := range n.Names {
		if name.To > 0 {
			var found []*built
			for _, b := range a.made {
				if b.file == name.File && b.from >= name.From && b.to <= name.To && b.to > 0 && b.library == c.Settings.Library {
					found = append(found, b)
				}
			}
			if len(found) > 0 {
				return a.with(c, widest(found).settings)
			}
		}
		if name.Text == "" {
			continue
		}
		var here, all []*built
		for _, b := range a.made {
			if slices.Contains(b.names, name.Text) && b.library == c.Settings.Library {
				all = append(all, b)
				if b.file == n.File {
					here = append(here, b)
				}
			}
		}
		switch {
		case len(here) == 1:
			return a.with(c, here[0].settings)
		case len(all) == 1:
			return a.with(c, all[0].settings)
		}
	}
	return nil
}

// widest is the one around the others.
func widest(all []*built) *built {
	best := all[0]
	for _, b := range all {
		if b.to-b.from > best.to-best.from {
			best = b
		}
	}
	return best
}

// with are settings at a call, which may say more by itself.
func (a *asking) with(c *model.Call, s *model.Settings) *model.Settings {
	if o, ok := c.Settings.Options["tokens"]; ok {
		s = cloned(s)
		s.Options["tokens"] = o
	}
	return s
}
