package drift

import (
	"slices"
	"strings"

	"vetta/internal/drift/finding"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// strays are where the nodes of a pair whose code is run tell something else than the code does with what was sent: what they
// say of those places is not claimed.
type strays struct {
	untried bool // too much was sent for it to be tried
	all     bool // already with a document that has all that was seen
	at      map[stray]bool
}

// stray is a value at a place, or with a key the absence of that key of the object there.
type stray struct{ place, key string }

// faithful says whether there are none.
func (s *strays) faithful() bool { return s == nil || !s.untried && !s.all && len(s.at) == 0 }

// claims says whether an event is at none of them.
func (s *strays) claims(ev *finding.Event) bool {
	return s == nil || !s.all && !s.at[stray{ev.Place.Path(), ev.Key}] && !s.at[stray{ev.Place.Path(), ""}]
}

// strays compares the nodes of a pair with its code, where that is run: with a document that has all that was seen, and with
// each value in it that was seen in its place, one at a time. What the code does with several values together, that does
// not show. It is nil for a pair without such code.
func (p *Pair) strays() *strays {
	if p.Plan.Run == nil || p.Plan.Trusts || ofMarkup(p.Endpoint) { // of markup, no document can be made of what was seen
		return nil
	}
	t := &tryout{p: p, root: p.Place, choice: map[*shape.Place]string{}, literals: map[*shape.Place][]string{}}
	if p.Plan.Whole {
		t.root = p.Endpoint.Root
	}
	t.root.Walk(func(in *shape.Place) { t.literals[in] = literals(in) })
	tries := 0
	for in, all := range t.literals {
		tries += len(all) + len(in.Keys)
	}
	out := &strays{at: map[stray]bool{}}
	if out.untried = tries*len(t.literals) > mostWritten; out.untried {
		return out
	}
	if out.all = !t.settle(); out.all {
		return out
	}
	t.root.Walk(func(in *shape.Place) {
		for _, literal := range t.literals[in] {
			if !t.agree(in, literal, nil) {
				out.at[stray{in.Path(), ""}] = true
			}
		}
		for _, k := range in.Keys {
			if !t.agree(in, "", k) {
				out.at[stray{in.Path(), k.Name}] = true
			}
		}
	})
	return out
}

// ofMarkup says whether the responses of an endpoint are XML.
func ofMarkup(e *shape.Endpoint) bool {
	return slices.ContainsFunc(e.Root.Keys, func(k *shape.Key) bool { return wire.IsMarkup([]wire.Step{wire.MemberOf(k.Name)}) })
}

// mostTries is how many documents are tried until one is found that decodes, mostWritten how many values may stand in all
// that are: beyond, running the code over the responses costs no more.
const (
	mostTries   = 60
	mostWritten = 100_000
)

// tryout makes documents of what was seen.
type tryout struct {
	p        *Pair
	root     *shape.Place // of the documents
	literals map[*shape.Place][]string
	choice   map[*shape.Place]string // what stands at places where it is not what is seen most
}

// settle finds a document that both take; it answers false where they differ about one.
func (t *tryout) settle() bool {
	tried := map[*shape.Place]int{}
	for range mostTries {
		doc := t.document(nil, "", nil)
		byCode, byNodes, at, known := t.fare(doc)
		if !known || byCode != byNodes {
			return false
		}
		if !byCode {
			return true
		}
		in := t.root.Nearest(at)
		all := t.literals[in]
		if tried[in]++; tried[in] >= len(all) {
			return true // nothing that was seen there is taken
		}
		t.choice[in] = all[tried[in]]
	}
	return true
}

// agree says whether both fare alike with a document that has a literal at a place, or that lacks a key there.
func (t *tryout) agree(in *shape.Place, literal string, without *shape.Key) bool {
	byCode, byNodes, _, known := t.fare(t.document(in, literal, without))
	return known && byCode == byNodes
}

// fare says whether a document fails by the code and by the nodes; known is false where one of them does not tell.
func (t *tryout) fare(doc *wire.Value) (byCode, byNodes bool, at []wire.Step, known bool) {
	if doc == nil {
		return false, false, nil, true
	}
	plan := *t.p.Plan
	whole := plan.Run(doc)
	plan.Run, plan.Prepared = nil, nil
	nodes, known := plan.Failing(), len(whole.Unknown) == 0
	doc.Each(t.p.Place.Steps[len(t.root.Steps):], func(v *wire.Value, to []wire.Step) {
		fails, _, inner, sure := nodes.FailsAt(v)
		if fails && !byNodes {
			byNodes, at = true, append(slices.Clone(to), inner...)
		}
		known = known && sure
	})
	return whole.Err != nil, byNodes, at, known
}

// document is what was seen at the place of the pair and in it, nil where it cannot be written.
func (t *tryout) document(in *shape.Place, literal string, without *shape.Key) *wire.Value {
	var b strings.Builder
	t.write(&b, t.root, in, literal, without)
	doc, err := wire.Parse([]byte(b.String()))
	if err != nil {
		return nil
	}
	return doc
}

func (t *tryout) write(b *strings.Builder, p, in *shape.Place, literal string, without *shape.Key) {
	text := t.choice[p]
	if text == "" {
		text = t.literals[p][0]
	}
	if p == in && without == nil {
		text = literal
	}
	switch text {
	case "[]":
		b.WriteByte('[')
		if p.Elem != nil && p.Elem.Total() > 0 {
			t.write(b, p.Elem, in, literal, without)
		}
		b.WriteByte(']')
	case "{}":
		b.WriteByte('{')
		first := true
		for _, k := range p.Keys {
			if p == in && k == without || k.Place.Total() == 0 {
				continue
			}
			if !first {
				b.WriteByte(',')
			}
			first = false
			b.WriteString(wire.Quote(k.Name) + ":")
			t.write(b, k.Place, in, literal, without)
		}
		if p.Member != nil && p.Member.Total() > 0 {
			if !first {
				b.WriteByte(',')
			}
			b.WriteString(`"key":`)
			t.write(b, p.Member, in, literal, without)
		}
		b.WriteByte('}')
	default:
		b.WriteString(text)
	}
}

// literals are values that stand for all that were seen at a place, those seen most first: [] and {} for lists and objects
// with what is in them.
func literals(p *shape.Place) (all []string) {
	for _, c := range p.Sorted() {
		switch c.Class.Kind {
		case wire.Array:
			all = append(all, "[]")
		case wire.Object:
			all = append(all, "{}")
		case wire.Null:
			all = append(all, "null")
		case wire.Bool:
			text := "false"
			if c.Class.Facts&shape.True != 0 {
				text = "true"
			}
			all = append(all, text)
		default:
			if c.Witness != "" {
				all = append(all, c.Witness)
			}
		}
	}
	for _, kind := range []wire.Kind{wire.String, wire.Number} {
		for _, t := range p.SortedTexts(kind) {
			all = append(all, t.Literal)
		}
	}
	if len(all) == 0 {
		all = []string{"null"}
	}
	return all
}
