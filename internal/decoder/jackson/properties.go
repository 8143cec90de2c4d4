package jackson

import (
	"sort"
	"strings"

	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// property is what Jackson takes for one property of a class: the members that stand
// for it, and the name it has on the wire.
type property struct {
	implicit string // by the members' names
	name     string // on the wire
	explicit bool   // an annotation gives the name
	field    *member
	getter   *member
	setter   *member
	param    *parameter
	aliases  []string
	ignored  bool
	readOnly bool
	marks    model.Annotated // of all its members
}

// member is a field or a method, and whether Jackson may use it without an annotation.
type member struct {
	field   *model.Field
	method  *model.Method
	owner   *model.Type
	visible bool
	marked  bool // an annotation makes it one of a property
}

// parameter is one of a constructor's that makes instances.
type parameter struct {
	*model.Parameter
	index    int
	required bool
	fills    string
}

// introspection is what Jackson makes of a class (POJOPropertiesCollector).
type introspection struct {
	properties []*property
	ignored    map[string]bool
	any        bool // a method or field takes all other keys
	anyField   *model.Field
	creator    *model.Method
	why        string // what cannot be followed
}

// explicitMarks make a member one of a property, if without a name of its own.
var explicitMarks = map[string]bool{"JsonProperty": true, "JsonSetter": true, "JsonDeserialize": true, "JsonUnwrapped": true, "JsonView": true, "JsonManagedReference": true, "JsonBackReference": true, "JsonMerge": true, "JsonFormat": false}

func nameOf(marks model.Annotated) (name string, marked bool) {
	for _, a := range marks {
		if !explicitMarks[a.Name] {
			continue
		}
		marked = true
		if a.Name == "JsonProperty" || a.Name == "JsonSetter" {
			if text := a.Text("value", ""); text != "" {
				return text, true
			}
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

// introspect gathers the properties of a class.
func (c *compiler) introspect(t *model.Type) *introspection {
	out := &introspection{ignored: map[string]bool{}}
	byName := map[string]*property{}
	var order []*property
	get := func(implicit string) *property {
		p := byName[implicit]
		if p == nil {
			p = &property{implicit: implicit, name: implicit}
			byName[implicit] = p
			order = append(order, p)
		}
		return p
	}
	add := func(p *property, marks model.Annotated) (name string, marked bool) {
		name, marked = nameOf(marks)
		if name != "" {
			p.name, p.explicit = name, true
		}
		p.marks = append(p.marks, marks...)
		for _, a := range marks {
			switch a.Name {
			case "JsonIgnore":
				p.ignored = p.ignored || a.Text("value", "true") != "false"
			case "JsonAlias":
				p.aliases = append(p.aliases, a.Texts("value")...)
			case "JsonProperty":
				p.readOnly = p.readOnly || strings.HasSuffix(a.Text("access", ""), "READ_ONLY")
			}
		}
		return name, marked
	}
	all := chain(t)
	fieldsVisible := c.fieldVisibility(all)
	for i := len(all) - 1; i >= 0; i-- {
		m := all[i].Model
		for _, f := range m.Fields {
			if f.Static {
				continue
			}
			if f.Marks.Find("JsonAnySetter") != nil {
				out.any, out.anyField = true, f
				continue
			}
			_, marked := nameOf(f.Marks)
			if f.Transient && !marked {
				continue
			}
			p := get(f.Name)
			add(p, f.Marks)
			p.field = &member{field: f, owner: all[i], marked: marked, visible: fieldsVisible(f.Access) && m.Kind != model.Record}
		}
		for _, f := range m.Methods {
			if f.Static {
				continue
			}
			switch {
			case f.Marks.Find("JsonAnySetter") != nil:
				out.any = true
			case f.Marks.Find("JsonAnyGetter") != nil || f.Marks.Find("JsonValue") != nil || f.Marks.Find("JsonCreator") != nil:
			case len(f.Params) == 0 && f.Returns != nil:
				implicit, is := "", false
				switch {
				case strings.HasPrefix(f.Name, "get") && len(f.Name) > 3 && f.Name != "getClass":
					implicit = mangled(f.Name[3:])
				case strings.HasPrefix(f.Name, "is") && len(f.Name) > 2 && jvm.Scalar(f.Returns) == "boolean":
					implicit, is = mangled(f.Name[2:]), true
				}
				_, marked := nameOf(f.Marks)
				if implicit == "" {
					if !marked {
						continue
					}
					implicit = f.Name
				}
				p := get(implicit)
				add(p, f.Marks)
				if p.getter == nil || !is {
					p.getter = &member{method: f, owner: all[i], marked: marked, visible: f.Access == model.Public}
				}
			case len(f.Params) == 1:
				implicit := ""
				if strings.HasPrefix(f.Name, "set") && len(f.Name) > 3 {
					implicit = mangled(f.Name[3:])
				}
				_, marked := nameOf(f.Marks)
				if implicit == "" {
					if !marked {
						continue
					}
					implicit = f.Name
				}
				p := get(implicit)
				add(p, f.Marks)
				p.setter = &member{method: f, owner: all[i], marked: marked, visible: true}
			}
		}
	}
	c.creator(t, out, get, add)
	for _, p := range order {
		if p.ignored {
			out.ignored[p.name] = true
			out.ignored[p.implicit] = true
			continue
		}
		if p.usable() {
			out.properties = append(out.properties, p)
		}
	}
	strategy := c.settings.Option("naming")
	if a := t.Model.Marks.Find("JsonNaming"); a != nil {
		text := a.Text("value", "")
		text = text[strings.LastIndexByte(text, '.')+1:]
		strategy = strings.TrimSuffix(text, "Strategy")
	}
	for _, p := range out.properties {
		if p.explicit {
			continue
		}
		name, ok := Rename(strategy, p.name)
		if !ok {
			out.why = "its keys are renamed by " + strategy + ", which is not followed"
		}
		p.name = name
	}
	out.properties = merged(out.properties)
	if a := t.Model.Marks.Find("JsonIgnoreProperties"); a != nil {
		for _, name := range a.Texts("value") {
			out.ignored[name] = true
		}
		out.any = out.any || a.Text("ignoreUnknown", "false") == "true"
	}
	kept := out.properties[:0]
	for _, p := range out.properties {
		if !out.ignored[p.name] {
			kept = append(kept, p)
		}
	}
	out.properties = kept
	return out
}

// merged puts together properties whose annotations give them one name.
func merged(all []*property) (out []*property) {
	at := map[string]*property{}
	for _, p := range all {
		own := at[p.name]
		if own == nil {
			at[p.name] = p
			out = append(out, p)
			continue
		}
		if own.setter == nil {
			own.setter = p.setter
		}
		if own.field == nil {
			own.field = p.field
		}
		if own.param == nil {
			own.param = p.param
		}
		if own.getter == nil {
			own.getter = p.getter
		}
		own.marks = append(own.marks, p.marks...)
		own.aliases = append(own.aliases, p.aliases...)
	}
	return out
}

// usable says whether Jackson can set a property: by a constructor, a setter, a field
// that it sees or whose getter it sees, or a getter of a collection.
func (p *property) usable() bool {
	if p.param != nil {
		return true
	}
	if p.readOnly {
		return false
	}
	anyMarked := false
	for _, m := range []*member{p.field, p.getter, p.setter} {
		anyMarked = anyMarked || m != nil && m.marked
	}
	seen := p.getter != nil && (p.getter.visible || p.getter.marked)
	if p.setter != nil && (p.setter.visible || p.setter.marked) {
		return true
	}
	p.setter = nil
	if p.field != nil && (p.field.visible || p.field.marked || seen || anyMarked) {
		return true
	}
	p.field = nil
	return seen && isCollection(p.getter.method.Returns)
}

func isCollection(t *model.Type) bool {
	return t != nil && (t.Kind == model.List && t.Name == "" || t.Kind == model.Unique || t.Kind == model.Map)
}

// fieldVisibility says which fields are seen without an annotation: public ones, unless
// @JsonAutoDetect says otherwise.
func (c *compiler) fieldVisibility(all []*model.Type) func(model.Access) bool {
	rule := ""
	for _, t := range all {
		if a := t.Model.Marks.Find("JsonAutoDetect"); a != nil && rule == "" {
			rule = a.Text("fieldVisibility", "")
			rule = rule[strings.LastIndexByte(rule, '.')+1:]
		}
	}
	return func(access model.Access) bool {
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
}

// creator finds the constructor that makes instances from properties: the annotated
// one, one all of whose parameters are named by annotations, or a record's.
func (c *compiler) creator(t *model.Type, out *introspection, get func(string) *property, add func(*property, model.Annotated) (string, bool)) {
	m := t.Model
	candidates := append([]*model.Method(nil), m.Ctors...)
	for _, f := range m.Methods {
		if f.Static && f.Marks.Find("JsonCreator") != nil {
			candidates = append(candidates, f)
		}
	}
	var chosen *model.Method
	for _, k := range candidates {
		if a := k.Marks.Find("JsonCreator"); a != nil && len(k.Params) > 0 && !strings.HasSuffix(a.Text("mode", ""), "DELEGATING") {
			chosen = k
		}
	}
	named := func(k *model.Method) bool {
		for _, p := range k.Params {
			if p.Marks.Find("JsonProperty") == nil {
				return false
			}
		}
		return len(k.Params) > 0
	}
	for _, k := range candidates {
		if chosen == nil && (m.Kind == model.Record && len(k.Params) == len(recordFields(m)) || named(k) && k.Access != model.Private) {
			chosen = k
		}
	}
	if chosen == nil {
		return
	}
	out.creator = chosen
	var names []string
	if a := chosen.Marks.Find("ConstructorProperties"); a != nil {
		names = a.Texts("value")
	}
	for i, p := range chosen.Params {
		implicit := ""
		if m.Kind == model.Record {
			implicit = p.Name
		}
		name, _ := nameOf(p.Marks)
		if name == "" && i < len(names) {
			name = names[i]
		}
		if implicit == "" && name == "" {
			if len(chosen.Params) == 1 {
				out.creator = nil // one parameter without a name takes the value as a whole
				return
			}
			out.why = "a parameter of its constructor has no name on the wire: " + p.Name
			return
		}
		if implicit == "" {
			implicit = name
		}
		prop := get(implicit)
		add(prop, p.Marks)
		if name != "" {
			prop.name, prop.explicit = name, true
		}
		prop.param = &parameter{Parameter: p, index: i}
		if i < len(chosen.Fills) {
			prop.param.fills = chosen.Fills[i]
		}
		if a := p.Marks.Find("JsonProperty"); a != nil {
			prop.param.required = a.Text("required", "false") == "true"
		}
	}
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
