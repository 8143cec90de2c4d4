// Package cli is the command line: flags, files, exit codes. It computes nothing.
package cli

import (
	"errors"
	"flag"
	"fmt"
	"io"
	"maps"
	"os"
	"slices"
	"sort"
	"strings"
	"sync/atomic"

	"golang.org/x/term"

	"vetta/internal/drift"
	"vetta/internal/report"
	"vetta/internal/shape"
	"vetta/internal/words"
)

// Exit codes.
const (
	exitOK       = 0
	exitFindings = 1 // there are findings of the level asked for, or a trial failed
	exitUsage    = 2 // the command was misused, or nothing could be checked
)

// env is what a command runs in.
type env struct {
	in          io.Reader
	out, err    io.Writer
	interrupted *atomic.Bool // Ctrl-C was pressed while captures were read
	// describe is shown the options of a command that is not run, nil where it is.
	describe func(*options)
}

// command is one of the program's commands.
type command struct {
	name    string
	args    string // what follows the options, for the usage line
	summary string // one line
	text    string // what it does, for help
	example string // lines to type
	run     func(e *env, args []string) int
}

// commands are all commands, in the order that help lists them.
func commands() []*command {
	return []*command{checkCommand, acceptCommand, pairCommand, shapeCommand, modelsCommand, trialCommand, configCommand, demoCommand, completionCommand, versionCommand, helpCommand}
}

// Main runs the program with its arguments, without its name, and answers the exit
// code.
func Main(args []string, in io.Reader, out, errOut io.Writer) int {
	checked := &output{Writer: out}
	if f, ok := out.(*os.File); ok {
		out = &outputFile{checked, f}
	} else {
		out = checked
	}
	code := run(args, in, out, errOut)
	if checked.err != nil && code != exitUsage { // who has told it already ends so
		fmt.Fprintf(errOut, "vetta: what was to be shown could not be written: %v\n", checked.err)
		return exitUsage
	}
	return code
}

// output is what a command writes to: it remembers that something could not be written.
type output struct {
	io.Writer
	err error
}

func (o *output) Write(b []byte) (n int, err error) {
	n, err = o.Writer.Write(b)
	if err != nil && o.err == nil {
		o.err = err
	}
	return n, err
}

// outputFile is output to a file, which may be a terminal.
type outputFile struct {
	*output
	file *os.File
}

// Fd is the file's descriptor.
func (o *outputFile) Fd() uintptr { return o.file.Fd() }

func run(args []string, in io.Reader, out, errOut io.Writer) int {
	e := &env{in: in, out: out, err: errOut, interrupted: &atomic.Bool{}}
	if len(args) == 0 {
		overview(e.err)
		return exitUsage
	}
	switch args[0] {
	case "-h", "-help", "--help":
		overview(e.out)
		return exitOK
	case "-version", "--version":
		return versionCommand.run(e, nil)
	}
	for _, c := range commands() {
		if c.name == args[0] {
			return c.run(e, args[1:])
		}
	}
	var names []string
	for _, c := range commands() {
		names = append(names, c.name)
	}
	fmt.Fprintf(e.err, "vetta: there is no command %q%s\nvetta help lists the commands.\n", args[0], words.Nearest(args[0], names))
	return exitUsage
}

func overview(out io.Writer) {
	fmt.Fprint(out, `Vetta reads the classes that an app decodes responses into, reads captured
responses, and says what would break or falsify decoding.

    vetta COMMAND [options] PATH...

`)
	for _, c := range commands() {
		fmt.Fprintf(out, "    %-10s %s\n", c.name, c.summary)
	}
	fmt.Fprint(out, `
Try it on a project of its own:

    vetta demo

vetta help COMMAND tells more, and vetta help KIND explains a kind of finding.
`)
}

// options are the flags of one command.
type options struct {
	*flag.FlagSet
	command *command
	env     *env
}

func newOptions(e *env, c *command) *options {
	o := &options{FlagSet: flag.NewFlagSet(c.name, flag.ContinueOnError), command: c, env: e}
	o.SetOutput(io.Discard)
	o.Usage = func() {}
	return o
}

// errDone says that a command has nothing left to do: help was shown, or the
// misuse told.
var errDone = errors.New("done")

// parse reads options wherever they stand among the arguments and answers the
// others. What follows -- is no option.
func (o *options) parse(args []string) (paths []string, code int, err error) {
	if o.env.describe != nil {
		o.env.describe(o)
		return nil, exitOK, errDone
	}
	for len(args) > 0 {
		if args[0] == "--" {
			return append(paths, args[1:]...), 0, nil
		}
		if !strings.HasPrefix(args[0], "-") || args[0] == "-" {
			paths, args = append(paths, args[0]), args[1:]
			continue
		}
		if err := o.Parse(args); err != nil {
			if errors.Is(err, flag.ErrHelp) {
				o.help(o.env.out)
				return nil, exitOK, errDone
			}
			return nil, o.misuse("%s%s", o.reword(err), o.near(args[0], err)), errDone
		}
		rest := o.Args()
		// Parse stops behind --, which it swallows.
		if n := len(args) - len(rest); n > 0 && args[n-1] == "--" {
			return append(paths, rest...), 0, nil
		}
		args = rest
	}
	return paths, 0, nil
}

func (o *options) reword(err error) string {
	if name, ok := strings.CutPrefix(err.Error(), "flag provided but not defined: "); ok {
		return fmt.Sprintf("%s has no option %s", o.command.name, name)
	}
	// invalid value "x" for flag -format: reason
	if value, rest, ok := strings.Cut(strings.TrimPrefix(err.Error(), "invalid value "), " for flag "); ok {
		name, reason, _ := strings.Cut(rest, ": ")
		return fmt.Sprintf("%s %s: %s", name, strings.Trim(value, `"`), reason)
	}
	return err.Error()
}

