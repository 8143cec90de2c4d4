// Package asks finds where code of Kotlin and Java asks a library to decode, which type, and how the decoder
// is set up: calls of Gson and Jackson, service interfaces with their converters, ktor.
package asks

import (
	"iter"
	"maps"
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/lower"
	"vetta/internal/source/scan"
)

// callsIn finds where a file decodes: calls of a library's methods, and requests that
// an interface declares.
func callsIn(p *jvm.Project, f *jvm.File, all *decoders) (calls []*model.Call) {
	var swallowed map[int]*jvm.Drop
	for _, hit := range f.Hits {
		i := int(hit)
		library := jvm.Decoding[f.TokenAt(i).Text]
		if library == "" || i == 0 || f.Is(i-1, "fun") || f.Is(i, "adapter") && !isAdapterOf(f, i) || inAdapter(f, i) {
			continue
		}
		explicit := -1
		if f.Is(i-1, ">") { // gson.<Port>fromJson(…)
			explicit = opening(f, i-1)
		}
		if !f.Is(i-1, ".") && (explicit < 1 || !f.Is(explicit-1, ".")) && !jvm.OfDecoder(f, i) {
			continue
		}
		if isOfOwnClass(p, f, i) {
			continue
		}
		maker, told := readerAt(f, i)
		if maker == "readerFor" { // which is a call of its own
			continue
		}
		if swallowed == nil {
			swallowed = jvm.Caught(f)
		}
		c := &scan.Cursor{F: f.File, I: i + 1}
		var typ *model.Type
		declared := ""
		if explicit > 0 {
			typ, declared = typeAt(p, f, explicit+1)
		}
		if c.Is("<") { // fromJson<Port>(…)
			typ, declared = typeAt(p, f, c.I+1)
			jvm.SkipAngles(c)
		}
		if !c.Is("(") {
			continue
		}
		if library == "moshi" && (typ == nil || isParameter(typ)) {
			if args := spans(f.File, c.I, c.Shut()); len(args) > 0 { // the others qualify it
				if named, text := typeNamed(p, f, &scan.Cursor{F: f.File, I: c.I}, args[0].to, false); named != nil {
					typ, declared = named, text
				} else if args[0].to == args[0].from+1 {
					if named, text := typeOfVariable(p, f, &scan.Cursor{F: f.File, I: c.I}, args[0].to); named != nil {
						typ, declared = named, text
					}
				}
			}
		} else if typ == nil || isParameter(typ) {
			if named, text := typeArgument(p, f, c); named != nil {
				typ, declared = named, text
			}
		}
		if typ == nil && maker != "" { // getAdapter(Port.class).fromJson(…)
			typ, declared = typeArgument(p, f, &scan.Cursor{F: f.File, I: told})
		}
		if library == jvm.Kotlinx && (typ == nil || isParameter(typ)) {
			if named, text := bySerializer(p, f, c.I+1, firstEnd(f, c.I)); named != nil {
				typ, declared = named, text
			}
		}
		if typ == nil && (library == "jackson" || library == jvm.Kotlinx) && f.Language == "kotlin" {
			typ, declared = typeExpected(p, f, i)
		}
		call := &model.Call{Pos: f.Where(i), Language: f.Language}
		dropped(p, f, call, swallowed[i])
		if m := jvm.FunctionAround(f, i); m != nil && !lower.IsOpen(typ) {
			var params []code.Param
			for _, a := range m.Params {
				params = append(params, code.Param{Name: a.Name, Type: a.Type})
			}
			call.Endpoint = lower.Path(f.File, f.Language, f.Parse, m.Body[0], m.Body[1], call.Pos, params...)
		}
		if typ != nil && !isParameter(typ) {
			call.Type, call.Declared = typ, declared
		}
		sure := true
		if other := otherThan(p, f, library); other == "moshi" { // by an adapter, which is made elsewhere
			if call.Type == nil {
				if call.Type, call.Declared = adapterAt(p, f, i); call.Type == nil {
					continue
				}
			}
			call.Settings, _ = settingsAt(f, i, other, all)
		} else if call.Settings, sure = settingsAt(f, i, library, all); !sure {
			p.Unsure = append(p.Unsure, call)
		}
		if library == "jackson" && f.Language == "kotlin" && f.Is(i, "readValue") && call.Settings != nil && !namesClass(f, c) { // readValue<T>(…), of Kotlin
			all.rooted[call.Settings] = true
			said := *call.Settings
			said.Root.NotNull = true
			call.Settings = &said
		}
		if library == "moshi" {
			if call.Type == nil {
				continue
			}
			moshiCall(p, f, call, i, func(at int) *jvm.Drop { return swallowed[at] })
		}
		if f.Is(i, "readerFor") {
			if own := readerOptions(c); own != nil {
				all.readers[call] = reader{of: call.Settings, own: own}
				call.Settings = withOptions(call.Settings, own)
			}
		}
		if call.Type == nil && call.Settings == nil {
			continue
		}
		calls = append(calls, call)
	}
	for _, c := range f.Classes {
		calls = append(calls, requests(p, c, all)...)
	}
	return append(calls, byHandIn(p, f)...)
}

