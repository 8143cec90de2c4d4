package cli_test

import (
	"flag"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

var update = flag.Bool("update", false, "write what the program says into the files of testdata")

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
		{"check-desk.txt", 1, []string{"check", "saltmere/Desk", "saltmere/captures"}},
		{"models-desk.txt", 0, []string{"models", "saltmere/Desk"}},
		{"shape-timetable.txt", 0, []string{"shape", "saltmere/captures/desk"}},
		{"trial-desk-xml.txt", 1, []string{"trial", "saltmere/Desk", "saltmere/captures/desk", "-since", "2026-03-16"}},
		{"check-web.txt", 1, []string{"check", "saltmere/Web", "saltmere/captures"}},
		{"models-web.txt", 0, []string{"models", "saltmere/Web"}},
		{"trial-web.txt", 1, []string{"trial", "saltmere/Web", "saltmere/captures/board.har", "-path", "/v2/ports", "-since", "2026-03-16"}},
		{"models-swift.txt", 0, []string{"models", "saltmere/App"}},
		{"shape-sailings.txt", 0, []string{"shape", "saltmere/captures", "-place", "$.sailings[*]"}},
		{"shape-board.txt", 0, []string{"shape", "saltmere/captures/board.har", "-since", "2026-03-11"}},
		{"trial-kotlin.txt", 1, []string{"trial", "saltmere/Android", "saltmere/captures/board.har", "-path", "/v2/sailings", "-since", "2026-03-19", "-until", "2026-03-19"}},
		{"trial-fares.txt", 0, []string{"trial", "saltmere/App", "saltmere/captures/curl/fares-4300.txt"}},
		{"trial-java.json", 1, []string{"trial", "saltmere/Android", "saltmere/captures/recorder/notices.ndjson", "-format", "json"}},
		{"trial-swift.json", 0, []string{"trial", "saltmere/App", "saltmere/captures/passes.zip", "-format", "json"}},
	} {
		t.Run(c.file, func(t *testing.T) {
			golden(t, filepath.Join("demo", c.file), p.run(c.args...).exits(c.code).out)
		})
	}
	// In the project its vetta.toml says what to read.
	inside := &project{t, filepath.Join(p.dir, "saltmere")}
	for _, c := range []struct {
		file string
		code int
		args []string
	}{
		{"pair.txt", 0, []string{"pair"}},
		{"config.txt", 0, []string{"config", "-fail-on", "breaks"}},
		{"check-request.txt", 1, []string{"check", "-only", "RideRequest", "-only", "Problem", "-loose"}},
		{"trial-pass.txt", 0, []string{"trial", "captures/passes.zip"}},
	} {
		t.Run(c.file, func(t *testing.T) {
			golden(t, filepath.Join("demo", c.file), inside.run(c.args...).exits(c.code).out)
		})
	}
}

// TestAskedOutputs holds how models tells the way of every call of the apps that show one way of asking each
// (internal/source/testdata/asked): through which functions, from which path, and why one is lost.
func TestAskedOutputs(t *testing.T) { holdWays(t, "asked", "Decoded") }

// TestSentOutputs does so of what apps send, in the ways in which they send it (internal/source/testdata/sent).
func TestSentOutputs(t *testing.T) { holdWays(t, "sent", "Sent") }

// holdWays holds what models says under a title of the apps in a folder of internal/source/testdata.
func holdWays(t *testing.T, folder, title string) {
	t.Helper()
	apps, _ := filepath.Glob("../source/testdata/" + folder + "/*")
	if len(apps) == 0 {
		t.Fatal("no apps")
	}
	for _, app := range apps {
		name := filepath.Base(app)
		t.Run(name, func(t *testing.T) {
			text, err := os.ReadFile(app)
			if err != nil {
				t.Fatal(err)
			}
			out := newProject(t, files{name: string(text)}).run("models", name).exits(0).out
			_, asked, ok := strings.Cut(out, "\n"+title+"\n")
			if !ok {
				t.Fatalf("nothing is %s:\n%s", title, out)
			}
			golden(t, filepath.Join(folder, name+".txt"), asked)
		})
	}
}

// golden compares what the program said with a file of testdata, line by line, or writes that.
func golden(t *testing.T, file, got string) {
	t.Helper()
	path := filepath.Join("testdata", file)
	if *update {
		if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(path, []byte(got), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	want, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	lines, wanted := strings.Split(got, "\n"), strings.Split(string(want), "\n")
	for i := range max(len(lines), len(wanted)) {
		g, w := "", ""
		if i < len(lines) {
			g = lines[i]
		}
		if i < len(wanted) {
			w = wanted[i]
		}
		if g != w {
			t.Fatalf("line %d\n got %s\nwant %s", i+1, g, w)
		}
	}
}
