package asks

import (
	"regexp"
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// built is a decoder that source makes: its settings, and what it is called.
type built struct {
	project  *jvm.Project
	file     *jvm.File
	at       int // token
	names    []string
	settings *model.Settings
}

// Calls finds the decoders that source builds and where it decodes with them. It does
// not follow the flow of values: a name in the same file wins, then one that the
// project has once, then the only decoder of the library. written are where it writes what a request sends.
func Calls(p *jvm.Project) (read, written []*model.Call) {
	all := &decoders{byFile: map[*jvm.File][]*built{}, byName: map[string][]*built{}, byLibrary: map[string][]*built{}, readers: map[*model.Call]reader{}, requests: map[*jvm.File]map[int32]bool{}, adapted: map[*model.Model]bool{}, rooted: map[*model.Settings]bool{}}
	for _, f := range p.Files {
		all.add(builtIn(p, f))
	}
	var calls []*model.Call
	for _, f := range p.Files {
		calls = append(calls, callsIn(p, f, all)...)
	}
	parts(p, calls)
	calls = append(calls, ktorCalls(p, all)...)
	calls = append(calls, followed(p, calls, all)...)
	written = sends(p, all)
	writes := map[model.Pos]bool{}
	for _, c := range written {
		if c.Settings != nil {
			writes[c.Settings.Pos] = true
		}
	}
	// A decoder that no call could be found for still tells how the project decodes, unless it is there to write.
	used, copied := map[*model.Settings]bool{}, map[model.Pos]bool{}
	for _, c := range calls {
		if used[c.Settings] = true; c.Settings != nil {
			copied[c.Settings.Pos] = true // by where it is made: a call may set something for itself
		}
	}
	for _, b := range all.all {
		if !used[b.settings] && !all.rooted[b.settings] && !writes[b.settings.Pos] {
			calls = append(calls, &model.Call{Pos: b.settings.Pos, Settings: b.settings, Language: b.file.Language, Copied: copied[b.settings.Pos]})
		}
	}
	if names := qualifiers(p); len(names) > 0 {
		for _, c := range slices.Concat(calls, written) {
			if c.Settings != nil && c.Settings.Library == "moshi" {
				c.Settings.Qualifiers = names
			}
		}
	}
	return calls, written
}

// decoders are those that a project builds.
type decoders struct {
	all        []*built
	rooted     map[*model.Settings]bool // those that a call uses with something said of the root alone
	byFile     map[*jvm.File][]*built
	byName     map[string][]*built // by library and name
	byLibrary  map[string][]*built
	readers    map[*model.Call]reader
	requests   map[*jvm.File]map[int32]bool // the lines on which files declare requests, as far as they were asked
	adapted    map[*model.Model]bool        // see adapts, as far as it was asked
	converters []*converter                 // of HTTP clients, once they have been looked for
	looked     bool
}

// reader is what a call decodes with that sets something for itself: over the settings of a decoder.
type reader struct {
	of  *model.Settings
	own map[string]model.Option
}

func (d *decoders) add(found []*built) {
	for _, b := range found {
		d.all = append(d.all, b)
		d.byFile[b.file] = append(d.byFile[b.file], b)
		d.byLibrary[b.settings.Library] = append(d.byLibrary[b.settings.Library], b)
		for _, n := range b.names {
			d.byName[b.settings.Library+" "+n] = append(d.byName[b.settings.Library+" "+n], b)
		}
	}
}

// builtIn finds the decoders that a file makes.
func builtIn(p *jvm.Project, f *jvm.File) (all []*built) {
	byName := map[string]*built{}
	for _, i := range buildersIn(f) {
		t, next := f.TokenAt(i), f.TokenAt(i+1)
		library := builderOf(f, t.Text)
		isBuilder := t.Text == "JsonMapper" && next.Is(".")
		isJson := library == jvm.Kotlinx
		if library == "moshi" && !makesMoshi(f, i) {
			continue
		}
		isBuilder = isBuilder || library == "moshi"
		if library == "" || !next.Is("(") && !isBuilder && !(isJson && next.Is("{")) || isJson && !makesJson(f, i) {
			continue
		}
		start := i
		for start > 1 && f.Is(start-1, ".") && f.KindAt(start-2) == scan.Ident {
			start -= 2
		}
		of := f.Joined(start, i)
		if of != "" && !strings.HasPrefix(of, "com.google.gson.") && !strings.HasPrefix(of, "com.fasterxml.jackson.") && of != "kotlinx.serialization.json." && of != "com.squareup.moshi." || f.Is(start-1, "class") || f.Is(start-1, ".") || f.Is(start-1, "fun") {
			continue
		}
		b := &built{project: p, file: f, at: i, settings: &model.Settings{Library: library, Pos: f.Where(i), Options: map[string]model.Option{}}}
		if t.Text == "jacksonObjectMapper" || t.Text == "jacksonMapperBuilder" {
			b.settings.Options["module.KotlinModule"] = model.Option{Value: "true", Pos: f.Where(i)}
		}
		if library == "moshi" {
			b.settings.Options["KotlinJsonAdapterFactory"] = model.Option{Value: "false", Pos: f.Where(i)}
		}
		c := &scan.Cursor{F: f.File, I: i + 1}
		switch {
		case isJson:
			b.json(c, byName)
		case isBuilder:
			b.chain(c)
		default:
			c.Jump()
			b.chain(c)
		}
		b.names = namesBefore(f, start)
		for _, n := range b.names {
			byName[n] = b
		}
		all = append(all, b)
	}
	if len(all) == 0 {
		return nil
	}
	// gson.setX(…) on a line of its own, and Gson g = builder.create().
	for i := range f.Len() {
		if f.KindAt(i) != scan.Ident || !f.Is(i+1, ".") {
			continue
		}
		b := byName[f.TokenAt(i).Text]
		if b == nil || i <= b.at || i > 0 && f.Is(i-1, ".") && !f.Is(i-2, "this") {
			continue
		}
		c := &scan.Cursor{F: f.File, I: i + 1}
		b.chain(c)
		if c.Ahead(-1, ")") || f.Is(i+2, "create") || f.Is(i+2, "build") {
			if word := f.TokenAt(i + 2).Text; word == "create" || word == "build" {
				for _, n := range namesBefore(f, i) {
					b.names = append(b.names, n)
					byName[n] = b
				}
			}
		}
	}
	return all
}

// buildersIn are the tokens of a file at which a decoder may be made: where one of the words stands, or a name that
// an import gives one of them.
func buildersIn(f *jvm.File) (at []int) {
	renamed := map[string]bool{}
	for _, i := range f.Imports {
		if i.As != i.Name && jvm.Builders[i.Name] != "" {
			renamed[i.As] = true
		}
	}
	if len(renamed) > 0 {
		for i := range f.Len() {
			if renamed[f.Word(i)] || jvm.Builders[f.Word(i)] != "" {
				at = append(at, i)
			}
		}
		return at
	}
	for _, hit := range f.Hits {
		at = append(at, int(hit))
	}
	return at
}

// builderOf is the library whose decoder a word makes, by its own name or that of an import.
func builderOf(f *jvm.File, word string) string {
	for _, i := range f.Imports {
		if i.As == word && i.As != i.Name {
			return jvm.Builders[i.Name]
		}
	}
	return jvm.Builders[word]
}

// provides is the word before a block by which a container provides what it makes: single { … },
// factory<Gson> { … }; "" for none.
func provides(f *jvm.File, open int) string {
	i := open - 1
	if f.Is(i, ">") {
		i = opening(f, i) - 1
	}
	switch word := f.Word(max(0, i)); word {
	case "single", "factory", "scoped", "singleton", "bindSingleton":
		return word
	}
	return ""
}

// namesBefore are the names that the expression at a token is assigned to, or that
// yield it: Gson gson = …, val gson: Gson by lazy { … }, fun gson() = …, return … in a
// method.
func namesBefore(f *jvm.File, at int) (names []string) {
	i := at - 1
	for i > 0 && (f.Is(i, "new") || f.Is(i, "{") && (f.Is(i-1, "lazy") || f.Is(i-1, ")")) || f.Is(i, "lazy") || f.Is(i, "by")) {
		i--
	}
	switch {
	case f.Is(i, "{") && provides(f, i) != "":
		names = append(names, provides(f, i))
	case f.Is(i, "=") && i > 0:
		i--
		for k := i; k > max(0, i-12); k-- { // over a declared type or a parameter list
			if f.Is(k, "val") || f.Is(k, "var") || f.Is(k, "fun") {
				return append(names, f.TokenAt(k+1).Text)
			}
			if f.Is(k, ";") || f.Is(k, "{") || f.Is(k, "}") {
				break
			}
		}
		if f.TokenAt(i).Kind == scan.Ident {
			names = append(names, f.TokenAt(i).Text)
		}
	case f.Is(i, "return"):
		depth := 0
		for k := i; k > 0; k-- { // the method around it
			if f.Is(k, "}") {
				depth++
			}
			if f.Is(k, "{") {
				if depth--; depth < 0 {
					for k--; k > 0 && !f.Is(k, "("); k-- {
					}
					if k > 0 {
						names = append(names, f.TokenAt(k-1).Text)
					}
					break
				}
			}
		}
	case f.TokenAt(i-1).Kind == scan.Ident && (f.Is(i-2, "val") || f.Is(i-2, "var")):
		names = append(names, f.TokenAt(i-1).Text)
	case f.TokenAt(i).Kind == scan.Ident:
		for k := i; k > max(0, i-8); k-- {
			if f.Is(k, "val") || f.Is(k, "var") {
				return append(names, f.TokenAt(k+1).Text)
			}
		}
	}
	return names
}

// chain reads calls behind one another, .a(x).b(y), and what they set.
func (b *built) chain(c *scan.Cursor) {
	for c.Is(".") && c.KindAhead(1) == scan.Ident {
		name, pos := c.At(1).Text, c.F.Where(c.I+1)
		c.I += 2
		var types []string
		if c.Is("<") { // addMixIn<Port, PortMixIn>()
			types = typeArguments(c)
		}
		if !c.Is("(") {
			if c.Is("=") && !c.Ahead(1, "=") { // mapper.propertyNamingStrategy = …
				start := c.I + 1
				for c.Kind() != scan.EOF && !c.Is(";") && !(c.I > start && c.Newline()) {
					c.Jump()
				}
				b.set("set"+strings.ToUpper(name[:1])+name[1:], []string{c.F.Text(start, c.I)}, []*model.Literal{jvm.Literal(c.F, start, c.I)}, pos)
				return
			}
			if name == "apply" || name == "also" {
				if c.Is("{") {
					b.block(c, c.Shut())
				}
			}
			continue
		}
		end := c.Shut()
		if b.settings.Library == "moshi" {
			if name == "add" || name == "addLast" || name == "addAdapter" {
				b.adds(c.F, c.I, end, pos)
			}
			c.Jump()
			continue
		}
		c.Advance()
		texts, literals := arguments(c, end)
		c.I = end
		c.Advance()
		if len(texts) == 0 {
			texts = types
		}
		b.set(name, texts, literals, pos)
	}
	if (c.Is("{")) && c.Ahead(-1, ")") { // new ObjectMapper() {{ … }}
		b.block(c, c.Shut())
	}
}

// block reads calls that stand in a block without a receiver: apply { setX() }.
func (b *built) block(c *scan.Cursor, end int) {
	for ; c.I < end; c.Advance() {
		if c.Kind() == scan.Ident && c.Ahead(1, "(") && !c.Ahead(-1, ".") {
			name, pos := c.Text(), c.Where()
			c.Advance()
			shut := c.Shut()
			if b.settings.Library == "moshi" && (name == "add" || name == "addLast") {
				b.adds(c.F, c.I, shut, pos)
				c.I = shut
				continue
			}
			c.Advance()
			texts, literals := arguments(c, shut)
			c.I = shut
			b.set(name, texts, literals, pos)
		} else if c.Kind() == scan.Ident && c.Ahead(1, "=") && !c.Ahead(2, "=") {
			name, pos := c.Text(), c.Where()
			start := c.I + 2
			k := start
			for k < end && !(k > start && c.F.TokenAt(k).Newline) && !c.F.Is(k, ";") {
				k++
			}
			b.set("set"+strings.ToUpper(name[:1])+name[1:], []string{c.F.Text(start, k)}, []*model.Literal{jvm.Literal(c.F, start, k)}, pos)
			c.I = k - 1
		}
	}
	c.I = end
	c.Advance()
}

// typeArguments are those between angle brackets, as they are written; the cursor is left behind them.
func typeArguments(c *scan.Cursor) (texts []string) {
	from, open := c.I, c.I
	jvm.SkipAngles(c)
	for i, depth := open, 0; i < c.I; i++ {
		switch {
		case c.F.Is(i, "<"):
			depth++
		case c.F.Is(i, ">"):
			depth--
		}
		if depth == 1 && c.F.Is(i, ",") || depth == 0 {
			texts = append(texts, c.F.Text(from+1, i))
			from = i
		}
	}
	return texts
}

func arguments(c *scan.Cursor, end int) (texts []string, literals []*model.Literal) {
	for c.I < end {
		start := c.I
		for c.I < end && !c.Is(",") {
			c.Jump()
		}
		texts = append(texts, c.F.Text(start, c.I))
		literals = append(literals, jvm.Literal(c.F, start, c.I))
		c.Accept(",")
	}
	return texts, literals
}

// zoneNamed is a time zone by its name: TimeZone.getTimeZone("Europe/London"), or that of ZoneId.of.
var zoneNamed = regexp.MustCompile(`(?:getTimeZone|ZoneId\.of|ZoneOffset\.of)\s*\(\s*"([^"]*)"\s*\)`)

// truth is what a text says that switches something on or off: true, Boolean.TRUE, or a
// constant; the text itself where that cannot be told.
func (b *built) truth(text string) string {
	switch jvm.Last(text) {
	case "true", "TRUE":
		return "true"
	case "false", "FALSE":
		return "false"
	}
	b.project.Asked = 0
	if l := b.project.Constant(b.file, b.project.ClassAt(b.file, b.at), text, jvm.MaxConstants); l != nil && l.Kind == model.BoolLiteral {
		return l.Text
	}
	return text
}

// set notes what a call sets on a decoder. What cannot be followed is named in an
// option of its own.
func (b *built) set(name string, texts []string, literals []*model.Literal, pos model.Pos) {
	option := func(key, value string) { b.settings.Options[key] = model.Option{Value: value, Pos: pos} }
	first := ""
	if len(texts) > 0 {
		first = texts[0]
	}
	switch name {
	case "setFieldNamingPolicy", "setPropertyNamingStrategy", "propertyNamingStrategy":
		value := jvm.Last(strings.TrimSuffix(strings.TrimSuffix(first, ".INSTANCE"), "()"))
		value = strings.TrimSuffix(strings.TrimSuffix(value, "Strategy"), "_STRATEGY")
		option("naming", value)
	case "setFieldNamingStrategy":
		if strings.Contains(first, "FieldNamingPolicy.") && !strings.Contains(first, "(") {
			option("naming", jvm.Last(first))
		} else {
			option("naming", "custom")
		}
	case "excludeFieldsWithoutExposeAnnotation":
		option("exposed", "true")
	case "setDateFormat":
		pattern := ""
		if len(literals) == 1 && literals[0].Kind == model.StringLiteral {
			pattern = literals[0].Text
		} else if at := strings.Index(first, `SimpleDateFormat("`); at >= 0 {
			pattern, _, _ = strings.Cut(first[at+len(`SimpleDateFormat("`):], `"`)
		}
		if pattern != "" {
			option("dates.pattern", pattern)
		} else {
			option("dates", "custom")
		}
	case "registerTypeAdapter", "registerTypeHierarchyAdapter":
		b.adapter(name, first, option)
		if class := made(texts[len(texts)-1]); name == "registerTypeAdapter" && len(texts) == 2 && class != "" {
			if in := b.project.ClassAt(b.file, b.at); b.project.Find(b.file, in, class) != nil {
				of := b.project.Find(b.file, in, class)
				if a := Serializer(b.project, of, class); a != nil && a.Code != nil && a.Of != nil {
					b.settings.Adapters = append(b.settings.Adapters, *a)
				}
			}
		}
	case "registerTypeAdapterFactory":
		if _, rest, ok := strings.Cut(first, "RuntimeTypeAdapterFactory.of("); ok {
			of, _, _ := strings.Cut(rest, ",")
			b.adapter("registerTypeAdapter", strings.TrimRight(of, ")"), option)
		} else {
			option("unfollowed", name)
		}
	case "addDeserializer", "setExclusionStrategies", "addDeserializationExclusionStrategy", "setAnnotationIntrospector":
		option(name, first)
	case "excludeFieldsWithModifiers":
		var words []string
		for _, text := range texts {
			words = append(words, strings.ToLower(jvm.Last(text)))
		}
		option("excluded", strings.Join(words, " "))
	case "disableJdkUnsafe":
		option("unsafe", "false")
	case "setVisibility", "visibility":
		if len(texts) == 2 {
			option("visibility."+jvm.Last(texts[0]), jvm.Last(texts[1]))
		} else {
			option("setVisibility", first)
		}
	case "findAndRegisterModules", "findAndAddModules":
		option("module.all", "true")
		if b.project.BuiltWith(b.file.Module, "jackson-datatype-jsr310") {
			option("module.JavaTimeModule", "true")
		}
	case "registerModule", "registerModules", "addModule", "addModules":
		b.modules(texts, pos)
	case "setNumberToNumberStrategy", "setObjectToNumberStrategy":
		option(name, jvm.Last(first))
	case "setVersion":
		option(name, first)
	case "enableComplexMapKeySerialization":
		option("complexKeys", "true")
	case "enable", "disable":
		value := "true"
		if name == "disable" {
			value = "false"
		}
		for _, text := range texts {
			option(jvm.Last(text), value)
		}
	case "configure":
		if len(texts) == 2 {
			option(jvm.Last(first), b.truth(texts[1]))
		}
	case "setDefaultPropertyInclusion":
		option(name, first)
	case "setTimeZone", "defaultTimeZone":
		if m := zoneNamed.FindStringSubmatch(first); m != nil && (m[1] == "UTC" || m[1] == "GMT") {
		} else if m != nil {
			option("dates.zone", m[1])
		} else if !strings.Contains(first, `"UTC"`) && !strings.Contains(first, `"GMT"`) {
			option("dates", "custom")
		}
	case "registerSubtypes":
		option(name, "true")
	case "addMixIn", "addMixInAnnotations":
		b.mixIn(texts, pos)
	case "serializeNulls":
		option("nulls", "written")
	case "setSerializationInclusion", "serializationInclusion":
		option("inclusion", jvm.Last(first))
	case "setLongSerializationPolicy":
		option("longs", jvm.Last(first))
	case "registerKotlinModule":
		option("module.KotlinModule", "true")
	default:
		if unfollowedSetUp[name] {
			option("unfollowed", name)
		}
	}
}
