package capture

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"sync"
	"sync/atomic"

	"vetta/internal/traffic"
	"vetta/internal/wire"
)

// sizes are how much is read at once, in bytes.
type sizes struct {
	whole int // a file up to this size is one chunk
	chunk int // of others
	giant int // from which on an entry of a HAR file is not held as it stands there, but only its bodies
}

// usual are the sizes of a Reader that has no others.
var usual = sizes{whole: 8 << 20, chunk: 1 << 20, giant: 4 << 20}

func (r *Reader) sized() sizes {
	if r.sizes == (sizes{}) {
		return usual
	}
	return r.sizes
}

// Reader reads files, and keeps its memory from one to the next. The zero Reader is ready.
type Reader struct {
	// Members is told of each member of an archive before it is read; nil for nobody.
	Members func(*File)
	// Passed is told of each file that holds nothing to read; nil for nobody.
	Passed func(Passed)
	// Stdin is what the file of that name is read from.
	Stdin io.Reader
	// Meter counts what is read; nil for none.
	Meter *Meter
	// Alone says that no chunk is handed to anybody else.
	Alone   bool
	scratch []byte
	rest    []byte // of a stretch, which goes on in the next one
	buf     []byte
	sizes   sizes
	heads   [][]byte // what streams begin with, of those inside each other
	level   int
}

// Meter counts the bytes that are read of files, as they lie there.
type Meter struct{ Bytes atomic.Int64 }

// metered is a file whose bytes are counted.
type metered struct {
	io.Reader
	meter *Meter
}

func (m *metered) Read(buf []byte) (n int, err error) {
	n, err = m.Reader.Read(buf)
	m.meter.Bytes.Add(int64(n))
	return n, err
}

// upTo reads a file as far as it went when it was opened: one that somebody writes to all the while would never end.
type upTo struct {
	file interface {
		io.Reader
		io.ReaderAt
	}
	left int64
}

func (u *upTo) Read(buf []byte) (n int, err error) {
	if u.left <= 0 {
		return 0, io.EOF
	}
	n, err = u.file.Read(buf[:min(int64(len(buf)), u.left)])
	u.left -= int64(n)
	return n, err
}

func (u *upTo) ReadAt(buf []byte, at int64) (int, error) { return u.file.ReadAt(buf, at) }

// meter counts what is read of a file.
func (r *Reader) meter(in io.Reader) io.Reader {
	if r.Meter == nil {
		return in
	}
	return &metered{in, r.Meter}
}

// Read calls each for the chunks of a file. each answers how many bytes of the
// chunk it has used up; what is left comes again with more behind it. A problem is
// handed to problem; Read itself only fails with what each fails with.
//
// A chunk that is Own may be used after each has returned if each sets it Taken; Data of others
// is only good until then.
func (r *Reader) Read(f *File, each func(*Chunk) (used int, err error), problem func(Problem)) error {
	if f.Path == Stdin && r.Stdin != nil {
		return r.content(f, r.meter(r.Stdin), -1, 0, each, problem)
	}
	for _, name := range f.Beside {
		text, err := readBeside(name)
		if err != nil {
			problem(Problem{File: name, Reason: reasonOf(err)})
			continue
		}
		f.tell(name, text)
	}
	file, size, err := openRegular(f.Disk())
	if err != nil {
		problem(f.whole(reasonOf(err)))
		return nil
	}
	defer file.Close()
	if size > int64(r.sized().whole) {
		in := io.LimitReader(file, size)
		if file, ok := file.(interface {
			io.Reader
			io.ReaderAt
		}); ok {
			in = &upTo{file, size}
		}
		return r.content(f, r.meter(in), size, 0, each, problem)
	}
	if int64(cap(r.buf)) < size {
		r.buf = make([]byte, size+size/4)
	}
	data := r.buf[:size]
	n, err := io.ReadFull(file, data)
	if err != nil && err != io.ErrUnexpectedEOF && err != io.EOF {
		problem(f.whole(reasonOf(err)))
		return nil
	}
	if r.Meter != nil {
		r.Meter.Bytes.Add(int64(n))
	}
	return r.whole(f, data[:n], 0, each, problem)
}

