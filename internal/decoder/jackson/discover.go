package jackson

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// accessor is a member of a class that stands for a property: a field, a method, or a
// parameter of what makes instances (POJOPropertyBuilder.Linked).
type accessor struct {
	field    *model.Field
	method   *model.Method
	param    *parameter
	owner    *model.Type
	name     string // the one an annotation gives, or the implicit one where it gives none; "" without annotation
	explicit bool   // the annotation gives a name
	visible  bool
	ignored  bool
	marks    model.Annotated
}

// jacksonized says whether instances are made by the builder that Lombok writes, as its
// @Jacksonized tells Jackson, or @JsonDeserialize with the builder's name.
func jacksonized(m *model.Model) bool {
	return len(m.Builder) > 0 && (m.Marks.Find("Jacksonized") != nil || namesBuilder(m))
}

// namesBuilder says whether @JsonDeserialize names Lombok's builder, and its setters are
// named as Jackson looks for them: with the prefix of @JsonPOJOBuilder, by default "with".
func namesBuilder(m *model.Model) bool {
	name := model.SimpleName(m.Marks.Find("JsonDeserialize").Text("builder", ""))
	if name == "" || name != model.SimpleName(m.Name)+"Builder" || m.Marks.Find("Builder") == nil {
		return false
	}
	prefix := "with"
	if b := builderOf(m); b != nil {
		prefix = b.Marks.Find("JsonPOJOBuilder").Text("withPrefix", prefix)
	}
	return prefix == m.Marks.Find("Builder").Text("setterPrefix", "")
}

// builderOf is the builder as far as the source declares it itself, nil where Lombok makes
// all of it.
func builderOf(m *model.Model) *model.Model { return related(m, model.SimpleName(m.Name)+"Builder") }

// addBuilder gathers the setters of a builder, which have the names of the fields.
func (k *collector) addBuilder() {
	if k.visible("FIELD", model.Private) { // the builder has private fields of the same names
		for _, f := range k.t.Model.Fields {
			if !f.Static && f.Marks.Find("Default") == nil {
				p := k.property(f.Name)
				p.fields = append(p.fields, &accessor{field: f, owner: k.t, visible: true})
			}
		}
	}
	for _, m := range k.t.Model.Builder {
		implicit := k.mangled(m.Name)
		name, marked := nameOf(m.Marks, namesForReading)
		p := k.property(implicit)
		p.setters = append(p.setters, k.accessor(m, k.t, m.Marks, implicit, name, marked, "SETTER"))
	}
}

func ignores(marks model.Annotated) bool { return on(marks, "JsonIgnore", "value") }

// takesRest says whether a member takes all keys that no other one does.
func takesRest(marks model.Annotated) bool { return on(marks, "JsonAnySetter", "enabled") }

// on says whether an annotation is there that its argument does not turn off: @JsonValue(false),
// @JsonUnwrapped(enabled = false).
func on(marks model.Annotated, name, argument string) bool {
	a := marks.Find(name)
	return a != nil && a.Text(argument, "true") != "false"
}

func (k *collector) addFields() {
	for i := len(k.chain) - 1; i >= 0; i-- {
		owner := k.chain[i]
		for _, f := range owner.Model.Fields {
			if f.Static {
				continue
			}
			if takesRest(f.Marks) {
				k.out.any, k.out.anyField = true, f
				k.out.rest = &accessor{field: f, owner: owner}
				continue
			}
			a := &accessor{field: f, owner: owner, marks: f.Marks, visible: k.visible("FIELD", f.Access), ignored: ignores(f.Marks)}
			name, marked := nameOf(f.Marks, namesForReading)
			switch {
			case marked:
				a.name, a.explicit, a.visible = f.Name, name != "", true
				if name != "" {
					a.name = name
				}
			case f.Transient:
				a.visible = false
				a.ignored = a.ignored || k.c.on("PROPAGATE_TRANSIENT_MARKER")
			case f.Final && !a.ignored && k.c.off("ALLOW_FINAL_FIELDS_AS_MUTATORS"):
				continue
			}
			k.property(f.Name).fields = []*accessor{a} // it masks one of a class that is extended
		}
	}
}

