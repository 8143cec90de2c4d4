package jvm

import (
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// Library is a decoding library as source shows that it is used.
type Library struct {
	name    string
	Imports string          // what its packages begin with
	marks   map[string]bool // its annotations
	builds  []string        // what a build file says of it
}

// Libraries are those that source is searched for. Annotations that begin with Json are Jackson's
// unless they are another's.
var Libraries = []Library{
	{name: "gson", Imports: "com.google.gson",
		marks: Words("SerializedName Expose JsonAdapter Since Until"), builds: []string{"com.google.code.gson", "converter-gson", "serialization-gson"}},
	{name: "jackson", Imports: "com.fasterxml.jackson", builds: []string{"com.fasterxml.jackson", "converter-jackson", "serialization-jackson"}},
	{name: "moshi", Imports: "com.squareup.moshi",
		marks: Words("Json JsonClass JsonQualifier"), builds: []string{"com.squareup.moshi", "converter-moshi"}},
	{name: "kotlinx.serialization", Imports: "kotlinx.serialization",
		marks: Words("Serializable SerialName JsonNames JsonClassDiscriminator JsonIgnoreUnknownKeys"), builds: []string{"kotlinx-serialization-json", "plugin.serialization"}},
}

// LibraryOfMark is the library that an annotation is of, nil for none.
func LibraryOfMark(name string) *Library {
	for i := range Libraries {
		if Libraries[i].marks[name] {
			return &Libraries[i]
		}
	}
	if strings.HasPrefix(name, "Json") {
		return &Libraries[1]
	}
	return nil
}

// AnnotatedFor is the library whose annotations a class has, of several the first; "" for none.
func AnnotatedFor(c *Class) (name string) {
	c.EachMarks(func(marks model.Annotated) {
		for _, a := range marks {
			if l := LibraryOfMark(a.Name); l != nil && name == "" {
				name = l.name
			}
		}
	})
	return name
}

// EachMarks calls visit for the annotations of a class and of all its members and their parameters.
func (c *Class) EachMarks(visit func(model.Annotated)) {
	visit(c.Marks)
	for _, f := range c.Fields {
		visit(f.Marks)
	}
	for _, k := range c.Cases {
		visit(k.Marks)
	}
	for _, all := range [][]*model.Method{c.Methods, c.Ctors} {
		for _, f := range all {
			visit(f.Marks)
			for _, a := range f.Params {
				visit(a.Marks)
			}
		}
	}
}

// ImportedLibrary is the one library that the imports of a file name, "" where they name none
// or several.
func (f *File) ImportedLibrary() string {
	if f.library == nil {
		name := ""
		for i := range Libraries {
			if !f.ImportsFrom(Libraries[i].Imports) {
				continue
			}
			if name != "" {
				name = ""
				break
			}
			name = Libraries[i].name
		}
		f.library = &name
	}
	return *f.library
}

// imports says whether a file imports anything of a package or of one inside it.
func (f *File) ImportsFrom(prefix string) bool {
	for _, i := range f.Imports {
		if strings.HasPrefix(i.Path, prefix) {
			return true
		}
	}
	return false
}

// Built is the one library that a module uses, and which of its files says so, as far as its source and
// build files tell; "" where that is none or several.
func (p *Project) Built(module string) (name, why string) {
	if known, ok := p.built[module]; ok {
		return known[0], known[1]
	}
	if p.built == nil {
		p.built = map[string][2]string{}
	}
	defer func() { p.built[module] = [2]string{name, why} }()
	uses := p.uses(func(of string) bool { return of == module })
	if len(uses) == 0 {
		uses = p.uses(func(string) bool { return true })
	}
	if len(uses) != 1 {
		return "", ""
	}
	for _, b := range p.Builds {
		if slices.ContainsFunc(uses[0].builds, func(of string) bool { return strings.Contains(b.Text, of) }) {
			return uses[0].name, b.Name + " names it"
		}
	}
	for _, f := range p.Files {
		if f.ImportsFrom(uses[0].Imports) {
			return uses[0].name, f.Name + " imports it"
		}
	}
	return uses[0].name, ""
}

// uses are the libraries that some modules use.
func (p *Project) uses(in func(module string) bool) (used []*Library) {
	for i := range Libraries {
		l := &Libraries[i]
		if slices.ContainsFunc(p.Files, func(f *File) bool { return in(f.Module) && f.ImportsFrom(l.Imports) }) ||
			slices.ContainsFunc(p.Builds, func(b scan.Source) bool {
				return in(b.Module) && slices.ContainsFunc(l.builds, func(of string) bool { return strings.Contains(b.Text, of) })
			}) {
			used = append(used, l)
		}
	}
	return used
}

// Words are the words of a list, which spaces part.
func Words(list string) map[string]bool {
	out := map[string]bool{}
	for _, word := range strings.Fields(list) {
		out[word] = true
	}
	return out
}
