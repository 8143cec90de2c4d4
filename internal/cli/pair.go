package cli

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/config"
	"vetta/internal/drift"
	"vetta/internal/model"
	"vetta/internal/pairing"
	"vetta/internal/report"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

var pairCommand = &command{
	name:    "pair",
	args:    "PATH...",
	summary: "show which model is decoded from which responses, and why",
	text: `Shows every pairing of a type with responses, or with requests that it is sent as, with
what speaks for it, how sure it is, and which type comes next; then what stays alone, and
why. -write puts the pairings into vetta.toml, where check and trial find them, each with
what spoke for it; those that it has already stay as they are.`,
	example: `vetta pair App/ captures/
vetta pair App captures -pair 'Sailing=GET /v2/sailings#$.sailings[*]'
vetta pair App captures -write && vetta check App captures`,
}

func init() { pairCommand.run = runPair }

func runPair(e *env, args []string) int {
	o := newOptions(e, pairCommand)
	project := o.project()
	var set list
	o.Var(&set, "pair", "`PAIR` a type with responses by hand, as check has it; may be\nrepeated")
	format := o.choice("format", "text", []string{"text", "json"}, "`FORMAT` of the output: text or json")
	color := o.color()
	write := o.Bool("write", false, "put the pairings into vetta.toml, that of this folder where\nthere is none yet")
	reading := o.reading().parallel(o)
	given, code, err := o.parse(args)
	if err != nil {
		return code
	}
	if !project.read() {
		return exitUsage
	}
	paths := project.paths(given)
	if len(paths) == 0 {
		return o.misuse("%s", project.missing("name the model source and the captures"))
	}
	if *write && *project.name == noConfig {
		return o.misuse("-write needs a file: name it with -config")
	}
	work := &pairedWork{project: project, reading: reading}
	if code := work.do(o, paths, set); code != exitOK {
		return code
	}
	// Which models are judged is all that matters here, and not worth a second reading.
	once := func(*shape.Endpoint, func(*wire.Value, func([]wire.Step) shape.Example)) bool { return false }
	checked := drift.Check(work.pairs.Pairs, drift.Second{Again: once})
	work.pairs.Account(work.set, work.shape, checked)
	e.tell(work.problems)
	r := report.NewPairs(work.shape, work.pairs, work.problems)
	if format.value == "json" {
		err = report.JSON(e.out, r)
	} else {
		err = r.Text(e.out, e.style(color.value))
	}
	if err != nil {
		fmt.Fprintf(e.err, "vetta pair: %v\n", err)
		return exitUsage
	}
	if *write {
		if err := project.writePairs(work.pairs, work.set); err != nil {
			fmt.Fprintf(e.err, "vetta pair: %s could not be written: %v\n", config.Name, err)
			return exitUsage
		}
	}
	if work.shape.Partial {
		return o.partial()
	}
	return complete(work.files, exitOK)
}

// writePairs puts pairs into the file of a project.
func (p *project) writePairs(r *pairing.Result, set *model.Set) error {
	file := p.file
	if file.Path == "" {
		file.Path = config.Name
	}
	var pairs []config.Noted
	for _, s := range r.Sure() {
		n := config.Noted{Pair: config.Pair{Type: p.typeOf(s, set), Captures: file.From(s.Endpoint.Name), Place: s.Place.Path()}, Note: string(s.Sureness) + ": " + strings.Join(s.Evidence, ", ")}
		if n.Place == "$" {
			n.Place = ""
		}
		same := slices.ContainsFunc(pairs, func(other config.Noted) bool { return other.Pair == n.Pair })
		if !same && !byFile(s) {
			pairs = append(pairs, n)
		}
	}
	added, err := file.Add(pairs)
	if err == nil {
		fmt.Fprintf(p.options.env.err, "vetta pair: %s: %d added, %d known\n", report.Safe(file.Path), added, len(r.Pairs)-added)
	}
	return err
}

// typeOf is the type of a pair as the file names it: with where it is declared, where another model has the
// name of one that it names.
func (p *project) typeOf(s pairing.Sure, set *model.Set) string {
	declared := s.Plan.Declared
	if len(namesakes(set, declared)) == 0 {
		return declared
	}
	in := ""
	s.Plan.Type.Walk(func(t *model.Type) {
		if t.Model != nil && in == "" {
			in = t.Model.Pos.File
		}
	})
	return declared + "@" + p.file.From(in)
}

// byFile says whether the file itself has set a pair.
func byFile(s pairing.Sure) bool {
	return slices.ContainsFunc(s.Evidence, func(text string) bool {
		return strings.HasPrefix(text, pairing.SetBy) && text != pairing.SetBy+byOption
	})
}
