package swift

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

func readFile(t *testing.T, name string) (string, *model.Set) {
	t.Helper()
	text, err := os.ReadFile("testdata/" + name)
	if err != nil {
		t.Fatal(err)
	}
	return string(text), Read([]scan.Source{{Name: name, Text: string(text)}})
}

// describe writes a field as the want comments do.
func describe(f *model.Field) string {
	typ := f.Declared
	if typ == "" {
		typ = "?"
	}
	keys := strings.Join(f.Keys, ", ")
	switch f.Reading {
	case model.Never, model.Unfollowed:
		keys = f.Reading.String()
	case model.ByCode:
		keys = "code"
	}
	text := fmt.Sprintf("%s %s <- %s", f.Name, typ, keys)
	if f.Default != nil && f.Reading == model.ByLibrary {
		text += " = " + f.Default.Source
	}
	return text
}

// TestFields holds what is read against the comments in the fixtures, line by line.
func TestFields(t *testing.T) {
	for _, name := range []string{"fields.swift", "odd.swift"} {
		text, set := readFile(t, name)
		fields, models := map[int][]string{}, map[int]string{}
		for _, m := range set.Models {
			models[int(m.Pos.Line)] = string(m.Kind)
			for _, f := range m.Fields {
				fields[int(f.Pos.Line)] = append(fields[int(f.Pos.Line)], describe(f))
			}
		}
		if len(set.Problems) > 0 {
			t.Errorf("problems: %v", set.Problems)
		}
		for i, line := range strings.Split(text, "\n") {
			want, kind := "", ""
			if _, comment, ok := strings.Cut(line, " // model "); ok {
				kind, comment, _ = strings.Cut(comment, "; want ")
				want = comment
			} else if _, comment, ok := strings.Cut(line, " // want "); ok {
				want = comment
			}
			if models[i+1] != kind {
				t.Errorf("%s:%d: model %q, want %q: %s", name, i+1, models[i+1], kind, line)
			}
			if got := strings.Join(fields[i+1], "; "); got != want {
				t.Errorf("%s:%d: %s\n got %s\nwant %s", name, i+1, line, got, want)
			}
		}
	}
}

