package shape

import (
	"bytes"
	"encoding/binary"
	"errors"
	"slices"
	"sort"
	"strings"
	"unicode/utf8"

	"vetta/internal/wire"
)

// Source is a stretch of a capture in memory: documents, and where in the file
// they stand.
type Source struct {
	Origin
	Data   []byte
	Base   int64 // byte offset of Data in the file
	Line   int   // line of Data's first byte, from 1
	Column int   // and its column
}

// frame is a container that is being read.
type frame struct {
	place *Place
	array bool
	index int        // of the array's current element
	key   [2]int     // of the object's current key: where it stands in Data
	mask  uint64     // of the object: its keys so far, as bits by index of Place.Keys
	more  []uint64   // the same for indexes of 64 and more
	prev  *Key       // of the object: the key before
	ev    wire.Event // that began it
}

// has says whether the object has had the key, and notes it.
func (f *frame) has(index int) bool {
	if index < 64 {
		bit := uint64(1) << index
		had := f.mask&bit != 0
		f.mask |= bit
		return had
	}
	word, bit := index/64-1, uint64(1)<<(index%64)
	for len(f.more) <= word {
		f.more = append(f.more, 0)
	}
	had := f.more[word]&bit != 0
	f.more[word] |= bit
	return had
}

// maskKey is a set of keys as a map key.
func maskKey(mask uint64, more []uint64) string {
	b := binary.LittleEndian.AppendUint64(make([]byte, 0, 16), mask)
	for _, m := range more {
		b = binary.LittleEndian.AppendUint64(b, m)
	}
	return string(bytes.TrimRight(b, "\x00"))
}

// bits are the keys of a form as bits.
func (f *Form) bits() (mask uint64, more []uint64) {
	var set frame
	for i, h := range f.Keys {
		if h {
			set.has(i)
		}
	}
	return set.mask, set.more
}

// Reader adds documents to endpoints, one at a time. It keeps its memory from one
// document to the next.
type Reader struct {
	wire     wire.Reader
	frames   []frame
	src      *Source
	e        *Endpoint
	start    int   // of the document in Data
	undo     bool  // what is read is taken back
	root     *Form // of the root object, nil where it is none that is told apart
	place    cursor
	strings  stringer
	abort    error // why the reading stops: the document is not to be counted here
	verified bool  // the document is known to be well-formed and of the endpoint
	made     made
}

// made is what a document has added to places, so that nothing of it counts
// towards a limit if it is taken back.
type made struct {
	places  map[*Place]bool // with new keys or forms
	texts   []madeText
	classes []madeClass
	ranges  []madeRange
}

type madeRange struct {
	place    *Place
	min, max float64
	ranged   bool
}

type madeText struct {
	place *Place
	text  *Text
}

type madeClass struct {
	place *Place
	class Class
}

// ErrOtherRoot says that a document does not belong to the endpoint: its root
// object has keys that those of the endpoint do not have.
var ErrOtherRoot = errors.New("the root has other keys")

// Read adds the document that starts at offset of src to the endpoint and answers
// the offset behind it. A document that is malformed leaves nothing behind: the
// error is that of the wire, and end is where the reading stopped.
func (r *Reader) Read(e *Endpoint, src *Source, offset int) (end int, err error) {
	e.freshFile = e.begin(src.Order)
	r.made.reset()
	if end, err = r.read(e, src, offset); err != nil {
		r.takeBack(e, src, offset, e.freshFile)
		return end, err
	}
	e.end()
	return end, nil
}

// mayFold says whether a limit that has been reached may change the endpoint: not
// before the whole document is known to count there, since that is not taken back.
func (r *Reader) mayFold() bool {
	if r.verified {
		return true
	}
	root, err := RootOf(r.src.Data, r.start)
	switch {
	case err != nil:
		r.abort = err
	case r.e.fixedRoot && root != r.e.fixed:
		r.abort = ErrOtherRoot
	default:
		r.verified = true
	}
	return r.verified
}

func (m *made) reset() {
	clear(m.places)
	m.texts, m.classes, m.ranges = m.texts[:0], m.classes[:0], m.ranges[:0]
}

func (m *made) at(p *Place) {
	if m.places == nil {
		m.places = map[*Place]bool{}
	}
	m.places[p] = true
}

