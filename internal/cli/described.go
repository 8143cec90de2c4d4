package cli

import (
	"flag"
	"slices"
	"strings"

	"vetta/internal/report"
)

// described is what is known of a command without running it: what completion and the manual are made of.
type described struct {
	*command
	options []describedOption
}

// describedOption is an option of a command.
type describedOption struct {
	name    string
	value   string   // what it takes, in capitals; "" for a switch
	usage   string   // in lines
	choices []string // that it takes one of, nil for whatever
	several bool     // it may be given more than once
}

// describe describes the commands, in the order that help lists them: each is called with nothing but to say its options.
func describe() (all []described) {
	for _, c := range commands() {
		d := described{command: c}
		c.run(&env{describe: func(o *options) {
			o.VisitAll(func(f *flag.Flag) { d.options = append(d.options, optionOf(f)) })
		}}, nil)
		all = append(all, d)
	}
	return all
}

func optionOf(f *flag.Flag) describedOption {
	value, usage := flag.UnquoteUsage(f)
	o := describedOption{name: f.Name, value: value, usage: usage}
	switch v := f.Value.(type) {
	case *choice:
		o.choices = v.values
	case formatOption:
		o.choices, o.several = report.FormatNames(), true
	case *list, fileOption:
		o.several = true
	}
	o.several = o.several || strings.Contains(strings.Join(strings.Fields(usage), " "), "may be repeated")
	return o
}

// line is what the option is for, in a line.
func (o describedOption) line() string { return strings.Join(strings.Fields(o.usage), " ") }

// takesFile says whether the option takes a file or a folder.
func (o describedOption) takesFile() bool {
	return slices.Contains([]string{"PATH", "FILE", "DIR"}, o.value)
}

// words are what may stand behind a command in place of paths, nil for paths.
func (d described) words() []string {
	switch d.name {
	case "help":
		names := sortedKinds()
		for _, c := range commands() {
			names = append(names, c.name)
		}
		return names
	case "completion":
		return shells
	case "version":
		return []string{}
	}
	return nil
}
