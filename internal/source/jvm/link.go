package jvm

import (
	"slices"
	"sort"
	"strings"

	"vetta/internal/model"
)

// Link makes models of what files declare: of the classes that code decodes, that
// annotations of a library mark, or that hold nothing but data; and of those that
// these lead to.
func Link(files []*File) *model.Set {
	set := &model.Set{Files: len(files)}
	p := newProject(files)
	var all []*Class
	var visit func(c *Class)
	visit = func(c *Class) {
		if c.Kind != "annotation" && c.Kind != "object" {
			all = append(all, c)
			m := &model.Model{Name: c.FullName(), Package: c.File.Package, Language: c.File.Language, Pos: c.Pos}
			c.model, p.decls[m] = m, c
		}
		for _, n := range c.Nested {
			visit(n)
		}
	}
	for _, f := range files {
		set.Problems = append(set.Problems, f.Problems...)
		set.Bytes += int64(len(f.Src))
		for _, c := range f.Classes {
			visit(c)
		}
	}
	for _, c := range all {
		p.fill(c)
	}
	set.Calls = p.calls()
	wanted := p.wanted(all, set.Calls)
	for _, c := range all {
		if m := c.model; wanted[m] {
			set.Models = append(set.Models, m)
		}
	}
	sort.SliceStable(set.Models, func(i, k int) bool {
		a, b := set.Models[i].Pos, set.Models[k].Pos
		if a.File != b.File {
			return a.File < b.File
		}
		return a.Line < b.Line || a.Line == b.Line && a.Col < b.Col
	})
	return set
}

var kinds = map[string]model.Kind{"class": model.Class, "interface": model.Interface, "enum": model.Enum, "record": model.Record}

// fill makes the model of a class.
func (p *project) fill(c *Class) {
	m := c.model
	m.Kind = kinds[c.Kind]
	m.Params, m.Marks, m.Abstract = c.Params, c.Marks, c.Abstract || c.Kind == "interface"
	m.Data = c.Data
	m.Private = c.Access == model.Private
	m.Decodable, m.Reading = true, model.ByLibrary
	m.Related = func(name string) *model.Model {
		if found := p.find(c.File, c, name); found != nil {
			return found.model
		}
		return nil
	}
	m.Fields, m.Cases = c.Fields, c.Constants
	lombok(c)
	m.Builder = c.Builder
	m.Methods, m.Ctors = c.Methods, c.Ctors
	if c.AllDefaults {
		m.Ctors = append(m.Ctors, &model.Method{Name: c.Name, Access: model.Public, Defaults: true, Pos: c.Pos})
	}
	if !c.Static && c.Outer != nil && c.Kind == "class" {
		outer := &model.Parameter{Name: "this", Type: &model.Type{Kind: model.Opaque}}
		if len(m.Ctors) == 0 {
			m.Ctors = []*model.Method{{Name: c.Name, Pos: c.Pos}}
		}
		for _, k := range m.Ctors {
			k.Params = append([]*model.Parameter{outer}, k.Params...)
			k.Fills = append([]string{""}, k.Fills...)
		}
	}
	var params map[string]bool
	for o := c; o != nil; o = o.Outer {
		for _, name := range o.Params {
			if params == nil {
				params = map[string]bool{}
			}
			params[name] = true
		}
	}
	resolve := func(t *model.Type) { p.resolve(c.File, c, params, t) }
	if c.Super != nil {
		p.resolve(c.File, c.Outer, params, c.Super)
		if c.Super.Model != nil {
			m.Super = c.Super
		}
	}
	for _, t := range c.Implements {
		p.resolve(c.File, c.Outer, params, t)
		m.Conforms = append(m.Conforms, t.Name)
	}
	keys := make([]string, len(c.Fields))
	for i, f := range c.Fields {
		resolve(f.Type)
		keys[i] = f.Name
		f.Keys = keys[i : i+1 : i+1]
	}
	for _, all := range [][]*model.Method{c.Methods, m.Ctors} {
		for _, f := range all {
			own := params
			resolve(f.Returns)
			for _, a := range f.Params {
				p.resolve(c.File, c, own, a.Type)
			}
		}
	}
	if c.Inline && len(c.Fields) == 1 {
		m.Inline = c.Fields[0].Type
	}
	m.Library = libraryOf(c)
	if by := byHand(c); by != nil {
		steps, why, at, ok := p.follow(c, by)
		m.Library, m.FromMap = "orgjson", true
		if ok {
			m.Reading, m.Steps = model.ByCode, steps
			fieldsByCode(m)
		} else {
			m.Reading, m.WhyPos = model.Unfollowed, at
			m.Why = by.Name + "(…) reads it by code that is not followed: " + why
		}
	}
}

// fieldsByCode notes of each field of a model which keys the code reads it from.
func fieldsByCode(m *model.Model) {
	keys := map[string][]string{}
	model.WalkSteps(m.Steps, func(field string, e *model.Expr) {
		if e.Op == model.OpAt && field != "" && !slices.Contains(keys[field], e.Key) {
			keys[field] = append(keys[field], e.Key)
		}
	})
	assigned := map[string]bool{}
	model.WalkSteps(m.Steps, func(field string, _ *model.Expr) { assigned[field] = true })
	for _, f := range m.Fields {
		f.Keys, f.Reading = keys[f.Name], model.ByCode
		if !assigned[f.Name] {
			f.Reading = model.Never
			f.Why = "the code assigns nothing to it"
		}
	}
}

