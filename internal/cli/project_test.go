package cli_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
)

// ferries are two classes of which each response has the keys of both, a class that reads an envelope, and
// a project whose vetta.toml says which is decoded.
func ferries() files {
	return files{
		"App/Models.swift": `import Foundation
struct Port: Decodable { let code: String; let name: String }
struct Quay: Decodable { let code: String; let name: String }
`,
		"App/Client.swift":       "import Foundation\nlet decoder = JSONDecoder()\n",
		"App/Legacy/Old.swift":   "struct Old: Decodable { let code: Int }\n",
		"traffic/ports.json":     `{"items": [{"code": "SAL", "name": null}], "pin": 4711}`,
		"traffic/skipped/x.json": `{"code": 1}`,
		"vetta.toml": `models = ["App"]
captures = ["traffic"]
pass-over = ["App/Legacy", "**/skipped"]
secrets = ["pin*"]
fail-on = "breaks"

[[pair]]
type = "Quay"
captures = "traffic/ports.json"
place = "$.items[*]"
`,
	}
}

// TestProject: a command that is given no paths works on those of vetta.toml, wherever in the project it is
// run; what options say goes before it.
func TestProject(t *testing.T) {
	p := newProject(t, ferries())
	r := p.run("check").exits(1).says("Quay  App/Models.swift:3:8", "decoded from traffic/ports at $.items[*]", "[null-value]", "2 paths as vetta.toml says", "1 capture")
	if strings.Contains(r.out, "Old") {
		t.Error("what vetta.toml passes over is read")
	}
	within := &project{t, filepath.Join(p.dir, "App")}
	within.run("check").exits(1).says("Quay  ../App/Models.swift:3:8", "../traffic/ports")
	p.run("check", "-pair", "Port=traffic/*#$.items[*]", "-pair", "Quay=traffic/*#$.items[*]").exits(1).says("Port  App/Models.swift:2:8", "Quay  App/Models.swift:3:8")
	p.run("check", "-config", "none").exits(2).complains("name the model source and the captures, or say it in vetta.toml")
	if r := p.run("check", "-captures", "traffic/skipped/x.json"); strings.Contains(r.err, "goes by") {
		t.Errorf("a pair of another part of the project is missed: %s", r.err)
	}
	os.Rename(filepath.Join(p.dir, "traffic/ports.json"), filepath.Join(p.dir, "traffic/piers.json"))
	p.run("check").complains("vetta.toml:7:1: no capture and no endpoint goes by traffic/ports.json; there are traffic/piers")
	os.Rename(filepath.Join(p.dir, "traffic/piers.json"), filepath.Join(p.dir, "traffic/ports.json"))
	p.run("models").exits(0).says("Port  struct", "2 models")
	p.run("shape").exits(0).says("traffic/ports", "‹masked›")
	p.run("trial", "traffic/ports.json", "-model", "[Quay]").exits(1)
	p.run("check", "-skip", "Quay", "-fail-on", "misreads").exits(0)
	// Of what is named nothing is passed over.
	p.run("models", "App/Legacy").exits(0).says("Old  struct")
}

func TestConfigCommand(t *testing.T) {
	p := newProject(t, ferries())
	p.run("config").exits(0).says("models     App", "vetta.toml:1:1", "fail-on    breaks", "pair       Quay=traffic/ports.json#$.items[*]", "vetta.toml:7:1", "skip       nothing", "by default")
	r := p.run("config", "-fail-on", "loose", "-models", "App/Models.swift", "-format", "json").exits(0)
	var got struct {
		File   string
		Values []struct {
			Name, From string
			Values     []string
		}
	}
	if err := json.Unmarshal([]byte(r.out), &got); err != nil || got.File != "vetta.toml" {
		t.Fatal(err, r.out)
	}
	from := map[string]string{}
	for _, v := range got.Values {
		from[v.Name] = v.From + " " + strings.Join(v.Values, ",")
	}
	for name, want := range map[string]string{"models": "option App/Models.swift", "captures": "vetta.toml:2:1 traffic", "fail-on": "option loose", "skip": "by default nothing"} {
		if from[name] != want {
			t.Errorf("%s is %q, want %q", name, from[name], want)
		}
	}
	newProject(t, nil).run("config", "-config", "none").exits(0).says("there is no vetta.toml")
	bad := newProject(t, files{"vetta.toml": "modles = [\"App\"]\nfail-on = 3\n"})
	for _, command := range []string{"config", "check", "models", "shape", "pair", "trial"} {
		bad.run(command, "x").exits(2).complains("vetta.toml:1:1: the file has no key \"modles\"; did you mean models?", "vetta.toml:2:1: fail-on is a text", "is not taken as it is")
	}
	bad.run("config", "-config", "none").exits(0)
	bad.run("check", "-config", "nowhere.toml").exits(2).complains("nowhere.toml: no such file")
}

