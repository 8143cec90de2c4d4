package report

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode/utf8"

	"vetta/internal/decoder"
	"vetta/internal/markup"
	"vetta/internal/model"
	"vetta/internal/trial"
	"vetta/internal/wire"
)

// Trial is what became of a document, as its line of JSON has it.
type Trial struct {
	Document string        `json:"document"`
	At       string        `json:"at,omitempty"` // JSON Pointer, where a part of the document was decoded
	Model    string        `json:"model,omitempty"`
	Outcome  string        `json:"outcome"`       // decodes, fails, later (it decodes, and what is read of it throws), differs (it is not of its type, and nothing looks), malformed, unpaired or unknown
	Why      string        `json:"why,omitempty"` // of unknown
	Seen     *decoder.Seen `json:"seen,omitempty"`
	Error    *TrialError   `json:"error,omitempty"`
	Unknown  []string      `json:"unknown,omitempty"` // JSON Pointers
	Changes  []TrialChange `json:"changes,omitempty"`
	Unread   []string      `json:"unread,omitempty"` // JSON Pointers
	Differs  []TrialDiffer `json:"differs,omitempty"`
	Issues   []TrialIssue  `json:"issues,omitempty"` // of a validator, Error the first of them
}

// TrialDiffer is a place where a value is not of the type that the app takes it for.
type TrialDiffer struct {
	At      string `json:"at"` // JSON Pointer; of a key that is absent, where it should be
	Reason  string `json:"reason"`
	Message string `json:"message"` // as the compiler says it
	Line    int    `json:"line,omitempty"`
	Column  int    `json:"column,omitempty"`
}

// TrialIssue is what a validator complains of.
type TrialIssue struct {
	At      string `json:"at"` // JSON Pointer
	Code    string `json:"code"`
	Message string `json:"message"`
}

// TrialError is the error that ended the decoding.
type TrialError struct {
	At      string `json:"at"`    // JSON Pointer of the place that the library names
	Place   string `json:"place"` // the same as JSONPath
	Key     string `json:"key,omitempty"`
	Message string `json:"message"`
	Line    int    `json:"line,omitempty"`
	Column  int    `json:"column,omitempty"`
}

// TrialChange is something that was lost or changed without an error.
type TrialChange struct {
	What  string        `json:"what"`
	At    string        `json:"at"`
	Sent  string        `json:"sent"`
	Seen  *decoder.Seen `json:"seen,omitempty"`
	Error string        `json:"error,omitempty"`
}

// losses are the ways in which values change, as people say them.
var losses = map[decoder.Loss]string{
	decoder.LostDigits: "digits lost", decoder.WrongUnit: "read in another unit of time", decoder.Swallowed: "error dropped",
	decoder.Defaulted: "default in place of what was sent", decoder.NeverRead: "not read", decoder.Dropped: "left out",
	decoder.Misplaced: "passed over, for it is out of its order",
	decoder.Zeroed:    "0, false or empty for what is absent or null", decoder.RolledDate: "read as another date", decoder.HiddenNull: "null where the source has none", decoder.NoConstant: "null for a text that no constant has",
}

// NewTrial makes the report of one document, in which what looks secret is hidden unless the options
// say otherwise.
func NewTrial(d *trial.Document, o Options) *Trial {
	t := newTrial(d)
	if o.Secrets || d.Plan == nil {
		return t
	}
	hidden := map[string]bool{}
	for _, r := range d.Outcome.Reads {
		if r.Sent != nil && r.Sent.Kind <= wire.String && Mask(r.Place, string(r.Sent.Raw)) != string(r.Sent.Raw) {
			hidden[r.Seen.Text] = len(r.Seen.Text) >= shortest
		}
	}
	if t.Seen != nil {
		seen := maskSeen(*t.Seen, nil, hidden)
		t.Seen = &seen
	}
	if t.Error != nil {
		literal := ""
		if v := d.Find(d.Outcome.At); v != nil && v.Kind <= wire.String {
			literal = string(v.Raw)
		}
		t.Error.Message = maskIn(t.Error.Message, d.Outcome.At, literal)
	}
	for i := range t.Differs {
		at := d.Outcome.Differs[i].At
		if v := d.Find(at); v != nil && v.Kind <= wire.String {
			t.Differs[i].Message = maskIn(t.Differs[i].Message, at, string(v.Raw))
		}
	}
	for i := range t.Changes {
		c, place := &t.Changes[i], d.Outcome.Changes[i].Place
		sent := c.Sent
		if d.Outcome.Changes[i].Sent != nil { // what is absent is no secret
			sent = Mask(place, sent)
		}
		if c.Error = maskIn(c.Error, place, c.Sent); c.Seen != nil {
			seen := maskSeen(*c.Seen, place, hidden)
			c.Seen = &seen
		}
		c.Sent = sent
	}
	return t
}

