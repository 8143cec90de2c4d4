package capture

import (
	"bytes"
	"cmp"
	"io"
	"net/http/httputil"
	"regexp"
	"strconv"
	"strings"
	"time"

	"vetta/internal/traffic"
	"vetta/internal/wire"
)

// HTTP messages as text (RFC 9112), as tools print them: what they say of the body may be true of the
// body as it was sent and not as it was printed, since most decode it and leave the headers as they were.

// firstLine is the first line of a response or of a request.
var (
	statusLine  = regexp.MustCompile(`^HTTP/[0-9](?:\.[0-9])? ([1-9][0-9][0-9])(?: [^\r\n]*)?$`)
	requestLine = regexp.MustCompile(`^([A-Z]{3,16}) (\S+) HTTP/[0-9](?:\.[0-9])?$`)
)

// startsMessage says whether a text begins with the first line of a message.
func startsMessage(text []byte) bool {
	line, _, _ := bytes.Cut(text[:min(len(text), 8<<10)], []byte{'\n'})
	return isFirstLine(line)
}

func isFirstLine(line []byte) bool {
	if line = bytes.TrimRight(line, "\r \t"); len(line) < 8 || line[0] < 'A' || line[0] > 'Z' || !bytes.Contains(line, []byte("HTTP/")) {
		return false
	}
	return statusLine.Match(line) || requestLine.Match(line)
}

// message is an HTTP message in a text.
type message struct {
	status  int    // of a response
	method  string // of a request
	target  string
	headers map[string]string // those that are needed, by name in small letters
	body    int               // where it begins

	operation string // that the body of a GraphQL request names
}

// headersKept are the headers that say how a body was sent; no others are looked at.
var headersKept = map[string]bool{
	"content-type": true, "content-length": true, "content-encoding": true, "transfer-encoding": true, "host": true, "date": true,
}

// head reads the first line and the headers of the message at an offset; whole is false where the
// text ends before they do.
func head(data []byte, pos int) (m message, whole bool) {
	line, next := lineAt(data, pos)
	if found := statusLine.FindSubmatch(line); found != nil {
		m.status, _ = strconv.Atoi(string(found[1]))
	} else if found := requestLine.FindSubmatch(line); found != nil {
		m.method, m.target = string(found[1]), string(found[2])
	} else {
		next = pos
	}
	m.headers = map[string]string{}
	name := ""
	for next < len(data) {
		line, behind := lineAt(data, next)
		if len(line) == 0 {
			m.body = behind
			return m, true
		}
		if !bytes.ContainsRune(line, ':') && isFirstLine(line) {
			m.body = next // a message without a blank line behind its headers
			return m, true
		}
		next = behind
		if line[0] == ' ' || line[0] == '\t' { // obsolete folding: RFC 9112 section 5.2
			if name != "" {
				m.headers[name] += " " + string(bytes.TrimSpace(line))
			}
			continue
		}
		key, value, _ := strings.Cut(string(line), ":")
		if name = strings.ToLower(strings.TrimSpace(key)); !headersKept[name] {
			name = ""
			continue
		}
		m.headers[name] = strings.TrimSpace(value)
	}
	m.body = len(data)
	return m, false
}

// lineAt is the line at an offset without its end and white space before that, and where the next one begins.
func lineAt(data []byte, pos int) (line []byte, next int) {
	if end := bytes.IndexByte(data[pos:], '\n'); end >= 0 {
		return bytes.TrimRight(data[pos:pos+end], "\r \t"), pos + end + 1
	}
	return bytes.TrimRight(data[pos:], "\r \t"), len(data)
}

// nextMessage is where the next line from an offset on begins a message, -1 where none does. The offset
// is that of a line.
func nextMessage(data []byte, pos int) int {
	for pos < len(data) {
		at := bytes.Index(data[pos:], []byte("HTTP/"))
		if at < 0 {
			return -1
		}
		at += pos
		start := max(pos, bytes.LastIndexByte(data[:at], '\n')+1)
		line, next := lineAt(data, start)
		if isFirstLine(line) {
			return start
		}
		pos = next
	}
	return -1
}

// hasBody says whether what is answered to a request with a method can have a body: RFC 9112 section 6.3.
func hasBody(method string, status int) bool {
	return method != "HEAD" && status >= 200 && status != 204 && status != 304
}

