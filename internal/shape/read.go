package shape

import (
	"bytes"
	"encoding/binary"

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
