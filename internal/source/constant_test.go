package source

import (
	"fmt"
	"strings"
	"testing"
)

// TestConstants takes keys that are constants to where they are declared. Each case reads
// a class Port with a field f that is marked by an annotation; want is its key, or what is
// not told of it after a question mark.
func TestConstants(t *testing.T) {
	const keys = "package ferry.api; public interface Keys { String CODE = \"the_code\"; String LONG = CODE + \"_long\"; class Deep { public static final String D = \"deep\"; } }"
	const top = "package ferry.api\nconst val TOP = \"top\"\nval SUM = TOP + \"-\" + Keys.CODE\nobject Names { const val N = \"name\" }\nclass Holder { companion object { const val H = \"held\" } }"
	for _, c := range []struct{ name, file, source, want string }{
		{"an import", "Port.java", `package ferry; import ferry.api.Keys; class Port { @SerializedName(Keys.CODE) int f; }`, "the_code"},
		{"an import of what is nested", "Port.java", `package ferry; import ferry.api.Keys; class Port { @SerializedName(Keys.Deep.D) int f; }`, "deep"},
		{"a static import", "Port.java", `package ferry; import static ferry.api.Keys.LONG; class Port { @SerializedName(LONG) int f; }`, "the_code_long"},
		{"a static import of all", "Port.java", `package ferry; import static ferry.api.Keys.*; class Port { @SerializedName(CODE + "2") int f; }`, "the_code2"},
		{"a whole path", "Port.java", `package ferry; class Port { @SerializedName(ferry.api.Keys.CODE) int f; }`, "the_code"},
		{"an interface that is implemented", "Port.java", `package ferry.api; class Port implements Keys { @SerializedName(CODE) int f; }`, "the_code"},
		{"its own before an import", "Port.java", `package ferry; import static ferry.api.Keys.CODE; class Port { static final String CODE = "own"; @SerializedName(CODE) int f; }`, "own"},
		{"of a field that is no constant", "Port.java", `package ferry; class Port { String CODE = "own"; @SerializedName(CODE) int f; }`, "?CODE"},
		{"of a library", "Port.java", `package ferry; import other.Fields; class Port { @SerializedName(Fields.CODE) int f; }`, "?Fields.CODE"},
		{"in a circle", "Port.java", `package ferry; class Port { static final String A = B + "a", B = A + A; @SerializedName(A) int f; }`, "?A"},
		{"a computed one", "Port.java", `package ferry; class Port { static final String A = make("a"); @SerializedName(A) int f; }`, "?A"},
		{"written at ease", "Port.java", "package ferry; import ferry . api . Keys; class Port { @ SerializedName\n ( value =\n Keys . CODE ) int f; }", "the_code"},
		{"a constant in the class around", "Port.java", `package ferry; class Port { static final String A = "a"; static class Inner { } @SerializedName(Port.A) int f; }`, "a"},
		{"a number", "Port.java", `package ferry; class Port { static final int N = 7; @SerializedName("a" + N) int f; }`, "a7"},
		{"a text in pieces", "Port.java", `package ferry; class Port { @SerializedName("a" + "b") int f; }`, "ab"},
		{"Kotlin, outside of a class", "Port.kt", "package ferry.api\nclass Port(@SerializedName(TOP) val f: Int)", "top"},
		{"Kotlin, imported", "Port.kt", "package ferry\nimport ferry.api.TOP\nclass Port(@SerializedName(TOP) val f: Int)", "top"},
		{"Kotlin, imported by another name", "Port.kt", "package ferry\nimport ferry.api.TOP as T\nclass Port(@SerializedName(T) val f: Int)", "top"},
		{"Kotlin, from Java", "Port.kt", "package ferry\nimport ferry.api.*\nclass Port(@SerializedName(SUM) val f: Int)", "top-the_code"},
		{"Kotlin, by an annotation of another name", "Port.kt", "package ferry\nimport ferry.api.Names\nimport com.google.gson.annotations.SerializedName as Key\nclass Port(@field:Key(Names.N) val f: Int)", "name"},
		{"Kotlin, no arguments on the next line", "Port.kt", "package ferry\nclass Port {\n @SerializedName\n (\"x\")\n val f: Int = 1 }", ""},
		{"Kotlin, of what a constructor is given", "Port.kt", "package ferry\nclass Port(val A: String = \"a\", @SerializedName(A) val f: Int)", "?A"},
		{"Kotlin, of an object", "Port.kt", "package ferry\nimport ferry.api.Names\nclass Port(@SerializedName(Names.N) val f: Int)", "name"},
		{"Kotlin, of an object, by its name alone", "Port.kt", "package ferry\nimport ferry.api.Names.N\nclass Port(@SerializedName(N) val f: Int)", "name"},
		{"Kotlin, of another's companion", "Port.kt", "package ferry\nimport ferry.api.Holder\nclass Port(@SerializedName(Holder.H) val f: Int)", "held"},
		{"Kotlin, in a template", "Port.kt", "package ferry.api\nclass Port(@SerializedName(\"a_${Names.N}_$TOP\") val f: Int)", "a_name_top"},
		{"Kotlin, a template that computes", "Port.kt", "package ferry.api\nclass Port(@SerializedName(\"${TOP.trim()}\") val f: Int)", "?\"${TOP.trim()}\""},
		{"Kotlin, of another package", "Port.kt", "package ferry\nclass Port(@SerializedName(TOP) val f: Int)", "?TOP"},
	} {
		set := Read(files("Keys.java", keys, "Top.kt", top, c.file, c.source))
		got := ""
		for _, m := range set.Models {
			if m.Name != "Port" {
				continue
			}
			for _, f := range m.Fields {
				if a := f.Marks.Find("SerializedName"); a != nil {
					got = a.Text("value", "")
					if untold := a.Untold("value"); untold != "" {
						got = "?" + untold
					}
				}
			}
		}
		if got != c.want {
			t.Errorf("%s: the key is %q, want %q", c.name, got, c.want)
		}
	}
}

// TestConstantPaths finds the path of a request that is a constant.
func TestConstantPaths(t *testing.T) {
	set := Read(files("Api.java", `class Port { String code; } class Paths { static final String BASE = "v2/"; }
interface Api { String PORTS = Paths.BASE + "ports"; @GET(PORTS) Call<Port> ports(); }
class R { Object r = new Retrofit.Builder().addConverterFactory(GsonConverterFactory.create()); }`))
	var got []string
	for _, call := range set.Calls {
		if call.Endpoint != "" {
			got = append(got, call.Endpoint)
		}
	}
	if fmt.Sprint(got) != "[v2/ports]" {
		t.Errorf("the paths are %v", got)
	}
}

// TestHostileConstants bounds the work on constants that name one another many times.
func TestHostileConstants(t *testing.T) {
	var b strings.Builder
	b.WriteString("class Port { static final String A0 = \"x\"; ")
	for i := 1; i < 15; i++ {
		fmt.Fprintf(&b, "static final String A%d = A%d + A%[2]d + A%[2]d + A%[2]d; ", i, i-1)
	}
	b.WriteString("@SerializedName(A14) int f; }")
	set := Read(files("Port.java", b.String()))
	for _, f := range set.Models[0].Fields {
		if a := f.Marks.Find("SerializedName"); a != nil && a.Untold("value") != "A14" {
			t.Errorf("a text of 4^14 characters is told: %d bytes", len(a.Text("value", "")))
		}
	}
}
