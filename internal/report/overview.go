package report

import (
	"encoding/json"
	"fmt"
	"path"
	"path/filepath"
	"regexp"
	"sort"
	"strings"
	"unicode/utf8"

	"vetta/internal/drift"
	"vetta/internal/drift/finding"
)

// row is a finding in the overview.
type row struct {
	level            finding.Level
	responses, of    int64
	exact            bool
	field, brief, at string
	where            string // at, with its whole path
	model            string // or the type of a whole response
	finding          CheckFinding
}

// overview says how the responses fare, then each fault in a line, the worst first.
func (c *Check) overview(w *writer) {
	t := c.Total
	code := red
	if t.WouldNotDecode.Responses == 0 {
		code = green
	}
	w.line(0, code, c.lead())
	rows := c.rows()
	var widths [4]int
	for _, r := range rows {
		for i, text := range []string{r.count(), string(r.level), r.field, r.brief} {
			widths[i] = max(widths[i], utf8.RuneCountInString(text))
		}
	}
	widths[2], widths[3] = min(widths[2], 44), min(widths[3], 48)
	if w.Width > 0 { // what is left beside the rest is for the words
		widths[3] = max(16, min(widths[3], w.Width-widths[0]-widths[1]-widths[2]-32))
	}
	for _, r := range rows {
		field, brief := cell(short(Safe(r.field), widths[2]), widths[2]), short(Safe(r.brief), widths[3])
		w.WriteString(fmt.Sprintf("  %*s  %s  %s  ", widths[0], r.count(), w.paint(levelColor(r.level), cell(string(r.level), widths[1])), field))
		at := Safe(r.at)
		if w.Width > 0 { // of a place that does not fit, the file is what tells
			at = shortLeft(at, max(12, w.Width-widths[0]-widths[1]-widths[2]-widths[3]-10))
		}
		w.WriteString(cell(brief, widths[3]) + "  " + w.paint(faint, at) + "\n")
	}
	w.WriteString("\n")
}

// lead is the whole check in a line.
func (c *Check) lead() string {
	t := c.Total
	text := fmt.Sprintf("%s: %s, %s in %s",
		t.WouldNotDecode.lost(t.Checked), countOf(t.Findings.Breaks, "break"), countOf(t.Findings.Misreads, "misread"), Plural(int64(t.Models), "model"))
	if c.Ledger != nil && c.Ledger.Accepted > 0 {
		text += fmt.Sprintf("; %d accepted", c.Ledger.Accepted)
	}
	return text
}

// shortLeft cuts a text at its beginning.
func shortLeft(text string, limit int) string {
	if runes := []rune(text); len(runes) > limit {
		return "…" + string(runes[len(runes)-limit+1:])
	}
	return text
}

// countOf writes a number with its noun.
func countOf(n int, noun string) string { return Plural(int64(n), noun) }

func (r row) count() string {
	if r.exact {
		return fmt.Sprintf("%d/%d", r.responses, r.of)
	}
	return fmt.Sprintf("≥%d/%d", r.responses, r.of)
}

// rows are the faults, the worst first: by level, then by how many responses they are in.
func (c *Check) rows() (rows []row) {
	for _, s := range c.subjects() {
		for _, f := range *s.findings {
			if faults[f.Level] || f.Level == finding.Loose && c.options.Loose {
				rows = append(rows, c.row(s.name, f))
			}
		}
	}
	sort.SliceStable(rows, func(i, k int) bool {
		a, b := rows[i], rows[k]
		if x, y := a.level.Rank(), b.level.Rank(); x != y {
			return x < y
		}
		return a.responses > b.responses
	})
	return rows
}

func (c *Check) row(name string, f CheckFinding) row {
	r := row{level: f.Level, responses: f.Responses, of: f.OfResponses, exact: f.Exact, field: joined(name, f.Field), brief: f.Brief, model: name, finding: f}
	if f.At.IsZero() {
		return r
	}
	r.at, r.where = f.At.String(), fmt.Sprintf("%s:%d", filepath.ToSlash(f.At.File), f.At.Line)
	if !c.options.Brief { // the whole path stands below
		r.at = fmt.Sprintf("%s:%d", path.Base(filepath.ToSlash(f.At.File)), f.At.Line)
	}
	return r
}

// examplesAt is how many examples of a finding are shown at its site of that index. Where one is asked
// for, it is of the site with most responses.
func (c *Check) examplesAt(f CheckFinding, site int) int {
	if c.options.Examples != 1 {
		return c.options.Examples
	}
	most := 0
	for i, s := range f.Sites {
		if len(s.Examples) > 0 && (len(f.Sites[most].Examples) == 0 || s.Responses > f.Sites[most].Responses) {
			most = i
		}
	}
	if site == most {
		return 1
	}
	return 0
}

// identity are keys that tell which object one is, the best first.
var identity = []string{"id", "code", "name", "number", "title", "key", "slug", "reference"}

var scalarMember = regexp.MustCompile(`"((?:[^"\\]|\\.)*)"\s*:\s*("(?:[^"\\]|\\.)*"|-?[0-9][0-9.eE+-]*|‹masked›)`)

// showing is what an example shows of its value. Of an object that lacks a key it is what tells which
// object it is.
func showing(value string, f CheckFinding, s CheckSite) string {
	if !strings.HasPrefix(value, "{") || len(s.Sent) == 0 || !strings.HasPrefix(s.Sent[0].What, "no key ") {
		return value
	}
	best, rank := "", len(identity)+1
	for _, m := range scalarMember.FindAllStringSubmatch(outermost(value), -1) {
		var name string
		if json.Unmarshal([]byte(`"`+m[1]+`"`), &name) != nil {
			continue
		}
		at := len(identity)
		words := drift.Words(name)
		for i, known := range identity {
			if len(words) > 0 && words[len(words)-1] == known {
				at = i
				if len(words) > 1 {
					at++ // stopId tells less than id
				}
				break
			}
		}
		if at < rank {
			best, rank = name+" "+m[2], at
		}
	}
	if best == "" {
		return value
	}
	return best
}

// outermost is an object's text without what its objects and arrays hold.
func outermost(text string) string {
	var b strings.Builder
	depth, quoted := 0, false
	for i := 0; i < len(text); i++ {
		c := text[i]
		switch {
		case quoted && c == '\\' && i+1 < len(text):
			if depth <= 1 {
				b.WriteByte(c)
				b.WriteByte(text[i+1])
			}
			i++
			continue
		case c == '"':
			quoted = !quoted
		case !quoted && (c == '{' || c == '['):
			depth++
		case !quoted && (c == '}' || c == ']'):
			depth--
		}
		if depth <= 1 {
			b.WriteByte(c)
		}
	}
	return b.String()
}
