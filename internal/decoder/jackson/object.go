package jackson

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// model is the node for a class that the source declares.
func (c *compiler) model(t *model.Type, as format) *decoder.Node {
	m := t.Model
	switch {
	case m.Reading == model.Unfollowed:
		return unknown(fmt.Sprintf("%s: %s (%s)", m.Name, m.Why, m.WhyPos))
	case m.Language == "kotlin" && !c.isView(m):
		return c.model(c.java(t), as)
	case m.Marks.Find("JsonDeserialize").Text("using", "") != "" && c.own(m.Adapter) != nil:
		return c.own(m.Adapter)
	case m.Marks.Find("JsonDeserialize").Text("using", "") != "" || m.Marks.Find("JsonDeserialize").Text("builder", "") != "" && !jacksonized(m):
		return unknown("a deserializer or builder of its own reads " + m.Name)
	case untold(m.Marks) != "":
		return unknown("an annotation of " + m.Name + " says " + untold(m.Marks) + ", a constant that is not in the source")
	case m.Kind == model.Enum:
		return c.enum(m)
	}
	if as := m.Marks.Find("JsonDeserialize").Text("as", ""); as != "" {
		if other := related(m, as); other != nil && other != m {
			return c.value(&model.Type{Kind: model.Named, Name: other.Name, Model: other, Args: t.Args, Pos: t.Pos}, format{})
		}
	}
	if a := classMark(t, "JsonTypeInfo"); a != nil {
		return nullable(c.subtypes(t, a, as))
	}
	return nullable(c.objectAs(t, "", as))
}

// objectAs is the node for an instance that is held by a property with annotations. passed is the
// key that has told its class.
func (c *compiler) objectAs(t *model.Type, passed string, as format) *decoder.Node {
	m := t.Model
	if c.settings.Option("module.ParameterNamesModule") != "" && leavesNames(m) {
		return unknown("ParameterNamesModule names the parameters that make " + m.Name + ", which is not followed")
	}
	typ := className(m)
	about := c.introspect(t)
	id, why := c.identified(t)
	if why != "" {
		return unknown(why)
	}
	if id != nil && id.own {
		about.ignored[id.key] = true
	}
	about.ignore(as)
	c.refuse(m, about.refused)
	if about.why != "" {
		return unknown(m.Name + ": " + about.why)
	}
	if shaped(classMark(t, "JsonFormat"), "ARRAY") {
		return unknown(m.Name + " is read from an array, which is not followed")
	}
	defer func(fold bool) { c.fold = fold }(c.fold)
	c.fold = formatted(classMark(t, "JsonFormat"), "ACCEPT_CASE_INSENSITIVE_PROPERTIES")
	n := &decoder.Node{Op: decoder.OpKeyed, Model: m, Match: c.match()}
	inner := !as.within && len(m.Ctors) > 0 && len(m.Ctors[0].Params) > 0 && m.Ctors[0].Params[0].Name == "this"
	makeable := about.creator != nil || about.delegate != nil && !singleScalar(about.delegate) || as.within || jvm.NoArguments(m) || jacksonized(m)
	build := func() *decoder.Node {
		return c.build(t, about, part{passed: passed, inside: as.prefix+as.suffix != "", prefix: as.prefix, suffix: as.suffix})
	}
	delegates := about.delegate != nil && about.creator == nil && !singleScalar(about.delegate)
	// What its properties lead to may be refused all the same, before anything is read.
	var would *decoder.Node
	if !m.Abstract && (inner || !makeable || delegates) {
		would = build()
	}
	advice := "give " + m.Name + " a constructor without parameters; or mark one by @JsonCreator, with @JsonProperty at each parameter"
	if c.isView(m) && !c.kotlinModule() {
		advice = "make the mapper by jacksonObjectMapper(), or register the Kotlin module: without it a mapper cannot call the constructor of " + m.Name
	} else if version := c.boxes(m); version != "" {
		advice = "take jackson-module-kotlin 2.17 or later: that of this build, " + version + ", knows no constructor that takes a value class or an unsigned number"
	}
	refuses := func(kind, advice, format string, args ...any) *decoder.Node {
		err := fault(kind, decoder.ReasonType, format, args...)
		err.Advice = advice
		return &decoder.Node{Op: decoder.OpFail, Assured: true, Model: m, Error: err, Inner: would}
	}
	switch {
	case m.Abstract:
		n.Inner = refuses("InvalidDefinitionException", "say which class to make of it, by @JsonTypeInfo and @JsonSubTypes or by @JsonDeserialize(as = …)", "Cannot construct instance of `%s` (no Creators, like default constructor, exist): abstract types either need to be mapped to concrete types, have custom deserializer, or contain additional type information", typ)
	case inner:
		n.Inner = refuses("InvalidDefinitionException", "declare "+m.Name+" static: an instance of an inner class needs one of the class around it", "Cannot construct instance of `%s`: non-static inner classes like this can only by instantiated using default, no-argument constructor", typ)
	case !makeable:
		n.Inner = refuses("InvalidDefinitionException", advice, "Cannot construct instance of `%s` (no Creators, like default constructor, exist): %s", typ, about.noCreator())
	case delegates && id != nil:
		return unknown("@JsonIdentityInfo of a class that is made of another value is not followed: " + m.Name)
	case delegates:
		return c.besideScalars(m, c.delegating(t, about.delegate))
	default:
		n.Inner = build()
	}
	texts := c.fromText(m)
	takes := takesOne(m)
	if !makeable && takes.counts() {
		n.Inner = refuses("MismatchedInputException", advice, "Cannot construct instance of `%s` (although at least one Creator exists): %s", typ, about.noCreator())
	}
	declared := full(t)
	if jacksonized(m) {
		declared = typ
	}
	refused := func(v *wire.Value) *decoder.Error {
		if !makeable && !takes.counts() || m.Abstract {
			return noArgument("InvalidDefinitionException", typ, false, v)
		}
		return noArgument("MismatchedInputException", typ, true, v)
	}
	wrongAs(n, func(v *wire.Value) *decoder.Error {
		switch {
		case blank(v):
			return emptyString("`" + declared + "`")
		case v.Kind == wire.Array || v.Kind == wire.Null:
			return mismatched(declared, v)
		}
		return refused(v)
	})
	n.Second = texts
	if texts == nil && c.on("ACCEPT_EMPTY_STRING_AS_NULL_OBJECT") {
		n.Second = emptyAsNull(n)
	}
	if takes.scalar() {
		n.Second = c.fromScalar(m, takes, refused)
		n.Scalars = true
	}
	if id != nil {
		if why := c.identify(n, id); why != "" {
			return unknown(why)
		}
	}
	return n
}

