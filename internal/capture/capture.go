// Package capture reads captured files as stretches of memory that hold whole
// documents: one document, one on each line (NDJSON), or several in a row.
package capture

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"path/filepath"
	"strings"

	"vetta/internal/wire"
)

// Extensions are the endings of the files that are captures.
var Extensions = []string{".json", ".ndjson", ".jsonl"}

// IsCapture says whether a file is a capture by its name.
func IsCapture(path string) bool {
	ext := strings.ToLower(filepath.Ext(path))
	for _, e := range Extensions {
		if e == ext {
			return true
		}
	}
	return false
}

// File is a captured file.
type File struct {
	Path  string // as messages name it
	Order int    // among the captures, which decides what comes first in all output
}

// Problem is something in a capture that could not be read.
type Problem struct {
	File   string `json:"capture"`
	Line   int    `json:"line,omitempty"` // 0 where the file as a whole is meant
	Column int    `json:"column,omitempty"`
	Entry  int    `json:"entry,omitempty"`
	Reason string `json:"reason"`
	Odd    bool   `json:"odd,omitempty"` // it was read all the same: only noteworthy
}

// Before says whether the problem comes before another one in the captures.
func (p Problem) Before(o Problem) bool {
	switch {
	case p.File != o.File:
		return Compare(p.File, o.File) < 0
	case p.Line != o.Line:
		return p.Line < o.Line
	}
	return p.Column < o.Column
}

// Chunk is a stretch of a file that holds whole documents, but for the last one
// of a chunk that is not Final, which may go on beyond it.
type Chunk struct {
	File   *File
	Data   []byte
	Base   int64 // byte offset of Data in the file
	Line   int   // line of its first byte, from 1
	Column int   // and column
	Entry  int   // how many documents stand before it
	Lines  bool  // each document stands on a line of its own
	Final  bool  // the file ends with it
}

// Document is one document that a chunk holds.
type Document struct {
	*Chunk
	Start int // byte offset in Data
	Entry int // from 1
}

// bom is the byte order mark, which RFC 8259 section 8.1 lets a reader pass over.
var bom = []byte("\ufeff")

// Sizes of what is read at once. A file up to wholeSize is one chunk.
const (
	wholeSize = 8 << 20
	chunkSize = 1 << 20
)

// Read calls each for the chunks of a file. each answers how many bytes of the
// chunk it has used up; what is left comes again with more behind it. A problem is
// handed to problem; Read itself only fails with what each fails with.
//
// A chunk whose Lines are set may be used after each has returned; Data of others
// is only good until then.
func (f *File) Read(each func(*Chunk) (used int, err error), problem func(Problem)) error {
	return new(Reader).Read(f, each, problem)
}

// Reader reads files as File.Read does, and keeps its memory from one to the next.
type Reader struct{ buf []byte }

// Read is File.Read.
func (r *Reader) Read(f *File, each func(*Chunk) (used int, err error), problem func(Problem)) error {
	file, size, err := openRegular(f.Path)
	if err != nil {
		problem(f.whole(reasonOf(err)))
		return nil
	}
	defer file.Close()
	if size <= wholeSize {
		if int64(cap(r.buf)) < size {
			r.buf = make([]byte, size+size/4)
		}
		data := r.buf[:size]
		n, err := io.ReadFull(file, data)
		if err != nil && err != io.ErrUnexpectedEOF && err != io.EOF {
			problem(f.whole(reasonOf(err)))
			return nil
		}
		return f.small(data[:n], each, problem)
	}
	head := make([]byte, chunkSize)
	n, err := io.ReadFull(file, head)
	if err != nil {
		problem(f.whole(reasonOf(err)))
		return nil
	}
	if IsLines(f.Path, head[:n]) {
		return f.lines(file, head, each, problem)
	}
	return f.stream(file, head, size, each, problem)
}

// Oddity is a problem that did not keep a file from being read.
func Oddity(file string, line, column, entry int, reason string) Problem {
	return Problem{File: file, Line: line, Column: column, Entry: entry, Reason: reason, Odd: true}
}

func (f *File) whole(reason string) Problem {
	return Problem{File: f.Path, Reason: reason}
}

// errIrregular is of what is no file to be read to its end: a pipe, a device.
var errIrregular = errors.New("it is no regular file")

// reasonOf words a failure of the file system without the path that is told anyway.
func reasonOf(err error) string {
	if err == errIrregular {
		return err.Error()
	}
	var pathErr *fs.PathError
	if errors.As(err, &pathErr) {
		err = pathErr.Err
	}
	return "it cannot be read: " + err.Error()
}

// small handles a file that is in memory as a whole.
func (f *File) small(data []byte, each func(*Chunk) (int, error), problem func(Problem)) error {
	c := &Chunk{File: f, Data: data, Line: 1, Column: 1, Final: true, Lines: IsLines(f.Path, data)}
	c.skipMark()
	if wire.SkipSpace(c.Data, 0) == len(c.Data) {
		problem(f.whole("it is empty"))
		return nil
	}
	_, err := each(c)
	return err
}

