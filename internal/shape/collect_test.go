package shape

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"vetta/internal/capture"
	"vetta/internal/traffic"
	"vetta/internal/wire"
)

// write puts files into a folder of their own and answers them as captures.
func write(t testing.TB, files map[string]string) []*capture.File {
	t.Helper()
	dir := t.TempDir()
	names := make([]string, 0, len(files))
	for name := range files {
		names = append(names, name)
	}
	slices.SortFunc(names, traffic.Compare)
	var out []*capture.File
	for i, name := range names {
		path := filepath.Join(dir, name)
		if err := os.WriteFile(path, []byte(files[name]), 0o644); err != nil {
			t.Fatal(err)
		}
		out = append(out, &capture.File{Path: path, Order: i})
	}
	return out
}

// dump writes all that a shape holds, so that two can be compared.
func dump(s *Shape) string {
	var b strings.Builder
	for _, e := range s.Endpoints {
		fmt.Fprintf(&b, "== %s files %d responses %d %q\n", filepath.Base(e.Name), e.Files, e.Responses, e.Capped)
		e.Root.Walk(func(p *Place) {
			fmt.Fprintf(&b, "%s %v to %v\n", p.Path(), p.Min, p.Max)
			for _, c := range p.Sorted() {
				fmt.Fprintf(&b, "  %v %x %q: %d in %d %s\n", c.Class.Kind, c.Class.Facts, c.Class.Form, c.Values, c.Responses, places(c.Tally))
			}
			for _, kind := range []wire.Kind{wire.String, wire.Number} {
				for _, t := range p.SortedTexts(kind) {
					fmt.Fprintf(&b, "  text %s: %d in %d %s\n", t.Literal, t.Values, t.Responses, places(&t.Tally))
				}
			}
			for _, k := range p.Keys {
				fmt.Fprintf(&b, "  key %s in %d objects, %d doubles\n", k.Name, k.Objects, k.Doubles)
			}
			for _, f := range p.Forms {
				n, exact := e.Among([]*Tally{&f.Tally})
				fmt.Fprintf(&b, "  form %v: %d in %d (%d %v) %s\n", f.Keys, f.Values, f.Responses, n, exact, places(&f.Tally))
			}
		})
	}
	for _, p := range s.Problems {
		fmt.Fprintf(&b, "problem %s:%d:%d %d %s\n", filepath.Base(p.File), p.Line, p.Column, p.Entry, p.Reason)
	}
	return b.String()
}

func places(t *Tally) string {
	var out []string
	for _, ex := range t.Examples {
		out = append(out, fmt.Sprintf("%s#%d%s %d:%d %s", filepath.Base(ex.File), ex.Entry, wire.Pointer(ex.Steps), ex.Line, ex.Column, ex.Value))
	}
	return fmt.Sprint(strings.Join(out, " "), " last ", t.Span)
}

func TestCollectCounts(t *testing.T) {
	files := write(t, map[string]string{
		"sailings-1.json": `{"sailings":[{"id":1,"seats":40},{"id":2,"seats":12.5,"note":null}]}`,
		"sailings-2.json": "\ufeff{\"sailings\":[\n  {\"id\":3}]}",
		"sailings-3.json": `{"error":"late"}`,
		"sailings-4.json": `{"sailings":[{"id":4,"seats":1}`,
		"ports.ndjson":    "{\"code\":\"SAL\"}\n{\"code\":\"MER\",\"code\":\"X\"}\n{\"code\"}\n{\"code\":\"SAL\"}\n",
	})
	got := dump(Collect(files, Reading{Workers: 1, Limits: DefaultLimits}))
	for _, want := range []string{
		"== ports files 1 responses 3 []",
		"== sailings ({error}) files 1 responses 1 []",
		"== sailings ({sailings}) files 2 responses 2 []",
		"key id in 3 objects, 0 doubles",
		"key code in 3 objects, 1 doubles",
		"form [true false false]: 1 in 1 (1 true) sailings-2.json#0/sailings/0 2:3",
		"sailings-1.json#0/sailings/1/seats 1:50 12.5",
		"object 0 \"\": 3 in 3 ports.ndjson#1 1:1 {\"code\":\"SAL\"} ports.ndjson#2",
		"text \"SAL\": 2 in 2 ports.ndjson#1/code 1:9 \"SAL\" ports.ndjson#4/code 4:9 \"SAL\"",
		"problem ports.ndjson:2:22 2 the key \"code\" stands more than once",
		"problem ports.ndjson:3:8 3 '}' where ':' should come",
		"problem sailings-4.json:1:32 0 the document ends where ',' or the end of the array should come",
	} {
		if !strings.Contains(got, want) {
			t.Errorf("no %q in\n%s", want, got)
		}
	}
	if strings.Contains(got, "sailings-4.json#") {
		t.Errorf("a malformed document left something behind:\n%s", got)
	}
}

