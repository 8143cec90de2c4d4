package cli_test

import (
	"encoding/json"
	"encoding/xml"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// drifting is a class of which a response lacks a key, and one has another kind of value.
func drifting() files {
	return files{
		"App/Fare.swift": `import Foundation
struct Fare: Decodable { let ticket: String; let amount: Double; let currency: String? }
func load(_ d: Data) throws -> [Fare] { try JSONDecoder().decode([Fare].self, from: d) }
`,
		"traffic/fares-1.json": `[{"ticket": "day", "amount": 12.5, "currency": "EUR"}]`,
		"traffic/fares-2.json": `[{"ticket": "day", "amount": "38.90", "currency": "EUR", "tax": 2}]`,
	}
}

// file is what a file of the project holds.
func (p *project) file(name string) string {
	p.t.Helper()
	data, err := os.ReadFile(filepath.Join(p.dir, name))
	if err != nil {
		p.t.Fatal(err)
	}
	return string(data)
}

func (p *project) write(name, text string) {
	p.t.Helper()
	path := filepath.Join(p.dir, name)
	if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
		p.t.Fatal(err)
	}
	if err := os.WriteFile(path, []byte(text), 0o644); err != nil {
		p.t.Fatal(err)
	}
}

// TestReportFiles: each report goes where it is said, in the format of the ending or of the -format before it, while the
// text stays on standard output.
func TestReportFiles(t *testing.T) {
	p := newProject(t, drifting())
	plain := p.run("check", "App", "traffic").exits(1)
	r := p.run("check", "App", "traffic", "-o", "drift.sarif", "-o", "drift.xml", "-o", "drift.md", "-o", "drift.HTML", "-o", "drift.json", "-format", "lines", "-o", "drift.txt", "-format", "sarif", "-o", "scan.json", "-format", "markdown", "-o", "comment").exits(1)
	if r.out != plain.out {
		t.Errorf("the text is another beside reports:\n%s", r.out)
	}
	for name, begins := range map[string]string{
		"drift.sarif": "{\n  \"$schema\": \"https://docs.oasis-open.org/sarif/sarif/v2.1.0/", "drift.xml": "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<testsuites name=\"vetta check\"", "drift.md": "## Vetta: ",
		"drift.HTML": "<!doctype html>", "drift.json": "{\n  \"layout\": 1,", "drift.txt": "App/Fare.swift:2:50: breaks: Fare amount", "scan.json": "{\n  \"$schema\"", "comment": "## Vetta: ",
	} {
		if text := p.file(name); !strings.HasPrefix(text, begins) {
			t.Errorf("%s begins with %.80q", name, text)
		}
	}
	if got := p.run("check", "App", "traffic", "-format", "markdown").exits(1).out; got != p.file("drift.md") {
		t.Errorf("the file is another than what goes to standard output:\n%s", got)
	}
	p.run("check", "App", "traffic", "-o", "page.html", "-format", "lines").exits(1).says("App/Fare.swift:2:50: breaks: Fare amount")
	// The reports of the run before are no captures, those of this one are not read in any case.
	again := p.run("check", ".", "-o", "drift.json", "-o", "scan.json", "-o", "drift.xml", "-format", "json").exits(1)
	if strings.Contains(again.out, "\"endpoint\": \"drift\"") || strings.Contains(again.out, "\"endpoint\": \"scan\"") {
		t.Errorf("reports are read as captures:\n%s", again.out)
	}
}

func TestReportMisuse(t *testing.T) {
	p := newProject(t, drifting())
	for _, c := range []struct {
		args []string
		want string
	}{
		{[]string{"-format", "sarif", "-format", "lines"}, "-format sarif and -format lines both go to standard output: put -o FILE behind one of them"},
		{[]string{"-o", "drift.out"}, "-o drift.out: its ending tells no format: put -format before it"},
		{[]string{"-o", "a.md", "-o", "./a.md"}, "two reports go to ./a.md"},
		{[]string{"-o", "-"}, "it is no file"},
		{[]string{"-format", "htlm"}, "did you mean html?"},
	} {
		r := p.run(append([]string{"check", "App", "traffic"}, c.args...)...).exits(2).complains(c.want)
		if r.out != "" {
			t.Errorf("%v writes all the same:\n%s", c.args, r.out)
		}
	}
	// Of several files none is written where one cannot be.
	p.run("check", "App", "traffic", "-o", "first.html", "-o", "nowhere/drift.sarif").exits(2).complains("nowhere/drift.sarif: no such file or directory")
	if _, err := os.Stat(filepath.Join(p.dir, "first.html")); err == nil {
		t.Error("one report is written and the other is not")
	}
}

