package source

import (
	"os"
	"sort"
	"strings"
	"testing"

	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// describe writes a field as the want comments do.
func describe(f *model.Field) string {
	text := f.Name + " " + jvm.TypeText(f.Type)
	if f.Default != nil {
		text += " = " + f.Default.Source
	}
	if f.Static {
		text += " static"
	}
	if f.Transient {
		text += " transient"
	}
	return text
}

// TestFields holds what is read against the comments in the fixtures, line by line.
func TestFields(t *testing.T) {
	for _, name := range []string{"Fields.java", "Fields.kt", "Odd.java", "Odd.kt"} {
		data, err := os.ReadFile("testdata/" + name)
		if err != nil {
			t.Fatal(err)
		}
		set := Read([]scan.Source{{Name: name, Text: string(data)}})
		if len(set.Problems) > 0 {
			t.Errorf("%s: problems: %v", name, set.Problems)
		}
		fields, models := map[int][]string{}, map[int]string{}
		for _, m := range set.Models {
			models[int(m.Pos.Line)] = string(m.Kind)
			for _, f := range m.Fields {
				fields[int(f.Pos.Line)] = append(fields[int(f.Pos.Line)], describe(f))
			}
		}
		for i, line := range strings.Split(string(data), "\n") {
			want, kind := "", ""
			if _, comment, ok := strings.Cut(line, " // model "); ok {
				kind, want, _ = strings.Cut(comment, "; want ")
			} else if _, comment, ok := strings.Cut(line, " // want "); ok {
				want = comment
			}
			if models[i+1] != kind {
				t.Errorf("%s:%d: model %q, want %q: %s", name, i+1, models[i+1], kind, line)
			}
			got, wanted := fields[i+1], strings.Split(want, "; ")
			sort.Strings(got)
			sort.Strings(wanted)
			if g, w := strings.Join(got, "; "), strings.Join(wanted, "; "); g != w {
				t.Errorf("%s:%d: %s\n got %s\nwant %s", name, i+1, line, g, w)
			}
		}
	}
}

// FuzzRead holds the readers of Java and Kotlin to their word: they never fail, whatever
// the source, and what they read has its places in it.
func FuzzRead(f *testing.F) {
	for _, name := range []string{"Fields.java", "Fields.kt"} {
		data, err := os.ReadFile("testdata/" + name)
		if err != nil {
			f.Fatal(err)
		}
		f.Add(strings.HasSuffix(name, ".kt"), string(data))
	}
	for _, s := range []string{
		"class A { int a = ; }", "class A<T { }", "record R(int a", "enum E { A(1", "@A(@B(@C", "class A { A(JSONObject o) { for (int i = 0; i < o.length(); i++) } }",
		"data class A(val x: Int = ", "class A : B(", "typealias A = A", "val x by lazy { new GsonBuilder().", "val f = fun () = Gson().fromJson(x, object : TypeToken<T>() {}) < A", "fun f() = Gson().fromJson(x, object : TypeToken<A<", `"${`, "new ObjectMapper().configure(a", "interface I { @GET(\"a\") Call<", "class A extends A { } class B extends C { } class C extends B { }",
	} {
		f.Add(false, s)
		f.Add(true, s)
	}
	f.Fuzz(func(t *testing.T, kotlin bool, source string) {
		name := "A.java"
		if kotlin {
			name = "A.kt"
		}
		set := Read([]scan.Source{{Name: name, Text: source}})
		lines := strings.Count(source, "\n") + 1
		for _, m := range set.Models {
			for _, f := range m.Fields {
				if f.Type == nil || f.Pos.Line < 1 || int(f.Pos.Line) > lines && !strings.Contains(source, `\u`) {
					t.Fatalf("the field %s of %s has no type or no place: %+v", f.Name, m.Name, f)
				}
			}
		}
		(&model.Type{Kind: model.Named}).Reach(func(*model.Model) {})
	})
}
