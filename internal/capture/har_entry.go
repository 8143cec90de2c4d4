package capture

import (
	"bytes"
	"encoding/base64"
	"io"
	"regexp"
	"time"

	"vetta/internal/traffic"
	"vetta/internal/wire"
)

// harEntry is what an entry of a HAR file says.
type harEntry struct {
	asked, answered harBody
	method, url     []byte
	started         []byte
	status          int
}

// harBody is a body in a HAR file.
type harBody struct {
	media    []byte
	text     []byte
	encoding []byte
	size     int
	at       int      // of the text, in the data
	where    position // of the text, in the file
}

// directEntries are entries that are read one behind the other, from where the first begins.
type directEntries struct {
	at      position // of what comes next
	over    bool     // what comes next is no entry
	scratch *[]byte  // what bodies are decoded into
}

// entries hands on the bodies of the entries that a chunk holds.
func (c *Chunk) entries(s *Sink) (used int) {
	at, start := position{c.Line, c.Column}, 0
	switch {
	case c.direct != nil:
		return c.directly(s)
	case c.stream != nil:
		c.Entry++
		c.entry(s, c.stream, nil, at, c.Base)
		return 0
	}
	for i, end := range c.ends {
		at.line, at.column = at.beyond(c.Data[start:c.begins[i]])
		start = c.begins[i]
		raw := c.Data[start:end]
		c.Entry++
		at = c.entry(s, &scanner{data: raw}, raw, at, c.Base+int64(start))
		start = end
	}
	return len(c.Data)
}

// directly hands on the bodies of entries one behind the other, and answers where the first one begins that
// the chunk does not hold to its end, or what is none.
func (c *Chunk) directly(s *Sink) (used int) {
	d := c.direct
	for pos := 0; ; {
		start := wire.SkipSpace(c.Data, pos)
		for start < len(c.Data) && c.Data[start] == ',' {
			start = wire.SkipSpace(c.Data, start+1)
		}
		d.at.line, d.at.column = d.at.beyond(c.Data[pos:start])
		if start >= len(c.Data) || c.Data[start] != '{' {
			d.over = true
			return start
		}
		*d.scratch = (*d.scratch)[:0]
		in := &scanner{data: c.Data, pos: start, scratch: d.scratch}
		e, behind := in.harEntry(c.Data, start, d.at)
		if in.fault != "" {
			// Whether it is malformed or not all there, its end tells.
			end := -1
			split := harSplitter{depth: harDepth, inside: true, begun: -1}
			split.split(c.Data[start:], 0, func(_, at int) {
				if end < 0 {
					end = start + at
				}
			})
			if end < 0 {
				return start
			}
			c.Entry++
			raw := bytes.Clone(c.Data[start:end])
			d.at = c.entry(s, &scanner{data: raw}, raw, d.at, c.Base+int64(start))
			pos = end
			continue
		}
		c.Entry++
		c.hand(s, e, in, d.at, c.Base)
		d.at, pos = behind, in.pos
	}
}

// entry hands on the bodies of one entry, which begins at a position, and answers the one behind it. raw is
// all of the entry, where it is there.
func (c *Chunk) entry(s *Sink, in *scanner, raw []byte, at position, base int64) (behind position) {
	e, behind := in.harEntry(raw, 0, at)
	if in.fault != "" {
		s.Problem(Problem{File: c.File.Path, Line: behind.line, Column: behind.column, Entry: c.Entry, Reason: "the entry is not as HAR 1.2 has it: " + in.fault, Plain: true})
		behind.line, behind.column = behind.beyond(raw[min(in.pos, len(raw)):])
		return behind
	}
	c.hand(s, e, in, at, base)
	return behind
}

// harEntry reads an entry: from an offset of raw on, which is at a position; raw is nil where the text is
// not held. It answers the position behind what was read.
func (s *scanner) harEntry(raw []byte, from int, at position) (e *harEntry, behind position) {
	e = &harEntry{}
	// Bodies may be decoded where they stand, so lines are counted on the way.
	passed, where := from, at
	mark := func(from, to int) position { // of a literal on one line
		if s.fill != nil {
			return at
		}
		where.line, where.column = where.beyond(raw[passed:from])
		here := where
		where.column += to - from
		passed = to
		return here
	}
	s.members(func(name string) {
		switch name {
		case "startedDateTime":
			e.started = s.text()
		case "request":
			s.members(func(name string) {
				switch name {
				case "method":
					e.method = s.text()
				case "url":
					e.url = s.text()
				case "postData":
					s.body(&e.asked, mark)
				}
			})
		case "response":
			s.members(func(name string) {
				switch name {
				case "status":
					e.status = s.number()
				case "content":
					s.body(&e.answered, mark)
				}
			})
		}
	})
	if raw != nil {
		where.line, where.column = where.beyond(raw[passed:max(passed, min(s.pos, len(raw)))])
	}
	return e, where
}

