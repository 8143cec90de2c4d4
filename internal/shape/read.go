package shape

import (
	"math"
	"slices"

	"vetta/internal/capture"
	"vetta/internal/wire"
)

// Source is a stretch of a capture in memory: documents, and where in the file
// they stand.
type Source struct {
	Origin
	Data   []byte
	Base   int64         // byte offset of Data in the file
	Line   int           // line of Data's first byte, from 1
	Column int           // and its column
	Made   bool          // see capture.Body
	ID     int           // of the file, see capture.File
	body   *capture.Body // of XML, which tells where in the document something stands
	Sent   int64         // when it was sent, in milliseconds since 1970; 0 where that is not known
}

// Reader adds documents to endpoints, one at a time. It keeps its memory from one
// document to the next.
type Reader struct {
	wire     wire.Reader
	ahead    ahead
	frames   []frame
	src      *Source
	e        *Endpoint
	start    int   // of the document in Data
	seq      int64 // of the response, see Tally.last
	now      moment
	one      int64 // what is added to a count: one, or minus one where it is taken back
	undo     bool  // what is read is taken back
	root     *Form // of the root object, nil where it is none that is told apart
	place    cursor
	strings  stringer
	abort    error // why the reading stops: the document is not to be counted here
	verified bool  // the document is known to be well-formed and of the endpoint
	made     made
	stretch  stretch
	path     []wire.Step // see steps
	f        *frame      // the innermost container, nil at the root
	at       *Place      // of the value that comes next
}

// Read adds the document that starts at offset of src to the endpoint and answers
// the offset behind it. A document that is malformed leaves nothing behind: the
// error is that of the wire, and end is where the reading stopped.
func (r *Reader) Read(e *Endpoint, src *Source, offset int) (end int, err error) {
	e.freshFile = e.begin(src)
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
	r.made.drop(r.e)
	e.Responses--
	e.scratch = e.scratch[:0]
	e.moments.drop()
	if fresh {
		e.dropFile(src.ID)
	}
}

func (r *Reader) read(e *Endpoint, src *Source, offset int) (end int, err error) {
	r.set(e, src, offset)
	return r.events()
}

// set makes ready for the document that starts at offset of src.
func (r *Reader) set(e *Endpoint, src *Source, offset int) {
	r.e, r.src, r.start, r.root, r.abort, r.verified = e, src, offset, nil, nil, false
	r.seq, r.one, r.now = e.seq, 1, moment{src.rank(), src.Sent}
	if r.undo {
		r.one = -1
	}
	r.wire.Reset(src.Data, offset)
	r.frames, r.stretch = r.frames[:0], stretch{}
	r.f, r.at = nil, e.Root
}

// events reads on, to the end of the document or of the stretch that is there.
func (r *Reader) events() (end int, err error) {
	f, place := r.f, r.at
	for {
		if r.stretch.goesOn && r.wire.Offset() == len(r.src.Data) {
			r.f, r.at = f, place
			return r.wire.Offset(), nil
		}
		var ev wire.Event
		var err error
		var key *wire.Token
		if f != nil && f.next != nil && f.next[0] != nil {
			// Objects of an API have their keys mostly in one order: the keys that followed
			// the last times are looked for first.
			k, second := f.next[0], f.next[1]
			if second == nil {
				second = k
			}
			if key, ev, err = r.wire.Member(&k.quoted, &second.quoted); key != nil {
				if key != &k.quoted {
					k = second
				}
				place = r.take(f, k)
			}
		}
		if key == nil {
			ev, err = r.wire.Next()
		}
		if err != nil {
			return r.wire.Offset(), err
		}
		switch ev.Kind {
		case wire.EndDocument:
			return ev.End, nil
		case wire.KeyName:
			if place = r.key(f, ev); r.abort != nil {
				return r.wire.Offset(), r.abort
			}
			continue
		case wire.BeginObject:
			r.simple(place, Class{Kind: wire.Object}, ev)
			if r.e.tellers != nil {
				place = r.told(place, ev)
			}
			f = r.open(place, ev)
			if place.Member == nil { // of a map, the keys that were there lead nowhere
				f.next = &place.start
			}
			continue
		case wire.BeginArray:
			if r.stretch.resumed {
				f = r.open(place, ev)
				f.array, f.index = true, r.stretch.resume(r.src)
				place = place.Elem
				continue
			}
			r.simple(place, Class{Kind: wire.Array}, ev)
			f = r.open(place, ev)
			f.array = true
			if place.Elem == nil {
				place.Elem = place.in(wire.Step{Index: wire.AnyElement})
			}
			place = place.Elem
			continue
		case wire.EndObject:
			if r.endObject(); r.abort != nil {
				return r.wire.Offset(), r.abort
			}
			f = r.closed()
		case wire.EndArray:
			f = r.closed()
		case wire.NumberValue:
			if r.number(place, ev); r.abort != nil {
				return r.wire.Offset(), r.abort
			}
		case wire.StringValue:
			if r.string(place, ev); r.abort != nil {
				return r.wire.Offset(), r.abort
			}
		case wire.NullValue:
			r.simple(place, Class{Kind: wire.Null}, ev)
		case wire.TrueValue:
			r.simple(place, Class{Kind: wire.Bool, Facts: True}, ev)
		case wire.FalseValue:
			r.simple(place, Class{Kind: wire.Bool}, ev)
		}
		// A value has ended: what comes next is an element or a key of what holds it.
		if f != nil && f.array {
			f.index++
			place = f.place.Elem
		}
	}
}

