package main

import (
	"fmt"
	"strings"
)

func (g *maker) initial(src string) string {
	switch src {
	case "int", "Integer", "short", "byte":
		return " = 7"
	case "long", "Long":
		return " = 7L"
	case "double", "Double":
		return " = 0.5"
	case "boolean", "Boolean":
		return " = true"
	case "String":
		return ` = "d"`
	case "Number", "Object":
		return " = 7"
	}
	if strings.HasPrefix(src, "List<") {
		return " = new ArrayList<>()"
	}
	return ""
}

// lombok makes a class whose accessors and constructors Lombok writes.
func (g *maker) lombok(name string, fields []field) string {
	var b strings.Builder
	marks := pick(g, "@Data", "@Data", "@Value", "@Getter @Setter", "@Getter", "@Setter", "@Data @Builder", "@Data @NoArgsConstructor @AllArgsConstructor", "@Data @AllArgsConstructor", "@Value @Builder", "@Getter @NoArgsConstructor",
		"@Data @RequiredArgsConstructor", "@Getter @AllArgsConstructor", "@Data @Builder @NoArgsConstructor @AllArgsConstructor", "@Data @Accessors(chain = true)", "@Data @Accessors(fluent = true)", "@Value @NoArgsConstructor(force = true)")
	if g.jackson() && g.chance(30) {
		marks = pick(g, "@Value @Builder @Jacksonized", "@Data @Builder @Jacksonized")
	}
	fmt.Fprintf(&b, "%s\nclass %s {\n", marks, name)
	for i := range fields {
		f := &fields[i]
		mark := ""
		switch g.IntN(8) {
		case 0:
			f.key = "k_" + f.name
			mark = fmt.Sprintf("@SerializedName(%q) ", f.key)
			if g.jackson() {
				mark = fmt.Sprintf("@JsonProperty(%q) ", f.key)
			}
		case 1:
			if !strings.Contains(marks, "Value") {
				mark = pick(g, "@NonNull ", "@Setter ", "@Getter ", "@Getter(AccessLevel.NONE) ", "@Setter(AccessLevel.NONE) ")
			}
			if boxed[f.typ.src] != "" && strings.Contains(mark, "NonNull") {
				mark = ""
			}
		case 2:
			if strings.Contains(marks, "Builder") && g.initial(f.typ.src) != "" {
				mark = "@Builder.Default "
			}
		}
		initial := pick(g, "", "", g.initial(f.typ.src))
		if strings.Contains(mark, "Default") {
			initial = g.initial(f.typ.src)
		} else if strings.Contains(marks, "Builder") {
			initial = ""
		}
		fmt.Fprintf(&b, "    %s%s%s %s%s;\n", mark, pick(g, "private ", "private ", ""), f.typ.src, f.name, initial)
	}
	return b.String() + "}\n"
}

// record is a record of the fields, some of which an annotation gives another key.
func (g *maker) record(name, annotation string, fields []field) string {
	var parts []string
	for i := range fields {
		f := &fields[i]
		mark := ""
		if g.chance(25) {
			f.key = "r_" + f.name
			mark = fmt.Sprintf("@%s(%q) ", annotation, f.key)
		}
		parts = append(parts, mark+f.typ.src+" "+f.name)
	}
	return fmt.Sprintf("record %s(%s) {}\n", name, strings.Join(parts, ", "))
}

func (g *maker) gsonModel(name string, fields []field) string {
	if strings.HasPrefix(g.kind, "lombok") {
		return g.lombok(name, fields)
	}
	var b strings.Builder
	if g.chance(12) { // a record
		return g.record(name, "SerializedName", fields)
	}
	head := "class " + name
	if g.chance(15) {
		base := g.class("Base")
		t := g.scalar()
		g.classes = append(g.classes, fmt.Sprintf("%sclass %s { protected %s baseKey%s; }\n", pick(g, "", "abstract "), base, t.src, pick(g, "", g.initial(t.src))))
		head += " extends " + base
	}
	fmt.Fprintf(&b, "%s {\n", head)
	for i := range fields {
		f := &fields[i]
		switch g.IntN(8) {
		case 0:
			f.key = pick(g, "k_"+f.name, "some-"+f.name, f.name+".x")
			fmt.Fprintf(&b, "    @SerializedName(%q)\n", f.key)
		case 1:
			f.key = pick(g, f.name, "k_"+f.name, "alt_"+f.name)
			fmt.Fprintf(&b, "    @SerializedName(value = %q, alternate = {%q, %q})\n", "k_"+f.name, "alt_"+f.name, f.name)
		case 2:
			fmt.Fprintf(&b, "    @Expose%s\n", pick(g, "", "(deserialize = false)", "(serialize = false)"))
		}
		fmt.Fprintf(&b, "    %s%s %s%s;\n", pick(g, "", "private ", "public ", "protected ", "transient ", "volatile ", "private ", "", "public "), f.typ.src, f.name, pick(g, "", g.initial(f.typ.src)))
	}
	switch g.IntN(6) {
	case 0:
		fmt.Fprintf(&b, "    %s(%s q) { this.%s = q; }\n", name, fields[0].typ.src, fields[0].name)
	case 1:
		fmt.Fprintf(&b, "    private %s() { }\n", name)
	case 2:
		if in := g.initial(fields[0].typ.src); in != "" {
			fmt.Fprintf(&b, "    %s() { this.%s%s; }\n", name, fields[0].name, in)
		}
	}
	return b.String() + "}\n"
}

