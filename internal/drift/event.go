package drift

import (
	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// event is one thing that a walk through a plan and a shape has met: values of one
// class, or objects without one key, that do not decode or are seen as other than
// they were sent.
type event struct {
	model    *model.Model
	field    *model.Field
	declared string
	place    *shape.Place // where the value is; of an absent key, the object
	key      string       // of an absent key
	sent     string       // what was sent, in words
	literal  string       // the literal, where one text alone is meant
	class    shape.Class
	tallies  []*shape.Tally
	values   int64
	of       int64 // values or objects looked at
	err      *decoder.Error
	loss     decoder.Loss
	seen     string // what the app sees, of a loss
	why      string // why it comes so, where the library tells more than the kind does
	// inexact says that the values could not be told apart finely enough: some of
	// them may fare otherwise.
	inexact bool
	list    bool // a list is wanted
	element bool // the value is in a list or map of the field, not the field's own
}

// breaks says whether the event makes decoding fail.
func (ev *event) breaks() bool { return ev.err != nil && ev.loss == decoder.NoLoss }

// walk takes a shape through a plan.
type walk struct {
	e      *shape.Endpoint
	events []event
	visits []Visit
	match  func(string) string
	model  *model.Model
	field  *model.Field
	typ    string
	elem   bool
	read   map[*shape.Place]map[string]bool // keys that some node asked for, by object
	owner  map[*shape.Place]*model.Model
	open   map[visitKey]bool // being walked: a model that holds itself
	asked  []asked
	// post are the functions that code applies to the value that is read, innermost
	// last.
	post []*decoder.Node
	// partial says that some reading was not walked, since the counts of a shape
	// cannot tell when it happens.
	partial bool

	unreadKeys []unreadKey
}

// asked is a key that a model reads at a place.
type asked struct {
	model  *model.Model
	field  *model.Field
	node   *decoder.Node
	place  *shape.Place // of the objects
	keys   []*shape.Key // that the library takes for it
	absent int64        // objects without it
	match  func(string) string
}

type visitKey struct {
	node  *decoder.Node
	place *shape.Place
}

// Visit is a model at a place.
type Visit struct {
	Model *model.Model
	Place *shape.Place
}

func newWalk(e *shape.Endpoint) *walk {
	return &walk{e: e, read: map[*shape.Place]map[string]bool{}, owner: map[*shape.Place]*model.Model{}, open: map[visitKey]bool{}}
}

func (w *walk) add(ev event) {
	ev.model, ev.field, ev.element = w.model, w.field, w.elem
	if ev.declared == "" {
		ev.declared = w.typ
	}
	w.events = append(w.events, ev)
}

// node takes the values at place through n. null says that nulls there are
// accounted for already.
func (w *walk) node(n *decoder.Node, place *shape.Place, null bool) {
	if place == nil || n == nil {
		return
	}
	key := visitKey{n, place}
	if w.open[key] {
		return
	}
	w.open[key] = true
	defer delete(w.open, key)
	if n.Field != nil {
		defer func(f *model.Field, typ string, elem bool) { w.field, w.typ, w.elem = f, typ, elem }(w.field, w.typ, w.elem)
		w.field, w.typ, w.elem = n.Field, n.Field.Declared, false
	}
	switch n.Op {
	case decoder.OpLeaf:
		w.leaf(n, place, null)
	case decoder.OpNil:
		switch {
		case n.NullError != nil:
			w.refusedNulls(place, n.NullError)
		case n.NullLoss != decoder.NoLoss:
			w.nulls(place, n.NullLoss, n.Value)
		}
		w.node(n.Inner, place, true)
	case decoder.OpDo, decoder.OpPick:
		w.node(n.Inner, place, null)
	case decoder.OpSubtype:
		w.subtype(n, place, null)
	case decoder.OpList:
		if n.Single && place.Total() > place.Count(wire.Array)+place.Count(wire.Null) {
			// A value alone is a list of one: it is judged as an element is.
			w.partial = w.partial || place.Count(wire.Array) > 0
			if place.Count(wire.Array) == 0 {
				w.node(n.Inner, place, null)
			}
			w.lossy(n, func() { w.inside(n.Inner, place.Elem, n.SkipNull) })
			break
		}
		w.texts(n, place)
		w.kinds(n, place, wire.Array, null)
		w.lossy(n, func() { w.inside(n.Inner, place.Elem, n.SkipNull) })
	case decoder.OpPairs:
		w.kinds(n, place, wire.Array, null)
		w.partial = w.partial || place.Elem != nil // keys and values share a place
	case decoder.OpEntries:
		w.partial = w.partial || place.Elem != nil
	case decoder.OpMap:
		if n.Second != nil && place.Count(wire.Array) > 0 {
			array := place.Elem != nil && place.Elem.Total() > 0
			w.partial = w.partial || array
		}
		w.kinds(n, place, wire.Object, null)
		w.lossy(n, func() { w.members(n, place) })
	case decoder.OpElem:
		w.partial = true // elements share a place, whatever their number
	case decoder.OpIf, decoder.OpCall, decoder.OpHas, decoder.OpFail:
		w.computed(n, place, null)
	case decoder.OpKeyed:
		w.texts(n, place)
		if !n.Assured {
			before := len(w.events)
			w.kinds(n, place, wire.Object, null)
			for i := before; n.Lossy && i < len(w.events); i++ {
				w.events[i] = swallow(w.events[i], place)
			}
		}
		if n.Inner != nil {
			defer func(match func(string) string) { w.match = match }(w.match)
			w.match = n.Match
			w.node(n.Inner, place, false)
		}
	case decoder.OpAt:
		w.at(n, place)
	case decoder.OpBuild:
		w.build(n, place, null)
	case decoder.OpCases:
		w.cases(n, place)
	case decoder.OpTry, decoder.OpElse, decoder.OpCatch:
		w.attempt(n, place, null)
	}
}

// inside takes the elements of a list or the members of a map through their node.
func (w *walk) inside(n *decoder.Node, place *shape.Place, null bool) {
	defer func(elem bool) { w.elem = elem }(w.elem)
	w.elem = true
	w.node(n, place, null)
}

// leaf asks the node about each class at the place, or about each text where the
// node minds the text.
func (w *walk) leaf(n *decoder.Node, place *shape.Place, null bool) {
	total := place.Total()
	for _, c := range place.Sorted() {
		if c.Class.Kind == wire.Null && null {
			w.quietNull(place, c, total)
			continue
		}
		if (n.MindsText || len(w.post) > 0) && (c.Class.Kind == wire.String || c.Class.Kind == wire.Number) {
			if !place.Open(c.Class.Kind) {
				continue // below, text by text
			}
			if n.MindsText {
				w.judge(n, place, c.Class, c.Tally, c.Witness, "", total, true)
			} else {
				w.judge(n, place, c.Class, c.Tally, c.Witness, "", total, false)
			}
			continue
		}
		w.judge(n, place, c.Class, c.Tally, c.Witness, "", total, false)
	}
	if !n.MindsText && len(w.post) == 0 {
		return
	}
	for _, kind := range []wire.Kind{wire.String, wire.Number} {
		for _, t := range place.SortedTexts(kind) {
			w.judge(n, place, t.Class, &t.Tally, t.Literal, t.Literal, total, false)
		}
	}
}

// quietNull notes nulls that the type admits.
func (w *walk) quietNull(place *shape.Place, c shape.Counted, of int64) {
	w.add(event{place: place, sent: "null", class: c.Class, tallies: []*shape.Tally{c.Tally}, values: c.Values, of: of, loss: quiet})
}

func (w *walk) judge(n *decoder.Node, place *shape.Place, c shape.Class, t *shape.Tally, witness, literal string, total int64, inexact bool) {
	verdict := n.Read(valueOf(c, witness))
	if verdict.Err == nil && verdict.Loss == decoder.NoLoss && literal != "" && w.lost(verdict.Seen) {
		verdict = decoder.Verdict{Loss: decoder.Swallowed}
	}
	if verdict.Err == nil && verdict.Loss == decoder.NoLoss {
		return
	}
	ev := event{
		place: place, sent: c.String(), class: c, literal: literal, tallies: []*shape.Tally{t}, values: t.Values, of: total,
		err: verdict.Err, loss: verdict.Loss, inexact: inexact,
	}
	if verdict.Loss != decoder.NoLoss {
		ev.seen = verdict.Seen.String()
	}
	w.add(ev)
}

// valueOf is a value of a class, for a node to judge.
func valueOf(c shape.Class, witness string) *wire.Value {
	v := &wire.Value{Kind: c.Kind, Raw: []byte(witness)}
	switch c.Kind {
	case wire.Null:
		v.Raw = []byte("null")
	case wire.Bool:
		v.Raw = []byte("false")
		if c.Facts&shape.True != 0 {
			v.Raw = []byte("true")
		}
	}
	return v
}

// kinds notes the values that are not of the kind that the node reads.
func (w *walk) kinds(n *decoder.Node, place *shape.Place, want wire.Kind, null bool) {
	total := place.Total()
	byKind := map[wire.Kind]*event{}
	for _, c := range place.Sorted() {
		if c.Class.Kind == wire.Null && null {
			w.quietNull(place, c, total)
			continue
		}
		if c.Class.Kind == want || n.Second != nil && (c.Class.Kind == secondKind(n) || n.Scalars && (c.Class.Kind == wire.Number || c.Class.Kind == wire.Bool)) {
			continue
		}
		ev := byKind[c.Class.Kind]
		if ev == nil {
			ev = &event{place: place, sent: kindWords[c.Class.Kind], class: shape.Class{Kind: c.Class.Kind}, of: total, err: n.Wrong(c.Class.Kind), list: n.Op == decoder.OpList && takesAlone(n.Inner, c)}
			byKind[c.Class.Kind] = ev
		}
		ev.values += c.Values
		ev.tallies = append(ev.tallies, c.Tally)
	}
	for kind := wire.Null; kind <= wire.Object; kind++ {
		if ev := byKind[kind]; ev != nil {
			w.add(*ev)
		}
	}
}

// takesAlone says whether values of a class that stand by themselves look like an element
// of the list that is declared: objects, and scalars that its elements are read from.
func takesAlone(elem *decoder.Node, c shape.Counted) bool {
	if c.Class.Kind == wire.Object {
		return true
	}
	for elem != nil && elem.Op == decoder.OpNil {
		elem = elem.Inner
	}
	return c.Class.Kind != wire.Null && elem != nil && elem.Op == decoder.OpLeaf && elem.Read(valueOf(c.Class, c.Witness)).Err == nil
}

// secondKind is the other kind that a node reads by its Second.
func secondKind(n *decoder.Node) wire.Kind {
	if n.Op == decoder.OpMap {
		return wire.Array
	}
	return wire.String
}

// texts takes the strings at a place through the node that reads them in place of an
// object or an array.
func (w *walk) texts(n *decoder.Node, place *shape.Place) {
	if n.Second == nil {
		return
	}
	total := place.Total()
	for _, c := range place.Sorted() {
		kind := c.Class.Kind
		if kind != wire.String && !(n.Scalars && (kind == wire.Number || kind == wire.Bool)) {
			continue
		}
		if kind == wire.Bool || place.Open(kind) || !n.Second.MindsText {
			w.judge(n.Second, place, c.Class, c.Tally, c.Witness, "", total, n.Second.MindsText && kind != wire.Bool)
			continue
		}
		for _, t := range place.SortedTexts(kind) {
			if t.Class == c.Class {
				w.judge(n.Second, place, t.Class, &t.Tally, t.Literal, t.Literal, total, false)
			}
		}
	}
}

// subtype takes objects that tell their class by a member through the class's node. The
// counts do not say which objects are of which class, so where there are several nothing
// is claimed of what is in them.
func (w *walk) subtype(n *decoder.Node, place *shape.Place, null bool) {
	w.kinds(n, place, wire.Object, null)
	if place.Member != nil {
		w.partial = true
		return
	}
	key := place.Key(n.Name)
	for _, k := range place.Keys {
		if key == nil && n.Match != nil && n.Match(k.Name) == n.Name {
			key = k
		}
	}
	w.note(place, n.Name)
	var keys []*shape.Key
	if key != nil {
		keys = append(keys, key)
	}
	objects := place.Count(wire.Object)
	tallies, values := without(place, keys)
	if values > 0 && n.Second == nil {
		w.add(event{place: place, key: n.Name, sent: "no key " + n.Name, tallies: tallies, values: values, of: objects, err: n.Missing, inexact: place.OpenForms})
	}
	if key == nil {
		return
	}
	w.partial = w.partial || key.Later != nil // one of several tells the class
	w.owner[place] = n.Model
	seen := map[*decoder.Node]bool{}
	if key.Place.Open(wire.String) {
		w.partial = true
		return
	}
	for _, t := range key.Place.SortedTexts(wire.String) {
		id, _ := wire.Unquote([]byte(t.Literal))
		var branch *decoder.Node
		for _, b := range n.Branches {
			if b.Key == id {
				branch = b.Node
			}
		}
		switch {
		case branch != nil:
			seen[branch] = true
		case n.Third != nil:
			seen[n.Third] = true
		default:
			_, err := n.Key(id)
			w.add(event{place: key.Place, sent: t.Literal, class: t.Class, literal: t.Literal, tallies: []*shape.Tally{&t.Tally}, values: t.Values, of: key.Place.Total(), err: err})
		}
	}
	if len(seen) == 1 && values == 0 {
		for branch := range seen {
			w.node(branch, place, true)
		}
		return
	}
	w.partial = true
	for _, k := range place.Keys { // some class or other reads it, as far as can be told
		w.note(place, k.Name)
	}
}

var kindWords = map[wire.Kind]string{
	wire.Null: "null", wire.Bool: "a bool", wire.Number: "a number", wire.String: "a string", wire.Array: "an array", wire.Object: "an object",
}

// members takes the members of objects through the node of a map's values.
func (w *walk) members(n *decoder.Node, place *shape.Place) {
	if place.Member != nil {
		w.inside(n.Inner, place.Member, n.SkipNull)
		return
	}
	for _, k := range place.Keys {
		if _, err := n.Key(k.Name); err != nil {
			tallies, values := formsWith(place, k)
			w.add(event{place: k.Place, key: k.Name, sent: "the key " + k.Name, tallies: tallies, values: values, of: place.Count(wire.Object), err: err, inexact: place.OpenForms})
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
	if values > 0 {
		ev := event{place: place, key: n.Name, sent: "no key " + wireName(n.Name, keys), tallies: tallies, values: values, of: objects, err: n.Missing, inexact: place.OpenForms, declared: n.Type}
		if n.Missing == nil {
			if ev.loss = n.AbsentLoss; ev.loss == decoder.NoLoss {
				ev.loss = quiet
			} else {
				ev.seen, ev.why = n.Value.String(), n.Why
			}
		}
		w.add(ev)
	}
	w.asked = append(w.asked, asked{w.model, w.field, n, place, keys, values, w.match})
	for _, k := range keys {
		w.note(place, k.Name)
		for _, p := range []*shape.Place{k.Place, k.Later} {
			if p == k.Later && p != nil && n.Last {
				w.partial = true // the first ones are not read
			}
			if p == nil || p == k.Later && !n.Every {
				continue
			}
			if n.NullLoss != decoder.NoLoss {
				seen := decoder.Seen{}
				if n.KeepNull {
					seen = n.Value
				}
				w.nulls(p, n.NullLoss, seen)
			}
			w.node(n.Inner, p, n.NullNil || n.KeepNull)
		}
	}
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
			w.add(event{place: place, sent: "null", class: c.Class, tallies: []*shape.Tally{c.Tally}, values: c.Values, of: place.Total(), loss: loss, seen: seen.String()})
		}
	}
}

// refusedNulls notes the nulls at a place that are an error.
func (w *walk) refusedNulls(place *shape.Place, err *decoder.Error) {
	for _, c := range place.Sorted() {
		if c.Class.Kind == wire.Null {
			w.add(event{place: place, sent: "null", class: c.Class, tallies: []*shape.Tally{c.Tally}, values: c.Values, of: place.Total(), err: err})
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
		tallies, values := formsWith(place, k)
		w.note(place, k.Name)
		w.add(event{place: place, key: k.Name, sent: "the key " + k.Name, tallies: tallies, values: values, of: place.Count(wire.Object), err: n.Unknown(k.Name), inexact: place.OpenForms})
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

func (a asked) wireName() string { return wireName(a.node.Name, a.keys) }

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
	if n.Anonymous {
		post := w.post
		w.post = nil
		w.steps(n, n.Steps, place, null)
		w.post = post
		return
	}
	outer := *w
	w.visits = append(w.visits, Visit{n.Model, place})
	w.model, w.field, w.typ, w.elem = n.Model, nil, "", false
	if w.owner[place] == nil {
		w.owner[place] = n.Model
	}
	if n.Unknown != nil {
		w.unknown(n, place)
	}
	post := w.post
	w.post = nil
	w.steps(n, n.Steps, place, null)
	w.post = post
	w.model, w.field, w.typ, w.elem = outer.model, outer.field, outer.typ, outer.elem
}

// kept notes a property that is never read although a key of its name is sent.
func (w *walk) kept(n *decoder.Node, s decoder.Step, place *shape.Place) {
	if s.Node == nil || s.Node.Op != decoder.OpConst || s.Node.Field == nil || s.Property < 0 || s.Node.Field.Reading != model.Never && s.Node.Why == "" {
		return
	}
	for _, k := range w.matching(place, s.Node.Field.Name) {
		ev := event{place: k.Place, sent: "a value that is not read", of: k.Place.Total(), loss: decoder.NeverRead, seen: s.Node.Value.String()}
		for _, c := range k.Place.Sorted() {
			if equalConstant(s.Node.Value, k.Place, c) {
				continue
			}
			ev.class = c.Class
			ev.tallies = append(ev.tallies, c.Tally)
			ev.values += c.Values
		}
		w.note(place, k.Name)
		if ev.values == 0 {
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

// cases takes objects that name a case of an enum through the case's node.
func (w *walk) cases(n *decoder.Node, place *shape.Place) {
	if place.Member != nil {
		return
	}
	var tallies []*shape.Tally
	values := int64(0)
	for _, f := range place.Forms {
		named := 0
		for _, b := range n.Branches {
			for _, k := range w.matching(place, b.Key) {
				if f.Has(k) {
					named++
				}
			}
		}
		if named != 1 {
			tallies, values = append(tallies, &f.Tally), values+f.Values
		}
	}
	if values > 0 {
		w.add(event{place: place, sent: "an object that does not name one case", tallies: tallies, values: values, of: place.Count(wire.Object), err: n.Error})
	}
	for _, b := range n.Branches {
		for _, k := range w.matching(place, b.Key) {
			w.note(place, k.Name)
			w.node(b.Node.Inner, k.Place, false)
		}
	}
}

// attempt takes a place through code that goes on where something fails or is
// nothing.
func (w *walk) attempt(n *decoder.Node, place *shape.Place, null bool) {
	before := w.events
	w.events = nil
	w.node(n.Inner, place, null)
	inner := w.events
	w.events = nil
	if n.Op == decoder.OpTry {
		for i := range inner {
			inner[i] = swallow(inner[i], place)
		}
		w.events = append(before, inner...)
		return
	}
	w.node(n.Second, place, null)
	second := w.events
	w.events = before
	constant := n.Second.Op == decoder.OpConst
	failed := map[*shape.Tally]bool{}
	for _, ev := range inner {
		lost := ev.loss == decoder.Swallowed || ev.loss == quiet || n.Op == decoder.OpCatch && ev.breaks()
		if !lost {
			w.events = append(w.events, ev)
			continue
		}
		for _, t := range ev.tallies {
			failed[t] = true
		}
		if constant {
			ev = swallow(ev, place)
			if ev.loss != quiet {
				ev.loss, ev.seen = decoder.Defaulted, n.Second.Value.String()
			}
			w.events = append(w.events, ev)
		}
	}
	if constant {
		return
	}
	// The second attempt only sees what the first has failed at.
	for _, ev := range second {
		if ev.tallies == nil && ev.err != nil && ev.err.Reason == decoder.ReasonCode {
			if ev = failAt(ev, inner, failed); len(ev.tallies) > 0 {
				w.events = append(w.events, ev)
			}
			continue
		}
		reached := ev.tallies[:0:0]
		values := int64(0)
		for _, t := range ev.tallies {
			if failed[t] {
				reached, values = append(reached, t), values+t.Values
			}
		}
		if len(reached) > 0 {
			ev.tallies, ev.values = reached, values
			w.events = append(w.events, ev)
		}
	}
}

// swallow makes of a failure what try? at a place makes of it. A key that is absent
// there, or null, is then nothing, as the author asked for; any other value is lost,
// and so is an object in which something is missing.
func swallow(ev event, place *shape.Place) event {
	if !ev.breaks() {
		return ev
	}
	far := len(ev.place.Steps) - len(place.Steps)
	if ev.err.Reason == decoder.ReasonMissing && far == 0 || ev.err.Reason == decoder.ReasonNull && far <= 1 {
		ev.loss = quiet
		return ev
	}
	ev.loss, ev.seen = decoder.Swallowed, "null"
	return ev
}

// quiet is the loss of nothing: an absent key or a null that becomes nothing.
const quiet decoder.Loss = "quiet"