// methodsOf are the methods of a class, with the accessors that a record has by itself: they
// have the annotations of its components (JLS 8.10.3).
func methodsOf(m *model.Model) []*model.Method {
	all := m.Methods
	if m.Kind != model.Record {
		return all
	}
	for _, f := range recordFields(m) {
		declared := func(own *model.Method) bool { return own.Name == f.Name && len(own.Params) == 0 }
		if !slices.ContainsFunc(m.Methods, declared) {
			all = append(slices.Clip(all), &model.Method{Name: f.Name, Returns: f.Type, Access: model.Public, Marks: f.Marks, Pos: f.Pos})
		}
	}
	return all
}

// addMethods gathers methods; one that overrides another has its annotations too.
func (k *collector) addMethods() {
	type found struct {
		method *model.Method
		owner  *model.Type
		marks  model.Annotated
	}
	var all []*found
	by := map[string]*found{}
	k.owners = supertypes(k.t)
	for _, owner := range k.owners {
		for _, m := range methodsOf(owner.Model) {
			if m.Static || len(m.Params) > 2 {
				continue
			}
			key := m.Name
			for _, p := range m.Params {
				key += "," + p.Type.Key()
			}
			if by[key] == nil {
				by[key] = &found{m, owner, m.Marks}
				all = append(all, by[key])
				continue
			}
			for _, a := range m.Marks {
				if f := by[key]; f.marks.Find(a.Name) == nil {
					f.marks = append(slices.Clip(f.marks), a)
				}
			}
		}
	}
	for _, f := range all {
		m := f.method
		switch {
		case takesRest(f.marks):
			k.out.any, k.out.rest = true, &accessor{method: m, owner: f.owner}
			k.any = append(k.any, fmt.Sprintf("[method %s#%s(%d params)]", jvm.ClassName(f.owner.Model), m.Name, len(m.Params)))
		case on(f.marks, "JsonAnyGetter", "enabled") || on(f.marks, "JsonValue", "value") || f.marks.Find("JsonKey") != nil:
		case len(m.Params) == 0 && m.Returns != nil:
			implicit, kind := k.getterName(m)
			name, marked := nameOf(f.marks, namesForWriting)
			if implicit != "" || marked {
				p := k.property(orText(implicit, m.Name))
				p.getters = append(p.getters, k.accessor(m, f.owner, f.marks, implicit, name, marked, kind))
			}
		case len(m.Params) == 1:
			implicit := ""
			if strings.HasPrefix(m.Name, "set") {
				implicit = k.mangled(m.Name[3:])
			}
			name, marked := nameOf(f.marks, namesForReading)
			if implicit != "" || marked {
				p := k.property(orText(implicit, m.Name))
				p.setters = append(p.setters, k.accessor(m, f.owner, f.marks, implicit, name, marked, "SETTER"))
			}
		}
	}
}

func orText(s, other string) string {
	if s == "" {
		return other
	}
	return s
}

func (k *collector) accessor(m *model.Method, owner *model.Type, marks model.Annotated, implicit, name string, marked bool, kind string) *accessor {
	a := &accessor{method: m, owner: owner, marks: marks, ignored: ignores(marks), visible: k.visible(kind, m.Access)}
	if marked {
		a.visible, a.explicit = true, name != ""
		a.name = orText(name, orText(implicit, m.Name))
	}
	return a
}

