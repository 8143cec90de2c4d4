package capture

import (
	"bytes"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/unicode"
	"golang.org/x/text/encoding/unicode/utf32"
)

// wideOf is the encoding of text that is not in UTF-8: UTF-16 or UTF-32 by its byte order mark, or by
// where zeros stand among the first characters, which are ASCII in JSON (RFC 4627 section 3). It is
// nil for none.
func wideOf(head []byte) encoding.Encoding {
	switch {
	case bytes.HasPrefix(head, []byte{0xFF, 0xFE, 0, 0}):
		return utf32.UTF32(utf32.LittleEndian, utf32.ExpectBOM)
	case bytes.HasPrefix(head, []byte{0, 0, 0xFE, 0xFF}):
		return utf32.UTF32(utf32.BigEndian, utf32.ExpectBOM)
	case bytes.HasPrefix(head, []byte{0xFF, 0xFE}):
		return unicode.UTF16(unicode.LittleEndian, unicode.ExpectBOM)
	case bytes.HasPrefix(head, []byte{0xFE, 0xFF}):
		return unicode.UTF16(unicode.BigEndian, unicode.ExpectBOM)
	case len(head) < 4:
		return nil
	}
	zeros := [4]bool{head[0] == 0, head[1] == 0, head[2] == 0, head[3] == 0}
	switch zeros {
	case [4]bool{false, true, true, true}:
		return utf32.UTF32(utf32.LittleEndian, utf32.IgnoreBOM)
	case [4]bool{true, true, true, false}:
		return utf32.UTF32(utf32.BigEndian, utf32.IgnoreBOM)
	case [4]bool{false, true, false, true}:
		return unicode.UTF16(unicode.LittleEndian, unicode.IgnoreBOM)
	case [4]bool{true, false, true, false}:
		return unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM)
	}
	return nil
}