// isOfOwnClass says whether a method is called on the name of a class of the source, Harbour.fromJson(…): one of its own,
// however a library calls one of its.
func isOfOwnClass(p *jvm.Project, f *jvm.File, i int) bool {
	if i < 2 || !f.Is(i-1, ".") || f.KindAt(i-2) != scan.Ident {
		return false
	}
	name := f.Word(i - 2)
	if name[0] < 'A' || name[0] > 'Z' {
		return false
	}
	c := p.Find(f, p.ClassAt(f, i), name)
	return c != nil && (c.Super == nil || c.Super.Model != nil) // and not one that extends a library's
}

// firstEnd is where the first argument behind a bracket ends.
func firstEnd(f *jvm.File, open int) int {
	shut := f.Partner(open)
	for i := open + 1; i < shut; i++ {
		if m := f.Partner(i); m > i {
			i = m
		}
		if f.Is(i, ",") {
			return i
		}
	}
	return shut
}

// otherThan is the library that a method of a file is of, where it is not the one that has a method of that
// name and is read: the adapters of Moshi decode by fromJson as well. It is "" where it is that one.
func otherThan(p *jvm.Project, f *jvm.File, library string) string {
	if library != "gson" || f.ImportsFrom("com.google.gson") {
		return ""
	}
	if built, _ := p.Built(f.Module); f.ImportsFrom("com.squareup.moshi") || built == "moshi" {
		return "moshi"
	}
	return ""
}

// opening is the token that opens the type arguments which one closes, -1 where none does.
func opening(f *jvm.File, at int) int {
	for depth := 0; at >= 0; at-- {
		switch {
		case f.Is(at, ">"):
			depth++
		case f.Is(at, "<"):
			if depth--; depth == 0 {
				return at
			}
		case f.Is(at, ";") || f.Is(at, "{") || f.Is(at, "}"):
			return -1
		}
	}
	return -1
}

// forType are methods that make a reader of a type, which decodes when it is given a text.
var forType = map[string]bool{"readerFor": true, "forType": true, "getAdapter": true}

// links are the names that a call is chained to, gson, GsonBuilder() or mapper.copy(), the
// nearest first, each with the bracket of its arguments, -1 where it has none.
func links(f *jvm.File, call int) iter.Seq2[int, int] {
	return func(yield func(name, open int) bool) {
		for at := call; at > 1 && f.Is(at-1, "."); {
			for at -= 2; at > 0 && (f.Is(at, "!") || f.Is(at, "?")); {
				at--
			}
			for at > 0 && f.Is(at, "}") { // apply { … }, new ObjectMapper() {{ … }}
				at = f.Partner(at) - 1
			}
			open := -1
			if at > 0 && f.Is(at, ")") {
				open = f.Partner(at)
				at = open - 1
			}
			if at > 0 && f.Is(at, ">") {
				at = opening(f, at) - 1
			}
			if at < 0 || f.KindAt(at) != scan.Ident || !yield(at, open) {
				return
			}
		}
	}
}

// readerAt is the name of a method that makes a reader of a type, among those that a decoding call
// is chained to, with the bracket of its arguments; "" where there is none.
func readerAt(f *jvm.File, call int) (name string, open int) {
	for at, open := range links(f, call) {
		if name := f.Word(at); open > 0 && forType[name] {
			return name, open
		}
	}
	return "", 0
}

// readerOptions are the features that a reader sets for itself from the word that makes it on, at which the
// cursor stands: readerFor(Port.class).without(FAIL_ON_UNKNOWN_PROPERTIES). nil for none.
func readerOptions(c *scan.Cursor) (own map[string]model.Option) {
	for c.Jump(); c.Is(".") && c.KindAhead(1) == scan.Ident && c.Ahead(2, "("); {
		name, pos := c.At(1).Text, c.F.Where(c.I+1)
		c.I += 2
		shut := c.Shut()
		c.Advance()
		texts, _ := arguments(c, shut)
		c.I = shut + 1
		value := map[string]string{"with": "true", "withFeatures": "true", "without": "false", "withoutFeatures": "false"}[name]
		for _, text := range texts {
			if value != "" && strings.Contains(text, "Feature.") {
				if own == nil {
					own = map[string]model.Option{}
				}
				own[jvm.Last(text)] = model.Option{Value: value, Pos: pos}
			}
		}
	}
	return own
}

