package config

import (
	"bytes"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/BurntSushi/toml"

	"vetta/internal/model"
	"vetta/internal/whole"
	"vetta/internal/words"
)

// LedgerName is the name of the file that says which findings are accepted.
const LedgerName = "vetta.accepted.toml"

// Ledger is what a vetta.accepted.toml says.
type Ledger struct {
	Path    string
	Entries []*Entry
}

// Entry is a finding that is accepted.
type Entry struct {
	Drift
	Level  string // that it had: a worse one is new
	Reason string
	On     Day // that it was accepted
	Until  Day // the last day that it is accepted, "" for ever
	Pos    model.Pos
}

// Drift is what makes a finding the same from one check to the next, whatever its lines and counts.
type Drift struct {
	Language string   `json:"language,omitempty"` // of the model
	Model    string   `json:"model"`
	Field    string   `json:"field,omitempty"` // "" where the model as a whole is meant
	Kind     string   `json:"kind"`
	Places   []string `json:"places"` // where it was found: an endpoint, a blank and a place in it; sorted
}

// Name is what people call it by: MODEL.FIELD, or the model alone.
func (d Drift) Name() string {
	if d.Field == "" || d.Field == d.Model {
		return d.Model
	}
	return d.Model + "." + d.Field
}

// Day is a day as RFC 3339 writes it: 2026-12-01. Days compare as texts do.
type Day string

// Today is the day that it is here.
func Today() Day { return Day(time.Now().Format(time.DateOnly)) }

// ParseDay reads a day.
func ParseDay(text string) (Day, error) {
	if _, err := time.Parse(time.DateOnly, text); err != nil {
		return "", fmt.Errorf("%q is no day: it is written as %s", text, Today())
	}
	return Day(text), nil
}

// FindLedger answers the path of the ledger of a folder or of the nearest folder around it, "" where there is none.
func FindLedger(dir string) string { return findAround(dir, LedgerName) }

// ReadLedger reads a ledger, whose mistakes it answers all of, each an *Error; one that is not there is empty. levels are
// what the level of an entry may be. What is right
// of it is answered all the same.
func ReadLedger(path string, levels []string) (*Ledger, []error) {
	data, err := os.ReadFile(path)
	if errors.Is(err, fs.ErrNotExist) {
		return &Ledger{Path: path}, nil
	}
	if err != nil {
		var at *fs.PathError
		if errors.As(err, &at) {
			err = at.Err
		}
		return &Ledger{Path: path}, []error{fmt.Errorf("%s: %w", path, err)}
	}
	return ParseLedger(path, string(data), levels)
}

// The keys of an entry.
var entryKeys = []string{"language", "model", "field", "kind", "level", "place", "reason", "on", "until"}

// ParseLedger is ReadLedger of a text.
func ParseLedger(path, text string, levels []string) (*Ledger, []error) {
	l := &Ledger{Path: path}
	r := &reader{file: &File{}, words: Words{Levels: levels}, places: placesOf(path, text)}
	all, wrong := decode(path, text)
	if wrong != nil {
		return l, []error{wrong}
	}
	for _, name := range r.keys(all, "", 0, []string{"finding"}) {
		for i, table := range r.tables(all[name], name, r.places.of("", 0, name)) {
			if e := r.entry(table, i); e != nil {
				l.Entries = append(l.Entries, e)
			}
		}
	}
	return l, r.sorted()
}

func (r *reader) entry(table map[string]any, i int) *Entry {
	e := &Entry{Pos: r.places.of("finding", i, "")}
	before := len(r.errs)
	for _, name := range r.keys(table, "finding", i, entryKeys) {
		at, value := r.places.of("finding", i, name), table[name]
		switch name {
		case "language":
			e.Language = r.text(value, name, at)
		case "model":
			e.Model = r.text(value, name, at)
		case "field":
			e.Field = r.text(value, name, at)
		case "kind":
			e.Kind = r.text(value, name, at)
		case "level":
			if e.Level = r.text(value, name, at); e.Level != "" && !slices.Contains(r.words.Levels, e.Level) {
				r.wrong(at, "level is one of %s%s", strings.Join(r.words.Levels, ", "), words.Nearest(e.Level, r.words.Levels))
			}
		case "place":
			e.Places = r.list(value, name, at).Values
		case "reason":
			e.Reason = r.text(value, name, at)
		case "on":
			e.On = r.day(value, name, at)
		case "until":
			e.Until = r.day(value, name, at)
		}
	}
	for _, needed := range []string{"model", "kind", "level", "place", "reason"} {
		if _, ok := table[needed]; !ok {
			r.wrong(e.Pos, "the finding has no %s: vetta accept writes entries", needed)
		}
	}
	if len(r.errs) > before {
		return nil
	}
	slices.Sort(e.Places)
	return e
}

