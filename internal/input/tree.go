package input

import (
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"vetta/internal/capture"
	"vetta/internal/source/scan"
	"vetta/internal/traffic"
)

// tree is what a path that was named holds.
type tree struct {
	at         int // of the path among those that were given
	root       string
	whole      bool // nothing in it is passed over as the project says, since it was named itself
	what       What
	withSource map[string]bool // folders that hold source, or whose folders do
	captures   []captured      // and what may be captures
}

// captured is a file that may be a capture.
type captured struct {
	name   string
	named  bool     // it was named itself
	unsure bool     // see capture.File
	beside []string // see capture.File
}

// below is what is known of a folder by those around it.
type below struct {
	module   string // the folder of the build that it is part of
	test     bool   // it is one of tests, or in one
	packages bool   // its folders are named for packages
	linked   bool   // a link leads to it
}

// into is what is known of a folder inside one.
func (b below) into(parent, name string) below {
	b.test = b.test || !b.packages && isTestFolder(parent, name)
	b.packages = b.packages || name == "java" || name == "kotlin"
	return b
}

// hasSource notes that there is source in the folder of a file, and in those around it.
func (t *tree) hasSource(name string) {
	for dir := filepath.Dir(name); !t.withSource[dir]; dir = filepath.Dir(dir) {
		t.withSource[dir] = true
		if dir == t.root {
			return
		}
	}
}

// capturesFolder is a folder whose files are captures wherever it stands.
const capturesFolder = "captures"

// shipped says whether a file that may be a capture is the app's own rather: one that it ships or
// tests with, beside its source. elsewhere says that captures were found apart from source.
func (t *tree) shipped(c captured, elsewhere bool) bool {
	if c.named || t.what == Captures || !t.withSource[t.root] {
		return false
	}
	for dir := filepath.Dir(c.name); dir != t.root; {
		around := filepath.Dir(dir)
		switch {
		case filepath.Base(dir) == capturesFolder:
			return false
		case t.withSource[dir], t.withSource[around] && isTestFolder(filepath.Base(around), filepath.Base(dir)):
			return true
		}
		dir = around
	}
	return elsewhere
}

// told says whether a file that only its content could tell for a capture lies where captures lie.
func (t *tree) told(c captured) bool {
	if t.what == Captures || !t.withSource[t.root] {
		return true
	}
	for dir := filepath.Dir(c.name); dir != t.root; dir = filepath.Dir(dir) {
		if filepath.Base(dir) == capturesFolder {
			return true
		}
	}
	return false
}

// chosen are the captures among what may be some, in the order of the paths, by name within each.
func (f *finder) chosen() (files []*capture.File) {
	elsewhere := false
	for _, t := range f.trees {
		for _, c := range t.captures {
			elsewhere = elsewhere || c.named || t.what == Captures || !t.withSource[t.root] && !c.unsure
		}
	}
	for _, t := range f.trees {
		slices.SortFunc(t.captures, func(a, b captured) int { return traffic.Compare(a.name, b.name) })
		for _, c := range t.captures {
			switch {
			case c.unsure && !c.named && !t.told(c):
			case t.shipped(c, elsewhere):
				f.files.Shipped = append(f.files.Shipped, c.name)
			default:
				files = append(files, &capture.File{Path: c.name, Unsure: c.unsure, Beside: c.beside})
			}
		}
	}
	return files
}

// buildFiles say that a folder is one that is built for itself.
var buildFiles = []string{"build.gradle", "build.gradle.kts", "pom.xml", "Package.swift"}

// dependencies are the files that may name the libraries a folder is built with.
var dependencies = []string{"build.gradle", "build.gradle.kts", "pom.xml", "libs.versions.toml", "Directory.Build.props", "packages.config"}

// projectEnding is that of files that both say that a folder is built for itself and name its libraries.
const projectEnding = ".csproj"

