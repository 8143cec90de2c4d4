package shape

import (
	"vetta/internal/wire"
)

// Judge says how texts and numbers at a place fare, one by one, so that those that fare alike are counted as one class,
// however many they are.
type Judge struct {
	Steps []wire.Step // to the place
	Where string      // which of the values there are meant, as Place.Where
	// Of answers how a literal fares, in few words that differ where that does, "" for a kind that is of no interest. It is
	// asked by several workers at once.
	Of func(kind wire.Kind, literal []byte) string
}

// Judge makes the endpoint ask judges about the values at their places, from the next document on.
func (e *Endpoint) Judge(by []Judge) { e.judges = by }

// judged counts a string or a number at a place that has judges; false where it has none.
func (r *Reader) judged(p *Place, kind wire.Kind, ev wire.Event) bool {
	if !p.lookedFor {
		p.lookedFor = true
		for _, j := range r.e.judges {
			t := Teller{Steps: j.Steps, Where: j.Where}
			if t.of(p) {
				p.judges = append(p.judges, j)
			}
		}
		if len(p.judges) > 0 {
			p.OpenTexts, p.OpenNums = true, true
		}
	}
	if len(p.judges) == 0 {
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
	for _, j := range p.judges {
		if fares := j.Of(kind, lit); fares != "" {
			c.Fares += fares + "\n"
		}
	}
	if c, ok := r.formed(p, c); ok {
		r.count(p, c, ev)
	}
	return true
}
