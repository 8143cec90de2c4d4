package cli

import (
	"fmt"
	"runtime"
	"slices"
	"sync"
	"sync/atomic"

	"vetta/internal/capture"
	"vetta/internal/input"
	"vetta/internal/memory"
	"vetta/internal/shape"
)

// kept is what was read of captures, file by file, so that a file is read again only once it has changed.
type kept struct {
	captures map[string]keptCapture
}

type keptCapture struct {
	stamp string
	what  *shape.Collection
	saved savedShape // of a saved shape
}

// stampOf tells whether a capture, or what is told beside it, has changed.
func stampOf(path string, beside ...string) (stamp string) {
	for _, name := range append([]string{path}, beside...) {
		stamp += fmt.Sprintln(name, input.StampOf(name))
	}
	return stamp
}

// gather is env.gather that reads what has changed alone.
func (k *kept) gather(e *env, files *input.Files, o *readingOptions) (*shape.Collection, []input.Problem) {
	problems := files.Problems
	now := map[string]keptCapture{}
	var names []string
	var changed []*capture.File
	for _, f := range files.Captures {
		stamp := stampOf(f.Disk(), f.Beside...)
		names = append(names, f.Disk())
		if known, ok := k.captures[f.Disk()]; ok && known.stamp == stamp {
			now[f.Disk()] = known
			continue
		}
		now[f.Disk()] = keptCapture{stamp: stamp}
		changed = append(changed, f)
	}
	for i, c := range e.gatherEach(changed, o) {
		one := now[changed[i].Disk()]
		one.what = c
		now[changed[i].Disk()] = one
	}
	var shapes []savedShape
	for _, name := range files.Shapes {
		stamp := stampOf(name)
		known, ok := k.captures[name]
		if !ok || known.stamp != stamp {
			saved, err := loadShape(name)
			if err != nil {
				problems = append(problems, input.Problem{Path: name, Reason: err.Error()})
				continue
			}
			known = keptCapture{stamp, saved.what, saved}
		}
		now[name] = known
		shapes = append(shapes, known.saved)
	}
	k.captures = now
	var all []*shape.Collection
	for _, name := range names {
		all = append(all, now[name].what.Copy())
	}
	c := merged(all)
	for _, s := range e.once(shapes, c) {
		if c == nil {
			c = s.what.Copy()
		} else {
			c.Merge(s.what.Copy())
		}
	}
	return c, problems
}

// merged puts collections together, two at a time, so that each is gone through seldom; nil for none.
func merged(all []*shape.Collection) *shape.Collection {
	if len(all) == 0 {
		return nil
	}
	for len(all) > 1 {
		var half []*shape.Collection
		for pair := range slices.Chunk(all, 2) {
			if len(pair) == 2 {
				pair[0].Merge(pair[1])
			}
			half = append(half, pair[0])
		}
		all = half
	}
	return all[0]
}

// gatherEach reads captures one by one, with progress on standard error where it takes long.
func (e *env) gatherEach(files []*capture.File, o *readingOptions) []*shape.Collection {
	out := make([]*shape.Collection, len(files))
	if len(files) == 0 {
		return out
	}
	defer memory.Bounded()()
	how := o.reading(e)
	bar, done := e.progress(files, &how), interrupts(e.interrupted)
	defer bar.finish()
	defer done()
	workers := min(runtime.GOMAXPROCS(0), len(files))
	if workers > 1 {
		how.Workers = 1
	}
	var next atomic.Int64
	var wait sync.WaitGroup
	for range workers {
		wait.Add(1)
		go func() {
			defer wait.Done()
			for i := int(next.Add(1)) - 1; i < len(files); i = int(next.Add(1)) - 1 {
				out[i] = shape.Gather(files[i:i+1:i+1], how)
			}
		}()
	}
	wait.Wait()
	return out
}
