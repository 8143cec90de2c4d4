package jvm

import (
	"encoding/base64"
	"encoding/json"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/wire"
)

// Any is a value as libraries give it where nothing is declared: number says what a
// number becomes.
func Any(v *wire.Value, number func(raw string) decoder.Seen) decoder.Seen {
	switch v.Kind {
	case wire.Bool:
		return decoder.Bool(v.True())
	case wire.Number:
		return number(string(v.Raw))
	case wire.String:
		return decoder.Seen{Kind: decoder.SeenString, Text: Text(v)}
	case wire.Array:
		out := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
		for _, e := range v.Elems {
			out.Elems = append(out.Elems, Any(e, number))
		}
		return out
	case wire.Object:
		out := decoder.Seen{Kind: decoder.SeenMap, Elems: []decoder.Seen{}}
		for _, m := range v.Members {
			value := Any(m.Value, number)
			known := false
			for i, name := range out.Names {
				if name == m.Name {
					out.Elems[i], known = value, true
				}
			}
			if !known {
				out.Names, out.Elems = append(out.Names, m.Name), append(out.Elems, value)
			}
		}
		return out
	}
	return decoder.Seen{}
}

// StringValue is a text as a string value, for a reader of strings to read.
func StringValue(text string) *wire.Value {
	raw, err := json.Marshal(text)
	if err != nil {
		raw = []byte(`""`)
	}
	return &wire.Value{Kind: wire.String, Raw: raw}
}

// Base64 decodes text with its padding (RFC 4648 section 4).
func Base64(text string) (string, bool) {
	data, err := base64.StdEncoding.DecodeString(text)
	return string(data), err == nil && !strings.ContainsAny(text, "\r\n")
}

// Sample is some value of a kind, for messages about values of that kind.
func Sample(kind wire.Kind) *wire.Value {
	return &wire.Value{Kind: kind, Raw: []byte(map[wire.Kind]string{wire.Bool: "true", wire.Number: "1", wire.String: `"…"`, wire.Null: "null"}[kind])}
}
