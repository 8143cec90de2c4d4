package source

import (
	"fmt"
	"sort"
	"strings"
	"testing"

	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// files makes sources of name and text in turn.
func files(pairs ...string) (out []scan.Source) {
	for i := 0; i+1 < len(pairs); i += 2 {
		out = append(out, scan.Source{Name: pairs[i], Text: pairs[i+1]})
	}
	return out
}

// TestDecoders finds the decoders that source builds, what it sets on them, and what it
// decodes with which.
func TestDecoders(t *testing.T) {
	const port = "class Port { String code; }\n"
	const portKt = "data class Port(val code: String)\n"
	for _, c := range []struct {
		name, file, source, want string
	}{
		{"a field", "A.java", port + `class C { final Gson gson = new Gson(); Port p(String s) { return gson.fromJson(s, Port.class); } }`, "Port gson"},
		{"on the spot", "A.java", port + `class C { Port p(String s) { return new GsonBuilder().setDateFormat("yyyy").create().fromJson(s, Port.class); } }`, "Port gson dates.pattern=yyyy"},
		{"a list", "A.java", port + `class C { Object p(Gson g, String s) { return g.fromJson(s, new TypeToken<List<Port>>() {}.getType()); } }`, "List<Port> gson"},
		{"a type in a variable", "A.java", port + `class C { Object p(Gson g, String s) { Type t = new TypeToken<Map<String, Port>>() {}.getType(); return g.fromJson(s, t); } }`, "Map<String, Port> gson"},
		{"an array", "A.java", port + `class C { Object p(Gson g, String s) { return g.fromJson(s, Port[].class); } }`, "Port[] gson"},
		{"a builder on lines of its own", "A.java", port + `class C { Gson g() { GsonBuilder b = new GsonBuilder(); b.setFieldNamingPolicy(FieldNamingPolicy.UPPER_CAMEL_CASE); b.excludeFieldsWithoutExposeAnnotation(); return b.create(); } }`, "- gson exposed=true naming=UPPER_CAMEL_CASE"},
		{"a mapper set later", "A.java", port + `class C { static final ObjectMapper M = new ObjectMapper(); static { M.configure(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES, false); M.setPropertyNamingStrategy(PropertyNamingStrategies.SNAKE_CASE); } Port p(String s) throws Exception { return M.readValue(s, Port.class); } }`, "Port jackson FAIL_ON_UNKNOWN_PROPERTIES=false naming=SNAKE_CASE"},
		{"a mapper's builder", "A.java", port + `class C { ObjectMapper m = JsonMapper.builder().enable(MapperFeature.ACCEPT_CASE_INSENSITIVE_PROPERTIES).disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES).propertyNamingStrategy(new PropertyNamingStrategies.KebabCaseStrategy()).build(); }`, "- jackson ACCEPT_CASE_INSENSITIVE_PROPERTIES=true FAIL_ON_UNKNOWN_PROPERTIES=false naming=KebabCase"},
		{"two mappers", "A.java", port + `class C { ObjectMapper strict = new ObjectMapper(); ObjectMapper loose = new ObjectMapper().disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES); void f(String s) throws Exception { strict.readValue(s, Port.class); loose.readValue(s, new TypeReference<List<Port>>() {}); } }`, "List<Port> jackson FAIL_ON_UNKNOWN_PROPERTIES=false; Port jackson"},
		{"two mappers, one on the spot", "A.java", port + `class C { ObjectMapper strict = new ObjectMapper(); void f(String s) throws Exception { new ObjectMapper().registerModule(new SimpleModule()).disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES).readValue(s, Port.class); } }`, "- jackson; Port jackson FAIL_ON_UNKNOWN_PROPERTIES=false"},
		{"two mappers, one copied", "A.java", port + `class C { ObjectMapper strict = new ObjectMapper(); ObjectMapper loose = new ObjectMapper().disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES); void f(String s) throws Exception { this.loose.copy().readValue(s, Port.class); } }`, "- jackson; Port jackson FAIL_ON_UNKNOWN_PROPERTIES=false"},
		{"two of Gson, one on the spot", "A.kt", portKt + "val gson = Gson()\nfun p(s: String): Port = GsonBuilder().apply { setDateFormat(\"dd\") }.create()!!.fromJson(s, Port::class.java)", "- gson; Port gson dates.pattern=dd"},
		{"an error that is dropped", "A.java", port + `class C { Port p(Gson g, String s) { try { return g.fromJson(s, Port.class); } catch (JsonSyntaxException e) { return null; } } }`, "Port gson dropped"},
		{"an error that is thrown on", "A.java", port + `class C { Port p(Gson g, String s) { try { return g.fromJson(s, Port.class); } catch (JsonSyntaxException e) { throw new IOException(e); } } }`, "Port gson"},
		{"a type parameter", "A.java", port + `class C { <T> T p(Gson g, String s, Class<T> c) { return g.fromJson(s, c); } }`, "- gson"},
		{"a module with a deserializer", "A.java", port + `class C { static final ObjectMapper M = new ObjectMapper().registerModule(new SimpleModule().addDeserializer(Date.class, new ShortDate()).addSerializer(Port.class, new W())); }`, "- jackson adapter.Date=custom"},
		{"a module made beside it", "A.java", port + `class C { static final ObjectMapper M = new ObjectMapper(); static { SimpleModule s = new SimpleModule("x"); s.addDeserializer(Trip.Kind.class, new K()); M.registerModule(s); } }`, "- jackson adapter.Kind=custom"},
		{"a module with a mix-in", "A.java", port + `class C { static final ObjectMapper M = new ObjectMapper().registerModule(new SimpleModule().setMixInAnnotation(Port.class, Mix.class)); }`, "- jackson mixIn.Port=Mix unfollowed=the mix-in Mix"},
		{"a module that reads all lists", "A.java", port + `class C { static final ObjectMapper M = new ObjectMapper().registerModule(new SimpleModule().addDeserializer(List.class, new L())); }`, "- jackson adapter.List=custom unfollowed=a deserializer of List"},
		{"a module with methods of its own", "A.java", port + `class C { static final ObjectMapper M = new ObjectMapper().registerModule(new SimpleModule() { @Override public void setupModule(SetupContext c) { c.addDeserializers(null); } }); }`, "- jackson unfollowed=setupModule"},
		{"a module from elsewhere", "A.java", port + `class C { static final ObjectMapper M = new ObjectMapper().registerModules(new JavaTimeModule(), new FerryModule()); }`, "- jackson module.JavaTimeModule=true unfollowed=the module FerryModule"},
		{"a module that is handed in", "A.java", port + `class C { C(Module m) { new ObjectMapper().registerModule(m); } }`, "- jackson unfollowed=the module m"},
		{"a mapper with defaults for nulls", "A.java", port + `class C { static final ObjectMapper M = JsonMapper.builder().defaultSetterInfo(JsonSetter.Value.forValueNulls(Nulls.SKIP)).build(); }`, "- jackson unfollowed=defaultSetterInfo"},
		{"coercions", "A.java", port + `class C { static final ObjectMapper M = new ObjectMapper(); static { M.coercionConfigFor(LogicalType.Enum).setCoercion(CoercionInputShape.EmptyString, CoercionAction.AsNull); } }`, "- jackson unfollowed=coercionConfigFor"},
		{"time zones", "A.java", port + `class C { ObjectMapper a = new ObjectMapper().setTimeZone(TimeZone.getTimeZone("Europe/Saltmere")); }`, "- jackson dates.zone=Europe/Saltmere"},
		{"a time zone that is found elsewhere", "A.java", port + `class C { ObjectMapper a = new ObjectMapper().setTimeZone(Zones.HOME); }`, "- jackson dates=custom"},
		{"the usual time zone", "A.java", port + `class C { ObjectMapper a = new ObjectMapper().setTimeZone(TimeZone.getTimeZone("UTC")); }`, "- jackson"},
		{"modules in Kotlin", "A.kt", portKt + "val mapper = ObjectMapper().registerModule(SimpleModule().apply { addDeserializer(Stop.Kind::class.java, K()) })", "- jackson adapter.Kind=custom"},
		{"a module as a value in Kotlin", "A.kt", portKt + "val short = SimpleModule()\n\t.addDeserializer(Date::class.java, ShortDate())\nval mapper = jacksonObjectMapper().apply { registerModule(short) }", "- jackson adapter.Date=custom module.KotlinModule=true"},
		{"an adapter of a type with arguments", "A.java", port + `class C { Gson g = new GsonBuilder().registerTypeAdapter(new TypeToken<List<Port>>() {}.getType(), new L()).create(); }`, "- gson adapter.List=custom"},
		{"an adapter of what is not told", "A.java", port + `class C { Gson g(Type t) { return new GsonBuilder().registerTypeAdapter(t, new L()).create(); } }`, "- gson unfollowed=registerTypeAdapter of t"},
		{"an adapter of all that extend a class", "A.java", port + `class C { Gson g = new GsonBuilder().registerTypeHierarchyAdapter(Port.class, new L()).registerTypeHierarchyAdapter(byte[].class, new L()).create(); }`, "- gson adapter.byte[]=custom unfollowed=registerTypeHierarchyAdapter of Port.class"},
		{"a factory of adapters", "A.java", port + `class C { Gson g = new GsonBuilder().registerTypeAdapterFactory(new F()).create(); }`, "- gson unfollowed=registerTypeAdapterFactory"},
		{"a factory for the subtypes of a class", "A.java", port + `class C { Gson g = new GsonBuilder().registerTypeAdapterFactory(RuntimeTypeAdapterFactory.of(Port.class, "kind").registerSubtype(A.class, "a")).create(); }`, "- gson adapter.Port=custom"},
		{"a module by its builder", "A.kt", portKt + "val mapper = JsonMapper.builder().addModule(KotlinModule.Builder().build()).addModule(kotlinModule()).build()", "- jackson module.KotlinModule=true"},
		{"a Kotlin module with features", "A.kt", portKt + "val mapper = ObjectMapper().registerModule(kotlinModule { enable(KotlinFeature.NullToEmptyCollection) })", "- jackson unfollowed=a KotlinModule with features"},
		{"the mapper of Kotlin", "A.kt", portKt + "val mapper = jacksonMapperBuilder().disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES).build()\nfun p(s: String): Port = mapper.readValue(s)", "Port jackson FAIL_ON_UNKNOWN_PROPERTIES=false module.KotlinModule=true"},
		{"Kotlin", "A.kt", portKt + "val gson = GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_DOTS).create()\nfun p(s: String): Port = gson.fromJson(s, Port::class.java)", "Port gson naming=LOWER_CASE_WITH_DOTS"},
		{"Kotlin, apply", "A.kt", portKt + "private val gson by lazy { GsonBuilder().apply { setDateFormat(\"dd\") }.create() }\nfun p(s: String) = gson.fromJson<List<Port>>(s, object : TypeToken<List<Port>>() {}.type)", "List<Port> gson dates.pattern=dd"},
		{"Kotlin, an adapter", "A.kt", portKt + "val gson: Gson = GsonBuilder().registerTypeAdapter(Date::class.java, DateAdapter()).create()", "- gson adapter.Date=custom"},
		{"a service", "A.kt", portKt + "interface Api {\n @GET(\"v2/ports\") suspend fun ports(): Response<List<Port>>\n @DELETE(\"x\") fun gone(): Call<Void>\n @Other fun no(): Port }\nval g = Gson()\nval r = Retrofit.Builder().addConverterFactory(GsonConverterFactory.create(g))", "List<Port> gson at v2/ports"},
		{"a service in Java", "A.java", port + `interface Api { @GET("v2/ports/{id}") Single<Port> port(@Path("id") String id); @HTTP(method = "GET", path = "v2/x") Call<Map<String, Port>> x(); } class R { Object r = new Retrofit.Builder().addConverterFactory(JacksonConverterFactory.create()); }`, "Map<String, Port> jackson at v2/x; Port jackson at v2/ports/{id}"},
		{"by hand", "A.java", `class Port { String code; static Port of(JSONObject o) { Port p = new Port(); p.code = o.getString("code"); return p; } } class C { Port p(String s) { return Port.of(new JSONObject(s)); } }`, "Port orgjson"},
		{"in a comment and a string", "A.java", port + `class C { /* new Gson().fromJson(s, Port.class) */ String s = "new Gson()"; }`, ""},
	} {
		set := Read(files(c.file, c.source))
		var got []string
		for _, call := range set.Calls {
			text := "-"
			if call.Type != nil {
				text = jvm.TypeText(call.Type)
			}
			if call.Settings != nil {
				text += " " + call.Settings.Library
				var options []string
				for name, o := range call.Settings.Options {
					options = append(options, " "+name+"="+o.Value)
				}
				sort.Strings(options)
				text += strings.Join(options, "")
			}
			if call.Swallowed {
				text += " dropped"
			}
			if call.Endpoint != "" {
				text += " at " + call.Endpoint
			}
			got = append(got, text)
		}
		sort.Strings(got)
		if text := strings.Join(got, "; "); text != c.want {
			t.Errorf("%s:\n got %s\nwant %s", c.name, text, c.want)
		}
	}
}

// TestNamesAcrossFiles: what a name means, by package and import.
func TestNamesAcrossFiles(t *testing.T) {
	set := Read(files(
		"a/Port.java", "package ferry.a; public class Port { int a; public static class Berth { int n; } }",
		"b/Port.kt", "package ferry.b\ndata class Port(val b: Int)\ntypealias Ports = List<Port>",
		"a/Same.java", "package ferry.a; class Same { Port p; Port.Berth own; }",
		"c/Imported.java", "package ferry.c; import ferry.b.Port; class Imported { Port p; ferry.a.Port q; ferry.a.Port.Berth r; }",
		"c/Star.kt", "package ferry.c\nimport ferry.b.*\nimport ferry.a.Port.Berth as Quay\nclass Star(val p: Port, val all: Ports, val q: Quay)",
		"c/Foreign.java", "package ferry.c; import com.other.Port; class Foreign { Port p; }",
		"c/Sub.java", "package ferry.c; import ferry.a.Port; class Sub extends Port { Berth inherited; }",
		"c/Shadow.kt", "package ferry.c\nclass Shadow(val p: Port) { class Port(val own: Int) }",
	))
	got := map[string]string{}
	for _, m := range set.Models {
		for _, f := range m.Fields {
			text := ""
			f.Type.Walk(func(t *model.Type) {
				if t.Kind == model.List {
					text += "list of "
				}
				if t.Model != nil {
					text += t.Model.Name + " in " + t.Model.Pos.File
				} else if t.Kind == model.Named {
					text += t.Name
				}
			})
			got[m.Name+"."+f.Name+"@"+m.Pos.File] = text
		}
	}
	for name, want := range map[string]string{
		"Same.p@a/Same.java":         "Port in a/Port.java",
		"Same.own@a/Same.java":       "Port.Berth in a/Port.java",
		"Imported.p@c/Imported.java": "Port in b/Port.kt",
		"Imported.q@c/Imported.java": "Port in a/Port.java",
		"Imported.r@c/Imported.java": "Port.Berth in a/Port.java",
		"Star.p@c/Star.kt":           "Port in b/Port.kt",
		"Star.all@c/Star.kt":         "list of Port in b/Port.kt",
		"Star.q@c/Star.kt":           "Port.Berth in a/Port.java",
		"Foreign.p@c/Foreign.java":   "com.other.Port",
		"Sub.inherited@c/Sub.java":   "Port.Berth in a/Port.java",
		"Shadow.p@c/Shadow.kt":       "Shadow.Port in c/Shadow.kt",
		"Port.a@a/Port.java":         "int",
		"Port.b@b/Port.kt":           "Int",
	} {
		if got[name] != want {
			t.Errorf("%s is %q, want %q", name, got[name], want)
		}
	}
	if len(set.Models) < 9 {
		t.Errorf("only %d models", len(set.Models))
	}
}

// TestAnnotations: names, targets, arrays, nested annotations and constants.
func TestAnnotations(t *testing.T) {
	for source, want := range map[string]string{
		`class A { @SerializedName("a") int x; }`:                                                  "SerializedName value=[a]",
		`class A { @SerializedName(value = "a", alternate = {"b", "c"}) int x; }`:                  "SerializedName alternate=[b c] value=[a]",
		`class A { @com.google.gson.annotations.SerializedName("a" + "b") int x; }`:                "SerializedName value=[ab]",
		`class A { @JsonFormat(shape = JsonFormat.Shape.STRING, pattern = "yyyy") int x; }`:        "JsonFormat pattern=[yyyy] shape=[JsonFormat.Shape.STRING]",
		`class A { @JsonDeserialize(using = X.class, as = Map.Entry.class) int x; }`:               "JsonDeserialize as=[Map.Entry] using=[X]",
		`class A { @JsonProperty(required = true, access = Access.READ_ONLY) @Deprecated int x; }`: "JsonProperty access=[Access.READ_ONLY] required=[true]; Deprecated ",
		`class A { @T({@S(value = X.class, name = "x"), @S(Y.class)}) int x; }`:                    "T value=[][S name=[x] value=[X]; S value=[Y]]",
		`class A { @Size(min = 1, max = (2 + 3)) int x; }`:                                         "Size max=[(2 + 3)] min=[1]",
	} {
		checkMarks(t, "A.java", source, want)
	}
	for source, want := range map[string]string{
		`class A(@SerializedName("a") val x: Int)`:                                       "SerializedName value=[a]",
		`class A(@field:SerializedName(value = "a", alternate = ["b", "c"]) val x: Int)`: "SerializedName@field alternate=[b c] value=[a]",
		`class A(@get:[One Two("x")] @Three @field:[Four Five("x")] val x: Int)`:         "Three ; Four@field ; Five@field value=[x]", // those of the getter are not the field's
		`class A(@T(S(X::class, name = "x"), arrayOf("a")) val x: Int)`:                  "T value=[a][S name=[x] value=[X]]",
		"class A(\n  @SerializedName(\n    \"a\"\n  )\n  val x: Int)":                    "SerializedName value=[a]",
		`class A { @Transient @JvmField var x: Int = 1 }`:                                "Transient ; JvmField ",
	} {
		checkMarks(t, "A.kt", source, want)
	}
}

func checkMarks(t *testing.T, file, source, want string) {
	t.Helper()
	set := Read(files(file, source))
	if len(set.Models) != 1 || len(set.Models[0].Fields) != 1 {
		t.Fatalf("%s: %d models", source, len(set.Models))
	}
	if got := marksText(set.Models[0].Fields[0].Marks); got != want {
		t.Errorf("%s\n got %s\nwant %s", source, got, want)
	}
}

func marksText(marks []model.Annotation) string {
	var all []string
	for _, a := range marks {
		text := a.Name
		if a.Target != "" {
			text += "@" + a.Target
		}
		var args []string
		for _, arg := range a.Args {
			one := fmt.Sprintf("%s=%v", arg.Name, arg.Texts)
			if len(arg.Marks) > 0 {
				one += "[" + marksText(arg.Marks) + "]"
			}
			args = append(args, one)
		}
		sort.Strings(args)
		all = append(all, text+" "+strings.Join(args, " "))
	}
	return strings.Join(all, "; ")
}

// TestLombok: the accessors and constructors that its annotations generate.
func TestLombok(t *testing.T) {
	const fields = "private boolean isOpen; private Boolean isFull; private final int id; private String aName = \"x\"; static int n; }"
	for marks, want := range map[string]string{
		"@Data":                    "getAName/0 getId/0 getIsFull/0 isOpen/0 setAName/1 setIsFull/1 setOpen/1 | C/1",
		"@Getter":                  "getAName/0 getId/0 getIsFull/0 isOpen/0 | ",
		"@Setter":                  "setAName/1 setIsFull/1 setOpen/1 | ",
		"@Value":                   "getAName/0 getId/0 getIsFull/0 isOpen/0 | C/3",
		"@NoArgsConstructor":       " | C/0",
		"@AllArgsConstructor":      " | C/4",
		"@Builder":                 " | C/4",
		"@Data @NoArgsConstructor": "getAName/0 getId/0 getIsFull/0 isOpen/0 setAName/1 setIsFull/1 setOpen/1 | C/0",
		"@RequiredArgsConstructor": " | C/1",
		"@Data @AllArgsConstructor @NoArgsConstructor": "getAName/0 getId/0 getIsFull/0 isOpen/0 setAName/1 setIsFull/1 setOpen/1 | C/0 C/4",
	} {
		set := Read(files("C.java", marks+" class C { "+fields))
		m := set.Find("C")
		if m == nil {
			t.Fatal("no model")
		}
		names := func(all []*model.Method) string {
			var out []string
			for _, f := range all {
				out = append(out, fmt.Sprintf("%s/%d", f.Name, len(f.Params)))
			}
			sort.Strings(out)
			return strings.Join(out, " ")
		}
		if got := names(m.Methods) + " | " + names(m.Ctors); got != want {
			t.Errorf("%s\n got %s\nwant %s", marks, got, want)
		}
	}
}

// TestConstructors: which constructors a class has, and what they fill.
func TestConstructors(t *testing.T) {
	for _, c := range []struct{ file, source, want string }{
		{"C.java", "class C { int a; int b; C(int a, int b) { this.a = a; b = b; } }", "C(a b)"},
		{"C.java", "class C { int a; C() { } private C(int x) { a = x; } }", "C() C(a)"},
		{"C.java", "class C { int a; C(int x) { a = x + 1; } }", "C(-)"},
		{"C.java", "record C(int a, String b) { C { a = 1; } }", "C(a b)"},
		{"C.java", "record C(int a, String b) { C(int a) { this(a, null); } }", "C(-) C(a b)"},
		{"C.kt", "class C(val a: Int, b: Int)", "C(a -)"},
		{"C.kt", "class C(val a: Int = 1, var b: String? = null)", "C(a b) C()"},
		{"C.kt", "class C { var a = 1 }", "C()"},
		{"C.kt", "class C { var a = 1; constructor(x: Int) { a = x } }", "C(-)"},
		{"C.kt", "class C private constructor(val a: Int) { constructor() : this(1) }", "C(a) C()"},
		{"C.kt", "@Keep class C @Inject internal constructor(@Named(\"x\") val a: Int)", "C(a)"},
	} {
		set := Read(files(c.file, c.source))
		m := set.Find("C")
		if m == nil {
			t.Fatal(c.source)
		}
		var out []string
		for _, k := range m.Ctors {
			var fills []string
			for i := range k.Params {
				fill := "-"
				if i < len(k.Fills) && k.Fills[i] != "" {
					fill = k.Fills[i]
				}
				fills = append(fills, fill)
			}
			out = append(out, "C("+strings.Join(fills, " ")+")")
		}
		if got := strings.Join(out, " "); got != c.want {
			t.Errorf("%s\n got %s\nwant %s", c.source, got, c.want)
		}
	}
}