func readBeside(name string) ([]byte, error) {
	in, _, err := openRegular(name)
	if err != nil {
		return nil, err
	}
	defer in.Close()
	return io.ReadAll(io.LimitReader(in, mostBeside))
}

// whole handles a file that is in memory as a whole.
func (r *Reader) whole(f *File, data []byte, depth int, each func(*Chunk) (int, error), problem func(Problem)) error {
	c := &Chunk{Body: Body{File: f, Exchange: f.sent, Data: data, Line: 1, Column: 1}, Final: true}
	if f.wide {
		c.charset = "utf-8"
	}
	is := f.look(data)
	switch is {
	case isGzip, isZstandard, isZip, isTar, isWide:
		return r.layer(f, is, bytes.NewReader(data), int64(len(data)), depth, each, problem)
	case isHAR:
		return r.har(f, nil, data, int64(len(data)), each, problem)
	}
	if is != isJSONText {
		if coding := f.codingOf(data); coding != "" {
			return r.expanded(f, coding, bytes.NewReader(data), depth, each, problem)
		}
	}
	switch {
	case f.sent != nil && is != isJSONText: // what it is in place of JSON is told as of any other body
		c.form = inBody
	case is == isHTTP:
		c.form = inHTTP
	case is == isBlank:
		problem(f.whole("it is empty"))
		return nil
	case r.passes(f, is, data):
		return nil
	case is == isMarkup:
		c.form = inBody
	default:
		if IsLines(f.Path, data) {
			c.form = onLines
		}
		c.skipMark()
	}
	_, err := each(c)
	return err
}

// look says what a file is by its beginning.
func (f *File) look(head []byte) content {
	is := look(head)
	if is == isHAR && f.sent.Known() { // the body of a response
		return isJSONText
	}
	return is
}

// codingOf is how a file is compressed whose bytes do not tell, "" where it is not.
func (f *File) codingOf(head []byte) string {
	coding := codingOfName(f.Path)
	if coding == "" {
		coding = f.coding
	}
	return compressionOf(coding, head)
}

// passes passes a file over that is no capture, where nothing but its content could tell.
func (r *Reader) passes(f *File, is content, head []byte) bool {
	kind := ""
	switch {
	case f.sent != nil:
		if kind = traffic.KindOfMedia(f.sent.Media); kind == "" && is != isJSONText && is != isMarkup {
			kind = is.name()
		}
		if is != isJSONText && f.codingOf(head) != "" {
			kind = ""
		}
	case !f.Unsure, is == isMarkup:
		return false
	case is == isJSONText:
		if c := head[wire.SkipSpace(head, 0)]; c == '{' || c == '[' || c == recordSeparator || protection(head[wire.SkipSpace(head, 0):]) > 0 || IsLines(f.Path, head) || bytes.HasPrefix(head, bom) {
			return false
		}
		kind = traffic.PlainText
	default:
		if kind = is.name(); kind == traffic.PlainText && isBinary(head) {
			kind = traffic.Other
		}
	}
	if kind == "" {
		return false
	}
	if r.Passed != nil {
		r.Passed(Passed{File: f, Kind: kind, Exchange: f.sent})
	}
	return true
}

