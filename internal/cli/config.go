package cli

import (
	"fmt"
	"io"
	"maps"
	"slices"
	"strings"

	"vetta/internal/config"
	"vetta/internal/report"
)

var configCommand = &command{
	name:    "config",
	args:    "[PATH...]",
	summary: "show what vetta.toml says, and what is in force",
	text: `Shows every value that check, pair, shape, models and trial take, and where it comes from:
an option, vetta.toml, or what holds where nobody says anything. It takes the options of
check, so that it can be asked what one of them changes. Mistakes in vetta.toml are told
with their line and column, and exit with 2.`,
	example: `vetta config
vetta config -fail-on breaks -pair 'Sailing=GET /v2/sailings#$.sailings[*]'`,
}

func init() { configCommand.run = runConfig }

// inForce is a value that commands take, and where it comes from.
type inForce struct {
	Name   string   `json:"name"`
	Values []string `json:"values"`
	From   string   `json:"from"` // FILE:LINE:COLUMN, "option", or "by default"
}

// where values come from that vetta.toml does not say.
const (
	fromOption = "option"
	byDefault  = "by default"
)

func runConfig(e *env, args []string) int {
	o := newOptions(e, configCommand)
	project := o.project()
	var pairs, skip list
	o.Var(&pairs, "pair", "see check")
	o.Var(&skip, "skip", "see check")
	failOn := o.choice("fail-on", "", failLevels, "`LEVEL`, see check")
	format := o.choice("format", "text", []string{"text", "json"}, "`FORMAT` of the output: text or json")
	given, code, err := o.parse(args)
	if err != nil {
		return code
	}
	if !project.read() {
		return exitUsage
	}
	f := project.file
	var all []inForce
	add := func(name string, option []string, said config.Listed, none string) {
		v := inForce{name, option, fromOption}
		switch {
		case len(option) > 0:
		case len(said.Values) > 0:
			v.Values, v.From = said.Values, said.Pos.String()
		default:
			v.Values, v.From = []string{none}, byDefault
		}
		all = append(all, v)
	}
	if len(given) > 0 {
		all = append(all, inForce{"paths", given, fromOption})
	}
	if len(given) == 0 || len(project.models) > 0 {
		add("models", project.models, f.Models, "none: name them")
	}
	if len(given) == 0 || len(project.captures) > 0 {
		add("captures", project.captures, f.Captures, "none: name them")
	}
	add("pass-over", nil, f.PassOver, "what was built, dependencies, tests")
	add("skip", skip, f.Skip, "nothing")
	add("secrets", nil, f.Secrets, "keys and values that look secret")
	level := config.Listed{Pos: f.FailOn.Pos}
	if f.FailOn.Value != "" {
		level.Values = []string{f.FailOn.Value}
	}
	add("fail-on", slices.DeleteFunc([]string{failOn.value}, func(s string) bool { return s == "" }), level, "misreads")
	manual, err := project.pairs(pairs)
	if err != nil {
		return o.misuse("-pair: %v", err)
	}
	for _, m := range manual {
		from := m.By
		if from == byOption {
			from = fromOption
		}
		all = append(all, inForce{"pair", []string{config.Pair{Type: m.Type, Captures: m.Glob, Place: m.Place}.String()}, from})
	}
	for _, d := range f.Decoders {
		values := []string{d.Path, d.Library}
		for _, name := range slices.Sorted(maps.Keys(d.Settings)) {
			values = append(values, name+" "+d.Settings[name])
		}
		all = append(all, inForce{"decoder", values, d.Pos.String()})
	}
	if name := config.FindLedger("."); name != "" {
		all = append(all, inForce{"accepted", []string{fromHere(name)}, byDefault})
	} else {
		add("accepted", nil, config.Listed{}, "nothing: vetta accept writes "+config.LedgerName)
	}
	if format.value == "json" {
		err = report.JSON(e.out, struct {
			Layout  int       `json:"layout"`
			Command string    `json:"command"`
			File    string    `json:"file"`
			Values  []inForce `json:"values"`
		}{report.LayoutVersion, "config", f.Path, all})
	} else {
		err = configText(e.out, f.Path, all)
	}
	if err != nil {
		fmt.Fprintf(e.err, "vetta config: %v\n", err)
		return exitUsage
	}
	return exitOK
}

// configText writes values in columns.
func configText(out io.Writer, file string, all []inForce) error {
	var b strings.Builder
	if file == "" {
		b.WriteString("there is no " + config.Name + " in this folder or around it\n\n")
	} else {
		b.WriteString(file + "\n\n")
	}
	width := 0
	texts := make([]string, len(all))
	for i, v := range all {
		texts[i] = report.Safe(strings.Join(v.Values, ", "))
		width = max(width, min(len(texts[i]), 56))
	}
	for i, v := range all {
		fmt.Fprintf(&b, "%-10s %-*s  %s\n", v.Name, width, texts[i], v.From)
	}
	_, err := io.WriteString(out, b.String())
	return err
}
