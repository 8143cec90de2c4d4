package capture

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"io"
	"regexp"
	"time"
	"unicode/utf8"

	"vetta/internal/wire"
)

// HAR 1.2: an object with a member log, which has a list entries, each a request and what was answered.
// Members that begin with _ are a program's own and passed over, as all others that are not needed.

// isArchive says whether an object is that of a HAR file, by its first members.
func isArchive(text []byte) bool {
	s := scanner{data: text[:min(len(text), 64<<10)]}
	found, marks := false, 0
	s.members(func(name []byte) {
		if string(name) != "log" || s.next() != '{' {
			return
		}
		s.members(func(name []byte) {
			switch string(name) {
			case "version", "creator", "browser", "pages":
				marks++
			case "entries":
				marks++
				found = s.next() == '['
			}
		})
	})
	return found && marks > 1 || marks > 2
}

// harSplitter finds the entries of a HAR file in bytes that come block by block.
type harSplitter struct {
	depth   int
	text    bool      // inside a string
	escaped bool      // behind a backslash of one
	start   int       // of the string
	key     [3][]byte // by depth, the name of the member that is being read
	last    []byte    // the last string at a depth where names are told
	inside  bool      // in the list of entries
	begun   int       // where the current entry begins, -1 for none
}

// harDepth is the depth of the entries: in the list in the log in the object.
const harDepth = 3

// split goes over data from an offset, and calls found with the start and the end of each entry that
// ends in it.
func (h *harSplitter) split(data []byte, from int, found func(start, end int)) {
	i := from
	if h.text && from > 0 && h.start > from { // its start was in a block before
		h.start = from
	}
	for i < len(data) {
		if h.text {
			if h.escaped {
				h.escaped = false
				i++
				continue
			}
			i = wire.Plain(data, i)
			if i >= len(data) {
				return
			}
			switch data[i] {
			case '\\':
				h.escaped = true
			case '"':
				h.text = false
				if h.depth < harDepth && h.start >= 0 && i-h.start < 32 {
					h.last = append(h.last[:0], data[h.start+1:i]...)
				}
			}
			i++
			continue
		}
		switch c := data[i]; c {
		case '"':
			h.text, h.start = true, i
		case ':':
			if h.depth < harDepth {
				h.key[h.depth] = append(h.key[h.depth][:0], h.last...)
			}
		case '{', '[':
			if h.depth == harDepth && h.inside && c == '{' {
				h.begun = i
			}
			h.depth++
			if h.depth == harDepth && c == '[' && string(h.key[1]) == "log" && string(h.key[2]) == "entries" {
				h.inside = true
			}
		case '}', ']':
			h.depth--
			if h.depth == harDepth && h.begun >= 0 {
				found(h.begun, i+1)
				h.begun = -1
			}
			if h.depth < harDepth {
				h.inside = false
			}
		}
		i++
	}
}

// har hands on a HAR file in chunks of whole entries.
func (f *File) har(in io.Reader, head []byte, size int64, each func(*Chunk) (int, error), problem func(Problem)) error {
	split := harSplitter{begun: -1}
	at := position{line: 1, column: 1}
	buf, done, entry := head, 0, 0
	base := int64(0)
	var failed error
	for eof := in == nil; ; {
		c := &Chunk{Body: Body{File: f, Base: base, Line: at.line, Column: at.column}, Entry: entry, form: inHAR, Own: true}
		first := -1
		split.split(buf, done, func(start, end int) {
			if first < 0 {
				first = start
			}
			c.ends = append(c.ends, end)
		})
		done = len(buf)
		keep := len(buf) // what must be kept: an entry that has begun
		if split.begun >= 0 {
			keep = split.begun
		}
		if first >= 0 {
			last := c.ends[len(c.ends)-1]
			for i := range c.ends {
				c.ends[i] -= first
			}
			c.Line, c.Column = at.behind(buf[:first])
			c.Base += int64(first)
			c.Data, c.Final = buf[first:last:last], eof
			entry += len(c.ends)
		}
		at.line, at.column = at.behind(buf[:keep])
		base += int64(keep)
		rest := buf[keep:]
		if first >= 0 {
			var next []byte
			if !eof {
				next = make([]byte, len(rest), max(chunkSize, 2*len(rest))) // before others write into what they decode
				copy(next, rest)
			}
			if _, err := each(c); err != nil {
				return err
			}
			rest = next
		} else if !eof {
			rest = grown(rest, size-base)
		}
		if eof {
			f.harEnd(&split, entry, at, failed, problem)
			return nil
		}
		done -= keep
		if split.begun >= 0 {
			split.begun = 0
		}
		split.start -= keep
		n, err := io.ReadFull(in, rest[len(rest):cap(rest)])
		buf = rest[:len(rest)+n]
		if err != nil {
			eof = true
			if err != io.EOF && err != io.ErrUnexpectedEOF {
				failed = err
			}
		}
	}
}

// harEnd says how a HAR file ended, where it is not as it should.
func (f *File) harEnd(split *harSplitter, entries int, at position, failed error, problem func(Problem)) {
	p := Problem{File: f.Path, Line: at.line, Column: at.column, Plain: true}
	were := fmt.Sprintf("%d entries were read", entries)
	if entries == 1 {
		were = "1 entry was read"
	}
	switch {
	case failed != nil:
		p.Reason = reasonOf(failed) + "; " + were
	case split.begun >= 0:
		p.Entry = entries + 1
		p.Reason = fmt.Sprintf("the file ends inside entry %d; %s", entries+1, were)
	case split.depth > 0 || split.text:
		p.Reason = "the file ends before its end; " + were
		p.Odd = entries > 0
	case entries == 0:
		p.Line, p.Column, p.Reason = 0, 0, "it holds no entries"
	default:
		return
	}
	problem(p)
}