// has says whether the message can have a body; of is the method of the request that it answers.
func (m *message) has(of string) bool {
	if m.status > 0 {
		return hasBody(of, m.status)
	}
	return m.headers["content-length"] != "" && m.headers["content-length"] != "0" || m.headers["transfer-encoding"] != ""
}

// messages hands on the bodies of the HTTP messages that a chunk holds, and answers how much of it is
// used up: a message that may go on beyond the chunk comes again with more behind it, and with it the
// request that it answers.
func (c *Chunk) messages(s *Sink) (used int) {
	where := position{c.Line, c.Column}
	counted := 0
	at := func(offset int) position {
		if offset < counted { // of a request, when what is behind it has been looked at
			where, counted = position{c.Line, c.Column}, 0
		}
		where.line, where.column = where.behind(c.Data[counted:offset])
		counted = offset
		return where
	}
	var asked *sent // a request whose response has not come yet
	pos := 0
	for pos < len(c.Data) {
		start := nextMessage(c.Data, pos)
		if start < 0 {
			if !c.Final {
				return used
			}
			c.between(s, pos, len(c.Data), at)
			break
		}
		m, whole := head(c.Data, start)
		if !whole && !c.Final {
			return used
		}
		end := m.body
		if m.has(asked.method()) {
			var enough bool
			if end, enough = m.end(c.Data, c.Final); !enough {
				return used
			}
		}
		if asked == nil {
			c.between(s, pos, start, at)
			used = start
		}
		pos = end
		if m.status > 0 && m.status < 200 {
			continue // the one that counts follows
		}
		if m.status > 0 {
			c.answered(s, asked, &m, end, at)
			asked, used = nil, pos
			continue
		}
		if asked != nil {
			c.answered(s, asked, nil, 0, at)
			used = start
		}
		asked = &sent{m, end}
	}
	if asked != nil {
		if !c.Final {
			return used
		}
		c.answered(s, asked, nil, 0, at)
	}
	return len(c.Data)
}

// sent is a request in a text.
type sent struct {
	message
	end int // of its body
}

func (r *sent) method() string {
	if r == nil {
		return ""
	}
	return r.message.method
}

// answered hands on the bodies of a request, where there is one, and of what was answered, nil for
// nothing, which ends at an offset.
func (c *Chunk) answered(s *Sink, asked *sent, m *message, end int, at func(int) position) {
	c.Entry++
	var of message
	if asked != nil {
		of = asked.message
		x := of.exchange(&of)
		if x.Op == "" {
			x.Op = graphQLOperation(c.Data[of.body:asked.end])
		}
		of.operation = x.Op
		if m != nil {
			x.Status = m.status
		}
		if wire.SkipSpace(c.Data[:asked.end], of.body) < asked.end {
			c.message(s, &of, x, asked.end, at)
		}
	}
	if m == nil {
		x := of.exchange(&of)
		x.Request = false
		s.offer(&Body{File: c.File, Exchange: x}, c.Entry, traffic.Unanswered)
		return
	}
	x := m.exchange(&of)
	if !m.has(of.method) {
		s.offer(&Body{File: c.File, Exchange: x}, c.Entry, traffic.Empty)
		return
	}
	c.message(s, m, x, end, at)
}

// offer passes a body over that has none of what is wanted, unless an option leaves it out.
func (s *Sink) offer(b *Body, entry int, kind string) {
	if s.Want != nil && !s.Want(b.Exchange) {
		kind = traffic.Filtered
	}
	s.pass(b, entry, kind)
}

// between says that text stands between messages that is of none.
func (c *Chunk) between(s *Sink, start, end int, at func(int) position) {
	start = wire.SkipSpace(c.Data, start)
	if start >= end || separators(c.Data[start:end]) {
		return
	}
	p := at(start)
	s.Problem(Problem{File: c.File.Path, Line: p.line, Column: p.column, Odd: true, Reason: "text between HTTP messages that is of none was passed over"})
}

// separators says whether a text is made of lines that only set others apart, or of comments on what follows.
func separators(text []byte) bool {
	for line := range bytes.Lines(text) {
		line = bytes.TrimSpace(line)
		if len(bytes.Trim(line, "-=#*_~ ")) > 0 && !bytes.HasPrefix(line, []byte("# ")) && !bytes.HasPrefix(line, []byte("### ")) {
			return false
		}
	}
	return true
}

