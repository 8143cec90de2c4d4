package cli

import (
	"fmt"
	"strings"

	"vetta/internal/drift"
)

// roff is text in a manual page: what begins a line with a dot or an apostrophe is text all the same.
func roff(text string) string {
	text = strings.NewReplacer(`\`, `\e`, "-", `\-`).Replace(text)
	lines := strings.Split(text, "\n")
	for i, line := range lines {
		if strings.HasPrefix(line, ".") || strings.HasPrefix(line, "'") {
			lines[i] = `\&` + line
		}
	}
	var b strings.Builder
	for _, c := range strings.Join(lines, "\n") {
		if c > '~' {
			fmt.Fprintf(&b, `\[u%04X]`, c)
			continue
		}
		b.WriteRune(c)
	}
	return b.String()
}

// manual is the manual page, vetta(1), in the man macros of roff: made of what -h shows.
func manual() string {
	var b strings.Builder
	fmt.Fprintf(&b, ".TH VETTA 1 \"\" \"Vetta %s\" \"User Commands\"\n.SH NAME\nvetta \\- hold the classes that an app decodes responses into against captured responses\n.SH SYNOPSIS\n.B vetta\n.I COMMAND\n[options]\n.I PATH...\n.SH DESCRIPTION\n", version)
	b.WriteString(roff("Vetta reads the classes that an app decodes responses into, reads captured responses, and says what would break or falsify decoding.") + "\n.SH COMMANDS\n")
	for _, d := range describe() {
		name := "vetta " + d.name
		if len(d.options) > 0 {
			name += " [options]"
		}
		if d.args != "" {
			name += " " + d.args
		}
		fmt.Fprintf(&b, ".SS \"%s\"\n%s\n", roff(name), roff(d.text))
		for _, o := range d.options {
			fmt.Fprintf(&b, ".TP\n.B \\-%s", roff(o.name))
			if o.value != "" {
				fmt.Fprintf(&b, " \\fI%s\\fR", roff(o.value))
			}
			fmt.Fprintf(&b, "\n%s\n", roff(o.line()))
		}
		if d.example != "" {
			fmt.Fprintf(&b, ".PP\nExample:\n.PP\n.nf\n.RS\n%s\n.RE\n.fi\n", roff(d.example))
		}
	}
	b.WriteString(".SH KINDS OF FINDING\n")
	for _, k := range drift.Kinds() {
		fmt.Fprintf(&b, ".TP\n.B %s\n%s: %s\n", roff(k.Name), k.Level, roff(k.Title))
	}
	b.WriteString(`.SH EXIT STATUS
.TP
.B 0
There are no findings of the level asked for.
.TP
.B 1
There are, or a trial failed.
.TP
.B 2
The command was misused, or not all that was asked for could be read.
.SH FILES
.TP
.B vetta.toml
What a project says once: where its models and captures are, which belong together. Looked for in the folder and those around it.
.TP
.B vetta.accepted.toml
Which findings are accepted, and why; written by
.BR "vetta accept" .
`)
	return b.String()
}
