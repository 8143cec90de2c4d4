package cli

import (
	"cmp"
	"fmt"
	"slices"

	"vetta/internal/drift"
	"vetta/internal/input"
	"vetta/internal/report"
	"vetta/internal/words"
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
Exits 1 if there are findings of the level asked for.`,
	example: `vetta check App/ captures/
curl -i https://api.saltmere.example/v2/ports | vetta check App -
vetta check App board.har -path '/v2/**' -status 2xx -since 2026-03-09
vetta check -models App -captures traffic -format lines
vetta check App captures -only Sailing -examples 3
vetta check App captures -pair 'Sailing=GET /v2/sailings#$.sailings[*]'`,
}

func init() { checkCommand.run = runCheck }

// failLevels are the values of -fail-on.
var failLevels = []string{"breaks", "misreads", "unjudged", "ignores", "loose", "never"}

type checkOptions struct {
	*options
	*project
	pairs      list
	only, skip list
	format     *choice
	failOn     *choice
	color      *choice
	examples   *int
	brief      *bool
	clean      *bool
	loose      *bool
	secrets    *bool
	reading    *readingOptions
}

func newCheckOptions(e *env) *checkOptions {
	o := &checkOptions{options: newOptions(e, checkCommand)}
	o.project = o.options.project()
	o.Var(&o.pairs, "pair", "`PAIR` a type with responses by hand, as\nTYPE=CAPTURES#PLACE, with a file, a folder, a pattern\nor an endpoint for CAPTURES; may be repeated")
	o.Var(&o.only, "only", "show the `MODEL` of that name alone; may be repeated")
	o.Var(&o.skip, "skip", "leave out what a `PATTERN` names: a model, MODEL.FIELD or a\nkind of finding, with * for any text; may be repeated")
	o.brief = o.Bool("brief", false, "show the overview alone")
	o.clean = o.Bool("all", false, "show models that nothing is found of, too")
	o.examples = o.Int("examples", 1, "how many examples `N` of each finding are shown, 3 at most")
	o.format = o.choice("format", "text", []string{"text", "json", "lines"}, "`FORMAT` of the output: text, json or lines\n(file:line:column: level: …)")
	o.failOn = o.choice("fail-on", "", failLevels, "the mildest `LEVEL` that makes the exit code 1: breaks,\nmisreads (as it is), unjudged (a model with responses that\ncould not be judged), ignores, loose or never")
	o.color = o.options.color()
	o.loose = o.Bool("loose", false, "also show what is declared wider than anything seen")
	o.secrets = o.Bool("show-secrets", false, "do not mask values that look secret")
	o.reading = o.options.reading().parallel(o.options)
	return o
}

func runCheck(e *env, args []string) int {
	o := newCheckOptions(e)
	given, code, err := o.parse(args)
	if err != nil {
		return code
	}
	if !o.read() {
		return exitUsage
	}
	paths := o.paths(given)
	if len(paths) == 0 {
		return o.misuse("%s", o.missing("name the model source and the captures"))
	}
	return o.check(paths)
}

// check runs the command on paths.
func (o *checkOptions) check(paths []input.Path) int {
	if o.failOn.value == "" {
		o.failOn.value = cmp.Or(o.file.FailOn.Value, "misreads")
	}
	if len(o.skip) == 0 {
		o.skip = o.file.Skip.Values
	}
	work := &pairedWork{project: o.project, reading: o.reading}
	if code := work.do(o.options, paths, o.pairs); code != exitOK {
		return code
	}
	files, set, s, pairs, problems := work.files, work.set, work.shape, work.pairs, work.problems
	checked := drift.Check(pairs.Pairs, o.env.second(files, o.reading))
	pairs.Account(set, s, checked)
	result := report.NewCheck(set, s, checked, pairs, problems, report.Options{
		Loose: *o.loose || o.failOn.value == "loose", Secrets: *o.secrets, All: *o.clean, Brief: *o.brief, Examples: min(max(*o.examples, 0), 3),
	})
	result.PassedOver = report.PassedOver{Tests: append([]string{}, files.Tests...), Shipped: append([]string{}, files.Shipped...), Without: files.Without}
	if unused := result.Narrow(o.only, o.skip); len(unused) > 0 {
		var names []string
		for _, m := range set.Models {
			names = append(names, m.Name)
		}
		return o.misuse("nothing goes by %s%s", unused[0], words.Nearest(unused[0], append(names, sortedKinds()...)))
	}
	o.env.tell(problems)
	var err error
	switch o.format.value {
	case "json":
		err = report.JSON(o.env.out, result)
	case "lines":
		err = result.Lines(o.env.out)
	default:
		err = result.Text(o.env.out, o.env.style(o.color.value))
	}
	if err != nil {
		fmt.Fprintf(o.env.err, "vetta check: %v\n", err)
		return exitUsage
	}
	if len(pairs.Pairs) == 0 {
		fmt.Fprintln(o.env.err, "vetta check: nothing could be checked: no model was paired with any response; -pair sets a pair by hand")
		return exitUsage
	}
	if s.Partial {
		return o.partial()
	}
	return whole(files, o.exit(result))
}

// ownFiles says what was passed over, behind what was not found.
func ownFiles(f *input.Files) string {
	if text := (report.PassedOver{Tests: f.Tests, Shipped: f.Shipped, Without: f.Without}).String(); text != "" {
		return "; passed over: " + text
	}
	return ""
}

// exit is the code that the worst level found leads to.
func (o *checkOptions) exit(c *report.Check) int {
	level := slices.Index(failLevels, o.failOn.value)
	if o.failOn.value == "never" {
		return exitOK
	}
	if worst := c.Worst(); worst != "" && slices.Index(failLevels, string(worst)) <= level {
		return exitFindings
	}
	if c.Untold() {
		return exitFindings
	}
	if len(c.Unjudgeable()) > 0 && slices.Index(failLevels, "unjudged") <= level {
		return exitFindings
	}
	return exitOK
}
