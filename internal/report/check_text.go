package report

import (
	"encoding/json"
	"fmt"
	"io"
	"path"
	"strings"

	"vetta/internal/drift"
)

// JSON writes any of the reports in its JSON layout.
func JSON(out io.Writer, report any) error {
	enc := json.NewEncoder(out)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	return enc.Encode(report)
}

// labels are as wide as this in a finding.
const labelWidth = 10

// Text writes a check for people.
func (c *Check) Text(out io.Writer, style Style) error {
	w := &writer{Style: style}
	for _, r := range c.Roots {
		if len(r.Findings) == 0 {
			continue
		}
		w.line(0, bold, Safe(r.Type)+"  as a whole response")
		w.line(2, "", Safe(fmt.Sprintf("decoded from %s at %s in %s", r.Endpoint, r.Place, plural(r.Responses, "response"))))
		for _, f := range r.Findings {
			c.finding(w, f, nil)
		}
		w.WriteString("\n")
	}
	var clean []CheckModel
	for _, m := range c.Models {
		if !c.says(m) {
			clean = append(clean, m)
			continue
		}
		c.model(w, m)
	}
	c.clean(w, clean)
	c.apps(w)
	c.unpaired(w)
	if len(c.Limits) > 0 {
		w.line(0, bold, "Limits reached")
		for _, l := range c.Limits {
			w.line(2, "", Safe(l))
		}
		w.WriteString("\n")
	}
	c.total(w)
	_, err := io.WriteString(out, w.String())
	return err
}

// says whether a model has anything to be shown.
func (c *Check) says(m CheckModel) bool {
	for _, f := range m.Findings {
		if f.Level != drift.Loose || c.ShowLoose {
			return true
		}
	}
	return len(m.Unknown) > 0
}

func (c *Check) model(w *writer, m CheckModel) {
	w.WriteString(w.paint(bold, Safe(m.Name)) + "  " + Safe(m.At.String()) + "\n")
	about := m.Library
	for _, s := range m.Settings {
		about += fmt.Sprintf(" · %s %s", s.Name, s.Value)
	}
	w.line(2, faint, Safe(about))
	for i, d := range m.Decoded {
		w.line(2, "", Safe(fmt.Sprintf("decoded from %s at %s: %s in %s", d.Endpoint, placed(d.Place, d.Where), plural(d.Objects, "object"), plural(d.Responses, "response"))))
		if i+1 < len(m.Decoded) && m.Decoded[i+1].Endpoint == d.Endpoint && m.Decoded[i+1].WouldNotDecode == d.WouldNotDecode {
			continue // said of all places of the endpoint at once
		}
		if n := d.WouldNotDecode.Responses; n > 0 {
			w.line(2, red, fmt.Sprintf("%s%d of %s would not decode because of it", atLeast(d.WouldNotDecode), n, plural(d.Responses, "response")))
		}
	}
	var unread []CheckFinding
	for _, f := range m.Findings {
		switch {
		case f.Level == drift.Loose && !c.ShowLoose:
		case len(f.Keys) > 0:
			unread = append(unread, f)
		default:
			c.finding(w, f, &m)
		}
	}
	for _, f := range unread {
		w.WriteString("\n")
		w.labelled(2, string(f.Level), labelWidth, levelColor(f.Level), Safe(unreadLine(f)))
	}
	if len(m.Unknown) > 0 {
		w.WriteString("\n")
		for _, u := range m.Unknown {
			w.labelled(2, "unknown", labelWidth, faint, Safe(fmt.Sprintf("%s  %s: nothing is claimed about it: %s", u.Field, u.At, u.Why)))
		}
	}
	w.WriteString("\n")
}

// unreadLine folds the keys that are not read into one line.
func unreadLine(f CheckFinding) string {
	var parts []string
	seen := map[string]bool{}
	for _, k := range f.Keys {
		if seen[k.Name] {
			continue
		}
		seen[k.Name] = true
		text := k.Name
		if k.Objects < k.Of {
			text += fmt.Sprintf(" (in %d of %d)", k.Objects, k.Of)
		}
		parts = append(parts, text)
	}
	return fmt.Sprintf("%s sent and not read: %s", plural(int64(len(parts)), "key"), strings.Join(parts, ", "))
}

