package cli

import (
	"bufio"
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
	var c *shape.Collection
	add := func(more *shape.Collection) {
		if c == nil {
			c = more
		} else {
			c.Merge(more)
		}
	}
	for _, name := range files.Shapes {
		saved, err := loadShape(name)
		if err != nil {
			problems = append(problems, input.Problem{Path: name, Reason: err.Error()})
			continue
		}
		add(saved)
	}
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
				add(saved)
			}
		}
	}
	if len(captures) > 0 {
		bar, done := e.progress(captures, &how), interrupts(e.interrupted)
		add(shape.Gather(captures, how))
		done()
		bar.finish()
	}
	return c, problems
}

func isStdin(f *capture.File) bool { return f.Path == capture.Stdin }

// second reads captures again, to tell objects apart by their class or to decode them, with progress as
// gather shows it.
func (e *env) second(files *input.Files, o *readingOptions) drift.Second {
	read := func(do func(how shape.Reading)) {
		if len(files.Captures) == 0 || e.interrupted.Load() {
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
		Again: func(of *shape.Endpoint, visit func(*wire.Value)) (whole bool) {
			parsers := sync.Pool{New: func() any { return &wire.Parser{} }}
			read(func(how shape.Reading) {
				whole = shape.Again(of, files.Captures, how, func(d capture.Document) (int, error) {
					p := parsers.Get().(*wire.Parser)
					defer parsers.Put(p)
					doc, end, err := d.Value(p)
					if err == nil {
						visit(doc)
					}
					return end, err
				})
			})
			return whole
		},
	}
}

func loadShape(name string) (*shape.Collection, error) {
	f, err := os.Open(name)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	return shape.Load(bufio.NewReader(f))
}

// find finds the files of paths. Of one that does not exist, the problem names what is called much like it.
func (p *project) find(paths []input.Path) *input.Files {
	own := func(path string) bool { return slices.Contains(p.outputs, filepath.Clean(path)) }
	files := input.FindAgain(paths, func(path string) bool { return own(path) || p.file.PassesOver(path) }, p.texts)
	files.Without = slices.DeleteFunc(files.Without, own)
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
