package cli_test

import (
	"fmt"
	"strings"
	"testing"
)

// Classes that make themselves of a parsed object are models whoever parses the text, beside calls
// of a library; other code that takes parsed objects is none.
func TestClassesByHandBesideCalls(t *testing.T) {
	p := newProject(t, map[string]string{"App/Quay.kt": `import com.google.gson.Gson
class Quay(val berth: Int)
fun load(s: String) = Gson().fromJson(s, Quay::class.java)
`, "App/Ship.kt": `import org.json.*
class ShipActivity : Activity() {
    var count = 0
    fun show(o: JSONObject) { count = o.length() }
    companion object {
        fun log(o: JSONObject) { println(o) }
        fun text(o: JSONObject) = o.toString()
    }
}
class Pier private constructor(val n: Int) {
    companion object { fun of(o: JSONObject) = Pier(o.getInt("n")) }
}
`, "App/Boat.java": `import org.json.*;
class Boat { int knots; Boat(JSONObject o) throws JSONException { knots = o.getInt("knots"); } }
class Fleet { int size; static java.util.List<Fleet> all(JSONArray a) { return null; } static boolean empty(JSONObject o) { return true; } }
class Checks { int done; static boolean isError(JSONObject o) { return o.has("error"); } }`})
	out := p.run("models", "App").exits(0).says("Quay  class", "Pier  class", "Boat  class", "Fleet  class").out
	for _, other := range []string{"ShipActivity", "Checks"} {
		if strings.Contains(out, other) {
			t.Errorf("%s is taken for a model:\n%s", other, out)
		}
	}
}

// Declarations that lead back to themselves end neither the run nor its other verdicts.
func TestEndlessDeclarations(t *testing.T) {
	p := newProject(t, map[string]string{
		"App/Port.java": `import com.fasterxml.jackson.annotation.*;
class Port { public String code; @JsonCreator static Port of(Port p) { return p; } }`,
		"App/Berth.kt": `import com.google.gson.Gson
class Berth<T>(val depth: T, val inner: Berth<List<T>>?)
class Quay(val berth: Berth<Int>)
fun load(s: String) = Gson().fromJson(s, Quay::class.java)
`,
		"App/Notice.swift": `struct Notice: Decodable {
    let text: String
    init(from decoder: Decoder) throws { self = try decoder.singleValueContainer().decode(Notice.self) }
}
class Loop: Knot, Decodable { }
class Knot: Loop, Decodable { }
`,
		"App/Vessel.java": `import org.json.*;
class Vessel { int knots; Vessel sister; Vessel(JSONObject o) throws JSONException { knots = o.getInt("knots"); sister = new Vessel(o); } }`,
		"c/port.json": `{"code":"SAL"}`, "c/quay.json": `{"berth":{"depth":4}}`, "c/notice.json": `{"text":"Fog"}`, "c/vessel.json": `{"knots":14}`,
	})
	p.run("check", "App", "c", "-pair", "Port=c/port", "-pair", "Notice=c/notice").exits(1).says(
		"4 of 4 responses would not decode",
		"StackOverflowError: null", "Port is made of another Port at the same value", "Vessel is made of another Vessel",
		"Berth holds itself with type arguments that grow at each step",
		"stack overflow: the program ends", "Notice is made of another Notice",
	)
	p.run("trial", "-model", "Vessel", "App", "c/vessel.json").exits(1).says("vessel.json as Vessel: fails", "StackOverflowError: null")
	p.run("models", "App").exits(0).says("Loop", "Knot")
}

