package capture

import (
	"bytes"
	"io"
	"strings"

	"vetta/internal/traffic"
	"vetta/internal/wire"
)

// content is what bytes are, as their beginning tells.
type content uint8

const (
	isOther content = iota // no kind of capture; its name may tell more
	isBlank
	isJSONText
	isHAR
	isHTTP
	isGzip
	isZstandard
	isZip
	isTar
	isWide // UTF-16 or UTF-32
	isPage
	isMarkup // XML
	isPicture
)

// marks are bytes that files begin with: RFC 1952 section 2.3.1, RFC 8878 section 3.1.1, the ZIP
// application note sections 4.3.7 and 4.3.16, and pictures.
var marks = []struct {
	bytes string
	is    content
}{
	{"\x1f\x8b", isGzip},
	{"\x28\xb5\x2f\xfd", isZstandard},
	{"PK\x03\x04", isZip}, {"PK\x05\x06", isZip},
	{"\x89PNG\r\n", isPicture}, {"\xff\xd8\xff", isPicture}, {"GIF8", isPicture}, {"RIFF", isPicture}, {"\x00\x00\x01\x00", isPicture},
}

// tarMark is where a tar file says what it is (POSIX.1-2001, ustar interchange format).
const (
	tarMark   = "ustar"
	tarMarkAt = 257
)

// look says what bytes are by their beginning.
func look(head []byte) content {
	if len(head) > 1 && (head[0] == '{' || head[0] == '[') && head[1] != 0 { // most are
		if head[0] == '{' && isArchive(head) {
			return isHAR
		}
		return isJSONText
	}
	for _, m := range marks {
		if bytes.HasPrefix(head, []byte(m.bytes)) {
			return m.is
		}
	}
	if len(head) > tarMarkAt && bytes.HasPrefix(head[tarMarkAt:], []byte(tarMark)) {
		return isTar
	}
	if wideOf(head) != nil {
		return isWide
	}
	head = bytes.TrimPrefix(head, bom)
	start := wire.SkipSpace(head, 0)
	if start == len(head) {
		return isBlank
	}
	text := head[start:]
	switch {
	case startsMessage(text):
		return isHTTP
	case text[0] == '{' && isArchive(text):
		return isHAR
	case text[0] == recordSeparator, protection(text) > 0, strings.IndexByte(`{["-0123456789tfn`, text[0]) >= 0 && startsValue(text):
		return isJSONText
	case text[0] == '<':
		return pageOrXML(text)
	case nextMessage(text[:min(len(text), 64<<10)], 0) >= 0: // with something before it
		return isHTTP
	}
	return isOther
}

// startsValue says whether a text begins as a JSON value does, so that what is wrong with it further
// on is a fault of the document and not of another kind of text.
func startsValue(text []byte) bool {
	var r wire.Reader
	r.Reset(text[:min(len(text), 4096)], 0)
	ev, err := r.Next()
	if err == nil && (ev.Kind == wire.BeginObject || ev.Kind == wire.BeginArray) {
		_, err = r.Next()
	}
	syntax, ok := err.(*wire.SyntaxError)
	return err == nil || ok && syntax.Truncated || text[0] == '{' || text[0] == '['
}

// pageOrXML tells a web page from XML.
func pageOrXML(text []byte) content {
	head := strings.ToLower(string(text[:min(len(text), 1024)]))
	switch {
	case strings.HasPrefix(head, "<?xml") && !strings.Contains(head, "<html"):
		return isMarkup
	case strings.HasPrefix(head, "<!doctype html"), strings.Contains(head, "<html"), strings.Contains(head, "<head"), strings.Contains(head, "<body"):
		return isPage
	}
	return isMarkup
}

// protection is the length of what some servers put before JSON so that no page can load it as a
// script, 0 for none: a line such as )]}' or an endless loop.
func protection(text []byte) int {
	if bytes.HasPrefix(text, []byte(")]}'")) {
		if end := bytes.IndexByte(text[:min(len(text), 64)], '\n'); end >= 0 {
			return end + 1
		}
		return len(")]}'")
	}
	for _, loop := range []string{"while(1);", "while (1);", "for(;;);", "for (;;);", "{}&&", "{} &&"} {
		if bytes.HasPrefix(text, []byte(loop)) {
			return len(loop)
		}
	}
	return 0
}

// name is what the content of a file or body is called.
func (c content) name() string {
	switch c {
	case isBlank:
		return traffic.Empty
	case isPage:
		return traffic.WebPage
	case isMarkup:
		return traffic.XML
	case isPicture:
		return traffic.Image
	case isGzip, isZstandard, isZip, isTar:
		return traffic.Other
	}
	return traffic.PlainText
}

// isBinary says whether bytes are no text.
func isBinary(data []byte) bool {
	return bytes.IndexByte(data[:min(len(data), 1024)], 0) >= 0
}

// Looks says whether a file holds what a capture may, by its first bytes.
func Looks(path string) bool {
	in, _, err := openRegular(path)
	if err != nil {
		return false
	}
	defer in.Close()
	head := make([]byte, 64<<10)
	n, _ := io.ReadFull(in, head)
	switch look(head[:n]) {
	case isHAR, isHTTP, isGzip, isZstandard, isZip, isTar, isWide:
		return true
	case isJSONText:
		return bytes.IndexByte([]byte("{[)w"), head[wire.SkipSpace(head[:n], 0)]) >= 0
	}
	return false
}
