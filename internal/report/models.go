package report

import (
	"fmt"
	"io"
	"runtime"
	"slices"
	"strings"
	"sync/atomic"
	"unicode/utf8"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/library"
	"vetta/internal/markup"
	"vetta/internal/model"
)

// Models is what was read from source, as the JSON layout has it.
type Models struct {
	Layout     int             `json:"layout"`
	Command    string          `json:"command"`
	Models     []ModelEntry    `json:"models"`
	Calls      []CallEntry     `json:"calls"`
	Sends      []CallEntry     `json:"sends"` // where it asks a library to write what a request sends
	Problems   []CheckProblem  `json:"problems"`
	PassedOver []model.Problem `json:"passedOver"`
	Files      int             `json:"files"`
}

// ModelEntry is a model.
type ModelEntry struct {
	Name     string        `json:"name"`
	Kind     model.Kind    `json:"kind"`
	At       model.Pos     `json:"at"`
	Language string        `json:"language"`
	Library  string        `json:"library"`
	Assumed  string        `json:"assumed,omitempty"` // why that is taken for it, where neither its file nor a call says so
	Likely   bool          `json:"likely,omitempty"`  // it is a model by its look alone
	Settings []Setting     `json:"settings"`
	Reading  model.Reading `json:"reading"`
	Why      string        `json:"why,omitempty"`
	WhyAt    *model.Pos    `json:"whyAt,omitempty"`
	Super    string        `json:"super,omitempty"`
	Raw      string        `json:"raw,omitempty"`
	Fields   []FieldEntry  `json:"fields"`
	Cases    []CaseEntry   `json:"cases,omitempty"`
}

// FieldEntry is a field of a model.
type FieldEntry struct {
	Name     string        `json:"name"`
	Keys     []string      `json:"keys"`
	Within   []string      `json:"within,omitempty"` // the keys of the objects that code reaches through for it
	Type     string        `json:"type"`
	Optional bool          `json:"optional"`
	Default  string        `json:"default,omitempty"`
	Reading  model.Reading `json:"reading"`
	Why      string        `json:"why,omitempty"`
	At       model.Pos     `json:"at"`
}

// CaseEntry is a constant of an enum.
type CaseEntry struct {
	Name   string       `json:"name"`
	Raw    string       `json:"raw,omitempty"`
	Key    string       `json:"key,omitempty"`
	Values []FieldEntry `json:"values,omitempty"`
	At     model.Pos    `json:"at"`
}

// CallEntry is a place where the source asks a library to decode, or builds a decoder that no call of was
// found, whose type is "" then.
type CallEntry struct {
	Type      string     `json:"type"`
	Swallowed bool       `json:"swallowed"`
	At        model.Pos  `json:"at"`
	Method    string     `json:"method,omitempty"`
	Path      string     `json:"path,omitempty"`   // of the request, {} for what is not known of it
	Within    []string   `json:"within,omitempty"` // the keys that lead to it in the response, [*] for each element of a list
	Part      bool       `json:"part,omitempty"`   // of a part of a response, which Within leads to where it is told
	Picked    bool       `json:"picked,omitempty"` // where code says so alone, by what is in it
	Way       []WayEntry `json:"way,omitempty"`    // of what the app's own functions pass on
	Lost      string     `json:"lost,omitempty"`   // why the type is not known
}

// WayEntry is a function on the way of a call.
type WayEntry struct {
	Name string    `json:"name"`
	At   model.Pos `json:"at"` // where it is called; of the first, where it calls the next
}

// entry is a field as the library's rules have it.
func entry(o decoder.Outline, f *model.Field) FieldEntry {
	e := fieldEntry(f)
	r := o.Of(f)
	if r == nil || f.Reading != model.ByLibrary && r.How != model.Never {
		return e
	}
	if len(r.Keys) > 0 || r.How != f.Reading {
		e.Keys = nil
		for _, key := range r.Keys {
			e.Keys = append(e.Keys, markup.ShowKey(key))
		}
		e.Keys = nonNil(e.Keys)
	}
	if r.How != f.Reading {
		e.Reading, e.Why = r.How, r.Why
	}
	return e
}

// readingWords are the ways of reading as people say them.
var readingWords = map[model.Reading]string{
	model.ByLibrary: "by the library", model.ByCode: "by code that was followed",
	model.Unfollowed: "in a way that is not followed", model.Never: "not read",
}