// whyOf is why code that reads a type is not followed, "" where the type does not say.
func whyOf(t *model.Type) string {
	if t == nil || t.Unwrapped().Model == nil {
		return ""
	}
	return t.Unwrapped().Model.Why
}

func newTrial(d *trial.Document) *Trial {
	t := &Trial{Document: d.Name, At: d.At}
	switch {
	case d.Malformed != nil:
		t.Outcome = "malformed"
		t.Error = &TrialError{Place: "$", Message: d.Malformed.Reason, Line: d.Malformed.Line, Column: d.Malformed.Column}
		return t
	case d.Plan == nil:
		t.Outcome = "unpaired"
		t.Error = &TrialError{Place: "$", Message: d.NoModel}
		return t
	}
	t.Model = d.Plan.Declared
	out := d.Outcome
	if out.Err != nil {
		t.Outcome = "fails"
		if out.Later {
			t.Outcome = "later"
		}
		t.Error = &TrialError{At: wire.Pointer(out.At), Place: wire.Path(out.Place), Key: out.Err.Key, Message: out.Err.Message}
		if v := d.Find(out.At); v != nil {
			t.Error.Line, t.Error.Column = d.Line(v.Start)
		}
	} else {
		t.Outcome = "decodes"
		t.Seen = &out.Seen
		if out.Seen.Kind == decoder.SeenUnknown {
			t.Outcome, t.Why = "unknown", cmp.Or(d.Plan.Unclaimed(), d.Plan.Otherwise, whyOf(d.Plan.Type), "it is read by code that is not followed")
		}
	}
	for _, i := range out.Issues {
		t.Issues = append(t.Issues, TrialIssue{At: wire.Pointer(i.At), Code: i.Reason, Message: i.Message})
	}
	for _, at := range out.Differs {
		t.Outcome = "differs"
		differ := TrialDiffer{At: wire.Pointer(at.At), Reason: at.Reason, Message: at.Message}
		v := d.Find(at.At)
		for up := at.At; v == nil && len(up) > 0; v = d.Find(up) {
			up = up[:len(up)-1]
		}
		if v != nil {
			differ.Line, differ.Column = d.Line(v.Start)
		}
		t.Differs = append(t.Differs, differ)
	}
	for _, u := range out.Unknown {
		t.Unknown = append(t.Unknown, wire.Pointer(u))
	}
	for i := range out.Changes {
		c := &out.Changes[i]
		change := TrialChange{What: losses[c.Loss], At: wire.Pointer(c.Place), Sent: sentText(c.Sent)}
		if c.Err != nil {
			change.Error = c.Err.Message
		} else {
			change.Seen = &c.Seen
		}
		t.Changes = append(t.Changes, change)
	}
	for _, u := range out.Unread {
		if out.Err != nil {
			break // what was not reached is not unread
		}
		t.Unread = append(t.Unread, wire.Pointer(u))
	}
	return t
}

// Line writes the report as one line of JSON.
func (t *Trial) Line(out io.Writer) error {
	var b bytes.Buffer
	enc := json.NewEncoder(&b)
	enc.SetEscapeHTML(false)
	if err := enc.Encode(t); err != nil {
		return err
	}
	_, err := out.Write(b.Bytes())
	return err
}

