package shape

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

// apartInTime says whether all captures of one endpoint come before all of another.
func (e *Endpoint) apartInTime(o *Endpoint) bool {
	first, last := e.Span()
	otherFirst, otherLast := o.Span()
	return last < otherFirst || otherLast < first
}

// Span are the first and the last capture of an endpoint, by order.
func (e *Endpoint) Span() (first, last int) {
	first = -1
	for order := range 64 * len(e.files) {
		if e.HasFile(order) {
			if first < 0 {
				first = order
			}
			last = order
		}
	}
	return first, last
}

// Capture is the name of the capture of that order, "" where it is not known.
func (e *Endpoint) Capture(order int) string {
	if order < 0 || order >= len(e.names) {
		return ""
	}
	return e.names[order]
}

// From is how many captures of the endpoint come from that order on.
func (e *Endpoint) From(order int) (captures int) {
	for i := order; i < 64*len(e.files); i++ {
		if e.HasFile(i) {
			captures++
		}
	}
	return captures
}

// SpanOf are the first and the last capture, by order, in which anything of some tallies was counted;
// ok is false where that is not known.
func SpanOf(tallies []*Tally) (first, last int, ok bool) {
	first = -1
	for _, t := range tallies {
		if t.Values == 0 {
			continue
		}
		if len(t.Examples) == 0 || t.Last == 0 {
			return 0, 0, false
		}
		if at := t.Examples[0].Order; first < 0 || at < first {
			first = at
		}
		last = max(last, int(t.Last)-1)
	}
	return first, last, first >= 0
}