// begin starts a response; fresh says whether it is the first of its capture.
func (e *Endpoint) begin(src *Source) (fresh bool) {
	e.seq++
	e.Responses++
	e.moments.add(moment{src.rank(), src.Sent})
	return e.addFile(src.ID)
}

func (e *Endpoint) end() {
	if len(e.alias) > 0 {
		for i, s := range e.scratch {
			e.scratch[i] = e.canonical(s)
		}
	}
	e.lastCombo = e.combos.add(e.scratch, 1)
	e.scratch = e.scratch[:0]
}

// simple counts a value whose class is known by its kind.
func (r *Reader) simple(p *Place, c Class, ev wire.Event) {
	t := p.recall.simple[ev.Kind]
	if t == nil {
		t = r.tally(p, c, ev)
		p.recall.simple[ev.Kind] = t
	}
	r.hit(t, ev)
}

// count counts a value of a class that the place has or may have.
func (r *Reader) count(p *Place, c Class, ev wire.Event) {
	t := p.recall.class(&c)
	if t == nil {
		t = r.tally(p, c, ev)
		p.recall.setClass(c, t)
	}
	r.hit(t, ev)
}

// tally finds or makes the tally of a class.
func (r *Reader) tally(p *Place, c Class, ev wire.Event) *Tally {
	t := p.Classes[c]
	if t == nil {
		t = &Tally{sym: r.e.symbol(), Witness: witness(c, r.src.Data[ev.Start:ev.End], ev.Traits)}
		p.Classes[c] = t
		if c.Form != "" {
			r.made.classes = append(r.made.classes, madeClass{p, c})
		}
	}
	return t
}

// hit counts one more value in a tally, or one less.
func (r *Reader) hit(t *Tally, ev wire.Event) {
	t.Values += r.one
	if (t.last == r.seq) == r.undo {
		r.hitResponse(t, ev)
	}
}

// hitResponse counts the response in a tally that it has not been counted in yet, or
// takes back that it was.
func (r *Reader) hitResponse(t *Tally, ev wire.Event) {
	t.Responses += r.one
	if r.undo {
		r.made.emptied = r.made.emptied || t.Responses == 0
		t.last = -1
		if t.widened == r.seq {
			t.Span, t.widened = t.before, 0
		}
		rank := r.now.rank
		t.Examples = slices.DeleteFunc(t.Examples, func(ex Example) bool {
			return ex.rank() == rank && ex.Offset >= r.src.Base+int64(r.start)
		})
		return
	}
	t.last = r.seq
	if !t.Span.holds(r.now) {
		t.before, t.widened, t.Span = t.Span, r.seq, t.Span.with(r.now)
	}
	r.e.scratch = append(r.e.scratch, t.sym)
	if n := len(t.Examples); n <= maxExamples || r.now.rank < t.Examples[n-1].rank() {
		t.Examples = firstExamples(append(t.Examples, r.example(ev)))
	}
}

func (r *Reader) number(p *Place, ev wire.Event) {
	if r.e.judges != nil && r.judged(p, wire.Number, ev) {
		return
	}
	// A literal that has been seen extends no range.
	if !p.OpenNums && r.known(p, ev) {
		return
	}
	lit := r.src.Data[ev.Start:ev.End]
	facts, value := numberFacts(lit, ev.Traits, r.wire.Decimal())
	c := Class{Kind: wire.Number, Facts: facts}
	r.count(p, c, ev)
	if !r.undo {
		r.extend(p, value)
	}
	if !p.OpenNums {
		r.text(p, c, lit, ev)
	}
}

func (r *Reader) string(p *Place, ev wire.Event) {
	if r.e.judges != nil && r.judged(p, wire.String, ev) {
		return
	}
	if !p.OpenTexts && r.known(p, ev) {
		return
	}
	lit := r.src.Data[ev.Start:ev.End]
	c := r.strings.class(lit, ev.Traits)
	if t := p.recall.class(&c); t != nil {
		r.hit(t, ev)
	} else {
		var ok bool
		if c, ok = r.formed(p, c); !ok {
			return
		}
		r.count(p, c, ev)
	}
	if !p.OpenTexts {
		r.text(p, c, lit, ev)
	}
}

