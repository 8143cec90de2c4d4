package asks

import (
	"cmp"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// quietModules are modules of Jackson's own that change nothing for a class of the project's that is
// read without them: those for types that are not in the source, and for speed; what
// ParameterNamesModule changes, the decoder tells.
var quietModules = jvm.Words("Jdk8Module JavaTimeModule JSR310Module AfterburnerModule BlackbirdModule JodaModule GuavaModule KotlinModule kotlinModule ParameterNamesModule Hibernate5Module")

// unfollowedSetUp are calls that change how a mapper, or a module of its, reads, in ways that are not
// followed.
var unfollowedSetUp = jvm.Words(
	"configOverride withConfigOverride withAllConfigOverrides coercionConfigDefaults coercionConfigFor withCoercionConfig withCoercionConfigDefaults " +
		"setDefaultSetterInfo defaultSetterInfo setDefaultMergeable defaultMergeable setDefaultLeniency defaultLeniency addHandler " +
		"activateDefaultTyping activateDefaultTypingAsProperty enableDefaultTyping enableDefaultTypingAsProperty setDefaultTyping " +
		"setMixIns setMixInAnnotations setMixInResolver setAccessorNaming accessorNaming setConstructorDetector constructorDetector " +
		"addAbstractTypeMapping setDeserializerModifier addBeanDeserializerModifier setDeserializers addDeserializers addValueInstantiator setValueInstantiators " +
		"setAbstractTypes addKeyDeserializer setKeyDeserializers setNamingStrategy setupModule")

// modules notes what the modules that a mapper is given change. One that is made in the same file is
// followed as far as it names the types that it has deserializers for.
func (b *built) modules(texts []string, pos model.Pos) {
	option := func(key, value string) { b.settings.Options[key] = model.Option{Value: value, Pos: pos} }
	for _, text := range texts {
		name := made(text)
		switch {
		case strings.EqualFold(name, "KotlinModule") && tunesKotlin(text):
			option("unfollowed", "a KotlinModule with features")
		case strings.EqualFold(name, "KotlinModule"):
			option("module.KotlinModule", "true")
		case quietModules[name]:
			option("module."+name, "true")
		case name == "SimpleModule" || !strings.Contains(text, "(") && makesModule(b.file):
			b.simpleModules(option)
		default:
			option("unfollowed", "the module "+cmp.Or(name, text))
		}
	}
}

// tunesKotlin says whether a KotlinModule is made that treats null in another way than usual.
func tunesKotlin(text string) bool {
	for _, feature := range []string{"Feature", "nullTo", "nullIs", "strict", "singleton"} {
		if strings.Contains(text, feature) {
			return true
		}
	}
	return false
}

// made is the class whose constructor an expression calls first, or the name that it is: FerryModule
// of new FerryModule().also { … }.
func made(text string) string {
	text = strings.TrimSpace(strings.TrimPrefix(text, "new "))
	if end := strings.IndexAny(text, "(<{ "); end >= 0 {
		text = text[:end]
	}
	return jvm.Last(strings.TrimSuffix(strings.TrimSuffix(text, ".builder"), ".Builder"))
}

// makesModule says whether a file makes a module whose set-up it holds.
func makesModule(f *jvm.File) bool {
	for i := range f.Len() {
		if f.Is(i, "SimpleModule") && f.Is(i+1, "(") {
			return true
		}
	}
	return false
}

// simpleModules notes what the modules that a file makes change.
func (b *built) simpleModules(option func(key, value string)) {
	f := b.file
	for i := 0; i+1 < f.Len(); i++ {
		if f.KindAt(i) != scan.Ident || !f.Is(i+1, "(") {
			continue
		}
		switch name := f.Word(i); {
		case name == "addDeserializer":
			typ := f.Ident(i + 2)
			for k := i + 2; f.Is(k+1, ".") && f.KindAt(k+2) == scan.Ident && !f.Is(k+2, "class"); k += 2 {
				typ = f.Ident(k + 2)
			}
			option("adapter."+typ, "custom")
			if args := spans(f.File, i+1, f.Partner(i+1)); len(args) == 2 {
				if by := chained(f.File, args[1]); len(by) == 1 {
					if of := b.project.Find(f, b.project.ClassAt(f, i), by[0].name); of != nil {
						if a := Serializer(b.project, of, by[0].name); a != nil && a.Code != nil && a.Of != nil {
							b.settings.Adapters = append(b.settings.Adapters, *a)
						}
					}
				}
			}
			if collects[typ] {
				option("unfollowed", "a deserializer of "+typ)
			}
		case name == "registerSubtypes":
			option(name, "true")
		case name == "setMixInAnnotation":
			var texts []string
			for _, s := range spans(f.File, i+1, f.Partner(i+1)) {
				texts = append(texts, f.Text(s.from, s.to))
			}
			b.mixIn(texts, f.Where(i))
		case unfollowedSetUp[name]:
			option("unfollowed", name)
		}
	}
}

// mixIn notes that the annotations of one class are taken for those of another: Port.class, PortMixIn.class.
func (b *built) mixIn(texts []string, pos model.Pos) {
	option := func(key, value string) { b.settings.Options[key] = model.Option{Value: value, Pos: pos} }
	if len(texts) != 2 {
		option("unfollowed", "a mix-in")
		return
	}
	var found [2]*model.Type
	var names [2]string
	for i, text := range texts {
		name := strings.TrimSpace(text)
		for _, end := range []string{".class", "::class.java"} {
			name = strings.TrimSuffix(name, end)
		}
		names[i] = name
		found[i] = &model.Type{Kind: model.Named, Name: name, Pos: pos}
		b.project.Resolve(b.file, b.project.ClassAt(b.file, b.at), nil, found[i])
	}
	option("mixIn."+names[0], names[1])
	switch {
	case found[1].Model == nil:
		option("unfollowed", "the mix-in "+names[1])
	case found[0].Model != nil: // of another class nothing is known anyway
		b.settings.MixIns = append(b.settings.MixIns, model.MixIn{Of: found[0].Model, By: found[1].Model, Pos: pos})
	}
}

// collects are types whose deserializer changes how fields of other types are read.
var collects = jvm.Words("Object Any Collection List Set Map MutableList MutableMap Iterable ArrayList HashMap Enum")

// adapter notes the type that a Gson is given an adapter for: by a class, or by a token of a type with
// arguments. An adapter for all that extend a class is followed where nothing of the project can.
func (b *built) adapter(call, of string, option func(key, value string)) {
	typ := of
	for _, end := range []string{".class", "::class.java", "::class.javaPrimitiveType", "::class.javaObjectType", ".TYPE"} {
		typ = strings.TrimSuffix(typ, end)
	}
	if typ == of {
		_, typ, _ = strings.Cut(of, "TypeToken<")
		if end := strings.IndexAny(typ, "<>"); end >= 0 {
			typ = typ[:end]
		}
	}
	typ = jvm.Last(strings.TrimSpace(typ))
	if typ == "" || call == "registerTypeHierarchyAdapter" && (collects[typ] || b.project.ByName[typ] != nil) {
		option("unfollowed", call+" of "+of)
		return
	}
	option("adapter."+typ, "custom")
}
