package drift

import (
	"fmt"
)

// joinMixed makes one finding of those about values of one field at one place that
// fail in several ways.
func joinMixed(all []*Finding) []*Finding {
	joins := map[*Kind]bool{nullValue: true, wrongKind: true, outOfRange: true, listMismatch: true, unreadableDate: true, unreadableText: true}
	groups := map[string][]*Finding{}
	key := func(f *Finding) string { return fmt.Sprintf("%p %s %v %s", f.Field, f.Name, f.Element, f.Level) }
	for _, f := range all {
		if joins[f.Kind] && f.Field != nil {
			groups[key(f)] = append(groups[key(f)], f)
		}
	}
	var out []*Finding
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
		joined.Kind, joined.Sites = mixedValues, nil
		for _, g := range group {
			for _, s := range g.Sites {
				joined.join(s)
			}
		}
		out = append(out, &joined)
	}
	return out
}

// join adds what another finding has at a site.
func (f *Finding) join(s *Site) {
	for _, own := range f.Sites {
		if own.Endpoint == s.Endpoint && own.Place == s.Place {
			own.Values += s.Values
			own.Exact = own.Exact && s.Exact
			own.tallies = append(own.tallies, s.tallies...)
			own.Sent = append(own.Sent, s.Sent...)
			return
		}
	}
	copied := *s
	f.Sites = append(f.Sites, &copied)
}
