package trial

import (
	"encoding/json"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"sort"
	"strconv"
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// byPlace are the forms of validators whose issues have no codes of their own: the table names the codec there, and
// Vetta what is wrong. Of byMessage the words are compared too.
const (
	byPlace   = "iots-"
	byMessage = "zod-"
)

// plainDocument is a document as the tables write it, where some characters stand by name.
var plainDocument = strings.NewReplacer("<BOM>", "\ufeff", "<TAB>", "\t", "<CR>", "\r", "<NL>", "\n")

// differences are the places and reasons of what the compiler says, sorted; an extra key is no difference.
func differences(t *testing.T, text string) (all []string) {
	t.Helper()
	var list []struct{ At, Reason string }
	if err := json.Unmarshal([]byte(text), &list); err != nil {
		t.Fatal(err)
	}
	for _, d := range list {
		if d.Reason != "extra" {
			all = append(all, d.At+" "+d.Reason)
		}
	}
	sort.Strings(all)
	return all
}

// said are the places and reasons of an outcome, sorted, with what is said where that is asked for.
func said(all []decoder.Difference, words bool) (out []string) {
	for _, d := range all {
		one := wire.Pointer(d.At) + " " + d.Reason
		if words {
			one += " " + d.Message
		}
		out = append(out, one)
	}
	sort.Strings(out)
	return out
}

// issues are the places and codes of what a validator said, sorted, with its words where they are asked for.
func issues(t *testing.T, text string, words bool) (all []string) {
	t.Helper()
	var list []struct {
		Path          []any
		Code, Message string
	}
	if err := json.Unmarshal([]byte(text), &list); err != nil {
		t.Fatal(err)
	}
	for _, i := range list {
		var at []wire.Step
		for _, p := range i.Path {
			switch p := p.(type) {
			case string:
				at = append(at, wire.MemberOf(p))
			case float64:
				at = append(at, wire.Step{Index: int(p)})
			}
		}
		one := wire.Pointer(at) + " " + i.Code
		if words {
			one += " " + i.Message
		}
		all = append(all, one)
	}
	sort.Strings(all)
	return all
}

// places are the places of issues, each once.
func places(all []string) (out []string) {
	for _, issue := range all {
		at, _, _ := strings.Cut(issue, " ")
		out = append(out, at)
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// TestFormsScript holds what is said of every document of the forms to what the compiler said, or the validator of the
// form: where a value differs and why, or what the app gets.
func TestFormsScript(t *testing.T) {
	forms, err := filepath.Glob("../../testdata/truth/typescript/forms/*")
	if err != nil || len(forms) < 90 {
		t.Fatal("no forms", err)
	}
	checked := 0
	for _, dir := range forms {
		name := filepath.Base(dir)
		t.Run(name, func(t *testing.T) {
			three := scan.Source{Name: filepath.Join(dir, "package.json"), Text: `{"dependencies": {"zod": "^3.25.0"}}`}
			plans := map[string]*decoder.Plan{"seen.tsv": scriptPlan(t, dir), "seen-v3.tsv": scriptPlan(t, dir, three)}
			for table, plan := range plans {
				text, err := os.ReadFile(filepath.Join(dir, table))
				if os.IsNotExist(err) && table != "seen.tsv" {
					continue
				}
				if err != nil {
					t.Fatal(err)
				}
				for _, line := range strings.Split(strings.TrimSuffix(string(text), "\n"), "\n")[1:] {
					row := strings.Split(line, "\t")
					doc, err := wire.Parse([]byte(plainDocument.Replace(row[0])))
					if err != nil {
						continue // no JSON
					}
					checked++
					judgeScript(t, plan.Decode(doc), row, name)
				}
			}
		})
	}
	if checked < 700 {
		t.Errorf("only %d documents were held to what was measured", checked)
	}
}

// judgeScript compares one outcome with a row: document, outcome, what was said or seen. Without codes, issues are
// compared by their places.
func judgeScript(t *testing.T, out decoder.Outcome, row []string, form string) {
	t.Helper()
	switch row[1] {
	case "differs":
		if want, got := differences(t, row[2]), said(out.Differs, false); !slices.Equal(want, got) {
			t.Errorf("%s\nsaid     %v\ncompiler %v", row[0], got, want)
		}
	case "fails":
		if strings.HasPrefix(row[2], "TypeError") { // of code of the app
			if out.Err == nil && len(out.Unknown) == 0 {
				t.Errorf("%s\nthrows %s, and Vetta sees %s", row[0], row[2], scriptValue(out.Seen))
			}
			return
		}
		words := strings.HasPrefix(form, byMessage)
		want, got := issues(t, row[2], words), said(out.Issues, words)
		if strings.HasPrefix(form, byPlace) {
			want, got = places(want), places(got)
		}
		if !slices.Equal(want, got) {
			t.Errorf("%s\nsaid     %v\nmeasured %v", row[0], got, want)
		}
	default:
		if len(out.Unknown) > 0 { // said to be so
			return
		}
		if out.Err != nil || len(out.Differs) > 0 {
			t.Errorf("%s\nfits, and Vetta says %v %v", row[0], out.Err, said(out.Differs, false))
			return
		}
		if row[2] == "[]" || strings.HasPrefix(row[2], `[{"at"`) {
			return
		}
		if got := scriptValue(out.Seen); got != row[2] && !sameJSON(got, row[2]) {
			t.Errorf("%s\nseen     %s\nmeasured %s", row[0], got, row[2])
		}
	}
}

// scriptPlan reads the files of a form, and plans the type that its about.txt names.
func scriptPlan(t *testing.T, dir string, more ...scan.Source) *decoder.Plan {
	t.Helper()
	about, err := os.ReadFile(filepath.Join(dir, "about.txt"))
	if err != nil {
		t.Fatal(err)
	}
	var files, builds []scan.Source
	err = filepath.WalkDir(dir, func(path string, e os.DirEntry, err error) error {
		if err != nil || e.IsDir() {
			return err
		}
		text, err := os.ReadFile(path)
		if filepath.Ext(path) == ".json" {
			builds = append(builds, scan.Source{Name: path, Text: string(text)})
		} else if l := source.LanguageOf(path); l != nil {
			files = append(files, scan.Source{Name: path, Text: string(text)})
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	plan, err := For(source.Read(files, append(builds, more...)...), rootLine.FindStringSubmatch(string(about))[1])
	if err != nil {
		t.Fatal(err)
	}
	return plan
}

var rootLine = regexp.MustCompile(`(?m)^root: (.*)$`)

// scriptValue writes a value as the harness did: dates in milliseconds, big integers with an n.
func scriptValue(s decoder.Seen) string {
	switch s.Kind {
	case decoder.SeenDate:
		if s.Text != "" {
			return "date:invalid"
		}
		return "date:" + strconv.FormatFloat(s.Seconds*1000, 'f', -1, 64)
	case decoder.SeenList:
		var all []string
		for _, e := range s.Elems {
			all = append(all, scriptValue(e))
		}
		return "[" + strings.Join(all, ",") + "]"
	case decoder.SeenMap:
		var all []string
		for i, e := range s.Elems {
			name, _ := json.Marshal(s.Names[i])
			all = append(all, string(name)+":"+scriptValue(e))
		}
		return "{" + strings.Join(all, ",") + "}"
	case decoder.SeenString:
		if n, ok := strings.CutSuffix(s.Text, "n"); ok && n != "" && strings.Trim(n, "0123456789") == "" {
			return s.Text
		}
	}
	return s.String()
}

// sameJSON says whether two texts are the same values, in whatever order of keys.
func sameJSON(a, b string) bool {
	quote := regexp.MustCompile(`([:\[,])(date:(?:-?[\d.]+|invalid)|\d+n)`)
	var x, y any
	if json.Unmarshal([]byte(quote.ReplaceAllString(a, `$1"$2"`)), &x) != nil || json.Unmarshal([]byte(quote.ReplaceAllString(b, `$1"$2"`)), &y) != nil {
		return false
	}
	first, _ := json.Marshal(x)
	second, _ := json.Marshal(y)
	return string(first) == string(second)
}

var declaredScript = regexp.MustCompile(`/\*\* (.*?) \*/\nexport interface (T\d+)`)

// TestDeclaredScript holds every declared type to every value. Rows of which the compiler told an unknown key alone are
// left out: it tells nothing else then, though there is more (measured with tsc 5.9.3: {"A":1} for { a: number }).
func TestDeclaredScript(t *testing.T) {
	text := read(t, "typescript/declared.ts")
	set := source.Read([]scan.Source{{Name: "declared.ts", Text: text}})
	types := map[string]string{}
	for _, m := range declaredScript.FindAllStringSubmatch(text, -1) {
		types[m[1]] = m[2]
	}
	docs := documents(t)
	plans := map[string]*decoder.Plan{}
	checked := 0
	for _, row := range rows(t, "typescript/declared.tsv", true) {
		declared, name, outcome := row[1], row[2], row[3]
		if len(row) > 4 && row[4] == "unknown key" {
			continue
		}
		doc, err := wire.Parse([]byte(strings.TrimPrefix(string(docs[name]), "\ufeff")))
		if err != nil || docs[name] == nil {
			continue
		}
		plan := plans[declared]
		if plan == nil {
			if plan, err = For(set, types[declared]); err != nil {
				t.Fatal(err)
			}
			plans[declared] = plan
		}
		checked++
		out := plan.Decode(doc)
		if got := len(out.Differs) > 0; got != (outcome == "differs") {
			t.Errorf("%s %s: %s %v, %v", declared, name, outcome, row[4:], said(out.Differs, false))
		}
	}
	if checked < 4000 {
		t.Errorf("only %d rows were held to what was measured", checked)
	}
}
