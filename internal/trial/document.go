package trial

import (
	"bytes"

	"vetta/internal/capture"
	"vetta/internal/decoder"
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
	data      []byte
	line      int
	column    int
}

// Line is the line and column in the file of a byte offset that a value of the
// document has.
func (d *Document) Line(offset int) (line, column int) {
	line, column = wire.LineColumn(d.data, offset)
	if line == 1 {
		column += d.column - 1
	}
	return line + d.line - 1, column
}

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
// the values in it that are decoded, or why there is none.
func Run(f *capture.File, plan func(doc *wire.Value, d capture.Document) ([]Target, string), each func(*Document), problem func(capture.Problem)) {
	several := false
	var held []*Document // of the first document, until it is known whether it is the only one
	flush := func() {
		for _, d := range held {
			if several {
				d.Name = f.Path + "#1"
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
	f.Read(func(chunk *capture.Chunk) (int, error) {
		return chunk.Documents(func(d capture.Document) (int, error) {
			if d.Entry == 2 {
				several = true
				flush()
			}
			value, end, err := wire.ParseNext(d.Data, d.Start)
			if err != nil {
				return end, err
			}
			used := end
			line, column := d.Line, d.Column
			if !chunk.Final {
				// The chunk is filled anew behind this document: keep a copy of it.
				l, c := wire.LineColumn(d.Data, d.Start)
				if l == 1 {
					c += d.Column - 1
				}
				line, column = l+d.Line-1, c
				own := *chunk
				own.Data = bytes.Clone(d.Data[d.Start:end])
				d.Chunk, d.Start = &own, 0
				value, _, _ = wire.ParseNext(own.Data, 0)
			}
			name := f.Path
			if several {
				name = d.Numbered()
			}
			targets, why := plan(value, d)
			if len(targets) == 0 {
				emit(&Document{Name: name, Value: value, NoModel: why})
			}
			for _, t := range targets {
				emit(&Document{Name: name, Plan: t.Plan, Value: t.Value, At: t.At, Outcome: t.Plan.Decode(t.Value), data: d.Data, line: line, column: column})
			}
			return used, nil
		}, func(p capture.Problem) {
			problem(p)
			if p.Entry > 1 && !several {
				several = true
				flush()
			}
			name := f.Path
			if several {
				name = capture.Document{Chunk: chunk, Entry: p.Entry}.Numbered()
			}
			emit(&Document{Name: name, Malformed: &p})
		}), nil
	}, func(p capture.Problem) {
		problem(p)
		emit(&Document{Name: f.Path, Malformed: &p})
	})
	flush()
}

// Target is a value of a document with the plan that it is decoded by.
type Target struct {
	Plan  *decoder.Plan
	Value *wire.Value
	At    string
}