func (c *Check) finding(w *writer, f CheckFinding, m *CheckModel) {
	w.WriteString("\n")
	head := f.Field
	if head == "" && m != nil { // the class as a whole is meant
		head = m.Name
	}
	if f.Declared != "" && f.Declared != f.Field {
		head += ": " + f.Declared
	}
	if !f.At.IsZero() {
		head += "  " + f.At.String()
	}
	w.labelled(2, string(f.Level), labelWidth, levelColor(f.Level), Safe(head)+"  "+w.paint(bold, Safe(f.Title))+" "+w.paint(faint, "["+f.Kind+"]"))
	several := len(f.Sites) > 1 || m != nil && len(m.Decoded) > 1
	examples := 0
	for _, s := range f.Sites {
		if several {
			w.labelled(12, "at", labelWidth, faint, Safe(s.Endpoint+" "+placed(s.Place, s.Where)))
		}
		c.sent(w, f, s)
		for _, ex := range s.Examples {
			if examples == 3 {
				break
			}
			examples++
			text := fmt.Sprintf("%s:%d:%d  %s  %s", entryName(ex), ex.Line, ex.Column, pointerText(ex.Pointer), ex.Value)
			w.labelled(12, "example", labelWidth, faint, strings.TrimRight(Safe(text), " ")) // a saved shape has no value
		}
	}
	if f.Seen != "" {
		w.labelled(12, "app sees", labelWidth, faint, Safe(f.Seen))
	}
	if f.Error != "" && (len(f.Sites) == 0 || len(f.Sites[0].Sent) == 0 || f.Sites[0].Sent[0].Error == "") {
		label := "throws"
		if f.Seen != "" {
			label = "dropped"
		}
		w.labelled(12, label, labelWidth, faint, Safe(strings.TrimRight(f.Error, ": ")))
	}
	if f.Note != "" {
		w.labelled(12, "evidence", labelWidth, faint, Safe(f.Note))
	}
	if f.Suggestion != "" {
		w.labelled(12, "change", labelWidth, green, Safe(f.Suggestion))
	}
}

// sent says what was sent, with its counts.
func (c *Check) sent(w *writer, f CheckFinding, s CheckSite) {
	if f.Level == drift.Loose {
		w.labelled(12, "seen in", labelWidth, faint, fmt.Sprintf("%d values, %s", s.Of, plural(s.OfResponses, "response")))
		return
	}
	for i, sent := range s.Sent {
		label := ""
		if i == 0 {
			label = "sent"
		}
		if i == 6 && len(s.Sent) > 7 {
			w.labelled(12, "", labelWidth, faint, fmt.Sprintf("and %d more", len(s.Sent)-i))
			break
		}
		count := Count{sent.Responses, s.Exact}
		text := fmt.Sprintf("%s  in %d of %s, %s%d of %s", sent.What, sent.Values, plural(s.Of, "value"), atLeast(count), sent.Responses, plural(s.OfResponses, "response"))
		if strings.HasPrefix(sent.What, "no key") || strings.HasPrefix(sent.What, "the key ") {
			text = fmt.Sprintf("%s  in %d of %s, %s%d of %s", sent.What, sent.Values, plural(s.Of, "object"), atLeast(count), sent.Responses, plural(s.OfResponses, "response"))
		}
		if sent.Error != "" {
			text += ": " + strings.TrimRight(sent.Error, ": ")
		}
		w.labelled(12, label, labelWidth, faint, Safe(text))
	}
}

func entryName(ex CheckExample) string {
	if ex.Entry > 0 {
		return fmt.Sprintf("%s#%d", ex.Capture, ex.Entry)
	}
	return ex.Capture
}

// pointerText writes a JSON Pointer so that the root, which is empty, can be seen.
func pointerText(pointer string) string {
	if pointer == "" {
		return `""`
	}
	return pointer
}

func atLeast(c Count) string {
	if c.Exact {
		return ""
	}
	return "at least "
}

// placed is a place with which of the objects there are meant.
func placed(place, where string) string {
	if where == "" {
		return place
	}
	return place + " where " + where
}

// clean names the models that nothing is to be said of in one line each.
func (c *Check) clean(w *writer, models []CheckModel) {
	if len(models) == 0 {
		return
	}
	w.line(0, bold, "Nothing found")
	for _, m := range models {
		var at []string
		for _, d := range m.Decoded {
			at = append(at, d.Endpoint+" "+placed(d.Place, d.Where))
		}
		w.line(2, "", Safe(fmt.Sprintf("%s  %s  %s", m.Name, m.At, strings.Join(at, ", "))))
	}
	w.WriteString("\n")
}