// hand hands on the bodies of an entry, which begins at a position.
func (c *Chunk) hand(s *Sink, e *harEntry, in *scanner, at position, base int64) {
	x := traffic.Exchange{Status: e.status, Time: traffic.DateOf(string(e.started), time.RFC3339Nano, "2006-01-02T15:04:05.999999999Z0700"), Method: string(bytes.ToUpper(e.method))}
	x.Asks(string(e.url), "")
	if x.Op == "" && e.asked.encoding == nil {
		x.Op = graphQLOperation(e.asked.text)
	}
	if len(e.asked.text) > 0 {
		asked := x
		asked.Request, asked.Media = true, traffic.MediaOf(string(e.asked.media))
		c.harBody(s, &e.asked, &asked, base)
	}
	x.Media = traffic.MediaOf(string(e.answered.media))
	b := Body{File: c.File, Exchange: &x}
	switch {
	case in.refused != "":
		s.Problem(Problem{File: c.File.Path, Line: at.line, Column: at.column, Entry: c.Entry, Reason: in.refused, Plain: true})
	case e.status == 0:
		s.pass(&b, c.Entry, traffic.Unanswered)
	case len(e.answered.text) == 0 && e.answered.size > 0 && hasBody(x.Method, x.Status) && traffic.KindOfMedia(x.Media) == "":
		s.pass(&b, c.Entry, traffic.Unsaved)
	default:
		c.harBody(s, &e.answered, &x, base)
	}
}

// harBody hands on one body of an entry.
func (c *Chunk) harBody(s *Sink, in *harBody, x *traffic.Exchange, base int64) {
	at := in.where
	b := &Body{File: c.File, Exchange: x, Data: in.text, Base: base + int64(in.at), Line: at.line, Column: at.column, Made: true, Lasting: c.Final && c.direct == nil, charset: "utf-8"}
	if string(in.encoding) == "base64" && traffic.KindOfMedia(x.Media) == "" {
		data, err := io.ReadAll(base64.NewDecoder(base64.StdEncoding, bytes.NewReader(in.text)))
		if err != nil {
			s.Problem(Problem{File: c.File.Path, Line: at.line, Column: at.column, Entry: c.Entry, Reason: "the body says that it is base64, and is not: " + err.Error(), Plain: true})
			return
		}
		b.Data, b.Lasting, b.charset = data, true, ""
		if inner := compressionOf("", b.Data); inner != "" {
			if b.Data, err = expand(inner, b.Data); err != nil {
				s.Problem(Problem{File: c.File.Path, Line: at.line, Column: at.column, Entry: c.Entry, Reason: "the body " + err.Error(), Plain: true})
				return
			}
		}
	}
	s.body(b, c.Entry)
}

// body reads content or postData; mark is told where its text stands.
func (s *scanner) body(b *harBody, mark func(from, to int) position) {
	s.members(func(name string) {
		switch name {
		case "mimeType":
			b.media = s.text()
		case "encoding":
			b.encoding = s.text()
		case "size":
			b.size = s.number()
		case "text":
			s.next()
			from := s.pos
			b.at = s.base + from
			b.text = s.large()
			b.where = mark(from, max(from, s.pos))
		}
	})
}

// operation is how a GraphQL document names what it asks for.
var operation = regexp.MustCompile(`^\s*(?:query|mutation|subscription)\s+([A-Za-z_][A-Za-z0-9_]*)`)

// graphQLOperation is the operation that the body of a GraphQL request names, "" for none.
func graphQLOperation(body []byte) (name string) {
	s := scanner{data: body}
	if s.next() != '{' {
		return ""
	}
	query := ""
	s.members(func(key string) {
		switch key {
		case "operationName":
			name = string(s.text())
		case "query":
			query = string(s.text())
		}
	})
	if query == "" || name != "" && !traffic.IsOperation(name) {
		return ""
	}
	if found := operation.FindStringSubmatch(query); name == "" && found != nil {
		name = found[1]
	}
	return name
}
