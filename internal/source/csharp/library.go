package csharp

import (
	"path"
	"slices"
	"strings"

	"vetta/internal/model"
)

// tell says which library reads a model, as far as its source and that of its project tell.
func (p *project) tell(d *declared) {
	m := d.model
	if m.Library = libraryOfMarks(m); m.Library != "" {
		return
	}
	for _, c := range d.parts {
		if m.Library = p.libraryOf(c.File); m.Library != "" {
			return
		}
	}
	m.Library, m.Assumed = p.libraryAround(d.parts[0].File)
}

// libraryOfMarks is the library whose attributes a model has, of several the first; "" for none.
func libraryOfMarks(m *model.Model) string {
	of := func(marks model.Annotated) string {
		for i := range marks {
			if l := libraryIn(marks[i].Whole); l != "" {
				return l
			}
		}
		return ""
	}
	if l := of(m.Marks); l != "" {
		return l
	}
	for _, f := range m.Fields {
		if l := of(f.Marks); l != "" {
			return l
		}
	}
	for _, k := range m.Cases {
		if l := of(k.Marks); l != "" {
			return l
		}
	}
	return ""
}

// libraryIn is the library that a namespace, or a type by its full name, is of.
func libraryIn(space string) string {
	switch {
	case space == newtonsoft || strings.HasPrefix(space, newtonsoft+"."):
		return newtonsoftJSON
	case strings.HasPrefix(space, "System.Text.Json"), space == "System.Net.Http.Json":
		return systemTextJSON
	case strings.HasPrefix(space, xmlSpace+"."):
		return xmlSerializer
	}
	return ""
}

// libraryOf is the one library that the usings of a file name, "" where they name none or both.
func (p *project) libraryOf(file string) (library string) {
	for _, space := range p.usings[file] {
		switch l := libraryIn(space); {
		case l == "" || l == library:
		case library != "":
			return ""
		default:
			library = l
		}
	}
	return library
}

// libraryAround is the one library that the project of a file uses, and which of its files says so. That System.Text.Json
// comes with the platform says nothing.
func (p *project) libraryAround(file string) (library, why string) {
	dir := p.builds.folder(file)
	if known, ok := p.around[dir]; ok {
		return known[0], known[1]
	}
	defer func() { p.around[dir] = [2]string{library, why} }()
	b := p.builds[dir]
	if slices.ContainsFunc(b.packages, func(name string) bool { return strings.HasPrefix(name, newtonsoft) }) {
		if !slices.Contains(b.packages, "System.Text.Json") {
			return newtonsoftJSON, path.Join(dir, b.file) + " names it"
		}
	}
	for _, u := range p.files {
		if p.builds.folder(u.File) != dir {
			continue
		}
		switch l := p.libraryOf(u.File); {
		case l == "" || l == library:
		case library != "":
			return "", ""
		default:
			library, why = l, u.File+" has it among its usings"
		}
	}
	return library, why
}
