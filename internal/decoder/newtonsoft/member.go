package newtonsoft

import (
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/decoder/sharp"
	"vetta/internal/model"
)

// member is a property or a field as the library has it in its contract of a class.
type member struct {
	field    *model.Field
	owner    *model.Type
	typ      *model.Type
	key      string
	others   []string // further keys, of a parameter
	set      bool
	ignored  bool
	required string // Always, AllowNull, DisallowNull; "" for none
	nulls    string // NullValueHandling of its own
	defaults string // DefaultValueHandling
	creates  string // ObjectCreationHandling
	rest     bool
	mark     *model.Annotation // [JsonProperty]
	param    *model.Parameter
	at       int
}

// members are those of a class, base classes first, and the one that hides another in its place.
func (c *compiler) members(t *model.Type) (all []*member, clash *member) {
	chain := clr.Chain(t)
	slices.Reverse(chain)
	own := ownStrategy(t.Model)
	for _, s := range chain {
		for _, f := range s.Model.Fields {
			m := c.member(f, s, t.Model, own)
			if m == nil {
				continue
			}
			c.resolved(m)
			at := slices.IndexFunc(all, func(o *member) bool { return o.field.Name == f.Name })
			if at >= 0 { // hidden or overridden
				if all[at].mark != nil && m.mark == nil && f.Overrides {
					m.key, m.required, m.mark = all[at].key, all[at].required, all[at].mark
				}
				all[at] = m
				continue
			}
			all = append(all, m)
		}
	}
	for i, m := range all {
		for _, o := range all[:i] {
			if !m.ignored && !o.ignored && !m.rest && !o.rest && m.key == o.key {
				return all, m
			}
		}
	}
	return all, nil
}

// resolved lets the app's contract resolver change what the library knows of a member.
func (c *compiler) resolved(m *member) {
	class, ok := strings.CutPrefix(c.settings.Option("members"), "code:")
	if !ok || m.rest {
		return
	}
	p := &sharp.Property{Field: m.field, Name: m.key, Type: m.typ, Set: m.set, Ignored: m.ignored, Required: m.required, Said: map[string]string{"NullValueHandling": m.nulls, "DefaultValueHandling": m.defaults, "ObjectCreationHandling": m.creates}}
	if !c.code.Resolved(class, p) {
		c.lost = "what CreateProperty of " + class + " does is not followed"
		return
	}
	m.key, m.set, m.ignored, m.required = p.Name, p.Set, p.Ignored, p.Required
	m.nulls, m.defaults, m.creates = p.Said["NullValueHandling"], p.Said["DefaultValueHandling"], p.Said["ObjectCreationHandling"]
	if m.required == "Default" {
		m.required = ""
	}
}

// optIn says how the members of a class are chosen: all public ones, those that are marked, or its fields. [JsonObject]
// decides before [DataContract] does.
func optIn(m *model.Model) string {
	if a := find(m.Marks, "JsonObject"); a != nil {
		for _, name := range []string{"value", "MemberSerialization"} {
			if how := a.Text(name, ""); how == "OptIn" || how == "Fields" || how == "OptOut" {
				return how
			}
		}
		return "OptOut"
	}
	if find(m.Marks, "DataContract") != nil {
		return "OptIn"
	}
	return "OptOut"
}

func (c *compiler) member(f *model.Field, owner *model.Type, of *model.Model, own *strategy) *member {
	if f.Static {
		return nil
	}
	mark := markOf(f, owner.Model, "JsonProperty")
	data := markOf(f, owner.Model, "DataMember")
	if find(owner.Model.Marks, "DataContract") == nil {
		data = nil
	}
	required := markOf(f, owner.Model, "JsonRequired")
	how := optIn(of)
	marked := mark != nil || data != nil || required != nil
	m := &member{field: f, owner: owner, typ: f.Type.Bind(owner.Env()), mark: mark}
	m.ignored = markOf(f, owner.Model, "JsonIgnore") != nil || markOf(f, owner.Model, "IgnoreDataMember") != nil || f.Marks.Find("NonSerialized") != nil
	m.rest = markOf(f, owner.Model, "JsonExtensionData") != nil
	public := f.Access == model.Public
	if p := f.Property; p != nil {
		public = p.Get == model.Public || p.Set == model.Public
		m.set = p.Set == model.Public || p.Set != 0 && marked
	} else {
		m.set = !f.Final || marked
	}
	switch {
	case m.rest:
	case how == "Fields":
		if f.Property != nil && !clr.Stored(f) {
			return nil
		}
		m.set = true
		if f.Property != nil { // the field that the compiler makes has another name
			return nil
		}
	case how == "OptIn" && !marked:
		return nil
	case !public && !marked:
		return nil
	}
	name, specified := f.Name, false
	switch {
	case keyOf(mark) != "":
		name, specified = keyOf(mark), true
	case mark == nil && data != nil && data.Text("Name", "") != "":
		name, specified = data.Text("Name", ""), true
	}
	naming := own
	if mark != nil {
		if s, ok := strategyOf(model.SimpleName(mark.Text("NamingStrategyType", ""))); ok {
			naming = &s
		}
	}
	if naming == nil {
		if s, ok := c.fromSettings(); ok {
			naming = &s
		}
	}
	m.key = name
	if naming != nil && (!specified || naming.specified) {
		m.key = naming.rename(name)
	}
	m.required = mark.Text("Required", "")
	switch {
	case m.required != "" && m.required != "Default":
	case required != nil:
		m.required = "Always"
	case mark == nil && data.Text("IsRequired", "") == "true":
		m.required = "AllowNull"
	default:
		if a := find(owner.Model.Marks, "JsonObject"); a != nil && m.required == "" {
			m.required = a.Text("ItemRequired", "")
		}
		if m.required == "Default" {
			m.required = ""
		}
	}
	m.nulls, m.defaults, m.creates = mark.Text("NullValueHandling", ""), mark.Text("DefaultValueHandling", ""), mark.Text("ObjectCreationHandling", "")
	if mark == nil && data.Text("EmitDefaultValue", "") == "false" {
		m.defaults = "Ignore"
	}
	if m.nulls == "" {
		if a := find(owner.Model.Marks, "JsonObject"); a != nil {
			m.nulls = a.Text("ItemNullValueHandling", "")
		}
	}
	return m
}