// position is a line and a column, in characters, both from 1.
type position struct{ line, column int }

// behind is the position behind data that starts at one.
func (p position) behind(data []byte) (line, column int) {
	if n := bytes.Count(data, []byte{'\n'}); n > 0 {
		return p.line + n, 1 + utf8.RuneCount(data[bytes.LastIndexByte(data, '\n')+1:])
	}
	return p.line, p.column + utf8.RuneCount(data)
}

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
	at       int // of the text, in the entry
}

// entries hands on the bodies of the entries that a chunk holds.
func (c *Chunk) entries(s *Sink) (used int) {
	at, start := position{c.Line, c.Column}, 0
	for _, end := range c.ends {
		raw := c.Data[start:end]
		begins := bytes.IndexByte(raw, '{')
		c.Entry++
		// Where the entry and its bodies begin must be told before they are decoded where they stand.
		var behind position
		behind.line, behind.column = at.behind(raw)
		c.entry(s, raw, begins, at, c.Base+int64(start))
		at, start = behind, end
	}
	return len(c.Data)
}

// entry hands on the bodies of one entry.
func (c *Chunk) entry(s *Sink, raw []byte, begins int, at position, base int64) {
	var e harEntry
	// Bodies are decoded where they stand, so lines are counted on the way.
	passed, where := 0, at
	mark := func(from, to int) position { // of a literal on one line
		where.line, where.column = where.behind(raw[passed:from])
		here := where
		where.column += to - from
		passed = to
		return here
	}
	var askedAt, answeredAt position
	in := scanner{data: raw, pos: begins}
	ok := in.members(func(name []byte) {
		switch string(name) {
		case "startedDateTime":
			e.started = in.text()
		case "request":
			in.members(func(name []byte) {
				switch string(name) {
				case "method":
					e.method = in.text()
				case "url":
					e.url = in.text()
				case "postData":
					askedAt = in.body(&e.asked, mark)
				}
			})
		case "response":
			in.members(func(name []byte) {
				switch string(name) {
				case "status":
					e.status = in.number()
				case "content":
					answeredAt = in.body(&e.answered, mark)
				}
			})
		}
	})
	if !ok {
		line, column := where.behind(raw[passed:max(passed, in.pos)])
		s.Problem(Problem{File: c.File.Path, Line: line, Column: column, Entry: c.Entry, Reason: "the entry is not as HAR 1.2 has it: " + in.fault, Plain: true})
		return
	}
	x := Exchange{Status: e.status, Time: dateOf(string(e.started), time.RFC3339Nano), Method: string(bytes.ToUpper(e.method))}
	x.request(string(e.url), "")
	if x.Op == "" && e.asked.encoding == nil {
		x.Op = graphQLOperation(e.asked.text)
	}
	if len(e.asked.text) > 0 {
		asked := x
		asked.Request, asked.Media = true, media(string(e.asked.media))
		c.harBody(s, &e.asked, &asked, askedAt, base)
	}
	x.Media = media(string(e.answered.media))
	b := Body{File: c.File, Exchange: &x}
	switch {
	case e.status == 0:
		s.pass(&b, c.Entry, Unanswered)
	case len(e.answered.text) == 0 && e.answered.size > 0 && kindOfMedia(x.Media) == "":
		s.pass(&b, c.Entry, Unsaved)
	default:
		c.harBody(s, &e.answered, &x, answeredAt, base)
	}
}

// harBody hands on one body of an entry.
func (c *Chunk) harBody(s *Sink, in *harBody, x *Exchange, at position, base int64) {
	b := &Body{File: c.File, Exchange: x, Data: in.text, Base: base + int64(in.at), Line: at.line, Column: at.column, Made: true, Lasting: true}
	if string(in.encoding) == "base64" && kindOfMedia(x.Media) == "" {
		data, err := io.ReadAll(base64.NewDecoder(base64.StdEncoding, bytes.NewReader(in.text)))
		if err != nil {
			s.Problem(Problem{File: c.File.Path, Line: at.line, Column: at.column, Entry: c.Entry, Reason: "the body says that it is base64, and is not: " + err.Error(), Plain: true})
			return
		}
		b.Data = data
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
func (s *scanner) body(b *harBody, mark func(from, to int) position) (at position) {
	s.members(func(name []byte) {
		switch string(name) {
		case "mimeType":
			b.media = s.text()
		case "encoding":
			b.encoding = s.text()
		case "size":
			b.size = s.number()
		case "text":
			s.space()
			b.at = s.pos
			b.text = s.large()
			at = mark(b.at, max(b.at, s.pos))
		}
	})
	return at
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
	s.members(func(key []byte) {
		switch string(key) {
		case "operationName":
			name = string(s.text())
		case "query":
			query = string(s.text())
		}
	})
	if query == "" || name != "" && !isOperation(name) {
		return ""
	}
	if found := operation.FindStringSubmatch(query); name == "" && found != nil {
		name = found[1]
	}
	return name
}
