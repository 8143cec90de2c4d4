package main

import (
	"fmt"
	"strings"
)

func (g *maker) kotlinInitial(src string) string {
	if strings.HasSuffix(src, "?") {
		return pick(g, " = null", " = null", g.kotlinInitial(strings.TrimSuffix(src, "?")))
	}
	switch src {
	case "Int", "Short", "Byte", "Number", "Any":
		return " = 7"
	case "Long":
		return " = 7L"
	case "Double":
		return " = 0.5"
	case "Boolean":
		return " = true"
	case "String":
		return ` = "d"`
	}
	if strings.HasPrefix(src, "List<") {
		return " = emptyList()"
	}
	return ""
}

func (g *maker) kotlinModel(name string, fields []field) string {
	all := g.chance(25) // every parameter has a default
	var params, body []string
	for i := range fields {
		f := &fields[i]
		mark := ""
		target := pick(g, "@", "@", "@field:")
		what := g.IntN(8)
		if g.strict() {
			what = 99
		}
		if g.jackson() {
			what = 8 + g.IntN(12)
		}
		switch what {
		case 8, 9:
			f.key = pick(g, "k_"+f.name, "some-"+f.name)
			mark = fmt.Sprintf("%sJsonProperty(%q) ", pick(g, "@", "@", "@field:", "@get:", "@param:"), f.key)
		case 10:
			mark = fmt.Sprintf("@JsonAlias(%q, %q) ", "k_"+f.name, "alt_"+f.name)
			f.key = pick(g, f.name, "k_"+f.name, "alt_"+f.name)
		case 11:
			mark = pick(g, "@JsonIgnore ", "@get:JsonIgnore ", "@JsonProperty ", fmt.Sprintf("@JsonProperty(value = %q, required = true) ", f.name))
		case 12:
			mark = "@JsonSetter(nulls = Nulls." + pick(g, "SKIP", "FAIL", "AS_EMPTY") + ") "
		case 13:
			if strings.Contains(f.typ.src, "<") {
				mark = "@JsonSetter(contentNulls = Nulls." + pick(g, "SKIP", "FAIL") + ") "
			}
		case 0:
			f.key = pick(g, "k_"+f.name, "some-"+f.name)
			mark = fmt.Sprintf("%sSerializedName(%q) ", target, f.key)
		case 1:
			f.key = pick(g, f.name, "k_"+f.name, "alt_"+f.name)
			mark = fmt.Sprintf("%sSerializedName(value = %q, alternate = [%q, %q]) ", target, "k_"+f.name, "alt_"+f.name, f.name)
		case 2:
			mark = pick(g, "@Transient ", "@Expose ", "@Expose(deserialize = false) ")
			if strings.HasPrefix(mark, "@T") {
				mark = "@kotlin.jvm.Transient "
			}
		}
		initial := g.kotlinInitial(f.typ.src)
		if !all && g.chance(60) {
			initial = ""
		}
		if g.strict() {
			mark = g.strictMark(f, initial)
		}
		access := pick(g, "", "", "private ", "internal ")
		if all && initial == "" && g.chance(70) {
			f.typ.src = strings.TrimSuffix(f.typ.src, "?") + "?"
			initial = " = null"
		}
		decl := fmt.Sprintf("%s%s%s %s: %s%s", mark, access, pick(g, "val", "val", "var"), f.name, f.typ.src, initial)
		if initial == "" && g.chance(15) && !strings.HasSuffix(f.typ.src, "?") && !primitive(f.typ.src) {
			body = append(body, fmt.Sprintf("%slateinit var %s: %s", mark, f.name, f.typ.src))
			continue
		}
		if initial != "" && g.chance(25) {
			body = append(body, decl)
			continue
		}
		params = append(params, decl)
	}
	if g.chance(20) {
		body = append(body, pick(g, "val label: String get() = \"x\"", "val twice get() = 2", "val lazyOne: String by lazy { \"q\" }", "companion object { val shared = 3; const val MAX = 9 }",
			"init { println() }", "fun describe(): String { val inner = 3; return \"$inner\" }", "var count = 0\n        private set", "val sum = 1 + 2"))
		if strings.HasPrefix(body[len(body)-1], "init") {
			body = body[:len(body)-1]
		}
	}
	head := pick(g, "data class ", "data class ", "class ", "open class ") + name
	if g.jackson() && g.chance(35) {
		head = pick(g, "@JsonIgnoreProperties(ignoreUnknown = true)", "@JsonInclude(JsonInclude.Include.NON_NULL)", fmt.Sprintf("@JsonIgnoreProperties(%q)", fields[0].name),
			"@JsonNaming(PropertyNamingStrategies.SnakeCaseStrategy::class)", "@JsonNaming(PropertyNamingStrategies.UpperCamelCaseStrategy::class)") + "\n" + head
	}
	if len(params) == 0 {
		head = "class " + name
		if g.chance(30) {
			head += "()"
		}
	} else {
		head += "(" + strings.Join(params, pick(g, ", ", ",\n    ")) + pick(g, "", ",") + ")"
	}
	if len(body) > 0 {
		head += " {\n    " + strings.Join(body, "\n    ") + "\n}"
	}
	return head + "\n"
}

func primitive(src string) bool {
	switch src {
	case "Int", "Long", "Short", "Byte", "Float", "Double", "Boolean", "Char", "UInt":
		return true
	}
	return false
}

// kotlinMapper is how a mapper is made that knows Kotlin, or one that does not.
func (g *maker) kotlinMapper() string {
	setup := pick(g, "jacksonObjectMapper()", "jacksonObjectMapper()", "jacksonObjectMapper()", "ObjectMapper().registerKotlinModule()", "ObjectMapper().registerModule(KotlinModule.Builder().build())", "ObjectMapper()")
	if g.chance(50) {
		setup += ".configure(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES, false)"
	}
	for g.chance(25) {
		setup += ".enable(DeserializationFeature." + pick(g, "FAIL_ON_NULL_FOR_PRIMITIVES", "ACCEPT_SINGLE_VALUE_AS_ARRAY", "READ_UNKNOWN_ENUM_VALUES_AS_NULL", "FAIL_ON_MISSING_CREATOR_PROPERTIES", "USE_BIG_DECIMAL_FOR_FLOATS") + ")"
	}
	return setup
}

func (g *maker) kotlinFiles(root string) (models, api string) {
	if g.strict() {
		return g.strictFiles(root)
	}
	if g.jackson() {
		models = "import com.fasterxml.jackson.annotation.*\nimport com.fasterxml.jackson.databind.*\nimport com.fasterxml.jackson.databind.annotation.*\n\n" + strings.Join(g.classes, "\n")
		api = fmt.Sprintf("import com.fasterxml.jackson.annotation.*\nimport com.fasterxml.jackson.databind.*\nimport com.fasterxml.jackson.module.kotlin.*\n\nprivate val mapper = %s\n\nfun load(json: String): %s? = mapper.readValue(json, %s::class.java)\n", g.kotlinMapper(), root, root)
		return models, api
	}
	models = "import com.google.gson.annotations.*\n\n" + strings.Join(g.classes, "\n")
	models = strings.ReplaceAll(models, `[\"`, `["`)
	api = fmt.Sprintf("import com.google.gson.*\nimport com.google.gson.reflect.TypeToken\n\nprivate val gson: Gson = %s\n\nfun load(json: String): %s? = gson.fromJson(json, %s)\n", strings.Replace(g.builder(), "new ", "", 1), root,
		pick(g, root+"::class.java", "object : TypeToken<"+root+">() {}.type"))
	return models, api
}
