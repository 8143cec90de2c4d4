package cli

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/config"
	"vetta/internal/input"
	"vetta/internal/report"
)

var acceptCommand = &command{
	name:    "accept",
	args:    "PATH...",
	summary: "accept findings, so that check fails for what is new alone",
	text: `Checks what check would, and writes the findings that make it fail to
vetta.accepted.toml: model, field, kind, place and level of each, with the reason and
the day. From then on check counts them and fails for others alone, whatever becomes
of lines and numbers; at a new place, or at a worse level, a finding is new.
Entries of what no longer occurs are stale: -prune removes them, and nothing else
unless a -reason is given, too.`,
	example: `vetta accept App captures -reason 'the API is mended in release 14' -last-day 2027-01-31
vetta accept App captures -only Fare -reason 'amounts are texts until v3'
vetta accept App captures -prune`,
}

func init() { acceptCommand.run = runAccept }

type acceptOptions struct {
	*checking
	reason *string
	until  *string
	prune  *bool
}

func runAccept(e *env, args []string) int {
	o := &acceptOptions{checking: newChecking(e, acceptCommand)}
	o.reason = o.String("reason", "", "why they are accepted: a `TEXT` for those who read the file")
	o.until = o.String("last-day", "", "the `DAY` behind which they are accepted no more, as\n2027-01-31")
	o.prune = o.Bool("prune", false, "remove entries of what no longer occurs")
	o.Var(&o.only, "only", "accept findings of the `MODEL` of that name alone; may be\nrepeated")
	o.Var(&o.skip, "skip", "leave out what a `PATTERN` names: a model, MODEL.FIELD or a\nkind of finding, with * for any text; may be repeated")
	o.failOn = o.choice("fail-on", "", failLevels[:len(failLevels)-1], "the mildest `LEVEL` that is accepted, as check has it")
	given, code, err := o.parse(args)
	if err != nil {
		return code
	}
	until := config.Day("")
	if *o.until != "" {
		if until, err = config.ParseDay(*o.until); err != nil {
			return o.misuse("-last-day %v", err)
		}
		if until < config.Today() {
			return o.misuse("-last-day %s is over: it is %s", until, config.Today())
		}
	}
	reason := strings.Join(strings.Fields(*o.reason), " ")
	switch {
	case reason == "" && !*o.prune:
		return o.misuse("say why with -reason TEXT: those who read %s later will ask", config.LedgerName)
	case *o.ledgerName == noConfig:
		return o.misuse("-accepted none is no file to write to")
	}
	if !o.read() || !o.readLedger() {
		return exitUsage
	}
	paths := o.paths(given)
	if len(paths) == 0 {
		return o.misuse("%s", o.missing("name the model source and the captures"))
	}
	return o.accept(paths, reason, until)
}

// accept runs the command on paths.
func (o *acceptOptions) accept(paths []input.Path, reason string, until config.Day) int {
	result, code := o.compute(paths, report.Options{Loose: true})
	if code != exitOK {
		return code
	}
	if code := o.done(); code != exitOK {
		return code // of a part of the responses nothing is accepted, and nothing is stale
	}
	mildest, _ := failLevel(o.level())
	var added []config.Entry
	if reason != "" && mildest != "" {
		added = result.ToAccept(mildest, o.ledger)
	}
	for _, e := range added {
		e.Reason, e.On, e.Until = reason, config.Today(), until
		o.ledger.Accept(e)
		fmt.Fprintf(o.env.out, "accepted  %s\n", entryLine(e))
	}
	var stale []*config.Entry
	if *o.prune && result.Ledger != nil {
		stale = report.Entries(result.Ledger.Stale)
		o.ledger.Remove(stale)
		for _, e := range stale {
			fmt.Fprintf(o.env.out, "removed   %s\n", entryLine(*e))
		}
	}
	before := 0
	if result.Ledger != nil {
		before = result.Ledger.Accepted
	}
	if len(added)+len(stale) == 0 {
		fmt.Fprintf(o.env.out, "%s stays as it is: %s\n", report.Safe(o.ledger.Path), nothingTo(reason != "", before, o.level(), result.Narrowed != nil))
		return exitOK
	}
	if err := o.ledger.Write(); err != nil {
		return o.failed(err)
	}
	fmt.Fprintf(o.env.out, "\n%s has %s: %d new, %d removed\n", report.Safe(o.ledger.Path), report.Plural(int64(len(o.ledger.Entries)), "entry"), len(added), len(stale))
	return exitOK
}

func nothingTo(accept bool, before int, level string, narrowed bool) string {
	among := ""
	if narrowed {
		among = " among what -only and -skip leave"
	}
	switch {
	case !accept:
		return "no entry is stale"
	case before > 0:
		return fmt.Sprintf("every finding of the level %s%s is accepted already", level, among)
	}
	return fmt.Sprintf("there are no findings of the level %s or worse%s", level, among)
}

// entryLine is an entry in a line.
func entryLine(e config.Entry) string {
	places := slices.Clone(e.Places)
	if len(places) > 2 {
		places = append(places[:2], fmt.Sprintf("%d more", len(e.Places)-2))
	}
	return report.Safe(fmt.Sprintf("%-8s %s  %s  %s", e.Level, e.Name(), e.Kind, strings.Join(places, ", ")))
}