// content handles a file that is read as a stream; size is -1 where it is not known.
func (r *Reader) content(f *File, in io.Reader, size int64, depth int, each func(*Chunk) (int, error), problem func(Problem)) error {
	head := r.head()
	defer r.headDone()
	n, err := io.ReadFull(in, head)
	head = head[:n]
	if err != nil {
		if err != io.EOF && err != io.ErrUnexpectedEOF {
			problem(f.whole(reasonOf(err)))
			if n == 0 {
				return nil
			}
		}
		return r.whole(f, head, depth, each, problem)
	}
	more := io.MultiReader(bytes.NewReader(head), in)
	switch is := f.look(head); is {
	case isGzip, isZstandard, isTar, isWide:
		return r.layer(f, is, more, size, depth, each, problem)
	case isZip:
		if file, ok := unmetered(in).(io.ReaderAt); ok && depth == 0 {
			return r.layer(f, is, file.(io.Reader), size, depth, each, problem)
		}
		return r.layer(f, is, more, -1, depth, each, problem)
	case isHAR:
		r.heads[r.level-1] = nil // its chunks may be read by others later
		return r.har(f, in, head, size, each, problem)
	case isHTTP:
		return r.stream(f, in, head, size, inHTTP, each, problem)
	default:
		if r.passes(f, is, head) {
			return nil
		}
	}
	if coding := f.codingOf(head); coding != "" {
		return r.expanded(f, coding, more, depth, each, problem)
	}
	if f.look(head) == isMarkup {
		data, err := readWhole(io.LimitReader(more, mostBody+1), size)
		switch {
		case err != nil:
			problem(f.whole(reasonOf(err)))
			return nil
		case len(data) > mostBody:
			problem(f.whole(fmt.Sprintf("it is XML of more than %d MB, and is not read", mostBody>>20)))
			return nil
		}
		return r.whole(f, data, depth, each, problem)
	}
	if IsLines(f.Path, head) {
		return r.lines(f, in, head, each, problem)
	}
	return r.stream(f, in, head, size, inRow, each, problem)
}

// readWhole reads to the end of what may be large; size is how large it is, -1 where that is not known.
func readWhole(in io.Reader, size int64) (data []byte, err error) {
	data = grown(nil, 64<<10, -1)
	if 0 <= size && size <= mostBody {
		data = grown(nil, int(size)+1, -1)
	}
	for {
		n, err := io.ReadFull(in, data[len(data):cap(data)])
		data = data[:len(data)+n]
		switch err {
		case nil:
			data = grown(data, 1, -1)
		case io.EOF, io.ErrUnexpectedEOF:
			return data, nil
		default:
			return data, err
		}
	}
}

// head is room for the beginning of a stream, until headDone.
func (r *Reader) head() []byte {
	if r.level == len(r.heads) {
		r.heads = append(r.heads, nil)
	}
	if r.heads[r.level] == nil {
		r.heads[r.level] = make([]byte, r.sized().chunk)
	}
	r.level++
	return r.heads[r.level-1]
}

func (r *Reader) headDone() { r.level-- }

func unmetered(in io.Reader) io.Reader {
	if m, ok := in.(*metered); ok {
		return m.Reader
	}
	return in
}

// layer handles a file that holds others, or one in another guise.
func (r *Reader) layer(f *File, is content, in io.Reader, size int64, depth int, each func(*Chunk) (int, error), problem func(Problem)) error {
	f.Archive = is == isZip || is == isTar
	if is != isWide && (depth > deepest || depth == deepest && is != isTar) { // a tar in gzip is one
		problem(f.whole("archives and compressed files lie inside each other more than once: unpack them"))
		return nil
	}
	switch is {
	case isGzip:
		return r.expanded(f, codingGzip, in, depth, each, problem)
	case isZstandard:
		return r.expanded(f, codingZstd, in, depth, each, problem)
	case isWide:
		head := make([]byte, 4)
		n, _ := io.ReadFull(in, head)
		wide := wideOf(head[:n])
		f.wide = true
		return r.content(f, wide.NewDecoder().Reader(io.MultiReader(bytes.NewReader(head[:n]), in)), -1, depth, each, problem)
	}
	at, ok := in.(io.ReaderAt)
	if !ok || size < 0 {
		file, n, done, err := spool(in)
		if err != nil {
			problem(f.whole(reasonOf(err)))
			return nil
		}
		defer done()
		at, size = file, n
	}
	if is == isZip {
		return r.zip(f, at, size, depth, each, problem)
	}
	again := func() (io.ReadCloser, error) { return io.NopCloser(io.NewSectionReader(at, 0, size)), nil }
	return r.tar(f, again, depth, each, problem)
}

