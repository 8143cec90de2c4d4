package cli

import (
	"vetta/internal/input"
	"vetta/internal/report"
)

var checkCommand = &command{
	name:    "check",
	args:    "PATH...",
	summary: "say what would break or falsify decoding, model by model",
	text: `Reads model source and captured responses from the paths, files or folders in any
order, pairs each model with the responses it is decoded from, and says field by
field what the decoding library would do: what breaks, what is misread, what is
never read. Captures are read as people have them: HAR files, HTTP messages as curl -i
prints them, lines, bare JSON, compressed or in archives; - is standard input.
Findings that vetta.accepted.toml accepts are counted alone: see vetta accept.
Exits 1 if there are other findings of the level asked for.`,
	example: `vetta check App/ captures/
curl -i https://api.saltmere.example/v2/ports | vetta check App -
vetta check App board.har -path '/v2/**' -status 2xx -since 2026-03-09
vetta check -models App -captures traffic -format lines
vetta check App captures -o drift.html -o drift.sarif
vetta check App captures -only Sailing -examples 3
vetta check App captures -watch
vetta check App captures -pair 'Sailing=GET /v2/sailings#$.sailings[*]'`,
}

func init() { checkCommand.run = runCheck }

// failLevels are the values of -fail-on.
var failLevels = []string{"breaks", "misreads", "unjudged", "ignores", "loose", "never"}

type checkOptions struct {
	*checking
	reports  *reports
	color    *choice
	examples *int
	brief    *bool
	clean    *bool
	loose    *bool
	watch    *bool
}

func newCheckOptions(e *env) *checkOptions {
	o := &checkOptions{checking: newChecking(e, checkCommand)}
	o.Var(&o.only, "only", "show the `MODEL` of that name alone; may be repeated")
	o.Var(&o.skip, "skip", "leave out what a `PATTERN` names: a model, MODEL.FIELD or a\nkind of finding, with * for any text; may be repeated")
	o.brief = o.Bool("brief", false, "show the overview alone")
	o.clean = o.Bool("all", false, "show models that nothing is found of, too")
	o.examples = o.Int("examples", 1, "how many examples `N` of each finding are shown, 3 at most")
	o.reports = o.options.reports()
	o.failOn = o.choice("fail-on", "", failLevels, "the mildest `LEVEL` that makes the exit code 1: breaks,\nmisreads (as it is), unjudged (a model with responses that\ncould not be judged), ignores, loose or never")
	o.color = o.options.color()
	o.loose = o.Bool("loose", false, "also show what is declared wider than anything seen")
	o.secrets = o.Bool("show-secrets", false, "do not mask values that look secret")
	o.watch = o.Bool("watch", false, "check again whenever a source file or a capture changes, and\nshow what is new and what is gone")
	return o
}

func runCheck(e *env, args []string) int {
	o := newCheckOptions(e)
	given, code, err := o.parse(args)
	if err != nil {
		return code
	}
	if err := o.reports.settle(); err != nil {
		return o.misuse("%v", err)
	}
	if !o.read() || !o.readLedger() {
		return exitUsage
	}
	o.outputs = o.reports.files()
	paths := o.paths(given)
	if len(paths) == 0 {
		return o.misuse("%s", o.missing("name the model source and the captures"))
	}
	if *o.watch {
		return o.watching(paths)
	}
	_, code = o.check(paths)
	return code
}

// shown says what reports show.
func (o *checkOptions) shown() report.Options {
	return report.Options{Loose: *o.loose || o.level() == "loose", Secrets: *o.secrets, All: *o.clean, Brief: *o.brief, Examples: min(max(*o.examples, 0), 3)}
}

// writing says how reports are written.
func (o *checkOptions) writing() report.Writing {
	mildest, unjudged := failLevel(o.level())
	return report.Writing{Style: o.env.style(o.color.value), Version: version, FailOn: mildest, Unjudged: unjudged}
}

// check checks what paths hold and writes all of it. The report is nil where nothing could be checked.
func (o *checkOptions) check(paths []input.Path) (*report.Check, int) {
	result, code := o.compute(paths, o.shown())
	if code != exitOK {
		return nil, code
	}
	if err := o.reports.write(o.env.out, result, o.writing()); err != nil {
		return result, o.failed(err)
	}
	return result, o.exit(result)
}

// exit is the code of a check whose report was written: that of what could not be read, or else of the worst level found.
func (o *checkOptions) exit(c *report.Check) int {
	if code := o.done(); code != exitOK {
		return code
	}
	mildest, unjudged := failLevel(o.level())
	if mildest == "" {
		return exitOK
	}
	if worst := c.Worst(); worst != "" && worst.Rank() <= mildest.Rank() {
		return exitFindings
	}
	if c.Untold() {
		return exitFindings
	}
	if unjudged && len(c.Unjudgeable()) > 0 {
		return exitFindings
	}
	return exitOK
}

// ownFiles says what was passed over, behind what was not found.
func ownFiles(f *input.Files) string {
	if text := (report.PassedOver{Tests: f.Tests, Shipped: f.Shipped, Without: f.Without}).String(); text != "" {
		return "; passed over: " + text
	}
	return ""
}
