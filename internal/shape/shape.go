// Package shape holds what was seen in responses at every place: kinds and classes
// of values, keys present and absent, with counts and a few examples. It keeps no
// documents; it grows with the variety of the responses, not with their number.
//
// Reading is in read.go, putting shapes together in merge.go, and which of the
// things seen came together in one response in combos.go.
package shape

import (
	"math/bits"
	"sort"

	"vetta/internal/capture"
	"vetta/internal/markup"
	"vetta/internal/traffic"
	"vetta/internal/wire"
)

// Limits bound what a shape remembers. Where one is reached the shape says so
// (Place.Capped, Endpoint.Capped) and counts what it can no longer tell apart as one.
type Limits struct {
	Keys    int // names of an object; beyond, it becomes a map with one shape for all members
	Forms   int // sets of names that an object is seen with
	Texts   int // distinct strings at a place
	Numbers int // distinct numbers at a place
	TextLen int // bytes of a string that is told apart
	Combos  int // combinations of what was seen in one response
	Forms2  int // ways a place's strings look like dates
}

// DefaultLimits are what the commands use.
var DefaultLimits = Limits{Keys: 256, Forms: 1024, Texts: 48, Numbers: 16, TextLen: 64, Combos: 16384, Forms2: 16}

// orderLen is how long the order of the elements in one may be that is told apart.
const orderLen = 1024

// textLen is TextLen at a place.
func (l *Limits) textLen(p *Place) int {
	if n := len(p.Steps); n > 0 && p.Steps[n-1].Name == markup.OrderKey {
		return max(l.TextLen, orderLen)
	}
	return l.TextLen
}

// Origin says where a response is from.
type Origin struct {
	File  string `json:"capture"`
	Entry int    `json:"entry,omitempty"` // from 1, where a file holds several
	Order int    `json:"-"`               // of the file among the captures
	// Member is the place of the file in its archive while captures are read; then Order tells all.
	Member int `json:"-"`
}

func (o *Origin) rank() capture.Rank { return capture.RankOf(o.Order, o.Member, o.Entry) }

// Example is one value as it was sent.
type Example struct {
	Origin
	Steps  []wire.Step // to the value; of an absent key, to the object that lacks it
	Line   int         // in the file, from 1
	Column int         // in characters, from 1
	Value  string      // the literal, or the beginning of an array or object
	Offset int64       // in the file
}

// Tally counts the values of one class, or objects of one form.
type Tally struct {
	Values    int64
	Responses int64 // in which there was at least one
	last      int64 // the response it was last counted in
	sym       Symbol
	Span      Span  // from the first response with one to the last
	before    Span  // what Span was before the response that widened it
	widened   int64 // that response, by Endpoint.seq
	Examples  []Example
	// Witness is a literal of the class, of strings and numbers: what any library
	// makes of it, it makes of the others.
	Witness string
}

// Symbol stands for one thing seen at one place of an endpoint: a class of value,
// a text, a form.
type Symbol uint32

// Endpoint is the shape of the responses of one endpoint.
type Endpoint struct {
	Name      string
	Group     string         // the name, without what tells endpoints of one group apart by their roots
	Route     *traffic.Route // nil where files name the endpoint, and not what was requested
	Files     int            // captures it was seen in
	Responses int64
	Root      *Place
	Capped    []string // what could not be told apart, in words

	limits  Limits
	combos  combos
	symbols Symbol
	alias   []Symbol // by symbol: what it is counted as since a limit was reached, plus 1; 0 for itself
	seq     int64
	scratch []Symbol
	files   orders // captures; while they are read, by their ID
	moments moments
	names   []string        // of all captures, by order
	several map[int]bool    // those that hold several documents
	roots   map[string]bool // see RootOf; nil for all
	// fixedRoot says that root objects have the keys they have been seen with so far
	// and no others; set by who sorts documents into endpoints.
	fixedRoot bool
	fixed     string // see Reader.Root
	tellers   []Teller
	judges    []Judge
	// Of the last response, so that it can be taken back.
	freshFile bool
	lastCombo *combo
}

