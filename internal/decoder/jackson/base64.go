package jackson

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"strings"
	"unicode"
	"unicode/utf16"

	"vetta/internal/decoder"
)

// notBase64 is why a text is no base64.
type notBase64 struct {
	message string
	rest    string // what of the text is not read yet
	ended   bool   // the quote at its end is read, so that what comes behind is taken for more of it
}

// ofBytes is the error where byte[] is declared: it names what the parser has not read yet
// (PrimitiveArrayDeserializers.ByteDeser of 2.14 asks it for its text). behind is what stands
// behind the text in the document.
func (b *notBase64) ofBytes(behind []byte) *decoder.Error {
	if b.ended {
		if end := bytes.IndexByte(behind, '"'); end >= 0 {
			return weird("byte[]", string(behind[:end]), b.message, decoder.ReasonText)
		}
		return fault("JsonMappingException", decoder.ReasonText, "Unexpected end-of-input: was expecting closing quote for a string value")
	}
	return weird("byte[]", b.rest, b.message, decoder.ReasonText)
}

// base64Of decodes as ReaderBasedJsonParser._decodeBase64 of 2.14 does by
// Base64Variants.MIME_NO_LINEFEEDS: four characters at a time, with white space between such
// units, the last of which may be padded, and so may any before it.
func base64Of(s string) (string, *notBase64) {
	var out strings.Builder
	text := utf16.Encode([]rune(s))
	for at := 0; ; {
		for at < len(text) && text[at] <= ' ' {
			at++
		}
		if at == len(text) {
			return out.String(), nil
		}
		unit, padding := make([]byte, 0, 4), 0
		for i := range 4 {
			if at == len(text) {
				if i > 1 && padding == 0 {
					return "", &notBase64{message: "Unexpected end of base64-encoded String: base64 variant 'MIME-NO-LINEFEEDS' expects padding (one or more '=' characters) at the end. This Base64Variant might have been incorrectly configured"}
				}
				return "", &notBase64{message: illegal('"', i), ended: true}
			}
			c := text[at]
			at++
			switch {
			case padding == 0 && c < unicode.MaxASCII && isBase64(byte(c)):
				unit = append(unit, byte(c))
			case c == '=' && i >= 2:
				padding++
			default:
				return "", &notBase64{message: illegal(c, i), rest: string(utf16.Decode(text[at:]))}
			}
		}
		data, _ := base64.RawStdEncoding.DecodeString(string(unit)) // bits that are left over are not looked at
		out.Write(data)
	}
}

func isBase64(c byte) bool {
	return c >= '0' && c <= '9' || c|0x20 >= 'a' && c|0x20 <= 'z' || c == '+' || c == '/'
}

// illegal is what is said of a character that may not stand at a place of a unit
// (ParserBase.reportInvalidBase64Char).
func illegal(c uint16, at int) string {
	detail := ""
	switch {
	case c <= ' ':
		detail = fmt.Sprintf("Illegal white space character (code 0x%x) as character #%d of 4-char base64 unit: can only used between units", c, at+1)
	case c == '=':
		detail = fmt.Sprintf("Unexpected padding character ('=') as character #%d of 4-char base64 unit: padding only legal as 3rd or 4th character", at+1)
	case unicode.IsControl(rune(c)):
		detail = fmt.Sprintf("Illegal character (code 0x%x) in base64 content", c)
	default:
		detail = fmt.Sprintf("Illegal character '%c' (code 0x%x) in base64 content", c, c)
	}
	return "Failed to decode VALUE_STRING as base64 (MIME-NO-LINEFEEDS): " + detail
}
