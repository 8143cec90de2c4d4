package source

import (
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// TestAsked: through an app's own functions, closures, generics and types, what it asks for is known, and
// from which path, and by which decoder where it makes several. Each file is an app, and says at its lines
// what is asked there.
func TestAsked(t *testing.T) {
	files, _ := filepath.Glob("testdata/asked/*")
	if len(files) == 0 {
		t.Fatal("no apps")
	}
	for _, file := range files {
		t.Run(filepath.Base(file), func(t *testing.T) {
			text, err := os.ReadFile(file)
			if err != nil {
				t.Fatal(err)
			}
			got, by := map[int32]string{}, map[int32]string{}
			for _, c := range Read([]scan.Source{{Name: file, Text: string(text)}}).Calls {
				if c.Type != nil {
					got[c.Pos.Line] += strings.TrimSpace(c.Declared + " " + c.Endpoint)
					if c.Within != nil {
						got[c.Pos.Line] += " within " + strings.Join(c.Within, ".")
					}
					switch {
					case c.Picked:
						got[c.Pos.Line] += " picked"
					case c.Part != "" && c.Within == nil:
						got[c.Pos.Line] += " of a part"
					}
					if c.Settings != nil {
						by[c.Pos.Line] = optionsOf(c.Settings)
					}
				} else if !c.Followed && c.Lost != "" {
					got[c.Pos.Line] += "lost: " + c.Lost
				}
			}
			for i, line := range strings.Split(string(text), "\n") {
				_, want, _ := strings.Cut(line, "// asks ")
				want, decoder, several := strings.Cut(want, " by ")
				if got[int32(i+1)] != want {
					t.Errorf("line %d: got %q, want %q", i+1, got[int32(i+1)], want)
				}
				if several && by[int32(i+1)] != decoder {
					t.Errorf("line %d: decoded with %q, want %q", i+1, by[int32(i+1)], decoder)
				}
			}
		})
	}
}

// optionsOf are the options of a decoder in order: dates iso8601, keys convertFromSnakeCase; or why they are
// not known.
func optionsOf(s *model.Settings) string {
	switch {
	case s.Why != "":
		return "one of several"
	case len(s.Options) == 0:
		return "plain"
	}
	var all []string
	for _, name := range slices.Sorted(maps.Keys(s.Options)) {
		all = append(all, name+" "+s.Options[name].Value)
	}
	return strings.Join(all, ", ")
}

// FuzzAsked: following what an app asks for comes to an end and fails on nothing, whatever the code.
func FuzzAsked(f *testing.F) {
	files, _ := filepath.Glob("testdata/asked/*")
	apps, _ := filepath.Glob("dart/testdata/asked/*/*.dart")
	files = append(files, apps...)
	desk, _ := filepath.Glob("csharp/testdata/asked/*/*.cs")
	files = append(files, desk...)
	for _, file := range files {
		text, err := os.ReadFile(file)
		if err != nil {
			f.Fatal(err)
		}
		f.Add(filepath.Ext(file), string(text))
	}
	for _, ext := range []string{".swift", ".kt", ".java", ".dart", ".cs", ".ts", ".tsx"} {
		f.Add(ext, "func a<T>() -> T { b() } func b<T>() -> T { a() } let x: X = try JSONDecoder().decode(T.self, from: a")
		f.Add(ext, "fun <T> a(p: Type): T = gson.fromJson(b(p), p) val p: Type = p fun <T> b(p: Type): T = a(object : TypeToken<T>() {}.type")
		f.Add(ext, "class A<T> extends A<A<T>> { Type t = t; T a() { return gson.fromJson(s, t); } } class B { { new A<B>(t -> { case x: } ).a(")
		f.Add(ext, strings.Repeat("if (a) {", 300)+"gson.fromJson<T>(x)")
		f.Add(ext, strings.Repeat("a(", 300)+"decoder.decode(T.self, from: x)")
	}
	f.Fuzz(func(t *testing.T, ext, text string) {
		if ext != ".swift" && ext != ".kt" && ext != ".dart" && ext != ".cs" && ext != ".ts" && ext != ".tsx" {
			ext = ".java"
		}
		for _, c := range Read([]scan.Source{{Name: "a" + ext, Text: text}}).Calls {
			if len(c.Way) == 1 {
				t.Fatalf("the way of %s at %s leads nowhere", c.Declared, c.Pos)
			}
		}
	})
}
