package jvm

import (
	"slices"
	"strings"

	"vetta/internal/model"
)

// Lombok adds to a class the accessors and constructors that its annotations generate
// (Project Lombok 1.18).
func Lombok(c *Class) {
	if !generates(c.Marks) && !slices.ContainsFunc(c.Fields, func(f *model.Field) bool { return generates(f.Marks) }) {
		return
	}
	has := func(name string) bool { return c.Marks.Find(name) != nil }
	data, value := has("Data"), has("Value")
	fluent := c.Marks.Find("Accessors").Text("fluent", "false") == "true"
	accessor := func(made *model.Method) {
		for _, m := range c.Methods { // Lombok tells no case apart, nor what it has made itself
			if strings.EqualFold(m.Name, made.Name) && len(m.Params) == len(made.Params) {
				return
			}
		}
		c.Methods = append(c.Methods, made)
	}
	// made says whether an accessor of a field is made, and how far it is seen: what
	// stands at the field goes before what stands at the class.
	made := func(f *model.Field, word string, byClass bool) (model.Access, bool) {
		a := f.Marks.Find(word)
		if a == nil {
			a = c.Marks.Find(word)
		}
		switch level := Last(a.Text("value", "PUBLIC")); {
		case a == nil:
			return model.Public, byClass
		case level == "NONE":
			return 0, false
		case level == "PUBLIC":
			return model.Public, true
		default:
			return model.AccessOf(strings.ToLower(level)), true
		}
	}
	for _, f := range c.Fields {
		if f.Static {
			continue
		}
		if value {
			f.Access, f.Final = model.Private, true
		}
		own, ok := unprefixed(f, c.Marks)
		if !ok {
			continue
		}
		base, is := own, f.Type.Kind == model.Named && f.Type.Name == "boolean"
		if is && len(base) > 2 && strings.HasPrefix(base, "is") && base[2] >= 'A' && base[2] <= 'Z' {
			base = base[2:]
		}
		base = strings.ToUpper(base[:1]) + base[1:]
		get, set := "get"+base, "set"+base
		if is {
			get = "is" + base
		}
		if fluent {
			get, set = own, own
		}
		if access, ok := made(f, "Getter", data || value); ok {
			accessor(&model.Method{Name: get, Returns: f.Type, Access: access, Pos: c.Pos})
		}
		if access, ok := made(f, "Setter", data); ok && !f.Final {
			accessor(setterOf(f, set, access, c.Pos))
		}
	}
	if c.Kind != "class" {
		return
	}
	if has("Builder") || has("SuperBuilder") {
		for _, f := range c.Fields {
			if !f.Static && !(f.Final && f.Default != nil && f.Marks.Find("Default") == nil) {
				c.Builder = append(c.Builder, setterOf(f, f.Name, model.Public, f.Pos))
			}
			if f.Marks.Find("Singular") != nil && has("Jacksonized") && f.Default == nil { // what the builder collects
				kind := model.ListLiteral
				if f.Type.Kind == model.Map {
					kind = model.MapLiteral
				}
				f.Default = &model.Literal{Kind: kind}
			}
		}
	}
	ctor := func(by string, takes func(*model.Field) bool, access model.Access) {
		k := &model.Method{Name: c.Name, Access: access, Pos: c.Pos, Marks: onConstructor(c.Marks.Find(by))}
		for _, f := range c.Fields {
			if !f.Static && takes(f) {
				k.Params = append(k.Params, &model.Parameter{Name: f.Name, Type: f.Type, Declared: f.Declared})
				k.Fills = append(k.Fills, f.Name)
			}
		}
		c.Ctors = append(c.Ctors, k)
	}
	every := func(f *model.Field) bool { return !f.Final || f.Default == nil || f.Marks.Find("Default") != nil }
	required := func(f *model.Field) bool { return f.Default == nil && (f.Final || f.Marks.Find("NonNull") != nil) }
	explicit := len(c.Ctors) > 0
	generated := false
	if has("NoArgsConstructor") {
		ctor("NoArgsConstructor", func(*model.Field) bool { return false }, model.Public)
		generated = true
	}
	if has("AllArgsConstructor") {
		ctor("AllArgsConstructor", every, model.Public)
		generated = true
	}
	if has("RequiredArgsConstructor") {
		ctor("RequiredArgsConstructor", required, model.Public)
		generated = true
	}
	switch {
	case explicit || generated:
	case has("Builder"): // it comes before what @Value makes
		ctor("", every, model.Package)
	case value:
		ctor("", every, model.Public)
	case data:
		ctor("", required, model.Public)
	}
}

// onConstructor are the annotations that one of Lombok's puts on the constructor it makes:
// onConstructor_ = @A, onConstructor = @__(@A).
func onConstructor(a *model.Annotation) (marks model.Annotated) {
	if a == nil {
		return nil
	}
	for _, name := range []string{"onConstructor", "onConstructor_", "onConstructor__"} {
		for _, mark := range a.Arg(name).Marks {
			if strings.Trim(mark.Name, "_") == "" {
				marks = append(marks, mark.Arg("value").Marks...)
			} else {
				marks = append(marks, mark)
			}
		}
	}
	return marks
}

// unprefixed is the name of a field without the prefix that @Accessors gives; ok is false
// where the field has none of them, for which no accessors are made
// (HandlerUtil.removePrefix).
func unprefixed(f *model.Field, marks model.Annotated) (name string, ok bool) {
	a := f.Marks.Find("Accessors")
	if a == nil {
		a = marks.Find("Accessors")
	}
	prefixes := a.Texts("prefix")
	if len(prefixes) == 0 {
		return f.Name, true
	}
	for _, prefix := range prefixes {
		rest, found := strings.CutPrefix(f.Name, prefix)
		switch {
		case prefix == "":
			return f.Name, true
		case !found || rest == "":
		case prefix[len(prefix)-1]|0x20 >= 'a' && prefix[len(prefix)-1]|0x20 <= 'z' && rest[0] >= 'a' && rest[0] <= 'z':
		default:
			return strings.ToLower(rest[:1]) + rest[1:], true
		}
	}
	return "", false
}

// setterOf is a setter that Lombok makes for a field: one that checks for null where an
// annotation of that name, whoever's it is, says that the field holds none.
func setterOf(f *model.Field, name string, access model.Access, pos model.Pos) *model.Method {
	return &model.Method{
		Name: name, Params: []*model.Parameter{{Name: f.Name, Type: f.Type, Declared: f.Declared}}, Access: access, Marks: copiedMarks(f.Marks), Pos: pos,
		RefusesNull: f.Marks.Find("NonNull") != nil,
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
