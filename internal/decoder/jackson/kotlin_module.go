package jackson

import (
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// kotlinModule says whether the mapper knows Kotlin. One that is handed in, or that takes the modules
// that it finds, is taken to: the app would not work without.
func (c *compiler) kotlinModule() bool {
	return c.settings == nil || c.settings.Options == nil || c.settings.Option("module.KotlinModule") == "true" || c.settings.Option("module.all") == "true"
}

// beyond says what of a class of Kotlin is not followed, "" where all is.
func (c *compiler) beyond(m *model.Model) string {
	// The only parameter of a creator is the value as a whole, or not, by rules that are not followed.
	single := func(f *model.Method) bool {
		a := f.Marks.Find("JsonCreator")
		return a != nil && len(f.Params) == 1 && f.Params[0].Marks.Find("JsonProperty") == nil
	}
	switch {
	case c.kotlinModule() && c.on("FAIL_ON_NULL_CREATOR_PROPERTIES"):
		return "FAIL_ON_NULL_CREATOR_PROPERTIES with the Kotlin module is not followed"
	case m.Kind != model.Enum && (slices.ContainsFunc(m.Methods, single) || slices.ContainsFunc(m.Ctors, single)):
		return "a creator of one parameter makes it, which is not followed"
	case c.kotlinModule() && slices.ContainsFunc(m.Fields, func(f *model.Field) bool {
		_, _, is := model.Accessors(f.Name)
		return is && slices.ContainsFunc(f.Elsewhere, func(a model.Annotation) bool { return a.Target != "param" })
	}):
		return "an annotation of an accessor named by is is not followed"
	case m.Inline != nil:
		return "it is a value class"
	case slices.ContainsFunc(m.Fields, func(f *model.Field) bool { return !f.Static && jvm.IsInline(f.Type) && !jvm.Takes(m, f) }):
		return "a property of it is of a value class"
	}
	return ""
}

// couldSerialize says whether a mapper would write the property that a parameter is called after: it
// takes the only parameter of a creator for the value as a whole where it would not
// (BasicDeserializerFactory._addExplicitAnyCreator).
func couldSerialize(m *model.Model, p *model.Parameter) bool {
	if a := p.Marks.Find("JsonProperty"); a != nil && (a.Target == "field" || a.Text("value", "") != "") {
		return true
	}
	for _, f := range m.Fields {
		if f.Name == p.Name {
			get, _, is := model.Accessors(f.Name)
			if is && jvm.Scalar(f.Type.Unwrapped()) != "boolean" {
				return false
			}
			if a := f.Elsewhere.Find("JsonProperty"); a != nil && a.Target == "param" && a.Text("value", "") != "" {
				return true
			}
			return f.Access != model.Private && f.Access != model.Package && (is || mangled(strings.TrimPrefix(get, "get")) == f.Name)
		}
	}
	return false
}

// maybeText says whether a primary constructor is not the module's creator, since it may take a text
// as a whole (KotlinNamesAnnotationIntrospector.isPossibleSingleString).
func maybeText(m *model.Model, k *model.Method) bool {
	if len(k.Params) != 1 || k.Params[0].Marks.Find("JsonProperty") != nil {
		return false
	}
	p := k.Params[0]
	return p.Type.Unwrapped().Name == "String" && !slices.ContainsFunc(m.Fields, func(f *model.Field) bool { return f.Name == p.Name })
}

// computes says whether a class of Kotlin, or one that it extends, tells another what its fields hold.
func computes(m *model.Model) bool {
	return slices.ContainsFunc(jvm.Chain(&model.Type{Kind: model.Named, Model: m}), func(t *model.Type) bool { return t.Model.Computed })
}

// unnamedMissing is missing for a constructor of Kotlin that a mapper without the module calls, since
// annotations name its parameters: it refuses null itself.
func (c *compiler) unnamedMissing(p *property, t *model.Type) *decoder.Error {
	param := p.param.param
	if jvm.IsPrimitive(t, false) || c.views.nullable[param.Parameter] != no || param.of.Access == model.Private || param.of.Static {
		return nil
	}
	class := jvm.ClassName(p.param.owner.Model)
	return fault("ValueInstantiationException", decoder.ReasonNull, "Cannot construct instance of `%s`, problem: Parameter specified as non-null is null: method %s.<init>, parameter %s", class, class, param.Name)
}

// absent is the error of a parameter of Kotlin's for null, where its key is absent.
func absent(p *property) *decoder.Error {
	err := *p.refused
	err.Reason, err.Key = decoder.ReasonMissing, p.name
	p.absent = &err
	return p.absent
}

// kotlinMissing is missing for the constructor that the Kotlin module calls: what is absent is its
// default, or zero, or null, which a type that takes none refuses when all has been read
// (KotlinValueInstantiator.createFromObjectWith).
func (c *compiler) kotlinMissing(at *decoder.Node, p *property, t *model.Type) (refused *decoder.Error) {
	param := p.param.param
	primitive := jvm.IsPrimitive(t, false)
	required := param.required || primitive && c.on("FAIL_ON_NULL_FOR_PRIMITIVES")
	takes := c.views.nullable[param.Parameter]
	if p.refused = nil; !primitive && (takes != yes || required) {
		kind := "KotlinInvalidNullException"
		if !c.since(namesNullOtherwise) {
			kind = "MissingKotlinParameterException"
		}
		p.refused = fault(kind, decoder.ReasonNull,
			"Instantiation of %s value failed for JSON property %s due to missing (therefore NULL) value for creator parameter %s which is a non-nullable type", described(p.param.owner), p.name, param.Name)
	}
	switch {
	case c.views.optional[param.Parameter]:
		at.Value, at.AbsentLoss = decoder.Seen{Kind: decoder.SeenUnknown}, decoder.NoLoss
		if at.Field != nil && at.Field.Default != nil {
			at.Value = jvm.Constant(at.Field.Default, t)
		}
	case p.refused != nil:
		at.Missing = absent(p)
	case required:
		at.Missing = fault("MismatchedInputException", decoder.ReasonMissing, "Missing required creator property '%s' (index %d)", p.name, param.index)
	case primitive && c.on("FAIL_ON_MISSING_CREATOR_PROPERTIES"):
		at.Missing = fault("MismatchedInputException", decoder.ReasonMissing, "Missing creator property '%s' (index %d); `DeserializationFeature.FAIL_ON_MISSING_CREATOR_PROPERTIES` enabled", p.name, param.index)
	}
	if takes != no { // what is absent is refused, null is not
		return nil
	}
	return p.refused
}
