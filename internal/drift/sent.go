package drift

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/drift/finding"
	"vetta/internal/drift/sends"
	"vetta/internal/encoder"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// What an app sends is held against requests that were accepted: what the library writes for a class against
// the shape of their bodies.

// sent checks a pair of a type that is sent and requests.
func (c *checker) sent(p *Pair) *PairResult {
	w := &sentWalk{checker: c, pair: p, seen: map[sentAt]bool{}}
	w.value(p.Plan.Writes, p.Place, nil, nil)
	return &PairResult{Pair: p, LostExact: true}
}

// sentWalk goes through what is written and what was sent side by side.
type sentWalk struct {
	*checker
	pair *Pair
	seen map[sentAt]bool
}

// sentAt is something that is written at a place.
type sentAt struct {
	value *encoder.Value
	place *shape.Place
}

// kindsOf are the kinds of values as sets of kinds have them.
var kindsOf = map[wire.Kind]encoder.Kinds{
	wire.Null: encoder.Null, wire.Bool: encoder.Bool, wire.Number: encoder.Number, wire.String: encoder.String, wire.Array: encoder.Array, wire.Object: encoder.Object,
}

// value holds what is written for a field, or for an element of one, against what was sent at a place.
func (w *sentWalk) value(v *encoder.Value, place *shape.Place, m *model.Model, member *encoder.Member) {
	if v == nil || place == nil || w.seen[sentAt{v, place}] {
		return
	}
	w.seen[sentAt{v, place}] = true
	if v.Why != "" {
		if m != nil && member != nil {
			w.unknown(m, member.Field, v.Why)
		}
		return
	}
	w.kinds(v, place, m, member)
	if v.Kinds&encoder.Array != 0 {
		w.value(v.Elem, place.Elem, m, member)
	}
	if v.Kinds&encoder.Object != 0 && place.Count(wire.Object) > 0 {
		if v.Model != nil {
			w.object(v, place)
			return
		}
		w.value(v.Elem, place.Member, m, member)
		if v.Elem != nil {
			for _, k := range place.Keys {
				w.value(v.Elem, k.Place, m, member)
			}
		}
	}
}

// kinds tells values that were sent of another kind than is written, where nothing of the kind that is
// written was sent.
func (w *sentWalk) kinds(v *encoder.Value, place *shape.Place, m *model.Model, member *encoder.Member) {
	wanted := v.Kinds &^ encoder.Null
	sent := encoder.Kinds(0)
	for class := range place.Classes {
		sent |= kindsOf[class.Kind]
	}
	sent &^= encoder.Null
	if sent == 0 || sent&wanted != 0 {
		return
	}
	for _, class := range place.Sorted() {
		if class.Class.Kind == wire.Null {
			continue
		}
		ev := &finding.Event{Place: place, Sent: finding.KindWords[class.Class.Kind], Class: class.Class, Literal: "", Tallies: []*shape.Tally{class.Tally}, Values: class.Values, Of: place.Total()}
		f := w.finding(sends.OtherKind, m, member, ev)
		f.Writes = kindWords(wanted)
	}
}

// kindWords are kinds in words.
func kindWords(kinds encoder.Kinds) string {
	var all []string
	for _, k := range []wire.Kind{wire.Bool, wire.Number, wire.String, wire.Array, wire.Object} {
		if kinds&kindsOf[k] != 0 {
			all = append(all, finding.KindWords[k])
		}
	}
	return strings.Join(all, " or ")
}

// finding makes an event part of a finding about a member of a model, about the model as a whole where there
// is none.
func (w *sentWalk) finding(kind *finding.Kind, m *model.Model, member *encoder.Member, ev *finding.Event) *finding.Finding {
	var field *model.Field
	name, declared := ev.Key, ""
	switch {
	case member != nil:
		field, name, declared = member.Field, member.Field.Name, member.Field.Declared
	case m == nil: // what is sent is of another kind altogether
		w.pair.Plan.Type.Walk(func(t *model.Type) {
			if m == nil {
				m = t.Model
			}
		})
		name, declared = w.pair.Plan.Declared, w.pair.Plan.Declared
	}
	f := w.result(m).finding(kind, field, name, declared)
	if f.Asked == "" {
		f.Asked = ev.Key
		if member != nil {
			f.Asked = member.Key
		}
	}
	if s := w.pair.Plan.Settings; s != nil {
		f.Library = s.Library
	}
	f.Add(w.pair.Endpoint, ev)
	return f
}

