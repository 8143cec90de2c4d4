package cli

import (
	"bufio"
	"bytes"
	"errors"
	"fmt"

	"vetta/internal/input"
	"vetta/internal/report"
	"vetta/internal/shape"
	"vetta/internal/whole"
	"vetta/internal/wire"
)

var shapeCommand = &command{
	name:    "shape",
	args:    "PATH...",
	summary: "show the structure of responses, or save it",
	text: `Shows the structure of the responses as a tree: what is a list, what is nested, which
keys are not in every element, where a whole number is sometimes a fraction, what is
null; with counts, ranges or distinct values, and an example. With -o it saves the
shape, which check and shape read in place of captures: it keeps counts and places,
and values only where they are few and do not look secret. - is standard input.`,
	example: `vetta shape captures/
vetta shape -place '$.sailings[*]' board.har -path /v2/sailings
curl -i https://api.saltmere.example/v2/ports | vetta shape -
vetta shape -o saltmere.shape captures/ && vetta check App/ saltmere.shape`,
}

func init() { shapeCommand.run = runShape }

func runShape(e *env, args []string) int {
	o := newOptions(e, shapeCommand)
	format := o.choice("format", "text", []string{"text", "json"}, "`FORMAT` of the output: text or json")
	color := o.color()
	place := o.String("place", "", "`JSONPATH` at which to start further in")
	save := o.String("o", "", "`FILE` to save the shape in, in place of showing it; - for\nstandard output")
	values := o.choice("values", "few", []string{"few", "none"}, "`WHICH` values -o keeps: few, where a place has few and they\ndo not look secret, or none")
	secrets := o.Bool("show-secrets", false, "do not mask values that look secret")
	reading := o.reading().parallel(o)
	project := &project{secrets: secrets}
	project.config(o)
	paths, code, err := o.parse(args)
	if err != nil {
		return code
	}
	if !project.read() {
		return exitUsage
	}
	in := project.alone(paths, project.file.Captures, input.Captures)
	if len(in) == 0 {
		return o.misuse("%s", project.missing("name the captures"))
	}
	files := project.find(in)
	if *save != "" && overwritten(files, []string{*save}) != "" {
		return o.misuse("-o %s is one of what is read: name another file", report.Safe(*save))
	}
	c, problems := e.gather(files, reading)
	if c == nil {
		return o.nothing("no captures were found in the paths", report.Problems(problems, nil, nil))
	}
	if c.Documents() == 0 {
		s := c.Shape()
		return o.nothing("no capture could be read"+report.PassedText(s.Passed, ": "), report.Problems(problems, nil, s.Problems))
	}
	if *save != "" {
		return complete(files, e.saveShape(o, c, *save, report.Problems(problems, nil, nil), *secrets, values.value == "none"))
	}
	s := c.Shape()
	all := report.Problems(problems, nil, s.Problems)
	e.tell(all)
	r := report.NewShape(s, *place, all, report.Options{Secrets: *secrets})
	if len(r.Endpoints) == 0 {
		return o.misuse("no response has the place %s", *place)
	}
	if format.value == "json" {
		err = report.JSON(e.out, r)
	} else {
		err = r.Text(e.out, e.style(color.value))
	}
	if err != nil {
		fmt.Fprintf(e.err, "vetta shape: %v\n", err)
		return exitUsage
	}
	if s.Partial {
		return o.partial()
	}
	return complete(files, exitOK)
}

// saveShape writes a collection to a file, all of it or nothing.
func (e *env) saveShape(o *options, c *shape.Collection, name string, problems []report.CheckProblem, secrets, none bool) int {
	secret := func(steps []wire.Step, literal string) bool {
		return none && !shape.IsName(steps) || !secrets && report.Mask(steps, literal) != literal
	}
	problems = append(problems, report.Problems(nil, nil, c.Problems())...)
	if name == input.Stdin {
		out := bufio.NewWriter(e.out)
		if err := errors.Join(c.Save(out, secret), out.Flush()); err != nil {
			fmt.Fprintf(e.err, "vetta shape: the shape could not be written: %v\n", err)
			return exitUsage
		}
		e.tell(problems)
		return o.saved(c)
	}
	var out bytes.Buffer
	err := c.Save(&out, secret)
	if err == nil {
		err = whole.Write(whole.File{Path: name, Data: out.Bytes()})
	}
	if err != nil {
		fmt.Fprintf(e.err, "vetta shape: %s could not be written: %v\n", report.Safe(name), err)
		return exitUsage
	}
	e.tell(problems)
	fmt.Fprintf(e.out, "%s holds the shape of %s in %s\n", report.Safe(name), report.Plural(c.Documents(), "response"), report.Plural(int64(len(c.Captures())), "capture"))
	return o.saved(c)
}

// saved is the exit code when a shape was saved.
func (o *options) saved(c *shape.Collection) int {
	if c.Partial() {
		return o.partial()
	}
	return exitOK
}