// drop forgets what only a document that was taken back has added.
func (m *made) drop() {
	for i := len(m.ranges) - 1; i >= 0; i-- {
		old := m.ranges[i]
		old.place.Min, old.place.Max, old.place.ranged = old.min, old.max, old.ranged
	}
	for _, t := range m.texts {
		if t.text.Values == 0 && t.place.Texts[t.text.Literal] == t.text {
			delete(t.place.Texts, t.text.Literal)
			kind := 0
			if t.text.Class.Kind == wire.Number {
				kind = 1
			}
			t.place.texts[kind]--
			t.place.recentTexts = nil
		}
	}
	for _, c := range m.classes {
		if t := c.place.Classes[c.class]; t != nil && t.Values == 0 {
			delete(c.place.Classes, c.class)
			c.place.recent = nil
			c.place.dateForms--
		}
	}
	for p := range m.places {
		p.dropEmpty()
	}
}

// takeBack undoes what reading a document has counted, by reading it again.
func (r *Reader) takeBack(e *Endpoint, src *Source, offset int, fresh bool) {
	r.undo = true
	r.read(e, src, offset)
	r.undo = false
	r.made.drop()
	e.Responses--
	e.scratch = e.scratch[:0]
	if fresh {
		e.dropFile(src.Order)
	}
}

func (r *Reader) read(e *Endpoint, src *Source, offset int) (end int, err error) {
	r.e, r.src, r.start, r.root, r.abort, r.verified = e, src, offset, nil, nil, false
	r.wire.Reset(src.Data, offset)
	r.frames = r.frames[:0]
	place := e.Root
	for {
		if next := r.guess(); next != nil {
			place = next
		}
		ev, err := r.wire.Next()
		if err != nil {
			return r.wire.Offset(), err
		}
		switch ev.Kind {
		case wire.EndDocument:
			return ev.End, nil
		case wire.KeyName:
			if place = r.key(ev); r.abort != nil {
				return r.wire.Offset(), r.abort
			}
			continue
		case wire.BeginObject:
			r.count(place, Class{Kind: wire.Object}, ev)
			r.frames = append(r.frames, frame{place: place, ev: ev})
			continue
		case wire.BeginArray:
			r.count(place, Class{Kind: wire.Array}, ev)
			if place.Elem == nil {
				place.Elem = place.in(wire.Step{Index: wire.AnyElement})
			}
			r.frames = append(r.frames, frame{place: place, array: true, index: 0, ev: ev})
			place = place.Elem
			continue
		case wire.EndObject:
			if r.endObject(); r.abort != nil {
				return r.wire.Offset(), r.abort
			}
			r.frames = r.frames[:len(r.frames)-1]
		case wire.EndArray:
			r.frames = r.frames[:len(r.frames)-1]
		default:
			if r.scalar(place, ev); r.abort != nil {
				return r.wire.Offset(), r.abort
			}
		}
		// A value has ended: what comes next is an element or a key of what holds it.
		if n := len(r.frames); n > 0 && r.frames[n-1].array {
			r.frames[n-1].index++
			place = r.frames[n-1].place.Elem
		}
	}
}

// begin starts a response; fresh says whether it is the first of its capture.
func (e *Endpoint) begin(file int) (fresh bool) {
	e.seq++
	e.Responses++
	return e.addFile(file)
}

func (e *Endpoint) end() {
	for i, s := range e.scratch {
		e.scratch[i] = e.canonical(s)
	}
	e.lastCombo = e.combos.add(e.scratch, 1)
	e.scratch = e.scratch[:0]
}

// countRecent counts a value of one of the first classes of a place, if it is of one.
func (r *Reader) countRecent(p *Place, c Class, ev wire.Event) bool {
	for i := range p.recent {
		if known := &p.recent[i]; known.class.Facts == c.Facts && known.class.Kind == c.Kind && known.class.Form == c.Form {
			r.hit(known.tally, ev)
			return true
		}
	}
	return false
}

func (r *Reader) count(p *Place, c Class, ev wire.Event) {
	if r.countRecent(p, c, ev) {
		return
	}
	t := p.Classes[c]
	if t == nil {
		t = &Tally{sym: r.e.symbol(), Witness: witness(c, r.src.Data[ev.Start:ev.End], ev.Traits)}
		p.Classes[c] = t
		if c.Form != "" {
			r.made.classes = append(r.made.classes, madeClass{p, c})
		}
	}
	if len(p.recent) < maxRecent {
		p.recent = append(p.recent, recent{c, t})
	}
	r.hit(t, ev)
}

