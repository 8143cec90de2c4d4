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
		f := Find(paths)
		var out []string
		for _, s := range f.Sources {
			out = append(out, "source "+s.Name)
		}
		for _, c := range f.Captures {
			out = append(out, "capture "+c.Path)
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
		{[]Path{{Name: "c", What: Captures}}, "capture c/one.json; capture c/two.ndjson; shape c/saved.shape"},
		{[]Path{{Name: "App", What: Models}, {Name: "App/A.swift"}}, "source App/A.swift; source App/Sub/B.swift"},
		{
			[]Path{{Name: "c/one.json"}, {Name: "c"}, {Name: "c/one.json"}},
			"source c/loop/App/A.swift; source c/loop/App/Sub/B.swift; capture c/one.json; capture c/two.ndjson; shape c/saved.shape",
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
