package decoder

import (
	"slices"

	"vetta/internal/wire"
)

// UnknownIn are the places in a value that are not known.
func UnknownIn(s Seen) [][]wire.Step { return unknownIn(s, nil, nil) }

// unknownIn gathers the places in a value that are not known.
func unknownIn(s Seen, path []wire.Step, found [][]wire.Step) [][]wire.Step {
	if s.Kind == SeenUnknown {
		return append(found, clone(path))
	}
	for i, e := range s.Elems {
		step := wire.Step{Index: i}
		if s.Names != nil {
			step = wire.MemberOf(s.Names[i])
		}
		found = unknownIn(e, append(path, step), found)
	}
	return found
}

// holdsUnknown says whether there is a place in a value that is not known.
func holdsUnknown(s Seen) bool {
	return s.Kind == SeenUnknown || slices.ContainsFunc(s.Elems, holdsUnknown)
}