// witness is a literal of class c, shortened where a shorter one is of the class too.
func witness(c Class, lit []byte, traits wire.Traits) string {
	const long = 4096
	if c.Kind == wire.String && len(lit) > long && traits&wire.Escaped == 0 {
		cut := long - 2
		for cut > long/2 && !utf8.RuneStart(lit[1+cut]) {
			cut--
		}
		short := append(bytes.Clone(lit[:1+cut/4*4]), '"')
		if utf8.Valid(short) && new(stringer).class(short, traits) == c {
			return string(short)
		}
	}
	if c.Kind == wire.String || c.Kind == wire.Number {
		return string(lit)
	}
	return ""
}

// hit counts one more value in a tally.
func (r *Reader) hit(t *Tally, ev wire.Event) {
	if r.undo {
		r.unhit(t)
		return
	}
	t.Values++
	if t.last == r.e.seq {
		return
	}
	t.last = r.e.seq
	t.Responses++
	r.e.scratch = append(r.e.scratch, t.sym)
	if n := len(t.Examples); n <= maxExamples || r.src.Order < t.Examples[n-1].Order {
		t.Examples = firstExamples(append(t.Examples, r.example(ev)))
	}
}

// unhit takes back what hit has counted.
func (r *Reader) unhit(t *Tally) {
	t.Values--
	if t.last != r.e.seq {
		return
	}
	t.last = -1
	t.Responses--
	kept := t.Examples[:0]
	for _, ex := range t.Examples {
		if ex.Order != r.src.Order || ex.Offset < r.src.Base+int64(r.start) {
			kept = append(kept, ex)
		}
	}
	t.Examples = kept
}

func (r *Reader) scalar(p *Place, ev wire.Event) {
	lit := r.src.Data[ev.Start:ev.End]
	switch ev.Kind {
	case wire.NullValue:
		r.count(p, Class{Kind: wire.Null}, ev)
		return
	case wire.TrueValue:
		r.count(p, Class{Kind: wire.Bool, Facts: True}, ev)
		return
	case wire.FalseValue:
		r.count(p, Class{Kind: wire.Bool}, ev)
		return
	case wire.NumberValue:
		// A literal that has been seen extends no range.
		if r.known(p, lit, ev) {
			return
		}
		facts, value := numberFacts(lit, ev.Traits)
		c := Class{Kind: wire.Number, Facts: facts}
		r.count(p, c, ev)
		if !r.undo {
			r.extend(p, value)
		}
		if !p.OpenNums {
			r.text(p, c, lit, ev)
		}
		return
	}
	if r.known(p, lit, ev) {
		return
	}
	c := r.strings.class(lit, ev.Traits)
	if r.countRecent(p, c, ev) {
		if !p.OpenTexts {
			r.text(p, c, lit, ev)
		}
		return
	}
	if c.Form != "" {
		if _, known := p.Classes[c]; !known && !p.formless && p.dateForms >= r.e.limits.Forms2 && !r.mayFold() {
			return
		}
		c = r.e.limitDateForms(p, c)
	}
	r.count(p, c, ev)
	if !p.OpenTexts {
		r.text(p, c, lit, ev)
	}
}

// limitDateForms takes the form from a class at a place that has had too many: its
// strings have digits but are no dates.
func (e *Endpoint) limitDateForms(p *Place, c Class) Class {
	if p.formless {
		c.Form, c.Facts = "", c.Facts&^IsDate
		return c
	}
	if _, known := p.Classes[c]; !known {
		if p.dateForms++; p.dateForms > e.limits.Forms2 {
			e.dropDateForms(p)
			return e.limitDateForms(p, c)
		}
	}
	return c
}

// dropDateForms counts the classes of a place that differ in form alone as one.
func (e *Endpoint) dropDateForms(p *Place) {
	p.formless = true
	p.recent = nil
	for _, old := range p.Sorted() {
		if old.Class.Form == "" {
			continue
		}
		c := old.Class
		c.Form, c.Facts = "", c.Facts&^IsDate
		t := p.Classes[c]
		if t == nil {
			t = &Tally{sym: e.symbol(), Witness: old.Witness}
			p.Classes[c] = t
		}
		delete(p.Classes, old.Class)
		e.absorb(t, old.Tally)
	}
	for _, t := range p.Texts {
		t.Class.Form, t.Class.Facts = "", t.Class.Facts&^IsDate
		t.class = p.Classes[t.Class]
	}
}

