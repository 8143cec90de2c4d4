package source

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"vetta/internal/model"
)

// byHand writes how each model of a set is read: by which library, from which keys, or why that is
// not followed; and which types are decoded from a document as a whole.
func byHand(set *model.Set) string {
	var lines []string
	for _, m := range set.Models {
		line := m.Name + " " + m.Library
		if m.Reading == model.Unfollowed {
			lines = append(lines, line+": "+m.Why)
			continue
		}
		for _, f := range m.Fields {
			switch {
			case f.Reading == model.Unfollowed:
				line += fmt.Sprintf(" %s?%s", f.Name, f.Why)
			case !f.Static:
				line += fmt.Sprintf(" %s=%s", f.Name, strings.Join(f.Keys, "|"))
			}
		}
		lines = append(lines, line)
	}
	for _, c := range set.Calls {
		line := "decodes " + c.Declared
		if c.Swallowed {
			line += ", errors dropped"
		}
		lines = append(lines, line)
	}
	slices.Sort(lines)
	return strings.Join(lines, "\n")
}

// TestMadeElsewhere: classes that know nothing of JSON, and the code around a parsed document that
// makes them.
func TestMadeElsewhere(t *testing.T) {
	for _, c := range []struct{ name, file, source, want string }{
		{"a loop with setters", "A.java", `class Port { String code; int berths; void setCode(String c) { code = c; } }
class Screen { List<Port> read(String text) throws JSONException {
    List<Port> out = new ArrayList<>();
    JSONArray all = new JSONArray(text);
    for (int i = 0; i < all.length(); i++) {
        JSONObject o = all.getJSONObject(i);
        Port p = new Port();
        p.setCode(o.getString("code"));
        p.berths = o.optInt("berths");
        out.add(p);
    }
    return out;
} }`, `
Port orgjson code=code berths=berths
`},
		{"a parser", "A.java", `class Fare { final String name; final int pence; Fare(String name, int pence) { this.name = name; this.pence = pence; } }
class Parser { static Fare fare(JSONObject json) throws JSONException { return new Fare(json.getString("n"), json.getInt("p")); } }
class Screen { Fare f(String s) { return Parser.fare(new JSONObject(s)); } }`, `
Fare orgjson name=n pence=p
decodes Fare
`},
		{"a text that the function parses", "A.java", `class Trip { String id; }
class Trips { Trip read(String body) throws JSONException {
    JSONObject root = new JSONObject(body);
    Trip t = new Trip();
    t.id = root.getJSONObject("data").getString("id");
    return t;
} }`, `
Trip orgjson id=data|id
decodes Trip
`},
		{"an error that is dropped", "A.java", `class Trip { String id; Trip(String id) { this.id = id; } }
class Trips { Trip read(String body) {
    try {
        JSONObject root = new JSONObject(body);
        return new Trip(root.getString("id"));
    } catch (JSONException e) {
        return null;
    }
} }`, `
Trip orgjson id=id
decodes Trip, errors dropped
`},
		{"a listener of a class without a name", "A.java", `class Port { final String code; Port(String code) { this.code = code; } }
class Screen { void load() { request(new Listener<JSONObject>() {
    @Override public void onResponse(JSONObject response) throws JSONException {
        show(new Port(response.getString("code")));
    }
}); } }`, `
Port orgjson code=code
`},
		{"a lambda of Java", "A.java", `class Port { String code; }
class Screen { void load() { request((response) -> { Port p = new Port(); p.code = response.getString("code"); show(p); }); } }`, `
Port orgjson code=code
`},
		{"an element that is cast", "A.java", `class Port { String code; Port(String c) { code = c; } }
class Screen { void read(JSONArray a) throws JSONException { for (int i = 0; i < a.length(); i++) { JSONObject o = (JSONObject) a.get(i); ports.add(new Port(o.getString("code"))); } } }`, `
Port orgjson code=code
`},
		{"elements without a name", "A.java", `class Port { String code; Port(String c) { code = c; } }
class Screen { void read(JSONArray a) throws JSONException { for (int i = 0; i < a.length(); i++) { ports.add(new Port(a.getJSONObject(i).getString("code"))); } } }`, `
Port orgjson code=code
`},
		{"elements without a name, set one by one", "A.kt", `class Port { var code = ""; var berths = 0 }
fun read(a: JSONArray) { for (i in 0 until a.length()) { val p = Port(); p.code = a.getJSONObject(i).getString("code"); if (a.getJSONObject(i).has("berths")) p.berths = a.getJSONObject(i).getInt("berths"); ports.add(p) } }`, `
Port orgjson code=code berths=berths
`},
		{"elements without a name that may be no objects", "A.java", `class Port { String code; Port(String c) { code = c; } }
class Screen { void read(JSONArray a) throws JSONException { for (int i = 0; i < a.length(); i++) { ports.add(new Port(a.optJSONObject(i).getString("code"))); } } }`, `
Port orgjson: read(…) reads it by code that is not followed: it is made in a loop over parts that have no name
`},
		{"of two objects", "A.java", `class Port { String code; String name; Port(String c, String n) { code = c; name = n; } }
class Screen { Port read(JSONObject a, JSONObject b) throws JSONException { return new Port(a.getString("code"), b.getString("name")); } }`, `
Port orgjson: read(…) reads it by code that is not followed: it is made of several objects
`},
		{"code that is not followed", "A.java", `class Port { String code; int n; Port(String c, int n) { code = c; this.n = n; } }
class Screen { Port read(JSONObject o) throws JSONException { return new Port(Names.of(o.getString("code")), o.getInt("n")); } }`, `
Port orgjson code?a call of Names.of (A.java:3:79) n=n
`},
		{"what is made of no document", "A.java", `class Row { String title; Row(String t) { title = t; } }
class Screen { int n; void read(JSONObject o) throws JSONException { n = o.getInt("n"); } Row row() { return new Row("x"); } }`, `

`},
		{"a constructor of its own goes before", "A.java", `class Port { String code; Port(JSONObject o) throws JSONException { code = o.getString("code"); } Port(String c) { code = c; } }
class Screen { Port read(JSONObject o) throws JSONException { return new Port(o.getString("other")); } }`, `
Port orgjson code=code
`},
		{"a class of Gson's", "A.java", `class Port { @SerializedName("c") String code; Port(String c) { code = c; } }
class Screen { Port read(JSONObject o) throws JSONException { return new Port(o.getString("other")); } }`, `
Port gson code=code
`},
		{"a class that Gson decodes elsewhere", "A.java", `class Port { String code; Port(String c) { code = c; } }
class Screen { Port read(JSONObject o) throws JSONException { return new Port(o.getString("other")); } Port gson(String s) { return new Gson().fromJson(s, Port.class); } }`, `
Port  code=code
decodes Port
`},
		{"its own function that takes a text", "A.java", `class Port { String code; static Port parse(String text) throws JSONException { JSONObject o = new JSONObject(text); Port p = new Port(); p.code = o.getString("code"); return p; } }`, `
Port orgjson code=code
decodes Port
`},
		{"a map that is filled", "A.java", `class Port { String code; }
class Cache { Map<String, Port> all; void fill(JSONArray a) throws JSONException { for (int i = 0; i < a.length(); i++) { JSONObject o = a.getJSONObject(i); Port p = new Port(); p.code = o.getString("code"); all.put(p.code, p); } } }`, `
Port orgjson code=code
`},
		{"a field that is set", "A.java", `class Port { String code; }
class Screen { Port shown; void read(JSONObject o) throws JSONException { Port p = new Port(); p.code = o.getString("code"); shown = p; } }`, `
Port orgjson code=code
`},
		{"only where a key is", "A.java", `class Port { String code; String note = "none"; }
class Screen { Port read(JSONObject o) throws JSONException { Port p = new Port(); p.code = o.getString("code"); if (o.has("note")) { p.note = o.getString("note"); } return p; } }`, `
Port orgjson code=code note=note
`},
		{"a helper that makes another model", "A.java", `class Line { String id; Stop from; }
class Stop { String code; }
class Reader { Line line(JSONObject o) throws JSONException { Line l = new Line(); l.id = o.getString("id"); l.from = stop(o.getJSONObject("from")); return l; }
    Stop stop(JSONObject o) throws JSONException { Stop s = new Stop(); s.code = o.getString("code"); return s; } }`, `
Line orgjson id=id from=from
Stop orgjson code=code
`},
		{"an extension", "A.kt", `data class Port(val code: String, val berths: Int = 3)
fun JSONObject.toPort() = Port(code = getString("code"), berths = optInt("berths", 3))
fun port(text: String): Port = JSONObject(text).toPort()`, `
Port orgjson code=code berths=berths
`},
		{"an extension that says what it answers", "A.kt", `data class Port(val code: String)
fun JSONObject.toPort(): Port = Port(getString("code"))
fun port(text: String): Port = JSONObject(text).toPort()`, `
Port orgjson code=code
decodes Port
`},
		{"a list by map", "A.kt", `data class Port(val code: String)
fun ports(all: JSONArray) = (0 until all.length()).map { i ->
    val o = all.getJSONObject(i)
    Port(o.getString("code"))
}`, `
Port orgjson code=code
`},
		{"a lambda of Kotlin", "A.kt", `class Port(val code: String)
class Screen { var port: Port? = null; fun load() { request { response -> port = Port(response.getString("code")) } } }`, `
Port orgjson code=code
`},
		{"it", "A.kt", `class Port(val code: String)
fun ports(all: List<JSONObject>) = all.map { Port(it.getString("code")) }`, `
Port orgjson code=code
`},
		{"with and apply", "A.kt", `class Port { var code = ""; var n = 0 }
fun port(o: JSONObject): Port = Port().apply { code = o.getString("code"); n = o.optInt("n") }
class Fare(val pence: Int)
fun fare(o: JSONObject) = with(o) { Fare(getInt("pence")) }`, `
Fare orgjson pence=pence
Port orgjson code=code n=n
`},
		{"let on the document", "A.kt", `class Port(val code: String)
fun port(text: String) = JSONObject(text).let { Port(it.getString("code")) }`, `
Port orgjson code=code
decodes Port
`},
		{"an object of functions", "A.kt", `class Port(val code: String)
object Mapper { fun port(o: JSONObject): Port { val code = o.getString("code"); return Port(code) } }
fun load(text: String) = Mapper.port(JSONObject(text))`, `
Port orgjson code=code
decodes Port
`},
		{"a list that is added to", "A.kt", `class Port(val code: String)
class Screen { val ports = mutableListOf<Port>(); fun read(a: JSONArray) { for (i in 0 until a.length()) { val o = a.getJSONObject(i); ports += Port(o.getString("code")) } } }`, `
Port orgjson code=code
`},
		{"a property that holds the document", "A.kt", `class Port(val code: String)
class Screen(text: String) { private val root = JSONObject(text); fun port() = Port(root.getString("code")) }`, `
Port orgjson: port(…) reads it by code that is not followed: what it is made of
`},
		{"nothing where a key is absent", "A.kt", `class Port(val code: String)
fun port(text: String): Port? { val o = JSONObject(text); if (!o.has("code")) return null; return Port(o.getString("code")) }`, `
Port orgjson code=code
decodes Port
`},
		{"what is given nothing that is asked for", "A.java", `class Port { String code; }
class Rows { List<Port> ports; Rows(List<Port> p) { ports = p; } }
class Screen { List<Port> ports; Rows rows; void read(JSONObject response) throws JSONException {
    Port p = new Port();
    p.code = response.getString("code");
    ports.add(p);
    rows = new Rows(ports);
} }`, `
Port orgjson code=code
`},
		{"what is given a name that holds an answer", "A.java", `class Port { String code; int n; Port(String code, int n) { this.code = code; this.n = n; } }
class Screen { Port read(JSONObject o) throws JSONException {
    String code = o.getString("code");
    int n = o.optInt("n");
    return new Port(code, n);
} }`, `
Port orgjson code=code n=n
`},
		{"by helpers that are given the object", "A.java", `class Port { String code; Port(String code) { this.code = code; } }
class Screen { Port read(JSONObject o) throws JSONException { String code = text(o, "code"); return new Port(code); }
    static String text(JSONObject o, String key) throws JSONException { return o.isNull(key) ? "" : o.getString(key); } }`, `
Port orgjson code=code
`},
		{"another where there is none", "A.kt", `class Port(val code: String)
fun port(o: JSONObject): Port = o.optJSONObject("port")?.let { Port(it.getString("code")) } ?: Port("none")`, `
Port orgjson code=code
`},
	} {
		t.Run(c.name, func(t *testing.T) {
			text := c.source
			if strings.HasSuffix(c.file, ".java") {
				text = "import org.json.*;\n" + text
			} else {
				text = "import org.json.*\n" + text
			}
			if got := byHand(Read(files(c.file, text))); got != strings.Trim(c.want, "\n") {
				t.Errorf("\n%s\ngot:\n%s\nwant:\n%s", c.source, got, c.want)
			}
		})
	}
}
