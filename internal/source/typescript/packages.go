package typescript

import (
	"encoding/json"
	"path"
	"slices"
	"strings"

	"vetta/internal/source/scan"
)

// packages are the libraries that a package.json asks for.
type packages struct {
	dir      string
	versions map[string]string // by name, as it is written: "^3.23.8"
}

// readPackages reads the package.json files of a project; one that cannot be read says nothing.
func (p *project) readPackages(builds []scan.Source) {
	for _, b := range builds {
		name := path.Clean(slashes(b.Name))
		if path.Base(name) != "package.json" {
			continue
		}
		var said struct {
			Dependencies         map[string]string `json:"dependencies"`
			DevDependencies      map[string]string `json:"devDependencies"`
			PeerDependencies     map[string]string `json:"peerDependencies"`
			OptionalDependencies map[string]string `json:"optionalDependencies"`
		}
		if json.Unmarshal([]byte(strings.TrimPrefix(b.Text, "\ufeff")), &said) != nil {
			continue
		}
		one := packages{path.Dir(name), map[string]string{}}
		for _, all := range []map[string]string{said.PeerDependencies, said.OptionalDependencies, said.DevDependencies, said.Dependencies} {
			for name, version := range all {
				one.versions[name] = version
			}
		}
		p.packages = append(p.packages, one)
	}
	slices.SortFunc(p.packages, func(a, b packages) int {
		if len(a.dir) != len(b.dir) {
			return len(b.dir) - len(a.dir)
		}
		return strings.Compare(a.dir, b.dir)
	})
}

// isMajor says whether the nearest package.json of a file that asks for a library asks for a major version of it.
func (p *project) isMajor(file, library, major string) bool {
	dir := path.Dir(path.Clean(slashes(file)))
	for _, one := range p.packages {
		if version, ok := one.versions[library]; ok && (one.dir == "." || dir == one.dir || strings.HasPrefix(dir, one.dir+"/")) {
			if _, behind, found := strings.Cut(version, "npm:"); found { // of another name: npm:zod@^3
				version = behind[strings.LastIndexByte(behind, '@')+1:]
			}
			version = strings.TrimLeft(version, "^~>=v ")
			return version == major || strings.HasPrefix(version, major+".")
		}
	}
	return false
}
