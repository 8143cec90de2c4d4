package input

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
)

func TestFind(t *testing.T) {
	dir := t.TempDir()
	for _, name := range []string{"App/A.swift", "App/Sub/B.swift", "App/Assets.xcassets/Contents.json", "App/.hidden/C.swift", "App/Pods/D.swift", "c/one.json", "c/two.ndjson", "c/notes.txt", "c/saved.shape", "c/.dot.json", "odd.bin"} {
		path := filepath.Join(dir, name)
		if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(path, []byte("x"), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	if err := os.Symlink(filepath.Join(dir, "c"), filepath.Join(dir, "App", "link")); err != nil {
		t.Fatal(err)
	}
	if err := os.Symlink(dir, filepath.Join(dir, "c", "loop")); err != nil {
		t.Fatal(err)
	}
	find := func(paths ...Path) string {
		for i := range paths {
			paths[i].Name = filepath.Join(dir, paths[i].Name)
		}
		f := Find(paths, nil)
		var out []string
		for _, s := range f.Sources {
			out = append(out, "source "+s.Name)
		}
		for _, c := range f.Captures {
			if c.Unsure {
				out = append(out, "perhaps "+c.Path)
			} else {
				out = append(out, "capture "+c.Path)
			}
		}
		for _, s := range f.Shapes {
			out = append(out, "shape "+s)
		}
		for _, p := range f.Problems {
			out = append(out, "problem "+p.Path)
		}
		return strings.ReplaceAll(strings.Join(out, "; "), dir+"/", "")
	}
	for _, c := range []struct {
		paths []Path
		want  string
	}{
		{
			[]Path{{Name: "App"}},
			"source App/A.swift; source App/Sub/B.swift; capture App/link/one.json; capture App/link/two.ndjson; shape App/link/saved.shape",
		},
		{[]Path{{Name: "c", What: Captures}}, "perhaps c/loop/odd.bin; perhaps c/notes.txt; capture c/one.json; capture c/two.ndjson; shape c/saved.shape"},
		{[]Path{{Name: "App", What: Models}, {Name: "App/A.swift"}}, "source App/A.swift; source App/Sub/B.swift"},
		{
			[]Path{{Name: "c/one.json"}, {Name: "c"}, {Name: "c/one.json"}},
			"source c/loop/App/A.swift; source c/loop/App/Sub/B.swift; perhaps c/loop/odd.bin; perhaps c/notes.txt; capture c/one.json; capture c/two.ndjson; shape c/saved.shape",
		},
		{[]Path{{Name: "nowhere"}, {Name: "odd.bin"}}, "problem nowhere; problem odd.bin"},
		{[]Path{{Name: "odd.bin", What: Captures}}, "capture odd.bin"},
		{[]Path{{Name: "App/Pods"}}, "source App/Pods/D.swift"},
	} {
		if got := find(append([]Path{}, c.paths...)...); got != c.want {
			t.Errorf("%v\n got %s\nwant %s", c.paths, got, c.want)
		}
	}
}

// TestOwnFiles: tests, and what an app ships or tests with, are passed over beside source unless they
// are named; folders of captures alone are read whatever they are called.
func TestOwnFiles(t *testing.T) {
	dir := t.TempDir()
	write := func(name, text string) {
		path := filepath.Join(dir, name)
		if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(path, []byte(text), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	for _, name := range []string{
		"android/app/build.gradle", "android/app/google-services.json", "android/app/src/main/java/ferry/test/Port.kt", "android/app/src/main/assets/ports.json",
		"android/app/src/test/java/ferry/PortTest.kt", "android/app/src/test/resources/port.json", "android/app/src/androidTest/java/Start.kt", "android/app/src/commonTest/kotlin/Odd.kt",
		"ios/Ferry/Port.swift", "ios/FerryTests/Decoding.swift", "ios/FerryUITests/x.json", "ios/captures/port/1.json", "ios/Contests/Race.swift",
		"web/fares.test.java", "web/__tests__/Fares.java", "web/src/Fares.java",
		"traffic/test/port-1.json", "traffic/port-2.json",
	} {
		write(name, "x")
	}
	write("ios/Ferry/DriverTest.swift", "struct DriverTest {}")
	write("ios/Ferry/MoreTests.swift", "import XCTest\n")
	find := func(paths ...string) string {
		var in []Path
		for _, p := range paths {
			in = append(in, Path{Name: filepath.Join(dir, p)})
		}
		f := Find(in, nil)
		var out []string
		for _, s := range f.Sources {
			out = append(out, s.Name+" of "+s.Module)
		}
		for _, c := range f.Captures {
			out = append(out, c.Path)
		}
		out = append(out, "| tests")
		out = append(append(out, f.Tests...), "| shipped")
		out = append(out, f.Shipped...)
		for _, p := range f.Problems {
			out = append(out, "| problem "+p.Path+": "+p.Reason)
		}
		return strings.ReplaceAll(strings.Join(out, " "), dir+"/", "")
	}
	for _, c := range []struct {
		paths []string
		want  string
	}{
		{[]string{"android", "traffic"}, "android/app/src/main/java/ferry/test/Port.kt of android/app traffic/port-2.json traffic/test/port-1.json" +
			" | tests android/app/src/androidTest/java/Start.kt android/app/src/commonTest/kotlin/Odd.kt android/app/src/test/java/ferry/PortTest.kt" +
			" | shipped android/app/google-services.json android/app/src/main/assets/ports.json android/app/src/test/resources/port.json"},
		{[]string{"ios"}, "ios/Contests/Race.swift of ios ios/Ferry/DriverTest.swift of ios ios/Ferry/Port.swift of ios ios/captures/port/1.json" +
			" | tests ios/Ferry/MoreTests.swift ios/FerryTests/Decoding.swift | shipped ios/FerryUITests/x.json"},
		{[]string{"web"}, "web/src/Fares.java of web | tests web/__tests__/Fares.java web/fares.test.java | shipped"},
		{[]string{"web/fares.test.java", "ios/FerryTests"}, "ios/FerryTests/Decoding.swift of ios/FerryTests web/fares.test.java of web | tests | shipped"},
		{[]string{"android/app/src/test/resources", "android/app/google-services.json"}, "android/app/google-services.json android/app/src/test/resources/port.json | tests | shipped"},
		{[]string{"."}, "android/app/src/main/java/ferry/test/Port.kt of android/app ios/Contests/Race.swift of . ios/Ferry/DriverTest.swift of . ios/Ferry/Port.swift of . web/src/Fares.java of ." +
			" ios/captures/port/1.json traffic/port-2.json traffic/test/port-1.json" +
			" | tests android/app/src/androidTest/java/Start.kt android/app/src/commonTest/kotlin/Odd.kt android/app/src/test/java/ferry/PortTest.kt ios/Ferry/MoreTests.swift ios/FerryTests/Decoding.swift web/__tests__/Fares.java web/fares.test.java" +
			" | shipped android/app/google-services.json android/app/src/main/assets/ports.json android/app/src/test/resources/port.json ios/FerryUITests/x.json"},
	} {
		got := strings.ReplaceAll(find(c.paths...), "of "+dir, "of .")
		if got != c.want {
			t.Errorf("%v\n got %s\nwant %s", c.paths, got, c.want)
		}
	}
	empty := filepath.Join(dir, "empty")
	os.Mkdir(empty, 0o755)
	if f := Find([]Path{{Name: empty}, {Name: filepath.Join(dir, "traffic"), What: Models}}, nil); len(f.Problems) != 2 || !f.Unusable() {
		t.Errorf("named folders in which nothing is: %v", f.Problems)
	}
}
