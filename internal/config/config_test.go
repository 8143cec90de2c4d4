package config

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"vetta/internal/model"
)

var known = Words{
	Levels: []string{"breaks", "misreads", "never"}, Libraries: []string{"foundation", "gson"},
	Settings: func(library string) []string {
		if library == "gson" {
			return []string{"naming", "module.*", "*"}
		}
		return []string{"keys", "dates"}
	},
}

// TestMistakes: each is told with its line and column, and with the nearest right word; a line says what is
// wrong with it.
func TestMistakes(t *testing.T) {
	for _, text := range []string{
		"modles = [\"App\"] # 1:1: the file has no key \"modles\"; did you mean models?\n",
		"\n  fail_on = \"breaks\" # 2:3: the file has no key \"fail_on\"; did you mean fail-on?\n",
		"fail-on = \"brakes\" # 1:1: fail-on is one of breaks, misreads, never; did you mean breaks?\n",
		"models = 3 # 1:1: models is a list of texts, as in models = [\"…\"], and not the number 3\n",
		"models = [\"App\", \"\"] # 1:1: models is a list of texts, and has an empty text in it\n",
		"pass-over = [\"a[\"] # 1:1: \"a[\" is no pattern for file names\n",
		"models = [\"App\",,] # 1:17: unexpected comma\n",
		"skip = true # 1:1: skip is a list of texts, as in skip = [\"…\"], and not true\n",
		"[pair] # 1:1: there may be several: head it [[pair]] rather than [pair]\n",
		"pair = 2026-03-09 # 1:1: pair is a list of tables, each headed [[pair]], and not a date or time\n",
		"[[pair]] # 1:1: the pair has no type\ncaptures = \"x\"\n",
		"[[pair]]\ntype = \"A\"\ncaptures = \"x\"\n[[pair]]\ntype = 4 # 5:1: type is a text in quotes, and not the number 4\ncaptures = \"x\"\n",
		"[[pair]]\ntyp = \"A\" # 2:1: [[pair]] has no key \"typ\"; did you mean type?\ntype = \"A\"\ncaptures = \"x\"\n",
		"[[decoder]] # 1:1: the decoder has no path\nlibrary = \"gson\"\n",
		"[[decoder]]\npath = \"App\"\nlibrary = \"gsn\" # 3:1: library is one of foundation, gson; did you mean gson?\n",
		"[[decoder]]\npath = \"App\"\nlibrary = \"foundation\"\nsettings = { kys = \"a\" } # 4:14: foundation has no setting \"kys\"; did you mean keys?\n",
		"[[decoder]]\npath = \"App\"\nlibrary = \"gson\"\n[decoder.settings]\nFEATURE_X = true\nodd = 1 # 6:1: gson has no setting \"odd\"\n",
		"[[decoder]]\npath = \"App\"\nlibrary = \"gson\"\nsettings = { naming = [1] } # 4:14: naming is a text, a number or true or false, and not a list\n",
	} {
		_, errs := Parse("vetta.toml", text, known)
		var want string
		for _, line := range strings.Split(text, "\n") {
			if _, said, ok := strings.Cut(line, " # "); ok {
				want = said
			}
		}
		if len(errs) != 1 || !strings.HasPrefix(errs[0].Error(), "vetta.toml:"+want) {
			t.Errorf("%s\n got %v\nwant %s", text, errs, want)
		}
	}
}

func TestParse(t *testing.T) {
	f, errs := Parse("p/vetta.toml", `models = "App"
captures = ["a", "b"]
secrets = ["deck*"]
fail-on = "never"

[[pair]]
type = "[Port]"
captures = "GET /v2/ports"
place = "$.ports"

[[decoder]]
path = "App/**/Old*"
library = "gson"
settings = { naming = "IDENTITY", FEATURE = false }
`, known)
	if len(errs) > 0 {
		t.Fatal(errs)
	}
	if got := f.Paths(f.Captures); len(got) != 2 || got[0] != "p/a" {
		t.Errorf("captures are at %v", got)
	}
	if f.FailOn.Value != "never" || f.FailOn.Pos.Line != 4 || f.Models.Values[0] != "App" {
		t.Errorf("%+v", f)
	}
	if len(f.Pairs) != 1 || f.Pairs[0].String() != "[Port]=GET /v2/ports#$.ports" || f.Pairs[0].Pos.Line != 6 {
		t.Errorf("pairs %+v", f.Pairs)
	}
	d := f.Decoders[0]
	if d.Settings["FEATURE"] != "false" || d.Settings["naming"] != "IDENTITY" {
		t.Errorf("settings %v", d.Settings)
	}
}

