package dart

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"vetta/internal/code/run"
	"vetta/internal/model"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// readFolder reads the sources of a folder.
func readFolder(t *testing.T, dir string) (*model.Set, map[string]string) {
	t.Helper()
	paths, err := filepath.Glob(dir + "/*.dart")
	if err != nil || len(paths) == 0 {
		t.Fatal("no sources", err)
	}
	texts := map[string]string{}
	var files []scan.Source
	for _, path := range paths {
		text, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		texts[path] = string(text)
		files = append(files, scan.Source{Name: path, Text: string(text)})
	}
	return Read(files, nil), texts
}

// TestAsked: each app asks in a way of its own. What its calls decode, and of which request, stands beside the line
// on which they do.
func TestAsked(t *testing.T) {
	dirs, err := filepath.Glob("testdata/asked/*")
	if err != nil || len(dirs) < 16 {
		t.Fatal("no apps", err)
	}
	for _, dir := range dirs {
		t.Run(filepath.Base(dir), func(t *testing.T) {
			set, texts := readFolder(t, dir)
			got := map[string][]string{}
			for _, c := range set.Calls {
				path := c.Endpoint
				if path == "" {
					path = "no path"
				}
				at := fmt.Sprintf("%s:%d", c.Pos.File, c.Pos.Line)
				got[at] = append(got[at], strings.TrimSpace(strings.Join(strings.Fields(c.Type.Written()+" "+c.Method+" "+path), " ")))
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

// TestRead: what is read of classes in less common forms: the keys of each field, behind the name of the class.
func TestRead(t *testing.T) {
	for _, c := range []struct{ name, source, want string }{
		{"an initialiser list", `class M { final int a, b; M.fromJson(Map<String, dynamic> j) : a = j['x'], b = j['y']['z'] ?? 0; }`, "M a=x b=y"},
		{"a body", `class M { int? a; late String b; M(Map json) { a = json['x']; if (json.containsKey('y')) { b = json['y']; } else { b = json['z'] ?? ''; } } }`, "M a=x b=y,z"},
		{"named arguments by way of locals", `class M { const M({required this.a, this.b = 3}); final int a; final int b; factory M.fromMap(Map<String, dynamic> m) { final x = m['k']; final (p, q) = (x, m['l'] as int); return M(a: p as int, b: q); } }`, "M a=k b=l"},
		{"patterns", `class M { final int a; final String? b; M(this.a, this.b); factory M.fromJson(Map<String, dynamic> j) { switch (j) { case {'a': int a, 'b': String? b}: return M(a, b); case {'n': {'a': int a}}: return M(a, null); default: throw const FormatException('M'); } } }`, "M a=a,n b=b"},
		{"a loop into a list", `class P { final String c; P(this.c); factory P.fromJson(j) => P(j['c']); } class M { final List<P> ps = []; M.fromJson(Map<String, dynamic> j) { for (var i = 0; i < j['ps'].length; i++) { ps.add(P.fromJson(j['ps'][i])); } } }`, "P c=c; M ps=ps"},
		{"a mixin and a superclass", `mixin N { String? n; void take(Map j) { n = j['n']; } } abstract class B { final int id; B.of(Map j) : id = j['id']; } class M extends B with N { final int x; M.fromJson(Map<String, dynamic> j) : x = j['x'], super.of(j) { take(j); } }`, "B id=id; M id=id n=n x=x"},
		{"super parameters", `class B { final int id; B({required this.id}); } class M extends B { final int x; M({required super.id, required this.x}); factory M.fromJson(Map<String, dynamic> j) => M(id: j['i'], x: j['x']); }`, "M id=i x=x"},
		{"an extension", `extension on Map<String, dynamic> { int n(String k) => (this[k] as num).toInt(); } class M { final int a; M(this.a); factory M.fromJson(Map<String, dynamic> j) => M(j.n('a')); }`, "M a=a"},
		{"a cascade and setters", `class M { int _a = 0; set a(int v) => _a = v; int? b; static M parse(Map<String, dynamic> j) => M()..a = j['a']..b = j['b']; }`, "M _a=a b=b"},
		{"strings with values, and braces", `class M { final String a; M(this.a); factory M.fromJson(Map<String, dynamic> j) => M("{}${j['a']}{" "${j["b"] ?? '{}'}"); }`, "M a=a,b"},
		{"a typedef and a helper with a type", `typedef Json = Map<String, dynamic>; T get<T>(Json j, String k, [T? or]) { final v = j[k]; if (v is T) return v; if (or != null) return or; throw FormatException(k); } class M { final int a; final String b; M(this.a, this.b); factory M.fromJson(Json j) => M(get(j, 'a'), get<String>(j, 'b', '')); }`, "M a=a b=b"},
		{"words that are no keywords", `class M { final int get, set, show, part, of; M(this.get, this.set, this.show, this.part, this.of); factory M.fromJson(Map<String, dynamic> j) { final async = j['get'], on = j['set']; return M(async, on, j['show'], j['part'], j['of']); } }`, "M get=get set=set show=show part=part of=of"},
		{"nothing is read of comments and other maps", `class M { /* json['no'] */ final int a; static Map<String, dynamic> other = {}; M(this.a); factory M.fromJson(Map<String, dynamic> json) => M(json['a'] + (other['no'] ?? 0)); }`, "M a=a"},
	} {
		set := Read([]scan.Source{{Name: "m.dart", Text: c.source}}, nil)
		var got []string
		for _, m := range set.Models {
			var b strings.Builder
			b.WriteString(m.Name)
			for _, f := range m.Fields {
				fmt.Fprintf(&b, " %s=%s", f.Name, strings.Join(f.Keys, ","))
			}
			got = append(got, b.String())
		}
		if text := strings.Join(got, "; "); text != c.want || len(set.Problems) > 0 {
			t.Errorf("%s\n got %s %v\nwant %s", c.name, text, set.Problems, c.want)
		}
	}
}

// TestStale: what is said of a part that is older than its class; of options for all classes, nothing.
func TestStale(t *testing.T) {
	const class = `part 'm.g.dart';
enum K { a, @JsonValue('B') b }
@JsonSerializable(%s)
class M { M({required this.portCode, this.n, required this.k}); %s final String portCode; final int? n; final K k; factory M.fromJson(Map<String, dynamic> j) => _$MFromJson(j); }`
	const part = `part of 'm.dart';
M _$MFromJson(Map<String, dynamic> json) => M(portCode: json['%s'] as String, n: %s, k: $enumDecode(_$KEnumMap, json['k']));
const _$KEnumMap = {K.a: 'a', K.b: 'B'};`
	for _, c := range []struct{ options, mark, key, n, want string }{
		{"", "", "portCode", "(json['n'] as num?)?.toInt()", ""},
		{"", "", "portCode", "json['n'] as int?", ""}, // as older generators wrote it
		{"fieldRename: FieldRename.snake", "", "port_code", "json['n'] as int?", ""},
		{"", "", "port_code", "json['n'] as int?", ""}, // as the project's options may say
		{"", "@JsonKey(name: 'code')", "portCode", "json['n'] as int?", "portCode: the generated part reads the key portCode, and the class says code"},
		{"", "", "portCode", "null", "n: the generated part does not read it; the class says the key n"},
		{"", "", "portCode", "json['n'] as String?", "n: the generated part reads it as another type than int?: it does not take a number"},
	} {
		set := Read([]scan.Source{{Name: "m.dart", Text: fmt.Sprintf(class, c.options, c.mark)}, {Name: "m.g.dart", Text: fmt.Sprintf(part, c.key, c.n)}}, nil)
		var got []string
		for _, f := range set.Find("M").Fields {
			if f.Stale != "" {
				got = append(got, f.Name+": "+f.Stale)
			}
		}
		if text := strings.Join(got, "; "); text != c.want {
			t.Errorf("%+v\n got %s", c, text)
		}
	}
}

// TestMissingPart: a class whose part is missing is read as a new run of the generator would write.
func TestMissingPart(t *testing.T) {
	set := Read([]scan.Source{{Name: "m.dart", Text: `part 'm.g.dart';
class When implements JsonConverter<DateTime, int> { const When(); DateTime fromJson(int s) => DateTime.fromMillisecondsSinceEpoch(s * 1000); int toJson(DateTime d) => 0; }
int cents(dynamic v) => v is int ? v : int.parse(v);
@JsonSerializable(fieldRename: FieldRename.kebab) @When()
class M { M(this.portCode, {required this.since, this.total = 3, this.tags = const []}); final String portCode; final DateTime? since; @JsonKey(fromJson: cents) final int total; final List<String> tags; @JsonKey(includeFromJson: false) int skipped = 0; Set<int>? deckNumbers;
  factory M.fromJson(Map<String, dynamic> j) => _$MFromJson(j); }
@JsonSerializable()
class N { N(this.other); final Other other; factory N.fromJson(Map<String, dynamic> j) => _$NFromJson(j); }`}}, nil)
	var got []string
	for _, f := range set.Find("M").Fields {
		got = append(got, f.Name+"="+strings.Join(f.Keys, ","))
	}
	if text := strings.Join(got, " "); text != "portCode=port-code since=since total=total tags=tags skipped= deckNumbers=deck-numbers" {
		t.Error(text, set.Find("M").Why)
	}
	if m := set.Find("N"); m.Reading != model.Unfollowed || !strings.Contains(m.Why, "the type Other is not in the source") {
		t.Errorf("%v: %s", m.Reading, m.Why)
	}
}

// TestMissingVariants: the classes behind the constructors of one whose parts are missing are made as they would be.
func TestMissingVariants(t *testing.T) {
	set := Read([]scan.Source{{Name: "m.dart", Text: `part 'm.freezed.dart';
@freezed
class Port with _$Port {
  const factory Port({required String name, @JsonKey(name: 'berth_count') required int berths, @Default(false) bool open}) = _Port;
  factory Port.fromJson(Map<String, dynamic> json) => _$PortFromJson(json);
}
@Freezed(unionKey: 'kind', unionValueCase: FreezedUnionCase.snake)
sealed class Notice with _$Notice {
  const factory Notice.longDelay(int minutes) = LongDelay;
  const factory Notice.text(String text) = NoticeText;
  factory Notice.fromJson(Map<String, dynamic> json) => _$NoticeFromJson(json);
}
Port port(String text) => Port.fromJson(jsonDecode(text));
Notice notice(String text) => Notice.fromJson(jsonDecode(text));`}}, nil)
	var got []string
	for _, f := range set.Find("Port").Fields {
		got = append(got, fmt.Sprintf("%s=%s:%d", f.Name, strings.Join(f.Keys, ","), f.Pos.Line))
	}
	if text := strings.Join(got, " "); text != "name=name:4 berths=berth_count:4 open=open:4" {
		t.Error(text, set.Find("Port").Why)
	}
	for i, docs := range [][][2]string{
		{{`{"name":"a","berth_count":2}`, `{"name":"a","berths":2,"open":false}`}, {`{"name":"a"}`, "type 'Null' is not a subtype of type 'num' in type cast"}},
		{{`{"kind":"long_delay","minutes":3}`, `"minutes":3`}, {`{"kind":"text","text":"x"}`, `"text":"x"`}, {`{"kind":"longDelay","minutes":3}`, "Could not create `Notice`.\nThere is a problem with \"kind\".\nInvalid union type \"longDelay\"!"}},
	} {
		e := set.Calls[i].Settings.Entry.(*run.Entry)
		for _, doc := range docs {
			v, err := wire.Parse([]byte(doc[0]))
			if err != nil {
				t.Fatal(err)
			}
			if got := shown(e, v); !strings.Contains(got, doc[1]) {
				t.Errorf("%s\n got %s\nwant %s", doc[0], got, doc[1])
			}
		}
	}
}

// shown is what an entry yields of a document, or what it throws.
func shown(e *run.Entry, doc *wire.Value) string {
	m := run.New(e.Program)
	v, err := m.Run(e, doc, false)
	if err != nil {
		return err.Error()
	}
	var text func(v run.View) string
	text = func(v run.View) string {
		var parts []string
		for i, e := range v.Elems {
			parts = append(parts, fmt.Sprintf("%q:%s", v.Names[i], text(e)))
		}
		switch v.Kind {
		case run.Obj:
			return "{" + strings.Join(parts, ",") + "}"
		case run.String:
			return fmt.Sprintf("%q", v.Text)
		}
		return v.Text
	}
	view, err := m.See(v)
	if err != nil {
		return err.Error()
	}
	return text(view)
}

// TestOnWeb: an app whose project has a folder for the web, and none for another platform, has the web's numbers.
func TestOnWeb(t *testing.T) {
	const app = "import 'dart:convert';\nclass Fare { final double price; Fare.fromJson(Map<String, dynamic> j) : price = j['price'] as double; }\nFare load(String s) => Fare.fromJson(jsonDecode(s));\n"
	for _, c := range []struct {
		folders []string
		want    string
	}{
		{[]string{"app/web/"}, "web"},
		{[]string{"app/web/", "app/ios/"}, ""},
		{[]string{"other/web/"}, ""},
		{nil, ""},
	} {
		var builds []scan.Source
		for _, name := range c.folders {
			builds = append(builds, scan.Source{Name: name})
		}
		set := Read([]scan.Source{{Name: "app/lib/fare.dart", Text: app}}, builds)
		if len(set.Calls) != 1 {
			t.Fatalf("%d calls were found", len(set.Calls))
		}
		if got := set.Calls[0].Settings.Option("numbers"); got != c.want {
			t.Errorf("with %v numbers are %q, want %q", c.folders, got, c.want)
		}
	}
}
