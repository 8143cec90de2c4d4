package dart

import (
	"sync"

	"vetta/internal/code"
	"vetta/internal/source/scan"
)

// unread is the body of a function that is read when somebody asks for it.
type unread struct {
	file     *scan.File
	from     int32 // where it begins and ends, in bytes
	end      int32
	generics []string

	once sync.Once
	body []code.Stmt
}

// Read parses it at the first call.
func (u *unread) Read() []code.Stmt {
	u.once.Do(func() {
		p := &parser{Cursor: scan.Cursor{F: u.file.Inside(u.from, u.end)}, generics: u.generics}
		u.body = p.statements(p.F.Len())
	})
	return u.body
}

// Has says whether a name stands in its text; one that begins with a point is that of a member.
func (u *unread) Has(name string) bool { return u.file.HasName(u.from, u.end, name) }