// byHand is the constructor or factory by which a class reads a parsed object itself,
// nil where it has none.
func byHand(c *Class) *model.Method {
	takes := func(all []*model.Method, static bool) *model.Method {
		for _, m := range all {
			if static && !m.Static {
				continue
			}
			for _, p := range m.Params {
				if p.Type != nil && (last(p.Type.Unwrapped().Name) == "JSONObject" || last(p.Type.Unwrapped().Name) == "JSONArray") {
					return m
				}
			}
		}
		return nil
	}
	if m := takes(c.Ctors, false); m != nil {
		return m
	}
	if m := takes(c.Methods, true); m != nil {
		return m
	}
	for _, n := range c.Nested {
		if n.Kind == "object" {
			if m := takes(n.Methods, false); m != nil {
				return m
			}
		}
	}
	return nil
}

// gsonMarks are the annotations of Gson; those of Jackson begin with Json.
var gsonMarks = map[string]bool{"SerializedName": true, "Expose": true, "JsonAdapter": true, "Since": true, "Until": true}

// libraryOf is the library whose annotations a class has, or that its file imports
// alone.
func libraryOf(c *Class) string {
	name := ""
	look := func(marks model.Annotated) {
		for _, a := range marks {
			switch {
			case name != "":
			case gsonMarks[a.Name]:
				name = "gson"
			case strings.HasPrefix(a.Name, "Json"):
				name = "jackson"
			}
		}
	}
	look(c.Marks)
	for _, f := range c.Fields {
		look(f.Marks)
	}
	for _, k := range c.Constants {
		look(k.Marks)
	}
	for _, all := range [][]*model.Method{c.Methods, c.Ctors} {
		for _, f := range all {
			look(f.Marks)
			for _, a := range f.Params {
				look(a.Marks)
			}
		}
	}
	if name != "" {
		return name
	}
	gson, jackson := false, false
	for _, i := range c.File.Imports {
		gson = gson || strings.HasPrefix(i.Path, "com.google.gson")
		jackson = jackson || strings.HasPrefix(i.Path, "com.fasterxml.jackson")
	}
	switch {
	case gson && !jackson:
		return "gson"
	case jackson && !gson:
		return "jackson"
	}
	return ""
}

// wanted are the models that responses are decoded into, as far as can be told.
func (p *project) wanted(all []*Class, calls []*model.Call) map[*model.Model]bool {
	wanted := map[*model.Model]bool{}
	var reach func(t *model.Type)
	var take func(m *model.Model)
	reach = func(t *model.Type) {
		t.Walk(func(t *model.Type) {
			if t.Model != nil {
				take(t.Model)
			}
		})
	}
	take = func(m *model.Model) {
		if wanted[m] {
			return
		}
		wanted[m] = true
		reach(m.Super)
		for _, f := range m.Fields {
			if !f.Static {
				reach(f.Type)
			}
		}
		for _, a := range m.Marks {
			for _, arg := range a.Args {
				for _, inner := range arg.Marks {
					for _, name := range inner.Texts("value") {
						for _, c := range all {
							if c.Name == name[strings.LastIndexByte(name, '.')+1:] {
								take(c.model)
							}
						}
					}
				}
			}
		}
	}
	for _, c := range calls {
		if c.Type != nil {
			reach(c.Type)
		}
	}
	for _, c := range all {
		if c.marked() {
			take(c.model)
		}
	}
	if len(calls) == 0 { // nothing says what is decoded: anything may be
		for _, c := range all {
			if c.Kind == "enum" || c.Kind == "record" || c.Kind == "class" && len(c.Fields) > 0 {
				take(c.model)
			}
		}
	}
	return wanted
}

// marked says whether a class is one for data by what stands at it: annotations of a
// library, of Lombok for data, or data and record.
func (c *Class) marked() bool {
	if c.Kind == "record" || c.Kind != "enum" && (c.Marks.Find("Data") != nil || c.Marks.Find("Value") != nil) {
		return true
	}
	if c.Kind == "interface" {
		return c.Marks.Find("JsonTypeInfo") != nil
	}
	marked := false
	look := func(marks model.Annotated) {
		for _, a := range marks {
			marked = marked || gsonMarks[a.Name] || strings.HasPrefix(a.Name, "Json")
		}
	}
	look(c.Marks)
	for _, f := range c.Fields {
		look(f.Marks)
	}
	for _, k := range c.Ctors {
		look(k.Marks)
	}
	return marked
}

