// Package capture reads responses out of the files that people save them in: bare JSON, a document on
// each line, HAR, HTTP messages as text, bodies with their headers in a file beside them; compressed,
// in archives, in UTF-16. It hands them on one document at a time with what is known of how each was
// sent, and names what it passes over.
package capture

import (
	"cmp"
	"errors"
	"fmt"
	"io/fs"
	"path/filepath"
	"strings"

	"vetta/internal/markup"
	"vetta/internal/traffic"
	"vetta/internal/wire"
)

// Extensions are the endings of the files that are captures wherever they lie. What other files hold
// their content tells, see File.Unsure.
var Extensions = []string{".json", ".xml", ".ndjson", ".jsonl", ".har", ".http", ".gz", ".tgz", ".br", ".zst", ".zip", ".tar"}

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

// Stdin is the name of what comes from standard input.
const Stdin = "stdin"

// File is a captured file, or a member of an archive.
type File struct {
	Path  string // as messages name it; of a member, with the archive before it
	Order int    // among the captures, which decides what comes first in all output
	// Member is the place of a member in its archive, by name, from 1; 0 for a file.
	Member int
	ID     int // from 0, of each file that is read in one run another; who reads them gives it
	// Archive says, when it has been read, that its members count and not the file.
	Archive bool
	// Unsure says that nothing but its content tells whether the file is a capture: if it is none it
	// is passed over.
	Unsure bool
	// Beside are files that tell how the body in this one was sent: NAME.headers, NAME.meta.json.
	Beside []string
	disk   string // the path that is opened, where Path hides some of it
	hide   func(string) string
	sent   *traffic.Exchange // what they tell
	wide   bool              // its text was in UTF-16 or UTF-32, and is given as UTF-8
	behind *int              // of an archive and what is in it: the last Member that was given
	coding string            // the content coding that they say the body has
}

// Hide makes Path, and those of the file's members, what hide leaves of them.
func (f *File) Hide(hide func(path string) string) {
	f.disk, f.hide = f.Disk(), hide
	f.Path = hide(f.disk)
}

// Disk is the path at which the file is opened.
func (f *File) Disk() string { return cmp.Or(f.disk, f.Path) }

// inside is a member of the file, at a path in it.
func (f *File) inside(name string) *File {
	inner := &File{Path: f.Path + "/" + name, Order: f.Order, behind: f.behind, hide: f.hide}
	if f.hide != nil {
		inner.Path = f.hide(inner.Path)
	}
	return inner
}

// IsBare says whether a file by its name and what lies beside it holds nothing but documents that the name
// tells the endpoint of.
func (f *File) IsBare() bool {
	switch strings.ToLower(filepath.Ext(traffic.Uncompressed(f.Path))) {
	case ".json", ".xml", ".ndjson", ".jsonl":
		return !f.Unsure && len(f.Beside) == 0
	}
	return false
}

// Rank orders documents as their files are ordered, and within a file as they stand there.
type Rank int64

const (
	rankEntries = 20 // bits
	rankMembers = 18
)

// RankOf is the rank of a document: Entry counts from 1.
func RankOf(order, member, entry int) Rank {
	return Rank(order)<<(rankEntries+rankMembers) | Rank(min(member, 1<<rankMembers-1))<<rankEntries | Rank(min(entry, 1<<rankEntries-1))
}

// File is the rank of what comes before all documents of the file that a document is of.
func (r Rank) File() Rank { return r &^ (1<<rankEntries - 1) }

// Order and Entry are what RankOf was given, of a file that is no member.
func (r Rank) Order() int { return int(r >> (rankEntries + rankMembers)) }

// Entry is the number of the document in its file, from 1.
func (r Rank) Entry() int { return int(r & (1<<rankEntries - 1)) }

// Problem is something in a capture that could not be read.
type Problem struct {
	File   string `json:"capture"`
	Line   int    `json:"line,omitempty"` // 0 where the file as a whole is meant
	Column int    `json:"column,omitempty"`
	Entry  int    `json:"entry,omitempty"`
	Reason string `json:"reason"`
	Odd    bool   `json:"odd,omitempty"`   // it was read all the same: only noteworthy
	Plain  bool   `json:"plain,omitempty"` // the reason says all: it is no fault of syntax
}

// Before says whether the problem comes before another one in the captures.
func (p Problem) Before(o Problem) bool { return p.compare(o) < 0 }

