package drift_test

import (
	"fmt"
	"os"
	"path/filepath"
	"sort"
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/decoder/library"
	"vetta/internal/drift"
	"vetta/internal/drift/finding"
	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/source/swift"
	"vetta/internal/trial"
	"vetta/internal/words"
)

// fixture is a source file whose comments hold the documents that are decoded as
// Root (// document: …) and, on the line they are about, the findings that must
// come: // want KIND VALUES/OF in RESPONSES, several divided by semicolons.
type fixture struct {
	name, source string
	docs         [][]byte
	sent         bool // the documents are requests, and Root is what the app sends: // sent: …
	want         map[int]string
	lost         int64 // responses that would not decode: // lost: N
	exact        bool
}

func readFixture(t *testing.T, path string) *fixture {
	t.Helper()
	text, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	f := &fixture{name: filepath.Base(path), source: string(text), want: map[int]string{}, exact: true}
	for i, line := range strings.Split(f.source, "\n") {
		if doc, ok := strings.CutPrefix(line, "// document: "); ok {
			f.docs = append(f.docs, []byte(doc))
		}
		if doc, ok := strings.CutPrefix(line, "// sent: "); ok {
			f.docs, f.sent = append(f.docs, []byte(doc)), true
		}
		if n, ok := strings.CutPrefix(line, "// lost: "); ok {
			n, f.exact = strings.CutSuffix(n, " exactly")
			if _, err := fmt.Sscan(n, &f.lost); err != nil {
				t.Fatal(err)
			}
		}
		if _, want, ok := strings.Cut(line, "// want "); ok {
			f.want[i+1] = want
		}
	}
	return f
}

// counted are the documents as they are counted.
func (f *fixture) counted(t *testing.T) (docs [][]byte) {
	for _, doc := range f.docs {
		_, counted := document(t, doc)
		docs = append(docs, counted)
	}
	return docs
}

func describeFinding(f *finding.Finding) string {
	values, of, responses := f.Values(), int64(0), f.Responses()
	for _, s := range f.Sites {
		of += s.Of
	}
	text := fmt.Sprintf("%s %d/%d in %d", f.Kind.Name, values, of, responses)
	if len(f.Keys) > 0 {
		var names []string
		for _, k := range f.Keys {
			names = append(names, k.Name)
		}
		text = f.Kind.Name + " " + strings.Join(names, ",")
	}
	if f.Rename != "" {
		text += " as " + f.Rename
	}
	return text
}

func TestFixtures(t *testing.T) {
	var paths []string
	for _, ending := range []string{".swift", ".java", ".kt", ".dart", ".cs", ".ts"} {
		found, err := filepath.Glob("testdata/*" + ending)
		if err != nil || len(found) == 0 {
			t.Fatal("no fixtures", err)
		}
		paths = append(paths, found...)
	}
	covered := map[string]bool{}
	for _, path := range paths {
		f := readFixture(t, path)
		t.Run(f.name, func(t *testing.T) {
			set := source.Read([]scan.Source{{Name: f.name, Text: f.source}})
			root := "Root"
			if set.Find(root) == nil {
				root = "[Item]"
			}
			plan, err := trial.For(set, root)
			if err != nil {
				t.Fatal(err)
			}
			if f.sent {
				plan = sentPlan(t, set, root)
			}
			if len(drift.Check(nil, drift.Second{}).Models) != 0 {
				t.Error("a check of nothing finds something")
			}
			checked := checked(t, plan, f.counted(t))
			got := map[int][]string{}
			add := func(all []*finding.Finding, at model.Pos) {
				for _, found := range all {
					covered[found.Kind.Name] = true
					line := int(found.Pos.Line)
					if line == 0 {
						line = int(at.Line)
					}
					got[line] = append(got[line], describeFinding(found))
					if strings.Contains(found.Error, " at "+decoder.IndexMark) {
						t.Errorf("line %d: an error without its place: %s", line, found.Error)
					}
				}
			}
			for _, m := range checked.Models {
				add(m.Findings, m.Model.Pos)
			}
			add(checked.Pairs[0].Findings, model.Pos{Line: 1})
			for i := range strings.Split(f.source, "\n") {
				sort.Strings(got[i+1])
				wanted := strings.Split(f.want[i+1], "; ")
				sort.Strings(wanted)
				if g, w := strings.Join(got[i+1], "; "), strings.Join(wanted, "; "); g != w {
					t.Errorf("line %d\n got %s\nwant %s", i+1, g, w)
				}
			}
			p := checked.Pairs[0]
			if p.Lost != f.lost || p.LostExact != f.exact {
				t.Errorf("%d responses would not decode (exact %v), want %d (%v)", p.Lost, p.LostExact, f.lost, f.exact)
			}
			if !f.sent {
				oneByOne(t, f, plan)
			}
		})
	}
	for _, k := range drift.Kinds() {
		if !covered[k.Name] {
			t.Errorf("no fixture has a finding of the kind %s", k.Name)
		}
	}
}