// extend makes the range of a place's numbers hold one more.
func (r *Reader) extend(p *Place, f float64) {
	if p.ranged && f >= p.Min && f <= p.Max {
		return
	}
	r.made.ranges = append(r.made.ranges, madeRange{p, p.Min, p.Max, p.ranged})
	p.widen(f, f)
}

// widen makes the range of a place's numbers hold two more.
func (p *Place) widen(lo, hi float64) {
	if !p.ranged {
		p.Min, p.Max, p.ranged = lo, hi, true
		return
	}
	p.Min, p.Max = min(p.Min, lo), max(p.Max, hi)
}

// known counts a literal that has been seen at a place that has few: its class is
// known, so there is no need to look at it again.
func (r *Reader) known(p *Place, lit []byte, ev wire.Event) bool {
	if len(p.Texts) == 0 || len(lit) > r.e.limits.TextLen {
		return false
	}
	var found *Text
	for _, t := range p.recentTexts {
		if t.Literal == string(lit) {
			found = t
			break
		}
	}
	if found == nil {
		if found = p.Texts[string(lit)]; found == nil {
			return false
		}
	}
	if found.class == nil { // made of other places' texts
		if found.class = p.Classes[found.Class]; found.class == nil {
			return false
		}
		if len(p.recentTexts) < maxRecentTexts {
			p.recentTexts = append(p.recentTexts, found)
		}
	}
	r.hit(found.class, ev)
	r.hit(&found.Tally, ev)
	return true
}

// text counts a literal apart while a place has few.
func (r *Reader) text(p *Place, c Class, lit []byte, ev wire.Event) {
	t := p.Texts[string(lit)]
	if t == nil {
		kind, limit := 0, r.e.limits.Texts
		if c.Kind == wire.Number {
			kind, limit = 1, r.e.limits.Numbers
		}
		if p.texts[kind] >= limit || len(lit) > r.e.limits.TextLen {
			if r.mayFold() {
				r.e.open(p, c.Kind)
			}
			return
		}
		p.texts[kind]++
		t = &Text{Class: c, Literal: string(lit), class: p.Classes[c]}
		t.sym, t.Witness = r.e.symbol(), t.Literal
		if len(p.recentTexts) < maxRecentTexts {
			p.recentTexts = append(p.recentTexts, t)
		}
		r.made.texts = append(r.made.texts, madeText{p, t})
		p.Texts[t.Literal] = t
	}
	r.hit(&t.Tally, ev)
}

// open stops telling the literals of a kind at a place apart: they are counted by
// class alone, as they have been all along.
func (e *Endpoint) open(p *Place, kind wire.Kind) {
	for lit, t := range p.Texts {
		if t.Class.Kind != kind {
			continue
		}
		if c := p.Classes[t.Class]; c != nil {
			e.alias[t.sym] = c.sym
		}
		delete(p.Texts, lit)
	}
	p.recentTexts = nil
	if kind == wire.String {
		p.OpenTexts = true
	} else {
		p.OpenNums = true
	}
}

// key takes note of a name and answers the place of its value.
func (r *Reader) key(ev wire.Event) *Place {
	f := &r.frames[len(r.frames)-1]
	f.key = [2]int{ev.Start, ev.End}
	p := f.place
	if p.Member != nil {
		return p.Member
	}
	raw := r.src.Data[ev.Start+1 : ev.End-1]
	var k *Key
	if ev.Traits&wire.Escaped == 0 {
		k = p.names[string(raw)]
	}
	if k == nil {
		if k = r.keyOf(p, raw, ev); k == nil {
			return p.Member // of a place that has just become a map, or nil where the reading stops
		}
	}
	if k.quoted == nil && ev.Traits&wire.Escaped == 0 { // made of other places' keys
		k.quoted = []byte(`"` + string(raw) + `":`)
	}
	return r.take(f, k)
}

// guess reads the key that followed the last time, if it follows again, and answers
// the place of its value; nil where something else comes. Objects of an API have
// their keys mostly in one order.
func (r *Reader) guess() *Place {
	if len(r.frames) == 0 {
		return nil
	}
	f := &r.frames[len(r.frames)-1]
	if f.array || f.place.Member != nil { // of a map, the keys that were there lead nowhere
		return nil
	}
	next := &f.place.start
	if f.prev != nil {
		next = &f.prev.next
	}
	for _, k := range next {
		if k != nil && k.quoted != nil && r.wire.TryKey(k.quoted) {
			end := r.wire.Offset() - 1
			f.key = [2]int{end - len(k.quoted) + 1, end}
			return r.take(f, k)
		}
	}
	return nil
}

