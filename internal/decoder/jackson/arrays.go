package jackson

import (
	"strings"
	"unicode/utf16"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// bytes is PrimitiveArrayDeserializers.ByteDeser: base64, or numbers.
func (c *compiler) bytes(t *model.Type) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpList, Inner: mapErrors(c.elements(c.value(t.Args[0], format{}), "byte"), func(v *wire.Value, err *decoder.Error) *decoder.Error {
		if v.Kind != wire.String { // what a text cannot be is said of the array
			return err
		}
		own := *err
		own.Message = strings.Replace(err.Message, "`byte`", "`byte[]`", 1)
		return &own
	}), Bytes: true}
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

// boxedBytes is the node for a text where Byte[] is declared: base64 too, of which nobody
// makes bytes.
func boxedBytes() *decoder.Node {
	return &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		s, _ := v.Text()
		if s == "" {
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}}
		}
		_, err := base64Of(s)
		switch {
		case err == nil:
		case strings.Contains(err.Message, unpadded):
			err = fault("JsonMappingException", decoder.ReasonText, "%s", unpadded)
		case strings.Contains(err.Message, unended): // nobody looks for its end here
			err = fault("JsonMappingException", decoder.ReasonText, `Failed to decode VALUE_STRING as base64 (MIME-NO-LINEFEEDS): Illegal character '"' (code 0x22) in base64 content`)
		}
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}, Err: err}
	}}
}

// characters is PrimitiveArrayDeserializers.CharDeser: a text is its characters, and so is
// a list of texts of one character each.
func characters(n *decoder.Node) {
	inner := n.Inner
	n.Inner = &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Type: "char", Read: func(v *wire.Value) decoder.Verdict {
		switch {
		case v.Kind == wire.String:
			text := jvm.Text(v)
			if units := len(utf16.Encode([]rune(text))); units != 1 {
				return decoder.Verdict{Err: fault("MismatchedInputException", decoder.ReasonText, "Cannot convert a JSON String of length %d into a char element of char array", units)}
			}
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: text, Type: "char"}}
		case v.Kind == wire.Null && inner.Op == decoder.OpLeaf:
			return inner.Read(v)
		}
		return decoder.Verdict{Err: mismatched("char", v)}
	}}
	n.Second = &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
		out := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
		for _, c := range jvm.Text(v) {
			out.Elems = append(out.Elems, decoder.Seen{Kind: decoder.SeenString, Text: string(c), Type: "char"})
		}
		return decoder.Verdict{Seen: out}
	}}
}

// elements is the node for the elements of an array of primitives: what they may not be
// converted to is the array's element, not the primitive (PrimitiveArrayDeserializers).
func (c *compiler) elements(n *decoder.Node, primitive string) *decoder.Node {
	return mapErrors(n, func(v *wire.Value, err *decoder.Error) *decoder.Error {
		if v.Kind == wire.Null && c.on("FAIL_ON_NULL_FOR_PRIMITIVES") {
			return fault("MismatchedInputException", decoder.ReasonNull, "Cannot coerce `null` to element of `%s[]` (disable `DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES` to allow)", primitive)
		}
		if !strings.Contains(err.Message, ": Cannot coerce ") {
			return err
		}
		own := *err
		own.Message = strings.Replace(err.Message, "`"+primitive+"` value (", "element of `"+primitive+"[]` (", 1)
		return &own
	})
}

// mapErrors is a node of a scalar with other errors.
func mapErrors(n *decoder.Node, other func(*wire.Value, *decoder.Error) *decoder.Error) *decoder.Node {
	out := *n
	switch n.Op {
	case decoder.OpNil:
		out.Inner = mapErrors(n.Inner, other)
	case decoder.OpLeaf:
		out.Read = func(v *wire.Value) decoder.Verdict {
			verdict := n.Read(v)
			if verdict.Err != nil {
				verdict.Err = other(v, verdict.Err)
			}
			return verdict
		}
	}
	return &out
}

// unpadded is what is said of base64 that ends without the padding it needs.
const unpadded = "Unexpected end of base64-encoded String: base64 variant 'MIME-NO-LINEFEEDS' expects padding (one or more '=' characters) at the end. This Base64Variant might have been incorrectly configured"

// unended is what is said of base64 of which one character is left.
const unended = "Unexpected end-of-input: was expecting closing quote for a string value"

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
			return "", fault("JsonMappingException", decoder.ReasonText, unended)
		}
		if len(rest) < 4 {
			return "", weird("byte[]", "", unpadded, decoder.ReasonText)
		}
		plain.WriteString(rest[:4])
		rest = rest[4:]
	}
	data, ok := jvm.Base64(plain.String())
	if !ok {
		return "", bad
	}
	return data, nil
}
