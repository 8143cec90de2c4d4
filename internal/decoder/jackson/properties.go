package jackson

import (
	"fmt"
	"slices"
	"sort"
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

// property is what Jackson takes for one property of a class: the members that stand
// for it, and the name it has on the wire.
type property struct {
	implicit string // by the members' names
	name     string // on the wire
	fields   []*accessor
	getters  []*accessor
	setters  []*accessor
	params   []*accessor
	// What is left of them in the end, nil where nothing is.
	field, getter, setter, param *accessor
	marks                        model.Annotated // of all its members, the foremost first
}

// parameter is one of a constructor's or of a factory's that makes instances.
type parameter struct {
	*model.Parameter
	of       *model.Method
	index    int
	required bool
	fills    string // the field that it is assigned to
}

// introspection is what Jackson makes of a class (POJOPropertiesCollector,
// BeanDeserializerFactory).
type introspection struct {
	properties []*property
	ignored    map[string]bool
	only       map[string]bool // all other keys are ignored; nil where that is not said
	lenient    bool            // unknown keys are passed over
	any        bool            // a method or field takes all other keys
	anyField   *model.Field
	creator    *model.Method
	delegate   *model.Method // makes an instance of the value as a whole
	final      []*property   // of a record: what cannot be set although it has a name
	why        string        // what cannot be followed
}

// namesForReading and namesForWriting are the annotations that make a member one of a
// property, if without a name of its own (JacksonAnnotationIntrospector).
var (
	namesForReading = []string{"JsonSetter", "JsonProperty", "JsonDeserialize", "JsonView", "JsonFormat", "JsonTypeInfo", "JsonUnwrapped", "JsonBackReference", "JsonManagedReference", "JsonMerge"}
	namesForWriting = []string{"JsonGetter", "JsonProperty", "JsonSerialize", "JsonView", "JsonFormat", "JsonTypeInfo", "JsonRawValue", "JsonUnwrapped", "JsonBackReference", "JsonManagedReference"}
)

// nameOf is the name that annotations give a member, "" where they give none; marked
// says whether one of them makes it a property's.
func nameOf(marks model.Annotated, by []string) (name string, marked bool) {
	for i, word := range by {
		a := marks.Find(word)
		if a == nil {
			continue
		}
		marked = true
		if text := a.Text("value", ""); i < 2 && text != "" {
			return text, true
		}
		if i == 1 { // @JsonProperty without a name ends the search
			break
		}
	}
	return "", marked
}

// chain is a class with those it extends, outermost last.
func chain(t *model.Type) (all []*model.Type) {
	for s := t; s != nil && s.Model != nil && len(all) < 100; {
		all = append(all, s)
		if s.Model.Super == nil {
			break
		}
		s = s.Model.Super.Bind(s.Env())
	}
	return all
}

// classMark is the annotation of a class or of the nearest one that it extends.
func classMark(t *model.Type, name string) *model.Annotation {
	for _, s := range chain(t) {
		if a := s.Model.Marks.Find(name); a != nil {
			return a
		}
	}
	return nil
}

// lastName is the last name of a path: Visibility.ANY is ANY.
func lastName(path string) string { return path[strings.LastIndexByte(path, '.')+1:] }

// collector gathers the properties of one class.
type collector struct {
	c         *compiler
	t         *model.Type
	chain     []*model.Type
	out       *introspection
	props     []*property
	by        map[string]*property
	collected map[string]bool // names of properties that annotations of members ignore
}

// introspect gathers the properties of a class.
func (c *compiler) introspect(t *model.Type) *introspection {
	k := &collector{c: c, t: t, chain: chain(t), out: &introspection{ignored: map[string]bool{}}, by: map[string]*property{}, collected: map[string]bool{}}
	if jacksonized(t.Model) {
		k.addBuilder()
	} else {
		k.addFields()
		k.addMethods()
		k.addCreators()
	}
	k.removeIgnored()
	for _, p := range k.props {
		k.removeUnseen(p)
	}
	k.rename()
	k.renameByStrategy()
	for _, p := range k.props {
		p.fields, p.getters, p.setters, p.params = trimmed(p.fields), trimmed(p.getters), trimmed(p.setters), trimmed(p.params)
	}
	if !jacksonized(t.Model) {
		k.choose()
	}
	k.finish()
	return k.out
}

func (k *collector) property(name string) *property {
	p := k.by[name]
	if p == nil {
		p = &property{implicit: name, name: name}
		k.by[name] = p
		k.props = append(k.props, p)
	}
	return p
}

// visible says whether members of a kind (FIELD, GETTER, IS_GETTER, SETTER, CREATOR) with
// this access are seen without an annotation.
func (k *collector) visible(kind string, access model.Access) bool {
	rule := map[string]string{"FIELD": "PUBLIC_ONLY", "GETTER": "PUBLIC_ONLY", "IS_GETTER": "PUBLIC_ONLY", "SETTER": "ANY", "CREATOR": "ANY"}[kind]
	if set := k.c.settings.Option("visibility." + kind); set != "" {
		rule = set
	} else if set := k.c.settings.Option("visibility.ALL"); set != "" {
		rule = set
	}
	if k.c.off("AUTO_DETECT_" + kind + "S") {
		rule = "NONE"
	}
	member := map[string]string{"FIELD": "fieldVisibility", "GETTER": "getterVisibility", "IS_GETTER": "isGetterVisibility", "SETTER": "setterVisibility", "CREATOR": "creatorVisibility"}[kind]
	if set := lastName(classMark(k.t, "JsonAutoDetect").Text(member, "DEFAULT")); set != "DEFAULT" {
		rule = set
	}
	switch rule {
	case "ANY":
		return true
	case "NONE":
		return false
	case "NON_PRIVATE":
		return access != model.Private
	case "PROTECTED_AND_PUBLIC":
		return access == model.Public || access == model.Protected
	}
	return access == model.Public
}

// jacksonized says whether instances are made by the builder that Lombok writes, as its
// @Jacksonized tells Jackson.
func jacksonized(m *model.Model) bool {
	return m.Marks.Find("Jacksonized") != nil && len(m.Builder) > 0
}

// addBuilder gathers the setters of a builder, which have the names of the fields.
func (k *collector) addBuilder() {
	for _, m := range k.t.Model.Builder {
		implicit := k.mangled(m.Name)
		name, marked := nameOf(m.Marks, namesForReading)
		p := k.property(implicit)
		p.setters = append(p.setters, k.accessor(m, k.t, m.Marks, implicit, name, marked, "SETTER"))
	}
}

func ignores(marks model.Annotated) bool {
	a := marks.Find("JsonIgnore")
	return a != nil && a.Text("value", "true") != "false"
}

func (k *collector) addFields() {
	for i := len(k.chain) - 1; i >= 0; i-- {
		owner := k.chain[i]
		for _, f := range owner.Model.Fields {
			if f.Static {
				continue
			}
			if f.Marks.Find("JsonAnySetter") != nil {
				k.out.any, k.out.anyField = true, f
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
			p := k.property(f.Name)
			for at := range p.fields { // one of the same name in a class that is extended
				if p.fields[at].field.Name == f.Name {
					p.fields = slices.Delete(p.fields, at, at+1)
					break
				}
			}
			p.fields = append(p.fields, a)
		}
	}
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
	for _, owner := range k.chain {
		for _, m := range owner.Model.Methods {
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
		case f.marks.Find("JsonAnySetter") != nil:
			k.out.any = true
		case f.marks.Find("JsonAnyGetter") != nil || f.marks.Find("JsonValue") != nil || f.marks.Find("JsonKey") != nil:
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
		return lastName(a.Text("mode", "DEFAULT"))
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
			if ctor == canonical {
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

func (p *property) all() []*accessor {
	return slices.Concat(p.params, p.setters, p.fields, p.getters)
}

// removeIgnored drops properties that nothing is seen of, and those that an annotation
// ignores: as a whole, unless another member of it has an annotation of its own.
func (k *collector) removeIgnored() {
	kept := k.props[:0]
	for _, p := range k.props {
		visible, ignored, marked := false, false, false
		for _, a := range p.all() {
			visible = visible || a.visible
			ignored = ignored || a.ignored
			marked = marked || a.name != "" && !a.ignored
		}
		switch {
		case !visible:
			continue
		case ignored && !marked:
			k.collected[p.name] = true
			continue
		case ignored:
			isIgnored := func(a *accessor) bool { return a.ignored }
			p.fields, p.getters = slices.DeleteFunc(p.fields, isIgnored), slices.DeleteFunc(p.getters, isIgnored)
			p.setters, p.params = slices.DeleteFunc(p.setters, isIgnored), slices.DeleteFunc(p.params, isIgnored)
			if len(p.fields)+len(p.setters)+len(p.params) == 0 {
				k.collected[p.name] = true
			}
		}
		kept = append(kept, p)
	}
	k.props = kept
}

// removeUnseen drops members that may not be used: by the access that an annotation
// gives, or else those that are not seen. A getter that is seen makes the setter and
// the field usable too (INFER_PROPERTY_MUTATORS).
func (k *collector) removeUnseen(p *property) {
	access := "AUTO"
	for _, a := range p.all() {
		if own := lastName(a.marks.Find("JsonProperty").Text("access", "AUTO")); own != "AUTO" && access == "AUTO" {
			access = own
		}
	}
	unseen := func(a *accessor) bool { return !a.visible }
	switch access {
	case "READ_ONLY":
		k.collected[p.name] = true
		for _, a := range p.all() {
			if a.explicit {
				k.collected[a.name] = true
			}
		}
		p.setters, p.params, p.fields = nil, nil, nil
	case "READ_WRITE":
	case "WRITE_ONLY":
		p.getters = nil
	default:
		p.getters = slices.DeleteFunc(p.getters, unseen)
		p.params = slices.DeleteFunc(p.params, unseen)
		if len(p.getters) == 0 || k.c.off("INFER_PROPERTY_MUTATORS") {
			p.fields = slices.DeleteFunc(p.fields, unseen)
			p.setters = slices.DeleteFunc(p.setters, unseen)
		}
	}
}

// put adds a property under its name; what has the name already takes its members.
func (k *collector) put(p *property) {
	own := k.by[p.name]
	if own == nil {
		k.by[p.name] = p
		k.props = append(k.props, p)
		return
	}
	own.fields, own.getters = append(own.fields, p.fields...), append(own.getters, p.getters...)
	own.setters, own.params = append(own.setters, p.setters...), append(own.params, p.params...)
}

// rename gives properties the names that annotations give their members.
func (k *collector) rename() {
	all := k.props
	k.props, k.by = nil, map[string]*property{}
	var renamed []*property
	for _, p := range all {
		var names []string
		for _, a := range slices.Concat(p.fields, p.getters, p.setters, p.params) {
			if a.explicit && !slices.Contains(names, a.name) {
				names = append(names, a.name)
			}
		}
		if len(names) == 0 {
			k.put(p)
			continue
		}
		if len(names) == 1 {
			p.name = names[0]
			renamed = append(renamed, p)
			continue
		}
		for _, name := range names {
			other := func(a *accessor) bool { return a.name != name || !a.explicit }
			renamed = append(renamed, &property{implicit: p.implicit, name: name,
				fields: slices.DeleteFunc(slices.Clone(p.fields), other), getters: slices.DeleteFunc(slices.Clone(p.getters), other),
				setters: slices.DeleteFunc(slices.Clone(p.setters), other), params: slices.DeleteFunc(slices.Clone(p.params), other)})
		}
		for _, a := range p.all() {
			if !a.explicit && a.visible {
				k.out.why = fmt.Sprintf("its property %s has several names (%s)", p.implicit, strings.Join(names, ", "))
			}
		}
	}
	for _, p := range renamed {
		k.put(p)
		if k.by[p.name] == p && len(p.params) > 0 {
			delete(k.collected, p.name)
		}
	}
}

// renameByStrategy gives the properties that no annotation names the names that the
// naming strategy makes.
func (k *collector) renameByStrategy() {
	strategy := k.c.settings.Option("naming")
	if a := classMark(k.t, "JsonNaming"); a != nil {
		strategy = strings.TrimSuffix(lastName(a.Text("value", "")), "Strategy")
	}
	if strategy == "" {
		return
	}
	all := k.props
	k.props, k.by = nil, map[string]*property{}
	for _, p := range all {
		if len(p.params) > 0 && p.params[0].param.of == k.canonical() {
			// 2.14 leaves the names of a record's parameters alone, and takes the renamed
			// ones for its final fields (databind issue 2992).
			if name, _ := Rename(strategy, p.name); !explicit(p) && name != p.name && len(p.fields) > 0 {
				k.out.final = append(k.out.final, &property{implicit: p.implicit, name: name, field: p.fields[0]})
			}
			k.put(p)
			continue
		}
		if !explicit(p) || k.c.on("ALLOW_EXPLICIT_PROPERTY_RENAMING") {
			name, ok := Rename(strategy, p.name)
			if !ok {
				k.out.why = "its keys are renamed by " + strategy + ", which is not followed"
			}
			p.name = name
		}
		k.put(p)
	}
}

// explicit says whether an annotation names a property.
func explicit(p *property) bool {
	return slices.ContainsFunc(p.all(), func(a *accessor) bool { return a.explicit })
}

// trimmed are the members of one kind that count: those with an annotation, or else
// those that are seen.
func trimmed(all []*accessor) []*accessor {
	if len(all) < 2 {
		return all
	}
	if marked := slices.DeleteFunc(slices.Clone(all), func(a *accessor) bool { return a.name == "" }); len(marked) > 0 {
		return marked
	}
	if seen := slices.DeleteFunc(slices.Clone(all), func(a *accessor) bool { return !a.visible }); len(seen) > 0 {
		return seen
	}
	return all
}

// choose finds what makes instances: a constructor or factory with annotations, a
// record's own constructor, or a constructor all of whose parameters have names.
func (k *collector) choose() {
	canonical := k.canonical()
	named := func(m *model.Method) int {
		n := 0
		for _, p := range k.props {
			for _, a := range p.params {
				if a.param.of == m {
					n++
				}
			}
		}
		return n
	}
	explicit := false
	for _, m := range k.makers() {
		mode := creatorMode(m)
		if mode == "" || mode == "DISABLED" || len(m.Params) == 0 {
			continue
		}
		explicit = true
		delegates := mode == "DELEGATING"
		if mode == "DEFAULT" && len(m.Params) == 1 {
			name, _ := nameOf(m.Params[0].Marks, namesForReading)
			delegates = name == ""
		}
		switch {
		case delegates:
			k.out.delegate = m
		case named(m) < len(m.Params):
			k.out.why = "a parameter of its creator has no name on the wire"
		default:
			k.out.creator = m
		}
	}
	if canonical != nil && !explicit {
		k.out.creator = canonical
		return
	}
	if explicit {
		return
	}
	for _, m := range k.t.Model.Ctors {
		switch n := named(m); {
		case n == 0 || creatorMode(m) == "DISABLED" || !k.visible("CREATOR", m.Access):
		case n == len(m.Params):
			k.out.creator = m
		default:
			k.out.why = "a parameter of its constructor has no name on the wire"
		}
	}
}

// finish settles what is read into each property.
func (k *collector) finish() {
	out := k.out
	if a := classMark(k.t, "JsonIgnoreProperties"); a != nil {
		if a.Text("allowSetters", "false") != "true" {
			for _, name := range a.Texts("value") {
				out.ignored[name] = true
			}
		}
		out.lenient = a.Text("ignoreUnknown", "false") == "true"
	}
	if a := classMark(k.t, "JsonIncludeProperties"); a != nil {
		out.only = map[string]bool{}
		for _, name := range a.Texts("value") {
			out.only[name] = true
		}
	}
	for _, p := range k.props {
		for _, a := range p.params {
			if a.param.of == out.creator {
				p.param = a
			}
		}
		if out.hides(p.name) && p.param == nil {
			continue
		}
		p.setter, p.field = k.setter(p), first(p.fields)
		if p.getter = first(p.getters); p.getter != nil && !(k.c.collects(p.getter.method.Returns) && !k.c.off("USE_GETTERS_AS_SETTERS")) || p.getter != nil && k.collected[p.name] {
			p.getter = nil
		}
		if p.param == nil && p.setter == nil && p.field == nil && p.getter == nil {
			continue
		}
		for _, a := range slices.Concat(p.params, p.setters, p.fields, p.getters) {
			p.marks = append(p.marks, a.marks...)
		}
		if p.param != nil && p.marks.Find("JsonUnwrapped") != nil {
			out.why = "its creator is given " + p.name + " unwrapped, which Jackson does not do"
		}
		if p.param != nil {
			p.param.param.required = p.marks.Find("JsonProperty").Text("required", "false") == "true"
		}
		if t := p.declared(); t != nil && p.param == nil && t.Model != nil {
			if a := t.Model.Marks.Find("JsonIgnoreType"); a != nil && a.Text("value", "true") == "true" {
				out.ignored[p.name] = true
				continue
			}
		}
		out.properties = append(out.properties, p)
	}
	if !out.any {
		for name := range k.collected {
			out.ignored[name] = true
		}
	}
}

// ignore adds what a property says of the objects that it holds.
func (i *introspection) ignore(as format) {
	i.lenient = i.lenient || as.lenient
	if as.ignored == "" {
		return
	}
	for _, name := range strings.Split(as.ignored[1:], ",") {
		i.ignored[name] = true
	}
	i.properties = slices.DeleteFunc(i.properties, func(p *property) bool { return i.ignored[p.name] && p.param == nil })
}

// hides says whether annotations have members of that name passed over.
func (i *introspection) hides(name string) bool {
	return i.ignored[name] || i.only != nil && !i.only[name]
}

// declared is the type that is read into a property.
func (p *property) declared() *model.Type {
	switch {
	case p.param != nil:
		return p.param.param.Type.Unwrapped()
	case p.setter != nil:
		return p.setter.method.Params[0].Type.Unwrapped()
	case p.field != nil:
		return p.field.field.Type.Unwrapped()
	case p.getter != nil:
		return p.getter.method.Returns.Unwrapped()
	}
	return nil
}

func first(all []*accessor) *accessor {
	if len(all) == 0 {
		return nil
	}
	return all[len(all)-1] // that of the class itself, behind those of what it extends
}

// setter is the one that is called of several: that of a subclass, then one that is
// named set…, then one that takes a primitive, then one that takes a string.
func (k *collector) setter(p *property) *accessor {
	if len(p.setters) == 0 {
		return nil
	}
	rank := func(a *accessor) int {
		r := 0
		for i, s := range k.chain {
			if s == a.owner {
				r = i * 100
			}
		}
		if !strings.HasPrefix(a.method.Name, "set") {
			r += 10
		}
		switch t := a.method.Params[0].Type; {
		case jvm.IsPrimitive(t, false):
		case t.Name == "String":
			r++
		default:
			r += 2
		}
		return r
	}
	best := p.setters[0]
	for _, a := range p.setters[1:] {
		switch d := rank(a) - rank(best); {
		case d < 0:
			best = a
		case d == 0:
			k.out.why = "it has several setters for " + p.name
		}
	}
	return best
}

// collects says whether a getter's value can be added to where there is no setter.
func (c *compiler) collects(t *model.Type) bool {
	return t != nil && (t.Kind == model.List && t.Name == "" || t.Kind == model.Unique || t.Kind == model.Map)
}

func recordFields(m *model.Model) (fields []*model.Field) {
	for _, f := range m.Fields {
		if !f.Static {
			fields = append(fields, f)
		}
	}
	return fields
}

// allFields are the fields of a class and of those it extends, theirs first.
func allFields(t *model.Type) (fields []*model.Field, owners []*model.Type) {
	all := chain(t)
	for i := len(all) - 1; i >= 0; i-- {
		for _, f := range all[i].Model.Fields {
			if !f.Static {
				fields, owners = append(fields, f), append(owners, all[i])
			}
		}
	}
	return fields, owners
}

// known lists names as messages do.
func known(names []string) string {
	sort.Strings(names)
	return strings.Join(names, ", ")
}
