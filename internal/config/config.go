// Package config reads vetta.toml: what a project says once, so that nobody need say it on each command line.
package config

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/BurntSushi/toml"
	"github.com/bmatcuk/doublestar/v4"

	"vetta/internal/model"
)

// Name is the name of the file.
const Name = "vetta.toml"

// File is what a vetta.toml says. The paths and patterns in it are relative to its folder.
type File struct {
	Path     string // of the file, from the working folder where it lies in there
	Models   Listed
	Captures Listed
	PassOver Listed // patterns (doublestar) of files that are passed over
	Skip     Listed // as -skip has it
	Secrets  Listed // keys whose values are masked, with * for any text
	FailOn   Word
	Pairs    []Pair
	Decoders []Decoder
	text     string
}

// Word is a value with where it stands; Pos is zero where the file does not have it.
type Word struct {
	Value string
	Pos   model.Pos
}

// Listed is a list of values with where it stands.
type Listed struct {
	Values []string
	Pos    model.Pos
}

// Pair is a type with responses, or with what is sent, as -pair has it.
type Pair struct {
	Type, Captures, Place string
	Pos                   model.Pos
}

// String is the pair as -pair takes it.
func (p Pair) String() string {
	text := p.Type + "=" + p.Captures
	if p.Place != "" {
		text += "#" + p.Place
	}
	return text
}

// Decoder says which library decodes the classes under a path, and how it is set.
type Decoder struct {
	Path     string // a file, a folder or a pattern
	Library  string // "" for the one that the source names
	Settings map[string]string
	Assumed  map[string]string // that hold where nothing else is said of the decoder
	Pos      model.Pos
}

// Error is what is wrong with a file, and where.
type Error struct {
	Pos    model.Pos
	Reason string
}

func (e *Error) Error() string { return e.Pos.String() + ": " + e.Reason }

// Find answers the path of the vetta.toml of a folder or of the nearest folder around it, "" where there is
// none.
func Find(dir string) string { return findAround(dir, Name) }

// findAround is the path of the file of a name in a folder or the nearest one around it, "" where there is none.
func findAround(dir, file string) string {
	dir, err := filepath.Abs(dir)
	if err != nil {
		return ""
	}
	for {
		name := filepath.Join(dir, file)
		if info, err := os.Stat(name); err == nil && info.Mode().IsRegular() {
			return name
		}
		up := filepath.Dir(dir)
		if up == dir {
			return ""
		}
		dir = up
	}
}

// Words are what values may be that the rest of the program knows of.
type Words struct {
	Levels    []string                              // of fail-on
	Libraries []string                              // by name
	Settings  func(library string) (names []string) // that may be set of one; a name in capitals ends with *
	// Assumed are settings that hold where some that are said leave them open; nil for none.
	Assumed func(library string, said map[string]string) map[string]string
}

// Read reads a file, whose mistakes it answers all of: each is an *Error. What is right of it is answered
// all the same.
func Read(path string, words Words) (*File, []error) {
	data, err := os.ReadFile(path)
	if err != nil {
		var pathErr *os.PathError
		if errors.As(err, &pathErr) {
			err = pathErr.Err
		}
		return &File{Path: path}, []error{fmt.Errorf("%s: %w", path, err)}
	}
	return Parse(path, string(data), words)
}

// Parse is Read of a text.
func Parse(path, text string, words Words) (*File, []error) {
	r := &reader{file: &File{Path: path, text: text}, words: words, places: placesOf(path, text)}
	all, wrong := decode(path, text)
	if wrong != nil {
		return r.file, []error{wrong}
	}
	r.root(all)
	return r.file, r.sorted()
}

// decode reads TOML.
func decode(path, text string) (all map[string]any, wrong error) {
	_, err := toml.Decode(text, &all)
	var parse toml.ParseError
	switch {
	case err == nil:
		return all, nil
	case !errors.As(err, &parse):
		return nil, &Error{model.Pos{File: path, Line: 1, Col: 1}, err.Error()}
	}
	return nil, &Error{model.Pos{File: path, Line: int32(max(1, parse.Position.Line)), Col: int32(max(1, parse.Position.Col))}, parse.Message}
}

// sorted are the mistakes by where they stand.
func (r *reader) sorted() []error {
	slices.SortStableFunc(r.errs, func(a, b error) int {
		x, y := a.(*Error).Pos, b.(*Error).Pos
		return int(x.Line-y.Line)*1000 + int(x.Col-y.Col)
	})
	return r.errs
}

// Dir is the folder of the file.
func (f *File) Dir() string { return filepath.Dir(f.Path) }

// Paths are paths of the file from the working folder.
func (f *File) Paths(l Listed) (paths []string) {
	for _, p := range l.Values {
		if !filepath.IsAbs(p) && p != "-" {
			p = filepath.Join(f.Dir(), p)
		}
		paths = append(paths, p)
	}
	return paths
}

// From is the name of captures, a path from the working folder or an endpoint, as the file has it.
func (f *File) From(captures string) string {
	if strings.Contains(captures, " /") { // GET /v2/ports
		return captures
	}
	return f.within(captures)
}

// within is a path from the folder of the file, with slashes.
func (f *File) within(path string) string {
	dir, err := filepath.Abs(f.Dir())
	if err != nil {
		return filepath.ToSlash(path)
	}
	abs, err := filepath.Abs(path)
	if err != nil {
		return filepath.ToSlash(path)
	}
	rel, err := filepath.Rel(dir, abs)
	if err != nil {
		return filepath.ToSlash(path)
	}
	return filepath.ToSlash(rel)
}

// PassesOver says whether a file is passed over, by its path from the working folder.
func (f *File) PassesOver(path string) bool {
	if f == nil || len(f.PassOver.Values) == 0 {
		return false
	}
	path = f.within(path)
	return slices.ContainsFunc(f.PassOver.Values, func(pattern string) bool { return covers(pattern, path) })
}

// covers says whether a path is one of a pattern, or lies in a folder that is.
func covers(pattern, path string) bool {
	pattern = strings.TrimSuffix(strings.TrimPrefix(pattern, "./"), "/")
	for ; path != "." && path != ""; path = parent(path) {
		if ok, _ := doublestar.Match(pattern, path); ok || pattern == path {
			return true
		}
	}
	return pattern == "."
}

func parent(path string) string {
	i := strings.LastIndexByte(path, '/')
	if i < 0 {
		return ""
	}
	return path[:i]
}

// Decide tells the classes and calls of a set what the file says of their decoders: of two that cover a
// file the later one does. It answers those that cover no file.
func (f *File) Decide(set *model.Set) (unused []Decoder) {
	if f == nil {
		return nil
	}
	for _, d := range f.Decoders {
		used := false
		settings := d.settings()
		for _, m := range set.Models {
			if covers(d.Path, f.within(m.Pos.File)) {
				used, m.Decoder = true, settings
			}
		}
		for _, c := range set.Calls {
			if covers(d.Path, f.within(c.Pos.File)) {
				used = true
				c.Settings = settings.Over(c.Settings)
			}
		}
		if !used {
			unused = append(unused, d)
		}
	}
	return unused
}

// settings are those that the decoder has.
func (d *Decoder) settings() *model.Settings {
	s := &model.Settings{Library: d.Library, Pos: d.Pos, Options: map[string]model.Option{}}
	for name, value := range d.Settings {
		s.Options[name] = model.Option{Value: value, Pos: d.Pos}
	}
	for name, value := range d.Assumed {
		if s.Assumed == nil {
			s.Assumed = map[string]model.Option{}
		}
		s.Assumed[name] = model.Option{Value: value, Pos: d.Pos}
	}
	return s
}
