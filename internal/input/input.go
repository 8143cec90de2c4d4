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
	"vetta/internal/traffic"
)

// Files is what was found.
type Files struct {
	Sources  []scan.Source   // by name
	Captures []*capture.File // by name, numbers in it by value
	AsGiven  []*capture.File // the same, in the order of the paths, by name within a folder
	Shapes   []string        // saved shapes, by name
	Problems []Problem
	Builds   []scan.Source // files that say how a folder is built
	// Tests are files of unit and UI tests, and Shipped are files of an app's own that look like
	// captures: both lie in folders with source, and were passed over since nobody named them.
	Tests, Shipped []string
	// Without are files and folders that the project says are passed over.
	Without []string
}

// Unusable says whether a path that was named led to nothing.
func (f *Files) Unusable() bool {
	return slices.ContainsFunc(f.Problems, func(p Problem) bool { return p.Named })
}

// Problem is a path that could not be used.
type Problem struct {
	Path   string `json:"path"`
	Reason string `json:"reason"`
	Named  bool   `json:"-"` // the path is one that was named, and led to nothing
}

// NoSuch is the reason of a path that does not exist.
const NoSuch = "there is no such file or folder"

// What says which files of a path are wanted.
type What uint8

// Stdin is the path that stands for standard input.
const Stdin = "-"

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
// cannot be read is among the problems. without says which files and folders are passed over besides, unless
// they are named themselves; nil for none.
func Find(paths []Path, without func(path string) bool) *Files { return FindAgain(paths, without, nil) }

// FindAgain is Find that reads source again only where it has changed since it was kept.
func FindAgain(paths []Path, without func(path string) bool, kept *Texts) *Files {
	f := &finder{seen: map[string]bool{}, walked: map[string]wanted{}, files: &Files{}, without: without}
	// A path of one kind alone says more of what is in it than one around it.
	for _, sure := range []bool{true, false} {
		for i, p := range paths {
			if (p.What != Both) == sure {
				f.at = i
				f.path(p)
			}
		}
	}
	slices.SortStableFunc(f.trees, func(a, b *tree) int { return a.at - b.at })
	asGiven := f.chosen()
	byName := slices.SortedStableFunc(slices.Values(asGiven), func(a, b *capture.File) int { return traffic.Compare(a.Path, b.Path) })
	slices.SortFunc(f.sources, func(a, b found) int { return strings.Compare(a.name, b.name) })
	sort.Strings(f.shapes)
	f.files.Shapes = f.shapes
	texts, errs := readAll(f.sources, kept)
	for i, s := range f.sources {
		switch text := texts[i]; {
		case errs[i] != nil:
			f.problem(s.name, errs[i], s.named)
		case !s.named && isTest(s.name, text):
			f.files.Tests = append(f.files.Tests, s.name)
		default:
			f.files.Sources = append(f.files.Sources, scan.Source{Name: s.name, Text: text, Module: s.module})
		}
	}
	slices.SortFunc(f.files.Tests, traffic.Compare)
	for i, c := range byName {
		c.Order = i
	}
	f.files.Captures, f.files.AsGiven = byName, asGiven
	return f.files
}

type finder struct {
	files   *Files
	without func(path string) bool
	sources []found
	trees   []*tree
	shapes  []string
	seen    map[string]bool // real paths of files, so that links lead nowhere twice
	walked  map[string]wanted
	at      int                       // of the path that is walked
	tell    map[string]capture.Beside // by folder, of files that were named themselves
}

// found is a file; regular says that it is known to be no pipe nor anything else that could make
// the reader wait, named that the user has named the file itself.
type found struct {
	name    string
	module  string
	regular bool
	named   bool
	beside  []string // files that tell how the body in this one was sent
}

var errNoFile = errors.New("it is no file but a pipe, a socket or a device; name it itself to have it read")

func (f *finder) problem(path string, err error, named bool) {
	var pathErr *fs.PathError
	if errors.As(err, &pathErr) {
		err = pathErr.Err
	}
	reason := err.Error()
	if errors.Is(err, fs.ErrNotExist) {
		reason = NoSuch
		if _, lerr := os.Lstat(path); lerr == nil {
			reason = "it is a link to nothing"
		}
	}
	f.files.Problems = append(f.files.Problems, Problem{Path: path, Reason: reason, Named: named})
}

