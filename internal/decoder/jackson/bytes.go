package jackson

import (
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// bytes is PrimitiveArrayDeserializers.ByteDeser: base64, or numbers.
func (c *compiler) bytes(t *model.Type) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpList, Inner: c.value(t.Args[0], format{}), Bytes: true}
	n.Second = &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		s, _ := v.Text()
		data, err := base64Of(s)
		if err != nil {
			return decoder.Verdict{Err: err}
		}
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenBytes, Text: data}}
	}}
	return wrongAs(n, func(v *wire.Value) *decoder.Error { return mismatched("[B", v) })
}

// base64Of decodes as Base64Variants.MIME_NO_LINEFEEDS does: four characters at a time,
// with white space between them and padding at the end.
func base64Of(s string) (string, *decoder.Error) {
	bad := weird("byte[]", s, "Failed to decode VALUE_STRING as base64 (MIME-NO-LINEFEEDS)", decoder.ReasonText)
	var plain strings.Builder
	rest := s
	for {
		if rest = strings.TrimLeftFunc(rest, func(r rune) bool { return r <= ' ' }); rest == "" {
			break
		}
		for i := range min(4, len(rest)) {
			c := rest[i]
			digit := c >= '0' && c <= '9' || c|0x20 >= 'a' && c|0x20 <= 'z' || c == '+' || c == '/'
			if !digit && !(c == '=' && i >= 2) {
				return "", bad
			}
		}
		if len(rest) == 1 {
			return "", fault("JsonMappingException", decoder.ReasonText, "Unexpected end-of-input: was expecting closing quote for a string value")
		}
		plain.WriteString(rest[:min(4, len(rest))])
		rest = rest[min(4, len(rest)):]
	}
	data, ok := jvm.Base64(plain.String())
	if !ok {
		return "", bad
	}
	return data, nil
}