func (c *Chunk) skipMark() {
	if c.Base == 0 && bytes.HasPrefix(c.Data, bom) {
		c.Data, c.Base, c.Column = c.Data[len(bom):], int64(len(bom)), 2
	}
}

// lines hands on a file line by line in chunks of whole lines.
func (f *File) lines(file io.Reader, head []byte, each func(*Chunk) (int, error), problem func(Problem)) error {
	rest := head
	base, line, entry := int64(0), 1, 0
	for eof := false; !eof; {
		buf := make([]byte, len(rest), max(chunkSize, 2*len(rest)))
		copy(buf, rest)
		n, err := io.ReadFull(file, buf[len(buf):cap(buf)])
		buf = buf[:len(buf)+n]
		if err != nil {
			eof = true
			if err != io.EOF && err != io.ErrUnexpectedEOF {
				problem(f.whole(reasonOf(err)))
			}
		}
		end := len(buf)
		if !eof {
			end = bytes.LastIndexByte(buf, '\n') + 1
		}
		rest = buf[end:]
		if end == 0 {
			continue // a line longer than the chunk: read on
		}
		c := &Chunk{File: f, Data: buf[:end:end], Base: base, Line: line, Column: 1, Entry: entry, Lines: true, Final: eof}
		lines, documents := countLines(c.Data)
		c.skipMark()
		base, line, entry = base+int64(end), line+lines, entry+documents
		if _, err := each(c); err != nil {
			return err
		}
	}
	return nil
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

// stream hands on a file of documents that span lines. The buffer grows until it
// holds the largest of them.
func (f *File) stream(file io.Reader, head []byte, size int64, each func(*Chunk) (int, error), problem func(Problem)) error {
	buf := make([]byte, len(head), wholeSize)
	copy(buf, head)
	c := &Chunk{File: f, Line: 1, Column: 1}
	for {
		n, err := io.ReadFull(file, buf[len(buf):cap(buf)])
		buf = buf[:len(buf)+n]
		if err != nil {
			c.Final = true
			if err != io.EOF && err != io.ErrUnexpectedEOF {
				problem(f.whole(reasonOf(err)))
			}
		}
		c.Data = buf
		c.skipMark()
		used, err := each(c)
		if err != nil || c.Final {
			return err
		}
		done := len(buf) - len(c.Data) + used
		breaks := bytes.Count(c.Data[:used], []byte{'\n'})
		if breaks > 0 {
			c.Column = 1
		}
		_, column := wire.LineColumn(c.Data, used)
		c.Line, c.Column, c.Base = c.Line+breaks, c.Column+column-1, c.Base+int64(used)
		if done == 0 {
			grown := make([]byte, len(buf), min(2*cap(buf), int(size)+1))
			copy(grown, buf)
			buf = grown
			continue
		}
		buf = buf[:copy(buf, buf[done:])]
	}
}

// IsLines says whether a file has a document on each line: by its extension, or
// because its first line is a whole document and another line follows.
func IsLines(path string, data []byte) bool {
	switch strings.ToLower(filepath.Ext(path)) {
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

// Documents calls each for the documents of a chunk in order. each reads the
// document and answers the offset behind it, or the error of the wire; malformed
// ones are handed to problem and do not end the chunk where documents stand on
// lines. The answer is how much of the chunk is used up.
func (c *Chunk) Documents(each func(Document) (end int, err error), problem func(Problem)) (used int) {
	pos := 0
	for entry := c.Entry + 1; ; entry++ {
		pos = wire.SkipSpace(c.Data, pos)
		if pos >= len(c.Data) {
			c.Entry = entry - 1
			return pos
		}
		end, err := each(Document{Chunk: c, Start: pos, Entry: entry})
		if err == nil {
			pos = end
			continue
		}
		var syntax *wire.SyntaxError
		if !errors.As(err, &syntax) {
			syntax = &wire.SyntaxError{Offset: pos, Reason: err.Error()}
		}
		if syntax.Truncated && !c.Final && !c.Lines {
			c.Entry = entry - 1
			return pos
		}
		next := bytes.IndexByte(c.Data[pos:], '\n')
		if c.Lines && next >= 0 && syntax.Offset > pos+next {
			syntax = &wire.SyntaxError{Offset: pos + next, Reason: "the line ends inside a document"}
		}
		if other := foreign(c.Data[pos:]); other != "" && syntax.Offset <= pos+1 {
			syntax = &wire.SyntaxError{Offset: pos, Reason: other}
		}
		line, column := wire.LineColumn(c.Data, syntax.Offset)
		if line == 1 {
			column += c.Column - 1
		}
		problem(Problem{
			File: c.File.Path, Line: line + c.Line - 1, Column: column, Entry: entryOf(entry, c), Reason: syntax.Reason,
		})
		if !c.Lines || next < 0 {
			c.Final = true
			return len(c.Data)
		}
		pos += next + 1
	}
}

// entryOf is the number of a document, 0 where it is the only one of its file.
func entryOf(entry int, c *Chunk) int {
	if entry == 1 && c.Final && !c.Lines {
		return 0
	}
	return entry
}

// Numbered names a document of a file that holds several: FILE#N.
func (d Document) Numbered() string { return fmt.Sprintf("%s#%d", d.File.Path, d.Entry) }
