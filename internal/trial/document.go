package trial

import (
	"bytes"
	"fmt"

	"vetta/internal/capture"
	"vetta/internal/decoder"
	"vetta/internal/traffic"
	"vetta/internal/wire"
)

// Document is one document with what became of it.
type Document struct {
	Name      string // the file, with #N where it holds several
	Plan      *decoder.Plan
	Value     *wire.Value
	Outcome   decoder.Outcome
	Malformed *capture.Problem // where it is no JSON; nothing else is set then
	NoModel   string           // why no type was decoded from it
	At        string           // JSON Pointer of the value, where not the whole document was decoded
	body      *capture.Body
}

// File is the path of the capture that holds the document.
func (d *Document) File() string {
	if d.Malformed != nil {
		return d.Malformed.File
	}
	return d.body.File.Path
}

// Line is the line and column in the file of a byte offset that a value of the
// document has.
func (d *Document) Line(offset int) (line, column int) { return d.body.Where(offset) }

// Find is the value at a place of the document, nil where there is none.
func (d *Document) Find(place []wire.Step) *wire.Value {
	v := d.Value
	for _, s := range place {
		var next *wire.Value
		switch {
		case v == nil:
			return nil
		case s.Index >= 0 && s.Index < len(v.Elems):
			next = v.Elems[s.Index]
		case s.Index == wire.MemberStep:
			for i := range v.Members {
				if v.Members[i].Name == s.Name {
					next = v.Members[i].Value
					break
				}
			}
		}
		v = next
	}
	return v
}

// Run decodes every document of a file. plan answers the plan for a document, with
// the values in it that are decoded, or why there is none. Text that is no document, behind one on the line on which it
// ends, belongs to that, as the app would hand it to the library: most refuse it.
//
// reader reads the file; want says which bodies are wanted by how they were sent, nil for all; passed is told
// of those that hold no JSON.
func Run(reader *capture.Reader, f *capture.File, want func(*traffic.Exchange) bool, plan func(doc *wire.Value, d capture.Document) ([]Target, string), each func(*Document), problem func(capture.Problem), passed func(capture.Passed)) {
	several := false
	var held []*Document // of the first document, until it is known whether it is the only one
	ends := 0            // the line of the file on which it ends, 0 before that is known
	trailed := false     // text follows it there
	follows := func(entry, line, column int) bool {
		if entry != 2 || several || line != ends || len(held) == 0 {
			return trailed
		}
		for i, d := range held {
			if d.Plan == nil || !d.Plan.Stops {
				held[i] = &Document{Name: d.Name, Malformed: &capture.Problem{File: f.Path, Line: line, Column: column, Reason: "text follows the value"}}
			}
		}
		trailed = true
		return true
	}
	flush := func() {
		for _, d := range held {
			if several {
				d.Name += "#1"
			}
			each(d)
		}
		held = nil
	}
	emit := func(d *Document) {
		if !several {
			held = append(held, d)
			return
		}
		flush()
		each(d)
	}
	malformed := func(p capture.Problem) {
		problem(p)
		if p.Odd || follows(p.Entry, p.Line, p.Column) {
			return
		}
		if p.Entry > 1 && !several {
			several = true
			flush()
		}
		name := p.File
		if several && p.Entry > 0 {
			name = fmt.Sprintf("%s#%d", p.File, p.Entry)
		}
		emit(&Document{Name: name, Malformed: &p})
	}
	document := func(d capture.Document) (int, error) {
		value, end, err := d.Value(new(wire.Parser))
		if err != nil || trailed {
			return end, err
		}
		if d.Entry > 1 && !several {
			several = true
			flush()
		}
		used := end
		if d.Entry == 1 {
			ends, _ = d.Where(end)
		}
		if !d.Lasting {
			own := *d.Body
			own.Line, own.Column = d.Where(d.Start)
			own.Data = bytes.Clone(d.Data[d.Start:end])
			d.Body, d.Start = &own, 0
			value, _, _ = wire.ParseNext(own.Data, 0)
		}
		name := d.File.Path
		if several {
			name = d.Numbered()
		}
		targets, why := plan(value, d)
		if len(targets) == 0 {
			emit(&Document{Name: name, Value: value, NoModel: why})
		}
		for _, t := range targets {
			emit(&Document{Name: name, Plan: t.Plan, Value: t.Value, At: t.At, Outcome: t.Plan.Decode(t.Value), body: d.Body})
		}
		return used, nil
	}
	sink := capture.Sink{Document: document, Problem: malformed, Passed: passed, Want: want}
	reader.Members = func(*capture.File) {
		flush()
		several, trailed = false, false
	}
	reader.Passed = passed
	reader.Read(f, func(chunk *capture.Chunk) (int, error) { return chunk.Documents(&sink), nil }, malformed)
	flush()
}

// Target is a value of a document with the plan that it is decoded by.
type Target struct {
	Plan  *decoder.Plan
	Value *wire.Value
	At    string
}
