package clr

import (
	"slices"

	"vetta/internal/decoder"
)

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