// TestReportsAgree: every format tells the same findings of the demo.
func TestReportsAgree(t *testing.T) {
	p := newProject(t, nil)
	p.run("demo", "saltmere").exits(0)
	inside := &project{t, filepath.Join(p.dir, "saltmere")}
	inside.run("check", "-o", "d.json", "-o", "d.sarif", "-o", "d.xml", "-o", "d.md", "-o", "d.html").exits(1)
	var total struct {
		Total struct {
			Findings struct{ Breaks, Misreads, Ignores int }
		}
	}
	if err := json.Unmarshal([]byte(inside.file("d.json")), &total); err != nil {
		t.Fatal(err)
	}
	want := total.Total.Findings
	var log struct {
		Runs []struct {
			Results []struct {
				Level     string
				Locations []struct {
					PhysicalLocation struct {
						ArtifactLocation struct{ URI string }
						Region           struct{ StartLine int }
					}
				}
				RelatedLocations []any
			}
		}
	}
	if err := json.Unmarshal([]byte(inside.file("d.sarif")), &log); err != nil {
		t.Fatal(err)
	}
	levels, related := map[string]int{}, 0
	for _, r := range log.Runs[0].Results {
		levels[r.Level]++
		related += len(r.RelatedLocations)
		at := r.Locations[0].PhysicalLocation
		if _, err := os.Stat(filepath.Join(inside.dir, at.ArtifactLocation.URI)); err != nil || at.Region.StartLine == 0 {
			t.Errorf("a result is at %+v: %v", at, err)
		}
	}
	if levels["error"] != want.Breaks || levels["warning"] != want.Misreads || levels["note"] != want.Ignores || related < want.Breaks {
		t.Errorf("SARIF has %v with %d examples, the check %+v", levels, related, want)
	}
	var suites struct {
		Failures int `xml:"failures,attr"`
		Suites   []struct {
			Cases []struct {
				Failures []struct{} `xml:"failure"`
			} `xml:"testcase"`
		} `xml:"testsuite"`
	}
	if err := xml.Unmarshal([]byte(inside.file("d.xml")), &suites); err != nil {
		t.Fatal(err)
	}
	failures := 0
	for _, s := range suites.Suites {
		for _, c := range s.Cases {
			failures += len(c.Failures)
		}
	}
	if failures != want.Breaks+want.Misreads {
		t.Errorf("JUnit has %d failures, the check %+v", failures, want)
	}
	if n := strings.Count(inside.file("d.md"), "\n<details>"); n != want.Breaks+want.Misreads {
		t.Errorf("Markdown folds %d findings, the check has %+v", n, want)
	}
	if n := strings.Count(inside.file("d.html"), "<article "); n != want.Breaks+want.Misreads+want.Ignores {
		t.Errorf("the page has %d findings, the check %+v", n, want)
	}
}

