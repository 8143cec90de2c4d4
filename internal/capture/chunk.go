package capture

import (
	"bytes"
	"errors"
	"fmt"
	"path/filepath"
	"strings"

	"vetta/internal/markup"
	"vetta/internal/memory"
	"vetta/internal/traffic"
	"vetta/internal/wire"
)

// form is how documents stand in a chunk.
type form uint8

const (
	inRow   form = iota // one behind the other
	onLines             // each on a line of its own
	inHAR               // in the entries of a HAR file
	inHTTP              // in HTTP messages
	inBody              // in a body of which it is known how it was sent
)

// Chunk is a stretch of a file that holds whole documents, but for the last one
// of a chunk that is not Final, which may go on beyond it.
type Chunk struct {
	Body
	Entry  int  // how many documents stand before it
	Final  bool // the file ends with it
	Own    bool // Data is used by nobody else, and may be read later by whoever the chunk is handed to
	Taken  bool // it was handed to somebody: then its memory is not used again
	form   form
	block  []byte         // all of the memory that Data is in
	direct *directEntries // of a HAR file: entries whose ends are not known
	stream *scanner       // of a HAR file: the entry that is read as it comes, and not held in Data
	begins []int          // of a HAR file: where its entries begin in Data, and
	ends   []int          // where they end
}

func (c *Chunk) skipMark() {
	if c.Base == 0 && bytes.HasPrefix(c.Data, bom) {
		c.Data, c.Base, c.Column = c.Data[len(bom):], int64(len(bom)), 2
	}
	if c.Base <= int64(len(bom)) && c.form != inHAR {
		start := wire.SkipSpace(c.Data, 0)
		if n := protection(c.Data[start:]); n > 0 {
			c.Line, c.Column = c.Where(start + n)
			c.Base += int64(start + n)
			c.Data = c.Data[start+n:]
		}
	}
}

// Documents hands the documents of the chunk to a sink, in order; malformed
// ones are handed to its Problem and do not end the chunk where another document can be found behind
// them. The answer is how much of the chunk is used up.
func (c *Chunk) Documents(s *Sink) (used int) {
	switch c.form {
	case inHAR:
		return c.entries(s)
	case inHTTP:
		return c.messages(s)
	case inBody:
		c.Entry++
		c.Lasting = c.Final
		s.body(&c.Body, c.Entry)
		return len(c.Data)
	}
	if s.Want != nil && !s.Want(c.Exchange) {
		if c.Entry == 0 {
			s.pass(&c.Body, 0, traffic.Filtered)
		}
		c.Entry++
		return len(c.Data)
	}
	return c.rows(s)
}

func (s *Sink) pass(b *Body, entry int, kind string) {
	if s.Passed != nil {
		s.Passed(Passed{File: b.File, Entry: entry, Kind: kind, Exchange: b.Exchange})
	}
}

// rows hands on documents that stand one behind the other, or on lines.
func (c *Chunk) rows(s *Sink) (used int) {
	lines := c.form == onLines
	c.Lasting = c.Final
	pos := 0
	for entry := c.Entry + 1; ; entry++ {
		pos = skipBetween(c.Data, pos)
		if pos >= len(c.Data) {
			c.Entry = entry - 1
			return pos
		}
		end, err := s.Document(Document{Body: &c.Body, Start: pos, Entry: entry})
		if err == nil {
			pos = end
			continue
		}
		syntax := syntaxOf(err, pos)
		if syntax.Truncated && !c.Final && !lines {
			c.Entry = entry - 1
			return pos
		}
		next := bytes.IndexByte(c.Data[pos:], '\n')
		if lines && next >= 0 && syntax.Offset > pos+next {
			syntax = &wire.SyntaxError{Offset: pos + next, Reason: "the line ends inside a document"}
		}
		p := c.fault(syntax, pos)
		p.Entry = c.entryOf(entry)
		s.Problem(p)
		if !lines || next < 0 {
			c.Final = true
			return len(c.Data)
		}
		pos += next + 1
	}
}

