package cli_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

// board is an app with a finding of each level in its four models.
func board(t *testing.T) *project {
	files := map[string]string{
		"App/Board.swift": `import Foundation
struct Breaks: Decodable { let id: Int; let name: String }
struct Misreads: Decodable { let big: Double; let on: Bool? }
struct Ignores: Decodable { let code: String }
struct Loose: Decodable { let level: String? }
let decoder = JSONDecoder()
func load(x: Data) throws {
    _ = try decoder.decode(Breaks.self, from: x); _ = try decoder.decode(Misreads.self, from: x)
    _ = try decoder.decode(Ignores.self, from: x); _ = try decoder.decode(Loose.self, from: x)
}
`,
		"breaks/breaks-1.json":     `{"id":1,"name":"Tern"}`,
		"breaks/breaks-2.json":     `{"id":"2","name":null}`,
		"misreads/misreads-1.json": `{"big":9007199254740993,"on":true}`,
		"ignores/ignores-1.json":   `{"code":"SAL","depth":4}`,
	}
	for i := range 6 { // fewer would not say that it is always there
		files[fmt.Sprintf("loose/loose-%d.json", i)] = `{"level":"high"}`
	}
	return newProject(t, files)
}

// TestFailOn: the exit code hangs on the worst finding and on what was asked for.
func TestFailOn(t *testing.T) {
	p := board(t)
	for _, c := range []struct {
		captures string
		codes    map[string]int // by -fail-on
	}{
		{"breaks", map[string]int{"breaks": 1, "misreads": 1, "ignores": 1, "loose": 1, "never": 0}},
		{"misreads", map[string]int{"breaks": 0, "misreads": 1, "ignores": 1, "loose": 1, "never": 0}},
		{"ignores", map[string]int{"breaks": 0, "misreads": 0, "ignores": 1, "loose": 1, "never": 0}},
		{"loose", map[string]int{"breaks": 0, "misreads": 0, "ignores": 0, "loose": 1, "never": 0}},
	} {
		for level, code := range c.codes {
			r := p.run("check", "-loose", "-fail-on", level, "App", c.captures)
			if r.code != code {
				t.Errorf("%s with -fail-on %s exits with %d, want %d\n%s%s", c.captures, level, r.code, code, r.out, r.err)
			}
		}
	}
	if r := p.run("check", "App", "ignores"); r.code != 0 {
		t.Errorf("without -fail-on a key that nobody reads exits with %d", r.code)
	}
	p.run("check", "-fail-on", "broken", "App", "breaks").exits(2).complains("-fail-on broken: it is one of breaks, misreads, unjudged, ignores, loose, never")
}

// TestTheSameWhateverTheOrder: workers, the order of paths and how they are written change
// nothing of what is said.
func TestTheSameWhateverTheOrder(t *testing.T) {
	p := board(t)
	want := p.run("check", "-loose", "App", "breaks", "misreads", "ignores", "loose").exits(1).out
	for _, args := range [][]string{
		{"-workers", "1"}, {"-workers", "2"}, {"-workers", "9"},
	} {
		all := append(append([]string{"check", "-loose"}, args...), "App", "breaks", "misreads", "ignores", "loose")
		if got := p.run(all...).out; got != want {
			t.Errorf("%q says\n%s\nwant\n%s", args, got, want)
		}
	}
	for _, paths := range [][]string{
		{"loose", "ignores", "App", "misreads", "breaks"},
		{"App", "App", "breaks", "breaks/breaks-1.json", "misreads", "ignores", "loose"},
		{"./App", "breaks/", "misreads", "ignores", "./loose/../loose"},
		{"-models", "App", "-captures", "breaks", "-captures", "misreads", "-captures", "ignores", "loose"},
		{"."},
	} {
		if got := p.run(append([]string{"check", "-loose"}, paths...)...).out; got != want {
			t.Errorf("%q says\n%s\nwant\n%s", paths, got, want)
		}
	}
}

