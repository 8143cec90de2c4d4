package shape

import (
	"slices"
	"sort"
	"strconv"

	"vetta/internal/capture"
	"vetta/internal/markup"
	"vetta/internal/wire"
)

// Teller is a member that tells what class the objects at a place are of.
type Teller struct {
	Steps []wire.Step // to the place; a step to any member stands for each of them
	Where string      // which of the objects around the place are meant, as Place.Where
	Name  string      // of the member, after Match
	// Match is what the library makes of a name on the wire before it compares it with
	// Name; nil for the name itself.
	Match func(string) string
	IDs   []string // the texts that are known; all others are counted as one
}

// Subtype is what was seen of the objects at a place that are of one class.
type Subtype struct {
	ID    string // the text that tells the class, where it is Known
	Known bool   // it is one of Teller.IDs
	Told  bool   // some text tells the class; where none does Known is false too
	Place *Place
}

// Tell makes the endpoint tell the objects apart at the places that tellers name, from the
// next document on. What is in such objects is then counted at Place.Subtypes alone; that
// they are objects is counted at the place itself as well.
func (e *Endpoint) Tell(by []Teller) { e.tellers = by }

// Apart reads the captures of an endpoint again, with the objects at some places told apart, and the texts at some judged.
// It answers nil where what is read is not what the endpoint was made of: it comes from a
// saved shape or standard input as well, or a capture has changed meanwhile.
func Apart(e *Endpoint, by []Teller, judges []Judge, files []*capture.File, how Reading) *Endpoint {
	if fromStdin(files) {
		return nil
	}
	own := ofEndpoint(e, files)
	how.Limits, how.tellers, how.judges, how.endpoint = e.limits, by, judges, e
	for _, again := range Collect(own, how).Endpoints {
		if again.Name == e.Name && again.Responses == e.Responses && again.Files == e.Files {
			return again
		}
	}
	return nil
}

// of says whether the teller is of a place.
func (t *Teller) of(p *Place) bool {
	return t.Where == p.Where && slices.EqualFunc(t.Steps, p.Steps, func(a, b wire.Step) bool {
		return a == b || a.Index == wire.AnyMember && b.Index != wire.AnyElement
	})
}

// told is where what is in an object that ev begins is counted: at the place itself, or at
// that of its class.
func (r *Reader) told(p *Place, ev wire.Event) *Place {
	for i := range r.e.tellers {
		if t := &r.e.tellers[i]; t.of(p) {
			id, told := r.ahead.text(t, r.src.Data, ev.Start)
			known := told && slices.Contains(t.IDs, id)
			if !known {
				id = ""
			}
			s := p.subtype(id, known, told)
			if s == nil {
				s = p.addSubtype(t.Name, Subtype{ID: id, Known: known, Told: told}, t.where(p, id, known, told))
			}
			r.simple(s.Place, Class{Kind: wire.Object}, ev)
			return s.Place
		}
	}
	return p
}

// ahead looks into objects before they are read.
type ahead struct{ wire wire.Reader }

// text is the text of the member that tells the class of the object at an offset: the first
// of its name that is a scalar and not null.
func (a *ahead) text(t *Teller, data []byte, offset int) (id string, told bool) {
	a.wire.Reset(data, offset)
	named := false
	for {
		ev, err := a.wire.Next()
		if err != nil || ev.Kind == wire.EndDocument { // what is malformed, the reading itself tells
			return "", false
		}
		switch {
		case a.wire.Depth() != 1:
			named = false
		case ev.Kind == wire.KeyName:
			name, _ := wire.Unquote(data[ev.Start:ev.End])
			if t.Match != nil {
				name = t.Match(name)
			}
			named = name == t.Name
		case !named:
		case ev.Kind == wire.StringValue:
			id, _ = wire.Unquote(data[ev.Start:ev.End])
			return id, true
		case ev.Kind == wire.NumberValue || ev.Kind == wire.TrueValue || ev.Kind == wire.FalseValue:
			return string(data[ev.Start:ev.End]), true
		}
	}
}

// where says of what objects a subtype at a place is made, in words.
func (t *Teller) where(p *Place, id string, known, told bool) string {
	name := markup.ShowKey(t.Name)
	where := name + " is absent"
	switch {
	case known:
		where = name + " is " + strconv.Quote(id)
	case told:
		where = name + " is something else"
	}
	if p.Where != "" {
		where += ", inside one whose " + p.Where
	}
	return where
}

// subtype is that of the place for a text, nil where there is none yet.
func (p *Place) subtype(id string, known, told bool) *Subtype {
	for _, s := range p.Subtypes {
		if s.ID == id && s.Known == known && s.Told == told {
			return s
		}
	}
	return nil
}

func (p *Place) addSubtype(teller string, s Subtype, where string) *Subtype {
	s.Place = newPlace(p.Steps)
	s.Place.Where = where
	p.Teller, p.Subtypes = teller, append(p.Subtypes, &s)
	return &s
}

// sortSubtypes puts those that are known first, by their texts, and drops those that only
// documents had that were taken back.
func (p *Place) sortSubtypes() {
	p.Subtypes = slices.DeleteFunc(p.Subtypes, func(s *Subtype) bool { return s.Place.Total() == 0 })
	sort.Slice(p.Subtypes, func(i, k int) bool {
		a, b := p.Subtypes[i], p.Subtypes[k]
		if a.Known != b.Known {
			return a.Known
		}
		return a.ID < b.ID || a.ID == b.ID && a.Told && !b.Told
	})
}

// subtypes adds the objects of each class at b to those at a.
func (m *merger) subtypes(a, b *Place) {
	for _, s := range b.Subtypes {
		own := a.subtype(s.ID, s.Known, s.Told)
		if own == nil {
			own = a.addSubtype(b.Teller, *s, s.Place.Where)
		}
		m.place(own.Place, s.Place)
	}
}
