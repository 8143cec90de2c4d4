package drift

import (
	"fmt"
	"strings"

	"vetta/internal/shape"
)

var mixedValues = &Kind{
	Name:  "mixed-values",
	Level: Breaks,
	Title: "values of several kinds, which fail in several ways",
	Text: `The same field is sent as values of different kinds: a whole number here and one with
a fraction there, text or a number, an object or a list, null in some elements. The
finding shows how many are of each kind and what each of them throws.`,
	Examples: []Example{
		{"Swift", `struct Sailing: Decodable { let seats: Int }`, `{"seats": 40}
{"seats": null}
{"seats": "12"}`},
		{"Kotlin, Jackson", `data class Sailing(val seats: List<Int>)`, `{"seats": [40]}
{"seats": null}
{"seats": "many"}`},
	},
	Fix: `Declare what all of them have in common (an optional for null, Double for whole
numbers and fractions), and read the rest by hand, one kind after the other.`,
	suggest: func(f *Finding) Change {
		var parts []string
		null := false
		for _, c := range f.classes() {
			null = null || c.Kind == 0
		}
		if null {
			parts = append(parts, "make it optional for null")
		}
		kinds := map[string]bool{}
		fraction := "declare " + f.speech().types["Double"] + " for numbers with a fraction"
		for _, c := range f.classes() {
			switch {
			case c.Facts&(shape.Broken|shape.Beyond63) != 0:
				kinds[fraction] = true
			case c.Kind != 0:
				kinds["read the other kinds by hand, one after the other"] = true
			}
		}
		for _, k := range []string{fraction, "read the other kinds by hand, one after the other"} {
			if kinds[k] {
				parts = append(parts, k)
			}
		}
		if null && len(kinds) == 0 {
			return f.optional()
		}
		return say(strings.Join(parts, "; "))
	},
}

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
