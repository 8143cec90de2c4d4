package csharp

import (
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// readText reads one file.
func readText(text string) *model.Set {
	return Read([]scan.Source{{Name: "M.cs", Text: text}}, nil)
}

// readFolder reads the sources of a folder.
func readFolder(t *testing.T, dir string) (*model.Set, map[string]string) {
	t.Helper()
	texts := map[string]string{}
	var files []scan.Source
	err := filepath.WalkDir(dir, func(path string, e fs.DirEntry, err error) error {
		if err != nil || e.IsDir() {
			return err
		}
		text, err := os.ReadFile(path)
		texts[path] = string(text)
		files = append(files, scan.Source{Name: path, Text: string(text)})
		return err
	})
	if err != nil || len(files) == 0 {
		t.Fatal("no sources", err)
	}
	return Read(files, nil), texts
}

// TestAsked: each app asks in a way of its own. What its calls decode, and of which request, stands beside the line
// on which they do.
func TestAsked(t *testing.T) {
	dirs, err := filepath.Glob("testdata/asked/*")
	if err != nil || len(dirs) < 30 {
		t.Fatal("no apps", err)
	}
	for _, dir := range dirs {
		t.Run(filepath.Base(dir), func(t *testing.T) {
			set, texts := readFolder(t, dir)
			got := map[string][]string{}
			for _, c := range set.Calls {
				if c.Type == nil || c.Followed { // by calls that say more
					continue
				}
				path := c.Endpoint
				if path == "" {
					path = "no path"
				}
				at := fmt.Sprintf("%s:%d", c.Pos.File, c.Pos.Line)
				got[at] = append(got[at], strings.Join(strings.Fields(c.Type.Written()+" "+c.Method+" "+path), " "))
			}
			for file, text := range texts {
				for i, line := range strings.Split(text, "\n") {
					_, want, _ := strings.Cut(line, "// asks ")
					at := fmt.Sprintf("%s:%d", file, i+1)
					if got := strings.Join(got[at], "; "); got != want {
						t.Errorf("%s\n got %s\nwant %s", at, got, want)
					}
				}
			}
		})
	}
}

// shown is what a model is: its members with their types.
func shown(m *model.Model) string {
	var b strings.Builder
	b.WriteString(m.Name)
	for _, f := range m.Fields {
		if !f.Static {
			fmt.Fprintf(&b, " %s:%s", f.Name, f.Declared)
		}
	}
	return b.String()
}

// TestDeclared: the members of classes in the forms that the language has for them.
func TestDeclared(t *testing.T) {
	for _, c := range []struct{ name, source, want string }{
		{"properties", `public class M { public int A { get; set; } public string? B { get; init; } = "x"; public required bool C { get; set; } public double D => A / 2.0; internal long E { get; private set; } }`, "M A:int B:string? C:bool D:double E:long"},
		{"fields, several in one declaration", `public class M { public int a, b = 3; private readonly string _c = "x"; public const int D = 1; static int e; }`, "M a:int b:int _c:string"},
		{"a positional record with a body", `public record M(int A, [property: JsonPropertyName("k")] string? B = null) { public bool C { get; init; } }`, "M A:int B:string? C:bool"},
		{"a record struct, nested", `public class O { public readonly record struct M(decimal A); public M X { get; set; } }`, "O X:M; O.M A:decimal"},
		{"a primary constructor holds no members", `public class M(int a, string b) { public int A { get; } = a; public string B => b; }`, "M A:int B:string"},
		{"parts in one file", `public partial class M { public int A { get; set; } } public partial class M { public int B { get; set; } }`, "M A:int B:int"},
		{"types of the platform", `public class M { public int[] A { get; set; } public List<string?> B { get; set; } public Dictionary<string, List<int>>? C { get; set; } public (int X, string Y) D { get; set; } public DateTimeOffset? E { get; set; } public int[,] F { get; set; } public global::System.Guid G { get; set; } }`,
			"M A:int[] B:List<string?> C:Dictionary<string, List<int>>? D:(int, string) E:DateTimeOffset? F:int[,] G:System.Guid"},
		{"names of the language's own words, and in Unicode", `public class M { public int @class { get; set; } public string Größe { get; set; } }`, "M class:int Größe:string"},
		{"text that looks like members", "public class M { public const string S = @\"public int X { get; set; } \"\"}\"; string R => \"\"\"\n public int Y { get; set; }\n \"\"\"; /* public int Z { get; set; } */ public string T => $\"{(A > 1 ? \"}\" : $\"{A}\")}\"; public int A { get; set; } }", "M R:string T:string A:int"},
		{"what a symbol leaves out", "public class M {\n#if LEGACY\n public int A { get; set; }\n#else\n public long A { get; set; }\n#endif\n#region more\n public int B { get; set; }\n#endregion\n}", "M A:long B:int"},
		{"accessors with bodies", `public class M { private int _a; public int A { get => _a; set { _a = value; Changed(); } } public string B { get; set => field = value.Trim(); } = ""; event Action E; void Changed() { } int this[int i] => i; }`, "M _a:int A:int B:string"},
		{"generics with constraints", `public class Page<T> where T : class, new() { public List<T> Items { get; set; } public int? Next { get; set; } }`, "Page Items:List<T> Next:int?"},
		{"an alias of a using", "using Number = System.Int64;\npublic class M { public Number A { get; set; } }", "M A:Number"},
	} {
		t.Run(c.name, func(t *testing.T) {
			set := readText("using System.Text.Json.Serialization;\n" + c.source)
			var all []string
			for _, m := range set.Models {
				all = append(all, shown(m))
			}
			if len(set.Problems) > 0 {
				t.Errorf("problems: %v", set.Problems)
			}
			if got := strings.Join(all, "; "); got != c.want {
				t.Errorf("\n got %s\nwant %s", got, c.want)
			}
		})
	}
}

// TestEnum: constants with their numbers.
func TestEnum(t *testing.T) {
	set := readText(`[Flags] public enum Deck : byte { None, Upper = 1 << 1, Lower = Upper * 2, Both = Upper | Lower, Next } public class M { public Deck D { get; set; } }`)
	var got []string
	for _, k := range set.Find("Deck").Cases {
		n := "?"
		if k.Raw != nil {
			n = k.Raw.Text
		}
		got = append(got, k.Name+"="+n)
	}
	if want := "None=0 Upper=2 Lower=4 Both=6 Next=7"; strings.Join(got, " ") != want {
		t.Errorf("%s, want %s", strings.Join(got, " "), want)
	}
}

// TestAttributes: whose an attribute is decides what it says; usings, aliases and full names tell.
func TestAttributes(t *testing.T) {
	for _, c := range []struct{ usings, mark, want string }{
		{"using System.Text.Json.Serialization;", `JsonIgnore`, "System.Text.Json.Serialization.JsonIgnore"},
		{"using Newtonsoft.Json;", `JsonIgnore`, "Newtonsoft.Json.JsonIgnore"},
		{"using Newtonsoft.Json;\nusing System.Text.Json;", `JsonIgnoreAttribute`, "Newtonsoft.Json.JsonIgnore"},
		{"using J = Newtonsoft.Json.JsonPropertyAttribute;", `J("a")`, "Newtonsoft.Json.JsonProperty"},
		{"", `System.Text.Json.Serialization.JsonPropertyName(nameof(M))`, "System.Text.Json.Serialization.JsonPropertyName"},
		{"using System.Runtime.Serialization;", `DataMember(Name = "a" + "b")`, "System.Runtime.Serialization.DataMember"},
	} {
		set := readText(c.usings + "\npublic class M { [" + c.mark + "] public int A { get; set; } }")
		m := set.Find("M")
		if m == nil || len(m.Fields) != 1 || len(m.Fields[0].Marks) != 1 {
			t.Errorf("%s [%s]: %+v", c.usings, c.mark, m)
			continue
		}
		if got := m.Fields[0].Marks[0].Whole; got != c.want {
			t.Errorf("%s [%s] is %s, want %s", c.usings, c.mark, got, c.want)
		}
	}
}

// TestBuilt: files that say how a project is built tell the library where source does not, and what annotations of
// null mean.
func TestBuilt(t *testing.T) {
	source := scan.Source{Name: "app/src/M.cs", Text: "public class M { public string A { get; set; } }"}
	for _, c := range []struct {
		name, text, library string
		oblivious           bool
	}{
		{"app/App.csproj", `<Project Sdk="Microsoft.NET.Sdk"><PropertyGroup><Nullable>enable</Nullable></PropertyGroup><ItemGroup><PackageReference Include="Newtonsoft.Json" Version="13.0.3" /></ItemGroup></Project>`, newtonsoftJSON, false},
		{"app/App.csproj", `<Project Sdk="Microsoft.NET.Sdk"><ItemGroup><PackageReference Include="Refit" /></ItemGroup></Project>`, "", true},
		{"app/packages.config", `<packages><package id="Newtonsoft.Json" version="12.0.1" /></packages>`, newtonsoftJSON, true},
		{"other/Other.csproj", `<Project><ItemGroup><PackageReference Include="Newtonsoft.Json" /></ItemGroup></Project>`, "", false},
	} {
		set := Read([]scan.Source{source}, []scan.Source{{Name: c.name, Text: c.text}})
		m := set.Find("M")
		if m.Library != c.library || m.Fields[0].Oblivious != c.oblivious {
			t.Errorf("%s: library %q, oblivious %v; want %q, %v", c.text, m.Library, m.Fields[0].Oblivious, c.library, c.oblivious)
		}
		if c.library != "" && !strings.HasPrefix(m.Assumed, c.name) {
			t.Errorf("%s: assumed since %q", c.name, m.Assumed)
		}
	}
}

// TestByHand: what code of the app reads is not judged as a library would.
func TestByHand(t *testing.T) {
	set := readText(`using System.Text.Json;
		public class Port { public string Code { get; set; } public static Port Of(JsonElement e) => new() { Code = e.GetProperty("port_code").GetString() }; }
		public class Fare { public int Pence { get; set; } }
		public static class Api { public static Port Load(string s) => Port.Of(JsonDocument.Parse(s).RootElement); public static Fare Fare(string s) => JsonSerializer.Deserialize<Fare>(s); }`)
	if !slices.ContainsFunc(set.Calls, func(c *model.Call) bool { return c.Declared == "Port" && c.Settings.Library == byOwnCode }) {
		t.Errorf("Port is decoded by %v", set.Calls)
	}
	set = readText(`using System.Text.Json;
		public class Port { public string Code { get; set; } public static Port Of(JsonElement e) => new() { Code = e.GetProperty("port_code").GetString() }; }
		public class Berth { public string Code { get; set; } public static Berth Of(ref Utf8JsonReader r) { r.Read(); return new() { Code = r.GetString() }; } }
		public class Fare { public int Pence { get; set; } }
		public static class Api { public static Fare Fare(string s) => JsonSerializer.Deserialize<Fare>(s); }`)
	if m := set.Find("Port"); m.Decoder == nil || m.Decoder.Library != byOwnCode { // of what document, nothing tells
		t.Errorf("Port is read by %v", m.Decoder)
	}
	if m := set.Find("Berth"); m.Reading != model.Unfollowed || m.Why != "code of the app reads it, in Of" {
		t.Errorf("Berth is read %v: %s", m.Reading, m.Why)
	}
	if m := set.Find("Fare"); m.Reading != model.ByLibrary {
		t.Errorf("Fare is read %v: %s", m.Reading, m.Why)
	}
}

// TestOptions: what decodes at a call, however its options are made.
func TestOptions(t *testing.T) {
	for _, c := range []struct{ name, body, want string }{
		{"none", `public M F(string s) => JsonSerializer.Deserialize<M>(s);`, ""},
		{"an argument", `public M F(string s) => JsonSerializer.Deserialize<M>(s, new JsonSerializerOptions { PropertyNameCaseInsensitive = true });`, "PropertyNameCaseInsensitive true"},
		{"a field, target-typed", `static readonly JsonSerializerOptions O = new() { PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower }; public M F(string s) => JsonSerializer.Deserialize<M>(s, O);`, "PropertyNamingPolicy SnakeCaseLower"},
		{"web defaults", `public M F(string s) { var o = new JsonSerializerOptions(JsonSerializerDefaults.Web); return JsonSerializer.Deserialize<M>(s, o); }`, "NumberHandling AllowReadingFromString; PropertyNameCaseInsensitive true; PropertyNamingPolicy CamelCase"},
		{"of the client's own methods", `public Task<M> F(HttpClient h) => h.GetFromJsonAsync<M>("m");`, "NumberHandling AllowReadingFromString; PropertyNameCaseInsensitive true; PropertyNamingPolicy CamelCase"},
		{"built in steps", `public M F(string s) { var o = new JsonSerializerOptions(); o.Converters.Add(new JsonStringEnumConverter()); return JsonSerializer.Deserialize<M>(s, o); }`, "enums names"},
		{"a helper", `static JsonSerializerOptions O() => new() { IncludeFields = true }; public M F(string s) => JsonSerializer.Deserialize<M>(s, O());`, "IncludeFields true"},
		{"of the other library", `public M F(string s) => JsonConvert.DeserializeObject<M>(s, new JsonSerializerSettings { MissingMemberHandling = MissingMemberHandling.Error });`, "MissingMemberHandling Error"},
		{"a strategy of the other library", `public M F(string s) => JsonConvert.DeserializeObject<M>(s, new JsonSerializerSettings { ContractResolver = new DefaultContractResolver { NamingStrategy = new SnakeCaseNamingStrategy() } });`, "naming SnakeCaseNamingStrategy"},
	} {
		t.Run(c.name, func(t *testing.T) {
			usings := "using System.Text.Json;\nusing System.Text.Json.Serialization;\nusing System.Net.Http.Json;\n"
			if strings.Contains(c.body, "JsonConvert") {
				usings = "using Newtonsoft.Json;\nusing Newtonsoft.Json.Serialization;\n"
			}
			set := readText(usings + "public class M { public int A { get; set; } }\npublic class Api { " + c.body + " }")
			for _, call := range set.Calls {
				if call.Type == nil || call.Settings == nil {
					continue
				}
				var all []string
				for name, o := range call.Settings.Options {
					all = append(all, name+" "+o.Value)
				}
				slices.Sort(all)
				if got := strings.Join(all, "; "); got != c.want {
					t.Errorf("%s, want %s (%s)", got, c.want, call.Settings.Why)
				}
				return
			}
			t.Error("no call was found")
		})
	}
}

// TestTorn: what cannot be read is said, with its place, and the rest is read.
func TestTorn(t *testing.T) {
	set := readText("public class A { public int X { get; set; }\n public int Y { get; set; \n}\npublic class B { public int Z { get; set; } ")
	if len(set.Models) == 0 {
		t.Error("nothing was read")
	}
	for _, src := range []string{"", "class", "class M {", "public record M(", "class M { int A {", "class M : ", "namespace", "[", "class M { [", `class M { string S = "`, `class M { string S = $"{`, "class M { string S = \"\"\"", "#if", "#endif", "enum E { A = ", "class M<T where", "class M { int F() => switch", "using", "class M { int F(", strings.Repeat("class M { ", 500), "class M { int A = " + strings.Repeat("(", 2000) + "; }", strings.Repeat("#if A\n", 300)} {
		readText(src)
	}
}

// TestUnmeasured: of what readers decode whose rules are not known nothing is claimed, and it is said.
func TestUnmeasured(t *testing.T) {
	set := readText(`public class A { public int X; } public class C { public A A; }
		public class Api {
			A F(string s) => UnityEngine.JsonUtility.FromJson<A>(s);
			C H(string s) => JsonSerializer.Deserialize<C>(s);
		}`)
	for name, want := range map[string]string{"A": "", "C": ""} { // A is decoded in C as well
		if m := set.Find(name); m == nil || (m.Reading == model.Unfollowed) != (want != "") || !strings.HasPrefix(m.Why, want) {
			t.Errorf("%s: %+v", name, m)
		}
	}
}

// TestSerializers: what is decoded is told by what a serializer is made for, however it is written.
func TestSerializers(t *testing.T) {
	for _, c := range []struct{ code, library string }{
		{"new XmlSerializer(typeof(M))", "xmlserializer"},
		{"new System.Xml.Serialization.XmlSerializer(typeof(M))", "xmlserializer"},
		{"new X.XmlSerializer(type: typeof(M))", "xmlserializer"},
		{"new global::System.Xml.Serialization.XmlSerializer(typeof(M), \"urn:s\")", "xmlserializer"},
		{"new System.Runtime.Serialization.DataContractSerializer(typeof(M))", "datacontract"},
		{"new DataContractJsonSerializer(typeof(M))", "datacontractjson"},
	} {
		set := readText("using System.Xml.Serialization; using System.Runtime.Serialization; using System.Runtime.Serialization.Json; using X = System.Xml.Serialization;\npublic class M { public int A { get; set; } }\npublic class Api { object F() { var s = " + c.code + "; return s; } }")
		if len(set.Calls) != 1 || set.Calls[0].Type == nil || set.Calls[0].Type.Name != "M" || set.Calls[0].Settings.Library != c.library {
			t.Errorf("%s: %d calls", c.code, len(set.Calls))
		}
	}
	for _, declared := range []string{"static readonly XmlSerializer S = new(typeof(M));", "XmlSerializer S { get; } = new(typeof(M));", "object F() { XmlSerializer s = new(typeof(M)); return s; }"} {
		set := readText("using System.Xml.Serialization;\npublic class M { public int A { get; set; } }\npublic class Api { " + declared + " }")
		if len(set.Calls) != 1 || set.Calls[0].Settings.Library != "xmlserializer" {
			t.Errorf("%s: %d calls", declared, len(set.Calls))
		}
	}
}
