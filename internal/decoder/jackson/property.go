package jackson

import (
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// keysOf are the keys that a property is read under, its name first, as match makes them. Where it
// is unwrapped with a prefix, its aliases lead to the name that it had without
// (BeanPropertyMap.renameAll), which is none.
func (c *compiler) keysOf(p *property, in part) (keys []string) {
	keys = []string{in.prefix + p.name + in.suffix}
	if in.prefix+in.suffix == "" {
		keys = append(keys, p.marks.Find("JsonAlias").Texts("value")...)
	}
	if match := c.match(); match != nil {
		for i := range keys {
			keys[i] = match(keys[i])
		}
	}
	return keys
}

// property is the node that reads one property.
func (c *compiler) property(p *property, target *model.Field, typ, owner *model.Type, in part) *decoder.Node {
	t := typ
	if owner != nil {
		t = typ.Bind(owner.Env())
	}
	keys := c.keysOf(p, in)
	at := &decoder.Node{Op: decoder.OpAt, Name: keys[0], Others: keys[1:], Every: true, Field: target, Type: jvm.TypeText(t)}
	if p.param != nil {
		if c.taken == nil {
			c.taken = map[*decoder.Node]bool{}
		}
		c.taken[at] = true
	}
	if a := p.marks.Find("JsonDeserialize"); a != nil && owner != nil {
		t = c.narrowed(t, a, owner.Model)
	}
	holds := t // the field may be of another type than its setter takes
	if p.param == nil && p.setter != nil && target != nil && owner != nil {
		holds = target.Type.Bind(owner.Env())
	}
	at.Value = jvm.Zero(holds, false)
	kept := false
	if p.param == nil && c.computed {
		at.Value, kept = decoder.Seen{Kind: decoder.SeenUnknown}, true
	} else if target != nil && target.Default != nil && p.param == nil {
		at.Value, kept = jvm.Constant(target.Default, holds), true
	}
	if jvm.IsPrimitive(holds, false) && !kept {
		at.AbsentLoss = decoder.Zeroed
	}
	refused := c.missing(at, p, t)
	own := (*decoder.Node)(nil)
	if target != nil && p.marks.Find("JsonDeserialize").Text("using", "") != "" {
		own = c.own(target.Adapter)
	}
	if a := p.marks.Find("JsonDeserialize"); a != nil && own == nil && (a.Text("using", "") != "" || a.Text("contentUsing", "") != "" || a.Text("converter", "") != "") {
		at.Inner = unknown("a deserializer of its own reads it")
		return at
	}
	if p.marks.Find("JsonIdentityInfo") != nil {
		at.Inner = unknown("the ids of what it holds are told by @JsonIdentityInfo of its own, which is not followed")
		return at
	}
	if p.marks.Find("JsonMerge") != nil {
		at.Inner = unknown("it is merged into what is there, which is not followed")
		return at
	}
	if p.marks.Find("JsonBackReference") != nil { // it is set from the other side
		at.Value, at.AbsentLoss = decoder.Seen{Kind: decoder.SeenUnknown}, decoder.NoLoss
	}
	if p.marks.Find("JsonTypeInfo") != nil || p.marks.Find("JsonBackReference") != nil {
		at.Inner = unknown("it is read by its own type information, which is not followed")
		return at
	}
	as, why := formatOf(p)
	if why != "" {
		at.Inner = unknown(why)
		return at
	}
	as.within = p.param == nil && owner != nil && isInner(t, owner.Model)
	as.prefix, as.suffix = in.prefix, in.suffix
	if at.Inner = own; own == nil {
		at.Inner = c.value(t, as)
	}
	if p.param == nil && p.setter == nil && p.field == nil { // what the getter answers is added to
		at.KeepNull, at.AbsentLoss = true, decoder.NoLoss
		switch {
		case target == nil:
			at.Inner = unknown("what its getter answers is added to, which is not followed")
		case at.Value.Kind == decoder.SeenNull:
			at.Inner = &decoder.Node{Op: decoder.OpFail, Error: fault("InvalidDefinitionException", decoder.ReasonType, "Problem deserializing 'setterless' property '%s': get method returned null", p.name)}
		}
	}
	if refused != nil && at.Inner.Op != decoder.OpUnknown && (at.Inner.Op != decoder.OpNil || at.Inner.Value.Kind == decoder.SeenNull) {
		at.Inner = withNulls(at.Inner, decoder.Verdict{Err: refused})
		at.Inner = &decoder.Node{Op: decoder.OpNil, Inner: at.Inner, Type: at.Inner.Type, NullError: refused}
	}
	c.nulls(at, p, t)
	return at
}

// missing settles what becomes of an absent key that an instance needs, and answers the error for a
// null in its place, nil where null is taken; that of a creator is kept with the property.
func (c *compiler) missing(at *decoder.Node, p *property, t *model.Type) (refused *decoder.Error) {
	if p.param == nil {
		return c.checked(at, p, t)
	}
	if c.isView(p.param.owner.Model) && c.kotlinModule() {
		return c.kotlinMissing(at, p, t)
	}
	defer func() { p.refused = refused }()
	if c.isView(p.param.owner.Model) {
		if refused = c.unnamedMissing(p, t); refused != nil {
			p.refused = refused
			at.Missing = absent(p)
		}
	}
	switch primitive := jvm.IsPrimitive(t, false); {
	case !primitive && c.on("FAIL_ON_NULL_CREATOR_PROPERTIES"):
		refused = fault("MismatchedInputException", decoder.ReasonNull, "Null value for creator property '%s' (index %d); `DeserializationFeature.FAIL_ON_NULL_CREATOR_PROPERTIES` enabled", p.name, p.param.param.index)
		at.Missing = refused
	case primitive && c.on("FAIL_ON_NULL_FOR_PRIMITIVES"):
		at.Missing = c.scalarOf(t, format{})(jvm.Sample(wire.Null)).Err
	}
	switch {
	case p.param.param.required:
		at.Missing = fault("MismatchedInputException", decoder.ReasonMissing, "Missing required creator property '%s' (index %d)", p.name, p.param.param.index)
		at.Missing.Key = p.name
	case c.on("FAIL_ON_MISSING_CREATOR_PROPERTIES"):
		at.Missing = fault("MismatchedInputException", decoder.ReasonMissing, "Missing creator property '%s' (index %d); `DeserializationFeature.FAIL_ON_MISSING_CREATOR_PROPERTIES` enabled", p.name, p.param.param.index)
		at.Missing.Key = p.name
	}
	return refused
}

// checked is missing for a setter that throws where it is given null. A builder throws too
// where nothing was set, unless its field has a default.
func (c *compiler) checked(at *decoder.Node, p *property, t *model.Type) *decoder.Error {
	if p.setter == nil || !p.setter.method.RefusesNull || jvm.IsPrimitive(t, false) {
		return nil
	}
	name := p.setter.method.Params[0].Name
	if m := p.setter.owner.Model; jacksonized(m) && at.Field != nil && at.Field.Marks.Find("Default") == nil {
		at.Missing = fault("ValueInstantiationException", decoder.ReasonMissing, "Cannot construct instance of `%s`, problem: %s is marked non-null but is null", className(m), name)
		at.Missing.Key = p.name
	}
	if m := p.setter.owner.Model; c.isView(m) {
		return fault("JsonMappingException", decoder.ReasonNull, "Parameter specified as non-null is null: method %s.%s, parameter %s", jvm.ClassName(m), p.setter.method.Name, name)
	}
	return fault("JsonMappingException", decoder.ReasonNull, "%s is marked non-null but is null", name)
}

// formatOf is what annotations of a property say about its values; why is what of it is
// not followed.
func formatOf(p *property) (as format, why string) {
	if a := p.marks.Find("JsonFormat"); a != nil {
		as.single = formatted(a, "ACCEPT_SINGLE_VALUE_AS_ARRAY")
		as.pattern, as.zone = a.Text("pattern", ""), a.Text("timezone", "")
		switch {
		case shaped(a, "ARRAY"):
			return as, "it is read from an array, which is not followed"
		case formatted(a, "ACCEPT_CASE_INSENSITIVE_PROPERTIES"), formatted(a, "ACCEPT_CASE_INSENSITIVE_VALUES"):
			return as, "the case of what it holds does not matter, which is not followed"
		}
	}
	if a := p.marks.Find("JsonIgnoreProperties"); a != nil {
		as.lenient = a.Text("ignoreUnknown", "false") == "true"
		for _, name := range a.Texts("value") {
			as.ignored += "," + name
		}
	}
	if a := p.marks.Find("JsonIncludeProperties"); a != nil {
		as.only = "," + strings.Join(a.Texts("value"), ",")
	}
	return as, ""
}

// narrowed is the type that @JsonDeserialize names in place of the declared one, or of
// the one of its elements.
func (c *compiler) narrowed(t *model.Type, a *model.Annotation, in *model.Model) *model.Type {
	to := func(t *model.Type, name string) *model.Type {
		out := *t
		if m := related(in, name); m != nil {
			return &model.Type{Kind: model.Named, Name: m.Name, Model: m, Args: t.Args, Pos: t.Pos}
		}
		switch t.Kind {
		case model.List, model.Unique, model.Map:
			out.Class = model.SimpleName(name)
		default:
			out.Model, out.Name = nil, model.SimpleName(name)
		}
		return &out
	}
	if name := a.Text("as", ""); name != "" {
		t = to(t, name)
	}
	for arg, word := range map[int]string{0: "keyAs", 1: "contentAs"} {
		name := a.Text(word, "")
		if name == "" || len(t.Args) == 0 || arg == 0 && t.Kind != model.Map {
			continue
		}
		out := *t
		out.Args = slices.Clone(t.Args)
		at := min(arg, len(t.Args)-1)
		out.Args[at] = to(t.Args[at], name)
		t = &out
	}
	return t
}

// formatted says whether a @JsonFormat switches a feature on.
func formatted(a *model.Annotation, feature string) bool {
	return slices.ContainsFunc(a.Texts("with"), func(text string) bool { return model.SimpleName(text) == feature })
}

// shaped says whether a @JsonFormat asks for a shape.
func shaped(a *model.Annotation, shape string) bool {
	return model.SimpleName(a.Text("shape", "")) == shape
}