// object holds the members that are written of a model against the keys of the objects at a place.
func (w *sentWalk) object(v *encoder.Value, place *shape.Place) {
	e := w.pair.Endpoint
	r := w.result(v.Model)
	r.Sites = append(r.Sites, ModelSite{Pair: w.pair, Place: place.Path(), Where: place.Where, Values: place.Count(wire.Object), Responses: e.Responses, LostExact: true})
	if place.Member != nil { // keys that are data: no class is meant for them
		return
	}
	renamed := w.renamed(v, place)
	for _, k := range place.Keys {
		if member := v.Member(k.Name); member != nil {
			w.value(member.Value, k.Place, v.Model, member)
			w.leftOut(v.Model, member, k, place)
			continue
		}
		if renamed[k] == nil && !v.Open {
			w.unsent(v.Model, k, place)
		}
	}
	objects := place.Count(wire.Object)
	for _, member := range v.Members {
		if place.Key(member.Key) != nil || isRenamed(renamed, member) || objects < enough || place.OpenForms || member.Value.Why != "" {
			continue
		}
		f := r.finding(sends.Unasked, member.Field, member.Field.Name, member.Field.Declared)
		f.Sites = append(f.Sites, &finding.Site{Endpoint: e, Place: place.Path(), Where: place.Where, Values: objects, Of: objects, Responses: e.Responses, OfResponses: e.Responses, Exact: true})
	}
}

func isRenamed(renamed map[*shape.Key]*encoder.Member, member *encoder.Member) bool {
	for _, m := range renamed {
		if m == member {
			return true
		}
	}
	return false
}

// renamed are the keys of a place that seem to be those that members are written for under another name:
// members that no request has and keys that no member has, by the likeness of their names, each once.
func (w *sentWalk) renamed(v *encoder.Value, place *shape.Place) map[*shape.Key]*encoder.Member {
	out := map[*shape.Key]*encoder.Member{}
	type guess struct {
		key    *shape.Key
		member *encoder.Member
		score  float64
		why    string
	}
	var all []guess
	for _, member := range v.Members {
		if place.Key(member.Key) != nil || member.Value.Why != "" {
			continue
		}
		for _, k := range place.Keys {
			if v.Member(k.Name) != nil || !suits(member.Value, k.Place) {
				continue
			}
			if score, why := likeness(member.Key, k.Name); score >= 0.6 {
				all = append(all, guess{k, member, score, why})
			}
		}
	}
	slices.SortStableFunc(all, func(a, b guess) int {
		switch {
		case a.score > b.score:
			return -1
		case a.score < b.score:
			return 1
		}
		return 0
	})
	for _, g := range all {
		if out[g.key] != nil || isRenamed(out, g.member) {
			continue
		}
		out[g.key] = g.member
		ev := w.keyEvent(g.key, place)
		f := w.finding(sends.OtherName, v.Model, g.member, ev)
		f.Rename, f.Writes = g.key.Name, "the key "+g.member.Key
		f.Note = g.why + "; no accepted request has " + g.member.Key
	}
	return out
}

// suits says whether anything at a place is of a kind that is written for a value.
func suits(v *encoder.Value, place *shape.Place) bool {
	for class := range place.Classes {
		if kindsOf[class.Kind]&v.Kinds != 0 {
			return true
		}
	}
	return false
}

// keyEvent is that objects at a place have a key.
func (w *sentWalk) keyEvent(k *shape.Key, place *shape.Place) *finding.Event {
	ev := &finding.Event{Place: k.Place, Key: k.Name, Sent: "the key " + k.Name, Values: k.Objects, Of: place.Count(wire.Object)}
	for _, class := range k.Place.Sorted() {
		ev.Tallies = append(ev.Tallies, class.Tally)
		if len(ev.Tallies) == 1 {
			ev.Class = class.Class
		}
	}
	return ev
}

// unsent tells a key that nothing of a model is written under.
func (w *sentWalk) unsent(m *model.Model, k *shape.Key, place *shape.Place) {
	kind := sends.UnsentKey
	if k.Objects < place.Count(wire.Object) {
		kind = sends.UnsentOptional
	}
	w.finding(kind, m, nil, w.keyEvent(k, place))
}

// leftOut tells null that was sent where the member is left out.
func (w *sentWalk) leftOut(m *model.Model, member *encoder.Member, k *shape.Key, place *shape.Place) {
	if !member.Optional || member.Value.Why != "" || member.Value.Kinds&encoder.Null != 0 {
		return
	}
	for _, class := range k.Place.Sorted() {
		if class.Class.Kind == wire.Null {
			ev := &finding.Event{Place: k.Place, Sent: "null", Class: class.Class, Tallies: []*shape.Tally{class.Tally}, Values: class.Values, Of: k.Place.Total()}
			f := w.finding(sends.LeftOut, m, member, ev)
			f.Writes = fmt.Sprintf("no key %s where it has no value", member.Key)
			if r := w.pair.Endpoint.Route; r != nil && r.Method == "PATCH" {
				f.Level = finding.Misreads // absent and null are two things there
			}
		}
	}
}