func (g *maker) jacksonModel(name string, fields []field) string {
	if strings.HasPrefix(g.kind, "lombok") {
		return g.lombok(name, fields)
	}
	var b strings.Builder
	if g.chance(10) {
		record := g.record(name, "JsonProperty", fields)
		return pick(g, "", "", "@JsonNaming(PropertyNamingStrategies.SnakeCaseStrategy.class)\n", "@JsonIgnoreProperties(ignoreUnknown = true)\n") + record
	}
	if g.chance(35) {
		fmt.Fprintf(&b, "%s\n", pick(g, "@JsonIgnoreProperties(ignoreUnknown = true)", "@JsonInclude(JsonInclude.Include.NON_NULL)",
			fmt.Sprintf("@JsonIgnoreProperties({%q})", fields[0].name), fmt.Sprintf("@JsonIgnoreProperties(value = {%q, \"zz\"}, ignoreUnknown = true)", fields[1].name),
			"@JsonNaming(PropertyNamingStrategies.SnakeCaseStrategy.class)", "@JsonNaming(PropertyNamingStrategies.UpperCamelCaseStrategy.class)",
			"@JsonNaming(PropertyNamingStrategies.KebabCaseStrategy.class)", "@JsonNaming(PropertyNamingStrategies.LowerCaseStrategy.class)",
			"@JsonAutoDetect(fieldVisibility = JsonAutoDetect.Visibility.ANY)", "@JsonAutoDetect(setterVisibility = JsonAutoDetect.Visibility.NONE)",
			"@JsonAutoDetect(fieldVisibility = JsonAutoDetect.Visibility.ANY, getterVisibility = JsonAutoDetect.Visibility.NONE)",
			"@JsonPropertyOrder(alphabetic = true)"))
	}
	if g.chance(8) {
		return g.subtypes(name, fields)
	}
	creator := g.IntN(12)
	head := "class " + name
	if g.chance(12) && creator > 2 {
		base := g.class("Base")
		t := g.scalar()
		g.classes = append(g.classes, fmt.Sprintf("%sclass %s { %s%s baseKey%s; }\n", pick(g, "", "abstract "), base, pick(g, "public ", "protected "), t.src, pick(g, "", g.initial(t.src))))
		head += " extends " + base
	}
	fmt.Fprintf(&b, "%s {\n", head)
	for i := range fields {
		f := &fields[i]
		c := capital(f.name)
		access := pick(g, "public ", "public ", "private ", "private ", "", "protected ", "public final ", "transient ", "private ")
		if strings.Contains(access, "final") && (g.initial(f.typ.src) == "" || creator <= 2 || creator == 4 || creator == 5) {
			access = "public "
		}
		initial := pick(g, "", g.initial(f.typ.src))
		if strings.Contains(access, "final") {
			initial = g.initial(f.typ.src)
		}
		on := pick(g, "field", "field", "getter", "setter")
		mark := ""
		what := g.IntN(14)
		if strings.HasPrefix(f.typ.src, "Part") && g.chance(30) {
			what = 9
		}
		switch what {
		case 0:
			f.key = pick(g, "k_"+f.name, "some-"+f.name)
			mark = fmt.Sprintf("@JsonProperty(%q) ", f.key)
		case 1:
			mark = "@JsonProperty "
		case 2:
			mark = fmt.Sprintf("@JsonAlias({%q, %q}) ", "k_"+f.name, "alt_"+f.name)
			f.key = pick(g, f.name, "k_"+f.name, "alt_"+f.name)
		case 3:
			mark = pick(g, "@JsonIgnore ", "@JsonIgnore(false) ", "@JsonIgnore ")
		case 4:
			mark = "@JsonSetter(nulls = Nulls." + pick(g, "SKIP", "FAIL", "AS_EMPTY", "SET") + ") "
		case 5:
			mark = "@JsonProperty(access = JsonProperty.Access." + pick(g, "READ_ONLY", "WRITE_ONLY", "READ_WRITE", "AUTO") + ") "
		case 6:
			mark = fmt.Sprintf("@JsonProperty(value = %q, required = %v) ", f.name, g.chance(50))
		case 7:
			if strings.Contains(f.typ.src, "<") {
				mark = "@JsonSetter(contentNulls = Nulls." + pick(g, "SKIP", "FAIL", "AS_EMPTY") + ") "
			} else if !strings.Contains(f.typ.src, "[") {
				mark = "@JsonFormat(shape = JsonFormat.Shape." + pick(g, "STRING", "NUMBER", "ANY") + ") "
			}
		case 9:
			if strings.HasPrefix(f.typ.src, "Part") {
				mark = pick(g, "@JsonUnwrapped ", `@JsonUnwrapped(prefix = "p_") `, `@JsonIgnoreProperties({"id", "name"}) `, `@JsonIgnoreProperties(ignoreUnknown = true) `)
				if f.unwrapped = strings.Contains(mark, "Unwrapped"); f.unwrapped && strings.Contains(mark, "prefix") {
					f.prefix = "p_"
				}
			}
		case 8:
			if strings.HasPrefix(f.typ.src, "List<") || strings.HasSuffix(f.typ.src, "[]") {
				mark = "@JsonFormat(with = JsonFormat.Feature.ACCEPT_SINGLE_VALUE_AS_ARRAY) "
			}
		}
		has := map[string]bool{"field": true, "getter": g.chance(45), "setter": g.chance(45)}
		if strings.Contains(access, "final") {
			has["setter"] = false
		}
		if !has[on] {
			on = "field"
		}
		at := func(where string) string {
			if where == on {
				return mark
			}
			return ""
		}
		fmt.Fprintf(&b, "    %s%s%s %s%s;\n", at("field"), access, f.typ.src, f.name, initial)
		if has["getter"] {
			get := "get" + c
			if f.typ.src == "boolean" && g.chance(70) {
				get = "is" + c
			}
			fmt.Fprintf(&b, "    %s%s%s %s() { return %s; }\n", at("getter"), pick(g, "public ", "public ", "public ", ""), f.typ.src, get, f.name)
		}
		if has["setter"] {
			ret := pick(g, "void", "void", "void", name)
			end := ""
			if ret == name {
				end = " return this;"
			}
			fmt.Fprintf(&b, "    %s%s%s set%s(%s q) { this.%s = q;%s }\n", at("setter"), pick(g, "public ", "public ", "public ", "private ", ""), ret, c, f.typ.src, f.name, end)
		}
	}
	switch creator {
	case 0:
		var ps, as []string
		for i, f := range fields[:1+g.IntN(len(fields))] {
			ps = append(ps, fmt.Sprintf("@JsonProperty(%q) %s p%d", f.key, f.typ.src, i))
			as = append(as, fmt.Sprintf("this.%s = p%d;", f.name, i))
		}
		fmt.Fprintf(&b, "    @JsonCreator %s(%s) { %s }\n", name, strings.Join(ps, ", "), strings.Join(as, " "))
	case 1:
		var ps, as []string
		for i, f := range fields[:1+g.IntN(len(fields))] {
			ps = append(ps, fmt.Sprintf("@JsonProperty(%q) %s p%d", f.key, f.typ.src, i))
			as = append(as, fmt.Sprintf("if (p%d != q.%s) q.%s = p%d;", i, f.name, f.name, i))
		}
		fmt.Fprintf(&b, "    @JsonCreator static %s make(%s) { %s q = new %s(); %s return q; }\n", name, strings.Join(ps, ", "), name, name, strings.Join(as, " "))
	case 2:
		fmt.Fprintf(&b, "    public %s(%s q) { this.%s = q; }\n", name, fields[0].typ.src, fields[0].name)
		if g.chance(60) {
			fmt.Fprintf(&b, "    %s%s() { }\n", pick(g, "public ", "private ", ""), name)
		}
	case 3:
		fmt.Fprintf(&b, "    private %s() { }\n", name)
	case 4:
		fmt.Fprintf(&b, "    %s() { }\n    @JsonCreator(mode = JsonCreator.Mode.DELEGATING) %s(%s q) { this.%s = q; }\n", name, name, fields[0].typ.src, fields[0].name)
	case 5:
		fmt.Fprintf(&b, "    %s() { }\n    @JsonCreator public %s(%s q) { this.%s = q; }\n", name, name, fields[0].typ.src, fields[0].name)
	}
	switch g.IntN(12) {
	case 0:
		b.WriteString("    private final Map<String, Object> others = new HashMap<>();\n    @JsonAnySetter public void put(String key, Object v) { others.put(key, v); }\n")
	case 1:
		b.WriteString("    public Map<String, Object> getRest() { return null; }\n")
	case 2:
		b.WriteString("    private final List<String> marks = new ArrayList<>();\n    public List<String> getMarks() { return marks; }\n")
		fields[0] = field{name: fields[0].name, key: fields[0].key, typ: fields[0].typ}
	case 3:
		b.WriteString("    public boolean isNew() { return true; }\n")
	}
	return b.String() + "}\n"
}