func (f *finder) path(p Path) {
	if p.Name == Stdin && p.What != Models {
		if f.first(Stdin) {
			f.trees = append(f.trees, &tree{at: f.at, what: Captures, captures: []captured{{name: capture.Stdin, named: true}}})
		}
		return
	}
	name := relative(filepath.Clean(p.Name))
	info, err := os.Stat(name)
	if err != nil {
		f.problem(name, err, true)
		return
	}
	t := &tree{at: f.at, root: name, what: p.What, withSource: map[string]bool{}}
	t.whole = f.without != nil && f.without(name)
	f.trees = append(f.trees, t)
	before, problems := f.count(), len(f.files.Problems)
	if info.IsDir() {
		met := f.walked[realPath(name)]&p.What.wanted() != 0
		f.folder(t, name, realPath(name), below{module: name})
		if t.what != Captures && !slices.ContainsFunc(f.files.Builds, func(b scan.Source) bool { return isConfig(filepath.Base(b.Name)) }) && slices.ContainsFunc(f.sources, isTypeScript) {
			f.above(name)
		}
		if f.count() == before && len(f.files.Problems) == problems && !met {
			f.files.Problems = append(f.files.Problems, Problem{Path: name, Reason: "nothing to read was found in it: no " + p.What.words(), Named: true})
		}
		return
	}
	beside := f.besideIn(filepath.Dir(name))
	if p.What != Models && beside.Tells(filepath.Base(name)) {
		return // it goes with the body that it tells of
	}
	file := found{name: name, named: true, module: filepath.Dir(name)}
	for _, told := range beside.Of(filepath.Base(name)) {
		file.beside = append(file.beside, filepath.Join(filepath.Dir(name), told))
	}
	if !f.file(t, file, realPath(name), below{}) {
		f.files.Problems = append(f.files.Problems, Problem{Path: name, Reason: "it is no model source (" + extensions() + "), no saved shape (" + ShapeExtension + "), and holds no responses as captures do (JSON, HAR, HTTP messages, an archive of them)", Named: true})
	}
}

// relative is a path from the working folder, where it lies in there; otherwise the path as it is.
func relative(name string) string {
	if !filepath.IsAbs(name) {
		return name
	}
	here, err := os.Getwd()
	if err != nil {
		return name
	}
	if rel, err := filepath.Rel(here, name); err == nil && rel != ".." && !strings.HasPrefix(rel, ".."+string(filepath.Separator)) {
		return rel
	}
	return name
}

// wanted are kinds of files, model source and captures.
type wanted uint8

// wanted are the kinds that are wanted.
func (w What) wanted() wanted {
	switch w {
	case Models:
		return 1
	case Captures:
		return 2
	}
	return 3
}

// words say which files are looked for.
func (w What) words() string {
	source := "model source (" + extensions() + ")"
	captures := "capture (" + strings.Join(capture.Extensions, ", ") + ")"
	switch w {
	case Models:
		return source
	case Captures:
		return captures
	}
	return source + " and no " + captures
}

// count is how many files have been found, of any kind.
func (f *finder) count() int {
	n := len(f.sources) + len(f.shapes) + len(f.files.Tests)
	for _, t := range f.trees {
		n += len(t.captures)
	}
	return n
}

func extensions() string {
	var all []string
	for _, l := range source.Languages {
		all = append(all, l.Extensions...)
	}
	return strings.Join(all, ", ")
}

