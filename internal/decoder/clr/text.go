package clr

import (
	"encoding/base64"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/wire"
)

// String is a text as the app sees it.
func String(text string) decoder.Seen { return decoder.Seen{Kind: decoder.SeenString, Text: text} }

// Guid reads the form with hyphens, 8-4-4-4-12 hexadecimal digits, and answers it in small letters.
func Guid(text string) (decoder.Seen, bool) {
	if len(text) != 36 {
		return decoder.Seen{}, false
	}
	for i := range len(text) {
		c := text[i]
		if i == 8 || i == 13 || i == 18 || i == 23 {
			if c != '-' {
				return decoder.Seen{}, false
			}
			continue
		}
		if strings.IndexByte("0123456789abcdefABCDEF", c) < 0 {
			return decoder.Seen{}, false
		}
	}
	return String(strings.ToLower(text)), true
}

// Version reads two to four numbers with points between them.
func Version(text string) (decoder.Seen, bool) {
	parts := strings.Split(text, ".")
	if len(parts) < 2 || len(parts) > 4 {
		return decoder.Seen{}, false
	}
	for i, p := range parts {
		n, err := strconv.ParseUint(p, 10, 31)
		if err != nil || strings.HasPrefix(p, "+") {
			return decoder.Seen{}, false
		}
		parts[i] = strconv.FormatUint(n, 10)
	}
	return String(strings.Join(parts, ".")), true
}

// Base64 reads bytes, padded.
func Base64(text string) (decoder.Seen, bool) {
	data, err := base64.StdEncoding.Strict().DecodeString(text)
	if err != nil || strings.ContainsAny(text, "\r\n") {
		return decoder.Seen{}, false
	}
	return decoder.Seen{Kind: decoder.SeenBytes, Text: string(data)}, true
}

// Any is a value as it was sent: a JSON element or node.
func Any(v *wire.Value) decoder.Seen {
	switch v.Kind {
	case wire.Bool:
		return decoder.Bool(v.True())
	case wire.Number:
		return decoder.Seen{Kind: decoder.SeenDecimal, Text: string(v.Raw)}
	case wire.String:
		text, _ := v.Text()
		return String(text)
	case wire.Array:
		out := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
		for _, e := range v.Elems {
			out.Elems = append(out.Elems, Any(e))
		}
		return out
	case wire.Object:
		out := decoder.Seen{Kind: decoder.SeenMap, Names: []string{}, Elems: []decoder.Seen{}}
		for _, m := range v.Members {
			Put(&out, m.Name, Any(m.Value))
		}
		return out
	}
	return decoder.Seen{}
}

// Put puts a value under a name of a map, the last of equal names.
func Put(m *decoder.Seen, name string, v decoder.Seen) {
	for i, n := range m.Names {
		if n == name {
			m.Elems[i] = v
			return
		}
	}
	m.Names, m.Elems = append(m.Names, name), append(m.Elems, v)
}

// Uri reads an address, absolute or relative (Uri.TryCreate with RelativeOrAbsolute); it is shown as it was written.
// What makes an address malformed that has a scheme is known only for the commonest faults.
func Uri(text string) (decoder.Seen, bool) {
	scheme, rest, ok := strings.Cut(text, "://")
	if ok && isScheme(scheme) {
		host, _, _ := strings.Cut(rest, "/")
		if host == "" && scheme != "file" {
			return decoder.Seen{}, false
		}
	}
	return String(text), true
}

func isScheme(text string) bool {
	for i := range len(text) {
		c := text[i]
		if !(c|0x20 >= 'a' && c|0x20 <= 'z' || i > 0 && (c >= '0' && c <= '9' || c == '+' || c == '-' || c == '.')) {
			return false
		}
	}
	return text != ""
}

// LooseGuid is Guid of any form that Guid.Parse takes.
func LooseGuid(text string) (decoder.Seen, bool) {
	text = strings.TrimSpace(text)
	if len(text) > 2 && (text[0] == '{' && text[len(text)-1] == '}' || text[0] == '(' && text[len(text)-1] == ')') {
		text = text[1 : len(text)-1]
	} else if len(text) == 32 {
		text = text[:8] + "-" + text[8:12] + "-" + text[12:16] + "-" + text[16:20] + "-" + text[20:]
	}
	return Guid(text)
}