// TestAccept: what is accepted is counted and fails no more, until something of it is new.
func TestAccept(t *testing.T) {
	p := newProject(t, drifting())
	p.run("accept", "App", "traffic").exits(2).complains("say why with -reason TEXT")
	p.run("accept", "App", "traffic", "-reason", "x", "-last-day", "tomorrow").exits(2).complains(`"tomorrow" is no day`)
	p.run("accept", "App", "traffic", "-reason", "x", "-last-day", "2020-02-02").exits(2).complains("2020-02-02 is over")
	p.run("accept", "App", "traffic", "-reason", "  amounts are texts\nuntil v3 ", "-last-day", "2999-12-31").exits(0).says("accepted  breaks   Fare.amount  wrong-kind  traffic/fares $[*].amount", "vetta.accepted.toml has 1 entry: 1 new, 0 removed")
	ledger := p.file("vetta.accepted.toml")
	for _, line := range []string{"language = \"swift\"", "model = \"Fare\"", "field = \"amount\"", "kind = \"wrong-kind\"", "level = \"breaks\"", "place = \"traffic/fares $[*].amount\"", "reason = \"amounts are texts until v3\"", "until = 2999-12-31"} {
		if !strings.Contains(ledger, line+"\n") {
			t.Errorf("the ledger lacks %s:\n%s", line, ledger)
		}
	}
	p.run("accept", "App", "traffic", "-reason", "again").exits(0).says("every finding of the level misreads is accepted already")
	p.run("check", "App", "traffic").exits(0).says("1 of 2 responses would not decode: 0 breaks, 0 misreads in 1 model; 1 accepted", "accepted   1 finding, by vetta.accepted.toml").lacks("wrong-kind")
	p.run("check", "App", "traffic", "-accepted", "none").exits(1).says("[wrong-kind]").lacks("accepted  ")
	within := &project{t, filepath.Join(p.dir, "App")}
	within.run("check", ".", "../traffic").exits(0).says("by ../vetta.accepted.toml")
	p.run("check", "App", "traffic", "-format", "sarif").exits(0).says(`"justification": "amounts are texts until v3"`)
	p.run("check", "App", "traffic", "-format", "junit").exits(0).says(`<skipped message="accepted: amounts are texts until v3">`, `failures="0"`)
	p.run("check", "App", "traffic", "-format", "html").exits(0).says("<h2 id=\"accepted\">Accepted</h2>")

	// Lines and numbers change nothing, another field is new.
	p.write("App/Fare.swift", "\n\n"+strings.Replace(p.file("App/Fare.swift"), "let ticket", "let deck: Int; let ticket", 1))
	p.write("traffic/fares-3.json", `[{"ticket": "day", "amount": true}]`)
	p.run("check", "App", "traffic").exits(1).says("Fare.deck", "1 accepted").lacks("[wrong-kind]")
	// A worse level is new.
	p.write("vetta.accepted.toml", strings.Replace(ledger, `level = "breaks"`, `level = "ignores"`, 1))
	p.run("check", "App", "traffic", "-only", "Fare").exits(1).says("[wrong-kind]", "accepted   0 findings")
	// One whose last day is over accepts no more.
	p.write("vetta.accepted.toml", strings.Replace(ledger, "2999-12-31", "2020-12-31", 1))
	p.run("check", "App", "traffic").exits(1).says("[wrong-kind]", "ended      1 entry whose last day is over: Fare.amount wrong-kind")
}

// TestStaleEntries: what no longer occurs is told and can be removed; what was not looked at is neither.
func TestStaleEntries(t *testing.T) {
	p := newProject(t, drifting())
	p.run("accept", "App", "traffic", "-reason", "known").exits(0)
	p.write("traffic/fares-2.json", `[{"ticket": "day", "amount": 38.9, "currency": "EUR"}]`)
	p.run("check", "App", "traffic").exits(0).says("stale      1 entry of what no longer occurs; vetta accept -prune removes them: Fare.amount wrong-kind")
	// Other responses, and source in another language, say nothing of it.
	p.write("other/ports.json", `[{"ticket": "day", "amount": 38.9, "currency": "EUR"}]`)
	p.run("check", "App", "other").exits(0).says("nothing was read that would tell of 1 other entry").lacks("stale")
	p.write("Kt/Fare.kt", "import com.google.gson.*\ndata class Fare(val ticket: String)\nfun f(s: String) = Gson().fromJson(s, Array<Fare>::class.java)\n")
	p.run("accept", "Kt", "traffic", "-prune").exits(0).says("vetta.accepted.toml stays as it is: no entry is stale")
	p.run("accept", "App", "traffic", "-prune").exits(0).says("removed   breaks   Fare.amount", "vetta.accepted.toml has 0 entries: 0 new, 1 removed")
	p.run("check", "App", "traffic").exits(0).lacks("stale", "accepted")
}

