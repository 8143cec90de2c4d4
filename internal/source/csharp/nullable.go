package csharp

import "strings"

// nullRange is a stretch of a file, from a line on, in which annotations of null hold or not.
type nullRange struct {
	line int
	on   bool
}

// nullRanges are those of a file: what the project says, and #nullable in it ("Nullable reference types").
func nullRanges(src string, project bool) []nullRange {
	out := []nullRange{{0, project}}
	if !strings.Contains(src, "nullable") {
		return out
	}
	line := 0
	for text := range strings.Lines(src) {
		line++
		word, rest := directive(strings.TrimRight(text, "\r\n"))
		if word != "nullable" {
			continue
		}
		first, what, _ := strings.Cut(rest, " ")
		if what == "warnings" {
			continue
		}
		switch first {
		case "enable":
			out = append(out, nullRange{line, true})
		case "disable":
			out = append(out, nullRange{line, false})
		case "restore":
			out = append(out, nullRange{line, project})
		}
	}
	return out
}

// annotated says whether annotations of null hold in a line of a file.
func (p *project) annotated(file string, line int32) bool {
	on := false
	for _, r := range p.nulls[file] {
		if r.line <= int(line) {
			on = r.on
		}
	}
	return on
}
