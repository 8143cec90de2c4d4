// Package input finds, among the files and folders that a command is given, the
// model source and the captures.
package input

import (
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"sort"
	"strings"

	"vetta/internal/capture"
	"vetta/internal/source"
	"vetta/internal/source/scan"
)

// Files is what was found.
type Files struct {
	Sources  []scan.Source   // by name
	Captures []*capture.File // by name
	AsGiven  []*capture.File // the same, in the order of the paths, by name within a folder
	Shapes   []string        // saved shapes, by name
	Problems []Problem
}

// Problem is a path that could not be used.
type Problem struct {
	Path   string `json:"path"`
	Reason string `json:"reason"`
}

// What says which files of a path are wanted.
type What uint8

// The kinds of file.
const (
	Both What = iota
	Models
	Captures
)

// ShapeExtension is the ending of saved shapes.
const ShapeExtension = ".shape"

// Path is a file or folder with what is wanted of it.
type Path struct {
	Name string
	What What
}

// passedOver are folders that hold what was built or fetched, not written.
var passedOver = map[string]bool{
	"node_modules": true, "Pods": true, "Carthage": true, "DerivedData": true, "build": true, "Build": true,
	"out": true, "dist": true, "target": true, "bin": true, "obj": true, "vendor": true, "checkouts": true,
}

// passedEndings are folders of project settings and resources, whose JSON is no
// response.
var passedEndings = []string{".xcassets", ".xcodeproj", ".xcworkspace", ".playground", ".framework", ".xcframework", ".bundle", ".lproj", ".app"}

// Find walks the paths. A folder that is named itself is always walked; below it,
// hidden folders and those of build output and dependencies are passed over. What
// cannot be read is among the problems.
func Find(paths []Path) *Files {
	f := &finder{seen: map[string]bool{}, files: &Files{}}
	for _, p := range paths {
		before := len(f.captures)
		f.path(p)
		sort.Strings(f.captures[before:])
	}
	asGiven := f.captures
	f.captures = slices.Sorted(slices.Values(asGiven))
	slices.SortFunc(f.sources, func(a, b found) int { return strings.Compare(a.name, b.name) })
	sort.Strings(f.shapes)
	f.files.Shapes = f.shapes
	var r reader
	for _, s := range f.sources {
		text, err := r.read(s)
		if err != nil {
			f.problem(s.name, err)
			continue
		}
		f.files.Sources = append(f.files.Sources, scan.Source{Name: s.name, Text: text})
	}
	for i, name := range f.captures {
		f.files.Captures = append(f.files.Captures, &capture.File{Path: name, Order: i})
	}
	for _, name := range asGiven {
		i, _ := slices.BinarySearch(f.captures, name)
		f.files.AsGiven = append(f.files.AsGiven, f.files.Captures[i])
	}
	return f.files
}

type finder struct {
	files    *Files
	sources  []found
	captures []string
	shapes   []string
	seen     map[string]bool // real paths, so that links lead nowhere twice
}

// found is a file of source; regular says that it is known to be no pipe nor anything else
// that could make the reader wait.
type found struct {
	name    string
	regular bool
}

var errNoFile = errors.New("it is no file but a pipe, a socket or a device; name it itself to have it read")

func (f *finder) problem(path string, err error) {
	var pathErr *fs.PathError
	if errors.As(err, &pathErr) {
		err = pathErr.Err
	}
	reason := err.Error()
	if errors.Is(err, fs.ErrNotExist) {
		reason = "there is no such file or folder"
		if _, lerr := os.Lstat(path); lerr == nil {
			reason = "it is a link to nothing"
		}
	}
	f.files.Problems = append(f.files.Problems, Problem{Path: path, Reason: reason})
}

func (f *finder) path(p Path) {
	name := filepath.Clean(p.Name)
	info, err := os.Stat(name)
	if err != nil {
		f.problem(name, err)
		return
	}
	if info.IsDir() {
		f.folder(name, realPath(name), p.What)
		return
	}
	if !f.file(found{name: name}, realPath(name), p.What, true) {
		f.files.Problems = append(f.files.Problems, Problem{Path: name, Reason: "it is no model source (" + extensions() + "), no capture (" + strings.Join(capture.Extensions, ", ") + ") and no saved shape (" + ShapeExtension + ")"})
	}
}

func extensions() string {
	var all []string
	for _, l := range source.Languages {
		all = append(all, l.Extensions...)
	}
	return strings.Join(all, ", ")
}

// file takes a file if it is of a wanted kind. named says that the user has named
// it, so that with -captures any extension will do.
func (f *finder) file(file found, real string, what What, named bool) bool {
	name := file.name
	isSource := source.LanguageOf(name) != nil
	isCapture := capture.IsCapture(name) || what == Captures && named
	if filepath.Ext(name) == ShapeExtension && what != Models {
		if f.first(real) {
			f.shapes = append(f.shapes, name)
		}
		return true
	}
	if isSource && what != Captures && f.first(real) {
		f.sources = append(f.sources, file)
	}
	if isCapture && what != Models && f.first(real) {
		f.captures = append(f.captures, name)
	}
	return isSource || isCapture
}

// first says whether a file is met for the first time, whatever its name. Only a
// link, or a path that the user has named, may lead where another one has led.
func (f *finder) first(real string) bool {
	if f.seen[real] {
		return false
	}
	f.seen[real] = true
	return true
}

// realPath is the path of a file without links, absolute.
func realPath(name string) string {
	real, err := filepath.EvalSymlinks(name)
	if err != nil {
		return name
	}
	if abs, err := filepath.Abs(real); err == nil {
		return abs
	}
	return real
}

func (f *finder) folder(name, real string, what What) {
	if !f.first(real) {
		return
	}
	entries, err := os.ReadDir(name)
	if err != nil {
		f.problem(name, err)
		return
	}
	for _, e := range entries {
		path := filepath.Join(name, e.Name())
		inner := real + string(filepath.Separator) + e.Name()
		kind := e.Type()
		wanted := source.LanguageOf(path) != nil || capture.IsCapture(path)
		if kind&fs.ModeSymlink != 0 {
			info, err := os.Stat(path)
			if err != nil {
				if wanted {
					f.problem(path, err)
				}
				continue
			}
			kind, inner = info.Mode().Type(), realPath(path)
		}
		switch {
		case kind.IsDir():
			if !skipFolder(e.Name()) {
				f.folder(path, inner, what)
			}
		case strings.HasPrefix(e.Name(), "."):
		case kind.IsRegular():
			f.file(found{path, true}, inner, what, false)
		case wanted: // reading it could wait forever
			f.problem(path, errNoFile)
		}
	}
}

func skipFolder(name string) bool {
	if strings.HasPrefix(name, ".") || passedOver[name] {
		return true
	}
	for _, e := range passedEndings {
		if strings.HasSuffix(name, e) {
			return true
		}
	}
	return false
}
