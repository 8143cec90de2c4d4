package drift

import (
	"slices"

	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/markup"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// members takes the members of objects through the node of a map's values.
func (w *walk) members(n *decoder.Node, place *shape.Place) {
	if place.Member != nil {
		w.partial = w.partial || n.Ignored != nil // the names are not known any more
		w.inside(n.Inner, place.Member, n.SkipNull)
		return
	}
	keys := map[string]bool{}
	for _, k := range place.Keys {
		key, err := n.Key(k.Name)
		if err == nil && n.Ignored != nil && n.Ignored(k.Name) {
			continue
		}
		w.partial = w.partial || n.Twice != nil && keys[key.Text] // two names of one key
		keys[key.Text] = true
		if err != nil {
			tallies, values := formsWith(place, k)
			w.add(finding.Event{Place: k.Place, Key: k.Name, Sent: "the key " + k.Name, Tallies: tallies, Values: values, Of: place.Count(wire.Object), Err: err, Inexact: place.OpenForms})
			continue
		}
		w.inside(n.Inner, k.Place, n.SkipNull)
		if k.Later == nil {
			continue
		}
		w.partial = w.partial || n.Twice != nil // where the first is nothing, it is no error
		if n.Twice != nil || n.Every {
			w.inside(n.Inner, k.Later, n.SkipNull)
		}
	}
}

func formsWith(place *shape.Place, k *shape.Key) (tallies []*shape.Tally, values int64) {
	for _, f := range place.Forms {
		if f.Has(k) {
			tallies = append(tallies, &f.Tally)
		}
	}
	return tallies, k.Objects
}

// matching are the keys at a place that the library takes for name.
func (w *walk) matching(place *shape.Place, name string) (keys []*shape.Key) {
	for _, k := range place.Keys {
		given := k.Name
		if w.match != nil {
			given = w.match(given)
		}
		if given == name {
			keys = append(keys, k)
		}
	}
	return keys
}

func (w *walk) note(place *shape.Place, key string) {
	if w.read[place] == nil {
		w.read[place] = map[string]bool{}
	}
	w.read[place][key] = true
}

// at takes a member of the objects at place through its node.
func (w *walk) at(n *decoder.Node, place *shape.Place) {
	objects := place.Count(wire.Object)
	if objects == 0 || place.Member != nil {
		return
	}
	keys := w.taken(place, n)
	w.note(place, n.Name) // also where it is absent, so that what is asked for is known
	tallies, values := without(place, keys)
	if n.Holder {
		tallies, values = holding(place, tallies, values)
	}
	if values > 0 && n.Name != markup.OrderKey {
		missing := n.Missing
		if n.MissingFrom != nil && len(place.Keys) == 1 && markup.IsElement(place.Keys[0].Name) { // what is sent in its place is told
			missing = n.MissingFrom(&wire.Value{Kind: wire.Object, Members: []wire.Member{{Name: place.Keys[0].Name}}})
		}
		ev := finding.Event{Place: place, Key: n.Name, Sent: finding.NoKey(wireName(n.Name, keys)), Tallies: tallies, Values: values, Of: objects, Err: missing, Inexact: place.OpenForms, Declared: n.Type}
		switch {
		case n.Missing != nil:
		case w.hashed && n.Hashed != nil && n.Value.Kind == decoder.SeenNull:
			ev.Err = hashing(n, decoder.ReasonMissing)
		default:
			if ev.Loss = n.AbsentLoss; ev.Loss == decoder.NoLoss {
				ev.Loss = finding.Quiet
				if n.Value.Kind != decoder.SeenNull && n.Value.Kind != decoder.SeenUnknown {
					ev.Seen = n.Value.String() // a default, which a key under another name leaves
				}
			} else {
				ev.Seen, ev.Why = n.Value.String(), n.Why
			}
		}
		w.add(ev)
	}
	if n.Name != markup.OrderKey && n.Name != markup.TextKey && n.Name != markup.TypeKey { // which are no names
		w.asked = append(w.asked, asked{w.model, w.field, n, place, keys, values, w.match})
	}
	once := w.once // what comes later may not be read at all
	w.once = false
	defer func(hashed bool) { w.hashed = hashed }(w.hashed)
	w.hashed = w.hashed && n.Hashes
	for _, k := range keys {
		w.note(place, k.Name)
		if n.Last && k.Later != nil {
			w.partial = true // which ones are read, the counts do not say
			continue
		}
		if k.Later != nil && n.Twice != nil {
			ev := finding.Event{Place: k.Place, Key: k.Name, Sent: "the key " + k.Name + " again", Of: place.Count(wire.Object), Err: n.Twice(k.Name)}
			for _, c := range k.Later.Sorted() {
				ev.Tallies, ev.Values = append(ev.Tallies, c.Tally), ev.Values+c.Values
			}
			w.add(ev)
		}
		for _, p := range []*shape.Place{k.Place, k.Later} {
			if p == nil || p == k.Later && (!n.Every || once) {
				continue
			}
			throws := w.hashed && n.Hashed != nil
			if throws {
				w.refusedNulls(p, hashing(n, decoder.ReasonNull))
			} else if n.NullLoss != decoder.NoLoss {
				seen := decoder.Seen{}
				if n.KeepNull {
					seen = n.Value
				}
				w.nulls(p, n.NullLoss, seen)
			}
			before := len(w.events)
			w.node(n.Inner, p, n.NullNil || n.KeepNull || throws)
			for i := before; throws && i < len(w.events); i++ {
				if ev := &w.events[i]; ev.Place == p && ev.Loss == decoder.NoConstant {
					ev.Err, ev.Loss = hashing(n, decoder.ReasonConstant), decoder.NoLoss
				}
			}
			if n.Opaque { // what is lost on the way may be made up for
				w.events = append(w.events[:before], slices.DeleteFunc(w.events[before:], func(ev finding.Event) bool { return !ev.Breaks() })...)
			}
		}
	}
}

// hashing is the error that hashing an instance throws where what an OpAt reads is nothing, for
// that reason.
func hashing(n *decoder.Node, reason decoder.Reason) *decoder.Error {
	err := *n.Hashed
	err.Reason = reason
	return &err
}

// taken are the keys at a place that an OpAt reads.
func (w *walk) taken(place *shape.Place, n *decoder.Node) (keys []*shape.Key) {
	for _, k := range place.Keys {
		if n.Takes(k.Name, w.match) {
			keys = append(keys, k)
		}
	}
	return keys
}

// nulls notes the nulls at a place that become something that was not sent, or that the
// type says there are none of.
func (w *walk) nulls(place *shape.Place, loss decoder.Loss, seen decoder.Seen) {
	for _, c := range place.Sorted() {
		if c.Class.Kind == wire.Null {
			w.add(finding.Event{Place: place, Sent: "null", Class: c.Class, Tallies: []*shape.Tally{c.Tally}, Values: c.Values, Of: place.Total(), Loss: loss, Seen: seen.String()})
		}
	}
}

// refusedNulls notes the nulls at a place that are an error.
func (w *walk) refusedNulls(place *shape.Place, err *decoder.Error) {
	for _, c := range place.Sorted() {
		if c.Class.Kind == wire.Null {
			w.add(finding.Event{Place: place, Sent: "null", Class: c.Class, Tallies: []*shape.Tally{c.Tally}, Values: c.Values, Of: place.Total(), Err: err})
		}
	}
}

// unknown notes the keys that a model does not have and the library fails on.
func (w *walk) unknown(n *decoder.Node, place *shape.Place) {
	if place.Member != nil {
		w.partial = true
		return
	}
	for _, k := range place.Keys {
		if n.Reads(k.Name, w.match) || n.Passed != "" && k.Name == n.Passed || n.Ignored != nil && n.Ignored(k.Name) {
			continue
		}
		err := n.Unknown(k.Name)
		if err == nil {
			continue
		}
		tallies, values := formsWith(place, k)
		w.refusedKeys[k] = true
		w.add(finding.Event{Place: place, Key: k.Name, Sent: "the key " + k.Name, Tallies: tallies, Values: values, Of: place.Count(wire.Object), Err: err, Inexact: place.OpenForms})
	}
}

// rest takes the values of keys that no step of a build takes through the node for them.
func (w *walk) rest(n *decoder.Node, place *shape.Place) {
	if place.Member != nil {
		w.partial = true
		return
	}
	for _, k := range place.Keys {
		if n.Uses(k.Name, w.match) || n.Passed != "" && k.Name == n.Passed || n.Ignored(k.Name) {
			continue
		}
		w.note(place, k.Name)
		w.partial = w.partial || k.Later != nil
		first := len(w.events)
		w.node(n.Rest, k.Place, false)
		for i := first; i < len(w.events) && n.Reads(k.Name, w.match); i++ {
			w.events[i].Why = n.Rest.Why
		}
	}
}

// wireName is the name that a key has on the wire where it is sent, or else the one
// that the library looks for.
func wireName(name string, keys []*shape.Key) string {
	if len(keys) > 0 {
		return keys[0].Name
	}
	return name
}

func (a asked) wireName() string { return markup.ShowKey(wireName(a.node.Name, a.keys)) }

// holding are those of some forms that hold an element of another name: the others are empty.
func holding(place *shape.Place, tallies []*shape.Tally, values int64) (out []*shape.Tally, n int64) {
	if place.OpenForms {
		return tallies, values
	}
	for _, f := range place.Forms {
		if !slices.Contains(tallies, &f.Tally) {
			continue
		}
		for _, k := range place.Keys {
			if markup.IsElement(k.Name) && f.Has(k) {
				out, n = append(out, &f.Tally), n+f.Values
				break
			}
		}
	}
	return out, n
}

// without are the forms at a place that have none of the keys, and how many
// objects are of them.
func without(place *shape.Place, keys []*shape.Key) (tallies []*shape.Tally, values int64) {
	if place.OpenForms {
		values = place.Count(wire.Object)
		for _, k := range keys {
			values -= k.Objects
		}
		return nil, max(0, values)
	}
	for _, f := range place.Forms {
		has := false
		for _, k := range keys {
			has = has || f.Has(k)
		}
		if !has {
			tallies = append(tallies, &f.Tally)
			values += f.Values
		}
	}
	return tallies, values
}

// build takes the objects at place through the steps that fill a model.
func (w *walk) build(n *decoder.Node, place *shape.Place, null bool) {
	defer func(post []*decoder.Node) { w.post = post }(w.post)
	w.post = nil
	if n.Anonymous {
		w.steps(n, n.Steps, place, null)
		return
	}
	outer := *w
	w.visits = append(w.visits, Visit{n.Model, place})
	w.holder = holder{place, outer.model, outer.field, outer.typ, outer.elem}
	w.model, w.field, w.typ, w.elem = n.Model, nil, "", false
	w.hashed = w.hashed && n.Hashes
	if w.owner[place] == nil {
		w.owner[place] = n.Model
	}
	if n.Unknown != nil {
		w.unknown(n, place)
	}
	if n.Rest != nil {
		w.rest(n, place)
	}
	w.partial = w.partial || n.Check != nil && place.Total() > 0
	w.steps(n, n.Steps, place, null)
	w.stale(n, place)
	w.reached(n, place)
	w.model, w.field, w.typ, w.elem, w.hashed, w.holder = outer.model, outer.field, outer.typ, outer.elem, outer.hashed, outer.holder
}

// stale notes the properties that generated code reads which is older than their class.
func (w *walk) stale(n *decoder.Node, place *shape.Place) {
	for _, f := range n.Props {
		if f.Stale == "" {
			continue
		}
		w.ofObjects(finding.Event{Model: n.Model, Field: f, Declared: f.Declared, Place: place, Loss: decoder.StalePart, Why: f.Stale})
	}
}

// ofObjects notes what is said of all objects at the place of an event.
func (w *walk) ofObjects(ev finding.Event) {
	ev.Sent, ev.Class = "an object", shape.Class{Kind: wire.Object}
	for _, c := range ev.Place.Sorted() {
		if c.Class.Kind == wire.Object {
			ev.Values += c.Values
			ev.Tallies = append(ev.Tallies, c.Tally)
		}
	}
	if ev.Of = ev.Values; ev.Values > 0 {
		w.events = append(w.events, ev)
	}
}

// kept notes a property that is never read although a key of its name is sent.
func (w *walk) kept(n *decoder.Node, s decoder.Step, place *shape.Place) {
	if s.Node == nil || s.Node.Op != decoder.OpConst || s.Node.Field == nil || s.Property < 0 || s.Node.Field.Reading != model.Never && s.Node.Why == "" || s.Node.Meant {
		return
	}
	key := s.Node.Field.Name
	if s.Node.Name != "" { // which the library would take it from
		key = s.Node.Name
	}
	for _, k := range w.matching(place, key) {
		ev := finding.Event{Place: k.Place, Sent: "a value that is not read", Of: k.Place.Total(), Loss: decoder.NeverRead, Seen: s.Node.Value.String()}
		for _, c := range k.Place.Sorted() {
			if equalConstant(s.Node.Value, k.Place, c) {
				continue
			}
			ev.Class = c.Class
			ev.Tallies = append(ev.Tallies, c.Tally)
			ev.Values += c.Values
		}
		w.note(place, k.Name)
		if ev.Values == 0 {
			continue
		}
		field, typ := w.field, w.typ
		w.field, w.typ = s.Node.Field, s.Node.Field.Declared
		w.add(ev)
		w.field, w.typ = field, typ
	}
}

// equalConstant says whether all values of a class are the constant that the
// property holds anyway.
func equalConstant(constant decoder.Seen, place *shape.Place, c shape.Counted) bool {
	if c.Class.Kind == wire.Null {
		return constant.Kind == decoder.SeenNull
	}
	if c.Class.Kind != wire.String && c.Class.Kind != wire.Number || place.Open(c.Class.Kind) {
		return false
	}
	for _, t := range place.SortedTexts(c.Class.Kind) {
		if t.Class != c.Class {
			continue
		}
		text := t.Literal
		if c.Class.Kind == wire.String {
			text, _ = wire.Unquote([]byte(t.Literal))
		}
		if text != constant.Text {
			return false
		}
	}
	return true
}
