package jackson

import (
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/encoder"
	"vetta/internal/model"
)

// Writes is what an ObjectMapper writes for a type (jackson-databind 2.19, BeanSerializerFactory): the
// properties that have a getter, a field that everybody sees, or an annotation; null where there is no value,
// unless it is told to leave those out.
func Writes(t *model.Type, settings *model.Settings) *encoder.Value {
	plan := Planner(settings)
	c := &writing{settings: settings, outline: func(m *model.Model) decoder.Outline {
		return decoder.OutlineOf(plan(&model.Type{Name: m.Name, Model: m}, m.Name), m)
	}}
	if why := c.outline(&model.Model{Name: "Object", Language: "java", Kind: model.Class}).Unclaimed; why != "" {
		return encoder.Unknown(why)
	}
	if settings != nil && settings.Why != "" {
		return encoder.Unknown(settings.Why)
	}
	c.omits = omitting(settings.Option("inclusion")) || strings.Contains(settings.Option("setDefaultPropertyInclusion"), "NON_")
	rules := &encoder.Rules{Omits: c.omits, Model: c.model, Named: c.named, Members: c.members}
	return rules.Compile(t)
}

type writing struct {
	settings *model.Settings
	outline  func(*model.Model) decoder.Outline
	omits    bool
}

// omitting says whether an inclusion leaves out what has no value.
func omitting(inclusion string) bool { return strings.HasPrefix(model.SimpleName(inclusion), "NON_") }

// ownWriting are the annotations by which something is written in a way of its own.
var ownWriting = []string{"JsonSerialize", "JsonFormat", "JsonUnwrapped", "JsonValue", "JsonAnyGetter", "JsonRawValue", "JsonTypeInfo", "JsonFilter", "JsonView", "JsonIdentityInfo", "JsonManagedReference", "JsonBackReference", "JsonIdentityReference"}

func writesItself(marks ...model.Annotated) string {
	for _, all := range marks {
		for _, name := range ownWriting {
			if all.Find(name) != nil {
				return "@" + name + " says how it is written, which is not followed"
			}
		}
	}
	return ""
}

func (c *writing) model(m *model.Model) *encoder.Value {
	switch why := writesItself(m.Marks); {
	case why != "":
		return encoder.Unknown(why)
	case slices.ContainsFunc(m.Methods, func(k *model.Method) bool { return writesItself(k.Marks) != "" }):
		return encoder.Unknown("a method of " + m.Name + " says how it is written, which is not followed")
	case m.Kind == model.Enum && c.settings.Option("WRITE_ENUMS_USING_INDEX") == "true":
		return &encoder.Value{Kinds: encoder.Number, Whole: true, Model: m}
	case m.Kind == model.Enum:
		return &encoder.Value{Kinds: encoder.String, Model: m}
	case m.Kind == model.Interface, m.Abstract: // the class of the value decides
		return encoder.Unknown("what is written for " + m.Name + " depends on the class of the value")
	}
	return nil
}

// members are the properties of a class that are written. One that is not sure to be is one that may be
// absent, of which nothing more is claimed.
func (c *writing) members(m *model.Model) (fields []encoder.Field) {
	for _, s := range jvm.Chain(&model.Type{Name: m.Name, Model: m}) {
		read := c.outline(s.Model)
		inclusion := s.Model.Marks.Find("JsonInclude").Text("value", "")
		for _, f := range s.Model.Fields {
			if f.Static || f.Transient && s.Model.Language == "java" || f.Elsewhere.Find("JsonIgnore") != nil || f.Marks.Find("JsonIgnore") != nil {
				continue
			}
			out := encoder.Field{Field: f, Key: c.key(f, read), Nullable: jvm.MayBeNull(f, s.Model)}
			own := f.Marks.Find("JsonInclude").Text("value", inclusion)
			if own != "" {
				out.Omits, out.Keeps = omitting(own), !omitting(own)
				out.Absent = omitting(own) && model.SimpleName(own) != "NON_NULL" && model.SimpleName(own) != "NON_ABSENT"
			}
			access := f.Marks.Find("JsonProperty").Text("access", "")
			switch why := writesItself(f.Marks, f.Elsewhere); {
			case strings.HasSuffix(access, "WRITE_ONLY"):
				continue
			case why != "":
				out.Why = why
			case !c.isSeen(f, s.Model):
				out.Why = "it has no getter that was found"
			}
			fields = append(fields, out)
		}
		fields = append(fields, c.computed(s.Model)...)
	}
	return fields
}