func TestCovers(t *testing.T) {
	for _, c := range []struct {
		pattern, path string
		want          bool
	}{
		{"App", "App/Models/Port.swift", true}, {"App/", "App/Port.swift", true}, {"./App", "App", true}, {"App", "Apple/Port.swift", false},
		{"**/Old*", "App/Old/Port.swift", true}, {"**/Old*", "App/OldPort.swift", true}, {"*.kt", "a/b.kt", false}, {"**/*.kt", "a/b.kt", true}, {".", "x/y", true},
	} {
		if got := covers(c.pattern, c.path); got != c.want {
			t.Errorf("%s covers %s: %v", c.pattern, c.path, got)
		}
	}
}

// TestDecide: what the file says of a decoder goes over what the source says, and a later one over an
// earlier one.
func TestDecide(t *testing.T) {
	f := &File{Path: "vetta.toml", Decoders: []Decoder{
		{Path: "a", Library: "gson", Settings: map[string]string{"naming": "X"}}, {Path: "a/b.kt", Library: "jackson"}, {Path: "none", Library: "gson"},
	}}
	m := &model.Model{Pos: model.Pos{File: "a/b.kt"}}
	own := &model.Settings{Library: "gson", Options: map[string]model.Option{"dates": {Value: "d"}, "naming": {Value: "Y"}}}
	call := &model.Call{Pos: model.Pos{File: "a/c.kt"}, Settings: own}
	unused := f.Decide(&model.Set{Models: []*model.Model{m}, Calls: []*model.Call{call}})
	if len(unused) != 1 || unused[0].Path != "none" {
		t.Errorf("unused: %v", unused)
	}
	if m.Decoder.Library != "jackson" || call.Settings.Option("naming") != "X" || call.Settings.Option("dates") != "d" || own.Option("naming") != "Y" {
		t.Errorf("%+v %+v", m.Decoder, call.Settings)
	}
	if len((*File)(nil).Decide(&model.Set{})) > 0 || (*File)(nil).PassesOver("x") {
		t.Error("no file decides something")
	}
}

// TestAdd: pairs are put behind what is there, which stays to the byte, and once alone.
func TestAdd(t *testing.T) {
	path := filepath.Join(t.TempDir(), Name)
	before := "# ours\nmodels = [\"App\"]   # spaced\n\n[[pair]]\ntype = \"A\"\ncaptures = \"x\""
	if err := os.WriteFile(path, []byte(before), 0o600); err != nil {
		t.Fatal(err)
	}
	f, errs := Read(path, known)
	if len(errs) > 0 {
		t.Fatal(errs)
	}
	pairs := []Noted{{Pair: Pair{Type: "A", Captures: "x", Place: "$"}}, {Pair: Pair{Type: "List<B>", Captures: `say "y"`, Place: "$.b[*]"}, Note: "certain:\nkeys"}}
	if n, err := f.Add(pairs); n != 1 || err != nil {
		t.Fatalf("%d pairs added, %v", n, err)
	}
	text, _ := os.ReadFile(path)
	want := before + "\n\n# certain: keys\n[[pair]]\ntype = \"List<B>\"\ncaptures = \"say \\\"y\\\"\"\nplace = \"$.b[*]\"\n"
	if string(text) != want {
		t.Errorf("got\n%s\nwant\n%s", text, want)
	}
	if info, _ := os.Stat(path); info.Mode().Perm() != 0o600 {
		t.Errorf("its mode is %v", info.Mode())
	}
	f, errs = Read(path, known)
	if n, err := f.Add(pairs); n != 0 || err != nil || len(errs) > 0 || len(f.Pairs) != 2 {
		t.Errorf("%d pairs added again, %v %v", n, err, errs)
	}
	if entries, _ := os.ReadDir(filepath.Dir(path)); len(entries) != 1 {
		t.Errorf("%d files are left", len(entries))
	}
}

// FuzzParse: whatever a file holds is read or told, at a place in it.
func FuzzParse(f *testing.F) {
	for _, seed := range []string{"", "models = [\"App\"]\n[[pair]]\ntype = 'x'", "a = {b = [[]]}", "[[decoder]]\nsettings = {a=1}", "\"\"=1\n[pair.x]\n", "pair = [{}, 1]"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		_, errs := Parse("vetta.toml", text, known)
		for _, err := range errs {
			at, ok := err.(*Error)
			if !ok || at.Pos.Line < 1 || at.Pos.Col < 1 || int(at.Pos.Line) > strings.Count(text, "\n")+2 || at.Reason == "" {
				t.Fatalf("%q: %v", text, err)
			}
		}
	})
}
