package shape

import (
	"slices"

	"vetta/internal/capture"
	"vetta/internal/traffic"
	"vetta/internal/wire"
)

// ofEndpoint are the captures that may hold responses of an endpoint.
func ofEndpoint(e *Endpoint, files []*capture.File) []*capture.File {
	return slices.DeleteFunc(slices.Clone(files), func(f *capture.File) bool {
		return f.IsBare() && (e.Route != nil || traffic.Group(f.Path) != e.Group)
	})
}

// fromStdin says whether standard input is among captures: that can be read once.
func fromStdin(files []*capture.File) bool {
	return slices.ContainsFunc(files, func(f *capture.File) bool { return f.Path == capture.Stdin })
}

// Again reads the responses of an endpoint a second time, and calls visit for each document from as many
// workers at once as the reading has. visit answers where it ends. The answer is false where it was not all that the endpoint was made of, or something else:
// it comes from a saved shape or standard input as well, or a capture has changed meanwhile.
func Again(e *Endpoint, files []*capture.File, how Reading, visit func(capture.Document) (end int, err error)) (whole bool) {
	if len(files) == 0 || fromStdin(files) {
		return false
	}
	how.Limits, how.endpoint, how.visit = e.limits, e, visit
	c := Gather(ofEndpoint(e, files), how).c
	return c.docs == e.Responses && !c.partial
}

// again hands a document of the endpoint that is read again on.
func (c *collector) again(d capture.Document) (end int, err error) {
	if roots := c.how.endpoint.roots; roots != nil {
		root, err := RootOf(d.Data, d.Start)
		if err != nil {
			return 0, err
		}
		if !roots[root] {
			return wire.Skip(d.Data, d.Start)
		}
	}
	if end, err = c.how.visit(d); err == nil {
		c.docs++
	}
	return end, err
}
