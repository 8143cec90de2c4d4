package source_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
)

// decoded are the types that source decodes, in order of their places: with the library, the
// endpoint of a request, and whether the error is dropped.
func decoded(files ...scan.Source) string {
	set := source.Read(files)
	calls := slices.Clone(set.Calls)
	var all []string
	slices.SortStableFunc(calls, func(a, b *model.Call) int {
		if a.Pos.Line != b.Pos.Line {
			return int(a.Pos.Line - b.Pos.Line)
		}
		return int(a.Pos.Col - b.Pos.Col)
	})
	for _, c := range calls {
		text := "?"
		if c.Type != nil {
			text = jvm.TypeText(c.Type)
		}
		if c.Settings != nil {
			text += " " + c.Settings.Library
		}
		if c.Endpoint != "" {
			text += " " + c.Endpoint
		}
		if c.Swallowed {
			text += " dropped"
		}
		all = append(all, text)
	}
	return strings.Join(all, "; ")
}

// TestCallsKotlin: what a call of Gson or of the HTTP client's interface decodes.
func TestCallsKotlin(t *testing.T) {
	for _, c := range []struct{ body, want string }{
		{`fun f(s: String) = gson.fromJson(s, Port::class.java)`, "Port gson"},
		{`fun f(s: String): Port? = gson?.fromJson(s, Port::class.java)`, "Port gson"},
		{`fun f(s: String) = gson.fromJson<Port>(s, Port::class.java)`, "Port gson"},
		{`fun f(s: String): List<Port> = gson.fromJson(s, object : TypeToken<List<Port>>() {}.type)`, "List<Port> gson"},
		{`fun f(s: String) = gson.fromJson<Page<Port>>(s, TypeToken.getParameterized(Page::class.java, Port::class.java).type)`, "Page<Port> gson"},
		{`fun f(s: String): Page<Port> = gson.fromJson(s, TypeToken.getParameterized(Page::class.java, Port::class.java).type)`, "Page<Port> gson"},
		{`fun f(s: String): Any = gson.fromJson(s, TypeToken.getParameterized(List::class.java, TypeToken.getParameterized(Page::class.java, Port::class.java).type).type)`, "List<Page<Port>> gson"},
		{`fun f(s: String) = gson.fromJson(s, Array<Port>::class.java).toList()`, "Array<Port> gson"},
		{`fun f(s: String) = gson.getAdapter(Port::class.java).fromJson(s)`, "Port gson"},
		{`fun f(s: String) = gson.getAdapter(object : TypeToken<List<Port>>() {}).fromJson(s)`, "List<Port> gson"},
		{`fun f(o: JsonObject) = gson.fromJson(o.get("x"), Port::class.java)`, "Port gson"},
		{`fun f(o: JsonObject) = gson.fromJson(parse(o, Page::class.java), Port::class.java)`, "Port gson"},
		{`val type = object : TypeToken<Map<String, Port>>() {}.type; fun f(s: String): Map<String, Port> = gson.fromJson(s, type)`, "Map<String, Port> gson"},
		{`val type: java.lang.reflect.Type = TypeToken.getParameterized(Page::class.java, Port::class.java).type
			fun f(s: String): Page<Port> = gson.fromJson(s, type)`, "Page<Port> gson"},
		// A helper is told the type where it is called.
		{`inline fun <reified T> Gson.from(s: String): T = fromJson(s, object : TypeToken<T>() {}.type); fun f(s: String) = gson.from<Page<Port>>(s)`, "? gson; Page<Port> gson"},
		{`inline fun <reified T> parse(s: String): T { return gson.fromJson(s, T::class.java) }; fun f(s: String) = parse<Port>(s); fun g(s: String) = parse<List<Port?>>(s)`, "? gson; Port gson"},
		{`inline fun <reified T> parse(s: String): T = gson.fromJson(s, T::class.java); fun f(s: String) = reparse<Port>(s); fun g() = if (a.parse<b) c else d`, ""},
		{`fun fromJson(s: String) = Port(s); fun f(s: String) = fromJson(s)`, ""},
		// Errors that get lost.
		{`fun f(s: String) = try { gson.fromJson(s, Port::class.java) } catch (e: Exception) { null }`, "Port gson dropped"},
		{`fun f(s: String) = try { gson.fromJson(s, Port::class.java) } catch (e: Exception) { throw Bad(e) }`, "Port gson"},
		{`fun f(s: String) = try { gson.fromJson(s, Port::class.java) } catch (e: Exception) { onError(e); null }`, "Port gson"},
		{`fun f(s: String) = runCatching { gson.fromJson(s, Port::class.java) }.getOrNull()`, "Port gson dropped"},
		{`fun f(s: String) = runCatching { gson.fromJson(s, Port::class.java) }.getOrDefault(none)`, "Port gson dropped"},
		{`fun f(s: String) = runCatching { gson.fromJson(s, Port::class.java) }.getOrThrow()`, "Port gson"},
		{`fun f(s: String) = runCatching { gson.fromJson(s, Port::class.java) }.onFailure { report(it) }`, "Port gson"},
		// Requests.
		{`interface Api { @GET("v1/ports") suspend fun f(): Response<Page<List<Port>>> }`, "Page<List<Port>> gson v1/ports"},
		{`interface Api { @GET("v1/ports") fun f(): Single<Page<Port>> }`, "Page<Port> gson v1/ports"},
		{`interface Api { @GET("v1/ports") fun f(): Deferred<Response<List<Port>>> }`, "List<Port> gson v1/ports"},
		{`interface Api { @GET("v1/ports") fun f(): LiveData<Page<Port>> }`, "Page<Port> gson v1/ports"},
		{`interface Api { @GET("v1/ports") suspend fun f(): Outcome<Page<Port>, Failure> }`, "Page<Port> gson v1/ports"},
		{`interface Api { @GET("v1/ports") suspend fun f(): Port? }`, "Port? gson v1/ports"},
		{`interface Api { @GET("v1/ports") suspend fun f(): Map<String, Port> }`, "Map<String, Port> gson v1/ports"},
		{`interface Api { @GET suspend fun f(@Url url: String): Port }`, "Port gson"},
		{`interface Api { @HTTP(method = "DELETE", path = "v1/ports", hasBody = true) suspend fun f(): Port }`, "Port gson v1/ports"},
		{`interface Api { @POST("v1/ports") suspend fun f(@Body p: Port) }`, ""},
		{`interface Api { @POST("v1/ports") suspend fun f(@Body p: Port): Unit; @POST("a") fun g(): Completable; @GET("b") fun h(): Call<ResponseBody>; @GET("c") suspend fun i(): Response<Unit>; @GET("d") fun j(): Call<Void> }`, ""},
		{`interface Api { @Headers("Accept: a") @GET("v1/{line}/ports") suspend fun f(@Path("line") line: Int, @Query("q") q: String? = null): List<Port> }`, "List<Port> gson v1/{line}/ports"},
		{`interface Api { fun f(): List<Port>; @Deprecated("GET") fun g(): Port }`, ""},
	} {
		text := "package app\nimport com.google.gson.*\nimport com.google.gson.reflect.TypeToken\nval gson = Gson()\nclass Port(val code: String)\nclass Page<T>(val items: List<T>)\n" + c.body
		got := decoded(scan.Source{Name: "A.kt", Text: text})
		// The decoder that is built, where nothing uses it.
		if got = strings.TrimPrefix(strings.TrimPrefix(got, "? gson"), "; "); c.want == "" && got == "" {
			continue
		}
		if want := strings.TrimPrefix(c.want, "? gson; "); got != want {
			t.Errorf("%s\n got %s\nwant %s", c.body, got, want)
		}
	}
}

