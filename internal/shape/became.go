package shape

import "maps"

// An endpoint may change the kind of its root: a list gets an envelope or loses it, one object
// becomes a list. Its responses stay those of one endpoint, so that a model which is decoded from
// them is held to all.

// leastEach is how many responses of each kind there must be for an object to have become a list
// of such objects: by the names alone they could be those of one thing and of all of them.
const leastEach = 3

// joinChanged merges the clusters of a group whose roots are of two kinds and of which one is what
// the other has become. The one with more responses comes first, and stays.
func joinChanged(clusters []*cluster) []*cluster {
	for i := 0; i < len(clusters); i++ {
		for k := i + 1; k < len(clusters); k++ {
			a, b := clusters[i], clusters[k]
			if a.kind == b.kind || !a.became(b) && !b.became(a) && !(len(clusters) == 2 && (a.kind == '.' || b.kind == '.')) {
				continue
			}
			a.e.Merge(b.e)
			maps.Copy(a.e.roots, b.e.roots)
			for key := range b.keys {
				a.keys[key] = true
			}
			return joinChanged(append(clusters[:k:k], clusters[k+1:]...))
		}
	}
	return clusters
}

// became says whether the lists of one cluster are what the objects of another hold, or are of such
// objects since some point in time.
func (c *cluster) became(list *cluster) bool {
	if c.kind != '{' || list.kind != '[' || list.e.Root.Elem == nil {
		return false
	}
	elem := list.e.Root.Elem
	for _, k := range c.e.Root.Keys {
		if k.Place.Elem != nil && alike(k.Place.Elem, elem) {
			return true
		}
	}
	return alike(c.e.Root, elem) && c.e.Responses >= leastEach && list.e.Responses >= leastEach && c.e.apartInTime(list.e)
}

// alike says whether the objects at two places share at least half the keys of the smaller set.
func alike(a, b *Place) bool {
	if len(a.Keys) == 0 || len(b.Keys) == 0 || a.Member != nil || b.Member != nil {
		return false
	}
	shared := 0
	for _, k := range a.Keys {
		if b.names[k.Name] != nil {
			shared++
		}
	}
	return shared > 0 && 2*shared >= min(len(a.Keys), len(b.Keys))
}

// apartInTime says whether all responses of one endpoint come before all of another.
func (e *Endpoint) apartInTime(o *Endpoint) bool {
	a, b, ok := e.Extent(), o.Extent(), e.Dated() == o.Dated()
	return ok && apart(a.moments(e.Dated()), b.moments(e.Dated()))
}

func apart(a, b [2]int64) bool { return a[1] < b[0] || b[1] < a[0] }