// TestWhatHurtsOnAndroid: what developers of Kotlin and Java meet most, from source and
// captures to the line.
func TestWhatHurtsOnAndroid(t *testing.T) {
	for _, c := range []struct {
		name, file, source string
		captures           []string
		want               string
	}{
		{"typo", "M.kt", `import com.google.gson.annotations.SerializedName
data class Vessel(val name: String, @SerializedName("lenght") val length: Double)`,
			[]string{`{"name":"Gannet","length":82.5}`, `{"name":"Tern","length":41}`}, "M.kt:2:67: misreads: Vessel length: sent under another key: the app sees nothing (2 of 2 values, 2 of 2 responses) [renamed-optional]\n"},
		{"null crashes later", "M.kt", `import com.google.gson.Gson
data class Vessel(val name: String, val decks: List<String>)`,
			[]string{`{"name":null,"decks":["a",null]}`}, "M.kt:2:23: misreads: Vessel name: null in a property that says it is never null (1 of 1 values, 1 of 1 responses) [hidden-null]\nM.kt:2:41: misreads: Vessel decks: null in a property that says it is never null (1 of 2 values, 1 of 1 responses) [hidden-null]\n"},
		{"a silent 0", "M.java", `import com.google.gson.Gson;
class Vessel { String name; int decks; }`,
			[]string{`{"name":"Tern","decks":2}`, `{"name":"Gull"}`}, "M.java:2:33: misreads: Vessel decks: 0, false or empty where the key is absent or null (1 of 2 values, 1 of 2 responses) [silent-zero]\n"},
		{"a key more", "M.java", `import com.fasterxml.jackson.annotation.JsonProperty;
class Vessel { @JsonProperty String name; }`,
			[]string{`{"name":"Tern"}`, `{"name":"Gull","decks":2}`}, "M.java:2:7: breaks: Vessel decks: a key that the model does not have fails the whole document (1 of 2 values, 1 of 2 responses): UnrecognizedPropertyException: Unrecognized field \"decks\" (class Vessel), not marked as ignorable (one known property: \"name\"]) [unknown-key]\n"},
		{"a fraction cut off", "M.java", `import com.fasterxml.jackson.annotation.*;
class Vessel { public String name; public int knots; }`,
			[]string{`{"name":"Tern","knots":12.5}`}, "M.java:2:47: misreads: Vessel knots: digits beyond what the type holds (1 of 1 values, 1 of 1 responses) [lost-digits]\n"},
		{"a fraction that throws", "M.kt", `import com.google.gson.Gson
data class Vessel(val name: String, val knots: Int)`,
			[]string{`{"name":"Tern","knots":12.5}`, `{"name":"Gull","knots":9}`}, "M.kt:2:41: breaks: Vessel knots: a number that the type cannot hold (1 of 2 values, 1 of 2 responses): JsonSyntaxException: java.lang.NumberFormatException: Expected an int but was 12.5 [out-of-range]\n"},
		{"one for many", "M.kt", `import com.google.gson.Gson
data class Vessel(val name: String, val crew: List<Mate>) { data class Mate(val name: String) }`,
			[]string{`{"name":"Tern","crew":{"name":"R. Alder"}}`, `{"name":"Gull","crew":[{"name":"B. Rowan"}]}`}, "M.kt:2:41: breaks: Vessel crew: a list where one value is declared, or the reverse (1 of 2 values, 1 of 2 responses): JsonSyntaxException: java.lang.IllegalStateException: Expected BEGIN_ARRAY but was BEGIN_OBJECT [list-mismatch]\n"},
		{"by hand", "M.java", `import org.json.*;
class Vessel { String name; int decks; Vessel(JSONObject o) throws JSONException { name = o.getString("name"); decks = o.optInt("decks"); } }`,
			[]string{`{"name":"Tern","decks":2}`, `{"decks":1}`, `{"name":"Gull"}`}, "M.java:2:23: breaks: Vessel name: the key is not always sent (1 of 3 values, 1 of 3 responses): JSONException: No value for name [missing-key]\nM.java:2:33: misreads: Vessel decks: 0, false or empty where the key is absent or null (1 of 3 values, 1 of 3 responses) [silent-zero]\n"},
		{"one key twice", "M.java", `import com.google.gson.*;
class Vessel { String name; }
class Ferry extends Vessel { String name; int decks; Ferry of(String s) { return new Gson().fromJson(s, Ferry.class); } }`,
			[]string{`{"name":"Tern","decks":2}`}, "M.java:3:7: breaks: Ferry: a type that the library cannot decode, whatever is sent (1 of 1 values, 1 of 1 responses): IllegalArgumentException: class Ferry declares multiple JSON fields named name [undecodable-type]\n"},
		{"a creator without names", "M.java", `import com.fasterxml.jackson.annotation.*;
public class Vessel { public String name; public Crew crew; @JsonProperty public int decks; }
class Crew { public int size; @JsonCreator static Crew of(int size, String mate) { return new Crew(); } }`,
			[]string{`{"name":"Tern","decks":2}`}, "M.java:3:7: breaks: Crew: a type that the library cannot decode, whatever is sent (1 of 1 values, 1 of 1 responses): InvalidDefinitionException: Invalid type definition for type `Crew`: Argument #0 of constructor [method Crew#of(2 params)] has no property name (and is not Injectable): can not use as property-based Creator [undecodable-type]\n"},
		{"fine", "M.kt", `import com.google.gson.Gson
data class Vessel(val name: String?, val decks: Int? = null)`, []string{`{"name":"Tern","decks":2}`, `{"name":null}`, `{}`}, ``},
	} {
		t.Run(c.name, func(t *testing.T) {
			files := map[string]string{c.file: c.source}
			for i, text := range c.captures {
				files[fmt.Sprintf("vessel-%d.json", i+1)] = text
			}
			r := newProject(t, files).run("check", "-format", "lines", ".")
			if r.out != c.want {
				t.Errorf("got\n%swant\n%s%s", r.out, c.want, r.err)
			}
			if wantCode := map[bool]int{true: 0, false: 1}[c.want == ""]; r.code != wantCode {
				t.Errorf("exit code %d, want %d", r.code, wantCode)
			}
		})
	}
}

