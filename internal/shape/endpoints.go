package shape

import (
	"sort"
	"strings"

	"vetta/internal/markup"
)

// endpoints makes endpoints of the roots of a group: roots of one kind that share
// at least half the keys of the smaller one are one endpoint, and so are roots of two kinds
// where one is what the other has become.
func (g *group) endpoints() []*Endpoint {
	roots := sortedRoots(g)
	if len(roots) >= maxRoots || g.roots[manyRoots] != nil {
		e := g.roots[roots[0]]
		for _, r := range roots[1:] {
			e.Merge(g.roots[r])
		}
		e.Group, e.roots = e.Name, nil
		return []*Endpoint{e}
	}
	sort.SliceStable(roots, func(i, k int) bool {
		return g.roots[roots[i]].Responses > g.roots[roots[k]].Responses
	})
	var clusters []*cluster
	for _, root := range roots {
		e := g.roots[root]
		if e.Responses == 0 {
			continue
		}
		keys := rootKeys(root)
		var home *cluster
		for _, c := range clusters {
			if c.kind != root[0] {
				continue
			}
			shared := 0
			for _, k := range keys {
				if c.keys[k] {
					shared++
				}
			}
			if 2*shared >= min(len(keys), len(c.keys)) {
				home = c
				break
			}
		}
		if home == nil {
			home = &cluster{e: e, keys: map[string]bool{}, kind: root[0]}
			e.roots = map[string]bool{}
			clusters = append(clusters, home)
		} else {
			home.e.Merge(e)
		}
		home.e.roots[root] = true
		for _, k := range keys {
			home.keys[k] = true
		}
	}
	clusters = joinChanged(clusters)
	var out []*Endpoint
	for _, c := range clusters {
		e := c.e
		e.Group = e.Name
		if len(clusters) > 1 {
			e.Name += " (" + describeRoot(c.kind, c.keys) + ")"
		}
		out = append(out, e)
	}
	return out
}

// cluster are the roots of a group that are taken for one endpoint.
type cluster struct {
	e    *Endpoint
	keys map[string]bool // of root objects
	kind byte
}

func rootKeys(root string) []string {
	if len(root) < 2 {
		return nil
	}
	return strings.Split(root[1:], "\x00")
}

// describeRoot tells an endpoint from others of its group.
func describeRoot(kind byte, keys map[string]bool) string {
	switch kind {
	case '[':
		return "array"
	case '{':
		names := make([]string, 0, len(keys))
		for k := range keys {
			if markup.IsKey(k) {
				return "<" + markup.ShowKey(k) + ">"
			}
			names = append(names, k)
		}
		sort.Strings(names)
		if len(names) > 3 {
			names = append(names[:3], "…")
		}
		return "{" + strings.Join(names, ", ") + "}"
	}
	return "single value"
}

func sortedRoots(g *group) []string {
	roots := make([]string, 0, len(g.roots))
	for r := range g.roots {
		roots = append(roots, r)
	}
	sort.Strings(roots)
	return roots
}
