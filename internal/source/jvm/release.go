package jvm

import (
	"maps"
	"path/filepath"
	"regexp"
	"slices"
	"strings"

	"github.com/BurntSushi/toml"

	"vetta/internal/markup"
	"vetta/internal/model"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// Release is the version of a library that the build files of a module say, "" where they say none or several. artifacts
// are the names of what it is shipped in, the one that decides first; a list of versions, as a BOM is, counts as one.
// Read are Gradle's scripts and catalogs of versions, and Maven's pom.xml; names that stand for a version are looked up
// in the file itself.
func (p *Project) Release(module string, artifacts ...string) model.Option {
	own, others := []scan.Source{}, []scan.Source{}
	for _, b := range p.Builds {
		if b.Module == module {
			own = append(own, b)
		} else {
			others = append(others, b)
		}
	}
	for _, builds := range [][]scan.Source{own, others} {
		for _, artifact := range artifacts {
			if release, said := releaseIn(builds, artifact); said {
				return release
			}
		}
	}
	return model.Option{}
}

// BuiltWith says whether the build files of a module, or of the project where it has none, name an artifact.
func (p *Project) BuiltWith(module, artifact string) bool {
	own := false
	for _, b := range p.Builds {
		if b.Module == module && strings.Contains(b.Text, artifact) {
			return true
		}
		own = own || b.Module == module
	}
	return !own && slices.ContainsFunc(p.Builds, func(b scan.Source) bool { return strings.Contains(b.Text, artifact) })
}

// releaseIn is the version that build files give an artifact, empty where they give several; said is false where none does.
func releaseIn(builds []scan.Source, artifact string) (release model.Option, said bool) {
	for _, b := range builds {
		text, at := versionOf(b, artifact)
		switch {
		case !plainVersion.MatchString(text) || text == release.Value: // none, or a range
			continue
		case said:
			return model.Option{}, true
		}
		line, col := wire.LineColumn([]byte(b.Text), at)
		release, said = model.Option{Value: text, Pos: model.Pos{File: b.Name, Line: int32(line), Col: int32(col)}}, true
	}
	return release, said
}

// plainVersion is a version that is written out.
var plainVersion = regexp.MustCompile(`^\d+(\.[\w-]+)+$`)

// versionOf is what a build file says of the version of an artifact, and the byte at which it says it.
func versionOf(b scan.Source, artifact string) (version string, at int) {
	switch {
	case !strings.Contains(b.Text, artifact):
		return "", 0
	case filepath.Ext(b.Name) == ".xml":
		return versionInMaven(b.Text, artifact)
	case filepath.Ext(b.Name) == ".toml":
		return versionInCatalog(b.Text, artifact)
	}
	return versionInGradle(b.Text, artifact)
}

// script is how Gradle's scripts are cut into tokens, in Groovy and in Kotlin: of strings, what stands between the quotes.
var script = &scan.Dialect{EndsLines: true, Quotes: `"'`, StringAt: func(s *scan.Scanner) (scan.Token, bool) {
	if t, ok := s.Simple(0); ok {
		return t, true
	}
	text, _, closed := strings.Cut(s.Src[s.Pos+1:], s.Src[s.Pos:s.Pos+1])
	if s.Pos += 1 + len(text); closed {
		s.Pos++
	}
	return scan.Token{Text: text}, true
}}

// versionInGradle finds "group:artifact:2.14.0", the artifact with its version apart behind it, and the name of a variable
// of the script in place of a version.
func versionInGradle(text, artifact string) (version string, at int) {
	f := scan.Scan("", text, script)
	for i := range f.Len() {
		t := f.TokenAt(i)
		if t.Kind != scan.String {
			continue
		}
		_, version, ok := strings.Cut(t.Text, ":"+artifact+":")
		if at = int(t.Start) + 1 + len(t.Text) - len(version); t.Text == artifact { // name: 'artifact', version: '2.14.0'
			next := skip(f, i+1, ",", "version", "=", ":")
			version, at, ok = f.TokenAt(next).Text, int(f.TokenAt(next).Start)+1, next > i+1 && f.KindAt(next) == scan.String
		}
		if !ok {
			continue
		}
		version, _, _ = strings.Cut(version, "@")
		if name, isName := strings.CutPrefix(version, "$"); isName {
			name = strings.Trim(name, "{}")
			return assignedIn(f, name[strings.LastIndexByte(name, '.')+1:])
		}
		return version, at
	}
	return "", 0
}

// skip is the index of the first token from one on that is none of some words and characters.
func skip(f *scan.File, i int, what ...string) int {
	for slices.ContainsFunc(what, func(text string) bool { return f.Is(i, text) }) {
		i++
	}
	return i
}

// assignedIn is the text that a variable, a property or an entry of a name is given in a script.
func assignedIn(f *scan.File, name string) (text string, at int) {
	for i := range f.Len() {
		if t := f.TokenAt(i); t.Text != name || t.Kind != scan.Ident && t.Kind != scan.String {
			continue
		}
		next := skip(f, i+1, "]", ":", "String", "=")
		if t := f.TokenAt(next); next > i+1 && t.Kind == scan.String {
			return t.Text, int(t.Start) + 1
		}
	}
	return "", 0
}

// versionInMaven finds the version beside an artifactId, and the property in its place.
func versionInMaven(text, artifact string) (version string, at int) {
	doc, err := markup.Parse([]byte(text))
	if err != nil {
		return "", 0
	}
	said, property := of(doc.Root, func(e *markup.Element) *markup.Element {
		if id := child(e, "artifactId"); id != nil && strings.TrimSpace(id.OwnText()) == artifact {
			return child(e, "version")
		}
		return nil
	}), ""
	if said != nil {
		property, _ = strings.CutPrefix(strings.TrimSpace(said.OwnText()), "${")
	}
	if name, ok := strings.CutSuffix(property, "}"); ok {
		said = of(doc.Root, func(e *markup.Element) *markup.Element {
			if e.Name.Local == "properties" {
				return child(e, name)
			}
			return nil
		})
	}
	if said == nil {
		return "", 0
	}
	own := said.OwnText()
	return strings.TrimSpace(own), said.Open + len(own) - len(strings.TrimLeft(own, " \t\r\n"))
}

// of is what find answers first of an element and those in it.
func of(e *markup.Element, find func(*markup.Element) *markup.Element) *markup.Element {
	if found := find(e); found != nil {
		return found
	}
	for _, inner := range e.Elements() {
		if found := of(inner, find); found != nil {
			return found
		}
	}
	return nil
}

// child is the first element of a name that stands in another, nil for none.
func child(e *markup.Element, name string) *markup.Element {
	for _, inner := range e.Elements() {
		if inner.Name.Local == name {
			return inner
		}
	}
	return nil
}

// versionInCatalog finds the version of a library in a catalog of Gradle, which says it itself or by reference.
func versionInCatalog(text, artifact string) (version string, at int) {
	var catalog struct {
		Versions  map[string]any
		Libraries map[string]any
	}
	if _, err := toml.Decode(text, &catalog); err != nil {
		return "", 0
	}
	for _, alias := range slices.Sorted(maps.Keys(catalog.Libraries)) {
		switch l := catalog.Libraries[alias].(type) {
		case string:
			if parts := strings.Split(l, ":"); len(parts) == 3 && parts[1] == artifact {
				version = parts[2]
			}
		case map[string]any:
			module, _ := l["module"].(string)
			if name, _ := l["name"].(string); name != artifact && !strings.HasSuffix(module, ":"+artifact) {
				continue
			}
			switch v := l["version"].(type) {
			case string:
				version = v
			case map[string]any:
				name, _ := v["ref"].(string)
				version, _ = catalog.Versions[name].(string)
			}
		}
		if version != "" {
			return version, strings.Index(text, artifact)
		}
	}
	return "", 0
}
