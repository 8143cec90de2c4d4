package source_test

import (
	"bytes"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"vetta/internal/report"
	"vetta/internal/source"
	"vetta/internal/source/scan"
)

// TestOutline holds reading that passes over bodies of functions to reading all of them,
// on every file of source that the tests of the project have: each alone, since a file
// that is read by hand has all the others read whole.
func TestOutline(t *testing.T) {
	shorter := map[string]int{}
	filepath.WalkDir("../..", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		language := source.LanguageOf(path)
		text, err := os.ReadFile(path)
		switch {
		case err != nil:
			return err
		case language == nil && filepath.Ext(path) != ".txt":
			return nil
		case language == nil: // a fixture of measured models, which is source under a head
			switch {
			case bytes.Contains(text, []byte("fun ")):
				path += ".kt"
			case bytes.Contains(text, []byte("class ")):
				path += ".java"
			default:
				return nil
			}
			language = source.LanguageOf(path)
		}
		read := func(whole bool) string {
			var b bytes.Buffer
			set := source.Read([]scan.Source{{Name: filepath.Base(path), Text: string(text), Whole: whole}})
			if err := report.JSON(&b, report.NewModels(set, report.Problems(nil, set.Problems, nil))); err != nil {
				t.Fatal(err)
			}
			return b.String()
		}
		whole, outline := read(true), read(false)
		if whole != outline {
			t.Errorf("%s: read whole:\n%s\nread in outline:\n%s", path, whole, outline)
		}
		if strings.Contains(whole, `"name"`) {
			shorter[language.Name]++
		}
		return nil
	})
	for _, l := range source.Languages {
		if shorter[l.Name] < 5 {
			t.Errorf("only %d files of %s have models", shorter[l.Name], l.Name)
		}
	}
}