// subtypes makes a class whose instances tell their class by a key.
func (g *maker) subtypes(name string, fields []field) string {
	one, two := g.class("Delay"), g.class("Stop")
	property := pick(g, `, property = "kind"`, `, property = "kind"`, "")
	visible := pick(g, "", ", visible = true")
	byDefault := pick(g, "", "", ", defaultImpl = "+one+".class")
	id := pick(g, `, name = "one"`, `, name = "one"`, "")
	if id == "" && g.chance(50) {
		id = ", name = \"\""
	}
	head := fmt.Sprintf("@JsonTypeInfo(use = JsonTypeInfo.Id.NAME%s%s%s)\n@JsonSubTypes({@JsonSubTypes.Type(value = %s.class%s), @JsonSubTypes.Type(value = %s.class, name = \"two\")})\n", property, visible, byDefault, one, id, two)
	kind := pick(g, "abstract class ", "class ")
	own := fields[:1+g.IntN(len(fields)-1)]
	body := ""
	for _, f := range own {
		body += fmt.Sprintf("    public %s %s%s;\n", f.typ.src, f.name, pick(g, "", g.initial(f.typ.src)))
	}
	rest := ""
	for _, f := range fields[len(own):] {
		rest += fmt.Sprintf("    public %s %s;\n", f.typ.src, f.name)
	}
	g.classes = append(g.classes, fmt.Sprintf("%sclass %s extends %s {\n%s}\n", pick(g, "", "@JsonIgnoreProperties(ignoreUnknown = true) "), one, name, rest), fmt.Sprintf("class %s extends %s { public String reason; }\n", two, name))
	key := "kind"
	if property == "" {
		key = "@type"
	}
	g.kinds = append(g.kinds, kindOf{fields, key, []string{"one", "two", one}})
	return head + kind + name + " {\n" + body + "}\n"
}