// keyOf is the key that [JsonProperty] gives, "" for none.
func keyOf(mark *model.Annotation) string { return mark.Text("value", mark.Text("PropertyName", "")) }

// markOf is the library's attribute of that name of a member, or else of the member of that name of an interface that its
// class has; nil for none (JsonTypeReflector.GetAttribute).
func markOf(f *model.Field, owner *model.Model, name string) *model.Annotation {
	if a := find(f.Marks, name); a != nil {
		return a
	}
	if owner.Related == nil {
		return nil
	}
	for _, super := range owner.Conforms {
		of, _, _ := strings.Cut(super, "<")
		m := owner.Related(of)
		if m == nil || m.Kind != model.Interface {
			continue
		}
		for _, its := range m.Fields {
			if its.Name == f.Name {
				if a := find(its.Marks, name); a != nil {
					return a
				}
			}
		}
	}
	return nil
}

func (c *compiler) option(own, name string) string {
	if own != "" {
		return own
	}
	return c.settings.Option(name)
}

// inner is what is said of a member's value.
func (c *compiler) inner(x *member) site {
	s := site{}
	if x.field == nil {
		return s
	}
	if a := markOf(x.field, x.owner.Model, "JsonConverter"); a != nil {
		if s.enums = enumsOf(a); s.enums != "" {
			return s
		}
		switch name := model.SimpleName(a.Text("value", "")); name {
		case "UnixDateTimeConverter", "IsoDateTimeConverter":
			s.dates = name
		case "VersionConverter":
		default:
			s.adapter = sharp.MarkedBy(a)
			if format, ok := c.code.DateFormat(a.Text("value", ""), a.Texts("value2")); ok {
				s.adapter, s.dates = nil, "IsoDateTimeConverter:"+format
			}
		}
	}
	if x.mark != nil {
		switch name := model.SimpleName(x.mark.Text("ItemConverterType", "")); name {
		case "":
		case "StringEnumConverter":
			s.enums = "names"
		case "UnixDateTimeConverter":
			s.dates = name
		default:
			arg := x.mark.Arg("ItemConverterType")
			s.item = &model.Adapter{Name: name, Form: arg.Texts[0]}
			if len(arg.Types) > 0 {
				s.item.Delegates = arg.Types[0].Args
			}
		}
	}
	return s
}

// demands says what a member that is required throws.
func (c *compiler) demands(t *model.Type, x *member, at *decoder.Node) {
	if x.required == "Always" || x.required == "AllowNull" {
		at.Missing = serial(decoder.ReasonMissing, "Required property '"+x.key+"' not found in JSON.")
		at.Missing.Key = x.key
	}
	if x.required == "Always" || x.required == "DisallowNull" {
		inner := at.Inner
		null := serial(decoder.ReasonNull, "Required property '"+x.key+"' expects a value but got null.")
		if x.required == "DisallowNull" {
			null = serial(decoder.ReasonNull, "Required property '"+x.key+"' expects a non-null value.")
		}
		at.KeepNull = false // it is asked for before null is passed over
		at.Inner = &decoder.Node{Op: decoder.OpNil, Type: inner.Type, NullError: null, Inner: inner}
		if inner.Op == decoder.OpNil {
			at.Inner.Inner = inner.Inner
			if inner.NullError != nil {
				at.Inner.NullError = inner.NullError
			}
		}
	}
}

// hidden notes null in what says that it is never null.
func (c *compiler) hidden(x *member, at *decoder.Node) {
	if x.field == nil || x.field.Oblivious || x.typ.Kind == model.Optional || clr.IsValue(x.typ) || x.field.Type.Kind == model.Param || anything(x.typ) {
		return
	}
	if at.Inner.Op == decoder.OpNil && at.Inner.NullError == nil && !at.KeepNull {
		inner := *at.Inner
		inner.NullLoss = decoder.HiddenNull
		at.Inner = &inner
	}
}

// defaultValue is what [DefaultValue] says, else the zero of the type.
func defaultValue(x *member) decoder.Seen {
	for i := range x.field.Marks {
		if a := &x.field.Marks[i]; a.Name == "DefaultValue" && len(a.Texts("value")) > 0 {
			l := &model.Literal{Kind: model.StringLiteral, Text: a.Text("value", "")}
			u := x.typ.Unwrapped()
			switch {
			case clr.IsNumber(u):
				l.Kind = model.FloatLiteral
				if bits, _ := clr.Bits(u); bits > 0 {
					l.Kind = model.IntLiteral
				}
			case u.Name == "bool":
				l.Kind = model.BoolLiteral
			case u.Model != nil:
				l.Kind = model.CaseLiteral
			}
			return clr.Literal(l, x.typ)
		}
	}
	return clr.Zero(x.typ)
}

// handled lets a member keep what it holds where reading it fails, and the error is handled.
func (c *compiler) handled(owner *model.Model, at *decoder.Node) {
	if c.handles() || swallows(owner) {
		at.Inner = &decoder.Node{Op: decoder.OpCatch, Inner: at.Inner, Second: &decoder.Node{Op: decoder.OpConst, Value: at.Value}, Type: at.Inner.Type}
	}
}