// Place is what was seen at one place.
type Place struct {
	Steps     []wire.Step
	Classes   map[Class]*Tally
	Texts     map[string]*Text // distinct literals of strings and numbers, while they are few
	OpenTexts bool             // strings became too many to tell apart
	OpenNums  bool             // so did numbers
	Keys      []*Key           // of objects here, in the order they were first seen
	Forms     []*Form          // sets of keys that objects here were seen with
	OpenForms bool             // forms became too many to tell apart
	Elem      *Place           // of arrays here
	Member    *Place           // of objects here that turned into a map
	Subtypes  []*Subtype       // of objects here that are told apart, see Endpoint.Tell
	Teller    string           // the name of the member that tells them apart
	Where     string           // in words, which objects are meant where they or those around them are told apart
	Min, Max  float64          // of numbers here; both 0 where there are none
	ranged    bool
	names     map[string]*Key
	texts     [2]int // how many Texts are strings, and numbers
	dateForms int    // distinct Class.Form
	formless  bool
	dynamic   bool                  // Member is there since its names are data, not since they are many
	start     [2]*Key               // the keys that objects have begun with lately
	formOf    map[string]*Form      // by maskKey
	judges    map[wire.Kind][]Judge // of the texts and numbers here
	lookedFor bool                  // they have been
	recall    recall
}

// Text is a string or number of which few others were seen at its place.
type Text struct {
	Tally
	Class   Class
	Literal string // as written
	class   *Tally // of Class, while the place is read
	token   wire.Token
}

// Key is a name in objects at a place.
type Key struct {
	Name    string
	Objects int64 // that have it
	Doubles int64 // further times that an object had it
	Place   *Place
	Later   *Place // values of those further times, nil if there were none
	index   int
	quoted  wire.Token // as it was first written, with its quotes and a colon
	next    [2]*Key    // those that have followed it lately
}

func (k *Key) later() *Place {
	if k.Later == nil {
		k.Later = newPlace(k.Place.Steps)
		k.Later.Where = k.Place.Where
	}
	return k.Later
}

// Form is a set of keys that objects at a place were seen with.
type Form struct {
	Tally
	Keys []bool // by index of Place.Keys; shorter where keys came later
	mask uint64 // the same as bits, of the first 64 keys
	long bool   // it has others
	root string // see Reader.Root
}

// Has says whether objects of this form have the key.
func (f *Form) Has(k *Key) bool { return k.index < len(f.Keys) && f.Keys[k.index] }

// NewEndpoint is an endpoint at which nothing was seen yet.
func NewEndpoint(name string, limits Limits) *Endpoint {
	e := &Endpoint{Name: name, limits: limits}
	e.Root = newPlace(nil)
	e.combos.limit = limits.Combos
	return e
}

func newPlace(steps []wire.Step) *Place {
	return &Place{Steps: steps, Classes: map[Class]*Tally{}, Texts: map[string]*Text{}, names: map[string]*Key{}}
}

// orders are captures by order, as bits from the first of them on: of thousands of captures most are of one endpoint each.
type orders struct {
	first int // word
	words []uint64
}

// add notes a capture, and says whether it is new.
func (o *orders) add(order int) bool {
	if o.has(order) {
		return false
	}
	word := order / 64
	switch {
	case len(o.words) == 0:
		o.first = word
	case word < o.first:
		o.words = append(make([]uint64, o.first-word, o.first-word+len(o.words)), o.words...)
		o.first = word
	}
	for o.first+len(o.words) <= word {
		o.words = append(o.words, 0)
	}
	o.words[word-o.first] |= 1 << (order % 64)
	return true
}

func (o *orders) has(order int) bool {
	word := order/64 - o.first
	return order >= 0 && word >= 0 && word < len(o.words) && o.words[word]>>(order%64)&1 != 0
}

func (o *orders) drop(order int) { o.words[order/64-o.first] &^= 1 << (order % 64) }

// each visits them in their order.
func (o *orders) each(visit func(order int)) {
	for i, word := range o.words {
		for ; word != 0; word &= word - 1 {
			visit(64*(o.first+i) + bits.TrailingZeros64(word))
		}
	}
}

// addFile notes a capture, by order, and says whether it is new.
func (e *Endpoint) addFile(order int) bool {
	if !e.files.add(order) {
		return false
	}
	e.Files++
	return true
}

