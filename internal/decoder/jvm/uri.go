package jvm

import (
	"fmt"
	"strings"
)

// protocols are those that java.net.URL has a handler for.
var protocols = map[string]bool{"http": true, "https": true, "file": true, "ftp": true, "jar": true, "mailto": true, "jmod": true, "jrt": true}

// ParseURL is new URL(s); problem is the message of its MalformedURLException, "" where
// it takes the text.
func ParseURL(s string) (problem string) {
	body := Trim(s)
	if len(body) > 4 && strings.EqualFold(body[:4], "url:") {
		body = body[4:]
	}
	end := strings.IndexAny(body, ":/")
	if end <= 0 || body[end] != ':' || strings.HasPrefix(body, "#") || !isProtocol(body[:end]) {
		return "no protocol: " + s
	}
	if protocol := strings.ToLower(body[:end]); !protocols[protocol] {
		return "unknown protocol: " + protocol
	}
	return ""
}

func isProtocol(s string) bool {
	for i, c := range s {
		letter := c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z'
		if !letter && (i == 0 || !(c >= '0' && c <= '9' || c == '.' || c == '+' || c == '-')) {
			return false
		}
	}
	return s != ""
}

// ParseURI is new URI(s), which holds to RFC 2396 with the additions that java.net.URI
// documents: other characters above ASCII may stand where escaped ones may. problem is
// the message of its URISyntaxException, "" where it takes the text.
func ParseURI(s string) (problem string) {
	illegal := func(part string, at int) string {
		return fmt.Sprintf("Illegal character in %s at index %d: %s", part, at, s)
	}
	rest, from := s, 0
	opaque := false
	if end := strings.IndexAny(s, ":/?#"); end >= 0 && s[end] == ':' {
		if end == 0 {
			return "Expected scheme name at index 0: " + s
		}
		for i := range end {
			if !isProtocol(s[:i+1]) {
				return illegal("scheme name", i)
			}
		}
		rest, from = s[end+1:], end+1
		if rest == "" {
			return fmt.Sprintf("Expected scheme-specific part at index %d: %s", from, s)
		}
		opaque = rest[0] != '/'
	}
	part := "path"
	if opaque {
		part = "opaque part"
	} else if strings.HasPrefix(rest, "//") {
		part = "authority"
		rest, from = rest[2:], from+2
		if rest == "" {
			return fmt.Sprintf("Expected authority at index %d: %s", from, s)
		}
	}
	for i := 0; i < len(rest); i++ {
		c := rest[i]
		switch {
		case c == '#' && part != "fragment":
			part = "fragment"
		case c == '?' && part != "fragment" && !opaque:
			part = "query"
		case c == '/' && part == "authority":
			part = "path"
		case c == '%':
			if i+2 >= len(rest) || !isHex(rest[i+1]) || !isHex(rest[i+2]) {
				return fmt.Sprintf("Malformed escape pair at index %d: %s", from+i, s)
			}
		case c == '[' || c == ']':
			if part == "path" {
				return illegal(part, from+i)
			}
		case c <= ' ' || c == 0x7F || strings.IndexByte("\"<>\\^`{|}", c) >= 0 || c == '#':
			return illegal(part, from+i)
		}
	}
	return ""
}

func isHex(c byte) bool { return c >= '0' && c <= '9' || c|0x20 >= 'a' && c|0x20 <= 'f' }

// ParseUUID is UUID.fromString, and the text of the result: five hexadecimal numbers
// with dashes between them, of which the leading zeros may be missing.
func ParseUUID(s string) (string, bool) {
	parts := strings.Split(s, "-")
	if len(parts) != 5 || len(s) > 36 {
		return "", false
	}
	out := make([]string, 5)
	for i, size := range []int{8, 4, 4, 4, 12} {
		p := parts[i]
		for k := range len(p) {
			if !isHex(p[k]) {
				return "", false
			}
		}
		if p == "" {
			return "", false
		}
		p = strings.ToLower(p)
		if len(p) > size {
			p = p[len(p)-size:]
		}
		out[i] = strings.Repeat("0", size-len(p)) + p
	}
	return strings.Join(out, "-"), true
}