// take notes that the object has the key and answers the place of its value.
func (r *Reader) take(f *frame, k *Key) *Place {
	if f.has(k.index) {
		k.Doubles += r.one()
		return k.later()
	}
	next := &f.place.start
	if f.prev != nil {
		next = &f.prev.next
	}
	if next[0] != k {
		next[0], next[1] = k, next[0]
	}
	f.prev = k
	k.Objects += r.one()
	return k.Place
}

// one is what is added to a count: one, or minus one where it is taken back.
func (r *Reader) one() int64 {
	if r.undo {
		return -1
	}
	return 1
}

// keyOf finds or makes the key of a name; nil where the place becomes a map by it, or
// the reading stops.
func (r *Reader) keyOf(p *Place, raw []byte, ev wire.Event) *Key {
	name := string(raw)
	if ev.Traits&wire.Escaped != 0 {
		name, _ = wire.Unquote(r.src.Data[ev.Start:ev.End])
	}
	k := p.names[name]
	if k != nil {
		return k
	}
	if p == r.e.Root && r.e.fixedRoot {
		r.abort = ErrOtherRoot
		return nil
	}
	if len(p.Keys) >= r.e.limits.Keys {
		if r.mayFold() {
			r.e.toMap(p)
		}
		return nil
	}
	r.made.at(p)
	return p.addKey(name, raw)
}

// addKey adds a key to a place. raw is how it is written, between its quotes.
func (p *Place) addKey(name string, raw []byte) *Key {
	k := &Key{Name: name, Place: p.in(wire.MemberOf(name)), index: len(p.Keys)}
	if raw != nil {
		k.quoted = []byte(`"` + string(raw) + `":`)
	}
	p.names[name] = k
	p.Keys = append(p.Keys, k)
	return k
}

// dropForms stops telling the sets of keys of objects at a place apart: they are
// counted by their class alone.
func (e *Endpoint) dropForms(p *Place) {
	object := p.Classes[Class{Kind: wire.Object}]
	for _, f := range p.Forms {
		if object != nil {
			e.alias[f.sym] = object.sym
		}
	}
	p.Forms, p.formOf, p.lastForm, p.OpenForms = nil, nil, nil, true
}

// addForm adds a set of keys to a place.
func (e *Endpoint) addForm(p *Place, mask uint64, more []uint64) *Form {
	form := &Form{mask: mask, long: len(more) > 0}
	form.sym = e.symbol()
	for i := range p.Keys {
		word, bit := mask, uint(i)
		if i >= 64 {
			if word = 0; i/64-1 < len(more) {
				word = more[i/64-1]
			}
			bit = uint(i % 64)
		}
		form.Keys = append(form.Keys, word>>bit&1 != 0)
	}
	if p.formOf == nil {
		p.formOf = map[string]*Form{}
	}
	p.formOf[maskKey(mask, more)] = form
	p.Forms = append(p.Forms, form)
	return form
}

// endObject counts the form of an object.
func (r *Reader) endObject() {
	f := &r.frames[len(r.frames)-1]
	p := f.place
	if len(r.frames) == 1 {
		r.root = nil
	}
	if p.OpenForms || p.Member != nil {
		return
	}
	form := p.lastForm
	if form == nil || form.mask != f.mask || form.long || len(f.more) > 0 {
		form = p.formOf[maskKey(f.mask, f.more)]
	}
	if form == nil {
		if len(p.Forms) >= r.e.limits.Forms {
			if r.mayFold() {
				r.e.dropForms(p)
			}
			return
		}
		r.made.at(p)
		form = r.e.addForm(p, f.mask, f.more)
	}
	p.lastForm = form
	if len(r.frames) == 1 {
		r.root = form
	}
	r.frames = r.frames[:len(r.frames)-1] // its examples name the object itself
	r.hit(&form.Tally, f.ev)
	r.frames = r.frames[:len(r.frames)+1]
}

// toMap makes a place whose objects have too many names one whose members all
// share a shape.
func (e *Endpoint) toMap(p *Place) {
	p.Member = p.in(wire.Step{Index: wire.AnyMember})
	e.dropForms(p)
	p.start = [2]*Key{}
	keys := p.Keys
	p.Keys, p.names = nil, map[string]*Key{}
	sortKeys(keys)
	for _, k := range keys {
		e.absorbPlace(p.Member, k.Place)
	}
}