func (e *Endpoint) dropFile(order int) {
	e.files.drop(order)
	e.Files--
}

// HasFile says whether the capture of that order is among those of the endpoint.
func (e *Endpoint) HasFile(order int) bool { return e.files.has(order) }

func (e *Endpoint) symbol() Symbol {
	e.symbols++
	return e.symbols - 1
}

// countAs makes a symbol stand for another. A saved shape may give two counts one
// symbol, which must not come to stand for itself.
func (e *Endpoint) countAs(from, into Symbol) {
	for len(e.alias) <= int(from) {
		e.alias = append(e.alias, 0)
	}
	e.alias[from] = 0
	if e.canonical(into) != from {
		e.alias[from] = into + 1
	}
}

// canonical is the symbol that s is counted as.
func (e *Endpoint) canonical(s Symbol) Symbol {
	for int(s) < len(e.alias) && e.alias[s] != 0 {
		s = e.alias[s] - 1
	}
	return s
}

func (p *Place) in(step wire.Step) *Place {
	inner := newPlace(append(append([]wire.Step(nil), p.Steps...), step))
	inner.Where = p.Where
	return inner
}

// Path writes the place as a JSONPath.
func (p *Place) Path() string { return wire.Path(p.Steps) }

// Count is how many values of a kind were seen here.
func (p *Place) Count(kind wire.Kind) (values int64) {
	for c, t := range p.Classes {
		if c.Kind == kind {
			values += t.Values
		}
	}
	return values
}

// Total is how many values were seen here.
func (p *Place) Total() (values int64) {
	for _, t := range p.Classes {
		values += t.Values
	}
	return values
}

// Key answers the key of that name, or nil.
func (p *Place) Key(name string) *Key { return p.names[name] }

// Counted is a class with its tally.
type Counted struct {
	Class Class
	*Tally
}

// Sorted are the classes seen here, the most frequent first.
func (p *Place) Sorted() []Counted {
	out := make([]Counted, 0, len(p.Classes))
	for c, t := range p.Classes {
		out = append(out, Counted{c, t})
	}
	sort.Slice(out, func(i, k int) bool {
		a, b := out[i], out[k]
		if a.Values != b.Values {
			return a.Values > b.Values
		}
		return a.Class.less(b.Class)
	})
	return out
}

func (c Class) less(o Class) bool {
	if c.Kind != o.Kind {
		return c.Kind < o.Kind
	}
	if c.Facts != o.Facts {
		return c.Facts < o.Facts
	}
	if c.Form != o.Form {
		return c.Form < o.Form
	}
	return c.Fares < o.Fares
}

// SortedTexts are the distinct literals of a kind, by text.
func (p *Place) SortedTexts(kind wire.Kind) (out []*Text) {
	for _, t := range p.Texts {
		if t.Class.Kind == kind {
			out = append(out, t)
		}
	}
	sort.Slice(out, func(i, k int) bool { return out[i].Literal < out[k].Literal })
	return out
}

// Open says whether the values of a kind here became too many to tell apart.
func (p *Place) Open(kind wire.Kind) bool {
	if kind == wire.String {
		return p.OpenTexts
	}
	return p.OpenNums
}

// Formless says whether the strings here were written in too many ways to tell these apart: see Class.Form.
func (p *Place) Formless() bool { return p.formless }

// Walk calls visit for the place and every place within it, outer ones first; not
// for what only the later ones of equal keys held.
func (p *Place) Walk(visit func(*Place)) {
	visit(p)
	for _, k := range p.Keys {
		k.Place.Walk(visit)
	}
	if p.Elem != nil {
		p.Elem.Walk(visit)
	}
	if p.Member != nil {
		p.Member.Walk(visit)
	}
	for _, s := range p.Subtypes {
		s.Place.Walk(visit)
	}
}

// maxExamples is how many examples a tally has in the end: the first ones, each of
// another response. While reading it keeps one more, since the newest may have to
// be taken back.
const maxExamples = 3

// Before says whether an example comes before another: in an earlier capture, or further ahead in the same.
func (a Example) Before(b Example) bool {
	if x, y := a.rank(), b.rank(); x != y {
		return x < y
	}
	return a.Offset < b.Offset
}