// NewModels makes the report of what was read.
func NewModels(set *model.Set, problems []CheckProblem) *Models {
	out := &Models{Layout: LayoutVersion, Command: "models", Models: make([]ModelEntry, 0, len(set.Models)), Calls: callEntries(set.Calls), Sends: callEntries(set.Sends), Problems: nonNil(problems), PassedOver: nonNil(set.PassedOver), Files: set.Files}
	inParts(set, func(all []ModelEntry) []ModelEntry { return slices.Clone(all) }, func(all []ModelEntry) {
		out.Models = append(out.Models, all...)
	})
	return out
}

func callEntries(calls []*model.Call) []CallEntry {
	out := []CallEntry{}
	for _, c := range calls {
		if c.Followed || c.Copied { // the calls that say the type, or set something over it, stand for it
			continue
		}
		e := CallEntry{Type: c.Declared, Swallowed: c.Swallowed, At: c.Pos, Method: c.Method, Path: c.Endpoint, Within: c.Within, Part: c.Part != "", Picked: c.Picked, Lost: c.Lost}
		if c.Type == nil {
			e.Type = ""
		}
		for _, t := range c.Way {
			e.Way = append(e.Way, WayEntry{t.Name, t.Pos})
		}
		out = append(out, e)
	}
	return out
}

// text is a call as a person reads it, on one line or two.
func (c CallEntry) text(sent bool) (first, second string) {
	switch {
	case c.Type != "":
		first = c.Type
	case c.Lost != "":
		first = "a type that is not known"
	default:
		first = "a decoder of which no call was found"
	}
	first += "  " + c.At.String()
	switch {
	case c.Path == "":
	case sent:
		first += "  " + strings.TrimSpace("to "+c.Method) + " " + c.Path
	case c.Method != "" && c.Method != "GET":
		first += "  by " + c.Method + " " + c.Path
	default:
		first += "  from " + c.Path
	}
	switch {
	case sent:
	case len(c.Within) > 0:
		first += "  at " + strings.ReplaceAll(strings.Join(c.Within, "."), "."+code.Element, code.Element)
	case c.Part && !c.Picked:
		first += "  of a part"
	}
	if c.Picked {
		first += "  where code picks it"
	}
	if c.Swallowed {
		first += "  its error is dropped"
	}
	for i, w := range c.Way {
		if i > 0 {
			second += " → "
		}
		second += w.Name
		if i > 1 { // where the first calls the next is said above
			second += " (" + w.At.String() + ")"
		}
	}
	if c.Lost != "" {
		second = c.Lost
	}
	return first, second
}

// partSize is how many models are told at once: few enough that what is made of them need not be
// kept, enough that handing them on costs nothing.
const partSize = 256

// inParts tells the models of a set part by part, on as many cores as there are, and hands what made
// makes of each part to take, in order. A part's entries are overwritten once made has answered.
func inParts[T any](set *model.Set, made func([]ModelEntry) T, take func(T)) {
	models := declared(set, false)
	parts := (len(models) + partSize - 1) / partSize
	finder := library.NewFinder(set)
	sent := map[*model.Model]bool{}
	for _, c := range set.Sends {
		if c.Type != nil {
			c.Type.Reach(func(m *model.Model) { sent[m] = true })
		}
	}
	results := make([]chan T, parts)
	for i := range results {
		results[i] = make(chan T, 1)
	}
	var next atomic.Int64
	for range min(parts, runtime.GOMAXPROCS(0)) {
		go func() {
			planners := library.Planners{}
			entries := make([]ModelEntry, 0, partSize)
			for i := int(next.Add(1)) - 1; i < parts; i = int(next.Add(1)) - 1 {
				entries = entries[:0]
				for _, m := range models[i*partSize : min((i+1)*partSize, len(models))] {
					entries = append(entries, entryOf(m, finder, planners, sent[m]))
				}
				results[i] <- made(entries)
			}
		}()
	}
	for _, r := range results {
		take(<-r)
	}
}

// declared are the models of a set, or the classes that are models only where responses have their keys.
func declared(set *model.Set, perhaps bool) []*model.Model {
	if !slices.ContainsFunc(set.Models, func(m *model.Model) bool { return m.Perhaps }) {
		if perhaps {
			return nil
		}
		return set.Models
	}
	return slices.DeleteFunc(slices.Clone(set.Models), func(m *model.Model) bool { return m.Perhaps != perhaps })
}