// getterName is the property that a method's name says it gets, and what sort of getter
// it is (DefaultAccessorNamingStrategy).
func (k *collector) getterName(m *model.Method) (name, kind string) {
	if k.t.Model.Kind == model.Record {
		for _, f := range k.t.Model.Fields {
			if f.Name == m.Name && !f.Static {
				return m.Name, "GETTER"
			}
		}
	}
	switch {
	case strings.HasPrefix(m.Name, "get") && m.Name != "getClass":
		return k.mangled(m.Name[3:]), "GETTER"
	case strings.HasPrefix(m.Name, "is") && jvm.Scalar(m.Returns) == "boolean":
		return k.mangled(m.Name[2:]), "IS_GETTER"
	}
	return "", "GETTER"
}

// mangled is the property's name in what is left of an accessor's.
func (k *collector) mangled(rest string) string {
	if k.c.on("USE_STD_BEAN_NAMING") && len(rest) > 1 && strings.ToUpper(rest[:2]) == rest[:2] && strings.ToLower(rest[:2]) != rest[:2] {
		return rest // java.beans.Introspector.decapitalize
	}
	if k.c.on("USE_STD_BEAN_NAMING") && rest != "" {
		return strings.ToLower(rest[:1]) + rest[1:]
	}
	return mangled(rest)
}

// makers are the constructors and factories that could make instances, each with whether
// an annotation says so, and in which mode.
func (k *collector) makers() (all []*model.Method) {
	m := k.t.Model
	all = append(all, m.Ctors...)
	for _, f := range m.Methods {
		if f.Static && f.Marks.Find("JsonCreator") != nil {
			all = append(all, f)
		}
	}
	return all
}

// creatorMode is what annotations say of a maker: "" for nothing, or a JsonCreator.Mode.
func creatorMode(m *model.Method) string {
	if a := m.Marks.Find("JsonCreator"); a != nil {
		return model.SimpleName(a.Text("mode", "DEFAULT"))
	}
	if m.Marks.Find("ConstructorProperties") != nil {
		return "PROPERTIES"
	}
	return ""
}

// canonical is the constructor of a record that its head declares, nil where another
// one is annotated.
func (k *collector) canonical() (canonical *model.Method) {
	m := k.t.Model
	if m.Kind != model.Record {
		return nil
	}
	for _, ctor := range m.Ctors {
		if creatorMode(ctor) != "" && creatorMode(ctor) != "DISABLED" {
			return nil
		}
		if len(ctor.Params) == len(recordFields(m)) && canonical == nil {
			canonical = ctor
		}
	}
	return canonical
}

// primary is the constructor of a class of Kotlin that the mapper's module takes, nil for none.
func (k *collector) primary() *model.Method { return k.c.views.primary[k.t.Model] }

// knowsNames says whether the mapper's Kotlin module names the parameters of a maker.
func (k *collector) knowsNames(maker *model.Method) bool {
	return maker == k.primary() || k.c.isView(k.t.Model) && k.c.kotlinModule() && maker.Marks.Find("JsonCreator") != nil
}

func (k *collector) addCreators() {
	canonical := k.canonical()
	for _, ctor := range k.makers() {
		var names []string
		if a := ctor.Marks.Find("ConstructorProperties"); a != nil {
			names = a.Texts("value")
		}
		for i, p := range ctor.Params {
			implicit := ""
			if i < len(names) {
				implicit = names[i]
			}
			name, marked := nameOf(p.Marks, namesForReading)
			explicit := marked && name != ""
			if ctor == canonical || k.knowsNames(ctor) {
				implicit = p.Name
			}
			if !explicit && (implicit == "" || creatorMode(ctor) == "" && ctor != canonical || creatorMode(ctor) == "DISABLED") {
				continue
			}
			a := &accessor{owner: k.t, marks: p.Marks, visible: true, explicit: explicit, name: orText(name, implicit), param: &parameter{Parameter: p, of: ctor, index: i}}
			if i < len(ctor.Fills) {
				a.param.fills = ctor.Fills[i]
			}
			key := orText(implicit, a.name)
			own := k.property(key)
			own.params = append(own.params, a)
		}
	}
}
