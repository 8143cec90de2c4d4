package drift

import (
	"sort"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/drift/breaks"
	"vetta/internal/drift/finding"
	"vetta/internal/drift/misreads"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// trusted is what an app sees that takes a response for its type without a look.
func trusted(ev *finding.Event) string {
	switch {
	case ev.Err.Reason == decoder.ReasonMissing:
		return "undefined"
	case ev.Literal != "":
		return ev.Literal
	}
	return ev.Sent
}

// finish completes a finding when all its events are there.
func finish(f *finding.Finding) {
	for _, s := range f.Sites {
		if len(s.Tallies) > 0 {
			s.Settle()
		}
		place(f, s)
		for i := range s.Sent {
			if f.Kind == breaks.OutOfRange || f.Kind == misreads.MixedValues && s.Sent[i].Error != "" {
				numbers(s, &s.Sent[i])
			}
		}
	}
	own, ok := f.Own()
	switch {
	case ok:
		f.Change = own
	case f.Advice != "":
		f.Change = finding.Say(f.Advice)
	case f.Kind.Suggest != nil:
		f.Change = f.Kind.Suggest(f)
	}
}

// place says in errors where the value of the example is; where several values were sent that
// fail, the example may be of another one.
func place(f *finding.Finding, s *finding.Site) {
	if len(s.Examples) == 0 || len(s.Sent) > 1 { // the path of the place, then, of no one value
		f.Error = strings.ReplaceAll(f.Error, decoder.PathMark, s.Place)
		for i := range s.Sent {
			s.Sent[i].Error = strings.ReplaceAll(s.Sent[i].Error, decoder.PathMark, s.Place)
		}
	}
	if len(s.Examples) == 0 {
		return
	}
	at := s.Examples[0].Steps
	if len(s.Sent) > 1 {
		at = []wire.Step{wire.MemberOf(model.NotTold)}
	}
	f.Error = decoder.Placed(f.Error, at)
	for i := range s.Sent {
		s.Sent[i].Error = decoder.Placed(s.Sent[i].Error, at)
	}
}

func sortFindings(all []*finding.Finding) {
	sort.SliceStable(all, func(i, k int) bool {
		a, b := all[i], all[k]
		if x, y := a.Level.Rank(), b.Level.Rank(); x != y {
			return x < y
		}
		if x, y := a.Responses(), b.Responses(); x != y {
			return x > y
		}
		return before(a.Pos, b.Pos)
	})
}
