package shape

import (
	"vetta/internal/capture"
	"vetta/internal/wire"
)

// ofStretch is how much JSON text of a large XML document is there at a time.
const ofStretch = 256 << 10

// stretch is how far a document is read that is there in stretches, one after the other: the JSON text of a large XML
// document, see markup.Windows.
type stretch struct {
	on      bool // the document is there in stretches
	goesOn  bool // and another one follows
	resumed bool // the list that comes goes on with one that was there before
	next    int  // of the Resumed of this stretch
}

// resume is the number of the element with which a list goes on.
func (s *stretch) resume(src *Source) int {
	s.resumed = false
	s.next++
	return src.body.Markup.Resumed[s.next-1]
}

// readStretch reads the next stretch of a document, src.Data, into an endpoint that holds nothing else: what is malformed
// further on cannot be taken back.
func (r *Reader) readStretch(e *Endpoint, src *Source, last bool) error {
	if !r.stretch.on {
		e.begin(src)
		r.made.reset()
		r.set(e, src, 0)
		r.verified = true
	} else {
		r.wire.Continue(src.Data)
	}
	r.stretch = stretch{on: true, goesOn: !last}
	_, err := r.events()
	if err != nil || last {
		r.stretch = stretch{}
	}
	if err == nil && last {
		e.end()
	}
	return err
}

// leave makes the containers that are open hold on to nothing of the stretch that was read.
func (r *Reader) leave(src *Source) {
	used := len(src.Data)
	src.Base += int64(used)
	for i := range r.frames {
		f := &r.frames[i]
		f.start -= used
		if !f.array && f.key == nil && f.named == "" {
			f.named = f.keyName(src)
		}
	}
}

// keyName is the key of a map that is read.
func (f *frame) keyName(src *Source) string {
	if f.named != "" {
		return f.named
	}
	name, _ := wire.Unquote(src.Data[f.name[0]:f.name[1]])
	return name
}

// stretches reads a document that is there in stretches: into an endpoint of its own, which is put together with the one
// that it belongs to once it is known to be well-formed.
func (c *collector) stretches(d capture.Document, run capture.Stretches) error {
	g := c.groupOf(d)
	if g == nil { // of another endpoint than the one that is read again
		return nil
	}
	own := NewEndpoint(g.title(), c.limits)
	own.Route = g.route
	own.Judge(c.how.judges)
	var src *Source
	defer func() { c.reader.stretch = stretch{} }()
	err := run(func(last bool) error {
		if src == nil {
			c.src = nil // whose memory may be that of this stretch
			src = c.source(d)
			own.fixed = rootText([]string{firstKey(src.Data)})
		}
		src.Data = d.Data
		err := c.reader.readStretch(own, src, last)
		c.reader.leave(src)
		return err
	})
	if err != nil {
		return err
	}
	if d.Entry > 1 {
		c.several[d.File.ID] = true
	}
	c.docs++
	c.bytes += src.Base
	c.keep(g, own)
	return nil
}

// firstKey is the first key of an object.
func firstKey(data []byte) string {
	var r wire.Reader
	r.Reset(data, 0)
	for {
		ev, err := r.Next()
		if err != nil || ev.Kind == wire.EndDocument {
			return ""
		}
		if ev.Kind == wire.KeyName {
			name, _ := wire.Unquote(data[ev.Start:ev.End])
			return name
		}
	}
}

// keep puts an endpoint that a document has made beside those of its group, or together with the one of its root.
func (c *collector) keep(g *group, own *Endpoint) {
	root, e := c.rootIn(g, own.fixed)
	if own.fixed, own.fixedRoot = root, root != manyRoots; e == nil {
		g.roots[root], g.last = own, own
		return
	}
	e.Merge(own)
	e.fixedRoot = own.fixedRoot
	g.last = e
}
