package report

import (
	"os"
	"path/filepath"
	"reflect"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/decoder/library"
	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
)

// TestOutlines: what a library says of many classes at once is what a plan of each says.
func TestOutlines(t *testing.T) {
	var paths []string
	for _, pattern := range []string{"../../testdata/truth/*/forms/*", "../../testdata/truth/*", "../drift/testdata", "../source/testdata", "../../demo/saltmere/Android/*/*/*/*/*/*/*"} {
		found, err := filepath.Glob(pattern)
		if err != nil {
			t.Fatal(err)
		}
		paths = append(paths, found...)
	}
	compared := 0
	for _, dir := range paths {
		var files []scan.Source
		entries, _ := os.ReadDir(dir)
		for _, e := range entries {
			if l := source.LanguageOf(e.Name()); l == nil || l.Name == "swift" {
				continue
			}
			text, err := os.ReadFile(filepath.Join(dir, e.Name()))
			if err != nil {
				t.Fatal(err)
			}
			files = append(files, scan.Source{Name: e.Name(), Text: string(text)})
		}
		set := source.Read(files)
		finder, planners := library.NewFinder(set), library.Planners{}
		for _, m := range set.Models {
			typ := &model.Type{Name: m.Name, Model: m}
			settings, _ := finder.For(typ)
			lib := library.For(m.Language, settings)
			if lib.Planner == nil || m.Reading == model.Unfollowed || settings != nil && settings.Why != "" { // no way of reading to outline
				continue
			}
			compared++
			got, want := planners.Outline(lib, m, settings), decoder.OutlineOf(lib.Plan(typ, m.Name, settings), m)
			if got.Unclaimed != want.Unclaimed {
				t.Errorf("%s: %s claims nothing because %q, its plan because %q", dir, m.Name, got.Unclaimed, want.Unclaimed)
			}
			for _, f := range m.Fields {
				if a, b := entry(got, f), entry(want, f); !f.Static && got.Unclaimed == "" && !reflect.DeepEqual(a, b) {
					t.Errorf("%s: %s.%s is %+v, by its plan %+v", dir, m.Name, f.Name, a, b)
				}
			}
		}
	}
	if compared < 200 {
		t.Errorf("only %d classes were compared", compared)
	}
}
