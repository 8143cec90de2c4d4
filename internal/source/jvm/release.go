package jvm

import (
	"path/filepath"
	"regexp"
	"strings"

	"github.com/BurntSushi/toml"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// Release is the version of a library that the build files of a module say, "" where they say none or several. artifacts
// are the names of what it is shipped in, the one that decides first; a list of versions, as a BOM is, counts as one.
// Read are Gradle's scripts and catalogs of versions, and Maven's pom.xml; names that stand for a version are looked up
// in the file itself.
func (p *Project) Release(module string, artifacts ...string) (release model.Option) {
	for _, own := range []bool{true, false} {
		for _, artifact := range artifacts {
			for _, b := range p.Builds {
				if own != (b.Module == module) {
					continue
				}
				text, at := versionOf(b, artifact)
				switch {
				case text == "" || text == release.Value:
				case release.Value != "":
					return model.Option{}
				default:
					line, col := strings.Count(b.Text[:at], "\n")+1, at-strings.LastIndexByte(b.Text[:at], '\n')
					release = model.Option{Value: text, Pos: model.Pos{File: b.Name, Line: int32(line), Col: int32(col)}}
				}
			}
			if release.Value != "" {
				return release
			}
		}
	}
	return release
}

// versionOf is the version that a build file gives an artifact, and the byte at which it names that.
func versionOf(b scan.Source, artifact string) (version string, at int) {
	switch filepath.Ext(b.Name) {
	case ".xml":
		return versionInMaven(b.Text, artifact)
	case ".toml":
		return versionInCatalog(b.Text, artifact)
	}
	return versionInGradle(b.Text, artifact)
}

// plainVersion is a version that is written out.
var plainVersion = regexp.MustCompile(`^\d+(\.[\w-]+)+$`)

// versionInGradle finds "group:artifact:2.14.0" and the name of a variable of the script in its place.
func versionInGradle(text, artifact string) (string, int) {
	m := regexp.MustCompile(`:` + regexp.QuoteMeta(artifact) + `:(?:\$\{?([\w.]+)\}?|([\w.-]+))["'@]`).FindStringSubmatchIndex(text)
	switch {
	case m == nil:
		return "", 0
	case m[2] < 0:
		return checkedVersion(text[m[4]:m[5]]), m[4]
	}
	name := text[m[2]:m[3]]
	name = name[strings.LastIndexByte(name, '.')+1:]
	of := regexp.MustCompile(`(?m)\b` + regexp.QuoteMeta(name) + `["']?\]?\s*(?::\s*String\s*)?[=:]\s*["'](\d[\w.-]*)["']`).FindStringSubmatchIndex(text)
	if of == nil {
		return "", 0
	}
	return checkedVersion(text[of[2]:of[3]]), of[2]
}

// versionInMaven finds the <version> behind an <artifactId>, and the property in its place.
func versionInMaven(text, artifact string) (string, int) {
	m := regexp.MustCompile(`<artifactId>\s*` + regexp.QuoteMeta(artifact) + `\s*</artifactId>\s*<version>\s*(?:\$\{([\w.-]+)\}|([\w.-]+))\s*</version>`).FindStringSubmatchIndex(text)
	switch {
	case m == nil:
		return "", 0
	case m[2] < 0:
		return checkedVersion(text[m[4]:m[5]]), m[4]
	}
	of := regexp.MustCompile(`<` + regexp.QuoteMeta(text[m[2]:m[3]]) + `>\s*([\w.-]+)\s*</`).FindStringSubmatchIndex(text)
	if of == nil {
		return "", 0
	}
	return checkedVersion(text[of[2]:of[3]]), of[2]
}

// versionInCatalog finds the version of a library in a catalog of Gradle, which says it itself or by reference.
func versionInCatalog(text, artifact string) (string, int) {
	var catalog struct {
		Versions  map[string]any
		Libraries map[string]any
	}
	if _, err := toml.Decode(text, &catalog); err != nil {
		return "", 0
	}
	for _, library := range catalog.Libraries {
		version := ""
		switch l := library.(type) {
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
		if version = checkedVersion(version); version != "" {
			return version, max(0, strings.Index(text, artifact))
		}
	}
	return "", 0
}

// checkedVersion is a version, "" for a text that is none, as a range is.
func checkedVersion(text string) string {
	if !plainVersion.MatchString(text) {
		return ""
	}
	return text
}
