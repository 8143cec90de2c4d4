package cli

import (
	"fmt"

	"vetta/internal/input"
	"vetta/internal/model"
	"vetta/internal/pairing"
	"vetta/internal/report"
	"vetta/internal/shape"
)

// pairedWork is what check and pair do alike: they read models and captures, and pair them.
type pairedWork struct {
	project  *project
	reading  *readingOptions
	files    *input.Files
	set      *model.Set
	shape    *shape.Shape
	pairs    *pairing.Result
	problems []report.CheckProblem
	kept     *kept // of the run before, where it is watched; nil else
}

// do reads what paths hold and pairs it, with what is set by hand. Where that leads to nothing it says why,
// and answers another exit code than exitOK.
func (w *pairedWork) do(o *options, paths []input.Path, byHand list) int {
	manual, err := w.project.pairs(byHand)
	if err != nil {
		return o.misuse("-pair: %v", err)
	}
	w.files, w.set = w.project.readModels(paths)
	c, unread := w.gather(o.env)
	w.shape = &shape.Shape{}
	if c != nil {
		w.shape = c.Shape()
	}
	files, s := w.files, w.shape
	w.problems = report.Problems(unread, w.set.Problems, s.Problems)
	switch {
	case len(files.Sources) == 0 && c == nil:
		return o.nothing("neither model source nor captures were found in the paths", w.problems)
	case len(files.Sources) == 0:
		return o.nothing("no model source was found in the paths"+ownFiles(files), w.problems)
	case len(w.set.Models) == 0:
		return o.nothing("the source declares no models that responses are decoded into"+ownFiles(files), w.problems)
	case c == nil:
		return o.nothing("no captures were found in the paths"+ownFiles(files), w.problems)
	case s.Documents == 0:
		return o.nothing("no capture could be read"+report.PassedText(s.Passed, ": "), w.problems)
	}
	if w.pairs, err = pairing.Pair(w.set, s, manual); err != nil {
		return o.misuse("-pair: %s", unknownModel(err, w.set))
	}
	for _, odd := range w.pairs.Odd {
		if odd.Lenient && w.project.part && !odd.Claims {
			continue
		}
		fmt.Fprintf(o.env.err, "vetta: %s: %s\n", report.Safe(odd.By), report.Safe(unknownModel(odd.Err, w.set)))
	}
	for _, m := range manual {
		for _, line := range namesakes(w.set, m.Type) {
			fmt.Fprintf(o.env.err, "vetta %s: %s: %s\n", o.command.name, report.Safe(m.By), line)
		}
	}
	return exitOK
}

// gather reads the captures, or of those that were read before the ones that have changed.
func (w *pairedWork) gather(e *env) (*shape.Collection, []input.Problem) {
	if w.kept != nil {
		return w.kept.gather(e, w.files, w.reading)
	}
	return e.gather(w.files, w.reading)
}