// day reads a day, written as a date of TOML or as a text.
func (r *reader) day(value any, name string, at model.Pos) Day {
	text, ok := value.(string)
	if date, is := value.(time.Time); is {
		text, ok = date.Format(time.DateOnly), true
	}
	if !ok {
		r.wrong(at, "%s is a day, as in %s = %s, and not %s", name, name, Today(), kind(value))
		return ""
	}
	day, err := ParseDay(text)
	if err != nil {
		r.wrong(at, "%s: %v", name, err)
	}
	return day
}

// same says whether two findings are the same but for their places.
func (d *Drift) same(o *Drift) bool {
	return d.Model == o.Model && d.Field == o.Field && d.Kind == o.Kind && (d.Language == o.Language || d.Language == "" || o.Language == "")
}

// Meets says whether an entry is about a finding, at one of its places at least.
func (e *Entry) Meets(d Drift) bool {
	return e.same(&d) && slices.ContainsFunc(e.Places, func(p string) bool { return slices.Contains(d.Places, p) })
}

// Find answers an entry by which a finding of a level is accepted on a day, nil where it is not: entries of the same
// finding must have all of its places, and have been made for a level as bad. Of those whose last day is over, ended is
// the last to end that would have been the one.
func (l *Ledger) Find(d Drift, level string, worse func(a, b string) bool, on Day) (by, ended *Entry) {
	if l == nil {
		return nil, nil
	}
	has, had := map[string]bool{}, map[string]bool{}
	for _, e := range l.Entries {
		if !e.Meets(d) || worse(level, e.Level) {
			continue
		}
		over := e.Until != "" && e.Until < on
		if over && (ended == nil || ended.Until < e.Until) {
			ended = e
		}
		if !over && by == nil {
			by = e
		}
		for _, p := range e.Places {
			has[p], had[p] = has[p] || !over, true
		}
	}
	all := func(known map[string]bool) bool {
		return !slices.ContainsFunc(d.Places, func(p string) bool { return !known[p] })
	}
	switch {
	case all(has):
		return by, nil
	case all(had):
		return nil, ended
	}
	return nil, nil
}

// Accept adds a finding, or makes what is said of it anew.
func (l *Ledger) Accept(e Entry) {
	slices.Sort(e.Places)
	l.Entries = slices.DeleteFunc(l.Entries, func(old *Entry) bool {
		if !old.same(&e.Drift) {
			return false
		}
		old.Places = slices.DeleteFunc(old.Places, func(p string) bool { return slices.Contains(e.Places, p) })
		return len(old.Places) == 0
	})
	l.Entries = append(l.Entries, &e)
}

// Remove takes entries out.
func (l *Ledger) Remove(gone []*Entry) {
	l.Entries = slices.DeleteFunc(l.Entries, func(e *Entry) bool { return slices.Contains(gone, e) })
}

// ledgerHead stands at the beginning of the file.
const ledgerHead = `# Findings of vetta check that are accepted: check counts them and does not fail for them. An entry holds for
# its places and its level, whatever the lines and the numbers; behind the day of until it holds no more.
# vetta accept writes this file anew, sorted; reasons and days may be changed by hand, comments are not kept.
`

// Text is the ledger as its file has it, sorted, so that two people's additions seldom meet.
func (l *Ledger) Text() string {
	slices.SortStableFunc(l.Entries, func(a, b *Entry) int {
		return slices.Compare(
			append([]string{a.Language, a.Model, a.Field, a.Kind}, a.Places...),
			append([]string{b.Language, b.Model, b.Field, b.Kind}, b.Places...))
	})
	var b strings.Builder
	b.WriteString(ledgerHead)
	for _, e := range l.Entries {
		b.WriteString("\n[[finding]]\n")
		put := func(name string, value any) {
			var line bytes.Buffer
			toml.NewEncoder(&line).Encode(map[string]any{name: value})
			b.Write(line.Bytes())
		}
		for _, v := range []struct{ name, text string }{{"language", e.Language}, {"model", e.Model}, {"field", e.Field}, {"kind", e.Kind}, {"level", e.Level}} {
			if v.text != "" {
				put(v.name, v.text)
			}
		}
		if len(e.Places) == 1 {
			put("place", e.Places[0])
		} else {
			put("place", e.Places)
		}
		put("reason", e.Reason)
		for _, v := range []struct {
			name string
			day  Day
		}{{"on", e.On}, {"until", e.Until}} {
			if v.day != "" {
				fmt.Fprintf(&b, "%s = %s\n", v.name, v.day)
			}
		}
	}
	return b.String()
}

// Write writes the file whole, or not at all.
func (l *Ledger) Write() error {
	return whole.Write(whole.File{Path: l.Path, Data: []byte(l.Text())})
}

// Place is how a place of an endpoint is written: of captures without a request by their path from the folder of the ledger,
// so that it is the same from wherever the check is run.
func (l *Ledger) Place(endpoint, place string) string {
	if !strings.Contains(endpoint, " /") {
		endpoint = (&File{Path: l.Path}).within(filepath.FromSlash(endpoint))
	}
	return endpoint + " " + place
}
