package dart

import (
	"strings"
	"sync"
	"unicode/utf8"

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
func (u *unread) Has(name string) bool {
	text := u.file.Src[u.from:u.end]
	for {
		at := strings.Index(text, name)
		if at < 0 {
			return false
		}
		end := at + len(name)
		if (at == 0 || name[0] == '.' || !isWordByte(text[at-1])) && (end == len(text) || !isWordByte(text[end])) {
			return true
		}
		text = text[end:]
	}
}

func isWordByte(c byte) bool {
	return c == '_' || c|0x20 >= 'a' && c|0x20 <= 'z' || c >= '0' && c <= '9' || c >= utf8.RuneSelf
}
