package kotlinx

import (
	"vetta/internal/decoder/jvm"
	"vetta/internal/encoder"
	"vetta/internal/model"
)

// Writes is what Json writes for a type (kotlinx-serialization-json 1.13): the properties that it reads, by their first
// names. One that holds its default is left out unless encodeDefaults, @EncodeDefault or @Required says otherwise,
// and null is written unless explicitNulls is false.
func Writes(t *model.Type, settings *model.Settings) *encoder.Value {
	if why := settings.Refuses("Json"); why != "" {
		return encoder.Unknown(why)
	}
	c := newCompiler(settings)
	rules := &encoder.Rules{Omits: settings.Option("explicitNulls") == "false", Model: c.writtenModel, Named: c.writtenNamed, Members: c.written}
	return rules.Compile(t)
}

// written are the properties of a class that are written.
func (c *compiler) written(m *model.Model) (fields []encoder.Field) {
	for _, s := range jvm.Chain(&model.Type{Name: m.Name, Model: m}) {
		for _, f := range s.Model.Fields {
			if f.Static || f.Marks.Find("Transient") != nil && !f.Transient {
				continue
			}
			name, _ := c.names(f, s.Model)
			out := encoder.Field{Field: f, Key: name, Why: readsItself(f)}
			always := c.on("encodeDefaults") || f.Marks.Find("Required") != nil || f.Marks.Find("EncodeDefault") != nil
			out.Absent = c.hasDefault(f, s.Model) && !always
			fields = append(fields, out)
		}
	}
	return fields
}

// writtenModel is what is written for an enum, for a value class of a scalar, and for a class that the app's own code
// writes.
func (c *compiler) writtenModel(m *model.Model) *encoder.Value {
	switch why := c.ownReader(m); {
	case why != "":
		return encoder.Unknown(why)
	case m.Kind == model.Enum:
		return &encoder.Value{Kinds: encoder.String, Model: m}
	case m.Inline != nil:
		if v := c.writtenNamed(m.Inline); v != nil {
			return v
		}
		return encoder.Unknown("what is written for the value class " + m.Name + " is not followed")
	case m.Kind == model.Interface, m.Abstract:
		return encoder.Unknown("what is written for " + m.Name + " depends on the class of the value")
	}
	return nil
}

// texts are the types that are written as texts.
var texts = map[string]bool{"Instant": true, "Duration": true, "LocalDate": true, "LocalDateTime": true, "LocalTime": true, "Uuid": true, "String": true, "Char": true}

// writtenNamed is what is written for a type that the source does not declare.
func (c *compiler) writtenNamed(t *model.Type) *encoder.Value {
	switch name := model.SimpleName(t.Name); {
	case t.Kind != model.Named:
		return nil
	case texts[name]:
		return &encoder.Value{Kinds: encoder.String}
	case unsignedNames[name]:
		return &encoder.Value{Kinds: encoder.Number, Whole: true}
	case jvm.Scalar(t) != "":
		return jvm.Written(t)
	}
	return nil
}
