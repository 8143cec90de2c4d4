package source_test

import (
	"bytes"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"vetta/internal/model"
	"vetta/internal/report"
	"vetta/internal/source"
	"vetta/internal/source/scan"
)

// readAs is what is read of one file, whole or in outline.
func readAs(t *testing.T, name, text string, whole bool) string {
	var b bytes.Buffer
	set := source.Read([]scan.Source{{Name: name, Text: text, Whole: whole}})
	if err := report.JSON(&b, report.NewModels(set, report.Problems(nil, set.Problems, nil))); err != nil {
		t.Fatal(err)
	}
	return b.String()
}

// TestOutline holds reading that passes over bodies of functions to reading all of them,
// on every file of source that the tests of the project have: each alone, since a file
// that is read by hand has all the others read whole.
func TestOutline(t *testing.T) {
	shorter := map[string]int{}
	filepath.WalkDir("../..", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		language := source.LanguageOf(path)
		text, err := os.ReadFile(path)
		switch {
		case err != nil:
			return err
		case language == nil && filepath.Ext(path) != ".txt":
			return nil
		case language == nil: // a fixture of measured models, which is source under a head
			switch {
			case bytes.Contains(text, []byte("fun ")):
				path += ".kt"
			case bytes.Contains(text, []byte("class ")):
				path += ".java"
			default:
				return nil
			}
			language = source.LanguageOf(path)
		}
		whole, outline := readAs(t, filepath.Base(path), string(text), true), readAs(t, filepath.Base(path), string(text), false)
		if whole != outline {
			t.Errorf("%s: read whole:\n%s\nread in outline:\n%s", path, whole, outline)
		}
		if strings.Contains(whole, `"name"`) {
			shorter[language.Name]++
		}
		return nil
	})
	for _, l := range source.Languages {
		if shorter[l.Name] < 5 {
			t.Errorf("only %d files of %s have models", shorter[l.Name], l.Name)
		}
	}
}

// project has classes that nothing at them says are models, and one that is none: what is
// decoded leads to them through what it extends, holds, takes, names in an annotation, or
// has its keys from.
var project = map[string]string{
	"Api.java": `import com.fasterxml.jackson.databind.ObjectMapper;
		class Api { ObjectMapper mapper = new ObjectMapper(); Page<Sailing> of(String s) { return mapper.readValue(s, new TypeReference<Page<Sailing>>() {}); } }`,
	"Page.java":    `class Page<T> { private List<T> items; public List<T> getItems() { return items; } public void setItems(List<T> items) { this.items = items; } }`,
	"Base.java":    `class Base { protected int id; public int getId() { return id; } }`,
	"Keys.java":    `class Keys { private int unused; static final String PREFIX = "line_"; static final String LINE = PREFIX + "id"; }`,
	"Sailing.java": `class Sailing extends Base { @JsonProperty(Keys.LINE) public String line; public Fare fare; public Notice notice; public State state; public void setPort(Port p) { this.port = p; } private Port port; }`,
	"Fare.java":    `class Fare { public double amount; public Fare() { amount = 1; } }`,
	"Port.java":    `class Port { public String code; public static Port of(String code) { return new Port(); } }`,
	"Notice.java":  `@JsonTypeInfo(use = Id.NAME, property = "kind") @JsonSubTypes(@JsonSubTypes.Type(value = Delay.class, name = "delay")) interface Notice { String text(); }`,
	"Delay.java":   `class Delay implements Notice { public int minutes; public String text() { return ""; } }`,
	"State.kt":     `enum class State { ON_TIME, LATE; fun late() = this == LATE }`,
	"Row.java":     `class Row { final String title; Row(String title) { this.title = title; } }`,
}