// file takes a file if it is of a wanted kind. Of one that the user has named, with -captures any
// extension will do.
func (f *finder) file(t *tree, file found, real string, in below) bool {
	name := file.name
	if isConfig(filepath.Base(name)) {
		if file.named && t.what != Captures {
			var r reader
			if text, err := r.read(found{name: name, regular: true}); err == nil {
				f.files.Builds = append(f.files.Builds, scan.Source{Name: name, Text: text, Module: file.module})
			}
			return true
		}
		if !file.named {
			return false
		}
	}
	isSource := source.LanguageOf(name) != nil
	if isSource && !file.named && source.IsGenerated(name) {
		return false
	}
	isXML := strings.EqualFold(filepath.Ext(name), ".xml") // which source trees are full of
	sure := capture.IsCapture(name) && (!isXML || file.named || t.what == Captures) || len(file.beside) > 0 || t.what == Captures && file.named
	isCapture := sure || !isSource && (!file.named || capture.Looks(name))
	if filepath.Ext(name) == ShapeExtension && t.what != Models {
		if f.first(real) {
			f.shapes = append(f.shapes, name)
		}
		return true
	}
	if isSource && t.what != Captures && f.first(real) {
		if !in.linked {
			t.hasSource(name)
		}
		if in.test || !file.named && isTestFile(filepath.Base(name)) {
			f.files.Tests = append(f.files.Tests, name)
		} else {
			f.sources = append(f.sources, file)
		}
	}
	if isCapture && t.what != Models && f.first(real) {
		t.captures = append(t.captures, captured{name, file.named, !sure, file.beside})
	}
	return isSource && t.what != Captures || isCapture && t.what != Models
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

func (f *finder) folder(t *tree, name, real string, in below) {
	kinds := t.what.wanted()
	if f.walked[real]&kinds == kinds {
		return
	}
	f.walked[real] |= kinds
	entries, err := os.ReadDir(name)
	if err != nil {
		f.problem(name, err, name == t.root)
		return
	}
	if slices.ContainsFunc(entries, isBuildFile) {
		in.module = name
	}
	if t.what != Captures {
		f.builds(name, in.module, entries)
	}
	beside := besides(entries)
	for _, e := range entries {
		path := filepath.Join(name, e.Name())
		inner := real + string(filepath.Separator) + e.Name()
		kind := e.Type()
		within := in
		wanted := source.LanguageOf(path) != nil || capture.IsCapture(path)
		if kind&fs.ModeSymlink != 0 {
			info, err := os.Stat(path)
			if err != nil {
				if wanted {
					f.problem(path, err, false)
				}
				continue
			}
			kind, inner, within.linked = info.Mode().Type(), realPath(path), true
		}
		if !t.whole && f.without != nil && f.without(path) {
			if kind.IsDir() || wanted {
				f.files.Without = append(f.files.Without, path)
			}
			continue
		}
		switch {
		case kind.IsDir():
			if !IsPassedOver(e.Name()) && !isFetched(e.Name(), entries) {
				f.folder(t, path, inner, within.into(filepath.Base(name), e.Name()))
			}
		case strings.HasPrefix(e.Name(), "."):
		case kind.IsRegular():
			if beside.Tells(e.Name()) {
				continue
			}
			file := found{name: path, module: in.module, regular: true}
			for _, told := range beside.Of(e.Name()) {
				file.beside = append(file.beside, filepath.Join(name, told))
			}
			f.file(t, file, inner, within)
		case wanted: // reading it could wait forever
			f.problem(path, errNoFile, false)
		}
	}
}

// besideIn finds out which files of a folder tell of others, once for each folder.
func (f *finder) besideIn(dir string) capture.Beside {
	known, ok := f.tell[dir]
	if !ok {
		if entries, err := os.ReadDir(dir); err == nil {
			known = besides(entries)
		}
		if f.tell == nil {
			f.tell = map[string]capture.Beside{}
		}
		f.tell[dir] = known
	}
	return known
}

// besides finds out which files of a folder tell of others.
func besides(entries []fs.DirEntry) capture.Beside {
	names := make([]string, len(entries))
	for i, e := range entries {
		names[i] = e.Name()
	}
	return capture.Besides(names)
}

// IsPassedOver says whether a folder of a name is passed over below one that is walked: hidden ones, and those of what was
// built or fetched.
func IsPassedOver(name string) bool {
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

func isTypeScript(file found) bool {
	l := source.LanguageOf(file.name)
	return l != nil && l.Name == "typescript"
}
