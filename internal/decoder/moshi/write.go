package moshi

import (
	"vetta/internal/decoder/jvm"
	"vetta/internal/encoder"
	"vetta/internal/model"
)

// Writes is what a Moshi writes for a type (moshi 1.15, KotlinJsonAdapter and ClassJsonAdapter): the properties that
// it reads, by the same names, and nothing for null (JsonWriter.serializeNulls is off unless an adapter says otherwise).
func Writes(t *model.Type, settings *model.Settings) *encoder.Value {
	if why := settings.Refuses("Moshi"); why != "" {
		return encoder.Unknown(why)
	}
	c := newCompiler(settings)
	rules := &encoder.Rules{Omits: settings.Option("serializeNulls") != "true", Model: c.writtenModel, Named: c.writtenNamed, Members: c.written}
	return rules.Compile(t)
}

// written are the properties of a class that are written.
func (c *compiler) written(m *model.Model) (fields []encoder.Field) {
	params := primary(m)
	t := &model.Type{Name: m.Name, Model: m}
	for _, s := range jvm.Chain(t) {
		for _, f := range s.Model.Fields {
			key, ignored := jsonName(f)
			if f.Static || f.Transient || ignored || overridden(t, s, f) {
				continue
			}
			if m.Language == "kotlin" && f.Final && (s.Model != m || params[f.Name] == nil) { // it is no property to Moshi
				continue
			}
			if key == "" {
				key = f.Name
			}
			out := encoder.Field{Field: f, Key: key, Nullable: jvm.MayBeNull(f, s.Model)}
			if q := c.qualifierOf(f); q != "" {
				out.Why = "an adapter for @" + q + " writes it"
			}
			fields = append(fields, out)
		}
	}
	return fields
}

// writtenModel is what is written for an enum, and for a class that the app's own code writes.
func (c *compiler) writtenModel(m *model.Model) *encoder.Value {
	switch {
	case c.adapted(wanted{&model.Type{Kind: model.Named, Name: m.Name, Model: m}, "", true}, 0) != nil:
		return encoder.Unknown("an adapter of its own writes " + m.Name)
	case m.Kind == model.Enum:
		return &encoder.Value{Kinds: encoder.String, Model: m}
	case m.Kind == model.Interface, m.Abstract:
		return encoder.Unknown("what is written for " + m.Name + " depends on the class of the value")
	}
	return nil
}

// writtenNamed is what is written for a type that the source does not declare.
func (c *compiler) writtenNamed(t *model.Type) *encoder.Value {
	if c.adapted(wanted{t, "", true}, 0) != nil || c.adapted(wanted{t, "", false}, 0) != nil {
		return nil
	}
	if jvm.Scalar(t) != "" || t.Name == "String" {
		return jvm.Written(t)
	}
	return nil
}