// body hands on the documents of one body that stands in a chunk, all under the number of its entry.
func (s *Sink) body(b *Body, entry int) {
	if s.Want != nil && !s.Want(b.Exchange) {
		s.pass(b, entry, traffic.Filtered)
		return
	}
	kind := ""
	if b.Exchange != nil {
		kind = traffic.KindOfMedia(b.Exchange.Media)
	}
	if wire.SkipSpace(b.Data, 0) == len(b.Data) {
		kind = traffic.Empty
	}
	if kind != "" {
		s.pass(b, entry, kind)
		return
	}
	b.toUTF8()
	if n := protection(b.Data[wire.SkipSpace(b.Data, 0):]); n > 0 {
		n += wire.SkipSpace(b.Data, 0)
		b.Line, b.Column = b.Where(n)
		b.Base, b.Data = b.Base+int64(n), b.Data[n:]
	}
	expected := b.Exchange != nil && traffic.IsJSON(b.Exchange.Media)
	switch is := look(b.Data); {
	case is == isJSONText, is == isHAR:
	case is == isBlank:
		s.pass(b, entry, traffic.Empty)
		return
	case is == isMarkup && !expected:
		s.markup(b, entry)
		return
	case expected:
		s.Problem(Problem{File: b.File.Path, Line: b.Line, Column: b.Column, Entry: entry, Reason: s.instead(b, is.name()), Plain: true})
		return
	case isBinary(b.Data):
		s.pass(b, entry, traffic.Other)
		return
	default:
		s.pass(b, entry, is.name())
		return
	}
	for pos := 0; ; {
		if pos = skipBetween(b.Data, pos); pos >= len(b.Data) {
			return
		}
		end, err := s.Document(Document{Body: b, Start: pos, Entry: entry})
		if err == nil {
			pos = end
			continue
		}
		if pos > 0 && separators(b.Data[pos:]) {
			return
		}
		if !expected && pos == 0 && !strings.ContainsRune("{[", rune(b.Data[wire.SkipSpace(b.Data, 0)])) {
			s.pass(b, entry, traffic.PlainText) // it only began as a number or a word does
			return
		}
		syntax := syntaxOf(err, pos)
		p := b.fault(syntax, pos)
		p.Entry = entry
		if b.Made {
			line, column := wire.LineColumn(b.Data, syntax.Offset)
			p.Reason += fmt.Sprintf(", in line %d, column %d of the body", line, column)
		}
		s.Problem(p)
		return
	}
}

// markup hands on the XML document that a body is.
func (s *Sink) markup(b *Body, entry int) {
	if len(b.Data) > LargeXML {
		defer memory.Sparing()()
	}
	var err error
	if s.Stretches != nil && len(b.Data) > s.Large {
		err = b.inStretches(s, entry)
	} else {
		var own *Body
		if own, err = b.asXML(); err == nil {
			_, err = s.Document(Document{Body: own, Entry: entry})
		}
	}
	if err == nil {
		return
	}
	p := Problem{File: b.File.Path, Line: b.Line, Column: b.Column, Entry: entry, Reason: err.Error()}
	if b.Exchange == nil { // the file holds nothing else
		p.Entry = 0
	}
	var wrong *markup.Error
	if errors.As(err, &wrong) {
		line, column := wire.LineColumn(b.Data, wrong.Offset)
		if b.Made {
			p.Reason += fmt.Sprintf(", in line %d, column %d of the body", line, column)
		} else {
			if p.Line, p.Column = line+b.Line-1, column; line == 1 {
				p.Column += b.Column - 1
			}
		}
	}
	s.Problem(p)
}

// LargeXML is the size from which an XML document makes collections come sooner, and is handed on in stretches.
const LargeXML = 4 << 20

// inStretches hands on the XML document that a body is, stretch by stretch.
func (b *Body) inStretches(s *Sink, entry int) error {
	text, err := markup.Decode(b.Data, b.charset)
	if err != nil {
		return err
	}
	b.Data = text
	own := *b
	own.Base = 0
	return s.Stretches(Document{Body: &own, Entry: entry}, func(each func(last bool) error) error {
		return markup.Windows(text, s.Stretch, func(w *markup.Converted, last bool) error {
			own.Markup, own.Data = w, w.JSON
			return each(last)
		})
	})
}

