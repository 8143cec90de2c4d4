package pairing

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"vetta/internal/capture"
	"vetta/internal/drift"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/source"
	"vetta/internal/source/scan"
)

// TestAccount: on all fixtures of source with documents, each model and each endpoint ends in one list.
func TestAccount(t *testing.T) {
	tried := 0
	account := func(t *testing.T, files []scan.Source, documents []string) {
		tried++
		dir := t.TempDir()
		var captures []*capture.File
		for i, doc := range documents {
			path := filepath.Join(dir, fmt.Sprintf("doc-%d.json", i+1))
			if err := os.WriteFile(path, []byte(doc), 0o644); err != nil {
				t.Fatal(err)
			}
			captures = append(captures, &capture.File{Path: path, Order: i})
		}
		set := source.Read(files)
		s := shape.Collect(captures, shape.Reading{Workers: 1, Limits: shape.DefaultLimits})
		r, err := Pair(set, s, nil)
		if err != nil {
			t.Fatal(err)
		}
		checked := drift.Check(r.Pairs, drift.Second{})
		r.Account(set, s, checked)
		lists := map[*model.Model]int{}
		for _, m := range checked.Models {
			lists[m.Model]++
		}
		for _, e := range r.Extended {
			lists[e.Model]++
		}
		for _, list := range [][]Alone{r.Models, r.Unjudged} {
			for _, a := range list {
				lists[a.Model]++
				if a.Why == "" {
					t.Errorf("%s: no reason is told", a.Model.Name)
				}
			}
		}
		for _, m := range set.Models {
			if lists[m] != 1 {
				t.Errorf("%s is in %d lists", m.Name, lists[m])
			}
			delete(lists, m)
		}
		for m := range lists {
			t.Errorf("%s is listed and not among the models of the source", m.Name)
		}
		ends := map[*shape.Endpoint]int{}
		for _, p := range r.Pairs {
			ends[p.Endpoint] = 1
		}
		for _, a := range r.Unjudged {
			if a.Endpoint != nil && ends[a.Endpoint] == 0 {
				ends[a.Endpoint] = 1
			}
		}
		for _, a := range r.Endpoints {
			ends[a.Endpoint]++
		}
		for _, e := range s.Endpoints {
			if ends[e] != 1 {
				t.Errorf("%s is in %d lists", e.Name, ends[e])
			}
		}
	}
	fixtures, _ := filepath.Glob("../drift/testdata/*")
	for _, path := range fixtures {
		text, err := os.ReadFile(path)
		if err != nil || source.LanguageOf(path) == nil {
			continue
		}
		var documents []string
		for _, line := range strings.Split(string(text), "\n") {
			if doc, ok := strings.CutPrefix(line, "// document: "); ok {
				documents = append(documents, doc)
			}
		}
		t.Run(filepath.Base(path), func(t *testing.T) {
			account(t, []scan.Source{{Name: filepath.Base(path), Text: string(text)}}, documents)
		})
	}
	forms, _ := filepath.Glob("../../testdata/truth/*/forms/*")
	for _, form := range forms {
		seen, err := os.ReadFile(filepath.Join(form, "seen.tsv"))
		if err != nil {
			continue
		}
		var files []scan.Source
		entries, _ := os.ReadDir(form)
		for _, e := range entries {
			if source.LanguageOf(e.Name()) == nil {
				continue
			}
			text, err := os.ReadFile(filepath.Join(form, e.Name()))
			if err != nil {
				t.Fatal(err)
			}
			files = append(files, scan.Source{Name: e.Name(), Text: string(text)})
		}
		var documents []string
		for _, line := range strings.Split(strings.TrimSpace(string(seen)), "\n")[1:] {
			doc, _, _ := strings.Cut(line, "\t")
			documents = append(documents, doc)
		}
		t.Run(filepath.Base(form), func(t *testing.T) { account(t, files, documents) })
	}
	if tried < 120 {
		t.Errorf("only %d fixtures were tried", tried)
	}
}
