package cli

import (
	"bufio"
	"bytes"
	"crypto/sha256"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"sync"

	"golang.org/x/term"

	"vetta/internal/capture"
	"vetta/internal/drift"
	"vetta/internal/input"
	"vetta/internal/memory"
	"vetta/internal/model"
	"vetta/internal/report"
	"vetta/internal/shape"
	"vetta/internal/source"
	"vetta/internal/wire"
	"vetta/internal/words"
)

// gather reads captures and saved shapes into one collection, with progress on
// standard error where it takes long; nil where there is nothing to read. The
// problems are those of the files, with saved shapes that could not be read.
func (e *env) gather(files *input.Files, o *readingOptions) (*shape.Collection, []input.Problem) {
	problems := files.Problems
	var shapes []savedShape
	for _, name := range files.Shapes {
		saved, err := loadShape(name)
		if err != nil {
			problems = append(problems, input.Problem{Path: name, Reason: err.Error()})
			continue
		}
		shapes = append(shapes, saved)
	}
	var c *shape.Collection
	captures := files.Captures
	how := o.reading(e)
	if i := slices.IndexFunc(captures, isStdin); i >= 0 {
		in := bufio.NewReaderSize(e.in, 64<<10)
		how.Stdin = in
		rest := slices.Delete(slices.Clone(captures), i, i+1)
		if f, ok := e.in.(*os.File); ok && term.IsTerminal(int(f.Fd())) {
			captures = rest
			problems = append(problems, input.Problem{Path: capture.Stdin, Reason: "nothing is piped into it: - reads standard input, as in curl -i URL | vetta shape -", Named: true})
		} else if head, _ := in.Peek(512); shape.IsSaved(head) {
			captures = rest
			if saved, err := shape.Load(in); err != nil {
				problems = append(problems, input.Problem{Path: capture.Stdin, Reason: err.Error(), Named: true})
			} else {
				shapes = append(shapes, savedShape{name: capture.Stdin, what: saved})
			}
		}
	}
	if len(captures) > 0 {
		defer memory.Bounded()()
		bar, done := e.progress(captures, &how), interrupts(e.interrupted)
		c = shape.Gather(captures, how)
		done()
		bar.finish()
	}
	for _, s := range e.once(shapes, c) {
		if c == nil {
			c = s.what
		} else {
			c.Merge(s.what)
		}
	}
	return c, problems
}

// savedShape is a saved shape with the name of its file, and what tells it from another one.
type savedShape struct {
	name string
	sum  [sha256.Size]byte
	what *shape.Collection
}

// once leaves out the shapes that are another one again, and those of captures that were read themselves: their responses
// count once.
func (e *env) once(shapes []savedShape, read *shape.Collection) (all []savedShape) {
	names := map[string]bool{}
	if read != nil {
		for _, name := range read.Captures() {
			names[name] = true
		}
	}
	met := map[[sha256.Size]byte]string{}
	for _, s := range shapes {
		own := s.what.Captures()
		switch first, again := met[s.sum]; {
		case again && s.sum != [sha256.Size]byte{}:
			fmt.Fprintf(e.err, "vetta: %s: it is the same shape as %s, and counted once\n", report.Safe(s.name), report.Safe(first))
			continue
		case len(own) > 0 && !slices.ContainsFunc(own, func(name string) bool { return !names[name] }):
			fmt.Fprintf(e.err, "vetta: %s: its captures are read themselves, and counted once\n", report.Safe(s.name))
			continue
		}
		met[s.sum] = s.name
		all = append(all, s)
	}
	return all
}

func isStdin(f *capture.File) bool { return f.Path == capture.Stdin }

// second reads captures again, to tell objects apart by their class or to decode them, with progress as
// gather shows it.
func (e *env) second(files *input.Files, o *readingOptions) drift.Second {
	if len(files.Captures) == 0 {
		return drift.Second{}
	}
	read := func(do func(how shape.Reading)) {
		if e.interrupted.Load() {
			return
		}
		how := o.reading(e)
		bar := e.progress(files.Captures, &how)
		defer bar.finish()
		defer interrupts(e.interrupted)()
		do(how)
	}
	return drift.Second{
		Apart: func(of *shape.Endpoint, by []shape.Teller, judges []shape.Judge) (again *shape.Endpoint) {
			read(func(how shape.Reading) { again = shape.Apart(of, by, judges, files.Captures, how) })
			return again
		},
		Again: func(of *shape.Endpoint, visit func(*wire.Value, func([]wire.Step) shape.Example)) (whole bool) {
			parsers := sync.Pool{New: func() any { return &wire.Parser{} }}
			read(func(how shape.Reading) {
				whole = shape.Again(of, files.Captures, how, func(d capture.Document) (int, error) {
					p := parsers.Get().(*wire.Parser)
					defer parsers.Put(p)
					doc, end, err := d.Value(p)
					if err == nil {
						visit(doc, func(steps []wire.Step) shape.Example { return of.ExampleAt(d, doc, steps) })
					}
					return end, err
				})
			})
			return whole
		},
	}
}

