package cli_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// TestNothingVanishes: on every story and on the demo, each model that the source declares and each response
// that was read is in one list, and the sums say so.
func TestNothingVanishes(t *testing.T) {
	checked := 0
	check := func(t *testing.T, p *project, args ...string) {
		t.Helper()
		r := p.run(append([]string{"check", "-format", "json"}, args...)...)
		if !strings.HasPrefix(r.out, "{") {
			return // nothing could be checked, which is said
		}
		var got struct {
			Models   []struct{ Name, At any }
			Unpaired struct {
				Models    []struct{ Name, At any }
				Endpoints []struct {
					Endpoint  string
					Responses int
					Sent      bool
				}
			}
			Unjudged []struct{ Name, At any }
			Roots    []struct {
				Endpoint  string
				Responses int
			}
			Total struct{ Declared, Models, WithFindings, Clean, WithoutResponse, NotJudged, Responses, Checked, WithoutModel, ResponsesNotJudged, Requests, RequestsChecked int }
		}
		if err := json.Unmarshal([]byte(r.out), &got); err != nil {
			t.Fatal(err)
		}
		checked++
		total := got.Total
		listed := map[string]int{}
		for _, list := range [][]struct{ Name, At any }{got.Models, got.Unpaired.Models, got.Unjudged} {
			for _, m := range list {
				text, _ := json.Marshal(m)
				listed[string(text)]++
			}
		}
		for m, n := range listed {
			if n != 1 {
				t.Errorf("%s is in %d lists", m, n)
			}
		}
		if len(listed) != total.Declared || total.WithFindings+total.Clean != total.Models || total.Models+total.WithoutResponse+total.NotJudged != total.Declared {
			t.Errorf("%d models are listed, and the sums are %+v", len(listed), total)
		}
		if total.Checked+total.WithoutModel+total.ResponsesNotJudged != total.Responses {
			t.Errorf("responses: %+v", total)
		}
		ends := map[string]int{}
		for _, root := range got.Roots {
			ends[root.Endpoint] = root.Responses
		}
		sum, requests := 0, 0
		for _, e := range got.Unpaired.Endpoints {
			if ends[e.Endpoint] > 0 {
				t.Errorf("%s is paired and without a model", e.Endpoint)
			}
			if e.Sent {
				requests += e.Responses
			} else {
				sum += e.Responses
			}
		}
		if requests != total.Requests-total.RequestsChecked {
			t.Errorf("%d requests are held against nothing, and the sums are %+v", requests, total)
		}
		if sum != total.WithoutModel {
			t.Errorf("%d responses without a model are listed, %d counted", sum, total.WithoutModel)
		}
		// The text says the same sums.
		text := p.run(append([]string{"check"}, args...)...).out
		for _, part := range []string{"models     ", "responses  "} {
			if !strings.Contains(text, part) {
				t.Errorf("the text lacks %q:\n%s", part, text)
			}
		}
	}
	for _, list := range [][]story{stories, wholeStories} {
		for _, s := range list {
			t.Run(s.name, func(t *testing.T) {
				p := newProject(t, s.files)
				for _, r := range s.runs {
					if args := strings.Fields(r.command); args[0] == "check" && !strings.Contains(r.command, ".shape") {
						check(t, p, args[1:]...)
					}
				}
			})
		}
	}
	t.Run("demo", func(t *testing.T) {
		p := newProject(t, nil)
		p.run("demo", "saltmere").exits(0)
		check(t, p, "saltmere")
		check(t, p, "saltmere/App", "saltmere/captures/passes.zip")
	})
	forms, err := filepath.Glob("../../testdata/truth/*/forms/*")
	if err != nil || len(forms) < 50 {
		t.Fatal(err, len(forms))
	}
	for i, form := range forms {
		if i%7 != 0 { // one in seven, since each takes two runs of the program
			continue
		}
		t.Run(form, func(t *testing.T) {
			seen, err := os.ReadFile(filepath.Join(form, "seen.tsv"))
			if err != nil {
				t.Skip(err)
			}
			sources := files{}
			entries, _ := os.ReadDir(form)
			for _, e := range entries {
				if text, err := os.ReadFile(filepath.Join(form, e.Name())); err == nil && filepath.Ext(e.Name()) != ".tsv" && filepath.Ext(e.Name()) != ".txt" {
					sources["App/"+e.Name()] = string(text)
				}
			}
			for n, line := range strings.Split(strings.TrimSpace(string(seen)), "\n")[1:] {
				doc, _, _ := strings.Cut(line, "\t")
				sources["c/"+strings.Repeat("i", n+1)+".json"] = doc
			}
			check(t, newProject(t, sources), "App", "c")
		})
	}
	if checked < 100 {
		t.Errorf("only %d projects were checked", checked)
	}
}
