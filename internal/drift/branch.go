package drift

import (
	"maps"
	"slices"

	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// Hand-written code reads some values only where others are there. The counts of a
// shape say how often each value comes, not which come together, so a branch is
// walked as far as its condition is about the values that it reads, or about keys
// of the same object; of the rest nothing is claimed (walk.partial).

// lossy runs a walk over elements that a node leaves out where they fail.
func (w *walk) lossy(n *decoder.Node, run func()) {
	before := len(w.events)
	run()
	for i := before; n.Lossy && i < len(w.events); i++ {
		if ev := &w.events[i]; ev.Breaks() || ev.Loss == decoder.Swallowed {
			ev.Loss, ev.Seen = decoder.Dropped, "the element is left out"
		}
	}
}

// computed walks what hand-written code computes.
func (w *walk) computed(n *decoder.Node, place *shape.Place, null bool) {
	switch n.Op {
	case decoder.OpIf:
		w.branch(n.Inner, place, null, func() { w.node(n.Second, place, null) }, func() { w.node(n.Third, place, null) }, false)
	case decoder.OpCall:
		for i, a := range n.Args {
			switch {
			case i == 0 && n.Name == "":
				// What the function makes of the value is part of the reading.
				w.post = append(w.post, n)
				w.node(a, place, null)
				w.post = w.post[:len(w.post)-1]
			case i == len(n.Args)-1 && n.Applies:
			default:
				post, before := w.post, len(w.events)
				w.post = nil
				w.node(a, place, null)
				w.post = post
				if i > 0 && n.Joins() { // it may not be asked at all
					w.events = append(w.events[:before], slices.DeleteFunc(w.events[before:], func(ev finding.Event) bool {
						w.partial = w.partial || ev.Breaks()
						return ev.Breaks()
					})...)
				}
			}
		}
	case decoder.OpHas:
		keys := w.matching(place, n.Name)
		if tallies, values := without(place, keys); values > 0 {
			w.add(finding.Event{Place: place, Key: n.Name, Sent: finding.NoKey(wireName(n.Name, keys)), Tallies: tallies, Values: values, Of: place.Count(wire.Object), Loss: finding.Quiet})
		}
		w.note(place, n.Name)
		for _, k := range keys {
			w.note(place, k.Name)
		}
	case decoder.OpFail:
		ev := finding.Event{Sent: "a value that the code refuses", Of: place.Total(), Err: n.Error}
		if n.Error.Reason != decoder.ReasonCode { // whatever is sent
			ev.Sent = "any value"
			for _, c := range place.Sorted() {
				if n.Assured && c.Class.Kind != wire.Object || null && c.Class.Kind == wire.Null {
					continue
				}
				ev.Tallies, ev.Values = append(ev.Tallies, c.Tally), ev.Values+c.Values
			}
			if ev.Values == 0 { // nothing comes to it
				return
			}
		}
		if n.Model == nil {
			ev.Place = place
			w.add(ev)
			return
		}
		w.owner[place] = n.Model
		for _, k := range place.Keys { // nothing is read, which is not what is wrong with them
			w.note(place, k.Name)
		}
		w.refused(n, place, ev)
	}
}

// endless notes that a class is made of itself at the very values that it is made of. making are the
// builds in between.
func (w *walk) endless(making []visitKey, place *shape.Place) {
	i := slices.IndexFunc(making, func(k visitKey) bool { return k.node.Endless != nil })
	if i < 0 {
		w.partial = true
		return
	}
	n := making[i].node
	ev := finding.Event{Sent: "any value", Of: place.Total()}
	whole := decoder.Plan{Root: n}
	for _, c := range place.Sorted() {
		if c.Class.Kind == wire.Object || whole.Decode(finding.ValueOf(c.Class, c.Witness)).Err == n.Endless {
			ev.Tallies, ev.Values = append(ev.Tallies, c.Tally), ev.Values+c.Values
		}
	}
	w.refused(&decoder.Node{Model: n.Model, Error: n.Endless}, place, ev)
}

// refused notes that the library refuses the declaration of a node's class, which is what
// is to be changed wherever the values are.
func (w *walk) refused(n *decoder.Node, place *shape.Place, ev finding.Event) {
	defer func(m *model.Model, f *model.Field, typ string, elem bool) {
		w.model, w.field, w.typ, w.elem = m, f, typ, elem
	}(w.model, w.field, w.typ, w.elem)
	if n.Model != nil { // else it is that of what the value is part of
		w.model, w.field, w.typ, w.elem = n.Model, nil, "", false
		w.visits = append(w.visits, Visit{n.Model, place})
	}
	ev.Place, ev.Err, ev.Class = place, n.Error, shape.Class{Kind: wire.Object}
	w.add(ev)
}

// lost says whether the functions around a reading make nothing of its value.
func (w *walk) lost(s decoder.Seen) bool {
	for i := len(w.post) - 1; i >= 0; i-- {
		if len(w.post[i].Args) != 1 {
			return false
		}
		s = w.post[i].Call([]decoder.Seen{s}, func(s decoder.Seen) decoder.Seen { return decoder.Seen{Kind: decoder.SeenUnknown} })
	}
	return len(w.post) > 0 && s.Kind == decoder.SeenNull
}

// steps walks the statements that fill a model.
func (w *walk) steps(n *decoder.Node, steps []decoder.Step, place *shape.Place, null bool) {
	for i, s := range steps {
		rest := steps[i+1:]
		switch {
		case s.Cond != nil:
			yes := func() { w.steps(n, s.Then, place, null) }
			no := func() { w.steps(n, s.Else, place, null) }
			switch {
			case endsReading(s.Then):
				no = func() { w.steps(n, append(append([]decoder.Step{}, s.Else...), rest...), place, null) }
				w.branch(s.Cond, place, null, yes, no, false)
				return
			case endsReading(s.Else):
				w.branch(s.Cond, place, null, func() { w.steps(n, append(append([]decoder.Step{}, s.Then...), rest...), place, null) }, no, true)
				return
			}
			w.branch(s.Cond, place, null, yes, no, false)
		case s.Do:
			w.tried(n, s, place, null)
		case s.Node != nil:
			w.kept(n, s, place)
			if (s.Spent != nil || s.Unasked) && s.Node.Op == decoder.OpAt {
				keys := w.taken(place, s.Node)
				for _, k := range keys {
					w.partial = w.partial || k.Later != nil || len(keys) > 1 // whether the instance is made by then
				}
				if !s.First && s.Spent != nil { // whatever it is, it cannot be set
					n := *s.Node
					n.Inner = &decoder.Node{Op: decoder.OpNil, NullError: s.SpentNull, Inner: &decoder.Node{Op: decoder.OpFail, Error: s.Spent}}
					w.node(&n, place, null)
					continue
				}
			}
			if s.Property == decoder.WholeValue && s.Node.Op == decoder.OpConst && s.Node.Value.Kind == decoder.SeenNull {
				w.add(finding.Event{Place: place, Sent: "a value that the code gives up on", Of: place.Total(), Loss: decoder.Swallowed, Seen: "null"})
			}
			w.once = s.Spent == decoder.PassedOver
			w.node(s.Node, place, null)
			w.once = false
		}
		if s.Return {
			return
		}
	}
}

func endsReading(steps []decoder.Step) bool {
	if len(steps) == 0 {
		return false
	}
	last := steps[len(steps)-1]
	return last.Return || last.Node != nil && last.Node.Op == decoder.OpFail || last.Cond != nil && endsReading(last.Then) && endsReading(last.Else)
}

// branch walks a condition and what is done where it holds and where not. guarded
// says that what is done where it holds is the rest of the reading.
func (w *walk) branch(cond *decoder.Node, place *shape.Place, null bool, yes, no func(), guarded bool) {
	if cond.Op == decoder.OpCall && cond.Name == "!" {
		w.branch(cond.Args[0], place, null, no, yes, false)
		return
	}
	outer := w.events
	asked := len(w.asked)
	w.events = nil
	w.node(cond, place, null)
	tested := w.events
	places := map[*shape.Place]bool{}
	for _, a := range w.asked[asked:] {
		for _, k := range a.keys {
			places[k.Place] = true
		}
	}
	for _, name := range hasAsked(cond) {
		for _, k := range w.matching(place, name) {
			places[k.Place] = true
		}
	}
	if ofItself(cond) { // then all that is in it is in what holds the condition
		places[place] = true
	}
	failed := map[*shape.Tally]bool{}
	for _, ev := range tested {
		if ev.Loss == decoder.Swallowed || ev.Loss == finding.Quiet {
			for _, t := range ev.Tallies {
				failed[t] = true
			}
		}
	}
	known := correlates(cond)
	w.events = nil
	yes()
	held := w.events
	w.events = nil
	asked = len(w.asked)
	watched := w.decoded
	reread := map[*shape.Place]bool{}
	w.decoded = reread
	no()
	if w.decoded = watched; watched != nil {
		maps.Copy(watched, reread)
	}
	missed := w.events
	for _, a := range w.asked[asked:] {
		for _, k := range a.keys {
			reread[k.Place] = true
		}
	}
	w.events = outer
	for _, ev := range tested {
		if ev.Loss != decoder.Swallowed || !reread[ev.Place] {
			w.events = append(w.events, ev)
		}
	}
	for _, ev := range held {
		kept := subtract(ev, failed)
		switch {
		case len(ev.Tallies) > 0 && len(kept.Tallies) == 0:
		case ev.Refuses() && len(failed) > 0: // the code throws where the condition holds, and some do not hold it
			w.partial = true
		case known && (len(failed) == 0 || places[ev.Place] || under(ev.Place, places)):
			w.events = append(w.events, kept)
		case known && guarded:
			w.partial = true
			w.events = append(w.events, kept)
		default:
			w.partial = w.partial || ev.Breaks()
		}
	}
	for _, ev := range missed {
		if !known {
			w.partial = w.partial || ev.Breaks()
			continue
		}
		if ev.Tallies == nil && ev.Loss == decoder.Swallowed { // of values whose errors are dropped it is said already
			untold := slices.DeleteFunc(slices.Clone(tested), func(t finding.Event) bool { return t.Loss == decoder.Swallowed })
			if ev = failAt(ev, untold, failed); len(ev.Tallies) == 0 {
				continue
			}
		} else if ev.Tallies == nil {
			ev = failAt(ev, tested, failed)
		} else {
			ev = intersect(ev, failed)
		}
		if len(ev.Tallies) > 0 {
			w.events = append(w.events, ev)
		} else if len(failed) > 0 {
			w.partial = true
		}
	}
}

// tried walks a block and what is done where something in it fails.
func (w *walk) tried(n *decoder.Node, s decoder.Step, place *shape.Place, null bool) {
	outer := w.events
	w.events = nil
	w.steps(n, s.Then, place, null)
	inner := w.events
	w.events = nil
	w.steps(n, s.Else, place, null)
	handler := w.events
	w.events = outer
	for _, ev := range inner {
		w.events = append(w.events, swallow(ev, place))
	}
	for _, ev := range handler {
		w.partial = w.partial || ev.Breaks()
	}
}

// hasAsked are the keys that a condition asks for whether they are there.
func hasAsked(cond *decoder.Node) (names []string) {
	switch {
	case cond == nil:
	case cond.Op == decoder.OpHas:
		return []string{cond.Name}
	case cond.Op == decoder.OpKeyed:
		return hasAsked(cond.Inner)
	case cond.Op == decoder.OpCall && cond.Name == "&&":
		for _, a := range cond.Args {
			names = append(names, hasAsked(a)...)
		}
	}
	return names
}

// ofItself says whether a condition is about what kind of value the current one is.
func ofItself(cond *decoder.Node) bool {
	return cond.Op == decoder.OpCall && cond.Name == "!= nil" && cond.Args[0].Op == decoder.OpTry && cond.Args[0].Inner.Op == decoder.OpLeaf
}

// correlates says whether a condition is about whether values can be read or keys
// are there, so that the tallies it fails at tell which branch is taken.
func correlates(cond *decoder.Node) bool {
	switch cond.Op {
	case decoder.OpKeyed:
		return cond.Inner != nil && cond.Inner.Op == decoder.OpHas
	case decoder.OpHas:
		return true
	case decoder.OpCall:
		switch cond.Name {
		case "!= nil":
			return true
		case "&&":
			return correlates(cond.Args[0]) && correlates(cond.Args[1])
		}
	}
	return false
}

// under says whether a place is inside one of some places.
func under(place *shape.Place, places map[*shape.Place]bool) bool {
	for p := range places {
		if len(p.Steps) < len(place.Steps) {
			same := true
			for i := range p.Steps {
				same = same && p.Steps[i] == place.Steps[i]
			}
			if same {
				return true
			}
		}
	}
	return false
}

// subtract takes from an event the tallies that are among some; intersect the others.
func subtract(ev finding.Event, among map[*shape.Tally]bool) finding.Event {
	return filter(ev, among, false)
}

func intersect(ev finding.Event, among map[*shape.Tally]bool) finding.Event {
	return filter(ev, among, true)
}

func filter(ev finding.Event, among map[*shape.Tally]bool, want bool) finding.Event {
	kept := ev.Tallies[:0:0]
	values := int64(0)
	for _, t := range ev.Tallies {
		if among[t] == want {
			kept, values = append(kept, t), values+t.Values
		}
	}
	if len(kept) < len(ev.Tallies) {
		ev.Tallies, ev.Values = kept, values
	}
	return ev
}

// failAt puts an event without a place of its own, a throw statement say, where the
// condition before it has failed.
func failAt(ev finding.Event, tested []finding.Event, failed map[*shape.Tally]bool) finding.Event {
	for _, t := range tested {
		for _, tally := range t.Tallies {
			if failed[tally] {
				ev.Tallies = append(ev.Tallies, tally)
				ev.Values += tally.Values
			}
		}
		if len(t.Tallies) > 0 && failed[t.Tallies[0]] {
			ev.Place, ev.Sent, ev.Of, ev.Class = t.Place, t.Sent, t.Of, t.Class
		}
	}
	return ev
}