// TestSavedShapes: a check of saved shapes, in one piece or several, says what one of the
// captures says, but for the values of examples, which a shape does not keep.
func TestSavedShapes(t *testing.T) {
	p := board(t)
	values := regexp.MustCompile(`"(value|brief)": "(\\.|[^"\\])*"`)
	want := values.ReplaceAllString(p.run("check", "-loose", "-format", "json", "App", "breaks", "misreads", "ignores", "loose").exits(1).out, "")
	p.run("shape", "-o", "all.shape", "breaks", "misreads", "ignores", "loose").exits(0)
	p.run("shape", "-o", "some.shape", "breaks/breaks-1.json", "misreads").exits(0)
	p.run("shape", "-o", "rest.shape", "breaks/breaks-2.json", "ignores").exits(0)
	p.run("shape", "-o", "merged.shape", "some.shape", "rest.shape", "loose").exits(0)
	for _, paths := range [][]string{{"all.shape"}, {"some.shape", "rest.shape", "loose"}, {"rest.shape", "some.shape", "loose"}, {"merged.shape"}} {
		got := values.ReplaceAllString(p.run(append([]string{"check", "-loose", "-format", "json", "App"}, paths...)...).exits(1).out, "")
		if got != want {
			t.Errorf("%q says\n%s\nwant\n%s", paths, got, want)
		}
	}
	if a, b := p.run("shape", "breaks").out, p.run("shape", "some.shape", "rest.shape").out; !strings.Contains(b, strings.Split(a, "\n")[2]) {
		t.Errorf("the shape of saved shapes\n%s\nlacks that of the captures\n%s", b, a)
	}
	p.run("shape", "-o", "all.shape").exits(2).complains("name the captures")
	p.run("shape", "-o", filepath.Join("no", "such", "folder.shape"), "breaks").exits(2).complains("folder.shape")
}

// TestLinesAreLines: what editors and build servers read has one line a finding, with a
// place that exists.
func TestLinesAreLines(t *testing.T) {
	p := board(t)
	r := p.run("check", "-loose", "-format", "lines", "App", "breaks", "misreads", "ignores", "loose").exits(1)
	form := regexp.MustCompile(`^App/Board\.swift:(\d+):(\d+): (breaks|misreads|ignores|loose): .+ \[[a-z-]+\]$`)
	seen := map[string]bool{}
	for _, line := range strings.Split(strings.TrimSpace(r.out), "\n") {
		m := form.FindStringSubmatch(line)
		if m == nil {
			t.Errorf("%q is no line of a finding", line)
			continue
		}
		seen[m[3]] = true
	}
	for _, level := range []string{"breaks", "misreads", "ignores", "loose"} {
		if !seen[level] {
			t.Errorf("no line of the level %s:\n%s", level, r.out)
		}
	}
}

// TestJSONOfEveryCommand: every command's JSON is one that a program can read, says which
// layout it has, and is the same each time.
func TestJSONOfEveryCommand(t *testing.T) {
	p := board(t)
	for _, args := range [][]string{
		{"check", "-format", "json", "App", "breaks"}, {"shape", "-format", "json", "breaks"}, {"models", "-format", "json", "App"},
	} {
		r := p.run(args...)
		var got struct {
			Layout  int
			Command string
		}
		if err := json.Unmarshal([]byte(r.out), &got); err != nil || got.Layout < 1 || got.Command != args[0] {
			t.Errorf("%q: %v %+v\n%s", args, err, got, r.out)
		}
		if again := p.run(args...).out; again != r.out {
			t.Errorf("%q says another thing the second time", args)
		}
	}
	r := p.run("trial", "-format", "json", "App", "breaks").exits(1)
	lines := strings.Split(strings.TrimSpace(r.out), "\n")
	if len(lines) != 2 {
		t.Fatalf("two documents are %d lines:\n%s", len(lines), r.out)
	}
	for i, outcome := range []string{"decodes", "fails"} {
		var got struct{ Model, Outcome, Document string }
		if err := json.Unmarshal([]byte(lines[i]), &got); err != nil || got.Outcome != outcome {
			t.Errorf("line %d: %v %+v, want %s", i+1, err, got, outcome)
		}
	}
}

// TestColor: colour is for terminals, and for those who ask.
func TestColor(t *testing.T) {
	p := board(t)
	for _, command := range [][]string{{"check", "App", "breaks"}, {"shape", "breaks"}, {"models", "App"}, {"trial", "App", "breaks"}} {
		with := func(options ...string) string {
			return p.run(append(append(command[:1:1], options...), command[1:]...)...).out
		}
		plain := with()
		if strings.Contains(plain, "\x1b") {
			t.Errorf("%q is coloured in a pipe", command)
		}
		if never := with("-color", "never"); never != plain {
			t.Errorf("%q with -color never differs from a pipe", command)
		}
		always := with("-color", "always")
		if !strings.Contains(always, "\x1b[") {
			t.Errorf("%q has no colour with -color always", command)
		}
		if bare := regexp.MustCompile(`\x1b\[[0-9;]*m`).ReplaceAllString(always, ""); bare != plain {
			t.Errorf("%q without its colours is\n%s\nwant\n%s", command, bare, plain)
		}
	}
}

