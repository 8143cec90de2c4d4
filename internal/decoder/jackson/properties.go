package jackson

import (
	"slices"
	"sort"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

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
	hidden                       bool           // of a creator's: its class ignores it
	refused                      *decoder.Error // of a creator's: for null, when all that it takes has been read
	absent                       *decoder.Error // of a creator's of Kotlin: the same for an absent key
	// Of one that a strategy made of two: it has collided, and what some of its members had been
	// given of the others before.
	collided bool
	merged   map[*accessor]model.Annotated
	marks    model.Annotated // of all its members, the foremost first
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
	rest       *accessor // that takes them
	creator    *model.Method
	delegate   *model.Method  // makes an instance of the value as a whole
	final      []*property    // of a record: what cannot be set although it has a name
	why        string         // what cannot be followed
	refused    *decoder.Error // what Jackson refuses of the class
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

// texts are the arguments of annotations that are taken as text.
var texts = map[string][]string{
	"JsonProperty": {"value", "required"}, "JsonAlias": {"value"}, "JsonSetter": {"value"}, "JsonUnwrapped": {"prefix", "suffix"}, "JsonFormat": {"pattern", "timezone"},
	"JsonIgnoreProperties": {"value", "ignoreUnknown"}, "JsonIncludeProperties": {"value"}, "JsonTypeInfo": {"property"}, "JsonTypeName": {"value"}, "JsonRootName": {"value"},
	"Type": {"name", "names"}, "ConstructorProperties": {"value"},
}

// untold is the first text of annotations that is a constant which the source does not
// have, "" where there is none.
func untold(marks model.Annotated) string {
	for i := range marks {
		a := &marks[i]
		if text := a.Untold(texts[a.Name]...); text != "" {
			return text
		}
		for _, arg := range a.Args {
			if text := untold(arg.Marks); text != "" {
				return text
			}
		}
	}
	return ""
}

// supertypes are a class and those it extends, each with the interfaces that it implements
// behind it (ClassUtil.findSuperTypes).
func supertypes(t *model.Type) (all []*model.Type) {
	seen := map[*model.Model]bool{}
	var add func(t *model.Type)
	add = func(t *model.Type) {
		if seen[t.Model] || len(all) > 100 {
			return
		}
		seen[t.Model] = true
		all = append(all, t)
		for _, name := range t.Model.Conforms {
			if m := related(t.Model, name); m != nil {
				add(&model.Type{Kind: model.Named, Name: m.Name, Model: m})
			}
		}
	}
	for _, s := range jvm.Chain(t) {
		add(s)
	}
	return all
}

// related is the model that another one's source gives a name, nil where there is none.
func related(m *model.Model, name string) *model.Model {
	if m.Related == nil {
		return nil
	}
	return m.Related(name)
}

// classMark is the annotation of a class or of the nearest type above it that has it.
func classMark(t *model.Type, name string) *model.Annotation {
	for _, s := range supertypes(t) {
		if a := s.Model.Marks.Find(name); a != nil {
			return a
		}
	}
	return nil
}

// collector gathers the properties of one class.
type collector struct {
	c         *compiler
	t         *model.Type
	chain     []*model.Type
	owners    []*model.Type // of methods: the chain with its interfaces
	marked    *model.Type   // the class whose annotations count: the type, or a builder of it
	out       *introspection
	props     []*property
	by        map[string]*property
	collected map[string]bool // names of properties that annotations of members ignore
	any       []string        // the methods that take all other keys, as messages name them
}

// introspect gathers the properties of a class.
func (c *compiler) introspect(t *model.Type) *introspection {
	k := &collector{c: c, t: t, chain: jvm.Chain(t), out: &introspection{ignored: map[string]bool{}}, by: map[string]*property{}, collected: map[string]bool{}}
	k.marked = t
	if jacksonized(t.Model) && t.Model.Marks.Find("Jacksonized") == nil { // which copies them to the builder
		k.marked = &model.Type{Kind: model.Named, Model: &model.Model{}}
		if b := builderOf(t.Model); b != nil {
			k.marked.Model = b
		}
	}
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
	for _, p := range k.props {
		k.oneGetter(p)
	}
	if !jacksonized(t.Model) {
		k.choose()
	}
	if len(k.any) > 1 {
		k.refuse("Problem with definition of [AnnotedClass %s]: Multiple 'any-setter' methods defined (%s)", jvm.ClassName(t.Model), strings.Join(k.any[:2], " vs "))
	}
	k.finish()
	for _, p := range k.out.properties {
		p.hidden = p.param != nil && k.out.hides(p.name)
	}
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
	if set := model.SimpleName(classMark(k.marked, "JsonAutoDetect").Text(member, "DEFAULT")); set != "DEFAULT" {
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

func (p *property) all() []*accessor {
	return slices.Concat(p.params, p.setters, p.fields, p.getters)
}

// removeIgnored drops properties that nothing is seen of, and those that an annotation
// ignores: as a whole, unless another member of it has an annotation of its own.
func (k *collector) removeIgnored() {
	kept, canonical := k.props[:0], k.canonical()
	for _, p := range k.props {
		visible, ignored, marked := false, false, false
		var own []*accessor // what a record is made of, which 2.14 does not know to belong to its fields
		for _, a := range p.all() {
			visible = visible || a.visible
			ignored = ignored || a.ignored
			if a.param != nil && !a.explicit && (a.param.of == canonical || a.param.of == k.primary()) {
				own = append(own, a)
				continue
			}
			marked = marked || a.name != "" && !a.ignored
		}
		switch {
		case !visible:
			continue
		case ignored && !marked:
			k.collected[p.name] = true
			if len(own) == 0 {
				continue
			}
			p.fields, p.getters, p.setters, p.params = nil, nil, nil, own
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
		if own := model.SimpleName(a.marks.Find("JsonProperty").Text("access", "AUTO")); own != "AUTO" && access == "AUTO" {
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

// ignore adds what a property says of the objects that it holds. What a creator takes is found
// before it is asked for (BeanDeserializer._deserializeUsingPropertyBased).
func (i *introspection) ignore(as format) {
	i.lenient = i.lenient || as.lenient
	if as.ignored != "" {
		for _, name := range strings.Split(as.ignored[1:], ",") {
			i.ignored[name] = true
		}
	}
	if as.only != "" {
		own := i.only
		i.only = map[string]bool{}
		for _, name := range strings.Split(as.only[1:], ",") {
			i.only[name] = own == nil || own[name]
		}
	}
	if as.ignored+as.only != "" {
		i.properties = slices.DeleteFunc(i.properties, func(p *property) bool { return i.hides(p.name) && p.param == nil })
	}
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

// allFields are the fields of a class and of those it extends, theirs first; in Kotlin without those of
// properties that are overridden, which nobody sees.
func allFields(t *model.Type) (fields []*model.Field, owners []*model.Type) {
	all := jvm.Chain(t)
	for i := len(all) - 1; i >= 0; i-- {
		for _, f := range all[i].Model.Fields {
			overridden := all[i].Model.Language == "kotlin" && slices.ContainsFunc(all[:i], func(s *model.Type) bool {
				return slices.ContainsFunc(s.Model.Fields, func(own *model.Field) bool { return own.Name == f.Name })
			})
			if !f.Static && !overridden {
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
