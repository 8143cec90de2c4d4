package capture

import (
	"bytes"
	"compress/zlib"
	"errors"
	"fmt"
	"io"
	"path/filepath"
	"strings"

	"github.com/andybalholm/brotli"
	"github.com/klauspost/compress/flate"
	"github.com/klauspost/compress/gzip"
	"github.com/klauspost/compress/zstd"

	"vetta/internal/wire"
)

// Compressions by the name of their content coding (RFC 9110 section 8.4.1, RFC 7932, RFC 8878).
const (
	codingGzip    = "gzip"
	codingDeflate = "deflate"
	codingBrotli  = "br"
	codingZstd    = "zstd"
)

// Bounds of what is expanded: text of an API shrinks to a tenth, logs of it to a fiftieth at best.
const (
	mostRatio  = 300      // how many times as large as what it is made of
	anyway     = 64 << 20 // up to this size any ratio will do
	mostWindow = 32 << 20 // bytes that a decompressor may look back
	mostBody   = 1 << 30  // of one document, and of one body that is expanded in memory
)

// boundError says that something is larger than it may be.
type boundError struct{ reason string }

func (e *boundError) Error() string { return e.reason }

// compressionOf is how data is compressed, by its first bytes or by the content coding that it is said
// to have; "" where it is not, or no more.
func compressionOf(coding string, data []byte) string {
	switch look(data[:min(len(data), 512)]) {
	case isGzip:
		return codingGzip
	case isZstandard:
		return codingZstd
	case isJSONText, isHAR, isHTTP, isBlank, isPage, isMarkup:
		return ""
	}
	switch coding {
	case codingBrotli, codingDeflate:
		return coding
	}
	return ""
}

// expander makes a reader of what a compressed stream holds. Its Close frees what it has taken.
func expander(coding string, in io.Reader) (io.ReadCloser, error) {
	switch coding {
	case codingGzip:
		return gzip.NewReader(in)
	case codingBrotli:
		return io.NopCloser(brotli.NewReader(in)), nil
	case codingZstd:
		d, err := zstd.NewReader(in, zstd.WithDecoderConcurrency(1), zstd.WithDecoderLowmem(true), zstd.WithDecoderMaxWindow(mostWindow))
		if err != nil {
			return nil, err
		}
		return d.IOReadCloser(), nil
	case codingDeflate: // a zlib stream, and what some servers send in its place
		var head [2]byte
		n, _ := io.ReadFull(in, head[:])
		in = io.MultiReader(bytes.NewReader(head[:n]), in)
		if n == 2 && head[0]&0x0f == 8 && (int(head[0])<<8|int(head[1]))%31 == 0 { // RFC 1950 section 2.2
			return zlib.NewReader(in)
		}
		return flate.NewReader(in), nil
	}
	return nil, fmt.Errorf("no coding %s is known", coding)
}

// bounded is a stream that is expanded, held to a ratio of what it is made of.
type bounded struct {
	io.Reader
	from     *counted
	expanded int64
}

// counted counts what is read of a stream.
type counted struct {
	io.Reader
	read int64
}

func (c *counted) Read(buf []byte) (n int, err error) {
	n, err = c.Reader.Read(buf)
	c.read += int64(n)
	return n, err
}

func (b *bounded) Read(buf []byte) (n int, err error) {
	n, err = b.Reader.Read(buf)
	b.expanded += int64(n)
	if b.expanded > anyway && b.expanded > mostRatio*max(b.from.read, 1) {
		return n, &boundError{fmt.Sprintf("it expands to more than %d times its size, which no responses do: it is read up to %d MB", mostRatio, b.expanded>>20)}
	}
	return n, err
}

// open makes a bounded reader of what a compressed stream holds.
func open(coding string, in io.Reader) (io.ReadCloser, error) {
	from := &counted{Reader: in}
	out, err := expander(coding, from)
	if err != nil {
		return nil, err
	}
	return struct {
		io.Reader
		io.Closer
	}{&bounded{Reader: out, from: from}, out}, nil
}

// expand is what compressed data holds. Its error goes on behind "the body".
func expand(coding string, data []byte) ([]byte, error) {
	r, err := open(coding, bytes.NewReader(data))
	if err == nil {
		defer r.Close()
		data, err = io.ReadAll(io.LimitReader(r, mostBody+1))
	}
	var tooMuch *boundError
	switch {
	case err == nil && len(data) > mostBody:
		return nil, fmt.Errorf("is larger than %d MB when it is expanded", mostBody>>20)
	case err == nil:
		return data, nil
	case errors.As(err, &tooMuch):
		return nil, fmt.Errorf("is too large: %w", err)
	case len(data) > 0 && wire.SkipSpace(data, 0) < len(data) && r != nil:
		return data, nil // up to where it breaks off, which its JSON will tell
	}
	return nil, fmt.Errorf("is said to be compressed (%s), and cannot be expanded: %w", coding, err)
}

// codingOfName is the compression that the ending of a file tells, of which its bytes do not: brotli has
// no mark.
func codingOfName(path string) string {
	if strings.EqualFold(filepath.Ext(path), ".br") {
		return codingBrotli
	}
	return ""
}