// sentText writes a value as it was sent, an object or array by its size.
func sentText(v *wire.Value) string {
	switch {
	case v == nil:
		return absent
	case v.Kind == wire.Object:
		return fmt.Sprintf("{%s}", Plural(int64(len(v.Members)), "key"))
	case v.Kind == wire.Array && len(v.Elems) == 1 && textAlone(v.Elems[0]) != nil:
		return string(textAlone(v.Elems[0]).Raw)
	case v.Kind == wire.Array:
		return fmt.Sprintf("[%s]", Plural(int64(len(v.Elems)), "element"))
	}
	return string(v.Raw)
}

// textAlone is the text of an element of an XML document that holds nothing else, nil for any other value.
func textAlone(v *wire.Value) (text *wire.Value) {
	for i := range v.Members {
		switch name := v.Members[i].Name; {
		case name == markup.TextKey:
			text = v.Members[i].Value
		case !markup.IsAttr(name):
			return nil
		}
	}
	return text
}

// absent stands for a value that was not sent, or that the app has none of.
const absent = "(absent)"

// TrialText writes what became of a document for people: sent and seen side by
// side, then what was lost. Where all is false, elements of a list that fared like
// those before them are left out.
func TrialText(out io.Writer, d *trial.Document, style Style, o Options, all bool) error {
	w := &writer{Style: style}
	t := NewTrial(d, o)
	name := d.Name
	if d.At != "" {
		name += " " + d.At
	}
	code := map[string]string{"decodes": green, "fails": red, "later": red, "malformed": red, "differs": yellow}[t.Outcome]
	head := w.paint(bold, Safe(name))
	if t.Model != "" {
		head += " as " + Safe(t.Model)
	}
	w.WriteString(head + ": " + w.paint(code, t.Outcome) + "\n")
	if t.Error != nil {
		text := strings.TrimRight(t.Error.Message, ": ")
		if t.Outcome == "fails" || t.Outcome == "later" {
			text += "  at " + t.Error.Place
		}
		if t.Error.Line > 0 {
			text += fmt.Sprintf("  %s:%d:%d", d.File(), t.Error.Line, t.Error.Column)
		}
		w.line(2, red, Safe(text))
	}
	if t.Why != "" {
		w.line(2, "", Safe("nothing is claimed about it: "+t.Why))
	}
	if len(t.Differs) == 0 {
		w.reads(d, o, all)
	}
	if len(t.Issues) > 1 {
		w.list("all that is complained of", len(t.Issues), func(i int) string {
			return fmt.Sprintf("%s  %s  %s", wire.Path(d.Outcome.Issues[i].At), t.Issues[i].Code, t.Issues[i].Message)
		})
	}
	w.list("not of its type; nothing throws, and the app sees what was sent", len(t.Differs), func(i int) string {
		c := t.Differs[i]
		return fmt.Sprintf("%s  %s  %s  %s:%d:%d", wire.Path(d.Outcome.Differs[i].At), c.Reason, c.Message, d.File(), c.Line, c.Column)
	})
	w.list("lost or changed on the way", len(t.Changes), func(i int) string {
		c := t.Changes[i]
		text := fmt.Sprintf("%s  %s: sent %s", pointerText(c.At, c.Sent), c.What, c.Sent)
		if c.Error != "" {
			return text + ", " + c.Error
		}
		return text + ", seen " + c.Seen.String()
	})
	w.list("not read", len(t.Unread), func(i int) string { return wire.Path(d.Outcome.Unread[i]) })
	if t.Why == "" {
		w.list("read by code that could not be followed", len(d.Outcome.Unknown), func(i int) string { return wire.Path(d.Outcome.Unknown[i]) })
	}
	w.WriteString("\n")
	_, err := io.WriteString(out, w.String())
	return err
}

func (w *writer) list(title string, n int, item func(int) string) {
	if n == 0 {
		return
	}
	w.line(2, bold, title)
	for i := range n {
		if i == 20 && n > 21 {
			w.line(4, faint, fmt.Sprintf("and %d more", n-i))
			return
		}
		w.line(4, "", Safe(item(i)))
	}
}

// shownElements is how many elements of a list are shown that fare alike.
const shownElements = 2

