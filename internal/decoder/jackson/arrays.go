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
		data, bad := base64Of(s)
		if bad != nil {
			return decoder.Verdict{Err: bad.ofBytes(v.Behind())}
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
		if _, bad := base64Of(s); bad != nil {
			return decoder.Verdict{Err: fault("JsonMappingException", decoder.ReasonText, "%s", bad.message)}
		}
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
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
