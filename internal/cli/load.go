package cli

import (
	"bufio"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"runtime"
	"sync"
	"time"

	"github.com/schollz/progressbar/v3"
	"golang.org/x/term"

	"vetta/internal/drift"
	"vetta/internal/input"
	"vetta/internal/memory"
	"vetta/internal/model"
	"vetta/internal/report"
	"vetta/internal/shape"
	"vetta/internal/source"
)

// pathOptions are the options that say what files are.
type pathOptions struct{ models, captures list }

func (o *options) paths() *pathOptions {
	p := &pathOptions{}
	o.Var(&p.models, "models", "`PATH` with model source alone; may be repeated")
	o.Var(&p.captures, "captures", "`PATH` with captures alone; may be repeated")
	return p
}

// all are the paths that a command was given.
func (p *pathOptions) all(args []string) (paths []input.Path) {
	for _, a := range args {
		paths = append(paths, input.Path{Name: a})
	}
	for _, m := range p.models {
		paths = append(paths, input.Path{Name: m, What: input.Models})
	}
	for _, c := range p.captures {
		paths = append(paths, input.Path{Name: c, What: input.Captures})
	}
	return paths
}

// gather reads captures and saved shapes into one collection, with progress on
// standard error where it takes long; nil where there is nothing to read. The
// problems are those of the files, with saved shapes that could not be read.
func (e *env) gather(files *input.Files, workers int) (*shape.Collection, []input.Problem) {
	problems := files.Problems
	var c *shape.Collection
	for _, name := range files.Shapes {
		saved, err := loadShape(name)
		if err != nil {
			problems = append(problems, input.Problem{Path: name, Reason: err.Error()})
			continue
		}
		if c == nil {
			c = saved
		} else {
			c.Merge(saved)
		}
	}
	if len(files.Captures) > 0 {
		bar := e.progress(len(files.Captures))
		read := shape.Gather(files.Captures, atOnce(workers), shape.DefaultLimits, bar.set)
		bar.finish()
		if c == nil {
			c = read
		} else {
			c.Merge(read)
		}
	}
	return c, problems
}

// apart reads captures again to tell objects apart by their class, with progress as gather
// shows it.
func (e *env) apart(files *input.Files, workers int) drift.Apart {
	return func(of *shape.Endpoint, by []shape.Teller) *shape.Endpoint {
		if len(files.Captures) == 0 {
			return nil
		}
		bar := e.progress(len(files.Captures))
		defer bar.finish()
		return shape.Apart(of, by, files.Captures, atOnce(workers), bar.set)
	}
}

// atOnce is how many captures are read at once, by the number that was asked for.
func atOnce(workers int) int {
	if workers == 0 {
		return runtime.GOMAXPROCS(0)
	}
	return workers
}

func loadShape(name string) (*shape.Collection, error) {
	f, err := os.Open(name)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	return shape.Load(bufio.NewReader(f))
}

// progress shows how far a long run is, on a terminal alone.
type progress struct {
	mu    sync.Mutex
	bar   *progressbar.ProgressBar
	start time.Time
	total int
	off   bool
}

func (e *env) progress(total int) *progress {
	f, ok := e.err.(*os.File)
	return &progress{start: time.Now(), total: total, off: !ok || !term.IsTerminal(int(f.Fd()))}
}

func (p *progress) set(done int) {
	if p.off || time.Since(p.start) < time.Second {
		return
	}
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.bar == nil {
		p.bar = progressbar.NewOptions(p.total, progressbar.OptionSetWriter(os.Stderr), progressbar.OptionSetDescription("reading captures"),
			progressbar.OptionThrottle(100*time.Millisecond), progressbar.OptionClearOnFinish(), progressbar.OptionSetPredictTime(true))
	}
	p.bar.Set(done)
}

func (p *progress) finish() {
	if p.bar != nil {
		p.bar.Finish()
	}
}

// find finds the files of paths. Of one that does not exist, the problem names what is called much like it.
func find(paths []input.Path) *input.Files {
	files := input.Find(paths)
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
		p.Reason += nearest(p.Path, names)
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
	return err.Error() + nearest(unknown.Name, names)
}

// readModels finds the files of paths, and reads the model source among them.
func readModels(paths []input.Path) (*input.Files, *model.Set) {
	defer memory.Reading()()
	return readSource(paths)
}

// readSource is readModels for a command that does little else, and says itself when the memory it
// takes is looked through.
func readSource(paths []input.Path) (*input.Files, *model.Set) {
	files := find(paths)
	return files, source.Read(files.Sources, files.Builds...)
}

// whole is the exit code of a command that has done its work: one that says so where a path that was named
// led to nothing, so that not all was done that was asked for.
func whole(files *input.Files, code int) int {
	if files.Unusable() {
		return exitUsage
	}
	return code
}

// nothing says that a command found nothing to work on, and why that may be.
func (o *options) nothing(what string, problems []report.CheckProblem) int {
	o.env.tell(problems)
	fmt.Fprintf(o.env.err, "vetta %s: %s\n", o.command.name, what)
	return exitUsage
}
