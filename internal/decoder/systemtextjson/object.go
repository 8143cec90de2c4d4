package systemtextjson

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/decoder/sharp"
	"vetta/internal/model"
)

// object is the node for a class or struct: its members in the order of the document, those of the constructor among
// them, the last of equal keys counting though each is read.
func (c *compiler) object(t *model.Type, s site) *decoder.Node {
	m := t.Model
	defer func(outer *model.Model) { c.within = outer }(c.within)
	c.within = m
	all, clash := c.members(t)
	if clash[0] != nil {
		return c.refused(m, "give one of them another name by [JsonPropertyName], or mark it [JsonIgnore]",
			"The JSON property name for '%s.%s' collides with another property.", clr.Name(t), clash[1].field.Name)
	}
	for _, x := range all {
		if x.required && (x.ignored || !x.set) && (x.field.Property != nil || x.ignored) && !c.byConstructor(m, x) {
			return c.refused(m, "give it a setter, or let it not be required",
				"JsonPropertyInfo '%s' defined in type '%s' is marked required but does not specify a setter.", x.key, clr.Name(t))
		}
		if err, always := c.unseen(x.owner.Model, x); always && !x.ignored {
			if c.broken == nil {
				broken := *err
				broken.Where = decoder.AtRoot
				c.broken, c.breaks = &broken, m
			}
			return unknown("the library refuses the class: " + err.Message)
		}
		if fills, always := c.populates(x); always && fixed(x.typ.Unwrapped()) && fills {
			return c.refused(m, "declare it List<T>, or take the attribute away",
				"Property '%s' on type '%s' is marked with JsonObjectCreationHandling.Populate but it doesn't support populating. This can be either because the property type is immutable or it could use a custom converter.", x.field.Name, clr.Name(t))
		}
		if why := c.badMark(x); why != "" {
			return c.refused(m, "take the attribute away", "%s", why)
		}
		if x.rest && !isRest(x.typ) {
			return c.refused(m, "declare it Dictionary<string, JsonElement>", "The data extension property '%s.%s' is invalid. It must implement 'IDictionary<string, JsonElement>' or 'IDictionary<string, object>', or be 'JsonObject'.", clr.Name(t), x.field.Name)
		}
	}
	k, several, none := constructor(m)
	switch {
	case several:
		return c.refused(m, "mark one constructor alone", "The type '%s' has multiple constructors annotated with JsonConstructorAttribute.", clr.Name(t))
	case none:
		return &decoder.Node{Op: decoder.OpFail, Model: m, Error: unsupported("NotSupportedException", "give it a public constructor without parameters, or mark one [JsonConstructor]",
			"Deserialization of types without a parameterless constructor, a singular parameterized constructor, or a parameterized constructor annotated with 'JsonConstructorAttribute' is not supported. Type '%s'.", clr.Name(t))}
	}
	if k != nil && len(k.Params) > 0 {
		if n := c.match(t, k, all); n != nil {
			return n
		}
	}
	build := &decoder.Node{Op: decoder.OpBuild, Model: m, ByDocument: true}
	c.unmapped(t, build, all)
	index := map[string]int{}
	for _, s := range clr.Chain(t) {
		for _, f := range s.Model.Fields {
			if _, known := index[f.Name]; known || !clr.Stored(f) {
				continue
			}
			index[f.Name] = len(build.Props)
			build.Props = append(build.Props, f)
		}
	}
	read := map[string]bool{}
	written := map[string]bool{} // by setters that do more than set
	var keys []string
	for _, x := range all {
		keys = append(keys, x.key)
		if x.rest {
			c.restInto(build, x, index, all)
			continue
		}
		step := c.step(t, x, k, index, s)
		if step.Node.Op == decoder.OpAt && step.Property >= 0 {
			read[build.Props[step.Property].Name] = true
		}
		if p := x.field.Property; p != nil && x.set && x.param == nil {
			for _, name := range p.Writes {
				written[name] = true
			}
		}
		build.Steps = append(build.Steps, step)
	}
	for _, name := range sortedNames(index) { // what nothing reads
		i := index[name]
		f := build.Props[i]
		if !read[name] && !slices.ContainsFunc(build.Steps, func(s decoder.Step) bool { return s.Property == i }) {
			v := c.initial(t, f, k)
			if written[name] {
				v = decoder.Seen{Kind: decoder.SeenUnknown}
			}
			build.Steps = append(build.Steps, decoder.Step{Property: i, Node: &decoder.Node{Op: decoder.OpConst, Name: c.keyOf(f), Field: f, Value: v, Why: c.why(f)}})
		}
	}
	for i := range build.Steps { // a setter may write what another step reads
		if at := build.Steps[i].Property; at >= 0 && written[build.Props[at].Name] && build.Steps[i].Node.Op == decoder.OpAt {
			build.Steps[i].Node.Opaque = true
		}
	}
	n := &decoder.Node{Op: decoder.OpKeyed, Model: m, Wrong: wrong(t), Inner: build}
	c.byCode(t, n, all, k, build)
	if c.on("PropertyNameCaseInsensitive") {
		n.Match = c.matching(keys)
	}
	return n
}

