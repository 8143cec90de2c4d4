package pairing

import (
	"maps"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/drift"
)

// keys are names on the wire without what naming strategies and spelling change of them: stationCode,
// station_code and StationCode are one.
type keys struct {
	all   []string        // at any depth, sorted, so that sums over them are the same each time
	outer map[string]bool // of the outermost object
}

// plain is a name without case, underscores and marks.
func plain(name string) string { return strings.Join(drift.Words(name), "") }

// deepest is how many objects inside each other are asked for their keys: what lies deeper says
// little of what a response is.
const deepest = 4

// keysOf are the keys that a plan asks for.
func keysOf(plan *decoder.Plan) keys {
	k := keys{outer: map[string]bool{}}
	all := map[string]bool{}
	seen := map[*decoder.Node]bool{}
	var walk func(n *decoder.Node, depth int)
	walk = func(n *decoder.Node, depth int) {
		if n == nil || seen[n] || depth > deepest {
			return
		}
		seen[n] = true
		inside := depth
		if n.Op == decoder.OpAt || n.Op == decoder.OpHas || n.Op == decoder.OpSubtype {
			for _, name := range append([]string{n.Name}, n.Others...) {
				all[plain(name)] = true
				if depth == 0 {
					k.outer[plain(name)] = true
				}
			}
			inside++
		}
		for _, next := range []*decoder.Node{n.Inner, n.Second, n.Third, n.Rest} {
			walk(next, inside)
		}
		for _, s := range n.Steps {
			walk(s.Node, depth)
		}
		for _, b := range n.Branches {
			walk(b.Node, depth)
		}
		for _, a := range n.Args {
			walk(a, depth)
		}
	}
	walk(plan.Asks(), 0)
	k.all = slices.Sorted(maps.Keys(all))
	return k
}