// TestPaths: what cannot be read is named, and the rest is done.
func TestPaths(t *testing.T) {
	p := board(t)
	r := p.run("check", "App", "breaks", "nowhere").exits(2)
	r.complains("nowhere").says("Breaks")
	p.run("check", "nowhere", "neither").exits(2).complains("nowhere")
	p.run("models", "App", "breaks").exits(2).complains("breaks: nothing to read was found in it").says("4 models in 1 source file")

	os.WriteFile(filepath.Join(p.dir, "App", "Broken.kt"), []byte("data class Broken(val a: Int"), 0o644)
	os.WriteFile(filepath.Join(p.dir, "breaks", "cut.json"), []byte(`{"id":1,"name":"Te`), 0o644)
	os.WriteFile(filepath.Join(p.dir, "breaks", "empty.json"), nil, 0o644)
	os.WriteFile(filepath.Join(p.dir, "breaks", "words.json"), []byte("<html>no such page</html>"), 0o644)
	r = p.run("check", "App", "breaks").exits(1)
	r.complains("Broken.kt:1:18", "cut.json", "words.json", "empty.json").says("Breaks", "4 inputs could not be read whole")
	if err := os.Chmod(filepath.Join(p.dir, "breaks", "cut.json"), 0); err == nil && os.Getuid() != 0 {
		p.run("check", "App", "breaks").exits(1).complains("cut.json", "permission denied")
	}
}

// TestStandardOutputIsShut: a reader that goes away, as head does, is no crash.
func TestStandardOutputIsShut(t *testing.T) {
	p := board(t)
	read, write, err := os.Pipe()
	if err != nil {
		t.Fatal(err)
	}
	read.Close()
	cmd := exec.Command(program, "check", "App", "breaks")
	cmd.Dir = p.dir
	cmd.Stdout = write
	var errOut bytes.Buffer
	cmd.Stderr = &errOut
	err = cmd.Run()
	write.Close()
	if err == nil || strings.Contains(errOut.String(), "goroutine ") {
		t.Errorf("%v\n%s", err, errOut.String())
	}
}

// TestTrialDocuments: documents come one to a file, one to a line, or several in a row.
func TestTrialDocuments(t *testing.T) {
	p := board(t)
	for name, text := range map[string]string{
		"lines.ndjson": "{\"id\":1,\"name\":\"a\"}\n{\"id\":2,\"name\":\"b\"}\n\n{\"id\":3}\n",
		"row.json":     `{"id":1,"name":"a"} {"id":2,"name":"b"}` + "\n" + `{"id":3}`,
	} {
		os.WriteFile(filepath.Join(p.dir, name), []byte(text), 0o644)
		r := p.run("trial", "-format", "json", "-model", "Breaks", "App", name).exits(1)
		if n := strings.Count(strings.TrimSpace(r.out), "\n") + 1; n != 3 {
			t.Errorf("%s has %d documents, want 3\n%s", name, n, r.out)
		}
		if !strings.Contains(r.out, "keyNotFound") {
			t.Errorf("%s: the third lacks its error\n%s", name, r.out)
		}
	}
	p.run("trial", "-model", "Breaks", "App", "breaks/breaks-1.json").exits(0).says("breaks/breaks-1.json", "Tern")
	p.run("trial", "-model", "[Breaks]", "App", "breaks/breaks-1.json").exits(1).says("typeMismatch")
	// Without a model it is the one that fits best.
	p.run("trial", "App", "misreads").exits(0).says("Misreads")
}

// TestTrialOfWhatIsHeld: a type that no call decodes by itself is told as the one that it is decoded within, where
// the document is rather one of that.
func TestTrialOfWhatIsHeld(t *testing.T) {
	p := newProject(t, map[string]string{
		"Tides.cs": `using System.Collections.Generic;
using System.Text.Json;
public record Tide(double height, string kind);
public record Port(string code, List<Tide> tides);
public class Api { public List<Port> Load(string text) => JsonSerializer.Deserialize<List<Port>>(text); }
`,
		"list.json":  `[{"code":"SAL","tides":[]}]`,
		"null.json":  `null`,
		"port.json":  `{"code":"SAL"}`,
		"tide.json":  `{"height":5.1}`,
		"empty.json": `{}`,
	})
	for _, c := range []struct{ model, document, says string }{
		{"Port", "list.json", "list.json as List<Port>: decodes"},
		{"Port", "null.json", "null.json as List<Port>: decodes"},
		{"Port", "port.json", "port.json as Port: decodes"},
		{"Port", "empty.json", "empty.json as Port: decodes"},
		{"Tide", "tide.json", "tide.json as Tide: decodes"},
		{"Tide", "list.json", "list.json as List<Port>: decodes"},
	} {
		r := p.run("trial", "Tides.cs", c.document, "-model", c.model).exits(0)
		r.says(c.says)
		r.complains("no call decodes " + c.model + " by itself: documents of List<Port>, decoded at Tides.cs:5:74, are told as that")
	}
}
