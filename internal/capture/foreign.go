package capture

import (
	"bytes"
	"strings"
)

// foreign names what a capture holds in place of JSON, where its first bytes tell; "" where they do not.
func foreign(data []byte) string {
	head := data[:min(len(data), 1024)]
	switch {
	case bytes.HasPrefix(head, []byte{0xFF, 0xFE}), bytes.HasPrefix(head, []byte{0xFE, 0xFF}), len(head) > 3 && (head[0] == 0) != (head[1] == 0) && bytes.Count(head, []byte{0}) >= len(head)/3:
		return "it is text in UTF-16, not in UTF-8 as RFC 8259 asks of JSON: convert it"
	}
	text := strings.ToLower(strings.TrimSpace(string(head)))
	switch {
	case strings.HasPrefix(text, "<!doctype html"), strings.HasPrefix(text, "<html"):
		return "it is an HTML page, not JSON: an error or a login page, perhaps"
	case strings.HasPrefix(text, "<?xml"):
		return "it is an XML document, not JSON"
	}
	return ""
}