func TestSettings(t *testing.T) {
	for _, c := range []struct{ name, source, want string }{
		{"plain", `func f(d: Data) throws -> Port { try JSONDecoder().decode(Port.self, from: d) }`, "Port"},
		{"local", `func f(d: Data) throws -> [Port] { let j = JSONDecoder(); j.keyDecodingStrategy = .convertFromSnakeCase; return try j.decode([Port].self, from: d) }`,
			"[Port] keys=convertFromSnakeCase"},
		{"property closure", `class C { let decoder: JSONDecoder = { let d = JSONDecoder(); d.dateDecodingStrategy = .iso8601; return d }()
			func f(x: Data) throws { _ = try self.decoder.decode(Port.self, from: x) } }`, "Port dates=iso8601"},
		{"static in an extension", `extension JSONDecoder { static let api: JSONDecoder = { let d = JSONDecoder(); d.dateDecodingStrategy = .secondsSince1970; return d }() }
			func f(x: Data) throws { _ = try JSONDecoder.api.decode(Port.self, from: x) }`, "Port dates=secondsSince1970"},
		{"factory", `func makeDecoder() -> JSONDecoder { let d = JSONDecoder(); d.keyDecodingStrategy = .convertFromSnakeCase; return d }
			func f(x: Data) throws { _ = try makeDecoder().decode(Port.self, from: x) }`, "Port keys=convertFromSnakeCase"},
		{"subclass", `class APIDecoder: JSONDecoder { override init() { super.init(); keyDecodingStrategy = .convertFromSnakeCase } }
			func f(x: Data) throws { let d = APIDecoder(); _ = try d.decode(Port.self, from: x) }`, "Port keys=convertFromSnakeCase"},
		{"two decoders", `func f(x: Data) throws { let a = JSONDecoder(); a.dateDecodingStrategy = .iso8601; _ = try a.decode(Port.self, from: x) }
			func g(x: Data) throws { let a = JSONDecoder(); a.dateDecodingStrategy = .millisecondsSince1970; _ = try a.decode([Port].self, from: x) }`,
			"Port dates=iso8601; [Port] dates=millisecondsSince1970"},
		{"swallowed", `func f(x: Data) -> Port? { try? JSONDecoder().decode(Port.self, from: x) }`, "Port swallowed"},
		{"generic", `func f<T: Decodable>(x: Data) throws -> T { let d = JSONDecoder(); d.dateDecodingStrategy = .iso8601; return try d.decode(T.self, from: x) }`,
			"? dates=iso8601"},
		{"formatter", `let f = DateFormatter(); f.dateFormat = "dd.MM.yyyy"; f.timeZone = TimeZone(identifier: "Europe/London")
			let d = JSONDecoder(); d.dateDecodingStrategy = .formatted(f); let p = try d.decode(Port.self, from: x)`,
			"Port dates=formatted dates.pattern=dd.MM.yyyy dates.zone=Europe/London"},
		{"custom", `let d = JSONDecoder(); d.dateDecodingStrategy = .custom { d in try Date(from: d) }; let p = try d.decode(Port.self, from: x)`, "Port dates=custom"},
		{"in a comment", `// JSONDecoder().decode(Port.self, from: d)`, ""},
		{"a container", `struct A: Decodable { init(from d: Decoder) throws { let c = try d.container(keyedBy: K.self); _ = try c.decode(Port.self, forKey: .a) } }`, ""},
	} {
		set := Read([]scan.Source{{Name: "a.swift", Text: "struct Port: Codable { let code: String }\n" + c.source}})
		var got []string
		for _, call := range set.Calls {
			text := call.Declared
			if call.Type == nil {
				text = "?"
			}
			if call.Swallowed {
				text += " swallowed"
			}
			for _, name := range []string{"keys", "dates", "dates.pattern", "dates.zone"} {
				if v := call.Settings.Option(name); v != "" {
					text += " " + name + "=" + v
				}
			}
			got = append(got, text)
		}
		if text := strings.Join(got, "; "); text != c.want {
			t.Errorf("%s: %s, want %s", c.name, text, c.want)
		}
	}
}

// TestTypes resolves names through nesting, extensions, aliases and files.
func TestTypes(t *testing.T) {
	set := Read([]scan.Source{
		{Name: "A/a.swift", Text: `struct Port: Codable { typealias Metres = Double; struct Berth: Codable { let n: Int; let up: Port }
			let depth: Metres; let berths: [Berth]; let other: Outer.Inner; let alias: Ports; let odd: Missing; let generic: Page<Berth>; let spaced : Page < Berth > ?; let dup: Twin }
			typealias Ports = [Port]
			struct Twin: Codable { let a: Int }`},
		{Name: "B/b.swift", Text: `extension Outer { struct Inner: Codable { let a: Int } }
			enum Outer {}
			struct Page<T: Codable>: Codable { let items: [T] }
			struct Twin: Codable { let b: Int }
			struct Own: Codable { let twin: Twin; let metres: Port.Metres; let berth: Swift.Array<Port.Berth>? }`},
	})
	text := func(t *model.Type) string { return typeText(t) }
	for _, c := range []struct{ model, field, want, file string }{
		{"Port", "depth", "Double", ""}, {"Port", "berths", "[Port.Berth]", "A/a.swift"}, {"Port", "other", "Outer.Inner", "B/b.swift"},
		{"Port", "alias", "[Port]", "A/a.swift"}, {"Port", "odd", "Missing", ""}, {"Port", "generic", "Page<Port.Berth>", "B/b.swift"}, {"Port", "spaced", "Page<Port.Berth>", "B/b.swift"},
		{"Port", "dup", "Twin", "A/a.swift"}, {"Own", "twin", "Twin", "B/b.swift"}, {"Own", "metres", "Double", ""},
		{"Own", "berth", "[Port.Berth]?", "A/a.swift"}, {"Port.Berth", "up", "Port", "A/a.swift"},
	} {
		m := set.Find(c.model)
		if m == nil {
			t.Errorf("no model %s", c.model)
			continue
		}
		for _, f := range m.Fields {
			if f.Name != c.field {
				continue
			}
			file := ""
			f.Type.Walk(func(t *model.Type) {
				if t.Model != nil && file == "" {
					file = t.Model.Pos.File
				}
			})
			if got := text(f.Type); got != c.want || file != c.file {
				t.Errorf("%s.%s is %s of %q, want %s of %q", c.model, c.field, got, file, c.want, c.file)
			}
		}
	}
}

