package main

import (
	"fmt"
	"strings"
)

// Models for the two libraries of Kotlin that throw where Gson is silent: Moshi and kotlinx.serialization.

func (g *maker) moshi() bool { return strings.HasSuffix(g.kind, "moshi") }

func (g *maker) kotlinx() bool { return strings.HasSuffix(g.kind, "kotlinx") }

// strict says whether a kind is one of the two.
func (g *maker) strict() bool { return g.moshi() || g.kotlinx() }

// strictScalars are those of Kotlin's scalars that the library has a reader for, and now and then one that it has not.
func (g *maker) strictScalar() typ {
	for {
		s := kotlinScalars[g.IntN(len(kotlinScalars))]
		foreign := strings.Contains(s.src, ".") || s.src == "Number" || s.src == "Any" && g.kotlinx() || s.src == "UInt" && g.moshi()
		if !foreign || g.moshi() && g.chance(4) {
			return typ{s.src, s.make(g)}
		}
	}
}

// strictMark is an annotation of a property, which must have a default to be left out.
func (g *maker) strictMark(f *field, initial string) string {
	key := pick(g, "k_"+f.name, "some-"+f.name)
	switch what := g.IntN(10); {
	case what < 2 && g.moshi():
		f.key = pick(g, key, key, f.name)
		return fmt.Sprintf("%sJson(name = %q) ", pick(g, "@", "@", "@", "@field:", "@get:"), key)
	case what < 2:
		f.key = key
		return fmt.Sprintf("@SerialName(%q) ", key)
	case what == 2 && g.kotlinx():
		f.key = pick(g, f.name, key)
		return fmt.Sprintf("@JsonNames(%q, %q) ", key, "alt_"+f.name)
	case what == 3 && initial != "" && g.moshi():
		return pick(g, "@Json(ignore = true) ", "@kotlin.jvm.Transient ")
	case what == 3 && initial != "":
		return pick(g, "@Transient ", "@kotlin.jvm.Transient ", "@Required ")
	}
	return ""
}

// strictFiles are the classes, and the code that decodes the root by a Moshi or a Json that is set up somehow.
func (g *maker) strictFiles(root string) (models, api string) {
	if g.moshi() {
		models = "import com.squareup.moshi.*\n\n" + strings.Join(g.classes, "\n")
		call := pick(g, "moshi.adapter(%s::class.java)", "moshi.adapter<%s>()")
		if g.chance(10) {
			call += ".failOnUnknown()"
		}
		if g.chance(10) {
			call += ".lenient()"
		}
		api = fmt.Sprintf("import com.squareup.moshi.*\nimport com.squareup.moshi.kotlin.reflect.KotlinJsonAdapterFactory\n\nprivate val moshi: Moshi = Moshi.Builder().addLast(KotlinJsonAdapterFactory()).build()\n\n@OptIn(ExperimentalStdlibApi::class)\nfun load(json: String): %s? = "+call+".fromJson(json)\n", root, root)
		return models, api
	}
	var classes []string
	for _, c := range g.classes {
		classes = append(classes, "@Serializable\n"+c)
	}
	models = "@file:OptIn(ExperimentalSerializationApi::class)\nimport kotlinx.serialization.*\nimport kotlinx.serialization.json.*\n\n" + strings.Join(classes, "\n")
	var set []string
	for _, option := range []string{"ignoreUnknownKeys = true", "ignoreUnknownKeys = true", "coerceInputValues = true", "isLenient = true", "explicitNulls = false", "useAlternativeNames = false", "decodeEnumsCaseInsensitive = true", "namingStrategy = JsonNamingStrategy.SnakeCase"} {
		if g.chance(25) {
			set = append(set, option)
		}
	}
	json := "Json"
	if len(set) > 0 {
		json = "Json { " + strings.Join(set, "; ") + " }"
	}
	api = fmt.Sprintf("@file:OptIn(kotlinx.serialization.ExperimentalSerializationApi::class)\nimport kotlinx.serialization.*\nimport kotlinx.serialization.json.*\n\nprivate val format = %s\n\nfun load(json: String): %s = format.decodeFromString<%s>(json)\n", json, root, root)
	return models, api
}