// kindOf is a class whose documents name their class.
type kindOf struct {
	fields []field
	key    string
	ids    []string
}

func (g *maker) java(root string) (models, api string) {
	imports := ""
	if strings.HasPrefix(g.kind, "lombok") {
		imports = "import lombok.*;\nimport lombok.experimental.Accessors;\nimport lombok.extern.jackson.Jacksonized;\n"
	}
	imports += "import java.math.*;\nimport java.net.*;\nimport java.util.*;\nimport java.util.concurrent.atomic.*;\n"
	if g.jackson() {
		models = imports + "import com.fasterxml.jackson.annotation.*;\nimport com.fasterxml.jackson.databind.*;\nimport com.fasterxml.jackson.databind.annotation.*;\n\n" + strings.Join(g.classes, "\n")
		setup := ""
		switch {
		case g.chance(35):
			setup = ".configure(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES, false)"
		case g.chance(25):
			setup = ".disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)"
		}
		for g.chance(40) {
			setup += "." + pick(g, "enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)", "enable(DeserializationFeature.ACCEPT_SINGLE_VALUE_AS_ARRAY)",
				"enable(DeserializationFeature.READ_UNKNOWN_ENUM_VALUES_AS_NULL)", "enable(DeserializationFeature.READ_UNKNOWN_ENUM_VALUES_USING_DEFAULT_VALUE)",
				"enable(DeserializationFeature.ACCEPT_EMPTY_STRING_AS_NULL_OBJECT)", "disable(DeserializationFeature.ACCEPT_FLOAT_AS_INT)",
				"enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)", "enable(DeserializationFeature.USE_LONG_FOR_INTS)",
				"enable(DeserializationFeature.UNWRAP_SINGLE_VALUE_ARRAYS)", "enable(DeserializationFeature.FAIL_ON_NUMBERS_FOR_ENUMS)",
				"enable(DeserializationFeature.ACCEPT_EMPTY_ARRAY_AS_NULL_OBJECT)", "enable(DeserializationFeature.FAIL_ON_MISSING_CREATOR_PROPERTIES)",
				"enable(DeserializationFeature.FAIL_ON_NULL_CREATOR_PROPERTIES)", "enable(DeserializationFeature.FAIL_ON_IGNORED_PROPERTIES)",
				"enable(DeserializationFeature.READ_ENUMS_USING_TO_STRING)", "disable(MapperFeature.ALLOW_COERCION_OF_SCALARS)",
				"enable(MapperFeature.ACCEPT_CASE_INSENSITIVE_PROPERTIES)", "enable(MapperFeature.ACCEPT_CASE_INSENSITIVE_ENUMS)",
				"setPropertyNamingStrategy(PropertyNamingStrategies.SNAKE_CASE)", "setPropertyNamingStrategy(PropertyNamingStrategies.LOWER_CAMEL_CASE)",
				"setPropertyNamingStrategy(PropertyNamingStrategies.UPPER_CAMEL_CASE)", "setVisibility(com.fasterxml.jackson.annotation.PropertyAccessor.FIELD, JsonAutoDetect.Visibility.ANY)",
				"enable(DeserializationFeature.USE_JAVA_ARRAY_FOR_JSON_ARRAY)", "enable(DeserializationFeature.FAIL_ON_READING_DUP_TREE_KEY)")
		}
		field := "new ObjectMapper()" + setup
		if strings.Contains(setup, "MapperFeature.A") {
			field = "JsonMapper.builder()" + strings.ReplaceAll(strings.ReplaceAll(setup, "setPropertyNamingStrategy", "propertyNamingStrategy"), "setVisibility", "visibility") + ".build()"
		}
		api = fmt.Sprintf("import com.fasterxml.jackson.annotation.*;\nimport com.fasterxml.jackson.databind.*;\nimport com.fasterxml.jackson.databind.json.JsonMapper;\n\nclass Api {\n    private final ObjectMapper mapper = %s;\n\n    %s load(String json) throws Exception {\n        return mapper.readValue(json, %s.class);\n    }\n}\n", field, root, root)
		return models, api
	}
	models = imports + "import com.google.gson.annotations.*;\n\n" + strings.Join(g.classes, "\n")
	return models, fmt.Sprintf("import com.google.gson.*;\n\nclass Api {\n    private final Gson gson = %s;\n\n    %s load(String json) {\n        return gson.fromJson(json, %s.class);\n    }\n}\n", g.builder(), root, root)
}