// TestBodiesLater: of classes whose bodies are read only when something leads to them comes
// what comes of reading all of them at once.
func TestBodiesLater(t *testing.T) {
	read := func(whole bool) (string, *model.Set) {
		var files []scan.Source
		for _, name := range slices.Sorted(maps.Keys(project)) {
			files = append(files, scan.Source{Name: name, Text: project[name], Whole: whole})
		}
		set := source.Read(files)
		var b bytes.Buffer
		if err := report.JSON(&b, report.NewModels(set, report.Problems(nil, set.Problems, nil))); err != nil {
			t.Fatal(err)
		}
		return b.String(), set
	}
	whole, _ := read(true)
	later, set := read(false)
	if whole != later {
		t.Errorf("read at once:\n%s\nread as it is asked for:\n%s", whole, later)
	}
	fields := func(m *model.Model) (names string) {
		for _, f := range m.Fields {
			names += f.Name + " "
		}
		return names
	}
	for name, want := range map[string]string{"Page": "items ", "Sailing": "line fare notice state port ", "Fare": "amount ", "Port": "code ", "Delay": "minutes "} {
		if m := set.Find(name); m == nil || fields(m) != want {
			t.Errorf("%s is %v", name, m)
		}
	}
	if m := set.Find("Sailing"); m.Super == nil || fields(m.Super.Model) != "id " {
		t.Error("what Sailing extends is not read")
	}
	if slices.ContainsFunc(set.Models, func(m *model.Model) bool { return m.Name == "Row" }) {
		t.Error("Row is no model")
	}
	if m := set.Find("Row"); m == nil || fields(m) != "title " {
		t.Errorf("named though nothing decodes it, Row is %v", m)
	}
	if m := set.Find("Sailing").Related("Row"); m == nil || fields(m) != "title " {
		t.Errorf("asked for when all is linked, Row is %v", m)
	}
}

// members are what classes are made of in FuzzOutline, by language: some with words that
// bodies are read for, some with brackets where none count, and some that hold others,
// which stand at their @.
var members = map[string][]string{
	"A.java": {
		"int a;", "private final String b = \"}\";", "static class C { @ }", "int d(int e) throws F, g.H { if (e > 0) { return e; } /* } */ return '}'; }",
		"<T> List<T> i(T... j) { @ }", "void k() { mapper.configure(FAIL_ON_UNKNOWN_PROPERTIES, false); }", "ObjectMapper mapper = new ObjectMapper();",
		"A() { this.a = 1; @ }", "enum L { M { @ }, N; @ }", "Runnable o = new Runnable() { public void run() { @ } };", "A p() { return mapper.readValue(q, A.class); }",
		"{ a = 2; }", "record R(int s) { R { @ } }", "@JsonCreator static A t(@JsonProperty(\"u\") int v) { return new A(); }", "abstract int w();", "int[] x() { return new int[] {1, 2}; }",
		"Gson y() { Gson z = new GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.IDENTITY).create(); return z; }",
	},
	"A.kt": {
		"val a: Int = 1", "var b = \"}${ c { } }\"", "class C(val d: Int) { @ }", "fun e(f: Int = 1): Int { return \"${f + 1}}\".length }", "fun <T> g(h: () -> Unit): List<T> where T : I { @ }",
		"val j: Int get() { return 1 }", "fun k() = run { @ }", "object L { @ }", "companion object { @ }", "init { b = \"m\" }", "fun n(): A { return mapper.readValue(o, A::class.java) }",
		"val mapper = ObjectMapper().apply { propertyNamingStrategy = PropertyNamingStrategies.SNAKE_CASE }", "constructor(p: Int) : this() { @ }", "fun q() { mapper.configure(r, false) }",
		"enum class S { T { @ }, U; @ }", "interface V { fun w()\n class X { @ } }", "abstract fun y()\n class Z { @ }", "val `fun` by lazy { @ }", "fun String.aa(): Char { return '}' }",
	},
	"A.dart": {
		"final int a;", "static const b = '}${{1}}';", "String c() => '${{'x': 1}}';", "A(this.a) { @ }", "A.fromJson(Map<String, dynamic> json) : a = json['a'] { d(); }", "factory A.of(Map<String, dynamic> j) { return A(j['b']); }",
		"Widget build(BuildContext e) { return Column(children: [if (a > 1) Text('$a'), for (final f in g) Row(f, () { h(); })]); }", "int get i { return a; }", "int get k => a; set k(int l) { m = {l}; }", "Future<A> n() async { return A.fromJson(jsonDecode((await http.get(Uri.parse('/o'))).body)); }",
		"Stream<int> p() async* { yield 1; }", "List<T> q<T>(T Function(Map<String, dynamic>) r) { return [for (final s in t) r(s)]; }", "final u = {'v': (w) { return x; }};", "late final y = () { return switch (a) { 1 => 'z', _ => 'aa' }; }();",
		"operator ==(Object bb) { return bb is A; }", "@override String toString() { /* } */ return '}'; }", "static A cc(String dd) { A ee() { return A(1); } return ee(); }", "Future<A> ff() { return gg('/hh', A.fromJson); }", "void ii() { if (a > 0) { a; } else { switch (a) { case 1: break; } } }",
		"external int jj();", "A.kk({required this.a, int? ll}) : super(ll) { @ }",
	},
	"A.swift": {
		"let a: Int", "var b = \"}\\(c { })\"", "struct C: Decodable { @ }", "func d(e: Int = 1) throws -> [Int] { return [e] }", "func f<T>(_ g: T) -> T where T: H { @ }", "var i: Int { 1 }",
		"var j: Int = 2 { didSet { k() } }", "var l: Int { get { 1 } set { @ } }", "init(from m: Decoder) throws { func n() { throw o }; let p = try m.singleValueContainer(); if var q { q += 1 }; a = try p.decode(Int.self) }",
		"enum R: String, Decodable { case s, t; @ }", "#if DEBUG\nlet u: Int\n#else\nfunc v() { @ }\n#endif", "func w() { x = try decoder.decode(A.self, from: y) }",
		"let decoder: JSONDecoder = { let z = JSONDecoder(); z.keyDecodingStrategy = .convertFromSnakeCase; return z }()", "static func aa() -> JSONDecoder { let bb = JSONDecoder(); bb.dateDecodingStrategy = .iso8601; return bb }",
		"func cc() { let dd = ee / 2; ff() /* } */ }", "@MainActor private var gg: some View { HStack { @ } }", "lazy var hh = { jj() }()", "init() { @ }", "subscript(ii: Int) -> Int { @ }",
	},
	"A.cs": {
		"public int A { get; set; }", "class C { @ }", "public string B => \"}\" + $\"{c}\";", "record D(int E, string F) : G(E) { @ }", "int H(string i) { var j = JsonSerializer.Deserialize<C>(i); return 1; }", "private int k, l = 2;",
		"public M(int n) : base(n) { o = n; }", "enum P { Q, R = 1 << 2 }", "static readonly JsonSerializerOptions S = new() { PropertyNameCaseInsensitive = true };", "Task<T> U<T>(string v) where T : class { return JsonConvert.DeserializeObject<T>(v); }", "#if DEBUG\nint W;\n#else\nlong X() { }\n#endif",
		"public int Y { get { return z; } set { z = value; } }", "interface AA { @ }", "public partial struct BB<T> where T : new() { @ }", "int this[int cc] { get => dd[cc]; }", "event Action EE { add { ff(); } remove { } }", "public List<int> GG { get; } = new List<int> { 1, 2 };",
		"[JsonPropertyName(\"hh\")] public int? II { get; init; } = 3;", "void JJ() { if (kk) { ll = mm is { } nn ? nn : new C { A = 1 }; } /* } */ }", "public static C operator +(C oo, C pp) { return oo; }", "const string QQ = \"\"\"\n } { \n\"\"\";", "~RR() { }", "C SS() => TT switch { 1 => new C(), _ => null };",
	},
}