// withOptions are settings with some options of their own over them, the same where there are none or where
// the settings are not known.
func withOptions(s *model.Settings, own map[string]model.Option) *model.Settings {
	if s == nil || s.Why != "" || len(own) == 0 {
		return s
	}
	r := *s
	if r.Options = maps.Clone(s.Options); r.Options == nil {
		r.Options = map[string]model.Option{}
	}
	maps.Copy(r.Options, own)
	return &r
}

// namesClass says whether the arguments of a call name a class or hold a token of a type.
func namesClass(f *jvm.File, c *scan.Cursor) bool {
	for i := c.I; i < c.Shut(); i++ {
		if f.Is(i, "class") || tokens[f.Word(i)] {
			return true
		}
	}
	return false
}

// isParameter says whether a type is a type parameter of the function around it, which a
// single letter is taken for.
func isParameter(t *model.Type) bool {
	u := t.Unwrapped()
	return u.Kind == model.Named && u.Model == nil && len(u.Args) == 0 && len(u.Name) == 1
}

// typeArgument is the type that the arguments of a call name: Port.class,
// Port::class.java, new TypeToken<List<Port>>() {}.getType(), object : TypeReference<…>() {}.
func typeArgument(p *jvm.Project, f *jvm.File, c *scan.Cursor) (*model.Type, string) {
	end := c.Shut()
	if t, declared := typeNamed(p, f, c, end, true); t != nil { // before what inner calls are given
		return t, declared
	}
	if t, declared := typeNamed(p, f, c, end, false); t != nil {
		return t, declared
	}
	t, declared := typeOfVariable(p, f, c, end)
	if t != nil {
		p.ByVariable = append(p.ByVariable, f.Where(c.I-1))
	}
	return t, declared
}

// typeExpected is the type that a call in Kotlin is inferred to yield where it is given none: that of
// the property or the function whose value it is, val port: Port = mapper.readValue(text).
func typeExpected(p *jvm.Project, f *jvm.File, call int) (*model.Type, string) {
	start := call
	for at := range links(f, call) {
		start = at
	}
	if f.Is(start-1, "return") {
		if in := jvm.FunctionAround(f, call); in != nil && in.Returns != nil {
			t := *in.Returns
			p.Resolve(f, p.ClassAt(f, call), nil, &t)
			return &t, in.Declared
		}
		return nil, ""
	}
	if !f.Is(start-1, "=") {
		return nil, ""
	}
	for k := start - 2; k > max(0, start-60) && !f.Is(k, "=") && !f.Is(k, "{") && !f.Is(k, "}"); k-- {
		if !f.Is(k, ":") || f.Parse == nil {
			continue
		}
		if t, end := f.Parse(k + 1); t != nil && end == start-1 {
			return typeAt(p, f, k+1)
		}
	}
	return nil, ""
}