// TestCallsJava: what a call of Jackson decodes.
func TestCallsJava(t *testing.T) {
	for _, c := range []struct{ body, want string }{
		{`Port f(String s) throws Exception { return MAPPER.readValue(s, Port.class); }`, "Port jackson"},
		{`Port f(String s) throws Exception { return MAPPER.<Port>readValue(s, type); }`, "Port jackson"},
		{`List<Port> f(String s) throws Exception { return MAPPER.readValue(s, new TypeReference<List<Port>>() {}); }`, "List<Port> jackson"},
		{`List<Port> f(String s) throws Exception { return MAPPER.readValue(s, REF); } static final TypeReference<List<Port>> REF = new TypeReference<>() {};`, "List<Port> jackson"},
		{`Port[] f(String s) throws Exception { return MAPPER.readValue(s, Port[].class); }`, "Port[] jackson"},
		{`Page<Port> f(String s) throws Exception { return MAPPER.readValue(s, MAPPER.getTypeFactory().constructParametricType(Page.class, Port.class)); }`, "Page<Port> jackson"},
		{`Page<Port> f(String s) throws Exception { JavaType t = MAPPER.getTypeFactory().constructParametricType(Page.class, Port.class); return MAPPER.readValue(s, t); }`, "Page<Port> jackson"},
		{`List<Port> f(String s) throws Exception { return MAPPER.readValue(s, MAPPER.getTypeFactory().constructCollectionType(List.class, Port.class)); }`, "List<Port> jackson"},
		{`Map<String, Port> f(String s) throws Exception { return MAPPER.readValue(s, MAPPER.getTypeFactory().constructMapType(Map.class, String.class, Port.class)); }`, "Map<String, Port> jackson"},
		{`Object f(String s) throws Exception { return MAPPER.readValue(s, F.constructMapType(Map.class, F.constructType(String.class), F.constructCollectionType(List.class, Port.class))); }`, "Map<String, List<Port>> jackson"},
		{`Port f(JsonNode n) throws Exception { return MAPPER.treeToValue(n.get("x"), Port.class); }`, "Port jackson"},
		{`Port f(Map<String, Object> m) { return MAPPER.convertValue(m, Port.class); }`, "Port jackson"},
		{`Port f(String s) throws Exception { return MAPPER.readerFor(Port.class).readValue(s); }`, "Port jackson"},
		{`Port f(String s) throws Exception { return MAPPER.readerFor(Port.class).with(F.A).without(F.B).readValue(s); }`, "Port jackson"},
		{`Port f(String s) throws Exception { return MAPPER.reader().forType(Port.class).readValue(s); }`, "Port jackson"},
		{`Port f(String s) throws Exception { return MAPPER.reader().forType(new TypeReference<Page<Port>>() {}).readValue(s); }`, "Page<Port> jackson"},
		{`Port f(String s) { try { return MAPPER.readValue(s, Port.class); } catch (Exception e) { return null; } }`, "Port jackson dropped"},
		{`Port f(String s) { try (Reader r = open(s)) { return MAPPER.readValue(r, Port.class); } catch (IOException | RuntimeException e) { log(e.getMessage()); return new Port(); } }`, "Port jackson dropped"},
		{`Port f(String s) { try { return MAPPER.readValue(s, Port.class); } catch (Exception e) { throw new RuntimeException(e); } }`, "Port jackson"},
		{`Port f(String s) throws Exception { return MAPPER.readValue(s, app.Port.class); }`, "Port jackson"},
		{`Port f(String s) throws Exception { return MAPPER.readValue(s, Page.Link.class); }`, "Page.Link jackson"},
	} {
		text := "package app;\nimport com.fasterxml.jackson.databind.*;\nimport java.util.*;\nclass Port { public String code; }\nclass Page<T> { public List<T> items; static class Link { public String href; } }\nclass Use {\nstatic final ObjectMapper MAPPER = new ObjectMapper();\n" + c.body + "\n}"
		if got := decoded(scan.Source{Name: "A.java", Text: text}); got != c.want {
			t.Errorf("%s\n got %s\nwant %s", c.body, got, c.want)
		}
	}
}

