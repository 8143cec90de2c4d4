package shape

import (
	"vetta/internal/wire"
)

// Judge says how texts, or numbers, at a place fare, one by one, so that those that fare alike are counted as one class,
// however many they are.
type Judge struct {
	Steps []wire.Step // to the place
	Where string      // which of the values there are meant, as Place.Where
	Kind  wire.Kind   // String or Number: what it is asked about
	// Of answers how a literal of the kind fares, in few words that differ where that does. It is asked by several workers
	// at once.
	Of func(literal []byte) string
}

// Judge makes the endpoint ask judges about the values at their places, from the next document on.
func (e *Endpoint) Judge(by []Judge) { e.judges = by }

// judged counts a string or a number at a place that has judges of its kind; false where it has none.
func (r *Reader) judged(p *Place, kind wire.Kind, ev wire.Event) bool {
	if !p.lookedFor {
		p.lookedFor = true
		r.appoint(p)
	}
	judges := p.judges[kind]
	if len(judges) == 0 {
		return false
	}
	lit := r.src.Data[ev.Start:ev.End]
	c := Class{Kind: kind}
	if kind == wire.Number {
		facts, value := numberFacts(lit, ev.Traits, r.wire.Decimal())
		if c.Facts = facts; !r.undo {
			r.extend(p, value)
		}
	} else {
		c = r.strings.class(lit, ev.Traits)
	}
	for _, j := range judges {
		c.Fares += j.Of(lit) + "\n"
	}
	if c, ok := r.formed(p, c); ok {
		r.count(p, c, ev)
	}
	return true
}

// appoint finds the judges of a place. Values of a kind that has some are not told apart by their text beside; those of the
// other kind stay as they are.
func (r *Reader) appoint(p *Place) {
	for _, j := range r.e.judges {
		t := Teller{Steps: j.Steps, Where: j.Where}
		if !t.of(p) {
			continue
		}
		if p.judges == nil {
			p.judges = map[wire.Kind][]Judge{}
		}
		p.judges[j.Kind] = append(p.judges[j.Kind], j)
		if j.Kind == wire.String {
			p.OpenTexts = true
		} else {
			p.OpenNums = true
		}
	}
}
