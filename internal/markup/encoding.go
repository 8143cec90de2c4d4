package markup

import (
	"bytes"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/htmlindex"
	"golang.org/x/text/encoding/ianaindex"
	"golang.org/x/text/encoding/unicode"
	"golang.org/x/text/encoding/unicode/utf32"
)

// marks are the byte order marks, and how a document begins that has none (XML 1.0, appendix F). The longer ones come
// first.
var marks = []struct {
	bytes string
	is    func() encoding.Encoding
}{
	{"\x00\x00\xfe\xff", func() encoding.Encoding { return utf32.UTF32(utf32.BigEndian, utf32.UseBOM) }},
	{"\xff\xfe\x00\x00", func() encoding.Encoding { return utf32.UTF32(utf32.LittleEndian, utf32.UseBOM) }},
	{"\xfe\xff", func() encoding.Encoding { return unicode.UTF16(unicode.BigEndian, unicode.UseBOM) }},
	{"\xff\xfe", func() encoding.Encoding { return unicode.UTF16(unicode.LittleEndian, unicode.UseBOM) }},
	{"\x00\x00\x00<", func() encoding.Encoding { return utf32.UTF32(utf32.BigEndian, utf32.IgnoreBOM) }},
	{"<\x00\x00\x00", func() encoding.Encoding { return utf32.UTF32(utf32.LittleEndian, utf32.IgnoreBOM) }},
	{"\x00<\x00?", func() encoding.Encoding { return unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM) }},
	{"<\x00?\x00", func() encoding.Encoding { return unicode.UTF16(unicode.LittleEndian, unicode.IgnoreBOM) }},
}

// Decode makes UTF-8 of a document in whatever encoding its first bytes, the charset that it came with ("" for none
// told, as of a file) or its declaration tell; what is UTF-8 already is answered as it is. The error is an *Error.
func Decode(data []byte, charset string) ([]byte, error) {
	if bytes.HasPrefix(data, []byte("\ufeff")) {
		data = data[len("\ufeff"):]
		return data, disagrees(Declared(data), "UTF-8", "utf-8", "utf8", "")
	}
	for _, m := range marks {
		if !bytes.HasPrefix(data, []byte(m.bytes)) {
			continue
		}
		out, err := decoded(data, m.is(), "UTF-16 or UTF-32")
		if err == nil {
			err = disagrees(Declared(out), "UTF-16 or UTF-32", append(wide, "")...)
		}
		return out, err
	}
	told := charset != ""
	if !told {
		charset = Declared(data)
	}
	switch name := strings.ToLower(charset); {
	case name == "", name == "utf-8", name == "utf8", name == "us-ascii", name == "ascii":
		return data, nil
	case slices.Contains(wide, name) && !told:
		return nil, disagrees(charset, "text of one byte a character")
	case slices.Contains(wide, name):
		return data, nil
	}
	if utf8.Valid(data) && isASCII(data) {
		return data, nil
	}
	e, err := ianaindex.IANA.Encoding(charset)
	if err != nil || e == nil {
		e, err = htmlindex.Get(charset)
	}
	if err != nil || e == nil {
		return nil, &Error{Reason: fmt.Sprintf("the encoding %q is not known", charset)}
	}
	return decoded(data, e, charset)
}

// wide are the names of encodings that are not ASCII where ASCII is.
var wide = []string{"utf-16", "utf-16le", "utf-16be", "utf-32", "utf-32le", "utf-32be", "ucs-2", "iso-10646-ucs-2", "ucs-4", "iso-10646-ucs-4"}

// disagrees is the error for a declaration that names another encoding than the bytes are in, nil where it names one of
// those (XML 1.0 section 4.3.3).
func disagrees(declared, is string, admitted ...string) error {
	if slices.Contains(admitted, strings.ToLower(declared)) {
		return nil
	}
	return &Error{Reason: fmt.Sprintf("its declaration says %s, and it is %s", declared, is)}
}

func isASCII(data []byte) bool {
	for _, c := range data {
		if c >= utf8.RuneSelf {
			return false
		}
	}
	return true
}

func decoded(data []byte, e encoding.Encoding, name string) ([]byte, error) {
	out, err := e.NewDecoder().Bytes(data)
	if err != nil {
		return nil, &Error{Reason: "it is not " + name + ": " + err.Error()}
	}
	return bytes.TrimPrefix(out, []byte("\ufeff")), nil
}

// Declared is the encoding that the declaration of a document in ASCII names, "" for none.
func Declared(data []byte) string {
	if !bytes.HasPrefix(data, []byte("<?xml")) {
		return ""
	}
	end := bytes.Index(data[:min(len(data), 256)], []byte("?>"))
	if end < 0 {
		return ""
	}
	_, rest, ok := strings.Cut(string(data[:end]), "encoding")
	if !ok {
		return ""
	}
	rest = strings.TrimLeft(rest, " \t\r\n=")
	if rest == "" || rest[0] != '"' && rest[0] != '\'' {
		return ""
	}
	name, _, _ := strings.Cut(rest[1:], rest[:1])
	return name
}