func (p Problem) compare(o Problem) int {
	return cmp.Or(traffic.Compare(p.File, o.File), p.Line-o.Line, p.Column-o.Column, p.Entry-o.Entry, strings.Compare(p.Reason, o.Reason))
}

// Oddity is a problem that did not keep a file from being read.
func Oddity(file string, line, column, entry int, reason string) Problem {
	return Problem{File: file, Line: line, Column: column, Entry: entry, Reason: reason, Odd: true}
}

func (f *File) whole(reason string) Problem { return Problem{File: f.Path, Reason: reason} }

// Passed is a body, or a file, that was passed over since it holds no JSON.
type Passed struct {
	File     *File
	Entry    int    // 0 for a whole file
	Kind     string // Image, traffic.WebPage …
	Exchange *traffic.Exchange
}

// Body is a stretch of memory that holds whole documents, with where it is from.
type Body struct {
	File     *File
	Exchange *traffic.Exchange // nil where nothing is known of how it was sent
	Data     []byte
	Base     int64 // byte offset of Data in the file, or of what Data was made of
	Line     int   // line of its first byte, from 1
	Column   int   // and column
	// Made says that Data does not stand in the file as it is, but escaped, encoded or compressed: Line
	// and Column are then those of the whole of it.
	Made bool
	// Lasting says that Data is good until the next file is read, and not only until the document is.
	Lasting bool
	// Markup is the XML document that Data is the JSON text of; nil where JSON was sent.
	Markup  *markup.Converted
	charset string // of Data, where it is known otherwise than by what XML declares
}

// Source is where in the XML document what begins at an offset of Data stands, see markup.Places.
func (b *Body) Source(offset int) (start, end int) { return b.Markup.Places.Source(offset) }

// Value parses the document, and answers it with the offset behind it. What it answers is good until the parser is
// used again.
func (d Document) Value(p *wire.Parser) (*wire.Value, int, error) {
	v, end, err := p.ParseNext(d.Data, d.Start)
	if err == nil && d.Markup != nil {
		var tree *markup.Document
		if tree, err = d.Markup.Tree(); err == nil {
			v.Attach(tree)
		}
	}
	return v, end, err
}

// Document is one document of a body.
type Document struct {
	*Body
	Start int // byte offset in Data
	Entry int // of the file, from 1; documents of one HAR entry share its number
}

// Numbered names a document of a file that holds several: FILE#N.
func (d Document) Numbered() string { return fmt.Sprintf("%s#%d", d.File.Path, d.Entry) }

// Where is the line and the column in the file of a byte offset of the body.
func (b *Body) Where(offset int) (line, column int) {
	if b.Made {
		return b.Line, b.Column
	}
	if b.Markup != nil {
		start, _ := b.Markup.Places.Source(offset)
		line, column = b.Markup.Position(start)
	} else {
		line, column = wire.LineColumn(b.Data, offset)
	}
	if line == 1 {
		column += b.Column - 1
	}
	return line + b.Line - 1, column
}

// Sink is what the documents of chunks are handed to.
type Sink struct {
	// Document reads the document and answers the offset behind it, or the error of the wire.
	Document func(Document) (end int, err error)
	// Stretches is handed XML documents of more than Large bytes instead, where it is not nil, in stretches of about
	// Stretch bytes: run writes Data and Markup of the document
	// anew for each stretch of its JSON text, calls each then, and answers the error of either. See markup.Windows.
	Stretches      func(d Document, run Stretches) error
	Large, Stretch int
	Problem        func(Problem)
	Passed         func(Passed)
	// Want says which bodies are wanted by how they were sent; nil for all.
	Want func(*traffic.Exchange) bool
}

// Stretches hands on the stretches of a document.
type Stretches func(each func(last bool) error) error

// bom is the byte order mark, which RFC 8259 section 8.1 lets a reader pass over.
var bom = []byte("\ufeff")

// errIrregular is of what is no file to be read to its end: a pipe, a device.
var errIrregular = errors.New("it is no regular file")

// reasonOf words a failure of the file system without the path that is told anyway.
func reasonOf(err error) string {
	var tooMuch *boundError
	if err == errIrregular || errors.As(err, &tooMuch) {
		return err.Error()
	}
	var pathErr *fs.PathError
	if errors.As(err, &pathErr) {
		err = pathErr.Err
	}
	return "it cannot be read: " + err.Error()
}
