package drift

import (
	"maps"
	"slices"
	"sort"
	"strings"

	"vetta/internal/code"

	"vetta/internal/decoder"
	"vetta/internal/drift/breaks"
	"vetta/internal/drift/finding"
	"vetta/internal/markup"
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

// rounds is how often the responses of a pair are read again: each time, the objects are told
// apart that stand one level further in.
const rounds = 8

// first takes the shapes of pairs through their plans, and reads an endpoint again, once for all its pairs, where texts
// became too many to be kept that some of them ask for.
func (c *checker) first(pairs []*Pair) {
	c.walks, c.judges, c.judged = map[*Pair]*walk{}, map[*shape.Endpoint][]shape.Judge{}, map[*shape.Endpoint]*shape.Endpoint{}
	for _, p := range pairs {
		if p.Plan.Writes != nil {
			continue
		}
		w := newWalk(p.Endpoint)
		w.whole(p, p.Place)
		c.walks[p] = w
		for _, j := range w.judged {
			c.judges[p.Endpoint] = append(c.judges[p.Endpoint], j.judge())
		}
	}
}

// whole takes what stands at a place through the plan of a pair.
func (w *walk) whole(p *Pair, place *shape.Place) {
	if p.Plan.Fragment != nil && len(place.Steps) == 0 {
		scalars := &decoder.Node{Op: decoder.OpMap, Second: &decoder.Node{}, Wrong: func(wire.Kind) *decoder.Error { return p.Plan.Fragment }}
		w.kinds(scalars, place, wire.Object, false)
	}
	root := p.Plan.Root
	if wire.IsMarkup(place.Steps) && p.Plan.Part != nil {
		root = p.Plan.Part
	}
	if key := metadataIn(p.Plan, place); key != "" { // which counts do not take as the library does
		w.untaken = true
		w.notFollowed(p.Plan.Type, "its responses have "+key+", by which the library takes one object for another")
		return
	}
	w.node(root, place, false)
}

// metadataIn is the first key of a library's own that the objects at a place, or inside them, have; "" for none.
func metadataIn(p *decoder.Plan, place *shape.Place) (found string) {
	if len(p.Metadata) > 0 {
		place.Walk(func(in *shape.Place) {
			for _, k := range in.Keys {
				if found == "" && slices.Contains(p.Metadata, k.Name) {
					found = k.Name
				}
			}
		})
	}
	return found
}

// again is the endpoint of a pair, read again: with its texts judged, and objects told apart.
func (c *checker) again(p *Pair, by []shape.Teller, judges []shape.Judge) *shape.Endpoint {
	if len(by) > 0 {
		return c.apart(p.Endpoint, by, append(judges[:len(judges):len(judges)], c.judges[p.Endpoint]...))
	}
	e, done := c.judged[p.Endpoint]
	if !done {
		e = c.apart(p.Endpoint, nil, c.judges[p.Endpoint])
		c.judged[p.Endpoint] = e
	}
	return e
}

// walked takes the shape of a pair through its plan.
func (c *checker) walked(p *Pair) *walk {
	w := c.walks[p]
	delete(c.walks, p) // which is large, and asked for once
	var by []shape.Teller
	var judges []shape.Judge
	for round := 0; round < rounds && len(w.tellers)+len(w.judged) > 0 && c.apart != nil; round++ {
		by = append(by, w.tellers...)
		if round > 0 { // of what stands in objects that were told apart
			for _, j := range w.judged {
				judges = append(judges, j.judge())
			}
		}
		again := c.again(p, by, judges)
		if again == nil || again == w.e {
			break
		}
		place := again.Place(p.Place.Steps)
		if place == nil {
			break
		}
		w = newWalk(again)
		w.whole(p, place)
	}
	w.partial = w.partial || p.Plan.Inexact || tooDeep(p)
	return w
}

// tooDeep says whether responses have lists and objects deeper inside each other than a decoder takes: in how many, the
// counts do not say.
func tooDeep(p *Pair) (found bool) {
	if p.Plan.MaxDepth == 0 {
		return false
	}
	p.Place.Walk(func(in *shape.Place) {
		depth := len(in.Steps) - len(p.Place.Steps)
		found = found || depth >= p.Plan.MaxDepth && in.Count(wire.Array)+in.Count(wire.Object) > 0
	})
	return found
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

// finding is the model's finding of a kind about a field, made where there is none
// yet.
func (r *ModelResult) finding(k *finding.Kind, field *model.Field, name, declared string) *finding.Finding {
	for _, f := range r.Findings {
		if f.Kind == k && f.Field == field && f.Name == name {
			return f
		}
	}
	f := &finding.Finding{Kind: k, Level: k.Level, Model: r.Model, Field: field, Name: name, Declared: declared, Pos: r.Model.Pos}
	if field != nil {
		f.Pos = field.Pos
	}
	r.Findings = append(r.Findings, f)
	return f
}

// event makes an event part of a finding, and answers that with the site; nil where it is no finding.
func (c *checker) event(result *PairResult, p *Pair, e *shape.Endpoint, ev *finding.Event, renames map[renameKey]*rename, moves map[renameKey]*move) (f *finding.Finding, site *finding.Site) {
	kind := kindOf(ev)
	var renamed *rename
	if ev.Key != "" {
		renamed = renames[renameKey{ev.Place, ev.Key}]
	}
	if renamed != nil {
		switch {
		case ev.Breaks() && ev.Err.Reason == decoder.ReasonMissing:
			kind = breaks.RenamedKey
		case ev.Loss == finding.Quiet || ev.Loss == decoder.Zeroed || ev.Loss == decoder.HiddenNull:
			kind = breaks.RenamedSilently
		}
	}
	var moved *move
	if ev.Key != "" && renamed == nil {
		moved = moves[renameKey{ev.Place, ev.Key}]
	}
	if moved != nil {
		switch {
		case ev.Breaks() && ev.Err.Reason == decoder.ReasonMissing:
			kind = breaks.MovedKey
		case ev.Loss == finding.Quiet || ev.Loss == decoder.Zeroed || ev.Loss == decoder.HiddenNull:
			kind = breaks.MovedSilently
		}
	}
	if kind == nil {
		return nil, nil
	}
	if ev.Model == nil {
		f = &finding.Finding{Kind: kind, Level: kind.Level, Name: p.Plan.Declared, Declared: p.Plan.Declared, Sites: nil}
		if p.Call != nil {
			f.Pos = p.Call.Pos
		}
		for _, known := range result.Findings {
			if known.Kind == kind {
				f = known
			}
		}
		if len(f.Sites) == 0 {
			result.Findings = append(result.Findings, f)
		}
	} else {
		name := markup.ShowKey(ev.Key)
		switch {
		case ev.Field != nil:
			name = ev.Field.Name
		case ev.Key == "":
			name = markup.ShowKey(beside(ev))
		}
		if ev.Key != "" && ev.Field != nil && ev.Element {
			name = ev.Field.Name + "." + markup.ShowKey(ev.Key)
		}
		f = c.result(ev.Model).finding(kind, ev.Field, name, ev.Declared)
	}
	if ev.Why != "" && f.Note == "" {
		f.Note = ev.Why
	}
	if p.Plan.Settings != nil {
		f.Library = p.Plan.Settings.Library
	}
	if f.Model == nil && f.Language == "" {
		p.Plan.Type.Walk(func(t *model.Type) {
			if t.Model != nil {
				f.Language = t.Model.Language
			}
		})
	}
	if ev.Breaks() {
		switch {
		case p.Plan.Trusts:
			f.Level, f.Trusted = finding.Misreads, true
			if f.Seen == "" {
				f.Seen = trusted(ev)
			}
		case !p.Plan.Swallowed:
			f.Level = kind.Level
		case len(f.Sites) == 0:
			// The response is lost, but nothing crashes: the app sees nothing.
			f.Level, f.Seen = finding.Misreads, "nothing in place of the whole response"
			if p.Call != nil && slices.Contains(p.Call.Within, code.Element) {
				f.Seen = "nothing in place of the element"
			}
		}
	}
	f.Element = f.Element || ev.Element
	if f.Asked == "" {
		f.Asked = ev.Key
	}
	if ev.Err != nil && f.Error == "" {
		f.Error, f.Advice = ev.Err.Message, ev.Err.Advice
	}
	if ev.Loss != decoder.NoLoss {
		if ev.Loss != decoder.Swallowed && ev.Loss != decoder.Defaulted {
			f.Error = ""
		}
		if f.Seen == "" {
			f.Seen = ev.Seen
		}
	}
	if renamed != nil {
		f.Rename, f.Given, f.Note = renamed.key.Name, renamed.given, renamed.evidence
		if f.Seen == "" && kind == breaks.RenamedSilently {
			f.Seen = nothing(p.Plan)
		}
	}
	if moved != nil {
		f.Rename, f.Note = moved.place.Path(), moved.evidence
		f.Flat, f.Given = moved.flat, moved.key
		if f.Seen == "" && kind == breaks.MovedSilently {
			f.Seen = nothing(p.Plan)
		}
	}
	return f, f.Add(e, ev)
}

// beside is the key of a value that code of a class asks for without making a property of it; "" for what a class as a
// whole is made of.
func beside(ev *finding.Event) string {
	steps := ev.Place.Steps
	if len(steps) == 0 || steps[len(steps)-1].Index != wire.MemberStep || ev.Class.Kind >= wire.Array {
		return ""
	}
	if ev.Model.Kind == model.Enum || ev.Model.Raw != nil { // which are made of one value
		return ""
	}
	return steps[len(steps)-1].Name
}

// nothing is what an app sees of a key that is absent.
func nothing(p *decoder.Plan) string {
	if p.Trusts {
		return "undefined"
	}
	return "null"
}

// dropTwice drops events of values that code reads into a local name first: the field
// that takes the value from there has them too.
func (w *walk) dropTwice() {
	type same struct {
		place *shape.Place
		key   string
		class shape.Class
		text  string
		fails bool // a field that only loses the value does not say that it fails elsewhere
	}
	of := func(ev *finding.Event) same { return same{ev.Place, ev.Key, ev.Class, ev.Literal, ev.Breaks()} }
	ofField := map[same]bool{}
	for i := range w.events {
		if ev := &w.events[i]; ev.Field != nil {
			ofField[of(ev)] = true
		}
	}
	kept := w.events[:0]
	for i := range w.events {
		if ev := &w.events[i]; ev.Field != nil || ev.Model == nil || !ofField[of(ev)] {
			kept = append(kept, *ev)
		}
	}
	w.events = kept
}

type renameKey struct {
	place *shape.Place
	key   string
}

// renames are the keys that seem to be sent in place of those that are asked for
// and absent.
func (w *walk) renames() map[renameKey]*rename {
	out := map[renameKey]*rename{}
	taken := map[*shape.Key]*asked{}
	for i := range w.asked {
		a := &w.asked[i]
		if a.absent == 0 || a.field == nil {
			continue
		}
		w.match = a.match
		r := w.renameOf(*a)
		if r == nil {
			continue
		}
		// One key can stand in for one other only: the likelier of two.
		if other := taken[r.key]; other != nil {
			if out[renameKey{other.place, other.node.Name}].score >= r.score {
				continue
			}
			delete(out, renameKey{other.place, other.node.Name})
		}
		taken[r.key] = a
		out[renameKey{a.place, a.node.Name}] = r
	}
	w.match = nil
	return out
}