// entryOf is what is told of a model; sent says that the app sends it.
func entryOf(m *model.Model, finder *library.Finder, planners library.Planners, sent bool) ModelEntry {
	t := &model.Type{Name: m.Name, Model: m}
	settings, _ := finder.For(t)
	e := ModelEntry{
		Name: m.Name, Kind: m.Kind, At: m.Pos, Language: m.Language, Settings: Settings(settings),
		Reading: m.Reading, Why: m.Why, Fields: make([]FieldEntry, 0, len(m.Fields)),
	}
	text := func(t *model.Type) string { return t.Name }
	if lib := library.For(m.Language, settings); lib != nil {
		e.Library, text = lib.Title, lib.Text
	}
	e.Assumed, e.Likely = assumed(m, settings), m.Likely
	if m.Reading == model.Unfollowed {
		e.WhyAt = &m.WhyPos
		if e.Assumed != "" { // what is not followed is not that library's
			e.Library, e.Assumed = "", ""
		}
	}
	if m.Super != nil {
		e.Super = text(m.Super)
	}
	if m.Raw != nil {
		e.Raw = text(m.Raw)
	}
	if settings != nil && settings.Why != "" && !sent && m.Reading != model.Unfollowed {
		e.Reading, e.Why = model.Unfollowed, settings.Why
	}
	read := decoder.Outline{}
	if lib := library.For(m.Language, settings); lib != nil && m.Language != "swift" && m.Reading != model.Unfollowed {
		read = planners.Outline(lib, m, settings)
		if why := read.Unclaimed; why != "" {
			e.Reading, e.Why = model.Unfollowed, strings.TrimPrefix(why, m.Name+": ")
		}
	}
	for _, f := range m.Fields {
		if !f.Static {
			e.Fields = append(e.Fields, entry(read, f))
		}
	}
	for _, c := range m.Cases {
		ce := CaseEntry{Name: c.Name, At: c.Pos}
		if c.Raw != nil {
			ce.Raw = c.Raw.Text
		} else {
			ce.Key = c.Key
		}
		for _, mark := range []string{"SerializedName", "JsonProperty"} {
			ce.Key = c.Marks.Find(mark).Text("value", ce.Key)
		}
		for _, v := range c.Values {
			ce.Values = append(ce.Values, fieldEntry(v))
		}
		e.Cases = append(e.Cases, ce)
	}
	return e
}

// assumed is why a library is taken for what decodes a model where neither its file nor a call says so, ""
// where one does.
func assumed(m *model.Model, settings *model.Settings) string {
	switch {
	case m.Language == "swift" || m.Decoder != nil: // the language has one
		return ""
	case settings == nil:
		return "no call, import or build file says what decodes it"
	case settings.Pos == m.Pos:
		return m.Assumed
	}
	return ""
}

// assuming is why a library is assumed, behind its name.
func assuming(why string) string {
	if why == "" {
		return ""
	}
	return ", assumed: " + why
}

func fieldEntry(f *model.Field) FieldEntry {
	e := FieldEntry{
		Name: f.Name, Keys: nonNil(f.Keys), Type: f.Declared, Optional: f.Type.Kind == model.Optional,
		Reading: f.Reading, Why: f.Why, At: f.Pos,
	}
	if len(f.Deep) > 1 {
		e.Within = f.Deep[:len(f.Deep)-1]
		e.Keys = f.Deep[len(f.Deep)-1:]
	}
	if f.Default != nil {
		e.Default = maskDefault(f.Name, f.Default.Source)
	}
	return e
}

