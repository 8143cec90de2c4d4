package csharp

import (
	"encoding/xml"
	"path"
	"slices"
	"strings"

	"vetta/internal/source/scan"
)

// build is what the files say by which a project is built: its .csproj, Directory.Build.props, packages.config.
type build struct {
	nullable bool     // annotations of null hold unless a file says otherwise
	usings   []string // the namespaces that all files see
	packages []string
	file     string // the name of the first that says it
	texts    []string
}

// implicit are the namespaces that all files see where implicit usings are enabled (.NET project SDKs, ImplicitUsings).
var implicit = []string{"System", "System.Collections.Generic", "System.IO", "System.Linq", "System.Net.Http", "System.Threading", "System.Threading.Tasks"}

// builds are those of the projects by their folders; "" stands for files that no project is around.
type builds map[string]build

// builtBy reads the files that say how projects are built: those of a folder hold for what is in it, and for the
// projects in it. Without any, annotations of null hold, as they do in what the tools of the platform make.
func builtBy(files []scan.Source) builds {
	all := builds{}
	props := map[string][]string{}
	for _, f := range files {
		name, dir := path.Base(f.Name), path.Dir(f.Name)
		switch {
		case strings.HasSuffix(name, ".props"):
			props[dir] = append(props[dir], f.Text)
		case strings.HasSuffix(name, ".csproj"), name == "packages.config":
			b := all[dir]
			b.texts = append(b.texts, f.Text)
			if b.file == "" {
				b.file = name
			}
			all[dir] = b
		}
	}
	for dir, b := range all {
		for of, texts := range props {
			if inFolder(dir, of) {
				b.texts = append(slices.Clip(texts), b.texts...)
			}
		}
		for _, text := range b.texts {
			b.read(text)
		}
		all[dir] = b
	}
	all[""] = build{nullable: true, usings: implicit}
	return all
}

// inFolder says whether a folder is another or in it.
func inFolder(dir, of string) bool { return of == "." || dir == of || strings.HasPrefix(dir, of+"/") }

// folder is that of the project that a file is part of.
func (all builds) folder(file string) string {
	best := ""
	for dir := range all {
		if dir != "" && inFolder(path.Dir(file), dir) && len(dir) > len(best) {
			best = dir
		}
	}
	return best
}

// read takes in what a file says.
func (b *build) read(text string) {
	d := xml.NewDecoder(strings.NewReader(text))
	d.Strict = false
	element := ""
	for {
		t, err := d.Token()
		if err != nil {
			return
		}
		switch t := t.(type) {
		case xml.StartElement:
			element = t.Name.Local
			attr := func(name string) string {
				for _, a := range t.Attr {
					if strings.EqualFold(a.Name.Local, name) {
						return a.Value
					}
				}
				return ""
			}
			switch element {
			case "PackageReference", "package", "Reference":
				if name := attr("Include") + attr("id"); name != "" {
					name, _, _ = strings.Cut(name, ",")
					b.packages = append(b.packages, name)
				}
			case "Using":
				if name := attr("Include"); name != "" && attr("Static") == "" && attr("Alias") == "" {
					b.usings = append(b.usings, name)
				}
			}
		case xml.EndElement:
			element = ""
		case xml.CharData:
			text := strings.ToLower(strings.TrimSpace(string(t)))
			switch element {
			case "Nullable":
				b.nullable = text == "enable" || text == "annotations"
			case "ImplicitUsings":
				if text == "enable" || text == "true" {
					b.usings = append(b.usings, implicit...)
				}
			}
		}
	}
}