// byCode lets the class's own code make the instance, where what it holds hangs on that.
func (c *compiler) byCode(t *model.Type, n *decoder.Node, all []*member, k *model.Method, build *decoder.Node) {
	before, after := []string(nil), []string(nil)
	if sharp.Conforms(t, "IJsonOnDeserializing") {
		before = []string{"OnDeserializing"}
	}
	if sharp.Conforms(t, "IJsonOnDeserialized") {
		after = []string{"OnDeserialized"}
	}
	if c.code == nil || build.Rest != nil || c.generated(t.Model) || len(before)+len(after) == 0 && !sharp.NeedsCode(t, k) {
		return
	}
	var parts []sharp.Part
	for _, step := range build.Steps {
		at := step.Node
		if at.Op != decoder.OpAt {
			continue
		}
		own := *at
		own.Opaque = false
		part := sharp.Part{Field: at.Field, Type: at.Field.Type, Node: &own, Param: -1, Name: at.Field.Name}
		for _, x := range all {
			if x.field != at.Field {
				continue
			}
			part.Type = x.typ
			if x.param != nil {
				part.Param = x.at
			}
		}
		if part.Param < 0 {
			own.Value = decoder.Seen{Kind: decoder.SeenLeftOut}
		}
		parts = append(parts, part)
	}
	if k != nil { // what no part gives the constructor
		for i, p := range k.Params {
			if !slices.ContainsFunc(parts, func(x sharp.Part) bool { return x.Param == i }) {
				parts = append(parts, sharp.Part{Field: &model.Field{Name: p.Name, Type: p.Type}, Type: p.Type, Param: i, Node: &decoder.Node{Op: decoder.OpConst, Value: c.byDefault(t, p)}})
			}
		}
	}
	n.Inner = c.code.Made(t, build, k, parts, before, after)
}

func sortedNames(index map[string]int) (names []string) {
	for name := range index {
		names = append(names, name)
	}
	slices.SortFunc(names, func(a, b string) int { return index[a] - index[b] })
	return names
}

// why is why a field that is no member is not read.
func (c *compiler) why(f *model.Field) string {
	switch {
	case f.Property == nil && f.Access == model.Public:
		return "it is a field, which is read only where it is marked [JsonInclude], or the options include fields"
	case f.Property == nil || f.Property.Get != model.Public:
		return "it is not public"
	}
	return "another member of its name is read"
}

// matching finds the member that a name means where case does not matter.
func (c *compiler) matching(keys []string) func(string) string {
	if !c.on("PropertyNameCaseInsensitive") {
		return nil
	}
	byFold := map[string]string{}
	for _, k := range keys {
		byFold[strings.ToLower(k)] = k
	}
	return func(name string) string {
		if k, ok := byFold[strings.ToLower(name)]; ok {
			return k
		}
		return name
	}
}

// byConstructor says whether the constructor takes a member.
func (c *compiler) byConstructor(m *model.Model, x *member) bool {
	k, _, _ := constructor(m)
	if k == nil || x.ignored {
		return false
	}
	return slices.ContainsFunc(k.Params, func(p *model.Parameter) bool { return strings.EqualFold(p.Name, x.field.Name) })
}