// withinObject is the node of a scalar for a reader that has gone into the object
// already where one is sent: it stands at the first name, or at the end.
func withinObject(n *decoder.Node) *decoder.Node {
	out := *n
	out.Read = func(v *wire.Value) decoder.Verdict {
		verdict := n.Read(v)
		if v.Kind != wire.Object || verdict.Err == nil {
			return verdict
		}
		err := *verdict.Err
		err.Message = strings.Replace(err.Message, "START_OBJECT", "FIELD_NAME", 1)
		return decoder.Verdict{Err: &err}
	}
	return &out
}

// emptyAsNull is the node for strings where an object or a list is declared and an
// empty or a blank one stands for null (ACCEPT_EMPTY_STRING_AS_NULL_OBJECT).
func emptyAsNull(n *decoder.Node) *decoder.Node {
	return &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		if blank(v) {
			return decoder.Verdict{}
		}
		return decoder.Verdict{Err: n.WrongValue(v)}
	}}
}

// part is how an object is read in one that stands around it: with what its keys begin
// and end, and which key of the outer one has told its class.
type part struct {
	inside         bool
	prefix, suffix string
	passed         string
	around         []*model.Model // the objects that it stands in
	// hidden says which keys of those objects their classes take themselves or ignore, of what they
	// hold as well; nil where it stands in none. Of those that only may be, mayHide says so:
	// behind the last key that a creator takes, none is. ordered says that there is such a creator.
	hidden, mayHide func(key string) bool
	ordered         bool
}

// inTheEnd are the errors of what a creator takes that are thrown when all of it has been read: of
// Kotlin's, all for what is absent.
func (c *compiler) inTheEnd(p *property, n *decoder.Node) (late []*decoder.Error) {
	if p.refused != nil {
		late = append(late, p.refused)
	}
	if n.Missing != nil && (n.Missing == p.absent || c.isView(p.param.owner.Model) && c.kotlinModule()) {
		late = append(late, n.Missing)
	}
	return late
}