func TestBrokenLedger(t *testing.T) {
	p := newProject(t, drifting())
	p.write("vetta.accepted.toml", "[[finding]]\nmodel = \"Fare\"\nkind = \"wrong-kind\"\nlevel = \"brekas\"\nplace = \"x\"\nreason = \"y\"\nuntil = 3\n<<<<<<< ours\n")
	p.run("check", "App", "traffic").exits(2).complains("vetta.accepted.toml:8:11: ", "leave it out with -accepted none")
	p.write("vetta.accepted.toml", "[[finding]]\nmodel = \"Fare\"\nkind = \"wrong-kind\"\nlevel = \"brekas\"\nplace = \"x\"\nreason = \"y\"\nuntil = 3\n[[findings]]\n")
	p.run("accept", "App", "traffic", "-reason", "x").exits(2).complains("vetta.accepted.toml:4:1: level is one of breaks, misreads, ignores, loose; did you mean breaks?", "vetta.accepted.toml:7:1: until is a day", "vetta.accepted.toml:8:1: the file has no key \"findings\"; did you mean finding?")
	if text := p.file("vetta.accepted.toml"); !strings.HasPrefix(text, "[[finding]]") {
		t.Errorf("a file with mistakes is written over:\n%s", text)
	}
}

func TestCompletion(t *testing.T) {
	p := newProject(t, drifting())
	p.run("completion").exits(2).complains("name one shell: bash, zsh, fish")
	p.run("completion", "bsah").exits(2).complains("did you mean bash?")
	p.run("completion", "zsh").exits(0).says("#compdef vetta", "'*-format[", ":FORMAT:(text json lines sarif junit markdown html)'", "'check:say what would break")
	p.run("completion", "fish").exits(0).says("complete -c vetta -n '__fish_seen_subcommand_from check' -o fail-on -x -a 'breaks misreads unjudged ignores loose never'")
	script := p.run("completion", "bash").exits(0).out
	bash, err := exec.LookPath("bash")
	if err != nil {
		t.Skip("there is no bash")
	}
	for typed, want := range map[string]string{
		"vetta ch":                      "check",
		"vetta check -fo":               "-format",
		"vetta check -format s":         "sarif",
		"vetta check -captures tr":      "traffic",
		"vetta accept A":                "App",
		"vetta trial -model x":          "",
		"vetta help unread-":            "unread-keys",
		"vetta completion f":            "fish",
		"vetta accept -last":            "-last-day",
		"vetta check App -fail-on u":    "unjudged",
		"vetta version ":                "",
		"vetta check -o ":               "App\ntraffic",
		"vetta check App traffic -watc": "-watch",
	} {
		words := strings.Split(typed, " ")
		ask := script + "\nCOMP_WORDS=(" + quoteAll(words) + ")\nCOMP_CWORD=$((${#COMP_WORDS[@]}-1))\n_vetta\nprintf '%s\\n' \"${COMPREPLY[@]}\" | sort\n"
		cmd := exec.Command(bash, "--norc", "-c", ask)
		cmd.Dir = p.dir
		out, err := cmd.CombinedOutput()
		if got := strings.TrimSpace(string(out)); err != nil || got != want {
			t.Errorf("%q is completed as %q, want %q: %v", typed, got, want, err)
		}
	}
}

func quoteAll(words []string) string {
	var out []string
	for _, w := range words {
		out = append(out, "'"+w+"'")
	}
	return strings.Join(out, " ")
}

// TestManual: docs/vetta.1 is what the program writes.
func TestManual(t *testing.T) {
	kept, err := os.ReadFile("../../docs/vetta.1")
	if err != nil {
		t.Fatal(err)
	}
	r := newProject(t, nil).run("help", "-man").exits(0)
	if r.out != string(kept) {
		t.Error("docs/vetta.1 is another manual: write it by go run . help -man > docs/vetta.1")
	}
	for _, c := range []string{"check", "accept", "pair", "shape", "models", "trial", "config", "demo", "completion", "version", "help"} {
		if !strings.Contains(r.out, ".SS \"vetta "+c) {
			t.Errorf("the manual lacks %s", c)
		}
	}
}