// lombok adds to a class the accessors and constructors that its annotations generate
// (Project Lombok 1.18).
func lombok(c *Class) {
	if !generates(c.Marks) && !slices.ContainsFunc(c.Fields, func(f *model.Field) bool { return generates(f.Marks) }) {
		return
	}
	has := func(name string) bool { return c.Marks.Find(name) != nil }
	data, value := has("Data"), has("Value")
	fluent := c.Marks.Find("Accessors").Text("fluent", "false") == "true"
	accessor := func(name string, params []*model.Parameter, returns *model.Type, access model.Access, marks model.Annotated) {
		for _, m := range c.Methods {
			if m.Name == name && len(m.Params) == len(params) {
				return
			}
		}
		c.Methods = append(c.Methods, &model.Method{Name: name, Params: params, Returns: returns, Access: access, Marks: marks, Pos: c.Pos})
	}
	// made says whether an accessor of a field is made, and how far it is seen: what
	// stands at the field goes before what stands at the class.
	made := func(f *model.Field, word string, byClass bool) (model.Access, bool) {
		a := f.Marks.Find(word)
		if a == nil {
			a = c.Marks.Find(word)
		}
		switch level := last(a.Text("value", "PUBLIC")); {
		case a == nil:
			return model.Public, byClass
		case level == "NONE":
			return "", false
		case level == "PUBLIC":
			return model.Public, true
		default:
			return model.Access(strings.ToLower(level)), true
		}
	}
	for _, f := range c.Fields {
		if f.Static {
			continue
		}
		if value {
			f.Access, f.Final = model.Private, true
		}
		base, is := f.Name, f.Type.Kind == model.Named && f.Type.Name == "boolean"
		if is && len(base) > 2 && strings.HasPrefix(base, "is") && base[2] >= 'A' && base[2] <= 'Z' {
			base = base[2:]
		}
		base = strings.ToUpper(base[:1]) + base[1:]
		get, set := "get"+base, "set"+base
		if is {
			get = "is" + base
		}
		if fluent {
			get, set = f.Name, f.Name
		}
		if access, ok := made(f, "Getter", data || value); ok {
			accessor(get, nil, f.Type, access, nil)
		}
		if access, ok := made(f, "Setter", data); ok && !f.Final {
			accessor(set, []*model.Parameter{{Name: f.Name, Type: f.Type, Declared: f.Declared}}, nil, access, copiedMarks(f.Marks))
		}
	}
	if c.Kind != "class" {
		return
	}
	if has("Builder") || has("SuperBuilder") {
		for _, f := range c.Fields {
			if !f.Static && !(f.Final && f.Default != nil && f.Marks.Find("Default") == nil) {
				c.Builder = append(c.Builder, &model.Method{Name: f.Name, Params: []*model.Parameter{{Name: f.Name, Type: f.Type, Declared: f.Declared}}, Access: model.Public, Marks: copiedMarks(f.Marks), Pos: f.Pos})
			}
		}
	}
	ctor := func(takes func(*model.Field) bool, access model.Access) {
		k := &model.Method{Name: c.Name, Access: access, Pos: c.Pos}
		for _, f := range c.Fields {
			if !f.Static && takes(f) {
				k.Params = append(k.Params, &model.Parameter{Name: f.Name, Type: f.Type, Declared: f.Declared})
				k.Fills = append(k.Fills, f.Name)
			}
		}
		c.Ctors = append(c.Ctors, k)
	}
	every := func(f *model.Field) bool { return !f.Final || f.Default == nil }
	required := func(f *model.Field) bool { return f.Default == nil && (f.Final || f.Marks.Find("NonNull") != nil) }
	explicit := len(c.Ctors) > 0
	generated := false
	if has("NoArgsConstructor") {
		ctor(func(*model.Field) bool { return false }, model.Public)
		generated = true
	}
	if has("AllArgsConstructor") {
		ctor(every, model.Public)
		generated = true
	}
	if has("RequiredArgsConstructor") {
		ctor(required, model.Public)
		generated = true
	}
	switch {
	case explicit || generated:
	case value:
		ctor(every, model.Public)
	case has("Builder"):
		ctor(every, model.Package)
	case data:
		ctor(required, model.Public)
	}
}

// generators are the annotations of Lombok that generate members.
var generators = map[string]bool{
	"Data": true, "Value": true, "Getter": true, "Setter": true, "Builder": true, "SuperBuilder": true,
	"NoArgsConstructor": true, "AllArgsConstructor": true, "RequiredArgsConstructor": true,
}

func generates(marks model.Annotated) bool {
	return slices.ContainsFunc(marks, func(a model.Annotation) bool { return generators[a.Name] })
}

// copied are the annotations that Lombok copies from a field to its setter, and to that
// of a builder (HandlerUtil.COPY_TO_SETTER_ANNOTATIONS).
var copied = map[string]bool{"JacksonInject": true, "JsonAlias": true, "JsonFormat": true, "JsonIgnoreProperties": true, "JsonProperty": true, "JsonSetter": true, "JsonSubTypes": true, "JsonTypeInfo": true, "JsonUnwrapped": true, "JsonView": true, "JsonDeserialize": true}

// copiedMarks are the annotations of a field that Lombok's setter of it has too.
func copiedMarks(marks model.Annotated) (out model.Annotated) {
	for _, a := range marks {
		if copied[a.Name] {
			out = append(out, a)
		}
	}
	return out
}
