package trial

import (
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/source"
	"vetta/internal/source/scan"
)

// TestCodeJVM takes documents through code that reads org.json by hand, and through the
// less common forms of Gson and Jackson. Each case has the source of a type named M, then
// documents with what the app sees.
func TestCodeJVM(t *testing.T) {
	for _, c := range []struct {
		name, file, source string
		docs               [][2]string
	}{
		{"a constructor", "M.java", `import org.json.*; class M { int id; String name; double fare = 2; boolean open; Long big;
			M(JSONObject o) throws JSONException { id = o.getInt("id"); this.name = o.optString("name"); fare = o.optDouble("fare", 1.5); open = o.optBoolean("open"); big = o.has("big") ? o.getLong("big") : null; } }`, [][2]string{
			{`{"id":7,"name":"a","fare":3,"open":true,"big":5}`, `{"id":7,"name":"a","fare":3.0,"open":true,"big":5}`},
			{`{"id":"8"}`, `{"id":8,"name":"","fare":1.5,"open":false,"big":null}`},
			{`{"id":1.9,"name":null,"fare":"x","open":"TRUE"}`, `{"id":1,"name":"null","fare":1.5,"open":true,"big":null}`},
			{`{"id":"x"}`, `JSONException: Value x at id of type java.lang.String cannot be converted to int`},
			{`{"id":null}`, `JSONException: Value null at id of type org.json.JSONObject$1 cannot be converted to int`},
			{`{}`, `JSONException: No value for id`},
			{`[]`, `JSONException: Value [] of type org.json.JSONArray cannot be converted to JSONObject`},
		}},
		{"models in models", "M.java", `import org.json.*; import java.util.*; class Berth { int n; static Berth of(JSONObject o) throws JSONException { Berth b = new Berth(); b.n = o.getInt("n"); return b; } }
			class M { Berth first; final List<Berth> all = new ArrayList<>(); List<String> tags;
			static M from(JSONObject o) throws JSONException { M m = new M(); m.first = Berth.of(o.getJSONObject("first"));
				JSONArray list = o.getJSONArray("berths"); for (int i = 0; i < list.length(); i++) m.all.add(Berth.of(list.getJSONObject(i)));
				List<String> tags = new ArrayList<>(); JSONArray t = o.getJSONArray("tags"); for (int i = 0; i < t.length(); ++i) { tags.add(t.getString(i)); } m.tags = tags; return m; } }`, [][2]string{
			{`{"first":{"n":1},"berths":[{"n":2},{"n":"3"}],"tags":["a",1]}`, `{"first":{"n":1},"all":[{"n":2},{"n":3}],"tags":["a","1"]}`},
			{`{"first":{"n":1},"berths":[{"n":2},5],"tags":[]}`, `JSONException: Value 5 at 1 of type java.lang.Integer cannot be converted to JSONObject`},
			{`{"first":[],"berths":[],"tags":[]}`, `JSONException: Value [] at first of type org.json.JSONArray cannot be converted to JSONObject`},
		}},
		{"a companion", "M.kt", `import org.json.JSONObject
			data class M(val id: Int, val name: String, val note: String?) { companion object { private const val NOTE = "note"
				fun fromJson(json: JSONObject): M = M(id = json.getInt("id"), name = json.getString("name"), note = if (json.isNull(NOTE)) null else json.getString(NOTE)) } }`, [][2]string{
			{`{"id":1,"name":"a","note":"n"}`, `{"id":1,"name":"a","note":"n"}`},
			{`{"id":1,"name":5}`, `{"id":1,"name":"5","note":null}`},
			{`{"id":1,"name":"a","note":null}`, `{"id":1,"name":"a","note":null}`},
			{`{"id":1}`, `JSONException: No value for name`},
		}},
		{"not followed", "M.java", `import org.json.*; class M { int id; M(JSONObject o) throws JSONException { id = Cipher.open(o.getString("id")); } }`, [][2]string{
			{`{"id":"x"}`, `{}`},
			{`{}`, `JSONException: No value for id`},
		}},
		{"a loop that is left, and its label", "M.java", `import org.json.*; import java.util.*; class M { final List<Integer> left = new ArrayList<>(); final List<Integer> skipped = new ArrayList<>(); final List<Integer> whole = new ArrayList<>();
			M(JSONObject o) throws JSONException { JSONArray a = o.getJSONArray("a");
				outer: for (int i = 0; i < a.length(); i++) { if (a.getInt(i) == 3) break outer; left.add(a.getInt(i)); }
				for (int i = 0; i < a.length(); i++) { if (a.getInt(i) == 3) continue; skipped.add(a.getInt(i)); }
				all: for (int i = 0; i < a.length(); i++) { whole.add(a.getInt(i)); } } }`, [][2]string{
			{`{"a":[1,2,3,4]}`, `{"skipped":[1,2,4],"whole":[1,2,3,4]}`}, {`{}`, `JSONException: No value for a`},
		}},
		{"a loop over keys that ends the reading", "M.java", `import org.json.*; import java.util.*; class M { final Map<String, Integer> m = new HashMap<>();
			M(JSONObject o) { for (String k : o.keySet()) { if (o.optInt(k) == 3) return; m.put(k, o.optInt(k)); } } }`, [][2]string{{`{"a":1,"b":3,"c":5}`, `not claimed`}}},
		{"setters", "M.java", `import org.json.*; class M { private int id; private String name; public void setId(int id) { this.id = id; } public void setName(String n) { name = n; }
			static M of(JSONObject o) throws JSONException { M m = new M(); if (o.has("id") && !o.isNull("id")) { m.setId(o.getInt("id")); } else { m.setId(-1); } m.setName(o.getJSONObject("vessel").getString("name")); return m; } }`, [][2]string{
			{`{"id":4,"vessel":{"name":"Tern"}}`, `{"id":4,"name":"Tern"}`},
			{`{"id":null,"vessel":{"name":"Tern"}}`, `{"id":-1,"name":"Tern"}`},
			{`{"vessel":{}}`, `JSONException: No value for name`},
		}},
		{"keys into a map", "M.kt", `import org.json.JSONObject
			class M { val by = HashMap<String, Int>(); var names: Map<String, String> = emptyMap()
			companion object { fun of(o: JSONObject): M { val m = M(); val fares = o.getJSONObject("fares"); for (k in fares.keys()) { m.by[k] = fares.getInt(k) }
				val names = mutableMapOf<String, String>(); o.optJSONObject("names")?.let { n -> n.keys().forEach { key -> names[key] = n.optString(key, "none") } }; m.names = names; return m } } }`, [][2]string{
			{`{"fares":{"a":1,"b":"2"},"names":{"x":"y","z":null}}`, `{"by":{"a":1,"b":2},"names":{"x":"y","z":"null"}}`},
			{`{"fares":{}}`, `{"by":{},"names":{}}`},
			{`{"fares":{"a":"x"}}`, `JSONException: Value x at a of type java.lang.String cannot be converted to int`},
			{`{"fares":[]}`, `JSONException: Value [] at fares of type org.json.JSONArray cannot be converted to JSONObject`},
			{`{}`, `JSONException: No value for fares`},
		}},
		{"the key of another object", "M.java", `import org.json.*; import java.util.*; class M { Map<String, Integer> by = new HashMap<>();
			M(JSONObject o) throws JSONException { JSONObject f = o.getJSONObject("f"); Iterator<String> it = f.keys(); while (it.hasNext()) { String k = it.next(); by.put(k, o.optInt(k)); } } }`, [][2]string{
			{`{"f":{"a":1},"a":2}`, `{}`},
		}},
		{"a block per element", "M.kt", `import org.json.*
			class Stop(val code: String, val order: Int)
			class M(val stops: List<Stop>) { companion object { fun of(o: JSONObject): M { val a = o.getJSONArray("stops")
				return M(List(a.length()) { i -> val s = a.getJSONObject(i)
					Stop(s.getString("code"), order = s.optInt("order", -1)) }) } } }`, [][2]string{
			{`{"stops":[{"code":"SAL","order":2},{"code":"MER"}]}`, `{"stops":[{"code":"SAL","order":2},{"code":"MER","order":-1}]}`},
			{`{"stops":[{"order":2}]}`, `JSONException: No value for code`},
			{`{"stops":[null]}`, `JSONException: Value null at 0 of type org.json.JSONObject$1 cannot be converted to JSONObject`},
		}},
		{"a local that one branch assigns", "M.java", `import org.json.*; class M { String a, b; int n;
			M(JSONObject o) throws JSONException { String s = "none"; if (o.has("a")) { s = o.getString("a"); } a = s;
				int i; if (o.optBoolean("big")) { i = o.getInt("n"); } else i = 1; n = i;
				String t = null; try { t = "x"; b = o.getString("b"); } catch (JSONException e) { b = "bad"; } } }`, [][2]string{
			{`{}`, `{"a":"none","b":"bad","n":1}`},
			{`{"a":"A","b":"B","big":true,"n":5}`, `{"a":"A","b":"B","n":5}`},
			{`{"big":true}`, `JSONException: No value for n`},
			{`{"n":"x"}`, `{"a":"none","b":"bad","n":1}`},
		}},
		{"switch", "M.java", `import org.json.*; enum Kind { FOOT, CAR, NONE } class M { Kind kind; int decks;
			M(JSONObject o) throws JSONException { switch (o.optString("kind", "none")) { case "foot": case "walk": kind = Kind.FOOT; break; case "car": { kind = Kind.CAR; decks = o.getInt("decks"); break; } default: kind = Kind.NONE; } } }`, [][2]string{
			{`{"kind":"walk"}`, `{"kind":"FOOT","decks":0}`},
			{`{"kind":"foot","decks":3}`, `{"kind":"FOOT","decks":0}`},
			{`{"kind":"car","decks":3}`, `{"kind":"CAR","decks":3}`},
			{`{"kind":"car"}`, `JSONException: No value for decks`},
			{`{"kind":5}`, `{"kind":"NONE","decks":0}`},
		}},
		{"a case that falls through", "M.java", `import org.json.*; class M { int a; int b = 2;
			M(JSONObject o) throws JSONException { switch (o.optString("kind")) { case "x": a = 1; case "y": b = 3; break; default: b = 4; } } }`, [][2]string{
			{`{"kind":"x"}`, `"not claimed"`},
		}},
		{"when", "M.kt", `import org.json.JSONObject
			enum class Kind { FOOT, CAR }
			class M(val kind: Kind, val size: String) { companion object { fun of(o: JSONObject) = M(kindOf(o.getString("kind")), when { o.isNull("decks") -> "none"; o.getInt("decks") > 2 -> "large"; else -> "small" })
				private fun kindOf(text: String): Kind = when (text) { "foot", "walk" -> Kind.FOOT; "car" -> Kind.CAR; else -> throw IllegalArgumentException(text) } } }`, [][2]string{
			{`{"kind":"walk"}`, `{"kind":"FOOT","size":"none"}`},
			{`{"kind":"car","decks":3}`, `{"kind":"CAR","size":"large"}`},
			{`{"kind":"car","decks":"2"}`, `{"kind":"CAR","size":"small"}`},
			{`{"kind":"bus"}`, `IllegalArgumentException: …`},
			{`{"kind":"car","decks":[]}`, `JSONException: Value [] at decks of type org.json.JSONArray cannot be converted to int`},
		}},
		{"scope functions", "M.kt", `import org.json.JSONObject
			class M { var id = 0; var name: String? = null; var note: String? = "kept"
			companion object { fun of(o: JSONObject) = with(o) { M().apply { id = getInt("id"); this.name = optString("name").takeIf { it.isNotEmpty() }; if (has("note")) note = getString("note") } } } }`, [][2]string{
			{`{"id":1,"name":"a","note":"n"}`, `{"id":1,"name":"a","note":"n"}`},
			{`{"id":"2","name":""}`, `{"id":2,"name":null,"note":"kept"}`},
			{`{"name":"a"}`, `JSONException: No value for id`},
		}},
		{"helpers", "M.kt", `import org.json.JSONObject
			fun JSONObject.textOrNull(key: String): String? = if (isNull(key)) null else getString(key)
			object Read { fun number(o: JSONObject, key: String, other: Int): Int { if (!o.has(key)) return other
				return try { o.getInt(key) } catch (e: Exception) { -1 } } }
			class M(val name: String?, val n: Int, val code: String) { companion object { fun of(o: JSONObject) = M(o.textOrNull("name"), Read.number(o, "n", 7), runCatching { o.getString("code") }.getOrElse { "none" }) } }`, [][2]string{
			{`{"name":"a","n":2,"code":"c"}`, `{"name":"a","n":2,"code":"c"}`},
			{`{"name":null,"n":"x"}`, `{"name":null,"n":-1,"code":"none"}`},
			{`{}`, `{"name":null,"n":7,"code":"none"}`},
		}},
		{"Gson, an alternate after the name", "M.java", `import com.google.gson.annotations.*; class M { @SerializedName(value = "a", alternate = "b") int v; }`, [][2]string{
			{`{"a":1,"b":2}`, `{"v":2}`},
			{`{"b":2,"a":1}`, `{"v":1}`},
			{`{"a":1,"b":null}`, `{"v":1}`},
			{`{"b":"x","a":1}`, `JsonSyntaxException: java.lang.NumberFormatException: For input string: "x"`},
		}},
		{"Gson, the first bad member of the document", "M.java", `import com.google.gson.*; class M { int a; boolean b; }`, [][2]string{
			{`{"b":1,"a":"x"}`, `JsonSyntaxException: java.lang.IllegalStateException: Expected a boolean but was NUMBER`},
			{`{"a":"x","b":1}`, `JsonSyntaxException: java.lang.NumberFormatException: For input string: "x"`},
		}},
		{"Gson, abstract", "M.java", `import com.google.gson.*; abstract class Shape { } class M { Shape s; }`, [][2]string{
			{`{"s":null}`, `{"s":null}`},
			{`{"s":{}}`, `JsonIOException: Abstract classes can't be instantiated! Register an InstanceCreator or a TypeAdapter for this type. Class name: Shape`},
		}},
		{"Gson, an inner class", "M.java", `import com.google.gson.*; class M { In in; class In { int n = 3; } }`, [][2]string{{`{"in":{}}`, `{"in":{"n":0}}`}}},
		{"Gson, naming by a builder on lines of its own", "M.kt", "import com.google.gson.*\ndata class M(val portCode: String?)\nfun make(): Gson {\n val b = GsonBuilder()\n b.setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_DASHES)\n return b.create()\n}\nval g = make()\nfun load(s: String) = g.fromJson(s, M::class.java)", [][2]string{{`{"port-code":"SAL"}`, `{"portCode":"SAL"}`}}},
		{"Gson, a Kotlin default is lost", "M.kt", "import com.google.gson.*\ndata class M(val id: Int, val seats: Int = 40, val tags: List<String> = emptyList())", [][2]string{{`{"id":1}`, `{"id":1,"seats":0,"tags":null}`}}},
		{"Gson, a value class", "M.kt", "import com.google.gson.*\n@JvmInline value class Code(val raw: String)\n@JvmInline value class Knots(val n: Int)\ndata class M(val a: Code, val b: Code?, val c: Knots, val d: Knots?, val e: List<Code>)", [][2]string{
			{`{"a":"x","b":"y","c":5,"d":{"n":6},"e":[{"raw":"z"}]}`, `{"a":"x","b":"y","c":5,"d":{"n":6},"e":[{"raw":"z"}]}`},
			{`{"a":{"raw":"x"}}`, `JsonSyntaxException: java.lang.IllegalStateException: Expected a string but was BEGIN_OBJECT`},
		}},
		{"Jackson, a list through its getter", "M.java", `import com.fasterxml.jackson.annotation.*; class M { private java.util.List<Integer> all = new java.util.ArrayList<>(); public java.util.List<Integer> getAll() { return all; } }`, [][2]string{
			{`{"all":[1,"2"]}`, `{"all":[1,2]}`},
			{`{"all":[true]}`, "MismatchedInputException: Cannot deserialize value of type `java.lang.Integer` from Boolean value (token `JsonToken.VALUE_TRUE`)"},
		}},
		{"Jackson, names of getters", "M.java", `import com.fasterxml.jackson.annotation.*; class M { private String imageURL; private boolean isOpen; public String getImageURL() { return imageURL; } public boolean isOpen() { return isOpen; } public void setOpen(boolean o) { isOpen = o; } }`, [][2]string{
			{`{"imageURL":"u","open":true}`, `{"imageURL":"u","isOpen":true}`},
			{`{"isOpen":true}`, `UnrecognizedPropertyException: Unrecognized field "isOpen" (class M), not marked as ignorable (2 known properties: "imageURL", "open"])`},
		}},
		{"Jackson, read only", "M.java", `import com.fasterxml.jackson.annotation.*; class M { @JsonProperty(access = JsonProperty.Access.READ_ONLY) public int a; public int b; }`, [][2]string{{`{"b":1}`, `{"a":0,"b":1}`}}},
		{"Jackson, case does not matter", "M.java", `import com.fasterxml.jackson.databind.*; class M { public int portCode; } class L { ObjectMapper m = new ObjectMapper().configure(MapperFeature.ACCEPT_CASE_INSENSITIVE_PROPERTIES, true); M load(String s) throws Exception { return m.readValue(s, M.class); } }`, [][2]string{{`{"PORTCODE":3}`, `{"portCode":3}`}}},
		{"Jackson, a date by its own pattern", "M.java", `import com.fasterxml.jackson.annotation.*; import java.util.Date; class M { @JsonFormat(shape = JsonFormat.Shape.STRING, pattern = "dd.MM.yyyy") public Date at; }`, [][2]string{{`{"at":"01.03.2026"}`, `{"at":date:1772323200000}`}}},
		{"Jackson, a factory", "M.java", `import com.fasterxml.jackson.annotation.*; class M { final int id; private M(int id) { this.id = id; } @JsonCreator static M of(@JsonProperty("the_id") int id) { return new M(id); } }`, [][2]string{{`{"the_id":3}`, `{"id":3}`}}},
		{"Jackson, one of a class of a type", "M.java", `import com.fasterxml.jackson.annotation.*; @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "t", defaultImpl = B.class) @JsonSubTypes({@JsonSubTypes.Type(A.class)}) interface S { } @JsonTypeName("a") class A implements S { public int n; } class B implements S { } class M { public S s; public java.util.List<S> all; }`, [][2]string{
			{`{"s":{"t":"a","n":1},"all":[{"t":"z"},{"n":"a","t":"a"}]}`, "InvalidFormatException: Cannot deserialize value of type `int` from String \"a\": not a valid `int` value"},
			{`{"s":{"t":"a","n":1}}`, `{"s":{"n":1},"all":null}`},
			{`{"s":{}}`, `{"s":{},"all":null}`},
		}},
	} {
		t.Run(c.name, func(t *testing.T) {
			set := source.Read([]scan.Source{{Name: c.file, Text: c.source}})
			decodeAll(t, set, c.docs, func(s decoder.Seen) any { return javaForm(s) }, func(out decoder.Outcome) string { return out.Err.Message })
		})
	}
}
