package report

import (
	"fmt"
	"io"
	"strings"

	"vetta/internal/drift/finding"
)

// Changes writes what is new in a check and what is gone since the one before, nil for none: a finding is the same while
// its model, field, kind, place and level are.
func (c *Check) Changes(out io.Writer, style Style, before *Check) error {
	w := &writer{Style: style}
	now, then := c.signed(), map[string]row{}
	if before != nil {
		then = before.signed()
	}
	same := 0
	for _, key := range sortedNames(now) {
		if _, known := then[key]; known {
			same++
			continue
		}
		c.change(w, "new", now[key])
	}
	for _, key := range sortedNames(then) {
		if _, known := now[key]; !known {
			c.change(w, "gone", then[key])
		}
	}
	t := c.Total
	w.line(0, "", fmt.Sprintf("%s; %d new, %d gone, %d as before", t.WouldNotDecode.lost(t.Checked), len(now)-same, len(then)-same, same))
	_, err := io.WriteString(out, w.String())
	return err
}

func (c *Check) change(w *writer, what string, r row) {
	code := levelColor(r.level)
	if what == "gone" {
		code = green
	}
	text := fmt.Sprintf("%-8s %s  %s", r.level, joined(r.model, r.finding.Field), r.brief)
	if what == "new" {
		text += fmt.Sprintf("  %s  %s", r.count(), r.where)
	}
	w.labelled(2, what, 6, code, Safe(strings.TrimRight(text, " ")))
}

// signed are the findings that the overview has, and keys that are not read, by what tells them apart.
func (c *Check) signed() map[string]row {
	all := map[string]row{}
	for _, s := range c.subjects() {
		for _, f := range *s.findings {
			if f.Level == finding.Loose && !c.options.Loose {
				continue
			}
			r := c.row(s.name, f)
			if len(f.Keys) > 0 {
				r.brief = unreadLine(f)
			}
			if !f.At.IsZero() {
				r.where = f.At.String()
			}
			all[fmt.Sprintf("%d %q", f.Level.Rank(), s.drift(&f, asRead))] = r
		}
	}
	return all
}
