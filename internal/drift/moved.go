package drift

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/shape"
	"vetta/internal/wire"
)

const movedText = `The key that the model reads is absent from its object, and a key of the same name,
with values that the field takes, is sent one level further out or further in, where
the model does not read it: the API has put it into an envelope, or taken it out.`

var movedKey = &Kind{
	Name:  "moved-key",
	Level: Breaks,
	Title: "sent at another level",
	Text:  movedText + "\nThe field must be there, so decoding throws.",
	Example: `struct Sailing: Decodable { let gate: String }
{"id": 7, "boarding": {"gate": "A4"}}`,
	Fix:     `Mirror the new nesting in the model, or read the key through a nested container.`,
	suggest: suggestMove,
}

var movedSilently = &Kind{
	Name:  "moved-optional",
	Level: Misreads,
	Title: "sent at another level: the app sees nothing",
	Text:  movedText + "\nThe field is optional, so nothing throws: it is nil, and the value is lost.",
	Example: `struct Sailing: Decodable { let gate: String? }
{"id": 7, "boarding": {"gate": "A4"}}`,
	Fix:     `Mirror the new nesting in the model, or read the key through a nested container.`,
	suggest: suggestMove,
}

func suggestMove(f *Finding) string {
	return fmt.Sprintf("read it from %s: %s", f.Rename, f.speech().nested)
}

// move is a key of the same name at another level.
type move struct {
	place    *shape.Place
	evidence string
}

// moves finds keys that are absent where they are asked for and sent one level
// further out or in.
func (w *walk) moves(renames map[renameKey]*rename) map[renameKey]*move {
	out := map[renameKey]*move{}
	for i := range w.asked {
		a := &w.asked[i]
		at := renameKey{a.place, a.node.Name}
		if a.absent == 0 || a.field == nil || renames[at] != nil || out[at] != nil {
			continue
		}
		for _, object := range w.around(a.place) {
			for _, k := range object.Keys {
				given := k.Name
				if a.match != nil {
					given = a.match(given)
				}
				if given != a.node.Name || w.read[object][k.Name] || object == a.place || w.fits(a.node.Inner, k.Place) < 0.5 {
					continue
				}
				out[at] = &move{place: k.Place, evidence: fmt.Sprintf("%s is sent at %s in %d of %d objects, and nothing reads it there", k.Name, k.Place.Path(), k.Objects, object.Count(wire.Object))}
			}
		}
	}
	return out
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
		if k.Place.Count(wire.Object) > 0 {
			out = append(out, k.Place)
		}
	}
	return out
}