// example takes note of the value that ev begins.
func (r *Reader) example(ev wire.Event) Example {
	src := r.src
	ex := Example{Origin: src.Origin, Offset: src.Base + int64(ev.Start)}
	for i := range r.frames {
		f := &r.frames[i]
		if f.array {
			ex.Steps = append(ex.Steps, wire.Step{Index: f.index})
		} else {
			name, _ := wire.Unquote(src.Data[f.key[0]:f.key[1]])
			ex.Steps = append(ex.Steps, wire.MemberOf(name))
		}
	}
	ex.Line, ex.Column = r.place.at(src, ev.Start)
	ex.Value = cut(src.Data, ev)
	return ex
}

// maxValue is how many bytes of a value an example keeps.
const maxValue = 120

// cursor turns offsets of one source that come in order into lines and columns,
// without looking at any byte twice.
type cursor struct {
	src          *Source
	offset       int
	line, column int
}

func (c *cursor) at(src *Source, offset int) (line, column int) {
	if c.src != src || offset < c.offset {
		*c = cursor{src: src, line: src.Line, column: src.Column}
	}
	between := src.Data[c.offset:offset]
	if n := bytes.Count(between, []byte{'\n'}); n > 0 {
		c.line += n
		c.column = 1
		between = between[bytes.LastIndexByte(between, '\n')+1:]
	}
	c.column += utf8.RuneCount(between)
	c.offset = offset
	return c.line, c.column
}

// cut is the beginning of the value that ev begins, on one line.
func cut(data []byte, ev wire.Event) string {
	if ev.Kind != wire.BeginObject && ev.Kind != wire.BeginArray && ev.End-ev.Start <= maxValue {
		return string(data[ev.Start:ev.End])
	}
	end := ev.End
	if ev.Kind == wire.BeginObject || ev.Kind == wire.BeginArray {
		var r wire.Reader
		r.Reset(data, ev.Start)
		for end = ev.Start; end <= ev.Start+maxValue; end = r.Offset() {
			if next, err := r.Next(); err != nil || next.Kind == wire.EndDocument {
				break
			}
		}
	}
	if end-ev.Start <= maxValue {
		return oneLine(data[ev.Start:end])
	}
	end = ev.Start + maxValue
	for !utf8.RuneStart(data[end]) {
		end--
	}
	return oneLine(data[ev.Start:end]) + "…"
}

func oneLine(data []byte) string { return string(bytes.Join(bytes.Fields(data), []byte(" "))) }

// Root tells the root of the document that was read last from others: its kind
// and, of an object, its keys. Captures of one name whose roots differ are of
// different endpoints.
func (r *Reader) Root(src *Source, offset int) string {
	s := r.root
	if s == nil {
		root, _ := RootOf(src.Data, offset)
		return root
	}
	if s.root == "" {
		var names []string
		for i, has := range s.Keys {
			if has {
				names = append(names, r.e.Root.Keys[i].Name)
			}
		}
		s.root = rootText(names)
	}
	return s.root
}

func rootText(names []string) string {
	sort.Strings(names)
	return "{" + strings.Join(slices.Compact(names), "\x00")
}

// RootOf is what Reader.Root answers for a document that has not been read. The
// error is that of the wire.
func RootOf(data []byte, offset int) (string, error) {
	var r wire.Reader
	r.Reset(data, offset)
	var names []string
	root := "."
	for {
		ev, err := r.Next()
		if err != nil {
			return "", err
		}
		switch {
		case ev.Kind == wire.EndDocument:
			if root == "{" {
				return rootText(names), nil
			}
			return root, nil
		case ev.Kind == wire.BeginObject && r.Depth() == 1:
			root = "{"
		case ev.Kind == wire.BeginArray && r.Depth() == 1:
			root = "["
		case ev.Kind == wire.KeyName && r.Depth() == 1:
			name, _ := wire.Unquote(data[ev.Start:ev.End])
			names = append(names, name)
		}
	}
}

// TakeBack undoes the reading of a document that has just been read.
func (r *Reader) TakeBack(e *Endpoint, src *Source, offset int) {
	e.combos.remove(e.lastCombo)
	r.takeBack(e, src, offset, e.freshFile)
}
