package shape

import (
	"cmp"
	"fmt"
	"slices"

	"vetta/internal/capture"
	"vetta/internal/traffic"
)

// Passed is what was passed over of one kind, since it holds no JSON.
type Passed struct {
	Kind     string `json:"kind"`               // see capture.Passed
	Endpoint string `json:"endpoint,omitempty"` // of what was answered, where that is known
	Status   int    `json:"status,omitempty"`
	Count    int64  `json:"count"`
	First    string `json:"first"` // the capture, with #ENTRY where it holds several
	route    *traffic.Route
}

// passed is what was passed over, by kind, endpoint and status.
type passed map[passedKey]*Passed

type passedKey struct {
	kind, group string
	status      int
}

// mostPassed is how many endpoints are told apart of which nothing was read.
const mostPassed = 4096

func (p passed) add(one capture.Passed) {
	key := passedKey{kind: one.Kind}
	found := Passed{Kind: one.Kind, Count: 1, First: one.File.Path}
	if one.Entry > 0 {
		found.First = fmt.Sprintf("%s#%d", one.File.Path, one.Entry)
	}
	if one.Exchange.Known() && one.Kind != traffic.Filtered {
		route := one.Exchange.Route()
		g := group{route: &route}
		key.group, key.status = g.key(), one.Exchange.Status
		found.Endpoint, found.Status, found.route = route.String(), key.status, &route
	}
	if len(p) >= mostPassed && p[key] == nil {
		key.group, key.status = "", 0
		found.Endpoint, found.Status, found.route = "", 0, nil
	}
	p.put(key, found)
}

func (p passed) put(key passedKey, found Passed) {
	own := p[key]
	if own == nil {
		p[key] = &found
		return
	}
	own.Count += found.Count
	if traffic.Compare(found.First, own.First) < 0 {
		own.First = found.First
	}
}

func (p passed) join(o passed) {
	for key, found := range o {
		p.put(key, *found)
	}
}

// list is what was passed over, the most frequent kinds first.
func (p passed) list() []Passed {
	out := []Passed{}
	for _, one := range p {
		out = append(out, *one)
	}
	slices.SortFunc(out, func(a, b Passed) int {
		return cmp.Or(cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.Endpoint, b.Endpoint), cmp.Compare(a.Status, b.Status))
	})
	return out
}

// expected are problems of what was answered in place of JSON where other responses of the endpoint are
// JSON: a web page or a text that a proxy or a server sends when something is wrong.
func (c *collector) expected() (out []capture.Problem) {
	for _, one := range c.passed.list() {
		if one.route == nil || one.Kind != traffic.WebPage && one.Kind != traffic.PlainText {
			continue
		}
		route := c.answered(*one.route)
		if route == nil {
			continue
		}
		text := "a " + one.Kind
		if one.Kind == traffic.PlainText {
			text = one.Kind
		}
		if one.Status > 0 {
			text += fmt.Sprintf(", status %d,", one.Status)
		}
		text += " where " + route.String() + " answers JSON otherwise"
		if one.Count > 1 {
			text += fmt.Sprintf(" (%d of them)", one.Count)
		}
		out = append(out, capture.Problem{File: one.First, Reason: "it is " + text, Plain: true, Odd: true})
	}
	return out
}

// answered is the route at which JSON is answered to what was requested, nil for none: of what succeeds
// rather than of errors.
func (c *collector) answered(route traffic.Route) *traffic.Route {
	for _, failed := range []bool{false, true} {
		route.Failed = failed
		if g := c.groups[(&group{route: &route}).key()]; g != nil {
			return g.route
		}
	}
	return nil
}
