// Package source reads model source in any language that Vetta knows: it picks the
// reader for each file and puts what they read together.
package source

import (
	"path/filepath"
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/csharp"
	"vetta/internal/source/dart"
	"vetta/internal/source/java"
	"vetta/internal/source/jvm"
	"vetta/internal/source/jvm/link"
	"vetta/internal/source/kotlin"
	"vetta/internal/source/scan"
	"vetta/internal/source/swift"
	"vetta/internal/source/typescript"
)

// Language is a language that models are written in.
type Language struct {
	Name       string
	Extensions []string
	Generated  []string // endings of files that tools make of others, which nobody reads
	// Read reads files of the language into models. Languages whose source may name
	// each other's classes are read together: then Parse reads a file for it.
	// builds are the files that say how the project is built.
	Read  func(files, builds []scan.Source) *model.Set
	Parse func(scan.Source, *jvm.Rooms) *jvm.File
	// ParseType reads a type as the language writes it, its names not yet resolved;
	// nil if the text is none.
	ParseType func(text string) *model.Type
}

// Languages are all that have a reader.
var Languages = []Language{
	{Name: "swift", Extensions: swift.Extensions, Read: alone(swift.Read), ParseType: swift.ParseType},
	{Name: "java", Extensions: []string{".java"}, Parse: java.Parse, ParseType: java.ParseType},
	{Name: "kotlin", Extensions: []string{".kt"}, Parse: kotlin.Parse, ParseType: kotlin.ParseType},
	{Name: csharp.Language, Extensions: csharp.Extensions, Generated: csharp.Generated, Read: csharp.Read, ParseType: csharp.ParseType},
	{Name: typescript.Language, Extensions: typescript.Extensions, Generated: typescript.Generated, Read: typescript.Read, ParseType: typescript.ParseType},
	{Name: "dart", Extensions: dart.Extensions, Read: dart.Read, ParseType: dart.ParseType},
}

// IsGenerated says whether a file is one that tools of its language make of others, by its name.
func IsGenerated(name string) bool {
	l := LanguageOf(name)
	return l != nil && slices.ContainsFunc(l.Generated, func(ending string) bool { return strings.HasSuffix(name, ending) })
}

// alone is a reader that does not ask how a project is built.
func alone(read func([]scan.Source) *model.Set) func(files, builds []scan.Source) *model.Set {
	return func(files, _ []scan.Source) *model.Set { return read(files) }
}

// LanguageOf is the language of a file by its extension, nil for none.
func LanguageOf(path string) *Language {
	ext := strings.ToLower(filepath.Ext(path))
	for i := range Languages {
		for _, e := range Languages[i].Extensions {
			if e == ext {
				return &Languages[i]
			}
		}
	}
	return nil
}

// Read reads source files, each with the reader for its extension. A file of no
// known language is a problem of the set. builds are the files that say how the project is
// built, which may name its decoding library.
func Read(files []scan.Source, builds ...scan.Source) *model.Set {
	all := &model.Set{Modules: make(map[string]string, len(files))}
	byLanguage := map[*Language][]scan.Source{}
	for _, f := range files {
		all.Modules[f.Name] = f.Module
		if l := LanguageOf(f.Name); l != nil {
			byLanguage[l] = append(byLanguage[l], f)
		} else {
			all.Problems = append(all.Problems, model.Problem{Pos: model.Pos{File: f.Name, Line: 1, Col: 1}, Reason: "no reader for this kind of source"})
		}
	}
	var sets []*model.Set
	var together []*jvm.File
	// Code that reads objects by hand is followed through methods of any file.
	byHand := slices.ContainsFunc(files, jvm.ReadsByHand)
	// Where something decodes, the calls of it say which classes are models.
	sparse := slices.ContainsFunc(files, jvm.NamesDecoder)
	for i := range Languages {
		l := &Languages[i]
		switch files := byLanguage[l]; {
		case len(files) == 0:
		case l.Parse != nil:
			together = append(together, parseAll(files, l.Parse, byHand, sparse)...)
		default:
			sets = append(sets, l.Read(files, builds))
		}
	}
	if len(together) > 0 {
		sets = append(sets, link.Link(together, builds))
	}
	for _, set := range sets {
		all.Models = append(all.Models, set.Models...)
		all.Calls = append(all.Calls, set.Calls...)
		all.Sends = append(all.Sends, set.Sends...)
		all.Also(set)
		all.Problems = append(all.Problems, set.Problems...)
		all.PassedOver = append(all.PassedOver, set.PassedOver...)
		for language, program := range set.Runs {
			if all.Runs == nil {
				all.Runs = map[string]any{}
			}
			all.Runs[language] = program
		}
		all.Files += set.Files
		all.Bytes += set.Bytes
	}
	return all
}

// parseAll reads files side by side, all of their text where they are wanted whole; sparse
// is described at scan.Source.
func parseAll(files []scan.Source, parse func(scan.Source, *jvm.Rooms) *jvm.File, whole, sparse bool) []*jvm.File {
	out := make([]*jvm.File, len(files))
	rooms := jvm.NewRooms()
	scan.Each(len(files), func(i int) {
		f := files[i]
		f.Whole, f.Sparse = f.Whole || whole, sparse
		out[i] = parse(f, rooms)
		out[i].Module = f.Module
		link.Classified(out[i])
		if f.Whole {
			out[i].Trim()
		} else {
			out[i].Settle()
		}
	})
	return out
}
