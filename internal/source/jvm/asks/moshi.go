package asks

import (
	"regexp"
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// What a Moshi.Builder is given: adapters, objects with functions that are adapters, factories; and the calls that
// make an adapter of a type.

// span are the tokens of an expression, from the first to behind the last.
type span struct{ from, to int }

// spans are the arguments of a call between a bracket and its partner.
func spans(f *scan.File, open, shut int) (all []span) {
	for at := open + 1; at < shut; {
		end := at
		for end < shut && !f.Is(end, ",") {
			if m := f.Partner(end); m > end {
				end = m
			}
			end++
		}
		all = append(all, span{at, end})
		at = end + 1
	}
	return all
}

// link is one call in a chain: its name, and the brackets of its arguments, -1 where it has none.
type link struct {
	name       string
	at         int
	open, shut int
}

// chained are the names and calls that an expression is made of: of(…).withSubtype(…).
func chained(f *scan.File, s span) (all []link) {
	at := s.from
	if f.Is(at, "new") {
		at++
	}
	for at < s.to && f.TokenAt(at).Kind == scan.Ident {
		l := link{name: f.TokenAt(at).Text, at: at, open: -1, shut: -1}
		at++
		if at < s.to && f.Is(at, "<") { // type arguments
			c := &scan.Cursor{F: f, I: at}
			jvm.SkipAngles(c)
			at = c.I
		}
		if at < s.to && f.Is(at, "(") {
			l.open, l.shut = at, f.Partner(at)
			at = l.shut + 1
		}
		all = append(all, l)
		if at >= s.to || !f.Is(at, ".") {
			break
		}
		at++
	}
	return all
}

// adds notes what is added to a Moshi.Builder by the arguments between two brackets.
func (b *built) adds(f *scan.File, open, shut int, pos model.Pos) {
	option := func(key, value string) { b.settings.Options[key] = model.Option{Value: value, Pos: pos} }
	args := spans(f, open, shut)
	if len(args) == 0 {
		return
	}
	last := unqualified(chained(f, args[len(args)-1]))
	if f.Is(args[0].from, "{") { // a factory that is a function
		b.addsFactory(f, args[0], "{ … }", "", pos)
		return
	}
	if len(last) == 0 {
		option("unfollowed", strings.TrimSpace(f.Text(open, shut+1)))
		return
	}
	name := last[0].name
	if len(args) > 1 {
		b.addsAdapter(f, args, last, pos)
		return
	}
	switch {
	case name == "KotlinJsonAdapterFactory":
		option(name, "true")
	case name == "PolymorphicJsonAdapterFactory":
		b.addsFamily(f, last, pos)
	default:
		path := name
		for _, l := range last[1:] { // Outer.Inner(), Outer.FACTORY
			if l.name[:1] == strings.ToUpper(l.name[:1]) {
				path += "." + l.name
			}
		}
		b.addsObject(f, args[0], path, pos)
	}
}

// unqualified is a chain without the package that its class may be written with: com.saltmere.Dates().
func unqualified(chain []link) []link {
	for i, l := range chain {
		isClass := l.name[0] >= 'A' && l.name[0] <= 'Z'
		switch {
		case isClass && i > 1: // of one word more than the name of a value has
			return chain[i:]
		case isClass || l.shut > 0:
			return chain
		}
	}
	return chain
}

// addsFactory notes a factory that an expression is.
func (b *built) addsFactory(f *scan.File, at span, name, qualifier string, pos model.Pos) {
	s := &scope{p: b.project, f: b.file, c: b.project.ClassAt(b.file, b.at)}
	r := s.value("create", f, at.from, at.to)
	if r == nil {
		b.settings.Options["unfollowed"] = model.Option{Value: name, Pos: pos}
		return
	}
	r.Params = []string{"1", "2", "3"} // names that the expression cannot have
	call := &code.Expr{Op: code.Call, Args: []*code.Expr{{Op: code.Member, Text: "create", Args: []*code.Expr{r.Body[0].Value}}}, Pos: pos}
	for _, p := range r.Params {
		call.Args = append(call.Args, &code.Expr{Op: code.Name, Text: p})
	}
	r.Body = []code.Stmt{{Op: code.Return, Value: call}}
	b.settings.Adapters = append(b.settings.Adapters, model.Adapter{Name: name, Qualifier: qualifier, Factory: true, Code: r, Pos: pos})
	key, shown := "factory", name
	if qualifier != "" {
		key += "." + qualifier
	} else if others := b.settings.Option(key); others != "" {
		shown = others + ", " + name
	}
	b.settings.Options[key] = model.Option{Value: shown, Pos: pos}
}

// addsAdapter notes an adapter that is added for a type: add(Date::class.java, Rfc3339DateJsonAdapter()).
func (b *built) addsAdapter(f *scan.File, args []span, by []link, pos model.Pos) {
	option := func(key, value string) { b.settings.Options[key] = model.Option{Value: value, Pos: pos} }
	of, declared := typeNamed(b.project, b.file, &scan.Cursor{F: f, I: args[0].from - 1}, args[0].to, true)
	if of == nil {
		option("unfollowed", "an adapter of "+f.Text(args[0].from, args[0].to))
		return
	}
	a := model.Adapter{Name: by[0].name, Of: of, Pos: pos}
	if len(args) == 3 { // of a qualified type
		if q, _ := typeNamed(b.project, b.file, &scan.Cursor{F: f, I: args[1].from - 1}, args[1].to, true); q != nil {
			a.Qualifier = jvm.Last(q.Name)
		}
	}
	b.readsBy(&a)
	for _, l := range by {
		switch l.name {
		case "nullSafe":
			a.NullSafe = true
		case "withUnknownFallback":
			a.Fallback = jvm.Last(strings.TrimSpace(f.Text(l.open+1, l.shut)))
		}
	}
	b.settings.Adapters = append(b.settings.Adapters, a)
	option("adapter."+strings.TrimSpace(declared), a.Name)
}

// readsBy gives an adapter the code of the JsonAdapter of its name, where that is in the source.
func (b *built) readsBy(a *model.Adapter) {
	class := b.project.Find(b.file, b.project.ClassAt(b.file, b.at), a.Name)
	if class == nil {
		return
	}
	class.Read()
	for _, m := range class.Methods {
		if m.Name == "fromJson" && len(m.Params) == 1 {
			if r := routine(b.project, class.File, class, m); r != nil {
				a.Code, a.ByReader = r, true
			}
		}
	}
}

// addsObject notes the functions of an object that are adapters, by its class, or the factory that it is.
func (b *built) addsObject(f *scan.File, at span, path string, pos model.Pos) {
	p, in := b.project, b.project.ClassAt(b.file, b.at)
	option := func(key, value string) { b.settings.Options[key] = model.Option{Value: value, Pos: pos} }
	class := p.Find(b.file, in, path)
	for outer := path; class == nil && strings.Contains(outer, "."); { // a constant of a class
		outer = outer[:strings.LastIndexByte(outer, '.')]
		class = p.Find(b.file, in, outer)
	}
	if class == nil {
		if path[:1] != strings.ToUpper(path[:1]) { // a value of the app's
			b.addsFactory(f, at, path, "", pos)
			return
		}
		option("unfollowed", path)
		return
	}
	found := false
	for _, c := range append([]*jvm.Class{class}, class.Nested...) {
		c.Read()
		for _, m := range c.Methods {
			if m.Marks.Find("FromJson") == nil || c != class && c.Kind != "object" {
				continue
			}
			found = true
			if m.Returns == nil || len(m.Params) == 0 {
				option("unfollowed", path+"."+m.Name)
				continue
			}
			of := *m.Returns
			p.Resolve(c.File, c, nil, &of)
			a := model.Adapter{Name: path + "." + m.Name, Of: &of, Qualifier: qualifierOf(p, c, m.Marks), Pos: m.Pos}
			if first := m.Params[0]; first.Type != nil && jvm.Last(first.Type.Unwrapped().Name) != "JsonReader" {
				reads := *first.Type
				p.Resolve(c.File, c, nil, &reads)
				a.Reads, a.ReadsQualifier = &reads, qualifierOf(p, c, first.Marks)
			} else {
				a.ByReader = true
				for _, param := range m.Params[1:] {
					var of *model.Type
					if t := param.Type.Unwrapped(); len(t.Args) == 1 && jvm.Last(t.Name) == "JsonAdapter" {
						delegate := *t.Args[0]
						p.Resolve(c.File, c, nil, &delegate)
						of = &delegate
					}
					a.Delegates = append(a.Delegates, of)
				}
			}
			if r := routine(p, c.File, c, m); r != nil {
				a.Code = r
			}
			b.settings.Adapters = append(b.settings.Adapters, a)
			key := "adapter." + m.Declared
			if a.Qualifier != "" {
				key = "adapter.@" + a.Qualifier + " " + m.Declared
			}
			option(key, a.Name)
		}
	}
	if found {
		return
	}
	if slices.ContainsFunc(class.Methods, func(m *model.Method) bool { return m.Marks.Find("ToJson") != nil }) {
		return // it only writes
	}
	b.addsFactory(f, at, path, factoryFor(class), pos)
}

// nextAnnotations is how a factory asks whether a type is qualified by the annotation that it is for.
var nextAnnotations = regexp.MustCompile(`nextAnnotations\s*\([^,()]*,\s*(\w+)\s*(?:::|\.)\s*class`)

// factoryFor is the annotation that a factory asks types for before it makes an adapter, "" where it asks for none.
func factoryFor(c *jvm.Class) string {
	if c.Body[1] <= c.Body[0] {
		return ""
	}
	defer c.File.Reading()()
	if m := nextAnnotations.FindStringSubmatch(c.File.Text(c.Body[0], c.Body[1])); m != nil {
		return m[1]
	}
	return ""
}

// qualifierOf is the one of some annotations that the source declares as a @JsonQualifier, "" for none.
func qualifierOf(p *jvm.Project, in *jvm.Class, marks model.Annotated) string {
	for _, a := range marks {
		if c := p.Find(in.File, in, a.Name); c != nil && c.Kind == "annotation" && c.Marks.Find("JsonQualifier") != nil {
			return a.Name
		}
	}
	return ""
}

// addsFamily notes a PolymorphicJsonAdapterFactory.
func (b *built) addsFamily(f *scan.File, by []link, pos model.Pos) {
	option := func(key, value string) { b.settings.Options[key] = model.Option{Value: value, Pos: pos} }
	typeIn := func(s span) *model.Type {
		t, _ := typeNamed(b.project, b.file, &scan.Cursor{F: f, I: s.from - 1}, s.to, true)
		return t
	}
	family := model.Family{Pos: pos}
	var shown []string
	for _, l := range by[1:] {
		args := spans(f, l.open, l.shut)
		switch l.name {
		case "of":
			if len(args) != 2 {
				continue
			}
			family.Of, family.Key = typeIn(args[0]), b.textOf(f, args[1])
		case "withSubtype":
			if len(args) != 2 {
				continue
			}
			m := model.Member{Type: typeIn(args[0]), Label: b.textOf(f, args[1])}
			if m.Type == nil || m.Label == "" {
				family.Why = "a subtype that its Moshi is told of is not followed"
				continue
			}
			family.Members = append(family.Members, m)
			shown = append(shown, m.Label+" "+m.Type.Name)
		case "withDefaultValue":
			text := strings.TrimSpace(f.Text(l.open+1, l.shut))
			family.Otherwise = &model.Otherwise{Null: text == "null"}
			if c := b.project.Find(b.file, b.project.ClassAt(b.file, b.at), text); c != nil {
				family.Otherwise.Type = &model.Type{Kind: model.Named, Name: c.FullName(), Model: c.Model}
			}
			shown = append(shown, "else "+text)
		case "withFallbackJsonAdapter":
			family.Otherwise = &model.Otherwise{Unfollowed: true}
			if by := chained(f, span{l.open + 1, l.shut}); len(by) > 0 {
				a := model.Adapter{Name: by[0].name, Of: family.Of, Pos: f.Where(l.at)}
				if b.readsBy(&a); a.Code != nil {
					family.Otherwise.Adapter = &a
				}
			}
			shown = append(shown, "else by "+strings.TrimSpace(f.Text(l.open+1, l.shut)))
		}
	}
	if family.Of == nil || family.Of.Model == nil {
		option("unfollowed", "a PolymorphicJsonAdapterFactory of a class that is not in the source")
		return
	}
	if family.Key == "" {
		family.Why = "the key that tells the classes of " + family.Of.Name + " is not followed"
	}
	b.settings.Families = append(b.settings.Families, family)
	option("subtypes."+family.Of.Name, family.Key+": "+strings.Join(shown, ", "))
}

// textOf is the text that an expression is, of a constant too; "" where that is not told.
func (b *built) textOf(f *scan.File, s span) string {
	if l := jvm.Literal(f, s.from, s.to); l.Kind == model.StringLiteral {
		return l.Text
	}
	b.project.Asked = 0
	if l := b.project.Constant(b.file, b.project.ClassAt(b.file, b.at), strings.TrimSpace(f.Text(s.from, s.to)), jvm.MaxConstants); l != nil && l.Kind == model.StringLiteral {
		return l.Text
	}
	return ""
}

// makesMoshi says whether a token Moshi begins Moshi.Builder().
func makesMoshi(f *jvm.File, i int) bool {
	return f.Is(i, "Moshi") && f.Is(i+1, ".") && f.Is(i+2, "Builder")
}

// isAdapterOf says whether a token is a call that makes an adapter: moshi.adapter<Port>(), moshi.adapter(Port.class).
func isAdapterOf(f *jvm.File, i int) bool {
	return f.Is(i, "adapter") && f.Is(i-1, ".") && (f.Is(i+1, "(") || f.Is(i+1, "<")) && f.ImportsFrom("com.squareup.moshi")
}

// adapterGiven are functions by which adapters, deserializers and serializers read, with what tells by its type among the
// parameters that they are those of a library.
var adapterGiven = map[string][]string{
	"create": {"JsonReader", "Moshi"}, "fromJson": {"JsonReader", "Moshi"}, "read": {"JsonReader"},
	"deserialize":          {"JsonDeserializationContext", "JsonParser", "DeserializationContext", "Decoder"},
	"transformDeserialize": {"JsonElement"}, "selectDeserializer": {"JsonElement"},
}

// inAdapter says whether a token is in a function of an adapter's, or of a factory's: what that asks other adapters for
// is a part of what the app decodes. Their classes may be without a name.
func inAdapter(f *jvm.File, i int) bool {
	for i--; i > 0; i-- {
		switch {
		case f.Is(i, "}") && f.Partner(i) < i:
			i = f.Partner(i)
		case !f.Is(i, "{"):
		case f.Is(i-1, "Factory"): // JsonAdapter.Factory { type, annotations, moshi -> … }
			return true
		default:
			open := headOf(f, i)
			if open == 0 {
				continue
			}
			given := adapterGiven[f.Word(open-1)]
			for k := open; k < f.Partner(open); k++ {
				if slices.Contains(given, f.TokenAt(k).Text) {
					return true
				}
			}
		}
	}
	return false
}

// headOf is the bracket of the parameters of the function whose body a brace opens, 0 where it opens something else.
func headOf(f *jvm.File, brace int) int {
	for k := brace - 1; k > max(0, brace-24); k-- {
		switch {
		case f.Is(k, ")"):
			return max(0, f.Partner(k))
		case f.Is(k, "{"), f.Is(k, "}"), f.Is(k, ";"):
			return 0
		}
	}
	return 0
}

// moshiCall finishes a call that makes an adapter: what the adapter, and what reads with it, is set to; and whether
// all that reads with it drops the errors.
func moshiCall(p *jvm.Project, f *jvm.File, call *model.Call, at int, caught func(int) *jvm.Drop) {
	c := &scan.Cursor{F: f.File, I: at + 1}
	if c.Is("<") {
		jvm.SkipAngles(c)
	}
	root := model.RootSaid{}
	own := map[string]model.Option{}
	set := func(key, value string, i int) { own[key] = model.Option{Value: value, Pos: f.Where(i)} }
	if c.Is("(") {
		args := spans(f.File, c.I, c.Shut())
		root.NotNull = len(args) == 0 // moshi.adapter<Port>(), of Kotlin
		if len(args) > 1 {
			if text := strings.TrimSpace(f.Text(args[1].from, args[1].to)); strings.Contains(text, "class") {
				root.Qualifier = strings.FieldsFunc(text, func(r rune) bool { return r == ':' || r == '.' })[0]
			}
		}
		c.Jump()
	}
	read := false
	for c.Is(".") && c.KindAhead(1) == scan.Ident {
		switch word := c.At(1).Text; word {
		case "lenient", "failOnUnknown", "nonNull":
			set(word, "true", c.I+1)
		case "fromJson":
			read = true
			dropped(p, f, call, caught(c.I+1))
		}
		c.I += 2
		if c.Is("(") {
			c.Jump()
		}
	}
	if names := namesBefore(f, chainStart(f, at)); !read && len(names) > 0 {
		uses, drops := 0, 0
		var last *jvm.Drop
		for _, hit := range f.Hits {
			if i := int(hit); f.Is(i, "fromJson") && f.Is(i-1, ".") && slices.Contains(names, f.Word(i-2)) {
				if uses++; caught(i) != nil {
					last = caught(i)
					drops++
				}
			}
		}
		if uses > 0 && uses == drops {
			dropped(p, f, call, last)
		}
	}
	call.Settings = withOptions(call.Settings, own)
	if root != (model.RootSaid{}) && call.Settings != nil {
		said := *call.Settings
		said.Root = root
		call.Settings = &said
	}
}

// chainStart is the token that the chain begins with which a call stands in.
func chainStart(f *jvm.File, call int) int {
	start := call
	for at := range links(f, call) {
		start = at
	}
	return start
}

// qualifiers are the annotations that a project declares as @JsonQualifier, found once.
func qualifiers(p *jvm.Project) (names []string) {
	var visit func(c *jvm.Class)
	visit = func(c *jvm.Class) {
		if c.Kind == "annotation" && c.Marks.Find("JsonQualifier") != nil {
			names = append(names, c.Name)
		}
		for _, n := range c.Nested {
			visit(n)
		}
	}
	for _, f := range p.Files {
		if strings.Contains(f.Src, "JsonQualifier") {
			for _, c := range f.Classes {
				visit(c)
			}
		}
	}
	return names
}

// adapterAt is the type of the adapter that a call of fromJson is made on, where that is declared as one:
// adapter: JsonAdapter<Port>; nil where it is not, or where a call that makes it says so.
func adapterAt(p *jvm.Project, f *jvm.File, call int) (*model.Type, string) {
	if !f.Is(call-1, ".") {
		return nil, ""
	}
	name := f.Word(call - 2)
	if f.Is(call-2, ")") || name == "" || f.Language != "kotlin" && f.Language != "java" {
		return nil, ""
	}
	for k := 1; k < f.Len()-3; k++ {
		at := 0
		switch {
		case f.Word(k) != name:
		case f.Is(k+1, ":") && f.Is(k+2, "JsonAdapter") && f.Is(k+3, "<"): // adapter: JsonAdapter<Port>
			at = k + 4
		case f.Is(k-1, ">"): // JsonAdapter<Port> adapter
			if open := opening(f, k-1); open > 0 && f.Is(open-1, "JsonAdapter") {
				at = open + 1
			}
		}
		if at == 0 {
			continue
		}
		for i := k; i < min(k+60, f.Len()); i++ { // made there, which is a call of its own
			if isAdapterOf(f, i) {
				return nil, ""
			}
		}
		return typeAt(p, f, at)
	}
	return nil, ""
}