// badMark is why the library refuses what a member is marked with, "" where it does not.
func (c *compiler) badMark(x *member) string {
	if x.ignored {
		return ""
	}
	u := x.typ.Unwrapped()
	if find(x.field.Marks, "JsonNumberHandling") != nil && !holdsNumbers(u) {
		return fmt.Sprintf("'JsonNumberHandlingAttribute' is only valid on a number or a collection of numbers when applied to a property or field. Property '%s'.", x.field.Name)
	}
	if a := find(x.field.Marks, "JsonConverter"); a != nil && isEnumConverter(a) {
		if u.Model == nil || u.Model.Kind != model.Enum {
			return fmt.Sprintf("The converter specified on '%s' is not compatible with the type '%s'.", x.field.Name, clr.Name(x.typ))
		}
	} else if a != nil {
		if conv := c.code.Converter(sharp.MarkedBy(a)); conv != nil && conv.Of != nil && conv.Of.Unwrapped().Key() != u.Key() {
			return fmt.Sprintf("The converter specified on '%s' is not compatible with the type '%s'.", x.field.Name, clr.Name(x.typ))
		}
	}
	return ""
}

func isEnumConverter(a *model.Annotation) bool {
	return strings.HasPrefix(model.SimpleName(a.Text("value", "")), "JsonStringEnumConverter") || strings.HasPrefix(model.SimpleName(a.Text("types", "")), "JsonStringEnumConverter")
}

func holdsNumbers(t *model.Type) bool {
	switch t.Kind {
	case model.List, model.Unique:
		return holdsNumbers(t.Args[0].Unwrapped())
	case model.Map:
		return holdsNumbers(t.Args[1].Unwrapped())
	}
	return clr.IsNumber(t) || t.Name == "object" || t.Kind == model.Param
}

func isRest(t *model.Type) bool {
	t = t.Unwrapped()
	if t.Kind == model.Map {
		v := t.Args[1].Unwrapped()
		return t.Args[0].Name == "string" && (v.Name == "JsonElement" || v.Name == "object")
	}
	return t.Name == "JsonObject"
}

// match finds the members that the parameters of a constructor stand for; a node where that is refused.
func (c *compiler) match(t *model.Type, k *model.Method, all []*member) *decoder.Node {
	for i, p := range k.Params {
		var met *member
		typed := true
		for _, x := range all {
			if x.param == nil && strings.EqualFold(x.field.Name, p.Name) {
				if same(p.Type.Bind(t.Env()), x.typ) {
					met = x
					break
				}
				typed = false
			}
		}
		if met == nil {
			err := unsupported("InvalidOperationException", "let the parameter have the name and the type of a property", "Each parameter in the deserialization constructor on type '%s' must bind to an object property or field on deserialization. Each parameter name must match with a property or field on the object.", clr.Name(t))
			if !typed {
				err.Advice = "declare " + p.Name + " with the very type of its property"
			}
			return &decoder.Node{Op: decoder.OpFail, Model: t.Model, Error: err}
		}
		met.param, met.at = p, i
	}
	return nil
}

// unmapped says what becomes of keys that no member has.
func (c *compiler) unmapped(t *model.Type, build *decoder.Node, all []*member) {
	how := c.settings.Option("UnmappedMemberHandling")
	if a := find(t.Model.Marks, "JsonUnmappedMemberHandling"); a != nil {
		how = a.Text("value", "")
		if how == "Disallow" && slices.ContainsFunc(all, func(x *member) bool { return x.rest }) {
			c.refused(t.Model, "take one of the two away", "The data extension property cannot be used together with JsonUnmappedMemberHandling.Disallow on type '%s'.", clr.Name(t))
		}
	} else if slices.ContainsFunc(all, func(x *member) bool { return x.rest }) {
		return
	}
	if how != "Disallow" {
		return
	}
	build.Unknown = func(name string) *decoder.Error {
		return problem(decoder.ReasonUnknown, fmt.Sprintf("The JSON property '%s' could not be mapped to any .NET member contained in type '%s'.", name, clr.Name(t)))
	}
	build.Ignored = c.isKnown(all)
}

// isKnown says whether a key is that of a member, whatever is made of it: one that is ignored or cannot be set too, but
// none that takes the rest.
func (c *compiler) isKnown(all []*member) func(key string) bool {
	known := map[string]bool{}
	for _, x := range all {
		if !x.rest {
			known[c.folded(x.key)] = true
		}
	}
	return func(key string) bool { return known[c.folded(key)] }
}

// restInto lets a member take what no other does.
func (c *compiler) restInto(build *decoder.Node, x *member, index map[string]int, all []*member) {
	build.Rest = &decoder.Node{Op: decoder.OpLeaf, Read: c.element}
	build.Ignored = c.isKnown(all)
	build.RestInto, build.RestMakes = -1, true
	if i, ok := index[x.field.Name]; ok {
		build.RestInto = i
		build.Steps = append(build.Steps, decoder.Step{Property: i, Node: &decoder.Node{Op: decoder.OpConst, Field: x.field, Value: clr.Initial(x.field, x.typ)}})
	}
}

