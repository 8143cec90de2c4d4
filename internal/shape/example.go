package shape

import (
	"bytes"
	"slices"
	"strconv"
	"unicode/utf8"

	"vetta/internal/capture"
	"vetta/internal/markup"
	"vetta/internal/wire"
)

// witness is a literal of class c, shortened where a shorter one is of the class too.
func witness(c Class, lit []byte, traits wire.Traits) string {
	const long = 4096
	if c.Kind == wire.String && len(lit) > long && traits&wire.Escaped != 0 {
		// Of one with escapes, what stands up to the first.
		short := append(bytes.Clone(lit[:min(long, bytes.IndexByte(lit, '\\'))]), '"')
		for len(short) > 1 && !utf8.Valid(short) {
			short = append(short[:len(short)-2], '"')
		}
		if ClassOf(short) == c {
			return string(short)
		}
	}
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

// example takes note of the value that ev begins.
func (r *Reader) example(ev wire.Event) Example {
	src := r.src
	ex := Example{Origin: src.Origin, Offset: src.Base + int64(ev.Start)}
	ex.Steps = r.steps()
	if src.body != nil && src.body.Markup != nil {
		ex.Line, ex.Column = src.body.Where(ev.Start)
		ex.Value = cutXML(src, ev)
		return ex
	}
	if ex.Line, ex.Column = src.Line, src.Column; !src.Made {
		ex.Line, ex.Column = r.place.at(src, ev.Start)
	}
	ex.Value = cut(src.Data, ev)
	return ex
}

// steps lead to the value that is read. What one example has, those further in share.
func (r *Reader) steps() []wire.Step {
	same := 0
	for same < len(r.path) && same < len(r.frames) && r.path[same] == r.frames[same].step(r.src) {
		same++
	}
	if same < len(r.path) && same < len(r.frames) { // what was handed out stays as it is
		r.path = slices.Clone(r.path[:same])
	}
	for same = len(r.path); same < len(r.frames); same++ {
		r.path = append(r.path, r.frames[same].step(r.src))
	}
	return r.path[:len(r.frames):len(r.frames)]
}

// step leads from a container to what is read of it.
func (f *frame) step(src *Source) wire.Step {
	switch {
	case f.array:
		return wire.Step{Index: f.index}
	case f.key != nil:
		return wire.MemberOf(f.key.Name)
	}
	return wire.MemberOf(f.keyName(src))
}

// orderMember is what stands before the order of elements, which is shown by the element that they stand in.
var orderMember = []byte(strconv.Quote(markup.OrderKey) + ":")

// cutXML is cut of an XML document: an element as it stands there, the first one of a list, a text as a string.
func cutXML(src *Source, ev wire.Event) string {
	start, end := src.body.Source(ev.Start)
	isOrder := ev.Kind == wire.StringValue && bytes.HasSuffix(src.Data[:ev.Start], orderMember)
	if isOrder {
		start, end = src.body.Source(ev.Start - len(orderMember))
	} else if ev.Kind == wire.StringValue {
		return cut(src.Data, ev)
	} else if ev.Kind == wire.BeginArray {
		start, end = src.body.Source(ev.Start + 1)
	}
	text := src.body.Markup.Text
	text = text[start:min(end, len(text))]
	if len(text) <= maxValue {
		return oneLine([]byte(text))
	}
	end = maxValue
	for !utf8.RuneStart(text[end]) {
		end--
	}
	return oneLine([]byte(text[:end])) + "…"
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

// ExampleAt is an example of the value of a document of the endpoint that some steps lead to, as far as they do.
func (e *Endpoint) ExampleAt(d capture.Document, doc *wire.Value, steps []wire.Step) Example {
	v := doc
	var led []wire.Step
	for _, s := range steps {
		inner := v.At(s)
		if inner == nil {
			break
		}
		v, led = inner, append(led, s)
	}
	ev := wire.Event{Kind: wire.StringValue, Start: v.Start, End: v.End}
	switch v.Kind {
	case wire.Array:
		ev.Kind = wire.BeginArray
	case wire.Object:
		ev.Kind = wire.BeginObject
	}
	ex := Example{Origin: Origin{File: d.File.Path, Order: d.File.Order, Member: d.File.Member, Entry: d.Entry}, Offset: d.Base + int64(v.Start), Steps: led}
	if !e.several[d.File.Order] {
		ex.Entry = 0
	}
	ex.Line, ex.Column = d.Where(v.Start)
	if d.Markup != nil {
		ex.Value = cutXML(&Source{Data: d.Data, body: d.Body}, ev)
	} else {
		ex.Value = cut(d.Data, ev)
	}
	return ex
}
