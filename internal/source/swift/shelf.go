package swift

import (
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// shelf is where the readers of files take values from that a project has very many of. Files
// that are read side by side each have one of their own.
type shelf struct {
	types scan.Slab[model.Type]
	args  scan.Slab[*model.Type]
	decls scan.Slab[typeDecl]
	props scan.Slab[property]
	cases scan.Slab[enumCase]
	funcs scan.Slab[function]
}

// atOnce is how many values a shelf makes at once.
const atOnce = 64

// newRooms makes what the files of a project are read in.
func newRooms() *scan.Rooms[shelf] {
	return &scan.Rooms[shelf]{Make: func() *shelf {
		return &shelf{
			types: scan.SlabOf[model.Type](atOnce), args: scan.SlabOf[*model.Type](atOnce), decls: scan.SlabOf[typeDecl](atOnce / 4),
			props: scan.SlabOf[property](atOnce), cases: scan.SlabOf[enumCase](atOnce), funcs: scan.SlabOf[function](atOnce / 2),
		}
	}}
}

// single makes each value by itself: there are few of them where no file is read as a whole.
var single shelf
