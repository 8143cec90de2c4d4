package jackson

import (
	"slices"
	"strings"
	"unicode"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// views are classes of Kotlin as the compiler makes them for Java: with fields that are
// private, accessors, and types of Java. Jackson sees no more of a class than that, but for
// what its Kotlin module (jackson-module-kotlin 2.14) adds: the names of parameters, the
// primary constructor as creator, and which of its parameters have defaults or take null.
type views struct {
	of     map[*model.Model]*model.Model // by class
	models map[*model.Model]*model.Model // back
	fields map[*model.Field]*model.Field // back
	// nullable are the parameters that take null, optional those that have a default.
	nullable map[*model.Parameter]nullability
	optional map[*model.Parameter]bool
	primary  map[*model.Model]*model.Method // by view: the constructor that the module takes
}

// nullability is whether a parameter takes null: not, as its type says, or what stands for a type
// parameter does.
type nullability uint8

const (
	no nullability = iota
	yes
	bound
)

// kotlinModule says whether the mapper knows Kotlin. One that is handed in, or that takes the modules
// that it finds, is taken to: the app would not work without.
func (c *compiler) kotlinModule() bool {
	return c.settings == nil || c.settings.Options == nil || c.settings.Option("module.KotlinModule") == "true" || c.settings.Option("module.all") == "true"
}

// isView says whether a class is the view of one of Kotlin.
func (c *compiler) isView(m *model.Model) bool { return c.views.models[m] != nil }

// boxes are the classes that hold Kotlin's types where they may be null, and as type arguments.
var kotlinTypes = map[string][2]string{
	"Int": {"int", "Integer"}, "Long": {"long", "Long"}, "Short": {"short", "Short"}, "Byte": {"byte", "Byte"}, "Float": {"float", "Float"},
	"Double": {"double", "Double"}, "Boolean": {"boolean", "Boolean"}, "Char": {"char", "Character"}, "Any": {"Object", "Object"},
}

// java is the type that the compiler makes of one of Kotlin; a type of Java stays as it is.
func (c *compiler) java(t *model.Type) *model.Type { return c.javaAs(t, 0) }

// javaAs is java for a type that may be a primitive (0), or has to be an object (1).
func (c *compiler) javaAs(t *model.Type, boxed int) *model.Type {
	if t == nil {
		return nil
	}
	if t.Kind == model.Optional {
		return c.javaAs(t.Args[0], 1)
	}
	out := *t
	if t.Kind == model.Named && t.Model == nil {
		if names, ok := kotlinTypes[t.Name]; ok {
			out.Name = names[boxed]
		}
	}
	elements := 1
	if t.Kind == model.List && strings.HasSuffix(t.Name, "Array") {
		if out.Name = "[]"; t.Name != "Array" { // IntArray
			elements = 0
		}
	} else if strings.HasPrefix(t.Class, "Mutable") {
		out.Class = strings.TrimPrefix(t.Class, "Mutable")
	}
	if len(t.Args) > 0 {
		out.Args = make([]*model.Type, len(t.Args))
		for i, a := range t.Args {
			out.Args[i] = c.javaAs(a, elements)
		}
	}
	if t.Model != nil && t.Model.Language == "kotlin" {
		out.Model = c.view(t.Model)
	}
	return &out
}

// view is a class of Kotlin as the compiler makes it.
func (c *compiler) view(m *model.Model) *model.Model {
	if c.views.of == nil {
		c.views = views{of: map[*model.Model]*model.Model{}, models: map[*model.Model]*model.Model{}, fields: map[*model.Field]*model.Field{},
			nullable: map[*model.Parameter]nullability{}, optional: map[*model.Parameter]bool{}, primary: map[*model.Model]*model.Method{}}
	}
	if c.isView(m) {
		return m
	}
	if known := c.views.of[m]; known != nil {
		return known
	}
	v := new(model.Model)
	*v = *m
	c.views.of[m], c.views.models[v] = v, m
	v.Super = c.java(m.Super)
	v.Related = func(name string) *model.Model {
		found := related(m, name)
		if found != nil && found.Language == "kotlin" {
			return c.view(found)
		}
		return found
	}
	v.Fields, v.Methods, v.Ctors = nil, nil, nil
	for _, f := range m.Methods {
		v.Methods = append(v.Methods, c.viewOf(m, f))
	}
	inline := func(k *model.Method) bool {
		return slices.ContainsFunc(k.Params, func(p *model.Parameter) bool { return jvm.IsInline(p.Type) })
	}
	marked := func(k *model.Method) bool { return k.Marks.Find("JsonCreator") != nil }
	own := slices.ContainsFunc(m.Ctors, marked) || slices.ContainsFunc(m.Methods, marked)
	mangles := slices.ContainsFunc(m.Ctors, inline)
	for _, k := range m.Ctors {
		if inline(k) || k.Defaults && mangles {
			continue // its name is one that no other language calls
		}
		made := c.viewOf(m, k)
		v.Ctors = append(v.Ctors, made)
		if k.Pos != m.Pos && marked(k) { // what it does with what it is given is not looked at
			made.Opaque, made.Fills = true, make([]string, len(made.Params))
		}
		if !own && c.kotlinModule() && k.Pos == m.Pos && len(k.Params) > 0 && k.Params[0].Name != "this" && !maybeText(m, k) {
			c.views.primary[v] = made
			mode := "PROPERTIES"
			if len(k.Params) == 1 && !couldSerialize(m, k.Params[0]) {
				mode = "DELEGATING"
			}
			made.Marks = append(slices.Clip(made.Marks), model.Annotation{Name: "JsonCreator", Args: []model.Argument{{Name: "mode", Texts: []string{mode}}}})
		}
	}
	if len(v.Ctors) == 0 && len(m.Ctors) > 0 { // so that it is not taken for one without any
		v.Ctors = []*model.Method{{Name: m.Name, Access: model.Private, Params: []*model.Parameter{{Type: &model.Type{Kind: model.Opaque}}, {Type: &model.Type{Kind: model.Opaque}}}, Fills: []string{"", ""}}}
	}
	for _, f := range m.Fields {
		v.Fields = append(v.Fields, c.propertyOf(m, v, f))
	}
	if why := c.beyond(m); why != "" && v.Reading == model.ByLibrary {
		v.Reading, v.Why, v.WhyPos = model.Unfollowed, why, m.Pos
	}
	return v
}

// beyond says what of a class of Kotlin is not followed, "" where all is.
func (c *compiler) beyond(m *model.Model) string {
	// The only parameter of a creator is the value as a whole, or not, by rules that are not followed.
	single := func(f *model.Method) bool {
		a := f.Marks.Find("JsonCreator")
		return a != nil && len(f.Params) == 1 && f.Params[0].Marks.Find("JsonProperty") == nil
	}
	switch {
	case c.on("FAIL_ON_NULL_CREATOR_PROPERTIES"):
		return "FAIL_ON_NULL_CREATOR_PROPERTIES with the Kotlin module is not followed"
	case m.Kind != model.Enum && (slices.ContainsFunc(m.Methods, single) || slices.ContainsFunc(m.Ctors, single)):
		return "a creator of one parameter makes it, which is not followed"
	case c.kotlinModule() && slices.ContainsFunc(m.Fields, func(f *model.Field) bool {
		return isProperty(f.Name) && slices.ContainsFunc(f.Elsewhere, func(a model.Annotation) bool { return a.Target != "param" })
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
			if isProperty(f.Name) && jvm.Scalar(f.Type.Unwrapped()) != "boolean" {
				return false
			}
			if a := f.Elsewhere.Find("JsonProperty"); a != nil && a.Target == "param" && a.Text("value", "") != "" {
				return true
			}
			return f.Access != model.Private && f.Access != model.Package && (isProperty(f.Name) || mangled(capitalised(f.Name)) == f.Name)
		}
	}
	return false
}

// capitalised is the name of a property as the names of its accessors end.
func capitalised(name string) string {
	if name != "" && name[0] >= 'a' && name[0] <= 'z' {
		return strings.ToUpper(name[:1]) + name[1:]
	}
	return name
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

// viewOf is a method of a class with types of Java.
func (c *compiler) viewOf(of *model.Model, m *model.Method) *model.Method {
	out := *m
	out.Returns = c.java(m.Returns)
	out.Params = nil
	for i, p := range m.Params {
		made := *p
		made.Type = c.java(p.Type)
		if i < len(m.Fills) && m.Fills[i] != "" {
			made.Marks = slices.DeleteFunc(slices.Clone(p.Marks), func(a model.Annotation) bool { return !ofParameter(a) })
			for _, f := range of.Fields {
				if f.Name == m.Fills[i] {
					made.Marks = append(made.Marks, targeted(f.Elsewhere, "param")...)
				}
			}
		}
		out.Params = append(out.Params, &made)
		c.views.optional[&made] = p.Default
		switch p.Type.Kind {
		case model.Optional:
			c.views.nullable[&made] = yes
		case model.Param:
			c.views.nullable[&made] = bound
		}
	}
	return &out
}

// propertyOf is the field of a property of Kotlin; its accessors are added to the view.
func (c *compiler) propertyOf(m, v *model.Model, f *model.Field) *model.Field {
	field := *f
	c.views.fields[&field] = f
	field.Type = c.java(f.Type)
	field.Access = model.Private
	if jvm.Takes(m, f) {
		field.Marks = slices.DeleteFunc(slices.Clone(f.Marks), ofParameter)
	}
	is := isProperty(f.Name)
	switch {
	case f.Marks.Find("JvmField") != nil:
		field.Access = f.Access
		return &field
	case f.Static || f.Access == model.Private:
		return &field
	case is && c.kotlinModule() && f.Access == model.Package, is && c.kotlinModule() && f.NoSetter && jvm.Scalar(field.Type) != "boolean":
		return &field
	case is && c.kotlinModule(): // which calls its accessors as the property is called
		field.Access = model.Public
		field.Marks = append(slices.Clip(field.Marks), f.Elsewhere...)
		return &field
	case f.Lateinit:
		field.Access = f.Access
	}
	get, set := "get"+capitalised(f.Name), "set"+capitalised(f.Name)
	if is {
		get, set = f.Name, "set"+f.Name[2:]
	}
	access := f.Access
	if access == model.Package { // internal: the name of the module is part of theirs
		get, set, access = get+"$module", set+"$module", model.Public
	}
	v.Methods = append(v.Methods, &model.Method{Name: get, Returns: field.Type, Access: access, Pos: f.Pos, Marks: targeted(f.Elsewhere, "get")})
	if !f.NoSetter {
		refuses := f.Type.Kind != model.Optional && f.Type.Kind != model.Param && !jvm.IsPrimitive(field.Type, false)
		v.Methods = append(v.Methods, &model.Method{
			Name: set, Access: access, Pos: f.Pos, Sets: f.Name, RefusesNull: refuses, Marks: targeted(f.Elsewhere, "set"),
			Params: []*model.Parameter{{Name: "<set-?>", Type: field.Type, Declared: f.Declared}},
		})
	}
	return &field
}

// ofParameter says whether Kotlin gives an annotation of a property that its constructor takes to
// the parameter: it does if Jackson's annotation may stand there (its @Target).
func ofParameter(a model.Annotation) bool {
	switch a.Name {
	case "JsonIgnore", "JsonIgnoreProperties", "JsonIncludeProperties", "JsonManagedReference", "JsonBackReference", "JsonAnySetter", "JsonAnyGetter", "JsonValue":
		return false
	}
	return a.Target == ""
}

// targeted are the annotations for one part of a property.
func targeted(marks model.Annotated, target string) model.Annotated {
	return slices.DeleteFunc(slices.Clone(marks), func(a model.Annotation) bool { return a.Target != target })
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

// kotlinMissing is missing for the constructor that the Kotlin module calls: what is absent is its
// default, or zero, or null, which a type that takes none refuses when all has been read
// (KotlinValueInstantiator.createFromObjectWith).
func (c *compiler) kotlinMissing(at *decoder.Node, p *property, t *model.Type) (refused *decoder.Error) {
	param := p.param.param
	primitive := jvm.IsPrimitive(t, false)
	required := param.required || primitive && c.on("FAIL_ON_NULL_FOR_PRIMITIVES")
	takes := c.views.nullable[param.Parameter]
	if p.refused = nil; !primitive && (takes != yes || required) {
		p.refused = fault("MissingKotlinParameterException", decoder.ReasonNull,
			"Instantiation of %s value failed for JSON property %s due to missing (therefore NULL) value for creator parameter %s which is a non-nullable type", described(p.param.owner), p.name, param.Name)
	}
	switch {
	case c.views.optional[param.Parameter]:
		at.Value, at.AbsentLoss = decoder.Seen{Kind: decoder.SeenUnknown}, decoder.NoLoss
		if at.Field != nil && at.Field.Default != nil {
			at.Value = jvm.Constant(at.Field.Default, t)
		}
	case p.refused != nil:
		at.Missing = p.refused
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

// isProperty says whether accessors of a property are named by "is" ("Calling Kotlin from Java").
func isProperty(name string) bool {
	rest, ok := strings.CutPrefix(name, "is")
	return ok && rest != "" && !unicode.IsLower([]rune(rest)[0])
}

// asDeclared puts the classes and fields of the source back where their views stand in a plan.
func (v *views) asDeclared(n *decoder.Node, seen map[*decoder.Node]bool) {
	if n == nil || seen[n] || len(v.models) == 0 {
		return
	}
	seen[n] = true
	if m := v.models[n.Model]; m != nil {
		n.Model = m
	}
	if f := v.fields[n.Field]; f != nil {
		n.Field = f
		if n.Op == decoder.OpAt {
			n.Type = f.Declared
		}
	}
	for i, f := range n.Props {
		if own := v.fields[f]; own != nil {
			n.Props[i] = own
		}
	}
	for _, inner := range append([]*decoder.Node{n.Inner, n.Second, n.Third, n.Rest}, n.Args...) {
		v.asDeclared(inner, seen)
	}
	for _, b := range n.Branches {
		v.asDeclared(b.Node, seen)
	}
	v.stepsAsDeclared(n.Steps, seen)
}

func (v *views) stepsAsDeclared(steps []decoder.Step, seen map[*decoder.Node]bool) {
	for _, s := range steps {
		v.asDeclared(s.Node, seen)
		v.asDeclared(s.Cond, seen)
		v.stepsAsDeclared(s.Then, seen)
		v.stepsAsDeclared(s.Else, seen)
	}
}