// initial is what a field holds when the constructor has made an instance, as far as no key of its own is read.
func (c *compiler) initial(t *model.Type, f *model.Field, k *model.Method) decoder.Seen {
	owner := t
	for _, s := range clr.Chain(t) {
		if slices.Contains(s.Model.Fields, f) {
			owner = s
		}
	}
	typ := f.Type.Bind(owner.Env())
	if k == nil && t.Model.Kind == model.Struct { // initialisers do not run
		return clr.Zero(typ)
	}
	if k != nil && (slices.Contains(k.Computes, f.Name) || slices.Contains(k.Fills, f.Name)) {
		return decoder.Seen{Kind: decoder.SeenUnknown}
	}
	for _, s := range clr.Chain(t)[1:] { // what constructors of base classes compute
		for _, base := range s.Model.Ctors {
			if len(base.Params) == 0 && slices.Contains(base.Computes, f.Name) {
				return decoder.Seen{Kind: decoder.SeenUnknown}
			}
		}
	}
	return clr.Initial(f, typ)
}

// step is what is done for a member.
func (c *compiler) step(t *model.Type, x *member, k *model.Method, index map[string]int, s site) decoder.Step {
	step := decoder.Step{Property: -1}
	target := x.field.Name
	switch p := x.field.Property; {
	case x.param != nil:
		if target = fills(k, x.at); target == "" && k.Throws {
			target = ""
		}
	case p != nil && !p.Stored && p.Set != 0:
		target = p.Backs
	}
	if i, ok := index[target]; ok && target != "" {
		step.Property = i
	}
	if n := c.populated(t, x, k); n != nil {
		step.Node = n
		return step
	}
	if x.ignored || !x.set && x.param == nil {
		why := x.why
		if x.ignored {
			why = "it is marked [JsonIgnore]"
		}
		v := decoder.Seen{Kind: decoder.SeenUnknown}
		if clr.Stored(x.field) {
			v = c.initial(t, x.field, k)
		}
		if x.ignored && x.param != nil {
			v = c.byDefault(t, x.param)
		}
		step.Node = &decoder.Node{Op: decoder.OpConst, Name: x.key, Field: x.field, Value: v, Why: why, Meant: x.ignored}
		return step
	}
	at := &decoder.Node{Op: decoder.OpAt, Name: x.key, Every: true, Field: x.field, Type: x.field.Declared}
	step.Node = at
	if x.required && !(k != nil && slices.ContainsFunc(k.Marks, func(a model.Annotation) bool { return a.Name == "SetsRequiredMembers" }) && x.field.Required) ||
		x.param != nil && !x.param.Default && c.on("RespectRequiredConstructorParameters") {
		at.Missing = problem(decoder.ReasonMissing, fmt.Sprintf("JSON deserialization for type '%s' was missing required properties including: '%s'.", clr.Name(t), x.key))
		at.Missing.Key = x.key
	}
	c.absent(t, x, k, at)
	inner := site{numbers: s.numbers}
	if a := find(x.owner.Model.Marks, "JsonNumberHandling"); a != nil {
		inner.numbers = strings.Join(a.Texts("value"), ",")
	}
	if a := find(x.field.Marks, "JsonNumberHandling"); a != nil {
		inner.numbers = strings.Join(a.Texts("value"), ",")
	}
	if a := find(x.field.Marks, "JsonConverter"); a != nil {
		if isEnumConverter(a) {
			inner.enums = "names"
		} else {
			inner.adapter = sharp.MarkedBy(a)
		}
	}
	for _, a := range x.field.Marks { // an attribute of the app's that is a converter's
		if a.Text("extends", "") == "JsonConverter" {
			inner.adapter = &model.Adapter{Name: a.Name}
			if by := a.Arg("converter"); len(by.Texts) > 0 {
				inner.adapter = &model.Adapter{Name: model.SimpleName(by.Texts[0]), Form: by.Texts[0]}
			}
		}
	}
	at.Inner = c.value(x.typ, inner)
	if x.param != nil {
		at.Inner = ofParameter(at.Inner, t)
	}
	c.nulls(x, at)
	if err, _ := c.unseen(x.owner.Model, x); err != nil {
		at.Inner = &decoder.Node{Op: decoder.OpFail, Type: at.Type, Error: err}
	}
	if c.settings.Option("AllowDuplicateProperties") == "false" {
		at.Twice = func(string) *decoder.Error {
			return problem(decoder.ReasonTwice, fmt.Sprintf("Duplicate property '%s' encountered during deserialization of type '%s'.", x.key, clr.Name(t)))
		}
	}
	return step
}

