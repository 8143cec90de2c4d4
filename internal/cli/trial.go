package cli

import (
	"bufio"
	"errors"
	"fmt"

	"vetta/internal/capture"
	"vetta/internal/decoder"
	"vetta/internal/input"
	"vetta/internal/pairing"
	"vetta/internal/report"
	"vetta/internal/shape"
	"vetta/internal/trial"
	"vetta/internal/wire"
)

var trialCommand = &command{
	name:    "trial",
	args:    "MODELS... DOCUMENT...",
	summary: "decode single documents as the library would",
	text: `Decodes each document as the library would and shows what was sent and what the app
would see side by side, with the error where it throws, and what was lost or changed
on the way. Documents come in the order given; a file may hold one, or several as
captures do: a HAR file, HTTP messages, lines, an archive. - is standard input.
A saved shape among the paths helps to find the type where -model does not say it.
A type that the app decodes within another alone, List<Sailing> say, is told as that
one where the document is one of it.
Exits 1 if a document fails.`,
	example: `vetta trial App/Models captures/sailings-3.json
vetta trial -model '[Sailing]' App sailings.json
vetta trial App board.har -path /v2/sailings -since 2026-03-19
vetta trial -format json -model 'Page<Port>' App ports.ndjson`,
}

func init() { trialCommand.run = runTrial }

func runTrial(e *env, args []string) int {
	o := newOptions(e, trialCommand)
	typ := o.String("model", "", "`TYPE` to decode, as the source would write it: Sailing,\n[Sailing], Page<Port>; with its package where several have\nthe name; without it, what fits best")
	format := o.choice("format", "text", []string{"text", "json"}, "`FORMAT` of the output: text, or json with a line for\neach document")
	color := o.color()
	all := o.Bool("all", false, "show every value, also those of alike elements of a list")
	secrets := o.Bool("show-secrets", false, "do not mask values that look secret")
	reading := o.reading()
	project := o.project()
	project.secrets = secrets
	paths, code, err := o.parse(args)
	if err != nil {
		return code
	}
	if !project.read() {
		return exitUsage
	}
	in := project.documents(paths)
	if len(in) == 0 {
		return o.misuse("%s", project.missing("name the model source and the documents"))
	}
	files, set := project.readModels(in)
	problems := report.Problems(files.Problems, set.Problems, nil)
	switch {
	case len(files.Sources) == 0:
		return o.nothing("no model source was found in the paths"+ownFiles(files), problems)
	case len(files.Captures) == 0:
		return o.nothing("no documents were found in the paths"+ownFiles(files), problems)
	}
	var seen *shape.Shape
	if len(files.Shapes) > 0 {
		c, unread := e.gather(&input.Files{Shapes: files.Shapes}, reading)
		problems = append(problems, report.Problems(unread, nil, nil)...)
		if c != nil {
			seen = c.Shape()
		}
	}
	e.tell(problems)
	matcher := pairing.NewMatcher(set, seen)
	plan := matcher.Match
	if *typ != "" {
		p, err := trial.For(set, *typ)
		if err != nil {
			return o.misuse("-model: %s", unknownModel(err, set))
		}
		for _, line := range namesakes(set, *typ) {
			fmt.Fprintf(e.err, "vetta trial: -model: %s\n", line)
		}
		around, call := matcher.Around(p.Type)
		if around != nil {
			fmt.Fprintf(e.err, "vetta trial: -model: no call decodes %s by itself: documents of %s, decoded at %s, are told as that\n", *typ, around.Declared, call.Pos)
		}
		plan = matcher.Named(p, around)
	}
	out := bufio.NewWriter(e.out)
	style := e.style(color.value)
	shown := report.Options{Secrets: *secrets}
	tried, failed, passed := 0, 0, map[string]int{}
	reader := &capture.Reader{Stdin: e.in}
	for _, f := range files.AsGiven {
		trial.Run(reader, f, reading.want(), plan, func(d *trial.Document) {
			if d.Plan != nil {
				tried++
				d.Outcome = refuse(d)
			}
			if d.Outcome.Err != nil || len(d.Outcome.Differs) > 0 || d.Malformed != nil || d.Plan == nil {
				failed++
			}
			if format.value == "json" {
				err = errors.Join(err, report.NewTrial(d, shown).Line(out))
			} else {
				err = errors.Join(err, report.TrialText(out, d, style, shown, *all))
			}
		}, func(p capture.Problem) {
			err = errors.Join(err, out.Flush()) // what is told stands between lines, and not within a coloured one
			e.tell(report.Problems(nil, nil, []capture.Problem{p}))
		}, func(p capture.Passed) { passed[p.Kind]++ })
	}
	if err = errors.Join(err, out.Flush()); err != nil {
		fmt.Fprintf(e.err, "vetta trial: %v\n", err)
		return exitUsage
	}
	e.tellPassed(passed)
	switch {
	case tried == 0 || files.Unusable():
		return exitUsage
	case failed > 0:
		return exitFindings
	}
	return exitOK
}

// refuse makes nothing known of what a plan cannot follow at all.
func refuse(d *trial.Document) decoder.Outcome {
	if d.Plan.Unclaimed() == "" || d.Plan.Refuses == "" && d.Outcome.Err != nil {
		return d.Outcome
	}
	return decoder.Outcome{Seen: decoder.Seen{Kind: decoder.SeenUnknown}, Unknown: [][]wire.Step{{}}}
}
