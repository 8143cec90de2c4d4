package drift

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/markup"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// move is a key of the same name at another level.
type move struct {
	place    *shape.Place
	evidence string
	flat     bool   // of XML: items that stand where the element around them stood
	key      string // of XML: the key that is sent
	sent     *shape.Key
}

// moves finds keys that are absent where they are asked for and sent one level
// further out or in. What has moved is not renamed, and is taken from the renames.
func (w *walk) moves(renames map[renameKey]*rename) map[renameKey]*move {
	out := map[renameKey]*move{}
	defer func() {
		for at := range out {
			delete(renames, at)
		}
	}()
	for i := range w.asked {
		a := &w.asked[i]
		at := renameKey{a.place, a.node.Name}
		// A key of the very name beats one that only sounds like it.
		if r := renames[at]; a.absent == 0 || a.field == nil || r != nil && r.score >= sameName || out[at] != nil {
			continue
		}
		if m := w.flattened(a); m != nil {
			out[at] = m
			continue
		}
		if m := w.wrapped(a); m != nil {
			out[at] = m
			continue
		}
		for _, object := range w.around(a.place) {
			for _, k := range object.Keys {
				given := k.Name
				if a.match != nil {
					given = a.match(given)
				}
				if given != a.node.Name || w.read[object][k.Name] || object == a.place || w.fits(a.node.Inner, k.Place) < 0.5 || w.beside(a, object, k) {
					continue
				}
				out[at] = &move{place: k.Place, evidence: fmt.Sprintf("%s is sent at %s in %d of %d %s, and nothing reads it there", markup.ShowKey(k.Name), k.Place.Path(), k.Objects, object.Count(wire.Object), objects(object))}
			}
		}
	}
	return out
}

// beside says whether a response has a key at another level while it has what is asked where it is
// asked for: then it has not moved.
func (w *walk) beside(a *asked, object *shape.Place, k *shape.Key) bool {
	if len(a.keys) == 0 {
		return false
	}
	if a.place.OpenForms || object.OpenForms {
		return true // they cannot be told apart
	}
	has := func(place *shape.Place, keys ...*shape.Key) (tallies []*shape.Tally) {
		for _, f := range place.Forms {
			if slices.ContainsFunc(keys, f.Has) {
				tallies = append(tallies, &f.Tally)
			}
		}
		return tallies
	}
	here, there := has(a.place, a.keys...), has(object, k)
	own, _ := w.e.Among(here)
	other, _ := w.e.Among(there)
	both, exact := w.e.Among(append(here, there...))
	return !exact || own+other > both
}

// around are the places of objects one level further out or in.
func (w *walk) around(p *shape.Place) (out []*shape.Place) {
	steps := p.Steps
	for n := len(steps) - 1; n >= 0; n-- {
		if steps[n].Index == wire.AnyElement {
			continue // an element is no level of its own
		}
		outer := w.e.Place(steps[:n])
		for outer != nil && len(outer.Subtypes) > 0 { // the one that the place is in
			in := slices.IndexFunc(outer.Subtypes, func(s *shape.Subtype) bool { return strings.HasSuffix(p.Where, s.Place.Where) })
			if in < 0 {
				break
			}
			outer = outer.Subtypes[in].Place
		}
		if outer != nil && outer.Count(wire.Object) > 0 {
			out = append(out, outer)
		}
		break
	}
	for _, k := range p.Keys {
		in := k.Place
		if markup.IsElement(k.Name) && in.Elem != nil {
			in = in.Elem
		}
		if in.Count(wire.Object) > 0 {
			out = append(out, in)
		}
	}
	return out
}
