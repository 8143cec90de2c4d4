package shape

import (
	"slices"
	"sort"
	"strings"

	"vetta/internal/traffic"
)

// Segments of paths that are values by their look are left out before responses are sorted into groups
// (traffic.Exchange.Route). Others, as the ports of /ports/saltmere and /ports/north-quay, are only
// known for values when several were seen and what is answered is alike.

const (
	// manySegments is how many words at one place of a path are values whatever is answered.
	manySegments = 64
	// alikeSegments is how many with answers that are alike are.
	alikeSegments = 3
	// alikeKeys is how many keys there must be in answers for being alike to say anything.
	alikeKeys = 3
	// manyGroups is from how many groups on a worker folds those that are known for values.
	manyGroups = 2048
)

// foldPaths puts groups together whose paths differ in segments that are values. While captures are
// read, only those that any other captures would not make words again.
func (c *collector) foldPaths(final bool) {
	byHost := map[string][]*pathed{}
	for key, g := range c.groups {
		if g.route == nil {
			continue
		}
		route := *g.route
		byHost[route.Host] = append(byHost[route.Host], &pathed{group: g, key: key, parts: strings.Split(route.Path, "/")})
	}
	f := folder{final: final, keys: map[*group]map[string]bool{}}
	for _, all := range byHost {
		sort.Slice(all, func(i, k int) bool { return all[i].key < all[k].key })
		f.fold(all, 1)
	}
	for _, all := range byHost {
		for _, p := range all {
			if !p.changed {
				continue
			}
			delete(c.groups, p.key)
		}
	}
	for _, all := range byHost {
		for _, p := range all {
			if !p.changed {
				continue
			}
			route := *p.group.route
			route.Path = strings.Join(p.parts, "/")
			p.group.route = &route
			for _, e := range p.group.roots {
				e.Route, e.Name = &route, p.group.title()
			}
			c.join(p.group)
		}
	}
	c.last, c.lastFile = nil, nil
}

// join adds a group to the one of its key.
func (c *collector) join(g *group) {
	own := c.groups[g.key()]
	if own == nil {
		c.groups[g.key()] = g
		return
	}
	for _, root := range sortedRoots(g) {
		if e := own.roots[root]; e != nil {
			e.Merge(g.roots[root])
		} else {
			own.roots[root] = g.roots[root]
		}
	}
	if len(own.roots) > maxRoots || own.roots[manyRoots] != nil {
		own.fold()
	}
}

// pathed is a group with the segments of its path.
type pathed struct {
	*group
	key     string
	parts   []string
	changed bool
}

type folder struct {
	final bool
	keys  map[*group]map[string]bool // see keysOf
}

// fold looks for values at one place of paths that are the same before it.
func (f *folder) fold(all []*pathed, at int) {
	by := map[string][]*pathed{}
	var values []string
	for _, p := range all {
		if at < len(p.parts) {
			if by[p.parts[at]] == nil {
				values = append(values, p.parts[at])
			}
			by[p.parts[at]] = append(by[p.parts[at]], p)
		}
	}
	slices.Sort(values)
	words := slices.DeleteFunc(slices.Clone(values), func(v string) bool { return v == traffic.Varying || v == "" })
	vary := map[string]bool{}
	switch {
	case len(words) > manySegments:
		for _, w := range words {
			vary[w] = true
		}
	case f.final && len(words) > 1 || f.final && len(words) == 1 && by[traffic.Varying] != nil:
		if at > 1 && !isPrefix(all[0].parts[at-1]) {
			vary = f.alike(words, by, at)
		}
	}
	for _, w := range words {
		if !vary[w] {
			f.fold(by[w], at+1)
			continue
		}
		for _, p := range by[w] {
			p.parts[at], p.changed = traffic.Varying, true
		}
		by[traffic.Varying] = append(by[traffic.Varying], by[w]...)
	}
	if rest := by[traffic.Varying]; rest != nil {
		f.fold(rest, at+1)
	}
}

// isPrefix says whether a segment is what paths of an API begin with: what comes behind it names a
// resource.
func isPrefix(segment string) bool {
	return segment == "api" || segment == "rest" || segment == "" || len(segment) <= 4 && segment[0] == 'v' && strings.Trim(segment[1:], "0123456789.") == ""
}

// alike are the words at one place of paths behind which the same is answered.
func (f *folder) alike(words []string, by map[string][]*pathed, at int) map[string]bool {
	type behind struct{ method, path, op string }
	answers := map[behind]map[string]*group{}
	all := append([]string{traffic.Varying}, words...)
	for _, w := range all {
		for _, p := range by[w] {
			r := p.route
			if r.Method != "GET" || r.Request || r.Failed {
				continue // actions answer alike, and so do errors
			}
			b := behind{r.Method, strings.Join(p.parts[at+1:], "/"), r.Op}
			if answers[b] == nil {
				answers[b] = map[string]*group{}
			}
			answers[b][w] = p.group
		}
	}
	vary := map[string]bool{}
	for _, groups := range answers {
		for _, w := range words {
			if groups[w] == nil {
				continue
			}
			var same []string
			for _, other := range all {
				if groups[other] != nil && f.same(groups[w], groups[other]) {
					same = append(same, other)
				}
			}
			if len(same) >= alikeSegments || len(same) == 2 && (same[0] == traffic.Varying || !slices.ContainsFunc(same, isWord)) {
				for _, s := range same {
					vary[s] = s != traffic.Varying
				}
			}
		}
	}
	return vary
}

// isWord says whether a segment is a word as resources are called, and no slug or code.
func isWord(segment string) bool {
	return !strings.ContainsAny(segment, "-_.~") && strings.ToUpper(segment) != segment
}

// same says whether what two groups answer is alike: of all keys at any depth most are in both.
func (f *folder) same(a, b *group) bool {
	if a == b {
		return true
	}
	x, y := f.keysOf(a), f.keysOf(b)
	shared := 0
	for k := range x {
		if y[k] {
			shared++
		}
	}
	return shared >= alikeKeys && 10*shared >= 6*(len(x)+len(y)-shared)
}

// keysOf are the places of all keys that a group answers.
func (f *folder) keysOf(g *group) map[string]bool {
	keys := f.keys[g]
	if keys == nil {
		keys = map[string]bool{}
		for _, e := range g.roots {
			e.Root.Walk(func(p *Place) {
				for _, k := range p.Keys {
					if k.Objects > 0 && len(keys) < 1000 {
						keys[k.Place.Path()] = true
					}
				}
			})
		}
		f.keys[g] = keys
	}
	return keys
}

// nameHosts puts the host into the names of endpoints that are only told apart by it.
func (c *collector) nameHosts() {
	hosts := map[string]map[string]bool{}
	for _, g := range c.groups {
		if g.route != nil {
			if hosts[g.route.String()] == nil {
				hosts[g.route.String()] = map[string]bool{}
			}
			hosts[g.route.String()][g.route.Host] = true
		}
	}
	for _, g := range c.groups {
		if g.route != nil {
			name := g.route.String()
			if len(hosts[name]) > 1 {
				name = g.route.Full()
			}
			for _, e := range g.roots {
				e.Name = name
			}
		}
	}
}