// ofParameter is a node for a parameter of a constructor: of a scalar that it does not take the library says that it
// could not make the class, as a frame that has no property does (JsonException, measured).
func ofParameter(n *decoder.Node, t *model.Type) *decoder.Node {
	if n.Op == decoder.OpNil && n.Inner != nil && n.Inner.Op == decoder.OpLeaf {
		own := *n
		own.Inner = ofParameter(n.Inner, t)
		return &own
	}
	if n.Op != decoder.OpLeaf {
		return n
	}
	return clr.Told(n, func(message string) string {
		before, rest, ok := strings.Cut(message, converted)
		if _, path, found := strings.Cut(rest, ". Path: "); ok && found {
			return before + converted + clr.Name(t) + ". Path: " + path
		}
		return message
	})
}

// byDefault is what a parameter gets whose key is absent.
func (c *compiler) byDefault(t *model.Type, p *model.Parameter) decoder.Seen {
	typ := p.Type.Bind(t.Env())
	if p.Default && p.Value != nil {
		return clr.Literal(p.Value, typ)
	}
	return clr.Zero(typ)
}

// absent says what the app sees where the key is not there.
func (c *compiler) absent(t *model.Type, x *member, k *model.Method, at *decoder.Node) {
	declared := x.field.Default != nil && x.field.Default.Kind != model.NullLiteral
	if x.param != nil {
		at.Value, declared = c.byDefault(t, x.param), x.param.Default
	} else {
		name := x.field.Name
		if p := x.field.Property; p != nil && !p.Stored && p.Backs != "" {
			name = p.Backs
		}
		at.Value = decoder.Seen{Kind: decoder.SeenUnknown}
		for _, s := range clr.Chain(t) {
			for _, f := range s.Model.Fields {
				if f.Name == name && clr.Stored(f) && at.Value.Kind == decoder.SeenUnknown {
					at.Value = c.initial(t, f, k)
				}
			}
		}
		if c.generated(t.Model) && x.field.Property != nil && x.field.Property.Init && !x.required {
			at.Value, declared = clr.Zero(x.typ), false
		}
	}
	switch {
	case declared || x.typ.Kind == model.Optional || at.Missing != nil || at.Value.Kind == decoder.SeenUnknown:
	case clr.IsValue(x.typ):
		at.AbsentLoss = decoder.Zeroed
	case at.Value.Kind == decoder.SeenNull && !x.field.Oblivious && x.typ.Kind != model.Param:
		at.AbsentLoss = decoder.HiddenNull
	}
}

// nulls says what becomes of null, beside what its type says.
func (c *compiler) nulls(x *member, at *decoder.Node) {
	if x.field.AllowsNull || x.typ.Kind == model.Optional && !x.field.NoNull || clr.IsValue(x.typ) {
		if c.on("IgnoreNullValues") && (x.typ.Kind == model.Optional || !clr.IsValue(x.typ)) {
			at.KeepNull = true
		}
		return
	}
	if c.on("IgnoreNullValues") {
		at.KeepNull = true
		return
	}
	if x.field.Oblivious || x.typ.Kind == model.Param || x.owner.Model.Params != nil && x.field.Type.Kind == model.Param || anyValue(x.typ) {
		return
	}
	if c.on("RespectNullableAnnotations") {
		inner := at.Inner
		at.Inner = &decoder.Node{Op: decoder.OpNil, Type: inner.Type, NullError: problem(decoder.ReasonNull, fmt.Sprintf("The property or field '%s' on type '%s' doesn't allow setting null values. Consider updating its nullability annotation. Path: %s.", x.field.Name, clr.Name(x.owner), decoder.PathMark)), Inner: inner}
		if inner.Op == decoder.OpNil {
			at.Inner.Inner = inner.Inner
		}
		return
	}
	if at.Inner.Op == decoder.OpNil && at.Inner.NullError == nil {
		inner := *at.Inner
		inner.NullLoss = decoder.HiddenNull
		at.Inner = &inner
	}
}
