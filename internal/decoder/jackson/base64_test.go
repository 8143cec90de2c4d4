package jackson

import "testing"

// TestBase64Texts: texts where byte[] and Byte[] are declared, by what the parser of Jackson 2.14 says of
// each (internal/trial/testdata/measured/v-base64).
func TestBase64Texts(t *testing.T) {
	const illegal = "Failed to decode VALUE_STRING as base64 (MIME-NO-LINEFEEDS): "
	const ended = "Unexpected end-of-input: was expecting closing quote for a string value"
	const unpadded = "Unexpected end of base64-encoded String: base64 variant 'MIME-NO-LINEFEEDS' expects padding (one or more '=' characters) at the end. This Base64Variant might have been incorrectly configured"
	weird := func(rest, detail string) string {
		return "InvalidFormatException: Cannot deserialize value of type `byte[]` from String \"" + rest + "\": " + detail
	}
	for _, c := range []struct {
		name, text string
		bytes      string // what they are, or the error where byte[] is declared
		boxed      string // the error where Byte[] is, "" for none
	}{
		{"whole units", "aGVsbG8h", "hello!", ""},
		{"one mark of padding", "aGVsbG8=", "hello", ""},
		{"two marks of padding", "aGVsbA==", "hell", ""},
		{"nothing", "", "", ""},
		{"white space alone", " \t ", "", ""},
		{"white space between units", "aGVs bG8h", "hello!", ""},
		{"a line break between units", "aGVs\r\nbG8h", "hello!", ""},
		{"a unit behind a padded one", "aGk=aGk=", "hihi", ""},
		{"bits that are left over", "aGl=", "hi", ""},
		{
			"white space inside a unit", "aG VsbG8=",
			weird("VsbG8=", illegal+"Illegal white space character (code 0x20) as character #3 of 4-char base64 unit: can only used between units"),
			illegal + "Illegal white space character (code 0x20) as character #3 of 4-char base64 unit: can only used between units",
		},
		{
			"a character of another alphabet", "ab-d",
			weird("d", illegal+"Illegal character '-' (code 0x2d) in base64 content"),
			illegal + "Illegal character '-' (code 0x2d) in base64 content",
		},
		{
			"a colon", "09:30",
			weird("30", illegal+"Illegal character ':' (code 0x3a) in base64 content"),
			illegal + "Illegal character ':' (code 0x3a) in base64 content",
		},
		{
			"padding too early", "a=bc",
			weird("bc", illegal+"Unexpected padding character ('=') as character #2 of 4-char base64 unit: padding only legal as 3rd or 4th character"),
			illegal + "Unexpected padding character ('=') as character #2 of 4-char base64 unit: padding only legal as 3rd or 4th character",
		},
		{
			"padding that goes on as no padding", "aG=x",
			weird("", illegal+"Illegal character 'x' (code 0x78) in base64 content"),
			illegal + "Illegal character 'x' (code 0x78) in base64 content",
		},
		{
			"a control character", "ab\x01d",
			weird("d", illegal+"Illegal white space character (code 0x1) as character #3 of 4-char base64 unit: can only used between units"),
			illegal + "Illegal white space character (code 0x1) as character #3 of 4-char base64 unit: can only used between units",
		},
		{
			"a letter beyond ASCII", "éabc",
			weird("abc", illegal+"Illegal character 'é' (code 0xe9) in base64 content"),
			illegal + "Illegal character 'é' (code 0xe9) in base64 content",
		},
		{"no padding", "aGVsbG8", weird("", unpadded), unpadded},
		{"one character is left", "aGVsb", "JsonMappingException: " + ended, illegal + `Illegal character '"' (code 0x22) in base64 content`},
		{"one mark where two are needed", "aG=", "JsonMappingException: " + ended, illegal + `Illegal character '"' (code 0x22) in base64 content`},
	} {
		t.Run(c.name, func(t *testing.T) {
			got, bad := base64Of(c.text)
			boxed := ""
			if bad != nil {
				got, boxed = bad.ofBytes(nil).Message, bad.message
			}
			if got != c.bytes {
				t.Errorf("%q as byte[]\n got %s\nwant %s", c.text, got, c.bytes)
			}
			if boxed != c.boxed {
				t.Errorf("%q as Byte[]\n got %s\nwant %s", c.text, boxed, c.boxed)
			}
		})
	}
}
