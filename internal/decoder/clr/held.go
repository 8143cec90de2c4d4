package clr

import (
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/model"
)

// IsFixed says whether nothing can be added to a list, a set or a map of the type: an array, or one by an interface or a
// class that only lets it be read.
func IsFixed(u *model.Type) bool {
	return strings.HasPrefix(u.Name, "[") || slices.ContainsFunc([]string{"Immutable", "IImmutable", "ReadOnly", "IReadOnly", "IEnumerable", "Frozen"}, func(start string) bool { return strings.HasPrefix(u.Class, start) })
}

// Added is a collection with what was read behind what was there.
func Added(before, read decoder.Seen) decoder.Seen {
	if read.Kind != before.Kind {
		return read
	}
	out := decoder.Seen{Kind: before.Kind, Elems: slices.Clone(before.Elems), Names: slices.Clone(before.Names)}
	for i, e := range read.Elems {
		switch {
		case before.Kind == decoder.SeenMap:
			Put(&out, read.Names[i], e)
		case before.Kind == decoder.SeenSet && slices.ContainsFunc(out.Elems, func(o decoder.Seen) bool { return o.String() == e.String() }):
		default:
			out.Elems = append(out.Elems, e)
		}
	}
	return out
}