// TestCallsAcrossFiles: a helper of one file and language is called in another.
func TestCallsAcrossFiles(t *testing.T) {
	helper := scan.Source{Name: "Json.kt", Text: "package core\nimport com.google.gson.*\nval gson = GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.UPPER_CAMEL_CASE).create()\ninline fun <reified T> String.parsed(): T = gson.fromJson(this, T::class.java)\n"}
	var files []scan.Source
	for i := range 3 {
		files = append(files, scan.Source{Name: fmt.Sprintf("U%d.kt", i), Text: fmt.Sprintf("package app%d\nimport core.parsed\nclass Port%d(val code: String)\nfun f(s: String) {\n val x = s.parsed<Port%d>()\n}", i, i, i)})
	}
	set := source.Read(append(files, helper))
	got := map[string]string{}
	for _, c := range set.Calls {
		if c.Type != nil && c.Type.Model != nil {
			got[c.Pos.String()] = c.Type.Name + " " + c.Settings.Option("naming")
		}
	}
	for i := range 3 {
		if at, want := fmt.Sprintf("U%d.kt:5:12", i), fmt.Sprintf("Port%d UPPER_CAMEL_CASE", i); got[at] != want {
			t.Errorf("%s: %q, want %q; all: %v", at, got[at], want, got)
		}
	}
}
