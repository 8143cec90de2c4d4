package cli_test

import (
	"flag"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

var update = flag.Bool("update", false, "write what the program says of the demo into testdata/demo")

// TestDemoOutputs holds what each command says of the demo to what was read and found
// good (testdata/demo). After a change that is meant: go test ./internal/cli -update, and
// read the difference.
func TestDemoOutputs(t *testing.T) {
	p := newProject(t, nil)
	p.run("demo", "saltmere").exits(0)
	for _, c := range []struct {
		file string
		code int
		args []string
	}{
		{"check-swift.txt", 1, []string{"check", "saltmere/App", "saltmere/captures"}},
		{"check-android.txt", 1, []string{"check", "saltmere/Android", "saltmere/captures", "-loose"}},
		{"check-all.lines", 1, []string{"check", "saltmere", "-format", "lines"}},
		{"models-android.txt", 0, []string{"models", "saltmere/Android"}},
		{"models-swift.txt", 0, []string{"models", "saltmere/App"}},
		{"shape-sailings.txt", 0, []string{"shape", "saltmere/captures", "-place", "$.sailings[*]"}},
		{"trial-kotlin.txt", 1, []string{"trial", "saltmere/Android", "saltmere/captures/sailings-2026-03-19.json", "saltmere/captures/fares-4400.json"}},
		{"trial-java.json", 1, []string{"trial", "saltmere/Android", "saltmere/captures/notices-2026-03-16.json", "saltmere/captures/vessels-2026-03-16.json", "-format", "json"}},
		{"trial-swift.json", 1, []string{"trial", "saltmere/App", "saltmere/captures/pass-SP-0105.json", "saltmere/captures/sailings-2026-03-16.json", "-format", "json"}},
	} {
		t.Run(c.file, func(t *testing.T) {
			r := p.run(c.args...).exits(c.code)
			path := filepath.Join("testdata", "demo", c.file)
			if *update {
				if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
					t.Fatal(err)
				}
				if err := os.WriteFile(path, []byte(r.out), 0o644); err != nil {
					t.Fatal(err)
				}
			}
			want, err := os.ReadFile(path)
			if err != nil {
				t.Fatal(err)
			}
			got, wanted := strings.Split(r.out, "\n"), strings.Split(string(want), "\n")
			for i := range max(len(got), len(wanted)) {
				g, w := "", ""
				if i < len(got) {
					g = got[i]
				}
				if i < len(wanted) {
					w = wanted[i]
				}
				if g != w {
					t.Fatalf("line %d\n got %s\nwant %s", i+1, g, w)
				}
			}
		})
	}
}