// builds reads what a folder says of how it is built. What cannot be read says nothing.
func (f *finder) builds(name, module string, entries []fs.DirEntry) {
	var r reader
	app := slices.ContainsFunc(entries, func(e fs.DirEntry) bool { return e.Name() == dartProject })
	for _, e := range entries {
		if app && e.IsDir() && slices.Contains(platforms, e.Name()) { // that it is there says what the app is built for
			f.files.Builds = append(f.files.Builds, scan.Source{Name: filepath.Join(name, e.Name()) + "/", Module: module})
		}
		if !e.Type().IsRegular() || !isBuildInfo(e.Name()) {
			continue
		}
		path := filepath.Join(name, e.Name())
		if text, err := r.read(found{name: path, regular: true}); err == nil {
			f.files.Builds = append(f.files.Builds, scan.Source{Name: path, Text: text, Module: module})
		}
	}
}

// dartProject is the file in the folder of a project in Dart, and platforms are the folders beside it for what it is built for.
const dartProject = "pubspec.yaml"

var platforms = []string{"android", "ios", "web", "macos", "linux", "windows"}

// isBuildInfo says whether a file says how a folder is built, by its name.
func isBuildInfo(name string) bool {
	return name == dartProject || slices.Contains(dependencies, name) || filepath.Ext(name) == projectEnding || isConfig(name)
}

// isConfig says whether a file says how TypeScript is compiled, or which libraries it is given, by its name.
func isConfig(name string) bool {
	return name == "jsconfig.json" || name == "package.json" || strings.HasPrefix(name, "tsconfig") && filepath.Ext(name) == ".json"
}

// maxAbove is in how many folders around a path that was named is looked for what says how TypeScript is compiled.
const maxAbove = 6

// above reads what the nearest folder around a path says of how TypeScript is compiled.
func (f *finder) above(name string) {
	at, err := filepath.Abs(name)
	for range maxAbove {
		if err != nil || filepath.Dir(at) == at {
			return
		}
		at = filepath.Dir(at)
		entries, _ := os.ReadDir(at)
		entries = slices.DeleteFunc(entries, func(e fs.DirEntry) bool { return !isConfig(e.Name()) })
		if len(entries) > 0 {
			f.builds(relative(at), at, entries)
			return
		}
	}
}

func isBuildFile(e fs.DirEntry) bool {
	ext := filepath.Ext(e.Name())
	return slices.Contains(buildFiles, e.Name()) || ext == projectEnding || ext == ".xcodeproj"
}

// isFetched says whether a folder holds what was fetched for a solution, which stands beside it.
func isFetched(name string, beside []fs.DirEntry) bool {
	return name == "packages" && slices.ContainsFunc(beside, func(e fs.DirEntry) bool {
		ext := filepath.Ext(e.Name())
		return ext == ".sln" || ext == ".slnx"
	})
}

// isTestFolder says whether a folder is one of unit or UI tests, by its name and that of the folder
// around it.
func isTestFolder(parent, name string) bool {
	switch name {
	case "test", "tests", "spec", "specs", "__tests__", "androidTest", "testFixtures":
		return true
	}
	return strings.HasSuffix(name, "Tests") || parent == "src" && (strings.HasSuffix(name, "Test") || strings.HasPrefix(name, "test"))
}

// isTestFile says whether a file is one of tests by its name alone: fares.test.ts.
func isTestFile(name string) bool {
	parts := strings.Split(name, ".")
	return len(parts) > 2 && (slices.Contains(parts[1:len(parts)-1], "test") || slices.Contains(parts[1:len(parts)-1], "spec"))
}

// frameworks are what tests import.
var frameworks = []string{"import XCTest", "import Testing", "import org.junit", "import kotlin.test", "import io.kotest", "import org.testng",
	"using Xunit", "using NUnit.Framework", "using Microsoft.VisualStudio.TestTools"}

// isTest says whether a file of source is one of tests by its name and what it imports.
func isTest(name, text string) bool {
	base := strings.TrimSuffix(filepath.Base(name), filepath.Ext(name))
	if !strings.HasSuffix(base, "Test") && !strings.HasSuffix(base, "Tests") && !strings.HasSuffix(base, "Spec") {
		return false
	}
	return slices.ContainsFunc(frameworks, func(f string) bool { return strings.Contains(text, f) })
}
