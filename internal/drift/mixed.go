package drift

import (
	"fmt"

	"vetta/internal/drift/breaks"
	"vetta/internal/drift/finding"
	"vetta/internal/drift/misreads"
)

// joinMixed makes one finding of those about values of one field at one place that
// fail in several ways.
func joinMixed(all []*finding.Finding) []*finding.Finding {
	joins := map[*finding.Kind]bool{breaks.NullValue: true, breaks.WrongKind: true, breaks.OutOfRange: true, breaks.ListMismatch: true, breaks.UnreadableDate: true, breaks.UnreadableText: true, breaks.RefusedValue: true}
	groups := map[string][]*finding.Finding{}
	key := func(f *finding.Finding) string {
		return fmt.Sprintf("%p %s %v %s", f.Field, f.Name, f.Element, f.Level)
	}
	for _, f := range all {
		if joins[f.Kind] && f.Field != nil {
			groups[key(f)] = append(groups[key(f)], f)
		}
	}
	var out []*finding.Finding
	for _, f := range all {
		group := groups[key(f)]
		if !joins[f.Kind] || len(group) < 2 {
			out = append(out, f)
			continue
		}
		if f != group[0] {
			continue
		}
		joined := *f
		joined.Kind, joined.Sites = misreads.MixedValues, nil
		for _, g := range group {
			for _, s := range g.Sites {
				join(&joined, s)
			}
		}
		out = append(out, &joined)
	}
	return out
}

// join adds what another finding has at a site.
func join(f *finding.Finding, s *finding.Site) {
	for _, own := range f.Sites {
		if own.Endpoint == s.Endpoint && own.Place == s.Place {
			own.Values += s.Values
			own.Exact = own.Exact && s.Exact
			own.Tallies = append(own.Tallies, s.Tallies...)
			own.Sent = append(own.Sent, s.Sent...)
			return
		}
	}
	copied := *s
	f.Sites = append(f.Sites, &copied)
}