// expanded handles what a compressed file holds.
func (r *Reader) expanded(f *File, coding string, in io.Reader, depth int, each func(*Chunk) (int, error), problem func(Problem)) error {
	out, err := open(coding, in)
	if err != nil {
		problem(f.whole("it cannot be expanded: " + err.Error()))
		return nil
	}
	defer out.Close()
	return r.content(f, &expansion{out}, -1, depth+1, each, problem)
}

// expansion words the errors of a decompressor.
type expansion struct{ io.Reader }

func (e *expansion) Read(buf []byte) (int, error) {
	n, err := e.Reader.Read(buf)
	var tooMuch *boundError
	switch {
	case err == nil, err == io.EOF, errors.As(err, &tooMuch):
	case err == io.ErrUnexpectedEOF:
		err = errCutOff
	default:
		err = errors.New("it is damaged: " + err.Error())
	}
	return n, err
}

var errCutOff = errors.New("the compressed data ends before its end")

// lines hands on a file line by line in chunks of whole lines.
func (r *Reader) lines(f *File, file io.Reader, head []byte, each func(*Chunk) (int, error), problem func(Problem)) error {
	chunk := r.sized().chunk
	buf := append(make([]byte, 0, 2*chunk), head...)
	base, line, entry := int64(0), 1, 0
	for eof := false; !eof; {
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
		if end == 0 { // a line longer than the chunk: read on
			buf = grown(buf, chunk, -1)
			continue
		}
		r.rest = append(r.rest[:0], buf[end:]...) // before another one may have the memory
		c := &Chunk{Body: Body{File: f, Exchange: f.sent, Data: buf[:end], Base: base, Line: line, Column: 1}, Entry: entry, form: onLines, Own: true, Final: eof, block: buf}
		lines, documents := countLines(c.Data)
		c.skipMark()
		base, line, entry = base+int64(end), line+lines, entry+documents
		if _, err := each(c); err != nil {
			return err
		}
		if c.Taken {
			buf = append(r.block(len(r.rest)), r.rest...)
		} else {
			buf = append(buf[:0], r.rest...)
		}
	}
	return nil
}

// blocks are memory of chunks that were handed to others and are done with.
var blocks sync.Pool

// block is room for more than so many bytes: the size of a chunk, doubled as often as it takes.
func (r *Reader) block(more int) []byte {
	size := r.sized().chunk
	for size <= more {
		size *= 2
	}
	if size == usual.chunk {
		if b, ok := blocks.Get().(*[]byte); ok {
			return *b
		}
	}
	return make([]byte, 0, size)
}

// Done says of a chunk that was Taken that nobody needs its memory any more.
func (c *Chunk) Done() {
	if c.Taken && cap(c.block) == usual.chunk {
		free := c.block[:0]
		c.block, c.Data = nil, nil
		blocks.Put(&free)
	}
}

// stream hands on a file of documents that span lines. The buffer grows until it
// holds the largest of them.
func (r *Reader) stream(f *File, file io.Reader, head []byte, size int64, as form, each func(*Chunk) (int, error), problem func(Problem)) error {
	buf := make([]byte, len(head), max(r.sized().whole, len(head)+1))
	copy(buf, head)
	c := &Chunk{Body: Body{File: f, Exchange: f.sent, Line: 1, Column: 1}, form: as}
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
			if len(buf) >= mostBody {
				problem(f.whole("it holds a document that is larger than 1 GB, which is not read"))
				return nil
			}
			buf = grown(buf, 1, size-c.Base)
			continue
		}
		buf = buf[:copy(buf, buf[done:])]
	}
}

// roomy is the size from which a buffer is not doubled but made as large as what is still to come: room
// that is never written to costs nothing, and copies do.
const roomy = 8 << 20

// grown is data with room for at least need more bytes behind it, and for as many again as it has. left is
// how large it can become at most, negative where that is not known.
func grown(data []byte, need int, left int64) []byte {
	least := int64(len(data)) + int64(need)
	room := max(2*int64(len(data)), least)
	if len(data) >= roomy {
		room = max(mostBody+1, least)
	}
	if left >= 0 {
		room = max(min(room, left+1), least)
	}
	out := make([]byte, len(data), room)
	copy(out, data)
	return out
}
