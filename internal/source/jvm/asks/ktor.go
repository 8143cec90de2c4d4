package asks

import (
	"vetta/internal/model"
	"vetta/internal/source/jvm"
)

// ktorBody are the functions of the HTTP client of ktor by which a response is decoded into the type that
// they are given, or that is expected of them: body, and receive before ktor 2.0.
var ktorBody = map[string]bool{"body": true, "receive": true}

// ktorCalls are those calls, of a type that is not told yet.
func ktorCalls(p *jvm.Project, all *decoders) (calls []*model.Call) {
	var settings *model.Settings
	looked := false
	for _, f := range p.Mentioning(jvm.Ktors) {
		if f.Language != "kotlin" {
			continue
		}
		whole := f.Again(f.Name, f.Src)
		for i := 1; i < whole.Len(); i++ {
			if !ktorBody[whole.Word(i)] || !whole.Is(i-1, ".") || !whole.Is(i+1, "(") && !whole.Is(i+1, "<") || whole.Is(i+1, "(") && !whole.Is(i+2, ")") {
				continue
			}
			if !looked {
				settings, looked = ktorSettings(p, all), true
			}
			calls = append(calls, &model.Call{Pos: whole.Where(i), Language: f.Language, Settings: settings})
		}
	}
	return calls
}

// ktorSettings are those of the decoder that is registered for content negotiation, nil where none is
// found. By ktor 2.3, gson { … } and jackson { … } set up a decoder of their own, the latter with the module
// for Kotlin, and so has the one that JacksonConverter() makes.
func ktorSettings(p *jvm.Project, all *decoders) *model.Settings {
	for _, f := range p.Mentioning(jvm.Negotiated) {
		if f.Language != "kotlin" {
			continue
		}
		whole := f.Again(f.Name, f.Src)
		for i := range whole.Len() {
			if !whole.Is(i, "install") || !whole.Is(i+1, "(") || !whole.Is(i+2, "ContentNegotiation") {
				continue
			}
			open := whole.Partner(i+1) + 1
			if !whole.Is(open, "{") {
				continue
			}
			for k := open + 1; k < whole.Partner(open); k++ {
				if s := registered(p, f, whole, k, all); s != nil {
					return s
				}
			}
		}
	}
	return nil
}

// registered are the settings of the decoder that a token registers, nil for none.
func registered(p *jvm.Project, f, whole *jvm.File, at int, all *decoders) *model.Settings {
	if whole.Is(at-1, ".") || !whole.Is(at+1, "(") && !whole.Is(at+1, "{") {
		return nil
	}
	pos := whole.Where(at)
	switch word := whole.Word(at); word {
	case "json", "KotlinxSerializationConverter":
		return negotiatedJson(p, f, whole, at, pos, all)
	case "GsonConverter", "JacksonConverter":
		library, made := "gson", "Gson()"
		if word == "JacksonConverter" {
			library, made = "jackson", "jacksonObjectMapper()"
		}
		shut := whole.Partner(at + 1)
		if shut == at+2 {
			return settingsOf(p, f, whole.Src[:whole.TokenAt(at).Start]+made, pos)
		}
		if name := whole.Ident(shut - 1); name != "" {
			if named := all.byName[library+" "+name]; len(named) > 0 {
				return named[0].settings
			}
			return nil
		}
		return settingsOf(p, f, whole.Src[:whole.TokenAt(shut).Start], pos)
	case "gson", "jackson":
		made := "GsonBuilder()"
		if word == "jackson" {
			made = "jacksonObjectMapper()"
		}
		open := at + 1
		if whole.Is(open, "(") {
			open = whole.Partner(open) + 1
		}
		before := whole.Src[:whole.TokenAt(at).Start]
		if !whole.Is(open, "{") {
			return settingsOf(p, f, before+made, pos)
		}
		block := whole.Src[whole.TokenAt(open).Start:whole.TokenAt(whole.Partner(open)).End]
		return settingsOf(p, f, before+made+".apply "+block, pos)
	}
	return nil
}

// settingsOf are those of the decoder that is the last to be made in a text of a file, which stands at a
// position; the lines of what it is set to are those of the text.
func settingsOf(p *jvm.Project, f *jvm.File, text string, pos model.Pos) *model.Settings {
	made := f.Again(f.Name, text)
	made.Imports, made.Package = f.Imports, f.Package
	var settings *model.Settings
	for _, b := range builtIn(p, made) {
		settings = b.settings
	}
	if settings != nil {
		settings.Pos = pos
	}
	return settings
}

// negotiatedJson are the settings of the Json that json(…) registers: of the one that it is given, or by ktor 2.3
// those of its DefaultJson.
func negotiatedJson(p *jvm.Project, f, whole *jvm.File, at int, pos model.Pos, all *decoders) *model.Settings {
	open := at + 1
	shut := whole.Partner(open)
	if shut == open+1 || !whole.Is(open, "(") {
		s := &model.Settings{Library: jvm.Kotlinx, Pos: pos, Options: map[string]model.Option{}}
		for _, name := range []string{"isLenient", "allowSpecialFloatingPointValues", "allowStructuredMapKeys"} {
			s.Options[name] = model.Option{Value: "true", Pos: pos}
		}
		return s
	}
	end := firstEnd(whole, open)
	if whole.Is(open+1, "Json") && end == open+2 {
		return &model.Settings{Library: jvm.Kotlinx, Pos: pos, Options: map[string]model.Option{}}
	}
	if whole.Is(open+1, "Json") {
		return settingsOf(p, f, whole.Src[:whole.TokenAt(end-1).End], pos)
	}
	if named := all.byName[jvm.Kotlinx+" "+whole.Ident(end-1)]; len(named) > 0 {
		return named[0].settings
	}
	return nil
}
