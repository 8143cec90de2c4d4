package dart

import (
	"path/filepath"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// onWeb gives the calls of an app that is built for the web alone the numbers that there are there: its project has a
// folder web, and none for another platform.
func onWeb(set *model.Set, builds []scan.Source) {
	platforms := map[string][]string{} // by the folder of the project
	for _, b := range builds {
		if at, is := strings.CutSuffix(b.Name, "/"); is {
			platforms[filepath.Dir(at)] = append(platforms[filepath.Dir(at)], filepath.Base(at))
		}
	}
	for dir, all := range platforms {
		if len(all) != 1 || all[0] != "web" {
			continue
		}
		for _, call := range set.Calls {
			if call.Settings == nil || !under(call.Pos.File, dir) {
				continue
			}
			call.Settings.Options = map[string]model.Option{"numbers": {Value: "web", Pos: model.Pos{File: filepath.Join(dir, "pubspec.yaml"), Line: 1, Col: 1}}}
		}
	}
}

// under says whether a file is in a folder, or in one inside it.
func under(file, dir string) bool {
	return dir == "." && !filepath.IsAbs(file) || strings.HasPrefix(file, dir+string(filepath.Separator))
}
