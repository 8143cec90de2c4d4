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

var program string

// TestMain builds the program once; the tests run it as its users do.
func TestMain(m *testing.M) {
	dir, err := os.MkdirTemp("", "vetta-test-")
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	program = filepath.Join(dir, "vetta")
	build := exec.Command("go", "build", "-o", program, "vetta")
	if out, err := build.CombinedOutput(); err != nil {
		fmt.Fprintf(os.Stderr, "%v\n%s", err, out)
		os.Exit(1)
	}
	code := m.Run()
	os.RemoveAll(dir)
	os.Exit(code)
}

// project is a folder with files.
type project struct {
	t   *testing.T
	dir string
}

func newProject(t *testing.T, files map[string]string) *project {
	t.Helper()
	p := &project{t: t, dir: t.TempDir()}
	for name, text := range files {
		path := filepath.Join(p.dir, name)
		if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(path, []byte(text), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	return p
}

// result is what a run of the program gave.
type result struct {
	t        *testing.T
	out, err string
	code     int
}

func (p *project) run(args ...string) *result {
	p.t.Helper()
	cmd := exec.Command(program, args...)
	cmd.Dir = p.dir
	var out, errOut bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &errOut
	err := cmd.Run()
	r := &result{t: p.t, out: out.String(), err: errOut.String()}
	if exit, ok := err.(*exec.ExitError); ok {
		r.code = exit.ExitCode()
	} else if err != nil {
		p.t.Fatal(err)
	}
	if strings.Contains(r.err, "goroutine ") {
		p.t.Fatalf("vetta %q panics:\n%s", args, r.err)
	}
	return r
}

func (r *result) exits(code int) *result {
	r.t.Helper()
	if r.code != code {
		r.t.Errorf("exit code %d, want %d\n%s%s", r.code, code, r.out, r.err)
	}
	return r
}

func (r *result) says(lines ...string) *result {
	r.t.Helper()
	for _, l := range lines {
		if !strings.Contains(r.out, l) {
			r.t.Errorf("the output lacks %q:\n%s", l, r.out)
		}
	}
	return r
}

func (r *result) lacks(lines ...string) *result {
	r.t.Helper()
	for _, l := range lines {
		if strings.Contains(r.out, l) {
			r.t.Errorf("the output has %q:\n%s", l, r.out)
		}
	}
	return r
}

func (r *result) complains(lines ...string) *result {
	r.t.Helper()
	for _, l := range lines {
		if !strings.Contains(r.err, l) {
			r.t.Errorf("standard error lacks %q:\n%s", l, r.err)
		}
	}
	return r
}

const portSource = `import Foundation

struct Port: Codable {
    let code: String
    let depth: Double
    let open: Bool?
}
`

func TestCheck(t *testing.T) {
	p := newProject(t, map[string]string{
		"App/Port.swift":       portSource,
		"captures/port-1.json": `{"code":"SAL","depth":4,"open":true}`,
		"captures/port-2.json": `{"code":"MER","depth":"4.5"}`,
		"captures/port-3.json": `{"code":"TOR","extra":{}}`,
	})
	r := p.run("check", "App", "captures").exits(1)
	r.says(
		"Port  App/Port.swift:3:8", "Foundation JSONDecoder",
		"decoded from captures/port at $: 3 objects in 3 responses",
		"2 of 3 responses would not decode because of it",
		"breaks    depth: Double  App/Port.swift:5:9  a value of another kind [wrong-kind]",
		"sent      a string that is a number  in 1 of 2 values, 1 of 3 responses",
		`example   captures/port-2.json:1:23  /depth  "4.5"`,
		"throws    typeMismatch: Double: Expected to decode Double but found a string instead.",
		"the key is not always sent [missing-key]", "no key depth  in 1 of 3 objects, 1 of 3 responses", "throws    keyNotFound: depth",
		"change    let depth: Double?  // make it optional",
		"1 key sent and not read: extra (in 1 of 3)",
		"2 of 3 responses would not decode: 2 breaks, 0 misreads in 1 model\n  1/3  breaks  Port.depth  not always sent    Port.swift:5\n",
		"findings   2 breaks, 0 misreads, 1 ignores", "models     1 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 0 not judged",
		"responses  3 read from 3 captures: 3 checked, 0 without a model, 0 not judged",
	)
	if strings.Contains(r.out, "\x1b") {
		t.Error("colours without a terminal")
	}
	if r.err != "" {
		t.Errorf("standard error: %s", r.err)
	}
	p.run("check", "captures", "-color=always", "App").says("\x1b[1;31mbreaks\x1b[0m")
	// The exit code follows -fail-on.
	for level, code := range map[string]int{"breaks": 1, "misreads": 1, "ignores": 1, "loose": 1, "never": 0} {
		p.run("check", "-fail-on", level, "App", "captures").exits(code)
	}
	p.run("check", "App", "captures/port-1.json").exits(0).says("1 clean (-all lists them)", "0 of 1 response would not decode").lacks("App/Port.swift:3:8")
	p.run("check", "App", "captures/port-1.json", "-all").exits(0).says("Clean\n  Port  App/Port.swift:3:8  captures/port $")
	// Any number of workers, the same bytes out.
	if one := p.run("check", "-workers", "1", "App", "captures"); one.out != r.out {
		t.Errorf("one worker gives\n%s\nseveral\n%s", one.out, r.out)
	}
}

func TestCheckLines(t *testing.T) {
	p := newProject(t, map[string]string{"a/Port.swift": portSource, "a/port.json": `{"code":null,"depth":1}`})
	want := "a/Port.swift:4:9: breaks: Port code: null where a value is declared (1 of 1 values, 1 of 1 responses): valueNotFound: String [null-value]\n"
	if r := p.run("check", "-format", "lines", "a").exits(1); r.out != want {
		t.Errorf("got  %swant %s", r.out, want)
	}
}

func TestCheckJSON(t *testing.T) {
	p := newProject(t, map[string]string{
		"App/Port.swift": portSource,
		"c/port.ndjson":  "{\"code\":\"SAL\",\"depth\":1}\n{\"code\":7,\"depth\":1}\n{\"code\"\n",
		"c/zebra.json":   `{"stripes":3}`,
		"App/Lost.swift": "struct Lost: Codable { let nowhere: Int }",
	})
	r := p.run("check", "-format", "json", "App", "c").exits(1).complains("vetta: c/port.ndjson:3:8: malformed:")
	var got struct {
		Layout int
		Models []struct {
			Name     string
			Findings []struct {
				Kind, Level, Field, Error string
				Sites                     []struct {
					Place      string
					Values, Of int
					Exact      bool
					Examples   []struct {
						Capture, Pointer, Value string
						Entry, Line, Column     int
					}
				}
			}
			Decoded []struct {
				Endpoint       string
				WouldNotDecode struct{ Responses int }
			}
		}
		Unpaired struct {
			Models    []struct{ Name, Why string }
			Endpoints []struct{ Endpoint string }
		}
		Problems []struct {
			What, File, Reason string
			Line               int
		}
		Total struct{ Responses, Problems int }
	}
	if err := json.Unmarshal([]byte(r.out), &got); err != nil {
		t.Fatal(err)
	}
	f := got.Models[0].Findings[0]
	if got.Layout != 1 || got.Models[0].Name != "Port" || f.Kind != "wrong-kind" || f.Field != "code" || !f.Sites[0].Exact || f.Sites[0].Of != 2 {
		t.Errorf("%+v", got)
	}
	if ex := f.Sites[0].Examples[0]; ex.Capture != "c/port.ndjson" || ex.Entry != 2 || ex.Line != 2 || ex.Column != 9 || ex.Pointer != "/code" || ex.Value != "7" {
		t.Errorf("%+v", ex)
	}
	if len(got.Unpaired.Models) != 1 || got.Unpaired.Models[0].Name != "Lost" || len(got.Unpaired.Endpoints) != 1 || got.Unpaired.Endpoints[0].Endpoint != "c/zebra" {
		t.Errorf("%+v", got.Unpaired)
	}
	if len(got.Problems) != 1 || got.Problems[0].Line != 3 || got.Total.Problems != 1 || got.Total.Responses != 3 {
		t.Errorf("%+v %+v", got.Problems, got.Total)
	}
}

// TestBadInput: each bad file is named, and the rest of the run is complete.
func TestBadInput(t *testing.T) {
	p := newProject(t, map[string]string{
		"App/Port.swift":      portSource,
		"App/Odd.swift":       "struct Odd: Codable { let a: Int\n\"never ends\n",
		"c/port-1.json":       `{"code":"SAL","depth":1}`,
		"c/port-2.json":       `{"code":"SAL",`,
		"c/port-3.json":       "",
		"c/port-4.json":       "{\"code\":\"\xff\"}",
		"c/port-5.json":       strings.Repeat("[", 100000),
		"c/port-6.json":       `{"code":"A","code":"B","depth":1}`,
		"c/port-7.json":       "\ufeff{\"code\":\"\\u001b[31m\",\"depth\":1}",
		"c/port-8.json":       "\x00\x01\x02",
		"c/port-9.json":       `{"code":1e99,"depth":"` + "\u202e\u0085" + `"}`,
		"node_modules/x.json": "{}",
		"build/y.json":        "{",
		"c/notes.txt":         "no capture",
	})
	if err := os.Symlink("nowhere", filepath.Join(p.dir, "c/link.json")); err != nil {
		t.Fatal(err)
	}
	if err := os.Symlink("..", filepath.Join(p.dir, "c/round")); err != nil {
		t.Fatal(err)
	}
	r := p.run("check", ".").exits(1)
	r.complains(
		"vetta: c/link.json: it is a link to nothing", "vetta: App/Odd.swift:2:1: a string that never ends", "App/Odd.swift:1:21: '{' is never closed",
		"vetta: c/port-2.json:1:15: malformed: the document ends where a name in double quotes should come", "vetta: c/port-3.json: it is empty",
		"vetta: c/port-4.json:1:10: malformed: byte 0xFF, which is not UTF-8", "vetta: c/port-5.json:1:1001: malformed: more than 1000 arrays and objects inside each other",
		"vetta: c/port-6.json:1:20: the key \"code\" stands more than once in one object", "vetta: c/port-8.json:1:1: malformed: control character U+0000",
	)
	r.says("4 read from 9 captures", "8 inputs could not be read whole", `\u202e\u0085`)
	if strings.ContainsAny(r.out+r.err, "\x1b\x00\u202e\u0085") {
		t.Errorf("control characters reach the terminal: %q", r.out)
	}
	if strings.Contains(r.out, "node_modules") || strings.Contains(r.err, "build/") {
		t.Error("folders of dependencies and build output are read")
	}
	p.run("check", "App").exits(2).complains("no captures were found")
	p.run("check", "c/port-1.json").exits(2).complains("no model source was found")
	p.run("check", "App", "c/port-2.json").exits(2).complains("no capture could be read", "c/port-2.json:1:15")
	p.run("check", "App", "nowhere").exits(2).complains("vetta: nowhere: there is no such file or folder")
	p.run("check", "c/notes.txt", "App", "c/port-1.json").exits(2).says("1 read from 1 capture").complains("vetta: c/notes.txt: it is no model source (.swift, .java, .kt, .cs, .ts, .tsx, .mts, .cts, .vue, .svelte, .js, .jsx, .mjs, .dart), no saved shape (.shape), and holds no responses")
	p.run("check", "-captures", "c/notes.txt", "App").exits(2).complains("c/notes.txt:1:1: it is plain text, not JSON")
}

func TestMisuse(t *testing.T) {
	p := newProject(t, map[string]string{"App/Port.swift": portSource, "c/port.json": `{"code":"SAL","depth":1}`})
	for _, c := range []struct {
		args []string
		want string
	}{
		{nil, "vetta COMMAND"},
		{[]string{"chek"}, `there is no command "chek"; did you mean check?`},
		{[]string{"check"}, "name the model source and the captures"},
		{[]string{"check", "App", "-fromat", "json"}, "check has no option -fromat; did you mean -format?"},
		{[]string{"check", "App", "-format", "jsom"}, "-format jsom: it is one of text, json, lines, sarif, junit, markdown, html; did you mean json?"},
		{[]string{"check", "App", "c", "-pair", "Port"}, `"Port" is not TYPE=CAPTURES#PLACE`},
		{[]string{"check", "App", "c", "-pair", "Prt=c/*"}, "no model Prt in the source"},
		{[]string{"check", "App", "c", "-pair", "Port=d/*"}, "no capture and no endpoint goes by d/*; there are c/port"},
		{[]string{"trial", "-model", "Prot", "App", "c"}, "no model Prot in the source; did you mean Port?"},
		{[]string{"trial", "-model", "[Port", "App", "c"}, `"[Port" is not a type`},
		{[]string{"trial", "App"}, "no documents were found"},
		{[]string{"models"}, "name the files or folders with model source"},
		{[]string{"models", "c"}, "no model source was found"},
		{[]string{"help", "missing-kye"}, `there is no command or kind of finding "missing-kye"; did you mean missing-key?`},
		{[]string{"version", "x"}, "it takes no arguments"},
		{[]string{"demo", "a", "b"}, "it takes one folder"},
	} {
		p.run(c.args...).exits(2).complains(c.want)
	}
}

// A name that several models have is taken for one of them, which is said, with how to name the rest.
func TestNamesakes(t *testing.T) {
	p := newProject(t, map[string]string{
		"App/Port.swift": portSource, "App/Port.kt": "package ferry.saltmere\nimport com.google.gson.annotations.*\nclass Port(@SerializedName(\"code\") val code: String?)",
		"c/port.json": `{"code":"SAL","depth":1}`,
	})
	const line = "-model: Port is taken for the one at App/Port.swift:3:8; for the one at App/Port.kt:3:7, name it as ferry.saltmere.Port or Port@App/Port.kt"
	p.run("trial", "-model", "Port", "App", "c").complains(line).says("port.json as Port: decodes")
	if r := p.run("trial", "-model", "ferry.saltmere.Port", "App", "c").exits(0); r.err != "" {
		t.Errorf("a name with its package is told of others: %s", r.err)
	}
	p.run("check", "-pair", "Port=c/port", "App", "c").complains("-pair: Port is taken for the one at App/Port.swift:3:8")
	p.run("trial", "-model", "ferry.saltmere.Prot", "App", "c").exits(2).complains("did you mean ferry.saltmere.Port?")
	p.run("trial", "-model", "[Port]", "App/Port.swift", "c").exits(1).says("typeMismatch")
}

// What code that is not followed may make of a value is neither lost, unread nor kept at its first value.
func TestWholeValueNotFollowed(t *testing.T) {
	p := newProject(t, map[string]string{"App/Port.swift": `struct Port: Decodable {
    let code: String
    init(code: String) { self.code = code }
    init(from d: Decoder) throws {
        let c = try d.singleValueContainer()
        if let s = try? c.decode(String.self) { self = Port(code: s) } else { self = try c.decode([Port].self)[0] }
    }
}`, "c/port.json": `{"code":"SAL"}`})
	p.run("trial", "-model", "Port", "App", "c").exits(0).says("port.json as Port: unknown", "nothing is claimed about it: it is read by code that is not followed").lacks("error dropped", "not read")
	p.run("check", "-pair", "Port=c/port", "App", "c").exits(0).says(
		"Not judged\n  Port  App/Port.swift:1:8  ", "0 misreads, 0 ignores", "responses  1 read from 1 capture: 0 checked, 0 without a model, 1 not judged",
		"1 model could not be judged though there are responses for it: Port",
	)
	p.run("check", "-pair", "Port=c/port", "App", "c", "-fail-on", "unjudged").exits(1)
	p.run("check", "-pair", "Port=c/port", "App", "c", "-fail-on", "misreads").exits(0)
}

func TestHelp(t *testing.T) {
	p := newProject(t, nil)
	overview := p.run("help").exits(0).out
	for _, name := range []string{"check", "shape", "models", "trial", "demo", "version", "help"} {
		if !strings.Contains(overview, "    "+name+" ") {
			t.Errorf("help does not list %s", name)
		}
		h := p.run(name, "-h").exits(0)
		if name != "version" {
			h.says("vetta " + name)
		}
		h.says("Example:")
		if p.run("help", name).out != h.out {
			t.Errorf("help %s and %s -h differ", name, name)
		}
	}
	p.run("help", "null-value").exits(0).says("null-value (breaks): null where a value is declared", "In Swift:", "In Kotlin, Jackson:", "What to do:")
	p.run("version").exits(0).says("vetta ")
	p.run("-h").exits(0).says("vetta COMMAND")
}

func TestModels(t *testing.T) {
	p := newProject(t, map[string]string{"Port.swift": portSource + `
struct Pass: Decodable {
    let id: String; let left: Int
    init(from d: Decoder) throws { id = try compute(d); left = 0 }
}
let d = JSONDecoder()
func f(x: Data) throws { d.keyDecodingStrategy = .convertFromSnakeCase; _ = try d.decode([Port].self, from: x) }
`})
	p.run("models", ".").exits(0).says(
		"Port  struct  Port.swift:3:8", "Foundation JSONDecoder · keys convertFromSnakeCase\n", "Settings\n  keys convertFromSnakeCase  Port.swift:14:28\n", "code   String  code", "open   Bool?   open",
		"id    String  -  in a way that is not followed: the expression compute(d)", "Decoded\n  [Port]  Port.swift:14:83", "2 models in 1 source file",
	)
	r := p.run("models", "-format", "json", ".").exits(0)
	var got struct {
		Models []struct {
			Name   string
			Fields []struct {
				Name, Type, Reading string
				Keys                []string
				Optional            bool
			}
		}
	}
	if err := json.Unmarshal([]byte(r.out), &got); err != nil {
		t.Fatal(err)
	}
	if f := got.Models[0].Fields[2]; f.Name != "open" || !f.Optional || f.Keys[0] != "open" || f.Reading != "library" {
		t.Errorf("%+v", got)
	}
}

func TestTrial(t *testing.T) {
	p := newProject(t, map[string]string{
		"App/Port.swift": portSource,
		"one.json":       `{"code":"SAL","depth":4,"open":null,"x":1}`,
		"many.ndjson":    "{\"code\":\"A\",\"depth\":1}\n{\"code\":\"B\"}\n{\"code\"\n[1]\n",
		"row.json":       `{"code":"A","depth":1} {"code":"B","depth":2}`,
		"list.json":      `[{"code":"A","depth":1},{"code":"B","depth":null}]`,
	})
	json := func(want string, code int, args ...string) {
		t.Helper()
		r := p.run(append([]string{"trial", "-format", "json"}, args...)...).exits(code)
		if r.out != want {
			t.Errorf("trial %q\n got %s\nwant %s", args, r.out, want)
		}
	}
	json(`{"document":"one.json","model":"Port","outcome":"decodes","seen":{"code":"SAL","depth":4.0,"open":null},"unread":["/x"]}`+"\n", 0, "App", "one.json")
	json(`{"document":"many.ndjson#1","model":"Port","outcome":"decodes","seen":{"code":"A","depth":1.0,"open":null}}
{"document":"many.ndjson#2","model":"Port","outcome":"fails","error":{"at":"","place":"$","key":"depth","message":"keyNotFound: depth","line":2,"column":1}}
{"document":"many.ndjson#3","outcome":"malformed","error":{"at":"","place":"$","message":"the line ends inside a document","line":3,"column":8}}
{"document":"many.ndjson#4","model":"Port","outcome":"fails","error":{"at":"","place":"$","message":"typeMismatch: Dictionary<String, Any>: Expected to decode Dictionary<String, Any> but found an array instead.","line":4,"column":1}}
`, 1, "-model", "Port", "App", "many.ndjson")
	json(`{"document":"row.json#1","model":"Port","outcome":"decodes","seen":{"code":"A","depth":1.0,"open":null}}
{"document":"row.json#2","model":"Port","outcome":"decodes","seen":{"code":"B","depth":2.0,"open":null}}
`, 0, "App", "row.json", "-model", "Port")
	json(`{"document":"row.json#1","model":"Port","outcome":"decodes","seen":{"code":"A","depth":1.0,"open":null}}
{"document":"row.json#2","model":"Port","outcome":"decodes","seen":{"code":"B","depth":2.0,"open":null}}
{"document":"one.json","model":"Port","outcome":"decodes","seen":{"code":"SAL","depth":4.0,"open":null},"unread":["/x"]}
`, 0, "-model", "Port", "App", "row.json", "one.json", "row.json")
	json(`{"document":"list.json","model":"[Port]","outcome":"fails","error":{"at":"/1/depth","place":"$[1].depth","message":"valueNotFound: Double","line":1,"column":45}}`+"\n", 1, "-model", "[Port]", "App", "list.json")
	p.run("trial", "App", "one.json").exits(0).says("one.json as Port: decodes", `$.code   code: String   "SAL"  "SAL"`, "$.depth  depth: Double  4      4.0", "not read\n    $.x")
}

func TestShape(t *testing.T) {
	p := newProject(t, map[string]string{
		"App/Port.swift": portSource,
		"c/port-1.json":  `{"code":"SAL","depth":4,"berths":[{"n":1},{"n":2.5,"roof":true}],"open":null}`,
		"c/port-2.json":  `{"code":"MER","depth":6.5,"berths":[]}`,
		"d/port-3.json":  `{"code":"TOR","depth":"7","berths":{}}`,
		"e.shape":        "{}",
	})
	p.run("shape", "c", "d").exits(0).says(
		"c/port  2 responses in 2 captures", "    code      string", `"MER" "SAL"`, "whole 1, fraction 1", "in 1 of 2", "roof", "× 2", "d/port  1 response in 1 capture", "2 endpoints, 3 responses in 3 captures")
	p.run("shape", "-place", "$.berths[*]", "c").exits(0).says("  $.berths[*]", "    n", "roof").lacks("depth")
	p.run("shape", "-place", "$.nowhere", "c").exits(2).complains("no response has the place $.nowhere")
	r := p.run("shape", "-format", "json", "c").exits(0)
	var got struct {
		Endpoints []struct {
			Root struct {
				Children []struct {
					Name  string
					Kinds []struct {
						Kind   string
						Values int
					}
				}
			}
		}
	}
	if err := json.Unmarshal([]byte(r.out), &got); err != nil || got.Endpoints[0].Root.Children[1].Name != "depth" || len(got.Endpoints[0].Root.Children[1].Kinds) != 2 {
		t.Errorf("%v %+v", err, got)
	}
	// A saved shape stands for the captures, alone, merged, or beside others.
	examples := func(out string) string {
		var kept []string
		for _, line := range strings.Split(out, "\n") {
			if !strings.Contains(line, "example ") && !overviewRow.MatchString(line) {
				kept = append(kept, line)
			}
		}
		return strings.Join(kept, "\n")
	}
	want := examples(p.run("check", "App", "c", "d").exits(1).out)
	p.run("shape", "-o", "c.shape", "c").exits(0).says("c.shape holds the shape of 2 responses in 2 captures")
	p.run("shape", "-o", "d.shape", "d").exits(0)
	for _, paths := range [][]string{{"c.shape", "d.shape"}, {"d", "c.shape"}, {"d.shape", "c"}} {
		if got := examples(p.run(append([]string{"check", "App"}, paths...)...).exits(1).out); got != want {
			t.Errorf("%q gives\n%s\nwant\n%s", paths, got, want)
		}
	}
	p.run("shape", "-o", "cd.shape", "c.shape", "d.shape").exits(0).says("3 responses in 3 captures")
	p.run("check", "App", "e.shape", "c").exits(0).complains("vetta: e.shape: it is no saved shape")
	p.run("shape", "-o", "no/where.shape", "c").exits(2).complains("no/where.shape could not be written")
}

// overviewRow is a line of the overview of a check, which shows an example.
var overviewRow = regexp.MustCompile(`^ +\d+/\d+ `)

func TestSecretsAreMasked(t *testing.T) {
	p := newProject(t, map[string]string{
		"P.swift":      `struct Session: Codable { let token: Int; let user: Int; let id: Int }`,
		"session.json": `{"token":"abcdef123456","user":"mara@saltmere.example","id":"eyJhbGciOi.eyJzdWIiOi.c2ln"}`,
	})
	p.run("check", ".").exits(1).lacks("abcdef123456", "mara@", "eyJhbGci").says("‹masked›")
	p.run("check", "-show-secrets", ".").exits(1).says("abcdef123456", "mara@saltmere.example", "eyJhbGciOi")
	p.run("trial", ".").exits(1).lacks("abcdef123456")
	p = newProject(t, map[string]string{ // what the app sees of a secret is most of it
		"Pass.kt":   "import com.google.gson.Gson\ndata class Pass(val pin: Float, val otp: Int)\nfun pass(s: String) = Gson().fromJson(s, Pass::class.java)\n",
		"pass.json": `{"pin":123456789.25}`,
	})
	for _, format := range []string{"text", "json", "lines", "markdown", "html", "sarif", "junit"} {
		p.run("check", "-format", format, ".").exits(1).lacks("12345679")
	}
	p.run("check", ".").says("app sees  ‹masked›", "app sees  0\n")
	p.run("check", "-show-secrets", ".").says("app sees  123456790.0")
	p = newProject(t, map[string]string{
		"P.swift":                      `struct Pass: Codable { let token: String; let holder: String; let number: Int }`,
		"mara@saltmere.example/p.json": `{"token":"abcdef123456","holder":"mara@saltmere.example","number":"x"}`,
		"p_AKIAQWERTYUIOPASDFGH.json":  `{"token":"abcdef123456","holder":"mara@saltmere.example","number":7}`,
		"p-pin=4711.json":              `{"token":`,
	})
	secrets := []string{"abcdef123456", "mara@", "AKIAQWERTY", "4711"}
	for _, command := range []string{"check", "trial", "shape", "pair", "models"} {
		for _, format := range []string{"text", "json"} {
			for _, r := range []*result{p.run(command, "-format", format, "."), p.run(command, "-format", format, "-o", "out", ".")} {
				for _, secret := range secrets {
					if strings.Contains(r.out+r.err, secret) {
						t.Errorf("%s -format %s tells %s:\n%s%s", command, format, secret, r.out, r.err)
					}
				}
			}
		}
	}
	p.run("trial", "-format", "json", ".").says(`"seen":{"token":"‹masked›","holder":"‹masked›","number":7}`)
	p.run("trial", "-format", "json", "-show-secrets", ".").says(`"seen":{"token":"abcdef123456","holder":"mara@saltmere.example","number":7}`, "p_AKIAQWERTYUIOPASDFGH.json")
	p.run("shape", "-o", "p.shape", ".").exits(0)
	for _, secret := range secrets {
		if saved := p.file("p.shape"); strings.Contains(saved, secret) {
			t.Errorf("the saved shape holds %s:\n%s", secret, saved)
		}
	}
}

// TestMessagesStandBetweenLines: where both go to one terminal, what standard error says never cuts into a line.
func TestMessagesStandBetweenLines(t *testing.T) {
	var rows strings.Builder
	for i := range 400 {
		fmt.Fprintf(&rows, "{\"name\":%q}\n{\"name\":\n", strings.Repeat("a", i%50))
	}
	p := newProject(t, map[string]string{"P.swift": `struct Pier: Decodable { let name: String; let gate: Int }`, "piers.ndjson": rows.String()})
	cmd := exec.Command(program, "trial", "-color", "always", ".")
	cmd.Dir = p.dir
	both, _ := cmd.CombinedOutput()
	told := 0
	for _, line := range strings.Split(string(both), "\n") {
		if at := strings.Index(line, "vetta: piers.ndjson:"); at > 0 {
			t.Fatalf("a message stands within a line: %q", line)
		} else if at == 0 {
			told++
		}
	}
	if told != 400 {
		t.Errorf("%d messages, want 400", told)
	}
}

func TestPairByHand(t *testing.T) {
	p := newProject(t, map[string]string{
		"P.swift": `struct Alpha: Codable { let id: Int }
struct Beta: Codable { let id: String }`,
		"c/x-1.json": `{"items":[{"id":1,"n":2}]}`,
	})
	p.run("check", ".", "-pair", "Beta=c/x*#$.items[*]").exits(1).says("Beta  P.swift:2:8", "decoded from c/x at $.items[*]: 1 object", "[wrong-kind]")
}

// TestDartOnTheWeb: where all numbers are of one kind, which kind was sent breaks nothing, but digits are lost.
func TestDartOnTheWeb(t *testing.T) {
	p := newProject(t, map[string]string{
		"lib/fare.dart": `class Fare {
  final double price;
  final int seats, id;
  Fare.fromJson(Map<String, dynamic> json) : price = json['price'], seats = json['seats'], id = json['id'];
}`,
		"c/fare.json": `{"price": 12, "seats": 3.0, "id": 9007199254740993}`,
		"web.toml": `[[decoder]]
path = "lib"
library = "dart"
settings = { numbers = "web" }
`,
	})
	p.run("check", ".").exits(1).says("[int-for-double]", "no double, but on the web", "seats: int  lib/fare.dart:3:13  a value of another kind", "0 misreads")
	p.run("check", ".", "-config", "web.toml").exits(1).says("0 breaks, 1 misread in", "numbers web", "[lost-digits]", "app sees  9007199254740992", "sent as a text")
}

// TestDartLater: what is thrown only where the app reads the value breaks, and says so.
func TestDartLater(t *testing.T) {
	p := newProject(t, map[string]string{
		"fare.dart": `class Fare {
  final List<int> zones;
  late final String name;
  Fare.fromJson(Map<String, dynamic> json) : zones = (json['zones'] as List).cast<int>() {
    if (json['name'] != null) name = json['name'];
  }
}`,
		"c/fare.json": `{"zones": [1, "2"], "name": "a"}`,
		"late.json":   `{"zones": [1]}`,
	})
	p.run("check", "fare.dart", "c").exits(1).says("zones: List<int>", `/zones/1  "2"`, "it is thrown where the app reads the value")
	p.run("trial", "-model", "Fare", "fare.dart", "late.json").exits(1).says("later", "LateInitializationError: Field 'name' has not been initialized.")
}

// TestNoiseIsToldBriefly: a file that is no source at all does not bury what else is said.
func TestNoiseIsToldBriefly(t *testing.T) {
	p := newProject(t, map[string]string{
		"noise.dart": strings.Repeat("'never ends\n", 500),
		"fare.dart":  "class Fare { final int id; Fare.fromJson(Map<String, dynamic> json) : id = json['id']; }",
	})
	r := p.run("models", ".").exits(0).says("Fare", "2 source files").complains("noise.dart:20:1: a string that never ends", "noise.dart: 480 more like these; is it source at all?")
	if strings.Contains(r.err, "noise.dart:21:") {
		t.Error("more of it is told")
	}
}

// TestDemo: what the README promises of the first command.
func TestDemo(t *testing.T) {
	p := newProject(t, nil)
	r := p.run("demo", "saltmere").exits(0)
	r.says(
		"Saltmere Ferries, in saltmere", "cd saltmere && vetta check",
		"departsAt: Date  App/Models/Sailing.swift:26:9  sent under another key [renamed-key]", `case departsAt = "departureTime"`,
		"knots: Int", "let knots: Double  // a type with a fraction", `"boarding"`, "let gate: String?  // make it optional", "[list-mismatch]", "[unreadable-date]",
		"[kept-default]", "[renamed-optional]", "wheelchair_spaces", "27 of 43 responses would not decode", "[sent-renamed]",
		"[int-for-double]", "(json['vessel']['knots'] as num).toDouble()", "[untyped-list]", "[undecodable-type]", "[stale-part]", "openSince: int?  Flutter/lib/models/harbour.dart",
		"stops: List<String>", "[hidden-null]", "[constant-as-null]", "[unknown-key]", "Side by side, where apps disagree",
		"NoticeBoard  Java · Jackson                  6 would not decode", "NoticeBoard  Swift · Foundation JSONDecoder  2 would not decode",
	)
	if again := (&project{t, filepath.Join(p.dir, "saltmere")}).run("check").exits(1); !strings.HasSuffix(r.out, again.out) {
		t.Error("demo and check say different things")
	}
	p.run("demo", "saltmere").exits(0)
	if err := os.MkdirAll(filepath.Join(p.dir, "full/x"), 0o755); err != nil {
		t.Fatal(err)
	}
	p.run("demo", "full").exits(2).complains("full is not empty")
}

// TestOneTextOfMany: of more texts than a place keeps, the one that does not decode is found, by any number of workers and
// wherever it stands; of a saved shape nothing is said of them, and that is said.
func TestOneTextOfMany(t *testing.T) {
	for _, odd := range []int{0, 37, 59} {
		all := files{"src/Link.java": "import com.google.gson.*;\nclass Page { java.util.List<Link> links; }\nclass Link { java.net.URL href; }\nclass Api { Page f(String s) { return new Gson().fromJson(s, Page.class); } }\n"}
		for i := range 60 {
			url := fmt.Sprintf("https://saltmere.example/%d", i)
			if i == odd {
				url = "ferry://quay"
			}
			all[fmt.Sprintf("cap/page-%02d.json", i)] = fmt.Sprintf("{\"links\": [{\"href\": %q}]}", url)
		}
		p := newProject(t, all)
		want := ""
		for _, workers := range []string{"1", "2", "5"} {
			r := p.run("check", "src", "cap", "-workers", workers).exits(1).says("1 of 60 responses would not decode: 1 break", fmt.Sprintf("cap/page-%02d.json:1:21  /links/0/href  \"ferry://quay\"", odd), "MalformedURLException: unknown protocol: ferry")
			if want == "" {
				want = r.out
			}
			if r.out != want {
				t.Errorf("by %s workers:\n%s\nby one:\n%s", workers, r.out, want)
			}
		}
		p.run("shape", "-o", "pages.shape", "cap").exits(0)
		p.run("check", "src", "pages.shape").exits(0).says("0 of 60 responses", "Limits reached", "the texts at $.links[*].href are too many to be kept, or look secret, and fare one by one: nothing is said of them")
	}
}