// key is the name of a property: that of its annotation, or what the mapper reads it from.
func (c *writing) key(f *model.Field, read decoder.Outline) string {
	for _, marks := range []model.Annotated{f.Marks, f.Elsewhere} {
		if name := marks.Find("JsonProperty").Text("value", ""); name != "" {
			return name
		}
	}
	if r := read.Of(f); r != nil && len(r.Keys) > 0 {
		return r.Keys[0]
	}
	return f.Name
}

// isSeen says whether a property is sure to be written: a property of Kotlin that is not private, a component
// of a record, a field that everybody sees or that is annotated, one with a getter, or with one that Lombok
// makes.
func (c *writing) isSeen(f *model.Field, m *model.Model) bool {
	switch {
	case f.Marks.Find("JsonProperty") != nil, m.Kind == model.Record:
		return true
	case m.Language == "kotlin":
		return f.Access != model.Private && !strings.HasPrefix(f.Name, "is")
	case f.Access == model.Public:
		return true
	}
	for _, mark := range []string{"Data", "Getter", "Value"} {
		if m.Marks.Find(mark) != nil || f.Marks.Find(mark) != nil {
			return true
		}
	}
	return slices.ContainsFunc(m.Methods, func(k *model.Method) bool {
		return len(k.Params) == 0 && k.Access == model.Public && (strings.EqualFold(k.Name, "get"+f.Name) || strings.EqualFold(k.Name, "is"+f.Name))
	})
}

// computed are getters of a class that no field is behind: what they are written as is not followed.
func (c *writing) computed(m *model.Model) (fields []encoder.Field) {
	for _, name := range m.Derived {
		fields = append(fields, encoder.Field{Field: &model.Field{Name: name, Pos: m.Pos}, Key: name, Why: "code computes it"})
	}
	for _, k := range m.Methods {
		name, getter := strings.CutPrefix(k.Name, "get")
		if !getter || name == "" || len(k.Params) > 0 || k.Static || k.Access != model.Public || k.Receiver != "" {
			continue
		}
		behind := slices.ContainsFunc(m.Fields, func(f *model.Field) bool { return strings.EqualFold(f.Name, name) })
		if !behind {
			fields = append(fields, encoder.Field{Field: &model.Field{Name: k.Name, Pos: k.Pos, Type: k.Returns}, Key: strings.ToLower(name[:1]) + name[1:], Why: "a method computes it"})
		}
	}
	return fields
}

// named is what is written for a type that the source does not declare. Dates are numbers unless the mapper
// is told otherwise (WRITE_DATES_AS_TIMESTAMPS).
func (c *writing) named(t *model.Type) *encoder.Value {
	if c.settings.Option("adapter."+model.SimpleName(t.Name)) != "" {
		return nil
	}
	if v := jvm.Written(t); v != nil {
		return v
	}
	if model.SimpleName(t.Name) == "Date" || model.SimpleName(t.Name) == "Instant" {
		asText := c.settings.Option("WRITE_DATES_AS_TIMESTAMPS") == "false" || c.settings.Option("dates.pattern") != ""
		switch {
		case model.SimpleName(t.Name) == "Instant" && !asText:
			return nil
		case asText:
			return &encoder.Value{Kinds: encoder.String}
		}
		return &encoder.Value{Kinds: encoder.Number, Whole: true}
	}
	return nil
}
