package source_test

import (
	"sort"
	"strings"
	"testing"

	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
)

// resolved are the types of the fields of M, each with where its models are declared, from files
// that are written one behind the other: "a/A.kt: package a; …".
func resolved(t *testing.T, project string) string {
	t.Helper()
	var files []scan.Source
	for _, part := range strings.Split(project, "\n---\n") {
		name, text, ok := strings.Cut(strings.TrimSpace(part), ": ")
		if !ok {
			t.Fatal("no file name in", part)
		}
		files = append(files, scan.Source{Name: name, Text: strings.ReplaceAll(text, "; import", "\nimport")})
	}
	set := source.Read(files)
	for _, p := range set.Problems {
		t.Error(p.Pos, p.Reason)
	}
	var all []string
	for _, m := range set.Models {
		if m.Name != "M" {
			continue
		}
		for s := m; s != nil; {
			for _, f := range s.Fields {
				text := f.Name + " " + jvm.TypeText(f.Type)
				f.Type.Walk(func(t *model.Type) {
					if t.Model != nil {
						text += " @" + t.Model.Pos.File
					}
				})
				all = append(all, text)
			}
			if s.Super == nil {
				break
			}
			s = s.Super.Model
		}
	}
	sort.Strings(all)
	return strings.Join(all, "; ")
}

