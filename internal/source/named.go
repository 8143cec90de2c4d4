package source

import (
	"fmt"
	"path/filepath"
	"strings"

	"vetta/internal/model"
)

// ParseType reads a type as the source would write it, [Sailing] or Page<Port>,
// and finds the models that it names. Behind @ may stand the file or folder whose models are meant,
// where several have the name: Sailing@App/Models.
//
// A model that code makes may be given as that call: Port(map:). Where no name is
// that of a model the type comes with an *UnknownModelError: the library may know it.
func ParseType(set *model.Set, text string) (*model.Type, error) {
	text, in, _ := strings.Cut(text, "@")
	find := findIn(set, in)
	if open := strings.IndexByte(text, '('); open > 0 && strings.HasSuffix(text, ":)") {
		text = text[:open]
	}
	t := read(set, text, find)
	if t == nil {
		return nil, fmt.Errorf("%q is not a type", text)
	}
	var missing error
	named, within := false, in == ""
	t.Walk(func(t *model.Type) {
		if t.Kind == model.Named {
			if m := find(t.Name); m != nil {
				t.Model, t.Name = m, m.Name
			} else if t.Model == nil && missing == nil && len(t.Name) > 0 {
				missing = &UnknownModelError{Name: t.Name, In: in}
			}
		}
		named = named || t.Model != nil
		within = within || t.Model != nil && IsIn(t.Model, in)
	})
	if named && !within {
		return nil, &UnknownModelError{Name: text, In: in}
	}
	if !named && missing != nil {
		return t, missing // a type of the library alone, or a misspelt model
	}
	return t, nil
}

// read reads a type as one of the languages that the source is written in does: the first that finds a model
// in it is taken. It answers nil where none can read it.
func read(set *model.Set, text string, find func(string) *model.Model) (t *model.Type) {
	written := map[string]bool{}
	for _, m := range set.Models {
		written[m.Language] = true
	}
	if len(set.Models) == 0 { // calls tell, of types of the library alone, and code that is run
		for _, c := range set.Calls {
			written[c.Language] = c.Language != ""
		}
		for language := range set.Runs {
			written[language] = true
		}
		delete(written, "")
	}
	for _, l := range Languages {
		if len(written) > 0 && !written[l.Name] {
			continue
		}
		read := l.ParseType(text)
		if read == nil {
			continue
		}
		if t == nil {
			t = read
		}
		found := false
		read.Walk(func(r *model.Type) {
			if r.Kind == model.Named {
				m := find(r.Name)
				found = found || m != nil && m.Language == l.Name
			}
		})
		if found {
			return read
		}
	}
	return t
}

// findIn finds models by name: those of a file or folder before others, "" for any.
func findIn(set *model.Set, in string) func(name string) *model.Model {
	if in == "" {
		return set.Find
	}
	some := &model.Set{}
	for _, m := range set.Models {
		if IsIn(m, in) {
			some.Models = append(some.Models, m)
		}
	}
	return func(name string) *model.Model {
		if m := some.Find(name); m != nil || len(some.Models) == 0 {
			return m
		}
		return set.Find(name)
	}
}

// IsIn says whether a model is declared in a file or folder, which may be named by the end of its path.
func IsIn(m *model.Model, in string) bool {
	in = filepath.ToSlash(filepath.Clean(in))
	file := "/" + strings.TrimPrefix(filepath.ToSlash(m.Pos.File), "./")
	return in == "." || strings.HasSuffix(file, "/"+in) || strings.Contains(file, "/"+in+"/") || strings.HasPrefix(file[1:], strings.TrimSuffix(in, "/")+"/")
}

// UnknownModelError names a model that the source does not declare, or not in the file or folder In.
type UnknownModelError struct{ Name, In string }

func (e *UnknownModelError) Error() string {
	if e.In != "" {
		return "no model " + e.Name + " in " + e.In
	}
	return "no model " + e.Name + " in the source"
}
