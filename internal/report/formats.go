package report

import (
	"encoding/xml"
	"io"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"vetta/internal/drift/finding"
)

// Format is a format that a check is written in.
type Format struct {
	Name    string
	Endings []string // of files that hold it, the usual ones first; another format may have them too
	Write   func(c *Check, out io.Writer, how Writing) error
}

// Writing is what formats need to know beside the check.
type Writing struct {
	Style   Style // of text
	Version string
	// FailOn is the mildest level that makes the check fail, "" for none, Unjudged whether what could not be judged does.
	FailOn   finding.Level
	Unjudged bool
}

// fails says whether a finding makes the check fail.
func (w Writing) fails(l finding.Level) bool { return w.FailOn != "" && l.Rank() <= w.FailOn.Rank() }

// Formats are all formats, text first.
var Formats = []Format{
	{"text", []string{".txt", ".log"}, func(c *Check, out io.Writer, how Writing) error { return c.Text(out, how.Style) }},
	{"json", []string{".json"}, func(c *Check, out io.Writer, _ Writing) error { return JSON(out, c) }},
	{"lines", []string{".txt", ".log"}, func(c *Check, out io.Writer, _ Writing) error { return c.Lines(out) }},
	{"sarif", []string{".sarif", ".json"}, (*Check).SARIF},
	{"junit", []string{".xml"}, (*Check).JUnit},
	{"markdown", []string{".md", ".markdown"}, (*Check).Markdown},
	{"html", []string{".html", ".htm"}, (*Check).HTML},
}

// FormatNames are the names of all formats.
func FormatNames() (names []string) {
	for _, f := range Formats {
		names = append(names, f.Name)
	}
	return names
}

// FormatOf is the format of a name, nil for none.
func FormatOf(name string) *Format {
	at := slices.IndexFunc(Formats, func(f Format) bool { return f.Name == name })
	if at < 0 {
		return nil
	}
	return &Formats[at]
}

// FormatFor is the format of a file by its ending, nil where that tells none.
func FormatFor(file string) *Format {
	ending := strings.ToLower(path.Ext(filepath.ToSlash(file)))
	at := slices.IndexFunc(Formats, func(f Format) bool { return slices.Contains(f.Endings, ending) })
	if at < 0 {
		return nil
	}
	return &Formats[at]
}

// Holds says whether a file of that name may hold the format: whether its ending is one of it, or of none.
func (f *Format) Holds(file string) bool {
	return FormatFor(file) == nil || slices.Contains(f.Endings, strings.ToLower(path.Ext(filepath.ToSlash(file))))
}

// reportBeginnings are how reports of check begin.
var reportBeginnings = []string{
	"{\n  \"layout\": 1,\n  \"command\": \"check\"", "{\n  \"$schema\": \"" + sarifSchema, xml.Header + "<testsuites name=\"" + junitName + "\"", "## Vetta: ", "<!doctype html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n",
}

// IsReport says whether a file is one that check has written, by how it begins, or is not there.
func IsReport(path string) bool {
	f, err := os.Open(path)
	if err != nil {
		return true
	}
	defer f.Close()
	head := make([]byte, 512)
	n, _ := io.ReadFull(f, head)
	return n == 0 || slices.ContainsFunc(reportBeginnings, func(begins string) bool { return strings.HasPrefix(string(head[:n]), begins) })
}