// TestAndroidProject: settings, requests, packages and libraries of one project.
func TestAndroidProject(t *testing.T) {
	p := newProject(t, map[string]string{
		"src/api/Service.kt": `package ferry.api
import com.google.gson.*
import retrofit2.http.*
import retrofit2.converter.gson.GsonConverterFactory
interface Service {
  @GET("v2/arrivals") suspend fun arrivals(): List<Stop>
  @GET("v2/departures/{day}") fun departures(@Path("day") day: String): Call<List<Stop>>
}
val gson: Gson = GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES).create()
val retrofit = Retrofit.Builder().addConverterFactory(GsonConverterFactory.create(gson)).build()
`,
		"src/api/Stop.kt": "package ferry.api\ndata class Stop(val portCode: String, val at: Long)\n",
		"src/old/Stop.java": `package ferry.old;
import com.fasterxml.jackson.annotation.*;
@JsonIgnoreProperties(ignoreUnknown = true) public class Stop { @JsonProperty("port_code") public String code; }
`,
		"src/old/Board.java": `package ferry.old;
import com.fasterxml.jackson.databind.*;
import java.util.*;
class Board { public List<Stop> stops; static final ObjectMapper MAPPER = new ObjectMapper().disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES);
  static Board read(String json) throws Exception { try { return MAPPER.readValue(json, Board.class); } catch (Exception e) { return null; } } }
`,
		"captures/arrivals-1.json":   `[{"port_code":"SAL","at":1}]`,
		"captures/departures-1.json": `[{"port_code":"MER","at":2},{"portCode":"TOR","at":3}]`,
		"captures/board-1.json":      `{"stops":[{"port_code":"SAL"},{"port_code":5}],"more":1}`,
	})
	r := p.run("models", "src").exits(0)
	r.says("Stop  class  src/api/Stop.kt:2:12\n  Gson · naming LOWER_CASE_WITH_UNDERSCORES", "Stop  class  src/old/Stop.java:3:58\n  Jackson · FAIL_ON_UNKNOWN_PROPERTIES false",
		"portCode  String  port_code", "code  String  port_code", "Board  src/old/Board.java:5:73  its error is dropped", "List<Stop>  src/api/Service.kt:6:35", "3 models in 4 source files")
	r.lacks("MAPPER")
	c := p.run("check", ".", "-fail-on", "never").exits(0)
	c.says("departures at $[*]: 2 objects", "no key port_code  in 1 of 2 objects", "arrivals at $[*]", "[renamed-optional]", "0 of 3 responses would not decode")
	c = p.run("check", ".", "-fail-on", "never", "-format", "json").exits(0)
	c.says(`"library": "Gson"`, `"library": "Jackson"`, `"requested from v2/arrivals"`, `"language": "kotlin"`)
	p.run("trial", "src", "captures/board-1.json", "-model", "Board").exits(0).says("decodes", `code: String       5             "5"`, "not read\n    $.more")
	p.run("trial", "src", "captures/departures-1.json", "-model", "List<ferry.api.Stop>").exits(0).says("as List<ferry.api.Stop>: decodes")
	p.run("trial", "src", "captures/departures-1.json", "-model", "ferry.old.Stop").exits(1).says("MismatchedInputException")
}

