package gson

import (
	"vetta/internal/decoder/jvm"
	"vetta/internal/encoder"
	"vetta/internal/model"
)

// Writes is what a Gson writes for a type (gson 2.13, ReflectiveTypeAdapterFactory and TypeAdapters): the
// fields that it does not leave out, by the names that it reads them from first, and null for none of them
// unless it is told to (serializeNulls).
func Writes(t *model.Type, settings *model.Settings) *encoder.Value {
	if why := refusal(settings); why != "" {
		return encoder.Unknown(why)
	}
	if settings != nil && settings.Why != "" {
		return encoder.Unknown(settings.Why)
	}
	c := &compiler{settings: settings}
	rules := &encoder.Rules{Omits: settings.Option("nulls") != "written", Model: c.writtenModel, Named: c.writtenNamed, Members: c.written}
	return rules.Compile(t)
}

// written are the fields of a class that are written, those of the classes that it extends last.
func (c *compiler) written(m *model.Model) (fields []encoder.Field) {
	for _, s := range jvm.Chain(&model.Type{Name: m.Name, Model: m}) {
		for _, f := range s.Model.Fields {
			if f.Static || c.leftOut(f) {
				continue
			}
			name, _, _ := c.names(f)
			out := encoder.Field{Field: f, Key: name, Nullable: jvm.MayBeNull(f, s.Model)}
			if f.Marks.Find("JsonAdapter") != nil {
				out.Why = "a TypeAdapter of its own writes it"
			}
			fields = append(fields, out)
		}
	}
	return fields
}

// leftOut says whether a field is not written. It is as it is for reading, but for what @Expose says of
// each.
func (c *compiler) leftOut(f *model.Field) bool {
	if c.settings.Option("exposed") == "true" {
		if a := f.Marks.Find("Expose"); a != nil {
			return a.Text("serialize", "true") == "false" || f.Transient
		}
	}
	return c.excluded(f) != ""
}

// writtenModel is what is written for an enum, and for a class that its own code writes.
func (c *compiler) writtenModel(m *model.Model) *encoder.Value {
	switch {
	case m.Marks.Find("JsonAdapter") != nil, c.adapted(&model.Type{Name: m.Name, Model: m}):
		return encoder.Unknown("a TypeAdapter of its own writes " + m.Name)
	case m.Kind == model.Enum:
		return &encoder.Value{Kinds: encoder.String, Model: m}
	case m.Kind == model.Interface, m.Abstract: // the class of the value decides
		return encoder.Unknown("what is written for " + m.Name + " depends on the class of the value")
	}
	return nil
}

// writtenNamed is what is written for a type that the source does not declare. Dates are texts (DateTypeAdapter).
func (c *compiler) writtenNamed(t *model.Type) *encoder.Value {
	if c.adapted(t) {
		return nil
	}
	if s := jvm.Scalar(t); s == "long" && c.settings.Option("longs") == "STRING" {
		return &encoder.Value{Kinds: encoder.String}
	}
	if v := jvm.Written(t); v != nil {
		return v
	}
	switch t.Name {
	case "Date", "java.util.Date", "Timestamp":
		return &encoder.Value{Kinds: encoder.String}
	}
	return nil
}
