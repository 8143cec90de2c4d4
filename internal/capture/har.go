package capture

import (
	"bytes"
	"fmt"
	"io"
	"unicode/utf8"

	"vetta/internal/wire"
)

// HAR 1.2: an object with a member log, which has a list entries, each a request and what was answered.
// Members that begin with _ are a program's own and passed over, as all others that are not needed.

// isArchive says whether an object is that of a HAR file, by its first members.
func isArchive(text []byte) bool {
	if first := bytes.IndexByte(text[:min(len(text), 64)], '"'); first < 0 || !bytes.HasPrefix(text[first:], []byte(`"log"`)) && !bytes.HasPrefix(text[first:], []byte(`"_`)) {
		return false
	}
	s := scanner{data: text[:min(len(text), 64<<10)]}
	found, marks := false, 0
	entry := func(name string) {
		switch name {
		case "request", "response", "startedDateTime":
			marks++
		}
	}
	s.members(func(name string) {
		if name != "log" || s.next() != '{' {
			return
		}
		s.members(func(name string) {
			switch name {
			case "version", "creator", "browser", "pages":
				marks++
			case "entries":
				if marks++; s.next() == '[' {
					found = true
					first := scanner{data: s.data, pos: s.pos + 1}
					first.members(entry)
				}
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
	pause   bool      // split ends where an entry begins
}

// harDepth is the depth of the entries: in the list in the log in the object.
const harDepth = 3

// split goes over data from an offset, and calls found with the start and the end of each entry that
// ends in it.
//
// The answer is how far it has come: to the end of the data, or with pause to where an entry begins.
func (h *harSplitter) split(data []byte, from int, found func(start, end int)) (upTo int) {
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
			for i = wire.Delimiter(data, i); i+1 < len(data) && data[i] == '\\'; {
				i = wire.Delimiter(data, i+2)
			}
			if i >= len(data) {
				return i
			}
			if data[i] == '\\' {
				h.escaped = true
			} else {
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
				if h.begun = i; h.pause {
					return i
				}
			}
			h.depth++
			if h.depth == harDepth && c == '[' && string(h.key[1]) == "log" && string(h.key[2]) == "entries" {
				h.inside = true
			}
		case '}', ']':
			if h.depth == 0 {
				break // one too many
			}
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
	return i
}

// behindEntry takes note that an entry has been passed by another.
func (h *harSplitter) behindEntry() {
	h.depth, h.inside, h.begun, h.text, h.escaped = harDepth, true, -1, false, false
}

// harFile is a HAR file that is being read.
type harFile struct {
	*Reader
	file   *File
	in     io.Reader // nil where the head is all of it
	head   []byte
	size   int64  // of the file, negative where that is not known
	buf    []byte // what is held of the file
	base   int64  // where that begins in it
	at     position
	split  harSplitter
	done   int // how far split has come in buf
	entry  int // how many entries have been passed
	eof    bool
	failed error // why nothing more comes, nil at the end of the file
}

// har hands on a HAR file in chunks of whole entries. in is nil where the head is all of it: then its memory
// is the reader's.
func (r *Reader) har(f *File, in io.Reader, head []byte, size int64, each func(*Chunk) (int, error), problem func(Problem)) error {
	h := &harFile{Reader: r, file: f, in: in, head: head, size: size, buf: head, at: position{1, 1}, split: harSplitter{begun: -1, pause: r.Alone}, eof: in == nil}
	for {
		c := h.chunk()
		h.find(c)
		if r.Alone && h.split.begun >= 0 {
			over, err := h.direct(c, each)
			if err != nil {
				return err
			}
			if over {
				continue
			}
			c = h.chunk()
		}
		rest, err := h.pass(c, each)
		switch {
		case err != nil:
			return err
		case h.eof:
			h.end(problem)
			return nil
		case len(rest) == len(h.buf) && len(rest) >= r.sized().giant:
			if err := h.large(c, rest, each); err != nil || c.stream.fault != "" { // which was told
				return err
			}
		default:
			h.refill(c, rest)
		}
	}
}

func (h *harFile) chunk() *Chunk {
	return &Chunk{Body: Body{File: h.file, Base: h.base, Line: h.at.line, Column: h.at.column}, Entry: h.entry, form: inHAR, Own: h.in != nil}
}

// find finds the entries that end in what is held, or for a reader alone where the next one begins.
func (h *harFile) find(c *Chunk) {
	if h.Alone && h.split.begun >= 0 {
		return
	}
	h.done = h.split.split(h.buf, h.done, func(start, end int) {
		c.begins, c.ends = append(c.begins, start), append(c.ends, end)
	})
}

// direct hands on entries from where one begins, without looking for their ends first: nobody else reads.
// over says that what comes then is no entry; otherwise one goes on beyond what is held.
func (h *harFile) direct(c *Chunk, each func(*Chunk) (int, error)) (over bool, err error) {
	from := h.split.begun
	h.skip(from)
	*c = *h.chunk()
	c.direct, c.Own, c.Final, c.Data = &directEntries{at: h.at, scratch: &h.scratch}, false, h.eof, h.buf
	used, err := each(c)
	h.entry, h.at, h.base = c.Entry, c.direct.at, h.base+int64(used)
	h.buf, h.done = h.buf[used:], 0
	h.split.behindEntry()
	if !c.direct.over {
		h.split.begun = 0
	}
	return c.direct.over, err
}

// skip leaves the beginning of what is held.
func (h *harFile) skip(n int) {
	h.at.line, h.at.column = h.at.beyond(h.buf[:n])
	h.base += int64(n)
	h.buf = h.buf[n:]
}

// pass hands on the entries that end in what is held, and answers what is left: an entry that has begun.
func (h *harFile) pass(c *Chunk, each func(*Chunk) (int, error)) (rest []byte, err error) {
	keep := len(h.buf)
	if h.split.begun >= 0 {
		keep = h.split.begun
	}
	held := h.buf
	if len(c.ends) > 0 {
		first, last := c.begins[0], c.ends[len(c.ends)-1]
		for i := range c.ends {
			c.begins[i] -= first
			c.ends[i] -= first
		}
		c.Line, c.Column = h.at.beyond(held[:first])
		c.Base, c.Data, c.Final, c.block = c.Base+int64(first), held[first:last], h.eof, held
		h.entry += len(c.ends)
	}
	h.skip(keep)
	h.done = len(held) - keep
	h.split.start -= keep
	if h.split.begun >= 0 {
		h.split.begun = 0
	}
	rest = h.buf
	h.buf = held
	if len(c.ends) > 0 {
		h.rest = append(h.rest[:0], rest...) // before another one may have the memory
		_, err = each(c)
	}
	return rest, err
}

// large hands on an entry that is larger than what is held at once, as it comes.
func (h *harFile) large(c *Chunk, rest []byte, each func(*Chunk) (int, error)) error {
	h.entry++
	large := &giantEntry{in: h.in, window: rest, size: h.size - h.base}
	c.stream, c.Own = large.scanner(), false
	_, err := each(c)
	h.failed, h.eof = large.err, large.err != nil
	h.at = position{h.at.line + large.lines, 1}
	h.base += int64(c.stream.base + c.stream.pos)
	h.buf, h.done = c.stream.data[c.stream.pos:], 0
	h.split.behindEntry()
	return err
}

// refill puts what is left to the front of a buffer, and reads more behind it.
func (h *harFile) refill(c *Chunk, rest []byte) {
	chunk := h.sized().chunk
	switch {
	case c.Taken:
		rest = append(h.block(len(h.rest)), h.rest...)
	case h.Alone && len(rest) < chunk:
		rest = h.head[:copy(h.head[:chunk], rest)]
	case len(rest) == len(h.buf): // an entry that is larger than what was held
		rest = append(h.block(len(rest)), rest...)
	default:
		rest = h.buf[:copy(h.buf, rest)]
	}
	n, err := io.ReadFull(h.in, rest[len(rest):cap(rest)])
	h.buf = rest[:len(rest)+n]
	if err != nil {
		h.eof = true
		if err != io.EOF && err != io.ErrUnexpectedEOF {
			h.failed = err
		}
	}
}

// giantEntry is an entry that is read as a stream.
type giantEntry struct {
	in     io.Reader
	window []byte // what is held of the file
	size   int64  // of what is left of the file, negative where that is not known
	lines  int    // line breaks that were passed
	err    error  // why nothing more comes, nil at the end of the file
}

func (g *giantEntry) scanner() *scanner {
	return &scanner{data: g.window, fill: g.fill, left: g.size}
}

// fill is scanner.fill.
func (g *giantEntry) fill(s *scanner) bool {
	if !s.inLarge { // the text of one is on one line, and decoded where it stands
		g.lines += bytes.Count(s.data[:s.pos], []byte{'\n'})
	}
	kept := copy(g.window, s.data[s.pos:])
	s.base, s.pos = s.base+s.pos, 0
	n, err := io.ReadAtLeast(g.in, g.window[kept:], 1)
	if err != nil && err != io.EOF {
		g.err = err
	}
	s.data = g.window[:kept+n]
	return n > 0
}

// end says how the file ended, where it is not as it should.
func (h *harFile) end(problem func(Problem)) {
	p := Problem{File: h.file.Path, Line: h.at.line, Column: h.at.column, Plain: true}
	were := fmt.Sprintf("%d entries were read", h.entry)
	if h.entry == 1 {
		were = "1 entry was read"
	}
	switch {
	case h.failed != nil:
		p.Reason = reasonOf(h.failed) + "; " + were
	case h.split.begun >= 0:
		p.Entry = h.entry + 1
		p.Reason = fmt.Sprintf("the file ends inside entry %d; %s", h.entry+1, were)
	case h.split.depth > 0 || h.split.text:
		p.Reason = "the file ends before its end; " + were
		p.Odd = h.entry > 0
	case h.entry == 0:
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

// beyond is behind that counts bytes in place of characters: in a HAR file, where lines are long or the
// columns that count stand in ASCII, and where it must come out the same whatever is counted at once.
func (p position) beyond(data []byte) (line, column int) {
	if n := bytes.Count(data, []byte{'\n'}); n > 0 {
		return p.line + n, len(data) - bytes.LastIndexByte(data, '\n')
	}
	return p.line, p.column + len(data)
}