// TestBrokenSource: what cannot be read is named and the rest is read.
func TestBrokenSource(t *testing.T) {
	p := newProject(t, map[string]string{
		"A.java":     "class A { int a; String s = \"never ends;\n int b; }",
		"B.kt":       "data class B(val a: Int, val b: String\n/* never ends",
		"C.kt":       "data class C(val id: Int)",
		"c-1.json":   `{"id":1}`,
		"notes.java": "",
	})
	r := p.run("check", ".", "-format", "lines").exits(0)
	r.complains("A.java:1:29: a string that never ends", "B.kt:2:1: a comment that never ends", "B.kt:1:13: '(' is never closed")
	p.run("models", ".").exits(0).says("C  class  C.kt:1:12", "A  class")
}

// TestKeysThatAreConstants checks models whose keys are constants: of the project, which
// are followed, and of a library, of which nothing is claimed.
func TestKeysThatAreConstants(t *testing.T) {
	p := newProject(t, map[string]string{
		"api/Keys.java": `package ferry.api; public final class Keys { public static final String CODE = "the_code"; }`,
		"app/Port.java": `package ferry.app;
import com.google.gson.annotations.SerializedName;
import ferry.api.Keys;
import other.Fields;
class Port {
  @SerializedName(Keys.CODE) String code;
  @SerializedName(Fields.DEPTH) int depth;
}`,
		"app/Vessel.java": `package ferry.app;
import com.fasterxml.jackson.annotation.JsonProperty;
import other.Fields;
class Vessel { @JsonProperty(Fields.NAME) String name; @JsonProperty("decks") int decks; }`,
		"c/port-1.json": `{"the_code":"SAL","metres":4}`,
		"c/port-2.json": `{"the_code":5,"metres":4}`,
		"c/port-3.json": `{"the_code":{},"metres":4}`,
	})
	r := p.run("check", "-format", "lines", ".")
	want := "app/Port.java:6:37: breaks: Port code: a value of another kind (1 of 3 values, 1 of 3 responses): JsonSyntaxException: java.lang.IllegalStateException: Expected a string but was BEGIN_OBJECT [wrong-kind]\n" +
		"app/Vessel.java:4:7: unjudged: Vessel an annotation of name says Fields.NAME, a constant that is not in the source\n"
	if r.out != want {
		t.Errorf("got\n%swant\n%s%s", r.out, want, r.err)
	}
	r = p.run("trial", ".", "c/port-1.json", "-model", "Port")
	if !strings.Contains(r.out, "$.the_code  code: String") || strings.Contains(r.out, "not read") {
		t.Errorf("any key may be the one that depth is read from:\n%s", r.out)
	}
	r = p.run("models", "app")
	for _, part := range []string{
		"depth  int     -", "in a way that is not followed: its key is Fields.DEPTH, a constant that is not in the source",
		"read in a way that is not followed: an annotation of name says Fields.NAME, a constant that is not in the source\n",
	} {
		if !strings.Contains(r.out, part) {
			t.Errorf("models does not say %q:\n%s", part, r.out)
		}
	}
}