// FuzzOutline holds the outline of source to all of it: classes made of members, of which
// each byte picks one.
func FuzzOutline(f *testing.F) {
	every := make([]byte, 60)
	for i := range every {
		every[i] = byte(i)
	}
	for language := range uint8(5) {
		for i := range 20 {
			f.Add(language, every[i:])
		}
	}
	heads := []string{"A.java", "A.kt", "A.swift", "A.dart", "A.cs"}
	f.Fuzz(func(t *testing.T, language uint8, picks []byte) {
		name := heads[language%5]
		var b strings.Builder
		var write func(depth int)
		write = func(depth int) {
			for n := 0; len(picks) > 0 && n < 8; n++ {
				pick := picks[0]
				if picks = picks[1:]; pick > 250 { // the class ends here
					return
				}
				before, after, holds := strings.Cut(members[name][int(pick)%len(members[name])], "@ }")
				b.WriteString(before)
				if holds {
					if depth < 6 {
						write(depth + 1)
					}
					b.WriteString(" }")
				}
				b.WriteString(after + "\n")
			}
		}
		b.WriteString(map[string]string{"A.java": "class A {\n", "A.kt": "class A {\n", "A.dart": "class A {\n", "A.swift": "struct A: Decodable {\n"}[name])
		write(0)
		b.WriteString("}\n")
		if whole, outline := readAs(t, name, b.String(), true), readAs(t, name, b.String(), false); whole != outline {
			t.Errorf("%s\nread whole:\n%s\nread in outline:\n%s", b.String(), whole, outline)
		}
	})
}
