package lower

import (
	"vetta/internal/code"
	"vetta/internal/model"
)

// Decoded are calls that decode, as what code does around them is looked for.
type Decoded struct {
	At    map[model.Pos]*model.Call
	types map[string]map[string]bool // by file
}

// NewDecoded are those calls.
func NewDecoded(calls []*model.Call) *Decoded {
	d := &Decoded{At: map[model.Pos]*model.Call{}, types: map[string]map[string]bool{}}
	for _, c := range calls {
		d.At[c.Pos] = c
		if d.types[c.Pos.File] == nil {
			d.types[c.Pos.File] = map[string]bool{}
		}
		d.types[c.Pos.File][c.Declared] = true
	}
	return d
}

// Any says whether a file has such calls, Several whether they are of several types.
func (d *Decoded) Any(file string) bool     { return len(d.types[file]) > 0 }
func (d *Decoded) Several(file string) bool { return len(d.types[file]) > 1 }

// Takes notes what of a document a call decodes.
func Takes(c *model.Call, p code.Part) {
	if p.Told {
		c.Within = p.Keys
	}
	c.Part, c.Picked = p.Of, p.Picked
}