// formed is a class without its form where a place has had too many; ok is false where the reading stops.
func (r *Reader) formed(p *Place, c Class) (of Class, ok bool) {
	if c.Form == "" {
		return c, true
	}
	if _, known := p.Classes[c]; !known && !p.formless && p.dateForms >= r.e.limits.Forms2 && !r.mayFold() {
		return c, false
	}
	return r.e.limitDateForms(p, c), true
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
	// What is beyond a double is as far as one reaches: JSON writes no infinity.
	reach := func(f float64) float64 { return min(max(f, -math.MaxFloat64), math.MaxFloat64) }
	lo, hi = reach(lo), reach(hi)
	if !p.ranged {
		p.Min, p.Max, p.ranged = lo, hi, true
		return
	}
	p.Min, p.Max = min(p.Min, lo), max(p.Max, hi)
}

// known counts a literal that has been seen at a place that has few: its class is
// known, so there is no need to look at it again.
func (r *Reader) known(p *Place, ev wire.Event) bool {
	if len(p.Texts) == 0 || ev.End-ev.Start > r.e.limits.TextLen && ev.End-ev.Start > r.e.limits.textLen(p) {
		return false
	}
	data := r.src.Data
	t := p.recall.text(data, ev.Start, ev.End, wire.EndsOf(data, ev.Start, ev.End))
	if t == nil {
		if t = p.Texts[string(data[ev.Start:ev.End])]; t == nil {
			return false
		}
		if t.class == nil { // made of other places' texts
			if t.class = p.Classes[t.Class]; t.class == nil {
				return false
			}
		}
		p.recall.setText(t)
	}
	r.hit(t.class, ev)
	r.hit(&t.Tally, ev)
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
		if p.texts[kind] >= limit || len(lit) > r.e.limits.textLen(p) {
			if r.mayFold() {
				r.e.open(p, c.Kind)
			}
			return
		}
		p.texts[kind]++
		t = &Text{Class: c, Literal: string(lit), class: p.Classes[c]}
		t.sym, t.Witness = r.e.symbol(), t.Literal
		r.made.texts = append(r.made.texts, madeText{p, t})
		p.Texts[t.Literal] = t
	}
	r.hit(&t.Tally, ev)
}

// key takes note of a name and answers the place of its value.
func (r *Reader) key(f *frame, ev wire.Event) *Place {
	p := f.place
	if p.Member != nil {
		f.name, f.named = [2]int{ev.Start, ev.End}, ""
		r.stretch.resumed = r.stretch.on && r.src.Data[ev.End+1] == ' '
		return p.Member
	}
	var k *Key
	if ev.End < len(r.src.Data) {
		k = p.recall.key(r.src.Data, ev.Start, ev.End+1) // with the colon
	}
	if k == nil {
		if k = r.keyOf(p, ev); k == nil {
			f.key, f.next, f.name, f.named = nil, nil, [2]int{ev.Start, ev.End}, ""
			return p.Member // of a place that has just become a map, or nil where the reading stops
		}
	}
	return r.take(f, k)
}

// take notes that the object has the key and answers the place of its value.
func (r *Reader) take(f *frame, k *Key) *Place {
	f.key = k
	if f.has(k.index) {
		if r.stretch.on {
			r.stretch.resumed = true
			return k.Place
		}
		k.Doubles += r.one
		return k.later()
	}
	if next := f.next; next[0] != k {
		next[0], next[1] = k, next[0]
	}
	f.next = &k.next
	k.Objects += r.one
	return k.Place
}

// keyOf finds or makes the key of a name; nil where the place becomes a map by it, or
// the reading stops.
func (r *Reader) keyOf(p *Place, ev wire.Event) *Key {
	raw := r.src.Data[ev.Start+1 : ev.End-1]
	name := string(raw)
	if ev.Traits&wire.Escaped != 0 {
		name, _ = wire.Unquote(r.src.Data[ev.Start:ev.End])
	}
	k := p.names[name]
	if k == nil {
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
		k = p.addKey(name)
	}
	if k.quoted.Text() == "" {
		k.quoted = wire.TokenOf(`"` + string(raw) + `":`)
	}
	p.recall.setKey(k)
	return k
}

// addKey adds a key to a place.
func (p *Place) addKey(name string) *Key {
	k := &Key{Name: name, Place: p.in(wire.MemberOf(name)), index: len(p.Keys)}
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
	var form *Form
	if len(f.more) == 0 {
		form = p.recall.form(f.mask)
	}
	if form == nil {
		form = p.formOf[maskKey(f.mask, f.more)]
		if form != nil && len(f.more) == 0 {
			p.recall.setForm(form)
		}
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
	if len(r.frames) == 1 && p == r.e.Root {
		r.root = form
	}
	r.frames = r.frames[:len(r.frames)-1] // its examples name the object itself
	r.hit(&form.Tally, wire.Event{Kind: wire.BeginObject, Start: f.start, End: f.start + 1})
	r.frames = r.frames[:len(r.frames)+1]
}
