package newtonsoft

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/decoder/sharp"
	"vetta/internal/model"
	"vetta/internal/wire"
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
	mark := find(f.Marks, "JsonProperty")
	data := find(f.Marks, "DataMember")
	if find(owner.Model.Marks, "DataContract") == nil {
		data = nil
	}
	required := find(f.Marks, "JsonRequired")
	how := optIn(of)
	marked := mark != nil || data != nil || required != nil
	m := &member{field: f, owner: owner, typ: f.Type.Bind(owner.Env()), mark: mark}
	m.ignored = find(f.Marks, "JsonIgnore") != nil || find(f.Marks, "IgnoreDataMember") != nil || f.Marks.Find("NonSerialized") != nil
	m.rest = find(f.Marks, "JsonExtensionData") != nil
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
	case mark != nil && mark.Text("value", mark.Text("PropertyName", "")) != "":
		name, specified = mark.Text("value", mark.Text("PropertyName", "")), true
	case mark == nil && data != nil && data.Text("Name", "") != "":
		name, specified = data.Text("Name", ""), true
	}
	naming := own
	if mark != nil {
		if s, ok := strategyOf(last(mark.Text("NamingStrategyType", ""))); ok {
			naming = &s
		}
	}
	if naming == nil {
		if s, ok := strategyOf(c.settings.Option("naming")); ok {
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

func (c *compiler) option(own, name string) string {
	if own != "" {
		return own
	}
	return c.settings.Option(name)
}

// constructor is the one that makes instances; several says that the library can choose none.
func (c *compiler) constructor(m *model.Model) (k *model.Method, several bool) {
	var public, marked, bare []*model.Method
	for _, k := range m.Ctors {
		if find(k.Marks, "JsonConstructor") != nil {
			marked = append(marked, k)
		}
		if len(k.Params) == 0 {
			bare = append(bare, k)
		}
		if k.Access == model.Public {
			public = append(public, k)
		}
	}
	switch {
	case len(marked) > 0:
		return marked[0], false
	case len(bare) > 0 && (bare[0].Access == model.Public || c.settings.Option("ConstructorHandling") == "AllowNonPublicDefaultConstructor"):
		return bare[0], false
	case m.Kind == model.Struct && len(public) == 0:
		return nil, false
	case m.Kind == model.Struct: // the implicit one
		return nil, false
	case len(public) == 1:
		return public[0], false
	case len(public) == 0 && len(bare) > 0:
		return bare[0], false
	case len(public) == 0 && len(m.Ctors) == 1:
		return nil, true
	}
	return nil, true
}

// object is the node for a class or struct.
func (c *compiler) object(t *model.Type, s site) *decoder.Node {
	m := t.Model
	all, clash := c.members(t)
	if clash != nil {
		return c.refused(m, "give one of them another name by [JsonProperty], or mark it [JsonIgnore]",
			"A member with the name '%s' already exists on '%s'. Use the JsonPropertyAttribute to specify another name.", clash.key, clr.Name(t))
	}
	k, several := c.constructor(m)
	if several {
		return &decoder.Node{Op: decoder.OpKeyed, Model: m, Wrong: wrongObject(t), Second: empty(t), Scalars: true, Inner: &decoder.Node{Op: decoder.OpFail, Model: m, Error: &decoder.Error{
			Kind: "JsonSerializationException", Reason: decoder.ReasonType, Advice: "give it a public constructor without parameters, or mark one [JsonConstructor]",
			Message: "JsonSerializationException: Unable to find a constructor to use for type " + clr.Name(t) + ". A class should either have a default constructor, one constructor with arguments or a constructor marked with the JsonConstructor attribute. Path '" + decoder.PathMark + "'."}}}
	}
	var params []*member
	if k != nil && len(k.Params) > 0 {
		params = c.match(t, k, all)
	}
	build := &decoder.Node{Op: decoder.OpBuild, Model: m, ByDocument: true}
	index := map[string]int{}
	chain := clr.Chain(t)
	for _, s := range chain {
		for _, f := range s.Model.Fields {
			if _, known := index[f.Name]; known || !clr.Stored(f) {
				continue
			}
			index[f.Name] = len(build.Props)
			build.Props = append(build.Props, f)
		}
	}
	c.missing(t, build, all)
	var keys []string
	taken := map[int]bool{}
	step := func(s decoder.Step) {
		if s.Property >= 0 {
			taken[s.Property] = true
		}
		build.Steps = append(build.Steps, s)
	}
	for _, x := range params {
		keys = append(append(keys, x.key), x.others...)
	}
	written := map[string]bool{}
	for _, x := range all {
		if !x.ignored && x.param == nil {
			keys = append(keys, x.key)
		}
		if p := x.field.Property; p != nil && x.set && x.param == nil {
			for _, name := range p.Writes {
				written[name] = true
			}
		}
	}
	for _, x := range params {
		step(c.parameter(t, x, k, index))
	}
	for _, x := range all {
		switch {
		case x.param != nil:
		case x.rest:
			c.restInto(build, x, index)
			if i, ok := index[x.field.Name]; ok {
				taken[i] = true
			}
		default:
			for _, s := range c.steps(t, x, k, index, s, all) {
				step(s)
			}
		}
	}
	for name, i := range index {
		if taken[i] {
			continue
		}
		f := build.Props[i]
		v := c.initial(t, f, k, s)
		if written[name] {
			v = decoder.Seen{Kind: decoder.SeenUnknown}
		}
		build.Steps = append(build.Steps, decoder.Step{Property: i, Node: &decoder.Node{Op: decoder.OpConst, Field: f, Value: v, Why: why(f)}})
	}
	for i := range build.Steps {
		if at := build.Steps[i].Property; at >= 0 && written[build.Props[at].Name] && build.Steps[i].Node.Op == decoder.OpAt {
			build.Steps[i].Node.Opaque = true
		}
	}
	n := &decoder.Node{Op: decoder.OpKeyed, Model: m, Wrong: wrongObject(t), Inner: build, Match: matching(keys), Second: empty(t), Scalars: true}
	c.byCode(t, n, params, all, k, build, s)
	if clr.IsValue(t) {
		n.Second = nil
		n.Scalars = false
	}
	return n
}

// hooks are the methods that run before and behind reading an instance: those that are marked.
func hooks(t *model.Type) (before, after []string) {
	_, d := sharp.Of(t.Model)
	if d == nil {
		return nil, nil
	}
	for _, part := range d.Parts {
		for _, fn := range part.Funcs {
			for _, mark := range fn.Marks {
				switch strings.TrimSuffix(last(mark.Args[0].Text), "Attribute") {
				case "OnDeserializing":
					before = append(before, fn.Name)
				case "OnDeserialized":
					after = append(after, fn.Name)
				}
			}
		}
	}
	return before, after
}

// byCode lets the class's own code make the instance, where what it holds hangs on that.
func (c *compiler) byCode(t *model.Type, n *decoder.Node, params, all []*member, k *model.Method, build *decoder.Node, s site) {
	before, after := hooks(t)
	if c.code == nil || build.Rest != nil || s.from != nil || optIn(t.Model) == "Fields" || len(before)+len(after) == 0 && !sharp.NeedsCode(t, k) {
		return
	}
	var parts []sharp.Part
	for _, x := range params {
		field := x.field
		if field == nil {
			field = &model.Field{Name: x.param.Name, Type: x.typ}
		}
		for _, step := range build.Steps {
			if step.Node.Op == decoder.OpAt && step.Node.Name == x.key && step.Node.Field == x.field {
				parts = append(parts, sharp.Part{Field: field, Type: x.typ, Node: step.Node, Param: x.at})
				break
			}
		}
	}
	for _, x := range all {
		if x.param != nil || x.rest || x.ignored || !x.set {
			continue
		}
		for _, step := range build.Steps {
			if step.Node.Op != decoder.OpAt || step.Node.Field != x.field {
				continue
			}
			own := *step.Node
			own.Opaque = false
			own.Value = decoder.Seen{Kind: decoder.SeenLeftOut}
			if own.KeepNull {
				own.KeepNull = false
				own.Inner = &decoder.Node{Op: decoder.OpNil, Value: decoder.Seen{Kind: decoder.SeenLeftOut}, Inner: own.Inner}
			}
			parts = append(parts, sharp.Part{Field: x.field, Type: x.typ, Node: &own, Param: -1, Name: x.field.Name})
			break
		}
	}
	n.Inner = c.code.Made(t, build, k, parts, before, after)
}

func why(f *model.Field) string {
	if f.Access != model.Public {
		return "it is not public, and not marked [JsonProperty]"
	}
	return "it is none of the members that are chosen"
}

// match finds the members that the parameters of a constructor stand for, by key or by name.
func (c *compiler) match(t *model.Type, k *model.Method, all []*member) (params []*member) {
	for i, p := range k.Params {
		var met *member
		for _, x := range all {
			if met == nil && !x.rest && (strings.EqualFold(x.field.Name, p.Name) || strings.EqualFold(x.key, p.Name)) {
				met = x
			}
		}
		of := &member{param: p, at: i, typ: p.Type.Bind(t.Env()), key: p.Name, set: true}
		mark := find(p.Marks, "JsonProperty")
		if met != nil {
			of.field, of.owner, of.mark, of.required, of.nulls = met.field, met.owner, met.mark, met.required, met.nulls
			if met.key != p.Name {
				of.key = met.key
				if of.required != "Always" && of.required != "AllowNull" { // what is required is looked for by its key alone
					of.others = []string{p.Name}
				}
			}
			met.param, met.at = p, i
		}
		if mark != nil && mark.Text("value", mark.Text("PropertyName", "")) != "" {
			of.key = mark.Text("value", mark.Text("PropertyName", ""))
			of.others = nil
		} else if met == nil {
			of.key = c.named(p.Name, ownStrategy(t.Model))
			if of.key != p.Name {
				of.others = []string{p.Name}
			}
		}
		params = append(params, of)
	}
	return params
}

// missing says what becomes of keys that no member has.
func (c *compiler) missing(t *model.Type, build *decoder.Node, all []*member) {
	how := c.settings.Option("MissingMemberHandling")
	if a := find(t.Model.Marks, "JsonObject"); a != nil {
		how = c.option(a.Text("MissingMemberHandling", ""), "MissingMemberHandling")
	}
	if how != "Error" {
		return
	}
	build.Unknown = func(name string) *decoder.Error {
		return serial(decoder.ReasonUnknown, fmt.Sprintf("Could not find member '%s' on object of type '%s'.", name, last(t.Model.Name)))
	}
	build.Ignored = func(name string) bool {
		return strings.HasPrefix(name, "$id") || slices.ContainsFunc(all, func(x *member) bool { return strings.EqualFold(x.key, name) })
	}
}

func (c *compiler) restInto(build *decoder.Node, x *member, index map[string]int) {
	build.Rest = &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(v *wire.Value) decoder.Verdict { return decoder.Verdict{Seen: c.plainValue(v)} }}
	if build.Ignored == nil {
		build.Ignored = func(string) bool { return false }
	}
	build.RestInto, build.RestMakes = -1, true
	if i, ok := index[x.field.Name]; ok {
		build.RestInto = i
		build.Steps = append(build.Steps, decoder.Step{Property: i, Node: &decoder.Node{Op: decoder.OpConst, Field: x.field, Value: clr.Initial(x.field, x.typ)}})
	}
}

// initial is what a field holds when the constructor has made an instance.
func (c *compiler) initial(t *model.Type, f *model.Field, k *model.Method, s site) decoder.Seen {
	if s.from != nil {
		if v, ok := s.from.Get(f.Name); ok {
			return v
		}
	}
	owner := t
	for _, s := range clr.Chain(t) {
		if slices.Contains(s.Model.Fields, f) {
			owner = s
		}
	}
	typ := f.Type.Bind(owner.Env())
	if k == nil && t.Model.Kind == model.Struct {
		return clr.Zero(typ)
	}
	if optIn(t.Model) == "Fields" {
		return clr.Zero(typ)
	}
	if k != nil && (slices.Contains(k.Computes, f.Name) || slices.Contains(k.Fills, f.Name)) {
		return decoder.Seen{Kind: decoder.SeenUnknown}
	}
	for _, s := range clr.Chain(t)[1:] {
		for _, base := range s.Model.Ctors {
			if len(base.Params) == 0 && slices.Contains(base.Computes, f.Name) {
				return decoder.Seen{Kind: decoder.SeenUnknown}
			}
		}
	}
	return clr.Initial(f, typ)
}

// inner is what is said of a member's value.
func (c *compiler) inner(x *member) site {
	s := site{}
	if x.field == nil {
		return s
	}
	if a := find(x.field.Marks, "JsonConverter"); a != nil {
		if s.enums = enumsOf(a); s.enums != "" {
			return s
		}
		switch name := last(a.Text("value", "")); name {
		case "UnixDateTimeConverter":
			s.dates = name
		case "IsoDateTimeConverter", "VersionConverter":
		default:
			s.adapter = sharp.MarkedBy(a)
		}
	}
	if x.mark != nil {
		switch name := last(x.mark.Text("ItemConverterType", "")); name {
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

// parameter is the step for a parameter of the constructor: an absent one gets the zero of its type.
func (c *compiler) parameter(t *model.Type, x *member, k *model.Method, index map[string]int) decoder.Step {
	step := decoder.Step{Property: -1}
	if x.at < len(k.Fills) && k.Fills[x.at] != "" {
		if i, ok := index[k.Fills[x.at]]; ok {
			step.Property = i
		}
	}
	at := &decoder.Node{Op: decoder.OpAt, Name: x.key, Others: x.others, Every: true, Field: x.field, Type: x.param.Declared, Value: clr.Zero(x.typ)}
	step.Node = at
	at.Inner = c.value(x.typ, c.inner(x))
	c.demands(t, x, at)
	c.handled(at)
	if at.Missing == nil {
		switch {
		case x.typ.Kind == model.Optional || at.Value.Kind == decoder.SeenUnknown:
		case clr.IsValue(x.typ):
			at.AbsentLoss = decoder.Zeroed
		case x.field != nil && !x.field.Oblivious:
			at.AbsentLoss = decoder.HiddenNull
		}
	}
	c.hidden(x, at)
	return step
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

// steps are what is done for a member that no parameter takes.
func (c *compiler) steps(t *model.Type, x *member, k *model.Method, index map[string]int, s site, all []*member) []decoder.Step {
	step := decoder.Step{Property: -1}
	target := x.field.Name
	if p := x.field.Property; p != nil && !p.Stored && p.Set != 0 {
		target = p.Backs
	}
	at, stored := index[target]
	if stored && target != "" {
		step.Property = at
	}
	initial := decoder.Seen{Kind: decoder.SeenUnknown}
	if step.Property >= 0 {
		for _, o := range clr.Chain(t) {
			for _, f := range o.Model.Fields {
				if f.Name == target && clr.Stored(f) && initial.Kind == decoder.SeenUnknown {
					initial = c.initial(t, f, k, s)
				}
			}
		}
	}
	if x.ignored {
		return []decoder.Step{{Property: step.Property, Node: &decoder.Node{Op: decoder.OpConst, Field: x.field, Value: initial, Why: "it is marked [JsonIgnore]", Meant: true}}}
	}
	n := &decoder.Node{Op: decoder.OpAt, Name: x.key, Every: true, Field: x.field, Type: x.field.Declared, Value: initial}
	inner := c.inner(x)
	replace := c.option(x.creates, "ObjectCreationHandling") == "Replace"
	if !x.set {
		return c.unset(x, n, step, initial, inner, replace, stored)
	}
	step.Node = n
	n.Inner = c.value(x.typ, inner)
	if !replace {
		n.Inner = c.populated(x.typ, n.Inner, initial, inner)
	}
	if nulls := c.option(x.nulls, "NullValueHandling"); nulls == "Ignore" {
		n.KeepNull = true
		if readByType[x.typ.Name] || x.typ.Kind == model.Optional {
			n.Inner = keepsEmpty(n.Inner, initial)
		}
	}
	c.demands(t, x, n)
	declared := x.field.Default != nil && x.field.Default.Kind != model.NullLiteral
	zero := defaultValue(x)
	if handling := c.option(x.defaults, "DefaultValueHandling"); n.Missing == nil && (handling == "Populate" || handling == "IgnoreAndPopulate") {
		n.Value = zero
		declared = true
	} else if handling == "Ignore" { // what equals the default is not set
		n.Inner = decoder.Made(n.Inner, func(s decoder.Seen) (decoder.Seen, *decoder.Error) {
			if s.String() == zero.String() && s.Kind == zero.Kind {
				return initial, nil
			}
			return s, nil
		})
	}
	switch {
	case declared || x.typ.Kind == model.Optional || n.Missing != nil || n.Value.Kind == decoder.SeenUnknown:
	case clr.IsValue(x.typ):
		n.AbsentLoss = decoder.Zeroed
	case n.Value.Kind == decoder.SeenNull && !x.field.Oblivious && x.field.Type.Kind != model.Param:
		n.AbsentLoss = decoder.HiddenNull
	}
	c.hidden(x, n)
	c.handled(n)
	for _, o := range all { // RankSpecified is set where Rank is sent
		if o.field.Name == x.field.Name+"Specified" && o.typ.Name == "bool" {
			if i, ok := index[o.field.Name]; ok {
				return []decoder.Step{step, {Property: i, Node: &decoder.Node{Op: decoder.OpAt, Name: x.key, Value: decoder.Bool(false), Inner: &decoder.Node{Op: decoder.OpConst, Value: decoder.Bool(true)}}}}
			}
		}
	}
	return []decoder.Step{step}
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

// readByType are the value types that the reader is asked for by type (ReadAsInt32 and the like), which give null for an
// empty text; of others the text comes as it is. Newtonsoft.Json 13, measured.
var readByType = map[string]bool{"byte": true, "short": true, "int": true, "decimal": true, "bool": true, "float": true, "double": true, "DateTime": true, "DateTimeOffset": true}

// keepsEmpty lets an empty text be nothing, for a member that nothing leaves as it is.
func keepsEmpty(n *decoder.Node, initial decoder.Seen) *decoder.Node {
	if n.Op != decoder.OpNil || n.Inner.Op != decoder.OpLeaf {
		return n
	}
	own, leaf := *n, *n.Inner
	read := leaf.Read
	leaf.Read = func(v *wire.Value) decoder.Verdict {
		if isEmpty(v) {
			return decoder.Verdict{Seen: initial}
		}
		return read(v)
	}
	own.Inner = &leaf
	return &own
}

// handled lets a member keep what it holds where reading it fails, and the error is handled.
func (c *compiler) handled(at *decoder.Node) {
	if c.handles() {
		at.Inner = &decoder.Node{Op: decoder.OpCatch, Inner: at.Inner, Second: &decoder.Node{Op: decoder.OpConst, Value: at.Value}, Type: at.Inner.Type}
	}
}

// unset are the steps for a member without a setter: a list, a map or an object that it holds is filled, anything else
// is read and dropped.
func (c *compiler) unset(x *member, n *decoder.Node, step decoder.Step, initial decoder.Seen, inner site, replace, stored bool) []decoder.Step {
	u := x.typ.Unwrapped()
	collection := (u.Kind == model.List || u.Kind == model.Unique || u.Kind == model.Map) && !strings.HasPrefix(u.Name, "[")
	object := u.Model != nil && u.Model.Kind != model.Enum && !clr.IsValue(u)
	if (collection || object) && !replace && stored && initial.Kind != decoder.SeenNull {
		n.Inner = c.populated(x.typ, c.value(x.typ, inner), initial, inner)
		if n.Inner.Op == decoder.OpNil { // a scalar is skipped
			filled := *n.Inner
			skips := &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(*wire.Value) decoder.Verdict { return decoder.Verdict{Seen: initial} }}
			filled.Inner = skipping(filled.Inner, skips)
			n.Inner = &filled
		}
		n.KeepNull = true
		step.Node = n
		return []decoder.Step{step}
	}
	why := "it has no setter"
	if p := x.field.Property; p != nil && p.Set != 0 {
		why = "its setter is " + p.Set.String() + ", and it is not marked [JsonProperty]"
	}
	var out []decoder.Step
	if step.Property >= 0 {
		out = append(out, decoder.Step{Property: step.Property, Node: &decoder.Node{Op: decoder.OpConst, Name: x.key, Field: x.field, Value: initial, Why: why}})
	}
	if collection || strings.HasPrefix(u.Name, "[") || u.Kind == model.Map {
		return out // skipped, whatever it is
	}
	n.Inner, n.Field, n.Value = c.value(x.typ, inner), nil, decoder.Seen{}
	n.Inner = nullPasses(n.Inner)
	if readByType[u.Name] {
		n.Inner = keepsEmpty(n.Inner, decoder.Seen{})
	}
	return append(out, decoder.Step{Property: -1, Node: n})
}

// skipping is a node for a collection that is filled, and left as it is by a scalar.
func skipping(n, skips *decoder.Node) *decoder.Node {
	own := *n
	switch n.Op {
	case decoder.OpMade:
		own.Inner = skipping(n.Inner, &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(*wire.Value) decoder.Verdict {
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenLeftOut}}
		}})
		make := n.Make
		initial := skips.Read(&wire.Value{}).Seen
		own.Make = func(s decoder.Seen) (decoder.Seen, *decoder.Error) {
			if s.Kind == decoder.SeenLeftOut {
				return initial, nil
			}
			return make(s)
		}
	case decoder.OpList, decoder.OpMap, decoder.OpKeyed:
		own.Second, own.Scalars = skips, true
	}
	return &own
}

// nullPasses is a node of what is dropped: null is no error.
func nullPasses(n *decoder.Node) *decoder.Node {
	if n.Op != decoder.OpNil {
		return n
	}
	own := *n
	own.NullError = nil
	return &own
}

// populated reads into what a member holds already: elements and entries are added, an object's members are set.
func (c *compiler) populated(t *model.Type, n *decoder.Node, initial decoder.Seen, s site) *decoder.Node {
	u := t.Unwrapped()
	fixed := strings.HasPrefix(u.Name, "[") || strings.HasPrefix(u.Class, "Immutable") || strings.HasPrefix(u.Class, "IImmutable") || strings.HasPrefix(u.Class, "ReadOnly") || strings.HasPrefix(u.Class, "IReadOnly") || u.Class == "IEnumerable" || strings.HasPrefix(u.Class, "Frozen")
	switch {
	case n.Op != decoder.OpNil:
		return n
	case initial.Kind == decoder.SeenUnknown:
		if (u.Kind == model.List || u.Kind == model.Unique || u.Kind == model.Map) && !fixed {
			return unknown("what it holds before it is read is not followed")
		}
		return n
	case fixed:
		return n
	case (initial.Kind == decoder.SeenList || initial.Kind == decoder.SeenSet || initial.Kind == decoder.SeenMap) && len(initial.Elems) > 0:
		out := *n
		out.Inner = decoder.Made(n.Inner, func(s decoder.Seen) (decoder.Seen, *decoder.Error) { return added(initial, s), nil })
		return &out
	case initial.Kind == decoder.SeenObject && u.Model != nil && u.Model.Kind != model.Struct:
		s.from = &initial
		return c.value(t, s)
	}
	return n
}

// added is a collection with what was read behind what was there.
func added(before, read decoder.Seen) decoder.Seen {
	if read.Kind != before.Kind {
		return read
	}
	out := decoder.Seen{Kind: before.Kind, Elems: slices.Clone(before.Elems), Names: slices.Clone(before.Names)}
	for i, e := range read.Elems {
		switch {
		case before.Kind == decoder.SeenMap:
			clr.Put(&out, read.Names[i], e)
		case before.Kind == decoder.SeenSet && slices.ContainsFunc(out.Elems, func(o decoder.Seen) bool { return o.String() == e.String() }):
		default:
			out.Elems = append(out.Elems, e)
		}
	}
	return out
}
