package drift

import (
	"slices"

	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// walk takes a shape through a plan.
type walk struct {
	made   map[made]bool // what code makes that is being looked at
	e      *shape.Endpoint
	events []finding.Event
	visits []Visit
	match  func(string) string
	model  *model.Model
	field  *model.Field
	typ    string
	elem   bool
	read   map[*shape.Place]map[string]bool // keys that some node asked for, by object
	owner  map[*shape.Place]*model.Model
	// refusedKeys are those that a library fails on since its class does not have them.
	refusedKeys map[*shape.Key]bool
	open        map[visitKey]int // being walked: a model that holds itself; and 1 + how many builds were under way by then
	making      []visitKey       // the builds that are under way
	// decoded are the places of values that are decoded while a branch is watched.
	decoded map[*shape.Place]bool
	asked   []asked
	// post are the functions that code applies to the value that is read, innermost
	// last.
	post []*decoder.Node
	// partial says that some reading was not walked, since the counts of a shape
	// cannot tell when it happens.
	partial bool
	// tellers are the members that would tell apart what partial says cannot be.
	tellers []shape.Teller
	judged  []judged
	holder  holder
	leaves  []Visit // models that are one value, enums say, where such values stand
	// unfollowed are models of which nothing is claimed where values for them were sent, and why.
	unfollowed map[*model.Model]string
	untaken    bool // nothing is claimed of what stands there
	unclaimed  []unclaimed
	once       bool // of several members of a name only the first is sure to be read
	hashed     bool // the values are put into a collection that asks for their hash

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

// unclaimed is a field of a model that values were sent for, and why nothing is claimed of what becomes of them.
type unclaimed struct {
	model *model.Model
	field *model.Field
	why   string
}

// holder is what the value at the place of a class that reads itself stands in.
type holder struct {
	place *shape.Place
	model *model.Model
	field *model.Field
	typ   string
	elem  bool
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
	return &walk{e: e, read: map[*shape.Place]map[string]bool{}, owner: map[*shape.Place]*model.Model{}, refusedKeys: map[*shape.Key]bool{}, open: map[visitKey]int{}, unfollowed: map[*model.Model]string{}}
}

// mayDecode says whether a node decodes the values at its place, as far as is known.
func mayDecode(n *decoder.Node) bool {
	switch n.Op {
	case decoder.OpLeaf, decoder.OpList, decoder.OpMap, decoder.OpKeyed:
		return true
	}
	return n.Op == decoder.OpUnknown && n.Opaque
}

// node takes the values at place through n. null says that nulls there are
// accounted for already.
func (w *walk) node(n *decoder.Node, place *shape.Place, null bool) {
	if place == nil || n == nil {
		return
	}
	key := visitKey{n, place}
	if since := w.open[key]; since > 0 {
		w.endless(w.making[since-1:], place)
		return
	}
	w.open[key] = 1 + len(w.making)
	defer delete(w.open, key)
	if n.Op == decoder.OpBuild {
		w.making = append(w.making, key)
		defer func() { w.making = w.making[:len(w.making)-1] }()
	}
	if n.Field != nil {
		defer func(f *model.Field, typ string, elem bool) { w.field, w.typ, w.elem = f, typ, elem }(w.field, w.typ, w.elem)
		w.field, w.typ, w.elem = n.Field, n.Field.Declared, false
	}
	if w.decoded != nil && mayDecode(n) {
		w.decoded[place] = true
	}
	if len(place.Subtypes) > 0 && (n.Op == decoder.OpAt || n.Op == decoder.OpMap || n.Op == decoder.OpBuild) {
		w.partial = true // what is in the objects is counted elsewhere
	}
	switch n.Op {
	case decoder.OpLeaf:
		if n.Model != nil && place.Total() > 0 {
			w.leaves = append(w.leaves, Visit{n.Model, place})
		}
		w.leaf(n, place, null)
	case decoder.OpNil:
		switch {
		case null: // settled already
		case n.NullError != nil:
			w.refusedNulls(place, n.NullError)
		case n.NullLoss != decoder.NoLoss:
			w.nulls(place, n.NullLoss, n.Value)
		}
		w.node(n.Inner, place, true)
	case decoder.OpMade:
		w.partial = true            // what the code throws depends on more than counts tell
		if w.made[made{n, place}] { // functions that ask for each other
			break
		}
		if w.made == nil {
			w.made = map[made]bool{}
		}
		w.made[made{n, place}] = true
		w.node(n.Inner, place, null)
		delete(w.made, made{n, place})
	case decoder.OpDo, decoder.OpPick:
		w.node(n.Inner, place, null)
	case decoder.OpSubtype:
		w.subtype(n, place, null)
	case decoder.OpList:
		if n.First {
			w.kinds(n, place, wire.Array, null)
			w.first(n, place)
			break
		}
		if n.Single && place.Total() > place.Count(wire.Array)+place.Count(wire.Null) {
			// A value alone is a list of one: it is judged as an element is.
			w.partial = w.partial || place.Count(wire.Array) > 0
			if n.Second != nil && place.Count(wire.String) > 0 {
				w.texts(n, place)
				w.partial = true
			} else if place.Count(wire.Array) == 0 {
				w.node(n.Inner, place, null)
			}
			w.lossy(n, func() { w.inside(n.Inner, place.Elem, n.SkipNull) })
			break
		}
		w.texts(n, place)
		w.kinds(n, place, wire.Array, null)
		defer func(hashed bool) { w.hashed = hashed }(w.hashed)
		w.hashed = w.hashed || n.Put != nil
		w.lossy(n, func() { w.inside(n.Inner, place.Elem, n.SkipNull) })
	case decoder.OpPairs:
		w.kinds(n, place, wire.Array, null)
		w.partial = w.partial || place.Elem != nil // keys and values share a place
	case decoder.OpEntries:
		w.partial = w.partial || place.Elem != nil
	case decoder.OpMap:
		if n.Second != nil && n.SecondKind() == wire.String {
			w.texts(n, place)
		} else if n.Second != nil && place.Count(wire.Array) > 0 {
			array := place.Elem != nil && place.Elem.Total() > 0
			w.partial = w.partial || array
		}
		w.kinds(n, place, wire.Object, null)
		w.lossy(n, func() { w.members(n, place) })
	case decoder.OpElem:
		w.partial = true // elements share a place, whatever their number
		if n.Wrong != nil {
			w.kinds(n, place, wire.Array, null)
		}
	case decoder.OpIf, decoder.OpCall, decoder.OpHas, decoder.OpFail:
		w.computed(n, place, null)
	case decoder.OpKeyed:
		w.texts(n, place)
		if !n.Assured {
			before := len(w.events)
			w.held(place, func() { w.kinds(n, place, wire.Object, null) })
			for i := before; n.Lossy && i < len(w.events); i++ {
				w.events[i] = swallow(w.events[i], place)
			}
		}
		if n.Inner != nil {
			defer func(match func(string) string) { w.match = match }(w.match)
			w.match = n.Match
			inner := n.Inner
			if inner.Op == decoder.OpFail && n.Wrong != nil { // what is no object is told above
				assured := *inner
				assured.Assured, inner = true, &assured
			}
			w.node(inner, place, false)
		}
	case decoder.OpUnknown:
		switch {
		case place.Total() == 0:
		case w.field != nil:
			w.partial = true // it may fail
			w.notClaimed(n.Why)
			w.notFollowed(w.field.Type, n.Why)
		case w.model != nil && !w.elem: // what its instance is as a whole
			w.unfollowed[w.model] = n.Why
			w.partial = true
		}
		for _, k := range place.Keys { // where it is opaque any key may be the one that is read
			if n.Opaque || slices.Contains(n.Others, k.Name) {
				w.note(place, k.Name)
			}
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

// first takes the elements of lists of which the first alone is read.
func (w *walk) first(n *decoder.Node, place *shape.Place) {
	if place.Elem == nil {
		return
	}
	several := place.Elem.Total() > place.Count(wire.Array)
	w.partial = w.partial || several
	before := len(w.events)
	w.node(n.Inner, place.Elem, false)
	for i := before; several && i < len(w.events); i++ {
		w.events[i].Inexact = true // it may be of one that is not read
	}
}

// held does something about the value at a place in the name of what holds it, where the code of the class
// that is made of it asks for its kind: the field is what is declared too narrow, not the class.
func (w *walk) held(place *shape.Place, do func()) {
	h := w.holder
	if w.field != nil || h.place != place {
		do()
		return
	}
	model, field, typ, elem := w.model, w.field, w.typ, w.elem
	w.model, w.field, w.typ, w.elem = h.model, h.field, h.typ, h.elem
	do()
	w.model, w.field, w.typ, w.elem = model, field, typ, elem
}

// made is code of the app's at a place.
type made struct {
	node  *decoder.Node
	place *shape.Place
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
		if n.Inside && c.Class.Kind >= wire.Array {
			w.partial = true
			if w.field != nil {
				w.notFollowed(w.field.Type, "code of the app reads it, as a part of "+w.field.Name)
			}
			for _, k := range place.Keys {
				w.note(place, k.Name)
			}
			continue
		}
		if w.byText(n, place, c.Class) {
			if !place.Open(c.Class.Kind) {
				continue // below, text by text
			}
			if !w.tooMany(n, place, c.Class, c.Witness) {
				w.judge(n, place, c.Class, c.Tally, c.Witness, "", total, false)
			}
			continue
		}
		if !w.tooMany(n, place, c.Class, c.Witness) {
			w.judge(n, place, c.Class, c.Tally, c.Witness, "", total, false)
		}
	}
	for _, kind := range []wire.Kind{wire.String, wire.Number} {
		for _, t := range place.SortedTexts(kind) {
			if w.byText(n, place, t.Class) {
				w.judge(n, place, t.Class, &t.Tally, t.Literal, t.Literal, total, false)
			}
		}
	}
}

// byText says whether values of a class are judged text by text: where the leaf minds it, or what is made of its value
// does.
func (w *walk) byText(n *decoder.Node, place *shape.Place, c shape.Class) bool {
	return minds(n, place, c) || len(w.post) > 0 && (c.Kind == wire.String || c.Kind == wire.Number)
}

// notFollowed notes that nothing is claimed of the classes that values of a type hold.
func (w *walk) notFollowed(t *model.Type, why string) {
	t.Reach(func(m *model.Model) {
		if w.unfollowed[m] == "" {
			w.unfollowed[m] = why
		}
	})
}

// notClaimed notes that nothing is claimed of the field that is walked.
func (w *walk) notClaimed(why string) {
	if w.model != nil && w.field != nil && why != "" {
		w.unclaimed = append(w.unclaimed, unclaimed{w.model, w.field, why})
	}
}

// kinds notes the values that are not of the kind that the node reads.
func (w *walk) kinds(n *decoder.Node, place *shape.Place, want wire.Kind, null bool) {
	total := place.Total()
	byKind := map[wire.Kind]*finding.Event{}
	for _, c := range place.Sorted() {
		if c.Class.Kind == wire.Null && null {
			w.quietNull(place, c, total)
			continue
		}
		if n.Op == decoder.OpSubtype && c.Class.Kind == wire.Array && listed(n, place) {
			w.partial = true // a list that tells the class and holds the object
			continue
		}
		if c.Class.Kind == want || n.Second != nil && n.Op != decoder.OpSubtype && n.Op != decoder.OpPairs && n.Op != decoder.OpEntries && (c.Class.Kind == n.SecondKind() || n.Scalars && (c.Class.Kind == wire.Number || c.Class.Kind == wire.Bool)) {
			continue
		}
		ev := byKind[c.Class.Kind]
		if ev == nil && n.Empties == decoder.EmptiesAll && (c.Class.Kind == wire.Array || c.Class.Kind == wire.Object) {
			ev = &finding.Event{Place: place, Sent: finding.KindWords[c.Class.Kind], Class: shape.Class{Kind: c.Class.Kind}, Of: total, Loss: decoder.Defaulted, Seen: emptyOf(want)}
			byKind[c.Class.Kind] = ev
		}
		if ev == nil {
			err := wrong(n, c)
			if err == nil {
				w.partial = true
				continue
			}
			ev = &finding.Event{Place: place, Sent: finding.KindWords[c.Class.Kind], Class: shape.Class{Kind: c.Class.Kind}, Of: total, Err: err, List: n.Op == decoder.OpList && takesAlone(n.Inner, c)}
			byKind[c.Class.Kind] = ev
		}
		ev.Values += c.Values
		ev.Tallies = append(ev.Tallies, c.Tally)
	}
	for kind := wire.Null; kind <= wire.Object; kind++ {
		if ev := byKind[kind]; ev != nil {
			w.add(*ev)
		}
	}
}

// wrong is the error for values of a class that are not of the node's kind: for numbers, by one of them.
func wrong(n *decoder.Node, c shape.Counted) *decoder.Error {
	if n.WrongValue != nil && c.Class.Kind == wire.Number && c.Witness != "" {
		return n.WrongValue(finding.ValueOf(c.Class, c.Witness))
	}
	return n.Wrong(c.Class.Kind)
}

// emptyOf is an empty value of a kind, as people write it.
func emptyOf(kind wire.Kind) string {
	if kind == wire.Array {
		return "[]"
	}
	return "{}"
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
	return c.Class.Kind != wire.Null && elem != nil && elem.Op == decoder.OpLeaf && elem.Read(finding.ValueOf(c.Class, c.Witness)).Err == nil
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
		if place.Open(kind) || !n.Second.ByText(kind) {
			if !w.tooMany(n.Second, place, c.Class, c.Witness) {
				w.judge(n.Second, place, c.Class, c.Tally, c.Witness, "", total, false)
			}
			continue
		}
		for _, t := range place.SortedTexts(kind) {
			if t.Class == c.Class {
				w.judge(n.Second, place, t.Class, &t.Tally, t.Literal, t.Literal, total, false)
			}
		}
	}
}