// TestResolve: what a name means by package and import, in Java, Kotlin and both.
func TestResolve(t *testing.T) {
	for _, c := range []struct{ name, project, want string }{
		{"same package", "a/M.java: package a; class M { Port p; }\n---\na/P.java: package a; class Port { int n; }", "p Port @a/P.java"},
		{"the same name in two packages", "a/M.java: package a; class M { Port p; }\n---\na/P.java: package a; class Port { int n; }\n---\nb/P.java: package b; class Port { int n; }", "p Port @a/P.java"},
		{"imported from the other", "a/M.java: package a; import b.Port; class M { Port p; }\n---\na/P.java: package a; class Port { int n; }\n---\nb/P.java: package b; class Port { int n; }", "p Port @b/P.java"},
		{"in two packages, imported from neither", "a/M.java: package a; class M { Port p; }\n---\nc/P.java: package c; class Port { int n; }\n---\nb/P.java: package b; class Port { int n; }", "p Port"},
		{"the only one of the project", "a/M.java: package a; class M { Port p; }\n---\nb/P.java: package b; class Port { int n; }", "p Port @b/P.java"},
		{"all of a package", "a/M.java: package a; import b.*; class M { Port p; }\n---\nc/P.java: package c; class Port { int n; }\n---\nb/P.java: package b; class Port { int n; }", "p Port @b/P.java"},
		{"a type of the package before all of another", "a/M.java: package a; import b.*; class M { Port p; }\n---\na/P.java: package a; class Port { int n; }\n---\nb/P.java: package b; class Port { int n; }", "p Port @a/P.java"},
		{"of a library", "a/M.java: package a; import lib.Port; class M { Port p; }\n---\na/P.java: package a; class Port { int n; }", "p lib.Port"},
		{"named with its package", "a/M.java: package a; class M { b.c.Port p; }\n---\nb/P.java: package b.c; class Port { int n; }", "p Port @b/P.java"},
		{"nested, named with its package", "a/M.java: package a; class M { b.c.Port.Berth p; }\n---\nb/P.java: package b.c; class Port { static class Berth { int n; } }", "p Port.Berth @b/P.java"},
		{"nested of an imported one", "a/M.java: package a; import b.Port; class M { Port.Berth p; }\n---\nb/P.java: package b; class Port { static class Berth { int n; } }", "p Port.Berth @b/P.java"},
		{"an imported nested one", "a/M.java: package a; import b.Port.Berth; class M { Berth p; }\n---\nb/P.java: package b; class Port { static class Berth { int n; } }", "p Port.Berth @b/P.java"},
		{"all that are nested in one", "a/M.java: package a; import b.Port.*; class M { Berth p; }\n---\nb/P.java: package b; class Port { static class Berth { int n; } }", "p Port.Berth @b/P.java"},
		{"an imported one deep inside", "a/M.java: package a; import b.Port.Berth.Side; class M { Side p; }\n---\nb/P.java: package b; class Port { static class Berth { static class Side { int n; } } }", "p Port.Berth.Side @b/P.java"},
		{"its own nested one before that of the package", "a/M.java: package a; class M { Port p; static class Port { int own; } }\n---\na/P.java: package a; class Port { int n; }", "p M.Port @a/M.java"},
		{"nested in what it extends", "a/M.java: package a; class M extends Base { Port p; }\n---\na/B.java: package a; class Base { static class Port { int n; } }\n---\na/P.java: package a; class Port { int m; }", "p Base.Port @a/B.java"},
		{"itself", "a/M.java: package a; import java.util.*; class M { M next; List<M> all; }", "all List<M> @a/M.java; next M @a/M.java"},
		{"no package", "M.java: class M { Port p; }\n---\nP.java: class Port { int n; }", "p Port @P.java"},
		{"a parameter, not the class of its name", "a/M.java: package a; class M<Port> { Port p; }\n---\na/P.java: package a; class Port { int n; }", "p Port"},
		{"a class of the platform's name", "a/M.java: package a; class M { Optional o; }\n---\na/P.java: package a; class Optional { int n; }", "o Optional @a/P.java"},
		{"the platform's, where the project has one elsewhere", "a/M.java: package a; import java.util.*; class M { Date d; }\n---\nb/P.java: package b; class Date { int n; }", "d Date"},
		{"inherited fields", "a/M.java: package a; class M extends Base { int own; }\n---\nb/B.java: package b; class Base { Port p; }\n---\nb/P.java: package b; class Port { int n; }", "own int; p Port @b/P.java"},
		{"Kotlin: another name", "a/M.kt: package a\nimport b.Port as Harbour\nclass M(val p: Harbour, val q: Port)\n---\na/P.kt: package a\nclass Port(val n: Int)\n---\nb/P.kt: package b\nclass Port(val n: Int)", "p Port @b/P.kt; q Port @a/P.kt"},
		{"Kotlin: an alias of another package", "a/M.kt: package a\nimport b.Ports\nclass M(val p: Ports)\n---\nb/P.kt: package b\nclass Port(val n: Int)\ntypealias Ports = List<Port?>", "p List<Port?> @b/P.kt"},
		{"Kotlin: an alias with parameters", "a/M.kt: package a\ntypealias By<T> = Map<String, T>\nclass M(val p: By<List<Port>>)\nclass Port(val n: Int)", "p Map<String, List<Port>> @a/M.kt"},
		{"Kotlin: an alias of an alias", "a/M.kt: package a\ntypealias A = B\ntypealias B = Port\nclass M(val p: A?)\nclass Port(val n: Int)", "p Port? @a/M.kt"},
		{"Kotlin: an alias that is not imported", "a/M.kt: package a\nclass M(val p: Ports)\n---\nb/P.kt: package b\nclass Port(val n: Int)\ntypealias Ports = List<Port>", "p Ports"},
		{"Kotlin: a class of Java", "a/M.kt: package a\nimport b.Port\nclass M(val p: Port.Berth?)\n---\nb/Port.java: package b; public class Port { public static class Berth { int n; } }", "p Port.Berth? @b/Port.java"},
		{"Java: a class of Kotlin", "a/M.java: package a; import b.Port; class M { Port p; java.util.List<Port.Berth> l; }\n---\nb/P.kt: package b\nclass Port(val n: Int) { class Berth(val m: Int) }", "l List<Port.Berth> @b/P.kt; p Port @b/P.kt"},
		{"Kotlin: nested in an object", "a/M.kt: package a\nimport a.Kinds.Kind\nclass M(val p: Kind, val q: Kinds.Kind)\nobject Kinds { class Kind(val n: Int) }", "p Kinds.Kind @a/M.kt; q Kinds.Kind @a/M.kt"},
	} {
		if got := resolved(t, c.project); got != c.want {
			t.Errorf("%s:\n got %s\nwant %s", c.name, got, c.want)
		}
	}
}
