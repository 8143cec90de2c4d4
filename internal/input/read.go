package input

import (
	"bytes"
	"io"
	"os"
	"syscall"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/unicode"
	"golang.org/x/text/encoding/unicode/utf32"

	"vetta/internal/source/scan"
)

// reader reads files one after the other.
type reader struct{ buf []byte }

// read is the text of a file. The system is asked not to wait for a regular one, which never
// makes anybody wait: else it is first asked how it could be waited for, which takes longer
// than to read a small file.
func (r *reader) read(file found) (string, error) {
	flags := os.O_RDONLY
	if file.regular {
		flags |= syscall.O_NONBLOCK
	}
	f, err := os.OpenFile(file.name, flags, 0)
	if err != nil {
		return "", err
	}
	defer f.Close()
	if r.buf == nil {
		r.buf = make([]byte, 64<<10)
	}
	for n := 0; ; {
		if n == len(r.buf) {
			r.buf = append(r.buf, make([]byte, n)...)
		}
		k, err := f.Read(r.buf[n:])
		n += k
		if err == io.EOF {
			return textOf(r.buf[:n])
		}
		if err != nil {
			return "", err
		}
	}
}

// textOf is what a file says. Some editors write source in UTF-16 or UTF-32, with the mark that tells the order of bytes.
func textOf(data []byte) (string, error) {
	for _, wide := range []struct {
		mark string
		is   encoding.Encoding
	}{{"\xff\xfe\x00\x00", utf32.UTF32(utf32.LittleEndian, utf32.ExpectBOM)}, {"\x00\x00\xfe\xff", utf32.UTF32(utf32.BigEndian, utf32.ExpectBOM)}} {
		if bytes.HasPrefix(data, []byte(wide.mark)) {
			text, err := wide.is.NewDecoder().Bytes(data)
			return string(text), err
		}
	}
	if !bytes.HasPrefix(data, []byte("\xff\xfe")) && !bytes.HasPrefix(data, []byte("\xfe\xff")) {
		return string(data), nil
	}
	text, err := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewDecoder().Bytes(data)
	return string(text), err
}

// readAll are the texts of files, and why there is none, read side by side. Those that have not changed are taken of what
// was kept; nil for nothing.
func readAll(files []found, kept *Texts) (texts []string, errs []error) {
	texts, errs = make([]string, len(files)), make([]error, len(files))
	readers := scan.Rooms[reader]{Make: func() *reader { return &reader{} }}
	scan.Each(len(files), func(i int) {
		stamp := StampOf(files[i].name)
		if text, ok := kept.of(files[i].name, stamp); ok {
			texts[i] = text
			return
		}
		r := readers.Take()
		texts[i], errs[i] = r.read(files[i])
		readers.Give(r)
		if errs[i] == nil {
			kept.keep(files[i].name, stamp, texts[i])
		}
	})
	return texts, errs
}