// sentPlan is what is written for a type where the source sends it.
func sentPlan(t *testing.T, set *model.Set, typ string) *decoder.Plan {
	t.Helper()
	for _, c := range set.Sends {
		if c.Declared == typ {
			lib := library.For(c.Type.Model.Language, c.Settings)
			return &decoder.Plan{Type: c.Type, Declared: typ, Settings: c.Settings, Writes: lib.Writes(c.Type, c.Settings)}
		}
	}
	t.Fatalf("nothing sends a %s", typ)
	return nil
}

// oneByOne holds the number of responses that would not decode to what trial finds.
func oneByOne(t *testing.T, f *fixture, plan *decoder.Plan) {
	t.Helper()
	fails := int64(0)
	for _, doc := range f.docs {
		v, _ := document(t, doc)
		if plan.Decode(v).Err != nil {
			fails++
		}
	}
	if f.exact && fails != f.lost && !plan.Swallowed || fails < f.lost && !plan.Swallowed {
		t.Errorf("one by one %d documents fail, want %d", fails, f.lost)
	}
}

// TestFindingsSayWhat: every finding has what its reader needs.
func TestFindingsSayWhat(t *testing.T) {
	for _, path := range []string{"testdata/breaks.swift", "testdata/renames.swift"} {
		f := readFixture(t, path)
		set := swift.Read([]scan.Source{{Name: f.name, Text: f.source}})
		plan, err := trial.For(set, "Root")
		if err != nil {
			t.Fatal(err)
		}
		for _, m := range checked(t, plan, f.docs).Models {
			for _, found := range m.Findings {
				if found.Level != finding.Breaks {
					continue
				}
				if found.Error == "" || found.Change.String() == "" || found.Declared == "" || found.Pos.IsZero() {
					t.Errorf("%s of %s lacks its error, suggestion, type or place: %+v", found.Kind.Name, found.Name, found)
				}
				for _, s := range found.Sites {
					if len(s.Examples) == 0 || len(s.Sent) == 0 || s.Values == 0 || s.Of < s.Values || s.Responses > s.OfResponses {
						t.Errorf("%s of %s has a site without what was sent: %+v", found.Kind.Name, found.Name, s)
					}
				}
			}
		}
	}
}

func TestWords(t *testing.T) {
	for in, want := range map[string]string{
		"departsAt":  "departs at",
		"departs_at": "departs at",
		"imageURL":   "image url",
		"HTTPServer": "http server",
		"some-key.x": "some key x",
		"ID":         "id",
		"":           "",
		"__v":        "v",
		"port2":      "port2",
		"naïveName":  "naïve name",
	} {
		if got := strings.Join(drift.Words(in), " "); got != want {
			t.Errorf("%q is %q, want %q", in, got, want)
		}
	}
	for _, c := range []struct {
		a, b string
		want int
	}{{"", "", 0}, {"a", "", 1}, {"port", "prot", 1}, {"port", "ports", 1}, {"sailing", "selling", 2}, {"abc", "xyz", 3}} {
		if got := words.Distance(c.a, c.b); got != c.want {
			t.Errorf("from %q to %q are %d steps, want %d", c.a, c.b, got, c.want)
		}
	}
}