// never is the node for a parameter of a creator that no key is left for: what is there for an
// absent one comes at the end.
func never(n *decoder.Node) *decoder.Node {
	if n.Missing != nil {
		return &decoder.Node{Op: decoder.OpFail, Assured: true, Error: n.Missing}
	}
	return &decoder.Node{Op: decoder.OpConst, Field: n.Field, Value: n.Value, Why: "it is ignored by annotation"}
}

// match is what the mapper makes of names before it compares them.
func (c *compiler) match() func(string) string {
	if c.on("ACCEPT_CASE_INSENSITIVE_PROPERTIES") || c.fold {
		return strings.ToLower
	}
	return nil
}

// build is BeanDeserializer: each member goes to the property of its name, in the order
// of the document; one that no property takes fails the whole.
func (c *compiler) build(t *model.Type, about *introspection, as part) *decoder.Node {
	m := t.Model
	n := &decoder.Node{Op: decoder.OpBuild, Model: m, ByDocument: true}
	defer func(computed bool) { c.computed = computed }(c.computed)
	c.computed = about.creator == nil && jvm.Computes(m)
	fields, owners := allFields(t)
	index := map[string]int{}
	for i, f := range fields {
		n.Props = append(n.Props, f)
		index[f.Name] = i
	}
	set := make([]bool, len(fields))
	reader := make([]*decoder.Node, len(fields)) // the node that reads a field already
	byCreator := make([]bool, len(fields))       // of reader: what it reads is handed to the creator
	unwraps := false
	var names []string
	keys := map[string]bool{}
	given := map[*decoder.Node]int{} // to the creator, as its parameter of that index
	// A value that is handed to a creator, and that no field is called after, may go anywhere.
	loose := about.creator != nil && (about.creator.Opaque || c.isView(m) && computes(m)) || slices.ContainsFunc(about.properties, func(p *property) bool {
		target, _, _ := c.target(p, t, fields, owners)
		return p.param != nil && target == nil && !p.hidden
	})
	var late []decoder.Step
	touched := map[string]*property{} // fields that a setter of another property may assign to
	for _, p := range about.properties {
		if p.setter == nil || p.setter.method == nil || !p.setter.method.Opaque {
			continue
		}
		own, _, _ := c.target(p, t, fields, owners)
		for _, name := range p.setter.method.Computes {
			if own == nil || own.Name != name {
				touched[name] = p
			}
		}
	}
	for _, p := range about.properties {
		if match := c.match(); match != nil && !p.unwraps() {
			if keys[match(p.name)] { // of two names that differ in case alone, the first is found
				names = append(names, fmt.Sprintf("%q", p.name))
				continue
			}
			keys[match(p.name)] = true
		}
		target, typ, owner := c.target(p, t, fields, owners)
		at := -1
		if target != nil {
			at = index[target.Name]
			set[at] = true
		}
		names = append(names, fmt.Sprintf("%q", p.name))
		if typ == nil {
			continue
		}
		if p.unwraps() {
			unwraps = true
			node := c.unwrapped(m, about, p, typ.Unwrapped(), as)
			if p.param == nil {
				n.Steps = append(n.Steps, decoder.Step{Property: at, Node: node})
				continue
			}
			// A record's creator takes the component's own key all the same, and what is unwrapped
			// goes to a field that is final.
			late = append(late, decoder.Step{Property: -1, Node: node}, decoder.Step{Property: -1, Node: &decoder.Node{Op: decoder.OpFail, Assured: true, Error: unwrappedComponent(m, target)}})
		}
		takes := as
		if p.param != nil { // a creator asks for the names that it had before it was unwrapped
			takes.prefix, takes.suffix = "", ""
		}
		node := c.property(p, target, typ, owner, takes)
		if takes.prefix+takes.suffix != as.prefix+as.suffix && !p.hidden {
			n.Steps = append(n.Steps, renamed(m, p, at, target, about, c.property(p, target, typ, owner, as)))
		}
		switch ignored := p.param != nil && p.hidden || !as.sees(node); {
		case ignored && p.param != nil:
			if p.hidden { // which annotations for null do not reach
				node = &decoder.Node{Field: target, Value: jvm.Zero(typ, false)}
				c.missing(node, p, typ)
			}
			never := never(node)
			n.Steps = append(n.Steps, decoder.Step{Property: at, Node: never, First: true, InTheEnd: c.inTheEnd(p, node)})
			given[never] = p.param.param.index
			continue
		case ignored && at >= 0:
			set[at] = false
			continue
		case ignored:
			continue
		}
		c.managed(m, p)
		if p.param == nil && p.setter != nil && p.setter.method.Opaque {
			node.Opaque = true
		}
		if target != nil && touched[target.Name] != nil {
			node.Opaque, node.Value, node.AbsentLoss = true, decoder.Seen{Kind: decoder.SeenUnknown}, decoder.NoLoss
		}
		if p.param != nil && c.isView(m) && p.param.param.fills == "" { // what becomes of it, the class says
			node.Opaque = true
		}
		if p.param != nil && target != nil && about.creator != nil && (about.creator.Opaque || slices.Contains(about.creator.Computes, target.Name)) {
			node.Opaque, node.Value, node.AbsentLoss = true, decoder.Seen{Kind: decoder.SeenUnknown}, decoder.NoLoss
		}
		if loose && p.param == nil {
			node.Value, node.AbsentLoss = decoder.Seen{Kind: decoder.SeenUnknown}, decoder.NoLoss
		}
		if at >= 0 && reader[at] != nil { // two properties that set one field
			if own := reader[at]; own.Inner == node.Inner && own.Missing == nil && node.Missing == nil && p.param == nil && !byCreator[at] {
				own.Others = append(append(own.Others, node.Name), node.Others...)
				continue
			}
			node.AbsentLoss = decoder.NoLoss
		}
		if at >= 0 && reader[at] == nil {
			reader[at], byCreator[at] = node, p.param != nil
		}
		step := decoder.Step{Property: at, Node: node, First: p.param != nil}
		if p.param != nil {
			step.InTheEnd = c.inTheEnd(p, node)
			step.Unasked = len(step.InTheEnd) > 0 && p.setter == nil && p.field != nil
		}
		if step.Spent, step.SpentNull = spent(m, p, target, about, p.name); p.param != nil && unwrapsAny(about) {
			step.Spent = decoder.PassedOver // it goes to what is unwrapped
		}
		n.Steps = append(n.Steps, step)
		if p.param != nil {
			given[node] = p.param.param.index
		}
	}
	inOrder(n.Steps, given)
	n.Steps = append(n.Steps, late...)
	for _, p := range about.final {
		f := p.field.field
		names = append(names, fmt.Sprintf("%q", p.name))
		n.Steps = append(n.Steps, decoder.Step{Property: -1, Spent: fixed(m, f, false), SpentNull: fixed(m, f, true),
			Node: &decoder.Node{Op: decoder.OpAt, Name: p.name, Type: f.Declared, Field: f, Every: true, Inner: c.value(f.Type, format{})}})
	}
	for i, f := range fields {
		if !set[i] {
			n.Steps = append(n.Steps, decoder.Step{Property: i, Node: c.unset(f, owners[i], about, loose || touched[f.Name] != nil)})
		}
	}
	if unwraps && about.creator != nil { // what comes behind all that the creator takes is lost
		for _, s := range n.Steps {
			if s.Node.Op == decoder.OpAt && !s.First {
				s.Node.Inner = unknown(unorderedKeys)
			}
		}
	}
	n.Passed = as.passed
	c.unknowns(n, m, about, as, unwraps, names)
	if n.Rest = c.rest(about); n.Rest != nil {
		if n.Rest.Aside = unwraps; unwraps {
			n.Rest.Why = "an any-setter beside what is unwrapped is given the keys of that too"
		}
		if n.Ignored == nil {
			n.Ignored = func(key string) bool { return about.hides(key) || as.hidden != nil && as.hidden(key) }
		}
	}
	n.RestInto = -1
	if f := about.restInto(fields); f != nil && n.Rest != nil {
		at := index[f.Name]
		if as.ordered { // what comes late is put into it as well
			n.Steps = append(n.Steps, decoder.Step{Property: at, Node: unknown(unorderedKeys)})
		} else {
			n.RestInto = at
		}
	}
	return n
}