// TestNothingReadIsWrittenOver: a report or a shape is never written over what it is made of, and over an older report in
// the same folder it is.
func TestNothingReadIsWrittenOver(t *testing.T) {
	p := newProject(t, drifting())
	capture := p.file("traffic/fares-1.json")
	for _, args := range [][]string{
		{"check", "App", "traffic", "-o", "traffic/fares-1.json"}, {"check", "App", "traffic", "-format", "json", "-o", "App/Fare.swift"}, {"shape", "traffic", "-o", "traffic/fares-1.json"},
	} {
		p.run(args...).exits(2).complains("is one of what is read: name another file")
	}
	if p.file("traffic/fares-1.json") != capture {
		t.Error("a capture is written over")
	}
	p.run("shape", "traffic", "-o", "all.shape").exits(0)
	p.run("shape", "all.shape", "-o", "all.shape").exits(2).complains("is one of what is read")
	for range 2 {
		p.run("check", "App", "traffic", "-o", "traffic/drift.json", "-o", "traffic/drift.xml").exits(1).says("2 read from 2 captures")
	}
}

// TestShapesCountOnce: a shape that is given twice, or beside the captures that it was made of, counts once.
func TestShapesCountOnce(t *testing.T) {
	p := newProject(t, drifting())
	p.run("shape", "-o", "a.shape", "traffic").exits(0)
	p.write("copy.shape", p.file("a.shape"))
	p.run("check", "App", "a.shape", "copy.shape").exits(1).says("1 of 2 responses").complains("copy.shape: it is the same shape as a.shape, and counted once")
	p.run("check", "App", "a.shape", "traffic").exits(1).says("1 of 2 responses").complains("a.shape: its captures are read themselves, and counted once")
	p.write("other/fares-3.json", `[{"ticket": "day", "amount": true}]`)
	p.run("check", "App", "a.shape", "other").exits(1).says("2 of 3 responses")
}

// TestOutputThatCannotBeWritten: whatever a command shows, it is an error where it cannot be written.
func TestOutputThatCannotBeWritten(t *testing.T) {
	full, err := os.OpenFile("/dev/full", os.O_WRONLY, 0)
	if err != nil {
		t.Skip(err)
	}
	defer full.Close()
	p := newProject(t, drifting())
	for _, args := range [][]string{
		{"version"}, {"help"}, {"help", "check"}, {"help", "wrong-kind"}, {"help", "-man"}, {"completion", "bash"}, {"config"}, {"check", "App", "traffic"}, {"check", "App", "traffic", "-format", "html"},
		{"accept", "App", "traffic", "-reason", "x"}, {"pair", "App", "traffic"}, {"shape", "traffic"}, {"shape", "traffic", "-o", "-"}, {"models", "App"}, {"trial", "App", "traffic"}, {"-h"},
	} {
		cmd := exec.Command(program, args...)
		cmd.Dir, cmd.Stdout = p.dir, full
		var said strings.Builder
		cmd.Stderr = &said
		cmd.Run()
		if code := cmd.ProcessState.ExitCode(); code != 2 || !strings.Contains(said.String(), "no space left") {
			t.Errorf("vetta %q ends with %d and says %q", args, code, said.String())
		}
	}
}

// TestShapeWithoutValues: what is kept of captures on demand is their structure alone, and what can be told of that is.
func TestShapeWithoutValues(t *testing.T) {
	p := newProject(t, drifting())
	p.run("shape", "-o", "few.shape", "traffic").exits(0)
	p.run("shape", "-o", "none.shape", "-values", "none", "traffic").exits(0)
	if !strings.Contains(p.file("few.shape"), "38.90") {
		t.Error("the few values are not kept")
	}
	for _, value := range []string{"day", "EUR", "38.90", "12.5"} {
		if strings.Contains(p.file("none.shape"), value) {
			t.Errorf("%s is kept", value)
		}
	}
	p.run("check", "App", "none.shape").exits(1).says("1 of 2 responses would not decode", "[wrong-kind]")
	p.run("shape", "-values", "nothing", "traffic").exits(2).complains("-values nothing: it is one of few, none")
}

// TestNothingToSave: of captures that could not be read there is no shape to save, and an older one stays as it is.
func TestNothingToSave(t *testing.T) {
	p := newProject(t, map[string]string{"old.shape": "as it was"})
	p.write("traffic/a.json", `{"number": 3, "name": `)
	p.run("shape", "traffic", "-o", "old.shape").exits(2).complains("traffic/a.json:1:23", "no capture could be read")
	if p.file("old.shape") != "as it was" {
		t.Error("a shape of nothing was written")
	}
}
