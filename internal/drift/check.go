package drift

import (
	"maps"
	"slices"
	"sort"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// Pair is a type that is decoded from a place of an endpoint.
type Pair struct {
	Plan     *decoder.Plan
	Endpoint *shape.Endpoint
	Place    *shape.Place
	Evidence []string // why we think so
	Call     *model.Call
}

// Checked is what a check of pairs has found.
type Checked struct {
	Models []*ModelResult // in the order of the source
	Pairs  []*PairResult
	// Lost is how many responses of each endpoint would not decode as one or another of its pairs has it.
	Lost map[*shape.Endpoint]Lost
	// Unfollowed are models of which nothing is claimed though values for them were sent, and why.
	Unfollowed map[*model.Model]string
}

// Lost is a number of responses that would not decode; where it is not exact it is the least it can be.
type Lost struct {
	Responses int64
	Exact     bool
}

// ModelResult is what was found about one model, wherever it was met.
type ModelResult struct {
	Model    *model.Model
	Sites    []ModelSite
	Findings []*finding.Finding // worst first
	Unknown  []UnknownField
}

// ModelSite is a place that a model was decoded from.
type ModelSite struct {
	Pair      *Pair
	Place     string
	Where     string // which objects there, in words; "" for all
	Values    int64  // objects there
	Responses int64  // responses of the endpoint
	Lost      int64  // responses that would not decode because of this model
	LostExact bool
}

// UnknownField is a field about which nothing is claimed.
type UnknownField struct {
	Field *model.Field
	Why   string
}

// PairResult is how the responses of a pair fare as a whole.
type PairResult struct {
	*Pair
	Lost      int64 // responses that would not decode
	LostExact bool
	Findings  []*finding.Finding // about the type as a whole
	// Untold are the places whose objects are of several classes that could not be told
	// apart: nothing is said of what is in them.
	Untold []string
	// Unkept are the places whose texts became too many to be kept and could not be read again: nothing is said of them.
	Unkept []string
	// Unjudged says that nothing is claimed of what the responses are decoded into.
	Unjudged bool
	// Throws is the kind of one of the errors that responses fail with, where they were decoded: the same each
	// time.
	Throws   string
	astray   *strays        // nil where no code is run
	counted  int64          // Lost as the counts have it
	lost     []*shape.Tally // of the endpoint: what responses have that would not decode
	failing  *decoder.Failing
	failures failures // where they fail first, when they were decoded
}

// Apart reads the responses of an endpoint again, with the objects at some places told
// apart by their class, and the texts at some judged one by one (see shape.Apart). It answers nil where that cannot be
// done.
type Apart func(e *shape.Endpoint, by []shape.Teller, judges []shape.Judge) *shape.Endpoint

// Again reads the responses of an endpoint again and calls visit for each, from several workers at
// once; a document is only good until visit returns, and so is example, which makes one of the value that some steps
// lead to. It answers false where they were not all, or others.
type Again func(e *shape.Endpoint, visit func(doc *wire.Value, example func(steps []wire.Step) shape.Example)) bool

// Second are the ways in which the responses of an endpoint can be read a second time; nil for one that is
// not there.
type Second struct {
	Apart Apart
	Again Again
}

// Check compares pairs of types and places. Where a type has several classes that the
// objects of one place are of, the second reading is asked to tell them apart; where it does
// not, nothing is claimed about what is in such objects. Where counts do not say how many responses would
// not decode, it decodes them.
func Check(pairs []*Pair, second Second) *Checked {
	c := &checker{results: map[*model.Model]*ModelResult{}, apart: second.Apart, rereads: second.Again != nil}
	out := &Checked{Unfollowed: map[*model.Model]string{}}
	c.unfollowed = out.Unfollowed
	c.first(pairs)
	for _, p := range pairs {
		out.Pairs = append(out.Pairs, c.pair(p))
	}
	unjudged := map[*Pair][]*model.Model{}
	for m, r := range c.results {
		if _, whole := c.unfollowed[m]; whole && len(r.Findings) == 0 && r.readNothing() {
			delete(c.results, m)
			for _, s := range r.Sites {
				unjudged[s.Pair] = append(unjudged[s.Pair], m)
			}
			continue
		}
		r.Findings = joinMixed(r.Findings)
		for _, f := range r.Findings {
			finish(f)
		}
		sortFindings(r.Findings)
		out.Models = append(out.Models, r)
	}
	for _, p := range out.Pairs {
		p.Unjudged = p.Unjudged || slices.ContainsFunc(unjudged[p.Pair], func(m *model.Model) bool { return m == p.Plan.Type.Unwrapped().Model })
	}
	out.inOrder()
	out.decide(second.Again, c)
	return out
}

// inOrder puts models into the order in which they are declared.
func (c *Checked) inOrder() {
	sort.Slice(c.Models, func(i, k int) bool { return before(c.Models[i].Model.Pos, c.Models[k].Model.Pos) })
}

func before(a, b model.Pos) bool {
	if a.File != b.File {
		return a.File < b.File
	}
	return a.Line < b.Line || a.Line == b.Line && a.Col < b.Col
}

type checker struct {
	results    map[*model.Model]*ModelResult
	apart      Apart
	rereads    bool                                // the responses can be decoded one by one
	walks      map[*Pair]*walk                     // the first of each pair
	judges     map[*shape.Endpoint][]shape.Judge   // of texts that are too many to be kept
	judged     map[*shape.Endpoint]*shape.Endpoint // read again with those, nil where that could not be done
	unfollowed map[*model.Model]string
}

func (c *checker) pair(p *Pair) *PairResult {
	if p.Plan.Writes != nil {
		return c.sent(p)
	}
	w := c.walked(p)
	e := w.e
	astray := p.strays()
	w.events = slices.DeleteFunc(w.events, func(ev finding.Event) bool { return !astray.claims(&ev) })
	if !astray.faithful() && !astray.untried && !c.rereads {
		p.Plan.Type.Reach(func(m *model.Model) {
			c.unfollowed[m] = "its code does one thing or another by what is sent: give check the captures in place of a saved shape"
		})
		return &PairResult{Pair: p, Unjudged: true}
	}
	w.always()
	w.dropTwice()
	renames := w.renames()
	moves := w.moves(renames)
	w.unread(renames, moves)
	result := &PairResult{Pair: p, Unjudged: w.untaken, astray: astray}
	for _, t := range w.tellers {
		result.Untold = append(result.Untold, wire.Path(t.Steps))
	}
	for _, j := range w.judged {
		if path := j.place.Path(); !slices.Contains(result.Unkept, path) {
			result.Unkept = append(result.Unkept, path)
		}
	}
	var lost []*shape.Tally
	exact := true
	for i := range w.events {
		ev := &w.events[i]
		if ev.Breaks() && !p.Plan.Trusts {
			lost = append(lost, ev.Tallies...)
			exact = exact && !ev.Inexact
		}
		c.event(result, p, e, ev, renames, moves)
	}
	var all bool
	if e == p.Endpoint {
		result.lost = lost
	}
	result.Lost, all = e.Among(lost)
	apart := p.Plan.Prepared != nil && len(p.Plan.Metadata) == 0 // the document as a whole says how it is taken
	result.LostExact = exact && all && !w.partial && !apart && p.leads() && astray.faithful() || p.Plan.Trusts
	for _, f := range result.Findings {
		finish(f)
	}
	sortFindings(result.Findings)
	maps.Copy(c.unfollowed, w.unfollowed)
	seen := map[Visit]bool{}
	for _, v := range append(w.visits, w.leaves...) {
		if seen[v] {
			continue
		}
		seen[v] = true
		r := c.result(v.Model)
		site := ModelSite{Pair: p, Place: v.Place.Path(), Where: v.Place.Where, Values: v.Place.Count(wire.Object), Responses: e.Responses}
		if site.LostExact = true; !p.Plan.Trusts {
			site.Lost, site.LostExact = w.lostAt(v)
		}
		r.Sites = append(r.Sites, site)
	}
	for _, u := range w.unclaimed {
		if c.results[u.model] != nil { // it stands somewhere
			c.unknown(u.model, u.field, u.why)
		}
	}
	for _, u := range w.unreadKeys {
		c.unreadKey(u, e)
	}
	for _, l := range w.loose() {
		r := c.result(l.model)
		f := r.finding(l.kind, l.field, l.name, l.declared)
		addLoose(f, e, l)
	}
	return result
}

// readNothing says whether no field of a model is read in a way that is followed.
func (r *ModelResult) readNothing() bool {
	return !slices.ContainsFunc(r.Model.Fields, func(f *model.Field) bool {
		return f.Reading == model.ByLibrary || f.Reading == model.ByCode && len(f.Keys) > 0
	})
}

// lostAt is how many responses would not decode because of a model at one of its places: because of what
// stands there or further in.
func (w *walk) lostAt(v Visit) (responses int64, exact bool) {
	var lost []*shape.Tally
	exact = !w.partial
	for i := range w.events {
		ev := &w.events[i]
		if !ev.Breaks() || ev.Model != v.Model || !within(ev.Place, v.Place) {
			continue
		}
		lost = append(lost, ev.Tallies...)
		exact = exact && !ev.Inexact
	}
	responses, all := w.e.Among(lost)
	return responses, exact && all || responses == w.e.Responses
}

// within says whether a place is another or lies in it.
func within(p, outer *shape.Place) bool {
	return len(p.Steps) >= len(outer.Steps) && slices.Equal(p.Steps[:len(outer.Steps)], outer.Steps) && strings.HasSuffix(p.Where, outer.Where)
}

func (c *checker) result(m *model.Model) *ModelResult {
	r := c.results[m]
	if r == nil {
		r = &ModelResult{Model: m}
		for _, f := range m.Fields {
			if f.Reading == model.Unfollowed {
				r.Unknown = append(r.Unknown, UnknownField{f, f.Why})
			}
		}
		c.results[m] = r
	}
	return r
}

// unknown notes that nothing is claimed of a field.
func (c *checker) unknown(m *model.Model, f *model.Field, why string) {
	r := c.result(m)
	if !slices.ContainsFunc(r.Unknown, func(u UnknownField) bool { return u.Field == f }) {
		r.Unknown = append(r.Unknown, UnknownField{f, why})
	}
}
