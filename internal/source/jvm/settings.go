package jvm

import (
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// builders are what code makes a library's decoder with.
var builders = map[string]string{"Gson": "gson", "GsonBuilder": "gson", "ObjectMapper": "jackson", "JsonMapper": "jackson", "jacksonObjectMapper": "jackson"}

// built is a decoder that source makes: its settings, and what it is called.
type built struct {
	file     *File
	at       int // token
	names    []string
	settings *model.Settings
}

// calls finds the decoders that source builds and where it decodes with them. It does
// not follow the flow of values: a name in the same file wins, then one that the
// project has once, then the only decoder of the library.
func (p *project) calls() []*model.Call {
	all := &decoders{byFile: map[*File][]*built{}, byName: map[string][]*built{}, byLibrary: map[string][]*built{}}
	for _, f := range p.files {
		all.add(p.builtIn(f))
	}
	var calls []*model.Call
	for _, f := range p.files {
		calls = append(calls, p.callsIn(f, all)...)
	}
	// A decoder that no call could be found for still tells how the project decodes.
	used := map[*model.Settings]bool{}
	for _, c := range calls {
		used[c.Settings] = true
	}
	for _, b := range all.all {
		if !used[b.settings] {
			calls = append(calls, &model.Call{Pos: b.settings.Pos, Settings: b.settings, Language: b.file.Language})
		}
	}
	return calls
}

// decoders are those that a project builds.
type decoders struct {
	all       []*built
	byFile    map[*File][]*built
	byName    map[string][]*built // by library and name
	byLibrary map[string][]*built
	converter *model.Settings // of the HTTP client, once it has been looked for
	looked    bool
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

// BodyWords are what the bodies of methods are read for: decoders that they build, what
// they set on them, and where they decode.
var BodyWords = scan.NewWords(
	"Gson GsonBuilder ObjectMapper JsonMapper jacksonObjectMapper GsonConverterFactory JacksonConverterFactory",
	"fromJson readValue treeToValue convertValue readerFor TypeToken TypeReference typeOf jacksonTypeRef",
	"JSONObject JSONArray create build apply also with",
	"setFieldNamingPolicy setPropertyNamingStrategy propertyNamingStrategy setFieldNamingStrategy fieldNamingPolicy fieldNamingStrategy",
	"excludeFieldsWithoutExposeAnnotation excludeFieldsWithModifiers setDateFormat dateFormat disableJdkUnsafe",
	"registerTypeAdapter registerTypeHierarchyAdapter registerTypeAdapterFactory addDeserializer setAnnotationIntrospector annotationIntrospector",
	"setExclusionStrategies exclusionStrategies addDeserializationExclusionStrategy setVisibility visibility",
	"findAndRegisterModules findAndAddModules registerModule registerModules registerKotlinModule addModule",
	"setNumberToNumberStrategy numberToNumberStrategy setObjectToNumberStrategy objectToNumberStrategy setVersion version",
	"enableComplexMapKeySerialization enable disable configure",
	"setDefaultSetterInfo defaultSetterInfo setDefaultPropertyInclusion defaultPropertyInclusion configOverride activateDefaultTyping setMixInAnnotation addMixIn",
)

// ReadsByHand says whether a file may read parsed objects by code of its own.
func ReadsByHand(file scan.Source) bool {
	return strings.Contains(file.Text, "JSONObject") || strings.Contains(file.Text, "JSONArray")
}

// Settle gives up the tokens of a file that has nothing to say but what it declares.
func (f *File) Settle() {
	for _, i := range f.Hits {
		switch word := f.Word(int(i)); {
		case builders[word] != "", decoding[word] != "", word == "JSONObject", word == "JSONArray", strings.HasSuffix(word, "ConverterFactory"):
			f.Trim()
			return
		}
	}
	f.Free()
}

// builtIn finds the decoders that a file makes.
func (p *project) builtIn(f *File) (all []*built) {
	byName := map[string]*built{}
	for _, hit := range f.Hits {
		i := int(hit)
		t, next := f.TokenAt(i), f.TokenAt(i+1)
		library := builders[t.Text]
		isBuilder := t.Text == "JsonMapper" && next.Is(".")
		if library == "" || !next.Is("(") && !isBuilder || i > 0 && (f.Is(i-1, "class") || f.Is(i-1, ".") || f.Is(i-1, "fun")) {
			continue
		}
		b := &built{file: f, at: i, settings: &model.Settings{Library: library, Pos: f.Where(i), Options: map[string]model.Option{}}}
		c := &scan.Cursor{F: f.File, I: i + 1}
		if !isBuilder {
			c.Jump()
		}
		b.chain(c)
		b.names = namesBefore(f, i)
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

// namesBefore are the names that the expression at a token is assigned to, or that
// yield it: Gson gson = …, val gson: Gson by lazy { … }, fun gson() = …, return … in a
// method.
func namesBefore(f *File, at int) (names []string) {
	i := at - 1
	for i > 0 && (f.Is(i, "new") || f.Is(i, "{") && (f.Is(i-1, "lazy") || f.Is(i-1, ")")) || f.Is(i, "lazy") || f.Is(i, "by")) {
		i--
	}
	switch {
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
		if !c.Is("(") {
			if c.Is("=") && !c.Ahead(1, "=") { // mapper.propertyNamingStrategy = …
				start := c.I + 1
				for c.Kind() != scan.EOF && !c.Is(";") && !(c.I > start && c.Tok().Newline) {
					c.Jump()
				}
				b.set("set"+strings.ToUpper(name[:1])+name[1:], []string{c.F.Text(start, c.I)}, []*model.Literal{Literal(c.F, start, c.I)}, pos)
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
		c.Advance()
		texts, literals := arguments(c, end)
		c.I = end
		c.Advance()
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
			name, pos := c.Tok().Text, c.F.Where(c.I)
			c.Advance()
			shut := c.Shut()
			c.Advance()
			texts, literals := arguments(c, shut)
			c.I = shut
			b.set(name, texts, literals, pos)
		} else if c.Kind() == scan.Ident && c.Ahead(1, "=") && !c.Ahead(2, "=") {
			name, pos := c.Tok().Text, c.F.Where(c.I)
			start := c.I + 2
			k := start
			for k < end && !(k > start && c.F.TokenAt(k).Newline) && !c.F.Is(k, ";") {
				k++
			}
			b.set("set"+strings.ToUpper(name[:1])+name[1:], []string{c.F.Text(start, k)}, []*model.Literal{Literal(c.F, start, k)}, pos)
			c.I = k - 1
		}
	}
	c.I = end
	c.Advance()
}

func arguments(c *scan.Cursor, end int) (texts []string, literals []*model.Literal) {
	for c.I < end {
		start := c.I
		for c.I < end && !c.Is(",") {
			c.Jump()
		}
		texts = append(texts, c.F.Text(start, c.I))
		literals = append(literals, Literal(c.F, start, c.I))
		c.Accept(",")
	}
	return texts, literals
}

// last is the last name of a path: FieldNamingPolicy.IDENTITY is IDENTITY.
func last(path string) string { return path[strings.LastIndexByte(path, '.')+1:] }

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
		value := last(strings.TrimSuffix(strings.TrimSuffix(first, ".INSTANCE"), "()"))
		value = strings.TrimSuffix(strings.TrimSuffix(value, "Strategy"), "_STRATEGY")
		option("naming", value)
	case "setFieldNamingStrategy":
		if strings.Contains(first, "FieldNamingPolicy.") && !strings.Contains(first, "(") {
			option("naming", last(first))
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
		typ := strings.TrimSuffix(strings.TrimSuffix(strings.TrimSuffix(first, ".class"), "::class.java"), ".TYPE")
		option("adapter."+last(typ), "custom")
	case "registerTypeAdapterFactory", "addDeserializer", "setExclusionStrategies", "addDeserializationExclusionStrategy", "setAnnotationIntrospector":
		option(name, first)
	case "excludeFieldsWithModifiers":
		var words []string
		for _, text := range texts {
			words = append(words, strings.ToLower(last(text)))
		}
		option("excluded", strings.Join(words, " "))
	case "disableJdkUnsafe":
		option("unsafe", "false")
	case "setVisibility", "visibility":
		if len(texts) == 2 {
			option("visibility."+last(texts[0]), last(texts[1]))
		} else {
			option("setVisibility", first)
		}
	case "findAndRegisterModules", "findAndAddModules":
		option("module.all", "true")
	case "registerModule", "registerModules", "registerKotlinModule", "addModule":
		option("module."+strings.TrimSuffix(strings.TrimPrefix(last(first), "new "), "()"), "true")
	case "setNumberToNumberStrategy", "setObjectToNumberStrategy":
		option(name, last(first))
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
			option(last(text), value)
		}
	case "configure":
		if len(texts) == 2 {
			option(last(first), texts[1])
		}
	case "setDefaultSetterInfo", "setDefaultPropertyInclusion", "configOverride", "activateDefaultTyping", "setMixInAnnotation", "addMixIn":
		option(name, first)
	}
}

// decoding are the methods that decode, and which of their arguments names the type.
var decoding = map[string]string{"fromJson": "gson", "readValue": "jackson", "treeToValue": "jackson", "convertValue": "jackson", "readerFor": "jackson"}

// callsIn finds where a file decodes: calls of a library's methods, and requests that
// an interface declares.
func (p *project) callsIn(f *File, all *decoders) (calls []*model.Call) {
	var swallowed map[int]bool
	for _, hit := range f.Hits {
		i := int(hit)
		library := decoding[f.TokenAt(i).Text]
		if library == "" || i == 0 || f.Is(i-1, "fun") {
			continue
		}
		if swallowed == nil {
			swallowed = caught(f)
		}
		if !f.Is(i-1, ".") {
			continue
		}
		c := &scan.Cursor{F: f.File, I: i + 1}
		var typ *model.Type
		declared := ""
		if c.Is("<") { // fromJson<Port>(…)
			typ, declared = p.typeAt(f, c.I+1)
			skipAngles(c)
		}
		if !c.Is("(") {
			continue
		}
		if named, text := p.typeArgument(f, c); named != nil {
			typ, declared = named, text
		}
		call := &model.Call{Pos: f.Where(i), Language: f.Language, Swallowed: swallowed[i]}
		if typ != nil && !onlyParams(p, f, i, typ) {
			call.Type, call.Declared = typ, declared
		}
		call.Settings = settingsAt(f, i, library, all)
		if call.Type == nil && call.Settings == nil {
			continue
		}
		calls = append(calls, call)
	}
	for _, c := range f.Classes {
		calls = append(calls, p.requests(c, all)...)
	}
	return append(calls, p.byHandIn(f)...)
}

// byHandIn finds where a file hands a parsed text to a class that reads it by hand:
// Sailing.of(new JSONObject(text)), Sailing(JSONObject(text)).
func (p *project) byHandIn(f *File) (calls []*model.Call) {
	for _, hit := range f.Hits {
		i := int(hit)
		if !f.Is(i, "JSONObject") || !f.Is(i+1, "(") {
			continue
		}
		at := i - 1
		if at > 0 && f.Is(at, "new") {
			at--
		}
		if at < 1 || !f.Is(at, "(") {
			continue
		}
		start := at - 1
		for start >= 2 && f.Is(start-1, ".") {
			start -= 2
		}
		for end := at - 1; end >= start; end -= 2 {
			class := p.find(f, p.classAt(f, i), strings.ReplaceAll(f.Text(start, end+1), " ", ""))
			if class == nil || class.model == nil || byHand(class) == nil {
				continue
			}
			m := class.model
			calls = append(calls, &model.Call{
				Pos: f.Where(start), Language: f.Language, Declared: m.Name, Type: &model.Type{Kind: model.Named, Name: m.Name, Model: m, Pos: f.Where(start)},
				Settings: &model.Settings{Library: "orgjson", Pos: f.Where(i), Options: map[string]model.Option{}},
			})
			break
		}
	}
	return calls
}

// onlyParams says whether a type names a type parameter of the function around it: it
// is a single capital letter, or a name that nothing declares between angle brackets.
func onlyParams(p *project, f *File, at int, t *model.Type) bool {
	u := t.Unwrapped()
	return u.Kind == model.Named && u.Model == nil && len(u.Args) == 0 && len(u.Name) == 1
}

// typeArgument is the type that the arguments of a call name: Port.class,
// Port::class.java, new TypeToken<List<Port>>() {}.getType(), object : TypeReference<…>() {}.
func (p *project) typeArgument(f *File, c *scan.Cursor) (*model.Type, string) {
	end := c.Shut()
	for i := c.I + 1; i < end; i++ {
		t := f.TokenAt(i)
		if (t.Text == "TypeToken" || t.Text == "TypeReference" || t.Text == "typeOf" || t.Text == "jacksonTypeRef") && t.Kind == scan.Ident && f.Is(i+1, "<") {
			return p.typeAt(f, i+2)
		}
		isClass := t.Is("class") && i > 1 && (f.Is(i-1, ".") || f.Is(i-1, ":"))
		if !isClass {
			continue
		}
		start := i - 1
		for start > c.I+1 && f.Is(start, ":") {
			start--
		}
		if f.Is(i-1, ".") {
			start = i - 2
		}
		for start > c.I+1 && (f.Is(start, "]") || f.Is(start, "[")) {
			start--
		}
		for start-2 > c.I && f.Is(start-1, ".") && f.TokenAt(start-2).Kind == scan.Ident {
			start -= 2
		}
		return p.typeAt(f, start)
	}
	// A variable that was given the type: Type t = new TypeToken<…>() {}.getType().
	for i := end - 1; i > c.I; i-- {
		if name := f.TokenAt(i); name.Kind == scan.Ident && (f.Is(i-1, ",") || f.Is(i-1, "(")) && i == end-1 {
			for k := 1; k < f.Len()-3; k++ {
				if f.TokenAt(k).Text == name.Text && f.Is(k+1, "=") {
					for n := k + 2; n < min(k+8, f.Len()); n++ {
						if (f.TokenAt(n).Text == "TypeToken" || f.TokenAt(n).Text == "TypeReference") && f.Is(n+1, "<") {
							return p.typeAt(f, n+2)
						}
					}
				}
			}
		}
	}
	return nil, ""
}

// typeAt reads the type that stands at a token and finds what it names.
func (p *project) typeAt(f *File, at int) (*model.Type, string) {
	if f.parse == nil {
		return nil, ""
	}
	t, end := f.parse(at)
	if t == nil {
		return nil, ""
	}
	p.resolve(f, p.classAt(f, at), nil, t)
	return t, f.Text(at, end)
}

// classAt is the innermost class around a token.
func (p *project) classAt(f *File, at int) *Class {
	var found *Class
	var visit func(all []*Class)
	visit = func(all []*Class) {
		for _, c := range all {
			if c.Body[0] <= at && at < c.Body[1] {
				found = c
				visit(c.Nested)
			}
		}
	}
	visit(f.Classes)
	return found
}

// settingsAt are those of the decoder that a call's receiver names.
func settingsAt(f *File, call int, library string, all *decoders) *model.Settings {
	name := ""
	if i := call - 2; i >= 0 {
		if f.Is(i, ")") { // gson().fromJson, new Gson().fromJson
			i = f.Partner(i) - 1
		}
		for i >= 0 && (f.Is(i, "?") || f.Is(i, "!")) {
			i--
		}
		if i >= 0 && f.TokenAt(i).Kind == scan.Ident {
			name = f.TokenAt(i).Text
		}
		if builders[name] != "" || name == "create" {
			var nearest *built
			for _, b := range all.byFile[f] {
				if b.at < call && (nearest == nil || b.at > nearest.at) {
					nearest = b
				}
			}
			if nearest != nil {
				return nearest.settings
			}
		}
	}
	var same []*built
	for _, b := range all.byFile[f] {
		if b.settings.Library == library && slices.Contains(b.names, name) {
			same = append(same, b)
		}
	}
	elsewhere, only := all.byName[library+" "+name], all.byLibrary[library]
	switch {
	case len(same) > 0:
		for i := len(same) - 1; i >= 0; i-- { // the last one before the call
			if same[i].at < call {
				return same[i].settings
			}
		}
		return same[0].settings
	case len(elsewhere) == 1:
		return elsewhere[0].settings
	case len(only) == 1:
		return only[0].settings
	}
	return &model.Settings{Library: library, Pos: f.Where(call)}
}

// caught marks the tokens in a try block whose catch is empty or gives nothing.
func caught(f *File) map[int]bool {
	marked := map[int]bool{}
	for i := range f.Len() {
		if !f.Is(i, "try") {
			continue
		}
		c := &scan.Cursor{F: f.File, I: i + 1}
		if c.Is("(") {
			c.Jump()
		}
		if !c.Is("{") {
			continue
		}
		from, to := c.I, c.Shut()
		c.Jump()
		dropped := false
		for c.Is("catch") && c.Ahead(1, "(") {
			c.Advance()
			c.Jump()
			if !c.Is("{") {
				break
			}
			end := c.Shut()
			body := f.Text(c.I+1, end)
			dropped = dropped || !strings.Contains(body, "throw") && !strings.Contains(body, "rror") && !strings.Contains(body, "ail")
			c.I = end
			c.Advance()
		}
		for k := from; dropped && k < to; k++ {
			marked[k] = true
		}
	}
	return marked
}

// verbs are the annotations of a request in a service interface.
var verbs = map[string]bool{"GET": true, "POST": true, "PUT": true, "PATCH": true, "DELETE": true, "HTTP": true}

// wrappers are the types around what a request yields.
var wrappers = map[string]bool{
	"Call": true, "Response": true, "Single": true, "Observable": true, "Flowable": true, "Maybe": true, "Flow": true, "Deferred": true, "CompletableFuture": true, "Result": true,
}

// requests are the calls that a service interface declares.
func (p *project) requests(c *Class, all *decoders) (calls []*model.Call) {
	for _, m := range c.Methods {
		for _, a := range m.Marks {
			if !verbs[a.Name] || m.Returns == nil {
				continue
			}
			t, declared := m.Returns, m.Declared
			for wrappers[last(t.Name)] && t.Model == nil && len(t.Args) == 1 {
				t = t.Args[0]
				declared = strings.TrimSpace(declared[strings.IndexByte(declared, '<')+1 : max(strings.LastIndexByte(declared, '>'), strings.IndexByte(declared, '<')+1)])
			}
			if t.Kind == model.Named && (t.Name == "Void" || t.Name == "Unit" || t.Name == "ResponseBody" || strings.HasSuffix(t.Name, ".ResponseBody")) {
				continue
			}
			call := &model.Call{Pos: m.Pos, Language: c.File.Language, Type: t, Declared: declared, Endpoint: a.Text("value", a.Text("path", ""))}
			call.Settings = p.converter(all)
			calls = append(calls, call)
		}
	}
	for _, n := range c.Nested {
		calls = append(calls, p.requests(n, all)...)
	}
	return calls
}

// converter are the settings of the decoder that the HTTP client is given.
func (p *project) converter(all *decoders) *model.Settings {
	if !all.looked {
		all.converter, all.looked = p.findConverter(all), true
	}
	return all.converter
}

func (p *project) findConverter(all *decoders) *model.Settings {
	for _, f := range p.files {
		if !strings.Contains(f.Src, "ConverterFactory") {
			continue
		}
		for _, hit := range f.Hits {
			i := int(hit)
			if !f.Is(i+1, ".") {
				continue
			}
			library := ""
			switch f.TokenAt(i).Text {
			case "GsonConverterFactory":
				library = "gson"
			case "JacksonConverterFactory":
				library = "jackson"
			default:
				continue
			}
			if arg := f.TokenAt(i + 4); arg.Kind == scan.Ident {
				if named := all.byName[library+" "+arg.Text]; len(named) > 0 {
					return named[0].settings
				}
			}
			for _, b := range all.byFile[f] {
				if b.at > i && b.at <= f.Partner(i+3) {
					return b.settings
				}
			}
			return &model.Settings{Library: library, Pos: f.Where(i)}
		}
	}
	if len(all.all) > 0 {
		return all.all[0].settings
	}
	return nil
}