func (g *maker) builder() string {
	if g.chance(50) {
		return "new Gson()"
	}
	setup := ""
	for range 1 + g.IntN(2) {
		setup += "." + pick(g, "setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES)", "setFieldNamingPolicy(FieldNamingPolicy.UPPER_CAMEL_CASE)",
			"setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_DASHES)", "setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_DOTS)",
			"setFieldNamingPolicy(FieldNamingPolicy.UPPER_CAMEL_CASE_WITH_SPACES)", "setFieldNamingPolicy(FieldNamingPolicy.UPPER_CASE_WITH_UNDERSCORES)", "serializeNulls()", "setPrettyPrinting()",
			"excludeFieldsWithoutExposeAnnotation()", "setLenient()", "excludeFieldsWithModifiers(java.lang.reflect.Modifier.STATIC)",
			"excludeFieldsWithModifiers(java.lang.reflect.Modifier.PROTECTED)", "setObjectToNumberStrategy(ToNumberPolicy.LONG_OR_DOUBLE)",
			"setObjectToNumberStrategy(ToNumberPolicy.BIG_DECIMAL)", "setNumberToNumberStrategy(ToNumberPolicy.DOUBLE)", "enableComplexMapKeySerialization()", "disableHtmlEscaping()", "disableJdkUnsafe()")
	}
	return "new GsonBuilder()" + setup + ".create()"
}
