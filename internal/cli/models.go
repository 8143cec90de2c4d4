package cli

import (
	"fmt"

	"vetta/internal/input"
	"vetta/internal/memory"
	"vetta/internal/report"
)

var modelsCommand = &command{
	name:    "models",
	args:    "PATH...",
	summary: "show what was read from the source",
	text: `Shows every model that was read: its fields with their keys, types and defaults, how
each is read, the decoding library and its settings and where they were found, and
what could not be followed and why.`,
	example: `vetta models App/`,
}

func init() { modelsCommand.run = runModels }

func runModels(e *env, args []string) int {
	o := newOptions(e, modelsCommand)
	format := o.choice("format", "text", []string{"text", "json"}, "`FORMAT` of the output: text or json")
	color := o.color()
	project := &project{}
	project.config(o)
	paths, code, err := o.parse(args)
	if err != nil {
		return code
	}
	if !project.read() {
		return exitUsage
	}
	in := project.alone(paths, project.file.Models, input.Models)
	if len(in) == 0 {
		return o.misuse("%s", project.missing("name the files or folders with model source"))
	}
	defer memory.Reading()()
	files, set := project.readSource(in)
	problems := report.Problems(files.Problems, set.Problems, nil)
	if len(files.Sources) == 0 {
		return o.nothing("no model source was found in the paths"+ownFiles(files), problems)
	}
	e.tell(problems)
	if format.value == "json" {
		err = report.JSON(e.out, report.NewModels(set, problems))
	} else {
		err = report.ModelsText(e.out, e.style(color.value), set)
	}
	if err != nil {
		fmt.Fprintf(e.err, "vetta models: %v\n", err)
		return exitUsage
	}
	return complete(files, exitOK)
}
