package drift

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/markup"
	"vetta/internal/shape"
	"vetta/internal/wire"
	"vetta/internal/words"
)

// rename is a key that seems to be sent in place of one that the model reads.
type rename struct {
	key      *shape.Key
	given    string // the key as the library compares it: what its settings make of it
	score    float64
	evidence string
}

// renameOf finds the unread key at a place that is most likely sent in place of
// name, which some of the objects there do not have.
func (w *walk) renameOf(a asked) *rename {
	var best *rename
	for _, k := range a.place.Keys {
		if w.read[a.place][k.Name] || a.together(k) {
			continue
		}
		given := k.Name
		if w.match != nil {
			given = w.match(given)
		}
		score, why := likeness(a.node.Name, given)
		if score > 0 && len(a.keys) > 0 && a.fills(k) {
			// Where one key is gone the other is there, without exception.
			score = min(max(score, 0.94), score+0.3) // and not taken for the same name
			why += ", and wherever one is absent the other is sent"
		}
		if score < 0.6 {
			if w.exchanged(a, k) && w.only(a, k) {
				score, why = 0.6+0.3*score, "every object has exactly one of the two, and the one since the other has gone"
			} else {
				continue
			}
		}
		if fits := w.fitsKey(a, k); fits < 0.5 {
			continue
		}
		if best == nil || score > best.score {
			if len(a.keys) == 0 {
				why += "; no response here has " + markup.ShowKey(a.node.Name) + ", so it is misspelt in the model, or was renamed before these captures"
			} else {
				why += "; other responses still have " + a.wireName() + ", so it is the API that renames it"
			}
			evidence := fmt.Sprintf("%s is sent in %d of %d %s, never together with %s; %s", markup.ShowKey(k.Name), k.Objects, a.place.Count(wire.Object), objects(a.place), a.wireName(), why)
			best = &rename{key: k, given: given, score: score, evidence: evidence}
		}
	}
	return best
}

// together says whether an object at the place has the key beside one that the
// library takes for what is asked.
func (a asked) together(k *shape.Key) bool {
	for _, f := range a.place.Forms {
		if !f.Has(k) {
			continue
		}
		for _, own := range a.keys {
			if f.Has(own) {
				return true
			}
		}
	}
	return len(a.keys) > 0 && a.place.OpenForms
}

// fills says whether all objects that lack what is asked have the key.
func (a asked) fills(k *shape.Key) bool {
	lacking, values := without(a.place, a.keys)
	if a.place.OpenForms || values == 0 {
		return false
	}
	has := int64(0)
	for _, f := range a.place.Forms {
		if f.Has(k) {
			for _, t := range lacking {
				if t == &f.Tally {
					has += f.Values
				}
			}
		}
	}
	return has == values
}

// fits is the share of the values at a place that a node decodes.
func (w *walk) fits(n *decoder.Node, place *shape.Place) float64 {
	total := place.Total()
	if total == 0 {
		return 0
	}
	probe := newWalk(w.e)
	probe.node(n, place, true)
	failed := int64(0)
	for _, ev := range probe.events {
		if ev.Breaks() && ev.Place == place && ev.Key == "" {
			failed += ev.Values
		}
	}
	return float64(total-failed) / float64(total)
}

// sameName is the likeness from which two names differ in how they are written alone.
const sameName = 0.95

// opposites are words of which one is never another name of the other.
var opposites = func() map[string]string {
	out := map[string]string{}
	for _, pair := range strings.Fields(`from:to min:max minimum:maximum start:end starts:ends started:ended start:finish begin:end first:last in:out inbound:outbound
		up:down left:right top:bottom before:after lower:upper low:high open:close opens:closes opened:closed arrival:departure arrives:departs arrived:departed
		origin:destination source:target next:previous next:prev old:new sent:received created:updated on:off enabled:disabled height:width lat:lng lat:lon
		latitude:longitude adult:child adults:children sender:receiver buyer:seller debit:credit request:response input:output hot:cold north:south east:west`) {
		a, b, _ := strings.Cut(pair, ":")
		out[a] += " " + b + " "
		out[b] += " " + a + " "
	}
	return out
}()

// opposed says whether one name has a word whose opposite is in the other, where neither has both.
func opposed(a, b []string) bool {
	for _, x := range a {
		for _, y := range b {
			if strings.Contains(opposites[x], " "+y+" ") && !slices.Contains(b, x) && !slices.Contains(a, y) {
				return true
			}
		}
	}
	return false
}

// likeness says how alike two names are, 0 to 1, and in what.
func likeness(a, b string) (float64, string) {
	if markup.IsKey(a) && markup.IsKey(b) {
		return likeNames(a, b)
	}
	wa, wb := finding.WordsIn(a), finding.WordsIn(b)
	if opposed(wa, wb) {
		return 0, ""
	}
	ja, jb := strings.Join(wa, ""), strings.Join(wb, "")
	switch {
	case ja == jb:
		return 1, "the names differ in case or underscores alone"
	case strings.TrimSuffix(ja, "s") == strings.TrimSuffix(jb, "s"):
		return sameName, "the names differ in singular and plural"
	}
	distance := words.Distance(ja, jb)
	longest := max(len(ja), len(jb))
	if longest >= 4 && distance <= 1 || longest >= 7 && distance <= 2 {
		return 0.9 - 0.05*float64(distance), "the names differ in a letter or two"
	}
	shared := 0.0
	for _, x := range wa {
		for _, y := range wb {
			switch {
			case x == y:
				shared += float64(len(x))
			case len(x) >= 3 && len(y) >= 3 && (strings.HasPrefix(x, y) || strings.HasPrefix(y, x)):
				shared += 0.8 * float64(min(len(x), len(y)))
			case commonPrefix(x, y) >= 4:
				shared += 0.8 * float64(commonPrefix(x, y))
			}
		}
	}
	if score := shared / float64(min(len(ja), len(jb))); shared > 0 {
		return min(0.85, score), "the names share words"
	}
	return 0, ""
}

func commonPrefix(a, b string) int {
	n := 0
	for n < len(a) && n < len(b) && a[n] == b[n] {
		n++
	}
	return n
}

type renameKey struct {
	place *shape.Place
	key   string
}

// renames are the keys that seem to be sent in place of those that are asked for
// and absent.
func (w *walk) renames() map[renameKey]*rename {
	out := map[renameKey]*rename{}
	taken := map[*shape.Key]*asked{}
	for i := range w.asked {
		a := &w.asked[i]
		if a.absent == 0 || a.field == nil {
			continue
		}
		w.match = a.match
		r := w.renameOf(*a)
		if r == nil {
			continue
		}
		// One key can stand in for one other only: the likelier of two.
		if other := taken[r.key]; other != nil {
			if out[renameKey{other.place, other.node.Name}].score >= r.score {
				continue
			}
			delete(out, renameKey{other.place, other.node.Name})
		}
		taken[r.key] = a
		out[renameKey{a.place, a.node.Name}] = r
	}
	w.match = nil
	return out
}