// unmakeable is the error for a class that Jackson can make no instance of to set properties
// on, nil where it can, or where a creator makes it of a value as a whole.
func unmakeable(m *model.Model, about *introspection) *decoder.Error {
	switch {
	case about.creator != nil || about.delegate != nil || m.Abstract || jvm.NoArguments(m) || jacksonized(m):
		return nil
	case takesOne(m).counts():
		return fault("MismatchedInputException", decoder.ReasonType, "Cannot construct instance of `%s` (although at least one Creator exists): %s", className(m), about.noCreator())
	}
	return fault("InvalidDefinitionException", decoder.ReasonType, "Cannot construct instance of `%s` (no Creators, like default constructor, exist): %s", className(m), about.noCreator())
}

// noCreator says what a class lacks that an object is read into (BeanDeserializer.deserializeFromObject).
func (i *introspection) noCreator() string {
	if unwrapsAny(i) {
		return "no default no-arguments constructor found"
	}
	return "cannot deserialize from Object value (no delegate- or property-based Creator)"
}

// restInto is the field that any-setters fill and nothing else, a map that is there at first;
// nil where that is not known.
func (i *introspection) restInto(fields []*model.Field) *model.Field {
	if i.rest == nil || i.creator != nil || i.delegate != nil {
		return nil
	}
	name := ""
	if i.rest.field != nil {
		name = i.rest.field.Name
	} else {
		name = i.rest.method.Sets
	}
	for _, f := range fields {
		if f.Name == name && f.Default != nil && f.Default.Kind == model.MapLiteral && f.Type.Unwrapped().Kind == model.Map && f.Type.Unwrapped().Args[0].Name == "String" {
			return f
		}
	}
	return nil
}

