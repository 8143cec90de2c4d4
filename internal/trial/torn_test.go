package trial

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// TestTorn takes a document through models whose source ends too soon, wherever that is: it is read
// as far as it goes, and reading it ends.
func TestTorn(t *testing.T) {
	files, err := filepath.Glob("testdata/measured/*.txt")
	if err != nil || len(files) == 0 {
		t.Fatal("no models", err)
	}
	doc, err := wire.Parse([]byte(`{"a":{},"l":["x"],"id":"1"}`))
	if err != nil {
		t.Fatal(err)
	}
	const cuts = 12 // of each file, at other places in each
	for n, file := range files {
		text, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		for name, text := range sections(string(text)) {
			if !strings.HasPrefix(name, "Models.") {
				continue
			}
			for i := range cuts {
				end := (i*len(text) + n%cuts*len(text)/cuts) / cuts
				set := source.Read([]scan.Source{{Name: name, Text: text[:end]}})
				for _, m := range set.Models {
					if plan, err := For(set, m.Name); err == nil {
						plan.Decode(doc)
					}
				}
			}
		}
	}
}
