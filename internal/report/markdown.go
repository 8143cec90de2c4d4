package report

import (
	"fmt"
	"html"
	"io"
	"strings"
	"unicode/utf8"
)

// MarkdownLimit is how many characters the Markdown of a check has at most: a comment on a pull request takes no more.
const MarkdownLimit = 60_000

// Markdown writes a check for a comment on a pull request: the overview as a table, then the findings, the worst first and
// each folded. What would make it longer than MarkdownLimit is left out, and said.
func (c *Check) Markdown(out io.Writer, _ Writing) error {
	_, err := io.WriteString(out, c.markdown(MarkdownLimit))
	return err
}

func (c *Check) markdown(limit int) string {
	foot := c.footMarkdown()
	// What is said of what was left out takes less than this.
	b := &bounded{limit: limit - utf8.RuneCountInString(foot) - 300}
	b.add(fmt.Sprintf("## Vetta: %s\n\n", mdText(c.verdict())))
	b.add(c.lead() + ".\n\n")
	rows := c.rows()
	left := 0
	if len(rows) > 0 {
		b.add("| in responses | level | field | what is wrong | declared at |\n| ---: | --- | --- | --- | --- |\n")
	}
	table := &bounded{limit: b.limit / 2}
	for _, r := range rows {
		if !table.add(fmt.Sprintf("| %s | %s | %s | %s | %s |\n", r.count(), r.level, mdCode(r.field), mdText(r.brief), mdCode(r.where))) {
			left++
		}
	}
	b.add(table.String())
	if left > 0 {
		b.add(fmt.Sprintf("\n%s of the overview left out here: `vetta check -brief` shows all.\n", areNot(left, "line")))
	}
	b.add("\n")
	left = 0
	for _, r := range rows {
		if !b.add(c.foldMarkdown(r)) {
			left++
		}
	}
	if left > 0 {
		b.rest(fmt.Sprintf("\n%s left out here, for their length: `vetta check` shows all.\n", areNot(left, "finding")))
	}
	b.rest(foot)
	return b.String()
}

// areNot says of how many things that they are not there.
func areNot(n int, noun string) string {
	verb := "are"
	if n == 1 {
		verb = "is"
	}
	return countOf(n, noun) + " " + verb
}

// verdict is the whole check in a few words.
func (c *Check) verdict() string {
	f := c.Total.Findings
	switch {
	case c.Partial:
		return "the run was interrupted"
	case f.Breaks > 0:
		return "what is sent does not fit the models"
	case f.Misreads > 0:
		return "values are lost on the way into the models"
	}
	return "the models fit what is sent"
}

// foldMarkdown is a finding, folded under its line.
func (c *Check) foldMarkdown(r row) string {
	f := r.finding
	var b strings.Builder
	fmt.Fprintf(&b, "<details><summary><b>%s</b> <code>%s</code>: %s, in %s</summary>\n\n", r.level, html.EscapeString(Safe(r.field)), strings.ReplaceAll(html.EscapeString(Safe(f.Title)), "@", "@&#8203;"), r.count())
	text := c.block(f)
	fence := fenceOf(text)
	fmt.Fprintf(&b, "%stext\n%s%s\n\n", fence, text, fence)
	if f.Code != "" && !isShown(f) {
		fence := fenceOf(f.Code)
		fmt.Fprintf(&b, "%s\n%s\n%s\n\n", fence, block(f.Code), fence)
	}
	b.WriteString("</details>\n")
	return b.String()
}

// isShown says whether what can be pasted stands in the words of the change already.
func isShown(f CheckFinding) bool {
	return !strings.Contains(f.Code, "\n") && strings.Contains(f.Suggestion, f.Code)
}

// footMarkdown is what stands behind the findings.
func (c *Check) footMarkdown() string {
	var b strings.Builder
	b.WriteString("\n")
	if l := c.Ledger; l != nil && (l.Accepted > 0 || len(l.Stale)+len(l.Ended) > 0) {
		fmt.Fprintf(&b, "%s accepted by %s", areNot(l.Accepted, "finding"), mdCode(l.File))
		if n := len(l.Stale); n > 0 {
			fmt.Fprintf(&b, "; %s of it stale", areNot(n, "entry"))
		}
		if n := len(l.Ended); n > 0 {
			fmt.Fprintf(&b, "; %s of it over", areNot(n, "entry"))
		}
		b.WriteString(".\n\n")
	}
	if names := c.Unjudgeable(); len(names) > 0 {
		shown := names[:min(len(names), 5)]
		fmt.Fprintf(&b, "%s not judged though there are responses: %s%s.\n\n", areNot(len(names), "model"), mdCode(strings.Join(shown, ", ")), more(len(names)-len(shown)))
	}
	if n := c.Narrowed; n != nil {
		fmt.Fprintf(&b, "%s and %s left out, by -only and -skip.\n\n", Plural(int64(n.Models), "model"), areNot(n.Findings, "finding"))
	}
	t := c.Total
	fmt.Fprintf(&b, "<sub>%s from %s against %s in %s", Plural(t.Responses, "response"), countOf(t.Captures, "capture"), countOf(t.Declared, "model"), countOf(t.SourceFiles, "source file"))
	if t.Problems > 0 {
		fmt.Fprintf(&b, "; %s could not be read whole", countOf(t.Problems, "input"))
	}
	b.WriteString("</sub>\n")
	return b.String()
}

func more(n int) string {
	if n <= 0 {
		return ""
	}
	return fmt.Sprintf(" and %d more", n)
}

// bounded takes text up to a number of characters.
type bounded struct {
	strings.Builder
	used, limit int
}

// add takes a text as a whole, or leaves it out.
func (b *bounded) add(text string) bool {
	n := utf8.RuneCountInString(text)
	if b.used+n > b.limit {
		return false
	}
	b.rest(text)
	return true
}

// rest takes a text for which room was left.
func (b *bounded) rest(text string) {
	b.used += utf8.RuneCountInString(text)
	b.WriteString(text)
}

// mdMarks are the characters that mean something in a line of Markdown (CommonMark 0.31, with tables), each escaped by a
// backslash, and those of HTML.
var mdMarks = func() *strings.Replacer {
	// What is written behind an at sign is somebody's name to those who show comments: a space without width keeps it none.
	pairs := []string{"&", "&amp;", "<", "&lt;", ">", "&gt;", "\n", " ", "@", "@&#8203;"}
	for _, c := range "\\`*_{}[]()#+!|~$" {
		pairs = append(pairs, string(c), "\\"+string(c))
	}
	return strings.NewReplacer(pairs...)
}()

// mdText is text in a line of Markdown.
func mdText(text string) string { return mdMarks.Replace(Safe(text)) }

// mdCode is text as code in a line, or in the cell of a table, where a bar is one only behind a backslash.
func mdCode(text string) string {
	if text == "" {
		return ""
	}
	text = strings.ReplaceAll(Safe(text), "|", "\\|")
	mark := strings.Repeat("`", longestRun(text, '`')+1)
	if len(mark) > 1 {
		return mark + " " + text + " " + mark
	}
	return mark + text + mark
}

// fenceOf is what code is put between that has text in it.
func fenceOf(text string) string { return strings.Repeat("`", max(3, longestRun(text, '`')+1)) }

func longestRun(text string, of rune) (most int) {
	n := 0
	for _, c := range text {
		if n++; c != of {
			n = 0
		}
		most = max(most, n)
	}
	return most
}