// randomDocuments makes captures whose documents differ in keys, kinds and values.
func randomDocuments(r *rand.Rand, n int, enveloped bool) map[string]string {
	files := map[string]string{}
	value := func(depth int) any { return nil }
	value = func(depth int) any {
		switch k := r.IntN(12); {
		case k < 2 && depth < 3:
			list := []any{}
			for range r.IntN(4) {
				list = append(list, value(depth+1))
			}
			return list
		case k < 5 && depth < 3:
			object := map[string]any{}
			for range r.IntN(5) {
				object[string(rune('a'+r.IntN(6)))] = value(depth + 1)
			}
			return object
		case k == 5:
			return nil
		case k == 6:
			return r.IntN(2) == 0
		case k == 7:
			return r.IntN(100000)
		case k == 8:
			return float64(r.IntN(1000)) / 8
		case k == 9:
			return fmt.Sprintf("2026-%02d-%02dT09:30:00Z", 1+r.IntN(14), 1+r.IntN(28))
		default:
			return fmt.Sprint("text ", r.IntN(200))
		}
	}
	for i := range n {
		root := value(0)
		if enveloped {
			root = map[string]any{"data": root}
		}
		doc, _ := json.Marshal(root)
		if r.IntN(20) == 0 {
			doc = doc[:len(doc)-1] // malformed, where it was an array, an object or a string
		}
		name := fmt.Sprintf("%c-%d.json", 'p'+r.IntN(2), i)
		files[name] = string(doc)
	}
	return files
}

func TestAnyNumberOfWorkers(t *testing.T) {
	limits := Limits{Keys: 4, Forms: 6, Texts: 5, Numbers: 3, TextLen: 20, Combos: 4096, Forms2: 3}
	for name, l := range map[string]Limits{"default": DefaultLimits, "tight": limits} {
		for seed := range uint64(30) {
			// Under tight limits one root for all: which documents are of one endpoint
			// must not depend on what the limits make of the root.
			files := write(t, randomDocuments(rand.New(rand.NewPCG(seed, 1)), 120, name == "tight"))
			want := dump(Collect(files, Reading{Workers: 1, Limits: l}))
			for _, workers := range []int{2, 3, 7} {
				if got := dump(Collect(files, Reading{Workers: workers, Limits: l})); got != want {
					t.Fatalf("seed %d, %s limits: %d workers differ from one\n%s", seed, name, workers, diff(want, got))
				}
			}
		}
	}
}

// diff shows the first lines in which two texts differ.
func diff(a, b string) string {
	la, lb := strings.Split(a, "\n"), strings.Split(b, "\n")
	for i := range la {
		if i >= len(lb) || la[i] != lb[i] {
			return fmt.Sprintf("line %d\n-%s\n+%s", i+1, strings.Join(la[i:min(i+3, len(la))], "\n-"), strings.Join(lb[i:min(i+3, len(lb))], "\n+"))
		}
	}
	return "the second is longer"
}
