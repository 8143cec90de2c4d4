package cli

import (
	"cmp"
	"fmt"
	"path/filepath"
	"slices"

	"vetta/internal/config"
	"vetta/internal/drift"
	"vetta/internal/drift/finding"
	"vetta/internal/input"
	"vetta/internal/report"
	"vetta/internal/words"
)

// checking is what commands that check have in common: what is checked, which findings are wanted, and which are accepted.
type checking struct {
	*options
	*project
	pairs      list
	only, skip list
	failOn     *choice
	ledgerName *string
	reading    *readingOptions
	work       *pairedWork // of the last run
	kept       *kept       // of what was read before, nil where it is read once
	told       []report.CheckProblem
	ledger     *config.Ledger // never nil once it was read
}

func newChecking(e *env, c *command) *checking {
	o := &checking{options: newOptions(e, c)}
	o.project = o.options.project()
	o.Var(&o.pairs, "pair", "`PAIR` a type with responses by hand, as\nTYPE=CAPTURES#PLACE, with a file, a folder, a pattern\nor an endpoint for CAPTURES; may be repeated")
	o.ledgerName = o.String("accepted", "", "`FILE` in place of the vetta.accepted.toml of this folder or\nthe nearest around it; none for no file")
	o.reading = o.options.reading().parallel(o.options)
	return o
}

// level is the mildest level that makes a check fail.
func (o *checking) level() string {
	return cmp.Or(o.failOn.value, o.file.FailOn.Value, "misreads")
}

// failLevel is that level as findings have it, "" where none fails, and whether what could not be judged does.
func failLevel(level string) (mildest finding.Level, unjudged bool) {
	switch level {
	case "never":
		return "", false
	case "unjudged":
		return finding.Misreads, true
	}
	mildest = finding.Level(level)
	return mildest, slices.Index(failLevels, level) > slices.Index(failLevels, "unjudged")
}

// readLedger reads which findings are accepted. It answers false where that file has mistakes, which are told then.
func (o *checking) readLedger() bool {
	name := *o.ledgerName
	switch name {
	case noConfig:
		o.ledger = &config.Ledger{}
		return true
	case "":
		if name = config.FindLedger("."); name == "" {
			name = config.LedgerName
			if o.file.Path != "" {
				name = filepath.Join(o.file.Dir(), name)
			}
		}
	}
	var errs []error
	o.ledger, errs = config.ReadLedger(fromHere(name), report.LevelNames())
	return o.env.taken(o.command, o.ledger.Path, errs, "-accepted none")
}

// fromHere is a path from the working folder, where there is one.
func fromHere(name string) string {
	abs, err := filepath.Abs(name)
	if err != nil {
		return name
	}
	here, err := filepath.Abs(".")
	if err != nil {
		return name
	}
	if rel, err := filepath.Rel(here, abs); err == nil {
		return rel
	}
	return name
}

// compute checks what paths hold. Where that leads to nothing it says why, and answers another exit code than exitOK.
func (o *checking) compute(paths []input.Path, ro report.Options) (*report.Check, int) {
	skip := o.skip
	if len(skip) == 0 {
		skip = o.file.Skip.Values
	}
	work := &pairedWork{project: o.project, reading: o.reading, kept: o.kept}
	o.work = work
	if code := work.do(o.options, paths, o.pairs); code != exitOK {
		return nil, code
	}
	files, set := work.files, work.set
	if name := overwritten(files, o.outputs); name != "" {
		return nil, o.misuse("-o %s is one of what is read: name another file", report.Safe(name))
	}
	checked := drift.Check(work.pairs.Pairs, o.env.second(files, o.reading))
	work.pairs.Account(set, work.shape, checked)
	result := report.NewCheck(set, work.shape, checked, work.pairs, work.problems, ro)
	result.PassedOver = report.PassedOver{Tests: append([]string{}, files.Tests...), Shipped: append([]string{}, files.Shipped...), Without: files.Without}
	result.Accept(o.ledger, config.Today())
	if unused := result.Narrow(o.only, skip); len(unused) > 0 {
		var names []string
		for _, m := range set.Models {
			names = append(names, m.Name)
		}
		return nil, o.misuse("nothing goes by %s%s", unused[0], words.Nearest(unused[0], append(names, sortedKinds()...)))
	}
	o.env.tell(o.untold(work.problems))
	return result, exitOK
}

// untold are the problems that the run before did not have, where there are several.
func (o *checking) untold(problems []report.CheckProblem) (all []report.CheckProblem) {
	if o.kept == nil {
		return problems
	}
	for _, p := range problems {
		if !slices.Contains(o.told, p) {
			all = append(all, p)
		}
	}
	o.told = problems
	return all
}

// done is the exit code of a check whose report was written.
func (o *checking) done() int {
	if len(o.work.pairs.Pairs) == 0 {
		fmt.Fprintf(o.env.err, "vetta %s: nothing could be checked: no model was paired with any response; -pair sets a pair by hand\n", o.command.name)
		return exitUsage
	}
	if o.work.shape.Partial {
		return o.partial()
	}
	return complete(o.work.files, exitOK)
}