// TestDecoderInConfig: what vetta.toml says of a decoder goes over what the source says or does not say.
func TestDecoderInConfig(t *testing.T) {
	p := newProject(t, files{
		"app/Port.kt":   "package ferry\ndata class Port(val portCode: String)\n",
		"c/ports.json":  `[{"port_code": "SAL"}]`,
		"x/vetta.toml":  "[[decoder]]\npath = \"../app\"\nlibrary = \"jackson\"\nsettings = { naming = \"SNAKE_CASE\" }\n",
		"x/broken.toml": "[[decoder]]\npath = \"../app\"\nlibrary = \"gsno\"\n",
	})
	p.run("check", "app", "c", "-pair", "List<Port>=c/ports.json").exits(1).says("Gson, assumed: no call, import or build file says what decodes it", "[renamed-optional]")
	p.run("check", "app", "c", "-config", "x/vetta.toml").exits(0).says("0 of 1 response would not decode: 0 breaks, 0 misreads in 1 model")
	p.run("models", "app", "-config", "x/vetta.toml").exits(0).says("Jackson · module.all true · naming SNAKE_CASE", "portCode  String  port_code", "x/vetta.toml:1:1")
	odd := newProject(t, files{"vetta.toml": "models = [\"a\"]\ncaptures = [\"c\"]\n[[decoder]]\npath = \"nowhere\"\nlibrary = \"gson\"\n", "a/Port.kt": "data class Port(val code: String)", "c/port.json": `{"code": "SAL"}`})
	odd.run("check").exits(0).complains("vetta.toml:3:1: no class is declared in nowhere, and nothing decodes there")
	p.run("check", "app", "c", "-config", "x/broken.toml").exits(2).complains("did you mean gson?")
}

// TestPairCommand: every pairing is shown with what speaks for it and what comes next, and what is written
// gives the check that it gave before.
func TestPairCommand(t *testing.T) {
	p := newProject(t, nil)
	p.run("demo", "saltmere").exits(0)
	inside := &project{t, filepath.Join(p.dir, "saltmere")}
	type pairs struct {
		Pairs []struct {
			Type, Endpoint, Place, Sureness string
			Sent                            bool
			Evidence                        []string
			Next                            *struct{ Type string }
		}
		Endpoints []struct{ Endpoint, Why string }
	}
	read := func() (got pairs) {
		t.Helper()
		if err := json.Unmarshal([]byte(inside.run("pair", "-format", "json").exits(0).out), &got); err != nil {
			t.Fatal(err)
		}
		return got
	}
	got := read()
	sure := map[string]string{}
	next := 0
	for _, p := range got.Pairs {
		sure[p.Type+" "+p.Endpoint] = p.Sureness
		if len(p.Evidence) == 0 {
			t.Errorf("nothing speaks for %+v", p)
		}
		if p.Next != nil {
			next++
		}
		if p.Sent != strings.HasSuffix(p.Endpoint, "(request)") {
			t.Errorf("%+v", p)
		}
	}
	for pair, want := range map[string]string{
		"SailingPage GET /v2/sailings": "certain", "Problem GET /v2/sailings/{sailing}/fares (error)": "by hand", "RideRequest POST /v2/passes/{pass}/rides (request)": "certain",
	} {
		if sure[pair] != want {
			t.Errorf("%s is %q, want %q", pair, sure[pair], want)
		}
	}
	if next == 0 || len(got.Endpoints) == 0 {
		t.Errorf("nothing comes next, or nothing is alone: %+v", got)
	}
	before := inside.run("check", "-format", "lines").exits(1).out
	own, err := os.ReadFile(filepath.Join(inside.dir, "vetta.toml"))
	if err != nil {
		t.Fatal(err)
	}
	inside.run("pair", "-write").exits(0).complains("vetta.toml: 24 added, 1 known")
	inside.run("pair", "-write").exits(0).complains("vetta.toml: 0 added, 25 known")
	text, _ := os.ReadFile(filepath.Join(inside.dir, "vetta.toml"))
	if !strings.HasPrefix(string(text), string(own)) || !strings.Contains(string(text), "[Port]@App/Models/Port.swift") {
		t.Errorf("vetta.toml is\n%s", text)
	}
	after := inside.run("check", "-format", "lines").exits(1)
	if sortedLines(before) != sortedLines(after.out) {
		t.Errorf("with pairs written, check says\n%s\nand before\n%s", after.out, before)
	}
	if strings.Contains(after.err, "is taken for") || strings.Contains(after.err, "goes by") {
		t.Errorf("the pairs that were written are not understood: %s", after.err)
	}
	for _, p := range read().Pairs {
		if p.Sureness != "by hand" {
			t.Errorf("%+v", p)
		}
	}
	newProject(t, ferries()).run("pair", "-write", "-config", "none", "App", "traffic").exits(2).complains("-write needs a file")
}

