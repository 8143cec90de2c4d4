package report

import (
	"maps"
	"slices"
	"strings"
	"unicode/utf8"

	"vetta/internal/drift/finding"
)

// Style is how text is laid out: with colours or without, wrapped to a width or
// not. The zero Style is plain and does not wrap, so that a line stays a line for
// grep.
type Style struct {
	Color bool
	Width int // 0: lines are as long as they need to be
}

// The colours that text has on a terminal (ECMA-48, SGR).
const (
	bold   = "1"
	faint  = "2"
	red    = "1;31"
	yellow = "33"
	cyan   = "36"
	green  = "32"
)

func (s Style) paint(code, text string) string {
	if !s.Color || text == "" {
		return text
	}
	return "\x1b[" + code + "m" + text + "\x1b[0m"
}

// levelColor is the colour of a level.
func levelColor(l finding.Level) string {
	switch l {
	case finding.Breaks:
		return red
	case finding.Misreads:
		return yellow
	case finding.Ignores:
		return cyan
	}
	return faint
}

// writer writes lines with labels at their left and text that hangs beside them.
type writer struct {
	Style
	strings.Builder
}

// labelled writes text behind a label of a fixed width; lines that do not fit go
// on under the text.
func (w *writer) labelled(indent int, label string, width int, code, text string) {
	pad := strings.Repeat(" ", indent)
	gap := strings.Repeat(" ", max(1, width-utf8.RuneCountInString(label)))
	lines := w.wrap(text, indent+width)
	w.WriteString(pad + w.paint(code, label) + gap + lines[0] + "\n")
	for _, l := range lines[1:] {
		w.WriteString(pad + strings.Repeat(" ", width) + l + "\n")
	}
}

// line writes text, wrapped, behind an indent.
func (w *writer) line(indent int, code, text string) {
	for _, l := range w.wrap(text, indent) {
		w.WriteString(strings.Repeat(" ", indent) + w.paint(code, l) + "\n")
	}
}

// wrap cuts text into lines that fit beside what stands left of them, at spaces
// where there are any.
func (w *writer) wrap(text string, left int) []string {
	room := w.Width - left
	if w.Width == 0 || room < 20 || utf8.RuneCountInString(text) <= room {
		return []string{text}
	}
	var lines []string
	line := ""
	for _, word := range strings.Split(text, " ") {
		for utf8.RuneCountInString(word) > room && line == "" {
			runes := []rune(word)
			lines = append(lines, string(runes[:room]))
			word = string(runes[room:])
		}
		switch {
		case line == "":
			line = word
		case utf8.RuneCountInString(line)+1+utf8.RuneCountInString(word) <= room:
			line += " " + word
		default:
			lines = append(lines, line)
			line = word
			for utf8.RuneCountInString(line) > room {
				runes := []rune(line)
				lines = append(lines, string(runes[:room]))
				line = string(runes[room:])
			}
		}
	}
	return append(lines, line)
}

func sortedNames[V any](m map[string]V) []string { return slices.Sorted(maps.Keys(m)) }