// asXML is the body with its XML document as JSON text. Where it is none, the body is in UTF-8 all the same if it could
// be made that.
func (b *Body) asXML() (*Body, error) {
	text, err := markup.Decode(b.Data, b.charset)
	if err != nil {
		return nil, err
	}
	b.Data = text
	if !b.Lasting {
		text = bytes.Clone(text)
	}
	doc, err := markup.Convert(text)
	if err != nil {
		return nil, err
	}
	own := *b
	own.Markup, own.Data, own.Lasting, own.Base = doc, doc.JSON, true, 0
	return &own, nil
}

// recordSeparator begins each text of a sequence of JSON texts: RFC 7464 section 2.2.
const recordSeparator = 0x1e

// skipBetween is the offset of the first byte at or behind pos that may stand between documents no more.
func skipBetween(data []byte, pos int) int {
	for {
		if pos = wire.SkipSpace(data, pos); pos >= len(data) || data[pos] != recordSeparator {
			return pos
		}
		pos++
	}
}

// instead words that a body is not the JSON that its media type says.
func (s *Sink) instead(b *Body, name string) string {
	text := "it is " + article(name)
	if x := b.Exchange; x.Status > 0 {
		text += fmt.Sprintf(", status %d", x.Status)
	}
	return text + ", where its headers say JSON"
}

// article puts a or an before a name.
func article(name string) string {
	switch {
	case name == traffic.PlainText:
		return name
	case strings.ContainsRune("aeiou", rune(name[0])), strings.HasPrefix(name, "XML"):
		return "an " + name
	}
	return "a " + name
}

// syntaxOf is what an error of the wire says of a document that starts at an offset.
func syntaxOf(err error, start int) *wire.SyntaxError {
	var syntax *wire.SyntaxError
	if !errors.As(err, &syntax) {
		syntax = &wire.SyntaxError{Offset: start, Reason: err.Error()}
	}
	return syntax
}

// fault is the problem that a malformed document makes, which starts at an offset of the body.
func (b *Body) fault(syntax *wire.SyntaxError, start int) Problem {
	plain := false
	if other := foreign(b.Data[start:]); other != "" && syntax.Offset <= start+1 {
		syntax, plain = &wire.SyntaxError{Offset: start, Reason: other}, true
	}
	line, column := b.Where(syntax.Offset)
	return Problem{File: b.File.Path, Line: line, Column: column, Reason: syntax.Reason, Plain: plain}
}

// entryOf is the number of a document, 0 where it is the only one of its file.
func (c *Chunk) entryOf(entry int) int {
	if entry == 1 && c.Final && c.form != onLines {
		return 0
	}
	return entry
}

// toUTF8 makes UTF-8 of a body in UTF-16 or UTF-32.
func (b *Body) toUTF8() {
	if wide := wideOf(b.Data); wide != nil {
		if data, err := wide.NewDecoder().Bytes(b.Data); err == nil {
			b.Data, b.Made, b.charset = data, true, "utf-8"
		}
	}
	if bytes.HasPrefix(b.Data, bom) {
		b.Data, b.Base, b.Column = b.Data[len(bom):], b.Base+int64(len(bom)), b.Column+1
	}
}

// IsLines says whether a file has a document on each line: by its extension, or
// because its first line is a whole document and another line follows.
func IsLines(path string, data []byte) bool {
	switch strings.ToLower(filepath.Ext(traffic.Uncompressed(path))) {
	case ".ndjson", ".jsonl":
		return true
	}
	data = bytes.TrimPrefix(data, bom)
	start := wire.SkipSpace(data, 0)
	end := bytes.IndexByte(data[start:], '\n')
	if end < 0 || wire.SkipSpace(data, start+end) == len(data) {
		return false
	}
	_, err := wire.Parse(data[start : start+end])
	return err == nil
}

// countLines counts line breaks and the lines that are not blank.
func countLines(data []byte) (breaks, full int) {
	for len(data) > 0 {
		end := bytes.IndexByte(data, '\n')
		if end < 0 {
			end = len(data) - 1
		} else {
			breaks++
		}
		if wire.SkipSpace(data[:end+1], 0) <= end {
			full++
		}
		data = data[end+1:]
	}
	return breaks, full
}
