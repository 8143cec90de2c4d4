package jackson

import (
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// views are classes of Kotlin as the compiler makes them for Java: with fields that are
// private, accessors, and types of Java. Jackson sees no more of a class than that, but for
// what its Kotlin module (jackson-module-kotlin 2.14) adds: the names of parameters, the
// primary constructor as creator, and which of its parameters have defaults or take null.
type views struct {
	of     map[*model.Model]*model.Model // by class
	models map[*model.Model]*model.Model // back
	fields map[*model.Field]*model.Field // back
	same   map[*model.Field]*model.Field // back, of classes of Java
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

// isView says whether a class is the view of one of Kotlin.
func (c *compiler) isView(m *model.Model) bool {
	return c.views.models[m] != nil && m.Language == "kotlin"
}

func (v *views) begin() {
	if v.of == nil {
		*v = views{of: map[*model.Model]*model.Model{}, models: map[*model.Model]*model.Model{}, fields: map[*model.Field]*model.Field{}, same: map[*model.Field]*model.Field{},
			nullable: map[*model.Parameter]nullability{}, optional: map[*model.Parameter]bool{}, primary: map[*model.Model]*model.Method{}}
	}
}

// kotlinTypes are what Kotlin's types are compiled to: where they are never null, and where they may
// be or are type arguments.
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
	if of := c.unboxedOf(t); of != nil && boxed == 0 {
		return of
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
	switch {
	case t.Model != nil && t.Model.Language == "kotlin":
		out.Model = c.view(t.Model)
	case t.Model != nil && c.mixes():
		out.Model = c.mixed(t.Model)
	}
	return &out
}

// view is a class of Kotlin as the compiler makes it.
func (c *compiler) view(m *model.Model) *model.Model {
	c.views.begin()
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
	v.Related = c.relatedView(m)
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
		if (inline(k) || k.Defaults && mangles) && !(k.Pos == m.Pos && !k.Defaults && c.kotlinModule() && c.since(readsValueClasses)) {
			if len(k.Params) == 1 && !k.Defaults { // private for the virtual machine, which a mapper finds all the same
				v.Ctors = append(v.Ctors, c.alone(m, k))
			}
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
			if len(k.Params) == 1 && !c.since(readsPrivateAlone) && !couldSerialize(m, k.Params[0]) {
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
	c.mix(v, m)
	if why := c.beyond(m); why != "" && v.Reading == model.ByLibrary {
		v.Reading, v.Why, v.WhyPos = model.Unfollowed, why, m.Pos
	}
	return v
}

// unsigned are what the virtual machine has for numbers without a sign.
var unsigned = map[string]string{"UInt": "Int", "ULong": "Long", "UShort": "Short", "UByte": "Byte"}

// alone is a constructor of one value class as the virtual machine has it: of what that holds, without a name.
func (c *compiler) alone(m *model.Model, k *model.Method) *model.Method {
	made := c.viewOf(m, k)
	held := k.Params[0].Type.Unwrapped()
	if name := unsigned[held.Name]; held.Model == nil && name != "" {
		held = &model.Type{Kind: model.Named, Name: name, Pos: held.Pos}
	} else if held.Model != nil && held.Model.Inline != nil {
		held = held.Model.Inline.Bind(held.Env())
	}
	p := made.Params[0]
	made.Access, p.Name, p.Marks, p.Type = model.Private, "", nil, c.java(held)
	return made
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
	get, set, is := model.Accessors(f.Name)
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
			n.Type, n.Inner = f.Declared, hiding(n.Inner, f.Type)
		}
	}
	if f := v.same[n.Field]; f != nil {
		n.Field = f
	}
	for i, f := range n.Props {
		if own := v.fields[f]; own != nil {
			n.Props[i] = own
		}
		if own := v.same[f]; own != nil {
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

// hiding is a node that says where a null becomes a value of a type of Kotlin that says there is none:
// in elements, which nobody checks, and in properties that are set without a setter. Nodes that other
// types share are left as they are.
func hiding(n *decoder.Node, t *model.Type) *decoder.Node {
	if n == nil || t == nil {
		return n
	}
	u := t.Unwrapped()
	never := t.Kind != model.Optional && t.Kind != model.Param // is it null
	out := *n
	switch n.Op {
	case decoder.OpLeaf:
		if verdict := n.Read(jvm.Sample(wire.Null)); never && verdict.Err == nil && verdict.Seen.Kind == decoder.SeenNull && verdict.Loss == decoder.NoLoss {
			return &decoder.Node{Op: decoder.OpNil, Inner: n, Type: n.Type, NullLoss: decoder.HiddenNull}
		}
		return n
	case decoder.OpNil:
		if never && n.NullError == nil && n.Value.Kind == decoder.SeenNull && n.NullLoss == decoder.NoLoss {
			out.NullLoss = decoder.HiddenNull
		}
		out.Inner = hiding(n.Inner, model.OptionalOf(u))
	case decoder.OpList, decoder.OpMap:
		if len(u.Args) == 0 || u.Model != nil || n.SkipNull {
			return n
		}
		out.Inner = hiding(n.Inner, u.Args[len(u.Args)-1])
	default:
		return n
	}
	return &out
}

func (v *views) stepsAsDeclared(steps []decoder.Step, seen map[*decoder.Node]bool) {
	for _, s := range steps {
		v.asDeclared(s.Node, seen)
		v.asDeclared(s.Cond, seen)
		v.stepsAsDeclared(s.Then, seen)
		v.stepsAsDeclared(s.Else, seen)
	}
}