func TestEnums(t *testing.T) {
	set := Read([]scan.Source{{Name: "e.swift", Text: `enum A: Int, Codable { case a, b = 5, c, d = -2, e }
		enum B: String, Codable { case one, two = "2", three = "\u{33}" }
		indirect enum C: Codable { case text(String), delay(minutes: Int = 3, reason: String?), none; enum CodingKeys: String, CodingKey { case text = "TEXT", delay } }`}})
	got := ""
	for _, m := range set.Models {
		for _, c := range m.Cases {
			got += m.Name + "." + c.Name
			if c.Raw != nil {
				got += "=" + c.Raw.Text
			} else {
				got += ":" + c.Key
			}
			for _, v := range c.Values {
				got += "(" + describe(v) + ")"
			}
			got += " "
		}
	}
	want := `A.a=0 A.b=5 A.c=6 A.d=-2 A.e=-1 B.one=one B.two=2 B.three=3 C.text:TEXT(_0 String <- _0) C.delay:delay(minutes Int <- minutes = 3)(reason String? <- reason) C.none: `
	if got != want {
		t.Errorf("\n got %s\nwant %s", got, want)
	}
}

// FuzzRead holds the reader to its word: it never fails, whatever the source.
func FuzzRead(f *testing.F) {
	text, err := os.ReadFile("testdata/fields.swift")
	if err != nil {
		f.Fatal(err)
	}
	f.Add(string(text))
	for _, s := range []string{"", "struct", "struct A: Codable {", "\"", "#\"", `"\(`, "/*", "}", "struct A { let x: [ }", "enum E { case a(", "let x: A<B<C", "#if", "#endif", "#else",
		"init(from d: Decoder) throws {", "struct A: Decodable { let a: Int; init(from d: Decoder) throws { let c = try d.container(keyedBy: K.self); a = try c.decode(Int.self, forKey: .a) } }",
		"typealias A = B; typealias B = A; struct C: A { let d: B }", "class A: B {}; class B: A {}", "x.decode(", "x.dateDecodingStrategy = ", "\x00\xff", "@", "@a(", "var a = { "} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, source string) {
		set := Read([]scan.Source{{Name: "f.swift", Text: source}})
		for _, p := range set.Problems {
			if p.Pos.Line < 1 || p.Pos.Col < 1 {
				t.Fatalf("a problem without a place: %v", p)
			}
		}
	})
}

// What is broken at one place must not take what follows with it.
func TestAfterBroken(t *testing.T) {
	for source, want := range map[string]string{
		"struct M: Codable {\n let a: [Int\n let b: Int\n}":           "a b",
		"struct M: Codable {\n let a: [String: [Int]\n let b: Int\n}": "a b",
		"struct M: Codable {\n let a: Int = \n let b: Int\n}":         "a b",
		"struct M: Codable {\n let a: \n let b: Int\n}":               "a b",
		"struct M: Codable {\n let a: Int)\n let b: Int\n}":           "a b",
		"struct M: Codable {\n let s = \"unfinished\n let b: Int\n}":  "s b",
		"struct M: Codable {\n @Wrapped( let a: Int\n let b: Int\n}":  "a b",
	} {
		set := Read([]scan.Source{{Name: "M.swift", Text: source}})
		var got []string
		if m := set.Find("M"); m != nil {
			for _, f := range m.Fields {
				got = append(got, f.Name)
			}
		}
		if text := strings.Join(got, " "); text != want {
			t.Errorf("%s\n got %s\nwant %s\nproblems %v", source, text, want, set.Problems)
		}
	}
}
