package cli

import (
	"bytes"
	"fmt"
	"io"
	"path/filepath"
	"strings"

	"vetta/internal/report"
	"vetta/internal/whole"
	"vetta/internal/words"
)

// reports are the formats that a check is written in, and the files that they go to: -format and -o, as often and in
// whatever order they were given.
type reports struct {
	given []reportOption
	out   *report.Format // of standard output
	to    []reportFile
}

// reportOption is a -format, or an -o.
type reportOption struct {
	format string
	file   string // "" for a -format
}

type reportFile struct {
	format *report.Format
	path   string
}

// formatOption and fileOption are the two options as package flag has them.
type (
	formatOption struct{ *reports }
	fileOption   struct{ *reports }
)

func (f formatOption) String() string { return "text" }
func (f formatOption) Set(name string) error {
	if report.FormatOf(name) == nil {
		return fmt.Errorf("it is one of %s%s", strings.Join(report.FormatNames(), ", "), words.Nearest(name, report.FormatNames()))
	}
	f.given = append(f.given, reportOption{format: name})
	return nil
}

func (f fileOption) String() string { return "" }
func (f fileOption) Set(name string) error {
	if name == "" || name == "-" {
		return fmt.Errorf("it is no file: what -format says goes to standard output without it")
	}
	f.given = append(f.given, reportOption{file: name})
	return nil
}

func (o *options) reports() *reports {
	r := &reports{out: report.FormatOf("text")}
	o.Var(formatOption{r}, "format", "`FORMAT` of the output, or of the -o behind it: text, json,\nlines (file:line:column: level: …), sarif, junit,\nmarkdown or html; may be repeated with -o")
	o.Var(fileOption{r}, "o", "write a report to `FILE`, too, in the format of its ending\n(.sarif, .xml for junit, .md, .html, .json, .txt) or of the\n-format before it; may be repeated")
	return r
}

// settle says which format goes where: a -format goes to the file of the next -o whose ending it may have, and what goes to
// none to standard output.
func (r *reports) settle() error {
	r.out, r.to = nil, nil
	var waits *report.Format
	free := func() error {
		if waits != nil && r.out != nil {
			return fmt.Errorf("-format %s and -format %s both go to standard output: put -o FILE behind one of them", r.out.Name, waits.Name)
		}
		if waits != nil {
			r.out, waits = waits, nil
		}
		return nil
	}
	seen := map[string]bool{}
	for _, g := range r.given {
		if g.file == "" {
			if err := free(); err != nil {
				return err
			}
			waits = report.FormatOf(g.format)
			continue
		}
		if seen[filepath.Clean(g.file)] {
			return fmt.Errorf("two reports go to %s", g.file)
		}
		seen[filepath.Clean(g.file)] = true
		f := report.FormatFor(g.file)
		switch {
		case waits != nil && waits.Holds(g.file):
			f, waits = waits, nil
		case f == nil:
			return fmt.Errorf("-o %s: its ending tells no format: put -format before it, one of %s", g.file, strings.Join(report.FormatNames(), ", "))
		}
		r.to = append(r.to, reportFile{f, g.file})
	}
	if err := free(); err != nil {
		return err
	}
	if r.out == nil {
		r.out = report.FormatOf("text")
	}
	return nil
}

// files are the paths of those that are written.
func (r *reports) files() (paths []string) {
	for _, f := range r.to {
		paths = append(paths, filepath.Clean(f.path))
	}
	return paths
}

// write writes a check wherever it goes: the files first, all or none.
func (r *reports) write(out io.Writer, c *report.Check, how report.Writing) error {
	if err := r.writeFiles(c, how); err != nil {
		return err
	}
	return r.out.Write(c, out, how)
}

func (r *reports) writeFiles(c *report.Check, how report.Writing) error {
	how.Style = report.Style{}
	var files []whole.File
	for _, f := range r.to {
		var b bytes.Buffer
		if err := f.format.Write(c, &b, how); err != nil {
			return err
		}
		files = append(files, whole.File{Path: f.path, Data: b.Bytes()})
	}
	return whole.Write(files...)
}