// ModelsText writes what was read for people, as it is told: of tens of thousands of models no more is
// kept than what is being written.
func ModelsText(out io.Writer, style Style, set *model.Set) error {
	type part struct {
		text     string
		settings []Setting
	}
	var err error
	var settings []Setting
	inParts(set, func(all []ModelEntry) part {
		w := &writer{Style: style}
		var set []Setting
		for i := range all {
			all[i].text(w)
			set = addNew(set, all[i].Settings)
		}
		return part{w.String(), set}
	}, func(p part) {
		settings = addNew(settings, p.settings)
		if err == nil {
			_, err = io.WriteString(out, p.text)
		}
	})
	if err != nil {
		return err
	}
	w := &writer{Style: style}
	if len(settings) > 0 {
		w.line(0, bold, "Settings")
		for _, s := range settings {
			w.line(2, "", Safe(fmt.Sprintf("%s %s  %s", s.Name, s.Value, s.At)))
		}
		w.WriteString("\n")
	}
	w.calls("Decoded", set.Calls)
	w.calls("Sent", set.Sends)
	if len(set.PassedOver) > 0 {
		w.line(0, bold, "Passed over, as a release build for a phone would")
		for _, p := range set.PassedOver {
			w.line(2, "", Safe(p.Pos.String()+"  "+strings.TrimSuffix(p.Reason, " is passed over")))
		}
		w.WriteString("\n")
	}
	count, perhaps := len(set.Models), len(declared(set, true))
	text := fmt.Sprintf("%s in %s", Plural(int64(count-perhaps), "model"), Plural(int64(set.Files), "source file"))
	if perhaps > 0 {
		text += fmt.Sprintf("; %s more that check holds against responses which have their keys", Plural(int64(perhaps), "class"))
	}
	w.line(0, "", text)
	_, err = io.WriteString(out, w.String())
	return err
}

// calls writes where a library is asked to read or to write.
func (w *writer) calls(title string, calls []*model.Call) {
	entries := callEntries(calls)
	if len(entries) == 0 {
		return
	}
	w.line(0, bold, title)
	for _, c := range entries {
		first, second := c.text(title == "Sent")
		w.line(2, "", Safe(first))
		if second != "" {
			w.line(4, faint, Safe(second))
		}
	}
	w.WriteString("\n")
}

// addNew adds the settings that are not among those before.
func addNew(all, more []Setting) []Setting {
	for _, s := range more {
		if !slices.Contains(all, s) {
			all = append(all, s)
		}
	}
	return all
}

func (m *ModelEntry) text(w *writer) {
	w.WriteString(w.paint(bold, Safe(m.Name)) + "  " + string(m.Kind) + "  " + Safe(m.At.String()) + "\n")
	about := m.Library
	for _, s := range m.Settings {
		about += " · " + s.Name + " " + s.Value
	}
	if about += assuming(m.Assumed); about != "" {
		w.line(2, faint, Safe(about))
	}
	if m.Likely {
		w.line(2, yellow, "a likely model, by its look: nothing in the source says that it is decoded")
	}
	if m.Super != "" {
		w.line(2, "", Safe("extends "+m.Super))
	}
	if m.Raw != "" {
		w.line(2, "", Safe("written as "+m.Raw))
	}
	if m.Reading != model.ByLibrary {
		text := "read " + readingWords[m.Reading]
		if m.Why != "" {
			text += ": " + m.Why
			if m.WhyAt != nil {
				text += fmt.Sprintf(" (%s)", m.WhyAt)
			}
		}
		w.line(2, yellow, Safe(text))
	}
	fieldTable(w, m.Fields)
	for _, c := range m.Cases {
		text := c.Name
		if c.Raw != "" {
			text += " = " + c.Raw
		}
		if c.Key != "" && c.Key != c.Name {
			text += " as " + c.Key
		}
		w.line(2, "", Safe("case "+text))
		fieldTable(w, c.Values)
	}
	w.WriteString("\n")
}

// fieldTable writes fields in columns.
func fieldTable(w *writer, fields []FieldEntry) {
	rows := make([][4]string, len(fields))
	var widths [3]int
	for i, f := range fields {
		keys := strings.Join(f.Keys, ", ")
		if len(f.Within) > 0 {
			keys = strings.Join(f.Within, ".") + "." + keys
		}
		if keys == "" {
			keys = "-"
		}
		note := ""
		switch {
		case f.Why != "":
			note = readingWords[f.Reading] + ": " + f.Why
		case f.Reading == model.ByCode:
			note = readingWords[f.Reading]
		case f.Default != "":
			note = "default " + short(f.Default, 60)
		}
		rows[i] = [4]string{Safe(f.Name), Safe(f.Type), Safe(keys), Safe(note)}
		for k := range widths {
			widths[k] = max(widths[k], min(40, utf8.RuneCountInString(rows[i][k])))
		}
	}
	for _, r := range rows {
		last := len(r) - 1
		for last > 0 && r[last] == "" {
			last--
		}
		w.WriteString("  ")
		for k, text := range r[:last+1] {
			w.WriteString(text)
			if k < last {
				for n := utf8.RuneCountInString(text); n < widths[k]+2; n++ {
					w.WriteByte(' ')
				}
			}
		}
		w.WriteByte('\n')
	}
}
