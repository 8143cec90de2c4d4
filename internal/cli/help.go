package cli

import (
	"fmt"
	"io"
	"strings"

	"vetta/internal/drift"
	"vetta/internal/drift/finding"
	"vetta/internal/words"
)

var helpCommand = &command{
	name:    "help",
	args:    "[COMMAND | KIND]",
	summary: "explain a command or a kind of finding",
	text:    "Explains a command, or a kind of finding by the name that output gives it.",
	example: "vetta help check\nvetta help missing-key\nvetta help -man > vetta.1 && man ./vetta.1",
}

func init() {
	helpCommand.run = func(e *env, args []string) int {
		o := newOptions(e, helpCommand)
		man := o.Bool("man", false, "write the manual page, vetta(1), of all commands")
		rest, code, err := o.parse(args)
		if err != nil {
			return code
		}
		if *man {
			fmt.Fprint(e.out, manual())
			return exitOK
		}
		if len(rest) == 0 {
			overview(e.out)
			fmt.Fprint(e.out, "\nKinds of finding, by level:\n")
			for _, k := range drift.Kinds() {
				fmt.Fprintf(e.out, "    %-8s %-18s %s\n", k.Level, k.Name, k.Title)
			}
			return exitOK
		}
		for _, c := range commands() {
			if c.name == rest[0] {
				return c.run(e, []string{"-h"})
			}
		}
		for _, k := range drift.Kinds() {
			if k.Name == rest[0] {
				explain(e.out, k)
				return exitOK
			}
		}
		names := sortedKinds()
		for _, c := range commands() {
			names = append(names, c.name)
		}
		return o.misuse("there is no command or kind of finding %q%s", rest[0], words.Nearest(rest[0], names))
	}
}

// explain writes what a kind of finding means.
func explain(out io.Writer, k *finding.Kind) {
	fmt.Fprintf(out, "%s (%s): %s\n\n%s\n", k.Name, k.Level, k.Title, k.Text)
	indented := strings.NewReplacer("\n", "\n    ")
	for _, e := range k.Examples {
		beside := ""
		if e.Posted {
			beside = ", beside accepted requests"
		}
		fmt.Fprintf(out, "\nIn %s%s:\n    %s\n    %s\n", e.In, beside, indented.Replace(e.Code), indented.Replace(e.Sent))
	}
	fmt.Fprintf(out, "\nWhat to do:\n    %s\n", indented.Replace(k.Fix))
}
