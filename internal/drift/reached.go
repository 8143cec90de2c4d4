package drift

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// maxReached is how many keys a finding names that the app asks a value for.
const maxReached = 5

// reached notes the keys that the app asks a value for of which no class says what it is, and that no response has.
func (w *walk) reached(n *decoder.Node, place *shape.Place) {
	for _, f := range n.Props {
		var steps []wire.Step
		for _, key := range f.Deep {
			steps = append(steps, wire.MemberOf(key))
		}
		asked := func(r model.Reach) (of *shape.Place, key string) {
			path := slices.Concat(steps, r.Path)
			last := len(path) - 1
			return place.Inner(path[:last]), path[last].Name
		}
		instead := map[int][]model.Reach{} // of keys that stand for others, those that are sent
		for _, r := range f.Reached {
			if of, key := asked(r); r.Instead > 0 && of != nil && of.Key(key) != nil {
				instead[r.Instead] = append(instead[r.Instead], r)
			}
		}
		answered := func(r model.Reach) bool {
			return slices.ContainsFunc(instead[r.Instead], func(sent model.Reach) bool {
				return len(sent.Path) > len(r.Path) || !slices.Equal(sent.Path, r.Path[:len(sent.Path)]) // not on the way to it
			})
		}
		said := map[string]bool{}
		var first *shape.Place
		var whys []string
		for _, r := range f.Reached {
			of, key := asked(r)
			if of == nil || of.Member != nil || len(of.Keys) == 0 || of.Key(key) != nil || said[of.Path()+"."+key] || answered(r) {
				continue
			}
			said[of.Path()+"."+key] = true
			if first == nil {
				first = of
			}
			whys = append(whys, fmt.Sprintf("%s:%d:%d asks for %s, and sent is %s", r.Pos.File, r.Pos.Line, r.Pos.Col, key, someKeys(of)))
		}
		if len(whys) > maxReached {
			whys = append(whys[:maxReached], fmt.Sprintf("%d more", len(whys)-maxReached))
		}
		if first != nil {
			w.ofObjects(finding.Event{Model: n.Model, Field: f, Declared: f.Declared, Place: first, Loss: decoder.NeverThere, Why: strings.Join(whys, "; ")})
		}
	}
}

// someKeys are the first of the keys at a place, for people.
func someKeys(place *shape.Place) string {
	var names []string
	for _, k := range place.Keys {
		names = append(names, k.Name)
	}
	slices.Sort(names)
	if len(names) > 6 {
		names = append(names[:6], "…")
	}
	return strings.Join(names, ", ")
}
