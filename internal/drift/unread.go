package drift

import (
	"slices"
	"strings"

	"vetta/internal/drift/finding"
	"vetta/internal/drift/loose"
	"vetta/internal/markup"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// unread gathers the keys that are sent where a model is read and that it does
// not ask for.
func (w *walk) unread(renames map[renameKey]*rename, moves map[renameKey]*move) {
	renamed := map[*shape.Key]bool{} // told by a finding of their own
	for _, r := range renames {
		renamed[r.key] = true
	}
	for _, m := range moves {
		if m.sent != nil {
			renamed[m.sent] = true
		}
	}
	seen := map[*shape.Place]bool{}
	for _, v := range w.visits {
		if seen[v.Place] || v.Place.Member != nil {
			continue
		}
		seen[v.Place] = true
		w.unreadAt(w.owner[v.Place], v.Place, renamed)
	}
}

func (w *walk) unreadAt(m *model.Model, place *shape.Place, renamed map[*shape.Key]bool) {
	for _, k := range place.Keys {
		if k.Name == markup.OrderKey || k.Name == markup.TypeKey || k.Name == markup.TextKey && isBlank(k.Place) {
			continue
		}
		if w.read[place][k.Name] || renamed[k] || w.refusedKeys[k] {
			continue
		}
		w.unreadKeys = append(w.unreadKeys, unreadKey{m, place, k})
	}
}

// isBlank says whether nothing but white space was sent at a place.
func isBlank(p *shape.Place) bool {
	if p.Open(wire.String) {
		return false
	}
	return !slices.ContainsFunc(p.SortedTexts(wire.String), func(t *shape.Text) bool {
		text, _ := wire.Unquote([]byte(t.Literal))
		return strings.TrimSpace(text) != ""
	})
}

type unreadKey struct {
	model *model.Model
	place *shape.Place
	key   *shape.Key
}

func (c *checker) unreadKey(u unreadKey, e *shape.Endpoint) {
	f := c.result(u.model).finding(loose.UnreadKeys, nil, "", "")
	un := finding.Unread{Name: markup.ShowKey(u.key.Name), Place: u.key.Place.Path(), Values: u.key.Objects, Of: u.place.Count(wire.Object), Endpoint: e}
	if first, ok := u.key.First(); ok {
		un.Example = first
	}
	f.Keys = append(f.Keys, un)
}
