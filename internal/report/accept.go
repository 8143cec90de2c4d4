package report

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/config"
	"vetta/internal/drift/finding"
	"vetta/internal/model"
)

// Accepted is a finding that the team has accepted: check counts it, and does not fail for it.
type Accepted struct {
	CheckFinding
	Reason string     `json:"reason"`
	On     config.Day `json:"on,omitempty"`
	Until  config.Day `json:"until,omitempty"`
}

// LedgerState is what became of the entries of a ledger.
type LedgerState struct {
	File     string `json:"file"`
	Accepted int    `json:"accepted"` // findings
	// Stale are entries of what no longer occurs; Ended those whose last day is over while it does.
	Stale []LedgerEntry `json:"stale"`
	Ended []LedgerEntry `json:"ended"`
	// Unseen are entries that nothing can be said of: no response of theirs was read, or no source in their language.
	Unseen int `json:"unseen"`
}

// LedgerEntry is an entry of a ledger.
type LedgerEntry struct {
	config.Drift
	Until config.Day `json:"until,omitempty"`
	At    model.Pos  `json:"at"`
	entry *config.Entry
}

// worse says whether a level is worse than another.
func worse(a, b string) bool { return finding.Level(a).Rank() < finding.Level(b).Rank() }

// with are findings with those that are accepted.
func with(findings []CheckFinding, accepted []Accepted) []CheckFinding {
	all := slices.Clone(findings)
	for _, a := range accepted {
		all = append(all, a.CheckFinding)
	}
	return all
}

// Accept puts what a ledger accepts on a day apart from the other findings, and says what became of its entries.
func (c *Check) Accept(l *config.Ledger, on config.Day) {
	if l == nil || len(l.Entries) == 0 {
		return
	}
	state := &LedgerState{File: l.Path, Stale: []LedgerEntry{}, Ended: []LedgerEntry{}}
	var all []config.Drift
	for _, s := range c.subjects() {
		left := []CheckFinding{}
		for _, f := range *s.findings {
			d := s.drift(&f, l.Place)
			all = append(all, d)
			by, ended := l.Find(d, string(f.Level), worse, on)
			if by != nil {
				*s.accepted = append(*s.accepted, Accepted{f, by.Reason, by.On, by.Until})
				continue
			}
			if ended != nil {
				state.Ended = append(state.Ended, ledgerEntry(ended))
			}
			left = append(left, f)
		}
		*s.findings = left
	}
	for _, e := range l.Entries {
		switch {
		case slices.ContainsFunc(all, e.Meets):
		case c.looksAt(e, l):
			state.Stale = append(state.Stale, ledgerEntry(e))
		default:
			state.Unseen++
		}
	}
	c.Ledger = state
	c.count()
}

// looksAt says whether a check would have found what an entry is about: it has read source in its language, and responses
// of each of its endpoints, to their end.
func (c *Check) looksAt(e *config.Entry, l *config.Ledger) bool {
	if c.Partial || e.Language != "" && !slices.Contains(c.languages, e.Language) {
		return false
	}
	return !slices.ContainsFunc(e.Places, func(place string) bool {
		return !slices.ContainsFunc(c.endpoints, func(name string) bool { return strings.HasPrefix(place, l.Place(name, "")) })
	})
}

func ledgerEntry(e *config.Entry) LedgerEntry {
	return LedgerEntry{e.Drift, e.Until, e.Pos, e}
}

// Entries are those of a ledger that are listed.
func Entries(listed []LedgerEntry) (all []*config.Entry) {
	for _, e := range listed {
		all = append(all, e.entry)
	}
	return all
}

// ToAccept are the findings of a report that are as bad as a level or worse, as entries of a ledger.
func (c *Check) ToAccept(level finding.Level, l *config.Ledger) (all []config.Entry) {
	for _, s := range c.subjects() {
		for _, f := range *s.findings {
			if f.Level.Rank() <= level.Rank() {
				all = append(all, config.Entry{Drift: s.drift(&f, l.Place), Level: string(f.Level)})
			}
		}
	}
	return all
}

// ledger says what became of the entries of a ledger.
func (c *Check) ledger(w *writer) {
	l := c.Ledger
	if l == nil {
		return
	}
	text := fmt.Sprintf("accepted   %s, by %s", countOf(l.Accepted, "finding"), Safe(l.File))
	if l.Unseen > 0 {
		text += fmt.Sprintf("; nothing was read that would tell of %s", Plural(int64(l.Unseen), "other entry"))
	}
	w.line(0, "", text)
	list := func(label, why string, entries []LedgerEntry) {
		if len(entries) == 0 {
			return
		}
		var names []string
		for _, e := range entries[:min(len(entries), 3)] {
			names = append(names, Safe(e.Name()+" "+e.Kind))
		}
		if more := len(entries) - len(names); more > 0 {
			names = append(names, fmt.Sprintf("%d more", more))
		}
		w.line(0, yellow, fmt.Sprintf("%-10s %s %s: %s", label, Plural(int64(len(entries)), "entry"), why, strings.Join(names, ", ")))
	}
	list("stale", "of what no longer occurs; vetta accept -prune removes them", l.Stale)
	list("ended", "whose last day is over", l.Ended)
}

// LevelNames are the levels of findings, the worst first.
func LevelNames() (names []string) {
	for _, l := range finding.Levels {
		names = append(names, string(l))
	}
	return names
}
