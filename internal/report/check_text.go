package report

import (
	"encoding/json"
	"fmt"
	"io"
	"path"
	"slices"
	"strings"

	"vetta/internal/drift/finding"
	"vetta/internal/shape"
	"vetta/internal/traffic"
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

// Text writes a check for people: the overview, worst first, then what there is to say of each model.
func (c *Check) Text(out io.Writer, style Style) error {
	w := &writer{Style: style}
	c.overview(w)
	if !c.options.Brief {
		c.details(w)
	}
	c.total(w)
	_, err := io.WriteString(out, w.String())
	return err
}

func (c *Check) details(w *writer) {
	for _, r := range c.Roots {
		if len(r.Findings) == 0 {
			continue
		}
		w.line(0, bold, Safe(r.Type)+"  as a whole response")
		w.line(2, "", Safe(r.decodedFrom()))
		for _, f := range r.Findings {
			c.finding(w, f, nil)
		}
		w.WriteString("\n")
	}
	for _, m := range c.Models {
		if c.says(m) {
			c.model(w, m)
		}
	}
	if c.options.All {
		c.clean(w)
	}
	c.apps(w)
	models, endpoints, unjudged := c.aside()
	w.section("Models without a response", models)
	w.section("Responses without a model", endpoints)
	w.section("Not judged", unjudged)
	w.section("Limits reached", c.Limits)
}

// section writes a list of lines under a title, nothing where there are none.
func (w *writer) section(title string, lines []string) {
	if len(lines) == 0 {
		return
	}
	w.line(0, bold, title)
	for _, l := range lines {
		w.line(2, "", Safe(l))
	}
	w.WriteString("\n")
}

// says whether a model has anything to be shown.
func (c *Check) says(m CheckModel) bool {
	return slices.ContainsFunc(m.Findings, func(f CheckFinding) bool { return f.Level != finding.Loose || c.options.Loose }) || len(m.Unknown) > 0
}

func (c *Check) model(w *writer, m CheckModel) {
	w.WriteString(w.paint(bold, Safe(m.Name)) + "  " + Safe(m.At.String()) + "\n")
	w.line(2, faint, Safe(m.about()))
	for _, d := range m.Decoded {
		w.line(2, "", Safe(d.String()))
		if d.WouldNotDecode.Responses > 0 {
			w.line(2, red, d.WouldNotDecode.lost(d.Responses)+" because of it")
		}
	}
	var unread []CheckFinding
	for _, f := range m.Findings {
		switch {
		case f.Level == finding.Loose && !c.options.Loose:
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
			w.labelled(2, "unknown", labelWidth, faint, Safe(fmt.Sprintf("%s  %s  %s; nothing is claimed about that", u.Field, u.At, u.Why)))
		}
	}
	w.WriteString("\n")
}

// about says what a model is decoded with.
func (m CheckModel) about() string {
	text := m.Library
	for _, s := range m.Settings {
		text += fmt.Sprintf(" · %s %s", s.Name, s.Value)
	}
	return text + assuming(m.Assumed)
}

// String says where a model is decoded from, and how much of it there is.
func (d Decoded) String() string {
	way := "decoded from"
	if d.Sent {
		way = "sent as"
	}
	return fmt.Sprintf("%s %s at %s: %s in %s", way, d.Endpoint, placed(d.Place, d.Where), Plural(d.Objects, objectAt(d.Place)), Plural(d.Responses, bodies(d.Sent)))
}

// decodedFrom says where a type is decoded from as a whole response.
func (r *CheckRoot) decodedFrom() string {
	return fmt.Sprintf("decoded from %s at %s in %s", r.Endpoint, r.Place, Plural(r.Responses, "response"))
}

// lost says how many of some responses would not decode.
func (c Count) lost(of int64) string {
	return fmt.Sprintf("%s%d of %s would not decode", atLeast(c), c.Responses, Plural(of, "response"))
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
	return fmt.Sprintf("%s sent and not read: %s", Plural(int64(len(parts)), "key"), strings.Join(parts, ", "))
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
	for i, s := range f.Sites {
		if several {
			w.labelled(12, "at", labelWidth, faint, Safe(s.Endpoint+" "+placed(s.Place, s.Where)))
		}
		c.sent(w, f, s)
		shown := s.Examples[:min(len(s.Examples), c.examplesAt(f, i))]
		for _, ex := range shown {
			text := fmt.Sprintf("%s  %s  %s", located(ex), pointerText(ex.Pointer, ex.Value), showing(ex.Value, f, s))
			w.labelled(12, "example", labelWidth, faint, strings.TrimRight(Safe(text), " ")) // a saved shape has no value
		}
	}
	if f.Writes != "" {
		w.labelled(12, "app sends", labelWidth, faint, Safe(f.Writes))
	}
	if f.Seen != "" {
		w.labelled(12, "app sees", labelWidth, faint, Safe(f.Seen))
	}
	if f.Error != "" && (len(f.Sites) == 0 || len(f.Sites[0].Sent) == 0 || f.Sites[0].Sent[0].Error == "") {
		w.labelled(12, f.errorLabel(), labelWidth, faint, Safe(strings.TrimRight(f.Error, ": ")))
	}
	if f.Note != "" {
		w.labelled(12, "evidence", labelWidth, faint, Safe(f.Note))
	}
	if f.Suggestion != "" {
		w.labelled(12, "change", labelWidth, green, Safe(f.Suggestion))
	}
}

// errorLabel says whose the error of a finding is, or what became of it.
func (f *CheckFinding) errorLabel() string {
	switch {
	case f.trusted:
		return "compiler"
	case f.Seen != "":
		return "dropped"
	}
	return "throws"
}

// sent says what was sent, with its counts.
func (c *Check) sent(w *writer, f CheckFinding, s CheckSite) {
	if f.Level == finding.Loose {
		w.labelled(12, "seen in", labelWidth, faint, fmt.Sprintf("%d values, %s", s.Of, Plural(s.OfResponses, bodies(s.ofRequests))))
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
		text := sent.What + "  in " + inOf(sent, s)
		if i == 0 && len(s.Sent) == 1 && s.Since != "" {
			text += ", " + s.Since
		}
		if sent.Error != "" {
			text += ": " + strings.TrimRight(sent.Error, ": ")
		}
		w.labelled(12, label, labelWidth, faint, Safe(text))
	}
	if len(s.Sent) > 1 && s.Since != "" {
		w.labelled(12, "when", labelWidth, faint, Safe(s.Since))
	}
}

// inOf says in how many values and responses of all something was sent.
func inOf(sent CheckSent, s CheckSite) string {
	of := "value"
	if strings.HasPrefix(sent.What, finding.Absent) || strings.HasPrefix(sent.What, "the key ") || strings.HasPrefix(sent.What, "the order ") {
		of = objectAt(s.Place)
	}
	return fmt.Sprintf("%d of %s, %s%d of %s", sent.Values, Plural(s.Of, of), atLeast(Count{sent.Responses, s.Exact}), sent.Responses, Plural(s.OfResponses, bodies(s.ofRequests)))
}

// objectAt is what an object at a place is called in the notation of its document.
func objectAt(place string) string {
	if strings.HasPrefix(place, "/") {
		return "element"
	}
	return "object"
}

// located is the place of an example as editors follow it, with the number of the document beside it where
// its capture holds several.
func located(ex CheckExample) string {
	at := fmt.Sprintf("%s:%d:%d", ex.Capture, ex.Line, ex.Column)
	if ex.Entry > 0 {
		at += fmt.Sprintf(" #%d", ex.Entry)
	}
	return at
}

// pointerText writes the place of a value so that the root, which is empty as a JSON Pointer, can be seen.
func pointerText(pointer, value string) string {
	switch {
	case pointer != "":
		return pointer
	case strings.HasPrefix(value, "<"):
		return "/"
	}
	return `""`
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
func (c *Check) clean(w *writer) {
	var lines []string
	for _, m := range c.Models {
		if c.found(m) {
			continue
		}
		var at []string
		for _, d := range m.Decoded {
			at = append(at, d.Endpoint+" "+placed(d.Place, d.Where))
		}
		if len(m.JudgedIn) > 0 {
			at = append(at, "in "+strings.Join(m.JudgedIn, ", "))
		}
		lines = append(lines, fmt.Sprintf("%s  %s  %s", m.Name, m.At, strings.Join(at, ", ")))
	}
	w.section("Clean", lines)
}

// why says why something has no partner, and what comes nearest.
func why(nearest, why string) string {
	if nearest == "" {
		return why
	}
	return fmt.Sprintf("nearest: %s (%s)", nearest, why)
}

// aside is what is told of models and endpoints beside findings, a line each.
func (c *Check) aside() (models, endpoints, unjudged []string) {
	for _, m := range c.Unpaired.Models {
		models = append(models, fmt.Sprintf("%s  %s  %s", m.Name, m.At, why(m.Nearest, m.Why)))
	}
	for _, e := range c.Unpaired.Endpoints {
		endpoints = append(endpoints, fmt.Sprintf("%s  %s  %s", e.Endpoint, Plural(e.Responses, bodies(e.Sent)), why(e.Nearest, e.Why)))
	}
	for _, u := range c.Unjudged {
		text := fmt.Sprintf("%s  %s  %s", u.Name, u.At, u.Why)
		if u.Endpoint != "" {
			text += fmt.Sprintf("; it seems to be decoded from %s, %s", u.Endpoint, Plural(u.Responses, "response"))
		}
		unjudged = append(unjudged, text)
	}
	return models, endpoints, unjudged
}

// total closes a check with the sums.
func (c *Check) total(w *writer) {
	t := c.Total
	var parts []string
	for _, l := range finding.Levels {
		if l == finding.Loose && !c.options.Loose {
			continue
		}
		parts = append(parts, fmt.Sprintf("%d %s", t.Findings.Of(l), l))
	}
	w.line(0, "", "findings   "+strings.Join(parts, ", "))
	c.ledger(w)
	w.line(0, "", fmt.Sprintf("models     %d declared in %s: %d with findings, %d clean%s, %d without a response, %d not judged",
		t.Declared, Plural(int64(t.SourceFiles), "source file"), t.WithFindings, t.Clean, c.hint(t.Clean), t.WithoutResponse, t.NotJudged))
	w.line(0, "", fmt.Sprintf("responses  %d read from %s: %d checked, %d without a model, %d not judged",
		t.Responses, Plural(int64(t.Captures), "capture"), t.Checked, t.WithoutModel, t.ResponsesNotJudged))
	if t.Requests > 0 {
		w.line(0, "", fmt.Sprintf("requests   %d read, %d checked", t.Requests, t.RequestsChecked))
	}
	if n := c.Narrowed; n != nil {
		w.line(0, yellow, fmt.Sprintf("left out   %s and %s, by -only and -skip", Plural(int64(n.Models), "model"), Plural(int64(n.Findings), "finding")))
	}
	if text := c.PassedOver.String(); text != "" {
		w.line(0, "", "not read   "+Safe(text))
	}
	bodies := slices.DeleteFunc(slices.Clone(c.Passed), func(p shape.Passed) bool { return p.Kind == traffic.Filtered })
	if text := PassedText(bodies, "no JSON    "); text != "" {
		w.line(0, "", Safe(text))
	}
	if n := filtered(c.Passed); n > 0 {
		w.line(0, yellow, fmt.Sprintf("left out   %s, by how they were sent", Plural(n, "response")))
	}
	if c.Partial {
		w.line(0, yellow, "the run was interrupted: this is of what was read until then")
	}
	if names := c.Unjudgeable(); len(names) > 0 {
		w.line(0, yellow, Safe(fmt.Sprintf("%s could not be judged though there are responses for %s: %s", Plural(int64(len(names)), "model"), them(len(names)), strings.Join(names, ", "))))
	}
	if t.Problems > 0 {
		w.line(0, yellow, fmt.Sprintf("%s could not be read whole: see standard error", Plural(int64(t.Problems), "input")))
	}
}

func them(n int) string {
	if n == 1 {
		return "it"
	}
	return "them"
}

// hint says how clean models are shown.
func (c *Check) hint(clean int) string {
	if clean == 0 || c.options.All || c.options.Brief {
		return ""
	}
	return " (-all lists them)"
}

// String says on one line what was passed over, "" for nothing.
func (p PassedOver) String() string {
	var parts []string
	name := func(files []string, one, several string) {
		switch len(files) {
		case 0:
		case 1:
			parts = append(parts, fmt.Sprintf("1 %s (%s)", one, files[0]))
		default:
			parts = append(parts, fmt.Sprintf("%d %s (%s, …)", len(files), several, files[0]))
		}
	}
	name(p.Tests, "file of tests", "files of tests")
	name(p.Shipped, "JSON file of the app's own", "JSON files of the app's own")
	name(p.Without, "path as vetta.toml says", "paths as vetta.toml says")
	if len(parts) == 0 {
		return ""
	}
	return strings.Join(parts, " and ") + "; name a folder or file to have it read"
}

// Plural writes a number with its noun, which is given in the singular.
func Plural(n int64, noun string) string {
	switch {
	case n == 1:
		return "1 " + noun
	case strings.HasSuffix(noun, "ss"):
		return fmt.Sprintf("%d %ses", n, noun)
	case strings.HasSuffix(noun, "ry"):
		return fmt.Sprintf("%d %sies", n, strings.TrimSuffix(noun, "y"))
	}
	return fmt.Sprintf("%d %ss", n, noun)
}

// Lines writes a check as file:line:column: level: text, one finding a line.
func (c *Check) Lines(out io.Writer) error {
	var b strings.Builder
	line := func(f CheckFinding, model string, at fmt.Stringer) {
		if f.Level == finding.Loose && !c.options.Loose {
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
		noun := bodies(len(f.Sites) > 0 && f.Sites[0].ofRequests)
		for _, s := range f.Sites {
			values, of, responses, ofResponses = values+s.Values, of+s.Of, responses+s.Responses, ofResponses+s.OfResponses
		}
		if of > 0 {
			text += fmt.Sprintf(" (%d of %d values, %d of %d %ss)", values, of, responses, ofResponses, noun)
		}
		if f.Error != "" {
			text += ": " + strings.TrimRight(f.Error, ": ")
		}
		if f.Field == "" && len(f.Keys) == 0 {
			model += ":"
		}
		fmt.Fprintf(&b, "%s: %s: %s %s [%s]\n", Safe(at.String()), f.Level, Safe(model), Safe(text), f.Kind)
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
	for _, u := range c.Unjudged {
		fmt.Fprintf(&b, "%s: unjudged: %s %s\n", Safe(u.At.String()), Safe(u.Name), Safe(u.Why))
	}
	_, err := io.WriteString(out, b.String())
	return err
}

type text string

func (t text) String() string { return string(t) }

// Worst is the worst level that a check has found, "" for none.
func (c *Check) Worst() finding.Level {
	for _, l := range finding.Levels {
		if c.Total.Findings.Of(l) > 0 {
			return l
		}
	}
	return ""
}
