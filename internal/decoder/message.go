package decoder

import (
	"strconv"
	"strings"

	"vetta/internal/wire"
)

// dotted is a path as the libraries' messages have it: $.stops[2].port-code.
func dotted(path []wire.Step) string {
	var b strings.Builder
	b.WriteByte('$')
	for _, s := range path {
		if s.Index == wire.MemberStep {
			b.WriteString("." + s.Name)
		} else {
			b.WriteString("[" + strconv.Itoa(s.Index) + "]")
		}
	}
	return b.String()
}

// Placed is a message with the index or name that path ends with in the place of IndexMark, and the path in that of
// PathMark.
func Placed(message string, path []wire.Step) string {
	if strings.Contains(message, PathMark) {
		message = strings.ReplaceAll(message, PathMark, dotted(path))
	}
	if len(path) == 0 || !strings.Contains(message, " at "+IndexMark) {
		return message
	}
	last := path[len(path)-1]
	at := last.Name
	if last.Index != wire.MemberStep {
		at = strconv.Itoa(last.Index)
	}
	return strings.Replace(message, " at "+IndexMark, " at "+at, 1)
}