// reads writes the table of sent and seen.
func (w *writer) reads(d *trial.Document, o Options, all bool) {
	type row struct{ place, declared, sent, seen, mark string }
	var rows []row
	hidden := 0
	widths := [3]int{len("place"), len("declared"), len("sent")}
	innermost := -1 // the read at which decoding failed; those around it failed with it
	for i, r := range d.Outcome.Reads {
		if r.Err != nil {
			innermost = i
		}
	}
	for i, r := range d.Outcome.Reads {
		if i != innermost {
			r.Err = nil
		}
		differs := r.Err != nil || changed(d.Outcome.Changes, r.Place)
		if !all && !differs && beyond(r.Place) {
			hidden++
			continue
		}
		place := append([]wire.Step(nil), r.Place...)
		switch {
		case r.Sent != nil:
		case markup.IsKey(r.Asked):
			place = append(place, wire.MemberOf(r.Asked))
		case len(r.Field.Keys) > 0:
			place = append(place, wire.MemberOf(r.Field.Keys[0]))
		}
		this := row{place: wire.Path(place), declared: r.Field.Name + ": " + r.Field.Declared, sent: sentText(r.Sent)}
		switch {
		case r.Err != nil:
			this.seen, this.mark = strings.TrimRight(r.Err.Message, ": "), "!"
		case d.Outcome.Err != nil && r.Seen.Kind == decoder.SeenNull && r.Sent != nil && r.Sent.Kind >= wire.Array:
			this.seen = "…"
		case r.Seen.Kind == decoder.SeenObject || r.Seen.Kind == decoder.SeenMap:
			this.seen = "{…}"
		case (r.Seen.Kind == decoder.SeenList || r.Seen.Kind == decoder.SeenSet) && (len(r.Seen.String()) > 60 || slices.ContainsFunc(r.Seen.Elems, func(e decoder.Seen) bool { return e.Kind == decoder.SeenUnknown })):
			this.seen = fmt.Sprintf("[%s]", Plural(int64(len(r.Seen.Elems)), "element"))
		case r.Seen.Kind == decoder.SeenUnknown:
			this.seen = "(not followed)"
		default:
			this.seen = r.Seen.String()
		}
		if differs && this.mark == "" {
			this.mark = "≠"
		}
		if !o.Secrets {
			if hiddenSent := Mask(place, this.sent); r.Sent != nil && hiddenSent != this.sent {
				this.seen = maskIn(Mask(place, this.seen), place, this.sent)
				this.sent = hiddenSent
			}
		}
		this.sent, this.seen = short(this.sent, 44), short(this.seen, 120)
		rows = append(rows, this)
		for i, cell := range []string{this.place, this.declared, this.sent} {
			widths[i] = max(widths[i], min(48, utf8.RuneCountInString(cell)))
		}
	}
	if len(rows) == 0 {
		return
	}
	line := func(code string, mark, a, b, c, e string) {
		text := fmt.Sprintf("%-1s %s  %s  %s  %s", mark, cell(a, widths[0]), cell(b, widths[1]), cell(c, widths[2]), e)
		w.WriteString("  " + w.paint(code, strings.TrimRight(Safe(text), " ")) + "\n")
	}
	line(faint, "", "place", "declared", "sent", "seen")
	for _, r := range rows {
		code := map[string]string{"!": red, "≠": yellow}[r.mark]
		line(code, r.mark, r.place, r.declared, r.sent, r.seen)
	}
	if hidden > 0 {
		w.line(4, faint, fmt.Sprintf("%s of further elements are alike (-all shows them)", Plural(int64(hidden), "value")))
	}
}

func cell(text string, width int) string {
	return text + strings.Repeat(" ", max(0, width-utf8.RuneCountInString(text)))
}

func short(text string, limit int) string {
	if runes := []rune(text); len(runes) > limit {
		return string(runes[:limit-1]) + "…"
	}
	return text
}

func changed(changes []decoder.Change, place []wire.Step) bool {
	path := wire.Pointer(place)
	for _, c := range changes {
		if p := wire.Pointer(c.Place); p == path || strings.HasPrefix(p, path+"/") && len(c.Place) == len(place)+1 {
			return true
		}
	}
	return false
}

// beyond says whether a place is in an element of a list behind the first few.
func beyond(place []wire.Step) bool {
	for _, s := range place {
		if s.Index >= shownElements {
			return true
		}
	}
	return false
}
