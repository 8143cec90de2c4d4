package config

import (
	"path/filepath"
	"strings"
	"testing"
)

var levels = []string{"breaks", "misreads", "ignores", "loose"}

func worse(a, b string) bool {
	rank := map[string]int{"breaks": 0, "misreads": 1, "ignores": 2, "loose": 3}
	return rank[a] < rank[b]
}

func fare(places ...string) Drift {
	return Drift{Language: "swift", Model: "Fare", Field: "amount", Kind: "wrong-kind", Places: places}
}

func TestLedgerFinds(t *testing.T) {
	l := &Ledger{}
	l.Accept(Entry{Drift: fare("GET /fares $.a"), Level: "misreads", Reason: "one"})
	l.Accept(Entry{Drift: fare("GET /fares $.b"), Level: "misreads", Reason: "two", Until: "2026-12-01"})
	for _, c := range []struct {
		name  string
		drift Drift
		level string
		on    Day
		by    string
		ended bool
	}{
		{"the same", fare("GET /fares $.a"), "misreads", "2026-12-01", "one", false},
		{"a milder level", fare("GET /fares $.a"), "ignores", "2026-12-01", "one", false},
		{"a worse level", fare("GET /fares $.a"), "breaks", "2026-12-01", "", false},
		{"both places, on the last day", fare("GET /fares $.a", "GET /fares $.b"), "misreads", "2026-12-01", "one", false},
		{"both places, a day later", fare("GET /fares $.a", "GET /fares $.b"), "misreads", "2026-12-02", "", true},
		{"a new place beside", fare("GET /fares $.a", "GET /tariff $.a"), "misreads", "2026-12-01", "", false},
		{"one that is over", fare("GET /fares $.b"), "misreads", "2027-01-01", "", true},
		{"another language", Drift{Language: "kotlin", Model: "Fare", Field: "amount", Kind: "wrong-kind", Places: []string{"GET /fares $.a"}}, "misreads", "2026-12-01", "", false},
		{"no language", Drift{Model: "Fare", Field: "amount", Kind: "wrong-kind", Places: []string{"GET /fares $.a"}}, "misreads", "2026-12-01", "one", false},
		{"another kind", Drift{Language: "swift", Model: "Fare", Field: "amount", Kind: "null-value", Places: []string{"GET /fares $.a"}}, "misreads", "2026-12-01", "", false},
	} {
		by, ended := l.Find(c.drift, c.level, worse, c.on)
		reason := ""
		if by != nil {
			reason = by.Reason
		}
		if reason != c.by || (ended != nil) != c.ended {
			t.Errorf("%s: accepted for %q, over %v; want %q, %v", c.name, reason, ended != nil, c.by, c.ended)
		}
	}
}

// TestLedgerText: what is written is read as it was, and sorted whatever the order in which it came.
func TestLedgerText(t *testing.T) {
	entries := []Entry{
		{Drift: fare("GET /fares $.b", "GET /fares $.a"), Level: "breaks", Reason: "quotes \" and \\ and \u007f and é", On: "2026-12-01", Until: "2027-01-31"},
		{Drift: Drift{Model: "Sailing", Kind: "unread-keys", Places: []string{"captures/x $['a b']"}}, Level: "ignores", Reason: "partial"},
		{Drift: Drift{Language: "kotlin", Model: "Fare", Field: "amount", Kind: "wrong-kind", Places: []string{"GET /fares $.a"}}, Level: "breaks", Reason: "r"},
	}
	text := ""
	for turn := range entries {
		l := &Ledger{}
		for i := range entries {
			l.Accept(entries[(i+turn)%len(entries)])
		}
		if text == "" {
			text = l.Text()
		}
		if got := l.Text(); got != text {
			t.Errorf("in another order:\n%s\nand\n%s", got, text)
		}
	}
	back, errs := ParseLedger("l.toml", text, levels)
	if len(errs) > 0 || len(back.Entries) != 3 || back.Text() != text {
		t.Errorf("%v: it is read as\n%s\nand was\n%s", errs, back.Text(), text)
	}
}

// TestAcceptAgain: what is accepted anew takes the places of older entries.
func TestAcceptAgain(t *testing.T) {
	l := &Ledger{}
	l.Accept(Entry{Drift: fare("GET /fares $.a", "GET /fares $.b"), Level: "breaks", Reason: "old"})
	l.Accept(Entry{Drift: fare("GET /fares $.b"), Level: "breaks", Reason: "new"})
	text := l.Text()
	if len(l.Entries) != 2 || strings.Count(text, "GET /fares $.b") != 1 {
		t.Errorf("two entries of one place:\n%s", text)
	}
	l.Accept(Entry{Drift: fare("GET /fares $.a"), Level: "breaks", Reason: "newer"})
	if len(l.Entries) != 2 || strings.Contains(l.Text(), `"old"`) {
		t.Errorf("an entry without a place stays:\n%s", l.Text())
	}
}

func TestLedgerWrites(t *testing.T) {
	path := filepath.Join(t.TempDir(), LedgerName)
	empty, errs := ReadLedger(path, levels)
	if len(errs) > 0 || len(empty.Entries) > 0 {
		t.Fatalf("one that is not there: %v %v", empty, errs)
	}
	empty.Accept(Entry{Drift: fare("GET /fares $.a"), Level: "breaks", Reason: "r", On: Today()})
	if err := empty.Write(); err != nil {
		t.Fatal(err)
	}
	back, errs := ReadLedger(path, levels)
	if len(errs) > 0 || len(back.Entries) != 1 || back.Entries[0].On != Today() {
		t.Errorf("%v %v", back, errs)
	}
	if FindLedger(filepath.Dir(path)) == "" || FindLedger(filepath.Join(filepath.Dir(path), "deep")) == "" {
		t.Error("it is not found")
	}
}

func FuzzLedger(f *testing.F) {
	f.Add("[[finding]]\nmodel = \"Fare\"\nkind = \"wrong-kind\"\nlevel = \"breaks\"\nplace = [\"GET /fares $\", \"x\"]\nreason = \"y\"\nuntil = 2027-01-31\non = \"2026-12-01\"\n")
	f.Add("[finding]\nplace = 3\n")
	f.Add("finding = [{model = \"a\"}, 3]\nuntil = 2027-01-31T10:00:00Z")
	f.Fuzz(func(t *testing.T, text string) {
		l, errs := ParseLedger("l.toml", text, levels)
		if len(errs) > 0 {
			return
		}
		back, errs := ParseLedger("l.toml", l.Text(), levels)
		if len(errs) > 0 || len(back.Entries) != len(l.Entries) {
			t.Errorf("%q is written as\n%s\n%v", text, l.Text(), errs)
		}
	})
}
