package drift_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"vetta/internal/drift"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/trial"
	"vetta/internal/wire"
)

// TestCheckIsTrialDart holds check to trial on models that the VM has run: what is counted as exact is what fails
// document by document, and what is not exact is the least that it can be. A finding is made only where a document
// has it.
func TestCheckIsTrialDart(t *testing.T) {
	files, err := filepath.Glob("../trial/testdata/measured/dart/*.txt")
	if dir := os.Getenv("VETTA_MEASURED_DART"); dir != "" {
		files, err = filepath.Glob(filepath.Join(dir, "*.txt"))
	}
	if err != nil || len(files) == 0 {
		t.Fatal("no models", err)
	}
	for _, file := range files {
		text, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		var sources []scan.Source
		var docs [][]byte
		root, name := "", ""
		for line := range strings.Lines(string(text)) {
			if strings.HasPrefix(line, "-- ") {
				name = strings.Trim(line, "- \n")
				if strings.HasSuffix(name, ".dart") {
					sources = append(sources, scan.Source{Name: name})
				}
				continue
			}
			switch {
			case strings.HasSuffix(name, ".dart"):
				sources[len(sources)-1].Text += line
			case name == "root":
				root = strings.TrimSpace(line)
			case name == "docs":
				docs = append(docs, []byte(strings.TrimSpace(line)))
			}
		}
		plan, err := trial.For(source.Read(sources), root)
		if err != nil {
			t.Fatal(err)
		}
		fails := int64(0)
		for _, doc := range docs {
			v, err := wire.Parse(doc)
			if err != nil {
				t.Fatal(err)
			}
			if plan.Decode(v).Err != nil {
				fails++
			}
		}
		e := shapeOf(t, docs, nil)
		pair := func(second drift.Second) *drift.PairResult {
			return drift.Check([]*drift.Pair{{Plan: plan, Endpoint: e, Place: e.Root}}, second).Pairs[0]
		}
		base := filepath.Base(file)
		if p := pair(drift.Second{}); p.LostExact && p.Lost != fails || p.Lost > fails { // a saved shape
			t.Errorf("%s: counts say %d (exact %v), one by one %d fail", base, p.Lost, p.LostExact, fails)
		}
		p := pair(twice(t, docs))
		if !p.LostExact || p.Lost != fails {
			t.Errorf("%s: check says %d (exact %v), one by one %d fail", base, p.Lost, p.LostExact, fails)
		}
	}
}