// typeNamed is the type that arguments name, between a bracket and its partner; flat passes
// over the arguments of calls among them.
func typeNamed(p *jvm.Project, f *jvm.File, c *scan.Cursor, end int, flat bool) (*model.Type, string) {
	for i := c.I + 1; i < end; i++ {
		if m := f.Partner(i); flat && f.Is(i, "(") && m > i {
			i = m
			continue
		}
		t := f.TokenAt(i)
		if makers[t.Text] && f.Is(i+1, "(") {
			return composed(p, f, i)
		}
		if (tokens[t.Text] || t.Text == "typeOf" || t.Text == "jacksonTypeRef") && t.Kind == scan.Ident && f.Is(i+1, "<") {
			return typeAt(p, f, i+2)
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
		if f.Is(start, ">") { // Array<Port>::class
			start = opening(f, start) - 1
		}
		for start-2 > c.I && f.Is(start-1, ".") && f.TokenAt(start-2).Kind == scan.Ident {
			start -= 2
		}
		return typeAt(p, f, start)
	}
	return nil, ""
}

// tokens are the classes that are told a type by their type argument.
var tokens = map[string]bool{"TypeToken": true, "TypeReference": true}

// makers are methods that make a type of a class and its arguments.
var makers = map[string]bool{"getParameterized": true, "newParameterizedType": true, "constructParametricType": true, "constructCollectionType": true, "constructMapType": true, "constructCollectionLikeType": true}

// composed is the type that a call of one of the makers makes: getParameterized(Page.class,
// Port.class).
func composed(p *jvm.Project, f *jvm.File, at int) (*model.Type, string) {
	open := at + 1
	shut := f.Partner(open)
	var made *model.Type
	var text []string
	for i := open + 1; i < shut; i++ {
		from := i
		for i < shut && !f.Is(i, ",") {
			if m := f.Partner(i); m > i {
				i = m
			}
			i++
		}
		c := &scan.Cursor{F: f.File, I: from - 1}
		t, declared := typeNamed(p, f, c, i, false)
		if t == nil {
			return nil, ""
		}
		if made == nil {
			made = t
			made.Args = nil
		} else {
			made.Args = append(made.Args, t)
			text = append(text, declared)
		}
		if len(text) == 0 {
			text = append(text, declared)
		}
	}
	if made == nil {
		return nil, ""
	}
	name := text[0]
	if made.Linked = false; made.Kind != model.Named || made.Model == nil { // a collection, whose elements were not known before
		*made = model.Type{Kind: model.Named, Name: name, Args: made.Args, Pos: made.Pos}
	}
	p.Resolve(f, p.ClassAt(f, at), nil, made)
	if len(made.Args) == 0 {
		return made, name
	}
	return made, name + "<" + strings.Join(text[1:], ", ") + ">"
}

// typeOfVariable is the type that the last argument was given where it is a variable: Type t
// = new TypeToken<…>() {}.getType().
func typeOfVariable(p *jvm.Project, f *jvm.File, c *scan.Cursor, end int) (*model.Type, string) {
	last := end - 1
	if last <= c.I || f.KindAt(last) != scan.Ident || !f.Is(last-1, ",") && !f.Is(last-1, "(") {
		return nil, ""
	}
	for k := 1; k < f.Len()-3; k++ {
		if f.Word(k) != f.Word(last) {
			continue
		}
		at := k + 1
		for f.Is(k+1, ":") && at < k+12 && !f.Is(at, "=") { // of Kotlin, with a type of its own
			at++
		}
		if !f.Is(at, "=") {
			continue
		}
		if open := opening(f, k-1); f.Is(k-1, ">") && open > 0 && tokens[f.Word(open-1)] { // TypeToken<List<Port>> t = new TypeToken<>() {}
			return typeAt(p, f, open+1)
		}
		for n := at + 1; n < min(at+12, f.Len()) && !f.Is(n, ";"); n++ {
			if tokens[f.Word(n)] && f.Is(n+1, "<") {
				return typeAt(p, f, n+2)
			}
			if makers[f.Word(n)] && f.Is(n+1, "(") {
				return composed(p, f, n)
			}
		}
	}
	return nil, ""
}

// typeAt reads the type that stands at a token and finds what it names.
func typeAt(p *jvm.Project, f *jvm.File, at int) (*model.Type, string) {
	if f.Parse == nil {
		return nil, ""
	}
	t, end := f.Parse(at)
	if t == nil {
		return nil, ""
	}
	p.Resolve(f, p.ClassAt(f, at), nil, t)
	return t, f.Text(at, end)
}

// settingsAt are those of the decoder that a call's receiver names, or makes on the spot:
// new ObjectMapper().registerModule(…).readValue(…).
// It says whether it is sure: a project may have several, and one that is handed on goes by the name of a
// parameter.
func settingsAt(f *jvm.File, call int, library string, all *decoders) (s *model.Settings, sure bool) {
	several := len(all.byLibrary[library]) > 1
	for at := range links(f, call) {
		if library == jvm.Kotlinx {
			if plain := jsonAt(f, at); plain != nil {
				return plain, true
			}
		}
		if b := all.named(f, at, call, library); b != nil {
			return b.settings, !several || b.file == f && (b.at == at || jvm.Sees(f, call, b.at) && all.isAlone(b, f.Word(at)) && !lower.IsAssigned(f.Src, f.Word(at)))
		}
	}
	if only := all.byLibrary[library]; len(only) == 1 {
		return only[0].settings, true
	}
	return &model.Settings{Library: library, Pos: f.Where(call)}, !several
}

// isAlone says whether a decoder is the only one of a name in its file.
func (d *decoders) isAlone(one *built, name string) bool {
	return !slices.ContainsFunc(d.byFile[one.file], func(b *built) bool { return b != one && slices.Contains(b.names, name) })
}

// named is the decoder that is made at a token before a call, or that its word names: the
// last of the file before the call, then the only one of the project; nil where none is.
func (d *decoders) named(f *jvm.File, at, call int, library string) (same *built) {
	name := f.Word(at)
	for _, b := range d.byFile[f] {
		switch {
		case b.settings.Library != library:
		case b.at == at:
			return b
		case slices.Contains(b.names, name) && (same == nil || b.at < call):
			same = b
		}
	}
	if elsewhere := d.byName[library+" "+name]; same == nil && len(elsewhere) == 1 {
		return elsewhere[0]
	}
	return same
}