func (c *Check) unpaired(w *writer) {
	if len(c.Unpaired.Models) > 0 {
		w.line(0, bold, "Models without responses")
		for _, m := range c.Unpaired.Models {
			text := fmt.Sprintf("%s  %s  %s", m.Name, m.At, m.Why)
			if m.Nearest != "" {
				text = fmt.Sprintf("%s  %s  nearest: %s (%s)", m.Name, m.At, m.Nearest, m.Why)
			}
			w.line(2, "", Safe(text))
		}
		w.WriteString("\n")
	}
	if len(c.Unpaired.Endpoints) > 0 {
		w.line(0, bold, "Responses without a model")
		for _, e := range c.Unpaired.Endpoints {
			text := fmt.Sprintf("%s  %s  %s", e.Endpoint, plural(e.Responses, "response"), e.Why)
			if e.Nearest != "" {
				text = fmt.Sprintf("%s  %s  nearest: %s (%s)", e.Endpoint, plural(e.Responses, "response"), e.Nearest, e.Why)
			}
			w.line(2, "", Safe(text))
		}
		w.WriteString("\n")
	}
}

// total closes a check with the sums.
func (c *Check) total(w *writer) {
	t := c.Total
	code := red
	if t.WouldNotDecode.Responses == 0 {
		code = green
	}
	w.line(0, code, fmt.Sprintf("%s%d of %s would not decode", atLeast(t.WouldNotDecode), t.WouldNotDecode.Responses, plural(t.Checked, "response")))
	var parts []string
	for _, l := range drift.Levels {
		if l == drift.Loose && !c.ShowLoose {
			continue
		}
		parts = append(parts, fmt.Sprintf("%d %s", t.Findings.Of(l), l))
	}
	w.line(0, "", fmt.Sprintf("findings: %s; %s in %s, %s in %s",
		strings.Join(parts, ", "), plural(int64(t.Models), "model"), plural(int64(t.SourceFiles), "source file"), plural(t.Responses, "response"), plural(int64(t.Captures), "capture")))
	if t.Problems > 0 {
		w.line(0, yellow, fmt.Sprintf("%s could not be read whole: see standard error", plural(int64(t.Problems), "input")))
	}
}

// plural writes a number with its noun.
func plural(n int64, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	return fmt.Sprintf("%d %ss", n, noun)
}

// Lines writes a check as file:line:column: level: text, one finding a line.
func (c *Check) Lines(out io.Writer) error {
	var b strings.Builder
	line := func(f CheckFinding, model string, at fmt.Stringer) {
		if f.Level == drift.Loose && !c.ShowLoose {
			return
		}
		text := f.Title
		if f.Field != "" {
			text = f.Field + ": " + text
		}
		if len(f.Keys) > 0 {
			text = unreadLine(f)
		}
		var values, of, responses, ofResponses int64
		for _, s := range f.Sites {
			values, of, responses, ofResponses = values+s.Values, of+s.Of, responses+s.Responses, ofResponses+s.OfResponses
		}
		if of > 0 {
			text += fmt.Sprintf(" (%d of %d values, %d of %d responses)", values, of, responses, ofResponses)
		}
		if f.Error != "" {
			text += ": " + strings.TrimRight(f.Error, ": ")
		}
		if f.Field == "" && len(f.Keys) == 0 {
			model += ":"
		}
		fmt.Fprintf(&b, "%s: %s: %s %s [%s]\n", at, f.Level, Safe(model), Safe(text), f.Kind)
	}
	for _, r := range c.Roots {
		for _, f := range r.Findings {
			at := f.At.String()
			if f.At.IsZero() {
				at = path.Clean(r.Endpoint) + ":1:1"
			}
			line(f, r.Type, text(at))
		}
	}
	for _, m := range c.Models {
		for _, f := range m.Findings {
			line(f, m.Name, f.At)
		}
	}
	_, err := io.WriteString(out, b.String())
	return err
}

type text string

func (t text) String() string { return string(t) }

// Worst is the worst level that a check has found, "" for none.
func (c *Check) Worst() drift.Level {
	for _, l := range drift.Levels {
		if c.Total.Findings.Of(l) > 0 {
			return l
		}
	}
	return ""
}