// rest is the node for the value of a key that an any-setter takes, nil where any will do.
func (c *compiler) rest(about *introspection) *decoder.Node {
	if about.rest == nil {
		return nil
	}
	var t *model.Type
	field := about.rest.field
	if field != nil {
		if u := field.Type.Unwrapped(); u.Kind == model.Map {
			t = u.Args[1]
		}
	} else if m := about.rest.method; len(m.Params) == 2 {
		t = m.Params[1].Type
		field = &model.Field{Name: m.Name, Type: t, Declared: m.Params[1].Declared, Pos: m.Pos, Reading: model.ByLibrary}
	}
	if t == nil {
		return nil
	}
	return &decoder.Node{Op: decoder.OpDo, Inner: c.value(t.Bind(about.rest.owner.Env()), format{}), Field: field, Type: jvm.TypeText(t)}
}

// inOrder puts the steps for what a creator is given in the order of its parameters, in
// which it is asked what is absent; the others stay where they are.
func inOrder(steps []decoder.Step, given map[*decoder.Node]int) {
	var first []decoder.Step
	for _, s := range steps {
		if s.First {
			first = append(first, s)
		}
	}
	slices.SortStableFunc(first, func(a, b decoder.Step) int { return given[a.Node] - given[b.Node] })
	for i := range steps {
		if steps[i].First {
			steps[i], first = first[0], first[1:]
		}
	}
}

// unset is the node for a field that no property sets. open says that code may set it.
func (c *compiler) unset(f *model.Field, owner *model.Type, about *introspection, open bool) *decoder.Node {
	t := f.Type.Bind(owner.Env())
	switch {
	case about.restInto([]*model.Field{f}) != nil && !c.computed:
		return &decoder.Node{Op: decoder.OpConst, Field: f, Value: jvm.Constant(f.Default, t), Why: "it takes all other keys"}
	case about.anyField == f:
		return &decoder.Node{Op: decoder.OpUnknown, Why: "it takes all other keys", Field: f}
	case about.any && about.anyField == nil && about.rest.method.Sets == "" && t.Unwrapped().Kind == model.Map:
		return &decoder.Node{Op: decoder.OpUnknown, Why: "the method that takes all other keys may fill it", Field: f}
	case open:
		return &decoder.Node{Op: decoder.OpUnknown, Why: "code of the class may give it a value, which is not followed", Field: f}
	}
	value := jvm.Zero(t, false)
	switch {
	case c.computed || about.creator != nil && slices.Contains(about.creator.Computes, f.Name):
		value = decoder.Seen{Kind: decoder.SeenUnknown}
	case f.Default != nil && about.creator != nil && f.Final && slices.Contains(about.creator.Fills, f.Name): // the creator is what sets it
		value = decoder.Seen{Kind: decoder.SeenUnknown}
	case f.Default != nil:
		value = jvm.Constant(f.Default, t)
	}
	why := "the mapper does not see it: it is " + f.Access.String() + ", without a setter, a getter or an annotation"
	switch {
	case f.Transient:
		why = "it is transient"
	case about.ignored[f.Name]:
		why = "it is ignored by annotation"
	}
	return &decoder.Node{Op: decoder.OpConst, Field: f, Value: value, Why: why}
}