// near suggests the option that a mistyped one is like.
func (o *options) near(arg string, err error) string {
	if !strings.Contains(err.Error(), "not defined") {
		return ""
	}
	name, _, _ := strings.Cut(strings.TrimLeft(strings.TrimPrefix(err.Error(), "flag provided but not defined: "), "-"), "=")
	var names []string
	o.VisitAll(func(f *flag.Flag) { names = append(names, "-"+f.Name) })
	return words.Nearest("-"+name, names)
}

// misuse tells what is wrong with how a command was called.
func (o *options) misuse(format string, args ...any) int {
	fmt.Fprintf(o.env.err, "vetta %s: %s\nvetta %s -h shows how it is used.\n", o.command.name, fmt.Sprintf(format, args...), o.command.name)
	return exitUsage
}

// failed tells an error of the machine.
func (o *options) failed(err error) int {
	fmt.Fprintf(o.env.err, "vetta %s: %s\n", o.command.name, report.Safe(err.Error()))
	return exitUsage
}

func (o *options) help(out io.Writer) {
	c := o.command
	line := "vetta " + c.name
	count := 0
	o.VisitAll(func(*flag.Flag) { count++ })
	if count > 0 {
		line += " [options]"
	}
	if c.args != "" {
		line += " " + c.args
	}
	fmt.Fprintf(out, "%s\n\n%s\n", line, c.text)
	if count > 0 {
		fmt.Fprint(out, "\nOptions, before or behind the paths:\n")
		o.VisitAll(func(f *flag.Flag) {
			value, usage := flag.UnquoteUsage(f)
			name := "-" + f.Name
			if value != "" {
				name += " " + value
			}
			fmt.Fprintf(out, "    %-22s %s\n", name, strings.ReplaceAll(usage, "\n", "\n"+strings.Repeat(" ", 27)))
		})
	}
	if c.example != "" {
		fmt.Fprintf(out, "\nExample:\n    %s\n", strings.ReplaceAll(c.example, "\n", "\n    "))
	}
}

// list is an option that may be given several times.
type list []string

func (l *list) String() string     { return strings.Join(*l, ",") }
func (l *list) Set(s string) error { *l = append(*l, s); return nil }

// choice is an option with few values.
type choice struct {
	value  string
	values []string
}

func (c *choice) String() string { return c.value }
func (c *choice) Set(s string) error {
	for _, v := range c.values {
		if v == s {
			c.value = s
			return nil
		}
	}
	return fmt.Errorf("it is one of %s%s", strings.Join(c.values, ", "), words.Nearest(s, c.values))
}

func (o *options) choice(name, value string, values []string, usage string) *choice {
	c := &choice{value: value, values: values}
	o.Var(c, name, usage)
	return c
}

func (o *options) color() *choice {
	return o.choice("color", "auto", []string{"auto", "always", "never"}, "`WHEN` to colour text: auto (on a terminal, unless NO_COLOR\nis set), always or never")
}

// style is how text is written to the command's output.
func (e *env) style(color string) report.Style {
	s := report.Style{}
	f, ok := e.out.(interface{ Fd() uintptr })
	terminal := ok && term.IsTerminal(int(f.Fd()))
	if terminal {
		if width, _, err := term.GetSize(int(f.Fd())); err == nil && width > 0 {
			s.Width = max(60, width)
		}
	}
	s.Color = color == "always" || color == "auto" && terminal && os.Getenv("NO_COLOR") == "" && os.Getenv("TERM") != "dumb"
	return s
}

// maxTold is how many problems of one source file are told: a file that has more is hardly source.
const maxTold = 20

// tell writes the problems of a run to standard error, one a line.
func (e *env) tell(problems []report.CheckProblem) {
	told := map[string]int{}
	for _, p := range problems {
		if p.What == "source" {
			if told[p.File]++; told[p.File] > maxTold {
				continue
			}
		}
		name, entry := p.File, ""
		switch numbered := p.Entry > 0 && p.What == "capture"; {
		case numbered && p.Line > 0:
			entry = fmt.Sprintf(" (#%d)", p.Entry)
		case numbered:
			name += fmt.Sprintf("#%d", p.Entry)
		}
		if p.Line > 0 {
			name = fmt.Sprintf("%s:%d:%d", name, p.Line, p.Column)
		}
		word := ""
		if p.What == "capture" && p.Line > 0 && !p.Odd && !p.Plain {
			word = "malformed: "
		}
		fmt.Fprintf(e.err, "vetta: %s: %s%s%s\n", report.Safe(name), word, report.Safe(p.Reason), entry)
	}
	for _, file := range slices.Sorted(maps.Keys(told)) {
		if more := told[file] - maxTold; more > 0 {
			fmt.Fprintf(e.err, "vetta: %s: %d more like these; is it source at all?\n", report.Safe(file), more)
		}
	}
}

// tellPassed writes what was passed over of captures to standard error, on one line.
func (e *env) tellPassed(kinds map[string]int) {
	var all []shape.Passed
	for kind, n := range kinds {
		all = append(all, shape.Passed{Kind: kind, Count: int64(n)})
	}
	if text := report.PassedText(all, "vetta: passed over: "); text != "" {
		fmt.Fprintln(e.err, text)
	}
}

func sortedKinds() []string {
	var names []string
	for _, k := range drift.Kinds() {
		names = append(names, k.Name)
	}
	sort.Strings(names)
	return names
}