func loadShape(name string) (savedShape, error) {
	text, err := os.ReadFile(name)
	if err != nil {
		return savedShape{}, err
	}
	c, err := shape.Load(bytes.NewReader(text))
	return savedShape{name, sha256.Sum256(text), c}, err
}

// find finds the files of paths. Of one that does not exist, the problem names what is called much like it.
func (p *project) find(paths []input.Path) *input.Files {
	own := func(path string) bool {
		return slices.Contains(p.outputs, filepath.Clean(path)) && report.IsReport(path)
	}
	files := input.FindAgain(paths, func(path string) bool { return own(path) || p.file.PassesOver(path) }, p.texts)
	files.Without = slices.DeleteFunc(files.Without, own)
	if p.secrets == nil || !*p.secrets {
		for _, f := range files.Captures {
			f.Hide(report.MaskName)
		}
	}
	for i := range files.Problems {
		p := &files.Problems[i]
		if !p.Named || p.Reason != input.NoSuch {
			continue
		}
		entries, err := os.ReadDir(filepath.Dir(p.Path))
		if err != nil {
			continue
		}
		var names []string
		for _, e := range entries {
			names = append(names, filepath.Join(filepath.Dir(p.Path), e.Name()))
		}
		p.Reason += words.Nearest(p.Path, names)
	}
	return files
}

// overwritten is the first of the files that a command is to write which is one of those that it reads, "" for none.
func overwritten(files *input.Files, outputs []string) string {
	var read []string
	for _, s := range append(slices.Clone(files.Sources), files.Builds...) {
		read = append(read, s.Name)
	}
	for _, f := range files.Captures {
		read = append(append(read, f.Disk()), f.Beside...)
	}
	read = append(read, files.Shapes...)
	for _, out := range outputs {
		info, err := os.Stat(out)
		if err != nil || !info.Mode().IsRegular() {
			continue
		}
		for _, name := range read {
			if other, err := os.Stat(name); err == nil && os.SameFile(info, other) {
				return out
			}
		}
	}
	return ""
}

// unknownModel words an error about a type, with a model that is called much like it.
func unknownModel(err error, set *model.Set) string {
	var unknown *source.UnknownModelError
	if !errors.As(err, &unknown) {
		return err.Error()
	}
	var names []string
	for _, m := range set.Models {
		names = append(names, m.Name, m.Package+"."+m.Name)
	}
	if set.OtherNames != nil {
		names = append(names, set.OtherNames()...)
	}
	return err.Error() + words.Nearest(unknown.Name, names)
}

// readModels finds the files of paths, and reads the model source among them.
func (p *project) readModels(paths []input.Path) (*input.Files, *model.Set) {
	defer memory.Reading()()
	return p.readSource(paths)
}

// readSource is readModels for a command that does little else, and says itself when the memory it
// takes is looked through.
func (p *project) readSource(paths []input.Path) (*input.Files, *model.Set) {
	files := p.find(paths)
	set := source.Read(files.Sources, files.Builds...)
	p.decide(set)
	return files, set
}

// complete is the exit code of a command that has done its work: one that says so where a path that was named
// led to nothing, so that not all was done that was asked for.
func complete(files *input.Files, code int) int {
	if files.Unusable() {
		return exitUsage
	}
	return code
}

// partial says that a run was interrupted, and answers the exit code of what was not done wholly.
func (o *options) partial() int {
	fmt.Fprintf(o.env.err, "vetta %s: it was interrupted: this is of what was read until then\n", o.command.name)
	return exitUsage
}

// nothing says that a command found nothing to work on, and why that may be.
func (o *options) nothing(what string, problems []report.CheckProblem) int {
	o.env.tell(problems)
	fmt.Fprintf(o.env.err, "vetta %s: %s\n", o.command.name, what)
	return exitUsage
}