// spent is the error for a member of a creator that comes again after the instance has
// been made: then only a setter or a field can take it. The second is that for null. name is
// that of the member.
func spent(m *model.Model, p *property, target *model.Field, about *introspection, name string) (err, ofNull *decoder.Error) {
	for _, f := range about.final {
		if f.implicit == p.implicit { // its field has another name
			return decoder.PassedOver, nil
		}
	}
	switch {
	case p.param == nil || p.setter != nil:
		return nil, nil
	case m.Kind == model.Record && target != nil && p.field == nil:
		return decoder.PassedOver, nil
	case m.Kind == model.Record && target != nil: // its fields are there, but final for good
		return fixed(m, target, false), fixed(m, target, true)
	case p.field != nil:
		return nil, nil
	}
	return fault("InvalidDefinitionException", decoder.ReasonUnknown, "No fallback setter/field defined for creator property '%s'", name), nil
}

// fixed is the error for setting a field of a record, to null or to a value of its type
// (jdk.internal.reflect.UnsafeFieldAccessorImpl of Java 17).
func fixed(m *model.Model, f *model.Field, null bool) *decoder.Error {
	to := raw(f.Type)
	switch box := jvm.Boxes[to]; {
	case box != "": // null is made zero first
		to = "java.lang." + box
	case null:
		to = "null value"
	case to == "java.lang.CharSequence":
		to = "java.lang.String"
	case to == "java.lang.Object" || to == "java.lang.Number":
		to = model.NotTold
	default:
		to = binaryName(to)
	}
	err := fault("JsonMappingException", decoder.ReasonType, "Can not set final %s field %s.%s to %s", binaryName(declared(f.Type)), jvm.ClassName(m), f.Name, to)
	err.Advice = "name the components of " + m.Name + " by @JsonProperty: Jackson before 2.15 takes what a naming strategy makes of them for final fields"
	return err
}

// className is how messages name the class that is made: its builder where it has one.
func className(m *model.Model) string {
	name := jvm.ClassName(m)
	if jacksonized(m) {
		name += "$" + model.SimpleName(m.Name) + "Builder"
	}
	return name
}

// unknowns settles what becomes of keys that no property takes.
func (c *compiler) unknowns(n *decoder.Node, m *model.Model, about *introspection, as part, unwraps bool, names []string) {
	ignored := about.hides
	fails := !as.inside && !about.any && !about.lenient && !unwraps && !c.off("FAIL_ON_UNKNOWN_PROPERTIES")
	minds := c.on("FAIL_ON_IGNORED_PROPERTIES") && !as.inside
	if !fails && !minds {
		return
	}
	list := fmt.Sprintf("%d known properties: %s", len(names), known(names))
	if len(names) == 1 {
		list = "one known property: " + names[0]
	}
	class := className(m)
	n.Unknown = func(name string) *decoder.Error {
		if ignored(name) {
			return fault("IgnoredPropertyException", decoder.ReasonUnknown, "Ignored field %q (class %s) encountered; mapper configured not to allow this (%s])", name, class, list)
		}
		return fault("UnrecognizedPropertyException", decoder.ReasonUnknown, "Unrecognized field %q (class %s), not marked as ignorable (%s])", name, class, list)
	}
	n.Ignored = func(name string) bool {
		if ignored(name) {
			return !minds
		}
		return !fails
	}
}

// isInner says whether a type is an inner class, not a static one, of the class that holds
// the property: such an instance is made in the one around it (InnerClassProperty).
func isInner(t *model.Type, owner *model.Model) bool {
	if t == nil {
		return false
	}
	m := t.Unwrapped().Model
	if m == nil || owner == nil || len(m.Ctors) != 1 || len(m.Ctors[0].Params) != 1 || m.Ctors[0].Params[0].Name != "this" {
		return false
	}
	outer, nested := strings.CutSuffix(m.Name, "."+model.SimpleName(m.Name))
	return nested && outer == owner.Name && m.Package == owner.Package
}