// TestFoldersInEachOther: a folder of captures may lie in one of models that is named apart, and the reverse.
func TestFoldersInEachOther(t *testing.T) {
	p := newProject(t, files{
		"a/Port.swift":          "struct Port: Decodable { let code: Int }",
		"a/captures/ports.json": `[{"code": "SAL"}]`,
		"a/traffic/ports.json":  `[{"code": "SAL"}]`,
		"c/ports.json":          `[{"code": "SAL"}]`,
		"c/src/Port.swift":      "struct Port: Decodable { let code: Int }",
	})
	for _, args := range [][]string{
		{"-captures", "a/captures", "-models", "a"}, {"-models", "a", "-captures", "a/captures"}, {"-models", "a", "-captures", "a/traffic"},
		{"a", "-captures", "a/traffic"}, {"-captures", "c", "-models", "c/src"}, {"c", "-models", "c/src"},
	} {
		p.run(append([]string{"check"}, args...)...).exits(1).says("Port.code", "[wrong-kind]")
	}
}

// TestAnyClass: -model and -pair take any class of the source, whether or not anything decodes it; one that is
// mistyped is answered with the nearest.
func TestAnyClass(t *testing.T) {
	p := newProject(t, files{
		"A.swift": "struct Port: Decodable { let code: String }\nstruct Plain { let depth: Int }\nclass Holder { struct Plain { let width: Int } }\n",
		"B.java":  "class Load { Stop of(String t) { return new com.google.gson.Gson().fromJson(t, Stop.class); } }\nclass Stop { String code; }\nclass Other { int depth; }\n",
		"d.json":  `{"depth": 4}`,
	})
	p.run("trial", ".", "d.json", "-model", "Other").exits(0).says("$.depth")
	p.run("trial", ".", "d.json", "-model", "Plain").exits(0).says("$.depth")
	p.run("trial", ".", "d.json", "-model", "Holder.Plain").exits(1).says("keyNotFound")
	p.run("trial", ".", "d.json", "-model", "Othr").exits(2).complains("did you mean Other?")
	p.run("trial", ".", "d.json", "-model", "Stop@A.swift").exits(2).complains("no model Stop in A.swift")
	p.run("check", ".", "d.json", "-all", "-pair", "Other=d.json").exits(0).says("Other  B.java:3:7  d $", "models     3 declared")
	p.run("check", ".", "d.json", "-pair", "Other=docs/d").exits(2).complains("no capture and no endpoint goes by docs/d; there are d")
	p.run("check", ".", "d.json", "-pair", "Other=d.json#$.dept").exits(2).complains("d has no place $.dept; it has $")
}

// TestLikely: where nothing says what is decoded, classes that look like data are told as likely, others
// are models only where responses have their keys, and the library is told as assumed.
func TestLikely(t *testing.T) {
	project := files{
		"app/M.kt": `package ferry
data class Sailing(val id: Int, val gate: String)
class Screen { var title: String = ""; fun draw() {} }
class Fare { var ticket: String = ""; var amount: Double = 0.0; fun total(n: Int) = n * amount }
`,
		"app/P.java":     "package ferry;\nclass Port { private String code; String getCode() { return code; } }\nclass PortActivity extends Activity { int count; }\n",
		"c/sailing.json": `{"id": 1, "gate": null}`,
		"c/fare.json":    `{"ticket": "adult", "amount": 4.5}`,
	}
	p := newProject(t, project)
	r := p.run("models", "app").exits(0).says("Sailing  class", "Port  class", "a likely model, by its look", "Gson, assumed: no call, import or build file says what decodes it", "2 models in 2 source files; 3 classes more")
	if strings.Contains(r.out, "Screen") {
		t.Error("a class of the app's own is listed as a model")
	}
	p.run("check", "app", "c").exits(1).says("Sailing.gate", "3 declared", "Gson, assumed")
	p.run("check", "app", "c", "-all").says("Fare  app/M.kt:4:7  c/fare $")
	project["build.gradle.kts"] = `dependencies { implementation("com.fasterxml.jackson.module:jackson-module-kotlin:2.17") }`
	newProject(t, project).run("check", ".").exits(1).says("Jackson, assumed: build.gradle.kts names it", "[null-value]")
	project["app/L.kt"] = "package ferry\nimport com.google.gson.Gson\nfun load(t: String) = Gson().fromJson(t, Sailing::class.java)\n"
	if r := newProject(t, project).run("models", "app").exits(0); strings.Contains(r.out, "likely") || strings.Contains(r.out, "assumed") || strings.Contains(r.out, "Port") {
		t.Errorf("a project that says what it decodes has likely models:\n%s", r.out)
	}
}

func sortedLines(text string) string {
	lines := strings.Split(text, "\n")
	slices.Sort(lines)
	return strings.Join(lines, "\n")
}