// end is where the body of a message ends, as it was saved; enough is false where more must be read to
// know.
func (m *message) end(data []byte, final bool) (end int, enough bool) {
	if n, err := strconv.Atoi(m.headers["content-length"]); err == nil && n >= 0 && m.headers["transfer-encoding"] == "" {
		end = m.body + n
		switch {
		case n > len(data)-m.body:
			// The length is often that of the compressed body. Whether another message follows tells.
		default:
			next := end
			for next < len(data) {
				line, behind := lineAt(data, next)
				if len(line) > 0 && !separators(line) {
					break
				}
				next = behind
			}
			line, behind := lineAt(data, next)
			switch {
			case next >= len(data) && final, isFirstLine(line):
				return end, true
			case !final && behind >= len(data):
				return 0, false
			}
		}
	}
	// Raw text has no line that begins a message in JSON, whose strings have no line breaks; only what
	// is compressed or another kind of text could.
	if next := nextMessage(data, m.body); next >= 0 {
		return next, true
	}
	return len(data), final
}

// exchange is what a message and the request before it say of its body.
func (m *message) exchange(asked *message) *traffic.Exchange {
	x := &traffic.Exchange{Status: m.status, Media: traffic.MediaOf(m.headers["content-type"]), Time: traffic.DateOf(m.headers["date"], time.RFC1123, time.RFC850, time.ANSIC)}
	of := asked
	if m.status == 0 {
		x.Request, of = true, m
	}
	if of.method != "" {
		x.Method = of.method
		x.Asks(of.target, of.headers["host"])
		x.Op = cmp.Or(x.Op, of.operation)
	}
	return x
}

// message hands on the body of a message that ends at an offset.
func (c *Chunk) message(s *Sink, m *message, x *traffic.Exchange, end int, at func(int) position) {
	p := at(m.body)
	b := &Body{File: c.File, Exchange: x, Data: c.Data[m.body:end], Base: c.Base + int64(m.body), Line: p.line, Column: p.column}
	if strings.Contains(strings.ToLower(m.headers["transfer-encoding"]), "chunked") {
		if data, ok := dechunk(b.Data); ok {
			b.Data, b.Made = data, true
		}
	}
	fail := func(reason string) {
		s.Problem(Problem{File: c.File.Path, Line: p.line, Column: p.column, Entry: c.Entry, Reason: reason, Plain: true})
	}
	for _, coding := range codings(m.headers["content-encoding"]) {
		name := compressionOf(coding, b.Data)
		if name == "" {
			continue // it was saved as it is after decoding
		}
		data, err := expand(name, b.Data)
		if err != nil {
			fail("the body " + err.Error())
			return
		}
		b.Data, b.Made = data, true
	}
	if b.Lasting = b.Made || c.Final; !b.Made {
		b.Data = trimSeparators(b.Data)
	}
	s.body(b, c.Entry)
}

// trimSeparators leaves out lines at the end that only set messages apart.
func trimSeparators(data []byte) []byte {
	for {
		text := bytes.TrimRight(data, " \t\r\n")
		start := bytes.LastIndexByte(text, '\n') + 1
		if start == 0 || len(text)-start < 3 || !separators(text[start:]) {
			return data
		}
		data = data[:start]
	}
}

// dechunk takes the chunks of a body apart (RFC 9112 section 7.1); ok is false where it has none.
func dechunk(data []byte) (body []byte, ok bool) {
	line, _ := lineAt(data, 0)
	size, _, _ := bytes.Cut(line, []byte{';'})
	if _, err := strconv.ParseUint(string(bytes.TrimSpace(size)), 16, 62); err != nil {
		return nil, false
	}
	body, err := io.ReadAll(httputil.NewChunkedReader(bytes.NewReader(data)))
	if err != nil && len(body) == 0 {
		return nil, false
	}
	return body, true
}

// codings are the content codings of a header (RFC 9110 section 8.4), the last one first.
func codings(header string) (out []string) {
	for part := range strings.SplitSeq(header, ",") {
		if part = strings.ToLower(strings.TrimSpace(part)); part != "" && part != "identity" {
			out = append([]string{part}, out...)
		}
	}
	return out
}
